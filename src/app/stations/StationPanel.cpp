// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/StationPanel.h"

#include <QAction>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

StationPanel::StationPanel(Station station, Workbench& bench, const Words& words, QWidget* parent)
    : QWidget(parent), m_station(station), m_bench(bench), m_controls(new QVBoxLayout), m_answer(new QFrame),
      m_answerRows(new QGridLayout), m_main(new QPushButton(words.mainButton)) {
    setObjectName("panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 14, 0, 16);
    column->setSpacing(8);

    auto* body = new QWidget;
    auto* lines = new QVBoxLayout(body);
    lines->setContentsMargins(20, 0, 20, 8);
    lines->setSpacing(4);
    lines->addWidget(sentenceLabel(words.question, "question"));
    lines->addWidget(sentenceLabel(words.help, "help"));
    lines->addSpacing(8);
    m_controls->setSpacing(8);
    lines->addLayout(m_controls);
    lines->addStretch(1);

    column->addWidget(scrolled(body), 1);

    m_answer->setObjectName("answer");
    auto* answerLines = new QVBoxLayout(m_answer);
    answerLines->setContentsMargins(12, 8, 12, 10);
    answerLines->setSpacing(4);
    auto* answerTitle = new QLabel(tr("Answer"));
    answerTitle->setObjectName("soft");
    answerLines->addWidget(answerTitle);
    m_answerRows->setVerticalSpacing(4);
    m_answerRows->setColumnStretch(0, 1);
    answerLines->addLayout(m_answerRows);
    auto* answerFrame = new QHBoxLayout;
    answerFrame->setContentsMargins(14, 0, 14, 4);
    answerFrame->addWidget(m_answer);
    column->addLayout(answerFrame);

    m_main->setObjectName("main");
    m_main->setMinimumHeight(36);
    auto* mainFrame = new QHBoxLayout;
    mainFrame->setContentsMargins(20, 0, 20, 0);
    mainFrame->addWidget(m_main);
    column->addLayout(mainFrame);
}

QString StationPanel::emptyText() const {
    return bench().hasPicture() ? tr("Nothing is traced yet: go to Source and trace the picture.")
                                : tr("Open a picture or a drawing, or add a word or a figure.");
}

QAction* StationPanel::offer(const QString& words, const QKeySequence& key,
                             const std::function<void()>& call) {
    auto* action = new QAction(words, this);
    action->setShortcut(key);
    addAction(action);
    connect(action, &QAction::triggered, this, [this, call] {
        emit wantsToBeHere();
        call();
    });
    return action;
}

ScenePtr StationPanel::kept(Values of, const std::function<ScenePtr()>& build) {
    of.push_back(bench().outlines()->prints()); // how printed pieces look comes in later
    if (of != m_sceneOf) {
        m_sceneOf = std::move(of);
        m_scene = build();
    }
    return m_scene;
}

StationPanel::Values StationPanel::valuesOfDesign(std::shared_ptr<const void> over) const {
    Values out{bench().made().finished, std::move(over)};
    for (const auto& source : bench().job().sources)
        out.push_back(source);
    for (const auto& source : bench().job().sources)
        if (source->id == bench().pictureInHand())
            out.push_back(source); // another one in hand is another view
    return out;
}

QWidget* StationPanel::addRow(const QString& label, QWidget* field, int fieldWidth) {
    QWidget* row = labelled(label, field, fieldWidth);
    m_controls->addWidget(row);
    return row;
}

QLabel* StationPanel::addHeading(const QString& text) {
    auto* label = new QLabel(text);
    label->setObjectName("heading");
    m_controls->addSpacing(4);
    m_controls->addWidget(label);
    return label;
}

QLabel* StationPanel::addNote() {
    QLabel* label = sentenceLabel({}, "soft");
    label->hide();
    m_controls->addWidget(label);
    return label;
}

std::pair<QLabel*, QPushButton*> StationPanel::addChoice() {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* words = new QLabel;
    QPushButton* none = linkButton(tr("Choose none"), tr("Choose none"));
    line->addWidget(words, 1);
    line->addWidget(none);
    m_controls->addWidget(row);
    return {words, none};
}

LengthField* StationPanel::addLength(const QString& label) {
    auto* field = new LengthField(label);
    addRow(label, field);
    return field;
}

void StationPanel::tell(QLabel* note, const QString& sentence) {
    note->setText(sentence);
    note->setVisible(!sentence.isEmpty());
}

void StationPanel::setAnswer(const QVector<std::pair<QString, QString>>& rows, const QString& why) {
    while (m_answerLabels.size() < rows.size()) {
        const int at = static_cast<int>(m_answerLabels.size());
        auto* left = new QLabel;
        auto* right = new QLabel;
        right->setObjectName("value");
        right->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        m_answerRows->addWidget(left, at, 0);
        m_answerRows->addWidget(right, at, 1);
        m_answerLabels.append(std::pair(left, right));
    }
    for (qsizetype i = 0; i < m_answerLabels.size(); ++i) {
        const auto [left, right] = m_answerLabels[i];
        const bool isOfUse = i < rows.size();
        left->setText(isOfUse ? rows[i].first : QString());
        right->setText(isOfUse ? rows[i].second : QString());
        for (QLabel* label : {left, right}) {
            label->setToolTip(why);
            label->setVisible(isOfUse);
        }
    }
}

QString StationPanel::sizeText(double widthMm, double heightMm) const {
    return QString::fromStdString(base::formatSize(widthMm, heightMm, m_bench.job().unit));
}

} // namespace thinline::app
