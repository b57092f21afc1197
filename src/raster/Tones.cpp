// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Tones: a photograph as layers of card.
//
// A photograph has no areas. What can be cut from it is made: brightness in a few steps, each step a sheet
// with a shape, one upon the other. Four things have to be decided, and each has a right answer only in
// view of the knife.
//
// Where the steps lie. Equal steps of brightness waste sheets on tones the picture hardly has. The
// thresholds here are those that leave the least squared error when each pixel takes its step's mean: for
// 256 levels this can be solved exactly by dynamic programming over prefix sums, in a blink, and needs no
// starting guess that could get stuck.
//
// What is smoothed before. Skin and sky have texture that would be a thousand specks at every threshold. A
// bilateral filter takes it and leaves edges. Soft gradients between two strong edges are put to one side
// of them first (`stepped`), or a threshold draws a contour through the middle of an out-of-focus edge
// where nobody sees one.
//
// What can be cut. Each layer's mask is opened and closed by a disc as wide as the least strip that holds,
// twice, and parts and openings under the least area are filled. What lies beyond the frame is taken to go
// on, or every layer would shrink from the picture's edge.
//
// What hangs together. Parts of a layer that lie loose on the layer below would have to be placed by eye.
// Each may be joined to the largest part by a bridge: the shortest way down the distances to it, as wide
// as asked for, and drawn only where the layer below carries it, so that no bridge shows where it should
// not.
//
// Borders are taken from the grey where mask and threshold agree, so that they run between pixels as
// smoothly as the picture does, and from the mask elsewhere; a faint blur joins the two.
#include "raster/Tones.h"

#include "raster/Regions.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::raster {
namespace {

cv::Mat view(const Grey& grey) {
    return {grey.height, grey.width, CV_8U, const_cast<std::uint8_t*>(grey.values.data())};
}
Grey like(const Grey& grey) {
    return {grey.width, grey.height, std::vector<std::uint8_t>(grey.values.size())};
}

/// Fills the regions of one value that are smaller than `leastPx`.
base::Status fillSmall(Grey& mask, std::uint8_t value, Connectivity connectivity, double leastPx,
                       const base::Progress& progress) {
    const auto regions = findRegions(mask, value, connectivity, progress);
    if (!regions)
        return regions.error();
    for (const Region& region : regions->all)
        if (static_cast<double>(region.areaPx) < leastPx)
            for (const Run& run : region.runs)
                std::fill(&mask.at(run.x0, run.y), &mask.at(run.x0, run.y) + (run.x1 - run.x0),
                          static_cast<std::uint8_t>(255 - value));
    return base::Done{};
}

} // namespace

Grey luma(const Picture& picture) {
    Grey out{picture.width, picture.height, std::vector<std::uint8_t>(static_cast<size_t>(picture.pixels()))};
    const std::uint8_t* p = picture.rgb.data();
    for (std::uint8_t& v : out.values) {
        v = static_cast<std::uint8_t>((2126 * p[0] + 7152 * p[1] + 722 * p[2] + 5000) / 10000);
        p += 3;
    }
    return out;
}

Grey shrunk(const Grey& grey, int width, int height) {
    Grey out{std::clamp(width, 1, grey.width), std::clamp(height, 1, grey.height), {}};
    out.values.resize(static_cast<size_t>(out.width) * static_cast<size_t>(out.height));
    cv::Mat to = view(out);
    cv::resize(view(grey), to, to.size(), 0, 0, cv::INTER_AREA);
    return out;
}

Grey smoothed(const Grey& grey, double reachPx) {
    constexpr double kLevels = 28; // steps above it are edges
    Grey out = like(grey);
    cv::Mat to = view(out);
    const int reach = std::clamp(static_cast<int>(std::lround(reachPx)), 1, 7);
    cv::bilateralFilter(view(grey), to, 2 * reach + 1, kLevels, reachPx);
    return out;
}

Grey stepped(const Grey& grey) {
    constexpr int kSteep = 64; // levels within three pixels
    Grey out = grey;
    cv::Mat least, most;
    cv::erode(view(grey), least, cv::Mat::ones(5, 5, CV_8U));
    cv::dilate(view(grey), most, cv::Mat::ones(5, 5, CV_8U));
    for (int y = 0; y < grey.height; ++y)
        for (int x = 0; x < grey.width; ++x) {
            const int low = least.at<std::uint8_t>(y, x), high = most.at<std::uint8_t>(y, x),
                      v = grey.at(x, y);
            if (high - low >= kSteep)
                out.at(x, y) = static_cast<std::uint8_t>(v - low <= high - v ? low : high);
        }
    return out;
}

std::vector<int> toneThresholds(const Grey& grey, int count) {
    std::array<double, 257> n{}, sum{}, squares{};
    std::array<double, 256> histogram{};
    for (std::uint8_t v : grey.values)
        histogram[v] += 1;
    for (size_t v = 0; v < 256; ++v) {
        const double level = static_cast<double>(v);
        n[v + 1] = n[v] + histogram[v];
        sum[v + 1] = sum[v] + histogram[v] * level;
        squares[v + 1] = squares[v] + histogram[v] * level * level;
    }
    const auto error = [&](size_t from, size_t to) { // levels from..to-1 as one tone
        const double c = n[to] - n[from], s = sum[to] - sum[from];
        return c > 0 ? squares[to] - squares[from] - s * s / c : 0;
    };
    const auto tones = static_cast<size_t>(std::max(1, count));
    std::vector<std::array<double, 257>> best(tones + 1);
    std::vector<std::array<size_t, 257>> cut(tones + 1);
    for (size_t to = 0; to <= 256; ++to)
        best[1][to] = error(0, to);
    for (size_t k = 2; k <= tones; ++k)
        for (size_t to = 0; to <= 256; ++to) {
            best[k][to] = 1e300;
            for (size_t from = k - 1; from < to; ++from)
                if (const double e = best[k - 1][from] + error(from, to); e < best[k][to]) {
                    best[k][to] = e;
                    cut[k][to] = from;
                }
        }
    std::vector<int> out;
    for (size_t k = tones, to = 256; k > 1; --k) {
        to = cut[k][to];
        out.insert(out.begin(), static_cast<int>(to) - 1);
    }
    return out;
}

