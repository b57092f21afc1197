// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A shadow with a hard edge.
//
// Light that falls off by degrees is found without any colours (Shading.cpp). A hand's or a lamp's shadow ends at a step, and
// to every look at single places a step is paint: the sheet comes out in twice as many colours, each cut where the shadow
// ends. What betrays it is that all colours take the same step. So, once pixels are sorted by colour:
//
// 1. Places. Wherever the picture goes from one level to another along a row or a column, it is compared to either side of the
//    middle, channel by channel, and must stay as it is beyond. A hard edge is seen from seven pixels, a softer one from two
//    or four times as far; seen from too near it looks too shallow, so what goes deeper counts. A shadow's edge multiplies all
//    three channels by one factor, the same all along, whether both sides were sorted as one colour or as two.
// 2. One factor. Pairs of colours that differ by a factor are candidates; the factor that disjoint pairs tell most of is the
//    shadow's. Paint may do it once or twice (grey on white does; so does every darker twin of a colour), not three times
//    by the same factor, on the ground too, in a part that reaches the picture's edge: that is sure. Shading drawn into a
//    figure has many pairs too, but leaves the ground alone. Anything less is a question for whoever took the picture.
// 3. Where. Colours of those pairs say at each of their pixels whether they are in the shadow; what is seen in one light
//    only belongs to where it lies. Dark parts that neither reach the picture's edge nor darken two colours are paint that
//    happens to look alike.
// 4. How much. Along the edge light goes from one to the other over a few pixels; how far it has gone is read there from
//    the two colours that meet, and carried on to where the edge crosses a border of the drawing and nothing can be read
//    (ShadowEdge.cpp).
//
// Divided by that, the picture is sorted once more from the beginning. Only relabelling the dark colours was thought of
// first: it leaves their local values with a step in them, which no smooth field follows, and borders near it bend.
#include "raster/CastShadow.h"

