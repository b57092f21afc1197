// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/Theme.h"
#include "app/stations/Stations.h"
#include "base/Length.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

/// The least-area slider runs evenly in the side of the square, which is what the eye judges: 0 to 5 mm.
constexpr int kAreaSteps = 100;
double areaOf(int slider) {
    return std::pow(5.0 * slider / kAreaSteps, 2);
}
int sliderOf(double areaMm2) {
    return static_cast<int>(std::lround(std::sqrt(areaMm2) / 5.0 * kAreaSteps));
}

/// A stock to lay: a chip of the card itself with its name below.
class Swatch : public QAbstractButton {
  public:
    Swatch(const design::Stock& stock, const QString& hint)
        : m_colour(stock.colour[0], stock.colour[1], stock.colour[2]) {
        setText(QString::fromStdString(stock.name));
        setCheckable(true);
        setFixedSize(60, 50);
        setAccessibleName(text());
        setToolTip(hint);
        setFocusPolicy(Qt::StrongFocus);
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        const Theme& t = theme();
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const QRectF chip(1.5, 1.5, width() - 3.0, 32);
        painter.setBrush(m_colour);
        painter.setPen(QPen(t.hairline, 1));
        painter.drawRoundedRect(chip, 4, 4);
        if (isChecked()) { // a ring and a dot, not colour alone
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(t.ink, 2.5));
            painter.drawRoundedRect(chip, 4, 4);
            painter.setPen(Qt::NoPen);
            painter.setBrush(m_colour.lightness() > 128 ? QColor("#1E2A31") : QColor("#FFFFFF"));
            painter.drawEllipse(QPointF(width() - 11.0, 11), 3.5, 3.5);
        }
        if (hasFocus()) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(t.accent, 1.5, Qt::DashLine));
            painter.drawRoundedRect(chip.adjusted(3, 3, -3, -3), 3, 3);
        }
        QFont font = this->font();
        font.setPixelSize(11);
        font.setBold(isChecked());
        painter.setFont(font);
        painter.setPen(isChecked() ? t.ink : t.soft);
        painter.drawText(QRect(0, 35, width(), 15), Qt::AlignCenter,
                         QFontMetrics(font).elidedText(text(), Qt::ElideRight, width()));
    }

  private:
    QColor m_colour;
};

} // namespace

