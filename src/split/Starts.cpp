// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the search begins with: rectangles in a grid, in a chain along the shape, peeled off from its ends, and picked
// by chance.
#include "geometry/Measures.h"
#include "split/Search.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;
constexpr double kPi = std::numbers::pi;
constexpr int kMostPoses = 400; ///< of one beginning: a work of more parts is refused

} // namespace

Labelling Search::begunWith(const std::vector<Pose>& poses) {
    const int none = static_cast<int>(poses.size());
    std::vector<int> labels(m_net.triangles.size(), -1);
    std::vector<std::vector<int>> held;
    for (const Pose& pose : poses)
        held.push_back(heldBy(pose));
    for (int i = 0; i < none; ++i)
        for (const int t : held[static_cast<size_t>(i)])
            if (labels[static_cast<size_t>(t)] < 0)
                labels[static_cast<size_t>(t)] = i;
    for (size_t t = 0; t < labels.size(); ++t) // what no rectangle holds is on its own
        if (labels[t] < 0)
            labels[t] = none + static_cast<int>(t);
    // One round: a second one brings nothing that improving does not bring, and takes as long.
    for (int i = 0; i < none && !isCancelled(); ++i) {
        // Labels keep their rectangle: what one wins is called as it was.
        std::vector<int> next = expanded(labels, held[static_cast<size_t>(i)], i);
        const int taken = *std::max_element(labels.begin(), labels.end()) + 1;
        for (int& label : next)
            if (label == taken)
                label = i;
        labels = std::move(next);
    }
    return settled(labels);
}

void Search::addGrids(std::vector<Labelling>& out) {
    Polygon all;
    for (const Corner& corner : m_net.corners)
        all.push_back(corner.at);
    const Polygon hull = geometry::convexHull(std::move(all));
    // A square turned by a quarter is itself.
    const int turns = std::abs(m_room.widthMm - m_room.heightMm) < 1e-6 ? 6 : 12;
    for (int i = 0; i < turns && !isCancelled(); ++i) {
        const double turn = i * kPi / 12;
        const Extents e = extentsOf(hull, turn);
        const int columns = static_cast<int>(std::ceil(e.width() / m_room.widthMm)),
                  rows = static_cast<int>(std::ceil(e.height() / m_room.heightMm));
        for (const auto& [across, down] :
             {std::pair{columns, rows}, {columns + 1, rows}, {columns, rows + 1}}) {
            if (across * down > kMostPoses)
                continue;
            std::vector<Pose> poses;
            const auto at = [](double least, double most, double size, int k, int n) {
                return n == 1 ? (least + most) / 2
                              : least + size / 2 + (std::max(most - least, size) - size) * k / (n - 1);
            };
            for (int row = 0; row < down; ++row)
                for (int column = 0; column < across; ++column) {
                    const double x = at(e.leastX, e.mostX, m_room.widthMm, column, across);
                    const double y = at(e.leastY, e.mostY, m_room.heightMm, row, down);
                    const double cos = std::cos(turn), sin = std::sin(turn);
                    poses.push_back(Pose::at({x * cos - y * sin, x * sin + y * cos}, turn, m_room.widthMm,
                                             m_room.heightMm));
                }
            out.push_back(begunWith(poses));
        }
    }
}

