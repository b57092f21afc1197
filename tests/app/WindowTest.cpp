// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/Application.h"
#include "app/Driver.h"
#include "app/bench/tools/GapTool.h"
#include "app/bench/tools/MeasureTool.h"
#include "app/bench/tools/SweepTool.h"
#include "app/settings/Theme.h"
#include "app/stations/trace/TraceControls.h"
#include "batch/Commands.h"
#include "document/JobFile.h"
#include "formats/image/ImageFile.h"
#include "geometry/Measures.h"
#include "support/Jobs.h"

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QDropEvent>
#include <QFile>
#include <QFileDialog>
#include <QLabel>
#include <QListWidget>
#include <QMessageBox>
#include <QMimeData>
#include <QMouseEvent>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSettings>
#include <QSlider>
#include <QSpinBox>
#include <QStandardPaths>

#include <fstream>
#include <numbers>
#include <sstream>

namespace thinline::app {

void WindowTest::drop(const QStringList& files) {
    auto* data = new QMimeData;
    QList<QUrl> urls;
    for (const QString& file : files)
        urls.append(QUrl::fromLocalFile(file));
    data->setUrls(urls);
    QDragEnterEvent enter(QPoint(500, 400), Qt::CopyAction, data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(m_window.get(), &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent dropped(QPointF(500, 400), Qt::CopyAction, data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(m_window.get(), &dropped);
    delete data;
}

namespace {

// The whole slice, as a maker goes through it: open, size, trace, paint, close a gap, size, sheets, save,
// reopen, pack.
TEST_F(WindowTest, TheWholeSliceByMouseAndKeys) {
    writeFile(path("shed.png"), support::shedPng(true));
    drop({path("shed.png")});
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    EXPECT_EQ(m_window->station(), Station::Source);

    // Source: the real width, typed with a decimal comma.
    type(named<QLineEdit>("Width"), "12,0 cm");
    ASSERT_TRUE(waitFor([this] { return isPictureWide(120); }));
    EXPECT_EQ(named<QLineEdit>("Height")->text(), "89.9 mm");

    // Trace.
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(m_window->station(), Station::Trace);
    EXPECT_EQ(areas(), 2u); // the window leaks into the wall
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().findings().empty(); }));
    EXPECT_NE(m_window->bench().findings().front().message.find("gap"), std::string::npos);

    // Close the gap by two clicks: Ctrl+G, then both of its ends.
    const geometry::Transform map = ofPicture();
    press(QKeySequence("Ctrl+G"));
    EXPECT_NE(dynamic_cast<GapTool*>(view()->tool()), nullptr);
    clickBench(map({535, 244}));
    clickBench(map({535, 276}));
    ASSERT_TRUE(waitFor([this] { return areas() == 3; }));
    press(QKeySequence("Ctrl+G"));
    EXPECT_NE(dynamic_cast<SweepTool*>(view()->tool()), nullptr);
    ASSERT_TRUE(waitUntilQuiet());

    // Paint: choose a stock, click an area, undo, redo.
    QTest::mouseClick(named<QAbstractButton>("sea"), Qt::LeftButton);
    clickBench(inside(area(2)));
    ASSERT_TRUE(waitFor([this] { return stockOf(area(2)) == "sea"; }));
    EXPECT_EQ(work().layers.size(), 3u);
    press(QKeySequence::Undo);
    EXPECT_EQ(stockOf(area(2)), "cream");
    press(QKeySequence("Ctrl+Shift+Z"));
    EXPECT_EQ(stockOf(area(2)), "sea");
    clickBench({-5, -5}); // beside everything: nothing happens
    EXPECT_EQ(m_window->bench().undoName(), "Lay sea");

    // Side view: choose the sea layer by click, hide it by key, take that back.
    CrossSection* section = m_window->sideView()->section();
    const design::LayerId sea = laid(area(2))->layer;
    QTest::mouseClick(section, Qt::LeftButton, {}, section->middleOf(sea));
    EXPECT_EQ(section->chosen(), sea);
    QTest::keyClick(section, Qt::Key_H);
    ASSERT_TRUE(waitFor([&] { return work().layer(sea)->isHidden; }));
    QTest::keyClick(section, Qt::Key_H);
    ASSERT_TRUE(waitFor([&] { return !work().layer(sea)->isHidden; }));
    QTest::keyClick(section, Qt::Key_Down, Qt::AltModifier);
    ASSERT_TRUE(waitFor([this] { return work().layers[1].stockId == "sea"; }));
    EXPECT_EQ(section->chosen(), sea);

    // Size: exact width, then the largest for the square mat.
    press(QKeySequence("Ctrl+4"));
    EXPECT_EQ(m_window->station(), Station::Size);
    auto* size = m_window->panel<SizeStation>();
    QLineEdit* width = size->findChildren<QLineEdit*>().front();
    type(width, "250");
    ASSERT_TRUE(waitFor([this] { return std::abs(workBox().width() - 250) < 1e-6; }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(named<QPushButton>("Take the largest size for mat 12 × 12 in"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return std::abs(workBox().width() - 292.1) < 1e-6; }));
    type(width, "-3");
    EXPECT_NEAR(workBox().width(), 292.1, 1e-6);
    EXPECT_TRUE(width->property("wrong").toBool());
    ASSERT_TRUE(waitUntilQuiet());

    // Sheets: the arrangement appears by itself; drag a piece, let it go again.
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(sheets::measure(*m_window->bench().made().sheets, work()).pieces, 4);
    const auto itemOf = [&](design::PieceId id) {
        for (const SceneItem& item : view()->scene()->items())
            if (item.piece == id)
                return item;
        return SceneItem{};
    };
    const auto middle = [&](const SceneItem& item) { return item.map(geometry::pointInside(item.shape())); };
    const geometry::Point before = middle(itemOf(area(2)));
    dragBench(before, before + geometry::Point{60, 40});
    ASSERT_TRUE(waitFor([this] { return job().plan.pins.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(itemOf(area(2)).isPinned());
    EXPECT_NEAR(middle(itemOf(area(2))).x, before.x + 60, 2);
    EXPECT_NEAR(middle(itemOf(area(2))).y, before.y + 40, 2);
    QTest::mouseDClick(view(), Qt::LeftButton, {}, view()->toWidget(middle(itemOf(area(2)))).toPoint());
    ASSERT_TRUE(waitFor([this] { return job().plan.pins.empty(); }));
    ASSERT_TRUE(waitUntilQuiet());
    // Copies of the clicked piece.
    clickBench(middle(itemOf(area(3))));
    auto* copies = named<QSpinBox>("Copies of the chosen piece");
    ASSERT_TRUE(copies->isVisible());
    copies->setFocus();
    copies->selectAll();
    QTest::keyClicks(copies, "3");
    ASSERT_TRUE(waitFor([this] { return laid(area(3))->copies == 3 && m_window->bench().made().sheets; }));
    EXPECT_EQ(sheets::measure(*m_window->bench().made().sheets, work()).pieces, 6);
    ASSERT_TRUE(waitUntilQuiet());

    // Save under a name, reopen: the same job.
    answerFileDialog(path("shed job.thinline"));
    press(QKeySequence::Save);
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isUnsaved(); }));
    EXPECT_TRUE(QFile::exists(path("shed job.thinline")));
    const job::State saved = m_window->bench().state();
    m_window->files().open(path("shed job.thinline"));
    ASSERT_TRUE(waitFor([&] { return !m_window->bench().canUndo(); }));
    EXPECT_EQ(job().wishes, saved.job.wishes);
    EXPECT_EQ(*m_window->bench().made().sheets, *saved.made.sheets);
    EXPECT_NEAR(workBox().width(), 292.1, 1e-3);

    // Pack, and the batch tool writes the same bytes.
    m_window->activateWindow(); // without a window manager nobody does it after the file dialog
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    press(QKeySequence("Ctrl+9"));
    ASSERT_TRUE(waitUntilQuiet());
    type(named<QLineEdit>("Folder"), path("window"));
    QSignalSpy written(m_window->panel<PackStation>(), &PackStation::written);
    clickMain();
    ASSERT_TRUE(written.wait(20000));
    std::ostringstream out, err;
    ASSERT_EQ(
        batch::run({"pack", path("shed job.thinline").toStdString(), "--out", path("batch").toStdString()},
                   m_store, m_fonts, m_pages, "", out, err),
        0)
        << err.str();
    const auto names = m_store.list(path("window").toStdString());
    EXPECT_EQ(names, m_store.list(path("batch").toStdString()));
    EXPECT_GE(names.size(), 5u);
    for (const std::string& name : names)
        EXPECT_EQ(*m_store.read(path("window").toStdString() + "/" + name, 1 << 28),
                  *m_store.read(path("batch").toStdString() + "/" + name, 1 << 28))
            << name;

    // Undo runs through everything since the job was opened, and stops there.
    EXPECT_FALSE(m_window->bench().canUndo());
}

// The Shape station by mouse: choose, see the ghost and the numbers, take, undo, open a step again, empty the
// scrap.
TEST_F(WindowTest, PiecesAreShapedWithAGhostFirst) {
    writeFile(path("shed.png"), support::shedPng());
    m_window->files().open(path("shed.png"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().picture() != nullptr; }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+3"));
    EXPECT_EQ(m_window->station(), Station::Shape);
    ASSERT_TRUE(waitUntilQuiet());
    auto* shapes = m_window->panel<ShapeStation>();
    EXPECT_FALSE(shapes->mainButton()->isEnabled()) << "nothing is chosen";

    clickBench(inside(area(2)));
    clickBench(inside(area(1)));
    EXPECT_EQ(shapes->chosen(), (std::vector<design::PieceId>{area(2), area(1)}));
    clickBench(inside(area(1))); // a second click lets go
    EXPECT_EQ(shapes->chosen(), (std::vector<design::PieceId>{area(2)}));

    auto* action = named<QComboBox>("What is done");
    action->setFocus();
    for (int i = 0; i < action->count() && action->currentText() != "Grow or shrink"; ++i)
        QTest::keyClick(action, Qt::Key_Down);
    auto* distance = named<QDoubleSpinBox>("Distance, − inwards");
    ASSERT_NE(distance, nullptr);
    distance->setFocus();
    distance->selectAll();
    QTest::keyClicks(distance, "-2");
    QTest::keyClick(distance, Qt::Key_Return);
    ASSERT_TRUE(waitFor([&] { return shapes->isSettled() && view()->hasGhost(); }));
    const double before = geometry::area(laid(area(2))->shape());
    ASSERT_EQ(shapes->ghost().size(), 1u);
    EXPECT_LT(geometry::area(shapes->ghost()[0]), before);
    EXPECT_TRUE(job().steps.empty()) << "looking changes nothing";
    clickMain();
    ASSERT_TRUE(waitFor([this] { return job().steps.size() == 1; }));
    const double shrunk = geometry::area(laid(area(2))->shape());
    EXPECT_LT(shrunk, before);
    EXPECT_FALSE(view()->hasGhost());
    press(QKeySequence::Undo);
    EXPECT_EQ(geometry::area(laid(area(2))->shape()), before);
    press(QKeySequence("Ctrl+Shift+Z"));

    // Open the step again and make it milder.
    QTest::mouseClick(named<QPushButton>("Open step 1 again"), Qt::LeftButton);
    distance->setFocus();
    distance->selectAll();
    QTest::keyClicks(distance, "-1");
    QTest::keyClick(distance, Qt::Key_Return);
    ASSERT_TRUE(waitFor([&] { return shapes->isSettled(); }));
    clickMain();
    ASSERT_TRUE(
        waitFor([this] { return job().steps.size() == 1 && shape::valuesOf(*job().steps[0])[0] == -1; }));
    EXPECT_GT(geometry::area(laid(area(2))->shape()), shrunk);

    // A layer chosen in the side view, set aside, put back.
    CrossSection* section = m_window->sideView()->section();
    const design::LayerId upper = work().layers[1].id;
    QTest::mouseClick(section, Qt::LeftButton, {}, section->middleOf(upper));
    EXPECT_EQ(shapes->chosen().size(), work().in(upper).size());
    action->setFocus();
    QTest::keyClick(action, Qt::Key_End); // Set aside as scrap
    ASSERT_TRUE(waitFor([&] { return shapes->isSettled(); }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().pieces->scrap.size() == 3; }));
    EXPECT_EQ(work().layers.size(), 1u);
    QTest::mouseClick(named<QPushButton>("Put all back from the scrap"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().pieces->scrap.empty(); }));
    EXPECT_EQ(work().layers.size(), 2u);
}

// A drawing without a size: drop it, settle the unit by a click, then by a known width; pack it.
TEST_F(WindowTest, ADrawingOfOutlinesIsSizedAndLaid) {
    const std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 720 360'><rect width='360' height='180' "
        "fill='#c8472b'/><circle cx='500' cy='100' r='72' fill='#3c7d8c'/></svg>";
    writeFile(path("plate.svg"), base::Bytes(svg.begin(), svg.end()));
    drop({path("plate.svg")});
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(m_window->station(), Station::Source) << "its size is to be settled first";
    EXPECT_NE(notice().indexOf("no real size"), -1);
    const auto pageWidth = [this] { return job::sourceWidthMm(*job().sources[0]); };
    EXPECT_NEAR(pageWidth(), 190.5, 1e-9);
    QAbstractButton* at72 = buttonOf("72 to the inch");
    ASSERT_NE(at72, nullptr);
    EXPECT_EQ(at72->text(), "72 to the inch: 254.0 × 127.0 mm");
    QTest::mouseClick(at72, Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return std::abs(pageWidth() - 254) < 1e-6; }));
    type(named<QLineEdit>("Width"), "100");
    ASSERT_TRUE(waitFor([&] { return std::abs(pageWidth() - 100) < 1e-9; }));
    clickMain();
    EXPECT_EQ(m_window->station(), Station::Shape) << "there is nothing to trace";
    press(QKeySequence("Ctrl+2"));
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId first = support::id("1:1");
    QTest::mouseClick(named<QAbstractButton>("lamp"), Qt::LeftButton);
    clickBench(inside(first));
    ASSERT_TRUE(waitFor([&] { return stockOf(first) == "lamp"; }));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }));
    EXPECT_EQ(m_window->bench().made().sheets->loads.size(), 2u);
    EXPECT_TRUE(m_window->bench().made().sheets->unplaced.empty());
}

