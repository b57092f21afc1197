// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"
#include "batch/Adding.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "folding/Draw.h"
#include "formats/image/ImageFile.h"
#include "job/Constructions.h"
#include "pack/Names.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <sstream>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using construct::Construction;
using job::State;

// ---- construct

CommandSpec constructSpec() {
    CommandSpec spec{
        "construct",
        "list|show|NAME",
        "Makes a work from measures: construct round-box diameter=58 height=104. 'list' names all there are, "
        "'show NAME' "
        "its measures and what they come to.",
        {{"--stock", "ID", "The stock its main parts are cut from; it is made for that card.", "", false},
         {"--change", "SOURCE",
          "Changes this construction of the job, by its number or name, instead of adding one; measures that "
          "are not "
          "said become the usual ones.",
          "", false}}};
    spec.takesMore = true;
    return withOutputs(spec);
}

void list(Session& session) {
    for (const Construction* one : construct::constructions()) {
        std::string name = one->name;
        name.resize(14, ' ');
        session.out << name << one->label << ": " << one->says << "\n";
    }
}

std::string rangeOf(const base::Parameter& p) {
    if (p.quantity == base::Quantity::Choice) {
        std::string out;
        for (const std::string& word : base::choicesOf(p))
            out += (out.empty() ? "" : " or ") + word;
        return out;
    }
    return base::valueText(p, p.least) + " to " + base::valueText(p, p.most);
}

void sayNumbers(Session& session, const construct::Built& built) {
    for (const construct::Derived& derived : built.derived)
        session.out << "  " << construct::textOf(derived, base::LengthUnit::Millimetre) << "\n";
}

base::Status show(Session& session, const Options& options) {
    if (options.more.empty())
        return Error{Code::InvalidArgument,
                     "Say which one: construct show round-box. 'construct list' names them."};
    const auto given = job::readGiven(options.more.front(), {options.more.begin() + 1, options.more.end()});
    if (!given)
        return given.error();
    const Construction& one = *construct::constructionNamed(given->name);
    session.out << one.label << ": " << one.says << "\n";
    if (one.word)
        session.out << "  word (" << one.word << ")"
                    << (one.hasLetters ? ", font (FAMILY or FAMILY:STYLE)" : "") << "\n";
    for (size_t i = 0; i < one.measures.size(); ++i) {
        const base::Parameter& p = one.measures[i].parameter;
        session.out << "  " << p.name << " = " << base::valueText(p, given->values[i]) << " (" << p.label
                    << "; " << rangeOf(p) << "): " << one.measures[i].why << "\n";
    }
    const auto set = job::lettered(*given, nullptr, session.fonts);
    if (!set)
        return set.error();
    const auto built = construct::built(set->given);
    if (!built)
        return built.error();
    session.out << "comes to " << built->parts.size() << " pieces for card of "
                << base::formatNumber(given->thicknessMm, 2) << " mm:\n";
    for (const construct::Part& part : built->parts) {
        const geometry::Box box = geometry::bounds(part.body.shape);
        session.out << "  " << part.key << ": " << base::formatNumber(box.width(), 1) << " × "
                    << base::formatNumber(box.height(), 1) << " mm"
                    << (part.copies > 1 ? ", " + std::to_string(part.copies) + " times" : "") << "\n";
    }
    sayNumbers(session, *built);
    for (const std::string& said : built->said)
        session.out << said << "\n";
    return base::Done{};
}

base::Status constructCommand(Session& session, const Options& options) {
    if (options.operand == "list") {
        list(session);
        return base::Done{};
    }
    if (options.operand == "show")
        return show(session, options);
    const auto given = job::readGiven(options.operand, options.more);
    if (!given)
        return given.error();
    auto start = startOf(session, options, given->name);
    if (!start)
        return start.error();
    base::Result<job::Noted> made = job::Noted{};
    job::SourceId changed{start->job.nextSource};
    if (options.has("--change")) {
        const auto source = sourceCalled(*start, options["--change"]);
        if (!source)
            return source.error();
        changed = *source;
        made = job::withConstructionChanged(start->job, changed, *given, session.fonts);
    } else {
        const auto stock = stockOf(start->job, options);
        if (!stock)
            return stock.error();
        made = job::withConstruction(*start, *given, *stock, session.fonts);
    }
    if (!made)
        return made.error();
    const job::Source& source = *job::findSource(made->job, changed);
    if (const auto built = construct::built(std::get<job::Construction>(source.what).given))
        sayNumbers(session, *built);
    return finish(session, *start, *made, options);
}

