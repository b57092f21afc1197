// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The largest size that a mat or sheet takes.
//
// "As large as it goes" is asked before anything else about size, and the answer depends on one piece: the
// one that is hardest to fit. Trying scales one after the other would do, but each trial would have to
// turn every piece through all angles. Two observations make it a short computation:
//
// - A piece's best turn does not depend on the scale, for place and piece are scaled alike. So each piece
//   has one number, the scale at which it just fits, and the design's scale is the least of them.
// - The number for straight laying (upright or a quarter turn) is cheap and never larger than the one for
//   the best turn. Pieces are looked at in the order of it; as soon as a piece's straight number reaches
//   the least true number found so far, it cannot limit any more, nor can any behind it. Mostly one or two
//   pieces are turned at all.
//
// Designs with hundreds of equal pieces broke the second observation: all have the same straight number,
// all were turned. What fits turned as the limiting piece is turned, within rounding, cannot limit more
// than it does, and is passed over. With 2000 discs this took minutes before.
//
// For several copies on one sheet there is no such formula. For one piece the best rows and columns are
// computed exactly. For several, the scale is halved in between what is known to fit and what cannot, by
// laying them each time. It is monotone only nearly, for a layout by boxes may fail at a smaller scale
// where it succeeded at a larger one; what is returned did fit.
#include "design/Cluster.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "sheets/Arrange.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::sheets {
namespace {

using base::Code;
using base::Error;
using geometry::Box;

/// What is to fit, and how it does without free turning.
struct Straight {
    const design::Rigid* rigid = nullptr;
    double scale = 0;
    double turnRad = 0;
};

Straight straightFit(const Box& box, double widthMm, double heightMm, bool mayTurn) {
    const double upright = std::min(widthMm / box.width(), heightMm / box.height());
    const double turned = mayTurn ? std::min(widthMm / box.height(), heightMm / box.width()) : 0;
    return {nullptr, std::max(upright, turned), turned > upright ? std::numbers::pi / 2 : 0};
}

/// The box of outlines that are turned.
Box boxTurned(const std::vector<geometry::Shape>& outlines, double turnRad) {
    Box box;
    for (const geometry::Shape& outline : outlines)
        box.include(geometry::bounds(geometry::transformed(outline, geometry::turnAbout({}, turnRad))));
    return box;
}

/// The room that is left for what lies in a frame. A frame does not grow along.
double roomFor(const design::Rigid& rigid, double lengthMm) {
    return std::max(0.0, lengthMm - 2 * rigid.frameMm);
}

/// Rows and columns: the largest scale for any split of the copies.
CopiesFit gridFit(const design::Piece& piece, int copies, double widthMm, double heightMm, double spacingMm,
                  bool mayTurn) {
    const Box box = geometry::bounds(piece.shape());
    CopiesFit best;
    for (const bool isTurned : {false, true}) {
        if (isTurned && !mayTurn)
            continue;
        const double w = isTurned ? box.height() : box.width(), h = isTurned ? box.width() : box.height();
        for (int columns = 1; columns <= copies; ++columns) {
            const int rows = (copies + columns - 1) / columns;
            const double scale = std::min((widthMm - (columns - 1) * spacingMm) / (columns * w),
                                          (heightMm - (rows - 1) * spacingMm) / (rows * h));
            if (scale > best.scale)
                best = {scale, columns, rows, isTurned};
        }
    }
    return best;
}

/// Whether so many copies, scaled, go onto so many sheets.
base::Result<bool> goesOn(int sheets, const std::vector<design::Piece>& pieces, int copies, double scale,
                          const ArrangeOptions& options, const base::Progress& progress) {
    constexpr design::LayerId kOnly{1};
    design::Stack stack{{{"card", "card"}}, {{kOnly, "", "card"}}, {}};
    for (const design::Piece& piece : pieces) {
        design::Piece one = piece;
        one.body = std::make_shared<const design::Body>(
            design::Body{geometry::transformed(piece.shape(), geometry::Transform::scale(scale, scale))});
        stack.pieces.push_back({std::move(one), kOnly, copies});
    }
    auto arrangement = arrange(stack, options, progress);
    if (!arrangement)
        return arrangement.error();
    std::size_t begun = 0;
    for (const design::Load& load : arrangement->loads)
        begun += load.sheets.size();
    return arrangement->unplaced.empty() && begun <= static_cast<std::size_t>(sheets);
}

/// The plan as far as a whole sheet goes: no pins, no scraps, nothing kept free.
ArrangeOptions withoutCards(ArrangeOptions options) {
    options.pins.clear();
    options.scraps.clear();
    options.keepOuts.clear();
    options.areCornersTaped = false;
    options.isMixed = false;
    return options;
}

} // namespace

bool fitsTurned(const geometry::Shape& piece, double usableWidthMm, double usableHeightMm) {
    constexpr double kSlack = 1e-9; // rounding only
    return fits(geometry::bounds(piece), usableWidthMm, usableHeightMm) ||
           geometry::bestTurn({piece}, usableWidthMm, usableHeightMm).scale >= 1 - kSlack;
}

