// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "support/Shapes.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <string>
#include <utility>
#include <vector>

/// Folding templates of which it is known where their folds are.
namespace thinline::support {

struct Template {
    std::string name;
    std::vector<geometry::Shape> pieces;                            ///< mm, the middle of the pen's line
    std::vector<std::pair<geometry::Point, geometry::Point>> folds; ///< mm, from outline to outline
};

inline geometry::Shape through(const geometry::Polygon& corners) {
    return {geometry::contourThrough(corners), {}};
}

/// A box: a strip of four walls with a glue flap, a lid and a bottom with flaps.
inline Template box() {
    Template out{"box", {}, {}};
    out.pieces.push_back(through({{10, 40},
                                  {18, 37},
                                  {48, 37},
                                  {48, 22},
                                  {52, 8},
                                  {74, 8},
                                  {78, 22},
                                  {78, 37},
                                  {108, 37},
                                  {138, 37},
                                  {138, 77},
                                  {108, 77},
                                  {108, 92},
                                  {78, 92},
                                  {78, 77},
                                  {48, 77},
                                  {18, 77},
                                  {10, 74}}));
    out.folds = {{{18, 37}, {18, 77}}, {{48, 37}, {48, 77}}, {{78, 37}, {78, 77}}, {{108, 37}, {108, 77}},
                 {{48, 37}, {78, 37}}, {{48, 22}, {78, 22}}, {{78, 77}, {108, 77}}};
    return out;
}

/// An envelope: folds from notch to notch around a rectangle.
inline Template envelope() {
    Template out{"envelope", {}, {}};
    out.pieces.push_back(through({{40, 30},
                                  {45, 10},
                                  {95, 10},
                                  {100, 30},
                                  {115, 35},
                                  {115, 65},
                                  {100, 70},
                                  {70, 95},
                                  {40, 70},
                                  {25, 65},
                                  {25, 35}}));
    out.folds = {{{40, 30}, {100, 30}}, {{100, 30}, {100, 70}}, {{100, 70}, {40, 70}}, {{40, 70}, {40, 30}}};
    return out;
}

/// A lantern: five folds along it, teeth folded above.
inline Template lantern() {
    Template out{"lantern", {}, {}};
    geometry::Polygon corners;
    for (int i = 0; i < 6; ++i) {
        const double x = 10 + 20 * i;
        corners.insert(corners.end(), {{x, 20}, {x + 4, 12}, {x + 16, 12}, {x + 20, 20}});
        out.folds.push_back({{x, 20}, {x + 20, 20}});
        if (i > 0)
            out.folds.push_back({{x, 20}, {x, 80}});
    }
    corners.push_back({130, 80});
    corners.push_back({10, 80});
    corners.erase(std::unique(corners.begin(), corners.end()), corners.end());
    out.pieces.push_back(through(corners));
    return out;
}

/// A disc with ten folds that meet in its middle, and a round flap.
inline Template wheel() {
    Template out{"wheel", {disc({60, 60}, 45)}, {}};
    for (int i = 0; i < 5; ++i) {
        const double a = std::numbers::pi * (i / 5.0 + 0.03);
        const geometry::Point off{45 * std::cos(a), 45 * std::sin(a)};
        out.folds.push_back({geometry::Point{60, 60} - off, geometry::Point{60, 60} + off});
    }
    return out;
}

/// A card with a window and two folds, one ending at the window, and a second piece beside it.
inline Template card() {
    Template out{"card", {}, {}};
    out.pieces.push_back(withOpening(rectangle(10, 10, 90, 60), rectangle(60, 25, 25, 20)));
    out.pieces.push_back(rectangle(10, 80, 60, 20));
    out.folds = {{{35, 10}, {35, 70}}, {{72, 45}, {72, 70}}, {{10, 90}, {70, 90}}};
    return out;
}

/// A tray: its four walls hang from a loop of folds, tabs at two of them.
inline Template tray() {
    Template out{"tray", {}, {}};
    out.pieces.push_back(through({{30, 10},  {90, 10}, {90, 30}, {95, 12},  {108, 12}, {110, 30}, {110, 80},
                                  {108, 98}, {95, 98}, {90, 80}, {90, 100}, {30, 100}, {30, 80},  {25, 98},
                                  {12, 98},  {10, 80}, {10, 30}, {12, 12},  {25, 12},  {30, 30}}));
    out.folds = {{{30, 30}, {90, 30}},  {{90, 30}, {90, 80}},  {{90, 80}, {30, 80}}, {{30, 80}, {30, 30}},
                 {{90, 30}, {110, 30}}, {{90, 80}, {110, 80}}, {{10, 30}, {30, 30}}, {{10, 80}, {30, 80}}};
    return out;
}

/// Two leaves of a gate that open in the middle, each with a round window.
inline Template gate() {
    Template out{"gate", {}, {}};
    geometry::Shape plate = through({{10, 10}, {160, 10}, {160, 80}, {10, 80}});
    plate = withOpening(withOpening(std::move(plate), disc({28, 45}, 8)), disc({142, 45}, 8));
    out.pieces.push_back(std::move(plate));
    out.folds = {{{46, 10}, {46, 80}}, {{124, 10}, {124, 80}}};
    return out;
}

/// A sleeve of a hexagon's walls with a round tongue.
inline Template sleeve() {
    Template out{"sleeve", {}, {}};
    geometry::Polygon corners{{10, 20}};
    for (int i = 0; i <= 6; ++i)
        corners.push_back({20.0 + 17.3 * i, i % 2 ? 20.0 : 18.0});
    for (int i = 6; i >= 0; --i)
        corners.push_back({20.0 + 17.3 * i, i % 2 ? 70.0 : 72.0});
    corners.push_back({10, 70});
    out.pieces.push_back(through(corners));
    for (int i = 0; i < 6; ++i)
        out.folds.push_back({{20 + 17.3 * i, i % 2 ? 20.0 : 18.0}, {20 + 17.3 * i, i % 2 ? 70.0 : 72.0}});
    return out;
}

} // namespace thinline::support
