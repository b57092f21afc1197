// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Which colour a pixel is of.
//
// Painted pictures have a few colours, and their pixels have thousands. Edges are mixtures of two colours, compression adds
// ripples, scanners add grain; a lamp makes one end of the sheet darker, and a thing may run from light to dark by itself.
// So a pixel is
//
//     the sum of shares of the labels there, each times that label's colour there, and a fault,
//     a label's colour there = light there x the label's colour + what it does besides.
//
// Light is found first, without any labels (Shading.cpp), the palette in the picture with its light evened (Palette.cpp).
// Then labels and local colours find one another, from the sure pixels to the doubtful ones:
//
// 1. Cores. A pixel that is even, or whose eight neighbours are nearest to the same colour as itself, is a core of it if it
//    is near enough. What is thinner than four pixels is none: a fringe, or a line that is looked at later. From the cores
//    each colour's local values are learned (LocalColours.cpp), which changes what is nearest; so three rounds, each stricter.
// 2. One thing, several labels. A gradient falls into bands of the palette. Where two cores touch without a step between them
//    (the picture changes over eight pixels by less than six tenths of what tells the two colours apart) they are one thing, and a
//    thing of several labels gets one of its own. Under uneven light, labels alike that nowhere share an edge are one colour:
//    ink keeps its level where paper falls.
// 3. Mixtures. Every other pixel is explained by pairs of colours whose cores lie near, each at its local value; it goes to
//    the one with the larger share. Where no pair explains it, a colour from elsewhere may enter: thin lines have no cores. If
//    none does, the picture has a colour that is nowhere thick; up to three such are gathered from what is left unexplained.
// 4. A thin part gets one label, by a vote in which the clearer pixels count more; parts too small to be drawn go back, and
//    so do fringes, which have no core and are no line.
// 5. Where a single pixel hardly tells which of two colours it is of, what it says is averaged along the border
//    (SteadyBorders.cpp).
//
// "Near" is always in units of the picture's own faults (Faults.h): where a file keeps colour coarser than brightness, colour
// counts less, and beside edges both count less, because compression rings there.
//
// Cost: K colours looked at for every pixel in each round; doubtful pixels look at most 25 x 25 neighbours, mostly 11 x 11,
// and all pairs of the colours found there.
#include "raster/Colouring.h"

#include "raster/ColourSorting.h"
#include "raster/Parts.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::raster {
namespace {

class Labelling {
  public:
    Labelling(const Picture& picture, const ColouringOptions& options, const base::Progress& progress)
        : m_in(picture, options, progress) {}

    base::Result<Colouring> run() {
        if (auto found = findColours(); !found)
            return found.error();
        m_in.progress.report(0.7, "Sorting pixels by colour");
        std::vector<LostColour> lost;
        auto mixed = explained(lost);
        if (!mixed)
            return mixed.error();
        Mixed all = mixed.take();
        addSmall(all, lost);
        std::unordered_map<std::uint32_t, Colouring::Steadied> steadied;
        if (!m_in.faults.isExact()) {
            shave(all.map);
            steadied = steadyBorders(m_in, all.map);
        }
        const auto pixels = static_cast<double>(m_in.cores.labels.size()),
                   sure = static_cast<double>(std::count_if(m_in.cores.labels.begin(), m_in.cores.labels.end(),
                                                            [](std::int32_t label) { return label >= 0; }));
        return Colouring{m_in.faults,
                         m_in.shading,
                         rgbs(),
                         std::move(all.map),
                         m_in.colours,
                         sure / pixels,
                         static_cast<double>(all.unexplained.size()) / pixels,
                         std::move(lost),
                         std::move(steadied)};
    }

  private:
    /// 1. and 2. The palette, its local colours and the sure pixels.
    base::Status findColours() {
        m_in.progress.report(0, "Finding the colours");
        m_in.palette = findPalette(unshaded(m_in.calm, m_in.shading), m_in.faults,
                                   {.count = m_in.options.count, .mmPerPx = m_in.options.mmPerPx});
        if (m_in.progress.isCancelled())
            return base::cancelled();
        for (const Rgb& colour : m_in.options.picked)
            pick(colour);
        m_in.progress.report(0.3, "Sorting pixels by colour");
        m_isEven = evenPixels(m_in.calm, m_in.faults);
        m_in.learnAnew();
        constexpr std::array<double, 3> kNear{150, 36, 20};
        bool isSame = false; // once nothing is learned nothing changes but the strictness
        for (const double near : kNear) {
            if (isSame && near > kNear.back())
                continue;
            if (auto done = findCores(near * (m_in.faults.isExact() ? 0.6 : 1)); !done)
                return done;
            isSame = !m_in.colours.learn(m_in.calm, m_in.cores);
        }
        const auto joined = joinThings(m_in);
        if (!joined)
            return joined.error();
        if (*joined) {
            m_in.learnAnew();
            if (auto done = findCores(m_in.faults.isExact() ? 16 : 25); !done)
                return done;
            m_in.colours.learn(m_in.calm, m_in.cores);
        }
        if (m_in.options.count > 0 && static_cast<int>(m_in.palette.size()) > m_in.options.count)
            joinNearest(m_in, static_cast<size_t>(m_in.options.count));
        return base::Done{};
    }

