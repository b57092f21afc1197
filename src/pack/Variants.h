// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

/// One design for different machines, tools and paper: the job with a decision or two changed, made again.
namespace thinline::pack {

/// Whether what Split divided is cut in parts.
enum class Parts { Divided, Whole };
inline constexpr std::array<const char*, 2> kPartsWords{"divided", "whole"};

/// What is not as the job has it.
struct Variant {
    std::string name; ///< a plain word, of folders too: "score-letter", "perforation-12-in-square-90"
    std::optional<design::FoldsAs> foldsAs = {};
    std::string sheetId = {}; ///< of the catalogue; empty for the job's own sheets, scraps and mat
    std::optional<design::SheetFormat> ownSheet = {}; ///< of another size, instead
    double percent = 100;                             ///< of the job's size
    Parts parts = Parts::Divided;
    long long closerSteps = 0; ///< looked for a closer layout in so many, where the sheets are laid anew
};
inline constexpr std::size_t kMostVariants = 100;

/// Returns every combination of some ways of making folds, sheets, sizes and parts, named; an empty list means as the job has it. A
/// sheet is one of the catalogue or a size, "200 x 280 mm".
/// Errors: InvalidArgument for a sheet that is none or that no mat takes, a size beyond 5 to 1000 per cent, a choice named twice; LimitExceeded above
///         kMostVariants.
base::Result<std::vector<Variant>> variantsOf(const std::vector<design::FoldsAs>& folds,
                                              const std::vector<std::string>& sheets,
                                              const std::vector<double>& percents,
                                              const std::vector<Parts>& parts = {});

/// Returns the job of a variant with its sheets. On other sheets a stranger has none of the person's scraps, pinned places and worn
/// spots: they are left out; the mat is the smallest that the sheet lies on.
/// Errors: those of job::scaled and job::make.
base::Result<job::State> madeAs(const job::State& state, const Variant& variant,
                                const base::Progress& progress = {});

/// A variant in numbers.
struct VariantRow {
    Variant variant;
    int loads = 0, sheets = 0, pieces = 0;
    double widthMm = 0, heightMm = 0;
    double smallestMm = 0;   ///< the longer side of the smallest piece
    int tooLarge = 0;        ///< copies that fit no sheet
    std::string whyNot = {}; ///< a sentence; empty when it can be cut
    std::string help = {};   ///< "at 92 % it fits"; empty where nothing is known to help
    bool canBeCut() const { return whyNot.empty(); }
};
/// Returns the numbers of a variant that was made.
VariantRow rowOf(const job::State& made, const Variant& variant);

} // namespace thinline::pack
