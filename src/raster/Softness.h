// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Borders.h"

#include <functional>
#include <vector>

/// How soft a picture is beyond what pixels make of a sharp edge: a lens, a scanner, a careless enlargement.
namespace thinline::raster {

/// How the light of one pixel is spread over its neighbours, the same along rows and columns.
struct Spread {
    std::vector<double> taps{1}; ///< 2 reach + 1 shares, symmetric, together 1

    int reach() const { return static_cast<int>(taps.size()) / 2; }
    double at(int dx, int dy) const {
        return taps[static_cast<size_t>(dx + reach())] * taps[static_cast<size_t>(dy + reach())];
    }
};
/// Returns a spread of a variance, px²; none below 0.06, as for 2.5 above it.
Spread spreadOf(double variance);

/// Returns the variance of a picture's edges across, less what the pixels themselves add, px²: 0 for a
/// drawing with anti-aliased edges.
/// Shape:  by places between sides four pixels deep; 0 with fewer than thirty of them. The tenths that lie
///         highest and lowest are left out.
/// Cost:   O(sides), at most 20,000 of them.
double softnessOf(const LabelMap& labels, const Borders& borders,
                  const std::function<LevelAt(const Border&)>& levelsFor);

} // namespace thinline::raster
