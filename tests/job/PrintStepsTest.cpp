// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/PrintSteps.h"

#include "formats/image/ImageFile.h"
#include "job/PrintLooks.h"
#include "job/PrintPages.h"
#include "job/Registering.h"
#include "job/Sizing.h"
#include "job/StockSteps.h"
#include "print/Place.h"
#include "sheets/Faults.h"
#include "support/Fonts.h"
#include "support/Jobs.h"

#include <QBuffer>
#include <QImage>
#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using geometry::Point;

template <class T>
T must(base::Result<T> result) {
    EXPECT_TRUE(result) << result.error().message;
    return result.take();
}
State made(base::Result<Job> job, const State& before, Stage upTo = Stage::Finish) {
    return must(make(must(std::move(job)), upTo, before.made));
}
State made(base::Result<Noted> noted, const State& before, Stage upTo = Stage::Finish) {
    return must(make(must(std::move(noted)).job, upTo, before.made));
}

base::Bytes picture(int width, int height) {
    raster::Canvas canvas(width, height, {90, 140, 200});
    const double w = width, h = height;
    canvas.fill({{{0.6 * w, 0.2 * h}, {0.8 * w, 0.2 * h}, {0.8 * w, 0.4 * h}, {0.6 * w, 0.4 * h}}},
                {250, 210, 90});
    return formats::image::encodePng(canvas.picture());
}

/// Two white cards of 90 x 60 mm beside one another.
State cards() {
    const std::string drawing =
        "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='60mm' viewBox='0 0 200 60'>"
        "<path d='M0 0H90V60H0Z' fill='#ffffff'/><path d='M110 0H200V60H110Z' fill='#ffffff'/></svg>";
    const base::Bytes bytes(drawing.begin(), drawing.end());
    const Catalogue& catalogue = shippedCatalogue();
    const support::MemoryFontStore fonts = support::shippedFonts();
    return made(openDrawing(newJob(catalogue), {bytes, "cards.svg", recognise(bytes)}, catalogue, fonts), {});
}
const design::Piece& piece(const State& state, size_t i) {
    return state.made.pieces->now.at(i);
}
PrintOn on(const State& state, size_t i, design::Side side = design::Side::Front) {
    return {{piece(state, i).id}, side, {}};
}

TEST(PrintSteps, APictureFillsItsPieceAndGoesWithItHoweverTheDesignIsSized) {
    State state = cards();
    const base::Bytes file = picture(1200, 700);
    const auto noted = withPicturePrinted(state, on(state, 0), {file, "sea.png", {}});
    ASSERT_TRUE(noted) << noted.error().message;
    EXPECT_NE(noted->note.find("dpi"), std::string::npos);
    EXPECT_EQ(noted->job.print.stocks, std::set<std::string>{stockOf(state, piece(state, 0).id)->id});
    state = made(base::Result<Job>(noted->job), state);
    ASSERT_EQ(piece(state, 0).body->faces.size(), 1u);
    EXPECT_TRUE(piece(state, 1).body->faces.empty());
    const design::Face face = piece(state, 0).body->faces[0];
    const geometry::Box field = geometry::bounds(piece(state, 0).shape()).grownBy(design::kBleedMm);
    const geometry::Transform back = geometry::inverse(face.place);
    for (const Point corner : {field.least, field.most}) {
        EXPECT_GT(back(corner).x, -1e-9);
        EXPECT_LT(back(corner).x, 1 + 1e-9);
    }
    const double before = print::widthOf(face.place);
    const auto sized = withWidth(state, 300);
    ASSERT_TRUE(sized) << sized.error().message;
    const design::Face& larger = sized->state.made.pieces->now[0].body->faces[0];
    EXPECT_NEAR(print::widthOf(larger.place) / before, 1.5, 1e-6) << "it grows with its piece";
}

