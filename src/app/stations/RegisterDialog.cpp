// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/RegisterDialog.h"

#include "app/stations/Fields.h"
#include "formats/plotter/WritePlotter.h"
#include "logbook/Calibration.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

QLineEdit* numberLine(const QString& name) {
    auto* out = new QLineEdit;
    out->setAccessibleName(name);
    out->setAlignment(Qt::AlignRight);
    out->setFixedWidth(84);
    return out;
}

/// A number as people type one; nothing for what is none.
std::optional<double> numberIn(const QLineEdit& line) {
    bool isNumber = false;
    const double out = line.text().trimmed().replace(',', '.').toDouble(&isNumber);
    return isNumber ? std::optional(out) : std::nullopt;
}

} // namespace

RegisterDialog::RegisterDialog(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_store(store) {
    setWindowTitle(tr("A printed page on the machine"));
    m_note = sentenceLabel({}, "soft");
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(28);
    halves->addWidget(buildMarks(), 1);
    halves->addWidget(buildCalibration(), 1);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(halves, 1);
    lines->addLayout(last);
    resize(860, 480);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    m_bench.wantSheets(true);
    connect(&m_bench, &Workbench::changed, this, &RegisterDialog::refresh);
    refresh();
}

QWidget* RegisterDialog::buildMarks() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    m_load = new QComboBox;
    m_load->setAccessibleName(tr("Load"));
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(4);
    grid->addWidget(new QLabel(tr("to the right, mm")), 0, 1, Qt::AlignRight);
    grid->addWidget(new QLabel(tr("down, mm")), 0, 2, Qt::AlignRight);
    grid->addWidget(new QLabel(tr("off by, mm")), 0, 3, Qt::AlignRight);
    const QStringList names{tr("upper left"), tr("upper right"), tr("lower right"), tr("lower left")};
    for (int i = 0; i < 4; ++i) {
        const auto k = static_cast<size_t>(i);
        m_across[k] = numberLine(tr("The %1 mark, to the right").arg(names[i]));
        m_down[k] = numberLine(tr("The %1 mark, down").arg(names[i]));
        m_off[k] = new QLabel;
        m_off[k]->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        grid->addWidget(new QLabel(names[i]), i + 1, 0);
        grid->addWidget(m_across[k], i + 1, 1);
        grid->addWidget(m_down[k], i + 1, 2);
        grid->addWidget(m_off[k], i + 1, 3);
        for (QLineEdit* line : {m_across[k], m_down[k]})
            connect(line, &QLineEdit::editingFinished, this, &RegisterDialog::solve);
    }
    m_told = sentenceLabel({}, "help");
    m_write = new QPushButton(tr("Write the load as it lies…"));
    lines->addWidget(headingLabel(tr("Where the sensor saw the marks")));
    lines->addWidget(sentenceLabel(
        tr("From the upper left corner of the mat; three marks are enough. Empty is not seen."), "help"));
    lines->addWidget(m_load);
    lines->addLayout(grid);
    lines->addWidget(m_told);
    lines->addWidget(m_write, 0, Qt::AlignLeft);
    lines->addStretch(1);
    connect(m_load, &QComboBox::activated, this, &RegisterDialog::solve);
    connect(m_write, &QPushButton::clicked, this, [this] {
        const QString folder =
            QFileDialog::getExistingDirectory(this, tr("Where to write the load"), QDir::homePath());
        if (!folder.isEmpty())
            writeLoad(folder);
    });
    return out;
}

