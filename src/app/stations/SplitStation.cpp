// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Seams are looked at before they are a step. Proposals are found by a worker whenever the work, its sheets or the wishes
// become others; what a hand then lays instead is measured by another worker and replaces the proposal of its piece.
// Nothing of this is in the job until the parts are taken: then there is a step for each piece, and what was divided is
// looked at apart.
#include "app/stations/SplitStation.h"

#include "geometry/Measures.h"
#include "job/LineSteps.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "split/Hand.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
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

} // namespace

SplitStation::SplitStation(Workbench& bench, QWidget* parent)
    : StationPanel(Station::Split, bench,
                   {tr("How does it get onto the mat?"),
                    tr("Drag a seam or its ends. Shift and a click keep what lies above whole."),
                    tr("Take these parts")},
                   parent),
      m_tool({[this](geometry::Point from, geometry::Point to) {
                  if (!draft())
                      return;
                  const split::Ground ground =
                      job::groundOf(this->bench().state(), draft()->of.piece, options());
                  const auto laid = split::movedAt(linesNow(), from, to, ground.shape);
                  layLines(laid.seams, laid.from);
              },
              [this](size_t seam, geometry::Point, geometry::Point to) {
                  const auto laid = split::bentAt(linesNow(), seam, to);
                  layLines(laid.seams, laid.from);
              },
              [this](geometry::Point from, geometry::Point to) {
                  if (!draft())
                      return;
                  constexpr double kReachMm = 6;
                  const split::Ground ground =
                      job::groundOf(this->bench().state(), draft()->of.piece, options());
                  const auto laid =
                      split::withSeam(linesNow(), from, to, ground.shape, kReachMm, ground.cover);
                  if (!laid)
                      return tell(m_note, text(laid.error().message));
                  layLines(laid->seams, laid->from);
              },
              [this](int seam) {
                  m_seam = seam;
                  showSeams();
              },
              [this](const SceneItem& item) { keepWhole(item); }}) {
    buildControls();
    buildAssembly();
    constexpr int kSettleMs = 120;
    m_settle.setSingleShot(true);
    m_settle.setInterval(kSettleMs);
    connect(&m_settle, &QTimer::timeout, this, &SplitStation::propose);
    connect(mainButton(), &QPushButton::clicked, this, &SplitStation::take);
    connect(&m_proposer, &Task::progressed, this, [this](double fraction, const QString& doing) {
        tell(m_note, tr("Looking for seams: %1, %2 %").arg(doing).arg(std::lround(100 * fraction)));
    });
}

