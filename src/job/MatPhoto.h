// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/CardSteps.h"
#include "raster/MatPhoto.h"

#include <array>

/// A photo of the loaded mat says which scraps lie where.
namespace thinline::job {

/// What was found on a mat, and what it is taken for.
struct OnMat {
    raster::Seen seen;
    raster::MatLook look;
    std::vector<std::string> stocks; ///< of every scrap the one whose colour is nearest
};

/// Returns what lies on the chosen mat in a photo of it.
/// Shape:  with `corners` they are where somebody put them, with the lens's bend that was found before; without, they are
///         looked for, and printed lines must be there too, or it is no mat.
/// Errors: Degenerate in a sentence where no mat is found; Cancelled.
base::Result<OnMat> foundOnMat(const State& state, const raster::Picture& photo,
                               const design::Formats& formats,
                               const std::optional<std::array<geometry::Point, 4>>& corners = {},
                               double bend = 0, const base::Progress& progress = {});

/// Takes scraps into a job where they lie, in the place of those of an earlier photo of this name.
/// Shape:  `stocks` says of every scrap what it is; an empty one leaves it out. What is not larger than its margin is left out.
/// Errors: as withScrap; InvalidArgument when nothing is left.
base::Result<Job> withScrapsOnMat(const Job& job, const OnMat& found, const std::vector<std::string>& stocks,
                                  const std::string& photoName);

/// Returns in words how well a photo was laid straight.
std::string straightText(const raster::GridLook& grid);

} // namespace thinline::job
