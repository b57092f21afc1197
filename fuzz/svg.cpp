// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any bytes through the SVG reader: it reads or refuses, and what it gives is finite.

#include "formats/svg/ReadSvg.h"

#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto drawing =
        formats::svg::readSvg({reinterpret_cast<const char*>(data), size}, {.mostElements = 5000});
    if (!drawing)
        return 0;
    for (const design::DrawnItem& item : drawing->items)
        for (const auto& contour : item.contours)
            if (!geometry::isFinite(contour))
                std::abort();
    return 0;
}
