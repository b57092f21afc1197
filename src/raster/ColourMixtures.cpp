// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
// Pixels that are no cores.
//
// A pixel of a soft edge is a mixture of two colours whose cores lie near, from two pixels to twelve where everything is
// blurred. All pairs there are held against it, each at its local values, in units of the picture's faults; a colour farther
// off costs more, since between skin and a line of ink anything between the two looks like hair beyond the line. Only where
// every pair fails may a colour from elsewhere enter, at a price: that is what a thin line is, and what noise is too.
// Which of the two is decided by the whole: connected pixels of colours from elsewhere vote for one, and go back where they
// are too few to be cut. A part that has no core and is no line is a fringe; its pixels are explained once more by what lies
// around it.
//
// What no mixture explains even so is gathered by colour, from the pixels that are explained worst among their neighbours:
// the middle of a line, not its edges. That is a colour which is nowhere thick.
#include "raster/ColourSorting.h"
#include "raster/Parts.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::raster {
namespace {

class Mixing {
  public:
    explicit Mixing(const Sorting& sorting) : m_in(sorting) {}

    base::Result<Mixed> run() {
        LabelMap map = m_in.cores;
        m_cores.resize(map.labels.size());
        for (size_t at = 0; at < m_cores.size(); ++at)
            m_cores[at] = map.labels[at] < 0 ? kNoColour : static_cast<std::uint8_t>(map.labels[at]);
        m_clear.assign(m_cores.size(), 0);
        m_without.assign(m_cores.size(), kNoColour);
        m_local.resize(m_in.colours.count());
        for (int y = 0; y < m_in.height; ++y) {
            if (y % 64 == 0 && m_in.progress.isCancelled())
                return base::cancelled();
            for (int x = 0; x < m_in.width; ++x)
                if (const size_t at = m_in.index(x, y); m_cores[at] == kNoColour)
                    map.labels[at] = labelOf(x, y);
        }
        m_out.sentBack.assign(m_in.colours.count(), {});
        settleThinParts(map);
        auto dissolved = dissolveFringes(std::move(map));
        if (!dissolved)
            return dissolved.error();
        m_out.map = dissolved.take();
        return std::move(m_out);
    }

  private:
    /// A colour whose cores lie near a pixel, and how far off.
    struct Near {
        std::uint8_t label = 0;
        int far = 0;
    };
    /// Gathers them for a pixel, nearest first.
    void nearTo(int x, int y) {
        std::vector<Near>& out = m_near;
        out.clear();
        const int rad = m_in.faults.isExact() ? 3 : 5;
        constexpr int kFarthest = 12;
        int reach = kFarthest;
        for (int ring = 0; ring <= reach; ++ring) {
            const auto take = [&](int xx, int yy) {
                if (xx < 0 || yy < 0 || xx >= m_in.width || yy >= m_in.height)
                    return;
                const std::uint8_t label = m_cores[m_in.index(xx, yy)];
                if (label == kNoColour ||
                    std::any_of(out.begin(), out.end(), [&](const Near& n) { return n.label == label; }))
                    return;
                if (out.empty())
                    reach = std::min(kFarthest, std::max(rad, ring + rad));
                out.push_back({label, ring});
            };
            for (int i = -ring; i <= ring; ++i) {
                take(x + i, y - ring);
                if (ring > 0)
                    take(x + i, y + ring);
            }
            for (int i = 1 - ring; i < ring; ++i) {
                take(x - ring, y + i);
                take(x + ring, y + i);
            }
        }
    }

    /// What explains a pixel best.
    struct Explained {
        std::uint8_t label = kNoColour;
        double cost = 1e300;
        double clear = 0; ///< 0 half and half to 1 all of it
    };
    void tryPair(const Vec& p, const Weights& at, size_t i, size_t j, const Vec& a, const Vec& b, double extra,
                 Explained& best) const {
        Weights w = at;
        if (i != j) {
            const Weights between = m_in.faults.between(minus(a, b));
            w = {std::min(w.y, between.y), std::min(w.c, between.c)};
        }
        const Mixture m = mixtureOf(p, a, b, w);
        const double cost = m.square + extra;
        if (cost < best.cost)
            best = {static_cast<std::uint8_t>(m.ofFirst >= 0.5 ? i : j), cost,
                    (2 * m.ofFirst - 1) * (2 * m.ofFirst - 1)};
    }

