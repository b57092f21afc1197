// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"
#include "formats/image/ImageFile.h"
#include "support/Drawings.h"
#include "support/Shapes.h"

#include <stdexcept>

/// Small jobs for tests of the upper floors.
namespace thinline::support {

/// A harbour shed in ink, 300 dpi, 60 x 45 mm: wall, door, round window, a flag with a gap when `hasGap`.
inline raster::Picture shedPicture(bool hasGap = false) {
    Drawing drawing(709, 531);
    drawing.ring(rectangle(60, 80, 590, 400), rectangle(72, 92, 566, 376));
    drawing.ring(rectangle(150, 260, 140, 214), rectangle(162, 272, 116, 190));
    drawing.ring(disc({460, 260}, 80), disc({460, 260}, 70));
    if (hasGap)
        drawing.fill(rectangle(526, 254, 18, 12), {255, 255, 255});
    return drawing.picture();
}

inline base::Bytes shedPng(bool hasGap = false) {
    return formats::image::encodePng(shedPicture(hasGap), 300);
}

template <class T>
T must(base::Result<T> result) {
    if (!result)
        throw std::runtime_error(result.error().message);
    return result.take();
}

/// The shed, opened and traced at its stated size.
inline document::Job tracedShed(bool hasGap = false) {
    const auto& catalogue = document::shippedCatalogue();
    const auto opened = must(document::openPicture(document::newJob(catalogue), shedPng(hasGap), "shed.png"));
    return must(document::traced(opened.job, *opened.picture, {}, catalogue));
}

inline document::Job arrangedShed() {
    return must(document::arranged(tracedShed(), document::shippedCatalogue().formats));
}

} // namespace thinline::support
