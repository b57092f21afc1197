// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How the way through many outlines is made short.
//
// It is the path of a travelling salesman whose towns have a place of arrival and one of departure, the same for a closed
// outline, the two ends of an open line. The length of a stretch of the path does not change when it is walked backwards,
// because then every open line is drawn from its other end: so the two classic moves hold as they are. A stretch is
// turned round (2-opt, Croes 1958), or up to three visits are taken out and put in elsewhere, turned or not (Or 1976).
//
// Beginning: always to the nearest one that is left. Then the moves, but only those that join a visit to one of its ten
// nearest (Bentley 1992): every improving move has a new link shorter than one it takes away. A visit is looked at again only
// when something beside it changed.
//
// Below six hundred visits there is time for more: a stretch of the path is cut in three and put together in another order
// (a double bridge within fifty visits, Martin, Otto, Felten 1991), the moves mend what that left, and what did not come
// out shorter is undone. Steps are counted and chance is seeded, so the same input gives the same way.
//
// Where a closed outline has several places to begin, they are chosen last: along a given order the best choice is a
// shortest path through the layers of gates. Then the moves again; two or three rounds settle it.
#include "cutplan/Tour.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <random>

namespace thinline::cutplan {
namespace {

using geometry::distance;
using geometry::Point;

constexpr size_t kNeighbours = 10;
constexpr size_t kLongestMoved = 3;
constexpr size_t kFew = 600; ///< for fewer, kicks
constexpr double kLess = 1e-9;

/// The places of all gates in cells, to find what is near.
class Places {
  public:
    explicit Places(const std::vector<Visit>& visits) {
        geometry::Box box;
        size_t count = 0;
        for (const Visit& visit : visits)
            for (const Gate& gate : visit.gates) {
                box.include(gate.in);
                ++count;
            }
        m_least = box.least;
        m_cell = std::max(1e-6, std::sqrt(std::max(box.width(), 1e-3) * std::max(box.height(), 1e-3) /
                                          static_cast<double>(std::max<size_t>(count, 1))) *
                                    1.5);
        m_across = static_cast<int>(std::min(4000.0, box.width() / m_cell)) + 1;
        m_down = static_cast<int>(std::min(4000.0, box.height() / m_cell)) + 1;
        m_cell = std::max({m_cell, box.width() / m_across * 1.000001, box.height() / m_down * 1.000001});
        m_cells.resize(static_cast<size_t>(m_across) * static_cast<size_t>(m_down));
        for (size_t v = 0; v < visits.size(); ++v)
            for (const Gate& gate : visits[v].gates)
                cellOf(gate.in).push_back({v, gate.in});
    }

    void takeOut(size_t visit, const Visit& of) {
        for (const Gate& gate : of.gates)
            std::erase_if(cellOf(gate.in), [&](const Entry& one) { return one.visit == visit; });
    }

    /// Calls `look(visit, distance)` for everything in growing rings of cells, until `isEnough(ring's distance)`.
    template <class Look, class Enough>
    void around(Point p, const Look& look, const Enough& isEnough) const {
        const int x = column(p), y = row(p), most = std::max(m_across, m_down);
        for (int ring = 0; ring <= most; ++ring) {
            if (ring > 0 && isEnough((ring - 1) * m_cell))
                return;
            for (int dy = -ring; dy <= ring; ++dy) {
                const int step = std::abs(dy) == ring ? 1 : std::max(1, 2 * ring);
                for (int dx = -ring; dx <= ring; dx += step) {
                    const int cx = x + dx, cy = y + dy;
                    if (cx < 0 || cy < 0 || cx >= m_across || cy >= m_down)
                        continue;
                    for (const Entry& one : m_cells[static_cast<size_t>(cy) * static_cast<size_t>(m_across) +
                                                    static_cast<size_t>(cx)])
                        look(one.visit, distance(one.at, p));
                }
            }
        }
    }

  private:
    struct Entry {
        size_t visit;
        Point at;
    };
    int column(Point p) const {
        return std::clamp(static_cast<int>((p.x - m_least.x) / m_cell), 0, m_across - 1);
    }
    int row(Point p) const { return std::clamp(static_cast<int>((p.y - m_least.y) / m_cell), 0, m_down - 1); }
    std::vector<Entry>& cellOf(Point p) {
        return m_cells[static_cast<size_t>(row(p)) * static_cast<size_t>(m_across) +
                       static_cast<size_t>(column(p))];
    }