    /// The label of a pixel that is no core: by pairs of colours near it, or with one from elsewhere where none explains it.
    std::int32_t labelOf(int x, int y) {
        constexpr double kPair = 0.5, kFar = 1, kElsewhere = 9, kBadly = 16;
        const size_t at = m_in.index(x, y), count = m_local.size();
        nearTo(x, y);
        const Vec p = m_in.seen(at);
        const Weights w = m_in.faults.at(x, y);
        for (size_t k = 0; k < count; ++k)
            m_local[k] = m_in.colours.near(k, x, y);
        Explained best;
        for (size_t i = 0; i < m_near.size(); ++i) {
            const size_t a = m_near[i].label;
            tryPair(p, w, a, a, m_local[a], m_local[a], kFar * (m_near[i].far - m_near[0].far), best);
            for (size_t j = i + 1; j < m_near.size(); ++j) {
                const size_t b = m_near[j].label;
                tryPair(p, w, a, b, m_local[a], m_local[b], kPair + kFar * (m_near[j].far - m_near[0].far), best);
            }
        }
        if (best.cost > kBadly) {
            const Explained inside = best;
            const auto isNear = [this](size_t k) {
                return std::any_of(m_near.begin(), m_near.end(), [k](const Near& n) { return n.label == k; });
            };
            for (size_t k = 0; k < count; ++k) {
                if (isNear(k))
                    continue;
                tryPair(p, w, k, k, m_local[k], m_local[k], kElsewhere, best);
                for (const Near& n : m_near)
                    tryPair(p, w, k, n.label, m_local[k], m_local[n.label], kElsewhere + kPair, best);
            }
            if (best.label != inside.label && !isNear(best.label) && !m_near.empty()) {
                m_without[at] = inside.label;
                m_clear[at] = static_cast<float>(best.clear);
            }
            if (best.cost > kBadly)
                m_out.unexplained.emplace_back(static_cast<std::uint32_t>(at), static_cast<float>(best.cost));
        }
        return best.label == kNoColour ? 0 : best.label;
    }

    /// A part without a core that is no line either is a fringe: between ink and skin lies what looks like hair. Its pixels go
    /// to what lies around them.
    base::Result<LabelMap> dissolveFringes(LabelMap map) const {
        constexpr int kRounds = 2, kReach = 3;
        for (int round = 0; round < kRounds; ++round) {
            auto found = partsOf(map, m_in.progress);
            if (!found)
                return found.error();
            std::vector<bool> isMeant(found->label.size(), false);
            for (size_t at = 0; at < map.labels.size(); ++at)
                if (m_in.cores.labels[at] == map.labels[at] || (m_without[at] != kNoColour && m_without[at] != map.labels[at]))
                    isMeant[static_cast<size_t>(found->map.labels[at])] = true;
            std::vector<std::pair<std::uint32_t, std::int32_t>> changes;
            std::vector<std::uint8_t> labels;
            for (int y = 0; y < m_in.height; ++y)
                for (int x = 0; x < m_in.width; ++x) {
                    const size_t at = m_in.index(x, y);
                    if (isMeant[static_cast<size_t>(found->map.labels[at])])
                        continue;
                    labels.clear();
                    for (int dy = -kReach; dy <= kReach; ++dy)
                        for (int dx = -kReach; dx <= kReach; ++dx) {
                            const std::int32_t label = map.at(x + dx, y + dy);
                            if (label < 0 || label == map.labels[at] ||
                                !isMeant[static_cast<size_t>(found->map.at(x + dx, y + dy))])
                                continue;
                            if (std::find(labels.begin(), labels.end(), label) == labels.end())
                                labels.push_back(static_cast<std::uint8_t>(label));
                        }
                    Explained best;
                    const Vec p = m_in.seen(at);
                    for (size_t i = 0; i < labels.size(); ++i)
                        for (size_t j = i; j < labels.size(); ++j)
                            tryPair(p, m_in.faults.at(x, y), labels[i], labels[j],
                                    m_in.colours.near(labels[i], x, y), m_in.colours.near(labels[j], x, y), 0, best);
                    if (best.label != kNoColour)
                        changes.emplace_back(static_cast<std::uint32_t>(at), best.label);
                }
            if (changes.empty())
                break;
            for (const auto& [at, label] : changes)
                map.labels[at] = label;
        }
        return map;
    }

    /// Connected pixels of colours from elsewhere get one label, or go back where they are too few.
    void settleThinParts(LabelMap& map) {
        constexpr double kLeastMm2 = 0.4;
        const double leastPx =
            std::max(3.0, std::min(kLeastMm2, m_in.options.leastMm2) / (m_in.options.mmPerPx * m_in.options.mmPerPx));
        std::vector<bool> isSeen(m_without.size(), false);
        std::vector<std::uint32_t> part;
        std::vector<double> votes(m_in.colours.count());
        for (size_t first = 0; first < m_without.size(); ++first) {
            if (m_without[first] == kNoColour || isSeen[first])
                continue;
            part.assign(1, static_cast<std::uint32_t>(first));
            isSeen[first] = true;
            std::fill(votes.begin(), votes.end(), 0);
            for (size_t i = 0; i < part.size(); ++i) {
                const size_t at = part[i];
                const int x = static_cast<int>(at % static_cast<size_t>(m_in.width)),
                          y = static_cast<int>(at / static_cast<size_t>(m_in.width));
                votes[static_cast<size_t>(map.labels[at])] += static_cast<double>(m_clear[at]) + 1e-3;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) {
                        if (x + dx < 0 || y + dy < 0 || x + dx >= m_in.width || y + dy >= m_in.height)
                            continue;
                        const size_t next = m_in.index(x + dx, y + dy);
                        if (m_without[next] != kNoColour && !isSeen[next]) {
                            isSeen[next] = true;
                            part.push_back(static_cast<std::uint32_t>(next));
                        }
                    }
            }
            const auto winner = static_cast<std::int32_t>(std::max_element(votes.begin(), votes.end()) - votes.begin());
            const bool isKept = static_cast<double>(part.size()) >= leastPx;
            for (const std::uint32_t at : part)
                map.labels[at] = isKept ? winner : m_without[at];
            if (!isKept) {
                LostColour& back = m_out.sentBack[static_cast<size_t>(winner)];
                back.areaPx += static_cast<double>(part.size());
                back.x = static_cast<int>(part.front() % static_cast<std::uint32_t>(m_in.width));
                back.y = static_cast<int>(part.front() / static_cast<std::uint32_t>(m_in.width));
            }
        }
    }

