// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"
#include "raster/Picture.h"

namespace thinline::formats::image {

/// Whether bytes look like a picture in a HEIF container (HEIC from telephones, AVIF).
bool looksLikeHeic(const base::Bytes& file);

/// Returns its main picture, upright, transparency laid on white.
/// Errors: ParseError for a broken file, LimitExceeded above `mostPixels`, found before anything is decoded.
base::Result<raster::Picture> decodeHeic(const base::Bytes& file,
                                         std::int64_t mostPixels = raster::kMostPixels);

} // namespace thinline::formats::image