    Point m_least;
    double m_cell = 1;
    int m_across = 1, m_down = 1;
    std::vector<std::vector<Entry>> m_cells;
};

/// A way through all visits while it is made shorter.
class Walk {
  public:
    Walk(const std::vector<Visit>& visits, Point from, const TourOptions& options,
         const base::Progress& progress)
        : m_visits(visits), m_from(from), m_options(options), m_progress(progress), m_gate(visits.size(), 0),
          m_at(visits.size(), 0), m_isQueued(visits.size(), 0) {
        begin();
        findNeighbours();
    }

    void shorten() {
        for (int round = 0; round < 3 && !m_progress.isCancelled(); ++round) {
            const double before = length();
            for (const size_t visit : m_order)
                ask(visit);
            settle();
            if (m_order.size() <= kFew)
                kick(static_cast<size_t>(m_options.kicks) * m_order.size() / (round == 0 ? 1 : 4));
            chooseGates();
            if (length() > before - 1e-6)
                break;
        }
    }

    Tour tour() const {
        Tour out{m_order, {}, length()};
        for (const size_t visit : m_order)
            out.gates.push_back(m_gate[visit]);
        return out;
    }

  private:
    struct Near {
        double awayMm;
        size_t visit;
    };

    // ---- the path

    const Gate& gate(size_t visit) const { return m_visits[visit].gates[m_gate[visit]]; }
    Point in(size_t place) const { return gate(m_order[place]).in; }
    Point out(size_t place) const { return gate(m_order[place]).out; }
    /// Where the tool is before it comes to a place.
    Point before(size_t place) const { return place == 0 ? m_from : out(place - 1); }
    /// How far it is from a point to what stands at a place; nothing behind the last.
    double to(Point p, size_t place) const { return place < m_order.size() ? distance(p, in(place)) : 0; }
    double length() const {
        double sum = 0;
        for (size_t i = 0; i < m_order.size(); ++i)
            sum += distance(before(i), in(i));
        return sum;
    }

    void begin() {
        Places left(m_visits);
        Point at = m_from;
        for (size_t n = 0; n < m_visits.size() && !m_progress.isCancelled(); ++n) {
            double nearest = 1e300;
            size_t best = 0;
            left.around(
                at,
                [&](size_t visit, double away) {
                    if (away < nearest || (away == nearest && visit < best)) {
                        nearest = away;
                        best = visit;
                    }
                },
                [&](double ring) { return nearest <= ring; });
            const auto& gates = m_visits[best].gates;
            for (size_t g = 0; g < gates.size(); ++g)
                if (distance(gates[g].in, at) <= nearest + kLess) {
                    m_gate[best] = g;
                    break;
                }
            left.takeOut(best, m_visits[best]);
            m_order.push_back(best);
            at = gate(best).out;
        }
        number(0, m_order.size());
    }

    void findNeighbours() {
        const Places all(m_visits);
        m_near.resize(m_visits.size());
        for (size_t v = 0; v < m_visits.size() && !m_progress.isCancelled(); ++v) {
            std::vector<std::pair<double, size_t>> found;
            for (const Gate& g : m_visits[v].gates) {
                std::vector<std::pair<double, size_t>> here; // the nearest places, and whose they are
                all.around(
                    g.in,
                    [&](size_t visit, double away) {
                        if (visit != v)
                            here.push_back({away, visit});
                    },
                    [&](double ring) {
                        return here.size() >= kNeighbours &&
                               std::count_if(here.begin(), here.end(), [&](const auto& one) {
                                   return one.first <= ring;
                               }) >= static_cast<std::ptrdiff_t>(kNeighbours);
                    });
                found.insert(found.end(), here.begin(), here.end());
                if (!m_visits[v].isOpen)
                    break; // the gates of a closed one lie close to one another
            }
            std::sort(found.begin(), found.end());
            for (const auto& next : found) {
                if (m_near[v].size() == kNeighbours)
                    break;
                if (std::none_of(m_near[v].begin(), m_near[v].end(),
                                 [&](const Near& one) { return one.visit == next.second; }))
                    m_near[v].push_back({next.first, next.second});
            }
        }
    }

