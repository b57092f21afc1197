// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/PackStation.h"

#include "app/stations/AssemblyDialog.h"
#include "app/stations/ReleaseDialog.h"
#include "app/stations/SheetsStation.h"
#include "design/Cluster.h"
#include "design/Cuts.h"
#include "job/AssemblySteps.h"
#include "job/CutSteps.h"
#include "job/SheetSteps.h"
#include "job/SourceSteps.h"
#include "pack/Package.h"

#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

PackStation::PackStation(Workbench& bench, base::FileStore& store, QWidget* parent)
    : StationPanel(Station::Pack, bench,
                   {tr("Who gets what?"),
                    tr("One SVG per load at true size, an overview picture and a list. Every load is read "
                       "back and compared."),
                    tr("Write the files")},
                   parent),
      m_store(store) {
    addHeading(tr("Folder"));
    m_folder = new QLineEdit;
    m_folder->setAccessibleName(tr("Folder"));
    auto* choose = new QPushButton(tr("Choose…"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(m_folder, 1);
    line->addWidget(choose);
    controls()->addWidget(row);
    addHeading(tr("Files"));
    m_files = addNote();
    m_foldsHeading = addHeading(tr("Folds are made as"));
    m_foldsAs = new WordChoice({tr("scored"), tr("perforated"), tr("by hand")});
    controls()->addWidget(m_foldsAs);
    connect(m_foldsAs, &WordChoice::chosen, this, [this](int index) {
        this->bench().act(tr("Choose how folds are made"),
                          job::withFoldsAs(this->bench().job(), static_cast<design::FoldsAs>(index)));
    });
    m_folds = addNote();
    addHeading(tr("It is for"));
    m_goesTo = new WordChoice({tr("myself"), tr("others"), tr("buyers")});
    controls()->addWidget(m_goesTo);
    connect(m_goesTo, &WordChoice::chosen, this, [this](int index) {
        this->bench().act(tr("Choose for whom it is"),
                          job::withGoesTo(this->bench().job(), static_cast<job::GoesTo>(index)));
    });
    offerDialog<ReleaseDialog>(tr("A package for others…"),
                               tr("Variants, other formats, a zip: for somebody else's machine and paper"),
                               tr("Pack for others"));
    offerDialog<AssemblyDialog>(tr("How it is put together…"),
                                tr("Assembly sheets: the steps, what they need, and the pages to print"),
                                tr("Draw assembly sheets"));
    m_result = addNote();
    m_layAnew = linkButton(tr("Lay the pieces anew"),
                           tr("Lay the pieces anew on their sheets; what is pinned stays where it is"));
    m_layAnew->hide();
    controls()->addWidget(m_layAnew);
    connect(m_layAnew, &QPushButton::clicked, this, [this] {
        m_layAnew->hide();
        tell(m_result, {});
        this->bench().layAnew();
    });
    connect(choose, &QPushButton::clicked, this, [this] {
        const QString chosen =
            QFileDialog::getExistingDirectory(this, tr("Where to write the files"), folder());
        if (!chosen.isEmpty())
            setFolder(chosen);
    });
    connect(m_folder, &QLineEdit::textChanged, this, [this] { refresh(); });
    connect(mainButton(), &QPushButton::clicked, this, &PackStation::write);
    setFolder(QDir::homePath() + "/Thin Line");
}

template <class Dialog>
void PackStation::offerDialog(const QString& words, const QString& help, const QString& action) {
    auto* link = linkButton(words, help);
    controls()->addWidget(link, 0, Qt::AlignLeft);
    const auto show = [this] {
        if (!bench().hasPieces())
            return;
        auto* dialog = new Dialog(bench(), m_store, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    };
    connect(link, &QPushButton::clicked, this, show);
    offer(action, {}, show);
}

QString PackStation::folder() const {
    const QString typed = m_folder->text().trimmed();
    return typed == "~" || typed.startsWith("~/") ? QDir::homePath() + typed.mid(1) : typed;
}

void PackStation::setFolder(const QString& folder) {
    const QString home = QDir::homePath() + "/";
    m_folder->setText(folder.startsWith(home) ? "~/" + folder.mid(home.size()) : folder);
    m_folder->setCursorPosition(0); // a long path shows its beginning
}

ScenePtr PackStation::scene() {
    return kept({bench().made().finished, bench().made().sheets}, [&] { return sheetsOf(bench()); });
}

QString PackStation::emptyText() const {
    return bench().hasPieces() ? tr("The pieces are being laid on sheets.") : StationPanel::emptyText();
}

/// What writing came to.
struct PackStation::Written {
    QString problem;
    bool isFaulty = false; ///< the arrangement is; nothing was written
    int pieces = 0;
    double worstMm = 0;
    QStringList unsound;
};

/// A background thread calls it.
PackStation::Written PackStation::packed(base::FileStore& store, const job::State& state,
                                         const std::string& folder, const base::Progress& progress) {
    Written out;
    const auto laidBy = job::arrangeOptions(state.job, job::shippedCatalogue().formats);
    if (!laidBy) {
        out.problem = text(laidBy.error().message);
        return out;
    }
    const auto labels = pack::labelsOf(state, state.job.plan.foldsAs, progress);
    if (!labels) {
        out.problem = text(labels.error().message);
        return out;
    }
    const auto plan = job::planned(state, progress);
    if (!plan) {
        out.problem = text(plan.error().message);
        return out;
    }
    const auto package =
        pack::makePackage(*state.made.work(), *state.made.sheets, *plan, *laidBy, *labels, progress);
    if (!package) {
        out.problem = text(package.error().message);
        return out;
    }
    if (!package->faults.empty()) {
        out.problem =
            tr("Nothing was written, it would spoil card. %1").arg(text(pack::faultText(package->faults)));
        out.isFaulty = true;
        return out;
    }
    if (const auto written = pack::writePackage(store, folder, *package); !written)
        out.problem = text(written.error().message);
    for (const pack::FileCheck& check : package->checks) {
        out.pieces += check.foundPieces;
        out.worstMm = std::max(out.worstMm, check.worstBoxMm);
        if (!check.isSound())
            out.unsound << text(check.name + ": " + check.problem);
    }
    return out;
}

void PackStation::write() {
    if (!bench().made().sheets || bench().isBehind())
        return;
    const job::State state = bench().state();
    const std::string folder = this->folder().toStdString();
    mainButton()->setEnabled(false);
    m_task.start(tr("Packing"),
                 [this, state, folder, &store = m_store](const base::Progress& progress) -> Task::Conclusion {
                     auto done = std::make_shared<const Written>(packed(store, state, folder, progress));
                     return [this, done, folder, sheets = state.made.sheets] {
                         mainButton()->setEnabled(true);
                         m_layAnew->setVisible(done->isFaulty);
                         if (!done->problem.isEmpty())
                             return tell(m_result, done->problem);
                         m_writtenFor = sheets;
                         tell(m_result,
                              done->unsound.isEmpty()
                                  ? tr("Written and read back: %1 pieces, largest difference %2 mm.")
                                        .arg(done->pieces)
                                        .arg(done->worstMm, 0, 'f', 4)
                                  : tr("Do not cut these files. %1").arg(done->unsound.join("; ")));
                         emit told(tr("The files are in %1.").arg(text(folder)), false);
                         emit written(text(folder));
                     };
                 });
}

void PackStation::refresh() {
    const auto sheets = bench().made().sheets;
    mainButton()->setEnabled(sheets && !sheets->loads.empty() && !m_folder->text().trimmed().isEmpty() &&
                             !m_task.isRunning() && !bench().isBehind());
    if (m_writtenFor != sheets && !m_layAnew->isVisible())
        tell(m_result, {});
    tell(m_folds, {});
    const bool hasFolds = bench().hasPieces() && design::hasFolds(*bench().work());
    m_foldsHeading->setVisible(hasFolds);
    m_foldsAs->setVisible(hasFolds);
    m_foldsAs->choose(static_cast<int>(bench().job().plan.foldsAs));
    m_goesTo->choose(static_cast<int>(bench().job().goesTo));
    if (!sheets) {
        tell(m_files, bench().hasPieces() ? tr("The pieces are being laid on sheets.")
                                          : tr("Trace a picture first; its files will be listed here."));
        return setAnswer({{tr("Files"), tr("none yet")}});
    }
    QStringList names;
    int sheetsCount = 0;
    for (size_t i = 0; i < sheets->loads.size(); ++i) {
        names << text(pack::loadFileName(i, sheets->loads[i]));
        sheetsCount += static_cast<int>(sheets->loads[i].sheets.size());
    }
    for (const design::Laid* laid : design::cutByHand(*bench().work())) {
        const QString name = "by-hand-" + text(bench().work()->layerOf(*laid).stockId);
        if (!names.contains(name + ".svg"))
            names << name + ".svg" << name + ".pdf";
    }
    names << "overview.png"
          << "contents.txt";
    tell(m_files, names.join("\n"));
    const design::StackMeasures& m = bench().made().finished->measures;
    if (hasFolds) {
        const QString how[] = {tr("Pressed by a blunt tool before anything is cut."),
                               text(design::perforationText(*bench().work())) + ".",
                               tr("A pen marks both ends, beside the piece where there is room; lay a ruler there before you lift it.")};
        tell(m_folds, how[static_cast<size_t>(bench().job().plan.foldsAs)]);
    }
    const job::Licence strictest = job::originsOf(bench().job()).strictest;
    setAnswer({{tr("Size"), sizeText(m.box.width(), m.box.height())},
               {tr("Licence"),
                strictest == job::Licence::Unknown ? tr("not known") : text(job::licenceText(strictest))},
               {tr("Loads"), QString::number(sheets->loads.size())},
               {tr("Sheets"), QString::number(sheetsCount)},
               {tr("Left out, too large"), QString::number(sheets->unplaced.size())}});
}

} // namespace thinline::app
