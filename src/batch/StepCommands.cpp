// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Commands that change what was decided in a job: its steps at Shape, its layers, and what is said of single pieces. Each
// calls the step the window calls.
#include "base/Length.h"
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "batch/StepValues.h"
#include "job/LayerSteps.h"
#include "job/Steps.h"
#include "shape/Steps.h"

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::Job;
using job::State;

// ---- shape

CommandSpec shapeSpec() {
    return {"shape",
            "JOB.thinline",
            "Does a step at Shape, or tells those there are. Further words are its values: amount=3mm "
            "join=round.",
            {{"--do", "ACTION",
              "What is done, with the values it takes: " + namesOf(shape::actionInfos()) + ".", "", false},
             {"--on", "WHAT", kWhat, "", false},
             {"--by", "VALUE", "The first value of the action.", "", false},
             {"--undo", "", "Takes the last step out.", "", false},
             {"--take-out", "NUMBER", "Takes this step out.", "", false},
             kJobOption},
            true};
}

base::Result<design::Step> stepOf(const State& state, const Options& options) {
    const auto said = actionSaid(shape::actionInfos(), options);
    if (!said)
        return said.error();
    const shape::ActionInfo* info = *said;
    auto values = valuesSaid(*info, options);
    if (!values)
        return values.error();
    std::vector<design::PieceId> on;
    if (options.has("--on")) {
        auto pieces = piecesCalled(state, options["--on"]);
        if (!pieces)
            return pieces.error();
        on = pieces.take();
    }
    design::Step step = shape::makeStep(info->action, on);
    step.values = values.take();
    return step;
}

base::Result<Job> withoutStepNumber(const State& state, const std::string& text) {
    const auto number = numberBetween("--take-out", text, 1, static_cast<double>(state.job.steps.size()));
    if (!number)
        return number.error();
    return job::withoutStep(state.job, static_cast<size_t>(*number) - 1);
}

base::Status shapeCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const int ways = options.has("--do") + options.has("--undo") + options.has("--take-out");
    if (ways > 1)
        return Error{Code::InvalidArgument, "Say one of --do, --undo and --take-out."};
    if (ways == 0) {
        for (size_t i = 0; i < state->job.steps.size(); ++i)
            session.out << i + 1 << ". " << job::stepText(*state->job.steps[i]) << "\n";
        if (state->job.steps.empty())
            session.out << "no steps yet\n";
        return base::Done{};
    }
    if (options.has("--undo") && state->job.steps.empty())
        return Error{Code::InvalidArgument, "There is no step to take out."};
    if (options.has("--undo"))
        return keep(session, options, job::withoutStep(state->job, state->job.steps.size() - 1), *state);
    if (options.has("--take-out"))
        return keep(session, options, withoutStepNumber(*state, options["--take-out"]), *state);
    const auto step = stepOf(*state, options);
    if (!step)
        return step.error();
    auto done = job::stepped(*state, *step);
    return done ? keep(session, options, done->job, *done) : base::Status(done.error());
}

// ---- layer

CommandSpec layerSpec() {
    return {
        "layer",
        "JOB.thinline",
        "Changes a layer of a job, or adds one.",
        {{"--of", "LAYER", "Which: its name or number as 'show' tells it.", "", false},
         {"--new", "STOCK", "Adds a layer of this stock on top instead.", "", false},
         {"--name", "NAME", "Names it; \"\" lets it be called by its stock.", "", false},
         {"--stock", "STOCK", "Cuts it from this stock.", "", false},
         {"--lift", "LENGTH", "Foam or glue height below it; 0 for none.", "", false},
         {"--place", "front|behind|back", "In front of the base, behind it, or on its rear side.", "", false},
         {"--to", "LAYER", "Moves it to the place this one has.", "", false},
         {"--hide", "", "Leaves it out of sheets.", "", false},
         {"--show", "", "Brings it back.", "", false},
         {"--take-out", "", "Takes it out; nothing may lie in it.", "", false},
         kJobOption}};
}

base::Result<design::Layer::At> placeSaid(const std::string& text) {
    const std::vector<std::string> words{"front", "behind", "back"};
    const auto at = std::find(words.begin(), words.end(), text);
    if (at == words.end())
        return Error{Code::InvalidArgument, "--place is front, behind or back."};
    return static_cast<design::Layer::At>(at - words.begin());
}

base::Result<double> liftSaid(const std::string& text) {
    const auto lift = lengthOrZero(text);
    if (lift && !(*lift <= design::kMostLiftMm))
        return Error{Code::InvalidArgument, "A lift goes from 0 to 50 mm."};
    return lift;
}

