// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

/// The steps of a job at Trace. Each is done to the picture `of`, the first one when none is said.
namespace thinline::job {

/// Returns what is to be taken out of a picture, from places of the design, mm.
trace::Erasure erasureAt(const Source& picture, trace::Erasure::Kind kind,
                         const std::vector<geometry::Point>& pointsMm, double widthMm = 0);

/// Returns a line of ink that closes a gap between two places of the design, as wide as a usual pen's.
trace::ClosingLine closingAt(const Source& picture, geometry::Point fromMm, geometry::Point toMm);

/// The same between two places of the picture, mm from its upper left corner.
trace::ClosingLine closingInPicture(const Source& picture, geometry::Point fromMm, geometry::Point toMm);

/// Returns the part of a picture that lies under a box of the design.
geometry::Box partAt(const Source& picture, const geometry::Box& boxMm);

/// Returns how many mm of the finished work one pixel of a picture is: what the recipe's lengths are measured by.
inline double mmPerPx(const Source& source) {
    return source.unitMm;
}

/// Traces the picture anew by a recipe. What was decided about an area stays with it; an area that comes back finds
/// it again. Another way of looking begins new areas.
/// Errors: NotFound without a picture; those of trace::traced; Cancelled.
base::Result<Job> traced(const Job& job, const raster::Picture& pixels, const trace::Recipe& recipe,
                         const Catalogue& catalogue, const base::Progress& progress = {}, SourceId of = {});

/// Returns the job with the colours of a coloured copy of its line drawing: every area is laid anew in a stock of
/// the colour the copy shows there.
/// Errors: InvalidArgument without a traced line drawing or for a copy of another form; those of reading a
///         picture; Cancelled.
base::Result<Job> colouredFrom(const Job& job, const base::Bytes& copy, const std::string& fileName,
                               const Catalogue& catalogue, const base::Progress& progress = {},
                               SourceId of = {});

/// Returns the leaks that a line of ink between two ends would close, by their place in the tracing.
std::vector<size_t> closableLeaks(const Job& job, SourceId of = {});
/// Closes some of the leaks and traces anew.
/// Errors: InvalidArgument when none of them can be closed.
base::Result<Job> withGapsClosed(const Job& job, const raster::Picture& pixels,
                                 const std::vector<size_t>& leaks, const Catalogue& catalogue,
                                 const base::Progress& progress = {}, SourceId of = {});

/// Traces the picture as lines and closes the gaps between ends of them; its recipe has the closing lines then.
/// Errors: as traced.
base::Result<Job> tracedGapless(const Job& job, const raster::Picture& pixels, const trace::Recipe& recipe,
                                const Catalogue& catalogue, const base::Progress& progress = {}, SourceId of = {});

/// Sets the room between the areas of the picture, 0 to 10 mm.
base::Result<Job> withRoom(const Job& job, double roomMm, SourceId of = {});

/// Returns what was found in the picture, or null.
const trace::Tracing* tracingOf(const Job& job, SourceId of = {});

} // namespace thinline::job
