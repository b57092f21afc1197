// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/StationPanel.h"

class QLayout;

/// Small parts that several stations are made of.
namespace thinline::app {

/// "label .... field" as one widget, the field `fieldWidth` wide at the right.
QWidget* labelled(const QString& label, QWidget* field, int fieldWidth = 116);

/// A flat button that reads like a link; `name` tells those who cannot see its place what it does.
QPushButton* linkButton(const QString& words, const QString& name);

/// Adds pieces to a choice, or lets them go when all of them are in it.
void toggleAll(std::vector<design::PieceId>& chosen, const std::vector<design::PieceId>& pieces);

/// Takes everything out of a layout for good.
void emptyLayout(QLayout* layout);

/// Asks how far apart two points really are, after they were clicked on the bench.
class KnownDistance : public QWidget {
    Q_OBJECT
  public:
    explicit KnownDistance(QWidget* parent = nullptr);
    void ask(double measuredMm, base::LengthUnit unit);

  signals:
    /// What was measured is to be this many times as long.
    void told(double factor);
    void refused(const QString& sentence);

  private:
    QLabel* m_words;
    LengthField* m_field;
    double m_measuredMm = 0;
};

} // namespace thinline::app
