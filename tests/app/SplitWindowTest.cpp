// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Split station on the real window: with the mouse and the keys.
#include "app/Driver.h"
#include "app/stations/SplitStation.h"
#include "job/Sizing.h"

#include <QComboBox>
#include <QSlider>

namespace thinline::app {
namespace {

class SplitWindow : public WindowTest {
  protected:
    /// A strip of 520 x 80 mm with a bar of another colour across it.
    void openStrip() {
        const std::string drawing =
            "<svg xmlns='http://www.w3.org/2000/svg' width='520mm' height='80mm' viewBox='0 0 520 80'>"
            "<path d='M0 0H520V80H0Z' fill='#2f6f8f'/><path d='M250 10H270V70H250Z' fill='#c8452a'/></svg>";
        writeFile(path("strip.svg"), {drawing.begin(), drawing.end()});
        m_window->files().open(path("strip.svg"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        press(QKeySequence("Ctrl+6"));
        ASSERT_TRUE(waitFor([this] { return panel()->draft() != nullptr; }) && settled());
    }
    SplitStation* panel() { return m_window->panel<SplitStation>(); }
    ::testing::AssertionResult settled() {
        return waitFor([this] { return panel()->isSettled(); }) ? waitUntilQuiet()
                                                                : ::testing::AssertionFailure();
    }
    bool says(const QString& words) {
        for (auto* button : m_window->findChildren<QAbstractButton*>())
            if (button->isVisible() && button->text().startsWith(words))
                return true;
        return false;
    }
    size_t parts() { return panel()->draft()->division.parts.size(); }
};

TEST_F(SplitWindow, WhatIsTooLargeIsProposedTakenAndLookedAtApart) {
    openStrip();
    ASSERT_EQ(parts(), 2u);
    EXPECT_LT(panel()->draft()->division.seenMm, 30) << "it goes under the bar";
    EXPECT_TRUE(panel()->draft()->faults.empty());
    clickMain();
    ASSERT_TRUE(waitFor([this] { return job().steps.size() == 1; }) && settled());
    EXPECT_EQ(work().pieces.size(), 3u);
    EXPECT_EQ(panel()->draft(), nullptr);
    // Apart: nothing of the bar is shown, and the parts lie farther from one another.
    const double before = panel()->scene()->workBox().width();
    auto* slider = named<QSlider>("How far apart the parts are shown");
    slider->setFocus();
    for (int i = 0; i < 3; ++i)
        QTest::keyClick(slider, Qt::Key_PageUp);
    ASSERT_TRUE(settled());
    EXPECT_EQ(panel()->scene()->items().size(), 2u);
    EXPECT_GT(panel()->scene()->workBox().width(), before + 20);
    // On to the sheets: all fits now.
    clickMain();
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }) && waitUntilQuiet());
    EXPECT_TRUE(m_window->bench().made().sheets->unplaced.empty());
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_TRUE(job().steps.empty());
}

TEST_F(SplitWindow, SheetsAreCountedAndALongerMatOrASmallerSizeIsAClick) {
    openStrip();
    const auto find = [this](const QString& from, const QString& words) -> QAbstractButton* {
        for (auto* button : m_window->findChildren<QAbstractButton*>())
            if (button->isVisible() && button->text().startsWith(from) && button->text().contains(words))
                return button;
        return nullptr;
    };
    EXPECT_TRUE(waitFor([&] { return find("Fewest parts", "at most 1 sheet") != nullptr; }));
    ASSERT_TRUE(waitFor([&] { return find("Mat 12 × 24 in", "no seam") != nullptr; }));
    QTest::mouseClick(find("Mat 12 × 24 in", "no seam"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.matId == "long24"; }) && settled());
    EXPECT_EQ(panel()->draft(), nullptr);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return panel()->draft() != nullptr; }) && settled());
    EXPECT_EQ(job().plan.matId, "square12");
    const double before = workBox().width();
    ASSERT_TRUE(waitFor([&] { return find("At ", "no seam") != nullptr; }));
    QAbstractButton* smaller = find("At ", "no seam");
    const double percent = smaller->text().section(' ', 1, 1).toDouble();
    QTest::mouseClick(smaller, Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return panel()->draft() == nullptr; }) && settled());
    EXPECT_NEAR(workBox().width(), before * percent / 100, 1e-6);
}

TEST_F(SplitWindow, ASeamIsDraggedBentDrawnAndTakenOut) {
    openStrip();
    const geometry::Line seam = panel()->draft()->seams.front().path;
    const geometry::Point end = seam.start;
    dragBench(end, end + geometry::Point{40, 3});
    ASSERT_TRUE(settled());
    const auto ends = [this] { return panel()->draft()->seams.front().path; };
    const auto movedEnd = [&] {
        return geometry::distance(ends().start, end) > 20 ? ends().start : geometry::endOf(ends());
    };
    EXPECT_NEAR(movedEnd().x, end.x + 40, 1.5);
    EXPECT_NEAR(movedEnd().y, end.y, 1e-6) << "an end stays on the edge";
    EXPECT_TRUE(waitFor([this] { return says("Laid by hand"); }));
    // A bend where the seam is dragged.
    const geometry::Point middle = geometry::middleOf(ends());
    const size_t steps = ends().segments.size();
    dragBench(middle, middle + geometry::Point{-25, 0});
    ASSERT_TRUE(settled());
    EXPECT_EQ(ends().segments.size(), steps + 1);
    // Another seam, from edge to edge.
    auto* draw = buttonOf("Draw a seam");
    QTest::mouseClick(draw, Qt::LeftButton, {}, {8, draw->height() / 2});
    dragBench({120, 1}, {125, 79});
    ASSERT_TRUE(settled());
    EXPECT_EQ(parts(), 3u);
    QTest::mouseClick(draw, Qt::LeftButton, {}, {8, draw->height() / 2});
    // A click chooses it; then it is taken out.
    clickBench(geometry::middleOf(panel()->draft()->seams.back().path));
    QTest::mouseClick(buttonOf("Take this seam out"), Qt::LeftButton);
    ASSERT_TRUE(settled());
    EXPECT_EQ(parts(), 2u);
    EXPECT_TRUE(job().steps.empty()) << "nothing of it is a step before it is taken";
    clickMain();
    ASSERT_TRUE(waitFor([this] { return job().steps.size() == 1; }) && settled());
    const auto taken =
        split::wishOf(*job().steps.front(), m_window->bench().made().after.front().before->now.front());
    ASSERT_EQ(taken.seams.size(), 1u);
    EXPECT_EQ(taken.seams.front().path.segments.size(), steps + 1);
    // Opened again it lies there as it was.
    QTest::mouseClick(buttonOf("Open"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return panel()->draft() != nullptr; }) && settled());
    EXPECT_EQ(panel()->draft()->seams.front().path.segments.size(), steps + 1);
}

