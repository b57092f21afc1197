// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Heights.h"

/// The work seen from the side along a line: which pieces the line meets, where, and how high they lie there.
namespace thinline::design {

/// A line across the design.
struct SectionLine {
    geometry::Point through; ///< mm in the design
    double turnRad = 0;      ///< its direction, clockwise on the screen from straight to the right

    geometry::Point along() const { return {std::cos(turnRad), std::sin(turnRad)}; }
    /// The place so far along the line.
    geometry::Point at(double alongMm) const { return through + along() * alongMm; }
    bool operator==(const SectionLine&) const = default;
};

/// A stretch of the line that lies on card of one piece.
struct SectionSpan {
    std::size_t piece = 0; ///< its place in the stack
    double fromMm = 0, toMm = 0;
    Height height;
};

struct Section {
    std::vector<SectionSpan> spans; ///< in the stack's order, along the line within a piece
    double fromMm = 0,
           toMm = 0; ///< the part of the line that crosses the frame of all pieces; equal when none
    bool isMissed() const { return !(toMm > fromMm); }
};

/// What was found out about bodies; a dragged line asks the same ones again and again.
struct SectionMemory {
    Remembered<geometry::Box> boxes;
    Remembered<geometry::Polygons> rings;
};

/// Returns the section. Hidden layers are in it: they are there.
/// Units:  mm along the line from `through`, ends within 0.01 mm of the true outline's.
/// Cost:   O(pieces), and O(nodes) of those whose frame the line meets.
Section sectionOf(const Stack& stack, const Heights& heights, const SectionLine& line, SectionMemory& memory);

/// Returns the line straight across the middle of a box.
SectionLine acrossMiddle(const geometry::Box& box);
/// Returns the stretch of the line within a box, as distances along it; none where it misses.
std::optional<std::pair<double, double>> within(const SectionLine& line, const geometry::Box& box);

} // namespace thinline::design
