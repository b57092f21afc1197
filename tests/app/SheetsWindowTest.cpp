// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Sheets station on the real window: with the mouse and the keys.
#include "app/Driver.h"
#include "app/stations/CardDialog.h"
#include "app/stations/PhotoDialog.h"
#include "document/Drawer.h"
#include "job/HandSteps.h"
#include "support/Jobs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QWheelEvent>

#include <numbers>

namespace thinline::app {
namespace {

class SheetsWindow : public WindowTest {
  protected:
    /// Eight hooks, which lie in one another's bays.
    void openHooks() {
        std::string drawing =
            "<svg xmlns='http://www.w3.org/2000/svg' width='560mm' height='280mm' viewBox='0 0 560 280'>";
        for (int i = 0; i < 8; ++i)
            drawing += "<path transform='translate(" + std::to_string(140 * (i % 4)) + " " +
                       std::to_string(140 * (i / 4)) + ")' d='M0 0H125V35H35V125H0Z' fill='#2f6f8f'/>";
        drawing += "</svg>";
        writeFile(path("hooks.svg"), {drawing.begin(), drawing.end()});
        m_window->files().open(path("hooks.svg"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        press(QKeySequence("Ctrl+7"));
        ASSERT_TRUE(waitFor([this] { return sheets() != nullptr; }) && waitUntilQuiet());
    }
    /// Clicks a button of a dialog once it is there.
    static void clickIn(const QDialog& dialog, const QString& words) {
        QPushButton* found = nullptr;
        EXPECT_TRUE(QTest::qWaitFor(
            [&] {
                for (auto* button : dialog.findChildren<QPushButton*>())
                    if (button->isVisible() && button->text() == words)
                        found = button;
                return found != nullptr;
            },
            3000))
            << words.toStdString();
        if (found)
            QTest::mouseClick(found, Qt::LeftButton);
    }
    static bool waitForAWhile(const std::function<bool()>& isTrue) { return QTest::qWaitFor(isTrue, 700); }
    std::shared_ptr<const design::Arrangement> sheets() { return m_window->bench().made().sheets; }
    /// Sheets, with what is used of the last one as a share of a sheet.
    double needed() {
        const auto need = sheets::needsOf(*sheets(), work());
        return need.front().sheets - 1 + need.front().lastLengthMm / sheets()->loads[0].sheets[0].heightMm;
    }
};

TEST_F(SheetsWindow, ACloserLayoutIsLookedForAtAClickAndIsNoStep) {
    openHooks();
    ASSERT_EQ(work().pieces.size(), 8u);
    const double before = needed();
    const bool couldUndo = m_window->bench().canUndo();
    m_window->bench().setLookFor({.steps = 150'000});
    QTest::mouseClick(buttonOf("Look for a closer layout"), Qt::LeftButton);
    EXPECT_TRUE(m_window->bench().isLookingCloser());
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isLookingCloser(); }) && waitUntilQuiet());
    EXPECT_LT(needed(), 0.8 * before);
    EXPECT_EQ(m_window->bench().canUndo(), couldUndo);
    // What is taken by the hand stays where it was put, and the rest makes room.
    const design::PlacedPiece piece = sheets()->loads[0].sheets[0].pieces[0];
    auto job = job::pinnedAt(m_window->bench().state(), piece.what, piece.pose, 0);
    ASSERT_TRUE(job);
    m_window->bench().act("Pin", job.take());
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_LT(needed(), 0.8 * before) << "the others stay as well";
    press(QKeySequence::Undo);
    EXPECT_TRUE(this->job().plan.pins.empty());
}

TEST_F(SheetsWindow, TwoColoursShareAMatOnScraps) {
    const std::string two =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='60mm' viewBox='0 0 100 60'>"
        "<path d='M0 0H40V60H0Z' fill='#2f6f8f'/><path d='M60 0H100V40H60Z' fill='#c8452a'/></svg>";
    writeFile(path("two.svg"), {two.begin(), two.end()});
    m_window->files().open(path("two.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return sheets() != nullptr; }) && waitUntilQuiet());
    EXPECT_EQ(sheets()->loads.size(), 2u);
    auto* box = buttonOf("Several stocks on one mat");
    QTest::mouseClick(box, Qt::LeftButton, {}, {8, box->height() / 2});
    ASSERT_TRUE(waitFor([this] { return sheets() && sheets()->loads.size() == 1; }) && waitUntilQuiet());
    EXPECT_TRUE(job().plan.isMixed);
    bool isListed = false;
    for (const auto* label : m_window->here()->findChildren<QLabel*>())
        isListed = isListed || (label->isVisible() && label->text().contains("Scraps for load 1") &&
                                label->text().contains(QString::fromUtf8("50 × 70 mm")));
    EXPECT_TRUE(isListed) << "40 by 60 mm with 3 mm to every side, in whole steps of 5";
    // Saved and opened again it lies the same.
    const design::Arrangement before = *sheets();
    m_window->bench().save(path("two.thinline"));
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isSaving(); }));
    m_window->files().open(path("two.thinline"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().path().endsWith("two.thinline"); }) &&
                waitUntilQuiet());
    ASSERT_TRUE(sheets());
    EXPECT_EQ(sheets()->loads.size(), 1u);
    EXPECT_TRUE(sheets()->loads[0].sheets[0].isScrap);
    EXPECT_EQ(sheets()->loads[0].sheets[0].widthMm, before.loads[0].sheets[0].widthMm);
}

TEST_F(SheetsWindow, ScrapsAreUsedFirstAndWornSpotsStayFree) {
    const std::string one =
        "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
        "<path d='M0 0H60V40H0Z' fill='#2f6f8f'/></svg>";
    writeFile(path("one.svg"), {one.begin(), one.end()});
    m_window->files().open(path("one.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return sheets() != nullptr; }) && waitUntilQuiet());
    const double left = sheets()->loads[0].sheets[0].pieces[0].pose.at.x;
    whenAsked<CardDialog>([this](CardDialog& dialog) {
        type(named<QLineEdit>("Size of the scrap"), "5 x 80 mm");
        EXPECT_TRUE(job().plan.scraps.empty());
        const auto labels = dialog.findChildren<QLabel*>();
        EXPECT_TRUE(std::any_of(labels.begin(), labels.end(), [](const QLabel* label) {
            return label->text().contains("has no room inside its margin");
        }));
        type(named<QLineEdit>("Size of the scrap"), "70 x 50 mm");
        QTest::mouseClick(buttonOf("Draw a worn spot"), Qt::LeftButton);
    });
    QTest::mouseClick(buttonOf("Scraps, other sheets"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.scraps.size() == 1; }) && waitUntilQuiet());
    EXPECT_EQ(sheets()->loads[0].sheets[0].scrapId, 1);
    // A spot on the mat: the scrap is laid beside it.
    ASSERT_TRUE(waitFor([] { return !QApplication::activeModalWidget(); }));
    m_window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    dragBench({1, 1}, {90, 60});
    ASSERT_TRUE(waitFor([this] { return job().plan.keepOuts.size() == 1; }) && waitUntilQuiet());
    EXPECT_GE(sheets()->loads[0].sheets[0].xMm + 0.5 * sheets()->loads[0].sheets[0].yMm, 60);
    press(QKeySequence::Undo);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(sheets()->loads[0].sheets[0].scrapId, 0);
    EXPECT_NEAR(sheets()->loads[0].sheets[0].pieces[0].pose.at.x, left, 1e-6);
    press(QKeySequence::Redo);
    press(QKeySequence::Redo);
    ASSERT_TRUE(waitUntilQuiet());
    const auto before = job().plan;
    const design::Arrangement laidBefore = *sheets();
    m_window->bench().save(path("one.thinline"));
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isSaving(); }));
    m_window->files().open(path("one.thinline"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().path().endsWith("one.thinline"); }) &&
                waitUntilQuiet());
    EXPECT_EQ(job().plan, before);
    ASSERT_TRUE(sheets());
    EXPECT_EQ(*sheets(), laidBefore);
}

