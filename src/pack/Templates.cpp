// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Templates.h"

#include "design/Cuts.h"
#include "formats/pdf/WritePages.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::pack {
namespace {

using base::Code;
using base::Error;
using formats::pdf::Drawn;
using formats::pdf::Page;
using geometry::Box;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

constexpr double kFootMm = 16; ///< below the window: what the sheet is, and the rulers
constexpr double kInchMm = 25.4;

Contour stretch(Point a, Point b) {
    return {a, {Segment::line(b)}};
}

/// How a piece is spread over sheets of paper.
struct Spread {
    double widthMm = 0, heightMm = 0; ///< of the paper as it is loaded
    Box window;                       ///< in which the piece shows
    double lapMm = 0;
    int across = 0, down = 0;

    Spread(const Paper& paper, bool isTurned, const Box& piece)
        : widthMm(isTurned ? paper.heightMm : paper.widthMm),
          heightMm(isTurned ? paper.widthMm : paper.heightMm), window{{paper.marginMm, paper.marginMm},
                                                                      {widthMm - paper.marginMm,
                                                                       heightMm - paper.marginMm - kFootMm}},
          lapMm(paper.lapMm) {
        across = countOf(piece.width() + 2, window.width());
        down = countOf(piece.height() + 2, window.height());
    }
    int pages() const { return across * down; }
    bool isPossible() const { return window.width() > 2 * lapMm && window.height() > 2 * lapMm; }

    /// From the piece to the sheet in this column and row. A millimetre is free around the whole.
    geometry::Transform map(const Box& piece, int column, int row) const {
        const Point least = window.least + Point{1, 1};
        return geometry::Transform::move({least.x - piece.least.x - column * (window.width() - lapMm),
                                          least.y - piece.least.y - row * (window.height() - lapMm)});
    }

  private:
    int countOf(double lengthMm, double windowMm) const {
        return std::max(1, static_cast<int>(std::ceil((lengthMm - lapMm) / (windowMm - lapMm) - 1e-9)));
    }
};

/// "B3": the second column, the third row.
std::string sheetName(int column, int row) {
    std::string letters;
    for (int n = column; n >= 0; n = n / 26 - 1)
        letters.insert(letters.begin(), static_cast<char>('A' + n % 26));
    return letters + std::to_string(row + 1);
}

/// A line with a stroke at either end and in the middle.
void addRuler(Point at, double lengthMm, const std::string& words, Page& page) {
    Drawn ruler{{stretch(at, at + Point{lengthMm, 0})}, 0.25, 0};
    for (const double share : {0.0, 0.5, 1.0})
        ruler.lines.push_back(stretch(at + Point{share * lengthMm, -1.5}, at + Point{share * lengthMm, 1.5}));
    page.marks.push_back(std::move(ruler));
    page.labels.push_back({at + Point{1, -0.7}, words, 2.8});
}

/// Where neighbours are laid on, and crosses at the corners all four of them show.
void addMarks(const Spread& spread, int column, int row, Page& page) {
    const Box& window = spread.window;
    const double right = window.most.x - spread.lapMm, low = window.most.y - spread.lapMm;
    const bool hasRight = column + 1 < spread.across, hasBelow = row + 1 < spread.down;
    Drawn laps{{}, 0.18, 0.5, {3, 2}};
    if (hasRight)
        laps.lines.push_back(stretch({right, window.least.y}, {right, window.most.y}));
    if (hasBelow)
        laps.lines.push_back(stretch({window.least.x, low}, {window.most.x, low}));
    if (!laps.lines.empty())
        page.marks.push_back(std::move(laps));
    Drawn crosses{{}, 0.18, 0};
    // Beginnings of laps of this sheet and ends of those of its neighbours before: the same places of the piece.
    std::vector<double> xs, ys;
    if (column > 0)
        xs.push_back(window.least.x);
    if (hasRight)
        xs.push_back(right);
    if (row > 0)
        ys.push_back(window.least.y);
    if (hasBelow)
        ys.push_back(low);
    if (xs.empty())
        xs = {window.least.x + 4, window.most.x - 4};
    if (ys.empty())
        ys = {window.least.y + 4, window.most.y - 4};
    for (const double x : spread.pages() > 1 ? xs : std::vector<double>{})
        for (const double y : ys) {
            crosses.lines.push_back(stretch({x - 4, y}, {x + 4, y}));
            crosses.lines.push_back(stretch({x, y - 4}, {x, y + 4}));
        }
    if (!crosses.lines.empty())
        page.marks.push_back(std::move(crosses));
}

/// The lines of a thing and how they are drawn.
std::array<std::pair<const std::vector<Contour>*, Drawn>, 4> kinds(const ByHand& piece) {
    return {std::pair{&piece.cuts, Drawn{{}, 0.3, 0}},
            {&piece.away, Drawn{{}, 0.3, 0, {4, 1.5}}},
            {&piece.towards, Drawn{{}, 0.45, 0, {0.1, 1.4}}},
            {&piece.others, Drawn{{}, 0.2, 0.5}}};
}

Box boxOf(const ByHand& piece) {
    Box out;
    for (const auto& [lines, how] : kinds(piece))
        for (const Contour& line : *lines)
            out.include(geometry::bounds(line));
    return out;
}

/// Whether anything of a thing shows on a sheet of paper.
bool shows(const ByHand& piece, const Spread& spread, const Box& box, int column, int row) {
    const auto map = spread.map(box, column, row);
    for (const auto& [lines, how] : kinds(piece))
        for (const Contour& line : *lines)
            if (geometry::transformed(geometry::bounds(line), map).meets(spread.window))
                return true;
    return false;
}

Page pageOf(const ByHand& piece, const Spread& spread, const Box& box, int column, int row) {
    Page page{spread.widthMm, spread.heightMm, spread.window};
    const auto map = spread.map(box, column, row);
    for (const auto& [lines, how] : kinds(piece)) {
        Drawn drawn = how;
        for (const Contour& line : *lines)
            drawn.lines.push_back(geometry::transformed(line, map));
        if (!drawn.lines.empty())
            page.inside.push_back(std::move(drawn));
    }
    addMarks(spread, column, row, page);
    const double foot = spread.window.most.y;
    std::string words = piece.name;
    if (spread.pages() > 1) {
        words += ", sheet " + sheetName(column, row) + " of " + std::to_string(spread.across) + " x " +
                 std::to_string(spread.down);
        if (column + 1 < spread.across && shows(piece, spread, box, column + 1, row))
            words += "; lay " + sheetName(column + 1, row) + " on the dashed line";
    }
    page.labels.push_back({{spread.window.least.x, foot + 5}, words, 3.5});
    page.labels.push_back(
        {{spread.window.least.x + 114, foot + 13}, "Print at 100 %, then measure these.", 2.8});
    if (!piece.away.empty() || !piece.towards.empty())
        page.labels.push_back({{spread.window.least.x, foot + 8.6},
                               "Solid: cut. Dashes: fold away from you. Dots: fold towards you.",
                               2.5});
    addRuler({spread.window.least.x + 1, foot + 12.5}, 50, "50 mm", page);
    addRuler({spread.window.least.x + 58, foot + 12.5}, 2 * kInchMm, "2 in", page);
    return page;
}

} // namespace