TEST(PrintSteps, PrintsAreMovedRaisedAndTakenOffAndOneGoesOverSeveralPieces) {
    State state = cards();
    const support::MemoryFontStore fonts = support::shippedFonts();
    const base::Bytes file = picture(900, 300);
    PrintOn both{{piece(state, 0).id, piece(state, 1).id}, design::Side::Front, {}};
    state = made(withPicturePrinted(state, both, {file, "sea.png", {}}), state);
    ASSERT_EQ(piece(state, 1).body->faces.size(), 1u);
    EXPECT_EQ(piece(state, 0).body->faces[0].place, piece(state, 1).body->faces[0].place)
        << "one print over both";
    state = made(withTextPrinted(state, on(state, 1), "Pier\n7", {"League Spartan", "ExtraBold"},
                                 {250, 250, 240}, fonts),
                 state);
    std::vector<Print> prints = printsOn(state, piece(state, 1).id, design::Side::Front);
    ASSERT_EQ(prints.size(), 2u);
    EXPECT_EQ(prints[1].text, "text Pier\n7");
    design::Face moved = prints[1].face;
    moved.place = print::shifted(moved.place, {{5, 3}, 0.5, 0.1});
    state = made(withPrintChanged(state, piece(state, 1).id, moved), state);
    const design::Face now = printsOn(state, piece(state, 1).id, design::Side::Front)[1].face;
    EXPECT_LT(geometry::distance(now.place({0, 0}), moved.place({0, 0})), 1e-9);
    EXPECT_LT(geometry::distance(now.place({1, 1}), moved.place({1, 1})), 1e-9);
    state = made(withPrintRaised(state, piece(state, 1).id, prints[1].step, false), state);
    EXPECT_EQ(printsOn(state, piece(state, 1).id, design::Side::Front)[0].face.kind,
              design::Face::Kind::Text);
    EXPECT_FALSE(withPrintRaised(state, piece(state, 1).id, prints[1].step, false)) << "it lies lowest";
    state = made(withoutPrint(state, prints[0].step), state);
    EXPECT_TRUE(piece(state, 0).body->faces.empty());
    EXPECT_EQ(piece(state, 1).body->faces.size(), 1u);
    EXPECT_FALSE(withoutPrint(state, design::StepId{99}));
}

TEST(PrintSteps, WhatIsReadFromBehindLiesMirroredAndComesOutReadable) {
    State state = cards();
    const support::MemoryFontStore fonts = support::shippedFonts();
    state = made(withTextPrinted(state, on(state, 0, design::Side::Back), "QUAY",
                                 {"League Spartan", "ExtraBold"}, {}, fonts),
                 state, Stage::Sheets);
    const design::Face& face = piece(state, 0).body->faces[0];
    EXPECT_LT(face.place.a * face.place.d - face.place.b * face.place.c, 0)
        << "bodies are seen from the front";
    const std::vector<PrintPage> pages = printPagesOf(state);
    ASSERT_FALSE(pages.empty());
    EXPECT_FALSE(pages[0].hasFront);
    EXPECT_TRUE(pages[0].hasBack);
    bool isThere = false;
    for (const OnPage& one : piecesOn(state, pages[0], true)) {
        EXPECT_EQ(one.side, design::Side::Back);
        if (one.body->faces.empty())
            continue;
        isThere = true;
        const geometry::Transform place = one.body->faces[0].place.then(one.toPage);
        EXPECT_GT(place.a * place.d - place.b * place.c, 0) << "on the back of the page it is read";
    }
    EXPECT_TRUE(isThere);
}

