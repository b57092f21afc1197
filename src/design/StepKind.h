// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Parameter.h"
#include "design/Step.h"

#include <optional>
#include <string>
#include <vector>

/// What all steps have in common, of whichever station they are: what they are called, the values they take, and what
/// they come to.
namespace thinline::design {

struct StepKind {
    const char* name;   ///< in files
    const char* label;  ///< on the screen, named by its outcome
    size_t leastPieces; ///< that must be chosen
    std::vector<base::Parameter> parameters = {};
    bool takesOnlySaid = false; ///< a value that is absent changes nothing; else it takes its usual one
};

/// Returns the kind of this name in a station's table, or null.
template <class Info>
const Info* kindNamed(const std::vector<Info>& all, const std::string& name) {
    for (const Info& info : all)
        if (name == info.name)
            return &info;
    return nullptr;
}
/// Returns the kind that does this; every action has its row.
template <class Info, class Action>
const Info& kindDoing(const std::vector<Info>& all, Action action) {
    std::size_t i = 0;
    while (all[i].action != action)
        ++i;
    return all[i];
}

/// Returns values as a step keeps them, in the order of the kind's parameters; choices by their word.
std::map<std::string, Value> stepValues(const StepKind& kind, const std::vector<double>& values);
/// Returns a step's values in the order of its kind's parameters; what is absent takes its usual value.
std::vector<double> valuesOf(const StepKind& kind, const Step& step);

/// Returns whether a person may ask for this. What a job holds already is replayed also beyond the ranges of the
/// panel: sizing grows it along.
/// Errors: InvalidArgument naming the parameter and its range.
base::Status checkValues(const StepKind& kind, const Step& step);
/// Returns whether a step can be carried out: counts bound the work, lengths may be what sizing made of them.
/// Errors: InvalidArgument naming the parameter.
base::Status checkBounds(const StepKind& kind, const std::vector<double>& values);

/// Returns a step in words: "Grow or shrink, 3 mm, 7, round".
std::string stepText(const StepKind& kind, const Step& step);

/// Returns a step after the whole design was sized by these factors: places and thresholds grow along, margins
/// stay as typed unless `growsMargins`.
Step sizedBy(const StepKind& kind, Step step, double factorX, double factorY, bool growsMargins = false);

/// Who stands where whom after a step.
struct Successor {
    PieceId of, now;
    bool isFirst = false; ///< it took the other's place; else it came in addition
};

/// What one step came to.
struct Outcome {
    Pieces pieces;
    std::vector<PieceId> made; ///< pieces that are new or changed
    std::vector<PieceId> scrapped;
    std::vector<Part> parts;           ///< for Step::parts, those that were known before included
    std::vector<Successor> successors; ///< in the order in which they came
    double strayMm = 0;                ///< how far smoothing moved an outline
    int vanished = 0;                  ///< pieces of which an offset left nothing
    int fellApart = 0;                 ///< pieces of which it left several
    std::optional<double> gapMm;       ///< between neighbours, where pieces were spaced
    int shortEnds = 0;                 ///< lines that reached an edge and do not any more
    int droppedBits = 0;               ///< remainders of lines too short for any tool
    std::vector<HeldOnce> heldOnce = {};
};

} // namespace thinline::design
