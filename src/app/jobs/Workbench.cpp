// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Workbench.h"

#include "document/Inspection.h"
#include "document/JobFile.h"
#include "document/JobSources.h"

#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>

namespace thinline::app {
namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

/// Whether a Thin Line with this process number runs; a number may have gone to another program.
bool isOurProgramRunning(int process) {
    QFile name(QStringLiteral("/proc/%1/comm").arg(process));
    return name.open(QIODevice::ReadOnly) && name.readAll().startsWith("thinline");
}

} // namespace

Workbench::Workbench(base::FileStore& store, const base::FontStore& fonts, const QString& recoveryFolder,
                     QObject* parent)
    : QObject(parent), m_store(store), m_fonts(fonts),
      m_history(document::newJob(document::shippedCatalogue())),
      m_recovery(store, recoveryFolder.toStdString(), static_cast<int>(QCoreApplication::applicationPid()),
                 isOurProgramRunning) {
    m_saved = m_history.snapshot();
    m_autosaveTimer.setSingleShot(true);
    connect(&m_autosaveTimer, &QTimer::timeout, this, &Workbench::autosave);
    connect(&m_work, &Task::started, this, &Workbench::busyChanged);
    connect(&m_work, &Task::finished, this, &Workbench::busyChanged);
    connect(&m_work, &Task::progressed, this, &Workbench::progressed);
}

Workbench::~Workbench() = default;

void Workbench::apply(const QString& name, document::Job job) {
    m_history.push(std::move(job), name.toStdString());
    announce();
}

void Workbench::run(const QString& name, Step step) {
    start(name, step, false);
}

void Workbench::start(const QString& name, const Step& step, bool isAmendment) {
    m_isDerivingArrangement = isAmendment;
    m_work.start(name,
                 [this, name, step, isAmendment,
                  base = m_history.snapshot()](const base::Progress& progress) -> Task::Conclusion {
                     auto result = std::make_shared<base::Result<document::Job>>(step(*base, progress));
                     return [this, name, step, base, result, isAmendment] {
                         conclude(name, step, base, std::move(*result), isAmendment);
                     };
                 });
}

void Workbench::conclude(const QString& name, const Step& step,
                         const std::shared_ptr<const document::Job>& base, base::Result<document::Job> result,
                         bool isAmendment) {
    if (base != m_history.snapshot()) {
        if (isAmendment)
            wantArrangement();
        else
            start(name, step, false);
        return;
    }
    m_isDerivingArrangement = false;
    if (!result) {
        if (result.error().code != base::Code::Cancelled)
            emit failed(text(result.error().message));
        emit changed(); // controls go back to what the job says
        return;
    }
    if (isAmendment) {
        const bool wasSaved = !isUnsaved();
        m_history.amend(result.take());
        if (wasSaved)
            m_saved = m_history.snapshot();
    } else {
        m_history.push(result.take(), name.toStdString());
    }
    announce();
}

void Workbench::wantArrangement() {
    if (!isTraced() || job().arrangement || m_work.isRunning())
        return;
    start(
        tr("Arranging"),
        [this](const document::Job& now, const base::Progress& progress) {
            return document::arranged(now, catalogue().formats, progress);
        },
        true);
}

void Workbench::announce() {
    inspect();
    if (isUnsaved() && !m_autosaveTimer.isActive()) {
        constexpr int kAutosaveMs = 2000; // with the writing itself a kill loses less than five seconds
        m_autosaveTimer.start(kAutosaveMs);
    }
    emit changed();
    emit fileChanged();
}

void Workbench::undo() {
    m_work.stop();
    m_history.undo();
    announce();
}

void Workbench::redo() {
    m_work.stop();
    m_history.redo();
    announce();
}

void Workbench::inspect() {
    m_inspector.start(tr("Inspecting"),
                      [this, job = m_history.snapshot()](const base::Progress& progress) -> Task::Conclusion {
                          auto findings =
                              inspect::inspect(document::subjectOf(*job, catalogue().formats), {}, progress);
                          if (!findings)
                              return {};
                          return [this, found = findings.take()] {
                              m_findings = found;
                              emit findingsChanged();
                          };
                      });
}

