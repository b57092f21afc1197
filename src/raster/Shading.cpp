// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Light over a painted picture.
//
// A sheet on a table is lighter at one end. Where it is a drawing on bare paper the paper tells how much (raster/Light.h);
// a painted sheet may show no paper at all. But light is smooth and takes hold of every colour by the same factor, while
// paint ends at edges. So no colour is asked for: between two pixels that lie near one another the logarithm of the
// brightness changes as the light does, or an edge lies between them, and edges are few. Light is then a regression on
// differences in which edges are outliers.
//
// The logarithm of the light is a sum of cubic B-splines, ten spans along the longer side. Pairs one and five pixels apart
// of a copy of 160 px give the equations, along both axes; the far pairs see a fall of light that the grain of the near ones
// hides. Tukey's weights are begun six times as wide as the grain asks for and drawn in over nine rounds, so that a steep
// light is not taken for edges at once. Dark pixels count less: a level in them is a large step of the logarithm. Second
// differences of the coefficients are held near zero where nothing is known.
//
// A program's own gradients look like light and are none: paper would bend to the objects. Where a program drew, areas are
// even to the level, and no light is looked for.
#include "raster/Shading.h"

#include "raster/Turn.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::raster {
namespace {

/// Whether areas are even to the level, as only a program draws them.
bool isMachineDrawn(const Picture& picture) {
    constexpr int kStretch = 40, kEven = 12;
    std::int64_t even = 0, exact = 0;
    for (int y = 0; y < picture.height; y += 3)
        for (int x = 0; x + kStretch <= picture.width; x += kStretch) {
            const std::uint8_t* p = picture.row(y) + static_cast<size_t>(x) * 3;
            int low = 255, high = 0;
            for (int i = 0; i < kStretch; ++i) {
                low = std::min<int>(low, p[i * 3 + 1]);
                high = std::max<int>(high, p[i * 3 + 1]);
            }
            constexpr int kBright = 60; // in the dark a level is much light
            even += high - low < kEven && high > kBright;
            exact += high == low && high > kBright;
        }
    return exact * 4 > even;
}

/// The four cubic B-splines that are not zero at a place, and the number of the first.
struct Basis {
    int first = 0;
    std::array<double, 4> weight{};
};
Basis basisAt(double u, int spans) {
    const int i = std::clamp(static_cast<int>(u), 0, spans - 1);
    const double t = u - i, s = 1 - t;
    return {i,
            {s * s * s / 6, (3 * t * t * t - 6 * t * t + 4) / 6, (3 * s * s * s - 6 * s * s + 4) / 6, t * t * t / 6}};
}

/// The logarithm of the light as coefficients of splines, fitted to differences of a small picture's logarithms.
class Regression {
  public:
    explicit Regression(const cv::Mat& bright) {
        constexpr int kSpans = 10;
        const int longer = std::max(bright.cols, bright.rows);
        m_spansX = std::max(2, static_cast<int>(std::lround(static_cast<double>(kSpans) * bright.cols / longer)));
        m_spansY = std::max(2, static_cast<int>(std::lround(static_cast<double>(kSpans) * bright.rows / longer)));
        m_x = basesOf(bright.cols, m_spansX);
        m_y = basesOf(bright.rows, m_spansY);
        cv::log(cv::max(bright, 1.0), m_log);
        m_weight = cv::Mat(bright.size(), CV_64F);
        for (int y = 0; y < bright.rows; ++y)
            for (int x = 0; x < bright.cols; ++x) {
                const double w = std::clamp(bright.at<double>(y, x) / 120, 0.1, 1.0);
                m_weight.at<double>(y, x) = w * w;
            }
        m_coefficients = cv::Mat::zeros(across() * (m_spansY + 3), 1, CV_64F);
    }

    /// The standard deviation of the logarithms' grain: most neighbours have no edge between them.
    double grain() const {
        std::vector<double> steps;
        for (int y = 0; y < m_log.rows; ++y)
            for (int x = 0; x + 1 < m_log.cols; ++x)
                steps.push_back(std::abs(m_log.at<double>(y, x + 1) - m_log.at<double>(y, x)));
        const auto middle = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
        std::nth_element(steps.begin(), middle, steps.end());
        constexpr double kOfMedian = 1.48;
        return kOfMedian * *middle;
    }
    void scaleTo(double scale) { m_scale = scale; }

    void run() {
        constexpr int kRounds = 9;
        constexpr double kWide = 6;
        for (int round = 0; round < kRounds; ++round)
            solve(m_scale * std::pow(kWide, 1 - static_cast<double>(round) / (kRounds - 1)));
    }

    double at(double u, double v) const { // 0 to 1 across and down
        const Basis x = basisAt(u * m_spansX, m_spansX), y = basisAt(v * m_spansY, m_spansY);
        double sum = 0;
        for (int j = 0; j < 4; ++j)
            for (int i = 0; i < 4; ++i)
                sum += y.weight[static_cast<size_t>(j)] * x.weight[static_cast<size_t>(i)] *
                       m_coefficients.at<double>((y.first + j) * across() + x.first + i);
        return sum;
    }

