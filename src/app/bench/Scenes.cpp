// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the bench shows, built from a job as one value. Building a scene copies no outline: items share their bodies with
// the job and differ by a map. A picture has a map too, from its pixels to the design, so that a source that was turned is
// shown as it will be traced; of a picture laid level by the recipe, the turned pixels are more than the file's.
#include "app/bench/Scenes.h"

#include "design/Cuts.h"
#include "job/SourceSteps.h"
#include "job/SplitSteps.h"
#include "print/Page.h"
#include "sheets/Zones.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace thinline::app {
namespace {

using geometry::Box;
using geometry::Point;
using geometry::Transform;

constexpr raster::Rgb kPaper{255, 255, 255};
constexpr raster::Rgb kMat{241, 238, 232};
constexpr double kLoadGapMm = 40;     // between mats side by side
constexpr double kLoadRowGapMm = 110; // room for two lines of label under each mat, also when zoomed out
constexpr double kBenchAspect = 1.7;  // of a usual bench: rows and columns are chosen to fill it

raster::Rgb mixed(raster::Rgb a, raster::Rgb b, double share) {
    raster::Rgb out{};
    for (size_t i = 0; i < 3; ++i)
        out[i] = static_cast<std::uint8_t>(std::lround(a[i] * (1 - share) + b[i] * share));
    return out;
}

/// The visible layers' pieces where they lie in the design.
std::vector<SceneItem> itemsOfDesign(const design::Stack& stack, const Transform& map = {},
                                     design::FoldsAs foldsAs = design::FoldsAs::Score) {
    std::vector<SceneItem> items;
    items.reserve(stack.pieces.size());
    const design::Layer* layer = nullptr;
    raster::Rgb colour{};
    geometry::Perforation perforation;
    for (const design::Laid& laid : stack.pieces) {
        if (!layer || layer->id != laid.layer) {
            layer = &stack.layerOf(laid);
            colour = design::colourOf(stack.stocks, layer->stockId);
            perforation = design::perforationOf(design::findStock(stack.stocks, layer->stockId));
        }
        if (!layer->isHidden)
            items.push_back(
                {laid.piece.body, map, colour, laid.id(), 0, -1, {}, foldsAs, perforation, laid.up});
    }
    return items;
}

/// The size of a picture in its source's own units: as it came, or laid level when it was traced.
Box ownBox(const job::Picture& picture, bool isTraced) {
    const int width = isTraced ? picture.tracing->widthPx : picture.widthPx(),
              height = isTraced ? picture.tracing->heightPx : picture.heightPx();
    return {{0, 0}, {static_cast<double>(width), static_cast<double>(height)}};
}

/// Pixels where they lie; they may be fewer or more than the picture's own.
ScenePicture placed(const job::Source& source, const Box& own,
                    std::shared_ptr<const raster::Picture> pixels) {
    ScenePicture out{std::move(pixels), source.map(), geometry::transformed(own, source.map())};
    if (out.pixels && !out.pixels->isEmpty())
        out.map = Transform::scale(own.width() / out.pixels->width, own.height() / out.pixels->height)
                      .then(out.map);
    return out;
}

/// The mats and sheets there are, the largest first, so that the smaller lie on them; each with the design's upper left
/// corner at its usable one.
std::vector<SceneGhost> placesUnder(const design::Formats& formats) {
    std::vector<SceneGhost> out;
    const auto add = [&](SceneGhost::Kind kind, const auto& format, const QString& name) {
        const Point corner{-format.marginMm, -format.marginMm};
        out.push_back(
            {kind, {corner, corner + Point{format.widthMm, format.heightMm}}, kPaper, name, {}, true});
    };
    for (const design::MatFormat& mat : formats.mats)
        add(SceneGhost::Kind::Mat, mat, "mat " + QString::fromStdString(mat.name));
    for (const design::SheetFormat& sheet : formats.sheets)
        if (!formats.mat(sheet.id))
            add(SceneGhost::Kind::Sheet, sheet, QString::fromStdString(sheet.name));
    const auto areaOf = [](const SceneGhost& ghost) { return ghost.box.width() * ghost.box.height(); };
    std::stable_sort(out.begin(), out.end(),
                     [&](const SceneGhost& a, const SceneGhost& b) { return areaOf(a) > areaOf(b); });
    double shade = 0;
    for (SceneGhost& ghost : out) {
        ghost.tint = mixed(kMat, kPaper, shade);
        shade = std::min(0.9, shade + 0.2);
    }
    return out;
}

/// The marks that are printed on a sheet.
SceneGhost marksOf(const design::PlacedSheet& sheet, Point at, double printerMarginMm) {
    constexpr raster::Rgb kInk{30, 42, 49};
    SceneGhost out{SceneGhost::Kind::Sheet, {at, at + Point{sheet.widthMm, sheet.heightMm}}, kInk};
    out.rings = print::marksOn(print::layoutOf(sheet.widthMm, sheet.heightMm, printerMarginMm, true), {});
    for (geometry::Polygon& ring : out.rings)
        for (Point& p : ring)
            p = p + at;
    return out;
}

/// What a pen marks of every piece on a sheet, where its mat lies on the bench; nothing unless folds are left to a hand.
std::vector<std::shared_ptr<const std::vector<geometry::Line>>>
ticksOn(const design::Stack& stack, const design::PlacedSheet& sheet, design::FoldsAs foldsAs, Point corner) {
    std::vector<std::shared_ptr<const std::vector<geometry::Line>>> out;
    if (foldsAs != design::FoldsAs::Hand)
        return out;
    for (std::vector<geometry::Line>& lines : design::handTicksOn(stack, sheet).of) {
        for (geometry::Line& line : lines)
            line = geometry::transformed(line, Transform::move(corner));
        out.push_back(std::make_shared<const std::vector<geometry::Line>>(std::move(lines)));
    }
    return out;
}

/// Where two sheets meet that are taped together, as a thin line.
Box joinOf(const design::PlacedSheet& sheet, Point at) {
    constexpr double kLineMm = 2;
    const Box whole{at, at + Point{sheet.widthMm, sheet.heightMm}};
    const Point half = sheet.join == design::Join::Upright ? Point{kLineMm / 2, sheet.heightMm / 2}
                                                           : Point{sheet.widthMm / 2, kLineMm / 2};
    return {whole.centre() - half, whole.centre() + half};
}

} // namespace

