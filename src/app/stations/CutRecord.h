// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "design/CutPlan.h"
#include "logbook/Learn.h"
#include "sheets/Rest.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QPushButton;

namespace thinline::app {

/// What the logbook says of a stock, and a way to take it into the job. It is looked up by a worker.
class LearntLine : public QWidget {
    Q_OBJECT
  public:
    explicit LearntLine(QWidget* parent = nullptr);
    /// Looks up what was learnt of a stock on a machine with a setting's blade and tack; nothing for no stock.
    void ask(const std::string& logbook, const design::Stock* stock, const design::Machine& machine,
             const design::Setting& setting, const std::string& mat);
    /// Takes it; it stands where the station puts it.
    QPushButton* takeButton() const { return m_take; }
    bool hasWords() const { return m_learnt.has_value(); }
    /// What was found may not be true any more: the logbook has changed.
    void forget() { m_asked = {}; }
    bool isSettled() const { return !m_reader.isRunning(); }

  signals:
    void taken(double forceGf, int passes);
    void found(); ///< something or nothing

  private:
    QLabel* m_words;
    QPushButton* m_take;
    std::optional<logbook::Learnt> m_learnt;
    struct Question {
        design::Stock stock;
        design::Machine machine;
        design::Setting setting;
        std::string mat;
        bool operator==(const Question&) const = default;
    };
    std::optional<Question> m_asked; ///< last
    Task m_reader;
};

/// The one question after a load, answered with a click: it is entered into the logbook, and the sheets that are used up
/// leave the drawer.
class CutRecord : public QWidget {
    Q_OBJECT
  public:
    CutRecord(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    /// The load that is asked about, in the order of the plan; nothing to ask without one.
    void askAbout(std::shared_ptr<const design::CutPlan> plan, std::size_t at);
    void answer(logbook::Outcome outcome);
    bool isSettled() const { return !m_writer.isRunning(); }

  signals:
    void entered(); ///< the logbook has changed

  private:
    struct Entered {
        std::vector<std::string> ids;
        design::Load load;                 ///< whose sheets left the drawer
        std::vector<design::Scrap> scraps; ///< of its job
        sheets::Rests rests;               ///< what was left of them
        bool areSheetsGone = false;
    };
    void takeBack();
    void say(const QString& sentence);

    Workbench& m_bench;
    base::FileStore& m_store;
    std::shared_ptr<const design::CutPlan> m_plan;
    std::size_t m_at = 0;
    QVector<QPushButton*> m_answers;
    QCheckBox* m_isOfTile;
    QLabel* m_words;
    QPushButton* m_back;
    Entered m_last;
    Task m_writer;
};

} // namespace thinline::app
