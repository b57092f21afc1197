// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

#include <optional>

namespace thinline::formats::image {

/// Whether a picture file holds its picture to the end. The codecs of JPEG, GIF and BMP fill what is missing with grey
/// or black and say nothing; the others refuse it themselves.
/// Shape: true for other kinds. Of a GIF the first frame is looked at. What follows the picture is not.
/// Cost:  O(bytes).
bool isWhole(const base::Bytes& file);

/// Says that a picture of so many pixels is above what is accepted; nothing when it is not.
std::optional<base::Error> tooManyPixels(std::int64_t pixels, std::int64_t most);

/// Whether a JPEG is in four printing colours and does not say whether their values are turned round, as most programs
/// write them: then black and white cannot be told apart.
bool hasUnsaidInks(const base::Bytes& file);

} // namespace thinline::formats::image
