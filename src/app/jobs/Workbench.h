// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Outlines.h"
#include "app/jobs/Handed.h"
#include "app/jobs/Task.h"
#include "design/Drawer.h"
#include "document/History.h"
#include "document/JobFile.h"
#include "document/Recovery.h"
#include "inspect/Inspect.h"
#include "job/Opening.h"
#include "job/SizeAnswers.h"

#include <QObject>
#include <QString>
#include <QStringList>
#include <QTimer>

#include <functional>
#include <memory>
#include <vector>

namespace thinline::app {

/// What a step of the person led to.
struct Outcome {
    job::Job job;
    job::Made made = {}; ///< as far as it was made
    std::string note = {};

    Outcome(job::Job only) : job(std::move(only)) {}
    Outcome(job::State state) : job(std::move(state.job)), made(std::move(state.made)) {}
    Outcome(job::Noted noted) : job(std::move(noted.job)), note(std::move(noted.note)) {}
    Outcome(job::Sized sized) : Outcome(std::move(sized.state)) { note = std::move(sized.told); }
    Outcome(job::CopiesAnswer answer) : Outcome(std::move(answer.sized)) {}
    Outcome(job::FrameAnswer answer) : Outcome(std::move(answer.sized)) {}
};

/// The open job and everything that happens to it: steps, undo, what follows, findings, files, autosave. Views
/// read from it and listen. Nothing is computed on the interface thread: a step is taken at once, what follows from
/// it is made by a worker, and until that is there what followed before is shown.
class Workbench : public QObject {
    Q_OBJECT
  public:
    Workbench(base::FileStore& store, const base::FontStore& fonts, const base::PageReader& pages,
              const QString& recoveryFolder, QObject* parent = nullptr);
    ~Workbench() override;

    const job::Catalogue& catalogue() const { return job::shippedCatalogue(); }
    const job::Job& job() const { return m_history.now(); }
    /// What follows from the job, or from the one before as long as that is not made.
    const job::Made& made() const { return *m_made; }
    job::State state() const { return {job(), made()}; }
    /// The pieces as they are shown; null without any.
    const design::Stack* work() const { return m_made->work(); }
    /// Tells states apart.
    int serial() const { return m_history.serial(); }
    bool hasPieces() const { return work() != nullptr; }
    /// Whether what is shown followed from an earlier job.
    bool isBehind() const { return m_madeOf != m_history.serial(); }
    /// Whether it will stay so, because the making was stopped or failed.
    bool isStale() const { return isBehind() && !m_maker.isRunning(); }

    const base::FontStore& fonts() const { return m_fonts; }
    const base::PageReader& pages() const { return m_pages; }
    bool hasPicture() const { return pictureSource() != nullptr; }
    /// The picture in hand: the one that was taken last, else the first; null without any.
    const job::Source* pictureSource() const { return job::pictureSource(job(), m_inHand); }
    design::SourceId pictureInHand() const { return hasPicture() ? pictureSource()->id : design::SourceId{}; }
    void takeInHand(design::SourceId picture);
    /// The pixels of the picture in hand; null until they are decoded.
    std::shared_ptr<const raster::Picture> picture() const {
        return hasPicture() && fileInHand() == m_pictureFile && sheetInHand() == m_pictureSheet ? m_picture : nullptr;
    }
    const std::vector<inspect::Finding>& findings() const { return m_findings; }
    /// Whether they were looked for since the job was opened.
    bool isInspected() const { return m_isInspected; }
    /// What was found out about bodies; a background look holds it, for the window may close before it ends.
    std::shared_ptr<inspect::Memory> known() const { return m_known; }
    std::shared_ptr<Outlines> outlines() const { return m_outlines; }
    /// Whether how printed pieces look is being painted.
    bool isPainting() const { return m_painter.isRunning(); }

