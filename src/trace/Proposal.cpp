// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Proposal.h"

#include <cmath>
#include <set>

namespace thinline::trace {

PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<int, std::string>& paint, const std::string& plainStockId) {
    constexpr double kLikePaper = 0.06; // uneven paper and soft scans stay below this
    constexpr double kLikeHue = 0.035;  // a grey of a photo is no pale green
    PaintProposal out{stocks, {}};
    // Colours of a palette were told apart on purpose: no two of them share a stock.
    std::map<raster::Rgb, std::string> byColour;
    std::set<std::string> used;
    for (const auto& [id, stock] : paint)
        used.insert(stock);
    const auto stockOf = [&](raster::Rgb colour) {
        if (const auto known = byColour.find(colour); known != byColour.end())
            return known->second;
        std::vector<design::Stock> free;
        for (const design::Stock& stock : out.stocks)
            if (tracing.palette.empty() ||
                (!used.contains(stock.id) &&
                 std::abs(raster::colourfulness(stock.colour) - raster::colourfulness(colour)) < kLikeHue))
                free.push_back(stock);
        const size_t there = free.size();
        const std::string id = design::stockOfColour(free, colour).id;
        if (free.size() > there) {
            free.back().name = design::newStockName(out.stocks, colour);
            if (!design::findStock(out.stocks, id))
                out.stocks.push_back(free.back());
        }
        used.insert(id);
        return byColour[colour] = id;
    };
    for (const Area& area : tracing.areas) {
        if (const auto kept = paint.find(area.number); kept != paint.end()) {
            out.paint.insert(*kept);
            byColour.try_emplace(area.colour, kept->second);
        }
    }
    for (const Area& area : tracing.areas) {
        if (out.paint.contains(area.number))
            continue;
        const bool isPlain =
            tracing.palette.empty() && raster::colourDistance(area.colour, tracing.paper) < kLikePaper;
        out.paint[area.number] = isPlain ? plainStockId : stockOf(area.colour);
    }
    return out;
}

} // namespace thinline::trace
