// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Machine.h"
#include "design/Stack.h"

#include <string>
#include <vector>

/// How a stock is cut, as long as nobody knows better.
namespace thinline::cutplan {

struct Proposal {
    design::Setting setting;
    std::string reason; ///< a sentence
    std::vector<std::string> care =
        {}; ///< what a hand does before: films off, cut larger and trim; a sentence each
};

/// Returns how a stock would be cut on a machine.
/// Shape:  of a laminate what its heaviest layer takes, through all of it.
/// Units:  force in gram-force, whole fives, within what the machine gives: where one pass would take more, there are more
///         passes.
/// Source: blades, passes and tack are common practice; forces are start values of our own model (the comment at
///         forceFor), to be mended by what a person finds.
Proposal settingFor(const design::Stock& stock, const std::vector<design::Stock>& stocks,
                    const design::Machine& machine);

/// Returns how a stock that a setting cuts to its carrier is cut through that as well: with the force said for it, else with what
/// kCarrierMm of paper more take by forceFor, in more passes where one takes more than the machine gives.
design::Setting throughCarrier(design::Setting setting, const design::Machine& machine);
inline constexpr double kCarrierMm =
    0.12; ///< of the paper or film under vinyl and sticker paper; from memory

/// Whether one setting of the machine serves both: blade, passes and tack alike, forces within a quarter (of two the larger
/// does no harm).
bool areAlike(const design::Setting& a, const design::Setting& b);

/// Returns the force a blade needs in each of so many passes through a stock, gram-force; of a laminate by its heaviest
/// layer's kind. Our own model.
double forceFor(const design::Stock& stock, const std::vector<design::Stock>& stocks, int passes);

inline constexpr double kPenGf = 40, kScoreGf = 150; ///< start values of our own

} // namespace thinline::cutplan
