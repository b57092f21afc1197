// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is larger than its sheet: told, proposed, divided.
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/PlanOptions.h"
#include "batch/Report.h"
#include "job/LineSteps.h"
#include "job/SheetSteps.h"
#include "job/SplitWays.h"
#include "job/Steps.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;

CommandSpec splitSpec() {
    return {
        "split",
        "JOB.thinline",
        "Divides what is larger than its sheet where it shows least, or tells how it would be divided.",
        {{"--mat", "MAT", "The mat: " + idsOf(catalogue().formats.mats) + ".", "", false},
         {"--sheet", "SHEET,STOCK=SHEET", "The sheet of all stocks, and of some their own, as for 'sheets'.",
          "", false},
         {"--on", "WHAT", kWhat, "all", false},
         {"--joint", "keyed|overlap|butt",
          "How parts hold together; else keyed on what lies lowest and edge to edge above it.", "", false},
         {"--overlap", "LENGTH", "How far a part lies on its neighbour.", "12mm", false},
         {"--keep-whole", "WHAT", "No seam goes under these.", "", false},
         {"--thin", "LENGTH", "Narrower places are not cut, and none narrower is made.", "6mm", false},
         {"--way", "NUMBER", "Takes a runner-up as --list counts them.", "1", false},
         {"--rough", "", "Looks for a moment only: good enough to see how many parts there will be.", "",
          false},
         {"--smaller", "", "Tells at which size there would be a part less.", "", false},
         {"--list", "", "Tells the ways and divides nothing.", "", false},
         {"--json", "", "Tells them as JSON.", "", false},
         kJobOption}};
}

base::Result<State> plannedFor(const State& state, const Options& options) {
    State now = state;
    if (options.has("--mat")) {
        if (const auto known = matSaid(options["--mat"]); !known)
            return known.error();
        job::SheetPlan plan = now.job.plan;
        plan.matId = options["--mat"];
        now.job = job::withPlan(now.job, plan);
    }
    if (options.has("--sheet")) {
        auto job = withSheets(now, options["--sheet"]);
        if (!job)
            return job.error();
        now.job = job.take();
    }
    return madeOf(now.job, state);
}

base::Result<job::SplitOptions> wishesSaid(const State& state, const Options& options) {
    job::SplitOptions out;
    if (options.has("--joint")) {
        static const std::vector<std::string> kWords{"butt", "overlap", "keyed"};
        const auto at = std::find(kWords.begin(), kWords.end(), options["--joint"]);
        if (at == kWords.end())
            return Error{Code::InvalidArgument, "--joint is keyed, overlap or butt."};
        out.joint = static_cast<split::Joint>(at - kWords.begin());
    }
    const auto overlap = base::parseLength(options["--overlap"], kMm, {3, 60});
    if (!overlap)
        return Error{Code::InvalidArgument, "--overlap: " + overlap.error().message};
    out.overlapMm = overlap->inMm();
    const auto thin = base::parseLength(options["--thin"], kMm, {1, 100});
    if (!thin)
        return Error{Code::InvalidArgument, "--thin: " + thin.error().message};
    out.search.thinMm = thin->inMm();
    out.search.isRough = options.has("--rough");
    if (options.has("--keep-whole")) {
        auto kept = piecesCalled(state, options["--keep-whole"]);
        if (!kept)
            return kept.error();
        out.keepWhole = kept.take();
    }
    return out;
}

json seamJson(const split::Seam& seam) {
    json way = json::array({{seam.path.start.x, seam.path.start.y}});
    for (const geometry::Segment& segment : seam.path.segments)
        way.push_back({segment.end.x, segment.end.y});
    json out{{"way", way},
             {"lengthMm", seam.lengthMm},
             {"seenMm", seam.seenMm},
             {"narrowestMm", seam.narrowestMm},
             {"isThin", seam.isThin},
             {"cutsKept", seam.cutsKept}};
    out["elsewhereMm"] = seam.elsewhereMm ? json(*seam.elsewhereMm) : json();
    out["nearSeamMm"] = seam.nearSeamMm ? json(*seam.nearSeamMm) : json();
    out["why"] = job::seamText(seam, kMm);
    return out;
}

/// A piece with its ways, and on how many sheets its stock would lie with each.
struct Told {
    job::Considered piece;
    std::vector<int> sheets;
};

