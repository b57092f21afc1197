// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The record beside the work: what was cut how, and what somebody owns. Logbook and drawer are files like any other here,
// named and never assumed, so that a script touches nobody's own by accident.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/PlanOptions.h"
#include "batch/Planned.h"
#include "batch/Report.h"
#include "document/Drawer.h"
#include "job/DrawerSteps.h"
#include "job/StockSteps.h"
#include "logbook/Exchange.h"
#include "logbook/Learn.h"
#include "logbook/OfLoad.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using logbook::Entry;
using logbook::Logbook;

constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;

std::string outcomesText() {
    std::string out;
    for (const char* word : logbook::kOutcomeWords)
        out += (out.empty() ? "" : ", ") + std::string(word);
    return out;
}

CommandSpec logSpec() {
    return {
        "log",
        "add|list|export|import|remove|learnt",
        "Keeps the logbook: 'log add LOGBOOK --job JOB --load 1 --outcome clean', 'log list LOGBOOK'.",
        {{"--job", "JOB.thinline", "add: whose load was cut; learnt: whose stocks are asked for.", "", false},
         kLoadOption,
         {"--outcome", "WORD", "What came of it: " + outcomesText() + ".", "clean", false},
         {"--tile", "", "add: it is the load's test tile.", "", false},
         {"--note", "TEXT", "add: a note.", "", false},
         {"--entry", "FIELD=VALUE,...", "add: an entry by hand, by the columns of 'export'.", "", false},
         {"--words", "TEXT", "list, export: only entries with all of these words.", "", false},
         {"--stock", "STOCK", "list, export: only of this stock.", "", false},
         {"--most", "NUMBER", "list: at most so many.", "50", false},
         {"--json", "", "list: as JSON.", "", false},
         {"--out", "FILE", "export: a .csv or .json file.", "", false},
         {"--from", "FILE", "import: a CSV or JSON file; what is there already is not entered again.", "",
          false},
         {"--id", "ID", "remove: which entry.", "", false}},
        true};
}

base::Result<logbook::Outcome> outcomeSaid(const Options& options) {
    const auto& words = logbook::kOutcomeWords;
    const auto at = std::find(words.begin(), words.end(), options["--outcome"]);
    if (at == words.end())
        return Error{Code::InvalidArgument, "--outcome: say one of " + outcomesText() + "."};
    return static_cast<logbook::Outcome>(at - words.begin());
}

/// An entry by hand is one row of what 'export' writes.
base::Result<std::vector<Entry>> entrySaid(const std::string& text) {
    std::string names, values;
    for (const std::string& one : partedBy(text, ',')) {
        const size_t sign = one.find('=');
        if (sign == std::string::npos)
            return Error{Code::InvalidArgument, "--entry: '" + one + "' is not like forceGf=210."};
        names += (names.empty() ? "" : ",") + one.substr(0, sign);
        values += (values.empty() ? "" : ",") + one.substr(sign + 1);
    }
    if (names.find("what") == std::string::npos) {
        names += ",what";
        values += ",cut";
    }
    auto read = logbook::readEntries(names + "\n" + values + "\n");
    if (!read)
        return Error{Code::InvalidArgument, "--entry: " + read.error().message};
    return read;
}

base::Result<std::vector<Entry>> entriesSaid(Session& session, const Options& options) {
    if (options.has("--entry"))
        return entrySaid(options["--entry"]);
    if (!options.has("--job") || !options.has("--load"))
        return Error{Code::InvalidArgument, "log add: name --job and --load, or say --entry."};
    const auto outcome = outcomeSaid(options);
    if (!outcome)
        return outcome.error();
    const auto run = asked(session, options["--job"], options);
    if (!run)
        return run.error();
    if (options.has("--tile")) {
        const auto entry = logbook::tileEntryOf(run->state, run->plan, run->first, *outcome);
        return entry ? base::Result(std::vector<Entry>{*entry}) : entry.error();
    }
    return logbook::entriesOf(run->state, run->plan, run->first, *outcome,
                              options.has("--note") ? options["--note"] : "");
}

