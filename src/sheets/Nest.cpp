// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Laying outlines close: overlaps are allowed while they are searched away.
//
// A layout that is legal and tight cannot be reached by moving one piece at a time through legal ones: everything is in
// everything's way. So the last sheet is made shorter than the pieces can bear, they overlap, and then one after the other
// is laid anew where it overlaps least, wherever that is. Pairs that go on colliding count more and more (guided local
// search), so that the search leaves places where a few pieces push one another to and fro. When nothing overlaps any more
// and the exact check agrees, the layout is published and the sheet is made shorter again. What is not reached within many
// rounds is begun again from one of the better failures with two large pieces swapped.
//
// A piece is laid anew from three kinds of places: near where it lies, at random, and from a coarse look at all sheets: the
// others are painted into a raster, more where their weight is high and in their depth, and the mask of the piece is laid
// over every cell, which costs two additions for each of its rows (sheets/NestRaster.h). The two best of these are slid and
// turned by ever smaller steps.
//
// Everything is counted in poses looked at, never in time, and there is one generator: the same seed and the same number
// of steps give the same layout. Where somebody keeps time instead, only the share that is spent comes from the clock.
//
// Sources, from memory: J. Egeblad, B. Nielsen, A. Odgaard, Fast neighborhood search for two- and three-dimensional nesting
// problems, 2007; T. Imamichi, M. Yagiura, H. Nagamochi, An iterated local search algorithm based on nonlinear programming
// for the irregular strip packing problem, 2009; S. Umetani et al., Solving the irregular strip packing problem via guided
// local search, 2009.
#include "sheets/Nest.h"

#include "geometry/Measures.h"
#include "sheets/Beside.h"
#include "sheets/NestBoxes.h"
#include "sheets/NestGather.h"
#include "sheets/NestRaster.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <random>

namespace thinline::sheets {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;
using Tables = std::vector<std::shared_ptr<const NestTable>>;

constexpr double kPi = std::numbers::pi;
constexpr double kHalf = 0.7072; // of a cell's diagonal

/// How a blocked area lies: where it is.
NestPose wallPose(const NestTable& wall) {
    return NestPose::of(wall.middle(), 0);
}
Box boxOf(const NestTable& form, const NestPose& pose) {
    const Box box = form.boxAt(pose.turnRad);
    return {box.least + pose.at, box.most + pose.at};
}

/// What is used of a sheet, from the upper edge of its usable part.
double lengthUsed(const NestTask& task, const Tables& tables, const std::vector<NestPlace>& places,
                  std::size_t bin) {
    double out = 0;
    for (std::size_t i = 0; i < places.size(); ++i)
        if (places[i].bin == bin)
            out = std::max(out, boxOf(*tables[task.items[i].form], places[i].pose).most.y -
                                    task.usableOf(bin).least.y);
    return out;
}

std::vector<double> turnsAllowed(const NestTable& form, NestTurns turns, std::optional<double> only) {
    if (only)
        return {*only, *only + kPi};
    if (turns == NestTurns::None)
        return {0};
    if (turns == NestTurns::Half)
        return {0, kPi};
    const double tight = form.tightTurnRad();
    std::vector<double> out{0, kPi / 2, kPi, 1.5 * kPi};
    if (std::abs(std::remainder(tight, kPi / 2)) > 1e-6)
        for (int q = 0; q < 4; ++q)
            out.push_back(tight + q * kPi / 2);
    return out;
}

bool goesInto(const Box& extents, const Box& usable) {
    constexpr double kRounding = 1e-6;
    return extents.width() <= usable.width() + kRounding && extents.height() <= usable.height() + kRounding;
}

// ---- the first layout

class Filling {
  public:
    Filling(const NestTask& task, const Tables& tables, const std::vector<std::optional<NestPlace>>& kept,
            const base::Progress& progress)
        : m_task(task), m_tables(tables), m_kept(kept), m_progress(progress) {
        m_layout.places.resize(task.items.size());
        m_isLaid.assign(task.items.size(), false);
    }

