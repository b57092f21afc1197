// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Stack.h"
#include "geometry/Necks.h"
#include "geometry/Offset.h"

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
    SetAside,      ///< into the scrap
    PutBack,       ///< out of the scrap
    EmptyScrap     ///< for good
};

struct ActionInfo {
    Action action;
    const char* name;     ///< in files
    const char* label;    ///< on the screen, named by its outcome
    size_t leastPieces;   ///< that must be chosen
    const char* amount;   ///< what `Step::amount` means, or null
    double amountDefault; ///< mm, or mm2 for openings
    double amountLeast, amountMost;
};
/// Every action, in the order in which it is offered.
const std::vector<ActionInfo>& actionInfos();
const ActionInfo& infoOf(Action action);

/// One step of the recipe.
struct Step {
    Action action = Action::Join;
    std::vector<PieceId> pieces; ///< the first is the one acted on
    double amount = 0;           ///< mm; mm2 for FillOpenings
    int count = 1;               ///< of offsets
    geometry::Join join = geometry::Join::Round;

    bool operator==(const Step&) const = default;
};

/// A piece on its way through the steps.
struct Item {
    design::Piece piece;
    bool isBacking = false;
    PieceId stockOf = 0; ///< the piece it was made from and shares its stock with, until it is painted itself

    bool operator==(const Item& o) const {
        return piece.id == o.piece.id && piece.shape == o.piece.shape && isBacking == o.isBacking &&
               stockOf == o.stockOf;
    }
};

/// Pieces made by steps count up from here, in the order in which they are made.
inline constexpr PieceId kFirstMade = design::kLastFound + 1;

/// The pieces between steps.
struct Work {
    std::vector<Item> items;
    std::vector<Item> scrap; ///< what was left over; nothing is lost until it is emptied
    PieceId next = kFirstMade;
};

/// What one step came to.
struct Outcome {
    Work work;
    std::vector<PieceId> made; ///< pieces that are new or changed
    std::vector<PieceId> scrapped;
    double strayMm = 0; ///< how far smoothing moved an outline
    int vanished = 0;   ///< pieces of which an offset left nothing
    int fellApart = 0;  ///< pieces of which it left several
};

/// Returns the work after a step.
/// Shape:  the first result keeps the number of the first piece, further ones get new numbers; results lie in
/// the
///         first piece's layer, each part of a division in the layer of the first piece that covers it.
/// Errors: InvalidArgument when too few of the pieces are there any more, or an amount is out of range; those
/// of
///         the geometry; Cancelled.
base::Result<Outcome> apply(const Work& work, const Step& step, const base::Progress& progress = {});

/// Returns the work after all steps. A step that cannot be done any more is passed over and told in
/// `passedOver`
/// ("Step 2 (Join into one): ...").
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
    int looseParts = 0; ///< into how many what was made falls; 1 when it hangs together
};
base::Result<OutcomeNumbers> numbersOf(const Work& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress = {});

} // namespace thinline::shape
