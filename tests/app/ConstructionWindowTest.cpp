// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/Driver.h"
#include "app/stations/FoldedDialog.h"
#include "app/stations/NamesDialog.h"
#include "document/DiskFontStore.h"
#include "document/JobFile.h"

#include <QCheckBox>
#include <QComboBox>
#include <QMenu>
#include <QPlainTextEdit>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>

namespace thinline::app {
namespace {

/// Works made from measures, by mouse and keys.
class ConstructionWindow : public WindowTest {
  protected:
    void make(const QString& label) {
        auto* button = qobject_cast<QPushButton*>(buttonOf("A work made from measures"));
        ASSERT_TRUE(button && button->menu());
        for (QAction* action : button->menu()->actions())
            if (action->text() == label) {
                action->trigger();
                ASSERT_TRUE(waitFor([&] { return hasPieces(); }));
                ASSERT_TRUE(waitUntilQuiet());
                return;
            }
        ADD_FAILURE() << "nothing is called " << label.toStdString();
    }
    void enter(const QString& measure, const QString& value) {
        auto* field = named<QDoubleSpinBox>(measure);
        ASSERT_TRUE(field);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, value);
        QTest::keyClick(field, Qt::Key_Return);
    }
    const construct::Given& given() { return std::get<job::Construction>(job().sources.at(0)->what).given; }
    double wide(const char* key) {
        const design::Laid* laid = work().find(design::PieceId::found(design::SourceId{1}, key));
        return laid ? geometry::bounds(laid->shape()).width() : 0;
    }
};

TEST_F(ConstructionWindow, ABoxIsMadeMeasuredAndSeenFolded) {
    make("Round box with lid");
    EXPECT_EQ(work().pieces.size(), 6u);
    EXPECT_EQ(named<QDoubleSpinBox>("What goes in, across")->toolTip(),
              "The diameter of what goes in; the wall is wrapped round it");
    enter("What goes in, across", "80 mm");
    ASSERT_TRUE(waitFor([&] { return std::abs(wide("inner-disc") - 80) < 1e-3; }));
    // Its lap is a margin, and a number that followed tells its sum.
    ASSERT_TRUE(named<QDoubleSpinBox>("Glue lap"));
    EXPECT_TRUE(waitFor([&] {
        for (const QLabel* label : m_window->findChildren<QLabel*>())
            if (label->toolTip() == "wall = π × (80.0 + 0.3 card) + 12.0 lap = 264.3 mm")
                return true;
        return false;
    }));
    bool wasSeen = false;
    whenAsked<FoldedDialog>([&](FoldedDialog& dialog) {
        auto* view = dialog.findChild<FoldedView*>();
        auto* slider = dialog.findChild<QSlider*>();
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && !view->image().isNull(); }));
        const QImage done = view->image();
        QStringList words;
        for (const QLabel* label : dialog.findChildren<QLabel*>())
            words << label->text();
        EXPECT_TRUE(words.join("\n").contains("Lap: closed"));
        EXPECT_FALSE(words.join("\n").contains("open by"));
        dragIn(view, {200, 200}, {320, 230});
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() != done; }));
        const QImage turned = view->image();
        slider->setFocus();
        QTest::keyClick(slider, Qt::Key_Home);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() != turned; }));
        const QImage flat = view->image();
        QTest::keyClick(view, Qt::Key_Left);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() != flat; }));
        wasSeen = true;
        dialog.reject();
    });
    QTest::mouseClick(buttonIn(m_window.get(), "See it folded"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return wasSeen; }));
}

TEST_F(ConstructionWindow, AFoldedWorkIsClosedInAnotherOrder) {
    make("Fold-flat carton");
    bool wasSeen = false;
    whenAsked<FoldedDialog>([&](FoldedDialog& dialog) {
        auto* view = dialog.findChild<FoldedView*>();
        auto* slider = dialog.findChild<QSlider*>();
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && !view->image().isNull(); }));
        const QImage done = view->image();
        slider->setValue(600);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() != done; }));
        const QImage before = view->image();
        QPushButton* earlier = nullptr;
        for (QPushButton* button : dialog.findChildren<QPushButton*>())
            if (button->accessibleName() == "Close tuck of the bottom before the joint above")
                earlier = button;
        ASSERT_TRUE(earlier);
        QTest::mouseClick(earlier, Qt::LeftButton);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() != before; }));
        // Done, it stands as before.
        slider->setValue(1000);
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled() && view->image() == done; }));
        wasSeen = true;
        dialog.reject();
    });
    QTest::mouseClick(buttonIn(m_window.get(), "See it folded"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return wasSeen; }));
    // The order stays with the job, and can be taken back.
    EXPECT_EQ(m_window->bench().job().sources[0]->joints, (std::vector<std::string>{"lap", "tuck of the bottom", "tuck of the lid"}));
    m_window->bench().undo();
    EXPECT_TRUE(waitFor([this] { return m_window->bench().job().sources[0]->joints.empty(); }));
}

