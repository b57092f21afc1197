// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SourcePanels.h"

#include "app/stations/Fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QRadioButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace thinline::app {
namespace {

QVBoxLayout* columnOf(QWidget* widget) {
    auto* lines = new QVBoxLayout(widget);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    return lines;
}

MeasureSpin* numberField(const QString& name, base::Quantity quantity, double least, double most,
                         double step) {
    auto* field = new MeasureSpin(quantity);
    field->setAccessibleName(name);
    field->setRange(least, most);
    field->setSingleStep(step);
    return field;
}

QLabel* headingOf(const QString& words) {
    auto* label = new QLabel(words);
    label->setObjectName("heading");
    return label;
}

} // namespace

// ---- a word ---------------------------------------------------------------------------------------------

WordPanel::WordPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = columnOf(this);
    m_text = new LinesField;
    m_text->setAccessibleName(tr("The word"));
    m_text->setPlaceholderText(tr("Type the word"));
    m_text->setToolTip(
        tr("Retype it at any time: what was built on it is built anew. Return begins a new line"));
    lines->addWidget(m_text);
    m_font = new FontChoice(bench.fonts());
    lines->addWidget(m_font);
    m_sizeBy = new QComboBox;
    m_sizeBy->addItems({tr("Capitals high"), tr("Letters wide, in all")});
    m_sizeBy->setAccessibleName(tr("What the size measures"));
    m_size = new LengthField(tr("Size of the word"));
    auto* sizeRow = new QWidget;
    auto* sizeLine = new QHBoxLayout(sizeRow);
    sizeLine->setContentsMargins(0, 0, 0, 0);
    sizeLine->addWidget(m_sizeBy, 1);
    m_size->setFixedWidth(96);
    sizeLine->addWidget(m_size);
    lines->addWidget(sizeRow);
    m_spacing = numberField(tr("Added between letters"), base::Quantity::Length, -50, 200, 0.5);
    lines->addWidget(labelled(tr("Added between letters"), m_spacing, 96));
    m_overlap = numberField(tr("Letters overlap by"), base::Quantity::Length, 0, 200, 0.5);
    m_overlap->setToolTip(
        tr("How far each letter runs into the one before, from where they first touch; 0 keeps the "
           "typeface's own spacing"));
    lines->addWidget(labelled(tr("Letters overlap by"), m_overlap, 96));
    m_fill = numberField(tr("Fill openings below"), base::Quantity::Area, 0, 1e6, 5);
    lines->addWidget(labelled(tr("Fill openings below"), m_fill, 96));
    m_equal = new QCheckBox(tr("All letters equally high"));
    m_join = new QCheckBox(tr("Join into one piece"));
    lines->addWidget(m_equal);
    lines->addWidget(m_join);
    m_note = sentenceLabel({}, "warning");
    lines->addWidget(m_note);
    auto* names = linkButton(tr("Names from a list…"), tr("Other words in its place, a job each"));
    lines->addWidget(names, 0, Qt::AlignLeft);
    connect(names, &QPushButton::clicked, this, &WordPanel::wantsNames);

    m_settle.setSingleShot(true);
    m_settle.setInterval(300);
    connect(&m_settle, &QTimer::timeout, this, [this] {
        if (!(recipe() == m_shown) && !m_text->toPlainText().trimmed().isEmpty())
            emit changed(m_source, recipe());
    });
    connect(m_text, &LinesField::textChanged, this, &WordPanel::tellWhenSettled);
    connect(m_font, &QComboBox::activated, this, &WordPanel::tellWhenSettled);
    connect(m_sizeBy, &QComboBox::activated, this, [this] {
        // The same word, measured the other way.
        const job::Source* source = job::findSource(m_bench.job(), m_source);
        const geometry::Box box = source ? source->box() : geometry::Box{};
        if (!box.isEmpty())
            m_sizeMm = m_sizeBy->currentIndex() == 1                ? box.width()
                       : m_shown.sizeBy == lettering::SizeBy::Width ? source->at.y - box.least.y
                                                                    : m_sizeMm;
        tellWhenSettled();
    });
    connect(m_size, &LengthField::entered, this, [this](double mm) {
        m_sizeMm = mm;
        tellWhenSettled();
    });
    for (QDoubleSpinBox* field : {m_spacing, m_overlap, m_fill})
        connect(field, &QDoubleSpinBox::valueChanged, this, &WordPanel::tellWhenSettled);
    for (QCheckBox* box : {m_equal, m_join})
        connect(box, &QCheckBox::clicked, this, &WordPanel::tellWhenSettled);
}