// Issue by issue a maker's way: a drawing without units, its unit settled, a word beside it, a set, the
// largest for the long mat, one part scaled alone and told, and all of it undone.
TEST_F(WindowTest, SourcesSetsAndSizesFromADrawingWithoutUnits) {
    const std::string svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 300 200'>"
                            "<path fill='#3c7d8c' d='M0 0h200v200h-200z M50 50v100h100v-100z'/>"
                            "<rect x='210' width='90' height='90' fill='#c8472b'/></svg>";
    writeFile(path("frame.svg"), base::Bytes(svg.begin(), svg.end()));
    drop({path("frame.svg")});
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(buttonOf("90 to the inch"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return std::abs(workBox().width() - 300 * 25.4 / 90) < 1e-3; }));

    press(QKeySequence("Ctrl+T")); // a word, typed at once
    ASSERT_TRUE(waitFor([this] { return job().sources.size() == 2; }));
    auto* word = named<QPlainTextEdit>("The word");
    ASSERT_NE(word, nullptr);
    ASSERT_TRUE(waitFor([&] { return word->hasFocus(); }));
    QTest::keyClicks(word, "QUAY");
    ASSERT_TRUE(waitFor([this] { return job().sources[1]->name() == "the word QUAY"; }));
    ASSERT_TRUE(waitUntilQuiet());
    const int oneLine = word->height();
    QTest::keyClick(word, Qt::Key_Return); // a second line, and back to one
    QTest::keyClicks(word, "E");
    ASSERT_TRUE(waitFor([this] { return job().sources[1]->name() == "the word QUAY E"; }));
    EXPECT_GT(word->height(), oneLine + 10);
    QTest::keyClick(word, Qt::Key_Backspace);
    QTest::keyClick(word, Qt::Key_Backspace);
    ASSERT_TRUE(waitFor([this] { return job().sources[1]->name() == "the word QUAY"; }));
    EXPECT_EQ(word->height(), oneLine);
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId frame = support::id("1:1"), plug = support::id("1:2"),
                          letter = job().sources[1]->pieceId(job().sources[1]->kept->front());
    // A letter dragged moves the whole word.
    const geometry::Point before = job().sources[1]->at;
    const geometry::Point corner = workBox().least;
    dragBench(inside(letter) - corner, inside(letter) - corner + geometry::Point{-20, 30});
    ASSERT_TRUE(waitFor([&] { return job().sources[1]->at.y > before.y + 20; }));
    EXPECT_NEAR(job().sources[1]->at.x, before.x - 20, 1);

    press(QKeySequence("Ctrl+4"));
    ASSERT_TRUE(waitUntilQuiet());
    auto* size = m_window->panel<SizeStation>();
    const auto click = [&](design::PieceId piece) { clickBench(inside(piece) - workBox().least); };
    clickBench({7, 7}); // on the card of the frame
    click(plug);
    EXPECT_EQ(size->chosen(), (std::vector<design::PieceId>{frame, plug}));
    QTest::mouseClick(buttonOf("Keep one scale"), Qt::LeftButton);
    ASSERT_EQ(job().sets.size(), 1u);
    QTest::mouseClick(named<QPushButton>("Choose none"), Qt::LeftButton);
    // With Shift the whole word.
    const QPoint onLetter = view()->toWidget(inside(letter) - workBox().least).toPoint();
    QTest::mouseMove(view(), onLetter);
    QTest::mouseClick(view(), Qt::LeftButton, Qt::ShiftModifier, onLetter);
    EXPECT_EQ(size->chosen().size(), 4u);
    QTest::mouseClick(named<QPushButton>("Choose none"), Qt::LeftButton);

    QTest::mouseClick(named<QPushButton>("Take the largest size for mat 12 × 24 in"), Qt::LeftButton);
    const double before4 = workBox().width();
    ASSERT_TRUE(waitFor([&] { return !m_window->bench().isBusy() && workBox().width() > before4 * 1.5; }));
    const auto& mat = *job::shippedCatalogue().formats.mat("long24");
    EXPECT_NEAR(sheets::largestThatFits(work(), mat.usableWidthMm(), mat.usableHeightMm()).scale, 1, 1e-6);
    ASSERT_TRUE(waitUntilQuiet());

    click(plug);
    ASSERT_EQ(size->chosen().size(), 1u);
    type(named<QLineEdit>("Width"), "60");
    ASSERT_TRUE(waitFor([this] { return !job().steps.empty(); }));
    EXPECT_NEAR(geometry::bounds(laid(plug)->shape()).width(), 60, 1e-6);
    const auto isTold = [this] {
        for (const inspect::Finding& f : m_window->bench().findings())
            if (f.kind == inspect::Kind::ScaledAlone)
                return true;
        return false;
    };
    ASSERT_TRUE(waitFor(isTold));
    QTest::mouseClick(buttonOf("Let them be free"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return !isTold(); }));
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor(isTold));

    while (m_window->bench().canUndo())
        press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([&] { return !isTold(); }));
    EXPECT_EQ(job().sources.size(), 1u);
    EXPECT_TRUE(job().sets.empty());
    EXPECT_FALSE(std::get<job::Drawing>(job().sources[0]->what).isSettled);
}

