// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Panels are looked for whenever the work is another one, by a worker, and remembered by body: of five hundred boxes only
// the one that was touched is folded up again. A panel that was chosen is found again by the place that was clicked.
#include "app/stations/PanelRows.h"

#include "app/stations/Fields.h"
#include "app/stations/ParameterRows.h"
#include "geometry/Measures.h"
#include "job/LineSteps.h"
#include "job/Steps.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::app {
namespace {

double degrees(double rad) {
    return std::round(rad * 180 / std::numbers::pi * 10) / 10;
}

} // namespace

PanelRows::PanelRows(Workbench& bench, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_known(std::make_shared<design::Remembered<folds::Folded>>()) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    m_words = sentenceLabel();
    lines->addWidget(m_words);
    m_fields = new QWidget;
    auto* rows = new QVBoxLayout(m_fields);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(6);
    m_name = new QLineEdit;
    m_name->setAccessibleName(tr("Name of the panel"));
    rows->addWidget(labelled(tr("It is called"), m_name, 144));
    m_up = new MeasureSpin(base::Quantity::Angle);
    m_up->setAccessibleName(tr("Its top is turned by"));
    m_up->setRange(-360, 360);
    m_up->setSingleStep(90);
    m_up->setKeyboardTracking(false);
    rows->addWidget(labelled(tr("Its top is turned by"), m_up));
    m_behind = new QComboBox;
    m_behind->setAccessibleName(tr("Glued behind"));
    m_behindRow = labelled(tr("Glued behind"), m_behind, 144);
    rows->addWidget(m_behindRow);
    connect(m_behind, &QComboBox::activated, this, &PanelRows::glue);
    auto* links = new QHBoxLayout;
    m_front = linkButton(tr("It is the front"), tr("This panel is looked at from the front"));
    m_glue = linkButton(tr("Glue it"), tr("This panel is glued"));
    links->addWidget(m_front);
    m_line = linkButton(tr("Line it"), tr("Line this panel with card 2 mm smaller"));
    m_line->setToolTip(
        tr("A lining 2 mm smaller all round, at the back; give it its stock in the side view"));
    links->addWidget(m_glue);
    links->addWidget(m_line);
    links->addStretch(1);
    rows->addLayout(links);
    lines->addWidget(m_fields);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (const folds::Panel* panel = chosen(); panel && text(panel->name) != m_name->text().trimmed())
            say(tr("Name a panel"), folds::Action::SayPanel, "name", m_name->text().trimmed().toStdString());
    });
    connect(m_up, &QDoubleSpinBox::valueChanged, this,
            [this](double up) { say(tr("Turn a panel"), folds::Action::SayPanel, "up", up); });
    connect(m_front, &QPushButton::clicked, this, [this] {
        say(tr("Say which panel is the front"), folds::Action::SayPanel, "front", std::string("the front"));
    });
    connect(m_line, &QPushButton::clicked, this, [this] {
        const folds::Panel* panel = chosen();
        const design::Piece* piece = pieceOfChosen();
        constexpr double kMarginMm = 2; // from memory
        if (piece)
            m_bench.run(tr("Line a panel"),
                        [piece = *piece, at = panel->middle](const job::State& now, const base::Progress&) {
                            return job::withLining(now, piece, at, kMarginMm, now.job.stocks.front().id);
                        });
    });
    connect(m_glue, &QPushButton::clicked, this, [this] {
        const folds::Panel* panel = chosen();
        if (panel && folds::glueOn(*m_all[m_of].body, *panel))
            say(tr("Do not glue a flap"), folds::Action::Unglue, {}, 0.0);
        else
            glue();
    });
    show();
}

const folds::Panel* PanelRows::chosen() const {
    return m_chosen ? &m_all[m_of].folded->panels[*m_chosen] : nullptr;
}

const folds::Flap* PanelRows::flapOf(const OfPiece& of, size_t panel) const {
    for (const folds::Flap& flap : of.folded->flaps)
        if (flap.panel == panel)
            return &flap;
    return nullptr;
}

void PanelRows::refresh() {
    if (m_bench.made().finished == m_foundFor)
        return;
    m_foundFor = m_bench.made().finished;
    find();
}

