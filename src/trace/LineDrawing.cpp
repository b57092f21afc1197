// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// From an ink drawing to areas of card.
//
// In a line drawing the pen's lines are not what is cut: the spaces between them are. Each closed space
// becomes a piece, the lines become the backing that shows between the pieces. So the order is the reverse
// of what one expects of tracing. Ink is found, what is not worth cutting is taken away, and the paper
// that is left enclosed is outlined.
//
// 1. Light is evened and the threshold found on what remains (or taken as the person gave it, for the
//    whole sheet or for a part that was photographed darker). A part with a threshold of its own is
//    levelled to the one of the whole, so that everything after knows one threshold and edges run on
//    across the part's frame.
// 2. Thin or dashed lines are folds when the recipe says so. They are taken out of the ink before areas
//    are looked for, or every fold would divide its piece in two; their middle lines are given to the
//    areas at the end, run on to the edge where they nearly reach it (FoldLines.cpp).
// 3. Specks of ink and specks of paper smaller than the least area are removed from the ink AND from the
//    grey. Edges are measured in the grey: a speck that was only dropped from the mask would still pull
//    the edge beside it. A speck close to other ink is the end of a tip finer than a pixel; its grey tells
//    where the tip ends, and stays.
// 4. Where an area is connected with the paper around it through a passage that is no wider than a pen's
//    slip, it leaks: it would be lost without a word. Passages are searched (raster/Regions.cpp) and told,
//    each with the stroke that would close it where there is one; nothing is closed without being asked
//    for.
// 5. Paper and ink are one planar map. Areas are its enclosed faces of paper, the ink is all faces of ink,
//    the backing is everything that is not paper outside. So the backing's outline and an area's edge are
//    one line where they coincide.
//
// Colours are medians over the inside of each area, away from the ink's fringe; the evening of the light
// is applied to them as well, so that one felt pen gives one colour on both sides of a shadow.
//
// Cost: O(pixels) up to the map; the map dominates (see PlanarMap.cpp).
#include "trace/LineDrawing.h"

