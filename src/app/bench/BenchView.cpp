// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/BenchView.h"

#include "app/bench/Paths.h"

#include <QMouseEvent>

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace thinline::app {
namespace {

using geometry::Box;
using geometry::Point;

constexpr double kLeastZoom = 0.05,
                 kMostZoom = 200; // px per mm: a mat as a stamp, a needle's eye as a window

/// What is shown when all is to be seen: everything, but where mats and sheets lie on each other the work and
/// the smallest of them that holds it.
Box homeBox(const Scene& scene) {
    const bool areNested = std::any_of(scene.ghosts().begin(), scene.ghosts().end(),
                                       [](const SceneGhost& ghost) { return ghost.labelAtRight; });
    if (!areNested || scene.items().empty())
        return scene.box();
    Box work = scene.workBox();
    const SceneGhost* smallest = nullptr;
    for (const SceneGhost& ghost : scene.ghosts()) {
        const bool holds =
            ghost.labelAtRight && ghost.box.contains(work.least) && ghost.box.contains(work.most);
        if (holds && (!smallest || ghost.box.height() * ghost.box.width() <
                                       smallest->box.height() * smallest->box.width()))
            smallest = &ghost;
    }
    if (!smallest)
        return scene.box();
    work.include(smallest->box);
    return work;
}

} // namespace

BenchView::BenchView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAccessibleName(tr("Bench"));
    setAccessibleDescription(
        tr("The work at true scale. Arrows scroll, plus and minus zoom, Home shows all."));
    connect(&m_tiles, &TileCache::arrived, this, [this] {
        update();
        if (isSharp())
            emit becameSharp();
    });
}

QRect BenchView::benchRect() const {
    return rect().adjusted(kRulerPx, kRulerPx, 0, 0);
}

BenchPart BenchView::part() const {
    return {m_corner, m_pxPerMm, devicePixelRatioF(), benchRect().size()};
}

bool BenchView::isSharp() const {
    return m_tiles.isComplete(part());
}

// ---- what is shown -----------------------------------------------------------------------------------------

void BenchView::setScene(std::shared_ptr<const Scene> scene, bool keepsView) {
    m_scene = std::move(scene);
    m_tiles.setScene(m_scene, keepsView);
    m_marks.show(m_scene.get());
    rebuildChoice();
    m_hovered = -1;
    if (m_tool)
        m_tool->forget();
    if (!keepsView) {
        m_followsSize = true;
        m_marked = {};
    }
    if (m_followsSize)
        showAll();
    m_tiles.request(part());
    update();
}

void BenchView::setTool(Tool* tool) {
    if (m_tool == tool)
        return;
    if (m_tool)
        m_tool->forget();
    m_tool = tool;
    if (m_tool)
        m_tool->forget();
    setCursor(ownCursor());
    update();
}

void BenchView::setStale(bool isStale) {
    if (m_isStale == isStale)
        return;
    m_isStale = isStale;
    setCursor(ownCursor());
    update();
}

QCursor BenchView::ownCursor() const {
    return hasTool() && m_tool->isAimed() ? Qt::CrossCursor : Qt::ArrowCursor;
}

void BenchView::setUnit(base::LengthUnit unit) {
    if (m_unit == unit)
        return;
    m_unit = unit;
    update();
}

void BenchView::setChosen(std::vector<design::PieceId> pieces) {
    if (m_chosen == pieces)
        return;
    m_chosen = std::move(pieces);
    rebuildChoice();
    update();
}

/// Paths of what is chosen are made when the choice or the scene changes, not at every move of the mouse.
void BenchView::rebuildChoice() {
    m_choice = {};
    m_firstPlace.reset();
    if (!m_scene || m_chosen.empty())
        return;
    const std::unordered_map<design::PieceId, bool> isChosen = [&] {
        std::unordered_map<design::PieceId, bool> out;
        for (const design::PieceId id : m_chosen)
            out[id] = id == m_chosen.front();
        return out;
    }();
    for (const SceneItem& item : m_scene->items()) {
        const auto at = isChosen.find(item.piece);
        if (at == isChosen.end())
            continue;
        m_choice.addPath(pathOf(geometry::transformed(item.shape(), item.map)));
        if (at->second && m_chosen.size() > 1)
            m_firstPlace = item.map(geometry::pointInside(item.shape()));
    }
}

