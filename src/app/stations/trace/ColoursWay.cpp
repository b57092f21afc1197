// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/ColoursWay.h"

#include "app/bench/tools/AreaTools.h"
#include "app/stations/trace/TraceControls.h"
#include "job/TraceSteps.h"
#include "raster/Colour.h"

#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace thinline::app {

ColoursWay::ColoursWay(ToolButtons& tools, QObject* parent) : TraceWay(parent) {
    m_count = new QSpinBox;
    m_count->setRange(1, trace::kMostColours); // the least stands for "as found"
    m_count->setSpecialValueText(tr("as found"));
    m_count->setAccessibleName(tr("Number of colours"));
    m_count->setObjectName("colourCount");
    plainLines()->addWidget(labelled(tr("Colours"), m_count, 96));
    m_chips = new PaletteChips;
    m_chips->setObjectName("palette");
    plainLines()->addWidget(m_chips);
    m_offers = new QVBoxLayout;
    m_offers->setSpacing(0);
    plainLines()->addLayout(m_offers);
    constexpr double kPointMm = 0.5;
    QPushButton* take =
        tools.add(tr("Take a colour"), tr("Click on the picture: the colour there is looked for too"),
                  std::make_unique<StrokeTool>(kPointMm, [this](const std::vector<geometry::Point>& way) {
                      emit colourMarked(way.front());
                  }));
    m_noPicked = linkButton(tr("Forget those taken"), tr("Forget the colours taken from the picture"));
    moreLines()->addWidget(take);
    moreLines()->addWidget(m_noPicked, 0, Qt::AlignLeft);
    m_stacking = new WordChoice({tr("Edge to edge"), tr("On one another")});
    m_stacking->setToolTip(tr("Neighbours share their edges, or a lower piece runs on under an upper one"));
    moreLines()->addWidget(m_stacking);
    m_tuck = addLength(moreLines(), tr("Tuck"), tr("How far a lower piece runs on under an upper one"),
                       tr("Change the tuck"), &trace::Recipe::tuckMm, false);
    m_tuckRow = m_tuck->parentWidget();
    connect(m_noPicked, &QPushButton::clicked, this, [this] {
        emit wants(tr("Forget the colours taken"), [](trace::Recipe& recipe) { recipe.picked.clear(); });
    });
    connect(m_count, &QSpinBox::valueChanged, this, [this](int count) {
        wantWhenSettled(tr("Change the number of colours"),
                        [count](trace::Recipe& recipe) { recipe.colours = count < 2 ? 0 : count; });
    });
    connect(m_chips, &PaletteChips::toggled, this, &ColoursWay::toggle);
    connect(m_chips, &PaletteChips::merged, this, [this](int from, int into) {
        const trace::ColourMerge merge{m_shown[static_cast<size_t>(from)],
                                       m_shown[static_cast<size_t>(into)]};
        emit wants(tr("Merge two colours"),
                   [merge](trace::Recipe& recipe) { recipe.merges.push_back(merge); });
    });
    connect(m_stacking, &WordChoice::chosen, this, [this](int how) {
        emit wants(tr("Lay the colours another way"),
                   [how](trace::Recipe& recipe) { recipe.stacking = static_cast<trace::Stacking>(how); });
    });
}

void ColoursWay::toggle(int chip) {
    const raster::Rgb colour = m_shown[static_cast<size_t>(chip)];
    if (colour == m_paper)
        return; // the paper is never cut
    emit wants(tr("Cut a colour or leave it out"), [colour](trace::Recipe& recipe) {
        const auto there = std::find(recipe.notCut.begin(), recipe.notCut.end(), colour);
        if (there == recipe.notCut.end())
            recipe.notCut.push_back(colour);
        else
            recipe.notCut.erase(there);
    });
}

