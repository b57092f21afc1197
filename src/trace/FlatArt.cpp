// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Flat artwork: areas of colour become pieces, and the pieces become a stack.
//
// Pixels are sorted by colour (raster/Colouring.cpp), parts that are too small are given to what surrounds
// them, and the map of the parts is drawn as every picture is (PlanarMap.cpp). Two things are particular
// to artwork.
//
// Where an edge lies between two colours. A pixel on the way from one colour to the other is measured
// along the straight line between the two in colour space, each as it looks there; that is its level, and edges are found
// in levels. How much brightness and colour have to say follows from the picture's faults. How much an
// edge may be off follows from them too, and is the tolerance with which it is fitted. A pixel of a
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

#include "raster/Colouring.h"
#include "raster/Palette.h"
#include "raster/Parts.h"
#include "trace/PlanarMap.h"
#include "trace/Shadow.h"

#include <algorithm>
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

/// Colours that were told apart in uneven light are given as on white paper: a phone's evening makes no other card.
void balance(raster::Colouring& colouring, const std::optional<std::int32_t>& paper) {
    if (colouring.shading.isEven() || !paper)
        return;
    const Rgb seen = colouring.palette[static_cast<size_t>(*paper)];
    constexpr double kGrey = 0.04, kWhite = 250;
    constexpr int kBright = 110;
    if (raster::colourfulness(seen) > kGrey || std::min({seen[0], seen[1], seen[2]}) < kBright)
        return; // coloured paper
    const auto brighten = [&](Rgb& colour) {
        for (size_t k = 0; k < 3; ++k)
            colour[k] = static_cast<std::uint8_t>(std::min(255L, std::lround(colour[k] * kWhite / seen[k])));
    };
    std::for_each(colouring.palette.begin(), colouring.palette.end(), brighten);
    for (raster::LostColour& one : colouring.lost)
        brighten(one.colour);
}

/// How much of a colour there is in a map, and where.
struct Shown {
    std::int64_t pixels = 0;
    geometry::Point place;
};
std::vector<Shown> shownOf(const LabelMap& map, size_t colours) {
    std::vector<Shown> out(colours);
    for (int y = 0; y < map.height; ++y)
        for (int x = 0; x < map.width; ++x) {
            Shown& one = out[static_cast<size_t>(map.at(x, y))];
            if (one.pixels++ == 0)
                one.place = {x + 0.5, y + 0.5};
        }
    return out;
}

/// The colours that became no area: those of which all parts were too small, and those that were never told apart.
std::vector<LostColour> lostColours(const raster::Colouring& colouring, const std::vector<Shown>& before,
                                    double leastPx) {
    std::vector<LostColour> out;
    const std::vector<Shown> after = shownOf(colouring.map, colouring.palette.size());
    constexpr double kApart = 5; // one that is nearer to another is hardly missed
    for (size_t i = 0; i < before.size(); ++i) {
        if (after[i].pixels > 0 || static_cast<double>(before[i].pixels) < leastPx)
            continue;
        bool isMissed = true;
        for (size_t k = 0; k < after.size(); ++k)
            if (after[k].pixels > 0 && raster::unlikeness(colouring.palette[i], colouring.palette[k]) < kApart)
                isMissed = false;
        if (isMissed)
            out.push_back({colouring.palette[i], static_cast<double>(before[i].pixels), before[i].place, true});
    }
    for (const raster::LostColour& one : colouring.lost)
        out.push_back({one.colour, one.areaPx, {one.x + 0.5, one.y + 0.5}, one.isSmall});
    return out;
}

/// Levels of a pixel between the colours of two faces: how far it lies on the way from one to the other, each as it looks
/// there.
LevelsFor levelsBetween(const raster::Picture& picture, const raster::Colouring& colouring,
                        const std::vector<std::int32_t>& colourOfFace) {
    return [&](int right, int left) -> Levels {
        const auto a = static_cast<size_t>(colourOfFace[static_cast<size_t>(right)]),
                   b = static_cast<size_t>(colourOfFace[static_cast<size_t>(left)]);
        const auto level = [&, a, b](int x, int y) {
            const auto label = static_cast<size_t>(colouring.map.at(x, y));
            return label == a || label == b ? 255 * colouring.shareOf(picture, a, b, x, y)
                                            : std::numeric_limits<double>::quiet_NaN();
        };
        return {level, colouring.doubt(a, b), Remainder::Plain{255, 0}};
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

/// A picture sorted by colour, without the shadow over it where that is taken out.
struct Sorted {
    raster::Colouring colouring;
    raster::Picture lightened; ///< empty: nothing was taken out
    std::optional<SeenShadow> shadow;
};
base::Result<Sorted> sorted(const raster::Picture& picture, double mmPerPx, const Recipe& recipe, const base::Progress& progress) {
    const raster::ColouringOptions options{
        .mmPerPx = mmPerPx, .leastMm2 = recipe.leastAreaMm2, .count = recipe.colours, .picked = recipe.picked};
    auto found = raster::coloured(picture, options, progress.part(0, 0.7));
    if (!found)
        return found.error();
    Sorted out{found.take(), {}, {}};
    const auto shadow = raster::castShadowIn(picture, out.colouring, progress);
    if (!shadow)
        return out;
    out.shadow = seenShadow(*shadow, recipe.darkPart, shadow->isSure);
    if (recipe.darkPart == DarkPart::Paint)
        return out;
    raster::Picture without = raster::withoutShadow(picture, *shadow);
    auto again = raster::coloured(without, options, progress.part(0.7, 1));
    if (!again)
        return again.error();
    // A shadow makes two colours of one; what leaves as many as before is none, unless whoever saw it says so.
    if (again->palette.size() >= out.colouring.palette.size() && recipe.colours == 0 && recipe.darkPart == DarkPart::Unsaid)
        out.shadow.reset();
    else if (out.shadow->isTakenOut) {
        out.lightened = std::move(without);
        out.colouring = again.take();
    }
    return out;
}

} // namespace

base::Result<Tracing> traceFlatArt(const raster::Picture& given, double mmPerPx, const Recipe& recipe,
                                   const base::Progress& progress) {
    Tracing out;
    out.widthPx = given.width;
    out.heightPx = given.height;
    auto found = sorted(given, mmPerPx, recipe, progress.part(0, 0.45));
    if (!found)
        return found.error();
    Sorted told = found.take();
    out.shadow = told.shadow;
    raster::Colouring& colouring = told.colouring;
    const raster::Picture& picture = told.lightened.isEmpty() ? given : told.lightened;
    const std::vector<Rgb>& palette = colouring.palette;
    balance(colouring, paperLabel(colouring.map, palette.size()));
    out.isInEvenLight = !colouring.shading.isEven();
    if (palette.size() < 2)
        return Error{Code::Degenerate, "The picture has only one colour; choose one with areas of different "
                                       "colours, or ask for more colours."};
    LabelMap& colours = colouring.map;
    merge(colours, palette, recipe.merges);
    const double leastPx = recipe.leastAreaMm2 / (mmPerPx * mmPerPx);
    const std::vector<Shown> before = shownOf(colours, palette.size());
    auto dropped = raster::mergeSmall(colours, leastPx, progress);
    if (!dropped)
        return dropped.error();
    out.droppedAreas = *dropped;
    out.lost = lostColours(colouring, before, 1 / (mmPerPx * mmPerPx));
    auto parted = raster::partsOf(colours, progress);
    if (!parted)
        return parted.error();
    const Parts parts = parted.take();

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
                levelsBetween(picture, colouring, parts.label),
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
