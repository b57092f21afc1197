// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/PrintPages.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {

using base::Code;
using base::Error;
using design::Side;
using geometry::Point;
using geometry::Transform;

namespace {

constexpr double kInchMm = 25.4;

const design::PlacedSheet& sheetOf(const State& state, const PrintPage& page) {
    return state.made.sheets->loads[page.load].sheets[page.sheet];
}

bool showsOn(const design::Body& body, Side side) {
    return std::any_of(body.faces.begin(), body.faces.end(),
                       [&](const design::Face& face) { return face.side == side; });
}

} // namespace

std::vector<PrintPage> printPagesOf(const State& state) {
    std::vector<PrintPage> out;
    const design::Stack* work = state.made.work();
    if (!state.made.sheets || !work)
        return out;
    const auto& loads = state.made.sheets->loads;
    for (std::size_t l = 0; l < loads.size(); ++l)
        for (std::size_t s = 0; s < loads[l].sheets.size(); ++s) {
            const design::PlacedSheet& sheet = loads[l].sheets[s];
            const design::Stock* stock = design::findStock(work->stocks, sheet.stockId);
            if (!stock || !state.job.print.stocks.contains(sheet.stockId))
                continue;
            PrintPage page{l,
                           s,
                           sheet.stockId,
                           print::layoutOf(sheet.widthMm, sheet.heightMm, state.job.print.printerMarginMm,
                                           state.job.print.hasMarks),
                           {static_cast<int>(out.size()), false},
                           design::bleedOf(*stock)};
            for (const design::PlacedPiece& placed : sheet.pieces)
                if (const design::Laid* laid = work->find(placed.what.piece)) {
                    const bool isFlipped = placed.pose.isFlipped;
                    page.hasFront =
                        page.hasFront || showsOn(*laid->piece.body, isFlipped ? Side::Back : Side::Front);
                    page.hasBack =
                        page.hasBack || showsOn(*laid->piece.body, isFlipped ? Side::Front : Side::Back);
                }
            out.push_back(std::move(page));
        }
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i].name = "page " + std::to_string(i + 1) + " of " + std::to_string(out.size());
    return out;
}

std::vector<OnPage> piecesOn(const State& state, const PrintPage& page, bool isBack) {
    std::vector<OnPage> out;
    const design::Stack& work = *state.made.work();
    const design::PlacedSheet& sheet = sheetOf(state, page);
    for (const design::PlacedPiece& placed : sheet.pieces) {
        const design::Laid* laid = work.find(placed.what.piece);
        if (!laid)
            continue;
        Transform map =
            design::placement(laid->piece, placed.pose).then(Transform::move({-sheet.xMm, -sheet.yMm}));
        if (isBack)
            map = map.then({-1, 0, 0, 1, sheet.widthMm, 0});
        out.push_back(
            {placed.what, laid->piece.body, placed.pose.isFlipped == isBack ? Side::Front : Side::Back, map});
    }
    return out;
}

base::Result<PrintedPage> paintedPage(const State& state, const PrintPage& page, bool isBack, double dpi,
                                      const Decoded& art, const base::Progress& progress, bool wantsMask) {
    const double pxPerMm = dpi / kInchMm;
    const double width = std::round(page.layout.widthMm * pxPerMm),
                 height = std::round(page.layout.heightMm * pxPerMm);
    if (!(width * height <= static_cast<double>(raster::kMostPixels)))
        return Error{Code::LimitExceeded, "A page of this size at " + std::to_string(static_cast<int>(dpi)) +
                                              " dpi has more than 100 megapixels; print it at 300."};
    PrintedPage out{raster::Canvas(static_cast<int>(width), static_cast<int>(height), {255, 255, 255}),
                    pxPerMm};
    if (wantsMask)
        out.mask = {out.picture.width(), out.picture.height(),
                    std::vector<std::uint8_t>(out.picture.pixels().size(), 0)};
    const std::vector<OnPage> pieces = piecesOn(state, page, isBack);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(pieces.size()), "Painting a page");
        const auto painted = print::paint(out.picture, *pieces[i].body,
                                          {pieces[i].toPage, pieces[i].side, page.bleedMm, pxPerMm},
                                          art.gallery, progress, wantsMask ? &out.mask : nullptr);
        if (!painted)
            return painted.error();
        out.extended += painted->extended;
        out.bare += painted->bare;
    }
    return out;
}

void addMarks(PrintedPage& painted, const PrintPage& page, bool isBack) {
    geometry::Polygons rings = print::marksOn(page.layout, {page.number.page, isBack});
    const geometry::Polygons ruler = print::rulerOn(page.layout);
    rings.insert(rings.end(), ruler.begin(), ruler.end());
    for (geometry::Polygon& ring : rings)
        for (Point& p : ring)
            p = p * painted.pxPerMm;
    painted.picture.fill(rings, {0, 0, 0});
}

} // namespace thinline::job
