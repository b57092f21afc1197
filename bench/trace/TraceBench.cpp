// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How true a tracing is: shapes of known curves, drawn by Qt's painter with soft edges, traced, and held
// against the curves they were drawn from. Two ways on the same pictures in one run: along the pixels by
// libpotrace, and as the program does it (trace::traceLineDrawing). With TELL set in the environment every
// corner missed or false is named.
//
//     bench_trace [case ...]

#include "construct/Figures.h"
#include "formats/image/ImageFile.h"
#include "geometry/Boolean.h"
#include "geometry/Cubic.h"
#include "geometry/Measured.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "lettering/Word.h"
#include "support/Fonts.h"
#include "trace/LineDrawing.h"
#include "trace/PixelOutlines.h"
#include "trace/Scoring.h"

#include <QBuffer>
#include <QImage>
#include <QPainter>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <functional>
#include <numbers>
#include <random>

namespace {

using namespace thinline;
using geometry::Point;
using geometry::Shape;

struct Case {
    std::string name;
    std::vector<Shape> shapes; ///< px, apart from one another
    int width = 0, height = 0;
};

Case caseOf(const std::string& name, std::vector<Shape> shapes) {
    constexpr double kRim = 12;
    geometry::Box box;
    for (const Shape& shape : shapes)
        box.include(geometry::bounds(shape));
    // Off the grid on purpose.
    const auto map = geometry::Transform::move({kRim + 0.37 - box.least.x, kRim + 0.61 - box.least.y});
    for (Shape& shape : shapes)
        shape = geometry::transformed(shape, map);
    return {name, shapes, static_cast<int>(box.width() + 2 * kRim + 2),
            static_cast<int>(box.height() + 2 * kRim + 2)};
}

Shape figure(construct::Figure which, std::vector<double> values, double turnDeg = 0) {
    const Shape shape = *construct::make({which, std::move(values)});
    return geometry::transformed(shape, geometry::turnAbout({}, turnDeg * std::numbers::pi / 180));
}

std::vector<Case> cases() {
    using construct::Figure;
    std::vector<Case> all;
    for (double d : {10.0, 24.0, 80.0, 400.0})
        all.push_back(
            caseOf("disc " + std::to_string(static_cast<int>(d)), {figure(Figure::Ellipse, {d, d})}));
    all.push_back(caseOf("ellipse", {figure(Figure::Ellipse, {240, 90}, 20)}));
    for (double turn : {0.0, 7.0, 45.0})
        all.push_back(caseOf("square at " + std::to_string(static_cast<int>(turn)),
                             {figure(Figure::Rectangle, {120, 120}, turn)}));
    all.push_back(caseOf("rounded", {figure(Figure::Rectangle, {200, 120, 1, 25}, 11)}));
    all.push_back(caseOf("notched", {figure(Figure::Rectangle, {200, 120, 3, 25}, 5)}));
    all.push_back(caseOf("ring", {figure(Figure::Ring, {160, 100})}));
    all.push_back(caseOf("star", {figure(Figure::Star, {240, 5, 100}, 3)}));
    all.push_back(caseOf("sharp star", {figure(Figure::Star, {240, 7, 60}, 3)}));
    all.push_back(caseOf("heart", {figure(Figure::Heart, {200, 180}, 4)}));
    all.push_back(caseOf("drop", {figure(Figure::Drop, {90, 200}, 30)}));
    all.push_back(caseOf("arc", {figure(Figure::Arc, {240, 180, 140}, 9)}));
    all.push_back(caseOf("flower", {figure(Figure::Flower, {240, 8, 150})}));
    // Tips of every sharpness, between straight and bent sides.
    for (double degrees : {8.0, 12.0, 20.0, 30.0, 45.0}) {
        const double half = std::tan(degrees * std::numbers::pi / 360) * 200;
        Shape wedge{geometry::contourThrough({{0, 0}, {200, -half}, {200, half}}), {}};
        all.push_back(caseOf("wedge " + std::to_string(static_cast<int>(degrees)),
                             {geometry::transformed(wedge, geometry::turnAbout({}, 0.3))}));
        geometry::Contour leaf{{0, 0}, {}};
        leaf.segments = {geometry::Segment::curve({60, -half}, {140, -half}, {200, 0}),
                         geometry::Segment::curve({140, half}, {60, half}, {0, 0})};
        geometry::Contour moon{{0, 0}, {}};
        moon.segments = {geometry::Segment::curve({50, -90 - half}, {150, -90 - half}, {200, 0}),
                         geometry::Segment::curve({150, -90}, {50, -90}, {0, 0})};
        all.push_back(
            caseOf("leaf " + std::to_string(static_cast<int>(degrees)),
                   {geometry::transformed(Shape{leaf, {}}, geometry::turnAbout({}, 0.5)),
                    geometry::transformed(Shape{moon, {}}, geometry::turnAbout({}, -0.2).then(
                                                               geometry::Transform::move({0, 320})))}));
    }
    for (const auto& [name, font] :
         {std::pair{"bold letters", support::kBold}, std::pair{"script letters", support::kScript},
          std::pair{"stencil letters", support::kStencil}}) {
        const auto store = support::shippedFonts();
        const auto face = lettering::Typeface::open(*store.read(font));
        lettering::Recipe recipe;
        recipe.text = "GQRSaegk285";
        recipe.font = font;
        recipe.sizeMm = 100; // px here
        recipe.spacingMm = 20;
        std::vector<Shape> shapes;
        const auto word = lettering::setWord(*lettering::lettersOf(*face, recipe), recipe);
        for (const lettering::WordPiece& piece : word->pieces)
            shapes.push_back(piece.shape);
        all.push_back(caseOf(name, shapes));
    }
    return all;
}

QImage drawn(const Case& one) {
    QImage image(one.width, one.height, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(Qt::black);
    painter.drawPath(bench::pathOf(one.shapes));
    return image;
}

/// What happens to a picture on its way.
QImage worn(const QImage& image, const std::string& how) {
    if (how == "jpeg") {
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "JPEG", 60);
        return QImage::fromData(bytes).convertToFormat(QImage::Format_RGB32);
    }
    if (how == "noise") {
        QImage out = image;
        std::mt19937 random(5);
        std::normal_distribution<double> noise(0, 8);
        for (int y = 0; y < out.height(); ++y)
            for (int x = 0; x < out.width(); ++x) {
                const int v =
                    std::clamp(static_cast<int>(std::lround(qRed(out.pixel(x, y)) + noise(random))), 0, 255);
                out.setPixel(x, y, qRgb(v, v, v));
            }
        return out;
    }
    if (how == "soft") { // as a lens or a careless reduction blurs: about one pixel
        QImage out = image;
        for (const bool isAcross : {true, false, true, false}) {
            const QImage from = out;
            for (int y = 1; y + 1 < out.height(); ++y)
                for (int x = 1; x + 1 < out.width(); ++x) {
                    const auto at = [&](int k) {
                        return qRed(isAcross ? from.pixel(x + k, y) : from.pixel(x, y + k));
                    };
                    const int v = (at(-1) + 2 * at(0) + at(1) + 2) / 4;
                    out.setPixel(x, y, qRgb(v, v, v));
                }
        }
        return out;
    }
    if (how == "scan") { // paper darker towards one corner, ink a dark grey, grain, a soft lens
        QImage out = worn(image, "soft");
        std::mt19937 random(7);
        std::normal_distribution<double> noise(0, 4);
        for (int y = 0; y < out.height(); ++y)
            for (int x = 0; x < out.width(); ++x) {
                const double light =
                    1 -
                    0.35 * (static_cast<double>(x) / out.width() + static_cast<double>(y) / out.height()) / 2;
                const double level = 40 + (235.0 - 40) * qRed(out.pixel(x, y)) / 255;
                const int v =
                    std::clamp(static_cast<int>(std::lround(level * light + noise(random))), 0, 255);
                out.setPixel(x, y, qRgb(v, v, v));
            }
        return out;
    }
    return image;
}

raster::Picture pictureOf(const QImage& image) {
    raster::Picture out{image.width(), image.height(), {}};
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            for (int v : {qRed(image.pixel(x, y)), qGreen(image.pixel(x, y)), qBlue(image.pixel(x, y))})
                out.rgb.push_back(static_cast<std::uint8_t>(v));
    return out;
}

struct Score {
    double mean = 0, p95 = 0, most = 0;
    int nodes = 0, trueNodes = 0, corners = 0, trueCorners = 0, falseCorners = 0;
    double ms = 0;
};

Score scoreOf(const Case& one, const std::vector<Shape>& traced, bool isTelling) {
    Score out;
    std::vector<double> away;
    const auto measure = [&](const std::vector<Shape>& from, const std::vector<Shape>& to) {
        for (const Shape& shape : from) {
            const auto sample = [&](const geometry::Contour& contour) {
                geometry::eachCurve(contour, [&](const geometry::Cubic& k, const geometry::Segment&) {
                    const int looks = std::max(1, static_cast<int>(geometry::curveLength(k)));
                    for (int i = 0; i < looks; ++i) {
                        double least = 1e9;
                        for (const Shape& other : to)
                            if (const auto edge = geometry::nearestOnEdge(other, k.at((i + 0.5) / looks)))
                                least = std::min(least, edge->distance);
                        away.push_back(std::min(least, 50.0));
                    }
                });
            };
            sample(shape.outline);
            for (const geometry::Contour& opening : shape.openings)
                sample(opening);
        }
    };
    measure(one.shapes, traced);
    measure(traced, one.shapes);
    std::sort(away.begin(), away.end());
    for (double d : away)
        out.mean += d / static_cast<double>(away.size());
    out.p95 = away[away.size() * 95 / 100];
    out.most = away[away.size() * 995 / 1000];
    for (const Shape& shape : one.shapes)
        out.trueNodes += geometry::nodeCount(shape);
    for (const Shape& shape : traced)
        out.nodes += geometry::nodeCount(shape);
    constexpr double kCornerRad = 0.52, kTurnRad = 0.26; // 30 degrees make a corner, kept within 15
    const auto wanted = bench::cornersOf(one.shapes, kCornerRad), found = bench::cornersOf(traced, kCornerRad / 2);
    out.trueCorners = static_cast<int>(wanted.size());
    for (const bench::Corner& corner : wanted) {
        const bool isKept = std::any_of(found.begin(), found.end(), [&](const bench::Corner& f) {
            return geometry::distance(f.at, corner.at) <= 1 && std::abs(f.turn - corner.turn) <= kTurnRad;
        });
        out.corners += isKept;
        if (isKept || !isTelling)
            continue;
        const auto nearest =
            std::min_element(found.begin(), found.end(), [&](const bench::Corner& a, const bench::Corner& b) {
                return geometry::distance(a.at, corner.at) < geometry::distance(b.at, corner.at);
            });
        std::printf("  missed: %.1f %.1f turning %.0f degrees between steps of %.1f and %.1f px", corner.at.x,
                    corner.at.y, corner.turn * 57.3, corner.before, corner.after);
        if (nearest != found.end())
            std::printf(", nearest %.2f away turning %.0f between %.1f and %.1f",
                        geometry::distance(nearest->at, corner.at), nearest->turn * 57.3, nearest->before,
                        nearest->after);
        std::printf("\n");
    }
    const auto blunt = bench::cornersOf(one.shapes, 0.17); // ten degrees are no smooth arc either
    for (const bench::Corner& f : found) {
        const bool isFalse =
            std::abs(f.turn) > kCornerRad && std::none_of(blunt.begin(), blunt.end(), [&](const bench::Corner& c) {
                return geometry::distance(f.at, c.at) <= 3;
            });
        out.falseCorners += isFalse;
        if (isFalse && isTelling)
            std::printf("  false: %.1f %.1f turning %.0f degrees\n", f.at.x, f.at.y, f.turn * 57.3);
    }
    return out;
}

constexpr int kLeastPx = 20; // smaller is a speck

std::vector<Shape> alongPixels(const raster::Picture& picture) {
    const raster::Grey mask = raster::inkMask(raster::brightness(picture), 127);
    const auto regions = raster::findRegions(mask, 255, raster::Connectivity::Four);
    std::vector<Shape> out;
    for (const raster::Region& region : regions->all)
        if (region.areaPx >= kLeastPx) {
            const auto shapes = trace::outlinesOf(region, 1.0, true);
            out.insert(out.end(), shapes->begin(), shapes->end());
        }
    return out;
}

std::vector<Shape> alongEdges(const raster::Picture& picture) {
    trace::Recipe recipe;
    recipe.leastAreaMm2 = kLeastPx; // at a pixel to the mm
    return trace::traceLineDrawing(picture, 1, recipe, {})->ink;
}

} // namespace

