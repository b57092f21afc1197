// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/SeamTool.h"
#include "app/stations/StationPanel.h"
#include "app/stations/StepList.h"
#include "job/SplitWays.h"
#include "split/Hand.h"

#include <QTimer>

class QCheckBox;
class QComboBox;
class QSlider;

namespace thinline::app {

/// How does it get onto the mat? What is too large is listed with the seams that are proposed for it; a runner-up is a
/// click away, and every seam can be dragged, bent, added and taken out before the parts are taken. What was divided is
/// looked at apart, and from behind.
class SplitStation : public StationPanel {
    Q_OBJECT
  public:
    explicit SplitStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    bool isDone() const override;
    bool isSettled() const override {
        return !m_settle.isActive() && !m_proposer.isRunning() && !m_measurer.isRunning() &&
               !m_counter.isRunning();
    }
    ScenePtr scene() override;
    Ground ground() const override { return isApart() ? Ground::Places : Ground::Design; }
    Tool* tool() override { return &m_tool; }
    std::vector<design::PieceId> chosen() const override { return m_keepWhole; }
    bool mends(inspect::Kind kind) const override;

    /// What is looked at; null when everything fits.
    const job::Draft* draft() const;
    /// Looks at what was divided: so far apart, 0 to 1, or from behind.
    void lookApart(double share, bool isFromBehind);

  private:
    /// A piece that is too large, and what is looked at of it.
    struct Row {
        job::Considered of;
        size_t way = 0;
        std::vector<int> sheets = {}; ///< of its stock, were a way taken; empty while they are not counted
        std::optional<job::Draft> byHand = {}; ///< instead of a way
        design::Step kept =
            {}; ///< what was laid by hand, in the piece's own units: it outlives a change of size
        const job::Draft* draft() const {
            return byHand ? &*byHand : way < of.drafts.size() ? &of.drafts[way] : nullptr;
        }
        const job::Oversize& piece() const { return of.proposed.of; }
    };
    struct Found;
    /// What could be done instead of dividing so.
    struct Others {
        double scale = 1; ///< at which nothing needs a seam
        std::vector<job::LongerMat> mats = {};
        std::optional<job::FewerParts> fewer = {};
    };
    void buildControls();
    void buildSeam();
    void buildAssembly();
    job::SplitOptions options() const;
    void propose(bool isRough);
    static Found found(const job::State& state, const job::SplitOptions& wishes,
                       const design::Formats& formats, const std::vector<design::Step>& again,
                       const base::Progress& progress);
    void showRows(std::vector<Row> rows);
    void countSheets();
    void lookForFewer();
    std::vector<job::Considered> ways() const;
    void showOthers();
    std::string wishedBy() const;
    void choosePiece(size_t row);
    void chooseWay(size_t way);
    void showAll();
    void showWays();
    void showPieces();
    void showControls();
    void showNumbers();
    void showSeams();
    using Laying = std::function<base::Result<std::vector<split::SeamWish>>(
        const job::State&, const job::Draft&, const job::SplitOptions&, const base::Progress&)>;
    void lay(const QString& title, const Laying& laying);
    void
    change(const std::function<base::Result<split::Laid>(const split::Lines&, const split::Ground&)>& how);
    void takeSeamOut();
    void joinSeam(int joint);
    void proposeRest();
    void take();
    void openAgain(size_t step);
    void shrinkTo(double scale);
    void takeMat(const std::string& matId);
    void keepWhole(const SceneItem& item);
    void showApart();
    std::pair<qsizetype, qsizetype> divided() const;
    bool areAllDivided() const;
    bool isApart() const;

    QLabel* m_sheets;
    QComboBox* m_joint;
    LengthField* m_overlap;
    QLabel* m_piecesHeading;
    QVBoxLayout* m_pieces;
    QLabel* m_waysHeading;
    QVBoxLayout* m_ways;
    QCheckBox* m_draw;
    QLabel* m_why;
    QWidget* m_seamRow;
    QComboBox* m_seamJoint;
    QPushButton* m_takeOut;
    QPushButton* m_rest;
    QPushButton* m_board;
    QLabel* m_kept;
    QPushButton* m_keepNone;
    QVBoxLayout* m_instead;
    QLabel* m_note;
    QLabel* m_apartHeading;
    QSlider* m_apart;
    QCheckBox* m_behind;
    QLabel* m_stepsHeading;
    StepList* m_steps;

    SeamTool m_tool;
    std::vector<Row> m_rows;
    size_t m_at = 0; ///< the row that is looked at
    int m_seam = -1;
    double m_overlapMm = job::SplitOptions{}.overlapMm;
    design::PieceId m_lookedAt;               ///< the piece of that row, while others are looked for
    std::vector<design::PieceId> m_keepWhole; ///< no seam goes under these
    Others m_others;
    bool m_isActive = false;
    QTimer m_settle;
    Task m_proposer, m_measurer, m_counter;
    job::Kept<design::Stack> m_proposedFor; ///< the stack the rows belong to
    std::string m_proposedBy;               ///< and the plan and wishes
    std::vector<design::Step> m_again;      ///< that were opened: their seams lie there as they were
    std::shared_ptr<const void> m_look;     ///< stands for how the parts are looked at
};

} // namespace thinline::app
