// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/MachineDialog.h"

#include "job/CutSteps.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

constexpr int kHolders = 2; ///< that can be told here; machines with more keep theirs

QFormLayout* formIn(QWidget* widget) {
    auto* out = new QFormLayout(widget);
    out->setContentsMargins(0, 0, 0, 0);
    out->setHorizontalSpacing(12);
    return out;
}

} // namespace

MachineDialog::MachineDialog(Workbench& bench, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_note(sentenceLabel()) {
    setWindowTitle(tr("The machine and its lines"));
    auto* left = new QVBoxLayout;
    left->addWidget(headingLabel(tr("What it is")));
    left->addWidget(buildMachine());
    left->addStretch(1);
    auto* right = new QVBoxLayout;
    right->addWidget(headingLabel(tr("Its tools, and what takes them")));
    right->addWidget(buildTools());
    right->addSpacing(12);
    right->addWidget(headingLabel(tr("What it does not do itself")));
    right->addWidget(buildLines());
    right->addStretch(1);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(24);
    columns->addLayout(left, 1);
    columns->addLayout(right, 1);
    m_note->setObjectName("warning");
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(columns, 1);
    lines->addLayout(last);
    resize(760, 470);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(&m_bench, &Workbench::changed, this, &MachineDialog::refresh);
    refresh();
}

QDoubleSpinBox* MachineDialog::figure(const QString& name, double most, int decimals, const QString& unit,
                                      double design::Machine::*field) {
    auto* out = new QDoubleSpinBox;
    out->setRange(0, most);
    out->setDecimals(decimals);
    out->setSuffix(unit);
    out->setButtonSymbols(QAbstractSpinBox::NoButtons);
    out->setAlignment(Qt::AlignRight);
    out->setKeyboardTracking(false);
    out->setAccessibleName(name);
    m_figures.append({out, field});
    connect(out, &QDoubleSpinBox::valueChanged, this, [this, name, field](double value) {
        change(name, true, [field, value](design::Machine& now) { now.*field = value; });
    });
    return out;
}

QWidget* MachineDialog::buildMachine() {
    auto* out = new QWidget;
    auto* form = formIn(out);
    m_name = new QLineEdit;
    m_name->setAccessibleName(tr("What you call it"));
    m_width = new LengthField(tr("Widest mat"));
    m_longest = new LengthField(tr("Longest mat"));
    form->addRow(tr("What you call it"), m_name);
    form->addRow(tr("Widest mat"), m_width);
    form->addRow(tr("Longest mat"), m_longest);
    form->addRow(tr("Least force"),
                 figure(tr("Least force"), design::kMostGf, 0, tr(" gf"), &design::Machine::leastGf));
    form->addRow(tr("Most force"),
                 figure(tr("Most force"), design::kMostGf, 0, tr(" gf"), &design::Machine::mostGf));
    form->addRow(tr("Cuts at"), figure(tr("Cuts at"), 5000, 0, tr(" mm/s"), &design::Machine::cutMmPerS));
    form->addRow(tr("Travels at"),
                 figure(tr("Travels at"), 5000, 0, tr(" mm/s"), &design::Machine::travelMmPerS));
    form->addRow(tr("Changing a tool takes"),
                 figure(tr("Changing a tool takes"), 600, 0, tr(" s"), &design::Machine::swapS));
    form->addRow(tr("A blade costs"), figure(tr("A blade costs"), 1e5, 2, {}, &design::Machine::bladePrice));
    form->addRow(tr("A blade cuts"),
                 figure(tr("A blade cuts"), 1e5, 0, tr(" m"), &design::Machine::bladeLastsM));
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (text(job::machineOf(m_bench.job()).name) != m_name->text() && !m_name->text().trimmed().isEmpty())
            change(
                tr("Name the machine"), true,
                [name = m_name->text().trimmed().toStdString()](design::Machine& now) { now.name = name; });
    });
    for (const auto& [field, member] :
         {std::pair{m_width, &design::Machine::usableWidthMm}, {m_longest, &design::Machine::longestMm}}) {
        connect(field, &LengthField::entered, this, [this, member = member](double mm) {
            change(tr("Say how large a mat it takes"), true,
                   [member, mm](design::Machine& now) { now.*member = mm; });
        });
        connect(field, &LengthField::refused, m_note, &QLabel::setText);
    }
    return out;
}