#include "raster/Parts.h"
#include "raster/ShadowPlaces.h"
#include "raster/Turn.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::raster {
namespace {

using Factors = std::array<double, 3>;

/// From an edge the picture is compared so far to either side, px: hard edges first, then softer ones.
constexpr int kReaches[] = {7, 14, 28};

double medianOf(std::vector<double> values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

class Looking {
  public:
    Looking(const Picture& picture, const Colouring& colouring, const base::Progress& progress)
        : m_picture(picture), m_progress(progress), m_map(colouring.map), m_labels(colouring.palette.size()) {
        m_bright.reserve(static_cast<size_t>(picture.pixels()));
        for (size_t at = 0; at < picture.rgb.size(); at += 3)
            m_bright.push_back(static_cast<std::int16_t>(picture.rgb[at] + picture.rgb[at + 1] + picture.rgb[at + 2]));
    }

    /// None, too, when it is stopped.
    std::optional<CastShadow> run() {
        choosePairs();
        // Where every colour is one on both sides the smooth light has it already.
        if (std::all_of(m_chosen.begin(), m_chosen.end(), [](const Pair& pair) { return pair.lit == pair.dark; }))
            return std::nullopt;
        layDark();
        if (m_chosen.empty() || m_progress.isCancelled())
            return std::nullopt;
        const double whole = static_cast<double>(m_picture.pixels()), side = std::min(m_picture.width, m_picture.height);
        constexpr double kLeastShare = 0.01, kLeastEdge = 0.05, kLeastDeep = 0.03; // lines and small things are none
        CastShadow out;
        out.areaPx = cv::countNonZero(m_dark);
        if (layDeepest(out) < kLeastDeep * side || out.areaPx < kLeastShare * whole || out.areaPx > (1 - kLeastShare) * whole ||
            lengthOf(m_chosen) < kLeastEdge * side)
            return std::nullopt;
        constexpr int kMany = 3;
        out.pairs = static_cast<int>(disjoint(all(m_chosen)).size());
        out.isOnGround = isGroundIn() && m_reachesEdge;
        out.isSure = out.pairs >= kMany && out.isOnGround;
        out.light = lightOf(m_chosen);
        return out;
    }

    /// How much of the shadow every pixel of a picture is in that this one is a reduced copy of.
    Grey shares(const Picture& fine) const {
        const Grey dark{m_dark.cols, m_dark.rows, {m_dark.begin<std::uint8_t>(), m_dark.end<std::uint8_t>()}};
        return shadowShares(fine, dark, m_chosen, static_cast<double>(fine.width) / m_picture.width, m_progress);
    }

  private:
    enum Role : std::uint8_t { kUnknown, kLit, kDark }; ///< of a label

    /// 1. and 2. The pairs that tell most, by the reach at which they do.
    void choosePairs() {
        constexpr double kMore = 1.15;
        double told = 0;
        for (const int reach : kReaches) {
            std::vector<Pair> pairs = oneFactor(findPairs(findPlaces(reach)));
            const double tells = toldBy(all(pairs));
            if (pairs.empty() || (tells <= kMore * told && !isDeeper(pairs)))
                continue;
            told = tells;
            m_chosen = std::move(pairs);
        }
    }

    /// Says how far the deepest pixel lies in the shadow, px, and which it is.
    double layDeepest(CastShadow& out) const {
        cv::Mat depth;
        cv::copyMakeBorder(m_dark, depth, 1, 1, 1, 1, cv::BORDER_REPLICATE);
        cv::distanceTransform(depth, depth, cv::DIST_L2, 3);
        cv::Point deepest;
        double most = 0;
        cv::minMaxLoc(depth, nullptr, &most, nullptr, &deepest);
        out.x = std::clamp(deepest.x - 1, 0, m_picture.width - 1);
        out.y = std::clamp(deepest.y - 1, 0, m_picture.height - 1);
        return most;
    }

    size_t index(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(m_picture.width) + static_cast<size_t>(x);
    }
    Vec around(int x, int y) const { return meanAround(m_picture, x, y); }
    Vec nearOf(const Place& p) const { return around(p.x - p.reach * p.dx, p.y - p.reach * p.dy); }
    Vec farOf(const Place& p) const { return around(p.x + (p.reach + 1) * p.dx, p.y + (p.reach + 1) * p.dy); }

    /// Whether the picture stays as it is beyond an end of a place, goes straight from the one end to the other, and passes
    /// the middle there.
    bool isStep(const Place& p, const Vec& near, const Vec& far, bool isOneThing) const {
        // A gradient is none: within one thing, half as far again must bring no more.
        const double kOfStep = isOneThing ? 0.08 : 0.15, kLevels = isOneThing ? 1 : 3;
        const Vec step = {far[0] - near[0], far[1] - near[1], far[2] - near[2]};
        const double whole = std::sqrt(step[0] * step[0] + step[1] * step[1] + step[2] * step[2]), off = kOfStep * whole + kLevels;
        const auto isOff = [off](const Vec& a, const Vec& b) {
            return std::abs(a[0] - b[0]) > off || std::abs(a[1] - b[1]) > off || std::abs(a[2] - b[2]) > off;
        };
        const int on = onFrom(p.reach);
        if (isOff(around(p.x - on * p.dx, p.y - on * p.dy), near) || isOff(around(p.x + (on + 1) * p.dx, p.y + (on + 1) * p.dy), far))
            return false;
        for (int d = -p.reach / 2; d <= p.reach / 2 + 1; d += std::max(1, p.reach / 4)) {
            const Vec here = around(p.x + d * p.dx, p.y + d * p.dy);
            double along = 0;
            for (size_t k = 0; k < 3; ++k)
                along += (here[k] - near[k]) * step[k];
            const double t = along / std::max(1.0, whole * whole);
            const Vec straight = {near[0] + t * step[0], near[1] + t * step[1], near[2] + t * step[2]};
            if (isOff(here, straight) || t < -kOfStep || t > 1 + kOfStep)
                return false;
        }
        return true;
    }

    std::map<Labels, std::vector<Place>> findPlaces(int reach) const {
        std::map<Labels, std::vector<Place>> out;
        const auto brightAt = [this](int x, int y) { return static_cast<int>(m_bright[index(x, y)]); };
        constexpr double kOneThing = 0.85, kDarkest = 0.25, kLightest = 0.95; // grain included
        const auto look = [&](Place place) {
            const int x0 = place.x - reach * place.dx, y0 = place.y - reach * place.dy, x1 = place.x + (reach + 1) * place.dx,
                      y1 = place.y + (reach + 1) * place.dy;
            const int from = brightAt(x0, y0), to = brightAt(x1, y1), most = std::max(from, to), least = std::min(from, to);
            if (least > kLightest * most || least < kDarkest * most)
                return; // nothing happens, or too much
            const int here = brightAt(place.x, place.y), next = brightAt(place.x + place.dx, place.y + place.dy);
            if ((2 * here - from - to > 0) == (2 * next - from - to > 0) || (2 * here - from - to > 0) != (from > to))
                return; // not the middle
            const std::int32_t near = m_map.at(x0, y0), far = m_map.at(x1, y1);
            if (near == far && least > kOneThing * most)
                return; // a gradient's
            const Vec nearSeen = nearOf(place), farSeen = farOf(place);
            if (!isStep(place, nearSeen, farSeen, near == far))
                return;
            place.isFarDark = from > to;
            // How deep it is, from as far as it was found to stay: a soft edge has not quite ended nearer.
            const int on = onFrom(reach);
            const Vec nearEnd = around(place.x - on * place.dx, place.y - on * place.dy),
                      farEnd = around(place.x + (on + 1) * place.dx, place.y + (on + 1) * place.dy);
            const Vec &lit = place.isFarDark ? nearEnd : farEnd, &dark = place.isFarDark ? farEnd : nearEnd;
            for (size_t k = 0; k < 3; ++k) {
                place.logs[k] = static_cast<float>(std::log(std::max(1.0, dark[k]) / std::max(1.0, lit[k])));
                place.levels[k] = static_cast<float>(lit[k]);
            }
            out[place.isFarDark ? Labels{near, far} : Labels{far, near}].push_back(place);
        };
        const int room = onFrom(reach) + 2; // what isStep looks at beyond an end, and a pixel around it
        for (int y = 1; y + 1 < m_picture.height && !m_progress.isCancelled(); ++y)
            for (int x = 1; x + 1 < m_picture.width; ++x) {
                if (x >= room && x + room + 1 < m_picture.width)
                    look({x, y, 1, 0, reach});
                if (y >= room && y + room + 1 < m_picture.height)
                    look({x, y, 0, 1, reach});
            }
        return out;
    }

    /// Labels between which all channels change by one factor, those seen longest first.
    static std::vector<Pair> findPairs(const std::map<Labels, std::vector<Place>>& all) {
        std::vector<Pair> out;
        for (const auto& [labels, places] : all)
            if (auto pair = pairOf(labels, places))
                out.push_back(std::move(*pair));
        std::stable_sort(out.begin(), out.end(), [](const Pair& a, const Pair& b) { return a.length() > b.length(); });
        return out;
    }
    static std::optional<Pair> pairOf(const Labels& labels, const std::vector<Place>& places) {
        constexpr size_t kLeast = 12;
        constexpr double kTellsFrom = 30, kOfStep = 0.15, kLevels = 2, kDarkest = 0.3, kLightest = 0.9, kSteady = 0.12, kGrain = 3, kMost = 0.6;
        if (places.size() < (labels.first == labels.second ? 2 : 1) * kLeast)
            return std::nullopt;
        Pair pair{labels.first, labels.second, {}, {}, 0, 0};
        Factors levels{};
        double weight = 0;
        for (size_t k = 0; k < 3; ++k) {
            std::vector<double> logs, lit;
            for (const Place& place : places) {
                logs.push_back(static_cast<double>(place.logs[k]));
                lit.push_back(static_cast<double>(place.levels[k]));
            }
            pair.factor[k] = std::exp(medianOf(logs));
            levels[k] = medianOf(lit);
            pair.level += levels[k] / 3;
            if (levels[k] >= kTellsFrom) {
                pair.mean += levels[k] * pair.factor[k];
                weight += levels[k];
            }
        }
        constexpr double kTellsInOne = 60; // a dark thing's grain looks like many steps
        if (weight == 0 || (pair.lit == pair.dark && pair.level < kTellsInOne))
            return std::nullopt;
        pair.mean /= weight;
        if (pair.mean <= kDarkest || pair.mean >= kLightest)
            return std::nullopt;
        for (size_t k = 0; k < 3; ++k)
            if (levels[k] < kTellsFrom)
                pair.factor[k] = pair.mean;
            else if (std::abs(pair.factor[k] - pair.mean) > kOfStep * (1 - pair.mean) + kLevels / levels[k])
                return std::nullopt;
        const double steady = kSteady + kGrain / (pair.level * pair.mean);
        const double middle = std::log(pair.mean);
        for (const Place& place : places)
            if (std::abs(static_cast<double>(place.logs[0] + place.logs[1] + place.logs[2]) / 3 - middle) < steady)
                pair.places.push_back(place);
        if (pair.length() < kMost * static_cast<double>(places.size()))
            return std::nullopt;
        return pair;
    }

    /// Of the pairs, longest first, those that have no label in common.
    std::vector<const Pair*> disjoint(const std::vector<const Pair*>& pairs) const {
        std::vector<bool> isTaken(m_labels, false);
        std::vector<const Pair*> out;
        for (const Pair* pair : pairs) {
            const auto lit = static_cast<size_t>(pair->lit), dark = static_cast<size_t>(pair->dark);
            if (isTaken[lit] || isTaken[dark])
                continue;
            isTaken[lit] = isTaken[dark] = true;
            out.push_back(pair);
        }
        return out;
    }
    static std::vector<const Pair*> all(const std::vector<Pair>& pairs) {
        std::vector<const Pair*> out;
        for (const Pair& pair : pairs)
            out.push_back(&pair);
        return out;
    }
    /// How much pairs tell: many more than long ones.
    double toldBy(const std::vector<const Pair*>& pairs) const {
        double out = 0;
        for (const Pair* pair : disjoint(pairs))
            out += pair->tells();
        return out;
    }
    static double lengthOf(const std::vector<Pair>& pairs) {
        double out = 0;
        for (const Pair& pair : pairs)
            out += pair.length();
        return out;
    }

    /// 2. The most pairs that share a factor, of pairs the longest first.
    std::vector<Pair> oneFactor(const std::vector<Pair>& pairs) const {
        constexpr double kSame = 0.06, kLevels = 2;
        double most = 0;
        std::vector<const Pair*> best;
        for (const Pair& lead : pairs) {
            std::vector<const Pair*> like;
            std::vector<std::uint8_t> roles(m_labels, kUnknown);
            for (const Pair& pair : pairs) {
                std::uint8_t &lit = roles[static_cast<size_t>(pair.lit)], &dark = roles[static_cast<size_t>(pair.dark)];
                const double same = kSame + kLevels / (std::min(pair.level, lead.level) * pair.mean);
                if (std::abs(pair.mean / lead.mean - 1) >= same || lit == kDark || dark == kLit)
                    continue;
                if (pair.lit != pair.dark) {
                    lit = kLit;
                    dark = kDark;
                }
                like.push_back(&pair);
            }
            if (const double told = toldBy(like); told > most) {
                most = told;
                best = std::move(like);
            }
        }
        std::vector<Pair> out;
        for (const Pair* pair : best)
            out.push_back(*pair);
        return out;
    }

    /// Whether these are the chosen pairs seen from farther, and darker: a soft edge is read too shallow from near.
    bool isDeeper(const std::vector<Pair>& pairs) const {
        constexpr double kDeeper = 0.97;
        double before = 0, now = 0;
        for (const Pair& pair : pairs)
            for (const Pair& known : m_chosen)
                if (pair.lit == known.lit && pair.dark == known.dark) {
                    before += known.length() * std::log(known.mean);
                    now += known.length() * std::log(pair.mean);
                }
        return now - before < lengthOf(m_chosen) * std::log(kDeeper);
    }

    static Factors lightOf(const std::vector<Pair>& pairs) {
        Factors sum{};
        double all = 0;
        for (const Pair& pair : pairs) {
            for (size_t k = 0; k < 3; ++k)
                sum[k] += pair.length() * pair.factor[k];
            all += pair.length();
        }
        for (double& v : sum)
            v /= std::max(1.0, all);
        return sum;
    }

    /// A thing that runs through the edge and is even on either side says by its brightness where it lies.
    void tellByLevel(const Pair& pair, cv::Mat& isUnknown) {
        std::vector<double> lit;
        for (const Place& place : pair.places)
            lit.push_back(std::log(std::max(1.0, static_cast<double>(place.levels[0] + place.levels[1] + place.levels[2]))));
        const double middle = medianOf(lit), apart = -std::log(pair.mean), near = apart / 3;
        const auto off = std::count_if(lit.begin(), lit.end(), [&](double v) { return std::abs(v - middle) > near; });
        if (static_cast<double>(off) > 0.1 * pair.length())
            return; // a gradient
        for (int y = 1; y + 1 < m_picture.height; ++y)
            for (int x = 1; x + 1 < m_picture.width; ++x) {
                if (m_map.at(x, y) != pair.lit)
                    continue;
                const Vec seen = around(x, y);
                const double below = middle - std::log(std::max(1.0, seen[0] + seen[1] + seen[2]));
                if (std::abs(below) < near || std::abs(below - apart) < near) {
                    isUnknown.at<std::uint8_t>(y, x) = 0;
                    m_dark.at<std::uint8_t>(y, x) = below > apart / 2;
                }
            }
    }

    /// 3. m_dark: 1 where the shadow lies.
    void layDark() {
        std::vector<std::uint8_t> roles(m_labels, kUnknown);
        for (const Pair& pair : m_chosen)
            if (pair.lit != pair.dark) {
                roles[static_cast<size_t>(pair.lit)] = kLit;
                roles[static_cast<size_t>(pair.dark)] = kDark;
            }
        // Pixels deep in a colour that says it; the others are as the nearest of those.
        cv::Mat isUnknown(m_picture.height, m_picture.width, CV_8U, cv::Scalar(1));
        m_dark = cv::Mat::zeros(isUnknown.size(), CV_8U);
        const auto says = [&](int x, int y) {
            const std::int32_t mine = m_map.at(x, y);
            const std::uint8_t role = roles[static_cast<size_t>(mine)];
            if (role == kUnknown)
                return false;
            // Deep: a line's colour may be another one's in the shadow.
            constexpr int kDeep = 3;
            for (int d = -kDeep; d <= kDeep; ++d)
                for (const std::int32_t other : {m_map.at(x + d, y), m_map.at(x, y + d), m_map.at(x + d, y + d), m_map.at(x + d, y - d)})
                    if (other >= 0 && other != mine)
                        return false;
            return true;
        };
        for (int y = 0; y < m_picture.height; ++y)
            for (int x = 0; x < m_picture.width; ++x)
                if (says(x, y)) {
                    isUnknown.at<std::uint8_t>(y, x) = 0;
                    m_dark.at<std::uint8_t>(y, x) = roles[static_cast<size_t>(m_map.at(x, y))] == kDark;
                }
        // A place counts where both its ends are deep in their colours: a line beside the edge is neither light nor shadow.
        for (Pair& pair : m_chosen)
            if (pair.lit != pair.dark)
                std::erase_if(pair.places, [&](const Place& p) {
                    return isUnknown.at<std::uint8_t>(p.y - p.reach * p.dy, p.x - p.reach * p.dx) != 0 ||
                           isUnknown.at<std::uint8_t>(p.y + (p.reach + 1) * p.dy, p.x + (p.reach + 1) * p.dx) != 0;
                });
        std::erase_if(m_chosen, [](const Pair& pair) { return pair.places.empty(); });
        // A thing that runs through the edge has one colour, as a gradient has: its pixels to both sides say it.
        for (const Pair& pair : m_chosen)
            for (const Place& place : pair.places) {
                const bool isNearDark = !place.isFarDark;
                for (int d = place.reach; d <= place.reach + 2; ++d)
                    for (const bool isNear : {true, false}) {
                        const int along = isNear ? -d : d + 1, x = place.x + along * place.dx, y = place.y + along * place.dy;
                        isUnknown.at<std::uint8_t>(y, x) = 0;
                        m_dark.at<std::uint8_t>(y, x) = isNear == isNearDark;
                    }
            }
        for (const Pair& pair : m_chosen)
            if (pair.lit == pair.dark)
                tellByLevel(pair, isUnknown);
        if (cv::countNonZero(isUnknown) < isUnknown.rows * isUnknown.cols) {
            cv::Mat distance, nearest;
            cv::distanceTransform(isUnknown, distance, nearest, cv::DIST_L2, 5, cv::DIST_LABEL_PIXEL);
            std::vector<std::uint8_t> known(static_cast<size_t>(m_picture.pixels()) + 1, 0);
            for (int y = 0; y < m_picture.height; ++y)
                for (int x = 0; x < m_picture.width; ++x)
                    if (isUnknown.at<std::uint8_t>(y, x) == 0)
                        known[static_cast<size_t>(nearest.at<int>(y, x))] = m_dark.at<std::uint8_t>(y, x);
            for (int y = 0; y < m_picture.height; ++y)
                for (int x = 0; x < m_picture.width; ++x)
                    m_dark.at<std::uint8_t>(y, x) = known[static_cast<size_t>(nearest.at<int>(y, x))];
        }
        dropLookalikes();
    }

    /// Parts that are no shadow, or are in the middle of it: turned to what is around them.
    void dropLookalikes() {
        LabelMap map{m_picture.width, m_picture.height, std::vector<std::int32_t>(static_cast<size_t>(m_picture.pixels()))};
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x)
                map.labels[index(x, y)] = m_dark.at<std::uint8_t>(y, x);
        const auto found = partsOf(map);
        if (!found)
            return;
        const Parts& parts = *found;
        // Around every part: how long its border is, how much of it is a contact of the chosen pairs, and of how many.
        std::vector<int> around(parts.label.size(), 0), ofPairs(parts.label.size(), 0);
        std::vector<std::vector<bool>> which(parts.label.size(), std::vector<bool>(m_chosen.size(), false));
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x)
                for (const auto& [dx, dy] : {std::pair{1, 0}, std::pair{0, 1}})
                    if (const std::int32_t other = parts.map.at(x + dx, y + dy); other >= 0 && other != parts.map.at(x, y)) {
                        ++around[static_cast<size_t>(other)];
                        ++around[static_cast<size_t>(parts.map.at(x, y))];
                    }
        for (size_t k = 0; k < m_chosen.size(); ++k)
            for (const Place& place : m_chosen[k].places) {
                const auto near = static_cast<size_t>(parts.map.at(place.x - place.reach * place.dx, place.y - place.reach * place.dy)),
                           far = static_cast<size_t>(parts.map.at(place.x + (place.reach + 1) * place.dx, place.y + (place.reach + 1) * place.dy));
                if (near == far)
                    continue;
                for (const size_t part : {near, far}) {
                    ++ofPairs[part];
                    which[part][k] = true;
                }
            }
        constexpr double kLeastOfPairs = 0.1;
        std::vector<bool> turns(parts.label.size(), false);
        for (size_t part = 0; part < parts.label.size(); ++part) {
            std::vector<const Pair*> its;
            for (size_t k = 0; k < m_chosen.size(); ++k)
                if (which[part][k])
                    its.push_back(&m_chosen[k]);
            const bool isDark = parts.label[part] == 1;
            const bool hasReason = ofPairs[part] >= kLeastOfPairs * around[part] && (parts.touchesEdge[part] || disjoint(its).size() > 1);
            turns[part] = !hasReason && around[part] > 0;
            if (isDark && !turns[part] && parts.touchesEdge[part])
                m_reachesEdge = true;
        }
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x)
                if (turns[static_cast<size_t>(parts.map.at(x, y))])
                    m_dark.at<std::uint8_t>(y, x) ^= 1;
    }

    /// Whether the colour along most of the picture's edge is seen in both lights.
    bool isGroundIn() const {
        std::vector<int> along(m_labels, 0);
        for (int x = 0; x < m_map.width; ++x) {
            ++along[static_cast<size_t>(m_map.at(x, 0))];
            ++along[static_cast<size_t>(m_map.at(x, m_map.height - 1))];
        }
        for (int y = 0; y < m_map.height; ++y) {
            ++along[static_cast<size_t>(m_map.at(0, y))];
            ++along[static_cast<size_t>(m_map.at(m_map.width - 1, y))];
        }
        const auto ground = static_cast<std::int32_t>(std::max_element(along.begin(), along.end()) - along.begin());
        return std::any_of(m_chosen.begin(), m_chosen.end(), [ground](const Pair& p) { return p.lit == ground || p.dark == ground; });
    }

    const Picture& m_picture;
    const base::Progress& m_progress;
    std::vector<std::int16_t> m_bright; ///< red, green and blue together
    const LabelMap& m_map;
    size_t m_labels;
    std::vector<Pair> m_chosen;
    cv::Mat m_dark;
    bool m_reachesEdge = false;
};

