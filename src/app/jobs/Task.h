// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"

#include <QObject>
#include <QString>

#include <atomic>
#include <condition_variable>
#include <deque>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

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
    using Stop = std::shared_ptr<std::atomic<bool>>;
    struct ToDo {
        int serial = 0;
        Stop stop;
        Work work;
    };
    struct Heard {
        int serial = 0;
        double fraction = 0;
        QString doing;
    };
    struct Done {
        int serial = 0;
        Stop stop;
        Conclusion conclusion;
    };
    void labour();
    void hear(int serial, double fraction, std::string_view doing);
    /// Takes what the worker has left.
    Q_INVOKABLE void collect();

    // Between the threads, all under the one lock. It is not left to the event queue, so that what is handed over is seen to be
    // handed over, by people and by the thread sanitizer.
    std::mutex m_lock;
    std::condition_variable m_changed;
    std::deque<ToDo> m_toDo;
    std::optional<Heard> m_heard;
    std::vector<Done> m_done;
    bool m_isWorking = false, m_ends = false;
    std::thread m_worker; ///< begun with the first work

    // The interface thread's own.
    Stop m_stop;
    int m_serial = 0;
    bool m_isRunning = false;
    QString m_title;
};

} // namespace thinline::app
