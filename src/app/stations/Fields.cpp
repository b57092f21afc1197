// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Fields.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QStyle>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <functional>
#include <iterator>
#include <unordered_set>

namespace thinline::app {
namespace {

class SentenceLabel : public QLabel {
  public:
    explicit SentenceLabel(const QString& words) : QLabel(words) { setWordWrap(true); }
    int heightForWidth(int width) const override {
        if (width == m_width && text() == m_text)
            return m_height;
        m_width = width;
        m_text = text();
        return m_height = QLabel::heightForWidth(width);
    }

  protected:
    void changeEvent(QEvent* event) override {
        m_width = -1; // font or style may be others
        QLabel::changeEvent(event);
    }

  private:
    mutable int m_width = -1, m_height = 0;
    mutable QString m_text;
};

} // namespace

QString countOf(qsizetype count, const QString& one, const QString& many) {
    return count == 1 ? QStringLiteral("1 ") + one : QStringLiteral("%1 %2").arg(count).arg(many);
}

QString capitalised(QString words) {
    if (!words.isEmpty())
        words[0] = words[0].toUpper();
    return words;
}

QWidget* labelled(const QString& label, QWidget* field, int fieldWidth) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* text = new QLabel(label);
    text->setBuddy(field);
    line->addWidget(text, 1);
    if (fieldWidth > 0)
        field->setFixedWidth(fieldWidth);
    line->addWidget(field);
    return row;
}

QPushButton* linkButton(const QString& words, const QString& name) {
    auto* button = new QPushButton(words);
    button->setObjectName("link");
    button->setAccessibleName(name);
    return button;
}

QLabel* sentenceLabel(const QString& words, const char* role) {
    auto* label = new SentenceLabel(words);
    label->setObjectName(role);
    return label;
}

QLabel* headingLabel(const QString& words) {
    auto* out = new QLabel(words);
    out->setObjectName("heading");
    return out;
}

QSpinBox* numberField(const QString& name, int least, int most, const QString& unit) {
    auto* out = new QSpinBox;
    out->setAccessibleName(name);
    out->setToolTip(name);
    out->setRange(least, most);
    out->setSuffix(unit);
    out->setKeyboardTracking(false);
    out->setAlignment(Qt::AlignRight);
    return out;
}

QTableWidget* plainTable(const QString& name, const QStringList& columns) {
    auto* out = new QTableWidget(0, static_cast<int>(columns.size()));
    out->setAccessibleName(name);
    out->setHorizontalHeaderLabels(columns);
    out->setSelectionBehavior(QAbstractItemView::SelectRows);
    out->setEditTriggers(QAbstractItemView::NoEditTriggers);
    out->verticalHeader()->hide();
    out->setShowGrid(false);
    out->horizontalHeader()->setStretchLastSection(true);
    out->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    out->horizontalHeader()->setHighlightSections(false);
    return out;
}

void fillTable(QTableWidget* table, const QVector<QStringList>& rows) {
    table->setRowCount(static_cast<int>(rows.size()));
    for (int row = 0; row < table->rowCount(); ++row)
        for (int column = 0; column < rows[row].size(); ++column) {
            auto* item = new QTableWidgetItem(rows[row][column]);
            item->setToolTip(rows[row][column]);
            table->setItem(row, column, item);
        }
    table->resizeColumnsToContents();
    table->horizontalHeader()->setStretchLastSection(true);
}

void sayIn(QLabel* label, const QString& sentence, bool isProblem) {
    label->setObjectName(isProblem ? "warning" : "soft");
    label->style()->polish(label);
    label->setText(sentence);
}

std::pair<QString, QString> nameOfUse(size_t use) {
    static const std::pair<const char*, const char*> names[] = {
        {QT_TRANSLATE_NOOP("QObject", "fold"), QT_TRANSLATE_NOOP("QObject", "folds")},
        {QT_TRANSLATE_NOOP("QObject", "score"), QT_TRANSLATE_NOOP("QObject", "scores")},
        {QT_TRANSLATE_NOOP("QObject", "slit"), QT_TRANSLATE_NOOP("QObject", "slits")},
        {QT_TRANSLATE_NOOP("QObject", "line to tear"), QT_TRANSLATE_NOOP("QObject", "lines to tear")},
        {QT_TRANSLATE_NOOP("QObject", "pen line"), QT_TRANSLATE_NOOP("QObject", "pen lines")},
        {QT_TRANSLATE_NOOP("QObject", "placement mark"), QT_TRANSLATE_NOOP("QObject", "placement marks")}};
    return {QObject::tr(names[use].first), QObject::tr(names[use].second)};
}

