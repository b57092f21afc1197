// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <chrono>
#include <string>
#include <vector>

namespace thinline::bench {

enum class Kind { Union, Difference, Slice, OffsetSeries };

/// One task: `shapes` among themselves, or against `others`.
struct Case {
    std::string name;
    Kind kind = Kind::Union;
    std::vector<geometry::Shape> shapes;
    std::vector<geometry::Shape> others; ///< taken away, or knives
    int count = 0;                       ///< of offsets
    double stepMm = 0;

    long nodesIn() const;
    long flatNodes() const;
};

/// What came of it.
struct Made {
    double ms = 0;
    double areaMm2 = 0;
    long nodes = 0;
    long parts = 0;
    std::string trouble;
    std::vector<geometry::Point> sample; ///< points of the outlines that came out
};

/// The farthest that points lie from the outlines that went in, mm.
double strayOf(const std::vector<geometry::Point>& sample, const Case& one);

struct Engine {
    const char* name;
    Made (*run)(const Case&);
};

std::vector<Case> allCases();
/// Large unions, to be stopped in the middle.
std::vector<Case> stopCases();
std::vector<Engine> allEngines();

inline constexpr double kFlattenMm = 0.002;

class Clock {
  public:
    double ms() const {
        return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - m_begun).count();
    }

  private:
    std::chrono::steady_clock::time_point m_begun = std::chrono::steady_clock::now();
};

} // namespace thinline::bench
