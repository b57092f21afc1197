// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/PrintDialog.h"

#include "app/bench/Paths.h"
#include "app/stations/Fields.h"
#include "app/stations/PageView.h"
#include "formats/pdf/WritePages.h"
#include "job/PrintSteps.h"

#include <QCheckBox>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPageSize>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

constexpr QSize kPagePx{470, 560}; // at most
constexpr std::array<double, 3> kDpi{150, 300, 600};

} // namespace

PrintDialog::PrintDialog(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_store(store) {
    setWindowTitle(tr("Pages for the printer"));
    m_note = sentenceLabel(
        tr("Print at true size and best quality on the right paper, never \"fit to page\"."), "soft");
    m_writePdf = new QPushButton(tr("Write a PDF…"));
    m_writePng = new QPushButton(tr("Write pictures…"));
    m_print = new QPushButton(tr("Print…"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    for (QPushButton* button : {m_writePdf, m_writePng, m_print})
        last->addWidget(button);
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* side = new QVBoxLayout;
    side->setSpacing(10);
    side->addWidget(buildPlan());
    side->addWidget(buildTrial());
    side->addStretch(1);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(20);
    halves->addWidget(buildPages());
    halves->addLayout(side, 1);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(halves, 1);
    lines->addLayout(last);
    resize(920, 720);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_writePdf, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Where to write the pages"),
            QDir::homePath() + "/" + fileNameOf(m_bench.job().name) + tr(", print.pdf"), tr("PDF (*.pdf)"));
        if (!path.isEmpty())
            writeTo(path.endsWith(".pdf") ? path : path + ".pdf");
    });
    connect(m_writePng, &QPushButton::clicked, this, [this] {
        const QString folder =
            QFileDialog::getExistingDirectory(this, tr("Where to write the pictures"), QDir::homePath());
        if (!folder.isEmpty())
            writeTo(folder);
    });
    connect(m_print, &QPushButton::clicked, this, &PrintDialog::print);
    m_bench.wantSheets(true);
    connect(&m_bench, &Workbench::changed, this, &PrintDialog::refresh);
    refresh();
}

QWidget* PrintDialog::buildPages() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    m_look = new WordChoice({tr("the page"), tr("what comes of it")});
    m_pages = new PageView(kPagePx);
    lines->addWidget(m_look);
    lines->addWidget(m_pages, 1);
    connect(m_look, &WordChoice::chosen, this, [this] { showPage(); });
    connect(m_pages, &PageView::turned, this, [this] {
        m_run = nullptr;
        m_look->choose(0);
        showPage();
    });
    return out;
}

QWidget* PrintDialog::buildPlan() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    auto* stocks = new QWidget;
    m_stocks = new QVBoxLayout(stocks);
    m_stocks->setContentsMargins(0, 0, 0, 0);
    m_stocks->setSpacing(2);
    m_margin = new LengthField(tr("The printer leaves free"));
    m_margin->allowZero();
    m_marks = new QCheckBox(tr("Marks round what is printed"));
    m_dpi = new WordChoice({"150", "300", "600"});
    m_room = sentenceLabel({}, "help");
    lines->addWidget(headingLabel(tr("Printed are sheets of")));
    lines->addWidget(stocks);
    lines->addWidget(labelled(tr("The printer leaves free"), m_margin));
    lines->addWidget(labelled(tr("Dots to the inch"), m_dpi, 150));
    lines->addWidget(m_marks);
    lines->addWidget(m_room);
    connect(m_margin, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Say what the printer leaves free"),
                   [mm](job::PrintPlan& plan) { plan.printerMarginMm = mm; });
    });
    connect(m_margin, &LengthField::refused, this, [this](const QString& why) { say(why, true); });
    connect(m_marks, &QCheckBox::clicked, this, [this](bool isOn) {
        changePlan(tr("Choose marks"), [isOn](job::PrintPlan& plan) { plan.hasMarks = isOn; });
    });
    connect(m_dpi, &WordChoice::chosen, this, [this](int index) {
        changePlan(tr("Choose a resolution"),
                   [index](job::PrintPlan& plan) { plan.dpi = kDpi[static_cast<size_t>(index)]; });
    });
    return out;
}