ScenePtr sceneOfPicture(const job::Source& source, std::shared_ptr<const raster::Picture> pixels,
                        std::shared_ptr<Outlines> outlines) {
    ScenePicture picture =
        placed(source, ownBox(std::get<job::Picture>(source.what), false), std::move(pixels));
    const Box box = picture.box;
    return std::make_shared<const Scene>(std::move(outlines),
                                         std::vector<SceneGhost>{{SceneGhost::Kind::Paper, box, kPaper}},
                                         std::vector<SceneItem>{}, std::move(picture));
}

ScenePtr sceneOfDesign(const job::Source* picture, const job::Made& made,
                       std::shared_ptr<const raster::Picture> pixels, std::shared_ptr<Outlines> outlines,
                       design::FoldsAs foldsAs) {
    if (!made.work())
        return nullptr;
    constexpr double kRimMm = 10;
    Box paper = job::workBox(made).grownBy(kRimMm);
    std::vector<SceneItem> items =
        pixels ? std::vector<SceneItem>{} : itemsOfDesign(*made.work(), {}, foldsAs);
    ScenePicture shown;
    if (const auto* traced = job::asA<job::Picture>(picture); traced && traced->tracing) {
        shown = placed(*picture, ownBox(*traced, true), std::move(pixels));
        paper = shown.box;
    }
    return std::make_shared<const Scene>(std::move(outlines),
                                         std::vector<SceneGhost>{{SceneGhost::Kind::Paper, paper, kPaper}},
                                         std::move(items), std::move(shown));
}

ScenePtr sceneOfSize(const job::Made& made, const design::Formats& formats,
                     std::shared_ptr<Outlines> outlines) {
    if (!made.work())
        return nullptr;
    const Box design = job::workBox(made);
    std::vector<SceneGhost> ghosts = placesUnder(formats);
    ghosts.push_back({SceneGhost::Kind::Paper, {{0, 0}, {design.width(), design.height()}}, kPaper});
    return std::make_shared<const Scene>(std::move(outlines), std::move(ghosts),
                                         itemsOfDesign(*made.work(), Transform::move(design.least * -1)));
}

Point loadCorner(const design::Arrangement& arrangement, size_t load) {
    double cellWidth = 0, cellHeight = 0;
    for (const design::Load& one : arrangement.loads) {
        cellWidth = std::max(cellWidth, one.mat.widthMm);
        cellHeight = std::max(cellHeight, one.mat.heightMm);
    }
    cellWidth += kLoadGapMm;
    cellHeight += kLoadRowGapMm;
    const double count = static_cast<double>(arrangement.loads.size());
    const size_t across = std::max<size_t>(
        1, static_cast<size_t>(std::ceil(std::sqrt(count * kBenchAspect * cellHeight / cellWidth) - 0.25)));
    return {static_cast<double>(load % across) * cellWidth, static_cast<double>(load / across) * cellHeight};
}

