// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/ImageFile.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace thinline::formats::image {
namespace {

base::Bytes operator+(base::Bytes a, const base::Bytes& b) {
    a.insert(a.end(), b.begin(), b.end());
    return a;
}

base::Bytes big(std::uint32_t v) {
    return {static_cast<std::uint8_t>(v >> 24), static_cast<std::uint8_t>(v >> 16),
            static_cast<std::uint8_t>(v >> 8), static_cast<std::uint8_t>(v)};
}

base::Bytes pngWith(const base::Bytes& chunks) {
    const base::Bytes head{0x89, 'P', 'N', 'G', 13, 10, 26, 10};
    return head + big(13) + base::Bytes{'I', 'H', 'D', 'R'} + base::Bytes(17, 0) + chunks + big(0) +
           base::Bytes{'I', 'D', 'A', 'T', 0, 0, 0, 0};
}

base::Bytes physical(std::uint32_t x, std::uint32_t y, std::uint8_t unit) {
    return big(9) + base::Bytes{'p', 'H', 'Y', 's'} + big(x) + big(y) + base::Bytes{unit, 0, 0, 0, 0};
}

base::Bytes jfif(std::uint8_t unit, std::uint8_t x, std::uint8_t y) {
    return {0xff, 0xd8, 0xff, 0xe0, 0, 16, 'J', 'F', 'I', 'F', 0, 1, 2, unit, 0, x, 0, y, 0, 0};
}

/// An Exif block with X and Y resolution as `value`/1 and a unit; little-endian.
base::Bytes exif(std::uint8_t value, std::uint8_t unit) {
    base::Bytes tiff{'I', 'I', 42, 0, 8, 0, 0, 0, 3, 0};
    const auto entry = [&](std::uint8_t tag, std::uint8_t type, std::uint8_t last) {
        tiff = tiff + base::Bytes{tag, 1, type, 0, 1, 0, 0, 0, last, 0, 0, 0};
    };
    entry(0x1a, 5, 50);
    entry(0x1b, 5, 50);
    entry(0x28, 3, unit);
    tiff = tiff + base::Bytes(4, 0) + base::Bytes{value, 0, 0, 0, 1, 0, 0, 0};
    const auto size = static_cast<std::uint8_t>(tiff.size() + 8);
    return base::Bytes{0xff, 0xd8, 0xff, 0xe1, 0, size, 'E', 'x', 'i', 'f', 0, 0} + tiff;
}

struct Row {
    const char* what;
    base::Bytes file;
    double dpi; ///< 0: none stated
};

// PNG (W3C) pHYs; JFIF 1.02 density; Exif 2.3 / TIFF 6.0 tags 282, 283, 296.
TEST(StatedResolution, ReadsEveryPlaceAResolutionIsWritten) {
    const Row rows[] = {
        {"png, 300 dpi", pngWith(physical(11811, 11811, 1)), 300},
        {"png, aspect only", pngWith(physical(1, 1, 0)), 0},
        {"png without", pngWith({}), 0},
        {"png, a chunk before",
         pngWith(big(2) + base::Bytes{'t', 'E', 'X', 't', 1, 2, 0, 0, 0, 0} + physical(11811, 11811, 1)),
         300},
        {"jfif, inches", jfif(1, 200, 200), 200},
        {"jfif, centimetres", jfif(2, 100, 100), 254},
        {"jfif, aspect only", jfif(0, 1, 1), 0},
        {"exif, inches", exif(180, 2), 180},
        {"exif, centimetres", exif(50, 3), 127},
        {"neither", {'G', 'I', 'F', '8', '9', 'a', 0, 0, 0, 0}, 0},
        {"nothing", {}, 0},
    };
    for (const Row& row : rows) {
        const auto stated = statedResolution(row.file);
        ASSERT_EQ(stated.has_value(), row.dpi > 0) << row.what;
        if (stated) {
            EXPECT_NEAR(stated->dpiX, row.dpi, 0.01) << row.what;
            EXPECT_NEAR(stated->dpiY, row.dpi, 0.01) << row.what;
        }
    }
}

TEST(StatedResolution, CutOffOrScrambledItNeverReadsBeyondTheEnd) {
    std::mt19937 random(4);
    for (const base::Bytes& good : {pngWith(physical(11811, 11811, 1)), jfif(1, 200, 200), exif(180, 2)}) {
        for (size_t length = 0; length < good.size(); ++length)
            (void)statedResolution(base::Bytes(good.begin(), good.begin() + static_cast<long>(length)));
        for (int round = 0; round < 2000; ++round) {
            base::Bytes bad = good;
            for (int i = 0; i < 4; ++i)
                bad[random() % bad.size()] = static_cast<std::uint8_t>(random());
            const auto stated = statedResolution(bad);
            if (stated) {
                EXPECT_FALSE(std::isnan(stated->dpiX));
            }
        }
    }
}

} // namespace
} // namespace thinline::formats::image
