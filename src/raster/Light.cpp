// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Evening the light of a photographed or scanned sheet.
//
// A drawing taken with a phone is half in shadow. One threshold for the whole sheet then fails: what is
// paper on one side is darker than ink on the other. Local thresholds (each pixel against the mean around
// it) find lines everywhere, and also where there are none, and hollow out whatever is larger than their
// window, a filled black area above all. So the light is estimated and divided out, and one threshold
// serves afterwards.
//
// The light is what paper would show. In blocks of a forty-eighth of the sheet the level that a tenth of
// the pixels exceed is taken for the paper's there. But a block may hold no paper at all: a painted area,
// a black sky. It must not be taken for shadow. Light falls off by degrees while paint begins at a step.
// So paper is what is bright, and whatever can be reached from there from block to block without a step of
// more than 8 %. The rest takes the level of what is around it, from near to far.
//
// Two cases are left as they are: if hardly any block is paper, nothing is known about the light; and a
// picture that is even already gains nothing.
//
// It is a model for paper with drawing on it. A shadow with a hard edge is a step and stays; colour casts
// are not touched, since ink is told by brightness.
#include "raster/Light.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>

namespace thinline::raster {
namespace {

/// The brightness of the paper in one block: nearly its brightest pixels.
float paperOf(const Grey& grey, int x0, int y0, int x1, int y1) {
    std::array<int, 256> histogram{};
    for (int y = y0; y < y1; ++y)
        for (int x = x0; x < x1; ++x)
            ++histogram[grey.at(x, y)];
    const int wanted = (x1 - x0) * (y1 - y0) / 10; // the tenth brightest: noise has no say
    int seen = 0;
    for (int v = 255; v > 0; --v) {
        seen += histogram[static_cast<size_t>(v)];
        if (seen > wanted)
            return static_cast<float>(v);
    }
    return 0;
}

} // namespace

Grey evenedLight(const Grey& grey) {
    constexpr int kLeastBlock = 24;
    const int block = std::max(kLeastBlock, std::max(grey.width, grey.height) / 48);
    const int across = (grey.width + block - 1) / block, down = (grey.height + block - 1) / block;
    if (across < 3 || down < 3)
        return grey;
    cv::Mat paper(down, across, CV_32F);
    for (int by = 0; by < down; ++by)
        for (int bx = 0; bx < across; ++bx)
            paper.at<float>(by, bx) =
                paperOf(grey, bx * block, by * block, std::min(grey.width, (bx + 1) * block),
                        std::min(grey.height, (by + 1) * block));
    std::vector<float> levels(paper.begin<float>(), paper.end<float>());
    const auto high = levels.begin() + static_cast<std::ptrdiff_t>(levels.size() * 9 / 10);
    std::nth_element(levels.begin(), high, levels.end());
    const float bright = *high;
    // Paper is what is bright, and what is reached from there by degrees, as light falls off: across a step
    // lies paint. Blocks without paper take what is around them, from near to far.
    constexpr float kSeed = 0.96F, kLeastShare = 0.35F, kLeastStep = 0.92F;
    cv::Mat isPaper = paper >= kSeed * bright;
    std::vector<cv::Point> front;
    cv::findNonZero(isPaper, front);
    while (!front.empty()) {
        const cv::Point at = front.back();
        front.pop_back();
        for (const cv::Point step : {cv::Point{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
            const cv::Point next = at + step;
            if (next.x < 0 || next.y < 0 || next.x >= across || next.y >= down ||
                isPaper.at<std::uint8_t>(next))
                continue;
            const float there = paper.at<float>(next), here = paper.at<float>(at);
            if (there < kLeastShare * bright || there < kLeastStep * here)
                continue;
            isPaper.at<std::uint8_t>(next) = 255;
            front.push_back(next);
        }
    }
    if (cv::countNonZero(isPaper) < across * down / 8)
        return grey;
    cv::Mat filled = paper.clone();
    for (int round = 0; round < across + down && cv::countNonZero(isPaper) < across * down; ++round) {
        cv::Mat next = isPaper.clone(), values = filled.clone();
        for (int y = 0; y < down; ++y)
            for (int x = 0; x < across; ++x) {
                if (isPaper.at<std::uint8_t>(y, x))
                    continue;
                float sum = 0;
                int count = 0;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx)
                        if (x + dx >= 0 && y + dy >= 0 && x + dx < across && y + dy < down &&
                            isPaper.at<std::uint8_t>(y + dy, x + dx)) {
                            sum += filled.at<float>(y + dy, x + dx);
                            ++count;
                        }
                if (count > 0) {
                    values.at<float>(y, x) = sum / static_cast<float>(count);
                    next.at<std::uint8_t>(y, x) = 255;
                }
            }
        isPaper = next;
        filled = values;
    }
    double darkest = 0;
    cv::minMaxLoc(filled, &darkest, nullptr);
    constexpr double kEvenShare = 0.93; // grain and JPEG stay within
    if (darkest > kEvenShare * bright)
        return grey;
    cv::blur(filled, filled, {3, 3});
    cv::Mat gain;
    cv::resize(filled, gain, {across * block, down * block}, 0, 0, cv::INTER_LINEAR);
    Grey out = grey;
    for (int y = 0; y < grey.height; ++y) {
        const float* row = gain.ptr<float>(y);
        for (int x = 0; x < grey.width; ++x)
            out.at(x, y) = static_cast<std::uint8_t>(
                std::min(255.0F, static_cast<float>(grey.at(x, y)) * bright / std::max(1.0F, row[x]) + 0.5F));
    }
    return out;
}

} // namespace thinline::raster
