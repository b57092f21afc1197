// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"

/// How long a carriage takes.
namespace thinline::cutplan {

/// Returns the seconds for a straight way from standing to standing: faster by `mmPerS2` every second, at most `mmPerS`,
/// and as quickly slower again. 0 for no way.
double secondsFor(double lengthMm, double mmPerS, double mmPerS2);

/// Returns the seconds along a line from standing to standing.
/// Shape:  the carriage stands still at corners sharper than kCornerDeg, and nowhere else: curves are followed at full speed.
/// Source: our own model; makers do not publish theirs.
double secondsAlong(const geometry::Line& line, double mmPerS, double mmPerS2);
inline constexpr double kCornerDeg = 20;

} // namespace thinline::cutplan
