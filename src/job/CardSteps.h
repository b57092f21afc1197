// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

/// The steps that say what card there is, and what of a mat stays free.
namespace thinline::job {

/// Gives a stock sheets of its own, or those of all others again. Pins of its pieces are forgotten when its sheets become
/// others: they were measured on those.
/// Errors: NotFound for a stock the job has not got; InvalidArgument for a sheet without room inside its margin.
base::Result<Job> withSheetOf(const State& state, const std::string& stockId,
                              const std::optional<design::SheetFormat>& sheet);

/// Tapes the sheets of a stock together in pairs, to be cut across the join, or no longer. Pins of its pieces are forgotten: they
/// were measured on other card.
/// Errors: NotFound for a stock the job has not got; those of checkTaped.
base::Result<Job> withSheetsTaped(const State& state, const std::string& stockId, bool areTaped);
/// Returns why sheets of a stock cannot lie taped together, face down.
/// Errors: InvalidArgument for what is printed, and for what is cut to its carrier.
base::Status checkTaped(const Job& job, const std::string& stockId);

/// Whether a piece of this stock will lie flipped over on its mat, or some copy of it that was laid by hand.
bool willLieFlipped(const Job& job, const design::Laid& laid, const std::string& stockId);

/// Adds a scrap, which gets a number of its own; its outline is brought to where its box begins at (0, 0).
/// Errors: NotFound for its stock; as sheets::checkScrap; LimitExceeded for the kMostScrapsInAJob-th.
base::Result<Job> withScrap(const Job& job, design::Scrap scrap);
inline constexpr std::size_t kMostScrapsInAJob = 200;
/// Takes a scrap out, and lets go what was pinned on it.
Job withoutScrap(const Job& job, int scrapId);

/// Returns the outline of a scrap: of the largest area of a drawing, with its openings.
/// Errors: as drawingFrom; Degenerate when the drawing has no area.
base::Result<geometry::Polygons> scrapOutline(const Incoming& file, const base::FontStore& fonts,
                                              const base::Progress& progress = {});
/// Returns a rectangle of card.
geometry::Polygons scrapRectangle(double widthMm, double heightMm);

/// Keeps a part of the chosen mat free.
/// Shape:  what lies beyond the mat is cut off; widened to sheets::kLeastKeepOutMm where it is narrower.
/// Errors: InvalidArgument when it lies beside the mat.
base::Result<Job> withKeepOut(const Job& job, const geometry::Box& box, const design::Formats& formats);
Job withoutKeepOut(const Job& job, std::size_t index);
/// What of the chosen mat stays free.
std::vector<geometry::Box> keepOutsOf(const SheetPlan& plan);

} // namespace thinline::job
