// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Palette.h"

#include "raster/Parts.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
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

std::uint32_t cubeOf(const std::uint8_t* p) {
    constexpr int kCube = 2; // bits left out: cubes of four levels
    return static_cast<std::uint32_t>(p[0] >> kCube) << 12 | static_cast<std::uint32_t>(p[1] >> kCube) << 6 |
           static_cast<std::uint32_t>(p[2] >> kCube);
}

/// The even pixels' colours, gathered in small cubes, most used first.
std::vector<std::pair<std::uint32_t, Cluster>> evenColours(const Picture& picture,
                                                           const std::vector<std::uint8_t>& isEven) {
    std::unordered_map<std::uint32_t, Cluster> cubes;
    std::uint32_t lastKey = 0;
    Cluster* last = nullptr;
    for (size_t at = 0; at < isEven.size(); ++at) {
        if (!isEven[at])
            continue;
        const std::uint8_t* p = picture.rgb.data() + at * 3;
        if (const std::uint32_t key = cubeOf(p); !last || key != lastKey) {
            last = &cubes[key];
            lastKey = key;
        }
        for (size_t k = 0; k < 3; ++k)
            last->sum[k] += p[k];
        last->count += 1;
    }
    std::vector<std::pair<std::uint32_t, Cluster>> out;
    for (auto& [key, cube] : cubes) {
        cube.lab = labOf(cube.mean());
        out.emplace_back(key, cube);
    }
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) {
        return a.second.count != b.second.count ? a.second.count > b.second.count : a.first < b.first;
    });
    return out;
}

using Cubes = std::vector<std::pair<std::uint32_t, Cluster>>;

size_t nearestOf(const std::vector<Cluster>& clusters, const Lab& lab) {
    size_t best = 0;
    double least = 1e9;
    for (size_t i = 0; i < clusters.size(); ++i)
        if (const double d = unlikeness(clusters[i].lab, lab); d < least) {
            least = d;
            best = i;
        }
    return best;
}

/// Gathers colours nearer than `gap` to a more used one; each cube goes to the nearest in the end.
std::vector<Cluster> gathered(const Cubes& cubes, double gap) {
    constexpr size_t kMost = 64; // with more the picture is no flat art
    std::vector<Cluster> seeds;
    for (const auto& [key, cube] : cubes) {
        if (seeds.size() == kMost)
            break;
        if (std::none_of(seeds.begin(), seeds.end(),
                         [&, &lab = cube.lab](const Cluster& s) { return unlikeness(s.lab, lab) < gap; }))
            seeds.push_back(cube);
    }
    std::vector<Cluster> next(seeds.size());
    for (const auto& [key, cube] : cubes) {
        Cluster& into = next[nearestOf(seeds, cube.lab)];
        for (size_t k = 0; k < 3; ++k)
            into.sum[k] += cube.sum[k];
        into.count += cube.count;
    }
    std::erase_if(next, [](const Cluster& c) { return c.count == 0; });
    for (Cluster& c : next)
        c.lab = labOf(c.mean());
    return next;
}

/// Joins the two nearest colours that are nearer than `gap`; a colour with fewer than `few` pixels is taken for the fringe of
/// one up to two and a half times as far. Says whether there were any.
bool joinAlike(std::vector<Cluster>& clusters, double gap, double few) {
    constexpr double kFringe = 2.5;
    double least = 1;
    size_t a = 0, b = 0;
    for (size_t i = 0; i < clusters.size(); ++i)
        for (size_t j = i + 1; j < clusters.size(); ++j) {
            const double reach = std::min(clusters[i].count, clusters[j].count) < few ? kFringe * gap : gap;
            if (const double d = unlikeness(clusters[i].lab, clusters[j].lab) / reach; d < least) {
                least = d;
                a = i;
                b = j;
            }
        }
    if (a == b)
        return false;
    // A fringe has no say in what the colour is.
    if (clusters[a].count < clusters[b].count)
        std::swap(clusters[a], clusters[b]);
    if (clusters[b].count > 0.1 * clusters[a].count)
        clusters[a].take(clusters[b]);
    clusters.erase(clusters.begin() + static_cast<std::ptrdiff_t>(b));
    return true;
}

