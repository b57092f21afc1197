// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Telling card from mat.
//
// The photo is laid straight first, so that a pixel is a quarter of a millimetre. Light falls unevenly and throws shadows, but
// it brightens all channels by one factor. So every pixel is looked at in the logarithms of linear light: the differences of
// the channels (the hue of the thing, whatever the light) and their mean (how bright it is).
//
// - The mat's hue is learnt along its rim, which stays free of card because machines do not cut there. What has another hue is
//   card.
// - What has the mat's hue may be card of that hue, lighter or darker, or a shadow. The light over the mat is fitted by a
//   smooth field; regions that leave it are looked at again: where the mat's printed lines go on, it is mat in a shadow, where
//   they are covered, it is card.
// - Fine things are taken away by a median first: printed lines, dust.
// - One region may be several cards that touch: it is parted where it has several clearly different hues.
//
// The printed lines serve for two things more. Where none are found, the rectangle is perhaps no mat, which is told. And where
// they lie tells how well the photo was laid straight.
#include "raster/MatPhoto.h"

#include "geometry/PolygonEngine.h"
#include "raster/Colour.h"

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

constexpr double kPxPerMm = 4;
constexpr double kRimMm = 6;      // of the mat, free of card
constexpr double kLeastMm2 = 80;  // smaller things are no card worth cutting from
constexpr double kHueStep = 0.16; // in logarithms of light: about 7 % of a channel's coded value
constexpr double kBrightStep = 0.17;
constexpr double kDeepestShadow = 0.45; // beside the middle of light and shadow

/// The photo in logarithms of light.
struct Logs {
    cv::Mat redOver, blueOver, bright; ///< red and blue over green; the mean
};

Logs logsOf(const cv::Mat& rgb) {
    std::array<float, 256> table{};
    constexpr double kDark = 0.004; // of full light: below it is noise
    for (int i = 0; i < 256; ++i)
        table[static_cast<std::size_t>(i)] = static_cast<float>(std::log(linearOf(i / 255.0) + kDark));
    Logs out{cv::Mat(rgb.size(), CV_32F), cv::Mat(rgb.size(), CV_32F), cv::Mat(rgb.size(), CV_32F)};
    for (int y = 0; y < rgb.rows; ++y)
        for (int x = 0; x < rgb.cols; ++x) {
            const cv::Vec3b c = rgb.at<cv::Vec3b>(y, x);
            const float r = table[c[0]], g = table[c[1]], b = table[c[2]];
            out.redOver.at<float>(y, x) = r - g;
            out.blueOver.at<float>(y, x) = b - g;
            out.bright.at<float>(y, x) = (r + g + b) / 3;
        }
    return out;
}

double medianOf(std::vector<float> values) {
    if (values.empty())
        return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return static_cast<double>(*middle);
}

/// A value of every pixel of a mask.
std::vector<float> valuesIn(const cv::Mat& of, const cv::Mat& mask) {
    std::vector<float> out;
    for (int y = 0; y < of.rows; ++y)
        for (int x = 0; x < of.cols; ++x)
            if (mask.at<std::uint8_t>(y, x))
                out.push_back(of.at<float>(y, x));
    return out;
}

cv::Mat rimOf(cv::Size size) {
    cv::Mat out(size, CV_8U, cv::Scalar(0));
    const int rim = static_cast<int>(kRimMm * kPxPerMm), skin = static_cast<int>(1.5 * kPxPerMm);
    cv::rectangle(out, {skin, skin}, {size.width - 1 - skin, size.height - 1 - skin}, 255, cv::FILLED);
    cv::rectangle(out, {rim, rim}, {size.width - 1 - rim, size.height - 1 - rim}, 0, cv::FILLED);
    return out;
}

// ---- the light