    const Sorting& m_in;
    Mixed m_out;
    std::vector<std::uint8_t> m_cores;
    std::vector<std::uint8_t> m_without; ///< of pixels of colours from elsewhere: their labels if those are not let in
    std::vector<float> m_clear;          ///< and how clearly they are of them
    std::vector<Near> m_near;            ///< of the pixel that is looked at
    std::vector<Vec> m_local;
};

} // namespace

base::Result<Mixed> mixtures(const Sorting& sorting) {
    return Mixing(sorting).run();
}

std::optional<LostColour> unexplainedColour(const Sorting& sorting, const Mixed& mixed) {
    constexpr double kLeastMm2 = 1, kApart = 8;
    const double leastPx = kLeastMm2 / (sorting.options.mmPerPx * sorting.options.mmPerPx);
    if (static_cast<double>(mixed.unexplained.size()) < leastPx)
        return {};
    std::vector<float> cost(sorting.cores.labels.size(), 0);
    for (const auto& [at, c] : mixed.unexplained)
        cost[at] = c;
    struct Gathered {
        Vec sum{};
        double count = 0;
        std::uint32_t first = 0;
        Lab lab = {}; ///< of the mean, once all are gathered
        Rgb mean() const {
            Rgb out{};
            for (size_t k = 0; k < 3; ++k)
                out[k] = static_cast<std::uint8_t>(std::lround(sum[k] / count));
            return out;
        }
    };
    std::map<std::uint32_t, Gathered> cubes;
    for (const auto& [at, c] : mixed.unexplained) {
        const int x = static_cast<int>(at % static_cast<std::uint32_t>(sorting.width)),
                  y = static_cast<int>(at / static_cast<std::uint32_t>(sorting.width));
        bool isRidge = true;
        for (int dy = -1; dy <= 1 && isRidge; ++dy)
            for (int dx = -1; dx <= 1 && isRidge; ++dx)
                if (x + dx >= 0 && y + dy >= 0 && x + dx < sorting.width && y + dy < sorting.height)
                    isRidge = cost[sorting.index(x + dx, y + dy)] <= c * 1.1F;
        if (!isRidge)
            continue;
        const double gain = 1 / sorting.shading.at(x + 0.5, y + 0.5);
        const std::uint8_t* p = sorting.calm.rgb.data() + static_cast<size_t>(at) * 3;
        std::uint32_t key = 0;
        Vec even{};
        for (size_t k = 0; k < 3; ++k) {
            even[k] = std::min(255.0, p[k] * gain);
            key = key << 8 | static_cast<std::uint32_t>(even[k]) >> 4;
        }
        Gathered& into = cubes.try_emplace(key, Gathered{.first = at}).first->second;
        for (size_t k = 0; k < 3; ++k)
            into.sum[k] += even[k];
        into.count += 1;
    }
    // Where a file keeps colour for blocks of pixels a thin line hardly has one of its own.
    const double apart = sorting.faults.hasCoarseColour() ? 2.5 * kApart : kApart;
    std::vector<Lab> known;
    for (const Found& f : sorting.palette)
        known.push_back(labOf(f.colour));
    for (auto& [key, one] : cubes)
        one.lab = labOf(one.mean());
    double most = 0;
    LostColour out;
    for (const auto& [key, one] : cubes) {
        const Lab& lab = one.lab;
        if (std::any_of(known.begin(), known.end(), [&](const Lab& k) { return unlikeness(k, lab) < apart; }))
            continue;
        double around = 0;
        for (const auto& [other, many] : cubes)
            if (unlikeness(lab, many.lab) < kApart)
                around += many.count;
        if (around > most) {
            most = around;
            out = {one.mean(), 0, static_cast<int>(one.first % static_cast<std::uint32_t>(sorting.width)),
                   static_cast<int>(one.first / static_cast<std::uint32_t>(sorting.width)), false};
        }
    }
    constexpr double kOfArea = 0.2; // a ridge is one pixel wide, the line it runs in a few
    if (most < std::max(3.0, kOfArea * leastPx))
        return {};
    out.areaPx = most / kOfArea;
    return out;
}

} // namespace thinline::raster
