// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Regions.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace thinline::raster {
namespace {

/// The side of a future passage while flooding: a set of pixels joined so far.
struct Basin {
    std::int32_t parent;
    double areaPx;
    float deepest; ///< largest distance to ink, px
    int x, y;      ///< where that is
    bool touchesEdge;
};

class Basins {
  public:
    std::int32_t add(const Basin& basin) {
        m_all.push_back(basin);
        m_all.back().parent = static_cast<std::int32_t>(m_all.size() - 1);
        return m_all.back().parent;
    }
    std::int32_t rootOf(std::int32_t index) {
        while (m_all[static_cast<size_t>(index)].parent != index) {
            auto& parent = m_all[static_cast<size_t>(index)].parent;
            parent = m_all[static_cast<size_t>(parent)].parent;
            index = parent;
        }
        return index;
    }
    Basin& operator[](std::int32_t index) { return m_all[static_cast<size_t>(index)]; }

    /// Joins two roots; the deeper one stays.
    std::int32_t join(std::int32_t a, std::int32_t b) {
        if ((*this)[a].deepest < (*this)[b].deepest)
            std::swap(a, b);
        Basin &kept = (*this)[a], &gone = (*this)[b];
        kept.areaPx += gone.areaPx;
        kept.touchesEdge |= gone.touchesEdge;
        gone.parent = a;
        return a;
    }

  private:
    std::vector<Basin> m_all;
};

constexpr std::array<std::array<int, 2>, 8> kAround = {
    {{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, 1}, {1, -1}, {-1, -1}}};

} // namespace

base::Result<Regions> findRegions(const Grey& mask, std::uint8_t wanted, Connectivity connectivity,
                                  const base::Progress& progress) {
    Regions regions{mask.width, mask.height, {}, {}};
    if (mask.values.empty())
        return regions;
    cv::Mat chosen(mask.height, mask.width, CV_8U);
    std::transform(mask.values.begin(), mask.values.end(), chosen.data,
                   [wanted](std::uint8_t v) { return static_cast<std::uint8_t>(v == wanted ? 255 : 0); });
    regions.labels.resize(mask.values.size());
    cv::Mat labels(mask.height, mask.width, CV_32S, regions.labels.data());
    const int count =
        cv::connectedComponents(chosen, labels, connectivity == Connectivity::Eight ? 8 : 4, CV_32S);
    if (progress.isCancelled())
        return base::cancelled();
    std::vector<std::int32_t> order(static_cast<size_t>(count), 0);
    for (int y = 0; y < mask.height; ++y) {
        std::int32_t* row = regions.labels.data() + static_cast<size_t>(y) * static_cast<size_t>(mask.width);
        for (int x = 0; x < mask.width;) {
            const std::int32_t found = row[x];
            int end = x + 1;
            while (end < mask.width && row[end] == found)
                ++end;
            if (found > 0) {
                std::int32_t& index = order[static_cast<size_t>(found)];
                if (index == 0) {
                    regions.all.push_back({0, x, y, 1, 1, false, {}});
                    index = static_cast<std::int32_t>(regions.all.size());
                }
                std::fill(row + x, row + end, index);
                Region& region = regions.all[static_cast<size_t>(index - 1)];
                const int right = std::max(region.left + region.width, end);
                region.left = std::min(region.left, x);
                region.width = right - region.left;
                region.height = y + 1 - region.top;
                region.areaPx += end - x;
                region.touchesEdge |= x == 0 || end == mask.width || y == 0 || y + 1 == mask.height;
                region.runs.push_back({y, x, end});
            }
            x = end;
        }
        if (y % 256 == 0 && progress.isCancelled())
            return base::cancelled();
    }
    return regions;
}