/// A smooth field through most of the bright values of a mask: a polynomial of the second degree.
cv::Mat lightOver(const cv::Mat& bright, const cv::Mat& mask) {
    constexpr int kTerms = 6, kEvery = 6, kRounds = 15;
    const auto termsAt = [&](int x, int y) {
        const double u = 2.0 * x / bright.cols - 1, v = 2.0 * y / bright.rows - 1;
        return std::array<double, kTerms>{1, u, v, u * u, u * v, v * v};
    };
    std::vector<std::array<double, kTerms>> rows;
    std::vector<double> values;
    for (int y = 0; y < bright.rows; y += kEvery)
        for (int x = 0; x < bright.cols; x += kEvery)
            if (mask.at<std::uint8_t>(y, x)) {
                rows.push_back(termsAt(x, y));
                values.push_back(static_cast<double>(bright.at<float>(y, x)));
            }
    std::array<double, kTerms> best{};
    best[0] = std::accumulate(values.begin(), values.end(), 0.0) /
              std::max<double>(1, static_cast<double>(values.size()));
    for (int round = 0; round < kRounds && values.size() > 50; ++round) {
        cv::Mat a = cv::Mat::zeros(kTerms, kTerms, CV_64F), b = cv::Mat::zeros(kTerms, 1, CV_64F), x;
        const double scale = std::max(0.04, 0.4 * std::pow(0.8, round));
        for (std::size_t i = 0; i < rows.size(); ++i) {
            double here = 0;
            for (int k = 0; k < kTerms; ++k)
                here += best[static_cast<std::size_t>(k)] * rows[i][static_cast<std::size_t>(k)];
            const double off = (values[i] - here) / scale, weight = 1 / ((1 + off * off) * (1 + off * off));
            for (int p = 0; p < kTerms; ++p) {
                b.at<double>(p) += weight * rows[i][static_cast<std::size_t>(p)] * values[i];
                for (int q = 0; q < kTerms; ++q)
                    a.at<double>(p, q) +=
                        weight * rows[i][static_cast<std::size_t>(p)] * rows[i][static_cast<std::size_t>(q)];
            }
        }
        for (int p = 0; p < kTerms; ++p)
            a.at<double>(p, p) += 1e-6 * static_cast<double>(rows.size());
        if (!cv::solve(a, b, x, cv::DECOMP_CHOLESKY))
            break;
        for (int k = 0; k < kTerms; ++k)
            best[static_cast<std::size_t>(k)] = x.at<double>(k);
    }
    cv::Mat out(bright.size(), CV_32F);
    for (int y = 0; y < out.rows; ++y)
        for (int x = 0; x < out.cols; ++x) {
            const auto terms = termsAt(x, y);
            double here = 0;
            for (int k = 0; k < kTerms; ++k)
                here += best[static_cast<std::size_t>(k)] * terms[static_cast<std::size_t>(k)];
            out.at<float>(y, x) = static_cast<float>(here);
        }
    return out;
}

// ---- the printed lines

/// Where the first printed lines lie, upright and across, mm.
struct GridPhase {
    double x = 0, y = 0;
};

/// The place of the first line of which every next one, an inch further, stands out most.
double phaseOf(const cv::Mat& bright, bool isUpright) {
    const int count = isUpright ? bright.cols : bright.rows;
    cv::Mat beside, line;
    const int wide = static_cast<int>(4 * kPxPerMm) | 1;
    cv::blur(bright, beside, isUpright ? cv::Size(wide, 1) : cv::Size(1, wide));
    std::vector<double> stands(static_cast<std::size_t>(count), 0);
    constexpr double kMost = 0.4; // edges of cards stand out more and say nothing
    for (int y = 0; y < bright.rows; ++y)
        for (int x = 0; x < bright.cols; ++x) {
            const double over =
                static_cast<double>(bright.at<float>(y, x)) - static_cast<double>(beside.at<float>(y, x));
            stands[static_cast<std::size_t>(isUpright ? x : y)] += std::clamp(over, -kMost, kMost);
        }
    double best = 0, most = 0;
    const int margin = static_cast<int>(8 * kPxPerMm);
    for (double phase = 0; phase < kGridMm; phase += 1 / kPxPerMm) {
        double sum = 0;
        int lines = 0;
        for (double at = phase; at * kPxPerMm < count - margin; at += kGridMm)
            if (const int px = static_cast<int>(at * kPxPerMm); px >= margin) {
                sum += stands[static_cast<std::size_t>(px)];
                ++lines;
            }
        if (lines > 0 && std::abs(sum) / lines > most) {
            most = std::abs(sum) / lines;
            best = phase + 0.5 / kPxPerMm;
        }
    }
    return best;
}

