// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Net.h"

#include "geometry/Thin.h"
#include "geometry/Triangulation.h"

#include <algorithm>
#include <cmath>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;

constexpr double kSampleMm = 6;       ///< along an outline
constexpr double kMostSamples = 1500; ///< beyond, they lie farther apart

std::vector<Polygons> flattened(const std::vector<geometry::Shape>& shapes) {
    std::vector<Polygons> out;
    for (const geometry::Shape& shape : shapes)
        out.push_back(geometry::flatten(shape, 0.05));
    return out;
}

Polygon sampled(const Polygon& ring, double stepMm) {
    Polygon out;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
        const int steps = std::max(1, static_cast<int>(std::ceil(geometry::distance(a, b) / stepMm - 1e-9)));
        for (int k = 0; k < steps; ++k)
            out.push_back(a + (b - a) * (double(k) / steps));
    }
    return out;
}

/// Points in a lattice of equal triangles, away from the edges.
Polygon innerPoints(const Pricing& pricing, const Lattice& lattice) {
    const Field& field = pricing.field();
    const geometry::Box box = geometry::bounds(pricing.rings());
    // Four times as many where something lies above; and never more than are searched in a second.
    const double counted = field.areaMm2() + 3 * field.hiddenMm2();
    const double step = std::max(lattice.stepMm, std::sqrt(counted / lattice.mostPoints / 0.866));
    Polygon out;
    const double fine = step / 2, rise = fine * std::sqrt(0.75);
    int row = 0;
    for (double y = box.least.y + rise / 2; y < box.most.y; y += rise, ++row) {
        int column = 0;
        for (double x = box.least.x + (row % 2 ? fine : fine / 2); x < box.most.x; x += fine, ++column) {
            const Point p{x, y};
            const bool isCoarse = row % 2 == 0 && (column + row / 2) % 2 == 0;
            const double away = field.clearanceMm(p);
            if ((isCoarse && away > step * 0.4) || (field.isHidden(p) && away > step * 0.3))
                out.push_back(p);
        }
    }
    return out;
}

} // namespace

Polygon wayOf(const geometry::Line& line, double toleranceMm) {
    Polygon out = geometry::flatten(line, toleranceMm);
    out.push_back(geometry::endOf(line));
    return out;
}

Polygons sampledRings(const geometry::Shape& shape) {
    Polygons out;
    const auto add = [&out](const geometry::Contour& contour) {
        const Polygon fine = geometry::flatten(contour, 0.02);
        Polygon few = geometry::flatten(geometry::thinned(geometry::contourThrough(fine), 0.08), 0.02);
        if (few.size() < 3)
            few = fine;
        if (few.size() >= 3)
            out.push_back(std::move(few));
    };
    add(shape.outline);
    for (const geometry::Contour& opening : shape.openings)
        add(opening);
    double around = 0;
    for (const Polygon& ring : out)
        for (size_t i = 0; i < ring.size(); ++i)
            around += geometry::distance(ring[i], ring[(i + 1) % ring.size()]);
    for (Polygon& ring : out)
        ring = sampled(ring, std::max(kSampleMm, around / kMostSamples));
    return out;
}

// ---- prices -----------------------------------------------------------------------------------------------

Pricing::Pricing(const Ground& ground, const Polygons& rings, const Options& options)
    : m_rings(rings), m_options(options),
      m_field(rings, flattened(ground.cover), flattened(ground.keptWhole), options.thinMm),
      m_seamsNear(straight(ground.seamsNear)), m_folds(straight(ground.folds)) {}

std::vector<Pricing::Straight> Pricing::straight(const std::vector<geometry::Line>& lines) {
    std::vector<Straight> out;
    for (const geometry::Line& line : lines) {
        const Polygon way = wayOf(line, 0.1);
        for (size_t i = 0; i + 1 < way.size(); ++i)
            out.push_back({way[i], way[i + 1]});
    }
    return out;
}

Pricing::Along Pricing::along(const std::vector<Straight>& lines, const Stretch& stretch,
                              double withinMm) const {
    Along out;
    const Point way = geometry::direction(stretch.b - stretch.a);
    const double length = geometry::distance(stretch.a, stretch.b);
    geometry::Box box;
    box.include(stretch.a);
    box.include(stretch.b);
    box = box.grownBy(withinMm);
    for (const Straight& line : lines) {
        const Point other = geometry::direction(line.b - line.a);
        if (std::abs(geometry::cross(way, other)) > 0.5) // 30 degrees
            continue;
        geometry::Box reach;
        reach.include(line.a);
        reach.include(line.b);
        if (!reach.meets(box))
            continue;
        const int samples = std::max(2, static_cast<int>(length / 3) + 1);
        for (int i = 0; i < samples; ++i) {
            const Point p = stretch.a + (stretch.b - stretch.a) * ((i + 0.5) / samples);
            const double away = geometry::distanceToStretch(p, line.a, line.b);
            if (away >= withinMm)
                continue;
            out.lengthMm += length / samples;
            out.nearestMm = std::min(out.nearestMm, away);
        }
    }
    return out;
}

