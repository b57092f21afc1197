// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"

#include <optional>
#include <string>
#include <vector>

/// Numbers a recipe takes, declared once: for the panel, the job file, the batch tool and messages alike.
namespace thinline::base {

enum class Quantity {
    Length,  ///< mm
    Area,    ///< mm2
    Angle,   ///< degrees, clockwise on screen
    Percent, ///< 100 is as it is
    Count,   ///< whole
    Choice   ///< the number of one of `choices`, from 0
};

/// With what a measure grows when the whole design is sized. Margins follow nothing: they stay as typed. Places
/// (moves, spacings), outer measures and thresholds grow along, so that what they meant stays.
enum class Follows {
    Nothing,
    Width,
    Height,
    Both, ///< the mean of both, where it has no direction
    Area
};

struct Parameter {
    const char* name;  ///< in files and options: "gap-across"
    const char* label; ///< on the screen: "Gap across"
    Quantity quantity = Quantity::Length;
    double usual = 0; ///< the default
    double least = 0, most = 0;
    const char* choices = nullptr; ///< "round|pointed|square", for Quantity::Choice
    Follows follows = Follows::Nothing;
};

/// Returns by what a measure is multiplied when the design becomes so many times as wide and high. With
/// `growsMargins` lengths that follow nothing grow with the mean of both.
double growthOf(const Parameter& parameter, double factorX, double factorY, bool growsMargins);

/// Returns the words of a choice, in order; empty for any other parameter.
std::vector<std::string> choicesOf(const Parameter& parameter);

/// Returns the unit as it is written behind a number: " mm", " mm²", "°", " %" or nothing.
std::string unitOf(Quantity quantity);

/// Returns a value as people read it: "3.5 mm", "7", "pointed".
std::string valueText(const Parameter& parameter, double value);

/// Returns the value a text states for a parameter: a number with or without its unit, or a choice by its
/// word.
/// Errors: InvalidArgument naming the parameter and what it takes.
Result<double> readValue(const Parameter& parameter, const std::string& text);

/// Returns the values with defaults filled in where fewer are given than declared, counts rounded.
/// Errors: InvalidArgument naming the parameter and its range.
Result<std::vector<double>> checkedValues(const std::vector<Parameter>& parameters,
                                          const std::vector<double>& values);

} // namespace thinline::base
