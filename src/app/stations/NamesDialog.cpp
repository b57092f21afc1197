// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/NamesDialog.h"

#include "app/jobs/JobFiles.h"
#include "app/stations/Fields.h"
#include "document/JobFile.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace thinline::app {

NamesDialog::NamesDialog(Workbench& bench, job::NamedSlot slot, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_slot(std::move(slot)) {
    setWindowTitle(tr("Names from a list"));
    m_list = new QPlainTextEdit;
    m_list->setAccessibleName(tr("The names, one a line"));
    m_list->setPlaceholderText(tr("One name a line: type them, or paste a column of a table"));
    auto* open =
        linkButton(tr("Open a list…"), tr("A text or a table (CSV); of a table its first column is taken"));
    m_look = new QPushButton(tr("Set these names"));
    m_look->setAutoDefault(false);
    auto* left = new QVBoxLayout;
    left->addWidget(sentenceLabel(tr("Each of them takes the place of %1, as high as it is, or as wide as it "
                                     "has room. What was built on it "
                                     "is built on each.")
                                      .arg(text(m_slot.called)),
                                  "help"));
    left->addWidget(m_list, 1);
    left->addWidget(open, 0, Qt::AlignLeft);
    left->addWidget(m_look);
    m_table = new QTableWidget(0, 3);
    m_table->setAccessibleName(tr("What came of them"));
    m_table->setHorizontalHeaderLabels({tr("Name"), tr("Wide"), tr("Findings")});
    m_table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_table->verticalHeader()->hide();
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_words = sentenceLabel(tr("The names that need a look will stand first."));
    m_words->setObjectName("help");
    m_save = new QPushButton(tr("Save them as jobs…"));
    m_save->setObjectName("main");
    m_save->setAutoDefault(false);
    m_save->setEnabled(false);
    m_saveOne = new QPushButton(tr("Save them as one job…"));
    m_saveOne->setToolTip(tr("All of them side by side, to be laid on sheets and cut together"));
    m_saveOne->setAutoDefault(false);
    m_saveOne->setEnabled(false);
    auto* saving = new QHBoxLayout;
    saving->addWidget(m_saveOne);
    saving->addWidget(m_save);
    auto* right = new QVBoxLayout;
    right->addWidget(m_table, 1);
    right->addWidget(m_words);
    right->addLayout(saving);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(16, 16, 16, 16);
    columns->setSpacing(16);
    columns->addLayout(left, 2);
    columns->addLayout(right, 3);
    resize(860, 560);
    connect(open, &QPushButton::clicked, this, &NamesDialog::openList);
    connect(m_look, &QPushButton::clicked, this, &NamesDialog::look);
    connect(m_list, &QPlainTextEdit::textChanged, this, [this] { setSaving(false); });
    connect(m_save, &QPushButton::clicked, this, [this] {
        const QString folder = QFileDialog::getExistingDirectory(this, tr("Where the jobs go"));
        if (!folder.isEmpty())
            saveInto(folder);
    });
    connect(m_saveOne, &QPushButton::clicked, this, [this] {
        const QString path =
            askForJobFile(this, tr("One job of all names"), text(m_bench.job().name + ", all names"));
        if (!path.isEmpty())
            saveTogether(path);
    });
}

void NamesDialog::setSaving(bool may) {
    m_save->setEnabled(may);
    m_saveOne->setEnabled(may);
}

void NamesDialog::openList() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a list of names"));
    if (path.isEmpty())
        return;
    constexpr std::uint64_t kMostBytes = 4'000'000;
    const auto bytes = m_bench.files().read(path.toStdString(), kMostBytes);
    if (!bytes)
        return m_words->setText(text(bytes.error().message));
    m_list->setPlainText(QString::fromUtf8(reinterpret_cast<const char*>(bytes->data()),
                                           static_cast<qsizetype>(bytes->size())));
}

