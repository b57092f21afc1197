// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "document/Job.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace thinline::document {

/// Autosaved copies of unsaved work, one per running program, in a folder of their own. A copy whose program
/// has ended without discarding it is lost work that can be had back.
class Recovery {
  public:
    /// `isRunning` tells whether the program with this process number still runs.
    Recovery(base::FileStore& store, std::string folder, int ownProcess, std::function<bool(int)> isRunning);

    /// Writes the copy. `originPath` is the file the job was opened from or saved to; may be empty.
    base::Status keep(const Job& job, const std::string& originPath);
    /// Forgets this program's copy: the work is saved or was thrown away on purpose.
    base::Status discard();

    struct Lost {
        std::string path;
        std::string originPath;
        int process = 0;
    };
    /// Returns the copies whose programs no longer run, oldest process number first.
    std::vector<Lost> findLost() const;
    base::Status forget(const Lost& lost);

  private:
    std::string pathOf(int process, const char* ending) const;

    base::FileStore& m_store;
    std::string m_folder;
    int m_own;
    std::function<bool(int)> m_isRunning;
};

} // namespace thinline::document
