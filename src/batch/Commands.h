// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "base/PageReader.h"

#include <ostream>
#include <string>
#include <vector>

/// The batch tool: parse arguments, call the same computations as the window, print.
namespace thinline::batch {

inline constexpr int kDone = 0;
inline constexpr int kFailed = 1;
inline constexpr int kBadCall = 2;

/// Runs one call. `arguments` exclude the program's name; `demoFolder` holds the demo's files.
/// Returns the exit code. Errors are one line on `err`.
int run(const std::vector<std::string>& arguments, base::FileStore& store, const base::FontStore& fonts,
        const base::PageReader& pages, const std::string& demoFolder, std::ostream& out, std::ostream& err);

} // namespace thinline::batch
