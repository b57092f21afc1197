// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/MainWindow.h"
#include "app/stations/PackStation.h"
#include "app/stations/ShapeStation.h"
#include "app/stations/SheetsStation.h"
#include "app/stations/SizeStation.h"
#include "app/stations/SourceStation.h"
#include "app/stations/trace/TraceStation.h"
#include "document/DiskFileStore.h"
#include "document/PageProcess.h"
#include "job/TraceSteps.h"
#include "support/Fonts.h"

#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <gtest/gtest.h>

#include <fstream>

/// Drives the real window by mouse and keys.
namespace thinline::app {

inline void writeFile(const QString& path, const base::Bytes& bytes) {
    std::ofstream(path.toStdString(), std::ios::binary)
        .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
}

/// Does something to the dialog of this kind that is about to open, whenever that is within half a minute.
template <class Dialog>
void whenAsked(const std::function<void(Dialog&)>& act) {
    constexpr int kEveryMs = 50, kMostTries = 600;
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, qApp, [timer, act, tries = 0]() mutable {
        auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
        const bool isIn = dialog && dialog->isVisible();
        if (!isIn && ++tries < kMostTries)
            return;
        timer->stop();
        timer->deleteLater();
        if (isIn)
            act(*dialog);
        else
            ADD_FAILURE() << "nothing was asked";
    });
    timer->start(kEveryMs);
}

/// Types a path into the file dialog that is about to open.
inline void answerFileDialog(const QString& path) {
    whenAsked<QFileDialog>([path](QFileDialog& dialog) {
        auto* field = dialog.findChild<QLineEdit*>("fileNameEdit");
        field->setText(path);
        QTest::keyClick(field, Qt::Key_Return);
    });
}

/// The visible button that says so.
inline QPushButton* buttonIn(QWidget* in, const QString& words) {
    for (QPushButton* button : in->findChildren<QPushButton*>())
        if (button->text() == words && button->isVisible())
            return button;
    ADD_FAILURE() << "no button says " << words.toStdString();
    return nullptr;
}

/// Drags with the left button from one place of a widget to another.
inline void dragIn(QWidget* widget, const QPoint& from, const QPoint& to) {
    QTest::mousePress(widget, Qt::LeftButton, {}, from);
    QTest::mouseEvent(QTest::MouseMove, widget, Qt::LeftButton, {}, to);
    QTest::mouseRelease(widget, Qt::LeftButton, {}, to);
}

/// Clicks the button of the question that is about to be asked.
inline void answerQuestion(const QString& words) {
    whenAsked<QMessageBox>([words](QMessageBox& box) {
        for (QAbstractButton* button : box.buttons())
            if (button->text().remove('&') == words)
                return QTest::mouseClick(button, Qt::LeftButton);
        ADD_FAILURE() << "no button says " << words.toStdString();
        box.reject();
    });
}

class WindowTest : public testing::Test {
  protected:
    void SetUp() override {
        ASSERT_TRUE(m_folder.isValid());
        m_window = std::make_unique<MainWindow>(m_store, m_fonts, m_pages, m_folder.path() + "/unsaved",
                                                QStringLiteral(THINLINE_SOURCE_DIR) + "/demo");
        m_window->show();
        ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    }
    void TearDown() override {
        if (m_window)
            m_window->bench().abandon();
    }

