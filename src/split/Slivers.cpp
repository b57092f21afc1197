// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Slivers.h"

#include <algorithm>

namespace thinline::split {

using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;

int sliversBeside(const Polygons& rings, const Stretch& stretch, const std::vector<Stretch>& walls,
                  double thinMm) {
    if (stretch.ringOfA != kInside && stretch.ringOfB != kInside &&
        geometry::distance(stretch.a, stretch.b) < thinMm)
        return 0; // beside a thin place that is cut nothing was wide
    // The band is laid along the stretch: it is as narrow as what may be disturbed.
    const Point way = geometry::direction(stretch.b - stretch.a);
    const geometry::Transform along{way.x, -way.y, way.y, way.x, 0, 0};
    const auto turned = [&](Point p) { return along(p - stretch.a); };
    const double reach = 1.6 * thinMm, length = geometry::distance(stretch.a, stretch.b);
    const geometry::Box band{{-reach, -reach}, {length + reach, reach}};
    const Cells cells(band, std::max(thinMm / 12, length / 2000));
    Polygons near;
    for (const Polygon& ring : rings) {
        Polygon out;
        geometry::Box box;
        for (const Point p : ring) {
            out.push_back(turned(p));
            box.include(out.back());
        }
        if (box.meets(band))
            near.push_back(std::move(out));
    }
    std::vector<uint8_t> before(cells.count(), 0);
    cells.fill(near, before, 1);
    std::vector<uint8_t> after = before;
    cells.draw({0, 0}, {length, 0}, after, 0);
    for (const Stretch& wall : walls) {
        const Point a = turned(wall.a), b = turned(wall.b);
        geometry::Box box;
        box.include(a);
        box.include(b);
        if (box.meets(band))
            cells.draw(a, b, after, 0);
    }
    const double least = 0.3 * thinMm * thinMm / (cells.cellMm() * cells.cellMm());
    const auto isLarge = [least](const std::vector<size_t>& group) {
        return static_cast<double>(group.size()) > least;
    };
    const std::vector<uint8_t> isReached = cells.opened(after, thinMm / 2);
    std::vector<uint8_t> lost(cells.count());
    for (size_t i = 0; i < lost.size(); ++i)
        lost[i] = after[i] && !isReached[i] ? 1 : 0;
    const auto unreached = cells.groups(lost);
    if (std::none_of(unreached.begin(), unreached.end(), isLarge))
        return 0; // mostly so
    const std::vector<uint8_t> wasReached = cells.opened(before, thinMm / 2);
    for (size_t i = 0; i < lost.size(); ++i)
        lost[i] = lost[i] && wasReached[i] ? 1 : 0;
    const auto isSomeThin = [&](const std::vector<size_t>& group) {
        return std::any_of(group.begin(), group.end(), [&](size_t i) {
            const auto isThin = [&](size_t n) { return n < before.size() && before[n] && !wasReached[n]; };
            return isThin(i - 1) || isThin(i + 1) || isThin(i - static_cast<size_t>(cells.across())) ||
                   isThin(i + static_cast<size_t>(cells.across()));
        });
    };
    // Where a wide crossing of thin strips loses a strip, what is left is as wide as the others are.
    std::vector<uint8_t> isReachedByLess;
    int out = 0;
    for (const std::vector<size_t>& group : cells.groups(lost)) {
        if (!isLarge(group))
            continue;
        if (isSomeThin(group)) {
            if (isReachedByLess.empty())
                isReachedByLess = cells.opened(after, 0.7 * thinMm / 2);
            const auto still =
                std::count_if(group.begin(), group.end(), [&](size_t i) { return !isReachedByLess[i]; });
            if (static_cast<double>(still) <= least)
                continue;
        }
        ++out;
    }
    return out;
}

} // namespace thinline::split
