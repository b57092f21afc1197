// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Job.h"
#include "document/Reshape.h"
#include "formats/image/ImageFile.h"
#include "raster/Turn.h"

#include <algorithm>
#include <set>

namespace thinline::document {

using base::Code;
using base::Error;

/// The order a picture proposes for its layers: every stock where its areas lie, bottom first.
static void orderByLevel(Job& job) {
    std::map<std::string, int> levels;
    for (const trace::Area& area : job.tracing->areas)
        if (const auto stock = job.paint.find(area.id); stock != job.paint.end())
            levels.try_emplace(stock->second, area.level);
    std::vector<std::pair<int, std::string>> order;
    for (const auto& [stock, level] : levels) {
        std::erase_if(job.layers, [&, id = stock](const trace::LayerSetting& s) {
            return s.role == design::LayerRole::Areas && s.stockId == id;
        });
        order.emplace_back(level, stock);
    }
    std::sort(order.begin(), order.end());
    for (const auto& [level, stock] : order)
        job.layers.push_back({design::LayerRole::Areas, stock, 0, false});
}

base::Result<Job> traced(const Job& job, const raster::Picture& picture, const trace::Recipe& recipe,
                         const Catalogue& catalogue, const base::Progress& progress) {
    // How the pieces lie on one another changes nothing in what was found.
    trace::Recipe asLaid = job.recipe;
    asLaid.build = recipe.build;
    asLaid.stacking = recipe.stacking;
    asLaid.tuckMm = recipe.tuckMm;
    if (job.tracing && recipe == asLaid && !(recipe == job.recipe)) {
        Job laid = job;
        laid.recipe = recipe;
        return reshaped(std::move(laid), progress);
    }
    auto tracing = trace::traced(picture, sizingOf(job).mmPerPx, recipe, progress.part(0, 0.9));
    if (!tracing)
        return tracing.error();
    trace::Tracing found = tracing.take();
    Job out = job;
    // Another way of looking finds other areas: what was laid on the old ones means nothing to them.
    const bool isSameWay = job.tracing && recipe.mode == job.recipe.mode && recipe.tones == job.recipe.tones;
    if (isSameWay)
        trace::carryIds(*job.tracing, found);
    else
        std::erase_if(out.paint, [](const auto& entry) { return entry.first <= design::kLastFound; });
    out.recipe = recipe;
    const trace::PaintProposal proposal =
        trace::proposePaint(found, job.stocks, out.paint, catalogue.plainStockId);
    std::set<std::string> before;
    for (const auto& [id, stock] : out.paint)
        before.insert(stock);
    out.stocks = proposal.stocks;
    out.paint = proposal.paint;
    for (const auto& [id, stock] : job.paint)
        if (id > design::kLastFound)
            out.paint.emplace(id, stock); // pieces made at Shape keep what was laid on them
    out.tracing = std::make_shared<const trace::Tracing>(std::move(found));
    const bool hasNewStock = std::any_of(out.paint.begin(), out.paint.end(),
                                         [&](const auto& entry) { return !before.contains(entry.second); });
    if (recipe.mode != trace::Mode::LineDrawing && (!isSameWay || hasNewStock))
        orderByLevel(out);
    return reshaped(std::move(out), progress.part(0.9, 1));
}

base::Result<Job> colouredFrom(const Job& job, const base::Bytes& copy, const std::string& fileName,
                               const Catalogue& catalogue, const base::Progress& progress) {
    if (!job.tracing || job.recipe.mode != trace::Mode::LineDrawing)
        return Error{Code::InvalidArgument,
                     "Only the areas of a line drawing take their colours from a coloured "
                     "copy; trace the picture as lines first."};
    const auto decoded = formats::image::decode(copy);
    if (!decoded)
        return Error{decoded.error().code, fileName + ": " + decoded.error().message};
    auto coloured = trace::colouredBy(*job.tracing, raster::turned(decoded->picture, job.recipe.turnDeg));
    if (!coloured)
        return Error{coloured.error().code, fileName + ": " + coloured.error().message};
    Job out = job;
    std::erase_if(out.paint, [](const auto& entry) { return entry.first <= design::kLastFound; });
    trace::PaintProposal proposal =
        trace::proposePaint(*coloured, job.stocks, out.paint, catalogue.plainStockId);
    out.stocks = std::move(proposal.stocks);
    out.paint = std::move(proposal.paint);
    out.tracing = std::make_shared<const trace::Tracing>(coloured.take());
    return reshaped(std::move(out), progress);
}

base::Result<Job> withGapsClosed(const Job& job, const raster::Picture& picture,
                                 const std::vector<size_t>& leaks, const Catalogue& catalogue,
                                 const base::Progress& progress) {
    trace::Recipe recipe = job.recipe;
    for (size_t i : leaks)
        if (job.tracing && i < job.tracing->leaks.size() && job.tracing->leaks[i].closure)
            recipe.closings.push_back(*job.tracing->leaks[i].closure);
    if (recipe.closings.size() == job.recipe.closings.size())
        return Error{Code::InvalidArgument, "There is no gap here between two ends of a line."};
    return traced(job, picture, recipe, catalogue, progress);
}

std::vector<size_t> closableLeaks(const Job& job) {
    std::vector<size_t> out;
    for (size_t i = 0; job.tracing && i < job.tracing->leaks.size(); ++i)
        if (job.tracing->leaks[i].closure)
            out.push_back(i);
    return out;
}

} // namespace thinline::document
