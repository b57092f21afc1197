// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// From a work to what is searched, and back.
//
// Each stock is a search of its own: its rigid things (design/Cluster.h) are the items, its scraps and then the places for
// sheets on the mat its bins (sheets/Cards.h). An outline is flattened at two hundredths of a millimetre and the spacing made three hundredths wider, so that the
// curves keep it. What is cut from the back is flipped before it is looked at; then it turns like the rest.
//
// The budget is shared by what a search takes: a little less than by the number of pieces.
#include "sheets/ArrangeClose.h"

#include "design/Cluster.h"
#include "geometry/Measures.h"
#include "sheets/Mats.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <tuple>
#include <utility>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;

constexpr double kFlatMm = 0.02, kFlatClearMm = 0.03;

/// One thing to lay, and where it came from.
struct Copy {
    const design::Rigid* rigid = nullptr;
    int copy = 0;
};

/// The search of one stock.
struct StockSearch {
    std::string stockId = {};
    bool isFaceDown = false; ///< its sheets are taped in pairs
    design::Stock stock = {};
    Cards cards = {};
    std::vector<Copy> copies = {}; ///< of every item
    NestTask task = {};
    std::vector<std::shared_ptr<const NestTable>> tables = {};
    NestLayout best = {};
};

geometry::Transform flipOf(const design::Rigid& rigid, const StockSearch& search) {
    return design::turnedOver(0, design::liesFlipped(rigid.held(), search.isFaceDown));
}

geometry::Polygons ringsOf(const design::Rigid& rigid, const StockSearch& search, bool intoOpenings) {
    geometry::Polygons out;
    for (geometry::Shape outline : rigid.outlines()) {
        if (!intoOpenings)
            outline.openings.clear();
        for (geometry::Polygon& ring :
             geometry::flatten(geometry::transformed(outline, flipOf(rigid, search)), kFlatMm))
            if (ring.size() >= 3)
                out.push_back(std::move(ring));
    }
    // What lay between the pieces of a cluster would be lifted off with them.
    if (rigid.cluster && !rigid.frame())
        return {hullOf(out)};
    return out;
}

NestPose poseUnder(const geometry::Transform& map, const design::Rigid& rigid, const StockSearch& search,
                   const NestTable& table) {
    // The design's map is a flip, a turn and a move; the table's middle is of the flipped outline.
    const geometry::Transform back = geometry::inverse(flipOf(rigid, search)).then(map);
    return NestPose::of(back(table.middle()), std::atan2(back.b, back.a));
}

class Closing {
  public:
    Closing(const design::Stack& stack, const ArrangeOptions& options, const CloseOptions& how,
            const design::Arrangement& given, const std::function<void(const design::Arrangement&)>& publish,
            const base::Progress& progress)
        : m_stack(stack), m_options(options), m_how(how), m_given(given), m_publish(publish),
          m_progress(progress), m_all(design::rigidOf(stack)) {}

    base::Result<design::Arrangement> run() {
        std::size_t copies = 0;
        for (const design::Rigid& rigid : m_all)
            copies += static_cast<std::size_t>(std::max(0, rigid.copies));
        if (copies > kMostClose)
            return m_given;
        for (const design::Rigid& rigid : m_all)
            if (std::none_of(m_searches.begin(), m_searches.end(),
                             [&](const StockSearch& one) { return one.stockId == rigid.stockId; }))
                m_searches.push_back({rigid.stockId, m_options.sheetFor(rigid.stockId).inPairs});
        for (StockSearch& search : m_searches) {
            if (auto ok = prepare(search); !ok)
                return ok.error();
            if (auto ok = begin(search); !ok)
                return ok.error();
        }
        offer();
        spend();
        return arrangement();
    }

  private:
    // ---- what is searched

    const Pin* pinOf(const design::Rigid& rigid, int copy) const {
        for (const Pin& pin : m_options.pins)
            if (pin.what.copy == copy)
                for (const design::Laid* laid : rigid.pieces)
                    if (laid->id() == pin.what.piece)
                        return &pin;
        return nullptr;
    }
    const design::Laid& pinned(const design::Rigid& rigid, const Pin& pin) const {
        for (const design::Laid* laid : rigid.pieces)
            if (laid->id() == pin.what.piece)
                return *laid;
        return rigid.held();
    }