QWidget* MachineDialog::buildTools() {
    auto* out = new QWidget;
    auto* grid = new QGridLayout(out);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(4);
    const QStringList columns{tr("there is one"), tr("first holder"), tr("second holder")};
    for (int c = 0; c < columns.size(); ++c)
        grid->addWidget(sentenceLabel(columns[c], "soft"), 0, c + 1);
    for (const design::ToolKind kind : design::kToolKinds) {
        const int row = static_cast<int>(kind) + 1;
        grid->addWidget(new QLabel(text(design::toolName(kind))), row, 0);
        for (int holder = -1; holder < kHolders; ++holder) {
            auto* box = new QCheckBox;
            box->setAccessibleName(
                holder < 0 ? tr("There is a %1").arg(text(design::toolName(kind)))
                           : tr("Holder %1 takes a %2").arg(holder + 1).arg(text(design::toolName(kind))));
            box->setToolTip(box->accessibleName());
            grid->addWidget(box, row, holder + 2, Qt::AlignLeft);
            m_marks.append({box, holder, kind});
            connect(box, &QCheckBox::clicked, this, [this, kind, holder](bool isOn) {
                change(
                    tr("Say which tools there are"), holder >= 0, [kind, holder, isOn](design::Machine& now) {
                        const auto h = static_cast<size_t>(std::max(holder, 0));
                        if (holder >= 0 && h >= now.holders.size())
                            now.holders.resize(h + 1);
                        std::vector<design::ToolKind>& tools = holder < 0 ? now.tools : now.holders[h].takes;
                        std::erase(tools, kind);
                        if (isOn)
                            tools.push_back(kind);
                        while (now.holders.size() > 1 && now.holders.back().takes.empty())
                            now.holders.pop_back();
                    });
            });
        }
    }
    return out;
}

QWidget* MachineDialog::buildLines() {
    auto* out = new QWidget;
    auto* form = formIn(out);
    // Hundredths: makers of blades state it so, in millimetres everywhere.
    m_offset = new QDoubleSpinBox;
    m_offset->setAccessibleName(tr("The tip trails by"));
    m_offset->setRange(0, design::kMostOffsetMm);
    m_offset->setDecimals(2);
    m_offset->setSuffix(tr(" mm"));
    m_offset->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_offset->setAlignment(Qt::AlignRight);
    m_offset->setKeyboardTracking(false);
    m_overcut = new LengthField(tr("Cuts go on for"));
    m_tabWidth = new LengthField(tr("Width of a bridge"));
    m_tabs = new QSpinBox;
    m_tabs->setAccessibleName(tr("Bridges"));
    m_tabs->setRange(0, design::kMostTabs);
    m_tabs->setKeyboardTracking(false);
    m_tiles = new QCheckBox(tr("A test tile in the waste of each load"));
    m_tiles->setToolTip(
        tr("Cut first: the load's narrowest strip, smallest opening, tightest slot, finest perforation"));
    m_overcut->allowZero();
    m_offset->setToolTip(tr("0 where the machine leads the knife round corners itself, as most do"));
    m_overcut->setToolTip(tr("Beyond the place where a closed cut began"));
    m_tabs->setToolTip(tr("Uncut bridges in pieces smaller than 20 mm"));
    form->addRow(tr("The tip trails by"), m_offset);
    form->addRow(tr("Cuts go on for"), m_overcut);
    auto* bridges = new QWidget;
    auto* row = new QHBoxLayout(bridges);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(m_tabs);
    row->addWidget(new QLabel(tr("of")));
    row->addWidget(m_tabWidth);
    form->addRow(tr("Bridges in small pieces"), bridges);
    form->addRow(m_tiles);
    const QString name = tr("Change what is done to lines");
    connect(m_offset, &QDoubleSpinBox::valueChanged, this, [this, name](double mm) {
        changeAids(name, [mm](design::CutAids& aids) { aids.bladeOffsetMm = mm; });
    });
    connect(m_overcut, &LengthField::entered, this, [this, name](double mm) {
        changeAids(name, [mm](design::CutAids& aids) { aids.overcutMm = mm; });
    });
    connect(m_tabWidth, &LengthField::entered, this,
            [this, name](double mm) { changeAids(name, [mm](design::CutAids& aids) { aids.tabMm = mm; }); });
    connect(m_tabs, &QSpinBox::valueChanged, this, [this, name](int count) {
        changeAids(name, [count](design::CutAids& aids) { aids.tabs = count; });
    });
    for (LengthField* field : {m_overcut, m_tabWidth})
        connect(field, &LengthField::refused, m_note, &QLabel::setText);
    connect(m_tiles, &QCheckBox::clicked, this, [this](bool isOn) {
        job::Job job = m_bench.job();
        job.cut.hasTiles = isOn;
        m_bench.act(isOn ? tr("Lay test tiles") : tr("Lay no test tiles"), job);
    });
    return out;
}

