// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Lines.h"
#include "registration/StandingError.h"

#include <optional>
#include <vector>

/// A calibration sheet: printed scales and cut ones beside them, by which a person reads how far apart print and cut are.
namespace thinline::registration {

/// A vernier. Printed ticks are kPrintedMm apart, cut ones kCutMm; the pair that meets tells the error.
struct Vernier {
    geometry::Point zero; ///< of its printed scale, mm on the page
    bool isAcross = true; ///< it reads what is off to the right; else what is off downwards
};
inline constexpr double kPrintedMm = 2, kCutMm = 1.95, kTickMm = 5;
inline constexpr int kTicksEachWay = 12; ///< it reads up to 0.6 mm, in steps of 0.05
inline constexpr double kReadingMm = kPrintedMm - kCutMm;

/// Returns the scales of a page whose marks leave this area free: two in each half, one across and one down.
/// Errors: InvalidArgument for an area less than 70 mm a side.
base::Result<std::vector<Vernier>> verniersIn(const geometry::Box& area);

/// A tick, and the number it bears: -12 to 12, read to the right or downwards.
struct Tick {
    int number = 0;
    geometry::Line line; ///< mm on the page
};
std::vector<Tick> printedTicks(const Vernier& vernier);
std::vector<geometry::Line> cutTicks(const Vernier& vernier);

/// Returns the standing error that readings come to.
/// Shape:  a reading is the number of the printed tick that a cut one meets, between two also a half; unset for a scale that was
///         not read. The error is the mean in each direction, the spread that of single readings about their means.
/// Errors: InvalidArgument for a reading out of range, or none in one direction; Degenerate where readings of one direction differ
///         by more than kMostSpreadMm: then no one number tells how to correct.
base::Result<StandingError> standingErrorOf(const std::vector<Vernier>& verniers,
                                            const std::vector<std::optional<double>>& readings);
inline constexpr double kMostSpreadMm = 0.4;

} // namespace thinline::registration
