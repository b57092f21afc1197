// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The workbench: one job, and everything that runs for it behind the window.
//
// Three rules keep the window alive and the job right:
//
// 1. Decisions are taken at once, results come later. A click that changes the job pushes it onto the
//    history within a millisecond (`act`), and the window shows the new decision. What follows from it is
//    made behind the interface from a snapshot; until that is there the bench shows the work before, and
//    says so if it stays so. A step that has to know its result before it can be a decision (a weld that
//    may fail, a size that has to be solved) is run first and pushed when it succeeded (`run`).
// 2. What was computed for one state is never shown for another one. Everything that comes back carries
//    the serial number of the state it was made from. When the job moved on in between, a step is started
//    again on the new state, and a making is kept with the state it belongs to and taken over as far as it
//    still holds.
// 3. Background work holds what it uses. A task may outlive the window that asked for it by the time it
//    takes to notice the stop. So it captures snapshots and shared pointers, never this object's members;
//    only its conclusion, which runs on the interface thread and is dropped when the object is gone, may
//    touch them.
//
// One making runs at a time, and one that runs for an earlier state is let finish: what it made is mostly
// what the next one needs, because unchanged stages are taken over by pointer. Stopping it at every click
// would make a quick person wait longer than a slow one.
//
// Undo and redo exchange pointers. States remember what was made for them, so they need no making at all.
//
// Saving blocks nobody: the state of the moment is written by a worker, and what waits for it (closing,
// opening another job) goes on from its end. Autosave neither: two seconds
// after a change, to a copy of our own, in entries of which only the changed ones are written. Everything
// about that copy is done by one thread in the order it was asked for, and nothing waits for it: a copy
// goes when the work is saved or another job is there, never before.
#include "app/jobs/Workbench.h"

#include "job/SheetSteps.h"
#include "job/Steps.h"

#include <QCryptographicHash>
#include <QFileInfo>
#include <QGuiApplication>

#include <chrono>
#include <utility>

