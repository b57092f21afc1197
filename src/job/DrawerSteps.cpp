// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A job keeps the stocks it was planned with, counts and all: its plan must not change because its first load was cut. So
// what loads use up is taken from the drawer alone, which is what somebody owns today, and new jobs begin with that.
#include "job/DrawerSteps.h"

#include "base/Length.h"
#include "job/CardSteps.h"
#include "job/SheetSteps.h"
#include "job/StockSteps.h"
#include "raster/Colour.h"
#include "sheets/Cards.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::Stock;

constexpr double kAlike = 0.15;
constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;

bool isSize(const Stock::Size& size, double widthMm, double heightMm) {
    constexpr double kSameMm = 1;
    const auto is = [&](double w, double h) {
        return std::abs(size.widthMm - w) < kSameMm && std::abs(size.heightMm - h) < kSameMm;
    };
    return is(widthMm, heightMm) || is(heightMm, widthMm);
}

Stock* stockIn(design::Drawer& drawer, const std::string& id) {
    const auto at = std::find_if(drawer.stocks.begin(), drawer.stocks.end(),
                                 [&](const Stock& one) { return one.id == id; });
    return at == drawer.stocks.end() ? nullptr : &*at;
}

std::string sheetsText(int count) {
    return count == 1 ? "1 sheet" : std::to_string(count) + " sheets";
}

/// Puts what is left of a scrap into the drawer. Returns that in words.
std::string keptRest(design::Drawer& drawer, const design::Scrap& of, const geometry::Polygons& rings) {
    const std::string left = "left over";
    design::Scrap rest{0, of.stockId, of.name, rings, of.marginMm};
    if (!rest.name.ends_with(left))
        rest.name += (rest.name.empty() ? "" : ", ") + left;
    auto with = withScrapKept(drawer, rest);
    if (!with) // too small for its margin, or the drawer is full
        return {};
    drawer = with.take();
    const geometry::Box box = geometry::bounds(rings);
    return " What is left, " + base::formatSize(box.width(), box.height(), kMm) + ", is kept as scrap " +
           std::to_string(drawer.scraps.back().drawerId) + ".";
}

/// The scraps of a drawer that a load lies on, taken out or put back.
void changeScraps(DrawerNow& now, const design::Load& load, const std::vector<design::Scrap>& scraps,
                  const sheets::Rests& rests, int sign) {
    for (const design::PlacedSheet& sheet : load.sheets) {
        const auto of = std::find_if(scraps.begin(), scraps.end(), [&](const design::Scrap& one) {
            return one.id == sheet.scrapId && one.drawerId != 0;
        });
        if (sheet.scrapId == 0 || of == scraps.end())
            continue;
        auto& kept = now.drawer.scraps;
        const auto at = std::find_if(kept.begin(), kept.end(),
                                     [&](const design::Scrap& one) { return one.drawerId == of->drawerId; });
        if ((sign < 0) != (at != kept.end()))
            continue;
        now.told += (now.told.empty() ? "" : " ") + std::string("The scrap ") +
                    scrapWords(*of, now.drawer.stocks, kMm) +
                    (sign < 0 ? ", taken from the drawer." : ", back in the drawer.");
        const auto rest = rests.find(sheet.scrapId);
        if (sign < 0) {
            kept.erase(at);
            if (rest != rests.end())
                now.told += keptRest(now.drawer, *of, rest->second);
        } else {
            if (rest != rests.end()) { // the last one of that outline: others may have come by themselves
                const auto left = std::find_if(kept.rbegin(), kept.rend(), [&](const design::Scrap& one) {
                    return one.stockId == of->stockId && one.rings == rest->second;
                });
                if (left != kept.rend())
                    kept.erase(std::next(left).base());
            }
            kept.push_back(*of);
            kept.back().id = 0;
        }
    }
}

DrawerNow changedBy(const design::Drawer& drawer, const design::Load& load,
                    const std::vector<design::Scrap>& scraps, const sheets::Rests& rests, int sign) {
    DrawerNow out{drawer};
    std::vector<std::pair<Stock::Size*, std::pair<std::string, int>>> changed; // name and how many
    for (const design::PlacedSheet& sheet : load.sheets) {
        Stock* stock = sheet.isScrap || sheet.scrapId != 0 ? nullptr : stockIn(out.drawer, sheet.stockId);
        if (!stock)
            continue;
        for (Stock::Size& size : stock->sizes) {
            if (!size.count || !isSize(size, sheet.oneWidthMm(), sheet.oneHeightMm()) ||
                (sign < 0 && *size.count == 0))
                continue;
            const int count = sign < 0 ? std::min(*size.count, sheet.count()) : sheet.count();
            *size.count += sign * count;
            const auto known = std::find_if(changed.begin(), changed.end(),
                                            [&](const auto& one) { return one.first == &size; });
            if (known == changed.end())
                changed.push_back({&size, {stock->name, count}});
            else
                known->second.second += count;
            break;
        }
    }
    for (const auto& [size, what] : changed)
        out.told += (out.told.empty() ? "" : " ") + sheetsText(what.second) + " of " + what.first +
                    (sign < 0 ? " taken from the drawer, " : " back in the drawer, ") +
                    std::to_string(*size->count) + " there.";
    changeScraps(out, load, scraps, rests, sign);
    return out;
}

