// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Folds of a drawing, and the outline beneath their ends.
//
// A fold drawn from edge to edge spoils the outline where it meets it: its ink and the outline's are one.
// Taking the fold's pixels out is not enough. A stub is left, one to three pixels high, or as long as the
// first dash; and the soft edge of the outline was never drawn there, so nothing a pixel could say would be
// right. So nothing is read there at all. Every line is followed beyond its end through the ink it runs
// into, and a band as wide as the line and its soft edges is marked as covered. Borders are not measured in
// it: they are carried on from both sides (Covered.cpp), straight, round or to a corner.
//
// The stub itself stays in the ink. It lies in the band, so no border follows it; and taking out what is not
// surely the fold's could break the outline, and with it the piece.
#include "trace/FoldLines.h"

#include "geometry/Lines.h"
#include "geometry/Measured.h"
#include "raster/Strokes.h"

#include <algorithm>
#include <cmath>

namespace thinline::trace {
namespace {

using geometry::Point;
using geometry::Polygon;
using raster::FineLine;
using raster::Grey;

constexpr std::uint8_t kInk = 255, kPaper = 0;

/// How far a line's end may lie from what it is meant to reach.
double reachOf(const FineLine& line) {
    const double least = 4 * std::max(2.0, line.thicknessPx);
    // A row may begin with a gap, or with a dash too short to be told from the outline.
    return line.isDashed() ? std::max(2 * least, 1.5 * line.gapPx + 3 * line.thicknessPx + 2) : least;
}

/// Visits the pixels within a distance of a place.
template <class Visit>
void eachNear(const Grey& within, Point place, double reach, Visit visit) {
    const auto low = [&](double v) { return std::max(0, static_cast<int>(std::floor(v - reach))); };
    const int x1 = std::min(within.width - 1, static_cast<int>(place.x + reach)),
              y1 = std::min(within.height - 1, static_cast<int>(place.y + reach));
    for (int y = low(place.y); y <= y1; ++y)
        for (int x = low(place.x); x <= x1; ++x)
            if (geometry::distance(place, {x + 0.5, y + 0.5}) <= reach)
                visit(x, y);
}

/// Takes pixels out of the ink and their soft edges out of the grey: what is left looks like the paper around.
void eraseInk(Grey& grey, Grey& ink, const std::vector<std::uint32_t>& pixels) {
    constexpr int kSoft = 2;
    const auto width = static_cast<std::uint32_t>(ink.width);
    const auto eachAround = [&](int rim, const auto& visit) {
        for (const std::uint32_t at : pixels) {
            const int px = static_cast<int>(at % width), py = static_cast<int>(at / width);
            for (int y = std::max(0, py - rim); y <= std::min(ink.height - 1, py + rim); ++y)
                for (int x = std::max(0, px - rim); x <= std::min(ink.width - 1, px + rim); ++x)
                    visit(x, y);
        }
    };
    std::uint8_t paper = 0;
    eachAround(kSoft + 1, [&](int x, int y) { paper = std::max(paper, grey.at(x, y)); });
    for (const std::uint32_t at : pixels)
        ink.values[at] = kPaper;
    const auto touchesInk = [&](int x, int y) { // a soft edge of what stays is not the line's
        for (int ny = std::max(0, y - 1); ny <= std::min(ink.height - 1, y + 1); ++ny)
            for (int nx = std::max(0, x - 1); nx <= std::min(ink.width - 1, x + 1); ++nx)
                if (ink.at(nx, ny) == kInk)
                    return true;
        return false;
    };
    for (const std::uint32_t at : pixels)
        grey.values[at] = paper;
    eachAround(kSoft, [&](int x, int y) {
        if (!touchesInk(x, y))
            grey.at(x, y) = std::max(grey.at(x, y), paper);
    });
}

/// The places of a line beyond one of its ends, a step apart: over paper to the ink it means to reach, along
/// what is left of its own in there, and nearly to the far edge. None where there is no ink to reach.
Polygon beyondEnd(const Grey& ink, const FineLine& line, bool isFront) {
    constexpr double kStep = 0.5, kFarEdge = 1.5;
    const Polygon& middle = line.middle;
    const Point from = isFront ? middle.front() : middle.back(),
                out = geometry::direction(isFront ? from - middle[1] : from - middle[middle.size() - 2]);
    double d = 0;
    while (d < reachOf(line) && !raster::isInkAt(ink, from + out * d))
        d += kStep;
    if (d >= reachOf(line))
        return {};
    // A stub too short to be told from the outline, and the outline crossed aslant.
    const double farthest = d + 2.5 * line.thicknessPx + 6;
    while (d < farthest && raster::isInkAt(ink, from + out * d))
        d += kStep;
    Polygon places;
    for (double at = 0; at <= d - kFarEdge; at += kStep)
        places.push_back(from + out * at);
    return places;
}

/// A fine line as few curves: folds are creases, as plain as they come.
geometry::Line lineOf(const FineLine& fine) {
    const Polygon& middle = fine.middle;
    if (middle.size() == 2)
        return {middle.front(), {geometry::Segment::line(middle.back())}};
    const geometry::MeasuredEnd from{middle.front(), {}, true}, to{middle.back(), {}, true};
    geometry::MeasuredOptions options;
    options.tolerance = std::max(0.5, 0.3 * fine.thicknessPx);
    return geometry::fitMeasuredLine(Polygon(middle.begin() + 1, middle.end() - 1), from, to, options);
}

raster::FineLineOptions optionsOf(double thinnerMm, bool dashes, double mmPerPx) {
    constexpr double kLeastMm = 5, kLongestDashMm = 12,
                     kThickestDashMm = 1.5; // beyond: strokes of the drawing
    return {.thinnerPx = thinnerMm / mmPerPx,
            .dashes = dashes,
            .leastPx = kLeastMm / mmPerPx,
            .longestDashPx = kLongestDashMm / mmPerPx,
            .thickestDashPx = kThickestDashMm / mmPerPx};
}

/// The grey with so many pixels averaged into one, each way.
Grey reducedBy(const Grey& grey, int factor) {
    Grey out{grey.width / factor, grey.height / factor, {}};
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            int sum = 0;
            for (int dy = 0; dy < factor; ++dy)
                for (int dx = 0; dx < factor; ++dx)
                    sum += grey.at(x * factor + dx, y * factor + dy);
            out.values.push_back(static_cast<std::uint8_t>(sum / (factor * factor)));
        }
    return out;
}

/// What may part two widths of a pen, px, the thinnest first: the middles of the stretches that hardly any width falls
/// into. None where there is one pen, or a brush.
std::vector<double> betweenPens(const std::vector<double>& widths) {
    constexpr double kLeastShare = 0.08, kHardlyAny = 0.01, kStep = 0.5;
    constexpr size_t kEnough = 200, kMost = 3; // px of line; stretches
    std::vector<double> out;
    if (widths.size() < kEnough)
        return out;
    std::vector<double> shares;
    for (const double w : widths) {
        shares.resize(std::max(shares.size(), static_cast<size_t>(w / kStep) + 1));
        shares[static_cast<size_t>(w / kStep)] += 1 / static_cast<double>(widths.size());
    }
    double below = 0;
    for (size_t i = 0, from = 0; i < shares.size() && out.size() < kMost; ++i) {
        below += shares[i];
        if (shares[i] >= kHardlyAny) {
            from = i + 1;
            continue;
        }
        const bool isLast = i + 1 == shares.size() || shares[i + 1] >= kHardlyAny;
        if (isLast && below >= kLeastShare && 1 - below >= kLeastShare)
            out.push_back(kStep * static_cast<double>(from + i + 1) / 2);
    }
    return out;
}

} // namespace

