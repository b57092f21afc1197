// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Needs.h"

#include "job/StockSteps.h"

#include <cmath>

namespace thinline::pack {
namespace {

using design::Laid;

/// The sheets of one stock, as if they were all there is.
design::Arrangement onlyOf(const design::Arrangement& all, const std::string& stockId) {
    design::Arrangement out;
    for (const design::Load& load : all.loads) {
        design::Load part{load.mat, {}};
        for (const design::PlacedSheet& sheet : load.sheets)
            if (sheet.stockId == stockId)
                part.sheets.push_back(sheet);
        if (!part.sheets.empty())
            out.loads.push_back(std::move(part));
    }
    return out;
}

/// "3 sheets 304.8 × 304.8 mm, 1 scrap 85 × 130 mm".
std::string sheetsText(const design::Arrangement& sheets, base::LengthUnit unit) {
    std::map<std::pair<bool, std::string>, int> counts;
    for (const design::Load& load : sheets.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            counts[{sheet.isScrap || sheet.scrapId != 0,
                    base::formatSize(std::min(sheet.oneWidthMm(), sheet.oneHeightMm()),
                                     std::max(sheet.oneWidthMm(), sheet.oneHeightMm()), unit)}] += sheet.count();
    std::string out;
    for (const auto& [kind, count] : counts)
        out += (out.empty() ? "" : ", ") + base::counted(count, kind.first ? "scrap" : "sheet") + " " +
               kind.second;
    return out;
}

void addCard(const job::State& state, std::vector<Need>& out) {
    const design::Stack& work = *state.made.work();
    std::map<std::string, double> area; // of the pieces of a stock, with copies, mm2
    for (const Laid& laid : work.pieces)
        area[work.layerOf(laid).stockId] += geometry::area(laid.shape()) * laid.copies;
    for (const design::Stock& stock : work.stocks) {
        if (!area.contains(stock.id))
            continue;
        Need need{.group = "Card", .what = stock.name};
        if (stock.isCutByHand)
            need.what += ", cut by hand";
        const design::Arrangement sheets =
            state.made.sheets ? onlyOf(*state.made.sheets, stock.id) : design::Arrangement{};
        constexpr double kCm2 = 100;
        need.howMuch = sheets.loads.empty()
                           ? base::formatNumber(std::ceil(area[stock.id] / kCm2), 0) + " cm² of pieces"
                           : sheetsText(sheets, state.job.unit);
        if (!sheets.loads.empty() && stock.price > 0) {
            const job::Cost cost = job::costOf(sheets, state.job.stocks);
            if (cost.unknown.empty())
                need.cost = cost.sum;
        }
        out.push_back(std::move(need));
    }
}

void addTools(const design::Stack& work, const assembly::Instructions& told, std::vector<Need>& out) {
    bool hasFolds = false, byHand = false, byMachine = false;
    for (const Laid& laid : work.pieces) {
        const design::Stock* stock = design::findStock(work.stocks, work.layerOf(laid).stockId);
        (stock && stock->isCutByHand ? byHand : byMachine) = true;
        for (const design::PieceLine& line : laid.piece.body->lines)
            hasFolds = hasFolds || std::holds_alternative<design::Fold>(line.does);
    }
    if (byMachine)
        out.push_back({"Tools", "cutter, blade and mat"});
    if (byHand)
        out.push_back({"Tools", "craft knife, ruler and cutting mat"});
    if (hasFolds)
        out.push_back({"Tools", "bone folder, or the back of a knife, for the folds"});
    bool doesGlue = false, doesTape = false;
    for (const assembly::Assembly& one : told.assemblies)
        for (const assembly::Step& step : one.steps) {
            doesGlue = doesGlue || !step.glue.empty();
            for (const assembly::Seam& seam : step.seams)
                doesTape = doesTape || !seam.isGlued;
        }
    if (doesGlue)
        out.push_back({"Glue and foam", "paper glue"});
    if (doesTape)
        out.push_back({"Glue and foam", "paper tape for the joints"});
}

} // namespace

std::vector<Need> needsOf(const job::State& state, const assembly::Instructions& told) {
    std::vector<Need> out;
    const base::LengthUnit unit = state.job.unit;
    addCard(state, out);
    addTools(*state.made.work(), told, out);
    for (const auto& [height, spots] : told.foamSpots)
        out.push_back({"Glue and foam", "foam " + base::formatLength(height, unit) + " high",
                       spots > 0 ? base::counted(spots, "spot") : std::string()});
    for (const auto& [what, lengthMm] : told.lengthMm)
        out.push_back({"Yours", what, base::formatLength(lengthMm, unit)});
    for (const assembly::OwnItem& item : state.job.assembly.items)
        out.push_back({"Yours", item.text});
    return out;
}

NeedsCost costOf(const std::vector<Need>& needs) {
    NeedsCost out;
    for (const Need& need : needs) {
        out.sum += need.cost.value_or(0);
        out.isWhole = out.isWhole && (need.group != "Card" || need.cost);
    }
    return out;
}

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

std::string needsCsv(const std::vector<Need>& needs) {
    std::string out = "group,what,how much,cost\r\n";
    for (const Need& need : needs)
        out += quoted(need.group) + "," + quoted(need.what) + "," + quoted(need.howMuch) + "," +
               (need.cost ? base::formatNumber(*need.cost, 2) : std::string()) + "\r\n";
    return out;
}

std::vector<std::string> cautionsOf(const design::Stack& work) {
    using Kind = design::Stock::Kind;
    bool hasBoard = false, hasPlastic = false, letsLight = false, isPrinted = false;
    for (const Laid& laid : work.pieces)
        if (const design::Stock* stock = design::findStock(work.stocks, work.layerOf(laid).stockId)) {
            hasBoard = hasBoard || stock->kind == Kind::Board || stock->isCutByHand;
            hasPlastic = hasPlastic || stock->kind == Kind::Vinyl || stock->kind == Kind::Acetate;
            letsLight = letsLight || stock->isTranslucent;
            isPrinted = isPrinted || !laid.piece.body->faces.empty();
        }
    std::vector<std::string> out{
        "Blades cut: follow the makers' instructions of machine and blade, and keep fingers, hair and "
        "sleeves away from a moving carriage."};
    if (hasBoard)
        out.push_back("Cut board by hand in several light strokes, away from the other hand.");
    if (work.pieces.size() > 1) {
        out.push_back(
            "Hot glue burns. Spray adhesive and solvents want air and no flame. Keep glue away from food.");
        out.push_back("Small parts and loops are nothing for small children.");
    }
    if (isPrinted)
        out.push_back("Ink is nothing to eat from: keep printed pieces and glue away from food.");
    if (hasPlastic)
        out.push_back("Unknown plastics and PVC never go into a laser cutter: their gas is toxic.");
    if (letsLight)
        out.push_back("Behind translucent card only electric light, never a flame.");
    const geometry::Box box = design::measure(work).box;
    constexpr double kWallMm = 400;
    if (std::max(box.width(), box.height()) > kWallMm)
        out.push_back("Hang what is large from a secure hook, and nothing heavy above a bed.");
    return out;
}

} // namespace thinline::pack
