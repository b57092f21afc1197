// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Cut station on the real window: with the mouse and the keys.
#include "app/Driver.h"
#include "app/stations/CutStation.h"
#include "document/Drawer.h"
#include "job/Catalogue.h"
#include "support/Jobs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QSlider>
#include <QSpinBox>

namespace thinline::app {
namespace {

class CutWindow : public WindowTest {
  protected:
    void openSign() {
        const std::string drawing =
            "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'>"
            "<path d='M0 0H120V80H0Z' fill='#2f6f8f'/><path d='M20 20H60V60H20Z' fill='#c8452a'/></svg>";
        writeFile(path("sign.svg"), {drawing.begin(), drawing.end()});
        m_window->files().open(path("sign.svg"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        press(QKeySequence("Ctrl+8"));
        ASSERT_TRUE(waitFor([this] { return panel()->plan() != nullptr; }) && settled());
    }
    CutStation* panel() { return m_window->panel<CutStation>(); }
    ::testing::AssertionResult settled() {
        return waitFor([this] { return panel()->isSettled(); }) ? waitUntilQuiet()
                                                                : ::testing::AssertionFailure();
    }
    double shownSeconds() { return static_cast<CutTool*>(panel()->tool())->seconds(); }
};

TEST_F(CutWindow, ALoadIsPlannedLookedAtAndRun) {
    openSign();
    ASSERT_EQ(panel()->plan()->loads.size(), 2u);
    ASSERT_NE(panel()->scene(), nullptr);
    EXPECT_EQ(panel()->scene()->items().size(), 1u) << "one load is looked at";
    // Along the way by the keys.
    auto* way = named<QSlider>("How far the load is cut");
    way->setFocus();
    QTest::keyClick(way, Qt::Key_Home);
    EXPECT_EQ(shownSeconds(), 0);
    for (int i = 0; i < 4; ++i)
        QTest::keyClick(way, Qt::Key_PageUp);
    EXPECT_GT(shownSeconds(), 0);
    EXPECT_LT(shownSeconds(), panel()->plan()->loads[0].seconds);
    // Run it, sixty times as fast.
    QTest::keyClick(way, Qt::Key_Home);
    QTest::mouseClick(buttonOf("60 times"), Qt::LeftButton);
    clickMain();
    EXPECT_TRUE(waitFor([this] { return shownSeconds() >= panel()->plan()->loads[0].seconds - 1e-6; }));
    ASSERT_TRUE(settled());
    EXPECT_TRUE(job().steps.empty()) << "looking changes nothing";
    // What will lie on the mat: all of it free, and nothing through with a dull blade.
    ASSERT_NE(panel()->after(), nullptr);
    EXPECT_EQ(panel()->after()->count(devices::Comes::Free), 1);
    auto* dull = buttonOf("What if the blade is dull");
    QTest::mouseClick(dull, Qt::LeftButton, {}, {8, dull->height() / 2});
    ASSERT_TRUE(waitFor([this] { return panel()->after() && panel()->isSettled(); }));
    EXPECT_EQ(panel()->after()->count(devices::Comes::NotThrough), 1);
}

TEST_F(CutWindow, MachineToolsAndForceAreSaidAndUndone) {
    openSign();
    const double before = panel()->plan()->loads[0].passes[0].forceGf;
    auto* force = named<QSpinBox>("Force");
    force->setFocus();
    force->selectAll();
    QTest::keyClicks(force, "235");
    QTest::keyClick(force, Qt::Key_Return);
    ASSERT_TRUE(
        waitFor([this] { return panel()->plan() && panel()->plan()->loads[0].passes[0].forceGf == 235; }));
    ASSERT_TRUE(settled());
    EXPECT_EQ(job().cut.settings.size(), 1u);
    QTest::mouseClick(buttonOf("As proposed"), Qt::LeftButton);
    ASSERT_TRUE(
        waitFor([&] { return panel()->plan() && panel()->plan()->loads[0].passes[0].forceGf == before; }));
    ASSERT_TRUE(settled());
    // No shallow blade: the plan says so.
    auto* blade = named<QCheckBox>("There is a shallow blade");
    QTest::mouseClick(blade, Qt::LeftButton, {}, {8, blade->height() / 2});
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && !panel()->plan()->faults.empty(); }) && settled());
    EXPECT_EQ(panel()->plan()->faults.front().kind, design::PlanFault::Kind::NoTool);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->faults.empty(); }) && settled());
    EXPECT_TRUE(blade->isChecked());
    // Another machine.
    auto* machine = named<QComboBox>("Machine");
    machine->setFocus();
    QTest::keyClick(machine, Qt::Key_End);
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->machine.id == "wide"; }));
    ASSERT_TRUE(settled());
    // Work that is begun from now on is cut on it too; the stocks that ship are still there.
    const auto kept = support::must(document::readDrawer(m_store, path("drawer.json").toStdString()));
    ASSERT_TRUE(kept.machine);
    EXPECT_EQ(kept.machine->id, "wide");
    EXPECT_EQ(kept.stocks, job::shippedCatalogue().drawer);
}

TEST_F(CutWindow, AMachineThatCameWithTheJobIsShownAndWhatWasPlannedBeforeAWishIsNotShownForIt) {
    openSign();
    design::Machine own = job::machineOf(job());
    own.id = own.name = "mine";
    m_window->bench().act("Own machine", support::must(job::withMachine(job(), own)));
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->machine.id == "mine"; }));
    EXPECT_EQ(named<QComboBox>("Machine")->currentText(), "mine");
    ASSERT_TRUE(settled());
    // A wish, and the station is left before anything could be planned by it.
    const std::string stock = m_window->bench().made().sheets->loads.front().sheets.front().stockId;
    design::Setting more = *job::settingOf(job(), stock);
    more.forceGf = 333;
    m_window->bench().act("Set", support::must(job::withSetting(job(), stock, more)));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitUntilQuiet());
    press(QKeySequence("Ctrl+8"));
    EXPECT_TRUE(waitFor(
        [this] { return panel()->plan() && panel()->plan()->loads.front().passes.front().forceGf == 333; }));
    ASSERT_TRUE(settled());
}

TEST_F(CutWindow, ALookThatChangesNothingMakesNothingAnew) {
    openSign();
    const auto scene = panel()->scene();
    const auto* after = panel()->after();
    panel()->refresh();
    EXPECT_EQ(panel()->scene(), scene);
    EXPECT_EQ(panel()->after(), after);
    EXPECT_TRUE(panel()->isSettled());
}

TEST_F(CutWindow, ChecklistAndPlotterFilesAreWritten) {
    openSign();
    panel()->writeChecklist(path("checklist.txt"));
    ASSERT_TRUE(settled());
    EXPECT_TRUE(QFile::exists(path("checklist.txt")));
    panel()->writePlotter(path("plots"));
    ASSERT_TRUE(settled());
    EXPECT_TRUE(QFile::exists(path("plots") + "/load-1-1-cut.plt"));
    EXPECT_TRUE(QFile::exists(path("plots") + "/load-2-1-cut.plt"));
}

} // namespace
} // namespace thinline::app
