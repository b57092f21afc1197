// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "BenchCases.h"
#include "geometry/Boolean.h"
#include "geometry/Cubic.h"
#include "geometry/Offset.h"
#include "geometry/PolygonEngine.h"

#include <cmath>
#include <geos_c.h>
#include <numbers>

namespace thinline::bench {

std::vector<Engine> exactEngines(); // BenchExact.cpp: CGAL
std::vector<Engine> curveEngines(); // BenchCurves.cpp: lib2geom

namespace {

using namespace geometry;

void count(Made& made, const std::vector<Shape>& shapes) {
    for (const Shape& s : shapes) {
        made.areaMm2 += area(s);
        made.nodes += nodeCount(s);
        ++made.parts;
        eachCurve(s.outline, [&](const Cubic& k, const Segment&) {
            for (double t : {0.0, 0.3, 0.6})
                made.sample.push_back(k.at(t));
        });
    }
}

Made runOurs(const Case& one) {
    Made made;
    std::vector<std::vector<Shape>> results;
    const Clock clock;
    const auto take = [&](auto result) {
        if (!result)
            made.trouble = result.error().message;
        return result;
    };
    switch (one.kind) {
    case Kind::Union:
        if (auto r = take(weld(one.shapes)))
            results.push_back(r.take());
        break;
    case Kind::Difference:
        if (auto r = take(subtract(one.shapes, one.others)))
            results.push_back(r.take());
        break;
    case Kind::Slice:
        if (auto r = take(slice(one.shapes, one.others)))
            results = r.take().inside;
        break;
    case Kind::OffsetSeries:
        if (auto r = take(offsetSeries(one.shapes, one.stepMm, one.count)))
            for (const Parallel& p : *r)
                results.push_back(p.shapes);
        break;
    }
    made.ms = clock.ms();
    for (const auto& shapes : results)
        count(made, shapes);
    return made;
}

// ---- the polygon engine alone

Polygons ringsOf(const std::vector<Shape>& shapes) {
    Polygons rings;
    for (const Shape& s : shapes)
        for (Polygon& ring : flatten(s, kFlattenMm))
            rings.push_back(std::move(ring));
    return rings;
}

std::vector<GridRing> snapped(const Polygons& rings, const Grid& grid) {
    std::vector<GridRing> out;
    for (const Polygon& ring : rings) {
        out.emplace_back();
        for (Point p : ring)
            out.back().push_back(grid.snap(p));
    }
    return out;
}

void count(Made& made, const std::vector<GridArea>& areas, const Grid& grid) {
    const auto add = [&](const GridRing& ring) {
        Polygon p;
        for (GridPoint g : ring)
            p.push_back(grid.place(g));
        made.areaMm2 += signedArea(p);
        made.nodes += static_cast<long>(ring.size());
        for (size_t i = 0; i < p.size(); ++i)
            made.sample.push_back(middle(p[i], p[(i + 1) % p.size()]));
    };
    for (const GridArea& a : areas) {
        add(a.outline);
        for (const GridRing& r : a.openings)
            add(r);
        ++made.parts;
    }
}

Made runBare(const Case& one) {
    Made made;
    const Polygons subject = ringsOf(one.shapes), other = ringsOf(one.others);
    Box box = bounds(subject);
    box.include(bounds(other));
    const Grid grid = Grid::around(box.grownBy(one.stepMm * one.count)).take();
    const auto s = snapped(subject, grid), o = snapped(other, grid);
    std::vector<std::vector<GridArea>> results;
    std::vector<Polygons> grownRings;
    const Clock clock;
    switch (one.kind) {
    case Kind::Union:
        results.push_back(combine(SetOperation::Union, s, FillRule::NonZero, {}, FillRule::NonZero).take());
        break;
    case Kind::Difference:
        results.push_back(
            combine(SetOperation::Difference, s, FillRule::NonZero, o, FillRule::NonZero).take());
        break;
    case Kind::Slice:
        for (const GridRing& knife : o)
            results.push_back(
                combine(SetOperation::Intersection, s, FillRule::NonZero, {knife}, FillRule::NonZero).take());
        break;
    case Kind::OffsetSeries:
        for (int i = 1; i <= one.count; ++i)
            grownRings.push_back(grown(subject, one.stepMm * i, kFlattenMm).take());
        break;
    }
    made.ms = clock.ms();
    for (const auto& areas : results)
        count(made, areas, grid);
    for (const Polygons& rings : grownRings)
        for (const Polygon& ring : rings) {
            made.areaMm2 += signedArea(ring);
            made.nodes += static_cast<long>(ring.size());
            made.parts += signedArea(ring) > 0 ? 1 : 0;
        }
    return made;
}

// ---- GEOS, floating overlay

void quiet(const char*, ...) {}

GEOSGeometry* geosRing(GEOSContextHandle_t geos, const Polygon& ring) {
    GEOSCoordSequence* points = GEOSCoordSeq_create_r(geos, static_cast<unsigned>(ring.size() + 1), 2);
    for (size_t i = 0; i <= ring.size(); ++i)
        GEOSCoordSeq_setXY_r(geos, points, static_cast<unsigned>(i), ring[i % ring.size()].x,
                             ring[i % ring.size()].y);
    return GEOSGeom_createLinearRing_r(geos, points);
}

GEOSGeometry* geosShapes(GEOSContextHandle_t geos, const std::vector<Shape>& shapes) {
    std::vector<GEOSGeometry*> polygons;
    for (const Shape& s : shapes) {
        const Polygons rings = flatten(s, kFlattenMm);
        std::vector<GEOSGeometry*> holes;
        for (size_t i = 1; i < rings.size(); ++i)
            holes.push_back(geosRing(geos, rings[i]));
        polygons.push_back(GEOSGeom_createPolygon_r(geos, geosRing(geos, rings[0]), holes.data(),
                                                    static_cast<unsigned>(holes.size())));
    }
    return GEOSGeom_createCollection_r(geos, GEOS_MULTIPOLYGON, polygons.data(),
                                       static_cast<unsigned>(polygons.size()));
}

Made runGeos(const Case& one) {
    Made made;
    GEOSContextHandle_t geos = GEOS_init_r();
    GEOSContext_setErrorHandler_r(geos, quiet);
    GEOSContext_setNoticeHandler_r(geos, quiet);
    GEOSGeometry* subject = geosShapes(geos, one.shapes);
    std::vector<GEOSGeometry*> knives, results;
    for (const Shape& s : one.others)
        knives.push_back(geosShapes(geos, {s}));
    GEOSGeometry* others = one.others.empty() ? nullptr : geosShapes(geos, one.others);
    const Clock clock;
    switch (one.kind) {
    case Kind::Union:
        results.push_back(GEOSUnaryUnion_r(geos, subject));
        break;
    case Kind::Difference:
        results.push_back(GEOSDifference_r(geos, subject, others));
        break;
    case Kind::Slice:
        for (GEOSGeometry* knife : knives)
            results.push_back(GEOSIntersection_r(geos, subject, knife));
        break;
    case Kind::OffsetSeries:
        for (int i = 1; i <= one.count; ++i) {
            // Segments per quarter so that the arc strays about as far as the others are allowed to.
            const double d = one.stepMm * i;
            const int quarter =
                static_cast<int>(std::ceil(std::numbers::pi / 4 / std::acos(1 - kFlattenMm / d)));
            results.push_back(GEOSBuffer_r(geos, subject, d, quarter));
        }
        break;
    }
    made.ms = clock.ms();
    for (GEOSGeometry* r : results) {
        if (!r) {
            made.trouble = "refused the input";
            continue;
        }
        double areaMm2 = 0;
        GEOSArea_r(geos, r, &areaMm2);
        made.areaMm2 += areaMm2;
        made.nodes += GEOSGetNumCoordinates_r(geos, r);
        made.parts += GEOSGetNumGeometries_r(geos, r);
    }
    return made;
}

} // namespace

std::vector<Engine> allEngines() {
    std::vector<Engine> engines{{"bare engine", runBare}, {"Thin Line", runOurs}, {"GEOS", runGeos}};
    for (const auto& more : {exactEngines(), curveEngines()})
        engines.insert(engines.end(), more.begin(), more.end());
    return engines;
}

} // namespace thinline::bench
