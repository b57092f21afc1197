// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing on a piece.
//
// What is seen is what will be printed: the view is painted by the same function as the pages, behind the interface, while the hand
// moves as well as when it lets go. Paintings do not queue: one that is wanted while another runs follows it, whatever happened in
// between.
#include "app/stations/FaceDialog.h"

#include "app/bench/Paths.h"
#include "app/stations/Fields.h"
#include "app/stations/NamesDialog.h"
#include "folds/Panels.h"
#include "job/PrintLooks.h"
#include "print/Place.h"
#include "print/Steps.h"

#include <QColorDialog>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include <numbers>

namespace thinline::app {
namespace {

using design::Side;

constexpr int kPreviewPx = 1600; ///< of a picture, while a hand moves it: finer than the view

QColor colourOf(raster::Rgb c) {
    return QColor(c[0], c[1], c[2]);
}
raster::Rgb rgbOf(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue())};
}

} // namespace

FaceDialog::FaceDialog(Workbench& bench, std::optional<design::PieceId> piece, QWidget* parent)
    : QDialog(parent), m_bench(bench) {
    setWindowTitle(tr("What is printed on it"));
    m_view = new FaceView;
    m_note = sentenceLabel({}, "soft");
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(20);
    halves->addWidget(m_view, 1);
    halves->addWidget(buildSide());
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(halves, 1);
    lines->addLayout(last);
    resize(1040, 700);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_view, &FaceView::shifted, this, &FaceDialog::shift);
    fillPieces(piece);
    connect(&m_bench, &Workbench::changed, this, &FaceDialog::refresh);
    connect(&m_bench, &Workbench::failed, this, [this](const QString& sentence) { say(sentence, true); });
    connect(&m_bench, &Workbench::noted, this, [this](const QString& sentence) { say(sentence); });
    refresh();
}

QWidget* FaceDialog::buildSide() {
    auto* out = new QWidget;
    out->setFixedWidth(330);
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    m_piece = new QComboBox;
    m_piece->setAccessibleName(tr("Piece"));
    m_side = new WordChoice({tr("front"), tr("back")});
    m_side->choose(0);
    lines->addWidget(labelled(tr("Piece"), m_piece, 250));
    lines->addWidget(labelled(tr("Side"), m_side, 250));
    m_panel = new QComboBox;
    m_panel->setAccessibleName(tr("On which panel"));
    m_panelRow = labelled(tr("Printed on"), m_panel, 250);
    m_panelRow->setToolTip(tr("What is printed next; on a panel it is read upright once folded"));
    lines->addWidget(m_panelRow);
    lines->addWidget(buildPrints(), 1);
    lines->addWidget(buildNew());
    connect(m_piece, &QComboBox::activated, this, [this] { refresh(); });
    connect(m_side, &WordChoice::chosen, this, [this] { refresh(); });
    return out;
}

QWidget* FaceDialog::buildPrints() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    m_prints = new QListWidget;
    m_prints->setAccessibleName(tr("Prints, the uppermost first"));
    m_prints->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_prints->setTextElideMode(Qt::ElideRight);
    m_width = new LengthField(tr("Width"));
    m_turn = new QDoubleSpinBox;
    m_turn->setAccessibleName(tr("Turned"));
    m_turn->setRange(-360, 360);
    m_turn->setDecimals(1);
    m_turn->setSuffix(tr(" °"));
    m_turn->setKeyboardTracking(false);
    m_colour = new QPushButton(tr("Its colour…"));
    m_into = new QPushButton(tr("Runs into…"));
    m_up = new QPushButton(tr("Over the next"));
    m_down = new QPushButton(tr("Under the one before"));
    m_off = new QPushButton(tr("Take off"));
    auto* row = new QHBoxLayout;
    row->addWidget(m_up);
    row->addWidget(m_down);
    auto* second = new QHBoxLayout;
    second->addWidget(m_colour);
    second->addWidget(m_into);
    m_names = linkButton(tr("Names from a list…"),
                         tr("A job for each name of a list, printed in the place of this"));
    second->addWidget(m_names);
    second->addStretch(1);
    second->addWidget(m_off);
    lines->addWidget(headingLabel(tr("Printed on it, the uppermost first")));
    lines->addWidget(m_prints, 1);
    lines->addWidget(labelled(tr("Width"), m_width));
    lines->addWidget(labelled(tr("Turned, clockwise"), m_turn));
    m_facts = sentenceLabel({}, "help");
    lines->addWidget(m_facts);
    lines->addLayout(row);
    lines->addLayout(second);
    connect(m_prints, &QListWidget::currentRowChanged, this, [this] { showChosen(); });
    connect(m_width, &LengthField::entered, this, [this](double mm) {
        if (const job::Print* one = chosen())
            shift({{}, mm / std::max(0.001, print::widthOf(asMoved(*one).place))}, true);
    });
    connect(m_width, &LengthField::refused, this, [this](const QString& sentence) { say(sentence, true); });
    connect(m_turn, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        const double sign = side() == Side::Back ? -1 : 1;
        if (const job::Print* one = chosen())
            shift({{}, 1, sign * (degrees * std::numbers::pi / 180) - print::turnOf(asMoved(*one).place)},
                  true);
    });
    connect(m_colour, &QPushButton::clicked, this,
            [this] { recolour(&design::Face::colour, tr("Its colour")); });
    connect(m_into, &QPushButton::clicked, this,
            [this] { recolour(&design::Face::second, tr("The colour it runs into")); });
    connect(m_names, &QPushButton::clicked, this, [this] {
        if (const job::Print* one = chosen())
            askForNames(m_bench, {{}, one->step}, this);
    });
    connect(m_up, &QPushButton::clicked, this, [this] { raise(true); });
    connect(m_down, &QPushButton::clicked, this, [this] { raise(false); });
    connect(m_off, &QPushButton::clicked, this, [this] {
        if (const job::Print* one = chosen())
            m_bench.run(tr("Take a print off"),
                        [step = one->step](const job::State& now, const base::Progress&) {
                            return job::withoutPrint(now, step);
                        });
    });
    return out;
}

