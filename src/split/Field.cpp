// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Field.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;

constexpr float kFar = 1e12F;
constexpr int kNoStep = 1 << 20;

/// One row or column of a distance transform: the lower hull of parabolas.
class Hull {
  public:
    explicit Hull(int most) : m_of(static_cast<size_t>(most)), m_from(static_cast<size_t>(most) + 1) {}

    template <class Get, class Put>
    void run(int n, Get get, Put put) {
        int last = -1;
        for (int q = 0; q < n; ++q) {
            const double f = get(q);
            if (f >= kFar)
                continue;
            double from = -std::numeric_limits<double>::infinity();
            while (last >= 0) {
                const int p = m_of[static_cast<size_t>(last)];
                from = ((f + double(q) * q) - (get(p) + double(p) * p)) / (2.0 * (q - p));
                if (from > m_from[static_cast<size_t>(last)])
                    break;
                from = -std::numeric_limits<double>::infinity();
                --last;
            }
            ++last;
            m_of[static_cast<size_t>(last)] = q;
            m_from[static_cast<size_t>(last)] = from;
        }
        for (int q = 0, k = 0; q < n; ++q) {
            if (last < 0) {
                put(q, kFar);
                continue;
            }
            while (k < last && m_from[static_cast<size_t>(k) + 1] < q)
                ++k;
            const int p = m_of[static_cast<size_t>(k)];
            put(q, static_cast<float>(double(q - p) * (q - p) + get(p)));
        }
    }

  private:
    std::vector<int> m_of;
    std::vector<double> m_from;
};

} // namespace

Cells::Cells(const geometry::Box& box, double cellMm)
    : m_box(box), m_cell(cellMm), m_across(std::max(1, static_cast<int>(std::ceil(box.width() / cellMm)))),
      m_down(std::max(1, static_cast<int>(std::ceil(box.height() / cellMm)))) {}

size_t Cells::cellAt(Point p) const {
    const int x = std::clamp(static_cast<int>((p.x - m_box.least.x) / m_cell), 0, m_across - 1);
    const int y = std::clamp(static_cast<int>((p.y - m_box.least.y) / m_cell), 0, m_down - 1);
    return static_cast<size_t>(y) * static_cast<size_t>(m_across) + static_cast<size_t>(x);
}

void Cells::fill(const Polygons& rings, std::vector<uint8_t>& cells, uint8_t value) const {
    std::vector<std::vector<float>> crossings(static_cast<size_t>(m_down));
    for (const Polygon& ring : rings)
        for (size_t i = 0; i < ring.size(); ++i) {
            Point a = ring[i] - m_box.least, b = ring[(i + 1) % ring.size()] - m_box.least;
            if (a.y > b.y)
                std::swap(a, b);
            const int first = std::max(0, static_cast<int>(std::ceil(a.y / m_cell - 0.5)));
            for (int row = first; row < m_down && (row + 0.5) * m_cell < b.y; ++row)
                crossings[static_cast<size_t>(row)].push_back(
                    static_cast<float>(a.x + (b.x - a.x) * ((row + 0.5) * m_cell - a.y) / (b.y - a.y)));
        }
    for (int row = 0; row < m_down; ++row) {
        auto& at = crossings[static_cast<size_t>(row)];
        std::sort(at.begin(), at.end());
        for (size_t i = 0; i + 1 < at.size(); i += 2) {
            const int from = std::max(0, static_cast<int>(std::ceil(at[i] / m_cell - 0.5)));
            for (int x = from; x < m_across && (x + 0.5) * m_cell < at[i + 1]; ++x) {
                uint8_t& cell =
                    cells[static_cast<size_t>(row) * static_cast<size_t>(m_across) + static_cast<size_t>(x)];
                cell = static_cast<uint8_t>(cell | value);
            }
        }
    }
}

