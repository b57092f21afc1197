// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>

namespace thinline::app {

/// Writes words beside the pointer on a dark label, kept within a bench of this size.
void paintWords(QPainter& painter, QPointF pointer, const QString& words, QSize within);

} // namespace thinline::app