#include "base/Length.h"
#include "raster/Gaps.h"
#include "raster/Light.h"
#include "raster/Regions.h"
#include "trace/FoldLines.h"
#include "trace/PlanarMap.h"
#include "trace/Shadow.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace thinline::trace {
namespace {

using base::Code;
using base::Error;
using raster::Connectivity;
using raster::Grey;
using raster::Region;
using raster::Regions;

constexpr std::uint8_t kInk = 255;
constexpr std::uint8_t kPaper = 0;

void paintRegion(Grey& mask, const Region& region, std::uint8_t value) {
    for (const raster::Run& run : region.runs)
        std::fill(&mask.at(run.x0, run.y), &mask.at(run.x0, run.y) + (run.x1 - run.x0), value);
}

/// The colour of an area, away from the fringes of the ink, as it is in even light.
raster::Rgb colourOf(const raster::Picture& picture, const Grey& evened, const Region& region, bool isLightOnDark) {
    constexpr std::int64_t kSamples = 20000; // plenty for a median, and bounded for the largest area
    constexpr int kFringePx = 2;
    const std::int64_t stride = std::max<std::int64_t>(1, region.areaPx / kSamples);
    const auto collect = [&](int fringe) {
        std::vector<std::uint32_t> pixels;
        std::int64_t count = 0;
        for (const raster::Run& run : region.runs)
            for (int x = run.x0 + fringe; x < run.x1 - fringe; ++x)
                if (count++ % stride == 0)
                    pixels.push_back(static_cast<std::uint32_t>(run.y) *
                                         static_cast<std::uint32_t>(picture.width) +
                                     static_cast<std::uint32_t>(x));
        return pixels;
    };
    std::vector<std::uint32_t> pixels = collect(kFringePx);
    if (pixels.empty())
        pixels = collect(0);
    raster::Rgb colour = raster::medianColour(picture, pixels);
    if (isLightOnDark)
        return colour;
    const auto middle = pixels.begin() + static_cast<std::ptrdiff_t>(pixels.size() / 2);
    std::nth_element(pixels.begin(), middle, pixels.end(),
                     [&](std::uint32_t i, std::uint32_t j) { return evened.values[i] < evened.values[j]; });
    const double bright = std::max({colour[0], colour[1], colour[2]});
    const double gain = bright > 0 ? evened.values[*middle] / bright : 1;
    if (gain > 1)
        for (std::uint8_t& channel : colour)
            channel = static_cast<std::uint8_t>(std::min(255L, std::lround(channel * gain)));
    return colour;
}

/// The drawing in brightness, and which of its pixels are ink.
struct Sheet {
    Grey grey;
    Grey ink;
    int threshold = 0;
    std::uint8_t inkLevel = 0;
};

/// The middle brightness on one side of the threshold.
std::uint8_t medianWithin(const Grey& grey, int least, int most) {
    std::vector<std::int64_t> histogram(256, 0);
    std::int64_t count = 0;
    for (std::uint8_t v : grey.values)
        if (v >= least && v <= most) {
            ++histogram[v];
            ++count;
        }
    std::int64_t seen = 0;
    for (int v = least; v <= most; ++v)
        if ((seen += histogram[static_cast<size_t>(v)]) * 2 >= count)
            return static_cast<std::uint8_t>(v);
    return static_cast<std::uint8_t>(least);
}

/// Levels a part of the sheet so that its own threshold becomes the one of the whole.
void levelOwnPart(Grey& grey, const OwnPart& own, int threshold) {
    const geometry::Box& box = own.box;
    const auto whole = [](double v, int most) { return static_cast<int>(std::clamp(v, 0.0, 1.0 * most)); };
    const int x0 = whole(box.least.x, grey.width), x1 = whole(box.most.x, grey.width),
              y0 = whole(box.least.y, grey.height), y1 = whole(box.most.y, grey.height);
    if (x1 - x0 < 2 || y1 - y0 < 2)
        return;
    Grey part{x1 - x0, y1 - y0, {}};
    for (int y = y0; y < y1; ++y)
        part.values.insert(part.values.end(), &grey.at(x0, y), &grey.at(x0, y) + part.width);
    const double level = std::clamp(own.threshold ? *own.threshold : raster::otsuThreshold(part), 1, 253);
    for (int y = y0; y < y1; ++y)
        for (int x = x0; x < x1; ++x) {
            const double v = grey.at(x, y);
            const double levelled =
                v <= level ? v * threshold / level : 255 - (255 - v) * (254 - threshold) / (254 - level);
            grey.at(x, y) = static_cast<std::uint8_t>(std::clamp(std::lround(levelled), 0L, 255L));
        }
}

/// The brightness of a drawing in light lines, turned to dark ones: such ink is light in all three channels.
Grey turnedDark(const raster::Picture& picture) {
    Grey out{picture.width, picture.height, {}};
    out.values.reserve(static_cast<size_t>(picture.pixels()));
    for (size_t at = 0; at < picture.rgb.size(); at += 3)
        out.values.push_back(static_cast<std::uint8_t>(
            255 - std::min({picture.rgb[at], picture.rgb[at + 1], picture.rgb[at + 2]})));
    return out;
}

base::Result<Sheet> sheetOf(const raster::Picture& picture, const Recipe& recipe) {
    Sheet sheet;
    sheet.grey = raster::evenedLight(recipe.isLightOnDark ? turnedDark(picture) : raster::brightness(picture));
    sheet.threshold = recipe.threshold ? *recipe.threshold : raster::inkThreshold(sheet.grey);
    for (const OwnPart& part : recipe.ownParts)
        levelOwnPart(sheet.grey, part, sheet.threshold);
    sheet.inkLevel = medianWithin(sheet.grey, 0, sheet.threshold);
    for (const ClosingLine& line : recipe.closings)
        raster::inkLine(sheet.grey, line.from.x, line.from.y, line.to.x, line.to.y, line.widthPx,
                        sheet.inkLevel);
    sheet.ink = raster::inkMask(sheet.grey, sheet.threshold);
    if (std::find(sheet.ink.values.begin(), sheet.ink.values.end(), kInk) == sheet.ink.values.end())
        return Error{Code::Degenerate, "There is no ink in this picture at threshold " +
                                           std::to_string(sheet.threshold) +
                                           "; raise the threshold or choose a picture with " +
                                           (recipe.isLightOnDark ? "light" : "dark") + " lines."};
    return sheet;
}

/// Visits the pixels of a region and those up to `rim` around it.
template <class Visit>
void eachAround(const Region& region, const Grey& within, int rim, Visit visit) {
    for (const raster::Run& run : region.runs)
        for (int y = std::max(0, run.y - rim); y <= std::min(within.height - 1, run.y + rim); ++y)
            for (int x = std::max(0, run.x0 - rim); x < std::min(within.width, run.x1 + rim); ++x)
                visit(x, y);
}

/// Takes a speck of ink away, its soft edges with it: what is left looks like its surroundings. A speck close
/// to other ink is the end of a tip finer than a pixel, and tells of it: its grey stays.
void eraseSpeck(Sheet& sheet, const Region& speck) {
    constexpr int kSoft = 2;
    std::uint8_t paper = 0;
    bool isOfATip = false;
    paintRegion(sheet.ink, speck, kPaper);
    eachAround(speck, sheet.grey, kSoft + 1, [&](int x, int y) {
        paper = std::max(paper, sheet.grey.at(x, y));
        isOfATip = isOfATip || sheet.ink.at(x, y) == kInk;
    });
    if (isOfATip)
        return;
    eachAround(speck, sheet.grey, kSoft, [&](int x, int y) {
        if (sheet.ink.at(x, y) == kPaper)
            sheet.grey.at(x, y) = std::max(sheet.grey.at(x, y), paper);
    });
}

/// Fills a small area with ink.
void fillArea(Sheet& sheet, const Region& area) {
    paintRegion(sheet.ink, area, kInk);
    eachAround(area, sheet.grey, 1, [&](int x, int y) {
        if (sheet.ink.at(x, y) == kInk)
            sheet.grey.at(x, y) = std::min(sheet.grey.at(x, y), sheet.inkLevel);
    });
}

raster::Rgb paperColour(const raster::Picture& picture, const Grey& evened, const Regions& paper,
                        bool isLightOnDark) {
    const Region* largest = nullptr;
    for (const Region& region : paper.all)
        if (region.touchesEdge && (!largest || region.areaPx > largest->areaPx))
            largest = &region;
    return largest ? colourOf(picture, evened, *largest, isLightOnDark) : raster::Rgb{255, 255, 255};
}

std::vector<Leak> leaksOf(const std::vector<raster::Passage>& passages, const Regions& paper, const Grey& ink,
                          double widestPx) {
    // A line that would be closed is a pen's: no thicker than the widest gap it may leave, and no mere tip.
    const auto isOfAPen = [&](const raster::Bridge& bridge, double gapPx) {
        return bridge.widthPx <= std::max(4.0, widestPx) && bridge.widthPx >= std::max(1.5, 0.27 * gapPx - 1);
    };
    std::vector<Leak> leaks;
    for (const raster::Passage& p : passages) {
        // A passage in an area that was dropped into the ink is gone with it.
        if (p.label < 1 || ink.at(static_cast<int>(p.x), static_cast<int>(p.y)) == kInk)
            continue;
        Leak leak{{p.x, p.y},
                  p.widthPx,
                  paper.all[static_cast<size_t>(p.label - 1)].touchesEdge,
                  {p.insideX, p.insideY},
                  {}};
        // Lines that run past one another and closed shapes side by side leave openings that are meant.
        const auto bridge = raster::bridgeOver(ink, leak.place, leak.widthPx);
        if (!bridge || !isOfAPen(*bridge, leak.widthPx))
            continue;
        leak.closure = ClosingLine{bridge->from, bridge->to, bridge->widthPx};
        leaks.push_back(leak);
    }
    return leaks;
}

/// Faces: the regions of the paper in their order, then those of the ink.
raster::LabelMap facesOf(std::vector<std::int32_t> paperLabels, size_t papers, const Regions& ink) {
    raster::LabelMap map{ink.width, ink.height, std::move(paperLabels)};
    const auto first = static_cast<std::int32_t>(papers);
    for (size_t i = 0; i < map.labels.size(); ++i)
        map.labels[i] = ink.labels[i] > 0 ? first + ink.labels[i] - 1 : map.labels[i] - 1;
    return map;
}

void sortLargestFirst(std::vector<geometry::Shape>& shapes) {
    std::sort(shapes.begin(), shapes.end(),
              [](const auto& a, const auto& b) { return geometry::area(a) > geometry::area(b); });
}

/// Takes away the ink that is smaller than the least area.
base::Status dropSpecks(Sheet& sheet, double leastAreaMm2, double leastPx, Tracing& out,
                        const base::Progress& progress) {
    const auto specks = raster::findRegions(sheet.ink, kInk, Connectivity::Eight, progress);
    if (!specks)
        return specks.error();
    for (const Region& speck : specks->all)
        if (static_cast<double>(speck.areaPx) < leastPx) {
            eraseSpeck(sheet, speck);
            ++out.droppedSpecks;
        }
    if (out.droppedSpecks == static_cast<int>(specks->all.size()))
        return Error{Code::Degenerate, "All ink is smaller than " + base::formatNumber(leastAreaMm2, 2) +
                                           " mm²; lower the least size or give the picture a larger width."};
    return base::Done{};
}

/// The paper of a drawing: its regions, and which of them are areas.
struct Paper {
    Regions regions;
    std::vector<bool> isArea; ///< enclosed by ink and large enough
};

/// Fills the areas that are smaller than the least one with ink.
base::Result<Paper> paperOf(Sheet& sheet, double leastPx, Tracing& out, const base::Progress& progress) {
    auto found = raster::findRegions(sheet.ink, kPaper, Connectivity::Four, progress);
    if (!found)
        return found.error();
    Paper paper{found.take(), {}};
    for (const Region& region : paper.regions.all) {
        const bool isSmall = !region.touchesEdge && static_cast<double>(region.areaPx) < leastPx;
        if (isSmall) {
            fillArea(sheet, region);
            ++out.droppedAreas;
        }
        paper.isArea.push_back(!region.touchesEdge && !isSmall);
    }
    return paper;
}

/// The map of paper and ink; the faces of the paper come first, in the order of its regions.
base::Result<PlanarMap> mapOf(const Sheet& sheet, Regions& paper, const Grey& covered, double smoothness,
                              const base::Progress& progress) {
    const auto inks = raster::findRegions(sheet.ink, kInk, Connectivity::Eight, progress);
    if (!inks)
        return inks.error();
    std::vector<std::int32_t> rank(paper.all.size(), 1); // ink runs through where pixels meet at a corner
    rank.resize(paper.all.size() + inks->all.size(), 0);
    const raster::LabelMap faces = facesOf(std::move(paper.labels), paper.all.size(), *inks);
    const raster::LevelAt shown = raster::levelsOf(sheet.grey);
    const raster::LevelAt level = covered.values.empty() ? shown : [&](int x, int y) {
        const bool isWithin = x >= 0 && y >= 0 && x < covered.width && y < covered.height;
        return isWithin && covered.at(x, y) == kInk ? std::numeric_limits<double>::quiet_NaN() : shown(x, y);
    };
    constexpr double kLeastStep = 24; // grey levels: below it noise would speak
    return drawMap(
        faces, rank, [&](int, int) { return level; },
        {.leastStep = kLeastStep, .darkest = sheet.inkLevel, .carriesOn = !covered.values.empty()},
        {.smoothness = smoothness}, progress);
}

/// A drawing looked at up to its leaks: all but the drawing of outlines.
struct Looked {
    Sheet sheet;
    FoldLines folds;
    Paper paper;
};
base::Result<Looked> lookedAt(const raster::Picture& picture, double mmPerPx, const Recipe& recipe, Tracing& out,
                              const base::Progress& progress) {
    out.widthPx = picture.width;
    out.heightPx = picture.height;
    const double leastPx = recipe.leastAreaMm2 / (mmPerPx * mmPerPx);
    progress.report(0.0, "Finding the ink");
    auto found = sheetOf(picture, recipe);
    if (!found)
        return found.error();
    Sheet sheet = found.take();
    out.threshold = sheet.threshold;
    auto folds = takeFolds(sheet.grey, sheet.ink, sheet.threshold, mmPerPx, recipe, progress);
    if (!folds)
        return folds.error();
    auto left = foldsLeft(sheet.grey, sheet.threshold, mmPerPx, recipe, progress);
    if (!left)
        return left.error();
    out.mayFold = left.take();
    if (auto dropped = dropSpecks(sheet, recipe.leastAreaMm2, leastPx, out, progress); !dropped)
        return dropped.error();

    progress.report(0.15, "Finding the areas");
    auto lies = paperOf(sheet, leastPx, out, progress);
    if (!lies)
        return lies.error();
    Paper paper = lies.take();

    progress.report(0.3, "Looking for leaks");
    const double widestPx = recipe.widestGapMm / mmPerPx;
    const auto passages = raster::findPassages(
        sheet.ink, paper.regions,
        {.widestPx = widestPx, .leastSidePx = std::max(4 * leastPx, 2 * widestPx * widestPx)}, progress);
    if (!passages)
        return passages.error();
    out.leaks = leaksOf(*passages, paper.regions, sheet.ink, widestPx);
    return Looked{std::move(sheet), folds.take(), std::move(paper)};
}

/// The outlines of what was found.
base::Result<Tracing> outlined(Looked looked, const raster::Picture& picture, const Recipe& recipe, Tracing out,
                               const base::Progress& progress) {
    auto& sheet = looked.sheet;
    auto& folds = looked.folds;
    auto& paper = looked.paper;
    out.paper = paperColour(picture, sheet.grey, paper.regions, recipe.isLightOnDark);

    progress.report(0.45, "Outlining");
    const auto map = mapOf(sheet, paper.regions, folds.covered, recipe.smoothness, progress.part(0.5, 0.9));
    if (!map)
        return map.error();
    const size_t papers = paper.regions.all.size();
    const auto isInk = [&](int face) { return static_cast<size_t>(face) >= papers; };
    out.ink = outlinesOf(*map, isInk);
    out.backing = outlinesOf(*map, [&](int face) {
        return isInk(face) || !paper.regions.all[static_cast<size_t>(face)].touchesEdge;
    });
    sortLargestFirst(out.ink);
    sortLargestFirst(out.backing);
    const std::vector<geometry::Shape> shapes = faceShapes(*map);
    for (size_t i = 0; i < papers; ++i)
        if (paper.isArea[i] && !shapes[i].outline.segments.empty())
            out.areas.push_back({static_cast<int>(out.areas.size() + 1), shapes[i],
                                 geometry::pointInside(shapes[i]),
                                 colourOf(picture, sheet.grey, paper.regions.all[i], recipe.isLightOnDark), 0});
    out.folds = foldsOn(out.areas, folds.lines);
    progress.report(1, "Done");
    return out;
}

} // namespace

