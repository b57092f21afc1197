// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the Split station shows of what it holds: rows, ways, numbers, and seams on the bench.
#include "app/stations/SplitStation.h"
#include "geometry/Measures.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>

#include <cmath>
#include <set>

namespace thinline::app {
namespace {

using split::Joint;

/// A row of words that is pressed like a button and stays so.
QPushButton* choiceButton(const QString& words, const QString& below, bool isChosen) {
    auto* button = new QPushButton(below.isEmpty() ? words : words + "\n" + below);
    button->setObjectName("choice"); // see the style sheet
    button->setCheckable(true);
    button->setChecked(isChosen);
    button->setAccessibleName(words + ", " + below);
    return button;
}

QString partsText(const split::Division& division) {
    return countOf(static_cast<qsizetype>(division.parts.size()), SplitStation::tr("part"),
                   SplitStation::tr("parts"));
}

} // namespace

/// Pieces, the ways of the one that is looked at, and everything that follows from them.
void SplitStation::showAll() {
    showPieces();
    showWays();
    showOthers();
    showControls();
    showNumbers();
    showSeams();
}

void SplitStation::showPieces() {
    emptyLayout(m_pieces);
    for (size_t i = 0; i < m_rows.size(); ++i) {
        const job::Draft* of = m_rows[i].draft();
        const QString words = capitalised(text(m_rows[i].piece().name)) + QStringLiteral(": ") +
                              (of ? partsText(of->division) : tr("not divided"));
        auto* button = choiceButton(words, {}, i == m_at);
        connect(button, &QPushButton::clicked, this, [this, i] { choosePiece(i); });
        m_pieces->addWidget(button);
    }
    m_piecesHeading->setVisible(!m_rows.empty());
}

void SplitStation::showWays() {
    emptyLayout(m_ways);
    m_waysHeading->setVisible(!m_rows.empty());
    if (m_at >= m_rows.size())
        return;
    const Row& row = m_rows[m_at];
    for (size_t i = 0; i < row.of.drafts.size(); ++i) {
        const split::Division& way = row.of.drafts[i].division;
        const QString seen = text(base::formatLength(way.seenMm, bench().job().unit));
        QString below = tr("%1 · %2 seen").arg(partsText(way), seen);
        if (i < row.sheets.size())
            below += tr(" · at most %1").arg(countOf(row.sheets[i], tr("sheet"), tr("sheets")));
        auto* button =
            choiceButton(text(job::wayName(row.of.proposed.ways, i)), below, !row.byHand && row.way == i);
        button->setToolTip(tr("Sheets of its stock, laid by boxes; by true outlines it may be fewer"));
        connect(button, &QPushButton::clicked, this, [this, i] { chooseWay(i); });
        m_ways->addWidget(button);
    }
    if (row.byHand)
        m_ways->addWidget(choiceButton(tr("Laid by hand"), partsText(row.byHand->division), true));
}

/// What is of use now.
void SplitStation::showControls() {
    const bool isLarge = !m_rows.empty(), hasParts = m_steps->rows() > 0;
    for (QWidget* widget :
         std::initializer_list<QWidget*>{m_draw, m_joint->parentWidget(), m_overlap->parentWidget()})
        widget->setVisible(isLarge);
    for (QWidget* widget : std::initializer_list<QWidget*>{m_apartHeading, m_apart->parentWidget(), m_behind})
        widget->setVisible(hasParts && !isLarge);
    const auto kept = static_cast<qsizetype>(m_keepWhole.size());
    tell(m_kept, kept == 0 || !isLarge
                     ? QString()
                     : tr("No seam goes under %1.").arg(countOf(kept, tr("piece"), tr("pieces"))));
    m_keepNone->setVisible(!m_kept->isHidden());
    m_board->setVisible(!isLarge && bench().hasPieces());
    mainButton()->setEnabled(isLarge ? areAllDivided() : bench().hasPieces() && isSettled());
    mainButton()->setText(isLarge ? tr("Take these parts") : tr("On to the sheets"));
}

/// How many pieces were divided, and into how many parts.
std::pair<qsizetype, qsizetype> SplitStation::divided() const {
    const std::set<design::StepId> dividing = job::dividingSteps(bench().made());
    std::set<design::PieceId> wholes;
    qsizetype parts = 0;
    for (const design::Laid& laid : bench().work() ? bench().work()->pieces : std::vector<design::Laid>{})
        if (dividing.contains(laid.id().madeBy())) {
            wholes.insert(laid.id().whole());
            ++parts;
        }
    return {static_cast<qsizetype>(wholes.size()), parts};
}

bool SplitStation::areAllDivided() const {
    return !m_measurer.isRunning() && !m_proposer.isRunning() &&
           std::all_of(m_rows.begin(), m_rows.end(),
                       [](const Row& row) { return row.draft() && row.draft()->division.parts.size() > 1; });
}

void SplitStation::showNumbers() {
    const base::LengthUnit unit = bench().job().unit;
    const auto length = [&](double mm) { return text(base::formatLength(mm, unit)); };
    const job::Draft* of = draft();
    if (!of) {
        const Row* row = m_at < m_rows.size() ? &m_rows[m_at] : nullptr;
        if (row && !row->of.proposed.problem.empty())
            tell(m_note, text(row->of.proposed.problem));
        QVector<std::pair<QString, QString>> rows{{tr("Too large"), m_proposer.isRunning() ? tr("looking")
                                                                    : m_rows.empty()
                                                                        ? tr("none")
                                                                        : QString::number(m_rows.size())}};
        if (const auto [wholes, parts] = divided(); wholes > 0)
            rows.append({tr("Divided"), tr("%1 into %2")
                                            .arg(countOf(wholes, tr("piece"), tr("pieces")),
                                                 countOf(parts, tr("part"), tr("parts")))});
        return setAnswer(rows);
    }
    QVector<std::pair<QString, QString>> rows{
        {tr("Parts"), tr("%1, up to %2").arg(of->division.parts.size()).arg(length(of->longestMm))},
        {tr("Seams"), tr("%1, together %2").arg(of->division.seams.size()).arg(length(of->division.seamMm))},
        {tr("Seen from the front"), length(of->division.seenMm)}};
    if (!of->division.seams.empty())
        rows.append({tr("Narrowest cut place"), length(of->narrowestMm)});
    if (of->windows > 0)
        rows.append({tr("Windows of keys"), QString::number(of->windows)});
    if (of->nearSeamMm)
        rows.append({tr("Nearest seam of a layer"), length(*of->nearSeamMm)});
    setAnswer(rows);
    QStringList faults;
    for (const std::string& fault : of->faults)
        faults << text(fault);
    if (!m_proposer.isRunning())
        tell(m_note, faults.mid(0, 3).join(QStringLiteral(" ")) +
                         (faults.size() > 3 ? tr(" And %1 more.").arg(faults.size() - 3) : QString()));
}

void SplitStation::showSeams() {
    SeamsShown shown;
    const base::LengthUnit unit = bench().job().unit;
    const job::Draft* of = draft();
    if (of) {
        for (size_t i = 0; i < of->division.seams.size(); ++i) {
            const split::Seam& seam = of->division.seams[i];
            QString words = tr("Seam %1: ").arg(i + 1) + text(job::seamText(seam, unit));
            if (i < of->joined.seams.size() && !of->joined.seams[i].keys.empty())
                words += tr("\n%1, 3 mm of card around each")
                             .arg(countOf(static_cast<qsizetype>(of->joined.seams[i].keys.size()),
                                          tr("window"), tr("windows")));
            shown.seams.push_back({seam.path, words, seam.isThin || seam.cutsKept || seam.nearSeamMm});
            for (const split::Key& key :
                 i < of->joined.seams.size() ? of->joined.seams[i].keys : std::vector<split::Key>{})
                shown.windows.push_back(key.window);
            if (i < of->joined.seams.size() && of->joined.seams[i].joint != Joint::Butt)
                shown.strips.push_back(of->joined.seams[i].strip);
        }
        for (size_t i = 0; i < of->places.size(); ++i)
            shown.parts.push_back({of->places[i], QString::number(i + 1)});
        shown.chosen = m_seam;
    } else if (isApart()) {
        if (const ScenePtr parts = scene())
            for (const SceneItem& item : parts->items()) {
                const design::Laid* laid = bench().work()->find(item.piece);
                if (laid)
                    shown.parts.push_back({item.map(geometry::pointInside(item.shape())),
                                           QString::number(split::partNumber(laid->piece))});
            }
    }
    const bool hasSeam = of && m_seam >= 0 && m_seam < static_cast<int>(of->seams.size());
    tell(m_why,
         hasSeam ? capitalised(shown.seams[static_cast<size_t>(m_seam)].words) + QStringLiteral(".")
         : of    ? tr("Click a seam to read why it lies there. Shift and a click keep what lies above whole.")
                 : QString());
    m_seamRow->setVisible(hasSeam);
    m_takeOut->setVisible(hasSeam);
    if (hasSeam)
        m_seamJoint->setCurrentIndex(static_cast<int>(of->seams[static_cast<size_t>(m_seam)].joint));
    m_rest->setVisible(m_at < m_rows.size() && m_rows[m_at].byHand);
    m_tool.show(std::move(shown));
    emit choiceChanged();
}

} // namespace thinline::app
