// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Numbers are no decision beyond "with numbers": which one a piece has follows from how the work is put together, and where
// there is room from what lies on it. So they are made last, as marks are, and never kept.
#include "job/Numbering.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "lettering/Strokes.h"
#include "split/Steps.h"

#include <algorithm>
#include <optional>

namespace thinline::job {
namespace {

using design::Body;
using design::Laid;
using geometry::Box;
using geometry::Shape;

constexpr double kInsetMm = 1.5, kLeastHighMm = 2.5, kMostHighMm = 5;

/// The largest digits that have room in a shape, and where; nothing below the least height.
std::optional<std::pair<Box, double>> roomIn(const std::vector<Shape>& shapes, int number,
                                             const base::Progress& progress) {
    std::optional<std::pair<Box, double>> out;
    for (const Shape& shape : shapes) {
        const Box box = geometry::bounds(shape);
        if (std::min(box.width() / lettering::digitsWidth(number, 1),
                     box.height() / lettering::digitsHeight(number, 1)) < kLeastHighMm)
            continue;
        const auto room = geometry::largestRectangleInside(shape, progress);
        if (!room)
            continue;
        const double high = std::min({kMostHighMm, room->width() / lettering::digitsWidth(number, 1),
                                      room->height() / lettering::digitsHeight(number, 1)});
        if (high >= kLeastHighMm && (!out || high > out->second))
            out = {*room, high};
    }
    return out;
}

base::Result<std::shared_ptr<const Body>> numbered(const std::shared_ptr<const Body>& body,
                                                   const NumberMemo& memo, const base::Progress& progress) {
    std::vector<Shape> covers;
    for (const auto& cover : memo.covers)
        covers.push_back(cover->shape);
    auto whole = geometry::weld(covers, progress);
    if (!whole)
        return whole.error();
    auto common = geometry::intersect({body->shape}, *whole, progress);
    if (!common)
        return common.error();
    auto inner = geometry::offset(*common, -kInsetMm, {}, progress);
    if (!inner)
        return inner.error();
    const auto room = roomIn(inner->shapes, memo.number, progress);
    if (!room)
        return body;
    const auto& [box, high] = *room;
    const geometry::Point corner =
        box.centre() - geometry::Point{lettering::digitsWidth(memo.number, high),
                                       lettering::digitsHeight(memo.number, high)} *
                           0.5;
    Body out = *body;
    int line = kFirstDigit;
    for (geometry::Line& stroke : lettering::digitLines(memo.number, corner, high))
        out.lines.push_back(
            {design::LineId{line++}, std::move(stroke),
             memo.isScored ? design::LineUse{design::Score{}} : design::LineUse{design::Pen{}}});
    return std::make_shared<const Body>(std::move(out));
}

} // namespace

base::Result<NumbersTold> numberPieces(const Job& job, design::Stack& work, const design::Heights& heights,
                                       design::RowMemory& rows, design::Remembered<NumberMemo>& memory,
                                       const base::Progress& progress) {
    NumbersTold out;
    if (job.assembly.numbers == assembly::Numbers::None)
        return out;
    assembly::Work whole{work, heights, rows};
    for (const auto& step : job.steps)
        if (split::isDivision(*step))
            whole.divisions.push_back(step->id);
    const auto numbers = assembly::numbersOf(whole, job.assembly, progress);
    const auto contacts = assembly::contactsOf(whole, progress);
    if (!numbers || !contacts)
        return !numbers ? numbers.error() : contacts.error();
    std::vector<std::vector<std::size_t>> covers(work.pieces.size());
    for (std::size_t i = 0; i < work.pieces.size(); ++i)
        for (const std::size_t other : contacts->before[i])
            if (!assembly::isBehind(work, work.pieces[i]))
                covers[other].push_back(i);
            else
                covers[i].push_back(other); // seen from the front, what is nearer to the base covers it
    for (std::size_t i = 0; i < work.pieces.size(); ++i)
        if (assembly::isBehind(work, work.pieces[i]))
            for (const std::size_t other : contacts->under[i])
                if (!assembly::isBehind(work, work.pieces[other]))
                    covers[i].push_back(other);
    std::vector<std::shared_ptr<const Body>> bodies(work.pieces.size());
    for (std::size_t i = 0; i < work.pieces.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        const Laid& laid = work.pieces[i];
        if (covers[i].empty() || laid.up == design::Side::Back) {
            ++out.without;
            continue;
        }
        NumberMemo memo{numbers->at(laid.id()), job.assembly.numbers == assembly::Numbers::Scored, {}, {}};
        for (const std::size_t other : covers[i])
            memo.covers.push_back(work.pieces[other].piece.body);
        const auto known = memory.find(laid.piece.body);
        if (known && known->number == memo.number && known->isScored == memo.isScored &&
            known->covers == memo.covers)
            memo.numbered = known->numbered;
        else if (auto body = numbered(laid.piece.body, memo, progress))
            memo.numbered = body.take();
        else
            return body.error();
        ++(memo.numbered == laid.piece.body ? out.without : out.on);
        bodies[i] = memo.numbered;
        memory.keep(laid.piece.body, std::make_shared<const NumberMemo>(std::move(memo)));
    }
    for (std::size_t i = 0; i < bodies.size(); ++i)
        if (bodies[i])
            work.pieces[i].piece.body = bodies[i];
    return out;
}

} // namespace thinline::job
