// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "BenchCases.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"

#include <ft2build.h>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <numbers>
#include <random>
#include FT_FREETYPE_H
#include FT_OUTLINE_H

namespace thinline::bench {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Shape;

/// A glyph's outlines as given by the interface typeface, cap height about 7 mm, cleaned into shapes.
class Glyphs {
  public:
    Glyphs() {
        if (FT_Init_FreeType(&m_library) ||
            FT_New_Face(m_library, THINLINE_SOURCE_DIR "/assets/fonts/Lato-Bold.ttf", 0, &m_face)) {
            std::fprintf(stderr, "the typeface cannot be read\n");
            std::exit(1);
        }
    }
    ~Glyphs() { FT_Done_FreeType(m_library); }

    std::vector<Shape> shapesOf(char letter) {
        FT_Load_Char(m_face, static_cast<FT_ULong>(letter), FT_LOAD_NO_SCALE);
        Sink sink;
        const FT_Outline_Funcs calls{moveTo, lineTo, conicTo, cubicTo, 0, 0};
        FT_Outline_Decompose(&m_face->glyph->outline, &calls, &sink);
        auto shapes = geometry::areasOf(sink.contours, geometry::FillRule::NonZero);
        return shapes ? shapes.take() : std::vector<Shape>{};
    }

  private:
    struct Sink {
        std::vector<Contour> contours;
        Point at() const {
            return contours.back().segments.empty() ? contours.back().start
                                                    : contours.back().segments.back().end;
        }
    };
    static Point mm(const FT_Vector* v) {
        return {static_cast<double>(v->x) * 0.005, static_cast<double>(-v->y) * 0.005};
    }
    static int moveTo(const FT_Vector* to, void* sink) {
        static_cast<Sink*>(sink)->contours.push_back({mm(to), {}});
        return 0;
    }
    static int lineTo(const FT_Vector* to, void* sink) {
        static_cast<Sink*>(sink)->contours.back().segments.push_back(Segment::line(mm(to)));
        return 0;
    }
    static int conicTo(const FT_Vector* c, const FT_Vector* to, void* sink) {
        const Point a = static_cast<Sink*>(sink)->at(), b = mm(c), d = mm(to);
        static_cast<Sink*>(sink)->contours.back().segments.push_back(
            Segment::curve(a + (b - a) * (2.0 / 3), d + (b - d) * (2.0 / 3), d));
        return 0;
    }
    static int cubicTo(const FT_Vector* b, const FT_Vector* c, const FT_Vector* to, void* sink) {
        static_cast<Sink*>(sink)->contours.back().segments.push_back(Segment::curve(mm(b), mm(c), mm(to)));
        return 0;
    }
    FT_Library m_library = nullptr;
    FT_Face m_face = nullptr;
};

/// Lines of text set so tight that letters overlap their neighbours.
Case glyphs(int count) {
    Case out{"union of " + std::to_string(count) + " glyph outlines", Kind::Union, {}, {}, 0, 0};
    Glyphs font;
    const std::string text = "GullPointOpenDayLanternQuaySaltTidePennantHarbour&8309";
    const int across = static_cast<int>(std::ceil(std::sqrt(count * 2.0)));
    for (int i = 0; i < count; ++i)
        for (const Shape& shape : font.shapesOf(text[static_cast<size_t>(i) % text.size()]))
            out.shapes.push_back(geometry::transformed(
                shape, geometry::Transform::move({5.0 * (i % across), 9.0 * (i / across)})));
    return out;
}

Shape disc(Point centre, double radius) {
    const double k = 0.5522847498307936 * radius, r = radius, x = centre.x, y = centre.y;
    return {{{x + r, y},
             {Segment::curve({x + r, y + k}, {x + k, y + r}, {x, y + r}),
              Segment::curve({x - k, y + r}, {x - r, y + k}, {x - r, y}),
              Segment::curve({x - r, y - k}, {x - k, y - r}, {x, y - r}),
              Segment::curve({x + k, y - r}, {x + r, y - k}, {x + r, y})}},
            {}};
}

Shape box(double x, double y, double w, double h) {
    return {geometry::contourThrough({{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}), {}};
}

Case holes() {
    Case out{"1000 holes from a rectangle", Kind::Difference, {box(0, 0, 400, 250)}, {}, 0, 0};
    for (int i = 0; i < 1000; ++i)
        out.others.push_back(disc({5 + 9.8 * (i % 40), 5 + 9.8 * (i / 40)}, 3.5));
    return out;
}

/// A waving outline of very many straight steps.
Shape wave(std::mt19937& random, Point centre, double radius, int steps) {
    std::uniform_real_distribution<double> any(0, 2 * std::numbers::pi);
    const double p1 = any(random), p2 = any(random), p3 = any(random);
    geometry::Polygon points;
    for (int i = 0; i < steps; ++i) {
        const double a = 2 * std::numbers::pi * i / steps;
        const double r = radius * (1 + 0.2 * std::sin(5 * a + p1) + 0.08 * std::sin(23 * a + p2) +
                                   0.02 * std::sin(211 * a + p3));
        points.push_back(centre + Point{r * std::cos(a), r * std::sin(a)});
    }
    return {geometry::contourThrough(points), {}};
}

Case blobs() {
    std::mt19937 random(7);
    Case out{"union of 20 blobs of 50,000 vertices", Kind::Union, {}, {}, 0, 0};
    for (int i = 0; i < 20; ++i)
        out.shapes.push_back(wave(random, {60.0 * (i % 5), 60.0 * (i / 5)}, 45, 50'000));
    return out;
}

std::vector<Shape> gridOver(double x, double y, double width, double height, int across) {
    std::vector<Shape> cells;
    for (int i = 0; i < across * across; ++i)
        cells.push_back(box(x + width / across * (i % across), y + height / across * (i / across),
                            width / across, height / across));
    return cells;
}

Case sliceWord() {
    Case out = glyphs(50);
    auto joined = geometry::weld(out.shapes);
    out.shapes = joined.take();
    geometry::Box all;
    for (const Shape& s : out.shapes)
        all.include(geometry::bounds(s));
    out.name = "slice 50 welded glyphs by a 6 x 6 grid";
    out.kind = Kind::Slice;
    out.others = gridOver(all.least.x - 1, all.least.y - 1, all.width() + 2, all.height() + 2, 6);
    return out;
}

Case sliceBlob() {
    std::mt19937 random(9);
    return {"slice a blob of 50,000 vertices by a 6 x 6 grid",
            Kind::Slice,
            {wave(random, {0, 0}, 140, 50'000)},
            gridOver(-190, -190, 380, 380, 6),
            0,
            0};
}

Case offsets() {
    Case out = glyphs(50);
    auto joined = geometry::weld(out.shapes);
    out.shapes = joined.take();
    out.name = "7 offsets of 1 mm around 50 welded glyphs";
    out.kind = Kind::OffsetSeries;
    out.count = 7;
    out.stepMm = 1;
    return out;
}

Case twoPieces() {
    std::mt19937 random(13);
    Case out{"weld of two pieces of 500 nodes", Kind::Union, {}, {}, 0, 0};
    for (int i = 0; i < 2; ++i) {
        geometry::Polygon p;
        for (int k = 0; k < 500; ++k) {
            const double a = 2 * std::numbers::pi * k / 500, r = 40 + 6 * std::sin(31 * a + i);
            p.push_back(Point{r * std::cos(a) + 30.0 * i, r * std::sin(a)});
        }
        Contour contour{p[0], {}};
        for (size_t k = 0; k < 500; ++k) {
            const Point before = p[(k + 499) % 500], here = p[k], next = p[(k + 1) % 500],
                        after = p[(k + 2) % 500];
            contour.segments.push_back(
                Segment::curve(here + (next - before) * (1.0 / 6), next - (after - here) * (1.0 / 6), next));
        }
        out.shapes.push_back({contour, {}});
    }
    return out;
}

} // namespace

double strayOf(const std::vector<Point>& sample, const Case& one) {
    double worst = 0;
    for (const Point p : sample) {
        double least = std::numeric_limits<double>::infinity();
        for (const auto* list : {&one.shapes, &one.others})
            for (const Shape& s : *list)
                if (geometry::bounds(s).grownBy(std::min(least, 1.0)).contains(p))
                    if (const auto place = geometry::nearestOnEdge(s, p))
                        least = std::min(least, place->distance);
        worst = std::max(worst, least);
    }
    return worst;
}

long Case::nodesIn() const {
    long sum = 0;
    for (const auto* list : {&shapes, &others})
        for (const Shape& s : *list)
            sum += geometry::nodeCount(s);
    return sum;
}

long Case::flatNodes() const {
    long sum = 0;
    for (const auto* list : {&shapes, &others})
        for (const Shape& s : *list)
            for (const auto& ring : geometry::flatten(s, kFlattenMm))
                sum += static_cast<long>(ring.size());
    return sum;
}

std::vector<Case> allCases() {
    return {twoPieces(), glyphs(50),  glyphs(500), glyphs(5000), holes(),
            blobs(),     sliceWord(), sliceBlob(), offsets()};
}

std::vector<Case> stopCases() {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> any(0.9995, 1.0005);
    Case jagged{"a union of 100,000 jagged vertices", Kind::Union, {}, {}, 0, 0};
    constexpr int kShapes = 10, kVertices = 10'000;
    for (int i = 0; i < kShapes; ++i) {
        geometry::Polygon points;
        for (int k = 0; k < kVertices; ++k) {
            const double a = 2 * std::numbers::pi * k / kVertices, r = 60 * any(random);
            points.push_back({r * std::cos(a) + 40.0 * (i % 4), r * std::sin(a) + 40.0 * (i / 4)});
        }
        jagged.shapes.push_back({geometry::contourThrough(points), {}});
    }
    return {jagged, blobs()};
}

} // namespace thinline::bench