    void number(size_t from, size_t to) {
        for (size_t i = from; i < to; ++i)
            m_at[m_order[i]] = i;
    }

    // ---- moves

    void ask(size_t visit) {
        if (!m_isQueued[visit]) {
            m_isQueued[visit] = 1;
            m_queue.push_back(visit);
        }
    }
    void askAround(size_t place) {
        for (size_t i = place > 0 ? place - 1 : 0; i < std::min(place + 2, m_order.size()); ++i)
            ask(m_order[i]);
    }

    void settle() {
        while (!m_queue.empty() && !m_progress.isCancelled()) {
            const size_t visit = m_queue.front();
            m_queue.pop_front();
            m_isQueued[visit] = 0;
            while (improve(visit)) {
            }
        }
        for (const size_t visit : m_queue)
            m_isQueued[visit] = 0;
        m_queue.clear();
    }

    bool improve(size_t visit) {
        const size_t here = m_at[visit];
        const double longest = std::max(distance(before(here), in(here)), to(out(here), here + 1));
        for (const auto& [away, other] : m_near[visit]) {
            if (away >= longest)
                break;
            const size_t i = m_at[visit], j = m_at[other];
            if (turn(std::min(i, j) + 1, std::max(i, j)))
                return true;
            if (std::max(i, j) > 0 && turn(std::min(i, j), std::max(i, j) - 1))
                return true;
            if (moveTo(i, j))
                return true;
        }
        // The way to the end of the path may be turned without a new neighbour.
        return turn(here, m_order.size() - 1) ||
               (here + 1 < m_order.size() && turn(here + 1, m_order.size() - 1));
    }

    double gainOfTurning(size_t i, size_t j) const {
        return distance(before(i), in(i)) + to(out(j), j + 1) - distance(before(i), out(j)) -
               to(in(i), j + 1);
    }
    void reverse(size_t i, size_t j) {
        std::reverse(m_order.begin() + static_cast<std::ptrdiff_t>(i),
                     m_order.begin() + static_cast<std::ptrdiff_t>(j) + 1);
        for (size_t k = i; k <= j; ++k) {
            const size_t visit = m_order[k];
            if (m_visits[visit].isOpen)
                m_gate[visit] ^= 1;
        }
        number(i, j + 1);
    }
    bool turn(size_t i, size_t j) {
        if (i >= j || gainOfTurning(i, j) <= kLess)
            return false;
        reverse(i, j);
        askAround(i);
        askAround(j);
        return true;
    }

    /// Takes up to three visits that begin or end at place i and puts them beside place j, turned or not.
    bool moveTo(size_t i, size_t j) {
        for (size_t count = 1; count <= kLongestMoved; ++count)
            for (const bool endsThere : {false, true}) {
                if (count == 1 && endsThere)
                    continue;
                const size_t first = endsThere ? i - (count - 1) : i, last = first + count - 1;
                if ((endsThere && i + 1 < count) || last >= m_order.size() || (j >= first && j <= last))
                    continue;
                for (const bool isBehind : {false, true}) // of what stands at j
                    if (moveBetween(first, last, isBehind ? j + 1 : j))
                        return true;
            }
        return false;
    }

    /// Puts what stands from `first` to `last` before what stands at `place`.
    bool moveBetween(size_t first, size_t last, size_t place) {
        if (place >= first && place <= last + 1)
            return false;
        const double freed =
            distance(before(first), in(first)) + to(out(last), last + 1) - to(before(first), last + 1);
        const Point ahead = before(place);
        const double base = to(ahead, place);
        const double asIs = distance(ahead, in(first)) + to(out(last), place) - base;
        const double turned = distance(ahead, out(last)) + to(in(first), place) - base;
        if (freed - std::min(asIs, turned) <= kLess)
            return false;
        if (turned < asIs)
            reverse(first, last);
        const auto at = [&](size_t k) { return m_order.begin() + static_cast<std::ptrdiff_t>(k); };
        if (place > last)
            std::rotate(at(first), at(last + 1), at(place));
        else
            std::rotate(at(place), at(first), at(last + 1));
        number(std::min(first, place), std::max(last + 1, place));
        const size_t count = last - first + 1, now = place > last ? place - count : place;
        askAround(first);
        askAround(std::min(last, m_order.size() - 1));
        askAround(now);
        askAround(now + count - 1);
        return true;
    }

