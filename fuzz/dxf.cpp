// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any bytes through the DXF reader: it reads or refuses, and what it gives is finite.

#include "formats/dxf/ReadDxf.h"

#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto drawing =
        formats::dxf::readDxf({reinterpret_cast<const char*>(data), size}, {.mostSegments = 20'000});
    if (!drawing)
        return 0;
    for (const design::DrawnItem& item : drawing->items)
        for (const auto* contours : {&item.contours, &item.lines})
            for (const auto& contour : *contours)
                if (!geometry::isFinite(contour))
                    std::abort();
    return 0;
}
