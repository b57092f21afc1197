// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Coverage.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace thinline::raster {
namespace {

using geometry::Point;

/// What one step leaves in one pixel: the area to its right within the pixel, and in every pixel farther
/// right.
struct Crossed {
    int x = 0, y = 0;
    double here = 0, onward = 0;
};

/// Adds a step that stays within one row of pixels.
void addWithinRow(Point from, Point to, int y, std::vector<Crossed>& out) {
    const double fall = to.y - from.y;
    if (fall == 0)
        return;
    const int first = static_cast<int>(std::floor(std::min(from.x, to.x))),
              last = static_cast<int>(std::floor(std::max(from.x, to.x)));
    if (first == last) {
        const double rest = 1 - ((from.x + to.x) / 2 - first);
        out.push_back({first, y, -fall * rest, -fall});
        return;
    }
    // Column by column, left to right.
    const Point left = from.x < to.x ? from : to, right = from.x < to.x ? to : from;
    const double slope = fall / (to.x - from.x); // signed with the step's own way
    const double way = from.x < to.x ? 1 : -1;
    double x = left.x;
    for (int column = first; column <= last; ++column) {
        const double next = std::min<double>(column + 1, right.x);
        const double part = slope * way * (next - x);
        if (part != 0)
            out.push_back({column, y, -part * (1 - ((x + next) / 2 - column)), -part});
        x = next;
    }
}

void addStep(Point from, Point to, std::vector<Crossed>& out) {
    if (from.y == to.y)
        return;
    const bool isDown = from.y < to.y;
    const Point top = isDown ? from : to, low = isDown ? to : from;
    const double run = (low.x - top.x) / (low.y - top.y);
    Point at = top;
    for (int y = static_cast<int>(std::floor(top.y)); at.y < low.y; ++y) {
        const double nextY = std::min<double>(y + 1, low.y);
        const Point next{nextY == low.y ? low.x : top.x + run * (nextY - top.y), nextY};
        isDown ? addWithinRow(at, next, y, out) : addWithinRow(next, at, y, out);
        at = next;
    }
}

/// Sorts by rows, then along each. The rows are dealt out first: within one there are few.
void sortByRows(std::vector<Crossed>& crossed) {
    if (crossed.empty())
        return;
    const auto [first, last] = std::minmax_element(
        crossed.begin(), crossed.end(), [](const Crossed& a, const Crossed& b) { return a.y < b.y; });
    const int top = first->y;
    std::vector<size_t> begins(static_cast<size_t>(last->y - top) + 2, 0);
    for (const Crossed& c : crossed)
        ++begins[static_cast<size_t>(c.y - top) + 1];
    std::partial_sum(begins.begin(), begins.end(), begins.begin());
    std::vector<Crossed> dealt(crossed.size());
    std::vector<size_t> next(begins.begin(), begins.end() - 1);
    for (const Crossed& c : crossed)
        dealt[next[static_cast<size_t>(c.y - top)]++] = c;
    for (size_t row = 0; row + 1 < begins.size(); ++row)
        std::sort(dealt.begin() + static_cast<std::ptrdiff_t>(begins[row]),
                  dealt.begin() + static_cast<std::ptrdiff_t>(begins[row + 1]),
                  [](const Crossed& a, const Crossed& b) { return a.x < b.x; });
    crossed = std::move(dealt);
}

} // namespace

std::vector<Covered> coveredPixels(const geometry::Polygon& ring) {
    std::vector<Crossed> crossed;
    for (size_t i = 0; i < ring.size(); ++i)
        addStep(ring[i], ring[i + 1 < ring.size() ? i + 1 : 0], crossed);
    sortByRows(crossed);
    constexpr double kNothing = 1e-12;
    std::vector<Covered> out;
    double onward = 0;
    for (size_t i = 0; i < crossed.size();) {
        const int x = crossed[i].x, y = crossed[i].y;
        double here = onward;
        for (; i < crossed.size() && crossed[i].x == x && crossed[i].y == y; ++i) {
            here += crossed[i].here;
            onward += crossed[i].onward;
        }
        if (std::abs(here) > kNothing)
            out.push_back({x, y, here});
        const bool isRowDone = i == crossed.size() || crossed[i].y != y;
        if (!isRowDone && std::abs(onward) > kNothing)
            for (int between = x + 1; between < crossed[i].x; ++between)
                out.push_back({between, y, onward});
        if (isRowDone)
            onward = 0;
    }
    return out;
}

} // namespace thinline::raster