void Search::addChains(std::vector<Labelling>& out) {
    Polygon all;
    for (const Corner& corner : m_net.corners)
        all.push_back(corner.at);
    const Polygon hull = geometry::convexHull(std::move(all));
    double axis = 0, narrow = 1e300;
    for (const double turn : turnsFor(hull))
        if (const double height = extentsOf(hull, turn).height(); height < narrow) {
            narrow = height;
            axis = turn;
        }
    const Extents e = extentsOf(hull, axis);
    const double longer = std::max(m_room.widthMm, m_room.heightMm);
    if (e.height() > longer * 1.2 || e.width() > 40 * longer)
        return; // two beside one another: that is a grid's work
    const int least = static_cast<int>(std::ceil(e.width() / std::hypot(m_room.widthMm, m_room.heightMm)));
    const int most = static_cast<int>(std::ceil(e.width() / std::min(m_room.widthMm, m_room.heightMm))) + 1;
    const double cos = std::cos(axis), sin = std::sin(axis);
    for (int count = std::max(2, least); count <= std::min(most, least + 3) && !isCancelled(); ++count)
        for (const double slant : {-45.0, -30.0, -15.0, 0.0, 15.0, 30.0, 45.0, 90.0}) {
            std::vector<Pose> poses;
            for (int i = 0; i < count; ++i) {
                const double from = e.leastX + e.width() * i / count,
                             to = e.leastX + e.width() * (i + 1) / count;
                double low = 1e300, high = -1e300;
                for (const Corner& corner : m_net.corners) {
                    const double x = corner.at.x * cos + corner.at.y * sin,
                                 y = corner.at.y * cos - corner.at.x * sin;
                    if (x < from || x > to)
                        continue;
                    low = std::min(low, y);
                    high = std::max(high, y);
                }
                const double x = (from + to) / 2,
                             y = low > high ? (e.leastY + e.mostY) / 2 : (low + high) / 2;
                poses.push_back(Pose::at({x * cos - y * sin, x * sin + y * cos}, axis + slant * kPi / 180,
                                         m_room.widthMm, m_room.heightMm));
            }
            out.push_back(begunWith(poses));
        }
}

double Search::connectedArea(int from, const std::vector<char>& isOpen, std::vector<int>& group) const {
    std::vector<char> left = isOpen;
    group.assign(1, from);
    left[static_cast<size_t>(from)] = 0;
    double area = 0;
    for (size_t i = 0; i < group.size(); ++i) {
        const auto t = static_cast<size_t>(group[i]);
        area += m_net.areaMm2[t];
        for (const int a : m_net.arcsOf[t]) {
            if (a < 0)
                continue;
            const Arc& arc = m_net.arcs[static_cast<size_t>(a)];
            const auto other = static_cast<size_t>(arc.left == static_cast<int>(t) ? arc.right : arc.left);
            if (left[other]) {
                left[other] = 0;
                group.push_back(static_cast<int>(other));
            }
        }
    }
    return area;
}

/// The rectangle that holds a triangle at one of its sides or corners and covers most of what hangs together with it.
std::optional<Pose> Search::bestAround(int end, const std::vector<char>& isUncovered, std::vector<int>& won) {
    static constexpr std::pair<double, double> kHeldAt[] = {
        {-0.5, -0.5}, {0.5, -0.5}, {-0.5, 0.5}, {0.5, 0.5}, {0.0, 0.5}, {0.0, -0.5}, {0.5, 0.0}, {-0.5, 0.0}};
    std::optional<Pose> best;
    double most = 0;
    std::vector<int> group;
    Polygon tip;
    for (const int c : m_net.triangles[static_cast<size_t>(end)])
        tip.push_back(m_net.corners[static_cast<size_t>(c)].at);
    for (int i = 0; i < 12; ++i) {
        const double turn = i * kPi / 12, cos = std::cos(turn), sin = std::sin(turn);
        const Extents e = extentsOf(tip, turn);
        const double slackX = m_room.widthMm - e.width(), slackY = m_room.heightMm - e.height();
        if (slackX < 0 || slackY < 0)
            continue;
        for (const auto& [fx, fy] : kHeldAt) {
            const double x = (e.leastX + e.mostX) / 2 + fx * slackX,
                         y = (e.leastY + e.mostY) / 2 + fy * slackY;
            const Pose pose = Pose::at({x * cos - y * sin, x * sin + y * cos}, turn, m_room.widthMm + 1e-6,
                                       m_room.heightMm + 1e-6);
            std::vector<char> isOpen(isUncovered.size(), 0);
            for (const int t : heldBy(pose))
                isOpen[static_cast<size_t>(t)] = isUncovered[static_cast<size_t>(t)];
            if (!isOpen[static_cast<size_t>(end)])
                continue;
            if (const double area = connectedArea(end, isOpen, group); area > most) {
                most = area;
                best = pose;
                won = group;
            }
        }
    }
    return best;
}

