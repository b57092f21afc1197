// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/CutSteps.h"

#include "base/Length.h"
#include "cutplan/Swaps.h"
#include "job/Catalogue.h"
#include "job/Registering.h"
#include "job/StockSteps.h"
#include "job/TestTile.h"

#include <cmath>
#include <iterator>
#include <set>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::CutPlan;
using design::Operation;
using design::Stock;

bool isPositive(double value, double most) {
    return std::isfinite(value) && value > 0 && value <= most;
}

cutplan::PlanOptions optionsOf(const Job& job) {
    cutplan::PlanOptions out;
    out.foldsAs = job.plan.foldsAs;
    out.settings = job.cut.settings;
    out.aids = job.cut.aids;
    out.spacingMm = job.plan.spacingMm;
    return out;
}

Error noStock(const std::string& id) {
    return {Code::NotFound, "There is no stock called '" + id + "' in this job."};
}

std::string grams(double force) {
    return base::formatNumber(force, 0) + " gf";
}

/// Where a sheet lies, in words.
std::string sheetText(const State& state, const design::PlacedSheet& sheet) {
    const base::LengthUnit unit = state.job.unit;
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    const Stock* stock = design::findStock(state.job.stocks, sheet.stockId);
    std::string out = (stock ? stock->name : sheet.stockId) +
                      (sheet.isScrap        ? ", a scrap of "
                       : sheet.scrapId != 0 ? ", the scrap there is, "
                                            : ", ") +
                      base::formatSize(sheet.widthMm, sheet.heightMm, unit) + ", its upper left corner " +
                      length(sheet.xMm) + " from the left of the mat and " + length(sheet.yMm) +
                      " from the top";
    if (sheet.isPair())
        out += ", " + design::tapedText(sheet);
    else if (stock && stock->faces == Stock::Faces::GoodFront)
        out += ", good face up";
    return out + ".";
}

} // namespace

const design::Machine& machineOf(const Job& job) {
    return job.cut.machine ? *job.cut.machine : shippedCatalogue().machines.front();
}

base::Result<Job> withMachine(const Job& job, const design::Machine& machine) {
    constexpr double kMostMm = 100'000;
    if (machine.holders.empty())
        return Error{Code::InvalidArgument, "A machine has at least one holder."};
    if (!isPositive(machine.usableWidthMm, kMostMm) || !isPositive(machine.longestMm, kMostMm))
        return Error{Code::InvalidArgument,
                     "Give how wide and how long a mat the machine takes, above zero."};
    if (!(machine.leastGf >= 0) || !isPositive(machine.mostGf, design::kMostGf) ||
        machine.leastGf > machine.mostGf)
        return Error{Code::InvalidArgument,
                     "Give the least and the most force in gram-force, the least first."};
    if (!isPositive(machine.cutMmPerS, kMostMm) || !isPositive(machine.travelMmPerS, kMostMm) ||
        !isPositive(machine.mmPerS2, kMostMm))
        return Error{Code::InvalidArgument, "Give speeds above zero."};
    Job out = job;
    out.cut.machine = machine;
    return out;
}

base::Result<cutplan::Proposal> proposedSetting(const Job& job, const std::string& stockId) {
    const Stock* stock = design::findStock(job.stocks, stockId);
    return stock ? base::Result(cutplan::settingFor(*stock, job.stocks, machineOf(job))) : noStock(stockId);
}

bool isAnyThrough(const design::Stack& work, const std::string& stockId) {
    const auto isOf = [&](const design::Laid& laid) { return work.layerOf(laid).stockId == stockId; };
    const auto hasSuchFrame = [&](const design::Cluster& cluster) {
        const design::Laid* first = work.find(cluster.pieces.front());
        return cluster.isFrameThrough && cluster.frameMm > 0 && first && isOf(*first);
    };
    return std::any_of(work.pieces.begin(), work.pieces.end(),
                       [&](const design::Laid& laid) {
                           return design::goesThroughCarrier(work, laid) && isOf(laid);
                       }) ||
           std::any_of(work.clusters.begin(), work.clusters.end(), hasSuchFrame);
}

base::Result<design::Setting> settingOf(const Job& job, const std::string& stockId) {
    if (const auto decided = job.cut.settings.find(stockId); decided != job.cut.settings.end())
        return decided->second;
    const auto proposal = proposedSetting(job, stockId);
    return proposal ? base::Result(proposal->setting) : proposal.error();
}