QWidget* PrintDialog::buildTrial() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    const QStringList names{tr("the printer's scale and shift"), tr("the page laid askew"),
                            tr("blade beside sensor"), tr("a sensor that wavers")};
    lines->addWidget(headingLabel(tr("Try it on simulated machines")));
    for (const QString& name : names) {
        m_errors.push_back(new QCheckBox(name));
        m_errors.back()->setChecked(true);
        lines->addWidget(m_errors.back());
    }
    m_how = new WordChoice({tr("marks read"), tr("by a camera"), tr("not read")});
    m_how->choose(0);
    m_seed = numberField(tr("Which luck"), 1, 9999, {});
    m_try = new QPushButton(tr("Print and cut this page"));
    m_result = sentenceLabel({}, "help");
    lines->addWidget(m_how);
    lines->addWidget(labelled(tr("Which luck"), m_seed));
    lines->addWidget(m_try, 0, Qt::AlignLeft);
    lines->addWidget(m_result);
    connect(m_try, &QPushButton::clicked, this, &PrintDialog::tryIt);
    return out;
}

void PrintDialog::changePlan(const QString& name, const std::function<void(job::PrintPlan&)>& change) {
    job::PrintPlan plan = m_bench.job().print;
    change(plan);
    auto job = job::withPrintPlan(m_bench.job(), plan);
    if (!job)
        return say(text(job.error().message), true);
    m_bench.act(name, job.take());
}

void PrintDialog::showStocks() {
    emptyLayout(m_stocks);
    const design::Stack* work = m_bench.work();
    if (!work)
        return;
    std::vector<std::string> told;
    for (const design::Laid& laid : work->pieces) {
        const std::string& id = work->layerOf(laid).stockId;
        const bool isPrinted = m_bench.job().print.stocks.contains(id);
        if (std::find(told.begin(), told.end(), id) != told.end() ||
            (laid.piece.body->faces.empty() && !isPrinted))
            continue;
        told.push_back(id);
        auto* box = new QCheckBox(text(design::stockName(work->stocks, id)));
        box->setChecked(isPrinted);
        m_stocks->addWidget(box);
        connect(box, &QCheckBox::clicked, this, [this, id](bool isOn) {
            m_bench.act(tr("Choose what is printed"), job::withStockPrinted(m_bench.job(), id, isOn));
        });
    }
    if (told.empty())
        m_stocks->addWidget(sentenceLabel(
            tr("Nothing is printed yet: choose a piece at Shape or Folds and say what is printed on it."),
            "help"));
}

void PrintDialog::refresh() {
    showStocks();
    const job::PrintPlan& plan = m_bench.job().print;
    m_margin->showLength(plan.printerMarginMm, m_bench.job().unit);
    m_marks->setChecked(plan.hasMarks);
    int dpi = -1;
    for (size_t i = 0; i < kDpi.size(); ++i)
        if (std::abs(plan.dpi - kDpi[i]) < 0.5)
            dpi = static_cast<int>(i);
    m_dpi->choose(dpi);
    m_faces.clear();
    if (!m_bench.isBehind())
        for (const job::PrintPage& page : job::printPagesOf(m_bench.state()))
            for (const bool isBack : {false, true})
                if (!isBack || page.hasBack)
                    m_faces.push_back({page, isBack});
    m_run = nullptr;
    m_look->choose(0);
    m_result->clear();
    for (QPushButton* button : {m_writePdf, m_writePng, m_print, m_try})
        button->setEnabled(!m_faces.empty());
    showPage();
}

/// There has to be one.
const PrintDialog::Face& PrintDialog::shownFace() const {
    return m_faces[static_cast<size_t>(m_pages->shown())];
}

