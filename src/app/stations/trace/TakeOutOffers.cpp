// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/TakeOutOffers.h"

#include "app/stations/Fields.h"

#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

TakeOutOffers::TakeOutOffers(QWidget* parent) : QWidget(parent), m_lines(new QVBoxLayout(this)) {
    m_lines->setContentsMargins(0, 0, 0, 0);
    m_lines->setSpacing(2);
    hide();
}

void TakeOutOffers::show(const job::Picture* picture, double mmPerPx) {
    const auto tracing = picture ? picture->tracing : nullptr;
    if (tracing == m_of)
        return;
    m_of = tracing;
    m_look.stop();
    offer({});
    if (tracing)
        m_look.start(
            tr("Looking for text in the picture"),
            [this, tracing, mmPerPx, mode = picture->recipe.mode](const base::Progress&) -> Task::Conclusion {
                return [this, found = trace::proposedToTakeOut(*tracing, mmPerPx, mode)] { offer(found); };
            });
}

void TakeOutOffers::offer(const std::vector<trace::TakeOut>& found) {
    emptyLayout(m_lines);
    setVisible(!found.empty());
    using Kind = trace::TakeOut::Kind;
    for (const trace::TakeOut& one : found) {
        const bool isCopy = one.kind == Kind::SecondCopy;
        const QString step = isCopy                         ? tr("Take the second one out")
                             : one.kind == Kind::PunchHoles ? tr("Take the punch holes out")
                                                            : tr("Take the text out");
        m_lines->addWidget(sentenceLabel(text(trace::takeOutText(one))));
        auto* button = linkButton(
            step, tr("It is covered before the picture is looked at; the picture itself stays whole"));
        connect(button, &QPushButton::clicked, this,
                [this, step, erasures = one.erasures] { emit wantsOut(step, erasures); });
        m_lines->addWidget(button, 0, Qt::AlignLeft);
    }
}

} // namespace thinline::app
