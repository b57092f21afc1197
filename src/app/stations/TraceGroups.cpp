// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Fields.h"
#include "app/stations/Stations.h"
#include "app/stations/TraceControls.h"
#include "raster/Turn.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QVBoxLayout>

// What each way of tracing asks for, and what is taken out of the picture first.
namespace thinline::app {

void TraceStation::buildLines() {
    m_lines = new QWidget;
    auto* body = beginGroup(m_lines);
    m_threshold = addSlider(tr("Ink against paper"), m_thresholdText, 0, 254, body);
    m_threshold->setToolTip(tr("Pixels this dark or darker are ink"));
    m_automatic = new QCheckBox(tr("Choose it automatically"));
    body->addWidget(m_automatic);
    m_build = new WordChoice({tr("Areas on backing"), tr("Ink on top")});
    m_build->setToolTip(
        tr("The areas lie on the filled silhouette of the ink, or run on under the ink itself"));
    body->addWidget(m_build);
    QPushButton* close = addTool(Tool::CloseGap, tr("Close a gap"),
                                 tr("Click on both ends of a gap: a line of ink closes it (Ctrl+G)"));
    close->setObjectName("closeGap");
    m_ownPart =
        addTool(Tool::OwnPart, tr("Look at a part by itself"),
                tr("Drag a box around a detail that was lost: its ink is told from its paper there alone"));
    m_gaps = new QVBoxLayout;
    m_gaps->setSpacing(2);
    body->addLayout(m_gaps);
    auto* tools = new QHBoxLayout;
    tools->setSpacing(4);
    tools->addWidget(close);
    tools->addWidget(m_ownPart);
    body->addLayout(tools);
    buildPart(body);
    buildFolds(body);
    m_copyColours =
        linkButton(tr("Take colours from a coloured copy…"),
                   tr("Open the same drawing in colour: every area takes the colour it has there"));
    body->addWidget(m_copyColours, 0, Qt::AlignLeft);
    m_reopen = linkButton(tr("Take the last closing line back"), tr("Take the last closing line back"));
    body->addWidget(m_reopen, 0, Qt::AlignLeft);
    connect(m_copyColours, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a coloured copy of the drawing"));
        if (!path.isEmpty())
            colourFrom(path);
    });
    connect(m_build, &WordChoice::chosen, this, [this](int build) {
        retrace(tr("Build it another way"),
                [build](auto& recipe) { recipe.build = static_cast<trace::Build>(build); });
    });
}

/// The threshold of the part that was marked last.
void TraceStation::buildPart(QVBoxLayout* body) {
    m_partRow = new QWidget;
    auto* part = new QVBoxLayout(m_partRow);
    part->setContentsMargins(0, 0, 0, 0);
    part->setSpacing(4);
    m_partThreshold = addSlider(tr("Ink in that part"), m_partText, 0, 254, part);
    m_noPart = linkButton(tr("Look at it with the rest again"), tr("Take the last part back"));
    part->addWidget(m_noPart, 0, Qt::AlignLeft);
    body->addWidget(m_partRow);
    connect(m_partThreshold, &QSlider::valueChanged, this, [this](int value) {
        m_partText->setText(QString::number(value));
        m_pending = [this, value] {
            retrace(tr("Change the threshold of a part"), [value](auto& recipe) {
                if (!recipe.ownParts.empty())
                    recipe.ownParts.back().threshold = value;
            });
        };
        m_settle.start();
    });
    connect(m_noPart, &QPushButton::clicked, this, [this] {
        retrace(tr("Take the last part back"), [](auto& recipe) { recipe.ownParts.pop_back(); });
    });
}

