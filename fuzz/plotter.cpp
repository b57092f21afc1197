// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/plotter/ReadPlotter.h"

#include <cstdlib>

using namespace thinline;

/// Any bytes are read as a plotter file or refused with a sentence; what is drawn has numbers for places.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto page = formats::plotter::readPlotter({reinterpret_cast<const char*>(data), size});
    if (!page) {
        if (page.error().message.empty())
            std::abort();
        return 0;
    }
    for (const formats::plotter::Drawn& drawn : page->lines)
        for (const geometry::Point p : drawn.way)
            if (!(p.x == p.x && p.y == p.y))
                std::abort();
    return 0;
}
