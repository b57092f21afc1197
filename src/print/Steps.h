// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/StepKind.h"

#include <optional>

/// Printing on pieces, as steps: each lays one face on the pieces it is done to, or takes faces off.
namespace thinline::print {

enum class Action { Picture, Colour, Gradient, Text, SquareCode, LineCode, Outline, TakeOff };

struct ActionInfo : design::StepKind {
    Action action;
};
/// Every action, in the order in which it is offered; those that print in the order of design::Face::Kind.
const std::vector<ActionInfo>& actionInfos();
const ActionInfo& infoOf(Action action);
/// Returns what a step does, or null when it is none of printing.
const ActionInfo* infoOf(const design::Step& step);

/// Returns the step that prints a face on pieces.
/// Shape:  its place is kept in the own units of the first piece's source, so that it moves, turns and grows with it. On several
///         pieces it is one print that goes over all of them. For an outline, `drawn` is the piece whose outline it is.
design::Step printStep(const std::vector<design::Piece>& on, const design::Face& face,
                       const std::optional<design::PieceId>& drawn = {});
/// Returns the step that takes everything printed off a side of pieces.
design::Step takeOffStep(const std::vector<design::PieceId>& on, design::Side side);
/// Returns the face a step prints, where its first piece lies now; nothing for another step, or when that piece is not there.
std::optional<design::Face> faceOf(const design::Step& step, const design::Pieces& before);
/// Does a step.
/// Errors: InvalidArgument when a value is missing or there is no piece; Cancelled.
base::Result<design::Outcome> apply(const design::Pieces& pieces, const design::Step& step,
                                    const base::Progress& progress = {});

} // namespace thinline::print
