// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Boolean.h"
#include "geometry/Offset.h"

#include <cmath>
#include <numbers>
#include <random>
#include <string>

/// Works that are larger than a mat, of the kinds makers divide: made by rule, so that tests and benches share them.
namespace thinline::test {

struct LargeWork {
    std::string name;
    geometry::Shape shape;
    std::vector<geometry::Shape> cover; ///< an upper layer, where there is one
    double widthMm = 292, heightMm = 292;
};

inline geometry::Shape ringOf(const geometry::Polygon& points) {
    geometry::Contour contour = geometry::contourThrough(points);
    return {geometry::signedArea(contour) < 0 ? geometry::reversed(contour) : contour, {}};
}
inline geometry::Shape boxOf(double x, double y, double width, double height) {
    return ringOf({{x, y}, {x + width, y}, {x + width, y + height}, {x, y + height}});
}
inline geometry::Shape ovalOf(geometry::Point centre, double rx, double ry, double turn = 0,
                              int points = 72) {
    geometry::Polygon out;
    for (int i = 0; i < points; ++i) {
        const double a = 2 * std::numbers::pi * i / points;
        const geometry::Point p{rx * std::cos(a), ry * std::sin(a)};
        out.push_back(centre + geometry::Point{p.x * std::cos(turn) - p.y * std::sin(turn),
                                               p.x * std::sin(turn) + p.y * std::cos(turn)});
    }
    return ringOf(out);
}
inline geometry::Shape bandOf(const geometry::Polygon& way, double width) {
    geometry::Contour line{way.front(), {}};
    for (size_t i = 1; i < way.size(); ++i)
        line.segments.push_back(geometry::Segment::line(way[i]));
    return geometry::strokeOutline(line, width, geometry::Cap::Round).take().front();
}
inline geometry::Shape joined(const std::vector<geometry::Shape>& shapes) {
    return geometry::weld(shapes).take().front();
}
inline geometry::Shape without(const geometry::Shape& shape, const std::vector<geometry::Shape>& taken) {
    return geometry::subtract({shape}, taken).take().front();
}

/// A plate with seven upright letters' counters cut out of it.
inline LargeWork banner(bool onShortMat) {
    geometry::Polygon edge;
    for (int i = 0; i <= 60; ++i)
        edge.push_back({i * 13.0, 12 * std::sin(i * 0.35)});
    for (int i = 60; i >= 0; --i)
        edge.push_back({i * 13.0, 150 + 12 * std::sin(i * 0.35)});
    std::vector<geometry::Shape> letters;
    for (int i = 0; i < 7; ++i) {
        const double x = 55 + i * 100;
        letters.push_back(i % 2 ? ovalOf({x + 32, 75}, 30, 38)
                                : joined({boxOf(x, 38, 16, 74), boxOf(x, 38, 60, 16), boxOf(x, 68, 44, 14)}));
    }
    return {onShortMat ? "banner on the short mat" : "banner on the long mat",
            without(ringOf(edge), letters),
            {},
            292,
            onShortMat ? 292.0 : 597.0};
}
inline LargeWork figureWithTail() {
    std::vector<geometry::Shape> all{ovalOf({300, 500}, 210, 260),    ovalOf({300, 190}, 130, 120),
                                     ovalOf({215, 80}, 30, 70, -0.3), ovalOf({385, 80}, 30, 70, 0.3),
                                     boxOf(170, 660, 80, 240),        boxOf(350, 660, 80, 240)};
    geometry::Polygon tail;
    for (int i = 0; i <= 40; ++i)
        tail.push_back({480 + i * 9.0, 620 - 90 * std::sin(i * 0.16)});
    all.push_back(bandOf(tail, 5));
    all.push_back(ovalOf({840, 620}, 40, 28));
    return {"figure with a thin tail", joined(all), {ovalOf({300, 520}, 190, 60)}};
}
inline LargeWork frame() {
    return {"frame",
            without(boxOf(0, 0, 460, 560), {boxOf(45, 45, 370, 470)}),
            {without(boxOf(4, 4, 452, 552), {boxOf(41, 41, 378, 478)})}};
}
inline LargeWork lattice() {
    std::vector<geometry::Shape> all;
    for (int i = 0; i < 5; ++i) {
        geometry::Polygon stem;
        for (int k = 0; k <= 50; ++k)
            stem.push_back({k * 20.0, i * 70 + 45 * std::sin(k * 0.25 + i * 1.3)});
        all.push_back(bandOf(stem, 5));
    }
    for (int k = 0; k < 10; ++k) {
        all.push_back(ovalOf({60 + k * 100.0, 30 + (k % 4) * 70.0}, 34, 18, k * 0.7));
        all.push_back(bandOf({{60 + k * 100.0, -60}, {70 + k * 100.0, 340}}, k % 3 == 0 ? 12 : 5));
    }
    return {"lattice of stems", joined(all), {ovalOf({500, 150}, 120, 60)}};
}
inline LargeWork signWithCounters() {
    std::vector<geometry::Shape> counters;
    for (int row = 0; row < 3; ++row)
        for (int i = 0; i < 6; ++i)
            counters.push_back((i + row) % 2 ? ovalOf({100 + i * 130.0, 110 + row * 170.0}, 34, 46)
                                             : boxOf(72 + i * 130.0, 66 + row * 170.0, 56, 88));
    return {"sign with counters",
            without(ovalOf({425, 280}, 420, 275, 0, 120), counters),
            {boxOf(180, 180, 480, 30), boxOf(180, 350, 480, 30)}};
}
inline LargeWork wreath() {
    std::vector<geometry::Shape> all{
        without(ovalOf({0, 0}, 225, 225, 0, 120), {ovalOf({0, 0}, 195, 195, 0, 120)})};
    for (int i = 0; i < 24; ++i) {
        const double a = i * std::numbers::pi / 12;
        all.push_back(ovalOf({222 * std::cos(a), 222 * std::sin(a)}, 34, 12, a + 0.8));
    }
    return {"wreath", joined(all), {ovalOf({160, -150}, 50, 30, 0.6)}};
}

/// The kinds, each with and without its upper layer.
inline std::vector<LargeWork> largeWorks() {
    std::vector<LargeWork> out;
    for (LargeWork one :
         {banner(false), banner(true), figureWithTail(), frame(), lattice(), signWithCounters(), wreath()}) {
        if (!one.cover.empty()) {
            LargeWork bare = one;
            bare.cover.clear();
            bare.name += ", bare";
            out.push_back(bare);
        }
        out.push_back(one);
    }
    return out;
}

/// A work drawn at random: blobs, strokes and openings that hang together.
inline LargeWork randomWork(unsigned seed) {
    std::mt19937 random(seed);
    const auto in = [&](double a, double b) {
        return a + (b - a) * (static_cast<double>(random() % 100000) / 100000);
    };
    std::vector<geometry::Shape> all;
    geometry::Point at{0, 0};
    const int blobs = 2 + static_cast<int>(in(0, 5));
    for (int i = 0; i < blobs; ++i) {
        const geometry::Point next = at + geometry::Point{in(-260, 260), in(-260, 260)};
        all.push_back(in(0, 1) < 0.6 ? ovalOf(next, in(40, 170), in(30, 140), in(0, 3))
                                     : boxOf(next.x - 70, next.y - 60, in(60, 260), in(50, 220)));
        if (i > 0)
            all.push_back(
                bandOf({at, geometry::middle(at, next) + geometry::Point{in(-60, 60), in(-60, 60)}, next},
                       in(3, 30)));
        at = next;
    }
    geometry::Shape whole = joined(all);
    std::vector<geometry::Shape> holes;
    const geometry::Box box = geometry::bounds(whole);
    for (int i = 0; i < static_cast<int>(in(0, 9)); ++i)
        holes.push_back(
            ovalOf({in(box.least.x, box.most.x), in(box.least.y, box.most.y)}, in(8, 40), in(8, 40)));
    if (!holes.empty())
        whole = without(whole, holes);
    return {"random " + std::to_string(seed), whole, {}};
}

/// Strokes of all widths that cross one another, with leaves at some ends: where thin places are everywhere.
inline LargeWork randomTangle(unsigned seed) {
    std::mt19937 random(seed);
    const auto in = [&](double a, double b) {
        return a + (b - a) * (static_cast<double>(random() % 100000) / 100000);
    };
    std::vector<geometry::Shape> all;
    geometry::Point at{0, 0};
    const int strokes = 5 + static_cast<int>(in(0, 9));
    for (int i = 0; i < strokes; ++i) {
        geometry::Polygon way{at};
        for (int k = 0; k < 3; ++k)
            way.push_back(way.back() + geometry::Point{in(-190, 190), in(-190, 190)});
        all.push_back(bandOf(way, in(0, 1) < 0.5 ? in(3, 7) : in(7, 28)));
        if (in(0, 1) < 0.6)
            all.push_back(ovalOf(way.back(), in(14, 60), in(10, 34), in(0, 3)));
        at = way[1 + static_cast<size_t>(in(0, 3))];
    }
    return {"tangle " + std::to_string(seed), joined(all), {}};
}

} // namespace thinline::test
