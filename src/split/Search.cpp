// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How a division is found.
//
// The shape is taken as triangles whose sides are the places where it can be cut (split/Net.h): every side that is no
// edge is a straight chord, and has a price. Short chords across necks are what a Delaunay triangulation consists of,
// so no skeleton is needed to find them. A division says of every triangle to which part it belongs; its price is what
// the sides between parts cost, and a great deal for every part.
//
// A part must fit the room, turned any way. That is no property of single triangles. So parts are grown inside
// rectangles of the room's size, laid over the shape: a triangle may belong to a rectangle when its corners lie in it.
// Given some rectangles, where the seams go between them is the cheapest labelling, found by expanding one rectangle
// after the other: which triangles it takes over from the others is a cheapest cut in a network (Boykov, Veksler,
// Zabih 2001), exact, in half a millisecond. What comes out is split into connected parts, neighbours that fit the
// room together are joined, and then it is priced.
//
// Where the rectangles lie is searched. Beginnings of four kinds (split/Starts.cpp) are priced; the best four are
// improved: some part, some rectangle around it that lies differently, expanded; kept if cheaper. Every labelling ever
// priced is asked whether it is the best of its number of parts and thin cuts, so that a person may choose fewer thin
// cuts for more parts.
//
// Whether a seam leaves a sliver beside it is dear to know, so only seams that were chosen are asked; what comes out
// goes into their price, and the search goes on from there, a few times.
//
// Budgets are counts of steps and the chance is seeded: the same input gives the same result.
#include "split/Search.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace thinline::split {

using geometry::Point;
using geometry::Polygon;

namespace {
constexpr double kUnfit = 50000; ///< of a part that does not fit: worse than any number of parts
}

Search::Search(Net& net, const Room& room, const Options& options, SliverCount slivers,
               const base::Progress& progress)
    : m_net(net), m_room{room.widthMm - options.inHandMm, room.heightMm - options.inHandMm},
      m_options(options), m_slivers(std::move(slivers)), m_progress(progress), m_random(options.seed) {
    for (const double area : net.areaMm2)
        m_area += area;
    m_around.resize(net.corners.size());
    for (size_t t = 0; t < net.triangles.size(); ++t)
        for (const int c : net.triangles[t])
            m_around[static_cast<size_t>(c)].push_back(static_cast<int>(t));
    for (size_t c = 0; c < net.corners.size(); ++c)
        m_order.push_back(static_cast<int>(c));
    const auto at = [&](int c) { return net.corners[static_cast<size_t>(c)].at; };
    std::sort(m_order.begin(), m_order.end(),
              [&](int a, int b) { return at(a).x < at(b).x || (at(a).x == at(b).x && at(a).y < at(b).y); });
    m_isHeld.resize(net.corners.size());
}

// ---- one expansion ----------------------------------------------------------------------------------------

std::vector<int> Search::heldBy(const Pose& pose) {
    for (size_t c = 0; c < m_isHeld.size(); ++c)
        m_isHeld[c] = pose.holds(m_net.corners[c].at) ? 1 : 0;
    std::vector<int> out;
    for (size_t t = 0; t < m_net.triangles.size(); ++t) {
        const auto& corner = m_net.triangles[t];
        if (m_isHeld[static_cast<size_t>(corner[0])] && m_isHeld[static_cast<size_t>(corner[1])] &&
            m_isHeld[static_cast<size_t>(corner[2])])
            out.push_back(static_cast<int>(t));
    }
    return out;
}

