// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/JobFiles.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QImage>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QUrl>

namespace thinline::app {
namespace {

base::Bytes bytesOf(const QByteArray& bytes) {
    return {bytes.begin(), bytes.end()};
}

/// What the clipboard holds as the bytes of a file; empty when it is neither picture nor drawing.
base::Bytes pasted(const QMimeData& held, QString& name) {
    name = QObject::tr("pasted.svg");
    if (held.hasFormat("image/svg+xml"))
        return bytesOf(held.data("image/svg+xml"));
    if (held.hasText())
        if (base::Bytes words = bytesOf(held.text().toUtf8());
            job::recognise(words).kind == job::FileKind::Svg)
            return words;
    if (!held.hasImage())
        return {};
    name = QObject::tr("pasted.png");
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    qvariant_cast<QImage>(held.imageData()).save(&buffer, "PNG");
    return bytesOf(png);
}

} // namespace

JobFiles::JobFiles(Workbench& bench, const QString& demoFolder, QWidget* window)
    : QObject(window), m_bench(bench), m_demoFolder(demoFolder), m_window(window) {}

void JobFiles::openDemo(const QString& file) {
    open(m_demoFolder + "/" + file);
}

void JobFiles::open(const QString& path) {
    if (mayLeave())
        m_bench.open(path);
}

void JobFiles::choose() {
    const QString path =
        QFileDialog::getOpenFileName(m_window, tr("Open a picture, a drawing or a job"), {},
                                     tr("Pictures, drawings and jobs (*.png *.jpg *.jpeg *.webp *.tif *.tiff "
                                        "*.gif *.bmp *.heic *.svg *.dxf *.pdf "
                                        "*.thinline);;All files (*)"));
    if (!path.isEmpty())
        open(path);
}

void JobFiles::chooseAdditions() {
    const QStringList paths = QFileDialog::getOpenFileNames(
        m_window, tr("Add drawings to this job"), {}, tr("Drawings (*.svg *.dxf *.pdf);;All files (*)"));
    if (!paths.isEmpty())
        m_bench.add(paths);
}

void JobFiles::paste() {
    const QMimeData* held = QApplication::clipboard()->mimeData();
    if (held->hasUrls() && held->urls().first().isLocalFile())
        return open(held->urls().first().toLocalFile());
    QString name;
    const base::Bytes bytes = pasted(*held, name);
    if (bytes.empty())
        emit told(tr("The clipboard holds no picture and no drawing; copy one first."), true);
    else if (mayLeave())
        m_bench.openBytes(bytes, name);
}

void JobFiles::drop(const QMimeData& held) {
    QStringList paths;
    for (const QUrl& url : held.urls())
        if (url.isLocalFile())
            paths.append(url.toLocalFile());
    if (paths.isEmpty())
        emit told(tr("Drop a picture, a drawing or a job that is a file on this computer."), true);
    else if (paths.size() == 1)
        open(paths.first());
    else
        m_bench.add(paths);
}

bool JobFiles::save() {
    if (!m_bench.hasJob())
        return true;
    const bool hasPlace =
        !m_bench.path().isEmpty() && !isOfDemo(m_bench.path()); // the demo stays as it was shipped
    return hasPlace ? m_bench.save(m_bench.path()) : saveAs();
}

bool JobFiles::saveAs() {
    if (!m_bench.hasJob())
        return true;
    QString path = QFileDialog::getSaveFileName(m_window, tr("Save the job"),
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

bool JobFiles::mayLeave() {
    if (!m_bench.isUnsaved() || !m_bench.canUndo())
        return true; // a picture just opened is still in its own file
    QMessageBox box(m_window);
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

void JobFiles::remember(const QString& path) {
    if (path.isEmpty() || isOfDemo(path))
        return;
    QStringList all = recent();
    all.removeAll(path);
    all.prepend(path);
    constexpr int kMostRecent = 6;
    QSettings().setValue("recentJobs", QVariant(all.mid(0, kMostRecent)));
}

QStringList JobFiles::recent() const {
    return QSettings().value("recentJobs").toStringList();
}

} // namespace thinline::app
