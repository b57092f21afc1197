// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Settings.h"

#include "base/Length.h"

#include <cmath>

namespace thinline::cutplan {
namespace {

using design::Setting;
using design::Stock;
using design::Tack;
using design::ToolKind;
using Kind = design::Stock::Kind;

constexpr double kSteepFromMm = 0.45; ///< board of a packaged-food box; from memory
constexpr double kThinCardGrams = 120;

/// What decides how a stock is cut: itself, or the heaviest of the layers it is glued from.
const Stock& heaviestOf(const Stock& stock, const std::vector<Stock>& stocks) {
    const Stock* out = &stock;
    double grams = -1;
    for (const std::string& id : stock.laminateOf)
        if (const Stock* layer = design::findStock(stocks, id); layer && layer->gramsPerM2 > grams) {
            out = layer;
            grams = layer->gramsPerM2;
        }
    return *out;
}

std::string kindWord(Kind kind) {
    switch (kind) {
    case Kind::Card:
        return "card";
    case Kind::Vinyl:
        return "vinyl";
    case Kind::Acetate:
        return "acetate";
    case Kind::TranslucentPaper:
        return "translucent paper";
    case Kind::Board:
        return "board";
    case Kind::Laminate:
        return "a laminate";
    }
    return "card";
}

} // namespace

bool areAlike(const Setting& a, const Setting& b) {
    constexpr double kAlike = 1.25;
    return a.blade == b.blade && a.passes == b.passes && a.tack == b.tack &&
           std::max(a.forceGf, b.forceGf) <= kAlike * std::min(a.forceGf, b.forceGf);
}

// A knife that is drawn through pays for the tip it drives in, whatever the thickness, and for the area it parts. So force
// grows with thickness from a little above nothing; board is denser than card, acetate tougher, vinyl softer. The numbers
// are ours: 0.3 mm of card at 210 gf is where people's settings meet.
namespace {
constexpr double kTipGf = 30, kPerMm = 600;
}

double forceFor(const Stock& stock, const std::vector<Stock>& stocks, int passes) {
    const Kind kind = heaviestOf(stock, stocks).kind;
    const double tough = kind == Kind::Vinyl     ? 0.6
                         : kind == Kind::Acetate ? 1.5
                         : kind == Kind::Board   ? 1.1
                                                 : 1.0;
    return kTipGf + kPerMm * tough * stock.thicknessMm / std::max(1, passes);
}

Setting throughCarrier(Setting setting, const design::Machine& machine) {
    if (setting.throughGf) {
        setting.forceGf = *setting.throughGf;
        return setting;
    }
    const double perMm = std::max(0.0, setting.forceGf - kTipGf) * setting.passes + kPerMm * kCarrierMm;
    const auto needed = [&] { return 5 * std::round((kTipGf + perMm / setting.passes) / 5); };
    while (needed() > machine.mostGf && setting.passes < design::kMostPasses)
        ++setting.passes;
    setting.forceGf = std::clamp(needed(), machine.leastGf, machine.mostGf);
    return setting;
}

Proposal settingFor(const Stock& stock, const std::vector<Stock>& stocks, const design::Machine& machine) {
    const Stock& heaviest = heaviestOf(stock, stocks);
    Proposal out;
    Setting& setting = out.setting;
    const bool isBoard = heaviest.kind == Kind::Board || stock.thicknessMm >= kSteepFromMm;
    setting.blade = isBoard ? ToolKind::SteepBlade : ToolKind::ShallowBlade;
    setting.tack = isBoard ? Tack::High
                   : heaviest.kind == Kind::TranslucentPaper || heaviest.gramsPerM2 < kThinCardGrams
                       ? Tack::Low
                       : Tack::Middle;
    setting.mmPerS = isBoard ? std::round(machine.cutMmPerS / 2) : 0;
    // Each pass goes as deep as the one before: a share of the whole and the tip once more.
    setting.passes = isBoard ? 2 : 1;
    const auto needed = [&] { return 5 * std::round(forceFor(stock, stocks, setting.passes) / 5); };
    while (needed() > machine.mostGf && setting.passes < design::kMostPasses)
        ++setting.passes;
    setting.forceGf = std::clamp(needed(), machine.leastGf, machine.mostGf);
    out.reason = kindWord(heaviest.kind) + " of " + base::formatNumber(stock.thicknessMm, 2) +
                 " mm: " + design::toolName(setting.blade) + ", " + base::formatNumber(setting.forceGf, 0) +
                 " gf to begin with" +
                 (setting.passes > 1 ? ", " + std::to_string(setting.passes) + " passes" : "") +
                 (stock.laminateOf.empty() ? "" : ", as its heaviest layer takes");
    if (heaviest.kind == Kind::Acetate)
        out.care.push_back("Take the protective films off first.");
    if (!stock.laminateOf.empty())
        out.care.push_back("Glue the layers before cutting; cut the board larger and trim it to the print.");
    if (stock.cut == design::Depth::ToCarrier)
        out.care.push_back("Cut a small square first: the carrier must stay whole.");
    return out;
}

} // namespace thinline::cutplan