base::Result<Job> withSetting(const Job& job, const std::string& stockId,
                              const std::optional<design::Setting>& setting) {
    if (!design::findStock(job.stocks, stockId))
        return noStock(stockId);
    Job out = job;
    if (!setting) {
        out.cut.settings.erase(stockId);
        return out;
    }
    if (!design::isBlade(setting->blade))
        return Error{Code::InvalidArgument, "A stock is cut with a blade, the shallow or the steep one."};
    if (!isPositive(setting->forceGf, design::kMostGf))
        return Error{Code::InvalidArgument, "The force is a number of gram-force above zero, at most 10000."};
    if (setting->throughGf && !isPositive(*setting->throughGf, design::kMostGf))
        return Error{Code::InvalidArgument,
                     "The force through the carrier is a number of gram-force above zero, at most 10000."};
    if (setting->passes < 1 || setting->passes > design::kMostPasses)
        return Error{Code::InvalidArgument,
                     "A stock is cut in 1 to " + std::to_string(design::kMostPasses) + " passes."};
    out.cut.settings[stockId] = *setting;
    return out;
}

base::Result<Job> withAids(const Job& job, const design::CutAids& aids) {
    const auto isWithin = [](double value, double most) {
        return std::isfinite(value) && value >= 0 && value <= most;
    };
    if (!isWithin(aids.bladeOffsetMm, design::kMostOffsetMm))
        return Error{Code::InvalidArgument,
                     "The tip of a blade trails by 0 to 2 mm; 0 leaves that to the machine."};
    if (!isWithin(aids.overcutMm, design::kMostOvercutMm))
        return Error{Code::InvalidArgument, "A cut goes on by 0 to 5 mm beyond where it began."};
    if (aids.tabs < 0 || aids.tabs > design::kMostTabs || !(aids.tabMm > 0) ||
        aids.tabMm > design::kMostTabMm)
        return Error{Code::InvalidArgument, "A piece is held by up to 12 bridges, each up to 3 mm wide."};
    Job out = job;
    out.cut.aids = aids;
    return out;
}

base::Result<CutPlan> planned(const State& state, const base::Progress& progress) {
    if (!state.made.sheets || !state.made.work())
        return Error{Code::InvalidArgument, state.made.sheetsProblem.empty()
                                                ? "There are no sheets yet; lay the pieces at Sheets first."
                                                : state.made.sheetsProblem};
    cutplan::PlanOptions options = optionsOf(state.job);
    if (state.job.cut.hasTiles) {
        auto tiles = testTiles(state, progress);
        if (!tiles)
            return tiles.error();
        options.tiles = tiles.take();
    }
    return cutplan::planOf(*state.made.work(), *state.made.sheets, machineOf(state.job), options, progress);
}

std::vector<design::PlanFault> cutFaults(const State& state) {
    if (!state.made.sheets || !state.made.work())
        return {};
    return cutplan::faultsOf(*state.made.work(), *state.made.sheets, machineOf(state.job),
                             optionsOf(state.job));
}

// ---- in words ---------------------------------------------------------------------------------------------

std::string timeText(double seconds) {
    const auto whole = static_cast<long long>(std::llround(seconds));
    const long long hours = whole / 3600, minutes = whole / 60 % 60, rest = whole % 60;
    const auto two = [](long long n) { return (n < 10 ? "0" : "") + std::to_string(n); };
    if (hours > 0)
        return std::to_string(hours) + " h " + two(minutes) + " min";
    return minutes > 0 ? std::to_string(minutes) + " min " + two(rest) + " s" : std::to_string(rest) + " s";
}

std::string aidsText(const design::CutAids& aids, base::LengthUnit unit) {
    std::string out;
    const auto add = [&](const std::string& what) { out += (out.empty() ? "" : "; ") + what; };
    if (aids.bladeOffsetMm > 0)
        add("led for a tip that trails by " + base::formatNumber(aids.bladeOffsetMm, 2) + " mm" +
            ": use it only where the machine does not do that itself");
    if (aids.overcutMm > 0)
        add("cut " + base::formatLength(aids.overcutMm, unit) + " beyond where they began");
    if (aids.tabs > 0)
        add(base::counted(aids.tabs, "bridge") + " of " + base::formatLength(aids.tabMm, unit) +
            " hold each small piece; part them with a knife");
    return out;
}

std::string passText(const State& state, const design::Pass& pass) {
    if (pass.isTile)
        return std::string(pass.operation == Operation::Cut ? "cut out the test tile of "
                                                            : "cut openings of the test tile of ") +
               design::stockName(state.job.stocks, pass.stockId) + ", " + design::toolName(pass.tool) +
               " at " + grams(pass.forceGf);
    static constexpr std::array kDoes{"draw on ", "score ", "perforate ", "cut openings of ", "cut out "};
    std::string out = (pass.isFrame ? "cut frames round " : kDoes[static_cast<size_t>(pass.operation)]) +
                      design::stockName(state.job.stocks, pass.stockId);
    if (pass.nested > 0)
        out += ", what lies in openings";
    out += std::string(", ") + design::toolName(pass.tool) + " at " + grams(pass.forceGf);
    if (pass.times > 1)
        out += ", " + std::to_string(pass.times) + " times";
    return out + (pass.isThroughCarrier                    ? ", through the carrier too"
                  : pass.depth == design::Depth::ToCarrier ? ", only down to the carrier"
                                                           : "");
}

