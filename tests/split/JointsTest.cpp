// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Joints.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"
#include "support/SplitShapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <set>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;
using geometry::Shape;

Shape shapeOf(const Polygon& polygon) {
    return test::ringOf(polygon);
}
double areaOf(const std::vector<Shape>& shapes) {
    double out = 0;
    for (const Shape& one : shapes)
        out += geometry::area(one);
    return out;
}
Division cutAt(const Shape& shape, const std::vector<std::pair<Point, Point>>& cuts) {
    std::vector<geometry::Line> lines;
    for (const auto& [a, b] : cuts)
        lines.push_back({a, {geometry::Segment::line(b)}});
    return dividedBy({shape}, lines).take();
}

// The measure of distinctness is exact areas of real windows, not their codes: 3.2 mm2 at 6 mm, as the trade's own
// windows have it (from memory).
TEST(Keys, EveryWindowDiffersFromEveryOtherInAnyTurnOrMirror) {
    const auto& codes = keyCodes();
    ASSERT_GE(codes.size(), 27U);
    std::set<std::string> names;
    for (const KeyCode& code : codes)
        names.insert(code.text());
    EXPECT_EQ(names.size(), codes.size());
    double least = 1e9;
    for (size_t i = 0; i < codes.size() / 3; ++i)
        for (size_t j = i; j < codes.size() / 3; ++j)
            for (int mirror = 0; mirror < 2; ++mirror)
                for (int quarter = 0; quarter < 4; ++quarter) {
                    if (i == j && mirror == 0 && quarter == 0)
                        continue;
                    geometry::Transform map = geometry::Transform::quarterTurns(quarter);
                    if (mirror)
                        map = geometry::Transform::scale(-1, 1).then(map);
                    const Shape a = shapeOf(keyWindow(codes[i], 6));
                    const Shape b = geometry::transformed(shapeOf(keyWindow(codes[j], 6)), map);
                    least = std::min(least, areaOf(geometry::exclude({a}, {b}).take()));
                }
    EXPECT_GE(least, 3.2);
}

TEST(Joints, AnOverlapIsExactAndTheWholeIsWhatItWas) {
    const Shape plate = support::rectangle(0, 0, 400, 90);
    const Division division = cutAt(plate, {{{180, 0}, {220, 90}}});
    ASSERT_EQ(division.parts.size(), 2U);
    const auto made = joined(division, {Joint::Overlap}, {292, 292});
    ASSERT_TRUE(made);
    const SeamJoint& seam = made->seams.front();
    EXPECT_EQ(seam.joint, Joint::Overlap);
    const auto common = geometry::intersect({made->parts[0]}, {made->parts[1]}).take();
    EXPECT_NEAR(areaOf(common), geometry::area(seam.strip), 1e-3);
    EXPECT_NEAR(geometry::area(seam.strip), division.seams.front().lengthMm * 12, 0.05);
    EXPECT_NEAR(areaOf(geometry::exclude(made->parts, {plate}).take()), 0, 1e-3);
}

TEST(Joints, StripsLieWhereThereIsRoom) {
    // The left part fills its mat: the strip is the right one's.
    const Shape plate = support::rectangle(0, 0, 400, 90);
    const auto made = joined(cutAt(plate, {{{291, 0}, {291, 90}}}), {Joint::Overlap}, {292, 92});
    ASSERT_TRUE(made);
    EXPECT_NEAR(geometry::bounds(made->parts[0]).width(), 291, 1e-6);
    EXPECT_NEAR(geometry::bounds(made->parts[1]).width(), 109 + 12, 1e-3);
    EXPECT_EQ(made->seams.front().upper, 1U);
    // Neither has room: edge to edge, and it says so.
    const auto none = joined(cutAt(support::rectangle(0, 0, 580, 90), {{{290, 0}, {290, 90}}}),
                             {Joint::Overlap}, {292, 92});
    EXPECT_EQ(none->seams.front().joint, Joint::Butt);
    EXPECT_EQ(none->seams.front().whyNot, "with an overlap neither part would fit");
}

TEST(Joints, NoThirdCardComesToLieOnTwo) {
    const Shape plate = support::rectangle(0, 0, 500, 500);
    const Division division = cutAt(
        plate,
        {{{250, 0}, {250, 250}}, {{0, 250}, {250, 250}}, {{250, 250}, {500, 250}}, {{250, 250}, {250, 500}}});
    ASSERT_EQ(division.parts.size(), 4U);
    const auto made = joined(division, {Joint::Keyed}, {292, 292});
    ASSERT_TRUE(made);
    for (size_t i = 0; i < 4; ++i)
        for (size_t j = i + 1; j < 4; ++j)
            EXPECT_NEAR(areaOf(geometry::intersect({made->seams[i].strip}, {made->seams[j].strip}).take()), 0,
                        1e-6);
    for (const SeamJoint& seam : made->seams) {
        EXPECT_EQ(seam.joint, Joint::Keyed) << seam.whyNot;
        EXPECT_EQ(seam.keys.size(), 4U); // 1 + 250 / 80
    }
}