base::Result<std::vector<Passage>> findPassages(const Grey& inkMask, const Regions& paper,
                                                const PassageOptions& options,
                                                const base::Progress& progress) {
    const int width = inkMask.width, height = inkMask.height;
    std::vector<Passage> passages;
    if (inkMask.values.empty())
        return passages;
    cv::Mat paperMask(height, width, CV_8U), distance;
    std::transform(inkMask.values.begin(), inkMask.values.end(), paperMask.data,
                   [](std::uint8_t v) { return static_cast<std::uint8_t>(v ? 0 : 255); });
    cv::distanceTransform(paperMask, distance, cv::DIST_L2, cv::DIST_MASK_5);
    if (progress.isCancelled())
        return base::cancelled();

    // The wide cores: everything farther from ink than half the widest passage.
    const float reach = static_cast<float>(options.widestPx / 2 + 0.5);
    cv::Mat coreMask = distance > reach, coreLabels, stats, centres;
    const int coreCount = cv::connectedComponentsWithStats(coreMask, coreLabels, stats, centres, 8, CV_32S);
    Basins basins;
    for (int i = 0; i < coreCount; ++i) {
        const bool touches =
            i > 0 && (stats.at<int>(i, cv::CC_STAT_LEFT) == 0 || stats.at<int>(i, cv::CC_STAT_TOP) == 0 ||
                      stats.at<int>(i, cv::CC_STAT_LEFT) + stats.at<int>(i, cv::CC_STAT_WIDTH) == width ||
                      stats.at<int>(i, cv::CC_STAT_TOP) + stats.at<int>(i, cv::CC_STAT_HEIGHT) == height);
        basins.add({i, static_cast<double>(stats.at<int>(i, cv::CC_STAT_AREA)), 0, 0, 0, touches});
    }
    // Pixels between core and ink, ordered from wide to narrow by counting sort in tenths of a pixel.
    constexpr float kTenths = 10;
    const size_t bucketCount = static_cast<size_t>(reach * kTenths) + 2;
    std::vector<std::uint32_t> starts(bucketCount + 1, 0);
    const auto bucketOf = [&](float d) {
        return bucketCount - 1 - std::min(bucketCount - 1, static_cast<size_t>(d * kTenths));
    };
    const auto eachPixel = [&](auto visit) {
        for (int y = 0; y < height; ++y) {
            const float* d = distance.ptr<float>(y);
            for (int x = 0; x < width; ++x)
                visit(x, y, d[x]);
        }
    };
    eachPixel([&](int x, int y, float d) {
        if (d > reach) {
            Basin& core = basins[coreLabels.at<std::int32_t>(y, x)];
            if (d > core.deepest) {
                core.deepest = d;
                core.x = x;
                core.y = y;
            }
        } else if (d > 0) {
            ++starts[bucketOf(d) + 1];
        }
    });
    std::partial_sum(starts.begin(), starts.end(), starts.begin());
    std::vector<std::uint32_t> order(starts.back()), next(starts.begin(), starts.end() - 1);
    eachPixel([&](int x, int y, float d) {
        if (d > 0 && d <= reach)
            order[next[bucketOf(d)]++] = static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(width) +
                                         static_cast<std::uint32_t>(x);
    });

    size_t done = 0;
    for (std::uint32_t pixel : order) {
        if ((++done & 0xffff) == 0 && progress.isCancelled())
            return base::cancelled();
        const int x = static_cast<int>(pixel % static_cast<std::uint32_t>(width));
        const int y = static_cast<int>(pixel / static_cast<std::uint32_t>(width));
        const float d = distance.at<float>(y, x);
        const bool atEdge = x == 0 || y == 0 || x + 1 == width || y + 1 == height;
        std::int32_t mine = 0;
        for (const auto& [dx, dy] : kAround) {
            const int nx = x + dx, ny = y + dy;
            if (nx < 0 || ny < 0 || nx >= width || ny >= height ||
                paper.labelAt(nx, ny) != paper.labelAt(x, y))
                continue;
            const std::int32_t label = coreLabels.at<std::int32_t>(ny, nx);
            if (label == 0)
                continue;
            const std::int32_t root = basins.rootOf(label);
            if (mine == 0 || mine == root) {
                mine = root;
                continue;
            }
            const Basin &a = basins[mine], &b = basins[root];
            const Basin& small = a.areaPx < b.areaPx ? a : b;
            const float wide = static_cast<float>(options.wideningFactor) * d;
            if (small.areaPx >= options.leastSidePx && a.deepest >= wide && b.deepest >= wide)
                passages.push_back({x + 0.5, y + 0.5, 2.0 * d, paper.labelAt(x, y), small.areaPx,
                                    small.x + 0.5, small.y + 0.5, a.touchesEdge || b.touchesEdge});
            mine = basins.join(mine, root);
        }
        if (mine == 0)
            mine = basins.add({0, 0, d, x, y, false});
        Basin& basin = basins[mine];
        basin.areaPx += 1;
        basin.touchesEdge |= atEdge;
        coreLabels.at<std::int32_t>(y, x) = mine;
    }
    std::sort(passages.begin(), passages.end(),
              [](const Passage& a, const Passage& b) { return a.widthPx < b.widthPx; });
    return passages;
}

} // namespace thinline::raster
