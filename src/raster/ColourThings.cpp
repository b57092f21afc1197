// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
// What is one thing, though the palette has several colours for it.
//
// A gradient falls into bands of the palette, and so does paper under a light that was not quite found. Bands touch without an
// edge: over eight pixels the picture changes by less than six tenths of what tells the two colours apart, while across a
// border it changes by all of it. So every contact of two parts of cores is measured, and parts are joined along contacts
// without a step, if they are long enough to be no accident. A thing that is nearly all of one label keeps it, which keeps its
// colour the same as elsewhere; others get one of their own, whose local values (LocalColours.cpp) carry the gradient. The
// largest do: in a photo everything is a gradient, and a label for each patch would be as many as nobody cuts. The rest
// take the label there is most of in them.
#include "raster/ColourSorting.h"

#include "base/Joined.h"
#include "raster/Parts.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

namespace thinline::raster {
namespace {

class Joining {
  public:
    explicit Joining(Sorting& sorting) : m_in(sorting) {}

    base::Result<bool> run() {
        auto found = partsOf(m_in.cores, m_in.progress);
        if (!found)
            return found.error();
        const Parts& parts = *found;
        const Contacts contacts = contactsOf(parts);
        base::Joined things(parts.label.size());
        bool isAny = false;
        for (const auto& [pair, contact] : contacts)
            if (isOneThing(parts, pair, contact)) {
                things.join(pair.first, pair.second);
                isAny = true;
            }
        if (!isAny)
            return false;
        std::vector<Found> palette;
        const std::map<std::int32_t, std::int32_t> labelOf = newLabels(sharesOf(parts, things), palette);
        // Labels that border on one another along an edge are two colours however alike they are.
        std::set<std::pair<std::int32_t, std::int32_t>> parted;
        for (const auto& [pair, contact] : contacts)
            if (const auto a = labelOf.find(things.of(pair.first)),
                b = labelOf.find(things.of(pair.second));
                contact.steps >= kNoEdge * contact.length && a != labelOf.end() && b != labelOf.end())
                parted.insert(std::minmax(a->second, b->second));
        const std::vector<std::int32_t> becomes = alikeUnderLight(palette, parted);
        for (size_t at = 0; at < m_in.cores.labels.size(); ++at)
            if (m_in.cores.labels[at] >= 0) {
                const auto kept = labelOf.find(things.of(parts.map.labels[at]));
                m_in.cores.labels[at] = kept == labelOf.end() ? -1 : becomes[static_cast<size_t>(kept->second)];
            }
        m_in.palette = std::move(palette);
        return true;
    }

  private:
    /// Where two parts of cores touch.
    struct Contact {
        int length = 0;   ///< px
        double steps = 0; ///< of the picture across it, in what tells the two apart; added up
    };
    using Contacts = std::map<std::pair<std::int32_t, std::int32_t>, Contact>;

    static constexpr double kNoEdge = 0.6; ///< of what tells two colours apart, within eight pixels

    static bool isOneThing(const Parts& parts, const std::pair<std::int32_t, std::int32_t>& pair,
                           const Contact& contact) {
        const auto smaller = static_cast<double>(std::min(parts.areaPx[static_cast<size_t>(pair.first)],
                                                          parts.areaPx[static_cast<size_t>(pair.second)]));
        return contact.steps < kNoEdge * contact.length && contact.length >= std::max(6.0, 0.12 * std::sqrt(smaller));
    }

    /// The labels of each thing, by how much there is of them, px².
    using Shares = std::map<std::int32_t, std::map<std::int32_t, double>>;
    Shares sharesOf(const Parts& parts, base::Joined& things) const {
        Shares shares;
        for (size_t part = 0; part < parts.label.size(); ++part)
            if (parts.label[part] >= 0)
                shares[things.of(static_cast<std::int32_t>(part))][parts.label[part]] += static_cast<double>(parts.areaPx[part]);
        // Of a label that went into things of several, specks that were cut off are no colour.
        std::map<std::int32_t, double> alone;
        std::vector<double> ofLabel(m_in.palette.size(), 0);
        for (const auto& [thing, labels] : shares)
            for (const auto& [label, area] : labels) {
                ofLabel[static_cast<size_t>(label)] += area;
                if (labels.size() == 1)
                    alone[label] += area;
            }
        constexpr double kSpecks = 0.05;
        std::erase_if(shares, [&](const auto& one) {
            const std::int32_t label = one.second.begin()->first;
            return one.second.size() == 1 && alone[label] < kSpecks * ofLabel[static_cast<size_t>(label)];
        });
        return shares;
    }

