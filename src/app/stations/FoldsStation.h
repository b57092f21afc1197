// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/LineTools.h"
#include "app/stations/FoamPanel.h"
#include "app/stations/MarksPanel.h"
#include "app/stations/PanelRows.h"
#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"
#include "app/stations/StepList.h"
#include "folds/Steps.h"

#include <QTimer>

#include <optional>

class QComboBox;

namespace thinline::app {

/// Where does it fold, and where is it glued? Lines are laid by two clicks or along an edge, chosen on the bench, and
/// changed many at once.
class FoldsStation : public StationPanel {
    Q_OBJECT
  public:
    explicit FoldsStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    bool isOfUse() const override { return false; } ///< most work has no folds: nobody is led here unasked
    bool isDone() const override;
    bool isSettled() const override {
        return !m_settle.isActive() && !m_preview.isRunning() && m_panels->isSettled();
    }
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Design; }
    Tool* tool() override;
    std::vector<design::PieceId> chosen() const override { return m_pieces; }
    std::vector<geometry::Shape> ghost() const override;
    LineMarks lineMarks() const override;
    bool mends(inspect::Kind kind) const override;

    /// Chooses what is done, and the lines or pieces it is done to.
    void choose(folds::Action action, const std::vector<design::PieceId>& pieces = {});
    const std::vector<design::LineOf>& chosenLines() const { return m_lines; }

  private:
    void buildControls();
    const folds::ActionInfo& info() const;
    bool takesPieces() const {
        return info().action == folds::Action::AlongSides || info().action == folds::Action::DrawOn;
    }
    bool takesWindows() const { return info().action == folds::Action::Panes; }
    bool takesMotifs() const { return info().action == folds::Action::FitMotif; }
    bool takesPanels() const { return info().action == folds::Action::SayPanel; }
    void showControls(const std::vector<double>& values);
    std::vector<double> valuesOfChosen() const;
    void hideIdleRows();
    folds::DrawnLine drawnAs() const;
    void lineDrawn(const SceneItem& on, geometry::Point from, geometry::Point to);
    void edgeClicked(const SceneItem& of, geometry::Point at);
    void picked(const Pointer& pointer, const design::PieceLine* line);
    void pickLines(const SceneItem* item, const design::PieceLine* line);
    void pickWindows(const Pointer& pointer);
    void showStocks();
    qsizetype chosenCount() const;
    const design::Piece* pieceOf(design::PieceId id) const;
    std::optional<design::Step> stepNow() const;
    base::Result<std::vector<folds::MotifPair>> motifsChosen() const;
    std::map<std::string, design::Value> saidNow() const;
    void preview();
    struct Foreseen;
    void showForeseen(const Foreseen& seen);
    void runStep(const design::Step& step);
    void take();
    void openAgain(size_t step);
    void close();
    void dropGoneLines();
    void showAnswer();

    QLabel* m_choiceText;
    QPushButton* m_none;
    QComboBox* m_action;
    class QLineEdit* m_words;
    ParameterRows* m_values;
    QLabel* m_hint;
    QComboBox* m_stock; ///< of panes and linings
    QWidget* m_stockRow;
    QLabel* m_note;
    QLabel* m_told; ///< how motifs would lie
    PanelRows* m_panels;
    MarksPanel* m_marks;
    FoamPanel* m_foam;
    QLabel* m_foldsAsHeading;
    WordChoice* m_foldsAs;
    QLabel* m_stepsHeading;
    StepList* m_steps;

    LineTool m_lineTool;
    EdgeTool m_edgeTool;
    PickLineTool m_pickTool;
    std::vector<design::LineOf> m_lines;
    std::vector<design::PieceId> m_pieces;
    std::vector<design::OpeningOf> m_windows;
    std::vector<double> m_shownValues; ///< of the chosen lines, as they are
    std::vector<geometry::Line> m_ghost;
    std::vector<geometry::Line> m_holds;  ///< where a motif would hold
    std::optional<size_t> m_open;         ///< the step that is open again
    std::optional<design::Step> m_opened; ///< it, with the way that was drawn anew
    QTimer m_settle;
    Task m_preview;
    job::Kept<design::Pieces> m_shownPieces;
};

} // namespace thinline::app
