// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/Whole.h"

#include <algorithm>
#include <cstring>
#include <functional>

namespace thinline::formats::image {
namespace {

using base::Bytes;

bool startsWith(const Bytes& file, const char* magic) {
    const size_t size = std::strlen(magic);
    return file.size() >= size && std::memcmp(file.data(), magic, size) == 0;
}

size_t littleEndian(const Bytes& file, size_t at, size_t bytes) {
    size_t out = 0;
    for (size_t i = 0; i < bytes; ++i)
        out |= static_cast<size_t>(file[at + i]) << (8 * i);
    return out;
}

// ---- JPEG

constexpr std::uint8_t kEnd = 0xd9, kScan = 0xda, kApp14 = 0xee;

bool isFrame(std::uint8_t marker) { // SOF0 to SOF15, but for the tables among them
    return marker >= 0xc0 && marker <= 0xcf && marker != 0xc4 && marker != 0xc8 && marker != 0xcc;
}
bool standsAlone(std::uint8_t marker) {
    return marker == 0x01 || (marker >= 0xd0 && marker <= 0xd8);
}

/// Walks over the segments of a JPEG and calls `each` with marker, beginning and end of its contents; returns whether
/// the end mark was reached. Thumbnails within a segment are passed over with it.
bool walkJpeg(const Bytes& file, const std::function<void(std::uint8_t, size_t, size_t)>& each) {
    size_t at = 2;
    while (at + 1 < file.size()) {
        if (file[at] != 0xff || file[at + 1] == 0xff || file[at + 1] == 0) {
            ++at; // filling, or the coded picture
            continue;
        }
        const std::uint8_t marker = file[at + 1];
        at += 2;
        if (marker == kEnd)
            return true;
        if (standsAlone(marker))
            continue;
        if (at + 2 > file.size())
            return false;
        const size_t length = static_cast<size_t>(file[at]) << 8 | file[at + 1];
        if (length < 2 || at + length > file.size())
            return false;
        each(marker, at + 2, at + length);
        at += length;
    }
    return false;
}

bool isJpeg(const Bytes& file) {
    return startsWith(file, "\xff\xd8\xff");
}

bool isWholeJpeg(const Bytes& file) {
    bool hasScan = false;
    return walkJpeg(file,
                    [&](std::uint8_t marker, size_t, size_t) { hasScan = hasScan || marker == kScan; }) &&
           hasScan;
}

// ---- GIF

size_t tableBytes(std::uint8_t flags) {
    return flags & 0x80 ? size_t{3} << ((flags & 7) + 1) : 0;
}

/// Passes blocks over up to the empty one that ends them; false when the file ends before.
bool passBlocks(const Bytes& file, size_t& at) {
    while (at < file.size()) {
        const size_t length = file[at];
        at += 1 + length;
        if (length == 0)
            return true;
    }
    return false;
}

bool isWholeGif(const Bytes& file) {
    constexpr size_t kHead = 13, kPicture = 10;
    if (file.size() < kHead)
        return false;
    for (size_t at = kHead + tableBytes(file[10]); at < file.size();) {
        if (file[at] == 0x21) { // an extension
            at += 2;
            if (!passBlocks(file, at))
                return false;
        } else if (file[at] == 0x2c && at + kPicture <= file.size()) {
            at += kPicture + tableBytes(file[at + 9]) + 1;
            return passBlocks(file, at);
        } else {
            return false;
        }
    }
    return false;
}

// ---- BMP

/// Of the kinds that are not packed; packed ones end with a mark the codec looks for.
bool isWholeBmp(const Bytes& file) {
    constexpr size_t kHead = 34;
    if (file.size() < kHead)
        return false;
    const size_t from = littleEndian(file, 10, 4), headerBytes = littleEndian(file, 14, 4);
    if (headerBytes < 40)
        return true; // an older kind, seldom met
    const size_t width = littleEndian(file, 18, 4), bits = littleEndian(file, 28, 2),
                 packing = littleEndian(file, 30, 4);
    const auto signedHeight = static_cast<std::int32_t>(littleEndian(file, 22, 4));
    const auto height = static_cast<size_t>(std::abs(static_cast<std::int64_t>(signedHeight)));
    if (packing == 1 || packing == 2)
        return true;
    return from + (width * bits + 31) / 32 * 4 * height <= file.size();
}

} // namespace

bool isWhole(const Bytes& file) {
    if (isJpeg(file))
        return isWholeJpeg(file);
    if (startsWith(file, "GIF8"))
        return isWholeGif(file);
    return !startsWith(file, "BM") || isWholeBmp(file);
}

std::optional<base::Error> tooManyPixels(std::int64_t pixels, std::int64_t most) {
    if (pixels <= most)
        return {};
    constexpr std::int64_t kMega = 1'000'000;
    return base::Error{base::Code::LimitExceeded, "The picture has " + std::to_string(pixels / kMega) +
                                                      " megapixels; up to " + std::to_string(most / kMega) +
                                                      " are accepted. Make it smaller first."};
}

bool hasUnsaidInks(const Bytes& file) {
    if (!isJpeg(file))
        return false;
    bool isSaid = false;
    int colours = 0;
    walkJpeg(file, [&](std::uint8_t marker, size_t from, size_t to) {
        constexpr size_t kColours = 5; // behind bits, height and width
        if (isFrame(marker) && to - from > kColours)
            colours = file[from + kColours];
        isSaid = isSaid || (marker == kApp14 && to - from >= 5 && std::memcmp(&file[from], "Adobe", 5) == 0);
    });
    return colours == 4 && !isSaid;
}

} // namespace thinline::formats::image