void WordPanel::tellWhenSettled() {
    m_settle.start();
}

void WordPanel::typeHere() {
    m_text->setFocus();
    m_text->selectAll();
}

void WordPanel::show(const job::Source& source) {
    const lettering::Recipe& word = std::get<job::Word>(source.what).recipe;
    const bool isOther = m_source != source.id;
    m_source = source.id;
    if (!isOther && m_settle.isActive())
        return; // what is being typed counts, not what was shown
    m_shown = word;
    const QSignalBlocker a(m_text), b(m_font), c(m_sizeBy), d(m_spacing), e(m_overlap), f(m_fill), g(m_equal),
        h(m_join);
    m_font->show(word.font);
    if (isOther || m_text->toPlainText().trimmed().toStdString() != word.text)
        m_text->setPlainText(text(word.text));
    m_sizeBy->setCurrentIndex(word.sizeBy == lettering::SizeBy::Width ? 1 : 0);
    m_sizeMm = word.sizeMm;
    m_size->showLength(word.sizeMm, m_bench.job().unit);
    m_spacing->setValue(word.spacingMm);
    m_overlap->setValue(word.overlapMm);
    m_fill->setValue(word.fillBelowMm2);
    m_equal->setChecked(word.hasEqualHeights);
    m_join->setChecked(word.isJoined);
    const QString said = capitalised(text(source.said));
    m_note->setText(said.isEmpty() ? said : said + ".");
    m_note->setVisible(!said.isEmpty());
}

lettering::Recipe WordPanel::recipe() const {
    lettering::Recipe out = m_shown;
    out.text = m_text->toPlainText().trimmed().toStdString();
    out.font = m_font->chosen(m_shown.font);
    out.sizeBy = m_sizeBy->currentIndex() == 1 ? lettering::SizeBy::Width : lettering::SizeBy::CapHeight;
    out.sizeMm = m_sizeMm;
    // What was only shown keeps its exact value.
    const auto typed = [](const QDoubleSpinBox* field, double shown) {
        return std::abs(field->value() - shown) < 0.005 ? shown : field->value();
    };
    out.spacingMm = typed(m_spacing, m_shown.spacingMm);
    out.overlapMm = typed(m_overlap, m_shown.overlapMm);
    out.fillBelowMm2 = typed(m_fill, m_shown.fillBelowMm2);
    out.hasEqualHeights = m_equal->isChecked();
    out.isJoined = m_join->isChecked();
    return out;
}

// ---- a figure -------------------------------------------------------------------------------------------

FigurePanel::FigurePanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = columnOf(this);
    m_figure = new QComboBox;
    m_figure->setAccessibleName(tr("Figure"));
    for (const construct::FigureInfo& info : construct::figureInfos())
        m_figure->addItem(tr(info.label));
    lines->addWidget(m_figure);
    m_values = new ParameterRows;
    lines->addWidget(m_values);
    connect(m_figure, &QComboBox::activated, this, [this] { tell(true); });
    connect(m_values, &ParameterRows::changed, this, [this] { tell(false); });
}

void FigurePanel::tell(bool isOther) {
    const auto& info = construct::figureInfos()[static_cast<size_t>(m_figure->currentIndex())];
    emit changed(m_source, {info.figure, isOther ? std::vector<double>{} : m_values->values()});
}

void FigurePanel::show(const job::Source& source) {
    const construct::Recipe& recipe = std::get<job::Figure>(source.what).recipe;
    m_source = source.id;
    const QSignalBlocker quiet(m_figure);
    m_figure->setCurrentIndex(static_cast<int>(recipe.figure));
    m_values->show(construct::infoOf(recipe.figure).parameters, recipe.values);
}

// ---- a drawing ------------------------------------------------------------------------------------------

