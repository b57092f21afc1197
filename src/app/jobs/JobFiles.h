// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

class QMimeData;

namespace thinline::app {

/// The window's dealings with files: opening, adding, pasting, dropping, saving, leaving; and the jobs it remembers.
class JobFiles : public QObject {
    Q_OBJECT
  public:
    /// `window` carries the dialogs.
    JobFiles(Workbench& bench, const QString& demoFolder, QWidget* window);

    void openDemo(const QString& file = QStringLiteral("gull-point-lighthouse.thinline"));
    /// Asks about unsaved work where there is any, then opens.
    void open(const QString& path);
    void choose();
    void chooseAdditions();
    void paste();
    /// The files on this computer that are held.
    static QStringList pathsOf(const QMimeData& held);
    /// Takes files that were dropped: one is opened, several become one job.
    void drop(const QMimeData& held);
    using Then = std::function<void()>;
    /// Both go on with `then` once the job is written, and not when it is not.
    void save(const Then& then = {});
    void saveAs(const Then& then = {});
    /// Asks what becomes of unsaved work; returns whether the job may be left now. When it is saved first, `then` follows
    /// on that.
    bool mayLeave(const Then& then);
    /// Goes on once the job may be left.
    void leave(const Then& then);
    void remember(const QString& path);
    QStringList recent() const;

  signals:
    /// Somebody wants to see a job beside this one.
    void wantsAnotherWindow(const QString& path);
    void told(const QString& sentence, bool isProblem);

  private:
    void saveTo(const QString& path, const Then& then, document::Theirs theirs = document::Theirs::Keep);
    void askAboutTheirs(const QString& path, const Then& then);
    bool isOfDemo(const QString& path) const { return path.startsWith(m_demoFolder + "/"); }
    Workbench& m_bench;
    QString m_demoFolder;
    QWidget* m_window;
};

/// Asks where a job is saved, and whether a file that is there is replaced; `own` is the file the job is in anyhow. Empty when
/// it is not saved.
QString askForJobFile(QWidget* parent, const QString& title, const QString& name, const QString& own = {});

} // namespace thinline::app
