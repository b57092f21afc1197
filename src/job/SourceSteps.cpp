// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Sources come, change and go; their pieces keep their names.
//
// A source is what pieces come from: a picture, a drawing, a word, a figure. Changing one makes its pieces
// anew. Everything a person has said about pieces hangs on their keys, so the question for each kind of
// source is which new piece is which old one:
//
// - A word's letters are known by a number of the sign, carried from the text before to the text now: who
//   adds an S to SHELL keeps the colours of the five letters that were there.
// - A drawing that is taken otherwise (strokes as areas, without its clip paths) has the same items; a new
//   piece is the old one if it is of the same item and covers the old one's inside point. Keys of pieces
//   that are gone are remembered with their point, so that they come back with the pieces.
// - Another page has other pieces. None is taken for an old one.
// - Leaving layers out changes nothing but which pieces are shown.
// - A figure is one piece.
//
// New sources are laid beside everything, level with its top, so that nothing comes to lie under what is
// there. A size that is typed for a whole page keeps the corner of its pieces where it was, since it is
// what is seen.
//
// White in a drawing counts as paper and takes the plain stock; other colours take the stock nearest to
// them, as a proposal that a wish overrules.
#include "job/SourceSteps.h"

#include "geometry/Measures.h"
#include "job/DrawnPictures.h"
#include "job/Letters.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

constexpr double kGapMm = 10; ///< between what is there and what comes in
constexpr double kMostPlaceMm = 5000;

Error notThere() {
    return {Code::NotFound, "That is not in the job any more."};
}

/// How far a new source goes that lies at `own`: beside everything, untraced pictures too, level with the top.
geometry::Point placeFor(const State& state, const geometry::Box& own) {
    geometry::Box there = workBox(state.made);
    for (const auto& source : state.job.sources)
        there.include(placeOfSource(*source));
    return there.isEmpty() ? geometry::Point{}
                           : geometry::Point{there.most.x + kGapMm, there.least.y} - own.least;
}

std::string sizeQuestion(const Drawing& drawing) {
    return drawing.file->mediaType == kDxfType
               ? "The file states no unit; I took one unit for a millimetre. Settle it at Source."
               : "The file states no real size; I took 96 units to the inch. Settle it at Source.";
}

/// Lays a drawing's pieces by their colours, those that are new to it; white counts as paper and takes the plain
/// stock, and so does what is drawn in outline by a black pen where nothing is white. Two colours of one drawing never share a
/// stock: they are two because somebody meant them to be.
void layByColour(Job& job, Source& source, const std::string& plainStockId) {
    constexpr double kLikePaper = 0.06, kAlike = 0.02; // one just visible step
    std::vector<std::pair<raster::Rgb, std::string>> laid;
    for (const Found& found : *source.kept)
        if (const auto at = source.lies.find(found.key); found.colour && at != source.lies.end())
            if (const design::Layer* layer = design::findLayer(job.layers, at->second))
                laid.emplace_back(*found.colour, layer->stockId);
    const auto stockFor = [&](raster::Rgb colour) -> std::string {
        for (const auto& [other, stock] : laid)
            if (raster::colourDistance(other, colour) < kAlike)
                return stock;
        std::vector<design::Stock> free = job.stocks;
        std::erase_if(free, [&](const design::Stock& stock) {
            return std::any_of(laid.begin(), laid.end(),
                               [&](const auto& one) { return one.second == stock.id; });
        });
        design::Stock stock = design::stockOfColour(free, colour);
        if (!design::findStock(job.stocks, stock.id)) {
            stock.name = design::newStockName(job.stocks, colour);
            job.stocks.push_back(stock);
        }
        laid.emplace_back(colour, stock.id);
        return stock.id;
    };
    const auto isPaper = [](const Found& found) {
        return found.colour && raster::colourDistance(*found.colour, raster::Rgb{255, 255, 255}) < kLikePaper;
    };
    const bool hasPaper = std::any_of(source.kept->begin(), source.kept->end(), isPaper);
    for (const Found& found : *source.kept) {
        if (source.lies.contains(found.key))
            continue;
        const bool isPlain = isPaper(found) || (!found.colour && !hasPaper);
        source.lies[found.key] =
            layerForStock(job, isPlain ? plainStockId : stockFor(found.colour.value_or(raster::Rgb{})));
    }
}

