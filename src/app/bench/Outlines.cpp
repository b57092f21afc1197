// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Outlines.h"

#include "job/SourceSteps.h"

#include <cmath>

namespace thinline::app {

std::shared_ptr<const Outlines::Known> Outlines::known(const std::shared_ptr<const design::Body>& body) {
    if (auto found = m_known.find(body))
        return found;
    auto made = std::make_shared<Known>();
    made->box = geometry::bounds(body->shape);
    m_known.keep(body, made);
    return made;
}

std::shared_ptr<const geometry::Polygons> Outlines::flat(const std::shared_ptr<const design::Body>& body,
                                                         double pxPerMm) {
    const int octave = static_cast<int>(std::ceil(std::log2(std::max(pxPerMm, 1e-3))));
    const auto known = this->known(body);
    const std::lock_guard lock(known->guard);
    auto& kept = known->flat[octave];
    if (!kept) {
        constexpr size_t kMostOctaves = 3; // while somebody zooms, the older ones go
        if (known->flat.size() > kMostOctaves)
            known->flat.erase(octave < known->flat.rbegin()->first ? std::prev(known->flat.end())
                                                                   : known->flat.begin());
        known->flat[octave] = std::make_shared<const geometry::Polygons>(
            geometry::flatten(body->shape, 0.25 / std::exp2(octave)));
        return known->flat[octave];
    }
    return kept;
}

geometry::Box Outlines::placeOf(const std::shared_ptr<const job::Source>& source) {
    if (const auto found = m_places.find(source))
        return *found;
    const auto made = std::make_shared<const geometry::Box>(job::placeOfSource(*source));
    m_places.keep(source, made);
    return *made;
}

void Outlines::learn(const job::Job& job, const job::Made& made) {
    for (const auto& source : job.sources)
        placeOf(source);
    if (!made.finished)
        return;
    const job::Finished& finished = *made.finished;
    for (const design::Laid& laid : finished.stack.pieces)
        known(laid.piece.body);
    design::sectionOf(finished.stack, finished.heights, design::acrossMiddle(finished.measures.box), m_sections);
}

} // namespace thinline::app
