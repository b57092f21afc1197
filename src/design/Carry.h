// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"

/// What becomes of a piece's lines, faces, zones and panels when its outline is moved, cut, joined or changed:
/// the one place that knows. Whoever makes outlines out of pieces hands both here and gets bodies back.
namespace thinline::design {

/// Returns a body as a map lays it.
/// Shape:  folds keep the side they are scored on, as the maker sees the piece; pictures turn and mirror along,
///         text and codes never mirror: they stay readable about their own middle. Mirrored twice it is the
///         same body again.
Body mapped(const Body& body, const geometry::Transform& map);

/// Returns a face as a map lays it: text and codes are mirrored back about their own middle.
Face mapped(Face face, const geometry::Transform& map);

struct CarryOptions {
    /// How far an end that had reached the edge is run on straight to an edge that has moved away; beyond it
    /// ends where it ended, and is told. A fold is no better for a guess.
    double runOnMm = 2;
    /// What is left of a line after clipping is dropped below this, and told: no tool makes it.
    double leastMm = 1;
};

/// What carrying came to.
struct Carried {
    std::vector<Body> bodies; ///< one for every outline, in their order
    int shortEnds = 0;        ///< ends that had reached the edge and do not any more
    int droppedBits = 0;      ///< remainders of lines shorter than a millimetre
};

/// Returns the outlines with what belongs to them, taken from the bodies they were made of.
/// Shape:  every line is clipped to every outline; ends at an edge are run on to one that moved outwards. Parts
///         of one line that meet again are one line again, and of two lines of one kind that coincide one
///         stays. Zones are clipped, faces lie on all outlines, a panel goes with the outline that holds its
///         point. No line leaves its outline.
/// Units:  mm; a line on an edge (within 1 um) is no line of the piece any more.
/// Errors: InvalidArgument for a coordinate that is not finite; those of the set operations; Cancelled.
/// Cost:   none for bodies without lines, faces, zones and panels; else one clipping per line and outline whose
///         boxes meet.
base::Result<Carried> carried(const std::vector<std::shared_ptr<const Body>>& from,
                              std::vector<geometry::Shape> into, const CarryOptions& options = {},
                              const base::Progress& progress = {});

} // namespace thinline::design
