// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/Driver.h"
#include "app/bench/tools/AreaTools.h"
#include "app/stations/SheetDialog.h"
#include "app/stations/trace/TraceControls.h"
#include "formats/image/ImageFile.h"
#include "geometry/Placing.h"
#include "support/Drawings.h"
#include "support/Fonts.h"
#include "support/Photos.h"
#include "support/Shadows.h"
#include "support/Shapes.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QMouseEvent>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSlider>

#include <numbers>
#include <set>

// The Trace station, by mouse and keys.
namespace thinline::app {
namespace {

/// A red sun with a sandy middle over a sea, on white.
base::Bytes sunPng() {
    return formats::image::encodePng(support::Drawing(480, 360)
                                         .fill(support::rectangle(30.5, 220.5, 420, 110), {47, 111, 143})
                                         .fill(support::disc({240, 120}, 75), {200, 71, 43})
                                         .fill(support::disc({240, 120}, 30), {242, 234, 216})
                                         .picture());
}

// A caption is offered to be taken out, and is back with one undo.
TEST_F(WindowTest, ACaptionIsTakenOutAtAClick) {
    support::Drawing drawing(480, 360);
    drawing.fill(support::rectangle(30.5, 40.5, 420, 200), {47, 111, 143});
    const std::string words = "Gull Point 24";
    const auto letters = support::lettersOf(words, {"Lato", "Bold"});
    const auto word = lettering::setWord(*letters, {words, {"Lato", "Bold"}, lettering::SizeBy::CapHeight, 22});
    for (const lettering::WordPiece& piece : word->pieces)
        drawing.fill(geometry::transformed(piece.shape, geometry::Transform::move({120, 310})), {200, 71, 43});
    writeFile(path("caption.png"), formats::image::encodePng(drawing.picture()));
    drop({path("caption.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "120 mm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(120); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }) && waitUntilQuiet());
    const size_t before = areas();
    EXPECT_GT(before, 8u);
    const auto offered = [this]() -> QPushButton* {
        for (auto* button : m_window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text() == "Take the text out")
                return button;
        return nullptr;
    };
    ASSERT_TRUE(waitFor([&] { return offered() != nullptr; }));
    QTest::mouseClick(offered(), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }) && waitUntilQuiet());
    ASSERT_TRUE(waitFor([this] { return m_window->panel<TraceStation>()->isSettled(); }));
    EXPECT_EQ(offered(), nullptr) << "it is out";
    press(QKeySequence::Undo);
    EXPECT_EQ(areas(), before);
}

