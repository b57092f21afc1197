// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Borders.h"
#include "raster/Coverage.h"
#include "raster/Softness.h"

#include <array>
#include <cstdint>
#include <span>
#include <unordered_map>

namespace thinline::trace {

/// What the picture shows along one border beyond what a curve drawn for it explains: for every pixel, how
/// much more of it belongs to the right-hand face than lies to the right of the curve, spread as the picture is
/// soft.
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

    struct Cell {
        float rest = 0;     ///< px²
        float change = 0;   ///< while one is looked at
        std::int32_t slot = -1; ///< for whoever gathers by pixels; is left at -1
    };
    Cell& cell(int x, int y);
    const raster::Spread& spread() const { return m_spread; }

    /// What putting one path for another would change, pixel by pixel, and the squares it would save.
    struct Change {
        std::vector<raster::Covered> covered; ///< between the two paths, spread
        double saved = 0;                     ///< by how much the sum of squares falls, px⁴
    };
    Change change(const geometry::Polygon& from, const geometry::Polygon& to);
    void apply(const Change& change);

  private:
    static constexpr int kTile = 8;
    using Tile = std::array<Cell, kTile * kTile>;
    bool isForeign(int x, int y) const;
    void fill(Tile& tile, int x0, int y0) const;
    void spreadOver(std::vector<raster::Covered>& covered);

    const raster::LabelMap& m_labels;
    std::int32_t m_right, m_left;
    raster::LevelAt m_levelAt;
    Plain m_plain;
    const raster::Spread& m_spread;
    std::unordered_map<std::int64_t, Tile> m_tiles;
    std::int64_t m_lastKey = -1;
    Tile* m_last = nullptr;
};

/// Returns the levels of the plain pixels on both sides of a border, by the middle one of those that lie
/// three deep. Nothing where a side is nowhere that deep.
std::optional<Remainder::Plain> plainLevels(const raster::LabelMap& labels, const raster::Border& border,
                                            const raster::LevelAt& levelAt);

} // namespace thinline::trace