base::Result<std::vector<Told>> told(const State& state, const std::vector<job::Oversize>& pieces,
                                     const job::SplitOptions& wish) {
    auto all = job::considered(state, pieces, wish);
    if (!all)
        return all.error();
    std::vector<const job::Draft*> first;
    for (const job::Considered& one : *all)
        first.push_back(one.drafts.empty() ? nullptr : &one.drafts.front());
    std::vector<Told> out;
    for (size_t i = 0; i < all->size(); ++i) {
        auto sheets = job::sheetsOfWays(state, *all, i, first, catalogue().formats);
        if (!sheets)
            return sheets.error();
        out.push_back({(*all)[i], sheets.take()});
    }
    return out;
}

json toldJson(const Told& told) {
    const job::Proposed& one = told.piece.proposed;
    json ways = json::array();
    for (size_t i = 0; i < one.ways.size(); ++i) {
        const split::Division& way = one.ways[i];
        json seams = json::array(), parts = json::array();
        for (const split::Seam& seam : way.seams)
            seams.push_back(seamJson(seam));
        for (const geometry::Shape& part : way.parts) {
            const geometry::Box box = geometry::bounds(part);
            parts.push_back({{"boxMm", {box.width(), box.height()}}, {"areaMm2", geometry::area(part)}});
        }
        ways.push_back({{"parts", parts},
                        {"seams", seams},
                        {"seamMm", way.seamMm},
                        {"seenMm", way.seenMm},
                        {"thinCuts", way.thinCuts},
                        {"slivers", way.slivers},
                        {"crumbs", way.crumbs},
                        {"sheetsOfItsStock", told.sheets[i]}});
    }
    json out{{"piece", one.of.piece.text()},
             {"name", one.of.name},
             {"sizeMm", {one.of.widthMm, one.of.heightMm}},
             {"roomMm", {one.of.room.widthMm, one.of.room.heightMm}},
             {"ways", ways}};
    if (!one.problem.empty())
        out["problem"] = one.problem;
    return out;
}

void tell(const std::vector<Told>& all, std::ostream& out) {
    for (const Told& told : all) {
        const job::Proposed& one = told.piece.proposed;
        out << one.of.piece.text() << ", " << job::oversizeText(one.of, kMm) << "\n";
        if (!one.problem.empty())
            out << "  " << one.problem << "\n";
        for (size_t i = 0; i < one.ways.size(); ++i) {
            out << "  " << i + 1 << ": " << job::divisionText(one.ways[i], kMm) << "; its stock on at most "
                << base::counted(told.sheets[i], "sheet") << "\n";
            for (const split::Seam& seam : one.ways[i].seams)
                out << "     " << job::seamText(seam, kMm) << "\n";
        }
    }
}

/// At which size there would be a part less.
base::Status tellSmaller(const State& state, const std::vector<Told>& all, const job::SplitOptions& wish,
                         std::ostream& out) {
    std::vector<job::Considered> pieces;
    for (const Told& one : all)
        pieces.push_back(one.piece);
    const auto fewer = job::fewerParts(state, pieces, wish);
    if (!fewer)
        return fewer.error();
    if (*fewer)
        out << "at " << std::lround(100 * (*fewer)->scale) << " % of its size there are "
            << base::counted((*fewer)->parts, "part") << ", " << (*fewer)->fewer << " fewer\n";
    else
        out << "no size above that (and from 75 % on) spares a part\n";
    return base::Done{};
}

/// What would do without seams, a line each.
void tellOthers(const State& state, const std::vector<job::Oversize>& pieces, std::ostream& out) {
    for (const job::LongerMat& mat : job::longerMats(state, pieces, catalogue().formats))
        out << "the mat " << mat.id << " (" << mat.name << ") with sheets as large "
            << (mat.stillTooLarge == 0 ? "takes all whole"
                                       : "leaves " + base::counted(mat.stillTooLarge, "piece") + " too large")
            << "\n";
    out << "at " << base::formatNumber(std::floor(1000 * job::scaleWithoutSeams(state, pieces)) / 10, 1)
        << " % of its size nothing needs a seam\n";
}

