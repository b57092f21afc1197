// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What a picture shows becomes a drawing, and the picture a print on it. So a sticker is made of what is there already: it can be
// sized, offset, printed on and cut like any other drawing, and needs nothing of its own in a job.
#include "job/Stickers.h"

#include "base/Length.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/WriteDrawing.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Placing.h"
#include "job/LayerSteps.h"
#include "job/PrintSteps.h"
#include "job/SourceSteps.h"
#include "job/StockSteps.h"
#include "trace/Tracing.h"

#include <algorithm>
#include <cmath>
#include <deque>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;
using geometry::Shape;
using raster::Grey;

constexpr int kShownFrom = 128;

/// Where a picture without transparent parts differs from the even colour of its edge; 255 there.
base::Result<Grey> unlikeItsEdge(const raster::Picture& picture, const std::string& name) {
    constexpr double kAlike = 0.06, kLeastShare = 0.8; // JPEG speckles a white ground by less
    std::vector<std::uint32_t> edge;
    const auto w = static_cast<std::uint32_t>(picture.width), h = static_cast<std::uint32_t>(picture.height);
    for (std::uint32_t x = 0; x < w; ++x)
        for (const std::uint32_t y : {0u, h - 1})
            edge.push_back(y * w + x);
    for (std::uint32_t y = 1; y + 1 < h; ++y)
        for (const std::uint32_t x : {0u, w - 1})
            edge.push_back(y * w + x);
    const raster::Rgb ground = raster::medianColour(picture, edge);
    const auto isGround = [&](std::uint32_t i) {
        const std::uint8_t* p = picture.rgb.data() + 3 * static_cast<std::size_t>(i);
        const raster::Rgb colour{p[0], p[1], p[2]};
        return colour == ground || raster::colourDistance(colour, ground) < kAlike;
    };
    const auto alike = std::count_if(edge.begin(), edge.end(), isGround);
    if (static_cast<double>(alike) < kLeastShare * static_cast<double>(edge.size()))
        return Error{Code::InvalidArgument,
                     name + " has no transparent parts and no even colour along its edge; take its ground "
                            "out elsewhere, or print it on a shape."};
    Grey out{picture.width, picture.height,
             std::vector<std::uint8_t>(static_cast<std::size_t>(picture.pixels()), 255)};
    std::deque<std::uint32_t> open;
    const auto visit = [&](std::uint32_t i) {
        if (out.values[i] != 0 && isGround(i)) {
            out.values[i] = 0;
            open.push_back(i);
        }
    };
    for (const std::uint32_t i : edge)
        visit(i);
    while (!open.empty()) {
        const std::uint32_t i = open.front(), x = i % w, y = i / w;
        open.pop_front();
        if (x > 0)
            visit(i - 1);
        if (x + 1 < w)
            visit(i + 1);
        if (y > 0)
            visit(i - w);
        if (y + 1 < h)
            visit(i + w);
    }
    return out;
}

/// How far each pixel of a picture shows something.
base::Result<Grey> shownBy(const Picture& picture) {
    if (picture.sheet || picture.recipe.turnDeg != 0)
        return Error{
            Code::InvalidArgument,
            picture.file->fileName +
                " was turned or laid straight before it was traced; bring the picture in anew, or print it "
                "on a shape."};
    auto decoded =
        formats::image::decode(picture.file->bytes, raster::kMostPixels, formats::image::Ground::White);
    if (!decoded)
        return Error{decoded.error().code, picture.file->fileName + ": " + decoded.error().message};
    auto shown = decoded->cover.values.empty() ? unlikeItsEdge(decoded->picture, picture.file->fileName)
                                               : base::Result<Grey>(std::move(decoded.take().cover));
    if (!shown)
        return shown;
    const auto isShown = [](std::uint8_t v) { return v >= kShownFrom; };
    if (std::all_of(shown->values.begin(), shown->values.end(), isShown))
        return Error{Code::InvalidArgument,
                     picture.file->fileName +
                         " fills its frame; there is nothing to cut it out of. Print it on a shape."};
    if (std::none_of(shown->values.begin(), shown->values.end(), isShown))
        return Error{Code::InvalidArgument,
                     picture.file->fileName + " shows nothing: all of it is transparent, or of one colour."};
    return shown;
}

