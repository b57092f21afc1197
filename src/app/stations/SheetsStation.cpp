// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SheetsStation.h"

#include "app/stations/CardDialog.h"
#include "app/stations/PrintDialog.h"
#include "base/Length.h"
#include "design/Cluster.h"
#include "job/HandSteps.h"
#include "job/LayerSteps.h"
#include "job/SheetSteps.h"
#include "job/SourceSteps.h"
#include "job/StockSteps.h"
#include "sheets/ArrangeClose.h"
#include "sheets/Zones.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <numbers>
#include <unordered_set>

namespace thinline::app {

SheetsStation::SheetsStation(Workbench& bench, base::FileStore& store, QWidget* parent)
    : StationPanel(Station::Sheets, bench,
                   {tr("Which sheet lies where?"), tr("Drag to pin, wheel to turn, twice to let go."),
                    tr("Take this arrangement")},
                   parent),
      m_store(store),
      m_tool({[this](const Pointer& pointer) {
                  if (!pointer.on())
                      return;
                  m_copy = pointer.on()->copy;
                  toggle(pointer.on()->piece, pointer.withShift);
              },
              [this](const std::vector<size_t>& items, const Laying& laying) { laid(items, laying); },
              [this](const SceneItem& item) {
                  if (item.isPinned())
                      this->bench().act(tr("Let a pinned piece go"),
                                        job::unpinned(this->bench().state(), {item.piece, item.copy}));
              },
              [this](const Scene& scene, const SceneItem& dragged) { return along(scene, dragged); },
              [this](const SceneItem& item) { return spacingBeside(item); }, [this] { return usable(); }}),
      m_box([this](const geometry::Box& box) { keptFree(box); }) {
    buildPlan();
    std::tie(m_choiceText, m_none) = addChoice();
    buildCopies();
    m_clusters = new ClusterPanel(this->bench());
    controls()->addWidget(m_clusters);
    connect(m_clusters, &ClusterPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_none, &QPushButton::clicked, this, [this] {
        m_chosen.clear();
        emit choiceChanged();
        refresh();
    });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void SheetsStation::buildPlan() {
    m_mat = new QComboBox;
    m_sheet = new QComboBox;
    for (const design::MatFormat& mat : bench().catalogue().formats.mats)
        m_mat->addItem(text(mat.name), text(mat.id));
    for (const design::SheetFormat& sheet : bench().catalogue().formats.sheets)
        m_sheet->addItem(text(sheet.name), text(sheet.id));
    m_sheet->addItem(tr("own size"), "own");
    m_mat->setAccessibleName(tr("Mat"));
    m_sheet->setAccessibleName(tr("Sheets in the drawer"));
    addRow(tr("Mat"), m_mat, 132);
    addRow(tr("Sheets in the drawer"), m_sheet, 132);
    m_ownWidth = new LengthField(tr("Sheet width"));
    m_ownHeight = new LengthField(tr("Sheet height"));
    m_ownWidthRow = addRow(tr("Sheet width"), m_ownWidth);
    m_ownHeightRow = addRow(tr("Sheet height"), m_ownHeight);
    m_spacing = addLength(tr("Between pieces"));
    m_spacing->allowZero();
    m_turn = new QCheckBox(tr("Turn pieces where it helps"));
    controls()->addWidget(m_turn);
    buildChoices();
    m_scraps = addNote();
    m_look = new QPushButton(tr("Look for a closer layout"));
    m_look->setObjectName("link");
    m_look->setToolTip(tr("Pieces are turned and laid into one another's bays; what is pinned stays"));
    // What could be done about all pieces gives way to what is said of those that are chosen.
    m_offers = new QWidget;
    auto* offers = new QVBoxLayout(m_offers);
    offers->setContentsMargins(0, 0, 0, 0);
    controls()->addWidget(m_offers);
    offers->addWidget(m_look, 0, Qt::AlignLeft);
    connect(m_look, &QPushButton::clicked, this, [this] {
        if (bench().isLookingCloser())
            return bench().stopLooking();
        bench().lookCloser();
        showLooking();
    });
    connect(&bench(), &Workbench::lookedCloser, this, [this] {
        showLooking();
        emit choiceChanged();
    });
    m_why = new WhyPanel(bench());
    offers->addWidget(m_why);
    m_keep = linkButton({}, tr("Keep what is left whole"));
    m_keep->setToolTip(tr("One more sheet of this size among those there are of the stock"));
    offers->addWidget(m_keep, 0, Qt::AlignLeft);
    connect(m_keep, &QPushButton::clicked, this, [this] {
        const auto offcuts = sheets::offcutsOf(*bench().made().sheets, *bench().work());
        if (offcuts.empty())
            return;
        auto job = job::withOffcut(bench().job(), offcuts.front());
        tell(m_note, job ? QString() : text(job.error().message));
        if (job)
            bench().act(tr("Keep an offcut"), job.take());
    });
    m_note = addNote();
    m_note->setObjectName("warning");
    m_unpin = new QPushButton(tr("Let the pinned pieces go"));
    controls()->addWidget(m_unpin);
    connect(m_mat, &QComboBox::activated, this, [this] {
        changePlan(tr("Choose a mat"), [this](job::SheetPlan& plan) {
            plan.matId = m_mat->currentData().toString().toStdString();
        });
    });
    connect(m_sheet, &QComboBox::activated, this, [this] {
        changePlan(tr("Choose a sheet"), [this](job::SheetPlan& plan) {
            plan.sheetId = m_sheet->currentData().toString().toStdString();
        });
    });
    connect(m_ownWidth, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the sheet's size"), [mm](job::SheetPlan& plan) { plan.ownSheet.widthMm = mm; });
    });
    connect(m_ownHeight, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the sheet's size"), [mm](job::SheetPlan& plan) { plan.ownSheet.heightMm = mm; });
    });
    connect(m_spacing, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the spacing"), [mm](job::SheetPlan& plan) { plan.spacingMm = mm; });
    });
    connect(m_turn, &QCheckBox::clicked, this, [this](bool isOn) {
        changePlan(tr("Turn pieces"), [isOn](job::SheetPlan& plan) { plan.mayTurn = isOn; });
    });
    connect(m_unpin, &QPushButton::clicked, this, [this] {
        changePlan(tr("Let pinned pieces go"), [](job::SheetPlan& plan) { plan.pins.clear(); });
    });
    for (LengthField* field : {m_ownWidth, m_ownHeight, m_spacing})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
}

