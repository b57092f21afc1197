// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobJson.h"
#include "formats/svg/WriteDrawing.h"

#include <array>
#include <set>

namespace thinline::document {
namespace {

// The words a recipe is written in, by the order of their enums.
constexpr std::array<const char*, 3> kModes = {"lineart", "flat", "photo"};
constexpr std::array<const char*, 3> kErasures = {"rectangle", "brush", "spill"};
constexpr std::array<const char*, 2> kBuilds = {"areas-on-backing", "ink-on-top"};
constexpr std::array<const char*, 2> kStackings = {"inlay", "stacked"};

json closingJson(const trace::ClosingLine& line) {
    return {{"from", pointJson(line.from)}, {"to", pointJson(line.to)}, {"widthPx", line.widthPx}};
}

trace::ClosingLine closingOf(const json& line) {
    return {pointOf(line.at("from")), pointOf(line.at("to")),
            numberIn(line.at("widthPx"), 0, 1e4, "a closing line")};
}

/// An open line: where it begins, then each step as its end or its two handles and its end.
json lineJson(const geometry::Line& line) {
    json steps = json::array();
    for (const geometry::Segment& s : line.segments)
        steps.push_back(s.isLine
                            ? json::array({pointJson(s.end)})
                            : json::array({pointJson(s.control1), pointJson(s.control2), pointJson(s.end)}));
    return {{"start", pointJson(line.start)}, {"steps", steps}};
}

geometry::Line lineOf(const json& in) {
    geometry::Line out{pointOf(in.at("start")), {}};
    for (const json& step : in.at("steps")) {
        if (step.size() != 1 && step.size() != 3)
            throw BadJob{"a fold has a step of " + std::to_string(step.size()) + " points"};
        out.segments.push_back(
            step.size() == 1
                ? geometry::Segment::line(pointOf(step.at(0)))
                : geometry::Segment::curve(pointOf(step.at(0)), pointOf(step.at(1)), pointOf(step.at(2))));
    }
    return out;
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
        out["merges"].push_back({colourText(merge.from), colourText(merge.into)});
    for (const raster::Rgb& colour : recipe.notCut)
        out["notCut"].push_back(colourText(colour));
    for (const trace::Erasure& e : recipe.erasures) {
        json points = json::array();
        for (const geometry::Point p : e.points)
            points.push_back(pointJson(p));
        out["erasures"].push_back(
            {{"kind", kErasures[static_cast<size_t>(e.kind)]}, {"points", points}, {"widthPx", e.widthPx}});
    }
    for (const trace::OwnPart& part : recipe.ownParts) {
        out["ownParts"].push_back({pointJson(part.box.least), pointJson(part.box.most)});
        if (part.threshold)
            out["ownParts"].back().push_back(*part.threshold);
    }
    if (recipe.bridgesMm > 0)
        out["bridgesMm"] = recipe.bridgesMm;
    if (recipe.foldsBelowMm > 0)
        out["foldsBelowMm"] = recipe.foldsBelowMm;
    if (recipe.dashesFold)
        out["dashesFold"] = true;
    if (recipe.turnDeg != 0)
        out["turnDeg"] = recipe.turnDeg;
    for (const raster::Rgb& colour : recipe.picked)
        out["picked"].push_back(colourText(colour));
    return out;
}

json tracingJson(const trace::Tracing& tracing) {
    json out = {{"widthPx", tracing.widthPx},
                {"heightPx", tracing.heightPx},
                {"threshold", tracing.threshold},
                {"droppedAreas", tracing.droppedAreas},
                {"droppedSpecks", tracing.droppedSpecks},
                {"paper", colourText(tracing.paper)},
                {"palette", json::array()},
                {"backing", json::array()},
                {"ink", json::array()},
                {"areas", json::array()},
                {"leaks", json::array()}};
    for (const raster::Rgb& colour : tracing.palette)
        out["palette"].push_back(colourText(colour));
    for (const geometry::Shape& shape : tracing.backing)
        out["backing"].push_back(formats::svg::pathText(shape));
    for (const geometry::Shape& shape : tracing.ink)
        out["ink"].push_back(formats::svg::pathText(shape));
    for (const trace::Area& area : tracing.areas)
        out["areas"].push_back({{"id", area.id},
                                {"inside", pointJson(area.inside)},
                                {"colour", colourText(area.colour)},
                                {"level", area.level},
                                {"path", formats::svg::pathText(area.shape)}});
    if (tracing.bridges > 0)
        out["bridges"] = tracing.bridges;
    for (const geometry::Line& fold : tracing.folds)
        out["folds"].push_back(lineJson(fold));
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
    trace::Recipe out;
    if (in.contains("threshold"))
        out.threshold = wholeIn(in.at("threshold"), 0, 254, "the threshold");
    out.mode = wordIn<trace::Mode>(in.at("mode"), kModes, "the way of tracing");
    out.leastAreaMm2 = numberIn(in.at("leastAreaMm2"), 0, 1e6, "the least area");
    out.smoothness = numberIn(in.at("smoothness"), 0, 1.4, "the smoothness");
    out.widestGapMm = numberIn(in.at("widestGapMm"), 0, 1000, "the widest gap");
    for (const json& line : in.at("closings"))
        out.closings.push_back(closingOf(line));
    // What came with flat art and photos; a job from before has none of it.
    if (in.contains("tuckMm")) {
        out.tuckMm = numberIn(in.at("tuckMm"), 0, 100, "the tuck");
        out.build = wordIn<trace::Build>(in.at("build"), kBuilds, "the build");
        out.colours = wholeIn(in.at("colours"), 0, trace::kMostColours, "the number of colours");
        for (const json& merge : in.at("merges"))
            out.merges.push_back({colourOf(merge.at(0)), colourOf(merge.at(1))});
        for (const json& colour : in.at("notCut"))
            out.notCut.push_back(colourOf(colour));
        out.stacking = wordIn<trace::Stacking>(in.at("stacking"), kStackings, "the stacking");
        out.tones = wholeIn(in.at("tones"), 2, 8, "the number of tones");
        out.neckMm = numberIn(in.at("neckMm"), 0, 100, "the least neck");
    }
    const json none = json::array();
    for (const json& e : in.value("erasures", none)) {
        out.erasures.push_back({wordIn<trace::Erasure::Kind>(e.at("kind"), kErasures, "the erasure"),
                                {},
                                numberIn(e.at("widthPx"), 0, 1e5, "a brush")});
        for (const json& p : e.at("points"))
            out.erasures.back().points.push_back(pointOf(p));
    }
    for (const json& part : in.value("ownParts", none)) {
        out.ownParts.push_back({{pointOf(part.at(0)), pointOf(part.at(1))}, {}});
        if (part.size() > 2)
            out.ownParts.back().threshold = wholeIn(part.at(2), 0, 254, "a part's threshold");
    }
    out.bridgesMm = numberIn(in.value("bridgesMm", json(0)), 0, 1000, "the length of bridges");
    out.foldsBelowMm = numberIn(in.value("foldsBelowMm", json(0)), 0, 100, "the thickness of folds");
    out.dashesFold = in.value("dashesFold", false);
    out.turnDeg = numberIn(in.value("turnDeg", json(0)), -45, 45, "the turn of the picture");
    for (const json& colour : in.value("picked", none))
        out.picked.push_back(colourOf(colour));
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
    std::set<design::PieceId> ids;
    for (const json& area : in.at("areas")) {
        out.areas.push_back({wholeIn(area.at("id"), 1, 1'000'000'000, "an area's number"),
                             shapeOf(area.at("path")), pointOf(area.at("inside")),
                             colourOf(area.at("colour")),
                             wholeIn(area.value("level", json(0)), 0, 1000, "a level")});
        if (!ids.insert(out.areas.back().id).second)
            throw BadJob{"two areas have the number " + std::to_string(out.areas.back().id)};
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
