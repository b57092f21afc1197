// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Folds made by hand: short cuts in a row.
//
// Who has no scoring tool draws a fold as a row of cuts, four millimetres and two left, from edge to edge. Taken as they
// are they would be forty slits; they are one fold, which can then be scored, perforated evenly, or folded by hand.
//
// Cuts are chained. Each end looks for the nearest end of another cut that goes on in the same line: ahead of it, less
// than two cuts away, both of its ends within a tenth of a millimetre of the line. Two ends that choose one another are
// joined; so a chain never forks, and a cut that merely crosses the line is passed by. Nor does it go on from an end at
// which another stroke ends as well: that is a corner of an outline, whose steps lie in rows often enough (the tips of
// teeth). A chain is a row when it has three cuts or more and keeps its gaps: the widest at most two and a half times the
// narrowest, since the first and the last cut are often shortened to come out at the edge. Cuts of two folds that touch
// where the one goes on in the other have no gap between them. Everything else stays what it was drawn as.
//
// A row rarely begins at the edge itself. Its line may be run on by as much as was left free between its cuts.
//
// Ends are looked up in cells of a millimetre, and only in those the line would come through; each looks once. A drawing of
// a hundred thousand cuts costs a few looks for each, however close they lie.
#include "design/DrawnLines.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <span>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;

constexpr double kJoinMm = 0.1;   // ends this near are in one line
constexpr double kAtEdgeMm = 0.5; // how far the first cut may be from the edge, besides a gap

bool isStraight(const Line& line) {
    const Point a = line.start, b = endOf(line);
    return std::all_of(line.segments.begin(), line.segments.end(), [&](const geometry::Segment& s) {
        const bool isFlat = s.isLine || (geometry::distanceToStretch(s.control1, a, b) < 0.01 &&
                                         geometry::distanceToStretch(s.control2, a, b) < 0.01);
        return isFlat && geometry::distanceToStretch(s.end, a, b) < 0.01;
    });
}

/// Chains of short straight cuts, from end to end.
class Rows {
  public:
    explicit Rows(const std::vector<Stroke>& strokes)
        : m_strokes(strokes), m_after(2 * strokes.size(), kNone) {
        for (size_t i = 0; i < strokes.size(); ++i) {
            const Line& path = strokes[i].path;
            const double length = geometry::distance(path.start, endOf(path));
            if (length < kLeastMm || length > kLongestMm || !isStraight(path))
                continue;
            for (const size_t end : {2 * i, 2 * i + 1})
                m_ends[cellOf(at(end))].push_back(end);
        }
        for (size_t end = 0; end < 2 * strokes.size(); ++end)
            m_places[placeOf(at(end))].push_back(end);
        std::vector<size_t> chosen(2 * strokes.size(), kNone);
        for (const auto& [cell, ends] : m_ends)
            for (const size_t end : ends)
                chosen[end] = nearest(end);
        for (size_t end = 0; end < chosen.size(); ++end)
            if (const size_t other = chosen[end]; other != kNone && chosen[other] == end)
                m_after[end] = other;
    }

    /// The strokes with every row as one, and how many cuts are in rows.
    std::vector<Stroke> joined(int& cutsInRows) const {
        std::vector<Stroke> out;
        std::vector<bool> isDone(m_strokes.size(), false);
        for (size_t i = 0; i < m_strokes.size(); ++i) {
            if (isDone[i])
                continue;
            const std::vector<size_t> row = rowWith(i);
            if (row.empty()) {
                out.push_back(m_strokes[i]);
                continue;
            }
            double widest = 0;
            for (size_t k = 0; k < row.size(); k += 2) {
                isDone[row[k] / 2] = true;
                if (k > 0)
                    widest = std::max(widest, geometry::distance(at(row[k - 1]), at(row[k])));
            }
            cutsInRows += static_cast<int>(row.size() / 2);
            out.push_back({{at(row.front()), {geometry::Segment::line(at(row.back()))}},
                           m_strokes[i].item,
                           widest + kAtEdgeMm});
        }
        return out;
    }

  private:
    static constexpr size_t kNone = static_cast<size_t>(-1);
    static constexpr double kLeastMm = 0.2, kLongestMm = 15, kWidestMm = 8, kCellMm = 1;
    static constexpr double kAslant = 0.1; ///< of directions, as the sine of their angle
    static constexpr size_t kMostAtOnePlace = 64,
                            kMostInACell = 256; ///< ends that are looked at; more are a scribble