  private:
    int across() const { return m_spansX + 3; }
    static std::vector<Basis> basesOf(int places, int spans) {
        std::vector<Basis> out;
        for (int i = 0; i < places; ++i)
            out.push_back(basisAt((i + 0.5) * spans / places, spans));
        return out;
    }
    /// The coefficients along one axis that a difference between two places depends on.
    struct Step {
        int first = 0, count = 0;
        std::array<double, 9> share{}; // five pixels reach over two spans at most
    };
    static std::vector<Step> stepsOf(const std::vector<Basis>& bases, int far) {
        std::vector<Step> out;
        for (size_t i = 0; i + static_cast<size_t>(far) < bases.size(); ++i) {
            const Basis &from = bases[i], &to = bases[i + static_cast<size_t>(far)];
            Step step{from.first, to.first + 4 - from.first, {}};
            for (size_t k = 0; k < 4; ++k) {
                step.share[k] -= from.weight[k];
                step.share[static_cast<size_t>(to.first - from.first) + k] += to.weight[k];
            }
            out.push_back(step);
        }
        return out;
    }

    /// The light's logarithm at every pixel.
    cv::Mat fitted() const {
        cv::Mat rows(m_spansY + 3, m_log.cols, CV_64F), out(m_log.size(), CV_64F);
        for (int j = 0; j < rows.rows; ++j)
            for (int x = 0; x < rows.cols; ++x) {
                const Basis& b = m_x[static_cast<size_t>(x)];
                double sum = 0;
                for (int i = 0; i < 4; ++i)
                    sum += b.weight[static_cast<size_t>(i)] * m_coefficients.at<double>(j * across() + b.first + i);
                rows.at<double>(j, x) = sum;
            }
        for (int y = 0; y < out.rows; ++y) {
            const Basis& b = m_y[static_cast<size_t>(y)];
            for (int x = 0; x < out.cols; ++x) {
                double sum = 0;
                for (int j = 0; j < 4; ++j)
                    sum += b.weight[static_cast<size_t>(j)] * rows.at<double>(b.first + j, x);
                out.at<double>(y, x) = sum;
            }
        }
        return out;
    }

    void solve(double scale) {
        const int n = m_coefficients.rows;
        cv::Mat normal = cv::Mat::zeros(n, n, CV_64F), right = cv::Mat::zeros(n, 1, CV_64F);
        const cv::Mat light = fitted();
        for (const int far : {1, 5})
            for (const bool isAcross : {true, false})
                addPairs(far, isAcross, scale, light, normal, right);
        hold(normal);
        cv::solve(normal, right, m_coefficients, cv::DECOMP_CHOLESKY);
    }

    /// Adds the equations of all pairs along one axis. What a pair says is a product of what it says along the axis and of
    /// the bases across it, which all pairs of one line share: so they are added up along the line first.
    void addPairs(int far, bool isAcross, double scale, const cv::Mat& light, cv::Mat& normal, cv::Mat& right) const {
        const std::vector<Step> steps = stepsOf(isAcross ? m_x : m_y, far);
        const std::vector<Basis>& lines = isAcross ? m_y : m_x;
        const int along = isAcross ? m_spansX + 3 : m_spansY + 3, dx = isAcross ? far : 0, dy = isAcross ? 0 : far;
        std::vector<double> sums(static_cast<size_t>(along * along)), ends(static_cast<size_t>(along));
        for (size_t line = 0; line < lines.size(); ++line) {
            std::fill(sums.begin(), sums.end(), 0);
            std::fill(ends.begin(), ends.end(), 0);
            for (size_t at = 0; at < steps.size(); ++at) {
                const int x = static_cast<int>(isAcross ? at : line), y = static_cast<int>(isAcross ? line : at);
                const double step = m_log.at<double>(y + dy, x + dx) - m_log.at<double>(y, x),
                             off = (step - light.at<double>(y + dy, x + dx) + light.at<double>(y, x)) / scale;
                if (std::abs(off) >= 1)
                    continue;
                const double tukey = (1 - off * off) * (1 - off * off),
                             w = tukey * std::min(m_weight.at<double>(y, x), m_weight.at<double>(y + dy, x + dx));
                const Step& s = steps[at];
                for (int i = 0; i < s.count; ++i) {
                    const double share = w * s.share[static_cast<size_t>(i)];
                    ends[static_cast<size_t>(s.first + i)] += share * step;
                    for (int k = 0; k < s.count; ++k)
                        sums[static_cast<size_t>((s.first + i) * along + s.first + k)] +=
                            share * s.share[static_cast<size_t>(k)];
                }
            }
            const Basis& b = lines[line];
            const auto place = [&](int onLine, int acrossLine) {
                return isAcross ? acrossLine * across() + onLine : onLine * across() + acrossLine;
            };
            for (int j = 0; j < 4; ++j)
                for (int i = 0; i < along; ++i) {
                    const int row = place(i, b.first + j);
                    right.at<double>(row) += b.weight[static_cast<size_t>(j)] * ends[static_cast<size_t>(i)];
                    double* into = normal.ptr<double>(row);
                    for (int l = 0; l < 4; ++l) {
                        const double weight = b.weight[static_cast<size_t>(j)] * b.weight[static_cast<size_t>(l)];
                        for (int k = std::max(0, i - 8); k < std::min(along, i + 9); ++k)
                            into[place(k, b.first + l)] += weight * sums[static_cast<size_t>(i * along + k)];
                    }
                }
        }
    }

