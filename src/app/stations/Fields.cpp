// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Fields.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

QWidget* labelled(const QString& label, QWidget* field, int fieldWidth) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* text = new QLabel(label);
    text->setBuddy(field);
    line->addWidget(text, 1);
    if (fieldWidth > 0)
        field->setFixedWidth(fieldWidth);
    line->addWidget(field);
    return row;
}

QPushButton* linkButton(const QString& words, const QString& name) {
    auto* button = new QPushButton(words);
    button->setObjectName("link");
    button->setAccessibleName(name);
    return button;
}

void toggleAll(std::vector<design::PieceId>& chosen, const std::vector<design::PieceId>& pieces) {
    const auto isChosen = [&](design::PieceId id) {
        return std::find(chosen.begin(), chosen.end(), id) != chosen.end();
    };
    if (std::all_of(pieces.begin(), pieces.end(), isChosen)) {
        std::erase_if(chosen, [&](design::PieceId id) {
            return std::find(pieces.begin(), pieces.end(), id) != pieces.end();
        });
        return;
    }
    for (design::PieceId id : pieces)
        if (!isChosen(id))
            chosen.push_back(id);
}

void emptyLayout(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
}

KnownDistance::KnownDistance(QWidget* parent)
    : QWidget(parent), m_words(new QLabel), m_field(new LengthField(tr("It really is"))) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    m_words->setWordWrap(true);
    lines->addWidget(m_words);
    lines->addWidget(labelled(tr("It really is"), m_field));
    hide();
    connect(m_field, &LengthField::refused, this, &KnownDistance::refused);
    connect(m_field, &LengthField::entered, this, [this](double realMm) {
        hide();
        emit told(realMm / m_measuredMm);
    });
}

void KnownDistance::ask(double measuredMm, base::LengthUnit unit) {
    if (!(measuredMm > 0))
        return hide();
    m_measuredMm = measuredMm;
    m_words->setText(tr("These points are %1 apart now.")
                         .arg(QString::fromStdString(base::formatLength(measuredMm, unit))));
    m_field->showLength(measuredMm, unit);
    show();
    m_field->setFocus();
    m_field->selectAll();
}

} // namespace thinline::app