std::string Checklist::text() const {
    std::string out;
    for (const Part& part : parts) {
        out += (out.empty() ? "" : "\n") + part.heading + "\n";
        for (const std::string& line : part.lines)
            out += "- " + line + "\n";
    }
    return out;
}

namespace {

Checklist::Part beforeStart(const State& state, const CutPlan& plan, const design::PlannedLoad& planned,
                            const std::vector<std::optional<design::ToolKind>>& held) {
    const design::Load& load = state.made.sheets->loads[planned.load];
    Checklist::Part out{"Before you start", {}};
    std::set<std::string> stocks, care;
    for (const design::PlacedSheet& sheet : load.sheets) {
        out.lines.push_back(sheetText(state, sheet));
        const Stock* stock = design::findStock(state.job.stocks, sheet.stockId);
        if (!stock || !stocks.insert(sheet.stockId).second)
            continue;
        for (const std::string& line : cutplan::settingFor(*stock, state.job.stocks, plan.machine).care)
            care.insert(line);
        if (stock->kind == Stock::Kind::Vinyl || stock->kind == Stock::Kind::Acetate)
            care.insert("For the knife alone: unknown plastics and PVC never go into a laser cutter, their "
                        "gas is toxic.");
    }
    for (const PrintPage& page : printPagesOf(state))
        if (page.load == planned.load) {
            out.lines.push_back("P" + page.name.substr(1) + ", printed at true size" +
                                (page.hasBack ? " on both sides" : "") +
                                (page.layout.hasMarks() ? ": its ruler measures 50 mm. Its bar lies at the "
                                                          "upper left, and the machine reads its "
                                                          "marks before anything is cut."
                                                        : ", laid by its edges."));
            if (page.layout.hasMarks() && !standingErrorOf(state.job, plan.machine.id))
                out.lines.emplace_back(
                    "This job is cut without a calibration of its machine: a calibration sheet tells how far "
                    "the blade cuts beside the print.");
        }
    out.lines.insert(out.lines.end(), care.begin(), care.end());
    const auto setting = plan.settings.find(load.sheets.front().stockId);
    if (setting != plan.settings.end())
        out.lines.push_back(
            "A mat with " + std::string(design::kTackWords[static_cast<size_t>(setting->second.tack)]) +
            " tack, its cover film off, small waste scraped off; tape the corners if it holds no more.");
    for (size_t h = 0; h < held.size(); ++h)
        if (held[h])
            out.lines.push_back("Holder " + std::to_string(h + 1) + ": " + design::toolName(*held[h]) + ".");
    out.lines.push_back(
        "Room as long as the mat, " + base::formatLength(load.mat.heightMm, state.job.unit) +
        ", in front of the machine and behind it, a long mat's end propped; no child, cable or table "
        "edge in its way.");
    out.lines.push_back("Fingers, hair and sleeves off the carriage while it moves.");
    return out;
}

Checklist::Part onTheMachine(const State& state, const design::PlannedLoad& planned) {
    Checklist::Part out{"On the machine, " + timeText(planned.seconds), {}};
    for (size_t p = 0; p < planned.passes.size(); ++p) {
        for (const design::Swap& swap : planned.swaps)
            if (swap.pass == p)
                out.lines.push_back(
                    "Stand up: holder " + std::to_string(swap.holder + 1) + ", " +
                    (swap.out ? std::string("take out the ") + design::toolName(*swap.out) + ", put in the "
                              : std::string("put in the ")) +
                    design::toolName(swap.in) + ". The machine stands still; cover the blade.");
        std::string words = passText(state, planned.passes[p]);
        words.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(words.front())));
        out.lines.push_back(words + ": " + timeText(planned.passes[p].seconds) + ".");
    }
    return out;
}

} // namespace

