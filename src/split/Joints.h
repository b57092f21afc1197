// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Keys.h"
#include "split/Split.h"

/// How the parts of a divided piece hold together.
namespace thinline::split {

enum class Joint {
    Butt,    ///< edge to edge, taped on the back
    Overlap, ///< one part is a margin wider and glued onto the other
    Keyed    ///< the same, with windows of different forms through both
};

/// Which forms of windows are used up: of seams with a single one, and of pairs.
struct KeysUsed {
    int alone = 0, pairs = 0;
    bool operator==(const KeysUsed&) const = default;
};

struct JointOptions {
    double overlapMm = 12;        ///< common practice: about half an inch
    double aroundKeyMm = 3;       ///< card left around a window
    double markInsetMm = 1;       ///< how far inside the strip's far edge its mark is pressed in
    double betweenStripsMm = 0.3; ///< strips of two seams stay apart: never three cards on one another
    KeysUsed used = {};           ///< by pieces that were joined before
};

/// A window through both parts of an overlap.
struct Key {
    KeyCode code;
    geometry::Polygon window;
};

/// How one seam is joined.
struct SeamJoint {
    Joint joint = Joint::Butt;
    size_t upper = 0, lower = 0; ///< parts; of a butt joint the two in reading order
    geometry::Shape strip = {};  ///< of an overlap: where the upper part lies on the lower one
    std::vector<Key> keys = {};
    std::vector<geometry::Line> marks =
        {};                 ///< on the lower part, where the upper one's edge comes to lie, and covered by it
    bool lacksRoom = false; ///< with an overlap neither part would fit
    std::string whyNot = {}; ///< where it is not what was asked for
};

struct JoinedParts {
    std::vector<geometry::Shape>
        parts;                    ///< in the division's order, with their strips and without their windows
    std::vector<SeamJoint> seams; ///< in the division's order
    KeysUsed keysUsed = {};       ///< for the next piece
};

/// Returns the parts of a division as they are cut.
/// Shape:  a strip is what of the lower part lies within the overlap of its seam; it is added to the upper part.
///         Which part lies on top is chosen so that every part still fits its room. Windows lie where the strip
///         leaves them card around, unevenly along the seam; no two seams have the same windows in the same order,
///         nor in the other. Seams shorter than two overlaps that end where others meet stay butt joints, and so do
///         those that leave no room; `whyNot` says so.
/// Units:  strips are exact to 1 um along straight seams.
/// Errors: InvalidArgument for an overlap of which a window of 4 mm does not remain (keyed), or not above zero; those
///         of the set operations; Cancelled.
/// Cost:   a few set operations per seam.
base::Result<JoinedParts> joined(const Division& division, const std::vector<Joint>& wanted, const Room& room,
                                 const JointOptions& options = {}, const base::Progress& progress = {});

/// Returns the ways to divide a shape whose parts fit with their strips, the best first; where none leaves room for all
/// strips, those that leave room for most.
/// Errors, cost: as divisions, up to three times as dear.
base::Result<std::vector<Division>> divisionsFor(const Ground& ground, const Room& room, Joint joint,
                                                 const JointOptions& how = {}, const Options& options = {},
                                                 const base::Progress& progress = {});

/// Returns how many seams are edge to edge for want of room.
int seamsWithoutRoom(const JoinedParts& parts);

/// Returns the two parts at a seam, or nothing when it does not part two.
std::optional<std::pair<size_t, size_t>> partsAt(const Division& division, size_t seam);

} // namespace thinline::split
