// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"
#include "geometry/CutOnce.h"

/// What the knife travels on a sheet.
namespace thinline::design {

/// One copy's cut lines where they lie on the mat.
struct PieceCuts {
    CopyOf what;
    geometry::CutLines cuts;
};
/// The frame round one copy of a cluster, on the mat.
struct FrameCut {
    const Cluster* cluster = nullptr; ///< of the stack it was asked of
    int copy = 0;
    geometry::Shape outline;
};
struct SheetCuts {
    std::vector<PieceCuts> pieces;
    std::vector<FrameCut> frames; ///< cut to the carrier
};

/// Returns the frames on a sheet, where they lie on the mat.
std::vector<FrameCut> framesOn(const Stack& stack, const PlacedSheet& sheet);

/// Returns the cut lines on a sheet, in the order of its pieces. Within a cluster what coincides is cut once.
/// Errors: NotFound for a piece that is not in the stack; those of geometry::cutOnce.
/// Cost:   O(nodes); pieces of a cluster that touch cost a net of their edges.
base::Result<SheetCuts> cutsOn(const Stack& stack, const PlacedSheet& sheet,
                               const base::Progress& progress = {});

} // namespace thinline::design