void Cells::draw(Point a, Point b, std::vector<uint8_t>& cells, uint8_t value) const {
    const double step = m_cell / 3;
    const int steps = static_cast<int>(geometry::distance(a, b) / step) + 1;
    for (int i = 0; i <= steps; ++i) {
        const Point p = a + (b - a) * (double(i) / steps);
        if (m_box.contains(p))
            cells[cellAt(p)] = value;
    }
}

/// Of every cell the steps down or up to the nearest cell of a value in its column, at most `most`; from an edge it is
/// `atEdge` steps to the first one. Row by row, as the cells lie in memory.
std::vector<int> Cells::stepsAlongColumns(const std::vector<uint8_t>& cells, bool value, int atEdge,
                                          int most) const {
    const auto across = static_cast<size_t>(m_across), down = static_cast<size_t>(m_down);
    std::vector<int> out(count(), most);
    std::vector<int> far(across, atEdge - 1);
    const auto step = [&](size_t y) {
        for (size_t x = 0; x < across; ++x) {
            const size_t i = y * across + x;
            far[x] = (cells[i] != 0) == value ? 0 : std::min(far[x] + 1, most);
            out[i] = std::min(out[i], far[x]);
        }
    };
    for (size_t y = 0; y < down; ++y)
        step(y);
    std::fill(far.begin(), far.end(), atEdge - 1);
    for (size_t y = down; y-- > 0;)
        step(y);
    return out;
}

std::vector<float> Cells::distances(const std::vector<uint8_t>& cells, bool isBounded) const {
    std::vector<float> out(count());
    const auto across = static_cast<size_t>(m_across);
    Hull hull(m_across + 2);
    std::vector<float> line(across + 2);
    const int edge = isBounded ? 1 : 0; // a row of nothing around
    const std::vector<int> steps = stepsAlongColumns(cells, false, isBounded ? 1 : kNoStep, kNoStep);
    for (size_t i = 0; i < out.size(); ++i)
        out[i] = steps[i] >= kNoStep ? kFar : static_cast<float>(steps[i]) * static_cast<float>(steps[i]);
    for (int y = 0; y < m_down; ++y) {
        float* row = out.data() + static_cast<size_t>(y) * across;
        std::copy(row, row + across, line.begin() + edge);
        line[0] = isBounded ? 0 : line[0];
        line[across + static_cast<size_t>(edge)] = isBounded ? 0 : line[across + static_cast<size_t>(edge)];
        hull.run(
            m_across + 2 * edge, [&](int q) -> double { return line[static_cast<size_t>(q)]; },
            [&](int q, float d) {
                if (q >= edge && q - edge < m_across)
                    row[q - edge] = d;
            });
    }
    for (float& d : out)
        d = d >= kFar ? kFar : static_cast<float>(std::sqrt(d) * m_cell);
    return out;
}

std::vector<uint8_t> Cells::near(const std::vector<uint8_t>& cells, bool value, double radiusMm,
                                 bool isBounded) const {
    const auto across = static_cast<size_t>(m_across), down = static_cast<size_t>(m_down);
    const double radius = radiusMm / m_cell;
    const int most = static_cast<int>(std::ceil(radius));
    const std::vector<int> steps = stepsAlongColumns(cells, value, isBounded ? 1 : most, most);
    // A cell so many steps away reaches that far along the row.
    std::vector<int> reach(static_cast<size_t>(most) + 1, -1);
    for (int h = 0; h < most; ++h)
        if (const double left = radius * radius - double(h) * h; left > 0)
            reach[static_cast<size_t>(h)] = static_cast<int>(std::ceil(std::sqrt(left))) - 1;
    std::vector<uint8_t> out(count(), 0);
    std::vector<int> change(across + 1);
    for (size_t y = 0; y < down; ++y) {
        std::fill(change.begin(), change.end(), 0);
        const auto mark = [&](int from, int to) {
            from = std::max(from, 0);
            to = std::min(to, m_across - 1);
            if (from <= to) {
                ++change[static_cast<size_t>(from)];
                --change[static_cast<size_t>(to) + 1];
            }
        };
        for (size_t x = 0; x < across; ++x)
            if (const auto h = static_cast<size_t>(steps[y * across + x]);
                h < reach.size() - 1 && reach[h] >= 0)
                mark(static_cast<int>(x) - reach[h], static_cast<int>(x) + reach[h]);
        if (isBounded) {
            mark(0, reach[0] - 1);
            mark(m_across - reach[0], m_across - 1);
        }
        for (size_t x = 0, sum = 0; x < across; ++x) {
            sum += static_cast<size_t>(change[x]);
            out[y * across + x] = sum != 0 ? 1 : 0;
        }
    }
    return out;
}

