// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Scoring.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"

#include <cmath>

namespace thinline::bench {

QPainterPath pathOf(const std::vector<geometry::Shape>& shapes) {
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    const auto add = [&](const geometry::Contour& contour) {
        path.moveTo(contour.start.x, contour.start.y);
        for (const geometry::Segment& s : contour.segments)
            if (s.isLine)
                path.lineTo(s.end.x, s.end.y);
            else
                path.cubicTo(s.control1.x, s.control1.y, s.control2.x, s.control2.y, s.end.x, s.end.y);
    };
    for (const geometry::Shape& shape : shapes) {
        add(shape.outline);
        for (const geometry::Contour& opening : shape.openings)
            add(opening);
    }
    return path;
}

std::vector<Corner> cornersOf(const std::vector<geometry::Shape>& shapes, double leastRad) {
    std::vector<Corner> out;
    const auto take = [&](const geometry::Contour& contour) {
        std::vector<geometry::Cubic> curves;
        geometry::eachCurve(contour, [&](const geometry::Cubic& k, const geometry::Segment&) {
            if (geometry::distance(k.a, k.d) > 1e-6)
                curves.push_back(k);
        });
        for (size_t i = 0; i < curves.size(); ++i) {
            const geometry::Point in = geometry::directionAt(curves[i], 1),
                        from = geometry::directionAt(curves[(i + 1) % curves.size()], 0);
            const double turn = std::atan2(geometry::cross(in, from), geometry::dot(in, from));
            if (std::abs(turn) > leastRad)
                out.push_back({curves[i].d, turn, geometry::curveLength(curves[i]),
                               geometry::curveLength(curves[(i + 1) % curves.size()])});
        }
    };
    for (const geometry::Shape& shape : shapes) {
        take(shape.outline);
        for (const geometry::Contour& opening : shape.openings)
            take(opening);
    }
    return out;
}

} // namespace thinline::bench
