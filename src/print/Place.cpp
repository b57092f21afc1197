// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/Place.h"

namespace thinline::print {

using geometry::Box;
using geometry::Point;
using geometry::Transform;

namespace {

/// So wide, so high, about the origin, turned.
Transform about(double width, double height, Point inside, double turnRad, Point at) {
    const double c = std::cos(turnRad), s = std::sin(turnRad);
    return Transform::move(inside * -1)
        .then(Transform::scale(width, height))
        .then({c, s, -s, c, 0, 0})
        .then(Transform::move(at));
}

} // namespace

Transform covering(const Box& box, double aspect, Point subject, double turnRad) {
    // In the turned picture's axes the box reaches this far.
    const double c = std::abs(std::cos(turnRad)), s = std::abs(std::sin(turnRad));
    const double across = box.width() * c + box.height() * s, down = box.width() * s + box.height() * c;
    const double height = std::max(down, across / aspect), width = height * aspect;
    const double halfX = std::min(0.5, across / width / 2), halfY = std::min(0.5, down / height / 2);
    const Point inside{std::clamp(subject.x, halfX, 1 - halfX), std::clamp(subject.y, halfY, 1 - halfY)};
    return about(width, height, inside, turnRad, box.centre());
}

Transform within(const Box& box, double aspect, double turnRad, double marginShare) {
    const double c = std::abs(std::cos(turnRad)), s = std::abs(std::sin(turnRad));
    const double across = box.width() * c + box.height() * s, down = box.width() * s + box.height() * c;
    const double room = 1 - 2 * marginShare;
    const double width = std::min(across * room, down * room * aspect);
    return about(width, width / aspect, {0.5, 0.5}, turnRad, box.centre());
}

Transform shifted(const Transform& place, const Shift& shift, const std::optional<Point>& about) {
    const Point at = about.value_or(place({0.5, 0.5}));
    const double c = std::cos(shift.turnRad) * shift.scale, s = std::sin(shift.turnRad) * shift.scale;
    return place.then(Transform::move(at * -1))
        .then({c, s, -s, c, 0, 0})
        .then(Transform::move(at + shift.by));
}

double widthOf(const Transform& place) {
    return std::hypot(place.a, place.b);
}

double turnOf(const Transform& place) {
    return std::atan2(place.b, place.a);
}

} // namespace thinline::print
