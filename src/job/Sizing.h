// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <functional>
#include <optional>

/// How large the design is. There is no hidden scale: sizing writes every measure anew, so that each number in a job
/// is the real one of the finished work.
namespace thinline::job {

/// How a design is sized.
struct SizeOptions {
    /// Margins (offsets, overlaps, tuck, clearances) grow with the design instead of staying as typed.
    bool growsMargins = false;
    bool operator==(const SizeOptions&) const = default;
};

/// Returns the job with every measure multiplied: what its sources are sized by, where they lie, moves, spacings,
/// outer measures, thresholds; margins as the options say. Nothing is traced, selected or arranged again.
/// Shape:  openings that a step filled for being small are the same ones ever after. Sheets, pins, lifts and stocks
///         stay.
/// Errors: InvalidArgument when letters cannot overlap at that size.
base::Result<Job> sizedBy(const State& state, double factor, const SizeOptions& options = {});
/// The same with a factor of its own for either direction: a stretch, noted with the sources it stretches.
base::Result<Job> stretchedBy(const State& state, double factorX, double factorY,
                              const SizeOptions& options = {});

/// Returns one source sized by a factor in either direction.
/// Errors: as sizedBy.
base::Result<Source> sizedSource(const Source& source, double factorX, double factorY,
                                 const SizeOptions& options = {});

/// A sized state, and what the person should know.
struct Sized {
    State state;
    std::string told; ///< a stretch, a jump in what can be reached; empty when there is nothing to tell
};

/// What is asked of a design: by how much it would have to grow.
using Growth = std::function<base::Result<double>(const State&)>;

/// Sizes the design by the one factor at which it asks for no more growth.
/// Shape:  margins that stay make the size no multiple of the factor, so it is found by replaying, at most eight
///         times. Where the answer jumps because a piece vanishes or comes, the nearest state below is taken and
///         the piece named.
/// Units:  met within 1e-9 where that is possible, else within `toleranceShare`.
/// Errors: those of `growth` and of making; Cancelled.
base::Result<Sized> sizedFor(const State& state, const Growth& growth, double toleranceShare,
                             const SizeOptions& options = {}, const base::Progress& progress = {});

/// The finished design's own width or height, 1 to 2000 mm; proportions stay. Met within 0.001 mm.
base::Result<Sized> withWidth(const State& state, double widthMm, const SizeOptions& options = {},
                              const base::Progress& progress = {});
base::Result<Sized> withHeight(const State& state, double heightMm, const SizeOptions& options = {},
                               const base::Progress& progress = {});
/// Both: a stretch where the proportions are others, which is told.
base::Result<Sized> withSize(const State& state, double widthMm, double heightMm,
                             const SizeOptions& options = {}, const base::Progress& progress = {});
/// So many times as large as it is.
base::Result<Sized> scaled(const State& state, double factor, const SizeOptions& options = {},
                           const base::Progress& progress = {});

} // namespace thinline::job