TEST(PrintPages, PiecesLieInsideTheMarksWithRoomForBothBleedsOnePageAMat) {
    State state = cards();
    const base::Bytes file = picture(1200, 800);
    for (const size_t i : {0u, 1u})
        state = made(withPicturePrinted(state, on(state, i), {file, "sea.png", {}}), state);
    state = must(make(state.job, Stage::Sheets, state.made));
    ASSERT_TRUE(state.made.sheets) << state.made.sheetsProblem;
    const std::vector<PrintPage> pages = printPagesOf(state);
    ASSERT_EQ(pages.size(), 1u);
    EXPECT_DOUBLE_EQ(pages[0].layout.widthMm, 210) << "A4, as the job is in millimetres: ISO 216";
    const std::vector<OnPage> laid = piecesOn(state, pages[0], false);
    ASSERT_EQ(laid.size(), 2u);
    std::vector<geometry::Box> boxes;
    for (const OnPage& one : laid) {
        boxes.push_back(geometry::bounds(geometry::transformed(one.body->shape, one.toPage)));
        const geometry::Box area = pages[0].layout.area.grownBy(-design::kBleedMm + 1e-6);
        EXPECT_TRUE(area.contains(boxes.back().least) && area.contains(boxes.back().most));
    }
    EXPECT_FALSE(boxes[0].grownBy(design::kBleedMm).meets(boxes[1].grownBy(design::kBleedMm)))
        << "two bleeds never meet";
    state.job.plan.spacingMm = 1;
    EXPECT_GT(spacingFor(state.job, *state.job.print.stocks.begin()), 2 * design::kBleedMm) << "by hand neither";
    EXPECT_DOUBLE_EQ(spacingFor(state.job, "no such"), 1);
    const auto laidBy = arrangeOptions(state.job, shippedCatalogue().formats);
    ASSERT_TRUE(laidBy);
    EXPECT_TRUE(must(sheets::faultsOf(*state.made.work(), *state.made.sheets, *laidBy)).empty());
    for (const design::Load& load : state.made.sheets->loads)
        EXPECT_EQ(load.sheets.size(), 1u);
    // A sheet too small for marks is refused in a sentence.
    Job small = state.job;
    for (auto& [stock, sheet] : small.plan.sheetOf)
        sheet = {"own", "own size", 80, 80, 3};
    const auto refused = must(make(small, Stage::Sheets, state.made));
    EXPECT_NE(refused.made.sheetsProblem.find("no room for marks"), std::string::npos)
        << refused.made.sheetsProblem;
}

TEST(PrintPages, APageIsPaintedWhereItsPiecesAreCut) {
    State state = cards();
    state = made(withColourPrinted(state, on(state, 0), {200, 40, 50}), state, Stage::Sheets);
    const PrintPage page = printPagesOf(state).at(0);
    const auto painted = paintedPage(state, page, false, 254, {});
    ASSERT_TRUE(painted) << painted.error().message;
    EXPECT_DOUBLE_EQ(painted->pxPerMm, 10);
    for (const OnPage& one : piecesOn(state, page, false)) {
        if (one.body->faces.empty())
            continue;
        const geometry::Box cut = geometry::bounds(geometry::transformed(one.body->shape, one.toPage));
        const auto isRed = [&](Point mm) {
            const std::uint32_t pixel =
                painted->picture
                    .pixels()[static_cast<size_t>(mm.y * 10) * static_cast<size_t>(painted->picture.width()) +
                              static_cast<size_t>(mm.x * 10)];
            return (pixel & 0xffffff) == 0xc82832;
        };
        EXPECT_TRUE(isRed(cut.centre()));
        EXPECT_TRUE(isRed({cut.least.x - 1.8, cut.centre().y})) << "the bleed";
        EXPECT_FALSE(isRed({cut.least.x - 2.2, cut.centre().y}));
    }
    EXPECT_FALSE(paintedPage(state, page, false, 1200 * 10, {})) << "more pixels than a picture may have";
}

