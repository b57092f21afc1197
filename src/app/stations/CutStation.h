// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/CutTool.h"
#include "app/stations/CutRecord.h"
#include "app/stations/StationPanel.h"
#include "job/CutSteps.h"

#include <QTimer>

class QComboBox;
class QSlider;
class QSpinBox;

namespace thinline::app {

/// What happens on the machine? The plan follows from sheets, machine and stocks and is made by a worker; one load of it is
/// looked at, along the way the tool goes.
class CutStation : public StationPanel {
    Q_OBJECT
  public:
    CutStation(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    bool isSettled() const override {
        return !m_planner.isRunning() && !m_writer.isRunning() && !m_judge.isRunning() &&
               !m_clock.isActive() && m_learnt->isSettled() && m_record->isSettled();
    }
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Places; }
    QString emptyText() const override;
    Tool* tool() override { return &m_tool; }
    bool mends(inspect::Kind kind) const override {
        return kind == inspect::Kind::MachineCannot || kind == inspect::Kind::NoMarkReader;
    }

    /// The plan that is shown; null while there is none.
    const design::CutPlan* plan() const { return m_plan.get(); }
    /// What will lie on the mat when the load is done; null while nobody knows.
    const devices::MatAfter* after() const { return m_after.get(); }
    /// Looks at a load at a share of its time, 0 to 1.
    void lookAt(size_t load, double share);
    /// Write what stands beside the machine, or what drives a plotter.
    void writeChecklist(const QString& path);
    void writePlotter(const QString& folder);
    void writeDxf(const QString& folder);
    void writePdf(const QString& path);

  private:
    void buildMachine();
    void buildLoad();
    void buildWay();
    void buildFiles();
    void makePlan();
    void showMachine();
    void showLoads();
    void showSetting();
    void showReason();
    void askLogbook();
    void showWay();
    void showAnswer();
    void chooseLoad(int load);
    void judge();
    void takeMachine(const std::function<void(design::Machine&)>& change, const QString& name);
    void takeSetting();
    void offerOthers(const QPoint& at);
    void showChecklist();
    /// Goes one step on: runs the load, halts it, lifts a corner, cuts once more.
    void goOn();
    void unload();
    void begin();
    void step();
    devices::WhatIf whatIf() const;
    QString endText() const;
    QString costText();
    const design::PlannedLoad* load() const;
    std::string stockId() const;
    void write(const QString& title, const QString& told,
               std::function<base::Status(base::FileStore&, const job::State&, const design::CutPlan&)> work);

    QPushButton* m_printed;
    base::FileStore& m_store;
    QComboBox* m_machine;
    QComboBox* m_loads;
    QComboBox* m_stocks;
    QComboBox* m_blade;
    QSpinBox* m_force;
    QSpinBox* m_passes;
    QSpinBox* m_through;
    QWidget* m_throughRow;
    QLabel* m_reason;
    QPushButton* m_usual;
    QSlider* m_way;
    QLabel* m_now;
    QWidget* m_stockRow;
    WordChoice* m_speed;
    QComboBox* m_whatIf;
    QPushButton* m_unload;
    LearntLine* m_learnt;
    CutRecord* m_record;
    QLabel* m_note;

    CutTool m_tool;
    Task m_planner, m_judge, m_writer;
    QTimer m_clock;
    std::shared_ptr<const design::CutPlan> m_plan;
    std::shared_ptr<const design::CutPlan> m_lookedAt;       ///< the plan the shown load is of
    std::shared_ptr<const design::Arrangement> m_plannedFor; ///< what the plan was made of
    job::CutWishes m_plannedBy;
    design::FoldsAs m_plannedFolds = design::FoldsAs::Score;
    std::shared_ptr<const cutplan::Timeline> m_timeline;
    std::shared_ptr<const devices::MatAfter> m_after; ///< of that load, when all is done
    std::shared_ptr<const size_t> m_shown;            ///< the load that is looked at, of the sheets
    int m_at = 0;                                     ///< and in the order of the plan
    /// Where the trainer is.
    enum class Phase {
        Cutting,
        Standing, ///< the load is done, the mat still loaded
        Lifted,   ///< a corner was lifted, and it is not through
        Unloaded
    } m_phase = Phase::Cutting;
    int m_more = 0; ///< rounds that were run again
    struct Cost {
        std::shared_ptr<const design::CutPlan> plan;
        int at = -1, serial = -1; ///< the load, and the state that says the prices
        QString text;
    } m_cost; ///< kept: every answer asks
    bool m_isActive = false;
};

} // namespace thinline::app
