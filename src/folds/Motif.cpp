// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The largest motif a window holds.
//
// A motif in a window is cut with its frame from one sheet: where it reaches over the window's edge it holds,
// everywhere else it hangs free. So it may be a little larger than the window, by as much as it runs on into the
// card, but must stay off the folds of its panel, off the card's edge, and off the next window. These together are
// its room. The question is at which scale and place the motif fits into a room of any form.
//
// A motif lies in its room when every point of its outline does. With a table of the signed distance to the
// room's edge (negative outside) the depth of a whole motif is the least value at its points, read from the table
// between four cells; some 400 points stand for an outline. For one scale the deepest place is searched on a grid
// over all places where its frame fits, and refined from the best of them by halving steps. The deepest place gets
// shallower as the motif grows, so the largest scale is found by halving in: about 24 searches.
//
// At that scale the motif touches its room on two or three sides and can hardly move; but one that is tall and
// narrow touches above and below and may still slide. There all places are asked along how much of the window's
// edge the motif would hold: the edge is sampled, and the stretches of it that lie on the motif are its contacts.
// One narrower than asked does not count, it would tear; it is told.
//
// Distances in the table are exact at its cells and change by no more than a cell's width between them, so a
// motif reaches over its room by a fraction of a cell at most, which is card as well. That is why the place is
// not made more exact than that.
//
// A solver for the largest homothetic copy of a polygon in a polygon was considered. It is exact, for polygons, and
// slow in their product; an outline of curves would have to be cut into as many corners as there are points here.
#include "folds/Motif.h"

#include "base/Length.h"
#include "folds/Panels.h"
#include "folds/Panes.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Placing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <set>

namespace thinline::folds {
namespace {

using base::Code;
using base::Error;
using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;
using geometry::Shape;
using geometry::Transform;
using Shapes = std::vector<Shape>;

/// The signed distance to the edge of a shape, positive inside, from a table.
class DepthTable {
  public:
    explicit DepthTable(const Shape& shape) {
        constexpr double kCells = 160; // along the longer side
        const geometry::Box box = geometry::bounds(shape);
        m_cell = std::max(box.width(), box.height()) / kCells;
        m_least = box.least - Point{m_cell, m_cell};
        m_across = static_cast<int>(box.width() / m_cell) + 4;
        m_down = static_cast<int>(box.height() / m_cell) + 4;
        const Polygons rings = geometry::flatten(shape, m_cell / 20);
        for (int y = 0; y < m_down; ++y)
            for (int x = 0; x < m_across; ++x) {
                const Point p = m_least + Point{x * m_cell, y * m_cell};
                double least = INFINITY;
                for (const Polygon& ring : rings)
                    for (size_t i = 0; i < ring.size(); ++i)
                        least = std::min(least, geometry::distanceToStretch(
                                                    p, ring[i], ring[i + 1 == ring.size() ? 0 : i + 1]));
                m_depths.push_back(geometry::contains(rings, p) ? least : -least);
            }
    }
    double cell() const { return m_cell; }
    double at(Point p) const {
        const double fx = (p.x - m_least.x) / m_cell, fy = (p.y - m_least.y) / m_cell;
        if (!(fx >= 0 && fy >= 0 && fx < m_across - 1 && fy < m_down - 1))
            return -1e9;
        const int x = static_cast<int>(fx), y = static_cast<int>(fy);
        const double u = fx - x, v = fy - y;
        const auto value = [&](int dx, int dy) {
            return m_depths[static_cast<size_t>((y + dy) * m_across + x + dx)];
        };
        return (value(0, 0) * (1 - u) + value(1, 0) * u) * (1 - v) +
               (value(0, 1) * (1 - u) + value(1, 1) * u) * v;
    }