TraceStation::TraceStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("Which areas become which card?"),
                   tr("Click or sweep over areas to lay a stock on them."), tr("Take these layers"), parent) {
    m_threshold = addSlider(tr("Ink against paper"), m_thresholdText, 0, 254);
    m_threshold->setToolTip(tr("Pixels this dark or darker are ink"));
    m_automatic = new QCheckBox(tr("Choose it automatically"));
    controls()->addWidget(m_automatic);
    m_leastArea = addSlider(tr("Drop areas below"), m_leastAreaText, 0, kAreaSteps);
    m_leastArea->setToolTip(tr("Smaller areas become part of the ink, smaller specks of ink vanish"));
    m_dropped = addNote();
    m_room = addLength(tr("Room between pieces"));
    m_room->allowZero();
    m_room->setToolTip(
        tr("Every area shrinks by this much on all sides, so that more of the lines shows. 0 for none."));
    m_note = addNote();
    m_note->setObjectName("warning");

    addHeading(tr("Gaps in the lines"));
    m_close = new QPushButton(tr("Close a gap by two clicks"));
    m_close->setCheckable(true);
    m_close->setObjectName("closeGap");
    m_close->setToolTip(tr("Click on both ends of a gap: a line of ink closes it (Ctrl+G)"));
    controls()->addWidget(m_close);
    m_reopen = new QPushButton(tr("Take the last closing line back"));
    controls()->addWidget(m_reopen);

    addHeading(tr("Stock to lay"));
    auto* frame = new QWidget;
    m_swatches = new QGridLayout(frame);
    m_swatches->setContentsMargins(0, 0, 0, 0);
    m_swatches->setSpacing(6);
    m_swatchGroup = new QButtonGroup(this);
    controls()->addWidget(frame);
    m_picture = new QCheckBox(tr("Show the drawing instead"));
    m_picture->setObjectName("showDrawing");
    m_picture->setToolTip(tr("Compare the areas with the drawing they came from (Ctrl+D)"));
    controls()->addWidget(m_picture);

    m_settle.setSingleShot(true);
    m_settle.setInterval(250);
    connect(&m_settle, &QTimer::timeout, this, [this] {
        if (m_pending)
            std::exchange(m_pending, nullptr)();
    });
    connect(m_threshold, &QSlider::valueChanged, this, [this](int value) {
        m_thresholdText->setText(QString::number(value));
        m_pending = [this, value] {
            retrace(tr("Change the threshold"), [value](auto& recipe) { recipe.threshold = value; });
        };
        m_settle.start();
    });
    connect(m_automatic, &QCheckBox::clicked, this, [this](bool isOn) {
        const int value = m_threshold->value();
        retrace(tr("Change the threshold"), [isOn, value](auto& recipe) {
            recipe.threshold = isOn ? std::nullopt : std::optional(value);
        });
    });
    connect(m_leastArea, &QSlider::valueChanged, this, [this](int value) {
        m_leastAreaText->setText(tr("%1 mm²").arg(areaOf(value), 0, 'f', 2));
        m_pending = [this, value] {
            retrace(tr("Change the least area"),
                    [value](auto& recipe) { recipe.leastAreaMm2 = areaOf(value); });
        };
        m_settle.start();
    });
    connect(m_room, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        this->bench().run(tr("Change the room between pieces"),
                          [mm](const document::Job& job, const base::Progress& progress) {
                              return document::withClearance(job, mm, progress);
                          });
    });
    connect(m_room, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_close, &QPushButton::toggled, this, &TraceStation::modeChanged);
    connect(m_picture, &QCheckBox::toggled, this, &TraceStation::modeChanged);
    connect(m_reopen, &QPushButton::clicked, this, [this] {
        retrace(tr("Take a closing line back"), [](auto& recipe) { recipe.closings.pop_back(); });
    });
    connect(m_swatchGroup, &QButtonGroup::idClicked, this,
            [this](int id) { m_chosenStock = m_swatchIds[id].toStdString(); });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

QSlider* TraceStation::addSlider(const QString& label, QLabel*& value, int least, int most) {
    value = new QLabel;
    value->setAlignment(Qt::AlignRight);
    addRow(label, value, 80);
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setRange(least, most);
    slider->setAccessibleName(label);
    controls()->addWidget(slider);
    return slider;
}

void TraceStation::retrace(const QString& name,
                           const std::function<void(trace::Recipe&)>& change) {
    const auto picture = bench().picture();
    if (!picture || !bench().isTraced())
        return;
    bench().run(name, [picture, change](const document::Job& job, const base::Progress& progress) {
        trace::Recipe recipe = job.recipe;
        change(recipe);
        return document::traced(job, *picture, recipe, document::shippedCatalogue(), progress);
    });
}

void TraceStation::closeGap(geometry::Point from, geometry::Point to) {
    if (!bench().isTraced())
        return;
    const document::Job& job = bench().job();
    const trace::Sizing sizing = document::sizingOf(job);
    const geometry::Transform map = trace::pictureToDesign(*job.tracing, sizing);
    const auto toPx = [&](geometry::Point p) {
        return geometry::Point{(p.x - map.e) / map.a, (p.y - map.f) / map.d};
    };
    // As wide as a usual pen stroke on the picture; the person sees it at once and can take it back.
    constexpr double kPenMm = 0.8;
    const trace::ClosingLine line{toPx(from), toPx(to), std::max(3.0, kPenMm / sizing.mmPerPx)};
    retrace(tr("Close a gap"), [line](auto& recipe) { recipe.closings.push_back(line); });
}

bool TraceStation::isClosingGaps() const {
    return m_close->isChecked();
}

bool TraceStation::showsPicture() const {
    return m_picture->isChecked() && bench().picture();
}

void TraceStation::setActive(bool isActive) {
    if (!isActive)
        m_close->setChecked(false);
}

