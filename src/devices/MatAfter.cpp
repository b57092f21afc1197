// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The simulated cutter asks of every copy on the mat what became of it. It follows the plan's timeline, so that it may be
// asked at any moment, and it looks at the lines as they were done, never at how the plan came about: a plan in a bad
// order is seen to be one.
#include "devices/MatAfter.h"

#include "base/Length.h"
#include "cutplan/Settings.h"
#include "cutplan/Timeline.h"
#include "geometry/Necks.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::devices {
namespace {

using design::CopyOf;
using design::Operation;
using design::Stock;
using geometry::Point;

constexpr double kDull = 1.6, kWorn = 1.3;
constexpr double kFlatMm = 0.02;

bool partsCard(const design::Pass& pass) {
    return !pass.isFrame && !pass.isTile &&
           (pass.operation == Operation::Cut || pass.operation == Operation::CutInside);
}

/// What was done to one copy.
struct OfCopy {
    struct Done {
        const design::Pass* pass = nullptr;
        const design::PlannedPath* path = nullptr;
        int rounds = 0;
        double firstS = 1e300, lastS = -1; ///< when it was begun and when it was last followed to its end
    };
    std::vector<Done> lines;
    double forceGf = 0;

    bool isNone() const {
        return std::none_of(lines.begin(), lines.end(), [](const Done& one) { return partsCard(*one.pass); });
    }
    /// Rounds of the line that was followed least, of those that part card.
    int leastRounds() const {
        int out = isNone() ? 0 : 1000;
        for (const Done& one : lines)
            if (partsCard(*one.pass))
                out = std::min(out, one.rounds);
        return out;
    }
    const Done* firstUncut() const {
        for (const Done& one : lines)
            if (partsCard(*one.pass) && one.rounds == 0)
                return &one;
        return nullptr;
    }
    bool isTabbed() const {
        return std::any_of(lines.begin(), lines.end(), [](const Done& one) { return one.path->isTabbed; });
    }
    /// When nothing of the outline held any more; never where it is not cut, or bridges hold.
    double freeFromS() const {
        double out = -1;
        for (const Done& one : lines) {
            if (one.pass->operation != Operation::Cut)
                continue;
            if (one.rounds == 0 || one.path->isTabbed)
                return 1e300;
            out = std::max(out, one.lastS);
        }
        return out < 0 ? 1e300 : out;
    }
};

std::map<CopyOf, OfCopy> doneBy(const design::PlannedLoad& planned, const design::Machine& machine,
                                double seconds, int moreRounds) {
    std::map<CopyOf, OfCopy> out;
    std::map<std::pair<std::size_t, std::size_t>, std::pair<OfCopy*, std::size_t>> at;
    for (std::size_t p = 0; p < planned.passes.size(); ++p) {
        const design::Pass& pass = planned.passes[p];
        for (std::size_t i = 0; !pass.isFrame && !pass.isTile && i < pass.paths.size(); ++i) {
            OfCopy& of = out[pass.paths[i].what];
            at[{p, i}] = {&of, of.lines.size()};
            of.lines.push_back({&pass, &pass.paths[i]});
            if (partsCard(pass))
                of.forceGf = pass.forceGf;
        }
    }
    const cutplan::Timeline timeline(planned, machine);
    const bool isDone = seconds >= timeline.seconds();
    for (const cutplan::Moment& moment : timeline.moments()) {
        const auto line = at.find({moment.pass, moment.path});
        if (moment.what != cutplan::Moment::What::Line || line == at.end() || moment.toS > seconds + 1e-9)
            continue;
        OfCopy::Done& one = line->second.first->lines[line->second.second];
        one.rounds += moment.round == 0 && isDone && partsCard(*one.pass) ? 1 + moreRounds : 1;
        one.firstS = std::min(one.firstS, moment.fromS);
        one.lastS = moment.toS;
    }
    return out;
}

/// What else went wrong with the copies of a sheet.
class Slips {
  public:
    Slips(const WhatIf& what, std::vector<Slip>& into) : m_what(what), m_into(into) {}

