// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/MatPhoto.h"

#include "base/Length.h"
#include "raster/Colour.h"
#include "sheets/Cards.h"

#include <algorithm>

namespace thinline::job {

using base::Code;
using base::Error;

namespace {

std::string nearestStock(const State& state, raster::Rgb colour) {
    std::string out;
    double least = INFINITY;
    const raster::Lab lab = raster::labOf(colour);
    for (const design::Stock& stock : state.job.stocks)
        if (const double away = raster::ciede2000(lab, raster::labOf(stock.colour));
            !stock.isCutByHand && away < least) {
            least = away;
            out = stock.id;
        }
    return out;
}

/// Why a rectangle without printed lines is not the mat: perhaps it is another one, on which they are seen.
Error noLines(const raster::Picture& photo, const design::MatFormat& chosen, const design::Formats& formats,
              const base::Progress& progress) {
    for (const design::MatFormat& other : formats.mats) {
        if (other.widthMm * chosen.heightMm == chosen.widthMm * other.heightMm)
            continue;
        const auto seen = raster::findRectangle(photo, other.widthMm, other.heightMm);
        const auto look =
            seen ? raster::lookAtMat(photo, *seen, progress) : base::Result<raster::MatLook>(seen.error());
        if (look && look->grid.isThere)
            return {Code::Degenerate, "The photo shows a mat of " + other.name +
                                          ", and the work is laid on one of " + chosen.name +
                                          ". Choose that mat at Sheets first."};
    }
    return {
        Code::Degenerate,
        "No mat was found in the photo: what has four corners in it has no lines an inch apart. If it is the "
        "mat all the same, put the corners on it by hand."};
}

} // namespace

base::Result<OnMat> foundOnMat(const State& state, const raster::Picture& photo,
                               const design::Formats& formats,
                               const std::optional<std::array<geometry::Point, 4>>& corners, double bend,
                               const base::Progress& progress) {
    const design::MatFormat* mat = formats.mat(state.job.plan.matId);
    if (!mat)
        return Error{Code::NotFound, "Choose the mat first."};
    auto seen = corners
                    ? raster::Seen::by(*corners, bend, photo.width, photo.height, mat->widthMm, mat->heightMm)
                    : raster::findRectangle(photo, mat->widthMm, mat->heightMm);
    if (!seen)
        return seen.error();
    auto look = raster::lookAtMat(photo, *seen, progress);
    if (!look)
        return look.error();
    if (!corners && !look->grid.isThere)
        return noLines(photo, *mat, formats, progress);
    OnMat out{seen.take(), look.take(), {}};
    for (const raster::FoundScrap& scrap : out.look.scraps)
        out.stocks.push_back(nearestStock(state, scrap.colour));
    return out;
}

base::Result<Job> withScrapsOnMat(const Job& job, const OnMat& found, const std::vector<std::string>& stocks,
                                  const std::string& photoName) {
    Job out = job;
    std::erase_if(out.plan.scraps, [&](const design::Scrap& one) { return one.at && one.mat == photoName; });
    std::size_t taken = 0;
    for (std::size_t i = 0; i < found.look.scraps.size() && i < stocks.size(); ++i) {
        design::Scrap scrap;
        scrap.stockId = stocks[i];
        scrap.rings = found.look.scraps[i].rings;
        scrap.at = geometry::bounds(scrap.rings).least;
        scrap.mat = photoName;
        scrap.name = "scrap " + std::to_string(i + 1) + " of " + photoName;
        if (scrap.stockId.empty() || !sheets::checkScrap(scrap))
            continue;
        auto next = withScrap(out, std::move(scrap));
        if (!next)
            return next;
        out = next.take();
        ++taken;
    }
    if (taken == 0)
        return Error{Code::InvalidArgument,
                     "Nothing on the mat is to be used; choose a stock for one of its scraps."};
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) {
        return pin.scrapId > 0 &&
               std::none_of(out.plan.scraps.begin(), out.plan.scraps.end(),
                            [&](const design::Scrap& one) { return one.id == pin.scrapId; });
    });
    return out;
}

std::string straightText(const raster::GridLook& grid) {
    if (!grid.isThere)
        return "No printed lines are seen, so nothing tells how true the places are.";
    return "Laid straight; its printed lines are off by " + base::formatNumber(grid.errorMm, 2) +
           " mm in the mean, at " + std::to_string(grid.places) + " places.";
}

} // namespace thinline::job
