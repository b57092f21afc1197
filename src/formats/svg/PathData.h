// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace thinline::formats::svg {

/// Walks through a list of numbers and letters as SVG writes them: separated by white space, one comma, or
/// nothing where a sign, a point or a letter begins the next.
class Scanner {
  public:
    explicit Scanner(std::string_view text) : m_text(text) {}

    bool atEnd() {
        skip();
        return m_at >= m_text.size();
    }
    size_t position() const { return m_at; }
    /// The next character without taking it; '\0' at the end.
    char peek() {
        skip();
        return m_at < m_text.size() ? m_text[m_at] : '\0';
    }
    void take() { ++m_at; }
    /// The next number, if one begins here and is finite.
    std::optional<double> number();
    /// A flag of an arc: one digit, 0 or 1, with nothing needed behind it.
    std::optional<bool> flag();
    /// The letters that begin here ("mm", "rotate").
    std::string_view word();

  private:
    void skip();
    std::string_view m_text;
    size_t m_at = 0;
};

struct Subpath {
    geometry::Contour contour; ///< as an area it is closed by a straight step
    bool isClosed = false;     ///< ends in Z, or where it began
};

struct PathData {
    std::vector<Subpath> subpaths;
    std::string problem; ///< empty, or a sentence part: "ends at character 12, where a number is missing"
    size_t segments = 0;
};

/// Returns what a path's `d` says, as lines and cubic curves.
/// Accepts:every command of SVG 1.1, absolute and relative, with its number grammar. Quadratic curves are
///         raised exactly; arcs become cubics of at most 45 degrees (radius error below 5 millionths).
/// Errors: none: as the standard asks, everything before the first mistake counts, and `problem` says where
///         it is.
/// Source: W3C, SVG 1.1 (Second Edition), section 8.3 and appendix F.6 (elliptical arcs).
PathData parsePathData(std::string_view text, size_t mostSegments = 1'500'000);

/// Appends an elliptical arc from `from` to `to`; a radius too small is enlarged, one of zero gives a line.
/// Units: `turnDeg` clockwise on screen.
void appendArc(geometry::Contour& contour, geometry::Point from, double rx, double ry, double turnDeg,
               bool isLarge, bool isSweep, geometry::Point to);

} // namespace thinline::formats::svg
