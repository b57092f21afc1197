// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing: how well marks are found, that none is invented, how long a page takes and how much memory, how fast a photo follows
// the hand. With a number so many photos are looked at instead of 100.
#include "devices/PrintCut.h"
#include "formats/image/ImageFile.h"
#include "formats/pdf/WritePages.h"
#include "job/PrintPages.h"
#include "print/Place.h"
#include "support/MarkPictures.h"
#include "support/NoTargets.h"
#include "support/Shapes.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>

using namespace thinline;
using geometry::Point;

namespace {

class Watch {
  public:
    double seconds() const {
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - m_begun).count();
    }

  private:
    std::chrono::steady_clock::time_point m_begun = std::chrono::steady_clock::now();
};

long mostMemoryMb() {
    std::ifstream status("/proc/self/status");
    std::string word;
    while (status >> word)
        if (word == "VmHWM:") {
            long kb = 0;
            status >> kb;
            return kb / 1024;
        }
    return 0;
}

void lookForMarks(unsigned photos) {
    constexpr double kPagePxPerMm = 8;
    double sum = 0, worst = 0, seconds = 0;
    unsigned found = 0, invented = 0;
    for (unsigned seed = 1; seed <= photos; ++seed) {
        const support::RandomLook one = support::randomLook(seed);
        const devices::Camera camera(one.look, one.layout.widthMm, one.layout.heightMm);
        const raster::Picture photo =
            camera.photoOf(support::markPage(one.layout, {1, false}, kPagePxPerMm), kPagePxPerMm);
        const Watch watch;
        const auto seen = raster::findTargets(photo);
        seconds += watch.seconds();
        for (const raster::SeenTarget& target : *seen) {
            double least = 1e9;
            for (const Point mark : one.layout.marks)
                least = std::min(least, geometry::distance(camera.toPx(mark), target.at));
            constexpr double kNearPx = 2;
            if (least > kNearPx) {
                ++invented;
                continue;
            }
            ++found;
            sum += least;
            worst = std::max(worst, least);
        }
    }
    std::printf("%u photos: %u of %u marks found, mean %.4f px, worst %.4f px, %u invented, %.2f s each\n",
                photos, found, 4 * photos, found ? sum / found : 0, worst, invented, seconds / photos);
}

void lookWhereThereAreNone(unsigned pictures, const std::string& screenshots) {
    unsigned invented = 0, looked = 0;
    const Watch watch;
    for (unsigned seed = 1; seed <= pictures; ++seed, ++looked)
        invented += static_cast<unsigned>(raster::findTargets(support::withoutTargets(seed))->size());
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(screenshots, none)) {
        std::ifstream in(entry.path(), std::ios::binary);
        const auto picture = formats::image::decode(base::Bytes((std::istreambuf_iterator<char>(in)), {}));
        if (!picture || entry.path().stem() == "print-pages")
            continue; // that one shows marks
        ++looked;
        const auto seen = raster::findTargets(picture->picture);
        for (const raster::SeenTarget& target : *seen)
            std::printf("  invented in %s at %.0f, %.0f\n", entry.path().filename().c_str(), target.at.x,
                        target.at.y);
        invented += static_cast<unsigned>(seen->size());
    }
    std::printf("%u pictures without marks: %u invented, %.2f s each\n", looked, invented,
                watch.seconds() / looked);
}

/// A photo of 12 megapixels on a piece that fills A4 between the marks.
void writeAPage() {
    auto photo = std::make_shared<raster::Picture>(raster::Picture{4000, 3000, {}});
    photo->rgb.resize(static_cast<std::size_t>(photo->pixels()) * 3);
    for (std::size_t i = 0; i < photo->rgb.size(); ++i)
        photo->rgb[i] = static_cast<std::uint8_t>((i * 2654435761u >> 13) % 61 + i / 150'000);
    const print::PageLayout layout = print::layoutOf(210, 297, 6.35, true);
    const geometry::Box& area = layout.area;
    design::Body body{
        support::rectangle(area.least.x + 2, area.least.y + 2, area.width() - 4, area.height() - 4)};
    design::Face face;
    face.kind = design::Face::Kind::Picture;
    face.shows = "art-1";
    face.place = print::covering(geometry::bounds(body.shape).grownBy(2), 4.0 / 3);
    body.faces.push_back(face);
    const print::Gallery gallery{{"art-1", {photo, {}, 4.0 / 3}}};
    const Watch watch;
    constexpr double kPxPerMm = 600 / 25.4;
    raster::Canvas canvas(static_cast<int>(210 * kPxPerMm), static_cast<int>(297 * kPxPerMm),
                          {255, 255, 255});
    if (!print::paint(canvas, body, {{}, design::Side::Front, 2, kPxPerMm}, gallery))
        return;
    const double painted = watch.seconds();
    auto picture = std::make_shared<const raster::Picture>(canvas.picture());
    formats::pdf::Page page;
    page.widthMm = 210;
    page.heightMm = 297;
    page.painted.emplace_back(std::in_place_type<formats::pdf::Pictured>,
                              formats::pdf::Pictured{{{0, 0}, {210, 297}}, picture});
    const auto pdf = formats::pdf::writePages({page}, "bench", formats::image::srgbProfile());
    std::printf("A4 at 600 dpi with a photo of 12 megapixels: painted in %.2f s, written in %.2f s (%.1f "
                "MB), at most %ld MB\n",
                painted, watch.seconds(), pdf ? static_cast<double>(pdf->size()) / 1e6 : 0, mostMemoryMb());

    // As the window does it while a hand drags, and when it lets go: moved a little every time.
    constexpr int kFrames = 60, kPreviewPx = 1600;
    const print::Gallery preview = print::coarser(gallery, kPreviewPx);
    for (const int width : {310, 620}) {
        const Watch pan;
        for (int i = 0; i < kFrames; ++i) {
            raster::Canvas view(width, width * 22 / 16, {255, 255, 255});
            design::Body moved = body;
            moved.faces[0].place = print::shifted(face.place, {{0.3 * i, 0.1 * i}, 1 + 0.002 * i, 0});
            (void)print::paint(
                view, moved,
                {geometry::Transform::move(area.least * -1), design::Side::Front, 2, width / area.width()},
                preview);
        }
        std::printf("dragging that photo, %d px across: %.0f frames a second\n", width,
                    kFrames / pan.seconds());
    }
}

void cutMany() {
    const print::PageLayout layout = print::layoutOf(215.9, 279.4, 6.35, true);
    constexpr int kRuns = 1000;
    for (const auto& [name, remedies] : {std::pair{"read and calibrated", devices::Remedies{}},
                                         {"read, never calibrated", {true, false}},
                                         {"not read", {false, false}}}) {
        const std::vector<double> worst = devices::worstOf(kRuns, {}, layout, remedies);
        std::printf("%d runs, %s: half within %.3f mm, 99 of 100 within %.3f mm, worst %.3f mm; 1.5 mm of "
                    "bleed cover %.1f %%\n",
                    kRuns, name, worst[worst.size() / 2], worst[worst.size() * 99 / 100], worst.back(),
                    100 * devices::coveredBy(worst, 1.5));
    }
}

} // namespace

int main(int argc, char** argv) {
    std::setvbuf(stdout, nullptr, _IOLBF, 0);
    const unsigned photos = argc > 1 ? static_cast<unsigned>(std::atoi(argv[1])) : 100;
    writeAPage();
    cutMany();
    lookForMarks(photos);
    lookWhereThereAreNone(photos, THINLINE_SOURCE_DIR "/docs/screenshots");
    return 0;
}
