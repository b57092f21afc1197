// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/FaceView.h"
#include "app/stations/FontChoice.h"
#include "job/PrintSteps.h"

#include <QDialog>
#include <QTimer>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QListWidget;
class QMenu;
class QPlainTextEdit;
class QPushButton;

namespace thinline::app {

class LengthField;
class WordChoice;

/// What is printed on a piece: pictures, colours, texts and codes, one over the other, moved until they sit right.
class FaceDialog : public QDialog {
    Q_OBJECT
  public:
    /// Begins with a piece, or with the first one that is printed.
    FaceDialog(Workbench& bench, std::optional<design::PieceId> piece, QWidget* parent = nullptr);
    bool isSettled() const { return !m_painter.isRunning() && !m_panels.isRunning() && !m_bench.isBusy(); }
    FaceView* view() const { return m_view; }
    /// Prints a file over the piece.
    void addPicture(const QString& path);

  private:
    QWidget* buildSide();
    QWidget* buildPrints();
    QWidget* buildNew();
    void fillPanels();
    void fillPieces(std::optional<design::PieceId> piece);
    void refresh();
    void showChosen();
    void paintAnew();
    job::PrintOn on() const;
    std::optional<job::PieceId> piece() const;
    design::Side side() const;
    const job::Print* chosen() const;
    design::Face asMoved(const job::Print& print) const;
    void shift(const print::Shift& shift, bool isDone);
    void change(const design::Face& face);
    /// Asks for another of its colours.
    void recolour(raster::Rgb design::Face::* which, const QString& title);
    void addText();
    void addCode(design::Face::Kind kind);
    void addColour(bool isRunning);
    void fillOutlines();
    void raise(bool isUp);
    void say(const QString& sentence, bool isProblem = false);

    Workbench& m_bench;
    QComboBox* m_piece;
    WordChoice* m_side;
    QComboBox* m_panel; ///< what is printed next goes there
    QWidget* m_panelRow;
    std::pair<int, int> m_panelsOf{-1, -1};
    Task m_panels;
    QListWidget* m_prints;
    LengthField* m_width;
    QDoubleSpinBox* m_turn;
    QPushButton *m_colour, *m_into, *m_up, *m_down, *m_off, *m_names;
    QMenu* m_outlines;
    QPlainTextEdit* m_words;
    FontChoice* m_font;
    FaceView* m_view;
    QLabel *m_facts, *m_note;
    std::vector<job::Print> m_shown;
    std::optional<design::Face> m_moved; ///< the chosen print where the hand holds it now
    geometry::Box m_field;
    job::Decoded m_art;
    std::shared_ptr<const print::Gallery> m_preview; ///< of that, coarse enough to follow a hand
    Task m_painter;
    bool m_isPaintWanted = false;
    bool m_isHeld = false;
};

} // namespace thinline::app
