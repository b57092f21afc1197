// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"

class QCheckBox;
class QComboBox;
class QGridLayout;

namespace thinline::app {

/// Marks that show where upper pieces go: for which layers, and how they are made.
class MarksPanel : public QWidget {
    Q_OBJECT
  public:
    explicit MarksPanel(Workbench& bench, QWidget* parent = nullptr);
    void refresh();

  signals:
    void refused(const QString& sentence);

  private:
    void showLayers();
    void change(const std::function<void(folds::MarkPlan&)>& change);
    Workbench& m_bench;
    QGridLayout* m_layers;
    std::vector<std::pair<design::LayerId, std::string>> m_shown; ///< and what they are called
    std::vector<QCheckBox*> m_boxes;
    QWidget* m_how;
    QComboBox* m_as;
    WordChoice* m_by;
    LengthField* m_inset;
};

} // namespace thinline::app
