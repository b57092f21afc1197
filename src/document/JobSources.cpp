// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobSources.h"

#include "document/Reshape.h"

#include <algorithm>

namespace thinline::document {
namespace {

using base::Code;
using base::Error;

constexpr double kGapMm = 10; ///< between what is there and what comes in

Error notThere() {
    return {Code::NotFound, "That is not in the job any more."};
}

/// Where a new source goes: beside everything, level with its top.
geometry::Point placeFor(const Job& job, const Source& source) {
    const geometry::Box design = designBox(job), own = source.box();
    if (design.isEmpty())
        return {};
    return {design.most.x / job.scaleX + kGapMm - own.least.x, design.least.y / job.scaleY - own.least.y};
}

std::string sizeQuestion(const Drawing& drawing) {
    return drawing.file->mediaType == kDxfType
               ? "The file states no unit; I took one unit for a millimetre. Settle it at Source."
               : "The file states no real size; I took 96 units to the inch. Settle it at Source.";
}

/// Paints a drawing's pieces by their colours; white counts as paper and takes the plain stock.
void paintByColour(Job& job, const Source& source, const std::string& plainStockId) {
    constexpr double kLikePaper = 0.06;
    for (const SourcePiece& piece : source.pieces) {
        const bool isPlain =
            !piece.colour || raster::colourDistance(*piece.colour, raster::Rgb{255, 255, 255}) < kLikePaper;
        job.paint[piece.id] = isPlain ? plainStockId : design::stockOfColour(job.stocks, *piece.colour).id;
    }
}

base::Result<Noted> added(Job job, Source source, const base::Progress& progress) {
    if (job.nextSource > design::kMostSources)
        return Error{Code::LimitExceeded, "A job takes up to " + std::to_string(design::kMostSources) +
                                              " words, figures and drawings over its life; begin a new job."};
    source.at = placeFor(job, source);
    Noted out{std::move(job), source.said};
    if (const auto* drawing = std::get_if<Drawing>(&source.recipe)) {
        if (!out.note.empty())
            out.note = "In the drawing: " + out.note + ". ";
        if (!drawing->isSettled)
            out.note += sizeQuestion(*drawing);
    }
    out.job.nextSource = source.number + 1;
    out.job.sources.push_back(std::make_shared<const Source>(std::move(source)));
    auto ready = reshaped(std::move(out.job), progress);
    if (!ready)
        return ready.error();
    out.job = ready.take();
    return out;
}

/// Puts a changed source in the old one's place.
base::Result<Noted> changed(const Job& job, Source source, const base::Progress& progress) {
    Job out = job;
    for (auto& one : out.sources)
        if (one->number == source.number) {
            source.at = one->at;
            source.stockId = one->stockId;
            source.origin = one->origin;
            const std::string note = source.said;
            one = std::make_shared<const Source>(std::move(source));
            auto ready = reshaped(std::move(out), progress);
            if (!ready)
                return ready.error();
            return Noted{ready.take(), note};
        }
    return notThere();
}

template <class Kind>
const Kind* recipeOf(const Job& job, int number) {
    const Source* source = findSource(job, number);
    return source ? std::get_if<Kind>(&source->recipe) : nullptr;
}

const geometry::Shape* shapeOf(const Job& job, design::PieceId id) {
    const design::Piece* piece = job.stack ? design::findPiece(*job.stack, id) : nullptr;
    return piece ? piece->shape.get() : nullptr;
}

} // namespace

const Source* findSource(const Job& job, int number) {
    for (const auto& source : job.sources)
        if (source->number == number)
            return source.get();
    return nullptr;
}

std::vector<design::PieceId> groupOf(const Job& job, design::PieceId piece) {
    const Source* source = findSource(job, design::sourceOf(piece));
    const auto own = [&](const SourcePiece& one) { return one.id == piece; };
    if (!source || !job.stack)
        return {piece};
    const auto at = std::find_if(source->pieces.begin(), source->pieces.end(), own);
    if (at == source->pieces.end())
        return {piece};
    std::vector<design::PieceId> out;
    for (const SourcePiece& one : source->pieces)
        if (one.layer == at->layer && design::findPiece(*job.stack, one.id))
            out.push_back(one.id);
    return out;
}

base::Result<Noted> openDrawing(const Job& before, const base::Bytes& file, const std::string& fileName,
                                const Catalogue& catalogue, const base::FontStore& fonts,
                                const base::Progress& progress) {
    Job job;
    const auto dot = fileName.rfind('.');
    job.name = dot == std::string::npos || dot == 0 ? fileName : fileName.substr(0, dot);
    job.unit = before.unit;
    job.layers = before.layers;
    job.stocks = before.stocks;
    job.plan = before.plan;
    job.plan.pins.clear();
    return withDrawing(job, file, fileName, catalogue, fonts, progress);
}

base::Result<Noted> withDrawing(const Job& job, const base::Bytes& file, const std::string& fileName,
                                const Catalogue& catalogue, const base::FontStore& fonts,
                                const base::Progress& progress) {
    auto source = drawingFrom(file, fileName, job.nextSource, {}, fonts, progress.part(0, 0.8));
    if (!source)
        return source.error();
    Source made = source.take();
    made.stockId = catalogue.plainStockId;
    Job out = job;
    paintByColour(out, made, catalogue.plainStockId);
    return added(std::move(out), std::move(made), progress.part(0.8, 1));
}

base::Result<Noted> withWord(const Job& job, const lettering::Recipe& recipe, const std::string& stockId,
                             const base::FontStore& fonts, const base::Progress& progress) {
    auto source = wordOf(recipe, job.nextSource, fonts, progress);
    if (!source)
        return source.error();
    Source made = source.take();
    made.stockId = stockId;
    return added(job, std::move(made), progress);
}

base::Result<Noted> withFigure(const Job& job, const construct::Recipe& recipe, const std::string& stockId,
                               const base::Progress& progress) {
    auto source = figureOf(recipe, job.nextSource);
    if (!source)
        return source.error();
    Source made = source.take();
    made.stockId = stockId;
    return added(job, std::move(made), progress);
}

base::Result<Noted> withWordChanged(const Job& job, int source, const lettering::Recipe& recipe,
                                    const base::FontStore& fonts, const base::Progress& progress) {
    if (!recipeOf<lettering::Recipe>(job, source))
        return notThere();
    auto made = wordOf(recipe, source, fonts, progress);
    if (!made)
        return made.error();
    return changed(job, made.take(), progress);
}

base::Result<Noted> withFigureChanged(const Job& job, int source, const construct::Recipe& recipe,
                                      const base::Progress& progress) {
    if (!recipeOf<construct::Recipe>(job, source))
        return notThere();
    auto made = figureOf(recipe, source);
    if (!made)
        return made.error();
    return changed(job, made.take(), progress);
}

base::Result<Noted> withDrawingTaken(const Job& job, int source, const design::TakeOptions& take,
                                     const base::FontStore& fonts, const base::Progress& progress) {
    const Drawing* before = recipeOf<Drawing>(job, source);
    if (!before)
        return notThere();
    Source made = *findSource(job, source);
    const bool isOtherPage = take.page != before->take.page;
    if (isOtherPage || take.appliesClips != before->take.appliesClips ||
        take.strokesAsAreas != before->take.strokesAsAreas) {
        auto anew = drawingFrom(before->file->bytes, before->file->fileName, source, take, fonts,
                                progress.part(0, 0.8));
        if (!anew)
            return anew.error();
        made.pieces = anew->pieces;
        made.said = anew->said;
        if (isOtherPage) { // another size, other layers
            Drawing now = std::get<Drawing>(anew->recipe);
            now.scale = before->scale;
            made.recipe = std::move(now);
        }
        for (SourcePiece& piece : made.pieces)
            piece.shape = trace::keptShape(
                geometry::transformed(piece.shape, geometry::Transform::scale(before->scale, before->scale)));
    }
    std::get<Drawing>(made.recipe).take = take;
    if (made.box().isEmpty())
        return Error{Code::InvalidArgument,
                     "Nothing of " + made.name() + " would be left; keep a layer, or take the drawing out."};
    Job out = job;
    Job painted = job;
    paintByColour(painted, made, made.stockId);
    for (const SourcePiece& piece : made.pieces)
        out.paint.try_emplace(piece.id, painted.paint[piece.id]); // what is painted already stays
    out.stocks = painted.stocks;
    auto result = changed(out, std::move(made), progress.part(0.8, 1));
    if (!result)
        return result.error();
    return Noted{result.take().job, ""};
}

base::Result<Job> withDrawingWidth(const Job& job, int source, double pageWidthMm,
                                   const base::Progress& progress) {
    const Drawing* before = recipeOf<Drawing>(job, source);
    if (!before)
        return notThere();
    if (!(pageWidthMm >= 1 && pageWidthMm <= 10'000))
        return Error{Code::InvalidArgument, "A drawing can be 1 mm to 10 m wide."};
    Source made = *findSource(job, source);
    auto& drawing = std::get<Drawing>(made.recipe);
    const double scale = pageWidthMm / drawing.pageWidthMm, by = scale / drawing.scale;
    drawing.scale = scale;
    drawing.isSettled = true;
    for (SourcePiece& piece : made.pieces)
        piece.shape =
            trace::keptShape(geometry::transformed(piece.shape, geometry::Transform::scale(by, by)));
    auto result = changed(job, std::move(made), progress);
    if (!result)
        return result.error();
    return std::move(result.take().job);
}

base::Result<Job> withSourceAt(const Job& job, int source, geometry::Point atMm,
                               const base::Progress& progress) {
    Job out = job;
    for (auto& one : out.sources)
        if (one->number == source) {
            Source moved = *one;
            moved.at = {atMm.x / job.scaleX, atMm.y / job.scaleY};
            one = std::make_shared<const Source>(std::move(moved));
            return reshaped(std::move(out), progress);
        }
    return notThere();
}

Job paintedSource(const Job& job, int source, const std::string& stockId) {
    if (!design::findStock(job.stocks, stockId))
        return job;
    Job out = job;
    std::vector<design::PieceId> pieces;
    for (auto& one : out.sources)
        if (one->number == source) {
            Source changed = *one;
            changed.stockId = stockId;
            for (const SourcePiece& piece : changed.pieces)
                pieces.push_back(piece.id);
            one = std::make_shared<const Source>(std::move(changed));
        }
    // Numbers a shorter word has given up are forgotten, so that they take the new stock when they come
    // again.
    std::erase_if(out.paint, [&](const auto& entry) {
        return design::sourceOf(entry.first) == source &&
               std::find(pieces.begin(), pieces.end(), entry.first) == pieces.end();
    });
    return painted(out, pieces, stockId);
}

base::Result<Job> withoutSource(const Job& job, int source, const base::Progress& progress) {
    if (!findSource(job, source))
        return notThere();
    Job out = job;
    std::erase_if(out.sources, [&](const auto& one) { return one->number == source; });
    std::erase_if(out.paint, [&](const auto& entry) { return design::sourceOf(entry.first) == source; });
    std::erase_if(out.copies, [&](const auto& entry) { return design::sourceOf(entry.first) == source; });
    return reshaped(std::move(out), progress);
}

Job withOrigin(const Job& job, int source, const Origin& origin) {
    Job out = job;
    if (source == 0)
        out.origin = origin;
    for (auto& one : out.sources)
        if (one->number == source) {
            Source noted = *one;
            noted.origin = origin;
            one = std::make_shared<const Source>(std::move(noted));
        }
    return out;
}

OriginSummary originsOf(const Job& job) {
    OriginSummary out;
    bool isAny = false;
    const auto rank = [](Licence l) {
        return l == Licence::Unknown ? 0 : l == Licence::FreeForOwnUse ? 1 : l == Licence::MaySell ? 2 : 3;
    };
    const auto take = [&](const std::string& what, const Origin& origin) {
        out.lines.push_back(what + (origin.from.empty() ? "" : ", from " + origin.from) + ": " +
                            licenceText(origin.licence));
        if (!isAny || rank(origin.licence) < rank(out.strictest))
            out.strictest = origin.licence;
        isAny = true;
    };
    if (job.artwork)
        take(job.artwork->fileName, job.origin);
    for (const auto& source : job.sources)
        if (std::holds_alternative<Drawing>(source->recipe))
            take(source->name(), source->origin);
    if (!isAny)
        out.strictest = Licence::Own; // words and figures are the maker's own
    return out;
}

base::Result<Job> withSet(const Job& job, const std::string& name,
                          const std::vector<design::PieceId>& pieces) {
    if (pieces.size() < 2)
        return Error{Code::InvalidArgument, "Choose two pieces or more to keep at one scale."};
    for (design::PieceId id : pieces)
        if (!shapeOf(job, id))
            return notThere();
    Job out = job;
    for (design::PieceSet& set : out.sets)
        std::erase_if(set.pieces, [&](design::PieceId id) {
            return std::find(pieces.begin(), pieces.end(), id) != pieces.end();
        });
    std::erase_if(out.sets, [](const design::PieceSet& set) { return set.pieces.size() < 2; });
    out.sets.push_back({name.empty() ? "set " + std::to_string(out.sets.size() + 1) : name, pieces});
    return out;
}

Job withoutSet(const Job& job, size_t set) {
    Job out = job;
    if (set < out.sets.size())
        out.sets.erase(out.sets.begin() + static_cast<std::ptrdiff_t>(set));
    return out;
}

base::Result<Job> withFit(const Job& job, const design::Fit& fit) {
    const geometry::Shape* outer = shapeOf(job, fit.outer);
    if (!shapeOf(job, fit.inner) || !outer)
        return notThere();
    if (fit.inner == fit.outer)
        return Error{Code::InvalidArgument, "A piece cannot go into itself; choose another."};
    if (!(fit.clearanceMm >= 0 && fit.clearanceMm <= 20))
        return Error{Code::InvalidArgument, "The clearance goes from 0 to 20 mm."};
    if (fit.kind == design::FitKind::IntoOpening && !design::openingAt(*outer, fit.openingAt))
        return Error{Code::NotFound, "There is no opening at that place; click inside one."};
    Job out = job;
    out.fits.push_back(fit);
    return out;
}

Job withoutFit(const Job& job, size_t fit) {
    Job out = job;
    if (fit < out.fits.size())
        out.fits.erase(out.fits.begin() + static_cast<std::ptrdiff_t>(fit));
    return out;
}

Job withPiecesFree(const Job& job, const std::vector<design::PieceId>& pieces, bool areFree) {
    Job out = job;
    for (design::PieceId id : pieces)
        if (areFree)
            out.freePieces.insert(id);
        else
            out.freePieces.erase(id);
    return out;
}

base::Result<design::FitState> fitStateOf(const Job& job, const design::Fit& fit,
                                          const base::Progress& progress) {
    const geometry::Shape* inner = shapeOf(job, fit.inner);
    const geometry::Shape* outer = shapeOf(job, fit.outer);
    if (!inner || !outer)
        return design::FitState{};
    return design::checkFit(*inner, *outer, fit, design::thicknessOf(*job.stack, fit.inner), progress);
}

base::Result<Job> withFitMade(const Job& job, size_t fit, const base::Progress& progress) {
    if (fit >= job.fits.size())
        return notThere();
    const auto state = fitStateOf(job, job.fits[fit], progress);
    if (!state)
        return state.error();
    if (!state->isThere)
        return notThere();
    if (!(state->rightScale > 1e-3))
        return Error{
            Code::Degenerate,
            "With this clearance nothing is left of the opening; take less clearance or a larger opening."};
    const double percent = state->rightScale * 100 * (1 - 2e-5); // on the safe side of what was found
    return withShapeStep(job, {shape::Action::SizeAlone, {job.fits[fit].inner}, {percent, percent}},
                         progress);
}

} // namespace thinline::document