/// Takes printed lines out of a picture: where both sides of one look alike, it looks like them.
void withoutLines(cv::Mat& rgb, const GridPhase& phase) {
    constexpr double kHalfMm = 1.2, kSideMm = 1.8;
    constexpr int kAlike = 22; // of 255
    const int half = static_cast<int>(kHalfMm * kPxPerMm), side = static_cast<int>(kSideMm * kPxPerMm);
    for (const bool isUpright : {true, false}) {
        const int across = isUpright ? rgb.cols : rgb.rows, along = isUpright ? rgb.rows : rgb.cols;
        const auto pixel = [&](int a, int b) -> cv::Vec3b& {
            return isUpright ? rgb.at<cv::Vec3b>(b, a) : rgb.at<cv::Vec3b>(a, b);
        };
        for (double line = isUpright ? phase.x : phase.y; line * kPxPerMm < across; line += kGridMm) {
            const int middle = static_cast<int>(line * kPxPerMm);
            if (middle < side || middle + side >= across)
                continue;
            for (int b = 0; b < along; ++b) {
                const cv::Vec3b before = pixel(middle - side, b), after = pixel(middle + side, b);
                const int apart = std::max({std::abs(before[0] - after[0]), std::abs(before[1] - after[1]),
                                            std::abs(before[2] - after[2])});
                for (int a = middle - half; apart < kAlike && a <= middle + half; ++a)
                    for (int k = 0; k < 3; ++k)
                        pixel(a, b)[k] = static_cast<std::uint8_t>((before[k] + after[k]) / 2);
            }
        }
    }
}

/// A place on a printed line: how much it stands out from what is beside it, and how far off it is.
struct LinePlace {
    int x = 0, y = 0;
    double stands = 0; ///< in logarithms of light, either way
    double offMm = 0;
};

/// What the printed lines look like at one place across them, over a millimetre and a half along.
LinePlace lineAt(const cv::Mat& bright, int x, int y, bool isUpright) {
    constexpr int kReach = 8, kAlong = 3; // px
    std::array<double, 2 * kReach + 1> profile{};
    for (int i = -kReach; i <= kReach; ++i)
        for (int k = -kAlong; k <= kAlong; ++k) {
            const int px = std::clamp(isUpright ? x + i : x + k, 0, bright.cols - 1),
                      py = std::clamp(isUpright ? y + k : y + i, 0, bright.rows - 1);
            profile[static_cast<std::size_t>(i + kReach)] +=
                static_cast<double>(bright.at<float>(py, px)) / (2 * kAlong + 1);
        }
    std::array<double, 2 * kReach + 1> sorted = profile;
    std::nth_element(sorted.begin(), sorted.begin() + kReach, sorted.end());
    const double ground = sorted[kReach];
    LinePlace out{x, y, 0, 0};
    double sum = 0, weight = 0;
    constexpr int kNear = 4; // px from where it should be
    for (int i = -kNear; i <= kNear; ++i) {
        const double over = profile[static_cast<std::size_t>(i + kReach)] - ground;
        if (std::abs(over) > std::abs(out.stands))
            out.stands = over;
        sum += std::abs(over) * i;
        weight += std::abs(over);
    }
    out.offMm = weight > 0 ? sum / weight / kPxPerMm : 0;
    return out;
}

/// Places on the printed lines, every two and a half millimetres, off their crossings.
std::vector<LinePlace> linePlaces(const cv::Mat& bright, const GridPhase& phase) {
    std::vector<LinePlace> out;
    const double widthMm = bright.cols / kPxPerMm, heightMm = bright.rows / kPxPerMm;
    constexpr double kEveryMm = 2.5, kMarginMm = 14, kOffCrossingMm = 3;
    for (const bool isUpright : {true, false}) {
        const double across = isUpright ? widthMm : heightMm, along = isUpright ? heightMm : widthMm;
        const double other = isUpright ? phase.y : phase.x;
        for (double line = isUpright ? phase.x : phase.y; line < across - kMarginMm; line += kGridMm)
            for (double at = kMarginMm; line > kMarginMm && at < along - kMarginMm; at += kEveryMm) {
                if (std::abs(std::remainder(at - other, kGridMm)) < kOffCrossingMm)
                    continue;
                const int a = static_cast<int>(std::lround(line * kPxPerMm - 0.5)),
                          b = static_cast<int>(std::lround(at * kPxPerMm - 0.5));
                out.push_back(lineAt(bright, isUpright ? a : b, isUpright ? b : a, isUpright));
            }
    }
    return out;
}