    /// 3. and 4. Every pixel's label; a colour that is nowhere thick is added where one is left unexplained.
    base::Result<Mixed> explained(std::vector<LostColour>& lost) {
        constexpr int kMostThin = 3;
        for (int more = 0;; ++more) {
            auto mixed = mixtures(m_in);
            if (!mixed)
                return mixed;
            const Mixed& now = *mixed;
            const auto thin = unexplainedColour(m_in, now);
            if (thin && (more == kMostThin || m_in.options.count > 0 || m_in.palette.size() >= kMostColours)) {
                lost.push_back(*thin);
                return mixed;
            }
            if (!thin)
                return mixed;
            m_in.palette.push_back({thin->colour, thin->areaPx});
            m_in.learnAnew();
        }
    }

    std::vector<Rgb> rgbs() const {
        std::vector<Rgb> out;
        for (const Found& f : m_in.palette)
            out.push_back(f.colour);
        return out;
    }
    void pick(Rgb colour) {
        constexpr double kSame = 0.6; // not to be told apart
        constexpr size_t kMostFound = 96; // with the things of several labels and thin colours it stays below kMostColours
        if (m_in.palette.size() < kMostFound &&
            std::none_of(m_in.palette.begin(), m_in.palette.end(),
                         [&](const Found& f) { return unlikeness(f.colour, colour) < kSame; }))
            m_in.palette.push_back({colour, 0});
    }
    /// 1. The sure pixels: m_in.cores anew.
    base::Status findCores(double near) {
        const size_t count = m_in.colours.count();
        std::vector<std::uint8_t> nearest(m_in.cores.labels.size());
        std::vector<std::uint8_t> isNear(m_in.cores.labels.size());
        // Place by place of the lattice that local colours lie on.
        const int step = m_in.colours.step();
        std::vector<Vec> local(count);
        for (int y0 = 0; y0 < m_in.height; y0 += step) {
            for (int x0 = 0; x0 < m_in.width; x0 += step) {
                for (size_t k = 0; k < count; ++k)
                    local[k] = m_in.colours.near(k, x0, y0);
                for (int y = y0; y < std::min(m_in.height, y0 + step); ++y)
                    for (int x = x0; x < std::min(m_in.width, x0 + step); ++x) {
                        const size_t at = m_in.index(x, y);
                        const Weights w = m_in.faults.at(x, y);
                        const Vec p = m_in.seen(at);
                        double least = 1e300;
                        size_t best = 0;
                        for (size_t k = 0; k < count; ++k)
                            if (const double d = w.square(p, local[k]); d < least) {
                                least = d;
                                best = k;
                            }
                        nearest[at] = static_cast<std::uint8_t>(best);
                        isNear[at] = least <= near;
                    }
            }
            if (y0 % 64 == 0 && m_in.progress.isCancelled())
                return base::cancelled();
        }
        std::fill(m_in.cores.labels.begin(), m_in.cores.labels.end(), -1);
        for (int y = 0; y < m_in.height; ++y)
            for (int x = 0; x < m_in.width; ++x) {
                const size_t at = m_in.index(x, y);
                if (!isNear[at])
                    continue;
                bool isAlike = true;
                for (int dy = -1; dy <= 1 && isAlike && !m_isEven[at]; ++dy)
                    for (int dx = -1; dx <= 1 && isAlike; ++dx) {
                        const int xx = std::clamp(x + dx, 0, m_in.width - 1), yy = std::clamp(y + dy, 0, m_in.height - 1);
                        const size_t beside = m_in.index(xx, yy);
                        isAlike = nearest[beside] == nearest[at] && (isNear[beside] || !m_in.faults.isExact());
                    }
                if (isAlike)
                    m_in.cores.labels[at] = nearest[at];
            }
        return dropThinCores();
    }

    /// Parts of cores that are nowhere some pixels thick are fringes or lines.
    base::Status dropThinCores() {
        auto found = partsOf(m_in.cores, m_in.progress);
        if (!found)
            return found.error();
        const Parts& parts = *found;
        const int least = m_in.faults.isExact() ? 2 : 3;
        const std::vector<int> thick = squaresIn(parts);
        for (size_t at = 0; at < m_in.cores.labels.size(); ++at)
            if (thick[static_cast<size_t>(parts.map.labels[at])] < least)
                m_in.cores.labels[at] = -1;
        return base::Done{};
    }