  private:
    double m_cell = 1;
    Point m_least;
    int m_across = 0, m_down = 0;
    std::vector<double> m_depths;
};

/// A place of a motif and how deep it lies in its room there.
struct Place {
    Point at;
    double depth = -INFINITY;
};

/// A motif about its middle, in a room.
class Fitting {
  public:
    Fitting(const Shape& room, const Polygon& motif)
        : m_table(room), m_room(geometry::bounds(room)), m_motif(motif) {
        for (const Point p : motif)
            m_box.include(p);
    }
    double cell() const { return m_table.cell(); }
    /// No larger one has a frame that fits.
    double mostScale() const {
        return std::min(m_room.width() / m_box.width(), m_room.height() / m_box.height());
    }
    double depthAt(double scale, Point at, double least) const {
        double out = INFINITY;
        for (const Point p : m_motif) {
            out = std::min(out, m_table.at(at + p * scale));
            if (out < least)
                return out;
        }
        return out;
    }
    /// The places at which the motif's frame lies in the room's.
    geometry::Box places(double scale) const {
        return {m_room.least - m_box.least * scale, m_room.most - m_box.most * scale};
    }
    Place deepest(double scale) const {
        constexpr int kGrid = 20;
        const geometry::Box box = places(scale);
        const Point size{std::max(0.0, box.most.x - box.least.x), std::max(0.0, box.most.y - box.least.y)};
        Place best;
        const auto look = [&](Point at) {
            const double depth = depthAt(scale, at, best.depth);
            if (depth > best.depth)
                best = {at, depth};
        };
        look(box.centre());
        for (int y = 0; y <= kGrid; ++y)
            for (int x = 0; x <= kGrid; ++x)
                look(box.least + Point{size.x * x / kGrid, size.y * y / kGrid});
        for (double step = std::max({size.x, size.y, m_table.cell()}) / kGrid; step > m_table.cell() / 50;) {
            const Place before = best;
            for (const Point way : {Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}, Point{1, 1},
                                    Point{-1, -1}, Point{1, -1}, Point{-1, 1}})
                look(before.at + way * step);
            if (best.at == before.at)
                step /= 2;
        }
        return best;
    }

  private:
    DepthTable m_table;
    geometry::Box m_room, m_box;
    Polygon m_motif;
};

/// At most so many points of an outline, evenly spaced, corners among them.
Polygon pointsOf(const Polygon& ring, size_t most) {
    double whole = 0;
    for (size_t i = 0; i < ring.size(); ++i)
        whole += geometry::distance(ring[i], ring[(i + 1) % ring.size()]);
    const double spacing = whole / static_cast<double>(most);
    Polygon out;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Point from = ring[i], to = ring[(i + 1) % ring.size()];
        if (out.empty() || geometry::distance(out.back(), from) > spacing / 4)
            out.push_back(from);
        const int steps = static_cast<int>(geometry::distance(from, to) / spacing);
        for (int k = 1; k < steps; ++k)
            out.push_back(from + (to - from) * (static_cast<double>(k) / steps));
    }
    return out;
}

/// A window's edge as evenly spaced places, with the side of the window each lies on.
struct Rim {
    Polygon places;
    std::vector<int> sides;
    double spacingMm = 0;

    /// So many places from one on, as a line of at most a hundred steps.
    geometry::Line stretch(size_t from, size_t count) const {
        constexpr size_t kSteps = 100;
        geometry::Line out{places[from % places.size()], {}};
        const size_t every = count / kSteps + 1;
        for (size_t k = every; k < count + every; k += every)
            out.segments.push_back(
                geometry::Segment::line(places[(from + std::min(k, count - 1)) % places.size()]));
        return out;
    }

    Rim(const Shape& hole, double upRad) {
        constexpr double kSpacingMm = 0.1;
        constexpr double kMostPlaces = 4000;
        const double whole = geometry::contourLength(hole.outline);
        spacingMm = std::max(kSpacingMm, whole / kMostPlaces);
        const Polygon ring = geometry::flatten(hole.outline, 0.01);
        const Transform asRead = geometry::turnAbout({}, -upRad);
        const geometry::Box box = geometry::bounds(geometry::transformed(hole, asRead));
        double left = 0; // to the next place
        for (size_t i = 0; i < ring.size(); ++i) {
            const Point from = ring[i], to = ring[(i + 1) % ring.size()];
            const double length = geometry::distance(from, to);
            double at = left;
            for (; at < length; at += spacingMm) {
                places.push_back(from + (to - from) * (at / length));
                // As it is read: which side of its frame it is nearest to, for the form the window has.
                const Point read = asRead(places.back()) - box.centre();
                const double x = read.x / box.width(), y = read.y / box.height();
                sides.push_back(std::abs(y) >= std::abs(x) ? (y < 0 ? 0 : 2) : (x > 0 ? 1 : 3));
            }
            left = at - length;
        }
    }
};