TEST_F(SheetsWindow, SheetsLieAtTheCornerThatIsSaid) {
    openHooks();
    job::SheetPlan plan = job().plan;
    plan.sheetId = "a4";
    m_window->bench().act("A4", job::withPlan(job(), plan));
    ASSERT_TRUE(waitUntilQuiet());
    const double before = sheets()->loads[0].sheets[0].xMm;
    whenAsked<CardDialog>([this](CardDialog& dialog) {
        auto* from = named<QComboBox>("The corner of the mat at which sheets begin");
        ASSERT_TRUE(from);
        from->setFocus();
        QTest::keyClick(from, Qt::Key_End);
        dialog.accept();
    });
    QTest::mouseClick(buttonOf("Scraps, other sheets"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.lies.from == design::SheetLie::From::LowerRight; }));
    ASSERT_TRUE(waitFor([&] { return sheets() && sheets()->loads[0].sheets[0].xMm > before + 50; }) && waitUntilQuiet());
}

TEST_F(SheetsWindow, AScrapIsKeptInTheDrawerAndUsedByAnotherJob) {
    openHooks();
    whenAsked<CardDialog>([this](CardDialog& dialog) {
        type(named<QLineEdit>("Size of the scrap"), "150 x 140 mm");
        clickIn(dialog, "keep in the drawer");
        dialog.accept();
    });
    QTest::mouseClick(buttonOf("Scraps, other sheets"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.scraps.size() == 1 && job().plan.scraps[0].drawerId == 1; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(support::must(document::readDrawer(m_store, path("drawer.json").toStdString())).scraps.size(), 1u);
    m_window->bench().open(path("hooks.svg")); // another job
    ASSERT_TRUE(waitFor([this] { return job().plan.scraps.empty() && hasPieces(); }));
    m_window->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return sheets() != nullptr; }) && waitUntilQuiet());
    whenAsked<CardDialog>([](CardDialog& dialog) {
        clickIn(dialog, "use it");
        dialog.accept();
    });
    QTest::mouseClick(buttonOf("Scraps, other sheets"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.scraps.size() == 1; }) && waitUntilQuiet());
    EXPECT_EQ(job().plan.scraps[0].drawerId, 1);
    const auto isUsed = [this] {
        for (const design::Load& load : sheets()->loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                if (sheet.scrapId == job().plan.scraps[0].id)
                    return !sheet.pieces.empty();
        return false;
    };
    EXPECT_TRUE(waitFor([&] { return sheets() && isUsed(); }));
}