namespace thinline::app {
Workbench::Workbench(base::FileStore& store, const base::FontStore& fonts, const base::PageReader& pages,
                     const QString& recoveryFolder, QObject* parent)
    : QObject(parent), m_store(store), m_fonts(fonts), m_pages(pages),
      m_history(job::newJob(job::shippedCatalogue())), m_recovery(store, recoveryFolder.toStdString()),
      m_claimsFolder(recoveryFolder.toStdString() + "/open"),
      m_drawerPath(QFileInfo(recoveryFolder).path().toStdString() + "/drawer.json") {
    m_madeOf = m_savedSerial = m_history.serial();
    m_autosaveTimer.setSingleShot(true);
    connect(&m_autosaveTimer, &QTimer::timeout, this, &Workbench::autosave);
    for (Task* task : {&m_work, &m_maker}) {
        connect(task, &Task::started, this, &Workbench::busyChanged);
        connect(task, &Task::finished, this, &Workbench::busyChanged);
        connect(task, &Task::progressed, this, &Workbench::progressed);
    }
}

Workbench::~Workbench() = default;

void Workbench::tell(const base::Error& error, const QString& prefix) {
    if (error.code != base::Code::Cancelled)
        emit failed(prefix + QString::fromStdString(error.message));
}

// ---- steps ---------------------------------------------------------------------------------------------------

void Workbench::act(const QString& name, job::Job job) {
    m_history.push(std::move(job), name.toStdString());
    announce();
}

void Workbench::start(const QString& name, const Step& step) {
    const bool isMade = !isBehind();
    const auto stage = m_wantsSheets ? job::Stage::Sheets : job::Stage::Finish;
    m_work.start(name,
                 [this, name, step, isMade, stage, serial = m_history.serial(), job = m_history.snapshot(),
                  before = m_made](const base::Progress& progress) -> Task::Conclusion {
                     const auto taken = [&]() -> base::Result<Outcome> {
                         job::State now{*job, *before};
                         if (!isMade) {
                             auto made = job::make(*job, job::Stage::Finish, *before, progress);
                             if (!made)
                                 return made.error();
                             now = made.take();
                         }
                         auto done = step(now, progress);
                         if (!done)
                             return done.error();
                         Outcome outcome = done.take();
                         const job::Made& nearest = outcome.made.memory ? outcome.made : now.made;
                         auto made = job::make(std::move(outcome.job), stage, nearest, progress);
                         if (!made)
                             return made.error();
                         Outcome whole(made.take());
                         whole.note = outcome.note;
                         m_outlines->learn(whole.job, whole.made);
                         return whole;
                     };
                     auto result = std::make_shared<base::Result<Outcome>>(taken());
                     return [this, name, step, serial, result] {
                         conclude(name, step, serial, std::move(*result));
                     };
                 });
}

void Workbench::conclude(const QString& name, const Step& step, int base, base::Result<Outcome> result) {
    if (base != m_history.serial())
        return start(name, step);
    if (!result) {
        tell(result.error());
        emit changed(); // controls go back to what the job says
        return;
    }
    Outcome outcome = result.take();
    m_history.push(std::move(outcome.job), name.toStdString(),
                   std::make_shared<const job::Made>(std::move(outcome.made)));
    announce();
    if (!outcome.note.empty())
        emit noted(QString::fromStdString(outcome.note));
}

void Workbench::announce() {
    catchUp();
    decodePicture(); // another one may be in hand now
    if (isUnsaved() && !m_autosaveTimer.isActive()) {
        constexpr int kAutosaveMs = 2000; // with the writing itself a kill loses less than five seconds
        m_autosaveTimer.start(kAutosaveMs);
    }
    emit changed();
    emit fileChanged();
}

bool Workbench::hasAllThatIsWanted(const job::Made& made) const {
    return !m_wantsSheets || !made.work() || made.sheets || !made.sheetsProblem.empty();
}

/// One making at a time. One that runs for an earlier state is let finish: what it makes, the next one takes over.
void Workbench::catchUp() {
    if (const auto known = m_history.made(); known && (known != m_made || isBehind())) {
        m_made = known;
        m_madeOf = m_history.serial();
        inspect();
    }
    if (isLookingCloser() && m_closerOf != m_history.serial())
        stopLooking();
    if (m_maker.isRunning() || (!isBehind() && hasAllThatIsWanted(*m_made)))
        return;
    m_maker.start(
        m_wantsSheets ? tr("Laying the pieces on sheets") : tr("Making the pieces"),
        [this, serial = m_history.serial(), job = m_history.snapshot(), before = m_made,
         stage = m_wantsSheets ? job::Stage::Sheets
                               : job::Stage::Finish](const base::Progress& progress) -> Task::Conclusion {
            auto made = std::make_shared<base::Result<job::State>>(job::make(*job, stage, *before, progress));
            if (*made)
                m_outlines->learn((*made)->job, (*made)->made);
            return [this, serial, made] { takeMade(serial, std::move(*made)); };
        });
}

void Workbench::takeMade(int serial, base::Result<job::State> result) {
    if (!result) {
        tell(result.error());
        emit changed();
        return;
    }
    m_history.setMade(serial, result.take());
    if (serial == m_history.serial()) {
        m_made = m_history.made();
        m_madeOf = serial;
        inspect();
    } else {
        catchUp();
    }
    emit changed();
}

void Workbench::mend(const inspect::Finding& finding) {
    run(QString::fromStdString(finding.mendWords),
        [finding](const job::State& now, const base::Progress&) -> base::Result<job::Job> {
            job::State state = now;
            for (const inspect::Case& one : finding.cases)
                if (one.mend) {
                    auto next = job::withStep(state, *one.mend);
                    if (!next)
                        return next;
                    state.job = next.take();
                }
            return state.job;
        });
}

void Workbench::wantSheets(bool areWanted) {
    m_wantsSheets = areWanted;
    if (areWanted)
        catchUp();
}

void Workbench::layAnew() {
    m_history.setMade(m_history.serial(), {job(), job::withoutSheets(made())});
    catchUp();
    emit changed();
}

void Workbench::lookCloser() {
    if (isBehind() || !m_made->sheets)
        return;
    auto found = std::make_shared<Handed<design::Arrangement>>();
    m_closerOf = m_history.serial();
    m_closerTimer.disconnect(this);
    connect(&m_closerTimer, &QTimer::timeout, this, [this, serial = m_closerOf, found] {
        if (QGuiApplication::mouseButtons() == Qt::NoButton) // nothing moves under a hand that drags
            takeCloser(serial, *found, false);
    });
    constexpr int kLookMs = 150;
    m_closerTimer.start(kLookMs);
    m_closer.start(tr("Looking for a closer layout"),
                   [this, state = state(), howLong = m_lookFor,
                    found](const base::Progress& progress) -> Task::Conclusion {
                       using Clock = std::chrono::steady_clock;
                       sheets::CloseOptions how;
                       how.budget.steps = howLong.steps;
                       if (howLong.steps == 0)
                           how.budget.spent = [from = Clock::now(), all = howLong.seconds] {
                               return std::chrono::duration<double>(Clock::now() - from).count() / all;
                           };
                       const auto closer = job::laidCloser(
                           state, how, [found](const design::Arrangement& better) { found->put(better); },
                           progress);
                       return [this, serial = m_closerOf, found] {
                           m_closerTimer.stop();
                           takeCloser(serial, *found, true);
                           inspect();
                           emit lookedCloser();
                       };
                   });
}

void Workbench::takeCloser(int serial, Handed<design::Arrangement>& found, bool isLast) {
    const auto latest = found.take();
    if (serial != m_history.serial() || isBehind())
        return;
    const bool isCloser = latest && !(*latest == *m_made->sheets);
    if (isCloser) {
        m_history.setMade(serial, job::withSheets(state(), *latest));
        m_made = m_history.made();
    }
    if (isLast) // before anybody hears of it, and would look once more
        m_lookedAt = m_made->sheets;
    if (isCloser)
        emit changed();
}

void Workbench::stopLooking() {
    const bool wasLooking = m_closer.isRunning();
    m_closerTimer.stop();
    m_closer.stop();
    if (wasLooking) {
        m_lookedAt = m_made->sheets;
        inspect();
        emit lookedCloser();
    }
}

void Workbench::stop() {
    m_work.stop();
    m_maker.stop();
    emit changed();
}

void Workbench::undo() {
    m_work.stop();
    m_maker.stop();
    m_history.undo();
    announce();
}

void Workbench::redo() {
    m_work.stop();
    m_maker.stop();
    m_history.redo();
    announce();
}

/// What is printed, painted behind everything; scenes show it as soon as it is there.
void Workbench::paintPrints() {
    const auto before = m_outlines->prints();
    const bool isAny =
        work() && std::any_of(work()->pieces.begin(), work()->pieces.end(),
                              [](const design::Laid& laid) { return !laid.piece.body->faces.empty(); });
    if (!isAny) {
        m_painter.stop();
        if (!before->known.empty())
            m_outlines->showPrints(std::make_shared<const job::PrintLooks>());
        return;
    }
    m_painter.start(tr("Painting what is printed"),
                    [this, before, state = state()](const base::Progress& progress) -> Task::Conclusion {
                        auto looks = job::printLooks(state.job, *state.made.work(), *before, progress);
                        if (!looks)
                            return {};
                        return [this, shown = std::make_shared<const job::PrintLooks>(looks.take())] {
                            m_outlines->showPrints(shown);
                            if (!shown->problem.empty())
                                emit noted(QString::fromStdString(shown->problem));
                            emit changed();
                        };
                    });
}

void Workbench::inspect() {
    paintPrints();
    m_inspector.start(
        tr("Inspecting"),
        [this, state = state(), known = m_known](const base::Progress& progress) -> Task::Conclusion {
            auto findings = inspect::inspect(state, catalogue().formats, *known, {}, progress);
            if (!findings)
                return {};
            return [this, found = findings.take()] {
                m_findings = found;
                m_isInspected = true;
                emit findingsChanged();
            };
        });
}

// ---- keeping -------------------------------------------------------------------------------------------------

void Workbench::begin(Beginning beginning) {
    m_work.stop();
    m_maker.stop();
    m_decoder.stop();
    m_saver.stop(); // what it still writes is of the job before
    m_afterSaving.clear();
    auto made = std::make_shared<const job::Made>(std::move(beginning.state.made));
    const bool isMade = made->memory != nullptr;
    m_history.reset(std::move(beginning.state.job), isMade ? made : nullptr);
    m_made = made;
    m_madeOf = isMade ? m_history.serial() : 0;
    m_savedSerial = beginning.saved && !beginning.lost ? m_history.serial() : 0;
    m_openedSerial = beginning.lost ? 0 : m_history.serial();
    m_saved = std::move(beginning.saved);
    m_claim = std::move(beginning.claim);
    m_path = beginning.path;
    m_autosaveTimer.stop();
    m_keeper.start(tr("Putting the copy away"),
                   [this, lost = beginning.lost](const base::Progress&) -> Task::Conclusion {
                       const auto done = lost ? m_recovery.adopt(*lost) : m_recovery.discard();
                       return done ? Task::Conclusion{} : [this, error = done.error()] { tell(error); };
                   });
    m_hasJob = true;
    m_inHand = {};
    m_picture = std::move(beginning.picture);
    m_pictureFile = m_picture ? fileInHand() : nullptr;
    m_pictureSheet = sheetInHand();
    m_findings.clear();
    m_isInspected = false;
    emit opened();
    emit findingsChanged();
    if (isMade)
        inspect();
    announce(); // the picture with all else
    if (!beginning.note.empty())
        emit noted(QString::fromStdString(beginning.note));
}

std::shared_ptr<const job::Artwork> Workbench::fileInHand() const {
    const auto* picture = job::asA<job::Picture>(pictureSource());
    return picture ? picture->file : nullptr;
}

std::optional<job::SheetInPhoto> Workbench::sheetInHand() const {
    const auto* picture = job::asA<job::Picture>(pictureSource());
    return picture ? picture->sheet : std::nullopt;
}

void Workbench::takeInHand(design::SourceId picture) {
    if (picture == m_inHand || !job::asA<job::Picture>(job::findSource(job(), picture)))
        return;
    m_inHand = picture;
    decodePicture();
    emit changed();
}

/// No file is decoded twice, also one that cannot be.
void Workbench::decodePicture() {
    const auto file = fileInHand();
    const auto sheet = sheetInHand();
    if (!file || (file == m_pictureFile && sheet == m_pictureSheet))
        return;
    m_pictureFile = file;
    m_pictureSheet = sheet;
    m_picture = nullptr;
    m_decoder.start(tr("Opening the picture"),
                    [this, file, sheet, source = *pictureSource()](const base::Progress&) -> Task::Conclusion {
                        auto picture = job::pixelsOf(std::get<job::Picture>(source.what));
                        return [this, picture, file, sheet] {
                            if (file != m_pictureFile || sheet != m_pictureSheet)
                                return;
                            if (!picture)
                                return tell(picture.error());
                            m_picture = *picture;
                            emit changed();
                        };
                    });
}

/// The job, and what follows from it as far as that is known: an arrangement of another state is none of its own.
job::State Workbench::stateToKeep() const {
    return {job(), isBehind() ? job::Made{} : made()};
}

document::Origin Workbench::origin() const {
    return {m_path.toStdString(), m_saved ? m_saved->checksum : 0};
}

/// Claims a job's file among the windows of this user; the claim this window has already is kept. A background thread
/// calls it.
std::shared_ptr<const Workbench::Claim>
Workbench::claimOn(const QString& path, const std::shared_ptr<const Claim>& held, std::string& note) const {
    const QString real = QFileInfo(path).canonicalFilePath();
    const std::string name =
        QCryptographicHash::hash((real.isEmpty() ? path : real).toUtf8(), QCryptographicHash::Sha1)
            .toHex()
            .toStdString();
    if (held && held->name == name && held->lock)
        return held;
    if (!m_store.makeFolder(m_claimsFolder))
        return nullptr;
    auto lock = m_store.lock(m_claimsFolder + "/" + name);
    if (lock && !*lock)
        note = tr("%1 is open in another window too. Whoever saves second is asked which of the two holds.")
                   .arg(QFileInfo(path).fileName())
                   .toStdString();
    return std::make_shared<const Claim>(Claim{name, lock ? lock.take() : nullptr});
}

void Workbench::save(const QString& path, document::Theirs theirs, Told then) {
    if (isSaving())
        return afterSaving([this, path, theirs, then] { save(path, theirs, then); });
    const bool isAnother = path != m_path;
    m_saver.start(tr("Saving"),
                  [this, path, theirs, then, isAnother, serial = m_history.serial(), state = stateToKeep(),
                   before = m_saved, held = m_claim](const base::Progress&) -> Task::Conclusion {
                      auto saved = std::make_shared<base::Result<document::SavedFile>>(
                          document::saveJob(m_store, path.toStdString(), state, before.get(), theirs));
                      std::string note;
                      auto claim = *saved && isAnother ? claimOn(path, held, note) : held;
                      return [=, this] {
                          Saved came = Saved::Written;
                          if (*saved)
                              takeSaved(path, serial, saved->take(), claim, note);
                          else if (saved->error().code == base::Code::ChangedMeanwhile)
                              came = Saved::ChangedMeanwhile;
                          else
                              came = Saved::Failed, tell(saved->error());
                          if (then)
                              then(came);
                          while (!m_afterSaving.empty() && !isSaving()) {
                              const auto next = m_afterSaving.front();
                              m_afterSaving.erase(m_afterSaving.begin());
                              next();
                          }
                      };
                  });
}

void Workbench::takeSaved(const QString& path, int serial, document::SavedFile saved,
                          std::shared_ptr<const Claim> claim, const std::string& note) {
    m_saved = std::make_shared<const document::SavedFile>(std::move(saved));
    m_claim = std::move(claim);
    m_path = path;
    m_savedSerial = serial;
    if (!note.empty())
        emit noted(QString::fromStdString(note));
    if (!isUnsaved())
        abandon();
    emit fileChanged();
}

void Workbench::abandon() {
    m_autosaveTimer.stop();
    m_keeper.start(tr("Putting the copy away"), [this](const base::Progress&) -> Task::Conclusion {
        const auto gone = m_recovery.discard();
        return gone ? Task::Conclusion{} : [this, error = gone.error()] { tell(error); };
    });
}

void Workbench::autosave() {
    if (!isUnsaved())
        return;
    m_keeper.start(
        tr("Autosaving"),
        [this, state = stateToKeep(), origin = origin()](const base::Progress&) -> Task::Conclusion {
            const base::Status kept = m_recovery.keep(state, origin);
            if (kept)
                return {};
            return [this, error = kept.error()] { tell(error, tr("Autosave failed: ")); };
        });
}

void Workbench::recover(const document::Recovery::Lost& lost) {
    m_work.start(tr("Bringing lost work back"),
                 [this, lost, held = m_claim](const base::Progress& progress) -> Task::Conclusion {
                     auto claimed = m_recovery.claim(lost, progress);
                     if (!claimed)
                         return [this, error = claimed.error()] { tell(error); };
                     auto found = std::make_shared<const document::Recovery::Claimed>(claimed.take());
                     const document::Origin& origin = found->lost.origin;
                     const QString path = QString::fromStdString(origin.path);
                     std::string note;
                     auto claim = path.isEmpty() ? nullptr : claimOn(path, held, note);
                     return [this, found, origin, path, note, claim] {
                         Beginning beginning{found->state, path, {}, {}, note, claim, found};
                         if (!path.isEmpty())
                             beginning.saved = std::make_shared<const document::SavedFile>(
                                 document::SavedFile{origin.path, origin.checksum, {}});
                         begin(std::move(beginning));
                     };
                 });
}

void Workbench::findLostWork() {
    m_finder.start(tr("Looking for lost work"), [this](const base::Progress&) -> Task::Conclusion {
        return [this, lost = m_recovery.findLost()] { emit lostWorkFound(lost); };
    });
}

void Workbench::forget(const document::Recovery::Lost& lost) {
    m_finder.start(tr("Giving lost work up"), [this, lost](const base::Progress&) -> Task::Conclusion {
        const auto gone = m_recovery.forget(lost);
        return [this, gone, left = m_recovery.findLost()] {
            if (!gone)
                tell(gone.error());
            emit lostWorkFound(left);
        };
    });
}

} // namespace thinline::app
