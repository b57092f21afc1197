// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Field.h"
#include "split/Split.h"

#include <array>

/// The places where a shape can be cut, as a network of triangles and the sides between them. Internal to the folder.
namespace thinline::split {

/// Returns a line as straight steps, its end included.
geometry::Polygon wayOf(const geometry::Line& line, double toleranceMm = 0.02);

constexpr int kInside = -1; ///< instead of the number of a ring: a point on the card

/// A straight stretch of a seam.
struct Stretch {
    geometry::Point a, b;
    int ringOfA = kInside, ringOfB = kInside; ///< where it ends on an edge: 0 the outline, n the n-th opening
};

struct Priced {
    double price = 0, lengthMm = 0, seenMm = 0;
    double widestMm = 0; ///< twice the largest clearance along it: the width of the place it cuts
    bool isThin = false, cutsKept = false;
    std::optional<double> nearSeamMm = {};
};

/// What a stretch costs.
class Pricing {
  public:
    Pricing(const Ground& ground, const geometry::Polygons& rings, const Options& options);

    Priced of(const Stretch& stretch) const;
    const Field& field() const { return m_field; }
    const geometry::Polygons& rings() const { return m_rings; }
    const Options& options() const { return m_options; }

  private:
    struct Straight {
        geometry::Point a, b;
    };
    struct Along {
        double lengthMm = 0, nearestMm = 1e9;
    };
    Along along(const std::vector<Straight>& lines, const Stretch& stretch, double withinMm) const;
    static std::vector<Straight> straight(const std::vector<geometry::Line>& lines);

    const geometry::Polygons m_rings;
    const Options m_options;
    Field m_field;
    std::vector<Straight> m_seamsNear, m_folds;
};

struct Corner {
    geometry::Point at;
    int ring = kInside;
};
struct Arc {
    int from = 0, to = 0;    ///< corners
    int left = 0, right = 0; ///< triangles
    double price = 0;
    double lengthMm = 0;
    bool isThin = false;
    bool isChecked = false; ///< slivers beside it are in the price
};
struct Net {
    std::vector<Corner> corners;
    std::vector<std::array<int, 3>> triangles; ///< their corners
    std::vector<std::array<int, 3>> arcsOf;    ///< of every triangle; -1 for an edge of the shape
    std::vector<double> areaMm2;
    std::vector<Arc> arcs;
};

/// Inner points: how far apart, and how many at most; none of no step.
struct Lattice {
    double stepMm = 0;
    double mostPoints = 1200;
};

/// Returns the network over a shape's rings: its corners and a sample every few millimetres; with inner points where
/// seams may bend and meet.
/// Errors: those of geometry::triangulated.
base::Result<Net> netOver(const Pricing& pricing, const Lattice& lattice, const base::Progress& progress);

/// Returns the rings of a shape as few straight steps: the outline, then the openings; none longer than a few mm.
geometry::Polygons sampledRings(const geometry::Shape& shape);

} // namespace thinline::split
