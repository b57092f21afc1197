// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"
#include "app/stations/Fields.h"
#include "job/Job.h"
#include "job/Source.h"

#include <QTimer>

#include <functional>
#include <memory>

class QSlider;
class QVBoxLayout;

namespace thinline::app {

/// Buttons for tools of which at most one is pressed.
class ToolButtons : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;
    QPushButton* add(const QString& words, const QString& hint, std::unique_ptr<Tool> tool);
    Tool* chosen() const;
    void release();
    void setEnabled(bool areEnabled);

  signals:
    void changed();

  private:
    struct Entry {
        QPushButton* button;
        std::unique_ptr<Tool> tool;
    };
    std::vector<Entry> m_entries;
};

/// One way of looking at a picture: what it asks for, in short and in detail. It shows the recipe and asks for
/// changes of it; sliders ask when they have come to rest.
class TraceWay : public QObject {
    Q_OBJECT
  public:
    using Change = std::function<void(trace::Recipe&)>;
    explicit TraceWay(QObject* parent);

    QWidget* plain() const { return m_plain; } ///< the few controls that are always at hand
    QWidget* more() const { return m_more; }   ///< the fine points
    virtual void show(const job::Job& job, const job::Source& source, base::LengthUnit unit) = 0;
    using Rows = QVector<std::pair<QString, QString>>;
    /// Adds what this way tells of its result.
    virtual void answer(const job::Picture&, const design::StackMeasures&, Rows&) const {}
    /// What was too small to be a piece, in a sentence.
    virtual QString droppedWords(const trace::Tracing&) const { return {}; }

  signals:
    void wants(const QString& name, const TraceWay::Change& change);
    void refused(const QString& sentence);

  protected:
    QVBoxLayout* plainLines() const { return m_plainLines; }
    QVBoxLayout* moreLines() const { return m_moreLines; }
    /// A slider under its name and value; `wanted` when it rests.
    struct Slider {
        QSlider* slider = nullptr;
        QLabel* value = nullptr;
    };
    Slider addSlider(QVBoxLayout* lines, const QString& label, int least, int most, const QString& step,
                     const std::function<void(trace::Recipe&, int)>& set);
    LengthField* addLength(QVBoxLayout* lines, const QString& label, const QString& hint, const QString& step,
                           double trace::Recipe::*length, bool mayBeZero);
    /// What was done about a shadow, or whether there is one, with the other answer a click away.
    void offerShadow(QVBoxLayout* into, const job::Picture& picture, double mmPerPx);
    void wantWhenSettled(const QString& step, Change change);
    /// Whether the person is still moving something.
    bool isSettling() const { return m_settle.isActive(); }

  private:
    QWidget *m_plain, *m_more;
    QVBoxLayout *m_plainLines, *m_moreLines;
    QTimer m_settle;
    std::function<void()> m_pending;
};

} // namespace thinline::app
