// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Scene.h"

#include "geometry/Measures.h"
#include "raster/Canvas.h"

#include <cmath>

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

raster::Rgb colourOf(const design::Stack& stack, const std::string& stockId) {
    const design::Stock* stock = design::findStock(stack.stocks, stockId);
    return stock ? stock->colour : raster::Rgb{200, 200, 200};
}

raster::Rgb mixed(raster::Rgb a, raster::Rgb b, double share) {
    raster::Rgb out{};
    for (size_t i = 0; i < 3; ++i)
        out[i] = static_cast<std::uint8_t>(std::lround(a[i] * (1 - share) + b[i] * share));
    return out;
}

/// The visible layers' pieces where they lie in the design.
std::vector<SceneItem> itemsOfDesign(const design::Stack& stack) {
    std::vector<SceneItem> items;
    for (const design::Layer& layer : stack.layers)
        if (!layer.isHidden)
            for (const design::Piece& piece : layer.pieces)
                items.push_back(
                    {piece.shape, {}, colourOf(stack, layer.stockId), piece.id, 0, -1, false, std::nullopt});
    return items;
}

Box paperBox(const document::Job& job) {
    if (!job.tracing) {
        constexpr double kRimMm = 10;
        return document::designBox(job).grownBy(kRimMm);
    }
    const trace::Sizing sizing = document::sizingOf(job);
    const Transform map = trace::pictureToDesign(*job.tracing, sizing);
    Box box;
    box.include(map({0, 0}));
    box.include(map({static_cast<double>(job.tracing->widthPx), static_cast<double>(job.tracing->heightPx)}));
    return box;
}

} // namespace

Scene::Scene(std::vector<SceneGhost> ghosts, std::vector<SceneItem> items,
             std::shared_ptr<const raster::Picture> picture, Box pictureBox)
    : m_ghosts(std::move(ghosts)), m_items(std::move(items)), m_picture(std::move(picture)),
      m_pictureBox(pictureBox) {
    for (const SceneGhost& ghost : m_ghosts)
        m_box.include(ghost.box);
    if (m_picture)
        m_box.include(m_pictureBox);
    if (m_box.isEmpty())
        for (const SceneItem& item : m_items)
            m_box.include(geometry::bounds(geometry::transformed(*item.shape, item.map)));
}

std::shared_ptr<const std::vector<Scene::Flat>> Scene::flat(double pxPerMm) const {
    const int octave = static_cast<int>(std::ceil(std::log2(std::max(pxPerMm, 1e-3))));
    const std::lock_guard lock(m_guard);
    auto& kept = m_flat[octave];
    if (!kept) {
        const double tolerance = 0.25 / std::exp2(octave);
        auto made = std::make_shared<std::vector<Flat>>();
        made->reserve(m_items.size());
        for (const SceneItem& item : m_items) {
            Flat one{geometry::flatten(*item.shape, tolerance), {}};
            for (geometry::Polygon& ring : one.rings)
                for (Point& p : ring) {
                    p = item.map(p);
                    one.box.include(p);
                }
            made->push_back(std::move(one));
        }
        kept = std::move(made);
    }
    return kept;
}

int Scene::itemAt(Point p, double pxPerMm) const {
    const auto outlines = flat(pxPerMm);
    for (size_t i = m_items.size(); i-- > 0;)
        if ((*outlines)[i].box.contains(p) && geometry::contains((*outlines)[i].rings, p))
            return static_cast<int>(i);
    return -1;
}

Scene::Snap Scene::snapAt(Point p, double reachMm, double pxPerMm) const {
    const auto outlines = flat(pxPerMm);
    Snap best{p, Snap::Kind::Free};
    double least = reachMm;
    const auto offer = [&](Point at, Snap::Kind kind) {
        const double away = geometry::distance(at, p);
        if (away > reachMm || kind < best.kind || (kind == best.kind && away >= least))
            return;
        best = {at, kind};
        least = away;
    };
    for (size_t i = 0; i < m_items.size(); ++i) {
        if (!(*outlines)[i].box.grownBy(reachMm).contains(p))
            continue;
        const geometry::Shape shape = geometry::transformed(*m_items[i].shape, m_items[i].map);
        offer(geometry::bounds(shape).centre(), Snap::Kind::Centre);
        const auto nodes = [&](const geometry::Contour& contour) {
            for (const geometry::Segment& s : contour.segments)
                offer(s.end, Snap::Kind::Node);
        };
        nodes(shape.outline);
        for (const geometry::Contour& opening : shape.openings) {
            nodes(opening);
            offer(geometry::bounds(opening).centre(), Snap::Kind::Centre);
        }
        if (const auto edge = geometry::nearestOnEdge(shape, p))
            offer(edge->point, Snap::Kind::Edge);
    }
    return best;
}

