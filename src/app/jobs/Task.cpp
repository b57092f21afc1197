// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Task.h"

#include <QElapsedTimer>
#include <QMetaObject>

namespace thinline::app {

Task::Task(QObject* parent) : QObject(parent) {
    m_pool.setMaxThreadCount(1);
}

Task::~Task() {
    if (m_stop)
        *m_stop = true;
    m_pool.waitForDone();
}

void Task::start(const QString& title, Work work) {
    if (m_stop)
        *m_stop = true; // a replaced work ends soon; its serial is out of date
    m_stop = std::make_shared<std::atomic<bool>>(false);
    const int serial = ++m_serial;
    m_title = title;
    m_isRunning = true;
    emit started();
    m_pool.start([this, serial, stop = m_stop, work = std::move(work)] {
        QElapsedTimer sinceTold;
        const base::Progress::Listener listener = [&](double fraction, std::string_view doing) {
            constexpr int kEveryMs = 50; // the interface need not hear more often
            if (sinceTold.isValid() && sinceTold.elapsed() < kEveryMs)
                return;
            sinceTold.start();
            QMetaObject::invokeMethod(
                this, [this, serial, fraction,
                       text = QString::fromUtf8(doing.data(), static_cast<qsizetype>(doing.size()))] {
                    if (serial == m_serial && m_isRunning)
                        emit progressed(fraction, text);
                });
        };
        Conclusion conclusion = work(base::Progress(stop.get(), &listener));
        QMetaObject::invokeMethod(this, [this, serial, stop, conclusion = std::move(conclusion)] {
            if (serial != m_serial || *stop)
                return;
            m_isRunning = false;
            emit finished();
            if (conclusion)
                conclusion();
        });
    });
}

void Task::stop() {
    if (!m_isRunning)
        return;
    *m_stop = true;
    m_isRunning = false;
    emit finished();
}

void Task::wait() {
    m_pool.waitForDone();
}

} // namespace thinline::app
