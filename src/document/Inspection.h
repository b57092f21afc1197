// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"
#include "inspect/Inspect.h"

namespace thinline::document {

/// Returns a job as the inspector sees it. The job must outlive it.
inline inspect::Subject subjectOf(const Job& job, const design::Formats& formats) {
    inspect::Subject subject{job.stack.get(),
                             &formats,
                             job.tracing.get(),
                             sizingOf(job),
                             job.shapes.get(),
                             job.arrangement.get(),
                             {},
                             job.shaped.get(),
                             job.sets,
                             job.fits,
                             job.freePieces,
                             job.passedOver};
    if (const auto options = arrangeOptions(job, formats))
        subject.sheetName = options->sheet.name;
    return subject;
}

} // namespace thinline::document