    base::Status prepare(StockSearch& search) {
        const design::Stock* stock = design::findStock(m_stack.stocks, search.stockId);
        search.stock = stock ? *stock : design::Stock{search.stockId, search.stockId};
        using Turns = design::Stock::Turns;
        search.task.turns = !m_options.mayTurn || search.stock.turns == Turns::None ? NestTurns::None
                            : search.stock.turns == Turns::Half                     ? NestTurns::Half
                                                                                    : NestTurns::Any;
        auto cards = cardsOf(search.stockId, m_options);
        if (!cards)
            return cards.error();
        search.cards = cards.take();
        for (const Card& card : search.cards.scraps)
            search.task.once.push_back(sheetOf(card));
        for (const Card& card : search.cards.sheets)
            search.task.sheets.push_back(sheetOf(card));
        search.task.clearMm = spacingOf(search) + kFlatClearMm;
        for (const design::Rigid& rigid : m_all) {
            if (rigid.stockId != search.stockId || rigid.copies < 1)
                continue;
            NestTask::Form form{ringsOf(rigid, search, m_options.intoOpenings), {}};
            if (form.rings.empty())
                continue;
            auto table =
                std::make_shared<const NestTable>(form.rings, search.task.clearMm, search.task.hasWalls());
            if (!fitsAlone(*table, search.task, form) && search.task.turns == NestTurns::Any)
                form.onlyTurnRad = slantOf(rigid, search);
            const bool fits = goesAlone(table, search.task, form);
            for (int copy = 0; copy < rigid.copies; ++copy) {
                const Pin* pin = pinOf(rigid, copy);
                if (!pin && !fits) {
                    for (const design::Laid* laid : rigid.pieces)
                        m_unplaced.push_back({laid->id(), copy});
                    continue;
                }
                NestTask::Item item{search.task.forms.size()};
                if (pin) {
                    item.pinnedBin = binOf(*pin, search.cards);
                    const design::Pose pose = poseOf(*pin, search.cards[*item.pinnedBin]);
                    item.pinned =
                        poseUnder(design::placement(pinned(rigid, *pin).piece, pose), rigid, search, *table);
                }
                search.task.items.push_back(item);
                search.copies.push_back({&rigid, copy});
            }
            search.task.forms.push_back(std::move(form));
            search.tables.push_back(std::move(table));
        }
        return base::Done{};
    }
    double spacingOf(const StockSearch& search) const { return m_options.spacingFor(search.stockId); }
    static NestTask::Sheet sheetOf(const Card& card) {
        if (card.blocked.empty())
            return {card.usable};
        return {card.usable, std::make_shared<const NestTable>(card.blocked, kWallClearMm)};
    }
    /// The one turn at which something fits that fits no other way.
    std::optional<double> slantOf(const design::Rigid& rigid, const StockSearch& search) const {
        std::vector<geometry::Shape> outlines = rigid.outlines();
        for (geometry::Shape& outline : outlines)
            outline = geometry::transformed(outline, flipOf(rigid, search));
        std::optional<double> best;
        double most = 1 - 1e-9;
        for (std::size_t kind = 0; kind < search.task.kinds(); ++kind) {
            const Box& usable = search.task.usableOf(kind);
            if (const auto turn = geometry::bestTurn(outlines, usable.width(), usable.height());
                turn.scale >= most) {
                most = turn.scale * (1 + 1e-9);
                best = turn.turnRad;
            }
        }
        return best;
    }

    // ---- where it begins