TEST_F(WindowTest, SeveralFilesDroppedBecomeOneJob) {
    const std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='30mm' height='30mm' viewBox='0 0 30 30'>"
        "<rect width='30' height='30' fill='#3c7d8c'/></svg>";
    const std::string dxf =
        "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n"
        "10\n0\n20\n0\n40\n10\n0\nENDSEC\n0\nEOF\n";
    writeFile(path("shed.png"), support::shedPng());
    writeFile(path("plate.svg"), base::Bytes(svg.begin(), svg.end()));
    writeFile(path("disc.dxf"), base::Bytes(dxf.begin(), dxf.end()));
    writeFile(path("notes.txt"), {'h', 'i'});
    drop({path("shed.png"), path("plate.svg"), path("disc.dxf"), path("notes.txt")});
    ASSERT_TRUE(waitFor([this] { return job().sources.size() == 3; }));
    EXPECT_EQ(picture().file->fileName, "shed.png");
    EXPECT_NE(notice().indexOf("notes.txt: The file is not a picture"), -1) << notice().toStdString();
    EXPECT_NEAR(geometry::bounds(laid(support::id("3:1"))->shape()).width(), 20, 1e-3);
    drop({path("plate.svg"), path("plate.svg")}); // into the same job
    ASSERT_TRUE(waitFor([this] { return job().sources.size() == 5; }));
    press(QKeySequence::Undo);
    EXPECT_EQ(job().sources.size(), 3u);
}

