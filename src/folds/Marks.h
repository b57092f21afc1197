// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"

#include <array>

/// Placement marks: where upper pieces go, shown on what lies below them so that gluing needs no guessing.
namespace thinline::folds {

enum class MarksAs { Outlines, Corners, Stretches };
inline constexpr std::array<const char*, 3> kMarksAsWords{"outlines", "corners", "stretches"};

/// How the marks of a job are made.
struct MarkPlan {
    MarksAs as = MarksAs::Outlines;
    double insetMm =
        0.7; ///< inside the edge of what covers them; what lifts it is added, for foam shows them aslant
    bool areScored = true; ///< else drawn by a pen

    bool operator==(const MarkPlan&) const = default;
};

/// Returns the lines that show where pieces of one layer go.
/// Shape:  pieces that touch are marked as one. Every line lies inside them by the inset; where they are too narrow
///         for it there is none. Corners are 5 mm to either side of every turn above 30 degrees, stretches 8 mm every
///         40 mm; an outline without corners is marked by stretches.
/// Units:  mm; `liftMm` is what holds the pieces above the marks.
/// Errors: those of the set operations; Cancelled.
/// Source: 5, 8, 40 mm and the inset are from memory.
base::Result<std::vector<geometry::Line>> marksOf(const std::vector<geometry::Shape>& pieces, double liftMm,
                                                  const MarkPlan& plan, const base::Progress& progress = {});

/// Returns the parts of marks that lie on a piece where nothing else covers it.
/// Shape:  `between` are the pieces that lie on it and under those that are marked. Bits below 1 mm are left out.
/// Errors: those of the set operations; Cancelled.
base::Result<std::vector<geometry::Line>> marksOn(const geometry::Shape& piece,
                                                  const std::vector<geometry::Shape>& between,
                                                  const std::vector<geometry::Line>& marks,
                                                  const base::Progress& progress = {});

} // namespace thinline::folds
