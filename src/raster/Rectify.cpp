// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Finding a rectangle in a photo, and laying it straight.
//
// A mat on a table differs from the table more than either differs from itself. What the table looks like is learnt along the
// picture's border, as a few colours, since light and shadow make several of one; what is unlike all of them and hangs together
// in the middle is the mat with all that lies on it. Its hull is nearly a quadrilateral, which gives the corners within some
// pixels. Then each side is measured: across it, at two hundred places, the steepest change of colour is looked for, to a part
// of a pixel.
//
// Straight edges are straight in no photo, for lenses bend. The bend is the one number that makes all four sides straightest,
// by the rule: a place at r from the middle of the picture belongs at r (1 + bend r2), r being 1 at the corners. After that
// lines are fitted, strays left aside, and their crossings are the corners. How far the places still are from their lines
// tells whether it was a rectangle at all.
//
// Source of the map by four corners: the projective map of the plane, any textbook.
#include "raster/Rectify.h"

#include "geometry/Measures.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

namespace thinline::raster {
namespace {

using base::Code;
using base::Error;
using geometry::Point;

cv::Mat view(const Picture& picture) {
    return {picture.height, picture.width, CV_8UC3, const_cast<std::uint8_t*>(picture.rgb.data())};
}
Point times(const std::array<double, 9>& m, Point p) {
    const double w = m[6] * p.x + m[7] * p.y + m[8];
    return {(m[0] * p.x + m[1] * p.y + m[2]) / w, (m[3] * p.x + m[4] * p.y + m[5]) / w};
}
std::array<double, 9> mapBy(const std::array<Point, 4>& from, const std::array<Point, 4>& to) {
    std::array<cv::Point2f, 4> a, b;
    for (std::size_t i = 0; i < 4; ++i) {
        a[i] = {static_cast<float>(from[i].x), static_cast<float>(from[i].y)};
        b[i] = {static_cast<float>(to[i].x), static_cast<float>(to[i].y)};
    }
    const cv::Mat map = cv::getPerspectiveTransform(a.data(), b.data());
    std::array<double, 9> out{};
    for (int i = 0; i < 9; ++i)
        out[static_cast<std::size_t>(i)] = map.at<double>(i / 3, i % 3);
    return out;
}
/// Corners of a convex area, clockwise on screen.
bool areConvex(const std::array<Point, 4>& corners) {
    for (std::size_t i = 0; i < 4; ++i) {
        const Point a = corners[i], b = corners[(i + 1) % 4], c = corners[(i + 2) % 4];
        if (!(cross(b - a, c - b) > 1))
            return false;
    }
    return true;
}

// ---- where the rectangle is, roughly

/// What is unlike the border, 255 there.
cv::Mat unlikeBorder(const cv::Mat& lab) {
    constexpr int kColours = 5, kRing = 5; // hundredths of the picture
    std::vector<cv::Vec3f> ring;
    const int border = std::max(2, lab.rows * kRing / 200);
    for (int y = 0; y < lab.rows; ++y)
        for (int x = 0; x < lab.cols; ++x)
            if (x < border || y < border || x >= lab.cols - border || y >= lab.rows - border)
                ring.push_back(lab.at<cv::Vec3f>(y, x));
    cv::Mat samples(static_cast<int>(ring.size()), 3, CV_32F, ring.data()), labels, centres;
    cv::setRNGSeed(1);
    cv::kmeans(samples, kColours, labels, {cv::TermCriteria::COUNT, 20, 0}, 2, cv::KMEANS_PP_CENTERS,
               centres);
    cv::Mat away(lab.size(), CV_32F);
    for (int y = 0; y < lab.rows; ++y)
        for (int x = 0; x < lab.cols; ++x) {
            const cv::Vec3f c = lab.at<cv::Vec3f>(y, x);
            float least = 1e9f;
            for (int k = 0; k < kColours; ++k) {
                // Light and shadow change how bright a thing is more than what colour it has.
                const float l = 0.6f * (c[0] - centres.at<float>(k, 0)), a = c[1] - centres.at<float>(k, 1),
                            b = c[2] - centres.at<float>(k, 2);
                least = std::min(least, std::sqrt(l * l + a * a + b * b));
            }
            away.at<float>(y, x) = least;
        }
    cv::GaussianBlur(away, away, {}, 1.5);
    cv::Mat bytes, out;
    away.convertTo(bytes, CV_8U, 4);
    constexpr double kLeast = 5 * 4; // of the scale above
    const double level = cv::threshold(bytes, out, 0, 255, cv::THRESH_BINARY | cv::THRESH_OTSU);
    cv::threshold(bytes, out, std::max(kLeast, 0.7 * level), 255, cv::THRESH_BINARY);
    cv::morphologyEx(out, out, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_ELLIPSE, {5, 5}));
    cv::morphologyEx(out, out, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_ELLIPSE, {9, 9}));
    return out;
}