void PanelRows::find() {
    m_finder.stop();
    if (!m_foundFor) {
        m_all.clear();
        m_chosen.reset();
        return show();
    }
    m_finder.start(
        tr("Folding up"),
        [this, work = m_foundFor, known = m_known](const base::Progress& progress) -> Task::Conclusion {
            auto all = std::make_shared<All>();
            for (const design::Laid& laid : work->stack.pieces) {
                const auto& body = laid.piece.body;
                if (body->lines.empty())
                    continue;
                auto folded = known->find(body);
                if (!folded) {
                    auto made = folds::foldedOf(*body, progress);
                    if (!made)
                        return [] {}; // of an outline that cannot be parted nothing is shown
                    folded = std::make_shared<const folds::Folded>(made.take());
                    known->keep(body, folded);
                }
                if (!folded->panels.empty())
                    all->push_back({laid.id(), body, std::move(folded)});
            }
            return [this, all] {
                m_all = std::move(*all);
                m_chosen.reset();
                for (size_t i = 0; i < m_all.size(); ++i)
                    for (size_t k = 0; k < m_all[i].folded->panels.size(); ++k)
                        if (m_all[i].piece == m_piece &&
                            geometry::contains(m_all[i].folded->panels[k].area, m_at)) {
                            m_of = i;
                            m_chosen = k;
                        }
                show();
                emit found();
            };
        });
}

void PanelRows::pick(const SceneItem* item, geometry::Point at) {
    m_chosen.reset();
    for (size_t i = 0; item && i < m_all.size(); ++i)
        for (size_t k = 0; k < m_all[i].folded->panels.size(); ++k)
            if (m_all[i].piece == item->piece && geometry::contains(m_all[i].folded->panels[k].area, at)) {
                m_of = i;
                m_chosen = k;
                m_piece = item->piece;
                m_at = m_all[i].folded->panels[k].middle;
            }
    show();
    emit found();
}

void PanelRows::letGo() {
    m_chosen.reset();
    m_piece = {};
    show();
}

void PanelRows::show() {
    const folds::Panel* panel = chosen();
    m_fields->setVisible(panel);
    if (!panel) {
        m_words->setText(m_all.empty() ? tr("There are no panels yet: folds that part a piece make some.")
                                       : tr("No panel chosen"));
        return;
    }
    const geometry::Box box = geometry::bounds(panel->area);
    QString words = tr("%1, %2").arg(text(panel->name),
                                     text(base::formatSize(box.width(), box.height(), m_bench.job().unit)));
    if (panel->isFront)
        words += tr(", the front");
    const folds::Flap* flap = flapOf(m_all[m_of], *m_chosen);
    m_behindRow->setVisible(flap && flap->meets.size() > 1);
    if (flap) {
        words += flap->meets.size() == 1
                     ? tr(", a flap: as long as %1").arg(text(folds::meetingText(m_all[m_of].folded->panels, flap->meets[0])))
                 : flap->meets.empty() ? tr(", a flap")
                                       : tr(", a flap: %1 edges are as long; say behind which it is glued").arg(flap->meets.size());
        showTakers(*flap);
    }
    m_words->setText(words);
    const QSignalBlocker quiet(m_up), still(m_name);
    m_name->setText(text(panel->name));
    m_up->setValue(degrees(panel->upRad));
    m_front->setEnabled(!panel->isFront);
    m_glue->setText(folds::glueOn(*m_all[m_of].body, *panel).has_value() ? tr("Do not glue it")
                                                                         : tr("Glue it"));
}

/// The edges that could take a flap, the one that does chosen.
void PanelRows::showTakers(const folds::Flap& flap) {
    const OfPiece& of = m_all[m_of];
    const folds::Meeting* taker = folds::takerOf(*of.body, of.folded->panels, flap);
    const QSignalBlocker quiet(m_behind);
    m_behind->clear();
    if (!taker)
        m_behind->addItem(tr("not said yet"));
    for (const folds::Meeting& one : flap.meets) {
        m_behind->addItem(text(folds::meetingText(of.folded->panels, one)),
                          QPointF(one.edge.middle().x, one.edge.middle().y));
        if (&one == taker)
            m_behind->setCurrentIndex(m_behind->count() - 1);
    }
}

