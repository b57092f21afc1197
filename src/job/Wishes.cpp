// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Wishes.h"

#include <algorithm>
#include <unordered_set>

namespace thinline::job {
namespace {

using design::PieceId;
using design::Wish;

auto placeIn(const std::vector<Wishes::Entry>& run, PieceId piece) {
    return std::lower_bound(run.begin(), run.end(), piece,
                            [](const Wishes::Entry& entry, PieceId id) { return entry.first < id; });
}

} // namespace

/// The last run that begins at or before a piece; 0 where all begin behind it.
std::size_t Wishes::runOf(PieceId piece) const {
    const auto at = std::upper_bound(m_runs.begin(), m_runs.end(), piece,
                                     [](PieceId id, const auto& run) { return id < run->front().first; });
    return at == m_runs.begin() ? 0 : static_cast<std::size_t>(at - m_runs.begin()) - 1;
}

const Wish* Wishes::find(PieceId piece) const {
    if (m_runs.empty())
        return nullptr;
    const Run& run = *m_runs[runOf(piece)];
    const auto at = placeIn(run, piece);
    return at != run.end() && at->first == piece ? &at->second : nullptr;
}

Wishes Wishes::with(PieceId piece, const Wish& wish) const {
    Wishes out = *this;
    if (m_runs.empty()) {
        if (!wish.isEmpty()) {
            out.m_runs.push_back(std::make_shared<const Run>(Run{{piece, wish}}));
            out.m_size = 1;
        }
        return out;
    }
    const std::size_t which = runOf(piece);
    Run run = *m_runs[which];
    const auto at = run.begin() + (placeIn(*m_runs[which], piece) - m_runs[which]->begin());
    const bool isThere = at != run.end() && at->first == piece;
    if (wish.isEmpty()) {
        if (!isThere)
            return out;
        run.erase(at);
        --out.m_size;
    } else if (isThere) {
        at->second = wish;
    } else {
        run.insert(at, {piece, wish});
        ++out.m_size;
    }
    const auto place = out.m_runs.begin() + static_cast<std::ptrdiff_t>(which);
    if (run.empty()) {
        out.m_runs.erase(place);
    } else if (run.size() > kMostInRun) {
        const auto middle = run.begin() + static_cast<std::ptrdiff_t>(run.size() / 2);
        auto upper = std::make_shared<const Run>(middle, run.end());
        run.erase(middle, run.end());
        *place = std::make_shared<const Run>(std::move(run));
        out.m_runs.insert(out.m_runs.begin() + static_cast<std::ptrdiff_t>(which) + 1, std::move(upper));
    } else {
        *place = std::make_shared<const Run>(std::move(run));
    }
    return out;
}

Wish Wishes::resolved(PieceId piece) const {
    Wish out;
    bool isOtherCount = false;
    for (PieceId id = piece; id; id = id.whole()) {
        if (const Wish* own = find(id)) {
            if (!out.layer)
                out.layer = own->layer;
            if (!out.copies && !isOtherCount)
                out.copies = own->copies;
            if (!out.liftMm)
                out.liftMm = own->liftMm;
            if (!out.up)
                out.up = own->up;
            if (!out.isFree)
                out.isFree = own->isFree;
            if (!out.isCutThrough)
                out.isCutThrough = own->isCutThrough;
        }
        isOtherCount = isOtherCount || id.isTwin();
    }
    return out;
}

void Wishes::each(const std::function<void(const Entry&)>& visit) const {
    for (const auto& run : m_runs)
        for (const Entry& entry : *run)
            visit(entry);
}

bool Wishes::operator==(const Wishes& other) const {
    if (m_runs == other.m_runs)
        return true;
    if (m_size != other.m_size)
        return false;
    std::vector<Entry> mine, others;
    each([&](const Entry& entry) { mine.push_back(entry); });
    other.each([&](const Entry& entry) { others.push_back(entry); });
    return mine == others;
}

std::vector<PieceId> strayWishes(const Wishes& wishes, const design::Pieces& pieces) {
    std::unordered_set<PieceId> there;
    for (const auto* some : {&pieces.now, &pieces.scrap})
        for (const design::Piece& piece : *some)
            for (PieceId id = piece.id; id && there.insert(id).second;)
                id = id.whole();
    std::vector<PieceId> out;
    wishes.each([&](const Wishes::Entry& entry) {
        if (!there.contains(entry.first))
            out.push_back(entry.first);
    });
    return out;
}

} // namespace thinline::job
