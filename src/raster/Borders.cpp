// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Borders: where two labels meet, and where in a pixel that is.
//
// Walking. A border is a walk along the sides of pixels with one label on its right and another on its
// left. At a pixel corner two, three or four sides meet. Two: the walk goes on. Three or more labels: a
// junction, where borders end. Four sides of two labels only (a chessboard corner): two walks touch
// without meeting, and it must be decided which pixels belong together. The label of lower rank is taken
// as connected across the corner, the other one as divided; ranks come from whoever asks, who knows that
// ink is connected through corners and paper is not. Since the rule looks at labels only, both areas
// agree, whichever is walked.
//
// Junctions are found first and their borders walked from them, then rings in the order of rows. So the
// result does not depend on where a walk happens to begin.
//
// Measuring. For every side of a pixel, the row (or column) across it is read outwards and inwards until
// the level is plain. A pixel the edge runs through shows a mixture of the two plain levels. Adding up
// what share of each pixel belongs to the far side says where the edge crosses the row: for a straight
// edge under an even pixel this is exact, at any slope, since the sum over a row of the covered area is
// linear in the edge's place as long as the edge leaves the row through its sides. That is why only sides
// along the border's own axis are asked, where rows cross it steeply.
//
// The plain level is taken where it is found, at most three pixels away, and not from the whole picture:
// light falls off, compression shifts levels beside an edge, and an error in the plain level is an error
// in the place. Two things disturb it:
//
// - A third label nearby. Then the level there says nothing about this edge; the reading ends before it,
//   and the caller gives such pixels no level.
// - A thin line. Its middle pixel never becomes plain. When the level turns back before it has come near
//   the known extreme, the known one stands for it, and the middle pixel is shared between both edges of
//   the line.
//
// For contours of one grey (a photo's tones) there are no plain sides; the place is where the level passes
// the threshold between two pixel centres.
//
// Cost: O(pixels) for walking, a constant for each side of a border.
#include "raster/Borders.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <map>

namespace thinline::raster {
namespace {

using geometry::Point;
using geometry::Polygon;

/// Which sides meet at a pixel corner, and which of them belong together.
class Corner {
  public:
    /// The four labels around: before and after in x, above and below.
    Corner(const LabelMap& map, const std::vector<std::int32_t>& rank, int x, int y)
        : m_upLeft(map.at(x - 1, y - 1)), m_upRight(map.at(x, y - 1)), m_downLeft(map.at(x - 1, y)),
          m_downRight(map.at(x, y)) {
        m_hasSide = {m_upRight != m_downRight, m_downLeft != m_downRight, m_upLeft != m_downLeft,
                     m_upLeft != m_upRight};
        m_count = m_hasSide[0] + m_hasSide[1] + m_hasSide[2] + m_hasSide[3];
        if (m_count != 4)
            return;
        const bool falls = m_upLeft == m_downRight, rises = m_upRight == m_downLeft;
        const auto rankOf = [&](std::int32_t label) {
            return label < 0 ? std::numeric_limits<std::int32_t>::max() : rank[static_cast<size_t>(label)];
        };
        m_isCrossing = falls || rises;
        m_joinsFalling = falls && (!rises || rankOf(m_upLeft) <= rankOf(m_upRight));
    }
    bool hasSide(int way) const { return m_hasSide[static_cast<size_t>(way)]; }
    bool isJunction() const { return m_count > 2 && !m_isCrossing; }
    /// Where a border that arrives in a way goes on.
    int next(int arriving) const {
        if (m_count == 4) { // two borders pass one another
            // Up and right belong together around the upper right pixel, left and down around the lower left.
            constexpr int kFalling[] = {1, 0, 3, 2}; // arriving right (from the left) goes on down, ...
            constexpr int kRising[] = {3, 2, 1, 0};
            return m_joinsFalling ? kFalling[arriving] : kRising[arriving];
        }
        const int back = (arriving + 2) % 4;
        for (int way = 0; way < 4; ++way)
            if (way != back && hasSide(way))
                return way;
        return back;
    }

