// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Remembered.h"
#include "design/Stack.h"
#include "job/PrintLooks.h"

#include <map>

namespace thinline::app {

/// What drawing wants to know of bodies, found out once for each and kept while it lives: its box, and its outline
/// flattened for a zoom. Safe from any thread.
class Outlines {
  public:
    geometry::Box box(const std::shared_ptr<const design::Body>& body) { return known(body)->box; }
    /// Returns the outline fine enough for a zoom (a quarter pixel at the next power of two), mm of the design.
    std::shared_ptr<const geometry::Polygons> flat(const std::shared_ptr<const design::Body>& body,
                                                   double pxPerMm);
    /// Finds out the boxes of a stack's pieces, so that nobody has to wait for them later.
    void learn(const design::Stack& stack);

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
    mutable std::mutex m_printsGuard;
    std::shared_ptr<const job::PrintLooks> m_prints = std::make_shared<const job::PrintLooks>();
};

} // namespace thinline::app
