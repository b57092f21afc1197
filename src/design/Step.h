// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Piece.h"

#include <map>

/// What a step, a set, a fit refers to, and the step itself: a recipe that can be opened again and is replayed
/// whenever what lies before it changes.
namespace thinline::design {

/// Every piece of a source as it was found, however many there are when the step is replayed.
struct EveryPieceOf {
    SourceId source{};
    bool operator==(const EveryPieceOf&) const = default;
};
struct LineOf {
    PieceId piece;
    LineId line{};
    bool operator==(const LineOf&) const = default;
};
/// The opening that holds a point.
struct OpeningOf {
    PieceId piece;
    geometry::Point inside; ///< in the own units of the piece's source, see Piece::placed
    bool operator==(const OpeningOf&) const = default;
};
using Chosen = std::variant<PieceId, EveryPieceOf, LineOf, OpeningOf>;

/// Returns the pieces that are meant, those that are there, each once, in the order of the references.
/// A piece that is not there any more is stood in for by its parts.
std::vector<PieceId> resolved(const std::vector<Chosen>& chosen, const std::vector<Piece>& pieces);
/// Returns whom a single reference means: the piece itself, or its only or first part; nothing when none is
/// there.
const Piece* resolved(PieceId wanted, const std::vector<Piece>& pieces);

/// A value of a step: a number, a word, a place, a line.
using Value = std::variant<double, std::string, geometry::Point, geometry::Line>;

/// A place by which a part is known again.
struct Part {
    PieceId id;
    geometry::Point inside; ///< in the own units of its source, see Piece::placed
    bool isGone = false;    ///< the step does not make it now; when it does again, it finds its name
    bool operator==(const Part&) const = default;
};

struct Step {
    StepId id{};
    std::string action;                       ///< its name in files, such as "cut-out"
    std::vector<Chosen> on;                   ///< the first is the one acted on
    std::map<std::string, Value> values = {}; ///< by parameter; an absent one takes its usual value
    std::vector<Part> parts = {};             ///< of every part it ever made, so that each keeps its name
    bool operator==(const Step&) const = default;
};

/// A motif that holds in its window on one side only.
struct HeldOnce {
    std::string motif;
    PieceId frame;
};

} // namespace thinline::design
