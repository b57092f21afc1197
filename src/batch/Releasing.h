// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "job/Making.h"

/// Packing for somebody else: variants and formats.
namespace thinline::batch {

std::vector<OptionSpec> releaseOptions();
/// Whether any of them was said, or a zip is to be written.
bool asksForRelease(const Options& options);
/// Packs a job so; with --table it only tells the numbers.
base::Status packRelease(Session& session, const job::State& state, const Options& options);

} // namespace thinline::batch