void MachineDialog::refresh() {
    const design::Machine& machine = job::machineOf(m_bench.job());
    const base::LengthUnit unit = m_bench.job().unit;
    m_name->setText(text(machine.name));
    m_width->showLength(machine.usableWidthMm, unit);
    m_longest->showLength(machine.longestMm, unit);
    for (const Figure& one : m_figures) {
        const QSignalBlocker quiet(one.box);
        one.box->setValue(machine.*one.field);
    }
    for (const Mark& one : m_marks) {
        const auto h = static_cast<size_t>(std::max(one.holder, 0));
        one.box->setChecked(one.holder < 0
                                ? machine.owns(one.tool)
                                : h < machine.holders.size() && machine.holders[h].doesTake(one.tool));
    }
    const design::CutAids& aids = m_bench.job().cut.aids;
    {
        const QSignalBlocker still(m_offset);
        m_offset->setValue(aids.bladeOffsetMm);
    }
    m_overcut->showLength(aids.overcutMm, unit);
    m_tabWidth->showLength(aids.tabMm, unit);
    const QSignalBlocker quiet(m_tabs);
    m_tabs->setValue(aids.tabs);
    m_tiles->setChecked(m_bench.job().cut.hasTiles);
}

void MachineDialog::change(const QString& name, bool makesItOwn,
                           const std::function<void(design::Machine&)>& what) {
    design::Machine machine = job::machineOf(m_bench.job());
    what(machine);
    if (makesItOwn && machine.id != job::kOwnMachine) {
        machine.id = job::kOwnMachine;
        if (machine.name == job::machineOf(m_bench.job()).name)
            machine.name = "my own, like " + machine.name;
    }
    const auto job = job::withMachine(m_bench.job(), machine);
    m_note->setText(job ? QString() : text(job.error().message));
    if (!job)
        return refresh();
    m_bench.act(name, *job);
    if (const auto kept = m_bench.keepMachine(); !kept)
        m_note->setText(tr("New jobs will not know of it. %1").arg(text(kept.error().message)));
}

void MachineDialog::changeAids(const QString& name, const std::function<void(design::CutAids&)>& what) {
    design::CutAids aids = m_bench.job().cut.aids;
    what(aids);
    const auto job = job::withAids(m_bench.job(), aids);
    m_note->setText(job ? QString() : text(job.error().message));
    if (job)
        m_bench.act(name, *job);
    else
        refresh();
}

} // namespace thinline::app
