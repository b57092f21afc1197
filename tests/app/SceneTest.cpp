// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Marks.h"
#include "app/bench/Scenes.h"
#include "support/Jobs.h"

#include <QImage>
#include <QPainter>
#include <gtest/gtest.h>

#include <thread>

namespace thinline::app {
namespace {

using support::area;
using support::made;

std::shared_ptr<Outlines> outlines() {
    return std::make_shared<Outlines>();
}

std::uint32_t pixel(const Scene& scene, double pxPerMm, geometry::Point mm) {
    const auto pixels =
        scene.render(pxPerMm, mm * pxPerMm - geometry::Point{8, 8}, 16, 16, {1, 2, 3}, {0, 0, 0}, {9, 9, 9});
    return pixels[8 * 16 + 8];
}

job::State paintedShed() {
    const job::State shed = support::tracedShed();
    return made(job::painted(shed.job, {area(shed, 3)}, "sea"), shed.made);
}

TEST(Scene, TheDesignLiesOnItsPaperInItsColours) {
    const job::State state = paintedShed();
    const auto scene = sceneOfDesign(job::pictureSource(state.job), state.made, nullptr, outlines());
    const geometry::Point window = geometry::pointInside(support::shapeOf(state, area(state, 3)));
    EXPECT_EQ(pixel(*scene, 6, window), 0xff3c7d8cu);
    EXPECT_EQ(pixel(*scene, 6, {-500, -500}), 0xff010203u) << "the desk";
    const int item = scene->itemAt(window, 6);
    ASSERT_GE(item, 0);
    EXPECT_EQ(scene->items()[static_cast<size_t>(item)].piece, area(state, 3));
    EXPECT_EQ(scene->itemAt({-500, -500}, 6), -1);
}

TEST(Scene, HiddenLayersAreNotShownNorHit) {
    job::State state = paintedShed();
    const geometry::Point window = geometry::pointInside(support::shapeOf(state, area(state, 3)));
    state =
        made(job::withLayerHidden(state.job, support::laid(state, area(state, 3)).layer, true), state.made);
    const auto scene = sceneOfDesign(job::pictureSource(state.job), state.made, nullptr, outlines());
    EXPECT_EQ(scene->items()[static_cast<size_t>(scene->itemAt(window, 6))].piece, support::backing(state))
        << "the backing shows through";
}

TEST(Scene, ThePictureLiesAtItsRealSize) {
    const job::State state = support::tracedShed();
    const job::Source& source = *job::pictureSource(state.job);
    const auto scene = sceneOfPicture(source, support::must(job::pixelsOf(state.job)), outlines());
    EXPECT_NEAR(scene->box().width(), 709 / 300.0 * 25.4, 0.01);
    EXPECT_EQ(pixel(*scene, 20, source.map()({66, 200})) & 255, 28u) << "ink of the wall";
    EXPECT_EQ(pixel(*scene, 20, source.map()({300, 130})), 0xffffffffu);
}

TEST(Scene, LoadsDoNotOverlapAndPiecesLieOnTheirMats) {
    const job::State shed = support::tracedShed();
    const job::State state = support::arranged(made(
        job::painted(job::painted(shed.job, {area(shed, 2)}, "sea"), {area(shed, 3)}, "rust"), shed.made));
    const design::Arrangement& arrangement = *state.made.sheets;
    ASSERT_EQ(arrangement.loads.size(), 4u);
    std::vector<geometry::Box> mats;
    for (size_t i = 0; i < 4; ++i) {
        const geometry::Point at = loadCorner(arrangement, i);
        const geometry::Box box{at, at + geometry::Point{304.8, 304.8}};
        for (const geometry::Box& other : mats)
            EXPECT_FALSE(box.meets(other));
        mats.push_back(box);
        EXPECT_EQ(loadAt(arrangement, box.centre()), i);
    }
    EXPECT_FALSE(loadAt(arrangement, {-50, -50}));
    const auto scene = sceneOfSheets(state.made, outlines());
    EXPECT_EQ(scene->items().size(), 4u);
    for (const SceneItem& item : scene->items()) {
        const geometry::Box box = geometry::bounds(geometry::transformed(item.shape(), item.map));
        EXPECT_TRUE(mats[static_cast<size_t>(item.load)].contains(box.least));
        EXPECT_TRUE(mats[static_cast<size_t>(item.load)].contains(box.most));
    }
}

TEST(Outlines, AreFlattenedFinerOncePerOctaveAndKeptWithTheirBody) {
    const job::State state = support::tracedShed();
    design::PieceId round; // a wall, a door, a round window
    for (const design::Laid& laid : state.made.work()->pieces)
        if (std::any_of(laid.shape().outline.segments.begin(), laid.shape().outline.segments.end(),
                        [](const geometry::Segment& s) { return !s.isLine; }))
            round = laid.id();
    const auto body = support::laid(state, round).piece.body;
    Outlines outlines;
    const auto coarse = outlines.flat(body, 1.0), fine = outlines.flat(body, 32.0);
    const auto points = [](const auto& rings) {
        size_t count = 0;
        for (const geometry::Polygon& ring : *rings)
            count += ring.size();
        return count;
    };
    EXPECT_LT(points(coarse), points(fine));
    EXPECT_EQ(outlines.flat(body, 0.9), coarse);
    EXPECT_NE(outlines.flat(body, 1.1), coarse);
    // A click that paints another area leaves it as it is.
    const job::State painted = made(job::painted(state.job, {area(state, 1)}, "sea"), state.made);
    EXPECT_EQ(outlines.flat(support::laid(painted, round).piece.body, 1.1), outlines.flat(body, 1.1));
    EXPECT_EQ(outlines.box(body).width(), geometry::bounds(body->shape).width());
}

TEST(Scene, ManyThreadsMayDrawFromOne) {
    const job::State state = support::tracedShed();
    const auto scene = sceneOfDesign(job::pictureSource(state.job), state.made, nullptr, outlines());
    const auto draw = [&] {
        return scene->render(7.3, {0, 0}, 200, 150, {255, 255, 255}, {0, 0, 0}, {9, 9, 9});
    };
    const auto alone = draw();
    std::vector<std::vector<std::uint32_t>> results(4);
    std::vector<std::thread> threads;
    for (auto& result : results)
        threads.emplace_back([&] { result = draw(); });
    for (std::thread& thread : threads)
        thread.join();
    for (const auto& result : results)
        EXPECT_EQ(result, alone);
}

TEST(Scene, NothingTracedIsNoScene) {
    const job::State blank = support::emptyState();
    EXPECT_EQ(sceneOfDesign(nullptr, blank.made, nullptr, outlines()), nullptr);
    EXPECT_EQ(sceneOfSheets(blank.made, outlines()), nullptr);
    EXPECT_EQ(sceneOfSize(blank.made, job::shippedCatalogue().formats, outlines()), nullptr);
}

TEST(Scene, TheTapeHoldsOnToNodesThenCentresThenEdges) {
    std::vector<SceneItem> items(1);
    items[0].body = support::body(
        support::withOpening(support::rectangle(0, 0, 40, 20), support::rectangle(10, 5, 4, 4)));
    items[0].map = geometry::Transform::move({100, 50});
    const Scene scene(outlines(), {}, std::move(items));
    using Kind = Scene::Snap::Kind;
    struct Row {
        geometry::Point at, snapped;
        Kind kind;
    };
    for (const Row& row :
         {Row{{100.6, 49.5}, {100, 50}, Kind::Node}, Row{{120.5, 60.4}, {120, 60}, Kind::Centre},
          Row{{130, 49.2}, {130, 50}, Kind::Edge}, Row{{110.4, 55.3}, {110, 55}, Kind::Node},
          Row{{112.3, 57.2}, {112, 57}, Kind::Centre}, Row{{135, 62}, {135, 62}, Kind::Free},
          Row{{10, 10}, {10, 10}, Kind::Free}}) {
        const Scene::Snap snap = scene.snapAt(row.at, 1);
        EXPECT_EQ(snap.kind, row.kind) << row.at.x << " " << row.at.y;
        EXPECT_NEAR(snap.at.x, row.snapped.x, 1e-6);
        EXPECT_NEAR(snap.at.y, row.snapped.y, 1e-6);
    }
}

// Lines, zones and faces of pieces are on the bench wherever the piece lies.
TEST(Marks, ShowWhatPiecesCarry) {
    design::Body body{support::rectangle(0, 0, 40, 20)};
    int number = 0;
    for (const design::LineUse& use :
         {design::LineUse{design::Fold{}}, design::LineUse{design::Score{}}, design::LineUse{design::Slit{}},
          design::LineUse{design::Tear{}}, design::LineUse{design::Pen{"blue", 0.4}},
          design::LineUse{design::Placement{}}}) {
        const double x = 5.0 + 5 * number;
        body.lines.push_back(
            {design::LineId{++number}, {{x, 0}, {geometry::Segment::line({x, 20})}}, use, true, true});
    }
    body.zones.push_back({design::Zone::Kind::Glue, support::rectangle(0, 0, 4, 20)});
    std::vector<SceneItem> items(2);
    items[0].body = std::make_shared<const design::Body>(body);
    items[1].body = support::body(support::rectangle(0, 0, 5, 5));
    items[0].map = geometry::Transform::move({10, 0});
    const Scene scene(outlines(), {}, std::move(items));
    Marks marks;
    marks.show(&scene);
    EXPECT_EQ(marks.lines(), 6u);
    EXPECT_EQ(marks.zones(), 1u);
    QImage image(260, 100, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    marks.paint(painter, {5, {0, 0}, {0, 0}});
    painter.end();
    EXPECT_NE(image.pixel(75, 50), 0xffffffffu) << "the fold, 15 mm from the left";
    EXPECT_EQ(image.pixel(60, 50) & 0xffffffu, 0xffffffu) << "between zone and fold there is card";
    marks.show(nullptr);
    EXPECT_EQ(marks.lines(), 0u);
}

} // namespace
} // namespace thinline::app
