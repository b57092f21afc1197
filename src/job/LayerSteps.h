// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// The steps that lay pieces in layers and order these; microseconds each.
namespace thinline::job {

/// Lays pieces in the uppermost layer of a stock; one is made, on top, when there is none. Nothing changes for an
/// unknown stock.
Job painted(const Job& job, const std::vector<design::PieceId>& pieces, const std::string& stockId);
/// Lays pieces in a layer.
Job laidIn(const Job& job, const std::vector<design::PieceId>& pieces, design::LayerId layer);
/// Changes what somebody said about a piece.
Job withWish(const Job& job, design::PieceId piece, const std::function<void(design::Wish&)>& change);
/// How many of a piece are cut, 1 to 999.
base::Result<Job> withCopies(const State& state, design::PieceId piece, int copies);
/// Lets pieces have a scale of their own, or no longer.
Job withPiecesFree(const Job& job, const std::vector<design::PieceId>& pieces, bool areFree);
/// Forgets what was said about pieces that are not there any more.
Job withoutStrayWishes(const State& state);

/// Changes a layer; nothing changes for an unknown one.
Job withLayer(const Job& job, design::LayerId layer, const std::function<void(design::Layer&)>& change);
/// Moves a layer to the place another one has, so that it lies just above or below.
Job withLayerMoved(const Job& job, design::LayerId layer, design::LayerId to);
Job withLayerHidden(const Job& job, design::LayerId layer, bool isHidden);
/// 0 to 50 mm; others are left alone.
Job withLayerLift(const Job& job, design::LayerId layer, double liftMm);
/// Cuts a layer from another stock. A layer of that stock that is there already stays a layer of its own.
Job withLayerStock(const Job& job, design::LayerId layer, const std::string& stockId);

} // namespace thinline::job
