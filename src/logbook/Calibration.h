// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "logbook/Logbook.h"
#include "registration/StandingError.h"

#include <optional>

/// Calibrations of machines: how far blade and sensor were apart, day by day. A job takes one as its own decision; a later one never
/// changes it.
namespace thinline::logbook {

/// Returns the entry for a standing error, and back; nothing for another entry or one that was written by hand.
Entry calibrationEntry(const registration::StandingError& standing);
std::optional<registration::StandingError> calibrationIn(const Entry& entry);

/// Returns the newest calibration of a machine; nothing when it has none.
/// Errors: those of the logbook.
base::Result<std::optional<registration::StandingError>> newestCalibration(const Logbook& logbook,
                                                                           const std::string& machine);

/// "0.15 mm to the right, 0.10 mm up, spread 0.03 mm in 4 readings"
std::string standingText(const registration::StandingError& standing);

} // namespace thinline::logbook
