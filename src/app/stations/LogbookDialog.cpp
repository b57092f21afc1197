// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/LogbookDialog.h"

#include "app/stations/Fields.h"
#include "base/Length.h"
#include "job/CutSteps.h"
#include "job/StockSteps.h"
#include "logbook/Exchange.h"

#include <QComboBox>
#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

using logbook::Entry;
using logbook::Logbook;
using logbook::What;

constexpr int kMostShown = 500;

QComboBox* choiceOf(const QString& name, const QStringList& words) {
    auto* out = new QComboBox;
    out->setAccessibleName(name);
    out->setToolTip(name);
    out->addItems(words);
    return out;
}

template <std::size_t N>
QStringList wordsOf(const std::array<const char*, N>& words) {
    QStringList out;
    for (const char* word : words)
        out << QString::fromLatin1(word);
    return out;
}

/// When, in the time of this place: "2026-05-02 16:03".
QString whenText(const Entry& entry) {
    const auto at = QDateTime::fromString(text(entry.when), Qt::ISODate);
    return at.isValid() ? at.toLocalTime().toString("yyyy-MM-dd HH:mm") : text(entry.when);
}

bool isCut(const Entry& entry) {
    return entry.what == What::Cut || entry.what == What::Tile;
}

QStringList cellsOf(const Entry& entry, base::LengthUnit unit) {
    const auto length = [&](double mm) { return mm > 0 ? text(base::formatLength(mm, unit)) : QString(); };
    QString setting;
    if (isCut(entry))
        setting = QStringLiteral("%1 gf").arg(entry.forceGf, 0, 'f', 0) +
                  (entry.passes > 1 ? QStringLiteral(" × %1").arg(entry.passes) : QString());
    QStringList remark;
    if (entry.what == What::Fit)
        remark << LogbookDialog::tr("step %1").arg(length(entry.stepMm));
    if (!entry.note.empty())
        remark << text(entry.note);
    return {whenText(entry),
            QString::fromLatin1(logbook::kWhatWords[static_cast<std::size_t>(entry.what)]),
            text(entry.stock),
            isCut(entry)
                ? QString::fromLatin1(logbook::kOutcomeWords[static_cast<std::size_t>(entry.outcome)])
                : QString(),
            setting,
            isCut(entry) || entry.what == What::NewBlade ? QString::fromLatin1(design::toolName(entry.blade))
                                                         : QString(),
            text(entry.job) + (entry.load > 0 ? QStringLiteral(", %1").arg(entry.load) : QString()),
            remark.join(QStringLiteral("; "))};
}

} // namespace

