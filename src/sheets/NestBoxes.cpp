// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Laying rectangles: an order is searched, not places.
//
// Where rectangles lie is told by the order in which they are taken: each goes onto the first sheet that has room for it, into the
// corner of a free rectangle where its lower edge comes to lie highest. Free rectangles are the largest ones that hold
// nothing; they overlap, and laying something cuts each of those it touches into up to four. So a layout follows from an
// order in some tens of microseconds, and the order is what is changed: two are exchanged, one is taken earlier or later, one
// is bound to lie this way or that. A change that is a little worse is kept now and then, less and less so (annealing);
// what counts is how many sheets are full, then how far the last
// one is used and how much lies on it.
//
// Sources: maximal rectangles: J. Jylanki, A Thousand Ways to Pack the Bin, 2010; annealing: S. Kirkpatrick, C. D. Gelatt,
// M. P. Vecchi, Optimization by Simulated Annealing, Science 220, 1983; both from memory.
#include "sheets/NestBoxes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;
using Tables = std::vector<std::shared_ptr<const NestTable>>;

constexpr double kRounding = 1e-7, kWarm = 0.001;
constexpr int kLooksPerStep = 6; // as long as the search by overlaps takes for one

/// A way an outline may lie so that it fills its box as well as it can.
struct Lying {
    double turnRad = 0;
    Box box; ///< about the outline's middle
};

/// The turns of an outline that matter here: the one whose box is smallest and, if it may, that one a quarter on.
std::vector<Lying> waysOf(const NestTable& table, NestTurns turns) {
    if (turns != NestTurns::Any)
        return {{0, table.boxAt(0)}}; // half a turn changes no rectangle
    const double tight = table.tightTurnRad(), quarter = std::numbers::pi / 2;
    const Box straight = table.boxAt(0), turned = table.boxAt(tight);
    const bool isStraight =
        straight.width() * straight.height() <= turned.width() * turned.height() * (1 + 1e-6);
    const double turn = isStraight ? 0 : tight;
    std::vector<Lying> out{{turn, table.boxAt(turn)}, {turn + quarter, table.boxAt(turn + quarter)}};
    if (std::abs(out[0].box.width() - out[1].box.width()) < 1e-6)
        out.pop_back();
    return out;
}

/// The free rectangles of a sheet. What is laid is as much larger as it keeps from others, and so is the sheet.
class FreeBoxes {
  public:
    void begin(const Box& all) { m_free.assign(1, all); }

    struct Place {
        double lower = INFINITY;
        Point at;
    };
    /// The place whose lower edge lies highest, the left one of several.
    void find(double width, double height, Place& best, bool& isBetter) const {
        for (const Box& free : m_free) {
            if (free.width() < width - kRounding || free.height() < height - kRounding)
                continue;
            const double lower = free.least.y + height;
            if (lower < best.lower - kRounding ||
                (lower < best.lower + kRounding && free.least.x < best.at.x - kRounding)) {
                best = {lower, free.least};
                isBetter = true;
            }
        }
    }
    void take(const Box& taken) {
        m_next.clear();
        m_cut.clear();
        for (const Box& free : m_free) {
            if (taken.least.x >= free.most.x - kRounding || taken.most.x <= free.least.x + kRounding ||
                taken.least.y >= free.most.y - kRounding || taken.most.y <= free.least.y + kRounding) {
                m_next.push_back(free);
                continue;
            }
            add({free.least, {taken.least.x, free.most.y}});
            add({{taken.most.x, free.least.y}, free.most});
            add({free.least, {free.most.x, taken.least.y}});
            add({{free.least.x, taken.most.y}, free.most});
        }
        // What was cut may lie in what was not, or in another one that was cut; never the other way round.
        for (std::size_t i = 0; i < m_cut.size(); ++i) {
            const auto holds = [&](const Box& other) {
                return other.least.x <= m_cut[i].least.x + kRounding &&
                       other.least.y <= m_cut[i].least.y + kRounding &&
                       other.most.x >= m_cut[i].most.x - kRounding &&
                       other.most.y >= m_cut[i].most.y - kRounding;
            };
            bool isHeld = std::any_of(m_next.begin(), m_next.end(), holds);
            for (std::size_t k = i + 1; !isHeld && k < m_cut.size(); ++k)
                isHeld = holds(m_cut[k]);
            if (!isHeld)
                m_next.push_back(m_cut[i]);
        }
        m_free.swap(m_next);
    }