base::Result<Job> layerChanged(const State& state, design::LayerId id, const Options& options) {
    return Chain(state)
        .when(options.has("--name"),
              [&](const State& now) { return job::withLayerNamed(now.job, id, options["--name"]); })
        .when(options.has("--stock"),
              [&](const State& now) {
                  return with(stockSaid(now.job, options["--stock"]), [&](const std::string& stock) {
                      return job::withLayerStock(now.job, id, stock);
                  });
              })
        .when(options.has("--lift"),
              [&](const State& now) {
                  return with(liftSaid(options["--lift"]),
                              [&](double mm) { return job::withLayerLift(now.job, id, mm); });
              })
        .when(options.has("--place"),
              [&](const State& now) {
                  return with(placeSaid(options["--place"]),
                              [&](design::Layer::At at) { return job::withLayerPlace(now.job, id, at); });
              })
        .when(options.has("--to"),
              [&](const State& now) {
                  return with(layerCalled(state, options["--to"]),
                              [&](design::LayerId to) { return job::withLayerMoved(now.job, id, to); });
              })
        .when(options.has("--hide") || options.has("--show"),
              [&](const State& now) { return job::withLayerHidden(now.job, id, options.has("--hide")); })
        .job();
}

base::Status layerCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--of") == options.has("--new"))
        return Error{Code::InvalidArgument, "Say which layer by --of, or --new for another one."};
    if (options.has("--new")) {
        const auto stock = stockSaid(state->job, options["--new"]);
        if (!stock)
            return stock.error();
        auto added = job::withNewLayer(state->job, *stock);
        if (!added)
            return added.error();
        const State with{*added, state->made};
        return keep(session, options, layerChanged(with, added->layers.back().id, options), *state);
    }
    const auto layer = layerCalled(*state, options["--of"]);
    if (!layer)
        return layer.error();
    return keep(session, options,
                options.has("--take-out") ? job::withoutLayer(*state, *layer)
                                          : layerChanged(*state, *layer, options),
                *state);
}

// ---- lay

CommandSpec laySpec() {
    return {"lay",
            "JOB.thinline",
            "Says of single pieces where they lie, how high, which side up and how often they are cut.",
            {{"--on", "WHAT", kWhat, "", true},
             {"--layer", "LAYER", "Lays them in this layer.", "", false},
             {"--stock", "STOCK",
              "Lays them in the uppermost layer of this stock; one is made where there is none.", "", false},
             {"--lift", "LENGTH|layer",
              "Foam or glue height of their own; layer lets their layer's count again.", "", false},
             {"--up", "front|back",
              "Which side faces up; with the back up they are cut from the back of the card.", "", false},
             {"--through", "on|off",
              "Whether they are cut through the carrier too, so that each comes off with it.", "", false},
             {"--copies", "COUNT", "How many of each are cut.", "", false},
             {"--each", "", "Gives each a layer of its own, the stocks in the drawer's order.", "", false},
             kJobOption}};
}

base::Result<std::optional<double>> ownLiftSaid(const std::string& text) {
    if (text == "layer")
        return std::optional<double>{};
    const auto lift = lengthOrZero(text);
    return lift ? base::Result<std::optional<double>>(*lift) : lift.error();
}

base::Result<design::Side> sideSaid(const std::string& text) {
    if (text != "front" && text != "back")
        return Error{Code::InvalidArgument, "--up is front or back."};
    return text == "back" ? design::Side::Back : design::Side::Front;
}

base::Result<Job> withCopiesEach(State now, const std::vector<design::PieceId>& pieces, int copies) {
    for (const design::PieceId piece : pieces) {
        auto next = job::withCopies(now, piece, copies);
        if (!next)
            return next;
        now.job = next.take();
    }
    return now.job;
}

base::Result<Job> laidAs(const State& state, const std::vector<design::PieceId>& pieces,
                         const Options& options) {
    return Chain(state)
        .when(options.has("--each"), [&](const State& now) { return job::withLayerEach(now, pieces); })
        .when(options.has("--layer"),
              [&](const State& now) {
                  return with(layerCalled(now, options["--layer"]),
                              [&](design::LayerId layer) { return job::laidIn(now.job, pieces, layer); });
              })
        .when(options.has("--stock"),
              [&](const State& now) {
                  return with(stockSaid(now.job, options["--stock"]),
                              [&](const std::string& stock) { return job::painted(now.job, pieces, stock); });
              })
        .when(options.has("--lift"),
              [&](const State& now) {
                  return with(ownLiftSaid(options["--lift"]), [&](std::optional<double> mm) {
                      return job::withPiecesLift(now.job, pieces, mm);
                  });
              })
        .when(options.has("--up"),
              [&](const State& now) {
                  return with(sideSaid(options["--up"]),
                              [&](design::Side up) { return job::withPiecesUp(now.job, pieces, up); });
              })
        .when(options.has("--through"),
              [&](const State& now) {
                  return with(switchSaid("--through", options["--through"]),
                              [&](bool isOn) { return job::withPiecesThrough(now, pieces, isOn); });
              })
        .when(options.has("--copies"),
              [&](const State& now) {
                  return with(copiesSaid(options),
                              [&](int copies) { return withCopiesEach(now, pieces, copies); });
              })
        .job();
}

base::Status layCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto pieces = piecesCalled(*state, options["--on"]);
    if (!pieces)
        return pieces.error();
    return keep(session, options, laidAs(*state, *pieces, options), *state);
}

} // namespace

std::vector<Command> stepCommands() {
    return {{shapeSpec(), shapeCommand}, {layerSpec(), layerCommand}, {laySpec(), layCommand}};
}

} // namespace thinline::batch
