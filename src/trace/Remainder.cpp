// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What a picture shows along a border beyond what its curve explains.
//
// Two views of one pixel are compared: how much of it belongs to the right-hand face according to its
// level, and how much of it lies to the right of the curve. The difference is kept, pixel by pixel, while
// the curve is changed many times; so a change must cost what it touches and not the length of the border.
//
// The trick is that the remainder is known without any curve. The labels say of every pixel to which face
// it belongs, and a path along the sides of the pixels explains exactly these labels. So the remainder of
// that path is level less label. From there on every curve is "one path put for another": the area between
// the two is a polygon, `raster::coveredPixels` tells how much of each pixel lies in it, and that is what
// changes. Trying a way and taking it back is the same call with the paths exchanged. Sums of squares
// follow from the same list: what is saved is area x (2 rest - area), pixel by pixel.
//
// In a soft picture a pixel shows what lies around it as well. Then the area of a change is spread by the
// picture's blur before it is compared.
//
// Pixels with a third face nearby cannot tell, since their level is a mixture of three. Their remainder is
// set to zero for the curve as it was first fitted, so that leaving it costs and staying does not: where
// nothing is known the first fit stands.
//
// Cells are kept in tiles of eight by eight that are filled when first asked for, found by a hash behind a
// small table of the latest ones. A border touches a thin strip of the picture, and long borders touch
// most of it; both cost what they touch.
#include "trace/Remainder.h"

#include <algorithm>
#include <cmath>

namespace thinline::trace {

using geometry::Polygon;

Remainder::Remainder(const raster::LabelMap& labels, const raster::Border& border, raster::LevelAt levelAt,
                     Plain plain, const raster::Spread& spread)
    : m_labels(labels), m_right(border.right), m_left(border.left), m_levelAt(std::move(levelAt)),
      m_plain(plain), m_spread(spread) {}

bool Remainder::isForeign(int x, int y) const {
    if (std::isnan(m_levelAt(x, y)))
        return true;
    const int reach = m_spread.reach() > 0 ? 2 : 1;
    for (int dy = -reach; dy <= reach; ++dy)
        for (int dx = -reach; dx <= reach; ++dx)
            if (const std::int32_t label = m_labels.at(x + dx, y + dy); label != m_right && label != m_left)
                return true;
    return false;
}

void Remainder::fill(Tile& tile, int x0, int y0) const {
    const int reach = m_spread.reach();
    for (int y = y0; y < y0 + kTile; ++y)
        for (int x = x0; x < x0 + kTile; ++x) {
            if (isForeign(x, y))
                continue;
            const double shown = (m_levelAt(x, y) - m_plain.left) / (m_plain.right - m_plain.left);
            double labelled = 0;
            for (int dy = -reach; dy <= reach; ++dy)
                for (int dx = -reach; dx <= reach; ++dx)
                    if (m_labels.at(x + dx, y + dy) == m_right)
                        labelled += m_spread.at(dx, dy);
            tile[static_cast<size_t>((y - y0) * kTile + x - x0)].rest = static_cast<float>(shown - labelled);
        }
}

Remainder::Tile& Remainder::tileAt(std::int64_t key, int tileX, int tileY) {
    const auto [found, isNew] = m_tiles.try_emplace(key);
    if (isNew)
        fill(found->second, tileX * kTile, tileY * kTile);
    return found->second;
}

double Remainder::gathered(int x, int y) {
    const int reach = m_spread.reach();
    double sum = 0;
    for (int dy = -reach; dy <= reach; ++dy)
        eachInRow(x - reach, x + reach, y + dy,
                  [&](int at, const Cell& c) { sum += m_spread.at(at - x, dy) * c.rest; });
    return sum;
}

void Remainder::spreadOver(std::vector<raster::Covered>& covered) {
    const int reach = m_spread.reach();
    if (reach == 0)
        return;
    std::vector<raster::Covered> touched;
    for (const raster::Covered& c : covered)
        for (int dy = -reach; dy <= reach; ++dy)
            eachInRow(c.x - reach, c.x + reach, c.y + dy, [&](int x, Cell& there) {
                if (there.slot < 0) {
                    there.slot = 0;
                    touched.push_back({x, c.y + dy, 0});
                }
                there.change += static_cast<float>(c.area * m_spread.at(x - c.x, dy));
            });
    for (raster::Covered& t : touched) {
        Cell& there = cell(t.x, t.y);
        t.area = there.change;
        there.change = 0;
        there.slot = -1;
    }
    covered = std::move(touched);
}

void Remainder::begin(const Polygon& pixelPath, const Polygon& curve) {
    for (const raster::Covered& c : change(pixelPath, curve).covered)
        if (!isForeign(c.x, c.y))
            cell(c.x, c.y).rest -= static_cast<float>(c.area);
}

Remainder::Change Remainder::change(const Polygon& from, const Polygon& to) {
    Polygon between = to;
    between.insert(between.end(), from.rbegin(), from.rend());
    Change out{raster::coveredPixels(between), 0};
    spreadOver(out.covered);
    for (const raster::Covered& c : out.covered)
        out.saved += c.area * (2 * cell(c.x, c.y).rest - c.area);
    return out;
}

void Remainder::apply(const Change& change) {
    for (const raster::Covered& c : change.covered)
        cell(c.x, c.y).rest -= static_cast<float>(c.area);
}

std::optional<Remainder::Plain> plainLevels(const raster::LabelMap& labels, const raster::Border& border,
                                            const raster::LevelAt& levelAt) {
    std::vector<double> right, left;
    constexpr int kDeep = 3;
    for (const raster::Side& side : border.sides) {
        // The pixel on the right-hand side, and the way across the border to its left.
        const int x = side.x - (side.way == 1 || side.way == 2),
                  y = side.y - (side.way == 2 || side.way == 3);
        const int dx = raster::kWayX[(side.way + 3) % 4], dy = raster::kWayY[(side.way + 3) % 4];
        const auto isPlain = [&](int fromX, int fromY, int way, std::int32_t label) {
            for (int k = 0; k <= kDeep; ++k)
                if (labels.at(fromX + way * k * dx, fromY + way * k * dy) != label)
                    return false;
            return true;
        };
        const auto add = [&](std::vector<double>& levels, int atX, int atY) {
            if (const double level = levelAt(atX, atY); !std::isnan(level))
                levels.push_back(level);
        };
        if (isPlain(x, y, -1, border.right))
            add(right, x - (kDeep - 1) * dx, y - (kDeep - 1) * dy);
        if (isPlain(x + dx, y + dy, 1, border.left))
            add(left, x + kDeep * dx, y + kDeep * dy);
    }
    constexpr size_t kEnough = 6;
    if (right.size() < kEnough || left.size() < kEnough)
        return std::nullopt;
    const auto middleOf = [](std::vector<double>& levels) {
        const auto at = levels.begin() + static_cast<std::ptrdiff_t>(levels.size() / 2);
        std::nth_element(levels.begin(), at, levels.end());
        return *at;
    };
    return Remainder::Plain{middleOf(right), middleOf(left)};
}

} // namespace thinline::trace