TEST_F(SplitWindow, SeamsLaidByHandOutliveAChangeOfSize) {
    openStrip();
    const geometry::Point end = panel()->draft()->seams.front().path.start;
    dragBench(end, end + geometry::Point{-30, 0});
    ASSERT_TRUE(settled());
    const double before = geometry::middleOf(panel()->draft()->seams.front().path).x / workBox().width();
    m_window->bench().run("Size", [](const job::State& now, const base::Progress& progress) {
        return job::scaled(now, 1.05, {}, progress);
    });
    ASSERT_TRUE(
        waitFor([this] { return workBox().width() > 540 && panel()->draft() && panel()->isSettled(); }) &&
        settled());
    EXPECT_TRUE(waitFor([this] { return says("Laid by hand"); }));
    EXPECT_NEAR(geometry::middleOf(panel()->draft()->seams.front().path).x / workBox().width(), before, 1e-6);
    // And a look at another station.
    press(QKeySequence("Ctrl+3"));
    press(QKeySequence("Ctrl+6"));
    ASSERT_TRUE(settled());
    EXPECT_TRUE(waitFor([this] { return says("Laid by hand"); }));
}

TEST_F(SplitWindow, TheRestIsProposedRoundASeamThatIsKept) {
    openStrip();
    // One seam far at the left: what is right of it is still too large.
    auto* draw = buttonOf("Draw a seam");
    clickBench(geometry::middleOf(panel()->draft()->seams.front().path));
    QTest::mouseClick(buttonOf("Take this seam out"), Qt::LeftButton);
    ASSERT_TRUE(settled());
    QTest::mouseClick(draw, Qt::LeftButton, {}, {8, draw->height() / 2});
    dragBench({100, 1}, {100, 79});
    ASSERT_TRUE(settled());
    EXPECT_EQ(parts(), 2u);
    EXPECT_FALSE(panel()->draft()->faults.empty()) << "part 2 is still too long";
    QTest::mouseClick(buttonOf("Keep these seams and propose the rest"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return panel()->isSettled() && parts() == 3; }));
    EXPECT_TRUE(panel()->draft()->faults.empty());
    EXPECT_NEAR(panel()->draft()->seams.front().path.start.x, 100, 1.5);
}

TEST_F(SplitWindow, TheJointOfOneSeamIsChanged) {
    openStrip();
    EXPECT_EQ(panel()->draft()->joined.seams.front().joint, split::Joint::Keyed);
    clickBench(geometry::middleOf(panel()->draft()->seams.front().path));
    auto* joint = named<QComboBox>("Joint of this seam");
    joint->setFocus();
    QTest::keyClick(joint, Qt::Key_Home);
    ASSERT_TRUE(settled());
    EXPECT_EQ(panel()->draft()->joined.seams.front().joint, split::Joint::Butt);
}

TEST_F(SplitWindow, ShiftAndAClickKeepWhatLiesAboveWholeAndABoardGoesBehindIt) {
    openStrip();
    const double x = geometry::middleOf(panel()->draft()->seams.front().path).x;
    EXPECT_TRUE(x > 250 && x < 270) << "under the bar";
    const QPoint bar = view()->toWidget({260, 20}).toPoint();
    QTest::mouseMove(view(), bar);
    QTest::mouseClick(view(), Qt::LeftButton, Qt::ShiftModifier, bar);
    ASSERT_TRUE(settled());
    ASSERT_TRUE(waitFor([&] {
        const double now = panel()->draft() ? geometry::middleOf(panel()->draft()->seams.front().path).x : x;
        return panel()->isSettled() && (now < 250 || now > 270);
    }));
    QTest::mouseClick(buttonOf("Let seams go there again"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] {
        return panel()->isSettled() && panel()->draft() &&
               std::abs(geometry::middleOf(panel()->draft()->seams.front().path).x - x) < 1e-6;
    }));
    clickMain();
    ASSERT_TRUE(waitFor([this] { return job().steps.size() == 1; }) && settled());
    ASSERT_TRUE(waitFor([this] { return says("Back it all with board"); }));
    QTest::mouseClick(buttonOf("Back it all with board"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().steps.size() == 2; }) && settled());
    EXPECT_EQ(work().pieces.front().piece.name, "the backing board");
    EXPECT_NEAR(geometry::bounds(work().pieces.front().shape()).width(), 516, 0.1);
    EXPECT_EQ(panel()->draft(), nullptr) << "board is cut by hand";
}

} // namespace
} // namespace thinline::app