void SplitStation::buildControls() {
    m_sheets = addNote();
    m_joint = new QComboBox;
    m_joint->setAccessibleName(tr("Joints"));
    m_joint->addItem(tr("keyed below, butt above"), -1);
    m_joint->addItem(tr("keyed overlap"), static_cast<int>(Joint::Keyed));
    m_joint->addItem(tr("overlap"), static_cast<int>(Joint::Overlap));
    m_joint->addItem(tr("edge to edge"), static_cast<int>(Joint::Butt));
    m_joint->setToolTip(
        tr("Windows of different forms through both parts, so that each fits only in its place; an overlap "
           "that is glued; or edge to edge, taped on the back"));
    addRow(tr("Joints"), m_joint, 196);
    m_overlap = addLength(tr("Overlap"));
    m_overlap->showLength(job::SplitOptions{}.overlapMm, base::LengthUnit::Millimetre);
    m_overlap->setProperty("mm", job::SplitOptions{}.overlapMm);
    m_piecesHeading = addHeading(tr("Too large"));
    m_pieces = new QVBoxLayout;
    m_pieces->setSpacing(2);
    controls()->addLayout(m_pieces);
    m_waysHeading = addHeading(tr("Proposals"));
    m_ways = new QVBoxLayout;
    m_ways->setSpacing(4);
    controls()->addLayout(m_ways);
    m_draw = new QCheckBox(tr("Draw a seam: drag from edge to edge"));
    controls()->addWidget(m_draw);
    m_rest =
        linkButton(tr("Keep these seams and propose the rest"), tr("Keep these seams and propose the rest"));
    controls()->addWidget(m_rest, 0, Qt::AlignLeft);
    m_why = addNote();
    m_seamJoint = new QComboBox;
    m_seamJoint->setAccessibleName(tr("Joint of this seam"));
    for (const QString& word : {tr("edge to edge"), tr("overlap"), tr("keyed overlap")})
        m_seamJoint->addItem(word);
    m_seamRow = addRow(tr("This seam"), m_seamJoint, 132);
    m_takeOut = linkButton(tr("Take this seam out"), tr("Take this seam out"));
    controls()->addWidget(m_takeOut, 0, Qt::AlignLeft);
    m_kept = addNote();
    m_keepNone = linkButton(tr("Let seams go there again"), tr("Let seams go there again"));
    controls()->addWidget(m_keepNone, 0, Qt::AlignLeft);
    m_longer = addNote();
    m_shrink = linkButton({}, tr("Make the work smaller instead"));
    controls()->addWidget(m_shrink, 0, Qt::AlignLeft);
    m_board = linkButton(tr("Back it all with board"), tr("Back it all with board"));
    m_board->setToolTip(tr("The outline of the whole, a little smaller, as a piece of board behind it"));
    controls()->addWidget(m_board, 0, Qt::AlignLeft);
    m_note = addNote();
    m_note->setObjectName("warning");
    connect(m_keepNone, &QPushButton::clicked, this, [this] {
        m_keepWhole.clear();
        refresh();
    });
    connect(m_board, &QPushButton::clicked, this, [this] {
        constexpr double kInsetMm = 2;
        bench().run(tr("Back it with board"), [](const job::State& now, const base::Progress& progress) {
            return job::withBoard(now, kInsetMm, "", progress);
        });
    });
    connect(m_joint, &QComboBox::activated, this, [this] { refresh(); });
    connect(m_overlap, &LengthField::entered, this, [this](double mm) {
        m_overlap->setProperty("mm", mm);
        refresh();
    });
    connect(m_overlap, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_draw, &QCheckBox::toggled, this, [this](bool isOn) {
        m_tool.draw(isOn);
        emit benchChanged();
    });
    connect(m_rest, &QPushButton::clicked, this, &SplitStation::proposeRest);
    connect(m_takeOut, &QPushButton::clicked, this, &SplitStation::takeSeamOut);
    connect(m_seamJoint, &QComboBox::activated, this, &SplitStation::joinSeam);
    connect(m_shrink, &QPushButton::clicked, this, &SplitStation::shrink);
}

/// What was divided, and how it is looked at.
void SplitStation::buildAssembly() {
    m_apartHeading = addHeading(tr("The parts"));
    m_apart = new QSlider(Qt::Horizontal);
    m_apart->setRange(0, 100);
    m_apart->setAccessibleName(tr("How far apart the parts are shown"));
    addRow(tr("Shown apart"), m_apart, 172);
    m_behind = new QCheckBox(tr("From behind, as they are taped"));
    controls()->addWidget(m_behind);
    m_stepsHeading = addHeading(tr("Divided so far"));
    m_steps = new StepList([](const design::Step& step) {
        return split::isDivision(step) ? StepList::Shown::ToOpen
               : split::infoOf(step)   ? StepList::Shown::InWords
                                       : StepList::Shown::Not;
    });
    controls()->addWidget(m_steps);
    connect(m_apart, &QSlider::valueChanged, this, &SplitStation::showApart);
    connect(m_behind, &QCheckBox::toggled, this, &SplitStation::showApart);
    connect(m_steps, &StepList::opened, this, &SplitStation::openAgain);
    connect(m_steps, &StepList::takenOut, this, [this](size_t step) {
        bench().act(tr("Take a step out"), job::withoutStep(bench().job(), step));
    });
}

bool SplitStation::isDone() const {
    const auto& steps = bench().job().steps;
    return std::any_of(steps.begin(), steps.end(), [](const auto& step) { return split::isDivision(*step); });
}

bool SplitStation::mends(inspect::Kind kind) const {
    using inspect::Kind;
    return kind == Kind::LargerThanSheet || kind == Kind::LargerThanEveryMat ||
           kind == Kind::SeamThroughNeck || kind == Kind::SeamsOnOneAnother || kind == Kind::PartTooSmall;
}

const job::Draft* SplitStation::draft() const {
    return m_at < m_rows.size() ? m_rows[m_at].draft() : nullptr;
}