Priced Pricing::of(const Stretch& stretch) const {
    const Prices& prices = m_options.prices;
    const double thin = m_options.thinMm;
    Priced out;
    out.lengthMm = geometry::distance(stretch.a, stretch.b);
    const int samples = std::max(3, static_cast<int>(out.lengthMm / std::max(m_field.cellMm(), 0.5)) + 1);
    const double step = out.lengthMm / samples;
    const double blur = 0.6 * m_field.cellMm() + 0.1; // the cells know the edge no better
    double thinMm = 0, missing = 0, most = 0;
    for (int i = 0; i < samples; ++i) {
        const double along = (i + 0.5) * step;
        const Point p = stretch.a + (stretch.b - stretch.a) * ((i + 0.5) / samples);
        const double clear = m_field.clearanceMm(p);
        most = std::max(most, clear);
        out.seenMm += m_field.isHidden(p) ? 0 : step;
        thinMm += m_field.isThin(p) ? step : 0;
        out.cutsKept = out.cutsKept || (m_field.keepsAny() && m_field.isKept(p));
        const double fromEdge = std::min(stretch.ringOfA == kInside ? 1e9 : along,
                                         stretch.ringOfB == kInside ? 1e9 : out.lengthMm - along);
        const double wanted = std::min(1.1 * thin, 0.8 * fromEdge);
        if (wanted > 1)
            missing = std::max(missing, (wanted - clear - blur) / wanted);
    }
    out.widestMm = 2 * most;
    const bool isAcross = stretch.ringOfA != kInside && stretch.ringOfB != kInside;
    // What holds by less than that is thin, also where a wide crossing begins right beside it.
    out.isThin = thinMm > std::min(1.0, 0.4 * out.lengthMm) || (isAcross && out.lengthMm < thin);
    out.price =
        prices.seen * out.seenMm + prices.hidden * (out.lengthMm - out.seenMm) + prices.slanting * missing;
    for (const int ring : {stretch.ringOfA, stretch.ringOfB})
        out.price += ring == kInside ? 0 : ring == 0 ? prices.end : prices.endAtOpening;
    if (out.isThin)
        out.price += prices.thin;
    else if (isAcross && out.lengthMm < 1.3 * thin)
        out.price += prices.narrow * std::clamp((1.3 * thin - out.lengthMm) / (0.3 * thin), 0.0, 1.0);
    if (out.cutsKept)
        out.price += prices.kept;
    // A stretch of a bent seam bears its share of what a whole one does.
    const double share = isAcross ? 1 : std::min(1.0, out.lengthMm / 40);
    const Along seam = along(m_seamsNear, stretch, m_options.staggerMm);
    if (seam.lengthMm > 0) {
        out.nearSeamMm = seam.nearestMm;
        out.price += prices.along * share + prices.alongPerMm * seam.lengthMm;
    }
    if (const Along fold = along(m_folds, stretch, thin); fold.lengthMm > 0)
        out.price += prices.along * share + prices.alongPerMm * fold.lengthMm;
    return out;
}

// ---- the network ------------------------------------------------------------------------------------------

base::Result<Net> netOver(const Pricing& pricing, const Lattice& lattice, const base::Progress& progress) {
    Polygons rings = pricing.rings();
    Net out;
    for (size_t i = 0; i < rings.size(); ++i)
        for (const Point p : rings[i])
            out.corners.push_back({p, static_cast<int>(i)});
    const Polygon inner = lattice.stepMm > 0 ? innerPoints(pricing, lattice) : Polygon{};
    for (const Point p : inner)
        out.corners.push_back({p, kInside});
    auto made = geometry::triangulated(rings, inner, progress);
    if (!made)
        return made.error();
    const auto& triangles = made->triangles;
    for (size_t t = 0; t < triangles.size(); ++t) {
        out.triangles.push_back(triangles[t].corner);
        out.arcsOf.push_back({-1, -1, -1});
        const auto at = [&](size_t k) { return out.corners[static_cast<size_t>(triangles[t].corner[k])].at; };
        out.areaMm2.push_back(std::abs(geometry::cross(at(1) - at(0), at(2) - at(0))) / 2);
    }
    for (size_t t = 0; t < triangles.size(); ++t)
        for (size_t k = 0; k < 3; ++k) {
            const int other = triangles[t].across[k];
            if (other <= static_cast<int>(t))
                continue;
            const int a = triangles[t].corner[(k + 1) % 3], b = triangles[t].corner[(k + 2) % 3];
            const Corner &from = out.corners[static_cast<size_t>(a)],
                         &to = out.corners[static_cast<size_t>(b)];
            const Priced priced = pricing.of({from.at, to.at, from.ring, to.ring});
            const int number = static_cast<int>(out.arcs.size());
            out.arcs.push_back(
                {a, b, static_cast<int>(t), other, priced.price, priced.lengthMm, priced.isThin});
            out.arcsOf[t][k] = number;
            for (size_t j = 0; j < 3; ++j)
                if (triangles[static_cast<size_t>(other)].across[j] == static_cast<int>(t))
                    out.arcsOf[static_cast<size_t>(other)][j] = number;
        }
    return out;
}

} // namespace thinline::split
