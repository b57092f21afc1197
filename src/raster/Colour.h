// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

#include <string>

/// Colours as the eye sees them.
namespace thinline::raster {

/// CIE L*a*b*, for daylight (D65).
struct Lab {
    double l = 0, a = 0, b = 0;
};

/// Returns the light a coded value stands for, both 0 to 1.
/// Source: IEC 61966-2-1 (sRGB), the transfer function.
double linearOf(double coded);
/// The way back.
double codedOf(double linear);

Lab labOf(Rgb colour);

/// Returns what a colour is called: "dark green", "warm yellow", "cream".
/// Source: regions of the hue and lightness of CIE L*a*b*, laid by eye.
std::string colourWords(Rgb colour);

/// Returns how different two colours look: about 1 is just noticeable side by side, 100 black against white.
/// Source: CIEDE2000; G. Sharma, W. Wu, E. N. Dalal, The CIEDE2000 color-difference formula: implementation
///         notes, supplementary test data, and mathematical observations, Color Research and Application 30,
///         2005.
double ciede2000(const Lab& a, const Lab& b);

} // namespace thinline::raster
