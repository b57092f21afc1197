// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The library that reads DXF here writes it, too, but only into files it opens itself; a writer of our own is a page long
// (record 25). R12 has polylines and nothing newer: no splines, which half the machines' programs misread.
#include "formats/dxf/WriteDxf.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <map>
#include <set>

namespace thinline::formats::dxf {
namespace {

using geometry::Point;

constexpr double kChordMm = 0.01;

std::string number(double value) {
    std::array<char, 48> out{};
    constexpr int kDecimals = 4;
    const auto end =
        std::to_chars(out.data(), out.data() + out.size(), value, std::chars_format::fixed, kDecimals).ptr;
    return {out.data(), end};
}

void add(std::string& out, int code, const std::string& value) {
    out += (code < 10 ? "  " : code < 100 ? " " : "") + std::to_string(code) + "\n" + value + "\n";
}

/// By the table of colours that every reader has.
int colourOf(design::Operation operation) {
    static constexpr std::array<int, design::kOperations.size()> kColours{3, 5, 6, 7, 7};
    return kColours[static_cast<std::size_t>(operation)];
}

constexpr std::size_t kMostSigns = 31;
constexpr const char* kRule = "RULE-50-MM";

/// Layers of R12 are named by up to 31 capitals, digits, dashes and underscores.
std::string plainName(const std::string& name) {
    std::string out = name;
    for (char& c : out) {
        if (c >= 'a' && c <= 'z')
            c = static_cast<char>(c - 'a' + 'A');
        const bool isPlain = (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '-';
        if (!isPlain)
            c = '_';
    }
    return out;
}

/// The layers of passes by the names of their groups; names cut short stay apart by a number.
std::map<std::string, std::string> layersOf(const design::PlannedLoad& planned) {
    std::map<std::string, std::string> out;
    std::set<std::string> taken{kRule};
    for (const design::Pass& pass : planned.passes) {
        const std::string group = design::passGroup(pass);
        if (out.contains(group))
            continue;
        // What is done stands at the end; the stock's name gives way to it.
        const std::string whole = plainName(group);
        const std::size_t stock = std::min(pass.stockId.size(), whole.size());
        const std::string does = whole.substr(stock);
        std::string name;
        for (int n = 1; name.empty() || taken.contains(name); ++n) {
            const std::string ending = (n > 1 ? std::to_string(n) : std::string()) + does;
            name =
                whole.substr(0, std::min(stock, kMostSigns - std::min(kMostSigns, ending.size()))) + ending;
            name.resize(std::min(name.size(), kMostSigns));
        }
        taken.insert(name);
        out[group] = name;
    }
    return out;
}

void addHeader(std::string& out, const design::MatFormat& mat) {
    add(out, 999, "Lengths are millimetres; the line on layer RULE-50-MM is 50 mm long.");
    add(out, 0, "SECTION");
    add(out, 2, "HEADER");
    add(out, 9, "$ACADVER");
    add(out, 1, "AC1009");
    add(out, 9, "$INSUNITS");
    add(out, 70, "4");
    for (const auto& [name, x, y] :
         {std::tuple{"$EXTMIN", 0.0, 0.0}, {"$EXTMAX", mat.widthMm, mat.heightMm}}) {
        add(out, 9, name);
        add(out, 10, number(x));
        add(out, 20, number(y));
    }
    add(out, 0, "ENDSEC");
}

void addLayer(std::string& out, const std::string& name, int colour) {
    add(out, 0, "LAYER");
    add(out, 2, name);
    add(out, 70, "0");
    add(out, 62, std::to_string(colour));
    add(out, 6, "CONTINUOUS");
}

void addLayers(std::string& out, const design::PlannedLoad& planned,
               const std::map<std::string, std::string>& layers) {
    constexpr int kRuleColour = 8;
    add(out, 0, "SECTION");
    add(out, 2, "TABLES");
    add(out, 0, "TABLE");
    add(out, 2, "LAYER");
    add(out, 70, std::to_string(layers.size() + 1));
    std::set<std::string> named;
    for (const design::Pass& pass : planned.passes)
        if (const std::string& name = layers.at(design::passGroup(pass)); named.insert(name).second)
            addLayer(out, name, colourOf(pass.operation));
    addLayer(out, kRule, kRuleColour);
    add(out, 0, "ENDTAB");
    add(out, 0, "ENDSEC");
}

void addLine(std::string& out, const geometry::Line& line, const std::string& layer, double heightMm) {
    geometry::Polygon way = geometry::flatten(line, kChordMm);
    const bool isClosed = geometry::endOf(line) == line.start;
    if (!isClosed)
        way.push_back(geometry::endOf(line));
    add(out, 0, "POLYLINE");
    add(out, 8, layer);
    add(out, 66, "1");
    add(out, 70, isClosed ? "1" : "0");
    for (const Point p : way) {
        add(out, 0, "VERTEX");
        add(out, 8, layer);
        add(out, 10, number(p.x));
        add(out, 20, number(heightMm - p.y));
    }
    add(out, 0, "SEQEND");
}

} // namespace

geometry::Point rulePlace(const design::MatFormat& mat) {
    return {5, mat.heightMm - std::min(2.0, mat.marginMm / 2)};
}

std::string writeLoad(const design::PlannedLoad& planned, const design::Load& load) {
    std::string out;
    addHeader(out, load.mat);
    const std::map<std::string, std::string> layers = layersOf(planned);
    addLayers(out, planned, layers);
    add(out, 0, "SECTION");
    add(out, 2, "ENTITIES");
    for (const design::Pass& pass : planned.passes)
        for (const design::PlannedPath& path : pass.paths)
            if (!path.line.segments.empty())
                addLine(out, path.line, layers.at(design::passGroup(pass)), load.mat.heightMm);
    // In the strip that rollers take, where nothing is cut.
    const Point from = rulePlace(load.mat);
    addLine(out, {from, {geometry::Segment::line(from + Point{50, 0})}}, kRule, load.mat.heightMm);
    add(out, 0, "ENDSEC");
    add(out, 0, "EOF");
    return out;
}

} // namespace thinline::formats::dxf