// ---- fold

CommandSpec foldSpec() {
    return {
        "fold",
        "JOB.thinline",
        "Folds a piece up in thought, or all pieces of its construction, and says whether joints meet.",
        {{"--piece", "WHAT", "Which piece; without it the one with the most folds.", "", false},
         {"--png", "FILE.png", "Draws it as it looks then.", "", false},
         {"--at", "0..1", "From flat to done.", "1", false},
         {"--first", "JOINT[,JOINT]", "Joints of a card that are closed before its others, in this order.",
          "", false},
         {"--keep", "", "Keeps that order in the job.", "", false},
         {"--turn", "DEGREES", "Its right side away from the viewer.", "-35", false},
         {"--tilt", "DEGREES", "Its upper side towards the viewer.", "25", false},
         {"--lit", "", "With a light behind its panes.", "", false},
         {"--check", "", "Fails when a joint does not meet or panels pass through one another.", "", false}}};
}

base::Status closeFirst(folding::Model& model, const std::string& said) {
    const std::vector<std::string> known = folding::jointsOf(model);
    std::vector<std::string> first;
    std::istringstream names(said);
    for (std::string name; std::getline(names, name, ',');) {
        if (std::find(known.begin(), known.end(), name) == known.end()) {
            std::string all;
            for (const std::string& one : known)
                all += (all.empty() ? "" : ", ") + one;
            return Error{Code::NotFound,
                         "There is no joint '" + name + "'; there are " + (all.empty() ? "none" : all) + "."};
        }
        first.push_back(name);
    }
    folding::foldInOrder(model, first);
    return base::Done{};
}

base::Status foldCommand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    design::PieceId piece = job::foldable(*state);
    if (options.has("--piece")) {
        const auto chosen = piecesCalled(*state, options["--piece"]);
        if (!chosen)
            return chosen.error();
        piece = chosen->front();
    }
    const auto at = numberBetween("--at", options["--at"], 0, 1),
               turn = numberBetween("--turn", options["--turn"], -360, 360),
               tilt = numberBetween("--tilt", options["--tilt"], -90, 90);
    for (const auto* number : {&at, &turn, &tilt})
        if (!*number)
            return number->error();
    if (piece == design::PieceId{})
        return Error{Code::InvalidArgument, "No piece of this job has folds; there is nothing to fold up."};
    const auto looks = job::printLooks(state->job, *state->made.work(), {});
    if (!looks)
        return looks.error();
    auto folded = job::foldedOf(*state, piece, *looks);
    if (!folded)
        return folded.error();
    folding::Model model = folded.take();
    if (options.has("--first"))
        if (auto ok = closeFirst(model, options["--first"]); !ok)
            return ok;
    if (options.has("--keep")) {
        const auto kept = madeOf(job::withJointOrder(state->job, piece.source(), folding::jointsOf(model)), *state);
        if (!kept)
            return kept.error();
        if (auto saved = saveState(session, options.operand, *kept); !saved)
            return saved;
    }
    for (const folding::Sheet& sheet : model.sheets)
        if (!sheet.said.empty())
            session.out << sheet.said << "\n";
    const folding::Posed done = folding::posed(model, 1);
    const auto closings = folding::closingsOf(model, done);
    const auto clashes = folding::clashesOf(model, done);
    if (!clashes)
        return clashes.error();
    session.out << model.sheets.size() << (model.sheets.size() == 1 ? " piece, " : " pieces, ")
                << closings.size() << (closings.size() == 1 ? " joint\n" : " joints\n");
    int open = 0;
    for (const folding::Closing& one : closings) {
        open += one.gapMm > folding::kMostGapMm;
        session.out << "  " << one.name << ": " << base::formatNumber(one.gapMm, 3) << " mm"
                    << (one.gapMm > folding::kMostGapMm ? ", open" : "") << "\n";
    }
    for (const folding::Clash& clash : *clashes)
        session.out << "  " << clash.a << " passes through " << (clash.a == clash.b ? "itself" : clash.b)
                    << "\n";
    for (const folding::Inside& print : folding::printsInside(model, done))
        session.out << "  " << print.sentence() << "\n";
    if (options.has("--png")) {
        folding::View view;
        view.turnRad = *turn * std::numbers::pi / 180;
        view.tiltRad = *tilt * std::numbers::pi / 180;
        view.isLit = options.has("--lit");
        const raster::Picture picture = folding::drawn(model, folding::posed(model, *at), view);
        if (auto written = session.store.writeWhole(options["--png"], formats::image::encodePng(picture));
            !written)
            return written;
        session.out << "wrote " << options["--png"] << "\n";
    }
    if (options.has("--check") && (open > 0 || !clashes->empty()))
        return Error{Code::Degenerate, std::to_string(open) + " joints are open and " +
                                           std::to_string(clashes->size()) +
                                           " pairs of panels pass through one another."};
    return base::Done{};
}