void NamesDialog::look() {
    auto names = job::namesOf(m_list->toPlainText().toStdString());
    if (!names)
        return m_words->setText(text(names.error().message));
    m_heading = text(names->heading);
    m_words->setText(tr("Setting the names."));
    setSaving(false);
    m_work.start(tr("Setting the names"),
                 [this, state = m_bench.state(),
                  list = names.take().all](const base::Progress& progress) -> Task::Conclusion {
                     auto made = pack::forNames(state, m_slot.slot, list, m_bench.fonts(),
                                                m_bench.catalogue().formats, progress);
                     if (!made)
                         return [this, why = made.error().message] { m_words->setText(text(why)); };
                     return [this, all = std::make_shared<const std::vector<pack::Named>>(made.take())] {
                         m_names = all;
                         showNames();
                     };
                 });
}

void NamesDialog::showNames() {
    m_table->setRowCount(static_cast<int>(m_names->size()));
    int withFindings = 0;
    for (size_t i = 0; i < m_names->size(); ++i) {
        const pack::Named& one = (*m_names)[i];
        const auto row = static_cast<int>(i);
        const QString findings = one.spoils > 0  ? tr("%n spoil card", nullptr, one.spoils)
                                 : one.risks > 0 ? tr("%n risk it", nullptr, one.risks)
                                                 : tr("none");
        withFindings += one.spoils + one.risks > 0;
        auto* wide = new QTableWidgetItem(text(base::formatLength(one.widthMm, m_bench.job().unit)));
        wide->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        m_table->setItem(row, 0, new QTableWidgetItem(text(one.name)));
        m_table->setItem(row, 1, wide);
        m_table->setItem(row, 2, new QTableWidgetItem(findings));
    }
    m_words->setText(
        withFindings == 0
            ? tr("%n names, none with findings.", nullptr, static_cast<int>(m_names->size()))
            : tr("%1 of %2 names have findings; they stand first.").arg(withFindings).arg(m_names->size()));
    if (!m_heading.isEmpty())
        m_words->setText(m_words->text() + " " +
                         tr("The first line, \"%1\", was taken for a heading.").arg(m_heading));
    setSaving(true);
}

void NamesDialog::saveInto(const QString& folder) {
    if (!m_names)
        return;
    m_words->setText(tr("Saving."));
    m_work.start(
        tr("Saving the jobs"),
        [this, names = m_names,
         to = folder.toStdString()](const base::Progress& progress) -> Task::Conclusion {
            size_t saved = 0;
            for (const pack::Named& one : *names) {
                if (progress.isCancelled())
                    break;
                if (const auto done =
                        document::saveJob(m_bench.files(), to + "/" + one.fileName + ".thinline", one.state);
                    !done)
                    return [this, why = done.error().message] { m_words->setText(text(why)); };
                ++saved;
            }
            return [this, saved, to] { m_words->setText(tr("%1 jobs are in %2.").arg(saved).arg(text(to))); };
        });
}

void NamesDialog::saveTogether(const QString& path) {
    if (!m_names)
        return;
    m_words->setText(tr("Laying them side by side."));
    m_work.start(tr("Laying the names side by side"),
                 [this, names = m_names, name = m_bench.job().name,
                  to = path.toStdString()](const base::Progress& progress) -> Task::Conclusion {
                     const auto all = pack::asOneJob(*names, name, progress);
                     if (!all)
                         return [this, why = all.error().message] { m_words->setText(text(why)); };
                     if (const auto done = document::saveJob(m_bench.files(), to, *all); !done)
                         return [this, why = done.error().message] { m_words->setText(text(why)); };
                     return [this, to, pieces = all->made.work() ? all->made.work()->pieces.size() : 0] {
                         m_words->setText(
                             tr("All names are in %1, with %2 pieces; open it to lay them on sheets.")
                                 .arg(text(to))
                                 .arg(pieces));
                     };
                 });
}

void askForNames(Workbench& bench, const job::Slot& slot, QWidget* parent) {
    for (job::NamedSlot& one : job::slotsOf(bench.job()))
        if (one.slot == slot) {
            auto* dialog = new NamesDialog(bench, std::move(one), parent);
            dialog->setAttribute(Qt::WA_DeleteOnClose);
            return dialog->open();
        }
}

} // namespace thinline::app
