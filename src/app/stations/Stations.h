// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Task.h"
#include "app/stations/StationPanel.h"

#include <QMap>
#include <QTimer>

#include <memory>

class QButtonGroup;
class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QSlider;
class QSpinBox;
class QVBoxLayout;

namespace thinline::app {

class PaletteChips;
class WordChoice;

/// Which areas become which card?
class TraceStation : public StationPanel {
    Q_OBJECT
  public:
    explicit TraceStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;

    /// The stock that a click lays on an area.
    std::string chosenStock() const { return m_chosenStock; }
    /// What the pointer does on the bench, besides laying stock.
    enum class Tool { None, CloseGap, TakeBox, TakeBrush, TakeSpill, OwnPart, TakeColour };
    Tool tool() const;
    /// What lies on the bench instead of the areas: the picture, or where it differs; null for neither.
    std::shared_ptr<const raster::Picture> shownPicture() const;
    /// The folds found, mm of the finished design.
    std::vector<geometry::Line> folds() const;
    /// The picture instead of the areas, and back.
    void togglePicture();
    /// How wide the brush takes out, mm of the finished design.
    static constexpr double kBrushMm = 4;
    /// A box or stroke was drawn on the bench, mm of the finished design.
    void useTool(const std::vector<geometry::Point>& points);
    /// Lays the colours of a coloured copy of the drawing on its areas.
    void colourFrom(const QString& path);
    /// Adds a line of ink between two points of the finished design, mm.
    void closeGap(geometry::Point from, geometry::Point to);

    /// Whether a reduced copy is being traced to show what is coming.
    bool isLookingAhead() const { return m_looker.isRunning(); }

  signals:
    void modeChanged();
    /// What a reduced copy of a large picture comes to, mm of the design; nothing once the whole is there.
    void foreseen(const std::vector<geometry::Shape>& pieces);

  private:
    void lookAhead(const std::function<void(trace::Recipe&)>& change);
    void retrace(const QString& name, const std::function<void(trace::Recipe&)>& change);
    void buildSwatches();
    QSlider* addSlider(const QString& label, QLabel*& value, int least, int most,
                       QVBoxLayout* into = nullptr);
    QVBoxLayout* beginGroup(QWidget* group);
    QPushButton* addTool(Tool tool, const QString& words, const QString& hint);
    geometry::Point toPicture(geometry::Point p) const;
    /// The picture as it is looked at: turned.
    std::shared_ptr<const raster::Picture> lookedAt() const;
    void turnTo(double degrees);
    void takeColour(geometry::Point at);
    void refreshParts();
    void buildLines();
    void buildPart(QVBoxLayout* body);
    void buildFolds(QVBoxLayout* body);
    void buildClearing();
    void buildColours();
    void buildTones();
    void showGaps();
    void showColours();
    void toggleColour(int chip);
    void closeGaps(const std::vector<size_t>& leaks);

    WordChoice* m_mode;
    QWidget *m_lines, *m_colours, *m_tones, *m_tuckRow; ///< what the ways of tracing ask for
    WordChoice* m_build;
    WordChoice* m_stacking;
    QVBoxLayout* m_gaps;
    QSpinBox* m_count;
    PaletteChips* m_chips;
    std::vector<raster::Rgb> m_shownPalette; ///< the colour of every chip
    QSlider* m_toneCount;
    QLabel* m_toneText;
    LengthField* m_tuck;
    LengthField* m_neck;
    LengthField* m_bridges;
    QSlider* m_threshold;
    QLabel* m_thresholdText;
    QCheckBox* m_automatic;
    QSlider* m_leastArea;
    QLabel* m_leastAreaText;
    QLabel* m_dropped;
    LengthField* m_room;
    QMap<Tool, QPushButton*> m_tools; ///< at most one is pressed
    QPushButton* m_ownPart;
    QWidget* m_partRow; ///< the threshold of the part looked at last
    QSlider* m_partThreshold;
    QLabel* m_partText;
    QPushButton* m_noPart; ///< takes that part back
    LengthField* m_foldsBelow;
    QCheckBox* m_dashesFold;
    QPushButton* m_copyColours;
    QPushButton* m_noPicked; ///< forgets colours taken by hand
    QDoubleSpinBox* m_turn;
    QPushButton* m_level;
    mutable std::shared_ptr<const raster::Picture> m_turned, m_turnedFrom; ///< kept until either changes
    mutable double m_turnedBy = 0;
    QPushButton* m_whole; ///< brings back what was taken out
    QPushButton* m_reopen;
    enum class Shows { Areas, Picture, Differences };
    void compare();
    WordChoice* m_view;
    Shows m_shows = Shows::Areas;
    Task m_looker;
    Task m_comparer;
    std::shared_ptr<const trace::Tracing> m_compared; ///< what the differences are of
    std::shared_ptr<const raster::Picture> m_differences;
    double m_differing = 0; ///< share of the picture
    QLabel* m_note;
    QGridLayout* m_swatches;
    QButtonGroup* m_swatchGroup;
    QVector<QString> m_swatchIds;
    QTimer m_settle; ///< sliders trace when they have come to rest
    std::function<void()> m_pending;
    std::string m_chosenStock;
};

/// Which sheet lies where?
class SheetsStation : public StationPanel {
    Q_OBJECT
  public:
    explicit SheetsStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    /// The piece whose copies can be set.
    void choosePiece(design::PieceId piece);

  private:
    void changePlan(const QString& name, const std::function<void(document::SheetPlan&)>& change);
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
    QLabel* m_note;
    design::PieceId m_piece = 0;
    bool m_isActive = false;
};

/// Who gets what?
class PackStation : public StationPanel {
    Q_OBJECT
  public:
    explicit PackStation(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override;
    void setFolder(const QString& folder);
    /// The folder the files go to; "~" is the person's own.
    QString folder() const;

  signals:
    void written(const QString& folder);

  private:
    void write();
    base::FileStore& m_store;
    Task m_task;
    QLineEdit* m_folder;
    QLabel* m_files;
    QLabel* m_result;
    std::shared_ptr<const design::Arrangement> m_writtenFor;
    bool m_isActive = false;
};

} // namespace thinline::app
