// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "document/JobEntries.h"

#include <string>
#include <vector>

namespace thinline::document {

/// The file unsaved work began in, and what it held then (SavedFile::checksum); no path when there was none.
struct Origin {
    std::string path;
    std::uint64_t checksum = 0;
};

/// Autosaved copies of unsaved work, one per running program, in a folder of their own. A copy whose program has ended
/// without discarding it is lost work that can be had back.
///
/// A copy has a key nobody else has, and a claim that ends with its program. It is a list (`KEY.copy`) and one file
/// for each entry of the job (`KEY.job.json-7`). A file is written once and never changed; what has changed is
/// written under a new name, then the list is replaced in one step, then the files nobody lists are removed. So a
/// piece that moved costs the decisions, not the outlines, and a kill at any moment leaves the old copy or the new
/// one.
///
/// Not safe to call from two threads at once.
class Recovery {
  public:
    Recovery(base::FileStore& store, std::string folder);

    /// Writes the copy. The first one that follows work taken back is read back before the old one goes.
    base::Status keep(const job::State& state, const Origin& origin);
    /// How many bytes the last `keep` wrote.
    std::size_t lastWritten() const { return m_lastWritten; }
    /// Forgets this program's copy: the work is saved or was thrown away on purpose.
    base::Status discard();

    struct Lost {
        std::string key;
        Origin origin;
    };
    /// Returns the copies whose programs do not run any more, by their keys.
    std::vector<Lost> findLost() const;
    /// Lost work, and the claim that keeps other windows from it.
    struct Claimed {
        Lost lost;
        job::State state;
        std::shared_ptr<base::FileLock> lock;
    };
    /// Reads lost work. Its copy stays as it is.
    /// Errors: NotFound when another window has it; those of the store and of stateOf.
    base::Result<Claimed> claim(const Lost& lost, const base::Progress& progress = {}) const;
    /// Makes lost work this program's own: its copy is ours from now on, the one we had is discarded.
    base::Status adopt(const Claimed& claimed);
    /// Throws lost work away.
    /// Errors: NotFound when another window has it.
    base::Status forget(const Lost& lost);

  private:
    std::string pathOf(const std::string& name) const { return m_folder + "/" + name; }
    base::Result<std::shared_ptr<base::FileLock>> lockOf(const std::string& key) const;
    base::Status beginCopy();
    base::Status removeUnlisted(const std::string& key, const std::vector<std::string>& listed);
    base::Status removeCopy(const std::string& key);

    base::FileStore& m_store;
    std::string m_folder;
    std::string m_key; ///< empty as long as there is no copy
    std::shared_ptr<base::FileLock> m_lock;
    bool m_isAdopted = false;                   ///< the copy on the disk is another program's
    JobEntries m_written;                       ///< as they lie on the disk
    std::map<std::string, std::string> m_files; ///< their files
    int m_next = 1;
    std::size_t m_lastWritten = 0;
};

} // namespace thinline::document
