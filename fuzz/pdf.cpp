// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any bytes as a PDF file, drawn in place: pages that would take all time and memory are the business of the process
// they are drawn in, so this one is run with -ignore_ooms and -ignore_timeouts.

#include "formats/pdf/ReadPdf.h"

#include <cmath>
#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto page = formats::pdf::readPage({data, data + size}, 0);
    if (page && !(std::isfinite(page->widthMm) && std::isfinite(page->heightMm) && page->widthMm > 0 &&
                  page->heightMm > 0))
        std::abort();
    return 0;
}
