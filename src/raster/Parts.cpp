// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Parts.h"

#include "base/Joined.h"

#include <algorithm>
#include <unordered_map>

namespace thinline::raster {
base::Result<Parts> partsOf(const LabelMap& labels, const base::Progress& progress) {
    Parts out{{labels.width, labels.height, std::vector<std::int32_t>(labels.labels.size(), -1)}, {}, {}, {}};
    base::Joined joined;
    const auto w = static_cast<size_t>(labels.width);
    for (int y = 0; y < labels.height; ++y) {
        for (int x = 0; x < labels.width; ++x) {
            const size_t at = static_cast<size_t>(y) * w + static_cast<size_t>(x);
            const std::int32_t mine = labels.labels[at];
            const bool left = x > 0 && labels.labels[at - 1] == mine,
                       up = y > 0 && labels.labels[at - w] == mine;
            std::int32_t& part = out.map.labels[at];
            part = left ? out.map.labels[at - 1] : up ? out.map.labels[at - w] : joined.add();
            if (left && up && out.map.labels[at - w] != part)
                joined.join(part, out.map.labels[at - w]);
        }
        if (y % 256 == 0 && progress.isCancelled())
            return base::cancelled();
    }
    std::vector<std::int32_t> number;
    for (size_t at = 0; at < out.map.labels.size(); ++at) {
        std::int32_t& part = out.map.labels[at];
        const auto root = static_cast<size_t>(joined.of(part));
        if (root >= number.size())
            number.resize(root + 1, -1);
        if (number[root] < 0) {
            number[root] = static_cast<std::int32_t>(out.label.size());
            out.label.push_back(labels.labels[at]);
            out.areaPx.push_back(0);
            out.touchesEdge.push_back(false);
        }
        part = number[root];
        ++out.areaPx[static_cast<size_t>(part)];
        const size_t x = at % w, y = at / w;
        if (x == 0 || y == 0 || x + 1 == w || y + 1 == static_cast<size_t>(labels.height))
            out.touchesEdge[static_cast<size_t>(part)] = true;
    }
    return out;
}

std::vector<int> squaresIn(const Parts& parts) {
    std::vector<int> out(parts.label.size(), 0);
    const int width = parts.map.width;
    // The side of the largest square of one part that ends at a pixel, by those of the pixels before it.
    std::vector<int> above(static_cast<size_t>(width), 0), here(above);
    for (int y = 0; y < parts.map.height; ++y) {
        for (int x = 0; x < width; ++x) {
            const std::int32_t part = parts.map.at(x, y);
            const auto i = static_cast<size_t>(x);
            const bool isInner = parts.map.at(x - 1, y) == part && parts.map.at(x, y - 1) == part &&
                                 parts.map.at(x - 1, y - 1) == part;
            here[i] = isInner ? 1 + std::min({above[i], above[i - 1], here[i - 1]}) : 1;
            int& most = out[static_cast<size_t>(part)];
            most = std::max(most, here[i]);
        }
        std::swap(above, here);
    }
    return out;
}

base::Result<int> mergeSmall(LabelMap& labels, double leastPx, const base::Progress& progress) {
    constexpr int kRounds = 12; // each round at least halves what is left
    int merged = 0;
    for (int round = 0; round < kRounds; ++round) {
        auto found = partsOf(labels, progress);
        if (!found)
            return found.error();
        const Parts& parts = *found;
        std::vector<std::int32_t> small;
        for (size_t i = 0; i < parts.areaPx.size(); ++i)
            if (static_cast<double>(parts.areaPx[i]) < leastPx)
                small.push_back(static_cast<std::int32_t>(i));
        if (small.empty() || parts.areaPx.size() == 1)
            break;
        // How much border every small part shares with each neighbour.
        std::unordered_map<std::uint64_t, int> shared;
        const auto isSmall = [&](std::int32_t p) {
            return static_cast<double>(parts.areaPx[static_cast<size_t>(p)]) < leastPx;
        };
        const auto note = [&](std::int32_t a, std::int32_t b) {
            if (a == b)
                return;
            if (isSmall(a))
                ++shared[static_cast<std::uint64_t>(a) << 32 | static_cast<std::uint32_t>(b)];
            if (isSmall(b))
                ++shared[static_cast<std::uint64_t>(b) << 32 | static_cast<std::uint32_t>(a)];
        };
        for (int y = 0; y < labels.height; ++y)
            for (int x = 0; x < labels.width; ++x) {
                if (x + 1 < labels.width)
                    note(parts.map.at(x, y), parts.map.at(x + 1, y));
                if (y + 1 < labels.height)
                    note(parts.map.at(x, y), parts.map.at(x, y + 1));
            }
        std::vector<std::pair<int, std::int32_t>> best(parts.areaPx.size(), {0, -1});
        for (const auto& [key, count] : shared) {
            const auto a = static_cast<size_t>(key >> 32);
            const auto b = static_cast<std::int32_t>(key & 0xffffffff);
            // A large neighbour is better than another crumb; then the longer border, then the order.
            const int weight = count + (isSmall(b) ? 0 : 1 << 20);
            if (weight > best[a].first || (weight == best[a].first && b < best[a].second))
                best[a] = {weight, b};
        }
        std::sort(small.begin(), small.end(), [&](std::int32_t a, std::int32_t b) {
            const auto areaA = parts.areaPx[static_cast<size_t>(a)],
                       areaB = parts.areaPx[static_cast<size_t>(b)];
            return areaA != areaB ? areaA < areaB : a < b;
        });
        std::vector<std::int32_t> becomes = parts.label;
        std::vector<bool> isTaken(parts.areaPx.size(), false); // a part that took another in waits a round
        for (const std::int32_t p : small) {
            const std::int32_t into = best[static_cast<size_t>(p)].second;
            if (into < 0 || isTaken[static_cast<size_t>(p)])
                continue;
            becomes[static_cast<size_t>(p)] = becomes[static_cast<size_t>(into)];
            isTaken[static_cast<size_t>(into)] = isTaken[static_cast<size_t>(into)] || isSmall(into);
            ++merged;
        }
        for (size_t at = 0; at < labels.labels.size(); ++at)
            labels.labels[at] = becomes[static_cast<size_t>(parts.map.labels[at])];
    }
    return merged;
}

} // namespace thinline::raster
