// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Folds station on the real window: with the mouse and the keys.
#include "app/Driver.h"
#include "app/stations/FoldsStation.h"
#include "geometry/Measures.h"
#include "job/LayerSteps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>

namespace thinline::app {
namespace {

class FoldsWindow : public WindowTest {
  protected:
    void openPlate(const QByteArray& path = "M20 20H180V120H20Z") {
        const QByteArray flat =
            "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='160mm' viewBox='0 0 200 160'>"
            "<path d='" +
            path + "' fill='#2f6f8f'/></svg>";
        writeFile(this->path("flat.svg"), {flat.begin(), flat.end()});
        m_window->files().open(this->path("flat.svg"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        press(QKeySequence("Ctrl+5"));
        ASSERT_TRUE(waitUntilQuiet());
        m_plate = work().pieces[0].id();
    }
    void pick(const QString& box, const QString& words) {
        auto* choice = named<QComboBox>(box);
        choice->setFocus();
        QTest::keyClick(choice, Qt::Key_Home);
        for (int i = 0; i < choice->count() && choice->currentText() != words; ++i)
            QTest::keyClick(choice, Qt::Key_Down);
        EXPECT_EQ(choice->currentText().toStdString(), words.toStdString());
    }
    void enter(const QString& field, const QString& number) {
        auto* box = named<QDoubleSpinBox>(field);
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, number);
        QTest::keyClick(box, Qt::Key_Return);
    }
    const std::vector<design::PieceLine>& lines() { return laid(m_plate)->piece.body->lines; }
    ::testing::AssertionResult waitForLines(size_t count) {
        return waitFor([this, count] { return lines().size() == count; }) && waitUntilQuiet()
                   ? ::testing::AssertionSuccess()
                   : ::testing::AssertionFailure() << lines().size();
    }
    ::testing::AssertionResult waitUntilSettled() {
        return waitFor([this] { return m_window->panel<FoldsStation>()->isSettled(); });
    }
    const design::Fold& fold(size_t line) { return std::get<design::Fold>(lines()[line].does); }
    geometry::Point at(double x, double y) { return workBox().least + geometry::Point{x, y}; }
    design::PieceId m_plate;
};

// Three clicks (what is done, the piece, along which sides) and one number.
TEST_F(FoldsWindow, AFlatOutlineBecomesAnEnvelopeReadyToFold) {
    openPlate("M40 40L60 10H140L160 40L190 50V90L160 100L150 140H50L40 100L10 90V50Z");
    pick("What is done", "Fold along its sides");
    clickBench(inside(m_plate));
    pick("Along", "all around");
    enter("Distance from that side", "30");
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().ghost.size(), 4u) << "they are shown before they are taken";
    clickMain();
    ASSERT_TRUE(waitForLines(4));
    for (const design::PieceLine& line : lines()) {
        EXPECT_TRUE(std::holds_alternative<design::Fold>(line.does));
        for (const geometry::Point end : {line.path.start, geometry::endOf(line.path)})
            EXPECT_LT(geometry::nearestOnEdge(laid(m_plate)->shape(), end)->distance, 0.1);
    }
    EXPECT_TRUE(pieceWords(work(), *laid(m_plate), workBox(), job().unit).contains("4 folds"));
    // They lie on the sheet with their piece, and Pack asks how they are made.
    press(QKeySequence("Ctrl+9"));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(buttonOf("perforated")->isVisible());
    QTest::mouseClick(buttonOf("perforated"), Qt::LeftButton);
    EXPECT_EQ(job().plan.foldsAs, design::FoldsAs::Perforation);
    press(QKeySequence::Undo);
    EXPECT_EQ(job().plan.foldsAs, design::FoldsAs::Score);
}

TEST_F(FoldsWindow, ARibbonsWayIsMadeByTwoClicks) {
    openPlate();
    pick("What is done", "Make a way for a ribbon or stick");
    enter("Its slits are long", "14");
    clickBench(at(40, 40));
    clickBench(at(120, 40));
    ASSERT_TRUE(waitForLines(2));
    for (const design::PieceLine& line : lines()) {
        EXPECT_TRUE(std::holds_alternative<design::Slit>(line.does));
        EXPECT_NEAR(geometry::contourLength(line.path), 14, 1e-6);
    }
    ASSERT_EQ(laid(m_plate)->piece.body->zones.size(), 1u);
    EXPECT_EQ(laid(m_plate)->piece.body->zones[0].kind, design::Zone::Kind::Way);
    press(QKeySequence::Undo);
    EXPECT_TRUE(lines().empty());
}

TEST_F(FoldsWindow, WordsAreWrittenInSingleLines) {
    openPlate();
    pick("What is done", "Write in single lines");
    auto* words = named<QLineEdit>("What is written");
    ASSERT_NE(words, nullptr);
    ASSERT_TRUE(words->isVisible());
    type(words, "LT");
    clickBench(at(40, 60));
    clickBench(at(120, 60));
    ASSERT_TRUE(waitForLines(3));
    for (const design::PieceLine& line : lines())
        EXPECT_TRUE(std::holds_alternative<design::Pen>(line.does));
    press(QKeySequence::Undo);
    EXPECT_TRUE(lines().empty());
}

TEST_F(FoldsWindow, FoamIsAskedForByABox) {
    const QByteArray two =
        "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='160mm' viewBox='0 0 200 160'>"
        "<path d='M20 20H180V120H20Z' fill='#2f6f8f'/>"
        "<path d='M60 40H140V100H60Z' fill='#c8452a'/></svg>";
    writeFile(path("two.svg"), {two.begin(), two.end()});
    m_window->files().open(path("two.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+5"));
    ASSERT_TRUE(waitUntilQuiet());
    const design::PieceId upper = work().pieces[1].id();
    m_window->bench().act("Lift", job::withLayerLift(job(), work().pieces[1].layer, 2));
    ASSERT_TRUE(waitUntilQuiet());
    auto* box = named<QCheckBox>("Foam under what is lifted");
    ASSERT_NE(box, nullptr);
    QTest::mouseClick(box, Qt::LeftButton, {}, {8, box->height() / 2});
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(job().foam.isAsked);
    EXPECT_GE(laid(upper)->piece.body->zones.size(), 3u);
}

TEST_F(FoldsWindow, TwoClicksLayALineThatHoldsOnToCornersAndMiddles) {
    openPlate();
    // A little beside the middles of the long sides: the line lies exactly between them.
    const double offMm = 3 / view()->pxPerMm();
    clickBench(at(80 + offMm, offMm));
    clickBench(at(80 - offMm, 100 - offMm));
    ASSERT_TRUE(waitForLines(1));
    EXPECT_NEAR(lines()[0].path.start.x, at(80, 0).x, 1e-6);
    EXPECT_NEAR(geometry::contourLength(lines()[0].path), 100, 1e-6);
    EXPECT_EQ(fold(0), design::Fold{});
    // Along the left edge, at a typed distance, as a score.
    pick("What is done", "Lay a line along an edge");
    enter("Distance from that edge", "20");
    pick("It is", "score");
    clickBench(at(0, 30));
    ASSERT_TRUE(waitForLines(2));
    EXPECT_NEAR(lines()[1].path.start.x, at(20, 0).x, 1e-6);
    EXPECT_TRUE(std::holds_alternative<design::Score>(lines()[1].does));
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitForLines(1));
    // The step is opened again and its distance changed.
    press(QKeySequence("Ctrl+Shift+Z"));
    ASSERT_TRUE(waitForLines(2));
    QTest::mouseClick(named<QPushButton>("Open step 2 again"), Qt::LeftButton);
    enter("Distance from that edge", "35");
    ASSERT_TRUE(waitUntilSettled());
    clickMain();
    ASSERT_TRUE(waitFor([this] { return std::abs(lines()[1].path.start.x - at(35, 0).x) < 1e-6; }));
    EXPECT_EQ(job().steps.size(), 2u);
}

TEST_F(FoldsWindow, ManyLinesAreChangedAtOnceAndOnlyInWhatIsSaid) {
    openPlate();
    for (const double x : {40, 80, 120}) {
        clickBench(at(x, 30));
        clickBench(at(x, 60));
        ASSERT_TRUE(waitForLines(static_cast<size_t>(x / 40)));
    }
    pick("What is done", "Change lines");
    QTest::mouseMove(view(), view()->toWidget(at(40, 50)).toPoint());
    clickBench(at(40, 50)); // one line alone
    EXPECT_EQ(m_window->panel<FoldsStation>()->chosenLines().size(), 1u);
    EXPECT_EQ(view()->lineMarks().chosen.size(), 1u);
    enter("Angle", "45");
    ASSERT_TRUE(waitUntilSettled());
    clickMain();
    ASSERT_TRUE(waitFor([this] { return fold(0).angleDeg == 45; }));
    EXPECT_EQ(job().steps.size(), 3u) << "said in the step that laid it";
    ASSERT_TRUE(waitUntilQuiet());
    clickBench(at(60, 50)); // the piece: all of its lines
    EXPECT_EQ(m_window->panel<FoldsStation>()->chosenLines().size(), 3u);
    pick("It goes", "towards you");
    ASSERT_TRUE(waitUntilSettled());
    clickMain();
    ASSERT_TRUE(waitFor([this] { return fold(2).isTowards; }));
    EXPECT_TRUE(fold(0).isTowards && fold(1).isTowards);
    EXPECT_EQ(fold(0).angleDeg, 45) << "nobody said another angle";
    EXPECT_EQ(fold(1).angleDeg, 90);
    // Two are let go, the last one is taken off by a key; undone, it is there again.
    ASSERT_TRUE(waitUntilQuiet());
    clickBench(at(40, 50));
    clickBench(at(80, 50));
    press(QKeySequence::Delete);
    ASSERT_TRUE(waitForLines(2));
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitForLines(3));
}