TEST(Registering, ALoadFollowsItsPageAndTheCalibrationIsTakenOff) {
    State state = cards();
    state = made(withColourPrinted(state, on(state, 0), {200, 40, 50}), state, Stage::Sheets);
    const design::CutPlan plan = must(planned(state));
    const PrintPage page = printPagesOf(state).at(0);
    const design::PlacedSheet& sheet = state.made.sheets->loads[page.load].sheets[page.sheet];
    Sighting seen;
    for (size_t i = 0; i < 4; ++i)
        seen.marks.emplace_back(i, page.layout.marks[i] + Point{sheet.xMm + 2, sheet.yMm - 1});
    seen.number = 0;
    const auto found = registeredLoad(state, plan, page.load, seen);
    ASSERT_TRUE(found) << found.error().message;
    const geometry::Line &before = plan.loads[0].passes[0].paths[0].line,
                         &after = found->load.passes[0].paths[0].line;
    EXPECT_LT(geometry::distance(after.start, before.start + Point{2, -1}), 1e-9);
    // The calibration of this machine is taken off, that of another one is not.
    registration::StandingError standing{machineOf(state.job).id, 0.3, 0.1, 0.02, 4, "2026-11-30"};
    state.job = withStandingError(state.job, standing);
    EXPECT_LT(geometry::distance(
                  must(registeredLoad(state, plan, page.load, seen)).load.passes[0].paths[0].line.start,
                  before.start + Point{1.7, -1.1}),
              1e-9);
    standing.machine = "another";
    state.job = withStandingError(state.job, standing);
    EXPECT_LT(geometry::distance(
                  must(registeredLoad(state, plan, page.load, seen)).load.passes[0].paths[0].line.start,
                  before.start + Point{2, -1}),
              1e-9);
    seen.number = 3;
    const auto other = registeredLoad(state, plan, page.load, seen);
    ASSERT_FALSE(other);
    EXPECT_NE(other.error().message.find("another page"), std::string::npos);
    EXPECT_FALSE(registeredLoad(state, plan, 7, seen));
}

// A drawing that holds pictures: they lie where an SVG viewer shows them (SVG 1.1, 5.7 and 7.8), on the pieces below.
TEST(PrintSteps, PicturesInADrawingComeInAsPrint) {
    const base::Bytes file = picture(300, 100);
    const std::string signs = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    std::string text;
    for (size_t i = 0; i < file.size(); i += 3) {
        const unsigned held = static_cast<unsigned>(file[i]) << 16 |
                              (i + 1 < file.size() ? static_cast<unsigned>(file[i + 1]) << 8 : 0u) |
                              (i + 2 < file.size() ? static_cast<unsigned>(file[i + 2]) : 0u);
        for (int k = 0; k < 4; ++k)
            text += i + static_cast<size_t>(k) > file.size() ? '=' : signs[held >> (18 - 6 * k) & 63];
    }
    const std::string image = "' xlink:href='data:image/png;base64," + text + "'/>";
    const std::string drawing =
        "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='200mm' "
        "height='60mm' viewBox='0 0 200 60'>"
        "<path d='M0 0H90V60H0Z' fill='#ffffff'/><path d='M110 0H200V60H110Z' fill='#ffffff'/>"
        "<image x='10' y='10' width='60' height='40" +
        image + "<image x='120' y='10' width='60' height='40' preserveAspectRatio='none" + image +
        "<image x='96' y='0' width='8' height='8" + image +
        "<image x='0' y='0' width='9' height='9' xlink:href='other.png'/></svg>";
    const base::Bytes bytes(drawing.begin(), drawing.end());
    const support::MemoryFontStore fonts = support::shippedFonts();
    const auto noted = openDrawing(newJob(shippedCatalogue()), {bytes, "cards.svg", recognise(bytes)},
                                   shippedCatalogue(), fonts);
    ASSERT_TRUE(noted) << noted.error().message;
    EXPECT_NE(noted->note.find("2 pictures of the drawing will be printed"), std::string::npos)
        << noted->note;
    EXPECT_NE(noted->note.find("1 picture of the drawing lie on no piece"), std::string::npos) << noted->note;
    EXPECT_NE(noted->note.find("pictures in other files"), std::string::npos) << noted->note;
    const State state = must(make(noted->job, Stage::Finish, {}));
    ASSERT_EQ(piece(state, 0).body->faces.size(), 1u);
    ASSERT_EQ(piece(state, 1).body->faces.size(), 1u);
    // 3 to 1 within 60 x 40: 60 x 20, in the middle of its box.
    const geometry::Transform whole = piece(state, 0).body->faces[0].place,
                              stretched = piece(state, 1).body->faces[0].place;
    EXPECT_LT(geometry::distance(whole({0, 0}), {10, 20}), 1e-6);
    EXPECT_LT(geometry::distance(whole({1, 1}), {70, 40}), 1e-6);
    EXPECT_LT(geometry::distance(stretched({0, 0}), {120, 10}), 1e-6);
    EXPECT_LT(geometry::distance(stretched({1, 1}), {180, 50}), 1e-6);
}

