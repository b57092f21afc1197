// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <cstdint>
#include <vector>

/// What is known of an outline that is laid many times: how far every place is from it, and by which places it is told
/// whether two of them lie on one another. For the search only (sheets/Nest.h).
namespace thinline::sheets {

/// How an outline lies: its middle there, turned clockwise on screen.
struct NestPose {
    geometry::Point at;
    double turnRad = 0;      ///< from -pi to pi
    double cos = 1, sin = 0; ///< of the turn

    static NestPose of(geometry::Point at, double turnRad);
    geometry::Point operator()(geometry::Point p) const {
        return {at.x + cos * p.x - sin * p.y, at.y + sin * p.x + cos * p.y};
    }
};

/// Returns the convex hull of some rings, clockwise on screen.
geometry::Polygon hullOf(const geometry::Polygons& rings);

class NestTable {
  public:
    /// Shape:  rings by the even-odd rule, outlines clockwise on screen and openings the other way; their middle becomes the
    ///         origin. `clearMm` is what is kept free of others. What lies beside walls is to be told exactly at its own
    ///         edge too.
    /// Cost:   O(cells + edges x cells / 16).
    NestTable(geometry::Polygons rings, double clearMm, bool hasWalls = false);

    geometry::Point middle() const { return m_middle; } ///< of the rings as they were given
    const geometry::Polygons& rings() const { return m_rings; }
    const geometry::Polygon& hull() const { return m_hull; }
    double tightTurnRad() const { return m_tightRad; } ///< at which its box is smallest
    double radius() const { return m_radius; }
    double area() const { return m_area; }
    /// The box of the outline turned so, about its middle.
    geometry::Box boxAt(double turnRad) const;

    /// How far a place of its own frame is from the outline, negative inside; beyond the table at least the distance
    /// asked for. Exact within rounding where it is near what is kept clear.
    double distanceAt(double x, double y) const;

    /// How much two outlines lie on one another or nearer than what is kept clear, mm2; 0 when they do not. Gives up
    /// above `limit`.
    static double overlap(const NestTable& a, const NestPose& poseA, const NestTable& b,
                          const NestPose& poseB, double clearMm, double limit);

  private:
    struct Disc {
        float x, y, r;
    };
    struct Edge {
        float ax, ay, bx, by;
    };
    struct Run { ///< points next to one another, and a disc round them
        float x, y, r;
        std::uint32_t begin, end;
    };
    void measureGrid(double clearMm);
    void listEdges(double clearMm, bool hasWalls);
    void takeDiscs();
    void takePoints();
    float node(int x, int y) const {
        return m_distances[static_cast<std::size_t>(y) * static_cast<std::size_t>(m_across) +
                           static_cast<std::size_t>(x)];
    }
    bool isWithin(double x, double y, double nearestSquared, std::uint32_t nearest, std::uint32_t begin,
                  std::uint32_t end) const;
    double interpolated(double fx, double fy, int cx, int cy) const;
    double atMost(double x, double y) const; ///< never below the distance
    static double overlapOf(const NestTable& points, const NestTable& of, double cos, double sin,
                            geometry::Point by, double clearMm, double limit);

    geometry::Polygons m_rings;
    geometry::Polygon m_hull;
    geometry::Point m_middle;
    double m_radius = 0, m_area = 0, m_tightRad = 0;
    std::vector<Edge> m_edges;
    // the table of distances
    double m_cell = 1, m_perMm = 1, m_left = 0, m_top = 0, m_pad = 0;
    int m_across = 0, m_down = 0;
    std::vector<float> m_distances;         ///< at the nodes
    std::vector<std::uint32_t> m_listBegin; ///< of each cell, one more at the end
    std::vector<std::uint32_t> m_listed;    ///< edges that may be the nearest one in a cell
    // by what overlaps are told
    std::vector<Disc> m_discs;
    std::vector<Run> m_runs;
    std::vector<Disc> m_points; ///< r: how much of the outline a point stands for
};

} // namespace thinline::sheets
