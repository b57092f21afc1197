// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Borders.h"
#include "raster/Coverage.h"
#include "raster/Softness.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <optional>
#include <unordered_map>

namespace thinline::trace {

/// What the picture shows along one border beyond what a curve drawn for it explains: for every pixel, how
/// much more of it belongs to the right-hand face than lies to the right of the curve, spread as the picture
/// is soft.
class Remainder {
  public:
    /// The levels of a pixel that lies wholly on one side.
    struct Plain {
        double right = 0, left = 0;
    };

    /// The labels, the spread and what the levels come from must outlive it.
    Remainder(const raster::LabelMap& labels, const raster::Border& border, raster::LevelAt levelAt,
              Plain plain, const raster::Spread& spread);

    /// Begins with a curve for a border along its pixels' sides. Pixels with another face near cannot tell:
    /// there the curve is taken as it is, and any other leaves a remainder.
    void begin(const geometry::Polygon& pixelPath, const geometry::Polygon& curve);

    static constexpr int kTile = 8;
    struct Cell {
        float rest = 0;         ///< px²
        float change = 0;       ///< while one is looked at
        std::int32_t slot = -1; ///< for whoever gathers by pixels; is left at -1
    };
    using Tile = std::array<Cell, kTile * kTile>;
    Cell& cell(int x, int y) {
        const int tileX = x >= 0 ? x / kTile : -1, tileY = y >= 0 ? y / kTile : -1;
        const std::int64_t key =
            (static_cast<std::int64_t>(tileY + 1) << 32) | static_cast<std::uint32_t>(tileX + 1);
        Recent& recent =
            m_recent[static_cast<size_t>((tileY + 1) % kRecent * kRecent + (tileX + 1) % kRecent)];
        if (recent.key != key)
            recent = {key, &tileAt(key, tileX, tileY)};
        // All that lies outside the picture shares its edge cells.
        const int inX = std::max(0, x - tileX * kTile), inY = std::max(0, y - tileY * kTile);
        return (*recent.tile)[static_cast<size_t>(inY * kTile + inX)];
    }
    /// What moving an edge in a pixel could explain: the remainder of the pixels over which it is spread,
    /// px².
    double gathered(int x, int y);
    const raster::Spread& spread() const { return m_spread; }

    /// What putting one path for another would change, pixel by pixel, and the squares it would save.
    struct Change {
        std::vector<raster::Covered> covered; ///< between the two paths, spread
        double saved = 0;                     ///< by how much the sum of squares falls, px⁴
    };
    Change change(const geometry::Polygon& from, const geometry::Polygon& to);
    void apply(const Change& change);

  private:
    Tile& tileAt(std::int64_t key, int tileX, int tileY);
    bool isForeign(int x, int y) const;
    void fill(Tile& tile, int x0, int y0) const;
    /// Visits the cells of part of a row.
    template <class Visit>
    void eachInRow(int x0, int x1, int y, Visit visit) {
        for (int x = x0; x <= x1;) {
            Cell* at = &cell(x, y);
            const int last = x < 0 ? x : std::min(x1, x / kTile * kTile + kTile - 1);
            for (; x <= last; ++x)
                visit(x, *at++);
        }
    }
    void spreadOver(std::vector<raster::Covered>& covered);

    const raster::LabelMap& m_labels;
    std::int32_t m_right, m_left;
    raster::LevelAt m_levelAt;
    Plain m_plain;
    const raster::Spread& m_spread;
    std::unordered_map<std::int64_t, Tile> m_tiles;
    struct Recent {
        std::int64_t key = -1;
        Tile* tile = nullptr;
    };
    static constexpr int kRecent = 8; ///< tiles across that are found without looking them up
    std::array<Recent, kRecent * kRecent> m_recent;
};

/// Returns the levels of the plain pixels on both sides of a border, by the middle one of those that lie
/// three deep. Nothing where a side is nowhere that deep.
std::optional<Remainder::Plain> plainLevels(const raster::LabelMap& labels, const raster::Border& border,
                                            const raster::LevelAt& levelAt);

} // namespace thinline::trace
