// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "raster/Borders.h"
#include "raster/Picture.h"

#include <vector>

/// Flat colours: which there are, and which pixel has which.
namespace thinline::raster {

struct PaletteOptions {
    int count = 0;    ///< how many; 0: as many as stand apart
    double apart = 7; ///< CIEDE2000 by which two colours stand apart
};

/// Returns the colours of a picture, most used first.
/// Shape:  only pixels like their neighbours are asked, so that soft edges and JPEG fringes are no colours;
///         what they show is gathered by how it looks. With a count given, the nearest colours are joined, or
///         nearer ones told apart, until there are as many (fewer when the picture has fewer).
/// Cost:   O(pixels).
std::vector<Rgb> findPalette(const Picture& picture, const PaletteOptions& options = {});

/// Returns whether the colours of a picture are coarser than its brightness, as JPEG keeps them: even areas
/// are nearly even, but not to the level.
bool hasCoarseColour(const Picture& picture);

/// Returns the number of the colour of every pixel.
/// Shape:  a pixel of a soft edge belongs to one of the colours that lie around it, to the one it holds more
///         of, never to a third that its mixture happens to look like; a line too thin for an even core keeps
///         its colour if no mixture of its surroundings explains it.
/// Errors: Cancelled.
/// Cost:   O(pixels), and the square of the colours around for pixels of soft edges.
base::Result<LabelMap> colourMap(const Picture& picture, const std::vector<Rgb>& palette,
                                 const base::Progress& progress = {});

} // namespace thinline::raster
