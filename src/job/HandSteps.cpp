// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/HandSteps.h"

#include "design/Cluster.h"
#include "job/Catalogue.h"
#include "job/LayerSteps.h"
#include "sheets/Cards.h"
#include "sheets/FreeSpace.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::job {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;

namespace {

/// A copy, what it lies in and how.
struct Taken {
    HandLaid at;
    const design::Laid* laid = nullptr;
    const design::Stock* stock = nullptr;
};

base::Result<Taken> takenUp(const State& state, const design::CopyOf& what) {
    const auto at = placeOf(state, what);
    const design::Stack* work = state.made.work();
    const design::Laid* laid = at && work ? work->find(what.piece) : nullptr;
    const design::Stock* stock =
        laid ? design::findStock(work->stocks, work->layerOf(*laid).stockId) : nullptr;
    if (!stock)
        return Error{Code::NotFound, "That piece lies on no sheet."};
    return Taken{*at, laid, stock};
}

/// Everything that lies together with a piece, as it lies by a pose of that piece.
Box boxBy(const design::Stack& work, const design::Laid& laid, const design::Pose& pose) {
    const geometry::Transform map = design::placement(laid.piece, pose);
    Box out;
    for (const design::Rigid& rigid : design::rigidOf(work))
        if (std::any_of(rigid.pieces.begin(), rigid.pieces.end(),
                        [&](const design::Laid* one) { return one->id() == laid.id(); }))
            for (const geometry::Shape& outline : rigid.outlines())
                out.include(geometry::bounds(geometry::transformed(outline, map)));
    return out;
}

/// A free place for a box on a card beside other boxes.
std::optional<sheets::FreeSpace::Spot> freeSpot(const sheets::Card& card, const std::vector<Box>& others,
                                                const Box& box, double spacingMm, bool mayTurn) {
    std::vector<Box> free = sheets::freeRectangles(card);
    const Point spacing{spacingMm, spacingMm};
    for (Box& one : free)
        one.most = one.most + spacing;
    sheets::FreeSpace space = sheets::FreeSpace::of(std::move(free));
    for (const Box& other : others)
        space.take({other.least - spacing, other.most + spacing});
    return space.find(box.width() + spacingMm, box.height() + spacingMm, mayTurn);
}

/// The boxes of all else that lies on a sheet, from its corner.
std::vector<Box> othersOn(const design::PlacedSheet& sheet, const design::Stack& work,
                          const design::CopyOf& but) {
    const design::Cluster* own = design::clusterOf(work, but.piece);
    std::vector<Box> out;
    for (const design::PlacedPiece& piece : sheet.pieces) {
        const bool isOwn = piece.what.copy == but.copy &&
                           (piece.what == but || (own && design::clusterOf(work, piece.what.piece) == own));
        const design::Laid* laid = work.find(piece.what.piece);
        if (isOwn || !laid)
            continue;
        const Box box = geometry::bounds(
            geometry::transformed(laid->shape(), design::placement(laid->piece, piece.pose)));
        out.push_back({box.least - Point{sheet.xMm, sheet.yMm}, box.most - Point{sheet.xMm, sheet.yMm}});
    }
    return out;
}

/// The card that a sheet is; null for a scrap that is still to be cut.
const sheets::Card* cardOf(const design::PlacedSheet& sheet, const sheets::Cards& cards) {
    if (sheet.isScrap)
        return nullptr;
    for (const sheets::Card& card : cards.scraps)
        if (sheet.scrapId != 0 && card.scrap == sheet.scrapId && card.isTurned == sheet.isTurned)
            return &card;
    for (const sheets::Card& card : cards.sheets)
        if (sheet.scrapId == 0 && geometry::distance(*card.at, {sheet.xMm, sheet.yMm}) < 0.01)
            return &card;
    return nullptr;
}

/// A pose by which a box that lies by `pose` comes to a spot.
design::Pose movedTo(const design::Stack& work, const design::Laid& laid, design::Pose pose,
                     const sheets::FreeSpace::Spot& spot) {
    if (spot.isTurned)
        pose.turnRad = std::remainder(pose.turnRad + std::numbers::pi / 2, 2 * std::numbers::pi);
    pose.at = pose.at + spot.corner - boxBy(work, laid, pose).least;
    return pose;
}

} // namespace

