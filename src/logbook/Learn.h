// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"
#include "logbook/Logbook.h"

#include <optional>

/// What the logbook says about how a stock is cut.
namespace thinline::logbook {

/// A setting that worked, or that is to be tried next.
struct Learnt {
    double forceGf = 0;
    int passes = 1;
    int clean = 0, tries = 0;       ///< at this force, or at more that did not go through
    double leastGf = 0, mostGf = 0; ///< of the clean cuts that were looked at
    bool isOfThisStock = true;      ///< else of others of its kind and weight
    bool isMore = false;            ///< ten per cent more than what did not go through
    std::string reason;             ///< a sentence without its stop: "cut clean 4 of 4 times at 210 gf"
};

/// Returns what entries teach about cutting a stock of this id, the newest first; nothing when they teach nothing.
/// Shape:  of the cuts with as many passes as the newest clean one the newest twelve, and of these the newest four clean ones: the least
///         of their forces. Where more than a quarter as many cuts did not go through at that force or above it, the next clean force
///         above; where there is none, ten per cent more than the most that failed, whole fives. What tore or slipped counts neither
///         way: the force is not to blame. Without a cut of this stock the same of the others.
/// Source: our own rule; that one failure never erases four successes is asked of it.
std::optional<Learnt> learntFrom(const std::vector<Entry>& entries, const std::string& stockId);

/// Returns it of a logbook, for a stock on a machine with the blade and tack of a setting; others of the same kind count within
/// 15 per cent of its weight.
/// Errors: those of Logbook::like.
base::Result<std::optional<Learnt>> learnt(const Logbook& logbook, const design::Stock& stock,
                                           const design::Machine& machine, const design::Setting& setting);

} // namespace thinline::logbook