    /// Second differences near zero, and the whole at some height.
    void hold(cv::Mat& normal) const {
        constexpr double kHold = 1e-3;
        const double mean = cv::trace(normal)[0] / normal.rows, weight = std::max(1e-9, kHold * mean);
        const int rows = m_spansY + 3;
        const auto bend = [&](int a, int b, int c) {
            const std::array<std::pair<int, double>, 3> terms{{{a, 1}, {b, -2}, {c, 1}}};
            for (const auto& [i, u] : terms)
                for (const auto& [j, v] : terms)
                    normal.at<double>(i, j) += weight * u * v;
        };
        for (int y = 0; y < rows; ++y)
            for (int x = 0; x < across(); ++x) {
                const int here = y * across() + x;
                if (x + 2 < across())
                    bend(here, here + 1, here + 2);
                if (y + 2 < rows)
                    bend(here, here + across(), here + 2 * across());
                normal.at<double>(here, here) += 1e-6 * weight + 1e-12;
            }
    }

    double m_scale = 0.012;
    int m_spansX = 2, m_spansY = 2;
    std::vector<Basis> m_x, m_y;
    cv::Mat m_log, m_weight, m_coefficients;
};

} // namespace

double Shading::at(double x, double y) const {
    if (isEven())
        return 1;
    const double u = std::clamp(x / m_step, 0.0, m_across - 1.001), v = std::clamp(y / m_step, 0.0, m_down - 1.001);
    const int i = static_cast<int>(u), j = static_cast<int>(v);
    const double s = u - i, t = v - j;
    const float* p = m_factors.data() + static_cast<size_t>(j) * static_cast<size_t>(m_across) + static_cast<size_t>(i);
    return (1 - t) * ((1 - s) * p[0] + s * p[1]) + t * ((1 - s) * p[m_across] + s * p[m_across + 1]);
}

double Shading::darkest() const {
    return isEven() ? 1 : *std::min_element(m_factors.begin(), m_factors.end());
}

Shading shadingOf(const Picture& picture) {
    constexpr int kLeastSide = 48, kLookedAt = 160;
    if (std::min(picture.width, picture.height) < kLeastSide || isMachineDrawn(picture))
        return {};
    const int longer = std::max(picture.width, picture.height);
    const double shrink = std::max(1.0, static_cast<double>(longer) / kLookedAt);
    const Picture small = shrink > 1 ? reduced(picture, 1 / shrink) : picture;
    cv::Mat bright(small.height, small.width, CV_64F);
    for (int y = 0; y < small.height; ++y)
        for (int x = 0; x < small.width; ++x) {
            const std::uint8_t* p = small.row(y) + static_cast<size_t>(x) * 3;
            bright.at<double>(y, x) = 0.299 * p[0] + 0.587 * p[1] + 0.114 * p[2];
        }
    constexpr double kSteady = 0.012, kOfGrain = 4.7;
    Regression regression(bright);
    regression.scaleTo(std::max(kSteady, kOfGrain * regression.grain()));
    regression.run();
    constexpr double kStep = 8;
    const int across = static_cast<int>(std::ceil(picture.width / kStep)) + 1,
              down = static_cast<int>(std::ceil(picture.height / kStep)) + 1;
    std::vector<double> logs;
    for (int y = 0; y < down; ++y)
        for (int x = 0; x < across; ++x)
            logs.push_back(regression.at(std::min(1.0, x * kStep / picture.width),
                                         std::min(1.0, y * kStep / picture.height)));
    const auto [low, high] = std::minmax_element(logs.begin(), logs.end());
    constexpr double kEven = 1.04;
    if (*high - *low < std::log(kEven))
        return {};
    std::vector<float> factors;
    for (const double v : logs)
        factors.push_back(static_cast<float>(std::exp(v - *high)));
    return {across, down, kStep, std::move(factors)};
}

Picture unshaded(const Picture& picture, const Shading& shading) {
    if (shading.isEven())
        return picture;
    Picture out = picture;
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const double gain = 1 / shading.at(x + 0.5, y + 0.5);
            std::uint8_t* p = out.rgb.data() + (static_cast<size_t>(y) * static_cast<size_t>(picture.width) +
                                                static_cast<size_t>(x)) * 3;
            for (size_t k = 0; k < 3; ++k)
                p[k] = static_cast<std::uint8_t>(std::min(255.0, p[k] * gain + 0.5));
        }
    return out;
}

} // namespace thinline::raster