void SheetsStation::buildChoices() {
    m_openings = new QCheckBox(tr("Small pieces in the openings of large ones"));
    controls()->addWidget(m_openings);
    m_mix = new QCheckBox(tr("Several stocks on one mat, on scraps"));
    m_mix->setToolTip(tr("Stocks of one kind and thickness, where one setting cuts them all"));
    controls()->addWidget(m_mix);
    m_cards =
        linkButton(tr("Scraps, other sheets, worn spots"), tr("What card there is, and what stays free"));
    controls()->addWidget(m_cards, 0, Qt::AlignLeft);
    auto* pages =
        linkButton(tr("Pages for the printer…"),
                   tr("What is printed with marks round it, and what comes of printing and cutting it"));
    controls()->addWidget(pages, 0, Qt::AlignLeft);
    connect(pages, &QPushButton::clicked, this, &SheetsStation::showPages);
    offer(tr("Print pages"), {}, [this] { showPages(); });
    connect(m_openings, &QCheckBox::clicked, this, [this](bool isOn) {
        changePlan(tr("Lay pieces in openings"), [isOn](job::SheetPlan& plan) { plan.intoOpenings = isOn; });
    });
    connect(m_mix, &QCheckBox::clicked, this, [this](bool isOn) {
        changePlan(tr("Several stocks on one mat"), [isOn](job::SheetPlan& plan) { plan.isMixed = isOn; });
    });
    connect(m_cards, &QPushButton::clicked, this, &SheetsStation::showCards);
}

