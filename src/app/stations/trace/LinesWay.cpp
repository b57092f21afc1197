// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/LinesWay.h"

#include "app/bench/tools/AreaTools.h"
#include "app/bench/tools/GapTool.h"
#include "job/TraceSteps.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

LinesWay::LinesWay(ToolButtons& tools, QObject* parent) : TraceWay(parent) {
    buildPlain(tools);
    buildMore(tools);
}

void LinesWay::buildPlain(ToolButtons& tools) {
    m_threshold = addSlider(plainLines(), tr("Ink against paper"), 0, 254, tr("Change the threshold"),
                            [](trace::Recipe& recipe, int value) { recipe.threshold = value; });
    m_threshold.slider->setToolTip(tr("Pixels this dark or darker are ink"));
    connect(m_threshold.slider, &QSlider::valueChanged, this,
            [this](int value) { m_threshold.value->setText(QString::number(value)); });
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    m_automatic = new QCheckBox(tr("Automatically"));
    m_automatic->setToolTip(tr("Choose the threshold from the picture itself"));
    m_closeGap =
        tools.add(tr("Close a gap"), tr("Click on both ends of a gap: a line of ink closes it (Ctrl+G)"),
                  std::make_unique<GapTool>(
                      [this](geometry::Point from, geometry::Point to) { emit gapMarked(from, to); }));
    m_closeGap->setObjectName("closeGap");
    line->addWidget(m_automatic, 1);
    line->addWidget(m_closeGap);
    plainLines()->addWidget(row);
    m_light = new QCheckBox(tr("Light lines on a dark ground"));
    m_light->setObjectName("lightLines");
    m_light->setToolTip(tr("The lines are lighter than what they are drawn on: chalk, white ink, a blueprint"));
    plainLines()->addWidget(m_light);
    connect(m_light, &QCheckBox::clicked, this, [this](bool isOn) {
        emit wants(tr("Take light for ink"), [isOn](trace::Recipe& recipe) {
            recipe.isLightOnDark = isOn;
            recipe.threshold.reset(); // it was one of the other brightness
        });
    });
    m_offers = new QVBoxLayout;
    m_offers->setSpacing(0);
    plainLines()->addLayout(m_offers);
    m_reopen = linkButton(tr("Take the last closing line back"), tr("Take the last closing line back"));
    plainLines()->addWidget(m_reopen, 0, Qt::AlignLeft);
    connect(m_reopen, &QPushButton::clicked, this, [this] {
        emit wants(tr("Take a closing line back"), [](trace::Recipe& recipe) { recipe.closings.pop_back(); });
    });
    connect(m_automatic, &QCheckBox::clicked, this, [this](bool isOn) {
        const int value = m_threshold.slider->value();
        emit wants(tr("Change the threshold"), [isOn, value](trace::Recipe& recipe) {
            recipe.threshold = isOn ? std::nullopt : std::optional(value);
        });
    });
}

void LinesWay::buildMore(ToolButtons& tools) {
    m_build = new WordChoice({tr("Areas on backing"), tr("Ink on top")});
    m_build->setToolTip(
        tr("The areas lie on the filled silhouette of the ink, or run on under the ink itself"));
    moreLines()->addWidget(m_build);
    connect(m_build, &WordChoice::chosen, this, [this](int build) {
        emit wants(tr("Build it another way"),
                   [build](trace::Recipe& recipe) { recipe.build = static_cast<trace::Build>(build); });
    });
    m_tuck = addLength(moreLines(), tr("Tuck"), tr("How far a lower piece runs on under an upper one"),
                       tr("Change the tuck"), &trace::Recipe::tuckMm, false);
    m_tuckRow = m_tuck->parentWidget();
    QPushButton* part =
        tools.add(tr("Look at a part by itself"),
                  tr("Drag a box around a detail that was lost: its ink is told from its paper there alone"),
                  std::make_unique<BoxTool>([this](const geometry::Box& box) { emit partMarked(box); }));
    moreLines()->addWidget(part);
    m_partRow = new QWidget;
    auto* partLines = new QVBoxLayout(m_partRow);
    partLines->setContentsMargins(0, 0, 0, 0);
    partLines->setSpacing(4);
    m_partThreshold = addSlider(partLines, tr("Ink in that part"), 0, 254,
                                tr("Change the threshold of a part"), [](trace::Recipe& recipe, int value) {
                                    if (!recipe.ownParts.empty())
                                        recipe.ownParts.back().threshold = value;
                                });
    auto* none = linkButton(tr("Look at it with the rest again"), tr("Take the last part back"));
    partLines->addWidget(none, 0, Qt::AlignLeft);
    moreLines()->addWidget(m_partRow);
    m_foldsBelow = addLength(moreLines(), tr("Thinner lines are folds"),
                             tr("Lines thinner than this part no areas: they become folds. 0 for none."),
                             tr("Take thin lines for folds"), &trace::Recipe::foldsBelowMm, true);
    m_dashesFold = new QCheckBox(tr("Dashed lines are folds"));
    moreLines()->addWidget(m_dashesFold);
    auto* copy = linkButton(tr("Take colours from a coloured copy…"),
                            tr("Open the same drawing in colour: every area takes the colour it has there"));
    moreLines()->addWidget(copy, 0, Qt::AlignLeft);
    connect(m_partThreshold.slider, &QSlider::valueChanged, this,
            [this](int value) { m_partThreshold.value->setText(QString::number(value)); });
    connect(none, &QPushButton::clicked, this, [this] {
        emit wants(tr("Take the last part back"), [](trace::Recipe& recipe) { recipe.ownParts.pop_back(); });
    });
    connect(m_dashesFold, &QCheckBox::clicked, this, [this](bool isOn) {
        emit wants(tr("Take dashes for folds"), [isOn](trace::Recipe& recipe) { recipe.dashesFold = isOn; });
    });
    connect(copy, &QPushButton::clicked, this, &LinesWay::wantsColoursOfCopy);
}

