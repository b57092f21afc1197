// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/WindowFrame.h"

#include "app/settings/Theme.h"

#include <QAction>
#include <QHBoxLayout>
#include <QResizeEvent>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

constexpr int kColumnWidth = 304, kBottomHeight = 158;
constexpr int kTrayWidth = 350, kNarrowTray = 260, kNarrowWindow = 1100;

QFrame* hairline(bool isUpright) {
    auto* line = new QFrame;
    isUpright ? line->setFixedWidth(1) : line->setFixedHeight(1);
    line->setStyleSheet("background: " + theme().hairline.name());
    line->setObjectName("hairline");
    return line;
}

template <class Layout>
Layout* tight(Layout* lines) {
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(0);
    return lines;
}

} // namespace

WindowFrame::WindowFrame(Workbench& bench, const QMap<QString, QAction*>& actions,
                         const std::vector<StationPanel*>& panels)
    : top(new TopBar(bench, actions)), notice(new NoticeStrip), view(new BenchView), start(new StartPage),
      sideView(new SideView(bench)), tray(new Tray), m_column(new QStackedWidget),
      m_middle(new QStackedWidget) {
    for (StationPanel* panel : panels)
        m_column->addWidget(panel);
    m_column->setFixedWidth(kColumnWidth);
    m_middle->addWidget(view);
    m_middle->addWidget(start);
    auto* lines = tight(new QVBoxLayout(this));
    lines->addWidget(top);
    lines->addWidget(hairline(false));
    lines->addWidget(middle(bench), 1);
    setFocusPolicy(Qt::ClickFocus);
    CrossSection* section = sideView->section();
    connect(view, &BenchView::sectionDragged, section, &CrossSection::setLine);
    connect(section, &CrossSection::lineChanged, this, [this] { showSectionLine(m_hasSectionLine); });
}

void WindowFrame::showChoice(const std::vector<design::PieceId>& pieces,
                             const std::vector<geometry::Shape>& ghost, LineMarks lines) {
    view->setChosen(pieces);
    view->setGhost(ghost);
    view->setLines(std::move(lines));
    sideView->showPieces(pieces);
}

void WindowFrame::showSectionLine(bool isShown) {
    m_hasSectionLine = isShown;
    const CrossSection* section = sideView->section();
    view->setSection(isShown ? section->line() : std::nullopt, section->work());
}

QWidget* WindowFrame::middle(Workbench& bench) {
    auto* out = new QWidget;
    auto* line = tight(new QHBoxLayout(out));
    line->addWidget(m_column);
    line->addWidget(hairline(true));
    auto* work = tight(new QVBoxLayout);
    work->addWidget(notice);
    work->addWidget(m_middle, 1);
    work->addWidget(new BusyStrip(bench));
    work->addWidget(hairline(false));
    work->addWidget(bottom());
    line->addLayout(work, 1);
    return out;
}

QWidget* WindowFrame::bottom() {
    auto* out = new QWidget;
    out->setObjectName("bottom");
    out->setFixedHeight(kBottomHeight);
    auto* line = tight(new QHBoxLayout(out));
    tray->setFixedWidth(kTrayWidth);
    line->addWidget(sideView, 1);
    line->addWidget(hairline(true));
    line->addWidget(tray);
    return out;
}

void WindowFrame::showColumn(StationPanel* panel) {
    m_column->setCurrentWidget(panel);
}

void WindowFrame::showBench(bool hasJob) {
    m_middle->setCurrentWidget(hasJob ? static_cast<QWidget*>(view) : start);
}

void WindowFrame::recolour() {
    for (QFrame* line : findChildren<QFrame*>("hairline"))
        line->setStyleSheet("background: " + theme().hairline.name());
}

/// In a narrow window the tray gives its room to the side view.
void WindowFrame::resizeEvent(QResizeEvent* event) {
    tray->setFixedWidth(event->size().width() < kNarrowWindow ? kNarrowTray : kTrayWidth);
    QWidget::resizeEvent(event);
}

} // namespace thinline::app
