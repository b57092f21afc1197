// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Grain.h"

#include <opencv2/imgproc.hpp>

namespace thinline::raster {

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

Picture calmed(const Picture& picture, double grain) {
    if (picture.width < 3 || picture.height < 3)
        return picture;
    Picture out = picture, between = picture;
    const cv::Mat from(picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data()));
    cv::Mat half(picture.height, picture.width, CV_8UC3, between.rgb.data()),
        to(picture.height, picture.width, CV_8UC3, out.rgb.data());
    constexpr double kStill = 4, kOfGrain = 1.5, kReach = 2;
    const double alike = kStill + kOfGrain * grain;
    constexpr double kGrainy = 3;
    if (grain > kGrainy) {
        cv::bilateralFilter(from, half, 7, 2 * alike, kReach);
        cv::bilateralFilter(half, to, 7, alike, kReach);
    } else {
        cv::bilateralFilter(from, to, 7, alike, kReach);
    }
    return out;
}

} // namespace thinline::raster