QWidget* FaceDialog::buildNew() {
    auto* out = new QWidget;
    auto* lines = new QVBoxLayout(out);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    auto* picture = new QPushButton(tr("A picture…"));
    auto* colour = new QPushButton(tr("A colour"));
    auto* colours = new QMenu(colour);
    colours->addAction(tr("One all over…"), this, [this] { addColour(false); });
    colours->addAction(tr("One running into another…"), this, [this] { addColour(true); });
    colour->setMenu(colours);
    auto* outline = new QPushButton(tr("An outline"));
    m_outlines = new QMenu(outline);
    outline->setMenu(m_outlines);
    connect(m_outlines, &QMenu::aboutToShow, this, &FaceDialog::fillOutlines);
    m_words = new QPlainTextEdit;
    m_words->setAccessibleName(tr("Words, or what a code tells"));
    m_words->setPlaceholderText(tr("Words, or what a code is to tell"));
    m_words->setTabChangesFocus(true);
    m_words->setFixedHeight(52);
    m_font = new FontChoice(m_bench.fonts());
    m_font->show(lettering::kPlainFont);
    auto* write = new QPushButton(tr("Print the words"));
    auto* code = new QPushButton(tr("Print as a code"));
    auto* codes = new QMenu(code);
    codes->addAction(tr("Square code"), this, [this] { addCode(design::Face::Kind::SquareCode); });
    codes->addAction(tr("Line code"), this, [this] { addCode(design::Face::Kind::LineCode); });
    code->setMenu(codes);
    auto* first = new QHBoxLayout;
    first->addWidget(picture);
    first->addWidget(colour);
    first->addWidget(outline);
    auto* second = new QHBoxLayout;
    second->addWidget(write);
    second->addWidget(code);
    lines->addWidget(headingLabel(tr("Print more")));
    lines->addLayout(first);
    lines->addWidget(m_words);
    lines->addWidget(m_font);
    lines->addLayout(second);
    connect(picture, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(
            this, tr("A picture to print"), QDir::homePath(),
            tr("Pictures (*.png *.jpg *.jpeg *.webp *.tif *.tiff *.heic *.bmp)"));
        if (!path.isEmpty())
            addPicture(path);
    });
    connect(write, &QPushButton::clicked, this, &FaceDialog::addText);
    return out;
}

void FaceDialog::fillPieces(std::optional<design::PieceId> piece) {
    const design::Stack* work = m_bench.work();
    if (!work)
        return;
    int chosen = -1;
    for (const design::Laid& laid : work->pieces) {
        m_piece->addItem(text(design::pieceName(*work, laid)), text(laid.id().text()));
        const bool isMeant = piece ? laid.id() == *piece : !laid.piece.body->faces.empty();
        if (isMeant && chosen < 0)
            chosen = m_piece->count() - 1;
    }
    m_piece->setCurrentIndex(std::max(0, chosen));
}

