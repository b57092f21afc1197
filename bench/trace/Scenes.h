// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <string>
#include <vector>

/// Coloured pictures of known curves, and what happens to pictures on their way.
namespace thinline::bench {

/// One painted shape, px.
struct Painted {
    geometry::Shape shape;
    raster::Rgb colour{};
    raster::Rgb to{}; ///< the colour runs to this one from top to bottom; as `colour`: it is flat
};

struct Scene {
    std::string name;
    int width = 0, height = 0;
    raster::Rgb paper{255, 255, 255};
    std::vector<Painted> painted; ///< later ones lie above

    /// What is seen of every painted shape that is not of the paper's colour.
    std::vector<geometry::Shape> seen() const;
    int colours() const; ///< the paper's among them
};

std::vector<Scene> scenes();

/// Drawings in lines, to be told from paintings: on paper, with washes, in pencil, light on dark.
std::vector<Scene> lineScenes();
/// A picture with no flat colour anywhere: hills and sky, leaves, a lit ball on cloth, streaks of hair.
struct Photo {
    std::string name;
    raster::Picture picture;
};
std::vector<Photo> photos(unsigned firstSeed = 1);

/// Draws a scene, every pixel the mean of 6 x 6 places in it: no seams where shapes meet.
raster::Picture drawn(const Scene& scene);

/// "clean", "jpeg" (quality 60), "noise" (8 levels), "soft" (one pixel), "shade" (light falling to 61 %), "scan" (soft,
/// light falling off, grey ink, grain), "phone" (light and a soft shadow, a lens, grain, quality 80) or "shadow" (light and a
/// shadow with a hard edge across, a lens, grain, quality 85).
raster::Picture worn(const raster::Picture& picture, const std::string& how);

/// How far a traced picture's lines lie from the true ones, both ways, px.
struct Away {
    double mean = 0, p995 = 0, most = 0;
};
Away awayOf(const std::vector<geometry::Shape>& truth, const std::vector<geometry::Shape>& traced);

/// Corners of more than 30 degrees where nothing drawn turns within 3 px.
int falseCorners(const std::vector<geometry::Shape>& truth, const std::vector<geometry::Shape>& traced);

} // namespace thinline::bench
