// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/AssemblyDialog.h"

#include "app/bench/Paths.h"
#include "app/stations/Fields.h"
#include "app/stations/PageView.h"
#include "job/AssemblySteps.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

namespace {

constexpr QSize kPagePx{456, 636}; // at most

} // namespace

AssemblyDialog::AssemblyDialog(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_store(store) {
    setWindowTitle(tr("How it is put together"));
    m_note = sentenceLabel({}, "soft");
    m_write = new QPushButton(tr("Write the PDF…"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_write);
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(20);
    halves->addWidget(buildSteps(), 1);
    m_pages = new PageView(kPagePx);
    connect(m_pages, &PageView::turned, this, &AssemblyDialog::showPage);
    halves->addWidget(m_pages);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(halves, 1);
    lines->addLayout(last);
    resize(1000, 740);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_write, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Where to write the sheets"),
            QDir::homePath() + "/" + fileNameOf(m_bench.job().name) + tr(", assembly.pdf"), tr("PDF (*.pdf)"));
        if (!path.isEmpty())
            writeTo(path);
    });
    showPage(0);
    lookAnew();
    connect(&m_bench, &Workbench::changed, this, &AssemblyDialog::lookAnew);
}

QWidget* AssemblyDialog::buildSteps() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    m_steps = new QListWidget;
    m_steps->setAccessibleName(tr("Steps"));
    m_steps->setWordWrap(true);
    m_steps->setStyleSheet(
        "QListWidget::item { padding: 4px 0px; }"); // wrapped text leaves no room at its sides
    m_words = new QPlainTextEdit;
    m_words->setAccessibleName(tr("Words of this step"));
    m_words->setTabChangesFocus(true);
    m_words->setFixedHeight(72);
    m_saySo = new QPushButton(tr("Say it so"));
    m_asBefore = linkButton(tr("As the program tells it"), tr("Take your own words for this step away"));
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_saySo);
    buttons->addWidget(m_asBefore);
    buttons->addStretch(1);
    m_numbers = new WordChoice({tr("none"), tr("scored"), tr("drawn")});
    m_items = new QListWidget;
    m_items->setAccessibleName(tr("What you bring"));
    m_items->setFixedHeight(76);
    m_item = new QLineEdit;
    m_item->setAccessibleName(tr("Something you bring"));
    m_item->setPlaceholderText(tr("a stick, 40 cm"));
    m_into = new QComboBox;
    m_into->setAccessibleName(tr("What it is put into"));
    m_into->setMinimumWidth(136);
    auto* add = new QPushButton(tr("Add"));
    m_takeItem = new QPushButton(tr("Take away"));
    auto* itemLine = new QHBoxLayout;
    itemLine->addWidget(m_item, 1);
    itemLine->addWidget(m_into);
    itemLine->addWidget(add);
    itemLine->addWidget(m_takeItem);
    lines->addWidget(headingLabel(tr("Steps")));
    lines->addWidget(m_steps, 1);
    lines->addWidget(m_words);
    lines->addLayout(buttons);
    lines->addWidget(headingLabel(tr("Numbers on the pieces, where others cover them")));
    lines->addWidget(m_numbers);
    lines->addWidget(headingLabel(tr("What you bring, beside card and glue")));
    lines->addWidget(m_items);
    lines->addLayout(itemLine);
    connect(m_numbers, &WordChoice::chosen, this, [this](int index) {
        m_bench.act(tr("Choose numbers on pieces"),
                    job::withNumbers(m_bench.job(), static_cast<assembly::Numbers>(index)));
    });
    connect(m_steps, &QListWidget::currentRowChanged, this, &AssemblyDialog::showStep);
    connect(m_saySo, &QPushButton::clicked, this, [this] { sayStep(m_words->toPlainText().simplified()); });
    connect(m_asBefore, &QPushButton::clicked, this, [this] { sayStep({}); });
    connect(add, &QPushButton::clicked, this, &AssemblyDialog::addItem);
    connect(m_item, &QLineEdit::returnPressed, this, &AssemblyDialog::addItem);
    connect(m_takeItem, &QPushButton::clicked, this, &AssemblyDialog::takeItem);
    connect(m_items, &QListWidget::currentRowChanged, this,
            [this](int row) { m_takeItem->setEnabled(row >= 0); });
    return out;
}

void AssemblyDialog::say(const QString& sentence, bool isProblem) {
    sayIn(m_note, sentence, isProblem);
}

void AssemblyDialog::lookAnew() {
    say(tr("Drawing the pages…"));
    m_task.start(
        tr("Drawing the assembly sheets"),
        [this, state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
            auto sheets = pack::assemblySheets(state, pack::paperFor(state.job.unit), progress);
            const QString problem = sheets ? QString() : text(sheets.error().message);
            auto drawn =
                std::make_shared<const pack::AssemblySheets>(sheets ? sheets.take() : pack::AssemblySheets{});
            return [this, problem, drawn] {
                if (!problem.isEmpty())
                    return say(problem, true);
                m_drawn = drawn;
                const int stray = drawn->told.strayTexts;
                const job::NumbersTold numbers =
                    m_bench.made().finished ? m_bench.made().finished->numbers : job::NumbersTold{};
                if (numbers.on + numbers.without > 0 && stray == 0)
                    say(tr("Numbers on %1; %2 have no covered place for one.")
                            .arg(countOf(numbers.on, tr("piece"), tr("pieces")))
                            .arg(numbers.without));
                else
                    say(stray > 0 ? tr("%1 of yours is for a step that is not there now; it is kept.")
                                        .arg(countOf(stray, tr("text"), tr("texts")))
                                  : QString());
                showSteps();
            };
        });
}

