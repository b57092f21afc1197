// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Length.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"

/// Templates for what goes on no mat, because a hand cuts it: printed at true size, on as many sheets of paper as it takes.
namespace thinline::pack {

/// What a home printer is loaded with. All lengths in mm.
struct Paper {
    std::string name = "A4";
    double widthMm = 210, heightMm = 297;
    double marginMm = 8; ///< printers leave 4 to 6 mm blank; from memory
    double lapMm = 10;   ///< neighbouring sheets show the same strip
};
/// Returns the paper people have who measure so: letter for inches, else A4.
Paper paperFor(base::LengthUnit unit);

/// Something to be cut by hand, as the knife sees it; mm, wherever it lies.
struct ByHand {
    std::string name;
    std::vector<geometry::Contour> cuts;
    std::vector<geometry::Contour> away = {}, towards = {}; ///< folds, by the side they go to
    std::vector<geometry::Contour> others = {};             ///< scores, marks, pens
};
ByHand byHand(const std::string& name, const geometry::Shape& shape);

struct Template {
    base::Bytes pdf;
    int pages = 0;
};
/// Returns a template of some things, one after the other, each on the fewest sheets of paper, upright or turned.
/// Shape:  of every sheet: cuts solid, folds dashed or dotted, a dashed line where the next sheet is laid on, crosses at the
///         corners that meet, which sheet it is, what the lines mean, and rulers of 50 mm and 2 in to check the print. A sheet with
///         nothing on it is left out.
/// Errors: InvalidArgument without pieces or for paper on which nothing is left beside the margins; LimitExceeded for more
///         than kMostTemplatePages.
base::Result<Template> templateOf(const std::vector<ByHand>& pieces, const Paper& paper,
                                  const std::string& title);

/// Returns every sheet of an arrangement as a thing to be cut by hand.
/// Errors: those of design::cutsOn.
base::Result<std::vector<ByHand>> sheetsByHand(const design::Stack& stack,
                                               const design::Arrangement& arrangement,
                                               const base::Progress& progress = {});
inline constexpr int kMostTemplatePages = 200;

} // namespace thinline::pack
