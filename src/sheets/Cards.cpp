// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Sheets and scraps, and what of them is free.
//
// A search knows boxes and outlines that must not be touched. So a scrap is the box of what is left of it inside its margin,
// and all of that box which is not free is one blocked area: beyond the outline, and what is to stay free of the mat below.
// Where a scrap fits into the part of a mat that the rollers leave, it may lie anywhere and is put where there is room
// (sheets/Zones.h); where it is as large as the mat it lies in its middle, and the mat's margin cuts into it. One that was
// found on a mat lies where it was found.
#include "sheets/Cards.h"

#include "base/Length.h"
#include "geometry/PolygonEngine.h"
#include "sheets/FreeSpace.h"

#include <algorithm>
#include <cmath>

namespace thinline::sheets {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;
using geometry::Polygons;

constexpr double kBeyondMm = 10;   // how far a blocked area reaches over the box of what is usable
constexpr double kRoundMm = 0.005; // of a shrunk outline
constexpr double kSlackMm = 1e-6;

geometry::Polygon ringOf(const Box& box) {
    return {box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}};
}

std::string sizeText(const Box& box) {
    return base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre);
}
std::string called(const design::Scrap& scrap) {
    return "The scrap" + (scrap.name.empty() ? "" : " \"" + scrap.name + "\"") + ", " +
           sizeText(geometry::bounds(scrap.rings)) + ",";
}

/// All that is blocked of a card's usable box, as one area.
base::Result<Polygons> blockedOn(const Card& card, const std::vector<Box>& keepOuts) {
    Polygons out;
    const Box frame = card.usable.grownBy(kBeyondMm);
    if (!card.outline.empty()) {
        const auto free = geometry::grown(card.outline, -card.marginMm, kRoundMm);
        if (!free)
            return free.error();
        const auto beyond = geometry::subtract({ringOf(frame)}, *free);
        if (!beyond)
            return beyond.error();
        out = *beyond;
    }
    for (const Box& keepOut : keepOuts)
        if (keepOut.meets(card.usable))
            out.push_back(ringOf(keepOut));
    return out.empty() ? base::Result<Polygons>(out) : geometry::subtract(out, {}); // united
}

std::vector<Box> movedBy(std::vector<Box> boxes, Point by) {
    for (Box& box : boxes)
        box = {box.least + by, box.most + by};
    return boxes;
}

base::Result<std::vector<Card>> sheetsOf(const std::string& stockId, const ArrangeOptions& options) {
    const design::SheetFormat& format = options.sheetFor(stockId);
    const auto places = sheetPlaces(options.mat, format);
    if (!places)
        return places.error();
    const std::size_t most = options.alone.contains(stockId) ? 1 : places->size();
    std::vector<Card> out;
    for (std::size_t i = 0; i < most; ++i) {
        const Box& place = (*places)[i];
        Card card{place.width(), place.height(), format.marginMm};
        card.at = place.least;
        card.join = joinIn(format, place);
        const Box usable = usableArea(options.mat, format, place);
        card.usable = {usable.least - place.least, usable.most - place.least};
        std::vector<Box> keepOuts = movedBy(options.keepOuts, place.least * -1);
        if (options.areCornersTaped)
            for (const Box& corner : tapedCorners(card.widthMm, card.heightMm))
                keepOuts.push_back(corner);
        auto blocked = blockedOn(card, keepOuts);
        if (!blocked)
            return blocked.error();
        card.blocked = blocked.take();
        out.push_back(std::move(card));
    }
    return out;
}

