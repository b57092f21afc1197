// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Stocks as steps of a job.
//
// Stocks are kept in the job, so that a job opens the same where nobody has that card. Ids are made from names once
// and stay; names may change. What is refused is what would make a figure on the screen untrue: a stock without
// thickness (heights and fits are reckoned from it), two of one name, a laminate of laminates, whose thickness nobody
// could tell. The two stocks that new backings and white areas are laid in cannot be taken out: steps to come lay
// pieces in them.
//
// What is usual for a kind is a beginning, not a rule: the maker of a vinyl or a board states thickness and weight,
// and those count.
#include "job/StockSteps.h"

#include "base/Length.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <map>
#include <sstream>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::Stock;

constexpr std::array<const char*, 6> kKinds = {"card",  "vinyl",   "acetate", "translucent paper",
                                               "board", "laminate"};

Error wrong(const std::string& what) {
    return {Code::InvalidArgument, what};
}

bool isBetween(double value, double least, double most) {
    return std::isfinite(value) && value >= least && value <= most;
}

/// A short lower-case word that no other stock has.
std::string idFor(const std::vector<Stock>& stocks, const std::string& name) {
    std::string plain = design::plainWord(name);
    if (plain.empty())
        plain = "stock";
    std::string id = plain;
    for (int n = 2; design::findStock(stocks, id); ++n)
        id = plain + "-" + std::to_string(n);
    return id;
}

base::Status checkLaminate(const std::vector<Stock>& among, const Stock& stock) {
    const std::size_t layers = stock.laminateOf.size();
    if (stock.kind == Stock::Kind::Laminate ? layers < 2 || layers > 3 : layers > 0)
        return wrong(
            "A laminate is glued of two or three stocks, and nothing else is; name them from the front.");
    for (const std::string& part : stock.laminateOf) {
        const Stock* other = design::findStock(among, part);
        if (!other || part == stock.id)
            return wrong("A laminate is glued of other stocks; '" + part + "' is none.");
        if (other->kind == Stock::Kind::Laminate)
            return wrong(other->name + " is a laminate itself; name the stocks it is glued of.");
    }
    return base::Done{};
}

} // namespace

std::string kindWord(Stock::Kind kind) {
    return kKinds[static_cast<size_t>(kind)];
}

std::optional<Stock::Kind> kindOf(const std::string& word) {
    const auto at = std::find(kKinds.begin(), kKinds.end(), word);
    return at == kKinds.end() ? std::nullopt : std::optional(static_cast<Stock::Kind>(at - kKinds.begin()));
}

Stock usualStock(Stock::Kind kind) {
    Stock out;
    out.kind = kind;
    out.name = kindWord(kind);
    switch (kind) {
    case Stock::Kind::Card:
        out.gramsPerM2 = 216;
        break;
    case Stock::Kind::Vinyl:
        out.thicknessMm = 0.08;
        out.gramsPerM2 = 110;
        out.cut = design::Depth::ToCarrier;
        out.faces = Stock::Faces::GoodFront;
        break;
    case Stock::Kind::Acetate:
        out.thicknessMm = 0.2;
        out.gramsPerM2 = 270;
        out.isTranslucent = true;
        break;
    case Stock::Kind::TranslucentPaper:
        out.thicknessMm = 0.12;
        out.gramsPerM2 = 112;
        out.isTranslucent = true;
        break;
    case Stock::Kind::Board:
        out.thicknessMm = 5;
        out.gramsPerM2 = 600;
        out.isCutByHand = true;
        break;
    case Stock::Kind::Laminate:
        out.thicknessMm = 0.6;
        out.gramsPerM2 = 430;
        out.faces = Stock::Faces::GoodFront;
        break;
    }
    return out;
}

