// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/MatAfter.h"

#include "cutplan/Settings.h"
#include "cutplan/Timeline.h"
#include "geometry/Necks.h"

#include <algorithm>
#include <map>

namespace thinline::devices {
namespace {

using design::CopyOf;
using design::Operation;
using design::Stock;

constexpr double kDull = 1.6;

bool partsCard(const design::Pass& pass) {
    return !pass.isFrame && (pass.operation == Operation::Cut || pass.operation == Operation::CutInside);
}

/// How often each line of a copy was followed to its end.
struct Lines {
    std::vector<int> rounds;
    double forceGf = 0;
};

} // namespace

int MatAfter::count(Comes comes) const {
    return static_cast<int>(std::count_if(copies.begin(), copies.end(),
                                          [&](const CopyAfter& one) { return one.comes == comes; }));
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
           (what.isBladeDull ? kDull : 1);
}

base::Result<MatAfter> matAfter(const design::PlannedLoad& planned, const design::Load& load,
                                const design::Stack& stack, const design::Machine& machine, double seconds,
                                const WhatIf& what, const base::Progress& progress) {
    // Which rounds of which lines are done by then.
    std::map<CopyOf, Lines> lines;
    std::map<std::pair<size_t, size_t>, size_t> numberOf; // of a path among the lines of its copy
    for (size_t p = 0; p < planned.passes.size(); ++p)
        for (size_t i = 0; partsCard(planned.passes[p]) && i < planned.passes[p].paths.size(); ++i) {
            Lines& of = lines[planned.passes[p].paths[i].what];
            numberOf[{p, i}] = of.rounds.size();
            of.rounds.push_back(0);
            of.forceGf = planned.passes[p].forceGf;
        }
    const cutplan::Timeline timeline(planned, machine);
    for (const cutplan::Moment& moment : timeline.moments())
        if (moment.what == cutplan::Moment::What::Line && moment.toS <= seconds + 1e-9)
            if (const auto at = numberOf.find({moment.pass, moment.path}); at != numberOf.end())
                ++lines[planned.passes[moment.pass].paths[moment.path].what].rounds[at->second];

    MatAfter out;
    std::map<std::pair<design::PieceId, double>, std::vector<geometry::Neck>>
        necks; // of a piece, below a width
    for (const design::PlacedSheet& sheet : load.sheets)
        for (const design::PlacedPiece& placed : sheet.pieces) {
            if (progress.isCancelled())
                return base::cancelled();
            const design::Laid* laid = stack.find(placed.what.piece);
            const Stock* stock = design::findStock(stack.stocks, sheet.stockId);
            if (!laid || !stock)
                return base::Error{base::Code::NotFound, "A piece on the mat is not in the work."};
            const Lines& of = lines[placed.what];
            const int least = of.rounds.empty() ? 0 : *std::min_element(of.rounds.begin(), of.rounds.end());
            const bool isThrough = cutThrough(*stock, stack.stocks, of.forceGf, least, what);
            // A piece all of whose lines its neighbours have is asked for none of its own.
            const Comes comes = of.rounds.empty() ? Comes::Free
                                : least == 0      ? Comes::Held
                                : isThrough       ? Comes::Free
                                                  : Comes::NotThrough;
            out.copies.push_back({placed.what, comes});
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
    std::stable_sort(out.tears.begin(), out.tears.end(),
                     [](const Tear& a, const Tear& b) { return a.widthMm < b.widthMm; });
    return out;
}

} // namespace thinline::devices