    base::Result<NestLayout> run() {
        std::vector<std::size_t> order;
        for (std::size_t i = 0; i < m_task.items.size(); ++i)
            if (const auto& item = m_task.items[i]; item.pinnedBin)
                take(i, {*item.pinnedBin, item.pinned});
            else
                order.push_back(i);
        if (m_task.order.size() == m_task.items.size())
            order = m_task.order;
        else
            std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
                const std::size_t fa = m_task.items[a].form, fb = m_task.items[b].form;
                const double ra = sizeOf(fa), rb = sizeOf(fb);
                return ra > rb || (ra == rb && fa < fb);
            });
        for (const std::size_t i : order) {
            if (m_progress.isCancelled())
                return base::cancelled();
            if (!m_isLaid[i] && canStay(i))
                take(i, *m_kept[i]);
        }
        for (const std::size_t i : order) {
            if (m_progress.isCancelled())
                return base::cancelled();
            if (!m_isLaid[i] && !place(i))
                return Error{Code::LimitExceeded, "A piece fits no sheet."};
        }
        measureNest(m_task, m_tables, m_layout);
        return std::move(m_layout);
    }

  private:
    struct Sheet {
        NestField field;
        bool isEmpty = true;
        bool isWary = false; ///< all that is blocked is painted
        std::vector<std::size_t> items = {};
        int refused = 0; ///< pieces in a row that found no room
    };
    /// Of very many pieces not every turn is tried, and a sheet that refused several in a row is full.
    bool isLarge() const { return m_task.items.size() > kLarge; }
    static constexpr std::size_t kLarge = 300;
    static constexpr int kRefusals = 200;

    const NestTable& table(std::size_t item) const { return *m_tables[m_task.items[item].form]; }
    bool canStay(std::size_t item) {
        if (item >= m_kept.size() || !m_kept[item])
            return false;
        const NestPlace& place = *m_kept[item];
        const Box box = boxOf(table(item), place.pose), usable = m_task.usableOf(place.bin).grownBy(1e-6);
        if (!usable.contains(box.least) || !usable.contains(box.most))
            return false;
        const Sheet& on = sheet(place.bin);
        return overWall(m_task, table(item), place, 0) <= 0 &&
               std::none_of(on.items.begin(), on.items.end(), [&](std::size_t other) {
                   return NestTable::overlap(table(item), place.pose, table(other),
                                             m_layout.places[other].pose, m_task.clearMm, 0) > 0;
               });
    }
    double sizeOf(std::size_t form) const {
        return m_tables[form]->area() + m_tables[form]->radius() * m_tables[form]->radius();
    }
    Sheet& sheet(std::size_t bin) {
        constexpr double kCells = 60'000, kLeastMm = 0.8;
        while (m_sheets.size() <= bin) {
            const Box& usable = m_task.usableOf(m_sheets.size());
            const double cell = std::max(kLeastMm, std::sqrt(usable.width() * usable.height() / kCells));
            const auto& wall = m_task.sheetOf(m_sheets.size()).blocked;
            m_sheets.push_back({NestField(usable, cell)});
            if (NestField& field = m_sheets.back().field; wall)
                // The mask of a piece is as much wider as it keeps from other pieces.
                field.take(
                    field.coverOf(*wall, wallPose(*wall), kWallClearMm + kHalf * cell - m_task.clearMm));
        }
        return m_sheets[bin];
    }
    /// Of what is blocked only the inner part is painted, which misses what is narrow there. Where a piece would lie on
    /// that, all of it is.
    bool missesWall(std::size_t item, const NestPlace& place) {
        Sheet& on = m_sheets[place.bin];
        if (on.isWary || overWall(m_task, table(item), place, 0) <= 0)
            return false;
        on.isWary = true;
        const NestTable& wall = *m_task.sheetOf(place.bin).blocked;
        on.field.take(on.field.coverOf(wall, wallPose(wall), kWallClearMm + kHalf * on.field.cellMm()));
        return true;
    }
    void take(std::size_t item, const NestPlace& where) {
        m_layout.places[item] = where;
        m_isLaid[item] = true;
        Sheet& on = sheet(where.bin);
        on.items.push_back(item);
        const auto cover =
            on.field.coverOf(*m_tables[m_task.items[item].form], where.pose, kHalf * on.field.cellMm());
        on.field.take(cover);
        on.isEmpty = false;
    }
    const std::vector<std::pair<double, NestMask>>& masksOf(std::size_t form, std::size_t bin) {
        auto& out = m_masks[{form, m_task.kindOf(bin)}];
        const NestField& field = sheet(bin).field;
        if (!out.empty())
            return out;
        const auto turns = turnsAllowed(*m_tables[form], m_task.turns, m_task.forms[form].onlyTurnRad);
        for (std::size_t t = 0; t < turns.size(); ++t) {
            if (isLarge() && t % 4 > 1) // a half turn more changes little
                continue;
            NestMask mask = field.maskOf(*m_tables[form], turns[t], m_task.clearMm + kHalf * field.cellMm());
            // The longest runs tell soonest that something is in the way.
            std::stable_sort(mask.runs.begin(), mask.runs.end(),
                             [](const auto& a, const auto& b) { return a.end - a.begin > b.end - b.begin; });
            out.emplace_back(turns[t], std::move(mask));
        }
        return out;
    }

    bool place(std::size_t item) {
        const std::size_t form = m_task.items[item].form;
        auto& from = m_from[form]; // earlier sheets and rows have no room for this form: it only gets less
        const auto next = [&from] {
            ++from.bin;
            from.rows.clear();
        };
        for (;;) {
            Sheet& on = sheet(from.bin);
            if (isLarge() && on.refused > kRefusals) {
                next();
                continue;
            }
            const auto& masks = masksOf(form, from.bin);
            from.rows.resize(masks.size(), 0);
            std::optional<NestPose> best;
            double lowest = INFINITY;
            for (std::size_t m = 0; m < masks.size(); ++m) {
                const Box extents = m_tables[form]->boxAt(masks[m].first);
                if (!goesInto(extents, m_task.usableOf(from.bin)) || from.rows[m] >= on.field.rows())
                    continue;
                const double above = lowest - extents.most.y; // lower than that is no better
                const auto found = on.field.firstFree(masks[m].second, extents, from.rows[m], above);
                if (found || above == INFINITY)
                    from.rows[m] = found ? std::max(0, on.field.rowOf(found->at.y)) : on.field.rows();
                if (found && found->at.y + extents.most.y < lowest - 1e-9) {
                    lowest = found->at.y + extents.most.y;
                    best = NestPose::of(found->at, masks[m].first);
                }
            }
            if (!best && on.isEmpty)
                best = inCorner(form, from.bin);
            if (best && missesWall(item, {from.bin, *best}))
                continue;
            if (best) {
                on.refused = 0;
                take(item, {from.bin, *best});
                return true;
            }
            ++on.refused;
            if (on.isEmpty && from.bin >= m_task.kinds())
                return false; // not on any sheet
            next();
        }
    }
    /// What is as wide as its sheet lies on no cell.
    std::optional<NestPose> inCorner(std::size_t form, std::size_t bin) const {
        for (const double turn :
             turnsAllowed(*m_tables[form], m_task.turns, m_task.forms[form].onlyTurnRad)) {
            const Box extents = m_tables[form]->boxAt(turn);
            if (!goesInto(extents, m_task.usableOf(bin)))
                continue;
            const NestPose pose = NestPose::of(m_task.usableOf(bin).least - extents.least, turn);
            if (overWall(m_task, *m_tables[form], {bin, pose}, 0) <= 0)
                return pose;
        }
        return std::nullopt;
    }

    struct From {
        std::size_t bin = 0;
        std::vector<int> rows;
    };
    const NestTask& m_task;
    const Tables& m_tables;
    const std::vector<std::optional<NestPlace>>& m_kept;
    const base::Progress& m_progress;
    std::vector<bool> m_isLaid;
    std::vector<Sheet> m_sheets;
    std::map<std::pair<std::size_t, std::size_t>, std::vector<std::pair<double, NestMask>>> m_masks;
    std::map<std::size_t, From> m_from;
    NestLayout m_layout;
};

