// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Job.h"

#include "document/Reshape.h"
#include "formats/image/ImageFile.h"
#include "formats/pdf/ReadPdf.h"
#include "geometry/PolygonEngine.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::document {
namespace {

using base::Code;
using base::Error;

/// The settings index of the stack's n-th layer: settings may name layers that have no pieces now.
std::optional<size_t> settingOf(const Job& job, size_t layer) {
    if (!job.stack || layer >= job.stack->layers.size())
        return std::nullopt;
    const design::Layer& wanted = job.stack->layers[layer];
    for (size_t i = 0; i < job.layers.size(); ++i)
        if (job.layers[i].role == wanted.role &&
            (wanted.role != design::LayerRole::Areas || job.layers[i].stockId == wanted.stockId))
            return i;
    return std::nullopt;
}

/// How the job's pieces lie on one another: by the order of its layers.
trace::Laying layingOf(const Job& job) {
    trace::Laying out{job.recipe.build, job.recipe.stacking, job.recipe.tuckMm, {}};
    if (job.recipe.mode != trace::Mode::LineDrawing)
        out.build = trace::Build::AreasOnBacking;
    if (job.recipe.mode == trace::Mode::FlatArt && out.stacking == trace::Stacking::Stacked)
        for (const auto& [id, stock] : job.paint)
            for (size_t i = 0; i < job.layers.size(); ++i)
                if (job.layers[i].role == design::LayerRole::Areas && job.layers[i].stockId == stock)
                    out.place[id] = static_cast<int>(i);
    return out;
}

std::string withoutEnding(const std::string& fileName) {
    const auto dot = fileName.rfind('.');
    return dot == std::string::npos || dot == 0 ? fileName : fileName.substr(0, dot);
}

} // namespace

