// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"

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

    /// Chooses a piece, or lets it go when it was chosen.
    void toggle(design::PieceId piece);
    /// Chooses a whole group, or lets it go when all of it was chosen.
    void toggleGroup(const std::vector<design::PieceId>& pieces);
    /// Chooses all pieces of a layer.
    void chooseLayer(int layer);
    /// Chooses an outcome and the pieces for it.
    void choose(shape::Action action, std::vector<design::PieceId> pieces);
    bool isLookingAhead() const { return m_settle.isActive() || m_preview.isRunning(); }
    const std::vector<design::PieceId>& chosen() const { return m_chosen; }
    /// What would come out, to be shown as a ghost.
    const std::vector<geometry::Shape>& ghost() const { return m_ghost; }

  signals:
    void choiceChanged();
    void ghostChanged();

  private:
    void buildControls();
    void buildSteps();
    shape::Step stepNow() const;
    void showControlsOf(shape::Action action, const std::vector<double>& values);
    void showSlider(double amount);
    QString stepText(const shape::Step& step) const;
    void wantPreview();
    void preview();
    void setGhost(std::vector<geometry::Shape> shapes);
    void take();
    void runStep(const shape::Step& step);
    void openAgain(int step);
    void close();

    QLabel* m_choiceText;
    QPushButton* m_none;
    QComboBox* m_action;
    ParameterRows* m_values;
    QSlider* m_slider; ///< the first value by feel
    QLabel* m_note;
    QLabel* m_stepsHeading;
    QVBoxLayout* m_steps;
    QLabel* m_scrap;
    QPushButton* m_putBack;
    QPushButton* m_empty;

    std::vector<design::PieceId> m_chosen;
    std::vector<geometry::Shape> m_ghost;
    std::optional<size_t> m_open; ///< the step that is open again
    QTimer m_settle;
    Task m_preview;
    std::shared_ptr<const shape::Work> m_shownWork;
    std::vector<shape::Step> m_shownSteps;
};

} // namespace thinline::app
