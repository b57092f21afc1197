// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Necks.h"

#include "geometry/PolygonEngine.h"

#include <optional>

namespace thinline::geometry {
namespace {

/// The ring with extra points so that no step is longer than `stepMm`.
Polygon densified(const Polygon& ring, double stepMm) {
    Polygon out;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
        const int parts = static_cast<int>(std::clamp(std::ceil(distance(a, b) / stepMm), 1.0, 1000.0));
        for (int k = 0; k < parts; ++k)
            out.push_back(a + (b - a) * (static_cast<double>(k) / parts));
    }
    return out;
}

/// The sides of a narrow remainder: the runs of its edge that do not touch the reachable part.
std::vector<Polygon> sidesOf(const Polygons& remainder, const Polygons& reachable, double stepMm) {
    std::vector<Polygon> sides;
    for (const Polygon& ring : remainder) {
        const Polygon dense = densified(ring, stepMm);
        std::vector<bool> touches;
        for (Point p : dense)
            touches.push_back(contains(reachable, p));
        const auto firstContact = std::find(touches.begin(), touches.end(), true);
        if (firstContact == touches.end()) {
            sides.push_back(dense);
            continue;
        }
        const size_t n = dense.size(), from = static_cast<size_t>(firstContact - touches.begin());
        bool isOpen = false;
        for (size_t i = 0; i < n; ++i) {
            const size_t at = (from + i) % n;
            if (touches[at]) {
                isOpen = false;
            } else {
                if (!isOpen)
                    sides.emplace_back();
                isOpen = true;
                sides.back().push_back(dense[at]);
            }
        }
    }
    return sides;
}

std::optional<Neck> narrowestBetween(const std::vector<Polygon>& sides) {
    std::optional<Neck> best;
    for (size_t i = 0; i < sides.size(); ++i)
        for (size_t j = i + 1; j < sides.size(); ++j)
            for (Point p : sides[i])
                for (Point q : sides[j])
                    if (!best || distance(p, q) < best->widthMm)
                        best = Neck{middle(p, q), distance(p, q)};
    return best;
}

/// The diameter of the largest disc inside, by halving the shrink distance.
double widestDisc(const Polygons& rings, double limitMm) {
    double fits = 0, fails = limitMm;
    for (int i = 0; i < 7; ++i) {
        const double trial = (fits + fails) / 2;
        const auto shrunk = grown(rings, -trial / 2, 0.01);
        (shrunk && !shrunk->empty() ? fits : fails) = trial;
    }
    return fits;
}

} // namespace

base::Result<std::vector<Neck>> findNecks(const Shape& shape, double limitMm,
                                          const base::Progress& progress) {
    const double fine = limitMm * 0.02;
    const Polygons rings = flatten(shape, fine / 2);
    auto core = grown(rings, -limitMm / 2, fine / 2);
    if (!core)
        return core.error();
    if (core->empty())
        return std::vector<Neck>{{pointInside(shape), widestDisc(rings, limitMm)}};
    auto reachable = grown(*core, limitMm / 2 + fine, fine / 2);
    if (!reachable)
        return reachable.error();
    if (progress.isCancelled())
        return base::cancelled();
    auto remainder = subtract(rings, *reachable);
    if (!remainder)
        return remainder.error();
    auto narrow = separated(*remainder);
    if (!narrow)
        return narrow.error();
    auto touching = grown(*core, limitMm / 2 + 2 * fine, fine / 2);
    if (!touching)
        return touching.error();
    std::vector<Neck> necks;
    for (const Polygons& part : *narrow) {
        if (progress.isCancelled())
            return base::cancelled();
        const std::vector<Polygon> sides = sidesOf(part, *touching, limitMm / 10);
        if (sides.size() < 2)
            continue;
        if (const auto neck = narrowestBetween(sides))
            necks.push_back(*neck);
    }
    std::sort(necks.begin(), necks.end(), [](const Neck& a, const Neck& b) { return a.widthMm < b.widthMm; });
    return necks;
}

} // namespace thinline::geometry
