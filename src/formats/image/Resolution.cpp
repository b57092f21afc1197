// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/ImageFile.h"

#include <cstring>
#include <span>

namespace thinline::formats::image {
namespace {

using View = std::span<const std::uint8_t>;

constexpr double kInchesPerMetre = 1 / 0.0254;
constexpr double kCmPerInch = 2.54;

/// Big- or little-endian unsigned numbers; 0 beyond the end.
std::uint32_t number(View bytes, size_t at, size_t count, bool isLittle = false) {
    if (at > bytes.size() || bytes.size() - at < count)
        return 0;
    std::uint32_t value = 0;
    for (size_t i = 0; i < count; ++i)
        value = value << 8 | bytes[at + (isLittle ? count - 1 - i : i)];
    return value;
}

/// PNG (W3C), section 11.3.5.3: pHYs, pixels per metre.
std::optional<StatedResolution> fromPng(View file) {
    for (size_t at = 8; at + 12 <= file.size();) {
        const std::uint32_t size = number(file, at, 4);
        const View name = file.subspan(at + 4, 4);
        if (std::memcmp(name.data(), "pHYs", 4) == 0 && size == 9 && at + 17 <= file.size()) {
            if (file[at + 16] != 1)
                return std::nullopt; // only an aspect ratio
            return StatedResolution{number(file, at + 8, 4) / kInchesPerMetre,
                                    number(file, at + 12, 4) / kInchesPerMetre};
        }
        if (std::memcmp(name.data(), "IDAT", 4) == 0 || size > file.size())
            return std::nullopt;
        at += 12 + static_cast<size_t>(size);
    }
    return std::nullopt;
}

/// TIFF 6.0 tags 282, 283 and 296 in the first directory of an Exif block.
std::optional<StatedResolution> fromExif(View tiff) {
    if (tiff.size() < 8)
        return std::nullopt;
    const bool isLittle = tiff[0] == 'I';
    const size_t directory = number(tiff, 4, 4, isLittle);
    const std::uint32_t count = std::min(number(tiff, directory, 2, isLittle), 1000u);
    double x = 0, y = 0, perInch = 1;
    const auto rational = [&](size_t entry) {
        const size_t at = number(tiff, entry + 8, 4, isLittle);
        const double below = number(tiff, at + 4, 4, isLittle);
        return below > 0 ? number(tiff, at, 4, isLittle) / below : 0.0;
    };
    for (size_t i = 0; i < count; ++i) {
        const size_t entry = directory + 2 + i * 12;
        switch (number(tiff, entry, 2, isLittle)) {
        case 282:
            x = rational(entry);
            break;
        case 283:
            y = rational(entry);
            break;
        case 296:
            perInch = number(tiff, entry + 8, 2, isLittle) == 3 ? kCmPerInch : 1;
            break;
        default:
            break;
        }
    }
    if (x > 0 && y > 0)
        return StatedResolution{x * perInch, y * perInch};
    return std::nullopt;
}

/// JFIF 1.02 density, else the Exif block's.
std::optional<StatedResolution> fromJpeg(View file) {
    std::optional<StatedResolution> found;
    for (size_t at = 2; at + 4 <= file.size() && file[at] == 0xff;) {
        const std::uint8_t marker = file[at + 1];
        const size_t size = number(file, at + 2, 2);
        if (marker == 0xda || size < 2 || at + 2 + size > file.size())
            break;
        const View body = file.subspan(at + 4, size - 2);
        if (marker == 0xe0 && body.size() >= 12 && std::memcmp(body.data(), "JFIF", 5) == 0 && body[7] != 0) {
            const double perInch = body[7] == 2 ? kCmPerInch : 1;
            found = StatedResolution{number(body, 8, 2) * perInch, number(body, 10, 2) * perInch};
        } else if (marker == 0xe1 && body.size() > 6 && std::memcmp(body.data(), "Exif\0", 6) == 0) {
            if (const auto exif = fromExif(body.subspan(6)))
                return exif;
        }
        at += 2 + size;
    }
    return found;
}

} // namespace

std::optional<StatedResolution> statedResolution(const base::Bytes& file) {
    const View view(file);
    if (file.size() > 8 && std::memcmp(file.data(), "\x89PNG", 4) == 0)
        return fromPng(view);
    if (file.size() > 4 && file[0] == 0xff && file[1] == 0xd8)
        return fromJpeg(view);
    return std::nullopt;
}

} // namespace thinline::formats::image