std::vector<int> Search::expanded(const std::vector<int>& labels, const std::vector<int>& held, int own) {
    std::vector<int> out = labels;
    const int taken = *std::max_element(labels.begin(), labels.end()) + 1;
    for (int& label : out)
        if (label == own)
            label = taken;
    std::vector<int> node(out.size(), -1);
    std::vector<int> free;
    for (const int t : held)
        if (out[static_cast<size_t>(t)] != taken) {
            node[static_cast<size_t>(t)] = static_cast<int>(free.size());
            free.push_back(t);
        }
    if (free.empty())
        return out;
    m_flow.reset(static_cast<int>(free.size()));
    for (size_t i = 0; i < free.size(); ++i) {
        const int t = free[i];
        double ifKept = 0, ifTaken = 0;
        for (const int a : m_net.arcsOf[static_cast<size_t>(t)]) {
            if (a < 0)
                continue;
            const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
            const int other = arc.left == t ? arc.right : arc.left;
            const int mine = out[static_cast<size_t>(t)], theirs = out[static_cast<size_t>(other)];
            const int there = node[static_cast<size_t>(other)];
            if (there < 0) {
                ifKept += mine == theirs ? 0 : arc.price;
                ifTaken += theirs == taken ? 0 : arc.price;
            } else if (
                mine !=
                theirs) { // cut unless both are taken: paid by the first when it is kept, else by the way
                if (t < other) {
                    ifKept += arc.price;
                    m_flow.addArc(static_cast<int>(i), there, arc.price, 0);
                }
            } else if (t < other) {
                m_flow.addArc(static_cast<int>(i), there, arc.price, arc.price);
            }
        }
        m_flow.addTerminal(static_cast<int>(i), ifKept, ifTaken);
    }
    m_flow.run();
    for (size_t i = 0; i < free.size(); ++i)
        if (m_flow.isNear(static_cast<int>(i)))
            out[static_cast<size_t>(free[i])] = taken;
    return out;
}

// ---- from labels to parts ---------------------------------------------------------------------------------

namespace {

/// The hull of points from left to right (Andrew 1979).
Polygon hullOfSorted(const Polygon& points) {
    if (points.size() < 3)
        return points;
    Polygon out(2 * points.size());
    size_t n = 0;
    const auto add = [&](Point p, size_t least) {
        while (n >= least && geometry::cross(out[n - 1] - out[n - 2], p - out[n - 2]) <= 0)
            --n;
        out[n++] = p;
    };
    for (const Point p : points)
        add(p, 2);
    const size_t there = n + 1;
    for (size_t i = points.size() - 1; i-- > 0;)
        add(points[i], there);
    out.resize(n - 1);
    return out;
}

} // namespace

std::vector<Polygon> Search::hullsOf(const std::vector<int>& part, int parts) const {
    std::vector<Polygon> out(static_cast<size_t>(parts));
    std::vector<int> last(static_cast<size_t>(parts), -1);
    for (Polygon& one : out)
        one.reserve(2 * m_order.size() / static_cast<size_t>(std::max(parts, 1)) + 8);
    for (const int c : m_order)
        for (const int t : m_around[static_cast<size_t>(c)]) {
            const auto p = static_cast<size_t>(part[static_cast<size_t>(t)]);
            if (last[p] == c)
                continue;
            last[p] = c;
            out[p].push_back(m_net.corners[static_cast<size_t>(c)].at);
        }
    for (Polygon& one : out)
        one = hullOfSorted(one);
    return out;
}

/// Parts while they are joined.
struct Joining {
    Polygon hull;
    double area = 0;
    int into = -1; ///< the part it was joined to
};

namespace {

struct Border {
    int a, b;
    double price = 0;
    bool isRefused = false;
};

int rootOf(const std::vector<Joining>& parts, int i) {
    while (parts[static_cast<size_t>(i)].into >= 0)
        i = parts[static_cast<size_t>(i)].into;
    return i;
}

/// The borders anew after two parts became one.
std::vector<Border> together(const std::vector<Joining>& parts, const std::vector<Border>& borders,
                             int changed) {
    std::vector<Border> out;
    std::map<int, size_t> ofChanged;
    for (const Border& border : borders) {
        const int a = rootOf(parts, border.a), b = rootOf(parts, border.b);
        if (a == b)
            continue;
        if (a != changed && b != changed) {
            out.push_back(border);
            continue;
        }
        const int other = a == changed ? b : a;
        if (const auto at = ofChanged.find(other); at != ofChanged.end()) {
            out[at->second].price += border.price;
        } else {
            ofChanged[other] = out.size();
            out.push_back({changed, other, border.price});
        }
    }
    return out;
}

} // namespace

