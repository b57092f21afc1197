// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Folds and other lines of pieces: told, laid, changed, taken off, and how folds are made. Each way calls the step the
// Folds station calls.
//
// Lines are named by their numbers, which are told with their pieces and stay as long as the line is there: those of a drawing
// count from 1, those laid by a step are made of its number. A number alone is not enough, for twins of a piece carry the
// same ones; so --lines goes with --on. Places are those of the design, as `show` and the rulers of the window have them.
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "batch/StepValues.h"
#include "design/Cuts.h"
#include "folds/Steps.h"
#include "job/SheetSteps.h"
#include "job/Steps.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

CommandSpec foldsSpec() {
    return {
        "folds",
        "JOB.thinline",
        "Tells the folds and other lines of a job, lays and changes them, or says how folds are made. "
        "Further words are values: as=slit angle=45.",
        {{"--add", "X,Y X,Y", "Lays a line between two places of the design on the piece of --on.", "",
          false},
         {"--along", "X,Y",
          "Lays a line along the straight edge at this place, at distance=LENGTH, on the piece of --on.", "",
          false},
         {"--way", "X,Y X,Y",
          "Makes a way for a ribbon or a stick between two places on the piece of --on, with the values of "
          "way.",
          "", false},
         {"--keep-free", "X,Y X,Y",
          "Keeps a strip between two places free of foam and glue, with width=LENGTH.", "", false},
         {"--write", "X,Y X,Y",
          "Writes --words in single lines on the piece of --on, its base line from the first place towards "
          "the other, with the "
          "values of write.",
          "", false},
         {"--words", "TEXT", "What is written: A to Z, digits and . , - : ! ? ' / & +.", "", false},
         {"--do", "ACTION",
          "Does another step, with the values it takes: " + namesOf(folds::actionInfos()) + ".", "", false},
         {"--on", "WHAT", kWhat, "", false},
         {"--lines", "NUMBERS", "Only these lines of it, as they are told, parted by commas.", "", false},
         {"--by", "VALUE", "The first value of the action.", "", false},
         {"--as", "score|perforation|hand",
          "Folds are scored, perforated, or made by hand along a ruler: the cutter's choice, not the "
          "design's.",
          "", false},
         {"--json", "", "Tells them as JSON.", "", false},
         kJobOption},
        true};
}

// ---- telling

std::string sideWord(design::Side side) {
    return side == design::Side::Front ? "visible face" : "back";
}

/// One line for each line of each piece: what it is, how long, and whether it reaches the edge at both ends.
void tellFolds(const design::Stack& work, std::ostream& out) {
    int told = 0;
    for (const design::Laid& laid : work.pieces)
        for (const design::PieceLine& line : laid.piece.body->lines) {
            ++told;
            const bool isWhole = line.beginsAtEdge && line.endsAtEdge;
            out << laid.id().text() << " line " << numberOf(line.id) << ": "
                << design::kLineUseWords[line.does.index()] << ", "
                << base::formatNumber(geometry::contourLength(line.path), 1) << " mm"
                << (isWhole                                ? ", edge to edge"
                    : line.beginsAtEdge || line.endsAtEdge ? ", one end at the edge"
                                                           : ", ends on the card");
            if (const auto* fold = std::get_if<design::Fold>(&line.does))
                out << ", " << base::formatNumber(fold->angleDeg, 0) << " degrees "
                    << (fold->isTowards ? "towards you" : "away from you") << ", scored on the "
                    << sideWord(fold->scored);
            out << "\n";
        }
    if (told == 0)
        out << "no folds or other lines\n";
}

json linesJson(const design::Stack& work) {
    json out = json::array();
    for (const design::Laid& laid : work.pieces)
        for (const design::PieceLine& line : laid.piece.body->lines) {
            const geometry::Point end = geometry::endOf(line.path);
            json one{{"piece", laid.id().text()},
                     {"line", numberOf(line.id)},
                     {"as", design::kLineUseWords[line.does.index()]},
                     {"lengthMm", geometry::contourLength(line.path)},
                     {"fromMm", {line.path.start.x, line.path.start.y}},
                     {"toMm", {end.x, end.y}},
                     {"beginsAtEdge", line.beginsAtEdge},
                     {"endsAtEdge", line.endsAtEdge}};
            if (const auto* fold = std::get_if<design::Fold>(&line.does)) {
                one["goes"] = fold->isTowards ? "towards you" : "away from you";
                one["scored"] = sideWord(fold->scored);
                one["angleDeg"] = fold->angleDeg;
            }
            out.push_back(std::move(one));
        }
    return out;
}

// ---- laying and changing

/// What is drawn between places.
constexpr std::array kDrawn{"--add", "--along", "--way", "--keep-free", "--write"};

/// The one piece a line is laid on.
base::Result<const design::Piece*> pieceSaid(const State& state, const Options& options) {
    if (!options.has("--on"))
        return Error{Code::InvalidArgument, "Say on which piece by --on."};
    const auto pieces = piecesCalled(state, options["--on"]);
    if (!pieces)
        return pieces.error();
    const design::Piece* piece = pieces->size() == 1 && state.made.pieces
                                     ? design::findPiece(state.made.pieces->now, pieces->front())
                                     : nullptr;
    if (!piece)
        return Error{Code::InvalidArgument, "A line is laid on one piece at a time; '" + options["--on"] +
                                                "' is " + std::to_string(pieces->size()) + "."};
    return piece;
}

