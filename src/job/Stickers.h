// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

/// A picture cut out round what it shows, and printed with it.
namespace thinline::job {

struct StickerWish {
    double rimMm = 2; ///< kept round what is shown, 0 to kMostRimMm
    std::string stockId =
        {}; ///< empty: the first of the job that lies on a carrier and can be printed, else sticker paper
    bool isThrough = false; ///< the carrier is cut as well, so that each comes off with it
};
inline constexpr double kMostRimMm = 50;

/// Makes a sticker of a picture of a job, in its place and at its size: a drawing of the outline, and on it the picture as a print.
/// Shape:  what a picture shows is what is not transparent; of one without transparent parts what differs from the even
///         colour of its edge. The outline is traced from soft edges, grown by the rim with round corners, openings closed and bays rounded;
///         what is farther apart than two rims becomes a sticker of its own, all under one print. The picture itself leaves the
///         job unless something was traced of it.
/// Errors: NotFound for what is no picture; InvalidArgument for a rim out of range, for one that fills its frame and for one
///         that was laid straight from a photo; those of formats::image::decode, of tracing and of offsetting; Cancelled.
/// Cost:   one tracing and two decodings of the picture.
base::Result<Noted> withSticker(const State& state, SourceId picture, const StickerWish& how,
                                const base::FontStore& fonts, const base::Progress& progress = {});

/// Returns how many mm a pixel of a picture must be for its sticker to be that wide, rims and all.
/// Errors: as withSticker; InvalidArgument where the rims alone are wider.
base::Result<double> unitForSticker(const Picture& picture, double widthMm, double rimMm);

} // namespace thinline::job
