// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/Fields.h"
#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"
#include "document/JobSources.h"
#include "document/SizeAnswers.h"

#include <optional>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QSpinBox;

namespace thinline::app {

/// How large, and on what? The whole design, or pieces chosen on the bench; what belongs together; what goes
/// into what.
class SizeStation : public StationPanel {
    Q_OBJECT
  public:
    explicit SizeStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;

    const std::vector<design::PieceId>& chosen() const { return m_chosen; }
    /// A click on the bench: chooses a piece, or answers what goes into what. `at` in mm of the design.
    void clicked(design::PieceId piece, geometry::Point at, bool isWholeGroup = false);
    /// The bench measured a distance that is to be known, mm.
    void measured(double mm);
    /// Whether the consequences shown belong to the job as it is.
    bool isSettled() const { return !m_look.isRunning(); }

  signals:
    void choiceChanged();
    void wantsMeasuring();

  private:
    enum class Asking { Nothing, Inner, Outer };
    void buildSize();
    void buildLargest();
    void buildObject();
    void buildTogether();
    void setSize(bool isWidth, double mm);
    void setAlone(bool isWidth, double mm);
    void showLargest();
    void showRelations();
    void showAnswer();
    void look();
    void askFor(Asking what);
    void takeFit(design::PieceId outer, geometry::Point at);
    geometry::Box frame() const;
    using Compute = std::function<base::Result<document::Job>(const document::Job&, const base::Progress&)>;
    void run(const QString& name, const Compute& step);

    std::vector<design::PieceId> m_chosen;
    Asking m_asking = Asking::Nothing;
    design::PieceId m_inner = 0;
    QLabel* m_choiceText;
    QPushButton* m_none;
    LengthField* m_width;
    LengthField* m_height;
    QCheckBox* m_keep;
    KnownDistance* m_distance;
    QLabel* m_note;
    QGridLayout* m_largest;
    QSpinBox* m_copies;
    QComboBox* m_object;
    ParameterRows* m_objectValues;
    QPushButton* m_keepTogether;
    QPushButton* m_free;
    QComboBox* m_fitKind;
    QDoubleSpinBox* m_clearance;
    QPushButton* m_addFit;
    QLabel* m_ask;
    QVBoxLayout* m_relations;
    Task m_look;
    std::optional<document::Consequences> m_consequences;
    std::vector<design::FitState> m_fitStates;
    std::shared_ptr<const design::Stack> m_lookedAt;
    bool m_isActive = false;
};

} // namespace thinline::app
