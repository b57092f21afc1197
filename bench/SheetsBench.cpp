// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How close pieces are laid: bench_sheets [SECONDS [SEED]]. Sets drawn at random by a fixed seed are laid on sheets of 280 x
// 280 mm usable, by boxes, by the first layout, and by the search for so many seconds of processor time, one thread; what is shown are sheets
// with the used share of the last one.
#include "geometry/Arcs.h"
#include "geometry/Boolean.h"
#include "geometry/Placing.h"
#include "sheets/Arrange.h"
#include "sheets/Nest.h"
#include "support/Stacks.h"

#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <numbers>
#include <numeric>
#include <random>

namespace {

using namespace thinline;
using geometry::Point;
using geometry::Shape;

/// Seconds of processor time this thread has had: others on the machine do not count.
double cpuSeconds() {
    return static_cast<double>(std::clock()) / CLOCKS_PER_SEC;
}

constexpr double kSideMm = 280, kSpacingMm = 2.5;

struct Set {
    std::string name;
    std::vector<Shape> shapes;
    double spacingMm = kSpacingMm;
};

template <class T>
T must(base::Result<T> result) {
    if (!result) {
        std::fprintf(stderr, "%s\n", result.error().message.c_str());
        std::exit(1);
    }
    return result.take();
}

class Drawing {
  public:
    explicit Drawing(unsigned seed) : m_random(seed) {}
    double between(double a, double b) { return std::uniform_real_distribution<double>(a, b)(m_random); }

    Shape polygon(const geometry::Polygon& points) {
        geometry::Contour ring = geometry::contourThrough(points);
        return {geometry::signedArea(ring) < 0 ? geometry::reversed(ring) : ring, {}};
    }
    /// One of the forms people cut: discs, crescents, stars, hooks, waves, frames, leaves.
    Shape form(double size) {
        switch (static_cast<int>(between(0, 7))) {
        case 0:
            return {geometry::ellipse({0, 0}, size / 2, size / 2 * between(0.4, 1)), {}};
        case 1: { // a crescent
            const Shape moon{geometry::ellipse({0, 0}, size / 2, size / 2), {}},
                bite{geometry::ellipse({size * between(0.15, 0.3), 0}, size * 0.42, size * 0.42), {}};
            return must(geometry::subtract({moon}, {bite})).front();
        }
        case 2: { // a star
            geometry::Polygon points;
            const int tips = static_cast<int>(between(4, 8));
            const double inner = between(0.35, 0.7);
            for (int i = 0; i < 2 * tips; ++i) {
                const double r = size / 2 * (i % 2 == 0 ? 1 : inner), a = std::numbers::pi * i / tips;
                points.push_back({r * std::cos(a), r * std::sin(a)});
            }
            return polygon(points);
        }
        case 3: { // a hook
            const double t = size * between(0.2, 0.35), h = size * between(0.6, 1);
            return polygon({{0, 0}, {size, 0}, {size, t}, {t, t}, {t, h}, {0, h}});
        }
        case 4: { // a wave
            geometry::Polygon points;
            const double t = size * between(0.15, 0.25);
            for (int i = 0; i <= 20; ++i)
                points.push_back({size * i / 20, size * 0.18 * std::sin(i * 0.45)});
            for (int i = 20; i >= 0; --i)
                points.push_back({size * i / 20, t + size * 0.18 * std::sin(i * 0.45)});
            return polygon(points);
        }
        case 5: // a bar or a plate
            return polygon({{0, 0}, {size, 0}, {size, size * between(0.15, 0.9)}, {0, size * 0.15}});
        default: { // a blot
            geometry::Polygon points;
            const double a = between(0.1, 0.3), b = between(0, 6), c = between(0.05, 0.15);
            for (int i = 0; i < 40; ++i) {
                const double turn = 2 * std::numbers::pi * i / 40,
                             r = size / 2 * (0.75 + a * std::sin(3 * turn + b) + c * std::sin(5 * turn));
                points.push_back({r * std::cos(turn), r * std::sin(turn)});
            }
            return polygon(points);
        }
        }
    }
    std::vector<Shape> forms(int count, double least, double most) {
        std::vector<Shape> out;
        for (int i = 0; i < count; ++i)
            out.push_back(form(between(least, most)));
        return out;
    }
    /// A rectangle cut into pieces by straight cuts at random turns.
    std::vector<Shape> jigsaw(double width, double height, size_t count) {
        std::vector<Shape> out{polygon({{0, 0}, {width, 0}, {width, height}, {0, height}})};
        while (out.size() < count) {
            auto largest = std::max_element(out.begin(), out.end(), [](const Shape& a, const Shape& b) {
                return geometry::area(a) < geometry::area(b);
            });
            const Shape piece = *largest;
            out.erase(largest);
            const Point middle = geometry::bounds(piece).centre();
            const double turn = between(0, std::numbers::pi), far = 500;
            const Point d{far * std::cos(turn), far * std::sin(turn)}, n{-d.y, d.x};
            const Shape half = polygon({middle - d, middle + d, middle + d + n, middle - d + n});
            for (std::vector<Shape> parts :
                 {must(geometry::intersect({piece}, {half})), must(geometry::subtract({piece}, {half}))})
                std::move(parts.begin(), parts.end(), std::back_inserter(out));
        }
        for (Shape& piece : out)
            piece = geometry::transformed(piece, geometry::turnAbout({}, between(0, 6)));
        return out;
    }
    std::vector<Shape> rectangles(int count, double least, double most) {
        std::vector<Shape> out;
        for (int i = 0; i < count; ++i) {
            const double w = between(least, most), h = between(least, most);
            out.push_back(polygon({{0, 0}, {w, 0}, {w, h}, {0, h}}));
        }
        return out;
    }