    /// Colours of which nothing is left, as all parts of them were too small.
    void addSmall(const Mixed& mixed, std::vector<LostColour>& lost) const {
        std::vector<bool> isThere(m_in.palette.size(), false);
        for (const std::int32_t label : mixed.map.labels)
            isThere[static_cast<size_t>(label)] = true;
        for (size_t k = 0; k < mixed.sentBack.size(); ++k)
            if (!isThere[k] && mixed.sentBack[k].areaPx * m_in.options.mmPerPx * m_in.options.mmPerPx >= 1) {
                lost.push_back(mixed.sentBack[k]);
                lost.back().colour = m_in.palette[k].colour;
                lost.back().isSmall = true;
            }
    }

    /// Takes off what stands out of a soft edge by a pixel: one with fewer than two neighbours of its own.
    void shave(LabelMap& map) const {
        constexpr int kRounds = 2;
        for (int round = 0; round < kRounds; ++round)
            for (int y = 0; y < m_in.height; ++y)
                for (int x = 0; x < m_in.width; ++x)
                    if (m_in.cores.labels[m_in.index(x, y)] < 0)
                        shaveAt(map, x, y);
    }
    void shaveAt(LabelMap& map, int x, int y) const {
        std::int32_t& mine = map.labels[m_in.index(x, y)];
        std::array<std::pair<std::int32_t, int>, 9> counts{};
        size_t kinds = 0;
        int own = 0;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const std::int32_t label = map.at(x + dx, y + dy);
                if ((dx == 0 && dy == 0) || label < 0)
                    continue;
                own += label == mine;
                size_t k = 0;
                while (k < kinds && counts[k].first != label)
                    ++k;
                if (k == kinds)
                    counts[kinds++] = {label, 0};
                ++counts[k].second;
            }
        if (own < 2 && kinds > 0)
            mine = std::max_element(counts.begin(), counts.begin() + static_cast<std::ptrdiff_t>(kinds),
                                    [](const auto& a, const auto& b) { return a.second < b.second; })
                       ->first;
    }

    static constexpr size_t kMostColours = 200; // labels are bytes
    Sorting m_in;
    std::vector<std::uint8_t> m_isEven;
};

} // namespace

double doubtOf(const Faults& faults, const Vec& step) {
    const Weights w = faults.between(step);
    const double told = w.y * step[0] * step[0] + w.c * (step[1] * step[1] + step[2] * step[2]);
    constexpr double kLevels = 3.3;
    return kLevels / std::sqrt(std::max(1e-9, told));
}

Sorting::Sorting(const Picture& given, const ColouringOptions& wanted, const base::Progress& reports)
    : picture(given), options(wanted), progress(reports), faults(given),
      shading(faults.isExact() ? Shading{} : shadingOf(given)), calm(faults.isExact() ? given : calmed(given, faults.grain())), width(given.width),
      height(given.height), colours(given.width, given.height, shading, {}),
      cores{given.width, given.height, std::vector<std::int32_t>(static_cast<size_t>(given.pixels()), -1)} {}

void Sorting::learnAnew() {
    std::vector<Vec> all;
    for (const Found& f : palette)
        all.push_back(yccOf(f.colour.data()));
    colours = LocalColours(width, height, shading, std::move(all));
    colours.learn(calm, cores);
}

double Colouring::shareOf(const Picture& picture, size_t first, size_t second, int x, int y) const {
    if (!steadied.empty()) {
        const auto there = steadied.find(static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(picture.width) +
                                         static_cast<std::uint32_t>(x));
        if (there != steadied.end()) {
            const double share = there->second.share / 65535.0;
            if (there->second.first == first && there->second.second == second)
                return share;
            if (there->second.first == second && there->second.second == first)
                return 1 - share;
        }
    }
    const Vec a = colours.at(first, x + 0.5, y + 0.5), b = colours.at(second, x + 0.5, y + 0.5);
    return mixtureOf(yccOf(pixel(picture, x, y)), a, b, faults.between(minus(a, b))).ofFirst;
}

double Colouring::doubt(size_t first, size_t second) const {
    if (faults.isExact())
        return 0;
    constexpr double kMost = 0.55;
    return std::min(kMost, doubtOf(faults, minus(colours.evenly(first), colours.evenly(second))));
}

base::Result<Colouring> coloured(const Picture& picture, const ColouringOptions& options,
                                 const base::Progress& progress) {
    return Labelling(picture, options, progress).run();
}

} // namespace thinline::raster