base::Status add(Session& session, const Options& options, const std::string& path) {
    const auto entries = entriesSaid(session, options);
    if (!entries)
        return entries.error();
    auto book = Logbook::open(path, Logbook::Open::OrBegin);
    if (!book)
        return book.error();
    Logbook into = book.take();
    if (auto taken = into.take(*entries); !taken)
        return taken.error();
    for (const Entry& entry : *entries)
        session.out << "entered " << logbook::entryText(entry) << "\n";
    return base::Done{};
}

/// What is looked for. A stock may be called by the name of one that the program knows; one that somebody made is in the book
/// by its id.
logbook::Search searchSaid(const Options& options, int most) {
    std::string stock = options.has("--stock") ? options["--stock"] : "";
    if (const auto known = stockSaid(job::newJob(catalogue()).stocks, stock))
        stock = *known;
    return {options.has("--words") ? options["--words"] : "", stock, most};
}

base::Status list(Session& session, const Options& options, const Logbook& book) {
    const auto most = numberBetween("--most", options["--most"], 1, 1e6);
    if (!most)
        return most.error();
    const auto found = book.find(searchSaid(options, static_cast<int>(*most)));
    if (!found)
        return found.error();
    if (options.has("--json")) {
        session.out << logbook::jsonOf(*found);
        return base::Done{};
    }
    for (const Entry& entry : *found)
        session.out << entry.id << "  " << logbook::entryText(entry) << "\n";
    const auto all = book.count();
    if (!all)
        return all.error();
    session.out << found->size() << " of " << base::counted(*all, "line") << "\n";
    return base::Done{};
}

base::Status exportTo(Session& session, const Options& options, const Logbook& book) {
    if (!options.has("--out"))
        return Error{Code::InvalidArgument, "log export: name a file with --out."};
    const auto found = book.find(searchSaid(options, 0));
    if (!found)
        return found.error();
    const std::string& path = options["--out"];
    const bool isJson = path.size() > 5 && path.compare(path.size() - 5, 5, ".json") == 0;
    return writeText(session, path, isJson ? logbook::jsonOf(*found) : logbook::csvOf(*found));
}

base::Status importFrom(Session& session, const Options& options, const std::string& path) {
    if (!options.has("--from"))
        return Error{Code::InvalidArgument, "log import: name a file with --from."};
    const auto bytes = session.store.read(options["--from"], logbook::kMostBytes);
    if (!bytes)
        return bytes.error();
    const auto entries = logbook::readEntries({bytes->begin(), bytes->end()});
    if (!entries)
        return Error{entries.error().code, options["--from"] + ": " + entries.error().message};
    auto book = Logbook::open(path, Logbook::Open::OrBegin);
    if (!book)
        return book.error();
    Logbook into = book.take();
    const auto taken = into.take(*entries);
    if (!taken)
        return taken.error();
    session.out << "entered " << *taken << " of " << entries->size() << ", the others were there\n";
    return base::Done{};
}

/// What the logbook says of every stock that a job's plan cuts, and how worn blade and mat are.
base::Status tellLearnt(Session& session, const Options& options, const Logbook& book) {
    if (!options.has("--job"))
        return Error{Code::InvalidArgument, "log learnt: name a job with --job."};
    const auto run = asked(session, options["--job"], options);
    if (!run)
        return run.error();
    for (const auto& [id, setting] : run->plan.settings) {
        const auto learnt =
            logbook::learnt(book, *design::findStock(run->state.job.stocks, id), run->plan.machine, setting);
        if (!learnt)
            return learnt.error();
        session.out << id << ": "
                    << (*learnt ? (*learnt)->reason + "; --set " + id + "=" +
                                      design::kToolWords[static_cast<size_t>(setting.blade)] + ":" +
                                      base::formatNumber((*learnt)->forceGf, 0) + ":" +
                                      std::to_string((*learnt)->passes)
                                : "nothing was learnt yet")
                    << "\n";
    }
    for (size_t i = run->first; i < run->last; ++i) {
        const design::Load& load = run->state.made.sheets->loads[run->plan.loads[i].load];
        const auto blade = run->plan.settings.find(load.sheets.front().stockId)->second.blade;
        const auto wear = book.wear(run->plan.machine.id, blade, load.mat.id);
        if (!wear)
            return wear.error();
        session.out << "load " << run->plan.loads[i].load + 1 << ": the " << design::toolName(blade)
                    << " has cut " << base::formatNumber(wear->bladeMm / 1000, 1) << " m, the mat "
                    << base::formatNumber(wear->matMm / 1000, 1) << " m\n";
    }
    return base::Done{};
}

