// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Leaves.h"

#include "geometry/Parting.h"

#include <algorithm>
#include <map>
#include <optional>
#include <tuple>

namespace thinline::design {
namespace {

using geometry::Point;

/// One step of a leaf's border.
struct Border {
    size_t leaf;
    Point from, to;
    bool isLine;
    double lengthMm;
    Point middle;
};

std::vector<Border> bordersOf(const std::vector<geometry::Shape>& leaves) {
    std::vector<Border> out;
    for (size_t leaf = 0; leaf < leaves.size(); ++leaf) {
        const auto take = [&](const geometry::Contour& contour) {
            Point at = contour.start;
            for (const geometry::Segment& segment : contour.segments) {
                const geometry::Line step{at, {segment}};
                out.push_back({leaf, at, segment.end, segment.isLine, geometry::contourLength(step),
                               geometry::middleOf(step)});
                at = segment.end;
            }
        };
        take(leaves[leaf].outline);
        for (const geometry::Contour& opening : leaves[leaf].openings)
            take(opening);
    }
    return out;
}

std::optional<size_t> foldAt(const std::vector<geometry::Line>& folds,
                             const std::vector<geometry::Box>& boxes, Point p) {
    double nearest = 0.001;
    std::optional<size_t> out;
    for (size_t i = 0; i < folds.size(); ++i)
        if (const double away = boxes[i].contains(p) ? geometry::distanceTo(folds[i], p) : 1;
            away < nearest) {
            nearest = away;
            out = i;
        }
    return out;
}

/// Takes one more step of a border into a hinge: its ends are those farthest apart.
void lengthen(Leaves::Hinge& hinge, const Border& step) {
    const Point along = hinge.to - hinge.from;
    const double long2 = geometry::dot(along, along);
    for (const Point p : {step.from, step.to}) {
        const double place = geometry::dot(p - hinge.from, along) / long2;
        if (std::abs(geometry::cross(along, p - hinge.from)) > 1e-6 * long2)
            hinge.isStraight = false;
        if (place < 0)
            hinge.from = p;
        else if (place > 1)
            hinge.to = p;
    }
    hinge.lengthMm += step.lengthMm;
    hinge.isStraight = hinge.isStraight && step.isLine;
}

} // namespace

base::Result<Leaves> leavesOf(const geometry::Shape& shape, const std::vector<geometry::Line>& folds,
                              const base::Progress& progress) {
    auto parted = geometry::partedBy(shape, folds, progress);
    if (!parted)
        return parted.error();
    Leaves out{parted.take().parts, {}};
    // Neighbours share their border to the bit: the same step, run the other way.
    const std::vector<Border> borders = bordersOf(out.areas);
    std::vector<geometry::Box> boxes;
    for (const geometry::Line& fold : folds)
        boxes.push_back(geometry::hullBox(fold).grownBy(0.01));
    using Key = std::tuple<double, double, double, double>;
    std::map<Key, size_t> known;
    for (size_t i = 0; i < borders.size(); ++i)
        known[{borders[i].from.x, borders[i].from.y, borders[i].to.x, borders[i].to.y}] = i;
    std::map<std::tuple<size_t, size_t, size_t>, Leaves::Hinge> hinges;
    for (const Border& step : borders) {
        const auto other = known.find({step.to.x, step.to.y, step.from.x, step.from.y});
        if (other == known.end() || borders[other->second].leaf <= step.leaf)
            continue;
        const size_t neighbour = borders[other->second].leaf;
        const auto fold = foldAt(folds, boxes, step.middle);
        if (!fold)
            continue;
        const auto [at, isNew] = hinges.try_emplace(
            {step.leaf, neighbour, *fold},
            Leaves::Hinge{step.leaf, neighbour, *fold, step.from, step.to, step.lengthMm, step.isLine});
        if (!isNew)
            lengthen(at->second, step);
    }
    for (const auto& [key, hinge] : hinges)
        out.hinges.push_back(hinge);
    return out;
}

} // namespace thinline::design