/// How much the printed lines stand out where the mat is bare; 0 where there are none.
double usualLine(const std::vector<LinePlace>& places, const cv::Mat& isMat) {
    std::vector<float> on;
    for (const LinePlace& place : places)
        if (isMat.at<std::uint8_t>(place.y, place.x))
            on.push_back(static_cast<float>(place.stands));
    const double usual = medianOf(on);
    // Noise stands out as well, but now lighter and now darker.
    constexpr double kLeast = 0.05;
    const auto alike = std::count_if(on.begin(), on.end(), [&](float one) {
        return static_cast<double>(one) * usual > 0 &&
               std::abs(static_cast<double>(one)) > 0.4 * std::abs(usual);
    });
    return on.size() >= 40 && std::abs(usual) > kLeast &&
                   static_cast<double>(alike) > 0.7 * static_cast<double>(on.size())
               ? usual
               : 0;
}

GridLook gridOf(const std::vector<LinePlace>& places, const cv::Mat& isMat, double usual) {
    GridLook out;
    out.isThere = usual != 0;
    std::vector<float> off;
    for (const LinePlace& place : places)
        if (out.isThere && isMat.at<std::uint8_t>(place.y, place.x) && place.stands / usual > 0.5)
            off.push_back(static_cast<float>(std::abs(place.offMm)));
    out.places = static_cast<int>(off.size());
    out.errorMm = off.empty() ? 0
                              : static_cast<double>(std::accumulate(off.begin(), off.end(), 0.f)) /
                                    static_cast<double>(off.size());
    return out;
}

// ---- cards

/// Nothing along the very edge, where the photo shows half the table.
void withoutEdge(cv::Mat& mask) {
    constexpr double kEdgeMm = 2;
    cv::rectangle(mask, {0, 0}, {mask.cols - 1, mask.rows - 1}, 0, 2 * static_cast<int>(kEdgeMm * kPxPerMm));
}

void cleaned(cv::Mat& mask) {
    const cv::Mat disc = cv::getStructuringElement(cv::MORPH_ELLIPSE, {5, 5});
    cv::morphologyEx(mask, mask, cv::MORPH_OPEN, disc);
    cv::morphologyEx(mask, mask, cv::MORPH_CLOSE, disc);
}

/// The regions of a mask that are large enough, as masks.
std::vector<cv::Mat> regionsOf(const cv::Mat& mask) {
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(mask, labels, stats, centres, 4);
    std::vector<cv::Mat> out;
    for (int i = 1; i < count; ++i)
        if (stats.at<int>(i, cv::CC_STAT_AREA) >= kLeastMm2 * kPxPerMm * kPxPerMm)
            out.push_back(labels == i);
    return out;
}

/// The hues of a region, one in each row; a single one where no few of them explain it clearly better.
cv::Mat huesOf(const cv::Mat& region, const Logs& logs) {
    constexpr int kMostHues = 6, kSamples = 20'000;
    std::vector<cv::Point> places;
    cv::findNonZero(region, places);
    const int every = 1 + static_cast<int>(places.size()) / kSamples;
    cv::Mat samples(static_cast<int>(places.size()) / every, 2, CV_32F), labels, centres;
    for (int i = 0; i < samples.rows; ++i) {
        const cv::Point p = places[static_cast<std::size_t>(i * every)];
        samples.at<float>(i, 0) = logs.redOver.at<float>(p);
        samples.at<float>(i, 1) = logs.blueOver.at<float>(p);
    }
    for (int count = 2; count <= kMostHues && count < samples.rows; ++count) {
        cv::setRNGSeed(1);
        cv::kmeans(samples, count, labels, {cv::TermCriteria::COUNT, 20, 0}, 4, cv::KMEANS_PP_CENTERS,
                   centres);
        double spread = 0, apart = 1e9;
        for (int i = 0; i < samples.rows; ++i)
            spread += cv::norm(samples.row(i), centres.row(labels.at<int>(i)), cv::NORM_L2) / samples.rows;
        for (int i = 0; i < count; ++i)
            for (int k = 0; k < i; ++k)
                apart = std::min(apart, cv::norm(centres.row(i), centres.row(k), cv::NORM_L2));
        constexpr double kApart = 0.3;
        if (apart >= kApart && apart >= 5 * spread)
            return centres;
    }
    return {};
}