/// What joints came to, of the steps that were added.
void tellJoints(const State& before, const State& after, std::ostream& out) {
    for (size_t i = before.job.steps.size(); i < after.job.steps.size(); ++i) {
        const job::AfterStep& step = after.made.after[i];
        for (const design::PieceId id : design::resolved(step.step->on, step.before->now)) {
            const design::Piece& whole = *design::findPiece(step.before->now, id);
            const auto parts = split::partsOf(whole.shape(), split::wishOf(*step.step, whole));
            if (!parts)
                continue;
            int keys = 0;
            for (const split::SeamJoint& seam : parts->seams) {
                keys += static_cast<int>(seam.keys.size());
                if (!seam.whyNot.empty())
                    out << "  a seam is joined "
                        << (seam.joint == split::Joint::Butt ? "edge to edge" : "without windows") << ": "
                        << seam.whyNot << "\n";
            }
            out << (whole.name.empty() ? id.text() : whole.name) << ": "
                << base::counted(static_cast<long long>(parts->parts.size()), "part") << ", "
                << base::counted(keys, "window") << "\n";
        }
    }
}

base::Status splitCommand(Session& session, const Options& options) {
    const auto loaded = loadState(session, options.operand);
    if (!loaded)
        return loaded.error();
    const auto planned = plannedFor(*loaded, options);
    if (!planned)
        return planned.error();
    const State& state = *planned;
    if (!state.made.pieces)
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    const auto wish = wishesSaid(state, options);
    if (!wish)
        return wish.error();
    const auto way = numberBetween("--way", options["--way"], 1, 99);
    if (!way)
        return way.error();
    auto large = job::oversize(state, catalogue().formats);
    if (!large)
        return large.error();
    std::vector<job::Oversize> pieces = large.take();
    if (options["--on"] != "all") {
        const auto on = piecesCalled(state, options["--on"]);
        if (!on)
            return on.error();
        std::erase_if(pieces, [&](const job::Oversize& one) {
            return std::find(on->begin(), on->end(), one.piece) == on->end();
        });
    }
    if (pieces.empty() && !options.has("--json")) {
        session.out << "everything fits its sheets; nothing is divided\n";
        return options.has("--list") ? base::Status(base::Done{}) : keep(session, options, state.job, state);
    }
    const auto all = told(state, pieces, *wish);
    if (!all)
        return all.error();
    if (options.has("--json")) {
        json out = json::array();
        for (const Told& one : *all)
            out.push_back(toldJson(one));
        session.out << out.dump(2) << "\n";
    } else {
        tell(*all, session.out);
        tellOthers(state, pieces, session.out);
        if (options.has("--smaller"))
            if (auto ok = tellSmaller(state, *all, *wish, session.out); !ok)
                return ok;
    }
    if (options.has("--list"))
        return base::Done{};
    std::vector<job::Taken> taken;
    for (const Told& told : *all) {
        const job::Proposed& one = told.piece.proposed;
        if (one.ways.empty())
            return Error{Code::Degenerate, one.of.name + " was not divided. " + one.problem};
        const size_t k = std::min(static_cast<size_t>(*way), one.ways.size()) - 1;
        taken.push_back({one.of, job::wishesOf(one.ways[k], wish->jointFor(one.of))});
    }
    const auto done = job::dividedAlong(state, taken, wish->overlapMm);
    if (!done)
        return done.error();
    if (!options.has("--json"))
        tellJoints(state, *done, session.out);
    return keep(session, options, done->job, *done);
}

CommandSpec boardSpec() {
    return {"board",
            "JOB.thinline",
            "Backs the whole with board: its outline without openings, a little smaller.",
            {{"--inset", "LENGTH", "Smaller all around.", "2mm", false},
             {"--stock", "STOCK", "Cut from this; else from the first board there is.", "", false},
             kJobOption}};
}

base::Status boardCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto inset = lengthOrZero(options["--inset"]);
    if (!inset)
        return inset.error();
    const auto stock = stockSaidOr(state->job, options, "");
    if (!stock)
        return stock.error();
    auto job = job::withBoard(*state, *inset, *stock);
    return job ? keep(session, options, job.take(), *state) : base::Status(job.error());
}

} // namespace

std::vector<Command> splitCommands() {
    return {{splitSpec(), splitCommand}, {boardSpec(), boardCommand}};
}

} // namespace thinline::batch