  private:
    std::int32_t m_upLeft, m_upRight, m_downLeft, m_downRight;
    std::array<bool, 4> m_hasSide{};
    int m_count = 0;
    bool m_isCrossing = false, m_joinsFalling = false;
};

std::int32_t labelBeside(const LabelMap& map, const Side& side, bool isRight) {
    switch (side.way) {
    case 0:
        return map.at(side.x, isRight ? side.y : side.y - 1);
    case 1:
        return map.at(isRight ? side.x - 1 : side.x, side.y);
    case 2:
        return map.at(side.x - 1, isRight ? side.y - 1 : side.y);
    default:
        return map.at(isRight ? side.x : side.x - 1, side.y - 1);
    }
}

/// Remembers which sides were walked: each is the upper or the left one of some pixel.
class Walked {
  public:
    Walked(int width, int height)
        : m_across(static_cast<size_t>(width) + 1), m_seen(m_across * (static_cast<size_t>(height) + 1), 0) {}
    bool has(const Side& s) const { return (m_seen[index(s)] & bit(s)) != 0; }
    void add(const Side& s) { m_seen[index(s)] |= bit(s); }

  private:
    static std::uint8_t bit(const Side& s) { return s.way % 2 == 0 ? 1 : 2; }
    size_t index(const Side& s) const {
        return static_cast<size_t>(s.y - (s.way == 3)) * m_across + static_cast<size_t>(s.x - (s.way == 2));
    }
    size_t m_across;
    std::vector<std::uint8_t> m_seen;
};

constexpr size_t kReach = 3; ///< px to either side that say where an edge is

/// Whether a pixel that would say where the edge is has no level.
bool isBesideUnknown(const Side& side, const LevelAt& levelAt) {
    const int inX = side.x - (side.way == 1 || side.way == 2),
              inY = side.y - (side.way == 2 || side.way == 3);
    const int dx = kWayX[(side.way + 3) % 4], dy = kWayY[(side.way + 3) % 4];
    constexpr int kFar = static_cast<int>(kReach);
    for (int k = 1 - kFar; k <= kFar; ++k)
        if (std::isnan(levelAt(inX + k * dx, inY + k * dy)))
            return true;
    return false;
}

/// Where an edge crosses a row or column, measured from a side outwards (to the left of the way).
double crossing(const Side& side, const LevelAt& levelAt, const EdgeReading& reading) {
    const int inX = side.x - (side.way == 1 || side.way == 2),
              inY = side.y - (side.way == 2 || side.way == 3);
    const int dx = kWayX[(side.way + 3) % 4], dy = kWayY[(side.way + 3) % 4];
    if (reading.contour) {
        const double in = levelAt(inX, inY), step = levelAt(inX + dx, inY + dy) - in;
        const double share = (*reading.contour - in) / step;
        return share >= 0 && share <= 1 ? share - 0.5 : 0;
    }
    // The levels outwards and inwards, as far as they belong to the two sides.
    const auto run = [&](int x, int y, int way, std::array<double, kReach>& levels) {
        size_t count = 0;
        for (; count < kReach; ++count, x += way * dx, y += way * dy) {
            const double level = levelAt(x, y);
            if (std::isnan(level))
                break;
            levels[count] = level;
        }
        return count;
    };
    std::array<double, kReach> in{}, out{};
    const size_t ins = run(inX, inY, -1, in), outs = run(inX + dx, inY + dy, 1, out);
    if (ins == 0 || outs == 0)
        return 0;
    const double sign = out[0] > in[0] ? 1 : -1;
    size_t inAt = 0, outAt = 0; // where the plain level is reached: the extreme
    for (size_t k = 1; k < ins; ++k)
        if ((in[inAt] - in[k]) * sign > 0)
            inAt = k;
    for (size_t k = 1; k < outs; ++k)
        if ((out[k] - out[outAt]) * sign > 0)
            outAt = k;
    // A side that turns back before it is plain is thin: its known level stands for it, and its middle pixel
    // belongs half to this edge and half to the one beyond.
    const auto plainOf = [&](const std::array<double, kReach>& levels, size_t count, size_t at, double way,
                             bool& isThin) {
        const std::optional<double>& known = way > 0 ? reading.lightest : reading.darkest;
        constexpr double kClearly = 8; // levels
        isThin = known && at + 1 < count && (levels[at] - levels[at + 1]) * way > kClearly &&
                 (*known - levels[at]) * way > kClearly;
        return isThin ? *known : levels[at];
    };
    bool isThinOut = false, isThinIn = false;
    const double plainOut = plainOf(out, outs, outAt, sign, isThinOut),
                 plainIn = plainOf(in, ins, inAt, -sign, isThinIn);
    const double step = (plainOut - plainIn) * sign;
    if (step < reading.leastStep)
        return 0;
    const auto share = [&](double level, double plain) {
        return std::clamp(std::abs(plain - level) / step, 0.0, 1.0);
    };
    double covered = 0; // of the pixels outside that still belong inside, less what is missing inside
    for (size_t k = 0; k < outAt; ++k)
        covered += share(out[k], plainOut);
    for (size_t k = 0; k < inAt; ++k)
        covered -= share(in[k], plainIn);
    if (isThinOut)
        covered += share(out[outAt], plainOut) / 2;
    if (isThinIn)
        covered -= share(in[inAt], plainIn) / 2;
    return covered;
}

} // namespace

LevelAt levelsOf(const Grey& grey) {
    return [&grey](int x, int y) {
        return static_cast<double>(
            grey.at(std::clamp(x, 0, grey.width - 1), std::clamp(y, 0, grey.height - 1)));
    };
}

base::Result<Borders> findBorders(const LabelMap& map, const std::vector<std::int32_t>& rank,
                                  const base::Progress& progress) {
    Borders out;
    if (map.labels.empty())
        return out;
    Walked walked(map.width, map.height);
    std::map<std::pair<int, int>, int> junctionAt;
    const auto cornerAt = [&](int x, int y) { return Corner(map, rank, x, y); };
    const auto follow = [&](Side side, int from) {
        Border border{labelBeside(map, side, true), labelBeside(map, side, false), {}, from, -1};
        const Side first = side;
        while (true) {
            border.sides.push_back(side);
            walked.add(side);
            const int x = side.x + kWayX[side.way], y = side.y + kWayY[side.way];
            const Corner corner = cornerAt(x, y);
            if (corner.isJunction()) {
                border.to = junctionAt.at({y, x});
                break;
            }
            side = {x, y, corner.next(side.way)};
            if (from < 0 && side == first)
                break;
        }
        out.all.push_back(std::move(border));
    };
    for (int y = 0; y <= map.height; ++y) {
        for (int x = 0; x <= map.width; ++x)
            if (map.at(x, y) != map.at(x - 1, y - 1) || map.at(x - 1, y) != map.at(x, y - 1))
                if (cornerAt(x, y).isJunction()) {
                    junctionAt[{y, x}] = static_cast<int>(out.junctions.size());
                    out.junctions.push_back({x, y, 0});
                }
        if (y % 256 == 0 && progress.isCancelled())
            return base::cancelled();
    }
    for (size_t j = 0; j < out.junctions.size(); ++j)
        for (int way = 0; way < 4; ++way) {
            const Side side{out.junctions[j].x, out.junctions[j].y, way};
            if (cornerAt(side.x, side.y).hasSide(way) && !walked.has(side))
                follow(side, static_cast<int>(j));
        }
    for (int y = 0; y <= map.height; ++y) {
        for (int x = 0; x < map.width; ++x)
            if (const std::int32_t above = map.at(x, y - 1), below = map.at(x, y); above != below)
                if (const Side side{x, y, 0}; !walked.has(side))
                    follow(below > above ? side : Side{x + 1, y, 2}, -1);
        if (y % 256 == 0 && progress.isCancelled())
            return base::cancelled();
    }
    return out;
}

Polygon edgePoints(const std::vector<Side>& sides, bool isRing, const LevelAt& levelAt,
                   const EdgeReading& reading) {
    const auto n = static_cast<int>(sides.size());
    constexpr int kLook = 4;
    const auto cornerAt = [&](int i) { // the corner before side i; i may be n
        if (isRing)
            i = (i % n + n) % n;
        i = std::clamp(i, 0, n);
        if (i < n)
            return Point{static_cast<double>(sides[static_cast<size_t>(i)].x),
                         static_cast<double>(sides[static_cast<size_t>(i)].y)};
        const Side& last = sides.back();
        return Point{static_cast<double>(last.x + kWayX[last.way]),
                     static_cast<double>(last.y + kWayY[last.way])};
    };
    Polygon out;
    for (int i = 0; i < n; ++i) {
        const Side& side = sides[static_cast<size_t>(i)];
        // Along which axis the border runs here: only sides along it are asked, their rows cross it steeply.
        const Point along = cornerAt(i + kLook + 1) - cornerAt(i - kLook);
        const double alongX = std::abs(along.x), alongY = std::abs(along.y);
        const bool isLevel = side.way % 2 == 0;
        if (n > 8 && (isLevel ? alongX < alongY : alongY < alongX))
            continue;
        const int outward = (side.way + 3) % 4;
        if (reading.carriesOn && isBesideUnknown(side, levelAt))
            continue;
        const double off = crossing(side, levelAt, reading);
        out.push_back({side.x + kWayX[side.way] * 0.5 + kWayX[outward] * off,
                       side.y + kWayY[side.way] * 0.5 + kWayY[outward] * off});
    }
    return out;
}

} // namespace thinline::raster
