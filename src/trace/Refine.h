// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "geometry/Shape.h"
#include "trace/Remainder.h"

namespace thinline::trace {

/// Returns a border's curve with its nodes and handles moved to where they explain the picture best: each
/// pixel is held against the part of it that lies to the right of the curve. Where much is left unexplained a
/// corner, a short side or a bend is put in, and short steps that nothing asks for go.
/// Shape:  straight steps stay straight, smooth joins smooth; both ends of an open curve stay. The curve as
///         given where nothing better is found, or the picture shows no edge between two plain sides; as far
///         as it came when it is cancelled. In haste fewer rounds are made and only what shows most is
///         mended.
/// Cost:   O(n) in the length of the border, a few rounds; more for every place that is explained badly.
/// Source: Gauss-Newton steps on the pixels' coverage, held back as by Levenberg and Marquardt.
geometry::Contour refined(const geometry::Contour& curve, bool isRing, const geometry::Polygon& pixelPath,
                          Remainder& remainder, bool isHasty = false, const base::Progress& progress = {});

} // namespace thinline::trace