TEST_F(FoldsWindow, PanelsAreShownNamedAndGlued) {
    openPlate("M10 20H170L185 28V92L170 100H10Z");
    for (const double x : {40, 80, 120, 160}) {
        clickBench(at(x, 0));
        clickBench(at(x, 80));
        ASSERT_TRUE(waitForLines(static_cast<size_t>(x / 40)));
    }
    ASSERT_TRUE(waitUntilSettled());
    ASSERT_EQ(view()->lineMarks().panels.size(), 5u);
    EXPECT_EQ(view()->lineMarks().panels[0].name, "panel 1, front");
    pick("What is done", "Say what a panel is");
    clickBench(at(60, 40));
    EXPECT_TRUE(view()->lineMarks().panels[1].isChosen);
    type(named<QLineEdit>("Name of the panel"), "bow");
    ASSERT_TRUE(waitFor([this] { return laid(m_plate)->piece.body->panels.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_TRUE(waitUntilSettled());
    QTest::mouseClick(buttonOf("It is the front"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return laid(m_plate)->piece.body->panels[0].isFront; }));
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().panels[1].name, "bow, front") << "still chosen, found again by its place";
    EXPECT_EQ(job().steps.size(), 5u) << "what is said of one panel, one after the other, is one step";
    clickBench(at(167, 40));
    QTest::mouseClick(buttonOf("Glue it"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return laid(m_plate)->piece.body->zones.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(view()->marks().zones(), 1u);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return laid(m_plate)->piece.body->zones.empty(); }));
}