    /// A thing of one label keeps it; one of several gets its own, of the mean colour, if it is among the largest of those.
    std::map<std::int32_t, std::int32_t> newLabels(const Shares& shares, std::vector<Found>& palette) const {
        struct Thing {
            std::int32_t number = 0, mostly = 0;
            double area = 0;
            bool isOfOne = true;
        };
        std::vector<Thing> things;
        for (const auto& [number, labels] : shares) {
            const auto most = std::max_element(labels.begin(), labels.end(),
                                               [](const auto& a, const auto& b) { return a.second < b.second; });
            double all = 0;
            for (const auto& [label, area] : labels)
                all += area;
            constexpr double kMostly = 0.97;
            things.push_back({number, most->first, all, most->second > kMostly * all});
        }
        std::stable_sort(things.begin(), things.end(), [](const Thing& a, const Thing& b) { return a.area > b.area; });
        std::map<std::int32_t, std::int32_t> keptAs, labelOf;
        int owned = 0;
        for (const Thing& thing : things) {
            constexpr int kMostOwn = 64;
            if (thing.isOfOne || owned == kMostOwn) {
                const auto [there, isNew] = keptAs.try_emplace(thing.mostly, static_cast<std::int32_t>(palette.size()));
                if (isNew)
                    palette.push_back({m_in.palette[static_cast<size_t>(thing.mostly)].colour, 0});
                labelOf[thing.number] = there->second;
                palette[static_cast<size_t>(there->second)].pixels += thing.area;
                continue;
            }
            Vec mean{};
            for (const auto& [label, part] : shares.at(thing.number))
                for (size_t k = 0; k < 3; ++k)
                    mean[k] += m_in.colours.evenly(static_cast<size_t>(label))[k] * part / thing.area;
            labelOf[thing.number] = static_cast<std::int32_t>(palette.size());
            palette.push_back({rgbOfYcc(mean), thing.area});
            ++owned;
        }
        return labelOf;
    }

    Contacts contactsOf(const Parts& parts) const {
        Contacts out;
        const auto look = [&](int x, int y, int dx, int dy) {
            const std::int32_t a = parts.map.at(x, y), la = m_in.cores.at(x, y);
            std::int32_t b = -1;
            int far = 1;
            for (; far <= 3; ++far) {
                const std::int32_t label = m_in.cores.at(x + far * dx, y + far * dy);
                if (label == la)
                    return;
                if (label >= 0) {
                    b = parts.map.at(x + far * dx, y + far * dy);
                    break;
                }
            }
            if (la < 0 || b < 0)
                return;
            constexpr int kOver = 4; // from the middle between them, either way
            const int back = kOver - (far + 1) / 2, on = kOver + far / 2;
            const int x0 = std::clamp(x - back * dx, 0, m_in.width - 1), y0 = std::clamp(y - back * dy, 0, m_in.height - 1),
                      x1 = std::clamp(x + on * dx, 0, m_in.width - 1), y1 = std::clamp(y + on * dy, 0, m_in.height - 1);
            const double light = m_in.shading.at(x + 0.5, y + 0.5);
            const Vec step = minus(m_in.seen(m_in.index(x1, y1)), m_in.seen(m_in.index(x0, y0))),
                      apart = minus(m_in.colours.evenly(static_cast<size_t>(m_in.cores.at(x + far * dx, y + far * dy))),
                                    m_in.colours.evenly(static_cast<size_t>(la)));
            double along = 0, whole = 0;
            for (size_t k = 0; k < 3; ++k) {
                along += step[k] * apart[k];
                whole += light * apart[k] * apart[k];
            }
            Contact& contact = out[std::minmax(a, b)];
            ++contact.length;
            contact.steps += whole > 0 ? along / whole : 0;
        };
        for (int y = 0; y < m_in.height; ++y)
            for (int x = 0; x < m_in.width; ++x) {
                if (m_in.cores.labels[m_in.index(x, y)] < 0)
                    continue;
                look(x, y, 1, 0);
                look(x, y, 0, 1);
            }
        return out;
    }

