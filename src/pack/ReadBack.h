// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Progress.h"
#include "design/CutPlan.h"
#include "formats/pdf/WritePages.h"

#include <string>
#include <vector>

/// Written loads of every format, opened again and held against the plan. SVG is read by checkLoad of Package.h, the others here,
/// each by a reader that shares no code with its writer.
namespace thinline::pack {

/// What reading one file back found.
struct ReadBack {
    std::string name;
    int lines = 0;            ///< that were found
    double worstMm = 0;       ///< the largest difference of any box edge
    std::string problem = {}; ///< empty when all is well
};

/// SVG of areas and lines, by its own reader: as many, as long, all together as large and in their place.
ReadBack readBackSvg(const std::string& name, const base::Bytes& file,
                     const std::vector<geometry::Contour>& wanted);
/// DXF, by dxflib: as many lines on every layer and as long; all of them together as large and in their place.
ReadBack readBackDxf(const std::string& name, const base::Bytes& file, const design::PlannedLoad& planned,
                     const design::Load& load);
/// A plotter file, which does some passes of a load, from one on: every line as often as its pass says, where it is planned.
ReadBack readBackPlotter(const std::string& name, const base::Bytes& file, const design::PlannedLoad& planned,
                         std::size_t firstPass, const design::Load& load);
/// A PDF of loads, by poppler: as many pages, as large; every planned line on the page of its load.
ReadBack readBackPdf(const std::string& name, const base::Bytes& file, const design::CutPlan& plan,
                     const design::Arrangement& arrangement, const base::Progress& progress = {});

/// Pages of text and drawings, by poppler: as many, as large, something on each.
ReadBack readBackPages(const std::string& name, const base::Bytes& file,
                       const std::vector<formats::pdf::Page>& pages);

/// How far lines read back may differ: chords within 10 um, a plotter's units of 25 um.
inline constexpr double kLineToleranceMm = 0.03;

} // namespace thinline::pack