/// The contacts of a motif with a window's edge.
std::vector<Contact> contactsOf(const Rim& rim, const Polygons& motif) {
    geometry::Box box;
    for (const Polygon& ring : motif)
        for (const Point p : ring)
            box.include(p);
    const size_t n = rim.places.size();
    std::vector<bool> isOn(n);
    for (size_t i = 0; i < n; ++i)
        isOn[i] = box.contains(rim.places[i]) && geometry::contains(motif, rim.places[i]);
    // Begin behind a place that is free, if there is one.
    const auto free = static_cast<size_t>(std::find(isOn.begin(), isOn.end(), false) - isOn.begin());
    const size_t first = free == n ? 0 : free;
    std::vector<Contact> out;
    for (size_t from = first; from < first + n;) {
        if (!isOn[from % n]) {
            ++from;
            continue;
        }
        size_t count = 0;
        Contact one;
        for (; from + count < first + n && isOn[(from + count) % n]; ++count)
            one.bySideMm[static_cast<size_t>(rim.sides[(from + count) % n])] += rim.spacingMm;
        one.middle = rim.places[(from + count / 2) % n];
        one.widthMm = rim.spacingMm * static_cast<double>(count);
        one.stretch = rim.stretch(from, count);
        out.push_back(std::move(one));
        from += count;
    }
    return out;
}

/// On how many sides contacts hold that are wide enough.
int sidesHeld(const std::vector<Contact>& contacts, double leastMm) {
    std::set<int> out;
    for (const Contact& one : contacts)
        if (one.widthMm >= leastMm)
            for (const int side : sidesOf(one, leastMm))
                out.insert(side);
    return static_cast<int>(out.size());
}

/// The window, its panel's reading direction, and the room a motif has there.
struct Where {
    Shape hole, room;
    double upRad = 0;
};

base::Result<Where> whereOf(const design::Body& body, Point window, const MotifWish& wish,
                            const base::Progress& progress) {
    const auto hole = windowAt(body.shape, window);
    if (!hole)
        return Error{Code::InvalidArgument, "There is no window at that place."};
    Where out{*hole, {}, 0};
    auto panels = panelsOf(body, progress);
    if (!panels)
        return panels.error();
    Shape panel{body.shape.outline, {}};
    for (const Panel& one : *panels)
        if (geometry::contains({one.area.outline, {}}, window)) {
            panel = {one.area.outline, {}};
            out.upRad = one.upRad;
        }
    Shapes others;
    for (const geometry::Contour& opening : body.shape.openings)
        if (const Shape other{geometry::reversed(opening), {}}; !geometry::contains(other, window))
            others.push_back(other);
    auto clear = geometry::offset({panel}, -kMotifClearMm, {}, progress);
    auto grown = geometry::offset({*hole}, wish.overlapMm, {.join = geometry::Join::Mitre}, progress);
    if (!clear || !grown)
        return !clear ? clear.error() : grown.error();
    auto room = geometry::intersect(grown->shapes, clear->shapes, progress);
    if (room && !others.empty()) {
        auto kept = geometry::offset(others, kMotifClearMm, {}, progress);
        if (!kept)
            return kept.error();
        room = geometry::subtract(*room, kept->shapes, progress);
    }
    if (!room)
        return room.error();
    for (const Shape& part : *room)
        if (geometry::contains(part, window))
            out.room = part;
    if (out.room.outline.segments.empty())
        return Error{Code::InvalidArgument,
                     "A fold or an edge runs too close to that window for a motif in it."};
    return out;
}

/// The largest scale, and of the places there the one where it holds best.
struct Held {
    double scale = 0;
    Point at;
    std::vector<Contact> contacts;
};

