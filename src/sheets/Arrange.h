// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"

#include <map>
#include <set>
#include <string>
#include <vector>

/// Which sheet lies where, and which piece on it.
namespace thinline::sheets {

/// A copy laid by hand. It stays on its sheet, whatever the arrangement does around it.
struct Pin {
    design::CopyOf what;
    int sheetOfStock = 0; ///< 0 for the first sheet of the piece's stock
    design::Pose pose;    ///< from the sheet's upper left corner
    int scrapId = 0;      ///< lies on this scrap instead, as it is described; or see kScrapToCut

    bool operator==(const Pin&) const = default;
};

struct ArrangeOptions {
    design::MatFormat mat;
    design::SheetFormat sheet;
    double spacingMm = 2.5; ///< kept free between pieces; cards tear when two cuts run closer than about 2 mm
    /// Pieces may be turned as their stock allows: by boxes by 90 degrees, and freely where they fit no other way; by true
    /// outlines to any angle.
    bool mayTurn = true;
    std::vector<Pin> pins = {};
    bool isMixed =
        false; ///< stocks that one setting cuts may share a mat, each on a scrap; see sheets/Zones.h
    bool intoOpenings = false; ///< small pieces may lie in the openings of large ones; by true outlines only
    std::map<std::string, design::SheetFormat> sheetOf = {}; ///< of the stocks that have sheets of their own
    std::vector<design::Scrap> scraps = {};                  ///< used before whole sheets are
    std::vector<geometry::Box> keepOuts = {};                ///< parts of the mat on which nothing is cut
    bool areCornersTaped = false; ///< the corners of whole sheets, kTapedMm each way, hold them on the mat
    /// Stocks of one number are cut by one setting and may share a mat; where it is empty, mayShareAMat says.
    std::map<std::string, int> settingOf = {};
    double scrapStepMm = 5; ///< what is cut to lie with others is cut to whole steps of this

    /// Of stocks whose pieces keep more room than others: print beyond the cut must not reach the neighbour.
    std::map<std::string, double> spacingOf = {};

    /// Stocks of which one sheet lies on a mat: the machine looks for the marks of one printed page.
    std::set<std::string> alone = {};

    double spacingFor(const std::string& stockId) const {
        const auto own = spacingOf.find(stockId);
        return own == spacingOf.end() ? spacingMm : own->second;
    }
    const design::SheetFormat& sheetFor(const std::string& stockId) const {
        const auto own = sheetOf.find(stockId);
        return own == sheetOf.end() ? sheet : own->second;
    }
};
/// A strip of tape across the corner of a sheet; from memory.
inline constexpr double kTapedMm = 15;

/// Returns where sheets of this format lie on this mat: as many as fit side by side, upright or turned if it is not said.
/// Shape:  rectangles in mm on the mat, row by row from the corner at which they begin; of pairs the one that two make.
/// Errors: InvalidArgument with both sizes when not even one fits, or when a size is not above zero.
base::Result<std::vector<geometry::Box>> sheetPlaces(const design::MatFormat& mat,
                                                     const design::SheetFormat& sheet);

/// Returns how the join runs in a place of sheetPlaces; none where sheets are not in pairs.
design::Join joinIn(const design::SheetFormat& sheet, const geometry::Box& place);

/// Returns the part of a sheet, lying at `place` of the mat, where pieces may lie: inside both margins.
geometry::Box usableArea(const design::MatFormat& mat, const design::SheetFormat& sheet,
                         const geometry::Box& place);

/// Returns every piece of every visible layer laid on sheets of its own stock, on as few sheets as the method
/// reaches.
/// Shape:  boxes keep the spacing and stay inside sheet and mat margins; each stock starts on a fresh mat;
///         copies larger than every place are listed as unplaced, never dropped; pinned copies lie where they
///         were put, also when they overlap (the inspector tells).
/// Errors: those of sheetPlaces; LimitExceeded for more than kMostCopies pieces with all copies; Cancelled.
/// Cost:   O(n) for copies of one size, O(n2) in sizes of one stock; a handful of sorting orders tried; deterministic.
/// Source: maximal rectangles, best short side fit: J. Jylanki, A Thousand Ways to Pack the Bin, 2010.
base::Result<design::Arrangement> arrange(const design::Stack& stack, const ArrangeOptions& options,
                                          const base::Progress& progress = {});

inline constexpr std::size_t kMostCopies = 100'000;

/// What limits the size of a design on one format.
struct LargestFit {
    double scale = 0; ///< multiply the present size by this
    design::PieceId limitedBy;
    double turnRad = 0;        ///< how the limiting piece lies, clockwise on screen
    bool isWidthLimit = false; ///< what it touches first: the place's width, else its height
};

/// Returns the largest scale at which every piece fits into `usableWidthMm` x `usableHeightMm`.
/// Shape:  pieces turned freely when `mayTurn`, else upright; scale 0 for a stack without pieces.
/// Units:  exact for the outlines flattened at 0.1 um.
/// Cost:   O(pieces), and O(h log h) in the hull of those few that no straight turn settles.
LargestFit largestThatFits(const design::Stack& stack, double usableWidthMm, double usableHeightMm,
                           bool mayTurn = true);

/// Returns the largest scale at which so many copies of some pieces lie on one sheet or on several, frames side by side
/// with spacing between them, turned by quarters if they may.
/// Shape:  rows and columns for copies of one piece, solved in closed form, or the arrangement of `arrange`,
///         whichever is larger; several pieces by halving, to a thousandth. Scale 0 when nothing fits.
/// Errors: InvalidArgument for no pieces, copies outside 1 to 999 or sheets outside 1 to copies; those of arrange; Cancelled.
struct CopiesFit {
    double scale = 0;
    int columns = 0, rows = 0; ///< 0 when no grid gave the answer
    bool isTurned = false;     ///< of the grid: pieces lie turned by 90 degrees
};
base::Result<CopiesFit> largestForCopies(const std::vector<design::Piece>& pieces, int copies,
                                         const ArrangeOptions& options, int sheets = 1,
                                         const base::Progress& progress = {});

/// Returns how many copies of each of some pieces lie on one sheet as they are, none to kMostOnOne.
/// Errors: those of arrange; Cancelled.
/// Cost:   a score of arrangements.
base::Result<int> mostOnOneSheet(const std::vector<design::Piece>& pieces, const ArrangeOptions& options,
                                 const base::Progress& progress = {});
inline constexpr int kMostOnOne = 999;

/// Returns whether a box of this size fits, turned if need be. Exactly equal counts as fitting: the margins
/// are inside.
bool fits(const geometry::Box& piece, double usableWidthMm, double usableHeightMm, bool mayTurn = true);

/// Returns whether a piece fits, straight or turned any way.
/// Cost:   O(nodes) when its box fits straight, else that of geometry::bestTurn.
bool fitsTurned(const geometry::Shape& piece, double usableWidthMm, double usableHeightMm);

/// How well the sheets are used.
struct ArrangementMeasures {
    int loads = 0;
    int sheets = 0;
    int pieces = 0;
    double wasteShare = 0; ///< of the sheets' area, 0 to 1; 0 without sheets
};
ArrangementMeasures measure(const design::Arrangement& arrangement, const design::Stack& stack);

/// Returns the sheet's number among the sheets of its stock (0 first), for pinning.
int sheetOfStock(const design::Arrangement& arrangement, std::size_t load, std::size_t sheet);

} // namespace thinline::sheets
