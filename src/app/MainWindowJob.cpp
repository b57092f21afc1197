// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The window's dealings with files: opening, adding, pasting, dropping, saving, leaving.
#include "app/MainWindow.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QCloseEvent>
#include <QDir>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QImage>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>

namespace thinline::app {

void MainWindow::openDemo() {
    open(m_demoFolder + "/gull-point-lighthouse.thinline");
}

void MainWindow::open(const QString& path) {
    if (mayLeaveJob())
        m_bench.open(path);
}

void MainWindow::choosePicture() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a picture, a drawing or a job"), {},
                                     tr("Pictures, drawings and jobs (*.png *.jpg *.jpeg *.webp *.tif *.tiff "
                                        "*.gif *.bmp *.heic *.svg *.dxf *.pdf "
                                        "*.thinline);;All files (*)"));
    if (!path.isEmpty())
        open(path);
}

void MainWindow::chooseAdditions() {
    const QStringList paths = QFileDialog::getOpenFileNames(
        this, tr("Add drawings to this job"), {}, tr("Drawings (*.svg *.dxf *.pdf);;All files (*)"));
    if (!paths.isEmpty())
        m_bench.add(paths);
}

void MainWindow::paste() {
    const QMimeData* held = QApplication::clipboard()->mimeData();
    if (held->hasUrls() && held->urls().first().isLocalFile())
        return open(held->urls().first().toLocalFile());
    const auto bytesOf = [](const QByteArray& bytes) { return base::Bytes(bytes.begin(), bytes.end()); };
    base::Bytes bytes;
    QString name;
    if (held->hasFormat("image/svg+xml")) {
        bytes = bytesOf(held->data("image/svg+xml"));
        name = tr("pasted.svg");
    } else if (held->hasText() &&
               document::kindOf(bytesOf(held->text().toUtf8())) == document::FileKind::Svg) {
        bytes = bytesOf(held->text().toUtf8());
        name = tr("pasted.svg");
    } else if (held->hasImage()) {
        QByteArray png;
        QBuffer buffer(&png);
        buffer.open(QIODevice::WriteOnly);
        qvariant_cast<QImage>(held->imageData()).save(&buffer, "PNG");
        bytes = bytesOf(png);
        name = tr("pasted.png");
    }
    if (bytes.empty())
        return m_notice->tell(tr("The clipboard holds no picture and no drawing; copy one first."), true);
    if (mayLeaveJob())
        m_bench.openBytes(bytes, name);
}

bool MainWindow::save() {
    if (!m_bench.hasJob())
        return true;
    const bool isDemo = m_bench.path().startsWith(m_demoFolder + "/"); // the demo stays as it was shipped
    if (m_bench.path().isEmpty() || isDemo)
        return saveAs();
    return m_bench.save(m_bench.path());
}

bool MainWindow::saveAs() {
    if (!m_bench.hasJob())
        return true;
    QString path = QFileDialog::getSaveFileName(this, tr("Save the job"),
                                                QDir::homePath() + "/" +
                                                    QString::fromStdString(m_bench.job().name) + ".thinline",
                                                tr("Thin Line jobs (*.thinline)"));
    if (path.isEmpty())
        return false;
    if (QFileInfo(path).suffix().isEmpty())
        path += ".thinline";
    if (!m_bench.save(path))
        return false;
    remember(path);
    return true;
}

bool MainWindow::mayLeaveJob() {
    if (!m_bench.isUnsaved() || !m_bench.canUndo())
        return true; // a picture just opened is still in its own file
    QMessageBox box(this);
    box.setWindowTitle(tr("Unsaved work"));
    box.setText(tr("Save the changes to %1 first?").arg(QString::fromStdString(m_bench.job().name)));
    auto* saveButton = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* dropButton = box.addButton(tr("Give them up"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == saveButton)
        return save();
    if (box.clickedButton() != dropButton)
        return false;
    m_bench.abandon();
    return true;
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!mayLeaveJob()) {
        event->ignore();
        return;
    }
    m_bench.abandon();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const QList<QUrl> urls = event->mimeData()->urls();
    if (urls.isEmpty() || !urls.first().isLocalFile()) {
        m_notice->tell(tr("Drop a picture, a drawing or a job that is a file on this computer."), true);
        return;
    }
    event->acceptProposedAction();
    QStringList paths;
    for (const QUrl& url : urls)
        if (url.isLocalFile())
            paths.append(url.toLocalFile());
    if (paths.size() == 1)
        open(paths.first());
    else
        m_bench.add(paths); // several files become one job
}

void MainWindow::remember(const QString& path) {
    if (path.startsWith(m_demoFolder + "/"))
        return;
    QStringList all = recent();
    all.removeAll(path);
    all.prepend(path);
    constexpr int kMostRecent = 6;
    QSettings().setValue("recentJobs", QVariant(all.mid(0, kMostRecent)));
}

QStringList MainWindow::recent() const {
    return QSettings().value("recentJobs").toStringList();
}

} // namespace thinline::app
