// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Parameter.h"

#include <QDoubleSpinBox>
#include <QStringList>
#include <QWidget>

#include <optional>
#include <vector>

class QVBoxLayout;

namespace thinline::app {

/// A number with its unit; lengths are typed as people write them: "3.5", "1 1/2 in", "-2 cm".
class MeasureSpin : public QDoubleSpinBox {
    Q_OBJECT
  public:
    explicit MeasureSpin(base::Quantity quantity, QWidget* parent = nullptr);
    QValidator::State validate(QString& text, int& position) const override;
    double valueFromText(const QString& text) const override;
    QString textFromValue(double value) const override; ///< angles without idle zeros

  private:
    std::optional<double> read(const QString& text) const;
    base::Quantity m_quantity;
};

/// Fields for the declared parameters of a recipe, one row each: numbers with their unit, choices as lists.
class ParameterRows : public QWidget {
    Q_OBJECT
  public:
    explicit ParameterRows(QWidget* parent = nullptr);

    /// Builds the rows anew when the parameters are others, and shows values (missing ones are the usual ones).
    /// Does not emit.
    void show(const std::vector<base::Parameter>& parameters, const std::vector<double>& values);
    /// Hides the rows of some parameters, by their names, and shows all others.
    void hideRows(const std::vector<std::string>& names);
    /// Says of every row what it is for, in their order.
    void explain(const QStringList& whys);
    /// What the fields say; a value that was only shown is not rounded by that.
    std::vector<double> values() const;

  signals:
    void changed();

  private:
    struct Row {
        base::Parameter parameter;
        double kept = 0; ///< the value as it was shown
        QWidget* field = nullptr;
    };
    void build(const std::vector<base::Parameter>& parameters);
    QWidget* fieldFor(const base::Parameter& parameter);
    QVBoxLayout* m_lines;
    std::vector<Row> m_rows;
};

} // namespace thinline::app