/// How far a colour lies from all mixtures of two others.
double offMixtures(const std::vector<Cluster>& others, const Lab& lab) {
    double least = 1e9;
    for (size_t i = 0; i < others.size(); ++i)
        for (size_t j = i + 1; j < others.size(); ++j) {
            const Lab &a = others[i].lab, &b = others[j].lab;
            const Vec way{b.l - a.l, b.a - a.a, b.b - a.b}, off{lab.l - a.l, lab.a - a.a, lab.b - a.b};
            const double t = std::clamp((way[0] * off[0] + way[1] * off[1] + way[2] * off[2]) /
                                            std::max(1e-9, way[0] * way[0] + way[1] * way[1] + way[2] * way[2]),
                                        0.0, 1.0);
            least = std::min(least, square(off, {t * way[0], t * way[1], t * way[2]}));
        }
    return std::sqrt(least);
}

/// How thick each colour is at most: the side of the largest square of even pixels in a part of it that is large enough. 0 if
/// none is.
std::vector<int> thicknesses(const Picture& picture, const std::vector<std::uint8_t>& isEven, const Cubes& cubes,
                             const std::vector<Cluster>& clusters, double leastPx) {
    std::unordered_map<std::uint32_t, std::int32_t> clusterOf;
    for (const auto& [key, cube] : cubes)
        clusterOf[key] = static_cast<std::int32_t>(nearestOf(clusters, cube.lab));
    LabelMap map{picture.width, picture.height, std::vector<std::int32_t>(isEven.size(), -1)};
    for (size_t at = 0; at < isEven.size(); ++at)
        if (isEven[at])
            map.labels[at] = clusterOf[cubeOf(picture.rgb.data() + at * 3)];
    const auto found = partsOf(map);
    std::vector<int> ofPart = squaresIn(*found), out(clusters.size(), 0);
    for (size_t part = 0; part < ofPart.size(); ++part)
        if (found->label[part] >= 0 && static_cast<double>(found->areaPx[part]) >= leastPx) {
            int& thick = out[static_cast<size_t>(found->label[part])];
            thick = std::max(thick, ofPart[part]);
        }
    return out;
}

} // namespace

std::vector<std::uint8_t> evenPixels(const Picture& picture, const Faults& faults) {
    cv::Mat pixels(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data())), high, low;
    // What a file keeps of colour is coarse: there it says less.
    double ofColour = 1;
    if (faults.hasCoarseColour()) {
        cv::Mat parted;
        cv::cvtColor(pixels, parted, cv::COLOR_RGB2YCrCb);
        pixels = parted;
        ofColour = 0.6;
    }
    cv::dilate(pixels, high, cv::Mat::ones(3, 3, CV_8U));
    cv::erode(pixels, low, cv::Mat::ones(3, 3, CV_8U));
    const cv::Mat spread = high - low;
    std::vector<std::uint8_t> widest(static_cast<size_t>(picture.pixels()));
    std::array<std::int64_t, 256> histogram{};
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const cv::Vec3b& v = spread.at<cv::Vec3b>(y, x);
            const auto most = static_cast<std::uint8_t>(std::max<double>(v[0], ofColour * std::max(v[1], v[2])));
            widest[static_cast<size_t>(y) * static_cast<size_t>(picture.width) + static_cast<size_t>(x)] = most;
            ++histogram[most];
        }
    std::int64_t seen = 0;
    double middle = 0;
    while (middle < 255 && (seen += histogram[static_cast<size_t>(middle)]) * 2 < picture.pixels())
        ++middle;
    const double least = faults.isExact() ? 3.5 : std::clamp(2.2 * middle + 4, 7.0, 24.0);
    std::vector<std::uint8_t> out(widest.size());
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const size_t at = static_cast<size_t>(y) * static_cast<size_t>(picture.width) + static_cast<size_t>(x);
            out[at] = widest[at] <= least + 2.5 * faults.edgeShare() * faults.rangeAt(x, y);
        }
    return out;
}

