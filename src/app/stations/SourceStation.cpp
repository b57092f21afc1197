// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// One list of sources, one of them open below it. What is open decides what the bench shows: a picture alone and at its
// size, for that is what is settled about it here; anything else over the mats it might go on.
//
// Several pictures share one pair of hands: the one that is open here is in hand everywhere (Workbench::takeInHand), so
// that Trace works on it without asking again. A source that was just added is opened as soon as its job is there
// (`m_wanted`), also when it took a while to read.
#include "app/stations/SourceStation.h"

#include "app/stations/FoldedDialog.h"
#include "app/stations/NamesDialog.h"
#include "job/Stickers.h"
#include "job/TraceSteps.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QIcon>
#include <QLabel>
#include <QMenu>
#include <QPixmap>
#include <QPushButton>
#include <QRadioButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>
#include <numbers>
#include <set>

namespace thinline::app {
namespace {

/// A stock nothing is cut from yet, so that what comes in can be told from what is there.
std::string freshStock(const job::State& state) {
    const job::Catalogue& catalogue = job::shippedCatalogue();
    std::set<std::string> used{catalogue.backingStockId};
    if (const design::Stack* work = state.made.work())
        for (const design::Layer& layer : work->layers)
            used.insert(layer.stockId);
    for (const design::Stock& stock : state.job.stocks)
        if (!used.contains(stock.id))
            return stock.id;
    return catalogue.plainStockId;
}

template <class Kind>
bool isA(const job::Source* source) {
    return job::asA<Kind>(source) != nullptr;
}

/// A file keeps its name as it is.
QString listName(const job::Source& source) {
    const bool isFile = isA<job::Drawing>(&source) || isA<job::Picture>(&source);
    return isFile ? text(source.name()) : capitalised(text(source.name()));
}

} // namespace

SourceStation::SourceStation(Workbench& bench, QWidget* parent)
    : StationPanel(Station::Source, bench,
                   {tr("What do we start from?"), tr("A picture, a drawing, a word, a figure: or several."),
                    tr("Trace this picture")},
                   parent),
      m_tool({[this](const Pointer& pointer) {
                  if (pointer.on())
                      choose(pointer.on()->piece.source());
              },
              [this](const SceneItem& item, geometry::Point by) { moved(item, by); }}) {
    buildAdding();
    m_listHeading = new QLabel(tr("This job starts from"));
    m_listHeading->setObjectName("heading");
    m_unit = new QComboBox;
    m_unit->addItems({tr("in mm"), tr("in inches")});
    m_unit->setAccessibleName(tr("Unit"));
    m_unit->setToolTip(tr("The unit sizes are shown in"));
    auto* above = new QWidget;
    auto* line = new QHBoxLayout(above);
    line->setContentsMargins(0, 0, 0, 0);
    line->addWidget(m_listHeading, 1);
    line->addStretch(1);
    line->addWidget(m_unit);
    controls()->addWidget(above);
    auto* list = new QWidget;
    m_list = new QVBoxLayout(list);
    m_list->setContentsMargins(0, 0, 0, 0);
    m_list->setSpacing(2);
    controls()->addWidget(list);
    m_facts = addNote();
    buildPicture();
    buildPanels();
    buildPlace();
    buildLast();
    connectPanels();
    connect(mainButton(), &QPushButton::clicked, this, &SourceStation::goOn);
    offer(tr("Add a word"), QKeySequence(Qt::CTRL | Qt::Key_T), [this] { addWord(); });
    offer(tr("Add a figure by measure"), {}, [this] { addFigure(); });
    for (const construct::Construction* one : construct::constructions())
        offer(tr("Make from measures: %1").arg(tr(one->label)), {}, [this, one] { addConstruction(one->name); });
}

void SourceStation::buildAdding() {
    auto* open = new QPushButton(tr("Open a picture or a drawing…"));
    open->setToolTip(tr(
        "Begin with a picture, a drawing (SVG, DXF, PDF) or a saved job (Ctrl+O). You can also drop files on "
        "the window or paste a picture."));
    controls()->addWidget(open);
    connect(open, &QPushButton::clicked, this, &SourceStation::wantsFile);
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    const auto add = [&](const QString& label, const QString& tip, auto slot) {
        auto* button = new QPushButton(label);
        button->setToolTip(tip);
        connect(button, &QPushButton::clicked, this, slot);
        line->addWidget(button, 1);
    };
    add(tr("Add a word"), tr("A word in a typeface, as pieces of card (Ctrl+T)"), &SourceStation::addWord);
    add(tr("A figure"), tr("A rectangle, star, heart, ring ... by exact measure"), &SourceStation::addFigure);
    add(tr("A file…"), tr("Another picture or drawing into this job"), &SourceStation::wantsAddition);
    controls()->addWidget(row);
    auto* measures = new QPushButton(tr("A work made from measures…"));
    measures->setToolTip(tr("A box, a lantern, flags, a jigsaw ... computed from what goes in and the card it is made of"));
    auto* menu = new QMenu(measures);
    menu->setToolTipsVisible(true);
    for (const construct::Construction* one : construct::constructions()) {
        QAction* action = menu->addAction(tr(one->label));
        action->setToolTip(tr(one->says));
        connect(action, &QAction::triggered, this, [this, one] { addConstruction(one->name); });
    }
    measures->setMenu(menu);
    controls()->addWidget(measures);
}

void SourceStation::buildPicture() {
    m_picture = new QWidget;
    auto* lines = new QVBoxLayout(m_picture);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    auto* heading = new QLabel(tr("Real size of the whole picture"));
    heading->setObjectName("heading");
    lines->addWidget(heading);
    m_width = new LengthField(tr("Width"));
    m_height = new LengthField(tr("Height"));
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(new QLabel(tr("wide")));
    row->addWidget(m_width, 1);
    row->addWidget(new QLabel(tr("high")));
    row->addWidget(m_height, 1);
    lines->addLayout(row);
    auto* sticker = linkButton(tr("Cut it out as a sticker"), tr("Cut out round what the picture shows, and print it"));
    sticker->setToolTip(tr("For a picture on nothing or on an even colour: the outline is cut this far away from what it shows, and "
                           "the picture is printed on it"));
    m_rim = new LengthField(tr("Rim of the sticker"));
    m_rim->allowZero();
    m_sticker = new QWidget;
    auto* cut = new QHBoxLayout(m_sticker);
    cut->setContentsMargins(0, 0, 0, 0);
    cut->setSpacing(6);
    cut->addWidget(sticker);
    cut->addStretch(1);
    cut->addWidget(new QLabel(tr("rim")));
    cut->addWidget(m_rim);
    m_rim->setMaximumWidth(84);
    lines->addWidget(m_sticker);
    connect(m_rim, &LengthField::entered, this, [this](double mm) { m_rimMm = mm; });
    connect(m_rim, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(sticker, &QPushButton::clicked, this, &SourceStation::makeSticker);
    controls()->addWidget(m_picture);
    connect(m_width, &LengthField::entered, this, [this](double widthMm) { setWidth(m_open, widthMm); });
    connect(m_height, &LengthField::entered, this, [this](double heightMm) {
        if (const job::Source* source = job::findSource(bench().job(), m_open))
            setWidth(m_open, heightMm * job::sourceWidthMm(*source) / job::sourceHeightMm(*source));
    });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
}

void SourceStation::buildPanels() {
    m_word = new WordPanel(bench());
    m_figure = new FigurePanel(bench());
    m_construction = new ConstructionPanel(bench());
    m_drawing = new DrawingPanel(bench());
    for (QWidget* panel : {static_cast<QWidget*>(m_word), static_cast<QWidget*>(m_figure),
                           static_cast<QWidget*>(m_construction), static_cast<QWidget*>(m_drawing)})
        controls()->addWidget(panel);
    m_distance = new KnownDistance;
    controls()->addWidget(m_distance);
    connect(m_distance, &KnownDistance::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_distance, &KnownDistance::told, this, [this](double factor) {
        if (const job::Source* source = job::findSource(bench().job(), m_open))
            setWidth(m_open, job::sourceWidthMm(*source) * factor);
    });
}

void SourceStation::buildPlace() {
    m_placing = new QWidget;
    auto* lines = new QVBoxLayout(m_placing);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    auto* heading = new QLabel(tr("Where it lies"));
    heading->setObjectName("heading");
    m_place = new PlaceFields;
    m_place->hideMiddle();
    m_turn = new QDoubleSpinBox;
    m_turn->setAlignment(Qt::AlignRight);
    m_turn->setRange(-180, 180);
    m_turn->setDecimals(1);
    m_turn->setSuffix("°");
    m_turn->setKeyboardTracking(false);
    m_turn->setAccessibleName(tr("Turned by"));
    m_again = linkButton(tr("Trace it once more"),
                         tr("Add the same picture again in its place, to be traced another way or in part"));
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(heading, 1);
    row->addWidget(new QLabel(tr("turned")));
    row->addWidget(m_turn);
    lines->addLayout(row);
    lines->addWidget(m_place);
    lines->addWidget(m_again, 0, Qt::AlignLeft);
    controls()->addWidget(m_placing);
    connect(m_place, &PlaceFields::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_place, &PlaceFields::moved, this, [this](geometry::Point by) {
        if (const job::Source* source = job::findSource(bench().job(), m_open))
            take(tr("Move %1").arg(text(source->name())),
                 job::withSourceCorner(bench().job(), m_open, job::placeOfSource(*source).least + by));
    });
    connect(m_turn, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        if (const job::Source* source = job::findSource(bench().job(), m_open))
            take(tr("Turn %1").arg(text(source->name())),
                 job::withSourceTurned(bench().job(), m_open, degrees * std::numbers::pi / 180));
    });
    connect(m_again, &QPushButton::clicked, this, [this] {
        m_wanted = job::SourceId{bench().job().nextSource};
        take(tr("Add the picture again"), job::withPictureAgain(bench().job(), m_open));
    });
}

/// Takes a step, or tells why it cannot be done.
void SourceStation::take(const QString& name, base::Result<job::Job> job) {
    tell(m_note, job ? QString() : text(job.error().message));
    if (job)
        bench().act(name, job.take());
}

void SourceStation::buildLast() {
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Cut from"));
    m_stockRow = addRow(tr("Cut from"), m_stock, 150);
    m_note = addNote();
    m_note->setObjectName("warning");
    m_originHeading = addHeading(tr("Origin and licence"));
    m_origin = new OriginPanel;
    controls()->addWidget(m_origin);
    connect(m_stock, &QComboBox::activated, this, [this](int index) {
        const auto& stock = bench().job().stocks[static_cast<size_t>(index)];
        bench().act(tr("Cut from %1").arg(text(stock.name)),
                    job::withSourceStock(bench().job(), m_open, stock.id));
    });
    connect(m_origin, &OriginPanel::changed, this, [this](const job::Origin& origin) {
        bench().act(tr("Note the origin"), job::withOrigin(bench().job(), m_open, origin));
    });
    connect(m_unit, &QComboBox::activated, this, [this](int index) {
        job::Job job = bench().job();
        job.unit = index == 1 ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
        bench().act(tr("Change the unit"), std::move(job));
    });
}

void SourceStation::connectPanels() {
    connect(m_word, &WordPanel::changed, this, [this](job::SourceId source, const lettering::Recipe& recipe) {
        tell(m_note, {});
        bench().run(tr("Change the word"),
                    [this, source, recipe](const job::State& now, const base::Progress& progress) {
                        return job::withWordChanged(now.job, source, recipe, bench().fonts(), progress);
                    });
    });
    connect(m_word, &WordPanel::wantsNames, this, &SourceStation::setNames);
    connect(m_figure, &FigurePanel::changed, this,
            [this](job::SourceId source, const construct::Recipe& recipe) {
                tell(m_note, {});
                bench().run(tr("Change the figure"),
                            [source, recipe](const job::State& now, const base::Progress&) {
                                return job::withFigureChanged(now.job, source, recipe);
                            });
            });
    connect(m_construction, &ConstructionPanel::changed, this, [this](job::SourceId source, const construct::Given& given) {
        tell(m_note, {});
        bench().run(tr("Change the measures"), [this, source, given](const job::State& now, const base::Progress& progress) {
            return job::withConstructionChanged(now.job, source, given, bench().fonts(), progress);
        });
    });
    connect(m_construction, &ConstructionPanel::wantsFolded, this, &SourceStation::seeFolded);
    connect(m_construction, &ConstructionPanel::wantsNames, this, &SourceStation::setNames);
    connect(m_drawing, &DrawingPanel::widthSettled, this, &SourceStation::setWidth);
    connect(m_drawing, &DrawingPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_drawing, &DrawingPanel::wantsMeasuring, this, &StationPanel::wantsMeasuring);
    connect(m_drawing, &DrawingPanel::taken, this,
            [this](job::SourceId source, const design::TakeOptions& take) {
                tell(m_note, {});
                bench().run(tr("Take other parts"),
                            [this, source, take](const job::State& now, const base::Progress& progress) {
                                return job::withDrawingTaken(now.job, source, take, job::shippedCatalogue(),
                                                             bench().fonts(), &bench().pages(), progress);
                            });
            });
}

// ---- steps ---------------------------------------------------------------------------------------------------

void SourceStation::addWord() {
    lettering::Recipe recipe;
    recipe.text = tr("Word").toStdString();
    recipe.font = lettering::kPlainFont;
    recipe.sizeMm = 40;
    bench().beginIfNone();
    m_wanted = job::SourceId{bench().job().nextSource};
    tell(m_note, {});
    bench().run(tr("Add a word"), [this, recipe](const job::State& now, const base::Progress& progress) {
        return job::withWord(now, recipe, freshStock(now), bench().fonts(), progress);
    });
}

void SourceStation::addFigure() {
    bench().beginIfNone();
    m_wanted = job::SourceId{bench().job().nextSource};
    tell(m_note, {});
    bench().run(tr("Add a figure"), [](const job::State& now, const base::Progress&) {
        return job::withFigure(now, {}, freshStock(now));
    });
}

void SourceStation::makeSticker() {
    const job::SourceId picture = m_open;
    m_wanted = job::SourceId{bench().job().nextSource};
    tell(m_note, {});
    bench().run(tr("Make a sticker"), [this, picture, rimMm = m_rimMm](const job::State& now, const base::Progress& progress) {
        return job::withSticker(now, picture, {rimMm, {}, false}, bench().fonts(), progress);
    });
}

void SourceStation::addConstruction(const std::string& name) {
    const construct::Construction* one = construct::constructionNamed(name);
    if (!one)
        return;
    bench().beginIfNone();
    m_wanted = job::SourceId{bench().job().nextSource};
    tell(m_note, {});
    bench().run(tr("Make a work from measures"), [this, one](const job::State& now, const base::Progress& progress) {
        return job::withConstruction(now, construct::Given{one->name, {}, one->usualWord}, freshStock(now), bench().fonts(), progress);
    });
}

void SourceStation::seeFolded() {
    showFolded(bench(), job::foldable(bench().state(), m_open), this);
}

void SourceStation::setNames() {
    askForNames(bench(), {m_open, {}}, this);
}

void SourceStation::setWidth(job::SourceId source, double widthMm) {
    take(tr("Settle the size"), job::withSourceWidth(bench().job(), source, widthMm));
}

void SourceStation::measured(double mm) {
    if (m_drawing->isVisibleTo(this))
        m_distance->ask(mm, bench().job().unit);
}

void SourceStation::moved(const SceneItem& item, geometry::Point by) {
    const job::Source* source = job::findSource(bench().job(), item.piece.source());
    if (source)
        take(tr("Move %1").arg(text(source->name())),
             job::withSourceAt(bench().job(), source->id, source->at + by));
}

void SourceStation::goOn() {
    const auto* picture = job::asA<job::Picture>(bench().pictureSource());
    if (const auto pixels = bench().picture(); pixels && picture && !picture->tracing)
        bench().run(tr("Trace"), [pixels, of = bench().pictureInHand()](const job::State& now,
                                                                        const base::Progress& progress) {
            const auto* there = job::asA<job::Picture>(job::pictureSource(now.job, of));
            return job::traced(now.job, *pixels, there ? there->recipe : trace::Recipe{},
                               job::shippedCatalogue(), progress, of);
        });
    emit done();
}

// ---- the bench -----------------------------------------------------------------------------------------------

ScenePtr SourceStation::scene() {
    const job::Source* open = job::findSource(bench().job(), m_open);
    if (!isA<job::Picture>(open))
        return kept({bench().made().finished}, [&] {
            return sceneOfSize(bench().made(), bench().catalogue().formats, bench().outlines());
        });
    Values of{bench().picture()};
    for (const auto& source : bench().job().sources)
        if (source->id == m_open)
            of.push_back(source);
    return kept(std::move(of), [&] { return sceneOfPicture(*open, bench().picture(), bench().outlines()); });
}

StationPanel::Ground SourceStation::ground() const {
    return isA<job::Picture>(job::findSource(bench().job(), m_open)) ? Ground::Picture : Ground::Places;
}

QString SourceStation::hoverLine(const SceneItem& item) const {
    const job::Source* source = job::findSource(bench().job(), item.piece.source());
    return source ? tr("drag to move it") : QString();
}

// ---- showing -------------------------------------------------------------------------------------------------

void SourceStation::jobOpened() {
    const job::Source* picture = bench().pictureSource();
    const auto& sources = bench().job().sources;
    m_open = picture ? picture->id : sources.empty() ? job::SourceId{} : sources.back()->id;
}

void SourceStation::choose(job::SourceId source) {
    m_open = source;
    bench().takeInHand(source);
    m_distance->hide();
    refresh();
    emit benchChanged();
}

void SourceStation::addToList(const job::Source& source) {
    QString words = listName(source);
    for (const auto& other : bench().job().sources) {
        if (other->id == source.id)
            break;
        if (listName(*other) == listName(source))
            words = tr("%1, once more").arg(listName(source));
    }
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    auto* pick = new QRadioButton(fontMetrics().elidedText(words, Qt::ElideMiddle, 180));
    pick->setToolTip(words);
    pick->setChecked(source.id == m_open);
    pick->setAutoExclusive(false);
    connect(pick, &QRadioButton::clicked, this, [this, id = source.id] { choose(id); });
    line->addWidget(pick, 1);
    if (source.id == m_open && (!isA<job::Picture>(&source) || bench().job().sources.size() > 1)) {
        auto* out = linkButton(tr("Take out"), tr("Take out %1").arg(words));
        connect(out, &QPushButton::clicked, this, [this, id = source.id] {
            take(tr("Take a source out"), job::withoutSource(bench().job(), id));
        });
        line->addWidget(out);
    }
    m_list->addWidget(row);
}

void SourceStation::buildList() {
    emptyLayout(m_list);
    const job::Job& job = bench().job();
    m_listHeading->setVisible(!job.sources.empty());
    if (job::findSource(job, m_wanted)) {
        m_open = std::exchange(m_wanted, job::SourceId{});
        bench().takeInHand(m_open);
        if (isA<job::Word>(job::findSource(job, m_open)))
            QTimer::singleShot(0, m_word, &WordPanel::typeHere);
        emit benchChanged();
    }
    if (!job::findSource(job, m_open))
        m_open = job.sources.empty() ? job::SourceId{} : job.sources.back()->id;
    for (const auto& source : job.sources)
        addToList(*source);
}

void SourceStation::showOpen() {
    const job::Source* source = job::findSource(bench().job(), m_open);
    const bool isPicture = isA<job::Picture>(source), isDrawing = isA<job::Drawing>(source);
    m_picture->setVisible(isPicture);
    m_word->setVisible(isA<job::Word>(source));
    m_figure->setVisible(isA<job::Figure>(source));
    m_construction->setVisible(isA<job::Construction>(source));
    m_drawing->setVisible(isDrawing);
    m_originHeading->setVisible(isPicture || isDrawing);
    m_origin->setVisible(isPicture || isDrawing);
    m_stockRow->setVisible(source && !isDrawing && !isPicture);
    m_placing->setVisible(source != nullptr);
    m_again->setVisible(isPicture && job::asA<job::Picture>(source)->tracing);
    tell(m_facts, {});
    if (!source)
        return;
    showFacts(*source);
    showStock(*source);
    m_origin->show(source->origin);
    m_place->showBox(placeOfOpen(), bench().job().unit);
    const QSignalBlocker quiet(m_turn);
    m_turn->setValue(source->turnRad * 180 / std::numbers::pi);
    if (isPicture) {
        m_width->showLength(job::sourceWidthMm(*source), bench().job().unit);
        m_height->showLength(job::sourceHeightMm(*source), bench().job().unit);
        m_rim->showLength(m_rimMm, bench().job().unit);
        m_sticker->setVisible(!std::get<job::Picture>(source->what).tracing);
    } else if (isDrawing) {
        m_drawing->show(*source);
    } else if (isA<job::Word>(source)) {
        m_word->show(*source);
    } else if (isA<job::Construction>(source)) {
        m_construction->show(*source);
    } else {
        m_figure->show(*source);
    }
}

geometry::Box SourceStation::placeOfOpen() const {
    for (const auto& source : bench().job().sources)
        if (source->id == m_open)
            return bench().outlines()->placeOf(source);
    return {};
}

/// A word tells itself what is special about it.
void SourceStation::showFacts(const job::Source& source) {
    QStringList facts;
    if (const auto* picture = job::asA<job::Picture>(&source))
        facts << tr("%1 × %2 pixels").arg(picture->file->widthPx).arg(picture->file->heightPx);
    if (isA<job::Drawing>(&source) && !source.said.empty())
        facts << tr("In the drawing: %1.").arg(text(source.said));
    constexpr double kPlain = 1e-6;
    if (std::abs(source.stretchY - 1) > kPlain)
        facts << tr("Stretched: heights are %1 times what they were drawn, beside widths.")
                     .arg(source.stretchY, 0, 'f', 3);
    tell(m_facts, facts.join("\n"));
}

/// What its pieces are cut from; before there are any, what they will be.
void SourceStation::showStock(const job::Source& source) {
    const job::Job& job = bench().job();
    std::set<std::string> stockIds;
    if (const design::Stack* work = bench().work())
        for (const design::Laid& laid : work->pieces)
            if (laid.id().source() == source.id)
                stockIds.insert(work->layerOf(laid).stockId);
    if (const auto* layer = design::findLayer(job.layers, source.layer); layer && stockIds.empty())
        stockIds.insert(layer->stockId);
    const QSignalBlocker quiet(m_stock);
    m_stock->clear();
    m_stock->setPlaceholderText(tr("several stocks"));
    for (const design::Stock& stock : job.stocks) {
        QPixmap swatch(14, 14);
        swatch.fill(QColor(stock.colour[0], stock.colour[1], stock.colour[2]));
        m_stock->addItem(QIcon(swatch), text(stock.name));
    }
    m_stock->setCurrentIndex(-1);
    for (size_t i = 0; stockIds.size() == 1 && i < job.stocks.size(); ++i) {
        if (job.stocks[i].id == *stockIds.begin())
            m_stock->setCurrentIndex(static_cast<int>(i));
    }
}

void SourceStation::showAnswer() {
    const job::Source* source = job::findSource(bench().job(), m_open);
    if (!source)
        return setAnswer({{tr("Start"), tr("nothing yet")}});
    if (const auto* picture = job::asA<job::Picture>(source)) {
        const double pxPerMm = 1 / source->unitMm;
        // Below about 4 px per mm a pen line of half a millimetre is two pixels wide, and gaps can no longer be told
        // from lines.
        const QString fitness = pxPerMm >= 8 ? tr("fine") : pxPerMm >= 4 ? tr("usable") : tr("coarse");
        return setAnswer(
            {{tr("Picture"), sizeText(job::sourceWidthMm(*source), job::sourceHeightMm(*source))},
             {tr("Pixels per mm"), QString::number(pxPerMm, 'f', 1)},
             {tr("For tracing"), fitness}},
            tr("Pixels per mm = %1 px / %2 mm")
                .arg(picture->file->widthPx)
                .arg(job::sourceWidthMm(*source), 0, 'f', 1));
    }
    const geometry::Box box = placeOfOpen();
    int nodes = 0, pieces = 0;
    for (const job::Found& found : *source->kept)
        if (source->takes(found)) {
            nodes += geometry::nodeCount(found.body->shape);
            ++pieces;
        }
    QVector<std::pair<QString, QString>> rows{{tr("Size"), sizeText(box.width(), box.height())},
                                              {tr("Pieces"), text(base::formatCount(pieces))},
                                              {tr("Nodes"), text(base::formatCount(nodes))}};
    if (isA<job::Drawing>(source))
        rows.prepend({tr("Page"), sizeText(job::sourceWidthMm(*source), job::sourceHeightMm(*source))});
    setAnswer(rows);
}

void SourceStation::refresh() {
    buildList();
    showOpen();
    showAnswer();
    const auto* picture = job::asA<job::Picture>(bench().pictureSource());
    const bool isTraceable = picture && !picture->tracing && bench().picture();
    mainButton()->setEnabled(isTraceable || bench().hasPieces());
    mainButton()->setText(isTraceable                   ? tr("Trace this picture")
                          : picture && picture->tracing ? tr("On to the areas")
                                                        : tr("On to the pieces"));
    const QSignalBlocker quiet(m_unit);
    m_unit->setCurrentIndex(bench().job().unit == base::LengthUnit::Inch ? 1 : 0);
}

} // namespace thinline::app
