// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"

/// Ways for a ribbon or a stick, and places that are kept free.
namespace thinline::folds {

struct WayPlan {
    double widthMm = 10; ///< of what goes in
    double slitMm = 12;
    bool runsToEdge = false; ///< one slit only: what goes in leaves the piece over its edge
};
struct Way {
    std::vector<geometry::Line> slits;
    std::vector<geometry::Shape> area; ///< under or over which it runs; several where openings part it
};

/// Returns the way between two places of a piece.
/// Shape:  slits across it at both places, their middles there; the area as wide as what goes in, clipped to the card.
/// Errors: InvalidArgument for places less than 2 mm apart, one off the card, or a slit that would reach an edge or another
///         opening: the card would tear there; those of the set operations.
base::Result<Way> wayOf(const geometry::Shape& card, geometry::Point from, geometry::Point to,
                        const WayPlan& plan, const base::Progress& progress = {});

/// Returns a strip about a stretch, clipped to the card.
/// Errors: InvalidArgument when nothing of it lies on the card; those of the set operations.
base::Result<std::vector<geometry::Shape>> stripOn(const geometry::Shape& card, geometry::Point from,
                                                   geometry::Point to, double widthMm,
                                                   const base::Progress& progress = {});

} // namespace thinline::folds
