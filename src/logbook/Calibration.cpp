// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Calibration.h"

#include "base/Length.h"

#include <cmath>
#include <cstdio>

namespace thinline::logbook {

namespace {
constexpr const char* kPattern = "blade beside sensor %lf mm right, %lf mm down, spread %lf mm, %d readings";
}

std::string standingText(const registration::StandingError& standing) {
    const auto along = [](double mm, const char* plus, const char* minus) {
        return base::formatNumber(std::abs(mm), 2) + " mm " + (mm < 0 ? minus : plus);
    };
    return along(standing.rightMm, "to the right", "to the left") + ", " +
           along(standing.downMm, "down", "up") + ", spread " + base::formatNumber(standing.spreadMm, 2) +
           " mm in " + std::to_string(standing.readings) + " readings";
}

Entry calibrationEntry(const registration::StandingError& standing) {
    Entry out;
    out.what = What::Calibration;
    out.machine = standing.machine;
    char text[200];
    std::snprintf(text, sizeof text,
                  "blade beside sensor %.4f mm right, %.4f mm down, spread %.4f mm, %d readings",
                  standing.rightMm, standing.downMm, standing.spreadMm, standing.readings);
    out.note = text;
    return out;
}

std::optional<registration::StandingError> calibrationIn(const Entry& entry) {
    constexpr double kMostMm = 10;
    registration::StandingError out;
    if (entry.what != What::Calibration ||
        std::sscanf(entry.note.c_str(), kPattern, &out.rightMm, &out.downMm, &out.spreadMm, &out.readings) !=
            4 ||
        !(std::abs(out.rightMm) <= kMostMm) || !(std::abs(out.downMm) <= kMostMm) || !(out.spreadMm >= 0))
        return std::nullopt;
    out.machine = entry.machine;
    out.day = entry.when.substr(0, 10);
    return out;
}

base::Result<std::optional<registration::StandingError>> newestCalibration(const Logbook& logbook,
                                                                           const std::string& machine) {
    Search search;
    search.words = kWhatWords[static_cast<std::size_t>(What::Calibration)];
    search.most = 0;
    const auto entries = logbook.find(search);
    if (!entries)
        return entries.error();
    for (const Entry& entry : *entries)
        if (const auto standing = calibrationIn(entry); standing && standing->machine == machine)
            return standing;
    return std::optional<registration::StandingError>{};
}

} // namespace thinline::logbook
