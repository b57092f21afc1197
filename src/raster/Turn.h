// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

/// Pictures that lie askew, or are larger than a first look needs.
namespace thinline::raster {

/// Returns the picture turned about its middle, as large as before; what comes in at the corners goes on as
/// the picture's edge.
/// Units:  degrees, clockwise on screen.
/// Cost:   O(pixels), cubic interpolation.
Picture turned(const Picture& picture, double degrees);

/// Returns the picture made smaller by averaging, both ways by the same factor (0 to 1); at least one pixel.
Picture reduced(const Picture& picture, double factor);

/// Returns by how much the picture would have to be turned for its straight edges to lie level and upright.
/// Units: degrees, clockwise on screen, at most 15 either way; 0 where no such edges stand out.
/// Shape: by the directions of its edges, each counted by how steep and how well defined it is.
/// Cost:  O(pixels); of a picture above two megapixels a reduced copy is looked at.
double skewOf(const Picture& picture);

} // namespace thinline::raster
