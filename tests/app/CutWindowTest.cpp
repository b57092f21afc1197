// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Cut station on the real window: with the mouse and the keys.
#include "app/Driver.h"
#include "app/stations/AssemblyDialog.h"
#include "app/stations/ChecklistDialog.h"
#include "app/stations/CutStation.h"
#include "app/stations/LogbookDialog.h"
#include "app/stations/MachineDialog.h"
#include "app/stations/ReleaseDialog.h"
#include "document/Drawer.h"
#include "job/Catalogue.h"
#include "support/Jobs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>

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
    bool isSaid(const QString& words) {
        for (const QLabel* label : panel()->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words))
                return true;
        return false;
    }
    QPushButton* buttonThatCutsAt() {
        for (QPushButton* button : panel()->findChildren<QPushButton*>())
            if (button->isVisible() && button->text().startsWith("Cut at "))
                return button;
        return nullptr;
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
}

TEST_F(CutWindow, ABeginnerLearnsToLookBeforeUnloading) {
    openSign();
    auto* what = named<QComboBox>("What if");
    what->setFocus();
    QTest::keyClick(what, Qt::Key_Down); // the blade is dull
    ASSERT_TRUE(waitFor([this] { return panel()->after() && panel()->isSettled(); }));
    EXPECT_EQ(panel()->after()->count(devices::Comes::NotThrough), 1);
    const auto runIt = [this] {
        QTest::mouseClick(buttonOf("60 times"), Qt::LeftButton);
        QTest::keyClick(named<QSlider>("How far the load is cut"), Qt::Key_Home);
        clickMain();
        return waitFor([this] { return panel()->mainButton()->text() == "Lift a corner"; });
    };
    ASSERT_TRUE(runIt());
    clickMain();
    EXPECT_EQ(panel()->mainButton()->text(), "Run the same cut again");
    // Once more, and it is through.
    clickMain();
    ASSERT_TRUE(waitFor([this] { return panel()->after() && panel()->isSettled(); }));
    EXPECT_EQ(panel()->after()->count(devices::Comes::Free), 1);
    EXPECT_EQ(panel()->mainButton()->text(), "Lift a corner");
    clickMain();
    EXPECT_EQ(panel()->mainButton()->text(), "Run the load");
    // Another time it is unloaded too early: the card is lost.
    ASSERT_TRUE(runIt());
    clickMain();
    QTest::mouseClick(buttonOf("Unload as it is"), Qt::LeftButton);
    EXPECT_TRUE(isSaid("Unloaded too early: 1 piece lost"));
    EXPECT_EQ(panel()->mainButton()->text(), "Run the load");
    // On a worn mat nothing small is there to wander; a sheet askew loses nothing in the middle.
    QTest::keyClick(what, Qt::Key_Down);
    ASSERT_TRUE(waitFor([this] { return panel()->after() && panel()->isSettled(); }));
    EXPECT_TRUE(panel()->after()->slips.empty());
}

TEST_F(CutWindow, TheAnswerGoesToTheLogbookAndTheDrawerAndTeaches) {
    openSign();
    // Two sheets of what is cut first are in the drawer.
    const std::string stock =
        m_window->bench().made().sheets->loads[panel()->plan()->loads[0].load].sheets[0].stockId;
    job::Job counted = job();
    for (design::Stock& one : counted.stocks)
        if (one.id == stock)
            one.sizes = {{304.8, 304.8, 2}};
    m_window->bench().act("Count", counted);
    ASSERT_TRUE(m_window->bench().keepDrawer());
    ASSERT_TRUE(waitFor([this] {
        return !m_window->bench().isBusy() && !m_window->bench().isBehind() && panel()->plan() &&
               panel()->isSettled();
    }));
    const auto there = [&] {
        const auto drawer = support::must(document::readDrawer(m_store, path("drawer.json").toStdString()));
        return *design::findStock(drawer.stocks, stock)->sizes.front().count;
    };
    const auto entered = [&] {
        const auto book =
            logbook::Logbook::open(path("logbook.sqlite").toStdString(), logbook::Logbook::Open::Existing);
        return book ? support::must(book->find()).size() : 0;
    };
    const double first = panel()->plan()->loads[0].passes[0].forceGf;
    QTest::mouseClick(named<QPushButton>("Enter: not through"), Qt::LeftButton);
    ASSERT_TRUE(settled());
    EXPECT_EQ(entered(), 1u);
    EXPECT_EQ(there(), 2) << "the card lies on the mat still";
    EXPECT_TRUE(isSaid("Run the same cut again before you unload."));
    // Ten per cent more is proposed, and taken with a click: a step that is undone like any other.
    ASSERT_TRUE(waitFor([&] { return buttonThatCutsAt() != nullptr; }));
    QTest::mouseClick(buttonThatCutsAt(), Qt::LeftButton);
    ASSERT_TRUE(waitFor(
        [&] { return panel()->plan() && panel()->plan()->loads[0].passes[0].forceGf > 1.09 * first; }));
    ASSERT_TRUE(settled());
    QTest::mouseClick(named<QPushButton>("Enter: clean"), Qt::LeftButton);
    ASSERT_TRUE(settled());
    EXPECT_EQ(entered(), 2u);
    EXPECT_EQ(there(), 1);
    EXPECT_TRUE(isSaid("taken from the drawer, 1 there."));
    // Taken back.
    QTest::mouseClick(buttonOf("Take back"), Qt::LeftButton);
    ASSERT_TRUE(settled());
    EXPECT_EQ(entered(), 1u);
    EXPECT_EQ(there(), 2);
    press(QKeySequence::Undo);
    ASSERT_TRUE(
        waitFor([&] { return panel()->plan() && panel()->plan()->loads[0].passes[0].forceGf == first; }) &&
        settled());
}