std::optional<job::PieceId> FaceDialog::piece() const {
    const std::string id = m_piece->currentData().toString().toStdString();
    if (m_bench.made().pieces)
        for (const design::Piece& one : m_bench.made().pieces->now)
            if (one.id.text() == id)
                return one.id;
    return std::nullopt;
}

Side FaceDialog::side() const {
    return m_side->chosenIndex() == 1 ? Side::Back : Side::Front;
}

job::PrintOn FaceDialog::on() const {
    job::PrintOn out;
    if (const auto id = piece())
        out.pieces = {*id};
    out.side = side();
    if (const QVariant at = m_panel->currentData(); at.isValid())
        out.panel = geometry::Point{at.toPointF().x(), at.toPointF().y()};
    return out;
}

/// The panels of the piece, found out behind the interface once for each body.
void FaceDialog::fillPanels() {
    const auto id = piece();
    const design::Piece* there = id ? design::findPiece(m_bench.made().pieces->now, *id) : nullptr;
    const bool hasFolds = there && std::any_of(there->body->lines.begin(), there->body->lines.end(),
                                               [](const design::PieceLine& line) {
                                                   return std::holds_alternative<design::Fold>(line.does);
                                               });
    m_panelRow->setVisible(hasFolds);
    const std::pair key(m_piece->currentIndex(), m_bench.serial());
    if (hasFolds && m_panelsOf == key)
        return;
    m_panelsOf = key;
    const QString before = m_panel->currentText();
    m_panel->clear();
    m_panel->addItem(tr("the whole piece"));
    if (!hasFolds)
        return;
    m_panels.start(tr("Finding panels"),
                   [this, before, body = there->body](const base::Progress& progress) -> Task::Conclusion {
                       auto panels = folds::panelsOf(*body, progress);
                       if (!panels)
                           return {};
                       return [this, before, found = panels.take()] {
                           for (const folds::Panel& panel : found)
                               m_panel->addItem(text(panel.name), QPointF(panel.middle.x, panel.middle.y));
                           m_panel->setCurrentIndex(std::max(0, m_panel->findText(before)));
                       };
                   });
}

const job::Print* FaceDialog::chosen() const {
    const int row = m_prints->currentRow();
    return row >= 0 && row < static_cast<int>(m_shown.size())
               ? &m_shown[m_shown.size() - 1 - static_cast<size_t>(row)]
               : nullptr;
}

void FaceDialog::refresh() {
    const auto id = piece();
    job::PrintOn whole = on();
    whole.panel.reset();
    const auto field = id ? job::fieldOf(m_bench.state(), whole) : base::Result<geometry::Box>(base::Error{});
    setEnabled(id.has_value() && field.isOk());
    if (!id || !field)
        return;
    constexpr double kAroundMm = 4; // so that the bleed is seen
    m_field = field->grownBy(kAroundMm);
    fillPanels();
    const int before = m_prints->currentRow();
    const design::StepId step = chosen() ? chosen()->step : design::StepId{};
    const size_t count = m_shown.size();
    m_shown = job::printsOn(m_bench.state(), *id, side());
    m_moved.reset();
    const QSignalBlocker blocker(m_prints);
    m_prints->clear();
    int row = -1;
    for (size_t i = m_shown.size(); i-- > 0;) {
        m_prints->addItem(capitalised(text(m_shown[i].text)).replace('\n', ' '));
        if (m_shown[i].step == step && step != design::StepId{})
            row = m_prints->count() - 1;
    }
    if (m_shown.size() > count)
        row = 0; // what was just printed
    m_prints->setCurrentRow(row >= 0 ? row : std::min(std::max(before, 0), m_prints->count() - 1));
    const design::Piece& there = *design::findPiece(m_bench.made().pieces->now, *id);
    m_view->setField(m_field, side() == Side::Back, geometry::flatten(there.shape(), 0.05));
    showChosen();
    paintAnew();
}