    /// Ends are numbered: twice the stroke's number, one more for its other end.
    Point at(size_t end) const {
        return end % 2 ? endOf(m_strokes[end / 2].path) : m_strokes[end / 2].path.start;
    }
    static std::pair<long, long> cellOf(Point p) {
        return {std::lround(std::floor(p.x / kCellMm)), std::lround(std::floor(p.y / kCellMm))};
    }

    static std::pair<long, long> placeOf(Point p) {
        return {std::lround(p.x / kJoinMm), std::lround(p.y / kJoinMm)};
    }
    /// Whether strokes end there that do not go on in the same line.
    bool isCorner(size_t end) const {
        const Point here = at(end), along = geometry::direction(here - at(end ^ 1));
        const auto place = placeOf(here);
        for (long dx = -1; dx <= 1; ++dx)
            for (long dy = -1; dy <= 1; ++dy)
                if (const auto found = m_places.find({place.first + dx, place.second + dy});
                    found != m_places.end())
                    for (const size_t other :
                         std::span(found->second).first(std::min(kMostAtOnePlace, found->second.size())))
                        if (other / 2 != end / 2 && geometry::distance(at(other), here) <= kJoinMm &&
                            std::abs(geometry::cross(geometry::direction(at(other ^ 1) - here), along)) >
                                kAslant)
                            return true;
        return false;
    }

    /// The nearest end of another cut that goes on in the same line.
    size_t nearest(size_t end) const {
        if (isCorner(end))
            return kNone;
        const Point here = at(end), along = geometry::direction(here - at(end ^ 1));
        const double length = geometry::distance(here, at(end ^ 1));
        size_t best = kNone;
        double least = std::min(kWidestMm, std::max(1.0, 2 * length));
        geometry::Box way; // where the next cut may begin
        way.include(here);
        way.include(here + along * least);
        const auto low = cellOf(way.least - Point{kJoinMm, kJoinMm}),
                   high = cellOf(way.most + Point{kJoinMm, kJoinMm});
        for (long x = low.first; x <= high.first; ++x)
            for (long y = low.second; y <= high.second; ++y) {
                const auto found = m_ends.find({x, y});
                const size_t count = found == m_ends.end() ? 0 : std::min(kMostInACell, found->second.size());
                for (size_t k = 0; k < count; ++k) {
                    const size_t other = found->second[k];
                    const Point to = at(other) - here, far = at(other ^ 1) - here;
                    const double ahead = geometry::dot(to, along);
                    if (other / 2 == end / 2 || ahead < -kJoinMm || ahead >= least ||
                        std::abs(geometry::cross(to, along)) > kJoinMm ||
                        std::abs(geometry::cross(far, along)) > kJoinMm || geometry::dot(far, along) < ahead)
                        continue;
                    least = ahead;
                    best = other;
                }
            }
        return best;
    }

    /// The ends of the cuts of a row in its order; empty when the stroke is in none.
    std::vector<size_t> rowWith(size_t stroke) const {
        size_t first = 2 * stroke;
        for (size_t steps = 0; m_after[first] != kNone && steps <= m_strokes.size(); ++steps)
            first = m_after[first] ^ 1;
        std::vector<size_t> row;
        double least = kWidestMm, most = 0;
        for (size_t end = first; end != kNone && row.size() <= 2 * m_strokes.size();) {
            row.push_back(end);
            row.push_back(end ^ 1);
            const size_t next = m_after[end ^ 1];
            if (next != kNone) {
                const double gap = geometry::distance(at(end ^ 1), at(next));
                if (gap > kJoinMm)
                    least = std::min(least, gap);
                most = std::max(most, gap);
            }
            end = next;
        }
        constexpr size_t kFewest = 3;
        constexpr double kEven = 2.5, kSlackMm = 0.2;
        return row.size() / 2 >= kFewest && most > kJoinMm && most <= kEven * least + kSlackMm
                   ? row
                   : std::vector<size_t>{};
    }

    const std::vector<Stroke>& m_strokes;
    std::map<std::pair<long, long>, std::vector<size_t>> m_ends;
    std::map<std::pair<long, long>, std::vector<size_t>> m_places; ///< all ends, closely
    std::vector<size_t> m_after; ///< the end that comes after an end, across the gap
};

} // namespace

std::vector<Stroke> rowsJoined(const std::vector<Stroke>& strokes, int& cutsInRows) {
    return Rows(strokes).joined(cutsInRows);
}

} // namespace thinline::design
