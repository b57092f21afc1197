// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/Fields.h"
#include "app/stations/SourcePanels.h"

namespace thinline::app {

/// What do we start from? A picture to trace, drawings, words and figures; one of them is open below the
/// list.
class SourceStation : public StationPanel {
    Q_OBJECT
  public:
    explicit SourceStation(Workbench& bench, QWidget* parent = nullptr);
    void refresh() override;

    /// The source that is open; 0 is the picture.
    int chosen() const { return m_chosen; }
    void choose(int source);
    void addWord();
    void addFigure();
    /// The bench measured a distance that is to be known, mm.
    void measured(double mm);

  signals:
    void wantsFile();
    void wantsAddition(); ///< another file into this job
    void wantsMeasuring();
    void chosenChanged();

  private:
    void buildAdding();
    void buildPicture();
    void buildList();
    void setPictureWidth(double widthMm);
    void settleWidth(int source, double pageWidthMm);
    void showOpen();
    void showStock(const document::Source& source);
    void showAnswer();
    void runNoted(const QString& name,
                  const std::function<base::Result<document::Noted>(const document::Job&,
                                                                    const base::Progress&)>& step);

    int m_chosen = 0;
    int m_wanted = 0; ///< the source that comes next is to be opened
    QVBoxLayout* m_list;
    QLabel* m_listHeading;
    QLabel* m_facts;
    QWidget* m_picture;
    LengthField* m_width;
    LengthField* m_height;
    WordPanel* m_word;
    FigurePanel* m_figure;
    DrawingPanel* m_drawing;
    KnownDistance* m_distance;
    QWidget* m_stockRow;
    QComboBox* m_stock;
    QLabel* m_originHeading;
    OriginPanel* m_origin;
    QComboBox* m_unit;
    QLabel* m_note;
};

} // namespace thinline::app
