// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Scene.h"

#include <QPointF>
#include <QTransform>

class QPainter;

namespace thinline::app {

/// Where the bench lies in its widget.
struct BenchMap {
    double pxPerMm = 2;
    geometry::Point corner; ///< mm at `origin`
    QPointF origin;         ///< widget

    QPointF toWidget(geometry::Point mm) const {
        return {(mm.x - corner.x) * pxPerMm + origin.x(), (mm.y - corner.y) * pxPerMm + origin.y()};
    }
    geometry::Point toBench(QPointF at) const {
        return {(at.x() - origin.x()) / pxPerMm + corner.x, (at.y() - origin.y()) / pxPerMm + corner.y};
    }
    /// From mm to the widget, for paths.
    QTransform transform() const {
        const QPointF zero = toWidget({});
        return {pxPerMm, 0, 0, pxPerMm, zero.x(), zero.y()};
    }
};

/// The pointer on the bench.
struct Pointer {
    geometry::Point at; ///< mm
    const Scene* scene = nullptr;
    int item = -1; ///< what lies there
    bool isHeld = false;
    bool withShift = false;
    double pxPerMm = 1;

    const SceneItem* on() const { return item < 0 ? nullptr : &scene->items()[static_cast<size_t>(item)]; }
};

/// What the pointer does on the bench. Told in mm, so that it is tested without a window; whoever owns it is called
/// back.
class Tool {
  public:
    virtual ~Tool() = default;
    virtual void press(const Pointer&) {}
    virtual void move(const Pointer&) {} ///< also while nothing is held
    virtual void release(const Pointer&) {}
    /// The wheel was turned by so many notches while something is held; false where that means nothing.
    virtual bool turn(double) { return false; }
    virtual void pressTwice(const Pointer& pointer) { press(pointer); }
    /// Forgets what was begun: another scene came, or the person thought better of it.
    virtual void forget() {}
    /// Draws what is being done above the bench.
    virtual void paint(QPainter&, const BenchMap&) const {}
    /// Whether it aims at places rather than at pieces: a cross, and no words about the piece below.
    virtual bool isAimed() const { return false; }
    /// Whether something is being dragged, so that words about it would be in the way.
    virtual bool isDragging() const { return false; }
};

} // namespace thinline::app