job::SplitOptions SplitStation::options() const {
    job::SplitOptions out;
    if (const int joint = m_joint->currentData().toInt(); joint >= 0)
        out.joint = static_cast<Joint>(joint);
    out.overlapMm = m_overlap->property("mm").toDouble();
    out.keepWhole = m_keepWhole;
    return out;
}

/// A piece that lies above what is divided: no seam goes under it, or may again.
void SplitStation::keepWhole(const SceneItem& item) {
    if (!draft() || item.piece == draft()->of.piece)
        return;
    toggleAll(m_keepWhole, {item.piece});
    refresh();
}

// ---- proposals --------------------------------------------------------------------------------------------------

void SplitStation::setActive(bool isActive) {
    m_isActive = isActive;
    if (isActive)
        return refresh();
    m_proposer.stop();
    m_settle.stop();
    m_proposedFor = nullptr;
}

void SplitStation::refresh() {
    const base::LengthUnit unit = bench().job().unit;
    m_overlap->showLength(m_overlap->property("mm").toDouble(), unit);
    m_steps->show(bench().job().steps);
    m_stepsHeading->setVisible(m_steps->rows() > 0);
    const auto asked = job::arrangeOptions(bench().job(), bench().catalogue().formats);
    tell(m_sheets, asked ? tr("Mat %1, sheets %2; both are chosen at Sheets.")
                               .arg(text(asked->mat.name), text(asked->sheet.name))
                         : text(asked.error().message));
    // What seams are proposed by, in words: a change of any of it asks for other ones.
    const job::SheetPlan& plan = bench().job().plan;
    std::string by = plan.matId + "/" + plan.sheetId + "/" + std::to_string(plan.ownSheet.widthMm) + "x" +
                     std::to_string(plan.ownSheet.heightMm) + "/" + std::to_string(m_joint->currentIndex()) +
                     "/" + std::to_string(options().overlapMm);
    for (const auto& [stock, sheet] : plan.sheetOf)
        by += "/" + stock + "=" + sheet.id + std::to_string(sheet.widthMm);
    for (const design::PieceId kept : m_keepWhole)
        by += "/" + kept.text();
    if (m_isActive && !bench().isBehind() && (m_proposedFor != bench().made().stack || m_proposedBy != by)) {
        m_proposedFor = bench().made().stack;
        m_proposedBy = by;
        m_settle.start();
    }
    showWays();
}

void SplitStation::propose() {
    m_measurer.stop();
    const auto again = std::exchange(m_again, std::nullopt);
    m_proposer.start(
        tr("Looking for seams"),
        [this, state = bench().state(), wishes = options(), formats = bench().catalogue().formats,
         again](const base::Progress& progress) -> Task::Conclusion {
            struct Found {
                std::vector<Row> rows;
                double scale = 1;
                QStringList longer;
                std::string problem;
            };
            auto found = std::make_shared<Found>();
            const auto large = job::oversize(state, formats);
            if (!large) {
                found->problem = large.error().message;
            } else {
                found->scale = job::scaleWithoutSeams(state, *large);
                for (const job::LongerMat& mat : job::longerMats(state, *large, formats))
                    found->longer << (mat.stillTooLarge == 0
                                          ? tr("on the mat %1 nothing needs a seam").arg(text(mat.name))
                                          : tr("on the mat %1 only %2 would be too large")
                                                .arg(text(mat.name),
                                                     countOf(mat.stillTooLarge, tr("piece"), tr("pieces"))));
                auto all = job::proposals(state, *large, wishes, progress);
                if (!all)
                    return {};
                for (job::Proposed& one : all.take()) {
                    Row row{std::move(one), {}, 0};
                    const Joint joint = wishes.jointFor(row.proposed.of);
                    for (const split::Division& way : row.proposed.ways)
                        if (auto draft = job::draftOf(state, row.proposed.of, job::wishesOf(way, joint),
                                                      wishes, progress)) {
                            job::Draft kept = draft.take();
                            for (size_t i = 0; i < kept.division.seams.size() && i < way.seams.size(); ++i)
                                kept.division.seams[i].elsewhereMm = way.seams[i].elsewhereMm;
                            row.drafts.push_back(std::move(kept));
                        }
                    if (again && again->first == row.proposed.of.piece)
                        if (auto draft =
                                job::draftOf(state, row.proposed.of, again->second, wishes, progress))
                            row.byHand = draft.take();
                    found->rows.push_back(std::move(row));
                }
            }
            return [this, found] {
                tell(m_note, text(found->problem));
                m_scale = found->scale;
                tell(m_longer, found->longer.isEmpty()
                                   ? QString()
                                   : capitalised(found->longer.mid(0, 2).join(QStringLiteral("; "))) + ".");
                showRows(std::move(found->rows));
            };
        });
}