void Workbench::begin(document::Job job, const QString& path, std::shared_ptr<const raster::Picture> picture,
                      bool isSaved) {
    m_work.stop();
    m_decoder.stop();
    m_history.reset(std::move(job));
    m_saved = isSaved ? m_history.snapshot() : nullptr;
    m_path = path;
    m_picture = std::move(picture);
    m_hasJob = true;
    m_findings.clear();
    emit opened();
    emit pictureChanged();
    emit findingsChanged();
    announce();
    if (!m_picture)
        decodePicture();
}

void Workbench::decodePicture() {
    if (!hasPicture())
        return;
    m_decoder.start(tr("Opening the picture"),
                    [this, job = m_history.snapshot()](const base::Progress&) -> Task::Conclusion {
                        auto picture = document::pictureOf(*job);
                        return [this, picture, artwork = job->artwork] {
                            if (this->job().artwork != artwork)
                                return;
                            if (!picture) {
                                emit failed(text(picture.error().message));
                                return;
                            }
                            m_picture = *picture;
                            emit pictureChanged();
                            emit changed();
                        };
                    });
}

/// What opening some bytes leads to: a job, a drawing or a picture, by what they hold. A background thread
/// calls it.
Task::Conclusion Workbench::opening(const base::Bytes& bytes, const QString& path, base::LengthUnit unit,
                                    const base::Progress& progress) {
    const QString fileName = QFileInfo(path).fileName();
    const auto refused = [this](const base::Error& error, const QString& prefix = {}) -> Task::Conclusion {
        if (error.code == base::Code::Cancelled)
            return {};
        return [this, words = prefix + text(error.message)] { emit failed(words); };
    };
    if (document::kindOf(bytes) == document::FileKind::Job) {
        auto read = document::readJob(bytes);
        if (!read)
            return refused(read.error(), fileName + ": ");
        return [this, job = read.take(), path] { begin(job, path, nullptr, true); };
    }
    auto fresh = document::newJob(catalogue());
    fresh.unit = unit;
    const std::string name = fileName.toStdString();
    if (document::isDrawing(bytes)) {
        auto drawing = document::openDrawing(fresh, bytes, name, catalogue(), m_fonts, progress);
        if (!drawing)
            return refused(drawing.error());
        return [this, noted = drawing.take()] {
            begin(noted.job, QString(), nullptr, false);
            if (!noted.note.empty())
                emit this->noted(text(noted.note));
        };
    }
    auto picture = document::openPicture(fresh, bytes, name);
    if (!picture)
        return refused(picture.error());
    return [this, opened = picture.take()] {
        begin(opened.job, QString(), opened.picture, false);
        if (!opened.note.empty())
            emit noted(text(opened.note));
    };
}

void Workbench::open(const QString& path) {
    m_work.start(tr("Opening %1").arg(QFileInfo(path).fileName()),
                 [this, path, unit = job().unit](const base::Progress& progress) -> Task::Conclusion {
                     auto bytes = m_store.read(path.toStdString(), base::kMostFileBytes);
                     if (!bytes)
                         return [this, error = bytes.error()] { emit failed(text(error.message)); };
                     return opening(*bytes, path, unit, progress);
                 });
}

void Workbench::openBytes(const base::Bytes& bytes, const QString& fileName) {
    m_work.start(tr("Opening %1").arg(fileName),
                 [this, bytes, fileName, unit = job().unit](const base::Progress& progress) {
                     return opening(bytes, fileName, unit, progress);
                 });
}

void Workbench::add(const QStringList& paths) {
    m_work.start(tr("Adding files"),
                 [this, paths, before = m_history.snapshot(), hasJob = m_hasJob](
                     const base::Progress& progress) { return adding(paths, before, hasJob, progress); });
}

