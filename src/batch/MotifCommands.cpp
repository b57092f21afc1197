// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Motifs into windows: what fits how, and doing it.
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "geometry/Measures.h"
#include "job/LineSteps.h"
#include "job/Steps.h"

#include <nlohmann/json.hpp>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

CommandSpec motifSpec() {
    return {
        "fit-motif",
        "JOB.thinline",
        "Fits pieces into windows, each as large as its window holds it, and welds them with their frame.",
        {{"--motif", "WHAT", "The pieces that go into windows.", "", false},
         {"--on", "WHAT", "The piece with the windows.", "", false},
         {"--at", "X,Y",
          "Into the window at this place of the design; else each takes the window it lies over, or "
          "the nearest one.",
          "", false},
         {"--every", "",
          "Each window of these pieces gets one; where there are fewer motifs they take turns.", "", false},
         {"--overlap", "LENGTH", "How far it may run into the frame.", "2mm", false},
         {"--contact", "LENGTH", "How wide it holds at least where it holds.", "3mm", false},
         {"--sides", "COUNT", "On how many sides of the window, 1 to 4.", "2", false},
         {"--fill", "LENGTH", "Fills gaps narrower than this.", "0", false},
         {"--dry-run", "", "Only tells how they would fit.", "", false},
         {"--json", "", "As JSON.", "", false},
         kJobOption}};
}

base::Result<folds::MotifWish> wishOf(const Options& options) {
    const auto overlap = lengthOrZero(options["--overlap"]), contact = lengthOrZero(options["--contact"]),
               fill = lengthOrZero(options["--fill"]);
    if (!overlap || !contact || !fill)
        return !overlap ? overlap.error() : !contact ? contact.error() : fill.error();
    const auto sides = numberBetween("--sides", options["--sides"], 1, 4);
    if (!sides)
        return sides.error();
    return folds::MotifWish{*overlap, *contact, static_cast<int>(*sides), *fill};
}

base::Result<std::vector<const design::Piece*>> piecesSaid(const State& state, const Options& options,
                                                           const char* name) {
    if (!options.has(name))
        return Error{Code::InvalidArgument,
                     "Say which piece has the windows by --on, and what goes into them by --motif."};
    const auto called = piecesCalled(state, options[name]);
    if (!called)
        return called.error();
    std::vector<const design::Piece*> out;
    for (const design::PieceId id : *called)
        if (const auto* piece = design::findPiece(state.made.pieces->now, id))
            out.push_back(piece);
    return out;
}

base::Result<std::vector<folds::MotifPair>> pairsSaid(const State& state, const Options& options) {
    auto frames = piecesSaid(state, options, "--on");
    const auto motifs = piecesSaid(state, options, "--motif");
    if (!frames || !motifs)
        return !frames ? frames.error() : motifs.error();
    if (options.has("--every")) {
        if (options.has("--at"))
            return Error{Code::InvalidArgument, "Say --every or --at, not both."};
        std::vector<design::OpeningOf> windows;
        for (const design::Piece* frame : *frames)
            for (const design::OpeningOf& window : job::windowsOf(*frame))
                windows.push_back(window);
        return job::motifPairsInTurn(windows, *motifs);
    }
    if (frames->size() != 1)
        return Error{Code::InvalidArgument,
                     "--on takes one piece, the one with the windows; several with --every."};
    const design::Piece* frame = frames->front();
    if (options.has("--at")) {
        const auto at = pointsOf("--at", options["--at"]);
        if (!at)
            return at.error();
        if (motifs->size() != 1)
            return Error{Code::InvalidArgument, "--at takes one motif into one window."};
        return std::vector<folds::MotifPair>{
            {{frame->id, geometry::inverse(frame->placed)(at->front())}, motifs->front()->id}};
    }
    std::vector<const design::Piece*> pieces{frame};
    pieces.insert(pieces.end(), motifs->begin(), motifs->end());
    return job::motifPairs(pieces);
}

json contactsJson(const std::vector<folds::Contact>& contacts, double leastMm) {
    json out = json::array();
    for (const folds::Contact& one : contacts) {
        json sides = json::array();
        for (const int side : folds::sidesOf(one, leastMm))
            sides.push_back(folds::kSideWords[static_cast<size_t>(side)]);
        out.push_back(
            {{"sides", sides}, {"widthMm", one.widthMm}, {"placeMm", {one.middle.x, one.middle.y}}});
    }
    return out;
}

void tellFits(const std::vector<folds::SeenMotif>& seen, double leastMm, bool asJson, std::ostream& out) {
    json all = json::array();
    for (const auto& [motif, fit] : seen) {
        if (asJson) {
            all.push_back({{"motif", motif->id.text()},
                           {"scale", fit.scale},
                           {"sides", fit.sides},
                           {"holds", contactsJson(fit.holds, leastMm)},
                           {"weak", contactsJson(fit.weak, leastMm)},
                           {"filledMm2", fit.filledMm2},
                           {"whyNot", fit.whyNot}});
            continue;
        }
        out << motif->id.text() << ": at " << base::formatNumber(100 * fit.scale, 1)
            << " % of its size, holds" << (fit.holds.empty() ? " nowhere" : "");
        for (const folds::Contact& one : fit.holds)
            out << (&one == &fit.holds.front() ? " " : ", ") << folds::contactText(one, leastMm);
        for (const folds::Contact& one : fit.weak)
            out << ", only " << folds::contactText(one, leastMm);
        if (fit.filledMm2 > 0.005)
            out << "; " << base::formatNumber(fit.filledMm2, 2) << " mm² of gaps filled";
        if (!fit.whyNot.empty())
            out << "; it " << fit.whyNot;
        out << "\n";
    }
    if (asJson)
        out << all.dump(2) << "\n";
}

base::Status motifCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto wish = wishOf(options);
    if (!wish)
        return wish.error();
    if (!state->made.pieces)
        return Error{Code::InvalidArgument, "There are no pieces in this job."};
    const auto pairs = pairsSaid(*state, options);
    if (!pairs)
        return pairs.error();
    const design::Step step = folds::motifStep(*pairs, *wish);
    const auto seen = folds::motifsSeen(*state->made.pieces, step);
    if (!seen)
        return seen.error();
    tellFits(*seen, wish->contactMm, options.has("--json"), session.out);
    if (options.has("--dry-run"))
        return base::Done{};
    for (const folds::SeenMotif& one : *seen)
        if (const std::string why = folds::whyRefused(one); !why.empty())
            return Error{Code::InvalidArgument, why};
    auto done = job::stepped(*state, step);
    return done ? keep(session, options, done->job, *done) : base::Status(done.error());
}

} // namespace

std::vector<Command> motifCommands() {
    return {{motifSpec(), motifCommand}};
}

} // namespace thinline::batch
