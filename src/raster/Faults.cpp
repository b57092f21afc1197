// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Faults.h"

#include <opencv2/imgproc.hpp>

#include <cmath>

namespace thinline::raster {
namespace {

constexpr double kExactLevel = 1.5;

cv::Mat rangeWithin(const cv::Mat& plane, int reach) {
    const cv::Mat square = cv::Mat::ones(2 * reach + 1, 2 * reach + 1, CV_8U);
    cv::Mat high, low;
    cv::dilate(plane, high, square);
    cv::erode(plane, low, square);
    return high - low;
}

double middleOf(std::vector<std::uint8_t>& values) {
    if (values.empty())
        return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

/// What is seen three to five pixels from edges.
struct Ring {
    double noise = 0; ///< levels of brightness off the middle of those around, standard deviation
    double share = 0; ///< what is left of a step there
};
Ring ringBesideEdges(const cv::Mat& bright, const cv::Mat& near, double grain) {
    cv::Mat calm, off, ring;
    constexpr int kFewest = 200;
    for (const int step : {40, 12}) { // a pale picture has no others
        const cv::Mat edges = rangeWithin(bright, 1) > step;
        const auto grown = [&](int reach) {
            cv::Mat out;
            cv::dilate(edges, out, cv::Mat::ones(2 * reach + 1, 2 * reach + 1, CV_8U));
            return out;
        };
        ring = grown(5) & ~grown(2);
        if (cv::countNonZero(ring) > kFewest)
            break;
    }
    cv::medianBlur(bright, calm, 5);
    cv::absdiff(bright, calm, off);
    std::vector<std::uint8_t> offs, ranges;
    double sum = 0;
    for (int y = 0; y < ring.rows; ++y)
        for (int x = 0; x < ring.cols; ++x)
            if (ring.at<std::uint8_t>(y, x)) {
                offs.push_back(off.at<std::uint8_t>(y, x));
                ranges.push_back(near.at<std::uint8_t>(y, x));
                sum += offs.back();
            }
    if (offs.empty())
        return {cv::mean(off)[0], 0};
    constexpr double kOfMean = 1.25, kOfMedian = 1.48, kLeast = 0.015, kMost = 0.05;
    const double left = kOfMedian * middleOf(offs), own = grain / 2, range = std::max(1.0, middleOf(ranges));
    return {kOfMean * sum / static_cast<double>(offs.size()),
            std::clamp(std::sqrt(std::max(0.0, left * left - own * own)) / range, kLeast, kMost)};
}

} // namespace

Rgb rgbOfYcc(const Vec& v) {
    const double blue = v[0] + v[1] / 0.564, red = v[0] + v[2] / 0.713,
                 green = (v[0] - 0.299 * red - 0.114 * blue) / 0.587;
    const auto byte = [](double c) { return static_cast<std::uint8_t>(std::clamp(std::lround(c), 0L, 255L)); };
    return {byte(red), byte(green), byte(blue)};
}

Faults::Faults(const Picture& picture)
    : m_width(picture.width), m_isExact(raster::isExact(picture)),
      m_grain(m_isExact ? 0 : std::min(24.0, grainOf(picture))), m_level(kExactLevel) {
    if (m_isExact || picture.isEmpty())
        return;
    const cv::Mat rgb(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat ycc;
    cv::cvtColor(rgb, ycc, cv::COLOR_RGB2YCrCb);
    std::array<cv::Mat, 3> planes;
    cv::split(ycc, planes.data());
    const cv::Mat near = rangeWithin(planes[0], 4);
    m_near.assign(near.begin<std::uint8_t>(), near.end<std::uint8_t>());
    const Ring ring = ringBesideEdges(planes[0], near, m_grain);
    constexpr double kClean = 0.1, kOfNoise = 1.2;
    if (ring.noise < kClean) // soft, or in uneven light, but never lossily kept
        return;
    m_share = ring.share;
    constexpr double kGrainOfNoise = 2.3, kGrainy = 4; // a grainy picture has grain in every channel
    m_grain = std::min(m_grain, kGrainOfNoise * ring.noise); // a small picture is mostly edges
    m_isCoarse = m_grain <= kGrainy;
    m_level = kExactLevel + kOfNoise * ring.noise;
    if (m_isCoarse) {
        const cv::Mat colour = cv::max(rangeWithin(planes[1], 8), rangeWithin(planes[2], 8));
        m_nearColour.assign(colour.begin<std::uint8_t>(), colour.end<std::uint8_t>());
    }
}

Weights Faults::at(int x, int y) const {
    if (m_isExact)
        return {1 / (m_level * m_level), 1 / (m_level * m_level)};
    const double range = m_near[index(x, y)], beside = 1.5 * m_share * range, ofColour = m_share * range;
    double c = m_level * m_level + ofColour * ofColour;
    if (m_isCoarse) {
        const double coarse = std::max(0.20, 2.5 * m_share) * m_nearColour[index(x, y)];
        c += coarse * coarse;
    }
    return {1 / (m_level * m_level + beside * beside), 1 / c};
}

Weights Faults::between(const Vec& step) const {
    // Where a file keeps colour for blocks of pixels, a pixel's colour is off by a share of the step.
    const double blocks = m_isCoarse ? 0.25 : 0.05, a2 = m_share * m_share;
    return {1 / (m_level * m_level + a2 * step[0] * step[0]),
            1 / (m_level * m_level + (blocks * blocks + a2) * (step[1] * step[1] + step[2] * step[2]))};
}

} // namespace thinline::raster
