// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any bytes as a picture file of one of the kinds with a codec: it is read or refused, and a picture that is read has
// all its bytes.

#include "formats/image/ImageFile.h"

#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    constexpr std::int64_t kMostPixels = 1'000'000;
    const auto out = formats::image::decode({data, data + size}, kMostPixels);
    if (!out)
        return 0;
    const raster::Picture& picture = out->picture;
    if (picture.pixels() < 1 || picture.pixels() > kMostPixels ||
        picture.rgb.size() != 3 * static_cast<std::size_t>(picture.pixels()))
        std::abort();
    return 0;
}
