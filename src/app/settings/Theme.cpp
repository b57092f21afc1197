// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/Theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QStyleFactory>

namespace thinline::app {
namespace {

Theme g_theme = Theme::light(); // NOLINT: one interface, one theme

QString styleSheet(const Theme& t) {
    const auto name = [](const QColor& c) { return c.name(); };
    const QColor onAccent = t.isDark ? QColor("#1C1B1E") : QColor("#FFFFFF");
    QString sheet = R"(
* { font-family: "Lato"; font-size: 13px; color: %ink; }
QWidget#panel, QWidget#topBar, QWidget#bottom, QScrollArea#panel, QWidget#panelBody { background: %panel; }
QLabel#question { font-size: 19px; font-weight: bold; }
QLabel#help, QLabel#soft { color: %soft; font-size: 12px; }
QLabel#heading { font-weight: bold; }
QLabel#warning { color: %spoils; font-size: 12px; }
QLabel#jobName { font-size: 15px; font-weight: bold; }
QFrame#answer { background: %answer; border-radius: 8px; }
QFrame#answer QLabel#value { font-weight: bold; }
QFrame#notice { background: %answer; border-bottom: 1px solid %hairline; }
QPlainTextEdit { background: %field; border: 1px solid %hairline; border-radius: 4px; padding: 2px 4px; selection-background-color: %accent; selection-color: %onAccent; }
QPlainTextEdit:focus { border: 1px solid %accent; }
QLineEdit, QComboBox, QAbstractSpinBox { background: %field; border: 1px solid %hairline; border-radius: 4px; padding: 4px 8px; min-height: 20px; selection-background-color: %accent; selection-color: %onAccent; }
QLineEdit:focus, QComboBox:focus, QAbstractSpinBox:focus { border: 1px solid %accent; }
QLineEdit[wrong="true"] { border: 1px solid %spoils; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/down-%mode.png); width: 9px; height: 9px; }
QComboBox QAbstractItemView { background: %field; border: 1px solid %hairline; selection-background-color: %accent; selection-color: %onAccent; }
QPushButton { background: %field; border: 1px solid %hairline; border-radius: 4px; padding: 6px 12px; font-weight: 600; }
QPushButton:hover { border-color: %soft; }
QPushButton:focus { border: 1px solid %accent; }
QPushButton:checked { background: %accent; color: %onAccent; border-color: %accent; }
QPushButton#word { font-weight: normal; padding: 6px 8px; }
QPushButton#word:checked { background: %answer; color: %ink; border: 2px solid %accent; font-weight: bold; }
QTableWidget { background: %field; border: 1px solid %hairline; selection-background-color: %answer; selection-color: %ink; }
QTableWidget::item { padding: 0px 6px; border-bottom: 1px solid %answer; }
QHeaderView::section { background: %panel; color: %soft; border: none; border-bottom: 1px solid %hairline; padding: 4px 9px; }
QPushButton:disabled { color: %soft; background: %panel; }
QPushButton#choice { text-align: left; font-weight: normal; padding: 4px 8px; }
QPushButton#choice:checked { background: %answer; color: %ink; border: 2px solid %accent; }
QPushButton#main { background: %accent; color: %onAccent; border: 1px solid %accent; padding: 8px 12px; }
QPushButton#main:hover { border-color: %ink; }
QPushButton#main:focus { border: 2px solid %ink; }
QPushButton#main:disabled { background: %hairline; border-color: %hairline; color: %soft; }
QPushButton#link, QToolButton#link { background: transparent; border: 1px solid transparent; color: %accent; font-weight: bold; padding: 2px 4px; }
QPushButton#link:hover, QToolButton#link:hover { text-decoration: underline; }
QPushButton#link:focus, QToolButton#link:focus { border: 1px solid %accent; border-radius: 4px; }
QPushButton#link:disabled, QToolButton#link:disabled { color: %soft; font-weight: normal; }
QToolButton#link::menu-indicator { image: none; }
QAbstractSpinBox::up-button, QAbstractSpinBox::down-button { width: 0; border: none; }
QCheckBox, QRadioButton { spacing: 8px; }
QRadioButton::indicator { width: 12px; height: 12px; border: 1px solid %soft; border-radius: 7px; background: %field; }
QRadioButton::indicator:checked { width: 4px; height: 4px; border: 5px solid %accent; background: %field; }
QRadioButton:focus { color: %accent; }
QCheckBox::indicator { width: 14px; height: 14px; border: 1px solid %soft; border-radius: 3px; background: %field; }
QCheckBox::indicator:checked { background: %accent; border-color: %accent; image: url(:/icons/tick-%mode.png); }
QCheckBox::indicator:focus, QCheckBox:focus { border-color: %accent; }
QSlider::groove:horizontal { height: 3px; background: %hairline; border-radius: 1px; }
QSlider::sub-page:horizontal { background: %accent; border-radius: 1px; }
QSlider::handle:horizontal { width: 10px; height: 10px; margin: -6px 0; background: %panel; border: 2px solid %accent; border-radius: 7px; }
QSlider::handle:horizontal:focus { background: %accent; }
QScrollArea { border: none; }
QScrollBar:vertical { background: transparent; width: 8px; }
QScrollBar::handle:vertical { background: %hairline; border-radius: 4px; min-height: 24px; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { height: 0; background: transparent; }
QMenu { background: %field; border: 1px solid %hairline; padding: 4px; }
QMenu::item { padding: 6px 16px; border-radius: 4px; }
QMenu::item:selected { background: %accent; color: %onAccent; }
QMenu::item:disabled { color: %soft; }
QMenu::separator { height: 1px; background: %hairline; margin: 4px 8px; }
QToolTip { background: %ink; color: %panel; border: none; padding: 4px 8px; }
QListWidget { background: %field; border: 1px solid %hairline; border-radius: 4px; outline: none; }
QListWidget::item { padding: 6px 8px; }
QListWidget::item:selected { background: %accent; color: %onAccent; }
QDialog, QMessageBox, QFileDialog { background: %panel; }
QTreeView, QListView { background: %field; border: 1px solid %hairline; }
QHeaderView::section { background: %panel; border: none; padding: 4px; }
)";
    const std::pair<const char*, QColor> roles[] = {
        {"%onAccent", onAccent}, {"%ink", t.ink},           {"%soft", t.soft},
        {"%panel", t.panel},     {"%hairline", t.hairline}, {"%accent", t.accent},
        {"%spoils", t.spoils},   {"%answer", t.answer},     {"%field", t.field}};
    sheet.replace(QLatin1String("%mode"), t.isDark ? "dark" : "light");
    for (const auto& [role, colour] : roles)
        sheet.replace(QLatin1String(role), name(colour));
    return sheet;
}

} // namespace

