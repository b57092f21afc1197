// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"

/// How a job's derived parts are made again; for the steps in this folder only.
namespace thinline::document {

/// Derives pieces and stack from tracing, sources, sizes and the steps at Shape. What lay on sheets must be
/// laid anew.
/// Errors: those of the computations; Cancelled.
base::Result<Job> reshaped(Job job, const base::Progress& progress);

/// Derives the stack from shapes, paint and layer settings, and takes new layers into the settings.
void restack(Job& job);

} // namespace thinline::document