void TraceStation::buildFolds(QVBoxLayout* body) {
    m_foldsBelow = new LengthField(tr("Thinner lines are folds"));
    m_foldsBelow->allowZero();
    m_foldsBelow->setToolTip(tr("Lines thinner than this part no areas: they become folds. 0 for none."));
    body->addWidget(labelled(tr("Thinner lines are folds"), m_foldsBelow));
    m_dashesFold = new QCheckBox(tr("Dashed lines are folds"));
    body->addWidget(m_dashesFold);
    connect(m_foldsBelow, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        retrace(tr("Take thin lines for folds"), [mm](auto& recipe) { recipe.foldsBelowMm = mm; });
    });
    connect(m_foldsBelow, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_dashesFold, &QCheckBox::clicked, this, [this](bool isOn) {
        retrace(tr("Take dashes for folds"), [isOn](auto& recipe) { recipe.dashesFold = isOn; });
    });
}

void TraceStation::buildColours() {
    m_colours = new QWidget;
    auto* body = beginGroup(m_colours);
    m_count = new QSpinBox;
    m_count->setRange(1, trace::kMostColours); // the least stands for "as found"
    m_count->setSpecialValueText(tr("as found"));
    m_count->setAccessibleName(tr("Number of colours"));
    m_count->setObjectName("colourCount");
    body->addWidget(labelled(tr("Colours"), m_count, 96));
    m_chips = new PaletteChips;
    m_chips->setObjectName("palette");
    body->addWidget(m_chips);
    auto* picking = new QHBoxLayout;
    picking->setSpacing(8);
    QPushButton* take = addTool(Tool::TakeColour, tr("Take a colour"),
                                tr("Click on the picture: the colour there is looked for too"));
    picking->addWidget(take);
    m_noPicked = linkButton(tr("Forget those taken"), tr("Forget the colours taken from the picture"));
    picking->addWidget(m_noPicked);
    picking->addStretch();
    body->addLayout(picking);
    connect(m_noPicked, &QPushButton::clicked, this,
            [this] { retrace(tr("Forget the colours taken"), [](auto& recipe) { recipe.picked.clear(); }); });
    m_stacking = new WordChoice({tr("Edge to edge"), tr("On one another")});
    m_stacking->setToolTip(tr("Neighbours share their edges, or a lower piece runs on under an upper one"));
    body->addWidget(m_stacking);
    m_tuck = new LengthField(tr("Tuck"));
    m_tuck->setToolTip(tr("How far a lower piece runs on under an upper one"));
    m_tuckRow = labelled(tr("Tuck"), m_tuck);
    controls()->addWidget(m_tuckRow);
    connect(m_count, &QSpinBox::valueChanged, this, [this](int count) {
        m_pending = [this, count] {
            retrace(tr("Change the number of colours"),
                    [count](auto& recipe) { recipe.colours = count < 2 ? 0 : count; });
        };
        m_settle.start();
    });
    connect(m_chips, &PaletteChips::toggled, this, &TraceStation::toggleColour);
    connect(m_chips, &PaletteChips::merged, this, [this](int from, int into) {
        const auto& palette = m_shownPalette;
        const trace::ColourMerge merge{palette[static_cast<size_t>(from)],
                                       palette[static_cast<size_t>(into)]};
        retrace(tr("Merge two colours"), [merge](auto& recipe) { recipe.merges.push_back(merge); });
    });
    connect(m_stacking, &WordChoice::chosen, this, [this](int how) {
        retrace(tr("Lay the colours another way"),
                [how](auto& recipe) { recipe.stacking = static_cast<trace::Stacking>(how); });
    });
    connect(m_tuck, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        retrace(tr("Change the tuck"), [mm](auto& recipe) { recipe.tuckMm = mm; });
    });
    connect(m_tuck, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
}

