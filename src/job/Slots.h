// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/SourceSteps.h"

/// Words that are replaced, one after the other, from a list.
namespace thinline::job {

inline constexpr size_t kMostNames = 2000;

/// Returns the names of a list: one a line, of a table its first column; quotes are taken off, empty lines left out.
/// Errors: InvalidArgument when there is none; LimitExceeded for more than kMostNames, or a name longer than a word may be,
///         naming the line.
base::Result<std::vector<std::string>> namesOf(const std::string& list);

/// Returns the word of a design in which names are set: the only one, or that of a number.
/// Errors: NotFound when there is none of that number; InvalidArgument when there are several and none was said.
base::Result<SourceId> slotOf(const Job& job, std::optional<SourceId> said);

/// Puts another text in the place of a word: as high as before, or as high as the room of the old one allows where it comes
/// out wider. What was built on the word is built on the new one.
/// Shape:  the room is the box of the word as it stands in `job`; baseline and left edge stay where they are.
/// Errors: as withWordChanged.
base::Result<Job> withSlotFilled(const Job& job, SourceId word, const std::string& text,
                                 const base::FontStore& fonts, const base::Progress& progress = {});

} // namespace thinline::job