    /// Where an arrangement has the items; nothing for those it has not got.
    std::vector<std::optional<NestPlace>> placesIn(const design::Arrangement& arrangement,
                                                   const StockSearch& search) const {
        std::map<design::CopyOf, std::pair<std::size_t, design::Pose>> there;
        const Box& usable = search.task.sheets[0].usable;
        std::size_t next = search.cards.scraps.size();
        for (const design::Load& load : arrangement.loads)
            for (const design::PlacedSheet& sheet : load.sheets) {
                if (sheet.stockId != search.stockId)
                    continue;
                const std::size_t bin = sheet.scrapId == 0 ? next++ : binOfScrap(sheet.scrapId, search.cards);
                if (bin >= search.cards.scraps.size() && sheet.scrapId != 0)
                    continue; // a scrap that is there no more
                for (const design::PlacedPiece& piece : sheet.pieces) {
                    design::Pose pose = piece.pose;
                    // On a scrap the margin is another one than on a sheet.
                    const double aside = sheet.isScrap ? usable.least.x - sheet.marginMm : 0,
                                 down = sheet.isScrap ? usable.least.y - sheet.marginMm : 0;
                    pose.at = pose.at - Point{sheet.xMm - aside, sheet.yMm - down};
                    if (sheet.isTurned && !search.cards[bin].isTurned)
                        pose = design::turnedBack(pose, sheet.widthMm);
                    there[piece.what] = {bin, pose};
                }
            }
        std::vector<std::optional<NestPlace>> out;
        for (std::size_t i = 0; i < search.copies.size(); ++i) {
            const design::Rigid& rigid = *search.copies[i].rigid;
            const auto at = there.find({rigid.held().id(), search.copies[i].copy});
            out.emplace_back();
            const bool isFlipped = design::liesFlipped(rigid.held(), search.isFaceDown);
            if (at == there.end() || at->second.second.isFlipped != isFlipped)
                continue;
            const geometry::Transform map = design::placement(rigid.held().piece, at->second.second);
            out.back() = {at->second.first, poseUnder(map, rigid, search, *search.tables[search.task.items[i].form])};
        }
        return out;
    }
    /// The given arrangement as a layout, where it holds every item soundly.
    std::optional<NestLayout> givenLayout(const StockSearch& search) const {
        NestLayout out;
        for (const auto& place : placesIn(m_given, search)) {
            if (!place)
                return std::nullopt;
            out.places.push_back(*place);
        }
        measureNest(search.task, search.tables, out);
        if (!isSound(search.task, search.tables, out, spacingOf(search)))
            return std::nullopt;
        return out;
    }

    base::Status begin(StockSearch& search) {
        const auto given = givenLayout(search);
        std::optional<NestLayout> best = given;
        if (m_how.before) {
            auto kept = firstNest(search.task, search.tables, placesIn(*m_how.before, search), m_progress);
            if (!kept)
                return kept.error();
            if (isSound(search.task, search.tables, *kept, spacingOf(search)) &&
                (!best || kept->bins <= best->bins)) {
                search.best = kept.take();
                return base::Done{};
            }
        }
        auto first = firstNest(search.task, search.tables, {}, m_progress);
        if (!first)
            return first.error();
        const bool isUsable = isSound(search.task, search.tables, *first, spacingOf(search));
        search.best = best && !(isUsable && first->isBetterThan(*best)) ? *best : first.take();
        return base::Done{};
    }

    // ---- the search

    void spend() {
        double all = 0;
        const auto shareOf = [](const StockSearch& one) {
            return one.task.items.size() < 2 ? 0.0
                                             : std::pow(static_cast<double>(one.task.items.size()), 0.8);
        };
        for (const StockSearch& one : m_searches)
            all += shareOf(one);
        double before = 0;
        for (StockSearch& search : m_searches) {
            const double own = all > 0 ? shareOf(search) / all : 0;
            const bool isNone = m_how.budget.steps <= 0 && !m_how.budget.spent;
            if (own == 0 || isNone || m_progress.isCancelled())
                continue;
            NestBudget budget = m_how.budget;
            budget.steps = static_cast<long long>(static_cast<double>(budget.steps) * own);
            if (m_how.budget.spent)
                budget.spent = [this, before, own] { return (m_how.budget.spent() - before) / own; };
            search.best = nest(
                search.task, search.tables, search.best, budget,
                [&](const NestLayout& better) {
                    search.best = better;
                    offer();
                },
                m_progress);
            before += own;
            m_progress.report(before, "Laying pieces closer");
        }
    }
    void offer() {
        if (m_publish)
            m_publish(arrangement());
    }

    // ---- back to the work

