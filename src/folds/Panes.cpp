// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Panes.
//
// A pane is its window, larger by a margin, and the difference is what it is glued by. Three things take of that margin:
// the fold of its panel and the edge of the card (a pane that reaches over a fold keeps it from bending, one that reaches
// over the edge is seen), a flap that is glued there, and the pane of the next window. Between two windows both panes stop
// half-way, at a straight line where one fits between them; else at the next opening grown by half the gap, and where the gap
// widens and they would still overlap, the first one stays and the second is cut.
//
// What is left may be narrow. It is made all the same and its narrowest place told as a finding: a person may know that her
// glue holds, and would rather see where it is tight than get no pane.
#include "folds/Panes.h"

#include "folds/Panels.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <cmath>

namespace thinline::folds {
namespace {

using base::Code;
using base::Error;
using geometry::Point;
using geometry::Shape;
using Shapes = std::vector<Shape>;

/// A window and what becomes its pane.
struct Window {
    Point at;
    Shape hole;
    size_t room = 0; ///< the panel it lies in
    Shapes pane;
};

double gapBetween(const Shape& a, const Shape& b) {
    double least = INFINITY;
    for (const Point p : geometry::flatten(a.outline, 0.02))
        if (const auto near = geometry::nearestOnEdge(b, p))
            least = std::min(least, near->distance);
    for (const Point p : geometry::flatten(b.outline, 0.02))
        if (const auto near = geometry::nearestOnEdge(a, p))
            least = std::min(least, near->distance);
    return least;
}

/// Makes panes of windows that lie on one body.
class Glazing {
  public:
    Glazing(const design::Body& body, double marginMm, const base::Progress& progress)
        : m_body(body), m_marginMm(marginMm), m_progress(progress) {}

    base::Result<std::vector<std::optional<Pane>>> run(const std::vector<Point>& places) {
        if (auto ok = findRooms(); !ok)
            return ok.error();
        for (const Point at : places)
            if (auto ok = add(at); !ok)
                return ok.error();
        for (size_t i = 0; i < m_windows.size(); ++i)
            for (size_t k = i + 1; k < m_windows.size(); ++k)
                if (auto ok = share(m_windows[i], m_windows[k]); !ok)
                    return ok.error();
        std::vector<std::optional<Pane>> out;
        for (const Window& window : m_windows) {
            out.emplace_back();
            for (const Shape& part : window.pane)
                if (geometry::contains(part, window.at)) {
                    auto ring = geometry::intersect({part}, {m_body.shape}, m_progress);
                    if (!ring)
                        return ring.error();
                    out.back() = Pane{part, ring.take()};
                }
        }
        return out;
    }

  private:
    /// Where panes may lie: the panels without what is kept free.
    base::Status findRooms() {
        auto panels = panelsOf(m_body, m_progress);
        if (!panels)
            return panels.error();
        Shapes whole;
        for (const Panel& panel : *panels)
            whole.push_back({panel.area.outline, {}});
        if (whole.empty())
            whole.push_back({m_body.shape.outline, {}});
        for (const Shape& one : whole) {
            auto inner = geometry::offset({one}, -kPaneClearMm, {}, m_progress);
            if (!inner)
                return inner.error();
            m_rooms.push_back(std::move(inner.take().shapes));
        }
        for (const design::Zone& zone : m_body.zones)
            if (zone.kind == design::Zone::Kind::Glue)
                m_glued.push_back(zone.area);
        return base::Done{};
    }

    base::Status add(Point at) {
        if (m_progress.isCancelled())
            return base::cancelled();
        m_windows.push_back({at, {}, m_rooms.size(), {}});
        Window& window = m_windows.back();
        const auto hole = windowAt(m_body.shape, at);
        if (!hole)
            return base::Done{};
        window.hole = *hole;
        auto grown = geometry::offset({*hole}, m_marginMm, {}, m_progress);
        if (!grown)
            return grown.error();
        for (size_t room = 0; room < m_rooms.size() && window.room == m_rooms.size(); ++room)
            for (const Shape& part : m_rooms[room])
                if (geometry::contains(part, at))
                    window.room = room;
        if (window.room == m_rooms.size())
            return base::Done{};
        auto pane = geometry::intersect(grown->shapes, m_rooms[window.room], m_progress);
        if (pane && !m_glued.empty())
            pane = geometry::subtract(*pane, m_glued, m_progress);
        if (!pane)
            return pane.error();
        window.pane = pane.take();
        return base::Done{};
    }