void TraceStation::buildSwatches() {
    QVector<QString> ids;
    for (const design::Stock& stock : bench().job().stocks)
        ids.append(QString::fromStdString(stock.id));
    if (ids == m_swatchIds && m_swatchGroup->buttons().size() == ids.size())
        return;
    m_swatchIds = ids;
    const auto old = m_swatchGroup->buttons();
    for (QAbstractButton* button : old) {
        m_swatchGroup->removeButton(button);
        delete button;
    }
    constexpr int kAcross = 4;
    for (int i = 0; i < ids.size(); ++i) {
        const design::Stock& stock = bench().job().stocks[static_cast<size_t>(i)];
        auto* swatch = new Swatch(stock, tr("%1, %2 mm, %3 g/m²")
                                             .arg(QString::fromStdString(stock.name))
                                             .arg(stock.thicknessMm)
                                             .arg(stock.gramsPerM2));
        m_swatchGroup->addButton(swatch, i);
        m_swatches->addWidget(swatch, i / kAcross, i % kAcross);
    }
    if (!design::findStock(bench().job().stocks, m_chosenStock))
        m_chosenStock = ids.size() > 1  ? ids[1].toStdString()
                        : ids.isEmpty() ? std::string()
                                        : ids[0].toStdString();
    if (const auto at = ids.indexOf(QString::fromStdString(m_chosenStock)); at >= 0)
        m_swatchGroup->button(static_cast<int>(at))->setChecked(true);
}

void TraceStation::refresh() {
    const document::Job& job = bench().job();
    const bool isReady = job.tracing && bench().picture();
    for (QWidget* w : {static_cast<QWidget*>(m_threshold), static_cast<QWidget*>(m_leastArea),
                       static_cast<QWidget*>(m_automatic), static_cast<QWidget*>(m_close),
                       static_cast<QWidget*>(m_picture)})
        w->setEnabled(isReady);
    m_room->setEnabled(bench().isTraced());
    m_reopen->setEnabled(isReady && !job.recipe.closings.empty());
    mainButton()->setEnabled(bench().isTraced());
    buildSwatches();
    {
        const QSignalBlocker a(m_threshold), b(m_leastArea), c(m_automatic);
        m_automatic->setChecked(!job.recipe.threshold);
        m_threshold->setValue(job.recipe.threshold ? *job.recipe.threshold
                              : job.tracing        ? job.tracing->threshold
                                                   : 128);
        m_thresholdText->setText(QString::number(m_threshold->value()));
        if (!m_settle.isActive())
            m_leastArea->setValue(sliderOf(job.recipe.leastAreaMm2));
        m_leastAreaText->setText(tr("%1 mm²").arg(job.recipe.leastAreaMm2, 0, 'f', 2));
    }
    m_room->showLength(job.clearanceMm, job.unit);
    if (!bench().isTraced()) {
        setAnswer({{tr("Layers"), tr("not traced yet")}});
        tell(m_dropped, {});
        return;
    }
    tell(m_dropped, !job.tracing ? tr("Nothing is traced in this job: there is only stock to lay.")
                                 : tr("%1 areas and %2 specks of ink dropped")
                                       .arg(job.tracing->droppedAreas)
                                       .arg(job.tracing->droppedSpecks));
    const design::StackMeasures m = design::measure(*job.stack);
    QVector<std::pair<QString, QString>> rows{
        {tr("Layers"), QString::number(m.layers)},
        {tr("Pieces"), QString::fromStdString(base::formatCount(m.pieces))},
        {tr("Nodes"), QString::fromStdString(base::formatCount(m.nodes))},
        {tr("Smallest piece"), sizeText(m.smallestPieceBox.width(), m.smallestPieceBox.height())}};
    if (job.tracing)
        rows.append({tr("Gaps left open"), QString::number(job.tracing->leaks.size())});
    setAnswer(rows, tr("The smallest piece is %1")
                        .arg(QString::fromStdString(design::pieceName(*job.stack, m.smallestPiece))));
}

} // namespace thinline::app
