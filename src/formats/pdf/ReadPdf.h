// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"

#include <string>

/// Takes pages out of PDF files.
namespace thinline::formats::pdf {

/// What a file holds.
struct PdfFacts {
    int pages = 0;
    double widthMm = 0, heightMm = 0; ///< of the page asked for
    bool hasVectors = false;          ///< the page draws outlines or letters, beside any pictures
};
/// Returns the facts of a file and one page (0 is the first).
/// Errors: ParseError (no PDF, damaged), Unsupported (locked by a password), NotFound (no such page).
base::Result<PdfFacts> factsOf(const base::Bytes& file, int page = 0);

/// Returns a page as an SVG document in points, for the SVG reader: outlines and letters as paths, pictures
/// left as they are.
/// Errors: as factsOf.
/// Cost:   that of drawing the page once.
base::Result<std::string> pageAsSvg(const base::Bytes& file, int page = 0);

/// Returns a page as PNG bytes at a resolution.
/// Errors: as factsOf; LimitExceeded above 100 megapixels.
base::Result<base::Bytes> pageAsPng(const base::Bytes& file, int page, double dpi);

} // namespace thinline::formats::pdf