base::Result<FoldLines> takeFolds(Grey& grey, Grey& ink, int threshold, double mmPerPx, const Recipe& recipe,
                                  const base::Progress& progress) {
    FoldLines out;
    if (recipe.foldsBelowMm <= 0 && !recipe.dashesFold)
        return out;
    auto lines = raster::findFineLines(grey, threshold,
                                       optionsOf(recipe.foldsBelowMm, recipe.dashesFold, mmPerPx), progress);
    if (!lines)
        return lines.error();
    out.lines = lines.take();
    out.covered = {ink.width, ink.height, std::vector<std::uint8_t>(ink.values.size(), 0)};
    for (const FineLine& line : out.lines)
        eraseInk(grey, ink, line.pixels);
    constexpr double kSoft = 2.5;
    for (const FineLine& line : out.lines) {
        const auto cover = [&](Point p) {
            eachNear(out.covered, p, line.thicknessPx / 2 + kSoft,
                     [&](int x, int y) { out.covered.at(x, y) = kInk; });
        };
        Polygon places{line.middle.front()};
        for (const Point p : line.middle)
            raster::addWay(places, p);
        std::for_each(places.begin(), places.end(), cover);
        for (const bool isFront : {true, false}) {
            const Polygon beyond = beyondEnd(ink, line, isFront);
            std::for_each(beyond.begin(), beyond.end(), cover);
        }
    }
    return out;
}