// "This edge is 80 mm": two clicks that hold on to corners, one typed length.
TEST_F(WindowTest, OneKnownDistanceSettlesTheSize) {
    const std::string svg = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 300 200'>"
                            "<rect x='20' y='20' width='200' height='100' fill='#3c7d8c'/></svg>";
    writeFile(path("plate.svg"), base::Bytes(svg.begin(), svg.end()));
    drop({path("plate.svg")});
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(buttonOf("One distance is known"), Qt::LeftButton);
    const double width = workBox().width();
    clickBench({0.8, 0.6}); // beside the corner: it holds on
    clickBench({width - 0.7, -0.5});
    auto* really = named<QLineEdit>("It really is");
    ASSERT_NE(really, nullptr);
    type(really, "80");
    ASSERT_TRUE(waitFor([this] { return std::abs(workBox().width() - 80) < 1e-3; }));
    // The tape alone tells and changes nothing.
    press(QKeySequence("Ctrl+R"));
    ASSERT_TRUE(waitUntilQuiet());
    clickBench({0, 0});
    clickBench({80, 40});
    EXPECT_NE(notice().indexOf("89.4 mm apart: 80.0 mm across, 40.0 mm down"), -1) << notice().toStdString();
    press(QKeySequence(Qt::Key_Escape));
    EXPECT_EQ(dynamic_cast<MeasureTool*>(view()->tool()), nullptr);
}

TEST_F(WindowTest, AFigureIsMeasuredAsPeopleWriteLengths) {
    press(QKeySequence("Ctrl+1"));
    QTest::mouseClick(buttonOf("A figure"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().sources.size() == 1; }));
    auto* width = named<QDoubleSpinBox>("Width");
    ASSERT_NE(width, nullptr);
    const auto type = [&](const char* text) {
        width->setFocus();
        width->selectAll();
        QTest::keyClicks(width, text);
        QTest::keyClick(width, Qt::Key_Return);
    };
    const auto isWide = [&](double mm) {
        return waitFor([this, mm] { return std::abs(workBox().width() - mm) < 0.006; });
    };
    type("3 1/2 in");
    EXPECT_TRUE(isWide(88.9));
    type("12,5 cm");
    EXPECT_TRUE(isWide(125));
    type("wide");
    EXPECT_TRUE(isWide(125)) << "what is no length changes nothing";
    // Sized as a whole, it is shown and typed as large as it is now, and kept so.
    m_window->bench().run("twice", [](const job::State& now, const base::Progress& progress) {
        return job::scaled(now, 2, {}, progress);
    });
    EXPECT_TRUE(isWide(250));
    EXPECT_NEAR(width->value(), 250, 0.006);
    type("200");
    EXPECT_TRUE(isWide(200));
    EXPECT_NEAR(std::get<job::Figure>(job().sources[0]->what).recipe.values[0], 200, 1e-9);
    press(QKeySequence::Undo);
    press(QKeySequence::Undo);
    auto* figure = named<QComboBox>("Figure");
    figure->setFocus();
    QTest::keyClick(figure, Qt::Key_Down); // Ellipse
    ASSERT_TRUE(waitFor([this] { return job().sources[0]->name() == "ellipse"; }));
    EXPECT_TRUE(isWide(60));
    auto* stock = named<QComboBox>("Cut from");
    stock->setFocus();
    QTest::keyClick(stock, Qt::Key_End);
    ASSERT_TRUE(waitFor([this] { return stockOf(support::id("1:1")) == "rust"; }));
    QTest::mouseClick(named<QPushButton>("Take out Ellipse"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().sources.empty(); }));
    ASSERT_TRUE(waitFor([this] { return !hasPieces(); }));
}