/// Parts a region that has several clearly different hues.
void partedInto(const cv::Mat& region, const Logs& logs, int depth, std::vector<cv::Mat>& out) {
    constexpr int kMostParts = 3;
    const cv::Mat hues = depth < kMostParts ? huesOf(region, logs) : cv::Mat{};
    if (hues.empty()) {
        out.push_back(region);
        return;
    }
    std::vector<cv::Mat> masks;
    for (int k = 0; k < hues.rows; ++k)
        masks.emplace_back(region.size(), CV_8U, cv::Scalar(0));
    for (int y = 0; y < region.rows; ++y)
        for (int x = 0; x < region.cols; ++x) {
            if (!region.at<std::uint8_t>(y, x))
                continue;
            int nearest = 0;
            float least = 1e9f;
            for (int k = 0; k < hues.rows; ++k) {
                const float red = logs.redOver.at<float>(y, x) - hues.at<float>(k, 0),
                            blue = logs.blueOver.at<float>(y, x) - hues.at<float>(k, 1);
                if (const float away = red * red + blue * blue; away < least) {
                    least = away;
                    nearest = k;
                }
            }
            masks[static_cast<std::size_t>(nearest)].at<std::uint8_t>(y, x) = 255;
        }
    std::vector<cv::Mat> parts;
    for (cv::Mat& own : masks) {
        cleaned(own);
        for (const cv::Mat& part : regionsOf(own))
            parts.push_back(part);
    }
    if (parts.size() < 2) { // a soft edge, no second card
        out.push_back(region);
        return;
    }
    for (const cv::Mat& part : parts)
        partedInto(part, logs, depth + 1, out);
}

/// The region with its edge where the picture is half card, half what lies beside it: by the light of both close by, so that
/// it is right in a shadow too.
cv::Mat sharpened(const cv::Mat& region, const cv::Mat& rgb) {
    const int near = static_cast<int>(1.5 * kPxPerMm), window = static_cast<int>(7 * kPxPerMm) | 1;
    cv::Rect box = cv::boundingRect(region);
    const int margin = near + window;
    box = cv::Rect(box.x - margin, box.y - margin, box.width + 2 * margin, box.height + 2 * margin) &
          cv::Rect(0, 0, region.cols, region.rows);
    const cv::Mat own = region(box);
    const cv::Mat disc = cv::getStructuringElement(cv::MORPH_ELLIPSE, {2 * near + 1, 2 * near + 1});
    cv::Mat core, reach, light;
    cv::erode(own, core, disc);
    cv::dilate(own, reach, disc);
    cv::Mat table(1, 256, CV_32F);
    for (int i = 0; i < 256; ++i)
        table.at<float>(i) = static_cast<float>(linearOf(i / 255.0));
    cv::LUT(rgb(box), table, light);
    // The mean of what a mask holds, close by.
    const auto meanOf = [&](const cv::Mat& mask, cv::Mat& mean, cv::Mat& weight) {
        cv::Mat as;
        mask.convertTo(as, CV_32F, 1.0 / 255);
        cv::Mat three, held;
        cv::merge(std::vector<cv::Mat>{as, as, as}, three);
        cv::multiply(light, three, held);
        cv::boxFilter(held, mean, CV_32F, {window, window}, {-1, -1}, true, cv::BORDER_REPLICATE);
        cv::boxFilter(as, weight, CV_32F, {window, window}, {-1, -1}, true, cv::BORDER_REPLICATE);
    };
    cv::Mat card, cardWeight, ground, groundWeight;
    meanOf(core, card, cardWeight);
    meanOf(~reach, ground, groundWeight);
    cv::Mat out = core.clone();
    constexpr float kLeastWeight = 0.004f;
    for (int y = 0; y < box.height; ++y)
        for (int x = 0; x < box.width; ++x) {
            if (core.at<std::uint8_t>(y, x) || !reach.at<std::uint8_t>(y, x))
                continue;
            const float a = cardWeight.at<float>(y, x), b = groundWeight.at<float>(y, x);
            if (a < kLeastWeight || b < kLeastWeight) { // nothing to go by
                out.at<std::uint8_t>(y, x) = own.at<std::uint8_t>(y, x);
                continue;
            }
            const cv::Vec3f c = card.at<cv::Vec3f>(y, x) / a, g = ground.at<cv::Vec3f>(y, x) / b,
                            p = light.at<cv::Vec3f>(y, x), way = c - g;
            out.at<std::uint8_t>(y, x) = (p - g).dot(way) > 0.5f * way.dot(way) ? 255 : 0;
        }
    cleaned(out);
    cv::Mat whole(region.size(), CV_8U, cv::Scalar(0));
    out.copyTo(whole(box));
    return whole;
}

