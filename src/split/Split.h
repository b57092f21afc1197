// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Lines.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

/// Where a piece that is larger than its mat is divided.
namespace thinline::split {

/// A piece and what lies about it, all in the same millimetres.
struct Ground {
    geometry::Shape shape;
    std::vector<geometry::Shape> cover = {};     ///< what is laid on it and hides its seams
    std::vector<geometry::Shape> keptWhole = {}; ///< through which no seam shall go
    std::vector<geometry::Line> seamsNear =
        {}; ///< of the layers below and above: seams are staggered against them
    std::vector<geometry::Line> folds = {}; ///< along which no seam shall run
};

/// What a part must fit, turned any way.
struct Room {
    double widthMm = 0, heightMm = 0;
};

/// What a seam costs, in millimetres of seam that is seen. The order part, thin, sliver, seen matters; halving or
/// doubling one alone changes little.
struct Prices {
    double part = 2500; ///< fewest parts always win
    double kept =
        9000; ///< through what is to stay whole, of every crossing: more than any number of parts saves
    double thin = 400;       ///< a thin place that is cut
    double tiny = 600;       ///< a part too small to be handled
    double sliver = 220;     ///< a strip beside the seam that is thinner than the material may be
    double seen = 1.0;       ///< of every millimetre that is seen
    double hidden = 0.15;    ///< of every millimetre that is not: short is better there too
    double end = 2;          ///< of an end on the outline
    double endAtOpening = 5; ///< on an opening: none is halved without gain
    double along = 60;       ///< where it runs along a seam of the next layer, or along a fold
    double alongPerMm = 4;   ///< and of every millimetre it does
    double narrow = 60;      ///< at most, where a neck is only a little wider than a thin place
    double slanting = 160;   ///< at most, where it meets the edge at a sharp angle or runs close to it
};

struct Options {
    double thinMm = 6; ///< narrower places are not cut, and none narrower is made: a hand takes hold of that
    double inHandMm = 0.25;    ///< every part stays so much smaller than the room
    double leastPartMm2 = 225; ///< a smaller part is a crumb
    double staggerMm = 12;     ///< seams of two layers keep this distance where they run alike
    int rounds = 120;          ///< of improving each of the best beginnings; counted in steps, never in time
    int beginnings = 4;        ///< how many are improved
    uint64_t seed = 1;
    bool isRough =
        false; ///< something to look at soon: the plainest beginnings, hardly improved, no runners-up
    Prices prices = {};
};

/// A seam: from edge to edge, or to where it meets another one.
struct Seam {
    geometry::Line path; ///< straight, or bent at a few points
    double lengthMm = 0;
    double seenMm = 0;                     ///< what of it nothing covers
    double narrowestMm = 0;                ///< the width of the narrowest place it runs through
    bool isThin = false;                   ///< it cuts a place narrower than `thinMm`
    bool cutsKept = false;                 ///< it goes through what is to stay whole
    std::optional<double> nearSeamMm = {}; ///< to the nearest seam of the next layer that it runs along
    /// How much the whole would cost more if it were anywhere else within 15 mm: mm of seam that is seen. Nothing when
    /// there is no other place in reach.
    std::optional<double> elsewhereMm = {};
    bool isElsewhereAsked = false; ///< it is not of seams laid by hand, nor of more than forty
};

/// A division that can be cut.
struct Division {
    std::vector<Seam> seams;
    std::vector<geometry::Shape> parts; ///< in reading order; together they are the shape
    double seamMm = 0, seenMm = 0;
    int thinCuts = 0, slivers = 0, crumbs = 0;
    double price = 0;
};

/// Returns the ways to divide a shape into parts that fit, the best first; behind it those that have more parts and
/// cut fewer thin places.
/// Shape:  a shape that fits is returned whole: one division without seams.
/// Units:  mm. Parts share their borders to the bit and keep the outline's curves; their areas add up to the shape's.
/// Errors: InvalidArgument for a room or a shape without extent; Degenerate when no division was found, with what does
///         not fit and by how much; LimitExceeded when it would take more than 400 parts; Cancelled.
/// Cost:   0.2 to 1 s for a work of ten parts, a fifth of it for a rough one; grows with parts times nodes. Polls cancel between cuts. The same input
///         gives the same result.
/// Source: the essay at the head of split/Search.cpp.
base::Result<std::vector<Division>> divisions(const Ground& ground, const Room& room,
                                              const Options& options = {},
                                              const base::Progress& progress = {});

/// Returns a shape divided by seams somebody laid: what they come to, and nothing moved. Lines that part nothing are
/// left out.
/// Errors: InvalidArgument for a shape without area; those of geometry::partedBy.
base::Result<Division> dividedBy(const Ground& ground, const std::vector<geometry::Line>& seams,
                                 const Options& options = {}, const base::Progress& progress = {});

/// How a shape fits a room best.
struct Fit {
    bool isFitting = false;
    double tooLongMm = 0; ///< how much it is larger than the room; 0 when it fits
};
/// Returns how a shape lies in a room. Any turn counts: whether it fits is exact, how much it is too long is the least over
/// turns of 1.5 degrees and those that lay a side straight.
Fit fitOf(const geometry::Shape& shape, const Room& room, double inHandMm = 0.25);

} // namespace thinline::split