// ---- the search

class Search {
  public:
    Search(const NestTask& task, const Tables& tables, NestLayout from, const NestBudget& budget,
           const std::function<void(const NestLayout&)>& publish, const base::Progress& progress)
        : m_task(task), m_tables(tables), m_budget(budget), m_publish(publish), m_progress(progress),
          m_random(budget.seed * 2654435761u + 12345u), m_count(task.items.size()), m_best(std::move(from)) {
        for (std::size_t kind = 0; kind < task.kinds(); ++kind) {
            const Box& usable = task.usableOf(kind);
            constexpr double kCells = 4000, kLeastMm = 1, kMostMm = 5;
            const double cell =
                std::clamp(std::sqrt(usable.width() * usable.height() / kCells), kLeastMm, kMostMm);
            m_fields.emplace_back(usable, cell);
            const auto& wall = task.sheetOf(kind).blocked;
            m_wallCovers.push_back(
                wall ? m_fields.back().coverOf(*wall, wallPose(*wall), kWallClearMm - task.clearMm / 2)
                     : std::vector<NestField::Covered>());
        }
        m_wallWeights.assign(m_count, 1);
        m_wallLosses.assign(m_count, 0);
        m_weights.assign(m_count * m_count, 1);
        m_losses.assign(m_count * m_count, 0);
        m_covers.resize(m_count);
    }

    NestLayout run() {
        double shrink = 0.02;
        int failures = 0;
        load(m_best);
        while (!isOver() && m_best.bins > 0) {
            ++m_steps; // also an aim that costs nothing comes to an end
            const bool isLast = share() > 0.8;
            const double by = isLast ? m_fine : shrink;
            if (!aim(by))
                break;
            const int rounds = separate(isLast ? 20 : 120);
            if (rounds >= 0 && keep()) {
                failures = 0;
                shrink = std::clamp(rounds < 25    ? shrink * 1.5
                                    : rounds > 150 ? shrink * 0.6
                                                   : shrink,
                                    0.002, 0.08);
                m_fine = std::min(m_fine * 1.2, 0.02);
                m_pool.clear();
                continue;
            }
            m_fine = std::max(m_fine * 0.7, 0.0004);
            if (isLast || isOver()) {
                load(m_best);
                continue;
            }
            ++failures;
            if (failures % 4 == 0) {
                shrink = std::max(shrink * 0.6, 0.002);
                load(m_best);
                m_pool.clear();
            } else {
                beginAnew();
            }
        }
        return m_best;
    }

  private:
    // ---- the budget

    double share() const { return m_budget.shareAfter(static_cast<double>(m_steps)); }
    bool isOver() const { return m_progress.isCancelled() || share() >= 1; }
    double uniform(double from, double to) {
        return from + (to - from) * (static_cast<double>(m_random() >> 11) * 0x1.0p-53);
    }
    std::size_t below(std::size_t count) { return static_cast<std::size_t>(m_random() % count); }

