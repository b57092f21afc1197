// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace thinline::registration {

/// How far a machine cuts from where its sensor says it is, measured on a calibration sheet.
struct StandingError {
    std::string machine; ///< its id
    double rightMm = 0, downMm = 0;
    double spreadMm = 0; ///< standard deviation of one reading
    int readings = 0;
    std::string day; ///< "2026-11-30"

    bool operator==(const StandingError&) const = default;
};

} // namespace thinline::registration
