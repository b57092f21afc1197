// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SizeStation.h"

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

namespace thinline::app {
namespace {

using base::Quantity;

QString text(const std::string& utf8) {
    return QString::fromStdString(utf8);
}

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

QString capitalised(QString words) {
    if (!words.isEmpty())
        words[0] = words[0].toUpper();
    return words;
}

} // namespace

SizeStation::SizeStation(Workbench& bench, QWidget* parent)
    : StationPanel(
          bench, tr("How large, and on what?"),
          tr("The size of the whole design, or of the pieces you click, with Shift a whole word or group."),
          tr("Keep this size"), parent) {
    buildSize();
    buildLargest();
    buildObject();
    buildTogether();
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void SizeStation::buildSize() {
    auto* choice = new QWidget;
    auto* line = new QHBoxLayout(choice);
    line->setContentsMargins(0, 0, 0, 0);
    m_choiceText = new QLabel;
    m_none = linkButton(tr("Choose none"), tr("Choose none"));
    line->addWidget(m_choiceText, 1);
    line->addWidget(m_none);
    controls()->addWidget(choice);
    m_width = addLength(tr("Width"));
    m_height = addLength(tr("Height"));
    m_keep = new QCheckBox(tr("Keep the proportions"));
    m_keep->setChecked(true);
    controls()->addWidget(m_keep);
    auto* known = new QPushButton(tr("One distance is known…"));
    known->setToolTip(tr("Click two points on the bench and type how far apart they really are"));
    controls()->addWidget(known);
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
        run(tr("Size by a known distance"),
            [factor](const document::Job& job, const base::Progress& progress) {
                return document::scaled(job, factor, progress);
            });
    });
}

void SizeStation::buildLargest() {
    addHeading(tr("Largest that fits"));
    auto* frame = new QWidget;
    m_largest = new QGridLayout(frame);
    m_largest->setContentsMargins(0, 0, 0, 0);
    m_largest->setVerticalSpacing(4);
    m_largest->setColumnStretch(0, 1);
    controls()->addWidget(frame);
    m_copies = new QSpinBox;
    m_copies->setRange(1, 999);
    m_copies->setValue(4);
    m_copies->setAlignment(Qt::AlignRight);
    m_copies->setAccessibleName(tr("Copies on one sheet"));
    m_copies->setFixedWidth(64);
    auto* take = linkButton(tr("Take"), tr("Take the largest size for so many copies on one sheet"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* words = new QLabel(tr("Copies on one sheet"));
    words->setToolTip(tr(
        "The largest size at which so many of the chosen pieces, or of all, lie on one sheet of the plan at "
        "Sheets"));
    line->addWidget(words, 1);
    line->addWidget(m_copies);
    line->addWidget(take);
    controls()->addWidget(row);
    connect(take, &QPushButton::clicked, this, [this] {
        run(tr("Take the largest size"),
            [pieces = m_chosen, copies = m_copies->value()](
                const document::Job& job, const base::Progress& progress) -> base::Result<document::Job> {
                auto answer = document::withCopiesOnSheet(job, pieces, copies,
                                                          document::shippedCatalogue().formats, progress);
                if (!answer)
                    return answer.error();
                return std::move(answer.take().job);
            });
    });
}

void SizeStation::buildObject() {
    addHeading(tr("To go into an object"));
    m_object = new QComboBox;
    m_object->addItems({tr("Nothing in particular"), tr("Something round inside"), tr("A frame")});
    m_object->setAccessibleName(tr("The object"));
    controls()->addWidget(m_object);
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
        run(tr("Size for an object"),
            [isCircle = m_object->currentIndex() == 1, v = m_objectValues->values()](
                const document::Job& job, const base::Progress& progress) -> base::Result<document::Job> {
                if (isCircle)
                    return document::withinCircle(job, v[0], v[1], progress);
                auto answer = document::withinFrame(job, {v[0], v[1], v[2]}, progress);
                if (!answer)
                    return answer.error();
                return std::move(answer.take().job);
            });
    });
}

