// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/PlottedMat.h"

#include "cutplan/Timeline.h"
#include "cutplan/Timing.h"
#include "geometry/Arcs.h"

namespace thinline::devices {
namespace {

using design::Operation;
using design::ToolKind;
using geometry::Point;

constexpr double kSameMm = 2.0 / 40; ///< two plotter units

geometry::Line lineThrough(const geometry::Polygon& way, double heightMm) {
    const auto onMat = [&](Point p) { return Point{p.x, heightMm - p.y}; };
    geometry::Line out;
    out.start = onMat(way.front());
    for (std::size_t i = 1; i < way.size(); ++i)
        out.segments.push_back(geometry::Segment::line(onMat(way[i])));
    if (out.segments.size() > 1 && geometry::distance(out.start, out.segments.back().end) <= kSameMm)
        out.segments.back().end = out.start;
    return out;
}

design::Pass passOf(int pen, const design::Machine& machine) {
    design::Pass out;
    out.tool = pen == 1 ? ToolKind::Pen : pen == 2 ? ToolKind::Stylus : ToolKind::ShallowBlade;
    out.operation = pen == 1 ? Operation::Draw : pen == 2 ? Operation::Score : Operation::Cut;
    out.mmPerS = machine.cutMmPerS;
    return out;
}

} // namespace

PlottedMat plottedOn(const formats::plotter::PlotterPage& page, const design::MatFormat& mat,
                     const design::Machine& machine) {
    PlottedMat out;
    out.endsLifted = page.endsLifted;
    const geometry::Box usable =
        geometry::Box{{mat.marginMm, mat.marginMm}, {mat.widthMm - mat.marginMm, mat.heightMm - mat.marginMm}}
            .grownBy(kSameMm / 2);
    int pen = -1;
    Point at;
    for (const formats::plotter::Drawn& drawn : page.lines) {
        if (drawn.way.size() < 2)
            continue;
        if (drawn.pen != pen)
            out.load.passes.push_back(passOf(drawn.pen, machine));
        pen = drawn.pen;
        design::Pass& pass = out.load.passes.back();
        design::PlannedPath path;
        path.line = lineThrough(drawn.way, mat.heightMm);
        const geometry::Box box = geometry::bounds(path.line);
        out.box.include(box);
        out.staysOnMat = out.staysOnMat && usable.contains(box.least) && usable.contains(box.most);
        ++out.lines;
        if (design::isBlade(pass.tool))
            ++(geometry::endOf(path.line) == path.line.start ? out.closed : out.open);
        const double travel = geometry::distance(at, path.line.start);
        pass.travelMm += travel;
        pass.lineMm += geometry::contourLength(path.line);
        pass.seconds += cutplan::secondsFor(travel, machine.travelMmPerS, machine.mmPerS2) +
                        cutplan::secondsAlong(path.line, pass.mmPerS, machine.mmPerS2) + 2 * machine.liftS;
        at = geometry::endOf(path.line);
        pass.paths.push_back(std::move(path));
    }
    for (const design::Pass& pass : out.load.passes)
        out.load.seconds += pass.seconds;
    return out;
}

void showAfter(raster::Canvas& canvas, const MatAfter& after, const design::Load& load,
               const design::Stack& stack, double pxPerMm) {
    constexpr raster::Rgb kFree{255, 255, 255}, kLost{196, 84, 30};
    constexpr double kPale = 0.45, kChordMm = 0.05, kRingPx = 9, kLinePx = 2;
    const auto scale = geometry::Transform::scale(pxPerMm, pxPerMm);
    std::size_t n = 0;
    for (const design::PlacedSheet& sheet : load.sheets)
        for (const design::PlacedPiece& placed : sheet.pieces) {
            const design::Laid* laid = stack.find(placed.what.piece);
            if (n >= after.copies.size() || !laid)
                return;
            const Comes comes = after.copies[n++].comes;
            const bool isFree = comes == Comes::Free || comes == Comes::Tabbed;
            canvas.fill(
                geometry::flatten(geometry::transformed(
                                      laid->shape(), design::placement(laid->piece, placed.pose).then(scale)),
                                  kChordMm * pxPerMm),
                isFree ? kFree : kLost, kPale);
        }
    const auto ring = [&](Point at) {
        const geometry::Contour circle = geometry::ellipse(at * pxPerMm, kRingPx, kRingPx);
        canvas.stroke({geometry::flatten(circle, kChordMm)}, kLinePx, kLost);
    };
    for (const Tear& tear : after.tears)
        ring(tear.at);
    for (const Slip& slip : after.slips)
        ring(slip.at);
}

raster::Canvas pictureOf(const design::PlannedLoad& planned, const design::MatFormat& mat,
                         const std::vector<design::PlacedSheet>& sheets,
                         const std::vector<design::Stock>& stocks, const design::Machine& machine,
                         double seconds, double pxPerMm) {
    constexpr raster::Rgb kMat{186, 204, 206}, kCut{30, 42, 49}, kOther{101, 45, 92}, kNotYet{150, 160, 165};
    constexpr double kChordMm = 0.05, kLinePx = 1.4;
    const auto px = [&](double mm) { return std::max(1, static_cast<int>(mm * pxPerMm + 0.5)); };
    raster::Canvas canvas(px(mat.widthMm), px(mat.heightMm), kMat);
    for (const design::PlacedSheet& sheet : sheets) {
        geometry::Polygons rings = design::outlineOf(sheet);
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = p * pxPerMm;
        canvas.fill(rings, design::colourOf(stocks, sheet.stockId));
    }
    const cutplan::Timeline timeline(planned, machine);
    std::vector<std::vector<char>> isDone;
    for (const design::Pass& pass : planned.passes)
        isDone.emplace_back(pass.paths.size(), 0);
    for (const cutplan::Moment& moment : timeline.moments())
        if (moment.what == cutplan::Moment::What::Line && moment.toS <= seconds + 1e-9)
            isDone[moment.pass][moment.path] = 1;
    for (std::size_t p = 0; p < planned.passes.size(); ++p)
        for (std::size_t i = 0; i < planned.passes[p].paths.size(); ++i) {
            const geometry::Line& line = planned.passes[p].paths[i].line;
            geometry::Polygon way = geometry::flatten(line, kChordMm);
            way.push_back(geometry::endOf(line));
            const raster::Rgb colour = !isDone[p][i]                             ? kNotYet
                                       : design::isBlade(planned.passes[p].tool) ? kCut
                                                                                 : kOther;
            for (std::size_t k = 0; k + 1 < way.size(); ++k)
                canvas.line(way[k] * pxPerMm, way[k + 1] * pxPerMm, kLinePx, colour, isDone[p][i] ? 0 : 3);
        }
    return canvas;
}

} // namespace thinline::devices