    // ---- steps
    /// Says why something was refused; nothing of what was only stopped.
    void tell(const base::Error& error, const QString& prefix = {});
    /// Takes a step that needs no computing.
    void act(const QString& name, job::Job job);
    /// Computes a step in the background and takes its result. `step` is called with a state of which everything up
    /// to the finish is made, and returns a Result of something an Outcome is made of. If the job has moved on
    /// meanwhile, it is computed again on the newer state. A newer run replaces an unfinished one.
    template <class Step>
    void run(const QString& name, Step step) {
        start(name, [step](const job::State& now, const base::Progress& progress) -> base::Result<Outcome> {
            auto result = step(now, progress);
            if (!result)
                return result.error();
            return Outcome(result.take());
        });
    }
    /// Mends what a finding tells, by its own steps.
    void mend(const inspect::Finding& finding);
    /// Whether somebody looks at the sheets, so that they are made too.
    void wantSheets(bool areWanted);
    /// Has the pieces laid on sheets once more; what is pinned stays. It is no step.
    void layAnew();
    /// For how long a closer layout is looked for, and whether that begins by itself.
    struct LookFor {
        double seconds = 20;
        long long steps = 0; ///< so many places instead, where the same picture is wanted every time
        bool isByItself = false;
    };
    void setLookFor(const LookFor& howLong) { m_lookFor = howLong; }
    const LookFor& lookFor() const { return m_lookFor; }
    /// Looks behind the interface for a closer layout than the one that is shown; better ones are shown as they come. It is
    /// no step. Another state, or stopLooking, ends it.
    void lookCloser();
    void stopLooking();
    bool isLookingCloser() const { return m_closer.isRunning(); }
    /// Whether the layout that is shown is what a look for a closer one has ended with.
    bool hasLookedCloser() const { return m_lookedAt && m_lookedAt == m_made->sheets; }
    /// Makes what follows from the job, if that is not made or being made.
    void catchUp();
    void stop();
    bool isBusy() const { return m_work.isRunning() || m_maker.isRunning(); }
    const Task& running() const { return m_work.isRunning() ? m_work : m_maker; }

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
    /// Adds pictures and drawings to the present job, or begins one with them. What cannot be added is refused in a
    /// sentence, the rest is taken.
    void add(const QStringList& paths);
    /// Keeps the job's stocks as those new jobs begin with, in the user's folder.
    base::Status keepDrawer();
    /// Keeps the job's machine as the one new jobs are cut on; the stocks of the drawer stay.
    base::Status keepMachine();
    /// What somebody owns; the shipped stocks while nothing was kept.
    base::Result<design::Drawer> drawer() const;
    base::Status putDrawer(const design::Drawer& drawer);
    /// The file of what somebody owns, and that of what she cut; neither may be there.
    const std::string& drawerPath() const { return m_drawerPath; }
    std::string logbookPath() const;
    /// Begins an empty job when there is none.
    void beginIfNone();
    enum class Saved { Written, Failed, ChangedMeanwhile };
    using Told = std::function<void(Saved)>;
    /// Has the job as it is now written by a worker and returns at once; `then` hears what came of it. A failure is told
    /// through `failed` too; that somebody else wrote the file is not. Savings follow one another.
    void save(const QString& path, document::Theirs theirs = document::Theirs::Keep, Told then = {});
    bool isSaving() const { return m_saver.isRunning(); }
    /// Does something once the saving that runs has ended.
    void afterSaving(std::function<void()> act) { m_afterSaving.push_back(std::move(act)); }
    QString path() const { return m_path; }
    bool isUnsaved() const { return m_hasJob && m_history.serial() != m_savedSerial; }
    /// Whether something would be lost by leaving the job: a file that was merely opened is still there.
    bool isWorthKeeping() const { return isUnsaved() && m_history.serial() != m_openedSerial; }
    bool hasJob() const { return m_hasJob; }
    base::FileStore& files() const { return m_store; }
    /// Unsaved work is given up on purpose: its copy goes, behind the interface.
    void abandon();

    /// Looks for work that was lost, behind the interface; `lostWorkFound` tells.
    void findLostWork();
    /// Brings lost work back. Its copy stays on the disk, as ours, until the work is saved or given up.
    void recover(const document::Recovery::Lost& lost);
    /// Throws lost work away, and looks what is left.
    void forget(const document::Recovery::Lost& lost);

  signals:
    void changed(); ///< another state is current, or what follows from it is made
    void opened();  ///< another job altogether
    void findingsChanged();
    void fileChanged(); ///< path or saved state
    void lostWorkFound(const std::vector<thinline::document::Recovery::Lost>& lost);
    void failed(const QString& sentence);
    void noted(const QString& sentence);
    void busyChanged();
    void lookedCloser(); ///< the look for a closer layout has ended
    void progressed(double fraction, const QString& doing);

