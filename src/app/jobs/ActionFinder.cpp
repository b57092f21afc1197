// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/ActionFinder.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

ActionFinder::ActionFinder(const QList<QAction*>& actions, QWidget* parent)
    : QDialog(parent), m_actions(actions) {
    setWindowTitle(tr("Find an action"));
    resize(460, 340);
    auto* column = new QVBoxLayout(this);
    m_typed = new QLineEdit;
    m_typed->setPlaceholderText(tr("What do you want to do?"));
    m_typed->setAccessibleName(tr("What do you want to do?"));
    m_typed->installEventFilter(this);
    m_list = new QListWidget;
    m_list->setAccessibleName(tr("Actions"));
    column->addWidget(m_typed);
    column->addWidget(m_list);
    connect(m_typed, &QLineEdit::textChanged, this, &ActionFinder::filter);
    connect(m_typed, &QLineEdit::returnPressed, this, &ActionFinder::runChosen);
    connect(m_list, &QListWidget::itemActivated, this, &ActionFinder::runChosen);
    filter({});
}

void ActionFinder::filter(const QString& typed) {
    m_list->clear();
    m_shown.clear();
    const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
    for (QAction* action : m_actions) {
        const bool isMeant = std::all_of(words.begin(), words.end(), [&](const QString& word) {
            return action->text().contains(word, Qt::CaseInsensitive);
        });
        if (!isMeant || !action->isEnabled() || action->text().isEmpty())
            continue;
        const QString key = action->shortcut().toString();
        m_list->addItem(key.isEmpty() ? action->text() : action->text() + "   " + key);
        m_shown.append(action);
    }
    if (m_shown.isEmpty())
        m_list->addItem(tr("No action has these words. Try another verb."));
    m_list->setCurrentRow(0);
}

void ActionFinder::runChosen() {
    const int row = m_list->currentRow();
    if (row < 0 || row >= m_shown.size())
        return;
    QAction* action = m_shown[row];
    accept();
    QTimer::singleShot(0, action, &QAction::trigger); // after this dialog is gone
}

bool ActionFinder::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_typed && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0) {
            m_list->setCurrentRow(
                std::clamp(m_list->currentRow() + step, 0, std::max(0, m_list->count() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace thinline::app
