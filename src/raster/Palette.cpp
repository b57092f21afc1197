// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Palette.h"

#include "raster/Colour.h"
#include "raster/Grain.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <unordered_map>

namespace thinline::raster {
namespace {

struct Cluster {
    Vec sum{};
    double count = 0;
    Lab lab;
    Rgb mean() const {
        Rgb out{};
        for (size_t k = 0; k < 3; ++k)
            out[k] = static_cast<std::uint8_t>(std::clamp(std::lround(sum[k] / count), 0L, 255L));
        return out;
    }
    void take(const Cluster& o) {
        for (size_t k = 0; k < 3; ++k)
            sum[k] += o.sum[k];
        count += o.count;
        lab = labOf(mean());
    }
};

/// The even pixels' colours, gathered in small cubes.
std::vector<Cluster> evenColours(const Picture& picture, int even) {
    std::unordered_map<std::uint32_t, Cluster> cubes;
    const auto at = [&](int x, int y) {
        return pixel(picture, std::clamp(x, 0, picture.width - 1), std::clamp(y, 0, picture.height - 1));
    };
    std::uint32_t lastKey = 0;
    Cluster* last = nullptr;
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const std::uint8_t* p = pixel(picture, x, y);
            if (apart(p, at(x + 1, y)) > even || apart(p, at(x - 1, y)) > even ||
                apart(p, at(x, y + 1)) > even || apart(p, at(x, y - 1)) > even)
                continue;
            const std::uint32_t key = static_cast<std::uint32_t>(p[0] >> 3) << 10 |
                                      static_cast<std::uint32_t>(p[1] >> 3) << 5 |
                                      static_cast<std::uint32_t>(p[2] >> 3);
            if (!last || key != lastKey) {
                last = &cubes[key];
                lastKey = key;
            }
            for (size_t k = 0; k < 3; ++k)
                last->sum[k] += p[k];
            last->count += 1;
        }
    std::vector<Cluster> out;
    for (auto& [key, cube] : cubes) {
        cube.lab = labOf(cube.mean());
        out.push_back(cube);
    }
    std::sort(out.begin(), out.end(), [](const Cluster& a, const Cluster& b) {
        return a.count != b.count ? a.count > b.count : a.sum < b.sum;
    });
    return out;
}

double straight(const Lab& a, const Lab& b) {
    return std::hypot(a.l - b.l, a.a - b.a, a.b - b.b);
}

/// Gathers colours nearer than `gap` to a more used one; each cube goes to the nearest in the end.
std::vector<Cluster> gathered(const std::vector<Cluster>& cubes, double gap) {
    constexpr size_t kMost = 64; // with more the picture is no flat art
    constexpr double kFar = 4;   // straight distances are never so much longer than what the eye sees
    std::vector<Cluster> seeds;
    for (const Cluster& cube : cubes) {
        if (std::any_of(seeds.begin(), seeds.end(), [&](const Cluster& s) {
                return straight(s.lab, cube.lab) < kFar * gap && ciede2000(s.lab, cube.lab) < gap;
            }))
            continue;
        seeds.push_back(cube);
        if (seeds.size() == kMost)
            break;
    }
    constexpr int kRounds = 2;
    for (int round = 0; round < kRounds; ++round) {
        std::vector<Cluster> next(seeds.size());
        for (const Cluster& cube : cubes) {
            size_t best = 0;
            double least = 1e9;
            for (size_t i = 0; i < seeds.size(); ++i)
                if (const double d = straight(seeds[i].lab, cube.lab); d < least) {
                    least = d;
                    best = i;
                }
            Cluster& into = next[best];
            for (size_t k = 0; k < 3; ++k)
                into.sum[k] += cube.sum[k];
            into.count += cube.count;
        }
        std::erase_if(next, [](const Cluster& c) { return c.count == 0; });
        for (Cluster& c : next)
            c.lab = labOf(c.mean());
        seeds = std::move(next);
    }
    return seeds;
}

/// Joins the two nearest colours that are nearer than `gap`; a colour with fewer than `few` pixels is taken
/// for the fringe of one up to two and a half times as far. Says whether there were any.
bool joinAlike(std::vector<Cluster>& clusters, double gap, double few) {
    double least = 1;
    size_t a = 0, b = 0;
    for (size_t i = 0; i < clusters.size(); ++i)
        for (size_t j = i + 1; j < clusters.size(); ++j) {
            const double reach = std::min(clusters[i].count, clusters[j].count) < few ? 2.5 * gap : gap;
            if (const double d = ciede2000(clusters[i].lab, clusters[j].lab) / reach; d < least) {
                least = d;
                a = i;
                b = j;
            }
        }
    if (least >= 1)
        return false;
    // A fringe has no say in what the colour is.
    if (clusters[a].count < clusters[b].count)
        std::swap(clusters[a], clusters[b]);
    if (clusters[b].count < 0.1 * clusters[a].count) {
        const double grows = 1 + clusters[b].count / clusters[a].count;
        for (double& channel : clusters[a].sum)
            channel *= grows;
        clusters[a].count *= grows;
    } else {
        clusters[a].take(clusters[b]);
    }
    clusters.erase(clusters.begin() + static_cast<std::ptrdiff_t>(b));
    return true;
}

void joinNearest(std::vector<Cluster>& clusters) {
    size_t a = 0, b = 1;
    double least = 1e300;
    for (size_t i = 0; i < clusters.size(); ++i)
        for (size_t j = i + 1; j < clusters.size(); ++j) {
            const double n = clusters[i].count * clusters[j].count / (clusters[i].count + clusters[j].count);
            const double d = ciede2000(clusters[i].lab, clusters[j].lab);
            if (const double cost = std::sqrt(n) * d * d; cost < least) {
                least = cost;
                a = i;
                b = j;
            }
        }
    clusters[a].take(clusters[b]);
    clusters.erase(clusters.begin() + static_cast<std::ptrdiff_t>(b));
}

} // namespace