/// What is not the same of two stocks, as far as it matters to who cuts or folds.
std::string changesText(const Stock& from, const Stock& to) {
    std::string out;
    const auto add = [&](const std::string& what) { out += (out.empty() ? "" : ", ") + what; };
    if (from.kind != to.kind)
        add(kindWord(to.kind) + " instead of " + kindWord(from.kind));
    if (std::abs(from.thicknessMm - to.thicknessMm) > 0.005)
        add(base::formatNumber(to.thicknessMm, 2) + " mm thick instead of " +
            base::formatNumber(from.thicknessMm, 2));
    if (std::abs(from.gramsPerM2 - to.gramsPerM2) > 0.5)
        add(base::formatNumber(to.gramsPerM2, 0) + " g/m² instead of " +
            base::formatNumber(from.gramsPerM2, 0));
    if (from.faces != to.faces)
        add(to.faces == Stock::Faces::GoodFront ? "only its front may be seen" : "both faces may be seen");
    if (from.turns != to.turns)
        add(to.turns == Stock::Turns::Any    ? "it may lie any way"
            : to.turns == Stock::Turns::Half ? "it may be turned by half a turn only"
                                             : "it may not be turned");
    if (from.cut != to.cut)
        add(to.cut == design::Depth::Through ? "cut through" : "cut to its carrier");
    if (from.isTranslucent != to.isTranslucent)
        add(to.isTranslucent ? "it lets light through" : "it lets no light through");
    if (from.isCutByHand != to.isCutByHand)
        add(to.isCutByHand ? "cut by hand" : "cut on the machine");
    return out;
}

bool foldsAlike(const Stock& a, const Stock& b) {
    const auto isNear = [](double x, double y) { return std::abs(x - y) <= kAlike * std::max(x, y); };
    return a.kind == b.kind && isNear(a.gramsPerM2, b.gramsPerM2) && isNear(a.thicknessMm, b.thicknessMm);
}

} // namespace

DrawerNow withoutSheetsOf(const design::Drawer& drawer, const design::Load& load,
                          const std::vector<design::Scrap>& scraps, const sheets::Rests& rests) {
    return changedBy(drawer, load, scraps, rests, -1);
}

DrawerNow withSheetsOf(const design::Drawer& drawer, const design::Load& load,
                       const std::vector<design::Scrap>& scraps, const sheets::Rests& rests) {
    return changedBy(drawer, load, scraps, rests, 1);
}

base::Result<design::Drawer> withScrapKept(const design::Drawer& drawer, design::Scrap scrap) {
    if (!design::findStock(drawer.stocks, scrap.stockId))
        return Error{Code::NotFound,
                     "There is no stock '" + scrap.stockId + "' in the drawer; keep the stocks first."};
    if (drawer.scraps.size() >= kMostScrapsInADrawer)
        return Error{Code::LimitExceeded, "The drawer takes " + std::to_string(kMostScrapsInADrawer) +
                                              " scraps; throw one away that is used up."};
    if (auto ok = sheets::checkScrap(scrap); !ok)
        return ok.error();
    design::Drawer out = drawer;
    scrap.id = 0;
    scrap.at.reset();
    scrap.mat.clear();
    scrap.drawerId = out.nextScrap++;
    out.scraps.push_back(std::move(scrap));
    return out;
}

namespace {

Error noScrap(int drawerId) {
    return {Code::NotFound, "There is no scrap " + std::to_string(drawerId) + " in the drawer."};
}

} // namespace

Job withScrapOfDrawer(const Job& job, int scrapId, int drawerId) {
    SheetPlan plan = job.plan;
    for (design::Scrap& one : plan.scraps)
        if (one.id == scrapId)
            one.drawerId = drawerId;
    return withPlan(job, plan);
}

std::string scrapWords(const design::Scrap& scrap, const std::vector<design::Stock>& stocks,
                       base::LengthUnit unit) {
    const geometry::Box box = geometry::bounds(scrap.rings);
    return design::stockName(stocks, scrap.stockId) + " " +
           base::formatSize(box.width(), box.height(), unit) + (scrap.name.empty() ? "" : ", " + scrap.name);
}

base::Result<design::Drawer> withoutScrapKept(const design::Drawer& drawer, int drawerId) {
    design::Drawer out = drawer;
    if (std::erase_if(out.scraps, [&](const design::Scrap& one) { return one.drawerId == drawerId; }) == 0)
        return noScrap(drawerId);
    return out;
}