LogbookDialog::LogbookDialog(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_store(store) {
    setWindowTitle(tr("Logbook"));
    m_words = new QLineEdit;
    m_words->setAccessibleName(tr("Look for words"));
    m_words->setPlaceholderText(tr("Look for words: a stock, a job, a note, not through"));
    m_words->setClearButtonEnabled(true);
    m_count = new QLabel;
    m_count->setObjectName("soft");
    auto* top = new QHBoxLayout;
    top->addWidget(m_words, 1);
    top->addWidget(m_count);
    const QStringList columns{tr("when"),  tr("what"), tr("stock"),        tr("came out"),
                              tr("force"), tr("tool"), tr("job and load"), tr("note")};
    m_table = plainTable(tr("Entries"), columns);
    m_note = sentenceLabel({}, "soft");
    auto* out = linkButton(tr("Take out"), tr("Take the chosen entries out"));
    auto* in = linkButton(tr("Take in a file…"), tr("Take entries in from a CSV or JSON file"));
    auto* give = linkButton(tr("Give out…"), tr("Write what is found as CSV or JSON"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(out);
    last->addWidget(in);
    last->addWidget(give);
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(top);
    lines->addWidget(m_table, 1);
    lines->addWidget(buildEntry());
    lines->addLayout(last);
    resize(960, 560);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
    constexpr int kMomentMs = 150;
    m_later.setSingleShot(true);
    m_later.setInterval(kMomentMs);
    connect(&m_later, &QTimer::timeout, this, &LogbookDialog::look);
    connect(m_words, &QLineEdit::textChanged, &m_later, qOverload<>(&QTimer::start));
    connect(out, &QPushButton::clicked, this, &LogbookDialog::remove);
    connect(in, &QPushButton::clicked, this, [this] { choose(true); });
    connect(give, &QPushButton::clicked, this, [this] { choose(false); });
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    look();
}

QWidget* LogbookDialog::buildEntry() {
    auto* out = new QWidget;
    auto* row = new QHBoxLayout(out);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    m_what = choiceOf(tr("What is entered"), wordsOf(logbook::kWhatWords));
    // Those come from a calibration sheet, and from the question after a load.
    m_what->removeItem(static_cast<int>(What::Calibration));
    m_what->removeItem(static_cast<int>(What::Tile));
    m_stock = choiceOf(tr("Of which stock"), {});
    for (const design::Stock& stock : m_bench.job().stocks)
        m_stock->addItem(text(stock.name), text(stock.id));
    m_outcome = choiceOf(tr("How it came out"), wordsOf(logbook::kOutcomeWords));
    m_blade = choiceOf(tr("With which blade"), {});
    for (const design::ToolKind kind : {design::ToolKind::ShallowBlade, design::ToolKind::SteepBlade})
        m_blade->addItem(QString::fromLatin1(design::toolName(kind)), static_cast<int>(kind));
    m_force = numberField(tr("Force"), 1, static_cast<int>(design::kMostGf), tr(" gf"));
    m_force->setValue(200);
    m_passes = numberField(tr("Passes"), 1, design::kMostPasses, tr(" ×"));
    m_step = new LengthField(tr("Offset step that fitted"));
    m_step->allowZero();
    m_step->setToolTip(tr("Offset step that fitted"));
    m_step->setPlaceholderText(tr("step"));
    m_step->setMaximumWidth(90);
    connect(m_step, &LengthField::entered, this, [this](double mm) { m_stepMm = mm; });
    connect(m_step, &LengthField::refused, this, [this](const QString& why) { sayIn(m_note, why, true); });
    m_remark = new QLineEdit;
    m_remark->setAccessibleName(tr("Note"));
    m_remark->setPlaceholderText(tr("a note"));
    m_remark->setMaxLength(static_cast<int>(logbook::kMostNote / 4));
    auto* enter = new QPushButton(tr("Enter"));
    for (QWidget* field :
         std::initializer_list<QWidget*>{m_what, m_stock, m_outcome, m_force, m_passes, m_blade, m_step})
        row->addWidget(field);
    row->addWidget(m_remark, 1);
    row->addWidget(enter);
    const auto showFields = [this] {
        const QString what = m_what->currentText();
        const bool cuts = what == logbook::kWhatWords[0];
        for (QWidget* field : std::initializer_list<QWidget*>{m_outcome, m_force, m_passes})
            field->setVisible(cuts);
        m_blade->setVisible(cuts || what == logbook::kWhatWords[static_cast<std::size_t>(What::NewBlade)]);
        m_step->setVisible(what == logbook::kWhatWords[static_cast<std::size_t>(What::Fit)]);
        m_stock->setVisible(cuts || what == logbook::kWhatWords[static_cast<std::size_t>(What::Fit)]);
    };
    connect(m_what, &QComboBox::currentIndexChanged, this, showFields);
    connect(enter, &QPushButton::clicked, this, &LogbookDialog::enter);
    connect(m_remark, &QLineEdit::returnPressed, this, &LogbookDialog::enter);
    showFields();
    return out;
}

void LogbookDialog::look() {
    m_task.start(tr("Looking into the logbook"),
                 [this, path = m_bench.logbookPath(),
                  search = logbook::Search{m_words->text().trimmed().toStdString(), {}, kMostShown}](
                     const base::Progress&) -> Task::Conclusion {
                     const auto book = Logbook::open(path, Logbook::Open::Existing);
                     auto found = book ? book->find(search) : base::Result<std::vector<Entry>>(book.error());
                     const auto all = book ? book->count() : base::Result<int>(0);
                     return [this, found, all] {
                         m_entries = found ? *found : std::vector<Entry>{};
                         const bool isNew = !found && found.error().code == base::Code::NotFound;
                         if (!found && !isNew)
                             sayIn(m_note, text(found.error().message), true);
                         m_count->setText(isNew || !all || *all == 0
                                              ? tr("nothing entered yet")
                                              : tr("%1 of %2").arg(m_entries.size()).arg(*all));
                         showEntries();
                     };
                 });
}

void LogbookDialog::showEntries() {
    QVector<QStringList> rows;
    for (const Entry& entry : m_entries)
        rows << cellsOf(entry, m_bench.job().unit);
    fillTable(m_table, rows);
}

void LogbookDialog::write(const QString& title, std::function<base::Result<QString>(Logbook&)> work) {
    m_task.start(title,
                 [this, path = m_bench.logbookPath(),
                  work = std::move(work)](const base::Progress&) -> Task::Conclusion {
                     const auto done = [&]() -> base::Result<QString> {
                         auto opened = Logbook::open(path, Logbook::Open::OrBegin);
                         if (!opened)
                             return opened.error();
                         Logbook book = opened.take();
                         return work(book);
                     }();
                     return [this, done] {
                         m_note->setText(done ? *done : text(done.error().message));
                         emit changed();
                         look();
                     };
                 });
}

void LogbookDialog::enter() {
    Entry entry;
    const auto& words = logbook::kWhatWords;
    const auto what = std::find_if(words.begin(), words.end(),
                                   [&](const char* word) { return m_what->currentText() == word; });
    entry.what = static_cast<What>(what - words.begin());
    entry.outcome = static_cast<logbook::Outcome>(m_outcome->currentIndex());
    const design::Machine& machine = job::machineOf(m_bench.job());
    entry.machine = machine.id;
    entry.blade = static_cast<design::ToolKind>(m_blade->currentData().toInt());
    entry.mat = m_bench.job().plan.matId;
    entry.note = m_remark->text().toStdString();
    if (entry.what == What::Cut || entry.what == What::Fit) {
        const design::Stock* stock =
            design::findStock(m_bench.job().stocks, m_stock->currentData().toString().toStdString());
        if (stock) {
            entry.stockId = stock->id;
            entry.stock = stock->name;
            entry.kind = job::kindWord(stock->kind);
            entry.thicknessMm = stock->thicknessMm;
            entry.gramsPerM2 = stock->gramsPerM2;
            if (const auto setting = job::settingOf(m_bench.job(), stock->id))
                entry.tack = setting->tack;
        }
    }
    if (entry.what == What::Cut) {
        entry.forceGf = m_force->value();
        entry.passes = m_passes->value();
    }
    if (entry.what == What::Fit) {
        const geometry::Box box = job::workBox(m_bench.made());
        entry.job = m_bench.job().name;
        entry.stepMm = m_stepMm;
        if (!box.isEmpty()) {
            entry.widthMm = box.width();
            entry.heightMm = box.height();
        }
    }
    write(tr("Entering it"), [entry](Logbook& book) -> base::Result<QString> {
        const auto added = book.add(entry);
        return added ? base::Result<QString>(tr("Entered.")) : added.error();
    });
    m_remark->clear();
}

void LogbookDialog::remove() {
    std::vector<std::string> ids;
    for (const QModelIndex& row : m_table->selectionModel()->selectedRows())
        ids.push_back(m_entries[static_cast<std::size_t>(row.row())].id);
    if (ids.empty())
        return sayIn(m_note, tr("Choose the entries to be taken out."), false);
    write(tr("Taking it out"), [ids](Logbook& book) -> base::Result<QString> {
        for (const std::string& id : ids)
            if (auto gone = book.remove(id); !gone)
                return gone.error();
        return tr("Taken out: %1.")
            .arg(countOf(static_cast<qsizetype>(ids.size()), tr("entry"), tr("entries")));
    });
}

void LogbookDialog::choose(bool isImport) {
    const QString kinds = tr("Tables (*.csv *.json)");
    const QString path =
        isImport ? QFileDialog::getOpenFileName(this, tr("Take entries in"), QDir::homePath(), kinds)
                 : QFileDialog::getSaveFileName(this, tr("Give entries out"),
                                                QDir::homePath() + "/logbook.csv", kinds);
    if (!path.isEmpty())
        isImport ? importFrom(path) : exportTo(path);
}

void LogbookDialog::exportTo(const QString& path) {
    write(tr("Writing entries"),
          [path = path.toStdString(), words = m_words->text().trimmed().toStdString(),
           &store = m_store](Logbook& book) -> base::Result<QString> {
              const auto found = book.find({words, {}, 0});
              if (!found)
                  return found.error();
              const bool isJson = path.ends_with(".json");
              const std::string out = isJson ? logbook::jsonOf(*found) : logbook::csvOf(*found);
              if (auto done = store.writeWhole(path, {out.begin(), out.end()}); !done)
                  return done.error();
              return tr("%1 written.")
                  .arg(countOf(static_cast<qsizetype>(found->size()), tr("entry"), tr("entries")));
          });
}

void LogbookDialog::importFrom(const QString& path) {
    write(tr("Reading entries"),
          [path = path.toStdString(), &store = m_store](Logbook& book) -> base::Result<QString> {
              const auto bytes = store.read(path, logbook::kMostBytes);
              if (!bytes)
                  return bytes.error();
              const auto entries = logbook::readEntries({bytes->begin(), bytes->end()});
              if (!entries)
                  return entries.error();
              const auto taken = book.take(*entries);
              if (!taken)
                  return taken.error();
              return tr("%1 entered, %2 were there.")
                  .arg(*taken)
                  .arg(static_cast<int>(entries->size()) - *taken);
          });
}

} // namespace thinline::app
