// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/PageReader.h"
#include "base/Result.h"

#include <string>

/// Takes pages out of PDF files.
namespace thinline::formats::pdf {

/// Returns a page of a file (0 is the first), drawn here and now: it may take any time and memory, which is why the
/// program has base::PageReader do it.
/// Errors: ParseError (no PDF, damaged), Unsupported (locked by a password), NotFound (no such page); LimitExceeded
///         for a page without vectors above 100 megapixels.
/// Cost:   that of drawing the page once, and once more as a picture when it has no vectors.
base::Result<base::PdfPage> readPage(const base::Bytes& file, int page = 0);

} // namespace thinline::formats::pdf
