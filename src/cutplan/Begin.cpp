// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Begin.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>

namespace thinline::cutplan {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Polygon;
using geometry::Segment;

Point startOf(const Contour& line, size_t segment) {
    return segment == 0 ? line.start : line.segments[segment - 1].end;
}

constexpr size_t kMostAsked = 64; ///< places of a line that are asked: of ten thousand any sixty will do

/// How far it is from a place, to either side of a way, to the next edge; `most` when there is none so near.
double roomBeside(Point at, Point way, const geometry::Polygons& edges, double most) {
    const double length = std::hypot(way.x, way.y);
    if (length < 1e-12)
        return 0;
    const Point across{-way.y / length, way.x / length};
    constexpr double kItselfMm = 0.02;
    double room = most;
    for (const Polygon& ring : edges)
        for (size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i] - at, b = ring[(i + 1) % ring.size()] - at;
            // Along the line through the place, across the way: where an edge crosses it.
            const double sideA = geometry::cross(across, a), sideB = geometry::cross(across, b);
            if ((sideA > 0) == (sideB > 0))
                continue;
            const double t = sideA / (sideA - sideB);
            const double away = std::abs(geometry::dot(across, a + (b - a) * t));
            if (away > kItselfMm)
                room = std::min(room, away);
        }
    return room;
}

/// Ends of segments, when nothing is straight: those with room where the line goes on without a corner, spread over the
/// line; else the one with most room.
std::vector<Beginning> roomyEnds(const Contour& line, const geometry::Polygons& edges, size_t most) {
    constexpr double kFarMm = 20, kSmoothCos = 0.94;
    Beginning widest{0, 0, line.start};
    double mostRoom = -1;
    std::vector<Beginning> smooth;
    const size_t count = line.segments.size(), step = count / kMostAsked + 1;
    for (size_t i = 0; i < count; i += step) {
        const size_t before = i == 0 ? count - 1 : i - 1;
        const Segment &next = line.segments[i], &last = line.segments[before];
        const Point at = startOf(line, i);
        const Point out = (next.isLine ? next.end : next.control1) - at,
                    in = at - (last.isLine ? startOf(line, before) : last.control2);
        const double lengths = std::hypot(out.x, out.y) * std::hypot(in.x, in.y);
        const double room = roomBeside(at, out, edges, kFarMm);
        if (lengths > 0 && geometry::dot(in, out) > kSmoothCos * lengths && room >= kWideMm)
            smooth.push_back({i, 0, at});
        if (room > mostRoom + 1e-9) {
            mostRoom = room;
            widest = {i, 0, at};
        }
    }
    if (smooth.empty())
        return {widest};
    std::vector<Beginning> out;
    for (size_t k = 0; k < std::min(most, smooth.size()); ++k)
        out.push_back(smooth[k * smooth.size() / std::min(most, smooth.size())]);
    return out;
}

} // namespace

std::vector<Beginning> beginningsOf(const Contour& line, const geometry::Polygons& edges, size_t most) {
    std::vector<std::pair<double, Beginning>> straight, found;
    for (size_t i = 0; i < line.segments.size(); ++i) {
        const Point from = startOf(line, i), to = line.segments[i].end;
        const double length = geometry::distance(from, to);
        if (line.segments[i].isLine && length >= kStraightMm)
            straight.push_back({length, {i, 0.5, geometry::middle(from, to)}});
    }
    std::stable_sort(straight.begin(), straight.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    straight.resize(std::min(straight.size(), kMostAsked));
    for (const auto& one : straight) {
        const size_t i = one.second.segment;
        const Point way = line.segments[i].end - startOf(line, i);
        if (found.size() < most && roomBeside(one.second.at, way, edges, kWideMm) >= kWideMm)
            found.push_back(one);
    }
    if (found.empty())
        return roomyEnds(line, edges, most);
    std::vector<Beginning> out;
    for (const auto& [length, beginning] : found)
        out.push_back(beginning);
    std::sort(out.begin(), out.end(),
              [](const Beginning& a, const Beginning& b) { return a.segment < b.segment; });
    return out;
}

Contour begunAt(const Contour& line, const Beginning& beginning) {
    const size_t n = line.segments.size();
    if (n == 0 || beginning.segment >= n)
        return line;
    const Segment& split = line.segments[beginning.segment];
    const Point from = startOf(line, beginning.segment);
    const bool isWhole = beginning.share <= 0;
    Contour out{isWhole ? from : beginning.at, {}};
    Segment head = split, tail = split;
    if (!isWhole && !split.isLine) {
        const geometry::Cubic curve = geometry::Cubic::of(from, split);
        head = geometry::segmentOf(geometry::stretch(curve, 0, beginning.share), false);
        tail = geometry::segmentOf(geometry::stretch(curve, beginning.share, 1), false);
        out.start = head.end;
    } else if (!isWhole) {
        head = Segment::line(beginning.at);
    }
    out.segments.push_back(tail);
    for (size_t k = 1; k < n; ++k)
        out.segments.push_back(line.segments[(beginning.segment + k) % n]);
    if (!isWhole)
        out.segments.push_back(head);
    return out;
}

} // namespace thinline::cutplan