base::Result<Job> pinnedAll(const State& state, const std::vector<HandLaid>& laid) {
    State now = state;
    for (const HandLaid& one : laid) {
        auto job = pinnedAt(now, one.what, one.pose, one.load);
        if (!job)
            return job;
        now.job = job.take();
    }
    return now.job;
}

std::optional<HandLaid> placeOf(const State& state, const design::CopyOf& what) {
    for (std::size_t l = 0; state.made.sheets && l < state.made.sheets->loads.size(); ++l)
        for (const design::PlacedSheet& sheet : state.made.sheets->loads[l].sheets)
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (piece.what == what)
                    return HandLaid{what, piece.pose, l};
    return std::nullopt;
}

base::Result<Job> turnedTo(const State& state, const design::CopyOf& what, double turnRad) {
    const auto taken = takenUp(state, what);
    if (!taken)
        return taken.error();
    using Turns = design::Stock::Turns;
    const double step = taken->stock->turns == Turns::None ? 2 * std::numbers::pi : std::numbers::pi;
    constexpr double kSameRad = 1e-6;
    if (taken->stock->turns != Turns::Any && std::abs(std::remainder(turnRad, step)) > kSameRad)
        return Error{Code::InvalidArgument,
                     taken->stock->name +
                         (taken->stock->turns == Turns::Half
                              ? " has a grain or pattern: pieces are turned by half a turn or not at all."
                              : " has a pattern: pieces are not turned.")};
    design::Pose pose = taken->at.pose;
    pose.turnRad = std::remainder(turnRad, 2 * std::numbers::pi);
    return pinnedAt(state, what, pose, taken->at.load);
}

base::Result<Job> flippedOver(const State& state, const design::CopyOf& what) {
    const auto taken = takenUp(state, what);
    if (!taken)
        return taken.error();
    if (taken->stock->faces == design::Stock::Faces::GoodFront)
        return Error{Code::InvalidArgument,
                     taken->stock->name + " has a good front: flipped over, the piece would show its back."};
    design::Pose pose = taken->at.pose;
    pose.isFlipped = !pose.isFlipped;
    return pinnedAt(state, what, pose, taken->at.load);
}

base::Result<Job> sentTo(const State& state, const design::CopyOf& what, std::size_t load) {
    const auto taken = takenUp(state, what);
    if (!taken)
        return taken.error();
    const auto options = arrangeOptions(state.job, shippedCatalogue().formats);
    if (!options)
        return options.error();
    const auto cards = sheets::cardsOf(taken->stock->id, *options);
    if (!cards)
        return cards.error();
    const design::Stack& work = *state.made.work();
    const design::Arrangement& all = *state.made.sheets;
    const Box box = boxBy(work, *taken->laid, taken->at.pose);
    const bool mayTurn = options->mayTurn && taken->stock->turns == design::Stock::Turns::Any;
    if (load > all.loads.size())
        return Error{Code::NotFound, "That load is not there any more."};
    if (load == all.loads.size()) {
        int sheets = 0;
        for (const design::Load& one : all.loads)
            for (const design::PlacedSheet& sheet : one.sheets)
                sheets += sheet.stockId == taken->stock->id && sheet.scrapId == 0 ? 1 : 0;
        const sheets::Card& card = (*cards)[cards->scraps.size() + static_cast<std::size_t>(sheets)];
        const auto spot = freeSpot(card, {}, box, 0, mayTurn);
        if (!spot)
            return Error{Code::InvalidArgument, "It fits no sheet straight; drag it where it is to lie."};
        Job out = unpinned(state, what);
        out.plan.pins.push_back({what, sheets, movedTo(work, *taken->laid, taken->at.pose, *spot)});
        return out;
    }
    bool isThere = false;
    for (const design::PlacedSheet& sheet : all.loads[load].sheets) {
        const sheets::Card* card = sheet.stockId == taken->stock->id ? cardOf(sheet, *cards) : nullptr;
        isThere = isThere || card;
        const auto spot = card ? freeSpot(*card, othersOn(sheet, work, what), box,
                                          options->spacingFor(sheet.stockId), mayTurn)
                               : std::nullopt;
        if (!spot)
            continue;
        design::Pose pose = movedTo(work, *taken->laid, taken->at.pose, *spot);
        pose.at = pose.at + Point{sheet.xMm, sheet.yMm};
        return pinnedAt(state, what, pose, load);
    }
    return Error{Code::InvalidArgument,
                 isThere
                     ? "There is no room for its box on that load; drag it there, and the others make room."
                     : "That load holds no whole sheet of " + taken->stock->name + "."};
}

