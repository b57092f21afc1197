// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Pictures in and out.
//
// Decoding is left to the toolkit's codecs. What is done here is what they do not do: look first whether the file holds
// its picture to the end, and how large it will be, before anything is made; say what resolution a person may have
// meant; and lay transparency on a ground that tells it from white.
//
// Memory is the reason for the rest. The largest picture taken in has a hundred million pixels; the codec makes four
// bytes of each, a picture that has to be turned is there twice for a moment, and three bytes each are kept. So rows are
// converted a few at a time, and a file with sixteen bits a colour, which would be twice as much for nothing a knife
// could follow, is taken up to half the size. Headers are asked, and not believed: what was made is counted again, since
// a GIF of two pixels may open a screen of any size, and a codec that could not read its header answers with any number.
#include "formats/image/ImageFile.h"

#include "formats/image/Heic.h"
#include "formats/image/Whole.h"

#include <QBuffer>
#include <QColorSpace>
#include <QImage>
#include <QImageReader>
#include <QImageWriter>

#include <algorithm>
#include <cmath>
#include <functional>

namespace thinline::formats::image {
namespace {

using base::Code;
using base::Error;

bool isBelievable(double dpi) {
    return std::isfinite(dpi) && dpi >= kLeastDpi && dpi <= kMostDpi;
}

/// Visits the rows of a picture as pixels of four bytes, converting a few at a time.
void eachRow(const QImage& image, const std::function<void(const QRgb*)>& visit) {
    constexpr int kBand = 64;
    const QImage::Format wanted = image.hasAlphaChannel() ? QImage::Format_ARGB32 : QImage::Format_RGB32;
    if (image.format() == wanted) {
        for (int y = 0; y < image.height(); ++y)
            visit(reinterpret_cast<const QRgb*>(image.constScanLine(y)));
        return;
    }
    for (int top = 0; top < image.height(); top += kBand) {
        const QImage band =
            image.copy(0, top, image.width(), std::min(kBand, image.height() - top)).convertToFormat(wanted);
        for (int y = 0; y < band.height(); ++y)
            visit(reinterpret_cast<const QRgb*>(band.constScanLine(y)));
    }
}

/// What transparent parts are laid on. Transparent is not white: a picture that shows white itself lies on a
/// pale tint instead, so that the two stay apart and only the tint is paper.
QRgb groundOf(const QImage& image, bool& isClear) {
    constexpr QRgb kWhite = qRgb(255, 255, 255), kTint = qRgb(206, 216, 232);
    constexpr double kShows = 0.002; // of the opaque pixels
    std::int64_t opaque = 0, white = 0, clear = 0;
    eachRow(image, [&](const QRgb* row) {
        for (int x = 0; x < image.width(); ++x) {
            const QRgb p = row[x];
            clear += qAlpha(p) < 128;
            if (qAlpha(p) < 255)
                continue;
            ++opaque;
            white += std::min({qRed(p), qGreen(p), qBlue(p)}) > 235;
        }
    });
    isClear = clear > 0;
    return isClear && static_cast<double>(white) > kShows * static_cast<double>(opaque) ? kTint : kWhite;
}

/// Copies rows of three bytes, laying what is transparent on its ground.
raster::Picture flattened(const QImage& image, Ground on, bool& isClear) {
    raster::Picture picture{image.width(), image.height(), {}};
    picture.rgb.resize(static_cast<size_t>(picture.pixels()) * 3);
    const bool hasAlpha = image.hasAlphaChannel();
    const QRgb seen = hasAlpha ? groundOf(image, isClear) : 0;
    const QRgb ground = on == Ground::White ? qRgb(255, 255, 255) : seen;
    std::uint8_t* to = picture.rgb.data();
    eachRow(image, [&](const QRgb* row) {
        for (int x = 0; x < image.width(); ++x, to += 3) {
            const int alpha = hasAlpha ? qAlpha(row[x]) : 255;
            const auto laid = [&](int value, int under) {
                return static_cast<std::uint8_t>((value * alpha + under * (255 - alpha)) / 255);
            };
            to[0] = laid(qRed(row[x]), qRed(ground));
            to[1] = laid(qGreen(row[x]), qGreen(ground));
            to[2] = laid(qBlue(row[x]), qBlue(ground));
        }
    });
    return picture;
}

/// How far each pixel hides what lies below it.
raster::Grey coverOf(const QImage& image) {
    raster::Grey out{image.width(), image.height(), {}};
    out.values.reserve(static_cast<size_t>(image.width()) * static_cast<size_t>(image.height()));
    eachRow(image, [&](const QRgb* row) {
        for (int x = 0; x < image.width(); ++x)
            out.values.push_back(static_cast<std::uint8_t>(qAlpha(row[x])));
    });
    return out;
}

void readResolution(const base::Bytes& file, bool isSideways, DecodedPicture& out) {
    const auto stated = statedResolution(file);
    if (!stated)
        return;
    if (!isBelievable(stated->dpiX) || !isBelievable(stated->dpiY)) {
        out.hadAbsurdDpi = true;
        return;
    }
    out.dpiX = isSideways ? stated->dpiY : stated->dpiX;
    out.dpiY = isSideways ? stated->dpiX : stated->dpiY;
}

/// The resolution the codec found; one that equals a fresh picture's was not stated.
void takeResolution(const QImage& image, DecodedPicture& out) {
    const QImage fresh(1, 1, QImage::Format_RGB32);
    if (image.dotsPerMeterX() == fresh.dotsPerMeterX() && image.dotsPerMeterY() == fresh.dotsPerMeterY())
        return;
    const double x = image.dotsPerMeterX() * 0.0254, y = image.dotsPerMeterY() * 0.0254;
    if (!isBelievable(x) || !isBelievable(y)) {
        out.hadAbsurdDpi = true;
        return;
    }
    out.dpiX = x;
    out.dpiY = y;
}

/// The kinds of pictures that are read, by the codec's name.
struct Kind {
    const char* format;
    const char* mediaType;
    bool hasOwnReader =
        false; ///< statedResolution knows it: more exact than the codec, which counts in whole metres
};
constexpr Kind kKinds[] = {{"png", "image/png", true},  {"jpeg", "image/jpeg", true},
                           {"jpg", "image/jpeg", true}, {"webp", "image/webp"},
                           {"tiff", "image/tiff"},      {"gif", "image/gif"},
                           {"bmp", "image/bmp"}};

/// Says that the pixels of a picture would take more memory than those of the largest one with four bytes each. A codec
/// that has read no header may give any number for the format.
std::optional<Error> tooManyBits(const QImageReader& reader, std::int64_t pixels, std::int64_t mostPixels) {
    constexpr std::int64_t kUsualBits = 32;
    const QImage::Format format = reader.imageFormat();
    if (format <= QImage::Format_Invalid || format >= QImage::NImageFormats)
        return {};
    const std::int64_t bits = QImage::toPixelFormat(format).bitsPerPixel();
    if (bits <= kUsualBits || pixels * bits <= mostPixels * kUsualBits)
        return {};
    return Error{Code::LimitExceeded,
                 "The picture keeps " + std::to_string(bits) +
                     " bits for each of its pixels, which is more than cutting can use; save it with "
                     "8 bits a colour, or make it smaller."};
}

/// Takes the pHYs chunk out of a PNG: the codec always writes one.
void dropResolution(base::Bytes& png) {
    constexpr std::uint8_t kName[] = {'p', 'H', 'Y', 's'};
    const auto name = std::search(png.begin(), png.end(), std::begin(kName), std::end(kName));
    if (name != png.end())
        png.erase(name - 4, name + 4 + 9 + 4); // length before, nine bytes and a checksum behind
}

} // namespace

base::Result<DecodedPicture> decode(const base::Bytes& file, std::int64_t mostPixels, Ground ground) {
    if (file.empty())
        return Error{Code::ParseError, "The file is empty; choose a PNG or JPEG picture."};
    if (looksLikeHeic(file)) {
        auto picture = decodeHeic(file, mostPixels);
        if (!picture)
            return picture.error();
        return DecodedPicture{picture.take(), {}, {}, false, "image/heic", false};
    }
    QByteArray bytes = QByteArray::fromRawData(reinterpret_cast<const char*>(file.data()),
                                               static_cast<qsizetype>(file.size()));
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::ReadOnly);
    QImageReader reader(&buffer);
    reader.setDecideFormatFromContent(true);
    reader.setAutoTransform(true);
    const QByteArray format = reader.format();
    if (format.isEmpty())
        return Error{Code::ParseError,
                     "The file is not a picture this program knows; choose a PNG or JPEG picture."};
    const auto kind =
        std::find_if(std::begin(kKinds), std::end(kKinds), [&](const Kind& k) { return format == k.format; });
    if (kind == std::end(kKinds))
        return Error{Code::Unsupported, "This is a " + format.toUpper().toStdString() +
                                            " picture; save it as PNG or JPEG first."};
    if (!isWhole(file))
        return Error{Code::ParseError,
                     "The picture breaks off: its file ends before the picture does. Fetch it anew, "
                     "or open it elsewhere and save it anew."};
    if (hasUnsaidInks(file))
        return Error{Code::Unsupported,
                     "This JPEG picture is in four printing colours and does not say how they are "
                     "meant; save it in RGB colours, or as PNG."};
    const QSize size = reader.size();
    if (size.isValid()) {
        const std::int64_t pixels = std::int64_t{size.width()} * size.height();
        if (auto tooMany = tooManyPixels(pixels, mostPixels))
            return *tooMany;
        if (auto tooDeep = tooManyBits(reader, pixels, mostPixels))
            return *tooDeep;
    }
    constexpr std::int64_t kBytesAPixel = 10; // four, once more for a picture that is turned, and room
    reader.setAllocationLimit(static_cast<int>(1 + mostPixels * kBytesAPixel / 1'000'000));
    const bool isSideways = (reader.transformation() & QImageIOHandler::TransformationRotate90) != 0;
    QImage image;
    if (!reader.read(&image) || image.isNull())
        return Error{Code::ParseError, "The picture is broken (" + reader.errorString().toStdString() +
                                           "); open it elsewhere and save it anew."};
    if (auto tooMany =
            tooManyPixels(std::int64_t{image.width()} * image.height(), mostPixels)) // a GIF of larger frames
        return *tooMany;
    DecodedPicture out;
    out.mediaType = kind->mediaType;
    if (kind->hasOwnReader)
        readResolution(file, isSideways, out);
    else
        takeResolution(image, out);
    out.picture = flattened(image, ground, out.wasClear);
    if (out.wasClear && ground == Ground::White)
        out.cover = coverOf(image);
    return out;
}

base::Bytes srgbProfile() {
    const QByteArray bytes = QColorSpace(QColorSpace::SRgb).iccProfile();
    return {bytes.begin(), bytes.end()};
}

base::Bytes encodePng(const raster::Picture& picture, double dpi, bool statesSrgb) {
    QImage image(picture.rgb.data(), picture.width, picture.height, static_cast<qsizetype>(picture.width) * 3,
                 QImage::Format_RGB888);
    const int dotsPerMetre = static_cast<int>(std::lround(dpi / 0.0254));
    image.setDotsPerMeterX(dotsPerMetre);
    image.setDotsPerMeterY(dotsPerMetre);
    if (statesSrgb)
        image.setColorSpace(QColorSpace::SRgb);
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QImageWriter writer(&buffer, "png");
    writer.write(image);
    base::Bytes file(bytes.begin(), bytes.end());
    if (dotsPerMetre <= 0)
        dropResolution(file);
    return file;
}

} // namespace thinline::formats::image
