// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "folding/Pose.h"
#include "job/PrintLooks.h"
#include "job/SourceSteps.h"

/// Works from measures in a job, and pieces folded up in thought.
namespace thinline::job {

/// Adds a construction, made for the card of a stock, to the right of what is there. Panes and liners lie on stocks of their
/// own; parts that are needed several times are copied. A word that comes as card is set in its typeface, and its letters are
/// kept.
/// Errors: those of construct::built; NotFound for a stock that is not there.
base::Result<Noted> withConstruction(const State& state, construct::Given given, const std::string& stockId,
                                     const base::FontStore& fonts, const base::Progress& progress = {});
/// Changes what goes in or a margin, and makes the parts anew for the card they lie on now; what was decided about a part
/// stays with it by its key.
/// Errors: NotFound when that source is no construction; as withConstruction.
base::Result<Noted> withConstructionChanged(const Job& job, SourceId source, construct::Given given,
                                            const base::FontStore& fonts,
                                            const base::Progress& progress = {});
/// Returns what was stated with the letters of its word, where the word comes as card; those of `before` where word and
/// typeface are the same. What was not as wished, a typeface that is missing, is in `said`.
/// Errors: those of lettering::findFont and lettersOf.
struct Lettered {
    construct::Given given;
    std::string said = {};
};
base::Result<Lettered> lettered(construct::Given given, const construct::Given* before,
                                const base::FontStore& fonts);

/// Returns the parts of a construction side by side.
base::Result<FoundPieces> piecesOf(const construct::Built& built);
/// Returns what was stated with one word and some measures by name, "height=104 mm", "font=Allerta:Stencil"; the others
/// are the usual ones.
/// Errors: InvalidArgument naming the measure and what there is.
base::Result<construct::Given> readGiven(const std::string& name, const std::vector<std::string>& said);

/// Returns how thick the card is on which a construction's main parts lie.
double thicknessUnder(const Job& job, const Source& source);

/// How a construction stands on the card it lies on.
struct CardFit {
    double madeForMm = 0, liesOnMm = 0;
    std::string what;     ///< the lid over the box; empty when nothing goes into anything
    double playMm = 0;    ///< how much wider the outer one is now; negative: it jams by so much
    bool isOther() const; ///< the card is another one than it was made for
};
CardFit cardFitOf(const Job& job, const Source& source, const construct::Built& built);

/// A piece, or all pieces of its construction, to be folded up.
/// Shape:  of a construction with a folded form every part that is still whole; else the piece with its folds, and what is
///         glued to it where a zone says so: parts of one that was split. Each card has its own stock's
///         thickness and colour, and the prints in `looks`. Its joints close in the order that is kept.
/// Errors: NotFound for a piece that is not in the work; InvalidArgument for one without folds; those of folding::modelOf.
base::Result<folding::Model> foldedOf(const State& state, PieceId piece, const PrintLooks& looks,
                                      const base::Progress& progress = {});
/// Keeps the order in which the joints of a source's folded work are closed; those not named follow in their own.
/// Errors: NotFound for a source that is not there; LimitExceeded above kMostJoints.
base::Result<Job> withJointOrder(const Job& job, SourceId source, std::vector<std::string> joints);
/// Returns a piece that can be folded up, of a source or anywhere; none when there is none.
PieceId foldable(const State& state, std::optional<SourceId> of = {});

} // namespace thinline::job
