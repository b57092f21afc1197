// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"
#include "raster/Canvas.h"

#include <map>
#include <memory>

/// Everything printed on one side of a piece, as one picture.
namespace thinline::print {

/// What a face shows besides colours: a picture, or outlines in the unit square, dark on nothing.
struct Shown {
    std::shared_ptr<const raster::Picture> picture; ///< transparency laid on white
    std::vector<geometry::Contour> outlines = {};
    double aspect = 1; ///< width over height
    std::shared_ptr<const raster::Grey> cover =
        {}; ///< of a picture with transparent parts: 255 where it hides what lies below
};
using Gallery = std::map<std::string, Shown>; ///< by Face::shows

/// Where a piece lies on a page, and how it is painted.
struct Paint {
    geometry::Transform toPage =
        {}; ///< from mm in the design to mm on the page; mirrors for the back of a sheet
    design::Side side = design::Side::Front;
    double bleedMm = 0;
    double pxPerMm = 11.811; ///< 300 to the inch
};

/// What was painted.
struct Painted {
    geometry::Box box;         ///< mm on the page: the piece with its bleed
    std::int64_t extended = 0; ///< pixels of the bleed that were made of those beside them
    std::int64_t bare =
        0; ///< pixels of the bleed where nothing is printed though the piece is printed elsewhere
};

/// Paints the faces of a side onto a page as large as its canvas, in their order, clipped to the piece grown by its bleed;
/// openings bleed inwards.
/// Shape:  transparent parts of a picture show what lies below it, or nothing. Colours and gradients go on beyond the cut as they are, pictures by their own pixels as far as they reach; then
///         what is missing is made of what lies beside it (raster/Extend.h). Nothing is scaled. Texts and codes end at the cut.
///         A picture that is printed finer than it is, is interpolated; one that is coarser on paper is averaged.
/// Errors: NotFound naming what a face shows and is not there; those of offsetting; Cancelled.
/// Cost:   O(pixels of the piece's box) a face.
/// `mask`: as large as the page, where it is wanted; 255 where anything was painted, also white.
base::Result<Painted> paint(raster::Canvas& page, const design::Body& body, const Paint& how,
                            const Gallery& gallery, const base::Progress& progress = {},
                            raster::Grey* mask = nullptr);

/// Returns a gallery for the screen: pictures larger than so many pixels averaged over whole pixels. Their aspect stays.
/// Cost: O(pixels).
Gallery coarser(const Gallery& gallery, int mostPx);

/// Returns how many picture pixels come to an inch of a face at finished size; nothing for faces without pixels.
std::optional<double> dpiOf(const design::Face& face, const Gallery& gallery);
/// Whether a face is wider or higher than its picture is, by its share: 1.02 is stretched sideways by two hundredths.
double stretchOf(const design::Face& face, const Gallery& gallery);

/// Returns the part of a body a face is printed on, mm in the design: its panel, or the whole.
/// Errors: those of geometry::partedBy.
base::Result<geometry::Shape> fieldOf(const design::Body& body, const design::Face& face,
                                      const base::Progress& progress = {});

inline constexpr double kGoodDpi = 250, kLeastDpi = 150; ///< at finished size; from memory

} // namespace thinline::print