void SplitStation::showRows(std::vector<Row> rows) {
    m_rows = std::move(rows);
    m_at = 0;
    m_seam = -1;
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (m_rows[i].byHand)
            m_at = i;
    showWays();
    emit benchChanged();
}

void SplitStation::choosePiece(size_t row) {
    m_at = row;
    m_seam = -1;
    showWays();
}

void SplitStation::chooseWay(size_t way) {
    m_rows[m_at].way = way;
    m_rows[m_at].byHand.reset();
    m_seam = -1;
    showWays();
}

/// Pieces, the ways of the one that is looked at, and everything that follows from them.
void SplitStation::showWays() {
    const base::LengthUnit unit = bench().job().unit;
    emptyLayout(m_pieces);
    emptyLayout(m_ways);
    for (size_t i = 0; i < m_rows.size(); ++i) {
        const Row& row = m_rows[i];
        const job::Draft* of = row.draft();
        const QString parts =
            of ? countOf(static_cast<qsizetype>(of->division.parts.size()), tr("part"), tr("parts"))
               : tr("not divided");
        auto* button = choiceButton(capitalised(text(row.proposed.of.name)) + QStringLiteral(": ") + parts,
                                    {}, i == m_at);
        connect(button, &QPushButton::clicked, this, [this, i] { choosePiece(i); });
        m_pieces->addWidget(button);
    }
    m_piecesHeading->setVisible(!m_rows.empty());
    m_waysHeading->setVisible(!m_rows.empty());
    if (m_at < m_rows.size()) {
        const Row& row = m_rows[m_at];
        for (size_t i = 0; i < row.drafts.size(); ++i) {
            const split::Division& way = row.drafts[i].division;
            const QString numbers =
                tr("%1 · %2 seen")
                    .arg(countOf(static_cast<qsizetype>(way.parts.size()), tr("part"), tr("parts")),
                         text(base::formatLength(way.seenMm, unit)));
            auto* button =
                choiceButton(text(job::wayName(row.proposed.ways, i)), numbers, !row.byHand && row.way == i);
            connect(button, &QPushButton::clicked, this, [this, i] { chooseWay(i); });
            m_ways->addWidget(button);
        }
        if (row.byHand) {
            auto* button = choiceButton(
                tr("Laid by hand"),
                countOf(static_cast<qsizetype>(row.byHand->division.parts.size()), tr("part"), tr("parts")),
                true);
            m_ways->addWidget(button);
        }
    }
    for (QWidget* widget : std::initializer_list<QWidget*>{m_draw, m_shrink, m_joint->parentWidget(),
                                                           m_overlap->parentWidget()})
        widget->setVisible(!m_rows.empty());
    tell(m_kept,
         m_keepWhole.empty() || m_rows.empty()
             ? QString()
             : tr("No seam goes under %1.")
                   .arg(countOf(static_cast<qsizetype>(m_keepWhole.size()), tr("piece"), tr("pieces"))));
    m_keepNone->setVisible(!m_kept->isHidden());
    m_board->setVisible(m_rows.empty() && bench().hasPieces());
    m_longer->setVisible(!m_rows.empty() && !m_longer->text().isEmpty());
    m_shrink->setText(
        tr("Make it %1 % of its size instead: no seam").arg(std::floor(1000 * m_scale) / 10, 0, 'f', 1));
    const bool hasParts = m_steps->rows() > 0;
    for (QWidget* widget : std::initializer_list<QWidget*>{m_apartHeading, m_apart->parentWidget(), m_behind})
        widget->setVisible(hasParts && m_rows.empty());
    mainButton()->setEnabled(m_rows.empty() ? bench().hasPieces() && !m_proposer.isRunning()
                                            : areAllDivided());
    mainButton()->setText(m_rows.empty() ? tr("On to the sheets") : tr("Take these parts"));
    showNumbers();
    showSeams();
}

