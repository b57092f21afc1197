// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"

#include <optional>
#include <vector>

/// Panes behind windows, and linings of panels.
namespace thinline::folds {

/// What is kept free of panes at folds and edges, mm; a fold bends no further than its pane lets it. From memory.
inline constexpr double kPaneClearMm = 1;
/// A ring of glue narrower than this does not hold; from memory.
inline constexpr double kLeastRingMm = 3;

/// Returns the opening of a shape that holds a point, as a shape of its own.
std::optional<geometry::Shape> windowAt(const geometry::Shape& shape, geometry::Point at);

struct Pane {
    geometry::Shape shape;             ///< mm in the design
    std::vector<geometry::Shape> ring; ///< the card it is glued to
};

/// Returns a pane for each window of a piece, in their order; nothing where there is no opening at the place.
/// Shape:  the opening grown by the margin, kept off folds, edges and glued flaps. Panes that would meet share what lies
///         between their windows.
/// Units:  mm; `windows` are places inside openings.
/// Errors: InvalidArgument for a margin outside 0.5 to 50 mm; those of the set operations; Cancelled.
/// Cost:   one offset for each window, and one set operation for each pair that would meet.
base::Result<std::vector<std::optional<Pane>>> panesOf(const design::Body& body,
                                                       const std::vector<geometry::Point>& windows,
                                                       double marginMm, const base::Progress& progress = {});

/// Returns how wide the ring of a pane is where it is narrowest, mm; 0 where it is not closed.
/// Shape:  `ring` is a zone of glue with the window as its opening.
double narrowestRing(const geometry::Shape& ring);

/// Returns the card that lines a panel, a margin smaller all round, its windows a margin larger; several parts where it is
/// narrow, the largest first.
/// Errors: InvalidArgument when nothing is left, or for a margin outside 0 to 50 mm; those of the set operations.
base::Result<std::vector<geometry::Shape>> liningOf(const geometry::Shape& panel, double marginMm,
                                                    const base::Progress& progress = {});

} // namespace thinline::folds