    design::Arrangement arrangement() {
        design::Arrangement alone = loadsOf(false);
        if (!m_options.isMixed)
            return alone;
        design::Arrangement mixed = loadsOf(true);
        return mixed.loads.size() < alone.loads.size() ? mixed : alone;
    }

    /// Every stock on its own mats; or together where they may.
    design::Arrangement loadsOf(bool areMixed) {
        design::Arrangement out;
        out.unplaced = m_unplaced;
        ArrangeOptions options = m_options;
        options.isMixed = areMixed;
        std::vector<LaidCard> laid;
        std::vector<std::size_t> last; // of every search, among those
        for (const StockSearch& search : m_searches) {
            addCards(search, laid);
            last.push_back(laid.size() - 1);
            if (!areMixed)
                addToMats(out.loads, std::exchange(laid, {}), {}, options);
        }
        if (!areMixed)
            return out;
        std::vector<ToCut> toCut;
        const std::vector<Zone> zones = zonesOf();
        for (const Zone& zone : zones)
            toCut.push_back({zone.wish, last[zone.search],
                             [this, &zone](const ZonePlace& place) { return scrapOf(zone, place); }});
        addToMats(out.loads, std::move(laid), toCut, options);
        return out;
    }
    /// The cards of a stock with what lies on them.
    void addCards(const StockSearch& search, std::vector<LaidCard>& laid) const {
        const std::size_t first = laid.size();
        for (std::size_t bin = 0; bin < search.best.bins; ++bin)
            laid.push_back({&search.stock, &search.cards[bin], {}});
        for (std::size_t i = 0; i < search.copies.size(); ++i)
            add(search, i, search.best.places[i].pose, laid[first + search.best.places[i].bin].sheet);
    }

    /// Puts an item on a sheet, its pose as from the sheet's corner.
    void add(const StockSearch& search, std::size_t item, const NestPose& p, design::PlacedSheet& sheet,
             bool isScrapToCut = false) const {
        const Copy& copy = search.copies[item];
        const NestTable& table = *search.tables[search.task.items[item].form];
        const Pin* pin = pinOf(*copy.rigid, copy.copy);
        geometry::Transform map;
        const design::Pose pose =
            pin ? poseOf(*pin, search.cards[*search.task.items[item].pinnedBin]) : design::Pose{};
        const bool isByPin = pin && !isScrapToCut; // on a scrap it moves along with the others
        if (isByPin)
            map = design::placement(pinned(*copy.rigid, *pin).piece, pose)
                      .then(geometry::Transform::move({sheet.xMm, sheet.yMm}));
        else
            map = flipOf(*copy.rigid, search)
                      .then(geometry::Transform::move(table.middle() * -1))
                      .then({p.cos, p.sin, -p.sin, p.cos, 0, 0})
                      .then(geometry::Transform::move(p.at + Point{sheet.xMm, sheet.yMm}));
        const double turnRad = pin ? pose.turnRad : p.turnRad;
        const bool isFlipped = pin ? pose.isFlipped : design::liesFlipped(copy.rigid->held(), search.isFaceDown);
        for (const design::Laid* laid : copy.rigid->pieces)
            sheet.pieces.push_back({{laid->id(), copy.copy},
                                    design::poseIn(laid->piece, map, turnRad, isFlipped),
                                    pin != nullptr});
    }

    // ---- several stocks on a mat

    /// What lies on the last sheet of a stock, laid in boxes of several widths.
    struct Zone {
        std::size_t search = 0;
        std::vector<std::size_t> items = {};
        ZoneWish wish = {};
        std::vector<std::vector<NestPose>> poses = {}; ///< in each size, of every item, from the box's corner
    };

    /// Whether what a hand laid may lie on a scrap that is still to be cut.
    static bool mayMoveAlong(const Pin& pin, const design::Rigid& rigid, const StockSearch& search) {
        return pin.scrapId == kScrapToCut &&
               pin.pose.isFlipped == design::liesFlipped(rigid.held(), search.isFaceDown);
    }

