// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Progress.h"

namespace thinline::base {

/// A page of a PDF file, and what its file holds.
struct PdfPage {
    int pages = 0;                    ///< of the file
    double widthMm = 0, heightMm = 0; ///< of this page
    bool hasVectors = false;          ///< it draws outlines or letters, beside any pictures
    std::string svg; ///< the page as an SVG document in points, for the SVG reader: outlines and
                     ///< letters as paths, pictures left as they are
    Bytes png = {};  ///< of a page without vectors: the page as a picture of 300 pixels to the inch
};

/// The door to what draws PDF pages. A page is a program: a few bytes of it may draw for hours and fill the memory. So
/// the real twin, in `document`, has a process of its own do it, which is ended when it takes too much or is not wanted
/// any more. The twins in `tests/support` draw in place, or fail.
class PageReader {
  public:
    virtual ~PageReader() = default;

    /// Returns a page of a file (0 is the first). Safe from any thread.
    /// Errors: ParseError (no PDF, damaged), Unsupported (locked by a password), NotFound (no such page),
    ///         LimitExceeded (more than 8 s, 900 MB, or 64 MB of outlines; a picture above 100 megapixels),
    ///         IoError when there is nobody to draw it; Cancelled within a tenth of a second.
    virtual Result<PdfPage> page(const Bytes& file, int page, const Progress& progress) const = 0;
};

} // namespace thinline::base