    /// Labels that are one colour in another light; the palette shrinks. Most used first.
    std::vector<std::int32_t> alikeUnderLight(std::vector<Found>& palette,
                                              const std::set<std::pair<std::int32_t, std::int32_t>>& parted) const {
        const size_t n = palette.size();
        base::Joined sets(n);
        if (!m_in.shading.isEven())
            for (size_t i = 0; i < n; ++i)
                for (size_t j = i + 1; j < n; ++j)
                    if (!parted.contains({static_cast<std::int32_t>(i), static_cast<std::int32_t>(j)}) &&
                        unlikeness(palette[i].colour, palette[j].colour) < 1.2 * apartOf(m_in.faults))
                        sets.join(static_cast<std::int32_t>(i), static_cast<std::int32_t>(j));
        const auto setOf = [&sets](size_t i) { return static_cast<size_t>(sets.of(static_cast<std::int32_t>(i))); };
        std::vector<Found> joined(n);
        std::vector<Vec> sums(n);
        for (size_t i = 0; i < n; ++i) {
            const size_t into = setOf(i);
            joined[into].pixels += palette[i].pixels;
            for (size_t k = 0; k < 3; ++k)
                sums[into][k] += palette[i].colour[k] * palette[i].pixels;
        }
        std::vector<size_t> order;
        for (size_t i = 0; i < n; ++i)
            if (setOf(i) == i) {
                for (size_t k = 0; k < 3 && joined[i].pixels > 0; ++k)
                    joined[i].colour[k] = static_cast<std::uint8_t>(std::lround(sums[i][k] / joined[i].pixels));
                order.push_back(i);
            }
        std::stable_sort(order.begin(), order.end(),
                         [&](size_t a, size_t b) { return joined[a].pixels > joined[b].pixels; });
        std::vector<std::int32_t> rank(n, -1), becomes(n);
        palette.clear();
        for (const size_t i : order) {
            rank[i] = static_cast<std::int32_t>(palette.size());
            palette.push_back(joined[i]);
        }
        for (size_t i = 0; i < n; ++i)
            becomes[i] = rank[setOf(i)];
        return becomes;
    }

    Sorting& m_in;
};

} // namespace

base::Result<bool> joinThings(Sorting& sorting) {
    return Joining(sorting).run();
}

void joinNearest(Sorting& sorting, size_t count) {
    std::vector<std::int32_t> becomes(sorting.palette.size());
    std::iota(becomes.begin(), becomes.end(), 0);
    while (sorting.palette.size() > count) {
        size_t a = 0, b = 1;
        double least = 1e300;
        for (size_t i = 0; i < sorting.palette.size(); ++i)
            for (size_t j = i + 1; j < sorting.palette.size(); ++j) {
                const double n = sorting.palette[i].pixels * sorting.palette[j].pixels /
                                 std::max(1.0, sorting.palette[i].pixels + sorting.palette[j].pixels),
                             d = unlikeness(sorting.palette[i].colour, sorting.palette[j].colour);
                if (const double cost = std::sqrt(n) * d * d; cost < least) {
                    least = cost;
                    a = i;
                    b = j;
                }
            }
        const double all = std::max(1.0, sorting.palette[a].pixels + sorting.palette[b].pixels);
        for (size_t k = 0; k < 3; ++k)
            sorting.palette[a].colour[k] = static_cast<std::uint8_t>(
                std::lround((sorting.palette[a].colour[k] * sorting.palette[a].pixels +
                             sorting.palette[b].colour[k] * sorting.palette[b].pixels) / all));
        sorting.palette[a].pixels = all;
        sorting.palette.erase(sorting.palette.begin() + static_cast<std::ptrdiff_t>(b));
        for (std::int32_t& label : becomes)
            label = label == static_cast<std::int32_t>(b) ? static_cast<std::int32_t>(a)
                    : label > static_cast<std::int32_t>(b) ? label - 1
                                                           : label;
    }
    for (std::int32_t& label : sorting.cores.labels)
        if (label >= 0)
            label = becomes[static_cast<size_t>(label)];
    sorting.learnAnew();
}

} // namespace thinline::raster
