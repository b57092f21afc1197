// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Keys.h"

#include <algorithm>

namespace thinline::split {
namespace {

using Side = KeyCode::Side;
using geometry::Point;
using geometry::Polygon;

constexpr double kCutOff = 0.34;     ///< of the side: how much of a corner is gone
constexpr double kNotch = 0.30;      ///< of the side: how wide and deep a notch is
constexpr double kFromCorner = 0.10; ///< of the side: where a notch begins
constexpr double kLeast = 0.089;     ///< of the square: windows that differ by less are taken for one another

/// The code after a quarter turn: what was the last corner is the first.
KeyCode turned(const KeyCode& code) {
    KeyCode out = code;
    for (size_t i = 0; i < 4; ++i) {
        out.isCutOff[(i + 1) % 4] = code.isCutOff[i];
        out.sides[(i + 1) % 4] = code.sides[i];
    }
    return out;
}
/// The code seen from the back: corners run the other way round, and before is after.
KeyCode mirrored(const KeyCode& code) {
    KeyCode out = code;
    for (size_t i = 0; i < 4; ++i) {
        out.isCutOff[i] = code.isCutOff[(5 - i) % 4];
        const Side side = code.sides[(4 - i) % 4];
        out.sides[i] = side == Side::Before ? Side::After : side == Side::After ? Side::Before : Side::Plain;
    }
    return out;
}

/// What was taken off at a corner.
enum class Off { Nothing, Corner, Behind, Ahead };
Off offAt(const KeyCode& code, size_t i) {
    return code.isCutOff[i]                         ? Off::Corner
           : code.sides[i] == Side::Before          ? Off::Ahead
           : code.sides[(i + 3) % 4] == Side::After ? Off::Behind
                                                    : Off::Nothing;
}

double differenceLaidSo(const KeyCode& a, const KeyCode& b) {
    // Two notches at one corner overlap by a square, a notch and a cut by a triangle.
    constexpr double corner = kCutOff * kCutOff / 2, notch = kNotch * kNotch;
    constexpr double bothNotched =
        (kFromCorner + kNotch - 2 * kFromCorner) * (kFromCorner + kNotch - 2 * kFromCorner);
    constexpr double bothOff = (kCutOff - kFromCorner) * (kCutOff - kFromCorner) / 2;
    double out = 0;
    for (size_t i = 0; i < 4; ++i) {
        const Off one = std::min(offAt(a, i), offAt(b, i)), other = std::max(offAt(a, i), offAt(b, i));
        if (one == other)
            continue;
        if (one == Off::Nothing)
            out += other == Off::Corner ? corner : notch;
        else
            out += one == Off::Corner ? corner + notch - 2 * bothOff : 2 * (notch - bothNotched);
    }
    return out;
}

/// A corner is cut off or has a notch beside it on one side, not more.
bool canBeCut(const KeyCode& code) {
    for (size_t i = 0; i < 4; ++i) {
        const int cuts = (code.isCutOff[i] ? 1 : 0) + (code.sides[i] == Side::Before ? 1 : 0) +
                         (code.sides[(i + 3) % 4] == Side::After ? 1 : 0);
        if (cuts > 1)
            return false;
    }
    return true;
}

} // namespace

std::string KeyCode::text() const {
    std::string out;
    for (const bool cutOff : isCutOff)
        out += cutOff ? '/' : 'o';
    for (const Side side : sides)
        out += side == Side::Plain ? 'p' : side == Side::Before ? 'b' : 'a';
    return out + (stretch > 1.5 ? "3" : stretch > 1.2 ? "2" : "1");
}

double keyDistance(const KeyCode& a, const KeyCode& b) {
    double out = 1e9;
    KeyCode other = b;
    for (int mirror = 0; mirror < 2; ++mirror) {
        for (int turn = 0; turn < 4; ++turn) {
            if (!(mirror == 0 && turn == 0 && a == b))
                out = std::min(out, differenceLaidSo(a, other));
            other = turned(other);
        }
        other = mirrored(b);
    }
    return out;
}

const std::vector<KeyCode>& keyCodes() {
    static const std::vector<KeyCode> kAll = [] {
        std::vector<KeyCode> square;
        for (int code = 0; code < 16 * 81; ++code) {
            KeyCode one;
            int sides = code / 16;
            for (size_t i = 0; i < 4; ++i) {
                one.isCutOff[i] = (code >> i & 1) != 0;
                one.sides[i] = static_cast<Side>(sides % 3);
                sides /= 3;
            }
            const auto isApart = [&](const KeyCode& other) { return keyDistance(one, other) >= kLeast; };
            if (canBeCut(one) && isApart(one) && std::all_of(square.begin(), square.end(), isApart))
                square.push_back(one);
        }
        std::vector<KeyCode> out;
        for (const double stretch : {1.0, 1.3, 1.6})
            for (KeyCode one : square) {
                one.stretch = stretch;
                out.push_back(one);
            }
        return out;
    }();
    return kAll;
}

Polygon keyWindow(const KeyCode& code, double sideMm) {
    // Round the square, clockwise on screen: corner, side, corner, ...
    static constexpr Point kCorner[4] = {{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}};
    static constexpr Point kWay[4] = {{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
    Polygon out;
    for (size_t i = 0; i < 4; ++i) {
        const Point corner = kCorner[i], way = kWay[i], came = kWay[(i + 3) % 4], inwards = kWay[(i + 1) % 4];
        if (code.isCutOff[i]) {
            out.push_back(corner + came * -kCutOff);
            out.push_back(corner + way * kCutOff);
        } else {
            out.push_back(corner);
        }
        if (code.sides[i] == Side::Plain)
            continue;
        const double from = code.sides[i] == Side::Before ? kFromCorner : 1 - kFromCorner - kNotch;
        const Point a = corner + way * from, b = corner + way * (from + kNotch);
        for (const Point p : {a, a + inwards * kNotch, b + inwards * kNotch, b})
            out.push_back(p);
    }
    for (Point& p : out)
        p = Point{p.x * code.stretch * sideMm, p.y * sideMm};
    return out;
}

} // namespace thinline::split
