// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What leaves the Cut station: files for machines, the checklist, the answer to the one question, another stock.
#include "app/stations/ChecklistDialog.h"
#include "app/stations/CutStation.h"
#include "app/stations/LogbookDialog.h"
#include "job/DrawerSteps.h"
#include "pack/LoadFiles.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>

#include <cmath>

namespace thinline::app {

/// What is kept of a load: the answer to the one question, and files.
void CutStation::buildFiles() {
    m_unload = linkButton(tr("Unload as it is"), tr("Take the mat out of the simulated machine"));
    m_unload->hide();
    controls()->addWidget(m_unload, 0, Qt::AlignLeft);
    connect(m_unload, &QPushButton::clicked, this, &CutStation::unload);
    addHeading(tr("What came of it on your machine?"));
    m_record = new CutRecord(bench(), m_store);
    controls()->addWidget(m_record);
    connect(m_record, &CutRecord::entered, this, &CutStation::askLogbook);
    auto* checklist = linkButton(tr("Checklist…"), tr("See what to do beside the machine"));
    auto* files = linkButton(tr("Files…"), tr("Write the loads as files for a machine"));
    auto* logbook = linkButton(tr("Logbook…"), tr("See what was cut how"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(2);
    for (QPushButton* link : {checklist, files, logbook})
        line->addWidget(link);
    line->addStretch();
    controls()->addWidget(row);
    connect(checklist, &QPushButton::clicked, this, &CutStation::showChecklist);
    const auto showLogbook = [this] {
        auto* dialog = new LogbookDialog(bench(), m_store, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        connect(dialog, &LogbookDialog::changed, this, &CutStation::askLogbook);
        dialog->open();
    };
    connect(logbook, &QPushButton::clicked, this, showLogbook);
    offer(tr("Open the logbook"), {}, showLogbook);
    auto* menu = new QMenu(files);
    menu->setToolTipsVisible(true);
    const auto add = [&](const QString& words, const QString& tip, const std::function<void()>& call) {
        QAction* action = menu->addAction(words);
        action->setToolTip(tip);
        connect(action, &QAction::triggered, this, call);
    };
    const auto intoFolder = [this](const QString& title, void (CutStation::*make)(const QString&)) {
        const QString folder = QFileDialog::getExistingDirectory(this, title, QDir::homePath());
        if (!folder.isEmpty())
            (this->*make)(folder);
    };
    add(tr("Plotter files…"),
        tr("HP-GL, 1016 units to the inch, one for each load and tool. Try a file without a blade first."),
        [this, intoFolder] { intoFolder(tr("Where to write plotter files"), &CutStation::writePlotter); });
    add(tr("DXF…"), tr("One for each load, in millimetres"),
        [this, intoFolder] { intoFolder(tr("Where to write DXF files"), &CutStation::writeDxf); });
    add(tr("PDF of all loads…"), tr("A page as large as its mat for each, at true size"), [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Where to write the loads"),
                                                          QDir::homePath() + "/loads.pdf", tr("PDF (*.pdf)"));
        if (!path.isEmpty())
            writePdf(path);
    });
    connect(files, &QPushButton::clicked, this,
            [files, menu] { menu->popup(files->mapToGlobal(QPoint(0, files->height()))); });
}

/// Other stocks to cut from, the best first; choosing one is a step.
void CutStation::offerOthers(const QPoint& at) {
    const std::string from = stockId();
    auto* menu = new QMenu(this);
    menu->setObjectName("others");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setToolTipsVisible(true);
    constexpr size_t kMost = 8;
    const std::vector<job::Instead> others = job::insteadOf(bench().job(), from);
    for (size_t i = 0; i < std::min(kMost, others.size()); ++i) {
        const job::Instead& one = others[i];
        QStringList words{one.doesFoldAlike ? tr("folds alike") : tr("folds otherwise"),
                          tr("colour off by %1").arg(std::lround(one.colourDifference))};
        if (one.sheets)
            words << countOf(*one.sheets, tr("sheet"), tr("sheets"));
        auto* action = menu->addAction(text(design::stockName(bench().job().stocks, one.stockId)) + ": " +
                                       words.join(QStringLiteral(", ")));
        action->setToolTip(one.changes.empty() ? tr("Nothing else changes") : text(one.changes));
        connect(action, &QAction::triggered, this, [this, from, to = one.stockId] {
            bench().run(tr("Cut from another stock"),
                        [from, to](const job::State& now, const base::Progress&) {
                            return job::withStockSwapped(now.job, from, to);
                        });
        });
    }
    if (others.empty())
        menu->addAction(tr("There is no other stock"))->setEnabled(false);
    menu->popup(at);
}

/// The checklist of the load that is looked at, to be followed on the screen, printed or written.
void CutStation::showChecklist() {
    if (!m_plan)
        return;
    const auto list = job::checklistOf(bench().state(), *m_plan, static_cast<size_t>(m_at));
    if (!list)
        return tell(m_note, text(list.error().message));
    auto* dialog = new ChecklistDialog(text(job::loadName(*m_plan, static_cast<size_t>(m_at))), *list, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &ChecklistDialog::wantsFile, this, [this] {
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Where to write the checklists of all loads"),
                                         QDir::homePath() + "/checklist.txt", tr("Text (*.txt)"));
        if (!path.isEmpty())
            writeChecklist(path);
    });
    dialog->open();
}

// ---- files --------------------------------------------------------------------------------------------------------

void CutStation::write(
    const QString& title, const QString& told,
    std::function<base::Status(base::FileStore&, const job::State&, const design::CutPlan&)> work) {
    if (!m_plan)
        return;
    m_writer.start(title,
                   [this, told, work = std::move(work), state = bench().state(), plan = m_plan,
                    &store = m_store](const base::Progress&) -> Task::Conclusion {
                       const base::Status done = work(store, state, *plan);
                       return [this, told, done] {
                           if (done)
                               emit this->told(told, false);
                           else
                               tell(m_note, text(done.error().message));
                       };
                   });
}

void CutStation::writeChecklist(const QString& path) {
    write(tr("Writing the checklist"), tr("The checklist is in %1.").arg(path),
          [file = path.toStdString()](base::FileStore& store, const job::State& state,
                                      const design::CutPlan& plan) -> base::Status {
              const auto list = job::checklistText(state, plan, 0, plan.loads.size());
              if (!list)
                  return list.error();
              const std::string out = state.job.name + "\n\n" + *list;
              return store.writeWhole(file, {out.begin(), out.end()});
          });
}

void CutStation::writePlotter(const QString& folder) {
    write(tr("Writing plotter files"),
          tr("The plotter files are in %1. Try one without a blade first.").arg(folder),
          [to = folder.toStdString()](base::FileStore& store, const job::State& state,
                                      const design::CutPlan& plan) -> base::Status {
              if (auto made = store.makeFolder(to); !made)
                  return made;
              const auto files = job::plotterFiles(state, plan);
              if (!files)
                  return files.error();
              for (const formats::plotter::PlotterFile& file : *files)
                  if (auto done =
                          store.writeWhole(to + "/" + file.name, {file.text.begin(), file.text.end()});
                      !done)
                      return done;
              return base::Done{};
          });
}

void CutStation::writeDxf(const QString& folder) {
    write(tr("Writing DXF files"), tr("The DXF files are in %1.").arg(folder),
          [to = folder.toStdString()](base::FileStore& store, const job::State& state,
                                      const design::CutPlan& plan) -> base::Status {
              if (auto made = store.makeFolder(to); !made)
                  return made;
              for (const pack::LoadFile& file : pack::dxfFiles(plan, *state.made.sheets))
                  if (auto done = store.writeWhole(to + "/" + file.name, file.bytes); !done)
                      return done;
              return base::Done{};
          });
}

void CutStation::writePdf(const QString& path) {
    write(tr("Writing the loads"), tr("The loads are in %1. Print at actual size.").arg(path),
          [to = path.toStdString()](base::FileStore& store, const job::State& state,
                                    const design::CutPlan& plan) -> base::Status {
              const auto file =
                  pack::pdfFile(plan, *state.made.sheets, *state.made.work(), state.job.name, state.job.unit);
              return file ? store.writeWhole(to, file->bytes) : base::Status(file.error());
          });
}

} // namespace thinline::app