/// How many pieces were divided, and into how many parts.
std::pair<qsizetype, qsizetype> SplitStation::divided() const {
    std::set<design::StepId> dividing;
    for (const auto& step : bench().job().steps)
        if (split::isDivision(*step))
            dividing.insert(step->id);
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
    return !m_measurer.isRunning() && std::all_of(m_rows.begin(), m_rows.end(), [](const Row& row) {
        return row.draft() && row.draft()->division.parts.size() > 1;
    });
}

void SplitStation::showNumbers() {
    const base::LengthUnit unit = bench().job().unit;
    const auto length = [&](double mm) { return text(base::formatLength(mm, unit)); };
    const job::Draft* of = draft();
    if (!of) {
        const Row* row = m_at < m_rows.size() ? &m_rows[m_at] : nullptr;
        if (row && !row->proposed.problem.empty())
            tell(m_note, text(row->proposed.problem));
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
    double longest = 0, narrowest = 1e9;
    for (const geometry::Shape& part : of->joined.parts) {
        const geometry::TurnedRectangle box = geometry::leastRectangle({part});
        longest = std::max(longest, box.widthMm);
    }
    int windows = 0;
    std::optional<double> near;
    for (size_t i = 0; i < of->division.seams.size(); ++i) {
        narrowest = std::min(narrowest, of->division.seams[i].narrowestMm);
        if (of->division.seams[i].nearSeamMm)
            near = std::min(near.value_or(1e9), *of->division.seams[i].nearSeamMm);
        windows += i < of->joined.seams.size() ? static_cast<int>(of->joined.seams[i].keys.size()) : 0;
    }
    QVector<std::pair<QString, QString>> rows{
        {tr("Parts"), tr("%1, up to %2").arg(of->division.parts.size()).arg(length(longest))},
        {tr("Seams"), tr("%1, together %2").arg(of->division.seams.size()).arg(length(of->division.seamMm))},
        {tr("Seen from the front"), length(of->division.seenMm)}};
    if (!of->division.seams.empty())
        rows.append({tr("Narrowest cut place"), length(narrowest)});
    if (windows > 0)
        rows.append({tr("Windows of keys"), QString::number(windows)});
    if (near)
        rows.append({tr("Nearest seam of a layer"), length(*near)});
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
        for (size_t i = 0; i < of->division.parts.size(); ++i)
            shown.parts.push_back({geometry::pointInside(of->division.parts[i]), QString::number(i + 1)});
        shown.chosen = m_seam;
    } else if (isApart()) {
        if (const ScenePtr parts = scene())
            for (const SceneItem& item : parts->items()) {
                const design::Laid* laid = bench().work()->find(item.piece);
                const QString name = laid ? text(laid->piece.name) : QString();
                shown.parts.push_back(
                    {item.map(geometry::pointInside(item.shape())), name.section(' ', -3, -3)});
            }
    }
    const bool hasSeam = of && m_seam >= 0 && m_seam < static_cast<int>(of->seams.size());
    tell(m_why, hasSeam ? capitalised(shown.seams[static_cast<size_t>(m_seam)].words) + QStringLiteral(".")
                : of    ? tr("Click a seam to read why it lies there.")
                        : QString());
    m_seamRow->setVisible(hasSeam);
    m_takeOut->setVisible(hasSeam);
    if (hasSeam)
        m_seamJoint->setCurrentIndex(static_cast<int>(of->seams[static_cast<size_t>(m_seam)].joint));
    m_rest->setVisible(m_at < m_rows.size() && m_rows[m_at].byHand);
    m_tool.show(std::move(shown));
    emit choiceChanged();
}

// ---- by hand ----------------------------------------------------------------------------------------------------

std::vector<geometry::Line> SplitStation::linesNow() const {
    std::vector<geometry::Line> out;
    if (draft())
        for (const split::SeamWish& seam : draft()->seams)
            out.push_back(seam.path);
    return out;
}

/// Lines laid by hand; what was part of a seam keeps its joint.
void SplitStation::layLines(const std::vector<geometry::Line>& lines, const std::vector<int>& from) {
    if (!draft())
        return;
    const job::SplitOptions wishes = options();
    std::vector<split::SeamWish> seams;
    for (size_t i = 0; i < lines.size(); ++i)
        seams.push_back({lines[i], from[i] < 0 ? wishes.jointFor(draft()->of)
                                               : draft()->seams[static_cast<size_t>(from[i])].joint});
    lay(std::move(seams));
}