void Search::addPeelings(std::vector<Labelling>& out) {
    for (int direction = 0; direction < 4 && !isCancelled(); ++direction) {
        const Point way{std::cos(direction * kPi / 2 + 0.3), std::sin(direction * kPi / 2 + 0.3)};
        std::vector<char> isUncovered(m_net.triangles.size(), 1);
        std::vector<Pose> poses;
        const auto reach = [&](size_t t) {
            double most = -1e300;
            for (const int c : m_net.triangles[t])
                most = std::max(most, geometry::dot(m_net.corners[static_cast<size_t>(c)].at, way));
            return most;
        };
        while (poses.size() < kMostPoses && !isCancelled()) {
            int end = -1;
            for (size_t t = 0; t < isUncovered.size(); ++t)
                if (isUncovered[t] && (end < 0 || reach(t) > reach(static_cast<size_t>(end))))
                    end = static_cast<int>(t);
            if (end < 0)
                break;
            std::vector<int> won;
            const auto best = bestAround(end, isUncovered, won);
            isUncovered[static_cast<size_t>(end)] = 0;
            for (const int t : won)
                isUncovered[static_cast<size_t>(t)] = 0;
            if (best)
                poses.push_back(*best);
        }
        if (!poses.empty())
            out.push_back(begunWith(poses));
    }
}

Pose Search::randomPose() {
    const auto& triangle =
        m_net.triangles[static_cast<size_t>(random() * static_cast<double>(m_net.triangles.size()))];
    const Point p = m_net.corners[static_cast<size_t>(triangle[0])].at;
    const double turn = random() * kPi;
    Pose out = Pose::at(p, turn, m_room.widthMm, m_room.heightMm);
    const auto pick = [&](double half) {
        return random() < 0.6 ? (random() < 0.5 ? half : -half) : (2 * random() - 1) * half;
    };
    out.centre = out.place(pick(out.halfWidth), pick(out.halfHeight));
    return out;
}

void Search::addGreedy(std::vector<Labelling>& out) {
    constexpr int kPool = 260, kRuns = 6;
    std::vector<Pose> pool;
    std::vector<std::vector<int>> held;
    for (int i = 0; i < kPool; ++i) {
        pool.push_back(randomPose());
        held.push_back(heldBy(pool.back()));
    }
    for (int run = 0; run < kRuns && !isCancelled(); ++run) {
        std::vector<char> isUncovered(m_net.triangles.size(), 1);
        std::vector<Pose> poses;
        while (poses.size() < kMostPoses) {
            size_t best = 0;
            double most = 0;
            for (size_t i = 0; i < pool.size(); ++i) {
                double area = 0;
                for (const int t : held[i])
                    area += isUncovered[static_cast<size_t>(t)] ? m_net.areaMm2[static_cast<size_t>(t)] : 0;
                area *= 0.8 + 0.2 * random();
                if (area > most) {
                    most = area;
                    best = i;
                }
            }
            if (most <= 0)
                break;
            for (const int t : held[best])
                isUncovered[static_cast<size_t>(t)] = 0;
            poses.push_back(pool[best]);
        }
        if (!poses.empty())
            out.push_back(begunWith(poses));
    }
}

std::vector<Labelling> Search::beginnings() {
    std::vector<Labelling> out;
    out.push_back(settled(std::vector<int>(m_net.triangles.size(), 0))); // nothing cut, for what fits
    m_progress.report(0, "laying mats over the shape");
    addGrids(out);
    m_progress.report(0.12, "laying mats along the shape");
    addChains(out);
    if (m_options.isRough &&
        std::any_of(out.begin(), out.end(), [](const Labelling& one) { return one.unfit == 0; }))
        return out;
    const auto fewest = [&] {
        int parts = 1 << 20;
        for (const Labelling& one : out)
            parts = one.unfit == 0 ? std::min(parts, one.parts) : parts;
        return parts;
    };
    const int bound = static_cast<int>(std::ceil(m_area / (m_room.widthMm * m_room.heightMm)));
    m_progress.report(0.18, "taking mats off its ends");
    if (fewest() > bound)
        addPeelings(out);
    m_progress.report(0.24, "laying mats anywhere");
    addGreedy(out);
    return out;
}

} // namespace thinline::split
