// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>
#include <vector>

/// A simulated camera over a simulated mat. What it sees is drawn pixel by pixel by the laws of a pinhole and a bent lens, so
/// that everything about it is known. It shares nothing with what finds the mat again.
namespace thinline::support {

struct MatScene {
    double widthMm = 304.8, heightMm = 304.8;
    raster::Rgb mat{70, 120, 110}, table{190, 170, 140};
    struct Scrap {
        geometry::Polygon outline; ///< mm on the mat
        raster::Rgb colour{};
    };
    std::vector<Scrap> scraps; ///< later ones lie on earlier ones
    // the camera
    int widthPx = 1600, heightPx = 1200;
    std::array<double, 9> toMm{}; ///< from undistorted px, row by row
    double bend = 0,
           bendMore = 0; ///< of the lens, by the square and the fourth power of the way from the middle
    double blurPx = 0.7, noise = 2;
    // the light
    double lightAcross = 0, lightDown = 0; ///< how much darker at the right and lower edge, as a share
    geometry::Point shadowAt{-1e9, 0};     ///< beyond a line through here it is darker
    double shadowRad = 0, shadow = 1, shadowSoftMm = 10;
    unsigned seed = 1;
    bool hasGrid = true;

    geometry::Point undistorted(geometry::Point px) const {
        const geometry::Point c{widthPx / 2.0, heightPx / 2.0};
        const double reach2 = c.x * c.x + c.y * c.y;
        const geometry::Point d = px - c;
        const double r2 = dot(d, d) / reach2;
        return c + d * (1 + bend * r2 + bendMore * r2 * r2);
    }
    geometry::Point mmAt(geometry::Point px) const {
        const geometry::Point p = undistorted(px);
        const auto& h = toMm;
        const double w = h[6] * p.x + h[7] * p.y + h[8];
        return {(h[0] * p.x + h[1] * p.y + h[2]) / w, (h[3] * p.x + h[4] * p.y + h[5]) / w};
    }
    /// Where a place of the mat is seen, by walking towards it.
    geometry::Point pxAt(geometry::Point mm) const {
        geometry::Point p{widthPx / 2.0, heightPx / 2.0};
        for (int i = 0; i < 200; ++i) {
            const geometry::Point here = mmAt(p), right = mmAt(p + geometry::Point{1, 0}),
                                  below = mmAt(p + geometry::Point{0, 1});
            const geometry::Point a = right - here, b = below - here, d = mm - here;
            const double det = cross(a, b);
            const geometry::Point step{cross(d, b) / det, cross(a, d) / det};
            const double length = geometry::length(step), most = 60;
            p = p + step * (length > most ? most / length : 1);
            if (length < 1e-9)
                break;
        }
        return p;
    }

    raster::Picture seen() const {
        std::mt19937 random(seed);
        std::normal_distribution<double> spread(0, 1);
        const auto inside = [](const geometry::Polygon& ring, geometry::Point p) {
            bool in = false;
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const geometry::Point a = ring[i], b = ring[(i + 1) % ring.size()];
                if ((a.y <= p.y) != (b.y <= p.y) && p.x < a.x + (p.y - a.y) * (b.x - a.x) / (b.y - a.y))
                    in = !in;
            }
            return in;
        };
        std::vector<geometry::Box> boxes;
        for (const Scrap& scrap : scraps)
            boxes.push_back(geometry::bounds(geometry::Polygons{scrap.outline}));
        const auto linear = [](double v) { return std::pow(v / 255, 2.2); };
        const auto lightOf = [&](geometry::Point mm) {
            double out = 1 - lightAcross * mm.x / widthMm - lightDown * mm.y / heightMm;
            const geometry::Point across{std::cos(shadowRad), std::sin(shadowRad)};
            const double beyond = dot(mm - shadowAt, across) / shadowSoftMm;
            if (shadowAt.x > -1e8)
                out *= 1 - (1 - shadow) * std::clamp(0.5 + beyond, 0.0, 1.0);
            return std::max(0.05, out);
        };
        const auto colourOf = [&](geometry::Point mm) -> raster::Rgb {
            for (std::size_t i = scraps.size(); i-- > 0;)
                if (boxes[i].contains(mm) && inside(scraps[i].outline, mm))
                    return scraps[i].colour;
            if (mm.x < 0 || mm.y < 0 || mm.x > widthMm || mm.y > heightMm) {
                const double grain = 6 * std::sin(mm.x * 0.21 + 2 * std::sin(mm.y * 0.013));
                raster::Rgb out = table;
                for (auto& c : out)
                    c = static_cast<std::uint8_t>(std::clamp(c + grain, 0.0, 255.0));
                return out;
            }
            constexpr double kInch = 25.4, kHalfLine = 0.25;
            const auto isOnLine = [&](double v) { return std::abs(std::remainder(v, kInch)) < kHalfLine; };
            constexpr double kMargin = 12.7; // the printed lines end before the edge
            const bool isPrinted =
                mm.x > kMargin && mm.y > kMargin && mm.x < widthMm - kMargin && mm.y < heightMm - kMargin;
            if (hasGrid && isPrinted && (isOnLine(mm.x) || isOnLine(mm.y)))
                return {static_cast<std::uint8_t>(mat[0] + (255 - mat[0]) * 0.55),
                        static_cast<std::uint8_t>(mat[1] + (255 - mat[1]) * 0.55),
                        static_cast<std::uint8_t>(mat[2] + (255 - mat[2]) * 0.55)};
            return mat;
        };
        std::vector<std::array<float, 3>> light(static_cast<std::size_t>(widthPx) *
                                                static_cast<std::size_t>(heightPx));
        for (int y = 0; y < heightPx; ++y)
            for (int x = 0; x < widthPx; ++x) {
                std::array<double, 3> sum{};
                for (int s = 0; s < 4; ++s) {
                    const geometry::Point mm = mmAt({x + 0.25 + 0.5 * (s % 2), y + 0.25 + 0.5 * (s / 2)});
                    const raster::Rgb c = colourOf(mm);
                    const double l = lightOf(mm) / 4;
                    for (std::size_t k = 0; k < 3; ++k)
                        sum[k] += l * linear(c[k]);
                }
                for (std::size_t k = 0; k < 3; ++k)
                    light[static_cast<std::size_t>(y) * static_cast<std::size_t>(widthPx) +
                          static_cast<std::size_t>(x)][k] = static_cast<float>(sum[k]);
            }
        blur(light);
        raster::Picture out{widthPx, heightPx, {}};
        out.rgb.resize(3 * light.size());
        for (std::size_t i = 0; i < light.size(); ++i)
            for (std::size_t k = 0; k < 3; ++k)
                out.rgb[3 * i + k] = static_cast<std::uint8_t>(std::clamp(
                    255 * std::pow(static_cast<double>(light[i][k]), 1 / 2.2) + noise * spread(random), 0.0,
                    255.0));
        return out;
    }

