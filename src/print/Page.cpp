// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Marks of our own.
//
// A mark is a ring with a cross in it: the ring is found at any turn, and its edges and those of the cross give the middle to a
// small part of a pixel. Four of them stand at the corners of what is printed. They look alike whichever way the page lies; a long
// bar beside the upper left one tells it. Behind the bar four cells number the page: three for its number, one that is black on a
// back. So a page that was laid upside down, or another page of the job, is noticed before it is cut.
#include "print/Page.h"

namespace thinline::print {
namespace {

using geometry::Box;
using geometry::Point;
using geometry::Polygon;

constexpr double kQuietMm = 0.8; // white round a mark
constexpr double kClearMm = 2.5; // between marks and what is cut; from memory
constexpr double kBarMm = 14, kBarHighMm = 3, kFromMarkMm = 10, kCellMm = 3, kBetweenCellsMm = 1.5;
constexpr double kRulerHighMm = 3;

double markReach() {
    return raster::kTarget.outerMm + kQuietMm;
}

Polygon ringOf(const Box& box) {
    return {box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}};
}

} // namespace

double takenByMarksMm(double printerMarginMm, bool hasMarks) {
    return printerMarginMm + (hasMarks ? 2 * markReach() + kClearMm : 0);
}

PageLayout layoutOf(double widthMm, double heightMm, double printerMarginMm, bool hasMarks) {
    PageLayout out{widthMm, heightMm};
    const double taken = takenByMarksMm(printerMarginMm, hasMarks);
    out.area = {{taken, taken}, {widthMm - taken, heightMm - taken}};
    if (!hasMarks)
        return out;
    const double in = printerMarginMm + markReach();
    out.marks = {{{in, in}, {widthMm - in, in}, {widthMm - in, heightMm - in}, {in, heightMm - in}}};
    const Point bar{in + kFromMarkMm, in - kBarHighMm / 2};
    out.bar = {bar, bar + Point{kBarMm, kBarHighMm}};
    Point cell{out.bar.most.x + kBetweenCellsMm, in - kCellMm / 2};
    for (Box& one : out.cells) {
        one = {cell, cell + Point{kCellMm, kCellMm}};
        cell.x += kCellMm + kBetweenCellsMm;
    }
    const Point ruler{in + kFromMarkMm, heightMm - printerMarginMm - kRulerHighMm};
    out.ruler = {ruler, ruler + Point{kRulerMm, kRulerHighMm}};
    return out;
}

geometry::Polygons marksOn(const PageLayout& layout, PageNumber number) {
    geometry::Polygons out;
    if (!layout.hasMarks())
        return out;
    for (const Point mark : layout.marks)
        for (Polygon ring : raster::targetRings()) {
            for (Point& p : ring)
                p = p + mark;
            out.push_back(std::move(ring));
        }
    out.push_back(ringOf(layout.bar));
    for (std::size_t i = 0; i < layout.cells.size(); ++i)
        if (i == layout.cells.size() - 1 ? number.isBack : number.page >> i & 1)
            out.push_back(ringOf(layout.cells[i]));
    return out;
}

geometry::Polygons rulerOn(const PageLayout& layout) {
    geometry::Polygons out;
    if (layout.ruler.isEmpty())
        return out;
    constexpr double kThinMm = 0.2;
    const Box& ruler = layout.ruler;
    const double left = ruler.least.x - kThinMm / 2; // ticks stand with their middles at whole centimetres
    out.push_back(ringOf({{left, ruler.most.y - kThinMm}, {ruler.most.x + kThinMm / 2, ruler.most.y}}));
    for (int mm = 0; mm <= static_cast<int>(kRulerMm); mm += 5) {
        const double high = mm % 10 == 0 ? ruler.height() : ruler.height() / 2;
        out.push_back(
            ringOf({{left + mm, ruler.most.y - high}, {left + mm + kThinMm, ruler.most.y - kThinMm}}));
    }
    return out;
}

} // namespace thinline::print