TEST_F(SheetsWindow, TwoSheetsOfAStockAreTapedTogether) {
    openHooks();
    job::SheetPlan plan = job().plan;
    plan.matId = "long24";
    m_window->bench().act("Long mat", job::withPlan(job(), plan));
    ASSERT_TRUE(waitUntilQuiet());
    whenAsked<CardDialog>([](CardDialog& dialog) {
        for (QCheckBox* box : dialog.findChildren<QCheckBox*>())
            if (box->text() == "two taped together") {
                QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, box->height() / 2));
                break;
            }
        dialog.accept();
    });
    QTest::mouseClick(buttonOf("Scraps, other sheets"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().plan.tapedStocks.size() == 1; }));
    const auto isTaped = [this] {
        for (const design::Load& load : sheets()->loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                if (sheet.isPair())
                    return sheet.stockId == *job().plan.tapedStocks.begin();
        return false;
    };
    ASSERT_TRUE(waitFor([&] { return sheets() && isTaped(); }) && waitUntilQuiet());
}

TEST_F(SheetsWindow, APhotoOfTheMatSaysWhatLiesWhere) {
    const std::string one =
        "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
        "<path d='M0 0H60V40H0Z' fill='#e3b24b'/></svg>";
    writeFile(path("one.svg"), {one.begin(), one.end()});
    m_window->files().open(path("one.svg"));
    ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return sheets() != nullptr; }) && waitUntilQuiet());
    PhotoDialog dialog(m_window->bench(), QStringLiteral(THINLINE_SOURCE_DIR) + "/demo/gull-point-mat.jpg",
                       m_window.get());
    dialog.show();
    ASSERT_TRUE(waitFor([&] { return dialog.isSettled(); }));
    const auto choices = [&] { return dialog.findChildren<QComboBox*>(); };
    ASSERT_TRUE(waitFor([&] { return choices().size() == 5; }));
    // A corner is dragged away and what was found is gone; dragged back it is found again.
    auto* view = dialog.findChild<PhotoView*>();
    const QPoint from = view->shownAt(view->corners()[2]).toPoint();
    for (const QPoint& to : {from + QPoint(-60, -60), from}) {
        dragIn(view, view->shownAt(view->corners()[2]).toPoint(), to);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled(); }));
    }
    ASSERT_TRUE(waitFor([&] { return choices().size() == 5; }));
    for (int i = 0; i < 5; ++i)
        choices()[i]->setCurrentIndex(i == 3 ? choices()[i]->findData("lamp") : 0);
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text() == "Lay pieces on them")
            QTest::mouseClick(button, Qt::LeftButton);
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(job().plan.scraps.size(), 1u);
    ASSERT_EQ(sheets()->loads.size(), 1u);
    EXPECT_NEAR(sheets()->loads[0].sheets[0].xMm, 148, 2);
    EXPECT_EQ(sheets()->loads[0].sheets[0].scrapId, 1);
}