// ---- slots

CommandSpec slotsSpec() {
    return {"slots",
            "JOB.thinline",
            "Puts the names of a list in the place of a word, also of a printed one or of a work from "
            "measures: one job each, those "
            "with findings first.",
            {{"--list", "NAMES.csv", "One name a line, or the first column of a table.", "", true},
             {"--word", "WHICH",
              "Which word is replaced: the number of its source, or 'print 5' for what step 5 prints; "
              "without it the only "
              "one.",
              "", false},
             {"--out", "FOLDER", "Where the jobs go.", "", false},
             {"--together", "ALL.thinline",
              "Writes one job that holds all of them, to be laid on sheets and cut together.", "", false}}};
}

base::Status slotsCommand(Session& session, const Options& options) {
    auto start = loadState(session, options.operand);
    if (!start)
        return start.error();
    constexpr std::uint64_t kMostBytes = 4'000'000;
    const auto bytes = session.store.read(options["--list"], kMostBytes);
    if (!bytes)
        return bytes.error();
    const auto names = job::namesOf(std::string(bytes->begin(), bytes->end()));
    if (!names)
        return names.error();
    const auto slot =
        job::slotOf(start->job, options.has("--word") ? std::optional(options["--word"]) : std::nullopt);
    if (!slot)
        return slot.error();
    if (!options.has("--out") && !options.has("--together"))
        return Error{Code::InvalidArgument,
                     "Say where the jobs go: --out FOLDER for one each, --together FILE for one of all."};
    const auto made = pack::forNames(*start, slot->slot, names->all, session.fonts, catalogue().formats);
    if (!made)
        return made.error();
    if (!names->heading.empty())
        session.out << "the first line, '" << names->heading << "', was taken for a heading\n";
    for (const pack::Named& one : *made)
        session.out << one.name << ": " << base::formatNumber(one.widthMm, 1) << " mm wide"
                    << (one.spoils > 0 ? ", " + std::to_string(one.spoils) + " findings that spoil card" : "")
                    << (one.risks > 0 ? ", " + std::to_string(one.risks) + " that risk it" : "") << "\n";
    if (options.has("--out")) {
        if (auto folder = session.store.makeFolder(options["--out"]); !folder)
            return folder;
        for (const pack::Named& one : *made) {
            const std::string file = options["--out"] + "/" + one.fileName + ".thinline";
            if (const auto saved = document::saveJob(session.store, file, one.state); !saved)
                return saved.error();
        }
        session.out << "wrote " << made->size() << " jobs to " << options["--out"] << "\n";
    }
    if (options.has("--together")) {
        const auto all = pack::asOneJob(*made, start->job.name);
        if (!all)
            return all.error();
        if (const auto saved = document::saveJob(session.store, options["--together"], *all); !saved)
            return saved.error();
        session.out << "wrote " << made->size() << " designs to one job, " << options["--together"] << "\n";
    }
    return base::Done{};
}

} // namespace

std::vector<Command> constructCommands() {
    return {{constructSpec(), constructCommand}, {foldSpec(), foldCommand}, {slotsSpec(), slotsCommand}};
}

} // namespace thinline::batch