std::vector<double> Search::partedAreas(const std::vector<int>& labels, std::vector<int>& part) const {
    std::vector<double> areas;
    std::vector<int> open;
    part.assign(labels.size(), -1);
    for (size_t start = 0; start < labels.size(); ++start) {
        if (part[start] >= 0)
            continue;
        const int number = static_cast<int>(areas.size());
        areas.push_back(0);
        open.assign(1, static_cast<int>(start));
        part[start] = number;
        while (!open.empty()) {
            const auto t = static_cast<size_t>(open.back());
            open.pop_back();
            areas.back() += m_net.areaMm2[t];
            for (const int a : m_net.arcsOf[t]) {
                if (a < 0)
                    continue;
                const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
                const auto other =
                    static_cast<size_t>(arc.left == static_cast<int>(t) ? arc.right : arc.left);
                if (part[other] < 0 && labels[other] == labels[t]) {
                    part[other] = number;
                    open.push_back(static_cast<int>(other));
                }
            }
        }
    }
    return areas;
}

/// Joins neighbours that fit the room together, the dearest border first.
void Search::join(std::vector<Joining>& parts, const std::vector<int>& part) const {
    std::map<std::pair<int, int>, double> between;
    for (const Arc& arc : m_net.arcs) {
        const int a = part[static_cast<size_t>(arc.left)], b = part[static_cast<size_t>(arc.right)];
        if (a != b)
            between[{std::min(a, b), std::max(a, b)}] += arc.price;
    }
    std::vector<Border> borders;
    for (const auto& [pair, price] : between)
        borders.push_back({pair.first, pair.second, price});
    const double roomMm2 = m_room.widthMm * m_room.heightMm;
    for (bool isChanged = true; isChanged;) {
        isChanged = false;
        std::stable_sort(borders.begin(), borders.end(),
                         [](const Border& a, const Border& b) { return a.price > b.price; });
        for (Border& border : borders) {
            if (border.isRefused)
                continue;
            Joining &a = parts[static_cast<size_t>(border.a)], &b = parts[static_cast<size_t>(border.b)];
            border.isRefused = true;
            if (a.area + b.area > roomMm2)
                continue;
            Polygon both = a.hull;
            both.insert(both.end(), b.hull.begin(), b.hull.end());
            both = geometry::convexHull(std::move(both));
            if (!fits(both, m_room))
                continue;
            a.hull = std::move(both);
            a.area += b.area;
            b.into = border.a;
            borders = together(parts, borders, border.a);
            isChanged = true;
            break;
        }
    }
}

Labelling Search::settled(const std::vector<int>& labels) {
    Labelling out;
    const std::vector<double> areas = partedAreas(labels, out.part);
    std::vector<Polygon> hulls = hullsOf(out.part, static_cast<int>(areas.size()));
    std::vector<Joining> parts;
    for (size_t i = 0; i < areas.size(); ++i)
        parts.push_back({std::move(hulls[i]), areas[i]});
    join(parts, out.part);
    std::vector<int> number(parts.size(), -1);
    for (int& part : out.part) {
        int& mine = number[static_cast<size_t>(rootOf(parts, part))];
        if (mine < 0)
            mine = out.parts++;
        part = mine;
    }
    std::vector<double> joined;
    for (const Joining& part : parts) {
        if (part.into >= 0)
            continue;
        joined.push_back(part.area);
        out.unfit += fits(part.hull, m_room) ? 0 : 1;
    }
    out.price = priceOf(joined) + kUnfit * out.unfit;
    addSeams(out);
    remember(out);
    return out;
}

/// The seams between every two parts.
std::map<std::pair<int, int>, std::vector<int>> Search::bordersOf(const Labelling& labelling) const {
    std::map<std::pair<int, int>, std::vector<int>> out;
    for (const int a : cutsOf(labelling)) {
        const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
        out[std::minmax(labelling.part[static_cast<size_t>(arc.left)],
                        labelling.part[static_cast<size_t>(arc.right)])]
            .push_back(a);
    }
    return out;
}

/// Whether a seam goes round the root of a thin place in short steps: it holds no better than the place itself.
bool Search::isEvasive(const std::vector<int>& border) const {
    constexpr double kShort = 3; // times what is thin
    double lengthMm = 0;
    for (const int a : border) {
        if (m_net.arcs[static_cast<size_t>(a)].isThin)
            return false; // it is called thin already
        lengthMm += m_net.arcs[static_cast<size_t>(a)].lengthMm;
    }
    return border.size() > 1 && lengthMm < kShort * m_options.thinMm;
}

