// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Placing.h"

#include <numeric>

namespace thinline::geometry {
namespace {

double lowOf(const Box& box, Axis along) {
    return along == Axis::Horizontal ? box.least.x : box.least.y;
}
double highOf(const Box& box, Axis along) {
    return along == Axis::Horizontal ? box.most.x : box.most.y;
}

/// Indices of the boxes that have extent, from low to high.
std::vector<size_t> inOrder(const std::vector<Box>& boxes, Axis along) {
    std::vector<size_t> order;
    for (size_t i = 0; i < boxes.size(); ++i)
        if (!boxes[i].isEmpty())
            order.push_back(i);
    std::stable_sort(order.begin(), order.end(),
                     [&](size_t a, size_t b) { return lowOf(boxes[a], along) < lowOf(boxes[b], along); });
    return order;
}

} // namespace

base::Result<Transform> toSize(const Box& box, std::optional<double> widthMm,
                               std::optional<double> heightMm) {
    const auto refused = [](const char* what) {
        return base::Error{base::Code::InvalidArgument,
                           std::string("The ") + what +
                               " must be above zero, and so must what is to be sized."};
    };
    if (widthMm && (!(*widthMm > 0) || !std::isfinite(*widthMm) || !(box.width() > 0)))
        return refused("width");
    if (heightMm && (!(*heightMm > 0) || !std::isfinite(*heightMm) || !(box.height() > 0)))
        return refused("height");
    const double sx = widthMm ? *widthMm / box.width() : heightMm ? *heightMm / box.height() : 1;
    const double sy = heightMm ? *heightMm / box.height() : sx;
    return about(box.least, Transform::scale(sx, sy));
}

Transform about(Point fixed, const Transform& map) {
    return Transform::move(fixed * -1).then(map).then(Transform::move(fixed));
}

Transform turnAbout(Point fixed, double turnRad) {
    const double c = std::cos(turnRad), s = std::sin(turnRad);
    return about(fixed, {c, s, -s, c, 0, 0});
}

Transform mirrorAbout(Point through, Axis axis) {
    return about(through, axis == Axis::Vertical ? Transform::scale(-1, 1) : Transform::scale(1, -1));
}

std::vector<double> alignMoves(const std::vector<Box>& boxes, Axis along, Edge edge) {
    Box all;
    for (const Box& box : boxes)
        all.include(box);
    const auto place = [&](const Box& box) {
        return edge == Edge::Low    ? lowOf(box, along)
               : edge == Edge::High ? highOf(box, along)
                                    : (lowOf(box, along) + highOf(box, along)) / 2;
    };
    std::vector<double> moves;
    for (const Box& box : boxes)
        moves.push_back(box.isEmpty() ? 0 : place(all) - place(box));
    return moves;
}

Spacing evenSpacing(const std::vector<Box>& boxes, Axis along) {
    const std::vector<size_t> order = inOrder(boxes, along);
    if (order.size() < 2)
        return {std::vector<double>(boxes.size(), 0.0), 0};
    double filled = 0, high = highOf(boxes[order[0]], along);
    for (size_t i : order) {
        filled += highOf(boxes[i], along) - lowOf(boxes[i], along);
        high = std::max(high, highOf(boxes[i], along));
    }
    const double room = high - lowOf(boxes[order[0]], along) - filled;
    return spacingOf(boxes, along, room / static_cast<double>(order.size() - 1));
}

Spacing spacingOf(const std::vector<Box>& boxes, Axis along, double gapMm) {
    Spacing out{std::vector<double>(boxes.size(), 0.0), gapMm};
    const std::vector<size_t> order = inOrder(boxes, along);
    for (size_t k = 1; k < order.size(); ++k) {
        const Box &before = boxes[order[k - 1]], &here = boxes[order[k]];
        out.moves[order[k]] = highOf(before, along) + out.moves[order[k - 1]] + gapMm - lowOf(here, along);
    }
    return out;
}

} // namespace thinline::geometry