base::Status checkStock(const std::vector<Stock>& among, const Stock& stock) {
    if (stock.name.empty() || stock.name.size() > 60 || stock.name.find('\n') != std::string::npos)
        return wrong("A stock needs a name of 1 to 60 letters, without a line break.");
    for (const Stock& other : among)
        if (other.id != stock.id && other.name == stock.name)
            return wrong("There is a stock called " + stock.name + " already; give this one another name.");
    if (!isBetween(stock.thicknessMm, 0.01, 20))
        return wrong(stock.name +
                     " needs a thickness between 0.01 and 20 mm: heights and fits are reckoned from it.");
    if (!isBetween(stock.gramsPerM2, 0, 5000))
        return wrong("A weight goes from 0 to 5000 g/m²; 0 when it is not known.");
    if (!isBetween(stock.price, 0, 100'000))
        return wrong("A price goes from 0 to 100 000; 0 when it is not known.");
    for (const Stock::Size& size : stock.sizes)
        if (!isBetween(size.widthMm, 10, 5000) || !isBetween(size.heightMm, 10, 5000))
            return wrong("A sheet is 10 to 5000 mm wide and high.");
    return checkLaminate(among, stock);
}

base::Result<Job> withNewStock(const Job& job, Stock stock) {
    stock.id = idFor(job.stocks, stock.name);
    if (auto ok = checkStock(job.stocks, stock); !ok)
        return ok.error();
    Job out = job;
    out.stocks.push_back(std::move(stock));
    return out;
}

base::Result<Job> withStock(const Job& job, const Stock& stock) {
    if (auto ok = checkStock(job.stocks, stock); !ok)
        return ok.error();
    Job out = job;
    const auto at = std::find_if(out.stocks.begin(), out.stocks.end(),
                                 [&](const Stock& one) { return one.id == stock.id; });
    if (at == out.stocks.end())
        return Error{Code::NotFound, "There is no stock '" + stock.id + "' in this job."};
    *at = stock;
    return out;
}

base::Result<Job> withoutStock(const Job& job, const std::string& id, const Catalogue& catalogue) {
    const Stock* stock = design::findStock(job.stocks, id);
    if (!stock)
        return Error{Code::NotFound, "There is no stock '" + id + "' in this job."};
    if (id == catalogue.backingStockId || id == catalogue.plainStockId)
        return wrong(stock->name + " is what new work is laid in; change it instead.");
    for (const design::Layer& layer : job.layers)
        if (layer.stockId == id)
            return wrong("A layer is cut from " + stock->name + "; cut it from another stock first.");
    for (const Stock& other : job.stocks)
        if (std::find(other.laminateOf.begin(), other.laminateOf.end(), id) != other.laminateOf.end())
            return wrong(other.name + " is glued of " + stock->name + "; change it first.");
    Job out = job;
    std::erase_if(out.stocks, [&](const Stock& one) { return one.id == id; });
    // What was said of it is not said of another that is called so one day.
    out.plan.sheetOf.erase(id);
    out.plan.tapedStocks.erase(id);
    out.cut.settings.erase(id);
    return out;
}

design::Drawer drawerOf(const Job& job, const design::Drawer& before) {
    return {job.stocks, job.plan.keepOuts, job.cut.machine, before.scraps, before.nextScrap};
}

base::Result<Job> withDrawer(const Job& job, const design::Drawer& drawer) {
    Job out = job;
    for (const auto& [mat, spots] : drawer.keepOuts)
        out.plan.keepOuts[mat] = spots;
    for (const Stock& stock : drawer.stocks) {
        const auto at = std::find_if(out.stocks.begin(), out.stocks.end(),
                                     [&](const Stock& one) { return one.id == stock.id; });
        if (at == out.stocks.end())
            out.stocks.push_back(stock);
        else
            *at = stock;
    }
    for (const Stock& stock : out.stocks)
        if (auto ok = checkStock(out.stocks, stock); !ok)
            return ok.error();
    return out;
}

Job beginningWith(Job job, const design::Drawer& drawer, const Catalogue& catalogue) {
    job.stocks = drawer.stocks;
    job.plan.keepOuts = drawer.keepOuts;
    job.cut.machine = drawer.machine;
    for (const std::string& id : {catalogue.backingStockId, catalogue.plainStockId})
        if (const Stock* shipped = design::findStock(catalogue.drawer, id);
            shipped && !design::findStock(drawer.stocks, id))
            job.stocks.push_back(*shipped);
    return job;
}

std::string sizesText(const std::vector<Stock::Size>& sizes, base::LengthUnit unit) {
    std::string out;
    for (const Stock::Size& size : sizes)
        out += (out.empty() ? "" : "; ") + (size.count ? std::to_string(*size.count) + " of " : "") +
               base::formatSize(size.widthMm, size.heightMm, unit);
    return out;
}

base::Result<std::vector<Stock::Size>> readSizes(const std::string& text, base::LengthUnit unit) {
    constexpr int kMostSheets = 99'999;
    std::vector<Stock::Size> out;
    std::istringstream parts(text);
    for (std::string part; std::getline(parts, part, ';');) {
        if (part.find_first_not_of(' ') == std::string::npos)
            continue;
        Stock::Size one;
        if (const auto of = part.find(" of "); of != std::string::npos) {
            const std::string count = part.substr(0, of);
            int sheets = 0;
            const auto [end, problem] = std::from_chars(count.data() + count.find_first_not_of(' '),
                                                        count.data() + count.size(), sheets);
            if (problem != std::errc() || end != count.data() + count.size() || sheets < 0 ||
                sheets > kMostSheets)
                return Error{Code::InvalidArgument,
                             "'" + count + "' is no number of sheets; write 3 of 210 x 297 mm."};
            one.count = sheets;
            part = part.substr(of + 4);
        }
        const auto size = base::parseSize(part, unit);
        if (!size)
            return size.error();
        one.widthMm = size->width.inMm();
        one.heightMm = size->height.inMm();
        out.push_back(one);
    }
    return out;
}

base::Result<Job> withOffcut(const Job& job, const sheets::Offcut& offcut) {
    const Stock* known = design::findStock(job.stocks, offcut.stockId);
    if (!known)
        return Error{Code::NotFound, "There is no stock '" + offcut.stockId + "'."};
    Stock stock = *known;
    constexpr double kSameMm = 0.5;
    // Cut down to whole millimetres: nobody measures an offcut closer.
    const Stock::Size left{std::floor(offcut.widthMm), std::floor(offcut.heightMm), 1};
    const auto same = std::find_if(stock.sizes.begin(), stock.sizes.end(), [&](const Stock::Size& size) {
        return std::abs(size.widthMm - left.widthMm) < kSameMm &&
               std::abs(size.heightMm - left.heightMm) < kSameMm;
    });
    if (same == stock.sizes.end())
        stock.sizes.push_back(left);
    else if (same->count)
        ++*same->count;
    return withStock(job, stock);
}

std::vector<Lacking> lackingSheets(const Job& job, const design::Arrangement& arrangement) {
    std::vector<Lacking> out;
    for (const Stock& stock : job.stocks) {
        // By the size that is laid, either way round.
        std::map<const Stock::Size*, int> needed;
        for (const design::Load& load : arrangement.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                for (const Stock::Size& size : stock.sizes) {
                    constexpr double kSameMm = 1;
                    const auto is = [&](double w, double h) {
                        return std::abs(size.widthMm - w) < kSameMm && std::abs(size.heightMm - h) < kSameMm;
                    };
                    if (sheet.stockId == stock.id && sheet.scrapId == 0 && !sheet.isScrap && size.count &&
                        (is(sheet.oneWidthMm(), sheet.oneHeightMm()) ||
                         is(sheet.oneHeightMm(), sheet.oneWidthMm())))
                        needed[&size] += sheet.count();
                }
        int lacking = 0;
        for (const auto& [size, count] : needed)
            lacking += std::max(0, count - *size->count);
        if (lacking > 0)
            out.push_back({stock.id, lacking});
    }
    return out;
}

Cost costOf(const design::Arrangement& arrangement, const std::vector<Stock>& stocks) {
    Cost out;
    std::map<std::string, int> sheets;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            if (sheet.scrapId == 0) // a scrap that is there has been paid for
                sheets[sheet.stockId] += sheet.count();
    for (const auto& [id, count] : sheets) {
        const Stock* stock = design::findStock(stocks, id);
        if (stock && stock->price > 0)
            out.sum += stock->price * count;
        else
            out.unknown.push_back(design::stockName(stocks, id));
    }
    return out;
}

base::Result<std::string> stockOfPanes(Job& job, const std::string& said) {
    if (!said.empty())
        return design::findStock(job.stocks, said)
                   ? base::Result<std::string>(said)
                   : base::Error{base::Code::NotFound, "There is no stock '" + said + "' in this job."};
    for (const design::Stock& stock : job.stocks)
        if (stock.isTranslucent && !stock.isCutByHand)
            return stock.id;
    design::Stock paper = usualStock(design::Stock::Kind::TranslucentPaper);
    paper.colour = {236, 232, 220};
    auto with = withNewStock(job, paper);
    if (!with)
        return with.error();
    job = with.take();
    return job.stocks.back().id;
}

} // namespace thinline::job