void Search::addSeams(Labelling& labelling) const {
    labelling.thin = 0;
    for (const auto& [parts, border] : bordersOf(labelling)) {
        for (const int a : border) {
            labelling.price += m_net.arcs[static_cast<size_t>(a)].price;
            labelling.thin += m_net.arcs[static_cast<size_t>(a)].isThin ? 1 : 0;
        }
        if (isEvasive(border)) {
            labelling.price += m_options.prices.thin;
            ++labelling.thin;
        }
    }
}

/// What parts of these areas cost, without their seams.
double Search::priceOf(const std::vector<double>& areas) const {
    double out = m_options.prices.part * static_cast<double>(areas.size());
    for (const double area : areas)
        if (area < m_options.leastPartMm2 && m_area > 2 * m_options.leastPartMm2)
            out += m_options.prices.tiny;
    return out;
}

void Search::remember(const Labelling& labelling) {
    if (labelling.unfit > 0)
        return;
    Labelling& held = m_best[{labelling.parts, labelling.thin}];
    if (labelling.price < held.price - 1e-9)
        held = labelling;
}

std::vector<int> Search::cutsOf(const Labelling& labelling) const {
    std::vector<int> out;
    for (size_t a = 0; a < m_net.arcs.size(); ++a)
        if (labelling.part[static_cast<size_t>(m_net.arcs[a].left)] !=
            labelling.part[static_cast<size_t>(m_net.arcs[a].right)])
            out.push_back(static_cast<int>(a));
    return out;
}

std::vector<Labelling> Search::best() const {
    std::vector<Labelling> out;
    for (const auto& best : m_best) { // fewest parts first
        const Labelling& labelling = best.second;
        const auto isBeaten = std::any_of(
            out.begin(), out.end(), [&](const Labelling& other) { return other.thin <= labelling.thin; });
        if (!isBeaten)
            out.push_back(labelling);
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const Labelling& a, const Labelling& b) { return a.price < b.price; });
    return out;
}

// ---- improving --------------------------------------------------------------------------------------------

std::optional<Pose> Search::poseAround(const Polygon& hull) {
    for (int tries = 0; tries < 24; ++tries) {
        double turn = random() * 3.14159265358979;
        if (tries % 2 == 1) {
            const size_t i = static_cast<size_t>(random() * static_cast<double>(hull.size()));
            const Point side = hull[(i + 1) % hull.size()] - hull[i];
            turn = std::atan2(side.y, side.x) + (random() < 0.5 ? 0 : 1.57079632679490);
        }
        const Extents e = extentsOf(hull, turn);
        const double slackX = m_room.widthMm - e.width(), slackY = m_room.heightMm - e.height();
        if (slackX < 0 || slackY < 0)
            continue;
        const auto within = [&](double slack) {
            const double pick = random();
            return (pick < 0.3 ? -0.5 : pick < 0.6 ? 0.5 : random() - 0.5) * slack;
        };
        const double x = (e.leastX + e.mostX) / 2 + within(slackX),
                     y = (e.leastY + e.mostY) / 2 + within(slackY);
        const double cos = std::cos(turn), sin = std::sin(turn);
        return Pose::at({x * cos - y * sin, x * sin + y * cos}, turn, m_room.widthMm + 1e-6,
                        m_room.heightMm + 1e-6);
    }
    return std::nullopt;
}

Labelling Search::improved(Labelling from, int rounds) {
    std::vector<Polygon> hulls = hullsOf(from.part, from.parts);
    // A third of the rounds without gain, and the rest would bring none either.
    for (int round = 0, last = 0;
         round < rounds && round - last < (rounds + 2) / 3 && from.parts > 1 && !isCancelled(); ++round) {
        const int part = static_cast<int>(random() * from.parts);
        const auto pose = poseAround(hulls[static_cast<size_t>(part)]);
        if (!pose)
            continue;
        Labelling next = settled(expanded(from.part, heldBy(*pose), part));
        if (next.price < from.price - 1e-6) {
            from = std::move(next);
            hulls = hullsOf(from.part, from.parts);
            last = round;
        }
    }
    return from;
}

