// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"

#include <cmath>

/// Directions and places in space, mm: x to the right, y down, z to the viewer, as a flat card lies on the bench.
namespace thinline::folding {

struct Vec {
    double x = 0, y = 0, z = 0;
    Vec operator+(Vec b) const { return {x + b.x, y + b.y, z + b.z}; }
    Vec operator-(Vec b) const { return {x - b.x, y - b.y, z - b.z}; }
    Vec operator*(double k) const { return {x * k, y * k, z * k}; }
    bool operator==(const Vec&) const = default;
};
inline double dot(Vec a, Vec b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vec cross(Vec a, Vec b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double length(Vec a) {
    return std::sqrt(dot(a, a));
}

/// Where a flat card stands: its own directions and its own origin.
struct Stand {
    Vec right{1, 0, 0}, down{0, 1, 0}, out{0, 0, 1}, origin;

    Vec turned(Vec own) const { return right * own.x + down * own.y + out * own.z; }
    /// Of a point of the card, so far from its middle towards its front.
    Vec at(geometry::Point p, double outMm = 0) const { return origin + turned({p.x, p.y, outMm}); }
    /// A stand given in this one's own directions.
    Stand then(const Stand& own) const {
        return {turned(own.right), turned(own.down), turned(own.out), origin + turned(own.origin)};
    }
    /// Where a place lies as the card sees it.
    Vec seen(Vec place) const {
        const Vec from = place - origin;
        return {dot(from, right), dot(from, down), dot(from, out)};
    }
};

} // namespace thinline::folding
