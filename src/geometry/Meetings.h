// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstdint>
#include <numeric>
#include <vector>

namespace thinline::geometry {

/// A box on the grid.
struct GridBox {
    std::int64_t x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    bool meets(const GridBox& o) const { return x0 <= o.x1 && o.x0 <= x1 && y0 <= o.y1 && o.y0 <= y1; }
};

/// Calls `visit(i, j)` once for every pair of boxes that meet.
/// Cost: O(n log n + pairs) for boxes of like size: sweeps along x in strips along y.

template <class Visit>
void eachMeeting(const std::vector<GridBox>& boxes, Visit visit) {
    const size_t n = boxes.size();
    if (n < 48) { // too few to be worth sorting
        for (size_t i = 0; i < n; ++i)
            for (size_t j = i + 1; j < n; ++j)
                if (boxes[i].meets(boxes[j]))
                    visit(i, j);
        return;
    }
    std::int64_t low = boxes[0].y0, high = boxes[0].y1;
    double heights = 0;
    for (const GridBox& b : boxes) {
        low = std::min(low, b.y0);
        high = std::max(high, b.y1);
        heights += static_cast<double>(b.y1 - b.y0);
    }
    // Strips about as high as a box is on average, but no more strips than pay.
    const double mean = std::max(1.0, heights / static_cast<double>(n)),
                 span = static_cast<double>(high - low) + 1;
    const auto strips =
        static_cast<size_t>(std::clamp(span / (2 * mean), 1.0, static_cast<double>(n) / 16 + 1));
    const double perStrip = span / static_cast<double>(strips);
    const auto stripOf = [&](std::int64_t y) {
        return std::min(strips - 1, static_cast<size_t>(static_cast<double>(y - low) / perStrip));
    };
    std::vector<size_t> begin(strips + 1, 0);
    for (const GridBox& b : boxes)
        for (size_t s = stripOf(b.y0); s <= stripOf(b.y1); ++s)
            ++begin[s + 1];
    std::partial_sum(begin.begin(), begin.end(), begin.begin());
    // Filled in the order of x, so that every strip comes out sorted.
    std::vector<std::uint32_t> byX(n);
    std::iota(byX.begin(), byX.end(), 0u);
    std::sort(byX.begin(), byX.end(),
              [&](std::uint32_t a, std::uint32_t b) { return boxes[a].x0 < boxes[b].x0; });
    std::vector<std::uint32_t> entries(begin.back());
    std::vector<size_t> fill(begin.begin(), begin.end() - 1);
    for (std::uint32_t i : byX)
        for (size_t s = stripOf(boxes[i].y0); s <= stripOf(boxes[i].y1); ++s)
            entries[fill[s]++] = i;
    std::vector<std::uint32_t> open;
    for (size_t s = 0; s < strips; ++s) {
        open.clear();
        for (size_t e = begin[s]; e < begin[s + 1]; ++e) {
            const std::uint32_t i = entries[e];
            const GridBox& box = boxes[i];
            size_t kept = 0;
            for (std::uint32_t j : open) {
                if (boxes[j].x1 < box.x0)
                    continue;
                open[kept++] = j;
                // Boxes that share several strips are told in the first of them only.
                if (box.y0 <= boxes[j].y1 && boxes[j].y0 <= box.y1 &&
                    stripOf(std::max(box.y0, boxes[j].y0)) == s)
                    visit(static_cast<size_t>(i), static_cast<size_t>(j));
            }
            open.resize(kept);
            open.push_back(i);
        }
    }
}

} // namespace thinline::geometry
