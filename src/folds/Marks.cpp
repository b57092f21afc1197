// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Placement marks.
//
// A mark must be hidden by what it shows the place of, or it spoils the work it was to help. So it is no copy of an
// outline but the outline of something smaller: the pieces of a layer are welded, and shrunk by the inset. What comes out
// lies inside them whatever shape they have; a piece narrower than twice the inset simply gets no mark there, and a thin
// tail only on its thick part. Foam lifts a piece off the mark, and a person looks in under its edge: each millimetre of
// lift asks for a millimetre more (that is the look from 45 degrees).
//
// Marks go on what one sees just before the piece is laid: on the lower piece, but not where another one will lie between.
// Those are taken off the lower piece's card before the marks are clipped to it.
#include "folds/Marks.h"

#include "geometry/Boolean.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::folds {
namespace {

using geometry::Contour;
using geometry::Line;
using geometry::Point;

constexpr double kCornerMm = 5, kStretchMm = 8, kEveryMm = 40;
constexpr double kCornerRad = std::numbers::pi / 6;
constexpr double kLeastMm = 1;

Point leaving(Point from, const geometry::Segment& s) {
    for (const Point p : {s.control1, s.control2, s.end})
        if (!s.isLine && geometry::distance(p, from) > 1e-9)
            return p - from;
    return s.end - from;
}
Point arriving(Point from, const geometry::Segment& s) {
    for (const Point p : {s.control2, s.control1})
        if (!s.isLine && geometry::distance(p, s.end) > 1e-9)
            return s.end - p;
    return s.end - from;
}

/// Where an outline turns, as lengths along it.
std::vector<double> cornersOf(const Contour& contour) {
    std::vector<double> out;
    Point from = contour.start, last = contour.start;
    for (const geometry::Segment& s : contour.segments) {
        last = arriving(from, s);
        from = s.end;
    }
    from = contour.start;
    double along = 0;
    for (const geometry::Segment& s : contour.segments) {
        const Point next = leaving(from, s);
        if (std::abs(std::atan2(geometry::cross(last, next), geometry::dot(last, next))) > kCornerRad)
            out.push_back(along);
        along += geometry::contourLength({from, {s}});
        last = arriving(from, s);
        from = s.end;
    }
    return out;
}

/// Stretches of an outline between lengths along it, over its beginning too.
void addStretch(const Contour& contour, double fromMm, double toMm, std::vector<Line>& out) {
    const double whole = geometry::contourLength(contour);
    if (toMm - fromMm >= whole) {
        out.push_back(contour);
        return;
    }
    if (fromMm >= 0 && toMm <= whole) {
        out.push_back(geometry::stretchOfLine(contour, fromMm, toMm));
        return;
    }
    const double shift = fromMm < 0 ? whole : 0;
    Line first = geometry::stretchOfLine(contour, fromMm + shift, whole);
    const Line second = geometry::stretchOfLine(contour, 0, toMm - whole + shift);
    first.segments.insert(first.segments.end(), second.segments.begin(), second.segments.end());
    out.push_back(std::move(first));
}

void addMarks(const Contour& contour, MarksAs as, std::vector<Line>& out) {
    if (as == MarksAs::Outlines)
        return out.push_back(contour);
    const double whole = geometry::contourLength(contour);
    if (const std::vector<double> corners = cornersOf(contour); as == MarksAs::Corners && !corners.empty()) {
        // Neighbours whose stretches would meet are one stretch.
        for (size_t i = 0; i < corners.size();) {
            size_t last = i;
            while (last + 1 < corners.size() && corners[last + 1] - corners[last] < 2 * kCornerMm)
                ++last;
            addStretch(contour, corners[i] - kCornerMm, corners[last] + kCornerMm, out);
            i = last + 1;
        }
        return;
    }
    const double count = std::max(2.0, std::round(whole / kEveryMm)), every = whole / count;
    if (every <= kStretchMm)
        return out.push_back(contour);
    for (double i = 0; i < count; ++i)
        addStretch(contour, i * every, i * every + kStretchMm, out);
}

} // namespace

base::Result<std::vector<Line>> marksOf(const std::vector<geometry::Shape>& pieces, double liftMm,
                                        const MarkPlan& plan, const base::Progress& progress) {
    auto whole = geometry::weld(pieces, progress);
    if (!whole)
        return whole.error();
    auto inner = geometry::offset(*whole, -(plan.insetMm + std::max(0.0, liftMm)), {}, progress);
    if (!inner)
        return inner.error();
    std::vector<Line> out;
    for (const geometry::Shape& shape : inner->shapes) {
        addMarks(shape.outline, plan.as, out);
        for (const Contour& opening : shape.openings)
            addMarks(opening, plan.as, out);
    }
    return out;
}

base::Result<std::vector<Line>> marksOn(const geometry::Shape& piece,
                                        const std::vector<geometry::Shape>& between,
                                        const std::vector<Line>& marks, const base::Progress& progress) {
    std::vector<geometry::Shape> open{piece};
    if (!between.empty()) {
        auto left = geometry::subtract(open, between, progress);
        if (!left)
            return left.error();
        open = left.take();
    }
    std::vector<Line> out;
    for (const geometry::Shape& card : open) {
        const geometry::Box box = geometry::bounds(card);
        for (const Line& mark : marks) {
            if (progress.isCancelled())
                return base::cancelled();
            if (!box.meets(geometry::bounds(mark)))
                continue;
            auto parts = geometry::clippedTo(mark, card);
            if (!parts)
                return parts.error();
            for (Line& part : parts.take())
                if (geometry::contourLength(part) >= kLeastMm)
                    out.push_back(std::move(part));
        }
    }
    return out;
}

} // namespace thinline::folds
