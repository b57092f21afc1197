// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
// Borders that single pixels hardly tell.
//
// Two pastels under grain, two colours of equal brightness in a JPEG: what one pixel says of the border between them is off
// by a third of a pixel and more, and a curve that follows it is torn. But the border goes on. So the shares that the pixels
// beside it tell are averaged over a disc the wider the less they tell, over the two colours' pixels alone; the label is
// what has the larger part of the average. An average is soft where a border is steep, and borders are read from levels;
// it is made as steep again as it was. It rounds corners, so it is done only where it is needed, and not where a third
// colour is so near that it has a part in what the pixels show.
#include "raster/ColourSorting.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::raster {
namespace {

class Steadying {
  public:
    explicit Steadying(const Sorting& sorting) : m_in(sorting) {}

    std::unordered_map<std::uint32_t, Colouring::Steadied> run(LabelMap& map) const {
        std::unordered_map<std::uint32_t, Beside> band;
        std::vector<std::uint32_t> order;
        const std::vector<std::uint8_t> isBand = nearBorders(map);
        for (int y = 0; y < m_in.height; ++y)
            for (int x = 0; x < m_in.width; ++x) {
                if (!isBand[m_in.index(x, y)])
                    continue;
                const auto at = static_cast<std::uint32_t>(m_in.index(x, y));
                Beside one = besideAt(map, x, y);
                if (one.other == kNoColour)
                    continue;
                const Vec a = m_in.colours.near(one.mine, x, y), b = m_in.colours.near(one.other, x, y);
                one.share = static_cast<float>(
                    mixtureOf(yccOf(m_in.picture.rgb.data() + static_cast<size_t>(at) * 3), a, b, m_in.faults.between(minus(a, b))).ofFirst);
                band.emplace(at, one);
                order.push_back(at);
            }
        std::unordered_map<std::uint32_t, Colouring::Steadied> out;
        std::vector<std::pair<std::uint32_t, std::int32_t>> labels;
        constexpr double kDoubtful = 0.33, kOfDoubt = 2.2, kLeast = 0.7, kMost = 1.6;
        for (const std::uint32_t at : order) {
            const Beside& own = band.at(at);
            const int x = static_cast<int>(at % static_cast<std::uint32_t>(m_in.width)),
                      y = static_cast<int>(at / static_cast<std::uint32_t>(m_in.width));
            const double doubt = doubtAt(own.mine, own.other, x, y);
            if (own.hasThird || doubt < kDoubtful)
                continue;
            const double sigma = std::clamp(kOfDoubt * doubt, kLeast, kMost);
            const int reach = static_cast<int>(std::ceil(2.5 * sigma));
            double sum = 0, weight = 0;
            for (int dy = -reach; dy <= reach; ++dy)
                for (int dx = -reach; dx <= reach; ++dx) {
                    const std::int32_t label = map.at(x + dx, y + dy);
                    if (label != own.mine && label != own.other)
                        continue;
                    const double w = std::exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
                    double share = label == own.mine ? 1 : 0;
                    const auto there = band.find(static_cast<std::uint32_t>(m_in.index(x + dx, y + dy)));
                    if (there != band.end()) {
                        const Beside& o = there->second;
                        if (o.mine == own.mine && o.other == own.other)
                            share = o.share;
                        else if (o.mine == own.other && o.other == own.mine)
                            share = 1 - o.share;
                    }
                    sum += w * share;
                    weight += w;
                }
            const double t = sum / weight,
                         steep = std::clamp((t - 0.5) * std::sqrt(2 * std::numbers::pi * (sigma * sigma + 1)) + 0.5, 0.0, 1.0);
            out[at] = {own.mine, own.other, static_cast<std::uint16_t>(std::lround(steep * 65535))};
            if (t < 0.5)
                labels.emplace_back(at, own.other);
        }
        for (const auto& [at, label] : labels)
            map.labels[at] = label;
        return out;
    }
  private:
    /// By how much one pixel alone may misjudge where a border lies, px.
    double doubtAt(size_t a, size_t b, int x, int y) const {
        return doubtOf(m_in.faults, minus(m_in.colours.near(a, x, y), m_in.colours.near(b, x, y)));
    }
    /// A pixel beside a border, and what lies across.
    struct Beside {
        std::uint8_t mine = kNoColour, other = kNoColour;
        bool hasThird = false; ///< a third colour is so near that it blurs what the pixel shows
        float share = 0;       ///< of its own colour
    };
    Beside besideAt(const LabelMap& map, int x, int y) const {
        constexpr int kBand = 4;
        constexpr double kBlurs = 2.5;
        Beside out{static_cast<std::uint8_t>(map.labels[m_in.index(x, y)]), kNoColour, false, 0};
        double nearest = 1e9, third = 1e9;
        for (int dy = -kBand; dy <= kBand; ++dy)
            for (int dx = -kBand; dx <= kBand; ++dx) {
                const std::int32_t label = map.at(x + dx, y + dy);
                if (label < 0 || label == out.mine)
                    continue;
                const double far = std::hypot(dx, dy);
                if (label == out.other) {
                    nearest = std::min(nearest, far);
                } else if (far < nearest) {
                    third = nearest;
                    nearest = far;
                    out.other = static_cast<std::uint8_t>(label);
                } else {
                    third = std::min(third, far);
                }
            }
        out.hasThird = third < kBlurs;
        return out;
    }

    std::vector<std::uint8_t> nearBorders(const LabelMap& map) const {
        constexpr int kBand = 3;
        std::vector<std::uint8_t> out(map.labels.size(), 0);
        const auto mark = [&](int x, int y) {
            for (int dy = -kBand; dy <= kBand; ++dy)
                for (int dx = -kBand; dx <= kBand; ++dx)
                    if (x + dx >= 0 && y + dy >= 0 && x + dx < m_in.width && y + dy < m_in.height)
                        out[m_in.index(x + dx, y + dy)] = 1;
        };
        for (int y = 0; y < m_in.height; ++y)
            for (int x = 0; x < m_in.width; ++x)
                if ((x + 1 < m_in.width && map.at(x + 1, y) != map.at(x, y)) ||
                    (y + 1 < m_in.height && map.at(x, y + 1) != map.at(x, y)))
                    mark(x, y);
        return out;
    }

    const Sorting& m_in;
};

} // namespace

std::unordered_map<std::uint32_t, Colouring::Steadied> steadyBorders(const Sorting& sorting, LabelMap& map) {
    return Steadying(sorting).run(map);
}

} // namespace thinline::raster