    void ofCopy(const design::PlacedSheet& sheet, const design::Laid& laid, const design::PlacedPiece& placed,
                const OfCopy& of, Comes comes) {
        const double freeS = of.freeFromS();
        for (const OfCopy::Done& one : of.lines)
            if (one.pass->operation != Operation::Cut && one.rounds > 0 && one.firstS >= freeS)
                add(Slip::Kind::CutAskew, placed.what, one.path->line.start);
        const geometry::Transform map = design::placement(laid.piece, placed.pose);
        const geometry::Shape lies = geometry::transformed(laid.shape(), map);
        const geometry::Box box = geometry::bounds(lies);
        if (m_what.isMatWorn && comes == Comes::Free && std::max(box.width(), box.height()) < kWandersMm)
            add(Slip::Kind::Wanders, placed.what, geometry::middle(box.least, box.most));
        if (m_what.askewMm != 0)
            offCard(sheet, placed.what, lies);
        for (const OfCopy::Done& one : of.lines)
            if (design::isBlade(one.pass->tool) && one.rounds > 0)
                blunted(placed.what, one.path->line);
    }

    /// Folds that no score follows, where scores are what was planned.
    void ofFolds(const design::SheetCuts& wanted, const std::map<CopyOf, OfCopy>& done) {
        for (const design::PieceCuts& piece : wanted.pieces) {
            const auto of = done.find(piece.what);
            for (const geometry::Line& fold : piece.of(Operation::Score).lines)
                if (of == done.end() || !isFollowed(fold, of->second))
                    add(Slip::Kind::MissesFold, piece.what, geometry::middleOf(fold));
        }
    }

  private:
    void add(Slip::Kind kind, const CopyOf& what, Point at) {
        for (Slip& one : m_into)
            if (one.kind == kind && one.what == what) {
                ++one.count;
                return;
            }
        m_into.push_back({kind, what, at});
    }

    /// The card is turned about its upper left corner, the cuts are not.
    void offCard(const design::PlacedSheet& sheet, const CopyOf& what, const geometry::Shape& lies) {
        const Point corner{sheet.xMm, sheet.yMm};
        const double turn = std::atan2(m_what.askewMm, std::max(sheet.widthMm, sheet.heightMm));
        const geometry::Transform back = geometry::Transform::move(Point{} - corner)
                                             .then(design::turnedOver(-turn, false))
                                             .then(geometry::Transform::move(corner));
        const geometry::Polygons card = design::outlineOf(sheet);
        for (const Point p : geometry::flatten(lies.outline, kFlatMm))
            if (!geometry::contains(card, back(p)))
                return add(Slip::Kind::OffCard, what, p);
    }

    /// Steps between two corners that are shorter than the tip trails.
    void blunted(const CopyOf& what, const geometry::Line& line) {
        constexpr double kCorner = 0.8;                // about 45 degrees
        std::vector<std::pair<double, Point>> corners; // how far along
        double along = 0;
        const std::size_t n = line.segments.size();
        const bool isClosed = geometry::endOf(line) == line.start;
        Point at = line.start;
        const auto direction = [](Point from, Point to) { return std::atan2(to.y - from.y, to.x - from.x); };
        for (std::size_t i = 0; i < n; ++i) {
            const geometry::Segment& one = line.segments[i];
            along += geometry::contourLength({at, {one}});
            if (i + 1 < n || isClosed) {
                const geometry::Segment& next = line.segments[(i + 1) % n];
                const Point before = one.isLine || one.control2 == one.end ? at : one.control2;
                const Point after = next.isLine || next.control1 == one.end ? next.end : next.control1;
                const double turn =
                    std::remainder(direction(one.end, after) - direction(before, one.end), 2 * M_PI);
                if (std::abs(turn) > kCorner)
                    corners.emplace_back(along, one.end);
            }
            at = one.end;
        }
        for (std::size_t i = 1; i < corners.size(); ++i)
            if (corners[i].first - corners[i - 1].first < m_what.bladeOffsetMm)
                add(Slip::Kind::Blunted, what, corners[i].second);
    }

    static bool isFollowed(const geometry::Line& fold, const OfCopy& of) {
        return std::any_of(of.lines.begin(), of.lines.end(), [&](const OfCopy::Done& one) {
            if (one.pass->operation != Operation::Score)
                return false;
            for (const Point p : {fold.start, geometry::middleOf(fold), geometry::endOf(fold)})
                if (geometry::distanceTo(one.path->line, p) > kMissMm)
                    return false;
            return true;
        });
    }

    const WhatIf& m_what;
    std::vector<Slip>& m_into;
};

} // namespace

int MatAfter::count(Comes comes) const {
    return static_cast<int>(std::count_if(copies.begin(), copies.end(),
                                          [&](const CopyAfter& one) { return one.comes == comes; }));
}

int MatAfter::count(Slip::Kind kind) const {
    return static_cast<int>(
        std::count_if(slips.begin(), slips.end(), [&](const Slip& one) { return one.kind == kind; }));
}

