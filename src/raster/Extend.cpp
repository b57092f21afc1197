// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Extend.h"

#include <opencv2/imgproc.hpp>

#include <cmath>

namespace thinline::raster {

std::int64_t extendBeyond(Canvas& canvas, Grey& painted, const Grey& within, const Grey& region) {
    const int width = within.width, height = within.height;
    constexpr std::uint8_t kMostly = 128;
    cv::Mat outside(height, width, CV_8U), away, labels;
    bool isAnyWithin = false;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const bool isWithin = within.at(x, y) >= kMostly;
            outside.at<std::uint8_t>(y, x) = isWithin ? 0 : 255;
            isAnyWithin = isAnyWithin || isWithin;
        }
    if (!isAnyWithin)
        return 0;
    cv::distanceTransform(outside, away, labels, cv::DIST_L2, cv::DIST_MASK_5, cv::DIST_LABEL_PIXEL);
    // Which pixel of the piece a label is.
    double most = 0;
    cv::minMaxLoc(labels, nullptr, &most);
    std::vector<cv::Point> of(static_cast<std::size_t>(most) + 1);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            if (outside.at<std::uint8_t>(y, x) == 0)
                of[static_cast<std::size_t>(labels.at<int>(y, x))] = {x, y};
    const auto pixel = [&](int x, int y) -> std::uint32_t& {
        return canvas.data()[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                             static_cast<std::size_t>(x)];
    };
    const Grey before = painted;
    std::int64_t made = 0;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            if (outside.at<std::uint8_t>(y, x) == 0 || before.at(x, y) >= kMostly || region.at(x, y) == 0)
                continue;
            const cv::Point edge = of[static_cast<std::size_t>(labels.at<int>(y, x))];
            // The pixel at the edge may be half covered; its neighbour within stands for it.
            if (before.at(edge.x, edge.y) < kMostly)
                continue;
            const cv::Point mirrored(2 * edge.x - x, 2 * edge.y - y);
            const bool isThere = mirrored.x >= 0 && mirrored.y >= 0 && mirrored.x < width &&
                                 mirrored.y < height && within.at(mirrored.x, mirrored.y) >= kMostly &&
                                 before.at(mirrored.x, mirrored.y) >= kMostly;
            const cv::Point from = isThere ? mirrored : edge;
            pixel(x, y) = pixel(from.x, from.y);
            painted.at(x, y) = 255;
            ++made;
        }
    return made;
}

} // namespace thinline::raster
