// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <optional>
#include <string_view>

/// The small grammar of SVG attributes, and its basic shapes (SVG 1.1, chapters 7 and 9).
namespace thinline::formats::svg {

struct Viewport {
    double width = 100, height = 100; ///< user units; what percentages count from
};

enum class Along { X, Y, Both };

/// A length in user units; nothing when there is none. `isReal` tells a physical unit. `em` is the size of
/// the type.
std::optional<double> lengthOf(std::string_view text, const Viewport& view, Along along,
                               bool* isReal = nullptr, double em = 16);

/// The list of transforms of an attribute; stops at the first mistake.
geometry::Transform transformOf(std::string_view text);

/// How a viewBox is laid into a place, by preserveAspectRatio.
geometry::Transform viewBoxMap(const geometry::Box& box, double width, double height, std::string_view fit);

/// The box a viewBox attribute states; nothing when it is none.
std::optional<geometry::Box> viewBoxOf(std::string_view text);

geometry::Contour roundedBox(double x, double y, double width, double height, double rx, double ry);

} // namespace thinline::formats::svg