/// Where a motif can still slide at its scale, the place where it holds as well as it may.
void slideToHold(const Where& where, const Fitting& fitting, const Polygons& rings, const MotifWish& wish,
                 Held& out) {
    const Rim rim(where.hole, where.upRad);
    const auto contactsAt = [&](Point at) {
        Polygons there = rings;
        for (Polygon& ring : there)
            for (Point& p : ring)
                p = at + p * out.scale;
        return contactsOf(rim, there);
    };
    const auto scoreOf = [&](const std::vector<Contact>& contacts) {
        double held = 0;
        for (const Contact& one : contacts)
            held += one.widthMm >= wish.contactMm ? one.widthMm : 0;
        return std::pair(sidesHeld(contacts, wish.contactMm), held);
    };
    const Point first = out.at;
    out.contacts = contactsAt(first);
    constexpr int kGrid = 24;
    const geometry::Box box = fitting.places(out.scale);
    const Point span{std::max(0.0, box.most.x - box.least.x), std::max(0.0, box.most.y - box.least.y)};
    const double play = fitting.cell() / 4;
    // Nearly always there is play one way only, or none.
    const auto stepsOf = [&](double wide) { return wide < play ? 0 : kGrid; };
    const int across = stepsOf(span.x), down = stepsOf(span.y);
    const auto share = [](int k, int of) { return of == 0 ? 0.5 : static_cast<double>(k) / of; };
    std::vector<Point> places;
    for (int y = 0; y <= down; ++y)
        for (int x = 0; x <= across; ++x) {
            const Point at = box.least + Point{span.x * share(x, across), span.y * share(y, down)};
            for (const Point one : {at, Point{at.x, first.y}, Point{first.x, at.y}})
                if (fitting.depthAt(out.scale, one, -play) >= -play)
                    places.push_back(one);
        }
    std::sort(places.begin(), places.end(), [&](Point a, Point b) {
        const Point middle = box.centre();
        return std::tuple(geometry::distance(a, middle), a.x, a.y) <
               std::tuple(geometry::distance(b, middle), b.x, b.y);
    });
    places.erase(std::unique(places.begin(), places.end()), places.end());
    for (const Point at : places) {
        auto contacts = contactsAt(at);
        const auto now = scoreOf(contacts), best = scoreOf(out.contacts);
        constexpr double kBetterMm = 0.3; // less is no reason to leave the middle
        if (now.first > best.first || (now.first == best.first && now.second > best.second + kBetterMm)) {
            out.at = at;
            out.contacts = std::move(contacts);
        }
    }
}

base::Result<Held> heldIn(const Where& where, const Shape& centred, const MotifWish& wish,
                          const base::Progress& progress) {
    constexpr size_t kPoints = 400;
    const double size = std::max(geometry::bounds(centred).width(), geometry::bounds(centred).height());
    const Polygons rings = geometry::flatten(centred, size / 2000);
    const Fitting fitting(where.room, pointsOf(rings.front(), kPoints));
    double low = 0, high = fitting.mostScale();
    Held out;
    constexpr int kHalvings = 22;
    for (int i = 0; i < kHalvings; ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(static_cast<double>(i) / kHalvings, "Fitting the motif");
        const double scale = i == 0 ? high * (1 - 1e-6) : (low + high) / 2;
        const Place place = fitting.deepest(scale);
        if (place.depth >= 0) {
            low = scale;
            out.at = place.at;
            if (i == 0)
                break;
        } else {
            high = scale;
        }
    }
    out.scale = low;
    if (!(low * size > 1))
        return Error{Code::InvalidArgument, "That motif finds no room in the window."};
    slideToHold(where, fitting, rings, wish, out);
    return out;
}

