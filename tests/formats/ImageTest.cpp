// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/ImageFile.h"

#include <QBuffer>
#include <QImage>
#include <gtest/gtest.h>

#include <fstream>
#include <iterator>
#include <random>

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

TEST(Decode, TransparentIsNotWhite) {
    QImage image(60, 40, QImage::Format_ARGB32);
    image.fill(Qt::transparent);
    const auto paint = [&](int x0, int x1, QColor colour) {
        for (int y = 10; y < 30; ++y)
            for (int x = x0; x < x1; ++x)
                image.setPixelColor(x, y, colour);
    };
    paint(10, 25, QColor(200, 71, 43));
    const auto at = [](const raster::Picture& picture, int x, int y) {
        const std::uint8_t* p = picture.row(y) + 3 * x;
        return raster::Rgb{p[0], p[1], p[2]};
    };
    auto plain = decode(bytesOf(image, "PNG"));
    ASSERT_TRUE(plain);
    EXPECT_EQ(at(plain->picture, 2, 2), (raster::Rgb{255, 255, 255})) << "no white of its own: white paper";
    paint(35, 50, Qt::white);
    auto shown = decode(bytesOf(image, "PNG"));
    EXPECT_EQ(at(shown->picture, 40, 20), (raster::Rgb{255, 255, 255}));
    EXPECT_GT(raster::colourDistance(at(shown->picture, 2, 2), {255, 255, 255}), 0.1)
        << "the ground stays apart from the white that is shown";
    EXPECT_EQ(at(shown->picture, 15, 20), (raster::Rgb{200, 71, 43}));
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

/// A GIF of as many rows as columns, all of one colour, its codes kept at their first width by clearing each time.
base::Bytes gifOf(int size) {
    base::Bytes out = {'G', 'I', 'F', '8', '9', 'a'};
    const auto word = [&](int value) {
        out.push_back(static_cast<std::uint8_t>(value & 255));
        out.push_back(static_cast<std::uint8_t>(value >> 8));
    };
    word(size);
    word(size);
    for (const int b : {0x80, 0, 0, 0, 0, 0, 255, 255, 255, 0x2c, 0, 0, 0, 0})
        out.push_back(static_cast<std::uint8_t>(b));
    word(size);
    word(size);
    out.push_back(0);
    out.push_back(2); // codes of three bits: 4 clears, 5 ends
    std::vector<int> codes;
    for (int i = 0; i < size * size; ++i)
        codes.insert(codes.end(), {4, 1});
    codes.push_back(5);
    std::vector<std::uint8_t> bytes;
    int held = 0, bits = 0;
    for (const int code : codes) {
        held |= code << bits;
        for (bits += 3; bits >= 8; bits -= 8, held >>= 8)
            bytes.push_back(static_cast<std::uint8_t>(held & 255));
    }
    bytes.push_back(static_cast<std::uint8_t>(held));
    out.push_back(static_cast<std::uint8_t>(bytes.size()));
    out.insert(out.end(), bytes.begin(), bytes.end());
    out.insert(out.end(), {0, 0x3b});
    return out;
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
        {"a pixmap", bytesOf(halves(4, 4), "PPM"), base::Code::Unsupported, "PPM"},
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

// The codecs fill what is missing with grey or black; a picture that breaks off is none.
TEST(Decode, APictureThatBreaksOffIsRefused) {
    QImage noise(90, 70, QImage::Format_RGB32);
    std::mt19937 chance(3);
    for (int y = 0; y < noise.height(); ++y)
        for (int x = 0; x < noise.width(); ++x)
            noise.setPixel(x, y,
                           qRgb(static_cast<int>(chance() % 256), static_cast<int>(chance() % 256), 40));
    std::vector<base::Bytes> files = {gifOf(6)};
    for (const char* format : {"PNG", "JPG", "BMP", "WEBP", "TIFF"})
        files.push_back(bytesOf(noise, format));
    for (const base::Bytes& whole : files) {
        ASSERT_TRUE(decode(whole)) << whole[0];
        for (const double share : {0.01, 0.3, 0.5, 0.9, 0.98}) {
            const auto length = static_cast<std::ptrdiff_t>(share * static_cast<double>(whole.size()));
            EXPECT_FALSE(decode({whole.begin(), whole.begin() + length}))
                << std::string(whole.begin(), whole.begin() + 4) << " to " << share;
        }
        base::Bytes longer = whole; // what follows a picture is not looked at
        longer.resize(longer.size() + 300, 7);
        EXPECT_TRUE(decode(longer)) << std::string(whole.begin(), whole.begin() + 4);
    }
}

// Without the mark of ISO/IEC 10918-6 nobody can tell whether 0 is no ink or all of it.
TEST(Decode, InksThatAreNotExplainedAreRefused) {
    base::Bytes jpeg = {0xff, 0xd8, 0xff, 0xc0, 0, 20, 8,    0, 8,    0,    8, 4, 1, 0x11, 0,   2,
                        0x11, 0,    3,    0x11, 0, 4,  0x11, 0, 0xff, 0xda, 0, 2, 0, 0xff, 0xd9};
    EXPECT_EQ(decode(jpeg).error().code, base::Code::Unsupported);
    EXPECT_NE(decode(jpeg).error().message.find("four printing colours"), std::string::npos);
    const base::Bytes mark = {0xff, 0xee, 0, 14, 'A', 'd', 'o', 'b', 'e', 0, 100, 0, 0, 0, 0, 0};
    jpeg.insert(jpeg.begin() + 2, mark.begin(), mark.end());
    EXPECT_EQ(decode(jpeg).error().message.find("four printing colours"), std::string::npos);
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

TEST(Decode, OtherKindsOfPicturesAreReadToo) {
    QImage image = halves(64, 48);
    image.setDotsPerMeterX(7874);
    image.setDotsPerMeterY(7874);
    for (const auto& [format, mediaType] : std::vector<std::pair<const char*, std::string>>{
             {"WEBP", "image/webp"}, {"TIFF", "image/tiff"}, {"BMP", "image/bmp"}}) {
        SCOPED_TRACE(format);
        const auto out = decode(bytesOf(image, format));
        ASSERT_TRUE(out) << out.error().message;
        EXPECT_EQ(out->mediaType, mediaType);
        EXPECT_EQ(out->picture.width, 64);
        EXPECT_LT(out->picture.row(20)[10 * 3], 40);
        EXPECT_GT(out->picture.row(20)[50 * 3], 215);
    }
    EXPECT_NEAR(*decode(bytesOf(image, "TIFF"))->dpiX, 200, 0.1);
    EXPECT_FALSE(decode(bytesOf(image, "WEBP"))->dpiX) << "a WebP file states none";
    // A GIF of one black and one white pixel, written by hand from the GIF89a grammar.
    const base::Bytes gif{'G', 'I',  'F', '8', '9', 'a', 2, 0, 1, 0, 0x80, 0, 0, 0,    0,    0,    255, 255,
                          255, 0x2c, 0,   0,   0,   0,   2, 0, 1, 0, 0,    2, 2, 0x44, 0x0a, 0x00, 0x3b};
    const auto two = decode(gif);
    ASSERT_TRUE(two) << two.error().message;
    EXPECT_EQ(two->mediaType, "image/gif");
    EXPECT_EQ(two->picture.width, 2);
}

// A GIF may open a screen of any size around a frame of two pixels, and the codec makes all of it.
TEST(Decode, WhatIsMadeIsCountedAndNotOnlyWhatWasAnnounced) {
    base::Bytes gif{'G', 'I',  'F', '8', '9', 'a', 2, 0, 1, 0, 0x80, 0, 0, 0,    0,    0,    255, 255,
                    255, 0x2c, 0,   0,   0,   0,   2, 0, 1, 0, 0,    2, 2, 0x44, 0x0a, 0x00, 0x3b};
    gif[7] = gif[9] = 8; // 2050 x 2049 pixels
    EXPECT_TRUE(decode(gif)) << decode(gif).error().message;
    const auto out = decode(gif, 4'000'000);
    ASSERT_FALSE(out);
    EXPECT_EQ(out.error().message,
              "The picture has 4 megapixels; up to 4 are accepted. Make it smaller first.");
}

TEST(Decode, SixteenBitsAColourAreTakenWhileTheyAreNotTooMany) {
    QImage image = halves(64, 48).convertToFormat(QImage::Format_RGBX64);
    const auto few = decode(bytesOf(image, "PNG"));
    ASSERT_TRUE(few) << few.error().message;
    EXPECT_LT(few->picture.row(20)[10 * 3], 40);
    EXPECT_GT(few->picture.row(20)[50 * 3], 215);
    const auto many = decode(bytesOf(image, "PNG"), 64 * 48);
    ASSERT_FALSE(many) << "they would take twice the memory";
    EXPECT_EQ(many.error().code, base::Code::LimitExceeded);
    EXPECT_NE(many.error().message.find("8 bits a colour"), std::string::npos);
}

TEST(Decode, HeicFromATelephone) {
    std::ifstream in(THINLINE_SOURCE_DIR "/tests/data/image/halves.heic", std::ios::binary);
    base::Bytes file{std::istreambuf_iterator<char>(in), {}};
    const auto out = decode(file);
    ASSERT_TRUE(out) << out.error().message;
    EXPECT_EQ(out->mediaType, "image/heic");
    EXPECT_EQ(out->picture.width, 64);
    EXPECT_EQ(out->picture.height, 48);
    EXPECT_NEAR(out->picture.row(20)[10 * 3], 0x20, 8);
    EXPECT_NEAR(out->picture.row(20)[50 * 3], 255, 8);
    for (size_t length : {16u, 60u, 200u, static_cast<unsigned>(file.size() / 2)}) {
        base::Bytes cut(file.begin(), file.begin() + static_cast<std::ptrdiff_t>(length));
        const auto broken = decode(cut);
        ASSERT_FALSE(broken) << length;
        EXPECT_EQ(broken.error().code, base::Code::ParseError);
    }
}

} // namespace
} // namespace thinline::formats::image
