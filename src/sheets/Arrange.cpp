// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Arranging by boxes: a first answer to "how many sheets?".
//
// Every piece is stood for by its box, and boxes are laid on sheets one after the other, into the free
// rectangle where they fit with the least left over (sheets/FreeSpace.h). No order of laying is the best
// one for all designs: by area, by the longer side, by height and by both sides together are all tried,
// and the fewest sheets win, then the emptiest last one, since what is left of a sheet is worth something.
//
// This wastes what lies between a piece and its box. A search over true outlines does better and will
// replace it; what it has to keep is said here, because everything downstream relies on it:
//
// - One stock to a sheet, whole sheets on a mat as many as lie there, loads in the order in which they are
//   cut.
// - Pieces and sheet both grow by the spacing on their right and lower sides, so the last piece may touch
//   the margin, and two pieces are never nearer than the spacing.
// - A pinned copy lies where it was put, first of all, and takes its room away from the others; a pin is a
//   decision and is never moved.
// - Quarter turns only, except for a piece that fits no other way: it is turned by the angle at which it
//   fits best (geometry::bestTurn). Whether turning is allowed at all is the stock's matter (grain,
//   pattern).
// - A piece whose back faces the viewer is cut from the sheet turned over. Its pose is a mirrored one, and
//   it turns the other way round, so that the box that was laid is the box that is cut.
// - A cluster is one item (design/Cluster.h): its pieces keep their distances and its box takes its frame in. A pin
//   on any of its pieces pins the whole.
// - What is cut by hand, and what a stock's pattern does not let turn, is the stock's matter too.
// - What fits nowhere is told as not placed; nothing is dropped, nothing is made smaller.
// - The same input gives the same layout: orders are stable sorts, no clock and no address is looked at.
//
// Cost: O(orders x copies x free rectangles).
#include "sheets/Arrange.h"

#include "base/Length.h"
#include "design/Cluster.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "sheets/Cards.h"
#include "sheets/FreeSpace.h"
#include "sheets/Mats.h"

#include <algorithm>
#include <functional>
#include <map>
#include <numbers>
#include <optional>

namespace thinline::sheets {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;

constexpr double kSlackMm = 1e-6; // rounding only

/// A copy to be laid, with the size of its box.
struct Item {
    const design::Rigid* rigid = nullptr;
    int copy = 0;
    double widthMm = 0;
    double heightMm = 0;
    double turnRad = 0; ///< laid freely turned, because it fits no other way; the box is the turned one's
    double longer() const { return std::max(widthMm, heightMm); }
    double area() const { return widthMm * heightMm; }
};

/// Where outlines lie when they are flipped and turned; a box of all.
Box boxUnder(const std::vector<geometry::Shape>& outlines, const geometry::Transform& map) {
    Box out;
    for (const geometry::Shape& outline : outlines)
        out.include(geometry::bounds(geometry::transformed(outline, map)));
    return out;
}

/// The piece of an item that a pin was put into.
const design::Laid& pinnedPiece(const Item& item, const Pin& pin) {
    for (const design::Laid* laid : item.rigid->pieces)
        if (laid->id() == pin.what.piece)
            return *laid;
    return item.rigid->held();
}

/// Where an item lies on its sheet, by its box's corner; a pinned one by its pin.
struct Spot {
    Item item;
    Point corner;
    bool isTurned = false;
    const Pin* pinned = nullptr;
};

/// The sheets of one stock while they fill.
struct Filling {
    std::vector<FreeSpace> spaces; ///< one per sheet
    std::vector<std::vector<Spot>> placed;
    std::map<std::pair<double, double>, size_t> from; ///< by size: no sheet before this one has room for it

    double lastSheetUsedMm() const {
        double lowest = 0;
        if (!placed.empty())
            for (const Spot& spot : placed.back())
                lowest = std::max(lowest, spot.corner.y);
        return lowest;
    }
};

/// What a stock is laid on, and the rectangles of it that are free.
struct Slots {
    Cards cards;
    std::vector<std::vector<Box>> free; ///< of every kind of card, overlapping; from its own corner
    std::vector<Box> all;               ///< of all kinds: in which something may lie that lies alone

