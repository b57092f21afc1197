// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace thinline::geometry {

/// Which points count as inside: by the number of times the outlines wind around them.
enum class FillRule { NonZero, EvenOdd, Positive };

enum class SetOperation { Union, Intersection, Difference, Exclusive };

} // namespace thinline::geometry
