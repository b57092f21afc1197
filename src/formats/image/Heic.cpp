// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/Heic.h"

#include "formats/image/Whole.h"

#include <algorithm>
#include <cstring>
#include <libheif/heif.h>
#include <memory>

namespace thinline::formats::image {
namespace {

using base::Code;
using base::Error;

Error broken() {
    return {Code::ParseError, "The picture is broken; open it elsewhere and save it anew."};
}

} // namespace

bool looksLikeHeic(const base::Bytes& file) {
    if (file.size() < 16 || std::memcmp(file.data() + 4, "ftyp", 4) != 0)
        return false;
    for (const char* brand : {"heic", "heix", "heim", "heis", "hevc", "mif1", "msf1", "avif"})
        if (std::memcmp(file.data() + 8, brand, 4) == 0)
            return true;
    return false;
}

base::Result<raster::Picture> decodeHeic(const base::Bytes& file, std::int64_t mostPixels) {
    const std::unique_ptr<heif_context, void (*)(heif_context*)> context(heif_context_alloc(),
                                                                         heif_context_free);
    if (const heif_error bad =
            heif_context_read_from_memory_without_copy(context.get(), file.data(), file.size(), nullptr);
        bad.code != heif_error_Ok)
        return broken();
    heif_image_handle* found = nullptr;
    if (const heif_error bad = heif_context_get_primary_image_handle(context.get(), &found);
        bad.code != heif_error_Ok)
        return broken();
    const std::unique_ptr<heif_image_handle, void (*)(const heif_image_handle*)> handle(
        found, heif_image_handle_release);
    const std::int64_t pixels =
        std::int64_t{heif_image_handle_get_width(found)} * heif_image_handle_get_height(found);
    if (auto tooMany = tooManyPixels(pixels, mostPixels))
        return *tooMany;
    // A picture of tiles says twice how large it is, and what is made is as large as the second says. It is held to a
    // square around the first.
    const std::int64_t side =
        std::max(heif_image_handle_get_width(found), heif_image_handle_get_height(found));
    if (side * side > 4 * mostPixels)
        return Error{Code::LimitExceeded,
                     "The picture is longer than this program takes; cut it to what is needed first."};
    heif_context_set_maximum_image_size_limit(context.get(), static_cast<int>(side) + 1);
    heif_image* decoded = nullptr;
    if (const heif_error bad =
            heif_decode_image(found, &decoded, heif_colorspace_RGB, heif_chroma_interleaved_RGBA, nullptr);
        bad.code != heif_error_Ok)
        return broken();
    const std::unique_ptr<heif_image, void (*)(const heif_image*)> image(decoded, heif_image_release);
    int stride = 0;
    const std::uint8_t* rows = heif_image_get_plane_readonly(decoded, heif_channel_interleaved, &stride);
    const int width = heif_image_get_width(decoded, heif_channel_interleaved),
              height = heif_image_get_height(decoded, heif_channel_interleaved);
    if (!rows || width < 1 || height < 1)
        return broken();
    raster::Picture out{width, height, {}};
    out.rgb.reserve(static_cast<size_t>(width) * static_cast<size_t>(height) * 3);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const std::uint8_t* p = rows + static_cast<std::ptrdiff_t>(y) * stride + x * 4;
            for (int i = 0; i < 3; ++i)
                out.rgb.push_back(static_cast<std::uint8_t>((p[i] * p[3] + 255 * (255 - p[3])) / 255));
        }
    return out;
}

} // namespace thinline::formats::image