    const std::vector<Box>& freeOf(size_t sheet) const {
        const size_t scraps = cards.scraps.size();
        return free[sheet < scraps ? sheet : scraps + (sheet - scraps) % cards.sheets.size()];
    }
};

base::Result<Slots> slotsOf(const std::string& stockId, const ArrangeOptions& options) {
    auto cards = cardsOf(stockId, options);
    if (!cards)
        return cards.error();
    Slots out{cards.take(), {}, {}};
    for (const auto* some : {&out.cards.scraps, &out.cards.sheets})
        for (const Card& card : *some) {
            out.free.push_back(freeRectangles(card));
            out.all.insert(out.all.end(), out.free.back().begin(), out.free.back().end());
        }
    return out;
}

void openSheet(Filling& filling, const Slots& slots, double spacingMm) {
    // Space and pieces both grow by the spacing on their right and lower side, so that the last piece may
    // touch the margin.
    std::vector<Box> free = slots.freeOf(filling.spaces.size());
    for (Box& space : free)
        space.most = space.most + Point{spacingMm, spacingMm};
    filling.spaces.push_back(FreeSpace::of(std::move(free)));
    filling.placed.emplace_back();
}

/// Lays one item on the first sheet that takes it. Room only shrinks, so that where one of its size did not go, the next
/// one is not tried: thousands of copies cost no more than what they fill.
void lay(Filling& filling, const Item& item, const Slots& slots, const ArrangeOptions& options) {
    const double width = item.widthMm + options.spacingMm, height = item.heightMm + options.spacingMm;
    size_t& sheet = filling.from[{width, height}];
    for (;; ++sheet) {
        if (sheet == filling.spaces.size())
            openSheet(filling, slots, options.spacingMm);
        if (const auto spot = filling.spaces[sheet].find(width, height, options.mayTurn)) {
            const Box taken{spot->corner,
                            spot->corner + (spot->isTurned ? Point{height, width} : Point{width, height})};
            filling.spaces[sheet].take(taken);
            filling.placed[sheet].push_back({item, spot->corner, spot->isTurned});
            return;
        }
    }
}

void layPins(Filling& filling, const std::vector<std::pair<Item, const Pin&>>& pinned, const Slots& slots,
             const ArrangeOptions& options) {
    for (const auto& [item, pin] : pinned) {
        const design::Laid& held = pinnedPiece(item, pin);
        const size_t sheet = binOf(pin, slots.cards);
        while (filling.spaces.size() <= sheet)
            openSheet(filling, slots, options.spacingMm);
        const Box box =
            boxUnder(item.rigid->outlines(), design::placement(held.piece, poseOf(pin, slots.cards[sheet])));
        const Point spacing{options.spacingMm, options.spacingMm};
        filling.spaces[sheet].take({box.least - spacing, box.most + spacing});
        filling.placed[sheet].push_back({item, box.least, false, &pin});
    }
}

/// Copies of one thing in rows and columns, upright or turned, whichever a sheet takes more of; nothing where there are others
/// beside it, or sheets of which a part is blocked. No order of laying is sure to find them.
std::optional<Filling> rowsAndColumns(const std::vector<Item>& items, const Slots& slots,
                                      const ArrangeOptions& options) {
    const auto isAlike = [&](const Item& item) { return item.rigid == items.front().rigid; };
    if (items.empty() || !std::all_of(items.begin(), items.end(), isAlike))
        return std::nullopt;
    Filling out;
    const double spacing = options.spacingMm;
    for (size_t next = 0; next < items.size();) {
        const size_t sheet = out.spaces.size();
        if (slots.freeOf(sheet).size() != 1)
            return std::nullopt;
        openSheet(out, slots, spacing);
        const Box& room = slots.freeOf(sheet).front();
        size_t most = 0, across = 0;
        bool isTurned = false;
        for (const bool turns : {false, true}) {
            if (turns && !options.mayTurn)
                continue;
            const double width = turns ? items[next].heightMm : items[next].widthMm,
                         height = turns ? items[next].widthMm : items[next].heightMm;
            const auto fit = [&](double whole, double one) {
                return static_cast<size_t>(
                    std::max(0.0, std::floor((whole + spacing + kSlackMm) / (one + spacing))));
            };
            const size_t columns = fit(room.width(), width), rows = fit(room.height(), height);
            if (columns * rows > most) {
                most = columns * rows;
                across = columns;
                isTurned = turns;
            }
        }
        if (most == 0 && sheet >= slots.free.size())
            return std::nullopt;
        for (size_t k = 0; k < most && next < items.size(); ++k, ++next) {
            const double width = isTurned ? items[next].heightMm : items[next].widthMm,
                         height = isTurned ? items[next].widthMm : items[next].heightMm;
            out.placed[sheet].push_back(
                {items[next],
                 room.least + Point{static_cast<double>(k % across) * (width + spacing),
                                    static_cast<double>(k / across) * (height + spacing)},
                 isTurned});
        }
    }
    return out;
}

/// Fills sheets with several orders of the items and keeps the best: fewest sheets, then the emptiest last
/// one.
base::Result<Filling> fill(std::vector<Item> items, const std::vector<std::pair<Item, const Pin&>>& pinned,
                           const Slots& slots, const ArrangeOptions& options,
                           const base::Progress& progress) {
    using Order = std::function<bool(const Item&, const Item&)>;
    const Order orders[] = {
        [](const Item& a, const Item& b) { return a.area() > b.area(); },
        [](const Item& a, const Item& b) { return a.longer() > b.longer(); },
        [](const Item& a, const Item& b) { return a.heightMm > b.heightMm; },
        [](const Item& a, const Item& b) { return a.widthMm + a.heightMm > b.widthMm + b.heightMm; },
    };
    std::optional<Filling> best;
    if (pinned.empty())
        best = rowsAndColumns(items, slots, options);
    for (const Order& order : orders) {
        if (progress.isCancelled())
            return base::cancelled();
        std::stable_sort(items.begin(), items.end(), order);
        Filling filling;
        layPins(filling, pinned, slots, options);
        for (const Item& item : items) {
            if (progress.isCancelled())
                return base::cancelled();
            lay(filling, item, slots, options);
        }
        if (!best || filling.spaces.size() < best->spaces.size() ||
            (filling.spaces.size() == best->spaces.size() &&
             filling.lastSheetUsedMm() < best->lastSheetUsedMm()))
            best = std::move(filling);
    }
    return std::move(*best);
}

/// The item's box as it lies when it is turned freely.
Item turned(Item item, double turnRad) {
    const Box box = boxUnder(item.rigid->outlines(), geometry::turnAbout({}, turnRad));
    item.widthMm = box.width();
    item.heightMm = box.height();
    item.turnRad = turnRad;
    return item;
}

/// The free turn at which outlines fit some place, when there is one.
std::optional<double> freeTurn(const std::vector<geometry::Shape>& outlines, const Slots& slots) {
    std::optional<double> best;
    double most = 1 - 1e-9;
    for (const Box& usable : slots.all) {
        const geometry::BestTurn turn = geometry::bestTurn(outlines, usable.width(), usable.height());
        if (turn.scale >= most) {
            most = turn.scale * (1 + 1e-9);
            best = turn.turnRad;
        }
    }
    return best;
}

bool fitsAnywhere(const Item& item, const Slots& slots, bool mayTurn) {
    return std::any_of(slots.all.begin(), slots.all.end(), [&](const Box& usable) {
        return fits({{0, 0}, {item.widthMm, item.heightMm}}, usable.width(), usable.height(), mayTurn);
    });
}

/// How an item lies on the mat: the map from the design, and its flip and turn.
struct Lie {
    geometry::Transform map;
    double turnRad = 0;
    bool isFlipped = false;
};

Lie lieOf(const Spot& spot, const Card& card) {
    const Item& item = spot.item;
    if (spot.pinned) {
        const design::Pose pose = poseOf(*spot.pinned, card);
        return {design::placement(pinnedPiece(item, *spot.pinned).piece, pose), pose.turnRad, pose.isFlipped};
    }
    const double turnRad = item.turnRad + (spot.isTurned ? std::numbers::pi / 2 : 0);
    const bool isFlipped = design::liesFlipped(item.rigid->held(), card.join != design::Join::None);
    // What is flipped turns the other way, so that the box is the one that was laid.
    Lie lie{{}, isFlipped ? -turnRad : turnRad, isFlipped};
    lie.map = design::turnedOver(lie.turnRad, lie.isFlipped);
    const Point least = boxUnder(item.rigid->outlines(), lie.map).least;
    lie.map = lie.map.then(geometry::Transform::move(spot.corner - least));
    return lie;
}

void addPieces(const Spot& spot, const Card& card, design::PlacedSheet& into) {
    const Lie lie = lieOf(spot, card);
    for (const design::Laid* laid : spot.item.rigid->pieces)
        into.pieces.push_back({{laid->id(), spot.item.copy},
                               design::poseIn(laid->piece, lie.map, lie.turnRad, lie.isFlipped),
                               spot.pinned != nullptr});
}

/// Turns the filled sheets of one stock into loads.
void addLoads(std::vector<design::Load>& loads, const Filling& filling, const design::Stock& stock,
              const Slots& slots, const ArrangeOptions& options) {
    std::vector<LaidCard> laid;
    for (size_t bin = 0; bin < filling.placed.size(); ++bin) {
        laid.push_back({&stock, &slots.cards[bin], {}});
        for (const Spot& spot : filling.placed[bin])
            addPieces(spot, *laid.back().card, laid.back().sheet);
    }
    addToMats(loads, std::move(laid), {}, options);
}

/// The stocks that are laid, each once, bottom first.
std::vector<std::string> stocksInUse(const std::vector<design::Rigid>& all) {
    std::vector<std::string> ids;
    for (const design::Rigid& rigid : all)
        if (std::find(ids.begin(), ids.end(), rigid.stockId) == ids.end())
            ids.push_back(rigid.stockId);
    return ids;
}

bool letsTurn(const std::vector<design::Stock>& stocks, const std::string& id) {
    const design::Stock* stock = design::findStock(stocks, id);
    return !stock || stock->turns == design::Stock::Turns::Any;
}

/// What there is to lay of one stock.
struct ToLay {
    std::vector<Item> items;
    std::vector<std::pair<Item, const Pin&>> pinned;
};

ToLay toLay(const std::vector<design::Rigid>& all, const std::string& stockId, const Slots& slots,
            const ArrangeOptions& options, std::vector<design::CopyOf>& unplaced) {
    ToLay out;
    for (const design::Rigid& rigid : all) {
        if (rigid.stockId != stockId)
            continue;
        const Box box = rigid.box();
        Item item{&rigid, 0, box.width(), box.height()};
        if (options.mayTurn && !fitsAnywhere(item, slots, true))
            if (const auto free = freeTurn(rigid.outlines(), slots))
                item = turned(item, *free);
        for (int copy = 0; copy < rigid.copies; ++copy) {
            item.copy = copy;
            const auto pin = std::find_if(options.pins.begin(), options.pins.end(), [&](const Pin& p) {
                return p.what.copy == copy &&
                       std::any_of(rigid.pieces.begin(), rigid.pieces.end(),
                                   [&](const design::Laid* laid) { return laid->id() == p.what.piece; });
            });
            if (pin != options.pins.end())
                out.pinned.emplace_back(item, *pin);
            else if (fitsAnywhere(item, slots, options.mayTurn))
                out.items.push_back(item);
            else
                for (const design::Laid* laid : rigid.pieces)
                    unplaced.push_back({laid->id(), copy});
        }
    }
    return out;
}

/// What a sheet, or a pair of them, may take of a mat.
struct Footprint {
    double widthMm = 0, heightMm = 0;
    design::Join join = design::Join::None;
};

/// In the order they are tried.
std::vector<Footprint> footprintsOf(const design::SheetFormat& sheet) {
    using Way = design::SheetLie::Way;
    using design::Join;
    std::vector<Footprint> out;
    for (const bool isTurned : {false, true}) {
        const double width = isTurned ? sheet.heightMm : sheet.widthMm,
                     height = isTurned ? sheet.widthMm : sheet.heightMm;
        if (sheet.lies.way == Way::Portrait ? width > height
                                            : sheet.lies.way == Way::Landscape && width < height)
            continue;
        if (sheet.inPairs)
            out.insert(out.end(), {{2 * width, height, Join::Upright}, {width, 2 * height, Join::Level}});
        else
            out.push_back({width, height});
    }
    return out;
}

/// Why nothing lies on a mat.
Error liesNot(const design::MatFormat& mat, const design::SheetFormat& sheet) {
    const auto sized = [](double width, double height) {
        return base::formatSize(width, height, base::LengthUnit::Millimetre);
    };
    const bool isAnyWay = sheet.lies.way == design::SheetLie::Way::AsMostFit;
    const std::string way = isAnyWay ? "" : std::string(" in ") + design::kSheetWayWords[static_cast<size_t>(sheet.lies.way)],
                      on = way + " on a mat of " + sized(mat.widthMm, mat.heightMm),
                      orElse = isAnyWay ? "." : ", or let it lie as it fits.",
                      size = sized(sheet.widthMm, sheet.heightMm);
    return {Code::InvalidArgument,
            sheet.inPairs ? "Two sheets of " + size + " taped together do not lie" + on +
                                "; choose a longer mat or do not tape them" + orElse
                          : "A sheet of " + size + " does not lie" + on +
                                "; choose a larger mat or a smaller sheet" + orElse};
}

} // namespace