void SizeStation::buildTogether() {
    addHeading(tr("What belongs together"));
    m_keepTogether = new QPushButton(tr("Keep the chosen at one scale"));
    m_keepTogether->setToolTip(tr("Makes a set: a piece of it that is sized alone is told as a finding"));
    m_free = new QPushButton(tr("Let the chosen be free"));
    m_free->setToolTip(tr("They may have a scale of their own; no finding any more"));
    controls()->addWidget(m_keepTogether);
    controls()->addWidget(m_free);
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
        auto job = document::withSet(bench().job(), {}, m_chosen);
        if (!job)
            return tell(m_note, text(job.error().message));
        bench().apply(tr("Make a set"), job.take());
    });
    connect(m_free, &QPushButton::clicked, this, [this] {
        const auto& free = bench().job().freePieces;
        const bool areFree = std::all_of(m_chosen.begin(), m_chosen.end(),
                                         [&](design::PieceId id) { return free.contains(id); });
        bench().apply(areFree ? tr("Keep pieces to the design's scale") : tr("Let pieces be free"),
                      document::withPiecesFree(bench().job(), m_chosen, !areFree));
    });
    connect(m_addFit, &QPushButton::clicked, this,
            [this] { askFor(m_asking == Asking::Nothing ? Asking::Inner : Asking::Nothing); });
}

