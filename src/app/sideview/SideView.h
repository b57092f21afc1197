// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/sideview/CrossSection.h"

#include <QWidget>

#include <vector>

class QLabel;
class QStackedWidget;

namespace thinline::app {

class LayerControls;
class PieceControls;

/// The side view: the section at the left; at the right what can be said of the chosen layer, or of the pieces chosen
/// on the bench.
class SideView : public QWidget {
    Q_OBJECT
  public:
    explicit SideView(Workbench& bench, QWidget* parent = nullptr);
    void refresh();
    /// The pieces chosen on the bench; none brings the layer back.
    void showPieces(const std::vector<design::PieceId>& pieces);
    CrossSection* section() const { return m_section; }

  private:
    void showControls();
    bool isWholeLayer() const;
    CrossSection* m_section;
    QLabel* m_scale;
    QStackedWidget* m_controls;
    LayerControls* m_layer;
    PieceControls* m_pieces;
    Workbench& m_bench;
    std::vector<design::PieceId> m_chosen;
};

} // namespace thinline::app
