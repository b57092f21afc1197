// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Palette.h"

#include "raster/Colour.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <unordered_map>

namespace thinline::raster {
namespace {

using Vec = std::array<double, 3>;

Vec vecOf(const std::uint8_t* p) {
    return {static_cast<double>(p[0]), static_cast<double>(p[1]), static_cast<double>(p[2])};
}
Vec vecOf(Rgb c) {
    return vecOf(c.data());
}
double square(const Vec& a, const Vec& b) {
    return (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]);
}
int apart(const std::uint8_t* p, const std::uint8_t* q) {
    return std::max({std::abs(p[0] - q[0]), std::abs(p[1] - q[1]), std::abs(p[2] - q[2])});
}

const std::uint8_t* pixel(const Picture& picture, int x, int y) {
    return picture.row(y) + static_cast<size_t>(x) * 3;
}

/// How much neighbouring pixels of even areas differ: 0 in a clean picture, several levels in a noisy one.
double grainOf(const Picture& picture) {
    std::array<std::int64_t, 256> histogram{};
    std::int64_t count = 0;
    const int step = picture.pixels() > 4'000'000 ? 3 : 1;
    for (int y = 0; y < picture.height; y += step)
        for (int x = 0; x + 1 < picture.width; x += step) {
            ++histogram[static_cast<size_t>(apart(pixel(picture, x, y), pixel(picture, x + 1, y)))];
            ++count;
        }
    std::int64_t seen = 0;
    for (size_t v = 0; v < histogram.size(); ++v)
        if ((seen += histogram[v]) * 10 >= count * 7) // seven tenths lie in even areas of any flat picture
            return static_cast<double>(v);
    return 255;
}

/// Whether even areas are even to the level: drawn by a program and never lossily kept.
bool isExact(const Picture& picture) {
    std::int64_t equal = 0, alike = 0;
    const int step = picture.pixels() > 4'000'000 ? 3 : 1;
    for (int y = 0; y < picture.height; y += step)
        for (int x = 0; x + 1 < picture.width; x += step) {
            const int d = apart(pixel(picture, x, y), pixel(picture, x + 1, y));
            equal += d == 0;
            alike += d <= 12;
        }
    return static_cast<double>(equal) > 0.97 * static_cast<double>(alike);
}

/// The picture with its grain taken out where there is any.
Picture calmed(const Picture& picture, double grain) {
    constexpr double kClean = 3;
    if (grain <= kClean || picture.width < 3 || picture.height < 3)
        return picture;
    Picture out = picture;
    cv::Mat from(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat to(out.height, out.width, CV_8UC3, out.rgb.data());
    cv::medianBlur(from, to, 3);
    return out;
}

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

/// A pixel as a mixture of two colours.
struct Mixture {
    double ofA = 0;    ///< share of the first
    double square = 0; ///< squared distance from the nearest mixture
};
Mixture mixtureOf(const Vec& p, const Vec& a, const Vec& b) {
    const double whole = square(a, b);
    double t = 0;
    for (size_t k = 0; k < 3; ++k)
        t += (p[k] - b[k]) * (a[k] - b[k]);
    t = whole > 0 ? std::clamp(t / whole, 0.0, 1.0) : 1;
    return {t, square(p, {b[0] + t * (a[0] - b[0]), b[1] + t * (a[1] - b[1]), b[2] + t * (a[2] - b[2])})};
}

/// Finds each pixel's colour from coarse to fine: even cores first, thin lines next, soft edges last.
class ColourMapper {
  public:
    /// `chroma` says how much colour counts beside brightness where a pixel is a mixture.
    ColourMapper(const Picture& picture, const std::vector<Rgb>& palette, double grain, double chroma)
        : m_picture(picture), m_chroma(chroma), m_tolerance(22 + 2 * grain) {
        for (const Rgb& c : palette) {
            m_palette.push_back(vecOf(c));
            m_weighted.push_back(weighted(m_palette.back()));
        }
        m_nearest.assign(1 << 18, -1);
    }

    base::Result<LabelMap> map(const base::Progress& progress) {
        const int w = m_picture.width, h = m_picture.height;
        LabelMap out{w, h, std::vector<std::int32_t>(static_cast<size_t>(w) * static_cast<size_t>(h), -1)};
        // Each pixel's nearest colour, how it stands in its row of three, and with that in its square of
        // nine.
        constexpr std::uint8_t kNone = 255;
        std::vector<std::uint8_t> nearest(out.labels.size()), row(out.labels.size(), kNone);
        std::vector<std::uint8_t> line(static_cast<size_t>(w));
        for (int y = 0; y < h; ++y) {
            for (int x = 0; x < w; ++x) {
                const int mine = nearestTo(pixel(m_picture, x, y));
                nearest[index(x, y)] = static_cast<std::uint8_t>(mine);
                line[static_cast<size_t>(x)] = isNear(x, y, mine) ? static_cast<std::uint8_t>(mine) : kNone;
            }
            for (size_t x = 0; x < line.size(); ++x)
                if (line[x] == line[x > 0 ? x - 1 : x] && line[x] == line[std::min(x + 1, line.size() - 1)])
                    row[index(static_cast<int>(x), y)] = line[x];
        }
        // Cores: pixels of a colour among pixels of that colour.
        std::vector<std::uint32_t> open;
        for (int y = 0; y < h; ++y) {
            for (int x = 0; x < w; ++x) {
                const std::uint8_t mine = row[index(x, y)];
                if (mine != kNone && row[index(x, std::max(0, y - 1))] == mine &&
                    row[index(x, std::min(h - 1, y + 1))] == mine)
                    out.labels[index(x, y)] = mine;
                else
                    open.push_back(static_cast<std::uint32_t>(index(x, y)));
            }
            if (y % 256 == 0 && progress.isCancelled())
                return base::cancelled();
        }
        // Thin lines: of a colour that no mixture of the cores around explains.
        std::vector<std::pair<std::uint32_t, std::int32_t>> thin;
        for (const std::uint32_t at : open)
            if (const std::uint8_t mine = nearest[at]; isThin(out, at, mine))
                thin.emplace_back(at, mine);
        for (const auto& [at, label] : thin)
            out.labels[at] = label;
        std::vector<std::pair<std::uint32_t, std::int32_t>> soft;
        for (const std::uint32_t at : open)
            if (out.labels[at] < 0)
                soft.emplace_back(at, softLabel(out, at, nearest[at]));
        for (const auto& [at, label] : soft)
            out.labels[at] = label;
        constexpr int kRounds = 2;
        for (int round = 0; round < kRounds && m_chroma < 1; ++round) // a coarse picture's edges are ragged
            shave(out, soft);
        return out;
    }

  private:
    size_t index(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(m_picture.width) + static_cast<size_t>(x);
    }
    int nearestTo(const std::uint8_t* p) {
        const size_t key = static_cast<size_t>(p[0] >> 2) << 12 | static_cast<size_t>(p[1] >> 2) << 6 |
                           static_cast<size_t>(p[2] >> 2);
        if (m_nearest[key] < 0) {
            double least = 1e300;
            const Vec v = vecOf(p);
            for (size_t i = 0; i < m_palette.size(); ++i)
                if (const double d = square(v, m_palette[i]); d < least) {
                    least = d;
                    m_nearest[key] = static_cast<std::int16_t>(i);
                }
        }
        return m_nearest[key];
    }
    bool isNear(int x, int y, int label) const {
        return square(vecOf(pixel(m_picture, x, y)), m_palette[static_cast<size_t>(label)]) <
               m_tolerance * m_tolerance;
    }
    /// The labels known within a distance of a pixel, each once.
    std::vector<std::int32_t> around(const LabelMap& map, std::uint32_t at, int reach) const {
        std::vector<std::int32_t> out;
        const int x0 = static_cast<int>(at % static_cast<std::uint32_t>(map.width)),
                  y0 = static_cast<int>(at / static_cast<std::uint32_t>(map.width));
        for (int y = std::max(0, y0 - reach); y <= std::min(map.height - 1, y0 + reach); ++y)
            for (int x = std::max(0, x0 - reach); x <= std::min(map.width - 1, x0 + reach); ++x)
                if (const std::int32_t label = map.labels[index(x, y)];
                    label >= 0 && std::find(out.begin(), out.end(), label) == out.end())
                    out.push_back(label);
        return out;
    }
    struct Explained {
        std::int32_t label = -1;
        double square = 1e300;
    };
    /// A colour with its brightness kept and the rest drawn towards grey. Mixtures stay mixtures.
    Vec weighted(const Vec& v) const {
        const double y = 0.299 * v[0] + 0.587 * v[1] + 0.114 * v[2];
        return {y + m_chroma * (v[0] - y), y + m_chroma * (v[1] - y), y + m_chroma * (v[2] - y)};
    }
    Explained explain(const Vec& pixelColour, const std::vector<std::int32_t>& labels) const {
        const Vec p = weighted(pixelColour);
        Explained out;
        for (size_t i = 0; i < labels.size(); ++i)
            for (size_t j = i; j < labels.size(); ++j) {
                const Mixture m = mixtureOf(p, m_weighted[static_cast<size_t>(labels[i])],
                                            m_weighted[static_cast<size_t>(labels[j])]);
                if (m.square < out.square)
                    out = {m.ofA >= 0.5 ? labels[i] : labels[j], m.square};
            }
        return out;
    }
    bool isThin(const LabelMap& map, std::uint32_t at, int mine) const {
        const Vec p = vecOf(m_picture.rgb.data() + static_cast<size_t>(at) * 3);
        const double own = square(p, m_palette[static_cast<size_t>(mine)]);
        if (own > m_tolerance * m_tolerance)
            return false;
        const std::vector<std::int32_t> labels = around(map, at, 2);
        if (labels.empty() || std::find(labels.begin(), labels.end(), mine) != labels.end())
            return labels.empty();
        return std::sqrt(explain(p, labels).square) > std::sqrt(own) + m_tolerance;
    }
    /// Takes off what stands out of a soft edge by a pixel: one with fewer than two neighbours of its own.
    static void shave(LabelMap& map, const std::vector<std::pair<std::uint32_t, std::int32_t>>& soft) {
        for (const auto& [at, first] : soft) {
            const int x = static_cast<int>(at % static_cast<std::uint32_t>(map.width)),
                      y = static_cast<int>(at / static_cast<std::uint32_t>(map.width));
            const std::int32_t mine = map.labels[at];
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
            if (own >= 2 || kinds == 0)
                continue;
            map.labels[at] =
                std::max_element(counts.begin(), counts.begin() + static_cast<std::ptrdiff_t>(kinds),
                                 [](const auto& a, const auto& b) { return a.second < b.second; })
                    ->first;
        }
    }
    std::int32_t softLabel(const LabelMap& map, std::uint32_t at, int mine) const {
        const Vec p = vecOf(m_picture.rgb.data() + static_cast<size_t>(at) * 3);
        Explained best;
        constexpr int kFarthest = 5;
        for (int reach = 2; reach <= kFarthest; ++reach) {
            const std::vector<std::int32_t> labels = around(map, at, reach);
            if (labels.empty())
                continue;
            best = explain(p, labels);
            if (labels.size() > 1 && best.square < m_tolerance * m_tolerance)
                break;
        }
        return best.label >= 0 ? best.label : mine;
    }

    const Picture& m_picture;
    std::vector<Vec> m_palette, m_weighted;
    std::vector<std::int16_t> m_nearest; ///< by colour, filled as asked
    double m_chroma;
    double m_tolerance; ///< RGB levels a pixel of a colour may lie off
};

/// Sets of numbers that were joined.
class Joined {
  public:
    std::int32_t add() {
        m_parent.push_back(static_cast<std::int32_t>(m_parent.size()));
        return m_parent.back();
    }
    std::int32_t of(std::int32_t i) {
        while (m_parent[static_cast<size_t>(i)] != i) {
            auto& parent = m_parent[static_cast<size_t>(i)];
            parent = m_parent[static_cast<size_t>(parent)];
            i = parent;
        }
        return i;
    }
    void join(std::int32_t a, std::int32_t b) {
        a = of(a);
        b = of(b);
        m_parent[static_cast<size_t>(std::max(a, b))] = std::min(a, b);
    }

  private:
    std::vector<std::int32_t> m_parent;
};

} // namespace

bool hasCoarseColour(const Picture& picture) {
    constexpr double kGrainy = 4; // a grainy picture has grain in every channel: all three say more than one
    return !isExact(picture) && grainOf(picture) <= kGrainy;
}

std::vector<PaletteColour> findPalette(const Picture& picture, const PaletteOptions& options) {
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
    std::vector<PaletteColour> out;
    for (const Cluster& c : clusters)
        out.push_back({c.mean(), c.count / all});
    return out;
}

base::Result<LabelMap> colourMap(const Picture& picture, const std::vector<Rgb>& palette,
                                 const base::Progress& progress) {
    const double grain = grainOf(picture);
    const Picture calm = calmed(picture, grain);
    constexpr double kCoarseChroma = 0.35;
    return ColourMapper(calm, palette, std::min(grain, 12.0), hasCoarseColour(picture) ? kCoarseChroma : 1)
        .map(progress);
}

base::Result<Parts> partsOf(const LabelMap& labels, const base::Progress& progress) {
    Parts out{{labels.width, labels.height, std::vector<std::int32_t>(labels.labels.size(), -1)}, {}, {}, {}};
    Joined joined;
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