constexpr int kLeastSide = 48;

/// A shadow of a reduced copy, in pixels of the picture.
void enlarge(CastShadow& shadow, const Picture& seen, const Picture& whole) {
    const double scale = static_cast<double>(whole.width) / seen.width;
    shadow.areaPx *= scale * scale;
    shadow.x = std::min(whole.width - 1, static_cast<int>(shadow.x * scale));
    shadow.y = std::min(whole.height - 1, static_cast<int>(shadow.y * scale));
}

/// The shadow in a picture whose colours are told apart, as it lies over a finer one.
std::optional<CastShadow> shadowIn(const Picture& picture, const Colouring& colouring, const Picture& fine, const base::Progress& progress) {
    Looking looking(picture, colouring, progress);
    auto found = looking.run();
    if (!found)
        return found;
    found->shares = looking.shares(fine);
    if (progress.isCancelled())
        return std::nullopt;
    enlarge(*found, picture, fine);
    return found;
}

/// Whether some of the paper is darker than the rest, but no ink: in most drawings none is, and nothing is looked for.
bool hasDarkPart(const Picture& picture) {
    constexpr int kBlock = 24;
    constexpr double kDarkest = 0.3, kLightest = 0.9, kLeastShare = 0.01;
    const Grey grey = brightness(picture);
    std::vector<int> levels;
    for (int y0 = 0; y0 + kBlock <= grey.height; y0 += kBlock)
        for (int x0 = 0; x0 + kBlock <= grey.width; x0 += kBlock) {
            std::vector<std::uint8_t> values;
            for (int y = y0; y < y0 + kBlock; ++y)
                for (int x = x0; x < x0 + kBlock; ++x)
                    values.push_back(grey.at(x, y));
            const auto high = values.begin() + static_cast<std::ptrdiff_t>(values.size() * 9 / 10);
            std::nth_element(values.begin(), high, values.end());
            levels.push_back(*high);
        }
    const int bright = levels.empty() ? 0 : *std::max_element(levels.begin(), levels.end());
    const auto dark = std::count_if(levels.begin(), levels.end(), [&](int v) { return v > kDarkest * bright && v < kLightest * bright; });
    return static_cast<double>(dark) > kLeastShare * static_cast<double>(levels.size());
}

