// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"
#include "job/SheetSteps.h"

/// Laying pieces on sheets by hand: each step pins what it lays.
namespace thinline::job {

/// A copy, and how it is to lie on the mat of a load.
struct HandLaid {
    design::CopyOf what;
    design::Pose pose;
    std::size_t load = 0;
};
/// Pins several copies at once; see pinnedAt.
base::Result<Job> pinnedAll(const State& state, const std::vector<HandLaid>& laid);

/// Returns where a copy lies; nothing for one that lies nowhere.
std::optional<HandLaid> placeOf(const State& state, const design::CopyOf& what);

/// Pins a copy where it lies, turned about its middle to an angle, clockwise on screen.
/// Errors: NotFound for a copy that lies nowhere; InvalidArgument where its stock lets it be turned by no such angle.
base::Result<Job> turnedTo(const State& state, const design::CopyOf& what, double turnRad);

/// Pins a copy where it lies, flipped over.
/// Errors: NotFound for a copy that lies nowhere; InvalidArgument where its stock has a good front.
base::Result<Job> flippedOver(const State& state, const design::CopyOf& what);

/// Pins a copy on the mat of another load, at the first place that takes its box beside all that lies there; on a fresh sheet
/// for the load behind the last one.
/// Errors: NotFound for a copy or load that is not there; InvalidArgument where there is no room or no sheet of its stock.
base::Result<Job> sentTo(const State& state, const design::CopyOf& what, std::size_t load);

/// Fills what is left of the sheets that are cut anyway with copies of a piece; everything is pinned where it lies then. The note
/// tells how many came to it.
/// Errors: NotFound for a piece that lies nowhere; InvalidArgument where there is no room for one more, or for a piece of a
///         cluster.
/// Cost:   laying the new copies about 2 log2(n) times for n more.
base::Result<Noted> withRestFilled(const State& state, design::PieceId piece, const base::Progress& progress = {});

} // namespace thinline::job