    // ---- the state

    float& weight(std::size_t a, std::size_t b) { return m_weights[a * m_count + b]; }
    float& loss(std::size_t a, std::size_t b) { return m_losses[a * m_count + b]; }
    const NestTable& table(std::size_t item) const { return *m_tables[m_task.items[item].form]; }
    std::vector<double> turnsOf(std::size_t item) const {
        const std::size_t form = m_task.items[item].form;
        return turnsAllowed(*m_tables[form], m_task.turns, m_task.forms[form].onlyTurnRad);
    }
    bool isPinned(std::size_t item) const { return m_task.items[item].pinnedBin.has_value(); }
    double lengthOf(std::size_t bin) const {
        return bin + 1 == m_bins ? m_length : m_task.usableOf(bin).height();
    }

    void load(const NestLayout& layout) {
        m_places = layout.places;
        m_bins = layout.bins;
        m_length = layout.bins > 0 ? m_task.usableOf(layout.bins - 1).height() : 0;
        refresh();
    }
    /// Everything that is known of the places, anew.
    void refresh() {
        m_inBin.assign(m_bins, {});
        for (std::size_t i = 0; i < m_count; ++i) {
            m_inBin[m_places[i].bin].push_back(i);
            m_covers[i].clear();
        }
        std::fill(m_losses.begin(), m_losses.end(), 0.f);
        for (const auto& in : m_inBin)
            for (std::size_t a = 0; a < in.size(); ++a) {
                setWallLoss(in[a]);
                for (std::size_t b = a + 1; b < in.size(); ++b)
                    setLoss(in[a], in[b]);
            }
    }
    void setWallLoss(std::size_t item) {
        if (!isPinned(item))
            m_wallLosses[item] =
                static_cast<float>(std::sqrt(overWall(m_task, table(item), m_places[item], INFINITY)));
    }
    void setLoss(std::size_t a, std::size_t b) {
        const bool isBothPinned = isPinned(a) && isPinned(b);
        const double over = isBothPinned ? 0
                                         : NestTable::overlap(table(a), m_places[a].pose, table(b),
                                                              m_places[b].pose, m_task.clearMm, INFINITY);
        loss(a, b) = loss(b, a) = static_cast<float>(std::sqrt(over));
    }
    double totalLoss() {
        double out = 0;
        for (const auto& in : m_inBin)
            for (std::size_t a = 0; a < in.size(); ++a) {
                out += static_cast<double>(m_wallLosses[in[a]]);
                for (std::size_t b = a + 1; b < in.size(); ++b)
                    out += static_cast<double>(loss(in[a], in[b]));
            }
        return out;
    }

    /// Makes the last sheet shorter, or does without it, and puts what lies beyond back inside. False when there is
    /// nothing to gain.
    bool aim(double by) {
        const double wanted = m_best.lastLengthMm * (1 - by);
        double lowest = INFINITY;
        for (std::size_t i = 0; i < m_count; ++i)
            if (m_best.places[i].bin + 1 == m_best.bins) {
                if (isPinned(i)) // the sheet cannot end above what was laid there by hand
                    lowest = std::max(std::isinf(lowest) ? 0.0 : lowest,
                                      boxOf(table(i), m_places[i].pose).most.y -
                                          m_task.usableOf(m_best.bins - 1).least.y);
                else if (std::isinf(lowest) || !hasPinIn(m_best.bins - 1))
                    lowest = std::min(lowest, leastHeight(i));
            }
        if (wanted >= lowest) {
            m_bins = m_best.bins;
            m_length = wanted;
        } else if (m_best.bins < 2 || hasPinIn(m_best.bins - 1)) {
            return false;
        } else {
            m_bins = m_best.bins - 1;
            m_length = m_task.usableOf(m_bins - 1).height();
        }
        for (std::size_t i = 0; i < m_count; ++i)
            if (!isPinned(i)) {
                m_places[i].bin = std::min(m_places[i].bin, m_bins - 1);
                if (!clamp(i, m_places[i]))
                    putAnywhere(i);
            }
        refresh();
        std::fill(m_weights.begin(), m_weights.end(), 1.f);
        std::fill(m_wallWeights.begin(), m_wallWeights.end(), 1.f);
        return true;
    }
    /// What is too long for where it lay: turned, or on another sheet. Where it fits none it stays too long, so that nothing is
    /// kept and a smaller step is tried.
    void putAnywhere(std::size_t item) {
        const std::size_t from = below(m_bins);
        for (std::size_t k = 0; k < m_bins; ++k)
            for (const double turn : turnsOf(item)) {
                m_places[item] = {(from + k) % m_bins, NestPose::of(m_places[item].pose.at, turn)};
                if (clamp(item, m_places[item]))
                    return;
            }
    }
    bool hasPinIn(std::size_t bin) const {
        for (std::size_t i = 0; i < m_count; ++i)
            if (isPinned(i) && m_best.places[i].bin == bin)
                return true;
        return false;
    }
    double leastHeight(std::size_t item) const {
        double out = INFINITY;
        for (const double turn : turnsOf(item))
            out = std::min(out, table(item).boxAt(turn).height());
        return out;
    }
    /// Keeps a place inside its sheet; false when it does not go in so turned.
    bool clamp(std::size_t item, NestPlace& place) const {
        const Box& usable = m_task.usableOf(place.bin);
        const Box box = table(item).boxAt(place.pose.turnRad);
        const Point low = usable.least - box.least;
        Point high = usable.most - box.most;
        high.y = usable.least.y + lengthOf(place.bin) - box.most.y;
        if (high.x < low.x - 1e-6 || high.y < low.y - 1e-6)
            return false;
        place.pose.at = {std::clamp(place.pose.at.x, low.x, std::max(low.x, high.x)),
                         std::clamp(place.pose.at.y, low.y, std::max(low.y, high.y))};
        return true;
    }

