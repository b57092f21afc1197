// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QVector>

namespace thinline::app {

/// The nine stations in the order people work.
enum class Station { Source, Trace, Shape, Size, Folds, Split, Sheets, Cut, Pack };
inline constexpr int kStationCount = 9;

struct StationInfo {
    Station station;
    const char* name;
    const char* promise; ///< for stations that are not built: what they will do, in one line; null when built
};
const QVector<StationInfo>& stationInfos();

} // namespace thinline::app
