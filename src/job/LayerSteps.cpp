// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/LayerSteps.h"

#include <algorithm>
#include <unordered_set>

namespace thinline::job {

using base::Code;
using base::Error;
using design::LayerId;
using design::PieceId;

Job withWish(const Job& job, PieceId piece, const std::function<void(design::Wish&)>& change) {
    Job out = job;
    const design::Wish* before = job.wishes.find(piece);
    design::Wish wish = before ? *before : design::Wish{};
    change(wish);
    out.wishes = job.wishes.with(piece, wish);
    return out;
}

Job laidIn(const Job& job, const std::vector<PieceId>& pieces, LayerId layer) {
    Job out = job;
    for (const PieceId id : pieces)
        if (id)
            out = withWish(out, id, [&](design::Wish& wish) { wish.layer = layer; });
    return out;
}

Job painted(const Job& job, const std::vector<PieceId>& pieces, const std::string& stockId) {
    if (!design::findStock(job.stocks, stockId) || pieces.empty())
        return job;
    Job out = job;
    const LayerId layer = layerForStock(out, stockId);
    return laidIn(out, pieces, layer);
}

base::Result<Job> withCopies(const State& state, PieceId piece, int copies) {
    if (copies < 1 || copies > 999)
        return Error{Code::InvalidArgument, "Copies go from 1 to 999."};
    if (!state.made.stack || !state.made.stack->find(piece))
        return Error{Code::NotFound, "That piece is not there any more."};
    return withWish(state.job, piece, [&](design::Wish& wish) { wish.copies = copies; });
}

Job withPiecesFree(const Job& job, const std::vector<PieceId>& pieces, bool areFree) {
    Job out = job;
    for (const PieceId id : pieces)
        out = withWish(out, id, [&](design::Wish& wish) { wish.isFree = areFree; });
    return out;
}

Job withoutStrayWishes(const State& state) {
    Job out = state.job;
    std::unordered_set<PieceId> there;
    if (state.made.pieces)
        for (const auto* pieces : {&state.made.pieces->now, &state.made.pieces->scrap})
            for (const design::Piece& piece : *pieces)
                for (PieceId id = piece.id; id && there.insert(id).second;)
                    id = id.whole();
    state.job.wishes.each([&](const Wishes::Entry& entry) {
        if (!there.contains(entry.first))
            out.wishes = out.wishes.with(entry.first, {});
    });
    return out;
}

Job withLayer(const Job& job, LayerId layer, const std::function<void(design::Layer&)>& change) {
    Job out = job;
    for (design::Layer& one : out.layers)
        if (one.id == layer)
            change(one);
    return out;
}

Job withLayerMoved(const Job& job, LayerId layer, LayerId to) {
    Job out = job;
    const auto placeOf = [&](LayerId id) {
        return std::find_if(out.layers.begin(), out.layers.end(),
                            [&](const design::Layer& one) { return one.id == id; });
    };
    const auto from = placeOf(layer), at = placeOf(to);
    if (from == out.layers.end() || at == out.layers.end())
        return out;
    if (from < at)
        std::rotate(from, from + 1, at + 1);
    else
        std::rotate(at, from, from + 1);
    return out;
}

Job withLayerHidden(const Job& job, LayerId layer, bool isHidden) {
    return withLayer(job, layer, [&](design::Layer& one) { one.isHidden = isHidden; });
}

Job withLayerLift(const Job& job, LayerId layer, double liftMm) {
    if (!(liftMm >= 0 && liftMm <= 50))
        return job;
    return withLayer(job, layer, [&](design::Layer& one) { one.liftMm = liftMm; });
}

Job withLayerStock(const Job& job, LayerId layer, const std::string& stockId) {
    if (!design::findStock(job.stocks, stockId))
        return job;
    return withLayer(job, layer, [&](design::Layer& one) { one.stockId = stockId; });
}

} // namespace thinline::job
