// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The tools of the bench, without a window.
#include "app/bench/Measuring.h"
#include "app/bench/SectionHandles.h"
#include "app/bench/tools/AreaTools.h"
#include "app/bench/tools/GapTool.h"
#include "app/bench/tools/LayTool.h"
#include "app/bench/tools/PickTool.h"
#include "app/bench/tools/SweepTool.h"
#include "support/Stacks.h"

#include <QImage>
#include <QPainter>
#include <gtest/gtest.h>

#include <numbers>

namespace thinline::app {
namespace {

using geometry::Point;
using support::id;

/// Two plates side by side, 10 mm apart.
Scene twoPlates() {
    std::vector<SceneItem> items(2);
    for (size_t i = 0; i < 2; ++i) {
        items[i].body = support::body(support::rectangle(30.0 * static_cast<double>(i), 0, 20, 20));
        items[i].piece = id(static_cast<int>(i) + 1);
    }
    return {std::make_shared<Outlines>(), {}, std::move(items)};
}

Pointer at(const Scene& scene, Point mm, bool isHeld = true, bool withShift = false) {
    return {mm, &scene, scene.itemAt(mm, 4), isHeld, withShift, 4};
}

TEST(PickTool, AClickPicksOnReleaseAndADragMoves) {
    const Scene scene = twoPlates();
    std::vector<std::string> seen;
    PickTool tool({[&](const Pointer& p) {
                       seen.push_back(p.on() ? "picked " + p.on()->piece.text() : "picked nothing");
                   },
                   [&](const SceneItem& item, Point by) {
                       seen.push_back("moved " + item.piece.text() + " by " +
                                      std::to_string(static_cast<int>(by.x)));
                   }});
    tool.press(at(scene, {5, 5}));
    EXPECT_TRUE(seen.empty()) << "a press may be the beginning of a drag";
    tool.move(at(scene, {5.5, 5})); // a hand that clicks is not quite still
    tool.release(at(scene, {5.5, 5}));
    tool.press(at(scene, {25, 5}));
    tool.release(at(scene, {25, 5}));
    tool.press(at(scene, {35, 5}));
    tool.move(at(scene, {45, 5}));
    EXPECT_TRUE(tool.isDragging());
    tool.release(at(scene, {47, 5}));
    EXPECT_FALSE(tool.isDragging());
    tool.press(at(scene, {5, 5}));
    tool.forget();
    tool.release(at(scene, {5, 5}));
    EXPECT_EQ(seen, (std::vector<std::string>{"picked 1:1", "picked nothing", "moved 1:2 by 12"}));
}

TEST(LayTool, ADragHoldsOnToTheSpacingTheWheelTurnsAndWhatIsTooNearIsMarked) {
    const Scene scene = twoPlates();
    std::vector<std::string> seen;
    Laying last;
    std::vector<size_t> moved;
    LayTool tool({[&](const Pointer& p) { seen.push_back(p.on() ? p.on()->piece.text() : "nothing"); },
                  [&](const std::vector<size_t>& items, const Laying& laying) {
                      moved = items;
                      last = laying;
                  },
                  [&](const SceneItem& item) { seen.push_back("twice " + item.piece.text()); },
                  [](const Scene&, const SceneItem&) { return std::vector<size_t>{}; },
                  [](const SceneItem& item) { return item.piece.text() == "1:1" ? 2.5 : 9.0; },
                  [] { return std::vector<geometry::Box>{}; }});
    tool.press(at(scene, {5, 5}));
    EXPECT_FALSE(tool.isDragging());
    tool.move(at(scene, {11.5, 5}));
    EXPECT_TRUE(tool.touched().empty()) << "3.5 mm beside the other";
    tool.move(at(scene, {13, 5}));
    EXPECT_TRUE(tool.touched().empty()) << "it holds at 2.5";
    tool.release(at(scene, {13, 5}));
    EXPECT_EQ(moved, std::vector<size_t>{0});
    EXPECT_DOUBLE_EQ(last.by.x, 7.5);
    tool.press(at(scene, {5, 5}));
    tool.move(at(scene, {13, 5}, true, true));
    EXPECT_EQ(tool.touched(), std::vector<size_t>{1}) << "with Shift it goes anywhere, and is told";
    tool.release(at(scene, {13, 5}, true, true));
    EXPECT_DOUBLE_EQ(last.by.x, 8);
    // The wheel turns about the middle of what is held.
    tool.press(at(scene, {5, 5}));
    EXPECT_TRUE(tool.turn(3));
    tool.move(at(scene, {5, 45}));
    tool.release(at(scene, {5, 45}));
    EXPECT_NEAR(last.turnRad, 15 * std::numbers::pi / 180, 1e-12);
    EXPECT_LT(geometry::distance(last({10, 10}), {10, 50}), 1e-9);
    EXPECT_GT(last({20, 10}).y, 52) << "clockwise: its right side goes down";
    EXPECT_FALSE(tool.turn(1)) << "nothing is held";
    tool.press(at(scene, {5, 5}));
    tool.release(at(scene, {5, 5}));
    tool.pressTwice(at(scene, {35, 5}));
    EXPECT_EQ(seen, (std::vector<std::string>{"1:1", "twice 1:2"}));
}

TEST(PickTool, WithoutAMoveADragIsAClick) {
    const Scene scene = twoPlates();
    int picked = 0;
    PickTool tool({[&](const Pointer&) { ++picked; }});
    tool.press(at(scene, {5, 5}));
    tool.move(at(scene, {45, 5}));
    tool.release(at(scene, {45, 5}));
    EXPECT_EQ(picked, 1);
}

TEST(SweepTool, TellsEveryPieceOnceAsLongAsItStaysOnIt) {
    const Scene scene = twoPlates();
    std::vector<std::string> seen;
    SweepTool tool([&](const SceneItem& item, bool withShift) {
        seen.push_back(item.piece.text() + (withShift ? "+" : ""));
    });
    tool.move(at(scene, {5, 5}, false));
    tool.press(at(scene, {5, 5}));
    tool.move(at(scene, {8, 5}));
    tool.move(at(scene, {25, 5}));
    tool.move(at(scene, {35, 5}));
    tool.move(at(scene, {5, 5}));
    tool.press(at(scene, {5, 5}, true, true));
    EXPECT_EQ(seen, (std::vector<std::string>{"1:1", "1:2", "1:1", "1:1+"}));
}

TEST(AimedTools, TellLinesBoxesAndStrokes) {
    const Scene scene = twoPlates();
    std::vector<double> lengths;
    GapTool gap([&](Point from, Point to) { lengths.push_back(distance(from, to)); });
    gap.press(at(scene, {0, 0}));
    gap.forget();
    gap.press(at(scene, {3, 0}));
    gap.move(at(scene, {4, 0}, false));
    gap.press(at(scene, {3, 4}));
    EXPECT_EQ(lengths, std::vector<double>{4});
    geometry::Box box;
    BoxTool boxTool([&](geometry::Box drawn) { box = drawn; });
    boxTool.press(at(scene, {9, 8}));
    boxTool.release(at(scene, {9, 8})); // no box at all
    EXPECT_TRUE(box.isEmpty());
    boxTool.press(at(scene, {9, 8}));
    boxTool.move(at(scene, {1, 1}));
    boxTool.release(at(scene, {2, 1}));
    EXPECT_EQ(box.least, (Point{2, 1}));
    EXPECT_EQ(box.most, (Point{9, 8}));
    std::vector<Point> way;
    StrokeTool stroke(4, [&](const std::vector<Point>& drawn) { way = drawn; });
    stroke.move(at(scene, {1, 1}));
    stroke.press(at(scene, {2, 2}));
    stroke.move(at(scene, {3, 2}));
    stroke.release(at(scene, {3, 2}));
    EXPECT_EQ(way, (std::vector<Point>{{2, 2}, {3, 2}}));
    for (const Tool* tool : std::initializer_list<const Tool*>{&gap, &boxTool, &stroke})
        EXPECT_TRUE(tool->isAimed());
}

TEST(Measuring, TellsADistanceInWordsOrToWhoeverAsked) {
    const Scene scene = twoPlates();
    Measuring measuring;
    QString told;
    QObject::connect(&measuring, &Measuring::told, &measuring, [&](const QString& words) { told = words; });
    EXPECT_EQ(measuring.tool(), nullptr);
    measuring.begin();
    ASSERT_NE(measuring.tool(), nullptr);
    measuring.tool()->press(at(scene, {0.4, 0.3})); // beside the corner: it holds on
    measuring.tool()->press(at(scene, {29.6, 19.8}));
    EXPECT_EQ(told, "36.1 mm apart: 30.0 mm across, 20.0 mm down.");
    double known = 0;
    measuring.begin([&](double mm) { known = mm; });
    measuring.tool()->forget();
    measuring.tool()->press(at(scene, {0, 0}));
    measuring.tool()->press(at(scene, {20, 0}));
    EXPECT_NEAR(known, 20, 1e-9);
    EXPECT_EQ(measuring.tool(), nullptr) << "once";
}

/// Whether a tool draws anything over a white bench.
bool draws(const Tool& tool) {
    QImage image(200, 120, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    tool.paint(painter, {4, {0, 0}, {0, 0}});
    painter.end();
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (image.pixel(x, y) != 0xffffffffu)
                return true;
    return false;
}

TEST(Tools, DrawWhatIsBegunAndNothingElse) {
    const Scene scene = twoPlates();
    GapTool gap([](Point, Point) {});
    BoxTool box([](geometry::Box) {});
    StrokeTool stroke(4, [](const std::vector<Point>&) {});
    PickTool pick({[](const Pointer&) {}, [](const SceneItem&, Point) {}});
    for (Tool* tool : std::initializer_list<Tool*>{&gap, &box, &stroke, &pick}) {
        EXPECT_FALSE(draws(*tool));
        tool->press(at(scene, {5, 5}));
        tool->move(at(scene, {15, 12}));
        EXPECT_TRUE(draws(*tool));
        tool->forget();
        EXPECT_FALSE(draws(*tool));
    }
}

constexpr geometry::Box kWork{{0, 0}, {200, 100}};
constexpr double kQuarter = std::numbers::pi / 2;

TEST(SectionHandles, OneBeadMovesTheLineAndTheOtherTurnsIt) {
    const BenchMap map{2, {-50, -50}, {20, 20}};
    SectionHandles handles;
    EXPECT_FALSE(handles.press(map.toWidget({100, 50}), map)) << "nothing is shown yet";
    handles.show(design::acrossMiddle(kWork), kWork);
    EXPECT_FALSE(handles.press(map.toWidget({100, 50}), map))
        << "the line itself is no handle: the work lies there";
    const QPointF move = handles.placeOf(SectionHandles::Bead::Move, map);
    EXPECT_LT(move.x(), map.toWidget({0, 50}).x()) << "beyond the work";
    ASSERT_TRUE(handles.press(move, map));
    EXPECT_TRUE(handles.isDragging());
    ASSERT_TRUE(handles.move(move + QPointF(30, -40), map)); // 15 to the right, which is along it, and 20 up
    EXPECT_EQ(handles.line()->through, (Point{100, 30}));
    EXPECT_EQ(handles.line()->turnRad, 0);
    EXPECT_FALSE(handles.move(move + QPointF(0, -300), map)) << "it stays on the work";
    handles.release();
    const QPointF turn = handles.placeOf(SectionHandles::Bead::Turn, map);
    ASSERT_TRUE(handles.press(turn, map));
    ASSERT_TRUE(handles.move(map.toWidget({100 + 50, 30 + 50}), map));
    EXPECT_NEAR(handles.line()->turnRad, kQuarter / 2, 1e-9);
    ASSERT_TRUE(handles.move(map.toWidget({100.5, 95}), map)); // nearly straight down from where it was held
    EXPECT_EQ(handles.line()->turnRad, kQuarter) << "it snaps";
    handles.release();
    EXPECT_EQ(handles.at({5, 5}, map), SectionHandles::Bead::None);
    handles.show(std::nullopt, kWork);
    EXPECT_FALSE(handles.line());
}

TEST(SectionHandles, TheLineIsHeldByTheMiddleOfWhatItCrosses) {
    const design::SectionLine line = turnedBy({{20, 50}, 0}, kQuarter, kWork);
    EXPECT_NEAR(line.through.x, 20, 1e-9);
    EXPECT_NEAR(line.through.y, 50, 1e-9);
    const design::SectionLine slanted =
        turnedTowards({{20, 50}, 0}, {70, 100}, kWork); // 45 degrees: from (0,30) to (70,100)
    EXPECT_NEAR(slanted.through.x, 35, 1e-9);
    EXPECT_NEAR(slanted.through.y, 65, 1e-9);
    EXPECT_EQ(movedSideways({{100, 50}, 0}, {0, 60}, kWork), (design::SectionLine{{100, 50}, 0}))
        << "a line that would leave the work stays";
}

} // namespace
} // namespace thinline::app