/// The outlines of what is shown, px, with room around it so that what touches the picture's frame is an outline as well.
base::Result<std::vector<Shape>> outlinesOf(const Grey& shown, double mmPerPx,
                                            const base::Progress& progress) {
    constexpr int kRoom = 4;
    raster::Picture ink{shown.width + 2 * kRoom, shown.height + 2 * kRoom, {}};
    ink.rgb.assign(static_cast<std::size_t>(ink.pixels()) * 3, 255);
    for (int y = 0; y < shown.height; ++y)
        for (int x = 0; x < shown.width; ++x) {
            const std::size_t at =
                3 * (static_cast<std::size_t>(y + kRoom) * static_cast<std::size_t>(ink.width) +
                     static_cast<std::size_t>(x + kRoom));
            std::fill_n(ink.rgb.begin() + static_cast<std::ptrdiff_t>(at), 3,
                        static_cast<std::uint8_t>(255 - shown.at(x, y)));
        }
    trace::Recipe recipe;
    recipe.threshold = kShownFrom - 1;
    recipe.leastAreaMm2 = 1; // specks would be stickers nobody can lift
    recipe.widestGapMm = 0;
    auto traced = trace::traced(ink, mmPerPx, recipe, progress);
    if (!traced)
        return traced.error();
    std::vector<Shape> out;
    for (Shape& shape : traced.take().backing) {
        shape.openings.clear();
        out.push_back(geometry::transformed(shape, geometry::Transform::move({-kRoom, -kRoom})));
    }
    return out;
}

/// Grown by the rim, in mm, openings closed, and bays rounded by as much: a sharp one tears.
base::Result<std::vector<Shape>> withRim(std::vector<Shape> shapes, double rimMm,
                                         const base::Progress& progress) {
    const auto offset = [&](const std::vector<Shape>& from, double mm) -> base::Result<std::vector<Shape>> {
        auto out = geometry::offsetSeries(from, mm, 1, {.join = geometry::Join::Round}, progress);
        if (!out)
            return out.error();
        std::vector<Shape> closed = std::move(out.take().front().shapes);
        for (Shape& shape : closed)
            shape.openings.clear();
        return closed;
    };
    if (!(rimMm > 0))
        return geometry::weld(shapes, progress);
    const auto grown = offset(shapes, rimMm);
    if (!grown)
        return grown;
    std::vector<Shape> out;
    for (const Shape& shape : *grown) { // each by itself, so that none meets its neighbour
        const auto wider = offset({shape}, rimMm);
        const auto back = wider ? offset(*wider, -rimMm) : wider;
        if (!back)
            return back;
        out.insert(out.end(), back->begin(), back->end());
    }
    return geometry::weld(out, progress); // what lay in an opening is gone
}

/// A stock for stickers, and the job that has it.
base::Result<std::pair<Job, std::string>> withStickerStock(const Job& job, const std::string& wanted) {
    if (!wanted.empty()) {
        if (!design::findStock(job.stocks, wanted))
            return Error{Code::NotFound, "There is no stock '" + wanted + "' in this job."};
        return std::pair{job, wanted};
    }
    for (const design::Stock& stock : job.stocks)
        if (stock.cut == design::Depth::ToCarrier && design::printsOf(stock) != design::Stock::Prints::None)
            return std::pair{job, stock.id};
    design::Stock paper = usualStock(design::Stock::Kind::Vinyl);
    paper.name = "sticker paper";
    paper.colour = {255, 255, 255};
    paper.thicknessMm = 0.1;
    auto out = withNewStock(job, paper);
    if (!out)
        return out.error();
    const std::string id = out->stocks.back().id;
    return std::pair{out.take(), id};
}

} // namespace

base::Result<double> unitForSticker(const Picture& picture, double widthMm, double rimMm) {
    if (!(widthMm - 2 * rimMm >= 1))
        return Error{Code::InvalidArgument,
                     "The rims alone are wider than the sticker; make it wider, or its rim narrower."};
    const auto shown = shownBy(picture);
    if (!shown)
        return shown.error();
    // To the hundredth of a pixel by its own outline, at whatever size.
    const auto outlines = outlinesOf(*shown, 0.25, {});
    if (!outlines)
        return outlines.error();
    Box box;
    for (const Shape& shape : *outlines)
        box.include(geometry::bounds(shape));
    return (widthMm - 2 * rimMm) / box.width();
}

