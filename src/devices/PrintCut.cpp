// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// From the page as it is meant to what lies in the hand.
//
//     meant --printer--> paper --hand--> machine --blade--> cut
//
// All of it is affine, so that where a cut lies on its print is one map: the way to the machine that the registration found, the
// standing error that was accepted taken off, the one that is there put on, and the way back through hand and printer. What
// remains beside the identity is what white edges are made of.
#include "devices/PrintCut.h"

#include "raster/Targets.h"
#include "registration/Calibrate.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace thinline::devices {
namespace {

using geometry::Point;
using geometry::Transform;

constexpr double kDegree = std::numbers::pi / 180;

Transform turnedAbout(Point middle, double degrees) {
    const double c = std::cos(degrees * kDegree), s = std::sin(degrees * kDegree);
    return Transform::move(middle * -1).then({c, s, -s, c, 0, 0}).then(Transform::move(middle));
}

Point middleOf(const geometry::Box& box) {
    return box.centre();
}

/// How dark a place of a photo is, 0 to 1, the mean of some pixels around it.
double darknessAt(const raster::Picture& photo, Point px, int reach) {
    double sum = 0;
    int count = 0;
    for (int y = static_cast<int>(px.y) - reach; y <= static_cast<int>(px.y) + reach; ++y)
        for (int x = static_cast<int>(px.x) - reach; x <= static_cast<int>(px.x) + reach; ++x)
            if (x >= 0 && y >= 0 && x < photo.width && y < photo.height) {
                sum += 1 - photo.row(y)[3 * x + 1] / 255.0;
                ++count;
            }
    return count > 0 ? sum / count : 0;
}

} // namespace

Transform lyingBy(const PrintErrors& errors, const print::PageLayout& layout) {
    const Point middle{layout.widthMm / 2, layout.heightMm / 2};
    return Transform::move(middle * -1)
        .then(Transform::scale(errors.scaleX, errors.scaleY))
        .then(Transform::move(middle + errors.printShiftMm))
        .then(turnedAbout(middle, errors.printTurnDeg))
        .then(turnedAbout(middle, errors.feedTurnDeg))
        .then(Transform::move(errors.feedShiftMm));
}

std::vector<registration::Mark> sensed(const PrintErrors& errors, const print::PageLayout& layout) {
    const Transform lies = lyingBy(errors, layout);
    std::mt19937 random(errors.seed);
    std::normal_distribution<double> noise(0, 1);
    std::vector<registration::Mark> out;
    for (const Point mark : layout.marks) {
        Point seen = lies(mark);
        if (errors.sensorMm > 0)
            seen = seen + Point{noise(random), noise(random)} * errors.sensorMm;
        out.push_back({mark, seen});
    }
    return out;
}

base::Result<Photographed> photographed(const raster::Picture& page, double pxPerMm,
                                        const PrintErrors& errors, const print::PageLayout& layout,
                                        const CameraLook& look, const base::Progress& progress) {
    const Camera camera(look, layout.widthMm, layout.heightMm);
    const Transform lies = lyingBy(errors, layout);
    Photographed out{camera.photoOf(page, pxPerMm, geometry::inverse(lies)), {}, {}, {}};
    const auto seen = raster::findTargets(out.photo, progress);
    if (!seen)
        return seen.error();
    // Every mark that was found is the one whose place it is nearest to; where the camera hangs is known.
    const double nearMm = std::min(layout.widthMm, layout.heightMm) / 4;
    out.likeness = 1;
    std::vector<bool> isTaken(layout.marks.size(), false);
    for (const raster::SeenTarget& target : *seen) {
        const Point at = camera.toMm(target.at);
        std::size_t nearest = 0;
        for (std::size_t i = 1; i < layout.marks.size(); ++i)
            if (geometry::distance(layout.marks[i], at) < geometry::distance(layout.marks[nearest], at))
                nearest = i;
        if (isTaken[nearest] || geometry::distance(layout.marks[nearest], at) > nearMm) {
            ++out.strangers;
            continue;
        }
        isTaken[nearest] = true;
        out.marks.push_back({layout.marks[nearest], at});
        out.worstPx =
            std::max(out.worstPx, geometry::distance(camera.toPx(lies(layout.marks[nearest])), target.at));
        out.likeness = std::min(out.likeness, target.likeness);
    }
    // The bar is at one of two places; which is darker tells how the page lies.
    if (const auto map = registration::similarityOf(out.marks); map && out.marks.size() >= 2) {
        const Point bar = middleOf(layout.bar), opposite = Point{layout.widthMm, layout.heightMm} - bar;
        const double here = darknessAt(out.photo, camera.toPx((*map)(bar)), 1),
                     there = darknessAt(out.photo, camera.toPx((*map)(opposite)), 1);
        constexpr double kDarker = 0.2;
        if (std::abs(here - there) > kDarker)
            out.bar = registration::Mark{bar, (*map)(here > there ? bar : opposite)};
        if (here > there + kDarker) {
            const double paper =
                darknessAt(out.photo, camera.toPx((*map)(middleOf(layout.bar) + Point{0, 5})), 1);
            print::PageNumber number;
            for (std::size_t i = 0; i < layout.cells.size(); ++i) {
                const bool isBlack = darknessAt(out.photo, camera.toPx((*map)(middleOf(layout.cells[i]))),
                                                1) > (here + paper) / 2;
                if (isBlack && i + 1 == layout.cells.size())
                    number.isBack = true;
                else if (isBlack)
                    number.page |= 1 << i;
            }
            out.number = number;
        }
    }
    return out;
}