TEST_F(SheetsWindow, AHandTurnsAPieceByTheWheelByTypingAndSendsIt) {
    openHooks();
    const design::PlacedPiece piece = sheets()->loads[0].sheets[0].pieces[0];
    const auto find = [&] { return job::placeOf(m_window->bench().state(), piece.what); };
    const geometry::Point corner = loadCorner(*sheets(), 0);
    const design::Laid& hook = *laid(piece.what.piece);
    const auto map = design::placement(hook.piece, piece.pose);
    const geometry::Point on = map(inside(piece.what.piece)) + corner;
    const QPoint from = view()->toWidget(on).toPoint(), to = from + QPoint(0, 60);
    QTest::mouseMove(view(), from);
    QTest::mousePress(view(), Qt::LeftButton, {}, from);
    QTest::mouseEvent(QTest::MouseMove, view(), Qt::LeftButton, {}, to);
    QWheelEvent wheel(to, view()->mapToGlobal(to), {}, {0, 240}, Qt::LeftButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(view(), &wheel);
    QTest::mouseRelease(view(), Qt::LeftButton, {}, to);
    ASSERT_TRUE(waitUntilQuiet());
    ASSERT_EQ(job().plan.pins.size(), 1u);
    EXPECT_NEAR(std::remainder(find()->pose.turnRad - piece.pose.turnRad, 2 * std::numbers::pi),
                10 * std::numbers::pi / 180, 1e-6);
    // Chosen by a click, turned by a number, sent to a sheet of its own.
    const auto now = find();
    const geometry::Point there =
        design::placement(hook.piece, now->pose)(inside(piece.what.piece)) + loadCorner(*sheets(), now->load);
    clickBench(there);
    auto* turn = named<QDoubleSpinBox>("Turned by");
    turn->setFocus();
    turn->selectAll();
    QTest::keyClicks(turn, "30");
    QTest::keyClick(turn, Qt::Key_Return);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_NEAR(find()->pose.turnRad, std::numbers::pi / 6, 1e-6);
    const size_t loads = sheets()->loads.size();
    auto* send = named<QComboBox>("Send to");
    send->setCurrentIndex(send->count() - 1);
    emit send->activated(send->count() - 1);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_GE(sheets()->loads.size(), loads);
    EXPECT_EQ(sheets()->loads[find()->load].sheets[0].pieces.size(), 1u);
    EXPECT_EQ(job().plan.pins.size(), 1u);
    press(QKeySequence::Undo);
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(find()->load, now->load);
    // As many more as go onto the sheets that are there.
    const auto copies = [&] { return work().find(piece.what.piece)->copies; };
    const int had = copies();
    const size_t cut = sheets()->loads.size();
    QTest::mouseClick(buttonIn(m_window.get(), "Fill the rest with it"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return copies() > had; }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(sheets()->loads.size(), cut);
    EXPECT_TRUE(notice().contains("fill the sheets; all is pinned where it lies.")) << notice().toStdString();
}

TEST_F(SheetsWindow, ALookEndsWhenItIsStoppedAndWhenTheStationIsLeft) {
    openHooks();
    m_window->bench().setLookFor({.seconds = 600});
    QTest::mouseClick(buttonOf("Look for a closer layout"), Qt::LeftButton);
    QTest::mouseClick(buttonOf("Looking for a closer layout. Stop"), Qt::LeftButton);
    EXPECT_FALSE(m_window->bench().isLookingCloser());
    QTest::mouseClick(buttonOf("Look for a closer layout"), Qt::LeftButton);
    EXPECT_TRUE(m_window->bench().isLookingCloser());
    press(QKeySequence("Ctrl+5"));
    EXPECT_FALSE(m_window->bench().isLookingCloser());
}

TEST_F(SheetsWindow, ALookBeginsByItselfOnceForAWork) {
    m_window->bench().setLookFor({.steps = 20'000, .isByItself = true});
    int looks = 0;
    QObject::connect(&m_window->bench(), &Workbench::lookedCloser, m_window.get(), [&] { ++looks; });
    openHooks();
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isLookingCloser(); }) && waitUntilQuiet());
    EXPECT_FALSE(waitForAWhile([&] { return looks > 1; })) << "it goes on and on";
    EXPECT_EQ(looks, 1);
    const auto found = sheets();
    press(QKeySequence("Ctrl+5"));
    press(QKeySequence("Ctrl+7"));
    EXPECT_FALSE(m_window->bench().isLookingCloser()) << "nothing has changed";
    EXPECT_EQ(sheets(), found);
}

} // namespace
} // namespace thinline::app
