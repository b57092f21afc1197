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

/// Passages are found as saddles of the distance to ink. Think of that distance as depth below the land: the middle of
/// a wide area is a deep lake, ink is the shore. The water is let in from the deepest place upwards, which visits the
/// pixels from wide to narrow. Every lake begins as a basin of its own; when the water first joins two basins, it does
/// so at the widest way from one to the other, and twice the depth there is how wide the passage is at its narrowest.
///
/// Three things keep noise out. Everything deeper than half the widest passage asked for is filled at once, as one
/// basin for each connected core: no passage can lie there, and those are most of the pixels. A basin smaller than
/// `leastSidePx` is a bay, not a side. And both sides must become deeper than `wideningFactor` times the depth at the
/// saddle, or an even corridor would be a row of passages between its pixels.
///
/// Pixels are sorted by counting in tenths of a pixel, which is as fine as the 5 x 5 distance transform is true.
/// Cost: one pass to sort and one to flood, eight neighbours each; the union-find is flat in practice.
class Flood {
  public:
    Flood(const Regions& paper, const cv::Mat& distance, const PassageOptions& options)
        : m_paper(paper), m_distance(distance), m_options(options),
          m_reach(static_cast<float>(options.widestPx / 2 + 0.5)) {
        fillCores();
    }

    /// The pixels between the cores and the ink (y times the width plus x), the widest places first.
    std::vector<std::uint32_t> fromWideToNarrow() const {
        constexpr float kTenths = 10;
        const size_t bucketCount = static_cast<size_t>(m_reach * kTenths) + 2;
        const auto bucketOf = [&](float d) {
            return bucketCount - 1 - std::min(bucketCount - 1, static_cast<size_t>(d * kTenths));
        };
        std::vector<std::uint32_t> starts(bucketCount + 1, 0);
        eachPixel([&](int, int, float d) {
            if (d > 0 && d <= m_reach)
                ++starts[bucketOf(d) + 1];
        });
        std::partial_sum(starts.begin(), starts.end(), starts.begin());
        std::vector<std::uint32_t> order(starts.back()), next(starts.begin(), starts.end() - 1);
        eachPixel([&](int x, int y, float d) {
            if (d > 0 && d <= m_reach)
                order[next[bucketOf(d)]++] =
                    static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(m_distance.cols) +
                    static_cast<std::uint32_t>(x);
        });
        return order;
    }

    /// The water reaches this pixel: it joins the basins around it, or begins one.
    void wet(int x, int y) {
        const float d = m_distance.at<float>(y, x);
        std::int32_t mine = 0;
        for (const auto& [dx, dy] : kAround) {
            const int nx = x + dx, ny = y + dy;
            if (nx < 0 || ny < 0 || nx >= m_distance.cols || ny >= m_distance.rows ||
                m_paper.labelAt(nx, ny) != m_paper.labelAt(x, y))
                continue;
            const std::int32_t label = m_basinOf.at<std::int32_t>(ny, nx);
            if (label == 0)
                continue;
            const std::int32_t root = m_basins.rootOf(label);
            if (mine != 0 && mine != root)
                note(x, y, d, m_basins[mine], m_basins[root]);
            mine = mine == 0 || mine == root ? root : m_basins.join(mine, root);
        }
        if (mine == 0)
            mine = m_basins.add({0, 0, d, x, y, false});
        m_basins[mine].areaPx += 1;
        m_basins[mine].touchesEdge |=
            x == 0 || y == 0 || x + 1 == m_distance.cols || y + 1 == m_distance.rows;
        m_basinOf.at<std::int32_t>(y, x) = mine;
    }

    /// What was found, the narrowest first.
    std::vector<Passage> passages() {
        std::sort(m_passages.begin(), m_passages.end(),
                  [](const Passage& a, const Passage& b) { return a.widthPx < b.widthPx; });
        return std::move(m_passages);
    }

