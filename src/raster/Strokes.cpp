// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Strokes: dashes that stand free, and dashes that do not.
//
// A dash that stands free is a region of its own: longer than wide, its box full, which its second moments
// tell. But the first dash of a fold often touches the outline, dashes of two folds cross, and where many
// folds meet their dashes run into a star. There the ink is one region and no moments help. What is left of
// such a dash is its free end, an arm that sticks out.
//
// Arms are found by thinning: the ink is peeled, a layer from every side in turn, until only lines a pixel
// wide are left (two subiterations of parallel thinning, which keep ends and connections). A pixel with one
// neighbour is a free end; from there the line is followed until it meets another or bends away. Thinning
// moves the line where it is joined to others, so the arm's direction is taken from the part near its free
// end, and the arm is then walked through the ink itself: while the ink to both sides reaches no farther
// than the stroke is thick, it is the arm; where it opens out, the arm is rooted. Thinning alone would be a
// poor finder of lines, since every bump of a scanned edge grows a hair; but hairs are shorter than the ink
// is thick, and an arm must be longer.
//
// Only ink thinner than the thickest dash is thinned. So the cost is bounded by that, and a black area of
// the drawing costs nothing.
//
// Source: Z. Guo and R. W. Hall, Parallel Thinning with Two-Subiteration Algorithms, Comm. ACM 32(3), 1989.
#include "raster/Strokes.h"

