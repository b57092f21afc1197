// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing on the real window: what a piece bears, pages, and how a printed page is found again.
#include "app/Driver.h"
#include "app/stations/CutStation.h"
#include "app/stations/FaceDialog.h"
#include "app/stations/PrintDialog.h"
#include "app/stations/RegisterDialog.h"
#include "formats/image/ImageFile.h"
#include "support/Jobs.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QSpinBox>
#include <QWheelEvent>

namespace thinline::app {
namespace {

/// Sky over sea with a sun, 600 x 400 px.
base::Bytes seaPicture() {
    raster::Canvas canvas(600, 400, {170, 200, 230});
    canvas.fill({{{0, 220}, {600, 220}, {600, 400}, {0, 400}}}, {30, 80, 120});
    canvas.fill({{{420, 60}, {480, 60}, {480, 120}, {420, 120}}}, {245, 215, 120});
    return formats::image::encodePng(canvas.picture());
}

class PrintWindow : public WindowTest {
  protected:
    void openCard() {
        const std::string drawing =
            "<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='60mm' viewBox='0 0 90 60'>"
            "<path d='M0 0H90V60H0Z' fill='#ffffff'/></svg>";
        writeFile(path("card.svg"), {drawing.begin(), drawing.end()});
        writeFile(path("sea.png"), seaPicture());
        m_window->files().open(path("card.svg"));
        ASSERT_TRUE(waitFor([this] { return hasPieces(); }));
        press(QKeySequence("Ctrl+3"));
        ASSERT_TRUE(waitUntilQuiet());
    }
    FaceDialog* openFaces() {
        QTest::mouseClick(buttonIn(m_window.get(), "What is printed on it…"), Qt::LeftButton);
        auto* out = m_window->findChild<FaceDialog*>();
        EXPECT_NE(out, nullptr);
        return out;
    }
    template <class Widget>
    static Widget* named(QWidget* in, const QString& name) {
        for (Widget* one : in->findChildren<Widget*>())
            if (one->accessibleName() == name)
                return one;
        ADD_FAILURE() << "nothing is called " << name.toStdString();
        return nullptr;
    }
    static bool isSaid(QWidget* in, const QString& words) {
        for (const QLabel* label : in->findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains(words))
                return true;
        return false;
    }
    const design::Face& face(size_t i) { return work().pieces[0].piece.body->faces.at(i); }
    size_t faces() { return work().pieces[0].piece.body->faces.size(); }
    void shut(QDialog* dialog) {
        QTest::mouseClick(buttonIn(dialog, "Done"), Qt::LeftButton);
        EXPECT_TRUE(waitFor([] { return QApplication::activeModalWidget() == nullptr; }));
        m_window->activateWindow();
        EXPECT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    }
    template <class Dialog>
    ::testing::AssertionResult settled(Dialog* dialog) {
        return waitFor([=, this] { return dialog->isSettled() && !m_window->bench().isBehind(); });
    }
};

TEST_F(PrintWindow, APictureAndWordsArePrintedAndMovedByHand) {
    openCard();
    FaceDialog* dialog = openFaces();
    ASSERT_TRUE(settled(dialog));
    answerFileDialog(path("sea.png"));
    QTest::mouseClick(buttonIn(dialog, "A picture…"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return faces() == 1; }) && settled(dialog));
    EXPECT_TRUE(isSaid(dialog, "dpi")) << "its resolution is told";
    EXPECT_TRUE(job().print.stocks.size() == 1) << "its sheets are printed from then on";
    auto* list = named<QListWidget>(dialog, "Prints, the uppermost first");
    ASSERT_EQ(list->count(), 1);
    EXPECT_EQ(list->item(0)->text(), "Picture sea.png");

