// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Random cubic loops, many of them degenerate, through every set operation. What must hold is checked by
// areas: the parts of a shape add up to the shape.

#include "geometry/Boolean.h"

#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>

using namespace thinline::geometry;

namespace {

/// Numbers from the bytes: coarse ones make things coincide, fine ones nearly so.
struct Feed {
    const std::uint8_t* at;
    const std::uint8_t* end;
    std::uint8_t byte() { return at < end ? *at++ : 0; }
    double place() {
        const double coarse = byte() % 32;
        const std::uint8_t fine = byte();
        return fine < 200 ? coarse : coarse + (fine - 228) * 1e-4;
    }
    Point point() {
        const double x = place();
        return {x, place()};
    }
};

Contour loopOf(Feed& feed) {
    Contour out{feed.point(), {}};
    const int steps = 2 + feed.byte() % 7;
    for (int i = 0; i < steps; ++i) {
        const bool isLine = feed.byte() % 3 == 0;
        const Point b = feed.point(), c = feed.point(), d = i + 1 == steps ? out.start : feed.point();
        out.segments.push_back(isLine ? Segment::line(d) : Segment::curve(b, c, d));
    }
    return out;
}

struct Sum {
    double area = 0, length = 0;
};
Sum sumOf(const std::vector<Shape>& shapes) {
    Sum sum;
    for (const Shape& s : shapes) {
        sum.area += area(s);
        sum.length += cutLength(s);
    }
    return sum;
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    Feed feed{data, data + size};
    const auto a =
        areasOf({loopOf(feed), loopOf(feed)}, feed.byte() % 2 ? FillRule::NonZero : FillRule::EvenOdd);
    const auto b = areasOf({loopOf(feed)}, FillRule::NonZero);
    if (!a || !b)
        std::abort();
    const auto left = subtract(*a, *b), both = intersect(*a, *b), either = exclude(*a, *b);
    std::vector<Shape> all = *a;
    all.insert(all.end(), b->begin(), b->end());
    const auto joined = weld(all);
    if (!left || !both || !either || !joined)
        std::abort();
    const Sum sa = sumOf(*a), sb = sumOf(*b);
    const double allowed = 2e-3 * (sa.length + sb.length + 1);
    const auto check = [&](double found, double wanted) {
        if (!(std::abs(found - wanted) <= allowed)) {
            std::fprintf(stderr, "areas do not add up: %.6f instead of %.6f, allowed %.6f\n", found, wanted,
                         allowed);
            std::abort();
        }
    };
    check(sumOf(*left).area + sumOf(*both).area, sa.area);
    check(sumOf(*joined).area, sa.area + sb.area - sumOf(*both).area);
    check(sumOf(*either).area, sa.area + sb.area - 2 * sumOf(*both).area);
    return 0;
}