#include "raster/Regions.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace thinline::raster {
namespace {

using geometry::Point;

constexpr std::uint8_t kInk = 255;
constexpr size_t kMost = 5000;     // more short strokes are a pattern
constexpr double kStroke = 1.8;    // as long as wide at least
constexpr double kInTheEdge = 1.2; // px a pixel's middle may lie outside of a stroke it belongs to

struct Pixel {
    int x = 0, y = 0;
};

Point middleOf(Pixel p) {
    return {p.x + 0.5, p.y + 0.5};
}

/// The eight pixels around, clockwise from above.
constexpr int kAroundX[] = {0, 1, 1, 1, 0, -1, -1, -1}, kAroundY[] = {-1, -1, 0, 1, 1, 1, 0, -1};

bool isInkAt(const Grey& ink, int x, int y) {
    return x >= 0 && y >= 0 && x < ink.width && y < ink.height && ink.at(x, y) == kInk;
}

std::array<bool, 8> aroundOf(const Grey& ink, Pixel p) {
    std::array<bool, 8> out{};
    for (size_t k = 0; k < 8; ++k)
        out[k] = isInkAt(ink, p.x + kAroundX[k], p.y + kAroundY[k]);
    return out;
}

/// Whether a pixel is peeled off in one of the two subiterations.
bool isPeeled(const std::array<bool, 8>& n, bool isSecond) {
    const int runs = (!n[0] && (n[1] || n[2])) + (!n[2] && (n[3] || n[4])) + (!n[4] && (n[5] || n[6])) +
                     (!n[6] && (n[7] || n[0]));
    if (runs != 1)
        return false;
    const int one = (n[7] || n[0]) + (n[1] || n[2]) + (n[3] || n[4]) + (n[5] || n[6]);
    const int other = (n[0] || n[1]) + (n[2] || n[3]) + (n[4] || n[5]) + (n[6] || n[7]);
    const int least = std::min(one, other);
    if (least < 2 || least > 3)
        return false;
    return isSecond ? !((n[4] || n[5] || !n[7]) && n[6]) : !((n[0] || n[1] || !n[3]) && n[2]);
}

/// Peels ink down to lines a pixel wide; returns their pixels.
std::vector<Pixel> thinned(Grey& ink, double thickestPx) {
    std::vector<Pixel> left;
    for (int y = 0; y < ink.height; ++y)
        for (int x = 0; x < ink.width; ++x)
            if (ink.at(x, y) == kInk)
                left.push_back({x, y});
    const int rounds = static_cast<int>(thickestPx) + 2; // each peels a pixel off two sides
    std::vector<Pixel> peeled;
    for (int round = 0; round < 2 * rounds; ++round) {
        peeled.clear();
        for (const Pixel p : left)
            if (isPeeled(aroundOf(ink, p), round % 2 == 1))
                peeled.push_back(p);
        for (const Pixel p : peeled)
            ink.at(p.x, p.y) = 0;
        std::erase_if(left, [&](Pixel p) { return ink.at(p.x, p.y) != kInk; });
        if (peeled.empty() && round % 2 == 1)
            break;
    }
    return left;
}

Bar barOf(const std::vector<std::uint32_t>& pixels, int width) {
    geometry::Polygon places;
    const auto w = static_cast<std::uint32_t>(width);
    for (const std::uint32_t at : pixels)
        places.push_back({static_cast<double>(at % w) + 0.5, static_cast<double>(at / w) + 0.5});
    return raster::barOf(places);
}

/// A region as a stroke that stands free: along its longest extent; nothing for what is no stroke.
std::optional<Stroke> freeStroke(const Region& region, int width, double longest) {
    if (region.areaPx < 4 || std::max(region.width, region.height) > longest)
        return std::nullopt;
    Stroke out;
    const double n = static_cast<double>(region.areaPx);
    out.pixels = pixelsOf(region, width);
    const Bar bar = barOf(out.pixels, width);
    const double along = bar.length, across = bar.width;
    constexpr double kFull = 0.7;
    if (along < kStroke * std::max(1.0, across) || n < kFull * along * std::max(1.0, across))
        return std::nullopt;
    out.ends[0] = bar.middle - bar.along * (along / 2);
    out.ends[1] = bar.middle + bar.along * (along / 2);
    out.thickness = across;
    return out;
}

/// The thinned line from a free end to where it meets others.
struct Followed {
    std::vector<Pixel> way;
    size_t hair = 0; ///< of it, the pixels that lead from a corner of the stroke's end to its middle
};

Followed followed(const Grey& lines, const cv::Mat& depth, Pixel end, size_t most) {
    Followed out{{end}, 0};
    Pixel before = end, here = end;
    const auto isBeside = [](Pixel a, Pixel b) {
        return std::max(std::abs(a.x - b.x), std::abs(a.y - b.y)) <= 1;
    };
    while (out.way.size() < most) {
        const auto around = aroundOf(lines, here);
        int runs = 0;
        for (size_t k = 0; k < 8; ++k)
            runs += around[k] && !around[(k + 1) % 8];
        const double deep = depth.at<float>(here.y, here.x);
        // Where a wide stroke ends bluntly, two hairs run to its corners; its middle goes on from where they meet.
        const bool isHair = static_cast<double>(out.way.size()) <= 1.6 * deep + 2;
        if (runs > 2 && !isHair)
            break;
        std::optional<Pixel> next;
        for (const size_t k : {0U, 2U, 4U, 6U, 1U, 3U, 5U, 7U}) {
            const Pixel to{here.x + kAroundX[k], here.y + kAroundY[k]};
            if (!around[k] || (out.way.size() > 1 && isBeside(to, before)))
                continue;
            if (!next || (runs > 2 && depth.at<float>(to.y, to.x) > depth.at<float>(next->y, next->x)))
                next = to;
        }
        if (!next)
            break;
        if (runs > 2)
            out.hair = out.way.size();
        before = here;
        here = *next;
        out.way.push_back(here);
    }
    return out;
}

std::vector<std::uint32_t> inkAlong(const Grey& ink, Point from, Point to, double thickness) {
    const double reach = thickness / 2 + kInTheEdge, whole = geometry::distance(from, to);
    const Point in = geometry::direction(to - from);
    const auto least = [&](double a, double b) {
        return std::max(0, static_cast<int>(std::min(a, b) - reach));
    };
    const int x1 = std::min(ink.width - 1, static_cast<int>(std::max(from.x, to.x) + reach)),
              y1 = std::min(ink.height - 1, static_cast<int>(std::max(from.y, to.y) + reach));
    std::vector<std::uint32_t> out;
    for (int y = least(from.y, to.y); y <= y1; ++y)
        for (int x = least(from.x, to.x); x <= x1; ++x) {
            const Point off = middleOf({x, y}) - from;
            const double along = geometry::dot(off, in), across = std::abs(geometry::cross(off, in));
            if (ink.at(x, y) == kInk && across <= reach && along >= -kInTheEdge && along <= whole)
                out.push_back(static_cast<std::uint32_t>(y * ink.width + x));
        }
    return out;
}

/// An arm that ends freely where a thinned line does.
std::optional<Stroke> armFrom(const Grey& ink, const Grey& lines, const cv::Mat& depth, Pixel end,
                              const StrokeOptions& options) {
    const auto [way, hair] = followed(lines, depth, end, static_cast<size_t>(options.longestPx));
    constexpr size_t kFewest = 4;
    if (way.size() < hair + kFewest)
        return std::nullopt;
    const auto depthAt = [&](Pixel p) { return static_cast<double>(depth.at<float>(p.y, p.x)); };
    std::vector<double> depths;
    for (size_t i = hair; i < way.size(); ++i)
        depths.push_back(depthAt(way[i]));
    std::nth_element(depths.begin(), depths.begin() + static_cast<std::ptrdiff_t>(depths.size() / 2),
                     depths.end());
    const double thickness = std::max(1.0, 2 * depths[depths.size() / 2] - 1);
    // Its direction from a short part near the free end, then from its own pixels, which know better.
    const size_t start = std::min(hair + static_cast<size_t>(thickness / 4), way.size() - kFewest);
    const size_t last = std::min(way.size() - 1, start + static_cast<size_t>(1.2 * thickness) + 3);
    Point from = middleOf(way[start]), in = geometry::direction(middleOf(way[last]) - from);
    constexpr double kStep = 0.5;
    Stroke out;
    out.thickness = thickness;
    out.isRooted = true;
    constexpr int kRounds = 3;
    for (int round = 0; round < kRounds; ++round) {
        double tip = 0;
        while (tip <= 2 * thickness + 2 && isInkAt(ink, from - in * (tip + kStep)))
            tip += kStep;
        if (tip > 2 * thickness + 2) // no free end: thicker ink was left out of the thinning there
            return std::nullopt;
        // In to where the ink opens out. Where it never does (the arm hangs on a corner), no farther than the near
        // edge of what the thinned line meets there.
        const double most = 0.7 * thickness + 1.5; // to a side: the axis is not quite the middle
        const auto isStroke = [&](Point p) {
            const Sides sides = sidesAt(ink, p, in, most + 1);
            return sides.left <= most && sides.right <= most;
        };
        double root = 0;
        while (root <= options.longestPx && isInkAt(ink, from + in * root) && isStroke(from + in * root))
            root += kStep;
        if (!isInkAt(ink, from + in * root))
            root =
                std::min(root, geometry::dot(middleOf(way.back()) - from, in) - (depthAt(way.back()) - 0.5));
        out.ends[0] = from - in * tip;
        out.ends[1] = from + in * root;
        if (root <= 0 || out.length() < kStroke * thickness || out.length() > options.longestPx)
            return std::nullopt;
        out.pixels = inkAlong(ink, out.ends[0], out.ends[1], thickness);
        const Bar bar = barOf(out.pixels, ink.width);
        if (bar.length < kStroke * bar.width)
            break;
        in = geometry::dot(bar.along, in) > 0 ? bar.along : bar.along * -1;
        from = bar.middle;
        for (Point& e : out.ends)
            e = bar.middle + bar.along * geometry::dot(e - bar.middle, bar.along);
        // From its middle it is half its length to the tip.
        from = from - in * std::max(0.0, bar.length / 2 - thickness);
    }
    return out;
}

/// How deep every pixel lies in the ink, px; nearly exact, which is enough to tell thin from thick.
cv::Mat depthOf(const Grey& ink) {
    const cv::Mat mask(ink.height, ink.width, CV_8UC1, const_cast<std::uint8_t*>(ink.values.data()));
    cv::Mat depth;
    cv::distanceTransform(mask, depth, cv::DIST_L2, cv::DIST_MASK_5);
    return depth;
}

} // namespace

