// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Ways.h"

#include "geometry/Boolean.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"

namespace thinline::folds {
namespace {

using base::Code;
using base::Error;
using geometry::Line;
using geometry::Point;
using geometry::Shape;

constexpr double kLeastWayMm = 2;
constexpr double kMostMm = 5000;

/// Where the way leaves the card when it goes on straight.
base::Result<Point> edgeAhead(const Shape& card, Point from, Point to) {
    const Line way{from, {geometry::Segment::line(to)}};
    auto longer = geometry::extendedToEdge(way, card, kMostMm, geometry::Ends::Last);
    if (!longer)
        return longer.error();
    return longer->empty() ? to : geometry::endOf(longer->back());
}

} // namespace

base::Result<std::vector<Shape>> stripOn(const Shape& card, Point from, Point to, double widthMm,
                                         const base::Progress& progress) {
    const Point along = (to - from) * (1 / std::max(1e-9, geometry::distance(from, to))),
                aside = Point{-along.y, along.x} * (widthMm / 2);
    geometry::Contour ring = geometry::contourThrough({from - aside, to - aside, to + aside, from + aside});
    if (geometry::signedArea(ring) < 0)
        ring = geometry::reversed(ring);
    auto parts = geometry::intersect({Shape{std::move(ring), {}}}, {card}, progress);
    if (parts && parts->empty())
        return Error{Code::InvalidArgument, "Nothing of that place lies on the card."};
    return parts;
}

base::Result<Way> wayOf(const Shape& card, Point from, Point to, const WayPlan& plan,
                        const base::Progress& progress) {
    if (geometry::distance(from, to) < kLeastWayMm)
        return Error{Code::InvalidArgument, "A way is at least 2 mm long; click two places further apart."};
    if (!geometry::contains(card, from) || !geometry::contains(card, to))
        return Error{Code::InvalidArgument, "Both places of a way lie on the card."};
    const Point along = (to - from) * (1 / geometry::distance(from, to)),
                aside = Point{-along.y, along.x} * (plan.slitMm / 2);
    Way out;
    for (const Point end : {from, to}) {
        if (plan.runsToEdge && end == to)
            continue;
        Line slit{end - aside, {geometry::Segment::line(end + aside)}};
        const auto parts = geometry::clippedTo(slit, card);
        if (!parts)
            return parts.error();
        const bool isWhole = parts->size() == 1 &&
                             geometry::contourLength(parts->front()) > plan.slitMm - 1e-6 &&
                             !geometry::nearestOnEdge(card, slit.start, 1) &&
                             !geometry::nearestOnEdge(card, geometry::endOf(slit), 1);
        if (!isWhole)
            return Error{
                Code::InvalidArgument,
                "A slit of that length reaches an edge, or within 1 mm of one, and tears out; make it "
                "shorter or lay the way further inside."};
        out.slits.push_back(std::move(slit));
    }
    if (plan.runsToEdge) {
        const auto edge = edgeAhead(card, from, to);
        if (!edge)
            return edge.error();
        to = *edge;
    }
    auto area = stripOn(card, from, to, plan.widthMm, progress);
    if (!area)
        return area.error();
    out.area = area.take();
    return out;
}

} // namespace thinline::folds
