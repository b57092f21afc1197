// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "job/CutSteps.h"

/// What commands about loads share.
namespace thinline::batch {

/// Returns a job whose pieces lie on sheets.
base::Result<job::State> onSheets(Session& session, const std::string& path);

/// A job and its plan, and which loads are asked for: from the first one up to the last.
struct Asked {
    job::State state;
    design::CutPlan plan;
    size_t first = 0, last = 0;
};
/// Returns it for a job file, and the loads --load names, all without it.
base::Result<Asked> asked(Session& session, const std::string& path, const Options& options);
inline const OptionSpec kLoadOption{"--load", "NUMBER", "Only this one, as the plan counts them.", "", false};

/// Returns the parts of a text between signs; one at least.
std::vector<std::string> partedBy(const std::string& text, char sign);

/// Returns the job with what options say about how it is cut: --machine, --own, --set, --offset, --overcut, --tabs, --tiles.
base::Result<job::Job> cutAsSaid(const job::Job& job, const Options& options);
std::vector<OptionSpec> cutOptions();

} // namespace thinline::batch