void PanelRows::glue() {
    const folds::Panel* panel = chosen();
    const design::Piece* piece = pieceOfChosen();
    if (!piece)
        return;
    const QVariant said = m_behind->currentData();
    std::optional<geometry::Point> behind;
    if (m_behindRow->isVisibleTo(this) && said.isValid())
        behind = geometry::Point{said.toPointF().x(), said.toPointF().y()};
    run(tr("Glue a flap"), folds::glueStep(*piece, panel->middle, behind));
}

const design::Piece* PanelRows::pieceOfChosen() const {
    const auto& pieces = m_bench.made().pieces;
    return chosen() && pieces ? design::findPiece(pieces->now, m_all[m_of].piece) : nullptr;
}

void PanelRows::run(const QString& name, const design::Step& step) {
    m_bench.run(name, [step](const job::State& now, const base::Progress& progress) {
        return job::stepped(now, step, job::Stage::Finish, progress);
    });
}

void PanelRows::say(const QString& name, folds::Action action, const std::string& value,
                    const design::Value& said) {
    const design::Piece* piece = pieceOfChosen();
    if (!piece)
        return;
    design::Step step = folds::panelStep(action, *piece, chosen()->middle);
    if (!value.empty())
        step.values[value] = said;
    if (action == folds::Action::SayPanel)
        return m_bench.run(name, [step](const job::State& now, const base::Progress&) {
            return job::withPanelSaid(now, step);
        });
    run(name, step);
}

std::vector<PanelMark> PanelRows::marks() const {
    std::vector<PanelMark> out;
    for (size_t i = 0; i < m_all.size(); ++i)
        for (size_t k = 0; k < m_all[i].folded->panels.size(); ++k) {
            const folds::Panel& panel = m_all[i].folded->panels[k];
            const geometry::Box box = geometry::bounds(panel.area);
            out.push_back({panel.middle, panel.upRad, std::min(box.width(), box.height()),
                           panel.isFront ? tr("%1, front").arg(text(panel.name)) : text(panel.name),
                           m_chosen && i == m_of && k == *m_chosen});
        }
    return out;
}

std::vector<geometry::Shape> PanelRows::chosenArea() const {
    const folds::Panel* panel = chosen();
    return panel ? std::vector<geometry::Shape>{panel->area} : std::vector<geometry::Shape>{};
}

/// Behind what a flap goes, or how many edges would do.
QString PanelRows::takerWords(const OfPiece& of, const folds::Flap& flap) const {
    const folds::Meeting* taker = folds::takerOf(*of.body, of.folded->panels, flap);
    if (!taker && flap.meets.size() == 1)
        taker = &flap.meets.front();
    return taker ? tr("behind %1").arg(text(folds::meetingText(of.folded->panels, *taker)))
                 : tr("%1 edges would do").arg(flap.meets.size());
}

QVector<std::pair<QString, QString>> PanelRows::answer() const {
    QVector<std::pair<QString, QString>> out;
    qsizetype panels = 0, glued = 0;
    QStringList turned;
    for (const OfPiece& of : m_all)
        for (size_t k = 0; k < of.folded->panels.size(); ++k) {
            const folds::Panel& panel = of.folded->panels[k];
            ++panels;
            glued += folds::glueOn(*of.body, panel).has_value();
            if (degrees(panel.upRad) != 0)
                turned << tr("%1 by %2°").arg(text(panel.name)).arg(degrees(panel.upRad));
            if (const folds::Flap* flap = flapOf(of, k); flap && !flap->meets.empty() && out.size() < 2)
                out.append({tr("%1, a flap").arg(capitalised(text(panel.name))),
                            takerWords(of, *flap)});
        }
    if (panels > 0)
        out.prepend({tr("Panels"), turned.isEmpty() ? tr("%1, all upright").arg(panels)
                                                    : tr("%1, %2 turned").arg(panels).arg(turned.size())});
    if (glued > 0)
        out.append({tr("Glued"), countOf(glued, tr("flap"), tr("flaps"))});
    return out;
}

} // namespace thinline::app
