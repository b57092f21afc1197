// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/AssemblySteps.h"

#include <optional>

/// What a work is made of and with: for the list on its sheets, and in numbers.
namespace thinline::pack {

struct Need {
    std::string group; ///< "Card", "Tools", "Glue and foam", "Yours"
    std::string what;
    std::string howMuch = {};
    std::optional<double> cost = {}; ///< in the person's own money; unset when it is not known or asked
};

/// Returns what is needed, group by group.
/// Shape:  card by stock: whole sheets by size and scraps by size, as the sheets are laid, with what they cost where the drawer
///         has a price; without a layout the area of its pieces alone. Spots of foam are counted by height, copies too.
std::vector<Need> needsOf(const job::State& state, const assembly::Instructions& told);

/// The sum of the costs that are known, and whether all of the card's are.
struct NeedsCost {
    double sum = 0;
    bool isWhole = true;
};
NeedsCost costOf(const std::vector<Need>& needs);

/// Returns the list as a table: group, what, how much, cost.
std::string needsCsv(const std::vector<Need>& needs);

/// Returns the cautions that apply to a work, a sentence each.
std::vector<std::string> cautionsOf(const design::Stack& work);

/// Returns a text as a field of a CSV file.
std::string quoted(const std::string& text);

} // namespace thinline::pack