bool Search::checkSlivers() {
    bool isDearer = false;
    for (const Labelling& labelling : best()) {
        // The cheapest cut knows single sides only: those of an evasive seam share what it costs.
        for (const auto& [parts, border] : bordersOf(labelling))
            if (isEvasive(border)) {
                for (const int a : border)
                    m_net.arcs[static_cast<size_t>(a)].price +=
                        m_options.prices.thin / static_cast<double>(border.size());
                m_net.arcs[static_cast<size_t>(border.front())].isThin = isDearer = true;
            }
        const std::vector<int> cuts = cutsOf(labelling);
        for (const int a : cuts) {
            Arc& arc = m_net.arcs[static_cast<size_t>(a)];
            if (arc.isChecked)
                continue;
            arc.isChecked = true;
            const int slivers = m_slivers(arc, cuts);
            arc.price += m_options.prices.sliver * slivers;
            isDearer = isDearer || slivers > 0;
        }
    }
    if (isDearer)
        for (auto& [counts, labelling] : m_best)
            reprice(labelling);
    return isDearer;
}

void Search::reprice(Labelling& labelling) const {
    std::vector<double> areas(static_cast<size_t>(labelling.parts));
    for (size_t t = 0; t < labelling.part.size(); ++t)
        areas[static_cast<size_t>(labelling.part[t])] += m_net.areaMm2[t];
    labelling.price = priceOf(areas);
    addSeams(labelling);
}

base::Status Search::run() {
    std::vector<Labelling> begun = beginnings();
    std::stable_sort(begun.begin(), begun.end(),
                     [](const Labelling& a, const Labelling& b) { return a.price < b.price; });
    // A rough one takes the best beginning as good as it is.
    const auto most = static_cast<size_t>(m_options.isRough ? 1 : m_options.beginnings);
    const int rounds = m_options.isRough ? m_options.rounds / 8 : m_options.rounds;
    size_t taken = 0;
    double last = -1;
    for (const Labelling& one : begun) {
        if (one.price == last)
            continue; // the same by another way
        last = one.price;
        m_progress.report(0.3 + 0.15 * static_cast<double>(taken), "improving the seams");
        improved(one, rounds);
        if (++taken == most)
            break;
    }
    for (int round = 0; round < (m_options.isRough ? 1 : 5) && !isCancelled() && checkSlivers(); ++round)
        for (const Labelling& one : best())
            improved(one, rounds / 4);
    if (isCancelled())
        return base::Error{base::Code::Cancelled, "Stopped."};
    return base::Done{};
}

std::optional<double> Search::elsewhere(const Labelling& from, const std::vector<int>& arcs) {
    constexpr double kBarred = 3000, kWithinMm = 15;
    const std::vector<Arc> kept = m_net.arcs;
    std::vector<geometry::Point> ways;
    for (const int a : arcs) {
        const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
        ways.push_back(m_net.corners[static_cast<size_t>(arc.from)].at);
        ways.push_back(m_net.corners[static_cast<size_t>(arc.to)].at);
    }
    for (Arc& arc : m_net.arcs) {
        const Point p = geometry::middle(m_net.corners[static_cast<size_t>(arc.from)].at,
                                         m_net.corners[static_cast<size_t>(arc.to)].at);
        for (size_t i = 0; i + 1 < ways.size(); i += 2)
            if (geometry::distanceToStretch(p, ways[i], ways[i + 1]) < kWithinMm) {
                arc.price += kBarred;
                break;
            }
    }
    auto best = std::exchange(m_best, {}); // what is found with barred sides is no proposal
    Labelling now = from;
    reprice(now);
    const Arc& first = m_net.arcs[static_cast<size_t>(arcs.front())];
    for (int round = 0; round < 12 && !isCancelled(); ++round) {
        const int triangle = round % 2 == 0 ? first.left : first.right;
        const int part = now.part[static_cast<size_t>(triangle)];
        const auto pose = poseAround(hullsOf(now.part, now.parts)[static_cast<size_t>(part)]);
        if (!pose)
            continue;
        Labelling next = settled(expanded(now.part, heldBy(*pose), part));
        if (next.unfit == 0 && next.price < now.price)
            now = std::move(next);
    }
    m_best = std::move(best);
    m_net.arcs = kept;
    Labelling there = now, here = from;
    // Whoever still runs along a barred side found no other place.
    for (const int a : arcs) {
        const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
        if (now.part[static_cast<size_t>(arc.left)] != now.part[static_cast<size_t>(arc.right)])
            return std::nullopt;
    }
    reprice(there);
    reprice(here);
    return there.price - here.price;
}

} // namespace thinline::split
