// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "geometry/Shape.h"
#include "raster/Rectify.h"

#include <vector>

/// What lies on a mat in a photo of it.
namespace thinline::raster {

/// The lines that are printed on mats are an inch apart; common practice.
inline constexpr double kGridMm = 25.4;

/// The printed lines of a mat, as a photo laid straight shows them.
struct GridLook {
    bool isThere = false;
    int places = 0;     ///< at which a line was measured
    double errorMm = 0; ///< how far the middle of them is from where they should be, in the mean
};

/// A piece of card on a mat.
struct FoundScrap {
    geometry::Polygons rings; ///< mm on the mat; the outline clockwise on screen, openings the other way
    Rgb colour{};             ///< as in the brightest light of the photo
    bool isDoubtful = false;  ///< little unlike the mat, or small
};

struct MatLook {
    GridLook grid;
    std::vector<FoundScrap> scraps; ///< the largest first
};

/// Returns what lies on a mat.
/// Shape:  cards whose colour differs from the mat's, also under uneven light; a shadow is none, for the printed lines go on
///         in it. Cards of unlike colours that touch are parted, those of one colour are one.
/// Units:  mm; outlines within some tenths of a millimetre where the photo is sharp.
/// Errors: InvalidArgument for a mat that is not straight in the picture or smaller than 60 mm; Cancelled.
/// Cost:   O(mm2): about a second for 300 x 300 mm.
base::Result<MatLook> lookAtMat(const Picture& picture, const Seen& seen,
                                const base::Progress& progress = {});

} // namespace thinline::raster