void FaceDialog::showChosen() {
    const job::Print* one = chosen();
    for (QWidget* widget :
         {static_cast<QWidget*>(m_width), static_cast<QWidget*>(m_turn), static_cast<QWidget*>(m_colour),
          static_cast<QWidget*>(m_up), static_cast<QWidget*>(m_down), static_cast<QWidget*>(m_off)})
        widget->setEnabled(one != nullptr);
    const bool hasPlace =
        one && one->face.kind != design::Face::Kind::Colour && one->face.kind != design::Face::Kind::Outline;
    m_view->setFrame(hasPlace ? std::optional(one->face.place) : std::nullopt);
    m_facts->clear();
    m_into->setVisible(one && one->face.kind == design::Face::Kind::Gradient);
    m_names->setVisible(one && design::isRead(one->face.kind) && one->step != design::StepId{});
    if (!one)
        return;
    if (const auto dpi = print::dpiOf(one->face, m_art.gallery))
        m_facts->setText(
            *dpi < print::kLeastDpi
                ? tr("%1 dots to the inch at this size: it will look coarse.").arg(*dpi, 0, 'f', 0)
            : *dpi < print::kGoodDpi
                ? tr("%1 dots to the inch at this size; 250 look sharp.").arg(*dpi, 0, 'f', 0)
                : tr("%1 dots to the inch at this size, sharp.").arg(*dpi, 0, 'f', 0));
    m_width->setEnabled(hasPlace);
    m_turn->setEnabled(hasPlace);
    m_colour->setEnabled(one->face.kind != design::Face::Kind::Picture);
    m_up->setEnabled(m_prints->currentRow() > 0);
    m_down->setEnabled(m_prints->currentRow() + 1 < m_prints->count());
    m_width->showLength(print::widthOf(one->face.place), m_bench.job().unit);
    const QSignalBlocker blocker(m_turn);
    // From behind, clockwise is the other way round.
    const geometry::Transform seen =
        side() == Side::Back ? one->face.place.then({-1, 0, 0, 1, 0, 0}) : one->face.place;
    m_turn->setValue(print::turnOf(seen) * 180 / std::numbers::pi);
}

/// A print as it was moved last, made or not; another one may have been chosen since.
design::Face FaceDialog::asMoved(const job::Print& print) const {
    const bool isIt = m_moved && m_moved->step == print.face.step && m_moved->side == print.face.side;
    return isIt ? *m_moved : print.face;
}

void FaceDialog::shift(const print::Shift& shift, bool isDone) {
    const job::Print* one = chosen();
    if (!one)
        return;
    design::Face face = asMoved(*one);
    face.place = print::shifted(face.place, shift);
    m_view->setFrame(face.place);
    m_moved = face;
    m_isHeld = !isDone;
    paintAnew();
    if (isDone)
        change(face);
}

void FaceDialog::recolour(raster::Rgb design::Face::*which, const QString& title) {
    const job::Print* one = chosen();
    if (!one)
        return;
    design::Face face = asMoved(*one);
    const QColor colour = QColorDialog::getColor(colourOf(face.*which), this, title);
    if (!colour.isValid())
        return;
    face.*which = rgbOf(colour);
    change(face);
}

void FaceDialog::change(const design::Face& face) {
    const auto id = piece();
    if (!id)
        return;
    auto job = job::withPrintChanged(m_bench.state(), *id, face);
    if (!job)
        return say(text(job.error().message), true);
    m_bench.act(tr("Change a print"), job.take());
    m_moved = face; // until what follows is made
}

void FaceDialog::paintAnew() {
    if (m_painter.isRunning()) {
        m_isPaintWanted = true;
        return;
    }
    const auto id = piece();
    const design::Stack* work = m_bench.work();
    const design::Piece* there = id ? design::findPiece(m_bench.made().pieces->now, *id) : nullptr;
    if (!there || !work)
        return;
    auto body = std::make_shared<design::Body>(*there->body);
    if (m_moved)
        for (design::Face& face : body->faces)
            if (face.step == m_moved->step && face.side == m_moved->side)
                face = *m_moved;
    const design::Stock* stock = job::stockOf(m_bench.state(), *id);
    const raster::Rgb paper = stock ? stock->colour : raster::Rgb{255, 255, 255};
    const double bleed = stock ? design::bleedOf(*stock) : 0;
    // While a hand moves it, every other pixel follows more quickly than the eye; then it is sharp again.
    const QSize size = m_view->printSize() / (m_isHeld ? 2 : 1);
    m_painter.start(
        tr("Painting"),
        [this, body, paper, bleed, size, field = m_field, side = side(), job = m_bench.job(), before = m_art,
         preview = m_preview](const base::Progress& progress) -> Task::Conclusion {
            auto art = job::decodedArt(job, body->faces, before);
            const bool isSame = art && preview && art->of == before.of;
            const auto coarse =
                isSame ? preview
                       : std::make_shared<const print::Gallery>(art ? print::coarser(art->gallery, kPreviewPx)
                                                                    : print::Gallery{});
            raster::Canvas canvas(size.width(), size.height(), {255, 255, 255});
            const double pxPerMm = size.width() / field.width();
            geometry::Transform toPage = geometry::Transform::move(field.least * -1);
            if (side == Side::Back)
                toPage = toPage.then({-1, 0, 0, 1, field.width(), 0});
            auto painted =
                art ? print::paint(canvas, *body, {toPage, side, bleed, pxPerMm}, *coarse, progress)
                    : base::Result<print::Painted>(art.error());
            std::string problem = painted ? "" : painted.error().message;
            QImage image = imageOf(job::onPaper(canvas.picture(), paper));
            return [this, image, problem, coarse, art = art ? art.take() : job::Decoded{}]() mutable {
                m_preview = coarse;
                const bool isNew = m_art.of.size() != art.of.size();
                m_art = std::move(art);
                if (isNew)
                    showChosen(); // now its pixels are known
                m_view->setPrint(image);
                if (!problem.empty())
                    say(text(problem), true);
                if (std::exchange(m_isPaintWanted, false))
                    paintAnew();
            };
        });
}

