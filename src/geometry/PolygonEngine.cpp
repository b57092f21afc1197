// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The one seam to the polygon library.
//
// Only this file knows which library does the work; everything else sees rings of grid points. The library
// counts in integers, which is why it does not fail where floating point does: whether a point lies left
// of a line is exact. One grid unit is a nanometre, a hundred-thousandth of what a knife can place, and
// the grid is laid around each operation's own outlines so that two metres fit into the range in which its
// products stay exact. The grid's origin is on whole millimetres, so the same place falls on the same grid
// point in designs that differ a little, and results do not tremble when something is added far away.
//
// Its habits that matter here:
//
// - Rings of one height bound nothing, and some of them make it fail instead of returning nothing. They
//   are not handed over.
// - It calls an operation on nothing a failure; that is asked before.
// - It reports failure in two ways, by a value and by an exception. Both become the same sentence.
// - It joins steps in one direction unless told not to; Restore.cpp needs every point that was handed
//   over.
// - Its offsets of polygons measure their tolerance more generously than it is meant here. They are used
//   only for questions (what does a disc reach?), never for what is cut.
//
// How it compares with others, and why it was chosen, is in docs/adr/0003-polygon-engine.md.
#include "geometry/PolygonEngine.h"

#include <polyclipping/clipper.hpp>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <future>
#include <new>
#include <system_error>
#include <thread>

