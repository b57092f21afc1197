// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Scene.h"

#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <thread>

namespace thinline::app {
namespace {

std::uint32_t pixel(const Scene& scene, double pxPerMm, geometry::Point mm) {
    const auto pixels =
        scene.render(pxPerMm, mm * pxPerMm - geometry::Point{8, 8}, 16, 16, {1, 2, 3}, {0, 0, 0}, {9, 9, 9});
    return pixels[8 * 16 + 8];
}

TEST(Scene, TheDesignLiesOnItsPaperInItsColours) {
    const document::Job job = document::painted(support::tracedShed(), {3}, "sea");
    const auto scene = sceneOfDesign(job, nullptr);
    const geometry::Point window = geometry::pointInside(*design::findPiece(*job.stack, 3)->shape);
    EXPECT_EQ(pixel(*scene, 6, window), 0xff3c7d8cu);
    EXPECT_EQ(pixel(*scene, 6, {-500, -500}), 0xff010203u) << "the desk";
    const int item = scene->itemAt(window, 6);
    ASSERT_GE(item, 0);
    EXPECT_EQ(scene->items()[static_cast<size_t>(item)].piece, 3);
    EXPECT_EQ(scene->itemAt({-500, -500}, 6), -1);
}

TEST(Scene, HiddenLayersAreNotShownNorHit) {
    document::Job job = document::painted(support::tracedShed(), {3}, "sea");
    const geometry::Point window = geometry::pointInside(*design::findPiece(*job.stack, 3)->shape);
    job = document::withLayerHidden(job, 2, true);
    const auto scene = sceneOfDesign(job, nullptr);
    EXPECT_EQ(scene->items()[static_cast<size_t>(scene->itemAt(window, 6))].piece, -1)
        << "the backing shows through";
}

TEST(Scene, ThePictureLiesAtItsRealSize) {
    const document::Job job = support::tracedShed();
    const auto picture = support::must(document::pictureOf(job));
    const auto scene = sceneOfPicture(job, picture);
    EXPECT_NEAR(scene->box().width(), 709 / 300.0 * 25.4, 0.01);
    const double mmPerPx = 25.4 / 300;
    EXPECT_EQ(pixel(*scene, 20, {66 * mmPerPx, 200 * mmPerPx}) & 255, 28u) << "ink of the wall";
    EXPECT_EQ(pixel(*scene, 20, {300 * mmPerPx, 130 * mmPerPx}), 0xffffffffu);
}

TEST(Scene, LoadsDoNotOverlapAndPiecesLieOnTheirMats) {
    document::Job job = support::arrangedShed();
    job = document::painted(document::painted(job, {2}, "sea"), {3}, "rust");
    job = support::must(document::arranged(job, document::shippedCatalogue().formats));
    ASSERT_EQ(job.arrangement->loads.size(), 4u);
    std::vector<geometry::Box> mats;
    for (size_t i = 0; i < 4; ++i) {
        const geometry::Point at = loadCorner(*job.arrangement, i);
        const geometry::Box box{at, at + geometry::Point{304.8, 304.8}};
        for (const geometry::Box& other : mats)
            EXPECT_FALSE(box.meets(other));
        mats.push_back(box);
    }
    const auto scene = sceneOfSheets(job);
    EXPECT_EQ(scene->items().size(), 4u);
    for (const SceneItem& item : scene->items()) {
        const geometry::Box box = geometry::bounds(geometry::transformed(*item.shape, item.map));
        EXPECT_TRUE(mats[static_cast<size_t>(item.load)].contains(box.least));
        EXPECT_TRUE(mats[static_cast<size_t>(item.load)].contains(box.most));
    }
}

TEST(Scene, FinerZoomsAreFlattenedFinerOncePerOctave) {
    const auto scene = sceneOfDesign(support::tracedShed(), nullptr);
    const auto coarse = scene->flat(1.0), fine = scene->flat(32.0);
    const auto points = [](const auto& all) {
        size_t count = 0;
        for (const Scene::Flat& one : *all)
            for (const geometry::Polygon& ring : one.rings)
                count += ring.size();
        return count;
    };
    EXPECT_LT(points(coarse), points(fine));
    EXPECT_EQ(scene->flat(0.9), coarse);
    EXPECT_NE(scene->flat(1.1), coarse);
}

TEST(Scene, ManyThreadsMayDrawFromOne) {
    const auto scene = sceneOfDesign(support::tracedShed(), nullptr);
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
    const document::Job blank = document::newJob(document::shippedCatalogue());
    EXPECT_EQ(sceneOfPicture(blank, nullptr), nullptr);
    EXPECT_EQ(sceneOfDesign(blank, nullptr), nullptr);
    EXPECT_EQ(sceneOfSheets(blank), nullptr);
    EXPECT_EQ(sceneOfSize(blank, document::shippedCatalogue().formats), nullptr);
}

TEST(Scene, TheTapeHoldsOnToNodesThenCentresThenEdges) {
    const auto plate = std::make_shared<const geometry::Shape>(
        support::withOpening(support::rectangle(0, 0, 40, 20), support::rectangle(10, 5, 4, 4)));
    std::vector<SceneItem> items(1);
    items[0].shape = plate;
    items[0].map = geometry::Transform::move({100, 50});
    const Scene scene({}, std::move(items), nullptr, {});
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
        const Scene::Snap snap = scene.snapAt(row.at, 1, 4);
        EXPECT_EQ(snap.kind, row.kind) << row.at.x << " " << row.at.y;
        EXPECT_NEAR(snap.at.x, row.snapped.x, 1e-6);
        EXPECT_NEAR(snap.at.y, row.snapped.y, 1e-6);
    }
}

} // namespace
} // namespace thinline::app
