// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "design/Step.h"

/// How parts keep their names, whichever station parted them.
namespace thinline::design {

/// Returns whether two are parts of one piece that one step parted.
bool arePartsOfOne(PieceId a, PieceId b);

/// Gives the outlines into which a piece was parted their names, and remembers them.
class PartNames {
  public:
    /// `before`: the pieces after the step as it was last done; may be null.
    PartNames(const Step& step, const Pieces* before, const base::Progress& progress)
        : m_step(step.id), m_parts(step.parts), m_before(before), m_progress(progress) {}

    /// Returns the ids of the outlines `whole` was parted into.
    /// Shape:  a single one that never was several keeps the id, unless `prefix` says that it is something beside
    ///         the piece ("rest."). Others are matched one to one with the parts remembered: by the point inside
    ///         each where that is plain, else by largest common area. New ones get numbers never given here.
    base::Result<std::vector<PieceId>> name(PieceId whole, const geometry::Transform& placed,
                                            const std::vector<geometry::Shape>& shapes,
                                            const std::string& prefix = "");

    const std::vector<Part>& parts() const { return m_parts; }

  private:
    /// A part remembered of one piece, by its place in `m_parts`.
    struct Known {
        size_t index;
        PieceId id;
        geometry::Point at; ///< in the design
    };
    std::vector<Known> knownOf(PieceId whole, const geometry::Transform& placed,
                               const std::string& prefix) const;
    base::Result<std::vector<int>> match(const std::vector<Known>& known,
                                         const std::vector<geometry::Shape>& shapes) const;
    base::Status matchByArea(const std::vector<Known>& known, const std::vector<geometry::Shape>& shapes,
                             std::vector<int>& out, std::vector<bool>& isTaken) const;
    base::Result<double> commonArea(const Known& known, const geometry::Shape& shape) const;
    bool isGone(const Known& known) const { return m_parts[known.index].isGone; }

    StepId m_step;
    std::vector<Part> m_parts;
    const Pieces* m_before;
    const base::Progress& m_progress;
};

} // namespace thinline::design