// Flat art is recognised; colours are left out and merged, laid on one another; a photo's tones; all undone.
TEST_F(WindowTest, ColoursAndTonesByMouseAndKeys) {
    writeFile(path("sun.png"), sunPng());
    drop({path("sun.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    EXPECT_EQ(picture().recipe.mode, trace::Mode::FlatArt);
    type(named<QLineEdit>("Width"), "120 mm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(120); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(areas(), 3u);
    EXPECT_EQ(work().layers.size(), 3u);

    auto* chips = m_window->findChild<PaletteChips*>("palette");
    ASSERT_NE(chips, nullptr);
    EXPECT_TRUE(chips->isVisible());
    // White, sea, red, sand by use: leave the sea out, take it in again with the space bar.
    QTest::mouseClick(chips, Qt::LeftButton, {}, chips->placeOf(1).center());
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::keyClick(chips, Qt::Key_Space);
    ASSERT_TRUE(waitFor([this] { return areas() == 3; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(chips, Qt::LeftButton, {}, chips->placeOf(0).center()); // the paper stays paper
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(areas(), 3u);
    // Drag the sand onto the red.
    QTest::mousePress(chips, Qt::LeftButton, {}, chips->placeOf(3).center());
    QTest::mouseMove(chips, chips->placeOf(2).center());
    QMouseEvent move(QEvent::MouseMove, chips->placeOf(2).center(),
                     chips->mapToGlobal(chips->placeOf(2).center()), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(chips, &move);
    QTest::mouseRelease(chips, Qt::LeftButton, {}, chips->placeOf(2).center());
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(picture().recipe.merges.size(), 1u);
    press(QKeySequence::Undo);
    EXPECT_EQ(areas(), 3u);

    // On one another: the red runs on under the sand by the tuck.
    const auto areaOf = [this](raster::Rgb colour) {
        for (const trace::Area& one : tracing().areas)
            if (raster::colourDistance(one.colour, colour) < 0.05 && laid(area(one.number)))
                return geometry::area(laid(area(one.number))->shape());
        return 0.0;
    };
    const double before = areaOf({200, 71, 43});
    turnTo(TraceStation::Page::More);
    QTest::mouseClick(named<QPushButton>("On one another"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return areaOf({200, 71, 43}) > before + 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    type(named<QLineEdit>("Tuck"), "1.5");
    const double r = 30 * 0.25; // mm
    ASSERT_TRUE(waitFor([&] {
        return std::abs(areaOf({200, 71, 43}) - before - std::numbers::pi * (r * r - (r - 1.5) * (r - 1.5))) <
               0.5;
    }));
    ASSERT_TRUE(waitUntilQuiet());

    // Wipe the sand's middle out with a box, take it back by the link.
    turnTo(TraceStation::Page::Clearing);
    QTest::mouseClick(named<QPushButton>("A box"), Qt::LeftButton);
    EXPECT_NE(dynamic_cast<BoxTool*>(view()->tool()), nullptr);
    const geometry::Transform map = ofPicture();
    const QPoint from = view()->toWidget(map({150, 30})).toPoint(),
                 to = view()->toWidget(map({330, 210})).toPoint();
    QTest::mousePress(view(), Qt::LeftButton, {}, from);
    QMouseEvent drag(QEvent::MouseMove, to, view()->mapToGlobal(to), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(view(), &drag);
    QTest::mouseRelease(view(), Qt::LeftButton, {}, to);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("A box"), Qt::LeftButton);
    EXPECT_EQ(view()->tool(), nullptr) << "here nothing is laid";
    QTest::mouseClick(named<QPushButton>("Bring back what was taken out of the picture"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 3; }));
    ASSERT_TRUE(waitUntilQuiet());

    turnTo(TraceStation::Page::Areas);
    // The differences from the picture: none worth a red mark; the answer says how many.
    QTest::mouseClick(named<QPushButton>("Differences"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] {
        for (const QLabel* label : m_window->panel<TraceStation>()->findChildren<QLabel*>("value"))
            if (label->text() == "0.00 %")
                return true;
        return false;
    }));
    EXPECT_NE(view()->scene()->picture(), nullptr);
    QTest::mouseClick(named<QPushButton>("Found"), Qt::LeftButton);
    EXPECT_EQ(view()->scene()->picture(), nullptr);

    // The same picture in tones, and back.
    QTest::mouseClick(named<QPushButton>("Photo"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return picture().recipe.mode == trace::Mode::Photo; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_NEAR(geometry::area(tracing().areas.front().shape), 480 * 360, 1) << "the lightest tone is all";
    EXPECT_FALSE(chips->isVisible());
    press(QKeySequence::Undo);
    EXPECT_EQ(picture().recipe.mode, trace::Mode::FlatArt);
    EXPECT_TRUE(chips->isVisible());
}

// A drawing that lies askew is laid level; a faint part gets a threshold of its own; a copy lends its
// colours.
TEST_F(WindowTest, ADrawingIsStraightenedAndTakesColoursFromACopy) {
    support::Drawing drawing(480, 360), copy(480, 360);
    const auto askew = geometry::turnAbout({240, 180}, 3 * std::numbers::pi / 180);
    const auto at = [&](double x, double y, double w, double h) {
        return geometry::transformed(support::rectangle(x, y, w, h), askew);
    };
    drawing.ring(at(60, 60, 160, 240), at(68, 68, 144, 224))
        .fill(at(260, 60, 160, 240), {170, 170, 170})
        .fill(at(268, 68, 144, 224), {255, 255, 255});
    copy.fill(at(60, 60, 160, 240), {47, 111, 143});
    writeFile(path("lines.png"), formats::image::encodePng(drawing.picture()));
    writeFile(path("copy.png"), formats::image::encodePng(copy.picture()));
    drop({path("lines.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "120 mm");
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Lines"), Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());

    turnTo(TraceStation::Page::Clearing);
    QTest::mouseClick(named<QPushButton>("Turn the picture so that its straight edges lie level"),
                      Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return std::abs(picture().recipe.turnDeg + 3) < 0.06; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_NEAR(named<QDoubleSpinBox>("Picture turned by")->value(), -3, 0.06);

    turnTo(TraceStation::Page::Areas);
    // The threshold of the whole loses the faint frame; its part keeps it.
    auto* slider = named<QSlider>("Ink against paper");
    slider->setFocus();
    slider->setValue(slider->value() - 7);
    ASSERT_TRUE(waitFor([this] { return picture().recipe.threshold && areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    turnTo(TraceStation::Page::More);
    QTest::mouseClick(named<QPushButton>("Look at a part by itself"), Qt::LeftButton);
    const geometry::Transform map = ofPicture();
    dragBench(map({235, 30}), map({450, 330}));
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    auto* own = named<QSlider>("Ink in that part");
    own->setFocus();
    own->setValue(140);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(picture().recipe.ownParts.at(0).threshold, 140);
    QTest::mouseClick(named<QPushButton>("Take the last part back"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return picture().recipe.ownParts.empty(); }));
    ASSERT_TRUE(waitUntilQuiet());

    answerFileDialog(path("copy.png"));
    QTest::mouseClick(
        named<QPushButton>("Open the same drawing in colour: every area takes the colour it has there"),
        Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return tracing().areas.at(0).colour == raster::Rgb{47, 111, 143}; }));
    ASSERT_TRUE(waitUntilQuiet());
    const std::string stock = stockOf(area(tracing().areas.at(0).number));
    EXPECT_LT(raster::colourDistance(design::findStock(job().stocks, stock)->colour, {47, 111, 143}), 0.05);
    m_window->activateWindow(); // the dialog took the keys
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    press(QKeySequence::Undo);
    EXPECT_NE(tracing().areas.at(0).colour, (raster::Rgb{47, 111, 143}));
}

TEST_F(WindowTest, ThinLinesBecomeFoldsOnTheBench) {
    support::Drawing drawing(480, 360);
    drawing.ring(support::rectangle(40, 40, 400, 280), support::rectangle(52, 52, 376, 256));
    drawing.ink(support::rectangle(240, 50, 3, 260));
    writeFile(path("box.png"), formats::image::encodePng(drawing.picture()));
    drop({path("box.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "120 mm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(120); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Lines"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(view()->marks().lines(), 0u);
    QTest::mouseClick(buttonOf("Take 1 thin line for folds"), Qt::LeftButton); // it is offered, not guessed
    ASSERT_TRUE(waitFor([this] { return areas() == 1 && tracing().folds.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(view()->marks().lines(), 1u);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    turnTo(TraceStation::Page::More);
    type(named<QLineEdit>("Thinner lines are folds"), "1 mm");
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(tracing().folds.size(), 1u);
    EXPECT_EQ(view()->marks().lines(), 1u);
    QTest::mouseClick(buttonOf("Dashed lines are folds"), Qt::LeftButton, {}, QPoint(8, 8));
    ASSERT_TRUE(waitFor([this] { return picture().recipe.dashesFold; }));
    ASSERT_TRUE(waitUntilQuiet());
    press(QKeySequence::Undo);
    press(QKeySequence::Undo);
    EXPECT_EQ(areas(), 2u);
    EXPECT_EQ(view()->marks().lines(), 0u);
}

// Of a large picture a reduced copy shows first what a setting does; the whole replaces it.
TEST_F(WindowTest, AReducedCopyShowsWhatIsComing) {
    support::Drawing drawing(4000, 3000);
    for (int i = 0; i < 6; ++i)
        drawing.ring(support::disc({500.0 + 600 * i, 1500}, 270),
                     support::disc({500.0 + 600 * i, 1500}, 240));
    writeFile(path("rings.png"), formats::image::encodePng(drawing.picture()));
    drop({path("rings.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "240 mm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(240); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    auto* station = m_window->panel<TraceStation>();
    std::vector<std::vector<geometry::Shape>> seen;
    QObject::connect(station, &StationPanel::choiceChanged, station,
                     [&] { seen.push_back(station->ghost()); });
    QTest::mouseClick(
        named<QPushButton>(picture().recipe.mode == trace::Mode::LineDrawing ? "Flat colours" : "Lines"),
        Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return !seen.empty() && seen.back().empty() && !m_window->bench().isBusy(); }));
    ASSERT_TRUE(waitUntilQuiet());
    const auto early =
        std::find_if(seen.begin(), seen.end(), [](const auto& pieces) { return !pieces.empty(); });
    ASSERT_NE(early, seen.end()) << "the copy was there before the whole";
    ASSERT_EQ(early->size(), areas());
    const geometry::Box foretold = geometry::bounds(early->front()),
                        found = geometry::bounds(laid(area(tracing().areas.front().number))->shape());
    EXPECT_NEAR(foretold.width(), found.width(), 0.2);
    EXPECT_NEAR(foretold.least.x, found.least.x, 0.2);
    EXPECT_FALSE(view()->hasGhost());
}

// Only the paper is seen in both lights: the window asks, and either answer can be taken back by the other.
TEST_F(WindowTest, WhatMayBeAShadowIsAskedFor) {
    writeFile(path("pier.png"), formats::image::encodePng(support::inShadow(
                                    support::Drawing(480, 360).fill(support::disc({100, 100}, 50), {47, 111, 143}).picture(), 0.6)));
    drop({path("pier.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "120 mm");
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Flat colours"), Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(areas(), 2u) << "the disc, and what is darker";
    QTest::mouseClick(buttonOf("It is a shadow: take it out"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(picture().recipe.darkPart, trace::DarkPart::Shadow);
    QTest::mouseClick(buttonOf("It is paint: leave it as it is"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    press(QKeySequence::Undo);
    EXPECT_EQ(areas(), 1u);
}

TEST_F(WindowTest, AColourIsTakenFromThePicture) {
    writeFile(path("sands.png"),
              formats::image::encodePng(support::Drawing(480, 360)
                                            .fill(support::rectangle(60, 60, 180, 240), {200, 180, 140})
                                            .fill(support::rectangle(240, 60, 180, 240), {206, 186, 148})
                                            .picture()));
    drop({path("sands.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "120 mm");
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Flat colours"), Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(areas(), 1u);
    turnTo(TraceStation::Page::More);
    QTest::mouseClick(named<QPushButton>("Take a colour"), Qt::LeftButton);
    const geometry::Transform map = ofPicture();
    dragBench(map({330, 180}), map({331, 180}));
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(picture().recipe.picked, (std::vector<raster::Rgb>{{206, 186, 148}}));
    QTest::mouseClick(named<QPushButton>("Forget the colours taken from the picture"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
}

// Three gaps in the lines: one closed by its own line, the rest at once, then an area is painted, all undone.
TEST_F(WindowTest, ProposedClosuresAreTakenOneByOneOrTogether) {
    support::Drawing drawing(500, 300);
    drawing.ring(support::rectangle(40, 60, 420, 180), support::rectangle(48, 68, 404, 164));
    drawing.ink(support::rectangle(176, 60, 8, 180)).ink(support::rectangle(316, 60, 8, 180));
    for (double x : {100.0, 240.0, 380.0})
        drawing.fill(support::rectangle(x, 58, 9, 12), {255, 255, 255});
    writeFile(path("leaky.png"), formats::image::encodePng(drawing.picture()));
    drop({path("leaky.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    type(named<QLineEdit>("Width"), "62.5 mm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(62.5); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(tracing().leaks.size(), 3u);
    EXPECT_TRUE(tracing().areas.empty());
    QPushButton* one = nullptr;
    for (QPushButton* button : m_window->panel<TraceStation>()->findChildren<QPushButton*>("link"))
        if (!one && button->isVisible() && button->text().startsWith("Close the gap of 1."))
            one = button;
    ASSERT_NE(one, nullptr);
    QTest::mouseClick(one, Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Close all 2 gaps in the lines"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return areas() == 3; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(tracing().leaks.empty());
    QTest::mouseClick(named<QAbstractButton>("rust"), Qt::LeftButton);
    const design::PieceId first = area(tracing().areas[0].number), second = area(tracing().areas[1].number);
    clickBench(inside(second));
    ASSERT_TRUE(waitFor([&] { return stockOf(second) == "rust"; }));
    // Shift and click: the other areas of its shape get it too.
    QTest::mouseClick(named<QAbstractButton>("sea"), Qt::LeftButton);
    const QPoint at = view()->toWidget(inside(first)).toPoint();
    QTest::mouseClick(view(), Qt::LeftButton, Qt::ShiftModifier, at);
    const size_t alike = trace::alike(tracing(), tracing().areas[0].number).size();
    EXPECT_GE(alike, 2u);
    ASSERT_TRUE(waitFor([&] { return stockOf(first) == "sea"; }));
    EXPECT_EQ(
        std::count_if(work().pieces.begin(), work().pieces.end(),
                      [&](const design::Laid& piece) { return work().layerOf(piece).stockId == "sea"; }),
        static_cast<long>(alike));
    press(QKeySequence::Undo);
    // The ink on top, then everything back.
    turnTo(TraceStation::Page::More);
    QTest::mouseClick(named<QPushButton>("Ink on top"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job::isInk(work().pieces.back().id().key()); }));
    ASSERT_TRUE(waitUntilQuiet());
    for (int i = 0; i < 4; ++i)
        press(QKeySequence::Undo);
    EXPECT_EQ(tracing().leaks.size(), 3u);
}

// At 1280 x 800 every page of every way of tracing is seen whole.
TEST_F(WindowTest, TracingNeedsNoScrolling) {
    m_window->resize(1280, 800);
    writeFile(path("sun.png"), sunPng());
    drop({path("sun.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    for (const char* way : {"Lines", "Flat colours", "Photo"}) {
        turnTo(TraceStation::Page::Areas);
        QTest::mouseClick(named<QPushButton>(way), Qt::LeftButton);
        ASSERT_TRUE(waitUntilQuiet());
        for (const auto page :
             {TraceStation::Page::Areas, TraceStation::Page::Clearing, TraceStation::Page::More}) {
            turnTo(page);
            QApplication::processEvents();
            const auto* bar = m_window->here()->findChild<QScrollArea*>()->verticalScrollBar();
            EXPECT_EQ(bar->maximum(), 0) << way << ", page " << static_cast<int>(page);
        }
    }
}

// A chip says what its colour becomes.
TEST_F(WindowTest, ColourChipsSayWhatTheyAre) {
    writeFile(path("sun.png"), sunPng());
    drop({path("sun.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    const auto* chips = m_window->findChild<PaletteChips*>("palette");
    std::set<QString> words;
    for (const PaletteChips::Chip& chip : chips->chips())
        words.insert(chip.words);
    EXPECT_EQ(words.size(), 4u) << "each says something else";
    EXPECT_TRUE(words.contains("paper"));
    EXPECT_FALSE(words.contains("cut"));
    QTest::mouseClick(m_window->findChild<PaletteChips*>("palette"), Qt::LeftButton, {},
                      chips->placeOf(1).center());
    ASSERT_TRUE(waitFor([this] { return areas() == 2; }));
    EXPECT_EQ(chips->chips()[1].words, "left out");
}

// A sheet photographed on a table: its corners are proposed, one is dragged and dragged back, and the table is gone.
TEST_F(WindowTest, APhotographedSheetIsLaidStraight) {
    support::Drawing sheet(888, 630);
    sheet.ring(support::rectangle(100, 190, 252, 252), support::rectangle(106, 196, 240, 240));
    sheet.ring(support::disc({620, 316}, 156), support::disc({620, 316}, 150));
    const std::array<geometry::Point, 4> corners{{{190, 110}, {850, 150}, {905, 640}, {120, 575}}};
    writeFile(path("table.png"),
              formats::image::encodePng(support::photographed(sheet.picture(), corners, 1024, 768)));
    drop({path("table.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    SheetDialog dialog(m_window->bench(), m_window.get());
    dialog.show();
    auto* view = dialog.findChild<PhotoView*>();
    auto* size = dialog.findChild<QComboBox*>();
    const auto isProposed = [&] {
        return dialog.isSettled() && buttonIn(&dialog, "Lay it straight")->isEnabled() &&
               geometry::distance(view->corners()[2], corners[2]) < 3;
    };
    ASSERT_TRUE(waitFor(isProposed));
    size->setFocus();
    QTest::keyClicks(size, "A6");
    emit size->activated(size->currentIndex());
    ASSERT_TRUE(waitFor(isProposed));
    const QPoint from = view->shownAt(corners[2]).toPoint();
    for (const QPoint& to : {from + QPoint(-50, -40), from}) {
        dragIn(view, view->shownAt(view->corners()[2]).toPoint(), to);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled(); }));
    }
    QTest::mouseClick(buttonIn(&dialog, "Lay it straight"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return picture().sheet && picture().tracing && m_window->bench().picture(); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(tracing().areas.size(), 2u);
    EXPECT_EQ(m_window->bench().picture()->width, picture().sheet->widthPx());
    EXPECT_TRUE(isPictureWide(148));
    m_window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_FALSE(picture().sheet);
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() && m_window->bench().picture()->width == 1024; }));
}

// Chalk on a board is recognised; a click takes the dark for ink instead.
TEST_F(WindowTest, LightLinesOnADarkGroundAreRecognisedAndSwitched) {
    support::Drawing board(400, 240);
    board.fill(support::rectangle(-1, -1, 402, 242), {24, 26, 28});
    board.fill(support::rectangle(40, 40, 140, 160), {240, 240, 236}).fill(support::rectangle(46, 46, 128, 148), {24, 26, 28});
    board.fill(support::disc({290, 120}, 80), {240, 240, 236}).fill(support::disc({290, 120}, 74), {24, 26, 28});
    writeFile(path("board.png"), formats::image::encodePng(board.picture()));
    drop({path("board.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(picture().recipe.mode, trace::Mode::LineDrawing);
    EXPECT_EQ(areas(), 2u);
    auto* light = m_window->findChild<QCheckBox*>("lightLines");
    ASSERT_NE(light, nullptr);
    EXPECT_TRUE(light->isChecked());
    QTest::mouseClick(light, Qt::LeftButton, {}, QPoint(8, light->height() / 2));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_FALSE(picture().recipe.isLightOnDark);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(light->isChecked());
}

} // namespace
} // namespace thinline::app
