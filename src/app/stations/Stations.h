// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/StationPanel.h"

namespace thinline::app {

/// Returns every station that is built, in the order people work.
std::vector<StationPanel*> makeStations(Workbench& bench, base::FileStore& store);

} // namespace thinline::app
