// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/FoldedForm.h"
#include "folding/Space.h"
#include "geometry/Triangulation.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

/// Flat cards folded up in thought: how they stand, whether they close, what they look like.
namespace thinline::folding {

/// A picture on one side of a card.
struct Print {
    std::shared_ptr<const raster::Picture> picture;
    geometry::Box box; ///< mm, as the card is drawn
};

/// One piece, as it is to be folded.
struct Card {
    std::string key;                          ///< by which a folded form speaks of it
    std::string name;                         ///< "the wall"
    std::shared_ptr<const design::Body> body; ///< mm, as it is drawn
    double thicknessMm = 0;
    raster::Rgb colour{255, 255, 255};
    bool isTranslucent = false;
    std::optional<Print> front = {}, back = {};
};

/// A fold between two leaves of a card.
struct Hinge {
    size_t parent = 0, child = 0;
    geometry::Point from, to;
    double awayRad = 0;  ///< how far the child turns away from the viewer
    bool isBend = false; ///< of a rolled card
    bool isCrease = false; ///< a facet of a curved fold
    int stage = 0;       ///< when it is folded: 0 first
};

struct Leaf {
    geometry::Shape area;
    geometry::Polygons rings; ///< of its outline and openings, flattened
    geometry::Triangulation triangles;
    std::vector<std::pair<geometry::Point, geometry::Point>>
        edges; ///< of the card and its folds; where it is rolled there are none
};

struct Sheet {
    Card card;
    std::vector<Leaf> leaves;
    size_t root = 0;           ///< the leaf that stays
    std::vector<Hinge> hinges; ///< from parents to children, in the order in which they are walked
    std::vector<Hinge> rings;  ///< folds that close a ring: both leaves stand already
    std::string said;          ///< what could not be folded, a sentence

    /// Returns the leaf that holds a point, else the nearest.
    size_t leafAt(geometry::Point p) const;
};

/// A place of a model, through the thickness of its card.
struct Place {
    size_t sheet = 0, leaf = 0;
    geometry::Point at; ///< mm, as the card is drawn
    double outMm = 0;   ///< from its middle towards its front
};
/// Two places that are one in the finished work; those of one name are one joint.
struct Joint {
    std::string name;
    Place a, b;
};

struct Model {
    std::vector<Sheet> sheets; ///< in the order in which they are put together
    design::FoldedForm form;
    int stages = 1;
    std::vector<Joint> joints;
    std::vector<Stand> stands;  ///< by sheet: where its root stands when all is done
    std::vector<bool> isPlaced; ///< by sheet: it meets others; else it lies beside them
};

/// Returns the key of the piece a card is one of: "pane" of "pane:2".
std::string pieceKey(const std::string& cardKey);

inline constexpr size_t kMostLeaves = 4000;

/// Returns cards as leaves with hinges.
/// Shape:  a card that its form bends gets a leaf for every bend; curved folds that the form does not bend stay flat and are
///         told. Cards of which the form says nothing come last.
/// Errors: those of geometry::partedBy; LimitExceeded for more than kMostLeaves leaves; Cancelled.
/// Cost:   that of design::leavesOf for every card, and a triangulation of every leaf.
base::Result<Model> modelOf(std::vector<Card> cards, design::FoldedForm form,
                            const base::Progress& progress = {});

/// Returns the names of the joints that are closed by folding, each within one card, in the order in which they are. Those of
/// several cards are closed when the cards are brought together.
std::vector<std::string> jointsOf(const Model& model);
/// Changes that order: these come first, in this order; names that are not there are passed over. How it stands when all is
/// done stays the same.
void foldInOrder(Model& model, const std::vector<std::string>& joints);

} // namespace thinline::folding
