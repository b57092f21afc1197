// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is in a job, for people and, by a schema of its own (docs/formats/batch-json.md), for scripts.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "geometry/Measures.h"
#include "job/LayerSteps.h"
#include "job/SourceSteps.h"
#include "job/Steps.h"
#include "job/StockSteps.h"
#include "shape/Steps.h"

#include <nlohmann/json.hpp>

#include <numbers>

namespace thinline::batch {
namespace {

using json = nlohmann::ordered_json;
using design::Laid;
using design::Stack;
using job::State;

constexpr int kSchema = 1;

CommandSpec showSpec() {
    return {"show",
            "JOB.thinline",
            "Tells what is in a job: its sources, layers, pieces, steps and relations, with the names other "
            "commands take.",
            {{"--json", "", "As JSON on standard output, by the schema in docs/formats/batch-json.md.", "",
              false}}};
}

json boxJson(const geometry::Box& box) {
    return box.isEmpty() ? json(nullptr) : json{box.least.x, box.least.y, box.width(), box.height()};
}

const char* placeWord(design::Layer::At at) {
    return at == design::Layer::At::Front ? "front" : at == design::Layer::At::Behind ? "behind" : "back";
}

json layersJson(const State& state) {
    json out = json::array();
    for (const design::Layer& layer : job::layersFromBelow(state.job))
        out.push_back({{"id", numberOf(layer.id)},
                       {"name", nameOf(state, layer)},
                       {"stock", layer.stockId},
                       {"place", placeWord(layer.at)},
                       {"liftMm", layer.liftMm},
                       {"hidden", layer.isHidden},
                       {"pieces", state.made.work() ? state.made.work()->in(layer.id).size() : 0}});
    return out;
}

json piecesJson(const job::Finished& finished) {
    json out = json::array();
    const Stack& work = finished.stack;
    for (size_t i = 0; i < work.pieces.size(); ++i) {
        const Laid& laid = work.pieces[i];
        out.push_back({{"id", laid.id().text()},
                       {"name", laid.piece.name},
                       {"layer", numberOf(laid.layer)},
                       {"copies", laid.copies},
                       {"up", laid.up == design::Side::Back ? "back" : "front"},
                       {"liftMm", laid.liftMm},
                       {"bottomMm", finished.heights.of[i].bottomMm},
                       {"topMm", finished.heights.of[i].topMm},
                       {"boxMm", boxJson(geometry::bounds(laid.shape()))},
                       {"areaMm2", geometry::area(laid.shape())},
                       {"openings", laid.shape().openings.size()},
                       {"lines", laid.piece.body->lines.size()}});
    }
    return out;
}

json stepsJson(const State& state) {
    json out = json::array();
    for (size_t i = 0; i < state.job.steps.size(); ++i) {
        const design::Step& step = *state.job.steps[i];
        json one = {{"number", i + 1}, {"action", step.action}, {"words", job::stepText(step)}};
        if (i < state.made.after.size() && state.made.after[i].whyNot)
            one["passedOver"] = job::passedOver(state.made, i);
        out.push_back(std::move(one));
    }
    return out;
}

json relationsJson(json& out, const State& state) {
    out["sets"] = json::array();
    for (const design::PieceSet& set : state.job.sets) {
        json pieces = json::array();
        for (const design::PieceId id : set.pieces)
            pieces.push_back(id.text());
        out["sets"].push_back({{"name", set.name}, {"pieces", pieces}});
    }
    out["fits"] = json::array();
    for (const design::Fit& fit : state.job.fits)
        out["fits"].push_back({{"inner", fit.inner.text()},
                               {"outer", fit.outer.text()},
                               {"kind", fit.kind == design::FitKind::LidOver ? "lid over" : "into opening"},
                               {"clearanceMm", fit.clearanceMm}});
    out["clusters"] = json::array();
    for (const design::Cluster& cluster : state.job.clusters) {
        json pieces = json::array();
        for (const design::PieceId id : cluster.pieces)
            pieces.push_back(id.text());
        out["clusters"].push_back({{"name", cluster.name},
                                   {"pieces", pieces},
                                   {"copies", cluster.copies},
                                   {"frameMm", cluster.frameMm},
                                   {"frameThrough", cluster.isFrameThrough}});
    }
    return out;
}

json jobJson(const State& state) {
    const auto& finished = state.made.finished;
    json out = {{"schema", kSchema},
                {"job", state.job.name},
                {"boxMm", boxJson(finished ? finished->measures.box : geometry::Box{})},
                {"tallMm", finished ? finished->heights.tallMm() : 0},
                {"sources", json::array()},
                {"stocks", json::array()}};
    for (const auto& source : state.job.sources)
        out["sources"].push_back({{"id", numberOf(source->id)},
                                  {"name", source->name()},
                                  {"boxMm", boxJson(job::placeOfSource(*source))},
                                  {"turnedDegrees", source->turnRad * 180 / std::numbers::pi}});
    for (const design::Stock& stock : state.job.stocks)
        out["stocks"].push_back({{"id", stock.id},
                                 {"name", stock.name},
                                 {"kind", job::kindWord(stock.kind)},
                                 {"thicknessMm", stock.thicknessMm}});
    out["layers"] = layersJson(state);
    out["pieces"] = finished ? piecesJson(*finished) : json::array();
    out["steps"] = stepsJson(state);
    return relationsJson(out, state);
}

void tell(Session& session, const State& state) {
    const auto& finished = state.made.finished;
    const std::vector<design::Layer> layers = job::layersFromBelow(state.job);
    for (auto layer = layers.rbegin(); layer != layers.rend(); ++layer) {
        session.out << "layer " << numberOf(layer->id) << " " << nameOf(state, *layer) << ", cut from "
                    << design::stockName(state.job.stocks, layer->stockId);
        if (layer->at != design::Layer::At::Front)
            session.out << ", " << placeWord(layer->at);
        if (layer->liftMm > 0)
            session.out << ", lift " << base::formatNumber(layer->liftMm, 1) << " mm";
        session.out << (layer->isHidden ? ", hidden\n" : "\n");
        for (size_t i = 0; finished && i < finished->stack.pieces.size(); ++i) {
            const Laid& laid = finished->stack.pieces[i];
            if (laid.layer != layer->id)
                continue;
            const geometry::Box box = geometry::bounds(laid.shape());
            session.out << "  " << laid.id().text() << "  " << laid.piece.name << ", "
                        << base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre) << ", "
                        << base::formatNumber(finished->heights.of[i].bottomMm, 1) << " to "
                        << base::formatNumber(finished->heights.of[i].topMm, 1) << " mm high"
                        << (laid.copies > 1 ? ", " + std::to_string(laid.copies) + " copies" : "")
                        << (laid.up == design::Side::Back ? ", back up" : "") << "\n";
        }
    }
    for (size_t i = 0; i < state.job.steps.size(); ++i)
        session.out << "step " << i + 1 << ": " << job::stepText(*state.job.steps[i]) << "\n";
}

base::Status showCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--json"))
        session.out << jobJson(*state).dump(1) << "\n";
    else
        tell(session, *state);
    return base::Done{};
}

} // namespace

std::vector<Command> showCommands() {
    return {{showSpec(), showCommand}};
}

} // namespace thinline::batch
