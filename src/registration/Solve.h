// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Point.h"

#include <optional>
#include <vector>

/// From where a sensor saw printed marks to where the cuts go.
namespace thinline::registration {

/// A mark: where it was printed on the page, and where the machine saw it. Millimetres.
struct Mark {
    geometry::Point printed, seen;
};

/// Returns the shift, turn and even scale that bring printed marks to where they were seen, with the least sum of squares.
/// Errors: InvalidArgument for fewer than two marks, or marks all at one place.
/// Source: S. Umeyama, Least-squares estimation of transformation parameters between two point patterns, IEEE Trans. PAMI 13(4),
///         1991; without mirroring.
base::Result<geometry::Transform> similarityOf(const std::vector<Mark>& marks);
/// The same with a scale of its own in each direction, and shear.
/// Errors: InvalidArgument for fewer than three marks, or marks on one line.
base::Result<geometry::Transform> affineOf(const std::vector<Mark>& marks);

/// Beyond these a page is not cut: something is wrong that no arithmetic mends.
struct Limits {
    double turnDeg = 3;      ///< askew; further the print would leave the reach of the cut
    double scale = 0.02;     ///< larger or smaller than it should be: it was printed to fit a page
    double shearDeg = 0.5;   ///< out of square
    double residualMm = 0.5; ///< from where a mark should be
    double evenMm = 0.15;    ///< four marks that are no further off fit one another
};

struct Registration {
    geometry::Transform map; ///< from mm on the page to mm on the machine
    geometry::Point shiftMm; ///< of the middle of the marks, beside where they would be untouched
    double turnDeg = 0;
    double scaleX = 1, scaleY = 1;
    double shearDeg = 0;                     ///< 0 where it was not solved
    bool hasShear = false;                   ///< four marks served
    std::vector<double> residualsMm;         ///< of every mark, as given
    std::optional<std::size_t> leftOut = {}; ///< a mark that does not fit the others
};

/// Returns where a page lies.
/// Shape:  by three marks shift, turn and scale; by four also shear. Of four one that does not fit the others is left out and
///         told. `bar` is where the page's bar was seen, when it was.
/// Errors: InvalidArgument for fewer than three marks, or a coordinate that is not finite; Degenerate in a sentence with what to
///         do for a page that lies upside down, face down, too far askew, was not printed at true size, or is another one.
/// Cost:   O(1).
base::Result<Registration> registered(const std::vector<Mark>& marks, const std::optional<Mark>& bar = {},
                                      const Limits& limits = {});

} // namespace thinline::registration
