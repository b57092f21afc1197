// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/PickTool.h"
#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"
#include "app/stations/StepList.h"
#include "job/Steps.h"
#include "shape/Steps.h"

#include <QTimer>

#include <optional>

class QComboBox;
class QSlider;

namespace thinline::app {

/// What is one piece, and what is open? Pieces are chosen on the bench, an outcome is picked by its name, its
/// ghost and its numbers are looked at, then it is taken. Every step taken can be opened again.
class ShapeStation : public StationPanel {
    Q_OBJECT
  public:
    explicit ShapeStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    bool isDone() const override { return !bench().job().steps.empty(); }
    bool isSettled() const override { return !m_settle.isActive() && !m_preview.isRunning(); }
    /// Says what is printed on the piece that is chosen first.
    void showPrint();
    bool takesDrop(const QStringList& paths, const SceneItem* on) override;
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Design; }
    Tool* tool() override { return &m_tool; }
    std::vector<design::PieceId> chosen() const override;
    std::vector<geometry::Shape> ghost() const override { return m_ghost; }
    void layerChosen(design::LayerId layer) override;
    bool mends(inspect::Kind kind) const override;

    /// Chooses pieces, or lets them go when all of them were chosen.
    void toggle(const std::vector<design::PieceId>& pieces);
    /// Chooses an outcome and the pieces for it.
    void choose(shape::Action action, std::vector<design::PieceId> pieces);

  private:
    void buildControls();
    shape::Action action() const;
    design::Step stepNow() const;
    void showControlsOf(shape::Action action, const std::vector<double>& values);
    void showSlider(double amount);
    void showPlace();
    void wantPreview();
    void preview();
    struct Foreseen;
    static base::Result<Foreseen> foreseen(const design::Step& step, const design::Pieces& before,
                                           const base::Progress& progress);
    void showForeseen(const Foreseen& seen);
    void setGhost(std::vector<geometry::Shape> shapes);
    void moved(const SceneItem& item, geometry::Point by);
    void take();
    void runStep(const design::Step& step);
    void openAgain(size_t step);
    void takeOut(size_t step);
    void close();

    QLabel* m_choiceText;
    QPushButton* m_none;
    QComboBox* m_action;
    ParameterRows* m_values;
    QSlider* m_slider; ///< the first value by feel
    PlaceFields* m_place;
    QLabel* m_note;
    QLabel* m_stepsHeading;
    StepList* m_steps;
    QLabel* m_scrap;
    QPushButton* m_putBack;
    QPushButton* m_empty;

    PickTool m_tool;
    std::vector<design::PieceId> m_chosen;
    std::vector<geometry::Shape> m_ghost;
    std::optional<size_t> m_open; ///< the step that is open again
    QTimer m_settle;
    Task m_preview;
    job::Kept<design::Pieces> m_shownPieces;
};

} // namespace thinline::app
