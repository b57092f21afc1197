// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/PageWire.h"

#include <sstream>

namespace thinline::document {

using base::Code;
using base::Error;

std::string wireOf(const base::Result<base::PdfPage>& page) {
    std::ostringstream out;
    out.precision(17);
    if (!page) {
        out << "error " << static_cast<int>(page.error().code) << "\n" << page.error().message;
        return out.str();
    }
    out << "page " << page->pages << " " << page->widthMm << " " << page->heightMm << " " << page->hasVectors
        << " " << page->svg.size() << " " << page->png.size() << "\n"
        << page->svg;
    out.write(reinterpret_cast<const char*>(page->png.data()),
              static_cast<std::streamsize>(page->png.size()));
    return out.str();
}

base::Result<base::PdfPage> pageFromWire(const std::string& wire) {
    const Error broken{Code::ParseError, "The page of this PDF file could not be drawn; save it anew."};
    const size_t end = wire.find('\n');
    if (end == std::string::npos)
        return broken;
    std::istringstream head(wire.substr(0, end));
    const std::string rest = wire.substr(end + 1);
    std::string word;
    head >> word;
    if (word == "error") {
        int code = 0;
        head >> code;
        const bool isKnown = head && code >= 0 && code <= static_cast<int>(Code::Cancelled);
        return isKnown ? Error{static_cast<Code>(code), rest} : broken;
    }
    base::PdfPage out;
    size_t svg = 0, png = 0;
    head >> out.pages >> out.widthMm >> out.heightMm >> out.hasVectors >> svg >> png;
    if (word != "page" || !head || svg > rest.size() || png != rest.size() - svg)
        return broken;
    out.svg = rest.substr(0, svg);
    out.png.assign(rest.begin() + static_cast<std::ptrdiff_t>(svg), rest.end());
    return out;
}

} // namespace thinline::document