std::optional<size_t> loadAt(const design::Arrangement& arrangement, Point at) {
    for (size_t i = 0; i < arrangement.loads.size(); ++i) {
        const Point corner = loadCorner(arrangement, i);
        const design::MatFormat& mat = arrangement.loads[i].mat;
        if (Box{corner, corner + Point{mat.widthMm, mat.heightMm}}.contains(at))
            return i;
    }
    return std::nullopt;
}

/// What of a load's mat and sheets stays free of cuts.
static std::vector<Box> keptFree(const job::SheetPlan& plan, const design::Load& load) {
    std::vector<Box> out;
    if (const auto boxes = plan.keepOuts.find(load.mat.id); boxes != plan.keepOuts.end())
        out = boxes->second;
    for (const design::PlacedSheet& sheet : load.sheets) {
        if (!plan.areCornersTaped || sheet.scrapId != 0 || sheet.isScrap)
            continue;
        const auto corners = sheets::tapedCorners(sheet.widthMm, sheet.heightMm);
        for (const Box& corner : corners)
            out.push_back(
                {corner.least + Point{sheet.xMm, sheet.yMm}, corner.most + Point{sheet.xMm, sheet.yMm}});
    }
    return out;
}

/// Scraps that a photo shows on the mat of a load and on which nothing is laid.
static std::vector<const design::Scrap*> leftAlone(const job::SheetPlan& plan, const design::Load& load) {
    std::vector<const design::Scrap*> out;
    const auto isUsed = [&](const design::Scrap& scrap) {
        return std::any_of(load.sheets.begin(), load.sheets.end(),
                           [&](const design::PlacedSheet& sheet) { return sheet.scrapId == scrap.id; });
    };
    const auto liesHere = [&](const design::Scrap& scrap) {
        return std::any_of(plan.scraps.begin(), plan.scraps.end(), [&](const design::Scrap& other) {
            return other.at && other.mat == scrap.mat && isUsed(other);
        });
    };
    for (const design::Scrap& scrap : plan.scraps)
        if (scrap.at && !isUsed(scrap) && liesHere(scrap))
            out.push_back(&scrap);
    return out;
}

ScenePtr sceneOfParts(const job::Made& made, std::shared_ptr<Outlines> outlines, double apart,
                      bool isFromBehind) {
    if (!made.work())
        return nullptr;
    const std::set<design::StepId> dividing = job::dividingSteps(made);
    struct Whole {
        std::vector<SceneItem> parts;
        Box box;
    };
    std::map<design::PieceId, Whole> wholes;
    for (SceneItem& item : itemsOfDesign(*made.work()))
        if (dividing.contains(item.piece.madeBy())) {
            Whole& whole = wholes[item.piece.whole()];
            whole.box.include(geometry::bounds(item.shape()));
            whole.parts.push_back(std::move(item));
        }
    std::vector<Whole> ordered;
    for (auto& [id, whole] : wholes)
        ordered.push_back(std::move(whole));
    const auto areaOf = [](const Whole& whole) { return whole.box.width() * whole.box.height(); };
    std::stable_sort(ordered.begin(), ordered.end(),
                     [&](const Whole& a, const Whole& b) { return areaOf(a) > areaOf(b); });
    // The largest at the left; the others in columns beside it, none higher than it is.
    constexpr double kGapMm = 30;
    std::vector<SceneItem> items;
    double x = 0, y = 0, columnMm = 0, mostMm = 0;
    for (Whole& whole : ordered) {
        const double width = whole.box.width() * (1 + apart), height = whole.box.height() * (1 + apart);
        if (y > 0 && y + height > mostMm) {
            x += columnMm + kGapMm;
            y = columnMm = 0;
        }
        mostMm = std::max(mostMm, height);
        for (SceneItem& item : whole.parts) {
            const Point by = (geometry::bounds(item.shape()).centre() - whole.box.centre()) * apart;
            item.map = Transform::move(by - whole.box.centre());
            if (isFromBehind) { // what is marked and glued on the front is not seen there
                item.map = item.map.then(Transform::scale(-1, 1));
                item.body = std::make_shared<const design::Body>(design::Body{item.shape()});
            }
            item.map = item.map.then(Transform::move(Point{x + width / 2, y + height / 2}));
        }
        if (isFromBehind) // what lies on another one lies behind it then
            std::reverse(whole.parts.begin(), whole.parts.end());
        std::move(whole.parts.begin(), whole.parts.end(), std::back_inserter(items));
        columnMm = std::max(columnMm, width);
        y += height + kGapMm;
    }
    return items.empty() ? nullptr
                         : std::make_shared<const Scene>(std::move(outlines), std::vector<SceneGhost>{},
                                                         std::move(items));
}

