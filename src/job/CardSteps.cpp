// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/CardSteps.h"

#include "geometry/Measures.h"
#include "sheets/Cards.h"

#include <algorithm>

namespace thinline::job {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;

namespace {

base::Status checkStockThere(const Job& job, const std::string& stockId) {
    if (design::findStock(job.stocks, stockId))
        return base::Done{};
    std::string known;
    for (const design::Stock& stock : job.stocks)
        known += (known.empty() ? "" : ", ") + stock.id;
    return Error{Code::NotFound, "There is no stock '" + stockId + "'; choose from " + known + "."};
}

/// Lets go what was pinned of a stock: on whole sheets only, or on scraps too.
void letGo(SheetPlan& plan, const State& state, const std::string& stockId, bool onScrapsToo) {
    const design::Stack* work = state.made.work();
    std::erase_if(plan.pins, [&](const sheets::Pin& pin) {
        const design::Laid* laid = work ? work->find(pin.what.piece) : nullptr;
        return (onScrapsToo || pin.scrapId <= 0) && laid && work->layerOf(*laid).stockId == stockId;
    });
}

} // namespace

base::Result<Job> withSheetOf(const State& state, const std::string& stockId,
                              const std::optional<design::SheetFormat>& sheet) {
    if (auto ok = checkStockThere(state.job, stockId); !ok)
        return ok.error();
    if (sheet && (!(sheet->usableWidthMm() > 0) || !(sheet->usableHeightMm() > 0)))
        return Error{Code::InvalidArgument, "That sheet has no room inside its margin."};
    Job out = state.job;
    if (sheet)
        out.plan.sheetOf[stockId] = *sheet;
    else
        out.plan.sheetOf.erase(stockId);
    if (out.plan.sheetOf != state.job.plan.sheetOf)
        letGo(out.plan, state, stockId, false);
    return out;
}

base::Status checkTaped(const Job& job, const std::string& stockId) {
    const design::Stock* stock = design::findStock(job.stocks, stockId);
    if (stock && stock->cut == design::Depth::ToCarrier)
        return Error{Code::InvalidArgument, stock->name + " is cut on its carrier, which lies on the mat: its sheets cannot be "
                                                          "taped together and lie face down."};
    if (stock && job.print.stocks.contains(stockId))
        return Error{Code::InvalidArgument, "Sheets of " + stock->name + " are printed, one page each; they cannot be taped "
                                                                         "together and lie face down."};
    return base::Done{};
}

base::Result<Job> withSheetsTaped(const State& state, const std::string& stockId, bool areTaped) {
    if (auto ok = checkStockThere(state.job, stockId); !ok)
        return ok.error();
    Job out = state.job;
    if (!areTaped)
        out.plan.tapedStocks.erase(stockId);
    else if (auto ok = checkTaped(state.job, stockId); !ok)
        return ok.error();
    else
        out.plan.tapedStocks.insert(stockId);
    if (out.plan.tapedStocks != state.job.plan.tapedStocks)
        letGo(out.plan, state, stockId, true); // no scrap is used meanwhile
    return out;
}

bool willLieFlipped(const Job& job, const design::Laid& laid, const std::string& stockId) {
    bool isPinned = false;
    for (const sheets::Pin& pin : job.plan.pins)
        if (pin.what.piece == laid.id()) {
            isPinned = true;
            if (pin.pose.isFlipped)
                return true;
        }
    return !(isPinned && laid.copies == 1) && design::liesFlipped(laid, job.plan.tapedStocks.contains(stockId));
}

base::Result<Job> withScrap(const Job& job, design::Scrap scrap) {
    if (auto ok = checkStockThere(job, scrap.stockId); !ok)
        return ok.error();
    if (job.plan.scraps.size() >= kMostScrapsInAJob)
        return Error{Code::LimitExceeded, "A job takes " + std::to_string(kMostScrapsInAJob) +
                                              " scraps; take one out that is used up."};
    const Point corner = geometry::bounds(scrap.rings).least;
    for (geometry::Polygon& ring : scrap.rings)
        for (Point& p : ring)
            p = p - corner;
    if (auto ok = sheets::checkScrap(scrap); !ok)
        return ok.error();
    Job out = job;
    scrap.id = out.plan.nextScrap++;
    out.plan.scraps.push_back(std::move(scrap));
    return out;
}

Job withoutScrap(const Job& job, int scrapId) {
    Job out = job;
    std::erase_if(out.plan.scraps, [&](const design::Scrap& one) { return one.id == scrapId; });
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) { return pin.scrapId == scrapId; });
    return out;
}

base::Result<geometry::Polygons> scrapOutline(const Incoming& file, const base::FontStore& fonts,
                                              const base::Progress& progress) {
    const auto drawing = drawingFrom(file, {}, fonts, progress);
    if (!drawing)
        return drawing.error();
    const geometry::Shape* largest = nullptr;
    for (const Found& found : *drawing->kept)
        if (!largest || geometry::area(found.body->shape) > geometry::area(*largest))
            largest = &found.body->shape;
    if (!largest)
        return Error{Code::Degenerate, file.name + " has no closed outline; draw the scrap as one area."};
    constexpr double kFlatMm = 0.05;
    const double unit = drawing->unitMm;
    return geometry::flatten(geometry::transformed(*largest, geometry::Transform::scale(unit, unit)),
                             kFlatMm);
}

geometry::Polygons scrapRectangle(double widthMm, double heightMm) {
    return {{{0, 0}, {widthMm, 0}, {widthMm, heightMm}, {0, heightMm}}};
}

base::Result<Job> withKeepOut(const Job& job, const Box& box, const design::Formats& formats) {
    const design::MatFormat* mat = formats.mat(job.plan.matId);
    if (!mat || !box.meets({{0, 0}, {mat->widthMm, mat->heightMm}}))
        return Error{Code::InvalidArgument, "Draw the part that stays free on the mat."};
    const auto widened = [](double least, double most, double whole) {
        least = std::max(0.0, least);
        most = std::min(whole, most);
        const double more = std::max(0.0, sheets::kLeastKeepOutMm - (most - least)) / 2;
        return std::pair{least - more, most + more};
    };
    const auto [left, right] = widened(box.least.x, box.most.x, mat->widthMm);
    const auto [top, bottom] = widened(box.least.y, box.most.y, mat->heightMm);
    Job out = job;
    out.plan.keepOuts[mat->id].push_back({{left, top}, {right, bottom}});
    return out;
}

Job withoutKeepOut(const Job& job, std::size_t index) {
    Job out = job;
    const auto at = out.plan.keepOuts.find(job.plan.matId);
    if (at == out.plan.keepOuts.end() || index >= at->second.size())
        return out;
    at->second.erase(at->second.begin() + static_cast<std::ptrdiff_t>(index));
    if (at->second.empty())
        out.plan.keepOuts.erase(at);
    return out;
}

std::vector<Box> keepOutsOf(const SheetPlan& plan) {
    const auto at = plan.keepOuts.find(plan.matId);
    return at == plan.keepOuts.end() ? std::vector<Box>() : at->second;
}

} // namespace thinline::job