namespace thinline::geometry {
namespace {

namespace engine = ClipperLib;

/// At some ten nanoseconds a look this is about three seconds.
constexpr double kMostLooks = 3e8;
/// From here on, a tenth of a second, somebody may want to stop it.
constexpr double kLongLooks = 1e7;
constexpr std::chrono::milliseconds kPollEvery{20};

engine::PolyFillType ruleOf(FillRule rule) {
    switch (rule) {
    case FillRule::EvenOdd:
        return engine::pftEvenOdd;
    case FillRule::Positive:
        return engine::pftPositive;
    case FillRule::NonZero:
        break;
    }
    return engine::pftNonZero;
}

engine::ClipType operationOf(SetOperation operation) {
    switch (operation) {
    case SetOperation::Intersection:
        return engine::ctIntersection;
    case SetOperation::Difference:
        return engine::ctDifference;
    case SetOperation::Exclusive:
        return engine::ctXor;
    case SetOperation::Union:
        break;
    }
    return engine::ctUnion;
}

/// Hands rings over; returns whether any of them bounds an area.
bool addRings(engine::Clipper& clipper, const std::vector<GridRing>& rings, engine::PolyType role) {
    bool hasArea = false;
    engine::Path path;
    for (const GridRing& ring : rings) {
        path.clear();
        path.reserve(ring.size());
        for (GridPoint p : ring)
            path.emplace_back(p.x, p.y);
        // A ring of one height bounds nothing, and some such rings make the engine fail.
        if (std::all_of(ring.begin(), ring.end(), [&](GridPoint p) { return p.y == ring.front().y; }))
            continue;
        hasArea = clipper.AddPath(path, role, true) || hasArea;
    }
    return hasArea;
}

GridRing ringOf(const engine::Path& path) {
    GridRing ring;
    ring.reserve(path.size());
    for (const engine::IntPoint& p : path)
        ring.push_back({p.X, p.Y});
    return ring;
}

base::Error tooMuch() {
    return {base::Code::LimitExceeded,
            "The outlines overlap or cross too often to be combined; take fewer at a time, or "
            "simplify the drawing."};
}

base::Error engineFailed() {
    return {base::Code::Degenerate,
            "The outlines could not be combined; smooth the drawing a little and try again."};
}

/// How much the engine has to do, in edges looked at. It sweeps from vertex to vertex, and at each looks at every edge
/// it is crossing; so an edge costs as many looks as there are vertices within its height. Where outlines begin, at
/// their local peaks, it looks for their place among all edges it is crossing. It cannot be stopped on the way, which is
/// why it is asked before it begins, and why a long call is made on a thread that may be left behind.
double looksOf(const std::vector<GridRing>& subject, const std::vector<GridRing>& clip) {
    std::vector<std::int64_t> heights;
    for (const auto* rings : {&subject, &clip})
        for (const GridRing& ring : *rings)
            for (GridPoint p : ring)
                heights.push_back(p.y);
    std::sort(heights.begin(), heights.end());
    heights.erase(std::unique(heights.begin(), heights.end()), heights.end());
    const auto rank = [&](std::int64_t y) {
        return static_cast<double>(std::lower_bound(heights.begin(), heights.end(), y) - heights.begin());
    };
    double looks = 0, peaks = 0;
    for (const auto* rings : {&subject, &clip})
        for (const GridRing& ring : *rings)
            for (size_t i = 0; i < ring.size(); ++i) {
                const std::int64_t before = ring[i].y, here = ring[(i + 1) % ring.size()].y,
                                   after = ring[(i + 2) % ring.size()].y;
                looks += std::abs(rank(before) - rank(here));
                peaks += here > before && here >= after;
            }
    return looks + peaks * looks / std::max(1.0, static_cast<double>(heights.size()));
}

std::vector<GridRing> snapped(const Polygons& polygons, const Grid& grid) {
    std::vector<GridRing> rings;
    rings.reserve(polygons.size());
    for (const Polygon& polygon : polygons) {
        rings.emplace_back().reserve(polygon.size());
        for (Point p : polygon)
            rings.back().push_back(grid.snap(p));
    }
    return rings;
}

Polygon placed(const GridRing& ring, const Grid& grid) {
    Polygon polygon;
    polygon.reserve(ring.size());
    for (GridPoint p : ring)
        polygon.push_back(grid.place(p));
    return polygon;
}

/// The box of all points; not finite when one of them is not.
Box boxOf(const Polygons& polygons) {
    Box box = bounds(polygons);
    for (const Polygon& ring : polygons)
        for (Point p : ring)
            if (!isFinite(p))
                box.most = {std::numeric_limits<double>::quiet_NaN(), 0};
    return box;
}

base::Result<std::vector<GridArea>> combineNow(SetOperation operation, const std::vector<GridRing>& subject,
                                               FillRule subjectRule, const std::vector<GridRing>& clip,
                                               FillRule clipRule) {
    std::vector<GridArea> out;
    try {
        engine::Clipper clipper;
        clipper.PreserveCollinear(true);
        const bool hasSubject = addRings(clipper, subject, engine::ptSubject);
        const bool hasClip = addRings(clipper, clip, engine::ptClip);
        if (!hasSubject && !hasClip)
            return out; // the engine calls nothing a failure
        engine::PolyTree tree;
        if (!clipper.Execute(operationOf(operation), tree, ruleOf(subjectRule), ruleOf(clipRule)))
            return engineFailed();
        for (engine::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
            if (node->IsHole())
                continue;
            GridArea area{ringOf(node->Contour), {}};
            for (const engine::PolyNode* hole : node->Childs)
                area.openings.push_back(ringOf(hole->Contour));
            out.push_back(std::move(area));
        }
        return out;
    } catch (const engine::clipperException&) {
        return engineFailed();
    } catch (const std::bad_alloc&) {
        return tooMuch();
    }
}

} // namespace

base::Result<Grid> Grid::around(const Box& box) {
    if (box.least.x == std::numeric_limits<double>::infinity() && !std::isnan(box.most.x))
        return Grid({});
    if (!isFinite(box.least) || !isFinite(box.most))
        return base::Error{base::Code::InvalidArgument, "An outline has a point that is not a number."};
    if (box.width() > 2 * kLargestReachMm || box.height() > 2 * kLargestReachMm)
        return base::Error{base::Code::LimitExceeded,
                           "The outlines reach over more than 2000 mm; make the design smaller."};
    // On whole millimetres, so that the same place falls on the same grid point in designs that differ
    // little.
    return Grid({std::round(box.centre().x), std::round(box.centre().y)});
}

base::Result<std::vector<GridArea>> combine(SetOperation operation, const std::vector<GridRing>& subject,
                                            FillRule subjectRule, const std::vector<GridRing>& clip,
                                            FillRule clipRule, const base::Progress& progress) {
    const double looks = looksOf(subject, clip);
    if (looks > kMostLooks)
        return tooMuch();
    if (looks < kLongLooks)
        return combineNow(operation, subject, subjectRule, clip, clipRule);
    // The thread owns all it reads, so that it can be left behind.
    std::packaged_task<base::Result<std::vector<GridArea>>()> task(
        [operation, subject, subjectRule, clip, clipRule] {
            return combineNow(operation, subject, subjectRule, clip, clipRule);
        });
    auto combined = task.get_future();
    try {
        std::thread(std::move(task)).detach();
    } catch (const std::system_error&) { // there is no thread to be had
        return combineNow(operation, subject, subjectRule, clip, clipRule);
    }
    while (combined.wait_for(kPollEvery) != std::future_status::ready)
        if (progress.isCancelled())
            return base::cancelled();
    return combined.get();
}

base::Result<Polygons> subtract(const Polygons& areas, const Polygons& taken) {
    Box box = boxOf(areas);
    box.include(boxOf(taken));
    const auto grid = Grid::around(box);
    if (!grid)
        return grid.error();
    if (areas.empty())
        return Polygons{};
    const auto left = combine(SetOperation::Difference, snapped(areas, *grid), FillRule::NonZero,
                              snapped(taken, *grid), FillRule::NonZero);
    if (!left)
        return left.error();
    Polygons out;
    for (const GridArea& area : *left) {
        out.push_back(placed(area.outline, *grid));
        for (const GridRing& opening : area.openings)
            out.push_back(placed(opening, *grid));
    }
    return out;
}

base::Result<Polygons> grown(const Polygons& areas, double byMm, double toleranceMm) {
    const auto grid = Grid::around(boxOf(areas).grownBy(std::max(0.0, byMm)));
    if (!grid)
        return grid.error();
    try {
        // 0.45 of the budget: the engine measures its arc tolerance more generously than we do.
        engine::ClipperOffset offset(2.0, std::max(1.0, 0.45 * toleranceMm * Grid::kUnitsPerMm));
        for (const GridRing& ring : snapped(areas, *grid)) {
            engine::Path path;
            for (GridPoint p : ring)
                path.emplace_back(p.x, p.y);
            offset.AddPath(path, engine::jtRound, engine::etClosedPolygon);
        }
        engine::Paths paths;
        offset.Execute(paths, byMm * Grid::kUnitsPerMm);
        Polygons out;
        for (const engine::Path& path : paths)
            out.push_back(placed(ringOf(path), *grid));
        return out;
    } catch (const engine::clipperException&) {
        return engineFailed();
    }
}

base::Result<std::vector<Polygons>> separated(const Polygons& areas) {
    const auto grid = Grid::around(boxOf(areas));
    if (!grid)
        return grid.error();
    const auto parts =
        combine(SetOperation::Union, snapped(areas, *grid), FillRule::NonZero, {}, FillRule::NonZero);
    if (!parts)
        return parts.error();
    std::vector<Polygons> out;
    for (const GridArea& area : *parts) {
        out.push_back({placed(area.outline, *grid)});
        for (const GridRing& opening : area.openings)
            out.back().push_back(placed(opening, *grid));
    }
    return out;
}

} // namespace thinline::geometry