Paper paperFor(base::LengthUnit unit) {
    return unit == base::LengthUnit::Inch ? Paper{"letter", 8.5 * kInchMm, 11 * kInchMm} : Paper{};
}

base::Result<Template> templateOf(const std::vector<ByHand>& pieces, const Paper& paper,
                                  const std::string& title) {
    if (pieces.empty())
        return Error{Code::InvalidArgument, "There is no piece that is cut by hand."};
    std::vector<Page> pages;
    for (const ByHand& piece : pieces) {
        const Box box = boxOf(piece);
        const Spread upright(paper, false, box), turned(paper, true, box);
        if (!upright.isPossible() || !turned.isPossible())
            return Error{Code::InvalidArgument, "Paper " + paper.name + " is too small for its margins."};
        const Spread& spread = turned.pages() < upright.pages() ? turned : upright;
        if (static_cast<int>(pages.size()) + spread.pages() > kMostTemplatePages)
            return Error{Code::LimitExceeded, "The template of " + piece.name + " would be " +
                                                  std::to_string(spread.pages()) + " sheets of " +
                                                  paper.name + "; draw around the assembled work instead."};
        for (int row = 0; row < spread.down; ++row)
            for (int column = 0; column < spread.across; ++column)
                if (shows(piece, spread, box, column, row))
                    pages.push_back(pageOf(piece, spread, box, column, row));
    }
    auto pdf = formats::pdf::writePages(pages, title);
    if (!pdf)
        return pdf.error();
    return Template{pdf.take(), static_cast<int>(pages.size())};
}

ByHand byHand(const std::string& name, const geometry::Shape& shape) {
    ByHand out{name, {shape.outline}};
    out.cuts.insert(out.cuts.end(), shape.openings.begin(), shape.openings.end());
    return out;
}

base::Result<std::vector<ByHand>> sheetsByHand(const design::Stack& stack,
                                               const design::Arrangement& arrangement,
                                               const base::Progress& progress) {
    std::vector<ByHand> out;
    for (const design::Load& load : arrangement.loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            // Where pieces of a cluster touch they are cut once; folds are drawn as they are.
            auto cuts = design::cutsOn(stack, sheet, design::FoldsAs::Hand, progress);
            if (!cuts)
                return cuts.error();
            ByHand one{design::stockName(stack.stocks, sheet.stockId) + ", sheet " +
                           std::to_string(out.size() + 1),
                       {}};
            const auto add = [](const geometry::CutLines& lines, std::vector<Contour>& to) {
                to.insert(to.end(), lines.outlines.begin(), lines.outlines.end());
                to.insert(to.end(), lines.lines.begin(), lines.lines.end());
            };
            for (const design::PieceCuts& piece : cuts->pieces)
                for (const auto operation :
                     {design::Operation::Perforate, design::Operation::CutInside, design::Operation::Cut})
                    add(piece.of(operation), one.cuts);
            for (const design::FrameCut& frame : cuts->frames)
                one.cuts.push_back(frame.outline.outline);
            for (const design::PlacedPiece& placed : sheet.pieces) {
                const design::Laid* laid = stack.find(placed.what.piece);
                if (!laid)
                    continue;
                const auto map = design::placement(laid->piece, placed.pose);
                for (const design::PieceLine& line : laid->piece.body->lines) {
                    const auto* fold = std::get_if<design::Fold>(&line.does);
                    if (fold) // flipped over, it goes the other way
                        (fold->isTowards != placed.pose.isFlipped ? one.towards : one.away)
                            .push_back(geometry::transformed(line.path, map));
                    else if (!std::holds_alternative<design::Slit>(line.does) &&
                             !std::holds_alternative<design::Tear>(line.does))
                        one.others.push_back(geometry::transformed(line.path, map));
                }
            }
            if (!one.cuts.empty())
                out.push_back(std::move(one));
        }
    return out;
}

} // namespace thinline::pack
