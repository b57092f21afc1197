// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Panels, and which way up they are read.
//
// A box is drawn flat, and on its back flap everything has to be drawn upside down to be the right way up later. People
// find this out when the glue has dried. The direction follows from the folds alone, so it is computed: the panels are the
// faces into which the folds part the outline, and from the front panel the piece is folded up in thought.
//
// Only directions matter, so every panel needs one rotation and no place: that of the panel it hangs on, after a turn about
// the fold between both by the fold's angle, away from the viewer or towards. In the folded piece
//
// - a panel that stands (the wall of a box, the back of a tent card) is read with its top up: of its own flat directions the
//   one that points up most;
// - a panel that lies level (a lid, a bottom) is read by somebody at the front: on a lid up is to the back, and on a bottom,
//   which one tips the box to see, up is to the front. Both continue the front panel as if the edge were none.
//
// So four walls in a row are all upright, the lid on a side wall is turned by 90 degrees, and a flap that is folded back
// over the top edge by 180 hangs upside down. A ring of panels (folds around an opening) is walked as a tree: the first way
// to a panel counts, and in a piece that can be folded at all the others agree.
//
// Which panels meet at which fold, design/Leaves.h knows: a fold may cross others and so lie between several pairs.
#include "folds/Panels.h"

#include "design/Leaves.h"
#include "folds/Edges.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>