design::Join joinIn(const design::SheetFormat& sheet, const Box& place) {
    constexpr double kSameMm = 1e-3;
    for (const Footprint& one : footprintsOf(sheet))
        if (std::abs(one.widthMm - place.width()) < kSameMm && std::abs(one.heightMm - place.height()) < kSameMm)
            return one.join;
    return design::Join::None;
}

base::Result<std::vector<Box>> sheetPlaces(const design::MatFormat& mat, const design::SheetFormat& sheet) {
    if (!(mat.usableWidthMm() > 0) || !(mat.usableHeightMm() > 0) || !(sheet.usableWidthMm() > 0) ||
        !(sheet.usableHeightMm() > 0))
        return Error{Code::InvalidArgument,
                     "The mat or the sheet has no usable area; check their sizes and margins."};
    using Lie = design::SheetLie;
    const bool isRight = sheet.lies.from == Lie::From::UpperRight || sheet.lies.from == Lie::From::LowerRight,
               isLow = sheet.lies.from == Lie::From::LowerLeft || sheet.lies.from == Lie::From::LowerRight;
    std::vector<Box> best;
    for (const auto& [width, height, join] : footprintsOf(sheet)) {
        const int across = static_cast<int>((mat.widthMm + kSlackMm) / width),
                  down = static_cast<int>((mat.heightMm + kSlackMm) / height);
        if (across * down <= static_cast<int>(best.size()))
            continue;
        best.clear();
        const double left = std::min(mat.marginMm, (mat.widthMm - across * width) / 2);
        const double top = std::min(mat.marginMm, (mat.heightMm - down * height) / 2);
        for (int y = 0; y < down; ++y)
            for (int x = 0; x < across; ++x) {
                const double fromSide = left + x * width, fromEnd = top + y * height;
                const Point corner{isRight ? mat.widthMm - fromSide - width : fromSide,
                                   isLow ? mat.heightMm - fromEnd - height : fromEnd};
                best.push_back({corner, corner + Point{width, height}});
            }
    }
    if (best.empty())
        return liesNot(mat, sheet);
    return best;
}