DrawingPanel::DrawingPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = columnOf(this);
    m_page = new QSpinBox;
    m_page->setAccessibleName(tr("Page"));
    m_page->setAlignment(Qt::AlignRight);
    m_page->setKeyboardTracking(false);
    m_pageRow = labelled(tr("Page"), m_page, 72);
    lines->addWidget(m_pageRow);
    connect(m_page, &QSpinBox::valueChanged, this, [this](int page) {
        m_take.page = page - 1;
        m_take.leftOut.clear(); // its layers are others
        emit taken(m_source, m_take);
    });
    lines->addWidget(headingOf(tr("Real size of the whole page")));
    m_width = new LengthField(tr("Width"));
    m_height = new LengthField(tr("Height"));
    lines->addWidget(labelled(tr("Width"), m_width));
    lines->addWidget(labelled(tr("Height"), m_height));
    m_question = headingOf(tr("The file states no size: which is it?"));
    m_question->setWordWrap(true);
    lines->addWidget(m_question);
    auto* guesses = new QWidget;
    m_guesses = columnOf(guesses);
    lines->addWidget(guesses);
    auto* known = new QPushButton(tr("One distance is known…"));
    known->setToolTip(tr("Click two points on the bench and type how far apart they really are"));
    lines->addWidget(known);
    m_layersHeading = headingOf(tr("Take these layers"));
    lines->addWidget(m_layersHeading);
    auto* layers = new QWidget;
    m_layers = columnOf(layers);
    m_layers->setSpacing(2);
    lines->addWidget(layers);
    m_linesHeading = headingOf(tr("What its lines are"));
    lines->addWidget(m_linesHeading);
    auto* kinds = new QWidget;
    m_lines = columnOf(kinds);
    m_lines->setSpacing(4);
    lines->addWidget(kinds);
    m_strokes = new QCheckBox(tr("Strokes as strips of their width"));
    m_strokes->setToolTip(tr("Otherwise a closed stroke is the outline of a piece, as cut files draw it"));
    m_clips = new QCheckBox(tr("Cut down to clip paths"));
    lines->addWidget(m_strokes);
    lines->addWidget(m_clips);

    connect(m_width, &LengthField::entered, this, [this](double mm) { emit widthSettled(m_source, mm); });
    connect(m_height, &LengthField::entered, this,
            [this](double mm) { emit widthSettled(m_source, mm * m_ratio); });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, &DrawingPanel::refused);
    connect(known, &QPushButton::clicked, this, &DrawingPanel::wantsMeasuring);
    connect(m_strokes, &QCheckBox::clicked, this, [this](bool isOn) {
        m_take.strokesAsAreas = isOn;
        emit taken(m_source, m_take);
    });
    connect(m_clips, &QCheckBox::clicked, this, [this](bool isOn) {
        m_take.appliesClips = isOn;
        emit taken(m_source, m_take);
    });
}

void DrawingPanel::showGuesses(const job::Source& source) {
    emptyLayout(m_guesses);
    const auto guesses = job::unitGuesses(source);
    m_question->setVisible(!guesses.empty());
    for (const job::UnitGuess& guess : guesses) {
        auto* take = new QRadioButton(tr("%1: %2").arg(
            text(guess.label), text(base::formatSize(guess.widthMm, guess.heightMm, m_bench.job().unit))));
        take->setChecked(std::abs(guess.widthMm - job::sourceWidthMm(source)) < 1e-6 * guess.widthMm);
        take->setToolTip(tr("Take the file's units as %1; or type a width or height you know above")
                             .arg(text(guess.label)));
        connect(take, &QRadioButton::clicked, this,
                [this, width = guess.widthMm] { emit widthSettled(m_source, width); });
        m_guesses->addWidget(take);
    }
}

void DrawingPanel::showLayers(const job::Drawing& drawing) {
    emptyLayout(m_layers);
    m_layersHeading->setVisible(drawing.layers.size() > 1);
    if (drawing.layers.size() < 2)
        return;
    for (const design::DrawnLayer& layer : drawing.layers) {
        auto* box = new QCheckBox(
            tr("%1 (%2)").arg(layer.name.empty() ? tr("without a name") : text(layer.name)).arg(layer.items));
        box->setChecked(!m_take.leftOut.contains(layer.name));
        box->setToolTip(tr("%1 outlines or groups of outlines").arg(layer.items));
        connect(box, &QCheckBox::clicked, this, [this, name = layer.name](bool isTaken) {
            if (isTaken)
                m_take.leftOut.erase(name);
            else
                m_take.leftOut.insert(name);
            emit taken(m_source, m_take);
        });
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->addWidget(box, 1);
        auto* only = linkButton(tr("Only this"), tr("Take only %1").arg(text(layer.name)));
        connect(only, &QPushButton::clicked, this, [this, name = layer.name, layers = drawing.layers] {
            m_take.leftOut.clear();
            for (const design::DrawnLayer& other : layers)
                if (other.name != name)
                    m_take.leftOut.insert(other.name);
            emit taken(m_source, m_take);
        });
        line->addWidget(only);
        m_layers->addWidget(row);
    }
}

