// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Without an option each command tells what there is, numbered as its other options want it: a script reads, a person
// looks, and neither has to open the window to learn a number.

// Commands that say what belongs together: clusters, sets, fits.
#include "base/Length.h"
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "job/Clusters.h"
#include "job/Relations.h"

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::Job;
using job::State;

// ---- cluster

CommandSpec clusterSpec() {
    return {
        "cluster",
        "JOB.thinline",
        "Keeps pieces of one stock together on the sheet, or tells the clusters there are and those that are "
        "proposed.",
        {{"--on", "WHAT", std::string("Makes these a cluster: ") + kWhat, "", false},
         {"--take", "NUMBER", "Makes the proposed one of this number.", "", false},
         {"--of", "CLUSTER", "Changes this one: its name or number.", "", false},
         {"--name", "NAME", "Names it.", "", false},
         {"--copies", "COUNT", "How often the whole is cut.", "", false},
         {"--frame", "LENGTH", "Cuts a frame round it to the carrier, with so much room; 0 for none.", "",
          false},
         {"--through", "on|off",
          "Cuts that frame through the carrier too, so that the whole comes off as a sheet.", "", false},
         {"--part", "", "Parts it into its pieces again.", "", false},
         kJobOption}};
}

base::Result<size_t> clusterCalled(const State& state, const std::string& text) {
    const auto& clusters = state.job.clusters;
    std::string known;
    for (size_t i = 0; i < clusters.size(); ++i) {
        if (clusters[i].name == text || std::to_string(i + 1) == text)
            return i;
        known += (known.empty() ? "" : ", ") + clusters[i].name;
    }
    return Error{Code::NotFound, "There is no cluster '" + text + "'" +
                                     (known.empty() ? " in this job." : "; there are " + known + ".")};
}

base::Result<Job> clusterChanged(const State& state, size_t cluster, const Options& options) {
    if (options.has("--part"))
        return job::withoutCluster(state.job, cluster);
    return Chain(state)
        .when(options.has("--name"),
              [&](const State& now) { return job::withClusterNamed(now.job, cluster, options["--name"]); })
        .when(options.has("--copies"),
              [&](const State& now) {
                  return with(copiesSaid(options),
                              [&](int copies) { return job::withClusterCopies(now.job, cluster, copies); });
              })
        .when(options.has("--frame"),
              [&](const State& now) {
                  return with(lengthOrZero(options["--frame"]),
                              [&](double room) { return job::withClusterFrame(now, cluster, room); });
              })
        .when(options.has("--through"),
              [&](const State& now) {
                  return with(switchSaid("--through", options["--through"]),
                              [&](bool isOn) { return job::withFrameThrough(now.job, cluster, isOn); });
              })
        .job();
}

void tellClusters(Session& session, const State& state) {
    for (size_t i = 0; i < state.job.clusters.size(); ++i) {
        const design::Cluster& cluster = state.job.clusters[i];
        session.out << i + 1 << ". " << cluster.name << ": " << cluster.pieces.size() << " pieces"
                    << (cluster.copies > 1 ? ", " + std::to_string(cluster.copies) + " copies" : "")
                    << (cluster.frameMm > 0
                            ? ", a frame " + base::formatNumber(cluster.frameMm, 1) + " mm away" +
                                  (cluster.isFrameThrough ? ", cut through the carrier" : "")
                            : "")
                    << "\n";
    }
    const auto proposed = job::proposedClusters(state);
    for (size_t i = 0; i < proposed.size(); ++i)
        session.out << "proposed " << i + 1 << ": " << proposed[i].name << ", " << proposed[i].pieces.size()
                    << " pieces. " << proposed[i].why << "\n";
    if (state.job.clusters.empty() && proposed.empty())
        session.out << "no clusters, and none proposed\n";
}

base::Result<Job> clusterMade(const State& state, const Options& options) {
    if (options.has("--on")) {
        const auto pieces = piecesCalled(state, options["--on"]);
        return pieces ? job::withCluster(state, "", *pieces) : base::Result<Job>(pieces.error());
    }
    const auto proposed = job::proposedClusters(state);
    if (proposed.empty())
        return Error{Code::NotFound, "No cluster is proposed for this job."};
    const auto number = numberBetween("--take", options["--take"], 1, static_cast<double>(proposed.size()));
    if (!number)
        return number.error();
    const job::ProposedCluster& one = proposed[static_cast<size_t>(*number) - 1];
    return job::withCluster(state, one.name, one.pieces);
}

base::Status clusterCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const int ways = options.has("--on") + options.has("--take") + options.has("--of");
    if (ways > 1)
        return Error{Code::InvalidArgument, "Say one of --on, --take and --of."};
    if (ways == 0) {
        tellClusters(session, *state);
        return base::Done{};
    }
    if (options.has("--of")) {
        const auto cluster = clusterCalled(*state, options["--of"]);
        return cluster ? keep(session, options, clusterChanged(*state, *cluster, options), *state)
                       : base::Status(cluster.error());
    }
    auto made = clusterMade(*state, options);
    if (!made)
        return made.error();
    const State with{*made, state->made};
    return keep(session, options, clusterChanged(with, made->clusters.size() - 1, options), *state);
}

// ---- relate

