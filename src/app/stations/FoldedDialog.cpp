// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/FoldedDialog.h"

#include "app/bench/Paths.h"
#include "app/settings/Theme.h"
#include "app/stations/Fields.h"
#include "job/Constructions.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMessageBox>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>
#include <QWheelEvent>

#include <algorithm>

namespace thinline::app {

// ---- the view -------------------------------------------------------------------------------------------

FoldedView::FoldedView(QWidget* parent) : QWidget(parent) {
    setMinimumSize(420, 320);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::OpenHandCursor);
    setAccessibleName(tr("The folded work"));
    setAccessibleDescription(tr("Drag to turn it, or use the arrow keys; the wheel brings it nearer"));
}

void FoldedView::showImage(const QImage& image) {
    m_image = image;
    update();
}

void FoldedView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().desk);
    if (!m_image.isNull())
        painter.drawImage(rect(), m_image);
    if (hasFocus()) {
        painter.setPen(theme().accent);
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void FoldedView::turn(double byRad, double tiltByRad) {
    m_turnRad += byRad;
    m_tiltRad = std::clamp(m_tiltRad + tiltByRad, -1.55, 1.55);
    emit looksElsewhere();
}

void FoldedView::mousePressEvent(QMouseEvent* event) {
    m_last = event->position();
    setFocus();
}

void FoldedView::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton))
        return;
    constexpr double kRadPerPx = 0.008;
    const QPointF by = event->position() - m_last;
    m_last = event->position();
    turn(by.x() * kRadPerPx, by.y() * kRadPerPx);
}

void FoldedView::wheelEvent(QWheelEvent* event) {
    m_zoom = std::clamp(m_zoom * std::pow(1.0015, event->angleDelta().y()), 0.3, 8.0);
    emit looksElsewhere();
    event->accept();
}

void FoldedView::keyPressEvent(QKeyEvent* event) {
    constexpr double kStepRad = 0.1;
    switch (event->key()) {
    case Qt::Key_Left:
        return turn(-kStepRad, 0);
    case Qt::Key_Right:
        return turn(kStepRad, 0);
    case Qt::Key_Up:
        return turn(0, -kStepRad);
    case Qt::Key_Down:
        return turn(0, kStepRad);
    default:
        QWidget::keyPressEvent(event);
    }
}

// ---- the dialog -----------------------------------------------------------------------------------------

