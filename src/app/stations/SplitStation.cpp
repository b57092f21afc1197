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

using split::Joint;

SplitStation::SplitStation(Workbench& bench, QWidget* parent)
    : StationPanel(Station::Split, bench,
                   {tr("How does it get onto the mat?"), tr("Drag a seam or its ends; the numbers follow."),
                    tr("Take these parts")},
                   parent),
      m_tool({[this](geometry::Point from, geometry::Point to) {
                  change([from, to](const split::Lines& seams, const split::Ground& ground) {
                      return base::Result<split::Laid>(split::movedAt(seams, from, to, ground.shape));
                  });
              },
              [this](size_t seam, geometry::Point, geometry::Point to) {
                  change([seam, to](const split::Lines& seams, const split::Ground&) {
                      return base::Result<split::Laid>(split::bentAt(seams, seam, to));
                  });
              },
              [this](geometry::Point from, geometry::Point to) {
                  constexpr double kReachMm = 6;
                  change([from, to](const split::Lines& seams, const split::Ground& ground) {
                      return split::withSeam(seams, from, to, ground.shape, kReachMm, ground.cover);
                  });
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
    connect(&m_settle, &QTimer::timeout, this, [this] { propose(true); });
    connect(mainButton(), &QPushButton::clicked, this, &SplitStation::take);
    connect(&m_proposer, &Task::progressed, this, [this](double fraction, const QString& doing) {
        tell(m_note, tr("Looking for seams: %1, %2 %").arg(doing).arg(std::lround(100 * fraction)));
    });
}

void SplitStation::buildControls() {
    m_sheets = addNote();
    m_sheets->setToolTip(tr("Both are chosen at Sheets"));
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
    buildSeam();
    m_instead = new QVBoxLayout;
    m_instead->setSpacing(2);
    controls()->addLayout(m_instead);
    m_board = linkButton(tr("Back it all with board"), tr("Back it all with board"));
    m_board->setToolTip(tr("The outline of the whole, a little smaller, as a piece of board behind it"));
    controls()->addWidget(m_board, 0, Qt::AlignLeft);
    m_note = addNote();
    m_note->setObjectName("warning");
    connect(m_joint, &QComboBox::activated, this, [this] { refresh(); });
    connect(m_overlap, &LengthField::entered, this, [this](double mm) {
        m_overlapMm = mm;
        refresh();
    });
    connect(m_overlap, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_draw, &QCheckBox::toggled, this, [this](bool isOn) {
        m_tool.draw(isOn);
        emit benchChanged();
    });
    connect(m_rest, &QPushButton::clicked, this, &SplitStation::proposeRest);
    connect(m_board, &QPushButton::clicked, this, [this] {
        constexpr double kInsetMm = 2;
        bench().run(tr("Back it with board"), [](const job::State& now, const base::Progress& progress) {
            return job::withBoard(now, kInsetMm, "", progress);
        });
    });
}

/// What is said of one seam, and of where no seam goes.
void SplitStation::buildSeam() {
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
    connect(m_takeOut, &QPushButton::clicked, this, &SplitStation::takeSeamOut);
    connect(m_seamJoint, &QComboBox::activated, this, &SplitStation::joinSeam);
    connect(m_keepNone, &QPushButton::clicked, this, [this] {
        m_keepWhole.clear();
        refresh();
    });
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
    out.overlapMm = m_overlapMm;
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
    if (m_proposer.isRunning() || m_settle.isActive())
        m_proposedFor = nullptr; // to be looked for once more
    m_proposer.stop();
    m_counter.stop();
    m_settle.stop();
}

/// What seams are proposed by, in words: a change of any of it asks for other ones.
std::string SplitStation::wishedBy() const {
    const job::SheetPlan& plan = bench().job().plan;
    std::string out = plan.matId + "/" + plan.sheetId + "/" + std::to_string(plan.ownSheet.widthMm) + "x" +
                      std::to_string(plan.ownSheet.heightMm) + "/" + std::to_string(m_joint->currentIndex()) +
                      "/" + std::to_string(options().overlapMm);
    for (const auto& [stock, sheet] : plan.sheetOf)
        out += "/" + stock + "=" + sheet.id + std::to_string(sheet.widthMm) + "x" +
               std::to_string(sheet.heightMm);
    for (const design::PieceId kept : m_keepWhole)
        out += "/" + kept.text();
    return out;
}

void SplitStation::refresh() {
    const base::LengthUnit unit = bench().job().unit;
    m_overlap->showLength(m_overlapMm, unit);
    m_steps->show(bench().job().steps);
    m_stepsHeading->setVisible(m_steps->rows() > 0);
    const auto asked = job::arrangeOptions(bench().job(), bench().catalogue().formats);
    tell(m_sheets, asked ? tr("Mat %1, sheets %2").arg(text(asked->mat.name), text(asked->sheet.name))
                         : text(asked.error().message));
    if (m_isActive && !bench().isBehind() &&
        (m_proposedFor != bench().made().stack || m_proposedBy != wishedBy())) {
        // What was proposed for another work is not shown over this one; what a hand laid comes back.
        for (const Row& row : m_rows)
            if (row.byHand)
                m_again.push_back(row.kept);
        m_lookedAt = m_at < m_rows.size() ? m_rows[m_at].piece().piece : m_lookedAt;
        m_rows.clear();
        m_seam = -1;
        m_measurer.stop();
        m_counter.stop();
        m_others = {};
        m_proposedFor = bench().made().stack;
        m_proposedBy = wishedBy();
        m_settle.start();
    }
    showAll();
}

void SplitStation::choosePiece(size_t row) {
    m_at = row;
    m_seam = -1;
    showAll();
}

void SplitStation::chooseWay(size_t way) {
    m_rows[m_at].way = way;
    m_rows[m_at].byHand.reset();
    m_seam = -1;
    showAll();
}

// ---- by hand ----------------------------------------------------------------------------------------------------

/// Has a worker find seams anew from those that are looked at, and measure them.
void SplitStation::lay(const QString& title, const Laying& laying) {
    const job::Draft* of = draft();
    const design::Piece* piece =
        of && bench().made().pieces ? design::findPiece(bench().made().pieces->now, of->of.piece) : nullptr;
    if (!piece)
        return;
    job::SplitOptions wishes = options();
    wishes.used = of->used;
    m_measurer.start(title,
                     [this, state = bench().state(), before = *of, piece = *piece, laying,
                      wishes](const base::Progress& progress) -> Task::Conclusion {
                         std::string problem;
                         job::Draft after;
                         design::Step kept;
                         auto seams = laying(state, before, wishes, progress);
                         auto draft = seams ? job::draftOf(state, before.of, *seams, wishes, progress)
                                            : base::Result<job::Draft>(seams.error());
                         if (draft) {
                             kept = split::splitStep(piece, {*seams, wishes.overlapMm, before.of.room});
                             after = draft.take();
                         } else {
                             problem = draft.error().message;
                         }
                         return [this, problem, after, kept, id = before.of.piece] {
                             if (!problem.empty())
                                 return tell(m_note, text(problem));
                             for (Row& row : m_rows)
                                 if (row.piece().piece == id) {
                                     row.byHand = after;
                                     row.kept = kept;
                                 }
                             showAll();
                         };
                     });
}

/// A change of lines; what was part of a seam keeps its joint.
void SplitStation::change(
    const std::function<base::Result<split::Laid>(const split::Lines&, const split::Ground&)>& how) {
    lay(tr("Measuring the parts"),
        [how](const job::State& state, const job::Draft& before, const job::SplitOptions& wishes,
              const base::Progress&) -> base::Result<std::vector<split::SeamWish>> {
            split::Lines lines;
            for (const split::SeamWish& seam : before.seams)
                lines.push_back(seam.path);
            const auto laid = how(lines, job::groundOf(state, before.of.piece, wishes));
            if (!laid)
                return laid.error();
            std::vector<split::SeamWish> out;
            for (size_t i = 0; i < laid->seams.size(); ++i) {
                const int from = laid->from[i];
                out.push_back({laid->seams[i], from < 0 ? wishes.jointFor(before.of)
                                                        : before.seams[static_cast<size_t>(from)].joint});
            }
            return out;
        });
}

void SplitStation::takeSeamOut() {
    if (!draft() || m_seam < 0)
        return;
    change([seam = static_cast<size_t>(std::exchange(m_seam, -1))](const split::Lines& seams,
                                                                   const split::Ground&) {
        return base::Result<split::Laid>(split::withoutSeam(seams, seam));
    });
}

void SplitStation::joinSeam(int joint) {
    if (!draft() || m_seam < 0)
        return;
    lay(tr("Measuring the parts"),
        [seam = static_cast<size_t>(m_seam), joint](const job::State&, const job::Draft& before,
                                                    const job::SplitOptions&, const base::Progress&) {
            std::vector<split::SeamWish> out = before.seams;
            out[seam].joint = static_cast<Joint>(joint);
            return base::Result<std::vector<split::SeamWish>>(std::move(out));
        });
}

void SplitStation::proposeRest() {
    lay(tr("Looking for seams"),
        [](const job::State& state, const job::Draft& before, const job::SplitOptions& wishes,
           const base::Progress& progress) { return job::withTheRest(state, before, wishes, progress); });
}

// ---- steps ------------------------------------------------------------------------------------------------------

void SplitStation::take() {
    if (m_rows.empty())
        return emit done();
    std::vector<job::Taken> taken;
    for (const Row& row : m_rows)
        taken.push_back({row.piece(), row.draft()->seams});
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
    m_again.push_back(*after[index].step);
    m_again.back().on = {piece.id};
    m_lookedAt = piece.id;
    bench().act(tr("Open a division again"), job::withoutStep(bench().job(), index));
}

void SplitStation::shrinkTo(double scale) {
    bench().run(tr("Make the work smaller"), [scale](const job::State& now, const base::Progress& progress) {
        return job::scaled(now, scale, {}, progress);
    });
}

void SplitStation::takeMat(const std::string& matId) {
    std::vector<job::Oversize> pieces;
    for (const Row& row : m_rows)
        pieces.push_back(row.piece());
    const auto job = job::onMat(bench().state(), pieces, matId, bench().catalogue().formats);
    if (!job)
        return tell(m_note, text(job.error().message));
    bench().act(tr("Take a longer mat"), *job);
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
