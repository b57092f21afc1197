// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/CutPlan.h"

/// A cutter that ships with the program: what would lie on the mat. Nothing here drives a machine.
namespace thinline::devices {

/// What may be wrong; a beginner learns from it at no cost in card.
struct WhatIf {
    bool isBladeDull = false;
    bool isMatWorn = false;
    double askewMm = 0;          ///< the sheet is laid so that its far end is off by so much
    int moreRounds = 0;          ///< the same cut was run again so often, before the mat was unloaded
    double bladeOffsetMm = 0.25; ///< how far the tip trails; typical, from memory
};

/// How a copy comes off the mat.
enum class Comes {
    Free,
    Tabbed,    ///< but for its bridges, which a hand parts
    Held,      ///< some of its lines are not cut yet
    NotThrough ///< they are, but not through the card
};
struct CopyAfter {
    design::CopyOf what;
    Comes comes = Comes::Held;
    std::optional<geometry::Point> heldAt = {}; ///< on the mat: where the first line begins that is not cut
};
/// A strip that the blade tears as it goes by.
struct Tear {
    design::CopyOf what;
    geometry::Point at; ///< on the mat
    double widthMm = 0;
    double neededMm = 0; ///< how wide it would have to be
};
/// Something that went wrong at a place of a copy.
struct Slip {
    enum class Kind {
        CutAskew,   ///< a line done when its piece lay free already and no card held it
        Wanders,    ///< a small piece on a mat that holds no more
        OffCard,    ///< it reaches beyond the edge of the card
        MissesFold, ///< no score follows a fold that is to be scored
        Blunted     ///< steps of the outline shorter than the tip trails: their corners become one
    } kind = Kind::CutAskew;
    design::CopyOf what;
    geometry::Point at; ///< on the mat
    int count = 1;      ///< of a copy's places of one kind, the first is named
};
struct MatAfter {
    std::vector<CopyAfter> copies; ///< in the order of the sheets
    std::vector<Tear> tears;       ///< of the copies that are cut, the narrowest first
    std::vector<Slip> slips;       ///< one for each copy and kind

    int count(Comes comes) const;
    int count(Slip::Kind kind) const; ///< copies
};

/// Returns a slip in words, without its piece: "2 lines done when it lies free already, and askew".
std::string slipText(const Slip& slip);

/// Returns what lies on the mat after so much of a plan was run.
/// Shape:  a copy is free when every line of its outline and its openings was followed to its end, in every round, with force
///         enough; what it holds on to in a cluster is not asked. Strips are looked for where the outline is cut through.
/// Units:  seconds of cutplan/Timeline.h; past its end everything was run.
/// Errors: NotFound for a piece that is not in the stack; those of geometry::findNecks and design::cutsOn; Cancelled.
/// Cost:   O(lines), and that of findNecks for every piece, once.
/// Source: our own models: cutThrough, tearsBelowMm, kWandersMm. A line is askew when it is done after its piece came free; a score
///         misses a fold when none runs within kMissMm of both its ends and its middle.
base::Result<MatAfter> matAfter(const design::PlannedLoad& planned, const design::Load& load,
                                const design::Stack& stack, const design::Machine& machine, double seconds,
                                const WhatIf& what = {}, const base::Progress& progress = {});
inline constexpr double kWandersMm = 20; ///< smaller pieces wander on a worn mat, unless bridges hold them
inline constexpr double kMissMm = 0.3;

/// Returns whether a stock is cut through by so many rounds at a force: every round takes what cutplan::forceFor says a force
/// takes, less a tenth, for people's cards differ; a dull blade needs 1.6 times the force.
bool cutThrough(const design::Stock& stock, const std::vector<design::Stock>& stocks, double forceGf,
                int rounds, const WhatIf& what);

/// Returns the width below which a strip tears beside the blade.
/// Source: our own model. The blade drags along what it parts by a share of its force, and a strip holds by its section. So the
///         width grows with the force and falls with the thickness: half a millimetre of 0.3 mm card at 210 gf, where
///         makers begin to lose strips (common practice: below 1 mm with care, below 0.5 mm hardly). A dull blade drags 1.6
///         times as much, a worn mat lets strips move 1.3 times as much; vinyl lies on its carrier and holds twice as well.
double tearsBelowMm(const design::Stock& stock, double forceGf, const WhatIf& what);

} // namespace thinline::devices
