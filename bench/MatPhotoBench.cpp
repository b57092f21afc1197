// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How well a mat and the scraps on it are found in photos of a simulated camera: everything drawn at random, the truth known.
// With --picture the mat that ships with the demo is photographed instead.
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "raster/Colour.h"
#include "raster/MatPhoto.h"
#include "support/MatPictures.h"

#include <QImage>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <random>

using namespace thinline;
using geometry::Point;

namespace {

struct Tally {
    int photos = 0, noCorners = 0, scraps = 0, missed = 0, missedUnlike = 0, doubtful = 0, invented = 0;
    double worstCornerPx = 0, worstPlaceMm = 0, outlineMm = 0, worstOutlineMm = 0, seconds = 0;
};

/// How far the found edge is from the true one, in the mean.
double awayFrom(const geometry::Polygons& found, const geometry::Polygon& truth) {
    double sum = 0;
    int places = 0;
    for (const geometry::Polygon& ring : found)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            const int parts = 1 + static_cast<int>(geometry::distance(a, b));
            for (int k = 0; k < parts; ++k) {
                const Point p = a + (b - a) * (static_cast<double>(k) / parts);
                double least = INFINITY;
                for (std::size_t q = 0; q < truth.size(); ++q)
                    least = std::min(least,
                                     geometry::distanceToStretch(p, truth[q], truth[(q + 1) % truth.size()]));
                sum += least;
                ++places;
            }
        }
    return places > 0 ? sum / places : 0;
}

/// What is seen of a scrap under those that lie on it: its largest part; nothing where that is less than 4 cm2.
geometry::Polygon seenOf(const support::MatScene& scene, std::size_t which) {
    constexpr double kLeastMm2 = 400;
    std::vector<geometry::Shape> above;
    for (std::size_t i = which + 1; i < scene.scraps.size(); ++i)
        above.push_back({geometry::contourThrough(scene.scraps[i].outline), {}});
    auto parts = geometry::subtract({{geometry::contourThrough(scene.scraps[which].outline), {}}}, above);
    geometry::Polygon out;
    double most = kLeastMm2;
    if (parts)
        for (const geometry::Shape& part : *parts)
            if (const double area = geometry::area(part); area > most) {
                most = area;
                out = geometry::flatten(part.outline, 0.01);
            }
    return out;
}

void compare(const support::MatScene& scene, const raster::MatLook& look, Tally& tally) {
    std::vector<bool> isTrue(look.scraps.size(), false);
    for (std::size_t i = 0; i < scene.scraps.size(); ++i) {
        const support::MatScene::Scrap scrap{seenOf(scene, i), scene.scraps[i].colour};
        if (scrap.outline.empty())
            continue;
        ++tally.scraps;
        const Point middle = geometry::pointInside({geometry::contourThrough(scrap.outline), {}});
        std::size_t hit = 0;
        while (hit < look.scraps.size() && !geometry::contains(look.scraps[hit].rings, middle))
            ++hit;
        if (hit == look.scraps.size()) {
            ++tally.missed;
            constexpr double kUnlike = 6;
            tally.missedUnlike +=
                raster::ciede2000(raster::labOf(scrap.colour), raster::labOf(scene.mat)) >= kUnlike ? 1 : 0;
            continue;
        }
        isTrue[hit] = true;
        tally.doubtful += look.scraps[hit].isDoubtful ? 1 : 0;
        const double away = awayFrom(look.scraps[hit].rings, scrap.outline);
        tally.outlineMm += away;
        tally.worstOutlineMm = std::max(tally.worstOutlineMm, away);
    }
    for (const bool one : isTrue)
        tally.invented += one ? 0 : 1;
}

void photograph(unsigned seed, Tally& tally, bool mayOverlap) {
    const support::MatScene scene = support::matScene(seed, mayOverlap);
    const raster::Picture photo = scene.seen();
    ++tally.photos;
    const auto begun = std::chrono::steady_clock::now();
    const auto seen = raster::findRectangle(photo, scene.widthMm, scene.heightMm);
    if (!seen) {
        ++tally.noCorners;
        std::printf("photo %u: %s\n", seed, seen.error().message.c_str());
        return;
    }
    const auto look = raster::lookAtMat(photo, *seen);
    tally.seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
    const Point corners[]{{0, 0}, {scene.widthMm, 0}, {scene.widthMm, scene.heightMm}, {0, scene.heightMm}};
    for (std::size_t k = 0; k < 4; ++k)
        tally.worstCornerPx =
            std::max(tally.worstCornerPx, geometry::distance(scene.pxAt(corners[k]), seen->corners()[k]));
    for (double x = 5; x < scene.widthMm; x += 20)
        for (double y = 5; y < scene.heightMm; y += 20)
            tally.worstPlaceMm =
                std::max(tally.worstPlaceMm, geometry::distance(seen->toMm(scene.pxAt({x, y})), {x, y}));
    compare(scene, *look, tally);
}

