// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::geometry {

void appendEllipseArc(Contour& contour, Point centre, double radiusX, double radiusY, double fromRad,
                      double sweepRad) {
    constexpr double kWidest = std::numbers::pi / 4;
    const int parts = std::max(1, static_cast<int>(std::ceil(std::abs(sweepRad) / kWidest - 1e-9)));
    const double step = sweepRad / parts, k = 4.0 / 3 * std::tan(step / 4);
    const auto at = [&](double a, double along) {
        return Point{centre.x + radiusX * (std::cos(a) - along * std::sin(a)),
                     centre.y + radiusY * (std::sin(a) + along * std::cos(a))};
    };
    for (int i = 0; i < parts; ++i) {
        const double a = fromRad + i * step, b = fromRad + (i + 1) * step;
        contour.segments.push_back(Segment::curve(at(a, k), at(b, -k), at(b, 0)));
    }
}

Contour ellipse(Point centre, double radiusX, double radiusY) {
    Contour out{{centre.x + radiusX, centre.y}, {}};
    appendEllipseArc(out, centre, radiusX, radiusY, 0, 2 * std::numbers::pi);
    out.segments.back().end = out.start; // to the bit
    return out;
}

} // namespace thinline::geometry
