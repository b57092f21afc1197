// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Gaps.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::raster {
namespace {

using geometry::Point;

/// The ink around a gap with, for every pixel of it, how far the paper is.
class Surroundings {
  public:
    Surroundings(const Grey& mask, Point middle, int reach)
        : m_left(std::max(0, static_cast<int>(middle.x) - reach)),
          m_top(std::max(0, static_cast<int>(middle.y) - reach)) {
        const int right = std::min(mask.width, static_cast<int>(middle.x) + reach + 1),
                  bottom = std::min(mask.height, static_cast<int>(middle.y) + reach + 1);
        m_ink.create(std::max(1, bottom - m_top), std::max(1, right - m_left), CV_8U);
        m_ink.setTo(0);
        for (int y = m_top; y < bottom; ++y)
            for (int x = m_left; x < right; ++x)
                m_ink.at<std::uint8_t>(y - m_top, x - m_left) = mask.at(x, y) ? 255 : 0;
        cv::distanceTransform(m_ink, m_depth, cv::DIST_L2, cv::DIST_MASK_5);
    }
    bool isInk(int x, int y) const { return depth(x, y) > 0; }
    float depth(int x, int y) const {
        x -= m_left;
        y -= m_top;
        return x < 0 || y < 0 || x >= m_depth.cols || y >= m_depth.rows ? 0 : m_depth.at<float>(y, x);
    }
    template <class Visit>
    void eachInk(Visit visit) const {
        for (int y = 0; y < m_ink.rows; ++y)
            for (int x = 0; x < m_ink.cols; ++x)
                if (m_ink.at<std::uint8_t>(y, x))
                    visit(Point{m_left + x + 0.5, m_top + y + 0.5});
    }
    /// The connected ink around a pixel, within a radius.
    std::vector<Point> inkNear(Point from, double radius) const {
        cv::Mat seen = cv::Mat::zeros(m_ink.size(), CV_8U);
        std::vector<Point> out, front{from};
        while (!front.empty()) {
            const Point p = front.back();
            front.pop_back();
            const int x = static_cast<int>(p.x) - m_left, y = static_cast<int>(p.y) - m_top;
            if (x < 0 || y < 0 || x >= m_ink.cols || y >= m_ink.rows || !m_ink.at<std::uint8_t>(y, x) ||
                seen.at<std::uint8_t>(y, x) || distance(p, from) > radius)
                continue;
            seen.at<std::uint8_t>(y, x) = 1;
            out.push_back(p);
            for (const Point step : {Point{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
                front.push_back(p + step);
        }
        return out;
    }

  private:
    int m_left, m_top;
    cv::Mat m_ink, m_depth;
};

/// One shore of the gap.
struct Shore {
    Point edge;   ///< the ink nearest to the gap
    Point middle; ///< of the line it belongs to
    double widthPx = 0;
    bool isEnd = false;
};

/// Whether the ink at an edge goes on as one line of its width. Two lines that meet in a tip are the corner of something
/// closed, and a tip that widens is the end of something filled: neither was meant to go on.
bool goesOnAsOne(const Surroundings& around, Point edge, double widthPx) {
    const double radius = 2.5 * widthPx + 2;
    const std::vector<Point> ink = around.inkNear(edge, radius + 1);
    const auto isInk = [&](Point p) {
        return std::any_of(ink.begin(), ink.end(), [&](Point q) {
            return std::abs(q.x - p.x) <= 0.5 && std::abs(q.y - p.y) <= 0.5;
        });
    };
    // Around a circle: how often ink begins, and how much of it there is.
    const int looks = std::max(24, static_cast<int>(2 * std::numbers::pi * radius));
    int begins = 0, inkLooks = 0;
    const auto lookAt = [&](int i) {
        const double turn = 2 * std::numbers::pi * i / looks;
        return isInk(edge + Point{std::cos(turn), std::sin(turn)} * radius);
    };
    bool before = lookAt(looks - 1);
    for (int i = 0; i < looks; ++i) {
        const bool now = lookAt(i);
        begins += now && !before;
        inkLooks += now;
        before = now;
    }
    constexpr double kWider = 1.6, kPixels = 2;
    return begins == 1 && inkLooks * 2 * std::numbers::pi * radius / looks <= kWider * widthPx + kPixels;
}

Shore shoreAt(const Surroundings& around, Point edge, Point inwards) {
    Shore out{edge, edge, 0, false};
    // Up to the middle of the line: the ink farthest from paper nearby.
    Point p = edge;
    for (int step = 0; step < 40; ++step) {
        Point best = p;
        float deepest = around.depth(static_cast<int>(p.x), static_cast<int>(p.y));
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const Point q = p + Point{static_cast<double>(dx), static_cast<double>(dy)};
                const float depth = around.depth(static_cast<int>(q.x), static_cast<int>(q.y));
                if (depth > deepest + 0.05F && dot(q - edge, inwards) > -2) {
                    deepest = depth;
                    best = q;
                }
            }
        if (best == p)
            break;
        p = best;
    }
    out.middle = p;
    out.widthPx = std::max(1.0, 2.0 * around.depth(static_cast<int>(p.x), static_cast<int>(p.y)) - 1.0);
    // An end: its ink within a line's width or two lies in a strip no wider than the line, going away from
    // the gap; a line that passes spreads to both sides.
    double least = 0, most = 0;
    for (const Point q : around.inkNear(edge, 2 * out.widthPx + 3)) {
        const double across = cross(inwards, q - p);
        least = std::min(least, across);
        most = std::max(most, across);
    }
    out.isEnd = std::min(-least, most) < 0.9 * out.widthPx + 1.5 && most - least < 2.6 * out.widthPx + 3 &&
                goesOnAsOne(around, edge, out.widthPx);
    return out;
}

} // namespace

std::optional<Bridge> bridgeOver(const Grey& inkMask, Point place, double gapPx) {
    const int reach = static_cast<int>(std::clamp(4 * gapPx + 20, 24.0, 160.0));
    const Surroundings around(inkMask, place, reach);
    std::optional<Point> one, other;
    double nearest = 1e9;
    around.eachInk([&](Point p) {
        if (const double d = distance(p, place); d < nearest) {
            nearest = d;
            one = p;
        }
    });
    if (!one)
        return std::nullopt;
    const Point away = direction(*one - place);
    nearest = 1e9;
    around.eachInk([&](Point p) {
        const double d = distance(p, place);
        if (d < nearest && dot(p - place, away) < -0.5 * d) {
            nearest = d;
            other = p;
        }
    });
    if (!other || nearest > 2 * gapPx + 4)
        return std::nullopt;
    const Point across = direction(*other - *one);
    const Shore a = shoreAt(around, *one, across * -1), b = shoreAt(around, *other, across);
    if (!a.isEnd && !b.isEnd)
        return std::nullopt;
    // A line that is only reached may be much thicker: the stroke is as wide as the one that ends.
    const double width = a.isEnd && b.isEnd ? std::min(a.widthPx, b.widthPx)
                         : a.isEnd          ? a.widthPx
                                            : b.widthPx;
    const auto anchor = [&](const Shore& shore, Point inwards) {
        return shore.isEnd ? shore.middle : shore.edge + inwards * (width / 2);
    };
    return Bridge{anchor(a, across * -1), anchor(b, across), width};
}

} // namespace thinline::raster
