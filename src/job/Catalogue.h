// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/Load.h"
#include "design/Machine.h"

#include <string>
#include <vector>

namespace thinline::job {

/// What the program knows of mats, sheets, stocks and machines when a job begins. Read from data that ships inside the
/// program (assets/mats-and-sheets.json, drawer.json and machines.json), never written in code.
struct Catalogue {
    design::Formats formats;
    std::string defaultMatId;
    std::string defaultSheetId;
    std::vector<design::Stock> drawer;
    std::string backingStockId;            ///< stock of a new backing
    std::string plainStockId;              ///< stock of areas whose colour is the paper's
    std::vector<design::Machine> machines; ///< the usual one first

    const design::Machine* machine(const std::string& id) const;
};

/// Returns the catalogue in three JSON texts.
/// Errors: ParseError naming the entry: no JSON, a size that cannot be read, a name that is missing or
///         repeated, a default that does not exist.
base::Result<Catalogue> readCatalogue(const std::string& formatsJson, const std::string& drawerJson,
                                      const std::string& machinesJson);

/// Returns the catalogue that ships with the program.
const Catalogue& shippedCatalogue();

/// Returns "#rrggbb" read and written.
std::string colourText(raster::Rgb colour);
base::Result<raster::Rgb> readColour(const std::string& text);

} // namespace thinline::job
