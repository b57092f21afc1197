// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "base/PageReader.h"
#include "batch/Options.h"
#include "geometry/Point.h"

#include <chrono>
#include <ostream>
#include <string>

namespace thinline::batch {

/// Everything a command needs, and where it says what it did.
struct Session {
    base::FileStore& store;
    const base::FontStore& fonts;
    const base::PageReader& pages;
    std::string demoFolder;
    std::ostream& out;
    std::chrono::steady_clock::time_point begun = std::chrono::steady_clock::now();

    double seconds() const {
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
    }
};

struct Command {
    CommandSpec spec;
    base::Status (*call)(Session&, const Options&);
};

/// Returns a path without its folders.
std::string fileOf(const std::string& path);

/// Returns a length in mm; "0" is one here.
base::Result<double> lengthOrZero(const std::string& text);

/// Returns the points of a text: "10mm,25mm", several parted by blanks.
/// Errors: InvalidArgument naming the option.
base::Result<std::vector<geometry::Point>> pointsOf(const std::string& name, const std::string& text);

/// Returns the one point of a text.
base::Result<geometry::Point> pointOf(const std::string& name, const std::string& text);
/// Returns the words of a text that commas part.
std::vector<std::string> partedByCommas(const std::string& text);

/// Returns the number an option states.
/// Errors: InvalidArgument naming option and range.
base::Result<double> numberBetween(const std::string& name, const std::string& text, double least,
                                   double most);

/// Writes a text file and says so.
base::Status writeText(Session& session, const std::string& path, const std::string& text);

} // namespace thinline::batch
