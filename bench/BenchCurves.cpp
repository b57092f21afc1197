// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "BenchCases.h"

#include <2geom/intersection-graph.h>
#include <2geom/path.h>
#include <2geom/pathvector.h>

namespace thinline::bench {
namespace {

Geom::Point at(geometry::Point p) {
    return {p.x, p.y};
}

Geom::PathVector pathsOf(const geometry::Shape& shape) {
    Geom::PathVector paths;
    const auto add = [&](const geometry::Contour& contour) {
        Geom::Path path(at(contour.start));
        for (const geometry::Segment& s : contour.segments) {
            if (s.isLine)
                path.appendNew<Geom::LineSegment>(at(s.end));
            else
                path.appendNew<Geom::CubicBezier>(at(s.control1), at(s.control2), at(s.end));
        }
        path.close(true);
        paths.push_back(path);
    };
    add(shape.outline);
    for (const geometry::Contour& opening : shape.openings)
        add(opening);
    return paths;
}

void count(Made& made, const Geom::PathVector& paths) {
    for (const Geom::Path& path : paths) {
        made.nodes += static_cast<long>(path.size_default());
        double areaMm2 = 0;
        Geom::Point centre;
        Geom::centroid(path.toPwSb(), centre, areaMm2);
        made.areaMm2 += -areaMm2;
        ++made.parts;
    }
}

Made runCurves(const Case& one) {
    Made made;
    if (one.kind == Kind::OffsetSeries) {
        made.trouble = "no offset of its own";
        return made;
    }
    try {
        std::vector<Geom::PathVector> results(1);
        const Clock clock;
        // One pair at a time: there is no operation on many.
        for (const geometry::Shape& s : one.shapes) {
            if (results[0].empty()) {
                results[0] = pathsOf(s);
                continue;
            }
            Geom::PathIntersectionGraph graph(results[0], pathsOf(s), Geom::EPSILON);
            results[0] = graph.getUnion();
        }
        const Geom::PathVector whole = results[0];
        if (one.kind == Kind::Slice)
            results.clear();
        for (const geometry::Shape& s : one.others) {
            Geom::PathIntersectionGraph graph(one.kind == Kind::Slice ? whole : results[0], pathsOf(s),
                                              Geom::EPSILON);
            if (one.kind == Kind::Slice)
                results.push_back(graph.getIntersection());
            else
                results[0] = graph.getAminusB();
        }
        made.ms = clock.ms();
        for (const Geom::PathVector& paths : results)
            count(made, paths);
    } catch (const std::exception& e) {
        made.trouble = std::string("threw ") + e.what();
    }
    return made;
}

} // namespace

std::vector<Engine> curveEngines() {
    return {{"lib2geom", runCurves}};
}

} // namespace thinline::bench
