// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"

#include <QApplication>

namespace thinline::app {

/// The application, on whose thread nothing is computed while it serves an event.
class Application : public QApplication {
  public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        const base::Answering here;
        return QApplication::notify(receiver, event);
    }
};

} // namespace thinline::app
