// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "assembly/Contacts.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::assembly {
namespace {

using design::Laid;
using design::PieceId;
using design::Rows;
using design::Zone;

constexpr double kTouchMm = 0.05;

/// The piece and the step that divided it; nothing for a piece that is whole. Of a part divided again the first division
/// counts: all of it is joined to one.
std::pair<PieceId, int> dividedFrom(const Work& work, PieceId id) {
    std::pair<PieceId, int> out;
    for (; id && !id.isFound() && !id.isTwin(); id = id.whole())
        if (std::find(work.divisions.begin(), work.divisions.end(), id.madeBy()) != work.divisions.end())
            out = {id.whole(), design::numberOf(id.madeBy())};
    return out;
}

class Touching {
  public:
    explicit Touching(const Work& work) : m_work(work) {
        geometry::Box all;
        for (const Laid& laid : work.stack.pieces) {
            m_boxes.push_back(geometry::bounds(laid.shape()));
            all.include(m_boxes.back());
            m_divided.push_back(dividedFrom(work, laid.id()));
        }
        constexpr int kMostRows = 8000;
        m_pitch = std::max(design::kRowPitchMm, all.height() / kMostRows);
    }

    std::shared_ptr<const Rows> rows(std::size_t piece) const {
        return design::rowsOf(m_work.stack.pieces[piece].piece.body, m_pitch, m_work.rows);
    }
    bool doOverlap(std::size_t a, std::size_t b) const {
        const bool areParts = m_divided[a].first && m_divided[a] == m_divided[b];
        return !areParts && m_boxes[a].meets(m_boxes[b]) && design::overlap(*rows(a), *rows(b));
    }
    bool boxesMeet(std::size_t a, std::size_t b, double withinMm) const {
        return m_boxes[a].grownBy(withinMm).meets(m_boxes[b]);
    }
    const std::pair<PieceId, int>& divided(std::size_t piece) const { return m_divided[piece]; }

  private:
    const Work& m_work;
    std::vector<geometry::Box> m_boxes;
    std::vector<std::pair<PieceId, int>> m_divided;
    double m_pitch = design::kRowPitchMm;
};

/// The stretches of a row; none outside the piece.
std::pair<const std::pair<float, float>*, const std::pair<float, float>*> rowAt(const Rows& rows, int row) {
    const int i = row - rows.first;
    if (i < 0 || i + 1 >= static_cast<int>(rows.begin.size()))
        return {nullptr, nullptr};
    return {rows.spans.data() + rows.begin[static_cast<std::size_t>(i)],
            rows.spans.data() + rows.begin[static_cast<std::size_t>(i) + 1]};
}

/// How long the edges of two pieces run side by side, about; mm.
double sideBySide(const Rows& a, const Rows& b) {
    constexpr float kNearMm = 0.5F;
    double out = 0;
    const int last = a.first + static_cast<int>(a.begin.size()) - 1;
    for (int row = a.first; row < last; ++row) {
        const auto [from, to] = rowAt(a, row);
        for (const auto* one = from; one != to; ++one) {
            const auto [other, end] = rowAt(b, row);
            for (const auto* two = other; two != end; ++two)
                if (std::abs(one->second - two->first) < kNearMm ||
                    std::abs(two->second - one->first) < kNearMm)
                    out += a.pitchMm;
            // Edges that lie level: the row beside has card of the other one where this row has none of it.
            for (const int beside : {row - 1, row + 1}) {
                const auto [next, nextEnd] = rowAt(b, beside);
                for (const auto* two = next; two != nextEnd; ++two) {
                    double shared = std::min(one->second, two->second) - std::max(one->first, two->first);
                    const auto [own, ownEnd] = rowAt(a, beside);
                    for (const auto* three = own; three != ownEnd; ++three)
                        shared -= std::max(0.F, std::min({one->second, two->second, three->second}) -
                                                    std::max({one->first, two->first, three->first}));
                    out += std::max(0.0, shared);
                }
            }
        }
    }
    return out;
}

bool hasStripFor(const Laid& lower, PieceId upper) {
    const auto& zones = lower.piece.body->zones;
    return std::any_of(zones.begin(), zones.end(), [&](const Zone& zone) {
        return zone.kind == Zone::Kind::Glue && zone.meets == upper;
    });
}

} // namespace

bool isBehind(const design::Stack& stack, const Laid& laid) {
    return stack.layerOf(laid).at != design::Layer::At::Front;
}

base::Result<Contacts> contactsOf(const Work& work, const base::Progress& progress) {
    const auto& pieces = work.stack.pieces;
    Contacts out;
    out.under.resize(pieces.size());
    out.before.resize(pieces.size());
    std::vector<std::size_t> front, behind;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        (isBehind(work.stack, pieces[i]) ? behind : front).push_back(i);
    std::reverse(behind.begin(), behind.end()); // the nearest to the base first
    const Touching touching(work);
    const auto& heights = work.heights.of;
    for (std::size_t k = 0; k < front.size(); ++k) {
        if (progress.isCancelled())
            return base::cancelled();
        const std::size_t i = front[k];
        for (std::size_t j = 0; j < k; ++j)
            if (touching.doOverlap(i, front[j])) {
                out.before[i].push_back(front[j]);
                if (std::abs(heights[i].bottomMm - pieces[i].liftMm - heights[front[j]].topMm) < kTouchMm)
                    out.under[i].push_back(front[j]);
            }
    }
    for (std::size_t k = 0; k < behind.size(); ++k) {
        if (progress.isCancelled())
            return base::cancelled();
        const std::size_t i = behind[k];
        const auto look = [&](std::size_t other) {
            if (std::abs(heights[other].bottomMm - heights[i].topMm - pieces[i].liftMm) < kTouchMm &&
                touching.doOverlap(i, other))
                out.under[i].push_back(other);
        };
        for (std::size_t j = 0; j < k; ++j)
            if (touching.doOverlap(i, behind[j])) {
                out.before[i].push_back(behind[j]);
                look(behind[j]);
            }
        for (const std::size_t j : front)
            look(j);
    }
    out.order = front;
    out.order.insert(out.order.end(), behind.begin(), behind.end());
    std::map<std::pair<PieceId, int>, std::vector<std::size_t>> groups;
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (touching.divided(i).first)
            groups[touching.divided(i)].push_back(i);
    for (auto& [whole, parts] : groups)
        if (parts.size() > 1)
            out.divided.push_back(std::move(parts));
    return out;
}

std::vector<Seam> seamsOf(const Work& work, const std::vector<std::size_t>& parts) {
    constexpr double kLeastSeamMm = 3;
    const Touching touching(work);
    const auto& pieces = work.stack.pieces;
    std::vector<Seam> out;
    for (std::size_t k = 0; k < parts.size(); ++k)
        for (std::size_t j = k + 1; j < parts.size(); ++j) {
            const Laid &a = pieces[parts[k]], &b = pieces[parts[j]];
            if (hasStripFor(b, a.id()))
                out.push_back({a.id(), b.id(), true});
            else if (hasStripFor(a, b.id()))
                out.push_back({b.id(), a.id(), true});
            else if (touching.boxesMeet(parts[k], parts[j], 1) &&
                     sideBySide(*touching.rows(parts[k]), *touching.rows(parts[j])) >= kLeastSeamMm)
                out.push_back({a.id(), b.id(), false});
        }
    return out;
}

} // namespace thinline::assembly
