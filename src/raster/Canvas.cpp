// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Canvas.h"

#include <algorithm>
#include <cmath>

namespace thinline::raster {

using geometry::Point;

namespace {

/// The box of the rings; empty when any point is not a number, so that nothing is drawn.
geometry::Box drawnBox(const geometry::Polygons& rings) {
    for (const geometry::Polygon& ring : rings)
        for (Point p : ring)
            if (!geometry::isFinite(p))
                return {};
    return geometry::bounds(rings);
}

} // namespace

Canvas::Canvas(int width, int height, Rgb background)
    : m_width(std::max(width, 0)), m_height(std::max(height, 0)),
      m_pixels(static_cast<size_t>(m_width) * static_cast<size_t>(m_height),
               0xff000000u |
                   static_cast<std::uint32_t>(background[0] << 16 | background[1] << 8 | background[2])) {}

bool Canvas::begin(geometry::Box box) {
    const auto clip = [](double v, int most) {
        return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most)));
    };
    if (box.isEmpty() || !geometry::isFinite(box.least) || !geometry::isFinite(box.most))
        return false;
    m_left = clip(std::floor(box.least.x), m_width);
    m_top = clip(std::floor(box.least.y), m_height);
    m_boxWidth = clip(std::ceil(box.most.x), m_width) - m_left;
    m_boxHeight = clip(std::ceil(box.most.y), m_height) - m_top;
    if (m_boxWidth <= 0 || m_boxHeight <= 0)
        return false;
    // Two spare columns take the differences that fall behind the last pixel.
    m_cover.assign(static_cast<size_t>(m_boxWidth + 2) * static_cast<size_t>(m_boxHeight), 0.0f);
    return true;
}

/// Adds the signed area to the right of one edge, cell by cell (exact trapezoid coverage).
void Canvas::addEdge(Point a, Point b) {
    if (a.y == b.y || std::max(a.y, b.y) <= m_top || std::min(a.y, b.y) >= m_top + m_boxHeight ||
        std::min(a.x, b.x) >= m_left + m_boxWidth)
        return; // nothing to the right of it within the box
    const float sign = a.y < b.y ? 1.0f : -1.0f;
    if (a.y > b.y)
        std::swap(a, b);
    const double slope = (b.x - a.x) / (b.y - a.y);
    double y = a.y - m_top, bottom = b.y - m_top, x = a.x - m_left;
    if (y < 0) {
        x -= slope * y;
        y = 0;
    }
    bottom = std::min(bottom, static_cast<double>(m_boxHeight));
    const double right = m_boxWidth;
    while (y < bottom) {
        const int row = static_cast<int>(y);
        const double nextY = std::min(bottom, row + 1.0), nextX = x + slope * (nextY - y);
        const float tall = static_cast<float>(nextY - y) * sign;
        float* cover = m_cover.data() + static_cast<size_t>(row) * static_cast<size_t>(m_boxWidth + 2);
        const double from = std::min(x, nextX), to = std::max(x, nextX);
        const double x0 = std::clamp(from, 0.0, right), x1 = std::clamp(to, 0.0, right);
        const int first = static_cast<int>(x0), last = static_cast<int>(x1);
        const bool isWithin = from >= 0 && to <= right;
        if (first == last && (isWithin || to <= 0 || from >= right)) {
            const float inside = static_cast<float>(first + 1 - (x0 + x1) / 2);
            cover[first] += tall * inside;
            cover[first + 1] += tall * (1 - inside);
        } else {
            // The edge crosses several cells of this row; what lies left of the box covers all of them.
            const double perUnit = 1 / (to - from);
            double before = (x0 - from) * perUnit, previous = 0;
            for (int cell = first; cell <= last; ++cell) {
                const double in = std::max(x0, static_cast<double>(cell)), out = std::min(x1, cell + 1.0);
                const double share = (out - in) * perUnit;
                const double covered = before + share * (cell + 1 - (in + out) / 2);
                cover[cell] += tall * static_cast<float>(covered - previous);
                before += share;
                previous = covered;
            }
            cover[last + 1] += tall * static_cast<float>(before - previous);
        }
        x = nextX;
        y = nextY;
    }
}

