// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Lines.h"

#include <vector>

namespace thinline::design {

/// A card as its folds part it: flat leaves, and where two of them hang together.
struct Leaves {
    struct Hinge {
        size_t a = 0, b = 0;      ///< leaves, a before b
        size_t line = 0;          ///< the fold, as it was given
        geometry::Point from, to; ///< its ends; a's card lies on its right as it runs on screen
        double lengthMm = 0;      ///< of the border both share
        bool isStraight = true;   ///< else it bends both leaves, and turns them about no line
        /// The way from a to b, of length 1.
        geometry::Point across() const {
            const geometry::Point along = to - from;
            return geometry::Point{along.y, -along.x} * (1 / geometry::length(along));
        }
    };
    std::vector<geometry::Shape> areas;
    std::vector<Hinge> hinges;
};

/// Returns the leaves of a shape.
/// Shape:  areas as geometry::partedBy has them; a hinge for every pair of leaves and every fold between them, in the order
///         of the leaves. A fold that stops short makes no leaf.
/// Units:  mm.
/// Errors: those of geometry::partedBy; Cancelled.
/// Cost:   that of partedBy, and one look at every fold for each border that two leaves share.
base::Result<Leaves> leavesOf(const geometry::Shape& shape, const std::vector<geometry::Line>& folds,
                              const base::Progress& progress = {});

} // namespace thinline::design
