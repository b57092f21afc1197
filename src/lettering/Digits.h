// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"

#include <vector>

namespace thinline::lettering {

/// Returns a number as single lines, for a pen or a stylus.
/// Shape:  from its upper left corner; digits half as wide as high, a quarter apart. Under one with a 6 or a 9 there is a stroke: it
///         tells which side is up.
/// Errors: none; a number below zero is written without its sign.
std::vector<geometry::Line> digitLines(int number, geometry::Point corner, double heightMm);

/// How wide that is, and how high with the stroke.
double digitsWidth(int number, double heightMm);
double digitsHeight(int number, double heightMm);

} // namespace thinline::lettering
