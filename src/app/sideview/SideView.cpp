// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sideview/SideView.h"

#include "app/settings/Theme.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

constexpr int kNameWidth = 116;
constexpr int kCountWidth = 92;
constexpr double kLabelPx = 13.5; ///< least distance between two labels

const design::Stack* stackOf(const Workbench& bench) {
    return bench.job().stack.get();
}

double thicknessOf(const design::Stack& stack, const design::Layer& layer) {
    const design::Stock* stock = design::findStock(stack.stocks, layer.stockId);
    return stock ? stock->thicknessMm : 0.3;
}

} // namespace

CrossSection::CrossSection(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Side view"));
    setAccessibleDescription(tr(
        "The stack from the side. Up and down choose a layer, H hides it, Alt with up and down moves it."));
    setToolTip(tr("Click a layer to choose it. H hides it, Alt+Up and Alt+Down move it."));
    setMinimumHeight(96);
}

double CrossSection::pxPerMm() const {
    const design::Stack* stack = stackOf(m_bench);
    const double heightMm = stack ? design::measure(*stack).heightMm : 1;
    return std::min(60.0, (height() - 12) / std::max(heightMm, 0.1));
}

std::vector<CrossSection::Bar> CrossSection::bars() const {
    std::vector<Bar> out;
    const design::Stack* stack = stackOf(m_bench);
    if (!stack)
        return out;
    const double scale = pxPerMm();
    double y = height() - 6;
    for (const design::Layer& layer : stack->layers) {
        Bar bar;
        bar.liftHeight = layer.liftMm * scale;
        bar.height = thicknessOf(*stack, layer) * scale;
        bar.top = y - bar.liftHeight - bar.height;
        bar.labelY = bar.top + bar.height / 2;
        y = bar.top;
        out.push_back(bar);
    }
    // Labels keep their distance also where layers are thin: pushed upwards, then all down into the view.
    for (size_t i = 1; i < out.size(); ++i)
        out[i].labelY = std::min(out[i].labelY, out[i - 1].labelY - kLabelPx);
    const double over = out.empty() ? 0 : std::max(0.0, 8 - out.back().labelY);
    double lowest = height() - 7;
    for (Bar& bar : out) {
        bar.labelY = std::min(bar.labelY + over, lowest);
        lowest = bar.labelY - kLabelPx;
    }
    return out;
}

QString CrossSection::scaleText() const {
    const design::Stack* stack = stackOf(m_bench);
    if (!stack)
        return {};
    constexpr double kScreenPxPerMm = 96 / 25.4;
    return tr("true heights × %1 · %2 mm tall")
        .arg(pxPerMm() / kScreenPxPerMm, 0, 'f', 0)
        .arg(design::measure(*stack).heightMm, 0, 'f', 1);
}

void CrossSection::choose(int layer) {
    const design::Stack* stack = stackOf(m_bench);
    const int count = stack ? static_cast<int>(stack->layers.size()) : 0;
    m_chosen = std::clamp(layer, 0, std::max(0, count - 1));
    update();
    emit layerChosen(m_chosen);
}

int CrossSection::layerAt(QPoint at) const {
    const auto all = bars();
    int best = -1;
    double least = 9; // px; bars may be thinner than a finger's aim
    for (size_t i = 0; i < all.size(); ++i) {
        const bool isLabel = at.x() < kNameWidth || at.x() > width() - kCountWidth;
        const double away = isLabel
                                ? std::abs(at.y() - all[i].labelY)
                                : std::max({0.0, all[i].top - at.y(), at.y() - all[i].top - all[i].height});
        if (away < least) {
            least = away;
            best = static_cast<int>(i);
        }
    }
    return best;
}

QPoint CrossSection::middleOf(int layer) const {
    const auto all = bars();
    const Bar& bar = all[static_cast<size_t>(layer)];
    return {(kNameWidth + width() - kCountWidth) / 2, static_cast<int>(bar.top + bar.height / 2)};
}

