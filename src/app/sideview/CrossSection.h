// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "design/Section.h"

#include <QWidget>

#include <optional>

namespace thinline::app {

/// The work seen from the side along a line across the bench: the pieces the line meets, at true heights, lying on one
/// another as they will, over their lifts. Beside it the layers, the uppermost at the top. A layer is chosen by a click
/// on either, or by the up and down keys; H hides, Alt+Up and Alt+Down reorder; left and right move the line, with Ctrl
/// they turn it. A card dragged onto another layer is laid in it.
class CrossSection : public QWidget {
    Q_OBJECT
  public:
    explicit CrossSection(Workbench& bench, QWidget* parent = nullptr);
    /// Takes up what follows from the job.
    void refresh();
    /// The chosen layer; of no job 0.
    design::LayerId chosen() const { return m_chosen; }
    void choose(design::LayerId layer);
    /// The layer above (1) or below (-1) a layer, or that layer itself where there is none.
    design::LayerId beside(design::LayerId layer, int by) const;
    /// The same among those on its side of the base: a layer is not moved past the base, its place is said.
    design::LayerId besideOnItsSide(design::LayerId layer, int by) const;
    /// The layer drawn or named at a point of the widget; 0 for none.
    design::LayerId layerAt(QPoint at) const;
    /// The middle of a layer's first card, or of its name where the line meets none, for tests and tooltips.
    QPoint middleOf(design::LayerId layer) const;
    QString scaleText() const;
    /// How a layer is spoken of, and whether nothing lies in it.
    QString nameOf(design::LayerId layer) const;
    bool isBare(design::LayerId layer) const;

    /// The line, and the frame of all pieces; none without pieces.
    std::optional<design::SectionLine> line() const;
    const geometry::Box& work() const { return m_work; }
    void setLine(const design::SectionLine& line);
    const design::Section& section() const { return m_section; }

  signals:
    void layerChosen(thinline::design::LayerId layer);
    void lineChanged();
    void wantsLaying(thinline::design::PieceId piece, thinline::design::LayerId layer);
    void wantsMove(int by);
    void wantsHide();

  protected:
    bool event(QEvent*) override;
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    /// A layer as it is listed, bottom to top.
    struct Row {
        design::LayerId layer{};
        QString name, count;
        QColor colour;
        bool isHidden = false;
        bool isInFront = true; ///< of the base, not behind it
    };
    void findSection();
    /// The row of a piece in the stack.
    const Row& rowOf(std::size_t piece) const;
    QRectF cardOf(const design::SectionSpan& span) const;
    /// What lies at a place: a span's index, or -1.
    int spanAt(QPoint at) const;
    QRectF labelOf(size_t row) const;
    double pxPerMm() const;
    void paintLabel(QPainter& painter, size_t row) const;
    void paintSpans(QPainter& painter) const;
    Workbench& m_bench;
    std::shared_ptr<const job::Finished> m_finished;
    std::vector<Row> m_rows;
    design::SectionLine m_line;
    design::Section m_section;
    geometry::Box m_work;
    design::LayerId m_chosen{};
    /// A card that is held, and where; it is dragged once the hand has gone some way.
    struct Held {
        design::PieceId piece;
        QPoint from;
        bool isDragged = false;
        design::LayerId over{}; ///< the layer under the pointer
    };
    std::optional<Held> m_held;
};

} // namespace thinline::app