double unlikeness(const Lab& a, const Lab& b) {
    const double ca = std::sqrt(a.a * a.a + a.b * a.b), cb = std::sqrt(b.a * b.a + b.b * b.b), c = std::sqrt(ca * cb), dl = a.l - b.l,
                 dc = ca - cb, dh2 = std::max(0.0, (a.a - b.a) * (a.a - b.a) + (a.b - b.b) * (a.b - b.b) - dc * dc),
                 sc = 1 + 0.045 * c, sh = 1 + 0.015 * c;
    return std::sqrt(dl * dl + dc * dc / (sc * sc) + dh2 / (sh * sh));
}

double unlikeness(Rgb a, Rgb b) {
    return unlikeness(labOf(a), labOf(b));
}

double apartOf(const Faults& faults) {
    return faults.isExact() ? 4 : 5;
}

std::vector<Found> findPalette(const Picture& picture, const Faults& faults, const PaletteOptions& options) {
    if (picture.isEmpty())
        return {};
    std::vector<std::uint8_t> isEven = evenPixels(picture, faults);
    Cubes cubes = evenColours(picture, isEven);
    if (cubes.empty()) { // nothing is even: every pixel counts
        isEven.assign(isEven.size(), 1);
        cubes = evenColours(picture, isEven);
    }
    const double bodyMm2 = faults.isExact() ? 0.5 : 1;
    const double leastPx = std::max(9.0, bodyMm2 / (options.mmPerPx * options.mmPerPx) / 2); // its rim is not even
    double all = 0;
    for (const auto& [key, cube] : cubes)
        all += cube.count;
    const double few = faults.isExact() ? 0 : (faults.hasCoarseColour() ? 0.006 : 0.001) * all;
    const auto found = [&](double gap) {
        std::vector<Cluster> clusters = gathered(cubes, gap);
        while (joinAlike(clusters, gap, few))
            ;
        const std::vector<int> thick = thicknesses(picture, isEven, cubes, clusters, leastPx);
        // Three even pixels across are five of the colour. What is between two others may be a wide fringe of theirs.
        constexpr int kBody = 3, kSurely = 6;
        constexpr double kOfBody = 0.6, kLikeNone = 15, kLine = 12, kFringe = 8;
        std::vector<Cluster> out;
        for (const int least : {kSurely, kBody})
            for (size_t i = 0; i < clusters.size(); ++i)
                if (least == kSurely ? thick[i] >= kSurely
                                     : thick[i] >= kBody && thick[i] < kSurely &&
                                           (faults.isExact() || offMixtures(out, clusters[i].lab) > kFringe))
                    out.push_back(clusters[i]);
        // Of what is nowhere thick the colours that are like none of these and no mixture of two: lines.
        for (size_t i = 0; i < clusters.size(); ++i)
            if (thick[i] < kBody && clusters[i].count > kOfBody * leastPx &&
                std::none_of(out.begin(), out.end(),
                             [&](const Cluster& c) { return unlikeness(c.lab, clusters[i].lab) < kLikeNone; }) &&
                offMixtures(out, clusters[i].lab) > kLine)
                out.push_back(clusters[i]);
        if (out.empty())
            out.push_back(*std::max_element(clusters.begin(), clusters.end(),
                                            [](const Cluster& a, const Cluster& b) { return a.count < b.count; }));
        return out;
    };
    const double gap = apartOf(faults);
    std::vector<Cluster> clusters = found(gap);
    for (double nearer = 0.7 * gap; static_cast<int>(clusters.size()) < options.count && nearer > 1; nearer *= 0.7)
        clusters = found(nearer);
    std::sort(clusters.begin(), clusters.end(), [](const Cluster& a, const Cluster& b) { return a.count > b.count; });
    std::vector<Found> out;
    for (const Cluster& c : clusters)
        out.push_back({c.mean(), c.count});
    return out;
}

} // namespace thinline::raster