/// Frame and motif welded, narrow gaps between them filled.
base::Status weldInto(const design::Body& body, const Where& where, const Shape& motif, const MotifWish& wish,
                      const base::Progress& progress, MotifFit& out) {
    auto whole = geometry::weld({body.shape, motif}, progress);
    if (!whole)
        return whole.error();
    if (wish.fillMm > 0) {
        const double before = geometry::area(whole->front());
        auto grown = geometry::offset(*whole, wish.fillMm / 2, {}, progress);
        auto closed = grown ? geometry::offset(grown->shapes, -wish.fillMm / 2, {}, progress)
                            : base::Result<geometry::Parallel>(grown.error());
        if (!closed)
            return closed.error();
        auto inside = geometry::intersect(closed->shapes, {where.hole}, progress);
        if (!inside)
            return inside.error();
        Shapes parts = inside.take();
        parts.push_back(whole->front());
        whole = geometry::weld(parts, progress);
        if (!whole)
            return whole.error();
        out.filledMm2 = std::max(0.0, geometry::area(whole->front()) - before);
    }
    if (whole->size() != 1)
        out.whyNot = "would not hang together with its frame.";
    out.whole = std::move(whole->front());
    return base::Done{};
}

base::Status checkWish(const MotifWish& wish) {
    const auto isIn = [](double value, double least, double most) { return value >= least && value <= most; };
    if (!isIn(wish.overlapMm, 0.2, 50))
        return Error{Code::InvalidArgument, "A motif runs on into the frame by 0.2 to 50 mm."};
    if (!isIn(wish.contactMm, 0.2, 500))
        return Error{Code::InvalidArgument, "A contact is 0.2 to 500 mm wide."};
    if (wish.sides < 1 || wish.sides > 4)
        return Error{Code::InvalidArgument, "A window has four sides; ask for 1 to 4."};
    if (!isIn(wish.fillMm, 0, 50))
        return Error{Code::InvalidArgument, "Gaps up to 50 mm are filled."};
    return base::Done{};
}

} // namespace

std::vector<int> sidesOf(const Contact& contact, double leastMm) {
    const auto most = std::max_element(contact.bySideMm.begin(), contact.bySideMm.end());
    std::vector<int> out;
    for (size_t i = 0; i < contact.bySideMm.size(); ++i)
        if (contact.bySideMm[i] >= leastMm ||
            contact.bySideMm.begin() + static_cast<std::ptrdiff_t>(i) == most)
            out.push_back(static_cast<int>(i));
    return out;
}

std::string contactText(const Contact& contact, double leastMm) {
    std::string out = base::formatNumber(contact.widthMm, 1) + " mm";
    const std::vector<int> sides = sidesOf(contact, leastMm);
    if (sides.size() == kSideWords.size())
        return out + " all around";
    for (const int side : sides)
        out += std::string(" ") + kSideWords[static_cast<size_t>(side)];
    return out;
}

base::Result<MotifFit> fitMotif(const design::Body& body, Point window, const Shape& motif,
                                const MotifWish& wish, const base::Progress& progress) {
    if (auto sound = checkWish(wish); !sound)
        return sound.error();
    if (!(geometry::area(motif) > 0))
        return Error{Code::InvalidArgument, "That motif has no area."};
    const auto where = whereOf(body, window, wish, progress);
    if (!where)
        return where.error();
    const Transform centring =
        Transform::move(geometry::bounds(motif).centre() * -1).then(geometry::turnAbout({}, where->upRad));
    const auto held = heldIn(*where, geometry::transformed(motif, centring), wish, progress);
    if (!held)
        return held.error();
    MotifFit out;
    out.scale = held->scale;
    out.placed = centring.then(Transform::scale(held->scale, held->scale)).then(Transform::move(held->at));
    for (const Contact& one : held->contacts)
        (one.widthMm >= wish.contactMm ? out.holds : out.weak).push_back(one);
    out.sides = sidesHeld(held->contacts, wish.contactMm);
    if (out.sides < wish.sides) {
        out.whyNot =
            "would hold on " + base::counted(out.sides, "side") + ", " + std::to_string(wish.sides) +
            (wish.sides == 1 ? " is" : " are") +
            " asked. Let it run further into the frame, take narrower contacts, or ask for fewer sides.";
        return out;
    }
    if (auto ok = weldInto(body, *where, geometry::transformed(motif, out.placed), wish, progress, out); !ok)
        return ok.error();
    return out;
}

} // namespace thinline::folds
