// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "lettering/Digits.h"

#include <array>
#include <cmath>
#include <string>

namespace thinline::lettering {
namespace {

using geometry::Point;

/// On a grid 2 wide and 4 high.
const std::array<std::vector<Point>, 10> kDigits{{
    {{0, 1}, {0, 3}, {0.6, 4}, {1.4, 4}, {2, 3}, {2, 1}, {1.4, 0}, {0.6, 0}, {0, 1}},
    {{0.4, 0.8}, {1.2, 0}, {1.2, 4}},
    {{0, 1}, {0.6, 0}, {1.4, 0}, {2, 0.8}, {2, 1.4}, {0, 4}, {2, 4}},
    {{0, 0}, {2, 0}, {0.9, 1.6}, {1.4, 1.6}, {2, 2.4}, {2, 3.2}, {1.4, 4}, {0.6, 4}, {0, 3.3}},
    {{1.5, 4}, {1.5, 0}, {0, 2.8}, {2, 2.8}},
    {{2, 0}, {0.2, 0}, {0.1, 1.7}, {1.3, 1.6}, {2, 2.4}, {2, 3.2}, {1.4, 4}, {0.5, 4}, {0, 3.4}},
    {{1.7, 0},
     {0.6, 0.9},
     {0, 2.2},
     {0, 3.2},
     {0.6, 4},
     {1.4, 4},
     {2, 3.2},
     {2, 2.6},
     {1.4, 1.9},
     {0.6, 1.9},
     {0, 2.6}},
    {{0, 0}, {2, 0}, {0.8, 4}},
    {{1, 1.8},
     {0.3, 1.3},
     {0.3, 0.6},
     {0.8, 0},
     {1.2, 0},
     {1.7, 0.6},
     {1.7, 1.3},
     {1, 1.8},
     {0, 2.6},
     {0, 3.3},
     {0.6, 4},
     {1.4, 4},
     {2, 3.3},
     {2, 2.6},
     {1, 1.8}},
    {{0.3, 4},
     {1.4, 3.1},
     {2, 1.8},
     {2, 0.8},
     {1.4, 0},
     {0.6, 0},
     {0, 0.8},
     {0, 1.4},
     {0.6, 2.1},
     {1.4, 2.1},
     {2, 1.4}},
}};
constexpr double kWide = 0.5, kApart = 0.25, kStroke = 0.25; // in heights

std::string digitsOf(int number) {
    return std::to_string(std::abs(number));
}
bool hasStroke(int number) {
    return digitsOf(number).find_first_of("69") != std::string::npos;
}

} // namespace

std::vector<geometry::Line> digitLines(int number, Point corner, double heightMm) {
    std::vector<geometry::Line> out;
    const double grid = heightMm / 4;
    Point at = corner;
    for (const char digit : digitsOf(number)) {
        const std::vector<Point>& way = kDigits[static_cast<std::size_t>(digit - '0')];
        geometry::Line line{at + way.front() * grid, {}};
        for (std::size_t i = 1; i < way.size(); ++i)
            line.segments.push_back(geometry::Segment::line(at + way[i] * grid));
        out.push_back(std::move(line));
        at.x += heightMm * (kWide + kApart);
    }
    if (hasStroke(number)) {
        const double y = corner.y + heightMm * (1 + kStroke);
        out.push_back(
            {{corner.x, y}, {geometry::Segment::line({corner.x + digitsWidth(number, heightMm), y})}});
    }
    return out;
}

double digitsWidth(int number, double heightMm) {
    return heightMm * (static_cast<double>(digitsOf(number).size()) * (kWide + kApart) - kApart);
}

double digitsHeight(int number, double heightMm) {
    return heightMm * (hasStroke(number) ? 1 + kStroke : 1);
}

} // namespace thinline::lettering