CutAgainstPrint cutBy(const registration::Registration& found, const PrintErrors& errors,
                      const std::optional<registration::StandingError>& accepted,
                      const print::PageLayout& layout, const std::vector<Point>& places) {
    const Point corrected = accepted ? Point{accepted->rightMm, accepted->downMm} : Point{};
    CutAgainstPrint out{found.map.then(Transform::move(errors.standingMm - corrected))
                            .then(geometry::inverse(lyingBy(errors, layout)))};
    for (const Point place : places)
        out.worstMm = std::max(out.worstMm, geometry::distance(out.onPrint(place), place));
    return out;
}

std::vector<double> worstOf(int runs, const ErrorRanges& ranges, const print::PageLayout& layout,
                            const Remedies& remedies, const std::vector<ErrorSource>& only, unsigned seed) {
    const auto isOn = [&](ErrorSource source) {
        return only.empty() || std::find(only.begin(), only.end(), source) != only.end();
    };
    const geometry::Box& area = layout.area;
    const std::vector<Point> corners{
        area.least, {area.most.x, area.least.y}, area.most, {area.least.x, area.most.y}};
    std::mt19937 random(seed);
    const auto upTo = [&](double most) {
        return most > 0 ? std::uniform_real_distribution<double>(-most, most)(random) : 0.0;
    };
    std::normal_distribution<double> normal(0, 1);
    std::vector<double> out;
    for (int run = 0; run < runs; ++run) {
        PrintErrors errors;
        // Everything is drawn in every run, so that one source is the same with and without the others.
        const double scaleX = upTo(ranges.scale), scaleY = upTo(ranges.scale),
                     turn = upTo(ranges.printTurnDeg);
        const Point shift{upTo(ranges.printShiftMm), upTo(ranges.printShiftMm)};
        const Point feed{upTo(ranges.feedShiftMm), upTo(ranges.feedShiftMm)};
        const double askew = upTo(ranges.feedTurnDeg);
        const Point standing{upTo(ranges.standingMm), upTo(ranges.standingMm)};
        // A calibration read to half a tick four times over leaves that.
        const double left = registration::kReadingMm / 2 / std::sqrt(2.0);
        const Point measured = standing + Point{normal(random), normal(random)} * left;
        if (isOn(ErrorSource::Printer)) {
            errors.scaleX = 1 + scaleX;
            errors.scaleY = 1 + scaleY;
            errors.printTurnDeg = turn;
            errors.printShiftMm = shift;
        }
        if (isOn(ErrorSource::Feed)) {
            errors.feedShiftMm = feed;
            errors.feedTurnDeg = askew;
        }
        std::optional<registration::StandingError> accepted;
        if (isOn(ErrorSource::Standing)) {
            errors.standingMm = standing;
            if (remedies.isCalibrated)
                accepted = registration::StandingError{{}, measured.x, measured.y, 0, 0, {}};
        }
        errors.sensorMm = isOn(ErrorSource::Sensor) ? ranges.sensorMm : 0;
        errors.seed = static_cast<unsigned>(random());
        registration::Registration found; // without looking: where it is meant to lie
        if (remedies.isRead) {
            auto read = registration::registered(sensed(errors, layout));
            if (!read)
                continue; // refused: nothing is cut
            found = read.take();
        }
        out.push_back(cutBy(found, errors, accepted, layout, corners).worstMm);
    }
    std::sort(out.begin(), out.end());
    return out;
}

double coveredBy(const std::vector<double>& worst, double bleedMm) {
    if (worst.empty())
        return 0;
    const auto beyond = std::upper_bound(worst.begin(), worst.end(), bleedMm);
    return static_cast<double>(beyond - worst.begin()) / static_cast<double>(worst.size());
}

} // namespace thinline::devices
