// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How true coloured pictures are traced as people bring them: scenes of known curves, worn in eight ways, traced as flat
// art at 8 px a mm, and held against the curves.
//
//     bench_colour --kinds [factor to reduce by, first seed of the photos]
//     bench_colour [part of a scene's name or a wear ...] [--shadows] [--save]
//
// With --kinds: what kind each of many pictures is taken for, as a table of confusions.
// With --shadows what may be a shadow is taken for one, as whoever took the picture says.
// With --save every worn picture is written as PNG beside.

#include "formats/image/ImageFile.h"
#include "geometry/Measures.h"
#include "raster/Turn.h"
#include "trace/FlatArt.h"
#include "trace/Kind.h"
#include "trace/Scenes.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <string>

using namespace thinline;

namespace {

/// Pictures of every kind, worn every way, and what they are taken for.
int tellKinds(double factor, unsigned firstSeed) {
    const char* names[] = {"lines", "flat", "photo"};
    int table[3][3] = {}, turned = 0, all = 0, right = 0;
    const auto look = [&](const std::string& name, const raster::Picture& picture, trace::Mode wanted, bool isDark) {
        const trace::Kind kind = trace::kindOf(picture);
        ++table[static_cast<int>(wanted)][static_cast<int>(kind.mode)];
        ++all;
        const bool isRight = kind.mode == wanted && (wanted != trace::Mode::LineDrawing || kind.isLightOnDark == isDark);
        right += isRight;
        turned += kind.mode == wanted && !isRight;
        std::printf("%s %-24s %-5s  colours %3d even %.2f left %.3f ink %.2f stroke %5.1f texture %.2f grain %.2f  %s\n",
                    isRight ? " " : "!", name.c_str(), names[static_cast<int>(kind.mode)], kind.colours, kind.even,
                    kind.left, kind.alongInk, kind.strokePx, kind.texture, kind.grain, kind.why.c_str());
    };
    const auto seen = [&](const bench::Scene& scene) {
        const raster::Picture clean = bench::drawn(scene);
        return factor < 1 ? raster::reduced(clean, factor) : clean;
    };
    for (const std::string how : {"clean", "jpeg", "noise", "soft", "shade", "scan", "phone", "shadow"}) {
        for (const bench::Scene& scene : bench::scenes())
            if (scene.name != "face") // outlined all over: either will do
                look(scene.name + ", " + how, bench::worn(seen(scene), how), trace::Mode::FlatArt, false);
        for (const bench::Scene& scene : bench::lineScenes())
            look(scene.name + ", " + how, bench::worn(seen(scene), how), trace::Mode::LineDrawing,
                 scene.paper[0] < 100);
    }
    for (const bench::Photo& photo : bench::photos(firstSeed))
        for (const std::string how : {"clean", "jpeg", "phone", "shadow"})
            look(photo.name + ", " + how, bench::worn(photo.picture, how), trace::Mode::Photo, false);
    std::printf("%d of %d right; light taken for dark or dark for light: %d\n", right, all, turned);
    for (int i = 0; i < 3; ++i)
        std::printf("%-6s taken for lines %3d, flat %3d, photo %3d\n", names[i], table[i][0], table[i][1], table[i][2]);
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    if (argc > 1 && std::strcmp(argv[1], "--kinds") == 0)
        return tellKinds(argc > 2 ? std::atof(argv[2]) : 1, argc > 3 ? static_cast<unsigned>(std::atoi(argv[3])) : 1);
    const std::vector<std::string> wears{"clean", "jpeg", "noise", "soft", "shade", "scan", "phone", "shadow"};
    std::vector<std::string> names, ways;
    bool isSaving = false;
    trace::DarkPart darkPart = trace::DarkPart::Unsaid;
    for (int i = 1; i < argc; ++i)
        if (std::strcmp(argv[i], "--save") == 0)
            isSaving = true;
        else if (std::strcmp(argv[i], "--shadows") == 0)
            darkPart = trace::DarkPart::Shadow;
        else if (std::find(wears.begin(), wears.end(), argv[i]) != wears.end())
            ways.emplace_back(argv[i]);
        else
            names.emplace_back(argv[i]);
    std::printf("%-16s %-6s %7s %7s %7s  %-9s %-9s %-7s %-11s %-5s %s\n", "scene", "", "mean", "99.5%", "most",
                "parts", "openings", "colours", "nodes", "false", "ms");
    for (const bench::Scene& scene : bench::scenes()) {
        if (!names.empty() && std::none_of(names.begin(), names.end(), [&](const std::string& n) {
                return scene.name.find(n) != std::string::npos;
            }))
            continue;
        const raster::Picture clean = bench::drawn(scene);
        const auto truth = scene.seen();
        int openings = 0, nodes = 0;
        for (const auto& shape : truth) {
            openings += static_cast<int>(shape.openings.size());
            nodes += geometry::nodeCount(shape);
        }
        for (const std::string& how : wears) {
            if (!ways.empty() && std::find(ways.begin(), ways.end(), how) == ways.end())
                continue;
            const raster::Picture picture = bench::worn(clean, how);
            if (isSaving) {
                std::string file = scene.name + "-" + how + ".png";
                std::replace(file.begin(), file.end(), ' ', '-');
                const base::Bytes bytes = formats::image::encodePng(picture);
                std::ofstream(file, std::ios::binary)
                    .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
            }
            const auto begun = std::chrono::steady_clock::now();
            trace::Recipe recipe;
            recipe.mode = trace::Mode::FlatArt;
            recipe.darkPart = darkPart;
            const auto found = trace::traceFlatArt(picture, 1.0 / 8, recipe);
            const double ms =
                std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun).count();
            if (!found) {
                std::printf("%-16s %-6s %s\n", scene.name.c_str(), how.c_str(), found.error().message.c_str());
                continue;
            }
            std::vector<geometry::Shape> traced;
            int holes = 0, got = 0;
            for (const trace::Area& area : found->areas) {
                traced.push_back(area.shape);
                holes += static_cast<int>(area.shape.openings.size());
                got += geometry::nodeCount(area.shape);
            }
            const bench::Away away = bench::awayOf(truth, traced);
            std::printf("%-16s %-6s %7.3f %7.2f %7.2f  %4zu/%-4zu %4d/%-4d %3zu/%-3d %5d/%-5d %4d %6.0f %s\n",
                        scene.name.c_str(), how.c_str(), away.mean, away.p995, away.most, traced.size(),
                        truth.size(), holes, openings, found->palette.size(), scene.colours(), got, nodes,
                        bench::falseCorners(truth, traced), ms,
                        !found->shadow ? "" : found->shadow->isTakenOut ? "shadow out" : "shadow?");
            std::fflush(stdout);
        }
    }
}
