// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"
#include "folds/Edges.h"

#include <optional>
#include <string>
#include <vector>

/// The parts of a piece between its folds, and what they are once it is folded.
namespace thinline::folds {

/// A neighbour over a fold.
struct Neighbour {
    size_t panel = 0;
    size_t line = 0; ///< the fold, in the body
    double lengthMm = 0;
};

struct Panel {
    geometry::Shape area;   ///< mm in the design
    geometry::Point middle; ///< well inside
    std::string name;       ///< as it was said, else "panel 3"
    double upRad = 0; ///< the direction in which it is read once folded, clockwise on screen from straight up
    bool isUpSaid = false;
    bool isFront = false;
    std::vector<Neighbour> neighbours = {}; ///< in the order of the folds
};

/// Returns the panels of a body, in reading order; none for one without folds that part it.
/// Shape:  a fold that stops short parts nothing; of more than 2,000 folds none are looked at. The front is the panel it was said of, else the largest. From there
///         the piece is folded up in thought: what stands upright is read with its top up, what lies level is read from
///         the front. Beyond a fold that closes a ring the first way there counts.
/// Units:  angles as the folds have them; a panel steeper than 65 degrees to the horizon stands.
/// Errors: those of geometry::partedBy; Cancelled.
/// Cost:   as design::leavesOf.
base::Result<std::vector<Panel>> panelsOf(const design::Body& body, const base::Progress& progress = {});

/// A place where a flap may be glued: behind a free edge as long as the flap's fold.
struct Meeting {
    size_t panel = 0;
    Edge edge; ///< towards its panel
};
/// A panel that is joined by one fold and made to be glued.
struct Flap {
    size_t panel = 0;
    double foldMm = 0;               ///< how long its fold is
    double depthMm = 0;              ///< from the fold to its far edge
    Edge fold = {};                  ///< towards the flap
    std::vector<Meeting> meets = {}; ///< who could take it; several are to be asked
};
/// Returns the panels that are flaps: joined by one fold, and at most a third as deep as the panel there or narrower at
/// their far edge than at the fold.
/// Units:  an edge is as long as a fold within 1 mm.
/// Cost:   O(panels x edges).
std::vector<Flap> flapsOf(const design::Body& body, const std::vector<Panel>& panels);

/// Returns behind which edge a flap is glued: the one that was said, else the only one there is. Null for one that is not glued,
/// that no edge takes, or of which several could and nobody said.
const Meeting* takerOf(const design::Body& body, const std::vector<Panel>& panels, const Flap& flap);
/// Returns an edge in words: "panel 2, left edge".
std::string meetingText(const std::vector<Panel>& panels, const Meeting& meeting);
/// Returns the map that lays a flap behind the edge that takes it, in the plane of that panel.
geometry::Transform laidBehind(const Flap& flap, const Meeting& taker);

/// A flap narrower than this holds nothing; from memory.
inline constexpr double kLeastFlapMm = 5;
/// Returns a body's outline with a flap cut off at a depth, measured from its fold.
/// Errors: InvalidArgument when the panel is joined by no fold; those of the set operations; Cancelled.
base::Result<geometry::Shape> shortened(const design::Body& body, const Panel& flap, double depthMm,
                                        const base::Progress& progress = {});

/// Returns the zone of glue that covers a panel, among the body's zones; nothing when it is not glued. The ring of a pane
/// covers none.
std::optional<size_t> glueOn(const design::Body& body, const Panel& panel);

/// A piece as its folds part it.
struct Folded {
    std::vector<Panel> panels;
    std::vector<Flap> flaps;
};
/// Returns both. Errors and cost: as panelsOf.
base::Result<Folded> foldedOf(const design::Body& body, const base::Progress& progress = {});

} // namespace thinline::folds
