// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Catalogue.h"

#include "base/Length.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cassert>
#include <set>

extern const char* const kMatsAndSheetsText;
extern const char* const kDrawerText;
extern const char* const kMachinesText;

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using nlohmann::json;

/// Thrown only inside this file, to leave the depth of a JSON walk; readCatalogue turns it into an Error.
struct BadEntry {
    std::string message;
};

double lengthOf(const json& entry, const char* key) {
    const auto length = base::parseLength(entry.at(key).get<std::string>(), base::LengthUnit::Millimetre);
    if (!length)
        throw BadEntry{length.error().message};
    return length->inMm();
}

template <class Format>
std::vector<Format> formatsOf(const json& list) {
    std::vector<Format> out;
    std::set<std::string> ids;
    for (const json& entry : list) {
        out.push_back({entry.at("id").get<std::string>(), entry.at("name").get<std::string>(),
                       lengthOf(entry, "width"), lengthOf(entry, "height"), lengthOf(entry, "margin")});
        if (!ids.insert(out.back().id).second)
            throw BadEntry{"'" + out.back().id + "' is there twice."};
    }
    return out;
}

design::ToolKind toolOf(const json& word) {
    const auto at = std::find(design::kToolWords.begin(), design::kToolWords.end(), word.get<std::string>());
    if (at == design::kToolWords.end())
        throw BadEntry{"There is no tool called '" + word.get<std::string>() + "'."};
    return design::kToolKinds[static_cast<size_t>(at - design::kToolWords.begin())];
}
std::vector<design::ToolKind> toolsOf(const json& words) {
    std::vector<design::ToolKind> out;
    for (const json& word : words)
        out.push_back(toolOf(word));
    return out;
}

std::vector<design::Machine> machinesOf(const json& in) {
    std::vector<design::Machine> out;
    for (const json& entry : in.at("machines")) {
        design::Machine one;
        one.id = entry.at("id").get<std::string>();
        one.name = entry.at("name").get<std::string>();
        one.usableWidthMm = lengthOf(entry, "width");
        one.longestMm = lengthOf(entry, "longest");
        for (const json& holder : entry.at("holders"))
            one.holders.push_back({toolsOf(holder)});
        one.tools = toolsOf(entry.at("tools"));
        one.doesReadMarks = entry.at("readsMarks").get<bool>();
        if (one.doesReadMarks) {
            const json sides = {{"width", entry.at("print").at(0)}, {"height", entry.at("print").at(1)}};
            one.printWidthMm = lengthOf(sides, "width");
            one.printHeightMm = lengthOf(sides, "height");
        }
        one.leastGf = entry.at("force").at(0).get<double>();
        one.mostGf = entry.at("force").at(1).get<double>();
        out.push_back(std::move(one));
    }
    const auto usual = std::find_if(out.begin(), out.end(), [&](const design::Machine& one) {
        return one.id == in.at("default").get<std::string>();
    });
    if (usual == out.end())
        throw BadEntry{"The usual machine is not in the list."};
    std::rotate(out.begin(), usual, usual + 1);
    return out;
}

} // namespace

const design::Machine* Catalogue::machine(const std::string& id) const {
    const auto at =
        std::find_if(machines.begin(), machines.end(), [&](const auto& one) { return one.id == id; });
    return at == machines.end() ? nullptr : &*at;
}

std::string colourText(raster::Rgb colour) {
    return "#" + raster::hexOf(colour);
}

base::Result<raster::Rgb> readColour(const std::string& text) {
    raster::Rgb colour{};
    const auto digit = [](char c) {
        return c >= '0' && c <= '9'   ? c - '0'
               : c >= 'a' && c <= 'f' ? c - 'a' + 10
               : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                      : -1;
    };
    if (text.size() == 7 && text[0] == '#') {
        bool isGood = true;
        for (size_t i = 0; i < 3; ++i) {
            const int high = digit(text[1 + 2 * i]), low = digit(text[2 + 2 * i]);
            isGood = isGood && high >= 0 && low >= 0;
            colour[i] = static_cast<std::uint8_t>((high & 15) << 4 | (low & 15));
        }
        if (isGood)
            return colour;
    }
    return Error{Code::ParseError, "'" + text + "' is not a colour like #24323b."};
}

base::Result<Catalogue> readCatalogue(const std::string& formatsJson, const std::string& drawerJson,
                                      const std::string& machinesJson) {
    try {
        Catalogue out;
        const json formats = json::parse(formatsJson), drawer = json::parse(drawerJson);
        out.formats.mats = formatsOf<design::MatFormat>(formats.at("mats"));
        out.formats.sheets = formatsOf<design::SheetFormat>(formats.at("sheets"));
        out.defaultMatId = formats.at("defaultMat").get<std::string>();
        out.defaultSheetId = formats.at("defaultSheet").get<std::string>();
        for (const json& entry : drawer.at("stocks")) {
            const auto colour = readColour(entry.at("colour").get<std::string>());
            if (!colour)
                throw BadEntry{colour.error().message};
            out.drawer.push_back({entry.at("id").get<std::string>(), entry.at("name").get<std::string>(),
                                  *colour, entry.at("thickness").get<double>(),
                                  entry.at("grams").get<double>()});
        }
        out.backingStockId = drawer.at("backing").get<std::string>();
        out.plainStockId = drawer.at("plain").get<std::string>();
        if (!out.formats.mat(out.defaultMatId) || !out.formats.sheet(out.defaultSheetId) ||
            !design::findStock(out.drawer, out.backingStockId) ||
            !design::findStock(out.drawer, out.plainStockId))
            throw BadEntry{"A default names nothing in the list."};
        out.machines = machinesOf(json::parse(machinesJson));
        return out;
    } catch (const BadEntry& bad) {
        return Error{Code::ParseError,
                     "The list of mats, sheets, stocks and machines cannot be read. " + bad.message};
    } catch (const json::exception& bad) {
        return Error{Code::ParseError,
                     std::string("The list of mats, sheets, stocks and machines cannot be read: ") +
                         bad.what()};
    }
}

const Catalogue& shippedCatalogue() {
    static const Catalogue catalogue = [] {
        auto read = readCatalogue(kMatsAndSheetsText, kDrawerText, kMachinesText);
        assert(read.isOk() && "the shipped catalogue is tested");
        return read.take();
    }();
    return catalogue;
}

} // namespace thinline::job