base::Status logCommand(Session& session, const Options& options) {
    if (options.more.size() != 1)
        return Error{Code::InvalidArgument, "log: name the logbook, like 'log list my.sqlite'."};
    const std::string &what = options.operand, &path = options.more[0];
    if (what == "add")
        return add(session, options, path);
    if (what == "import")
        return importFrom(session, options, path);
    if (what != "list" && what != "export" && what != "remove" && what != "learnt")
        return Error{Code::InvalidArgument,
                     "log: say add, list, export, import, remove or learnt, not '" + what + "'."};
    auto opened = Logbook::open(path, Logbook::Open::Existing);
    if (!opened)
        return opened.error();
    Logbook book = opened.take();
    if (what == "remove")
        return options.has("--id") ? book.remove(options["--id"])
                                   : Error{Code::InvalidArgument, "log remove: name the entry with --id."};
    return what == "list"     ? list(session, options, book)
           : what == "export" ? exportTo(session, options, book)
                              : tellLearnt(session, options, book);
}

// ---- the drawer -----------------------------------------------------------------------------------------------

CommandSpec drawerSpec() {
    return {"drawer",
            "list|add|take",
            "Keeps the drawer: 'drawer list DRAWER.json', 'drawer take DRAWER.json --job JOB --load 1'.",
            {{"--stock", "STOCK", "Which stock.", "", false},
             {"--size", "WIDTHxHEIGHT", "Which size of its sheets.", "", false},
             {"--sheets", "NUMBER", "How many.", "1", false},
             {"--scrap", "SCRAP",
              "A scrap instead: to be kept, by its size such as 80x120mm or a drawing of one outline; to be "
              "thrown away, by its "
              "number.",
              "", false},
             {"--job", "JOB.thinline", "The sheets of a load of this job.", "", false},
             kLoadOption},
            true};
}

base::Result<job::DrawerNow> scrapKept(Session& session, const Options& options,
                                       const design::Drawer& drawer) {
    if (!options.has("--stock"))
        return Error{Code::InvalidArgument, "drawer: say of which stock the scrap is by --stock."};
    const auto stock = stockSaid(drawer.stocks, options["--stock"]);
    if (!stock)
        return stock.error();
    auto scrap = scrapCalled(session, *stock, options["--scrap"]);
    if (!scrap)
        return scrap.error();
    auto out = job::withScrapKept(drawer, scrap.take());
    if (!out)
        return out.error();
    const int number = out->scraps.back().drawerId;
    return job::DrawerNow{out.take(), "kept as scrap " + std::to_string(number)};
}

base::Result<job::DrawerNow> scrapThrown(const Options& options, const design::Drawer& drawer) {
    const auto number = numberBetween("--scrap", options["--scrap"], 1, 1e6);
    if (!number)
        return number.error();
    auto out = job::withoutScrapKept(drawer, static_cast<int>(*number));
    if (!out)
        return out.error();
    return job::DrawerNow{out.take(), "scrap " + options["--scrap"] + " is not in the drawer any more"};
}