// Where a picture is transparent it is white on nothing, whatever ground it would be traced on. The file is read and written by Qt.
TEST(PrintSteps, TransparentPartsAreWhiteAndHideNothing) {
    QImage image(60, 40, QImage::Format_ARGB32);
    image.fill(Qt::transparent);
    for (int x = 0; x < 30; ++x)
        for (int y = 0; y < 40; ++y)
            image.setPixelColor(x, y, y < 20 ? Qt::white : QColor(200, 30, 40));
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "png");
    State state = cards();
    const base::Bytes file(png.begin(), png.end());
    const auto noted = withPicturePrinted(state, on(state, 0), {file, "badge.png", {}});
    ASSERT_TRUE(noted) << noted.error().message;
    EXPECT_NE(noted->note.find("transparent"), std::string::npos) << noted->note;
    state = made(base::Result<Job>(noted->job), state);
    const Decoded art = must(decodedArt(state.job, piece(state, 0).body->faces));
    const raster::Picture& shown = *art.gallery.begin()->second.picture;
    ASSERT_TRUE(art.gallery.begin()->second.cover);
    EXPECT_EQ(art.gallery.begin()->second.cover->at(10, 10), 255);
    EXPECT_EQ(art.gallery.begin()->second.cover->at(50, 10), 0);
    EXPECT_EQ((raster::Rgb{shown.row(10)[3 * 50], shown.row(10)[3 * 50 + 1], shown.row(10)[3 * 50 + 2]}),
              (raster::Rgb{255, 255, 255}));
}

TEST(PrintSteps, WhatCannotBePrintedIsSaid) {
    const State state = cards();
    const support::MemoryFontStore fonts = support::shippedFonts();
    const base::Bytes nonsense{1, 2, 3};
    const auto broken = withPicturePrinted(state, on(state, 0), {nonsense, "sea.png", {}});
    ASSERT_FALSE(broken);
    EXPECT_EQ(broken.error().message.rfind("sea.png: ", 0), 0u) << broken.error().message;
    EXPECT_FALSE(withTextPrinted(state, on(state, 0), "   ", {"League Spartan", "ExtraBold"}, {}, fonts));
    EXPECT_FALSE(withCodePrinted(state, on(state, 0), design::Face::Kind::SquareCode, std::string(500, 'x')));
    EXPECT_FALSE(withColourPrinted(state, {}, {}));
    const auto missing = withTextPrinted(state, on(state, 0), "Quay", {"No Such Face", "Bold"}, {}, fonts);
    ASSERT_TRUE(missing);
    EXPECT_FALSE(missing->note.empty()) << "another typeface is told";
    PrintPlan plan;
    plan.dpi = 10;
    EXPECT_FALSE(withPrintPlan(state.job, plan));
    plan.dpi = 300;
    plan.printerMarginMm = 90;
    EXPECT_FALSE(withPrintPlan(state.job, plan));
}

TEST(PrintLooks, AreKeptForBodiesThatStayAndShowInkOnItsPaper) {
    State state = cards();
    state = made(withColourPrinted(state, on(state, 0), {200, 100, 50}), state);
    const PrintLooks first = must(printLooks(state.job, *state.made.work(), {}));
    ASSERT_EQ(first.known.size(), 1u);
    const auto look = first.find(state.made.work()->pieces[0].piece.body.get(), design::Side::Front);
    ASSERT_TRUE(look);
    const raster::Rgb paper = first.known[0].of.paper;
    EXPECT_EQ(look->picture->rgb[0], (200 * paper[0] + 127) / 255) << "there is no white ink";
    const PrintLooks again = must(printLooks(state.job, *state.made.work(), first));
    EXPECT_EQ(again.known[0].look, first.known[0].look);
}

} // namespace
} // namespace thinline::job