base::Result<Checklist> checklistOf(const State& state, const CutPlan& plan, size_t at) {
    if (at >= plan.loads.size() || !state.made.sheets ||
        plan.loads[at].load >= state.made.sheets->loads.size())
        return Error{Code::NotFound, "There is no load " + std::to_string(at + 1) + "."};
    // What is in the holders when it comes to this load.
    std::vector<std::optional<design::ToolKind>> held = plan.start;
    for (size_t i = 0; i < at; ++i)
        for (const design::Swap& swap : plan.loads[i].swaps)
            held[swap.holder] = swap.in;
    Checklist out;
    out.parts.push_back(beforeStart(state, plan, plan.loads[at], held));
    out.parts.push_back(onTheMachine(state, plan.loads[at]));
    if (const std::string aids = aidsText(plan.aids, state.job.unit); !aids.empty()) {
        out.parts.back().lines.push_back("Lines are " + aids + ".");
    }
    if (const auto& tile = plan.loads[at].tile)
        out.parts.back().lines.push_back("The test tile shows " + tileText(*tile, state.job.unit) +
                                         ". Halt after it and look; enter at Cut what came of it.");
    out.parts.push_back({"Before you unload",
                         {"Wait until the carriage stands, then lift a corner of a piece: is it through?",
                          "If not, run the same cut again. After unloading the place is lost for good."}});
    std::vector<std::string> after{
        "Turn the mat over and bend it away from the card, so that the card stays flat."};
    for (const design::Pass& pass : plan.loads[at].passes)
        if (pass.depth == design::Depth::ToCarrier && after.size() == 1)
            after.push_back("Peel the waste out of the vinyl, and move the rest with a transfer film.");
    after.push_back(
        "Follow the makers' instructions for machine and blades; cover a blade and switch the machine off "
        "when you change it.");
    out.parts.push_back({"Afterwards", after});
    return out;
}

base::Result<CutCost> cutCost(const State& state, const CutPlan& plan, std::optional<size_t> at) {
    const design::Stack* work = state.made.work();
    if (!work || !state.made.sheets || (at && *at >= plan.loads.size()))
        return Error{Code::NotFound, "There is no such load."};
    CutCost out;
    design::Arrangement loads;
    for (size_t i = at.value_or(0); i < (at ? *at + 1 : plan.loads.size()); ++i) {
        if (plan.loads[i].load >= state.made.sheets->loads.size())
            return Error{Code::NotFound, "There is no such load."};
        loads.loads.push_back(state.made.sheets->loads[plan.loads[i].load]);
        for (const design::Pass& pass : plan.loads[i].passes)
            if (design::isBlade(pass.tool))
                out.cutMm += pass.lineMm * pass.times;
    }
    for (const design::Load& load : loads.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            out.sheets += sheet.count();
            double area = 0;
            for (const geometry::Polygon& ring : design::outlineOf(sheet))
                area += geometry::signedArea(ring);
            out.cardMm2 += std::abs(area);
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (const design::Laid* laid = work->find(piece.what.piece))
                    out.usedMm2 += geometry::area(laid->shape());
        }
    const Cost card = costOf(loads, state.job.stocks);
    out.cardCost = card.sum;
    out.unknown = card.unknown;
    constexpr double kMmPerM = 1000;
    if (plan.machine.bladePrice > 0 && plan.machine.bladeLastsM > 0)
        out.bladeCost = out.cutMm / kMmPerM / plan.machine.bladeLastsM * plan.machine.bladePrice;
    else
        out.unknown.push_back("blades");
    return out;
}

std::string loadName(const CutPlan& plan, size_t at) {
    const size_t n = at + 1, teens = n / 10 % 10;
    const std::string ending = teens == 1    ? "th"
                               : n % 10 == 1 ? "st"
                               : n % 10 == 2 ? "nd"
                               : n % 10 == 3 ? "rd"
                                             : "th";
    return "Load " + std::to_string(plan.loads[at].load + 1) + ", the " + std::to_string(n) + ending +
           " of " + std::to_string(plan.loads.size()) + " to be cut";
}

base::Result<std::string> checklistText(const State& state, const CutPlan& plan, size_t first, size_t last) {
    std::string out;
    for (size_t i = first; i < last; ++i) {
        const auto list = checklistOf(state, plan, i);
        if (!list)
            return list.error();
        out += (out.empty() ? "" : "\n\n") + loadName(plan, i) + "\n\n" + list->text();
    }
    return out;
}

base::Result<std::vector<formats::plotter::PlotterFile>> plotterFiles(const State& state,
                                                                      const CutPlan& plan) {
    std::vector<formats::plotter::PlotterFile> out;
    for (const design::PlannedLoad& load : plan.loads) {
        auto own = formats::plotter::writePlotter(load, state.made.sheets->loads[load.load]);
        if (!own)
            return own.error();
        std::vector<formats::plotter::PlotterFile> files = own.take();
        std::move(files.begin(), files.end(), std::back_inserter(out));
    }
    return out;
}

} // namespace thinline::job