TEST_F(WindowTest, AFitIsStatedByTwoClicksAndMade) {
    job::State state = support::withFigure(support::emptyState(), construct::Figure::Ring, {60, 30}, "sea");
    state = support::withFigure(state, construct::Figure::Ellipse, {32, 32}, "rust");
    ASSERT_TRUE(document::saveJob(m_store, path("plug.thinline").toStdString(), state));
    m_window->files().open(path("plug.thinline"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+4"));
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId plug = support::id("2:1");
    QTest::mouseClick(buttonOf("State a fit by two clicks"), Qt::LeftButton);
    clickBench(inside(plug));
    clickBench({30, 30}); // the ring's middle
    ASSERT_EQ(job().fits.size(), 1u);
    EXPECT_EQ(job().fits[0].inner, plug);
    auto* make = named<QPushButton>("Size the piece of fit 1 so that it just fits");
    ASSERT_NE(make, nullptr);
    QTest::mouseClick(make, Qt::LeftButton);
    ASSERT_TRUE(
        waitFor([&] { return std::abs(geometry::bounds(laid(plug)->shape()).width() - 29.6) < 5e-3; }));
}

TEST_F(WindowTest, TheOwnFolderIsWrittenShort) {
    auto* pack = m_window->panel<PackStation>();
    pack->setFolder(QDir::homePath() + "/made/today");
    EXPECT_EQ(pack->folder(), QDir::homePath() + "/made/today");
    press(QKeySequence("Ctrl+9"));
    EXPECT_EQ(named<QLineEdit>("Folder")->text(), "~/made/today");
    pack->setFolder("/elsewhere/~/x");
    EXPECT_EQ(pack->folder(), "/elsewhere/~/x");
}

TEST_F(WindowTest, BadFilesAreToldAndNothingIsLost) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces() && m_window->bench().picture(); }));
    const auto before = m_window->bench().made().finished;
    writeFile(path("notes.txt"), {'h', 'e', 'l', 'l', 'o'});
    writeFile(path("empty.png"), {});
    writeFile(path("broken.thinline"), {'P', 'K', 3, 4, 9, 9, 9});
    const std::pair<const char*, const char*> rows[] = {{"notes.txt", "not a picture"},
                                                        {"empty.png", "is empty"},
                                                        {"broken.thinline", "damaged"},
                                                        {"nowhere.png", "no such file"}};
    for (const auto& [file, says] : rows) {
        m_window->files().open(path(file));
        ASSERT_TRUE(waitFor([&] { return notice().contains(says); }))
            << file << ": " << notice().toStdString();
        EXPECT_EQ(m_window->bench().made().finished, before) << file;
        QTest::keyClick(m_window.get(), Qt::Key_Escape);
        EXPECT_TRUE(notice().isEmpty());
    }
}

TEST_F(WindowTest, AFindingShowsItsPlace) {
    m_window->files().openDemo();
    ASSERT_TRUE(
        waitFor([this] { return !m_window->bench().findings().empty() && !m_window->bench().isBusy(); }));
    press(QKeySequence("Ctrl+1"));
    const inspect::Finding finding = m_window->bench().findings().front();
    auto* button = named<QPushButton>("Show: " + QString::fromStdString(finding.message));
    QTest::mouseClick(button, Qt::LeftButton);
    EXPECT_EQ(m_window->station(), Station::Trace);
    const QPointF at = view()->toWidget(finding.cases.front().place.centre());
    EXPECT_NEAR(at.x(), view()->width() / 2.0, 40);
    EXPECT_NEAR(at.y(), view()->height() / 2.0, 40);
    EXPECT_TRUE(notice().contains(QString::fromStdString(finding.cases.front().message)));
}

TEST_F(WindowTest, StationsThatAreNotBuiltSaySoAndStayShut) {
    for (const StationInfo& info : stationInfos()) {
        Bead* bead = m_window->thread()->bead(info.station);
        QTest::mouseClick(bead, Qt::LeftButton);
        if (info.promise) {
            EXPECT_NE(m_window->station(), info.station) << info.name;
            EXPECT_TRUE(bead->toolTip().startsWith("Not built yet: will")) << info.name;
        } else {
            EXPECT_EQ(m_window->station(), info.station) << info.name;
        }
    }
}

TEST_F(WindowTest, ZoomKeepsThePointUnderThePointerAndBecomesSharp) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    const QPointF pointer(700, 300);
    const geometry::Point under = view()->toBench(pointer);
    const double zoom = view()->pxPerMm();
    QWheelEvent wheel(pointer, view()->mapToGlobal(pointer), {}, {0, 360}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(view(), &wheel);
    EXPECT_GT(view()->pxPerMm(), zoom * 1.2);
    EXPECT_NEAR(view()->toBench(pointer).x, under.x, 1 / view()->pxPerMm());
    EXPECT_NEAR(view()->toBench(pointer).y, under.y, 1 / view()->pxPerMm());
    ASSERT_TRUE(waitFor([this] { return view()->isSharp(); }));
    QTest::keyClick(view(), Qt::Key_Home);
    EXPECT_NEAR(view()->pxPerMm(), zoom, 1e-9);
    QTest::mousePress(view(), Qt::MiddleButton, {}, {600, 300});
    QTest::mouseEvent(QTest::MouseMove, view(), Qt::MiddleButton, {}, {650, 320});
    QTest::mouseRelease(view(), Qt::MiddleButton, {}, {650, 320});
    EXPECT_NEAR(view()->toBench({650, 320}).x, view()->toBench({600, 300}).x + 50 / zoom, 1e-6);
}

TEST_F(WindowTest, TheActionFinderRunsWhatIsTyped) {
    whenAsked<QDialog>([](QDialog& dialog) {
        auto* field = dialog.findChild<QLineEdit*>();
        QTest::keyClicks(field, "go she");
        QTest::keyClick(field, Qt::Key_Return);
    });
    press(QKeySequence("Ctrl+K"));
    ASSERT_TRUE(waitFor([this] { return m_window->station() == Station::Sheets; }));
}

