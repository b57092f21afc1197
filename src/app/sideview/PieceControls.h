// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/sideview/CrossSection.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QPushButton;

namespace thinline::app {

/// What can be said of the pieces chosen on the bench, over their layer's: the layer they lie in, their own lift,
/// which side of them faces up, and whether the carrier of their stock is cut with them.
class PieceControls : public QWidget {
    Q_OBJECT
  public:
    PieceControls(Workbench& bench, CrossSection* section, QWidget* parent = nullptr);
    void show(const std::vector<design::PieceId>& pieces);
    void refresh();

  private:
    void connectControls();
    std::vector<const design::Laid*> laid() const;
    void tryTo(const QString& name, const base::Result<job::Job>& job);
    Workbench& m_bench;
    CrossSection* m_section;
    std::vector<design::PieceId> m_pieces;
    QLabel* m_words;
    QComboBox* m_layer;
    QDoubleSpinBox* m_lift;
    QComboBox* m_side;
    QCheckBox* m_through;
    QPushButton* m_asLayer;
    QPushButton* m_each;
};

} // namespace thinline::app
