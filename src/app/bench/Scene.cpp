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

geometry::Polygons mapped(const geometry::Polygons& rings, const Transform& map) {
    geometry::Polygons out = rings;
    for (geometry::Polygon& ring : out)
        for (Point& p : ring)
            p = map(p);
    return out;
}

} // namespace

Scene::Scene(std::shared_ptr<Outlines> outlines, std::vector<SceneGhost> ghosts, std::vector<SceneItem> items,
             ScenePicture picture, std::vector<geometry::Shape> frames)
    : m_outlines(std::move(outlines)), m_ghosts(std::move(ghosts)), m_items(std::move(items)),
      m_picture(std::move(picture)), m_frames(std::move(frames)) {
    m_boxes.reserve(m_items.size());
    const auto prints = m_outlines->prints();
    for (SceneItem& item : m_items)
        if (!item.body->faces.empty()) {
            if (item.placed)
                item.up = item.placed->pose.isFlipped ? design::Side::Back : design::Side::Front;
            item.print = prints->find(item.body.get(), item.up);
        }
    for (const SceneItem& item : m_items)
        m_boxes.push_back(geometry::transformed(m_outlines->box(item.body), item.map));
    m_box = workBox();
    for (const SceneGhost& ghost : m_ghosts)
        m_box.include(ghost.box);
    if (m_picture.pixels)
        m_box.include(m_picture.box);
}

Box Scene::workBox() const {
    Box out;
    for (const Box& box : m_boxes)
        out.include(box);
    return out;
}

geometry::Polygons Scene::outlineOf(size_t item, double pxPerMm) const {
    return mapped(*m_outlines->flat(m_items[item].body, pxPerMm), m_items[item].map);
}

int Scene::itemAt(Point p, double pxPerMm) const {
    for (size_t i = m_items.size(); i-- > 0;)
        if (m_boxes[i].contains(p) && geometry::contains(*m_outlines->flat(m_items[i].body, pxPerMm),
                                                         geometry::inverse(m_items[i].map)(p)))
            return static_cast<int>(i);
    return -1;
}

Scene::Snap Scene::snapAt(Point p, double reachMm) const {
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
        if (!m_boxes[i].grownBy(reachMm).contains(p))
            continue;
        const geometry::Shape shape = geometry::transformed(m_items[i].shape(), m_items[i].map);
        offer(geometry::bounds(shape).centre(), Snap::Kind::Centre);
        const auto nodes = [&](const geometry::Contour& contour) {
            Point from = contour.start;
            for (const geometry::Segment& s : contour.segments) {
                offer(s.end, Snap::Kind::Node);
                if (s.isLine)
                    offer(geometry::middle(from, s.end), Snap::Kind::Middle);
                from = s.end;
            }
        };
        nodes(shape.outline);
        for (const geometry::Contour& opening : shape.openings) {
            nodes(opening);
            offer(geometry::bounds(opening).centre(), Snap::Kind::Centre);
        }
        if (const auto edge = geometry::nearestOnEdge(shape, p))
            offer(edge->point, Snap::Kind::Edge);
        const Point own = geometry::inverse(m_items[i].map)(p); // maps of items keep lengths
        for (const design::PieceLine& line : m_items[i].body->lines) {
            if (!geometry::hullBox(line.path).grownBy(reachMm).contains(own))
                continue;
            const geometry::Line path = geometry::transformed(line.path, m_items[i].map);
            offer(path.start, Snap::Kind::Node);
            offer(geometry::endOf(path), Snap::Kind::Node);
            offer(geometry::middleOf(path), Snap::Kind::Middle);
            if (const auto on = geometry::nearestOnEdge({path, {}}, p, reachMm))
                offer(on->point, Snap::Kind::Edge);
        }
    }
    return best;
}

std::optional<Scene::LinePlace> Scene::lineAt(Point p, double reachMm) const {
    for (size_t i = m_items.size(); i-- > 0;) {
        if (!m_boxes[i].grownBy(reachMm).contains(p))
            continue;
        std::optional<LinePlace> nearest;
        double least = reachMm;
        const Point own = geometry::inverse(m_items[i].map)(p); // maps of items keep lengths
        const auto& lines = m_items[i].body->lines;
        for (size_t k = 0; k < lines.size(); ++k) {
            if (!geometry::hullBox(lines[k].path).grownBy(reachMm).contains(own))
                continue;
            if (const double away = geometry::distanceTo(lines[k].path, own); away <= least) {
                least = away;
                nearest = LinePlace{i, k};
            }
        }
        if (nearest)
            return nearest;
    }
    return std::nullopt;
}

/// Draws the picture by averaging over each pixel's footprint, sampled at most 4 x 4 times: enough for a
/// preview.
void Scene::renderPicture(std::vector<std::uint32_t>& pixels, double pxPerMm, Point cornerPx, int widthPx,
                          int heightPx) const {
    const raster::Picture& picture = *m_picture.pixels;
    // From the bench's pixels to the picture's.
    const Transform back = Transform::move(cornerPx)
                               .then(Transform::scale(1 / pxPerMm, 1 / pxPerMm))
                               .then(geometry::inverse(m_picture.map));
    const double step = std::max(std::hypot(back.a, back.b), std::hypot(back.c, back.d));
    const int samples = std::clamp(static_cast<int>(std::ceil(step)), 1, 4);
    for (int y = 0; y < heightPx; ++y)
        for (int x = 0; x < widthPx; ++x) {
            std::uint32_t sum[3]{}, count = 0;
            for (int sy = 0; sy < samples; ++sy)
                for (int sx = 0; sx < samples; ++sx) {
                    const Point p = back({x + (sx + 0.5) / samples, y + (sy + 0.5) / samples});
                    if (!(p.x >= 0 && p.x < picture.width && p.y >= 0 && p.y < picture.height))
                        continue;
                    const std::uint8_t* c = picture.row(static_cast<int>(p.y)) + static_cast<size_t>(p.x) * 3;
                    for (int i = 0; i < 3; ++i)
                        sum[i] += c[i];
                    ++count;
                }
            if (count > 0)
                pixels[static_cast<size_t>(y) * static_cast<size_t>(widthPx) + static_cast<size_t>(x)] =
                    0xff000000u | (sum[0] / count) << 16 | (sum[1] / count) << 8 | (sum[2] / count);
        }
}