/// How many pixels the edge of a shadow is looked at with: it is soft, and memory is not for nothing.
constexpr double kFinePixels = 4e6;
Picture fineOf(const Picture& picture) {
    const double share = std::sqrt(kFinePixels / static_cast<double>(picture.pixels()));
    return share < 1 ? reduced(picture, share) : picture;
}

} // namespace

std::optional<CastShadow> castShadowIn(const Picture& picture, const Colouring& colouring, const base::Progress& progress) {
    if (colouring.faults.isExact() || std::min(picture.width, picture.height) < kLeastSide)
        return std::nullopt;
    return static_cast<double>(picture.pixels()) > kFinePixels ? castShadowIn(picture, progress) : shadowIn(picture, colouring, picture, progress);
}

std::optional<CastShadow> castShadowIn(const Picture& picture, const base::Progress& progress) {
    constexpr double kLookedAt = 6e5;
    if (std::min(picture.width, picture.height) < kLeastSide)
        return std::nullopt;
    const double share = std::sqrt(kLookedAt / static_cast<double>(picture.pixels()));
    const Picture small = share < 1 ? reduced(picture, share) : picture;
    if (std::min(small.width, small.height) < kLeastSide || !hasDarkPart(small))
        return std::nullopt;
    if (Faults(picture).isExact()) // told from the whole: what is averaged has no grain
        return std::nullopt;
    const auto colouring = coloured(small, {}, progress);
    if (!colouring)
        return std::nullopt;
    const Picture fine = fineOf(picture);
    auto found = shadowIn(small, *colouring, fine, progress);
    if (found)
        enlarge(*found, fine, picture);
    return found;
}

Picture withoutShadow(const Picture& picture, const CastShadow& shadow) {
    Picture out = picture;
    std::array<std::array<double, 256>, 3> gains{};
    for (size_t k = 0; k < 3; ++k)
        for (size_t share = 0; share < 256; ++share)
            gains[k][share] = 1 / (1 - (1 - shadow.light[k]) * static_cast<double>(share) / 255);
    cv::Mat shares(shadow.shares.height, shadow.shares.width, CV_8U);
    std::copy(shadow.shares.values.begin(), shadow.shares.values.end(), shares.begin<std::uint8_t>());
    if (shares.cols != picture.width || shares.rows != picture.height)
        cv::resize(shares, shares, {picture.width, picture.height}, 0, 0, cv::INTER_LINEAR);
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const std::uint8_t share = shares.at<std::uint8_t>(y, x);
            if (share == 0)
                continue;
            std::uint8_t* p = out.rgb.data() + (static_cast<size_t>(y) * static_cast<size_t>(picture.width) + static_cast<size_t>(x)) * 3;
            for (size_t k = 0; k < 3; ++k)
                p[k] = static_cast<std::uint8_t>(std::min(255.0, p[k] * gains[k][share] + 0.5));
        }
    return out;
}

} // namespace thinline::raster
