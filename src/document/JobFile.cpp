// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"

#include "document/JobJson.h"
#include "document/Reshape.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "formats/zip/Archive.h"
#include "pack/Pictures.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;

constexpr size_t kMostJsonBytes = 256ull << 20;

// ---- writing ---------------------------------------------------------------------------------------------

// The words a kind of layer is written in, by the order of the enum.
constexpr std::array<const char*, 3> kRoles = {"backing", "areas", "ink"};

json planJson(const SheetPlan& plan) {
    json out = {{"mat", plan.matId},
                {"sheet", plan.sheetId},
                {"ownSheetMm", {plan.ownSheet.widthMm, plan.ownSheet.heightMm, plan.ownSheet.marginMm}},
                {"spacingMm", plan.spacingMm},
                {"mayTurn", plan.mayTurn},
                {"pins", json::array()}};
    for (const sheets::Pin& pin : plan.pins)
        out["pins"].push_back({{"piece", pin.what.piece},
                               {"copy", pin.what.copy},
                               {"sheetOfStock", pin.sheetOfStock},
                               {"xMm", pin.xMm},
                               {"yMm", pin.yMm},
                               {"quarterTurns", pin.quarterTurns},
                               {"turnRad", pin.turnRad}});
    return out;
}

json arrangementJson(const design::Arrangement& arrangement) {
    json out = {{"loads", json::array()}, {"unplaced", json::array()}};
    for (const design::Load& load : arrangement.loads) {
        json sheets = json::array();
        for (const design::PlacedSheet& sheet : load.sheets) {
            json pieces = json::array();
            for (const design::PlacedPiece& p : sheet.pieces)
                pieces.push_back({{"piece", p.what.piece},
                                  {"copy", p.what.copy},
                                  {"xMm", p.xMm},
                                  {"yMm", p.yMm},
                                  {"quarterTurns", p.quarterTurns},
                                  {"pinned", p.isPinned},
                                  {"turnRad", p.turnRad}});
            sheets.push_back({{"stock", sheet.stockId},
                              {"boxMm", {sheet.xMm, sheet.yMm, sheet.widthMm, sheet.heightMm}},
                              {"marginMm", sheet.marginMm},
                              {"pieces", pieces}});
        }
        out["loads"].push_back({{"mat",
                                 {{"id", load.mat.id},
                                  {"name", load.mat.name},
                                  {"sizeMm", {load.mat.widthMm, load.mat.heightMm}},
                                  {"marginMm", load.mat.marginMm}}},
                                {"sheets", sheets}});
    }
    for (const design::CopyOf& copy : arrangement.unplaced)
        out["unplaced"].push_back({copy.piece, copy.copy});
    return out;
}

json stepJson(const shape::Step& step) {
    const shape::ActionInfo& info = shape::infoOf(step.action);
    json out = {{"action", info.name}, {"pieces", step.pieces}};
    putValues(out, info.parameters, step.values);
    return out;
}

json jobJson(const Job& job) {
    json out = {{"format", kJobFormat},
                {"program", "Thin Line"},
                {"name", job.name},
                {"unit", job.unit == base::LengthUnit::Inch ? "in" : "mm"},
                {"pictureWidthMm", job.pictureWidthMm},
                {"scale", {job.scaleX, job.scaleY}},
                {"clearanceMm", job.clearanceMm},
                {"recipe", recipeJson(job.recipe)},
                {"stocks", json::array()},
                {"layers", json::array()},
                {"paint", json::object()},
                {"copies", json::object()},
                {"plan", planJson(job.plan)}};
    if (job.artwork)
        out["artwork"] = {{"entry", "artwork"},
                          {"fileName", job.artwork->fileName},
                          {"mediaType", job.artwork->mediaType},
                          {"sizePx", {job.artwork->widthPx, job.artwork->heightPx}},
                          {"pixelAspect", job.artwork->pixelAspect}};
    for (const design::Stock& s : job.stocks)
        out["stocks"].push_back({{"id", s.id},
                                 {"name", s.name},
                                 {"colour", colourText(s.colour)},
                                 {"thicknessMm", s.thicknessMm},
                                 {"gramsPerM2", s.gramsPerM2}});
    for (const trace::LayerSetting& l : job.layers)
        out["layers"].push_back({{"role", kRoles[static_cast<size_t>(l.role)]},
                                 {"stock", l.stockId},
                                 {"liftMm", l.liftMm},
                                 {"hidden", l.isHidden}});
    for (const auto& [id, stock] : job.paint)
        out["paint"][std::to_string(id)] = stock;
    for (const auto& [id, count] : job.copies)
        out["copies"][std::to_string(id)] = count;
    if (!job.shapeSteps.empty())
        for (const shape::Step& step : job.shapeSteps)
            out["shapeSteps"].push_back(stepJson(step));
    if (job.tracing)
        out["tracing"] = tracingJson(*job.tracing);
    putSources(out, job);
    if (job.arrangement)
        out["arrangement"] = arrangementJson(*job.arrangement);
    return out;
}