Box usableArea(const design::MatFormat& mat, const design::SheetFormat& sheet, const Box& place) {
    return {{std::max(place.least.x + sheet.marginMm, mat.marginMm),
             std::max(place.least.y + sheet.marginMm, mat.marginMm)},
            {std::min(place.most.x - sheet.marginMm, mat.widthMm - mat.marginMm),
             std::min(place.most.y - sheet.marginMm, mat.heightMm - mat.marginMm)}};
}

base::Result<design::Arrangement> arrange(const design::Stack& stack, const ArrangeOptions& options,
                                          const base::Progress& progress) {
    design::Arrangement arrangement;
    const std::vector<design::Rigid> all = design::rigidOf(stack);
    std::size_t copies = 0;
    for (const design::Rigid& rigid : all)
        copies += rigid.pieces.size() * static_cast<std::size_t>(std::max(0, rigid.copies));
    if (copies > kMostCopies)
        return Error{Code::LimitExceeded,
                     "There are " + std::to_string(copies) +
                         " pieces with all their copies; up to 100000 are laid at once. Ask for "
                         "fewer copies, and cut the files more than once."};
    const std::vector<std::string> stocks = stocksInUse(all);
    for (size_t s = 0; s < stocks.size(); ++s) {
        progress.report(static_cast<double>(s) / static_cast<double>(stocks.size()),
                        "Laying pieces on sheets");
        ArrangeOptions own = options;
        own.mayTurn = options.mayTurn && letsTurn(stack.stocks, stocks[s]);
        own.spacingMm = options.spacingFor(stocks[s]);
        const auto slots = slotsOf(stocks[s], own);
        if (!slots)
            return slots.error();
        ToLay lay = toLay(all, stocks[s], *slots, own, arrangement.unplaced);
        auto filling = fill(std::move(lay.items), lay.pinned, *slots, own, progress);
        if (!filling)
            return filling.error();
        const design::Stock* known = design::findStock(stack.stocks, stocks[s]);
        const design::Stock stock = known ? *known : design::Stock{stocks[s], stocks[s]};
        addLoads(arrangement.loads, *filling, stock, *slots, own);
    }
    return arrangement;
}

