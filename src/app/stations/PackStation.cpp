// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Stations.h"
#include "document/JobSources.h"
#include "pack/Package.h"

#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

PackStation::PackStation(Workbench& bench, base::FileStore& store, QWidget* parent)
    : StationPanel(bench, tr("Who gets what?"),
                   tr("One SVG per load at true size, an overview picture and a list. Every file is read "
                      "back and compared."),
                   tr("Write the files"), parent),
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
    m_result = addNote();
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

QString PackStation::folder() const {
    const QString text = m_folder->text().trimmed();
    return text == "~" || text.startsWith("~/") ? QDir::homePath() + text.mid(1) : text;
}

void PackStation::setFolder(const QString& folder) {
    const QString home = QDir::homePath() + "/";
    m_folder->setText(folder.startsWith(home) ? "~/" + folder.mid(home.size()) : folder);
    m_folder->setCursorPosition(0); // a long path shows its beginning
}

void PackStation::setActive(bool isActive) {
    m_isActive = isActive;
    if (isActive)
        bench().wantArrangement();
}

void PackStation::write() {
    const document::Job job = bench().job();
    const std::string folder = this->folder().toStdString();
    mainButton()->setEnabled(false);
    m_task.start(tr("Packing"), [this, job, folder](const base::Progress& progress) -> Task::Conclusion {
        auto package = std::make_shared<base::Result<pack::Package>>(pack::makePackage(
            *job.stack, *job.arrangement, {job.name, document::originsOf(job).lines}, progress));
        QString problem;
        if (!*package)
            problem = QString::fromStdString(package->error().message);
        else if (auto made = m_store.makeFolder(folder); !made)
            problem = QString::fromStdString(made.error().message);
        else
            for (const pack::PackedFile& file : (*package)->files)
                if (auto written = m_store.writeWhole(folder + "/" + file.name, file.bytes);
                    !written && problem.isEmpty())
                    problem = QString::fromStdString(written.error().message);
        return [this, package, problem, folder, arrangement = job.arrangement] {
            mainButton()->setEnabled(true);
            if (!problem.isEmpty()) {
                tell(m_result, problem);
                return;
            }
            int pieces = 0;
            double worst = 0;
            QStringList bad;
            for (const pack::FileCheck& check : (*package)->checks) {
                pieces += check.foundPieces;
                worst = std::max(worst, check.worstBoxMm);
                if (!check.isSound())
                    bad << QString::fromStdString(check.name + ": " + check.problem);
            }
            m_writtenFor = arrangement;
            tell(m_result, bad.isEmpty() ? tr("Written and read back: %1 pieces, largest difference %2 mm.")
                                               .arg(pieces)
                                               .arg(worst, 0, 'f', 4)
                                         : tr("Do not cut these files. %1").arg(bad.join("; ")));
            emit written(QString::fromStdString(folder));
        };
    });
}

void PackStation::refresh() {
    if (m_isActive)
        bench().wantArrangement();
    const document::Job& job = bench().job();
    mainButton()->setEnabled(job.arrangement && !job.arrangement->loads.empty() &&
                             !m_folder->text().trimmed().isEmpty() && !m_task.isRunning());
    if (m_writtenFor != job.arrangement)
        tell(m_result, {});
    if (!job.arrangement) {
        tell(m_files, bench().isTraced() ? tr("The pieces are being laid on sheets.")
                                         : tr("Trace a picture first; its files will be listed here."));
        setAnswer({{tr("Files"), tr("none yet")}});
        return;
    }
    QStringList names;
    int sheetsCount = 0;
    for (size_t i = 0; i < job.arrangement->loads.size(); ++i) {
        names << QString::fromStdString(pack::loadFileName(i, job.arrangement->loads[i]));
        sheetsCount += static_cast<int>(job.arrangement->loads[i].sheets.size());
    }
    names << "overview.png"
          << "contents.txt";
    tell(m_files, names.join("\n"));
    const design::StackMeasures m = design::measure(*job.stack);
    const document::Licence strictest = document::originsOf(job).strictest;
    const QString licence = strictest == document::Licence::Unknown
                                ? tr("not known")
                                : QString::fromStdString(document::licenceText(strictest));
    setAnswer({{tr("Size"), sizeText(m.box.width(), m.box.height())},
               {tr("Licence"), licence},
               {tr("Loads"), QString::number(job.arrangement->loads.size())},
               {tr("Sheets"), QString::number(sheetsCount)},
               {tr("Left out, too large"), QString::number(job.arrangement->unplaced.size())}});
}

} // namespace thinline::app
