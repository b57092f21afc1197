// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// How a work is put together after cutting, and what somebody decides about it.
namespace thinline::job {

/// Returns the steps in which the finished work is put together.
/// Errors: InvalidArgument without pieces; those of assembly::instructionsOf; Cancelled.
base::Result<assembly::Instructions> instructionsOf(const State& state, const base::Progress& progress = {});

/// Returns the finished work as it is put together; it refers to the state.
assembly::Work workOf(const State& state, design::RowMemory& rows);

/// Notes something the maker brings herself: needed, and put into what is made on a piece where one is said.
/// Errors: InvalidArgument for no words or more than kMostWords letters; NotFound for a piece that is not there; LimitExceeded
///         above kMostItems.
base::Result<Job> withItem(const State& state, const assembly::OwnItem& item);
/// Errors: NotFound for an item that is not there.
base::Result<Job> withoutItem(const Job& job, std::size_t item);

/// Says whether pieces bear their numbers, and how.
Job withNumbers(const Job& job, assembly::Numbers numbers);
/// Says for whom the work is made.
Job withGoesTo(const Job& job, GoesTo goesTo);

/// Says a step in one's own words, by its key; without any it is told as the program tells it.
/// Errors: InvalidArgument for more than kMostWords letters, or no key.
base::Result<Job> withStepText(const Job& job, const std::string& key, const std::string& text);

} // namespace thinline::job
