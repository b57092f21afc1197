// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

namespace thinline::raster {

/// A colour as red, green, blue, each 0 to 255, in sRGB.
using Rgb = std::array<std::uint8_t, 3>;

/// Returns a colour as six hexadecimal digits, "c8472b".
std::string hexOf(Rgb colour);

/// Largest picture the program takes in: 100 megapixels.
inline constexpr std::int64_t kMostPixels = 100'000'000;

/// A flat colour picture: rows top to bottom, three bytes per pixel, transparency already laid on white.
struct Picture {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> rgb; ///< width * height * 3

    bool isEmpty() const { return width == 0 || height == 0; }
    std::int64_t pixels() const { return static_cast<std::int64_t>(width) * height; }
    const std::uint8_t* row(int y) const {
        return rgb.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(width) * 3;
    }
};

/// One byte per pixel: a brightness, or a mask with 0 and 255.
struct Grey {
    int width = 0;
    int height = 0;
    std::vector<std::uint8_t> values; ///< width * height

    std::uint8_t at(int x, int y) const {
        return values[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                      static_cast<std::size_t>(x)];
    }
    std::uint8_t& at(int x, int y) {
        return values[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                      static_cast<std::size_t>(x)];
    }
};

/// Returns the strongest channel of every pixel: ink is dark in all three, a strong colour never is.
/// Cost: O(pixels).
Grey brightness(const Picture& picture);

/// Returns the threshold that parts dark from light best: pixels at or below it are dark.
/// Shape:  a picture of one single brightness gives that brightness minus one: nothing is ink.
/// Cost:   O(pixels).
/// Source: N. Otsu, A Threshold Selection Method from Gray-Level Histograms, IEEE Trans. SMC 9(1), 1979.
int otsuThreshold(const Grey& grey);

/// Returns the threshold that parts ink from everything lighter, colour washes included.
/// Shape:  counts only pixels like their right and lower neighbours, so that the soft edges of lines have no
///         say; parts them by Otsu's threshold, and the dark side again while it holds two clearly different
///         levels. Falls back to all pixels where hardly any are even (a photograph, noise).
/// Cost:   O(pixels).
int inkThreshold(const Grey& grey);

/// Returns 255 where the brightness is at or below `threshold` (ink), 0 elsewhere (paper).
Grey inkMask(const Grey& grey, int threshold);

/// Draws a straight line of ink `widthPx` wide with round ends and soft edges; `ink` is its brightness. Parts
/// outside are ignored.
/// Units: pixel coordinates, pixel centres at +0.5.
void inkLine(Grey& grey, double x0, double y0, double x1, double y1, double widthPx, std::uint8_t ink);

/// Returns the middle colour (per channel median) of the pixels listed by index.
Rgb medianColour(const Picture& picture, const std::vector<std::uint32_t>& pixels);

/// Returns how different two colours look: 0 equal, about 0.02 just noticeable, 1 black against white.
/// Source: B. Ottosson, A perceptual color space for image processing (Oklab), 2020; Euclidean distance.
double colourDistance(Rgb a, Rgb b);

/// Returns 0 (grey) to about 0.3 (vivid): the chroma in Oklab.
double colourfulness(Rgb colour);

} // namespace thinline::raster
