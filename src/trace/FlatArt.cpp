// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Flat artwork: areas of colour become pieces, and the pieces become a stack.
//
// Pixels are sorted by colour (raster/ColourMap.cpp), parts that are too small are given to what surrounds
// them, and the map of the parts is drawn as every picture is (PlanarMap.cpp). Two things are particular
// to artwork.
//
// Where an edge lies between two colours. A pixel on the way from one colour to the other is measured
// along the straight line between the two in colour space; that is its level, and edges are found in
// levels. Where the file keeps colour more coarsely than brightness, as JPEG mostly does, the colour of a
// pixel is that of a block of four, and an edge measured by it would be a pixel off. Then brightness alone
// is asked, if the two colours differ in it by enough to be seen above the picture's faults. How much an
// edge may be off follows from that difference, and is the tolerance with which it is fitted. A pixel of a
// third colour has no level: it says nothing about this edge.
//
// What lies on what. The picture shows areas side by side, but they are cut from sheets that lie on one
// another. An area that is enclosed by a single other one lies on it. Added up over all areas, this gives
// for any two colours how much area says that the first lies below the second. Colours are then laid down
// one after the other, each time the one that fewest of the rest want beneath them, the larger first where
// nothing decides. There may be circles (red on blue here, blue on red there); they are cut where it costs
// least area.
//
// The paper is the colour along most of the picture's frame. It goes right through: its parts inside the
// design are openings.
#include "trace/FlatArt.h"

#include "raster/Palette.h"
#include "raster/Parts.h"
#include "trace/PlanarMap.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

