// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/OfLoad.h"

#include "job/StockSteps.h"
#include "job/TestTile.h"

#include <algorithm>

namespace thinline::logbook {
namespace {

/// What is the same whatever was cut.
base::Result<Entry> entryFor(const job::State& state, const design::CutPlan& plan, std::size_t load,
                             const std::string& stockId, Outcome outcome) {
    const design::Stock* stock = design::findStock(state.job.stocks, stockId);
    const auto setting = plan.settings.find(stockId);
    if (!stock || setting == plan.settings.end())
        return base::Error{base::Code::NotFound, "The plan says nothing of '" + stockId + "'."};
    Entry out;
    out.outcome = outcome;
    out.job = state.job.name;
    out.load = static_cast<int>(load) + 1;
    out.stockId = stockId;
    out.stock = stock->name;
    out.kind = job::kindWord(stock->kind);
    out.thicknessMm = stock->thicknessMm;
    out.gramsPerM2 = stock->gramsPerM2;
    out.machine = plan.machine.id;
    out.blade = setting->second.blade;
    out.forceGf = setting->second.forceGf;
    out.passes = setting->second.passes;
    out.mmPerS = setting->second.mmPerS;
    out.tack = setting->second.tack;
    out.mat = state.made.sheets->loads[load].mat.id;
    return out;
}

/// The millimetres a blade was drawn through a stock, every round counted.
double cutMm(const design::PlannedLoad& planned, const std::string& stockId, bool ofTile) {
    double out = 0;
    for (const design::Pass& pass : planned.passes)
        if (design::isBlade(pass.tool) && pass.stockId == stockId && pass.isTile == ofTile)
            out += pass.lineMm * pass.times;
    return out;
}

base::Error noLoad() {
    return {base::Code::NotFound, "There is no such load."};
}

bool hasLoad(const job::State& state, const design::CutPlan& plan, std::size_t at) {
    return at < plan.loads.size() && state.made.sheets && state.made.work() &&
           plan.loads[at].load < state.made.sheets->loads.size();
}

} // namespace

base::Result<std::vector<Entry>> entriesOf(const job::State& state, const design::CutPlan& plan,
                                           std::size_t at, Outcome outcome, const std::string& note) {
    if (!hasLoad(state, plan, at))
        return noLoad();
    const design::PlannedLoad& planned = plan.loads[at];
    std::vector<Entry> out;
    for (const design::PlacedSheet& sheet : state.made.sheets->loads[planned.load].sheets) {
        auto known = std::find_if(out.begin(), out.end(),
                                  [&](const Entry& one) { return one.stockId == sheet.stockId; });
        if (known == out.end()) {
            auto entry = entryFor(state, plan, planned.load, sheet.stockId, outcome);
            if (!entry)
                return entry.error();
            out.push_back(entry.take());
            known = out.end() - 1;
            known->lineMm = cutMm(planned, sheet.stockId, false);
            known->note = note;
            const geometry::Box size = job::workBox(state.made);
            if (!size.isEmpty()) {
                known->widthMm = size.width();
                known->heightMm = size.height();
            }
        }
        // What did not go through lies on the mat still.
        const bool isUsed = outcome != Outcome::NotThrough && !sheet.isScrap && sheet.scrapId == 0;
        known->sheets += isUsed ? sheet.count() : 0;
    }
    return out;
}

base::Result<Entry> tileEntryOf(const job::State& state, const design::CutPlan& plan, std::size_t at,
                                Outcome outcome) {
    if (!hasLoad(state, plan, at))
        return noLoad();
    const design::PlannedLoad& planned = plan.loads[at];
    if (!planned.tile)
        return base::Error{base::Code::NotFound, "That load has no test tile."};
    const std::string stockId = state.made.sheets->loads[planned.load].sheets[planned.tile->sheet].stockId;
    auto out = entryFor(state, plan, planned.load, stockId, outcome);
    if (!out)
        return out.error();
    Entry entry = out.take();
    entry.what = What::Tile;
    entry.lineMm = cutMm(planned, stockId, true);
    entry.note = job::tileText(*planned.tile, base::LengthUnit::Millimetre);
    return entry;
}

} // namespace thinline::logbook