TEST_F(FoldsWindow, AFlapIsAskedBehindWhichEdgeItGoes) {
    openPlate("M10 20H122V70H10Z");
    for (const double x : {50, 100}) {
        clickBench(at(x, 0));
        clickBench(at(x, 50));
        ASSERT_TRUE(waitForLines(static_cast<size_t>(x / 50)));
    }
    ASSERT_TRUE(waitUntilSettled());
    pick("What is done", "Say what a panel is");
    clickBench(at(106, 25));
    auto* behind = named<QComboBox>("Glued behind");
    ASSERT_TRUE(behind);
    EXPECT_EQ(behind->currentText(), "not said yet");
    behind->setFocus();
    QTest::keyClick(behind, Qt::Key_End);
    const auto isSaid = [this] {
        const auto& zones = laid(m_plate)->piece.body->zones;
        return zones.size() == 1 && zones[0].behind.has_value();
    };
    ASSERT_TRUE(waitFor(isSaid) && waitUntilQuiet() && waitUntilSettled()) << "choosing an edge glues it";
    EXPECT_NE(behind->currentText(), "not said yet");
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return laid(m_plate)->piece.body->zones.empty(); }));
}

TEST_F(FoldsWindow, WindowsGetPanesInAStockThatLetsLightThrough) {
    openPlate("M20 20H180V120H20Z M60 50V90H80V50Z M120 50V90H140V50Z");
    pick("What is done", "Put panes behind windows");
    clickBench(at(50, 50)); // in a window lies no card
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().ghost.size(), 1u) << "its pane";
    clickBench(at(10, 10)); // the card: all of its windows
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().ghost.size(), 2u);
    enter("Larger all round by", "6");
    ASSERT_TRUE(waitUntilSettled());
    clickMain();
    ASSERT_TRUE(waitFor([this] { return work().pieces.size() == 3; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(laid(m_plate)->piece.body->zones.size(), 2u);
    int panes = 0;
    for (const design::Laid& one : work().pieces)
        if (!(one.id() == m_plate)) {
            const design::Stock* stock = design::findStock(work().stocks, work().layerOf(one).stockId);
            EXPECT_TRUE(stock && stock->isTranslucent);
            EXPECT_EQ(work().layerOf(one).at, design::Layer::At::Back);
            EXPECT_NEAR(geometry::bounds(one.shape()).width(), 32, 0.02);
            ++panes;
        }
    EXPECT_EQ(panes, 2);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return work().pieces.size() == 1; }));
}

