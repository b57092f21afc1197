// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/TraceWay.h"

#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>

namespace thinline::app {

QPushButton* ToolButtons::add(const QString& words, const QString& hint, std::unique_ptr<Tool> tool) {
    auto* button = new QPushButton(words);
    button->setCheckable(true);
    button->setToolTip(hint);
    button->setAccessibleName(words);
    m_entries.push_back({button, std::move(tool)});
    connect(button, &QPushButton::toggled, this, [this, button](bool isOn) {
        if (isOn)
            for (const Entry& other : m_entries)
                if (other.button != button)
                    other.button->setChecked(false);
        emit changed();
    });
    return button;
}

Tool* ToolButtons::chosen() const {
    for (const Entry& entry : m_entries)
        if (entry.button->isChecked())
            return entry.tool.get();
    return nullptr;
}

void ToolButtons::release() {
    for (const Entry& entry : m_entries)
        entry.button->setChecked(false);
}

void ToolButtons::setEnabled(bool areEnabled) {
    for (const Entry& entry : m_entries)
        entry.button->setEnabled(areEnabled);
}

TraceWay::TraceWay(QObject* parent)
    : QObject(parent), m_plain(new QWidget), m_more(new QWidget), m_plainLines(new QVBoxLayout(m_plain)),
      m_moreLines(new QVBoxLayout(m_more)) {
    for (QVBoxLayout* lines : {m_plainLines, m_moreLines}) {
        lines->setContentsMargins(0, 0, 0, 0);
        lines->setSpacing(8);
    }
    constexpr int kRestMs = 250;
    m_settle.setSingleShot(true);
    m_settle.setInterval(kRestMs);
    connect(&m_settle, &QTimer::timeout, this, [this] {
        if (m_pending)
            std::exchange(m_pending, nullptr)();
    });
}

void TraceWay::offerShadow(QVBoxLayout* into, const job::Picture& picture, double mmPerPx) {
    if (!picture.tracing || !picture.tracing->shadow)
        return;
    const bool isOut = picture.tracing->shadow->isTakenOut;
    if (picture.recipe.darkPart != trace::DarkPart::Paint)
        into->addWidget(sentenceLabel(text(trace::shadowText(*picture.tracing->shadow, mmPerPx)), "help"));
    QPushButton* button = linkButton(isOut ? tr("It is paint: leave it as it is") : tr("It is a shadow: take it out"),
                                     isOut ? tr("What is darker there becomes areas of its own")
                                           : tr("Colours are the same there as in the light"));
    connect(button, &QPushButton::clicked, this, [this, isOut] {
        emit wants(isOut ? tr("Take a shadow for paint") : tr("Take a shadow out"), [isOut](trace::Recipe& recipe) {
            recipe.darkPart = isOut ? trace::DarkPart::Paint : trace::DarkPart::Shadow;
        });
    });
    into->addWidget(button, 0, Qt::AlignLeft);
}

void TraceWay::wantWhenSettled(const QString& step, Change change) {
    m_pending = [this, step, change = std::move(change)] { emit wants(step, change); };
    m_settle.start();
}

TraceWay::Slider TraceWay::addSlider(QVBoxLayout* lines, const QString& label, int least, int most,
                                     const QString& step,
                                     const std::function<void(trace::Recipe&, int)>& set) {
    Slider out;
    out.value = new QLabel;
    out.value->setAlignment(Qt::AlignRight);
    out.slider = new QSlider(Qt::Horizontal);
    out.slider->setRange(least, most);
    out.slider->setAccessibleName(label);
    auto* both = new QVBoxLayout;
    both->setSpacing(2);
    both->addWidget(labelled(label, out.value, 80));
    both->addWidget(out.slider);
    lines->addLayout(both);
    connect(out.slider, &QSlider::valueChanged, this, [this, step, set](int value) {
        wantWhenSettled(step, [set, value](trace::Recipe& recipe) { set(recipe, value); });
    });
    return out;
}

LengthField* TraceWay::addLength(QVBoxLayout* lines, const QString& label, const QString& hint,
                                 const QString& step, double trace::Recipe::*length, bool mayBeZero) {
    auto* field = new LengthField(label);
    if (mayBeZero)
        field->allowZero();
    field->setToolTip(hint);
    lines->addWidget(labelled(label, field));
    connect(field, &LengthField::entered, this, [this, step, length](double mm) {
        emit wants(step, [length, mm](trace::Recipe& recipe) { recipe.*length = mm; });
    });
    connect(field, &LengthField::refused, this, &TraceWay::refused);
    return field;
}

} // namespace thinline::app