TEST_F(WindowTest, SlidersTraceAgainWhenTheyRestAndWorkCanBeStopped) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces() && m_window->bench().picture(); }));
    ASSERT_TRUE(waitUntilQuiet());
    const size_t before0 = areas();
    auto* slider = named<QSlider>("Drop areas below");
    slider->setFocus();
    for (int i = 0; i < 3; ++i)
        QTest::keyClick(slider, Qt::Key_PageUp);
    ASSERT_TRUE(waitFor([&] { return areas() < before0; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(m_window->bench().undoName(), "Change the least area");
    press(QKeySequence::Undo);
    EXPECT_EQ(areas(), before0);
    const auto before = picture().tracing;
    QTest::keyClick(slider, Qt::Key_End);
    ASSERT_TRUE(waitFor([this] { return m_window->bench().isBusy(); }));
    QTest::keyClick(m_window.get(), Qt::Key_Escape);
    EXPECT_FALSE(m_window->bench().isBusy());
    QTest::qWait(400);
    EXPECT_EQ(picture().tracing, before) << "what was stopped changes nothing";
}

TEST_F(WindowTest, UnsavedWorkIsKeptWithinSecondsAndOfferedAfterAKill) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId area = this->area(1);
    m_window->bench().act("Lay rust", job::painted(job(), {area}, "rust"));
    const auto copies = [&] { return QDir(path("unsaved")).entryList({"*.copy"}, QDir::Files).size(); };
    QElapsedTimer since;
    since.start();
    ASSERT_TRUE(waitFor([&] { return copies() == 1; }));
    EXPECT_LT(since.elapsed(), 5000) << "a kill loses at most five seconds";
    m_window.reset(); // killed: nobody asked and nothing was given up
    ASSERT_EQ(copies(), 1);
    MainWindow next(m_store, m_fonts, m_pages, m_folder.path() + "/unsaved",
                    QStringLiteral(THINLINE_SOURCE_DIR) + "/demo");
    next.show();
    QPushButton* back = nullptr;
    ASSERT_TRUE(waitFor([&] {
        for (QPushButton* button : next.findChildren<QPushButton*>())
            if (button->text() == "Have it back")
                back = button;
        return back != nullptr;
    }));
    QTest::mouseClick(back, Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return next.bench().hasPieces(); }));
    EXPECT_EQ(support::stockOf(next.bench().state(), area), "rust");
    EXPECT_TRUE(next.bench().isUnsaved());
    // Closing asks, though there is nothing that could be undone.
    answerQuestion("Stay here");
    EXPECT_FALSE(next.close());
    EXPECT_EQ(copies(), 1);
    answerQuestion("Give them up");
    EXPECT_TRUE(next.close());
    EXPECT_TRUE(waitFor([&] { return copies() == 0; }));
}

TEST_F(WindowTest, SaveAsAsksAboutTheFileItWouldReplace) {
    const base::Bytes others = {1, 2, 3};
    writeFile(path("gull.v2.thinline"), others);
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    answerQuestion("No");
    answerFileDialog(path("gull.v2"));
    m_window->files().saveAs();
    EXPECT_FALSE(m_window->bench().isSaving());
    EXPECT_EQ(*m_store.read(path("gull.v2.thinline").toStdString(), 10), others);
    answerQuestion("Yes");
    answerFileDialog(path("gull.v2"));
    bool isSaved = false;
    m_window->files().saveAs([&] { isSaved = true; });
    EXPECT_TRUE(waitFor([&] { return isSaved; }));
    EXPECT_TRUE(document::loadJob(m_store, path("gull.v2.thinline").toStdString()));
    EXPECT_FALSE(QFile::exists(path("gull.v2")));
}

// What the lines of a drawing are is asked where nobody can tell, answered once for a kind, and taken back by undo.
TEST_F(WindowTest, LinesOfADrawingAreAskedAboutByKind) {
    const QByteArray strip =
        "<svg xmlns='http://www.w3.org/2000/svg' width='180mm' height='80mm' viewBox='0 0 180 80'>"
        "<rect x='10' y='10' width='160' height='60' fill='none' stroke='black'/>"
        "<path d='M50 10V70M90 10V70M130 10V70' fill='none' stroke='#d22222'/></svg>";
    writeFile(path("strip.svg"), {strip.begin(), strip.end()});
    m_window->files().open(path("strip.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(work().pieces[0].piece.body->lines.empty());
    auto* use = named<QComboBox>("What 3 red lines are");
    ASSERT_NE(use, nullptr);
    EXPECT_EQ(use->currentText(), "which?");
    ASSERT_TRUE(waitFor([this] { return m_window->bench().isInspected(); }));
    const auto isAsked = [this] {
        return std::any_of(m_window->bench().findings().begin(), m_window->bench().findings().end(),
                           [](const inspect::Finding& f) { return f.kind == inspect::Kind::LinesNotSaid; });
    };
    EXPECT_TRUE(isAsked()) << "what is left out is told";
    use->setFocus();
    while (use->currentText() != "folds")
        QTest::keyClick(use, Qt::Key_Down);
    QTest::keyClick(use, Qt::Key_Return);
    ASSERT_TRUE(waitFor([this] { return !work().pieces[0].piece.body->lines.empty(); }));
    EXPECT_EQ(work().pieces[0].piece.body->lines.size(), 3u);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return work().pieces[0].piece.body->lines.empty(); }));
}