TEST_F(CutWindow, TheLogbookIsLookedThroughWrittenAndRead) {
    openSign();
    QTest::mouseClick(buttonOf("Logbook…"), Qt::LeftButton);
    auto* dialog = m_window->findChild<LogbookDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto quiet = [&] { return waitFor([&] { return dialog->isSettled(); }); };
    ASSERT_TRUE(quiet());
    EXPECT_TRUE(dialog->shown().empty());
    const auto field = [&](const char* name) {
        for (QWidget* one : dialog->findChildren<QWidget*>())
            if (one->accessibleName() == name)
                return one;
        return static_cast<QWidget*>(nullptr);
    };
    const auto press = [&](const char* words) {
        for (QPushButton* button : dialog->findChildren<QPushButton*>())
            if (button->text() == words)
                QTest::mouseClick(button, Qt::LeftButton);
    };
    QTest::keyClicks(field("Note"), "by hand");
    press("Enter");
    ASSERT_TRUE(quiet());
    ASSERT_EQ(dialog->shown().size(), 1u);
    EXPECT_EQ(dialog->shown()[0].note, "by hand");
    QTest::keyClick(field("What is entered"), Qt::Key_Down); // a new blade
    press("Enter");
    ASSERT_TRUE(quiet());
    ASSERT_EQ(dialog->shown().size(), 2u);
    EXPECT_EQ(dialog->shown()[0].what, logbook::What::NewBlade);
    QTest::keyClick(field("What is entered"), Qt::Key_End);
    QTest::keyClick(field("What is entered"), Qt::Key_Up); // what fitted
    type(static_cast<QLineEdit*>(field("Offset step that fitted")), "3.2 mm");
    press("Enter");
    ASSERT_TRUE(quiet());
    ASSERT_EQ(dialog->shown().size(), 3u);
    EXPECT_EQ(dialog->shown()[0].what, logbook::What::Fit);
    EXPECT_EQ(dialog->shown()[0].stepMm, 3.2);
    EXPECT_NEAR(dialog->shown()[0].widthMm, 120, 1e-6);
    QTest::keyClicks(field("Look for words"), "by hand");
    ASSERT_TRUE(waitFor([&] { return dialog->isSettled() && dialog->shown().size() == 1; }));
    dialog->exportTo(path("log.csv"));
    ASSERT_TRUE(quiet());
    auto* table = static_cast<QTableWidget*>(field("Entries"));
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                      table->visualItemRect(table->item(0, 0)).center());
    press("Take out");
    ASSERT_TRUE(waitFor([&] { return dialog->isSettled() && dialog->shown().empty(); }));
    dialog->importFrom(path("log.csv"));
    ASSERT_TRUE(waitFor([&] { return dialog->isSettled() && dialog->shown().size() == 1; }));
    dialog->importFrom(path("sign.svg"));
    ASSERT_TRUE(quiet());
    EXPECT_EQ(dialog->shown().size(), 1u);
    dialog->close();
}

