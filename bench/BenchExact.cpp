// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "BenchCases.h"

#include <CGAL/Exact_predicates_exact_constructions_kernel.h>
#include <CGAL/Polygon_set_2.h>
#include <list>

namespace thinline::bench {
namespace {

using Kernel = CGAL::Exact_predicates_exact_constructions_kernel;
using Ring = CGAL::Polygon_2<Kernel>;
using Area = CGAL::Polygon_with_holes_2<Kernel>;
using Set = CGAL::Polygon_set_2<Kernel>;

Ring ringOf(geometry::Polygon points, bool isOutline) {
    Ring ring;
    for (const geometry::Point p : points)
        ring.push_back({p.x, p.y});
    if ((ring.orientation() == CGAL::COUNTERCLOCKWISE) != isOutline)
        ring.reverse_orientation();
    return ring;
}

std::vector<Area> areasOf(const std::vector<geometry::Shape>& shapes) {
    std::vector<Area> out;
    for (const geometry::Shape& s : shapes) {
        const geometry::Polygons rings = geometry::flatten(s, kFlattenMm);
        Area area(ringOf(rings[0], true));
        for (size_t i = 1; i < rings.size(); ++i)
            area.add_hole(ringOf(rings[i], false));
        out.push_back(area);
    }
    return out;
}

void count(Made& made, const Set& set) {
    std::list<Area> areas;
    set.polygons_with_holes(std::back_inserter(areas));
    for (const Area& a : areas) {
        made.areaMm2 += CGAL::to_double(a.outer_boundary().area());
        made.nodes += static_cast<long>(a.outer_boundary().size());
        for (auto h = a.holes_begin(); h != a.holes_end(); ++h) {
            made.areaMm2 += CGAL::to_double(h->area());
            made.nodes += static_cast<long>(h->size());
        }
        ++made.parts;
    }
}

Made runExact(const Case& one) {
    Made made;
    if (one.kind == Kind::OffsetSeries) {
        made.trouble = "offsets exactly only with other number types; not compared";
        return made;
    }
    try {
        const std::vector<Area> subject = areasOf(one.shapes), other = areasOf(one.others);
        std::vector<Set> results(1);
        const Clock clock;
        results[0].join(subject.begin(), subject.end());
        if (one.kind == Kind::Difference) {
            Set taken;
            taken.join(other.begin(), other.end());
            results[0].difference(taken);
        } else if (one.kind == Kind::Slice) {
            const Set whole = results[0];
            results.clear();
            for (const Area& knife : other) {
                results.push_back(whole);
                results.back().intersection(knife);
            }
        }
        made.ms = clock.ms();
        for (const Set& set : results)
            count(made, set);
    } catch (const std::exception&) {
        made.trouble = "refused the input";
    }
    return made;
}

} // namespace

std::vector<Engine> exactEngines() {
    return {{"CGAL exact", runExact}};
}

} // namespace thinline::bench