QWidget* RegisterDialog::buildCalibration() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    m_paper = new QComboBox;
    m_paper->setAccessibleName(tr("Paper of the calibration sheet"));
    for (const design::SheetFormat& sheet : m_bench.catalogue().formats.sheets)
        if (!m_bench.catalogue().formats.mat(sheet.id))
            m_paper->addItem(text(sheet.name), text(sheet.id));
    auto* sheet = new QPushButton(tr("Write the sheet…"));
    auto* row = new QHBoxLayout;
    row->addWidget(m_paper, 1);
    row->addWidget(sheet);
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(4);
    for (int i = 0; i < 4; ++i) {
        m_readings.push_back(numberLine(tr("Reading of scale %1").arg(i + 1)));
        grid->addWidget(
            new QLabel(i % 2 == 0 ? tr("scale %1, across").arg(i + 1) : tr("scale %1, down").arg(i + 1)),
            i / 2, 2 * (i % 2));
        grid->addWidget(m_readings.back(), i / 2, 2 * (i % 2) + 1);
    }
    m_standing = sentenceLabel({}, "help");
    m_take = new QPushButton(tr("Take the readings"));
    m_newest =
        linkButton(tr("Take the newest of this machine"), tr("Take the newest calibration from the logbook"));
    m_forget = linkButton(tr("Take none"), tr("Cut without a calibration"));
    lines->addWidget(headingLabel(tr("How far blade and sensor are apart")));
    lines->addWidget(sentenceLabel(tr("Print the sheet, let the machine read its marks and cut it. On each "
                                      "scale type the number of the printed line "
                                      "that a cut one runs on from, −12 to 12."),
                                   "help"));
    lines->addLayout(row);
    lines->addLayout(grid);
    auto* second = new QHBoxLayout;
    second->addWidget(m_take);
    second->addWidget(m_newest);
    second->addWidget(m_forget);
    second->addStretch(1);
    lines->addLayout(second);
    lines->addWidget(m_standing);
    lines->addStretch(1);
    connect(sheet, &QPushButton::clicked, this, [this] {
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Where to write the sheet"),
                                         QDir::homePath() + tr("/calibration.pdf"), tr("PDF (*.pdf)"));
        if (!path.isEmpty())
            writeSheet(path);
    });
    connect(m_take, &QPushButton::clicked, this, &RegisterDialog::takeReadings);
    connect(m_newest, &QPushButton::clicked, this, &RegisterDialog::takeNewest);
    connect(m_forget, &QPushButton::clicked, this, [this] {
        m_bench.act(tr("Cut without a calibration"), job::withStandingError(m_bench.job(), {}));
    });
    return out;
}

void RegisterDialog::refresh() {
    const int load = std::max(0, m_load->currentIndex());
    m_load->clear();
    if (!m_bench.isBehind())
        for (const job::PrintPage& page : job::printPagesOf(m_bench.state()))
            if (page.layout.hasMarks())
                m_load->addItem(tr("Load %1: %2").arg(page.load + 1).arg(text(page.name)),
                                static_cast<int>(page.load));
    m_load->setEnabled(m_load->count() > 0);
    m_load->setCurrentIndex(std::min(load, m_load->count() - 1));
    if (m_load->count() == 0)
        m_load->addItem(tr("No page is printed with marks"), -1);
    const auto& standing = m_bench.job().print.standing;
    const bool isOwn = job::standingErrorOf(m_bench.job(), job::machineOf(m_bench.job()).id);
    m_forget->setVisible(standing.has_value());
    m_standing->setText(standing ? (isOwn ? tr("This job is cut with: %1 (%2).")
                                          : tr("Not used, as it is another machine's: %1 (%2)."))
                                       .arg(text(logbook::standingText(*standing)), text(standing->day))
                                 : tr("This job is cut without a calibration."));
    m_plan = nullptr;
    solve();
}

job::Sighting RegisterDialog::seen(QString& problem) const {
    job::Sighting out;
    for (size_t i = 0; i < m_across.size(); ++i) {
        const bool isEmpty = m_across[i]->text().trimmed().isEmpty() && m_down[i]->text().trimmed().isEmpty();
        const auto x = numberIn(*m_across[i]), y = numberIn(*m_down[i]);
        if (x && y)
            out.marks.emplace_back(i, geometry::Point{*x, *y});
        else if (!isEmpty)
            problem = tr("Type both places of a mark as numbers.");
    }
    return out;
}

void RegisterDialog::solve() {
    QString problem;
    const job::Sighting sighting = seen(problem);
    const int load = m_load->currentData().toInt();
    if (problem.isEmpty() && m_plan && sighting.marks == m_solved.marks && load == m_solvedLoad)
        return; // a field was left without a change
    m_solved = sighting;
    m_solvedLoad = load;
    m_found.reset();
    m_write->setEnabled(false);
    for (QLabel* label : m_off)
        label->clear();
    if (!problem.isEmpty() || sighting.marks.size() < 3 || load < 0)
        return m_told->setText(problem);
    m_task.start(
        tr("Finding the page"),
        [this, sighting, load, plan = m_plan,
         state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
            std::shared_ptr<const design::CutPlan> known = plan;
            if (!known) {
                auto planned = job::planned(state, progress);
                if (!planned)
                    return [this, why = text(planned.error().message)] { m_told->setText(why); };
                known = std::make_shared<const design::CutPlan>(planned.take());
            }
            auto found = job::registeredLoad(state, *known, static_cast<size_t>(load), sighting);
            return [this, known, sighting, found = std::move(found)]() mutable {
                m_plan = known;
                if (!found)
                    return m_told->setText(text(found.error().message));
                m_found = found.take();
                m_write->setEnabled(true);
                QStringList lines;
                for (const std::string& line : job::registrationLines(m_found->found))
                    lines << capitalised(text(line));
                m_told->setText(lines.join(". ") + ".");
                for (size_t i = 0; i < sighting.marks.size(); ++i)
                    m_off[sighting.marks[i].first]->setText(
                        text(base::formatNumber(m_found->found.residualsMm[i], 2)) +
                        (m_found->found.leftOut == sighting.marks[i].first ? tr(", left out") : QString()));
            };
        });
}

