// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/CutPlan.h"
#include "job/Making.h"
#include "pack/Templates.h"
#include "sheets/Faults.h"

#include <map>
#include <string>
#include <vector>

/// The files that go into somebody's hands, read back before they do.
namespace thinline::pack {

struct PackedFile {
    std::string name;
    base::Bytes bytes;
};

/// What reading one written load back found.
struct FileCheck {
    std::string name;
    int expectedPieces = 0;
    int foundPieces = 0;
    double worstBoxMm = 0;   ///< largest difference of any box edge
    double worstAreaMm2 = 0; ///< largest difference of any piece's area
    std::string problem;     ///< empty when all is well

    bool isSound() const { return problem.empty(); }
};

struct Package {
    std::vector<PackedFile> files;
    std::vector<FileCheck> checks;     ///< one per load
    std::vector<sheets::Fault> faults; ///< of the arrangement; where there is one there are no files

    bool isSound() const;
};

/// What the package says about itself.
struct Labels {
    std::string jobName;
    std::vector<std::string> origins =
        {}; ///< where everything came from and what may be done with it, a line each
    design::FoldsAs foldsAs = design::FoldsAs::Score;
    std::vector<std::string> joins = {}; ///< how the parts of divided pieces go together, a line each
    Paper paper = {};                    ///< templates of what is cut by hand are printed on
    std::map<design::PieceId, double> boardInsetMm = {}; ///< of boards: how far inside the work they end
};

/// Returns what a package of a job says about itself.
/// Errors: those of job::joinsOf; Cancelled.
base::Result<Labels> labelsOf(const job::State& state, design::FoldsAs foldsAs,
                              const base::Progress& progress = {});

/// How far a file read back may differ: the writer keeps 0.1 um, a piece may have thousands of nodes.
inline constexpr double kBoxToleranceMm = 0.001;
inline constexpr double kAreaToleranceShare = 1e-4;

/// Returns one SVG per load, an overview picture and a list of contents, each load read back and compared with its
/// plan. An arrangement that would spoil card (sheets/Faults.h, `laidBy` is what it was laid by) is not written.
/// Errors: InvalidArgument when there is no load; Cancelled. A check that fails is no error: see
///         Package::checks, nor is a fault: see Package::faults.
/// Cost:   O(nodes) plus the overview's pixels; that of sheets::faultsOf.
base::Result<Package> makePackage(const design::Stack& stack, const design::Arrangement& arrangement,
                                  const design::CutPlan& plan, const sheets::ArrangeOptions& laidBy,
                                  const Labels& labels, const base::Progress& progress = {});

/// Returns what a written load holds against what it should hold: piece count, boxes, areas, lengths of open lines,
///         and no cut line twice.
FileCheck checkLoad(const std::string& name, const base::Bytes& svg, const design::PlannedLoad& planned,
                    const design::Load& load);

/// Returns faults as one sentence: the first ones, and how many more there are.
std::string faultText(const std::vector<sheets::Fault>& faults);

/// Returns "load-2-sea.svg".
std::string loadFileName(std::size_t index, const design::Load& load);

/// Writes a package into a folder, which is made when it is not there. The loads that an earlier package of this folder lists
/// and this one has not are taken away, so that nobody cuts them; other files stay.
/// Errors: the first file that could not be written; the others are written all the same, and nothing is taken away then.
base::Status writePackage(base::FileStore& store, const std::string& folder, const Package& package);

} // namespace thinline::pack
