// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The largest upright rectangle on a piece of card.
//
// Exact solutions exist for polygons, but they are long and our outlines are curves anyway. What people
// want it for (is there room for a word, a label, a hinge?) needs a rectangle that is surely inside and
// nearly the largest. So it is found in two steps:
//
// 1. On a grid. The piece is covered by at most 192 x 192 cells; a cell is free when no edge comes near it
//    and its middle is card. The largest rectangle of free cells is found row by row: over each row stands
//    a skyline that says how many free cells lie above every column, and a stack of rising columns gives
//    the largest rectangle under it in one pass. That is O(cells), whatever the shape.
// 2. By touching. Each side in turn is moved outwards by halving, until the next step would meet an edge.
//    That gains up to two cells a side and makes the common case, a plain rectangle, exact within the
//    flattening.
//
// Sides are moved one after the other, so the result is a rectangle that cannot grow, not always the
// largest there is: in a ring of two equal places it is one of them, and between many small steps a
// slightly larger one may exist that has another shape. It is never larger than what is there.
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace thinline::geometry {
namespace {

constexpr int kCells = 192; ///< along the longer side

class Grid {
  public:
    Grid(const Box& box, const Polygons& rings)
        : m_box(box), m_cell(std::max(box.width(), box.height()) / kCells),
          m_across(std::max(1, static_cast<int>(box.width() / m_cell))),
          m_down(std::max(1, static_cast<int>(box.height() / m_cell))), m_cellWidth(box.width() / m_across),
          m_cellHeight(box.height() / m_down), m_isTaken(static_cast<size_t>(m_across * m_down), 0) {
        for (const Polygon& ring : rings)
            for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
                takeAlong(ring[j], ring[i]);
    }

    double largerSide() const { return std::max(m_cellWidth, m_cellHeight); }

    /// Takes the cells whose middle is not card; false when it was cancelled.
    bool takeOutside(const Polygons& rings, const base::Progress& progress) {
        for (int y = 0; y < m_down; ++y) {
            if (progress.isCancelled())
                return false;
            for (int x = 0; x < m_across; ++x)
                if (!at(x, y) && !contains(rings, corner(x + 0.5, y + 0.5)))
                    at(x, y) = 1;
        }
        return true;
    }

    /// The largest rectangle of free cells; empty when none is free.
    Box largest() {
        std::vector<int> free(static_cast<size_t>(m_across) + 1,
                              0); // above each column, and nothing at the end
        double most = 0;
        Box best;
        for (int y = 0; y < m_down; ++y) {
            for (int x = 0; x < m_across; ++x)
                free[static_cast<size_t>(x)] = at(x, y) ? 0 : free[static_cast<size_t>(x)] + 1;
            std::vector<int> rising;
            for (int x = 0; x <= m_across; ++x) {
                const auto height = [&](int i) { return free[static_cast<size_t>(i)]; };
                while (!rising.empty() && height(rising.back()) >= height(x)) {
                    const int top = height(rising.back());
                    rising.pop_back();
                    const int left = rising.empty() ? 0 : rising.back() + 1;
                    if (const double size = (x - left) * m_cellWidth * top * m_cellHeight; size > most) {
                        most = size;
                        best = {corner(left, y + 1 - top), corner(x, y + 1)};
                    }
                }
                rising.push_back(x);
            }
        }
        return most > 0 ? best : Box{};
    }

  private:
    char& at(int x, int y) { return m_isTaken[static_cast<size_t>(y * m_across + x)]; }
    Point corner(double x, double y) const {
        return {m_box.least.x + x * m_cellWidth, m_box.least.y + y * m_cellHeight};
    }

    void takeAlong(Point from, Point to) {
        const int steps =
            static_cast<int>(distance(from, to) / (0.25 * std::min(m_cellWidth, m_cellHeight))) + 1;
        for (int k = 0; k <= steps; ++k) {
            const Point p = from + (to - from) * (static_cast<double>(k) / steps);
            const double fx = (p.x - m_box.least.x) / m_cellWidth, fy = (p.y - m_box.least.y) / m_cellHeight;
            // The edge may slip through a corner between two looks: the neighbours it comes near count too.
            for (double dx : {-0.15, 0.15})
                for (double dy : {-0.15, 0.15})
                    at(std::clamp(static_cast<int>(fx + dx), 0, m_across - 1),
                       std::clamp(static_cast<int>(fy + dy), 0, m_down - 1)) = 1;
        }
    }

    Box m_box;
    double m_cell;
    int m_across, m_down;
    double m_cellWidth, m_cellHeight;
    std::vector<char> m_isTaken;
};

/// An edge misses a box when it lies beyond one side of it, or all corners of the box lie on one side of the edge.
bool meets(const Box& box, Point p, Point q) {
    if (std::max(p.x, q.x) < box.least.x || std::min(p.x, q.x) > box.most.x ||
        std::max(p.y, q.y) < box.least.y || std::min(p.y, q.y) > box.most.y)
        return false;
    int sides = 0;
    for (Point corner : {box.least, Point{box.most.x, box.least.y}, box.most, Point{box.least.x, box.most.y}})
        sides += cross(q - p, corner - p) > 0 ? 1 : -1;
    return std::abs(sides) < 4;
}

bool meetsAny(const Box& box, const Polygons& rings) {
    for (const Polygon& ring : rings)
        for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
            if (meets(box, ring[j], ring[i]))
                return true;
    return false;
}

/// Moves each side outwards by up to `reachMm` until it would come nearer than `hairMm` to an edge.
Box grownUntilItTouches(Box box, const Polygons& rings, double reachMm, double hairMm) {
    constexpr int kHalvings = 30;
    for (double* side : {&box.least.x, &box.most.x, &box.least.y, &box.most.y}) {
        const bool isLow = side == &box.least.x || side == &box.least.y;
        double inside = *side, outside = *side + (isLow ? -reachMm : reachMm);
        for (int i = 0; i < kHalvings; ++i) {
            *side = (inside + outside) / 2;
            (meetsAny(box.grownBy(hairMm), rings) ? outside : inside) = *side;
        }
        *side = inside;
    }
    return box;
}

} // namespace

base::Result<Box> largestRectangleInside(const Shape& shape, const base::Progress& progress) {
    const Box box = bounds(shape);
    if (box.isEmpty() || !(box.width() > 0) || !(box.height() > 0))
        return Box{};
    const double flatMm = std::max(box.width(), box.height()) / kCells / 50;
    const Polygons rings = flatten(shape, std::max(1e-6, flatMm));
    Grid grid(box, rings);
    if (!grid.takeOutside(rings, progress))
        return base::cancelled();
    const Box found = grid.largest();
    if (!(found.width() > 0) || !(found.height() > 0))
        return Box{};
    return grownUntilItTouches(found, rings, 2 * grid.largerSide(), flatMm + 1e-6);
}

} // namespace thinline::geometry