void Canvas::blend(Rgb colour, double opacity) {
    const float strength = static_cast<float>(std::clamp(opacity, 0.0, 1.0)) * 256.0f;
    const std::uint32_t red = colour[0], green = colour[1], blue = colour[2];
    const std::uint32_t solid = 0xff000000u | red << 16 | green << 8 | blue;
    for (int row = 0; row < m_boxHeight; ++row) {
        const float* cover = m_cover.data() + static_cast<size_t>(row) * static_cast<size_t>(m_boxWidth + 2);
        std::uint32_t* to = m_pixels.data() +
                            static_cast<size_t>(m_top + row) * static_cast<size_t>(m_width) +
                            static_cast<size_t>(m_left);
        float sum = 0;
        for (int x = 0; x < m_boxWidth; ++x) {
            sum += cover[x];
            const float share = std::min(std::abs(sum), 1.0f);
            const std::uint32_t alpha = static_cast<std::uint32_t>(share * strength + 0.5f);
            if (alpha == 0)
                continue;
            if (alpha >= 256) {
                to[x] = solid;
                continue;
            }
            const std::uint32_t under = to[x], keep = 256 - alpha;
            const std::uint32_t r = ((under >> 16 & 255) * keep + red * alpha) >> 8;
            const std::uint32_t g = ((under >> 8 & 255) * keep + green * alpha) >> 8;
            const std::uint32_t b = ((under & 255) * keep + blue * alpha) >> 8;
            to[x] = 0xff000000u | r << 16 | g << 8 | b;
        }
    }
}

void Canvas::fill(const geometry::Polygons& rings, Rgb colour, double opacity) {
    if (!begin(drawnBox(rings)))
        return;
    for (const geometry::Polygon& ring : rings)
        for (size_t i = 0; i < ring.size(); ++i)
            addEdge(ring[i], ring[i + 1 == ring.size() ? 0 : i + 1]);
    blend(colour, opacity);
}

/// Adds the thin rectangle around a-b.
void Canvas::addStretch(Point a, Point b, double half) {
    const Point along = geometry::direction(b - a);
    if (along == Point{})
        return;
    const Point side{-along.y * half, along.x * half};
    addEdge(a - side, b - side);
    addEdge(b - side, b + side);
    addEdge(b + side, a + side);
    addEdge(a + side, a - side);
}

void Canvas::stroke(const geometry::Polygons& rings, double widthPx, Rgb colour, double opacity) {
    if (!begin(drawnBox(rings).grownBy(2 * widthPx)))
        return;
    // Both edges of the line are rings of their own, met in mitres, so that neighbouring steps share no area
    // twice.
    for (const geometry::Polygon& ring : rings)
        for (const double half : {widthPx / 2, -widthPx / 2}) {
            m_edge.clear();
            const size_t n = ring.size();
            Point in{};
            for (size_t i = n; in == Point{} && i-- > 1;)
                in = geometry::direction(ring[0] - ring[i]);
            for (size_t i = 0; i < n; ++i) {
                const Point out = geometry::direction(ring[i + 1 == n ? 0 : i + 1] - ring[i]);
                if (out == Point{})
                    continue;
                const Point before{-in.y * half, in.x * half}, after{-out.y * half, out.x * half};
                const double cosine = geometry::dot(in, out);
                if (cosine > -0.5) {
                    m_edge.push_back(ring[i] + (before + after) * (1 / (1 + cosine)));
                } else { // too sharp for a mitre
                    m_edge.push_back(ring[i] + before);
                    m_edge.push_back(ring[i] + after);
                }
                in = out;
            }
            for (size_t i = 0; i < m_edge.size(); ++i) {
                const Point a = m_edge[i], b = m_edge[i + 1 == m_edge.size() ? 0 : i + 1];
                half > 0 ? addEdge(a, b) : addEdge(b, a);
            }
        }
    blend(colour, opacity);
}

void Canvas::line(Point a, Point b, double widthPx, Rgb colour, double dashPx) {
    geometry::Box box;
    box.include(a);
    box.include(b);
    if (!begin(box.grownBy(widthPx)))
        return;
    const double total = geometry::distance(a, b);
    const Point along = geometry::direction(b - a);
    if (dashPx <= 0) {
        addStretch(a, b, widthPx / 2);
    } else {
        for (double at = 0; at < total; at += 2 * dashPx)
            addStretch(a + along * at, a + along * std::min(total, at + dashPx), widthPx / 2);
    }
    blend(colour, 1);
}

Picture Canvas::picture() const {
    Picture out{m_width, m_height, {}};
    out.rgb.reserve(m_pixels.size() * 3);
    for (std::uint32_t p : m_pixels) {
        out.rgb.push_back(static_cast<std::uint8_t>(p >> 16));
        out.rgb.push_back(static_cast<std::uint8_t>(p >> 8));
        out.rgb.push_back(static_cast<std::uint8_t>(p));
    }
    return out;
}

} // namespace thinline::raster
