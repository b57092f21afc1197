// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Marks.h"
#include "app/bench/SectionHandles.h"
#include "app/bench/TileCache.h"
#include "base/Length.h"

#include <QPainterPath>
#include <QPoint>
#include <QWidget>

#include <functional>
#include <memory>

namespace thinline::app {

/// The bench: the work at true scale with rulers. Tiles are drawn by workers; what is stale is shown scaled
/// until fresh tiles arrive; marks, tools and labels are drawn live above them (docs/adr/0004).
///
/// Wheel zooms at the pointer, middle button or space drags, Home shows all, plus and minus zoom, arrows
/// scroll. What else the pointer does is the tool's.
class BenchView : public QWidget {
    Q_OBJECT
  public:
    explicit BenchView(QWidget* parent = nullptr);

    void setScene(std::shared_ptr<const Scene> scene, bool keepsView);
    const Scene* scene() const { return m_scene.get(); }
    /// What the pointer does; nothing when null. The tool must outlive its use.
    void setTool(Tool* tool);
    Tool* tool() const { return m_tool; }
    void setUnit(base::LengthUnit unit);
    /// What stands on the bench when there is no scene.
    void setEmptyText(const QString& text);
    /// Tells the text of the hover label for an item; empty for none.
    void setHoverText(std::function<QString(const SceneItem&)> text) { m_hoverText = std::move(text); }
    /// What is shown does not follow from the job any more: it is veiled, and tools rest.
    void setStale(bool isStale);

    void showAll();
    void zoomTo(const geometry::Box& boxMm);
    /// Marks a place until the pointer moves on to other things.
    void mark(const geometry::Box& boxMm);
    /// Shows pieces as chosen, the first one with a mark.
    void setChosen(std::vector<design::PieceId> pieces);
    /// Shows what would come out as a ghost over the work, bench mm; none when empty.
    void setGhost(const std::vector<geometry::Shape>& shapes);
    /// Shows the section line over the work; none hides it.
    void setSection(std::optional<design::SectionLine> line, const geometry::Box& work);
    const SectionHandles& section() const { return m_section; }
    /// Shows lines as chosen, and lines that would come; bench mm.
    void setLines(LineMarks lines);
    const LineMarks& lineMarks() const { return m_lineMarks; }
    bool hasGhost() const { return !m_ghost.isEmpty(); }
    const Marks& marks() const { return m_marks; }
    double pxPerMm() const { return m_pxPerMm; }
    BenchMap map() const { return {m_pxPerMm, m_corner, {kRulerPx, kRulerPx}}; }
    QPointF toWidget(geometry::Point mm) const { return map().toWidget(mm); }
    geometry::Point toBench(QPointF widget) const { return map().toBench(widget); }
    /// The piece under a place of the widget; null beside all.
    const SceneItem* itemUnder(QPointF widget) const;
    /// Whether every visible tile is drawn at the present zoom.
    bool isSharp() const;

  signals:
    void becameSharp();
    void sectionDragged(const thinline::design::SectionLine& line);

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
    void scrollBy(geometry::Point px);
    void setView(double pxPerMm, geometry::Point corner);
    void paintLabels(QPainter& painter);
    void paintRulers(QPainter& painter);
    void paintHover(QPainter& painter);
    void paintMarked(QPainter& painter);
    void paintChoice(QPainter& painter);
    void paintLineMarks(QPainter& painter);
    void paintPanels(QPainter& painter);
    void rebuildChoice();
    QRect benchRect() const;
    BenchPart part() const;
    bool startsPanning(QMouseEvent* event);
    void updateHover(QPointF at);
    void showBead(SectionHandles::Bead bead);
    bool showsHover() const;
    Pointer pointerAt(const QMouseEvent* event);
    bool hasTool() const { return m_tool && m_scene && !m_isStale; }
    QCursor ownCursor() const;

    std::shared_ptr<const Scene> m_scene;
    Tool* m_tool = nullptr;
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    QString m_emptyText;
    std::function<QString(const SceneItem&)> m_hoverText;
    bool m_isStale = false;

    double m_pxPerMm = 2;
    geometry::Point m_corner;  ///< mm at the bench's upper left
    bool m_followsSize = true; ///< the view shows all until the person zooms or scrolls
    TileCache m_tiles;
    Marks m_marks;

    int m_hovered = -1;
    QPainterPath m_hoverPath; ///< bench mm
    QString m_hoverWords;     ///< asked once, when the pointer comes to the item
    QPointF m_pointer;
    bool m_isPanning = false;
    bool m_isSpaceDown = false;
    QPointF m_panFrom;
    geometry::Point m_panCorner;
    geometry::Box m_marked;
    std::vector<design::PieceId> m_chosen;
    QPainterPath m_choice;                       ///< the chosen pieces, bench mm
    std::optional<geometry::Point> m_firstPlace; ///< where the first of several is marked
    QPainterPath m_ghost;                        ///< bench mm
    LineMarks m_lineMarks;
    SectionHandles m_section;
    SectionHandles::Bead m_bead = SectionHandles::Bead::None; ///< under the pointer
};

} // namespace thinline::app