/// Lays a print over its piece, as far as the piece covers a pixel.
void Scene::renderPrint(raster::Canvas& canvas, const geometry::Polygons& rings, const job::PrintLook& print,
                        const Transform& toPx) {
    raster::Canvas mask(canvas.width(), canvas.height(), {0, 0, 0});
    mask.fill(rings, {255, 255, 255});
    const raster::Picture& picture = *print.picture;
    const double perMm = picture.width / print.box.width();
    const Transform back = geometry::inverse(toPx)
                               .then(Transform::move(print.box.least * -1))
                               .then(Transform::scale(perMm, perMm));
    const double step = std::max(std::hypot(back.a, back.b), std::hypot(back.c, back.d));
    const int samples = std::clamp(static_cast<int>(std::ceil(step)), 1, 4);
    const Box box = geometry::bounds(rings);
    const auto pixel = [](double v, int most) {
        return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most)));
    };
    for (int y = pixel(std::floor(box.least.y), canvas.height());
         y < pixel(std::ceil(box.most.y), canvas.height()); ++y)
        for (int x = pixel(std::floor(box.least.x), canvas.width());
             x < pixel(std::ceil(box.most.x), canvas.width()); ++x) {
            const auto i =
                static_cast<size_t>(y) * static_cast<size_t>(canvas.width()) + static_cast<size_t>(x);
            const std::uint32_t cover = mask.pixels()[i] & 0xff;
            if (cover == 0)
                continue;
            std::uint32_t sum[3]{}, count = 0;
            for (int sy = 0; sy < samples; ++sy)
                for (int sx = 0; sx < samples; ++sx) {
                    const Point p = back({x + (sx + 0.5) / samples, y + (sy + 0.5) / samples});
                    const std::uint8_t* c = picture.row(pixel(p.y, picture.height - 1)) +
                                            static_cast<size_t>(pixel(p.x, picture.width - 1)) * 3;
                    for (int k = 0; k < 3; ++k)
                        sum[k] += c[k];
                    ++count;
                }
            std::uint32_t& to = canvas.data()[i];
            std::uint32_t mixed = 0xff;
            for (int k = 0; k < 3; ++k) {
                const std::uint32_t below = to >> (16 - 8 * k) & 0xff;
                mixed = mixed << 8 | ((below * (255 - cover) + sum[k] / count * cover + 127) / 255);
            }
            to = mixed;
        }
}

std::vector<std::uint32_t> Scene::render(double pxPerMm, Point cornerPx, int widthPx, int heightPx,
                                         raster::Rgb desk, raster::Rgb ink, raster::Rgb edge) const {
    raster::Canvas canvas(widthPx, heightPx, desk);
    const Transform toPx = Transform::scale(pxPerMm, pxPerMm).then(Transform::move(cornerPx * -1));
    const Box view{cornerPx * (1 / pxPerMm),
                   (cornerPx + Point{static_cast<double>(widthPx), static_cast<double>(heightPx)}) *
                       (1 / pxPerMm)};
    for (const SceneGhost& ghost : m_ghosts) {
        const Box& b = ghost.box;
        if (!b.meets(view))
            continue;
        geometry::Polygons rings{{b.least, {b.most.x, b.least.y}, b.most, {b.least.x, b.most.y}}};
        if (!ghost.rings.empty())
            rings = ghost.rings;
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = toPx(p);
        canvas.fill(rings, ghost.tint);
        canvas.stroke(rings, 1, edge);
    }
    if (m_picture.pixels && m_picture.box.meets(view)) {
        std::vector<std::uint32_t> pixels = canvas.pixels();
        renderPicture(pixels, pxPerMm, cornerPx, widthPx, heightPx);
        std::copy(pixels.begin(), pixels.end(), canvas.data());
    }
    const double marginMm = 2 / pxPerMm;
    for (const geometry::Shape& frame : m_frames)
        if (geometry::bounds(frame).grownBy(marginMm).meets(view))
            canvas.stroke(geometry::flatten(geometry::transformed(frame, toPx), 0.2), 1.1, ink);
    for (size_t i = 0; i < m_items.size(); ++i) {
        if (!m_boxes[i].grownBy(marginMm).meets(view))
            continue;
        const geometry::Polygons rings =
            mapped(*m_outlines->flat(m_items[i].body, pxPerMm), m_items[i].map.then(toPx));
        canvas.fill(rings, m_items[i].fill);
        if (m_items[i].print)
            renderPrint(canvas, rings, *m_items[i].print, m_items[i].map.then(toPx));
        canvas.stroke(rings, m_items[i].isPinned() ? 2.2 : 1.1, ink);
    }
    return canvas.pixels();
}

} // namespace thinline::app