/// Draws the picture by averaging over each pixel's footprint, sampled at most 4 x 4 times: enough for a
/// preview.
void Scene::renderPicture(std::vector<std::uint32_t>& pixels, double pxPerMm, Point cornerPx, int widthPx,
                          int heightPx) const {
    const double stepX = m_picture->width / (m_pictureBox.width() * pxPerMm),
                 stepY = m_picture->height / (m_pictureBox.height() * pxPerMm);
    const int samples = std::clamp(static_cast<int>(std::ceil(std::max(stepX, stepY))), 1, 4);
    const double fromX = (cornerPx.x - m_pictureBox.least.x * pxPerMm) * stepX,
                 fromY = (cornerPx.y - m_pictureBox.least.y * pxPerMm) * stepY;
    for (int y = 0; y < heightPx; ++y)
        for (int x = 0; x < widthPx; ++x) {
            std::uint32_t sum[3]{}, count = 0;
            for (int sy = 0; sy < samples; ++sy) {
                const double py = std::floor(fromY + (y + (sy + 0.5) / samples) * stepY);
                if (py < 0 || py >= m_picture->height)
                    continue;
                const std::uint8_t* row = m_picture->row(static_cast<int>(py));
                for (int sx = 0; sx < samples; ++sx) {
                    const double px = std::floor(fromX + (x + (sx + 0.5) / samples) * stepX);
                    if (px < 0 || px >= m_picture->width)
                        continue;
                    const std::uint8_t* c = row + static_cast<size_t>(px) * 3;
                    for (int i = 0; i < 3; ++i)
                        sum[i] += c[i];
                    ++count;
                }
            }
            if (count > 0)
                pixels[static_cast<size_t>(y) * static_cast<size_t>(widthPx) + static_cast<size_t>(x)] =
                    0xff000000u | (sum[0] / count) << 16 | (sum[1] / count) << 8 | (sum[2] / count);
        }
}

std::vector<std::uint32_t> Scene::render(double pxPerMm, Point cornerPx, int widthPx, int heightPx,
                                         raster::Rgb desk, raster::Rgb ink, raster::Rgb edge) const {
    raster::Canvas canvas(widthPx, heightPx, desk);
    const auto toPx = [&](Point p) { return p * pxPerMm - cornerPx; };
    const Box view{cornerPx * (1 / pxPerMm),
                   (cornerPx + Point{static_cast<double>(widthPx), static_cast<double>(heightPx)}) *
                       (1 / pxPerMm)};
    for (const SceneGhost& ghost : m_ghosts) {
        const Box& b = ghost.box;
        if (!b.meets(view))
            continue;
        const geometry::Polygons ring{
            {toPx(b.least), toPx({b.most.x, b.least.y}), toPx(b.most), toPx({b.least.x, b.most.y})}};
        canvas.fill(ring, ghost.tint);
        canvas.stroke(ring, 1, edge);
    }
    if (m_picture && m_pictureBox.meets(view)) {
        std::vector<std::uint32_t> pixels = canvas.pixels();
        renderPicture(pixels, pxPerMm, cornerPx, widthPx, heightPx);
        std::copy(pixels.begin(), pixels.end(), canvas.data());
    }
    const auto outlines = flat(pxPerMm);
    const double marginMm = 2 / pxPerMm;
    geometry::Polygons rings;
    for (size_t i = 0; i < m_items.size(); ++i) {
        const Flat& one = (*outlines)[i];
        if (!one.box.grownBy(marginMm).meets(view))
            continue;
        rings = one.rings;
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = toPx(p);
        canvas.fill(rings, m_items[i].fill);
        canvas.stroke(rings, m_items[i].isPinned ? 2.2 : 1.1, ink);
    }
    return canvas.pixels();
}

std::shared_ptr<const Scene> sceneOfPicture(const document::Job& job,
                                            std::shared_ptr<const raster::Picture> picture) {
    if (!job.artwork)
        return nullptr;
    const double width = job.pictureWidthMm,
                 height = width * job.artwork->heightPx / job.artwork->widthPx * job.artwork->pixelAspect;
    const Box box{{0, 0}, {width, height}};
    return std::make_shared<const Scene>(
        std::vector<SceneGhost>{{SceneGhost::Kind::Paper, box, kPaper, {}, {}, false}},
        std::vector<SceneItem>{}, std::move(picture), box);
}

