// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/trace/TraceWay.h"

class QSpinBox;

namespace thinline::app {

class PaletteChips;

/// Flat colour art: which colours there are, which belong together, which are cut.
class ColoursWay : public TraceWay {
    Q_OBJECT
  public:
    ColoursWay(ToolButtons& tools, QObject* parent);
    void show(const job::Job& job, const job::Source& source, base::LengthUnit unit) override;
    QString droppedWords(const trace::Tracing& tracing) const override;

  signals:
    /// A colour is to be taken from the picture, at a point of the design, mm.
    void colourMarked(geometry::Point at);

  private:
    void showChips(const job::Job& job, const job::Source& source);
    void toggle(int chip);
    void offerLost(const trace::Tracing& tracing, double mmPerPx);
    QSpinBox* m_count;
    PaletteChips* m_chips;
    std::vector<raster::Rgb> m_shown; ///< the colour of every chip
    raster::Rgb m_paper{};
    QVBoxLayout* m_offers;   ///< colours that are in no piece, a shadow
    QPushButton* m_noPicked; ///< forgets colours taken by hand
    WordChoice* m_stacking;
    LengthField* m_tuck;
    QWidget* m_tuckRow;
};

} // namespace thinline::app
