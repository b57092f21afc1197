// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"
#include "job/Making.h"

/// What a command line says of mats, sheets and scraps.
namespace thinline::batch {

/// The options that say it, for a command's list.
std::vector<OptionSpec> planOptions();

/// Returns the job with the sheets a text says: "a4", "long24,lamp=letter", "200x150mm".
/// Errors: InvalidArgument naming the sheet or stock.
base::Result<job::Job> withSheets(const job::State& state, const std::string& sheets);
/// Returns a scrap of a stock: a size such as "80x120mm", or a drawing of its outline.
/// Errors: those of reading the drawing.
base::Result<design::Scrap> scrapCalled(Session& session, const std::string& stockId, const std::string& text);
/// Errors: InvalidArgument, with all there are, when no mat is called so.
base::Status matSaid(const std::string& id);

/// Returns the job with the plan that the options say. Scraps and what is kept free of a mat stay and are added to.
/// Errors: InvalidArgument naming the option; those of reading an outline.
base::Result<job::Job> plannedBy(Session& session, const job::State& state, const Options& options);

} // namespace thinline::batch
