// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What a job is cut from, on the command line. Options say what people say of a stock (which side is good, whether light
// goes through) and not how it is stored; each is left alone unless it is given, so that one figure can be changed in a
// script without repeating the others. The drawer of the window is a file like any other here: named, never assumed, so
// that a script does the same on every machine.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Report.h"
#include "document/Drawer.h"
#include "job/StockSteps.h"

#include <algorithm>
#include <functional>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using design::Stock;
using job::Job;
using job::State;

CommandSpec stockSpec() {
    return {"stock",
            "JOB.thinline",
            "Adds or changes what a job is cut from, or tells it.",
            {{"--of", "STOCK", "Changes this one.", "", false},
             {"--new", "NAME", "Adds one.", "", false},
             {"--name", "NAME", "Names it.", "", false},
             {"--kind", "KIND",
              "card, vinyl, acetate, \"translucent paper\", board or laminate; a new one begins with what is "
              "usual for it.",
              "", false},
             {"--colour", "COLOUR", "Such as #3c7d8c.", "", false},
             {"--thickness", "LENGTH", "How thick it is.", "", false},
             {"--weight", "GRAMS", "Grams per square metre.", "", false},
             {"--cut", "through|carrier", "How deep it is cut as a rule.", "", false},
             {"--good-side", "both|front", "Whether both faces may be seen, or the front alone.", "", false},
             {"--turns", "any|half|none", "How its pattern or grain lets pieces turn.", "", false},
             {"--by", "machine|hand", "How it is cut; by hand it goes on no mat.", "", false},
             {"--light", "through|not", "Whether light goes through.", "", false},
             {"--prints", "none|front|both", "Which of its faces a printer takes.", "", false},
             {"--bleed", "LENGTH", "How far print goes beyond the cut, 0 to 5 mm; 1.5 to 3 are usual.", "",
              false},
             {"--glued-of", "STOCK,STOCK", "The two or three stocks of a laminate, the visible one first.", "", false},
             {"--sheets", "WIDTHxHEIGHT,...", "Sizes of its sheets in the drawer.", "", false},
             {"--price", "NUMBER", "Of a sheet; 0 when it is not known.", "", false},
             {"--take-out", "", "Takes it out; nothing may be cut from it.", "", false},
             {"--take", "DRAWER.json", "Takes the stocks of a drawer into the job.", "", false},
             {"--keep", "DRAWER.json", "Keeps the job's stocks as a drawer.", "", false},
             kJobOption}};
}

/// One of some words, by its place.
base::Status word(const Options& options, const std::string& name, const std::vector<std::string>& words,
                  const std::function<void(size_t)>& take) {
    if (!options.has(name))
        return base::Done{};
    const auto at = std::find(words.begin(), words.end(), options[name]);
    std::string all;
    for (const std::string& one : words)
        all += (all.empty() ? "" : ", ") + one;
    if (at == words.end())
        return Error{Code::InvalidArgument, name + " is one of " + all + "."};
    take(static_cast<size_t>(at - words.begin()));
    return base::Done{};
}