base::Result<FoldHint> foldsLeft(const Grey& grey, int threshold, double mmPerPx, const Recipe& recipe,
                                 const base::Progress& progress) {
    FoldHint out;
    constexpr double kMostLooked = 1.5e6, kCoarsestMm = 0.25; // a hint must not cost what tracing does
    const double pixels = static_cast<double>(grey.width) * grey.height;
    if (const int factor = static_cast<int>(std::ceil(std::sqrt(pixels / kMostLooked))); factor > 1)
        return mmPerPx * factor > kCoarsestMm
                   ? base::Result<FoldHint>(out)
                   : foldsLeft(reducedBy(grey, factor), threshold, mmPerPx * factor, recipe, progress);
    constexpr double kLongMm = 10, kThickestMm = 3.5;
    const Grey ink = raster::lineInk(grey, threshold, kThickestMm / mmPerPx);
    const auto roughly = [&](double thinnerMm, bool dashes) {
        return raster::glimpsedLines(ink, optionsOf(thinnerMm, dashes, mmPerPx), progress);
    };
    const auto straightOf = [&](const std::vector<FineLine>& lines) {
        return static_cast<int>(std::count_if(lines.begin(), lines.end(), [&](const FineLine& line) {
            return line.middle.size() == 2 &&
                   geometry::distance(line.middle[0], line.middle[1]) * mmPerPx >= kLongMm;
        }));
    };
    if (recipe.foldsBelowMm <= 0)
        for (const double limit : betweenPens(raster::widthsAlong(ink, kThickestMm / mmPerPx))) {
            const double thinnerMm = std::max(0.05, std::round(limit * mmPerPx * 20) / 20);
            const auto lines = roughly(thinnerMm, false);
            if (!lines)
                return lines.error();
            const int straight = straightOf(*lines);
            if (2 * straight <= static_cast<int>(lines->size())) // none, or a drawing in two pens
                continue;
            out.thin = straight;
            out.thinnerMm = thinnerMm;
            break;
        }
    if (!recipe.dashesFold) {
        const auto rows = roughly(0, true);
        if (!rows)
            return rows.error();
        out.dashed = straightOf(*rows);
    }
    return out;
}

std::vector<geometry::Line> foldsOn(const std::vector<Area>& areas, const std::vector<FineLine>& lines) {
    std::vector<geometry::Line> out;
    for (const FineLine& fine : lines) {
        const geometry::Line line = lineOf(fine);
        for (const Area& area : areas)
            if (auto parts = geometry::extendedToEdge(line, area.shape, reachOf(fine)))
                for (const geometry::Line& part : *parts)
                    if (geometry::contourLength(part) > reachOf(fine))
                        out.push_back(part);
    }
    return out;
}

} // namespace thinline::trace
