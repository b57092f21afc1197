// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SourceStation.h"

#include "document/DiskFontStore.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QIcon>
#include <QLabel>
#include <QPixmap>
#include <QPushButton>
#include <QRadioButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>
#include <set>

namespace thinline::app {
namespace {

QString text(const std::string& utf8) {
    return QString::fromStdString(utf8);
}

/// A stock nothing is cut from yet, so that what comes in can be told from what is there.
std::string freshStock(const document::Job& job) {
    const auto& catalogue = document::shippedCatalogue();
    std::set<std::string> used{catalogue.backingStockId};
    for (const auto& [piece, stock] : job.paint)
        used.insert(stock);
    for (const design::Stock& stock : job.stocks)
        if (!used.contains(stock.id))
            return stock.id;
    return catalogue.plainStockId;
}

} // namespace

SourceStation::SourceStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("What do we start from?"),
                   tr("A picture to trace, a drawing of outlines, a word, a figure by measure: one of them "
                      "or several."),
                   tr("Trace this picture"), parent) {
    buildAdding();
    m_listHeading = addHeading(tr("This job starts from"));
    auto* list = new QWidget;
    m_list = new QVBoxLayout(list);
    m_list->setContentsMargins(0, 0, 0, 0);
    m_list->setSpacing(2);
    controls()->addWidget(list);
    m_facts = addNote();
    buildPicture();
    m_word = new WordPanel(bench);
    m_figure = new FigurePanel(bench);
    m_drawing = new DrawingPanel(bench);
    for (QWidget* panel :
         {static_cast<QWidget*>(m_word), static_cast<QWidget*>(m_figure), static_cast<QWidget*>(m_drawing)})
        controls()->addWidget(panel);
    m_distance = new KnownDistance;
    controls()->addWidget(m_distance);
    connect(m_distance, &KnownDistance::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_distance, &KnownDistance::told, this, [this](double factor) {
        const auto* source = document::findSource(this->bench().job(), m_chosen);
        if (const auto* drawing = source ? std::get_if<document::Drawing>(&source->recipe) : nullptr)
            settleWidth(m_chosen, drawing->pageWidthMm * drawing->scale * factor);
    });
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Cut from"));
    m_stockRow = addRow(tr("Cut from"), m_stock, 150);
    connect(m_stock, &QComboBox::activated, this, [this](int index) {
        const document::Job& job = this->bench().job();
        const auto& stock = job.stocks[static_cast<size_t>(index)];
        this->bench().apply(tr("Cut from %1").arg(text(stock.name)),
                            document::paintedSource(job, m_chosen, stock.id));
    });
    m_note = addNote();
    m_note->setObjectName("warning");
    m_originHeading = addHeading(tr("Origin and licence"));
    m_origin = new OriginPanel;
    controls()->addWidget(m_origin);
    m_unit = new QComboBox;
    m_unit->addItems({tr("millimetres"), tr("inches")});
    m_unit->setAccessibleName(tr("Unit"));
    addRow(tr("Show sizes in"), m_unit);

    connect(m_word, &WordPanel::changed, this, [this](int source, const lettering::Recipe& recipe) {
        runNoted(tr("Change the word"),
                 [this, source, recipe](const document::Job& job, const base::Progress& progress) {
                     return document::withWordChanged(job, source, recipe, this->bench().fonts(), progress);
                 });
    });
    connect(m_figure, &FigurePanel::changed, this, [this](int source, const construct::Recipe& recipe) {
        runNoted(tr("Change the figure"),
                 [source, recipe](const document::Job& job, const base::Progress& progress) {
                     return document::withFigureChanged(job, source, recipe, progress);
                 });
    });
    connect(m_drawing, &DrawingPanel::widthSettled, this, &SourceStation::settleWidth);
    connect(m_drawing, &DrawingPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_drawing, &DrawingPanel::wantsMeasuring, this, &SourceStation::wantsMeasuring);
    connect(m_drawing, &DrawingPanel::taken, this, [this](int source, const design::TakeOptions& take) {
        runNoted(tr("Take other parts"),
                 [this, source, take](const document::Job& job, const base::Progress& progress) {
                     return document::withDrawingTaken(job, source, take, this->bench().fonts(), progress);
                 });
    });
    connect(m_origin, &OriginPanel::changed, this, [this](const document::Origin& origin) {
        this->bench().apply(tr("Note the origin"),
                            document::withOrigin(this->bench().job(), m_chosen, origin));
    });
    connect(m_unit, &QComboBox::activated, this, [this](int index) {
        document::Job job = this->bench().job();
        job.unit = index == 1 ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
        this->bench().apply(tr("Change the unit"), std::move(job));
    });
    connect(mainButton(), &QPushButton::clicked, this, [this] {
        if (!this->bench().job().tracing && this->bench().picture()) {
            const auto picture = this->bench().picture();
            this->bench().run(tr("Trace"), [picture](const document::Job& job,
                                                     const base::Progress& progress) {
                return document::traced(job, *picture, job.recipe, document::shippedCatalogue(), progress);
            });
        }
        emit done();
    });
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
    add(tr("A file…"), tr("Another drawing into this job"), &SourceStation::wantsAddition);
    controls()->addWidget(row);
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
    lines->addWidget(labelled(tr("Width"), m_width));
    lines->addWidget(labelled(tr("Height"), m_height));
    controls()->addWidget(m_picture);
    connect(m_width, &LengthField::entered, this, &SourceStation::setPictureWidth);
    connect(m_height, &LengthField::entered, this, [this](double heightMm) {
        const auto& art = *this->bench().job().artwork;
        setPictureWidth(heightMm * art.widthPx / (art.heightPx * art.pixelAspect));
    });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
}

