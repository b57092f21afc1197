// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/CutSteps.h"

#include <QDialog>
#include <QVector>

class QCheckBox;
class QLabel;

namespace thinline::app {

/// A load's checklist, ticked off beside the machine.
class ChecklistDialog : public QDialog {
    Q_OBJECT
  public:
    ChecklistDialog(const QString& title, const job::Checklist& list, QWidget* parent = nullptr);

  signals:
    void wantsFile();

  private:
    void count();
    QVector<QCheckBox*> m_boxes;
    QLabel* m_left;
};

} // namespace thinline::app