std::vector<uint8_t> Cells::opened(const std::vector<uint8_t>& cells, double radiusMm) const {
    const std::vector<uint8_t> shell = near(cells, false, radiusMm, true);
    std::vector<uint8_t> out = near(shell, false, radiusMm, false);
    for (size_t i = 0; i < out.size(); ++i)
        out[i] = cells[i] && out[i] ? 1 : 0;
    return out;
}

std::vector<std::vector<size_t>> Cells::groups(const std::vector<uint8_t>& cells) const {
    std::vector<std::vector<size_t>> out;
    std::vector<uint8_t> left = cells;
    const auto across = static_cast<size_t>(m_across);
    for (size_t start = 0; start < left.size(); ++start) {
        if (!left[start])
            continue;
        std::vector<size_t> group{start};
        left[start] = 0;
        for (size_t i = 0; i < group.size(); ++i) {
            const size_t at = group[i];
            const auto visit = [&](bool isThere, size_t next) {
                if (isThere && left[next]) {
                    left[next] = 0;
                    group.push_back(next);
                }
            };
            visit(at % across > 0, at - 1);
            visit(at % across + 1 < across, at + 1);
            visit(at >= across, at - across);
            visit(at + across < left.size(), at + across);
        }
        out.push_back(std::move(group));
    }
    return out;
}

Field::Field(const Polygons& shape, const std::vector<Polygons>& cover,
             const std::vector<Polygons>& keptWhole, double thinMm) {
    constexpr double kMostCells = 0.8e6;
    const geometry::Box box = geometry::bounds(shape).grownBy(1);
    // Small cells beside thin places, and never more of them than are looked through in a tenth of a second.
    const double cell =
        std::max(std::min(0.4, thinMm / 5), std::sqrt(box.width() * box.height() / kMostCells));
    m_cells = Cells(box, cell);
    std::vector<uint8_t> inside(m_cells.count(), 0);
    m_cells.fill(shape, inside, 1);
    m_clearance = m_cells.distances(inside, true);
    m_widest = *std::max_element(m_clearance.begin(), m_clearance.end());
    const std::vector<uint8_t> open = m_cells.opened(inside, thinMm / 2 * 1.03);
    std::vector<uint8_t> thin(m_cells.count());
    for (size_t i = 0; i < thin.size(); ++i)
        thin[i] = inside[i] && !open[i] ? 1 : 0;
    m_marks.assign(m_cells.count(), 0);
    const double leastCells = thinMm / 2 * thinMm / 2 / (cell * cell); // less is the rest of a corner
    for (const std::vector<size_t>& group : m_cells.groups(thin))
        if (static_cast<double>(group.size()) >= leastCells)
            for (const size_t i : group)
                m_marks[i] |= kThin;
    for (const Polygons& one : cover)
        m_cells.fill(one, m_marks, kHidden);
    for (const Polygons& one : keptWhole)
        m_cells.fill(one, m_marks, kKept);
    m_keepsAny = !keptWhole.empty();
    for (size_t i = 0; i < inside.size(); ++i) {
        m_area += inside[i] * cell * cell;
        m_hidden += inside[i] && (m_marks[i] & kHidden) != 0 ? cell * cell : 0;
    }
}

} // namespace thinline::split