CommandSpec relateSpec() {
    return {"relate",
            "JOB.thinline",
            "Says which pieces keep one scale and which go into which, or tells what was said.",
            {{"--set", "WHAT", std::string("Makes these a set that keeps one scale: ") + kWhat, "", false},
             {"--name", "NAME", "Names the set.", "", false},
             {"--inner", "PIECE", "A plug, or a base; with --into or --under.", "", false},
             {"--into", "PIECE", "The piece with the opening it goes into; with --at.", "", false},
             {"--at", "X,Y", "A place of the design inside that opening.", "", false},
             {"--under", "PIECE", "The lid it goes under.", "", false},
             {"--clearance", "LENGTH", "Kept free on every side.", "0.2mm", false},
             {"--fit", "NUMBER", "Sizes the inner piece of this fit so that it just fits.", "", false},
             {"--take-out-set", "NUMBER", "Takes this set out.", "", false},
             {"--take-out-fit", "NUMBER", "Takes this fit out.", "", false},
             kJobOption}};
}

base::Result<design::PieceId> pieceCalled(const State& state, const std::string& text) {
    const auto pieces = piecesCalled(state, text);
    if (!pieces)
        return pieces.error();
    if (pieces->size() != 1)
        return Error{Code::InvalidArgument, "'" + text + "' is several pieces; name a single one."};
    return pieces->front();
}

base::Result<Job> withFitSaid(const State& state, const Options& options) {
    if (options.has("--into") == options.has("--under"))
        return Error{Code::InvalidArgument, "Say where the inner piece goes, by --into or --under."};
    const bool isLid = options.has("--under");
    const auto inner = pieceCalled(state, options["--inner"]);
    const auto outer = pieceCalled(state, options[isLid ? "--under" : "--into"]);
    const auto clearance = lengthOrZero(options["--clearance"]);
    if (!inner || !outer || !clearance)
        return !inner ? inner.error() : !outer ? outer.error() : clearance.error();
    geometry::Point at;
    if (!isLid) {
        const auto said = pointOf("--at", options.has("--at") ? options["--at"] : "");
        if (!said)
            return Error{Code::InvalidArgument,
                         "Say which opening by a place inside it, such as --at 10mm,25mm."};
        at = *said;
    }
    return job::withFit(
        state,
        {*inner, *outer, isLid ? design::FitKind::LidOver : design::FitKind::IntoOpening, {}, *clearance},
        at);
}

void tellRelations(Session& session, const State& state) {
    const auto name = [&](design::PieceId id) {
        return state.made.work() ? design::pieceName(*state.made.work(), id) : id.text();
    };
    for (size_t i = 0; i < state.job.sets.size(); ++i)
        session.out << "set " << i + 1 << ": " << state.job.sets[i].name << ", "
                    << state.job.sets[i].pieces.size() << " pieces\n";
    for (size_t i = 0; i < state.job.fits.size(); ++i) {
        const design::Fit& fit = state.job.fits[i];
        session.out << "fit " << i + 1 << ": " << name(fit.inner)
                    << (fit.kind == design::FitKind::LidOver ? " under " : " into ") << name(fit.outer);
        if (const auto stands = job::fitStateOf(state, fit); stands && stands->isThere)
            session.out << (stands->playMm < 0 ? ", jams by " : ", play ")
                        << base::formatNumber(std::abs(stands->playMm), 2) << " mm";
        session.out << "\n";
    }
    if (state.job.sets.empty() && state.job.fits.empty())
        session.out << "no sets and no fits\n";
}

/// The place a number from 1 means.
base::Result<size_t> placeOf(const Options& options, const char* name, size_t count, const char* thing) {
    if (count == 0)
        return Error{Code::NotFound, std::string("There is no ") + thing + " in this job."};
    const auto number = numberBetween(name, options[name], 1, static_cast<double>(count));
    return number ? base::Result<size_t>(static_cast<size_t>(*number) - 1) : number.error();
}

base::Status relateCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    int ways = 0;
    for (const char* way : {"--set", "--inner", "--fit", "--take-out-set", "--take-out-fit"})
        ways += options.has(way);
    if (ways > 1)
        return Error{Code::InvalidArgument,
                     "Say one of --set, --inner, --fit, --take-out-set and --take-out-fit."};
    if (options.has("--set")) {
        const auto pieces = piecesCalled(*state, options["--set"]);
        return pieces ? keep(session, options,
                             job::withSet(*state, options.has("--name") ? options["--name"] : "", *pieces),
                             *state)
                      : base::Status(pieces.error());
    }
    if (options.has("--inner"))
        return keep(session, options, withFitSaid(*state, options), *state);
    if (options.has("--fit")) {
        const auto fit = placeOf(options, "--fit", state->job.fits.size(), "fit");
        auto made = fit ? job::withFitMade(*state, *fit) : base::Result<State>(fit.error());
        return made ? keep(session, options, made->job, *made) : base::Status(made.error());
    }
    if (options.has("--take-out-set")) {
        const auto set = placeOf(options, "--take-out-set", state->job.sets.size(), "set");
        return set ? keep(session, options, job::withoutSet(state->job, *set), *state)
                   : base::Status(set.error());
    }
    if (options.has("--take-out-fit")) {
        const auto fit = placeOf(options, "--take-out-fit", state->job.fits.size(), "fit");
        return fit ? keep(session, options, job::withoutFit(state->job, *fit), *state)
                   : base::Status(fit.error());
    }
    tellRelations(session, *state);
    return base::Done{};
}

} // namespace

std::vector<Command> relationCommands() {
    return {{clusterSpec(), clusterCommand}, {relateSpec(), relateCommand}};
}

} // namespace thinline::batch
