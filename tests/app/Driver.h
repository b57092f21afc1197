// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/MainWindow.h"
#include "document/DiskFileStore.h"
#include "support/Fonts.h"

#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
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

/// Types a path into the file dialog that is about to open.
inline void answerFileDialog(const QString& path) {
    QTimer::singleShot(300, qApp, [path] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        ASSERT_NE(dialog, nullptr);
        auto* field = dialog->findChild<QLineEdit*>("fileNameEdit");
        field->setText(path);
        QTest::keyClick(field, Qt::Key_Return);
    });
}

/// The middle of an area's inside on the bench, in the finished design.
inline geometry::Point inside(const document::Job& job, design::PieceId id) {
    return geometry::pointInside(*design::findPiece(*job.stack, id)->shape);
}

class WindowTest : public testing::Test {
  protected:
    void SetUp() override {
        ASSERT_TRUE(m_folder.isValid());
        m_window = std::make_unique<MainWindow>(m_store, m_fonts, m_folder.path() + "/unsaved",
                                                QStringLiteral(THINLINE_SOURCE_DIR) + "/demo");
        m_window->show();
        ASSERT_TRUE(QTest::qWaitForWindowActive(m_window.get()));
    }
    void TearDown() override {
        if (m_window)
            m_window->bench().abandon();
    }

    QString path(const QString& name) const { return m_folder.path() + "/" + name; }
    const document::Job& job() { return m_window->bench().job(); }
    BenchView* view() { return m_window->benchView(); }

    /// Waits until `isTrue`, up to 60 s; the machine may be slow, a hang must still end.
    static ::testing::AssertionResult waitFor(const std::function<bool()>& isTrue) {
        return QTest::qWaitFor(isTrue, 60000) ? ::testing::AssertionSuccess()
                                              : ::testing::AssertionFailure() << "waited 60 s in vain";
    }
    ::testing::AssertionResult waitUntilQuiet() {
        return waitFor([this] { return !m_window->bench().isBusy() && view()->isSharp(); });
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
    void clickMain() {
        QTest::mouseClick(m_window->panel<StationPanel>(m_window->station())->mainButton(), Qt::LeftButton);
    }
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
    std::unique_ptr<MainWindow> m_window;
};

} // namespace thinline::app
