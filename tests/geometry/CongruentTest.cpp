// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Congruent.h"

#include "geometry/Placing.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

using support::disc;
using support::rectangle;

/// An outline no turn and no mirror lays onto itself, with a curve and an opening.
Shape hook() {
    Shape out = support::withOpening(
        {contourThrough({{0, 0}, {60, 0}, {60, 15}, {20, 22}, {18, 70}, {0, 70}}), {}}, disc({10, 40}, 4));
    out.outline.segments[2] = Segment::curve({70, 5}, {40, 30}, out.outline.segments[2].end);
    return out;
}
/// The same outline begun at another node.
Shape begunAt(Shape shape, size_t node) {
    auto& steps = shape.outline.segments;
    std::rotate(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(node), steps.end());
    shape.outline.start = steps.back().end;
    return shape;
}

TEST(Congruence, IsFoundUnderEveryMoveTurnAndMirror) {
    for (const double turn : {0.0, 0.3, 1.5707963267948966, -2.8})
        for (const bool isMirrored : {false, true}) {
            Transform map = turnAbout({3, 5}, turn).then(Transform::move({41, -7}));
            if (isMirrored)
                map = Transform{-1, 0, 0, 1, 0, 0}.then(map);
            const auto found = congruence(hook(), begunAt(transformed(hook(), map), 2));
            ASSERT_TRUE(found) << turn << isMirrored;
            for (const Point p : {Point{0, 0}, {60, 15}, {10, 44}})
                EXPECT_NEAR(distance((*found)(p), map(p)), 0, 1e-6) << turn << isMirrored;
        }
}

TEST(Congruence, TurnsNoMoreThanItMust) {
    const Shape square = rectangle(0, 0, 30, 30);
    const auto found = congruence(square, begunAt(rectangle(100, 20, 30, 30), 3));
    ASSERT_TRUE(found);
    EXPECT_EQ(*found, Transform::move({100, 20}));
}

TEST(Congruence, IsNoneOfOtherFormsAndSizes) {
    EXPECT_FALSE(congruence(rectangle(0, 0, 30, 20), rectangle(0, 0, 30, 20.1)));
    EXPECT_FALSE(congruence(rectangle(0, 0, 30, 20), disc({0, 0}, 10)));
    Shape other = hook();
    other.openings.front() = transformed(other.openings.front(), Transform::move({0, 1}));
    EXPECT_FALSE(congruence(hook(), other)) << "its opening lies elsewhere";
    EXPECT_FALSE(congruence(hook(), {hook().outline, {}}));
    EXPECT_FALSE(congruence({}, {}));
}

} // namespace
} // namespace thinline::geometry
