// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"

#include <string>

/// Takes pages out of PDF files.
namespace thinline::formats::pdf {

/// A page, and what its file holds.
struct PdfPage {
    int pages = 0;                    ///< of the file
    double widthMm = 0, heightMm = 0; ///< of this page
    bool hasVectors = false;          ///< it draws outlines or letters, beside any pictures
    std::string svg; ///< the page as an SVG document in points, for the SVG reader: outlines and
                     ///< letters as paths, pictures left as they are
};
/// Returns a page of a file (0 is the first).
/// Errors: ParseError (no PDF, damaged), Unsupported (locked by a password), NotFound (no such page).
/// Cost:   that of drawing the page once.
base::Result<PdfPage> readPage(const base::Bytes& file, int page = 0);

/// Returns a page as PNG bytes at a resolution.
/// Errors: as readPage; LimitExceeded above 100 megapixels.
base::Result<base::Bytes> pageAsPng(const base::Bytes& file, int page, double dpi);

} // namespace thinline::formats::pdf
