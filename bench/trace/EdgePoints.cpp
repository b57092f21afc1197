// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/EdgePoints.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::raster {
namespace {

using geometry::Point;
using geometry::Polygon;

/// The four ways along pixel sides, clockwise: right, down, left, up. The region lies on the right-hand side.
constexpr int kDx[] = {1, 0, -1, 0};
constexpr int kDy[] = {0, 1, 0, -1};

/// One side of a pixel on the border: it begins at a pixel corner and runs one pixel.
struct Side {
    int x = 0, y = 0; ///< the corner it begins at
    int way = 0;
};

/// The region's pixels within its box, with a rim of nothing.
class Mask {
  public:
    explicit Mask(const Region& region)
        : m_left(region.left - 1), m_top(region.top - 1), m_width(region.width + 2),
          m_height(region.height + 2),
          m_cells(static_cast<size_t>(m_width) * static_cast<size_t>(m_height), 0) {
        for (const Run& run : region.runs)
            std::fill_n(&at(run.x0, run.y), run.x1 - run.x0, kInside);
    }
    bool isInside(int x, int y) const {
        return x >= m_left && y >= m_top && x < m_left + m_width && y < m_top + m_height &&
               (m_cells[index(x, y)] & kInside) != 0;
    }
    bool wasSeen(int x, int y) const { return (m_cells[index(x, y)] & kSeen) != 0; }
    void see(int x, int y) { m_cells[index(x, y)] |= kSeen; }

