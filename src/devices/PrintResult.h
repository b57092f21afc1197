// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "devices/PrintCut.h"
#include "job/Registering.h"

/// What lies in the hand after a page was printed, laid, found and cut on simulated machines.
namespace thinline::devices {

/// A piece that was cut from a printed page.
struct PrintedPiece {
    design::CopyOf what;
    double worstMm = 0;     ///< how far its cut is from where it belongs on the print
    double whiteMm2 = 0;    ///< of it shows bare paper that was meant to be printed
    bool isTextCut = false; ///< something that is read lost a part
};

struct PrintRun {
    PrintErrors errors;
    std::string whyNot; ///< why the page was not cut; empty when it was
    std::optional<registration::Registration> found;
    std::optional<Photographed> photo; ///< when a camera looked
    std::vector<PrintedPiece> pieces;
    raster::Picture
        picture; ///< the pieces as they come off, on a grey ground; the page as it was printed when it was refused
};

/// How a page is run.
struct RunOptions {
    bool hasCamera = false; ///< a camera looks for the marks; else a sensor says where they are
    bool isRead = true;     ///< else it is cut where it is meant to lie
    CameraLook camera = {};
};

/// Returns errors drawn from ranges by a seed; only of some sources when they are named.
PrintErrors errorsBy(unsigned seed, const ErrorRanges& ranges, const std::vector<ErrorSource>& only = {});

/// A camera over the machine as it usually hangs: a little aslant, with noise, blur and a shadow, drawn by a seed.
CameraLook usualCamera(unsigned seed);

/// Runs a page of a job.
/// Shape:  the job's calibration is taken off when it has one. The same errors give the same run.
/// Errors: those of job::paintedPage; Cancelled.
/// Cost:   O(pixels) at 150 dots to the inch; with a camera a second or two more.
base::Result<PrintRun> runOf(const job::State& state, const job::PrintPage& page, const PrintErrors& errors,
                             const job::Decoded& art, const RunOptions& options = {},
                             const base::Progress& progress = {});

/// What a run came to, in words.
std::string runText(const PrintRun& run);

} // namespace thinline::devices
