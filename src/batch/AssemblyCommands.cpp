// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What comes after cutting: how a work is put together, and what it looks like then.
#include "batch/Chain.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "formats/image/ImageFile.h"
#include "formats/pdf/WritePages.h"
#include "pack/AssemblySheets.h"
#include "pack/FinishedPicture.h"

#include <nlohmann/json.hpp>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

CommandSpec assemblySpec() {
    return {"assembly",
            "JOB.thinline",
            "Tells how a work is put together, and writes assembly sheets.",
            {{"--pdf", "FILE", "Writes the sheets.", "", false},
             {"--png", "FOLDER", "Writes the sheets as pictures, 150 dots to the inch.", "", false},
             {"--needs", "FILE", "Writes what is needed as CSV.", "", false},
             {"--paper", "PAPER", "letter or a4; without it by the job's unit.", "", false},
             {"--item", "TEXT", "Notes something the maker brings: \"a stick, 40 cm\".", "", false},
             {"--at", "PIECE", "What the item is put into; without it it is only needed.", "", false},
             {"--remove-item", "NUMBER", "Takes the item of that number away, from 1.", "", false},
             {"--step", "NUMBER", "A step, as it is numbered, to be told by --words.", "", false},
             {"--words", "TEXT", "Own words for that step; \"\" for the program's.", "", false},
             {"--numbers", "WAY", "Pieces bear their numbers where others cover them: none, scored, drawn.",
              "", false},
             {"--for", "WHOM", "For whom the work is made: myself, others, buyers.", "", false},
             {"--json", "", "Tells the steps as JSON.", "", false},
             kJobOption}};
}

base::Result<pack::Paper> paperSaid(const Options& options, base::LengthUnit unit) {
    if (!options.has("--paper"))
        return pack::paperFor(unit);
    if (options["--paper"] == "letter")
        return pack::paperFor(base::LengthUnit::Inch);
    if (options["--paper"] == "a4")
        return pack::paperFor(base::LengthUnit::Millimetre);
    return Error{Code::InvalidArgument, "--paper: say letter or a4."};
}

/// The place of a word among some.
template <class Words>
base::Result<std::size_t> wordSaid(const std::string& option, const std::string& word, const Words& words) {
    std::string all;
    for (std::size_t i = 0; i < words.size(); ++i) {
        if (word == words[i])
            return i;
        all += (all.empty() ? "" : ", ") + std::string(words[i]);
    }
    return Error{Code::InvalidArgument, option + ": say one of " + all + "."};
}

/// The key of a step by its number.
base::Result<std::string> keySaid(const State& state, const std::string& text) {
    const auto number = numberBetween("--step", text, 1, 1e6);
    const auto told = job::instructionsOf(state);
    if (!number || !told)
        return !number ? number.error() : told.error();
    int at = 0;
    for (const assembly::Assembly& one : told->assemblies)
        for (const assembly::Step& step : one.steps)
            if (++at == static_cast<int>(*number))
                return step.key;
    return Error{Code::NotFound, "There are " + std::to_string(at) + " steps."};
}

base::Result<job::Job> decided(const State& state, const Options& options) {
    return Chain(state)
        .when(options.has("--remove-item"),
              [&](const State& now) {
                  return with(numberBetween("--remove-item", options["--remove-item"], 1, 1000),
                              [&](double number) {
                                  return job::withoutItem(now.job, static_cast<std::size_t>(number) - 1);
                              });
              })
        .when(options.has("--item"),
              [&](const State& now) -> base::Result<job::Job> {
                  assembly::OwnItem item{options["--item"], {}};
                  if (options.has("--at")) {
                      const auto pieces = piecesCalled(now, options["--at"]);
                      if (!pieces)
                          return pieces.error();
                      item.at = pieces->front();
                  }
                  return job::withItem(now, item);
              })
        .when(options.has("--numbers"),
              [&](const State& now) {
                  return with(wordSaid("--numbers", options["--numbers"], assembly::kNumbersWords),
                              [&](std::size_t word) -> base::Result<job::Job> {
                                  return job::withNumbers(now.job, static_cast<assembly::Numbers>(word));
                              });
              })
        .when(options.has("--for"),
              [&](const State& now) {
                  return with(wordSaid("--for", options["--for"], job::kGoesToWords),
                              [&](std::size_t word) -> base::Result<job::Job> {
                                  return job::withGoesTo(now.job, static_cast<job::GoesTo>(word));
                              });
              })
        .when(options.has("--step"),
              [&](const State& now) {
                  return with(keySaid(now, options["--step"]), [&](const std::string& key) {
                      return job::withStepText(now.job, key,
                                               options.has("--words") ? options["--words"] : "");
                  });
              })
        .job();
}

json stepJson(const assembly::Instructions& told, const assembly::Step& step) {
    json pieces = json::array();
    for (const assembly::Placed& one : step.pieces) {
        json placed{{"piece", one.piece.text()},
                    {"number", told.numberOf(one.piece)},
                    {"atMm", {one.at.x, one.at.y}},
                    {"aboveMm", one.aboveMm}};
        if (one.made)
            placed["made"] = assembly::letterOf(*one.made);
        pieces.push_back(std::move(placed));
    }
    json out{{"text", step.text},
             {"up", step.up == design::Side::Front ? "front" : "back"},
             {"pieces", std::move(pieces)},
             {"key", step.key}};
    if (step.liftMm > 0)
        out["liftMm"] = step.liftMm;
    if (!step.foam.empty())
        out["foamSpots"] = step.foam.size();
    return out;
}

