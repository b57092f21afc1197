// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Marks.h"
#include "app/jobs/Workbench.h"
#include "folds/Panels.h"
#include "folds/Steps.h"

#include <QWidget>

#include <optional>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace thinline::app {

/// The panels between folds: found by a worker, shown on the bench with their names and the way they are read; one of
/// them is chosen by a click and something said of it.
class PanelRows : public QWidget {
    Q_OBJECT
  public:
    explicit PanelRows(Workbench& bench, QWidget* parent = nullptr);

    void refresh();
    bool isSettled() const { return !m_finder.isRunning(); }
    /// Chooses the panel at a place of a piece; none when there is none.
    void pick(const SceneItem* item, geometry::Point at);
    void letGo();
    /// What the bench shows of panels.
    std::vector<PanelMark> marks() const;
    /// The chosen panel's outline.
    std::vector<geometry::Shape> chosenArea() const;
    /// Panels and flaps in words, for the answer.
    QVector<std::pair<QString, QString>> answer() const;

  signals:
    void found(); ///< other panels are known, or another one is chosen

  private:
    struct OfPiece {
        design::PieceId piece;
        std::shared_ptr<const design::Body> body;
        std::shared_ptr<const folds::Folded> folded;
    };
    using All = std::vector<OfPiece>;
    const folds::Panel* chosen() const;
    const folds::Flap* flapOf(const OfPiece& of, size_t panel) const;
    void find();
    void show();
    void say(const QString& name, folds::Action action, const std::string& value, const design::Value& said);
    void run(const QString& name, const design::Step& step);
    const design::Piece* pieceOfChosen() const;
    void glue();
    void showTakers(const folds::Flap& flap);
    QString takerWords(const OfPiece& of, const folds::Flap& flap) const;

    Workbench& m_bench;
    QLabel* m_words;
    QLineEdit* m_name;
    QDoubleSpinBox* m_up;
    QPushButton* m_front;
    QPushButton* m_glue;
    QComboBox* m_behind; ///< which edge takes a flap, where several could
    QWidget* m_behindRow;
    QPushButton* m_line;
    QWidget* m_fields;
    Task m_finder;
    job::Kept<job::Finished> m_foundFor;
    std::shared_ptr<design::Remembered<folds::Folded>> m_known;
    All m_all;
    size_t m_of = 0;                ///< whose panel is chosen
    std::optional<size_t> m_chosen; ///< among its panels
    design::PieceId m_piece;        ///< the same, over another making
    geometry::Point m_at;
};

} // namespace thinline::app
