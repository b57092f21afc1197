// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "base/PageReader.h"
#include "job/Catalogue.h"
#include "job/Making.h"
#include "job/Source.h"
#include "raster/Picture.h"
#include "trace/Kind.h"

/// Files come in: what they are is found out once, and goes along with them.
namespace thinline::job {

/// What kind of file some bytes are, by what they hold.
enum class FileKind { Picture, Svg, Dxf, Pdf, Job };

struct Recognised {
    FileKind kind = FileKind::Picture;
    bool isDrawing = false; ///< to be taken as outlines: SVG, DXF, a PDF page that draws vectors
    std::shared_ptr<const base::Result<base::PdfPage>> page = {}; ///< of a PDF: its first page, or why it
                                                                  ///< cannot be read
    const base::PageReader* pages = nullptr;                      ///< who draws its other ones
};
/// Returns what a file is. Without somebody who draws pages, a PDF is one that cannot be read.
/// Cost: a look at its head; of a PDF its first page is drawn.
Recognised recognise(const base::Bytes& file, const base::PageReader* pages = nullptr,
                     const base::Progress& progress = {});

/// A file and what it is.
struct Incoming {
    const base::Bytes& bytes;
    std::string name; ///< without folders
    Recognised is;
};

/// A job, and what the person should know about the step that led to it.
struct Noted {
    Job job;
    std::string note; ///< empty when there is nothing to tell
};

/// Returns an empty job with the catalogue's drawer and defaults.
Job newJob(const Catalogue& catalogue);
/// Returns an empty job named after a file, with unit, drawer and sheets of the one before.
Job newJobFor(const std::string& fileName, const Job& before);

/// A fresh job around a picture file, with the picture's pixels.
struct OpenedPicture {
    Job job;
    std::shared_ptr<const raster::Picture> picture;
    std::string note;  ///< what the person should know: no resolution stated, an absurd one; else empty
    SourceId source{}; ///< what came in
    trace::Kind kind = {}; ///< what it was taken for
};
/// Notes what kind a picture is in its recipe.
Job withKind(Job job, const trace::Kind& kind, SourceId picture);
/// Says what a picture was taken for and why: "taken for flat colours: 8 colours, 3 % of their borders along lines".
std::string whatItWasTakenFor(const trace::Kind& kind);
/// Returns the job. The picture's real width comes from the file's resolution, or is 200 mm when it has none.
/// Errors: those of formats::image::decode, led by the file's name.
base::Result<OpenedPicture> openPicture(const Job& before, const Incoming& file);

/// Adds a picture to a job as it is, its origin at the design's.
/// Errors: as openPicture.
base::Result<OpenedPicture> pictureInto(Job job, const Incoming& file);

/// Returns the picture's pixels.
base::Result<std::shared_ptr<const raster::Picture>> pixelsOf(const Picture& picture);
base::Result<std::shared_ptr<const raster::Picture>> pixelsOf(const Job& job, SourceId of = {});

/// A fresh job around a drawing of outlines (SVG, DXF, a PDF page): every connected area is a piece, its stock
/// chosen by its colour. The size is the file's own; when the file states none, as CSS has it (96 units to the
/// inch; DXF: millimetres), and the note says so.
/// Errors: Unsupported for a file of another kind; those of the readers, led by the file's name; those of the set
///         operations; Cancelled.
base::Result<Noted> openDrawing(const Job& before, const Incoming& file, const Catalogue& catalogue,
                                const base::FontStore& fonts, const base::Progress& progress = {});

/// How large a drawing would be if its units meant this.
struct UnitGuess {
    std::string unit;  ///< "96", "90", "72" units to the inch; "mm", "cm", "in"
    std::string label; ///< "96 to the inch", "millimetres"
    double widthMm = 0, heightMm = 0;
};
/// Returns the guesses for a drawing that states no real size: 96, 90 and 72 to the inch; for DXF millimetres,
/// inches and centimetres. Empty for any other source.
/// Source: 96 by SVG and CSS; 90 and 72 from memory.
std::vector<UnitGuess> unitGuesses(const Source& source);

/// Returns what a page of a drawing comes to, as a source without id and place.
/// Shape:  pieces of layers left out are kept too, so that they can be taken later.
/// Errors: as openDrawing.
base::Result<Source> drawingFrom(const Incoming& file, const design::TakeOptions& take,
                                 const base::FontStore& fonts, const base::Progress& progress = {});

} // namespace thinline::job
