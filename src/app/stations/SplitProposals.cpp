// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How the Split station has seams proposed: roughly first, so that there is something to look at soon; then as well as it
// can be; then counted, how many sheets each way takes and what a smaller size would spare. Each is a worker's, one after
// the other, and what a hand laid meanwhile stays.
#include "app/stations/SplitStation.h"

#include <QPushButton>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {

/// What a look for seams came to.
struct SplitStation::Found {
    std::vector<Row> rows;
    Others others;
    std::string problem;
    bool isStopped = false;
};

/// A background thread calls it.
SplitStation::Found SplitStation::found(const job::State& state, const job::SplitOptions& wishes,
                                        const design::Formats& formats,
                                        const std::vector<design::Step>& again,
                                        const base::Progress& progress) {
    Found out;
    const auto large = job::oversize(state, formats);
    auto all = large ? job::considered(state, *large, wishes, progress)
                     : base::Result<std::vector<job::Considered>>(large.error());
    if (!all) {
        out.isStopped = all.error().code == base::Code::Cancelled;
        out.problem = all.error().message;
        return out;
    }
    for (job::Considered& one : all.take()) {
        const job::Oversize of = one.proposed.of;
        out.rows.push_back({std::move(one)});
        // What a hand laid stays, where the piece is still too large.
        const design::Piece* piece = design::findPiece(state.made.pieces->now, of.piece);
        for (const design::Step& step : again)
            if (piece && design::resolved(step.on, {*piece}) == std::vector{piece->id})
                if (auto draft =
                        job::draftOf(state, of, split::wishOf(step, *piece).seams, wishes, progress)) {
                    out.rows.back().byHand = draft.take();
                    out.rows.back().kept = step;
                }
    }
    out.others.scale = job::scaleWithoutSeams(state, *large);
    out.others.mats = job::longerMats(state, *large, formats);
    return out;
}

void SplitStation::propose(bool isRough) {
    job::SplitOptions asked = options();
    asked.search.isRough = isRough;
    const auto work = [this, state = bench().state(), asked, formats = bench().catalogue().formats,
                       again = m_again](const base::Progress& progress) -> Task::Conclusion {
        auto all = std::make_shared<Found>(found(state, asked, formats, again, progress));
        return [this, all, isRough = asked.search.isRough] {
            if (all->isStopped)
                return;
            m_again.clear();
            m_others = std::move(all->others);
            tell(m_note, text(all->problem));
            const bool goesOn = isRough && !all->rows.empty();
            if (goesOn)
                propose(false);
            showRows(std::move(all->rows));
            if (!goesOn)
                countSheets();
        };
    };
    m_proposer.start(isRough ? tr("Looking for seams") : tr("Looking for better seams"), work);
}

void SplitStation::showRows(std::vector<Row> rows) {
    // A hand may have laid seams on the rough ones meanwhile.
    for (Row& row : rows)
        for (Row& before : m_rows)
            if (before.piece().piece == row.piece().piece && before.byHand) {
                row.byHand = std::move(before.byHand);
                row.kept = std::move(before.kept);
            }
    if (m_at < m_rows.size())
        m_lookedAt = m_rows[m_at].piece().piece;
    m_rows = std::move(rows);
    m_at = 0;
    m_seam = -1;
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (m_rows[i].piece().piece == m_lookedAt)
            m_at = i;
    showAll();
    emit benchChanged();
}

std::vector<job::Considered> SplitStation::ways() const {
    std::vector<job::Considered> out;
    for (const Row& row : m_rows)
        out.push_back(row.of);
    return out;
}

void SplitStation::countSheets() {
    if (m_rows.empty())
        return;
    const auto work = [this, state = bench().state(), all = ways(), formats = bench().catalogue().formats](
                          const base::Progress& progress) -> Task::Conclusion {
        std::vector<const job::Draft*> first;
        for (const job::Considered& one : all)
            first.push_back(one.drafts.empty() ? nullptr : &one.drafts.front());
        std::vector<std::vector<int>> sheets;
        for (size_t i = 0; i < all.size(); ++i) {
            auto counts = job::sheetsOfWays(state, all, i, first, formats, progress);
            sheets.push_back(counts ? counts.take() : std::vector<int>{});
        }
        return [this, sheets] {
            for (size_t i = 0; i < sheets.size() && i < m_rows.size(); ++i)
                m_rows[i].sheets = sheets[i];
            showWays();
            lookForFewer();
        };
    };
    m_counter.start(tr("Counting sheets"), work);
}

void SplitStation::lookForFewer() {
    const auto work = [this, state = bench().state(), all = ways(),
                       asked = options()](const base::Progress& progress) -> Task::Conclusion {
        const auto fewer = job::fewerParts(state, all, asked, progress);
        return [this, fewer = fewer ? *fewer : std::optional<job::FewerParts>{}] {
            m_others.fewer = fewer;
            showOthers();
        };
    };
    m_counter.start(tr("Trying smaller sizes"), work);
}

/// Other mats and sizes, each a click.
void SplitStation::showOthers() {
    emptyLayout(m_instead);
    if (m_rows.empty())
        return;
    const auto add = [this](const QString& words, auto&& act) {
        auto* button = linkButton(words, words);
        connect(button, &QPushButton::clicked, this, act);
        m_instead->addWidget(button, 0, Qt::AlignLeft);
    };
    constexpr size_t kMats = 2;
    for (size_t i = 0; i < std::min(kMats, m_others.mats.size()); ++i) {
        const job::LongerMat& mat = m_others.mats[i];
        add(mat.stillTooLarge == 0
                ? tr("Mat %1: no seam").arg(text(mat.name))
                : tr("Mat %1: %2 too large")
                      .arg(text(mat.name), countOf(mat.stillTooLarge, tr("piece"), tr("pieces"))),
            [this, id = mat.id] { takeMat(id); });
    }
    if (m_others.fewer)
        add(tr("At %1 % of its size: %2 fewer")
                .arg(std::lround(100 * m_others.fewer->scale))
                .arg(countOf(m_others.fewer->fewer, tr("part"), tr("parts"))),
            [this, scale = m_others.fewer->scale] { shrinkTo(scale); });
    const double scale = std::floor(1000 * m_others.scale) / 1000;
    add(tr("At %1 % of its size: no seam").arg(100 * scale, 0, 'f', 1), [this, scale] { shrinkTo(scale); });
}

} // namespace thinline::app
