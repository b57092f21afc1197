// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Length.h"
#include "base/Result.h"
#include "design/CutPlan.h"
#include "design/Stack.h"
#include "formats/dxf/WriteDxf.h"

/// Loads as files of other kinds than the package's SVG: each from the plan, and from nothing else.
namespace thinline::pack {

struct LoadFile {
    std::string name; ///< "load-2-sea.dxf"
    base::Bytes bytes;
    std::size_t at = 0; ///< of one for each load: in the order of the plan
};

/// Returns a DXF file for each load, in the order of the plan.
std::vector<LoadFile> dxfFiles(const design::CutPlan& plan, const design::Arrangement& arrangement,
                               formats::dxf::Edition edition = formats::dxf::Edition::R12);

/// Returns one PDF of all loads, a page as large as its mat for each, at true size: cuts solid, scores and perforations dashed,
/// what is drawn grey, the sheets' edges fine and grey, with rulers and the load's name.
/// Errors: those of formats::pdf::writePages.
base::Result<LoadFile> pdfFile(const design::CutPlan& plan, const design::Arrangement& arrangement,
                               const design::Stack& stack, const std::string& jobName, base::LengthUnit unit);

} // namespace thinline::pack
