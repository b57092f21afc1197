// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Free rectangles.
//
// The free part of a sheet is kept as all largest rectangles that are empty. They overlap, and that is the
// point: a new piece may lie in any of them, wherever the fit is tightest. Laying a piece cuts every
// rectangle it touches into up to four, and rectangles that lie within others are dropped.
//
// The tightest fit is the one that leaves the narrowest strip, since narrow strips are what gets wasted;
// among equals the upper left one, so that a layout does not depend on the order in which rectangles
// happen to be kept.
//
// Cost: O(f) to find a place among f free rectangles, O(f squared) to drop those within others. f grows
// with the pieces on a sheet; some hundreds are no burden.
//
// Source: the method of maximal rectangles, from memory.
#include "sheets/FreeSpace.h"

#include <tuple>

namespace thinline::sheets {
namespace {

using geometry::Box;

constexpr double kSlackMm = 1e-6;

bool holds(const Box& outer, const Box& inner) {
    return outer.least.x <= inner.least.x && outer.least.y <= inner.least.y && outer.most.x >= inner.most.x &&
           outer.most.y >= inner.most.y;
}

} // namespace

std::optional<FreeSpace::Spot> FreeSpace::find(double width, double height, bool mayTurn) const {
    std::optional<Spot> best;
    std::tuple<double, double, double> bestScore;
    for (const Box& free : m_free)
        for (const bool isTurned : {false, true}) {
            if (isTurned && !mayTurn)
                continue;
            const double restX = free.width() - (isTurned ? height : width),
                         restY = free.height() - (isTurned ? width : height);
            if (restX < -kSlackMm || restY < -kSlackMm)
                continue;
            const std::tuple score{std::min(restX, restY), free.least.y, free.least.x};
            if (!best || score < bestScore) {
                best = Spot{free.least, isTurned};
                bestScore = score;
            }
        }
    return best;
}

void FreeSpace::take(const Box& box) {
    std::vector<Box> next;
    for (const Box& free : m_free) {
        if (box.least.x >= free.most.x || box.most.x <= free.least.x || box.least.y >= free.most.y ||
            box.most.y <= free.least.y) {
            next.push_back(free);
            continue;
        }
        if (box.least.x > free.least.x)
            next.push_back({free.least, {box.least.x, free.most.y}});
        if (box.most.x < free.most.x)
            next.push_back({{box.most.x, free.least.y}, free.most});
        if (box.least.y > free.least.y)
            next.push_back({free.least, {free.most.x, box.least.y}});
        if (box.most.y < free.most.y)
            next.push_back({{free.least.x, box.most.y}, free.most});
    }
    m_free.clear();
    for (size_t i = 0; i < next.size(); ++i) {
        bool isNeeded = true;
        for (size_t k = 0; k < next.size() && isNeeded; ++k)
            isNeeded = k == i || !holds(next[k], next[i]) || (next[k] == next[i] && k > i);
        if (isNeeded)
            m_free.push_back(next[i]);
    }
}

} // namespace thinline::sheets
