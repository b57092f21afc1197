// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/PieceId.h"

/// Lines that steps lay on pieces have numbers of their own, above those of sources, so that a replayed step gives the same.
namespace thinline::design {

inline constexpr int kLinesASource = 1'000'000; ///< that one source may bring; each counts them from one

/// Returns the number in the job of the n-th line of a source.
constexpr LineId lineFound(SourceId source, int n) {
    return LineId{numberOf(source) * kLinesASource + n};
}

inline constexpr int kFirstMadeLine = 1'000'000'000; ///< above the numbers of sources
inline constexpr int kLinesAStep = 1000;             ///< that one step may lay

/// Returns the number of the n-th line a step lays, from 0.
constexpr LineId lineMadeBy(StepId step, int n) {
    constexpr int kSteps = 1'000'000;
    return LineId{kFirstMadeLine + (numberOf(step) % kSteps) * kLinesAStep + n};
}
/// Returns the step that laid a line; 0 for a line of a source.
constexpr StepId madeBy(LineId line) {
    const int number = numberOf(line);
    return number < kFirstMadeLine ? StepId{} : StepId{(number - kFirstMadeLine) / kLinesAStep};
}

} // namespace thinline::design