TEST_F(WindowTest, ClosingSavesFirstAndGoesOnFromThere) {
    const std::string file = path("shed.thinline").toStdString();
    const job::State shed = support::tracedShed();
    ASSERT_TRUE(document::saveJob(m_store, file, shed));
    m_window->files().open(QString::fromStdString(file));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    const auto lay = [&](const char* stock) {
        m_window->bench().act("Lay", job::painted(job(), {support::area(shed, 1)}, stock));
    };
    const auto stockThere = [&] {
        return support::stockOf(support::must(document::loadJob(m_store, file)).state,
                                support::area(shed, 1));
    };
    lay("rust");
    answerQuestion("Save");
    EXPECT_FALSE(m_window->close()) << "not yet: the worker writes, and the window goes on";
    EXPECT_TRUE(m_window->bench().isSaving());
    EXPECT_TRUE(waitFor([this] { return !m_window->isVisible(); })) << "then it closes by itself";
    EXPECT_EQ(stockThere(), "rust");
    // Closing while a saving runs waits for its end and asks nothing.
    m_window->show();
    lay("sea");
    m_window->files().save();
    EXPECT_FALSE(m_window->close());
    EXPECT_TRUE(waitFor([this] { return !m_window->isVisible(); }));
    EXPECT_EQ(stockThere(), "sea");
}

// Every function that may take long takes a Progress, and none is made while an event is served.
TEST_F(WindowTest, AComputationOnTheThreadOfTheInterfaceEndsATestedProgram) {
    testing::GTEST_FLAG(death_test_style) = "threadsafe";
    EXPECT_DEATH(
        {
            QTimer::singleShot(0, qApp, [] { base::Progress(); });
            QTest::qWait(100);
        },
        "on the thread that answers a person");
}

TEST_F(WindowTest, AFileSomebodyElseWroteIsAskedAbout) {
    const std::string file = path("shed.thinline").toStdString();
    const job::State shed = support::tracedShed();
    ASSERT_TRUE(document::saveJob(m_store, file, shed));
    m_window->files().open(QString::fromStdString(file));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    m_window->bench().act("Lay rust", job::painted(job(), {support::area(shed, 1)}, "rust"));
    const auto theirs = support::made(job::painted(shed.job, {support::area(shed, 1)}, "sea"), shed.made);
    ASSERT_TRUE(document::saveJob(m_store, file, theirs));
    const auto stockIn = [&](const std::string& which) {
        return support::stockOf(support::must(document::loadJob(m_store, which)).state,
                                support::area(shed, 1));
    };
    QSignalSpy wanted(&m_window->files(), &JobFiles::wantsAnotherWindow);
    answerQuestion("Look at theirs");
    bool isSaved = false;
    m_window->files().save([&] { isSaved = true; });
    ASSERT_TRUE(waitFor([&] { return wanted.count() == 1; }));
    EXPECT_FALSE(isSaved);
    EXPECT_EQ(stockIn(file), "sea");
    answerQuestion("Keep both");
    m_window->files().save([&] { isSaved = true; });
    EXPECT_TRUE(waitFor([&] { return isSaved; }));
    EXPECT_EQ(stockIn(file), "sea");
    EXPECT_EQ(stockIn(path("shed 2.thinline").toStdString()), "rust");
    EXPECT_FALSE(m_window->bench().isUnsaved());
}

TEST_F(WindowTest, PackRefusesWhatWouldSpoilCardAndLaysItAnewAtAClick) {
    job::State shed = support::arranged(support::tracedShed());
    design::Arrangement far = *shed.made.sheets;
    far.loads[0].sheets[0].pieces[0].pose.at.x += 3000;
    shed.made.sheets = std::make_shared<const design::Arrangement>(far);
    ASSERT_TRUE(document::saveJob(m_store, path("far.thinline").toStdString(), shed));
    m_window->files().open(path("far.thinline"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    m_window->goTo(Station::Pack);
    ASSERT_TRUE(waitUntilQuiet());
    type(named<QLineEdit>("Folder"), path("packed"));
    clickMain();
    QAbstractButton* anew = nullptr;
    ASSERT_TRUE(waitFor([&] {
        for (auto* button : m_window->panel<PackStation>()->findChildren<QPushButton*>())
            if (button->text() == "Lay the pieces anew")
                anew = button;
        return anew && anew->isVisible();
    }));
    EXPECT_FALSE(QFile::exists(path("packed")));
    QTest::mouseClick(anew, Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_FALSE(anew->isVisible());
    QSignalSpy written(m_window->panel<PackStation>(), &PackStation::written);
    ASSERT_TRUE(waitFor([this] { return m_window->here()->mainButton()->isEnabled(); }));
    clickMain();
    ASSERT_TRUE(written.wait(20000));
    EXPECT_TRUE(QFile::exists(path("packed/contents.txt")));
}

TEST_F(WindowTest, EveryControlHasANameForThoseWhoCannotSeeIt) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    for (QWidget* widget : m_window->findChildren<QWidget*>()) {
        const bool isControl = qobject_cast<QLineEdit*>(widget) || qobject_cast<QAbstractButton*>(widget) ||
                               qobject_cast<QSlider*>(widget) || qobject_cast<QComboBox*>(widget) ||
                               qobject_cast<QAbstractSpinBox*>(widget);
        if (!isControl || widget->objectName().startsWith("qt_"))
            continue;
        const auto* button = qobject_cast<QAbstractButton*>(widget);
        EXPECT_TRUE(!widget->accessibleName().isEmpty() || (button && !button->text().isEmpty()))
            << widget->metaObject()->className();
    }
}

TEST_F(WindowTest, TheSectionLineIsDraggedTurnedAndFollowedByTheSideView) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    m_window->goTo(Station::Trace);
    ASSERT_TRUE(waitUntilQuiet());
    CrossSection* section = m_window->sideView()->section();
    const auto drag = [&](SectionHandles::Bead bead, geometry::Point toMm) {
        const QPoint from = view()->section().placeOf(bead, view()->map()).toPoint(),
                     to = view()->toWidget(toMm).toPoint();
        QTest::mouseMove(view(), from);
        QTest::mousePress(view(), Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i)
            QTest::mouseEvent(QTest::MouseMove, view(), Qt::LeftButton, {}, from + (to - from) * i / 4);
        QTest::mouseRelease(view(), Qt::LeftButton, {}, to);
    };
    ASSERT_TRUE(section->line());
    const geometry::Box box = workBox();
    EXPECT_NEAR(section->line()->through.y, box.centre().y, 1e-6) << "it begins across the middle";
    const size_t steps = job().wishes.size();
    drag(SectionHandles::Bead::Move, {box.least.x - 10, box.least.y + 0.8 * box.height()});
    const double y = section->line()->through.y;
    EXPECT_NEAR(y, box.least.y + 0.8 * box.height(), 2) << "as far as the pointer went";
    for (const design::SectionSpan& span : section->section().spans) {
        const geometry::Point at = section->line()->at((span.fromMm + span.toMm) / 2);
        EXPECT_TRUE(geometry::contains(work().pieces[span.piece].shape(), at)) << "the card is there";
    }
    drag(SectionHandles::Bead::Turn, {section->line()->through.x, box.most.y});
    EXPECT_NEAR(section->line()->turnRad, std::numbers::pi / 2, 1e-9);
    EXPECT_EQ(job().wishes.size(), steps) << "no piece was painted on the way";
    section->setFocus();
    QTest::keyClick(section, Qt::Key_Right);
    EXPECT_NEAR(section->line()->turnRad, std::numbers::pi / 2, 1e-9);
    const double turned = section->line()->turnRad;
    QTest::keyClick(section, Qt::Key_Right, Qt::ControlModifier);
    EXPECT_NEAR(section->line()->turnRad - turned, 5 * std::numbers::pi / 180, 1e-9);
    EXPECT_EQ(view()->section().line(), section->line()) << "the bench shows the same line";
    m_window->goTo(Station::Sheets);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_FALSE(view()->section().line()) << "sheets are no place for it";
}

TEST_F(WindowTest, ALayerPlacedBehindLiesBehind) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    m_window->goTo(Station::Shape);
    ASSERT_TRUE(waitUntilQuiet());
    CrossSection* section = m_window->sideView()->section();
    const design::LayerId top = work().layers.back().id;
    section->choose(top);
    const QPoint before = section->middleOf(top);
    auto* place = named<QComboBox>("Place of the layer");
    ASSERT_NE(place, nullptr);
    place->setFocus();
    QTest::keyClick(place, Qt::Key_Down); // in front, behind
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(design::findLayer(job().layers, top)->at, design::Layer::At::Behind);
    EXPECT_EQ(work().layers.front().id, top) << "what lies on what is the order of the work";
    EXPECT_EQ(work().pieces.front().layer, top) << "it is drawn first";
    EXPECT_GT(section->middleOf(top).y(), before.y()) << "and listed below the others";
    EXPECT_FALSE(buttonOf("Raise")->isEnabled()) << "it is not moved past the base";
    EXPECT_FALSE(buttonOf("Lower")->isEnabled());
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(work().layers.back().id, top);
    EXPECT_TRUE(buttonOf("Lower")->isEnabled());
}

