// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/Load.h"

#include <string>
#include <vector>

namespace thinline::job {

/// What the program knows of mats, sheets and stocks when a job begins. Read from data that ships inside the
/// program (assets/mats-and-sheets.json and assets/drawer.json), never written in code.
struct Catalogue {
    design::Formats formats;
    std::string defaultMatId;
    std::string defaultSheetId;
    std::vector<design::Stock> drawer;
    std::string backingStockId; ///< stock of a new backing
    std::string plainStockId;   ///< stock of areas whose colour is the paper's
};

/// Returns the catalogue in two JSON texts.
/// Errors: ParseError naming the entry: no JSON, a size that cannot be read, a name that is missing or
///         repeated, a default that does not exist.
base::Result<Catalogue> readCatalogue(const std::string& formatsJson, const std::string& drawerJson);

/// Returns the catalogue that ships with the program.
const Catalogue& shippedCatalogue();

/// Returns "#rrggbb" read and written.
std::string colourText(raster::Rgb colour);
base::Result<raster::Rgb> readColour(const std::string& text);

} // namespace thinline::job