TEST_F(FoldsWindow, MotifsGoIntoWindowsAndAreHeldThere) {
    const QByteArray svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='260mm' height='160mm' viewBox='0 0 260 160'>"
        "<path d='M20 20H180V120H20Z M40 40V100H90V40Z M110 40V100H160V40Z' fill='#2f6f8f'/>"
        "<path d='M210 40L222 70H198Z' fill='#c8452a'/><path d='M198 90H222V114H198Z' fill='#c8452a'/></svg>";
    writeFile(path("motifs.svg"), {svg.begin(), svg.end()});
    m_window->files().open(path("motifs.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces() && work().pieces.size() == 3; }));
    press(QKeySequence("Ctrl+5"));
    ASSERT_TRUE(waitUntilQuiet());
    for (const design::Laid& one : work().pieces)
        if (!one.shape().openings.empty())
            m_plate = one.id();
    pick("What is done", "Fit motifs into windows");
    const geometry::Point corner = geometry::bounds(laid(m_plate)->shape()).least;
    const auto there = [&](double x, double y) { return corner + geometry::Point{x - 20, y - 20}; };
    clickBench(there(65, 70));  // a window
    clickBench(there(210, 60)); // and what goes into it
    enter("Runs into the frame by", "4");
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().ghost.size(), 1u) << "the motif in its place";
    EXPECT_GE(view()->lineMarks().chosen.size(), 2u) << "where it holds";
    auto* note = m_window->panel<FoldsStation>()->findChild<QLabel*>("warning");
    const auto isTold = [this](const QString& words) {
        for (const auto* label : m_window->panel<FoldsStation>()->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words))
                return true;
        return false;
    };
    EXPECT_TRUE(isTold("% of its size, held on"));
    auto* sides = named<QSpinBox>("On so many sides");
    sides->setFocus();
    for (int i = 0; i < 2; ++i)
        QTest::keyClick(sides, Qt::Key_Up);
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_TRUE(note->text().contains("4 are asked")) << note->text().toStdString();
    for (int i = 0; i < 2; ++i)
        QTest::keyClick(sides, Qt::Key_Down);
    ASSERT_TRUE(waitUntilSettled());
    clickBench(there(135, 70)); // many at once, each with its own
    clickBench(there(210, 100));
    ASSERT_TRUE(waitUntilSettled());
    EXPECT_EQ(view()->lineMarks().ghost.size(), 2u);
    clickMain();
    ASSERT_TRUE(waitFor([this] { return work().pieces.size() == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_GT(geometry::area(laid(m_plate)->shape()), 160 * 100 - 2 * 50 * 60 + 500);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return work().pieces.size() == 3; }));
}

TEST_F(FoldsWindow, AFoldThatStopsIsRunOnAtAClickInTheTray) {
    openPlate();
    pick("Its ends", "stop where drawn");
    clickBench(at(80, 20));
    clickBench(at(80, 60));
    ASSERT_TRUE(waitForLines(1));
    EXPECT_NEAR(geometry::contourLength(lines()[0].path), 40, 2);
    QAbstractButton* mend = nullptr;
    ASSERT_TRUE(waitFor([&] {
        for (auto* button : m_window->findChildren<QAbstractButton*>())
            if (button->isVisible() && button->text() == "Run on")
                mend = button;
        return mend != nullptr;
    }));
    QTest::mouseClick(mend, Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return std::abs(geometry::contourLength(lines()[0].path) - 100) < 1e-6; }));
}

TEST_F(FoldsWindow, MarksAreAskedForByLayer) {
    const QByteArray two =
        "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='160mm' viewBox='0 0 200 160'>"
        "<path d='M20 20H180V120H20Z' fill='#3c7d8c'/><path d='M60 50H120V90H60Z' fill='#c8452a'/></svg>";
    writeFile(path("two.svg"), {two.begin(), two.end()});
    m_window->files().open(path("two.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+5"));
    ASSERT_TRUE(waitUntilQuiet());
    m_plate = work().pieces[0].id();
    QTest::mouseClick(named<QCheckBox>("Marks for signal red"), Qt::LeftButton, {}, {8, 8});
    ASSERT_TRUE(waitForLines(1));
    EXPECT_NEAR(geometry::contourLength(lines()[0].path), 2 * (60 - 1.4 + 40 - 1.4), 1e-6);
    type(named<LengthField>("Inside the edge by"), "2");
    ASSERT_TRUE(waitFor(
        [this] { return std::abs(geometry::contourLength(lines()[0].path) - 2 * (56 + 36)) < 1e-6; }));
    pick("What is done", "Change lines");
    clickBench(at(40 + 2, 50)); // a mark is no line that could be changed by itself
    EXPECT_TRUE(m_window->panel<FoldsStation>()->chosenLines().empty());
}

} // namespace
} // namespace thinline::app
