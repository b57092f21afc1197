// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "devices/MatAfter.h"
#include "formats/plotter/ReadPlotter.h"
#include "raster/Canvas.h"

/// What a plotter file, anybody's, would do on a mat.
namespace thinline::devices {

struct PlottedMat {
    design::PlannedLoad
        load;          ///< a pass for each stretch of one pen: 1 a pen, 2 a stylus, others the shallow blade
    geometry::Box box; ///< of everything
    int lines = 0;
    int closed = 0;         ///< outlines: each lets one part come free
    int open = 0;           ///< cuts that end where they did not begin
    bool staysOnMat = true; ///< on the part of it that may be used
    bool endsLifted = false;
};

/// Returns what a file does on a mat, at the speeds of a machine. A line is closed when its ends meet within two units.
/// Units:  mm from the upper left corner of the mat.
/// Cost:   O(places).
PlottedMat plottedOn(const formats::plotter::PlotterPage& page, const design::MatFormat& mat,
                     const design::Machine& machine);

/// Shows on a picture what comes off the mat: free pieces pale, those not through and those still held in the colour of a warning,
/// a ring round every strip that tears and every place where something goes wrong.
/// Cost:   O(nodes of the pieces).
void showAfter(raster::Canvas& canvas, const MatAfter& after, const design::Load& load,
               const design::Stack& stack, double pxPerMm);

/// Returns a picture of a mat after so many seconds of a load: sheets if there are, and what was done.
/// Cost:   O(lines).
raster::Canvas pictureOf(const design::PlannedLoad& planned, const design::MatFormat& mat,
                         const std::vector<design::PlacedSheet>& sheets,
                         const std::vector<design::Stock>& stocks, const design::Machine& machine,
                         double seconds, double pxPerMm);

} // namespace thinline::devices