LargestFit largestThatFits(const design::Stack& stack, double usableWidthMm, double usableHeightMm,
                           bool mayTurn) {
    const std::vector<design::Rigid> items = design::rigidOf(stack);
    std::vector<Straight> all;
    for (const design::Rigid& item : items) {
        const Box box = item.box().grownBy(-item.frameMm);
        if (!(box.width() > 0) || !(box.height() > 0))
            continue;
        all.push_back(straightFit(box, roomFor(item, usableWidthMm), roomFor(item, usableHeightMm), mayTurn));
        all.back().rigid = &item;
    }
    // The hardest first: as soon as a piece fits straight at the scale found so far, it and all behind it
    // cannot limit any more.
    std::stable_sort(all.begin(), all.end(),
                     [](const Straight& a, const Straight& b) { return a.scale < b.scale; });
    LargestFit out;
    for (const Straight& one : all) {
        if (out.limitedBy && one.scale >= out.scale)
            break;
        const double width = roomFor(*one.rigid, usableWidthMm), height = roomFor(*one.rigid, usableHeightMm);
        const bool mayLean = mayTurn && one.rigid->frameMm == 0; // a frame lies straight
        double scale = one.scale, turn = one.turnRad;
        // Many pieces are alike: what fits turned as the one that limits so far needs no search of its own.
        constexpr double kAlike = 1e-9;
        const std::vector<geometry::Shape> outlines = one.rigid->outlines();
        if (out.limitedBy && mayLean) {
            const Box box = boxTurned(outlines, out.turnRad);
            if (std::min(width / box.width(), height / box.height()) >= out.scale * (1 - kAlike))
                continue;
        }
        if (mayLean)
            if (const auto free = geometry::bestTurn(outlines, width, height);
                free.scale > scale * (1 + 1e-9)) {
                scale = free.scale;
                turn = free.turnRad;
            }
        if (!out.limitedBy || scale < out.scale) {
            const Box box = boxTurned(outlines, turn);
            out = {scale, one.rigid->held().id(), turn,
                   box.width() / usableWidthMm >= box.height() / usableHeightMm};
        }
    }
    return out;
}

base::Result<CopiesFit> largestForCopies(const std::vector<design::Piece>& pieces, int copies,
                                         const ArrangeOptions& options, int sheets,
                                         const base::Progress& progress) {
    if (pieces.empty())
        return Error{Code::InvalidArgument, "Choose the pieces that are to go on one sheet."};
    if (copies < 1 || copies > 999)
        return Error{Code::InvalidArgument, "Copies go from 1 to 999."};
    if (sheets < 1 || sheets > copies)
        return Error{Code::InvalidArgument, "Sheets go from 1 to as many as there are copies."};
    const auto places = sheetPlaces(options.mat, options.sheet);
    if (!places)
        return places.error();
    const Box usable = usableArea(options.mat, options.sheet, places->front());
    const ArrangeOptions plain = withoutCards(options);
    CopiesFit best;
    if (pieces.size() == 1)
        best = gridFit(pieces[0], (copies + sheets - 1) / sheets, usable.width(), usable.height(),
                       options.spacingMm, options.mayTurn);
    // No arrangement can beat the sheet's area, nor the largest piece its sides.
    double area = 0, low = best.scale, high = 0;
    for (const design::Piece& piece : pieces) {
        const Box box = geometry::bounds(piece.shape());
        area += box.width() * box.height() * copies / sheets;
        const Straight one = straightFit(box, usable.width(), usable.height(), options.mayTurn);
        high = high == 0 ? one.scale : std::min(high, one.scale);
    }
    high = std::min(high, std::sqrt(usable.width() * usable.height() / area));
    constexpr double kNear = 1e-3;
    while (high - low > kNear * high) {
        const double middle = (low + high) / 2;
        const auto fitsNow = goesOn(sheets, pieces, copies, middle, plain, progress);
        if (!fitsNow)
            return fitsNow.error();
        if (*fitsNow) {
            low = middle;
            best = {middle, 0, 0, false};
        } else {
            high = middle;
        }
    }
    return best;
}

base::Result<int> mostOnOneSheet(const std::vector<design::Piece>& pieces, const ArrangeOptions& options,
                                 const base::Progress& progress) {
    if (pieces.empty())
        return Error{Code::InvalidArgument, "Choose the pieces that are to be cut."};
    const ArrangeOptions plain = withoutCards(options);
    int keeps = 0, tooMany = kMostOnOne + 1;
    // First in doubling steps, for it is seldom hundreds.
    for (int next = 1; tooMany - keeps > 1;) {
        const auto fitsNow = goesOn(1, pieces, next, 1, plain, progress);
        if (!fitsNow)
            return fitsNow.error();
        (*fitsNow ? keeps : tooMany) = next;
        next = tooMany > kMostOnOne ? std::min(2 * next, kMostOnOne) : (keeps + tooMany) / 2;
        if (keeps == kMostOnOne)
            break;
    }
    return keeps;
}

} // namespace thinline::sheets