/// A chip says what card its colour was laid in; of several, the one of most areas.
void ColoursWay::showChips(const job::Job& job, const job::Source& source) {
    const auto& picture = std::get<job::Picture>(source.what);
    m_shown.clear();
    std::vector<PaletteChips::Chip> chips;
    if (!picture.tracing)
        return m_chips->show({});
    m_paper = picture.tracing->paper;
    std::map<raster::Rgb, std::map<std::string, int>> stocks;
    for (const trace::Area& area : picture.tracing->areas) {
        const std::string key = job::areaKey(area.number);
        const design::Wish wish = job.wishes.resolved(design::PieceId::found(source.id, key));
        const auto lies = source.lies.find(key);
        const design::LayerId layer = wish.layer                  ? *wish.layer
                                      : lies == source.lies.end() ? source.layer
                                                                  : lies->second;
        if (const design::Layer* there = design::findLayer(job.layers, layer))
            ++stocks[area.colour][design::stockName(job.stocks, there->stockId)];
    }
    for (const raster::Rgb& colour : picture.tracing->palette) {
        const auto& merges = picture.recipe.merges;
        const auto& notCut = picture.recipe.notCut;
        if (std::any_of(merges.begin(), merges.end(),
                        [&](const auto& merge) { return merge.from == colour; }))
            continue;
        PaletteChips::Chip chip{colour, {}, true};
        if (colour == m_paper || std::find(notCut.begin(), notCut.end(), colour) != notCut.end()) {
            chip.isCut = false;
            chip.words = colour == m_paper ? tr("paper") : tr("left out");
        } else if (const auto in = stocks.find(colour); in != stocks.end()) {
            const auto most =
                std::max_element(in->second.begin(), in->second.end(),
                                 [](const auto& a, const auto& b) { return a.second < b.second; });
            chip.words = text(most->first);
        }
        m_shown.push_back(colour);
        chips.push_back(std::move(chip));
    }
    m_chips->show(std::move(chips));
}

/// A line for every colour that is in no piece: a click keeps it.
void ColoursWay::offerLost(const trace::Tracing& tracing, double mmPerPx) {
    constexpr size_t kMost = 3; // more are a picture for another way
    for (size_t i = 0; i < std::min(kMost, tracing.lost.size()); ++i) {
        const trace::LostColour one = tracing.lost[i];
        const double mm2 = one.areaPx * mmPerPx * mmPerPx;
        QPushButton* button = linkButton(
            tr("Keep %1, %2 mm² in no piece").arg(text(raster::colourWords(one.colour))).arg(mm2, 0, 'f', 1),
            one.isSmall ? tr("All its parts are smaller than areas may be: they are let be half as large as now")
                        : tr("It was taken for a mixture of others: it is looked for by itself"));
        connect(button, &QPushButton::clicked, this, [this, one] {
            emit wants(tr("Keep a colour"), [one](trace::Recipe& recipe) {
                if (one.isSmall)
                    recipe.leastAreaMm2 /= 2;
                else
                    recipe.picked.push_back(one.colour);
            });
        });
        m_offers->addWidget(button, 0, Qt::AlignLeft);
    }
}

void ColoursWay::show(const job::Job& job, const job::Source& source, base::LengthUnit unit) {
    const auto& picture = std::get<job::Picture>(source.what);
    const trace::Recipe& recipe = picture.recipe;
    m_stacking->choose(static_cast<int>(recipe.stacking));
    m_tuckRow->setVisible(recipe.stacking == trace::Stacking::Stacked);
    m_tuck->showLength(recipe.tuckMm, unit);
    m_noPicked->setVisible(!recipe.picked.empty());
    showChips(job, source);
    emptyLayout(m_offers);
    if (picture.tracing)
        offerLost(*picture.tracing, source.unitMm);
    offerShadow(m_offers, picture, job::mmPerPx(source));
    const QSignalBlocker quiet(m_count);
    if (!isSettling())
        m_count->setValue(recipe.colours ? recipe.colours : 1);
}

QString ColoursWay::droppedWords(const trace::Tracing& tracing) const {
    return tracing.droppedAreas == 0
               ? QString()
               : tr("%1 joined their surroundings")
                     .arg(countOf(tracing.droppedAreas, tr("small area"), tr("small areas")));
}

} // namespace thinline::app