  private:
    void eachPixel(const auto& visit) const {
        for (int y = 0; y < m_distance.rows; ++y) {
            const float* d = m_distance.ptr<float>(y);
            for (int x = 0; x < m_distance.cols; ++x)
                visit(x, y, d[x]);
        }
    }

    void fillCores() {
        cv::Mat stats, centres;
        const cv::Mat core = m_distance > m_reach;
        const int count = cv::connectedComponentsWithStats(core, m_basinOf, stats, centres, 8, CV_32S);
        for (int i = 0; i < count; ++i) { // 0 is what lies outside the cores; it keeps the numbers alike
            const int left = stats.at<int>(i, cv::CC_STAT_LEFT), top = stats.at<int>(i, cv::CC_STAT_TOP);
            const bool touches = left == 0 || top == 0 ||
                                 left + stats.at<int>(i, cv::CC_STAT_WIDTH) == m_distance.cols ||
                                 top + stats.at<int>(i, cv::CC_STAT_HEIGHT) == m_distance.rows;
            m_basins.add(
                {i, static_cast<double>(stats.at<int>(i, cv::CC_STAT_AREA)), 0, 0, 0, i > 0 && touches});
        }
        eachPixel([&](int x, int y, float d) {
            if (d <= m_reach)
                return;
            Basin& basin = m_basins[m_basinOf.at<std::int32_t>(y, x)];
            if (d > basin.deepest) {
                basin.deepest = d;
                basin.x = x;
                basin.y = y;
            }
        });
    }

    /// Two basins meet at a pixel: a passage, if both are sides worth telling apart.
    void note(int x, int y, float d, const Basin& a, const Basin& b) {
        const Basin& small = a.areaPx < b.areaPx ? a : b;
        const float wide = static_cast<float>(m_options.wideningFactor) * d;
        if (small.areaPx >= m_options.leastSidePx && a.deepest >= wide && b.deepest >= wide)
            m_passages.push_back({x + 0.5, y + 0.5, 2.0 * d, m_paper.labelAt(x, y), small.areaPx,
                                  small.x + 0.5, small.y + 0.5, a.touchesEdge || b.touchesEdge});
    }

    const Regions& m_paper;
    const cv::Mat& m_distance; ///< to ink, px
    const PassageOptions& m_options;
    float m_reach; ///< farther from ink than this no passage can be
    cv::Mat m_basinOf;
    Basins m_basins;
    std::vector<Passage> m_passages;
};

} // namespace

std::vector<std::uint32_t> pixelsOf(const Region& region, int width) {
    std::vector<std::uint32_t> out;
    for (const Run& run : region.runs)
        for (int x = run.x0; x < run.x1; ++x)
            out.push_back(static_cast<std::uint32_t>(run.y) * static_cast<std::uint32_t>(width) +
                          static_cast<std::uint32_t>(x));
    return out;
}

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
    if (inkMask.values.empty())
        return std::vector<Passage>{};
    cv::Mat paperMask(inkMask.height, inkMask.width, CV_8U), distance;
    std::transform(inkMask.values.begin(), inkMask.values.end(), paperMask.data,
                   [](std::uint8_t v) { return static_cast<std::uint8_t>(v ? 0 : 255); });
    cv::distanceTransform(paperMask, distance, cv::DIST_L2, cv::DIST_MASK_5);
    if (progress.isCancelled())
        return base::cancelled();
    Flood flood(paper, distance, options);
    const std::vector<std::uint32_t> order = flood.fromWideToNarrow();
    for (size_t i = 0; i < order.size(); ++i) {
        if (i % 0x10000 == 0 && progress.isCancelled())
            return base::cancelled();
        flood.wet(static_cast<int>(order[i] % static_cast<std::uint32_t>(inkMask.width)),
                  static_cast<int>(order[i] / static_cast<std::uint32_t>(inkMask.width)));
    }
    return flood.passages();
}

} // namespace thinline::raster