  private:
    void blur(std::vector<std::array<float, 3>>& light) const {
        const int reach = static_cast<int>(std::ceil(3 * blurPx));
        std::vector<float> weights;
        float all = 0;
        for (int i = -reach; i <= reach; ++i) {
            weights.push_back(static_cast<float>(std::exp(-i * i / (2 * blurPx * blurPx))));
            all += weights.back();
        }
        for (const bool isAcross : {true, false}) {
            std::vector<std::array<float, 3>> from = light;
            for (int y = 0; y < heightPx; ++y)
                for (int x = 0; x < widthPx; ++x) {
                    std::array<float, 3> sum{};
                    for (int i = -reach; i <= reach; ++i) {
                        const int px = std::clamp(x + (isAcross ? i : 0), 0, widthPx - 1),
                                  py = std::clamp(y + (isAcross ? 0 : i), 0, heightPx - 1);
                        for (std::size_t k = 0; k < 3; ++k)
                            sum[k] += weights[static_cast<std::size_t>(i + reach)] / all *
                                      from[static_cast<std::size_t>(py) * static_cast<std::size_t>(widthPx) +
                                           static_cast<std::size_t>(px)][k];
                    }
                    light[static_cast<std::size_t>(y) * static_cast<std::size_t>(widthPx) +
                          static_cast<std::size_t>(x)] = sum;
                }
        }
    }
};

/// The map from undistorted px to mm of a camera that looks down on the mat from a height, tilted and turned.
inline std::array<double, 9> cameraOver(const MatScene& scene, double tiltRad, double towardsRad,
                                        double turnRad, double share) {
    // A place of the mat, from its middle, turned, tilted about an axis of the picture, seen from afar.
    const double size = std::max(scene.widthMm / scene.widthPx, scene.heightMm / scene.heightPx) /
                        share, // mm per px
        away = 1.4 * scene.widthPx * size;
    const double ct = std::cos(turnRad), st = std::sin(turnRad), ca = std::cos(towardsRad),
                 sa = std::sin(towardsRad), cT = std::cos(tiltRad), sT = std::sin(tiltRad);
    // (x, y) from the middle, turned; along (ca, sa) it is foreshortened and goes away.
    const auto rows = [&](double x, double y) {
        const double u = ct * x - st * y, v = st * x + ct * y;
        const double along = ca * u + sa * v, aside = -sa * u + ca * v;
        const double X = ca * along * cT - sa * aside, Y = sa * along * cT + ca * aside,
                     Z = away + along * sT;
        return std::array<double, 3>{X * away / size, Y * away / size, Z};
    };
    const auto zero = rows(0, 0), one = rows(1, 0), two = rows(0, 1);
    // px = (X / Z + middle); as a matrix of (mm x, mm y, 1).
    std::array<double, 9> m{};
    for (std::size_t r = 0; r < 3; ++r) {
        const double a = one[r] - zero[r], b = two[r] - zero[r];
        m[3 * r] = a;
        m[3 * r + 1] = b;
        m[3 * r + 2] = zero[r] - a * scene.widthMm / 2 - b * scene.heightMm / 2;
    }
    for (std::size_t k = 0; k < 3; ++k) {
        m[k] += m[6 + k] * scene.widthPx / 2;
        m[3 + k] += m[6 + k] * scene.heightPx / 2;
    }
    const double det = m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) +
                       m[2] * (m[3] * m[7] - m[4] * m[6]);
    return {(m[4] * m[8] - m[5] * m[7]) / det, (m[2] * m[7] - m[1] * m[8]) / det,
            (m[1] * m[5] - m[2] * m[4]) / det, (m[5] * m[6] - m[3] * m[8]) / det,
            (m[0] * m[8] - m[2] * m[6]) / det, (m[2] * m[3] - m[0] * m[5]) / det,
            (m[3] * m[7] - m[4] * m[6]) / det, (m[1] * m[6] - m[0] * m[7]) / det,
            (m[0] * m[4] - m[1] * m[3]) / det};
}