void CrossSection::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const design::Stack* stack = stackOf(m_bench);
    if (!stack) {
        painter.setPen(t.soft);
        painter.drawText(rect(), Qt::AlignCenter,
                         tr("The layers stand here from the side once a picture is traced."));
        return;
    }
    const auto all = bars();
    const double left = kNameWidth + 22, right = width() - kCountWidth - 22;
    for (size_t i = 0; i < all.size(); ++i) {
        const Bar& bar = all[i];
        const design::Layer& layer = stack->layers[i];
        const design::Stock* stock = design::findStock(stack->stocks, layer.stockId);
        const QColor colour = stock ? QColor(stock->colour[0], stock->colour[1], stock->colour[2]) : t.soft;
        const bool isChosen = static_cast<int>(i) == m_chosen;
        for (double x = left + 24; bar.liftHeight > 1 && x < right - 20; x += 48) // foam under the layer
            painter.fillRect(QRectF(x, bar.top + bar.height, 14, bar.liftHeight), t.hairline);
        const QRectF box(left, bar.top, right - left, std::max(bar.height - 0.6, 1.0));
        if (layer.isHidden) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(t.soft, 1, Qt::DashLine));
        } else {
            painter.setBrush(colour);
            painter.setPen(QPen(t.hairline, 0.8));
        }
        painter.drawRect(box);
        if (isChosen) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(hasFocus() ? t.accent : t.ink, 2));
            painter.drawRect(box.adjusted(-1, -0.5, 1, 0.5));
        }
        QFont font = this->font();
        font.setPixelSize(12);
        font.setBold(isChosen);
        painter.setFont(font);
        painter.setPen(isChosen ? t.ink : t.soft);
        const QString name = QString::fromStdString(design::layerName(*stack, layer)) +
                             (layer.isHidden ? tr(", hidden") : QString());
        painter.drawText(QRectF(0, bar.labelY - 9, kNameWidth, 18), Qt::AlignRight | Qt::AlignVCenter,
                         QFontMetrics(font).elidedText(name, Qt::ElideRight, kNameWidth));
        const int count = static_cast<int>(layer.pieces.size());
        painter.drawText(QRectF(width() - kCountWidth, bar.labelY - 9, kCountWidth, 18),
                         Qt::AlignLeft | Qt::AlignVCenter,
                         count == 1 ? tr("1 piece") : tr("%1 pieces").arg(count));
        painter.setPen(QPen(t.hairline, 1));
        const double middle = bar.top + bar.height / 2;
        painter.drawLine(QPointF(kNameWidth + 4, bar.labelY), QPointF(left - 3, middle));
        painter.drawLine(QPointF(right + 3, middle), QPointF(width() - kCountWidth - 4, bar.labelY));
    }
}

void CrossSection::mousePressEvent(QMouseEvent* event) {
    if (const int layer = layerAt(event->pos()); layer >= 0)
        choose(layer);
}