void SourceStation::measured(double mm) {
    if (m_drawing->isVisibleTo(this))
        m_distance->ask(mm, bench().job().unit);
}

void SourceStation::runNoted(
    const QString& name,
    const std::function<base::Result<document::Noted>(const document::Job&, const base::Progress&)>& step) {
    tell(m_note, {});
    bench().run(
        name,
        [step](const document::Job& job, const base::Progress& progress) -> base::Result<document::Job> {
            auto noted = step(job, progress);
            if (!noted)
                return noted.error();
            return std::move(noted.take().job);
        });
}

void SourceStation::addWord() {
    lettering::Recipe recipe;
    recipe.text = tr("Word").toStdString();
    recipe.font = document::kPlainFont;
    recipe.sizeMm = 40;
    bench().beginIfNone();
    m_wanted = bench().job().nextSource;
    runNoted(tr("Add a word"), [this, recipe](const document::Job& job, const base::Progress& progress) {
        return document::withWord(job, recipe, freshStock(job), this->bench().fonts(), progress);
    });
}

void SourceStation::addFigure() {
    bench().beginIfNone();
    m_wanted = bench().job().nextSource;
    runNoted(tr("Add a figure"), [](const document::Job& job, const base::Progress& progress) {
        return document::withFigure(job, {}, freshStock(job), progress);
    });
}

void SourceStation::setPictureWidth(double widthMm) {
    tell(m_note, {});
    bench().run(tr("Set the picture's size"),
                [widthMm](const document::Job& job, const base::Progress& progress) {
                    return document::withPictureWidth(job, widthMm, progress);
                });
}

void SourceStation::settleWidth(int source, double pageWidthMm) {
    tell(m_note, {});
    bench().run(tr("Settle the size"),
                [source, pageWidthMm](const document::Job& job, const base::Progress& progress) {
                    return document::withDrawingWidth(job, source, pageWidthMm, progress);
                });
}

void SourceStation::choose(int source) {
    m_chosen = source;
    m_distance->hide();
    refresh();
    emit chosenChanged();
}

void SourceStation::buildList() {
    emptyLayout(m_list);
    const document::Job& job = bench().job();
    struct Entry {
        int source;
        QString words;
    };
    QVector<Entry> entries;
    if (job.artwork)
        entries.append({0, text(job.artwork->fileName)});
    for (const auto& source : job.sources) {
        QString words = text(source->name());
        if (!std::holds_alternative<document::Drawing>(source->recipe)) // a file keeps its name
            words[0] = words[0].toUpper();
        entries.append({source->number, words});
    }
    m_listHeading->setVisible(!entries.isEmpty());
    if (m_wanted != 0 && document::findSource(job, m_wanted)) {
        m_chosen = m_wanted;
        m_wanted = 0;
        if (std::holds_alternative<lettering::Recipe>(document::findSource(job, m_chosen)->recipe))
            QTimer::singleShot(0, m_word, &WordPanel::typeHere);
    }
    const auto isThere = [&](int source) {
        return std::any_of(entries.begin(), entries.end(),
                           [&](const Entry& e) { return e.source == source; });
    };
    if (!isThere(m_chosen))
        m_chosen = entries.isEmpty() ? 0 : entries.last().source;
    for (const Entry& entry : entries) {
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        auto* pick = new QRadioButton(fontMetrics().elidedText(entry.words, Qt::ElideMiddle, 180));
        pick->setToolTip(entry.words);
        pick->setChecked(entry.source == m_chosen);
        pick->setAutoExclusive(false);
        connect(pick, &QRadioButton::clicked, this, [this, source = entry.source] { choose(source); });
        line->addWidget(pick, 1);
        if (entry.source != 0 && entry.source == m_chosen) {
            auto* out = linkButton(tr("Take out"), tr("Take out %1").arg(entry.words));
            connect(out, &QPushButton::clicked, this, [this, source = entry.source] {
                bench().run(tr("Take a source out"),
                            [source](const document::Job& job_, const base::Progress& progress) {
                                return document::withoutSource(job_, source, progress);
                            });
            });
            line->addWidget(out);
        }
        m_list->addWidget(row);
    }
}

