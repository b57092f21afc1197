// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "inspect/Inspect.h"
#include "job/Slots.h"

/// One design for many people: the job with another word in the place of one of its words, made again for each.
namespace thinline::pack {

struct Named {
    std::string name;
    std::string fileName;      ///< without folder and ending; no two alike
    job::State state;          ///< made up to the finish
    int spoils = 0, risks = 0; ///< findings that spoil card, that risk it
    double widthMm = 0;        ///< of what stands in the slot
};

/// Returns the job once for every name, those with findings first, otherwise in the list's order.
/// Errors: as job::withSlotFilled, led by the name; Cancelled.
/// Cost:   setting, making and inspecting the job for every name; what the word does not change is taken over.
base::Result<std::vector<Named>> forNames(const job::State& state, const job::Slot& slot,
                                          const std::vector<std::string>& names, const base::FontStore& fonts,
                                          const design::Formats& formats,
                                          const base::Progress& progress = {});

/// Returns all of them in one job, side by side, in the order of `names`, to be laid on sheets and cut together; of this name.
/// Errors: those of job::together and job::make; Cancelled.
base::Result<job::State> asOneJob(const std::vector<Named>& names, const std::string& name,
                                  const base::Progress& progress = {});

} // namespace thinline::pack
