// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

#include <QFrame>
#include <QLineEdit>
#include <QVector>
#include <QWidget>

#include <utility>

class QFormLayout;
class QGridLayout;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace thinline::app {

/// A field for a length, typed as people write lengths. Tells only lengths that could be read; what could not
/// is marked, and the sentence why is its tooltip and `refused`.
class LengthField : public QLineEdit {
    Q_OBJECT
  public:
    LengthField(const QString& accessibleName, QWidget* parent = nullptr);

    /// Shows a length; does not emit.
    void showLength(double lengthMm, base::LengthUnit unit);
    /// Whether "0" is a length here.
    void allowZero() { m_mayBeZero = true; }

  signals:
    void entered(double lengthMm);
    void refused(const QString& sentence);

  private:
    void read();
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    double m_shownMm = -1;
    bool m_mayBeZero = false;
};

/// One station's instrument column: the question, a line of help, a few controls, the answer block, the main
/// button. Controls scroll; answer and button never leave the view.
class StationPanel : public QWidget {
    Q_OBJECT
  public:
    StationPanel(Workbench& bench, const QString& question, const QString& help, const QString& mainButton,
                 QWidget* parent = nullptr);

    /// Brings every control up to what the job says. Must not change the job.
    virtual void refresh() = 0;
    /// The station was entered or left.
    virtual void setActive(bool) {}

    QPushButton* mainButton() const { return m_main; }

  signals:
    /// The person is done here: on to the next station that is built.
    void done();

  protected:
    Workbench& bench() const { return m_bench; }
    QVBoxLayout* controls() const { return m_controls; }
    /// Adds "label .... field", the field `fieldWidth` wide at the right.
    QWidget* addRow(const QString& label, QWidget* field, int fieldWidth = 116);
    QLabel* addHeading(const QString& text);
    QLabel* addNote();
    LengthField* addLength(const QString& label);
    void setAnswer(const QVector<std::pair<QString, QString>>& rows, const QString& why = {});
    /// Shows `sentence` under a note label, or hides it when empty.
    static void tell(QLabel* note, const QString& sentence);

    QString sizeText(double widthMm, double heightMm) const;

  private:
    Workbench& m_bench;
    QVBoxLayout* m_controls;
    QFrame* m_answer;
    QGridLayout* m_answerRows;
    QPushButton* m_main;
};

} // namespace thinline::app
