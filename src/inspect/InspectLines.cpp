// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Lines on pieces: what would tear, crack, or be pressed from the wrong side; and lines nobody has said what they are.
//
// A fold has to reach the edge or another line. Where it stops on the card the card creases past its end, and a flap
// tears there when it is bent back. How far is meant to be short cannot be known, so a stop is told and not mended: an
// end within half a millimetre of the edge was run on to it when the line came in. Of a piece with thousands of lines the
// first thousand are looked over: nobody mends more by hand.
#include "base/Length.h"
#include "design/Cuts.h"
#include "design/PartNames.h"
#include "folds/Marks.h"
#include "folds/Panes.h"
#include "folds/Steps.h"
#include "geometry/Cubic.h"
#include "geometry/Measures.h"
#include "inspect/Findings.h"
#include "job/CardSteps.h"
#include "job/Marking.h"
#include "job/Source.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <utility>

namespace thinline::inspect {
namespace {

using design::Fold;
using design::Laid;
using design::PieceLine;
using geometry::Point;

constexpr double kReachesMm = 0.1;
constexpr size_t kMostLines = 1000; // of a piece that are looked over

const Fold* foldOf(const PieceLine& line) {
    return line.path.segments.empty() ? nullptr : std::get_if<Fold>(&line.does);
}

geometry::Box around(Point p) {
    geometry::Box box;
    box.include(p);
    return box.grownBy(6);
}

/// The ends of a fold that stop on the card.
void inspectEnds(const Look& look, const Laid& laid, const PieceLine& fold, Gathering& into) {
    if (geometry::distance(fold.path.start, geometry::endOf(fold.path)) < kReachesMm)
        return; // it comes round
    for (const geometry::Line& path : {geometry::reversed(fold.path), fold.path}) {
        const Point end = path.segments.back().end;
        if (geometry::isNearEdge(laid.shape(), end, kReachesMm))
            continue;
        const bool isAtAnother = std::any_of(laid.piece.body->lines.begin(), laid.piece.body->lines.end(),
                                             [&](const PieceLine& other) {
                                                 return &other != &fold && !other.path.segments.empty() &&
                                                        geometry::distanceTo(other.path, end) < kReachesMm;
                                             });
        if (isAtAnother)
            continue;
        constexpr double kMostMm = 2000;
        const auto ahead = geometry::edgeAhead(path, laid.shape(), kMostMm);
        const double missingMm =
            ahead ? geometry::distance(end, *ahead) : geometry::nearestOnEdge(laid.shape(), end)->distance;
        into.add(Severity::RisksCard, Kind::FoldEndsShort,
                 "Card tears where a fold stops. Run it on to the edge, or cut a slit up to it.",
                 {"A fold of " + design::pieceName(look.work, laid) + " ends " + inMm(missingMm) +
                      " short of the edge",
                  laid.id(), around(end),
                  folds::makeStep(folds::Action::RunOn, {design::LineOf{laid.id(), fold.id}})},
                 "Run on");
    }
}

/// Folds beside one another that leave no card between them to bend.
void inspectNeighbours(const Look& look, const Laid& laid, double thicknessMm, Gathering& into) {
    constexpr double kLeastMm = 2; // from memory
    const double least = std::max(kLeastMm, 4 * thicknessMm);
    const auto& lines = laid.piece.body->lines;
    const size_t count = std::min(lines.size(), kMostLines);
    for (size_t i = 0; i < count; ++i) {
        if (!foldOf(lines[i]))
            continue;
        const Point middle = geometry::middleOf(lines[i].path);
        for (size_t k = i + 1; k < count; ++k) {
            if (!foldOf(lines[k]) || lines[i].id == lines[k].id ||
                !geometry::bounds(lines[k].path).grownBy(least).contains(middle))
                continue;
            if (const double apart = geometry::distanceTo(lines[k].path, middle);
                apart > kReachesMm && apart < least)
                into.add(
                    Severity::RisksCard, Kind::FoldsTooClose,
                    "Card needs room to bend; leave at least " + inMm(least) + " between folds.",
                    {"Two folds of " + design::pieceName(look.work, laid) + " are " + inMm(apart) + " apart",
                     laid.id(), around(middle)});
        }
    }
}

/// Corners of the outline that point at a fold and stop a little before it.
void inspectNotches(const Look& look, const Laid& laid, Gathering& into) {
    constexpr double kMostMm = 1, kLeastTurnRad = 0.5; // a bend of a curve is no notch
    const auto& lines = laid.piece.body->lines;
    std::vector<std::pair<size_t, geometry::Box>> folds;
    for (size_t i = 0; i < std::min(lines.size(), kMostLines); ++i)
        if (foldOf(lines[i]))
            folds.emplace_back(i, geometry::bounds(lines[i].path).grownBy(kMostMm));
    const geometry::Contour& outline = laid.shape().outline;
    if (folds.empty() || outline.segments.empty())
        return;
    const geometry::Segment* before = &outline.segments.back();
    Point from =
        outline.segments.size() > 1 ? outline.segments[outline.segments.size() - 2].end : outline.start;
    for (const geometry::Segment& s : outline.segments) {
        const Point tip = before->end, arrives = tip - (before->isLine ? from : before->control2),
                    leaves = (s.isLine ? s.end : s.control1) - tip;
        const double turnRad = std::atan2(geometry::cross(arrives, leaves), geometry::dot(arrives, leaves));
        from = tip;
        before = &s;
        if (turnRad > -kLeastTurnRad)
            continue;
        for (const auto& [i, box] : folds) {
            if (!box.contains(tip))
                continue;
            const auto on = geometry::nearestOnEdge({lines[i].path, {}}, tip, kMostMm);
            const bool isBeside = on && geometry::distance(on->point, lines[i].path.start) > kMostMm &&
                                  geometry::distance(on->point, geometry::endOf(lines[i].path)) > kMostMm;
            if (isBeside && on->distance > kReachesMm)
                into.add(Severity::RisksCard, Kind::NotchMissesFold,
                         "Card tears on from there when it is folded; run the cut on to the fold.",
                         {"A notch of " + design::pieceName(look.work, laid) + " ends " + inMm(on->distance) +
                              " before its fold",
                          laid.id(), around(tip),
                          folds::lineStep(laid.piece, {tip, {geometry::Segment::line(on->point)}},
                                          {design::Slit{}, false})},
                         "Cut on to it");
        }
    }
}

/// Rings that panes are glued by.
void inspectPanes(const Look& look, const Laid& laid, Gathering& into) {
    bool hasPanes = false;
    for (const design::Zone& zone : laid.piece.body->zones) {
        const Laid* pane = zone.kind == design::Zone::Kind::Glue && !(zone.meets == laid.id()) &&
                                   !design::arePartsOfOne(zone.meets, laid.id())
                               ? look.work.find(zone.meets)
                               : nullptr;
        if (!pane)
            continue;
        hasPanes = true;
        if (const double ring = folds::narrowestRing(zone.area); ring < folds::kLeastRingMm - 0.01)
            into.add(Severity::RisksCard, Kind::PaneBarelyHolds,
                     "Below " + inMm(folds::kLeastRingMm) +
                         " glue does not hold. Give the window more room, or the pane a larger margin.",
                     {look.called(*pane) + (ring > 0 ? " is glued by " + inMm(ring) + " where it is narrowest"
                                                     : std::string(" is not glued all round")),
                      pane->id(), geometry::bounds(zone.area)});
    }
    const auto& lines = laid.piece.body->lines;
    if (hasPanes &&
        std::any_of(lines.begin(), lines.end(), [](const PieceLine& line) { return foldOf(line); }))
        into.add(Severity::Note, Kind::LightInside,
                 "Paper burns: never a flame, never a bulb that grows hot.",
                 {"If a light goes into " + design::pieceName(look.work, laid) + ", a battery light only",
                  laid.id(), geometry::bounds(laid.shape())});
}

/// A fold so short that what it holds tears off sooner than it bends.
void inspectShortFolds(const Look& look, const Laid& laid, Gathering& into) {
    constexpr double kLeastMm = 3; // from memory
    std::map<design::LineId, double> lengths;
    for (const PieceLine& line : laid.piece.body->lines)
        if (foldOf(line) && line.beginsAtEdge && line.endsAtEdge)
            lengths[line.id] += geometry::contourLength(line.path);
    for (const PieceLine& line : laid.piece.body->lines) {
        const auto at = lengths.find(line.id);
        if (at == lengths.end() || at->second >= kLeastMm || !foldOf(line))
            continue;
        into.add(Severity::RisksCard, Kind::FoldAcrossNeck,
                 "Card that narrow tears where it is folded; widen it there to " + inMm(kLeastMm) +
                     " or more.",
                 {"A fold of " + design::pieceName(look.work, laid) + " is " + inMm(at->second) + " long",
                  laid.id(), around(geometry::middleOf(line.path))});
        lengths.erase(at); // its parts are one fold
    }
}

/// Marks that came with a drawing, or were laid by hand: nothing keeps them under what they show the place of.
base::Status inspectMarks(const Look& look, const Laid& laid, Gathering& into) {
    const auto isToAsk = [](const PieceLine& line) {
        return std::holds_alternative<design::Placement>(line.does) && numberOf(line.id) < job::kFirstMark;
    };
    const auto& lines = laid.piece.body->lines;
    if (std::none_of(lines.begin(), lines.end(), isToAsk))
        return base::Done{};
    std::vector<geometry::Shape> above;
    const geometry::Box box = geometry::bounds(laid.shape());
    for (const Laid* upper = &laid + 1; upper != look.work.pieces.data() + look.work.pieces.size(); ++upper)
        if (look.work.layerOf(*upper).at == design::Layer::At::Front &&
            box.meets(geometry::bounds(upper->shape())))
            above.push_back(upper->shape());
    for (const PieceLine& line : lines) {
        if (!isToAsk(line))
            continue;
        const auto shown = folds::marksOn(laid.shape(), above, {line.path}, look.progress);
        if (!shown)
            return shown.error();
        double shownMm = 0;
        geometry::Box where;
        for (const geometry::Line& part : *shown) {
            shownMm += geometry::contourLength(part);
            where.include(geometry::bounds(part));
        }
        if (shownMm > 0)
            into.add(Severity::RisksCard, Kind::MarkShows,
                     "It stays to be seen on the finished work. Take it off, and let a layer's marks be made "
                     "at Folds.",
                     {inMm(shownMm) + " of a placement mark on " + design::pieceName(look.work, laid) +
                          " is covered by nothing",
                      laid.id(), where.grownBy(2),
                      folds::makeStep(folds::Action::TakeOff, {design::LineOf{laid.id(), line.id}})},
                     "Take it off");
    }
    return base::Done{};
}

void inspectScoring(const Look& look, const Laid& laid, const design::Stock& stock, Gathering& into) {
    const auto& lines = laid.piece.body->lines;
    const auto first = std::find_if(lines.begin(), lines.end(),
                                    [](const PieceLine& line) { return foldOf(line) != nullptr; });
    if (first == lines.end())
        return;
    if (stock.kind == design::Stock::Kind::Board)
        into.add(Severity::RisksCard, Kind::FoldInBoard,
                 "Board breaks at a score. Cut the parts singly and hinge them, or lay the piece in card.",
                 {look.called(laid) + " is folded and cut from " + stock.name, laid.id(),
                  geometry::bounds(laid.shape())});
    const bool isFlipped = job::willLieFlipped(look.state.job, laid, stock.id);
    const bool isBelow = std::any_of(lines.begin(), lines.end(), [&](const PieceLine& line) {
        return design::isScoredFromBelow(line, isFlipped);
    });
    if (isBelow && look.state.job.plan.foldsAs == design::FoldsAs::Score)
        into.add(Severity::RisksCard, Kind::ScoredFromBelow,
                 "Turn the piece over for these folds, in a loading of its own, or perforate them: see Pack.",
                 {look.called(laid) + " has folds that are scored on the face that lies below", laid.id(),
                  geometry::bounds(laid.shape())});
}

/// Pen, marks and ornament are meant for the front, and the machine does them on the face that lies up.
void inspectDrawn(const Look& look, const Laid& laid, const design::Stock& stock, Gathering& into) {
    const auto& lines = laid.piece.body->lines;
    const auto isOfFront = [](const PieceLine& line) {
        return std::holds_alternative<design::Pen>(line.does) ||
               std::holds_alternative<design::Placement>(line.does) ||
               std::holds_alternative<design::Score>(line.does);
    };
    if (std::any_of(lines.begin(), lines.end(), isOfFront) &&
        job::willLieFlipped(look.state.job, laid, stock.id))
        into.add(Severity::RisksCard, Kind::DrawnOnBack,
                 "They come out mirrored and on the side nobody sees. Leave them out, or lay the piece with "
                 "its front up.",
                 {look.called(laid) +
                      " lies flipped on its mat, and has lines that are drawn or scored on its front",
                  laid.id(), geometry::bounds(laid.shape())});
}

} // namespace

base::Status inspectLines(const Look& look, Gathering& into) {
    for (const auto& source : look.state.job.sources)
        if (const auto* drawing = std::get_if<job::Drawing>(&source->what))
            for (const design::LineKind& kind : drawing->kinds)
                if (!kind.isSure && !drawing->take.lines.contains(kind.key) &&
                    !drawing->take.leftOut.contains(kind.layer))
                    into.add(Severity::RisksCard, Kind::LinesNotSaid,
                             "Say it at Source; until then this is left out.",
                             {capitalised(kind.words) + " of " + source->name() + ": nobody has said what " +
                                  (kind.lines == 1 ? "it is" : "they are"),
                              {},
                              source->box()});
    for (const Laid& laid : look.work.pieces) {
        if (laid.piece.body->lines.empty() || look.isHidden(laid))
            continue;
        inspectShortFolds(look, laid, into);
        if (auto ok = inspectMarks(look, laid, into); !ok)
            return ok;
        const design::Stock* stock = design::findStock(look.work.stocks, look.work.layerOf(laid).stockId);
        const auto& lines = laid.piece.body->lines;
        for (size_t i = 0; i < std::min(lines.size(), kMostLines); ++i)
            if (foldOf(lines[i]))
                inspectEnds(look, laid, lines[i], into);
        inspectNotches(look, laid, into);
        inspectPanes(look, laid, into);
        inspectNeighbours(look, laid, stock ? stock->thicknessMm : 0, into);
        if (stock) {
            inspectScoring(look, laid, *stock, into);
            inspectDrawn(look, laid, *stock, into);
        }
    }
    return base::Done{};
}

} // namespace thinline::inspect