void PrintDialog::showPage() {
    m_pages->setCount(static_cast<int>(m_faces.size()));
    if (m_faces.empty()) {
        m_pages->showWords(m_bench.isBehind() ? tr("The pieces are being laid on sheets.")
                                              : tr("Pages will be here."));
        m_room->clear();
        return;
    }
    const Face& face = shownFace();
    const geometry::Box& area = face.page.layout.area;
    const double bleed = face.page.bleedMm;
    m_pages->setRemark(face.isBack ? tr(", a back") : QString());
    m_room->setText(tr("Paper %1; pieces up to %2 lie inside the marks, print goes %3 beyond the cut.")
                        .arg(text(base::formatSize(face.page.layout.widthMm, face.page.layout.heightMm,
                                                   m_bench.job().unit)),
                             text(base::formatSize(area.width() - 2 * bleed, area.height() - 2 * bleed,
                                                   m_bench.job().unit)),
                             text(base::formatLength(bleed, m_bench.job().unit))));
    const auto show = [this](const QImage& image) {
        m_pages->showImage(image.scaled(kPagePx, Qt::KeepAspectRatio, Qt::SmoothTransformation));
    };
    if (m_look->chosenIndex() == 1) {
        if (m_run)
            show(imageOf(m_run->picture));
        else
            m_pages->showWords(tr("Print and cut the page first."));
        return;
    }
    m_painting.start(tr("Painting a page"),
                     [this, face, show, before = m_art,
                      state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
                         auto art = job::decodedArt(state.job, job::facesOf(*state.made.work()), before);
                         if (!art)
                             return [this, why = text(art.error().message)] { say(why, true); };
                         const double dpi = 25.4 * std::min(kPagePx.width() / face.page.layout.widthMm,
                                                            kPagePx.height() / face.page.layout.heightMm);
                         auto picture = pack::pagePicture(state, face.page, face.isBack, dpi, *art, progress);
                         if (!picture)
                             return [this, why = text(picture.error().message)] { say(why, true); };
                         return [this, show, image = imageOf(*picture), kept = art.take()]() mutable {
                             m_art = std::move(kept);
                             show(image);
                         };
                     });
}

void PrintDialog::writeTo(const QString& path) {
    const bool isPdf = path.endsWith(".pdf");
    say(tr("Painting the pages."));
    m_task.start(
        tr("Writing pages"),
        [this, path, isPdf, before = m_art, state = m_bench.state(),
         &store = m_store](const base::Progress& progress) -> Task::Conclusion {
            const auto refuse = [this](const base::Error& error) -> Task::Conclusion {
                return [this, why = text(error.message)] { say(why, true); };
            };
            const auto art = job::decodedArt(state.job, job::facesOf(*state.made.work()), before);
            if (!art)
                return refuse(art.error());
            const auto files = pack::printFiles(
                state, {isPdf ? pack::PrintFormat::Pdf : pack::PrintFormat::Png}, *art, progress);
            if (!files)
                return refuse(files.error());
            for (const pack::PackedFile& file : files->files) {
                const std::string to = isPdf ? path.toStdString() : path.toStdString() + "/" + file.name;
                if (const auto written = store.writeWhole(to, file.bytes); !written)
                    return refuse(written.error());
            }
            QStringList notes;
            for (const std::string& note : files->notes)
                notes << text(note);
            return [this, notes, pages = files->pages] {
                say(countOf(pages, tr("page written."), tr("pages written.")) + " " + notes.join(" "));
            };
        });
}

