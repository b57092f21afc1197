// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "document/Catalogue.h"
#include "document/Job.h"

namespace thinline::batch {

inline const document::Catalogue& catalogue() {
    return document::shippedCatalogue();
}

/// Returns "square12 (12 × 12 in), ..." for help and mistakes.
template <class Formats>
std::string idsOf(const Formats& formats) {
    std::string out;
    for (const auto& f : formats)
        out += (out.empty() ? "" : ", ") + f.id + " (" + f.name + ")";
    return out;
}

/// Prints a job's numbers and findings, and writes the report if --report asks for one.
base::Status conclude(Session& session, const document::Job& job, const Options& options);

} // namespace thinline::batch
