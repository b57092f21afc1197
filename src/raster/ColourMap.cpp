// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Which colour a pixel is of.
//
// Flat artwork has a few colours, and its pixels have thousands: edges are mixtures of two colours,
// compression adds ripples, scanners add grain. Giving each pixel the nearest colour of the palette fails
// at the edges. Halfway between red and white lies pink; if pink is in the palette, every red area gets a
// pink rim. So pixels are decided from the sure ones to the doubtful ones:
//
// 1. Cores. A pixel whose eight neighbours are all near to the same colour as itself is of that colour. No
//    mixture is, since mixtures lie in lines a pixel or two wide.
// 2. Thin lines. A hairline has no core. A pixel that is near to a colour, where no mixture of the cores
//    around explains it, belongs to a line of that colour. Without this step thin lines break up into what
//    lies beside them.
// 3. Soft edges. Everything else is a mixture of two cores nearby. All pairs are tried, from near to far,
//    and the pixel goes to the one that has the larger share in the mixture that explains it best. At
//    three or more colours that meet, each pixel still finds its own pair.
// 4. In pictures that are not exact, pixels that stick out of an edge singly are shaved off, and small
//    parts that are nowhere five pixels thick, and whose colour is a mixture of the two beside them, are
//    given to these two: they are fringes of compression.
//
// JPEG files mostly keep colour at half the resolution of brightness. Where that is seen in the picture,
// colour counts for about a third beside brightness when mixtures are explained; mixtures remain mixtures
// under such a weighting, so nothing else changes.
//
// How sure one may be follows from the grain, which is measured on the picture and taken off before
// (raster/Grain.h).
//
// The nearest colour is looked up in a table of 64 x 64 x 64, filled as it is asked for. Cost: O(pixels)
// for cores; doubtful pixels look at up to eleven by eleven neighbours and at all pairs of the colours
// found there.
#include "raster/Grain.h"
#include "raster/Palette.h"
#include "raster/Parts.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace thinline::raster {
namespace {

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
    ColourMapper(const Picture& picture, const std::vector<Rgb>& palette, double grain, double chroma,
                 bool hasFringes)
        : m_picture(picture), m_chroma(chroma), m_tolerance(22 + 2 * grain), m_hasFringes(hasFringes) {
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
        if (m_hasFringes)
            if (auto done = dissolveFringes(out, progress); !done)
                return done.error();
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
    /// Gives small parts whose colour is a mixture of the two around them to those two, pixel by pixel.
    base::Status dissolveFringes(LabelMap& map, const base::Progress& progress) const {
        constexpr std::int64_t kMostPx = 60;
        const auto found = partsOf(map, progress);
        if (!found)
            return found.error();
        std::vector<std::vector<std::uint32_t>> pixels(found->areaPx.size());
        for (std::uint32_t at = 0; at < map.labels.size(); ++at)
            if (const auto part = static_cast<size_t>(found->map.labels[at]); found->areaPx[part] <= kMostPx)
                pixels[part].push_back(at);
        for (const auto& part : pixels)
            if (!part.empty() && !hasBody(map, part))
                dissolve(map, part);
        return base::Done{};
    }
    /// Whether a part is somewhere five pixels thick: fringes are not.
    static bool hasBody(const LabelMap& map, const std::vector<std::uint32_t>& part) {
        const std::int32_t mine = map.labels[part.front()];
        return std::any_of(part.begin(), part.end(), [&](std::uint32_t at) {
            const int x = static_cast<int>(at % static_cast<std::uint32_t>(map.width)),
                      y = static_cast<int>(at / static_cast<std::uint32_t>(map.width));
            int alike = 0;
            for (int dy = -2; dy <= 2; ++dy)
                for (int dx = -2; dx <= 2; ++dx)
                    alike += map.at(x + dx, y + dy) == mine;
            constexpr int kBody = 21; // of 25, the corners may miss
            return alike >= kBody;
        });
    }
    void dissolve(LabelMap& map, const std::vector<std::uint32_t>& part) const {
        const std::int32_t mine = map.labels[part.front()];
        std::vector<int> beside(m_palette.size(), 0);
        for (const std::uint32_t at : part)
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                const auto w = static_cast<std::uint32_t>(map.width);
                const std::int32_t label =
                    map.at(static_cast<int>(at % w) + dx, static_cast<int>(at / w) + dy);
                if (label >= 0 && label != mine)
                    ++beside[static_cast<size_t>(label)];
            }
        const auto first = std::max_element(beside.begin(), beside.end());
        const int most = *first, all = std::accumulate(beside.begin(), beside.end(), 0);
        const auto a = static_cast<std::int32_t>(first - beside.begin());
        *first = 0;
        const auto second = std::max_element(beside.begin(), beside.end());
        const auto b = static_cast<std::int32_t>(second - beside.begin());
        constexpr double kBoth = 0.12; // of the border a fringe has at least in common with either
        if (most == 0 || *second < kBoth * all)
            return;
        constexpr double kOff = 40; // levels a fringe's colour may lie off the mixtures
        const Mixture own = mixtureOf(m_weighted[static_cast<size_t>(mine)],
                                      m_weighted[static_cast<size_t>(a)], m_weighted[static_cast<size_t>(b)]);
        if (own.square > kOff * kOff || own.ofA <= 0 || own.ofA >= 1)
            return;
        for (const std::uint32_t at : part) {
            const Vec p = weighted(vecOf(m_picture.rgb.data() + static_cast<size_t>(at) * 3));
            map.labels[at] =
                mixtureOf(p, m_weighted[static_cast<size_t>(a)], m_weighted[static_cast<size_t>(b)]).ofA >=
                        0.5
                    ? a
                    : b;
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
    bool m_hasFringes;  ///< grain or compression may make pixels of a third colour between two
};

} // namespace

base::Result<LabelMap> colourMap(const Picture& picture, const std::vector<Rgb>& palette,
                                 const base::Progress& progress) {
    const double grain = grainOf(picture);
    const Picture calm = calmed(picture, grain);
    constexpr double kCoarseChroma = 0.35;
    return ColourMapper(calm, palette, std::min(grain, 12.0), hasCoarseColour(picture) ? kCoarseChroma : 1,
                        !isExact(picture))
        .map(progress);
}

} // namespace thinline::raster