  private:
    void add(const Box& box) {
        if (box.width() > kRounding && box.height() > kRounding)
            m_cut.push_back(box);
    }
    std::vector<Box> m_free, m_next, m_cut;
};

class Search {
  public:
    Search(const NestTask& task, const Tables& tables, NestLayout from, const NestBudget& budget,
           const std::function<void(const NestLayout&)>& publish, const base::Progress& progress)
        : m_task(task), m_tables(tables), m_budget(budget), m_publish(publish), m_progress(progress),
          m_random(budget.seed * 2654435761u + 777u), m_best(std::move(from)) {
        for (std::size_t i = 0; i < task.items.size(); ++i) {
            const NestTask::Item& item = task.items[i];
            m_ways.push_back(waysOf(*tables[item.form], task.turns));
            if (item.pinnedBin)
                m_pinned.push_back(i);
            else
                m_order.push_back(i);
        }
        m_bound.assign(task.items.size(), 0);
    }

    NestLayout run() {
        std::stable_sort(m_order.begin(), m_order.end(), [&](std::size_t a, std::size_t b) {
            return areaOf(m_ways[a][0].box) > areaOf(m_ways[b][0].box);
        });
        if (m_order.size() < 2)
            return m_best;
        double now = lay(INFINITY);
        keep();
        // A change may cost so much, in sheets; less and less.
        const double warm = kWarm * now;
        while (!isOver()) {
            const Change change = changed();
            const double most = now - warm * (1 - std::min(1.0, share())) * std::log(1 - uniform());
            if (const double next = lay(most); next <= most) {
                now = next;
                keep();
            } else {
                undo(change);
            }
        }
        return m_best;
    }

  private:
    double share() const { return m_budget.shareAfter(static_cast<double>(m_looks) / kLooksPerStep); }
    bool isOver() const { return m_progress.isCancelled() || share() >= 1; }
    double uniform() { return static_cast<double>(m_random() >> 11) * 0x1.0p-53; }
    std::size_t below(std::size_t count) { return static_cast<std::size_t>(m_random() % count); }
    static double areaOf(const Box& box) { return box.width() * box.height(); }

    /// What was done to the order, so that it can be taken back.
    struct Change {
        enum Kind { Swapped, Moved, Bound } kind = Swapped;
        std::size_t a = 0, b = 0;
        std::uint8_t before = 0;
    };
    void move(std::size_t from, std::size_t to) {
        const auto at = [this](std::size_t i) { return m_order.begin() + static_cast<std::ptrdiff_t>(i); };
        if (from < to)
            std::rotate(at(from), at(from + 1), at(to + 1));
        else
            std::rotate(at(to), at(from), at(from + 1));
    }
    Change changed() {
        Change out;
        out.a = below(m_order.size());
        const double kind = uniform();
        if (const std::size_t item = m_order[out.a]; kind < 0.2 && m_ways[item].size() > 1) {
            out.kind = Change::Bound;
            out.before = m_bound[item];
            m_bound[item] = static_cast<std::uint8_t>((out.before + 1 + below(2)) % 3);
            return out;
        }
        out.b = below(m_order.size() - 1);
        out.b += out.b >= out.a;
        out.kind = kind < 0.6 ? Change::Swapped : Change::Moved;
        if (out.kind == Change::Swapped)
            std::swap(m_order[out.a], m_order[out.b]);
        else
            move(out.a, out.b);
        return out;
    }
    void undo(const Change& change) {
        if (change.kind == Change::Bound)
            m_bound[m_order[change.a]] = change.before;
        else if (change.kind == Change::Swapped)
            std::swap(m_order[change.a], m_order[change.b]);
        else
            move(change.b, change.a);
    }

    FreeBoxes& sheet(std::size_t bin) {
        for (; m_used.size() <= bin; m_used.emplace_back()) {
            if (m_sheets.size() == m_used.size())
                m_sheets.emplace_back();
            Box all = m_task.usableOf(m_used.size());
            all.most = all.most + Point{m_task.clearMm, m_task.clearMm};
            m_sheets[m_used.size()].begin(all);
        }
        return m_sheets[bin];
    }
    void takeBox(std::size_t bin, const Box& box) {
        sheet(bin).take({box.least, box.most + Point{m_task.clearMm, m_task.clearMm}});
        m_now.bins = std::max(m_now.bins, bin + 1);
        m_used[bin].lower = std::max(m_used[bin].lower, box.most.y - m_task.usableOf(bin).least.y);
        m_used[bin].area += areaOf(box);
    }

