// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Piece.h"

#include <map>
#include <string>
#include <vector>

/// How pieces stand together once they are folded and glued: what their own folds do not say.
namespace thinline::design {

/// A place on a piece, through its thickness.
struct Spot {
    std::string piece;  ///< its key; of a piece that is there several times "pane:2"
    geometry::Point at; ///< mm, as the piece is drawn
    double outMm = 0;   ///< from the middle of the card towards its front
};
/// Two places that are one in the finished work.
struct Meeting {
    std::string name; ///< "the lap": meetings of one name are one joint
    Spot a, b;
};
/// A card that is rolled bends along many lines that no tool makes. Of a card with bends its curved folds are among them, facet
/// by facet.
struct Bend {
    geometry::Line path; ///< straight, mm, as the piece is drawn
    double angleDeg = 0;
    bool isTowards = false; ///< towards the viewer, as Fold has it
    bool gives = false;     ///< what lies beside it does not hang together here: a tooth, which bows
    bool isCrease = false;  ///< a facet of a curved fold, not of a roll: it is seen, and folds as folds do
};
struct FoldedForm {
    std::map<std::string, std::vector<Bend>> bends; ///< by piece
    std::vector<Meeting> meetings;
    std::vector<std::string> order; ///< pieces as they are put together; the first stays where it is

    bool isEmpty() const { return order.empty(); }
};

} // namespace thinline::design