QString lineWords(const design::PieceLine& line, base::LengthUnit unit) {
    const QString ends = line.beginsAtEdge && line.endsAtEdge   ? QObject::tr("edge to edge")
                         : line.beginsAtEdge || line.endsAtEdge ? QObject::tr("one end at the edge")
                                                                : QObject::tr("ends on the card");
    QString out = QObject::tr("%1: %2, %3")
                      .arg(nameOfUse(line.does.index()).first,
                           text(base::formatLength(geometry::contourLength(line.path), unit)), ends);
    if (const auto* fold = std::get_if<design::Fold>(&line.does))
        out += QObject::tr("\n%1, %2°, scored on %3")
                   .arg(fold->isTowards ? QObject::tr("towards you") : QObject::tr("away from you"))
                   .arg(fold->angleDeg, 0, 'g', 4)
                   .arg(fold->scored == design::Side::Front ? QObject::tr("the visible face")
                                                            : QObject::tr("the back"));
    return out;
}

QStringList pieceWords(const design::Stack& work, const design::Laid& laid, const geometry::Box& box,
                       base::LengthUnit unit) {
    QStringList out{text(design::pieceName(work, laid)),
                    text(base::formatSize(box.width(), box.height(), unit))};
    if (laid.copies > 1)
        out.last() += QObject::tr(" · %1 copies").arg(laid.copies);
    QStringList lines;
    for (size_t use = 0; use < std::variant_size_v<design::LineUse>; ++use) {
        const auto& all = laid.piece.body->lines;
        const auto count =
            std::count_if(all.begin(), all.end(), [&](const auto& line) { return line.does.index() == use; });
        if (count > 0)
            lines << countOf(static_cast<qsizetype>(count), nameOfUse(use).first, nameOfUse(use).second);
    }
    if (!lines.isEmpty())
        out << lines.join(", ");
    return out;
}

void toggleAll(std::vector<design::PieceId>& chosen, const std::vector<design::PieceId>& pieces) {
    const std::unordered_set<design::PieceId> before(chosen.begin(), chosen.end()),
        these(pieces.begin(), pieces.end());
    const auto isChosen = [&](design::PieceId id) { return before.contains(id); };
    if (std::all_of(pieces.begin(), pieces.end(), isChosen))
        std::erase_if(chosen, [&](design::PieceId id) { return these.contains(id); });
    else
        std::copy_if(pieces.begin(), pieces.end(), std::back_inserter(chosen), std::not_fn(isChosen));
}

QWidget* scrolled(QWidget* body) {
    body->setObjectName("panelBody");
    auto* scroll = new QScrollArea;
    scroll->setObjectName("panel");
    scroll->setWidget(body);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    return scroll;
}

void emptyLayout(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
}

namespace {

/// A length as a field holds it: a hundredth that was typed stays to be seen, one that was computed is rounded.
QString held(double lengthMm, base::LengthUnit unit) {
    constexpr double kExact = 1e-6;
    const double hundredths = std::round(lengthMm * 100);
    const bool isTyped = std::abs(lengthMm * 100 - hundredths) < kExact && std::fmod(hundredths, 10) != 0;
    return text(isTyped && unit == base::LengthUnit::Millimetre ? base::formatNumber(lengthMm, 2) + " mm"
                                                                : base::formatLength(lengthMm, unit));
}

} // namespace

LengthField::LengthField(const QString& accessibleName, QWidget* parent) : QLineEdit(parent) {
    setAccessibleName(accessibleName);
    setAlignment(Qt::AlignRight);
    setToolTip(tr("Type 240 mm, 24,5 cm or 9 1/2 in, then Enter"));
    connect(this, &QLineEdit::editingFinished, this, &LengthField::read);
}

void LengthField::showLength(double lengthMm, base::LengthUnit unit) {
    m_unit = unit;
    m_shownMm = lengthMm;
    setWrong(false);
    if (!hasFocus() || !isModified())
        setText(held(lengthMm, unit));
    setModified(false);
}

void LengthField::setWrong(bool isWrong) {
    if (isWrong == m_isWrong)
        return;
    m_isWrong = isWrong;
    setProperty("wrong", isWrong); // the style sheet frames it
    style()->polish(this);
}

