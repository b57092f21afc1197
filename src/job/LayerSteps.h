// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <functional>
#include <optional>

/// The steps that lay pieces in layers and order these; microseconds each.
namespace thinline::job {

/// Lays pieces in the uppermost layer of a stock; one is made, on top, when there is none. Nothing changes for an
/// unknown stock.
Job painted(const Job& job, const std::vector<design::PieceId>& pieces, const std::string& stockId);
/// Lays pieces in a layer.
Job laidIn(const Job& job, const std::vector<design::PieceId>& pieces, design::LayerId layer);
/// Changes what somebody said about pieces. One said nothing more of is no longer listed.
Job withWishes(const Job& job, const std::vector<design::PieceId>& pieces,
               const std::function<void(design::Wish&)>& change);
Job withWish(const Job& job, design::PieceId piece, const std::function<void(design::Wish&)>& change);
/// How many of a piece are cut, 1 to 999.
base::Result<Job> withCopies(const State& state, design::PieceId piece, int copies);
/// Lets pieces have a scale of their own, or no longer.
Job withPiecesFree(const Job& job, const std::vector<design::PieceId>& pieces, bool areFree);
/// Forgets what was said about pieces that are not there any more.
Job withoutStrayWishes(const State& state);

/// Lays foam or glue of its own under pieces, 0 to 50 mm; without a height their layer's counts again.
base::Result<Job> withPiecesLift(const Job& job, const std::vector<design::PieceId>& pieces,
                                 std::optional<double> liftMm);
/// Says which side of pieces faces the viewer. With its back up a piece is cut from the back of its card.
Job withPiecesUp(const Job& job, const std::vector<design::PieceId>& pieces, design::Side up);

/// Says whether pieces are cut through the carrier of their stock, so that each comes off with it.
/// Errors: InvalidArgument naming the stock of a piece that lies on no carrier, when they are to be; NotFound.
base::Result<Job> withPiecesThrough(const State& state, const std::vector<design::PieceId>& pieces,
                                    bool areThrough);

/// Adds a layer on top; several may be of one stock. It waits until something is laid in it.
/// Errors: NotFound for an unknown stock.
base::Result<Job> withNewLayer(const Job& job, const std::string& stockId, const std::string& name = "");
/// Gives each piece a layer of its own, in the order in which they lie now, cut from the stocks of the drawer in their
/// order, beginning with the stock behind that of the lowest. The lowest keeps its layer.
/// Errors: InvalidArgument for fewer than two pieces that are there.
base::Result<Job> withLayerEach(const State& state, const std::vector<design::PieceId>& pieces);
/// Takes a layer out that holds no piece.
/// Errors: NotFound; InvalidArgument when pieces lie in it, or it is the last one.
base::Result<Job> withoutLayer(const State& state, design::LayerId layer);
/// An empty name lets it be spoken of by its stock.
/// Errors: NotFound; InvalidArgument for more than 60 letters or a line break.
base::Result<Job> withLayerNamed(const Job& job, design::LayerId layer, const std::string& name);
/// Returns the layers as they lie, from below: those behind the base or on its back first, whatever their order among the others.
std::vector<design::Layer> layersFromBelow(const Job& job);
/// In front of the base, behind it, or on its back.
Job withLayerPlace(const Job& job, design::LayerId layer, design::Layer::At place);

/// Changes a layer; nothing changes for an unknown one.
Job withLayer(const Job& job, design::LayerId layer, const std::function<void(design::Layer&)>& change);
/// Moves a layer to the place another one has, so that it lies just above or below.
Job withLayerMoved(const Job& job, design::LayerId layer, design::LayerId to);
/// Says whether marks show where a layer's pieces go.
Job withLayerMarked(const Job& job, design::LayerId layer, bool isMarked);
/// Says how marks are made.
/// Errors: InvalidArgument for an inset outside 0 to 20 mm.
base::Result<Job> withMarks(const Job& job, const folds::MarkPlan& marks);
/// Says whether foam is laid under lifted pieces, and how large its spots are.
/// Errors: InvalidArgument for spots outside 3 to 50 mm.
base::Result<Job> withFoam(const Job& job, const folds::FoamPlan& foam);
Job withLayerHidden(const Job& job, design::LayerId layer, bool isHidden);
/// 0 to 50 mm; others are left alone.
Job withLayerLift(const Job& job, design::LayerId layer, double liftMm);
/// Cuts a layer from another stock. A layer of that stock that is there already stays a layer of its own.
Job withLayerStock(const Job& job, design::LayerId layer, const std::string& stockId);

} // namespace thinline::job