FoldedDialog::FoldedDialog(Workbench& bench, design::PieceId piece, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_piece(piece) {
    setWindowTitle(tr("Folded"));
    m_view = new FoldedView;
    m_slider = new QSlider(Qt::Horizontal);
    m_slider->setRange(0, 1000);
    m_slider->setValue(1000);
    m_slider->setPageStep(100);
    m_slider->setAccessibleName(tr("From flat to done"));
    m_light = new QCheckBox(tr("Light inside"));
    m_light->setToolTip(tr("What panes look like with a battery light behind them"));
    m_light->setVisible(false);
    m_words = sentenceLabel(tr("Folding it up."));
    m_words->setObjectName("help");
    auto* under = new QHBoxLayout;
    under->addWidget(new QLabel(tr("flat")));
    under->addWidget(m_slider, 1);
    under->addWidget(new QLabel(tr("done")));
    auto* left = new QVBoxLayout;
    left->addWidget(m_view, 1);
    left->addLayout(under);
    auto* right = new QWidget;
    right->setFixedWidth(280);
    auto* side = new QVBoxLayout(right);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(10);
    side->addWidget(
        sentenceLabel(tr("Drag to turn it. The slider folds it, joint by joint in this order, and then "
                         "brings its pieces together."),
                      "help"));
    side->addWidget(m_light);
    auto* heading = new QLabel(tr("Where it is joined"));
    heading->setObjectName("heading");
    side->addWidget(heading);
    m_joints = new QVBoxLayout;
    m_joints->setSpacing(4);
    side->addLayout(m_joints);
    side->addWidget(m_words);
    side->addStretch(1);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(16, 16, 16, 16);
    columns->setSpacing(16);
    columns->addLayout(left, 1);
    columns->addWidget(right);
    resize(1000, 620);
    connect(m_view, &FoldedView::looksElsewhere, this, &FoldedDialog::draw);
    connect(m_slider, &QSlider::valueChanged, this, &FoldedDialog::draw);
    connect(m_light, &QCheckBox::toggled, this, &FoldedDialog::draw);
    foldUp();
}

void FoldedDialog::foldUp() {
    m_folder.start(
        tr("Folding"), [this, state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
            const design::Stack* work = state.made.work();
            auto looks = work ? job::printLooks(state.job, *work, {}, progress)
                              : base::Result<job::PrintLooks>(job::PrintLooks{});
            auto model = looks ? job::foldedOf(state, m_piece, *looks, progress)
                               : base::Result<folding::Model>(looks.error());
            if (!model)
                return [this, why = model.error().message] { m_words->setText(text(why)); };
            auto made = std::make_shared<const folding::Model>(model.take());
            const folding::Posed done = folding::posed(*made, 1);
            auto clashes = folding::clashesOf(*made, done, progress);
            return [this, made, closings = folding::closingsOf(*made, done),
                    clashing = clashes ? clashes.take() : std::vector<folding::Clash>{},
                    inside = folding::printsInside(*made, done)] {
                m_model = made;
                m_light->setVisible(
                    std::any_of(made->sheets.begin(), made->sheets.end(),
                                [](const folding::Sheet& sheet) { return sheet.card.isTranslucent; }));
                m_closings = closings;
                tellJoints();
                tellFaults(clashing, inside);
                draw();
            };
        });
}

/// In the order in which they are closed; what is closed by folding can be closed earlier.
void FoldedDialog::tellJoints() {
    emptyLayout(m_joints);
    const std::vector<std::string> order = folding::jointsOf(*m_model);
    const auto placeOf = [&](const folding::Closing& one) {
        return std::find(order.begin(), order.end(), one.name) - order.begin();
    };
    std::stable_sort(m_closings.begin(), m_closings.end(),
                     [&](const auto& a, const auto& b) { return placeOf(a) < placeOf(b); });
    for (const folding::Closing& one : m_closings) {
        const bool isOpen = one.gapMm > folding::kMostGapMm;
        const QString gap = text(base::formatLength(one.gapMm, m_bench.job().unit));
        constexpr double kExactMm = 0.05;
        auto* row = sentenceLabel(isOpen ? tr("%1: open by %2").arg(capitalised(text(one.name)), gap)
                                  : one.gapMm < kExactMm
                                      ? tr("%1: closed").arg(capitalised(text(one.name)))
                                      : tr("%1: closed, %2 apart").arg(capitalised(text(one.name)), gap),
                                  isOpen ? "warning" : "");
        auto* holder = new QWidget;
        auto* line = new QHBoxLayout(holder);
        line->setContentsMargins(0, 0, 0, 0);
        line->addWidget(row, 1);
        if (const auto at = placeOf(one); at > 0 && at < std::ssize(order)) {
            auto* earlier =
                linkButton(tr("earlier"), tr("Close %1 before the joint above").arg(text(one.name)));
            connect(earlier, &QPushButton::clicked, this, [this, name = one.name] { closeEarlier(name); });
            line->addWidget(earlier, 0, Qt::AlignTop);
        }
        m_joints->addWidget(holder);
    }
}

void FoldedDialog::closeEarlier(const std::string& joint) {
    std::vector<std::string> order = folding::jointsOf(*m_model);
    const auto at = std::find(order.begin(), order.end(), joint);
    if (at == order.end() || at == order.begin())
        return;
    std::iter_swap(at, at - 1);
    auto changed = std::make_shared<folding::Model>(*m_model);
    folding::foldInOrder(*changed, order);
    m_model = changed;
    if (auto kept = job::withJointOrder(m_bench.job(), m_piece.source(), std::move(order)))
        m_bench.act(tr("Close a joint earlier"), *kept);
    tellJoints();
    draw();
}

void FoldedDialog::tellFaults(const std::vector<folding::Clash>& clashes,
                              const std::vector<folding::Inside>& inside) {
    QStringList words;
    for (const folding::Clash& clash : clashes)
        words << (clash.a == clash.b
                      ? tr("%1 passes through itself.").arg(capitalised(text(clash.a)))
                      : tr("%1 passes through %2.").arg(capitalised(text(clash.a)), text(clash.b)));
    for (const folding::Inside& print : inside)
        words << capitalised(text(print.sentence(m_bench.job().unit))) + ".";
    for (const folding::Sheet& sheet : m_model->sheets)
        if (!sheet.said.empty())
            words << text(sheet.said);
    if (m_closings.empty())
        words << tr("Nothing says where this piece is glued; its panels are folded by their angles.");
    m_words->setText(words.join(" "));
    m_words->setVisible(!words.isEmpty());
}

void FoldedDialog::draw() {
    if (!m_model)
        return;
    folding::View view;
    view.turnRad = m_view->turnRad();
    view.tiltRad = m_view->tiltRad();
    view.zoom = m_view->zoom();
    view.widthPx = std::max(1, m_view->width());
    view.heightPx = std::max(1, m_view->height());
    const auto rgb = [](const QColor& c) {
        return raster::Rgb{static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                           static_cast<std::uint8_t>(c.blue())};
    };
    view.ground = rgb(theme().desk);
    view.ink = rgb(theme().ink);
    view.isLit = m_light->isChecked();
    m_drawer.start(tr("Drawing"),
                   [this, view, model = m_model,
                    done = m_slider->value() / 1000.0](const base::Progress&) -> Task::Conclusion {
                       const QImage image =
                           imageOf(folding::drawn(*model, folding::posed(*model, done), view)).copy();
                       return [this, image] { m_view->showImage(image); };
                   });
}

void showFolded(Workbench& bench, design::PieceId piece, QWidget* parent) {
    if (piece == design::PieceId{}) {
        QMessageBox::information(
            parent, FoldedDialog::tr("Folded"),
            FoldedDialog::tr(
                "No piece has folds yet. Lay one at Folds, or make a work from measures at Source."));
        return;
    }
    auto* dialog = new FoldedDialog(bench, piece, parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

} // namespace thinline::app
