// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Finding printed targets.
//
// Two looks. The first is quick and lets much pass: the picture is made smaller step by step, four steps to an octave, and at each
// one the mean of a target over all turns (a ring, and in it a grey blot that darkens towards the middle) is held against every
// place by normalised correlation. Light and contrast fall out of that by themselves. What stands out is a candidate.
//
// The second look takes a candidate for a real target and fits one. What is seen of it is
//
//     (paper + its slope across and down - ring - cross) in light, and the same in shadow beyond an edge,
//
// blurred. Where it lies and how it is drawn out (an affine map: six numbers), how much it is blurred, and where a shadow's edge
// runs are changed step by step (Levenberg-Marquardt); how bright paper, ring and cross are follows for each by linear least
// squares (variable projection: Golub and Pereyra 1973), so that light never has to be guessed. Ring and cross are let have
// darknesses of their own: on a true target they come out alike, on a letter or a bolt head they do not. That, the likeness left
// beside the noise, and how round it is decide whether it is one.
//
// The middle comes from all edges at once. Thresholding and taking the middle of the dark was tried: a shadow's edge across
// the ring moves it by a pixel. So was the middle of an ellipse fitted to the ring's edge; at 12 px across with a blur of 1.5 px
// the ring is no ring any more, and the fit leaps.
#include "raster/Targets.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::raster {
namespace {

using geometry::Point;

constexpr double kReach = 1.3; // in radii: so much of what lies around is looked at
constexpr double kInner = kTarget.innerMm / kTarget.outerMm, kArm = kTarget.armMm / kTarget.outerMm,
                 kHalfWide = kTarget.wideMm / kTarget.outerMm / 2;

/// A sharp edge, blurred: the normal distribution, from a table, for it is asked millions of times.
double step(double z) {
    constexpr double kReachZ = 4.5, kPerZ = 128;
    static const std::vector<double> table = [] {
        std::vector<double> out;
        for (int i = 0; i <= static_cast<int>(2 * kReachZ * kPerZ) + 1; ++i)
            out.push_back(0.5 * std::erfc(-(i / kPerZ - kReachZ) * std::numbers::sqrt2 / 2));
        return out;
    }();
    if (!(z > -kReachZ))
        return 0;
    if (z >= kReachZ)
        return 1;
    const double at = (z + kReachZ) * kPerZ;
    const auto i = static_cast<std::size_t>(at);
    return table[i] + (table[i + 1] - table[i]) * (at - static_cast<double>(i));
}

/// How much of a place, in radii, the ring and the cross cover when they are blurred by so much.
double ringAt(double rho, double blur) {
    return step((rho - kInner) / blur) - step((rho - 1) / blur);
}
double crossAt(Point u, double blur) {
    const auto within = [&](double v, double half) {
        return step((v + half) / blur) - step((v - half) / blur);
    };
    const double across = within(u.x, kArm) * within(u.y, kHalfWide),
                 down = within(u.y, kArm) * within(u.x, kHalfWide);
    return across + down - across * down;
}

cv::Mat greyOf(const Picture& picture) {
    cv::Mat out(picture.height, picture.width, CV_32F);
    for (int y = 0; y < picture.height; ++y) {
        const std::uint8_t* row = picture.row(y);
        for (int x = 0; x < picture.width; ++x)
            out.at<float>(y, x) = 0.25f * row[3 * x] + 0.5f * row[3 * x + 1] + 0.25f * row[3 * x + 2];
    }
    return out;
}

/// The noise of a picture's pixels: what is left of each beside its neighbours, the middle of all.
double noiseOf(const cv::Mat& grey) {
    std::vector<float> left;
    const int stride = std::max(1, static_cast<int>(std::sqrt(static_cast<double>(grey.total()) / 40'000.0)));
    for (int y = 1; y + 1 < grey.rows; y += stride)
        for (int x = 1; x + 1 < grey.cols; x += stride) {
            const float cross = grey.at<float>(y - 1, x) + grey.at<float>(y + 1, x) +
                                grey.at<float>(y, x - 1) + grey.at<float>(y, x + 1),
                        corners = grey.at<float>(y - 1, x - 1) + grey.at<float>(y - 1, x + 1) +
                                  grey.at<float>(y + 1, x - 1) + grey.at<float>(y + 1, x + 1);
            left.push_back(std::abs(4 * grey.at<float>(y, x) - 2 * cross + corners));
        }
    if (left.empty())
        return 1;
    std::nth_element(left.begin(), left.begin() + static_cast<std::ptrdiff_t>(left.size() / 2), left.end());
    constexpr double kOfMedian = 1.4826 / 6; // of a normal distribution, through a filter of norm 6
    return std::max(0.5, kOfMedian * static_cast<double>(left[left.size() / 2]));
}

// ---- the first look

struct Candidate {
    Point at;
    double radiusPx = 0, score = 0;
};

cv::Mat meanTarget(double radiusPx) {
    const int reach = static_cast<int>(std::ceil(kReach * radiusPx));
    cv::Mat out(2 * reach + 1, 2 * reach + 1, CV_32F);
    const double blur = 1.0 / radiusPx;
    constexpr int kTurns = 16;
    for (int y = -reach; y <= reach; ++y)
        for (int x = -reach; x <= reach; ++x) {
            const double rho = std::hypot(x, y) / radiusPx;
            double dark = ringAt(rho, blur);
            for (int i = 0; i < kTurns; ++i) {
                const double turn = i * std::numbers::pi / 2 / kTurns;
                dark += crossAt({rho * std::cos(turn), rho * std::sin(turn)}, blur) / kTurns;
            }
            out.at<float>(y + reach, x + reach) = static_cast<float>(-dark);
        }
    return out;
}

/// Adds the places where a picture made smaller looks like the mean target.
void addCandidates(const cv::Mat& small, double scale, double radiusPx, std::vector<Candidate>& out) {
    constexpr double kAlike = 0.5;
    const cv::Mat mean = meanTarget(radiusPx);
    if (small.rows < mean.rows || small.cols < mean.cols)
        return;
    // A whole target may lie so near the picture's edge that what lies around it is cut off.
    const int beyond = static_cast<int>(std::ceil((kReach - 1) * radiusPx));
    cv::Mat around, score, highest;
    cv::copyMakeBorder(small, around, beyond, beyond, beyond, beyond, cv::BORDER_REPLICATE);
    cv::matchTemplate(around, mean, score, cv::TM_CCOEFF_NORMED);
    cv::dilate(score, highest, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
    const double reach = mean.rows / 2 - beyond;
    for (int y = 0; y < score.rows; ++y)
        for (int x = 0; x < score.cols; ++x) {
            const double here = static_cast<double>(score.at<float>(y, x));
            if (here > kAlike && here <= 1.01 && score.at<float>(y, x) >= highest.at<float>(y, x))
                out.push_back(
                    {{(x + reach + 0.5) / scale, (y + reach + 0.5) / scale}, radiusPx / scale, here});
        }
}

std::vector<Candidate> candidatesIn(const cv::Mat& grey, const base::Progress& progress) {
    constexpr double kRadiusPx = 6.5, kStep = 1.1892; // the fourth root of two
    constexpr std::size_t kMost = 60;
    std::vector<Candidate> all;
    const double largest = std::min(grey.rows, grey.cols) / 10.0;
    for (double radius = kLeastAcrossPx / 2; radius < largest * kStep; radius *= kStep) {
        if (progress.isCancelled())
            return {};
        const double scale = std::min(1.0, kRadiusPx / radius);
        cv::Mat small;
        if (scale < 1)
            cv::resize(grey, small, {}, scale, scale, cv::INTER_AREA);
        else
            small = grey;
        addCandidates(small, static_cast<double>(small.cols) / grey.cols, std::min(radius, kRadiusPx), all);
    }
    std::sort(all.begin(), all.end(),
              [](const Candidate& a, const Candidate& b) { return a.score > b.score; });
    std::vector<Candidate> out;
    for (const Candidate& one : all) {
        const bool isKnown = std::any_of(out.begin(), out.end(), [&](const Candidate& known) {
            return geometry::distance(known.at, one.at) < 0.6 * std::max(known.radiusPx, one.radiusPx);
        });
        if (!isKnown)
            out.push_back(one);
        if (out.size() == kMost)
            break;
    }
    return out;
}

// ---- the second look

/// Where a target lies and how it is seen. The first seven are always fitted, the others where there is a shadow.
struct Pose {
    static constexpr int kPlain = 7, kAll = 11;
    /// x, y; the map's a, b, c, d in px; blur in px; of a shadow its angle, its distance and softness in radii, and the share
    /// of the light it takes.
    std::array<double, kAll> v{};
    bool hasShadow = false;

    Point middle() const { return {v[0], v[1]}; }
    double radius() const { return std::sqrt(std::abs(v[2] * v[5] - v[3] * v[4])); }
    int count() const { return hasShadow ? kAll : kPlain; }
};

class Fit {
  public:
    /// The pixels around a candidate, at most so many.
    Fit(const cv::Mat& grey, const Candidate& about, double noise) : m_noise(noise) {
        constexpr double kMostPixels = 1500;
        const double reach = kReach * about.radiusPx;
        const int stride = std::max(1, static_cast<int>(2 * reach / std::sqrt(kMostPixels)));
        for (int y = static_cast<int>(about.at.y - reach); y <= about.at.y + reach; y += stride)
            for (int x = static_cast<int>(about.at.x - reach); x <= about.at.x + reach; x += stride) {
                const Point p{x + 0.5, y + 0.5};
                if (x < 0 || y < 0 || x >= grey.cols || y >= grey.rows ||
                    geometry::distance(p, about.at) > reach)
                    continue;
                m_places.push_back(p);
                m_levels.push_back(static_cast<double>(grey.at<float>(y, x)));
            }
        for (const double turn : {0.0, std::numbers::pi / 6, std::numbers::pi / 3}) {
            Pose pose;
            const double r = about.radiusPx;
            pose.v = {about.at.x,          about.at.y,         r * std::cos(turn),   r * std::sin(turn),
                      -r * std::sin(turn), r * std::cos(turn), std::max(1.0, r / 10)};
            consider(pose, 4);
        }
        constexpr double kWorthAFit = 0.5;
        if (isAny() && likeness() > kWorthAFit)
            consider(m_best, 12);
    }

    bool isAny() const { return m_left < std::numeric_limits<double>::infinity(); }
    const Pose& pose() const { return m_best; }
    /// Looks for the edge of a shadow across it.
    void lookForShadow() {
        const Pose plain = m_best;
        Pose best = plain;
        double least = std::numeric_limits<double>::infinity();
        for (int i = 0; i < 12; ++i)
            for (const double at : {-0.8, -0.4, 0.0, 0.4, 0.8}) {
                Pose pose = plain;
                pose.hasShadow = true;
                pose.v[7] = i * std::numbers::pi / 6;
                pose.v[8] = at;
                pose.v[9] = 0.15;
                pose.v[10] = 0.35;
                if (const double left = leftBy(pose); left < least) {
                    least = left;
                    best = pose;
                }
            }
        consider(best, 20);
    }
    /// The share of what is seen beside the light that the target accounts for, with the noise taken off.
    double likeness() const {
        const double noise = m_noise * m_noise * static_cast<double>(m_places.size());
        const double whole = std::max(1.0, m_lightOnly - noise), left = std::max(0.0, m_left - noise);
        return std::sqrt(std::max(0.0, 1 - left / whole));
    }
    /// Whether a plain dark blot explains it clearly worse: far more of it would be left, and more than noise could make so.
    bool isNoBlot() const {
        constexpr double kMostShare = 0.35, kLeastSigns = 100; // of what is left; in variances of the noise
        Fit blot = *this;
        blot.m_isDisc = true;
        blot.m_left = std::numeric_limits<double>::infinity();
        for (const double size : {1.0, 0.75}) {
            Pose pose = m_best;
            for (const std::size_t k : {2u, 3u, 4u, 5u})
                pose.v[k] *= size;
            blot.consider(pose, 10);
        }
        const double variance = m_noise * m_noise, noise = variance * static_cast<double>(m_places.size());
        return std::max(0.0, m_left - noise) < kMostShare * std::max(1.0, blot.m_left - noise) &&
               blot.m_left - m_left > kLeastSigns * variance;
    }
    double ringDark() const { return m_ring; }
    double crossDark() const { return m_cross; }
    double paper() const { return m_paper; }
    double left() const { return m_left; }

  private:
    static constexpr int kTerms = 5;
    using Row =
        std::array<double, kTerms>; ///< paper, its slope across and down, ring, cross: in the light there

    Row row(const Pose& pose, Point p) const {
        const auto& v = pose.v;
        const double det = v[2] * v[5] - v[3] * v[4];
        const Point d = p - pose.middle();
        const Point u{(v[5] * d.x - v[4] * d.y) / det, (-v[3] * d.x + v[2] * d.y) / det};
        const double r = std::sqrt(std::abs(det)), blur = std::max(0.2, v[6]) / r;
        Row out{1, d.x / r, d.y / r, 0, 0};
        if (m_isDisc) {
            out[3] = step((1 - geometry::length(u)) / blur);
        } else {
            out[3] = ringAt(geometry::length(u), blur);
            out[4] = crossAt(u, blur);
        }
        if (pose.hasShadow) {
            const double away = (d.x * std::cos(v[7]) + d.y * std::sin(v[7])) / r - v[8];
            const double light = 1 - v[10] * step(away / std::max(0.02, v[9]));
            for (double& term : out)
                term *= light;
        }
        return out;
    }

    /// More blur than a lens has makes a target of any dark blot.
    static double mostBlur(const Pose& pose) {
        constexpr double kMostBlurPx = 2.1, kMostShare = 0.12;
        return std::max(kMostBlurPx, kMostShare * pose.radius());
    }

    /// What is left of every pixel by a pose when light is chosen best; false for one that cannot be.
    bool leftOver(const Pose& pose, std::vector<double>& left, Row& light) const {
        constexpr double kRounding = 1e-9;
        if (!(pose.radius() > 2) || pose.v[6] > mostBlur(pose) + kRounding)
            return false;
        constexpr int n = kTerms;
        std::vector<Row> rows(m_places.size());
        cv::Mat normal = cv::Mat::zeros(n, n, CV_64F), right = cv::Mat::zeros(n, 1, CV_64F), solved;
        for (std::size_t i = 0; i < m_places.size(); ++i) {
            rows[i] = row(pose, m_places[i]);
            for (int a = 0; a < n; ++a) {
                for (int b = 0; b <= a; ++b)
                    normal.at<double>(a, b) +=
                        rows[i][static_cast<std::size_t>(a)] * rows[i][static_cast<std::size_t>(b)];
                right.at<double>(a) += rows[i][static_cast<std::size_t>(a)] * m_levels[i];
            }
        }
        cv::completeSymm(normal, true);
        for (int a = 0; a < n; ++a)
            normal.at<double>(a, a) += 1e-6 * (1 + normal.at<double>(a, a));
        if (!cv::solve(normal, right, solved, cv::DECOMP_CHOLESKY))
            return false;
        left.resize(m_places.size());
        for (std::size_t i = 0; i < m_places.size(); ++i) {
            double level = 0;
            for (int a = 0; a < n; ++a)
                level += rows[i][static_cast<std::size_t>(a)] * solved.at<double>(a);
            left[i] = m_levels[i] - level;
        }
        for (int a = 0; a < n; ++a)
            light[static_cast<std::size_t>(a)] = solved.at<double>(a);
        return true;
    }
    static double sumOfSquares(const std::vector<double>& values) {
        double sum = 0;
        for (const double value : values)
            sum += value * value;
        return sum;
    }
    double leftBy(const Pose& pose) const {
        std::vector<double> left;
        Row light{};
        return leftOver(pose, left, light) ? sumOfSquares(left) : std::numeric_limits<double>::infinity();
    }

    /// Fits from a pose on and keeps what comes out when it is the best so far.
    void consider(Pose pose, int rounds) {
        std::vector<double> left, moved;
        Row light{};
        if (m_places.size() < 40 || !leftOver(pose, left, light))
            return;
        double sum = sumOfSquares(left), damping = 1e-3;
        const int n = pose.count();
        for (int round = 0; round < rounds; ++round) {
            cv::Mat slopes(static_cast<int>(left.size()), n, CV_64F);
            for (int k = 0; k < n; ++k) {
                const double size = k >= 7 ? 0.01 : 0.02;
                const double by = k == 6 && pose.v[6] + 2 * size > mostBlur(pose) ? -size : size;
                Pose other = pose;
                other.v[static_cast<std::size_t>(k)] += by;
                other.v[6] = std::min(other.v[6], mostBlur(other)); // which a smaller one has less of
                if (!leftOver(other, moved, light))
                    return;
                for (std::size_t i = 0; i < left.size(); ++i)
                    slopes.at<double>(static_cast<int>(i), k) = (moved[i] - left[i]) / by;
            }
            const cv::Mat residual(static_cast<int>(left.size()), 1, CV_64F, left.data());
            const cv::Mat normal = slopes.t() * slopes, right = slopes.t() * residual;
            bool isBetter = false;
            double gain = 0;
            for (int attempt = 0; attempt < 5 && !isBetter; ++attempt) {
                cv::Mat damped = normal.clone(), by;
                for (int k = 0; k < n; ++k)
                    damped.at<double>(k, k) *= 1 + damping;
                if (!cv::solve(damped, right, by, cv::DECOMP_CHOLESKY)) {
                    damping *= 10;
                    continue;
                }
                Pose next = pose;
                for (int k = 0; k < n; ++k)
                    next.v[static_cast<std::size_t>(k)] -= by.at<double>(k);
                next.v[6] = std::clamp(next.v[6], 0.2, std::max(0.2, mostBlur(next)));
                next.v[10] = std::clamp(next.v[10], 0.0, 0.9);
                const double then = leftOver(next, moved, light) ? sumOfSquares(moved) : sum + 1;
                if (then < sum) {
                    gain = sum - then;
                    pose = next;
                    left = moved;
                    sum = then;
                    damping = std::max(1e-7, damping / 5);
                    isBetter = true;
                } else {
                    damping *= 10;
                }
            }
            if (!isBetter || gain < 1e-6 * sum)
                break;
        }
        if (sum >= m_left || !leftOver(pose, left, light))
            return;
        m_best = pose;
        m_left = sum;
        m_paper = light[0];
        m_ring = light[3];
        m_cross = light[4];
        rememberLight(pose);
    }
    /// How much is left when there is light alone, and no target.
    void rememberLight(const Pose& pose) {
        constexpr int n = 3;
        cv::Mat rows(static_cast<int>(m_places.size()), n, CV_64F),
            levels(static_cast<int>(m_places.size()), 1, CV_64F), solved;
        for (std::size_t i = 0; i < m_places.size(); ++i) {
            const Row whole = row(pose, m_places[i]);
            const auto r = static_cast<int>(i);
            for (int k = 0; k < n; ++k)
                rows.at<double>(r, k) = whole[static_cast<std::size_t>(k)];
            levels.at<double>(r) = m_levels[i];
        }
        cv::solve(rows, levels, solved, cv::DECOMP_NORMAL);
        const cv::Mat left = levels - rows * solved;
        m_lightOnly = left.dot(left);
    }

    double m_noise;
    bool m_isDisc = false;
    std::vector<Point> m_places;
    std::vector<double> m_levels;
    Pose m_best;
    double m_left = std::numeric_limits<double>::infinity(), m_lightOnly = 1;
    double m_paper = 0, m_ring = 0, m_cross = 0;
};

bool isTarget(const Fit& fit, double noise) {
    constexpr double kLike = 0.97, kLeastDark = 0.55, kMostDark = 1.25, kMostUneven = 1.3, kRound = 0.8;
    const Pose& pose = fit.pose();
    if (!fit.isAny() || fit.likeness() < kLike)
        return false;
    const double ring = -fit.ringDark(), cross = -fit.crossDark();
    const bool isDark = std::min(ring, cross) > std::max(kLeastDark * fit.paper(), 4 * noise) &&
                        std::max(ring, cross) < kMostDark * fit.paper(); // nothing is darker than black
    // How much narrower than wide, by the singular values of its map.
    const auto& v = pose.v;
    const double sum = v[2] * v[2] + v[3] * v[3] + v[4] * v[4] + v[5] * v[5], det = v[2] * v[5] - v[3] * v[4];
    const double root = std::sqrt(std::max(0.0, sum * sum - 4 * det * det));
    const double round = std::sqrt(std::max(0.0, (sum - root) / (sum + root)));
    return isDark && det > 0 && fit.isNoBlot() && round > kRound && ring < kMostUneven * cross &&
           cross < kMostUneven * ring && pose.radius() > kLeastAcrossPx / 2 * 0.9;
}

} // namespace

geometry::Polygons targetRings() {
    constexpr int kSides = 96;
    const auto ring = [](double radius, bool isOpening) {
        geometry::Polygon out;
        for (int i = 0; i < kSides; ++i) {
            const double turn = 2 * std::numbers::pi * i / kSides * (isOpening ? -1 : 1);
            out.push_back({radius * std::cos(turn), radius * std::sin(turn)});
        }
        return out;
    };
    const double arm = kTarget.armMm, half = kTarget.wideMm / 2;
    return {ring(kTarget.outerMm, false),
            ring(kTarget.innerMm, true),
            {{-half, -arm},
             {half, -arm},
             {half, -half},
             {arm, -half},
             {arm, half},
             {half, half},
             {half, arm},
             {-half, arm},
             {-half, half},
             {-arm, half},
             {-arm, -half},
             {-half, -half}}};
}

base::Result<std::vector<SeenTarget>> findTargets(const Picture& picture, const base::Progress& progress) {
    std::vector<SeenTarget> out;
    if (picture.isEmpty())
        return out;
    const cv::Mat grey = greyOf(picture);
    const double noise = noiseOf(grey);
    for (const Candidate& candidate : candidatesIn(grey, progress)) {
        if (progress.isCancelled())
            return base::cancelled();
        Fit fit(grey, candidate, noise);
        // One that comes out of another size was looked at through too small or too large a window.
        constexpr double kAsLarge = 1.2;
        const double size = fit.pose().radius() / candidate.radiusPx;
        if (fit.isAny() && (size > kAsLarge || size < 1 / kAsLarge))
            fit = Fit(grey, {fit.pose().middle(), fit.pose().radius(), candidate.score}, noise);
        constexpr double kWorthALook = 0.7, kClear = 0.98;
        if (!fit.isAny() || fit.likeness() < kWorthALook)
            continue;
        if (fit.likeness() < kClear)
            fit.lookForShadow();
        if (!isTarget(fit, noise))
            continue;
        const Point at = fit.pose().middle();
        const double radius = fit.pose().radius();
        const auto known = std::find_if(out.begin(), out.end(), [&](const SeenTarget& other) {
            return geometry::distance(other.at, at) < std::max(radius, other.radiusPx);
        });
        const SeenTarget one{at, radius, fit.likeness()};
        if (known == out.end())
            out.push_back(one);
        else if (one.likeness > known->likeness)
            *known = one;
    }
    if (progress.isCancelled())
        return base::cancelled();
    std::sort(out.begin(), out.end(),
              [](const SeenTarget& a, const SeenTarget& b) { return a.likeness > b.likeness; });
    return out;
}

} // namespace thinline::raster
