// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Softness.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace thinline::raster {
namespace {

constexpr int kDeep = 4; ///< pixels to either side

/// The variance of the edge across one side of a border, px²; nothing where it cannot be told.
std::optional<double> varianceAt(const LabelMap& labels, const Border& border, size_t index,
                                 const LevelAt& levelAt) {
    constexpr size_t kAlong = 5;
    constexpr double kSlope = 1.05, kLeastStep = 40;
    if (index < kAlong || index + kAlong >= border.sides.size())
        return std::nullopt;
    const Side &side = border.sides[index], &before = border.sides[index - kAlong],
               &after = border.sides[index + kAlong];
    const double dx = after.x - before.x, dy = after.y - before.y;
    const bool isLevel = side.way % 2 == 0;
    const double along = std::abs(isLevel ? dx : dy), across = std::abs(isLevel ? dy : dx);
    if (!(across <= kSlope * along))
        return std::nullopt;
    const int inX = side.x - (side.way == 1 || side.way == 2),
              inY = side.y - (side.way == 2 || side.way == 3);
    const int outX = kWayX[(side.way + 3) % 4], outY = kWayY[(side.way + 3) % 4];
    std::array<double, 2 * kDeep> levels{};
    for (int k = 0; k < 2 * kDeep; ++k) {
        const int x = inX + (k - kDeep + 1) * outX, y = inY + (k - kDeep + 1) * outY;
        if (labels.at(x, y) != (k < kDeep ? border.right : border.left))
            return std::nullopt;
        levels[static_cast<size_t>(k)] = levelAt(x, y);
    }
    const double step = levels.back() - levels.front();
    if (!(std::abs(step) >= kLeastStep))
        return std::nullopt;
    double mean = 0, square = 0;
    for (size_t k = 0; k + 1 < levels.size(); ++k) {
        const double share = (levels[k + 1] - levels[k]) / step;
        mean += share * static_cast<double>(k);
        square += share * static_cast<double>(k * k);
    }
    // A pixel is as wide as the step between two of them; a slope crosses it aslant.
    const double slope = across / along, steep = 1 + slope * slope;
    return (square - mean * mean - 1.0 / 12 - steep / 12) / steep;
}

} // namespace

Spread spreadOf(double variance) {
    constexpr double kSharp = 0.06, kMost = 2.5, kOneRound = 0.5;
    Spread out;
    if (!(variance >= kSharp))
        return out;
    variance = std::min(variance, kMost);
    const int rounds = static_cast<int>(std::ceil(variance / kOneRound));
    const double share = variance / rounds / 2; // to either neighbour, a round
    for (int round = 0; round < rounds; ++round) {
        std::vector<double> next(out.taps.size() + 2, 0);
        for (size_t k = 0; k < out.taps.size(); ++k) {
            next[k] += share * out.taps[k];
            next[k + 1] += (1 - 2 * share) * out.taps[k];
            next[k + 2] += share * out.taps[k];
        }
        out.taps = std::move(next);
    }
    return out;
}

double softnessOf(const LabelMap& labels, const Borders& borders,
                  const std::function<LevelAt(const Border&)>& levelsFor) {
    size_t all = 0;
    for (const Border& border : borders.all)
        all += border.sides.size();
    constexpr size_t kMost = 20'000;
    const size_t every = 1 + all / kMost;
    std::vector<double> found;
    for (const Border& border : borders.all) {
        if (border.right < 0 || border.left < 0)
            continue;
        const LevelAt levelAt = levelsFor(border);
        for (size_t i = 0; i < border.sides.size(); i += every)
            if (const auto variance = varianceAt(labels, border, i, levelAt);
                variance && std::isfinite(*variance))
                found.push_back(*variance);
    }
    constexpr size_t kEnough = 30;
    if (found.size() < kEnough)
        return 0;
    std::sort(found.begin(), found.end());
    const size_t cut = found.size() / 10;
    double sum = 0;
    for (size_t i = cut; i < found.size() - cut; ++i)
        sum += found[i];
    return std::max(0.0, sum / static_cast<double>(found.size() - 2 * cut));
}

} // namespace thinline::raster