void RegisterDialog::writeLoad(const QString& folder) {
    if (!m_found)
        return;
    const auto files = formats::plotter::writePlotter(m_found->load, m_found->laid);
    if (!files)
        return say(text(files.error().message), true);
    for (const formats::plotter::PlotterFile& file : *files) {
        const std::string path = folder.toStdString() + "/" + file.name;
        if (const auto written = m_store.writeWhole(path, base::Bytes(file.text.begin(), file.text.end()));
            !written)
            return say(text(written.error().message), true);
    }
    say(tr("Written: %1, cut where the page lies now.")
            .arg(countOf(static_cast<qsizetype>(files->size()), tr("file"), tr("files"))));
}

void RegisterDialog::writeSheet(const QString& path) {
    const design::SheetFormat* paper =
        m_bench.catalogue().formats.sheet(m_paper->currentData().toString().toStdString());
    if (!paper)
        return;
    const auto sheet =
        pack::calibrationSheet(paper->widthMm, paper->heightMm, m_bench.job().print.printerMarginMm,
                               job::machineOf(m_bench.job()).name);
    if (!sheet)
        return say(text(sheet.error().message), true);
    const std::string cuts = pack::calibrationCuts(*sheet);
    const std::string base = path.endsWith(".pdf") ? path.chopped(4).toStdString() : path.toStdString();
    for (const auto& [name, bytes] :
         {std::pair{base + ".pdf", sheet->pdf}, {base + ".plt", base::Bytes(cuts.begin(), cuts.end())}})
        if (const auto written = m_store.writeWhole(name, bytes); !written)
            return say(text(written.error().message), true);
    say(tr("The sheet and what is cut on it are in %1.").arg(QFileInfo(path).path()));
}

void RegisterDialog::takeReadings() {
    // Which way a scale reads does not hang on the paper.
    const auto verniers = registration::verniersIn({{0, 0}, {100, 100}});
    std::vector<std::optional<double>> readings;
    for (QLineEdit* line : m_readings) {
        if (!line->text().trimmed().isEmpty() && !numberIn(*line))
            return say(tr("A reading is a number from −12 to 12; an empty field is not read."), true);
        readings.push_back(numberIn(*line));
    }
    auto solved = registration::standingErrorOf(*verniers, readings);
    if (!solved)
        return say(text(solved.error().message), true);
    registration::StandingError standing = solved.take();
    standing.machine = job::machineOf(m_bench.job()).id;
    standing.day = logbook::nowWord().substr(0, 10);
    auto book = logbook::Logbook::open(m_bench.logbookPath(), logbook::Logbook::Open::OrBegin);
    if (!book)
        say(text(book.error().message), true);
    else if (auto open = book.take(); auto entered = open.add(logbook::calibrationEntry(standing)))
        say(tr("Entered in the logbook. A new calibration never changes another job."));
    else
        say(text(entered.error().message), true);
    m_bench.act(tr("Take a calibration"), job::withStandingError(m_bench.job(), standing));
}

void RegisterDialog::takeNewest() {
    const auto book = logbook::Logbook::open(m_bench.logbookPath(), logbook::Logbook::Open::Existing);
    if (!book)
        return say(tr("There is no logbook yet; calibrate this machine first."), true);
    const auto newest = logbook::newestCalibration(*book, job::machineOf(m_bench.job()).id);
    if (!newest)
        return say(text(newest.error().message), true);
    if (!*newest)
        return say(tr("The logbook has no calibration of this machine."), true);
    m_bench.act(tr("Take a calibration"), job::withStandingError(m_bench.job(), **newest));
}

void RegisterDialog::say(const QString& sentence, bool isProblem) {
    sayIn(m_note, sentence, isProblem);
}

} // namespace thinline::app
