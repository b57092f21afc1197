// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"
#include "raster/Picture.h"

#include <optional>
#include <string>

/// Pictures in (PNG, JPEG, WebP, TIFF, GIF, BMP by Qt's codecs in ImageFile.cpp, HEIC in Heic.cpp), PNG out.
namespace thinline::formats::image {

/// Dots per inch a person could have meant; a tag outside is taken for nonsense and ignored, and said.
inline constexpr double kLeastDpi = 30;
inline constexpr double kMostDpi = 10000;

struct DecodedPicture {
    raster::Picture picture;    ///< upright: the orientation tag is already applied
    std::optional<double> dpiX; ///< after turning upright; unset when the file states none or an absurd one
    std::optional<double> dpiY;
    bool hadAbsurdDpi = false;
    std::string mediaType; ///< "image/png", "image/jpeg", "image/webp" ...
    bool wasClear = false; ///< parts of it let through what lies below
    raster::Grey cover =
        {}; ///< of one that is to be printed and was clear: how far each pixel hides what lies below it, 255 all
};

/// What transparent parts are laid on. To be traced, transparent is not white: a picture that shows white itself lies on a pale tint.
/// Printed, nothing is there: paper.
enum class Ground { ToTrace, White };

/// Returns the picture in a file, transparency laid on white; of several frames or pages the first.
/// Errors: ParseError (empty, not a picture, broken: says which), Unsupported (another kind of picture),
///         LimitExceeded above `mostPixels`, found from the header before anything is decoded.
/// Cost:   O(pixels); up to 7 bytes per pixel while decoding.
base::Result<DecodedPicture> decode(const base::Bytes& file, std::int64_t mostPixels = raster::kMostPixels,
                                    Ground ground = Ground::ToTrace);

/// The resolution a file states, before any judgement; unset when it states none.
struct StatedResolution {
    double dpiX = 0;
    double dpiY = 0;
};
std::optional<StatedResolution> statedResolution(const base::Bytes& file);

/// Returns a PNG file that states `dpi` when it is above zero, and that its colours are sRGB when that is asked. The same picture
/// gives the same bytes.
base::Bytes encodePng(const raster::Picture& picture, double dpi = 0, bool statesSrgb = false);

/// Returns the ICC profile of sRGB, for files that state what their colours are.
base::Bytes srgbProfile();

} // namespace thinline::formats::image
