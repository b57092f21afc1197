// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Point.h"

#include <vector>

/// In which order a tool visits what it has to do.
namespace thinline::cutplan {

/// A way through something to be done: where the tool comes down and where it is lifted.
struct Gate {
    geometry::Point in, out;
    Gate reversed() const { return {out, in}; }
    bool operator==(const Gate&) const = default;
};
/// Something to be done in one go. A closed line is entered at one of several places and left there; an open one at
/// either end, which are two gates, each the other reversed.
struct Visit {
    std::vector<Gate> gates;
    bool isOpen = false;
};

struct Tour {
    std::vector<std::size_t> order; ///< of the visits
    std::vector<std::size_t> gates; ///< by which each is done, in that order
    double travelMm = 0;            ///< between them, from the start; after the last the tool stays
};

struct TourOptions {
    int kicks =
        8; ///< of each visit, while there are fewer than 600: more shorten the way a little, and take longer
};

/// Returns a short way through all visits, from where the tool is.
/// Shape:  every visit once. The same input gives the same tour.
/// Errors: InvalidArgument for a visit without a gate or with a place that is no number; Cancelled.
/// Cost:   about n log n for thousands of visits; below 600 more is spent on shortening: half a second at 500.
/// Source: the essay at the head of cutplan/Tour.cpp.
base::Result<Tour> shortTour(const std::vector<Visit>& visits, geometry::Point from,
                             const TourOptions& options = {}, const base::Progress& progress = {});

/// Returns how far a tool travels between visits done in an order by some gates.
double travelOf(const std::vector<Visit>& visits, const Tour& tour, geometry::Point from);

} // namespace thinline::cutplan
