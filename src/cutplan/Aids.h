// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Machine.h"
#include "geometry/Lines.h"

/// What a line becomes for a machine that is not led round corners by itself.
namespace thinline::cutplan {

/// Returns how the shaft of a drag knife is led so that its tip follows a line.
/// Shape:  the tip trails by the offset, so the shaft runs ahead by as much in the direction of the line, and swings round the
///         tip on an arc at every corner. Curves become chords within 10 um. A closed line stays closed: at its
///         beginning it swings last. Without an offset the line itself.
/// Units:  of a square of side a the way is 4 a and four quarters of a circle of the offset.
/// Source: our own derivation; it is exact for a tip that is dragged without slipping.
geometry::Line swivelled(const geometry::Line& line, double offsetMm);

/// Returns a closed line that goes on beyond where it began; it is open then. One shorter than that goes round once more.
geometry::Line overcut(const geometry::Contour& line, double overcutMm);

/// Returns a closed line in parts that leave bridges between them: the first where the line begins, the others at equal
/// lengths. Nothing for a line too short to be held so (kLeastPerTab bridges for each).
std::vector<geometry::Line> tabbed(const geometry::Contour& line, int tabs, double tabMm);
inline constexpr double kLeastPerTab = 4;

} // namespace thinline::cutplan
