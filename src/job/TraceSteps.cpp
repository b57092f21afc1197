// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/TraceSteps.h"

#include "formats/image/ImageFile.h"
#include "raster/Turn.h"
#include "trace/Proposal.h"

#include <algorithm>
#include <set>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

Error noPicture() {
    return {Code::NotFound, "This job has no picture yet; open one at Source."};
}

/// The stocks the areas of a picture lie in now, by number.
std::map<int, std::string> paintOf(const Job& job, const Source& source) {
    std::map<int, std::string> out;
    const auto stockOf = [&](LayerId id) {
        const design::Layer* layer = design::findLayer(job.layers, id);
        return layer ? layer->stockId : std::string();
    };
    for (const auto& [key, layer] : source.lies)
        if (isArea(key))
            out[areaNumber(key)] = stockOf(layer);
    job.wishes.each([&](const Wishes::Entry& entry) {
        if (entry.first.source() == source.id && entry.first.isFound() && isArea(entry.first.key()) &&
            entry.second.layer)
            out[areaNumber(entry.first.key())] = stockOf(*entry.second.layer);
    });
    std::erase_if(out, [](const auto& entry) { return entry.second.empty(); });
    return out;
}

/// Lays the areas that have no place yet by what the proposal says; layers a picture proposes lie in its order,
/// bottom first.
void layAreas(Job& job, Source& source, const Picture& picture, const std::map<int, std::string>& paint,
              bool isByLevel) {
    std::map<std::string, int> levels;
    for (const trace::Area& area : picture.tracing->areas)
        if (const auto stock = paint.find(area.number); stock != paint.end())
            levels.try_emplace(stock->second, area.level);
    if (isByLevel) {
        std::vector<std::pair<int, std::string>> order;
        for (const auto& [stock, level] : levels)
            order.emplace_back(level, stock);
        std::sort(order.begin(), order.end());
        std::vector<design::Layer> moved;
        for (const auto& [level, stock] : order) {
            const LayerId id = layerForStock(job, stock);
            moved.push_back(*design::findLayer(job.layers, id));
            std::erase_if(job.layers, [&](const design::Layer& layer) { return layer.id == id; });
        }
        job.layers.insert(job.layers.end(), moved.begin(), moved.end());
    }
    for (const trace::Area& area : picture.tracing->areas) {
        const std::string key = areaKey(area.number);
        const auto stock = paint.find(area.number);
        if (!source.lies.contains(key) && stock != paint.end())
            source.lies[key] = layerForStock(job, stock->second);
    }
}

/// Lets backing and ink lie in their layers: the ink on top of everything, in the card the backing would be of.
void layGround(Job& job, Source& source, Picture& picture) {
    if (!design::findLayer(job.layers, picture.ground)) {
        picture.ground = LayerId{job.nextLayer++};
        job.layers.insert(job.layers.begin(),
                          {picture.ground, "backing", job.stocks.empty() ? "card" : job.stocks.front().id});
    }
    const bool hasInk = std::any_of(source.kept->begin(), source.kept->end(),
                                    [](const Found& found) { return isInk(found.key); });
    if (hasInk && !design::findLayer(job.layers, picture.ink)) {
        picture.ink = LayerId{job.nextLayer++};
        job.layers.push_back({picture.ink, "ink", design::findLayer(job.layers, picture.ground)->stockId});
    }
    if (hasInk) { // new cards came above it
        const auto at = std::find_if(job.layers.begin(), job.layers.end(),
                                     [&](const design::Layer& layer) { return layer.id == picture.ink; });
        std::rotate(at, at + 1, job.layers.end());
    }
    for (const Found& found : *source.kept)
        if (!isArea(found.key))
            source.lies[found.key] = isInk(found.key) ? picture.ink : picture.ground;
}

/// Takes a tracing into a source: its pieces, and where they lie.
Job taken(const Job& job, Source source, Picture picture, const trace::PaintProposal& proposal,
          bool isByLevel) {
    Job out = job;
    out.stocks = proposal.stocks;
    source.kept =
        std::make_shared<const std::vector<Found>>(piecesOfTracing(*picture.tracing, picture.recipe.build));
    layAreas(out, source, picture, proposal.paint, isByLevel);
    layGround(out, source, picture);
    source.what = std::move(picture);
    return withSource(std::move(out), std::move(source));
}