    QString path(const QString& name) const { return m_folder.path() + "/" + name; }
    const job::Job& job() { return m_window->bench().job(); }
    const design::Stack& work() { return *m_window->bench().work(); }
    const job::Source& pictureSource() { return *job::pictureSource(job()); }
    const job::Picture& picture() { return std::get<job::Picture>(pictureSource().what); }
    const trace::Tracing& tracing() { return *picture().tracing; }
    size_t areas() { return picture().tracing ? tracing().areas.size() : 0; }
    bool hasPieces() { return m_window->bench().hasPieces(); }
    bool isPictureWide(double mm) { return std::abs(job::sourceWidthMm(pictureSource()) - mm) < 1e-6; }
    geometry::Box workBox() { return job::workBox(m_window->bench().made()); }
    /// From the pixels of the picture to the design.
    geometry::Transform ofPicture() { return pictureSource().map(); }
    design::PieceId area(int number) {
        return design::PieceId::found(pictureSource().id, job::areaKey(number));
    }
    const design::Laid* laid(design::PieceId id) {
        return m_window->bench().work() ? m_window->bench().work()->find(id) : nullptr;
    }
    std::string stockOf(design::PieceId id) { return laid(id) ? work().layerOf(*laid(id)).stockId : ""; }
    geometry::Point inside(design::PieceId id) { return geometry::pointInside(laid(id)->shape()); }
    /// A page of the Trace station.
    void turnTo(TraceStation::Page page) { m_window->panel<TraceStation>()->showPage(page); }
    BenchView* view() { return m_window->benchView(); }

    /// Waits until `isTrue`, up to 60 s; the machine may be slow, a hang must still end.
    static ::testing::AssertionResult waitFor(const std::function<bool()>& isTrue) {
        return QTest::qWaitFor(isTrue, 60000) ? ::testing::AssertionSuccess()
                                              : ::testing::AssertionFailure() << "waited 60 s in vain";
    }
    ::testing::AssertionResult waitUntilQuiet() {
        return waitFor([this] {
            return !m_window->bench().isBusy() && !m_window->bench().isBehind() && view()->isSharp();
        });
    }
    void press(const QKeySequence& keys) { QTest::keySequence(m_window.get(), keys); }
    void clickBench(geometry::Point mm) {
        const QPoint at = view()->toWidget(mm).toPoint();
        QTest::mouseMove(view(), at);
        QTest::mouseClick(view(), Qt::LeftButton, {}, at);
    }
    void dragBench(geometry::Point from, geometry::Point to) {
        const QPoint a = view()->toWidget(from).toPoint(), b = view()->toWidget(to).toPoint();
        QTest::mouseMove(view(), a);
        QTest::mousePress(view(), Qt::LeftButton, {}, a);
        for (int i = 1; i <= 4; ++i) // a hand does not jump
            QTest::mouseEvent(QTest::MouseMove, view(), Qt::LeftButton, {}, a + (b - a) * i / 4);
        QTest::mouseRelease(view(), Qt::LeftButton, {}, b);
    }
    static void type(QLineEdit* field, const QString& text) {
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
    }
    /// The visible control with this accessible name; waits a little for one that is just being laid out.
    template <class Widget>
    Widget* named(const QString& name) {
        Widget* found = nullptr;
        const bool isThere = QTest::qWaitFor(
            [&] {
                for (Widget* one : m_window->findChildren<Widget*>())
                    if (one->accessibleName() == name && one->isVisible())
                        found = one;
                return found != nullptr;
            },
            3000);
        EXPECT_TRUE(isThere) << "no control is called " << name.toStdString();
        return found;
    }
    /// The visible button whose words begin so.
    QAbstractButton* buttonOf(const QString& words) {
        for (auto* button : m_window->findChildren<QAbstractButton*>())
            if (button->isVisible() && button->text().startsWith(words))
                return button;
        ADD_FAILURE() << "no button says " << words.toStdString();
        return nullptr;
    }
    void clickMain() { QTest::mouseClick(m_window->here()->mainButton(), Qt::LeftButton); }
    QString notice() {
        for (QLabel* label : m_window->findChildren<QLabel*>())
            if (label->parentWidget() && label->parentWidget()->objectName() == "notice" &&
                label->isVisible() && !label->text().isEmpty())
                return label->text();
        return {};
    }
    void drop(const QStringList& files);

    QTemporaryDir m_folder;
    document::DiskFileStore m_store;
    support::MemoryFontStore m_fonts = support::shippedFonts();
    document::PageProcess m_pages;
    std::unique_ptr<MainWindow> m_window;
};

} // namespace thinline::app
