// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "job/SourceSteps.h"

/// What all commands share that add a source to a job.
namespace thinline::batch {

/// A command with the options that say where the result goes.
CommandSpec withOutputs(CommandSpec spec);
/// Returns the job it is added to, or a new one, named like its file or else like what is in it.
base::Result<job::State> startOf(Session& session, const Options& options, const std::string& name);
/// Returns the stock that --stock names, else the plain one.
base::Result<std::string> stockOf(const job::Job& job, const Options& options);
/// Makes the job and writes what is asked for.
base::Status finish(Session& session, const job::State& start, const job::Noted& noted,
                    const Options& options);

} // namespace thinline::batch