void SourceStation::showOpen() {
    const document::Job& job = bench().job();
    const document::Source* source = document::findSource(job, m_chosen);
    const bool isPicture = m_chosen == 0 && job.artwork;
    m_picture->setVisible(isPicture);
    m_word->setVisible(source && std::holds_alternative<lettering::Recipe>(source->recipe));
    m_figure->setVisible(source && std::holds_alternative<construct::Recipe>(source->recipe));
    const bool isDrawing = source && std::holds_alternative<document::Drawing>(source->recipe);
    m_drawing->setVisible(isDrawing);
    m_originHeading->setVisible(isPicture || isDrawing);
    m_origin->setVisible(isPicture || isDrawing);
    tell(m_facts, {});
    if (isPicture) {
        const auto& art = *job.artwork;
        m_width->showLength(job.pictureWidthMm, job.unit);
        m_height->showLength(job.pictureWidthMm * art.heightPx / art.widthPx * art.pixelAspect, job.unit);
        m_origin->show(job.origin);
        tell(m_facts, tr("%1 × %2 pixels").arg(art.widthPx).arg(art.heightPx));
    }
    m_stockRow->setVisible(source && !isDrawing);
    if (!source)
        return;
    showStock(*source);
    if (isDrawing) {
        m_drawing->show(*source);
        m_origin->show(source->origin);
        tell(m_facts, source->said.empty() ? QString() : tr("In the drawing: %1.").arg(text(source->said)));
    } else if (std::holds_alternative<lettering::Recipe>(source->recipe)) {
        m_word->show(*source);
    } else {
        m_figure->show(*source);
    }
}

void SourceStation::showStock(const document::Source& source) {
    const document::Job& job = bench().job();
    const QSignalBlocker quiet(m_stock);
    m_stock->clear();
    const auto painted = source.pieces.empty() ? job.paint.end() : job.paint.find(source.pieces.front().id);
    const std::string& now = painted == job.paint.end() ? source.stockId : painted->second;
    for (const design::Stock& stock : job.stocks) {
        QPixmap swatch(14, 14);
        swatch.fill(QColor(stock.colour[0], stock.colour[1], stock.colour[2]));
        m_stock->addItem(QIcon(swatch), text(stock.name));
        if (stock.id == now)
            m_stock->setCurrentIndex(m_stock->count() - 1);
    }
}

void SourceStation::showAnswer() {
    const document::Job& job = bench().job();
    if (m_chosen == 0 && job.artwork) {
        const auto& art = *job.artwork;
        const double heightMm = job.pictureWidthMm * art.heightPx / art.widthPx * art.pixelAspect;
        const double pxPerMm = art.widthPx / job.pictureWidthMm;
        // Below about 4 px per mm a pen line of half a millimetre is two pixels wide, and gaps can no longer
        // be told from lines.
        const QString fitness = pxPerMm >= 8 ? tr("fine") : pxPerMm >= 4 ? tr("usable") : tr("coarse");
        setAnswer({{tr("Picture"), sizeText(job.pictureWidthMm, heightMm)},
                   {tr("Pixels per mm"), QString::number(pxPerMm, 'f', 1)},
                   {tr("For tracing"), fitness}},
                  tr("Pixels per mm = %1 px / %2 mm").arg(art.widthPx).arg(job.pictureWidthMm, 0, 'f', 1));
        return;
    }
    const document::Source* source = document::findSource(job, m_chosen);
    if (!source) {
        setAnswer({{tr("Start"), tr("nothing yet")}});
        return;
    }
    const geometry::Box box = source->box();
    int nodes = 0, pieces = 0;
    for (const document::SourcePiece& piece : source->pieces)
        if (source->takes(piece)) {
            nodes += geometry::nodeCount(piece.shape);
            ++pieces;
        }
    QVector<std::pair<QString, QString>> rows{
        {tr("Size"), sizeText(box.width() * job.scaleX, box.height() * job.scaleY)},
        {tr("Pieces"), text(base::formatCount(pieces))},
        {tr("Nodes"), text(base::formatCount(nodes))}};
    if (const auto* drawing = std::get_if<document::Drawing>(&source->recipe))
        rows.prepend({tr("Page"), sizeText(drawing->pageWidthMm * drawing->scale,
                                           drawing->pageHeightMm * drawing->scale)});
    setAnswer(rows);
}

void SourceStation::refresh() {
    const document::Job& job = bench().job();
    buildList();
    showOpen();
    showAnswer();
    const bool isTraceable = job.artwork && bench().picture() && !job.tracing;
    mainButton()->setEnabled(isTraceable || bench().isTraced());
    mainButton()->setText(isTraceable   ? tr("Trace this picture")
                          : job.tracing ? tr("On to the areas")
                                        : tr("On to the pieces"));
    const QSignalBlocker quiet(m_unit);
    m_unit->setCurrentIndex(job.unit == base::LengthUnit::Inch ? 1 : 0);
}

} // namespace thinline::app
