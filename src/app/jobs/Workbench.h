// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Task.h"
#include "base/FileStore.h"
#include "document/Catalogue.h"
#include "document/History.h"
#include "document/Recovery.h"
#include "inspect/Inspect.h"

#include <QObject>
#include <QString>
#include <QTimer>

#include <functional>
#include <memory>
#include <vector>

namespace thinline::app {

/// The open job and everything that happens to it: steps, undo, long work, findings, files, autosave. Views
/// read from it and listen; it computes nothing itself.
class Workbench : public QObject {
    Q_OBJECT
  public:
    using Step = std::function<base::Result<document::Job>(const document::Job&, const base::Progress&)>;

    Workbench(base::FileStore& store, const base::FontStore& fonts, const QString& recoveryFolder,
              QObject* parent = nullptr);
    ~Workbench() override;

    const document::Catalogue& catalogue() const { return document::shippedCatalogue(); }
    const document::Job& job() const { return m_history.now(); }
    const base::FontStore& fonts() const { return m_fonts; }
    bool hasPicture() const { return job().artwork != nullptr; }
    /// Whether there are pieces, traced or otherwise.
    bool isTraced() const { return job().stack != nullptr; }
    /// The artwork's pixels; null until they are decoded.
    std::shared_ptr<const raster::Picture> picture() const { return m_picture; }
    const std::vector<inspect::Finding>& findings() const { return m_findings; }

    // ---- steps
    /// Takes a state computed at once.
    void apply(const QString& name, document::Job job);
    /// Computes a step in the background and takes its result. If the job has moved on meanwhile, the step is
    /// computed again on the newer state. A newer run replaces an unfinished one.
    void run(const QString& name, Step step);
    /// Makes sure there is an arrangement; what the program derives itself is no step of its own.
    void wantArrangement();
    void stop() { m_work.stop(); }
    bool isBusy() const { return m_work.isRunning(); }
    const Task& work() const { return m_work; }

    bool canUndo() const { return m_history.canUndo(); }
    bool canRedo() const { return m_history.canRedo(); }
    QString undoName() const { return QString::fromStdString(m_history.undoName()); }
    QString redoName() const { return QString::fromStdString(m_history.redoName()); }
    void undo();
    void redo();

    // ---- files
    /// Opens a job or a picture, by what the file holds. The present job stays until the new one is ready.
    void open(const QString& path);
    /// Opens what was pasted, as if it were a file of this name.
    void openBytes(const base::Bytes& bytes, const QString& fileName);
    /// Adds drawings to the present job, or begins one with them; a picture among them is taken only when it
    /// begins the job. What cannot be added is refused in a sentence, the rest is taken.
    void add(const QStringList& paths);
    /// Begins an empty job when there is none.
    void beginIfNone();
    /// Returns whether the job was written; a failure is told through `failed`.
    bool save(const QString& path);
    QString path() const { return m_path; }
    bool isUnsaved() const { return m_hasJob && m_history.snapshot() != m_saved; }
    bool hasJob() const { return m_hasJob; }
    /// Unsaved work is given up on purpose.
    void abandon();

    std::vector<document::Recovery::Lost> lostWork() const { return m_recovery.findLost(); }
    void recover(const document::Recovery::Lost& lost);
    void forget(const document::Recovery::Lost& lost);

  signals:
    void changed(); ///< another state is current
    void opened();  ///< another job altogether
    void pictureChanged();
    void findingsChanged();
    void fileChanged(); ///< path or saved state
    void failed(const QString& sentence);
    void noted(const QString& sentence);
    void busyChanged();
    void progressed(double fraction, const QString& doing);

  private:
    void begin(document::Job job, const QString& path, std::shared_ptr<const raster::Picture> picture,
               bool isSaved);
    void conclude(const QString& name, const Step& step, const std::shared_ptr<const document::Job>& base,
                  base::Result<document::Job> result, bool isAmendment);
    void start(const QString& name, const Step& step, bool isAmendment);
    void announce();
    void inspect();
    void autosave();
    void decodePicture();

    Task::Conclusion adding(const QStringList& paths, const std::shared_ptr<const document::Job>& before,
                            bool hasJob, const base::Progress& progress);
    Task::Conclusion opening(const base::Bytes& bytes, const QString& path, base::LengthUnit unit,
                             const base::Progress& progress);

    base::FileStore& m_store;
    const base::FontStore& m_fonts;
    document::History m_history;
    document::Recovery m_recovery;
    std::shared_ptr<const document::Job> m_saved;
    std::shared_ptr<const raster::Picture> m_picture;
    std::vector<inspect::Finding> m_findings;
    QString m_path;
    bool m_hasJob = false;
    bool m_isDerivingArrangement = false;
    QTimer m_autosaveTimer;
    Task m_work;      ///< steps of the person
    Task m_inspector; ///< findings, behind everything
    Task m_saver;     ///< autosave
    Task m_decoder;   ///< the picture of a job just opened
};

} // namespace thinline::app
