// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Tiles: how a hundred thousand nodes can be panned in two milliseconds a frame.
//
// Painting all outlines at every frame takes tens of milliseconds for a large design, whatever paints
// them. So the bench is painted once, in tiles of 256 device pixels, by threads behind the interface with
// our own rasteriser (which needs no painter and no lock), and a frame only copies the tiles it sees.
// Panning asks for the tiles that come in at the edge.
//
// Zooming changes every tile. Until the new ones arrive, what was seen last is drawn stretched: the
// stand-in. It is a picture of the whole view, made from whatever tiles there were, so zooming twice
// quickly stretches a picture that is already soft, but never shows an empty desk. It goes as soon as the
// view is complete. The same stand-in bridges a change of the scene, so that a click that paints a piece
// does not flash.
//
// Requests carry a serial number. A tile that nobody wants any more (the zoom went on) is not begun, and
// one that comes too late is thrown away. The number of tiles kept is bounded; when it is passed,
// everything is dropped and what is seen asked for again, which is simpler than deciding which tiles are
// old.
//
// Tiles lie on a grid of whole device pixels from the plane's origin. If they began at the view's corner,
// a pan by half a pixel would be another picture everywhere.
#include "app/bench/TileCache.h"

#include "app/settings/Theme.h"

#include <QPainter>

#include <cmath>
#include <utility>

namespace thinline::app {
namespace {

using geometry::Point;

constexpr int kTilePx = 256; // device pixels

raster::Rgb rgb(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue())};
}

} // namespace

TileCache::TileCache(QObject* parent) : QObject(parent) {}

TileCache::~TileCache() {
    {
        const std::lock_guard lock(m_lock);
        m_ends = true;
    }
    m_changed.notify_all();
    for (std::thread& worker : m_workers)
        worker.join();
}

void TileCache::setScene(std::shared_ptr<const Scene> scene, bool keepsStandIn) {
    keepStandIn();
    if (!keepsStandIn)
        m_standIn = {};
    m_scene = std::move(scene);
    drop();
}

void TileCache::keepStandIn() {
    if (!m_scene || m_tiles.isEmpty() || m_shown.size.isEmpty())
        return;
    QImage image(m_shown.size * m_shown.dpr, QImage::Format_RGB32);
    image.setDevicePixelRatio(m_shown.dpr);
    image.fill(theme().desk);
    QPainter painter(&image);
    paint(painter, m_shown, {0, 0});
    painter.end();
    m_standIn = std::move(image);
    m_standInPart = m_shown;
}

void TileCache::drop() {
    m_tiles.clear();
    m_asked.clear();
    ++m_serial;
    const std::lock_guard lock(m_lock);
    m_orders.clear();
}

QRect TileCache::tilesOf(const BenchPart& part) const {
    const double zoom = part.devicePxPerMm(), left = std::round(part.corner.x * zoom),
                 top = std::round(part.corner.y * zoom);
    const auto tile = [](double px) { return static_cast<int>(std::floor(px / kTilePx)); };
    return {QPoint(tile(left), tile(top)), QPoint(tile(left + part.size.width() * part.dpr - 1),
                                                  tile(top + part.size.height() * part.dpr - 1))};
}

void TileCache::request(const BenchPart& part) {
    if (part.devicePxPerMm() != m_shown.devicePxPerMm()) {
        keepStandIn();
        drop();
    }
    m_shown = part;
    if (!m_scene || part.size.isEmpty())
        return;
    constexpr qsizetype kMostTiles = 600; // 150 MB; enough for the largest screens several times over
    if (m_tiles.size() > kMostTiles) {
        keepStandIn();
        drop();
    }
    const QRect tiles = tilesOf(part);
    const std::lock_guard lock(m_lock);
    for (int y = tiles.top(); y <= tiles.bottom(); ++y)
        for (int x = tiles.left(); x <= tiles.right(); ++x) {
            const QPoint at(x, y);
            if (m_asked.contains(at))
                continue;
            m_asked.insert(at, true);
            m_orders.push_back({m_serial, at, m_scene, part.devicePxPerMm(), rgb(theme().desk), rgb(theme().hairline)});
        }
    constexpr size_t kWorkers = 2;
    while (!m_orders.empty() && m_workers.size() < kWorkers)
        m_workers.emplace_back([this] { labour(); });
    m_changed.notify_all();
}

void TileCache::labour() {
    constexpr raster::Rgb kInk{30, 42, 49};
    std::unique_lock lock(m_lock);
    while (true) {
        m_changed.wait(lock, [this] { return m_ends || !m_orders.empty(); });
        if (m_ends)
            return;
        Order order = std::move(m_orders.front());
        m_orders.pop_front();
        lock.unlock();
        const Point corner{static_cast<double>(order.at.x()) * kTilePx,
                           static_cast<double>(order.at.y()) * kTilePx};
        auto pixels =
            order.scene->render(order.zoom, corner, kTilePx, kTilePx, order.desk, kInk, order.hairline);
        order.scene.reset(); // it may be the last that holds it
        lock.lock();
        m_drawn.push_back({order.serial, order.at, std::move(pixels)});
        if (m_drawn.size() == 1) // else it was asked to collect already
            QMetaObject::invokeMethod(this, "collect", Qt::QueuedConnection);
    }
}

void TileCache::collect() {
    std::vector<Drawn> drawn;
    {
        const std::lock_guard lock(m_lock);
        drawn = std::exchange(m_drawn, {});
    }
    bool isAny = false;
    for (const Drawn& one : drawn) {
        if (one.serial != m_serial)
            continue;
        QImage image = QImage(reinterpret_cast<const uchar*>(one.pixels.data()), kTilePx, kTilePx, kTilePx * 4,
                              QImage::Format_RGB32)
                           .copy();
        image.setDevicePixelRatio(m_shown.dpr);
        m_tiles.insert(one.at, std::move(image));
        isAny = true;
    }
    if (!isAny)
        return;
    if (isComplete(m_shown))
        m_standIn = {};
    emit arrived();
}

bool TileCache::isComplete(const BenchPart& part) const {
    if (!m_scene)
        return true;
    const QRect tiles = tilesOf(part);
    for (int y = tiles.top(); y <= tiles.bottom(); ++y)
        for (int x = tiles.left(); x <= tiles.right(); ++x)
            if (!m_tiles.contains({x, y}))
                return false;
    return true;
}

void TileCache::paint(QPainter& painter, const BenchPart& part, QPoint at) const {
    if (!m_standIn.isNull()) {
        const double ratio = part.pxPerMm / m_standInPart.pxPerMm;
        const Point shift = (m_standInPart.corner - part.corner) * part.pxPerMm;
        painter.drawImage(QRectF(at.x() + shift.x, at.y() + shift.y, m_standInPart.size.width() * ratio,
                                 m_standInPart.size.height() * ratio),
                          m_standIn);
    }
    const QRect tiles = tilesOf(part);
    const double zoom = part.devicePxPerMm(), left = std::round(part.corner.x * zoom),
                 top = std::round(part.corner.y * zoom);
    for (int y = tiles.top(); y <= tiles.bottom(); ++y)
        for (int x = tiles.left(); x <= tiles.right(); ++x)
            if (const auto tile = m_tiles.constFind({x, y}); tile != m_tiles.constEnd())
                painter.drawImage(QPointF(at.x() + (x * kTilePx - left) / part.dpr,
                                          at.y() + (y * kTilePx - top) / part.dpr),
                                  *tile);
}

} // namespace thinline::app