namespace {

/// Stickers as a drawing; its page holds the picture and all of them, and where that begins is told, mm from the picture's corner.
struct Drawn {
    Source source;
    Box page, all;
};
base::Result<Drawn> drawnAs(const Source& source, const Picture& picture, double rimMm,
                            const base::FontStore& fonts, const base::Progress& progress) {
    const auto shown = shownBy(picture);
    if (!shown)
        return shown.error();
    const auto outlines = outlinesOf(*shown, source.unitMm, progress.part(0, 0.6));
    if (!outlines)
        return outlines.error();
    const double across = source.unitMm, down = source.unitMm * picture.pixelAspect() * source.stretchY;
    std::vector<Shape> inMm;
    for (const Shape& shape : *outlines)
        inMm.push_back(geometry::transformed(shape, geometry::Transform::scale(across, down)));
    const auto rimmed = withRim(std::move(inMm), rimMm, progress.part(0.6, 0.8));
    if (!rimmed)
        return rimmed.error();
    const std::string& file = picture.file->fileName;
    Drawn out{{}, {{0, 0}, {picture.widthPx() * across, picture.heightPx() * down}}, {}};
    formats::svg::NamedGroup group{"sticker", "cut round " + file, {}, raster::Rgb{255, 255, 255}};
    for (const Shape& shape : *rimmed) {
        out.all.include(geometry::bounds(shape));
        const std::string number = std::to_string(group.shapes.size() + 1);
        group.shapes.push_back({"sticker-" + number, "sticker " + number, shape});
    }
    out.page.include(out.all);
    const std::string svg = formats::svg::writeGroups({group}, out.page, file);
    const base::Bytes bytes(svg.begin(), svg.end());
    auto drawn = drawingFrom({bytes, file.substr(0, file.rfind('.')) + ".svg", {FileKind::Svg, true}}, {},
                             fonts, progress.part(0.8, 1));
    if (!drawn)
        return drawn.error();
    out.source = drawn.take();
    out.source.origin = source.origin;
    out.source.lies.clear();
    return out;
}

/// The job with a picture printed on pieces where it lay itself.
base::Result<State> printedInPlace(const State& state, const std::vector<PieceId>& pieces,
                                   const Source& source, const Picture& picture) {
    const auto printed = withPicturePrinted(state, {pieces, design::Side::Front, {}},
                                            {picture.file->bytes, picture.file->fileName, {}}, source.origin);
    if (!printed)
        return printed.error();
    const auto laid = make(printed->job, Stage::Stack, state.made, {});
    if (!laid)
        return laid.error();
    // It fills the pieces now.
    design::Face face = printsOn(*laid, pieces.front(), design::Side::Front).back().face;
    face.place = geometry::Transform::scale(picture.widthPx(), picture.heightPx()).then(source.map());
    const auto placed = withPrintChanged(*laid, pieces.front(), face);
    return placed ? make(*placed, Stage::Stack, laid->made, {}) : base::Result<State>(placed.error());
}

} // namespace

base::Result<Noted> withSticker(const State& state, SourceId id, const StickerWish& how,
                                const base::FontStore& fonts, const base::Progress& progress) {
    const Source* source = findSource(state.job, id);
    const auto* picture = asA<Picture>(source);
    if (!picture)
        return Error{Code::NotFound, "A sticker is made of a picture; choose one."};
    if (!(how.rimMm >= 0 && how.rimMm <= kMostRimMm))
        return Error{Code::InvalidArgument, "The rim of a sticker goes from 0 to 50 mm."};
    auto came = drawnAs(*source, *picture, how.rimMm, fonts, progress.part(0, 0.9));
    if (!came)
        return came.error();
    Drawn drawn = came.take();
    auto stocked = withStickerStock(state.job, how.stockId);
    if (!stocked)
        return stocked.error();
    auto [job, stockId] = stocked.take();
    drawn.source.layer = layerForStock(job, stockId);
    Job with = added(state, std::move(job), drawn.source).job;
    // In the picture's place: the drawing begins at its page's corner.
    Source placed = *with.sources.back();
    placed.turnRad = source->turnRad;
    placed.at = source->at + geometry::turnAbout({}, source->turnRad)(drawn.page.least);
    const SourceId made = placed.id;
    with = withSource(std::move(with), std::move(placed));
    if (!picture->tracing)
        if (auto alone = withoutSource(with, id))
            with = alone.take();
    const auto laid = make(with, Stage::Stack, state.made, progress.part(0.9, 1));
    if (!laid)
        return laid.error();
    std::vector<PieceId> pieces;
    for (const design::Piece& piece : laid->made.pieces->now)
        if (piece.id.source() == made)
            pieces.push_back(piece.id);
    const auto printed = printedInPlace(*laid, pieces, *source, *picture);
    if (!printed)
        return printed.error();
    auto out = how.isThrough ? withPiecesThrough(*printed, pieces, true) : base::Result<Job>(printed->job);
    if (!out)
        return out.error();
    const std::string note = base::counted(static_cast<int>(pieces.size()), "sticker") + " of " +
                             picture->file->fileName + ", " +
                             base::formatSize(drawn.all.width(), drawn.all.height(), state.job.unit) +
                             " with a rim of " + base::formatLength(how.rimMm, state.job.unit) + ", on " +
                             design::stockName(out->stocks, stockId) + ".";
    return Noted{out.take(), note};
}

} // namespace thinline::job