/// A word set in the nearest typeface, with the numbers of its letters.
struct SetWord {
    Word word;
    FoundPieces pieces;
    std::string said;
};
base::Result<SetWord> wordOf(const lettering::Recipe& recipe, const Word& before, double stretchY,
                             const base::FontStore& fonts, const base::Progress& progress) {
    const auto found = lettersFound(recipe, fonts);
    if (!found)
        return found.error();
    auto set = lettering::setWord(*found->letters, unstretched(recipe, stretchY), progress);
    if (!set)
        return set.error();
    SetWord out{{recipe, found->letters, {}, before.nextSign}, {}, found->said};
    out.word.signs = carriedSigns(before.signs, *found->letters, out.word.nextSign);
    out.pieces = std::make_shared<const std::vector<Found>>(piecesOfWord(*set, out.word.signs));
    for (const std::string& said : set->said)
        out.said += (out.said.empty() ? "" : "; ") + said;
    return out;
}

base::Result<FoundPieces> pieceOfFigure(const construct::Recipe& recipe, const std::string& name) {
    auto shape = construct::make(recipe);
    if (!shape)
        return shape.error();
    return std::make_shared<const std::vector<Found>>(std::vector<Found>{
        {"1", std::make_shared<const design::Body>(design::Body{geometry::rounded(shape.take(), kKeptStep)}),
         "the " + name}});
}

/// Gives the pieces of a drawing taken another way the keys of those they came from: of the same item, where the
/// old one's inside point lies.
void carryKeys(const std::vector<Found>& before, Drawing& drawing, std::vector<Found>& after) {
    std::vector<Drawing::GonePiece> known;
    for (const Found& old : before)
        known.push_back({old.key, old.name, geometry::pointInside(old.body->shape)});
    known.insert(known.end(), drawing.gone.begin(), drawing.gone.end());
    std::vector<bool> isNamed(after.size(), false);
    drawing.gone.clear();
    for (const Drawing::GonePiece& old : known) {
        bool isFound = false;
        for (size_t i = 0; i < after.size() && !isFound; ++i)
            if (!isNamed[i] && after[i].name == old.name &&
                geometry::contains(after[i].body->shape, old.inside)) {
                after[i].key = old.key;
                isNamed[i] = isFound = true;
            }
        if (!isFound)
            drawing.gone.push_back(old);
    }
    for (size_t i = 0; i < after.size(); ++i)
        if (!isNamed[i])
            after[i].key = std::to_string(drawing.nextPiece++);
}

} // namespace

Noted added(const State& state, Job job, Source source) {
    source.id = SourceId{job.nextSource++};
    source.at = placeFor(state, source.box());
    Noted out{{}, noteOf(source)};
    out.job = withSource(std::move(job), std::move(source));
    return out;
}

base::Result<Noted> withDrawing(const State& state, const Incoming& file, const Catalogue& catalogue,
                                const base::FontStore& fonts, const base::Progress& progress) {
    auto source = drawingFrom(file, {}, fonts, progress);
    if (!source)
        return source.error();
    Source made = source.take();
    Job job = state.job;
    made.layer = layerForStock(job, catalogue.plainStockId);
    layByColour(job, made, catalogue.plainStockId);
    const auto pictures = picturesIn(file, fonts, progress);
    if (!pictures)
        return pictures.error();
    Noted out = added(state, std::move(job), std::move(made));
    if (pictures->empty())
        return out;
    return withDrawnPictures(state, std::move(out), *pictures, file.name, progress);
}