    /// What the sheets so far come to: those that are full, and the mean of how far and how much the last is used.
    double cost() const {
        const Box& last = m_task.usableOf(m_now.bins - 1);
        const Used& used = m_used[m_now.bins - 1];
        return static_cast<double>(m_now.bins - 1) +
               0.5 * (used.lower / last.height() + used.area / areaOf(last));
    }
    /// Lays all in their order. Returns what it comes to, or more than `most` as soon as it is more.
    double lay(double most) {
        m_used.clear();
        m_now.bins = 0;
        m_now.places.resize(m_task.items.size());
        for (const std::size_t item : m_pinned) {
            const NestTask::Item& one = m_task.items[item];
            const Box box = m_tables[one.form]->boxAt(one.pinned.turnRad);
            m_now.places[item] = {*one.pinnedBin, one.pinned};
            takeBox(*one.pinnedBin, {box.least + one.pinned.at - Point{m_task.clearMm, m_task.clearMm},
                                     box.most + one.pinned.at});
        }
        for (const std::size_t item : m_order)
            if (!place(item) || cost() > most) // it only grows
                return INFINITY;
        m_now.lastLengthMm = m_used[m_now.bins - 1].lower;
        return cost();
    }
    bool place(std::size_t item) {
        for (std::size_t bin = 0; bin <= m_best.bins; ++bin) {
            ++m_looks;
            const FreeBoxes& on = sheet(bin);
            FreeBoxes::Place best;
            std::size_t way = 0;
            for (std::size_t w = 0; w < m_ways[item].size(); ++w) {
                if (m_bound[item] != 0 && m_bound[item] != w + 1)
                    continue;
                const Box& box = m_ways[item][w].box;
                bool isBetter = false;
                on.find(box.width() + m_task.clearMm, box.height() + m_task.clearMm, best, isBetter);
                if (isBetter)
                    way = w;
            }
            if (std::isinf(best.lower))
                continue;
            const Lying& lying = m_ways[item][way];
            m_now.places[item] = {bin, NestPose::of(best.at - lying.box.least, lying.turnRad)};
            takeBox(bin, {best.at, best.at + Point{lying.box.width(), lying.box.height()}});
            return true;
        }
        return false;
    }

    void keep() {
        if (!m_now.isBetterThan(m_best) || !isSound(m_task, m_tables, m_now, m_task.clearMm))
            return;
        m_best = m_now;
        if (m_publish)
            m_publish(m_best);
    }

    struct Used {
        double lower = 0, area = 0;
    };
    const NestTask& m_task;
    const Tables& m_tables;
    const NestBudget& m_budget;
    const std::function<void(const NestLayout&)>& m_publish;
    const base::Progress& m_progress;
    std::mt19937_64 m_random;
    long long m_looks = 0;                  ///< for room on a sheet
    std::vector<std::vector<Lying>> m_ways; ///< of every item
    std::vector<std::uint8_t> m_bound;      ///< of every item: 0 as it fits, or its way plus one
    std::vector<std::size_t> m_pinned, m_order;
    std::vector<FreeBoxes> m_sheets;
    std::vector<Used> m_used;
    NestLayout m_now, m_best;
};

} // namespace

double boxShare(const NestTask& task, const Tables& tables) {
    if (task.hasWalls())
        return 0;
    double boxes = 0, filled = 0;
    for (const NestTask::Item& item : task.items) {
        if (item.pinnedBin)
            continue;
        if (task.forms[item.form].onlyTurnRad)
            return 0;
        const NestTable& table = *tables[item.form];
        const Box box = waysOf(table, task.turns)[0].box;
        boxes += box.width() * box.height();
        filled += table.area();
    }
    return boxes > 0 ? filled / boxes : 0;
}

NestLayout nestBoxes(const NestTask& task, const Tables& tables, NestLayout from, const NestBudget& budget,
                     const std::function<void(const NestLayout&)>& publish, const base::Progress& progress) {
    return Search(task, tables, std::move(from), budget, publish, progress).run();
}

} // namespace thinline::sheets