/// Where a scrap lies that does not go just anywhere.
void putOnMat(Card& card, const design::Scrap& scrap, const ArrangeOptions& options) {
    const design::MatFormat& mat = options.mat;
    if (scrap.at) {
        card.at = scrap.at;
        card.mat = scrap.mat;
        return;
    }
    const double across = mat.widthMm - 2 * (mat.marginMm - kScrapMarginMm),
                 down = mat.heightMm - 2 * (mat.marginMm - kScrapMarginMm),
                 more = 2 * std::max(0.0, kScrapMarginMm - card.marginMm);
    const auto goes = [&](double width, double height) {
        return (card.widthMm + more <= width + kSlackMm && card.heightMm + more <= height + kSlackMm) ||
               (card.heightMm + more <= width + kSlackMm && card.widthMm + more <= height + kSlackMm);
    };
    if (goes(across, down))
        return;
    if (card.widthMm > mat.widthMm + kSlackMm || card.heightMm > mat.heightMm + kSlackMm) {
        card.isTurned = true;
        std::swap(card.widthMm, card.heightMm);
        card.outline = turnedByQuarter(card.outline);
    }
    card.at = Point{std::min(mat.marginMm, (mat.widthMm - card.widthMm) / 2),
                    std::min(mat.marginMm, (mat.heightMm - card.heightMm) / 2)};
}

base::Result<Card> cardOf(const design::Scrap& scrap, const ArrangeOptions& options) {
    if (auto ok = checkScrap(scrap); !ok)
        return ok.error();
    const design::MatFormat& mat = options.mat;
    const Box box = geometry::bounds(scrap.rings);
    Card card{box.width(), box.height(), scrap.marginMm, scrap.rings, scrap.id};
    const bool isRectangle = scrap.rings.size() == 1 && scrap.rings[0].size() == 4 &&
                             std::abs(geometry::signedArea(scrap.rings[0]) - box.width() * box.height()) <
                                 1e-6 * box.width() * box.height();
    if (isRectangle)
        card.outline.clear();
    putOnMat(card, scrap, options);
    if (card.widthMm > mat.widthMm + kSlackMm || card.heightMm > mat.heightMm + kSlackMm)
        return Error{Code::InvalidArgument,
                     called(scrap) + " does not lie on a mat of " +
                         base::formatSize(mat.widthMm, mat.heightMm, base::LengthUnit::Millimetre) +
                         "; take it out or choose a larger mat."};
    card.usable = Box{{0, 0}, {card.widthMm, card.heightMm}}.grownBy(-card.marginMm);
    if (!card.outline.empty()) {
        const auto free = geometry::grown(card.outline, -card.marginMm, kRoundMm);
        if (!free)
            return free.error();
        card.usable = geometry::bounds(*free);
    }
    std::vector<Box> keepOuts; // a scrap that goes where there is room goes beside them
    if (card.at) {
        const Box reach{Point{mat.marginMm, mat.marginMm} - *card.at,
                        Point{mat.widthMm - mat.marginMm, mat.heightMm - mat.marginMm} - *card.at};
        card.usable.least = {std::max(card.usable.least.x, reach.least.x),
                             std::max(card.usable.least.y, reach.least.y)};
        card.usable.most = {std::min(card.usable.most.x, reach.most.x),
                            std::min(card.usable.most.y, reach.most.y)};
        keepOuts = movedBy(options.keepOuts, *card.at * -1);
    }
    if (card.usable.isEmpty())
        return Error{Code::InvalidArgument,
                     called(scrap) + " lies wholly in the mat's margin; move it or take it out."};
    auto blocked = blockedOn(card, keepOuts);
    if (!blocked)
        return blocked.error();
    card.blocked = blocked.take();
    return card;
}

