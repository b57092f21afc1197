// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"

class QCheckBox;

namespace thinline::app {

/// Foam under what is lifted: whether it is laid, how large its spots are, and how many of which height it takes.
class FoamPanel : public QWidget {
    Q_OBJECT
  public:
    explicit FoamPanel(Workbench& bench, QWidget* parent = nullptr);
    void refresh();
    /// How many spots of which heights; nothing where none is laid.
    QVector<std::pair<QString, QString>> answer() const;

  signals:
    void refused(const QString& sentence);

  private:
    void change(const std::function<void(folds::FoamPlan&)>& change);
    Workbench& m_bench;
    QCheckBox* m_isAsked;
    LengthField* m_across;
    QWidget* m_acrossRow;
};

} // namespace thinline::app