    std::vector<Zone> zonesOf() {
        std::vector<Zone> out;
        for (std::size_t s = 0; s < m_searches.size(); ++s) {
            const StockSearch& search = m_searches[s];
            Zone zone{s};
            bool isWhole = search.best.bins <= search.cards.scraps.size(); // no whole sheet is begun
            bool hasPin = false;
            for (std::size_t i = 0; i < search.task.items.size(); ++i)
                if (search.best.places[i].bin + 1 == search.best.bins) {
                    zone.items.push_back(i);
                    const Pin* pin = pinOf(*search.copies[i].rigid, search.copies[i].copy);
                    hasPin = hasPin || pin;
                    isWhole = isWhole || (pin && !mayMoveAlong(*pin, *search.copies[i].rigid, search));
                }
            // What a hand laid on a whole sheet stays on one; and a scrap is not taped.
            if (zone.items.empty() || isWhole || search.isFaceDown)
                continue;
            const design::SheetFormat& format = m_options.sheetFor(search.stockId);
            // Beside what a hand laid on a scrap the others stay as they are, and it is not turned.
            zone.wish = {&search.stock,
                         {},
                         search.task.turns == NestTurns::Any && !hasPin,
                         {format.widthMm, format.heightMm}};
            addSize(search, zone, search.best.places);
            if (!hasPin)
                for (const double share : {2.0 / 3, 1.0 / 2, 1.0 / 3})
                    if (const auto* narrower = narrow(s, zone.items, share))
                        addSize(search, zone, *narrower);
            out.push_back(std::move(zone));
        }
        return out;
    }
    static void addSize(const StockSearch& search, Zone& zone, const std::vector<NestPlace>& places) {
        Box box;
        for (const std::size_t i : zone.items) {
            const Box own = search.tables[search.task.items[i].form]->boxAt(places[i].pose.turnRad);
            box.include({own.least + places[i].pose.at, own.most + places[i].pose.at});
        }
        std::vector<NestPose> poses;
        for (const std::size_t i : zone.items) {
            poses.push_back(places[i].pose);
            poses.back().at = poses.back().at - box.least;
        }
        zone.wish.sizes.push_back({box.width(), box.height()});
        zone.poses.push_back(std::move(poses));
    }
    /// The items laid as close as a short search gets them in so much of a sheet's width; null where they do not go in.
    const std::vector<NestPlace>* narrow(std::size_t s, const std::vector<std::size_t>& items, double share) {
        const auto [at, isNew] = m_narrow.try_emplace({s, share, items});
        if (!isNew)
            return at->second.empty() ? nullptr : &at->second;
        constexpr long long kSteps = 4000;
        const StockSearch& search = m_searches[s];
        NestTask task = search.task;
        const Box& usable = search.task.sheets[0].usable;
        task.once.clear();
        task.sheets = {{{{0, 0}, {usable.width() * share, usable.height()}}}};
        task.items.clear();
        for (const std::size_t i : items)
            task.items.push_back({search.task.items[i].form});
        for (const NestTask::Item& item : task.items)
            if (!fitsAlone(*search.tables[item.form], task, task.forms[item.form]))
                return nullptr;
        auto first = firstNest(task, search.tables, {}, m_progress);
        if (!first || first->bins != 1 || !isSound(task, search.tables, *first, spacingOf(search)))
            return nullptr;
        const NestLayout laid =
            m_how.budget.steps > 0 || m_how.budget.spent
                ? nest(task, search.tables, first.take(), {.steps = kSteps}, {}, m_progress)
                : first.take();
        at->second.resize(search.task.items.size());
        for (std::size_t k = 0; k < items.size(); ++k)
            at->second[items[k]] = laid.places[k];
        return &at->second;
    }

