// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/JobJson.h"
#include "job/FaceArt.h"
#include "job/Job.h"

/// What is printed, in the job file: the plan, and pictures and texts by their numbers.
namespace thinline::document {

/// The entries that hold a picture's file, and a text's letters.
std::string artEntry(int number);
std::string keptArtEntry(int number);

/// Adds what a job says of printing; nothing where it says nothing. Pictures and texts that no step prints are left out.
void putPrint(json& out, const job::Job& job);
/// Reads it back into a job whose steps are known.
void readPrint(const json& in, Unpacked& entries, job::Job& job);
/// Returns the numbers of what the steps of a job print.
std::vector<int> artInUse(const job::Job& job);

} // namespace thinline::document