    /// The layout as it lies now, if it is sound and better.
    bool keep() {
        NestLayout now{m_places, 0, 0};
        measureNest(m_task, m_tables, now);
        if (!now.isBetterThan(m_best) || !isSound(m_task, m_tables, now, m_task.clearMm))
            return false;
        m_best = std::move(now);
        if (m_publish)
            m_publish(m_best);
        return true;
    }

    /// From one of the better failures, two of the larger pieces swapped.
    void beginAnew() {
        m_pool.emplace_back(totalLoss(), m_places);
        std::stable_sort(m_pool.begin(), m_pool.end(),
                         [](const auto& a, const auto& b) { return a.first < b.first; });
        constexpr std::size_t kMost = 12;
        if (m_pool.size() > kMost)
            m_pool.pop_back();
        const double pick = uniform(0, 1);
        const std::size_t bins = m_bins;
        const double length = m_length;
        m_places = m_pool[static_cast<std::size_t>(pick * pick * static_cast<double>(m_pool.size()))].second;
        m_bins = bins;
        m_length = length;
        std::vector<std::size_t> free;
        for (std::size_t i = 0; i < m_count; ++i)
            if (!isPinned(i))
                free.push_back(i);
        std::stable_sort(free.begin(), free.end(),
                         [&](std::size_t a, std::size_t b) { return table(a).radius() > table(b).radius(); });
        const std::size_t larger = std::max<std::size_t>(2, free.size() / 2);
        if (free.size() >= 2) {
            const std::size_t a = free[below(std::min(larger, free.size()))],
                              b = free[below(std::min(larger, free.size()))];
            std::swap(m_places[a].bin, m_places[b].bin);
            std::swap(m_places[a].pose.at, m_places[b].pose.at);
            for (const std::size_t one : {a, b})
                if (!clamp(one, m_places[one]))
                    m_places[one] = m_best.places[one].bin < m_bins ? m_best.places[one] : m_places[one];
        }
    }

    // ---- separating

    /// Moves pieces until none overlap; the number of rounds it took, or -1.
    int separate(int patience) {
        double best = totalLoss();
        int since = 0;
        for (int round = 0;; ++round) {
            if (best <= 0)
                return round;
            if (isOver() || since >= patience)
                return -1;
            std::vector<std::size_t> open;
            for (std::size_t i = 0; i < m_count; ++i)
                if (!isPinned(i) && lossOf(i) > 0)
                    open.push_back(i);
            for (std::size_t k = open.size(); k > 1; --k)
                std::swap(open[k - 1], open[below(k)]);
            for (const std::size_t i : open) {
                if (m_progress.isCancelled())
                    return -1;
                if (lossOf(i) > 0)
                    move(i);
            }
            weigh();
            const double now = totalLoss();
            since = now < best - 1e-9 ? 0 : since + 1;
            best = std::min(best, now);
        }
    }
    double lossOf(std::size_t item) {
        double out = static_cast<double>(m_wallWeights[item]) * static_cast<double>(m_wallLosses[item]);
        for (const std::size_t other : m_inBin[m_places[item].bin])
            if (other != item)
                out += static_cast<double>(weight(item, other)) * static_cast<double>(loss(item, other));
        return out;
    }
    void weigh() {
        float worst = 0;
        for (const auto& in : m_inBin)
            for (std::size_t a = 0; a < in.size(); ++a) {
                worst = std::max(worst, m_wallLosses[in[a]]);
                for (std::size_t b = a + 1; b < in.size(); ++b)
                    worst = std::max(worst, loss(in[a], in[b]));
            }
        const auto weighed = [worst](float w, float over) {
            return over > 0 ? std::min(1e6f, w * (1.2f + 0.8f * over / worst)) : std::max(1.f, w * 0.95f);
        };
        for (std::size_t a = 0; a < m_count; ++a) {
            m_wallWeights[a] = weighed(m_wallWeights[a], m_wallLosses[a]);
            for (std::size_t b = a + 1; b < m_count; ++b)
                weight(a, b) = weight(b, a) = weighed(weight(a, b), loss(a, b));
        }
    }