namespace thinline::folds {
namespace {

using geometry::Line;
using geometry::Point;

// ---- directions in space: x to the right, y up, z to the viewer

struct Way {
    double x = 0, y = 0, z = 0;
    Way operator+(Way b) const { return {x + b.x, y + b.y, z + b.z}; }
    Way operator*(double k) const { return {x * k, y * k, z * k}; }
};
double dot(Way a, Way b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
/// Where a panel's own directions point in the folded piece.
struct Turned {
    Way right{1, 0, 0}, up{0, 1, 0}, out{0, 0, 1};
    Way of(Way own) const { return right * own.x + up * own.y + out * own.z; }
};

/// A direction of the design as one of a flat panel.
Way flat(Point p) {
    const double length = geometry::length(p);
    return {p.x / length, -p.y / length, 0};
}

/// A panel beyond a fold: `across` points from the fold to it.
Turned beyond(const Turned& from, Point across, const design::Fold& fold) {
    const double angle = fold.angleDeg * std::numbers::pi / 180, sense = fold.isTowards ? 1 : -1;
    const Way n = flat(across), along{-n.y, n.x, 0}; // along the fold: it stays
    const Way goes = n * std::cos(angle) + Way{0, 0, 1} * (sense * std::sin(angle)),
              out = n * (-sense * std::sin(angle)) + Way{0, 0, 1} * std::cos(angle);
    // What was along n now goes there, what was along the fold stays.
    const auto turned = [&](Way own) {
        return from.of(along * dot(own, along) + goes * dot(own, n) + out * own.z);
    };
    return {turned({1, 0, 0}), turned({0, 1, 0}), turned({0, 0, 1})};
}

/// The direction in which a panel is read, clockwise on screen from straight up.
double readingOf(const Turned& panel, const Turned& front, double frontUpRad) {
    constexpr double kLevel = 0.9; // cosine: within 25 degrees of level
    const Way up = front.of({std::sin(frontUpRad), std::cos(frontUpRad), 0}), face = front.out;
    const double rises = dot(panel.out, up);
    const Way aim = std::abs(rises) < kLevel ? up : face * (rises > 0 ? -1 : 1);
    const double right = dot(panel.right, aim), upwards = dot(panel.up, aim);
    const double out = std::atan2(right, upwards);
    return std::abs(out) < 1e-9 ? 0 : out;
}

// ---- what was said

/// What was said of a panel; null when nothing was.
const design::Panel* saidOf(const design::Body& body, const Panel& panel) {
    for (const design::Panel& said : body.panels)
        if (geometry::contains(panel.area, said.inside))
            return &said;
    return nullptr;
}

size_t frontOf(const design::Body& body, const std::vector<Panel>& panels) {
    size_t largest = 0;
    for (size_t i = 0; i < panels.size(); ++i) {
        const design::Panel* said = saidOf(body, panels[i]);
        if (said && said->isFront)
            return i;
        if (geometry::area(panels[i].area) > geometry::area(panels[largest].area) * 1.0001)
            largest = i;
    }
    return largest;
}

/// Folds the piece up from its front and says how every panel is read.
void readAll(const design::Body& body, std::vector<Panel>& panels, const std::vector<design::Leaves::Hinge>& hinges) {
    const size_t front = frontOf(body, panels);
    panels[front].isFront = true;
    const design::Panel* said = saidOf(body, panels[front]);
    const double frontUp = said && said->upRad ? *said->upRad : 0;
    std::vector<std::optional<Turned>> turned(panels.size());
    turned[front] = Turned{};
    std::vector<size_t> next{front};
    for (size_t i = 0; i < next.size(); ++i) {
        const size_t here = next[i];
        for (const design::Leaves::Hinge& hinge : hinges) {
            if ((hinge.a != here && hinge.b != here) || turned[hinge.a == here ? hinge.b : hinge.a])
                continue;
            const size_t there = hinge.a == here ? hinge.b : hinge.a;
            const auto& fold = std::get<design::Fold>(body.lines[hinge.line].does);
            turned[there] = beyond(*turned[here], hinge.across() * (hinge.a == here ? 1 : -1), fold);
            next.push_back(there);
        }
    }
    for (size_t i = 0; i < panels.size(); ++i)
        panels[i].upRad = turned[i] ? readingOf(*turned[i], Turned{}, frontUp) : 0;
}

// ---- flaps

/// The direction across a line in which a point lies.
Point sideOf(Point from, Point to, Point p) {
    const Point along = (to - from) * (1 / std::max(1e-12, geometry::distance(from, to)));
    const Point side{-along.y, along.x};
    return geometry::dot(p - from, side) > 0 ? side : side * -1;
}

/// How far a shape reaches from a line through two points.
double depthFrom(const geometry::Shape& shape, Point from, Point to) {
    const Point along = (to - from) * (1 / std::max(1e-12, geometry::distance(from, to)));
    double most = 0;
    for (const Point p : geometry::flatten(shape.outline, 0.05))
        most = std::max(most, std::abs(geometry::cross(along, p - from)));
    return most;
}

/// The straight edges of a panel that are edges of the card, not folds.
std::vector<Edge> freeEdges(const design::Body& body, const Panel& panel) {
    constexpr double kOnFoldMm = 0.01;
    std::vector<Edge> out;
    for (const Edge& edge : straightEdges({panel.area.outline, {}}))
        if (std::none_of(panel.neighbours.begin(), panel.neighbours.end(), [&](const Neighbour& one) {
                return geometry::distanceTo(body.lines[one.line].path, edge.middle()) < kOnFoldMm;
            }))
            out.push_back(edge);
    return out;
}

/// How much of a panel's edge lies on a fold.
double foldedMm(const Panel& panel, const Line& fold) {
    double sum = 0;
    for (const Edge& edge : straightEdges({panel.area.outline, {}}))
        if (geometry::distanceTo(fold, edge.middle()) < 0.01)
            sum += edge.lengthMm();
    return sum;
}

/// Whether the far edge is shorter than the fold: made to slip in behind something.
bool narrowsFrom(const std::vector<Edge>& free, double foldMm) {
    double farMm = 0;
    for (const Edge& edge : free)
        farMm = std::max(farMm, edge.lengthMm());
    return free.size() == 3 && farMm < foldMm - 0.5;
}

} // namespace

base::Result<std::vector<Panel>> panelsOf(const design::Body& body, const base::Progress& progress) {
    std::vector<Line> folds;
    std::vector<size_t> lineOf; // in the body, by fold
    for (size_t i = 0; i < body.lines.size(); ++i)
        if (std::holds_alternative<design::Fold>(body.lines[i].does)) {
            folds.push_back(body.lines[i].path);
            lineOf.push_back(i);
        }
    std::vector<Panel> out;
    constexpr size_t kMostFolds = 2000; // a template has dozens; thousands are a drawing taken for folds
    if (folds.empty() || folds.size() > kMostFolds)
        return out;
    auto parted = design::leavesOf(body.shape, folds, progress);
    if (!parted)
        return parted.error();
    design::Leaves leaves = parted.take();
    if (leaves.areas.size() < 2)
        return out;
    constexpr double kRoundMm = 0.001; // panels that are alike have their middles at the same place
    for (const geometry::Shape& part : leaves.areas) {
        Panel panel;
        panel.middle = geometry::pointInside(geometry::rounded(part, kRoundMm));
        panel.area = part;
        out.push_back(std::move(panel));
    }
    std::stable_sort(leaves.hinges.begin(), leaves.hinges.end(), [](const auto& a, const auto& b) { return a.line < b.line; });
    for (design::Leaves::Hinge& hinge : leaves.hinges) {
        hinge.line = lineOf[hinge.line];
        out[hinge.a].neighbours.push_back({hinge.b, hinge.line, hinge.lengthMm});
        out[hinge.b].neighbours.push_back({hinge.a, hinge.line, hinge.lengthMm});
    }
    readAll(body, out, leaves.hinges);
    for (size_t i = 0; i < out.size(); ++i) {
        const design::Panel* said = saidOf(body, out[i]);
        out[i].name = said && !said->name.empty() ? said->name : "panel " + std::to_string(i + 1);
        if (said && said->upRad) {
            out[i].upRad = *said->upRad;
            out[i].isUpSaid = true;
        }
    }
    return out;
}

std::vector<Flap> flapsOf(const design::Body& body, const std::vector<Panel>& panels) {
    constexpr double kAsLongMm = 1;
    std::vector<Flap> out;
    for (size_t i = 0; i < panels.size(); ++i) {
        const Panel& panel = panels[i];
        if (panel.neighbours.size() != 1 || panel.isFront)
            continue;
        const Line& path = body.lines[panel.neighbours.front().line].path;
        const Point from = path.start, to = geometry::endOf(path);
        Flap flap{i, foldedMm(panel, path), depthFrom(panel.area, from, to), {from, to, sideOf(from, to, panel.middle)}};
        const double beside = depthFrom(panels[panel.neighbours.front().panel].area, from, to);
        if (flap.depthMm > beside / 3 && !narrowsFrom(freeEdges(body, panel), flap.foldMm))
            continue;
        for (size_t other = 0; other < panels.size(); ++other) {
            if (other == i || other == panel.neighbours.front().panel)
                continue;
            for (const Edge& edge : freeEdges(body, panels[other]))
                if (std::abs(edge.lengthMm() - flap.foldMm) <= kAsLongMm)
                    flap.meets.push_back({other, edge});
        }
        out.push_back(std::move(flap));
    }
    // A flap is glued behind a panel; behind another flap only where there is no panel.
    for (Flap& flap : out) {
        const auto isFlap = [&](const Meeting& one) {
            return std::any_of(out.begin(), out.end(),
                               [&](const Flap& other) { return other.panel == one.panel; });
        };
        if (!std::all_of(flap.meets.begin(), flap.meets.end(), isFlap))
            std::erase_if(flap.meets, isFlap);
    }
    return out;
}

base::Result<geometry::Shape> shortened(const design::Body& body, const Panel& flap, double depthMm,
                                        const base::Progress& progress) {
    if (flap.neighbours.size() != 1)
        return base::Error{base::Code::InvalidArgument,
                           "Only a panel that hangs on one fold can be shortened."};
    const geometry::Box box = geometry::bounds(flap.area);
    const double farMm = box.width() + box.height() + depthMm;
    const Line& fold = body.lines[flap.neighbours.front().line].path;
    const Point from = fold.start, along = (geometry::endOf(fold) - from) *
                                           (1 / geometry::distance(from, geometry::endOf(fold)));
    const Point side{-along.y, along.x};
    const Point out = geometry::dot(flap.middle - from, side) > 0 ? side : side * -1;
    const Point near = from + out * depthMm, far = from + out * farMm;
    geometry::Contour beyond = geometry::contourThrough(
        {near - along * farMm, near + along * farMm, far + along * farMm, far - along * farMm});
    if (geometry::signedArea(beyond) < 0)
        beyond = geometry::reversed(beyond);
    auto gone = geometry::intersect({flap.area}, {{beyond, {}}}, progress);
    auto left = gone ? geometry::subtract({body.shape}, *gone, progress)
                     : base::Result<std::vector<geometry::Shape>>(gone.error());
    if (!left)
        return left.error();
    if (left->size() != 1)
        return base::Error{base::Code::InvalidArgument, "The flap cannot be cut off there."};
    return left->front();
}

std::optional<size_t> glueOn(const design::Body& body, const Panel& panel) {
    const double half = geometry::area(panel.area) / 2;
    for (size_t i = 0; i < body.zones.size(); ++i)
        if (const design::Zone& zone = body.zones[i];
            zone.kind == design::Zone::Kind::Glue && geometry::area(zone.area) > half &&
            geometry::contains(panel.area, geometry::pointInside(zone.area)))
            return i;
    return std::nullopt;
}

const Meeting* takerOf(const design::Body& body, const std::vector<Panel>& panels, const Flap& flap) {
    const auto glued = glueOn(body, panels[flap.panel]);
    if (!glued || flap.meets.empty())
        return nullptr;
    const auto& behind = body.zones[*glued].behind;
    if (!behind)
        return flap.meets.size() == 1 ? &flap.meets.front() : nullptr;
    return &*std::min_element(flap.meets.begin(), flap.meets.end(), [&](const Meeting& a, const Meeting& b) {
        return geometry::distance(a.edge.middle(), *behind) < geometry::distance(b.edge.middle(), *behind);
    });
}

std::string meetingText(const std::vector<Panel>& panels, const Meeting& meeting) {
    const Point out = meeting.edge.inward * -1;
    const bool isAcross = std::abs(out.x) > std::abs(out.y);
    return panels[meeting.panel].name + ", " +
           (isAcross ? (out.x < 0 ? "left" : "right") : (out.y < 0 ? "upper" : "lower")) + " edge";
}

geometry::Transform laidBehind(const Flap& flap, const Meeting& taker) {
    const auto frameOf = [](const Edge& edge) { // its middle, along it and towards the card
        const Point along = (edge.to - edge.from) * (1 / edge.lengthMm());
        const bool isSwapped = geometry::cross(along, edge.inward) < 0;
        const Point right = isSwapped ? along * -1 : along, middle = edge.middle();
        return geometry::Transform{right.x, right.y, edge.inward.x, edge.inward.y, middle.x, middle.y};
    };
    return geometry::inverse(frameOf(flap.fold)).then(frameOf(taker.edge));
}

base::Result<Folded> foldedOf(const design::Body& body, const base::Progress& progress) {
    auto panels = panelsOf(body, progress);
    if (!panels)
        return panels.error();
    Folded out{panels.take(), {}};
    out.flaps = flapsOf(body, out.panels);
    return out;
}

} // namespace thinline::folds