/// The corners of the largest area of a mask, roughly; nothing where it is no quadrilateral.
std::optional<std::array<Point, 4>> quadOf(const cv::Mat& mask) {
    std::vector<std::vector<cv::Point>> contours;
    cv::findContours(mask, contours, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_NONE);
    const auto largest = std::max_element(contours.begin(), contours.end(), [](const auto& a, const auto& b) {
        return cv::contourArea(a) < cv::contourArea(b);
    });
    constexpr double kLeastShare = 0.1, kLeastFilled = 0.85;
    if (largest == contours.end())
        return std::nullopt;
    std::vector<cv::Point> hull, quad;
    cv::convexHull(*largest, hull);
    const double area = cv::contourArea(hull);
    if (area < kLeastShare * mask.rows * mask.cols || cv::contourArea(*largest) < kLeastFilled * area)
        return std::nullopt;
    const double round = cv::arcLength(hull, true);
    for (double share = 0.01; share < 0.09 && quad.size() != 4; share += 0.005)
        cv::approxPolyDP(hull, quad, share * round, true);
    if (quad.size() != 4 || std::abs(cv::contourArea(quad)) < kLeastFilled * area)
        return std::nullopt;
    std::array<Point, 4> out;
    for (std::size_t i = 0; i < 4; ++i)
        out[i] = {quad[i].x + 0.5, quad[i].y + 0.5};
    if (cross(out[1] - out[0], out[2] - out[1]) < 0)
        std::swap(out[1], out[3]);
    return areConvex(out) ? std::optional(out) : std::nullopt;
}

/// Begins at the corner that is the rectangle's upper left one.
std::array<Point, 4> inOrder(std::array<Point, 4> corners, bool isWide, double widthMm, double heightMm) {
    const auto first = std::min_element(corners.begin(), corners.end(),
                                        [](Point a, Point b) { return a.x + a.y < b.x + b.y; });
    std::rotate(corners.begin(), first, corners.end());
    const bool isOtherWay = widthMm != heightMm && (widthMm > heightMm) != isWide;
    if (isOtherWay) // its long side lies across: what is up is at the left
        std::rotate(corners.begin(), corners.begin() + 3, corners.end());
    return corners;
}

// ---- its sides, to a part of a pixel

float at(const cv::Mat& channels, Point p, int channel) {
    const double x = p.x - 0.5, y = p.y - 0.5;
    const int ix = std::clamp(static_cast<int>(std::floor(x)), 0, channels.cols - 2),
              iy = std::clamp(static_cast<int>(std::floor(y)), 0, channels.rows - 2);
    const auto u = static_cast<float>(std::clamp(x - ix, 0.0, 1.0)),
               v = static_cast<float>(std::clamp(y - iy, 0.0, 1.0));
    const auto value = [&](int dx, int dy) {
        return static_cast<float>(channels.at<cv::Vec3b>(iy + dy, ix + dx)[channel]);
    };
    return (value(0, 0) * (1 - u) + value(1, 0) * u) * (1 - v) +
           (value(0, 1) * (1 - u) + value(1, 1) * u) * v;
}

