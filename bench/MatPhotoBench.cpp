// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How well a mat and the scraps on it are found in photos of a simulated camera: everything drawn at random, the truth known.
// With --picture the mat that ships with the demo is photographed instead.
#include "geometry/Measures.h"
#include "raster/Colour.h"
#include "raster/MatPhoto.h"
#include "support/MatPictures.h"

#include <QImage>

#include <chrono>
#include <cstdio>
#include <cstring>

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

void compare(const support::MatScene& scene, const raster::MatLook& look, Tally& tally) {
    std::vector<bool> isTrue(look.scraps.size(), false);
    for (const support::MatScene::Scrap& scrap : scene.scraps) {
        ++tally.scraps;
        const Point middle = geometry::bounds(geometry::Polygons{scrap.outline}).centre();
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

void photograph(unsigned seed, Tally& tally) {
    const support::MatScene scene = support::matScene(seed);
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

} // namespace

int main(int argc, char** argv) {
    if (argc == 3 && std::strcmp(argv[1], "--picture") == 0)
        return writeDemo(argv[2]);
    const int count = argc > 1 ? std::atoi(argv[1]) : 60;
    Tally tally;
    for (int seed = 1; seed <= count; ++seed)
        photograph(static_cast<unsigned>(seed), tally);
    const int found = tally.scraps - tally.missed, seen = tally.photos - tally.noCorners;
    std::printf("%d photos of 1600 x 1200: %d without corners; worst corner %.2f px, worst place %.2f mm\n",
                tally.photos, tally.noCorners, tally.worstCornerPx, tally.worstPlaceMm);
    std::printf("%d scraps: %d missed (%d of them unlike the mat by 6 or more), %d doubtful, %d invented\n",
                tally.scraps, tally.missed, tally.missedUnlike, tally.doubtful, tally.invented);
    std::printf("outlines off by %.3f mm in the mean, the worst by %.3f mm; %.2f s a photo\n",
                tally.outlineMm / std::max(1, found), tally.worstOutlineMm,
                tally.seconds / std::max(1, seen));
}
