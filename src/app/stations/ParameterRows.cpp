// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ParameterRows.h"

#include "app/stations/Fields.h"
#include "base/Length.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <cstring>

namespace thinline::app {
namespace {

using base::Quantity;

bool isSame(const std::vector<base::Parameter>& a, const std::vector<base::Parameter>& b) {
    if (a.size() != b.size())
        return false;
    for (size_t i = 0; i < a.size(); ++i)
        if (std::strcmp(a[i].label, b[i].label) != 0 || a[i].quantity != b[i].quantity ||
            a[i].least != b[i].least || a[i].most != b[i].most)
            return false;
    return true;
}

} // namespace

MeasureSpin::MeasureSpin(base::Quantity quantity, QWidget* parent)
    : QDoubleSpinBox(parent), m_quantity(quantity) {
    setDecimals(2);
    setAlignment(Qt::AlignRight);
    setKeyboardTracking(false);
    setSuffix(QString::fromStdString(base::unitOf(quantity)));
    if (quantity == base::Quantity::Length)
        setToolTip(tr("Type 240 mm, 24,5 cm or 9 1/2 in, then Enter"));
}

std::optional<double> MeasureSpin::read(const QString& text) const {
    QString plain = text;
    if (plain.endsWith(suffix())) // it stands behind whatever is typed
        plain.chop(suffix().size());
    plain = plain.trimmed();
    if (m_quantity != base::Quantity::Length)
        return std::nullopt;
    const bool isNegative = plain.startsWith('-') || plain.startsWith(QChar(0x2212));
    if (isNegative)
        plain = plain.mid(1).trimmed();
    const auto length = base::parseLength(plain.toStdString(), base::LengthUnit::Millimetre);
    if (!length)
        return std::nullopt;
    return isNegative ? -length->inMm() : length->inMm();
}

QValidator::State MeasureSpin::validate(QString& text, int& position) const {
    if (const auto value = read(text))
        return *value >= minimum() && *value <= maximum() ? QValidator::Acceptable : QValidator::Intermediate;
    if (m_quantity == base::Quantity::Length &&
        QDoubleSpinBox::validate(text, position) == QValidator::Invalid)
        return QValidator::Intermediate; // "1 1/", "3 i": on the way to a length
    return QDoubleSpinBox::validate(text, position);
}

double MeasureSpin::valueFromText(const QString& text) const {
    const auto value = read(text);
    return value ? *value : QDoubleSpinBox::valueFromText(text);
}

QString MeasureSpin::textFromValue(double value) const {
    return m_quantity == base::Quantity::Angle ? QLocale::c().toString(value, 'g', 6)
                                               : QDoubleSpinBox::textFromValue(value);
}

ParameterRows::ParameterRows(QWidget* parent) : QWidget(parent), m_lines(new QVBoxLayout(this)) {
    m_lines->setContentsMargins(0, 0, 0, 0);
    m_lines->setSpacing(6);
}

QWidget* ParameterRows::fieldFor(const base::Parameter& p) {
    if (p.quantity == Quantity::Choice) {
        auto* box = new QComboBox;
        for (const std::string& word : base::choicesOf(p))
            box->addItem(tr(word.c_str()));
        connect(box, &QComboBox::currentIndexChanged, this, &ParameterRows::changed);
        return box;
    }
    if (p.quantity == Quantity::Count) {
        auto* box = new QSpinBox;
        box->setRange(static_cast<int>(p.least), static_cast<int>(p.most));
        box->setAlignment(Qt::AlignRight);
        connect(box, &QSpinBox::valueChanged, this, &ParameterRows::changed);
        return box;
    }
    auto* box = new MeasureSpin(p.quantity);
    box->setSingleStep(p.quantity == Quantity::Length ? 0.5 : p.quantity == Quantity::Angle ? 5 : 1);
    connect(box, &QDoubleSpinBox::valueChanged, this, &ParameterRows::changed);
    return box;
}

void ParameterRows::build(const std::vector<base::Parameter>& parameters) {
    m_rows.clear();
    emptyLayout(m_lines);
    for (const base::Parameter& p : parameters) {
        QWidget* field = fieldFor(p);
        field->setAccessibleName(tr(p.label));
        m_lines->addWidget(labelled(tr(p.label), field,
                                    p.quantity == Quantity::Count    ? 72
                                    : p.quantity == Quantity::Choice ? 144
                                                                     : 116));
        m_rows.push_back({p, 0, field});
    }
}

void ParameterRows::show(const std::vector<base::Parameter>& parameters, const std::vector<double>& values) {
    std::vector<base::Parameter> now;
    for (const Row& row : m_rows)
        now.push_back(row.parameter);
    const QSignalBlocker quiet(this);
    if (!isSame(now, parameters))
        build(parameters);
    for (size_t i = 0; i < m_rows.size(); ++i) {
        Row& row = m_rows[i];
        const base::Parameter& p = row.parameter;
        row.kept = i < values.size() ? values[i] : p.usual;
        if (auto* choice = qobject_cast<QComboBox*>(row.field)) {
            choice->setCurrentIndex(static_cast<int>(std::lround(row.kept)));
        } else if (auto* count = qobject_cast<QSpinBox*>(row.field)) {
            count->setValue(static_cast<int>(std::lround(row.kept)));
        } else if (auto* number = qobject_cast<QDoubleSpinBox*>(row.field)) {
            // Sizing may have led a value beyond what a person may ask for.
            number->setRange(std::min(p.least, row.kept), std::max(p.most, row.kept));
            number->setValue(row.kept);
        }
    }
}

void ParameterRows::hideRows(const std::vector<std::string>& names) {
    for (const Row& row : m_rows)
        row.field->parentWidget()->setVisible(std::find(names.begin(), names.end(), row.parameter.name) ==
                                              names.end());
}

void ParameterRows::explain(const QStringList& whys) {
    for (size_t i = 0; i < m_rows.size() && i < static_cast<size_t>(whys.size()); ++i) {
        m_rows[i].field->setToolTip(whys[static_cast<int>(i)]);
        m_rows[i].field->parentWidget()->setToolTip(whys[static_cast<int>(i)]);
    }
}

std::vector<double> ParameterRows::values() const {
    std::vector<double> out;
    for (const Row& row : m_rows) {
        if (auto* choice = qobject_cast<QComboBox*>(row.field))
            out.push_back(choice->currentIndex());
        else if (auto* count = qobject_cast<QSpinBox*>(row.field))
            out.push_back(count->value());
        else if (auto* number = qobject_cast<QDoubleSpinBox*>(row.field))
            out.push_back(std::abs(number->value() - row.kept) < 0.005 ? row.kept : number->value());
    }
    return out;
}

} // namespace thinline::app