void AssemblyDialog::showSteps() {
    const int row = m_steps->currentRow();
    const bool wasShown = m_steps->count() > 0;
    const QSignalBlocker quiet(m_steps);
    m_steps->clear();
    int number = 0;
    const assembly::Instructions& told = m_drawn->told;
    for (std::size_t i = 0; i < told.assemblies.size(); ++i)
        for (const assembly::Step& step : told.assemblies[i].steps) {
            const QString in = told.assemblies.size() > 1 ? text(assembly::letterOf(i)) + ", " : QString();
            const bool isOwn = m_bench.job().assembly.texts.contains(step.key);
            auto* item = new QListWidgetItem(QString::number(++number) + "  " + in + text(step.text));
            QFont font = item->font();
            font.setItalic(isOwn);
            item->setFont(font);
            m_steps->addItem(item);
        }
    m_numbers->choose(static_cast<int>(m_bench.job().assembly.numbers));
    m_into->clear();
    m_into->addItem(tr("only needed"));
    for (std::size_t i = 0; i < told.assemblies.size(); ++i)
        if (const assembly::Assembly& one = told.assemblies[i]; !one.base.empty())
            m_into->addItem(
                tr("put into %1").arg(told.assemblies.size() > 1 ? text(assembly::letterOf(i)) : tr("it")),
                text(one.base.front().text()));
    m_items->clear();
    for (const assembly::OwnItem& item : m_bench.job().assembly.items)
        m_items->addItem(
            item.at
                ? tr("%1, into %2").arg(text(item.text), text(design::pieceName(*m_bench.work(), item.at)))
                : text(item.text));
    m_takeItem->setEnabled(false);
    m_steps->setCurrentRow(std::clamp(row, 0, std::max(0, m_steps->count() - 1)));
    showStep(m_steps->currentRow());
    if (!wasShown)
        showPage(0); // first of all the finished work
}

const assembly::Step* AssemblyDialog::stepAt(int row) const {
    if (m_drawn && row >= 0)
        for (const assembly::Assembly& one : m_drawn->told.assemblies) {
            if (row < static_cast<int>(one.steps.size()))
                return &one.steps[static_cast<std::size_t>(row)];
            row -= static_cast<int>(one.steps.size());
        }
    return nullptr;
}

void AssemblyDialog::showStep(int row) {
    const assembly::Step* step = stepAt(row);
    m_words->setPlainText(step ? text(step->text) : QString());
    m_words->setEnabled(step);
    m_saySo->setEnabled(step);
    m_asBefore->setVisible(step && m_bench.job().assembly.texts.contains(step->key));
    if (step)
        showPage(static_cast<int>(m_drawn->pageOfStep[static_cast<std::size_t>(row)]));
}

void AssemblyDialog::showPage(int page) {
    const int count = m_drawn ? static_cast<int>(m_drawn->pages.size()) : 0;
    m_pages->setCount(count);
    m_pages->turnTo(page);
    m_write->setEnabled(count > 0);
    if (count == 0)
        return;
    m_painting.start(tr("Painting a page"),
                     [this, drawn = m_drawn,
                      at = static_cast<std::size_t>(m_pages->shown())](const base::Progress&) -> Task::Conclusion {
                         const formats::pdf::Page& shown = drawn->pages[at];
                         const QImage image =
                             imageOf(pack::pictureOf(shown, std::min(kPagePx.width() / shown.widthMm,
                                                                     kPagePx.height() / shown.heightMm)));
                         return [this, image] { m_pages->showImage(image); };
                     });
}

void AssemblyDialog::sayStep(const QString& words) {
    const assembly::Step* step = stepAt(m_steps->currentRow());
    if (!step || words == text(step->text))
        return;
    auto next = job::withStepText(m_bench.job(), step->key, words.toStdString());
    if (!next)
        return say(text(next.error().message), true);
    m_bench.act(tr("Word a step"), next.take());
}

void AssemblyDialog::addItem() {
    const auto at = design::PieceId::read(m_into->currentData().toString().toStdString());
    auto next = job::withItem(m_bench.state(),
                              {m_item->text().simplified().toStdString(), at ? *at : design::PieceId{}});
    if (!next)
        return say(text(next.error().message), true);
    m_item->clear();
    m_bench.act(tr("Note what you bring"), next.take());
}

void AssemblyDialog::takeItem() {
    if (m_items->currentRow() < 0)
        return;
    auto next = job::withoutItem(m_bench.job(), static_cast<std::size_t>(m_items->currentRow()));
    if (!next)
        return say(text(next.error().message), true);
    m_bench.act(tr("Take away what you bring"), next.take());
}

void AssemblyDialog::writeTo(const QString& path) {
    if (!m_drawn)
        return;
    say(tr("Writing…"));
    m_task.start(
        tr("Writing the assembly sheets"),
        [this, path, drawn = m_drawn, name = m_bench.job().name,
         &store = m_store](const base::Progress&) -> Task::Conclusion {
            const auto pdf = formats::pdf::writePages(drawn->pages, name);
            const base::Status done =
                pdf ? store.writeWhole(path.toStdString(), *pdf) : base::Status(pdf.error());
            return [this, path, done, count = drawn->pages.size()] {
                say(done ? tr("%1 in %2")
                               .arg(countOf(static_cast<qsizetype>(count), tr("page"), tr("pages")), path)
                         : text(done.error().message),
                    !done);
            };
        });
}

} // namespace thinline::app
