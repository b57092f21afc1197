// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A tile tells before the load is cut whether the setting serves: it has whatever of the load is hardest, at the true size,
// in the same card, on the same mat. It lies where nothing else lies, looked for in rows from the top of the sheet so that
// it fills a gap between pieces rather than beginning the block that is left whole.
#include "job/TestTile.h"

#include "base/Length.h"
#include "geometry/Arcs.h"
#include "geometry/Necks.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::job {
namespace {

using design::TestTile;
using geometry::Box;
using geometry::Contour;
using geometry::Point;

constexpr double kNeckBelowMm = 3, kOpeningBelowMm = 10;
constexpr double kEdgeMm = 3;   ///< of card around what the tile shows
constexpr double kHighMm = 8;   ///< of slots and perforation
constexpr double kSlotMm = 1.2; ///< of the two that leave a strip between them
constexpr double kPlainMm = 5;
constexpr double kRowMm = 2;
constexpr double kFlatMm = 0.05;

/// What of one piece is hard to cut.
struct Hardest {
    double neckMm = 1e9, openingMm = 1e9, slotMm = 1e9;
    std::optional<geometry::Perforation> perforation = {};

    void include(const Hardest& other) {
        neckMm = std::min(neckMm, other.neckMm);
        openingMm = std::min(openingMm, other.openingMm);
        slotMm = std::min(slotMm, other.slotMm);
        if (other.perforation && (!perforation || other.perforation->cutMm < perforation->cutMm))
            perforation = other.perforation;
    }
};

base::Result<Hardest> hardestOf(const State& state, const design::Laid& laid, const design::Stock& stock,
                                const base::Progress& progress) {
    Hardest out;
    const auto necks = geometry::findNecks(laid.shape(), kNeckBelowMm, progress);
    if (!necks)
        return necks.error();
    if (!necks->empty())
        out.neckMm = necks->front().widthMm;
    for (const Contour& opening : laid.shape().openings) {
        const double across = 2 * std::sqrt(std::abs(geometry::signedArea(opening)) / M_PI);
        if (across > 0)
            out.openingMm = std::min(out.openingMm, across);
    }
    for (const design::Fit& fit : state.job.fits)
        if (fit.inner == laid.id() || fit.outer == laid.id())
            out.slotMm = std::min(out.slotMm, stock.thicknessMm + fit.clearanceMm);
    for (const design::PieceLine& line : laid.piece.body->lines) {
        Hardest one;
        if (const auto* tear = std::get_if<design::Tear>(&line.does))
            one.perforation = {tear->cutMm, tear->leftMm, tear->leftMm};
        if (std::holds_alternative<design::Fold>(line.does) &&
            state.job.plan.foldsAs == design::FoldsAs::Perforation)
            one.perforation = design::perforationOf(&stock);
        out.include(one);
    }
    return out;
}

Contour rectangle(const Box& box, bool isOpening) {
    const Contour out =
        geometry::contourThrough({box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}});
    return isOpening ? geometry::reversed(out) : out;
}

/// A tile with its upper left corner at the origin.
base::Result<TestTile> tileOf(const Hardest& hardest) {
    TestTile out;
    double x = kEdgeMm, high = kHighMm;
    const auto openAt = [&](double width, double height) {
        out.card.openings.push_back(rectangle({{x, kEdgeMm}, {x + width, kEdgeMm + height}}, true));
        x += width;
    };
    if (hardest.neckMm < kNeckBelowMm) {
        out.neckMm = hardest.neckMm;
        openAt(kSlotMm, kHighMm);
        x += out.neckMm;
        openAt(kSlotMm, kHighMm);
        x += kEdgeMm;
    }
    const bool showsNothing = hardest.neckMm >= kNeckBelowMm && hardest.openingMm >= kOpeningBelowMm &&
                              hardest.slotMm > kOpeningBelowMm && !hardest.perforation;
    if (hardest.openingMm < kOpeningBelowMm || showsNothing) {
        out.openingMm = showsNothing ? kPlainMm : hardest.openingMm;
        const double radius = out.openingMm / 2;
        out.card.openings.push_back(
            geometry::reversed(geometry::ellipse({x + radius, kEdgeMm + radius}, radius, radius)));
        x += out.openingMm + kEdgeMm;
        high = std::max(high, out.openingMm);
    }
    if (hardest.slotMm <= kOpeningBelowMm) {
        out.slotMm = hardest.slotMm;
        openAt(out.slotMm, kHighMm);
        x += kEdgeMm;
    }
    if (hardest.perforation) {
        out.cutMm = hardest.perforation->cutMm;
        out.leftMm = hardest.perforation->leftMm;
        // Long enough for three cuts and the bridges between them.
        const geometry::Perforation& how = *hardest.perforation;
        high = std::max(high, 2 * how.leftAtEndsMm + 3 * how.cutMm + 2 * how.leftMm);
        geometry::Line line{{x, kEdgeMm}, {geometry::Segment::line({x, kEdgeMm + high})}};
        auto cuts = geometry::perforated(line, *hardest.perforation);
        if (!cuts)
            return cuts.error();
        out.perforation = cuts.take();
        x += kEdgeMm;
    }
    out.card.outline = rectangle({{0, 0}, {x, high + 2 * kEdgeMm}}, false);
    return out;
}