    design::PlacedSheet scrapOf(const Zone& zone, const ZonePlace& place) const {
        const StockSearch& search = m_searches[zone.search];
        const ZoneSize& size = zone.wish.sizes[place.size];
        Box card = place.card;
        widen(card, m_options.sheetFor(search.stockId));
        design::PlacedSheet out{search.stockId, card.least.x,   card.least.y, card.width(),
                                card.height(),  kScrapMarginMm, {},           true};
        const Point corner = place.card.least + Point{kScrapMarginMm, kScrapMarginMm} - card.least;
        for (std::size_t k = 0; k < zone.items.size(); ++k) {
            NestPose pose = zone.poses[place.size][k];
            if (place.isTurned) // a quarter clockwise: what was on the left comes to lie above
                pose =
                    NestPose::of({size.heightMm - pose.at.y, pose.at.x}, pose.turnRad + std::numbers::pi / 2);
            pose.at = pose.at + corner;
            add(search, zone.items[k], pose, out, true);
        }
        return out;
    }
    /// A scrap that spans the mat keeps the width of its sheet: nobody trims a finger's breadth.
    void widen(Box& card, const design::SheetFormat& sheet) const {
        const double across = m_options.mat.widthMm - 2 * (m_options.mat.marginMm - kScrapMarginMm);
        const double whole = sheet.widthMm;
        if (card.width() < across - 0.01 || whole < card.width() || whole > m_options.mat.widthMm ||
            card.height() > sheet.heightMm)
            return;
        card.least.x = (m_options.mat.widthMm - whole) / 2;
        card.most.x = card.least.x + whole;
    }

    const design::Stack& m_stack;
    const ArrangeOptions& m_options;
    const CloseOptions& m_how;
    const design::Arrangement& m_given;
    const std::function<void(const design::Arrangement&)>& m_publish;
    const base::Progress& m_progress;
    std::vector<design::Rigid> m_all;
    std::vector<design::CopyOf> m_unplaced;
    std::vector<StockSearch> m_searches;
    std::map<std::tuple<std::size_t, double, std::vector<std::size_t>>, std::vector<NestPlace>> m_narrow;
};

} // namespace

base::Result<design::Arrangement> arrangeClose(const design::Stack& stack, const ArrangeOptions& options,
                                               const CloseOptions& how, const design::Arrangement& given,
                                               const std::function<void(const design::Arrangement&)>& publish,
                                               const base::Progress& progress) {
    return Closing(stack, options, how, given, publish, progress).run();
}

std::vector<StockNeed> needsOf(const design::Arrangement& arrangement, const design::Stack& stack) {
    std::map<design::PieceId, const design::Laid*> byId;
    for (const design::Laid& laid : stack.pieces)
        byId[laid.id()] = &laid;
    std::vector<StockNeed> out;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            if (sheet.scrapId != 0)
                continue;
            auto at = std::find_if(out.begin(), out.end(),
                                   [&](const StockNeed& one) { return one.stockId == sheet.stockId; });
            if (at == out.end())
                at = out.insert(out.end(), {sheet.stockId});
            at->sheets += sheet.count();
            at->lastLengthMm = 0;
            const double top = std::max(sheet.yMm + sheet.marginMm, load.mat.marginMm);
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (const auto laid = byId.find(piece.what.piece); laid != byId.end()) {
                    const geometry::Transform map = design::placement(laid->second->piece, piece.pose);
                    at->lastLengthMm = std::max(
                        at->lastLengthMm,
                        geometry::bounds(geometry::transformed(laid->second->shape(), map)).most.y - top);
                }
        }
    return out;
}

std::vector<Offcut> offcutsOf(const design::Arrangement& arrangement, const design::Stack& stack) {
    constexpr double kLeastMm = 40;
    std::vector<Offcut> out;
    for (const StockNeed& need : needsOf(arrangement, stack)) {
        const design::PlacedSheet* last = nullptr;
        double top = 0;
        for (const design::Load& load : arrangement.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                if (sheet.stockId == need.stockId && sheet.scrapId == 0) {
                    last = &sheet;
                    top = std::max(sheet.marginMm, load.mat.marginMm - sheet.yMm);
                }
        const double left = last->heightMm - top - need.lastLengthMm;
        // Tape runs through what is left of a pair.
        if (left >= kLeastMm && last->widthMm >= kLeastMm && !last->isPair())
            out.push_back({need.stockId, last->widthMm, left});
    }
    std::stable_sort(out.begin(), out.end(), [](const Offcut& a, const Offcut& b) {
        return a.widthMm * a.heightMm > b.widthMm * b.heightMm;
    });
    return out;
}

} // namespace thinline::sheets
