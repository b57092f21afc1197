// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/dxf/Spline.h"

#include "geometry/Fit.h"

#include <algorithm>
#include <cmath>

namespace thinline::formats::dxf {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;

bool isSound(const Spline& s) {
    const size_t n = s.points.size();
    if (s.degree < 1 || s.degree > 20 || n < static_cast<size_t>(s.degree) + 1 ||
        s.knots.size() != n + static_cast<size_t>(s.degree) + 1 || s.weights.size() != n)
        return false;
    const auto finite = [](double v) { return std::isfinite(v); };
    return std::is_sorted(s.knots.begin(), s.knots.end()) &&
           std::all_of(s.knots.begin(), s.knots.end(), finite) &&
           std::all_of(s.weights.begin(), s.weights.end(),
                       [](double w) { return std::isfinite(w) && w > 0; }) &&
           s.knots[n] > s.knots[static_cast<size_t>(s.degree)];
}

/// Puts one more knot at t into a plain spline.
void insertKnot(Spline& s, double t) {
    const auto p = static_cast<size_t>(s.degree);
    const size_t span =
        static_cast<size_t>(std::upper_bound(s.knots.begin(), s.knots.end(), t) - s.knots.begin()) - 1;
    std::vector<Point> points;
    for (size_t i = 0; i <= s.points.size(); ++i) {
        if (i + p <= span)
            points.push_back(s.points[i]);
        else if (i > span)
            points.push_back(s.points[i - 1]);
        else {
            const double width = s.knots[i + p] - s.knots[i], a = width > 0 ? (t - s.knots[i]) / width : 0;
            points.push_back(s.points[i - 1] * (1 - a) + s.points[i] * a);
        }
    }
    s.knots.insert(s.knots.begin() + static_cast<std::ptrdiff_t>(span) + 1, t);
    s.points = std::move(points);
}

/// Cuts a plain spline into Bezier curves: every inner knot until it is there `degree` times, the ends too.
Contour exact(Spline s) {
    const auto p = static_cast<size_t>(s.degree);
    const double begin = s.knots[p], end = s.knots[s.points.size()];
    std::vector<double> breaks;
    for (double k : s.knots)
        if (k >= begin && k <= end && (breaks.empty() || k > breaks.back()))
            breaks.push_back(k);
    for (double k : breaks) {
        const size_t wanted = k == begin || k == end ? p + 1 : p;
        auto there = static_cast<size_t>(std::count(s.knots.begin(), s.knots.end(), k));
        for (; there < wanted && there <= p; ++there) {
            if (k == end && there == p)
                break; // the curve's last point is already a control point
            insertKnot(s, k);
        }
    }
    // The control points from the first break on, p per curve.
    const auto at = std::lower_bound(s.knots.begin(), s.knots.end(), begin);
    const size_t multiple = static_cast<size_t>(std::upper_bound(at, s.knots.end(), begin) - at);
    size_t i = static_cast<size_t>(at - s.knots.begin()) + multiple - p - 1;
    Contour out{s.points[i], {}};
    for (size_t b = 0; b + 1 < breaks.size() && i + p < s.points.size(); ++b, i += p) {
        const Point a = s.points[i], z = s.points[i + p];
        if (p == 1)
            out.segments.push_back(Segment::line(z));
        else if (p == 2)
            out.segments.push_back(Segment::curve(a + (s.points[i + 1] - a) * (2.0 / 3),
                                                  z + (s.points[i + 1] - z) * (2.0 / 3), z));
        else
            out.segments.push_back(Segment::curve(s.points[i + 1], s.points[i + 2], z));
    }
    return out;
}

/// The point at t by de Boor's rule, weighted.
Point pointAt(const Spline& s, double t) {
    const auto p = static_cast<size_t>(s.degree);
    size_t span =
        static_cast<size_t>(std::upper_bound(s.knots.begin(), s.knots.end(), t) - s.knots.begin()) - 1;
    span = std::clamp(span, p, s.points.size() - 1);
    std::vector<Point> d;
    std::vector<double> w;
    for (size_t j = 0; j <= p; ++j) {
        w.push_back(s.weights[span - p + j]);
        d.push_back(s.points[span - p + j] * w.back());
    }
    for (size_t r = 1; r <= p; ++r)
        for (size_t j = p; j >= r; --j) {
            const double low = s.knots[span - p + j], width = s.knots[j + 1 + span - r] - low;
            const double a = width > 0 ? (t - low) / width : 0;
            d[j] = d[j - 1] * (1 - a) + d[j] * a;
            w[j] = w[j - 1] * (1 - a) + w[j] * a;
        }
    return d[p] * (1 / w[p]);
}

Contour sampled(const Spline& s) {
    constexpr int kPerCurve = 32;
    constexpr size_t kMostSamples = 200'000;
    const auto p = static_cast<size_t>(s.degree);
    geometry::Polygon points;
    geometry::Box box;
    for (size_t i = p; i < s.points.size() && points.size() < kMostSamples; ++i) {
        const double from = s.knots[i], to = s.knots[i + 1];
        if (to > from)
            for (int k = 0; k < kPerCurve; ++k)
                points.push_back(pointAt(s, from + (to - from) * k / kPerCurve));
    }
    points.push_back(pointAt(s, s.knots[s.points.size()]));
    for (const Point point : points)
        box.include(point);
    return geometry::fitLine(points, {.tolerance = 1e-5 * std::max(box.width(), box.height())});
}

/// The natural cubic spline through points, by equal steps of the parameter.
Contour throughPoints(const std::vector<Point>& q) {
    const size_t n = q.size();
    Contour out{q[0], {}};
    if (n == 2) {
        out.segments.push_back(Segment::line(q[1]));
        return out;
    }
    // Tangents m solve m[i-1] + 4 m[i] + m[i+1] = 3 (q[i+1] - q[i-1]) with natural ends.
    std::vector<double> c(n);
    std::vector<Point> m(n);
    c[0] = 0.5;
    m[0] = (q[1] - q[0]) * 1.5;
    for (size_t i = 1; i < n; ++i) {
        const bool isLast = i + 1 == n;
        const double pivot = (isLast ? 2 : 4) - c[i - 1];
        c[i] = 1 / pivot;
        m[i] = ((isLast ? (q[i] - q[i - 1]) : (q[i + 1] - q[i - 1])) * 3 - m[i - 1]) * (1 / pivot);
    }
    for (size_t i = n - 1; i-- > 0;)
        m[i] = m[i] - m[i + 1] * c[i];
    for (size_t i = 0; i + 1 < n; ++i)
        out.segments.push_back(
            Segment::curve(q[i] + m[i] * (1.0 / 3), q[i + 1] - m[i + 1] * (1.0 / 3), q[i + 1]));
    return out;
}

} // namespace

Contour curvesOf(const Spline& spline) {
    Spline s = spline;
    if (s.points.empty() && s.through.size() >= 2)
        return throughPoints(s.through);
    if (s.weights.size() < s.points.size())
        s.weights.resize(s.points.size(), 1);
    if (!isSound(s))
        return {};
    const bool isPlain =
        std::all_of(s.weights.begin(), s.weights.end(), [&](double w) { return w == s.weights[0]; });
    return isPlain && s.degree <= 3 ? exact(std::move(s)) : sampled(s);
}

} // namespace thinline::formats::dxf
