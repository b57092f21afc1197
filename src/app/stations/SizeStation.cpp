// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SizeStation.h"

#include "job/LayerSteps.h"
#include "job/Relations.h"
#include "job/SourceSteps.h"
#include "job/Steps.h"
#include "shape/Steps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <tuple>

namespace thinline::app {
namespace {

using base::Quantity;

const std::vector<base::Parameter>& circleParameters() {
    static const std::vector<base::Parameter> all{
        {"diameter", "Inner diameter", Quantity::Length, 70, 1, 2000},
        {"room", "Room all round", Quantity::Length, 1, 0, 100}};
    return all;
}
const std::vector<base::Parameter>& frameParameters() {
    static const std::vector<base::Parameter> all{{"width", "Inner width", Quantity::Length, 200, 1, 2000},
                                                  {"height", "Inner height", Quantity::Length, 200, 1, 2000},
                                                  {"depth", "Depth, 0 for any", Quantity::Length, 0, 0, 500}};
    return all;
}

bool areAllFree(const Workbench& bench, const std::vector<design::PieceId>& pieces) {
    return !pieces.empty() && std::all_of(pieces.begin(), pieces.end(), [&](design::PieceId id) {
        return bench.job().wishes.resolved(id).isFree.value_or(false);
    });
}

} // namespace

/// What a size brings with it, and how the stated fits stand.
struct SizeStation::Seen {
    About of;
    inspect::Consequences consequences;
    std::vector<design::FitState> states;
    std::vector<job::PlaceFit> largest; ///< so far
    size_t places = 0;                  ///< of how many
    bool isWhole() const { return largest.size() == places; }
};

SizeStation::SizeStation(Workbench& bench, QWidget* parent)
    : StationPanel(
          Station::Size, bench,
          {tr("How large, and on what?"),
           tr("The size of the whole design, or of the pieces you click, with Shift a whole word or group."),
           tr("Keep this size")},
          parent),
      m_tool({[this](const Pointer& pointer) { clicked(pointer); }}) {
    buildSize();
    buildLargest();
    buildObject();
    buildTogether();
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void SizeStation::buildSize() {
    std::tie(m_choiceText, m_none) = addChoice();
    m_width = new LengthField(tr("Width"));
    m_height = new LengthField(tr("Height"));
    auto* sides = new QHBoxLayout;
    sides->setSpacing(8);
    for (LengthField* field : {m_width, m_height}) {
        auto* name = new QLabel(field->accessibleName());
        name->setBuddy(field);
        sides->addWidget(name);
        sides->addWidget(field, 1);
    }
    controls()->addLayout(sides);
    m_keep = new QCheckBox(tr("Keep the proportions"));
    m_keep->setChecked(true);
    auto* known = linkButton(tr("One distance…"), tr("One distance is known"));
    known->setToolTip(tr("Click two points on the bench and type how far apart they really are"));
    auto* keeping = new QHBoxLayout;
    keeping->addWidget(m_keep, 1);
    keeping->addWidget(known);
    controls()->addLayout(keeping);
    m_marginsGrow = new QCheckBox(tr("Let margins grow along"));
    m_marginsGrow->setToolTip(
        tr("Offsets, overlaps, tuck and clearances grow with the design. Otherwise they stay as "
           "they were typed, and the design is as large as asked all the same."));
    connect(m_marginsGrow, &QCheckBox::toggled, this, &SizeStation::look);
    controls()->addWidget(m_marginsGrow);
    m_distance = new KnownDistance;
    controls()->addWidget(m_distance);
    m_note = addNote();
    m_note->setObjectName("warning");

    connect(m_none, &QPushButton::clicked, this, [this] {
        m_chosen.clear();
        askFor(Asking::Nothing);
        emit choiceChanged();
        refresh();
    });
    connect(m_width, &LengthField::entered, this, [this](double mm) { setSize(true, mm); });
    connect(m_height, &LengthField::entered, this, [this](double mm) { setSize(false, mm); });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(known, &QPushButton::clicked, this, &SizeStation::wantsMeasuring);
    connect(m_distance, &KnownDistance::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_distance, &KnownDistance::told, this, [this](double factor) {
        runSizing(
            tr("Size by a known distance"),
            [factor](const job::State& now, const job::SizeOptions& options, const base::Progress& progress) {
                return job::scaled(now, factor, options, progress);
            });
    });
}

void SizeStation::buildLargest() {
    addHeading(tr("Largest that fits"));
    auto* frame = new QWidget;
    m_largest = new QGridLayout(frame);
    m_largest->setContentsMargins(0, 0, 0, 0);
    m_largest->setVerticalSpacing(0);
    m_largest->setColumnStretch(0, 1);
    controls()->addWidget(frame);
    m_copies = new QSpinBox;
    m_copies->setRange(1, 999);
    m_copies->setValue(4);
    m_copies->setAlignment(Qt::AlignRight);
    m_copies->setAccessibleName(tr("Copies on one sheet"));
    m_copies->setFixedWidth(64);
    auto* take = linkButton(tr("Take"), tr("Take the largest size for so many copies on so many sheets"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    m_overSheets = new QSpinBox;
    m_overSheets->setRange(1, 99);
    m_overSheets->setAlignment(Qt::AlignRight);
    m_overSheets->setAccessibleName(tr("Sheets for the copies"));
    m_overSheets->setFixedWidth(48);
    auto* words = new QLabel(tr("Copies, on sheets"));
    words->setToolTip(tr("The largest size at which so many of the chosen pieces, or of all, lie on so many "
                         "sheets of the plan at "
                         "Sheets"));
    line->addWidget(words, 1);
    line->addWidget(m_copies);
    line->addWidget(m_overSheets);
    line->addWidget(take);
    controls()->addWidget(row);
    connect(take, &QPushButton::clicked, this, [this] {
        runSizing(tr("Take the largest size"),
                  [pieces = m_chosen, copies = m_copies->value(),
                   over = m_overSheets->value()](const job::State& now, const job::SizeOptions& options,
                                                 const base::Progress& progress) {
                      return job::withCopiesOnSheet(now, pieces, copies, over,
                                                    job::shippedCatalogue().formats, options, progress);
                  });
    });
}

void SizeStation::buildObject() {
    m_object = new QComboBox;
    m_object->addItems({tr("nothing in particular"), tr("something round"), tr("a frame")});
    m_object->setAccessibleName(tr("The object"));
    addRow(tr("To go into"), m_object, 180);
    m_objectValues = new ParameterRows;
    m_objectValues->show(circleParameters(), {});
    controls()->addWidget(m_objectValues);
    m_objectValues->hide();
    auto* fill = new QPushButton(tr("Make it go in"));
    fill->hide();
    fill->setToolTip(tr(
        "The outermost layer fills the object; margins between layers keep their width, and for a frame the "
        "lifts come down to its depth"));
    controls()->addWidget(fill);
    connect(m_object, &QComboBox::activated, this, [this, fill](int index) {
        m_objectValues->show(index == 1 ? circleParameters() : frameParameters(), {});
        m_objectValues->setVisible(index > 0);
        fill->setVisible(index > 0);
    });
    connect(fill, &QPushButton::clicked, this, [this] {
        const std::vector<double> v = m_objectValues->values();
        if (m_object->currentIndex() == 1)
            return runSizing(
                tr("Size for an object"),
                [v](const job::State& now, const job::SizeOptions& options, const base::Progress& progress) {
                    return job::withinCircle(now, v[0], v[1], options, progress);
                });
        runSizing(tr("Size for an object"), [v](const job::State& now, const job::SizeOptions& options,
                                                const base::Progress& progress) {
            return job::withinFrame(now, {v[0], v[1], v[2]}, options, progress);
        });
    });
}

void SizeStation::buildTogether() {
    addHeading(tr("What belongs together"));
    m_keepTogether = new QPushButton(tr("Keep one scale"));
    m_keepTogether->setToolTip(tr("Makes a set: a piece of it that is sized alone is told as a finding"));
    m_free = new QPushButton(tr("Let them be free"));
    m_free->setToolTip(tr("They may have a scale of their own; no finding any more"));
    auto* scales = new QHBoxLayout;
    scales->addWidget(m_keepTogether, 1);
    scales->addWidget(m_free, 1);
    controls()->addLayout(scales);
    m_fitKind = new QComboBox;
    m_fitKind->addItems({tr("This goes into an opening"), tr("This is a base under a lid")});
    m_fitKind->setAccessibleName(tr("Kind of fit"));
    controls()->addWidget(m_fitKind);
    m_clearance = new MeasureSpin(Quantity::Length);
    m_clearance->setRange(0, 20);
    m_clearance->setSingleStep(0.05);
    m_clearance->setValue(design::Fit{}.clearanceMm);
    m_clearance->setAccessibleName(tr("Clearance on every side"));
    addRow(tr("Clearance on every side"), m_clearance, 88);
    m_addFit = new QPushButton(tr("State a fit by two clicks"));
    controls()->addWidget(m_addFit);
    m_ask = addNote();
    auto* list = new QWidget;
    m_relations = new QVBoxLayout(list);
    m_relations->setContentsMargins(0, 0, 0, 0);
    m_relations->setSpacing(2);
    controls()->addWidget(list);
    connect(m_keepTogether, &QPushButton::clicked, this, [this] {
        auto job = job::withSet(bench().state(), {}, m_chosen);
        if (!job)
            return tell(m_note, text(job.error().message));
        bench().act(tr("Make a set"), job.take());
    });
    connect(m_free, &QPushButton::clicked, this, [this] {
        const bool areFree = areAllFree(bench(), m_chosen);
        bench().act(areFree ? tr("Keep pieces to the design's scale") : tr("Let pieces be free"),
                    job::withPiecesFree(bench().job(), m_chosen, !areFree));
    });
    connect(m_addFit, &QPushButton::clicked, this,
            [this] { askFor(m_asking == Asking::Nothing ? Asking::Inner : Asking::Nothing); });
}

job::SizeOptions SizeStation::options() const {
    return {m_marginsGrow->isChecked()};
}

template <class Step>
void SizeStation::runSizing(const QString& name, Step step) {
    tell(m_note, {});
    bench().run(name, [step, options = options()](const job::State& now, const base::Progress& progress) {
        return step(now, options, progress);
    });
}

void SizeStation::askFor(Asking what) {
    m_asking = what;
    const bool isLid = m_fitKind->currentIndex() == 1;
    tell(m_ask, what == Asking::Nothing ? QString()
                : what == Asking::Inner
                    ? (isLid ? tr("Click the base.") : tr("Click the piece that goes in."))
                : isLid ? tr("Now click the lid.")
                        : tr("Now click inside the opening."));
    m_addFit->setText(what == Asking::Nothing ? tr("State a fit by two clicks") : tr("No fit after all"));
}

/// A click on the bench chooses a piece, or answers what goes into what.
void SizeStation::clicked(const Pointer& pointer) {
    const design::PieceId piece = pointer.on() ? pointer.on()->piece : design::PieceId{};
    if (m_asking == Asking::Outer)
        return takeFit(piece, pointer.at + job::workBox(bench().made()).least);
    if (!piece)
        return;
    if (m_asking == Asking::Inner) {
        m_inner = piece;
        return askFor(Asking::Outer);
    }
    toggleAll(m_chosen, pointer.withShift ? job::groupOf(bench().state(), piece) : std::vector{piece});
    emit choiceChanged();
    refresh();
}

/// The piece with the smallest opening around a point of the design: another piece may lie above it.
design::PieceId SizeStation::outerOf(geometry::Point at) const {
    design::PieceId out;
    double least = 0;
    for (const design::Laid& laid : bench().work()->pieces) {
        if (laid.id() == m_inner || !geometry::bounds(laid.shape()).contains(at))
            continue;
        const auto opening = design::openingAt(laid.shape(), at);
        if (!opening)
            continue;
        const double area = std::abs(geometry::signedArea(laid.shape().openings[*opening]));
        if (out && area >= least)
            continue;
        least = area;
        out = laid.id();
    }
    return out;
}

/// The second click: inside an opening, or on the lid.
void SizeStation::takeFit(design::PieceId piece, geometry::Point at) {
    design::Fit fit;
    fit.inner = m_inner;
    fit.kind = m_fitKind->currentIndex() == 1 ? design::FitKind::LidOver : design::FitKind::IntoOpening;
    fit.outer = fit.kind == design::FitKind::IntoOpening ? outerOf(at) : piece;
    fit.clearanceMm = m_clearance->value();
    if (fit.kind == design::FitKind::IntoOpening && !fit.outer)
        return tell(m_ask, tr("There is no opening here; click inside one."));
    auto with = job::withFit(bench().state(), fit, at);
    if (!with)
        return tell(m_ask, text(with.error().message));
    askFor(Asking::Nothing);
    bench().act(tr("State a fit"), with.take());
}

void SizeStation::measured(double mm) {
    m_distance->ask(mm, bench().job().unit);
}

ScenePtr SizeStation::scene() {
    return kept({bench().made().finished},
                [&] { return sceneOfSize(bench().made(), bench().catalogue().formats, bench().outlines()); });
}

bool SizeStation::mends(inspect::Kind kind) const {
    using inspect::Kind;
    return kind == Kind::LargerThanEveryMat || kind == Kind::LargerThanSheet || kind == Kind::ScaledAlone ||
           kind == Kind::DoesNotFit || kind == Kind::ExactlyTheSheet;
}

/// The bench begins at the design's upper left corner.
geometry::Box SizeStation::placeOf(const inspect::Case& one) const {
    const geometry::Point shift = job::workBox(bench().made()).least;
    return one.place.isEmpty() ? one.place : geometry::Box{one.place.least - shift, one.place.most - shift};
}

geometry::Box SizeStation::frame() const {
    if (m_chosen.empty() || !bench().work())
        return job::workBox(bench().made());
    geometry::Box box;
    for (const design::PieceId id : m_chosen)
        if (const design::Laid* laid = bench().work()->find(id))
            box.include(geometry::bounds(laid->shape()));
    return box;
}

void SizeStation::setSize(bool isWidth, double mm) {
    if (!m_chosen.empty())
        return setAlone(isWidth, mm);
    runSizing(tr("Set the size"), [isWidth, mm, keeps = m_keep->isChecked()](const job::State& now,
                                                                             const job::SizeOptions& options,
                                                                             const base::Progress& progress) {
        const geometry::Box box = job::workBox(now.made);
        if (!keeps)
            return job::withSize(now, isWidth ? mm : box.width(), isWidth ? box.height() : mm, options,
                                 progress);
        return isWidth ? job::withWidth(now, mm, options, progress)
                       : job::withHeight(now, mm, options, progress);
    });
}

void SizeStation::setAlone(bool isWidth, double mm) {
    const geometry::Box box = frame();
    const double percent = 100 * mm / (isWidth ? box.width() : box.height());
    const bool keeps = m_keep->isChecked();
    const design::Step step =
        shape::makeStep(shape::Action::SizeAlone, m_chosen,
                        {isWidth || keeps ? percent : 100, !isWidth || keeps ? percent : 100});
    bench().run(tr("Size pieces alone"), [step](const job::State& now, const base::Progress& progress) {
        return job::stepped(now, step, job::Stage::Finish, progress);
    });
}

void SizeStation::showLargest() {
    QVector<std::array<QString, 3>> lines;
    for (const job::PlaceFit& place : m_seen ? m_seen->largest : std::vector<job::PlaceFit>{})
        lines.append(
            place.whyNot.empty()
                ? std::array{text(place.name), sizeText(place.widthMm, place.heightMm),
                             tr("Now times %1, limited by %2, usable %3")
                                 .arg(place.scale, 0, 'f', 3)
                                 .arg(text(place.limit), sizeText(place.usableWidthMm, place.usableHeightMm))}
                : std::array{text(place.name), tr("not possible"), text(place.whyNot)});
    const qsizetype rows = lines.size();
    if (m_seen && !m_seen->isWhole())
        lines.append({tr("looking …"), tr("%1 of %2").arg(rows).arg(m_seen->places), tr("The work is made anew for each size tried")});
    if (lines == m_shownLargest)
        return;
    m_shownLargest = lines;
    emptyLayout(m_largest);
    for (int row = 0; row < static_cast<int>(lines.size()); ++row) {
        auto* words = new QLabel(lines[row][0]);
        auto* size = new QLabel(lines[row][1]);
        size->setObjectName("soft");
        for (QLabel* label : {words, size})
            label->setToolTip(lines[row][2]);
        m_largest->addWidget(words, row, 0);
        m_largest->addWidget(size, row, 1, Qt::AlignRight);
        if (row >= rows)
            continue;
        const job::PlaceFit& place = m_seen->largest[static_cast<size_t>(row)];
        const QString name = text(place.name);
        auto* take = linkButton(tr("Take"), tr("Take the largest size for %1").arg(name));
        connect(take, &QPushButton::clicked, this, [this, id = place.id] {
            runSizing(
                tr("Take the largest size"),
                [id](const job::State& now, const job::SizeOptions& options, const base::Progress& progress) {
                    return job::withLargestOn(now, id, job::shippedCatalogue().formats, options, progress);
                });
        });
        m_largest->addWidget(take, row, 2);
    }
}

void SizeStation::addRelation(const QString& words, std::initializer_list<QPushButton*> buttons) {
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    line->addWidget(sentenceLabel(words), 1);
    for (QPushButton* button : buttons)
        line->addWidget(button);
    m_relations->addWidget(row);
}

/// How a fit stands, as far as that is known.
QString SizeStation::fitWords(size_t i, bool& canBeMade) const {
    canBeMade = false;
    const auto& fits = bench().job().fits;
    if (!m_seen || m_seen->of.made != bench().made().finished || m_seen->of.fits != fits ||
        i >= m_seen->states.size())
        return tr("looking …");
    const design::FitState& now = m_seen->states[i];
    canBeMade = now.jams() || now.isLoose();
    return !now.isThere ? tr("is lost")
           : now.jams() ? tr("%1 mm too large").arg(-now.playMm, 0, 'f', 2)
                        : tr("fits, %1 mm of play").arg(now.playMm, 0, 'f', 2);
}

void SizeStation::showRelations() {
    emptyLayout(m_relations);
    const job::Job& job = bench().job();
    if (job.frame) {
        auto* forget = linkButton(tr("Forget it"), tr("Forget the frame the work was sized for"));
        connect(forget, &QPushButton::clicked, this,
                [this] { bench().act(tr("Forget the frame"), job::withoutFrame(bench().job())); });
        const QString inside = sizeText(job.frame->widthMm, job.frame->heightMm);
        addRelation(
            job.frame->depthMm > 0
                ? tr("For a frame of %1 inside, %2 mm deep").arg(inside).arg(job.frame->depthMm, 0, 'f', 1)
                : tr("For a frame of %1 inside").arg(inside),
            {forget});
    }
    for (size_t i = 0; i < job.sets.size(); ++i) {
        auto* go = linkButton(tr("Dissolve"), tr("Dissolve %1").arg(text(job.sets[i].name)));
        connect(go, &QPushButton::clicked, this,
                [this, i] { bench().act(tr("Dissolve a set"), job::withoutSet(bench().job(), i)); });
        addRelation(
            tr("%1: %2 pieces").arg(capitalised(text(job.sets[i].name))).arg(job.sets[i].pieces.size()),
            {go});
    }
    for (size_t i = 0; i < job.fits.size(); ++i) {
        const design::Fit& fit = job.fits[i];
        auto* make = linkButton(tr("Fit it"), tr("Size the piece of fit %1 so that it just fits").arg(i + 1));
        connect(make, &QPushButton::clicked, this, [this, i] {
            bench().run(tr("Make it fit"), [i](const job::State& now, const base::Progress& progress) {
                return job::withFitMade(now, i, progress);
            });
        });
        auto* out = linkButton(tr("Take out"), tr("Take fit %1 out").arg(i + 1));
        connect(out, &QPushButton::clicked, this,
                [this, i] { bench().act(tr("Take a fit out"), job::withoutFit(bench().job(), i)); });
        bool canBeMade = false;
        const QString state = fitWords(i, canBeMade);
        addRelation(tr("%1 %2 %3: %4")
                        .arg(capitalised(text(design::pieceName(*bench().work(), fit.inner))),
                             fit.kind == design::FitKind::LidOver ? tr("under") : tr("into"),
                             text(design::pieceName(*bench().work(), fit.outer)), state),
                    {make, out});
        make->setVisible(canBeMade);
    }
}

/// A background thread calls it. What is soon known is handed over at once: sizing to every sheet may take minutes, where the
/// work is made anew for each size that is tried. Returns whether it was not stopped.
bool SizeStation::findOut(const job::State& state, const job::SizeOptions& options, inspect::Memory& known,
                          Handed<Seen>& found, const base::Progress& progress) {
    using Clock = std::chrono::steady_clock;
    const auto from = Clock::now();
    constexpr std::chrono::milliseconds kSoon{200};
    Seen out{{state.made.finished, state.job.fits, options}, {}, {}, {}};
    auto consequences = inspect::consequencesOf(state, known, progress.part(0, 0.2));
    if (!consequences)
        return false;
    out.consequences = *consequences;
    for (const design::Fit& fit : state.job.fits) {
        auto one = job::fitStateOf(state, fit, progress.part(0.2, 0.3));
        if (!one && one.error().code == base::Code::Cancelled)
            return false;
        out.states.push_back(one ? *one : design::FitState{});
    }
    const base::Progress rest = progress.part(0.3, 1);
    auto largest = job::largestOnEach(state, job::shippedCatalogue().formats, options, rest,
                                      [&](const std::vector<job::PlaceFit>& soFar, size_t places) {
                                          if (Clock::now() - from < kSoon) // all at once then
                                              return;
                                          out.largest = soFar;
                                          out.places = places;
                                          found.put(out);
                                          rest.report(double(soFar.size()) / double(places), "Looking at this size");
                                      });
    if (!largest)
        return false;
    out.largest = largest.take();
    out.places = out.largest.size();
    found.put(std::move(out));
    return true;
}

void SizeStation::takeSeen(Handed<Seen>& found) {
    if (auto seen = found.take()) {
        m_seen = std::move(seen);
        refresh();
    }
}

/// Necks, sheets and fits are looked at behind the interface, for the job as it is.
void SizeStation::look() {
    const job::Made& made = bench().made();
    const About of{made.finished, bench().job().fits, options()};
    if (!m_isActive || !made.finished || bench().isBehind() || (m_seen && m_seen->isWhole() && m_seen->of == of) ||
        (m_look.isRunning() && m_lookedAt == of))
        return;
    m_lookedAt = of;
    const auto found = std::make_shared<Handed<Seen>>();
    m_look.disconnect(this);
    connect(&m_look, &Task::progressed, this, [this, found] { takeSeen(*found); });
    m_look.start(tr("Looking at this size"),
                 [this, found, state = bench().state(), options = options(),
                  known = bench().known()](const base::Progress& progress) -> Task::Conclusion {
                     const bool isWhole = findOut(state, options, *known, *found, progress);
                     return isWhole ? Task::Conclusion([this, found] { takeSeen(*found); }) : Task::Conclusion{};
                 });
}

void SizeStation::showAnswer() {
    const geometry::Box box = frame();
    QVector<std::pair<QString, QString>> answer{
        {m_chosen.empty() ? tr("Size") : tr("Size of the chosen"), sizeText(box.width(), box.height())}};
    const bool isSeen = m_seen && m_seen->of.made == bench().made().finished;
    const inspect::Consequences c = isSeen ? m_seen->consequences : inspect::Consequences{};
    const auto seen = [&](const QString& words) { return isSeen ? words : tr("looking …"); };
    const size_t pieces = bench().made().finished->measures.pieces;
    answer.append({tr("Pieces"), c.copies == c.pieces ? QString::number(pieces)
                                                      : tr("%1, %2 with copies").arg(pieces).arg(c.copies)});
    answer.append(
        {tr("Sheets needed"), seen(c.unplaced > 0 ? tr("%1, and %2 too large").arg(c.sheets).arg(c.unplaced)
                                                  : QString::number(c.sheets))});
    answer.append({tr("Narrowest place"),
                   seen(c.narrowestMm ? tr("%1 mm").arg(*c.narrowestMm, 0, 'f', 2) : tr("none narrow"))});
    answer.append(
        {tr("Openings under %1 mm").arg(inspect::kLeastOpeningMm), seen(QString::number(c.smallOpenings))});
    setAnswer(answer,
              c.narrowestMm
                  ? tr("The narrowest is in %1").arg(text(design::pieceName(*bench().work(), c.narrowest)))
                  : QString());
}

void SizeStation::setActive(bool isActive) {
    m_isActive = isActive;
    if (isActive)
        return look();
    m_look.stop();
    m_chosen.clear();
    m_distance->hide();
    askFor(Asking::Nothing);
    emit choiceChanged();
}

void SizeStation::showChoice() {
    const design::Stack& work = *bench().work();
    std::erase_if(m_chosen, [&](design::PieceId id) { return !work.find(id); });
    m_choiceText->setText(m_chosen.empty()       ? tr("The whole design")
                          : m_chosen.size() == 1 ? capitalised(text(design::pieceName(work, m_chosen[0])))
                                                 : tr("%1 pieces chosen").arg(m_chosen.size()));
    m_none->setVisible(!m_chosen.empty());
    const geometry::Box box = frame();
    m_width->showLength(box.width(), bench().job().unit);
    m_height->showLength(box.height(), bench().job().unit);
    m_keepTogether->setEnabled(m_chosen.size() > 1);
    m_free->setEnabled(!m_chosen.empty());
    m_free->setText(areAllFree(bench(), m_chosen) ? tr("Bind them again") : tr("Let them be free"));
}

void SizeStation::refresh() {
    const bool isReady = bench().hasPieces();
    for (QWidget* w :
         {static_cast<QWidget*>(m_width), static_cast<QWidget*>(m_height), static_cast<QWidget*>(m_keep),
          static_cast<QWidget*>(mainButton()), static_cast<QWidget*>(m_addFit)})
        w->setEnabled(isReady);
    if (!isReady) {
        m_seen = nullptr;
        showLargest();
        emptyLayout(m_relations);
        m_choiceText->setText(tr("Nothing to size yet"));
        return setAnswer({{tr("Size"), tr("no pieces yet")}});
    }
    showChoice();
    showLargest();
    showRelations();
    showAnswer();
    look();
}

} // namespace thinline::app