base::Result<Grey> sturdy(const Grey& mask, double leastPx, double leastAreaPx,
                          const base::Progress& progress) {
    Grey out = mask;
    const int across = std::max(1, static_cast<int>(std::ceil(leastPx)) | 1);
    const cv::Mat disc = cv::getStructuringElement(cv::MORPH_ELLIPSE, {across, across});
    // What lies beyond the frame goes on as it is at the frame.
    cv::Mat wide;
    cv::copyMakeBorder(view(mask), wide, across, across, across, across, cv::BORDER_REPLICATE);
    constexpr int kRounds = 2;
    for (int round = 0; round < kRounds; ++round) {
        cv::morphologyEx(wide, wide, cv::MORPH_OPEN, disc);
        cv::morphologyEx(wide, wide, cv::MORPH_CLOSE, disc);
        if (progress.isCancelled())
            return base::cancelled();
    }
    cv::Mat to = view(out);
    wide(cv::Rect(across, across, mask.width, mask.height)).copyTo(to);
    if (auto done = fillSmall(out, 255, Connectivity::Four, leastAreaPx, progress); !done)
        return done.error();
    if (auto done = fillSmall(out, 0, Connectivity::Four, leastAreaPx, progress); !done)
        return done.error();
    return out;
}

Grey bordered(const Grey& grey, int threshold, const Grey& mask) {
    constexpr double kBand = 255; // levels either side of the threshold over which the border is soft
    Grey out = like(grey);
    for (size_t i = 0; i < out.values.size(); ++i) {
        const bool isIn = mask.values[i] != 0, isDark = grey.values[i] <= threshold;
        const double level = 127.5 + 127.5 * (threshold + 0.5 - grey.values[i]) / kBand;
        out.values[i] = isIn != isDark
                            ? mask.values[i]
                            : static_cast<std::uint8_t>(std::lround(std::clamp(level, 0.0, 255.0)));
    }
    cv::Mat to = view(out);
    cv::GaussianBlur(to, to, {5, 5}, 1.0);
    return out;
}

base::Result<int> bridged(Grey& mask, const Grey& within, double longestPx, double widthPx,
                          const base::Progress& progress) {
    constexpr std::uint8_t kIn = 255;
    const auto parts = findRegions(mask, kIn, Connectivity::Eight, progress);
    if (!parts)
        return parts.error();
    if (parts->all.size() < 2)
        return 0;
    const size_t largest = static_cast<size_t>(
        std::max_element(parts->all.begin(), parts->all.end(),
                         [](const Region& a, const Region& b) { return a.areaPx < b.areaPx; }) -
        parts->all.begin());
    cv::Mat outside(mask.height, mask.width, CV_8UC1, cv::Scalar(kIn)), away;
    for (const Run& run : parts->all[largest].runs)
        outside.row(run.y).colRange(run.x0, run.x1) = 0;
    cv::distanceTransform(outside, away, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    cv::Mat drawn(mask.height, mask.width, CV_8UC1, mask.values.data());
    int count = 0;
    for (size_t i = 0; i < parts->all.size(); ++i) {
        if (i == largest)
            continue;
        cv::Point from(-1, -1);
        double least = longestPx;
        for (const Run& run : parts->all[i].runs)
            for (int x = run.x0; x < run.x1; ++x)
                if (const double d = away.at<float>(run.y, x); d <= least) {
                    least = d;
                    from = {x, run.y};
                }
        if (from.x < 0)
            continue;
        // Down the distances to the largest part.
        cv::Point to = from;
        while (away.at<float>(to) > 0) {
            cv::Point next = to;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx)
                    if (const cv::Point p{to.x + dx, to.y + dy}; p.x >= 0 && p.y >= 0 && p.x < mask.width &&
                                                                 p.y < mask.height &&
                                                                 away.at<float>(p) < away.at<float>(next))
                        next = p;
            if (next == to)
                break;
            to = next;
        }
        // Both ends run into their parts, for these are round there. Only the box around is looked at.
        const cv::Point2d way = cv::Point2d(to - from) / std::max(1.0, cv::norm(to - from)) * (widthPx / 2);
        const int rim = static_cast<int>(std::ceil(widthPx)) + 2;
        const cv::Rect box = cv::Rect(cv::Point(std::min(from.x, to.x) - rim, std::min(from.y, to.y) - rim),
                                      cv::Point(std::max(from.x, to.x) + rim, std::max(from.y, to.y) + rim)) &
                             cv::Rect(0, 0, mask.width, mask.height);
        cv::Mat strip = cv::Mat::zeros(box.size(), CV_8UC1);
        cv::line(strip, from - cv::Point(way) - box.tl(), to + cv::Point(way) - box.tl(), kIn,
                 std::max(1, static_cast<int>(std::lround(widthPx))));
        const cv::Mat allowed(within.height, within.width, CV_8UC1,
                              const_cast<std::uint8_t*>(within.values.data()));
        if (cv::countNonZero(strip & ~allowed(box)) > 0)
            continue;
        drawn(box) |= strip;
        ++count;
    }
    return count;
}

} // namespace thinline::raster