    // ---- kicks

    void kick(size_t times) {
        const size_t n = m_order.size();
        if (n < 8)
            return;
        std::mt19937_64 chance(1);
        const auto pick = [&](size_t below) { return static_cast<size_t>(chance() % below); };
        double best = length();
        for (size_t k = 0; k < times && !m_progress.isCancelled(); ++k) {
            const auto order = m_order;
            const auto gates = m_gate;
            const size_t span = std::min<size_t>(50, n), start = pick(n - span + 1);
            std::array<size_t, 3> cut{start + pick(span), start + pick(span), start + pick(span)};
            std::sort(cut.begin(), cut.end());
            if (cut[0] == cut[1] || cut[1] == cut[2])
                continue;
            const auto at = [&](size_t i) { return m_order.begin() + static_cast<std::ptrdiff_t>(i); };
            std::rotate(at(cut[0]), at(cut[1]), at(cut[2]));
            number(cut[0], cut[2]);
            for (const size_t place : {cut[0], cut[0] + cut[2] - cut[1], cut[2]})
                askAround(std::min(place, n - 1));
            settle();
            const double now = length();
            if (now < best - kLess) {
                best = now;
            } else {
                m_order = order;
                m_gate = gates;
                number(0, n);
            }
        }
    }

    /// Along this order, the gates of the shortest way.
    void chooseGates() {
        std::vector<std::vector<double>> lengths(m_order.size());
        std::vector<std::vector<size_t>> cameBy(m_order.size());
        for (size_t i = 0; i < m_order.size(); ++i) {
            const auto& gates = m_visits[m_order[i]].gates;
            lengths[i].assign(gates.size(), 1e300);
            cameBy[i].assign(gates.size(), 0);
            const size_t before = i == 0 ? 1 : lengths[i - 1].size();
            for (size_t g = 0; g < gates.size(); ++g)
                for (size_t h = 0; h < before; ++h) {
                    const double there =
                        i == 0 ? distance(m_from, gates[g].in)
                               : lengths[i - 1][h] +
                                     distance(m_visits[m_order[i - 1]].gates[h].out, gates[g].in);
                    if (there < lengths[i][g]) {
                        lengths[i][g] = there;
                        cameBy[i][g] = h;
                    }
                }
        }
        if (m_order.empty())
            return;
        const auto& last = lengths.back();
        auto best = static_cast<size_t>(std::min_element(last.begin(), last.end()) - last.begin());
        for (size_t i = m_order.size(); i-- > 0;) {
            m_gate[m_order[i]] = best;
            best = cameBy[i][best];
        }
    }

    const std::vector<Visit>& m_visits;
    const Point m_from;
    const TourOptions& m_options;
    const base::Progress& m_progress;
    std::vector<size_t> m_order;
    std::vector<size_t> m_gate; ///< of each visit
    std::vector<size_t> m_at;   ///< where each stands in the order
    std::vector<std::vector<Near>> m_near;
    std::deque<size_t> m_queue;
    std::vector<char> m_isQueued;
};

} // namespace

double travelOf(const std::vector<Visit>& visits, const Tour& tour, Point from) {
    double sum = 0;
    for (size_t i = 0; i < tour.order.size(); ++i) {
        const Gate& gate = visits[tour.order[i]].gates[tour.gates[i]];
        sum += distance(from, gate.in);
        from = gate.out;
    }
    return sum;
}

base::Result<Tour> shortTour(const std::vector<Visit>& visits, Point from, const TourOptions& options,
                             const base::Progress& progress) {
    for (const Visit& visit : visits) {
        if (visit.gates.empty() || (visit.isOpen && visit.gates.size() != 2))
            return base::Error{base::Code::InvalidArgument, "Something to be done has no place to begin."};
        for (const Gate& gate : visit.gates)
            if (!geometry::isFinite(gate.in) || !geometry::isFinite(gate.out))
                return base::Error{base::Code::InvalidArgument,
                                   "Something to be done begins at a place that is no number."};
    }
    Walk walk(visits, from, options, progress);
    walk.shorten();
    if (progress.isCancelled())
        return base::cancelled();
    return walk.tour();
}

} // namespace thinline::cutplan
