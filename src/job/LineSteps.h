// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "folds/Steps.h"
#include "job/Making.h"

#include <map>

/// What is said of single lines, kept where it reads best: in the step that laid the line, if it laid no other.
namespace thinline::job {

/// Says what lines do: values of folds::Action::Change by their names.
/// Shape:  a line with a step of its own is said there, unless a later step speaks of it; all others are said in one
///         step more, or in the last one where that speaks of the same lines.
/// Errors: InvalidArgument when there are no lines, or a value is out of range.
base::Result<Job> withLinesSaid(const State& state, const std::vector<design::LineOf>& lines,
                                const std::map<std::string, design::Value>& said);

/// Says something of a panel by a step of folds::Action::SayPanel; where the last step spoke of the same place of the same
/// piece, it goes into that one.
/// Errors: as withStep.
base::Result<Job> withPanelSaid(const State& state, const design::Step& step);

/// Takes lines off their pieces: a step that laid nothing else is taken out, all others are taken off by one step more.
/// Errors: InvalidArgument when there are no lines.
base::Result<Job> withoutLines(const State& state, const std::vector<design::LineOf>& lines);

/// Puts panes behind windows, in a layer at the back of the work.
/// Shape:  cut from the stock; without one from the first that lets light through, and a translucent paper is added to the
///         job where there is none.
/// Errors: NotFound for an unknown stock; InvalidArgument when there are no windows or the margin is out of range.
base::Result<Job> withPanes(const State& state, const std::vector<design::OpeningOf>& windows,
                            double marginMm, const std::string& stockId = "");
/// Lines the panel at a place of the design with a stock, in a layer at the back.
/// Errors: as withPanes.
base::Result<Job> withLining(const State& state, const design::Piece& piece, geometry::Point at,
                             double marginMm, const std::string& stockId);
/// Returns which of some pieces goes into which window: the frame is the largest piece that has any, and each of the
/// others takes the window it lies over, or the nearest one that is free.
/// Errors: InvalidArgument for fewer than two pieces, without a window, or for more motifs than windows.
base::Result<std::vector<folds::MotifPair>> motifPairs(const std::vector<const design::Piece*>& pieces);
/// Returns the pairs in which each window of some frames gets a motif; there may be fewer motifs than windows, they take turns.
/// Errors: InvalidArgument without a window or a motif, or for more motifs than windows.
base::Result<std::vector<folds::MotifPair>> motifPairsInTurn(const std::vector<design::OpeningOf>& windows,
                                                             const std::vector<const design::Piece*>& motifs);
/// Returns the windows of a piece: its openings.
std::vector<design::OpeningOf> windowsOf(const design::Piece& piece);

/// Backs the whole with board, smaller all around by `insetMm`: a new piece behind everything. Without a stock it is the
/// first board there is, else one of its own that is cut by hand.
/// Errors: InvalidArgument without pieces; NotFound for a stock that is not there.
base::Result<Job> withBoard(const State& state, double insetMm, const std::string& stockId = "",
                            const base::Progress& progress = {});

} // namespace thinline::job
