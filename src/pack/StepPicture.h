// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/AssemblySteps.h"
#include "pack/Leaf.h"

#include <set>

/// What one step looks like.
namespace thinline::pack {

/// Draws the steps of a work.
class StepPictures {
  public:
    StepPictures(const design::Stack& stack, const design::Heights& heights,
                 const assembly::Instructions& told);

    /// Whether a step is better seen than read.
    static bool hasPicture(const assembly::Step& step);

    /// Draws a step of an assembly into a box of a page: what is there in grey, what is new in colour, with its numbers; where it
    /// is hatched there is glue, rings are foam, dashes are folds away from the maker, dots towards her. From behind it is mirrored.
    void draw(Leaf& leaf, const geometry::Box& into, const assembly::Assembly& in, std::size_t step) const;

    /// Draws the outline of a piece, as large as the box lets it be, and returns by how much it was scaled.
    double drawPiece(Leaf& leaf, const geometry::Box& into, design::PieceId piece) const;

    /// The height a picture wants that is so wide: by what it shows, at most `mostMm`.
    double heightFor(const assembly::Assembly& in, std::size_t step, double widthMm, double mostMm) const;

  private:
    struct View;
    View viewOf(const assembly::Assembly& in, std::size_t step) const;
    void drawOver(Leaf& leaf, const View& view, const assembly::Step& step, const geometry::Transform& map,
                  double scale) const;
    void collect(const assembly::Assembly& in, std::set<std::size_t>& out) const;
    std::size_t placeOf(design::PieceId piece) const { return m_places.at(piece); }
    raster::Rgb tintOf(std::size_t piece) const;

    const design::Stack& m_stack;
    const design::Heights& m_heights;
    const assembly::Instructions& m_told;
    std::map<design::PieceId, std::size_t> m_places;
};

} // namespace thinline::pack
