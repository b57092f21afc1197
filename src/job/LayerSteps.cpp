// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/LayerSteps.h"

#include "design/Cluster.h"

#include <algorithm>

namespace thinline::job {

using base::Code;
using base::Error;
using design::LayerId;
using design::PieceId;

namespace {

bool isLift(double mm) {
    return mm >= 0 && mm <= design::kMostLiftMm;
}

} // namespace

Job withWishes(const Job& job, const std::vector<PieceId>& pieces,
               const std::function<void(design::Wish&)>& change) {
    Job out = job;
    for (const PieceId id : pieces)
        if (id) {
            const design::Wish* before = out.wishes.find(id);
            design::Wish wish = before ? *before : design::Wish{};
            change(wish);
            out.wishes = out.wishes.with(id, wish);
        }
    return out;
}

Job withWish(const Job& job, PieceId piece, const std::function<void(design::Wish&)>& change) {
    return withWishes(job, {piece}, change);
}

Job laidIn(const Job& job, const std::vector<PieceId>& pieces, LayerId layer) {
    return withWishes(job, pieces, [&](design::Wish& wish) { wish.layer = layer; });
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
    if (const design::Cluster* cluster = design::clusterOf(*state.made.stack, piece))
        return Error{Code::InvalidArgument, "That piece is cut with its cluster, " + cluster->name +
                                                "; say how often the whole is cut."};
    return withWish(state.job, piece, [&](design::Wish& wish) { wish.copies = copies; });
}

Job withPiecesFree(const Job& job, const std::vector<PieceId>& pieces, bool areFree) {
    return withWishes(job, pieces, [&](design::Wish& wish) { wish.isFree = areFree; });
}

Job withoutStrayWishes(const State& state) {
    if (!state.made.pieces)
        return state.job;
    return withWishes(state.job, strayWishes(state.job.wishes, *state.made.pieces),
                      [](design::Wish& wish) { wish = {}; });
}

base::Result<Job> withPiecesLift(const Job& job, const std::vector<PieceId>& pieces,
                                 std::optional<double> liftMm) {
    if (liftMm && !isLift(*liftMm))
        return Error{Code::InvalidArgument, "A lift goes from 0 to 50 mm."};
    return withWishes(job, pieces, [&](design::Wish& wish) { wish.liftMm = liftMm; });
}

base::Result<Job> withPiecesThrough(const State& state, const std::vector<PieceId>& pieces, bool areThrough) {
    for (const PieceId id : pieces) {
        const design::Laid* laid = state.made.stack ? state.made.stack->find(id) : nullptr;
        if (!laid)
            return Error{Code::NotFound, "That piece is not there any more."};
        const design::Stack& stack = *state.made.stack;
        const design::Stock* stock = design::findStock(stack.stocks, stack.layerOf(*laid).stockId);
        if (areThrough && stock && stock->cut != design::Depth::ToCarrier)
            return Error{Code::InvalidArgument,
                         stock->name + " lies on no carrier and is cut through as it is."};
    }
    return withWishes(state.job, pieces, [&](design::Wish& wish) {
        wish.isCutThrough = areThrough ? std::optional(true) : std::nullopt;
    });
}

Job withPiecesUp(const Job& job, const std::vector<PieceId>& pieces, design::Side up) {
    return withWishes(job, pieces, [&](design::Wish& wish) { wish.up = up; });
}

base::Result<Job> withNewLayer(const Job& job, const std::string& stockId, const std::string& name) {
    if (!design::findStock(job.stocks, stockId))
        return Error{Code::NotFound, "There is no stock '" + stockId + "' in this job."};
    Job out = job;
    out.layers.push_back({LayerId{out.nextLayer++}, "", stockId});
    return withLayerNamed(out, out.layers.back().id, name);
}

base::Result<Job> withLayerEach(const State& state, const std::vector<PieceId>& pieces) {
    std::vector<const design::Laid*> laid; // from below upwards
    if (const auto& stack = state.made.stack)
        for (const design::Laid& one : stack->pieces)
            if (std::find(pieces.begin(), pieces.end(), one.id()) != pieces.end())
                laid.push_back(&one);
    if (laid.size() < 2)
        return Error{Code::InvalidArgument, "Choose two pieces or more: each gets a layer of its own."};
    Job out = state.job;
    const std::vector<design::Stock>& stocks = state.job.stocks;
    const std::string first = state.made.stack->layerOf(*laid.front()).stockId;
    size_t stock = static_cast<size_t>(
        std::find_if(stocks.begin(), stocks.end(), [&](const design::Stock& s) { return s.id == first; }) -
        stocks.begin());
    LayerId below = laid.front()->layer;
    for (size_t i = 1; i < laid.size(); ++i) {
        stock = (stock + 1) % stocks.size();
        const auto place = std::find_if(out.layers.begin(), out.layers.end(),
                                        [&](const design::Layer& layer) { return layer.id == below; });
        design::Layer own{LayerId{out.nextLayer++}, "", stocks[stock].id};
        if (place != out.layers.end())
            own.at = place->at;
        below = own.id;
        out.layers.insert(place == out.layers.end() ? place : place + 1, own);
        out = laidIn(out, {laid[i]->id()}, below);
    }
    return out;
}

base::Result<Job> withoutLayer(const State& state, LayerId layer) {
    Job out = state.job;
    if (!design::findLayer(out.layers, layer))
        return Error{Code::NotFound, "That layer is not there any more."};
    if (state.made.stack && !state.made.stack->in(layer).empty())
        return Error{Code::InvalidArgument, "There are pieces in this layer; lay them in another one first."};
    if (out.layers.size() == 1)
        return Error{Code::InvalidArgument, "A job needs a layer; this is its last one."};
    std::erase_if(out.layers, [&](const design::Layer& one) { return one.id == layer; });
    return out;
}

base::Result<Job> withLayerNamed(const Job& job, LayerId layer, const std::string& name) {
    constexpr std::size_t kLongest = 60;
    if (!design::findLayer(job.layers, layer))
        return Error{Code::NotFound, "That layer is not there any more."};
    if (name.size() > kLongest || name.find_first_of("\r\n") != std::string::npos)
        return Error{Code::InvalidArgument, "The name of a layer has at most 60 letters, on one line."};
    return withLayer(job, layer, [&](design::Layer& one) { one.name = name; });
}

std::vector<design::Layer> layersFromBelow(const Job& job) {
    std::vector<design::Layer> out = job.layers;
    std::stable_partition(out.begin(), out.end(),
                          [](const design::Layer& layer) { return layer.at != design::Layer::At::Front; });
    return out;
}

Job withLayerPlace(const Job& job, LayerId layer, design::Layer::At place) {
    return withLayer(job, layer, [&](design::Layer& one) { one.at = place; });
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

Job withLayerMarked(const Job& job, LayerId layer, bool isMarked) {
    return withLayer(job, layer, [&](design::Layer& one) { one.isMarked = isMarked; });
}

base::Result<Job> withMarks(const Job& job, const folds::MarkPlan& marks) {
    constexpr double kMostMm = 20;
    if (!(marks.insetMm >= 0 && marks.insetMm <= kMostMm))
        return base::Error{base::Code::InvalidArgument,
                           "Marks lie 0 to 20 mm inside the edge of what covers them."};
    Job out = job;
    out.marks = marks;
    return out;
}

base::Result<Job> withFoam(const Job& job, const folds::FoamPlan& foam) {
    constexpr double kMostMm = 50;
    if (!(foam.acrossMm >= folds::kLeastSpotMm && foam.acrossMm <= kMostMm))
        return base::Error{base::Code::InvalidArgument, "Spots of foam are 3 to 50 mm across."};
    Job out = job;
    out.foam = foam;
    return out;
}

Job withLayerLift(const Job& job, LayerId layer, double liftMm) {
    if (!isLift(liftMm))
        return job;
    return withLayer(job, layer, [&](design::Layer& one) { one.liftMm = liftMm; });
}

Job withLayerStock(const Job& job, LayerId layer, const std::string& stockId) {
    if (!design::findStock(job.stocks, stockId))
        return job;
    return withLayer(job, layer, [&](design::Layer& one) { one.stockId = stockId; });
}

} // namespace thinline::job
