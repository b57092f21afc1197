// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/ImageFile.h"

#include <QBuffer>
#include <QImage>
#include <gtest/gtest.h>

namespace thinline::formats::image {
namespace {

base::Bytes bytesOf(const QImage& image, const char* format) {
    QByteArray out;
    QBuffer buffer(&out);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, format, 95);
    return {out.begin(), out.end()};
}

QImage halves(int width, int height) {
    QImage image(width, height, QImage::Format_RGB32);
    image.fill(Qt::white);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width / 2; ++x)
            image.setPixelColor(x, y, Qt::black);
    return image;
}

/// A minimal Exif block with an orientation, put behind the start of a JPEG.
base::Bytes withOrientation(base::Bytes jpeg, std::uint8_t orientation) {
    const base::Bytes exif{0xff, 0xe1, 0, 34, 'E', 'x',         'i', 'f', 0,    0,    'M', 'M',
                           0,    42,   0, 0,  0,   8,           0,   1,   0x01, 0x12, 0,   3,
                           0,    0,    0, 1,  0,   orientation, 0,   0,   0,    0,    0,   0};
    jpeg.insert(jpeg.begin() + 2, exif.begin(), exif.end());
    return jpeg;
}

TEST(Decode, PngKeepsPixelsAndResolution) {
    QImage image = halves(20, 10);
    image.setDotsPerMeterX(11811); // 300 dpi
    image.setDotsPerMeterY(11811);
    const auto out = decode(bytesOf(image, "PNG"));
    ASSERT_TRUE(out);
    EXPECT_EQ(out->picture.width, 20);
    EXPECT_EQ(out->picture.height, 10);
    EXPECT_EQ(out->picture.row(5)[0], 0);
    EXPECT_EQ(out->picture.row(5)[19 * 3], 255);
    ASSERT_TRUE(out->dpiX);
    EXPECT_NEAR(*out->dpiX, 300, 0.01);
    EXPECT_EQ(out->mediaType, "image/png");
}

TEST(Decode, JpegOrientationTurnsThePictureAndItsResolution) {
    QImage image = halves(40, 20);
    image.setDotsPerMeterX(7874); // 200 dpi
    image.setDotsPerMeterY(3937); // 100 dpi
    const auto upright = decode(bytesOf(image, "JPEG"));
    ASSERT_TRUE(upright);
    EXPECT_NEAR(*upright->dpiX, 200, 0.5);
    EXPECT_NEAR(*upright->dpiY, 100, 0.5);
    const auto turned =
        decode(withOrientation(bytesOf(image, "JPEG"), 6)); // the top is at the right: turn by a quarter
    ASSERT_TRUE(turned);
    EXPECT_EQ(turned->picture.width, 20);
    EXPECT_EQ(turned->picture.height, 40);
    EXPECT_LT(turned->picture.row(2)[10 * 3], 40) << "the dark half is now above";
    EXPECT_GT(turned->picture.row(37)[10 * 3], 215);
    EXPECT_NEAR(*turned->dpiX, 100, 0.5);
    EXPECT_NEAR(*turned->dpiY, 200, 0.5);
}

TEST(Decode, TransparencyLiesOnWhite) {
    QImage image(4, 4, QImage::Format_ARGB32);
    image.fill(QColor(0, 0, 0, 0));
    image.setPixelColor(1, 1, QColor(0, 0, 0, 255));
    const auto out = decode(bytesOf(image, "PNG"));
    EXPECT_EQ(out->picture.row(0)[0], 255);
    EXPECT_EQ(out->picture.row(1)[3], 0);
}

TEST(Decode, AbsurdResolutionsAreIgnoredAndSaid) {
    for (int dotsPerMetre : {1, 100, 4'000'000}) {
        QImage image = halves(8, 8);
        image.setDotsPerMeterX(dotsPerMetre);
        image.setDotsPerMeterY(dotsPerMetre);
        const auto out = decode(bytesOf(image, "PNG"));
        ASSERT_TRUE(out);
        EXPECT_FALSE(out->dpiX) << dotsPerMetre;
        EXPECT_TRUE(out->hadAbsurdDpi) << dotsPerMetre;
    }
}

struct Refusal {
    const char* what;
    base::Bytes file;
    base::Code code;
    const char* says;
};

TEST(Decode, RefusesInASentence) {
    const base::Bytes png = bytesOf(halves(64, 64), "PNG");
    base::Bytes cut(png.begin(), png.begin() + static_cast<long>(png.size() / 2));
    base::Bytes bomb = png; // claims 40000 x 40000 pixels in its header
    bomb[18] = bomb[22] = 0x9c;
    bomb[19] = bomb[23] = 0x40;
    const Refusal rows[] = {
        {"empty", {}, base::Code::ParseError, "is empty"},
        {"text", {'h', 'e', 'l', 'l', 'o', ' ', 'y', 'o', 'u'}, base::Code::ParseError, "not a picture"},
        {"cut off", cut, base::Code::ParseError, "broken"},
        {"a bitmap", bytesOf(halves(4, 4), "BMP"), base::Code::Unsupported, "BMP"},
    };
    for (const Refusal& row : rows) {
        const auto out = decode(row.file);
        ASSERT_FALSE(out) << row.what;
        EXPECT_EQ(out.error().code, row.code) << row.what;
        EXPECT_NE(out.error().message.find(row.says), std::string::npos)
            << row.what << ": " << out.error().message;
    }
    EXPECT_FALSE(decode(bomb)) << "a header that lies about its size";
}

TEST(EncodePng, ComesBackTheSameAndStatesItsResolution) {
    const raster::Picture picture{3, 2, {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18}};
    const base::Bytes file = encodePng(picture, 150);
    const auto back = decode(file);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->picture.rgb, picture.rgb);
    EXPECT_NEAR(*back->dpiX, 150, 0.05);
    EXPECT_EQ(encodePng(picture, 150), file);
}

} // namespace
} // namespace thinline::formats::image