geometry::Polygons ringsOf(const cv::Mat& region) {
    constexpr double kOffPx = 0.8;
    std::vector<std::vector<cv::Point>> contours;
    std::vector<cv::Vec4i> order;
    cv::findContours(region, contours, order, cv::RETR_CCOMP, cv::CHAIN_APPROX_NONE);
    geometry::Polygons out;
    for (std::size_t i = 0; i < contours.size(); ++i) {
        const bool isOpening = order[i][3] >= 0;
        std::vector<cv::Point> simple;
        cv::approxPolyDP(contours[i], simple, kOffPx, true);
        if (simple.size() < 3 || (isOpening && cv::contourArea(simple) < kLeastMm2 * kPxPerMm * kPxPerMm))
            continue;
        geometry::Polygon ring;
        for (const cv::Point p : simple)
            ring.push_back({(p.x + 0.5) / kPxPerMm, (p.y + 0.5) / kPxPerMm});
        if ((geometry::signedArea(ring) > 0) == isOpening)
            std::reverse(ring.begin(), ring.end());
        out.push_back(std::move(ring));
    }
    // Contours go through the middles of the outermost pixels.
    const auto grown = geometry::grown(out, 0.5 / kPxPerMm, 0.02);
    return grown ? *grown : out;
}

Rgb colourOf(const cv::Mat& region, const cv::Mat& rgb, const cv::Mat& light, float brightest) {
    std::array<std::vector<float>, 3> linear;
    for (int y = 0; y < region.rows; y += 2)
        for (int x = 0; x < region.cols; x += 2)
            if (region.at<std::uint8_t>(y, x))
                for (std::size_t k = 0; k < 3; ++k)
                    linear[k].push_back(
                        static_cast<float>(linearOf(rgb.at<cv::Vec3b>(y, x)[static_cast<int>(k)] / 255.0) *
                                           std::exp(static_cast<double>(brightest - light.at<float>(y, x)))));
    Rgb out{};
    for (std::size_t k = 0; k < 3; ++k)
        out[k] =
            static_cast<std::uint8_t>(std::lround(255 * codedOf(std::clamp(medianOf(linear[k]), 0.0, 1.0))));
    return out;
}

/// The share of a region's printed lines that go on in it; nothing where it lies on too few.
std::optional<double> lineShare(const cv::Mat& region, const std::vector<LinePlace>& places, double usual) {
    int all = 0, seen = 0;
    for (const LinePlace& place : places)
        if (region.at<std::uint8_t>(place.y, place.x)) {
            ++all;
            seen += place.stands / usual > 0.4 ? 1 : 0;
        }
    constexpr int kEnough = 6;
    return all < kEnough ? std::nullopt : std::optional(static_cast<double>(seen) / all);
}

/// A photo laid straight, and what of it is mat.
struct Straight {
    cv::Mat rgb, lineless; ///< as it is, and without printed lines
    Logs logs;             ///< without lines and fine things
    cv::Mat hueOff;        ///< how far its hue is from the mat's
    cv::Mat off;           ///< how much brighter it is than the mat in the light there
    cv::Mat isMatHue, isMat;
    cv::Mat light;
    std::vector<LinePlace> places;
    double usual = 0; ///< how much printed lines stand out; 0 without any

    std::optional<double> lineShareOf(const cv::Mat& region) const {
        return usual == 0 ? std::nullopt : lineShare(region, places, usual);
    }
};

/// 255 where a value lies between two.
cv::Mat between(const cv::Mat& values, double least, double most) {
    cv::Mat out;
    cv::inRange(values, least, most, out);
    return out;
}

