// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/PickTool.h"
#include "app/stations/ConstructionPanel.h"
#include "app/stations/SourcePanels.h"

class QDoubleSpinBox;

namespace thinline::app {

/// What do we start from? A picture to trace, drawings, words and figures; one of them is open below the list.
class SourceStation : public StationPanel {
    Q_OBJECT
  public:
    explicit SourceStation(Workbench& bench, QWidget* parent = nullptr);
    bool mends(inspect::Kind kind) const override {
        return kind == inspect::Kind::LinesNotSaid || kind == inspect::Kind::MayNotBeGiven ||
               kind == inspect::Kind::OtherCard || kind == inspect::Kind::JointOpen || kind == inspect::Kind::PanelsClash;
    }
    void refresh() override;
    void jobOpened() override;
    bool isDone() const override { return !bench().job().sources.empty(); }
    ScenePtr scene() override;
    Ground ground() const override;
    Tool* tool() override { return &m_tool; }
    QString hoverLine(const SceneItem& item) const override;
    void measured(double mm) override;

    /// The source that is open; 0 when there is none.
    job::SourceId open() const { return m_open; }
    void choose(job::SourceId source);
    void addWord();
    void addFigure();
    void addConstruction(const std::string& name);
    void makeSticker();
    /// Shows what is open here from flat to done.
    void seeFolded();
    /// Names from a list in the place of the word that is open.
    void setNames();

  signals:
    void wantsFile();
    void wantsAddition(); ///< another file into this job

  private:
    void buildAdding();
    void buildPicture();
    void buildPanels();
    void buildPlace();
    void buildLast();
    void connectPanels();
    void buildList();
    void addToList(const job::Source& source);
    void setWidth(job::SourceId source, double widthMm);
    void moved(const SceneItem& item, geometry::Point by);
    void goOn();
    void showOpen();
    geometry::Box placeOfOpen() const;
    void showStock(const job::Source& source);
    void showFacts(const job::Source& source);
    void showAnswer();
    void take(const QString& name, base::Result<job::Job> job);

    job::SourceId m_open{};
    job::SourceId m_wanted{}; ///< the source that comes next is to be opened
    PickTool m_tool;
    QVBoxLayout* m_list;
    QLabel* m_listHeading;
    QLabel* m_facts;
    QWidget* m_picture;
    LengthField* m_width;
    LengthField* m_height;
    QWidget* m_sticker;
    LengthField* m_rim;
    double m_rimMm = 2;
    WordPanel* m_word;
    FigurePanel* m_figure;
    ConstructionPanel* m_construction;
    DrawingPanel* m_drawing;
    KnownDistance* m_distance;
    QWidget* m_placing;
    PlaceFields* m_place;
    QDoubleSpinBox* m_turn;
    QPushButton* m_again;
    QWidget* m_stockRow;
    QComboBox* m_stock;
    QLabel* m_originHeading;
    OriginPanel* m_origin;
    QComboBox* m_unit;
    QLabel* m_note;
};

} // namespace thinline::app
