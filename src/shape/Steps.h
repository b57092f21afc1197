// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/StepKind.h"
#include "geometry/Necks.h"

#include <optional>
#include <string>
#include <vector>

/// What is done to chosen pieces at the Shape station.
namespace thinline::shape {

using design::Outcome;
using design::PieceId;
using design::Pieces;
using design::Step;

enum class Action {
    Join,          ///< into one
    Bridge,        ///< into one, by bars over the gaps between them
    CutOut,        ///< the others out of the first
    KeepOverlap,   ///< what lies in all
    KeepEveryPart, ///< the first, cut by the others
    Divide,        ///< all by one another
    Offset,        ///< grow, or shrink when negative; in a series the piece itself stays
    FillOpenings,  ///< those below an area
    MirrorTwin,    ///< a mirrored copy beside it
    Mirror,        ///< about the middle of their common frame, in place
    Smooth,        ///< jitter over a reach taken out
    Move,          ///< by a distance across and down
    Turn,          ///< about the middle of their common frame
    SizeAlone,     ///< scale about the middle of their common frame, apart from the rest of the design
    RowsOfTwins,   ///< copies in columns and rows
    RingOfTwins,   ///< copies around a ring
    Align,         ///< edges or middles of all in one line
    SpaceEvenly,   ///< equal gaps from piece to piece
    SetAside,      ///< into the scrap
    PutBack,       ///< out of the scrap
    EmptyScrap     ///< for good
};

struct ActionInfo : design::StepKind {
    Action action;
};
/// Every action, in the order in which it is offered.
const std::vector<ActionInfo>& actionInfos();
const ActionInfo& infoOf(Action action);
/// Returns what a step does, or null when its action is none of this station's.
const ActionInfo* infoOf(const Step& step);

/// Returns a step with values in the order of the action's parameters; what is missing takes its usual value.
/// Its id is 0 until a job takes it.
Step makeStep(Action action, const std::vector<PieceId>& pieces, const std::vector<double>& values = {});

/// Returns a step's values in the order of its action's parameters; none for a step of no action.
std::vector<double> valuesOf(const Step& step);

/// Returns the pieces after a step.
/// Shape:  only parting lengthens an id: one result keeps its piece's; several are parts of it, numbered once and
///         known again by a point inside each. Of a series the piece itself stays and its rings come beside it.
///         Twins, rings and what falls into the scrap are called after the piece they were made of. Lines and
///         faces are carried (design/Carry.h).
/// Units:  `before` is what the step led to when it was last done: when a changed step makes other parts, each
///         takes the name of the one it shares most area with. Without it remembered points decide alone.
/// Errors: InvalidArgument when too few of the pieces are there any more, or a count is out of range; those of
///         the geometry; Cancelled.
base::Result<Outcome> apply(const Pieces& pieces, const Step& step, const Pieces* before = nullptr,
                            const base::Progress& progress = {});

/// An outcome in numbers, for the eye before it is accepted.
struct OutcomeNumbers {
    int piecesBefore = 0, piecesAfter = 0; ///< among those the step touches
    int nodesBefore = 0, nodesAfter = 0;
    std::optional<geometry::Neck> narrowest; ///< of what was made
    int looseParts = 0;                      ///< into how many what was made falls; 1 when it hangs together
};
base::Result<OutcomeNumbers> numbersOf(const Pieces& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress = {});

} // namespace thinline::shape
