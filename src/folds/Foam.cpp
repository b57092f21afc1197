// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Spreading foam.
//
// Makers stick three bits of foam under a piece and one more into each arm. What they look for is that no part sags when it
// is pressed, that the piece does not rock, and that no foam looks out at the side. So a place for a spot is a cell that
// lies deep enough in the card and in what carries it; and the next spot goes where a place is furthest from all spots so
// far, measured along the card and not across its bays: a hook sags at its end, though its end is near its beginning. The
// first one is found in the same way from the middle of the places, so that spots begin at the ends. This is the greedy way
// to cover a region from few centres (T. Gonzalez, Clustering to minimize the maximum intercluster distance, 1985): never
// worse than twice the best.
//
// Distances run from cell to cell over eight neighbours; they are up to 8 % too long, which is nothing to foam. What is
// nearest to a new spot is found by going out from it until the distances there are smaller already.
//
// An arm is what is left of a piece when a disc of six tenths of its greatest depth has been rolled inside it, where that
// remainder reaches further than 15 mm from the rest. Most arms have a spot by then; one that has none gets one at its
// deepest place.
#include "folds/Foam.h"

#include "raster/Depth.h"

#include <queue>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace thinline::folds {
namespace {

using geometry::Point;
using raster::Grey;

constexpr float kFar = std::numeric_limits<float>::max();

/// Spreads the spots of one piece.
class Spreading {
  public:
    Spreading(const FoamBed& bed, const FoamPlan& plan, const base::Progress& progress)
        : m_bed(bed), m_plan(plan), m_progress(progress), m_width(bed.card.width),
          m_depths(bed.heightMm.size(), 0), m_away(bed.heightMm.size(), kFar) {}

    base::Result<FoamSpots> run() {
        findRoom();
        if (m_room.empty())
            return m_out;
        const double across = acrossMm();
        const bool isSmall = across < kOneSpotBelowMm;
        if (isSmall) {
            put(deepest());
            return m_out;
        }
        std::vector<float> fromMiddle(m_away.size(), kFar);
        reach({middlemost(m_room)}, fromMiddle);
        put(furthest(fromMiddle));
        for (;;) {
            if (m_progress.isCancelled())
                return base::cancelled();
            const size_t next = furthest(m_away);
            const bool isFar = std::any_of(m_room.begin(), m_room.end(), [&](size_t i) {
                return m_away[i] > static_cast<float>(kFoamReachMm);
            });
            // A place beside a spot is no further rest.
            if (m_away[next] < m_plan.acrossMm || (!isFar && m_out.all.size() >= kLeastSpots))
                break;
            put(next);
        }
        giveArmsTheirs();
        return m_out;
    }

  private:
    double mmOf(float cells) const { return static_cast<double>(cells) * m_bed.cellMm; }
    Point middleOf(size_t cell) const {
        const double x = static_cast<double>(cell % static_cast<size_t>(m_width)) + 0.5,
                     y = static_cast<double>(cell / static_cast<size_t>(m_width)) + 0.5;
        return m_bed.corner + Point{x, y} * m_bed.cellMm;
    }
    double acrossMm() const {
        int left = m_width, right = 0, top = m_bed.card.height, bottom = 0;
        for (int y = 0; y < m_bed.card.height; ++y)
            for (int x = 0; x < m_width; ++x)
                if (m_bed.card.at(x, y)) {
                    left = std::min(left, x), right = std::max(right, x + 1);
                    top = std::min(top, y), bottom = std::max(bottom, y + 1);
                }
        return std::max(right - left, bottom - top) * m_bed.cellMm;
    }