base::Status tellSteps(Session& session, const State& state, bool asJson) {
    const auto told = job::instructionsOf(state);
    if (!told)
        return told.error();
    if (!asJson) {
        session.out << pack::stepsText(*told);
        for (const pack::Need& need : pack::needsOf(state, *told))
            session.out << need.group << ": " << need.what << (need.howMuch.empty() ? "" : ", ")
                        << need.howMuch << "\n";
        if (state.job.assembly.numbers != assembly::Numbers::None)
            session.out << "numbers on " << base::counted(state.made.finished->numbers.on, "piece") << "; "
                        << state.made.finished->numbers.without << " have no covered place for one\n";
        if (told->strayTexts > 0)
            session.out << base::counted(told->strayTexts, "own text") << " for steps that are not there\n";
        return base::Done{};
    }
    json all = json::array();
    for (std::size_t i = 0; i < told->assemblies.size(); ++i) {
        const assembly::Assembly& one = told->assemblies[i];
        json made{{"letter", assembly::letterOf(i)}, {"name", one.name}, {"copies", one.copies}};
        made["steps"] = json::array();
        for (const assembly::Step& step : one.steps)
            made["steps"].push_back(stepJson(*told, step));
        all.push_back(std::move(made));
    }
    session.out << all.dump(2) << "\n";
    return base::Done{};
}

base::Status writePng(Session& session, const std::string& path, const raster::Picture& picture) {
    if (auto done = session.store.writeWhole(path, formats::image::encodePng(picture)); !done)
        return done;
    session.out << "wrote " << path << ", " << picture.width << " × " << picture.height << " px\n";
    return base::Done{};
}

base::Status writeSheets(Session& session, const State& state, const Options& options) {
    const auto paper = paperSaid(options, state.job.unit);
    if (!paper)
        return paper.error();
    const auto sheets = pack::assemblySheets(state, *paper);
    if (!sheets)
        return sheets.error();
    const std::vector<formats::pdf::Page>& pages = sheets->pages;
    if (options.has("--pdf")) {
        const auto pdf = formats::pdf::writePages(pages, state.job.name);
        if (!pdf)
            return pdf.error();
        if (auto done = session.store.writeWhole(options["--pdf"], *pdf); !done)
            return done;
        session.out << "wrote " << options["--pdf"] << ", "
                    << base::counted(static_cast<long long>(pages.size()), "page") << "\n";
    }
    if (!options.has("--png"))
        return base::Done{};
    if (auto made = session.store.makeFolder(options["--png"]); !made)
        return made;
    constexpr double kPxPerMm = 150 / 25.4;
    for (std::size_t i = 0; i < pages.size(); ++i)
        if (auto done = writePng(session, options["--png"] + "/page-" + std::to_string(i + 1) + ".png",
                                 pack::pictureOf(pages[i], kPxPerMm));
            !done)
            return done;
    return base::Done{};
}

base::Status assemblyCommand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    for (const char* name : {"--item", "--remove-item", "--step", "--numbers", "--for"})
        if (options.has(name))
            return keep(session, options, decided(*state, options), *state);
    if (options.has("--pdf") || options.has("--png"))
        return writeSheets(session, *state, options);
    if (options.has("--needs")) {
        const auto told = job::instructionsOf(*state);
        return told ? writeText(session, options["--needs"], pack::needsCsv(pack::needsOf(*state, *told)))
                    : base::Status(told.error());
    }
    return tellSteps(session, *state, options.has("--json"));
}

CommandSpec pictureSpec() {
    return {"picture",
            "JOB.thinline",
            "Draws the finished work, with the shadows that its true heights throw.",
            {{"--out", "FILE.png", "Where to write the picture.", "", true},
             {"--px", "NUMBER", "Pixels on the longer side.", "1200", false},
             {"--slant", "DEGREES", "Seen from below by so much, 0 to 60.", "0", false},
             {"--light", "DEGREES", "How high the light stands, 5 to 90.", "45", false}}};
}

base::Status pictureCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    const auto px = numberBetween("--px", options["--px"], 16, 6000);
    const auto slant = numberBetween("--slant", options["--slant"], 0, 60);
    const auto light = numberBetween("--light", options["--light"], 5, 90);
    if (!state || !px || !slant || !light)
        return !state ? state.error() : !px ? px.error() : !slant ? slant.error() : light.error();
    if (!state->made.work())
        return Error{Code::InvalidArgument, "There is nothing to show yet."};
    pack::Look look;
    look.mostPx = static_cast<int>(*px);
    look.slantDeg = *slant;
    look.lightUpDeg = *light;
    const auto picture = pack::finishedPicture(*state->made.work(), state->made.finished->heights, look);
    return picture ? writePng(session, options["--out"], *picture) : base::Status(picture.error());
}

} // namespace

std::vector<Command> assemblyCommands() {
    return {{assemblySpec(), assemblyCommand}, {pictureSpec(), pictureCommand}};
}

} // namespace thinline::batch
