// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "design/Machine.h"

#include <string>
#include <vector>

/// What was cut how, and what came of it: the record of one person's machine. Lengths in mm, forces in gram-force.
namespace thinline::logbook {

/// What an entry is about.
enum class What {
    Cut,      ///< a stock of a load
    Tile,     ///< a test tile
    NewBlade, ///< from here on the metres of a blade count anew
    NewMat,   ///< and those of a mat
    Fit,      ///< the size or the offset step that fitted
    Note,
    Calibration ///< how far blade and sensor are apart; its note tells it, see logbook/Calibration.h
};
inline constexpr std::array<const char*, 7> kWhatWords{"cut", "tile", "new blade", "new mat",
                                                       "fit", "note", "calibration"};

/// What came of a cut.
enum class Outcome { Clean, NotThrough, Torn, Slipped, Other };
inline constexpr std::array<const char*, 5> kOutcomeWords{"clean", "not through", "torn", "slipped", "other"};

/// One line of the logbook. What an entry does not say is empty or 0.
struct Entry {
    std::string id;   ///< 16 hexadecimal digits, the logbook's own; empty before it is taken
    std::string when; ///< "2026-05-02T14:03:00Z"; empty is now
    What what = What::Cut;
    Outcome outcome = Outcome::Clean; ///< of a cut or a tile

    std::string job;
    int load = 0; ///< of its sheets, from 1

    std::string stockId, stock; ///< and its name
    std::string kind;           ///< a word of job::kindWord
    double thicknessMm = 0, gramsPerM2 = 0;

    std::string machine; ///< the id of a profile
    design::ToolKind blade = design::ToolKind::ShallowBlade;
    double forceGf = 0;
    int passes = 1;
    double mmPerS = 0; ///< 0 is as fast as the machine cuts
    design::Tack tack = design::Tack::Middle;
    std::string mat;   ///< the id of its format
    double lineMm = 0; ///< the blade was drawn through card, all passes together
    int sheets = 0;    ///< whole ones that were used

    double widthMm = 0, heightMm = 0; ///< the finished size
    double stepMm = 0;                ///< the offset step that fitted
    std::string note;

    bool operator==(const Entry&) const = default;
};

inline constexpr std::size_t kMostNote = 2000;

/// Returns why an entry cannot be: a time that is none, a number that is none, an overlong word.
base::Status checkEntry(const Entry& entry);

/// Returns an entry in one line: "2026-05-02, lichen: cut clean at 210 gf, shallow blade".
std::string entryText(const Entry& entry);

/// Returns a time as entries bear it, in UTC; now without one.
std::string timeWord(long long secondsSince1970);
std::string nowWord();

} // namespace thinline::logbook
