// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAction>
#include <QDialog>
#include <QList>

class QLineEdit;
class QListWidget;

namespace thinline::app {

/// Type a few letters of what you want to do, Enter does it.
class ActionFinder : public QDialog {
    Q_OBJECT
  public:
    ActionFinder(const QList<QAction*>& actions, QWidget* parent);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void filter(const QString& typed);
    void runChosen();
    QList<QAction*> m_actions;
    QList<QAction*> m_shown;
    QLineEdit* m_typed;
    QListWidget* m_list;
};

} // namespace thinline::app