base::Result<Noted> withWord(const State& state, const lettering::Recipe& recipe, const std::string& stockId,
                             const base::FontStore& fonts, const base::Progress& progress) {
    auto set = wordOf(recipe, {}, 1, fonts, progress);
    if (!set)
        return set.error();
    Job job = state.job;
    Source source;
    source.what = set->word;
    source.kept = set->pieces;
    source.said = set->said;
    source.layer = layerForStock(job, stockId);
    return added(state, std::move(job), std::move(source));
}

base::Result<Noted> withFigure(const State& state, const construct::Recipe& recipe,
                               const std::string& stockId) {
    Job job = state.job;
    Source source;
    source.what = Figure{recipe};
    auto piece = pieceOfFigure(recipe, source.name());
    if (!piece)
        return piece.error();
    source.kept = piece.take();
    source.layer = layerForStock(job, stockId);
    return added(state, std::move(job), std::move(source));
}

base::Result<Noted> withWordChanged(const Job& job, SourceId id, const lettering::Recipe& recipe,
                                    const base::FontStore& fonts, const base::Progress& progress) {
    const auto* word = asA<Word>(findSource(job, id));
    if (!word)
        return notThere();
    auto set = wordOf(recipe, *word, findSource(job, id)->stretchY, fonts, progress);
    if (!set)
        return set.error();
    Source source = *findSource(job, id);
    source.what = set->word;
    source.kept = set->pieces;
    source.said = set->said;
    source.unitMm = 1; // set anew in mm
    return Noted{withSource(job, std::move(source)), set->said};
}

base::Result<Noted> withFigureChanged(const Job& job, SourceId id, const construct::Recipe& recipe) {
    if (!asA<Figure>(findSource(job, id)))
        return notThere();
    Source source = *findSource(job, id);
    source.what = Figure{recipe};
    auto piece = pieceOfFigure(recipe, source.name());
    if (!piece)
        return piece.error();
    source.kept = piece.take();
    source.unitMm = source.stretchY = 1; // what was typed is what is meant
    return Noted{withSource(job, std::move(source)), ""};
}

base::Result<Noted> withDrawingTaken(const Job& job, SourceId id, const design::TakeOptions& take,
                                     const Catalogue& catalogue, const base::FontStore& fonts,
                                     const base::PageReader* pages, const base::Progress& progress) {
    const auto* before = asA<Drawing>(findSource(job, id));
    if (!before)
        return notThere();
    Source made = *findSource(job, id);
    const bool isOtherPage = take.page != before->take.page;
    const bool areOthersLeftOut = take.leftOut != before->take.leftOut && !before->kinds.empty();
    if (isOtherPage || areOthersLeftOut || take.lines != before->take.lines ||
        take.appliesClips != before->take.appliesClips ||
        take.strokesAsAreas != before->take.strokesAsAreas) {
        const Incoming file{before->file->bytes, before->file->fileName,
                            recognise(before->file->bytes, pages, progress)};
        auto anew = drawingFrom(file, take, fonts, progress);
        if (!anew)
            return anew.error();
        Drawing now = std::get<Drawing>(anew->what);
        std::vector<Found> pieces = *anew->kept;
        now.isSettled = before->isSettled;
        now.nextPiece = before->nextPiece;
        if (isOtherPage) {
            for (Found& piece : pieces) // other pieces, other keys
                piece.key = std::to_string(now.nextPiece++);
        } else {
            now.gone = before->gone;
            carryKeys(*made.kept, now, pieces);
        }
        made.said = anew->said;
        made.what = std::move(now);
        made.kept = std::make_shared<const std::vector<Found>>(std::move(pieces));
    }
    std::get<Drawing>(made.what).take = take;
    if (made.box().isEmpty())
        return Error{Code::InvalidArgument,
                     "Nothing of " + made.name() + " would be left; keep a layer, or take the drawing out."};
    Job out = job;
    const design::Layer* plain = design::findLayer(job.layers, made.layer);
    layByColour(out, made, plain ? plain->stockId : catalogue.plainStockId);
    return Noted{withSource(std::move(out), std::move(made)), ""};
}

