// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "logbook/Entry.h"

/// The logbook as plain text, for spreadsheets and other programs (docs/formats/logbook.md).
namespace thinline::logbook {

/// Returns entries as CSV (RFC 4180, one line of names first).
std::string csvOf(const std::vector<Entry>& entries);
/// Returns entries as JSON, a list of objects with the names of the CSV's columns.
std::string jsonOf(const std::vector<Entry>& entries);

inline constexpr std::size_t kMostBytes = 64u << 20;

/// Reads CSV or JSON, whichever it is. Columns may come in any order and may be missing; those nobody knows are not read.
/// Errors: ParseError with the line, or the number of the entry, for what cannot be; LimitExceeded above kMostBytes.
base::Result<std::vector<Entry>> readEntries(const std::string& text);

} // namespace thinline::logbook
