// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Stack.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

/// A line drawing becomes areas on a backing.
namespace thinline::trace {

/// A line of ink the person adds to close a gap, in pixels of the picture.
struct ClosingLine {
    geometry::Point from;
    geometry::Point to;
    double widthPx = 3;

    bool operator==(const ClosingLine&) const = default;
};

/// How a line drawing is traced. Kept in the job, so that it can be opened again and replayed.
struct LineDrawingRecipe {
    std::optional<int>
        threshold; ///< brightness 0-254 up to which a pixel is ink; unset: chosen by raster::inkThreshold
    double leastAreaMm2 = 0.5; ///< smaller areas drop into the ink, smaller ink specks vanish; below this
                               ///< nothing can be picked up
    double smoothness =
        1.0; ///< 0 keeps every corner, 1.3 rounds them all; 1 keeps true corners of a pen drawing
    double widestGapMm =
        2.0; ///< narrower passages between areas are reported as leaks; pens rarely miss by more
    std::vector<ClosingLine> closings;

    bool operator==(const LineDrawingRecipe&) const = default;
};

/// One enclosed area of the drawing, in pixels.
struct Area {
    design::PieceId id = 0; ///< 1, 2, ... in reading order, unless carried over from an earlier tracing
    geometry::Shape shape;
    geometry::Point inside; ///< a point of the area, for finding it again
    raster::Rgb colour{255, 255, 255};
};

/// A passage through which an area may leak.
struct Leak {
    geometry::Point place; ///< px
    double widthPx = 0;
    bool toOutside = false; ///< the area runs out to the paper around the drawing; else into its neighbour
    geometry::Point inside; ///< px; the middle of the smaller side
};

/// What was found, in pixels of the picture. Multiply by mm per pixel to get millimetres.
struct Tracing {
    int widthPx = 0;
    int heightPx = 0;
    int threshold = 0;                    ///< the one used
    int droppedAreas = 0;                 ///< areas below the least size, now part of the ink
    int droppedSpecks = 0;                ///< loose bits of ink below the least size
    raster::Rgb paper{255, 255, 255};     ///< the colour around the drawing
    std::vector<geometry::Shape> backing; ///< the filled silhouette, largest first
    std::vector<Area> areas;              ///< in reading order
    std::vector<Leak> leaks;              ///< narrowest first
};

/// Returns the drawing as a filled silhouette and enclosed areas.
/// Shape:  areas and silhouette are outlined by cubic curves and lines; each area has its openings.
/// Units:  px in, px out; `mmPerPx` (> 0) turns the recipe's millimetres into pixels.
/// Errors: InvalidArgument for an empty picture, a threshold outside 0-254 or mmPerPx not above zero;
/// Degenerate when
///         there is no ink, when all is ink, or when the curves cannot be fitted; Cancelled.
/// Cost:   O(pixels) plus fitting; about 14 bytes per pixel. Cancel is polled per area; fitting one outline
/// of
///         100,000 pixels takes about 50 ms.
/// Source: areas by connected components; curves by P. Selinger, Potrace: a polygon-based tracing algorithm,
/// 2003
///         (libpotrace, one call per outline, seen only in Outlines.cpp).
base::Result<Tracing> traceLineDrawing(const raster::Picture& picture, double mmPerPx,
                                       const LineDrawingRecipe& recipe, const base::Progress& progress = {});

/// Returns an outline rounded to what the job file keeps (1/10,000 px), so that a job read back is the same
/// to the bit.
geometry::Shape keptShape(geometry::Shape shape);

/// Gives the areas of a new tracing the ids of the old areas they came from, so that paint, copies and pins
/// stay. Shape:  every id stays unique; an area split in two leaves the id with the part that holds the old
/// inside point. Cost:   O(areas x nodes), boxes checked first.
void carryIds(const Tracing& before, Tracing& after);

/// How the stack is laid out: what the person decided about stocks, order, size.
struct LayerSetting {
    design::LayerRole role = design::LayerRole::Areas;
    std::string stockId;
    double liftMm = 0;
    bool isHidden = false;

    bool operator==(const LayerSetting&) const = default;
};

/// Maps the tracing's pixels to the finished work.
struct Sizing {
    double mmPerPx = 0.1;
    double scaleX = 1; ///< the Size station's own factor, on top of the picture's real size
    double scaleY = 1;
    double clearanceMm = 0; ///< every area shrinks by this much on all sides, so that more of the lines shows

    bool operator==(const Sizing&) const = default;
};

/// Returns the map from the picture's pixels to the design's millimetres; the design's upper left corner is
/// the origin. Cost: O(nodes of the backing).
geometry::Transform pictureToDesign(const Tracing& tracing, const Sizing& sizing);

/// The shapes at final size, in mm, shared by all later states of the job.
struct SizedShapes {
    std::vector<design::Piece> backing;
    std::vector<design::Piece>
        areas; ///< one per area, in the tracing's order; an area that vanished is left out
    std::vector<design::PieceId> vanished; ///< areas eaten up by the clearance
};

/// Returns the shapes of a tracing in millimetres, its design's upper left corner at the origin.
/// An area that the clearance tears into several keeps its largest part; the rest count as clearance.
/// Errors: InvalidArgument if a factor is not above zero; those of the polygon engine; Cancelled.
/// Cost:   O(nodes) without clearance; with it one offset per area.
base::Result<SizedShapes> sizeShapes(const Tracing& tracing, const Sizing& sizing,
                                     const base::Progress& progress = {});

/// Returns the stack: every area in the layer of its stock, layers in the order of `settings` (bottom to
/// top), then one for every painted stock that has no setting yet. Layers without pieces are left out. Cost:
/// O(pieces).
design::Stack buildStack(const SizedShapes& shapes, const std::vector<design::Stock>& stocks,
                         const std::map<design::PieceId, std::string>& paint,
                         const std::map<design::PieceId, int>& copies,
                         const std::vector<LayerSetting>& settings);

/// What a fresh tracing proposes: a stock for every area that has none yet.
struct PaintProposal {
    std::vector<design::Stock> stocks; ///< those given, plus new ones for colours none of them shows
    std::map<design::PieceId, std::string> paint;
};

/// Returns a stock for every area: by the picture's colour where it has one, else `plainStockId`.
/// Existing paint is kept. A colour nearer than a just visible step to a stock takes it; others found a new
/// stock.
PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<design::PieceId, std::string>& paint,
                           const std::string& plainStockId);

} // namespace thinline::trace
