// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Scene.h"

#include <QHash>
#include <QImage>
#include <QObject>
#include <QPoint>
#include <QRect>

#include <condition_variable>
#include <deque>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

class QPainter;

namespace thinline::app {

/// What part of the bench is seen, and how large.
struct BenchPart {
    geometry::Point corner; ///< mm at the upper left
    double pxPerMm = 2;     ///< logical pixels
    double dpr = 1;         ///< device pixels per logical pixel
    QSize size;             ///< logical pixels

    double devicePxPerMm() const { return pxPerMm * dpr; }
};

/// The pictures of which the bench is put together. Workers draw tiles of one scene at one zoom; when either
/// changes, what was there stays as a stand-in, scaled, until the fresh tiles have arrived.
class TileCache : public QObject {
    Q_OBJECT
  public:
    explicit TileCache(QObject* parent = nullptr);
    ~TileCache() override;

    /// Shows another scene; `keepsStandIn` leaves the old one visible until the new one is drawn.
    void setScene(std::shared_ptr<const Scene> scene, bool keepsStandIn);
    /// Asks the workers for what the part needs and is not there yet.
    void request(const BenchPart& part);
    /// Draws what is there, its upper left corner at `at`.
    void paint(QPainter& painter, const BenchPart& part, QPoint at) const;
    /// Whether every tile of the part is drawn.
    bool isComplete(const BenchPart& part) const;

  signals:
    void arrived();

  private:
    QRect tilesOf(const BenchPart& part) const;
    void keepStandIn();
    void drop();
    /// What a worker does until the end.
    void labour();
    /// Takes what the workers have left.
    Q_INVOKABLE void collect();

    std::shared_ptr<const Scene> m_scene;
    BenchPart m_shown; ///< what was last asked for
    QHash<QPoint, QImage> m_tiles;
    QHash<QPoint, bool> m_asked;
    QImage m_standIn;
    BenchPart m_standInPart;
    int m_serial = 0; ///< tells apart what is wanted and what was

    struct Order {
        int serial = 0;
        QPoint at;
        std::shared_ptr<const Scene> scene;
        double zoom = 0; ///< device pixels to a mm
        raster::Rgb desk{}, hairline{};
    };
    struct Drawn {
        int serial = 0;
        QPoint at;
        std::vector<std::uint32_t> pixels;
    };
    // Between the threads, all under the one lock, as in Task.
    std::mutex m_lock;
    std::condition_variable m_changed;
    std::deque<Order> m_orders;
    std::vector<Drawn> m_drawn;
    bool m_ends = false;
    std::vector<std::thread> m_workers; ///< begun with the first order
};

} // namespace thinline::app
