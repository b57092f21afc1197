// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "folding/Model.h"

namespace thinline::folding {

/// Where every leaf stands.
struct Posed {
    std::vector<std::vector<Stand>> leaves; ///< by sheet
};

/// Returns how all cards stand, from flat (0) to done (1).
/// Shape:  the first card's root leaf stays as it is drawn. Laps and flaps turn first, then what they hang on; meanwhile the
///         other cards come nearer. Done, a card stands where its meetings with those before it are met best in the sense
///         of least squares; one that meets none lies beside them.
/// Cost:   O(leaves).
/// Source: B. K. P. Horn, Closed-form solution of absolute orientation using unit quaternions, 1987.
Posed posed(const Model& model, double done);

/// How well one joint of the finished work closes.
struct Closing {
    std::string name; ///< of its meetings; "the folds of ..." where folds close a ring
    double gapMm = 0; ///< the farthest two places that should be one are apart
    Vec place;        ///< there
    std::string a, b; ///< the cards, by key
};
/// Returns every joint, the worst first.
std::vector<Closing> closingsOf(const Model& model, const Posed& finished);
/// A joint open wider than this does not hold.
inline constexpr double kMostGapMm = 0.3;

/// Two panels that pass through one another.
struct Clash {
    std::string a, b; ///< names of the cards
    Vec place;
};
/// Returns where panels of finished work pass through one another, one place for two cards.
/// Shape:  panels that hang together by a fold or meet by a joint may touch; all others are looked at with their edges taken
///         back by the cards' thickness and kTouchMm.
/// Errors: Cancelled.
/// Cost:   O(edges of both) for every two leaves whose boxes in space meet.
base::Result<std::vector<Clash>> clashesOf(const Model& model, const Posed& finished,
                                           const base::Progress& progress = {});
inline constexpr double kTouchMm = 0.6;

/// A print that faces another card of the finished work, so that nobody sees it.
struct Inside {
    std::string card; ///< the name of the card it is printed on
    design::Face::Kind what{};
    std::string against; ///< the name of the card it faces
    double awayMm = 0;   ///< how far off that is

    /// "the text on the wall faces the lid, 12.0 mm off, once all is folded".
    std::string sentence(base::LengthUnit unit = base::LengthUnit::Millimetre) const;
};
/// Returns the prints that are inside when all is done, in the order of the cards.
/// Shape:  each is looked out from at its middle, straight away from its card; colours that are all over a card are not asked.
/// Cost:   O(prints x leaves' corners).
std::vector<Inside> printsInside(const Model& model, const Posed& finished);

/// Returns the volume that leaves enclose, mm3; only of use where they close, their fronts outwards.
/// Source: the divergence theorem.
double volumeOf(const Model& model, const Posed& finished);

} // namespace thinline::folding
