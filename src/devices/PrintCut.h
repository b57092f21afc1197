// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "devices/Camera.h"
#include "print/Page.h"
#include "registration/Solve.h"
#include "registration/StandingError.h"

#include <optional>

/// A printer, a hand that lays the page, a sensor and a blade that ship with the program: what comes of printing and cutting before
/// ink and paper are spent.
namespace thinline::devices {

/// What is not as it should be. Lengths in mm on the machine; everything about the middle of the page.
struct PrintErrors {
    double scaleX = 1, scaleY = 1; ///< of the printer: 1.004 prints four thousandths too large
    double printTurnDeg = 0;       ///< the print on its paper
    geometry::Point printShiftMm{};
    geometry::Point feedShiftMm{}; ///< the paper on the mat
    double feedTurnDeg = 0;
    geometry::Point standingMm{}; ///< the blade beside where the sensor says it is
    double sensorMm = 0;          ///< standard deviation of a mark's place, each way
    unsigned seed = 1;            ///< of that
};

/// Returns where a place of a page, as it is meant, lies on the machine once it was printed and laid; the page's corner would
/// untouched lie at the machine's origin.
geometry::Transform lyingBy(const PrintErrors& errors, const print::PageLayout& layout);

/// What the sensor says of the marks of a page.
std::vector<registration::Mark> sensed(const PrintErrors& errors, const print::PageLayout& layout);
/// The same from a photo that a camera over the machine takes: the picture is looked at for marks, and what is found is brought to
/// the machine by where the camera hangs.
/// Errors: Cancelled.
struct Photographed {
    raster::Picture photo;
    std::vector<registration::Mark> marks; ///< those that were found
    std::optional<registration::Mark> bar; ///< when it was seen on one side
    std::optional<print::PageNumber> number;
    double worstPx = 0;  ///< beside where they truly are in the photo
    double likeness = 0; ///< of the least clear one
    int strangers = 0;   ///< found where none is
};
base::Result<Photographed> photographed(const raster::Picture& page, double pxPerMm,
                                        const PrintErrors& errors, const print::PageLayout& layout,
                                        const CameraLook& look, const base::Progress& progress = {});

/// Where cuts go when they follow a registration and a standing error that was accepted.
struct CutAgainstPrint {
    geometry::Transform
        onPrint; ///< from where a cut is meant on the page to where it lies on the print as it came out
    double worstMm = 0; ///< the furthest it is from there, of the places asked
};
CutAgainstPrint cutBy(const registration::Registration& found, const PrintErrors& errors,
                      const std::optional<registration::StandingError>& accepted,
                      const print::PageLayout& layout, const std::vector<geometry::Point>& places);

/// How far errors may go; each is drawn evenly between nothing and that, either way. Usual for a home printer and a cutter that reads
/// marks; from memory.
struct ErrorRanges {
    double scale = 0.004, printTurnDeg = 0.15, printShiftMm = 1, feedShiftMm = 2, feedTurnDeg = 1,
           standingMm = 0.4, sensorMm = 0.04;
};
enum class ErrorSource { Printer, Feed, Standing, Sensor };
inline constexpr std::array<const char*, 4> kErrorSourceWords{"printer", "feed", "standing", "sensor"};

/// What is done about errors.
struct Remedies {
    bool isRead = true;       ///< the marks are read; else the page is cut where it is meant to lie
    bool isCalibrated = true; ///< the standing error is taken off, as a calibration sheet lets it be measured
};
/// Returns how far cuts are from their print in many seeded runs, the least first; only some sources of error when they are named.
/// Cost:   O(runs).
std::vector<double> worstOf(int runs, const ErrorRanges& ranges, const print::PageLayout& layout,
                            const Remedies& remedies, const std::vector<ErrorSource>& only = {},
                            unsigned seed = 1);
/// Returns the share of runs in which print that goes so far beyond the cut leaves no white.
double coveredBy(const std::vector<double>& worst, double bleedMm);

} // namespace thinline::devices
