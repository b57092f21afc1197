// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tray/Tray.h"

#include "app/settings/Theme.h"
#include "app/stations/Fields.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <memory>

namespace thinline::app {
namespace {

/// Full disc: spoils card. Half disc: risks card. Ring: note.
class Mark : public QWidget {
  public:
    explicit Mark(inspect::Severity severity) : m_severity(severity) {
        setFixedSize(14, 14);
        setAccessibleName(QString::fromStdString(inspect::severityName(severity)));
        setToolTip(accessibleName());
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        const Theme& t = theme();
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const QRectF disc(2, 2, 10, 10);
        const QColor colour = m_severity == inspect::Severity::SpoilsCard  ? t.spoils
                              : m_severity == inspect::Severity::RisksCard ? t.risks
                                                                           : t.soft;
        painter.setPen(QPen(colour, 1.4));
        painter.setBrush(m_severity == inspect::Severity::SpoilsCard ? QBrush(colour) : QBrush(Qt::NoBrush));
        painter.drawEllipse(disc);
        if (m_severity == inspect::Severity::RisksCard) {
            painter.setBrush(colour);
            painter.drawPie(disc, 90 * 16, 180 * 16);
        }
    }

  private:
    inspect::Severity m_severity;
};

} // namespace

Tray::Tray(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 8, 6, 6);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Findings"));
    title->setObjectName("soft");
    m_count = new QLabel;
    m_count->setObjectName("soft");
    head->addWidget(title, 1);
    head->addWidget(m_count);
    head->setContentsMargins(0, 0, 14, 0);
    column->addLayout(head);
    auto* body = new QWidget;
    m_rows = new QVBoxLayout(body);
    m_rows->setContentsMargins(0, 0, 6, 0);
    m_rows->setSpacing(0);
    column->addWidget(scrolled(body), 1);
    setAccessibleName(tr("Findings"));
}

void Tray::showFindings(const std::vector<inspect::Finding>& findings, Looked looked) {
    if (m_shown == std::pair(findings, looked))
        return;
    m_shown = {findings, looked};
    emptyLayout(m_rows);
    m_count->setText(findings.empty() ? QString() : tr("%1 open").arg(findings.size()));
    if (findings.empty()) {
        m_rows->addWidget(sentenceLabel(looked == Looked::Yes ? tr("Nothing found that would spoil card.")
                                        : looked == Looked::NotYet
                                            ? tr("Looking …")
                                            : tr("What would spoil card is said here before it is cut."),
                                        "soft"));
    }
    for (const inspect::Finding& finding : findings)
        addRow(finding);
    m_rows->addStretch(1);
}

void Tray::addRow(const inspect::Finding& finding) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 1, 0, 1);
    line->setSpacing(8);
    line->addWidget(new Mark(finding.severity), 0, Qt::AlignTop);
    QLabel* words = sentenceLabel(text(finding.message));
    words->setToolTip(text(finding.remedy));
    words->setStyleSheet("font-size: 12px");
    line->addWidget(words, 1);
    addStep(line, finding, words->text());
    m_rows->addWidget(row);
}

/// What can be done about a finding from here.
void Tray::addStep(QHBoxLayout* line, const inspect::Finding& finding, const QString& words) {
    if (finding.kind == inspect::Kind::StrayWish) {
        auto* forget = linkButton(tr("Forget"), tr("Forget: %1").arg(words));
        connect(forget, &QPushButton::clicked, this, &Tray::wantsToForgetStrays);
        line->addWidget(forget, 0, Qt::AlignTop);
        return;
    }
    if (!finding.mendWords.empty()) {
        auto* mend = linkButton(text(finding.mendWords), tr("%1: %2").arg(text(finding.mendWords), words));
        mend->setToolTip(text(finding.remedy));
        connect(mend, &QPushButton::clicked, this, [this, finding] { emit wantsToMend(finding); });
        line->addWidget(mend, 0, Qt::AlignTop);
    }
    auto* show = linkButton(tr("Show"), tr("Show: %1").arg(words));
    show->setToolTip(finding.cases.size() > 1
                         ? tr("Go to the place; again for the next of %1").arg(finding.cases.size())
                         : tr("Go to the place"));
    connect(show, &QPushButton::clicked, this, [this, finding, next = std::make_shared<size_t>(0)] {
        emit wantsToShow(finding, finding.cases[*next]);
        *next = (*next + 1) % finding.cases.size();
    });
    line->addWidget(show, 0, Qt::AlignTop);
}

} // namespace thinline::app