/// Where an upright box of this size is free on a sheet: its corner on the mat.
std::optional<Point> placeFor(const design::PlacedSheet& sheet, const geometry::Polygons& pieces,
                              double width, double height, double roomMm) {
    const Box usable{
        {sheet.xMm + sheet.marginMm, sheet.yMm + sheet.marginMm},
        {sheet.xMm + sheet.widthMm - sheet.marginMm, sheet.yMm + sheet.heightMm - sheet.marginMm}};
    const geometry::Polygons card = design::outlineOf(sheet);
    const auto isOnCard = [&](Point corner) {
        for (double x = 0; x <= width + kRowMm; x += kRowMm)
            for (double y = 0; y <= height + kRowMm; y += kRowMm)
                if (!geometry::contains(card, corner + Point{std::min(x, width), std::min(y, height)}))
                    return false;
        return true;
    };
    for (double top = usable.least.y; top + height <= usable.most.y; top += kRowMm) {
        // What edges take of this row, with the room kept round them.
        std::vector<std::pair<double, double>> taken;
        const double upper = top - roomMm, lower = top + height + roomMm;
        for (const geometry::Polygon& ring : pieces)
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const Point a = ring[i], b = ring[(i + 1) % ring.size()];
                if (std::max(a.y, b.y) < upper || std::min(a.y, b.y) > lower)
                    continue;
                taken.emplace_back(std::min(a.x, b.x) - roomMm, std::max(a.x, b.x) + roomMm);
            }
        std::sort(taken.begin(), taken.end());
        double x = usable.least.x;
        taken.emplace_back(usable.most.x, usable.most.x);
        for (const auto& [from, to] : taken) {
            const Point corner{x, top};
            const Point middle = corner + Point{width / 2, height / 2};
            if (from - x >= width && !geometry::contains(pieces, middle) && isOnCard(corner))
                return corner;
            x = std::max(x, to);
        }
    }
    return std::nullopt;
}

} // namespace

base::Result<std::map<std::size_t, TestTile>> testTiles(const State& state, const base::Progress& progress) {
    std::map<std::size_t, TestTile> out;
    const design::Stack* work = state.made.work();
    if (!work || !state.made.sheets)
        return out;
    std::map<design::PieceId, Hardest> known;
    for (std::size_t i = 0; i < state.made.sheets->loads.size(); ++i) {
        const design::Load& load = state.made.sheets->loads[i];
        Hardest hardest;
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& placed : sheet.pieces) {
                const design::Laid* laid = work->find(placed.what.piece);
                const design::Stock* stock = design::findStock(work->stocks, sheet.stockId);
                if (!laid || !stock)
                    continue;
                if (!known.contains(laid->id())) {
                    const auto one = hardestOf(state, *laid, *stock, progress);
                    if (!one)
                        return one.error();
                    known[laid->id()] = *one;
                }
                hardest.include(known[laid->id()]);
            }
        auto tile = tileOf(hardest);
        if (!tile)
            return tile.error();
        const Box box = geometry::bounds(tile->card);
        for (std::size_t s = 0;
             s < load.sheets.size() && load.sheets[s].stockId == load.sheets.front().stockId; ++s) {
            geometry::Polygons pieces;
            for (const design::PlacedPiece& placed : load.sheets[s].pieces)
                if (const design::Laid* laid = work->find(placed.what.piece))
                    for (geometry::Polygon& ring :
                         geometry::flatten(geometry::transformed(laid->shape(),
                                                                 design::placement(laid->piece, placed.pose)),
                                           kFlatMm))
                        pieces.push_back(std::move(ring));
            const auto corner = placeFor(load.sheets[s], pieces, box.width(), box.height(),
                                         std::max(2.0, state.job.plan.spacingMm));
            if (!corner)
                continue;
            const auto map = geometry::Transform::move(*corner - box.least);
            TestTile placed = *tile;
            placed.sheet = s;
            placed.card = geometry::transformed(placed.card, map);
            for (geometry::Line& line : placed.perforation)
                line = geometry::transformed(line, map);
            out.emplace(i, std::move(placed));
            break;
        }
    }
    return out;
}

std::string tileText(const TestTile& tile, base::LengthUnit unit) {
    std::string out;
    const auto add = [&](double mm, const std::string& what) {
        if (mm > 0)
            out += (out.empty() ? "" : ", ") + what + base::formatLength(mm, unit);
    };
    add(tile.neckMm, "a strip of ");
    add(tile.openingMm, "an opening of ");
    add(tile.slotMm, "a slot of ");
    add(tile.cutMm, "a perforation with cuts of ");
    return out;
}

} // namespace thinline::job
