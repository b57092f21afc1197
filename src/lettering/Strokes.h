// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Lines.h"

#include <string>
#include <vector>

/// Letters as single lines, for a pen or a stylus: no outline to be filled.
namespace thinline::lettering {

/// Returns a text as single lines.
/// Shape:  from the upper left corner of its first sign; capitals half as wide as high, a quarter of that apart (0.2 of the
///         height); small letters are written as capitals. Curves are cubics.
/// Errors: InvalidArgument for a text without signs, or with signs there are none for: A to Z, digits and . , - : ! ? ' / & + are.
base::Result<std::vector<geometry::Line>> strokeLines(const std::string& text, geometry::Point corner,
                                                      double heightMm);
/// How wide that is, of a text it can be done for.
double strokesWidth(const std::string& text, double heightMm);

/// Returns a number as single lines.
/// Shape:  as strokeLines; under one with a 6 or a 9 there is a stroke: it tells which side is up. The sign is left out.
std::vector<geometry::Line> digitLines(int number, geometry::Point corner, double heightMm);

/// How wide that is, and how high with the stroke.
double digitsWidth(int number, double heightMm);
double digitsHeight(int number, double heightMm);

} // namespace thinline::lettering
