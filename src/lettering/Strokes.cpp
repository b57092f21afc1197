// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "lettering/Strokes.h"

#include <cmath>
#include <map>
#include <sstream>

namespace thinline::lettering {
namespace {

using base::Code;
using base::Error;
using geometry::Point;

/// On a grid 2 wide and 4 high, y down: M begins a line, L goes straight, C by a cubic.
const std::map<char, const char*>& signs() {
    static const std::map<char, const char*> all{
        {'A', "M0 4 L1 0 L2 4 M0.4 2.6 L1.6 2.6"},
        {'B', "M0 2 L1.1 2 C1.9 2 1.9 0 1.1 0 L0 0 L0 4 L1.2 4 C2.2 4 2.2 2 1.1 2"},
        {'C', "M2 0.8 C1.6 -0.1 0 -0.4 0 2 C0 4.4 1.6 4.1 2 3.2"},
        {'D', "M0 0 L0 4 L0.7 4 C2.4 4 2.4 0 0.7 0 L0 0"},
        {'E', "M2 0 L0 0 L0 4 L2 4 M0 2 L1.5 2"},
        {'F', "M2 0 L0 0 L0 4 M0 2 L1.5 2"},
        {'G', "M2 0.8 C1.6 -0.1 0 -0.4 0 2 C0 4.4 2 4.3 2 2.8 L2 2.2 L1.2 2.2"},
        {'H', "M0 0 L0 4 M2 0 L2 4 M0 2 L2 2"},
        {'I', "M1 0 L1 4"},
        {'J', "M1.7 0 L1.7 2.8 C1.7 4.4 0 4.4 0 2.9"},
        {'K', "M0 0 L0 4 M2 0 L0 2.4 M0.7 1.6 L2 4"},
        {'L', "M0 0 L0 4 L2 4"},
        {'M', "M0 4 L0 0 L1 2.2 L2 0 L2 4"},
        {'N', "M0 4 L0 0 L2 4 L2 0"},
        {'O', "M1 0 C-0.35 0 -0.35 4 1 4 C2.35 4 2.35 0 1 0"},
        {'P', "M0 4 L0 0 L1.1 0 C2.3 0 2.3 2.2 1.1 2.2 L0 2.2"},
        {'Q', "M1 0 C-0.35 0 -0.35 4 1 4 C2.35 4 2.35 0 1 0 M1.2 3 L2 4"},
        {'R', "M0 4 L0 0 L1.1 0 C2.3 0 2.3 2.2 1.1 2.2 L0 2.2 M1.1 2.2 L2 4"},
        {'S', "M1.9 0.7 C1.5 -0.2 0.1 -0.2 0.1 1 C0.1 2.2 1.95 1.8 1.95 3 C1.95 4.3 0.3 4.3 0 3.2"},
        {'T', "M0 0 L2 0 M1 0 L1 4"},
        {'U', "M0 0 L0 2.6 C0 4.5 2 4.5 2 2.6 L2 0"},
        {'V', "M0 0 L1 4 L2 0"},
        {'W', "M0 0 L0.5 4 L1 1.6 L1.5 4 L2 0"},
        {'X', "M0 0 L2 4 M2 0 L0 4"},
        {'Y', "M0 0 L1 2 L2 0 M1 2 L1 4"},
        {'Z', "M0 0 L2 0 L0 4 L2 4"},
        {'0', "M1 0 C-0.35 0 -0.35 4 1 4 C2.35 4 2.35 0 1 0"},
        {'1', "M0.4 0.8 L1.2 0 L1.2 4"},
        {'2', "M0.1 1 C0.3 -0.4 2 -0.3 1.9 1.1 C1.85 1.8 0.8 2.8 0 4 L2 4"},
        {'3', "M0.1 0.6 C0.6 -0.3 1.9 -0.1 1.8 0.9 C1.75 1.6 1.2 1.8 0.8 1.8 C2.4 1.8 2.4 4 1 4 C0.5 4 0.1 "
              "3.7 0 3.2"},
        {'4', "M1.5 4 L1.5 0 L0 2.8 L2 2.8"},
        {'5', "M1.9 0 L0.3 0 L0.1 1.8 C0.8 1.3 2 1.5 2 2.7 C2 4.3 0.5 4.3 0 3.4"},
        {'6', "M1.7 0.1 C0.6 0.3 0 1.6 0 2.7 C0 4.4 2 4.4 2 2.8 C2 1.3 0.3 1.3 0 2.7"},
        {'7', "M0 0 L2 0 L0.7 4"},
        {'8', "M1 1.8 C0 1.8 0 0 1 0 C2 0 2 1.8 1 1.8 C-0.3 1.8 -0.3 4 1 4 C2.3 4 2.3 1.8 1 1.8"},
        {'9', "M0.3 3.9 C1.4 3.7 2 2.4 2 1.3 C2 -0.4 0 -0.4 0 1.2 C0 2.7 1.7 2.7 2 1.3"},
        {'.', "M0.9 3.9 L1.1 4"},
        {',', "M1.1 3.6 L0.7 4.4"},
        {'-', "M0.4 2 L1.6 2"},
        {':', "M0.9 1.4 L1.1 1.5 M0.9 3.4 L1.1 3.5"},
        {'!', "M1 0 L1 2.8 M0.9 3.9 L1.1 4"},
        {'?', "M0.1 0.9 C0.3 -0.4 2 -0.3 1.9 1 C1.8 1.8 1 1.8 1 2.9 M0.9 3.9 L1.1 4"},
        {'\'', "M1.1 0 L0.9 0.9"},
        {'/', "M0 4 L2 0"},
        {'&', "M2 4 L0.5 1.2 C0 0.2 1.6 -0.4 1.5 0.9 C1.4 1.7 0 1.9 0 3 C0 4.3 1.6 4.3 2 2.4"},
        {'+', "M1 1 L1 3 M0 2 L2 2"},
        {' ', ""},
    };
    return all;
}

constexpr double kWide = 0.5, kApart = 0.2, kStroke = 0.25; // in heights

char capital(char sign) {
    return sign >= 'a' && sign <= 'z' ? static_cast<char>(sign - 'a' + 'A') : sign;
}

void addSign(const char* path, Point corner, double heightMm, std::vector<geometry::Line>& out) {
    std::istringstream words(path);
    const auto place = [&](double x) {
        double y = 0;
        words >> y;
        return corner + Point{x, y} * (heightMm / 4);
    };
    for (char what = 0; words >> what;) {
        double x = 0;
        words >> x;
        const Point first = place(x);
        if (what == 'M') {
            out.push_back({first, {}});
        } else if (what == 'L') {
            out.back().segments.push_back(geometry::Segment::line(first));
        } else {
            words >> x;
            const Point second = place(x);
            words >> x;
            out.back().segments.push_back(geometry::Segment::curve(first, second, place(x)));
        }
    }
}

std::string digitsOf(int number) {
    return std::to_string(std::abs(number));
}
bool hasStroke(int number) {
    return digitsOf(number).find_first_of("69") != std::string::npos;
}

} // namespace

base::Result<std::vector<geometry::Line>> strokeLines(const std::string& text, Point corner,
                                                      double heightMm) {
    std::vector<geometry::Line> out;
    for (const char sign : text) {
        const auto known = signs().find(capital(sign));
        if (known == signs().end())
            return Error{Code::InvalidArgument,
                         "\"" + text +
                             "\" has signs that are not written in single lines; there are A to "
                             "Z, digits and . , - : ! ? ' / & +."};
        addSign(known->second, corner, heightMm, out);
        corner.x += heightMm * (kWide + kApart);
    }
    if (out.empty())
        return Error{Code::InvalidArgument, "Say what is to be written."};
    return out;
}

double strokesWidth(const std::string& text, double heightMm) {
    return heightMm * (static_cast<double>(text.size()) * (kWide + kApart) - kApart);
}

std::vector<geometry::Line> digitLines(int number, Point corner, double heightMm) {
    auto written = strokeLines(digitsOf(number), corner, heightMm);
    std::vector<geometry::Line> out = written ? written.take() : std::vector<geometry::Line>{};
    if (hasStroke(number)) {
        const double y = corner.y + heightMm * (1 + kStroke);
        out.push_back(
            {{corner.x, y}, {geometry::Segment::line({corner.x + digitsWidth(number, heightMm), y})}});
    }
    return out;
}

double digitsWidth(int number, double heightMm) {
    return strokesWidth(digitsOf(number), heightMm);
}

double digitsHeight(int number, double heightMm) {
    return heightMm * (hasStroke(number) ? 1 + kStroke : 1);
}

} // namespace thinline::lettering
