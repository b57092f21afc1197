// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/ClearPanel.h"

#include "app/bench/tools/AreaTools.h"
#include "raster/Turn.h"

#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

QLabel* headingOf(const QString& words) {
    auto* label = new QLabel(words);
    label->setObjectName("heading");
    return label;
}

} // namespace

ClearPanel::ClearPanel(ToolButtons& tools, QWidget* parent) : QWidget(parent) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    buildTaking(tools, lines);
    lines->addWidget(headingOf(tr("Straighten")));
    m_turn = new QDoubleSpinBox;
    m_turn->setAlignment(Qt::AlignRight);
    m_turn->setRange(-45, 45);
    m_turn->setDecimals(2);
    m_turn->setSingleStep(0.1);
    m_turn->setSuffix("°");
    m_turn->setKeyboardTracking(false);
    m_turn->setAccessibleName(tr("Picture turned by"));
    lines->addWidget(labelled(tr("Picture turned by"), m_turn, 96));
    m_level = linkButton(tr("Lay it level"), tr("Turn the picture so that its straight edges lie level"));
    lines->addWidget(m_level, 0, Qt::AlignLeft);
    auto* sheet = linkButton(tr("Lay a photographed sheet straight…"),
                             tr("The picture is a photo of a sheet on a table: its corners are found, the table is left out"));
    sheet->setObjectName("sheetInPhoto");
    lines->addWidget(sheet, 0, Qt::AlignLeft);
    connect(sheet, &QPushButton::clicked, this, &ClearPanel::wantsSheet);
    connect(m_turn, &QDoubleSpinBox::valueChanged, this, &ClearPanel::turned);
    connect(m_level, &QPushButton::clicked, this, &ClearPanel::layLevel);
}

void ClearPanel::buildTaking(ToolButtons& tools, QVBoxLayout* lines) {
    using Kind = trace::Erasure::Kind;
    constexpr double kBrushMm = 4, kPointMm = 0.5;
    lines->addWidget(headingOf(tr("Take out of the picture")));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    line->addWidget(tools.add(tr("A box"), tr("Drag a box around what is not to be traced"),
                              std::make_unique<BoxTool>([this](const geometry::Box& box) {
                                  emit marked(Kind::Rectangle, {box.least, box.most}, 0);
                              })));
    line->addWidget(
        tools.add(tr("A stroke"), tr("Wipe over what is not to be traced, 4 mm wide"),
                  std::make_unique<StrokeTool>(kBrushMm, [this](const std::vector<geometry::Point>& way) {
                      emit marked(Kind::Brush, way, kBrushMm);
                  })));
    line->addWidget(tools.add(
        tr("A blot"), tr("Click on something: all that is connected with it and of its colour goes"),
        std::make_unique<StrokeTool>(kPointMm, [this](const std::vector<geometry::Point>& way) {
            emit marked(Kind::Spill, {way.front()}, 0);
        })));
    lines->addWidget(row);
    m_whole = linkButton(tr("Bring it all back"), tr("Bring back what was taken out of the picture"));
    lines->addWidget(m_whole, 0, Qt::AlignLeft);
    connect(m_whole, &QPushButton::clicked, this, &ClearPanel::wantsAllBack);
}

void ClearPanel::layLevel() {
    m_looker.start(tr("Looking for straight edges"), [this, picture = m_picture](const base::Progress&) {
        const double degrees = picture ? raster::skewOf(*picture) : 0;
        return [this, degrees] {
            emit told(degrees == 0 ? tr("The picture has no straight edges that stand out; turn it by hand.")
                                   : QString());
            if (degrees != 0)
                emit turned(std::round(degrees * 100) / 100);
        };
    });
}

void ClearPanel::show(const trace::Recipe& recipe, std::shared_ptr<const raster::Picture> picture) {
    m_picture = std::move(picture);
    m_turn->setEnabled(m_picture != nullptr);
    m_level->setEnabled(m_picture != nullptr);
    m_whole->setVisible(!recipe.erasures.empty());
    const QSignalBlocker quiet(m_turn);
    m_turn->setValue(recipe.turnDeg);
}

} // namespace thinline::app
