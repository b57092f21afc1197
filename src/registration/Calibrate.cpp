// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "registration/Calibrate.h"

#include "base/Length.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::registration {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Line;
using geometry::Point;

Line stretch(Point from, Point to) {
    return {from, {geometry::Segment::line(to)}};
}

/// A tick of a scale: how far along, and on which side of the line between the two scales.
Line tickAt(const Vernier& vernier, double along, double from, double to) {
    return vernier.isAcross ? stretch(vernier.zero + Point{along, from}, vernier.zero + Point{along, to})
                            : stretch(vernier.zero + Point{from, along}, vernier.zero + Point{to, along});
}

} // namespace

base::Result<std::vector<Vernier>> verniersIn(const Box& area) {
    constexpr double kLeastMm = 70;
    if (!(area.width() >= kLeastMm) || !(area.height() >= kLeastMm))
        return Error{Code::InvalidArgument,
                     "The marks leave " +
                         base::formatSize(area.width(), area.height(), base::LengthUnit::Millimetre) +
                         ", and a calibration sheet needs 70 by 70; choose a larger paper."};
    const double half = kTicksEachWay * kPrintedMm;
    std::vector<Vernier> out;
    for (const bool isFar : {false, true}) {
        const double x = isFar ? area.most.x : area.least.x, y = isFar ? area.most.y : area.least.y,
                     in = isFar ? -1 : 1;
        out.push_back({{x + in * (half + kTickMm), y + in * kTickMm}, true});
        out.push_back({{x + in * kTickMm, y + in * (half + 3 * kTickMm)}, false});
    }
    return out;
}

std::vector<Tick> printedTicks(const Vernier& vernier) {
    std::vector<Tick> out;
    for (int i = -kTicksEachWay; i <= kTicksEachWay; ++i)
        out.push_back({i, tickAt(vernier, i * kPrintedMm, -kTickMm * (i % 5 == 0 ? 1 : 0.7), 0)});
    return out;
}

std::vector<Line> cutTicks(const Vernier& vernier) {
    std::vector<Line> out;
    for (int i = -kTicksEachWay; i <= kTicksEachWay; ++i)
        out.push_back(tickAt(vernier, i * kCutMm, 0, kTickMm * 0.7));
    return out;
}

base::Result<StandingError> standingErrorOf(const std::vector<Vernier>& verniers,
                                            const std::vector<std::optional<double>>& readings) {
    if (readings.size() > verniers.size())
        return Error{Code::InvalidArgument, "The sheet has " + std::to_string(verniers.size()) +
                                                " scales, and " + std::to_string(readings.size()) +
                                                " readings were given."};
    std::array<std::vector<double>, 2> errors; // across, down
    for (std::size_t i = 0; i < readings.size(); ++i) {
        if (!readings[i])
            continue;
        if (!(std::abs(*readings[i]) <= kTicksEachWay))
            return Error{Code::InvalidArgument,
                         "Reading " + std::to_string(i + 1) +
                             " is not on its scale: type the number of the printed tick that "
                             "a cut one meets, -12 to 12."};
        errors[verniers[i].isAcross ? 0 : 1].push_back(*readings[i] * kReadingMm);
    }
    StandingError out;
    double squares = 0;
    int spare = 0;
    for (std::size_t k = 0; k < 2; ++k) {
        const auto& some = errors[k];
        if (some.empty())
            return Error{Code::InvalidArgument, std::string("Read at least one scale that lies ") +
                                                    (k == 0 ? "across" : "upright") + "."};
        const auto [least, most] = std::minmax_element(some.begin(), some.end());
        if (*most - *least > kMostSpreadMm)
            return Error{
                Code::Degenerate,
                "Two readings in one direction differ by " + base::formatNumber(*most - *least, 2) +
                    " mm. Read them again; if that is right, the sheet lay askew or slipped: cut another."};
        double mean = 0;
        for (const double error : some)
            mean += error / static_cast<double>(some.size());
        for (const double error : some)
            squares += (error - mean) * (error - mean);
        spare += static_cast<int>(some.size()) - 1;
        (k == 0 ? out.rightMm : out.downMm) = mean;
        out.readings += static_cast<int>(some.size());
    }
    out.spreadMm = spare > 0 ? std::sqrt(squares / spare) : 0;
    return out;
}

} // namespace thinline::registration
