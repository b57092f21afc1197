// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/Piece.h"

/// Codes that a telephone or a till reads.
namespace thinline::print {

/// A code as dark areas on a light ground, in the unit square with the free room it needs all round.
struct Code {
    geometry::Polygons dark;
    double aspect = 1;     ///< width over height at which it should be printed
    int modulesAcross = 0; ///< the narrowest dark or light part is that share of its width
};

/// Returns the code of a text: a QR code of the middle error level, or a Code 128.
/// Errors: InvalidArgument for an empty text, a line code's sign beyond ASCII, or a text that is too long, with how long it may
///         be.
/// Source: ISO/IEC 18004 by libqrencode, ISO/IEC 15417 by zint.
base::Result<Code> codeOf(design::Face::Kind kind, const std::string& text);

/// What a square code holds at the most, in bytes, and a line code in signs.
inline constexpr std::size_t kMostSquareBytes = 400, kMostLineSigns = 60;

} // namespace thinline::print
