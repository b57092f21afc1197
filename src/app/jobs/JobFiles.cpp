// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Questions about files are asked here, and what depends on an answer goes on from it.
//
// Saving takes as long as a disk takes, and the window does not wait for it. So nothing here returns whether something was
// saved: whoever needs it saved first (closing, opening another job) hands over what is to follow, and that is done when
// the file is written, and never when it is not. A saving that runs already is waited for in the same way, before
// anything is asked: what is being written needs no question.
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
    leave([this, path] { m_bench.open(path); });
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
    else
        leave([this, bytes, name] { m_bench.openBytes(bytes, name); });
}

QStringList JobFiles::pathsOf(const QMimeData& held) {
    QStringList paths;
    for (const QUrl& url : held.urls())
        if (url.isLocalFile())
            paths.append(url.toLocalFile());
    return paths;
}

void JobFiles::drop(const QMimeData& held) {
    const QStringList paths = pathsOf(held);
    if (paths.isEmpty())
        emit told(tr("Drop a picture, a drawing or a job that is a file on this computer."), true);
    else if (paths.size() == 1)
        open(paths.first());
    else
        m_bench.add(paths);
}

void JobFiles::save(const Then& then) {
    if (!m_bench.hasJob())
        return;
    const bool hasPlace =
        !m_bench.path().isEmpty() && !isOfDemo(m_bench.path()); // the demo stays as it was shipped
    hasPlace ? saveTo(m_bench.path(), then) : saveAs(then);
}

QString askForJobFile(QWidget* parent, const QString& title, const QString& name, const QString& own) {
    // The question about a file that is there is ours: it is about the name with its ending.
    QString path = QFileDialog::getSaveFileName(parent, title, QDir::homePath() + "/" + name + ".thinline",
                                                JobFiles::tr("Thin Line jobs (*.thinline)"), nullptr,
                                                QFileDialog::DontConfirmOverwrite);
    if (path.isEmpty())
        return {};
    path = QString::fromStdString(document::withJobEnding(path.toStdString()));
    if (QFileInfo::exists(path) && path != own &&
        QMessageBox::question(parent, title,
                              JobFiles::tr("There is a file %1 in that folder already. Replace it?")
                                  .arg(QFileInfo(path).fileName()),
                              QMessageBox::Yes | QMessageBox::No, QMessageBox::No) != QMessageBox::Yes)
        return {};
    return path;
}

void JobFiles::saveAs(const Then& then) {
    if (!m_bench.hasJob())
        return;
    const QString path = askForJobFile(m_window, tr("Save the job"),
                                       QString::fromStdString(m_bench.job().name), m_bench.path());
    if (!path.isEmpty())
        saveTo(path, then);
}

void JobFiles::saveTo(const QString& path, const Then& then, document::Theirs theirs) {
    m_bench.save(path, theirs, [this, path, then](Workbench::Saved saved) {
        if (saved == Workbench::Saved::ChangedMeanwhile)
            return askAboutTheirs(path, then);
        if (saved != Workbench::Saved::Written)
            return;
        remember(path);
        if (then)
            then();
    });
}

/// Somebody else wrote the file meanwhile: nobody's work goes without being asked.
void JobFiles::askAboutTheirs(const QString& path, const Then& then) {
    QMessageBox box(m_window);
    box.setWindowTitle(tr("Two versions"));
    box.setText(tr("%1 was changed by another program or window since it was opened here.")
                    .arg(QFileInfo(path).fileName()));
    box.setInformativeText(tr("Keep both saves yours beside it under another name."));
    auto* both = box.addButton(tr("Keep both"), QMessageBox::AcceptRole);
    auto* look = box.addButton(tr("Look at theirs"), QMessageBox::ActionRole);
    auto* over = box.addButton(tr("Overwrite theirs"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.setDefaultButton(both);
    box.exec();
    if (box.clickedButton() == both)
        saveTo(QString::fromStdString(document::freeNameBeside(m_bench.files(), path.toStdString())), then);
    else if (box.clickedButton() == over)
        saveTo(path, then, document::Theirs::Overwrite);
    else if (box.clickedButton() == look)
        emit wantsAnotherWindow(path);
}

void JobFiles::leave(const Then& then) {
    if (mayLeave(then))
        then();
}

bool JobFiles::mayLeave(const Then& then) {
    if (!m_bench.isWorthKeeping())
        return true; // a picture just opened is still in its own file
    if (m_bench.isSaving()) {
        m_bench.afterSaving([this, then] { leave(then); });
        return false;
    }
    QMessageBox box(m_window);
    box.setWindowTitle(tr("Unsaved work"));
    box.setText(tr("Save the changes to %1 first?").arg(QString::fromStdString(m_bench.job().name)));
    auto* saveButton = box.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* dropButton = box.addButton(tr("Give them up"), QMessageBox::DestructiveRole);
    box.addButton(tr("Stay here"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == saveButton)
        save(then);
    // The copy goes when the next job is there: opening it may fail.
    return box.clickedButton() == dropButton;
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
