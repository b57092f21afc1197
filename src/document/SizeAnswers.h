// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"

/// How large a job can be: on every mat and sheet, in so many copies, for an object; and what a size brings
/// with it.
namespace thinline::document {

/// The largest size on one mat or sheet.
struct PlaceFit {
    std::string id, name; ///< "a4", "sheet A4"
    bool isMat = false;
    double usableWidthMm = 0, usableHeightMm = 0;
    sheets::LargestFit fit;
    double widthMm = 0, heightMm = 0; ///< of the whole design at that scale
    std::string limit;                ///< "area 3 (sea), turned by 37°, by the place's width"
};
/// Returns the answers for every mat and every sheet that is not as large as a mat. Empty without pieces.
/// Cost: that of sheets::largestThatFits for each.
std::vector<PlaceFit> largestOnEach(const Job& job, const design::Formats& formats);

/// Makes the design as large as the mat or sheet of this id takes. Steps with lengths of their own (an
/// offset) do not scale along, so the size is met by a few corrections.
/// Errors: NotFound for an id that is no mat or sheet; those of `scaled`.
base::Result<Job> withLargestOn(const Job& job, const std::string& placeId, const design::Formats& formats,
                                const base::Progress& progress = {});

/// Makes the design as large as so many copies of it go onto one sheet of the plan. Chosen pieces, or all of
/// them.
struct CopiesAnswer {
    Job job;
    sheets::CopiesFit fit;
};
base::Result<CopiesAnswer> withCopiesOnSheet(const Job& job, const std::vector<design::PieceId>& pieces,
                                             int copies, const design::Formats& formats,
                                             const base::Progress& progress = {});

/// Makes the design go into a circle, such as the inside of a bauble, with room kept all round.
/// Errors: InvalidArgument for a diameter with nothing left of it.
base::Result<Job> withinCircle(const Job& job, double diameterMm, double roomMm,
                               const base::Progress& progress = {});

/// A frame from inside.
struct Frame {
    double widthMm = 0, heightMm = 0;
    double depthMm = 0; ///< 0: not asked
};
struct FrameAnswer {
    Job job;
    double stackMm = 0; ///< how high the stack is now
    double liftMm = 0;  ///< what every lift was brought down to; 0 when all stayed
    std::string told;   ///< what was done about the depth
};
/// Makes the outermost layer fill a frame's inside, solved backwards through the offset series below it, and
/// brings the lifts down to the frame's depth.
/// Errors: InvalidArgument for measures that are not above zero; Degenerate when the card alone is higher
///         than the frame is deep, with both figures.
base::Result<FrameAnswer> withinFrame(const Job& job, const Frame& frame,
                                      const base::Progress& progress = {});

/// What a size brings with it.
struct Consequences {
    int pieces = 0, copies = 0;
    int sheets = 0; ///< needed by the plan; 0 when it cannot be laid
    int unplaced = 0;
    std::optional<double> narrowestMm; ///< of all pieces; unset when none is narrow
    design::PieceId narrowest = 0;
    int smallOpenings = 0; ///< narrower than kLeastOpeningMm
};
inline constexpr double kLeastOpeningMm = 1.5; ///< below it card tears when it is weeded (from memory)
/// Cost: one neck search per piece and one arrangement.
base::Result<Consequences> consequencesOf(const Job& job, const design::Formats& formats,
                                          const base::Progress& progress = {});

} // namespace thinline::document
