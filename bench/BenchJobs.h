// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <functional>
#include <numbers>
#include <string>
#include <vector>

/// What several bench programs measure with.
namespace thinline::bench {

inline double msOf(const std::function<void()>& work) {
    const auto begun = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun).count();
}

/// Of many measurements of one thing.
struct Times {
    std::vector<double> ms;

    double median() {
        std::sort(ms.begin(), ms.end());
        return ms[ms.size() / 2];
    }
    double most() const { return *std::max_element(ms.begin(), ms.end()); }
};

/// Wavy discs side by side, written as programs write them: long numbers, one path each.
inline std::string svgOfDiscs(int discs, int nodes) {
    std::string out =
        "<svg xmlns='http://www.w3.org/2000/svg' width='600mm' height='600mm' viewBox='0 0 6000 6000'>\n";
    const int across = static_cast<int>(std::ceil(std::sqrt(discs)));
    char text[256];
    for (int i = 0; i < discs; ++i) {
        const double cx = 6000.0 / across * (i % across + 0.5), cy = 6000.0 / across * (i / across + 0.5),
                     r = 2400.0 / across;
        std::snprintf(text, sizeof text,
                      "<path id=\"disc%06d\" style=\"fill:#%06x;fill-opacity:1;stroke:none\" d=\"", i,
                      (i * 7919) % 7 * 0x222222 + 0x101010);
        out += text;
        const auto at = [&](double a, double push) {
            const double w = r * (1 + 0.06 * std::sin(9 * a)) * push;
            return std::pair{cx + w * std::cos(a), cy + w * std::sin(a)};
        };
        for (int k = 0; k < nodes; ++k) {
            const double a = 2 * std::numbers::pi * k / nodes, b = 2 * std::numbers::pi * (k + 1) / nodes;
            if (k == 0)
                std::snprintf(text, sizeof text, "M %.12f,%.12f ", at(a, 1).first, at(a, 1).second),
                    out += text;
            const auto c1 = at(a + (b - a) / 3, 1.0001), c2 = at(b - (b - a) / 3, 1.0001), end = at(b, 1);
            std::snprintf(text, sizeof text, "C %.12f,%.12f %.12f,%.12f %.12f,%.12f ", c1.first, c1.second,
                          c2.first, c2.second, end.first, end.second);
            out += text;
        }
        out += "Z\"/>\n";
    }
    return out + "</svg>\n";
}

} // namespace thinline::bench
