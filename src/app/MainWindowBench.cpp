// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What a click, a drag or a measure on the bench means at the station it happens in.
#include "app/MainWindow.h"

#include <QApplication>

#include <algorithm>
#include <cmath>

namespace thinline::app {

/// Asked at every move of the pointer, answered anew only where it comes to another area.
size_t MainWindow::alikeCount(design::PieceId piece) const {
    const auto& tracing = m_bench.job().tracing;
    if (m_alikeIn != tracing || m_alikeTo != piece) {
        m_alikeIn = tracing;
        m_alikeTo = piece;
        m_alike = trace::alike(*tracing, piece).size();
    }
    return m_alike;
}

QString MainWindow::hoverText(const SceneItem& item) const {
    const document::Job& job = m_bench.job();
    if (!job.stack)
        return {};
    const geometry::Box box = geometry::bounds(*item.shape);
    const design::Piece* piece = design::findPiece(*job.stack, item.piece);
    QString text = QString::fromStdString(design::pieceName(*job.stack, item.piece)) + "\n" +
                   QString::fromStdString(base::formatSize(box.width(), box.height(), job.unit));
    if (piece && piece->copies > 1)
        text += tr(" · %1 copies").arg(piece->copies);
    for (const inspect::Finding& f : m_bench.findings())
        if (f.piece == item.piece && f.kind != inspect::Kind::TooSmall)
            text += "\n" + QString::fromStdString(f.message);
    if (m_station == Station::Trace && job.tracing && item.piece > 0)
        if (const size_t count = alikeCount(item.piece); count > 1)
            text += tr("\nShift and click: all %1 alike").arg(count);
    if (m_station == Station::Source && design::sourceOf(item.piece))
        text += tr("\ndrag to move it");
    if (m_station == Station::Sheets)
        text += item.isPinned ? tr("\npinned; a double click lets it go") : tr("\ndrag to pin it");
    return text;
}

void MainWindow::clicked(const SceneItem& item) {
    const bool isWholeGroup = QApplication::keyboardModifiers().testFlag(Qt::ShiftModifier);
    if (m_station == Station::Sheets) {
        panel<SheetsStation>(Station::Sheets)->choosePiece(item.piece);
        return;
    }
    if (m_station == Station::Shape) {
        panel<ShapeStation>(Station::Shape)
            ->toggleGroup(isWholeGroup ? document::groupOf(m_bench.job(), item.piece)
                                       : std::vector{item.piece});
        return;
    }
    if (m_station == Station::Source) {
        if (const int number = design::sourceOf(item.piece))
            panel<SourceStation>(Station::Source)->choose(number);
        return;
    }
    if (m_station != Station::Trace || item.piece < 1)
        return;
    const std::string stock = panel<TraceStation>(Station::Trace)->chosenStock();
    std::vector<design::PieceId> areas{item.piece};
    if (isWholeGroup && m_bench.job().tracing)
        areas = trace::alike(*m_bench.job().tracing, item.piece);
    const auto needsPaint = [&](design::PieceId id) {
        const auto painted = m_bench.job().paint.find(id);
        return painted != m_bench.job().paint.end() && painted->second != stock;
    };
    if (std::none_of(areas.begin(), areas.end(), needsPaint))
        return;
    m_bench.apply(tr("Lay %1").arg(QString::fromStdString(design::stockName(m_bench.job().stocks, stock))),
                  document::painted(m_bench.job(), areas, stock));
}

void MainWindow::dragged(const SceneItem& item, geometry::Point corner) {
    if (item.load < 0 || !item.placed || !m_bench.job().arrangement)
        return;
    // The mat under the piece's middle; a piece dropped beside all mats stays on its own.
    const design::Arrangement& arrangement = *m_bench.job().arrangement;
    const geometry::Box box = geometry::bounds(geometry::transformed(*item.shape, item.map));
    const geometry::Point middle = corner + geometry::Point{box.width() / 2, box.height() / 2};
    size_t load = static_cast<size_t>(item.load);
    for (size_t i = 0; i < arrangement.loads.size(); ++i) {
        const geometry::Point at = loadCorner(arrangement, i);
        if (geometry::Box{
                at, at + geometry::Point{arrangement.loads[i].mat.widthMm, arrangement.loads[i].mat.heightMm}}
                .contains(middle))
            load = i;
    }
    const geometry::Point onMat = corner - loadCorner(arrangement, load);
    design::PlacedPiece placed = *item.placed;
    placed.what = {item.piece, item.copy};
    placed.xMm = onMat.x;
    placed.yMm = onMat.y;
    m_bench.run(tr("Pin a piece"), [placed, load](const document::Job& job, const base::Progress& progress) {
        return document::pinnedAt(job, placed, load, document::shippedCatalogue().formats, progress);
    });
}

void MainWindow::measure(bool isKnown) {
    if (!m_view->scene())
        return m_notice->tell(tr("There is nothing on the bench to measure yet."), true);
    m_isMeasuring = true;
    m_isKnownAsked = isKnown;
    m_view->setMode(BenchView::Mode::Measure);
    m_view->setFocus();
    m_notice->tell(tr("Click two points; nodes, edges and centres hold the tape. Esc ends it."), false);
}

void MainWindow::stopMeasuring() {
    if (!m_isMeasuring)
        return;
    m_isMeasuring = m_isKnownAsked = false;
    m_notice->hide();
    refreshScene();
}

void MainWindow::measured(geometry::Point from, geometry::Point to) {
    const double mm = geometry::distance(from, to);
    const auto words = [&](double length) {
        return QString::fromStdString(base::formatLength(std::abs(length), m_bench.job().unit));
    };
    if (!m_isKnownAsked)
        return m_notice->tell(
            tr("%1 apart: %2 across, %3 down.").arg(words(mm), words(to.x - from.x), words(to.y - from.y)),
            false);
    stopMeasuring();
    if (m_station == Station::Source)
        panel<SourceStation>(Station::Source)->measured(mm);
    else
        panel<SizeStation>(Station::Size)->measured(mm);
}

void MainWindow::moved(const SceneItem& item, geometry::Point by) {
    const document::Job& job = m_bench.job();
    if (m_station == Station::Source) {
        const auto* source = document::findSource(job, design::sourceOf(item.piece));
        if (!source)
            return m_notice->tell(
                tr("Only words, figures and drawings are moved here; move other pieces at Shape."), false);
        const geometry::Point to{source->at.x * job.scaleX + by.x, source->at.y * job.scaleY + by.y};
        return m_bench.run(
            tr("Move %1").arg(QString::fromStdString(source->name())),
            [number = source->number, to](const document::Job& now, const base::Progress& progress) {
                return document::withSourceAt(now, number, to, progress);
            });
    }
    auto pieces = panel<ShapeStation>(Station::Shape)->chosen();
    if (std::find(pieces.begin(), pieces.end(), item.piece) == pieces.end())
        pieces = {item.piece};
    const shape::Step step{shape::Action::Move, pieces, {by.x / job.scaleX, by.y / job.scaleY}};
    m_bench.run(tr("Move"), [step](const document::Job& now, const base::Progress& progress) {
        return document::withShapeStep(now, step, progress);
    });
}

void MainWindow::placeClicked(geometry::Point at, design::PieceId piece) {
    if (m_station == Station::Size)
        panel<SizeStation>(Station::Size)
            ->clicked(piece, at + document::designBox(m_bench.job()).least,
                      QApplication::keyboardModifiers().testFlag(Qt::ShiftModifier));
}

} // namespace thinline::app
