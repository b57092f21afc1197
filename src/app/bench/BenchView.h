// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/TileCache.h"
#include "base/Length.h"
#include "geometry/Lines.h"

#include <QPainterPath>
#include <QPoint>
#include <QWidget>

#include <functional>
#include <memory>

namespace thinline::app {

/// The bench: the work at true scale with rulers. Tiles are drawn by workers; what is stale is shown scaled
/// until fresh tiles arrive; handles and labels are drawn live above them (docs/adr/0004).
///
/// Wheel zooms at the pointer, middle button or space drags, Home shows all, plus and minus zoom, arrows
/// scroll.
class BenchView : public QWidget {
    Q_OBJECT
  public:
    /// What a click means.
    enum class Mode { Look, Paint, CloseGap, Arrange, Choose, Measure, Box, Stroke };

    explicit BenchView(QWidget* parent = nullptr);

    void setScene(std::shared_ptr<const Scene> scene, bool keepsView);
    const Scene* scene() const { return m_scene.get(); }
    void setMode(Mode mode);
    Mode mode() const { return m_mode; }
    /// How wide a stroke is shown, bench mm.
    void setStrokeWidth(double mm) { m_strokeWidthMm = mm; }
    void setUnit(base::LengthUnit unit);
    /// What stands on the bench when there is no scene.
    void setEmptyText(const QString& text);
    /// Tells the text of the hover label for an item; empty for none.
    void setHoverText(std::function<QString(const SceneItem&)> text) { m_hoverText = std::move(text); }

    void showAll();
    void zoomTo(const geometry::Box& boxMm);
    /// Marks a place until the pointer moves on to other things.
    void mark(const geometry::Box& boxMm);
    /// Shows pieces as chosen, the first one with a mark.
    void setChosen(std::vector<design::PieceId> pieces);
    /// Shows what would come out as a ghost over the work, bench mm; none when empty.
    void setGhost(const std::vector<geometry::Shape>& shapes);
    /// Folds of the design, bench mm: a line with a bead at either end.
    void setFolds(const std::vector<geometry::Line>& folds);
    size_t folds() const { return m_folds.size(); }
    bool hasGhost() const { return !m_ghost.isEmpty(); }
    double pxPerMm() const { return m_pxPerMm; }
    QPointF toWidget(geometry::Point mm) const;
    geometry::Point toBench(QPointF widget) const;
    /// Whether every visible tile is drawn at the present zoom.
    bool isSharp() const;

  signals:
    void itemClicked(const SceneItem& item);
    /// Two clicks in Mode::CloseGap, bench mm.
    void gapClosed(geometry::Point from, geometry::Point to);
    /// A piece was dragged: its box's upper left corner on the bench, mm.
    void itemDragged(const SceneItem& item, geometry::Point corner);
    void itemDoubleClicked(const SceneItem& item);
    /// A click in Mode::Look or Mode::Choose anywhere, on a piece or beside all (0).
    void placeClicked(geometry::Point mm, design::PieceId piece);
    /// A piece was moved in Mode::Choose.
    void itemMoved(const SceneItem& item, geometry::Point by);
    /// A drag in Mode::Box (its two corners) or Mode::Stroke (the way of the pointer), bench mm.
    void dragDrawn(const std::vector<geometry::Point>& points);
    /// Two clicks in Mode::Measure, bench mm.
    void measured(geometry::Point from, geometry::Point to);
    void becameSharp();

  protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void keyReleaseEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;

  private:
    static constexpr int kRulerPx = 20;
    void zoomAt(QPointF widget, double factor);
    void setView(double pxPerMm, geometry::Point corner);
    void paintLabels(QPainter& painter);
    void paintRulers(QPainter& painter);
    void paintHover(QPainter& painter);
    void paintFolds(QPainter& painter);
    void paintHandles(QPainter& painter);
    void paintChoice(QPainter& painter);
    void rebuildChoice();
    QPainterPath outlineOf(int item, geometry::Point by) const;
    QRect benchRect() const;
    BenchPart part() const;
    void updateHover(QPointF at);
    QCursor ownCursor() const;

    std::shared_ptr<const Scene> m_scene;
    Mode m_mode = Mode::Look;
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    QString m_emptyText;
    std::function<QString(const SceneItem&)> m_hoverText;

    double m_pxPerMm = 2;
    geometry::Point m_corner;  ///< mm at the bench's upper left
    bool m_followsSize = true; ///< the view shows all until the person zooms or scrolls
    TileCache m_tiles;

    int m_hovered = -1;
    QPointF m_pointer;
    bool m_isPanning = false;
    bool m_isSpaceDown = false;
    QPointF m_panFrom;
    geometry::Point m_panCorner;
    void paintMeasure(QPainter& painter);
    void paintDrawn(QPainter& painter);
    bool isDrawing() const { return m_mode == Mode::Box || m_mode == Mode::Stroke; }
    Scene::Snap snapped(QPointF at) const;
    std::optional<geometry::Point> m_measureFrom, m_measureTo;
    std::optional<geometry::Point> m_gapStart;
    std::vector<geometry::Point> m_drawn; ///< of a box or stroke being dragged
    double m_strokeWidthMm = 3;
    int m_dragged = -1;
    geometry::Point m_dragStart;
    geometry::Point m_dragBy;
    bool m_isDragging = false;
    geometry::Box m_marked;
    std::vector<design::PieceId> m_chosen;
    QPainterPath m_choice;                       ///< the chosen pieces, bench mm
    std::optional<geometry::Point> m_firstPlace; ///< where the first of several is marked
    std::vector<QPainterPath> m_folds;           ///< bench mm
    QPainterPath m_ghost;                        ///< bench mm
};

} // namespace thinline::app