base::Status readFigures(const Options& options, Stock& stock) {
    if (options.has("--thickness")) {
        const auto thickness = lengthOrZero(options["--thickness"]);
        if (!thickness)
            return thickness.error();
        stock.thicknessMm = *thickness;
    }
    for (const auto& [name, into] :
         {std::pair{"--weight", &stock.gramsPerM2}, std::pair{"--price", &stock.price}})
        if (options.has(name)) {
            const auto number = numberBetween(name, options[name], 0, 100'000);
            if (!number)
                return number.error();
            *into = *number;
        }
    if (options.has("--sheets")) {
        std::string text = options["--sheets"];
        std::replace(text.begin(), text.end(), ',', ';');
        const auto sizes = job::readSizes(text, base::LengthUnit::Millimetre);
        if (!sizes)
            return sizes.error();
        stock.sizes = *sizes;
    }
    if (options.has("--colour")) {
        const auto colour = job::readColour(options["--colour"]);
        if (!colour)
            return Error{Code::InvalidArgument, colour.error().message};
        stock.colour = *colour;
    }
    return base::Done{};
}

base::Result<Stock> changed(Stock stock, const Options& options) {
    if (options.has("--name"))
        stock.name = options["--name"];
    base::Status ok = readFigures(options, stock);
    if (ok)
        ok = word(options, "--cut", {"through", "carrier"},
                  [&](size_t i) { stock.cut = static_cast<design::Depth>(i); });
    if (ok)
        ok = word(options, "--good-side", {"both", "front"},
                  [&](size_t i) { stock.faces = static_cast<Stock::Faces>(i); });
    if (ok)
        ok = word(options, "--turns", {"any", "half", "none"},
                  [&](size_t i) { stock.turns = static_cast<Stock::Turns>(i); });
    if (ok)
        ok = word(options, "--by", {"machine", "hand"}, [&](size_t i) { stock.isCutByHand = i == 1; });
    if (ok)
        ok = word(options, "--prints", {"none", "front", "both"},
                  [&](size_t i) { stock.prints = static_cast<Stock::Prints>(i); });
    if (ok && options.has("--bleed")) {
        const auto bleed = lengthOrZero(options["--bleed"]);
        if (!bleed || *bleed > design::kMostBleedMm)
            return Error{Code::InvalidArgument, "--bleed: print goes 0 to 5 mm beyond the cut."};
        stock.bleedMm = *bleed;
    }
    if (ok)
        ok = word(options, "--light", {"not", "through"}, [&](size_t i) { stock.isTranslucent = i == 1; });
    if (!ok)
        return ok.error();
    if (options.has("--glued-of"))
        stock.laminateOf = partedByCommas(options["--glued-of"]);
    return stock;
}

base::Result<Job> stockMade(const State& state, const Options& options) {
    std::optional<Stock::Kind> kind;
    if (options.has("--kind") && !(kind = job::kindOf(options["--kind"])))
        return Error{Code::InvalidArgument,
                     "--kind is card, vinyl, acetate, \"translucent paper\", board or laminate."};
    if (options.has("--new")) {
        Stock fresh = job::usualStock(kind.value_or(Stock::Kind::Card));
        fresh.name = options["--new"];
        auto stock = changed(fresh, options);
        return stock ? job::withNewStock(state.job, stock.take()) : base::Result<Job>(stock.error());
    }
    const auto there = stockSaid(state.job, options["--of"]);
    if (!there)
        return there.error();
    if (options.has("--take-out"))
        return job::withoutStock(state.job, *there, catalogue());
    Stock before = *design::findStock(state.job.stocks, *there);
    before.kind = kind.value_or(before.kind);
    auto stock = changed(std::move(before), options);
    return stock ? job::withStock(state.job, *stock) : base::Result<Job>(stock.error());
}

void tell(Session& session, const Job& job) {
    for (const Stock& stock : job.stocks) {
        session.out << stock.id << "  " << stock.name << ", " << job::kindWord(stock.kind) << ", "
                    << job::colourText(stock.colour) << ", " << base::formatNumber(stock.thicknessMm, 2)
                    << " mm, " << base::formatNumber(stock.gramsPerM2, 0) << " g/m²"
                    << (stock.cut == design::Depth::ToCarrier ? ", cut to the carrier" : "")
                    << (stock.faces == Stock::Faces::GoodFront ? ", one good side" : "")
                    << (stock.isCutByHand ? ", cut by hand" : "")
                    << (stock.isTranslucent ? ", lets light through" : "");
        for (const Stock::Size& size : stock.sizes)
            session.out << ", "
                        << base::formatSize(size.widthMm, size.heightMm, base::LengthUnit::Millimetre);
        if (stock.price > 0)
            session.out << ", " << base::formatNumber(stock.price, 2) << " a sheet";
        session.out << "\n";
    }
}

base::Status stockCommand(Session& session, const Options& options) {
    const auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    const int ways =
        options.has("--of") + options.has("--new") + options.has("--take") + options.has("--keep");
    if (ways > 1)
        return Error{Code::InvalidArgument, "Say one of --of, --new, --take and --keep."};
    if (options.has("--keep")) {
        const auto before = document::readDrawer(session.store, options["--keep"]); // its scraps stay
        if (!before && before.error().code != base::Code::NotFound)
            return before.error();
        if (auto written = document::writeDrawer(session.store, options["--keep"],
                                                 job::drawerOf(state->job, before ? *before : design::Drawer{}));
            !written)
            return written;
        session.out << "wrote " << options["--keep"] << "\n";
        return base::Done{};
    }
    if (options.has("--take")) {
        const auto drawer = document::readDrawer(session.store, options["--take"]);
        return drawer ? keep(session, options, job::withDrawer(state->job, *drawer), *state)
                      : base::Status(drawer.error());
    }
    if (ways == 1)
        return keep(session, options, stockMade(*state, options), *state);
    tell(session, state->job);
    return base::Done{};
}

} // namespace

std::vector<Command> stockCommands() {
    return {{stockSpec(), stockCommand}};
}

} // namespace thinline::batch
