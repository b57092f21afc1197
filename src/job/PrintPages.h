// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/FaceArt.h"
#include "job/Making.h"
#include "print/Page.h"

/// The pages of a job: its sheets of printed stocks, as they go through the printer before they go through the cutter.
namespace thinline::job {

struct PrintPage {
    std::size_t load = 0, sheet = 0; ///< of the arrangement
    std::string stockId;
    print::PageLayout layout; ///< as the sheet lies on its mat
    print::PageNumber number;
    double bleedMm = 0;
    bool hasFront = false, hasBack = false; ///< something is printed there
    std::string name = {};                  ///< "page 2 of 3"
};

/// Returns every page of a state with sheets, in the order of its loads; none without.
std::vector<PrintPage> printPagesOf(const State& state);

/// A piece on a page: its body, and how it lies there.
struct OnPage {
    design::CopyOf what;
    std::shared_ptr<const design::Body> body;
    design::Side side;          ///< that is seen on this face of the page
    geometry::Transform toPage; ///< from mm in the design to mm on the page
};
/// Returns what lies on a face of a page. Its back is the page turned over about its upright middle.
std::vector<OnPage> piecesOn(const State& state, const PrintPage& page, bool isBack);

/// Returns a face of a page as it is printed: its pieces, without marks.
/// Shape:  white where nothing is printed; so many dots to the inch as the job says, or as asked.
/// Errors: those of decodedArt and print::paint; LimitExceeded beyond raster::kMostPixels; Cancelled.
/// Cost:   O(pixels).
struct PrintedPage {
    raster::Canvas picture;
    double pxPerMm = 0;
    std::int64_t extended = 0, bare = 0; ///< pixels, see print::Painted
    raster::Grey mask = {};              ///< 255 where anything is printed, also white; empty unless wanted
};
base::Result<PrintedPage> paintedPage(const State& state, const PrintPage& page, bool isBack, double dpi,
                                      const Decoded& art, const base::Progress& progress = {},
                                      bool wantsMask = false);

/// Adds marks, bar, number and ruler to a painted page.
void addMarks(PrintedPage& painted, const PrintPage& page, bool isBack);

} // namespace thinline::job