  private:
    std::mt19937 m_random;
};

double sheetsOf(const sheets::NestLayout& layout) {
    return layout.bins == 0 ? 0 : static_cast<double>(layout.bins) - 1 + layout.lastLengthMm / kSideMm;
}

double byBoxes(const Set& set) {
    design::Stack stack{{{"card", "card", {}}}, {support::layer(1, "card")}, {}};
    int number = 0;
    for (const Shape& shape : set.shapes)
        stack.pieces.push_back(support::laid(++number, shape));
    sheets::ArrangeOptions options;
    options.mat = {"mat", "mat", kSideMm, kSideMm, 0};
    options.sheet = {"sheet", "sheet", kSideMm, kSideMm, 0};
    options.spacingMm = set.spacingMm;
    const auto laid = sheets::arrange(stack, options);
    double last = 0;
    for (const design::PlacedPiece& piece : laid->loads.back().sheets.back().pieces) {
        const design::Laid& what = *stack.find(piece.what.piece);
        last = std::max(last, geometry::bounds(geometry::transformed(
                                                   what.shape(), design::placement(what.piece, piece.pose)))
                                  .most.y);
    }
    return static_cast<double>(laid->loads.size()) - 1 + last / kSideMm;
}

/// Bottom left in a bitmap, with hill climbing over the order for so long: two of it swapped, kept where it is better.
double byClimbing(sheets::NestTask task, const std::vector<std::shared_ptr<const sheets::NestTable>>& tables,
                  double seconds, unsigned seed) {
    std::mt19937 random(seed);
    const double begin = cpuSeconds();
    task.order.resize(task.items.size());
    std::iota(task.order.begin(), task.order.end(), 0u);
    std::stable_sort(task.order.begin(), task.order.end(), [&](size_t a, size_t b) {
        return tables[task.items[a].form]->area() > tables[task.items[b].form]->area();
    });
    sheets::NestLayout best = *sheets::firstNest(task, tables);
    while (cpuSeconds() - begin < seconds) {
        const auto before = task.order;
        std::swap(task.order[random() % task.order.size()], task.order[random() % task.order.size()]);
        const auto next = sheets::firstNest(task, tables);
        if (next && (next->isBetterThan(best) || !best.isBetterThan(*next)))
            best = *next;
        else
            task.order = before;
    }
    return sheetsOf(best);
}

void run(const Set& set, double seconds, unsigned seed) {
    sheets::NestTask task;
    double area = 0;
    for (const Shape& shape : set.shapes) {
        area += geometry::area(shape);
        task.items.push_back({task.forms.size()});
        task.forms.push_back({geometry::flatten(geometry::Shape{shape.outline, {}}, 0.02)});
    }
    task.sheets = {{{{0, 0}, {kSideMm, kSideMm}}}};
    task.clearMm = set.spacingMm + 0.03;
    const double begin = cpuSeconds();
    const auto tables = sheets::nestTables(task);
    const auto first = sheets::firstNest(task, tables);
    const double firstAt = cpuSeconds() - begin;
    int better = 0;
    sheets::NestBudget budget;
    budget.seed = seed;
    const double from = cpuSeconds();
    budget.spent = [&] { return (cpuSeconds() - from) / seconds; };
    const sheets::NestLayout best =
        sheets::nest(task, tables, *first, budget, [&](const sheets::NestLayout&) { ++better; });
    const double boxes = byBoxes(set);
    const double climbed = byClimbing(task, tables, seconds, seed);
    std::printf("| %s | %.3f | %.3f | %.3f (%.2f s) | %.3f | %.3f | %.3f | %d | %s |\n", set.name.c_str(),
                boxes, climbed, sheetsOf(*first), firstAt, sheetsOf(best),
                sheetsOf(best) / std::min(boxes, climbed), area / (sheetsOf(best) * kSideMm * kSideMm),
                better, sheets::isSound(task, tables, best, set.spacingMm) ? "sound" : "NOT SOUND");
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv) {
    const double seconds = argc > 1 ? std::atof(argv[1]) : 20;
    const unsigned seed = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 1;
    const std::string only = argc > 3 ? argv[3] : "";
    std::puts(
        "| set | boxes | bitmap, climbing | first layout | search | of the better | dense | better ones | |\n"
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |");
    Drawing drawing(7);
    const std::vector<Set> sets{{"40 mixed, 20-110 mm", drawing.forms(40, 20, 110)},
                                {"12 large, 90-200 mm", drawing.forms(12, 90, 200)},
                                {"120 small, 10-50 mm", drawing.forms(120, 10, 50)},
                                {"14 of a rectangle", drawing.jigsaw(280, 400, 14), 0},
                                {"44 of a rectangle", drawing.jigsaw(280, 400, 44), 0},
                                {"40 rectangles, 20-120 mm", drawing.rectangles(40, 20, 120)},
                                {"2000 small, 6-25 mm", drawing.forms(2000, 6, 25)}};
    for (const Set& set : sets)
        if (set.name.find(only) != std::string::npos)
            run(set, seconds, seed);
}