bool fits(const Box& piece, double usableWidthMm, double usableHeightMm, bool mayTurn) {
    const double w = piece.width() - kSlackMm, h = piece.height() - kSlackMm;
    return (w <= usableWidthMm && h <= usableHeightMm) ||
           (mayTurn && h <= usableWidthMm && w <= usableHeightMm);
}

ArrangementMeasures measure(const design::Arrangement& arrangement, const design::Stack& stack) {
    ArrangementMeasures out;
    double sheetArea = 0, pieceArea = 0;
    std::map<design::PieceId, double> areas;
    for (const design::Laid& laid : stack.pieces)
        areas[laid.id()] = geometry::area(laid.shape());
    out.loads = static_cast<int>(arrangement.loads.size());
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            out.sheets += sheet.count();
            sheetArea += sheet.widthMm * sheet.heightMm;
            for (const design::PlacedPiece& piece : sheet.pieces) {
                ++out.pieces;
                pieceArea += areas[piece.what.piece];
            }
        }
    out.wasteShare = sheetArea > 0 ? std::max(0.0, 1 - pieceArea / sheetArea) : 0;
    return out;
}

int sheetOfStock(const design::Arrangement& arrangement, std::size_t load, std::size_t sheet) {
    const std::string& stock = arrangement.loads[load].sheets[sheet].stockId;
    int before = 0;
    for (size_t l = 0; l <= load; ++l)
        for (size_t s = 0; s < arrangement.loads[l].sheets.size(); ++s) {
            const design::PlacedSheet& one = arrangement.loads[l].sheets[s];
            if (l == load && s == sheet)
                return before;
            before += one.stockId == stock && one.scrapId == 0 ? 1 : 0;
        }
    return before;
}

} // namespace thinline::sheets