/// What is chosen by --on and --lines.
base::Result<std::vector<design::Chosen>> chosenSaid(const State& state, const Options& options) {
    std::vector<design::Chosen> out;
    const auto pieces = options.has("--on")
                            ? piecesCalled(state, options["--on"])
                            : base::Result<std::vector<design::PieceId>>(std::vector<design::PieceId>{});
    if (!pieces)
        return pieces.error();
    if (!options.has("--lines"))
        return std::vector<design::Chosen>(pieces->begin(), pieces->end());
    std::istringstream words(options["--lines"]);
    for (std::string word; std::getline(words, word, ',');) {
        const auto number = numberBetween("--lines", word, 1, 2'147'483'647);
        if (!number)
            return number.error();
        for (const design::PieceId piece : *pieces)
            out.emplace_back(design::LineOf{piece, design::LineId{static_cast<int>(*number)}});
    }
    return out;
}

base::Result<design::Step> withValues(design::Step step, const Options& options) {
    design::StepKind kind = *folds::infoOf(step);
    kind.takesOnlySaid = kind.takesOnlySaid || !step.values.empty(); // what is laid is whole already
    const auto values = valuesSaid(kind, options);
    if (!values)
        return values.error();
    for (const auto& [name, value] : *values)
        step.values[name] = value;
    return step;
}

base::Result<design::Step> laid(const State& state, const Options& options, const std::string& option) {
    const auto piece = pieceSaid(state, options);
    const auto points = pointsOf(option, options[option]);
    if (!piece || !points)
        return !piece ? piece.error() : points.error();
    const size_t wanted = option == "--along" ? 1 : 2;
    if (points->size() != wanted)
        return Error{Code::InvalidArgument,
                     option + (wanted == 2 ? " takes two places: X,Y X,Y." : " takes one place: X,Y.")};
    using folds::Action;
    if (option == "--way" || option == "--keep-free")
        return withValues(folds::wayStep(option == "--way" ? Action::Way : Action::KeepFree, **piece,
                                         points->front(), points->back()),
                          options);
    if (option == "--write")
        return withValues(folds::writeStep(**piece, points->front(), points->back(),
                                           options.has("--words") ? options["--words"] : std::string()),
                          options);
    if (wanted == 1)
        return withValues(folds::alongEdgeStep(**piece, points->front(), 20), options);
    const geometry::Line way{points->front(), {geometry::Segment::line(points->back())}};
    return withValues(folds::lineStep(**piece, way), options);
}

/// The lines that are meant: those named, and all of whole pieces.
std::vector<design::LineOf> linesIn(const std::vector<design::Chosen>& chosen,
                                    const std::vector<design::Piece>& pieces) {
    std::vector<design::LineOf> out;
    for (const design::Chosen& one : chosen)
        if (const auto* said = std::get_if<design::LineOf>(&one))
            out.push_back(*said);
        else
            for (const design::PieceId id : design::resolved({one}, pieces))
                for (const design::PieceLine& line : design::findPiece(pieces, id)->body->lines)
                    if (const design::LineOf each{id, line.id};
                        std::find(out.begin(), out.end(), each) == out.end())
                        out.push_back(each);
    return out;
}

base::Result<design::Step> stepSaid(const State& state, const Options& options) {
    for (const char* option : kDrawn)
        if (options.has(option))
            return laid(state, options, option);
    const auto said = actionSaid(folds::actionInfos(), options);
    if (!said)
        return said.error();
    const folds::ActionInfo* info = *said;
    auto on = chosenSaid(state, options);
    if (!on)
        return on.error();
    if (info->action == folds::Action::LikeTwins && state.made.pieces)
        return folds::twinsStep(linesIn(*on, state.made.pieces->now), state.made.pieces->now);
    return withValues(folds::makeStep(info->action, on.take()), options);
}

base::Status foldsCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto ways =
        std::count_if(kDrawn.begin(), kDrawn.end(), [&](const char* option) { return options.has(option); }) +
        options.has("--do") + options.has("--as");
    if (ways > 1)
        return Error{Code::InvalidArgument, "Say one of --add, --along, --way, --keep-free, --do and --as."};
    if (ways == 0) {
        const design::Stack none, &work = state->made.work() ? *state->made.work() : none;
        const std::string madeBy = design::kFoldsAsWords[static_cast<size_t>(state->job.plan.foldsAs)];
        if (options.has("--json")) {
            session.out << json{{"foldsAs", madeBy}, {"lines", linesJson(work)}}.dump(2) << "\n";
            return base::Done{};
        }
        tellFolds(work, session.out);
        session.out << "folds are made by " << madeBy << "\n";
        return base::Done{};
    }
    if (options.has("--as")) {
        const auto as = foldsAsCalled(options["--as"]);
        if (!as)
            return as.error();
        return keep(session, options, job::withFoldsAs(state->job, *as), *state);
    }
    const auto step = stepSaid(*state, options);
    if (!step)
        return step.error();
    auto done = job::stepped(*state, *step);
    return done ? keep(session, options, done->job, *done) : base::Status(done.error());
}

} // namespace

std::vector<Command> foldCommands() {
    return {{foldsSpec(), foldsCommand}};
}

} // namespace thinline::batch
