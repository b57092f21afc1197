// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A pinhole with a bent lens, a table, a page, light and its shadow, a sensor with noise. Every pixel is traced back onto the page
// at nine places, so that edges are as soft as a sensor sees them; then the lens blurs, and the sensor adds its noise. It shares
// no code with what looks for marks in its pictures.
#include "devices/Camera.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace thinline::devices {
namespace {

using geometry::Point;
using Matrix = std::array<double, 9>;

constexpr double kDegree = std::numbers::pi / 180;

Matrix inverseOf(const Matrix& m) {
    const auto minor = [&](int a, int b, int c, int d) {
        return m[static_cast<std::size_t>(a)] * m[static_cast<std::size_t>(d)] -
               m[static_cast<std::size_t>(b)] * m[static_cast<std::size_t>(c)];
    };
    return {minor(4, 5, 7, 8), minor(2, 1, 8, 7), minor(1, 2, 4, 5), minor(5, 3, 8, 6), minor(0, 2, 6, 8),
            minor(2, 0, 5, 3), minor(3, 4, 6, 7), minor(1, 0, 7, 6), minor(0, 1, 3, 4)};
}
Point through(const Matrix& m, Point p) {
    const double w = m[6] * p.x + m[7] * p.y + m[8];
    return {(m[0] * p.x + m[1] * p.y + m[2]) / w, (m[3] * p.x + m[4] * p.y + m[5]) / w};
}

/// Blurs rows, then columns, of three channels.
void blur(std::vector<float>& light, int width, int height, double sigma) {
    if (!(sigma > 0))
        return;
    const int reach = static_cast<int>(std::ceil(3.5 * sigma));
    std::vector<float> weights;
    float sum = 0;
    for (int i = -reach; i <= reach; ++i) {
        weights.push_back(static_cast<float>(std::exp(-i * i / (2 * sigma * sigma))));
        sum += weights.back();
    }
    const auto pass = [&](int along, int across, std::size_t step, std::size_t line) {
        std::vector<float> from(static_cast<std::size_t>(along) * 3);
        for (int k = 0; k < across; ++k) {
            float* begin = light.data() + static_cast<std::size_t>(k) * line;
            for (int i = 0; i < along; ++i)
                for (std::size_t c = 0; c < 3; ++c)
                    from[static_cast<std::size_t>(i) * 3 + c] = begin[static_cast<std::size_t>(i) * step + c];
            for (int i = 0; i < along; ++i)
                for (std::size_t c = 0; c < 3; ++c) {
                    float value = 0;
                    for (int j = -reach; j <= reach; ++j)
                        value += weights[static_cast<std::size_t>(j + reach)] *
                                 from[static_cast<std::size_t>(std::clamp(i + j, 0, along - 1)) * 3 + c];
                    begin[static_cast<std::size_t>(i) * step + c] = value / sum;
                }
        }
    };
    pass(width, height, 3, static_cast<std::size_t>(width) * 3);
    pass(height, width, static_cast<std::size_t>(width) * 3, 3);
}

} // namespace

Camera::Camera(const CameraLook& look, double pageWidthMm, double pageHeightMm)
    : m_look(look), m_pageMiddle{pageWidthMm / 2, pageHeightMm / 2}, m_middle{look.widthPx / 2.0,
                                                                              look.heightPx / 2.0},
      m_reach(std::hypot(look.widthPx / 2.0, look.heightPx / 2.0)) {
    // The page turned in its plane, then tilted about a line through its middle, seen from a distance.
    const double distance = 1.6 * std::max(pageWidthMm, pageHeightMm), turn = look.turnDeg * kDegree,
                 tilt = look.tiltDeg * kDegree, towards = look.tiltTowardsDeg * kDegree;
    const double c = std::cos(turn), s = std::sin(turn);
    const double ux = std::cos(towards), uy = std::sin(towards); // across the line it is tilted about
    // What is `along` = u . p comes nearer by along * sin, and is seen shorter by cos.
    const double k = std::cos(tilt) - 1, f = look.pxPerMm;
    const Matrix turned{c, -s, 0, s, c, 0, 0, 0, 1};
    const Matrix tilted{f * (1 + k * ux * ux),
                        f * k * ux * uy,
                        0,
                        f * k * ux * uy,
                        f * (1 + k * uy * uy),
                        0,
                        -std::sin(tilt) * ux / distance,
                        -std::sin(tilt) * uy / distance,
                        1};
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t j = 0; j < 3; ++j) {
            m_toPx[3 * i + j] = 0;
            for (std::size_t l = 0; l < 3; ++l)
                m_toPx[3 * i + j] += tilted[3 * i + l] * turned[3 * l + j];
        }
    m_toMm = inverseOf(m_toPx);
}

Point Camera::toPx(Point mm) const {
    const Point straight = through(m_toPx, mm - m_pageMiddle);
    const double share = dot(straight, straight) / (m_reach * m_reach);
    return straight * (1 + m_look.bend * share) + m_middle;
}

Point Camera::toMm(Point px) const {
    const Point seen = px - m_middle;
    Point straight = seen;
    const int rounds = m_look.bend == 0 ? 0 : 12; // it bends little: it settles at once
    for (int i = 0; i < rounds; ++i)
        straight = seen * (1 / (1 + m_look.bend * dot(straight, straight) / (m_reach * m_reach)));
    return through(m_toMm, straight) + m_pageMiddle;
}

raster::Picture Camera::photoOf(const raster::Picture& page, double pagePxPerMm,
                                const geometry::Transform& toPage) const {
    const int width = m_look.widthPx, height = m_look.heightPx;
    std::vector<float> light(static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 3);
    const double turn = m_look.shadowTurnDeg * kDegree;
    const Point across{std::cos(turn), std::sin(turn)};
    const auto colourAt = [&](Point mm) -> const std::uint8_t* {
        const Point there = toPage(mm) * pagePxPerMm;
        const bool isOff = there.x < 0 || there.y < 0 || there.x >= page.width || there.y >= page.height;
        return isOff ? m_look.table.data()
                     : page.row(static_cast<int>(there.y)) + 3 * static_cast<int>(there.x);
    };
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            float* to = light.data() + (static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                                        static_cast<std::size_t>(x)) *
                                           3;
            for (int sy = 0; sy < 3; ++sy)
                for (int sx = 0; sx < 3; ++sx) {
                    const Point mm = toMm({x + (sx + 0.5) / 3, y + (sy + 0.5) / 3});
                    double share = 1;
                    if (m_look.shadow > 0) {
                        const double away =
                            dot(mm - m_look.shadowAtMm, across) / std::max(0.01, m_look.shadowSoftMm);
                        share = 1 - m_look.shadow / (1 + std::exp(-4 * away));
                    }
                    const std::uint8_t* colour = colourAt(mm);
                    for (std::size_t c = 0; c < 3; ++c)
                        to[c] += static_cast<float>(share * colour[c] / 9);
                }
        }
    blur(light, width, height, m_look.blurPx);
    raster::Picture out{width, height, {}};
    out.rgb.reserve(light.size());
    std::mt19937 random(m_look.seed);
    std::normal_distribution<double> noise(0, 1);
    for (const float value : light)
        out.rgb.push_back(static_cast<std::uint8_t>(
            std::clamp(static_cast<double>(value) +
                           (m_look.noiseLevels > 0 ? m_look.noiseLevels * noise(random) : 0.0) + 0.5,
                       0.0, 255.0)));
    return out;
}

} // namespace thinline::devices
