// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Remembered.h"
#include "design/Section.h"
#include "job/Making.h"
#include "job/PrintLooks.h"

#include <map>

namespace thinline::app {

/// What drawing wants to know of bodies and sources, found out once for each and kept while it lives. Safe from any thread.
class Outlines {
  public:
    geometry::Box box(const std::shared_ptr<const design::Body>& body) { return known(body)->box; }
    /// Returns the outline fine enough for a zoom (a quarter pixel at the next power of two), mm of the design.
    std::shared_ptr<const geometry::Polygons> flat(const std::shared_ptr<const design::Body>& body,
                                                   double pxPerMm);
    /// Returns where a source lies, as job::placeOfSource tells it.
    geometry::Box placeOf(const std::shared_ptr<const job::Source>& source);
    /// What cross-sections know of bodies.
    design::SectionMemory& sections() { return m_sections; }
    /// Finds out what a window that shows this job will ask first, so that nobody has to wait for it then: the boxes of
    /// sources and pieces, and the section through the middle.
    void learn(const job::Job& job, const job::Made& made);

    /// How printed pieces look; never null. Another value is put there whenever that changes.
    std::shared_ptr<const job::PrintLooks> prints() const {
        const std::lock_guard lock(m_printsGuard);
        return m_prints;
    }
    void showPrints(std::shared_ptr<const job::PrintLooks> prints) {
        const std::lock_guard lock(m_printsGuard);
        m_prints = std::move(prints);
    }

  private:
    struct Known {
        geometry::Box box;
        mutable std::mutex guard;
        mutable std::map<int, std::shared_ptr<const geometry::Polygons>> flat; ///< by zoom octave
    };
    std::shared_ptr<const Known> known(const std::shared_ptr<const design::Body>& body);

    design::Remembered<Known> m_known;
    design::Remembered<geometry::Box, job::Source> m_places;
    design::SectionMemory m_sections;
    mutable std::mutex m_printsGuard;
    std::shared_ptr<const job::PrintLooks> m_prints = std::make_shared<const job::PrintLooks>();
};

} // namespace thinline::app