/// Where colour changes most across a line through `middle` along `across`, px from there; nothing where it hardly does.
std::optional<double> stepAt(const cv::Mat& picture, Point middle, Point across, double reachPx) {
    constexpr double kStepPx = 0.5, kSmoothPx = 1.2, kFaint = 4;
    const int count = static_cast<int>(2 * reachPx / kStepPx) + 1;
    std::vector<double> steep(static_cast<std::size_t>(count), 0);
    for (int i = 0; i < count; ++i) {
        const double s = -reachPx + i * kStepPx;
        const Point before = middle + across * (s - kSmoothPx), after = middle + across * (s + kSmoothPx);
        if (before.x < 1 || before.y < 1 || after.x < 1 || after.y < 1 || before.x > picture.cols - 1 ||
            before.y > picture.rows - 1 || after.x > picture.cols - 1 || after.y > picture.rows - 1)
            continue;
        double sum = 0;
        for (int k = 0; k < 3; ++k) {
            const double d =
                static_cast<double>(at(picture, after, k)) - static_cast<double>(at(picture, before, k));
            sum += d * d;
        }
        steep[static_cast<std::size_t>(i)] = std::sqrt(sum);
    }
    auto most = std::max_element(steep.begin(), steep.end());
    // Of several steps as clear the outermost: lines may be printed along the edge. Outside comes first.
    constexpr double kAsClear = 0.7;
    for (auto i = steep.begin() + 1; i < most; ++i)
        if (*i >= kAsClear * *most && *i >= *(i - 1) && *i > *(i + 1)) {
            most = i;
            break;
        }
    if (*most < kFaint || most == steep.begin() || most + 1 == steep.end())
        return std::nullopt;
    // The middle of the hump, which is less shaken by noise than its top.
    const auto top = most - steep.begin();
    double weight = 0, sum = 0;
    for (auto i = std::max<std::ptrdiff_t>(0, top - 4); i <= std::min<std::ptrdiff_t>(count - 1, top + 4);
         ++i) {
        const double over = std::max(0.0, steep[static_cast<std::size_t>(i)] - 0.3 * *most);
        weight += over;
        sum += over * static_cast<double>(i);
    }
    return -reachPx + kStepPx * sum / weight;
}

/// Places on one side of the rectangle.
std::vector<Point> placesOn(const cv::Mat& picture, Point a, Point b, double reachPx) {
    constexpr int kPlaces = 200;
    const Point along = geometry::direction(b - a), across{-along.y, along.x};
    std::vector<Point> out;
    for (int i = 0; i < kPlaces; ++i) {
        const Point p = a + (b - a) * (0.03 + 0.94 * (i + 0.5) / kPlaces);
        if (const auto step = stepAt(picture, p, across, reachPx))
            out.push_back(p + across * *step);
    }
    return out;
}

struct StraightLine {
    Point at, along;
    double awayPx = 0; ///< mean of what is near
    double share = 0;  ///< of the places that lie near

    double off(Point p) const { return cross(along, p - at); }
};

/// A line through most of some places: strays count less and less.
StraightLine lineThrough(const std::vector<Point>& places) {
    StraightLine out;
    std::vector<double> weights(places.size(), 1);
    for (int round = 0; round < 12; ++round) {
        double all = 0, xx = 0, xy = 0, yy = 0;
        Point sum;
        for (std::size_t i = 0; i < places.size(); ++i) {
            all += weights[i];
            sum = sum + places[i] * weights[i];
        }
        out.at = sum * (1 / std::max(1e-9, all));
        for (std::size_t i = 0; i < places.size(); ++i) {
            const Point d = places[i] - out.at;
            xx += weights[i] * d.x * d.x;
            xy += weights[i] * d.x * d.y;
            yy += weights[i] * d.y * d.y;
        }
        const double turn = 0.5 * std::atan2(2 * xy, xx - yy);
        out.along = {std::cos(turn), std::sin(turn)};
        const double scale = std::max(0.3, 6.0 / (1 + round));
        for (std::size_t i = 0; i < places.size(); ++i) {
            const double off = out.off(places[i]) / scale;
            weights[i] = 1 / ((1 + off * off) * (1 + off * off));
        }
    }
    constexpr double kNearPx = 1.5;
    int near = 0;
    for (const Point p : places)
        if (const double off = std::abs(out.off(p)); off < kNearPx) {
            ++near;
            out.awayPx += off;
        }
    out.awayPx /= std::max(1, near);
    out.share = static_cast<double>(near) / static_cast<double>(std::max<std::size_t>(1, places.size()));
    return out;
}