    /// How deep every cell lies in what carries foam of its height, and which may be the middle of a spot.
    void findRoom() {
        std::vector<float> heights;
        for (const float h : m_bed.heightMm)
            if (h >= kLeastFoamMm && std::find(heights.begin(), heights.end(), h) == heights.end())
                heights.push_back(h);
        for (const float height : heights) {
            Grey mask{m_width, m_bed.card.height, {}};
            for (size_t i = 0; i < m_bed.heightMm.size(); ++i)
                mask.values.push_back(m_bed.heightMm[i] == height ? 255 : 0);
            const std::vector<float> depths = raster::depthsOf(mask);
            for (size_t i = 0; i < depths.size(); ++i)
                if (mask.values[i])
                    m_depths[i] = depths[i];
        }
        for (size_t i = 0; i < m_depths.size(); ++i)
            if (spotAt(i) >= kLeastSpotMm)
                m_room.push_back(i);
    }
    /// How large a spot may be there: the cell's depth is measured to the middle of the nearest one outside, whose
    /// nearest corner may lie three quarters of a cell nearer.
    double spotAt(size_t cell) const {
        const double free = mmOf(m_depths[cell]) - 0.75 * m_bed.cellMm - kFoamToEdgeMm;
        return std::min(m_plan.acrossMm, std::floor(4 * free) / 2);
    }

    static constexpr float kAsDeep = 0.5f; // in cells

    /// Of some places the one nearest to the middle of them all.
    size_t middlemost(const std::vector<size_t>& of) const {
        Point sum;
        for (const size_t i : of)
            sum = sum + middleOf(i);
        const Point middle = sum * (1.0 / static_cast<double>(of.size()));
        return *std::min_element(of.begin(), of.end(), [&](size_t a, size_t b) {
            return geometry::distance(middleOf(a), middle) < geometry::distance(middleOf(b), middle);
        });
    }
    /// The deepest place; of a strip that is as deep all along its middle.
    size_t deepest() const {
        float most = 0;
        for (const size_t i : m_room)
            most = std::max(most, m_depths[i]);
        std::vector<size_t> as;
        for (const size_t i : m_room)
            if (m_depths[i] > most - kAsDeep)
                as.push_back(i);
        return middlemost(as);
    }
    /// The place that lies furthest away; of those nearly as far the roomiest.
    size_t furthest(const std::vector<float>& away) const {
        float most = 0;
        for (const size_t i : m_room)
            most = std::max(most, away[i]);
        const float asFar = most - static_cast<float>(m_plan.acrossMm);
        return *std::max_element(m_room.begin(), m_room.end(), [&](size_t a, size_t b) {
            const bool isFarA = away[a] >= asFar, isFarB = away[b] >= asFar;
            return isFarA != isFarB ? isFarB : std::pair(spotAt(a), away[a]) < std::pair(spotAt(b), away[b]);
        });
    }
    void put(size_t cell) {
        m_out.all.push_back({middleOf(cell), spotAt(cell), static_cast<double>(m_bed.heightMm[cell]), cell});
        reach({cell}, m_away);
    }

    /// Lowers distances along the card, in mm, to what they are from some cells.
    void reach(const std::vector<size_t>& from, std::vector<float>& away) const {
        using Entry = std::pair<float, size_t>;
        std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
        for (const size_t i : from) {
            away[i] = 0;
            open.emplace(0.f, i);
        }
        const float straight = static_cast<float>(m_bed.cellMm),
                    aslant = static_cast<float>(m_bed.cellMm * std::numbers::sqrt2);
        while (!open.empty()) {
            const auto [now, cell] = open.top();
            open.pop();
            if (now > away[cell])
                continue;
            const int x = static_cast<int>(cell % static_cast<size_t>(m_width)),
                      y = static_cast<int>(cell / static_cast<size_t>(m_width));
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int nx = x + dx, ny = y + dy;
                    if (nx < 0 || ny < 0 || nx >= m_width || ny >= m_bed.card.height ||
                        !m_bed.card.at(nx, ny))
                        continue;
                    const size_t next =
                        static_cast<size_t>(ny) * static_cast<size_t>(m_width) + static_cast<size_t>(nx);
                    const float there = now + (dx != 0 && dy != 0 ? aslant : straight);
                    if (there < away[next]) {
                        away[next] = there;
                        open.emplace(there, next);
                    }
                }
        }
    }

