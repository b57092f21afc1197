// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <array>
#include <string>
#include <vector>

/// Small windows of different forms, so that each part of a divided work fits only in its place.
namespace thinline::split {

/// A window as its maker codes it: a square whose corners are sharp or cut off, and whose sides are plain or notched
/// before or after their middle.
struct KeyCode {
    enum class Side { Plain, Before, After };
    std::array<bool, 4> isCutOff{};
    std::array<Side, 4> sides{};
    double stretch = 1; ///< how much longer it is along its seam

    bool operator==(const KeyCode&) const = default;
    /// In letters: "o/pabp" has its second corner cut off and is notched twice.
    std::string text() const;
};

/// Returns the windows that are told apart by hand and by eye: each differs from all others, and from itself, in any
/// turn or mirror that keeps its frame by at least 0.089 of its square (3.2 mm2 at 6 mm).
/// Shape: the same list every time; first those that are not stretched.
const std::vector<KeyCode>& keyCodes();

/// Returns a window of this side about the origin, its first side along x.
geometry::Polygon keyWindow(const KeyCode& code, double sideMm);

/// Returns by how much two windows of one side differ when laid over one another in the turn or mirror in which they
/// are most alike, as a share of the square; itself left out when they are the same.
double keyDistance(const KeyCode& a, const KeyCode& b);

} // namespace thinline::split