/// The mat of the demo: five scraps of the lighthouse's card.
int writeDemo(const char* path) {
    support::MatScene scene;
    scene.mat = {84, 96, 112};
    scene.table = {206, 186, 158};
    const auto scrap = [&](raster::Rgb colour, geometry::Polygon outline) {
        scene.scraps.push_back({std::move(outline), colour});
    };
    scrap({0xc8, 0x45, 0x2a}, {{20, 22}, {132, 18}, {136, 70}, {96, 92}, {24, 88}});
    scrap({0xe3, 0xb2, 0x4b}, {{150, 20}, {284, 26}, {280, 96}, {148, 90}});
    scrap({0xf4, 0xef, 0xe0}, {{18, 112}, {150, 108}, {156, 196}, {88, 204}, {20, 180}});
    scrap({0x8c, 0x5a, 0x3c}, {{176, 112}, {286, 118}, {282, 214}, {214, 226}, {172, 200}});
    scrap({0x3c, 0x7d, 0x8c}, {{22, 222}, {196, 226}, {190, 288}, {24, 284}});
    scene.bend = 0.03;
    scene.toMm = support::cameraOver(scene, 0.22, 1.2, 0.08, 0.8);
    scene.lightAcross = 0.18;
    scene.shadowAt = {200, 60};
    scene.shadowRad = 0.5;
    scene.shadow = 0.78;
    scene.shadowSoftMm = 14;
    const raster::Picture photo = scene.seen();
    constexpr int kQuality = 92;
    return QImage(photo.rgb.data(), photo.width, photo.height, 3 * photo.width, QImage::Format_RGB888)
                   .save(path, nullptr, kQuality)
               ? 0
               : 1;
}

/// Pictures that show no mat, or not all of one; how many are taken for one.
void measureNoMats() {
    std::vector<raster::Picture> all;
    const auto drawn = [&](const auto& colourAt) {
        raster::Picture picture{1200, 900, std::vector<std::uint8_t>(1200 * 900 * 3)};
        for (int y = 0; y < picture.height; ++y)
            for (int x = 0; x < picture.width; ++x) {
                const raster::Rgb c = colourAt(x, y);
                for (std::size_t k = 0; k < 3; ++k)
                    picture.rgb[static_cast<std::size_t>((y * picture.width + x) * 3) + k] = c[k];
            }
        all.push_back(std::move(picture));
    };
    const auto grey = [](double v) {
        const auto one = static_cast<std::uint8_t>(std::clamp(v, 0.0, 255.0));
        return raster::Rgb{one, one, one};
    };
    std::mt19937 random(1);
    drawn([&](int, int) { return grey(static_cast<double>(random() % 256)); });                       // noise
    drawn([&](int x, int y) { return grey((x / 40 + y / 40) % 2 ? 230 : 40); }); // tiles
    drawn([&](int x, int y) { return grey(150 + 40 * std::sin(y / 9.0 + 3 * std::sin(x / 130.0))); }); // wood
    drawn([&](int x, int y) {
        return grey(y % 30 < 10 && x % 1100 > 80 && (x * 7 + y / 30 * 13) % 23 > 5 ? 30 : 245);
    });                                                                 // print
    drawn([&](int x, int y) { return grey(60 + x / 8.0 + y / 12.0); }); // dusk
    for (const unsigned seed : {3u, 11u}) { // a table with scraps on it, and no mat
        support::MatScene scene = support::matScene(seed);
        scene.mat = scene.table;
        scene.hasGrid = false;
        all.push_back(scene.seen());
    }
    support::MatScene paper = support::matScene(5); // a sheet of paper
    paper.mat = {250, 250, 248};
    paper.table = {120, 84, 58};
    paper.hasGrid = false;
    paper.scraps.clear();
    all.push_back(paper.seen());
    for (const double away : {170.0, -190.0}) { // the camera looks past the mat
        support::MatScene scene = support::matScene(3);
        scene.toMm[2] += away;
        all.push_back(scene.seen());
    }
    int taken = 0;
    for (const raster::Picture& picture : all)
        if (const auto seen = raster::findRectangle(picture, 304.8, 304.8))
            if (const auto look = raster::lookAtMat(picture, *seen); look && look->grid.isThere)
                ++taken;
    std::printf("%zu pictures without a whole mat: %d taken for one\n", all.size(), taken);
}

void tell(const Tally& tally) {
    const int found = tally.scraps - tally.missed, seen = tally.photos - tally.noCorners;
    std::printf("%d photos of 1600 x 1200: %d without corners; worst corner %.2f px, worst place %.2f mm\n",
                tally.photos, tally.noCorners, tally.worstCornerPx, tally.worstPlaceMm);
    std::printf("%d scraps: %d missed (%d of them unlike the mat by 6 or more), %d doubtful, %d invented\n",
                tally.scraps, tally.missed, tally.missedUnlike, tally.doubtful, tally.invented);
    std::printf("outlines off by %.3f mm in the mean, the worst by %.3f mm; %.2f s a photo\n",
                tally.outlineMm / std::max(1, found), tally.worstOutlineMm,
                tally.seconds / std::max(1, seen));
}

} // namespace

int main(int argc, char** argv) {
    if (argc == 3 && std::strcmp(argv[1], "--picture") == 0)
        return writeDemo(argv[2]);
    const int count = argc > 1 ? std::atoi(argv[1]) : 60;
    for (const bool mayOverlap : {false, true}) {
        std::puts(mayOverlap ? "scraps on one another:" : "scraps apart:");
        Tally tally;
        for (int seed = 1; seed <= count; ++seed)
            photograph(static_cast<unsigned>(seed), tally, mayOverlap);
        tell(tally);
    }
    measureNoMats();
}
