// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "design/Stack.h"
#include "geometry/Shape.h"

#include <QLineEdit>
#include <QPlainTextEdit>
#include <QString>
#include <QStringList>
#include <QVector>
#include <QWidget>

#include <vector>

class QButtonGroup;
class QLabel;
class QLayout;
class QPushButton;
class QSpinBox;
class QTableWidget;

/// Small parts that several stations are made of.
namespace thinline::app {

/// Returns a name as a file may be called: no slashes.
inline QString fileNameOf(const std::string& name) {
    return QString::fromStdString(name).replace('/', '-');
}
inline QString text(const std::string& utf8) {
    return QString::fromStdString(utf8);
}
/// "1 piece", "3 pieces".
QString countOf(qsizetype count, const QString& one, const QString& many);
/// What is said of a piece that is pointed at: its name, its size and copies, the lines on it.
QStringList pieceWords(const design::Stack& work, const design::Laid& laid, const geometry::Box& box,
                       base::LengthUnit unit);
/// What lines of a use are called: one, and several.
std::pair<QString, QString> nameOfUse(size_t use);
/// What is said of a line that is pointed at: what it is, its length and ends, how it folds.
QString lineWords(const design::PieceLine& line, base::LengthUnit unit);
/// The same words with a capital at their beginning.
QString capitalised(QString words);

/// "label .... field" as one widget, the field `fieldWidth` wide at the right.
QWidget* labelled(const QString& label, QWidget* field, int fieldWidth = 116);

/// A flat button that reads like a link; `name` tells those who cannot see its place what it does.
QPushButton* linkButton(const QString& words, const QString& name);

QLabel* headingLabel(const QString& words);
/// A field for a whole number, told when it was typed to its end.
QSpinBox* numberField(const QString& name, int least, int most, const QString& unit);

/// A label whose words go on in the next line when the column is narrow. How high it is for a width is kept: laying
/// words out is the dearest part of laying a column out, and a column asks a dozen times.
QLabel* sentenceLabel(const QString& words = {}, const char* role = "");

/// Adds pieces to a choice, or lets them go when all of them are in it.
void toggleAll(std::vector<design::PieceId>& chosen, const std::vector<design::PieceId>& pieces);

/// A column that scrolls up and down when it is higher than its place.
QWidget* scrolled(QWidget* body);

/// A table to be read, a line of names above it; filled by `fillTable`, whose cells tell their words as tooltips.
QTableWidget* plainTable(const QString& name, const QStringList& columns);
void fillTable(QTableWidget* table, const QVector<QStringList>& rows);

/// Shows a sentence, in the colour of a warning where something went wrong.
void sayIn(QLabel* label, const QString& sentence, bool isProblem);

/// Takes everything out of a layout for good.
void emptyLayout(QLayout* layout);

/// A field for a length, typed as people write lengths. Tells only lengths that could be read; what could not
/// is marked, and the sentence why is its tooltip and `refused`.
class LengthField : public QLineEdit {
    Q_OBJECT
  public:
    LengthField(const QString& accessibleName, QWidget* parent = nullptr);

    /// Shows a length; does not emit.
    void showLength(double lengthMm, base::LengthUnit unit);
    /// Whether "0" is a length here.
    void allowZero() { m_takes = Takes::LengthOrZero; }
    /// Whether it is a place along an axis, which may be below zero.
    void allowPlaces() { m_takes = Takes::Place; }

  signals:
    void entered(double lengthMm);
    void refused(const QString& sentence);

  private:
    void read();
    void setWrong(bool isWrong);
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    double m_shownMm = -1;
    enum class Takes { Length, LengthOrZero, Place } m_takes = Takes::Length;
    bool m_isWrong = false;
};

/// One of a few words to choose, side by side.
class WordChoice : public QWidget {
    Q_OBJECT
  public:
    explicit WordChoice(const QStringList& words, QWidget* parent = nullptr);
    void choose(int index);
    int chosenIndex() const;

  signals:
    void chosen(int index);

  private:
    QButtonGroup* m_group;
};

/// A field for words of several lines, as high as they are.
class LinesField : public QPlainTextEdit {
    Q_OBJECT
  public:
    explicit LinesField(QWidget* parent = nullptr);

  private:
    void fitLines();
};

/// Where something lies, typed: its left and top, or its middle.
class PlaceFields : public QWidget {
    Q_OBJECT
  public:
    explicit PlaceFields(QWidget* parent = nullptr);
    void showBox(const geometry::Box& box, base::LengthUnit unit);
    /// Leaves left and top alone to be typed, where a column is full.
    void hideMiddle();

  signals:
    void moved(geometry::Point byMm);
    void refused(const QString& sentence);

  private:
    void refresh();
    WordChoice* m_what;
    LengthField* m_across;
    LengthField* m_down;
    geometry::Box m_box;
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
};

/// Asks how far apart two points really are, after they were clicked on the bench.
class KnownDistance : public QWidget {
    Q_OBJECT
  public:
    explicit KnownDistance(QWidget* parent = nullptr);
    void ask(double measuredMm, base::LengthUnit unit);

  signals:
    /// What was measured is to be this many times as long.
    void told(double factor);
    void refused(const QString& sentence);

  private:
    QLabel* m_words;
    LengthField* m_field;
    double m_measuredMm = 0;
};

} // namespace thinline::app
