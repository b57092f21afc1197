// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

#include <QWidget>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QToolButton;

namespace thinline::app {

/// The cross-section: every layer's card at the heights where it comes to lie, with its lifts; layers that lie beside
/// one another are drawn beside one another. Layers are chosen here by click or by the up and down keys; H hides,
/// Alt+Up and Alt+Down reorder.
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
    /// The layer drawn or named at a point of the widget; 0 for none.
    design::LayerId layerAt(QPoint at) const;
    /// The middle of a layer's card, and of its name, for tests and tooltips.
    QPoint middleOf(design::LayerId layer) const;
    QString scaleText() const;

  signals:
    void layerChosen(thinline::design::LayerId layer);
    void wantsMove(int by);
    void wantsHide();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    /// A layer as it is drawn, bottom to top.
    struct Card {
        design::LayerId layer{};
        QString name, count;
        QColor colour;
        bool isHidden = false;
        double liftMm = 0;
        std::vector<design::Height> heights; ///< every one its pieces have, each once
        int slot = 0, shared = 1;            ///< beside what lies at the same height
        double lowest() const;
        double highest() const;
    };
    void giveSlots();
    std::vector<QRectF> cardsOf(const Card& card) const;
    QRectF labelOf(size_t card) const;
    double pxPerMm() const;
    void paintLabel(QPainter& painter, size_t card) const;
    Workbench& m_bench;
    std::vector<Card> m_cards;
    double m_lowestMm = 0, m_tallMm = 0;
    design::LayerId m_chosen{};
};

/// The side view: cross-section at the left, the chosen layer's stock, lift and place at the right.
class SideView : public QWidget {
    Q_OBJECT
  public:
    explicit SideView(Workbench& bench, QWidget* parent = nullptr);
    void refresh();
    CrossSection* section() const { return m_section; }

  private:
    QWidget* buildControls();
    void connectControls();
    void showStocks();
    void act(const QString& name, const std::function<job::Job(const job::Job&, design::LayerId)>& step);
    void move(int by);
    const design::Layer* layer() const;
    Workbench& m_bench;
    CrossSection* m_section;
    QLabel* m_scale;
    QWidget* m_controls;
    QLabel* m_name;
    QComboBox* m_stock;
    std::vector<design::Stock> m_shownStocks;
    QDoubleSpinBox* m_lift;
    QToolButton* m_up;
    QToolButton* m_down;
    QToolButton* m_hide;
};

} // namespace thinline::app
