// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobJson.h"
#include "formats/svg/WriteDrawing.h"
#include "job/Catalogue.h"

#include <array>
#include <set>

namespace thinline::document {
namespace {

// The words a recipe is written in, by the order of their enums.
constexpr std::array<const char*, 3> kModes = {"lineart", "flat", "photo"};
constexpr std::array<const char*, 4> kErasures = {"rectangle", "brush", "spill", "outside"};
constexpr std::array<const char*, 2> kBuilds = {"areas-on-backing", "ink-on-top"};
constexpr std::array<const char*, 3> kDarkParts = {"unsaid", "shadow", "paint"};
constexpr std::array<const char*, 2> kStackings = {"inlay", "stacked"};

json closingJson(const trace::ClosingLine& line) {
    return {{"from", pointJson(line.from)}, {"to", pointJson(line.to)}, {"widthPx", line.widthPx}};
}

trace::ClosingLine closingOf(const json& line) {
    return {pointOf(line.at("from")), pointOf(line.at("to")),
            numberIn(line.at("widthPx"), 0, 1e4, "a closing line")};
}

} // namespace

json recipeJson(const trace::Recipe& recipe) {
    json out = {{"mode", kModes[static_cast<size_t>(recipe.mode)]},
                {"leastAreaMm2", recipe.leastAreaMm2},
                {"smoothness", recipe.smoothness},
                {"tuckMm", recipe.tuckMm},
                {"widestGapMm", recipe.widestGapMm},
                {"closings", json::array()},
                {"build", kBuilds[static_cast<size_t>(recipe.build)]},
                {"colours", recipe.colours},
                {"merges", json::array()},
                {"notCut", json::array()},
                {"stacking", kStackings[static_cast<size_t>(recipe.stacking)]},
                {"tones", recipe.tones},
                {"neckMm", recipe.neckMm}};
    if (recipe.threshold)
        out["threshold"] = *recipe.threshold;
    for (const trace::ClosingLine& line : recipe.closings)
        out["closings"].push_back(closingJson(line));
    for (const trace::ColourMerge& merge : recipe.merges)
        out["merges"].push_back({job::colourText(merge.from), job::colourText(merge.into)});
    for (const raster::Rgb& colour : recipe.notCut)
        out["notCut"].push_back(job::colourText(colour));
    for (const trace::Erasure& e : recipe.erasures) {
        json points = json::array();
        for (const geometry::Point p : e.points)
            points.push_back(pointJson(p));
        out["erasures"].push_back(
            {{"kind", kErasures[static_cast<size_t>(e.kind)]}, {"points", points}, {"widthPx", e.widthPx}});
        if (e.ground)
            out["erasures"].back()["ground"] = job::colourText(*e.ground);
    }
    for (const trace::OwnPart& part : recipe.ownParts) {
        out["ownParts"].push_back({pointJson(part.box.least), pointJson(part.box.most)});
        if (part.threshold)
            out["ownParts"].back().push_back(*part.threshold);
    }
    if (recipe.darkPart != trace::DarkPart::Unsaid)
        out["darkPart"] = kDarkParts[static_cast<size_t>(recipe.darkPart)];
    if (recipe.bridgesMm > 0)
        out["bridgesMm"] = recipe.bridgesMm;
    if (recipe.foldsBelowMm > 0)
        out["foldsBelowMm"] = recipe.foldsBelowMm;
    if (recipe.isLightOnDark)
        out["isLightOnDark"] = true;
    if (recipe.dashesFold)
        out["dashesFold"] = true;
    if (recipe.turnDeg != 0)
        out["turnDeg"] = recipe.turnDeg;
    for (const raster::Rgb& colour : recipe.picked)
        out["picked"].push_back(job::colourText(colour));
    return out;
}

json tracingJson(const trace::Tracing& tracing) {
    json out = {{"widthPx", tracing.widthPx},
                {"heightPx", tracing.heightPx},
                {"threshold", tracing.threshold},
                {"droppedAreas", tracing.droppedAreas},
                {"droppedSpecks", tracing.droppedSpecks},
                {"paper", job::colourText(tracing.paper)},
                {"palette", json::array()},
                {"backing", json::array()},
                {"ink", json::array()},
                {"areas", json::array()},
                {"leaks", json::array()}};
    for (const raster::Rgb& colour : tracing.palette)
        out["palette"].push_back(job::colourText(colour));
    for (const geometry::Shape& shape : tracing.backing)
        out["backing"].push_back(formats::svg::pathText(shape));
    for (const geometry::Shape& shape : tracing.ink)
        out["ink"].push_back(formats::svg::pathText(shape));
    for (const trace::Area& area : tracing.areas)
        out["areas"].push_back({{"number", area.number},
                                {"inside", pointJson(area.inside)},
                                {"colour", job::colourText(area.colour)},
                                {"level", area.level},
                                {"path", formats::svg::pathText(area.shape)}});
    if (tracing.bridges > 0)
        out["bridges"] = tracing.bridges;
    for (const geometry::Line& fold : tracing.folds)
        out["folds"].push_back(lineJson(fold));
    if (tracing.isInEvenLight)
        out["isInEvenLight"] = true;
    for (const trace::LostColour& one : tracing.lost)
        out["lost"].push_back({{"colour", job::colourText(one.colour)},
                               {"areaPx", one.areaPx},
                               {"place", pointJson(one.place)},
                               {"isSmall", one.isSmall}});
    if (const auto& shadow = tracing.shadow)
        out["shadow"] = {{"light", shadow->light}, {"areaPx", shadow->areaPx}, {"place", pointJson(shadow->place)}, {"colours", shadow->colours}, {"isTakenOut", shadow->isTakenOut}};
    if (const trace::FoldHint& may = tracing.mayFold; !(may == trace::FoldHint{}))
        out["mayFold"] = {{"dashed", may.dashed}, {"thin", may.thin}, {"thinnerMm", may.thinnerMm}};
    for (const trace::Leak& leak : tracing.leaks) {
        out["leaks"].push_back({{"place", pointJson(leak.place)},
                                {"widthPx", leak.widthPx},
                                {"toOutside", leak.toOutside},
                                {"inside", pointJson(leak.inside)}});
        if (leak.closure)
            out["leaks"].back()["closure"] = closingJson(*leak.closure);
    }
    return out;
}

trace::Recipe recipeOf(const json& in) {
    trace::Recipe out; // what is absent has its usual value
    constexpr double kMost = 1e6;
    const json none = json::array();
    if (in.contains("threshold"))
        out.threshold = wholeIn(in.at("threshold"), 0, 254, "the threshold");
    if (in.contains("mode"))
        out.mode = wordIn<trace::Mode>(in.at("mode"), kModes, "the way of tracing");
    if (in.contains("build"))
        out.build = wordIn<trace::Build>(in.at("build"), kBuilds, "the build");
    if (in.contains("darkPart"))
        out.darkPart = wordIn<trace::DarkPart>(in.at("darkPart"), kDarkParts, "what a dark part is");
    if (in.contains("stacking"))
        out.stacking = wordIn<trace::Stacking>(in.at("stacking"), kStackings, "the stacking");
    out.leastAreaMm2 = numberOr(in, "leastAreaMm2", out.leastAreaMm2, 0, kMost * kMost, "the least area");
    out.smoothness = numberOr(in, "smoothness", out.smoothness, 0, 1.4, "the smoothness");
    out.widestGapMm = numberOr(in, "widestGapMm", out.widestGapMm, 0, kMost, "the widest gap");
    out.tuckMm = numberOr(in, "tuckMm", out.tuckMm, 0, kMost, "the tuck");
    out.neckMm = numberOr(in, "neckMm", out.neckMm, 0, kMost, "the least neck");
    out.bridgesMm = numberOr(in, "bridgesMm", out.bridgesMm, 0, kMost, "the length of bridges");
    out.foldsBelowMm = numberOr(in, "foldsBelowMm", out.foldsBelowMm, 0, kMost, "the thickness of folds");
    out.turnDeg = numberOr(in, "turnDeg", out.turnDeg, -45, 45, "the turn of the picture");
    out.isLightOnDark = flagOr(in, "isLightOnDark", out.isLightOnDark);
    out.dashesFold = flagOr(in, "dashesFold", out.dashesFold);
    if (in.contains("colours"))
        out.colours = wholeIn(in.at("colours"), 0, trace::kMostColours, "the number of colours");
    if (in.contains("tones"))
        out.tones = wholeIn(in.at("tones"), 2, 8, "the number of tones");
    for (const json& line : in.value("closings", none))
        out.closings.push_back(closingOf(line));
    for (const json& merge : in.value("merges", none))
        out.merges.push_back({colourOf(merge.at(0)), colourOf(merge.at(1))});
    for (const json& colour : in.value("notCut", none))
        out.notCut.push_back(colourOf(colour));
    for (const json& colour : in.value("picked", none))
        out.picked.push_back(colourOf(colour));
    for (const json& e : in.value("erasures", none)) {
        out.erasures.push_back({wordIn<trace::Erasure::Kind>(e.at("kind"), kErasures, "the erasure"),
                                {},
                                numberOr(e, "widthPx", 0, 0, 1e5, "a brush")});
        for (const json& p : e.at("points"))
            out.erasures.back().points.push_back(pointOf(p));
        if (e.contains("ground"))
            out.erasures.back().ground = colourOf(e.at("ground"));
    }
    for (const json& part : in.value("ownParts", none)) {
        out.ownParts.push_back({{pointOf(part.at(0)), pointOf(part.at(1))}, {}});
        if (part.size() > 2)
            out.ownParts.back().threshold = wholeIn(part.at(2), 0, 254, "a part's threshold");
    }
    return out;
}

trace::Tracing tracingOf(const json& in) {
    trace::Tracing out;
    out.widthPx = wholeIn(in.at("widthPx"), 1, 1'000'000, "the width");
    out.heightPx = wholeIn(in.at("heightPx"), 1, 1'000'000, "the height");
    out.threshold = wholeIn(in.at("threshold"), -1, 255, "the threshold");
    out.droppedAreas = wholeIn(in.at("droppedAreas"), 0, 1'000'000'000, "a count");
    out.droppedSpecks = wholeIn(in.at("droppedSpecks"), 0, 1'000'000'000, "a count");
    out.paper = colourOf(in.at("paper"));
    const json none = json::array();
    for (const json& colour : in.value("palette", none))
        out.palette.push_back(colourOf(colour));
    for (const json& path : in.at("backing"))
        out.backing.push_back(shapeOf(path));
    for (const json& path : in.value("ink", none))
        out.ink.push_back(shapeOf(path));
    out.bridges = wholeIn(in.value("bridges", json(0)), 0, 1'000'000'000, "a count");
    for (const json& fold : in.value("folds", none))
        out.folds.push_back(lineOf(fold));
    out.isInEvenLight = flagOr(in, "isInEvenLight", false);
    for (const json& one : in.value("lost", none))
        out.lost.push_back({colourOf(one.at("colour")), numberIn(one.at("areaPx"), 0, 1e12, "an area"),
                            pointOf(one.at("place")), flagOr(one, "isSmall", false)});
    if (in.contains("shadow")) {
        const json& shadow = in.at("shadow");
        out.shadow = {numberIn(shadow.at("light"), 0, 1, "a shadow's light"), numberIn(shadow.at("areaPx"), 0, 1e12, "an area"),
                      pointOf(shadow.at("place")), wholeIn(shadow.at("colours"), 0, 1000, "a count"),
                      flagOr(shadow, "isTakenOut", false)};
    }
    if (in.contains("mayFold")) {
        const json& may = in.at("mayFold");
        out.mayFold = {wholeIn(may.at("dashed"), 0, 1'000'000, "a count"),
                       wholeIn(may.at("thin"), 0, 1'000'000, "a count"),
                       numberIn(may.at("thinnerMm"), 0, 1000, "the thickness of folds")};
    }
    std::set<int> numbers;
    for (const json& area : in.at("areas")) {
        out.areas.push_back({wholeIn(area.at(area.contains("number") ? "number" : "id"), 1, 1'000'000'000,
                                     "an area's number"),
                             shapeOf(area.at("path")), pointOf(area.at("inside")),
                             colourOf(area.at("colour")),
                             wholeIn(area.value("level", json(0)), 0, 1000, "a level")});
        if (!numbers.insert(out.areas.back().number).second)
            throw BadJob{"two areas have the number " + std::to_string(out.areas.back().number)};
    }
    for (const json& leak : in.at("leaks")) {
        out.leaks.push_back({pointOf(leak.at("place")),
                             numberIn(leak.at("widthPx"), 0, 1e6, "a gap"),
                             leak.at("toOutside").get<bool>(),
                             pointOf(leak.at("inside")),
                             {}});
        if (leak.contains("closure"))
            out.leaks.back().closure = closingOf(leak.at("closure"));
    }
    return out;
}

} // namespace thinline::document