void BenchView::setGhost(const std::vector<geometry::Shape>& shapes) {
    if (m_ghost.isEmpty() && shapes.empty())
        return;
    m_ghost = {};
    for (const geometry::Shape& shape : shapes)
        m_ghost.addPath(pathOf(shape));
    update();
}

void BenchView::setLines(LineMarks lines) {
    if (m_lineMarks == lines)
        return;
    m_lineMarks = std::move(lines);
    update();
}

void BenchView::setSection(std::optional<design::SectionLine> line, const Box& work) {
    if (m_section.show(line, work))
        update();
}

void BenchView::setEmptyText(const QString& text) {
    if (m_emptyText == text)
        return;
    m_emptyText = text;
    update();
}

void BenchView::mark(const Box& box) {
    m_marked = box;
    update();
}

// ---- where it is looked at ---------------------------------------------------------------------------------

void BenchView::setView(double pxPerMm, Point corner) {
    m_pxPerMm = pxPerMm;
    // Tiles lie on whole device pixels, so the corner does too.
    const double zoom = part().devicePxPerMm();
    m_corner = {std::round(corner.x * zoom) / zoom, std::round(corner.y * zoom) / zoom};
    m_tiles.request(part());
    update();
}

void BenchView::showAll() {
    if (m_scene && !m_scene->box().isEmpty()) {
        zoomTo(homeBox(*m_scene));
        m_followsSize = true;
    }
}

void BenchView::zoomTo(const Box& box) {
    const QRect area = benchRect();
    constexpr double kSidePx = 24, kEndPx = 40; // above and below: labels
    const double fit = std::min((area.width() - 2 * kSidePx) / std::max(box.width(), 1e-3),
                                (area.height() - 2 * kEndPx) / std::max(box.height(), 1e-3));
    const double zoom = std::clamp(fit, kLeastZoom, 40.0);
    m_followsSize = false;
    setView(zoom, box.centre() - Point{area.width() / zoom / 2, area.height() / zoom / 2});
}

void BenchView::zoomAt(QPointF widget, double factor) {
    const Point under = toBench(widget);
    const double zoom = std::clamp(m_pxPerMm * factor, kLeastZoom, kMostZoom);
    m_followsSize = false;
    setView(zoom, under - Point{(widget.x() - kRulerPx) / zoom, (widget.y() - kRulerPx) / zoom});
}

void BenchView::scrollBy(Point px) {
    m_followsSize = false;
    setView(m_pxPerMm, m_corner + px * (1 / m_pxPerMm));
}

void BenchView::resizeEvent(QResizeEvent*) {
    if (m_followsSize)
        showAll();
    m_tiles.request(part());
}

void BenchView::wheelEvent(QWheelEvent* event) {
    constexpr double kNotch = 120;
    const double notches = event->angleDelta().y() / kNotch;
    if (m_tool && event->buttons().testFlag(Qt::LeftButton) && notches != 0 && m_tool->turn(notches))
        update();
    else if (m_scene && notches != 0)
        zoomAt(event->position(), std::pow(1.0015, event->angleDelta().y()));
    event->accept();
}

// ---- the pointer -------------------------------------------------------------------------------------------

void BenchView::updateHover(QPointF at) {
    m_pointer = at;
    const int before = m_hovered;
    m_hovered = m_scene && benchRect().contains(at.toPoint()) ? m_scene->itemAt(toBench(at), m_pxPerMm) : -1;
    if (m_hovered >= 0 && m_hovered != before) {
        const SceneItem& item = m_scene->items()[static_cast<size_t>(m_hovered)];
        m_hoverPath = pathOf(geometry::transformed(item.shape(), item.map));
        m_hoverWords = m_hoverText ? m_hoverText(item) : QString();
    }
    update();
}

bool BenchView::showsHover() const {
    return m_hovered >= 0 && !(m_tool && (m_tool->isAimed() || m_tool->isDragging()));
}

const SceneItem* BenchView::itemUnder(QPointF widget) const {
    const int item =
        m_scene && benchRect().contains(widget.toPoint()) ? m_scene->itemAt(toBench(widget), m_pxPerMm) : -1;
    return item >= 0 ? &m_scene->items()[static_cast<size_t>(item)] : nullptr;
}