Theme Theme::light() {
    return {false,     "#E6E4E0", "#F8F6F2", "#D0CBC3", "#1E2A31", "#5C6A70",
            "#64305E", "#C8472B", "#A87412", "#F1EEE8", "#FFFFFF"};
}

Theme Theme::dark() {
    return {true,      "#1C1B1E", "#27252A", "#3B383F", "#ECE7DF", "#A9A39B",
            "#C08DB9", "#F0795C", "#E0B25A", "#302D33", "#201E22"};
}

const Theme& theme() {
    return g_theme;
}

QString applyTheme(QApplication& app, const Theme& wanted) {
    g_theme = wanted;
    static const bool hasFont = [] {
        bool isLoaded = true;
        for (const char* face :
             {":/fonts/Lato-Regular.ttf", ":/fonts/Lato-Semibold.ttf", ":/fonts/Lato-Bold.ttf"})
            isLoaded = QFontDatabase::addApplicationFont(face) >= 0 && isLoaded;
        return isLoaded;
    }();
    QFont font("Lato");
    font.setPixelSize(13);
    font.setHintingPreference(QFont::PreferNoHinting); // the same picture on every screen
    app.setFont(font);
    app.setStyle(QStyleFactory::create("Fusion"));
    QPalette palette;
    palette.setColor(QPalette::Window, wanted.panel);
    palette.setColor(QPalette::WindowText, wanted.ink);
    palette.setColor(QPalette::Base, wanted.field);
    palette.setColor(QPalette::AlternateBase, wanted.answer);
    palette.setColor(QPalette::Text, wanted.ink);
    palette.setColor(QPalette::Button, wanted.panel);
    palette.setColor(QPalette::ButtonText, wanted.ink);
    palette.setColor(QPalette::Highlight, wanted.accent);
    palette.setColor(QPalette::HighlightedText, wanted.isDark ? QColor("#1C1B1E") : QColor("#FFFFFF"));
    palette.setColor(QPalette::PlaceholderText, wanted.soft);
    app.setPalette(palette);
    app.setStyleSheet(styleSheet(wanted));
    return hasFont
               ? QString()
               : QStringLiteral(
                     "The interface typeface could not be loaded; the program looks different but works.");
}

} // namespace thinline::app
