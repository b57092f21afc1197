// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Measured.h"

#include <optional>
#include <vector>

/// Measured points as a track, and the sides that run along it: what corners and curves are found by.
namespace thinline::geometry {

/// The points of a ring by any whole number, those of an open line by theirs.
class Track {
  public:
    Track(const Polygon& points, bool isRing)
        : m_points(points), m_n(static_cast<long>(points.size())), m_isRing(isRing) {}
    Point operator[](long i) const { return m_points[static_cast<size_t>(((i % m_n) + m_n) % m_n)]; }
    bool has(long i) const { return m_isRing || (i >= 0 && i < m_n); }
    long size() const { return m_n; }

  private:
    const Polygon& m_points;
    long m_n;
    bool m_isRing;
};

/// The points without those that crowd or step back: where a border changes between rows and columns they
/// may.
Polygon evened(const Polygon& points, bool isRing);

/// How far points lie off the line of their neighbours, as a deviation: from the median, so that corners have
/// no say. A third difference of the offsets leaves steady bends out.
double scatterOf(const Track& track);

/// One side of a corner over the way from it: p(s) = at + along s + bend s^2.
struct Course {
    Point at, along, bend;
    int count = 0;
    Point place(double s) const { return at + along * s + bend * (s * s); }
    Point speed(double s) const { return along + bend * (2 * s); }
};

/// The points of a side with the way to each.
struct Stretch {
    std::vector<double> s;
    std::vector<Point> p;
};

/// Least squares through the first points of a side; at least two, for the parabola three.
Course lineThrough(const Stretch& side, size_t count);
Course parabolaThrough(const Stretch& side, size_t count);

/// The side that runs from point i forwards (1) or backwards (-1), as a straight line or parabola through as
/// many points as it holds for; those nearer than `skip` are left out.
std::optional<Course> courseFrom(const Track& track, long i, int way, double skip, double worst);

/// What a corner must be.
struct Limits {
    double worst = 0; ///< a sound point's farthest from a side
    double leastTurn = 0;
    double generosity = 1;
    double softness = 0; ///< px
};

Limits limitsOf(const Track& track, const MeasuredOptions& options);

/// The corners of a track, in order.
std::vector<MeasuredCorner> cornersOn(const Track& track, const Limits& limits);

} // namespace thinline::geometry
