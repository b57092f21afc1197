// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Targets.h"

#include <array>
#include <vector>

/// A printed page: where its marks are, and what is left between them. All lengths in mm from its upper left corner.
namespace thinline::print {

/// What the bar beside the first mark says, for an eye and for a camera.
struct PageNumber {
    int page = 0; ///< from 0; the bar tells it modulo 8
    bool isBack = false;
    bool operator==(const PageNumber&) const = default;
};

struct PageLayout {
    double widthMm = 0, heightMm = 0;
    std::array<geometry::Point, 4> marks{}; ///< upper left, upper right, lower right, lower left
    geometry::Box bar{};                    ///< it says which way up the page is
    std::array<geometry::Box, 4> cells{};   ///< of the number, its ones first; the last is black on a back
    geometry::Box ruler{};                  ///< 50 mm across, to be measured
    geometry::Box area{};                   ///< between the marks, with clear space to them

    bool hasMarks() const { return !bar.isEmpty(); }
};
inline constexpr double kRulerMm = 50;

/// Returns how a page is laid out. Without marks the area is what the printer reaches, less the ruler's strip.
PageLayout layoutOf(double widthMm, double heightMm, double printerMarginMm, bool hasMarks);
/// Returns how far from its edges a page cannot hold what is cut.
double takenByMarksMm(double printerMarginMm, bool hasMarks);
/// The smallest page that holds marks, bar and ruler.
inline constexpr double kLeastPageMm = 95;

/// Returns what is printed black for the machine: the marks, the bar, and the number's cells.
geometry::Polygons marksOn(const PageLayout& layout, PageNumber number);
/// Returns the ruler's line and ticks as areas.
geometry::Polygons rulerOn(const PageLayout& layout);

} // namespace thinline::print
