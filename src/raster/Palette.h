// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Colour.h"
#include "raster/Faults.h"
#include "raster/Picture.h"

#include <vector>

/// Flat colours: which there are.
namespace thinline::raster {

struct PaletteOptions {
    int count = 0;            ///< at least how many, if there are; 0: as many as stand apart
    double mmPerPx = 0.125;
};

/// A colour of a picture and how many even pixels show it.
struct Found {
    Rgb colour{};
    double pixels = 0;
};

/// Returns 1 for every pixel that is like its neighbours, 0 for the others.
/// Cost: O(pixels).
std::vector<std::uint8_t> evenPixels(const Picture& picture, const Faults& faults);

/// Returns the colours of a picture in even light, most used first.
/// Shape:  only pixels like their neighbours are asked, so that soft edges and JPEG fringes are no colours; what they
///         show is gathered by how it looks. A colour has a body somewhere: half a square millimetre and five pixels
///         thick (one where the picture is not exact). At most 64.
/// Cost:   O(pixels).
std::vector<Found> findPalette(const Picture& picture, const Faults& faults, const PaletteOptions& options = {});

/// Returns how unlike two colours are: hues and chroma count less the more vivid they are. 4 is told apart in even areas.
/// Source: after CIE 116-1995, with equal weights.
double unlikeness(const Lab& a, const Lab& b);
double unlikeness(Rgb a, Rgb b);

/// How unlike colours are that are told apart.
double apartOf(const Faults& faults);

} // namespace thinline::raster
