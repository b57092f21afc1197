// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Colouring.h"
#include "raster/Palette.h"

#include <optional>
#include <unordered_map>
#include <utility>
#include <vector>

/// The steps by which pixels are sorted by colour; see Colouring.cpp.
namespace thinline::raster {

/// A pixel as a mixture of two colours.
struct Mixture {
    double ofFirst = 0; ///< 0 to 1
    double square = 0;  ///< weighted squared distance from the nearest mixture
};
inline Mixture mixtureOf(const Vec& p, const Vec& a, const Vec& b, const Weights& w) {
    double along = 0, whole = 0;
    for (size_t k = 0; k < 3; ++k) {
        const double weight = k == 0 ? w.y : w.c, d = a[k] - b[k];
        along += weight * (p[k] - b[k]) * d;
        whole += weight * d * d;
    }
    const double t = whole > 0 ? std::clamp(along / whole, 0.0, 1.0) : 1;
    return {t, w.square(p, {b[0] + t * (a[0] - b[0]), b[1] + t * (a[1] - b[1]), b[2] + t * (a[2] - b[2])})};
}

inline Vec minus(const Vec& a, const Vec& b) {
    return {a[0] - b[0], a[1] - b[1], a[2] - b[2]};
}

/// By how much a border between colours this far apart may be off where a single pixel says so, px.
double doubtOf(const Faults& faults, const Vec& step);

/// No colour, where colours are kept in bytes.
inline constexpr std::uint8_t kNoColour = 255;

/// What is known while pixels are sorted.
struct Sorting {
    const Picture& picture;
    ColouringOptions options;
    const base::Progress& progress;
    Faults faults;
    Shading shading;
    Picture calm; ///< the picture with its grain taken out
    int width, height;
    std::vector<Found> palette;
    LocalColours colours;
    LabelMap cores; ///< the sure pixels' colours; -1 where a pixel is none

    Sorting(const Picture& given, const ColouringOptions& wanted, const base::Progress& reports);
    size_t index(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x);
    }
    Vec seen(size_t at) const { return yccOf(calm.rgb.data() + at * 3); }
    /// Local colours anew, for another palette; learned from the cores.
    void learnAnew();
};

/// One thing, several labels: gives those parts of the cores that touch without an edge one label, and labels that are one
/// colour in another light too. Palette and cores change; says whether they did.
/// Errors: Cancelled.
base::Result<bool> joinThings(Sorting& sorting);
/// No more colours than asked for: the two go together that lose least by it. Palette and cores change.
void joinNearest(Sorting& sorting, size_t count);

/// Every pixel's label, and what did not come out as it is seen.
struct Mixed {
    LabelMap map;
    std::vector<std::pair<std::uint32_t, float>> unexplained; ///< pixels that no mixture explains, and by how much
    std::vector<LostColour> sentBack;                         ///< of every colour, the parts that were too small
};
/// Explains every pixel as a mixture of colours near it, or of one from elsewhere.
/// Errors: Cancelled.
base::Result<Mixed> mixtures(const Sorting& sorting);
/// A colour that no mixture of the palette explains: from the clearest of what is left, with the most around it.
std::optional<LostColour> unexplainedColour(const Sorting& sorting, const Mixed& mixed);

/// Where single pixels hardly tell where a border runs, what they say is averaged along it: labels anew, and levels that are
/// steep again.
std::unordered_map<std::uint32_t, Colouring::Steadied> steadyBorders(const Sorting& sorting, LabelMap& map);

} // namespace thinline::raster
