// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "document/JobFile.h"
#include "job/Catalogue.h"

namespace thinline::batch {

inline const job::Catalogue& catalogue() {
    return job::shippedCatalogue();
}

/// Returns "square12 (12 × 12 in), ..." for help and mistakes.
template <class Formats>
std::string idsOf(const Formats& formats) {
    std::string out;
    for (const auto& f : formats)
        out += (out.empty() ? "" : ", ") + f.id + " (" + f.name + ")";
    return out;
}

/// Reads a job with everything made up to the finish.
base::Result<job::State> loadState(Session& session, const std::string& path);
/// Returns a state with its pieces on sheets.
/// Errors: those of job::make; Degenerate without pieces, or with what keeps them from their sheets.
base::Result<job::State> arranged(const job::State& state);
/// Writes a job and says so.
base::Status saveState(Session& session, const std::string& path, const job::State& state);
/// Returns what follows from a job that came of another state.
base::Result<job::State> madeOf(base::Result<job::Job> next, const job::State& before = {},
                                job::Stage upTo = job::Stage::Finish);

/// Where a command writes the job it changed.
inline const OptionSpec kJobOption{"--job", "OUT.thinline",
                                   "Where to write the job; without it the same file.", "", false};
/// How pieces are named.
inline constexpr const char* kWhat = "\"all\", ids, names or layers as 'show' tells them, parted by commas.";
/// Returns the id of a stock that is called by its id, or by its name where only one has it.
/// Errors: NotFound, with what there is.
base::Result<std::string> stockSaid(const std::vector<design::Stock>& stocks, const std::string& said);
inline base::Result<std::string> stockSaid(const job::Job& job, const std::string& said) {
    return stockSaid(job.stocks, said);
}
/// The same of --stock; what is usual where it is not said.
base::Result<std::string> stockSaidOr(const job::Job& job, const Options& options, const std::string& usual);
/// Returns what --copies states.
base::Result<int> copiesSaid(const Options& options);
/// Whether an option is on. Errors: InvalidArgument for any word but on and off.
base::Result<bool> switchSaid(const std::string& option, const std::string& word);
/// Makes the job that came of another state and keeps it, as the options say.
base::Status keep(Session& session, const Options& options, base::Result<job::Job> next,
                  const job::State& before);

/// Prints a job's numbers and findings, and writes the report if --report asks for one.
base::Status conclude(Session& session, const job::State& state, const Options& options);

} // namespace thinline::batch
