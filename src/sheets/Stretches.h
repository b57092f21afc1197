// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"

#include <algorithm>

/// Straight stretches of outlines, for telling how far two of them are apart.
namespace thinline::sheets {

struct Stretch {
    geometry::Point a, b;
};

/// Returns how far two stretches are apart; 0 where they cross.
inline double distanceOf(const Stretch& s, const Stretch& t) {
    using geometry::Point, geometry::distanceToStretch;
    const auto side = [](Point a, Point b, Point p) { return cross(b - a, p - a); };
    const bool crosses =
        side(s.a, s.b, t.a) * side(s.a, s.b, t.b) < 0 && side(t.a, t.b, s.a) * side(t.a, t.b, s.b) < 0;
    if (crosses)
        return 0;
    return std::min({distanceToStretch(s.a, t.a, t.b), distanceToStretch(s.b, t.a, t.b),
                     distanceToStretch(t.a, s.a, s.b), distanceToStretch(t.b, s.a, s.b)});
}

} // namespace thinline::sheets