TEST_F(ConstructionWindow, ALanternShinesAndItsPanesFollowItsPanels) {
    make("Lantern");
    named<QSpinBox>("Panels")->setFocus();
    named<QSpinBox>("Panels")->selectAll();
    QTest::keyClicks(named<QSpinBox>("Panels"), "8");
    const auto panes = [&] { return work().find(design::PieceId::found(design::SourceId{1}, "pane")); };
    ASSERT_TRUE(waitFor([&] { return panes() && panes()->copies == 8; }));
    EXPECT_EQ(given().values[0], 8);
    // Undone, everything is as it was.
    press(QKeySequence("Ctrl+Z"));
    ASSERT_TRUE(waitFor([&] { return panes() && panes()->copies == 6; }));
}

TEST_F(ConstructionWindow, MeasuresThatContradictOneAnotherAreToldAndChangeNothing) {
    make("Round box with lid");
    enter("Lid height inside", "300");
    ASSERT_TRUE(waitFor([&] {
        return notice().contains("The lid is higher than the box; it can be 104.0 mm high at most.");
    }));
    EXPECT_EQ(given().values[3], 25);
}

TEST_F(ConstructionWindow, NamesOfAListAreLookedThroughAndSaved) {
    QTest::mouseClick(buttonOf("Add a word"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return hasPieces(); }) && waitUntilQuiet());
    bool wasSaved = false;
    whenAsked<NamesDialog>([&](NamesDialog& dialog) {
        auto* list = dialog.findChild<QPlainTextEdit*>();
        QTest::keyClicks(list, "PIER");
        QTest::keyClick(list, Qt::Key_Return);
        QTest::keyClicks(list, "NORTH MOLE");
        QTest::mouseClick(buttonIn(&dialog, "Set these names"), Qt::LeftButton);
        auto* table = dialog.findChild<QTableWidget*>();
        ASSERT_TRUE(waitFor([&] { return table->rowCount() == 2; }));
        dialog.saveInto(m_folder.path());
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled(); }));
        dialog.saveTogether(path("all.thinline"));
        ASSERT_TRUE(waitFor([&] { return dialog.isSettled(); }));
        wasSaved = true;
        dialog.reject();
    });
    QTest::mouseClick(buttonOf("Names from a list"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([&] { return wasSaved; }));
    for (const char* name : {"PIER", "NORTH MOLE"}) {
        const auto loaded = document::loadJob(m_store, path(QString(name) + ".thinline").toStdString());
        ASSERT_TRUE(loaded) << name;
        EXPECT_EQ(std::get<job::Word>(loaded->state.job.sources[0]->what).recipe.text, name);
    }
    const auto all = document::loadJob(m_store, path("all.thinline").toStdString());
    ASSERT_TRUE(all);
    EXPECT_EQ(all->state.made.work()->pieces.size(), 4u + 9u) << "a piece each letter";
}

TEST_F(ConstructionWindow, FlagsCarryTheLettersOfTheirWord) {
    make("String of flags");
    ASSERT_EQ(work().pieces.size(), 6u);
    auto* word = named<QLineEdit>("Letters, one flag each");
    ASSERT_TRUE(word);
    word->setFocus();
    QTest::keyClicks(word, "DECK");
    ASSERT_TRUE(waitFor([&] { return work().pieces.size() == 8; })) << "four flags and their letters";
    EXPECT_EQ(given().letters->text, "DECK");
    auto* font = named<QComboBox>("Typeface");
    ASSERT_TRUE(font && font->isVisible());
    const double before = wide("letter-1");
    font->setFocus();
    QTest::keyClick(font, Qt::Key_Down); // the second that ships
    ASSERT_TRUE(waitFor([&] { return std::abs(wide("letter-1") - before) > 0.2; }));
    EXPECT_EQ(given().font, document::shippedFonts().at(1));
}

} // namespace
} // namespace thinline::app