    /// What is the other window's: all beyond the middle of the gap where a straight line lies between both, else
    /// what is nearer to it than half the gap.
    base::Result<Shapes> beyondTheGap(const Shape& own, const Shape& other) const {
        const geometry::Box a = geometry::bounds(own), b = geometry::bounds(other);
        const double right = b.least.x - a.most.x, left = a.least.x - b.most.x, below = b.least.y - a.most.y,
                     above = a.least.y - b.most.y, widest = std::max({right, left, below, above});
        if (widest <= 0) {
            auto near = geometry::offset({other}, gapBetween(own, other) / 2, {}, m_progress);
            return near ? base::Result<Shapes>(near->shapes) : near.error();
        }
        geometry::Box side = a;
        side.include(b);
        side = side.grownBy(2 * m_marginMm + 1);
        if (widest == right)
            side.least.x = (a.most.x + b.least.x) / 2;
        else if (widest == left)
            side.most.x = (a.least.x + b.most.x) / 2;
        else if (widest == below)
            side.least.y = (a.most.y + b.least.y) / 2;
        else
            side.most.y = (a.least.y + b.most.y) / 2;
        return Shapes{{geometry::contourThrough(
                           {side.least, {side.most.x, side.least.y}, side.most, {side.least.x, side.most.y}}),
                       {}}};
    }

    base::Status share(Window& a, Window& b) {
        if (a.room != b.room || a.pane.empty() || b.pane.empty())
            return base::Done{};
        auto common = geometry::intersect(a.pane, b.pane, m_progress);
        if (!common)
            return common.error();
        if (common->empty())
            return base::Done{};
        for (const auto& [own, other] : {std::pair{&a, &b}, std::pair{&b, &a}}) {
            auto keeps = beyondTheGap(own->hole, other->hole);
            auto left = keeps ? geometry::subtract(own->pane, *keeps, m_progress)
                              : base::Result<Shapes>(keeps.error());
            if (!left)
                return left.error();
            own->pane = left.take();
        }
        auto rest = geometry::subtract(b.pane, a.pane, m_progress);
        if (!rest)
            return rest.error();
        b.pane = rest.take();
        return base::Done{};
    }

    const design::Body& m_body;
    double m_marginMm;
    const base::Progress& m_progress;
    std::vector<Shapes> m_rooms; ///< by panel
    Shapes m_glued;
    std::vector<Window> m_windows;
};

} // namespace

std::optional<Shape> windowAt(const Shape& shape, Point at) {
    for (const geometry::Contour& opening : shape.openings) {
        const Shape hole{geometry::reversed(opening), {}};
        if (geometry::contains(hole, at))
            return hole;
    }
    return std::nullopt;
}

base::Result<std::vector<std::optional<Pane>>> panesOf(const design::Body& body,
                                                       const std::vector<Point>& windows, double marginMm,
                                                       const base::Progress& progress) {
    if (!(marginMm >= 0.5 && marginMm <= 50))
        return Error{Code::InvalidArgument, "A pane is 0.5 to 50 mm larger than its window on every side."};
    return Glazing(body, marginMm, progress).run(windows);
}

double narrowestRing(const Shape& ring) {
    if (ring.openings.empty())
        return 0;
    double least = INFINITY;
    const Shape outside{ring.outline, {}};
    for (const geometry::Contour& opening : ring.openings)
        least = std::min(least, gapBetween(outside, {geometry::reversed(opening), {}}));
    return least;
}

base::Result<Shapes> liningOf(const Shape& panel, double marginMm, const base::Progress& progress) {
    if (!(marginMm >= 0 && marginMm <= 50))
        return Error{Code::InvalidArgument, "A lining is 0 to 50 mm smaller than its panel."};
    auto out = geometry::offset({panel}, -marginMm, {}, progress);
    if (!out)
        return out.error();
    if (out->shapes.empty())
        return Error{Code::InvalidArgument, "Nothing would be left of the lining; give a smaller margin."};
    return out.take().shapes;
}

} // namespace thinline::folds
