// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/CutPlan.h"

#include <string>
#include <vector>

/// Files that drive a plotter.
namespace thinline::formats::plotter {

inline constexpr double kUnitsPerMm = 40; ///< 1016 to the inch

/// A file for one tool: a machine that cannot be told to change it gets one file after the other.
struct PlotterFile {
    std::string name; ///< "load-2-1-score.plt": which load, which file of it
    std::string text;
    design::ToolKind tool = design::ToolKind::ShallowBlade;
};

/// Returns a load as plotter files in HP-GL, one for each stretch of passes with one tool.
/// Shape:  IN, the pen of the tool (1 pen, 2 stylus or wheel, 3 blade), lines as PU and PD with places, PU, SP0. Nothing else: no
///         force, no speed, no velocity. The pen is lifted first and last.
/// Units:  1016 to the inch, from the lower left corner of the mat, y up. Curves are chords within 10 um, places are
///         rounded to the nearest unit, 12.5 um at most.
/// Errors: InvalidArgument naming the piece when a line leaves the part of the mat that may be used: such a file could
///         drive a machine against its end.
/// Source: Hewlett-Packard, HP-GL; commands from memory.
base::Result<std::vector<PlotterFile>> writePlotter(const design::PlannedLoad& planned,
                                                    const design::Load& load);

} // namespace thinline::formats::plotter