int main(int argc, char** argv) {
    for (const char* how : {"clean", "jpeg", "noise", "soft", "scan"}) {
        std::printf("%-16s %-7s | %-44s | %-44s\n", "case", how,
                    "pixels: mean  95%  99.5%  nodes  corners false",
                    "edge: mean  95%  99.5%  nodes  corners false");
        Score sum[2];
        int count = 0;
        for (const Case& one : cases()) {
            if (argc > 1 && std::none_of(argv + 1, argv + argc, [&](const char* wanted) {
                    return one.name.find(wanted) != std::string::npos;
                }))
                continue;
            const raster::Picture picture = pictureOf(worn(drawn(one), how));
            std::printf("%-24s", one.name.c_str());
            for (int way = 0; way < 2; ++way) {
                const auto begun = std::chrono::steady_clock::now();
                const std::vector<Shape> traced = way == 0 ? alongPixels(picture) : alongEdges(picture);
                const double ms =
                    std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun)
                        .count();
                const Score s = scoreOf(one, traced, way == 1 && std::getenv("TELL"));
                std::printf(" | %6.3f %5.2f %5.2f  %4d/%-4d  %2d/%-2d %3d %5.1f ms", s.mean, s.p95, s.most,
                            s.nodes, s.trueNodes, s.corners, s.trueCorners, s.falseCorners, ms);
                sum[way].mean += s.mean;
                sum[way].p95 += s.p95;
                sum[way].most += s.most;
                sum[way].nodes += s.nodes;
                sum[way].trueNodes += s.trueNodes;
                sum[way].corners += s.corners;
                sum[way].trueCorners += s.trueCorners;
                sum[way].falseCorners += s.falseCorners;
            }
            ++count;
            std::printf("\n");
        }
        std::printf("%-24s", "all");
        for (const Score& s : sum)
            std::printf(" | %6.3f %5.2f %5.2f  %4d/%-4d  %2d/%-2d %3d         ", s.mean / count,
                        s.p95 / count, s.most / count, s.nodes, s.trueNodes, s.corners, s.trueCorners,
                        s.falseCorners);
        std::printf("\n\n");
    }
}