/// What adding files leads to. A background thread calls it. Without a job a picture among them becomes the
/// one that is traced.
Task::Conclusion Workbench::adding(const QStringList& paths,
                                   const std::shared_ptr<const document::Job>& before, bool hasJob,
                                   const base::Progress& progress) {
    auto now = std::make_shared<document::Job>(*before);
    std::shared_ptr<const raster::Picture> picture;
    if (!hasJob) {
        *now = document::newJob(catalogue());
        now->unit = before->unit;
    }
    QStringList notes, refusals;
    int added = 0;
    const auto refuse = [&](const base::Error& error) { refusals.append(text(error.message)); };
    for (const QString& path : paths) {
        const std::string name = QFileInfo(path).fileName().toStdString();
        const auto bytes = m_store.read(path.toStdString(), base::kMostFileBytes);
        if (!bytes) {
            refuse(bytes.error());
        } else if (document::isDrawing(*bytes)) {
            auto with = document::withDrawing(*now, *bytes, name, catalogue(), m_fonts, progress);
            if (!with && with.error().code == base::Code::Cancelled)
                return {};
            if (!with) {
                refuse(with.error());
                continue;
            }
            document::Noted made = with.take();
            *now = std::move(made.job);
            ++added;
            if (!made.note.empty())
                notes.append(text(made.note));
        } else if (!hasJob && added == 0 && document::kindOf(*bytes) != document::FileKind::Job) {
            auto opened = document::openPicture(*now, *bytes, name);
            if (!opened) {
                refuse(opened.error());
                continue;
            }
            document::OpenedPicture made = opened.take();
            *now = std::move(made.job);
            picture = made.picture;
            ++added;
            if (!made.note.empty())
                notes.append(text(made.note));
        } else {
            refusals.append(tr("%1 is no drawing of outlines; open it as a job of its own.").arg(text(name)));
        }
    }
    return [this, before, now, picture, notes, refusals, hasJob, added] {
        if (m_history.snapshot() != before || m_hasJob != hasJob) {
            emit failed(tr("The job was changed meanwhile; add the files again."));
            return;
        }
        if (added > 0 && hasJob)
            apply(added == 1 ? tr("Add a drawing") : tr("Add drawings"), *now);
        else if (added > 0)
            begin(*now, QString(), picture, false);
        if (!refusals.isEmpty())
            emit failed(refusals.join(" "));
        else if (!notes.isEmpty())
            emit noted(notes.join(" "));
    };
}

void Workbench::beginIfNone() {
    if (m_hasJob)
        return;
    auto fresh = document::newJob(catalogue());
    fresh.unit = job().unit;
    begin(std::move(fresh), QString(), nullptr, false);
}

bool Workbench::save(const QString& path) {
    m_saver.wait();
    const auto snapshot = m_history.snapshot();
    const base::Status saved = document::saveJob(m_store, path.toStdString(), *snapshot);
    if (!saved) {
        emit failed(text(saved.error().message));
        return false;
    }
    m_path = path;
    m_saved = snapshot;
    m_autosaveTimer.stop();
    abandon();
    emit fileChanged();
    return true;
}

void Workbench::abandon() {
    m_autosaveTimer.stop();
    m_saver.stop();
    m_saver.wait();
    if (const auto gone = m_recovery.discard(); !gone)
        emit failed(text(gone.error().message));
}

void Workbench::autosave() {
    if (!isUnsaved())
        return;
    m_saver.start(
        tr("Autosaving"),
        [this, job = m_history.snapshot(), path = m_path](const base::Progress&) -> Task::Conclusion {
            const base::Status kept = m_recovery.keep(*job, path.toStdString());
            if (kept)
                return {};
            return [this, error = kept.error()] {
                emit failed(tr("Autosave failed: %1").arg(text(error.message)));
            };
        });
}

void Workbench::recover(const document::Recovery::Lost& lost) {
    auto job = document::loadJob(m_store, lost.path);
    if (!job) {
        emit failed(text(job.error().message));
        return;
    }
    begin(job.take(), text(lost.originPath), nullptr, false);
    autosave(); // under our own number first, then the old copy may go
    m_saver.wait();
    forget(lost);
}

void Workbench::forget(const document::Recovery::Lost& lost) {
    if (const auto gone = m_recovery.forget(lost); !gone)
        emit failed(text(gone.error().message));
}

} // namespace thinline::app