    void giveArmsTheirs() {
        const std::vector<float> depths = raster::depthsOf(m_bed.card);
        constexpr float kRim = 1.5f; // cells the disc misses along a curved edge
        const float roll = 0.6f * *std::max_element(depths.begin(), depths.end());
        Grey outside{m_width, m_bed.card.height, {}};
        for (const float depth : depths)
            outside.values.push_back(depth >= roll ? 0 : 255);
        const std::vector<float> fromDeep =
            raster::depthsOf(outside, raster::Beyond::Unknown); // the disc's way
        std::vector<size_t> core;
        for (size_t i = 0; i < depths.size(); ++i)
            if (m_bed.card.values[i] && fromDeep[i] <= roll + kRim)
                core.push_back(i);
        std::vector<float> fromCore(depths.size(), kFar);
        reach(core, fromCore);
        std::vector<bool> isSeen(depths.size(), false);
        for (size_t i = 0; i < depths.size(); ++i)
            if (m_bed.card.values[i] && fromCore[i] > 0 && fromCore[i] < kFar && !isSeen[i])
                giveArm(armFrom(i, fromCore, isSeen), fromCore);
    }
    std::vector<size_t> armFrom(size_t first, const std::vector<float>& fromCore,
                                std::vector<bool>& isSeen) const {
        std::vector<size_t> out{first};
        isSeen[first] = true;
        for (size_t k = 0; k < out.size(); ++k) {
            const int x = static_cast<int>(out[k] % static_cast<size_t>(m_width)),
                      y = static_cast<int>(out[k] / static_cast<size_t>(m_width));
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                const int nx = x + dx, ny = y + dy;
                if (nx < 0 || ny < 0 || nx >= m_width || ny >= m_bed.card.height)
                    continue;
                const size_t next =
                    static_cast<size_t>(ny) * static_cast<size_t>(m_width) + static_cast<size_t>(nx);
                if (m_bed.card.values[next] && fromCore[next] > 0 && !isSeen[next]) {
                    isSeen[next] = true;
                    out.push_back(next);
                }
            }
        }
        return out;
    }
    void giveArm(const std::vector<size_t>& arm, const std::vector<float>& fromCore) {
        const bool isLong = std::any_of(
            arm.begin(), arm.end(), [&](size_t i) { return fromCore[i] > static_cast<float>(kLongArmMm); });
        const bool hasOne = std::any_of(m_out.all.begin(), m_out.all.end(), [&](const FoamSpot& spot) {
            return std::find(arm.begin(), arm.end(), spot.cell) != arm.end();
        });
        // One that nothing carries hangs free, however long it is.
        const bool isCarried =
            std::any_of(arm.begin(), arm.end(), [&](size_t i) { return m_bed.heightMm[i] >= kLeastFoamMm; });
        if (!isLong || hasOne || !isCarried)
            return;
        const auto deepest = std::max_element(arm.begin(), arm.end(),
                                              [&](size_t a, size_t b) { return m_depths[a] < m_depths[b]; });
        if (spotAt(*deepest) >= kLeastSpotMm)
            put(*deepest);
        else
            ++m_out.armsWithout;
    }

    const FoamBed& m_bed;
    const FoamPlan& m_plan;
    const base::Progress& m_progress;
    int m_width;
    std::vector<float> m_depths; ///< in cells
    std::vector<float> m_away;   ///< from the nearest spot along the card, mm
    std::vector<size_t> m_room;  ///< cells that may be the middle of a spot
    FoamSpots m_out;
};

} // namespace

base::Result<FoamSpots> foamSpotsOf(const FoamBed& bed, const FoamPlan& plan,
                                    const base::Progress& progress) {
    return Spreading(bed, plan, progress).run();
}

} // namespace thinline::folds
