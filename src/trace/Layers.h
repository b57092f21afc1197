// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Stack.h"
#include "trace/Tracing.h"

#include <map>
#include <string>
#include <vector>

/// The areas of a tracing as pieces of card at final size.
namespace thinline::trace {

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
/// the origin.
/// Cost:   O(nodes of the backing).
geometry::Transform pictureToDesign(const Tracing& tracing, const Sizing& sizing);

/// How the pieces lie on one another.
struct Laying {
    Build build = Build::AreasOnBacking; ///< of a line drawing
    Stacking stacking = Stacking::Inlay; ///< of flat art
    double tuckMm = 0;
    std::map<design::PieceId, int> place; ///< of every area in the stack, bottom first; missing: its level
};

/// The shapes at final size, in mm, shared by all later states of the job.
struct SizedShapes {
    design::LayerRole ground =
        design::LayerRole::Backing; ///< what `backing` is: the backing, or the ink on top
    std::vector<design::Piece> backing;
    std::vector<design::Piece>
        areas; ///< one per area, in the tracing's order; an area that vanished is left out
    std::vector<design::PieceId> vanished; ///< areas eaten up by the clearance
};

/// Returns the shapes of a tracing in millimetres, its design's upper left corner at the origin. An area that
/// the clearance tears into several keeps its largest part; the rest count as clearance. With the ink on top
/// the areas run on under it by the tuck, never into one another; of stacked layers a piece runs on under
/// every piece above that borders on it.
/// Errors: InvalidArgument if a factor is not above zero; those of the polygon engine; Cancelled.
/// Cost:   O(nodes) without clearance and tuck; with them one offset per area, and set operations where a
///         tuck meets other pieces.
base::Result<SizedShapes> sizeShapes(const Tracing& tracing, const Sizing& sizing, const Laying& laying = {},
                                     const base::Progress& progress = {});

/// Returns the stack: every area in the layer of its stock, layers in the order of `settings` (bottom to
/// top), then one for every painted stock that has no setting yet. Layers without pieces are left out.
/// Cost:   O(pieces).
design::Stack buildStack(const SizedShapes& shapes, const std::vector<design::Stock>& stocks,
                         const std::map<design::PieceId, std::string>& paint,
                         const std::map<design::PieceId, int>& copies,
                         const std::vector<LayerSetting>& settings);

/// What a fresh tracing proposes: a stock for every area that has none yet.
struct PaintProposal {
    std::vector<design::Stock> stocks; ///< those given, plus new ones for colours none of them shows
    std::map<design::PieceId, std::string> paint;
};

/// Returns a stock for every area: by the picture's colour where it has one, else `plainStockId`. Of a
/// picture with a palette every colour has a stock of its own. Existing paint is kept. A colour nearer than a
/// just visible step to a stock takes it; others found a new stock.
PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<design::PieceId, std::string>& paint,
                           const std::string& plainStockId);

} // namespace thinline::trace