    // Dragged by 10 mm to the right, it lies 10 mm further right; the wheel makes it larger about its middle.
    const geometry::Transform before = face(0).place;
    FaceView* view = dialog->view();
    const QPoint from = view->shownAt({45, 30}).toPoint(), to = view->shownAt({55, 30}).toPoint();
    QTest::mousePress(view, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i)
        QTest::mouseEvent(QTest::MouseMove, view, Qt::LeftButton, {}, from + (to - from) * i / 4);
    QTest::mouseRelease(view, Qt::LeftButton, {}, to);
    ASSERT_TRUE(waitFor([&] { return std::abs(face(0).place.e - before.e) > 1; }) && settled(dialog));
    EXPECT_NEAR(face(0).place.e - before.e, 10, 0.3);
    EXPECT_NEAR(face(0).place.f, before.f, 0.3);
    const geometry::Transform moved = face(0).place;
    QWheelEvent wheel(view->rect().center(), view->mapToGlobal(view->rect().center()), {}, {0, 120},
                      Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(view, &wheel);
    ASSERT_TRUE(waitFor([&] { return face(0).place.a > moved.a * 1.01; }) && settled(dialog));
    EXPECT_NEAR(face(0).place.a / moved.a, 1.04, 1e-6);
    EXPECT_LT(geometry::distance(face(0).place({0.5, 0.5}), moved({0.5, 0.5})), 1e-6);
    view->setFocus();
    QTest::keyClick(view, Qt::Key_Period);
    ASSERT_TRUE(waitFor([&] { return std::abs(print::turnOf(face(0).place)) > 0.01; }) && settled(dialog));

    auto* words = named<QPlainTextEdit>(dialog, "Words, or what a code tells");
    QTest::mouseClick(words->viewport(), Qt::LeftButton);
    QTest::keyClicks(words, "TIDES");
    QTest::mouseClick(buttonIn(dialog, "Print the words"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return faces() == 2; }) && settled(dialog));
    EXPECT_EQ(list->item(0)->text(), "Text TIDES") << "what was printed last lies uppermost";
    EXPECT_EQ(list->currentRow(), 0);
    auto* width = named<QLineEdit>(dialog, "Width");
    width->setFocus();
    width->selectAll();
    QTest::keyClicks(width, "40");
    QTest::keyClick(width, Qt::Key_Return);
    ASSERT_TRUE(waitFor([this] { return std::abs(print::widthOf(face(1).place) - 40) < 1e-6; }) &&
                settled(dialog));

    QTest::mouseClick(buttonIn(dialog, "Under the one before"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return face(0).kind == design::Face::Kind::Text; }) && settled(dialog));
    QTest::mouseClick(buttonIn(dialog, "Over the next"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return face(1).kind == design::Face::Kind::Text; }) && settled(dialog));
    // The menu of the button: its second choice by the keys.
    QTimer::singleShot(200, [] {
        if (auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget())) {
            QTest::keyClick(menu, Qt::Key_Down);
            QTest::keyClick(menu, Qt::Key_Down);
            QTest::keyClick(menu, Qt::Key_Return);
        }
    });
    QTest::mouseClick(buttonIn(dialog, "Print as a code"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return faces() == 3; }) && settled(dialog));
    EXPECT_EQ(face(2).kind, design::Face::Kind::LineCode);
    QTest::mouseClick(buttonIn(dialog, "Take off"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return faces() == 2; }) && settled(dialog));
    // One is turned and another chosen and turned before the first is made: each keeps what was done to it.
    const double sea = print::turnOf(face(0).place), tides = print::turnOf(face(1).place);
    list->setCurrentRow(0);
    QTest::keyClick(view, Qt::Key_Period);
    list->setCurrentRow(1);
    QTest::keyClick(view, Qt::Key_Period);
    ASSERT_TRUE(settled(dialog));
    EXPECT_GT(print::turnOf(face(0).place), sea + 0.01);
    EXPECT_GT(print::turnOf(face(1).place), tides + 0.01);
    EXPECT_NEAR(print::turnOf(face(0).place) - sea, print::turnOf(face(1).place) - tides, 1e-6);
    shut(dialog);

    // The bench shows it, and a job looks the same after saving and reopening.
    ASSERT_TRUE(waitFor([this] { return !m_window->bench().isPainting(); }) && waitUntilQuiet());
    const auto isSea = [this] {
        const QImage shown = m_window->benchView()->grab().toImage();
        const QColor c = shown.pixelColor(m_window->benchView()->toWidget({5, 55}).toPoint());
        return c.blue() > 90 && c.red() < 90;
    };
    EXPECT_TRUE(waitFor(isSea)) << "the sea is on the bench";
    const std::vector<design::Face> printed = work().pieces[0].piece.body->faces;
    const base::Bytes saved = [&] {
        m_window->bench().save(path("card.thinline"));
        EXPECT_TRUE(waitFor([this] { return !m_window->bench().isSaving(); }));
        return *m_store.read(path("card.thinline").toStdString(), 50 << 20);
    }();
    EXPECT_FALSE(saved.empty());
    m_window->files().open(path("card.thinline"));
    ASSERT_TRUE(waitFor([&] { return hasPieces() && m_window->bench().path() == path("card.thinline"); }));
    ASSERT_TRUE(waitUntilQuiet());
    EXPECT_EQ(work().pieces[0].piece.body->faces, printed);
    EXPECT_TRUE(waitFor(isSea));
}