bool isInkAt(const Grey& ink, Point place) {
    return isInkAt(ink, static_cast<int>(std::floor(place.x)), static_cast<int>(std::floor(place.y)));
}

Bar barOf(const geometry::Polygon& places) {
    const double n = static_cast<double>(places.size());
    Point mean;
    for (const Point p : places)
        mean = mean + p * (1 / n);
    double xx = 0, xy = 0, yy = 0;
    for (const Point p : places) {
        const Point off = p - mean;
        xx += off.x * off.x / n;
        xy += off.x * off.y / n;
        yy += off.y * off.y / n;
    }
    const double turn = std::atan2(2 * xy, xx - yy) / 2;
    const double whole = xx + yy, split = std::hypot(xx - yy, 2 * xy);
    // A bar of length l spreads by l²/12 along itself.
    return {mean,
            {std::cos(turn), std::sin(turn)},
            std::sqrt(12 * (whole + split) / 2),
            std::sqrt(12 * std::max(0.0, whole - split) / 2)};
}

std::vector<Grey> thinInk(const Grey& ink, double discPx, const std::vector<double>& margins) {
    const cv::Mat mask(ink.height, ink.width, CV_8UC1, const_cast<std::uint8_t*>(ink.values.data()));
    const double radius = discPx / 2 + 0.5;        // a pixel's depth is its middle's
    const cv::Mat noCore = depthOf(ink) <= radius; // 0 where a disc's middle may lie
    cv::Mat away;
    cv::distanceTransform(noCore, away, cv::DIST_L2, cv::DIST_MASK_5);
    std::vector<Grey> out;
    for (const double margin : margins) {
        out.push_back({ink.width, ink.height, std::vector<std::uint8_t>(ink.values.size(), 0)});
        cv::Mat thin(ink.height, ink.width, CV_8UC1, out.back().values.data());
        const cv::Mat apart = (mask == kInk) & (away > radius + margin);
        apart.copyTo(thin);
    }
    return out;
}

