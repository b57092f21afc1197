// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/Elements.h"

#include "formats/svg/PathData.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace thinline::formats::svg {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Transform;

std::optional<double> lengthOf(std::string_view text, const Viewport& view, Along along, bool* isReal,
                               double em) {
    Scanner scan(text);
    const auto number = scan.number();
    if (!number)
        return std::nullopt;
    const std::string_view unit = scan.word();
    const double base = along == Along::X   ? view.width
                        : along == Along::Y ? view.height
                                            : std::hypot(view.width, view.height) / std::numbers::sqrt2;
    struct Unit {
        std::string_view name;
        double px;
        bool isReal;
    };
    const Unit units[] = {{"", 1, false},          {"px", 1, false},        {"mm", 96 / 25.4, true},
                          {"cm", 96 / 2.54, true}, {"in", 96, true},        {"pt", 96 / 72.0, true},
                          {"pc", 16, true},        {"Q", 96 / 101.6, true}, {"em", em, false},
                          {"ex", em / 2, false},   {"rem", 16, false},      {"%", base / 100, false}};
    for (const Unit& u : units)
        if (unit == u.name) {
            if (isReal)
                *isReal = u.isReal;
            return *number * u.px;
        }
    return std::nullopt;
}

Transform transformOf(std::string_view text) {
    Transform whole;
    Scanner scan(text);
    while (!scan.atEnd()) {
        const std::string_view kind = scan.word();
        if (kind.empty() || scan.peek() != '(')
            break;
        scan.take();
        std::vector<double> v;
        while (v.size() < 6) {
            const auto number = scan.number();
            if (!number)
                break;
            v.push_back(*number);
        }
        if (scan.peek() != ')')
            break;
        scan.take();
        constexpr double kRad = std::numbers::pi / 180;
        Transform one;
        if (kind == "matrix" && v.size() == 6) {
            one = {v[0], v[1], v[2], v[3], v[4], v[5]};
        } else if (kind == "translate" && (v.size() == 1 || v.size() == 2)) {
            one = Transform::move({v[0], v.size() > 1 ? v[1] : 0});
        } else if (kind == "scale" && (v.size() == 1 || v.size() == 2)) {
            one = Transform::scale(v[0], v.size() > 1 ? v[1] : v[0]);
        } else if (kind == "rotate" && (v.size() == 1 || v.size() == 3)) {
            const double c = std::cos(v[0] * kRad), s = std::sin(v[0] * kRad);
            const Point about = v.size() == 3 ? Point{v[1], v[2]} : Point{};
            one = Transform::move(about * -1).then({c, s, -s, c, 0, 0}).then(Transform::move(about));
        } else if (kind == "skewX" && v.size() == 1) {
            one = {1, 0, std::tan(v[0] * kRad), 1, 0, 0};
        } else if (kind == "skewY" && v.size() == 1) {
            one = {1, std::tan(v[0] * kRad), 0, 1, 0, 0};
        } else {
            break;
        }
        whole = one.then(whole); // the rightmost acts first
    }
    return whole;
}

Transform viewBoxMap(const geometry::Box& box, double width, double height, std::string_view fit) {
    double sx = width / box.width(), sy = height / box.height();
    Scanner scan(fit.empty() ? std::string_view("xMidYMid") : fit);
    std::string_view align = scan.word();
    if (align == "defer")
        align = scan.word();
    double dx = 0, dy = 0;
    if (align != "none") {
        const bool isSlice = scan.word() == "slice";
        const double s = isSlice ? std::max(sx, sy) : std::min(sx, sy);
        const auto share = [&](std::string_view low, std::string_view high) {
            return align.find(low) != std::string_view::npos    ? 0
                   : align.find(high) != std::string_view::npos ? 1
                                                                : 0.5;
        };
        dx = (width - box.width() * s) * share("xMin", "xMax");
        dy = (height - box.height() * s) * share("YMin", "YMax");
        sx = sy = s;
    }
    return Transform::move(box.least * -1).then(Transform::scale(sx, sy)).then(Transform::move({dx, dy}));
}

std::optional<geometry::Box> viewBoxOf(std::string_view text) {
    Scanner scan(text);
    const auto x = scan.number(), y = x ? scan.number() : x, w = y ? scan.number() : y,
               h = w ? scan.number() : w;
    if (!h || !(*w > 0) || !(*h > 0))
        return std::nullopt;
    return geometry::Box{{*x, *y}, {*x + *w, *y + *h}};
}

Contour roundedBox(double x, double y, double w, double h, double rx, double ry) {
    if (rx <= 0 || ry <= 0)
        return geometry::contourThrough({{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}});
    Contour out{{x + rx, y}, {}};
    const auto line = [&](Point p) {
        const Point at = out.segments.empty() ? out.start : out.segments.back().end;
        if (geometry::distance(at, p) > 1e-12 * (w + h))
            out.segments.push_back(Segment::line(p));
    };
    const auto arc = [&](Point p) {
        appendArc(out, out.segments.empty() ? out.start : out.segments.back().end, rx, ry, 0, false, true, p);
    };
    line({x + w - rx, y});
    arc({x + w, y + ry});
    line({x + w, y + h - ry});
    arc({x + w - rx, y + h});
    line({x + rx, y + h});
    arc({x, y + h - ry});
    line({x, y + ry});
    arc({x + rx, y});
    return out;
}

} // namespace thinline::formats::svg