namespace thinline::trace {
namespace {

using base::Code;
using base::Error;
using raster::LabelMap;
using raster::Parts;
using raster::Rgb;

/// The palette's colour nearest to one that was named earlier.
size_t nearestIn(const std::vector<Rgb>& palette, Rgb colour) {
    size_t best = 0;
    for (size_t i = 1; i < palette.size(); ++i)
        if (raster::colourDistance(palette[i], colour) < raster::colourDistance(palette[best], colour))
            best = i;
    return best;
}

/// The colours found and those taken by hand.
std::vector<Rgb> paletteOf(const raster::Picture& picture, const Recipe& recipe) {
    std::vector<Rgb> palette = raster::findPalette(picture, {.count = recipe.colours});
    for (const Rgb& colour : recipe.picked) {
        constexpr double kSame = 0.003; // not to be told apart
        if (palette.size() < static_cast<size_t>(kMostColours) &&
            (palette.empty() || raster::colourDistance(palette[nearestIn(palette, colour)], colour) > kSame))
            palette.push_back(colour);
    }
    return palette;
}

/// Merged colours take the label of what they go with.
void merge(LabelMap& map, const std::vector<Rgb>& palette, const std::vector<ColourMerge>& merges) {
    std::vector<std::int32_t> becomes(palette.size());
    std::iota(becomes.begin(), becomes.end(), 0);
    for (const ColourMerge& m : merges) {
        const auto from = static_cast<std::int32_t>(nearestIn(palette, m.from)),
                   into = becomes[nearestIn(palette, m.into)];
        for (std::int32_t& b : becomes)
            if (b == from)
                b = into;
    }
    for (std::int32_t& label : map.labels)
        label = becomes[static_cast<size_t>(label)];
}

/// The colour that runs along most of the picture's edge; none when no colour does.
std::optional<std::int32_t> paperLabel(const LabelMap& map, size_t colours) {
    std::vector<std::int64_t> along(colours, 0);
    std::int64_t all = 0;
    const auto note = [&](int x, int y) {
        ++along[static_cast<size_t>(map.at(x, y))];
        ++all;
    };
    for (int x = 0; x < map.width; ++x) {
        note(x, 0);
        note(x, map.height - 1);
    }
    for (int y = 0; y < map.height; ++y) {
        note(0, y);
        note(map.width - 1, y);
    }
    const auto most = std::max_element(along.begin(), along.end());
    return *most * 2 > all ? std::optional(static_cast<std::int32_t>(most - along.begin())) : std::nullopt;
}

/// Levels of a pixel between the colours of two faces: how far it lies on the way from one to the other.
/// Where the picture's colours are coarser than its brightness, by brightness alone if the two differ in it.
LevelsFor levelsBetween(const raster::Picture& picture, const LabelMap& colours,
                        const std::vector<Rgb>& palette, const std::vector<std::int32_t>& colourOfFace,
                        bool isCoarse) {
    return [&, isCoarse](int right, int left) -> Levels {
        const std::int32_t a = colourOfFace[static_cast<size_t>(right)],
                           b = colourOfFace[static_cast<size_t>(left)];
        const Rgb ca = palette[static_cast<size_t>(a)], cb = palette[static_cast<size_t>(b)];
        std::array<double, 3> step{};
        for (size_t k = 0; k < 3; ++k)
            step[k] = static_cast<double>(ca[k]) - cb[k];
        constexpr std::array<double, 3> kLuma = {0.299, 0.587, 0.114}; // as JPEG parts brightness from colour
        const double luma = kLuma[0] * step[0] + kLuma[1] * step[1] + kLuma[2] * step[2];
        constexpr double kLeastLuma = 20;
        if (isCoarse && std::abs(luma) >= kLeastLuma)
            for (size_t k = 0; k < 3; ++k)
                step[k] = kLuma[k] * luma;
        const double whole = isCoarse && std::abs(luma) >= kLeastLuma
                                 ? luma * luma
                                 : std::max(1.0, step[0] * step[0] + step[1] * step[1] + step[2] * step[2]);
        const auto level = [&, a, b, cb, step, whole](int x, int y) {
            const std::int32_t label = colours.at(x, y);
            if (label != a && label != b)
                return std::numeric_limits<double>::quiet_NaN();
            const std::uint8_t* p = picture.row(y) + static_cast<size_t>(x) * 3;
            const double along =
                ((p[0] - cb[0]) * step[0] + (p[1] - cb[1]) * step[1] + (p[2] - cb[2]) * step[2]) / whole;
            return 255 * std::clamp(along, 0.0, 1.0);
        };
        // The less two colours differ, the more the picture's own faults shift their border; colour alone is
        // kept in blocks of two pixels.
        constexpr double kFaults = 10, kBlocks = 0.55;
        const double doubt = !isCoarse                     ? 0
                             : std::abs(luma) < kLeastLuma ? kBlocks
                                                           : std::min(kBlocks, kFaults / std::abs(luma));
        return {level, doubt, Remainder::Plain{255, 0}};
    };
}

/// The order of the stack: what encloses lies below; else the larger lies below.
std::vector<int> levelsOf(const PlanarMap& map, const Parts& parts, const std::vector<bool>& isCut,
                          size_t colours) {
    // Around every face: the one face on the other side of its outline, if there is just one.
    constexpr int kNobody = -2, kMany = -3;
    std::vector<int> around(static_cast<size_t>(map.faces), kNobody);
    std::vector<std::vector<double>> below(colours, std::vector<double>(colours, 0));
    const auto note = [&](int face, int other) {
        if (face < 0)
            return;
        int& there = around[static_cast<size_t>(face)];
        there = there == kNobody || there == other ? other : kMany;
    };
    for (const MapEdge& e : map.edges) {
        // A ring is the outline of what lies inside it, and an opening of what lies around.
        const bool isRing = e.from < 0, isRightInside = isRing && geometry::signedArea(e.curve) > 0;
        if (!isRing || isRightInside)
            note(e.right, e.left);
        if (!isRing || !isRightInside)
            note(e.left, e.right);
    }
    for (size_t face = 0; face < around.size(); ++face)
        if (around[face] >= 0)
            below[static_cast<size_t>(parts.label[static_cast<size_t>(around[face])])]
                 [static_cast<size_t>(parts.label[face])] += static_cast<double>(parts.areaPx[face]);
    std::vector<double> area(colours, 0);
    for (size_t face = 0; face < parts.label.size(); ++face)
        area[static_cast<size_t>(parts.label[face])] += static_cast<double>(parts.areaPx[face]);
    // Lay down, one after the other, the colour that fewest of the rest want beneath them.
    std::vector<int> level(colours, -1);
    for (int next = 0;; ++next) {
        size_t best = colours;
        double least = 0;
        for (size_t c = 0; c < colours; ++c) {
            if (level[c] >= 0 || !isCut[c] || area[c] == 0)
                continue;
            double wanting = 0;
            for (size_t d = 0; d < colours; ++d)
                if (level[d] < 0 && isCut[d] && d != c)
                    wanting += std::max(0.0, below[d][c] - below[c][d]);
            if (best == colours || wanting < least || (wanting == least && area[c] > area[best])) {
                best = c;
                least = wanting;
            }
        }
        if (best == colours)
            return level;
        level[best] = next;
    }
}

} // namespace

base::Result<Tracing> traceFlatArt(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                   const base::Progress& progress) {
    Tracing out;
    out.widthPx = picture.width;
    out.heightPx = picture.height;
    progress.report(0, "Finding the colours");
    const std::vector<Rgb> palette = paletteOf(picture, recipe);
    if (palette.size() < 2)
        return Error{Code::Degenerate, "The picture has only one colour; choose one with areas of different "
                                       "colours, or ask for more colours."};
    progress.report(0.2, "Sorting pixels by colour");
    auto mapped = raster::colourMap(picture, palette, progress);
    if (!mapped)
        return mapped.error();
    LabelMap colours = mapped.take();
    merge(colours, palette, recipe.merges);
    const double leastPx = recipe.leastAreaMm2 / (mmPerPx * mmPerPx);
    auto dropped = raster::mergeSmall(colours, leastPx, progress);
    if (!dropped)
        return dropped.error();
    out.droppedAreas = *dropped;
    auto found = raster::partsOf(colours, progress);
    if (!found)
        return found.error();
    const Parts parts = found.take();

    std::vector<bool> isCut(palette.size(), true);
    if (const auto paper = paperLabel(colours, palette.size())) {
        out.paper = palette[static_cast<size_t>(*paper)];
        isCut[static_cast<size_t>(*paper)] = false;
    }
    for (const Rgb& colour : recipe.notCut)
        if (const size_t label = nearestIn(palette, colour);
            raster::colourDistance(palette[label], colour) < kNamedColour)
            isCut[label] = false;

    progress.report(0.5, "Fitting curves");
    std::vector<std::int32_t> rank; // where pixels meet at a corner the smaller part runs through
    for (const std::int64_t area : parts.areaPx)
        rank.push_back(static_cast<std::int32_t>(std::min<std::int64_t>(area, 1 << 30)));
    constexpr double kLeastStep = 40;
    auto drawn =
        drawMap(parts.map, rank,
                levelsBetween(picture, colours, palette, parts.label, raster::hasCoarseColour(picture)),
                {.leastStep = kLeastStep, .darkest = 0, .lightest = 255}, {.smoothness = recipe.smoothness},
                progress.part(0.5, 0.95));
    if (!drawn)
        return drawn.error();
    const std::vector<int> levels = levelsOf(*drawn, parts, isCut, palette.size());
    const std::vector<geometry::Shape> shapes = faceShapes(*drawn);
    // The paper goes right through: its parts inside the design are openings, not pieces.
    for (size_t face = 0; face < shapes.size(); ++face) {
        const auto label = static_cast<size_t>(parts.label[face]);
        if (!isCut[label] || shapes[face].outline.segments.empty())
            continue;
        out.areas.push_back({static_cast<int>(out.areas.size() + 1), shapes[face],
                             geometry::pointInside(shapes[face]), palette[label], levels[label]});
    }
    if (out.areas.empty())
        return Error{Code::Degenerate,
                     "Nothing is left to cut: every colour is the paper's or set to not cut."};
    out.palette = palette;
    progress.report(1, "Done");
    return out;
}

} // namespace thinline::trace
