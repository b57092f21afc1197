// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/AreaTools.h"
#include "app/bench/tools/LayTool.h"
#include "app/stations/ClusterPanel.h"
#include "app/stations/HandPanel.h"
#include "app/stations/PhotoDialog.h"
#include "app/stations/StationPanel.h"
#include "app/stations/WhyPanel.h"

#include <QPointer>

class QCheckBox;
class QComboBox;
class QSpinBox;

namespace thinline::app {

/// Which sheet lies where?
class SheetsStation : public StationPanel {
    Q_OBJECT
  public:
    SheetsStation(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    bool isDone() const override { return bench().made().sheets != nullptr; }
    bool isSettled() const override;
    /// Says by a photo of the loaded mat what lies on it.
    void showPhoto(const QString& path);
    /// The pages for the printer.
    void showPages();
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Sheets; }
    QString emptyText() const override;
    Tool* tool() override { return m_isDrawing ? static_cast<Tool*>(&m_box) : &m_tool; }
    QString hoverLine(const SceneItem& item) const override;
    std::vector<design::PieceId> chosen() const override;
    bool mends(inspect::Kind kind) const override;
    geometry::Box placeOf(const inspect::Case& one) const override;

  private:
    void buildPlan();
    void buildChoices();
    void showCards();
    void drawKeepOut();
    void keptFree(const geometry::Box& box);
    void buildCopies();
    void changePlan(const QString& name, const std::function<void(job::SheetPlan&)>& change);
    void toggle(design::PieceId piece, bool withGroup);
    std::vector<size_t> along(const Scene& scene, const SceneItem& dragged) const;
    void setCopies(int copies);
    void laid(const std::vector<size_t>& items, const Laying& laying);
    std::vector<geometry::Box> usable() const;
    double spacingBeside(const SceneItem& item) const;
    void showChosen();
    void showAnswer();
    void showLooking();
    void showScraps();
    base::FileStore& m_store;
    QComboBox* m_mat;
    QComboBox* m_sheet;
    QWidget* m_ownWidthRow;
    QWidget* m_ownHeightRow;
    LengthField* m_ownWidth;
    LengthField* m_ownHeight;
    LengthField* m_spacing;
    QCheckBox* m_turn;
    QSpinBox* m_copies;
    QWidget* m_copiesRow;
    QLabel* m_copiesOf;
    QPushButton* m_unpin;
    QCheckBox* m_mix;
    QPointer<PhotoDialog> m_photo;
    QCheckBox* m_openings;
    QPushButton* m_cards;
    bool m_isDrawing = false; ///< a part that stays free
    QLabel* m_scraps;
    WhyPanel* m_why;
    QPushButton* m_keep;
    QWidget* m_offers;
    QPushButton* m_look;
    bool m_isActive = false;
    QLabel* m_note;
    LayTool m_tool;
    BoxTool m_box;
    std::vector<design::PieceId> m_chosen;
    int m_copy = 0; ///< of the piece that is chosen alone
    HandPanel* m_hand;
    QLabel* m_choiceText;
    QPushButton* m_none;
    ClusterPanel* m_clusters;
};

/// The scene of a job's sheets, for the stations that show them.
inline ScenePtr sheetsOf(const Workbench& bench) {
    return sceneOfSheets(bench.made(), bench.outlines());
}

} // namespace thinline::app