/// The first time the only picture is traced, its work begins at the design's corner.
void placeFirst(Source& source, const Picture& picture) {
    geometry::Box box;
    for (const Found& found : piecesOfTracing(*picture.tracing, trace::Build::AreasOnBacking))
        box.include(geometry::bounds(found.body->shape));
    if (box.isEmpty())
        return;
    source.at = {};
    source.at = source.map()(box.least) * -1;
}

} // namespace

trace::Erasure erasureAt(const Source& picture, trace::Erasure::Kind kind,
                         const std::vector<geometry::Point>& pointsMm, double widthMm) {
    const geometry::Transform toPicture = geometry::inverse(picture.map());
    trace::Erasure out{kind, {}, widthMm / mmPerPx(picture)};
    const bool isBox = kind == trace::Erasure::Kind::Rectangle || kind == trace::Erasure::Kind::Outside;
    if (isBox && picture.turnRad != 0 && pointsMm.size() == 2) { // level in the design, askew in the picture
        const geometry::Point a = pointsMm[0], b = pointsMm[1];
        for (const geometry::Point corner : {a, geometry::Point{b.x, a.y}, b, geometry::Point{a.x, b.y}})
            out.points.push_back(toPicture(corner));
        return out;
    }
    for (const geometry::Point p : pointsMm)
        out.points.push_back(toPicture(p));
    return out;
}

trace::ClosingLine closingAt(const Source& picture, geometry::Point fromMm, geometry::Point toMm) {
    const geometry::Transform toPicture = geometry::inverse(picture.map());
    return closingInPicture(picture, toPicture(fromMm) * mmPerPx(picture), toPicture(toMm) * mmPerPx(picture));
}

trace::ClosingLine closingInPicture(const Source& picture, geometry::Point fromMm, geometry::Point toMm) {
    constexpr double kPenMm = 0.8, kLeastPx = 3;
    const double pxPerMm = 1 / mmPerPx(picture);
    return {fromMm * pxPerMm, toMm * pxPerMm, std::max(kLeastPx, kPenMm * pxPerMm)};
}

geometry::Box partAt(const Source& picture, const geometry::Box& boxMm) {
    return geometry::transformed(boxMm, geometry::inverse(picture.map()));
}

namespace {

/// The job with what a recipe found in its picture.
base::Result<Job> withFound(const Job& job, Source source, trace::Tracing found, const trace::Recipe& recipe,
                            const Catalogue& catalogue) {
    Picture picture = std::get<Picture>(source.what);
    const bool isFirst = !picture.tracing;
    // Another way of looking finds other areas: what was decided about the old ones means nothing to them.
    const bool isSameWay =
        !isFirst && recipe.mode == picture.recipe.mode && recipe.tones == picture.recipe.tones &&
        recipe.isLightOnDark == picture.recipe.isLightOnDark;
    if (isSameWay)
        picture.gone = trace::carryNumbers(*picture.tracing, picture.gone, picture.nextArea, found);
    else
        picture.gone.clear();
    if (!isSameWay) {
        for (trace::Area& area : found.areas)
            area.number = picture.nextArea++;
        std::erase_if(source.lies, [](const auto& entry) { return isArea(entry.first); });
    }
    picture.recipe = recipe;
    const std::map<int, std::string> paint = isSameWay ? paintOf(job, source) : std::map<int, std::string>{};
    std::set<std::string> used;
    for (const auto& [number, stock] : paint)
        used.insert(stock);
    const trace::PaintProposal proposal =
        trace::proposePaint(found, job.stocks, paint, catalogue.plainStockId);
    const bool hasNewStock = std::any_of(proposal.paint.begin(), proposal.paint.end(),
                                         [&](const auto& entry) { return !used.contains(entry.second); });
    picture.tracing = std::make_shared<const trace::Tracing>(std::move(found));
    if (isFirst && job.sources.size() == 1)
        placeFirst(source, picture);
    const bool isByLevel = recipe.mode != trace::Mode::LineDrawing && (!isSameWay || hasNewStock);
    return taken(job, std::move(source), std::move(picture), proposal, isByLevel);
}

} // namespace

base::Result<Job> traced(const Job& job, const raster::Picture& pixels, const trace::Recipe& recipe,
                         const Catalogue& catalogue, const base::Progress& progress, SourceId of) {
    const Source* before = pictureSource(job, of);
    if (!before)
        return noPicture();
    Source source = *before;
    Picture picture = std::get<Picture>(source.what);
    // How the pieces lie on one another changes nothing in what was found.
    trace::Recipe asLaid = picture.recipe;
    asLaid.build = recipe.build;
    asLaid.stacking = recipe.stacking;
    asLaid.tuckMm = recipe.tuckMm;
    if (picture.tracing && recipe == asLaid && !(recipe == picture.recipe)) {
        picture.recipe = recipe;
        return taken(job, std::move(source), std::move(picture), {job.stocks, {}}, false);
    }
    auto tracing = trace::traced(pixels, mmPerPx(source), recipe, progress);
    return tracing ? withFound(job, std::move(source), tracing.take(), recipe, catalogue) : tracing.error();
}

