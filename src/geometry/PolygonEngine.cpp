// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/PolygonEngine.h"

#include <polyclipping/clipper.hpp>

namespace thinline::geometry {
namespace {

namespace engine = ClipperLib;

constexpr double kUnitsPerMm = 1e6; // 1 nm grid

base::Result<engine::Paths> toEngine(const Polygons& polygons) {
    engine::Paths paths;
    paths.reserve(polygons.size());
    for (const Polygon& ring : polygons) {
        engine::Path path;
        path.reserve(ring.size());
        for (Point p : ring) {
            if (!isFinite(p))
                return base::Error{base::Code::InvalidArgument,
                                   "An outline has a point that is not a number."};
            if (std::abs(p.x) > kLargestReachMm || std::abs(p.y) > kLargestReachMm)
                return base::Error{
                    base::Code::LimitExceeded,
                    "An outline reaches further than 1000 mm from the middle; make the design smaller."};
            path.emplace_back(static_cast<engine::cInt>(std::llround(p.x * kUnitsPerMm)),
                              static_cast<engine::cInt>(std::llround(p.y * kUnitsPerMm)));
        }
        paths.push_back(std::move(path));
    }
    return paths;
}

Polygon fromEngine(const engine::Path& path) {
    Polygon ring;
    ring.reserve(path.size());
    for (const engine::IntPoint& p : path)
        ring.push_back({static_cast<double>(p.X) / kUnitsPerMm, static_cast<double>(p.Y) / kUnitsPerMm});
    return ring;
}

Polygons fromEngine(const engine::Paths& paths) {
    Polygons rings;
    rings.reserve(paths.size());
    for (const engine::Path& path : paths)
        rings.push_back(fromEngine(path));
    return rings;
}

base::Error engineFailed() {
    return {base::Code::Degenerate,
            "The outlines could not be combined; smooth the drawing a little and try again."};
}

} // namespace

base::Result<Polygons> subtract(const Polygons& areas, const Polygons& taken) {
    auto subject = toEngine(areas);
    auto clip = toEngine(taken);
    if (!subject)
        return subject.error();
    if (!clip)
        return clip.error();
    if (subject->empty())
        return Polygons{};
    try {
        engine::Clipper clipper;
        clipper.AddPaths(*subject, engine::ptSubject, true);
        clipper.AddPaths(*clip, engine::ptClip, true);
        engine::Paths out;
        if (!clipper.Execute(engine::ctDifference, out, engine::pftNonZero, engine::pftNonZero))
            return engineFailed();
        return fromEngine(out);
    } catch (const engine::clipperException&) {
        return engineFailed();
    }
}

base::Result<Polygons> grown(const Polygons& areas, double byMm, double toleranceMm) {
    auto paths = toEngine(areas);
    if (!paths)
        return paths.error();
    try {
        // 0.45 of the budget: the engine measures its arc tolerance more generously than we do.
        engine::ClipperOffset offset(2.0, std::max(1.0, 0.45 * toleranceMm * kUnitsPerMm));
        offset.AddPaths(*paths, engine::jtRound, engine::etClosedPolygon);
        engine::Paths out;
        offset.Execute(out, byMm * kUnitsPerMm);
        return fromEngine(out);
    } catch (const engine::clipperException&) {
        return engineFailed();
    }
}

base::Result<std::vector<Polygons>> separated(const Polygons& areas) {
    auto paths = toEngine(areas);
    if (!paths)
        return paths.error();
    std::vector<Polygons> out;
    if (paths->empty())
        return out; // the engine calls nothing a failure
    try {
        engine::Clipper clipper;
        clipper.AddPaths(*paths, engine::ptSubject, true);
        engine::PolyTree tree;
        if (!clipper.Execute(engine::ctUnion, tree, engine::pftNonZero, engine::pftNonZero))
            return engineFailed();
        for (engine::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
            if (node->IsHole())
                continue;
            Polygons rings{fromEngine(node->Contour)};
            for (const engine::PolyNode* hole : node->Childs)
                rings.push_back(fromEngine(hole->Contour));
            out.push_back(std::move(rings));
        }
        return out;
    } catch (const engine::clipperException&) {
        return engineFailed();
    }
}

} // namespace thinline::geometry