base::Result<job::DrawerNow> drawerAfter(Session& session, const Options& options,
                                         const design::Drawer& drawer, int sign) {
    if (options.has("--job")) {
        const auto run = asked(session, options["--job"], options);
        if (!run)
            return run.error();
        job::DrawerNow now{drawer};
        for (size_t i = run->first; i < run->last; ++i) {
            const design::Load& load = run->state.made.sheets->loads[run->plan.loads[i].load];
            const std::string before = now.told;
            const auto& scraps = run->state.job.plan.scraps;
            const sheets::Rests rests = sheets::restsOf(load, *run->state.made.work());
            now = sign < 0 ? job::withoutSheetsOf(now.drawer, load, scraps, rests)
                           : job::withSheetsOf(now.drawer, load, scraps, rests);
            now.told = before + (before.empty() || now.told.empty() ? "" : " ") + now.told;
        }
        if (now.told.empty())
            now.told = "Nobody counted those sheets; nothing changed.";
        return now;
    }
    if (options.has("--scrap"))
        return sign > 0 ? scrapKept(session, options, drawer) : scrapThrown(options, drawer);
    if (!options.has("--stock") || !options.has("--size"))
        return Error{Code::InvalidArgument, "drawer: name --stock and --size, or --job."};
    const auto count = numberBetween("--sheets", options["--sheets"], 1, 9999);
    if (!count)
        return count.error();
    const auto size = base::parseSize(options["--size"], kMm);
    if (!size)
        return size.error();
    const auto known = stockSaid(drawer.stocks, options["--stock"]);
    if (!known)
        return known.error();
    const auto out = job::withSheets(drawer, *known, size->width.inMm(), size->height.inMm(),
                                     sign * static_cast<int>(*count));
    if (!out)
        return out.error();
    const design::Stock* stock = design::findStock(out->stocks, *known);
    return job::DrawerNow{*out, stock->name + ": " + job::sizesText(stock->sizes, kMm)};
}

base::Status drawerCommand(Session& session, const Options& options) {
    if (options.more.size() != 1)
        return Error{Code::InvalidArgument, "drawer: name the drawer, like 'drawer list drawer.json'."};
    const std::string &what = options.operand, &path = options.more[0];
    if (what != "list" && what != "add" && what != "take")
        return Error{Code::InvalidArgument, "drawer: say list, add or take, not '" + what + "'."};
    const auto drawer = document::readDrawer(session.store, path);
    if (!drawer)
        return drawer.error();
    if (what == "list") {
        for (const design::Stock& stock : drawer->stocks)
            session.out << stock.id << "  " << stock.name << ": "
                        << (stock.sizes.empty() ? "nobody said" : job::sizesText(stock.sizes, kMm)) << "\n";
        for (const design::Scrap& scrap : drawer->scraps)
            session.out << "scrap " << scrap.drawerId << "  " << job::scrapWords(scrap, drawer->stocks, kMm)
                        << "\n";
        return base::Done{};
    }
    const auto now = drawerAfter(session, options, *drawer, what == "add" ? 1 : -1);
    if (!now)
        return now.error();
    if (!(now->drawer == *drawer))
        if (auto written = document::writeDrawer(session.store, path, now->drawer); !written)
            return written;
    session.out << now->told << "\n";
    return base::Done{};
}

CommandSpec swapStockSpec() {
    return {"swap-stock",
            "JOB.thinline",
            "Cuts from another stock what was to be cut from one that is out; without --to tells what could "
            "stand in.",
            {{"--from", "STOCK", "The one that is out.", "", true},
             {"--to", "STOCK", "The one to cut from.", "", false},
             kJobOption}};
}

base::Status swapStockCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const auto from = stockSaid(state->job, options["--from"]);
    if (!from)
        return from.error();
    if (options.has("--to")) {
        const auto to = stockSaid(state->job, options["--to"]);
        if (!to)
            return to.error();
        auto swapped = job::withStockSwapped(state->job, *from, *to);
        if (!swapped)
            return swapped.error();
        session.out << swapped->note << "\n";
        return keep(session, options, swapped->job, *state);
    }
    for (const job::Instead& one : job::insteadOf(state->job, *from)) {
        session.out << one.stockId << "  " << (one.doesFoldAlike ? "folds alike" : "folds otherwise")
                    << ", colour off by " << base::formatNumber(one.colourDifference, 0);
        if (one.sheets)
            session.out << ", " << base::counted(*one.sheets, "sheet");
        session.out << (one.changes.empty() ? "" : "; " + one.changes) << "\n";
    }
    return base::Done{};
}

} // namespace

std::vector<Command> logCommands() {
    return {{logSpec(), logCommand}, {drawerSpec(), drawerCommand}, {swapStockSpec(), swapStockCommand}};
}

} // namespace thinline::batch
