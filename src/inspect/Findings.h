// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "inspect/Inspect.h"

/// How findings are gathered; for the sources of this folder only.
namespace thinline::inspect {

/// Takes cases of any kind in any order and puts those of one kind together.
class Gathering {
  public:
    void add(Severity severity, Kind kind, const std::string& remedy, Case one,
             const std::string& mendWords = "");
    /// Returns the findings, what spoils card first.
    std::vector<Finding> take();

  private:
    std::vector<Finding> m_findings; ///< by kind, in the order of their first cases
};

/// What every check looks at.
struct Look {
    const job::State& state;
    const design::Stack& work;
    const design::Formats& formats;
    const Limits& limits;
    Memory& memory;
    const base::Progress& progress;

    bool isHidden(const design::Laid& laid) const { return work.layerOf(laid).isHidden; }
    /// Its name at the beginning of a sentence.
    std::string called(const design::Laid& laid) const;
};

/// Returns a text with its first letter large.
std::string capitalised(std::string text);
std::string inMm(double lengthMm);
std::string sizeOf(const geometry::Box& box);

base::Status inspectPieces(const Look& look, Gathering& into);
base::Status inspectSheets(const Look& look, const std::string& sheetName, Gathering& into);
void inspectScales(const Look& look, Gathering& into);
base::Status inspectHeights(const Look& look, Gathering& into);
base::Status inspectFits(const Look& look, Gathering& into);
base::Status inspectConstructions(const Look& look, Gathering& into);
void inspectFrame(const Look& look, Gathering& into);
base::Status inspectLines(const Look& look, Gathering& into);
base::Status inspectOverFolds(const Look& look, Gathering& into);
void inspectSplits(const Look& look, Gathering& into);
void inspectWays(const Look& look, Gathering& into);
void inspectMarksAndFoam(const Look& look, Gathering& into);
void inspectRights(const Look& look, Gathering& into);
void inspectPrint(const Look& look, Gathering& into);
base::Status inspectClusters(const Look& look, Gathering& into);

} // namespace thinline::inspect
