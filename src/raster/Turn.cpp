// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Turn.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::raster {

Picture turned(const Picture& picture, double degrees) {
    if (picture.isEmpty() || degrees == 0)
        return picture;
    Picture out{picture.width, picture.height, std::vector<std::uint8_t>(picture.rgb.size())};
    const cv::Mat from(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat to(out.height, out.width, CV_8UC3, out.rgb.data());
    const cv::Point2f centre(static_cast<float>(picture.width - 1) / 2,
                             static_cast<float>(picture.height - 1) / 2);
    // OpenCV counts turns the other way round.
    cv::warpAffine(from, to, cv::getRotationMatrix2D(centre, -degrees, 1), to.size(), cv::INTER_CUBIC,
                   cv::BORDER_REPLICATE);
    return out;
}

Picture reduced(const Picture& picture, double factor) {
    const int width = std::max(1, static_cast<int>(std::lround(picture.width * factor))),
              height = std::max(1, static_cast<int>(std::lround(picture.height * factor)));
    Picture out{width, height,
                std::vector<std::uint8_t>(3 * static_cast<size_t>(width) * static_cast<size_t>(height))};
    const cv::Mat from(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat to(height, width, CV_8UC3, out.rgb.data());
    cv::resize(from, to, to.size(), 0, 0, cv::INTER_AREA);
    return out;
}

double skewOf(const Picture& picture) {
    if (picture.width < 16 || picture.height < 16)
        return 0;
    const cv::Mat rgb(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat grey, small, dx, dy;
    cv::cvtColor(rgb, grey, cv::COLOR_RGB2GRAY);
    constexpr double kLookedAt = 2e6;
    const double shrink = std::min(1.0, std::sqrt(kLookedAt / static_cast<double>(picture.pixels())));
    cv::resize(grey, small, {}, shrink, shrink, cv::INTER_AREA);
    cv::GaussianBlur(small, small, {}, 2); // short steps of the pixels' rows say nothing of the direction
    cv::Scharr(small, dx, CV_32F, 1, 0);
    cv::Scharr(small, dy, CV_32F, 0, 1);
    // Directions modulo a right angle, in tenths of a degree from -45.
    constexpr int kBins = 900, kWithin = 5;
    constexpr double kFaint = 400; // of Scharr's levels
    std::array<double, kBins> weight{};
    double all = 0;
    for (int y = 2; y + 2 < small.rows; ++y)
        for (int x = 2; x + 2 < small.cols; ++x) {
            const double gx = dx.at<float>(y, x), gy = dy.at<float>(y, x), steep = std::hypot(gx, gy);
            if (steep < kFaint)
                continue;
            double degrees =
                std::atan2(gy, gx) * 180 / std::numbers::pi; // across the edge: the same modulo 90
            degrees -= 90 * std::round(degrees / 90);
            const int bin = std::clamp(static_cast<int>((degrees + 45) * 10), 0, kBins - 1);
            weight[static_cast<size_t>(bin)] += steep;
            all += steep;
        }
    if (all == 0)
        return 0;
    constexpr int kMost = 150; // bins either way
    double best = 0;
    int at = 0;
    for (int middle = kBins / 2 - kMost; middle <= kBins / 2 + kMost; ++middle) {
        double sum = 0;
        for (int k = -kWithin; k <= kWithin; ++k)
            sum += weight[static_cast<size_t>(middle + k)];
        if (sum > best) {
            best = sum;
            at = middle;
        }
    }
    // Edges of every direction would leave eleven bins of nine hundred their even share.
    constexpr double kStandsOut = 6;
    if (best < kStandsOut * all * (2 * kWithin + 1) / kBins)
        return 0;
    double sum = 0, moment = 0;
    for (int k = -kWithin; k <= kWithin; ++k) {
        sum += weight[static_cast<size_t>(at + k)];
        moment += weight[static_cast<size_t>(at + k)] * ((at + k + 0.5) / 10 - 45);
    }
    return -moment / sum;
}

} // namespace thinline::raster
