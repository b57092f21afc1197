// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Tracing.h"

#include "trace/FlatArt.h"
#include "trace/LineDrawing.h"
#include "trace/Photo.h"

#include <algorithm>
#include <cmath>

namespace thinline::trace {

using base::Code;
using base::Error;

base::Result<Tracing> traced(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                             const base::Progress& progress) {
    if (picture.isEmpty())
        return Error{Code::InvalidArgument, "The picture is empty; open one with at least one pixel."};
    if (!(mmPerPx > 0) || !std::isfinite(mmPerPx))
        return Error{Code::InvalidArgument, "The picture's real size is not set; give its width."};
    if (recipe.threshold && (*recipe.threshold < 0 || *recipe.threshold > 254))
        return Error{Code::InvalidArgument, "The threshold " + std::to_string(*recipe.threshold) +
                                                " is out of range; it goes from 0 to 254."};
    switch (recipe.mode) {
    case Mode::FlatArt:
        return traceFlatArt(picture, mmPerPx, recipe, progress);
    case Mode::Photo:
        return tracePhoto(picture, mmPerPx, recipe, progress);
    case Mode::LineDrawing:
        break;
    }
    return traceLineDrawing(picture, mmPerPx, recipe, progress);
}

geometry::Shape keptShape(geometry::Shape shape) {
    const auto rounded = [](geometry::Point p) {
        return geometry::Point{std::round(p.x * 1e4) / 1e4, std::round(p.y * 1e4) / 1e4};
    };
    const auto roundAll = [&](geometry::Contour& contour) {
        contour.start = rounded(contour.start);
        for (geometry::Segment& s : contour.segments)
            s = {rounded(s.control1), rounded(s.control2), rounded(s.end), s.isLine};
    };
    roundAll(shape.outline);
    for (geometry::Contour& opening : shape.openings)
        roundAll(opening);
    return shape;
}

void carryIds(const Tracing& before, Tracing& after) {
    struct Candidate {
        geometry::Box box;
        geometry::Polygons rings;
        bool isNamed = false;
    };
    std::vector<Candidate> candidates;
    for (const Area& area : after.areas)
        candidates.push_back({geometry::bounds(area.shape), geometry::flatten(area.shape, 0.5), false});
    design::PieceId highest = 0;
    for (const Area& old : before.areas)
        highest = std::max(highest, old.id);
    for (const Area& old : before.areas)
        for (size_t i = 0; i < candidates.size(); ++i) {
            Candidate& c = candidates[i];
            if (!c.isNamed && c.box.contains(old.inside) && geometry::contains(c.rings, old.inside)) {
                after.areas[i].id = old.id;
                c.isNamed = true;
                break;
            }
        }
    for (size_t i = 0; i < candidates.size(); ++i)
        if (!candidates[i].isNamed)
            after.areas[i].id = ++highest;
}

} // namespace thinline::trace
