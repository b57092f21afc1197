// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Sizing.h"

#include <functional>

/// How large a job can be: on every mat and sheet, in so many copies, for an object.
namespace thinline::job {

/// The largest size on one mat or sheet.
struct PlaceFit {
    std::string id, name; ///< "a4", "sheet A4"
    bool isMat = false;
    double usableWidthMm = 0, usableHeightMm = 0;
    sheets::LargestFit fit = {};      ///< what limits it there, and its turn
    double scale = 0;                 ///< how many times as wide as now
    double widthMm = 0, heightMm = 0; ///< of the whole design then, as taking it gives
    std::string limit = {};           ///< "area 3 (sea), turned by 37°, by the place's width"
    std::string whyNot = {};          ///< the sentence when it cannot be sized so; the measures are 0 then
};
/// Returns the answers for every mat and every sheet that is not as large as a mat. Empty without pieces. `soFar` is called
/// before every answer with those there are, and with how many there will be.
/// Errors: Cancelled.
/// Cost:   that of withLargestOn for each; where every outline grows as the job does nothing is made anew.
base::Result<std::vector<PlaceFit>> largestOnEach(const State& state, const design::Formats& formats,
                                                  const SizeOptions& options = {},
                                                  const base::Progress& progress = {},
                                                  const std::function<void(const std::vector<PlaceFit>&, std::size_t)>& soFar = {});

/// Makes the design as large as the mat or sheet of this id takes.
/// Errors: NotFound for an id that is no mat or sheet; those of sizedFor.
base::Result<Sized> withLargestOn(const State& state, const std::string& placeId,
                                  const design::Formats& formats, const SizeOptions& options = {},
                                  const base::Progress& progress = {});

/// Makes the design as large as so many copies of it go onto so many sheets of the plan. Chosen pieces, or all of
/// them.
struct CopiesAnswer {
    Sized sized;
    sheets::CopiesFit fit;
};
base::Result<CopiesAnswer> withCopiesOnSheet(const State& state, const std::vector<design::PieceId>& pieces,
                                             int copies, int overSheets, const design::Formats& formats,
                                             const SizeOptions& options = {},
                                             const base::Progress& progress = {});
/// Returns how many copies of chosen pieces, or of each of all, come from one sheet of the plan at their present size.
base::Result<int> copiesFromSheet(const State& state, const std::vector<design::PieceId>& pieces,
                                  const design::Formats& formats, const base::Progress& progress = {});

/// Makes the design go into a circle, such as the inside of a bauble, with room kept all round.
/// Errors: InvalidArgument for a diameter with nothing left of it.
base::Result<Sized> withinCircle(const State& state, double diameterMm, double roomMm,
                                 const SizeOptions& options = {}, const base::Progress& progress = {});

struct FrameAnswer {
    Sized sized;        ///< `told` says what was done about the depth too
    double stackMm = 0; ///< how high the work is now
    double liftMm = 0;  ///< what every lift was brought down to; 0 when all stayed
};
/// Makes the outermost layer fill a frame's inside, solved backwards through the offset series below it, and
/// brings the lifts down to the frame's depth. The frame is kept in the job, and the inspector holds the work against
/// it from then on.
/// Errors: InvalidArgument for measures that are not above zero; Degenerate when the card alone is higher than the
///         frame is deep, with both figures.
base::Result<FrameAnswer> withinFrame(const State& state, const Frame& frame, const SizeOptions& options = {},
                                      const base::Progress& progress = {});
/// Forgets the frame.
Job withoutFrame(const Job& job);

} // namespace thinline::job
