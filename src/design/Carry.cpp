// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Carrying: what happens to folds, prints and zones when an outline is cut.
//
// An action on card changes outlines. A piece carries more than its outline: lines to score or perforate,
// printed faces, zones for glue, panels of a folded form. Once these were lists beside the outline that
// every action had to think of, and most did not; a fold was lost by a weld, or lay outside its piece
// after a slice. Now an action only says which bodies went in and which outlines came out, and this is the
// one place that knows what becomes of the rest.
//
// Lines. Each line is clipped to each new outline, and what runs along the edge is dropped, since it
// bounds the piece now and is no line on it. Then two things have to be undone that clipping alone would
// leave:
//
// - A piece is sliced and its halves are welded together again. Each half brings its part of the fold.
//   Parts of one line that meet within two micrometres become one line again, and of two that coincide the
//   longer stays. This is repeated until nothing changes, since two parts may come to meet by a third.
// - An outline grows, and the fold ends where the edge was. Every line remembers for either end whether it
//   was at the edge. An end that was, and is not any more, is run on straight to where the edge is now, at
//   most so far; one that ended inside on purpose stays. Ends that do not reach are counted and told,
//   because a fold that does not reach the edge tears there.
//
// Bits shorter than a millimetre are dropped and counted: no blade makes them.
//
// Faces are placed by a map that mirrors with the piece. Writing and codes are the exception: they are
// mirrored back about their own middle, since a mirrored piece is to be read as well. Panels go to the
// outline that holds their inner point, zones are cut to it.
//
// Pieces without anything on them pass without any of this.
//
// Cost: for each line, its crossings with the edges whose box it meets, and the search for joints, which
// is quadratic in the lines of one piece; they are a dozen at most.
#include "design/Carry.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"

#include <algorithm>
#include <cmath>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;
using geometry::Shape;
using geometry::Transform;

constexpr double kSameMm = 0.001; // what is nearer is the same place
constexpr double kMeetMm = 0.002; // ends of one line's parts: each strayed by up to a micron

bool isAtEdge(const Shape& shape, Point p) {
    return geometry::isNearEdge(shape, p, 2 * kSameMm);
}

/// Points along a line at these shares of its length.
std::vector<Point> sampled(const Line& line, std::initializer_list<double> shares) {
    const double whole = geometry::contourLength(line);
    std::vector<Point> out;
    for (const double share : shares)
        out.push_back(endOf(geometry::stretchOfLine(line, 0, whole * share)));
    return out;
}

/// Whether a line runs along the edge: then it bounds the piece and is no line on it.
bool runsAlongEdge(const Shape& shape, const Line& line) {
    const auto isThere = [&](Point p) { return geometry::isNearEdge(shape, p, kSameMm); };
    if (!isThere(geometry::middleOf(line))) // most lines end here
        return false;
    const auto points = sampled(line, {0.25, 0.75});
    return std::all_of(points.begin(), points.end(), isThere);
}

/// Whether all of `part` lies on `line`.
bool liesOn(const Line& part, const Line& line) {
    if (!geometry::bounds(line).grownBy(kSameMm).meets(geometry::bounds(part)))
        return false;
    // A line is an outline without area to the search for the nearest place: no closing step is added.
    const Shape along{line, {}};
    const auto points = sampled(part, {0, 0.13, 0.31, 0.5, 0.69, 0.87, 1});
    return std::all_of(points.begin(), points.end(),
                       [&](Point p) { return geometry::isNearEdge(along, p, kMeetMm); });
}

/// Lines on their way onto one outline.
class Lines {
  public:
    Lines(const Shape& shape, const CarryOptions& options) : m_shape(shape), m_options(options) {}

    base::Status add(const PieceLine& line) {
        auto parts = geometry::clippedTo(line.path, m_shape);
        if (!parts)
            return parts.error();
        for (Line& part : parts.take()) {
            if (runsAlongEdge(m_shape, part))
                continue;
            PieceLine one = line;
            // An end that is where the line's own end was is at the edge only if that one was.
            one.beginsAtEdge = part.start == line.path.start ? line.beginsAtEdge : true;
            one.endsAtEdge = endOf(part) == endOf(line.path) ? line.endsAtEdge : true;
            one.path = std::move(part);
            m_all.push_back(std::move(one));
        }
        return base::Done{};
    }

    /// Parts of one line that meet become one; of two that coincide the longer stays.
    void join() {
        for (std::size_t before = m_all.size() + 1;
             m_all.size() < before;) { // two may come to meet by a third
            before = m_all.size();
            std::vector<PieceLine> out;
            for (PieceLine& line : m_all) {
                bool isTaken = false;
                for (PieceLine& known : out)
                    if (known.does == line.does && (isTaken = take(known, line)))
                        break;
                if (!isTaken)
                    out.push_back(std::move(line));
            }
            m_all = std::move(out);
        }
    }

    /// Runs ends that were at an edge on to where the edge is now. Returns how many do not reach it.
    int reachEdges() {
        int shortEnds = 0;
        for (PieceLine& line : m_all) {
            const bool wasAtBegin = line.beginsAtEdge, wasAtEnd = line.endsAtEdge;
            line.beginsAtEdge =
                isAtEdge(m_shape, line.path.start) || (wasAtBegin && runsOnAtBegin(line.path));
            line.endsAtEdge = isAtEdge(m_shape, endOf(line.path)) || (wasAtEnd && runsOn(line.path));
            shortEnds += (wasAtBegin && !line.beginsAtEdge) + (wasAtEnd && !line.endsAtEdge);
        }
        return shortEnds;
    }

    std::vector<PieceLine> take(int& droppedBits) {
        std::vector<PieceLine> out;
        for (PieceLine& line : m_all)
            if (geometry::contourLength(line.path) < m_options.leastMm)
                ++droppedBits;
            else
                out.push_back(std::move(line));
        return out;
    }

