// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Erase.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace thinline::trace {
namespace {

using geometry::Point;
using raster::Picture;
using raster::Rgb;

/// The colour that is met most along the picture's edge.
Rgb groundOf(const Picture& picture) {
    std::vector<std::uint32_t> edge;
    const auto w = static_cast<std::uint32_t>(picture.width), h = static_cast<std::uint32_t>(picture.height);
    for (std::uint32_t x = 0; x < w; ++x) {
        edge.push_back(x);
        edge.push_back((h - 1) * w + x);
    }
    for (std::uint32_t y = 0; y < h; ++y) {
        edge.push_back(y * w);
        edge.push_back(y * w + w - 1);
    }
    return raster::medianColour(picture, edge);
}

class Eraser {
  public:
    explicit Eraser(Picture& picture) : m_picture(picture), m_ground(groundOf(picture)) {}

    void erase(const Erasure& e) {
        if (e.points.empty())
            return;
        m_fill = e.ground.value_or(m_ground);
        switch (e.kind) {
        case Erasure::Kind::Rectangle:
            within(boxOf(e), [&](Point p) { return holds(e, p); });
            break;
        case Erasure::Kind::Outside:
            within({{0, 0}, {1.0 * m_picture.width, 1.0 * m_picture.height}},
                   [&](Point p) { return !holds(e, p); });
            break;
        case Erasure::Kind::Brush:
            for (size_t i = 0; i < e.points.size(); ++i) {
                const Point a = e.points[i > 0 ? i - 1 : 0], b = e.points[i];
                geometry::Box box;
                box.include(a);
                box.include(b);
                within(box.grownBy(e.widthPx / 2),
                       [&](Point p) { return geometry::distanceToStretch(p, a, b) <= e.widthPx / 2; });
            }
            break;
        case Erasure::Kind::Spill:
            spill(static_cast<int>(std::floor(e.points[0].x)), static_cast<int>(std::floor(e.points[0].y)));
            break;
        }
    }

  private:
    static geometry::Box boxOf(const Erasure& e) {
        geometry::Box box;
        for (const Point p : e.points)
            box.include(p);
        return box;
    }
    /// Two corners lie level; four may be turned.
    static bool holds(const Erasure& e, Point p) {
        return e.points.size() == 4 ? geometry::contains({e.points}, p) : boxOf(e).contains(p);
    }
    std::uint8_t* pixel(int x, int y) {
        return m_picture.rgb.data() +
               (static_cast<size_t>(y) * static_cast<size_t>(m_picture.width) + static_cast<size_t>(x)) * 3;
    }
    void clear(int x, int y) { std::copy(m_fill.begin(), m_fill.end(), pixel(x, y)); }

    template <class Covers>
    void within(const geometry::Box& box, Covers covers) {
        const auto whole = [](double v, int most) {
            return static_cast<int>(std::clamp(v, 0.0, 1.0 * most));
        };
        for (int y = whole(std::floor(box.least.y), m_picture.height);
             y < whole(std::ceil(box.most.y), m_picture.height); ++y)
            for (int x = whole(std::floor(box.least.x), m_picture.width);
                 x < whole(std::ceil(box.most.x), m_picture.width); ++x)
                if (covers({x + 0.5, y + 0.5}))
                    clear(x, y);
    }

    void spill(int x0, int y0) {
        if (x0 < 0 || y0 < 0 || x0 >= m_picture.width || y0 >= m_picture.height)
            return;
        constexpr int kAlike = 60; // levels; soft edges reach farther and go with the rim
        Rgb colour{};
        std::copy_n(pixel(x0, y0), 3, colour.begin());
        std::vector<std::uint8_t> seen(static_cast<size_t>(m_picture.pixels()), 0);
        std::vector<std::pair<int, int>> front{{x0, y0}}, all;
        seen[index(x0, y0)] = 1;
        while (!front.empty()) {
            const auto [x, y] = front.back();
            front.pop_back();
            all.emplace_back(x, y);
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                const int nx = x + dx, ny = y + dy;
                if (nx < 0 || ny < 0 || nx >= m_picture.width || ny >= m_picture.height ||
                    seen[index(nx, ny)])
                    continue;
                const std::uint8_t* p = pixel(nx, ny);
                if (std::max({std::abs(p[0] - colour[0]), std::abs(p[1] - colour[1]),
                              std::abs(p[2] - colour[2])}) > kAlike)
                    continue;
                seen[index(nx, ny)] = 1;
                front.emplace_back(nx, ny);
            }
        }
        constexpr int kRim = 2;
        for (const auto& [x, y] : all)
            for (int dy = -kRim; dy <= kRim; ++dy)
                for (int dx = -kRim; dx <= kRim; ++dx)
                    if (x + dx >= 0 && y + dy >= 0 && x + dx < m_picture.width && y + dy < m_picture.height)
                        clear(x + dx, y + dy);
    }
    size_t index(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(m_picture.width) + static_cast<size_t>(x);
    }

    Picture& m_picture;
    Rgb m_ground, m_fill{};
};

} // namespace

raster::Picture erased(raster::Picture picture, const std::vector<Erasure>& erasures) {
    if (picture.isEmpty())
        return picture;
    Eraser eraser(picture);
    for (const Erasure& e : erasures)
        eraser.erase(e);
    return picture;
}

} // namespace thinline::trace
