// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Task.h"
#include "job/Source.h"
#include "trace/TakeOut.h"

#include <QWidget>

class QVBoxLayout;

namespace thinline::app {

/// What the picture shows besides its motif, looked for behind the interface: a click takes it out.
class TakeOutOffers : public QWidget {
    Q_OBJECT
  public:
    explicit TakeOutOffers(QWidget* parent = nullptr);
    /// Shows what is offered for a traced picture; nothing for null.
    void show(const job::Picture* picture, double mmPerPx);
    bool isSettled() const { return !m_look.isRunning(); }

  signals:
    void wantsOut(const QString& step, const std::vector<thinline::trace::Erasure>& erasures);

  private:
    void offer(const std::vector<trace::TakeOut>& found);
    Task m_look;
    std::shared_ptr<const trace::Tracing> m_of;
    QVBoxLayout* m_lines;
};

} // namespace thinline::app