Straight straightened(const cv::Mat& rgb) {
    constexpr int kMedianPx = 9;
    Straight out;
    out.rgb = rgb;
    const Logs sharp = logsOf(rgb);
    const GridPhase phase{phaseOf(sharp.bright, true), phaseOf(sharp.bright, false)};
    out.lineless = rgb.clone();
    withoutLines(out.lineless, phase);
    cv::Mat smooth;
    cv::medianBlur(out.lineless, smooth, kMedianPx);
    out.logs = logsOf(smooth);
    const cv::Mat rim = rimOf(rgb.size());
    const cv::Mat red = out.logs.redOver - medianOf(valuesIn(out.logs.redOver, rim)),
                  blue = out.logs.blueOver - medianOf(valuesIn(out.logs.blueOver, rim));
    cv::magnitude(red, blue, out.hueOff);
    out.isMatHue = between(out.hueOff, 0, kHueStep);
    out.light = lightOver(out.logs.bright, out.isMatHue);
    out.off = out.logs.bright - out.light;
    out.isMat = out.isMatHue & between(out.off, -kBrightStep, kBrightStep);
    out.places = linePlaces(sharp.bright, phase);
    out.usual = usualLine(out.places, out.isMat);
    return out;
}

/// A region that is card, perhaps.
struct CardRegion {
    cv::Mat mask;
    bool isDoubtful = false;
};

/// What has the mat's hue and another brightness is card where it covers the printed lines, and a shadow where not.
void addByBrightness(const Straight& photo, std::vector<CardRegion>& into) {
    constexpr double kFar = 100, kMostLines = 0.3;
    for (const bool isDarker : {true, false}) {
        cv::Mat other = photo.isMatHue & (isDarker ? between(photo.off, -kFar, -kBrightStep)
                                                   : between(photo.off, kBrightStep, kFar));
        withoutEdge(other);
        cleaned(other);
        for (const cv::Mat& region : regionsOf(other)) {
            const auto share = photo.lineShareOf(region);
            // Between two lines nothing tells a shadow from card but that no shadow is so deep.
            const bool isShadow = share ? *share > kMostLines
                                        : std::abs(medianOf(valuesIn(photo.off, region))) < kDeepestShadow;
            if (!isShadow)
                into.push_back({region, !share});
        }
    }
}

/// What has another hue than the mat is card, unless its lines go on in it.
void addByHue(const Straight& photo, std::vector<CardRegion>& into) {
    constexpr double kMostLines = 0.6, kClear = 0.3;
    cv::Mat card = ~photo.isMatHue;
    withoutEdge(card);
    cleaned(card);
    for (const cv::Mat& region : regionsOf(card)) {
        std::vector<cv::Mat> parts;
        partedInto(region, photo.logs, 0, parts);
        for (const cv::Mat& part : parts)
            if (const auto share = photo.lineShareOf(part); !share || *share <= kMostLines)
                into.push_back({part, medianOf(valuesIn(photo.hueOff, part)) < kClear});
    }
}

} // namespace

base::Result<MatLook> lookAtMat(const Picture& picture, const Seen& seen, const base::Progress& progress) {
    if (seen.widthMm() < 60 || seen.heightMm() < 60)
        return Error{Code::InvalidArgument, "A mat is at least 60 mm to a side."};
    const Picture laid = rectified(picture, seen, kPxPerMm);
    const Straight photo =
        straightened({laid.height, laid.width, CV_8UC3, const_cast<std::uint8_t*>(laid.rgb.data())});
    if (progress.isCancelled())
        return base::cancelled();
    std::vector<CardRegion> regions;
    addByBrightness(photo, regions);
    addByHue(photo, regions);
    if (progress.isCancelled())
        return base::cancelled();
    std::stable_sort(regions.begin(), regions.end(), [](const CardRegion& a, const CardRegion& b) {
        return cv::countNonZero(a.mask) > cv::countNonZero(b.mask);
    });
    double brightest = 0;
    cv::minMaxLoc(photo.light, nullptr, &brightest);
    MatLook out;
    out.grid = gridOf(photo.places, photo.isMat, photo.usual);
    for (const CardRegion& region : regions) {
        FoundScrap scrap{ringsOf(sharpened(region.mask, photo.lineless)),
                         colourOf(region.mask, photo.rgb, photo.light, static_cast<float>(brightest)),
                         region.isDoubtful};
        if (!scrap.rings.empty())
            out.scraps.push_back(std::move(scrap));
    }
    return out;
}

} // namespace thinline::raster
