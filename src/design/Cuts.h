// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"
#include "geometry/CutOnce.h"

#include <array>

/// What the knife travels on a sheet.
namespace thinline::design {

/// What a line of a piece is called, in files and at the batch tool: "fold", "score", "slit", "tear", "pen", "mark".
inline constexpr std::array<const char*, std::variant_size_v<LineUse>> kLineUseWords{"fold", "score", "slit",
                                                                                     "tear", "pen",   "mark"};
/// Whether a line is a fold that is scored on the face that lies below on the mat, of a piece that lies there flipped or not.
inline bool isScoredFromBelow(const PieceLine& line, bool isFlipped) {
    const auto* fold = std::get_if<Fold>(&line.does);
    return fold && (fold->scored == Side::Front) == isFlipped;
}

/// What is done on a sheet, in the order of work.
enum class Operation { Draw, Score, Perforate, CutInside, Cut };
inline constexpr std::array kOperations{Operation::Draw, Operation::Score, Operation::Perforate,
                                        Operation::CutInside, Operation::Cut};
/// Returns the name of the group of an operation in a file: "sea-score", "sea-cut", "film-cut-to-carrier".
std::string operationGroup(const std::string& stockId, Operation operation, Depth depth);

/// Whether anything in a work folds.
bool hasFolds(const Body& body);
bool hasFolds(const Stack& stack);

/// Returns how folds are perforated in a stock: the lighter, the more is left; the heavier, the more is cut so that it
/// bends. Of a stock that is not known, as in card.
/// Source: cuts of 2 to 3 mm, 1 to 2 mm left, 2 mm at the ends, from memory.
geometry::Perforation perforationOf(const Stock* stock);

/// Returns how the folds of a work are perforated, in words: "2.5 mm cut, at least 1.5 mm left, ..."; of several stocks
/// from which to which. Of a work without folds as in card.
std::string perforationText(const Stack& stack);

/// Returns what a tool does along folds that lie together on a piece.
/// Shape:  scored, the folds as they are; perforated, whole cuts, with bridges at both ends and where folds cross; by hand,
///         what a pen marks where nothing is known of what lies around: their first and last 2 mm.
/// Errors: those of geometry::perforated.
/// Errors: Cancelled, where somebody may cancel.
/// Cost:   O(folds²) for their crossings.
base::Result<std::vector<geometry::Line>> foldLines(const std::vector<geometry::Line>& folds, FoldsAs as,
                                                    const geometry::Perforation& how,
                                                    const base::Progress* progress = nullptr);

/// What is done to one copy where it lies on the mat: outlines, openings and slits, and the lines it carries.
struct PieceCuts {
    CopyOf what;
    std::array<geometry::CutLines, kOperations.size()> by = {};

    geometry::CutLines& of(Operation operation) { return by[static_cast<size_t>(operation)]; }
    const geometry::CutLines& of(Operation operation) const { return by[static_cast<size_t>(operation)]; }
};
/// The frame round one copy of a cluster, on the mat.
struct FrameCut {
    const Cluster* cluster = nullptr; ///< of the stack it was asked of
    int copy = 0;
    geometry::Shape outline;
};
struct SheetCuts {
    std::vector<PieceCuts> pieces;
    std::vector<FrameCut> frames; ///< cut to the carrier
};

/// Returns the frames on a sheet, where they lie on the mat.
std::vector<FrameCut> framesOn(const Stack& stack, const PlacedSheet& sheet);

/// What a pen marks of folds that are left to a hand, and how many ends it had to mark on the pieces themselves.
struct HandTicks {
    std::vector<std::vector<geometry::Line>> of; ///< of every piece on the sheet, in its order, mm on the mat
    int onPiece = 0;
};
/// Returns where a pen marks the ends of folds: 1 mm long on the card beside the piece, where nothing of it is seen later; where
/// another piece, the sheet's margin or the piece itself is in the way, the last 2 mm of the fold.
/// Errors: none; a piece that is not in the stack has no marks.
/// Cost:   O(folds x pieces), and O(nodes) of those that come near.
HandTicks handTicksOn(const Stack& stack, const PlacedSheet& sheet);

/// Returns what is done on a sheet, in the order of its pieces. Within a cluster what coincides is cut once.
/// Shape:  folds are scored, perforated with bridges at both ends and where they cross, or left to a hand: then a pen
///         marks their ends as handTicksOn says. Slits are cut inside, lines to be torn perforated as they say.
/// Errors: NotFound for a piece that is not in the stack; those of geometry::cutOnce.
/// Cost:   O(nodes); pieces of a cluster that touch cost a net of their edges.
base::Result<SheetCuts> cutsOn(const Stack& stack, const PlacedSheet& sheet, FoldsAs foldsAs = FoldsAs::Score,
                               const base::Progress& progress = {});

} // namespace thinline::design
