// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Ends: where fine lines stop, and whether they do.
//
// A line is found as far as its ink is its own. Where it crosses others, or many meet in one place, the ink
// runs into a blot that is thicker than any of them, and every line stops short of it. Left alone, ten folds
// through the middle of a disc would be twenty, around an opening nobody drew. Three things settle it:
//
// - Two ends that face each other, in line within a line's thickness, across nothing but ink (or across as much
//   as a row that lacks a dash), are one place of one line. Pairs are taken best first, each end once, and the
//   lines between them strung together.
// - A blot that several lines run through or point at, that belongs to nothing else and is no larger than so
//   many lines make, is theirs, and is taken out of the ink with them. A ring around a rivet has a hole and stays.
// - An end that nearly reaches another line is run on to it, as a fold ends at a fold.
//
// Straight lines are then written as two points. The ends of a line are where its pixels say least, being
// mixed with what it meets; a line through all of them says more.
#include "raster/LineEnds.h"

#include "raster/Strokes.h"

#include <algorithm>
#include <cmath>
#include <tuple>
#include <unordered_map>

namespace thinline::raster {

using geometry::Point;
using geometry::Polygon;

namespace {

constexpr std::uint8_t kInk = 255;

void addPixels(FineLine& line, const Region& region, int width) {
    const std::vector<std::uint32_t> more = pixelsOf(region, width);
    line.pixels.insert(line.pixels.end(), more.begin(), more.end());
}

/// An end of a line, and the way it points.
struct End {
    size_t line = 0;
    bool isFront = true;
    Point place, out;
};

End endOf(const FineLine& of, size_t line, bool isFront) {
    constexpr size_t kLook = 20;
    const Polygon& middle = of.middle;
    const size_t look = std::min(kLook, middle.size() - 1);
    const Point place = isFront ? middle.front() : middle.back(),
                before = isFront ? middle[look] : middle[middle.size() - 1 - look];
    return {line, isFront, place, geometry::direction(place - before)};
}

/// Two ends that may be one place of one line.
struct Facing {
    double cosine = 0; ///< between the ways they point
    size_t a = 0, b = 0;
};

/// The pairs of ends that face each other across ink, which is thicker than any line where many meet, or across a
/// few gaps. An end is 2 x line, or that plus one for its last point.
std::vector<Facing> facingEnds(const Grey& ink, const FineLineOptions& options,
                               const std::vector<FineLine>& lines) {
    constexpr double kFacing = -0.97;                   // cosine: within 14 degrees
    const auto inkBetween = [&](Point from, Point to) { // as a share of the way
        const double wide = geometry::distance(from, to);
        const Point along = geometry::direction(to - from);
        constexpr double kEnds = 3; // px at either end that may be soft
        double inks = 1, all = 1;
        for (double d = kEnds; d < wide - kEnds; d += 0.5, all += 1)
            inks += isInkAt(ink, from + along * d);
        return inks / all;
    };
    std::vector<End> ends;
    for (size_t i = 0; i < lines.size(); ++i) {
        ends.push_back(endOf(lines[i], i, true));
        ends.push_back(endOf(lines[i], i, false));
    }
    std::vector<Facing> out;
    for (size_t a = 0; a < ends.size(); ++a)
        for (size_t b = a / 2 * 2 + 2; b < ends.size(); ++b) {
            const FineLine &one = lines[a / 2], &other = lines[b / 2];
            const double thick = std::max(one.thicknessPx, other.thicknessPx);
            // A row may miss a dash, and dashes may be lost in what lies between.
            const double dash = 2 * std::min(one.gapPx, other.gapPx) + std::min(one.dashPx, other.dashPx);
            const double share = one.isDashed() && other.isDashed() ? 0.3 : 0.98;
            const double reach = 12 * thick + options.thinnerPx;
            const Point way = ends[b].place - ends[a].place;
            const double wide = geometry::length(way), cosine = geometry::dot(ends[a].out, ends[b].out);
            if (wide > std::max(reach, dash) || cosine > kFacing ||
                geometry::dot(way, ends[a].out) < -6 * thick ||
                std::abs(geometry::cross(way, ends[a].out)) > std::max(2.0, thick))
                continue;
            if (wide <= dash || (wide <= reach && inkBetween(ends[a].place, ends[b].place) >= share))
                out.push_back({cosine, a, b});
        }
    std::sort(out.begin(), out.end(), [](const Facing& a, const Facing& b) {
        return std::tie(a.cosine, a.a, a.b) < std::tie(b.cosine, b.a, b.b);
    });
    return out;
}

/// Adds a line to the end of another, walked from its first point or from its last.
void append(FineLine& to, FineLine line, bool fromFront) {
    if (!fromFront)
        std::reverse(line.middle.begin(), line.middle.end());
    if (to.middle.empty()) {
        to = std::move(line);
        return;
    }
    addWay(to.middle, line.middle.front());
    to.middle.insert(to.middle.end(), line.middle.begin() + 1, line.middle.end());
    to.pixels.insert(to.pixels.end(), line.pixels.begin(), line.pixels.end());
    to.gapPx = std::max(to.gapPx, line.gapPx);
    to.dashPx = std::max(to.dashPx, line.dashPx);
    to.thicknessPx = (to.thicknessPx + line.thicknessPx) / 2;
}

/// Makes one line of those whose ends face each other, the best pairs first.
std::vector<FineLine> joined(const Grey& ink, const FineLineOptions& options,
                             const std::vector<FineLine>& lines) {
    constexpr size_t kNone = static_cast<size_t>(-1);
    std::vector<size_t> partner(2 * lines.size(), kNone);
    for (const Facing& pair : facingEnds(ink, options, lines))
        if (partner[pair.a] == kNone && partner[pair.b] == kNone) {
            partner[pair.a] = pair.b;
            partner[pair.b] = pair.a;
        }
    std::vector<FineLine> out;
    std::vector<bool> isTaken(lines.size(), false);
    const auto walk = [&](size_t end) { // in at this end, out at the other
        FineLine line;
        while (end != kNone && !isTaken[end / 2]) {
            isTaken[end / 2] = true;
            append(line, lines[end / 2], end % 2 == 0);
            end = partner[end ^ 1];
        }
        out.push_back(std::move(line));
    };
    for (size_t end = 0; end < partner.size(); ++end)
        if (partner[end] == kNone && !isTaken[end / 2])
            walk(end);
    for (size_t i = 0; i < lines.size(); ++i) // lines that bite their tail begin anywhere
        if (!isTaken[i])
            walk(2 * i);
    return out;
}

/// How wide the hole is in the middle of a blot. A ring around a rivet is drawn on purpose; dashes around a middle
/// they leave out make a smaller one.
double holeIn(const Regions& rest, std::int32_t label) {
    const Region& region = rest.all[static_cast<size_t>(label - 1)];
    const int x = region.left + region.width / 2, y = region.top + region.height / 2;
    const auto reach = [&](int dx, int dy) {
        int out = 0;
        while (out < std::max(region.width, region.height) && x + out * dx >= 0 && y + out * dy >= 0 &&
               x + out * dx < rest.width && y + out * dy < rest.height &&
               rest.labelAt(x + out * dx, y + out * dy) != label)
            ++out;
        return out;
    };
    return std::max(reach(1, 0) + reach(-1, 0), reach(0, 1) + reach(0, -1));
}

/// Takes the ink that is left where lines meet: what several of them run through or point at, if it is no
/// larger than so many lines make where they run into one another.
void takeCores(const Regions& rest, const FineLineOptions& options, std::vector<FineLine>& lines) {
    struct Core {
        std::vector<size_t> lines;
        int arms = 0;
        double apart = 0; ///< px from line to line where they are still one blot
        double gap = 0;
    };
    std::unordered_map<std::int32_t, Core> cores;
    for (size_t i = 0; i < lines.size(); ++i) {
        const FineLine& line = lines[i];
        std::unordered_map<std::int32_t, int> arms;
        const auto look = [&](Point p, int count) {
            const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
            if (x >= 0 && y >= 0 && x < rest.width && y < rest.height && rest.labelAt(x, y) > 0)
                arms[rest.labelAt(x, y)] = std::max(count, arms[rest.labelAt(x, y)]);
        };
        Polygon places{line.middle.front()};
        for (const Point p : line.middle)
            addWay(places, p);
        for (const Point p : places)
            look(p, 2);
        for (const bool isFront : {true, false}) {
            const End end = endOf(lines[i], i, isFront);
            // A row may end with a gap, a line where it grows too thick.
            for (double d = 0; d <= 5 + 1.5 * line.gapPx; d += 0.5)
                look(end.place + end.out * d, 1);
        }
        for (const auto& [label, count] : arms) {
            Core& core = cores[label];
            core.lines.push_back(i);
            core.arms += count;
            core.gap = std::max(core.gap, line.gapPx);
            core.apart = std::max(core.apart, line.isDashed() ? 2 * line.thicknessPx
                                                              : line.thicknessPx + options.thinnerPx);
        }
    }
    for (const auto& [label, core] : cores) {
        const Region& region = rest.all[static_cast<size_t>(label - 1)];
        constexpr double kLoose = 1.4;
        const double across = kLoose * core.arms * core.apart / 3.14 + core.apart + 3;
        if (core.lines.size() > 1 && std::max(region.width, region.height) <= across &&
            holeIn(rest, label) <= 1.2 * core.gap)
            addPixels(lines[core.lines.front()], region, rest.width);
    }
}

/// Takes the crumbs left beside lines to them: corners of dashes, bits between arms.
void takeCrumbs(const Regions& rest, std::vector<FineLine>& lines) {
    constexpr int kNear = 2;
    for (FineLine& line : lines) {
        const double most = 1.5 * line.thicknessPx + 2;
        std::vector<std::int32_t> crumbs;
        for (const std::uint32_t at : line.pixels) {
            const int px = static_cast<int>(at % static_cast<std::uint32_t>(rest.width)),
                      py = static_cast<int>(at / static_cast<std::uint32_t>(rest.width));
            for (int y = std::max(0, py - kNear); y <= std::min(rest.height - 1, py + kNear); ++y)
                for (int x = std::max(0, px - kNear); x <= std::min(rest.width - 1, px + kNear); ++x)
                    if (const std::int32_t label = rest.labelAt(x, y); label > 0) {
                        const Region& region = rest.all[static_cast<size_t>(label - 1)];
                        if (std::max(region.width, region.height) <= most)
                            crumbs.push_back(label);
                    }
        }
        std::sort(crumbs.begin(), crumbs.end());
        crumbs.erase(std::unique(crumbs.begin(), crumbs.end()), crumbs.end());
        for (const std::int32_t label : crumbs)
            addPixels(line, rest.all[static_cast<size_t>(label - 1)], rest.width);
    }
}

/// Runs the ends of lines on to another line they nearly reach.
void runOnToLines(std::vector<FineLine>& lines) {
    for (size_t i = 0; i < lines.size(); ++i)
        for (const bool isFront : {true, false}) {
            const End end = endOf(lines[i], i, isFront);
            double least = 5 + 1.5 * lines[i].gapPx + 4 * lines[i].thicknessPx;
            bool isMeant = false;
            for (size_t j = 0; j < lines.size(); ++j) {
                const Point from = lines[j].middle.front(), to = lines[j].middle.back(), way = to - from;
                const double turn = geometry::cross(end.out, way);
                if (i == j || lines[j].middle.size() != 2 || std::abs(turn) < 0.1 * geometry::length(way))
                    continue;
                const double ahead = geometry::cross(from - end.place, way) / turn,
                             on = geometry::cross(from - end.place, end.out) / turn;
                if (ahead > 0 && ahead < least && on > 0 && on < 1) {
                    least = ahead;
                    isMeant = true;
                }
            }
            Polygon& middle = lines[i].middle;
            if (isMeant && isFront)
                middle.insert(middle.begin(), end.place + end.out * least);
            else if (isMeant)
                middle.push_back(end.place + end.out * least);
        }
}
} // namespace

Grey without(Grey ink, const std::vector<FineLine>& lines) {
    for (const FineLine& line : lines)
        for (const std::uint32_t at : line.pixels)
            ink.values[at] = 0;
    return ink;
}

void addWay(Polygon& points, Point to) {
    const Point from = points.back();
    const int steps = std::max(1, static_cast<int>(geometry::distance(from, to)));
    for (int k = 1; k <= steps; ++k)
        points.push_back(from + (to - from) * (static_cast<double>(k) / steps));
}

void straighten(FineLine& line) {
    const Polygon& points = line.middle;
    const Bar bar = barOf(points);
    const Point mean = bar.middle;
    Point along = bar.along;
    if (geometry::dot(points.back() - points.front(), along) < 0)
        along = along * -1;
    const double most = std::max(1.0, 0.35 * line.thicknessPx), atEnds = 2 * most,
                 near = 3 * line.thicknessPx;
    for (const Point p : points) {
        const bool isEnd =
            geometry::distance(p, points.front()) < near || geometry::distance(p, points.back()) < near;
        if (std::abs(geometry::cross(p - mean, along)) > (isEnd ? atEnds : most))
            return;
    }
    line.middle = {mean + along * geometry::dot(points.front() - mean, along),
                   mean + along * geometry::dot(points.back() - mean, along)};
}

base::Status settleEnds(const Grey& ink, const FineLineOptions& options, std::vector<FineLine>& lines,
                        const base::Progress& progress) {
    if (lines.empty())
        return base::Done{};
    std::for_each(lines.begin(), lines.end(), straighten);
    lines = joined(ink, options, lines);
    std::for_each(lines.begin(), lines.end(), straighten);
    const auto rest = findRegions(without(ink, lines), kInk, Connectivity::Eight, progress);
    if (!rest)
        return rest.error();
    takeCrumbs(*rest, lines);
    takeCores(*rest, options, lines);
    runOnToLines(lines);
    std::for_each(lines.begin(), lines.end(), straighten);
    return base::Done{};
}

} // namespace thinline::raster
