// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/LocalColours.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <numbers>

namespace thinline::raster {
namespace {

constexpr double kFine = 32;

/// How far apart places of the lattice lie, px.
int stepOf(int width, int height, size_t colours) {
    constexpr double kMostBytes = 256e6, kBytes = 6;
    constexpr int kLeast = 2, kMost = 16;
    int step = kLeast;
    while (step < kMost && kBytes * width * height * static_cast<double>(colours) / (step * step) > kMostBytes)
        step *= 2;
    return step;
}

std::int16_t fineOf(double v) {
    constexpr int kShift = 32768; // rounds towards the nearest below and above zero alike
    return static_cast<std::int16_t>(static_cast<int>(v * kFine + kShift + 0.5) - kShift);
}

} // namespace

LocalColours::LocalColours(int width, int height, const Shading& shading, std::vector<Vec> colours)
    : m_width(width), m_height(height), m_step(stepOf(width, height, colours.size())),
      m_across((width + m_step - 1) / m_step), m_down((height + m_step - 1) / m_step), m_colours(std::move(colours)), m_fields(m_colours.size()) {
    if (shading.isEven())
        return;
    for (int j = 0; j < m_down; ++j)
        for (int i = 0; i < m_across; ++i)
            m_light.push_back(static_cast<float>(shading.at((i + 0.5) * m_step, (j + 0.5) * m_step)));
    for (size_t k = 0; k < m_colours.size(); ++k)
        layLight(k);
}

void LocalColours::layLight(size_t colour) {
    std::vector<std::int16_t>& values = m_fields[colour].values;
    values.resize(static_cast<size_t>(m_across) * static_cast<size_t>(m_down) * 3);
    for (size_t at = 0; at < m_light.size(); ++at)
        for (size_t c = 0; c < 3; ++c)
            values[at * 3 + c] = fineOf(m_colours[colour][c] * static_cast<double>(m_light[at]));
}

Vec LocalColours::near(size_t colour, int x, int y) const {
    const Field& field = m_fields[colour];
    if (field.values.empty())
        return m_colours[colour];
    const std::int16_t* p = field.values.data() + place(x / m_step, y / m_step);
    return {p[0] / kFine, p[1] / kFine, p[2] / kFine};
}

Vec LocalColours::at(size_t colour, double x, double y) const {
    const Field& field = m_fields[colour];
    if (field.values.empty())
        return m_colours[colour];
    const double u = std::clamp(x / m_step - 0.5, 0.0, m_across - 1.0),
                 v = std::clamp(y / m_step - 0.5, 0.0, m_down - 1.0);
    const int i = std::min(static_cast<int>(u), std::max(0, m_across - 2)),
              j = std::min(static_cast<int>(v), std::max(0, m_down - 2));
    const int i1 = std::min(i + 1, m_across - 1), j1 = std::min(j + 1, m_down - 1);
    const double s = u - i, t = v - j;
    Vec out{};
    for (size_t c = 0; c < 3; ++c)
        out[c] = ((1 - t) * ((1 - s) * field.values[place(i, j) + c] + s * field.values[place(i1, j) + c]) +
                  t * ((1 - s) * field.values[place(i, j1) + c] + s * field.values[place(i1, j1) + c])) /
                 kFine;
    return out;
}

bool LocalColours::learn(const Picture& picture, const LabelMap& cores) {
    bool isAny = false;
    const std::vector<Places> boxes = boxesOf(cores);
    for (size_t k = 0; k < m_colours.size(); ++k) {
        m_fields[k].values.clear();
        if (!m_light.empty())
            layLight(k);
        if (boxes[k].width > 0 && learnOne(k, boxes[k], picture, cores))
            isAny = true;
    }
    return isAny;
}

std::vector<LocalColours::Places> LocalColours::boxesOf(const LabelMap& cores) const {
    std::vector<std::array<int, 4>> ends(m_colours.size(), {m_width, m_height, -1, -1});
    for (int y = 0; y < m_height; ++y) {
        const std::int32_t* row = cores.labels.data() + static_cast<size_t>(y) * static_cast<size_t>(m_width);
        for (int x = 0; x < m_width; ++x)
            if (row[x] >= 0) {
                auto& e = ends[static_cast<size_t>(row[x])];
                e = {std::min(e[0], x), std::min(e[1], y), std::max(e[2], x), std::max(e[3], y)};
            }
    }
    // In places of the lattice, with room around.
    constexpr int kAround = 24;
    std::vector<Places> out;
    for (const auto& e : ends) {
        if (e[2] < 0) {
            out.emplace_back();
            continue;
        }
        const int x0 = std::max(0, (e[0] - kAround) / m_step), y0 = std::max(0, (e[1] - kAround) / m_step),
                  x1 = std::min(m_across, (e[2] + kAround) / m_step + 1),
                  y1 = std::min(m_down, (e[3] + kAround) / m_step + 1);
        out.push_back({x0, y0, x1 - x0, y1 - y0});
    }
    return out;
}

bool LocalColours::learnOne(size_t k, const Places& box, const Picture& picture, const LabelMap& cores) {
    const cv::Size whole(box.width, box.height);
    const auto label = static_cast<std::int32_t>(k);
    // What the pixels deep in a core show besides, added up where they lie, and how many they are.
    cv::Mat sums = cv::Mat::zeros(whole, CV_32FC4);
    double all = 0;
    const int yEnd = std::min(m_height - 1, (box.y + box.height) * m_step),
              xEnd = std::min(m_width - 1, (box.x + box.width) * m_step);
    for (int y = std::max(1, box.y * m_step); y < yEnd; ++y) {
        const std::int32_t* row = cores.labels.data() + static_cast<size_t>(y) * static_cast<size_t>(m_width);
        const int j = y / m_step;
        cv::Vec4f* into = sums.ptr<cv::Vec4f>(j - box.y);
        for (int x = std::max(1, box.x * m_step); x < xEnd; ++x) {
            if (row[x] != label || row[x - 1] != label || row[x + 1] != label || row[x - m_width] != label ||
                row[x + m_width] != label)
                continue;
            const int i = x / m_step;
            const double light =
                m_light.empty()
                    ? 1
                    : m_light[static_cast<size_t>(j) * static_cast<size_t>(m_across) + static_cast<size_t>(i)];
            const Vec seen = yccOf(pixel(picture, x, y));
            cv::Vec4f& sum = into[i - box.x];
            for (int c = 0; c < 3; ++c) {
                const double off = seen[static_cast<size_t>(c)] - light * m_colours[k][static_cast<size_t>(c)];
                sum[c] += static_cast<float>(off);
                all += std::abs(off);
            }
            sum[3] += 1;
        }
    }
    const double count = cv::sum(sums)[3];
    constexpr double kNothing = 0.5; // levels: what rounding leaves
    if (count == 0 || all < kNothing * count)
        return false;
    // Wide first, then what that left, then nearer still.
    cv::Mat besides = cv::Mat::zeros(whole, CV_32FC3);
    for (const double sigma : {48.0, 14.0, 5.0}) {
        const int shrink = std::max(1, static_cast<int>(sigma / 5 / m_step * 2));
        cv::Mat coarse, fine;
        const cv::Size size((box.width + shrink - 1) / shrink, (box.height + shrink - 1) / shrink);
        cv::resize(sums, coarse, size, 0, 0, cv::INTER_AREA);
        const double blur = sigma / m_step * size.width / box.width;
        cv::GaussianBlur(coarse, coarse, {}, blur, blur, cv::BORDER_CONSTANT);
        // In weights of one place of the lattice: twelve pixels' worth of not knowing.
        const double unknown = 12 / (2 * std::numbers::pi * sigma * sigma) * m_step * m_step;
        cv::Mat values(coarse.size(), CV_32FC3);
        for (int j = 0; j < coarse.rows; ++j)
            for (int i = 0; i < coarse.cols; ++i) {
                const cv::Vec4f& s = coarse.at<cv::Vec4f>(j, i);
                const float gain = 1 / (s[3] + static_cast<float>(unknown));
                values.at<cv::Vec3f>(j, i) = {s[0] * gain, s[1] * gain, s[2] * gain};
            }
        cv::resize(values, fine, whole, 0, 0, cv::INTER_LINEAR);
        besides += fine;
        for (int j = 0; j < box.height; ++j) {
            cv::Vec4f* s = sums.ptr<cv::Vec4f>(j);
            const cv::Vec3f* f = fine.ptr<cv::Vec3f>(j);
            for (int i = 0; i < box.width; ++i)
                if (s[i][3] > 0)
                    for (int c = 0; c < 3; ++c)
                        s[i][c] -= s[i][3] * f[i][c];
        }
    }
    std::vector<std::int16_t>& values = m_fields[k].values;
    if (values.empty()) {
        values.resize(static_cast<size_t>(m_across) * static_cast<size_t>(m_down) * 3);
        for (size_t at = 0; at < values.size(); ++at)
            values[at] = fineOf(m_colours[k][at % 3]);
    }
    constexpr double kMost = 500;
    for (int j = 0; j < box.height; ++j)
        for (int i = 0; i < box.width; ++i)
            for (int c = 0; c < 3; ++c) {
                std::int16_t& v = values[place(box.x + i, box.y + j) + static_cast<size_t>(c)];
                v = fineOf(std::clamp(v / kFine + static_cast<double>(besides.at<cv::Vec3f>(j, i)[c]), -kMost, kMost));
            }
    return true;
}

} // namespace thinline::raster
