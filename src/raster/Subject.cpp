// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Subject.h"

#include <algorithm>
#include <cmath>

namespace thinline::raster {

geometry::Point subjectOf(const Picture& picture) {
    constexpr int kCells = 48, kThird = kCells / 3;
    if (picture.width < kCells || picture.height < kCells)
        return {0.5, 0.5};
    // How much changes in every cell of a grid, summed up from the corner, so that any third is four looks.
    std::vector<double> sums(static_cast<size_t>(kCells + 1) * (kCells + 1), 0);
    const auto sum = [&](int x, int y) -> double& { return sums[static_cast<size_t>(y * (kCells + 1) + x)]; };
    const auto brightAt = [&](const std::uint8_t* row, int x) {
        return row[3 * x] + 2 * row[3 * x + 1] + row[3 * x + 2];
    };
    for (int y = 0; y + 1 < picture.height; ++y) {
        const std::uint8_t *row = picture.row(y), *next = picture.row(y + 1);
        const int cellY = static_cast<int>(static_cast<std::int64_t>(y) * kCells / picture.height);
        for (int x = 0; x + 1 < picture.width; ++x) {
            const int cellX = static_cast<int>(static_cast<std::int64_t>(x) * kCells / picture.width);
            const int here = brightAt(row, x);
            sum(cellX + 1, cellY + 1) +=
                std::abs(brightAt(row, x + 1) - here) + std::abs(brightAt(next, x) - here);
        }
    }
    for (int y = 1; y <= kCells; ++y)
        for (int x = 1; x <= kCells; ++x)
            sum(x, y) += sum(x - 1, y) + sum(x, y - 1) - sum(x - 1, y - 1);
    constexpr double kMiddleShare = 0.3; // how much less the rim counts
    geometry::Point best{0.5, 0.5};
    double most = 0;
    for (int y = 0; y + kThird <= kCells; ++y)
        for (int x = 0; x + kThird <= kCells; ++x) {
            const geometry::Point at{(x + kThird / 2.0) / kCells, (y + kThird / 2.0) / kCells};
            const double away = std::hypot(at.x - 0.5, at.y - 0.5);
            const double here =
                (sum(x + kThird, y + kThird) - sum(x, y + kThird) - sum(x + kThird, y) + sum(x, y)) *
                (1 - kMiddleShare * away);
            if (here > most * (1 + 1e-9)) {
                most = here;
                best = at;
            }
        }
    return best;
}

} // namespace thinline::raster