void SizeStation::run(const QString& name, const Compute& step) {
    tell(m_note, {});
    bench().run(name, step);
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

void SizeStation::clicked(design::PieceId piece, geometry::Point at, bool isWholeGroup) {
    if (m_asking == Asking::Inner) {
        if (piece == 0)
            return;
        m_inner = piece;
        askFor(Asking::Outer);
        return;
    }
    if (m_asking == Asking::Outer)
        return takeFit(piece, at);
    if (piece == 0)
        return;
    toggleAll(m_chosen, isWholeGroup ? document::groupOf(bench().job(), piece) : std::vector{piece});
    emit choiceChanged();
    refresh();
}

/// The second click: inside an opening, under which another piece may lie, or on the lid.
void SizeStation::takeFit(design::PieceId piece, geometry::Point at) {
    const document::Job& job = bench().job();
    design::Fit fit;
    fit.inner = m_inner;
    fit.outer = piece;
    fit.kind = m_fitKind->currentIndex() == 1 ? design::FitKind::LidOver : design::FitKind::IntoOpening;
    fit.clearanceMm = m_clearance->value();
    if (fit.kind == design::FitKind::IntoOpening) {
        fit.outer = 0;
        double least = 0;
        for (const design::Layer& layer : job.stack->layers)
            for (const design::Piece& one : layer.pieces) {
                const geometry::Box box = geometry::bounds(*one.shape);
                if (one.id == m_inner || !box.contains(at))
                    continue;
                const geometry::Point share{(at.x - box.least.x) / box.width(),
                                            (at.y - box.least.y) / box.height()};
                const auto opening = design::openingAt(*one.shape, share);
                if (!opening)
                    continue;
                const double area = std::abs(geometry::signedArea(one.shape->openings[*opening]));
                if (fit.outer != 0 && area >= least)
                    continue; // the smallest opening around the click is meant
                least = area;
                fit.outer = one.id;
                fit.openingAt = share;
            }
        if (fit.outer == 0)
            return tell(m_ask, tr("There is no opening here; click inside one."));
    }
    auto with = document::withFit(job, fit);
    if (!with)
        return tell(m_ask, text(with.error().message));
    askFor(Asking::Nothing);
    bench().apply(tr("State a fit"), with.take());
    m_lookedAt = nullptr;
    look();
}

void SizeStation::measured(double mm) {
    m_distance->ask(mm, bench().job().unit);
}

geometry::Box SizeStation::frame() const {
    const document::Job& job = bench().job();
    if (m_chosen.empty() || !job.stack)
        return document::designBox(job);
    geometry::Box box;
    for (design::PieceId id : m_chosen)
        if (const design::Piece* piece = design::findPiece(*job.stack, id))
            box.include(geometry::bounds(*piece->shape));
    return box;
}

void SizeStation::setSize(bool isWidth, double mm) {
    if (!m_chosen.empty())
        return setAlone(isWidth, mm);
    run(tr("Set the size"),
        [isWidth, mm, keeps = m_keep->isChecked()](const document::Job& job, const base::Progress& progress) {
            const geometry::Box box = document::designBox(job);
            const double width = isWidth ? mm : keeps ? box.width() * mm / box.height() : box.width();
            const double height = !isWidth ? mm : keeps ? box.height() * mm / box.width() : box.height();
            return document::resized(job, width, height, progress);
        });
}

void SizeStation::setAlone(bool isWidth, double mm) {
    const geometry::Box box = frame();
    const double percent = 100 * mm / (isWidth ? box.width() : box.height());
    const bool keeps = m_keep->isChecked();
    const shape::Step step{shape::Action::SizeAlone,
                           m_chosen,
                           {isWidth || keeps ? percent : 100, !isWidth || keeps ? percent : 100}};
    run(tr("Size pieces alone"), [step](const document::Job& job, const base::Progress& progress) {
        return document::withShapeStep(job, step, progress);
    });
}

void SizeStation::showLargest() {
    emptyLayout(m_largest);
    int row = 0;
    for (const document::PlaceFit& place :
         document::largestOnEach(bench().job(), bench().catalogue().formats)) {
        const QString name = text(place.name);
        auto* words = new QLabel(QStringLiteral("%1<br><span style='color:%2'>%3</span>")
                                     .arg(name, palette().color(QPalette::PlaceholderText).name(),
                                          sizeText(place.widthMm, place.heightMm)));
        words->setToolTip(tr("Now times %1, limited by %2, usable %3")
                              .arg(place.fit.scale, 0, 'f', 3)
                              .arg(text(place.limit), sizeText(place.usableWidthMm, place.usableHeightMm)));
        auto* take = linkButton(tr("Take"), tr("Take the largest size for %1").arg(name));
        connect(take, &QPushButton::clicked, this, [this, id = place.id] {
            run(tr("Take the largest size"), [id](const document::Job& job, const base::Progress& progress) {
                return document::withLargestOn(job, id, document::shippedCatalogue().formats, progress);
            });
        });
        m_largest->addWidget(words, row, 0);
        m_largest->addWidget(take, row++, 1);
    }
}

void SizeStation::showRelations() {
    emptyLayout(m_relations);
    const document::Job& job = bench().job();
    const auto addLine = [&](const QString& words, std::initializer_list<QPushButton*> buttons) {
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(4);
        auto* label = new QLabel(words);
        label->setWordWrap(true);
        line->addWidget(label, 1);
        for (QPushButton* button : buttons)
            line->addWidget(button);
        m_relations->addWidget(row);
    };
    for (size_t i = 0; i < job.sets.size(); ++i) {
        auto* go = linkButton(tr("Dissolve"), tr("Dissolve %1").arg(text(job.sets[i].name)));
        connect(go, &QPushButton::clicked, this,
                [this, i] { bench().apply(tr("Dissolve a set"), document::withoutSet(bench().job(), i)); });
        addLine(tr("%1: %2 pieces").arg(capitalised(text(job.sets[i].name))).arg(job.sets[i].pieces.size()),
                {go});
    }
    for (size_t i = 0; i < job.fits.size(); ++i) {
        const design::Fit& fit = job.fits[i];
        QString state;
        auto* make = linkButton(tr("Fit it"), tr("Size the piece of fit %1 so that it just fits").arg(i + 1));
        if (i < m_fitStates.size() && m_lookedAt == job.stack) {
            const design::FitState& now = m_fitStates[i];
            state = !now.isThere ? tr("is lost")
                    : now.jams() ? tr("%1 mm too large").arg(-now.playMm, 0, 'f', 2)
                                 : tr("fits, %1 mm of play").arg(now.playMm, 0, 'f', 2);
            make->setVisible(now.jams() || now.isLoose());
        } else {
            make->hide();
        }
        connect(make, &QPushButton::clicked, this, [this, i] {
            run(tr("Make it fit"), [i](const document::Job& before, const base::Progress& progress) {
                return document::withFitMade(before, i, progress);
            });
        });
        auto* out = linkButton(tr("Take out"), tr("Take fit %1 out").arg(i + 1));
        connect(out, &QPushButton::clicked, this,
                [this, i] { bench().apply(tr("Take a fit out"), document::withoutFit(bench().job(), i)); });
        addLine(tr("%1 %2 %3: %4")
                    .arg(capitalised(text(design::pieceName(*job.stack, fit.inner))),
                         fit.kind == design::FitKind::LidOver ? tr("under") : tr("into"),
                         text(design::pieceName(*job.stack, fit.outer)), state),
                {make, out});
    }
}

/// Necks, sheets and fits are looked at behind the interface, for the job as it is.
void SizeStation::look() {
    const document::Job& job = bench().job();
    if (!m_isActive || !job.stack || m_lookedAt == job.stack)
        return;
    m_look.start(tr("Looking at this size"),
                 [this, snapshot = std::make_shared<const document::Job>(job)](
                     const base::Progress& progress) -> Task::Conclusion {
                     auto found =
                         document::consequencesOf(*snapshot, document::shippedCatalogue().formats, progress);
                     if (!found)
                         return {};
                     std::vector<design::FitState> states;
                     for (const design::Fit& fit : snapshot->fits) {
                         auto state = document::fitStateOf(*snapshot, fit, progress);
                         if (!state && state.error().code == base::Code::Cancelled)
                             return {};
                         states.push_back(state ? *state : design::FitState{});
                     }
                     return [this, stack = snapshot->stack, found = *found, states] {
                         m_lookedAt = stack;
                         m_consequences = found;
                         m_fitStates = states;
                         refresh();
                     };
                 });
}

void SizeStation::showAnswer() {
    const document::Job& job = bench().job();
    const geometry::Box box = frame();
    QVector<std::pair<QString, QString>> answer{
        {m_chosen.empty() ? tr("Size") : tr("Size of the chosen"), sizeText(box.width(), box.height())}};
    const design::StackMeasures m = design::measure(*job.stack);
    if (m_lookedAt != job.stack || !m_consequences) {
        answer.append({tr("Pieces"), QString::number(m.pieces)});
        answer.append({tr("Sheets, necks, openings"), tr("looking …")});
        setAnswer(answer);
        return;
    }
    const document::Consequences& c = *m_consequences;
    answer.append({tr("Pieces"), c.copies == c.pieces
                                     ? QString::number(c.pieces)
                                     : tr("%1, %2 with copies").arg(c.pieces).arg(c.copies)});
    answer.append({tr("Sheets needed"), c.unplaced > 0
                                            ? tr("%1, and %2 too large").arg(c.sheets).arg(c.unplaced)
                                            : QString::number(c.sheets)});
    answer.append({tr("Narrowest place"),
                   c.narrowestMm ? tr("%1 mm").arg(*c.narrowestMm, 0, 'f', 2) : tr("none narrow")});
    answer.append(
        {tr("Openings under %1 mm").arg(document::kLeastOpeningMm), QString::number(c.smallOpenings)});
    setAnswer(answer, c.narrowestMm
                          ? tr("The narrowest is in %1").arg(text(design::pieceName(*job.stack, c.narrowest)))
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

void SizeStation::refresh() {
    const document::Job& job = bench().job();
    const bool isReady = bench().isTraced();
    for (QWidget* w :
         {static_cast<QWidget*>(m_width), static_cast<QWidget*>(m_height), static_cast<QWidget*>(m_keep),
          static_cast<QWidget*>(mainButton()), static_cast<QWidget*>(m_addFit)})
        w->setEnabled(isReady);
    if (!isReady) {
        emptyLayout(m_largest);
        emptyLayout(m_relations);
        m_choiceText->setText(tr("Nothing to size yet"));
        setAnswer({{tr("Size"), tr("no pieces yet")}});
        return;
    }
    std::erase_if(m_chosen, [&](design::PieceId id) { return !design::findPiece(*job.stack, id); });
    m_choiceText->setText(m_chosen.empty() ? tr("The whole design")
                          : m_chosen.size() == 1
                              ? capitalised(text(design::pieceName(*job.stack, m_chosen[0])))
                              : tr("%1 pieces chosen").arg(m_chosen.size()));
    m_none->setVisible(!m_chosen.empty());
    const geometry::Box box = frame();
    m_width->showLength(box.width(), job.unit);
    m_height->showLength(box.height(), job.unit);
    m_keepTogether->setEnabled(m_chosen.size() > 1);
    m_free->setEnabled(!m_chosen.empty());
    const bool areFree =
        !m_chosen.empty() && std::all_of(m_chosen.begin(), m_chosen.end(),
                                         [&](design::PieceId id) { return job.freePieces.contains(id); });
    m_free->setText(areFree ? tr("Bind the chosen again") : tr("Let the chosen be free"));
    showLargest();
    showRelations();
    showAnswer();
    look();
}

} // namespace thinline::app
