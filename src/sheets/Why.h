// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "sheets/ArrangeClose.h"

/// Why an arrangement needs what it needs, measured: laid once more with one thing other.
namespace thinline::sheets {

/// What a layout asks of a person.
struct Effort {
    int mats = 0, sheets = 0; ///< sheets that are begun, those of which scraps are cut among them
    int scraps = 0;           ///< to be cut from sheets
    bool operator==(const Effort&) const = default;
};
Effort effortOf(const design::Arrangement& arrangement);

/// The work laid with one thing other.
struct Alternative {
    enum class Kind {
        WithoutPiece, ///< one copy less: it decides how many sheets there are
        Together,     ///< stocks that one setting cuts on one mat
        Apart,        ///< one stock to a mat
        IntoOpenings, ///< small pieces in the openings of large ones
        Turned        ///< pieces may be turned
    } kind = Kind::Together;
    design::CopyOf what = {}; ///< of WithoutPiece
    double longestMm = 0;     ///< of that piece
    Effort effort;

    /// Whether it can be taken by changing the plan alone.
    bool isAWay() const { return kind != Kind::WithoutPiece; }
};

/// Returns the alternatives that differ from an arrangement in mats or sheets: those that cost less first, of ways also what
/// costs more; at most one without a piece for every stock.
/// Shape:  each is laid by arrangeClose with so many steps, begun like the given one; what a layout of more steps would
///         reach can be a little less.
/// Errors: Cancelled; those of arrange.
/// Cost:   up to three layouts for each stock and one for each way; nothing for more than kMostAlternatives copies.
base::Result<std::vector<Alternative>> alternativesTo(const design::Stack& stack,
                                                      const ArrangeOptions& options,
                                                      const design::Arrangement& given, long long steps,
                                                      const base::Progress& progress = {});
inline constexpr int kMostAlternatives = 300;

/// Returns an alternative in words: "without the beam (292 mm) one sheet less", "together on 3 mats, 5 scraps to cut".
std::string alternativeText(const Alternative& alternative, const Effort& now, const design::Stack& stack,
                            base::LengthUnit unit);
/// Returns the options with which an alternative that is a way was laid.
ArrangeOptions optionsFor(ArrangeOptions options, Alternative::Kind kind);

} // namespace thinline::sheets