// ---- reading ---------------------------------------------------------------------------------------------

shape::Step stepOf(const json& in) {
    shape::Step out;
    const std::string name = in.at("action").get<std::string>();
    const auto& infos = shape::actionInfos();
    const auto info = std::find_if(infos.begin(), infos.end(), [&](const auto& i) { return name == i.name; });
    if (info == infos.end())
        throw BadJob{"a step at Shape is called '" + name + "', which is not known"};
    out.action = info->action;
    for (const json& piece : in.at("pieces"))
        out.pieces.push_back(wholeIn(piece, -1'000'000, 1'000'000'000, "a piece"));
    out.values = valuesOf(in, info->parameters);
    return out;
}

SheetPlan planOf(const json& in) {
    SheetPlan out;
    out.matId = in.at("mat").get<std::string>();
    out.sheetId = in.at("sheet").get<std::string>();
    const json& own = in.at("ownSheetMm");
    out.ownSheet.widthMm = numberIn(own.at(0), 10, 5000, "the sheet's width");
    out.ownSheet.heightMm = numberIn(own.at(1), 10, 5000, "the sheet's height");
    out.ownSheet.marginMm = numberIn(own.at(2), 0, 1000, "the sheet's margin");
    out.spacingMm = numberIn(in.at("spacingMm"), 0, 100, "the spacing");
    out.mayTurn = in.at("mayTurn").get<bool>();
    for (const json& pin : in.at("pins"))
        out.pins.push_back({{wholeIn(pin.at("piece"), -1'000'000, 1'000'000'000, "a pin"),
                             wholeIn(pin.at("copy"), 0, 999, "a pin")},
                            wholeIn(pin.at("sheetOfStock"), 0, 999, "a pin"),
                            numberIn(pin.at("xMm"), -5000, 5000, "a pin"),
                            numberIn(pin.at("yMm"), -5000, 5000, "a pin"),
                            wholeIn(pin.at("quarterTurns"), 0, 3, "a pin"),
                            pin.contains("turnRad") ? numberIn(pin.at("turnRad"), -7, 7, "a pin") : 0});
    return out;
}

design::Arrangement arrangementOf(const json& in) {
    design::Arrangement out;
    const auto mm = [](const json& v) { return numberIn(v, -5000, 5000, "a place on a mat"); };
    for (const json& load : in.at("loads")) {
        const json& mat = load.at("mat");
        design::Load l{{mat.at("id").get<std::string>(), mat.at("name").get<std::string>(),
                        mm(mat.at("sizeMm").at(0)), mm(mat.at("sizeMm").at(1)), mm(mat.at("marginMm"))},
                       {}};
        for (const json& sheet : load.at("sheets")) {
            const json& box = sheet.at("boxMm");
            design::PlacedSheet s{sheet.at("stock").get<std::string>(),
                                  mm(box.at(0)),
                                  mm(box.at(1)),
                                  mm(box.at(2)),
                                  mm(box.at(3)),
                                  mm(sheet.at("marginMm")),
                                  {}};
            for (const json& p : sheet.at("pieces"))
                s.pieces.push_back({{wholeIn(p.at("piece"), -1'000'000, 1'000'000'000, "a piece"),
                                     wholeIn(p.at("copy"), 0, 999, "a copy")},
                                    mm(p.at("xMm")),
                                    mm(p.at("yMm")),
                                    wholeIn(p.at("quarterTurns"), 0, 3, "a turn"),
                                    p.at("pinned").get<bool>(),
                                    p.contains("turnRad") ? numberIn(p.at("turnRad"), -7, 7, "a turn") : 0});
            l.sheets.push_back(std::move(s));
        }
        out.loads.push_back(std::move(l));
    }
    for (const json& copy : in.at("unplaced"))
        out.unplaced.push_back({copy.at(0).get<int>(), copy.at(1).get<int>()});
    return out;
}

/// Every placed piece must be a piece of the stack, or the arrangement is made anew.
bool isWhole(const design::Arrangement& arrangement, const design::Stack& stack) {
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (!design::findPiece(stack, piece.what.piece))
                    return false;
    return true;
}

/// Puts the parts together; throws BadJob or json::exception.
Job jobOf(const json& in, std::map<std::string, Bytes>& entries) {
    Job job;
    job.name = in.at("name").get<std::string>();
    job.unit = in.at("unit") == "in" ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
    job.pictureWidthMm = numberIn(in.at("pictureWidthMm"), 0, 1e5, "the picture's width");
    job.scaleX = numberIn(in.at("scale").at(0), 1e-6, 1e6, "the scale");
    job.scaleY = numberIn(in.at("scale").at(1), 1e-6, 1e6, "the scale");
    job.clearanceMm = numberIn(in.at("clearanceMm"), 0, 10, "the room between pieces");
    job.recipe = recipeOf(in.at("recipe"));
    for (const json& s : in.at("stocks"))
        job.stocks.push_back({s.at("id").get<std::string>(), s.at("name").get<std::string>(),
                              colourOf(s.at("colour")), numberIn(s.at("thicknessMm"), 0, 50, "a thickness"),
                              numberIn(s.at("gramsPerM2"), 0, 1e5, "a weight")});
    for (const json& l : in.at("layers"))
        job.layers.push_back({wordIn<design::LayerRole>(l.at("role"), kRoles, "the kind of layer"),
                              l.at("stock").get<std::string>(), numberIn(l.at("liftMm"), 0, 50, "a lift"),
                              l.at("hidden").get<bool>()});
    for (const auto& [id, stock] : in.at("paint").items())
        job.paint[std::stoi(id)] = stock.get<std::string>();
    for (const auto& [id, count] : in.at("copies").items())
        job.copies[std::stoi(id)] = wholeIn(count, 1, 999, "copies");
    job.plan = planOf(in.at("plan"));
    if (in.contains("shapeSteps"))
        for (const json& step : in.at("shapeSteps"))
            job.shapeSteps.push_back(stepOf(step));
    if (in.contains("artwork"))
        job.artwork = artworkOf(in.at("artwork"), entries);
    if (in.contains("tracing")) {
        if (!job.artwork || !(job.pictureWidthMm > 0))
            throw BadJob{"there are areas but no picture"};
        job.tracing = std::make_shared<const trace::Tracing>(tracingOf(in.at("tracing")));
        if (job.recipe.mode == trace::Mode::LineDrawing && job.tracing->backing.empty() && !isOldDrawing(job))
            throw BadJob{"the backing is missing"};
        if (job.tracing->backing.empty() && job.tracing->areas.empty())
            throw BadJob{"there are no areas"};
    }
    takeSources(job, in, entries);
    if (job.artwork && isOldDrawing(job))
        modernise(job, in);
    return job;
}

} // namespace

base::Result<Bytes> writeJob(const Job& job) {
    const std::string text = jobJson(job).dump(1, ' ', false, json::error_handler_t::replace);
    std::map<std::string, formats::zip::Entry> entries;
    entries["job.json"] = {Bytes(text.begin(), text.end()), false};
    if (job.artwork)
        entries["artwork"] = {job.artwork->bytes, true};
    for (const auto& source : job.sources)
        if (const auto* drawing = std::get_if<Drawing>(&source->recipe))
            entries[sourceEntry(source->number)] = {drawing->file->bytes, true};
    constexpr int kPreviewPx = 256;
    if (job.stack)
        entries["preview.png"] = {formats::image::encodePng(pack::pictureOfStack(*job.stack, kPreviewPx)),
                                  true};
    return formats::zip::writeArchive(entries);
}

base::Result<Job> readJob(const Bytes& file) {
    auto archive = formats::zip::readArchive(file);
    if (!archive)
        return archive.error();
    std::map<std::string, Bytes> entries = archive.take();
    const auto damaged = [](const std::string& why) {
        return Error{Code::ParseError,
                     "The job file is damaged (" + why + "); use a backup or the last autosaved copy."};
    };
    const auto text = entries.find("job.json");
    if (text == entries.end())
        return damaged("job.json is missing");
    if (text->second.size() > kMostJsonBytes)
        return Error{Code::LimitExceeded,
                     "The job file's description is larger than it may be; it was not opened."};
    try {
        const json in = json::parse(text->second.begin(), text->second.end());
        const int format = in.at("format").get<int>();
        if (format > kJobFormat)
            return Error{Code::Unsupported, "The job was written by a newer Thin Line (format " +
                                                std::to_string(format) + ", this one reads up to " +
                                                std::to_string(kJobFormat) +
                                                "); update the program to open it."};
        Job job = jobOf(in, entries);
        if (job.tracing || !job.sources.empty()) {
            auto ready = reshaped(std::move(job), {});
            if (!ready)
                return damaged(ready.error().message);
            job = ready.take();
            if (in.contains("arrangement") && job.stack) {
                design::Arrangement arrangement = arrangementOf(in.at("arrangement"));
                if (isWhole(arrangement, *job.stack))
                    job.arrangement = std::make_shared<const design::Arrangement>(std::move(arrangement));
            }
        }
        return job;
    } catch (const BadJob& bad) {
        return damaged(bad.message);
    } catch (const nlohmann::json::exception& bad) {
        return damaged(std::string("job.json: ") + bad.what());
    } catch (const std::exception&) { // std::stoi on a piece number
        return damaged("a piece has no number");
    }
}

base::Result<Job> loadJob(const base::FileStore& store, const std::string& path) {
    auto bytes = store.read(path, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    auto job = readJob(*bytes);
    if (!job)
        return Error{job.error().code, path + ": " + job.error().message};
    return job;
}

base::Status saveJob(base::FileStore& store, const std::string& path, const Job& job) {
    auto bytes = writeJob(job);
    if (!bytes)
        return bytes.error();
    return store.writeWhole(path, *bytes);
}

} // namespace thinline::document