/// A scene with everything drawn at random. Scraps lie apart, or may lie on one another.
inline MatScene matScene(unsigned seed, bool mayOverlap = false) {
    std::mt19937 random(seed);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    MatScene out;
    out.seed = seed;
    const raster::Rgb mats[]{{62, 128, 112}, {120, 122, 126}, {92, 84, 150}, {58, 66, 74}};
    const raster::Rgb tables[]{{196, 172, 138}, {232, 230, 226}, {120, 84, 58}, {150, 150, 150}};
    const std::size_t mat = random() % 4;
    out.mat = mats[mat];
    out.table = tables[mat == 1 ? random() % 3 : random() % 4];
    const raster::Rgb cards[]{{200, 70, 45},   {236, 196, 92}, {244, 236, 220}, {40, 96, 130},
                              {150, 176, 140}, {34, 40, 46},   {214, 150, 170}, {110, 62, 40}};
    const int count =
        6 + static_cast<int>(random() % 12); // of those that lie apart only so many as find room
    for (int i = 0; i < count; ++i) {
        MatScene::Scrap scrap;
        scrap.colour = cards[random() % 8];
        const double w = between(35, 120), h = between(35, 120), turn = between(-0.6, 0.6);
        const geometry::Point at{between(75, 230), between(75, 230)};
        const bool isTorn = random() % 2 == 0;
        const int corners = isTorn ? 9 : 4;
        for (int k = 0; k < corners; ++k) {
            geometry::Point p =
                isTorn
                    ? geometry::Point{w / 2 * between(0.75, 1) * std::cos(2 * std::numbers::pi * k / corners),
                                      h / 2 * between(0.75, 1) * std::sin(2 * std::numbers::pi * k / corners)}
                    : geometry::Point{(k == 1 || k == 2 ? 1 : -1) * w / 2, (k >= 2 ? 1 : -1) * h / 2};
            scrap.outline.push_back(at + geometry::Point{std::cos(turn) * p.x - std::sin(turn) * p.y,
                                                         std::sin(turn) * p.x + std::cos(turn) * p.y});
        }
        const geometry::Box box = geometry::bounds(geometry::Polygons{scrap.outline});
        const bool isApart =
            std::none_of(out.scraps.begin(), out.scraps.end(), [&](const MatScene::Scrap& other) {
                return geometry::bounds(geometry::Polygons{other.outline}).grownBy(4).meets(box);
            });
        const auto under =
            std::count_if(out.scraps.begin(), out.scraps.end(), [&](const MatScene::Scrap& other) {
                return geometry::bounds(geometry::Polygons{other.outline}).grownBy(4).meets(box);
            });
        if ((isApart || (mayOverlap && under == 1)) && box.least.x > 8 && box.least.y > 8 &&
            box.most.x < 296 && box.most.y < 296)
            out.scraps.push_back(scrap);
    }
    out.bend = between(-0.05, 0.05);
    out.bendMore = between(-0.005, 0.005);
    out.toMm = cameraOver(out, between(0, 0.35), between(0, 6.28), between(-0.2, 0.2), between(0.68, 0.8));
    out.blurPx = between(0.5, 1.3);
    out.noise = between(0.5, 4);
    out.lightAcross = between(-0.25, 0.25);
    out.lightDown = between(-0.25, 0.25);
    if (random() % 2 == 0) {
        out.shadowAt = {between(80, 220), between(80, 220)};
        out.shadowRad = between(0, 6.28);
        out.shadow = between(0.6, 0.85);
        out.shadowSoftMm = between(3, 20);
    }
    return out;
}

} // namespace thinline::support