TEST_F(WindowTest, LayersAndSinglePiecesAreSetInTheSideView) {
    m_window->files().openDemo();
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    m_window->goTo(Station::Shape);
    ASSERT_TRUE(waitUntilQuiet());
    CrossSection* section = m_window->sideView()->section();
    const auto layerOf = [this](design::PieceId id) {
        return laid(id) ? laid(id)->layer : design::LayerId{};
    };
    // A new layer of the chosen one's stock, with a name.
    const size_t layers = job().layers.size();
    QTest::mouseClick(buttonOf("New layer"), Qt::LeftButton);
    ASSERT_EQ(job().layers.size(), layers + 1);
    type(named<QLineEdit>("Name of the layer"), "upper");
    EXPECT_EQ(job().layers.back().name, "upper");
    const design::LayerId upper = job().layers.back().id;
    EXPECT_EQ(section->chosen(), upper);
    // A card dragged onto its name.
    const auto& spans = section->section().spans;
    ASSERT_GT(spans.size(), 2u);
    const design::PieceId dragged = work().pieces[spans.back().piece].id();
    const QPoint from = section->middleOf(layerOf(dragged)), to = section->middleOf(upper);
    const design::PieceId meant = [&] { // the first card of that layer is the one the pointer takes
        for (const design::SectionSpan& span : spans)
            if (work().pieces[span.piece].layer == layerOf(dragged))
                return work().pieces[span.piece].id();
        return dragged;
    }();
    QTest::mousePress(section, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i)
        QTest::mouseEvent(QTest::MouseMove, section, Qt::LeftButton, {}, from + (to - from) * i / 4);
    QTest::mouseRelease(section, Qt::LeftButton, {}, to);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(layerOf(meant), upper);
    // Chosen on the bench, pieces have a lift and a side of their own. The card's layer was chosen by the drag.
    QTest::mouseClick(buttonOf("Choose none"), Qt::LeftButton);
    clickBench(inside(meant));
    ASSERT_EQ(m_window->here()->chosen().size(), 1u);
    auto* lift = named<QDoubleSpinBox>("Lift below the chosen");
    lift->setFocus();
    lift->selectAll();
    QTest::keyClicks(lift, "2");
    QTest::keyClick(lift, Qt::Key_Return);
    auto* side = named<QComboBox>("Side of the chosen that faces up");
    side->setFocus();
    QTest::keyClick(side, Qt::Key_Down);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(laid(meant)->liftMm, 2);
    EXPECT_EQ(laid(meant)->up, design::Side::Back);
    QTest::mouseClick(buttonOf("Lift as the layer"), Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(laid(meant)->liftMm, 0);
    // A layer with pieces is not taken out; back where it lay, the piece leaves a bare one, which is.
    for (int i = 0; i < 4; ++i)
        press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_NE(layerOf(meant), upper);
    QTest::mouseClick(buttonOf("Choose none"), Qt::LeftButton);
    section->choose(upper);
    QTest::mouseClick(buttonOf("Take out"), Qt::LeftButton);
    EXPECT_EQ(job().layers.size(), layers);
}

} // namespace
} // namespace thinline::app

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" THINLINE_SOURCE_DIR "/tests/support/screen.json");
    QTemporaryDir home;
    qputenv("HOME", home.path().toUtf8());
    thinline::app::Application app(argc, argv);
    QApplication::setApplicationName("thinline-test");
    QApplication::setOrganizationName("thinline-test");
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, home.path());
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    thinline::app::applyTheme(app, thinline::app::Theme::light());
    testing::InitGoogleTest(&argc, argv);
    return RUN_ALL_TESTS();
}