double sourceWidthMm(const Source& source) {
    if (const auto* drawing = std::get_if<Drawing>(&source.what))
        return drawing->pageWidth * source.unitMm;
    const auto* picture = std::get_if<Picture>(&source.what);
    return picture ? picture->widthPx() * source.unitMm : 0;
}

double sourceHeightMm(const Source& source) {
    if (const auto* drawing = std::get_if<Drawing>(&source.what))
        return drawing->pageHeight * source.unitMm * source.stretchY;
    const auto* picture = std::get_if<Picture>(&source.what);
    return picture ? picture->heightPx() * source.unitMm * picture->pixelAspect() * source.stretchY
                   : 0;
}

base::Result<Job> withSourceWidth(const Job& job, SourceId id, double widthMm) {
    const Source* before = findSource(job, id);
    if (!before)
        return notThere();
    if (!(sourceWidthMm(*before) > 0))
        return Error{Code::InvalidArgument,
                     before->name() + " is made from its own measures; change those at Source, or size its pieces."};
    if (!(widthMm >= 1 && widthMm <= 10'000))
        return Error{Code::InvalidArgument, "A picture or a drawing can be 1 mm to 10 m wide."};
    Source source = *before;
    const double by = widthMm / sourceWidthMm(source);
    // What it shows stays where it begins: the corner of its pieces, not of its page.
    const geometry::Box own = source.box();
    if (!own.isEmpty())
        source.at = source.at + (own.least - source.at) * (1 - by);
    source.unitMm *= by;
    if (auto* drawing = std::get_if<Drawing>(&source.what))
        drawing->isSettled = true;
    return withSource(job, std::move(source));
}

std::string noteOf(const Source& source) {
    const auto* drawing = std::get_if<Drawing>(&source.what);
    if (!drawing)
        return source.said;
    return (source.said.empty() ? "" : "In the drawing: " + source.said + ". ") +
           (drawing->isSettled ? "" : sizeQuestion(*drawing));
}

geometry::Box placeOfSource(const Source& source) {
    const geometry::Box own = source.box();
    const auto* picture = asA<Picture>(&source);
    if (!own.isEmpty() || !picture || !picture->file)
        return own;
    return geometry::transformed(
        geometry::Box{{0, 0}, {1.0 * picture->widthPx(), 1.0 * picture->heightPx()}}, source.map());
}

base::Result<OpenedPicture> withPicture(const State& state, const Incoming& file) {
    auto opened = pictureInto(state.job, file);
    if (!opened)
        return opened.error();
    OpenedPicture out = opened.take();
    Source source = *findSource(out.job, out.source);
    source.at = placeFor(state, placeOfSource(source));
    out.job = withSource(std::move(out.job), std::move(source));
    return out;
}

base::Result<Job> withPictureAgain(const Job& job, SourceId id) {
    const Source* before = findSource(job, id);
    const auto* picture = asA<Picture>(before);
    if (!picture)
        return Error{Code::NotFound, "Only a picture can be traced once more; choose one."};
    Source source = *before;
    Job out = job;
    source.id = SourceId{out.nextSource++};
    source.kept = std::make_shared<const std::vector<Found>>();
    source.lies.clear();
    Picture again;
    again.file = picture->file;
    again.recipe = picture->recipe;
    again.roomMm = picture->roomMm;
    again.ground = picture->ground;
    source.what = std::move(again);
    return withSource(std::move(out), std::move(source));
}

base::Result<Job> withSourceCorner(const Job& job, SourceId id, geometry::Point atMm) {
    const Source* before = findSource(job, id);
    if (!before)
        return notThere();
    if (!std::isfinite(atMm.x) || !std::isfinite(atMm.y) || std::abs(atMm.x) > kMostPlaceMm ||
        std::abs(atMm.y) > kMostPlaceMm)
        return Error{Code::InvalidArgument, "A place goes from -5000 to 5000 mm."};
    return withSourceAt(job, id, before->at + atMm - placeOfSource(*before).least);
}

base::Result<Job> withSourceTurned(const Job& job, SourceId id, double turnRad) {
    const Source* before = findSource(job, id);
    if (!before)
        return notThere();
    if (!std::isfinite(turnRad))
        return Error{Code::InvalidArgument, "An angle goes from -180 to 180 degrees."};
    if (before->stretchY != 1)
        return Error{Code::InvalidArgument,
                     before->name() + " was stretched; size it back in proportion before it is turned."};
    const geometry::Point centre = placeOfSource(*before).centre();
    const geometry::Point own = geometry::inverse(before->map())(centre);
    Source source = *before;
    source.turnRad = std::remainder(turnRad, 2 * std::numbers::pi);
    source.at = source.at + centre - source.map()(own);
    return withSource(job, std::move(source));
}

base::Result<Job> withSourceAt(const Job& job, SourceId id, geometry::Point atMm) {
    const Source* before = findSource(job, id);
    if (!before)
        return notThere();
    Source source = *before;
    source.at = atMm;
    return withSource(job, std::move(source));
}

Job withSourceStock(const Job& job, SourceId id, const std::string& stockId) {
    const Source* before = findSource(job, id);
    if (!before || !design::findStock(job.stocks, stockId))
        return job;
    Job out = job;
    Source source = *before;
    source.layer = layerForStock(out, stockId);
    if (!asA<Construction>(&source)) // its panes stay panes
        source.lies.clear();
    job.wishes.each([&](const Wishes::Entry& entry) {
        if (entry.first.source() != id || !entry.first.isFound())
            return;
        design::Wish wish = entry.second;
        wish.layer.reset();
        out.wishes = out.wishes.with(entry.first, wish);
    });
    return withSource(std::move(out), std::move(source));
}

base::Result<Job> withoutSource(const Job& job, SourceId id) {
    if (!findSource(job, id))
        return notThere();
    Job out = job;
    std::erase_if(out.sources, [&](const auto& one) { return one->id == id; });
    job.wishes.each([&](const Wishes::Entry& entry) {
        if (entry.first.source() == id)
            out.wishes = out.wishes.with(entry.first, {});
    });
    return out;
}

Job withOrigin(const Job& job, SourceId id, const Origin& origin) {
    const Source* before = findSource(job, id);
    if (!before)
        return job;
    Source source = *before;
    source.origin = origin;
    return withSource(job, std::move(source));
}

OriginSummary originsOf(const Job& job) {
    OriginSummary out;
    bool isAny = false;
    const auto rank = [](Licence l) {
        return l == Licence::Unknown ? 0 : l == Licence::FreeForOwnUse ? 1 : l == Licence::MaySell ? 2 : 3;
    };
    for (const auto& source : job.sources) {
        if (!std::holds_alternative<Drawing>(source->what) && !std::holds_alternative<Picture>(source->what))
            continue; // words and figures are the maker's own
        const Origin& origin = source->origin;
        out.lines.push_back(source->name() + (origin.from.empty() ? "" : ", from " + origin.from) + ": " +
                            licenceText(origin.licence));
        if (!isAny || rank(origin.licence) < rank(out.strictest))
            out.strictest = origin.licence;
        isAny = true;
    }
    if (!isAny)
        out.strictest = Licence::Own;
    return out;
}

std::vector<PieceId> groupOf(const State& state, PieceId piece) {
    const Source* source = findSource(state.job, piece.source());
    const auto there = [&](PieceId id) {
        return state.made.pieces && design::findPiece(state.made.pieces->now, id);
    };
    if (!source || std::holds_alternative<Picture>(source->what) || !piece.isFound())
        return {piece};
    const auto at = std::find_if(source->kept->begin(), source->kept->end(),
                                 [&](const Found& one) { return one.key == piece.key(); });
    if (at == source->kept->end())
        return {piece};
    std::vector<PieceId> out;
    for (const Found& one : *source->kept)
        if (one.group == at->group && there(source->pieceId(one)))
            out.push_back(source->pieceId(one));
    return out;
}

} // namespace thinline::job