std::shared_ptr<const Scene> sceneOfDesign(const document::Job& job,
                                           std::shared_ptr<const raster::Picture> picture) {
    if (!job.stack)
        return nullptr;
    const Box paper = paperBox(job);
    std::vector<SceneGhost> ghosts{{SceneGhost::Kind::Paper, paper, kPaper, {}, {}, false}};
    return std::make_shared<const Scene>(
        std::move(ghosts), picture ? std::vector<SceneItem>{} : itemsOfDesign(*job.stack), picture, paper);
}

std::shared_ptr<const Scene> sceneOfSize(const document::Job& job, const design::Formats& formats) {
    if (!job.stack)
        return nullptr;
    const Box design = design::measure(*job.stack).box;
    std::vector<SceneGhost> ghosts;
    // The largest first, so that the smaller lie on it; each with the design's upper left corner at its
    // usable one.
    struct Place {
        SceneGhost::Kind kind;
        double widthMm, heightMm, marginMm;
        QString name;
    };
    std::vector<Place> places;
    for (const design::MatFormat& mat : formats.mats)
        places.push_back({SceneGhost::Kind::Mat, mat.widthMm, mat.heightMm, mat.marginMm,
                          "mat " + QString::fromStdString(mat.name)});
    for (const design::SheetFormat& sheet : formats.sheets)
        if (!formats.mat(sheet.id))
            places.push_back({SceneGhost::Kind::Sheet, sheet.widthMm, sheet.heightMm, sheet.marginMm,
                              QString::fromStdString(sheet.name)});
    std::stable_sort(places.begin(), places.end(), [](const Place& a, const Place& b) {
        return a.widthMm * a.heightMm > b.widthMm * b.heightMm;
    });
    double shade = 0;
    for (const Place& place : places) {
        const Point corner{-place.marginMm, -place.marginMm};
        ghosts.push_back({place.kind,
                          {corner, corner + Point{place.widthMm, place.heightMm}},
                          mixed(kMat, kPaper, shade),
                          place.name,
                          {},
                          true});
        shade = std::min(0.9, shade + 0.2);
    }
    auto items = itemsOfDesign(*job.stack);
    for (SceneItem& item : items)
        item.map = Transform::move(design.least * -1);
    ghosts.push_back(
        {SceneGhost::Kind::Paper, {{0, 0}, {design.width(), design.height()}}, kPaper, {}, {}, false});
    return std::make_shared<const Scene>(std::move(ghosts), std::move(items), nullptr, Box{});
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

std::shared_ptr<const Scene> sceneOfSheets(const document::Job& job) {
    if (!job.stack || !job.arrangement)
        return nullptr;
    std::vector<SceneGhost> ghosts;
    std::vector<SceneItem> items;
    const design::Arrangement& arrangement = *job.arrangement;
    for (size_t l = 0; l < arrangement.loads.size(); ++l) {
        const design::Load& load = arrangement.loads[l];
        const Point corner = loadCorner(arrangement, l);
        size_t pieces = 0;
        for (const design::PlacedSheet& sheet : load.sheets)
            pieces += sheet.pieces.size();
        const QString stock =
            load.sheets.empty()
                ? QString()
                : QString::fromStdString(design::stockName(job.stocks, load.sheets.front().stockId));
        ghosts.push_back(
            {SceneGhost::Kind::Mat,
             {corner, corner + Point{load.mat.widthMm, load.mat.heightMm}},
             kMat,
             QStringLiteral("Load %1 of %2").arg(l + 1).arg(arrangement.loads.size()),
             QStringLiteral("%1 · %2 %3").arg(stock).arg(pieces).arg(pieces == 1 ? "piece" : "pieces"),
             false});
        for (const design::PlacedSheet& sheet : load.sheets) {
            const Point at = corner + Point{sheet.xMm, sheet.yMm};
            ghosts.push_back({SceneGhost::Kind::Sheet,
                              {at, at + Point{sheet.widthMm, sheet.heightMm}},
                              mixed(kMat, colourOf(*job.stack, sheet.stockId), 0.3),
                              {},
                              {},
                              false});
            for (const design::PlacedPiece& placed : sheet.pieces)
                if (const design::Piece* piece = design::findPiece(*job.stack, placed.what.piece))
                    items.push_back({piece->shape,
                                     design::placement(*piece->shape, placed).then(Transform::move(corner)),
                                     colourOf(*job.stack, sheet.stockId), placed.what.piece, placed.what.copy,
                                     static_cast<int>(l), placed.isPinned, placed});
        }
    }
    return std::make_shared<const Scene>(std::move(ghosts), std::move(items), nullptr, Box{});
}

} // namespace thinline::app
