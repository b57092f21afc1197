// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/FontChoice.h"
#include "app/stations/ParameterRows.h"
#include "app/stations/StationPanel.h"
#include "job/SourceSteps.h"

#include <QTimer>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QGridLayout;
class QSpinBox;

namespace thinline::app {

/// How a word is typed and set. What is typed comes to rest before it is told.
class WordPanel : public QWidget {
    Q_OBJECT
  public:
    explicit WordPanel(Workbench& bench, QWidget* parent = nullptr);
    void show(const job::Source& source);
    void typeHere();

  signals:
    void changed(thinline::job::SourceId source, const lettering::Recipe& recipe);
    void wantsNames(); ///< from a list, in the place of this word

  private:
    lettering::Recipe recipe() const;
    void tellWhenSettled();

    Workbench& m_bench;
    job::SourceId m_source{};
    lettering::Recipe m_shown;
    LinesField* m_text;
    FontChoice* m_font;
    QComboBox* m_sizeBy;
    LengthField* m_size;
    double m_sizeMm = 60;
    QDoubleSpinBox* m_spacing;
    QDoubleSpinBox* m_overlap;
    QCheckBox* m_equal;
    QCheckBox* m_join;
    QDoubleSpinBox* m_fill;
    QLabel* m_note;
    QTimer m_settle;
};

/// A figure's kind and measures.
class FigurePanel : public QWidget {
    Q_OBJECT
  public:
    explicit FigurePanel(Workbench& bench, QWidget* parent = nullptr);
    void show(const job::Source& source);

  signals:
    void changed(thinline::job::SourceId source, const construct::Recipe& recipe);

  private:
    void tell(bool isOther);
    Workbench& m_bench;
    job::SourceId m_source{};
    QComboBox* m_figure;
    ParameterRows* m_values;
};

/// A drawing's size question, and what of it is taken.
class DrawingPanel : public QWidget {
    Q_OBJECT
  public:
    explicit DrawingPanel(Workbench& bench, QWidget* parent = nullptr);
    void show(const job::Source& source);

  signals:
    void widthSettled(thinline::job::SourceId source, double widthMm);
    void taken(thinline::job::SourceId source, const design::TakeOptions& take);
    void wantsMeasuring();
    void refused(const QString& sentence);

  private:
    void showGuesses(const job::Source& source);
    void showLayers(const job::Drawing& drawing);
    void showLines(const job::Source& source);
    Workbench& m_bench;
    job::SourceId m_source{};
    double m_ratio = 1;
    design::TakeOptions m_take;
    LengthField* m_width;
    LengthField* m_height;
    QLabel* m_question;
    QVBoxLayout* m_guesses;
    QWidget* m_pageRow;
    QSpinBox* m_page;
    QCheckBox* m_strokes;
    QCheckBox* m_clips;
    QLabel* m_layersHeading;
    QVBoxLayout* m_layers;
    QLabel* m_linesHeading;
    QVBoxLayout* m_lines;
};

/// Where something came from and what may be done with it.
class OriginPanel : public QWidget {
    Q_OBJECT
  public:
    explicit OriginPanel(QWidget* parent = nullptr);
    void show(const job::Origin& origin);

  signals:
    void changed(const job::Origin& origin);

  private:
    QLineEdit* m_from;
    QComboBox* m_licence;
};

} // namespace thinline::app