void FaceDialog::addPicture(const QString& path) {
    const auto bytes = m_bench.files().read(path.toStdString(), base::kMostFileBytes);
    if (!bytes)
        return say(text(bytes.error().message), true);
    m_bench.run(tr("Print a picture"), [on = on(), bytes = std::make_shared<const base::Bytes>(*bytes),
                                        name = QFileInfo(path).fileName().toStdString()](
                                           const job::State& now, const base::Progress&) {
        return job::withPicturePrinted(now, on, {*bytes, name, {}});
    });
}

void FaceDialog::addText() {
    const std::string words = m_words->toPlainText().trimmed().toStdString();
    if (words.empty())
        return say(tr("Type the words first."), true);
    m_bench.run(tr("Print words"), [on = on(), words, name = m_font->chosen(lettering::kPlainFont),
                                    fonts = &m_bench.fonts()](const job::State& now, const base::Progress&) {
        return job::withTextPrinted(now, on, words, name, {20, 24, 30}, *fonts);
    });
}

void FaceDialog::addCode(design::Face::Kind kind) {
    const std::string words = m_words->toPlainText().trimmed().toStdString();
    m_bench.run(tr("Print a code"), [on = on(), words, kind](const job::State& now, const base::Progress&) {
        return job::withCodePrinted(now, on, kind, words);
    });
}

void FaceDialog::addColour(bool isRunning) {
    const QColor colour = QColorDialog::getColor(QColor(43, 92, 138), this, tr("A colour to print"));
    const QColor second = isRunning && colour.isValid()
                              ? QColorDialog::getColor(QColor(242, 207, 143), this, tr("What it runs into"))
                              : QColor();
    if (!colour.isValid() || (isRunning && !second.isValid()))
        return;
    m_bench.run(tr("Print a colour"), [on = on(), rgb = rgbOf(colour),
                                       into = isRunning ? std::optional(rgbOf(second)) : std::nullopt](
                                          const job::State& now, const base::Progress&) {
        return job::withColourPrinted(now, on, rgb, into);
    });
}

/// Every other piece's outline can be printed.
void FaceDialog::fillOutlines() {
    constexpr int kMost = 40; // nobody looks through a longer menu
    m_outlines->clear();
    const auto own = piece();
    const design::Stack* work = m_bench.work();
    for (size_t i = 0; work && i < work->pieces.size() && m_outlines->actions().size() < kMost; ++i) {
        const design::PieceId id = work->pieces[i].id();
        if (own && id != *own)
            m_outlines->addAction(text(design::pieceName(*work, work->pieces[i])), this, [this, id] {
                m_bench.run(tr("Print an outline"),
                            [on = on(), id](const job::State& now, const base::Progress&) {
                                return job::withOutlinePrinted(now, on, id, {38, 49, 60});
                            });
            });
    }
    if (m_outlines->isEmpty())
        m_outlines->addAction(tr("There is no other piece"))->setEnabled(false);
}

void FaceDialog::raise(bool isUp) {
    const job::Print* one = chosen();
    const auto id = piece();
    if (!one || !id)
        return;
    auto job = job::withPrintRaised(m_bench.state(), *id, one->step, isUp);
    if (!job)
        return say(text(job.error().message), true);
    m_bench.act(isUp ? tr("Lay a print over the next") : tr("Lay a print under the one before"), job.take());
}

void FaceDialog::say(const QString& sentence, bool isProblem) {
    sayIn(m_note, sentence, isProblem);
}

} // namespace thinline::app