    struct Candidate {
        NestPlace place;
        double value = INFINITY;
    };
    /// The weighted loss of an item at a place; anything above the limit is as good as any.
    double evaluate(std::size_t item, const NestPlace& place, double limit) {
        ++m_steps;
        double sum = 0;
        if (m_task.sheetOf(place.bin).blocked) {
            const double w = static_cast<double>(m_wallWeights[item]);
            sum = w * std::sqrt(overWall(m_task, table(item), place, (limit / w) * (limit / w)));
            if (sum >= limit)
                return sum;
        }
        for (const std::size_t other : m_inBin[place.bin]) {
            if (other == item)
                continue;
            const double w = static_cast<double>(weight(item, other)), left = (limit - sum) / w;
            const double over = NestTable::overlap(table(item), place.pose, table(other),
                                                   m_places[other].pose, m_task.clearMm, left * left);
            if (over > 0)
                sum += w * std::sqrt(over);
            if (sum >= limit)
                return sum;
        }
        return sum;
    }

    void move(std::size_t item) {
        const double present = lossOf(item);
        std::array<Candidate, 2> best; // the better one first
        const auto offer = [&](const Candidate& one) {
            if (one.value < best[0].value) {
                best[1] = best[0];
                best[0] = one;
            } else if (one.value < best[1].value) {
                best[1] = one;
            }
        };
        offer({m_places[item], present});
        for (int k = 0; k < 3; ++k)
            offer(evaluated(item, nearBy(item), best[1].value));
        scan(item, [&](NestPlace place) { offer(evaluated(item, place, best[1].value)); });
        const double cell = m_fields.front().cellMm();
        for (Candidate& one : best)
            if (one.value < INFINITY)
                refine(item, one, cell, 0.2);
        Candidate& won = best[1].value < best[0].value ? best[1] : best[0];
        refine(item, won, 0.2, 0.004);
        if (won.value < present * (1 - 1e-9))
            put(item, won.place);
    }
    Candidate evaluated(std::size_t item, NestPlace place, double limit) {
        if (!clamp(item, place))
            return {};
        return {place, evaluate(item, place, limit)};
    }
    NestPlace nearBy(std::size_t item) {
        NestPlace out = m_places[item];
        const double reach = table(item).radius() / 2;
        const Point at = out.pose.at + Point{uniform(-reach, reach), uniform(-reach, reach)};
        const double turn = m_task.turns == NestTurns::Any    ? out.pose.turnRad + uniform(-0.4, 0.4)
                            : m_task.turns == NestTurns::Half ? (uniform(0, 1) < 0.5 ? 0 : kPi)
                                                              : out.pose.turnRad;
        out.pose = NestPose::of(at, turn);
        return out;
    }
    std::vector<double> turnsToTry(std::size_t item) {
        if (m_task.turns != NestTurns::Any)
            return turnsOf(item);
        // As it lies; a side along an edge of the sheet; a side along that of another piece; any way.
        const auto& in = m_inBin[m_places[item].bin];
        const std::size_t other = in[below(in.size())];
        const double along = m_places[other].pose.turnRad + kPi + sideOf(table(other).rings().front());
        return {m_places[item].pose.turnRad,
                static_cast<double>(below(4)) * kPi / 2 - sideOf(table(item).hull()),
                other == item ? uniform(0, 2 * kPi) : along - sideOf(table(item).hull()), uniform(0, 2 * kPi),
                uniform(0, 2 * kPi)};
    }
    /// The direction of a side of a ring; long ones come more often.
    double sideOf(const geometry::Polygon& ring) {
        double length = 0;
        for (std::size_t i = 0; i < ring.size(); ++i)
            length += geometry::distance(ring[i], ring[(i + 1) % ring.size()]);
        double at = uniform(0, length);
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point side = ring[(i + 1) % ring.size()] - ring[i];
            at -= std::hypot(side.x, side.y);
            if (at <= 0)
                return std::atan2(side.y, side.x);
        }
        return 0;
    }

    /// Looks at all sheets for where an item would overlap least.
    template <class Visit>
    void scan(std::size_t item, Visit visit) {
        const std::vector<double> turns = turnsToTry(item);
        std::vector<NestMask> masks;
        for (std::size_t bin = 0; bin < m_bins; ++bin) {
            NestField& field = m_fields[m_task.kindOf(bin)];
            if (bin == 0 || m_fields.size() > 1) {
                masks.clear();
                for (const double turn : turns)
                    masks.push_back(field.maskOf(table(item), turn, m_task.clearMm / 2));
            }
            field.clear();
            field.add(m_wallCovers[m_task.kindOf(bin)], m_wallWeights[item]);
            for (const std::size_t other : m_inBin[bin])
                if (other != item) {
                    if (m_covers[other].empty())
                        m_covers[other] =
                            field.coverOf(table(other), m_places[other].pose, m_task.clearMm / 2);
                    field.add(m_covers[other], weight(item, other));
                }
            field.sumRows();
            for (std::size_t t = 0; t < turns.size(); ++t) {
                constexpr int kStepsAScan = 20;
                m_steps += kStepsAScan;
                const auto found = field.least(masks[t], table(item).boxAt(turns[t]), lengthOf(bin));
                if (found)
                    visit(NestPlace{bin, NestPose::of(found->at, turns[t])});
            }
        }
    }

    /// Slides and turns a candidate by smaller and smaller steps.
    void refine(std::size_t item, Candidate& one, double stepMm, double leastMm) {
        double turnStep = stepMm / std::max(1.0, table(item).radius());
        const double leastTurn = leastMm / std::max(1.0, table(item).radius());
        const int ways = m_task.turns == NestTurns::Any ? 5 : 4;
        while ((stepMm > leastMm || (ways == 5 && turnStep > leastTurn)) && one.value > 0) {
            const std::size_t way = below(static_cast<std::size_t>(ways));
            bool isBetter = false;
            const double sign = uniform(0, 1) < 0.5 ? 1 : -1;
            for (const double to : {sign, -sign}) {
                static constexpr double kX[]{1, 0, 0.7071, 0.7071}, kY[]{0, 1, 0.7071, -0.7071};
                NestPlace next = one.place;
                if (way == 4)
                    next.pose = NestPose::of(next.pose.at, next.pose.turnRad + to * turnStep);
                else
                    next.pose.at = next.pose.at + Point{kX[way], kY[way]} * (to * stepMm);
                if (!clamp(item, next))
                    continue;
                const double value = evaluate(item, next, one.value);
                if (value < one.value) {
                    one = {next, value};
                    isBetter = true;
                    break;
                }
            }
            (way == 4 ? turnStep : stepMm) *= isBetter ? 1.1 : 0.5;
            if (way == 4 ? turnStep < leastTurn / 4 : stepMm < leastMm / 4)
                break;
        }
    }

    void put(std::size_t item, const NestPlace& where) {
        const std::size_t before = m_places[item].bin;
        for (const std::size_t other : m_inBin[before])
            loss(item, other) = loss(other, item) = 0;
        if (where.bin != before) {
            std::erase(m_inBin[before], item);
            m_inBin[where.bin].push_back(item);
        }
        m_places[item] = where;
        m_covers[item].clear();
        setWallLoss(item);
        for (const std::size_t other : m_inBin[where.bin])
            if (other != item)
                setLoss(item, other);
    }

    const NestTask& m_task;
    const Tables& m_tables;
    const NestBudget& m_budget;
    const std::function<void(const NestLayout&)>& m_publish;
    const base::Progress& m_progress;
    std::mt19937_64 m_random;
    std::size_t m_count;
    NestLayout m_best;
    long long m_steps = 0;
    double m_fine = 0.002; ///< by how much the last fifth of the budget shortens
    // where everything lies now
    std::vector<NestPlace> m_places;
    std::size_t m_bins = 0;
    double m_length = 0; ///< of the last sheet
    std::vector<std::vector<std::size_t>> m_inBin;
    std::vector<float> m_weights, m_losses;         ///< of every pair
    std::vector<float> m_wallWeights, m_wallLosses; ///< of every item, against what is blocked of its sheet
    std::vector<std::vector<NestField::Covered>> m_covers; ///< empty where not known
    std::vector<NestField> m_fields;                       ///< of every kind of sheet
    std::vector<std::vector<NestField::Covered>> m_wallCovers;
    std::vector<std::pair<double, std::vector<NestPlace>>> m_pool;
};

