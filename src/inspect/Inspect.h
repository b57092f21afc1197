// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"
#include "design/Relations.h"
#include "shape/Steps.h"
#include "trace/Layers.h"

#include <set>
#include <string>
#include <vector>

/// What would spoil card, said before it is cut.
namespace thinline::inspect {

enum class Severity { SpoilsCard, RisksCard, Note };

enum class Kind {
    LargerThanEveryMat,
    LargerThanSheet,
    TooSmall,
    NarrowNeck,
    Leak,
    OverlapsOnSheet,
    StepPassedOver,
    ScaledAlone,
    DoesNotFit,
    ExactlyTheSheet,
    Vanished
};

/// One thing noticed, with its place and a remedy.
struct Finding {
    Severity severity = Severity::Note;
    Kind kind = Kind::TooSmall;
    std::string message;               ///< what is wrong, in one short sentence
    std::string remedy;                ///< what to do about it
    design::PieceId piece = 0;         ///< the first piece concerned; 0 when it concerns none
    std::vector<geometry::Box> places; ///< in the design, mm; where to zoom, one after the other

    bool operator==(const Finding&) const = default;
};

/// The limits. Every default can be changed per job later.
struct Limits {
    double leastAcrossMm = 3.0; ///< smallest free-standing piece worth cutting in card (from memory)
    double leastNeckMm = 1.0;   ///< thinnest strip that survives weeding in card (from memory)
};

/// What is inspected. Null pointers are simply not looked at.
struct Subject {
    const design::Stack* stack = nullptr;
    const design::Formats* formats = nullptr;
    const trace::Tracing* tracing = nullptr;
    trace::Sizing sizing = {};
    const trace::SizedShapes* shapes = nullptr;
    const design::Arrangement* arrangement = nullptr;
    std::string sheetName = {};          ///< of the chosen sheet, for sentences
    const shape::Work* shaped = nullptr; ///< for the pieces' own scales
    std::vector<design::PieceSet> sets = {};
    std::vector<design::Fit> fits = {};
    std::set<design::PieceId> freePieces = {}; ///< may have a scale of their own
    std::vector<std::string> passedOver = {};  ///< steps at Shape that could not be done again
};

/// Returns the findings, what spoils card first; within one severity pieces in stack order, leaks narrowest
/// first.
/// Shape:  hidden layers are not looked at; all pieces too small share one finding, the smallest first, and
///         are not also told their necks.
/// Units:  mm of the finished design.
/// Errors: Cancelled. An outline the polygon engine refuses gets no neck finding.
/// Cost:   one neck search per piece (see geometry/Necks.h); the rest is O(pieces).
base::Result<std::vector<Finding>> inspect(const Subject& subject, const Limits& limits = {},
                                           const base::Progress& progress = {});

/// Returns "spoils card", "risks card" or "note".
std::string severityName(Severity severity);

} // namespace thinline::inspect
