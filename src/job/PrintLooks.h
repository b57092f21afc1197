// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/FaceArt.h"
#include "job/Making.h"

#include <map>

/// What printed pieces look like, for views: painted once for each body.
namespace thinline::job {

/// A side of a piece as it looks printed: ink on the colour of its stock.
struct PrintLook {
    std::shared_ptr<const raster::Picture> picture;
    geometry::Box box; ///< where the picture lies, mm in the design
};

struct PrintLooks {
    struct Of {
        std::shared_ptr<const design::Body> body;
        design::Side side;
        raster::Rgb paper;
    };
    struct Known {
        Of of;
        std::shared_ptr<const PrintLook> look;
    };
    std::vector<Known> known;
    Decoded art;
    std::string problem; ///< why something cannot be shown, a sentence

    /// Returns how a side looks; null when nothing is printed on it.
    std::shared_ptr<const PrintLook> find(const design::Body* body, design::Side side) const;
};

/// Returns the looks of all printed pieces; those of `before` that are the same are taken over.
/// Shape:  at most kLookPx on the longer side of a piece.
/// Errors: Cancelled; what cannot be shown is told in `problem`.
base::Result<PrintLooks> printLooks(const Job& job, const design::Stack& work, const PrintLooks& before,
                                    const base::Progress& progress = {});
inline constexpr int kLookPx = 1100;

/// Returns ink on paper: where nothing is printed the paper's colour, white ink there is none.
raster::Picture onPaper(raster::Picture print, raster::Rgb paper);

} // namespace thinline::job
