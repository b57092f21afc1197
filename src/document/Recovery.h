// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "document/JobEntries.h"

#include <functional>
#include <string>
#include <vector>

namespace thinline::document {

/// Autosaved copies of unsaved work, one per running program, in a folder of their own. A copy whose program has ended
/// without discarding it is lost work that can be had back.
///
/// A copy is a list (`100.copy`) and one file for each entry of the job (`100.job.json-7`). A file is written once
/// and never changed; what has changed is written under a new name, then the list is replaced in one step, then the
/// files nobody lists are removed. So a piece that moved costs the decisions, not the outlines, and a kill at any
/// moment leaves the old copy or the new one.
class Recovery {
  public:
    /// `isRunning` tells whether the program with this process number still runs.
    Recovery(base::FileStore& store, std::string folder, int ownProcess, std::function<bool(int)> isRunning);

    /// Writes the copy. `originPath` is the file the job was opened from or saved to; may be empty. Not safe to call
    /// from two threads at once.
    base::Status keep(const job::State& state, const std::string& originPath);
    /// How many bytes the last `keep` wrote.
    std::size_t lastWritten() const { return m_lastWritten; }
    /// Forgets this program's copy: the work is saved or was thrown away on purpose.
    base::Status discard();

    struct Lost {
        std::string originPath;
        int process = 0;
    };
    /// Returns the copies whose programs no longer run, oldest process number first.
    std::vector<Lost> findLost() const;
    /// Returns the work in a copy.
    /// Errors: those of the store and of stateOf.
    base::Result<job::State> read(const Lost& lost, const base::Progress& progress = {}) const;
    base::Status forget(const Lost& lost);

  private:
    std::string pathOf(const std::string& name) const { return m_folder + "/" + name; }
    base::Status removeUnlisted(int process, const std::vector<std::string>& listed);

    base::FileStore& m_store;
    std::string m_folder;
    int m_own;
    std::function<bool(int)> m_isRunning;
    JobEntries m_written;                       ///< as they lie on the disk
    std::map<std::string, std::string> m_files; ///< their files
    int m_next = 1;
    std::size_t m_lastWritten = 0;
};

} // namespace thinline::document
