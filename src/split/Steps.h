// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/StepKind.h"
#include "split/Joints.h"

/// What is done at the Split station: a piece is divided along seams. A step holds finished seams; they are found by
/// split/Split.h, or laid by hand, before there is a step.
namespace thinline::split {

using design::Outcome;
using design::Piece;
using design::Pieces;
using design::Step;

/// Returns the kind of a step, or null when it is none of this station's.
const design::StepKind* infoOf(const Step& step);
/// Returns a step in words: "Divide along 5 seams, keyed overlap, 12 mm".
std::string stepText(const Step& step);

/// Whether a step divides a piece; else it backs pieces with board.
bool isDivision(const Step& step);
/// Returns the step that puts a board behind pieces: the outline of all, without openings, smaller all around.
Step boardStep(const std::vector<design::PieceId>& pieces, double insetMm);
/// Returns the inset of such a step; nothing for any other.
std::optional<double> boardInsetMm(const Step& step);

/// A seam and how it is joined.
struct SeamWish {
    geometry::Line path; ///< mm in the design
    Joint joint = Joint::Keyed;
};
/// Returns the joints of seams, in their order.
std::vector<Joint> jointsOf(const std::vector<SeamWish>& seams);
/// What a step was told.
struct SplitWish {
    std::vector<SeamWish> seams;
    double overlapMm = 12;
    Room room;          ///< each part fits it, with its strips
    KeysUsed used = {}; ///< see JointOptions
};

/// Returns which windows are used up after a step: by it and by those before it; none for a step of another kind.
KeysUsed keysUsedBy(const Step& step);
/// Returns the number of a part in its whole, as its name tells it; 0 for what is no part.
int partNumber(const Piece& piece);

/// Returns the step that divides a piece; its id is 0 until a job takes it.
Step splitStep(const Piece& piece, const SplitWish& wish, const KeysUsed& usedAfter = {});
/// Returns what a step was told, its seams where they lie now: `like` is the piece, or any part of it.
SplitWish wishOf(const Step& step, const Piece& like);

/// Returns the pieces after a step.
/// Shape:  parts are named in reading order, "sky 2 of 5"; lines, faces, zones and panels go with them; an overlap is a
///         glue zone on the part that lies below. Ends of seams that miss an edge that has moved are run on to it.
/// Units:  the parts laid together are the piece within 1 um, but for the windows of keys.
/// Errors: InvalidArgument when the piece is not there or the seams part nothing; those of joined; Cancelled.
base::Result<Outcome> apply(const Pieces& pieces, const Step& step, const Pieces* before = nullptr,
                            const base::Progress& progress = {});

/// Returns a piece as a step divides it, before windows and strips: for the eye, and for the numbers.
base::Result<JoinedParts> partsOf(const geometry::Shape& shape, const SplitWish& wish,
                                  const base::Progress& progress = {});

} // namespace thinline::split
