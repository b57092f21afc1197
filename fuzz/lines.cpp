// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Any bytes as an SVG drawing whose lines are taken as whatever the last byte says: every line that comes out lies on its
// piece and is finite.

#include "formats/svg/ReadSvg.h"
#include "geometry/Measures.h"

#include <cstdint>
#include <cstdlib>

using namespace thinline;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto drawing = formats::svg::readSvg({reinterpret_cast<const char*>(data), size},
                                               {.mostElements = 500, .mostSegments = 2000});
    if (!drawing)
        return 0;
    design::TakeOptions options;
    const auto first = design::takenFrom(*drawing, options);
    if (!first)
        return 0;
    for (const design::LineKind& kind : first->kinds)
        options.lines[kind.key] = static_cast<design::DrawnAs>(data[size - 1] % 9);
    const auto taken = design::takenFrom(*drawing, options);
    if (!taken)
        return 0;
    for (const design::DrawnPiece& piece : taken->pieces)
        for (const design::PieceLine& line : piece.lines) {
            if (!geometry::isFinite(line.path) || line.path.segments.empty())
                std::abort();
            const geometry::Box box = geometry::bounds(piece.shape).grownBy(0.01),
                                own = geometry::bounds(line.path);
            if (!box.contains(own.least) || !box.contains(own.most))
                std::abort();
        }
    return 0;
}
