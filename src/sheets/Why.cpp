// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// "Why so many?" is answered by laying the work again.
//
// A sentence about a layout is easily made up, and wrong. So nothing is said here that was not laid: the same work without one
// copy of a piece, or by another plan, with the same number of steps. Which piece decides cannot be seen from where it lies,
// but those that are long and those that lie alone on a last sheet are the ones that do, so they are tried, the longest first,
// until one of them saves a sheet of its stock. A piece whose going saves nothing is not spoken of.
#include "sheets/Why.h"

#include "design/Cluster.h"
#include "geometry/Measures.h"

#include <algorithm>

namespace thinline::sheets {
namespace {

using Kind = Alternative::Kind;

int sheetsOfStock(const design::Arrangement& arrangement, const std::string& stockId) {
    int out = 0;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            out += sheet.stockId == stockId && sheet.scrapId == 0 ? 1 : 0;
    return out;
}

base::Result<design::Arrangement> laidAnew(const design::Stack& stack, const ArrangeOptions& options,
                                           long long steps, const base::Progress& progress) {
    auto boxes = arrange(stack, options, progress);
    if (!boxes)
        return boxes;
    return arrangeClose(stack, options, {.budget = {.steps = steps}}, *boxes, {}, progress);
}

double longestOf(const design::Rigid& rigid) {
    const geometry::TurnedRectangle least = geometry::leastRectangle(rigid.outlines());
    return std::max(least.widthMm, least.heightMm);
}

/// The work with one copy less of what a rigid thing holds.
design::Stack without(design::Stack stack, const design::Rigid& rigid) {
    if (rigid.cluster)
        for (design::Cluster& cluster : stack.clusters)
            if (cluster.pieces == rigid.cluster->pieces)
                --cluster.copies;
    std::erase_if(stack.pieces, [&](design::Laid& laid) {
        const bool isIts = std::any_of(rigid.pieces.begin(), rigid.pieces.end(),
                                       [&](const design::Laid* one) { return one->id() == laid.id(); });
        return isIts && --laid.copies < 1;
    });
    std::erase_if(stack.clusters, [](const design::Cluster& cluster) { return cluster.copies < 1; });
    return stack;
}

/// The rigid things of a stock that may decide how many sheets there are, the longest first.
std::vector<const design::Rigid*> deciding(const std::vector<design::Rigid>& all,
                                           const std::string& stockId) {
    constexpr std::size_t kTried = 3;
    std::vector<std::pair<double, const design::Rigid*>> found;
    for (const design::Rigid& rigid : all)
        if (rigid.stockId == stockId && rigid.copies > 0)
            found.emplace_back(longestOf(rigid), &rigid);
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<const design::Rigid*> out;
    for (std::size_t i = 0; i < std::min(kTried, found.size()); ++i)
        out.push_back(found[i].second);
    return out;
}

/// Ways to lay the work that a plan may choose and has not chosen.
std::vector<Kind> otherWays(const ArrangeOptions& options) {
    std::vector<Kind> out{options.isMixed ? Kind::Apart : Kind::Together};
    if (!options.intoOpenings)
        out.push_back(Kind::IntoOpenings);
    if (!options.mayTurn)
        out.push_back(Kind::Turned);
    return out;
}

} // namespace

Effort effortOf(const design::Arrangement& arrangement) {
    Effort out;
    out.mats = static_cast<int>(arrangement.loads.size());
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            out.sheets += sheet.scrapId == 0 ? sheet.count() : 0;
            out.scraps += sheet.isScrap ? 1 : 0;
        }
    return out;
}

ArrangeOptions optionsFor(ArrangeOptions options, Kind kind) {
    options.isMixed = kind == Kind::Together || (options.isMixed && kind != Kind::Apart);
    options.intoOpenings = options.intoOpenings || kind == Kind::IntoOpenings;
    options.mayTurn = options.mayTurn || kind == Kind::Turned;
    return options;
}

base::Result<std::vector<Alternative>> alternativesTo(const design::Stack& stack,
                                                      const ArrangeOptions& options,
                                                      const design::Arrangement& given, long long steps,
                                                      const base::Progress& progress) {
    std::vector<Alternative> out;
    const std::vector<design::Rigid> all = design::rigidOf(stack);
    int copies = 0;
    std::vector<std::string> stocks;
    for (const design::Rigid& rigid : all) {
        copies += rigid.copies;
        if (std::find(stocks.begin(), stocks.end(), rigid.stockId) == stocks.end())
            stocks.push_back(rigid.stockId);
    }
    if (copies > kMostAlternatives)
        return out;
    const Effort now = effortOf(given);
    for (const std::string& stock : stocks) {
        const int sheets = sheetsOfStock(given, stock);
        for (const design::Rigid* rigid :
             sheets > 1 ? deciding(all, stock) : std::vector<const design::Rigid*>()) {
            const auto laid = laidAnew(without(stack, *rigid), options, steps, progress);
            if (!laid)
                return laid.error();
            if (sheetsOfStock(*laid, stock) >= sheets || laid->unplaced.size() > given.unplaced.size())
                continue;
            out.push_back({Kind::WithoutPiece, {rigid->held().id(), 0}, longestOf(*rigid), effortOf(*laid)});
            break;
        }
    }
    for (const Kind kind : otherWays(options)) {
        const auto laid = laidAnew(stack, optionsFor(options, kind), steps, progress);
        if (!laid)
            return laid.error();
        const Effort effort = effortOf(*laid);
        const bool isOther = effort.mats != now.mats || effort.sheets != now.sheets,
                   costsMore =
                       effort.mats > now.mats || (effort.mats == now.mats && effort.sheets > now.sheets),
                   isOfOtherKind = kind == Kind::Together || kind == Kind::Apart;
        if (costsMore && !isOfOtherKind)
            continue;
        if (isOther && laid->unplaced.size() <= given.unplaced.size())
            out.push_back({kind, {}, 0, effort});
    }
    std::stable_sort(out.begin(), out.end(), [](const Alternative& a, const Alternative& b) {
        return std::pair(a.effort.mats, a.effort.sheets) < std::pair(b.effort.mats, b.effort.sheets);
    });
    return out;
}

std::string alternativeText(const Alternative& alternative, const Effort& now, const design::Stack& stack,
                            base::LengthUnit unit) {
    const Effort& then = alternative.effort;
    if (alternative.kind == Kind::WithoutPiece) {
        const int saved = now.sheets - then.sheets;
        return "without " + design::pieceName(stack, alternative.what.piece) + " (" +
               base::formatLength(alternative.longestMm, unit) + ") " +
               (saved == 1 ? "one sheet less" : std::to_string(saved) + " sheets less");
    }
    std::string out = alternative.kind == Kind::Together       ? "several stocks on one mat"
                      : alternative.kind == Kind::Apart        ? "one stock to a mat"
                      : alternative.kind == Kind::IntoOpenings ? "small pieces in openings"
                                                               : "pieces turned";
    out += ": " + base::counted(then.mats, "mat") +
           (then.mats == now.mats ? " as now" : " instead of " + std::to_string(now.mats));
    if (then.sheets != now.sheets)
        out += ", " + base::counted(then.sheets, "sheet") + " instead of " + std::to_string(now.sheets);
    if (then.scraps > 0)
        out += ", " + base::counted(then.scraps, "scrap") + " to cut";
    return out;
}

} // namespace thinline::sheets