TEST(Joints, WindowsKeepThreeMillimetresOfCardAround) {
    for (const test::LargeWork& work : {test::banner(true), test::wreath()}) {
        const Room room{292, 292};
        const auto ways = divisionsFor({work.shape, work.cover}, room, Joint::Keyed);
        ASSERT_TRUE(ways);
        const auto made = joined(ways->front(), {Joint::Keyed}, room);
        ASSERT_TRUE(made);
        int keys = 0;
        std::vector<Shape> windows;
        for (const SeamJoint& seam : made->seams)
            for (const Key& key : seam.keys) {
                ++keys;
                const Shape window = shapeOf(key.window);
                windows.push_back(window);
                const auto around = geometry::offset({window}, 2.99).take().shapes;
                EXPECT_NEAR(areaOf(geometry::subtract(around, {seam.strip}).take()), 0, 0.02) << work.name;
            }
        EXPECT_GT(keys, 0) << work.name;
        // Together the parts are the whole but for its windows, and all fit.
        const auto want = geometry::subtract({work.shape}, windows).take();
        EXPECT_NEAR(areaOf(geometry::exclude(made->parts, want).take()), 0, 0.05) << work.name;
        for (const Shape& part : made->parts)
            EXPECT_TRUE(fitOf(part, room, 0).isFitting) << work.name;
    }
}

/// How much two sets of windows differ when one is laid on the other so that the first ones' frames meet, best over
/// the four ways a strip can be laid: as it is, turned round, and both from behind.
double windowsDiffer(const std::vector<Key>& a, const std::vector<Key>& b) {
    const auto laid = [](const std::vector<Key>& keys, bool isReversed) {
        // Straightened: along the way from the first window to the last.
        std::vector<Point> middles;
        for (const Key& key : keys)
            middles.push_back(geometry::bounds(geometry::Polygons{key.window}).centre());
        if (isReversed)
            std::reverse(middles.begin(), middles.end());
        const Point first = middles.front();
        const Point way = middles.size() > 1 ? geometry::direction(middles.back() - first)
                                             : geometry::direction(keys[0].window[1] - keys[0].window[0]) *
                                                   (isReversed ? -1.0 : 1.0);
        std::vector<Shape> out;
        const geometry::Transform straight{way.x, -way.y, way.y, way.x, 0, 0};
        for (const Key& key : keys) {
            Polygon window;
            for (const Point p : key.window)
                window.push_back(straight(p - first));
            out.push_back(shapeOf(window));
        }
        return out;
    };
    double least = 1e9;
    const std::vector<Shape> fixed = laid(a, false);
    for (const bool isReversed : {false, true})
        for (const double mirror : {1.0, -1.0}) {
            std::vector<Shape> other;
            for (const Shape& one : laid(b, isReversed))
                other.push_back(geometry::transformed(one, geometry::Transform::scale(1, mirror)));
            least = std::min(least, areaOf(geometry::exclude(fixed, other).take()));
        }
    return least;
}

TEST(Joints, EachSeamFitsOnlyItself) {
    const Shape plate = support::rectangle(0, 0, 860, 560);
    const auto ways = divisionsFor({plate}, {292, 292}, Joint::Keyed);
    ASSERT_TRUE(ways);
    const auto made = joined(ways->front(), {Joint::Keyed}, {292, 292});
    ASSERT_TRUE(made);
    std::vector<const SeamJoint*> keyed;
    for (const SeamJoint& seam : made->seams)
        if (seam.joint == Joint::Keyed)
            keyed.push_back(&seam);
    ASSERT_GE(keyed.size(), 5U);
    for (size_t i = 0; i < keyed.size(); ++i)
        for (size_t j = i + 1; j < keyed.size(); ++j)
            EXPECT_GT(windowsDiffer(keyed[i]->keys, keyed[j]->keys), 3.2) << i << " and " << j;
}

TEST(Joints, ShortSeamsWindowsWithoutRoomAndSpentFormsAreTold) {
    const Division narrow = cutAt(support::rectangle(0, 0, 400, 9), {{{200, 0}, {200, 9}}});
    const auto made = joined(narrow, {Joint::Keyed}, {292, 292});
    EXPECT_EQ(made->seams.front().joint, Joint::Overlap);
    EXPECT_NE(made->seams.front().whyNot.find("no room for a window"), std::string::npos);
    JointOptions options;
    options.used = {5000, 5000};
    const auto spent = joined(cutAt(support::rectangle(0, 0, 400, 90), {{{200, 0}, {200, 90}}}),
                              {Joint::Keyed}, {292, 292}, options);
    EXPECT_EQ(spent->seams.front().whyNot, "all windows are used up");
    options = {};
    options.overlapMm = 8;
    EXPECT_EQ(joined(narrow, {Joint::Keyed}, {292, 292}, options).error().code, base::Code::InvalidArgument);
}

} // namespace
} // namespace thinline::split