  private:
    using Step = std::function<base::Result<Outcome>(const job::State&, const base::Progress&)>;
    /// That this window has a job's file open, for the others to see.
    struct Claim {
        std::string name;
        std::unique_ptr<base::FileLock> lock; ///< null where another window has it
    };
    struct Beginning {
        job::State state;
        QString path = {};
        std::shared_ptr<const raster::Picture> picture = {};
        std::shared_ptr<const document::SavedFile> saved = {}; ///< null when it is in no file
        std::string note = {};
        std::shared_ptr<const Claim> claim = {};                      ///< on its file
        std::shared_ptr<const document::Recovery::Claimed> lost = {}; ///< the copy it comes from
    };
    std::shared_ptr<const Claim> claimOn(const QString& path, const std::shared_ptr<const Claim>& held,
                                         std::string& note) const;
    document::Origin origin() const;
    void begin(Beginning beginning);
    void start(const QString& name, const Step& step);
    void conclude(const QString& name, const Step& step, int base, base::Result<Outcome> result);
    void takeMade(int serial, base::Result<job::State> result);
    bool hasAllThatIsWanted(const job::Made& made) const;
    void announce();
    void paintPrints();
    void takeCloser(int serial, Handed<design::Arrangement>& found, bool isLast);
    void inspect();
    void takeSaved(const QString& path, int serial, document::SavedFile saved,
                   std::shared_ptr<const Claim> claim, const std::string& note);
    void autosave();
    void decodePicture();
    job::State stateToKeep() const;

    /// An empty job with the shipped drawer, lengths in the present unit.
    job::Job freshJob();
    struct Added;
    base::Result<Beginning> beginningOf(const base::Bytes& bytes, const QString& path, const job::Job& fresh,
                                        const std::shared_ptr<const Claim>& held,
                                        const base::Progress& progress) const;
    Task::Conclusion opening(const base::Bytes& bytes, const QString& path, const job::Job& fresh,
                             const std::shared_ptr<const Claim>& held, const base::Progress& progress);
    Added addedTo(job::State state, const QStringList& paths, bool hasJob,
                  const base::Progress& progress) const;
    void takeAdded(const Added& added, int base, bool hadJob);

    base::FileStore& m_store;
    const base::FontStore& m_fonts;
    const base::PageReader& m_pages;
    document::History m_history;
    document::Recovery m_recovery;        ///< used by the keeper alone, but for looking for lost work
    std::string m_claimsFolder;           ///< who has which file open
    std::shared_ptr<const Claim> m_claim; ///< on the open file
    std::string m_drawerPath;             ///< the stocks new jobs begin with; the file may not be there
    std::shared_ptr<const job::Made> m_made = std::make_shared<const job::Made>(); ///< what is shown
    int m_madeOf = 0; ///< the state it follows from
    bool m_wantsSheets = false;
    int m_savedSerial = 0;
    int m_openedSerial = 0; ///< the state that was merely read from a file; 0 when there is none
    std::shared_ptr<const document::SavedFile> m_saved;
    std::shared_ptr<const job::Artwork> fileInHand() const;
    std::optional<job::SheetInPhoto> sheetInHand() const;
    design::SourceId m_inHand{};
    std::shared_ptr<const raster::Picture> m_picture;
    std::optional<job::SheetInPhoto> m_pictureSheet;   ///< in that file, if it is the photo of one
    std::shared_ptr<const job::Artwork> m_pictureFile; ///< whose pixels these are or will be
    std::vector<inspect::Finding> m_findings;
    bool m_isInspected = false;
    std::shared_ptr<inspect::Memory> m_known = std::make_shared<inspect::Memory>();
    std::shared_ptr<Outlines> m_outlines = std::make_shared<Outlines>();
    QString m_path;
    bool m_hasJob = false;
    QTimer m_autosaveTimer;
    Task m_work;  ///< steps of the person
    Task m_maker; ///< what follows from the job
    LookFor m_lookFor;
    Task m_closer;        ///< a closer layout
    QTimer m_closerTimer; ///< looks what it has found
    std::shared_ptr<const design::Arrangement> m_lookedAt;
    int m_closerOf = 0;                               ///< the state it is looked for
    Task m_painter;                                   ///< how printed pieces look
    Task m_inspector;                                 ///< findings, behind everything
    Task m_saver;                                     ///< saving
    std::vector<std::function<void()>> m_afterSaving; ///< what waits for the saving that runs
    Task m_finder;                                    ///< lost work
    Task m_keeper;                                    ///< the copy of unsaved work, one thing after another
    Task m_decoder;                                   ///< the picture of a job just opened
};

} // namespace thinline::app
