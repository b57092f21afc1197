// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Length.h"
#include "base/Result.h"
#include "design/Stack.h"

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

/// A piece to be cut by hand, as the knife sees it.
struct ByHand {
    std::string name;
    geometry::Shape shape;
};

struct Template {
    base::Bytes pdf;
    int pages = 0;
};
/// Returns a template of some pieces, one after the other, each on the fewest sheets of paper, upright or turned.
/// Shape:  of every sheet: the outlines, a dashed line where the next sheet is laid on, crosses at the corners that meet,
///         which sheet it is, and rulers of 50 mm and 2 in to check the print.
/// Errors: InvalidArgument without pieces or for paper on which nothing is left beside the margins; LimitExceeded for more
///         than kMostTemplatePages.
base::Result<Template> templateOf(const std::vector<ByHand>& pieces, const Paper& paper,
                                  const std::string& title);
inline constexpr int kMostTemplatePages = 200;

} // namespace thinline::pack
