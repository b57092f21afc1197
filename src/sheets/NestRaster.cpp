// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/NestRaster.h"

#include <algorithm>
#include <cmath>

namespace thinline::sheets {

using geometry::Box;
using geometry::Point;

namespace {
constexpr int kPad = 24; // columns to either side, for masks that reach over the edge
}

NestField::NestField(const Box& box, double cellMm)
    : m_box(box), m_cell(cellMm), m_across(std::max(1, static_cast<int>(std::ceil(box.width() / cellMm)))),
      m_down(std::max(1, static_cast<int>(std::ceil(box.height() / cellMm)))), m_pad(kPad),
      m_cells(static_cast<std::size_t>(m_across + 2 * kPad) * static_cast<std::size_t>(m_down), 0),
      m_sums(static_cast<std::size_t>(m_across + 2 * kPad + 1) * static_cast<std::size_t>(m_down), 0) {}

NestMask NestField::maskOf(const NestTable& form, double turnRad, double withinMm) const {
    const NestPose pose = NestPose::of({}, turnRad);
    const Box box = form.boxAt(turnRad).grownBy(withinMm);
    NestMask out;
    const int top = static_cast<int>(std::floor(box.least.y / m_cell)),
              bottom = static_cast<int>(std::ceil(box.most.y / m_cell)),
              left = static_cast<int>(std::floor(box.least.x / m_cell)),
              right = static_cast<int>(std::ceil(box.most.x / m_cell));
    for (int y = top; y <= bottom; ++y) {
        int begin = 0;
        bool isIn = false;
        for (int x = left; x <= right + 1; ++x) {
            const double px = x * m_cell, py = y * m_cell;
            const bool isNow = x <= right && form.distanceAt(pose.cos * px + pose.sin * py,
                                                             -pose.sin * px + pose.cos * py) < withinMm;
            if (isNow && !isIn)
                begin = x;
            if (isIn && !isNow)
                out.runs.push_back({y, begin, x});
            isIn = isNow;
        }
    }
    return out;
}

std::vector<NestField::Covered> NestField::coverOf(const NestTable& form, const NestPose& pose,
                                                   double withinMm) const {
    Box box = form.boxAt(pose.turnRad).grownBy(withinMm);
    box = {box.least + pose.at, box.most + pose.at};
    std::vector<Covered> out;
    const int left = std::max(0, static_cast<int>((box.least.x - m_box.least.x) / m_cell)),
              right = std::min(m_across - 1, static_cast<int>((box.most.x - m_box.least.x) / m_cell)),
              top = std::max(0, static_cast<int>((box.least.y - m_box.least.y) / m_cell)),
              bottom = std::min(m_down - 1, static_cast<int>((box.most.y - m_box.least.y) / m_cell));
    for (int y = top; y <= bottom; ++y)
        for (int x = left; x <= right; ++x) {
            const double px = m_box.least.x + (x + 0.5) * m_cell - pose.at.x,
                         py = m_box.least.y + (y + 0.5) * m_cell - pose.at.y;
            const double d = form.distanceAt(pose.cos * px + pose.sin * py, -pose.sin * px + pose.cos * py);
            if (d < withinMm)
                out.push_back({y * (m_across + 2 * m_pad) + m_pad + x,
                               static_cast<float>(1 + std::min(3.0, 0.5 * (withinMm - d) / m_cell))});
        }
    return out;
}

void NestField::clear() {
    std::fill(m_cells.begin(), m_cells.end(), 0.f);
}
void NestField::add(const std::vector<Covered>& covered, float weight) {
    for (const Covered& one : covered)
        m_cells[static_cast<std::size_t>(one.cell)] += weight * one.value;
}
void NestField::sumRows() {
    const int wide = m_across + 2 * m_pad;
    for (int y = 0; y < m_down; ++y) {
        const float* from = &m_cells[static_cast<std::size_t>(y) * static_cast<std::size_t>(wide)];
        float* to = &m_sums[static_cast<std::size_t>(y) * static_cast<std::size_t>(wide + 1)];
        float sum = 0;
        for (int x = 0; x < wide; ++x) {
            to[x] = sum;
            sum += from[x];
        }
        to[wide] = sum;
    }
}

NestField::Range NestField::columns(const Box& extents) const {
    const double low = -extents.least.x / m_cell - 0.5,
                 high = (m_box.width() - extents.most.x) / m_cell - 0.5;
    return {static_cast<int>(std::ceil(low - 1e-9)), static_cast<int>(std::floor(high + 1e-9))};
}
NestField::Range NestField::rowsFor(const Box& extents, double lengthMm) const {
    const double low = -extents.least.y / m_cell - 0.5, high = (lengthMm - extents.most.y) / m_cell - 0.5;
    return {static_cast<int>(std::ceil(low - 1e-9)), static_cast<int>(std::floor(high + 1e-9))};
}

std::optional<NestField::Found> NestField::least(const NestMask& mask, const Box& extents, double lengthMm) {
    Range xs = columns(extents), ys = rowsFor(extents, lengthMm);
    // What is wider than a cell less than the sheet has no cell of its own: its only place is told by the caller's clamp.
    xs.last = std::max(xs.first, xs.last);
    ys.last = std::max(ys.first, ys.last);
    const int wide = m_across + 2 * m_pad + 1, count = xs.last - xs.first + 1;
    if (extents.width() > m_box.width() + 1e-6 || extents.height() > lengthMm + 1e-6)
        return std::nullopt;
    Found best{{}, INFINITY};
    m_row.resize(static_cast<std::size_t>(count));
    for (int y = ys.first; y <= ys.last; ++y) {
        std::fill(m_row.begin(), m_row.end(), 0.f);
        for (const NestMask::Run& run : mask.runs) {
            const int row = y + run.row;
            if (row < 0 || row >= m_down)
                continue;
            const int begin = std::max(xs.first + run.begin, -m_pad) + m_pad,
                      end = std::min(xs.first + run.end, m_across + m_pad) + m_pad;
            const float* sums = &m_sums[static_cast<std::size_t>(row) * static_cast<std::size_t>(wide)];
            const int room = std::min({count, wide - begin, wide - end});
            const float *a = sums + begin, *b = sums + end;
            float* into = m_row.data();
            for (int x = 0; x < room; ++x)
                into[x] += b[x] - a[x];
        }
        for (int x = 0; x < count; ++x)
            if (m_row[static_cast<std::size_t>(x)] < best.sum)
                best = {m_box.least + Point{(xs.first + x + 0.5) * m_cell, (y + 0.5) * m_cell},
                        m_row[static_cast<std::size_t>(x)]};
    }
    return best;
}

void NestField::take(const std::vector<Covered>& covered) {
    const std::size_t wide = static_cast<std::size_t>(m_across + 2 * m_pad),
                      high = static_cast<std::size_t>(m_down);
    if (m_lastTaken.empty()) {
        m_lastTaken.assign((wide + 1) * high, -1);
        m_isTaken.assign(wide * high, false);
    }
    std::size_t first = high, last = 0;
    for (const Covered& one : covered) {
        const auto cell = static_cast<std::size_t>(one.cell);
        m_isTaken[cell] = true;
        first = std::min(first, cell / wide);
        last = std::max(last, cell / wide + 1);
    }
    for (std::size_t y = first; y < last; ++y) {
        int before = -1;
        for (std::size_t x = 0; x < wide; ++x) {
            m_lastTaken[y * (wide + 1) + x] = before;
            before = m_isTaken[y * wide + x] ? static_cast<int>(x) : before;
        }
        m_lastTaken[y * (wide + 1) + wide] = before;
    }
}

/// A run that meets something is clear of it no sooner than when its beginning has passed it: so far is gone at once.
std::optional<NestField::Found> NestField::firstFree(const NestMask& mask, const Box& extents, int fromRow,
                                                     double aboveMm) const {
    const Range xs = columns(extents);
    Range ys = rowsFor(extents, m_box.height());
    if (aboveMm < INFINITY)
        ys.last = std::min(ys.last, static_cast<int>((aboveMm - m_box.least.y) / m_cell - 0.5));
    const int wide = m_across + 2 * m_pad + 1;
    for (int y = std::max(ys.first, fromRow); y <= ys.last; ++y)
        for (int x = xs.first; x <= xs.last;) {
            int jump = 0;
            for (const NestMask::Run& run : mask.runs) {
                const int row = y + run.row;
                if (row < 0 || row >= m_down || m_lastTaken.empty())
                    continue;
                const int begin = std::clamp(x + run.begin, -m_pad, m_across + m_pad) + m_pad,
                          end = std::clamp(x + run.end, -m_pad, m_across + m_pad) + m_pad;
                const int last = m_lastTaken[static_cast<std::size_t>(row) * static_cast<std::size_t>(wide) +
                                             static_cast<std::size_t>(end)];
                if (last >= begin) {
                    jump = last - begin + 1;
                    break;
                }
            }
            if (jump == 0)
                return Found{m_box.least + Point{(x + 0.5) * m_cell, (y + 0.5) * m_cell}, 0};
            x += jump;
        }
    return std::nullopt;
}

} // namespace thinline::sheets
