// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QString>

class QApplication;

namespace thinline::app {

/// The colours of the interface, by role. Stock colours are the card's own and are not among them.
struct Theme {
    bool isDark = false;
    QColor desk; ///< behind the work
    QColor panel;
    QColor hairline;
    QColor ink;    ///< text, cut lines
    QColor soft;   ///< text of lesser weight
    QColor accent; ///< the thread, focus, the main button
    QColor spoils; ///< findings that spoil card
    QColor risks;  ///< findings that risk it
    QColor answer; ///< answer block, mat
    QColor field;  ///< where one types

    static Theme light();
    static Theme dark();
};

/// The theme in use. Read by everything that paints; set once at start and when the person changes it.
const Theme& theme();

/// Loads the bundled typeface, sets palette, style and style sheet. Returns a sentence if the typeface is
/// missing.
QString applyTheme(QApplication& app, const Theme& wanted);

} // namespace thinline::app
