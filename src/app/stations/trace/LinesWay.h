// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/trace/TraceWay.h"

class QCheckBox;

namespace thinline::app {

/// A line drawing: ink against paper, gaps in it, folds.
class LinesWay : public TraceWay {
    Q_OBJECT
  public:
    LinesWay(ToolButtons& tools, QObject* parent);
    void show(const job::Job& job, const job::Source& source, base::LengthUnit unit) override;
    void answer(const job::Picture& picture, const design::StackMeasures& m, Rows& rows) const override;
    QString droppedWords(const trace::Tracing& tracing) const override;
    QPushButton* closeGap() const { return m_closeGap; }

  signals:
    /// Two ends of a gap were clicked, or a part marked, in mm of the design.
    void gapMarked(geometry::Point from, geometry::Point to);
    void partMarked(const geometry::Box& box);
    void wantsGapsClosed(const std::vector<size_t>& leaks);
    void wantsColoursOfCopy();

  private:
    void buildPlain(ToolButtons& tools);
    void buildMore(ToolButtons& tools);
    void offerFolds(const trace::FoldHint& may);
    void offerGaps(const job::Job& job, const job::Source& source);
    Slider m_threshold, m_partThreshold;
    QCheckBox* m_automatic;
    QCheckBox* m_light; ///< the lines are lighter than their ground
    QPushButton* m_closeGap;
    QVBoxLayout* m_offers; ///< what may be done about the drawing's own lines
    QPushButton* m_reopen;
    WordChoice* m_build;
    LengthField* m_tuck;
    QWidget* m_tuckRow;
    QWidget* m_partRow; ///< the threshold of the part marked last
    LengthField* m_foldsBelow;
    QCheckBox* m_dashesFold;
};

} // namespace thinline::app
