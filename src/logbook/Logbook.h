// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "logbook/Entry.h"

#include <memory>

namespace thinline::logbook {

/// Which entries are looked for; all that is said has to hold.
struct Search {
    std::string
        words; ///< each of them in a name, a word or a note; small and large letters alike (of a to z)
    std::string stockId; ///< only of this stock
    int most = 500;      ///< at most so many, 0 for all
};

/// How far a blade was drawn and a mat was cut on since they were new, as far as it was entered.
struct Wear {
    double bladeMm = 0, matMm = 0;
    bool isBladeSince = false, isMatSince = false; ///< since an entry that says so; else since the first one
};

/// The logbook: one SQLite file (docs/formats/logbook.md). What was entered stays through a kill; two programs may use
/// it at once. Every call is whole or changes nothing. A logbook may be handed from thread to thread.
class Logbook {
  public:
    enum class Open {
        Existing, ///< NotFound when there is none
        OrBegin
    };
    /// Opens a logbook.
    /// Errors: NotFound; IoError for a place that cannot be used; ParseError for a file that is no logbook, which stays as it is;
    ///         Unsupported for one a newer program wrote.
    static base::Result<Logbook> open(const std::string& path, Open how);
    Logbook(Logbook&&) noexcept;
    Logbook& operator=(Logbook&&) noexcept;
    ~Logbook();

    /// Enters something; returns it with its id and time.
    /// Errors: those of checkEntry; IoError when the disk is full or another program holds the logbook too long.
    base::Result<Entry> add(const Entry& entry);
    /// Enters several, all or none; returns them with their ids and times.
    base::Result<std::vector<Entry>> add(std::vector<Entry> entries);
    /// Enters what is not there yet, known by ids; those without one are new. Returns how many were entered: all or none.
    base::Result<int> take(const std::vector<Entry>& entries);
    /// Puts another entry in the place of the one of its id.
    base::Status change(const Entry& entry);
    base::Status remove(const std::string& id);

    /// Returns entries, the newest first.
    /// Cost:   O(entries) for words: 100,000 in 60 ms.
    base::Result<std::vector<Entry>> find(const Search& search = {}) const;
    /// Returns cuts and tiles with a machine, a blade and a tack, in stocks of this id or of this kind and near this weight, the newest
    /// first, at most 200.
    struct Like {
        std::string stockId, kind;
        double leastGrams = 0, mostGrams = 0;
        std::string machine;
        design::ToolKind blade = design::ToolKind::ShallowBlade;
        design::Tack tack = design::Tack::Middle;
    };
    base::Result<std::vector<Entry>> like(const Like& like) const;
    base::Result<int> count() const;
    /// Returns how worn a machine's blade and a mat of this format are.
    base::Result<Wear> wear(const std::string& machine, design::ToolKind blade, const std::string& mat) const;

  private:
    struct Database;
    explicit Logbook(std::unique_ptr<Database> database);
    std::unique_ptr<Database> m_database;
};

} // namespace thinline::logbook
