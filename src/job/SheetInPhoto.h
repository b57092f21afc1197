// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

#include <array>
#include <optional>

/// A sheet that was photographed aslant, laid straight at its real size: the table around it is left out.
namespace thinline::job {

/// Papers by name.
struct PaperSize {
    const char* name;
    double widthMm, heightMm; ///< upright
};
/// Source: ISO 216; ANSI/ASME Y14.1.
inline constexpr std::array<PaperSize, 6> kPaperSizes{{{"A3", 297, 420},
                                                       {"A4", 210, 297},
                                                       {"A5", 148, 210},
                                                       {"A6", 105, 148},
                                                       {"letter", 215.9, 279.4},
                                                       {"legal", 215.9, 355.6}}};

/// Returns the sheet in a photo: its corners as they are found, or as they are given.
/// Shape:  the sheet lies in the photo as its sides are seen, upright or across; which of the two sizes is its width follows
///         from that. It is laid straight with about as many pixels as the photo has of it.
/// Errors: those of raster::findRectangle and raster::Seen::by, in a sentence.
/// Cost:   O(pixels).
base::Result<SheetInPhoto> sheetIn(const raster::Picture& photo, double sideMm, double otherSideMm,
                                   const std::optional<std::array<geometry::Point, 4>>& cornersPx = {},
                                   double bend = 0);

/// Takes a picture for the photo of a sheet, or as it is again. What was traced in it goes, with what was marked in its
/// pixels.
/// Errors: NotFound when that source is no picture.
base::Result<Job> withSheetInPhoto(const Job& job, const std::optional<SheetInPhoto>& sheet, SourceId of = {});

/// The same, and traces what is looked at then by the picture's recipe, in the way that suits it.
/// Errors: also those of decoding and tracing; Cancelled.
base::Result<Job> tracedFromSheet(const Job& job, const std::optional<SheetInPhoto>& sheet, const Catalogue& catalogue,
                                  const base::Progress& progress = {}, SourceId of = {});

} // namespace thinline::job