void SplitStation::lay(std::vector<split::SeamWish> seams) {
    const job::Draft* of = draft();
    if (!of)
        return;
    // Shown where the hand left them at once; the numbers follow.
    m_measurer.start(tr("Measuring the parts"),
                     [this, state = bench().state(), piece = of->of, seams = std::move(seams),
                      wishes = options()](const base::Progress& progress) -> Task::Conclusion {
                         auto draft = std::make_shared<base::Result<job::Draft>>(
                             job::draftOf(state, piece, seams, wishes, progress));
                         return [this, draft, id = piece.piece] {
                             if (!*draft)
                                 return tell(m_note, text(draft->error().message));
                             for (Row& row : m_rows)
                                 if (row.proposed.of.piece == id)
                                     row.byHand = draft->take();
                             showWays();
                         };
                     });
}

void SplitStation::takeSeamOut() {
    if (!draft() || m_seam < 0)
        return;
    const auto laid = split::withoutSeam(linesNow(), static_cast<size_t>(std::exchange(m_seam, -1)));
    layLines(laid.seams, laid.from);
}

void SplitStation::joinSeam(int joint) {
    if (!draft() || m_seam < 0)
        return;
    std::vector<split::SeamWish> seams = draft()->seams;
    seams[static_cast<size_t>(m_seam)].joint = static_cast<Joint>(joint);
    lay(std::move(seams));
}

void SplitStation::proposeRest() {
    if (!draft())
        return;
    m_measurer.start(tr("Looking for seams"),
                     [this, state = bench().state(), of = *draft(),
                      wishes = options()](const base::Progress& progress) -> Task::Conclusion {
                         auto seams = job::withTheRest(state, of, wishes, progress);
                         return [this, seams = std::move(seams)] {
                             if (!seams)
                                 return tell(m_note, text(seams.error().message));
                             lay(*seams);
                         };
                     });
}

// ---- steps ------------------------------------------------------------------------------------------------------

void SplitStation::take() {
    if (m_rows.empty())
        return emit done();
    std::vector<job::Taken> taken;
    for (const Row& row : m_rows)
        taken.push_back({row.proposed.of, row.draft()->seams});
    bench().run(tr("Divide what is too large"), [taken, overlapMm = options().overlapMm](
                                                    const job::State& now, const base::Progress& progress) {
        return job::dividedAlong(now, taken, overlapMm, job::Stage::Finish, progress);
    });
}

/// The piece is whole again, and its seams lie on it as they were.
void SplitStation::openAgain(size_t index) {
    const auto& after = bench().made().after;
    if (index >= after.size() || !split::isDivision(*after[index].step))
        return;
    const auto on = design::resolved(after[index].step->on, after[index].before->now);
    if (on.empty())
        return;
    const design::Piece& piece = *design::findPiece(after[index].before->now, on.front());
    m_again = std::pair{piece.id, split::wishOf(*after[index].step, piece).seams};
    bench().act(tr("Open a division again"), job::withoutStep(bench().job(), index));
}

void SplitStation::shrink() {
    bench().run(tr("Make the work smaller"),
                [scale = m_scale](const job::State& now, const base::Progress& progress) {
                    return job::scaled(now, std::floor(10000 * scale) / 10000, {}, progress);
                });
}

// ---- the bench --------------------------------------------------------------------------------------------------

void SplitStation::lookApart(double share, bool isFromBehind) {
    m_apart->setValue(static_cast<int>(std::lround(100 * share)));
    m_behind->setChecked(isFromBehind);
}

bool SplitStation::isApart() const {
    return m_rows.empty() && m_steps->rows() > 0 && (m_apart->value() > 0 || m_behind->isChecked());
}

void SplitStation::showApart() {
    m_look = std::make_shared<int>(m_apart->value()); // another look is another scene
    emit benchChanged();
    showSeams();
}

ScenePtr SplitStation::scene() {
    if (!isApart())
        return kept(valuesOfDesign(),
                    [&] { return sceneOfDesign(nullptr, bench().made(), nullptr, bench().outlines()); });
    return kept({bench().made().finished, m_look}, [&] {
        return sceneOfParts(bench().made(), bench().outlines(), m_apart->value() / 100.0,
                            m_behind->isChecked());
    });
}

} // namespace thinline::app
