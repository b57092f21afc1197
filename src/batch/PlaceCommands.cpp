// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Commands that say where things lie: sources in the design, copies on their sheets.
#include "base/Length.h"
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "job/LayerSteps.h"
#include "job/SheetSteps.h"
#include "job/SourceSteps.h"

#include <numbers>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::Job;
using job::State;

// ---- place

CommandSpec placeSpec() {
    return {"place",
            "JOB.thinline",
            "Says of a source where it lies, how large it is and how it is turned, or tells the sources.",
            {{"--of", "SOURCE", "Which: its number or name as 'show' tells it.", "", false},
             {"--at", "X,Y", "Where its upper left corner goes, such as 12mm,-5mm.", "", false},
             {"--turn", "DEGREES", "Turned clockwise about its middle, -180 to 180.", "", false},
             {"--width", "LENGTH", "Real width of the whole page or picture.", "", false},
             {"--stock", "STOCK", "Cuts all its pieces from this stock.", "", false},
             {"--from", "TEXT", "Where it came from.", "", false},
             {"--licence", "own|own use|may sell|unknown", "What may be done with it.", "", false},
             {"--take-out", "", "Takes it out of the job with its pieces.", "", false},
             kJobOption}};
}

base::Result<job::Origin> originSaid(job::Origin origin, const Options& options) {
    if (options.has("--from"))
        origin.from = options["--from"];
    if (!options.has("--licence"))
        return origin;
    const auto licence = job::licenceOf(options["--licence"]);
    if (!licence)
        return Error{Code::InvalidArgument, "--licence is own, own use, may sell or unknown."};
    origin.licence = *licence;
    return origin;
}

base::Result<Job> placedAs(const State& state, design::SourceId id, const Options& options) {
    if (options.has("--take-out"))
        return job::withoutSource(state.job, id);
    return Chain(state)
        .when(options.has("--width"),
              [&](const State& now) {
                  return with(
                      base::parseLength(options["--width"], base::LengthUnit::Millimetre),
                      [&](base::Length width) { return job::withSourceWidth(now.job, id, width.inMm()); });
              })
        .when(options.has("--turn"),
              [&](const State& now) {
                  return with(numberBetween("--turn", options["--turn"], -180, 180), [&](double degrees) {
                      return job::withSourceTurned(now.job, id, degrees * std::numbers::pi / 180);
                  });
              })
        .when(options.has("--at"),
              [&](const State& now) {
                  return with(pointOf("--at", options["--at"]),
                              [&](geometry::Point at) { return job::withSourceCorner(now.job, id, at); });
              })
        .when(options.has("--stock"),
              [&](const State& now) {
                  return with(stockSaid(now.job, options["--stock"]), [&](const std::string& stock) {
                      return job::withSourceStock(now.job, id, stock);
                  });
              })
        .when(options.has("--from") || options.has("--licence"),
              [&](const State& now) {
                  return with(
                      originSaid(job::findSource(now.job, id)->origin, options),
                      [&](const job::Origin& origin) { return job::withOrigin(now.job, id, origin); });
              })
        .job();
}

base::Status placeCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--of")) {
        const auto source = sourceCalled(*state, options["--of"]);
        return source ? keep(session, options, placedAs(*state, *source, options), *state)
                      : base::Status(source.error());
    }
    for (const auto& source : state->job.sources) {
        const geometry::Box box = job::placeOfSource(*source);
        session.out << numberOf(source->id) << " " << source->name() << ": "
                    << base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre) << " at "
                    << base::formatNumber(box.least.x, 1) << "," << base::formatNumber(box.least.y, 1)
                    << " mm";
        if (source->turnRad != 0)
            session.out << ", turned by " << base::formatNumber(source->turnRad * 180 / std::numbers::pi, 1)
                        << "°";
        session.out << "\n";
    }
    return base::Done{};
}

// ---- pin

CommandSpec pinSpec() {
    return {"pin",
            "JOB.thinline",
            "Lays a copy of a piece, or of its cluster, where it stays on its mat; or lets it go.",
            {{"--on", "PIECE", "Which piece.", "", false},
             {"--copy", "NUMBER", "Which of its copies.", "1", false},
             {"--load", "NUMBER", "On which load.", "1", false},
             {"--at", "X,Y", "Where the upper left corner of its box goes, from the mat's.", "", false},
             {"--turn", "DEGREES", "Turned clockwise, -180 to 180.", "0", false},
             {"--let-go", "", "Lets it go again; without --on all of them.", "", false},
             kJobOption}};
}

base::Result<Job> pinned(const State& state, design::PieceId piece, int copy, const Options& options) {
    const auto at = pointOf("--at", options.has("--at") ? options["--at"] : "");
    const auto degrees = numberBetween("--turn", options["--turn"], -180, 180);
    const auto load = numberBetween("--load", options["--load"], 1, 9999);
    if (!at || !degrees || !load)
        return !at ? at.error() : !degrees ? degrees.error() : load.error();
    const design::Laid& laid = *state.made.work()->find(piece);
    const bool isFlipped = design::liesFlipped(
        laid, state.job.plan.tapedStocks.contains(state.made.work()->layerOf(laid).stockId));
    const design::Pose pose =
        design::poseAtCorner(laid.piece, *at, *degrees * std::numbers::pi / 180, isFlipped);
    return job::pinnedAt(state, {piece, copy}, pose, static_cast<size_t>(*load) - 1);
}

base::Status pinCommand(Session& session, const Options& options) {
    const auto loaded = loadState(session, options.operand);
    if (!loaded)
        return loaded.error();
    const auto state = job::make(loaded->job, job::Stage::Sheets, loaded->made);
    if (!state)
        return state.error();
    if (!options.has("--on") && !options.has("--let-go"))
        return Error{Code::InvalidArgument, "Say which piece by --on, or --let-go for all."};
    if (!options.has("--on")) {
        job::SheetPlan plan = state->job.plan;
        plan.pins.clear();
        return keep(session, options, job::withPlan(state->job, plan), *state);
    }
    const auto pieces = piecesCalled(*state, options["--on"]);
    const auto copy = numberBetween("--copy", options["--copy"], 1, 999);
    if (!pieces || !copy)
        return !pieces ? pieces.error() : copy.error();
    if (pieces->size() != 1)
        return Error{Code::InvalidArgument, "Pin one piece at a time; a cluster by any of its pieces."};
    const int index = static_cast<int>(*copy) - 1;
    return keep(session, options,
                options.has("--let-go") ? job::unpinned(*state, {pieces->front(), index})
                                        : pinned(*state, pieces->front(), index, options),
                *state);
}

} // namespace

std::vector<Command> placeCommands() {
    return {{placeSpec(), placeCommand}, {pinSpec(), pinCommand}};
}

} // namespace thinline::batch