void CrossSection::keyPressEvent(QKeyEvent* event) {
    const bool isAlt = event->modifiers() & Qt::AltModifier;
    switch (event->key()) {
    case Qt::Key_Up:
        isAlt ? emit wantsMove(1) : choose(m_chosen + 1);
        return;
    case Qt::Key_Down:
        isAlt ? emit wantsMove(-1) : choose(m_chosen - 1);
        return;
    case Qt::Key_H:
        emit wantsHide();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

SideView::SideView(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 8, 16, 6);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Side view"));
    title->setObjectName("soft");
    m_scale = new QLabel;
    m_scale->setObjectName("soft");
    head->addWidget(title, 1);
    head->addWidget(m_scale);
    column->addLayout(head);
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    m_section = new CrossSection(bench);
    line->addWidget(m_section, 1);

    m_controls = new QWidget;
    auto* controls = new QVBoxLayout(m_controls);
    controls->setContentsMargins(0, 0, 0, 0);
    controls->setSpacing(4);
    m_name = new QLabel;
    m_name->setObjectName("heading");
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Stock of the layer"));
    m_lift = new QDoubleSpinBox;
    m_lift->setRange(0, 50);
    m_lift->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_lift->setDecimals(1);
    m_lift->setSingleStep(0.5);
    m_lift->setPrefix(tr("lift "));
    m_lift->setSuffix(tr(" mm"));
    m_lift->setKeyboardTracking(false);
    m_lift->setAccessibleName(tr("Lift below the layer"));
    m_lift->setToolTip(tr("Foam or glue height below this layer"));
    const auto button = [](const QString& text, const QString& tip) {
        auto* b = new QToolButton;
        b->setObjectName("link");
        b->setText(text);
        b->setToolTip(tip);
        return b;
    };
    m_up = button(tr("Raise"), tr("Move the layer up in the stack (Alt+Up)"));
    m_down = button(tr("Lower"), tr("Move the layer down in the stack (Alt+Down)"));
    m_hide = button(tr("Hide"), tr("Leave the layer out of bench and sheets (H)"));
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(2);
    buttons->addWidget(m_up);
    buttons->addWidget(m_down);
    buttons->addWidget(m_hide);
    controls->addWidget(m_name);
    controls->addWidget(m_stock);
    controls->addWidget(m_lift);
    controls->addLayout(buttons);
    controls->addStretch(1);
    m_controls->setFixedWidth(164);
    line->addWidget(m_controls);
    column->addLayout(line, 1);

    connect(m_section, &CrossSection::layerChosen, this, [this] { refresh(); });
    connect(m_section, &CrossSection::wantsMove, this, &SideView::move);
    connect(m_section, &CrossSection::wantsHide, m_hide, &QToolButton::click);
    connect(m_up, &QToolButton::clicked, this, [this] { move(1); });
    connect(m_down, &QToolButton::clicked, this, [this] { move(-1); });
    connect(m_hide, &QToolButton::clicked, this, [this] {
        act(tr("Hide or show a layer"), [](const document::Job& job, size_t layer) {
            return document::withLayerHidden(job, layer, !job.stack->layers[layer].isHidden);
        });
    });
    connect(m_stock, &QComboBox::activated, this, [this] {
        const std::string stock = m_stock->currentData().toString().toStdString();
        act(tr("Change a layer's stock"), [stock](const document::Job& job, size_t layer) {
            return document::withLayerStock(job, layer, stock);
        });
    });
    connect(m_lift, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        act(tr("Change a lift"),
            [mm](const document::Job& job, size_t layer) { return document::withLayerLift(job, layer, mm); });
    });
}

void SideView::act(const QString& name,
                   const std::function<document::Job(const document::Job&, size_t)>& step) {
    const design::Stack* stack = stackOf(m_bench);
    const auto layer = static_cast<size_t>(m_section->chosen());
    if (stack && layer < stack->layers.size())
        m_bench.apply(name, step(m_bench.job(), layer));
}

void SideView::move(int by) {
    const design::Stack* stack = stackOf(m_bench);
    const int from = m_section->chosen(), to = from + by;
    if (!stack || to < 0 || to >= static_cast<int>(stack->layers.size()))
        return;
    act(tr("Move a layer"), [to](const document::Job& job, size_t layer) {
        return document::withLayerMoved(job, layer, static_cast<size_t>(to));
    });
    m_section->choose(to);
}

void SideView::refresh() {
    const design::Stack* stack = stackOf(m_bench);
    m_controls->setVisible(stack != nullptr);
    m_scale->setText(m_section->scaleText());
    m_section->update();
    if (!stack || stack->layers.empty())
        return;
    const size_t layer = std::min(static_cast<size_t>(m_section->chosen()), stack->layers.size() - 1);
    const QSignalBlocker a(m_stock), b(m_lift);
    m_name->setText(QString::fromStdString(design::layerName(*stack, stack->layers[layer])));
    m_stock->clear();
    for (const design::Stock& stock : stack->stocks) {
        QPixmap chip(14, 14);
        chip.fill(QColor(stock.colour[0], stock.colour[1], stock.colour[2]));
        m_stock->addItem(QIcon(chip), QString::fromStdString(stock.name), QString::fromStdString(stock.id));
    }
    m_stock->setCurrentIndex(m_stock->findData(QString::fromStdString(stack->layers[layer].stockId)));
    m_lift->setValue(stack->layers[layer].liftMm);
    m_up->setEnabled(layer + 1 < stack->layers.size());
    m_down->setEnabled(layer > 0);
    m_hide->setText(stack->layers[layer].isHidden ? tr("Show") : tr("Hide"));
}

} // namespace thinline::app
