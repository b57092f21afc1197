// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Task.h"
#include "app/jobs/Workbench.h"
#include "app/stations/FontChoice.h"
#include "app/stations/ParameterRows.h"
#include "job/Constructions.h"

#include <QTimer>

class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace thinline::app {

/// The measures of a work made from measures, what follows from them, and the card it is made for.
class ConstructionPanel : public QWidget {
    Q_OBJECT
  public:
    explicit ConstructionPanel(Workbench& bench, QWidget* parent = nullptr);
    void show(const job::Source& source);

  signals:
    void changed(thinline::job::SourceId source, const construct::Given& given);
    void wantsFolded();
    void wantsNames(); ///< from a list, in the place of its word

  private:
    construct::Given said() const;
    void showNumbers(const construct::Built& built);

    Workbench& m_bench;
    job::SourceId m_source{};
    construct::Given m_shown;                             ///< in the fields
    std::pair<construct::Given, base::LengthUnit> m_told; ///< in the numbers below them
    QLabel* m_says;
    QLineEdit* m_word;
    FontChoice* m_font;
    QPushButton* m_names;
    ParameterRows* m_goesIn;
    QLabel* m_marginsHeading;
    ParameterRows* m_margins;
    QPushButton* m_folded;
    QLabel* m_card;
    QPushButton* m_anew;
    QLabel* m_numbersHeading;
    QGridLayout* m_numbers;
    QLabel* m_note;
    QTimer m_settle;
    Task m_teller;
};

} // namespace thinline::app
