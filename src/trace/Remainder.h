// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Borders.h"
#include "raster/Coverage.h"

#include <array>
#include <cstdint>
#include <span>
#include <unordered_map>

namespace thinline::trace {

/// What the picture shows along one border beyond what a curve drawn for it explains: for every pixel, how
/// much more of it belongs to the right-hand face than lies to the right of the curve.
class Remainder {
  public:
    /// The levels of a pixel that lies wholly on one side.
    struct Plain {
        double right = 0, left = 0;
    };

    /// `labels` and the levels must outlive it.
    Remainder(const raster::LabelMap& labels, const raster::Border& border, raster::LevelAt levelAt,
              Plain plain);

    /// Begins with a curve for a border along its pixels' sides. Pixels with another face near cannot tell:
    /// there the curve is taken as it is, and any other leaves a remainder.
    void begin(const geometry::Polygon& pixelPath, const geometry::Polygon& curve);

    /// The remainder of a pixel, px².
    double at(int x, int y) { return place(x, y); }
    /// What putting one path for another would change, pixel by pixel, and the squares it would save.
    struct Change {
        std::vector<raster::Covered> covered; ///< between the two paths
        double saved = 0;                     ///< by how much the sum of squares falls, px⁴
    };
    Change change(const geometry::Polygon& from, const geometry::Polygon& to);
    void apply(const Change& change);

  private:
    static constexpr int kTile = 8;
    using Tile = std::array<float, kTile * kTile>;
    float& place(int x, int y);
    bool isForeign(int x, int y) const;
    void fill(Tile& tile, int x0, int y0) const;

    const raster::LabelMap& m_labels;
    std::int32_t m_right, m_left;
    raster::LevelAt m_levelAt;
    Plain m_plain;
    std::unordered_map<std::int64_t, Tile> m_tiles;
    std::int64_t m_lastKey = -1;
    Tile* m_last = nullptr;
};

/// Returns the levels of the plain pixels on both sides of a border, by the middle one of those that lie
/// three deep; what is given stands. Nothing where a side is nowhere that deep.
std::optional<Remainder::Plain> plainLevels(const raster::LabelMap& labels, const raster::Border& border,
                                            const raster::LevelAt& levelAt);

} // namespace thinline::trace
