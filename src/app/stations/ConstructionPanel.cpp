// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ConstructionPanel.h"

#include "app/stations/Fields.h"

#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

/// Those that say what goes in, counts and choices; the rest are margins.
bool isMargin(const base::Parameter& p) {
    return p.quantity == base::Quantity::Length && p.follows == base::Follows::Nothing;
}

/// The typeface a word is set in.
const base::FontName& usedFont(const construct::Given& given) {
    return given.font.family.empty() ? lettering::kPlainFont : given.font;
}

} // namespace

ConstructionPanel::ConstructionPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    m_says = sentenceLabel({}, "help");
    lines->addWidget(m_says);
    m_word = new QLineEdit;
    m_word->setAccessibleName(tr("Its word"));
    lines->addWidget(m_word);
    m_font = new FontChoice(bench.fonts());
    lines->addWidget(m_font);
    m_names = linkButton(tr("Names from a list…"), tr("A job for each name of a list, made anew with it"));
    lines->addWidget(m_names, 0, Qt::AlignLeft);
    m_goesIn = new ParameterRows;
    lines->addWidget(m_goesIn);
    m_folded = linkButton(tr("See it folded"), tr("From flat to done, with its joints checked"));
    lines->addWidget(m_folded, 0, Qt::AlignLeft);
    m_card = sentenceLabel({}, "warning");
    lines->addWidget(m_card);
    m_anew = linkButton(tr("Make it for this card"),
                        tr("The same measures, computed anew for the card it lies on"));
    lines->addWidget(m_anew, 0, Qt::AlignLeft);
    const auto heading = [&](const QString& words) {
        auto* label = new QLabel(words);
        label->setObjectName("heading");
        lines->addWidget(label);
        return label;
    };
    m_marginsHeading = heading(tr("Margins, which stay as typed"));
    m_margins = new ParameterRows;
    lines->addWidget(m_margins);
    m_numbersHeading = heading(tr("What follows"));
    auto* numbers = new QWidget;
    m_numbers = new QGridLayout(numbers);
    m_numbers->setContentsMargins(0, 0, 0, 0);
    m_numbers->setVerticalSpacing(2);
    m_numbers->setColumnStretch(0, 1);
    lines->addWidget(numbers);
    m_note = sentenceLabel();
    lines->addWidget(m_note);
    m_settle.setSingleShot(true);
    m_settle.setInterval(250);
    connect(&m_settle, &QTimer::timeout, this, [this] {
        if (!(said() == m_shown))
            emit changed(m_source, said());
    });
    for (ParameterRows* rows : {m_goesIn, m_margins})
        connect(rows, &ParameterRows::changed, &m_settle, QOverload<>::of(&QTimer::start));
    connect(m_word, &QLineEdit::textChanged, &m_settle, QOverload<>::of(&QTimer::start));
    connect(m_font, &QComboBox::activated, &m_settle, QOverload<>::of(&QTimer::start));
    connect(m_names, &QPushButton::clicked, this, &ConstructionPanel::wantsNames);
    connect(m_folded, &QPushButton::clicked, this, &ConstructionPanel::wantsFolded);
    connect(m_anew, &QPushButton::clicked, this, [this] { emit changed(m_source, m_shown); });
}

construct::Given ConstructionPanel::said() const {
    construct::Given out = m_shown;
    const auto* one = construct::constructionNamed(m_shown.name);
    if (!one)
        return out;
    const std::vector<double> in = m_goesIn->values(), margins = m_margins->values();
    out.values.clear();
    size_t i = 0, m = 0;
    for (const construct::Measure& measure : one->measures)
        out.values.push_back(isMargin(measure.parameter) ? margins[m++] : in[i++]);
    out.word = m_word->text().toStdString();
    if (const base::FontName font = m_font->chosen(out.font); !(font == usedFont(m_shown)))
        out.font = font;
    return out;
}

void ConstructionPanel::show(const job::Source& source) {
    const construct::Given& given = std::get<job::Construction>(source.what).given;
    const construct::Construction& one = *construct::constructionNamed(given.name);
    const bool isOther = m_source != source.id;
    m_source = source.id;
    if (!isOther && m_settle.isActive())
        return; // what is being typed counts, not what was shown
    m_shown = given;
    std::vector<base::Parameter> in, margins;
    std::vector<double> inValues, marginValues;
    QStringList inWhys, marginWhys;
    for (size_t i = 0; i < one.measures.size(); ++i) {
        const base::Parameter& p = one.measures[i].parameter;
        (isMargin(p) ? margins : in).push_back(p);
        (isMargin(p) ? marginValues : inValues).push_back(given.values[i]);
        (isMargin(p) ? marginWhys : inWhys) << capitalised(tr(one.measures[i].why));
    }
    const QSignalBlocker a(m_goesIn), b(m_margins), c(m_word), d(m_font);
    m_says->setText(tr(one.says));
    m_word->setVisible(one.word);
    if (one.word) {
        m_word->setPlaceholderText(tr(one.word));
        m_word->setAccessibleName(tr(one.word));
    }
    if (m_word->text().toStdString() != given.word)
        m_word->setText(text(given.word));
    m_font->setVisible(one.hasLetters);
    m_names->setVisible(one.word);
    if (one.hasLetters)
        m_font->show(usedFont(given));
    m_goesIn->show(in, inValues);
    m_goesIn->explain(inWhys);
    m_margins->show(margins, marginValues);
    m_margins->explain(marginWhys);
    m_marginsHeading->setVisible(!margins.empty());
    const double liesOnMm = job::thicknessUnder(m_bench.job(), source);
    const bool isOtherCard = job::CardFit{given.thicknessMm, liesOnMm, "", 0}.isOther();
    m_card->setVisible(isOtherCard);
    m_anew->setVisible(isOtherCard);
    m_card->setText(tr("It was made for card of %1 mm and lies on %2 mm.")
                        .arg(given.thicknessMm, 0, 'f', 2)
                        .arg(liesOnMm, 0, 'f', 2));
    m_note->setText(text(source.said));
    m_note->setVisible(!source.said.empty());
    if (m_told == std::pair(given, m_bench.job().unit))
        return;
    m_told = {given, m_bench.job().unit};
    m_teller.start(tr("Computing"), [this, given](const base::Progress& progress) -> Task::Conclusion {
        auto built = construct::built(given, progress);
        if (!built)
            return [] {};
        return [this, made = std::make_shared<const construct::Built>(built.take())] {
            m_folded->setVisible(!made->form.isEmpty());
            showNumbers(*made);
        };
    });
}

/// Pointing at a number tells the sum it followed from.
void ConstructionPanel::showNumbers(const construct::Built& built) {
    emptyLayout(m_numbers);
    m_numbersHeading->setVisible(!built.derived.empty());
    int row = 0;
    for (const construct::Derived& derived : built.derived) {
        auto* name = new QLabel(capitalised(text(derived.name)));
        name->setWordWrap(true);
        auto* value = new QLabel(text(base::formatLength(derived.mm, m_bench.job().unit)));
        value->setAlignment(Qt::AlignRight);
        const QString sum = text(construct::textOf(derived, m_bench.job().unit));
        for (QLabel* label : {name, value}) {
            label->setToolTip(sum);
            label->setAccessibleDescription(sum);
            m_numbers->addWidget(label, row, label == name ? 0 : 1);
        }
        ++row;
    }
}

} // namespace thinline::app
