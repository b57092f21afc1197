// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Parameter.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Stack.h"
#include "geometry/Necks.h"

#include <optional>
#include <string>
#include <vector>

/// What is done to chosen pieces at the Shape station: a recipe of steps that can be opened again and
/// replayed whenever what lies below changes.
namespace thinline::shape {

using design::PieceId;

enum class Action {
    Join,          ///< into one
    CutOut,        ///< the others out of the first
    KeepOverlap,   ///< what lies in all
    KeepEveryPart, ///< the first, cut by the others
    Divide,        ///< all by one another
    Offset,        ///< grow, or shrink when negative; in a series the piece itself stays
    FillOpenings,  ///< those below an area
    MirrorTwin,    ///< a mirrored copy beside it
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

/// One step of the recipe.
struct Step {
    Action action = Action::Join;
    /// The first is the one acted on. design::allOfSource(n) stands for every piece of a source, however many
    /// there are when the step is replayed.
    std::vector<PieceId> pieces;
    std::vector<double> values = {}; ///< of the action's parameters; what is missing takes its usual value

    bool operator==(const Step&) const = default;
};

/// Returns a step in words: "Grow or shrink, 3 mm, 7, round".
std::string stepText(const Step& step);

/// A piece on its way through the steps.
struct Item {
    design::Piece piece;
    bool isBacking = false;
    PieceId stockOf = 0; ///< the piece it was made from and shares its stock with, until it is painted itself
    double ownScaleX = 1, ownScaleY = 1; ///< by how much it was scaled apart from the design

    bool operator==(const Item& o) const {
        return piece.id == o.piece.id && piece.shape == o.piece.shape && isBacking == o.isBacking &&
               stockOf == o.stockOf && ownScaleX == o.ownScaleX && ownScaleY == o.ownScaleY;
    }
};

/// Pieces made by steps count up from here, in the order in which they are made.
inline constexpr PieceId kFirstMade = design::kLastFound + 1;

/// The pieces between steps.
struct Work {
    std::vector<Item> items;
    std::vector<Item> scrap; ///< what was left over; nothing is lost until it is emptied
    PieceId next = kFirstMade;
    double scaleX = 1, scaleY = 1; ///< the design's own; lengths of moves are kept without it and grow along
};

/// Returns the numbers of a step's pieces with every whole source written out, those that are there.
std::vector<PieceId> piecesOf(const Work& work, const Step& step);

/// What one step came to.
struct Outcome {
    Work work;
    std::vector<PieceId> made; ///< pieces that are new or changed
    std::vector<PieceId> scrapped;
    double strayMm = 0;          ///< how far smoothing moved an outline
    int vanished = 0;            ///< pieces of which an offset left nothing
    int fellApart = 0;           ///< pieces of which it left several
    std::optional<double> gapMm; ///< between neighbours, where pieces were spaced
};

/// Returns the work after a step.
/// Shape:  the first result keeps the number of the first piece, further ones get new numbers; results lie in
///         the first piece's layer, each part of a division in the layer of the first piece that covers it.
/// Errors: InvalidArgument when too few of the pieces are there any more, or an amount is out of range; those
///         of the geometry; Cancelled.
base::Result<Outcome> apply(const Work& work, const Step& step, const base::Progress& progress = {});

/// Returns the work after all steps. A step that cannot be done any more is passed over and told in
/// `passedOver` ("Step 2 (Join into one): ...").
struct Replayed {
    Work work;
    std::vector<std::string> passedOver;
};
base::Result<Replayed> replay(const Work& start, const std::vector<Step>& steps,
                              const base::Progress& progress = {});

/// An outcome in numbers, for the eye before it is accepted.
struct OutcomeNumbers {
    int piecesBefore = 0, piecesAfter = 0; ///< among those the step touches
    int nodesBefore = 0, nodesAfter = 0;
    std::optional<geometry::Neck> narrowest; ///< of what was made
    int looseParts = 0;                      ///< into how many what was made falls; 1 when it hangs together
};
base::Result<OutcomeNumbers> numbersOf(const Work& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress = {});

} // namespace thinline::shape
