// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"
#include "geometry/Shape.h"
#include "lettering/Typeface.h"
#include "raster/Picture.h"

#include <memory>
#include <string>
#include <variant>
#include <vector>

/// Pages that are printed at true size.
namespace thinline::formats::pdf {

/// Lines drawn alike. Those that end where they began are closed.
struct Drawn {
    std::vector<geometry::Contour> lines;
    double widthMm = 0.25;
    double grey = 0;                 ///< 0 is black
    std::vector<double> dashMm = {}; ///< on, off; empty for a line without gaps
    std::string layer = {}; ///< that can be shown and hidden by itself; lines of one name are one layer
    std::string step =
        {}; ///< what a finisher does along that layer: "Cutting", "Creasing"; empty for nothing
};

/// A word or two, beginning at a point of its base line.
struct Label {
    geometry::Point at;
    std::string text; ///< UTF-8; signs beyond Latin-1 become a question mark
    double heightMm = 3.5;
};

/// Areas of one colour; where they overlap they count once.
struct Filled {
    std::vector<geometry::Contour> areas; ///< by the orientation rule of shapes
    raster::Rgb colour{};
    std::string layer = {}; ///< as in Drawn
};

/// A line of text in a typeface of the program's own, beginning at a point of its base line.
struct Written {
    geometry::Point at;
    double sizeMm = 3.5; ///< of an em
    std::string text;    ///< UTF-8
    std::shared_ptr<const lettering::GlyphRun> run;
    raster::Rgb colour{};

    double widthMm() const { return run->advance * sizeMm; }
};

struct Pictured {
    geometry::Box at;
    std::shared_ptr<const raster::Picture> picture;
};

/// From here on only what lies in the box is drawn; an empty box ends that.
struct ClipTo {
    geometry::Box box;
};

using Painted = std::variant<Filled, Drawn, Written, Pictured, ClipTo>;

/// Everything in mm from the upper left corner of the page, y down.
struct Page {
    double widthMm = 0, heightMm = 0;
    geometry::Box window = {}; ///< outside it nothing of `inside` is drawn
    std::vector<Drawn> inside = {};
    std::vector<Drawn> marks = {}; ///< drawn whole
    std::vector<Label> labels = {};
    std::vector<Painted> painted = {}; ///< before all others, in this order
    geometry::Box trim = {};           ///< what is left once it is cut; empty: the page
    geometry::Box bleed = {};          ///< how far print reaches; empty: the trim
};

/// Returns a PDF file of pages, each as large as it says.
/// Units:  kept to 0.1 um.
/// Errors: InvalidArgument without pages, for a page outside 10 to 5000 mm a side or a number that is none.
/// Cost:   O(segments). The same pages give the same bytes.
/// Source: ISO 32000-1 (content streams, optional content); processing steps as ISO 19593-1 has them, from memory; labels are in Helvetica, one of its standard typefaces. Written lines carry their own
///         outlines (Type 3 fonts) and can be searched and copied.
/// `profile`: an ICC profile that says what the colours of pictures are; without one they are the device's.
base::Result<base::Bytes> writePages(const std::vector<Page>& pages, const std::string& title,
                                     const base::Bytes& profile = {});

} // namespace thinline::formats::pdf