ScenePtr sceneOfSheets(const job::Made& made, std::shared_ptr<Outlines> outlines,
                       std::optional<size_t> only) {
    if (!made.work() || !made.sheets)
        return nullptr;
    std::vector<SceneGhost> ghosts;
    std::vector<SceneItem> items;
    std::vector<geometry::Shape> frames;
    const design::Stack& stack = *made.work();
    const design::Arrangement& arrangement = *made.sheets;
    std::unordered_map<design::PieceId, const design::Laid*> laidOf;
    for (const design::Laid& laid : stack.pieces)
        laidOf[laid.id()] = &laid;
    for (size_t l = 0; l < arrangement.loads.size(); ++l) {
        if (only && *only != l)
            continue;
        const design::Load& load = arrangement.loads[l];
        const Point corner = only ? Point{} : loadCorner(arrangement, l);
        size_t pieces = 0;
        for (const design::PlacedSheet& sheet : load.sheets)
            pieces += sheet.pieces.size();
        const QString stock = QString::fromStdString(sheets::loadText(load, stack.stocks));
        ghosts.push_back(
            {SceneGhost::Kind::Mat,
             {corner, corner + Point{load.mat.widthMm, load.mat.heightMm}},
             kMat,
             QStringLiteral("Load %1 of %2").arg(l + 1).arg(arrangement.loads.size()),
             QStringLiteral("%1 · %2 %3").arg(stock).arg(pieces).arg(pieces == 1 ? "piece" : "pieces")});
        for (const design::PlacedSheet& sheet : load.sheets) {
            const Point at = corner + Point{sheet.xMm, sheet.yMm};
            const raster::Rgb colour = design::colourOf(stack.stocks, sheet.stockId);
            const geometry::Perforation perforation =
                design::perforationOf(design::findStock(stack.stocks, sheet.stockId));
            ghosts.push_back({SceneGhost::Kind::Sheet,
                              {at, at + Point{sheet.widthMm, sheet.heightMm}},
                              mixed(kMat, colour, 0.3)});
            if (sheet.isPair())
                ghosts.push_back({SceneGhost::Kind::Sheet, joinOf(sheet, at), mixed(kMat, {60, 60, 60}, 0.6)});
            if (!sheet.outline.empty())
                for (geometry::Polygon& ring : ghosts.back().rings = design::outlineOf(sheet))
                    for (Point& p : ring)
                        p = p + corner;
            if (made.inputs.print.hasMarks && made.inputs.print.stocks.contains(sheet.stockId))
                ghosts.push_back(marksOf(sheet, at, made.inputs.print.printerMarginMm));
            const auto ticks = ticksOn(stack, sheet, made.inputs.plan.foldsAs, corner);
            for (size_t i = 0; i < sheet.pieces.size(); ++i) {
                const design::PlacedPiece& placed = sheet.pieces[i];
                const auto laid = laidOf.find(placed.what.piece);
                if (laid == laidOf.end())
                    continue;
                items.push_back(
                    {laid->second->piece.body,
                     design::placement(laid->second->piece, placed.pose).then(Transform::move(corner)), colour,
                     placed.what.piece, placed.what.copy, static_cast<int>(l), placed, made.inputs.plan.foldsAs,
                     perforation});
                if (!ticks.empty())
                    items.back().ticks = ticks[i];
            }
            for (const design::FrameCut& frame : design::framesOn(stack, sheet))
                frames.push_back(geometry::transformed(frame.outline, Transform::move(corner)));
        }
        for (const design::Scrap* scrap : leftAlone(made.inputs.plan, load)) {
            const Box box = geometry::bounds(scrap->rings);
            const Point at = corner + *scrap->at;
            SceneGhost ghost{SceneGhost::Kind::Sheet,
                             {at + box.least, at + box.most},
                             mixed(kMat, design::colourOf(stack.stocks, scrap->stockId), 0.15)};
            for (const geometry::Polygon& ring : scrap->rings) {
                ghost.rings.push_back(ring);
                for (Point& p : ghost.rings.back())
                    p = p + at;
            }
            ghosts.push_back(std::move(ghost));
        }
        for (const Box& kept : keptFree(made.inputs.plan, load))
            ghosts.push_back({SceneGhost::Kind::KeptFree,
                              {corner + kept.least, corner + kept.most},
                              mixed(kMat, {90, 90, 90}, 0.35)});
    }
    return std::make_shared<const Scene>(std::move(outlines), std::move(ghosts), std::move(items),
                                         ScenePicture{}, std::move(frames));
}

} // namespace thinline::app
