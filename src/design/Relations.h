// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Step.h"

/// What belongs together, and what goes into what.
namespace thinline::design {

/// Pieces that must keep one scale because they fit each other.
struct PieceSet {
    std::string name;
    std::vector<PieceId> pieces;

    bool operator==(const PieceSet&) const = default;
};

enum class FitKind {
    IntoOpening, ///< a plug into an opening of another piece
    LidOver      ///< a lid over a base whose wall has the base's thickness
};

/// A stated relation between two pieces, checked for ever after.
struct Fit {
    PieceId inner; ///< the plug, or the base
    PieceId outer; ///< the piece with the opening, or the lid
    FitKind kind = FitKind::IntoOpening;
    geometry::Point opening; ///< a point inside the opening, in the own units of the outer piece's source, so
                             ///< that it is found again at any size and place
    double clearanceMm = 0.2; ///< kept free on every side; card cut by a knife needs little (from memory)

    bool operator==(const Fit&) const = default;
};

/// How a fit stands.
struct FitState {
    bool isThere = false;  ///< both pieces, and the opening, exist
    double rightScale = 0; ///< the inner piece would just fit at this many times its size
    double playMm = 0; ///< how much wider and higher the inner piece could be; negative: by how much it jams
    geometry::Box place; ///< of the opening or the lid

    /// Jams by more than a knife can follow.
    bool jams() const { return isThere && playMm < -0.01; }
    /// So loose that something else was meant.
    bool isLoose() const { return isThere && playMm > 1.0; }
};

/// Returns how a fit stands between two pieces.
/// Shape:  the inner piece, as it lies, is laid middle to middle into the room (the opening, or the lid's
///         filled outline) shrunk by the clearance, and by the wall's thickness under a lid; it is not
///         turned. For pieces alike in shape this is exact; for others it errs to the safe side.
/// Units:  mm; `thicknessMm` is the inner piece's stock. The right scale is found to 1e-5.
/// Errors: those of the set operations; Cancelled.
/// Cost:   one offset, then about 20 subtractions.
base::Result<FitState> checkFit(const Piece& inner, const Piece& outer, const Fit& fit, double thicknessMm,
                                const base::Progress& progress = {});

/// Returns the index of the opening that holds a point of the design; nothing when none does.
std::optional<size_t> openingAt(const geometry::Shape& shape, geometry::Point at);

} // namespace thinline::design