void PrintDialog::tryIt() {
    if (m_faces.empty())
        return;
    std::vector<devices::ErrorSource> only;
    for (size_t i = 0; i < m_errors.size(); ++i)
        if (m_errors[i]->isChecked())
            only.push_back(static_cast<devices::ErrorSource>(i));
    devices::ErrorRanges ranges;
    if (only.empty())
        ranges = {0, 0, 0, 0, 0, 0, 0};
    devices::RunOptions how;
    how.hasCamera = m_how->chosenIndex() == 1;
    how.isRead = m_how->chosenIndex() != 2;
    const auto seed = static_cast<unsigned>(m_seed->value());
    how.camera = devices::usualCamera(seed);
    m_result->setText(tr("Printing, laying, looking, cutting."));
    m_task.start(
        tr("Trying a page"),
        [this, only, ranges, how, seed, page = shownFace().page, before = m_art,
         state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
            const auto art = job::decodedArt(state.job, job::facesOf(*state.made.work()), before);
            auto run =
                art ? devices::runOf(state, page, devices::errorsBy(seed, ranges, only), *art, how, progress)
                    : base::Result<devices::PrintRun>(art.error());
            if (!run)
                return [this, why = text(run.error().message)] { say(why, true); };
            constexpr int kRuns = 1000;
            const bool isCalibrated = job::standingErrorOf(state.job, job::machineOf(state.job).id);
            const std::vector<double> worst =
                devices::worstOf(kRuns, ranges, page.layout, {how.isRead, isCalibrated}, only);
            const double covered = devices::coveredBy(worst, page.bleedMm);
            const double most = worst.empty() ? 0 : worst.back();
            return [this, most, covered, isCalibrated, bleed = page.bleedMm,
                    run = std::make_shared<const devices::PrintRun>(run.take())] {
                m_run = run;
                m_look->choose(1);
                showPage();
                m_result->setText(capitalised(text(devices::runText(*run))) + ". " +
                                  (isCalibrated
                                       ? tr("Of %4 tries the worst is %1 off; a bleed of %2 covers %3 %.")
                                       : tr("Of %4 tries without a calibration the worst is %1 off; a "
                                            "bleed of %2 covers %3 %."))
                                      .arg(text(base::formatNumber(most, 2) + " mm"),
                                           text(base::formatLength(bleed, base::LengthUnit::Millimetre)),
                                           text(base::formatNumber(covered * 100, 1)), QString::number(kRuns)));
            };
        });
}

void PrintDialog::print() {
    QPrinter printer(QPrinter::HighResolution);
    const print::PageLayout& first = m_faces.front().page.layout;
    printer.setPageSize(
        QPageSize(QSizeF(first.widthMm, first.heightMm), QPageSize::Millimeter, {}, QPageSize::FuzzyMatch));
    printer.setFullPage(true);
    printer.setDocName(text(m_bench.job().name));
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const job::State state = m_bench.state();
    say(tr("Painting the pages."));
    m_task.start(
        tr("Painting pages"),
        [this, state, faces = m_faces, before = m_art, dpi = state.job.print.dpi,
         name = printer.printerName(),
         file = printer.outputFileName()](const base::Progress& progress) -> Task::Conclusion {
            const auto art = job::decodedArt(state.job, job::facesOf(*state.made.work()), before);
            if (!art)
                return [this, why = text(art.error().message)] { say(why, true); };
            auto images = std::make_shared<std::vector<std::pair<QSizeF, QImage>>>();
            for (const Face& face : faces) {
                const auto picture = pack::pagePicture(state, face.page, face.isBack, dpi, *art, progress);
                if (!picture)
                    return [this, why = text(picture.error().message)] { say(why, true); };
                images->emplace_back(QSizeF(face.page.layout.widthMm, face.page.layout.heightMm),
                                     imageOf(*picture));
            }
            return [this, images, name, file] {
                QPrinter to(QPrinter::HighResolution);
                to.setPrinterName(name);
                if (!file.isEmpty())
                    to.setOutputFileName(file);
                to.setFullPage(true);
                QPainter painter;
                for (const auto& [size, image] : *images) {
                    to.setPageSize(QPageSize(size, QPageSize::Millimeter, {}, QPageSize::FuzzyMatch));
                    if (painter.isActive() ? !to.newPage() : !painter.begin(&to))
                        return say(tr("The printer does not take the pages; write a PDF and print that."),
                                   true);
                    // 100 %: so many dots of the printer as the page is long.
                    const double perMm = to.resolution() / 25.4;
                    painter.drawImage(QRectF(0, 0, size.width() * perMm, size.height() * perMm), image);
                }
                say(tr("Sent to %1 at true size.").arg(name.isEmpty() ? file : name));
            };
        });
}

void PrintDialog::say(const QString& sentence, bool isProblem) {
    sayIn(m_note, sentence, isProblem);
}

} // namespace thinline::app