void restack(Job& job) {
    if (!job.shapes)
        return;
    auto stack = std::make_shared<design::Stack>(
        trace::buildStack(*job.shapes, job.stocks, job.paint, job.copies, job.layers));
    for (const design::Layer& layer : stack->layers) {
        const bool isKnown =
            std::any_of(job.layers.begin(), job.layers.end(), [&](const trace::LayerSetting& s) {
                return s.role == layer.role &&
                       (s.role != design::LayerRole::Areas || s.stockId == layer.stockId);
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
    shapes->ground =
        layingOf(job).build == trace::Build::InkOnTop ? design::LayerRole::Ink : design::LayerRole::Backing;
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
    shape::Work work;
    work.scaleX = job.scaleX;
    work.scaleY = job.scaleY;
    std::vector<design::PieceId> vanished;
    if (job.tracing) {
        auto shapes = trace::sizeShapes(*job.tracing, sizingOf(job), layingOf(job), progress.part(0, 0.5));
        if (!shapes)
            return shapes.error();
        for (const design::Piece& piece : shapes->backing)
            work.items.push_back({piece, true, piece.id});
        for (const design::Piece& piece : shapes->areas)
            work.items.push_back({piece, false, piece.id});
        vanished = shapes->vanished;
    }
    for (const auto& source : job.sources) {
        const auto map =
            geometry::Transform::move(source->at).then(geometry::Transform::scale(job.scaleX, job.scaleY));
        for (const SourcePiece& piece : source->pieces) {
            if (!source->takes(piece))
                continue;
            job.paint.try_emplace(piece.id, source->stockId);
            auto shape = std::make_shared<const geometry::Shape>(geometry::transformed(piece.shape, map));
            work.items.push_back({{piece.id, std::move(shape), 1, piece.name}, false, piece.id});
        }
    }
    if (work.items.empty() && job.shapeSteps.empty()) {
        job.shaped = nullptr;
        job.shapes = nullptr;
        job.stack = nullptr;
        job.arrangement = nullptr;
        return job;
    }
    auto replayed = shape::replay(work, job.shapeSteps, progress.part(0.5, 1));
    if (!replayed)
        return replayed.error();
    job.passedOver = replayed->passedOver;
    takeShaped(job, replayed.take().work, vanished);
    return job;
}

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
        for (const auto* pieces : {&job.shapes->backing, &job.shapes->areas})
            for (const design::Piece& piece : *pieces)
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
    base::Bytes pixels = file;
    double statedWidthMm = 0;
    if (kindOf(file) == FileKind::Pdf) { // a scanned page: its picture, as large as the page
        constexpr double kScanDpi = 300;
        const auto facts = formats::pdf::factsOf(file);
        auto png = formats::pdf::pageAsPng(file, 0, kScanDpi);
        if (!facts || !png)
            return Error{(facts ? png.error() : facts.error()).code,
                         fileName + ": " + (facts ? png.error() : facts.error()).message};
        pixels = png.take();
        statedWidthMm = facts->widthMm;
    }
    auto decoded = formats::image::decode(pixels);
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
    artwork->bytes = std::move(pixels);
    artwork->widthPx = decoded->picture.width;
    artwork->heightPx = decoded->picture.height;
    if (decoded->dpiX && decoded->dpiY) {
        artwork->pixelAspect = *decoded->dpiX / *decoded->dpiY;
        out.job.pictureWidthMm = decoded->picture.width / *decoded->dpiX * base::kMmPerInch;
    }
    if (statedWidthMm > 0)
        out.job.pictureWidthMm = statedWidthMm;
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
    out.job.recipe.mode = trace::proposedMode(*out.picture);
    return out;
}

base::Result<std::shared_ptr<const raster::Picture>> pictureOf(const Job& job) {
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

/// Where a step takes every piece of a source that is there, it is written as taking the source.
static shape::Step withWholeSources(const shape::Work& work, const shape::Step& step) {
    std::map<int, size_t> there, taken;
    for (const shape::Item& item : work.items)
        if (const int source = design::sourceOf(item.piece.id))
            ++there[source];
    for (design::PieceId id : step.pieces)
        if (const int source = design::sourceOf(id); source && id != design::allOfSource(source))
            ++taken[source];
    shape::Step out = step;
    out.pieces.clear();
    for (design::PieceId id : step.pieces) {
        const int source = design::sourceOf(id);
        const bool isWhole = source && there[source] > 1 && taken[source] == there[source];
        const design::PieceId kept = isWhole ? design::allOfSource(source) : id;
        if (std::find(out.pieces.begin(), out.pieces.end(), kept) == out.pieces.end())
            out.pieces.push_back(kept);
    }
    return out;
}

base::Result<Job> withShapeStep(const Job& job, const shape::Step& step, const base::Progress& progress) {
    if (!job.shaped)
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    auto outcome = shape::apply(*job.shaped, step, progress);
    if (!outcome)
        return outcome.error();
    Job out = job;
    out.shapeSteps.push_back(withWholeSources(*job.shaped, step));
    takeShaped(out, outcome.take().work, job.shapes->vanished);
    return out;
}

base::Result<Job> withShapeSteps(const Job& job, std::vector<shape::Step> steps,
                                 const base::Progress& progress) {
    Job out = job;
    out.shapeSteps = std::move(steps);
    return reshaped(std::move(out), progress);
}

/// The stack after paint or order changed. Of stacked layers the pieces run on under others than before.
static Job relaid(Job job) {
    if (job.recipe.mode == trace::Mode::FlatArt && job.recipe.stacking == trace::Stacking::Stacked)
        if (auto laid = reshaped(job, {}))
            return laid.take();
    restack(job);
    return job;
}

Job painted(const Job& job, const std::vector<design::PieceId>& areas, const std::string& stockId) {
    Job out = job;
    if (!design::findStock(job.stocks, stockId))
        return out;
    for (design::PieceId id : areas)
        if (const auto at = out.paint.find(id); at != out.paint.end())
            at->second = stockId;
    return relaid(std::move(out));
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
    return relaid(std::move(out));
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
    if (before.role != design::LayerRole::Areas) {
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

base::Result<Job> pinnedAt(const Job& job, const design::PlacedPiece& placed, size_t load,
                           const design::Formats& formats, const base::Progress& progress) {
    const design::CopyOf& what = placed.what;
    const double xMm = placed.xMm, yMm = placed.yMm;
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
                             yMm - sheet.yMm, placed.quarterTurns, placed.turnRad});
    return arranged(out, formats, progress);
}

base::Result<Job> unpinned(const Job& job, const design::CopyOf& what, const design::Formats& formats,
                           const base::Progress& progress) {
    Job out = job;
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) { return pin.what == what; });
    return arranged(out, formats, progress);
}

} // namespace thinline::document