TEST_F(PrintWindow, PagesAreShownWrittenTriedAndFoundAgain) {
    openCard();
    FaceDialog* faces = openFaces();
    ASSERT_TRUE(settled(faces));
    faces->addPicture(path("sea.png"));
    ASSERT_TRUE(waitFor([this] { return this->faces() == 1; }) && settled(faces));
    shut(faces);
    press(QKeySequence("Ctrl+7"));
    ASSERT_TRUE(waitFor([this] { return m_window->bench().made().sheets != nullptr; }) && waitUntilQuiet());
    QTest::mouseClick(buttonIn(m_window.get(), "Pages for the printer…"), Qt::LeftButton);
    auto* dialog = m_window->findChild<PrintDialog*>();
    ASSERT_NE(dialog, nullptr);
    ASSERT_TRUE(settled(dialog));
    EXPECT_TRUE(isSaid(dialog, "inside the marks"));
    QTest::mouseClick(buttonIn(dialog, "Print and cut this page"), Qt::LeftButton);
    ASSERT_TRUE(settled(dialog));
    EXPECT_TRUE(isSaid(dialog, "no white edge")) << "with its marks read";
    // Without reading the marks it may go wrong by millimetres.
    auto* luck = named<QSpinBox>(dialog, "Which luck");
    luck->setFocus();
    luck->selectAll();
    QTest::keyClicks(luck, "3");
    QTest::keyClick(luck, Qt::Key_Return);
    for (QAbstractButton* button : dialog->findChildren<QAbstractButton*>())
        if (button->text() == "not read")
            QTest::mouseClick(button, Qt::LeftButton);
    QTest::mouseClick(buttonIn(dialog, "Print and cut this page"), Qt::LeftButton);
    ASSERT_TRUE(settled(dialog));
    EXPECT_TRUE(isSaid(dialog, "with a white edge"));
    dialog->writeTo(path("pages.pdf"));
    ASSERT_TRUE(settled(dialog));
    EXPECT_TRUE(isSaid(dialog, "1 page written"));
    EXPECT_TRUE(QFile::exists(path("pages.pdf")));
    shut(dialog);

    press(QKeySequence("Ctrl+8"));
    ASSERT_TRUE(waitFor([this] { return m_window->panel<CutStation>()->plan() != nullptr; }) &&
                waitUntilQuiet());
    QTest::mouseClick(buttonIn(m_window.get(), "A printed page…"), Qt::LeftButton);
    auto* found = m_window->findChild<RegisterDialog*>();
    ASSERT_NE(found, nullptr);
    ASSERT_TRUE(settled(found));
    const job::PrintPage page = job::printPagesOf(m_window->bench().state()).front();
    const design::PlacedSheet& sheet = m_window->bench().made().sheets->loads[page.load].sheets[page.sheet];
    const QStringList names{"upper left", "upper right", "lower right", "lower left"};
    const auto type = [&](const QString& name, double value) {
        auto* line = named<QLineEdit>(found, name);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, QString::number(value, 'f', 3));
        QTest::keyClick(line, Qt::Key_Return);
    };
    for (int i = 0; i < 3; ++i) {
        const geometry::Point mark =
            page.layout.marks[static_cast<size_t>(i)] + geometry::Point{sheet.xMm + 1.5, sheet.yMm - 0.5};
        type("The " + names[i] + " mark, to the right", mark.x);
        type("The " + names[i] + " mark, down", mark.y);
    }
    ASSERT_TRUE(waitFor([&] { return isSaid(found, "Shifted 1.50 mm to the right"); }))
        << "three marks are enough";
    found->writeLoad(m_folder.path());
    EXPECT_TRUE(isSaid(found, "Written: 1 file"));
    // A calibration is a decision of the job and an entry of the logbook.
    for (const auto& [name, value] : {std::pair{"Reading of scale 1", 3.0}, {"Reading of scale 2", -2.0}})
        type(name, value);
    QTest::mouseClick(buttonIn(found, "Take the readings"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().print.standing.has_value(); }) && settled(found));
    EXPECT_NEAR(job().print.standing->rightMm, 0.15, 1e-9);
    EXPECT_NEAR(job().print.standing->downMm, -0.10, 1e-9);
    EXPECT_TRUE(isSaid(found, "0.15 mm to the right, 0.10 mm up"));
    QTest::mouseClick(buttonIn(found, "Take none"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return !job().print.standing; }) && settled(found));
    QTest::mouseClick(buttonIn(found, "Take the newest of this machine"), Qt::LeftButton);
    ASSERT_TRUE(waitFor([this] { return job().print.standing.has_value(); }));
    shut(found);
}

} // namespace
} // namespace thinline::app
