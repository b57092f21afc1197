// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"
#include "split/Steps.h"

#include <set>

/// The steps at Split: what is larger than its sheet, where it may be divided, and the steps that divide it.
namespace thinline::job {

/// Returns the room a piece of a stock has on the chosen mat and the sheets of its stock.
/// Errors: those of arrangeOptions; InvalidArgument when the sheet does not lie on the mat.
base::Result<split::Room> roomFor(const Job& job, const design::Formats& formats, const std::string& stockId);

/// A piece that is larger than its room.
struct Oversize {
    design::PieceId piece;
    std::string name;
    split::Room room;
    double widthMm = 0, heightMm = 0;
    bool isBase = false; ///< nothing lies below it
};
/// Returns the pieces that fit their sheets no way, from below to above. Stocks that are cut by hand go on no mat.
/// Errors: as roomFor.
base::Result<std::vector<Oversize>> oversize(const State& state, const design::Formats& formats);

struct SplitOptions {
    std::optional<split::Joint> joint =
        {}; ///< of all seams; unset: keyed on what lies lowest, else edge to edge
    double overlapMm = 12;
    std::vector<design::PieceId> keepWhole = {}; ///< no seam under these: letters, a face
    split::KeysUsed used = {};                   ///< windows of what was divided before
    split::Options search = {};

    split::Joint jointFor(const Oversize& piece) const {
        return joint.value_or(piece.isBase ? split::Joint::Keyed : split::Joint::Butt);
    }
};

/// A seam of a step, where it lies now.
struct LaidSeam {
    geometry::Line path;         ///< mm in the design
    design::PieceId whole, part; ///< the divided piece, and one of its parts
};
/// Returns the seams of everything that was divided and is still there.
std::vector<LaidSeam> seamsIn(const Made& made);
/// Returns the steps that divide pieces.
std::set<design::StepId> dividingSteps(const Made& made);

/// What a seam of a piece is looked at against: what lies above it, what is kept whole, seams of other layers, folds.
split::Ground groundOf(const State& state, design::PieceId piece, const SplitOptions& options);

/// A piece and the ways in which it may be divided.
struct Proposed {
    Oversize of;
    std::vector<split::Division> ways; ///< the best first; none when `problem` says why
    std::string problem;
};
/// Returns proposals for pieces, from below to above: seams of the upper ones keep off those of the lower ones.
/// Errors: Cancelled; a piece that cannot be divided says so itself.
base::Result<std::vector<Proposed>> proposals(const State& state, const std::vector<Oversize>& pieces,
                                              const SplitOptions& options,
                                              const base::Progress& progress = {});

/// A piece and the seams somebody took.
struct Taken {
    Oversize of;
    std::vector<split::SeamWish> seams;
};
/// A piece and the seams that are looked at before they are taken, and what they come to.
struct Draft {
    Oversize of;
    std::vector<split::SeamWish> seams;
    split::Division division;              ///< by these seams
    split::JoinedParts joined;             ///< as the parts would be cut
    std::vector<std::string> faults;       ///< what would go wrong, a sentence each
    split::KeysUsed used = {};             ///< its windows are counted from there
    double longestMm = 0;                  ///< of all parts, the longer side of the rectangle around one
    double narrowestMm = 0;                ///< the narrowest place that is cut; 0 without seams
    std::optional<double> nearSeamMm = {}; ///< of another layer, that a seam runs along
    int windows = 0;
    std::vector<geometry::Point> places = {}; ///< one well inside every part
};
/// Returns what some seams come to.
/// Errors: those of split::dividedBy and split::joined.
base::Result<Draft> draftOf(const State& state, const Oversize& piece, std::vector<split::SeamWish> seams,
                            const SplitOptions& options, const base::Progress& progress = {});
/// Returns the seams with those added that the parts which are too large still need; the given ones stay.
base::Result<std::vector<split::SeamWish>> withTheRest(const State& state, const Draft& draft,
                                                       const SplitOptions& options,
                                                       const base::Progress& progress = {});
/// Returns what a way is called beside the others: "Fewest parts", "Fewer thin places cut", "Less is seen".
std::string wayName(const std::vector<split::Division>& ways, std::size_t way);

/// A piece that is too large, the ways in which it may be divided, and what each comes to.
struct Considered {
    Proposed proposed;
    std::vector<Draft> drafts; ///< one a way
};
/// Returns pieces that are too large with their ways, from below to above.
/// Errors: Cancelled; those of draftOf.
base::Result<std::vector<Considered>> considered(const State& state, const std::vector<Oversize>& pieces,
                                                 const SplitOptions& options,
                                                 const base::Progress& progress = {});

/// Returns the seams of a division, all joined alike.
std::vector<split::SeamWish> wishesOf(const split::Division& division, split::Joint joint);

/// Returns the state with these pieces divided, a step for each.
/// Errors: those of stepped.
base::Result<State> dividedAlong(const State& state, const std::vector<Taken>& pieces, double overlapMm,
                                 Stage upTo = Stage::Finish, const base::Progress& progress = {});

/// Returns how far inside the outline of the work its boards end, of every board there is: mm.
std::map<design::PieceId, double> boardInsets(const State& state);

/// Returns why a seam lies where it does: "41.0 mm long, 36.0 mm at its narrowest, hidden; any other place costs 12 mm
/// more".
std::string seamText(const split::Seam& seam, base::LengthUnit unit);
/// Returns a division in one line: "6 parts, 5 seams of 412 mm, 31 mm seen".
std::string divisionText(const split::Division& division, base::LengthUnit unit);
/// Returns the sentence for what is too large: "the backing is 499.0 x 700.0 mm; its sheet leaves 292.1 x 292.1 mm".
std::string oversizeText(const Oversize& piece, base::LengthUnit unit);

/// Returns how the parts of every divided piece go together, a line for each piece and seam: "part 1 lies on part 3 by
/// 12.0 mm, 4 windows".
/// Errors: those of split::partsOf.
base::Result<std::vector<std::string>> joinsOf(const State& state, const base::Progress& progress = {});

} // namespace thinline::job