/// One row a kind: what it looks like, and what it is; a kind nobody can tell asks for an answer.
void DrawingPanel::showLines(const job::Source& source) {
    emptyLayout(m_lines);
    const auto& kinds = std::get<job::Drawing>(source.what).kinds;
    constexpr size_t kMost = 12; // rows a person answers; the rest is taken as proposed
    m_linesHeading->setVisible(!kinds.empty());
    for (size_t i = 0; i < std::min(kMost, kinds.size()); ++i) {
        const design::LineKind& kind = kinds[i];
        auto* words = sentenceLabel(text(kind.words), "help");
        words->setToolTip(tr("%1 mm in all. %2")
                              .arg(kind.lengthMm * source.unitMm, 0, 'f', 1)
                              .arg(capitalised(text(kind.why))));
        auto* use = new QComboBox;
        use->setAccessibleName(tr("What %1 are").arg(text(kind.words)));
        const bool isAsked = !kind.isSure && !m_take.lines.contains(kind.key);
        if (isAsked)
            use->addItem(tr("which?"), "");
        for (const auto& [as, label] : std::initializer_list<std::pair<design::DrawnAs, QString>>{
                 {design::DrawnAs::Outline, tr("outlines")},
                 {design::DrawnAs::Fold, tr("folds")},
                 {design::DrawnAs::Score, tr("scores")},
                 {design::DrawnAs::Slit, tr("slits")},
                 {design::DrawnAs::Tear, tr("to be torn")},
                 {design::DrawnAs::Pen, tr("drawn by pen")},
                 {design::DrawnAs::Placement, tr("placement marks")},
                 {design::DrawnAs::Parts, tr("part the piece")},
                 {design::DrawnAs::LeftOut, tr("left out")}})
            if (as != design::DrawnAs::Outline || kind.isClosed)
                use->addItem(label, text(design::drawnAsWord(as)));
        if (!isAsked)
            use->setCurrentIndex(use->findData(text(design::drawnAsWord(kind.taken))));
        use->setToolTip(capitalised(text(kind.why)));
        connect(use, &QComboBox::activated, this, [this, use, key = kind.key] {
            if (const auto as = design::drawnAsOf(use->currentData().toString().toStdString())) {
                m_take.lines[key] = *as;
                emit taken(m_source, m_take);
            }
        });
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->addWidget(words, 1);
        use->setFixedWidth(132);
        line->addWidget(use);
        m_lines->addWidget(row);
    }
}

void DrawingPanel::show(const job::Source& source) {
    const auto& drawing = std::get<job::Drawing>(source.what);
    m_source = source.id;
    m_take = drawing.take;
    m_ratio = job::sourceWidthMm(source) / job::sourceHeightMm(source);
    m_width->showLength(job::sourceWidthMm(source), m_bench.job().unit);
    m_height->showLength(job::sourceHeightMm(source), m_bench.job().unit);
    {
        const QSignalBlocker quiet(m_page);
        m_page->setRange(1, drawing.pages);
        m_page->setValue(m_take.page + 1);
        m_page->setSuffix(tr(" of %1").arg(drawing.pages));
        m_pageRow->setVisible(drawing.pages > 1);
    }
    m_strokes->setChecked(m_take.strokesAsAreas);
    m_clips->setChecked(m_take.appliesClips);
    const bool isPlain = drawing.file->mediaType == job::kDxfType;
    m_strokes->setVisible(!isPlain);
    m_clips->setVisible(!isPlain);
    showGuesses(source);
    showLayers(drawing);
    showLines(source);
}

// ---- where it came from ---------------------------------------------------------------------------------

OriginPanel::OriginPanel(QWidget* parent) : QWidget(parent) {
    auto* lines = columnOf(this);
    m_from = new QLineEdit;
    m_from->setAccessibleName(tr("Where it came from"));
    m_from->setPlaceholderText(tr("Where it came from"));
    m_from->setMaxLength(400);
    m_licence = new QComboBox;
    m_licence->setAccessibleName(tr("What may be done with it"));
    for (auto licence :
         {job::Licence::Unknown, job::Licence::Own, job::Licence::FreeForOwnUse, job::Licence::MaySell})
        m_licence->addItem(capitalised(text(job::licenceText(licence))));
    m_licence->setToolTip(tr("Noted in the job and carried into the package"));
    lines->addWidget(m_from);
    lines->addWidget(m_licence);
    const auto tell = [this] {
        emit changed(
            {m_from->text().trimmed().toStdString(), static_cast<job::Licence>(m_licence->currentIndex())});
    };
    connect(m_from, &QLineEdit::editingFinished, this, tell);
    connect(m_licence, &QComboBox::activated, this, tell);
}

void OriginPanel::show(const job::Origin& origin) {
    const QSignalBlocker a(m_from), b(m_licence);
    if (!m_from->hasFocus())
        m_from->setText(text(origin.from));
    m_licence->setCurrentIndex(static_cast<int>(origin.licence));
}

} // namespace thinline::app
