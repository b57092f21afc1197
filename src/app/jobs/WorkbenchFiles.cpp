// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A picture dropped on a job is a source like any other and goes to the right of what is there; the one that came last is
// in hand. Only a job file among dropped files is refused, since a job in a job has no meaning.

// How files come into the workbench: opened as a job of their own, or added to the present one.
#include "app/jobs/Workbench.h"
#include "document/Drawer.h"
#include "job/SourceSteps.h"
#include "job/StockSteps.h"

#include <QFileInfo>

namespace thinline::app {

/// What adding files came to.
struct Workbench::Added {
    job::State state;
    std::shared_ptr<const raster::Picture> picture; ///< of the first one
    design::SourceId inHand{};                      ///< the last one that came in
    QStringList notes, refusals;
    int count = 0;
    bool isStopped = false;
};

job::Job Workbench::freshJob() {
    job::Job out = job::newJob(catalogue());
    out.unit = job().unit;
    const auto drawer = document::readDrawer(m_store, m_drawerPath);
    if (drawer)
        return job::beginningWith(std::move(out), *drawer, catalogue());
    if (drawer.error().code != base::Code::NotFound) // none was kept
        emit failed(tr("%1 New jobs begin with the stocks that ship.")
                        .arg(QString::fromStdString(drawer.error().message)));
    return out;
}

base::Result<design::Drawer> Workbench::drawer() const {
    const auto known = document::readDrawer(m_store, m_drawerPath);
    if (!known && known.error().code == base::Code::NotFound)
        return design::Drawer{catalogue().drawer};
    return known;
}

base::Status Workbench::putDrawer(const design::Drawer& drawer) {
    if (auto made = m_store.makeFolder(QFileInfo(QString::fromStdString(m_drawerPath)).path().toStdString());
        !made)
        return made;
    return document::writeDrawer(m_store, m_drawerPath, drawer);
}

base::Status Workbench::keepDrawer() {
    const auto known = drawer();
    return known ? putDrawer(job::drawerOf(job(), *known)) : base::Status(known.error()); // it is not written over
}

base::Status Workbench::keepMachine() {
    auto known = drawer();
    if (!known)
        return known.error();
    design::Drawer changed = known.take();
    changed.machine = job().cut.machine;
    return putDrawer(changed);
}

std::string Workbench::logbookPath() const {
    return QFileInfo(QString::fromStdString(m_drawerPath)).path().toStdString() + "/logbook.sqlite";
}

/// What opening some bytes leads to: a job, a drawing or a picture, by what they hold. A background thread calls it.
base::Result<Workbench::Beginning> Workbench::beginningOf(const base::Bytes& bytes, const QString& path,
                                                          const job::Job& fresh,
                                                          const std::shared_ptr<const Claim>& held,
                                                          const base::Progress& progress) const {
    const job::Incoming file{bytes, QFileInfo(path).fileName().toStdString(),
                             job::recognise(bytes, &m_pages, progress)};
    Beginning out;
    if (file.is.kind == job::FileKind::Job) {
        auto read = document::loadJob(bytes, path.toStdString(), progress);
        if (!read)
            return read.error();
        document::LoadedJob loaded = read.take();
        out.state = std::move(loaded.state);
        out.path = path;
        out.saved = std::make_shared<const document::SavedFile>(std::move(loaded.saved));
        out.claim = claimOn(path, held, out.note);
    } else if (file.is.isDrawing) {
        auto drawing = job::openDrawing(fresh, file, catalogue(), m_fonts, progress.part(0, 0.7));
        if (!drawing)
            return drawing.error();
        job::Noted noted = drawing.take();
        auto made = job::make(std::move(noted.job), job::Stage::Finish, {}, progress.part(0.7, 1));
        if (!made)
            return made.error();
        out.state = made.take();
        out.note = std::move(noted.note);
    } else {
        auto opened = job::openPicture(fresh, file);
        if (!opened)
            return opened.error();
        job::OpenedPicture picture = opened.take();
        out.state.job = std::move(picture.job);
        out.picture = std::move(picture.picture);
        out.note = std::move(picture.note);
        if (out.note.empty())
            out.note = "The picture was " + job::whatItWasTakenFor(picture.kind) + ". Another way is a click away at Trace.";
    }
    return out;
}

Task::Conclusion Workbench::opening(const base::Bytes& bytes, const QString& path, const job::Job& fresh,
                                    const std::shared_ptr<const Claim>& held,
                                    const base::Progress& progress) {
    auto made = std::make_shared<base::Result<Beginning>>(beginningOf(bytes, path, fresh, held, progress));
    if (*made)
        m_outlines->learn((*made)->state.job, (*made)->state.made);
    return [this, made] { *made ? begin(made->take()) : tell(made->error()); };
}

void Workbench::openBytes(const base::Bytes& bytes, const QString& fileName) {
    m_work.start(tr("Opening %1").arg(QFileInfo(fileName).fileName()),
                 [this, bytes, fileName, fresh = freshJob(), held = m_claim](const base::Progress& progress) {
                     return opening(bytes, fileName, fresh, held, progress);
                 });
}

void Workbench::open(const QString& path) {
    m_work.start(
        tr("Opening %1").arg(QFileInfo(path).fileName()),
        [this, path, fresh = freshJob(), held = m_claim](const base::Progress& progress) -> Task::Conclusion {
            auto bytes = m_store.read(path.toStdString(), base::kMostFileBytes);
            if (!bytes)
                return [this, error = bytes.error()] { tell(error); };
            return opening(*bytes, path, fresh, held, progress);
        });
}

/// A background thread calls it.
Workbench::Added Workbench::addedTo(job::State state, const QStringList& paths, bool hasJob,
                                    const base::Progress& progress) const {
    Added out{std::move(state), {}, {}, {}, {}, 0, false};
    const auto refuse = [&](const base::Error& error) {
        out.isStopped = out.isStopped || error.code == base::Code::Cancelled;
        out.refusals.append(QString::fromStdString(error.message));
    };
    const auto take = [&](job::Job job, const std::string& note) {
        out.state.job = std::move(job);
        ++out.count;
        if (!note.empty())
            out.notes.append(QString::fromStdString(note));
        if (auto made = job::make(out.state.job, job::Stage::Finish, out.state.made, progress))
            out.state = made.take(); // the next one goes beside it
    };
    for (const QString& path : paths) {
        const auto bytes = m_store.read(path.toStdString(), base::kMostFileBytes);
        if (!bytes) {
            refuse(bytes.error());
            continue;
        }
        const job::Incoming file{*bytes, QFileInfo(path).fileName().toStdString(),
                                 job::recognise(*bytes, &m_pages, progress)};
        if (file.is.isDrawing) {
            auto with = job::withDrawing(out.state, file, catalogue(), m_fonts, progress);
            with ? take(with->job, with->note) : refuse(with.error());
        } else if (file.is.kind == job::FileKind::Job) {
            out.refusals.append(tr("%1 is a job; open it by itself.").arg(QString::fromStdString(file.name)));
        } else {
            const bool begins = !hasJob && out.count == 0;
            auto opened = begins ? job::openPicture(out.state.job, file) : job::withPicture(out.state, file);
            if (opened && !job::pictureSource(out.state.job))
                out.picture = opened->picture;
            if (opened)
                out.inHand = opened->source;
            opened ? take(opened->job, opened->note) : refuse(opened.error());
        }
        if (out.isStopped)
            break;
    }
    return out;
}

void Workbench::takeAdded(const Added& added, int base, bool hadJob) {
    if (m_history.serial() != base || m_hasJob != hadJob) {
        emit failed(tr("The job was changed meanwhile; add the files again."));
        return;
    }
    if (added.count > 0 && hadJob) {
        m_history.push(added.state.job, (added.count == 1 ? tr("Add a file") : tr("Add files")).toStdString(),
                       std::make_shared<const job::Made>(added.state.made));
        announce();
    } else if (added.count > 0) {
        Beginning beginning;
        beginning.state = added.state;
        beginning.picture = added.picture;
        begin(std::move(beginning));
    }
    if (added.count > 0 && added.inHand != design::SourceId{})
        takeInHand(added.inHand);
    if (!added.refusals.isEmpty())
        emit failed(added.refusals.join(" "));
    else if (!added.notes.isEmpty())
        emit noted(added.notes.join(" "));
}

void Workbench::add(const QStringList& paths) {
    const job::State now = m_hasJob ? state() : job::State{freshJob(), {}};
    m_work.start(tr("Adding files"),
                 [this, paths, now, isMade = m_hasJob && !isBehind(), base = m_history.serial(),
                  hadJob = m_hasJob](const base::Progress& progress) -> Task::Conclusion {
                     auto ready = isMade ? base::Result<job::State>(now)
                                         : job::make(now.job, job::Stage::Finish, now.made, progress);
                     if (!ready)
                         return [this, error = ready.error()] { tell(error); };
                     auto added = std::make_shared<Added>(addedTo(ready.take(), paths, hadJob, progress));
                     if (added->isStopped)
                         return {};
                     return [this, added, base, hadJob] { takeAdded(*added, base, hadJob); };
                 });
}

void Workbench::beginIfNone() {
    if (m_hasJob)
        return;
    Beginning beginning;
    beginning.state.job = freshJob();
    begin(std::move(beginning));
}

} // namespace thinline::app