/// The stretches across a strip in which an area reaches into it: its breadths at both edges of the strip, and every side of
/// the area that runs between them.
std::vector<std::pair<double, double>> stretchesIn(const Polygons& area, double top, double bottom) {
    std::vector<std::pair<double, double>> out;
    for (const double y : {top, bottom}) {
        std::vector<double> crossings;
        for (const geometry::Polygon& ring : area)
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const Point a = ring[i], b = ring[(i + 1) % ring.size()];
                if ((a.y <= y) != (b.y <= y))
                    crossings.push_back(a.x + (y - a.y) * (b.x - a.x) / (b.y - a.y));
            }
        std::sort(crossings.begin(), crossings.end());
        for (std::size_t i = 0; i + 1 < crossings.size(); i += 2)
            out.emplace_back(crossings[i], crossings[i + 1]);
    }
    for (const geometry::Polygon& ring : area)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            if (std::max(a.y, b.y) <= top || std::min(a.y, b.y) >= bottom)
                continue;
            const auto at = [&](double y) {
                return a.y == b.y ? a.x
                                  : a.x + (std::clamp(y, std::min(a.y, b.y), std::max(a.y, b.y)) - a.y) *
                                              (b.x - a.x) / (b.y - a.y);
            };
            const double from = a.y == b.y ? a.x : at(top), to = a.y == b.y ? b.x : at(bottom);
            out.emplace_back(std::min(from, to), std::max(from, to));
        }
    return out;
}

} // namespace

std::vector<Box> tapedCorners(double widthMm, double heightMm) {
    const Point size{kTapedMm, kTapedMm};
    std::vector<Box> out;
    for (const double x : {0.0, widthMm - kTapedMm})
        for (const double y : {0.0, heightMm - kTapedMm})
            out.push_back({{x, y}, Point{x, y} + size});
    return out;
}

std::vector<Box> freeRectangles(const Card& card) {
    if (card.blocked.empty())
        return {card.usable};
    constexpr double kStrips = 24, kLeastMm = 2;
    const double strip = std::max(kLeastMm, card.usable.height() / kStrips);
    FreeSpace space(card.usable);
    for (double top = card.usable.least.y; top < card.usable.most.y; top += strip)
        for (const auto& [from, to] : stretchesIn(card.blocked, top, top + strip))
            space.take({{from, top}, {to, top + strip}});
    return space.rectangles();
}

std::size_t binOfScrap(int scrapId, const Cards& cards) {
    std::size_t out = 0;
    while (out < cards.scraps.size() && cards.scraps[out].scrap != scrapId)
        ++out;
    return out;
}

std::size_t binOf(const Pin& pin, const Cards& cards) {
    if (const std::size_t scrap = binOfScrap(pin.scrapId, cards); scrap < cards.scraps.size())
        return scrap;
    return cards.scraps.size() + static_cast<std::size_t>(std::max(0, pin.sheetOfStock));
}

design::Pose poseOf(const Pin& pin, const Card& card) {
    return card.isTurned ? design::turnedByQuarter(pin.pose, card.widthMm) : pin.pose;
}

Polygons turnedByQuarter(const Polygons& rings) {
    const double height = geometry::bounds(rings).most.y;
    Polygons out = rings;
    for (geometry::Polygon& ring : out)
        for (Point& p : ring)
            p = {height - p.y, p.x};
    return out;
}

base::Status checkScrap(const design::Scrap& scrap) {
    if (scrap.rings.empty() || scrap.rings.front().size() < 3)
        return Error{Code::InvalidArgument, "A scrap needs an outline."};
    const auto free = geometry::grown(scrap.rings, -scrap.marginMm, kRoundMm);
    if (!free)
        return free.error();
    if (free->empty())
        return Error{Code::InvalidArgument, called(scrap) + " has no room inside its margin of " +
                                                base::formatNumber(scrap.marginMm, 1) +
                                                " mm; make the margin smaller or leave it out."};
    return base::Done{};
}

base::Result<Cards> cardsOf(const std::string& stockId, const ArrangeOptions& options) {
    Cards out;
    for (const design::Scrap& scrap : options.scraps) {
        if (scrap.stockId != stockId)
            continue;
        auto card = cardOf(scrap, options);
        if (!card)
            return card.error();
        out.scraps.push_back(card.take());
    }
    auto sheets = sheetsOf(stockId, options);
    if (!sheets)
        return sheets.error();
    out.sheets = sheets.take();
    return out;
}

} // namespace thinline::sheets
