// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Colour.h"

#include <array>
#include <cmath>
#include <numbers>

namespace thinline::raster {
namespace {

constexpr double kTurn = 2 * std::numbers::pi;
constexpr double radians(double degrees) {
    return degrees * std::numbers::pi / 180;
}

double labCurve(double t) {
    constexpr double kKnee = 216.0 / 24389, kSlope = 24389.0 / 27;
    return t > kKnee ? std::cbrt(t) : (kSlope * t + 16) / 116;
}

/// 0 to a full turn; 0 for grey.
double hueOf(double a, double b) {
    if (a == 0 && b == 0)
        return 0;
    const double hue = std::atan2(b, a);
    return hue < 0 ? hue + kTurn : hue;
}

} // namespace

double linearOf(double coded) {
    return coded <= 0.04045 ? coded / 12.92 : std::pow((coded + 0.055) / 1.055, 2.4);
}

double codedOf(double linear) {
    return linear <= 0.0031308 ? linear * 12.92 : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

Lab labOf(Rgb colour) {
    static const std::array<double, 256> kLinear = [] {
        std::array<double, 256> out{};
        for (size_t v = 0; v < out.size(); ++v)
            out[v] = linearOf(static_cast<double>(v) / 255);
        return out;
    }();
    const double r = kLinear[colour[0]], g = kLinear[colour[1]], b = kLinear[colour[2]];
    const double x = labCurve((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047),
                 y = labCurve(0.2126729 * r + 0.7151522 * g + 0.0721750 * b),
                 z = labCurve((0.0193339 * r + 0.1191920 * g + 0.9503041 * b) / 1.08883);
    return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}

double ciede2000(const Lab& p, const Lab& q) {
    const double chroma = (std::hypot(p.a, p.b) + std::hypot(q.a, q.b)) / 2;
    const double seventh = std::pow(chroma, 7), k25to7 = std::pow(25.0, 7);
    const double g = 0.5 * (1 - std::sqrt(seventh / (seventh + k25to7)));
    const double a1 = (1 + g) * p.a, a2 = (1 + g) * q.a;
    const double c1 = std::hypot(a1, p.b), c2 = std::hypot(a2, q.b);
    const double h1 = hueOf(a1, p.b), h2 = hueOf(a2, q.b);
    double dh = 0;
    if (c1 * c2 != 0) {
        dh = h2 - h1;
        if (dh > std::numbers::pi)
            dh -= kTurn;
        else if (dh < -std::numbers::pi)
            dh += kTurn;
    }
    const double dL = q.l - p.l, dC = c2 - c1, dH = 2 * std::sqrt(c1 * c2) * std::sin(dh / 2);
    const double l = (p.l + q.l) / 2, c = (c1 + c2) / 2;
    double h = h1 + h2;
    if (c1 * c2 != 0) {
        if (std::abs(h1 - h2) <= std::numbers::pi)
            h /= 2;
        else
            h = (h + (h < kTurn ? kTurn : -kTurn)) / 2;
    }
    const double t = 1 - 0.17 * std::cos(h - radians(30)) + 0.24 * std::cos(2 * h) +
                     0.32 * std::cos(3 * h + radians(6)) - 0.20 * std::cos(4 * h - radians(63));
    const double around275 = (h * 180 / std::numbers::pi - 275) / 25;
    const double turn = radians(30) * std::exp(-around275 * around275);
    const double c7 = std::pow(c, 7), rc = 2 * std::sqrt(c7 / (c7 + k25to7));
    const double l50 = (l - 50) * (l - 50);
    const double sl = 1 + 0.015 * l50 / std::sqrt(20 + l50), sc = 1 + 0.045 * c, sh = 1 + 0.015 * c * t;
    const double rt = -std::sin(2 * turn) * rc;
    const double x = dL / sl, y = dC / sc, z = dH / sh;
    return std::sqrt(x * x + y * y + z * z + rt * y * z);
}

std::string colourWords(Rgb colour) {
    const Lab lab = labOf(colour);
    const double chroma = std::hypot(lab.a, lab.b);
    double hue = std::atan2(lab.b, lab.a) * 180 / std::numbers::pi;
    if (hue < 0)
        hue += 360;
    constexpr double kGrey = 9, kCream = 22;
    if (lab.l > 85 && chroma > 4 && chroma < kCream && hue > 60 && hue < 115)
        return "cream";
    if (chroma < kGrey)
        return lab.l < 16   ? "black"
               : lab.l < 40 ? "dark grey"
               : lab.l < 70 ? "grey"
               : lab.l < 93 ? "light grey"
                            : "white";
    struct Region {
        double untilHue, darkBelow, lightAbove;
        const char *dark, *middle, *light;
    };
    static constexpr Region kRegions[] = {
        {20, 40, 72, "wine red", "rose", "pink"},         {52, 35, 60, "dark red", "red", "salmon"},
        {84, 45, 80, "brown", "orange", "warm yellow"},   {97, 45, 72, "olive", "ochre", "warm yellow"},
        {114, 45, 72, "olive", "olive", "yellow"},        {165, 40, 72, "dark green", "green", "light green"},
        {215, 40, 72, "dark teal", "teal", "light teal"}, {312, 25, 65, "dark blue", "blue", "light blue"},
        {338, 25, 65, "dark violet", "violet", "lilac"},  {361, 40, 72, "wine red", "magenta", "pink"}};
    constexpr double kPaleBrown = 42; // an orange of less chroma
    for (const Region& region : kRegions) {
        if (hue >= region.untilHue)
            continue;
        if (hue >= 52 && hue < 84 && chroma < kPaleBrown)
            return lab.l < 35 ? "dark brown" : lab.l < 65 ? "brown" : "sand";
        return lab.l < region.darkBelow    ? region.dark
               : lab.l > region.lightAbove ? region.light
                                           : region.middle;
    }
    return "colour";
}

} // namespace thinline::raster
