// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Borders.h"
#include "raster/Faults.h"
#include "raster/Shading.h"

#include <cstdint>
#include <vector>

namespace thinline::raster {

/// What each colour of a picture looks like at every place of it: itself in the light there, and what it does besides,
/// as a gradient does.
class LocalColours {
  public:
    /// `colours` in even light, as yccOf gives them. Cost: six bytes a colour for every step x step pixels; the more there
    /// is of both the wider the steps, so that it stays below a quarter of a gigabyte.
    LocalColours(int width, int height, const Shading& shading, std::vector<Vec> colours);

    size_t count() const { return m_colours.size(); }
    const Vec& evenly(size_t colour) const { return m_colours[colour]; }
    /// Units: px.
    Vec at(size_t colour, double x, double y) const;
    /// At the lattice place nearest to a pixel: quicker, a level off at most where colours run by degrees.
    Vec near(size_t colour, int x, int y) const;

    /// Units: px a place of the lattice.
    int step() const { return m_step; }

    /// Learns what the colours do besides, from the pixels that are surely of each; -1 for the others. Where nothing is
    /// known a colour stays as it is in the light there.
    /// Returns whether any colour does anything besides.
    /// Cost: O(pixels x colours), blurs of reduced copies of the part of the picture where each colour is.
    bool learn(const Picture& picture, const LabelMap& cores);

  private:
    /// A rectangle of the lattice.
    struct Places {
        int x = 0, y = 0, width = 0, height = 0;
    };
    struct Field {
        std::vector<std::int16_t> values; ///< 3 a place, in 1/32 level; empty: even light and nothing besides
    };
    void layLight(size_t colour);
    std::vector<Places> boxesOf(const LabelMap& cores) const;
    bool learnOne(size_t colour, const Places& box, const Picture& picture, const LabelMap& cores);
    size_t place(int i, int j) const {
        return (static_cast<size_t>(j) * static_cast<size_t>(m_across) + static_cast<size_t>(i)) * 3;
    }
    int m_width, m_height;
    int m_step, m_across, m_down;
    std::vector<float> m_light; ///< at the places; empty: even
    std::vector<Vec> m_colours;
    std::vector<Field> m_fields;
};

} // namespace thinline::raster