void SheetsStation::showCards() {
    auto* dialog = new CardDialog(bench(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &CardDialog::wantsKeepOut, this, &SheetsStation::drawKeepOut);
    connect(dialog, &CardDialog::wantsPhoto, this, &SheetsStation::showPhoto);
    dialog->open();
}

void SheetsStation::showPages() {
    if (!bench().hasPieces())
        return;
    auto* dialog = new PrintDialog(bench(), m_store, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void SheetsStation::showPhoto(const QString& path) {
    m_photo = new PhotoDialog(bench(), path, this);
    m_photo->setAttribute(Qt::WA_DeleteOnClose);
    m_photo->QDialog::open();
}

bool SheetsStation::isSettled() const {
    return m_clusters->isSettled() && m_why->isSettled() && !bench().isLookingCloser() &&
           (!m_photo || m_photo->isSettled());
}

/// The next box that is drawn on a mat stays free of cuts; a click lets it be.
void SheetsStation::drawKeepOut() {
    m_isDrawing = true;
    tell(m_note, tr("Drag a box over the worn spot, on any mat."));
    emit benchChanged();
}

void SheetsStation::keptFree(const geometry::Box& box) {
    const auto arrangement = bench().made().sheets;
    const auto load = arrangement ? loadAt(*arrangement, box.centre()) : std::nullopt;
    m_isDrawing = false;
    emit benchChanged();
    if (!load)
        return tell(m_note, tr("That was beside all mats; nothing was kept free."));
    const geometry::Point corner = loadCorner(*arrangement, *load);
    auto job =
        job::withKeepOut(bench().job(), {box.least - corner, box.most - corner}, bench().catalogue().formats);
    tell(m_note, job ? QString() : text(job.error().message));
    if (job)
        bench().act(tr("Keep a worn spot free"), job.take());
}

void SheetsStation::buildCopies() {
    m_copiesOf = addNote();
    m_copies = new QSpinBox;
    m_copies->setRange(1, 999);
    m_copies->setAlignment(Qt::AlignRight);
    m_copies->setAccessibleName(tr("Copies of the chosen piece"));
    m_copiesRow = addRow(tr("How many"), m_copies, 72);
    m_hand = new HandPanel(bench());
    controls()->addWidget(m_hand);
    connect(m_hand, &HandPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_copies, &QSpinBox::valueChanged, this, &SheetsStation::setCopies);
}

/// Of the piece or the cluster that is chosen alone.
void SheetsStation::setCopies(int copies) {
    const auto cluster = m_clusters->cluster();
    auto job = cluster ? job::withClusterCopies(bench().job(), *cluster, copies)
                       : job::withCopies(bench().state(), m_chosen.front(), copies);
    if (job)
        bench().act(tr("Set the copies"), job.take());
    else
        tell(m_note, text(job.error().message));
}

void SheetsStation::changePlan(const QString& name, const std::function<void(job::SheetPlan&)>& change) {
    tell(m_note, {});
    job::SheetPlan plan = bench().job().plan;
    change(plan);
    bench().act(name, job::withPlan(bench().job(), plan));
}

void SheetsStation::setActive(bool isActive) {
    m_isActive = isActive;
    bench().wantSheets(isActive);
    if (!isActive) {
        bench().stopLooking();
        m_why->stop();
        m_isDrawing = false;
    }
}

/// A closer layout is looked for once for every work; again at a click.
void SheetsStation::showLooking() {
    const auto sheets = bench().made().sheets;
    const bool canLook = sheets && !bench().isBehind() && !sheets->loads.empty();
    if (canLook && m_isActive && bench().lookFor().isByItself && !bench().isLookingCloser() &&
        !bench().hasLookedCloser())
        bench().lookCloser();
    const bool isLooking = bench().isLookingCloser();
    if (canLook && m_isActive && !isLooking)
        m_why->ask();
    m_look->setVisible(canLook);
    m_look->setText(isLooking ? tr("Looking for a closer layout. Stop") : tr("Look for a closer layout"));
}

void SheetsStation::showScraps() {
    const auto sheets = bench().made().sheets;
    QStringList lines;
    for (size_t l = 0; sheets && l < sheets->loads.size(); ++l) {
        QStringList scraps;
        for (const design::PlacedSheet& sheet : sheets->loads[l].sheets)
            if (sheet.isScrap)
                scraps << text(
                    sheets::scrapText(sheet, sheets->loads[l].mat, bench().job().stocks, bench().job().unit));
        if (!scraps.isEmpty())
            lines << tr("Scraps for load %1: ").arg(l + 1) + scraps.join(QStringLiteral("\n"));
    }
    tell(m_scraps, lines.join(QStringLiteral("\n")));
}

/// A cluster is chosen as a whole.
void SheetsStation::toggle(design::PieceId piece, bool withGroup) {
    const design::Cluster* cluster = bench().work() ? design::clusterOf(*bench().work(), piece) : nullptr;
    toggleAll(m_chosen, cluster     ? cluster->pieces
                        : withGroup ? job::groupOf(bench().state(), piece)
                                    : std::vector{piece});
    emit choiceChanged();
    refresh();
}

/// The rest of a cluster's copy goes along, and what else is chosen.
std::vector<size_t> SheetsStation::along(const Scene& scene, const SceneItem& dragged) const {
    std::vector<size_t> out;
    const design::Stack* work = bench().work();
    if (!work)
        return out;
    const design::ClusterIndex clusters = design::clusterIndex(*work);
    const auto own = clusters.find(dragged.piece);
    const auto isChosen = [this](design::PieceId id) {
        return std::find(m_chosen.begin(), m_chosen.end(), id) != m_chosen.end();
    };
    const bool areChosen = m_chosen.size() > 1 && isChosen(dragged.piece);
    for (size_t i = 0; i < scene.items().size(); ++i) {
        const SceneItem& item = scene.items()[i];
        const auto at = clusters.find(item.piece);
        const bool isInCluster = own != clusters.end() && at != clusters.end() && at->second == own->second;
        if (item.copy == dragged.copy && item.piece != dragged.piece &&
            (isInCluster || (areChosen && isChosen(item.piece))))
            out.push_back(i);
    }
    return out;
}

/// What of the mats may be cut, on the bench.
std::vector<geometry::Box> SheetsStation::usable() const {
    std::vector<geometry::Box> out;
    const auto arrangement = bench().made().sheets;
    for (size_t l = 0; arrangement && l < arrangement->loads.size(); ++l) {
        const design::Load& load = arrangement->loads[l];
        const geometry::Point corner = loadCorner(*arrangement, l);
        for (const design::PlacedSheet& sheet : load.sheets) {
            const geometry::Point at{sheet.xMm, sheet.yMm};
            const geometry::Box box =
                sheets::usableArea(load.mat, {{}, {}, sheet.widthMm, sheet.heightMm, sheet.marginMm},
                                   {at, at + geometry::Point{sheet.widthMm, sheet.heightMm}});
            out.push_back({box.least + corner, box.most + corner});
        }
    }
    return out;
}

double SheetsStation::spacingBeside(const SceneItem& item) const {
    const design::Stack* work = bench().made().work();
    const design::Laid* laid = work ? work->find(item.piece) : nullptr;
    return laid ? job::spacingFor(bench().job(), work->layerOf(*laid).stockId) : bench().job().plan.spacingMm;
}

// ---- the bench -----------------------------------------------------------------------------------------------

ScenePtr SheetsStation::scene() {
    return kept({bench().made().finished, bench().made().sheets}, [&] { return sheetsOf(bench()); });
}

QString SheetsStation::emptyText() const {
    return !bench().hasPieces()                   ? StationPanel::emptyText()
           : bench().made().sheetsProblem.empty() ? tr("The pieces are being laid on sheets.")
                                                  : text(bench().made().sheetsProblem);
}

QString SheetsStation::hoverLine(const SceneItem& item) const {
    return item.isPinned() ? tr("pinned; a double click lets it go") : tr("drag to pin it");
}

std::vector<design::PieceId> SheetsStation::chosen() const {
    return m_chosen;
}

bool SheetsStation::mends(inspect::Kind kind) const {
    return (bench().made().sheets && kind == inspect::Kind::OverlapsOnSheet) || kind == inspect::Kind::NotPrinted;
}

geometry::Box SheetsStation::placeOf(const inspect::Case& one) const {
    const ScenePtr scene = sheetsOf(bench());
    for (size_t i = 0; scene && i < scene->items().size(); ++i)
        if (scene->items()[i].piece == one.piece)
            return scene->boxOf(i);
    return {};
}

/// A piece dropped beside all mats stays on its own.
void SheetsStation::laid(const std::vector<size_t>& items, const Laying& laying) {
    const auto arrangement = bench().made().sheets;
    const ScenePtr shown = scene();
    std::vector<job::HandLaid> all;
    for (const size_t i : items) {
        if (!shown || i >= shown->items().size() || shown->items()[i].load < 0 || !shown->items()[i].placed)
            continue;
        const SceneItem& item = shown->items()[i];
        const auto from = static_cast<size_t>(item.load);
        const geometry::Point corner = loadCorner(*arrangement, from);
        design::Pose pose = item.placed->pose;
        const geometry::Point at = laying(pose.at + corner);
        const size_t to = loadAt(*arrangement, at).value_or(from);
        pose.at = at - loadCorner(*arrangement, to);
        pose.turnRad = std::remainder(pose.turnRad + laying.turnRad, 2 * std::numbers::pi);
        all.push_back({{item.piece, item.copy}, pose, to});
    }
    if (all.empty())
        return;
    auto job = job::pinnedAll(bench().state(), all);
    tell(m_note, job ? QString() : text(job.error().message));
    if (job)
        bench().act(all.size() == 1 ? tr("Pin a piece") : tr("Pin pieces"), job.take());
}

// ---- showing -------------------------------------------------------------------------------------------------

void SheetsStation::refresh() {
    const job::SheetPlan& plan = bench().job().plan;
    const base::LengthUnit unit = bench().job().unit;
    const QSignalBlocker a(m_mat), b(m_sheet), c(m_turn), d(m_copies);
    m_mat->setCurrentIndex(m_mat->findData(text(plan.matId)));
    m_sheet->setCurrentIndex(m_sheet->findData(text(plan.sheetId)));
    m_ownWidthRow->setVisible(plan.sheetId == "own");
    m_ownHeightRow->setVisible(plan.sheetId == "own");
    m_ownWidth->showLength(plan.ownSheet.widthMm, unit);
    m_ownHeight->showLength(plan.ownSheet.heightMm, unit);
    m_spacing->showLength(plan.spacingMm, unit);
    m_turn->setChecked(plan.mayTurn);
    m_mix->setChecked(plan.isMixed);
    m_openings->setChecked(plan.intoOpenings);
    m_unpin->setVisible(!plan.pins.empty());
    m_unpin->setText(plan.pins.size() == 1 ? tr("Let the pinned piece go")
                                           : tr("Let the %1 pinned pieces go").arg(plan.pins.size()));
    showChosen();
    mainButton()->setEnabled(bench().made().sheets != nullptr);
    showLooking();
    showScraps();
    showAnswer();
}

void SheetsStation::showChosen() {
    const design::Stack* work = bench().work();
    std::unordered_set<design::PieceId> there;
    for (size_t i = 0; work && !m_chosen.empty() && i < work->pieces.size(); ++i)
        there.insert(work->pieces[i].id());
    std::erase_if(m_chosen, [&](design::PieceId id) { return !there.contains(id); });
    m_clusters->setVisible(work != nullptr);
    m_clusters->show(m_chosen);
    m_none->setVisible(!m_chosen.empty());
    m_offers->setVisible(m_chosen.empty());
    m_choiceText->setText(m_chosen.empty() ? tr("Click a piece for copies and turns")
                                           : countOf(static_cast<qsizetype>(m_chosen.size()),
                                                     tr("piece chosen"), tr("pieces chosen")));
    const bool isOneThing = m_chosen.size() == 1 || m_clusters->cluster();
    const design::Laid* laid = isOneThing ? work->find(m_chosen.front()) : nullptr;
    m_copiesRow->setVisible(laid != nullptr);
    tell(m_copiesOf, !laid || m_clusters->cluster() ? QString() : text(design::pieceName(*work, *laid)));
    m_hand->show(laid ? std::optional(design::CopyOf{laid->id(), std::min(m_copy, laid->copies - 1)})
                      : std::nullopt);
    if (laid && !m_copies->hasFocus())
        m_copies->setValue(laid->copies);
}

void SheetsStation::showAnswer() {
    const auto sheets = bench().made().sheets;
    if (!sheets)
        m_keep->hide();
    if (!sheets)
        return setAnswer({{tr("Mats"), bench().hasPieces() ? tr("not laid yet") : tr("nothing to lay yet")}},
                         text(bench().made().sheetsProblem));
    const sheets::ArrangementMeasures m = sheets::measure(*sheets, *bench().work());
    QVector<std::pair<QString, QString>> rows{
        {tr("Mats"), QString::number(m.loads)},
        {bench().job().plan.isMixed || !bench().job().plan.scraps.empty() ? tr("Sheets and scraps")
                                                                          : tr("Sheets of card"),
         QString::number(m.sheets)},
        {tr("Pieces laid"), QString::number(m.pieces)},
        {tr("Used of them"), tr("%1 %").arg(100 * (1 - m.wasteShare), 0, 'f', 0)}};
    const auto offcuts = sheets::offcutsOf(*sheets, *bench().work());
    m_keep->setVisible(!offcuts.empty());
    if (!offcuts.empty()) {
        const sheets::Offcut& best = offcuts.front();
        const QString size = text(base::formatSize(best.widthMm, best.heightMm, bench().job().unit));
        const QString stock = text(design::stockName(bench().job().stocks, best.stockId));
        rows.append({tr("Left of %1").arg(stock), size});
        m_keep->setText(tr("Keep what is left of %1").arg(stock));
    }
    for (const job::Lacking& lacking : job::lackingSheets(bench().job(), *sheets))
        rows.append({tr("To buy, %1").arg(text(design::stockName(bench().job().stocks, lacking.stockId))),
                     countOf(lacking.sheets, tr("sheet"), tr("sheets"))});
    const job::Cost cost = job::costOf(*sheets, bench().job().stocks);
    if (cost.sum > 0)
        rows.append({cost.unknown.empty() ? tr("Sheets cost") : tr("Cost, as far as known"),
                     QString::number(cost.sum, 'f', 2)});
    if (const auto byHand = design::cutByHand(*bench().work()); !byHand.empty())
        rows.append(
            {tr("Cut by hand"), countOf(static_cast<qsizetype>(byHand.size()), tr("piece"), tr("pieces"))});
    if (!sheets->unplaced.empty())
        rows.append({tr("Too large"), QString::number(sheets->unplaced.size())});
    setAnswer(rows, tr("Card inside pieces, over the area of all sheets that are begun"));
}

} // namespace thinline::app