Sides sidesAt(const Grey& ink, Point place, Point along, double most) {
    constexpr double kStep = 0.5;
    const auto reach = [&](Point side) {
        double out = 0;
        for (double d = kStep; d <= most; d += kStep) {
            if (!isInkAt(ink, place + side * d))
                break;
            out = d;
        }
        return out;
    };
    return {reach({along.y, -along.x}), reach({-along.y, along.x})};
}

std::vector<double> widthsAlong(const Grey& ink, double thickestPx) {
    const cv::Mat depth = depthOf(ink);
    cv::Mat around;
    cv::dilate(depth, around, {});
    std::vector<double> out;
    for (int y = 0; y < ink.height; ++y)
        for (int x = 0; x < ink.width; ++x) {
            const double deep = depth.at<float>(y, x), width = 2 * deep - 1;
            if (deep > 0 && deep >= around.at<float>(y, x) && width <= thickestPx)
                out.push_back(width);
        }
    return out;
}

base::Result<std::vector<Stroke>> findStrokes(const Grey& ink, const StrokeOptions& options,
                                              const base::Progress& progress) {
    const auto regions = findRegions(ink, kInk, Connectivity::Eight, progress);
    if (!regions)
        return regions.error();
    std::vector<Stroke> out;
    for (const Region& region : regions->all)
        if (auto stroke = freeStroke(region, ink.width, options.longestPx); stroke && out.size() < kMost)
            out.push_back(std::move(*stroke));
    if (options.onlyFree)
        return out;
    Grey rest = std::move(thinInk(ink, options.thickestPx, {0.3}).front());
    for (const Stroke& stroke : out)
        for (const std::uint32_t at : stroke.pixels)
            rest.values[at] = 0;
    if (progress.isCancelled())
        return base::cancelled();
    const cv::Mat depth = depthOf(ink);
    const std::vector<Pixel> lines = thinned(rest, options.thickestPx);
    const auto isNew = [&](const Stroke& arm) { // both corners of an end lead to the same arm
        return std::none_of(out.begin(), out.end(), [&](const Stroke& other) {
            return other.isRooted && geometry::distance(other.ends[0], arm.ends[0]) < arm.thickness;
        });
    };
    for (const Pixel p : lines) {
        if (out.size() >= kMost)
            break;
        const auto around = aroundOf(rest, p);
        int runs = 0, count = 0;
        for (size_t k = 0; k < 8; ++k) {
            runs += around[k] && !around[(k + 1) % 8];
            count += around[k];
        }
        if (runs == 1 && count <= 2)
            if (auto arm = armFrom(ink, rest, depth, p, options); arm && isNew(*arm))
                out.push_back(std::move(*arm));
    }
    return out;
}

} // namespace thinline::raster