std::string slipText(const Slip& slip) {
    switch (slip.kind) {
    case Slip::Kind::CutAskew:
        return base::counted(slip.count, "line") + " done when it lies free already, and askew";
    case Slip::Kind::Wanders:
        return "it wanders: the mat holds no more";
    case Slip::Kind::OffCard:
        return "it reaches beyond the edge of the card";
    case Slip::Kind::MissesFold:
        return base::counted(slip.count, "fold") + " that no score follows";
    case Slip::Kind::Blunted:
        return base::counted(slip.count, "corner") + " that the blade cannot make";
    }
    return {};
}

bool cutThrough(const Stock& stock, const std::vector<Stock>& stocks, double forceGf, int rounds,
                const WhatIf& what) {
    constexpr double kLess = 0.9;
    if (rounds < 1)
        return false;
    const double needed = cutplan::forceFor(stock, stocks, rounds) * (what.isBladeDull ? kDull : 1);
    return forceGf >= kLess * needed;
}

double tearsBelowMm(const Stock& stock, double forceGf, const WhatIf& what) {
    constexpr double kWidthMm = 0.5, kAtGf = 210, kOfMm = 0.3;
    const double holds = stock.kind == Stock::Kind::Vinyl ? 2 : 1;
    return kWidthMm * (forceGf / kAtGf) * (kOfMm / std::max(0.01, stock.thicknessMm)) / holds *
           (what.isBladeDull ? kDull : 1) * (what.isMatWorn ? kWorn : 1);
}

base::Result<MatAfter> matAfter(const design::PlannedLoad& planned, const design::Load& load,
                                const design::Stack& stack, const design::Machine& machine, double seconds,
                                const WhatIf& what, const base::Progress& progress) {
    std::map<CopyOf, OfCopy> done = doneBy(planned, machine, seconds, what.moreRounds);
    MatAfter out;
    Slips slips(what, out.slips);
    std::map<std::pair<design::PieceId, double>, std::vector<geometry::Neck>>
        necks; // of a piece, below a width
    for (std::size_t s = 0; s < load.sheets.size(); ++s) {
        const design::PlacedSheet& sheet = load.sheets[s];
        const bool isScored =
            std::any_of(planned.passes.begin(), planned.passes.end(), [&](const design::Pass& one) {
                return one.operation == Operation::Score && one.stockId == sheet.stockId;
            });
        if (isScored) {
            const auto wanted = design::cutsOn(stack, sheet, design::FoldsAs::Score, progress);
            if (!wanted)
                return wanted.error();
            slips.ofFolds(*wanted, done);
        }
        for (const design::PlacedPiece& placed : sheet.pieces) {
            if (progress.isCancelled())
                return base::cancelled();
            const design::Laid* laid = stack.find(placed.what.piece);
            const Stock* stock = design::findStock(stack.stocks, sheet.stockId);
            if (!laid || !stock)
                return base::Error{base::Code::NotFound, "A piece on the mat is not in the work."};
            const OfCopy& of = done[placed.what];
            const int least = of.leastRounds();
            const bool isThrough = cutThrough(*stock, stack.stocks, of.forceGf, least, what);
            // A piece all of whose lines its neighbours have is asked for none of its own.
            const Comes comes = of.isNone()     ? Comes::Free
                                : least == 0    ? Comes::Held
                                : !isThrough    ? Comes::NotThrough
                                : of.isTabbed() ? Comes::Tabbed
                                                : Comes::Free;
            out.copies.push_back({placed.what, comes});
            if (const OfCopy::Done* uncut = of.firstUncut())
                out.copies.back().heldAt = uncut->path->line.start;
            slips.ofCopy(sheet, *laid, placed, of, comes);
            if (least == 0)
                continue;
            const double width = tearsBelowMm(*stock, of.forceGf, what);
            const auto [at, isNew] =
                necks.emplace(std::pair{laid->id(), width}, std::vector<geometry::Neck>{});
            if (isNew) {
                auto found = geometry::findNecks(laid->shape(), width, progress);
                if (!found)
                    return found.error();
                at->second = found.take();
            }
            const geometry::Transform map = design::placement(laid->piece, placed.pose);
            for (const geometry::Neck& neck : at->second)
                out.tears.push_back({placed.what, map(neck.place), neck.widthMm, width});
        }
    }
    std::stable_sort(out.tears.begin(), out.tears.end(),
                     [](const Tear& a, const Tear& b) { return a.widthMm < b.widthMm; });
    return out;
}

} // namespace thinline::devices
