// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Opening.h"

namespace thinline::job {

/// Returns the pictures a drawing holds; none of one that is no SVG.
/// Cost: that of reading it once more, where it holds any.
base::Result<std::vector<design::DrawnPicture>> picturesIn(const Incoming& file, const base::FontStore& fonts,
                                                           const base::Progress& progress = {});

/// Prints the pictures of a drawing that has just come in as the source of the highest number: each on the uppermost of its pieces
/// that holds the picture's middle, where it lies. What lies on no piece is left out and said.
/// Errors: those of making; Cancelled. A picture that cannot be read is left out and said.
base::Result<Noted> withDrawnPictures(const State& before, Noted came,
                                      const std::vector<design::DrawnPicture>& pictures,
                                      const std::string& fileName, const base::Progress& progress = {});

} // namespace thinline::job