  private:
    /// Takes a line into one that is there, if it is a part of it or goes on where it ends.
    static bool take(PieceLine& known, const PieceLine& line) {
        if (liesOn(line.path, known.path))
            return true;
        if (liesOn(known.path, line.path)) {
            known.path = line.path;
            known.beginsAtEdge = line.beginsAtEdge;
            known.endsAtEdge = line.endsAtEdge;
            return true;
        }
        if (known.id != line.id)
            return false;
        const auto meets = [](Point a, Point b) { return geometry::distance(a, b) <= kMeetMm; };
        const auto append = [](PieceLine& first, const PieceLine& second) {
            Line path = second.path;
            if (!path.segments.empty() && !path.segments.front().isLine)
                path.segments.front().control1 =
                    path.segments.front().control1 + (endOf(first.path) - path.start);
            first.path.segments.insert(first.path.segments.end(), path.segments.begin(), path.segments.end());
            first.endsAtEdge = second.endsAtEdge;
        };
        if (meets(endOf(known.path), line.path.start)) {
            append(known, line);
            return true;
        }
        if (meets(endOf(line.path), known.path.start)) {
            PieceLine whole = line;
            append(whole, known);
            known = std::move(whole);
            return true;
        }
        return false; // parts of one line run the same way
    }

    /// Runs the end of a line on straight to the edge, if that is within reach.
    bool runsOn(Line& path) const {
        const auto edge = geometry::edgeAhead(path, m_shape, m_options.runOnMm);
        if (!edge)
            return false;
        if (path.segments.back().isLine) // it goes on as it went
            path.segments.pop_back();
        path.segments.push_back(geometry::Segment::line(*edge));
        return true;
    }
    bool runsOnAtBegin(Line& path) const {
        Line back = geometry::reversed(path);
        if (!runsOn(back))
            return false;
        path = geometry::reversed(back);
        return true;
    }

    const Shape& m_shape;
    const CarryOptions& m_options;
    std::vector<PieceLine> m_all;
};

base::Result<std::vector<Zone>> zonesWithin(const std::vector<std::shared_ptr<const Body>>& from,
                                            const Shape& shape, const base::Progress& progress) {
    std::vector<Zone> out;
    const geometry::Box box = geometry::bounds(shape);
    for (const auto& body : from)
        for (const Zone& zone : body->zones) {
            if (!box.meets(geometry::bounds(zone.area)))
                continue;
            auto parts = geometry::intersect({zone.area}, {shape}, progress);
            if (!parts)
                return parts.error();
            for (Shape& part : parts.take()) {
                Zone one = zone;
                one.area = std::move(part);
                if (std::find(out.begin(), out.end(), one) == out.end())
                    out.push_back(std::move(one));
            }
        }
    return out;
}

} // namespace

Face mapped(Face face, const Transform& map) {
    face.place = face.place.then(map);
    if (face.panel)
        face.panel = map(*face.panel);
    if (isRead(face.kind) && map.a * map.d - map.b * map.c < 0)
        face.place = Transform{-1, 0, 0, 1, 1, 0}.then(face.place); // the unit square's left and right swap
    return face;
}

Body mapped(const Body& body, const Transform& map) {
    Body out{geometry::transformed(body.shape, map), {}, body.faces, body.zones, body.panels};
    out.lines.reserve(body.lines.size());
    for (const PieceLine& line : body.lines)
        out.lines.push_back(
            {line.id, geometry::transformed(line.path, map), line.does, line.beginsAtEdge, line.endsAtEdge});
    for (Face& face : out.faces)
        face = mapped(std::move(face), map);
    for (Zone& zone : out.zones) {
        zone.area = geometry::transformed(zone.area, map);
        if (zone.behind)
            zone.behind = map(*zone.behind);
    }
    for (Panel& panel : out.panels) {
        panel.inside = map(panel.inside);
        if (!panel.upRad)
            continue;
        const Point up{std::sin(*panel.upRad), -std::cos(*panel.upRad)};
        const Point now{map.a * up.x + map.c * up.y, map.b * up.x + map.d * up.y};
        panel.upRad = std::atan2(now.x, -now.y);
    }
    return out;
}

base::Result<Carried> carried(const std::vector<std::shared_ptr<const Body>>& from, std::vector<Shape> into,
                              const CarryOptions& options, const base::Progress& progress) {
    Carried out;
    const bool areBare =
        std::all_of(from.begin(), from.end(), [](const auto& body) { return body->isBare(); });
    for (Shape& shape : into) {
        Body body{std::move(shape)};
        if (areBare) {
            out.bodies.push_back(std::move(body));
            continue;
        }
        if (progress.isCancelled())
            return base::cancelled();
        const geometry::Box box = geometry::bounds(body.shape);
        Lines lines(body.shape, options);
        for (const auto& source : from)
            for (const PieceLine& line : source->lines)
                if (box.meets(geometry::bounds(line.path)))
                    if (auto ok = lines.add(line); !ok)
                        return ok.error();
        lines.join();
        out.shortEnds += lines.reachEdges();
        body.lines = lines.take(out.droppedBits);
        auto zones = zonesWithin(from, body.shape, progress);
        if (!zones)
            return zones.error();
        body.zones = zones.take();
        for (const auto& source : from) {
            for (const Face& face : source->faces)
                if (std::find(body.faces.begin(), body.faces.end(), face) == body.faces.end())
                    body.faces.push_back(face);
            for (const Panel& panel : source->panels)
                if (geometry::contains(body.shape, panel.inside))
                    body.panels.push_back(panel);
        }
        out.bodies.push_back(std::move(body));
    }
    return out;
}

} // namespace thinline::design
