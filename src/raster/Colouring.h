// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "raster/Borders.h"
#include "raster/LocalColours.h"

#include <cstdint>
#include <unordered_map>
#include <vector>

namespace thinline::raster {

struct ColouringOptions {
    double mmPerPx = 0.125;
    double leastMm2 = 0.5;    ///< what is smaller is not wanted
    int count = 0;            ///< how many colours; 0: as many as are found
    std::vector<Rgb> picked = {}; ///< colours that are there, besides those found
};

/// A colour that shows in a picture and was given to others.
struct LostColour {
    Rgb colour{};
    double areaPx = 0;
    int x = 0, y = 0;     ///< a pixel of it
    bool isSmall = false; ///< every part of it is too small to be wanted
};

/// A painted picture told apart by its colours.
struct Colouring {
    Faults faults;
    Shading shading;
    std::vector<Rgb> palette; ///< in even light, most used first
    LabelMap map;             ///< the colour of every pixel
    LocalColours colours;

    double sure = 0;              ///< share of the pixels that are of a colour by themselves
    double unexplained = 0;       ///< share of the pixels that no mixture of the palette explains
    std::vector<LostColour> lost; ///< a square millimetre at least of each

    /// A border pixel between two colours that single pixels hardly tell apart, looked at along the border.
    struct Steadied {
        std::uint8_t first = 0, second = 0;
        std::uint16_t share = 0; ///< of the first, of 65535
    };
    std::unordered_map<std::uint32_t, Steadied> steadied; ///< by row x width + column

    /// How much of a pixel is of the first colour, 0 to 1, when the rest of it is of the second.
    double shareOf(const Picture& picture, size_t first, size_t second, int x, int y) const;
    /// By how much a border between two colours may be off, px.
    double doubt(size_t first, size_t second) const;
};

/// Returns which colour every pixel is of.
/// Shape:  light over the picture and gradients within a thing are no colours of their own; a pixel of a soft edge
///         belongs to one of the colours that lie around it, to the one it holds more of, never to a third that its
///         mixture happens to look like; a line too thin for an even core keeps its colour if no mixture of its
///         surroundings explains it.
/// Errors: Cancelled.
/// Cost:   O(pixels x colours), and for pixels of soft edges the square of the colours around. About 12 bytes a pixel and
///         2 more a colour.
base::Result<Colouring> coloured(const Picture& picture, const ColouringOptions& options = {},
                                 const base::Progress& progress = {});

} // namespace thinline::raster