namespace {

/// Everything that lies on sheets, pinned where it lies.
std::vector<sheets::Pin> allPinned(const design::Arrangement& laid) {
    std::vector<sheets::Pin> out;
    for (size_t l = 0; l < laid.loads.size(); ++l)
        for (size_t s = 0; s < laid.loads[l].sheets.size(); ++s) {
            const design::PlacedSheet& sheet = laid.loads[l].sheets[s];
            for (const design::PlacedPiece& piece : sheet.pieces) {
                design::Pose onSheet = piece.pose;
                onSheet.at = piece.pose.at - geometry::Point{sheet.xMm, sheet.yMm};
                if (sheet.isTurned)
                    onSheet = design::turnedBack(onSheet, sheet.widthMm);
                out.push_back({piece.what, sheets::sheetOfStock(laid, l, s), onSheet, sheet.scrapId});
            }
        }
    return out;
}

size_t sheetsIn(const design::Arrangement& laid) {
    size_t out = 0;
    for (const design::Load& load : laid.loads)
        out += load.sheets.size();
    return out;
}

/// How a state lies with so many copies of a piece, what is pinned staying; nothing where that takes another sheet.
base::Result<std::optional<design::Arrangement>> laidWith(const State& pinned, design::PieceId piece,
                                                          int copies, const base::Progress& progress) {
    constexpr long long kSteps = 5000; // of the closer search, where boxes find no room
    using Out = std::optional<design::Arrangement>;
    const design::Arrangement& before = *pinned.made.sheets;
    const auto fits = [&](const State& made) {
        return made.made.sheets && made.made.sheets->unplaced.empty() &&
               made.made.sheets->loads.size() == before.loads.size() &&
               sheetsIn(*made.made.sheets) == sheetsIn(before);
    };
    auto job = withCopies(pinned, piece, copies);
    if (!job)
        return job.error();
    auto quick = make(job.take(), Stage::Sheets, pinned.made, progress);
    if (!quick)
        return quick.error();
    if (fits(*quick))
        return Out(*quick->made.sheets);
    sheets::CloseOptions how;
    how.budget.steps = kSteps;
    auto closer = laidCloser(*quick, how, {}, progress);
    if (!closer)
        return closer.error();
    return fits(*closer) ? Out(*closer->made.sheets) : Out();
}

} // namespace

base::Result<Noted> withRestFilled(const State& state, design::PieceId piece,
                                   const base::Progress& progress) {
    constexpr int kMostCopies = 999;
    const design::Laid* laid = state.made.work() ? state.made.work()->find(piece) : nullptr;
    if (!laid || !placeOf(state, {piece, 0}))
        return Error{Code::NotFound, "That piece lies on no sheet; lay the pieces first."};
    if (laid->copies >= kMostCopies)
        return withCopies(state, piece, laid->copies + 1).error();
    State pinned = state;
    pinned.job.plan.pins = allPinned(*state.made.sheets);
    // Twice as many until they do not fit, then halving what lies between.
    int fits = laid->copies, tooMany = kMostCopies + 1;
    std::optional<design::Arrangement> best;
    while (tooMany - fits > 1) {
        const int more = tooMany > kMostCopies ? std::max(1, fits - laid->copies) : (tooMany - fits) / 2;
        const int copies = std::min(fits + more, tooMany - 1);
        auto tried = laidWith(pinned, piece, copies, progress);
        if (!tried)
            return tried.error();
        (*tried ? fits : tooMany) = copies;
        if (*tried)
            best = *tried;
    }
    const std::string name = design::pieceName(*state.made.work(), *laid);
    if (!best)
        return Error{Code::InvalidArgument, "There is no room for one more of " + name + " on these sheets."};
    auto job = withCopies(state, piece, fits);
    if (!job)
        return job.error();
    Job out = job.take();
    out.plan.pins = allPinned(*best);
    return Noted{std::move(out), std::to_string(fits - laid->copies) + " more of " + name +
                                     " fill the sheets; all is pinned where it lies."};
}

} // namespace thinline::job
