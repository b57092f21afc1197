// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Beside.h"

#include "sheets/Stretches.h"

#include <algorithm>
#include <cmath>

namespace thinline::sheets {

using geometry::Box;
using geometry::Point;
using geometry::Polygons;

bool areApart(const Polygons& a, const Polygons& b, double clearMm) {
    const Box near = geometry::bounds(b).grownBy(clearMm);
    for (const geometry::Polygon& ring : a)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point p = ring[i], q = ring[(i + 1) % ring.size()];
            Box stretch;
            stretch.include(p);
            stretch.include(q);
            if (!near.meets(stretch))
                continue;
            const Box reach = stretch.grownBy(clearMm);
            for (const geometry::Polygon& other : b)
                for (std::size_t k = 0; k < other.size(); ++k) {
                    const Point r = other[k], s = other[(k + 1) % other.size()];
                    if (std::max(r.x, s.x) < reach.least.x || std::min(r.x, s.x) > reach.most.x ||
                        std::max(r.y, s.y) < reach.least.y || std::min(r.y, s.y) > reach.most.y)
                        continue;
                    if (distanceOf({p, q}, {r, s}) < clearMm)
                        return false;
                }
        }
    // No part of either lies wholly in the other.
    const auto liesIn = [](const Polygons& one, const Polygons& other) {
        return std::any_of(one.begin(), one.end(), [&](const geometry::Polygon& ring) {
            return geometry::contains(other, ring.front());
        });
    };
    return !liesIn(a, b) && !liesIn(b, a);
}

namespace {

/// The nearest of some shifts, so far.
struct Nearest {
    double by = 0;
    double least;
    void offer(double shift) {
        if (std::abs(shift) < least) {
            least = std::abs(shift);
            by = shift;
        }
    }
};

} // namespace

Point heldBeside(const Box& box, const std::vector<Box>& others, const std::vector<Box>& usable,
                 double spacingMm, double reachMm) {
    Nearest across{0, reachMm}, down{0, reachMm};
    for (const Box& other : others) {
        const Box near = other.grownBy(spacingMm + reachMm);
        if (!near.meets(box))
            continue;
        for (const double to : {other.most.x + spacingMm, other.least.x})
            across.offer(to - box.least.x);
        for (const double to : {other.least.x - spacingMm, other.most.x})
            across.offer(to - box.most.x);
        for (const double to : {other.most.y + spacingMm, other.least.y})
            down.offer(to - box.least.y);
        for (const double to : {other.least.y - spacingMm, other.most.y})
            down.offer(to - box.most.y);
    }
    for (const Box& edge : usable) {
        if (!edge.grownBy(reachMm).meets(box))
            continue;
        across.offer(edge.least.x - box.least.x);
        across.offer(edge.most.x - box.most.x);
        down.offer(edge.least.y - box.least.y);
        down.offer(edge.most.y - box.most.y);
    }
    return {across.by, down.by};
}

} // namespace thinline::sheets
