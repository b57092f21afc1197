// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/SweepTool.h"
#include "app/stations/StationPanel.h"
#include "app/stations/trace/ClearPanel.h"
#include "app/stations/trace/LinesWay.h"
#include "app/stations/trace/PictureLook.h"
#include "app/stations/trace/TakeOutOffers.h"

#include <QTimer>

class QSlider;
class QStackedWidget;

namespace thinline::app {

class ColoursWay;
class StockChoice;
class TonesWay;

/// Which areas become which card? Three short pages: the areas and the stock to lay on them, what is taken out of the
/// picture first, fine points. Each way of looking at a picture has its own controls (TraceWay).
class TraceStation : public StationPanel {
    Q_OBJECT
  public:
    explicit TraceStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    void jobOpened() override;
    bool isOfUse() const override { return bench().hasPicture(); }
    bool isDone() const override;
    bool isSettled() const override { return !m_looker.isRunning() && m_look->isSettled() && m_offers->isSettled(); }
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Design; }
    Tool* tool() override;
    QString hoverLine(const SceneItem& item) const override;
    std::vector<geometry::Shape> ghost() const override { return m_foreseen; }
    bool mends(inspect::Kind kind) const override;

    /// The stock that a click lays on an area.
    std::string chosenStock() const;
    /// Lays the colours of a coloured copy of the drawing on its areas.
    void colourFrom(const QString& path);
    enum class Page { Areas, Clearing, More };
    void showPage(Page page);

  private:
    const job::Picture* picture() const;
    std::shared_ptr<const trace::Tracing> tracing() const;
    QWidget* buildAreas();
    QWidget* buildClearing();
    QWidget* buildMore();
    void connectWays();
    void editStocks();
    TraceWay* wayOf(trace::Mode mode) const;
    void change(const QString& name, const TraceWay::Change& change);
    void lookAhead(const trace::Recipe& recipe);
    void setGhost(std::vector<geometry::Shape> pieces);
    void paint(const SceneItem& item, bool isWholeGroup);
    size_t alikeCount(int area) const;
    geometry::Point toPicture(geometry::Point p) const;
    void closeGap(geometry::Point from, geometry::Point to);
    void takeOut(trace::Erasure::Kind kind, const std::vector<geometry::Point>& points, double widthMm);
    void turnTo(double degrees);
    void takeColour(geometry::Point at);
    void showAnswer();

    ToolButtons* m_tools;
    LinesWay* m_lines;
    ColoursWay* m_colours;
    TonesWay* m_tones;
    PictureLook* m_look;
    ClearPanel* m_clear;
    TakeOutOffers* m_offers;
    WordChoice* m_page;
    QStackedWidget* m_pages;
    WordChoice* m_mode;
    QSlider* m_leastArea;
    QLabel* m_leastAreaText;
    QLabel* m_dropped;
    StockChoice* m_stocks;
    LengthField* m_room;
    QLabel* m_note;
    SweepTool m_sweep;
    QTimer m_settle; ///< the least area traces when it has come to rest
    Task m_looker;
    std::vector<geometry::Shape> m_foreseen; ///< what a reduced copy of a large picture comes to
    mutable std::shared_ptr<const trace::Tracing>
        m_alikeIn; ///< what the last answer about alike areas was of
    mutable int m_alikeTo = 0;
    mutable size_t m_alike = 0;
};

} // namespace thinline::app
