// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A seam runs from edge to edge or to where it meets others, so that there is one part on each side of it. What a hand
// draws crosses seams and ends on them; so lines are cut where they meet, and joined again where nothing meets any more.
#include "split/Hand.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>

namespace thinline::split {
namespace {

using geometry::Line;
using geometry::Point;
using geometry::Segment;

constexpr double kSameMm = 0.02;

bool isAt(Point a, Point b) {
    return geometry::distance(a, b) < kSameMm;
}

/// How far along a line the place nearest to a point is.
double lengthTo(const Line& line, Point p) {
    const auto place = geometry::nearestOnEdge({line, {}}, p);
    if (!place)
        return 0;
    Line before{line.start,
                {line.segments.begin(), line.segments.begin() + static_cast<std::ptrdiff_t>(place->segment)}};
    const Segment& last = line.segments[place->segment];
    const geometry::Cubic part =
        geometry::stretch(geometry::Cubic::of(geometry::endOf(before), last), 0, place->t);
    before.segments.push_back(geometry::segmentOf(part, last.isLine));
    return geometry::contourLength(before);
}

/// Every line cut where another one crosses it or ends on it.
Laid knotted(const Laid& laid) {
    Laid out;
    for (size_t i = 0; i < laid.seams.size(); ++i) {
        const Line& line = laid.seams[i];
        const double length = geometry::contourLength(line);
        std::vector<double> cuts;
        for (size_t k = 0; k < laid.seams.size(); ++k) {
            if (k == i)
                continue;
            for (const double at : geometry::meetingsAlong(line, laid.seams[k]))
                cuts.push_back(at);
            // An end that lies on it meets it as well.
            for (const Point end : {laid.seams[k].start, geometry::endOf(laid.seams[k])})
                if (geometry::distanceTo(line, end) < kSameMm)
                    cuts.push_back(lengthTo(line, end));
        }
        std::sort(cuts.begin(), cuts.end());
        double from = 0;
        cuts.push_back(length);
        for (const double cut : cuts)
            if (cut - from > kSameMm && (cut == length || length - cut > kSameMm)) {
                out.seams.push_back(from == 0 && cut == length ? line
                                                               : geometry::stretchOfLine(line, from, cut));
                out.from.push_back(laid.from[i]);
                from = cut;
            }
    }
    return out;
}

Laid all(const Lines& seams) {
    Laid out{seams, {}};
    for (size_t i = 0; i < seams.size(); ++i)
        out.from.push_back(static_cast<int>(i));
    return out;
}

/// The way round an outline from one place to another, the shorter one.
Line alongEdge(const geometry::Contour& contour, Point from, Point to) {
    const double length = geometry::contourLength(contour), a = lengthTo(contour, from),
                 b = lengthTo(contour, to);
    const double low = std::min(a, b), high = std::max(a, b);
    Line way = geometry::stretchOfLine(contour, low, high); // from the lower length to the higher
    bool isFromLow = true;
    if (high - low > length / 2) {
        way = geometry::stretchOfLine(contour, high, length);
        const Line rest = geometry::stretchOfLine(contour, 0, low);
        way.segments.insert(way.segments.end(), rest.segments.begin(), rest.segments.end());
        isFromLow = false;
    }
    return isFromLow == (a <= b) ? way : geometry::reversed(way);
}

} // namespace

Laid movedAt(const Lines& seams, Point at, Point to, const geometry::Shape& shape) {
    Point target = to;
    const bool isOnEdge = geometry::nearestOnEdge(shape, at, kSameMm).has_value();
    if (isOnEdge)
        if (const auto edge = geometry::nearestOnEdge(shape, to))
            target = edge->point;
    Laid out = all(seams);
    for (Line& line : out.seams) {
        if (isAt(line.start, at))
            line.start = target;
        for (Segment& segment : line.segments)
            if (isAt(segment.end, at)) {
                const Point by = target - segment.end;
                segment.end = target;
                if (!segment.isLine)
                    segment.control2 = segment.control2 + by;
            }
    }
    return knotted(out);
}

Laid bentAt(const Lines& seams, size_t seam, Point at) {
    Laid out = all(seams);
    Line& line = out.seams[seam];
    Point from = line.start;
    size_t best = 0;
    double nearest = 1e9;
    for (size_t i = 0; i < line.segments.size(); ++i) {
        if (const double away = geometry::distanceToStretch(at, from, line.segments[i].end); away < nearest) {
            nearest = away;
            best = i;
        }
        from = line.segments[i].end;
    }
    line.segments.insert(line.segments.begin() + static_cast<std::ptrdiff_t>(best), Segment::line(at));
    return out;
}

base::Result<Laid> withSeam(const Lines& seams, Point from, Point to, const geometry::Shape& shape,
                            double reachMm, const std::vector<geometry::Shape>& along) {
    const auto held = [&](Point p) {
        Point best = p;
        double nearest = reachMm;
        if (const auto edge = geometry::nearestOnEdge(shape, p, reachMm)) {
            best = edge->point;
            nearest = edge->distance;
        }
        for (const Line& line : seams)
            if (const auto on = geometry::nearestOnEdge({line, {}}, p, nearest)) {
                best = on->point;
                nearest = on->distance;
            }
        return best;
    };
    Line line{held(from), {Segment::line(held(to))}};
    for (const geometry::Shape& other : along) {
        const auto a = geometry::nearestOnEdge(other, from, reachMm),
                   b = geometry::nearestOnEdge(other, to, reachMm);
        if (!a || !b || a->contour != b->contour)
            continue;
        const geometry::Contour& edge = a->contour == 0 ? other.outline : other.openings[a->contour - 1];
        line = alongEdge(edge, a->point, b->point);
        break;
    }
    if (geometry::contourLength(line) < 0.5)
        return base::Error{base::Code::InvalidArgument, "A seam needs two places that are apart."};
    if (!geometry::contains(shape, geometry::middleOf(line)))
        return base::Error{base::Code::InvalidArgument, "That seam lies beside the piece."};
    Laid out = all(seams);
    out.seams.push_back(line);
    out.from.push_back(-1);
    return knotted(out);
}

Laid withoutSeam(const Lines& seams, size_t seam) {
    Laid out = all(seams);
    const Line gone = seams[seam];
    out.seams.erase(out.seams.begin() + static_cast<std::ptrdiff_t>(seam));
    out.from.erase(out.from.begin() + static_cast<std::ptrdiff_t>(seam));
    for (const Point end : {gone.start, geometry::endOf(gone)}) {
        std::vector<size_t> there;
        for (size_t i = 0; i < out.seams.size(); ++i)
            if (isAt(out.seams[i].start, end) || isAt(geometry::endOf(out.seams[i]), end))
                there.push_back(i);
        if (there.size() != 2 || there[0] == there[1])
            continue;
        Line one = out.seams[there[0]], other = out.seams[there[1]];
        if (isAt(one.start, end))
            one = geometry::reversed(one);
        if (!isAt(other.start, end))
            other = geometry::reversed(other);
        one.segments.insert(one.segments.end(), other.segments.begin(), other.segments.end());
        out.seams[there[0]] = one;
        out.seams.erase(out.seams.begin() + static_cast<std::ptrdiff_t>(there[1]));
        out.from.erase(out.from.begin() + static_cast<std::ptrdiff_t>(there[1]));
    }
    return out;
}

std::vector<SeamWish> knotted(const std::vector<SeamWish>& seams) {
    Lines lines;
    for (const SeamWish& seam : seams)
        lines.push_back(seam.path);
    const Laid laid = knotted(all(lines));
    std::vector<SeamWish> out;
    for (size_t i = 0; i < laid.seams.size(); ++i)
        out.push_back({laid.seams[i], seams[static_cast<size_t>(laid.from[i])].joint});
    return out;
}

} // namespace thinline::split