// ---- the exact check

geometry::Polygons laid(const NestTable& form, const NestPose& pose) {
    geometry::Polygons out = form.rings();
    for (geometry::Polygon& ring : out)
        for (Point& p : ring)
            p = pose(p);
    return out;
}
} // namespace

std::vector<std::shared_ptr<const NestTable>> nestTables(const NestTask& task,
                                                         const base::Progress& progress) {
    std::vector<std::shared_ptr<const NestTable>> out;
    for (const NestTask::Form& form : task.forms) {
        if (progress.isCancelled())
            return {};
        out.push_back(std::make_shared<const NestTable>(form.rings, task.clearMm, task.hasWalls()));
    }
    return out;
}

double overWall(const NestTask& task, const NestTable& form, const NestPlace& place, double limit) {
    const auto& wall = task.sheetOf(place.bin).blocked;
    return wall ? NestTable::overlap(form, place.pose, *wall, wallPose(*wall), kWallClearMm, limit) : 0;
}

bool fitsAlone(const NestTable& table, const NestTask& task, const NestTask::Form& form) {
    for (const double turn : turnsAllowed(table, task.turns, form.onlyTurnRad))
        for (std::size_t kind = 0; kind < task.kinds(); ++kind)
            if (goesInto(table.boxAt(turn), task.usableOf(kind)))
                return true;
    return false;
}

