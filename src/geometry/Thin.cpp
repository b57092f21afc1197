// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Tracers and plotters write outlines of a hundred thousand steps of a micrometre each. Nothing of that can be cut, and
// every operation pays for it.
//
// From where a step begins, each further point allows the directions that pass it within the tolerance: a cone. As long
// as the next point lies in all cones so far, and further out than the ones before, one step does for all of them. When
// it does not, the step ends at the point before and the next one begins there.
#include "geometry/Thin.h"

#include <cmath>
#include <numbers>

namespace thinline::geometry {
namespace {

/// The directions from a place in which a straight step passes near all points seen.
class Cone {
  public:
    Cone(Point from, double tolerance) : m_from(from), m_tolerance(tolerance) {}

    /// Whether a step to `p` passes near all that was seen; `p` is seen then.
    bool takes(Point p) {
        const Point way = p - m_from;
        const double far = std::hypot(way.x, way.y);
        if (far < m_far && m_far > m_tolerance)
            return false; // it turns back
        m_far = std::max(m_far, far);
        if (far <= m_tolerance)
            return true; // near in every direction
        const double half = std::asin(m_tolerance / far), at = std::atan2(way.y, way.x);
        if (!m_isNarrowed) {
            m_isNarrowed = true;
            m_middle = at;
            m_least = -half;
            m_most = half;
            return true;
        }
        const double turn = std::remainder(at - m_middle, 2 * std::numbers::pi);
        if (turn < m_least || turn > m_most)
            return false;
        m_least = std::max(m_least, turn - half);
        m_most = std::min(m_most, turn + half);
        return true;
    }

  private:
    Point m_from;
    double m_tolerance;
    double m_far = 0;
    bool m_isNarrowed = false;
    double m_middle = 0, m_least = 0, m_most = 0; ///< from the first direction
};

} // namespace

Contour thinned(const Contour& contour, double toleranceMm) {
    Contour out{contour.start, {}};
    Point from = contour.start;
    Cone cone(from, toleranceMm);
    bool isOpen = false; // whether the last step may still be lengthened
    for (const Segment& segment : contour.segments) {
        if (!segment.isLine) {
            out.segments.push_back(segment);
            from = segment.end;
            isOpen = false;
            continue;
        }
        if (isOpen && cone.takes(segment.end)) {
            out.segments.back().end = segment.end;
            continue;
        }
        if (isOpen)
            from = out.segments.back().end;
        cone = Cone(from, toleranceMm);
        cone.takes(segment.end);
        out.segments.push_back(segment);
        isOpen = true;
    }
    return out;
}

} // namespace thinline::geometry
