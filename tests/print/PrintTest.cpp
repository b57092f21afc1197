// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Carry.h"
#include "geometry/Placing.h"
#include "print/Codes.h"
#include "print/Page.h"
#include "print/Paint.h"
#include "print/Place.h"
#include "print/Steps.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <ZXing/BarcodeFormat.h>
#include <ZXing/DecodeHints.h>
#include <ZXing/ReadBarcode.h>
#include <ZXing/TextUtfEncoding.h>
#include <numbers>

namespace thinline::print {
namespace {

using design::Face;
using geometry::Box;
using geometry::Point;
using geometry::Transform;

raster::Rgb pixelAt(const raster::Canvas& canvas, int x, int y) {
    const std::uint32_t p =
        canvas
            .pixels()[static_cast<size_t>(y) * static_cast<size_t>(canvas.width()) + static_cast<size_t>(x)];
    return {static_cast<std::uint8_t>(p >> 16), static_cast<std::uint8_t>(p >> 8),
            static_cast<std::uint8_t>(p)};
}

/// A picture whose colour tells the place: red across, green down.
std::shared_ptr<const raster::Picture> placesPicture(int width, int height) {
    raster::Picture out{width, height, {}};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (const int value : {255 * x / (width - 1), 255 * y / (height - 1), 60})
                out.rgb.push_back(static_cast<std::uint8_t>(value));
    return std::make_shared<const raster::Picture>(std::move(out));
}

Face pictureFace(const Transform& place) {
    Face face;
    face.kind = Face::Kind::Picture;
    face.shows = "art-1";
    face.place = place;
    return face;
}

// ---- codes, read back by a library that has nothing to do with the ones that make them

std::string readBack(const Code& code, double widthMm, ZXing::BarcodeFormats formats) {
    constexpr double kPxPerMm = 12;
    const int width = static_cast<int>(widthMm * kPxPerMm),
              height = static_cast<int>(widthMm / code.aspect * kPxPerMm);
    raster::Canvas canvas(width, height, {255, 255, 255});
    geometry::Polygons rings = code.dark;
    for (auto& ring : rings)
        for (Point& p : ring)
            p = {p.x * width, p.y * height};
    canvas.fill(rings, {20, 30, 60});
    const raster::Picture picture = canvas.picture();
    const auto read =
        ZXing::ReadBarcode({picture.rgb.data(), picture.width, picture.height, ZXing::ImageFormat::RGB},
                           ZXing::DecodeHints().setFormats(formats));
    return read.isValid() ? ZXing::TextUtfEncoding::ToUtf8(read.text()) : "";
}

TEST(Codes, AnIndependentReaderReadsWhatTheySay) {
    for (const std::string text :
         {"Gull Point open day", "https://example.org/tides?day=12", "1234567890", "Möwe am Kai"}) {
        const auto code = codeOf(Face::Kind::SquareCode, text);
        ASSERT_TRUE(code) << code.error().message;
        EXPECT_EQ(readBack(*code, 25, ZXing::BarcodeFormat::QRCode), text);
    }
    for (const std::string text : {"TIDE-0042", "Berth 7"}) {
        const auto code = codeOf(Face::Kind::LineCode, text);
        ASSERT_TRUE(code) << code.error().message;
        EXPECT_EQ(readBack(*code, 50, ZXing::BarcodeFormat::Code128), text);
    }
    EXPECT_FALSE(codeOf(Face::Kind::SquareCode, ""));
    const auto tooLong = codeOf(Face::Kind::SquareCode, std::string(401, 'x'));
    ASSERT_FALSE(tooLong);
    EXPECT_NE(tooLong.error().message.find("400"), std::string::npos);
    EXPECT_FALSE(codeOf(Face::Kind::LineCode, "Möwe")) << "no signs beyond ASCII";
    EXPECT_FALSE(codeOf(Face::Kind::LineCode, std::string(61, 'x')));
}

// ---- painting

TEST(Paint, APictureLiesWhereItsPlaceSaysAndGoesOnBeyondTheCut) {
    design::Body body{support::rectangle(10, 10, 40, 20)};
    // 60 x 30 mm, larger than the piece all round by 10 and 5 mm.
    body.faces.push_back(pictureFace({60, 0, 0, 30, 0, 5}));
    const Gallery gallery{{"art-1", {placesPicture(600, 300), {}, 2}}};
    raster::Canvas page(600, 400, {255, 255, 255});
    const auto painted = paint(page, body, {{}, design::Side::Front, 2, 10}, gallery);
    ASSERT_TRUE(painted) << painted.error().message;
    EXPECT_EQ(painted->extended, 0) << "its own pixels reach beyond the bleed";
    for (const auto& [x, y] : {std::pair{150, 150}, {300, 200}, {450, 280}, {85, 200}, {515, 200}}) {
        const raster::Rgb c = pixelAt(page, x, y);
        EXPECT_NEAR(c[0], 255.0 * x / 600, 2) << x << "," << y;
        EXPECT_NEAR(c[1], 255.0 * (y - 50) / 300, 2) << x << "," << y;
    }
    EXPECT_EQ(pixelAt(page, 78, 200), (raster::Rgb{255, 255, 255})) << "2 mm of bleed end there";
    EXPECT_EQ(pixelAt(page, 522, 200), (raster::Rgb{255, 255, 255}));
}

// Left hidden, in the middle half seen through, on the right clear; kept as it was laid on white.
TEST(Paint, TransparentPartsShowWhatLiesBelow) {
    constexpr int kWide = 120, kHigh = 40;
    raster::Picture onWhite{kWide, kHigh, {}};
    raster::Grey cover{kWide, kHigh, {}};
    for (int y = 0; y < kHigh; ++y)
        for (int x = 0; x < kWide; ++x) {
            const int alpha = x < 40 ? 255 : x < 80 ? 128 : 0;
            cover.values.push_back(static_cast<std::uint8_t>(alpha));
            for (const int value : {200, 30, 40})
                onWhite.rgb.push_back(static_cast<std::uint8_t>((value * alpha + 255 * (255 - alpha)) / 255));
        }
    for (const double pxPerMm : {10.0, 2.0}) { // its own pixels, and averaged
        Gallery gallery{{"art-1",
                         {std::make_shared<const raster::Picture>(onWhite),
                          {},
                          3,
                          std::make_shared<const raster::Grey>(cover)}}};
        for (const bool hasGround : {true, false}) {
            design::Body body{support::rectangle(0, 0, 12, 4)};
            if (hasGround) {
                Face ground;
                ground.colour = {20, 60, 220};
                body.faces.push_back(ground);
            }
            body.faces.push_back(pictureFace({12, 0, 0, 4, 0, 0}));
            const int wide = static_cast<int>(12 * pxPerMm), high = static_cast<int>(4 * pxPerMm);
            raster::Canvas page(wide, high, {255, 255, 255});
            raster::Grey mask{wide, high, std::vector<std::uint8_t>(static_cast<size_t>(wide * high), 0)};
            ASSERT_TRUE(paint(page, body, {{}, design::Side::Front, 0, pxPerMm}, gallery, {}, &mask));
            const auto expect = [&](double atMm, raster::Rgb colour, bool isPainted) {
                const int x = static_cast<int>(atMm * pxPerMm), y = static_cast<int>(2 * pxPerMm);
                const raster::Rgb seen = pixelAt(page, x, y);
                for (size_t c = 0; c < 3; ++c)
                    EXPECT_NEAR(seen[c], colour[c], 2) << atMm << " mm, " << pxPerMm << ", channel " << c;
                EXPECT_EQ(mask.at(x, y) > 0, isPainted) << atMm;
            };
            expect(2, {200, 30, 40}, true);
            expect(6, hasGround ? raster::Rgb{110, 45, 130} : raster::Rgb{227, 142, 147}, true);
            expect(10, hasGround ? raster::Rgb{20, 60, 220} : raster::Rgb{255, 255, 255}, hasGround);
        }
    }
}

TEST(Paint, WhereAPictureEndsAtTheCutTheBleedIsItsMirroredEdge) {
    design::Body body{support::rectangle(10, 10, 40, 20)};
    body.faces.push_back(pictureFace({40, 0, 0, 20, 10, 10})); // exactly as large as the piece
    const Gallery gallery{{"art-1", {placesPicture(400, 200), {}, 2}}};
    raster::Canvas page(600, 400, {255, 255, 255});
    const auto painted = paint(page, body, {{}, design::Side::Front, 2, 10}, gallery);
    ASSERT_TRUE(painted);
    EXPECT_GT(painted->extended, 9000);
    for (int away = 2; away < 18; away += 3) {
        const raster::Rgb inside = pixelAt(page, 100 + away, 200), outside = pixelAt(page, 99 - away, 200);
        EXPECT_NEAR(inside[0], outside[0], 2) << away << " px from the cut";
        EXPECT_NEAR(inside[1], outside[1], 2);
    }
    // Never scaled: within the piece every pixel is the picture's own.
    for (int x = 105; x < 500; x += 50)
        EXPECT_NEAR(pixelAt(page, x, 150)[0], 255.0 * (x - 100) / 400, 2);
}

TEST(Paint, OpeningsBleedInwardsAndASmallPictureDoesNot) {
    design::Body body{
        support::withOpening(support::rectangle(0, 0, 40, 40), support::rectangle(15, 15, 10, 10))};
    Face colour;
    colour.colour = {200, 30, 40};
    body.faces.push_back(colour);
    raster::Canvas page(480, 480, {255, 255, 255});
    const Transform in = Transform::move({4, 4});
    ASSERT_TRUE(paint(page, body, {in, design::Side::Front, 2, 10}, {}));
    EXPECT_EQ(pixelAt(page, 195, 240), colour.colour) << "half a millimetre into the opening";
    EXPECT_EQ(pixelAt(page, 208, 240), colour.colour);
    EXPECT_EQ(pixelAt(page, 240, 240), (raster::Rgb{255, 255, 255})) << "its middle stays";
    EXPECT_EQ(pixelAt(page, 22, 240), colour.colour) << "and outwards";

    // A picture that ends within the piece is not drawn out to the cut.
    body.faces = {pictureFace({8, 0, 0, 8, 3, 3})};
    raster::Canvas other(480, 480, {255, 255, 255});
    const auto painted =
        paint(other, body, {in, design::Side::Front, 2, 10}, {{"art-1", {placesPicture(80, 80), {}, 1}}});
    ASSERT_TRUE(painted);
    EXPECT_EQ(painted->extended, 0);
    EXPECT_EQ(pixelAt(other, 45, 100), (raster::Rgb{255, 255, 255}));
}

TEST(Paint, FacesLieInTheirOrderAndOnTheirSideAndPanel) {
    design::Body body{support::rectangle(0, 0, 40, 20)};
    body.lines.push_back(
        {design::LineId{1}, {{20, 0}, {geometry::Segment::line({20, 20})}}, design::Fold{}, true, true});
    Face red, green, back;
    red.colour = {255, 0, 0};
    green.colour = {0, 255, 0};
    green.panel = Point{30, 10};
    back.colour = {0, 0, 255};
    back.side = design::Side::Back;
    body.faces = {red, green, back};
    raster::Canvas front(400, 200, {255, 255, 255}), rear(400, 200, {255, 255, 255});
    ASSERT_TRUE(paint(front, body, {{}, design::Side::Front, 0, 10}, {}));
    EXPECT_EQ(pixelAt(front, 100, 100), red.colour);
    EXPECT_EQ(pixelAt(front, 300, 100), green.colour) << "over the red one, on its panel alone";
    EXPECT_EQ(pixelAt(front, 205, 100), green.colour);
    EXPECT_EQ(pixelAt(front, 195, 100), red.colour);
    ASSERT_TRUE(paint(rear, body, {{-1, 0, 0, 1, 40, 0}, design::Side::Back, 0, 10}, {}));
    EXPECT_EQ(pixelAt(rear, 200, 100), back.colour);
    const auto missing = paint(rear, design::Body{body.shape, {}, {pictureFace({1, 0, 0, 1, 0, 0})}}, {}, {});
    ASSERT_FALSE(missing);
    EXPECT_EQ(missing.error().code, base::Code::NotFound);
}

TEST(Paint, APictureFinerThanThePageIsAveraged) {
    // Stripes one pixel wide come out grey, not striped.
    raster::Picture stripes{800, 800, {}};
    for (int y = 0; y < 800; ++y)
        for (int x = 0; x < 800; ++x)
            for (int c = 0; c < 3; ++c)
                stripes.rgb.push_back(x % 2 ? 255 : 0);
    design::Body body{support::rectangle(0, 0, 20, 20)};
    body.faces = {pictureFace({20, 0, 0, 20, 0, 0})};
    raster::Canvas page(200, 200, {255, 255, 255});
    ASSERT_TRUE(paint(page, body, {{}, design::Side::Front, 0, 10},
                      {{"art-1", {std::make_shared<const raster::Picture>(std::move(stripes)), {}, 1}}}));
    for (int x = 5; x < 195; x += 7)
        EXPECT_NEAR(pixelAt(page, x, 100)[0], 128, 2);
}

// ---- places

TEST(Place, APictureFillsABoxWithItsSubjectAsNearTheMiddleAsItStaysFilled) {
    const Box box{{10, 20}, {70, 60}}; // 60 x 40
    for (const double turn : {0.0, 0.4, std::numbers::pi / 2})
        for (const Point subject : {Point{0.5, 0.5}, Point{0.1, 0.9}, Point{0.6, 0.4}})
            for (const double aspect : {0.5, 1.5, 3.0}) {
                const Transform place = covering(box, aspect, subject, turn), back = geometry::inverse(place);
                EXPECT_NEAR(std::hypot(place.a, place.b) / std::hypot(place.c, place.d), aspect, 1e-9)
                    << "never stretched";
                for (const Point corner :
                     {box.least, Point{box.most.x, box.least.y}, box.most, Point{box.least.x, box.most.y}}) {
                    const Point in = back(corner);
                    EXPECT_GT(std::min({in.x, in.y, 1 - in.x, 1 - in.y}), -1e-9);
                }
            }
    const Transform middle = covering(box, 3, {0.52, 0.5}); // wide: room to put the subject in the middle
    EXPECT_LT(geometry::distance(middle({0.52, 0.5}), box.centre()), 1e-9);
    const Transform whole = within(box, 3);
    EXPECT_LT(whole.a, box.width());
    EXPECT_LT(geometry::distance(whole({0.5, 0.5}), box.centre()), 1e-9);
    const Transform moved = shifted(whole, {{3, -2}, 2, std::numbers::pi / 2});
    EXPECT_NEAR(widthOf(moved), 2 * widthOf(whole), 1e-9);
    EXPECT_NEAR(turnOf(moved), std::numbers::pi / 2, 1e-9);
    EXPECT_LT(geometry::distance(moved({0.5, 0.5}), box.centre() + Point{3, -2}), 1e-9);
}

// ---- steps

design::Pieces plates() {
    design::Pieces out;
    out.now.push_back({support::id(1), support::body(support::rectangle(0, 0, 40, 20)), "plate"});
    out.now.push_back({support::id(2), support::body(support::rectangle(5, 5, 10, 10)), "badge"});
    return out;
}

TEST(Steps, AFaceGoesWithItsPieceAndComesBackWhereItWas) {
    design::Pieces pieces = plates();
    Face face = pictureFace({20, 5, -4, 16, 3, 2});
    design::Step step = printStep({pieces.now[0]}, face);
    step.id = design::StepId{7};
    auto done = apply(pieces, step);
    ASSERT_TRUE(done) << done.error().message;
    ASSERT_EQ(done->pieces.now[0].body->faces.size(), 1u);
    face.step = 7;
    EXPECT_EQ(done->pieces.now[0].body->faces[0], face);
    EXPECT_EQ(faceOf(step, pieces), face);

    // Moved, turned, mirrored: the same step lays it where the piece is now.
    const Transform map = Transform{0, 2, 2, 0, 30, 4};
    pieces.now[0].placed = map;
    pieces.now[0].body = std::make_shared<const design::Body>(design::mapped(*pieces.now[0].body, map));
    done = apply(pieces, step);
    ASSERT_TRUE(done);
    EXPECT_EQ(done->pieces.now[0].body->faces[0], design::mapped(face, map));
}

TEST(Steps, TextStaysReadableOnAPieceThatWasMirroredBeforeItWasPrinted) {
    design::Pieces pieces = plates();
    const Transform mirror = geometry::mirrorAbout({20, 0}, geometry::Axis::Vertical);
    pieces.now[0].placed = mirror;
    Face text;
    text.kind = Face::Kind::Text;
    text.shows = "art-2";
    text.place = {20, 0, 0, 5, 4, 6};
    const auto done = apply(pieces, printStep({pieces.now[0]}, text));
    ASSERT_TRUE(done);
    const Face& laid = done->pieces.now[0].body->faces[0];
    EXPECT_NEAR(laid.place.a, 20, 1e-9) << "as it was said, not mirrored";
    EXPECT_NEAR(laid.place.e, 4, 1e-9);
}

TEST(Steps, AnOutlineIsPrintedWhereItsPieceLiesAndThePrintComesOff) {
    const design::Pieces pieces = plates();
    Face face;
    face.kind = Face::Kind::Outline;
    face.colour = {10, 20, 200};
    auto done = apply(pieces, printStep({pieces.now[0]}, face, support::id(2)));
    ASSERT_TRUE(done) << done.error().message;
    EXPECT_TRUE(done->pieces.now[1].body->faces.empty()) << "the other piece stays as it is";
    raster::Canvas page(400, 200, {255, 255, 255});
    ASSERT_TRUE(paint(page, *done->pieces.now[0].body, {{}, design::Side::Front, 0, 10}, {}));
    EXPECT_EQ(pixelAt(page, 100, 100), face.colour);
    EXPECT_EQ(pixelAt(page, 200, 100), (raster::Rgb{255, 255, 255}));
    done = apply(done->pieces, takeOffStep({support::id(1)}, design::Side::Front));
    ASSERT_TRUE(done);
    EXPECT_TRUE(done->pieces.now[0].body->faces.empty());
    EXPECT_FALSE(apply(done->pieces, takeOffStep({support::id(1)}, design::Side::Front)))
        << "nothing is left";
}

TEST(Steps, WhatIsMissingIsSaid) {
    const design::Pieces pieces = plates();
    design::Step step = printStep({pieces.now[0]}, pictureFace({10, 0, 0, 5, 0, 0}));
    step.values.erase("down");
    EXPECT_FALSE(apply(pieces, step));
    step = printStep({pieces.now[0]}, pictureFace({0, 0, 0, 0, 0, 0}));
    EXPECT_FALSE(apply(pieces, step)) << "without width";
    Face nothing;
    nothing.kind = Face::Kind::Text;
    nothing.place = {10, 0, 0, 5, 0, 0};
    EXPECT_FALSE(apply(pieces, printStep({pieces.now[0]}, nothing)));
    EXPECT_FALSE(apply({}, printStep({pieces.now[0]}, pictureFace({10, 0, 0, 5, 0, 0}))));
}

// ---- pages

// Common practice: designs made for letter stay within about 6.5 to 6.75 in by 8.75 to 9.25 in.
TEST(Page, MarksLeaveRoomAndTheirOwnClearSpace) {
    const PageLayout letter = layoutOf(215.9, 279.4, 6.35, true);
    const double kInch = 25.4;
    EXPECT_GT(letter.area.width(), 6.5 * kInch);
    EXPECT_LT(letter.area.width(), 7.0 * kInch);
    EXPECT_GT(letter.area.height(), 8.75 * kInch);
    const Box paper = Box{{0, 0}, {215.9, 279.4}}.grownBy(-6.35);
    for (const auto& ring : marksOn(letter, {7, true}))
        for (const Point p : ring) {
            EXPECT_TRUE(paper.contains(p)) << "the printer reaches it";
            EXPECT_FALSE(letter.area.contains(p));
        }
    for (const auto& ring : rulerOn(letter))
        for (const Point p : ring)
            EXPECT_FALSE(letter.area.contains(p));
    EXPECT_DOUBLE_EQ(letter.ruler.width(), 50);
    EXPECT_LT(letter.cells[3].most.x, letter.marks[1].x - 5) << "the number stays clear of the next mark";
    const PageLayout photo = layoutOf(101.6, 152.4, 3, true);
    EXPECT_LT(photo.cells[3].most.x, photo.marks[1].x - 5);
    EXPECT_LT(photo.ruler.most.x, photo.marks[2].x - 5);
    EXPECT_EQ(marksOn(letter, {0, false}).size(), 4u * 3 + 1);
    EXPECT_EQ(marksOn(letter, {5, true}).size(), 4u * 3 + 1 + 3);
    EXPECT_FALSE(layoutOf(215.9, 279.4, 5, false).hasMarks());
}

} // namespace
} // namespace thinline::print
