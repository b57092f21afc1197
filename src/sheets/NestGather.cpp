// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/NestGather.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;
using Tables = std::vector<std::shared_ptr<const NestTable>>;

class Gathering {
  public:
    Gathering(const NestTask& task, const Tables& tables, NestLayout layout, const base::Progress& progress)
        : m_task(task), m_tables(tables), m_layout(std::move(layout)), m_progress(progress) {
        m_inBin.resize(m_layout.bins);
        for (std::size_t i = 0; i < m_layout.places.size(); ++i) {
            m_inBin[m_layout.places[i].bin].push_back(i);
            m_boxes.push_back(boxOf(i, m_layout.places[i].pose.at));
        }
    }

    NestLayout run() {
        constexpr int kSweeps = 3; // what lay in the way has gone on by then
        for (int sweep = 0; sweep < kSweeps; ++sweep)
            for (std::vector<std::size_t>& in : m_inBin) {
                std::stable_sort(in.begin(), in.end(), [this](std::size_t a, std::size_t b) {
                    return m_boxes[a].least.x + m_boxes[a].least.y < m_boxes[b].least.x + m_boxes[b].least.y;
                });
                for (const std::size_t item : in)
                    if (!m_task.items[item].pinnedBin && !m_progress.isCancelled())
                        push(item);
            }
        measureNest(m_task, m_tables, m_layout);
        return std::move(m_layout);
    }

  private:
    const NestTable& table(std::size_t item) const { return *m_tables[m_task.items[item].form]; }
    Box boxOf(std::size_t item, Point at) const {
        const Box box = table(item).boxAt(m_layout.places[item].pose.turnRad);
        return {box.least + at, box.most + at};
    }
    void push(std::size_t item) {
        constexpr double kFirstMm = 32, kLastMm = 0.05;
        static constexpr std::array<Point, 3> kWays{Point{0, -1}, {-1, 0}, {-0.5, -0.5}};
        for (const Point way : kWays)
            for (double step = kFirstMm; step >= kLastMm; step /= 2)
                while (moves(item, way * step))
                    ;
    }
    bool moves(std::size_t item, Point by) {
        NestPlace to = m_layout.places[item];
        to.pose.at = to.pose.at + by;
        const Box box = boxOf(item, to.pose.at), usable = m_task.usableOf(to.bin);
        if (box.least.x < usable.least.x || box.least.y < usable.least.y ||
            overWall(m_task, table(item), to, 0) > 0)
            return false;
        const Box near = box.grownBy(m_task.clearMm);
        for (const std::size_t other : m_inBin[to.bin])
            if (other != item && near.meets(m_boxes[other]) &&
                NestTable::overlap(table(item), to.pose, table(other), m_layout.places[other].pose,
                                   m_task.clearMm, 0) > 0)
                return false;
        m_layout.places[item] = to;
        m_boxes[item] = box;
        return true;
    }

    const NestTask& m_task;
    const Tables& m_tables;
    NestLayout m_layout;
    const base::Progress& m_progress;
    std::vector<std::vector<std::size_t>> m_inBin;
    std::vector<Box> m_boxes;
};

} // namespace

double travelMm(const NestTask& task, const NestLayout& layout) {
    std::vector<std::vector<Point>> left(layout.bins);
    for (const NestPlace& place : layout.places)
        left[place.bin].push_back(place.pose.at);
    double out = 0;
    for (std::size_t bin = 0; bin < left.size(); ++bin) {
        Point at = task.usableOf(bin).least;
        while (!left[bin].empty()) {
            const auto nearest = std::min_element(left[bin].begin(), left[bin].end(), [&](Point a, Point b) {
                return geometry::distance(at, a) < geometry::distance(at, b);
            });
            out += geometry::distance(at, *nearest);
            at = *nearest;
            *nearest = left[bin].back();
            left[bin].pop_back();
        }
    }
    return out;
}

NestLayout gathered(const NestTask& task, const Tables& tables, const NestLayout& layout,
                    const base::Progress& progress) {
    NestLayout out = Gathering(task, tables, layout, progress).run();
    const bool isShorter = travelMm(task, out) < travelMm(task, layout);
    return isShorter && !layout.isBetterThan(out) && isSound(task, tables, out, task.clearMm) ? out : layout;
}

} // namespace thinline::sheets
