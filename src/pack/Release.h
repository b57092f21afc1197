// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "pack/Package.h"
#include "pack/ReadBack.h"
#include "pack/Variants.h"

#include <functional>

/// What is given to somebody else: a design in every variant and format, in a tree of plain names, read back before it leaves.
namespace thinline::pack {

enum class Format { Svg, Dxf, Pdf, Plotter, SvgFilled, DxfSplines, ByHand };
inline constexpr std::array<const char*, 7> kFormatWords{"svg",        "dxf",        "pdf",    "plotter",
                                                         "svg-filled", "dxf-curves", "by-hand"};

struct Release {
    std::vector<PackedFile> files; ///< by paths within the package: "1 cut/score-letter/svg/load-1-sea.svg"
    std::vector<VariantRow> rows;  ///< all that were asked for; those that cannot be cut have no files
    std::vector<ReadBack> checks;  ///< of every file that a machine or a printer takes
    std::vector<std::string> faults = {}; ///< of arrangements that would spoil card, a sentence each
    std::string rights =
        {}; ///< why it may not be given on as it is, a sentence; empty when nothing is known against it
    bool isSound() const;
    double worstMm() const; ///< the largest difference that was found
};

inline constexpr const char* kReadMe = "read me.txt";
inline constexpr const char* kChecksums = "checksums.txt";

/// Returns the files of a job in some variants and formats: loads, templates of what a hand cuts, a picture of each, a list of
/// pieces, a page that tells what is in it and whose it is, checksums.
/// Shape:  a variant that cannot be cut is told in `rows` and has no files. The same job gives the same bytes.
/// Errors: InvalidArgument without variants, formats or pieces; Degenerate when no variant can be cut; those of making; Cancelled.
/// Cost:   for each variant that of making it and of makePackage.
base::Result<Release> makeRelease(const job::State& state, const std::vector<Variant>& variants,
                                  const std::vector<Format>& formats, const base::Progress& progress = {});

/// Returns variants in numbers, without files: for a table.
/// Errors: those of madeAs; Cancelled.
base::Result<std::vector<VariantRow>> tableOf(const job::State& state, const std::vector<Variant>& variants,
                                              const base::Progress& progress = {});

/// What writing a release did beside writing it.
struct Replaced {
    int gone = 0;                       ///< files of an earlier release that are not in this one
    std::vector<std::string> kept = {}; ///< of those, what somebody has changed since: it stays
};
/// Writes a release into a folder, which is made when it is not there. What an earlier release left there by its checksums and this
/// one has not is taken away, unless somebody changed it; files of others stay.
/// Errors: those of writing. Then what was written is taken away or put back as it was, as far as the disk lets that happen: nothing
///         is left half-written, and the earlier list of checksums stays.
base::Result<Replaced> writeRelease(base::FileStore& store, const std::string& folder,
                                    const Release& release);

/// Returns a release as one zip, in a folder of that name.
/// Errors: those of formats::zip::writeArchive.
base::Result<base::Bytes> zipOf(const Release& release, const std::string& folder);

} // namespace thinline::pack