Point crossing(const StraightLine& a, const StraightLine& b) {
    return a.at + a.along * (cross(b.at - a.at, b.along) / cross(a.along, b.along));
}

struct Measured {
    std::array<StraightLine, 4> sides; ///< unbent
    double loss = 0;
};
Measured measuredBy(const std::array<std::vector<Point>, 4>& places, double bend, Point middle,
                    double reach) {
    Measured out;
    for (std::size_t s = 0; s < 4; ++s) {
        std::vector<Point> unbent;
        for (const Point p : places[s]) {
            const Point d = p - middle;
            unbent.push_back(middle + d * (1 + bend * dot(d, d) / (reach * reach)));
        }
        out.sides[s] = lineThrough(unbent);
        for (const Point p : unbent) { // strays are worth no more than so much
            constexpr double kMostPx = 3;
            out.loss += std::min(kMostPx * kMostPx, out.sides[s].off(p) * out.sides[s].off(p));
        }
    }
    return out;
}

/// The bend that makes all sides straightest: first in coarse steps, then by thirds.
double bendOf(const std::array<std::vector<Point>, 4>& places, Point middle, double reach) {
    constexpr double kMost = 0.12, kStep = 0.01;
    double best = 0, least = INFINITY;
    for (double bend = -kMost; bend <= kMost + 1e-9; bend += kStep)
        if (const double loss = measuredBy(places, bend, middle, reach).loss; loss < least) {
            least = loss;
            best = bend;
        }
    double low = best - kStep, high = best + kStep;
    for (int round = 0; round < 24; ++round) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        const bool isLower =
            measuredBy(places, a, middle, reach).loss < measuredBy(places, b, middle, reach).loss;
        (isLower ? high : low) = isLower ? b : a;
    }
    return (low + high) / 2;
}

Error noRectangle(const std::string& why) {
    return {Code::Degenerate,
            "No mat was found in the photo: " + why +
                " Take it from above with the whole mat on a plain ground, or set the corners by hand."};
}

} // namespace

base::Result<Seen> Seen::by(const std::array<Point, 4>& corners, double bend, int widthPx, int heightPx,
                            double widthMm, double heightMm) {
    Seen out;
    out.m_bend = bend;
    out.m_middle = {widthPx / 2.0, heightPx / 2.0};
    out.m_reach = std::max(1.0, geometry::length(out.m_middle));
    out.m_widthMm = widthMm;
    out.m_heightMm = heightMm;
    out.m_corners = corners;
    if (!areConvex(corners) || !(widthMm > 0) || !(heightMm > 0))
        return Error{Code::InvalidArgument,
                     "The four corners bound no rectangle; put them on the corners of the mat, in turn."};
    std::array<Point, 4> from = corners;
    for (Point& p : from)
        p = out.unbent(p);
    const std::array<Point, 4> to{Point{0, 0}, {widthMm, 0}, {widthMm, heightMm}, {0, heightMm}};
    out.m_toMm = mapBy(from, to);
    out.m_toPx = mapBy(to, from);
    return out;
}

