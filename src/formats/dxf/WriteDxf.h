// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/CutPlan.h"

/// Writes DXF drawings for machines that take no SVG. What reads them back shares nothing with this.
namespace thinline::formats::dxf {

/// Which edition of the format.
enum class Edition {
    R12,    ///< every program reads it; curves are chords
    Splines ///< release 2000: it states millimetres, curves are kept
};

/// Returns a load as a DXF drawing: a layer for each pass, in their order, the lines in the order and direction of the plan.
/// Shape:  text form, R12, which every program reads: lines are POLYLINEs, closed ones marked so; curves are chords within
///         10 um. Layers bear the names of the groups of the SVG file in capitals, 31 signs at most; cuts are white, scores
///         blue, perforations magenta, what is drawn green. R12 knows no unit (from memory): a comment says mm, and a line of
///         50 mm lies on a layer of its own where nothing is cut. With splines a line of straight steps is an LWPOLYLINE, any
///         other one SPLINE of degree 3 that has the curves' own control points, its straight steps raised exactly.
/// Units:  mm ($INSUNITS 4), from the lower left corner of the mat, y up; kept to 0.1 um.
/// Cost:   O(segments). The same plan gives the same text.
/// Source: DXF group codes of R12 and 2000; what sections and handles the latter wants is from memory.
std::string writeLoad(const design::PlannedLoad& planned, const design::Load& load,
                      Edition edition = Edition::R12);

/// Returns where the line of 50 mm begins, from the upper left corner of the mat.
geometry::Point rulePlace(const design::MatFormat& mat);

} // namespace thinline::formats::dxf