Pointer BenchView::pointerAt(const QMouseEvent* event) {
    return {toBench(event->position()),
            m_scene.get(),
            m_hovered,
            event->buttons().testFlag(Qt::LeftButton),
            event->modifiers().testFlag(Qt::ShiftModifier),
            m_pxPerMm};
}

bool BenchView::startsPanning(QMouseEvent* event) {
    if (event->button() != Qt::MiddleButton && !(event->button() == Qt::LeftButton && m_isSpaceDown))
        return false;
    m_isPanning = true;
    m_panFrom = event->position();
    m_panCorner = m_corner;
    setCursor(Qt::ClosedHandCursor);
    return true;
}

/// Says what a bead of the section line is for while the pointer is on it.
void BenchView::showBead(SectionHandles::Bead bead) {
    if (bead == m_bead)
        return;
    m_bead = bead;
    setCursor(bead == SectionHandles::Bead::None ? ownCursor() : QCursor(Qt::SizeAllCursor));
    setToolTip(bead == SectionHandles::Bead::Move   ? tr("Drag to move the section line")
               : bead == SectionHandles::Bead::Turn ? tr("Drag to turn the section line")
                                                    : QString());
}

void BenchView::mousePressEvent(QMouseEvent* event) {
    if (!m_scene || !benchRect().contains(event->position().toPoint()) || startsPanning(event) ||
        event->button() != Qt::LeftButton)
        return;
    if (m_section.press(event->position(), map()))
        return update();
    updateHover(event->position());
    const auto scene = m_scene; // what the tool does may bring another one
    if (hasTool())
        m_tool->press(pointerAt(event));
    update();
}

void BenchView::mouseMoveEvent(QMouseEvent* event) {
    if (m_isPanning) {
        const QPointF by = event->position() - m_panFrom;
        m_followsSize = false;
        setView(m_pxPerMm, m_panCorner - Point{by.x() / m_pxPerMm, by.y() / m_pxPerMm});
        return;
    }
    if (m_section.isDragging()) {
        if (m_section.move(event->position(), map()))
            emit sectionDragged(*m_section.line());
        return update();
    }
    showBead(m_section.at(event->position(), map()));
    if (!(m_tool && m_tool->isDragging()))
        updateHover(event->position());
    const auto scene = m_scene;
    if (hasTool())
        m_tool->move(pointerAt(event));
    update();
}

void BenchView::mouseReleaseEvent(QMouseEvent* event) {
    if (m_isPanning) {
        m_isPanning = false;
        setCursor(ownCursor());
        return;
    }
    if (m_section.isDragging()) {
        m_section.release();
        return update();
    }
    const auto scene = m_scene;
    if (event->button() == Qt::LeftButton && hasTool())
        m_tool->release(pointerAt(event));
    update();
}

void BenchView::mouseDoubleClickEvent(QMouseEvent* event) {
    updateHover(event->position());
    const auto scene = m_scene;
    if (event->button() == Qt::LeftButton && hasTool())
        m_tool->pressTwice(pointerAt(event));
    update();
}

void BenchView::keyPressEvent(QKeyEvent* event) {
    constexpr double kStepPx = 40;
    const QPointF middle = QRectF(benchRect()).center();
    switch (event->key()) {
    case Qt::Key_Space:
        if (!event->isAutoRepeat()) {
            m_isSpaceDown = true;
            setCursor(Qt::OpenHandCursor);
        }
        return;
    case Qt::Key_Home:
        return showAll();
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoomAt(middle, 1.25);
    case Qt::Key_Minus:
        return zoomAt(middle, 0.8);
    case Qt::Key_Left:
        return scrollBy({-kStepPx, 0});
    case Qt::Key_Right:
        return scrollBy({kStepPx, 0});
    case Qt::Key_Up:
        return scrollBy({0, -kStepPx});
    case Qt::Key_Down:
        return scrollBy({0, kStepPx});
    case Qt::Key_Escape:
        if (m_tool)
            m_tool->forget();
        return mark({});
    default:
        QWidget::keyPressEvent(event);
    }
}

void BenchView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        m_isSpaceDown = false;
        setCursor(ownCursor());
    }
    QWidget::keyReleaseEvent(event);
}

void BenchView::leaveEvent(QEvent*) {
    m_hovered = -1;
    update();
}

} // namespace thinline::app
