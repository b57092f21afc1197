// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Stations.h"

#include "app/stations/CutStation.h"
#include "app/stations/FoldsStation.h"
#include "app/stations/PackStation.h"
#include "app/stations/ShapeStation.h"
#include "app/stations/SheetsStation.h"
#include "app/stations/SizeStation.h"
#include "app/stations/SourceStation.h"
#include "app/stations/SplitStation.h"
#include "app/stations/trace/TraceStation.h"

namespace thinline::app {

std::vector<StationPanel*> makeStations(Workbench& bench, base::FileStore& store) {
    return {new SourceStation(bench), new TraceStation(bench), new ShapeStation(bench),
            new SizeStation(bench),   new FoldsStation(bench),      new SplitStation(bench),
            new SheetsStation(bench, store), new CutStation(bench, store), new PackStation(bench, store)};
}

} // namespace thinline::app
