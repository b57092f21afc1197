// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "pack/Leaf.h"
#include "pack/Needs.h"
#include "pack/Templates.h"

/// Assembly sheets: pages that show a stranger how a work is put together.
namespace thinline::pack {

struct AssemblySheets {
    std::vector<formats::pdf::Page> pages;
    std::vector<std::size_t> pageOfStep; ///< in the order in which steps are numbered
    assembly::Instructions told;
};

/// Returns the pages of a work: the finished picture, what is needed and what to take care of, all pieces by number, the layers
/// apart from one another, then step by step.
/// Shape:  readable printed black and white. No text lies on another one.
/// Errors: InvalidArgument without pieces, and for paper smaller than 120 x 160 mm; those of job::instructionsOf; Cancelled.
/// Cost:   that of instructionsOf and finishedPicture, and a drawing of its assembly for each step.
base::Result<AssemblySheets> assemblySheets(const job::State& state, const Paper& paper,
                                            const base::Progress& progress = {});

/// Returns the steps as plain text, numbered as on the pages, with the keys by which they are given other words.
std::string stepsText(const assembly::Instructions& told);

} // namespace thinline::pack
