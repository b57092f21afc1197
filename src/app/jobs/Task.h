// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"

#include <QObject>
#include <QString>
#include <QThreadPool>

#include <atomic>
#include <functional>
#include <memory>

namespace thinline::app {

/// One slot for long work: at most one piece of work counts at a time, a newer one replaces it. Work runs on
/// a thread of its own; what it returns is called on the interface thread, unless it was stopped or replaced.
class Task : public QObject {
    Q_OBJECT
  public:
    using Conclusion = std::function<void()>;
    using Work = std::function<Conclusion(const base::Progress&)>;

    explicit Task(QObject* parent = nullptr);
    ~Task() override;

    void start(const QString& title, Work work);
    /// Asks the work to end; its conclusion will not be called. Returns at once.
    void stop();
    /// Waits until nothing runs any more; conclusions of finished work are still delivered later.
    void wait();

    bool isRunning() const { return m_isRunning; }
    QString title() const { return m_title; }

  signals:
    void started();
    void progressed(double fraction, const QString& doing);
    void finished();

  private:
    QThreadPool m_pool;
    std::shared_ptr<std::atomic<bool>> m_stop;
    int m_serial = 0;
    bool m_isRunning = false;
    QString m_title;
};

} // namespace thinline::app
