// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/JobJson.h"
#include "job/Making.h"

/// Jobs of formats 1 to 3.
namespace thinline::document {

/// Returns the state of a job of an older format. Throws BadJob and json::exception like every reader here.
/// Errors: those of making; Cancelled.
base::Result<job::State> oldState(json in, Unpacked entries, const base::Progress& progress);

} // namespace thinline::document
