// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/ShadowPlaces.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>

namespace thinline::raster {
namespace {

/// 4. How much of a shadow every pixel is in; see CastShadow.cpp.
class Edge {
  public:
    Edge(const Picture& picture, const Grey& isDark, double scale) : m_picture(picture), m_scale(scale) {
        cv::Mat coarse(isDark.height, isDark.width, CV_8U);
        std::copy(isDark.values.begin(), isDark.values.end(), coarse.begin<std::uint8_t>());
        cv::resize(coarse, m_dark, {picture.width, picture.height}, 0, 0, cv::INTER_NEAREST);
        m_sums = cv::Mat::zeros(m_dark.size(), CV_32F);
        m_reads = cv::Mat::zeros(m_dark.size(), CV_32F);
    }

    Grey run(const std::vector<Pair>& pairs, const base::Progress& progress) {
        for (const Pair& pair : pairs)
            for (const Place& place : pair.places) {
                m_reach = place.reach; // of all the same
                readAll(place);
            }
        layFar(static_cast<float>(m_reach * m_scale));
        Grey out{m_picture.width, m_picture.height, {}};
        out.values.reserve(static_cast<size_t>(m_picture.pixels()));
        for (int y = 0; y < m_dark.rows && !progress.isCancelled(); ++y)
            for (int x = 0; x < m_dark.cols; ++x) {
                const float share = m_reads.at<float>(y, x) > 0 ? m_sums.at<float>(y, x) : carriedOn(x, y);
                out.values.push_back(static_cast<std::uint8_t>(std::lround(255 * std::clamp(share, 0.0F, 1.0F))));
            }
        return out;
    }

  private:
    /// Far from the edge a pixel is wholly in the shadow or not at all; nearer it is what was read. From sums to shares.
    void layFar(float reach) {
        cv::Mat toLit, toDark;
        cv::distanceTransform(m_dark, toLit, cv::DIST_L2, 3);
        cv::distanceTransform(1 - m_dark, toDark, cv::DIST_L2, 3);
        for (int y = 0; y < m_dark.rows; ++y)
            for (int x = 0; x < m_dark.cols; ++x) {
                float &sum = m_sums.at<float>(y, x), &reads = m_reads.at<float>(y, x);
                if (std::max(toLit.at<float>(y, x), toDark.at<float>(y, x)) > reach) {
                    sum = m_dark.at<std::uint8_t>(y, x);
                    reads = 1;
                } else if (reads > 0) {
                    sum /= reads;
                    reads = 1;
                }
            }
    }

    /// The share where nothing could be read: the edge runs on as nearby. Across it shares rise as the logistic function does,
    /// of which the argument rises evenly.
    float carriedOn(int x, int y) const {
        const double wide = std::max(5.0, m_reach / 3.0) * m_scale; // standard deviation of what counts, px
        const int far = static_cast<int>(2.5 * wide), by = std::max(1, static_cast<int>(std::lround(wide / 5)));
        constexpr float kLow = 0.06F, kHigh = 0.94F; // beyond it tells no argument any more
        cv::Matx33d normal = cv::Matx33d::zeros();
        cv::Vec3d right(0, 0, 0);
        int count = 0;
        for (int dy = -far; dy <= far; dy += by)
            for (int dx = -far; dx <= far; dx += by) {
                if (x + dx < 0 || y + dy < 0 || x + dx >= m_dark.cols || y + dy >= m_dark.rows || m_reads.at<float>(y + dy, x + dx) == 0)
                    continue;
                const float share = m_sums.at<float>(y + dy, x + dx);
                if (share < kLow || share > kHigh)
                    continue;
                const double of = share, sure = of * (1 - of), weight = std::exp(-(dx * dx + dy * dy) / (2 * wide * wide)) * sure * sure;
                const cv::Vec3d place(1, dx, dy);
                normal += weight * (place * place.t());
                right += weight * std::log(of / (1 - of)) * place;
                ++count;
            }
        constexpr int kLeast = 8;
        const auto whole = static_cast<float>(m_dark.at<std::uint8_t>(y, x));
        if (count < kLeast)
            return whole;
        // Hardly any slope is rather none than one to anywhere.
        const double hold = 1e-3 * normal(0, 0) * m_scale * m_scale;
        normal(1, 1) += hold;
        normal(2, 2) += hold;
        cv::Vec3d slope;
        return cv::solve(normal, right, slope, cv::DECOMP_CHOLESKY) ? static_cast<float>(1 / (1 + std::exp(-slope[0]))) : whole;
    }

    /// A place is as wide as a pixel of the picture it was found in.
    void readAll(const Place& place) {
        const int wide = std::max(1, static_cast<int>(std::lround(m_scale)));
        const auto finer = [this](int v) { return static_cast<int>((v + 0.5) * m_scale); };
        for (int side = 0; side < wide; ++side) {
            Place fine = place;
            fine.x = finer(place.x) + (side - wide / 2) * place.dy;
            fine.y = finer(place.y) + (side - wide / 2) * place.dx;
            fine.reach = static_cast<int>(place.reach * m_scale);
            readAcross(fine);
        }
    }

    bool isIn(int x, int y) const { return x >= 1 && y >= 1 && x + 1 < m_picture.width && y + 1 < m_picture.height; }

    /// Reads the way from light to dark across one place of the edge.
    void readAcross(const Place& p) {
        const int on = onFrom(p.reach), x0 = p.x - on * p.dx, y0 = p.y - on * p.dy, x1 = p.x + (on + 1) * p.dx, y1 = p.y + (on + 1) * p.dy;
        if (!isIn(x0, y0) || !isIn(x1, y1) || m_dark.at<std::uint8_t>(y0, x0) == m_dark.at<std::uint8_t>(y1, x1))
            return; // a lookalike's border
        const Vec near = meanAround(m_picture, x0, y0), far = meanAround(m_picture, x1, y1);
        const Vec &lit = p.isFarDark ? near : far, &dark = p.isFarDark ? far : near;
        const Vec step = {lit[0] - dark[0], lit[1] - dark[1], lit[2] - dark[2]};
        const double whole = step[0] * step[0] + step[1] * step[1] + step[2] * step[2];
        if (whole < 1)
            return;
        for (int d = -p.reach; d <= p.reach + 1; ++d) {
            const int x = p.x + d * p.dx, y = p.y + d * p.dy;
            const std::uint8_t* v = m_picture.row(y) + static_cast<size_t>(x) * 3;
            double along = 0;
            for (size_t k = 0; k < 3; ++k)
                along += (lit[k] - v[k]) * step[k];
            m_sums.at<float>(y, x) += static_cast<float>(std::clamp(along / whole, 0.0, 1.0));
            m_reads.at<float>(y, x) += 1;
        }
    }

    const Picture& m_picture;
    double m_scale;
    int m_reach = 0;
    cv::Mat m_dark, m_sums, m_reads;
};

} // namespace

Grey shadowShares(const Picture& picture, const Grey& isDark, const std::vector<Pair>& pairs, double scale,
                  const base::Progress& progress) {
    return Edge(picture, isDark, scale).run(pairs, progress);
}

} // namespace thinline::raster
