// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Task.h"

#include <QElapsedTimer>
#include <QMetaObject>

#include <utility>

namespace thinline::app {

Task::Task(QObject* parent) : QObject(parent) {}

Task::~Task() {
    if (m_stop)
        *m_stop = true;
    {
        const std::lock_guard hold(m_lock);
        m_ends = true;
        m_toDo.clear();
    }
    m_changed.notify_all();
    if (m_worker.joinable())
        m_worker.join();
}

void Task::start(const QString& title, Work work) {
    if (m_stop)
        *m_stop = true; // a replaced work ends soon; its serial is out of date
    m_stop = std::make_shared<std::atomic<bool>>(false);
    ++m_serial;
    m_title = title;
    m_isRunning = true;
    emit started();
    {
        const std::lock_guard hold(m_lock);
        m_toDo.push_back({m_serial, m_stop, std::move(work)});
    }
    if (!m_worker.joinable())
        m_worker = std::thread([this] { labour(); });
    m_changed.notify_all();
}

void Task::labour() {
    std::unique_lock hold(m_lock);
    while (true) {
        m_changed.wait(hold, [this] { return m_ends || !m_toDo.empty(); });
        if (m_ends)
            return;
        ToDo now = std::move(m_toDo.front());
        m_toDo.pop_front();
        m_isWorking = true;
        hold.unlock();

        QElapsedTimer sinceTold;
        const base::Progress::Listener listener = [&](double fraction, std::string_view doing) {
            constexpr int kEveryMs = 50; // the interface need not hear more often
            if (sinceTold.isValid() && sinceTold.elapsed() < kEveryMs)
                return;
            sinceTold.start();
            hear(now.serial, fraction, doing);
        };
        Done done{now.serial, now.stop, now.work(base::Progress(now.stop.get(), &listener))};
        now.work = {}; // what it held goes here, not on the interface thread

        hold.lock();
        m_done.push_back(std::move(done));
        m_isWorking = false;
        m_changed.notify_all();
        QMetaObject::invokeMethod(this, "collect", Qt::QueuedConnection);
    }
}

void Task::hear(int serial, double fraction, std::string_view doing) {
    {
        const std::lock_guard hold(m_lock);
        m_heard = {serial, fraction, QString::fromUtf8(doing.data(), static_cast<qsizetype>(doing.size()))};
    }
    QMetaObject::invokeMethod(this, "collect", Qt::QueuedConnection);
}

void Task::collect() {
    std::optional<Heard> heard;
    std::vector<Done> all;
    {
        const std::lock_guard hold(m_lock);
        heard = std::exchange(m_heard, std::nullopt);
        all = std::exchange(m_done, {});
    }
    if (heard && heard->serial == m_serial && m_isRunning)
        emit progressed(heard->fraction, heard->doing);
    // Only the newest can count. What it calls may start the next work, or be the end of this slot.
    if (all.empty() || all.back().serial != m_serial || *all.back().stop)
        return;
    const Done last = std::move(all.back());
    m_isRunning = false;
    emit finished();
    if (last.conclusion)
        last.conclusion();
}

void Task::stop() {
    if (!m_isRunning)
        return;
    *m_stop = true;
    m_isRunning = false;
    emit finished();
}

void Task::wait() {
    std::unique_lock hold(m_lock);
    m_changed.wait(hold, [this] { return m_toDo.empty() && !m_isWorking; });
}

} // namespace thinline::app