Point Seen::unbent(Point px) const {
    const Point d = px - m_middle;
    return m_middle + d * (1 + m_bend * dot(d, d) / (m_reach * m_reach));
}
Point Seen::bent(Point px) const {
    const Point d = px - m_middle;
    double share = 1;
    for (int i = 0; i < 20; ++i)
        share = 1 / (1 + m_bend * share * share * dot(d, d) / (m_reach * m_reach));
    return m_middle + d * share;
}
Point Seen::toMm(Point px) const {
    return times(m_toMm, unbent(px));
}
Point Seen::toPx(Point mm) const {
    return bent(times(m_toPx, mm));
}

Picture rectified(const Picture& picture, const Seen& seen, double pxPerMm) {
    const int width = std::max(1, static_cast<int>(std::lround(seen.widthMm() * pxPerMm))),
              height = std::max(1, static_cast<int>(std::lround(seen.heightMm() * pxPerMm)));
    Picture out{width, height, {}};
    out.rgb.resize(static_cast<std::size_t>(out.pixels()) * 3);
    cv::Mat x(height, width, CV_32F), y(height, width, CV_32F), to(height, width, CV_8UC3, out.rgb.data());
    for (int row = 0; row < height; ++row)
        for (int column = 0; column < width; ++column) {
            const Point p = seen.toPx({(column + 0.5) / pxPerMm, (row + 0.5) / pxPerMm});
            x.at<float>(row, column) = static_cast<float>(p.x - 0.5);
            y.at<float>(row, column) = static_cast<float>(p.y - 0.5);
        }
    cv::remap(view(picture), to, x, y, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    return out;
}

base::Result<Seen> findRectangle(const Picture& picture, double widthMm, double heightMm) {
    constexpr double kLookedAt = 640;
    if (picture.width < 200 || picture.height < 200)
        return noRectangle("it has fewer than 200 pixels to a side.");
    const cv::Mat full = view(picture);
    const double shrink = std::min(1.0, kLookedAt / std::max(picture.width, picture.height));
    cv::Mat small, lab;
    cv::resize(full, small, {}, shrink, shrink, cv::INTER_AREA);
    small.convertTo(lab, CV_32F, 1.0 / 255);
    cv::cvtColor(lab, lab, cv::COLOR_RGB2Lab);
    auto quad = quadOf(unlikeBorder(lab));
    if (!quad)
        return noRectangle("nothing in it is a large area with four corners.");
    for (Point& p : *quad)
        p = p * (1 / shrink);
    std::array<std::vector<Point>, 4> places;
    constexpr double kReachPx = 7; // of the small picture, for what the hull was off and the lens bends
    for (std::size_t s = 0; s < 4; ++s) {
        places[s] = placesOn(full, (*quad)[s], (*quad)[(s + 1) % 4], kReachPx / shrink);
        if (places[s].size() < 80)
            return noRectangle("one of its edges cannot be seen.");
    }
    const Point middle{picture.width / 2.0, picture.height / 2.0};
    const double reach = geometry::length(middle), bend = bendOf(places, middle, reach);
    const Measured sides = measuredBy(places, bend, middle, reach);
    for (const StraightLine& side : sides.sides)
        if (side.share < 0.5)
            return noRectangle("one of its edges is not straight.");
    // Corners as they are seen: bent again.
    auto plain = Seen::by(*quad, bend, picture.width, picture.height, widthMm, heightMm);
    if (!plain)
        return plain;
    std::array<Point, 4> corners;
    for (std::size_t s = 0; s < 4; ++s) {
        corners[(s + 1) % 4] = plain->bent(crossing(sides.sides[s], sides.sides[(s + 1) % 4]));
        const Point p = corners[(s + 1) % 4];
        if (p.x < 0 || p.y < 0 || p.x > picture.width || p.y > picture.height)
            return noRectangle("one of its corners lies outside.");
    }
    return Seen::by(inOrder(corners, picture.width > picture.height, widthMm, heightMm), bend, picture.width,
                    picture.height, widthMm, heightMm);
}

} // namespace thinline::raster
