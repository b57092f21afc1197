// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Edges, as a person sees them: one side of a box is one edge, also where an earlier weld left three nodes on it, or the
// outline happens to begin in its middle. Steps are joined as long as the node between them stays within a hundredth of a
// millimetre of the chord; a finely flattened curve bends away from its chord after a few millimetres and so never becomes
// one long edge, only a row of short ones, which the fold along an edge then refuses to guess between.
//
// Which side the card lies on needs no test: outlines run clockwise on screen and openings the other way (geometry::Shape),
// so it is always at the right hand.
#include "folds/Edges.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>

namespace thinline::folds {
namespace {

using geometry::Contour;
using geometry::Point;

constexpr double kStraightMm = 0.01;

/// A step of a contour that is straight.
struct Run {
    Point from, to;
    bool isStraight = true;
};

bool isStraight(Point from, const geometry::Segment& s) {
    return s.isLine || (geometry::distanceToStretch(s.control1, from, s.end) < kStraightMm &&
                        geometry::distanceToStretch(s.control2, from, s.end) < kStraightMm);
}

/// Whether `next` only goes on where `run` goes.
bool goesOn(const Run& run, const Run& next) {
    return run.isStraight && next.isStraight &&
           geometry::distanceToStretch(run.to, run.from, next.to) < kStraightMm &&
           geometry::dot(run.to - run.from, next.to - next.from) > 0;
}

std::vector<Run> runsOf(const Contour& contour) {
    std::vector<Run> out;
    Point from = contour.start;
    for (const geometry::Segment& s : contour.segments) {
        const Run step{from, s.end, isStraight(from, s)};
        from = s.end;
        if (geometry::distance(step.from, step.to) < 1e-9)
            continue;
        if (!out.empty() && goesOn(out.back(), step))
            out.back().to = step.to;
        else
            out.push_back(step);
    }
    // The contour may begin in the middle of an edge.
    if (out.size() > 2 && goesOn(out.back(), out.front())) {
        out.front().from = out.back().from;
        out.pop_back();
    }
    return out;
}

} // namespace

std::vector<Edge> straightEdges(const geometry::Shape& shape) {
    std::vector<Edge> out;
    const auto add = [&](const Contour& contour) {
        for (const Run& run : runsOf(contour)) {
            if (!run.isStraight)
                continue;
            // Outlines run clockwise on screen and openings the other way: the card is at the right hand.
            const Point along = (run.to - run.from) * (1 / geometry::distance(run.from, run.to));
            out.push_back({run.from, run.to, {-along.y, along.x}});
        }
    };
    add(shape.outline);
    for (const Contour& opening : shape.openings)
        add(opening);
    return out;
}

std::optional<Edge> straightEdgeAt(const geometry::Shape& shape, Point p) {
    constexpr double kSameMm = 0.001;
    const auto nearest = geometry::nearestOnEdge(shape, p);
    if (!nearest)
        return std::nullopt;
    std::optional<Edge> best;
    double least = nearest->distance + kSameMm + kStraightMm;
    for (const Edge& edge : straightEdges(shape))
        if (const double away = geometry::distanceToStretch(p, edge.from, edge.to); away < least) {
            least = away;
            best = edge;
        }
    return best;
}

} // namespace thinline::folds
