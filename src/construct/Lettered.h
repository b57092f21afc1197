// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "construct/Construction.h"

/// Words in constructions: letters as shapes, each by itself.
namespace thinline::construct {

/// A letter, its ink beginning at x = 0, standing on the baseline at y = 0.
struct Sign {
    std::string text;
    bool isAfterSpace = false;
    std::vector<geometry::Shape> shapes; ///< connected areas, the largest first
    double wide = 0, high = 0;           ///< of its ink; high is what stands above the baseline
};

/// Returns the letters of a word, capitals so high; of equal heights every letter fills it.
/// Errors: those of lettering::setWord.
base::Result<std::vector<Sign>> signsOf(const lettering::Letters& letters, double capitalMm,
                                        bool hasEqualHeights, const base::Progress& progress);

/// The letters of a text as they are counted, one of several bytes as one; spaces too.
std::vector<std::string> splitSigns(const std::string& text);

/// "the letters do not meet" as a sentence by itself.
std::string sentence(std::string words);

} // namespace thinline::construct
