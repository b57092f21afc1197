// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Job.h"

#include "formats/image/ImageFile.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/PolygonEngine.h"
#include "trace/Outlined.h"

#include <algorithm>
#include <cmath>

namespace thinline::document {
namespace {

using base::Code;
using base::Error;

/// Derives the stack from shapes, paint and layer settings, and takes new layers into the settings. What lay
/// on sheets must be laid anew.
void restack(Job& job) {
    if (!job.shapes)
        return;
    auto stack = std::make_shared<design::Stack>(
        trace::buildStack(*job.shapes, job.stocks, job.paint, job.copies, job.layers));
    for (const design::Layer& layer : stack->layers) {
        const bool isKnown =
            std::any_of(job.layers.begin(), job.layers.end(), [&](const trace::LayerSetting& s) {
                return s.role == layer.role &&
                       (s.role == design::LayerRole::Backing || s.stockId == layer.stockId);
            });
        if (!isKnown)
            job.layers.push_back({layer.role, layer.stockId, layer.liftMm, layer.isHidden});
    }
    job.stack = std::move(stack);
    job.arrangement = nullptr;
}

/// Takes the pieces after the shape steps into the job: what was made shares its origin's stock until it is
/// painted itself.
void takeShaped(Job& job, shape::Work work, const std::vector<design::PieceId>& vanished) {
    auto shapes = std::make_shared<trace::SizedShapes>();
    shapes->vanished = vanished;
    for (const shape::Item& item : work.items)
        (item.isBacking ? shapes->backing : shapes->areas).push_back(item.piece);
    for (const auto* items : {&work.items, &work.scrap})
        for (const shape::Item& item : *items)
            if (const auto origin = job.paint.find(item.stockOf);
                !item.isBacking && origin != job.paint.end())
                job.paint.try_emplace(item.piece.id, origin->second);
    job.shaped = std::make_shared<const shape::Work>(std::move(work));
    job.shapes = std::move(shapes);
    restack(job);
}

base::Result<Job> reshaped(Job job, const base::Progress& progress) {
    if (!job.tracing)
        return job;
    auto shapes = trace::sizeShapes(*job.tracing, sizingOf(job), progress.part(0, 0.5));
    if (!shapes)
        return shapes.error();
    shape::Work work;
    for (const design::Piece& piece : shapes->backing)
        work.items.push_back({piece, true, piece.id});
    for (const design::Piece& piece : shapes->areas)
        work.items.push_back({piece, false, piece.id});
    auto replayed = shape::replay(work, job.shapeSteps, progress.part(0.5, 1));
    if (!replayed)
        return replayed.error();
    job.passedOver = replayed->passedOver;
    takeShaped(job, replayed.take().work, shapes->vanished);
    return job;
}

/// The settings index of the stack's n-th layer: settings may name layers that have no pieces now.
std::optional<size_t> settingOf(const Job& job, size_t layer) {
    if (!job.stack || layer >= job.stack->layers.size())
        return std::nullopt;
    const design::Layer& wanted = job.stack->layers[layer];
    for (size_t i = 0; i < job.layers.size(); ++i)
        if (job.layers[i].role == wanted.role &&
            (wanted.role == design::LayerRole::Backing || job.layers[i].stockId == wanted.stockId))
            return i;
    return std::nullopt;
}

std::string withoutEnding(const std::string& fileName) {
    const auto dot = fileName.rfind('.');
    return dot == std::string::npos || dot == 0 ? fileName : fileName.substr(0, dot);
}

} // namespace

Job newJob(const Catalogue& catalogue) {
    Job job;
    job.stocks = catalogue.drawer;
    job.layers.push_back({design::LayerRole::Backing, catalogue.backingStockId, 0, false});
    job.plan.matId = catalogue.defaultMatId;
    job.plan.sheetId = catalogue.defaultSheetId;
    return job;
}

trace::Sizing sizingOf(const Job& job) {
    const double aspect = job.artwork ? job.artwork->pixelAspect : 1;
    const double mmPerPx =
        job.artwork && job.artwork->widthPx > 0 ? job.pictureWidthMm / job.artwork->widthPx : 0;
    return {mmPerPx, job.scaleX, job.scaleY * aspect, job.clearanceMm};
}

geometry::Box designBox(const Job& job) {
    geometry::Box box;
    if (job.shapes)
        for (const design::Piece& piece :
             job.shapes->backing.empty() ? job.shapes->areas : job.shapes->backing)
            box.include(geometry::bounds(*piece.shape));
    return box;
}

base::Result<sheets::ArrangeOptions> arrangeOptions(const Job& job, const design::Formats& formats) {
    const design::MatFormat* mat = formats.mat(job.plan.matId);
    const design::SheetFormat* sheet =
        job.plan.sheetId == "own" ? &job.plan.ownSheet : formats.sheet(job.plan.sheetId);
    if (!mat || !sheet)
        return Error{Code::NotFound, "There is no " + std::string(mat ? "sheet" : "mat") + " called '" +
                                         (mat ? job.plan.sheetId : job.plan.matId) +
                                         "'; choose one from the list."};
    return sheets::ArrangeOptions{*mat, *sheet, job.plan.spacingMm, job.plan.mayTurn, job.plan.pins};
}

base::Result<OpenedPicture> openPicture(const Job& before, const base::Bytes& file,
                                        const std::string& fileName) {
    auto decoded = formats::image::decode(file);
    if (!decoded)
        return Error{decoded.error().code, fileName + ": " + decoded.error().message};
    constexpr double kUnstatedWidthMm =
        200; // about a sheet of letter or A4: a guess the person sees and changes
    OpenedPicture out;
    out.job.name = withoutEnding(fileName);
    out.job.unit = before.unit;
    out.job.stocks = before.stocks;
    out.job.layers = before.layers;
    out.job.plan = before.plan;
    out.job.plan.pins.clear();
    auto artwork = std::make_shared<Artwork>();
    artwork->fileName = fileName;
    artwork->mediaType = decoded->mediaType;
    artwork->bytes = file;
    artwork->widthPx = decoded->picture.width;
    artwork->heightPx = decoded->picture.height;
    if (decoded->dpiX && decoded->dpiY) {
        artwork->pixelAspect = *decoded->dpiX / *decoded->dpiY;
        out.job.pictureWidthMm = decoded->picture.width / *decoded->dpiX * base::kMmPerInch;
    }
    // A tag may be believable and the size it yields still not: a photo of 10,000 px at 72 per inch is 3.5 m
    // wide.
    constexpr double kMostMm = 2000, kLeastMm = 5;
    const double widthMm = out.job.pictureWidthMm, heightMm = widthMm * artwork->heightPx / artwork->widthPx;
    const bool isBelievable = widthMm >= kLeastMm && widthMm <= kMostMm && heightMm <= kMostMm;
    if (!isBelievable) {
        out.note = widthMm > 0 || decoded->hadAbsurdDpi ? "The picture states a size that cannot be meant. "
                                                        : "The picture does not state its size. ";
        out.note += "I took 200 mm for its width; type the real one.";
        out.job.pictureWidthMm = kUnstatedWidthMm;
    }
    out.job.artwork = std::move(artwork);
    out.picture = std::make_shared<const raster::Picture>(std::move(decoded.take().picture));
    return out;
}

bool looksLikeSvg(const base::Bytes& file) {
    // The first sign of a tag within the head of the file, also in UTF-16.
    std::string head;
    for (size_t i = 0; i < std::min<size_t>(file.size(), 4096); ++i)
        if (file[i] != 0)
            head += static_cast<char>(file[i]);
    const auto tag = head.find('<');
    return tag != std::string::npos && tag < 8 &&
           (head.find("svg") != std::string::npos || head.find("<?xml") == tag);
}

base::Result<OpenedDrawing> openDrawing(const Job& before, const base::Bytes& file,
                                        const std::string& fileName, const Catalogue& catalogue,
                                        const base::Progress& progress) {
    const auto told = [&](const Error& error) { return Error{error.code, fileName + ": " + error.message}; };
    auto svg = formats::svg::readSvg({reinterpret_cast<const char*>(file.data()), file.size()}, {}, progress);
    if (!svg)
        return told(svg.error());
    std::vector<trace::OutlinedPiece> pieces;
    size_t done = 0;
    for (const formats::svg::SvgItem& item : svg->items) {
        const double at = 0.2 + 0.8 * static_cast<double>(done++) / static_cast<double>(svg->items.size());
        progress.report(at, "Cleaning the outlines");
        auto shapes = geometry::areasOf(item.contours, item.rule, progress.part(at, at));
        if (!shapes)
            return told(shapes.error());
        for (geometry::Shape& shape : shapes.take())
            pieces.push_back({std::move(shape), item.fill ? item.fill : item.stroke});
    }
    auto tracing = trace::tracingOfOutlines(svg->widthMm, svg->heightMm, pieces);
    if (!tracing)
        return told(tracing.error());
    OpenedDrawing out;
    Job& job = out.job;
    job.name = withoutEnding(fileName);
    job.unit = before.unit;
    job.layers = before.layers;
    job.plan = before.plan;
    job.plan.pins.clear();
    auto artwork = std::make_shared<Artwork>();
    artwork->fileName = fileName;
    artwork->mediaType = kSvgType;
    artwork->bytes = file;
    artwork->widthPx = tracing->widthPx;
    artwork->heightPx = tracing->heightPx;
    job.artwork = std::move(artwork);
    job.pictureWidthMm = svg->widthMm;
    const trace::PaintProposal proposal =
        trace::proposePaint(*tracing, before.stocks, {}, catalogue.plainStockId);
    job.stocks = proposal.stocks;
    job.paint = proposal.paint;
    job.tracing = std::make_shared<const trace::Tracing>(tracing.take());
    for (const std::string& said : svg->said)
        out.note += (out.note.empty() ? "" : "; ") + said;
    if (!out.note.empty())
        out.note = "In the drawing: " + out.note + ". ";
    if (svg->stated != formats::svg::StatedSize::Real) {
        job.guessedWidthMm = svg->widthMm;
        out.note += "The file states no real size; I took 96 units to the inch. Settle it at Source.";
    }
    auto ready = reshaped(std::move(job), progress);
    if (!ready)
        return told(ready.error());
    out.job = ready.take();
    return out;
}

std::vector<UnitGuess> unitGuesses(const Job& job) {
    std::vector<UnitGuess> guesses;
    if (!job.artwork || !job.artwork->isOutlines() || !(job.guessedWidthMm > 0))
        return guesses;
    for (int perInch : {96, 90, 72}) {
        const double widthMm = job.guessedWidthMm * 96 / perInch;
        guesses.push_back({perInch, widthMm, widthMm * job.artwork->heightPx / job.artwork->widthPx});
    }
    return guesses;
}

base::Result<std::shared_ptr<const raster::Picture>> pictureOf(const Job& job) {
    if (job.artwork && job.artwork->isOutlines())
        return Error{Code::Unsupported, "This job came as outlines; there is no picture to trace."};
    if (!job.artwork)
        return Error{Code::NotFound, "This job has no picture yet; open one at Source."};
    auto decoded = formats::image::decode(job.artwork->bytes);
    if (!decoded)
        return Error{decoded.error().code, job.artwork->fileName + ": " + decoded.error().message};
    return std::make_shared<const raster::Picture>(std::move(decoded.take().picture));
}

base::Result<Job> withPictureWidth(const Job& job, double widthMm, const base::Progress& progress) {
    Job out = job;
    out.pictureWidthMm = widthMm;
    return reshaped(std::move(out), progress);
}

base::Result<Job> traced(const Job& job, const raster::Picture& picture,
                         const trace::LineDrawingRecipe& recipe, const Catalogue& catalogue,
                         const base::Progress& progress) {
    auto tracing = trace::traceLineDrawing(picture, sizingOf(job).mmPerPx, recipe, progress.part(0, 0.9));
    if (!tracing)
        return tracing.error();
    trace::Tracing found = tracing.take();
    if (job.tracing)
        trace::carryIds(*job.tracing, found);
    Job out = job;
    out.recipe = recipe;
    const trace::PaintProposal proposal =
        trace::proposePaint(found, job.stocks, job.paint, catalogue.plainStockId);
    out.stocks = proposal.stocks;
    out.paint = proposal.paint;
    for (const auto& [id, stock] : job.paint)
        if (id > design::kLastFound)
            out.paint.emplace(id, stock); // pieces made at Shape keep what was laid on them
    out.tracing = std::make_shared<const trace::Tracing>(std::move(found));
    return reshaped(std::move(out), progress.part(0.9, 1));
}

base::Result<Job> withClearance(const Job& job, double clearanceMm, const base::Progress& progress) {
    if (!(clearanceMm >= 0) || clearanceMm > 10)
        return Error{Code::InvalidArgument, "The room between pieces goes from 0 to 10 mm."};
    Job out = job;
    out.clearanceMm = clearanceMm;
    return reshaped(std::move(out), progress);
}

base::Result<Job> resized(const Job& job, double widthMm, double heightMm, const base::Progress& progress) {
    if (!job.stack)
        return Error{Code::InvalidArgument, "There is nothing to size yet; trace a picture first."};
    constexpr double kMostMm = 2 * geometry::kLargestReachMm; // the reach of the polygon engine
    if (!(widthMm >= 1) || !(heightMm >= 1) || widthMm > kMostMm || heightMm > kMostMm)
        return Error{Code::InvalidArgument,
                     "A design can be 1 mm to 2000 mm wide and high; this would be " +
                         base::formatSize(widthMm, heightMm, base::LengthUnit::Millimetre) + "."};
    Job out = job;
    // Steps with lengths of their own (an offset) do not scale along, so the size is met by a few
    // corrections.
    constexpr int kRounds = 8;
    constexpr double kExactMm = 1e-6;
    for (int round = 0; round < kRounds; ++round) {
        const geometry::Box box = designBox(out);
        if (box.isEmpty() || !(box.width() > 0) || !(box.height() > 0))
            return Error{Code::InvalidArgument,
                         "Nothing would be left at that size; see the steps at Shape."};
        if (std::abs(box.width() - widthMm) < kExactMm && std::abs(box.height() - heightMm) < kExactMm)
            break;
        out.scaleX *= widthMm / box.width();
        out.scaleY *= heightMm / box.height();
        auto next = reshaped(std::move(out), progress);
        if (!next)
            return next.error();
        out = next.take();
        if (job.shapeSteps.empty())
            break;
    }
    return out;
}

base::Result<Job> scaled(const Job& job, double factor, const base::Progress& progress) {
    const geometry::Box box = designBox(job);
    return resized(job, box.width() * factor, box.height() * factor, progress);
}

base::Result<Job> withShapeStep(const Job& job, const shape::Step& step, const base::Progress& progress) {
    if (!job.shaped)
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    auto outcome = shape::apply(*job.shaped, step, progress);
    if (!outcome)
        return outcome.error();
    Job out = job;
    out.shapeSteps.push_back(step);
    takeShaped(out, outcome.take().work, job.shapes->vanished);
    return out;
}

base::Result<Job> withShapeSteps(const Job& job, std::vector<shape::Step> steps,
                                 const base::Progress& progress) {
    Job out = job;
    out.shapeSteps = std::move(steps);
    return reshaped(std::move(out), progress);
}

Job painted(const Job& job, const std::vector<design::PieceId>& areas, const std::string& stockId) {
    Job out = job;
    if (!design::findStock(job.stocks, stockId))
        return out;
    for (design::PieceId id : areas)
        if (const auto at = out.paint.find(id); at != out.paint.end())
            at->second = stockId;
    restack(out);
    return out;
}

base::Result<Job> withCopies(const Job& job, design::PieceId piece, int copies) {
    if (copies < 1 || copies > 999)
        return Error{Code::InvalidArgument, "Copies go from 1 to 999."};
    if (!job.stack || !design::findPiece(*job.stack, piece))
        return Error{Code::NotFound, "That piece is not there any more."};
    Job out = job;
    if (copies == 1)
        out.copies.erase(piece);
    else
        out.copies[piece] = copies;
    restack(out);
    return out;
}

Job withLayerMoved(const Job& job, size_t from, size_t to) {
    Job out = job;
    const auto a = settingOf(job, from), b = settingOf(job, to);
    if (!a || !b)
        return out;
    const trace::LayerSetting moved = out.layers[*a];
    out.layers.erase(out.layers.begin() + static_cast<std::ptrdiff_t>(*a));
    out.layers.insert(out.layers.begin() + static_cast<std::ptrdiff_t>(*b), moved);
    restack(out);
    return out;
}

Job withLayerHidden(const Job& job, size_t layer, bool isHidden) {
    Job out = job;
    if (const auto setting = settingOf(job, layer)) {
        out.layers[*setting].isHidden = isHidden;
        restack(out);
    }
    return out;
}

Job withLayerLift(const Job& job, size_t layer, double liftMm) {
    Job out = job;
    const auto setting = settingOf(job, layer);
    if (setting && liftMm >= 0 && liftMm <= 50) {
        out.layers[*setting].liftMm = liftMm;
        restack(out);
    }
    return out;
}

Job withLayerStock(const Job& job, size_t layer, const std::string& stockId) {
    Job out = job;
    const auto setting = settingOf(job, layer);
    if (!setting || !design::findStock(job.stocks, stockId))
        return out;
    const trace::LayerSetting before = out.layers[*setting];
    if (before.role == design::LayerRole::Backing) {
        out.layers[*setting].stockId = stockId;
    } else {
        for (auto& [id, stock] : out.paint)
            if (stock == before.stockId)
                stock = stockId;
        const bool isTaken =
            std::any_of(out.layers.begin(), out.layers.end(), [&](const trace::LayerSetting& s) {
                return s.role == design::LayerRole::Areas && s.stockId == stockId;
            });
        if (isTaken)
            out.layers.erase(out.layers.begin() + static_cast<std::ptrdiff_t>(*setting));
        else
            out.layers[*setting].stockId = stockId;
    }
    restack(out);
    return out;
}

Job withPlan(const Job& job, const SheetPlan& plan) {
    Job out = job;
    const bool movesSheets = plan.matId != job.plan.matId || plan.sheetId != job.plan.sheetId ||
                             !(plan.ownSheet == job.plan.ownSheet);
    out.plan = plan;
    if (movesSheets)
        out.plan.pins.clear(); // they were measured on other sheets
    out.arrangement = nullptr;
    return out;
}

base::Result<Job> arranged(const Job& job, const design::Formats& formats, const base::Progress& progress) {
    if (!job.stack)
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    auto options = arrangeOptions(job, formats);
    if (!options)
        return options.error();
    auto arrangement = sheets::arrange(*job.stack, *options, progress);
    if (!arrangement)
        return arrangement.error();
    Job out = job;
    out.arrangement = std::make_shared<const design::Arrangement>(arrangement.take());
    return out;
}

base::Result<Job> pinnedAt(const Job& job, const design::CopyOf& what, size_t load, double xMm, double yMm,
                           int quarterTurns, const design::Formats& formats, const base::Progress& progress) {
    if (!job.arrangement || load >= job.arrangement->loads.size())
        return Error{Code::NotFound, "That load is not there any more."};
    const design::Load& target = job.arrangement->loads[load];
    std::string stockId;
    for (const design::Layer& layer : job.stack->layers)
        for (const design::Piece& piece : layer.pieces)
            if (piece.id == what.piece)
                stockId = layer.stockId;
    // The sheet of the piece's stock that lies nearest to where the piece was dropped.
    std::optional<size_t> nearest;
    double least = 0;
    for (size_t i = 0; i < target.sheets.size(); ++i) {
        const design::PlacedSheet& sheet = target.sheets[i];
        if (sheet.stockId != stockId)
            continue;
        const double away =
            geometry::distance({xMm, yMm}, {std::clamp(xMm, sheet.xMm, sheet.xMm + sheet.widthMm),
                                            std::clamp(yMm, sheet.yMm, sheet.yMm + sheet.heightMm)});
        if (!nearest || away < least) {
            nearest = i;
            least = away;
        }
    }
    if (!nearest)
        return Error{Code::InvalidArgument, "This load holds no " + design::stockName(job.stocks, stockId) +
                                                "; drop the piece on a sheet of its own stock."};
    const design::PlacedSheet& sheet = target.sheets[*nearest];
    Job out = job;
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) { return pin.what == what; });
    out.plan.pins.push_back({what, sheets::sheetOfStock(*job.arrangement, load, *nearest), xMm - sheet.xMm,
                             yMm - sheet.yMm, quarterTurns});
    return arranged(out, formats, progress);
}

base::Result<Job> unpinned(const Job& job, const design::CopyOf& what, const design::Formats& formats,
                           const base::Progress& progress) {
    Job out = job;
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) { return pin.what == what; });
    return arranged(out, formats, progress);
}

} // namespace thinline::document
