// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "design/Machine.h"

#include <map>

namespace thinline::design {

/// What somebody owns, whatever job is at hand.
struct Drawer {
    std::vector<Stock> stocks;
    std::map<std::string, std::vector<geometry::Box>> keepOuts =
        {};                              ///< by mat: worn spots, on which nothing is cut
    std::optional<Machine> machine = {}; ///< what it is cut with
    std::vector<Scrap> scraps = {};      ///< by their drawerId; no job's number, on no mat
    int nextScrap = 1;

    bool operator==(const Drawer&) const = default;
};

} // namespace thinline::design
