// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "formats/pdf/ReadPdf.h"

/// Twins of the process that draws PDF pages.
namespace thinline::support {

/// Draws in place.
class PagesInPlace : public base::PageReader {
  public:
    base::Result<base::PdfPage> page(const base::Bytes& file, int page,
                                     const base::Progress&) const override {
        return formats::pdf::readPage(file, page);
    }
};

/// Fails as a page that is too much does.
class FailingPages : public base::PageReader {
  public:
    base::Result<base::PdfPage> page(const base::Bytes&, int, const base::Progress&) const override {
        return base::Error{base::Code::LimitExceeded,
                           "This page takes more than 8 seconds or 900 MB to be drawn."};
    }
};

} // namespace thinline::support