  private:
    static constexpr std::uint8_t kInside = 1, kSeen = 2; ///< its upper side was followed
    size_t index(int x, int y) const {
        return static_cast<size_t>(y - m_top) * static_cast<size_t>(m_width) +
               static_cast<size_t>(x - m_left);
    }
    std::uint8_t& at(int x, int y) { return m_cells[index(x, y)]; }
    int m_left, m_top, m_width, m_height;
    std::vector<std::uint8_t> m_cells;
};

/// Follows a border from the upper side of a pixel around.
std::vector<Side> follow(Mask& mask, int x, int y) {
    std::vector<Side> sides;
    Side side{x, y, 0};
    do {
        sides.push_back(side);
        if (side.way == 0)
            mask.see(side.x, side.y);
        const int ex = side.x + kDx[side.way], ey = side.y + kDy[side.way];
        // The pixels ahead of the corner, on the right and on the left of the way.
        const auto pixelAt = [&](bool isRight) {
            const int way = side.way;
            const int px = ex + (way == 0 ? 0 : way == 2 ? -1 : (way == 1) == isRight ? -1 : 0);
            const int py = ey + (way == 1 ? 0 : way == 3 ? -1 : (way == 0) == isRight ? 0 : -1);
            return mask.isInside(px, py);
        };
        // Turning right at a doubtful corner keeps pixels apart that touch only there.
        const int next = !pixelAt(true)    ? (side.way + 1) % 4
                         : !pixelAt(false) ? side.way
                                           : (side.way + 3) % 4;
        side = {ex, ey, next};
    } while (!(side.x == x && side.y == y && side.way == 0));
    return sides;
}

/// Where the edge crosses a pixel row or column, measured from a side of the border outwards.
struct Crossing {
    double outwards = 0;
    bool isSure = false; ///< there is a step in the grey to go by
};

Crossing crossingAt(const Grey& grey, const Side& side) {
    // The side's inner and outer pixel; the region lies on the right-hand side of the way.
    const int inX = side.way == 0 ? side.x : side.way == 1 ? side.x - 1 : side.way == 2 ? side.x - 1 : side.x;
    const int inY = side.way == 0 ? side.y : side.way == 1 ? side.y : side.way == 2 ? side.y - 1 : side.y - 1;
    const int dx = kDx[(side.way + 3) % 4], dy = kDy[(side.way + 3) % 4]; // outwards
    constexpr int kReach = 3;
    std::array<double, kReach> in{}, out{};
    for (int k = 0; k < kReach; ++k) {
        const auto value = [&](int x, int y) {
            return static_cast<double>(
                grey.at(std::clamp(x, 0, grey.width - 1), std::clamp(y, 0, grey.height - 1)));
        };
        in[static_cast<size_t>(k)] = value(inX - k * dx, inY - k * dy);
        out[static_cast<size_t>(k)] = value(inX + (k + 1) * dx, inY + (k + 1) * dy);
    }
    const int outX = inX + dx, outY = inY + dy;
    if (outX < 0 || outY < 0 || outX >= grey.width || outY >= grey.height)
        return {0, false};                       // the picture's frame
    const double sign = out[0] > in[0] ? 1 : -1; // the region is the darker one, or the lighter
    // The plain levels: the extreme on either side, and how far away it is reached.
    size_t inAt = 0, outAt = 0;
    for (size_t k = 1; k < kReach; ++k) {
        if ((in[inAt] - in[k]) * sign > 0)
            inAt = k;
        if ((out[k] - out[outAt]) * sign > 0)
            outAt = k;
    }
    const double step = (out[outAt] - in[inAt]) * sign;
    constexpr double kLeastStep = 24; // grey levels: below it noise would speak
    if (step < kLeastStep)
        return {0, false};
    double covered = 0; // of the pixels outside that still belong to the region, less what is missing inside
    for (size_t k = 0; k < outAt; ++k)
        covered += std::clamp((out[outAt] - out[k]) * sign / step, 0.0, 1.0);
    for (size_t k = 0; k < inAt; ++k)
        covered -= std::clamp((in[k] - in[inAt]) * sign / step, 0.0, 1.0);
    return {covered, true};
}

Polygon pointsOf(const Grey& grey, const std::vector<Side>& sides) {
    const auto n = static_cast<int>(sides.size());
    constexpr int kLook = 3;
    Polygon out;
    for (int i = 0; i < n; ++i) {
        const Side& side = sides[static_cast<size_t>(i)];
        // Along which axis the border runs here: only sides along it are asked, their rows cross it steeply.
        const Side& before = sides[static_cast<size_t>(((i - kLook) % n + n) % n)];
        const Side& after = sides[static_cast<size_t>((i + kLook + 1) % n)];
        const int alongX = std::abs(after.x - before.x), alongY = std::abs(after.y - before.y);
        const bool isLevel = side.way % 2 == 0;
        if (n > 8 &&
            (isLevel ? alongX + 1 < alongY : alongY + 1 < alongX)) // one step is the stair of a diagonal
            continue;
        const Crossing crossing = crossingAt(grey, side);
        const Point middle{side.x + kDx[side.way] * 0.5, side.y + kDy[side.way] * 0.5};
        const int outward = (side.way + 3) % 4;
        out.push_back(middle + Point{static_cast<double>(kDx[outward]), static_cast<double>(kDy[outward])} *
                                   crossing.outwards);
    }
    return out;
}

} // namespace

std::vector<EdgeRing> edgePointsOf(const Grey& grey, const Region& region) {
    Mask mask(region);
    std::vector<EdgeRing> rings;
    for (const Run& run : region.runs)
        for (int x = run.x0; x < run.x1; ++x) {
            if (mask.isInside(x, run.y - 1) || mask.wasSeen(x, run.y))
                continue;
            const std::vector<Side> sides = follow(mask, x, run.y);
            double area = 0; // by the sides themselves: tells outlines from openings whatever the grey says
            for (const Side& side : sides)
                area += side.way == 0 ? -side.y : side.way == 2 ? side.y : 0;
            rings.push_back({pointsOf(grey, sides), area < 0});
        }
    std::stable_partition(rings.begin(), rings.end(), [](const EdgeRing& ring) { return !ring.isOpening; });
    return rings;
}

} // namespace thinline::raster
