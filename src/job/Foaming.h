// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Heights.h"
#include "job/Making.h"

/// Foam under the lifted pieces of a whole work; for the finish.
namespace thinline::job {

/// Another piece that carries one that is lifted: it lies under it, or above one behind the base.
struct FoamCarrier {
    std::shared_ptr<const design::Body> body;
    design::PieceId id;
    double heightMm = 0; ///< between the two
    bool operator==(const FoamCarrier&) const = default;
};
/// What the foaming remembers of a body.
struct FoamMemo {
    folds::FoamPlan plan;
    std::vector<FoamCarrier> on;
    std::shared_ptr<const design::Body> foamed;
    int spots = 0, armsWithout = 0;
};

/// Puts zones of foam onto the backs of pieces in front of the base that lie above what is under them, and onto the fronts of
/// pieces behind it that hang below what is above them.
/// Shape:  by heights as they are; ways and what is kept free get none. Each piece that needs foam is told.
/// Errors: Cancelled.
/// Cost:   O(rows) for each piece under one that is lifted; what lies on the same bodies as before is remembered.
base::Result<std::vector<FoamTold>> layFoam(const folds::FoamPlan& plan, design::Stack& work,
                                            const design::Heights& heights, design::RowMemory& rows,
                                            design::Remembered<FoamMemo>& memory,
                                            const base::Progress& progress);

} // namespace thinline::job
