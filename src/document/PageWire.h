// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/PageReader.h"

#include <string>

/// How a drawn page comes out of the process that drew it: a line of numbers, then the SVG document, then the picture;
/// or a line "error" with a code, then the sentence.
namespace thinline::document {

std::string wireOf(const base::Result<base::PdfPage>& page);
/// Errors: the one that was sent; ParseError when it breaks off.
base::Result<base::PdfPage> pageFromWire(const std::string& wire);

} // namespace thinline::document