TEST_F(CutWindow, TheMachineIsDescribedOnceAndKept) {
    openSign();
    QTest::mouseClick(buttonOf("Tools, lines…"), Qt::LeftButton);
    auto* dialog = m_window->findChild<MachineDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto field = [&](const char* name) {
        for (QWidget* one : dialog->findChildren<QWidget*>())
            if (one->accessibleName() == name)
                return one;
        ADD_FAILURE() << name;
        return static_cast<QWidget*>(dialog);
    };
    const auto type = [&](const char* name, const char* keys) {
        QWidget* one = field(name);
        one->setFocus();
        QTest::keyClick(one, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(one, keys);
        QTest::keyClick(one, Qt::Key_Return);
    };
    // No shallow blade: the plan says so, and it is undone.
    QTest::mouseClick(field("There is a shallow blade"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && !panel()->plan()->faults.empty(); }) && settled());
    EXPECT_EQ(panel()->plan()->faults.front().kind, design::PlanFault::Kind::NoTool);
    QTest::mouseClick(field("There is a shallow blade"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->faults.empty(); }) && settled());
    // Wider than those that ship: it is somebody's own from here on.
    type("Widest mat", "400 mm");
    type("Most force", "450");
    EXPECT_EQ(job().cut.machine->id, job::kOwnMachine);
    EXPECT_EQ(job().cut.machine->usableWidthMm, 400);
    EXPECT_EQ(job().cut.machine->mostGf, 450);
    // Lines: cuts go on beyond their beginning, and a tile is laid.
    type("Cuts go on for", "1 mm");
    EXPECT_EQ(job().cut.aids.overcutMm, 1);
    for (QCheckBox* box : dialog->findChildren<QCheckBox*>())
        if (box->text().startsWith("A test tile"))
            QTest::mouseClick(box, Qt::LeftButton, {}, {8, box->height() / 2});
    EXPECT_TRUE(job().cut.hasTiles);
    dialog->close();
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->loads[0].tile; }) && settled());
    const auto kept = support::must(document::readDrawer(m_store, path("drawer.json").toStdString()));
    EXPECT_EQ(kept.machine->usableWidthMm, 400);
}

TEST_F(CutWindow, AnotherStockStandsInForOneThatIsOut) {
    openSign();
    const std::string before =
        m_window->bench().made().sheets->loads[panel()->plan()->loads[0].load].sheets[0].stockId;
    const auto isCutFromIt = [&] {
        return std::any_of(job().layers.begin(), job().layers.end(),
                           [&](const design::Layer& layer) { return layer.stockId == before; });
    };
    QTest::mouseClick(buttonOf("Out of card…"), Qt::LeftButton);
    auto* menu = m_window->findChild<QMenu*>("others");
    ASSERT_NE(menu, nullptr);
    ASSERT_FALSE(menu->actions().isEmpty());
    QTest::keyClick(menu, Qt::Key_Down);
    QTest::keyPress(menu, Qt::Key_Return); // it is gone before the key is let go
    ASSERT_TRUE(waitFor([&] { return !isCutFromIt(); }) && settled());
    m_window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    press(QKeySequence::Undo);
    EXPECT_TRUE(waitFor(isCutFromIt) && settled());
}

TEST_F(CutWindow, APackageForOthersIsLookedAtAndWritten) {
    openSign();
    press(QKeySequence("Ctrl+9"));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(buttonOf("A package for others"), Qt::LeftButton);
    auto* dialog = m_window->findChild<ReleaseDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto rows = [&](size_t count) {
        return waitFor([&] { return dialog->isSettled() && dialog->rows().size() == count; });
    };
    const auto tick = [&](const QString& words) {
        for (QCheckBox* box : dialog->findChildren<QCheckBox*>())
            if (box->text() == words)
                QTest::mouseClick(box, Qt::LeftButton, {}, {8, box->height() / 2});
    };
    ASSERT_TRUE(rows(1));
    EXPECT_EQ(dialog->rows()[0].variant.name, "as-it-is");
    for (const char* words : {"letter", "A4", "by hand", "DXF"}) // nothing folds: by hand cannot be ticked
        tick(words);
    for (QLineEdit* field : dialog->findChildren<QLineEdit*>())
        if (field->accessibleName() == "Sizes in per cent")
            type(field, "100, 80");
    ASSERT_TRUE(rows(4));
    EXPECT_TRUE(dialog->rows()[0].canBeCut());
    dialog->packTo(path("given"));
    ASSERT_TRUE(waitFor([&] { return dialog->isSettled(); }));
    EXPECT_EQ(QDir(path("given") + "/1 cut/a4-80/dxf").entryList({"*.dxf"}).size(), 2);
    dialog->packTo(path("given.zip"));
    ASSERT_TRUE(waitFor([&] { return dialog->isSettled(); }));
    EXPECT_TRUE(QFile::exists(path("given.zip")));
    EXPECT_TRUE(job().plan.sheetId != "letter") << "the job is as it was";
    dialog->close();
}

