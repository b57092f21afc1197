// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/TopBar.h"

#include <QAction>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

constexpr int kHeight = 58;

/// A button that reads like a link and triggers an action.
QToolButton* actionButton(const QString& text, QAction* action) {
    auto* button = new QToolButton;
    button->setObjectName("link");
    button->setText(text);
    QObject::connect(button, &QToolButton::clicked, action, &QAction::trigger);
    return button;
}

/// Two lines in a box of fixed width, kept in the middle of the bar's height.
QWidget* boxed(QVBoxLayout* lines, int width) {
    auto* box = new QWidget;
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(0);
    lines->insertStretch(0, 1);
    lines->addStretch(1);
    box->setLayout(lines);
    box->setFixedWidth(width);
    return box;
}

} // namespace

TopBar::TopBar(Workbench& bench, const QMap<QString, QAction*>& actions, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_thread(new ThreadBar), m_job(new QToolButton), m_state(new QLabel),
      m_undo(actionButton(tr("Undo"), actions["undo"])), m_redo(actionButton(tr("Redo"), actions["redo"])) {
    setObjectName("topBar");
    setAttribute(Qt::WA_StyledBackground);
    setFixedHeight(kHeight);
    m_job->setObjectName("link");
    m_job->setToolTip(tr("Open, save and settings (Alt+J)"));
    m_job->setPopupMode(QToolButton::InstantPopup);
    m_job->setShortcut(QKeySequence(Qt::ALT | Qt::Key_J));
    m_job->setStyleSheet("font-size: 15px; text-align: left;");
    auto* menu = new QMenu(m_job);
    for (const char* name : {"open", "save", "saveAs", "", "demo", "theme", "", "quit"}) {
        if (*name)
            menu->addAction(actions[name]);
        else
            menu->addSeparator();
    }
    m_job->setMenu(menu);
    m_state->setObjectName("soft");
    m_state->setContentsMargins(10, 0, 0, 0); // in line with the name, which is a button
    auto* left = new QVBoxLayout;
    left->addWidget(m_job, 0, Qt::AlignLeft);
    left->addWidget(m_state);
    auto* steps = new QHBoxLayout;
    steps->addStretch(1);
    steps->addWidget(m_undo);
    steps->addWidget(m_redo);
    auto* find = actionButton(tr("Find an action"), actions["find"]);
    find->setToolTip(tr("Type what you want to do (Ctrl+K)"));
    auto* right = new QVBoxLayout;
    right->addLayout(steps);
    right->addWidget(find, 0, Qt::AlignRight);
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(12, 0, 12, 0);
    line->addWidget(boxed(left, 230));
    line->addWidget(m_thread, 1);
    line->addWidget(boxed(right, 130));
}

/// How large the work is; of parts that lie side by side, how many there are and the largest one.
QString TopBar::sizeWords() const {
    const job::Finished& finished = *m_bench.made().finished;
    const bool isOne = finished.parts.size() < 2;
    const geometry::Box box = isOne ? finished.measures.box : finished.parts.front();
    const QString size =
        QString::fromStdString(base::formatSize(box.width(), box.height(), m_bench.job().unit));
    return isOne ? size : tr("%1 parts, largest %2").arg(finished.parts.size()).arg(size);
}

void TopBar::refresh() {
    const job::Job& job = m_bench.job();
    m_job->setText(m_bench.hasJob() ? QString::fromStdString(job.name) : QStringLiteral("Thin Line"));
    QString state = tr("no job open");
    if (m_bench.hasJob()) {
        state = m_bench.isUnsaved() ? tr("not saved yet") : tr("saved");
        if (m_bench.hasPieces()) {
            state += " · " + sizeWords();
        }
    }
    m_state->setText(state);
    m_undo->setEnabled(m_bench.canUndo());
    m_redo->setEnabled(m_bench.canRedo());
    m_undo->setToolTip(m_bench.canUndo() ? tr("Take back: %1 (Ctrl+Z)").arg(m_bench.undoName())
                                         : tr("Nothing to take back (Ctrl+Z)"));
    m_redo->setToolTip(m_bench.canRedo() ? tr("Do again: %1 (Ctrl+Shift+Z)").arg(m_bench.redoName())
                                         : tr("Nothing to do again (Ctrl+Shift+Z)"));
}

} // namespace thinline::app
