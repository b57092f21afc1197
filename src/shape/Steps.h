// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Parameter.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Step.h"
#include "geometry/Necks.h"

#include <optional>
#include <string>
#include <vector>

/// What is done to chosen pieces at the Shape station.
namespace thinline::shape {

using design::PieceId;
using design::Pieces;
using design::Step;

enum class Action {
    Join,          ///< into one
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
    Fold,          ///< a fold across each piece, along its sides at a distance
    TakeLinesOff,  ///< folds and all other lines
    SetAside,      ///< into the scrap
    PutBack,       ///< out of the scrap
    EmptyScrap     ///< for good
};

struct ActionInfo {
    Action action;
    const char* name;   ///< in files
    const char* label;  ///< on the screen, named by its outcome
    size_t leastPieces; ///< that must be chosen
    std::vector<base::Parameter> parameters = {};
};
/// Every action, in the order in which it is offered.
const std::vector<ActionInfo>& actionInfos();
const ActionInfo& infoOf(Action action);
/// Returns what a step does, or null when its action is none of this station's.
const ActionInfo* infoOf(const Step& step);

/// Returns a step with values in the order of the action's parameters; what is missing takes its usual value.
/// Its id is 0 until a job takes it.
Step makeStep(Action action, const std::vector<PieceId>& pieces, const std::vector<double>& values = {});
/// Returns a step's values in the order of its action's parameters.
std::vector<double> valuesOf(const Step& step);
/// Returns whether a person may ask for this. What a job holds already is replayed also beyond the ranges of the
/// panel: sizing grows it along.
/// Errors: InvalidArgument naming the parameter and its range.
base::Status checkStep(const Step& step);

/// Returns a step in words: "Grow or shrink, 3 mm, 7, round".
std::string stepText(const Step& step);

/// Who stands where whom after a step.
struct Successor {
    PieceId of, now;
    bool isFirst = false; ///< it took the other's place; else it came in addition
};

/// What one step came to.
struct Outcome {
    Pieces pieces;
    std::vector<PieceId> made; ///< pieces that are new or changed
    std::vector<PieceId> scrapped;
    std::vector<design::Part> parts;   ///< for Step::parts, those that were known before included
    std::vector<Successor> successors; ///< in the order in which they came
    double strayMm = 0;                ///< how far smoothing moved an outline
    int vanished = 0;                  ///< pieces of which an offset left nothing
    int fellApart = 0;                 ///< pieces of which it left several
    std::optional<double> gapMm;       ///< between neighbours, where pieces were spaced
    int shortEnds = 0;                 ///< lines that reached an edge and do not any more
    int droppedBits = 0;               ///< remainders of lines too short for any tool
};

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

/// Returns a step after the whole design was sized by these factors: places and thresholds grow along, margins
/// stay as typed unless `growsMargins`.
Step sizedBy(Step step, double factorX, double factorY, bool growsMargins = false);

} // namespace thinline::shape