base::Result<Job> colouredFrom(const Job& job, const base::Bytes& copy, const std::string& fileName,
                               const Catalogue& catalogue, const base::Progress&, SourceId of) {
    const Source* before = pictureSource(job, of);
    const auto* traced = asA<Picture>(before);
    if (!traced || !traced->tracing || traced->recipe.mode != trace::Mode::LineDrawing)
        return Error{Code::InvalidArgument,
                     "Only the areas of a line drawing take their colours from a coloured "
                     "copy; trace the picture as lines first."};
    const auto decoded = formats::image::decode(copy);
    if (!decoded)
        return Error{decoded.error().code, fileName + ": " + decoded.error().message};
    auto coloured =
        trace::colouredBy(*traced->tracing, raster::turned(decoded->picture, traced->recipe.turnDeg));
    if (!coloured)
        return Error{coloured.error().code, fileName + ": " + coloured.error().message};
    Job out = job;
    Source source = *before;
    Picture picture = *traced;
    std::erase_if(source.lies, [](const auto& entry) { return isArea(entry.first); });
    job.wishes.each([&](const Wishes::Entry& entry) {
        if (entry.first.source() != source.id || !entry.first.isFound() || !isArea(entry.first.key()))
            return;
        design::Wish wish = entry.second;
        wish.layer.reset();
        out.wishes = out.wishes.with(entry.first, wish);
    });
    const trace::PaintProposal proposal =
        trace::proposePaint(*coloured, job.stocks, {}, catalogue.plainStockId);
    picture.tracing = std::make_shared<const trace::Tracing>(coloured.take());
    return taken(out, std::move(source), std::move(picture), proposal, false);
}

base::Result<Job> withGapsClosed(const Job& job, const raster::Picture& pixels,
                                 const std::vector<size_t>& leaks, const Catalogue& catalogue,
                                 const base::Progress& progress, SourceId of) {
    const auto* picture = asA<Picture>(pictureSource(job, of));
    if (!picture)
        return noPicture();
    trace::Recipe recipe = picture->recipe;
    for (size_t i : leaks)
        if (picture->tracing && i < picture->tracing->leaks.size() && picture->tracing->leaks[i].closure)
            recipe.closings.push_back(*picture->tracing->leaks[i].closure);
    if (recipe.closings.size() == picture->recipe.closings.size())
        return Error{Code::InvalidArgument, "There is no gap here between two ends of a line."};
    return traced(job, pixels, recipe, catalogue, progress, of);
}

base::Result<Job> tracedGapless(const Job& job, const raster::Picture& pixels, const trace::Recipe& recipe,
                                const Catalogue& catalogue, const base::Progress& progress, SourceId of) {
    const Source* source = pictureSource(job, of);
    if (!source)
        return noPicture();
    auto found = trace::tracedGapless(pixels, mmPerPx(*source), recipe, progress);
    if (!found)
        return found.error();
    trace::Gapless gapless = found.take();
    return withFound(job, *source, std::move(gapless.tracing), gapless.recipe, catalogue);
}

std::vector<size_t> closableLeaks(const Job& job, SourceId of) {
    std::vector<size_t> out;
    const trace::Tracing* tracing = tracingOf(job, of);
    for (size_t i = 0; tracing && i < tracing->leaks.size(); ++i)
        if (tracing->leaks[i].closure)
            out.push_back(i);
    return out;
}

base::Result<Job> withRoom(const Job& job, double roomMm, SourceId of) {
    if (!(roomMm >= 0) || roomMm > 10)
        return Error{Code::InvalidArgument, "The room between pieces goes from 0 to 10 mm."};
    const Source* before = pictureSource(job, of);
    if (!before)
        return noPicture();
    Source source = *before;
    std::get<Picture>(source.what).roomMm = roomMm;
    return withSource(job, std::move(source));
}

const trace::Tracing* tracingOf(const Job& job, SourceId of) {
    const auto* picture = asA<Picture>(pictureSource(job, of));
    return picture ? picture->tracing.get() : nullptr;
}

} // namespace thinline::job