base::Result<Gapless> traceGapless(const raster::Picture& given, double mmPerPx, Recipe recipe,
                                   const base::Progress& progress) {
    const Lightened lightened = lightenedLines(given, recipe, progress);
    const raster::Picture& picture = lightened.picture.isEmpty() ? given : lightened.picture;
    // A closed gap may uncover another one behind it. The last look, which finds none, is the one that is outlined.
    constexpr int kRounds = 3;
    for (int round = 0;; ++round) {
        Tracing found;
        found.shadow = lightened.shadow;
        auto looked = lookedAt(picture, mmPerPx, recipe, found, progress);
        if (!looked)
            return looked.error();
        const size_t before = recipe.closings.size();
        for (const Leak& leak : found.leaks)
            if (leak.closure && round < kRounds)
                recipe.closings.push_back(*leak.closure);
        if (recipe.closings.size() > before)
            continue;
        auto traced = outlined(looked.take(), picture, recipe, std::move(found), progress);
        if (!traced)
            return traced.error();
        return Gapless{std::move(recipe), traced.take()};
    }
}

base::Result<Tracing> traceLineDrawing(const raster::Picture& given, double mmPerPx, const Recipe& recipe,
                                       const base::Progress& progress) {
    const Lightened lightened = lightenedLines(given, recipe, progress);
    const raster::Picture& picture = lightened.picture.isEmpty() ? given : lightened.picture;
    Tracing out;
    out.shadow = lightened.shadow;
    auto looked = lookedAt(picture, mmPerPx, recipe, out, progress);
    return looked ? outlined(looked.take(), picture, recipe, std::move(out), progress) : looked.error();
}

} // namespace thinline::trace