/// A line for what may be folds.
void LinesWay::offerFolds(const trace::FoldHint& may) {
    if (may.dashed > 0) {
        QPushButton* button = linkButton(
            tr("Take %1 for folds").arg(countOf(may.dashed, tr("dashed line"), tr("dashed lines"))),
            tr("They are cut as they are drawn until you say so"));
        connect(button, &QPushButton::clicked, this, [this] {
            emit wants(tr("Take dashes for folds"), [](trace::Recipe& recipe) { recipe.dashesFold = true; });
        });
        m_offers->addWidget(button, 0, Qt::AlignLeft);
    }
    if (may.thin > 0) {
        QPushButton* button = linkButton(
            tr("Take %1 for folds").arg(countOf(may.thin, tr("thin line"), tr("thin lines"))),
            tr("Straight, and thinner than %1 mm: until you say so they part what they cross")
                .arg(text(base::formatNumber(may.thinnerMm, 2))));
        connect(button, &QPushButton::clicked, this, [this, thinner = may.thinnerMm] {
            emit wants(tr("Take thin lines for folds"),
                       [thinner](trace::Recipe& recipe) { recipe.foldsBelowMm = thinner; });
        });
        m_offers->addWidget(button, 0, Qt::AlignLeft);
    }
}

/// A line for every gap that ends of lines face, and one for all of them; what does not fit is in the findings.
void LinesWay::offerGaps(const job::Job& job, const job::Source& source) {
    const auto& picture = std::get<job::Picture>(source.what);
    const std::vector<size_t> gaps = job::closableLeaks(job, source.id);
    if (gaps.empty())
        return;
    const double mmPerPx = job::mmPerPx(source);
    const auto add = [&](const QString& words, const std::vector<size_t>& leaks) {
        QPushButton* button = linkButton(words, words);
        connect(button, &QPushButton::clicked, this, [this, leaks] { emit wantsGapsClosed(leaks); });
        m_offers->addWidget(button, 0, Qt::AlignLeft);
    };
    if (gaps.size() > 1)
        add(tr("Close all %1 gaps in the lines").arg(gaps.size()), gaps);
    constexpr size_t kMost = 2;
    for (size_t i = 0; i < std::min(gaps.size(), kMost); ++i)
        add(tr("Close the gap of %1 mm")
                .arg(text(base::formatNumber(picture.tracing->leaks[gaps[i]].widthPx * mmPerPx, 1))),
            {gaps[i]});
}

void LinesWay::show(const job::Job& job, const job::Source& source, base::LengthUnit unit) {
    const auto& picture = std::get<job::Picture>(source.what);
    const trace::Recipe& recipe = picture.recipe;
    m_build->choose(static_cast<int>(recipe.build));
    m_tuckRow->setVisible(recipe.build == trace::Build::InkOnTop);
    m_tuck->showLength(recipe.tuckMm, unit);
    m_foldsBelow->showLength(recipe.foldsBelowMm, unit);
    m_dashesFold->setChecked(recipe.dashesFold);
    m_partRow->setVisible(!recipe.ownParts.empty());
    m_reopen->setVisible(!recipe.closings.empty());
    emptyLayout(m_offers);
    if (picture.tracing)
        offerFolds(picture.tracing->mayFold);
    offerShadow(m_offers, picture, job::mmPerPx(source));
    offerGaps(job, source);
    const QSignalBlocker a(m_threshold.slider), b(m_partThreshold.slider), c(m_automatic);
    m_automatic->setChecked(!recipe.threshold);
    m_light->setChecked(recipe.isLightOnDark);
    if (isSettling())
        return;
    m_threshold.slider->setValue(recipe.threshold  ? *recipe.threshold
                                 : picture.tracing ? picture.tracing->threshold
                                                   : 128);
    m_threshold.value->setText(QString::number(m_threshold.slider->value()));
    if (!recipe.ownParts.empty()) {
        const std::optional<int> own = recipe.ownParts.back().threshold;
        m_partThreshold.slider->setValue(own ? *own : 128);
        m_partThreshold.value->setText(own ? QString::number(*own) : tr("by itself"));
    }
}

void LinesWay::answer(const job::Picture& picture, const design::StackMeasures&, Rows& rows) const {
    rows.append({tr("Gaps left open"), QString::number(picture.tracing->leaks.size())});
    if (!picture.tracing->folds.empty())
        rows.append({tr("Folds"), QString::number(picture.tracing->folds.size())});
}

QString LinesWay::droppedWords(const trace::Tracing& tracing) const {
    QStringList out;
    if (tracing.droppedAreas > 0)
        out << countOf(tracing.droppedAreas, tr("area"), tr("areas"));
    if (tracing.droppedSpecks > 0)
        out << countOf(tracing.droppedSpecks, tr("speck of ink"), tr("specks of ink"));
    return out.isEmpty() ? QString() : tr("%1 dropped").arg(out.join(tr(" and ")));
}

} // namespace thinline::app