bool goesAlone(const std::shared_ptr<const NestTable>& table, const NestTask& task,
               const NestTask::Form& form) {
    if (!fitsAlone(*table, task, form))
        return false;
    for (const double turn : turnsAllowed(*table, task.turns, form.onlyTurnRad))
        for (const NestTask::Sheet& sheet : task.sheets)
            if (!sheet.blocked && goesInto(table->boxAt(turn), sheet.usable))
                return true;
    NestTask alone = task;
    alone.forms = {form};
    alone.items = {{0}};
    alone.order.clear();
    return static_cast<bool>(firstNest(alone, {table}));
}

bool NestTask::hasWalls() const {
    const auto isBlocked = [](const Sheet& sheet) { return sheet.blocked != nullptr; };
    return std::any_of(once.begin(), once.end(), isBlocked) ||
           std::any_of(sheets.begin(), sheets.end(), isBlocked);
}

void measureNest(const NestTask& task, const Tables& tables, NestLayout& layout) {
    layout.bins = 0;
    for (const NestPlace& place : layout.places)
        layout.bins = std::max(layout.bins, place.bin + 1);
    layout.lastLengthMm = layout.bins == 0 ? 0 : lengthUsed(task, tables, layout.places, layout.bins - 1);
}

base::Result<NestLayout> firstNest(const NestTask& task, const Tables& tables,
                                   const std::vector<std::optional<NestPlace>>& kept,
                                   const base::Progress& progress) {
    return Filling(task, tables, kept, progress).run();
}

namespace {
/// What of a budget lies between two shares of it.
NestBudget part(const NestBudget& budget, double from, double to) {
    NestBudget out = budget;
    out.steps = static_cast<long long>(static_cast<double>(budget.steps) * (to - from));
    if (budget.spent)
        out.spent = [&budget, from, to] { return (budget.spent() - from) / (to - from); };
    return out;
}
} // namespace

NestLayout nest(const NestTask& task, const Tables& tables, NestLayout from, const NestBudget& budget,
                const std::function<void(const NestLayout&)>& publish, const base::Progress& progress) {
    constexpr std::size_t kMost = 1500; // the pairs of more are too many to weigh
    if (task.items.size() > kMost || task.items.empty())
        return from;
    // What is nearly a rectangle lies closest side by side; the search then shoves together what is left.
    constexpr double kBoxLike = 0.9, kShareOfBoxes = 0.8;
    const double ofBoxes = boxShare(task, tables) < kBoxLike ? 0 : kShareOfBoxes;
    NestLayout best = from;
    if (ofBoxes > 0)
        best = nestBoxes(task, tables, std::move(best), part(budget, 0, ofBoxes), publish, progress);
    best = Search(task, tables, std::move(best), part(budget, ofBoxes, 1), publish, progress).run();
    if (!best.isBetterThan(from) || progress.isCancelled())
        return best; // what lies as it lay is recognised
    best = gathered(task, tables, best, progress);
    if (publish)
        publish(best);
    return best;
}

bool isSound(const NestTask& task, const Tables& tables, const NestLayout& layout, double clearMm) {
    constexpr double kPassMm = 0.01;
    std::vector<std::vector<std::size_t>> inBin(layout.bins);
    for (std::size_t i = 0; i < layout.places.size(); ++i) {
        const NestPlace& place = layout.places[i];
        if (place.bin >= layout.bins)
            return false;
        inBin[place.bin].push_back(i);
        const Box box = boxOf(*tables[task.items[i].form], place.pose);
        const Box usable = task.usableOf(place.bin).grownBy(1e-6);
        if (!task.items[i].pinnedBin && !(usable.contains(box.least) && usable.contains(box.most)))
            return false;
    }
    for (std::size_t bin = 0; bin < inBin.size(); ++bin) {
        const auto& in = inBin[bin];
        std::vector<geometry::Polygons> lie;
        for (const std::size_t i : in)
            lie.push_back(laid(*tables[task.items[i].form], layout.places[i].pose));
        if (const auto& wall = task.sheetOf(bin).blocked) {
            const geometry::Polygons blocked = laid(*wall, wallPose(*wall));
            for (std::size_t a = 0; a < in.size(); ++a)
                if (!task.items[in[a]].pinnedBin && !areApart(lie[a], blocked, kWallClearMm - kPassMm))
                    return false;
        }
        for (std::size_t a = 0; a < in.size(); ++a)
            for (std::size_t b = a + 1; b < in.size(); ++b) {
                const double reach = tables[task.items[in[a]].form]->radius() +
                                     tables[task.items[in[b]].form]->radius() + clearMm;
                const bool arePinned = task.items[in[a]].pinnedBin && task.items[in[b]].pinnedBin;
                if (!arePinned &&
                    geometry::distance(layout.places[in[a]].pose.at, layout.places[in[b]].pose.at) < reach &&
                    !areApart(lie[a], lie[b], std::max(0.0, clearMm - kPassMm)))
                    return false;
            }
    }
    return true;
}

} // namespace thinline::sheets