base::Result<Job> withScrapFromDrawer(const Job& job, const design::Drawer& drawer, int drawerId) {
    const auto at = std::find_if(drawer.scraps.begin(), drawer.scraps.end(),
                                 [&](const design::Scrap& one) { return one.drawerId == drawerId; });
    if (at == drawer.scraps.end() || drawerId == 0)
        return noScrap(drawerId);
    for (const design::Scrap& one : job.plan.scraps)
        if (one.drawerId == drawerId)
            return Error{Code::InvalidArgument, "That scrap is used in this job already."};
    return withScrap(job, *at);
}

base::Result<design::Drawer> withSheets(const design::Drawer& drawer, const std::string& stockId,
                                        double widthMm, double heightMm, int count) {
    constexpr int kMost = 99'999;
    design::Drawer out = drawer;
    Stock* stock = stockIn(out, stockId);
    if (!stock)
        return Error{Code::NotFound, "There is no stock '" + stockId + "' in the drawer."};
    const std::string name = stock->name + " of " + base::formatSize(widthMm, heightMm, kMm);
    auto at = std::find_if(stock->sizes.begin(), stock->sizes.end(),
                           [&](const Stock::Size& size) { return isSize(size, widthMm, heightMm); });
    if (at == stock->sizes.end()) {
        if (count < 0)
            return Error{Code::InvalidArgument, "There is no " + name + " in the drawer."};
        stock->sizes.push_back({widthMm, heightMm, 0});
        at = stock->sizes.end() - 1;
    }
    if (!at->count && count < 0)
        return Error{Code::InvalidArgument, "Nobody counted " + name + "; say first how many there are."};
    const int now = at->count.value_or(0) + count;
    if (now < 0 || now > kMost)
        return Error{Code::InvalidArgument,
                     now < 0 ? "There are only " + sheetsText(*at->count) + " of " + name + "."
                             : "No drawer holds that many sheets."};
    at->count = now;
    if (auto ok = checkStock(out.stocks, *stock); !ok)
        return ok.error();
    return out;
}

std::vector<Instead> insteadOf(const Job& job, const std::string& stockId) {
    std::vector<Instead> out;
    const Stock* from = design::findStock(job.stocks, stockId);
    if (!from)
        return out;
    for (const Stock& to : job.stocks) {
        const bool isOfIt =
            std::find(to.laminateOf.begin(), to.laminateOf.end(), stockId) != to.laminateOf.end();
        if (to.id == stockId || isOfIt || (to.isCutByHand && !from->isCutByHand))
            continue;
        Instead one{to.id,
                    raster::ciede2000(raster::labOf(from->colour), raster::labOf(to.colour)),
                    foldsAlike(*from, to),
                    {},
                    changesText(*from, to)};
        bool isCounted = !to.sizes.empty();
        int sheets = 0;
        for (const Stock::Size& size : to.sizes) {
            isCounted = isCounted && size.count;
            sheets += size.count.value_or(0);
        }
        if (isCounted)
            one.sheets = sheets;
        if (one.sheets != 0)
            out.push_back(std::move(one));
    }
    std::stable_sort(out.begin(), out.end(), [](const Instead& a, const Instead& b) {
        return a.doesFoldAlike != b.doesFoldAlike ? a.doesFoldAlike : a.colourDifference < b.colourDifference;
    });
    return out;
}

base::Result<Noted> withStockSwapped(const Job& job, const std::string& from, const std::string& to) {
    const Stock *before = design::findStock(job.stocks, from), *after = design::findStock(job.stocks, to);
    for (const auto& [stock, id] : {std::pair{before, from}, {after, to}})
        if (!stock)
            return Error{Code::NotFound, "There is no stock '" + id + "' in this job."};
    if (from == to)
        return Error{Code::InvalidArgument,
                     "It is cut from " + before->name + " already; name another stock."};
    Noted out{job, {}};
    int layers = 0;
    for (design::Layer& layer : out.job.layers)
        if (layer.stockId == from) {
            layer.stockId = to;
            ++layers;
        }
    if (layers == 0)
        return Error{Code::InvalidArgument, "Nothing is cut from " + before->name + "."};
    const auto sheetOf = [&](const std::string& id) {
        const auto own = job.plan.sheetOf.find(id);
        return own == job.plan.sheetOf.end() ? std::string() : own->second.name;
    };
    const std::string changes = changesText(*before, *after);
    out.note =
        before->name + " is cut from " + after->name + " now" + (changes.empty() ? "" : ": " + changes) + ".";
    if (!foldsAlike(*before, *after))
        out.note += " It will not fold and cut alike.";
    if (sheetOf(from) != sheetOf(to))
        out.note += " It lies on other sheets.";
    return out;
}

} // namespace thinline::job
