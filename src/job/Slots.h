// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/SourceSteps.h"

/// Words that are replaced, one after the other, from a list: cut ones, those of works made from measures, printed ones and codes.
namespace thinline::job {

inline constexpr size_t kMostNames = 2000;

struct Names {
    std::vector<std::string> all;
    std::string heading = {}; ///< the first line, where it only says that names follow; it is none of them
};
/// Returns the names of a list: one a line, of a table its first column; quotes are taken off, empty lines left out.
/// Errors: InvalidArgument when there is none; LimitExceeded for more than kMostNames, or a name longer than a word may be,
///         naming the line.
base::Result<Names> namesOf(const std::string& list);

/// A word of a design that another one can take the place of: that of a source, or what a step prints.
struct Slot {
    SourceId source{};
    design::StepId print{};
    bool operator==(const Slot&) const = default;
};
struct NamedSlot {
    Slot slot;
    std::string called; ///< "the word HARBOUR", "the printed text TIDE"
    std::string number; ///< by which it is chosen: "2", "print 5"
};
/// Returns every slot of a design, sources first.
std::vector<NamedSlot> slotsOf(const Job& job);
/// Returns the slot in which names are set: the only one, or the one of that number.
/// Errors: NotFound when there is none, or none of that number; InvalidArgument when there are several and none was said.
base::Result<NamedSlot> slotOf(const Job& job, const std::optional<std::string>& number);

/// Puts another text in the place of a word: as high as before, or as high as the room of the old one allows where it comes
/// out wider. What was built on the word is built on the new one.
/// Shape:  the room is the box of the word as it stands in `job`. Of a cut word baseline and left edge stay where they are, of a
///         printed one baseline and middle; a code fills the place of the old one; a work made from measures is made anew
///         with its word.
/// Errors: as withWordChanged, withConstructionChanged, print::codeOf; NotFound for a slot that is gone.
base::Result<Job> withSlotFilled(const Job& job, const Slot& slot, const std::string& text,
                                 const base::FontStore& fonts, const base::Progress& progress = {});
/// Returns how wide what stands in a slot comes out, mm.
double slotWidthMm(const Job& job, const Slot& slot);

} // namespace thinline::job
