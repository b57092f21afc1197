// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "folding/Pose.h"
#include "raster/Picture.h"

namespace thinline::folding {

/// From where folded work is looked at. Nothing is foreshortened: lengths across the view are true to scale.
struct View {
    double turnRad = -0.6; ///< the work turned about its upright, its right side away from the viewer
    double tiltRad = 0.45; ///< then tipped, its upper side towards the viewer
    double zoom = 1;       ///< 1: all of it is just seen
    int widthPx = 640, heightPx = 480;
    raster::Rgb ground{230, 228, 224}, ink{30, 42, 49};
    bool isLit = false; ///< panes shine, as with a light inside
};

/// Returns folded work as it looks.
/// Shape:  widthPx x heightPx, every pixel the mean of four; cards in their own colours, lighter where they look to the light
///         from the upper left, prints on their faces, edges as lines; panes let what lies behind them through.
/// Cost:   O(pixels covered), four times over.
/// Source: depth buffer; E. Catmull, A Subdivision Algorithm for Computer Display of Curved Surfaces, 1974.
raster::Picture drawn(const Model& model, const Posed& pose, const View& view);

/// How a view lays space on its picture.
struct Seen {
    Stand turned; ///< from the work to the viewer's directions
    double pxPerMm = 1;
    double left = 0, top = 0; ///< px of the viewer's origin
    /// A place in px; z grows towards the viewer, mm.
    Vec at(Vec place) const {
        const Vec own = turned.at({place.x, place.y}, place.z);
        return {left + own.x * pxPerMm, top + own.y * pxPerMm, own.z};
    }
};
/// Returns how `drawn` does it.
Seen seenBy(const Model& model, const Posed& pose, const View& view);

} // namespace thinline::folding
