// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Recovery.h"

#include <QStringList>
#include <QWidget>

#include <vector>

class QVBoxLayout;

namespace thinline::app {

/// What stands on the bench before there is a job: the demo, a picture of one's own, recent jobs, lost work.
class StartPage : public QWidget {
    Q_OBJECT
  public:
    explicit StartPage(QWidget* parent = nullptr);
    void refresh(const QStringList& recent, const std::vector<document::Recovery::Lost>& lost);

  signals:
    void wantsDemo(const QString& file); ///< of the jobs that ship
    void wantsPicture();
    void wantsJob(const QString& path);
    void wantsRecovery(const thinline::document::Recovery::Lost& lost);
    void wantsForgetting(const thinline::document::Recovery::Lost& lost);

  private:
    QVBoxLayout* m_recent;
    QVBoxLayout* m_lost;
};

} // namespace thinline::app
