// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// What people call pieces and layers on the command line.
namespace thinline::batch {

/// Returns the pieces a text means: "all", an id ("1:area.12", with its parts), a layer (all in it), or a name as it is
/// shown ("area 12", "the H of HARBOUR"); several parted by commas.
/// Errors: NotFound (says what there is), InvalidArgument for a name that fits several pieces (says their ids).
base::Result<std::vector<design::PieceId>> piecesCalled(const job::State& state, const std::string& text);

/// Returns the layer of a name or number.
/// Errors: NotFound (says what layers there are), InvalidArgument for a name two layers share.
base::Result<design::LayerId> layerCalled(const job::State& state, const std::string& text);

/// Returns the source of a number or name.
/// Errors: NotFound (says what sources there are), InvalidArgument for a name two share.
base::Result<design::SourceId> sourceCalled(const job::State& state, const std::string& text);

/// Returns the way of making folds a word names.
/// Errors: InvalidArgument naming the three there are.
base::Result<design::FoldsAs> foldsAsCalled(const std::string& word);

/// Returns how a layer of a job is spoken of, whether something lies in it or not.
std::string nameOf(const job::State& state, const design::Layer& layer);

} // namespace thinline::batch
