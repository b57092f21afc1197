// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/trace/TraceWay.h"

namespace thinline::app {

/// A photo: how many tones, and how narrow a part may be.
class TonesWay : public TraceWay {
    Q_OBJECT
  public:
    explicit TonesWay(QObject* parent);
    void show(const job::Job& job, const job::Source& source, base::LengthUnit unit) override;
    void answer(const job::Picture& picture, const design::StackMeasures& m, Rows& rows) const override;

  private:
    Slider m_tones;
    LengthField* m_neck;
    LengthField* m_bridges;
};

} // namespace thinline::app
