// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Tracing.h"

#include <string>
#include <vector>

/// What a picture shows that is probably not of its motif.
namespace thinline::trace {

/// Something to be taken out, if whoever knows the picture agrees.
struct TakeOut {
    enum class Kind { Text, SecondCopy, PunchHoles } kind = Kind::Text;
    int parts = 0;                 ///< letters and marks, areas of the copy, holes
    int rows = 0;                  ///< of text
    geometry::Box place;           ///< px
    std::vector<Erasure> erasures; ///< that take it out
};

/// Returns what may be taken out of a picture, text first.
/// Shape:  text is level rows of five parts and more of letter size on one line, of many forms; not where it is most of what
///         there is, and not where it is nearly as pale as its ground: whose mark that is has to be asked first. A second copy
///         is what is as large, of as many areas in the same places, where the two are nearly all there is; the lower or right
///         one goes. Punch holes are two to four equal rounds along one edge, as far apart on both sides of its middle.
///         Nothing of a photo.
/// Units:  px of the picture; letters are up to kMostLetterMm high.
/// Cost:   O(n log n) in areas, and the pairs of those that stand above one another; of more than 20,000 areas nothing is proposed.
std::vector<TakeOut> proposedToTakeOut(const Tracing& tracing, double mmPerPx, Mode mode);
inline constexpr double kMostLetterMm = 15;

/// Says what it is: "23 letters in 2 rows look like text".
std::string takeOutText(const TakeOut& one);

} // namespace thinline::trace