void TraceStation::buildTones() {
    m_tones = new QWidget;
    auto* body = beginGroup(m_tones);
    m_toneCount = addSlider(tr("Tones"), m_toneText, 2, 8, body);
    m_neck = new LengthField(tr("Narrowest part"));
    m_neck->setToolTip(tr("No part of a layer, and no gap in it, is narrower"));
    body->addWidget(labelled(tr("Narrowest part"), m_neck));
    m_bridges = new LengthField(tr("Bridges up to"));
    m_bridges->allowZero();
    m_bridges->setToolTip(
        tr("Loose parts this near to the rest of their layer are joined to it. 0 for none."));
    body->addWidget(labelled(tr("Bridges up to"), m_bridges));
    connect(m_bridges, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        retrace(tr("Bridge loose parts"), [mm](auto& recipe) { recipe.bridgesMm = mm; });
    });
    connect(m_bridges, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_toneCount, &QSlider::valueChanged, this, [this](int tones) {
        m_toneText->setText(QString::number(tones));
        m_pending = [this, tones] {
            retrace(tr("Change the number of tones"), [tones](auto& recipe) { recipe.tones = tones; });
        };
        m_settle.start();
    });
    connect(m_neck, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        retrace(tr("Change the narrowest part"), [mm](auto& recipe) { recipe.neckMm = mm; });
    });
    connect(m_neck, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
}

QVBoxLayout* TraceStation::beginGroup(QWidget* group) {
    auto* body = new QVBoxLayout(group);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(8);
    controls()->addWidget(group);
    return body;
}

QPushButton* TraceStation::addTool(Tool tool, const QString& words, const QString& hint) {
    auto* button = new QPushButton(words);
    button->setCheckable(true);
    button->setToolTip(hint);
    button->setAccessibleName(words);
    m_tools[tool] = button;
    connect(button, &QPushButton::toggled, this, [this, button](bool isOn) {
        if (isOn)
            for (QPushButton* other : std::as_const(m_tools))
                if (other != button)
                    other->setChecked(false);
        emit modeChanged();
    });
    return button;
}

/// What is not to be traced: the artwork stays whole, the picture is looked at without it.
void TraceStation::buildClearing() {
    addHeading(tr("Take out of the picture"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    line->addWidget(addTool(Tool::TakeBox, tr("A box"), tr("Drag a box around what is not to be traced")));
    line->addWidget(
        addTool(Tool::TakeBrush, tr("A stroke"), tr("Wipe over what is not to be traced, 4 mm wide")));
    line->addWidget(addTool(Tool::TakeSpill, tr("A blot"),
                            tr("Click on something: all that is connected with it and of its colour goes")));
    controls()->addWidget(row);
    addHeading(tr("Straighten"));
    m_turn = new QDoubleSpinBox;
    m_turn->setAlignment(Qt::AlignRight);
    m_turn->setRange(-45, 45);
    m_turn->setDecimals(2);
    m_turn->setSingleStep(0.1);
    m_turn->setSuffix("°");
    m_turn->setKeyboardTracking(false);
    m_turn->setAccessibleName(tr("Picture turned by"));
    controls()->addWidget(labelled(tr("Picture turned by"), m_turn, 96));
    m_level = linkButton(tr("Lay it level"), tr("Turn the picture so that its straight edges lie level"));
    controls()->addWidget(m_level, 0, Qt::AlignLeft);
    connect(m_turn, &QDoubleSpinBox::valueChanged, this, &TraceStation::turnTo);
    connect(m_level, &QPushButton::clicked, this, [this] {
        const auto picture = bench().picture();
        const double degrees = picture ? raster::skewOf(*picture) : 0;
        tell(m_note, degrees == 0 ? tr("The picture has no straight edges that stand out; turn it by hand.")
                                  : QString());
        if (degrees != 0)
            turnTo(std::round(degrees * 100) / 100);
    });
    m_whole = linkButton(tr("Bring it all back"), tr("Bring back what was taken out of the picture"));
    controls()->addWidget(m_whole, 0, Qt::AlignLeft);
    connect(m_whole, &QPushButton::clicked, this, [this] {
        retrace(tr("Bring back what was taken out"), [](auto& recipe) { recipe.erasures.clear(); });
    });
}

} // namespace thinline::app
