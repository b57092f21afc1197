// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Stickers.h"

#include "geometry/Measures.h"
#include "job/PrintSteps.h"
#include "job/SourceSteps.h"
#include "job/StockSteps.h"
#include "support/Fonts.h"
#include "support/Jobs.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>
#include <gtest/gtest.h>

#include <numbers>

namespace thinline::job {
namespace {

/// Files are drawn and written by Qt.
base::Bytes pngOf(const QImage& image) {
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "png");
    return {png.begin(), png.end()};
}
/// Discs of 80 px across, at these places of a picture of 400 x 200 px.
base::Bytes discs(const std::vector<QPointF>& at, const QColor& ground) {
    QImage image(400, 200, QImage::Format_ARGB32);
    image.fill(ground);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(40, 110, 160));
    for (const QPointF& p : at)
        painter.drawEllipse(p, 40, 40);
    painter.end();
    return pngOf(image);
}
/// A job with a picture at 4 px a mm: 100 x 50 mm.
State withPictureOf(const base::Bytes& file) {
    const State empty = support::emptyState();
    auto came = support::must(withPicture(empty, {file, "gull.png", recognise(file)}));
    return support::made(support::must(withSourceWidth(came.job, came.source, 100)), empty.made);
}
State stickerOf(const State& state, const StickerWish& how) {
    const auto noted = withSticker(state, state.job.sources.back()->id, how, support::shippedFonts());
    if (!noted)
        throw std::runtime_error(noted.error().message);
    return support::made(noted->job, state.made);
}
const support::MemoryFontStore kFonts = support::shippedFonts();

// By hand: a disc of 20 mm across with a rim of 2 mm is one of 24 mm.
TEST(Stickers, AreCutAtTheirRimAndPrintedWhereThePictureLies) {
    const State before = withPictureOf(discs({{150, 100}}, Qt::transparent));
    const geometry::Transform map = before.job.sources.back()->map();
    const State state = stickerOf(before, {2, {}, true});
    ASSERT_EQ(state.job.sources.size(), 1u) << "the picture itself is not there any more";
    ASSERT_EQ(state.made.work()->pieces.size(), 1u);
    const design::Laid& sticker = state.made.work()->pieces[0];
    const geometry::Box box = geometry::bounds(sticker.shape());
    EXPECT_NEAR(box.width(), 24, 0.05);
    EXPECT_NEAR(geometry::area(sticker.shape()), std::numbers::pi * 12 * 12, 0.5);
    EXPECT_LT(geometry::distance(box.centre(), map({150, 100})), 0.05) << "it lies where the picture lay";
    ASSERT_EQ(sticker.piece.body->faces.size(), 1u);
    const design::Face& face = sticker.piece.body->faces[0];
    EXPECT_LT(geometry::distance(face.place({0, 0}), map({0, 0})), 1e-6);
    EXPECT_LT(geometry::distance(face.place({1, 1}), map({400, 200})), 1e-6);
    // On sticker paper, which lies on a carrier and is printed; this one comes off with it.
    const design::Stock* stock = stockOf(state, sticker.id());
    ASSERT_TRUE(stock);
    EXPECT_EQ(stock->name, "sticker paper");
    EXPECT_TRUE(state.job.print.stocks.contains(stock->id));
    EXPECT_TRUE(design::goesThroughCarrier(*state.made.work(), sticker));
    // A second one takes the same paper.
    const State both = stickerOf(
        [&] {
            const base::Bytes file = discs({{100, 100}}, Qt::transparent);
            auto came = support::must(withPicture(state, {file, "second.png", recognise(file)}));
            return support::made(came.job, state.made);
        }(),
        {1, {}, false});
    EXPECT_EQ(both.job.stocks.size(), state.job.stocks.size());
    EXPECT_EQ(both.made.work()->pieces.size(), 2u);
}

TEST(Stickers, WhatIsFarApartIsAStickerOfItsOwn) {
    // 60 mm apart; 1 mm apart, which rims of 2 mm close.
    const State far =
        stickerOf(withPictureOf(discs({{60, 100}, {340, 100}}, Qt::transparent)), {2, {}, false});
    ASSERT_EQ(far.made.work()->pieces.size(), 2u);
    for (const design::Laid& laid : far.made.work()->pieces) {
        EXPECT_NEAR(geometry::bounds(laid.shape()).width(), 24, 0.05);
        ASSERT_EQ(laid.piece.body->faces.size(), 1u);
    }
    const State near =
        stickerOf(withPictureOf(discs({{150, 100}, {234, 100}}, Qt::transparent)), {2, {}, false});
    ASSERT_EQ(near.made.work()->pieces.size(), 1u);
    EXPECT_NEAR(geometry::bounds(near.made.work()->pieces[0].shape()).width(), 24 + 21, 0.05);
}

TEST(Stickers, AnEvenGroundIsNoPartOfThem) {
    const State state = stickerOf(withPictureOf(discs({{150, 100}}, QColor(250, 248, 240))), {0, {}, false});
    ASSERT_EQ(state.made.work()->pieces.size(), 1u);
    EXPECT_NEAR(geometry::bounds(state.made.work()->pieces[0].shape()).width(), 20, 0.3) << "to the pixel";
}

TEST(Stickers, AreAsWideAsIsAsked) {
    const State before = withPictureOf(discs({{150, 100}}, Qt::transparent));
    Source source = *before.job.sources.back();
    source.unitMm = support::must(unitForSticker(*asA<Picture>(&source), 50, 3));
    const State state = stickerOf(support::made(withSource(before.job, source), before.made), {3, {}, false});
    EXPECT_NEAR(geometry::bounds(state.made.work()->pieces[0].shape()).width(), 50, 0.05);
    EXPECT_FALSE(unitForSticker(*asA<Picture>(&source), 6, 3));
}

TEST(Stickers, WhatCannotBeCutOutIsSaid) {
    const auto saidOf = [](const QImage& image, const StickerWish& how = {}) {
        const State state = withPictureOf(pngOf(image));
        const auto out = withSticker(state, state.job.sources.back()->id, how, kFonts);
        return out ? std::string() : out.error().message;
    };
    QImage whole(60, 40, QImage::Format_RGB32), clear(60, 40, QImage::Format_ARGB32);
    whole.fill(Qt::red);
    clear.fill(Qt::transparent);
    QImage uneven(64, 64, QImage::Format_RGB32);
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x)
            uneven.setPixelColor(x, y, QColor(4 * x, 4 * y, 255 - 4 * x));
    EXPECT_NE(saidOf(whole).find("shows nothing"), std::string::npos) << saidOf(whole);
    EXPECT_NE(saidOf(clear).find("shows nothing"), std::string::npos) << saidOf(clear);
    EXPECT_NE(saidOf(uneven).find("no even colour"), std::string::npos) << saidOf(uneven);
    EXPECT_NE(saidOf(whole, {-1, {}, false}).find("0 to 50 mm"), std::string::npos);
    const State word = support::withWord(support::emptyState(), support::word("QUAY"));
    EXPECT_FALSE(withSticker(word, word.job.sources.back()->id, {}, kFonts));
    const State disc = withPictureOf(discs({{150, 100}}, Qt::transparent));
    EXPECT_FALSE(withSticker(disc, disc.job.sources.back()->id, {2, "gold", false}, kFonts));
}

} // namespace
} // namespace thinline::job