std::vector<Rgb> findPalette(const Picture& picture, const PaletteOptions& options) {
    if (picture.isEmpty())
        return {};
    const double grain = grainOf(picture);
    const bool isClean = isExact(picture), isCoarse = hasCoarseColour(picture);
    const Picture calm = calmed(picture, grain);
    std::vector<Cluster> cubes = evenColours(calm, static_cast<int>(std::min(40.0, 6 + 1.5 * grain)));
    if (cubes.empty())
        cubes = evenColours(calm, 255); // nothing is even: every pixel counts
    double all = 0;
    for (const Cluster& c : cubes)
        all += c.count;
    const double gap = options.apart;
    // A colour shows in a spot, not in a pixel here and there.
    const double least = isClean ? 8 : std::max(24.0, 0.0002 * static_cast<double>(picture.pixels()));
    const auto found = [&](double nearer) {
        std::vector<Cluster> clusters = gathered(cubes, nearer);
        while (joinAlike(clusters, nearer, isClean ? 0 : isCoarse ? 0.006 * all : 0.001 * all))
            ;
        if (clusters.size() > 1)
            std::erase_if(clusters, [&](const Cluster& c) { return c.count < least; });
        return clusters;
    };
    std::vector<Cluster> clusters = found(gap);
    if (options.count > 0) // nearer colours are told apart until there are enough
        for (double nearer = 0.7 * gap; static_cast<int>(clusters.size()) < options.count && nearer > 1;
             nearer *= 0.7)
            clusters = found(nearer);
    if (clusters.empty())
        clusters = {*std::max_element(cubes.begin(), cubes.end(),
                                      [](const Cluster& a, const Cluster& b) { return a.count < b.count; })};
    const int most = options.count > 0 ? options.count : 32;
    while (static_cast<int>(clusters.size()) > most)
        joinNearest(clusters);
    std::sort(clusters.begin(), clusters.end(),
              [](const Cluster& a, const Cluster& b) { return a.count > b.count; });
    std::vector<Rgb> out;
    for (const Cluster& c : clusters)
        out.push_back(c.mean());
    return out;
}

} // namespace thinline::raster