void LengthField::read() {
    if (!isModified())
        return;
    setModified(false);
    const std::string typed = text().trimmed().toStdString();
    const auto place = base::parsePlaceMm(typed, m_unit);
    const auto length = base::parseLength(typed, m_unit);
    const bool isTaken = m_takes == Takes::Place          ? place.isOk()
                         : m_takes == Takes::LengthOrZero ? length.isOk() || (place && *place == 0)
                                                          : length.isOk();
    if (!isTaken) {
        setWrong(true);
        emit refused(
            QString::fromStdString((m_takes == Takes::Place ? place.error() : length.error()).message));
        return;
    }
    const double mm = *place;
    const bool isSame = std::abs(mm - m_shownMm) < 0.005;
    showLength(isSame ? m_shownMm : mm, m_unit);
    setText(held(mm, m_unit));
    if (!isSame)
        emit entered(mm);
}

PlaceFields::PlaceFields(QWidget* parent)
    : QWidget(parent), m_what(new WordChoice({tr("Left and top"), tr("Middle")})),
      m_across(new LengthField(tr("From the left"))), m_down(new LengthField(tr("From the top"))) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    lines->addWidget(m_what);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (LengthField* field : {m_across, m_down}) {
        field->allowPlaces();
        field->setToolTip(tr("From the design's upper left corner, such as 12 mm or -5 mm, then Enter"));
        auto* words = new QLabel(field == m_across ? tr("right") : tr("down"));
        row->addWidget(words);
        row->addWidget(field, 1);
        connect(field, &LengthField::refused, this, &PlaceFields::refused);
    }
    lines->addLayout(row);
    const auto at = [this] { return m_what->chosenIndex() == 1 ? m_box.centre() : m_box.least; };
    connect(m_what, &WordChoice::chosen, this, &PlaceFields::refresh);
    connect(m_across, &LengthField::entered, this, [this, at](double mm) { emit moved({mm - at().x, 0}); });
    connect(m_down, &LengthField::entered, this, [this, at](double mm) { emit moved({0, mm - at().y}); });
    m_what->choose(0);
}

void PlaceFields::showBox(const geometry::Box& box, base::LengthUnit unit) {
    m_box = box;
    m_unit = unit;
    refresh();
}

void PlaceFields::hideMiddle() {
    m_what->hide();
}

void PlaceFields::refresh() {
    const geometry::Point at = m_what->chosenIndex() == 1 ? m_box.centre() : m_box.least;
    m_across->showLength(at.x, m_unit);
    m_down->showLength(at.y, m_unit);
}

LinesField::LinesField(QWidget* parent) : QPlainTextEdit(parent) {
    setTabChangesFocus(true);
    constexpr double kMarginPx = 3; // one line is as high as the other fields
    document()->setDocumentMargin(kMarginPx);
    setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(document(), &QTextDocument::contentsChanged, this, &LinesField::fitLines);
    fitLines();
}

void LinesField::fitLines() {
    constexpr int kMostLines = 4; // more are scrolled
    const int lines = std::min(document()->blockCount(), kMostLines);
    const int around = 2 * (frameWidth() + static_cast<int>(document()->documentMargin()));
    setVerticalScrollBarPolicy(document()->blockCount() > kMostLines ? Qt::ScrollBarAsNeeded
                                                                     : Qt::ScrollBarAlwaysOff);
    setFixedHeight(lines * fontMetrics().lineSpacing() + around);
}

WordChoice::WordChoice(const QStringList& words, QWidget* parent)
    : QWidget(parent), m_group(new QButtonGroup(this)) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    for (int i = 0; i < words.size(); ++i) {
        auto* button = new QPushButton(words[i]);
        button->setCheckable(true);
        button->setObjectName("word");
        button->setAccessibleName(words[i]);
        m_group->addButton(button, i);
        line->addWidget(button, 1);
    }
    connect(m_group, &QButtonGroup::idClicked, this, &WordChoice::chosen);
}

void WordChoice::choose(int index) {
    if (QAbstractButton* button = m_group->button(index))
        button->setChecked(true);
}

int WordChoice::chosenIndex() const {
    return m_group->checkedId();
}

KnownDistance::KnownDistance(QWidget* parent)
    : QWidget(parent), m_words(sentenceLabel()), m_field(new LengthField(tr("It really is"))) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(m_words);
    lines->addWidget(labelled(tr("It really is"), m_field));
    hide();
    connect(m_field, &LengthField::refused, this, &KnownDistance::refused);
    connect(m_field, &LengthField::entered, this, [this](double realMm) {
        hide();
        emit told(realMm / m_measuredMm);
    });
}

void KnownDistance::ask(double measuredMm, base::LengthUnit unit) {
    if (!(measuredMm > 0))
        return hide();
    m_measuredMm = measuredMm;
    m_words->setText(tr("These points are %1 apart now.")
                         .arg(QString::fromStdString(base::formatLength(measuredMm, unit))));
    m_field->showLength(measuredMm, unit);
    show();
    m_field->setFocus();
    m_field->selectAll();
}

} // namespace thinline::app
