// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Marks.h"
#include "app/bench/Scenes.h"
#include "app/bench/Tool.h"
#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"
#include "app/stations/Station.h"

#include <QFrame>
#include <QKeySequence>
#include <QVector>
#include <QWidget>

#include <utility>

class QAction;
class QGridLayout;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace thinline::app {

/// One station: its instrument column (the question, a line of help, a few controls, the answer block, the main
/// button; controls scroll, answer and button never leave the view) and its face towards the window, which routes
/// blindly between bench, side view, tray and whatever station it is at.
class StationPanel : public QWidget {
    Q_OBJECT
  public:
    struct Words {
        QString question, help, mainButton;
    };
    StationPanel(Station station, Workbench& bench, const Words& words, QWidget* parent = nullptr);

    Station station() const { return m_station; }
    QPushButton* mainButton() const { return m_main; }

    /// Brings every control up to what the job says. Must not change the job.
    virtual void refresh() = 0;
    /// The station was entered or left.
    virtual void setActive(bool) {}
    /// Another job was opened.
    virtual void jobOpened() {}
    /// Whether there is anything to do here.
    virtual bool isOfUse() const { return true; }
    /// Whether something was done here: its bead is filled.
    virtual bool isDone() const { return false; }
    /// Whether everything shown belongs to the job as it is.
    virtual bool isSettled() const { return true; }

    // ---- the bench
    /// What lies on the bench; the same pointer as long as it is the same.
    virtual ScenePtr scene() = 0;
    /// Benches of one ground keep the view when the person goes from one to the other.
    enum class Ground { Picture, Design, Places, Sheets };
    virtual Ground ground() const = 0;
    /// What stands there when there is no scene.
    virtual QString emptyText() const;
    virtual Tool* tool() { return nullptr; }
    /// What is said about a piece under the pointer, beside its name and size.
    virtual QString hoverLine(const SceneItem&) const { return {}; }
    /// Pieces that are marked, the first one with a 1.
    virtual std::vector<design::PieceId> chosen() const { return {}; }
    /// Outlines that would come out, bench mm.
    virtual std::vector<geometry::Shape> ghost() const { return {}; }
    /// Lines that are chosen or would come out, bench mm.
    virtual LineMarks lineMarks() const { return {}; }
    /// Files were dropped, over a piece or beside all; whether this station takes them. Else they come in as artwork.
    virtual bool takesDrop(const QStringList&, const SceneItem*) { return false; }
    /// A layer was chosen in the side view.
    virtual void layerChosen(design::LayerId) {}
    /// The person measured a distance this station had asked for, mm.
    virtual void measured(double) {}

    // ---- findings
    /// Whether findings of this kind are mended here.
    virtual bool mends(inspect::Kind) const { return false; }
    /// Where a case lies on the bench; empty when nowhere.
    virtual geometry::Box placeOf(const inspect::Case& one) const { return one.place; }

  signals:
    void benchChanged();   ///< scene or tool
    void choiceChanged();  ///< what is chosen, or the ghost
    void done();           ///< the person is done here: on to the next station
    void wantsToBeHere();  ///< an action of this station was chosen from elsewhere
    void wantsMeasuring(); ///< two points are to be clicked, see `measured`
    void told(const QString& sentence, bool isProblem);

  protected:
    Workbench& bench() const { return m_bench; }
    QVBoxLayout* controls() const { return m_controls; }
    /// Adds an action the person finds everywhere; it leads to this station first.
    QAction* offer(const QString& words, const QKeySequence& key, const std::function<void()>& call);
    /// Adds "label .... field", the field `fieldWidth` wide at the right.
    QWidget* addRow(const QString& label, QWidget* field, int fieldWidth = 116);
    QLabel* addHeading(const QString& text);
    QLabel* addNote();
    LengthField* addLength(const QString& label);
    /// Adds a line that says what is chosen, and the words that let it go.
    std::pair<QLabel*, QPushButton*> addChoice();
    void setAnswer(const QVector<std::pair<QString, QString>>& rows, const QString& why = {});
    /// Shows `sentence` under a note label, or hides it when empty.
    static void tell(QLabel* note, const QString& sentence);

    QString sizeText(double widthMm, double heightMm) const;
    /// Returns the scene kept for these values, built anew when they are others.
    using Values = std::vector<std::shared_ptr<const void>>;
    ScenePtr kept(Values of, const std::function<ScenePtr()>& build);
    /// The values everything in the design follows from, and what lies over it.
    Values valuesOfDesign(std::shared_ptr<const void> over = {}) const;

  private:
    Station m_station;
    Workbench& m_bench;
    QVBoxLayout* m_controls;
    QFrame* m_answer;
    QGridLayout* m_answerRows;
    QVector<std::pair<QLabel*, QLabel*>> m_answerLabels;
    QPushButton* m_main;
    Values m_sceneOf;
    ScenePtr m_scene;
};

} // namespace thinline::app
