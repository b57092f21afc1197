// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Lines and zones over the tiles, drawn anew with every picture: they are few, and must be crisp at any zoom. Card is
// light or dark in both themes, so every line has a white rim and the colours are those of the light theme.
//
// A fold shows what will be made of it. Scored it is a line with a bead at either end; perforated it is the cuts themselves,
// with the bridges where they will be, by the same function that writes the file; left to a hand it is the pen's ticks. So a
// person sees before she cuts whether a bridge falls on a thin place. Of a piece with more than two hundred lines the folds
// alone are shown; nobody looks at ten thousand dashes.
#include "app/bench/Marks.h"

#include "app/bench/Paths.h"
#include "app/settings/Theme.h"
#include "design/Cuts.h"

#include <QPainter>

namespace thinline::app {
namespace {

QTransform painterMap(const geometry::Transform& t) {
    return {t.a, t.b, t.c, t.d, t.e, t.f};
}

/// How a line is drawn on the bench. A fold is a line with a bead at either end; what is cut is dark, what is drawn
/// or pressed is in the accent; dashes tell kinds apart where colours do not.
struct Look {
    QPen pen;
    bool hasBeads = false;
};

Look lookOf(const design::LineUse& use, double pxPerMm) {
    const QColor strong = Theme::light().accent,
                 dark = Theme::light().ink; // card is light or dark in both themes
    QPen pen(strong, 1.5, Qt::SolidLine, Qt::RoundCap);
    if (std::holds_alternative<design::Fold>(use))
        return {pen, true};
    if (std::holds_alternative<design::Score>(use)) {
        pen.setDashPattern({6, 2, 1, 2});
    } else if (std::holds_alternative<design::Slit>(use)) {
        pen = QPen(dark, 2);
    } else if (const auto* tear = std::get_if<design::Tear>(&use)) {
        pen = QPen(dark, 1.5, Qt::SolidLine, Qt::FlatCap);
        // As it will be cut, or a fine row of dashes where that would be too small to see.
        pen.setDashPattern(
            {std::max(2.0, tear->cutMm * pxPerMm / 1.5), std::max(2.0, tear->leftMm * pxPerMm / 1.5)});
    } else if (const auto* drawn = std::get_if<design::Pen>(&use)) {
        pen.setWidthF(std::max(1.0, drawn->widthMm * pxPerMm));
        pen.setColor(dark);
    } else {
        pen.setDashPattern({1, 3});
    }
    return {pen, false};
}

Qt::BrushStyle hatchOf(design::Zone::Kind kind) {
    switch (kind) {
    case design::Zone::Kind::Glue:
        return Qt::DiagCrossPattern;
    case design::Zone::Kind::Foam:
        return Qt::Dense6Pattern;
    case design::Zone::Kind::KeepFree:
        return Qt::HorPattern;
    case design::Zone::Kind::Way:
        return Qt::FDiagPattern;
    case design::Zone::Kind::KeepWhole:
        return Qt::NoBrush;
    }
    return Qt::NoBrush;
}

} // namespace

void Marks::show(const Scene* scene) {
    m_lines.clear();
    m_made.clear();
    m_zones.clear();
    if (!scene)
        return;
    for (const SceneItem& item : scene->items()) {
        if (item.body->isBare())
            continue;
        const QTransform map = painterMap(item.map);
        for (const design::PieceLine& line : item.body->lines)
            m_lines.push_back(
                {map.map(pathOf(line.path)), line.does,
                 item.foldsAs != design::FoldsAs::Score && std::holds_alternative<design::Fold>(line.does)});
        addFoldLines(item);
        for (const design::Zone& zone : item.body->zones)
            m_zones.push_back({map.map(pathOf(zone.area)), zone.kind});
    }
}

/// What the chosen tool does along the folds of a piece, with its true dashes; of more folds than anybody looks at one by
/// one the lines alone are shown.
void Marks::addFoldLines(const SceneItem& item) {
    constexpr size_t kMostFolds = 200;
    if (item.foldsAs == design::FoldsAs::Score || item.body->lines.size() > kMostFolds)
        return;
    std::vector<geometry::Line> lines;
    if (item.ticks) {
        lines = *item.ticks;
    } else {
        std::vector<geometry::Line> folds;
        for (const design::PieceLine& line : item.body->lines)
            if (std::holds_alternative<design::Fold>(line.does))
                folds.push_back(geometry::transformed(line.path, item.map));
        if (auto made = design::foldLines(folds, item.foldsAs, item.perforation))
            lines = made.take();
    }
    if (lines.empty())
        return;
    QPainterPath all;
    for (const geometry::Line& line : lines)
        all.addPath(pathOf(line));
    m_made.emplace_back(std::move(all), item.foldsAs);
}

void Marks::paint(QPainter& painter, const BenchMap& map) const {
    const QTransform toWidget = map.transform();
    const QColor strong = Theme::light().accent;
    for (const Zone& zone : m_zones) {
        QColor veil = strong;
        veil.setAlpha(130);
        painter.setBrush(QBrush(veil, hatchOf(zone.kind)));
        painter.setPen(QPen(strong, 1, Qt::DashLine));
        painter.drawPath(toWidget.map(zone.path));
    }
    painter.setBrush(Qt::NoBrush);
    for (const Line& line : m_lines) {
        const QPainterPath there = toWidget.map(line.path);
        const Look look = lookOf(line.does, map.pxPerMm);
        painter.setPen(QPen(QColor("#FFFFFF"), look.pen.widthF() + 2, Qt::SolidLine, Qt::RoundCap));
        painter.drawPath(there);
        if (!line.isFaint) {
            painter.setPen(look.pen);
            painter.drawPath(there);
        }
        if (!look.hasBeads)
            continue;
        painter.setPen(QPen(QColor("#FFFFFF"), 1));
        painter.setBrush(strong);
        constexpr double kBead = 3;
        painter.drawEllipse(there.pointAtPercent(0), kBead, kBead);
        painter.drawEllipse(there.pointAtPercent(1), kBead, kBead);
        painter.setBrush(Qt::NoBrush);
    }
    for (const auto& [path, as] : m_made) {
        const bool isCut = as == design::FoldsAs::Perforation;
        painter.setPen(QPen(isCut ? Theme::light().ink : strong, isCut ? 2 : 3, Qt::SolidLine, Qt::FlatCap));
        painter.drawPath(toWidget.map(path));
    }
}

} // namespace thinline::app
