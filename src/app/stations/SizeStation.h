// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/PickTool.h"
#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"
#include "job/Sizing.h"

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
    bool isDone() const override { return bench().hasPieces(); }
    bool isSettled() const override { return !m_look.isRunning(); }
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Places; }
    Tool* tool() override { return &m_tool; }
    std::vector<design::PieceId> chosen() const override { return m_chosen; }
    void measured(double mm) override;
    bool mends(inspect::Kind kind) const override;
    geometry::Box placeOf(const inspect::Case& one) const override;

  private:
    enum class Asking { Nothing, Inner, Outer };
    void buildSize();
    void buildLargest();
    void buildObject();
    void buildTogether();
    void clicked(const Pointer& pointer);
    void setSize(bool isWidth, double mm);
    void setAlone(bool isWidth, double mm);
    void showChoice();
    void showLargest();
    void showRelations();
    QString fitWords(size_t fit, bool& canBeMade) const;
    void addRelation(const QString& words, std::initializer_list<QPushButton*> buttons);
    void showAnswer();
    void look();
    /// What the answers are found out about.
    struct About {
        job::Kept<job::Finished> made;
        std::vector<design::Fit> fits;
        job::SizeOptions options;
        bool operator==(const About&) const = default;
    };
    struct Seen;
    static bool findOut(const job::State& state, const job::SizeOptions& options, inspect::Memory& known,
                        Handed<Seen>& found, const base::Progress& progress);
    void takeSeen(Handed<Seen>& found);
    void askFor(Asking what);
    void takeFit(design::PieceId outer, geometry::Point at);
    design::PieceId outerOf(geometry::Point at) const;
    geometry::Box frame() const;
    job::SizeOptions options() const;
    /// Makes the design as large as `step` says, with the options of the panel.
    template <class Step>
    void runSizing(const QString& name, Step step);

    std::vector<design::PieceId> m_chosen;
    Asking m_asking = Asking::Nothing;
    design::PieceId m_inner;
    PickTool m_tool;
    QLabel* m_choiceText;
    QPushButton* m_none;
    LengthField* m_width;
    LengthField* m_height;
    QCheckBox* m_keep;
    QCheckBox* m_marginsGrow;
    KnownDistance* m_distance;
    QLabel* m_note;
    QGridLayout* m_largest;
    QVector<std::array<QString, 3>> m_shownLargest; ///< name, size and tooltip of each line
    QSpinBox* m_copies;
    QSpinBox* m_overSheets;
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
    About m_lookedAt; ///< last
    std::shared_ptr<const Seen> m_seen; ///< what was found out about the size shown, or the one before
    bool m_isActive = false;
};

} // namespace thinline::app