TEST_F(CutWindow, AssemblySheetsAreShownWordedAndWritten) {
    openSign();
    press(QKeySequence("Ctrl+9"));
    ASSERT_TRUE(waitUntilQuiet());
    QTest::mouseClick(buttonOf("How it is put together…"), Qt::LeftButton);
    auto* dialog = m_window->findChild<AssemblyDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto settledDialog = [&] { return waitFor([&] { return dialog->isSettled(); }); };
    ASSERT_TRUE(settledDialog());
    const auto named = [&](const QString& name) -> QWidget* {
        for (QWidget* one : dialog->findChildren<QWidget*>())
            if (one->accessibleName() == name)
                return one;
        return nullptr;
    };
    const auto click = [&](const QString& words) {
        for (QPushButton* button : dialog->findChildren<QPushButton*>())
            if (button->text() == words && button->isVisible() && button->isEnabled())
                return QTest::mouseClick(button, Qt::LeftButton);
        ADD_FAILURE() << words.toStdString();
    };
    auto* steps = qobject_cast<QListWidget*>(named("Steps"));
    ASSERT_NE(steps, nullptr);
    ASSERT_EQ(steps->count(), 2);
    EXPECT_TRUE(steps->item(1)->text().startsWith("2  Glue 2")) << steps->item(1)->text().toStdString();
    QTest::mouseClick(steps->viewport(), Qt::LeftButton, {}, steps->visualItemRect(steps->item(1)).center());
    auto* words = qobject_cast<QPlainTextEdit*>(named("Words of this step"));
    QTest::mouseClick(words->viewport(), Qt::LeftButton);
    words->selectAll();
    QTest::keyClicks(words, "Stick the red one on.");
    click("Say it so");
    ASSERT_TRUE(
        waitFor([&] { return steps->item(1) && steps->item(1)->text().endsWith("Stick the red one on."); }));
    ASSERT_TRUE(settledDialog());
    EXPECT_EQ(job().assembly.texts.size(), 1u);
    auto* item = qobject_cast<QLineEdit*>(named("Something you bring"));
    QTest::mouseClick(item, Qt::LeftButton);
    QTest::keyClicks(item, "a frame");
    auto* into = qobject_cast<QComboBox*>(named("What it is put into"));
    ASSERT_EQ(into->count(), 2);
    into->setFocus();
    QTest::keyClick(into, Qt::Key_Down);
    QTest::keyClick(item, Qt::Key_Return);
    auto* items = qobject_cast<QListWidget*>(named("What you bring"));
    ASSERT_TRUE(waitFor([&] { return items->count() == 1; }) && settledDialog());
    ASSERT_EQ(job().assembly.items.size(), 1u);
    EXPECT_TRUE(job().assembly.items[0].at);
    EXPECT_EQ(steps->count(), 3) << "it is put in by a step of its own";
    click("As the program tells it");
    ASSERT_TRUE(waitFor([&] { return job().assembly.texts.empty() && dialog->isSettled(); }));
    click("Page before");
    dialog->writeTo(path("sheets.pdf"));
    ASSERT_TRUE(settledDialog());
    EXPECT_TRUE(QFile::exists(path("sheets.pdf")));
    dialog->close();
    m_window->bench().undo();
    EXPECT_FALSE(job().assembly.texts.empty()) << "each is one step of the job's own history";
}

TEST_F(CutWindow, TheChecklistIsTickedOff) {
    openSign();
    QTest::mouseClick(buttonOf("Checklist…"), Qt::LeftButton);
    auto* dialog = m_window->findChild<ChecklistDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto boxes = dialog->findChildren<QCheckBox*>();
    ASSERT_GT(boxes.size(), 5);
    for (QCheckBox* box : boxes)
        box->click();
    bool isDone = false;
    for (const QLabel* label : dialog->findChildren<QLabel*>())
        isDone = isDone || label->text() == "All done";
    EXPECT_TRUE(isDone);
    dialog->close();
}

TEST_F(CutWindow, MachineAndForceAreSaidAndUndone) {
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

TEST_F(CutWindow, WhatIsBeingTypedIsNotSetBackByAPlan) {
    openSign();
    auto* force = named<QSpinBox>("Force");
    force->setFocus();
    force->selectAll();
    QTest::keyClicks(force, "24");
    design::Machine own = job::machineOf(job());
    own.id = own.name = "mine";
    m_window->bench().act("Own machine", support::must(job::withMachine(job(), own)));
    ASSERT_TRUE(waitFor([this] { return panel()->plan() && panel()->plan()->machine.id == "mine"; }));
    ASSERT_TRUE(settled());
    QTest::keyClicks(force, "0");
    QTest::keyClick(force, Qt::Key_Return);
    ASSERT_TRUE(
        waitFor([this] { return panel()->plan() && panel()->plan()->loads[0].passes[0].forceGf == 240; }));
    ASSERT_TRUE(settled());
    // Once taken it shows what holds, also while it is still looked at.
    press(QKeySequence::Undo);
    ASSERT_TRUE(settled());
    EXPECT_NE(force->value(), 240);
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
    panel()->writeDxf(path("dxf"));
    ASSERT_TRUE(settled());
    EXPECT_EQ(QDir(path("dxf")).entryList({"load-*.dxf"}).size(), 2);
    panel()->writePdf(path("loads.pdf"));
    ASSERT_TRUE(settled());
    EXPECT_TRUE(QFile::exists(path("loads.pdf")));
}

} // namespace
} // namespace thinline::app
