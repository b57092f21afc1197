// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The section is computed anew at every move of the mouse while somebody drags the line, so it must be cheap with
// thousands of pieces. Most are told by their frame: a line misses a box whose four corners lie on one side of it. The
// others are flattened once and then crossed like polygons: along the line, card begins and ends at every second
// crossing, openings included, because an outline is crossed as often going in as coming out. A corner that only touches
// the line is counted for the side above it, so it counts twice or not at all.
#include "design/Section.h"

#include <algorithm>

namespace thinline::design {
namespace {

constexpr double kFlatMm = 0.01;

template <class T, class Make>
std::shared_ptr<const T> known(Remembered<T>& memory, const std::shared_ptr<const Body>& body, Make make) {
    if (auto found = memory.find(body))
        return found;
    auto made = std::make_shared<const T>(make());
    memory.keep(body, made);
    return made;
}

/// Where a line crosses rings, ascending.
std::vector<double> crossingsOf(const SectionLine& line, const geometry::Polygons& rings) {
    const geometry::Point along = line.along();
    std::vector<double> out;
    for (const geometry::Polygon& ring : rings)
        for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
            const geometry::Point a = ring[j] - line.through, b = ring[i] - line.through;
            const double sideA = cross(along, a), sideB = cross(along, b);
            if ((sideA >= 0) == (sideB >= 0))
                continue;
            const double share = sideA / (sideA - sideB);
            out.push_back(dot(along, a + (b - a) * share));
        }
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace

std::optional<std::pair<double, double>> within(const SectionLine& line, const geometry::Box& box) {
    if (box.isEmpty())
        return std::nullopt;
    const geometry::Point along = line.along();
    double from = -std::numeric_limits<double>::infinity(), to = -from;
    const auto clip = [&](double start, double step, double least, double most) {
        constexpr double kLevel = 1e-12;
        if (std::abs(step) < kLevel) {
            if (start < least || start > most)
                to = -std::numeric_limits<double>::infinity();
            return;
        }
        const double a = (least - start) / step, b = (most - start) / step;
        from = std::max(from, std::min(a, b));
        to = std::min(to, std::max(a, b));
    };
    clip(line.through.x, along.x, box.least.x, box.most.x);
    clip(line.through.y, along.y, box.least.y, box.most.y);
    return from < to ? std::optional(std::pair(from, to)) : std::nullopt;
}

SectionLine acrossMiddle(const geometry::Box& box) {
    return {box.isEmpty() ? geometry::Point{} : box.centre(), 0};
}

Section sectionOf(const Stack& stack, const Heights& heights, const SectionLine& line,
                  SectionMemory& memory) {
    Section out;
    geometry::Box all;
    for (size_t i = 0; i < stack.pieces.size(); ++i) {
        const auto& body = stack.pieces[i].piece.body;
        const auto box = known(memory.boxes, body, [&] { return geometry::bounds(body->shape); });
        all.include(*box);
        if (!within(line, *box))
            continue;
        const auto rings = known(memory.rings, body, [&] { return geometry::flatten(body->shape, kFlatMm); });
        const std::vector<double> crossings = crossingsOf(line, *rings);
        for (size_t k = 0; k + 1 < crossings.size(); k += 2)
            if (crossings[k] < crossings[k + 1])
                out.spans.push_back({i, crossings[k], crossings[k + 1], heights.of[i]});
    }
    if (const auto across = within(line, all))
        std::tie(out.fromMm, out.toMm) = *across;
    return out;
}

} // namespace thinline::design
