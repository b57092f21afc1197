// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Cut lines of a sheet, each once.
//
// Pieces laid by the program keep their spacing and touch nothing, so their outlines are cut as they are, to the bit.
// Only inside a cluster may pieces meet, and there what coincides must be cut once (geometry/CutOnce.h tells why). The
// net of edges is made only for clusters in which two boxes meet; a word of separate letters costs nothing.
//
// What is done comes in the order of work: a pen draws on a sheet that still lies flat and whole, a blunt tool presses
// folds before anything gives way beside them, openings and slits are cut while the piece is held all round, and the
// outline last. Lines lie on the mat by the same map as their piece; there is no other list of them.
//
// A fold is made in one of three ways, and only here: the design says where it folds, the cutter what with. Perforated,
// it is parted where it crosses another fold, and each stretch has its own bridges at both ends: a crossing in the middle
// of a cut would be a hole with four loose corners. All cuts are whole. What does not come out even is shared among the
// bridges, so the card is never weaker than asked for. A line that is to be torn has lengths of its own.
//
// A fold that is left to a hand is marked beside the piece, on card that is waste: a ruler is laid from mark to mark while
// the piece still lies on the mat, and no ink is on it afterwards. This depends on the neighbours and so belongs to the
// sheet, not to the piece.
//
// A fold knows on which face it is scored. When that face lies below on the mat, the tool would press it from the wrong
// side; pack and findings tell it, and it stays where it is, for turning the piece over is the maker's decision.
//
// The frame of a cluster is not stored with the arrangement: it follows from where the first piece lies, by the same
// map, and so cannot be forgotten when a pin moves it.
#include "design/Cuts.h"

#include "base/Length.h"
#include "design/Cluster.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <map>
#include <unordered_map>

namespace thinline::design {
namespace {

/// The boxes of some pieces meet: their outlines may coincide.
bool mayTouch(const std::vector<geometry::Shape>& shapes) {
    constexpr double kNearMm = 0.001;
    std::vector<geometry::Box> boxes;
    for (const geometry::Shape& shape : shapes) {
        const geometry::Box box = geometry::bounds(shape).grownBy(kNearMm);
        if (std::any_of(boxes.begin(), boxes.end(), [&](const geometry::Box& one) { return one.meets(box); }))
            return true;
        boxes.push_back(box);
    }
    return false;
}

/// Sorts the cut lines of a shape: its openings are cut before what lies around them.
void sortCuts(const geometry::Shape& shape, const geometry::CutLines& cuts, PieceCuts& into) {
    into.of(Operation::Cut).lines = cuts.lines;
    for (const geometry::Contour& contour : cuts.outlines)
        into.of(contour == shape.outline ? Operation::Cut : Operation::CutInside).outlines.push_back(contour);
}

geometry::CutLines whole(const geometry::Shape& shape) {
    geometry::CutLines out{{shape.outline}, {}};
    out.outlines.insert(out.outlines.end(), shape.openings.begin(), shape.openings.end());
    return out;
}

using geometry::Line;

/// A line parted where others of its kind cross it: there the card is left whole.
std::vector<Line> partedAtCrossings(const Line& line, const std::vector<Line>& others) {
    constexpr double kApartMm = 0.01;
    std::vector<double> at{0, geometry::contourLength(line)};
    for (const Line& other : others)
        if (&other != &line)
            for (const double along : geometry::meetingsAlong(line, other))
                at.push_back(along);
    std::sort(at.begin(), at.end());
    std::vector<Line> out;
    for (size_t i = 0; i + 1 < at.size(); ++i)
        if (at[i + 1] - at[i] > kApartMm)
            out.push_back(geometry::stretchOfLine(line, at[i], at[i + 1]));
    return out;
}

base::Status addPerforated(const std::vector<Line>& lines, const geometry::Perforation& how,
                           std::vector<Line>& into, const base::Progress* progress) {
    for (const Line& line : lines) {
        if (progress && progress->isCancelled())
            return base::cancelled();
        for (const Line& stretch : partedAtCrossings(line, lines)) {
            auto cuts = geometry::perforated(stretch, how);
            if (!cuts)
                return cuts.error();
            into.insert(into.end(), cuts->begin(), cuts->end());
        }
    }
    return base::Done{};
}

/// Short strokes at both ends of a fold, for a ruler to be laid at.
void addTicks(const Line& fold, std::vector<Line>& into) {
    constexpr double kTickMm = 2;
    const double length = geometry::contourLength(fold);
    if (length <= 2 * kTickMm) {
        into.push_back(fold);
        return;
    }
    into.push_back(geometry::stretchOfLine(fold, 0, kTickMm));
    into.push_back(geometry::stretchOfLine(fold, length - kTickMm, length));
}

std::unordered_map<PieceId, const Laid*> laidIn(const Stack& stack) {
    std::unordered_map<PieceId, const Laid*> out;
    for (const Laid& laid : stack.pieces)
        out[laid.id()] = &laid;
    return out;
}

/// Whether a pen may mark so far beside a piece: on waste, away from all else.
class Waste {
  public:
    Waste(const PlacedSheet& sheet, std::vector<geometry::Shape> shapes)
        : m_edges(outlineOf(sheet)), m_marginMm(sheet.marginMm), m_shapes(std::move(shapes)) {
        for (const geometry::Shape& shape : m_shapes)
            m_boxes.push_back(geometry::bounds(shape));
    }
    bool isFree(geometry::Point p) const {
        constexpr double kAwayMm = 0.4;
        if (!geometry::contains(m_edges, p))
            return false;
        for (const geometry::Polygon& ring : m_edges)
            for (size_t i = 0; i < ring.size(); ++i)
                if (geometry::distanceToStretch(p, ring[i], ring[(i + 1) % ring.size()]) < m_marginMm)
                    return false;
        for (size_t i = 0; i < m_shapes.size(); ++i) {
            if (!m_boxes[i].grownBy(kAwayMm).contains(p))
                continue;
            const auto edge = geometry::nearestOnEdge(m_shapes[i], p);
            if (geometry::contains(m_shapes[i], p) || (edge && edge->distance < kAwayMm))
                return false;
        }
        return true;
    }

  private:
    geometry::Polygons m_edges;
    double m_marginMm = 0;
    std::vector<geometry::Shape> m_shapes;
    std::vector<geometry::Box> m_boxes;
};

/// The mark of one end of a fold: beside the piece, or else on it.
Line tickAt(const Line& fold, bool isStart, const Waste& waste, int& onPieces) {
    constexpr double kBesideMm = 1, kOnPieceMm = 2, kAimMm = 0.2;
    const double length = geometry::contourLength(fold);
    const auto stretch = [&](double mm) {
        return isStart ? geometry::stretchOfLine(fold, 0, mm)
                       : geometry::stretchOfLine(fold, length - mm, length);
    };
    const Line aim = stretch(std::min(kAimMm, length / 2));
    const geometry::Point end = isStart ? fold.start : geometry::endOf(fold),
                          inner = isStart ? geometry::endOf(aim) : aim.start,
                          far = end + geometry::direction(end - inner) * kBesideMm;
    if (waste.isFree(far))
        return {end, {geometry::Segment::line(far)}};
    ++onPieces;
    return stretch(std::min(kOnPieceMm, length / 2));
}

/// What the lines of a piece ask to be done, where it lies.
base::Status addLines(const Laid& laid, const geometry::Transform& map, FoldsAs foldsAs,
                      const geometry::Perforation& how, PieceCuts& into, const base::Progress& progress) {
    std::vector<Line> folds;
    for (const PieceLine& line : laid.piece.body->lines) {
        const Line path = geometry::transformed(line.path, map);
        if (std::holds_alternative<Fold>(line.does)) {
            folds.push_back(path);
        } else if (std::holds_alternative<Slit>(line.does)) {
            into.of(Operation::CutInside).lines.push_back(path);
        } else if (const auto* tear = std::get_if<Tear>(&line.does)) {
            if (auto ok = addPerforated({path}, {tear->cutMm, tear->leftMm, tear->leftMm},
                                        into.of(Operation::Perforate).lines, &progress);
                !ok)
                return ok;
        } else {
            const auto* mark = std::get_if<Placement>(&line.does);
            const bool isScored = std::holds_alternative<Score>(line.does) || (mark && mark->isScored);
            into.of(isScored ? Operation::Score : Operation::Draw).lines.push_back(path);
        }
    }
    if (foldsAs == FoldsAs::Hand) // by the sheet: see handTicksOn
        return base::Done{};
    auto lines = foldLines(folds, foldsAs, how, &progress);
    if (!lines)
        return lines.error();
    constexpr std::array kDoneBy{Operation::Score, Operation::Perforate, Operation::Draw};
    auto& all = into.of(kDoneBy[static_cast<size_t>(foldsAs)]).lines;
    all.insert(all.end(), lines->begin(), lines->end());
    return base::Done{};
}

} // namespace

geometry::Perforation perforationOf(const Stock* stock) {
    constexpr double kLightGrams = 150, kHeavyGrams = 250;
    if (stock && stock->gramsPerM2 < kLightGrams)
        return {2, 2, 2};
    if (stock && stock->gramsPerM2 > kHeavyGrams)
        return {3, 1, 2};
    return {2.5, 1.5, 2};
}

bool hasFolds(const Body& body) {
    return std::any_of(body.lines.begin(), body.lines.end(),
                       [](const PieceLine& line) { return std::holds_alternative<Fold>(line.does); });
}

bool hasFolds(const Stack& stack) {
    return std::any_of(stack.pieces.begin(), stack.pieces.end(),
                       [](const Laid& laid) { return hasFolds(*laid.piece.body); });
}

std::string perforationText(const Stack& stack) {
    const geometry::Perforation card = perforationOf(nullptr);
    const bool isFolded = hasFolds(stack);
    double leastCut = isFolded ? 100 : card.cutMm, mostCut = isFolded ? 0 : card.cutMm,
           leastLeft = isFolded ? 100 : card.leftMm, mostLeft = isFolded ? 0 : card.leftMm;
    for (const Laid& laid : stack.pieces) {
        if (!hasFolds(*laid.piece.body))
            continue;
        const geometry::Perforation how = perforationOf(findStock(stack.stocks, stack.layerOf(laid).stockId));
        leastCut = std::min(leastCut, how.cutMm);
        mostCut = std::max(mostCut, how.cutMm);
        leastLeft = std::min(leastLeft, how.leftMm);
        mostLeft = std::max(mostLeft, how.leftMm);
    }
    const auto words = [](double least, double most) {
        return base::formatNumber(least, 1) + (most > least ? " to " + base::formatNumber(most, 1) : "") +
               " mm";
    };
    return words(leastCut, mostCut) + " cut, at least " + words(leastLeft, mostLeft) +
           " left, 2 mm at the ends and where folds cross";
}

base::Result<std::vector<Line>> foldLines(const std::vector<Line>& folds, FoldsAs as,
                                          const geometry::Perforation& how, const base::Progress* progress) {
    if (as == FoldsAs::Score)
        return folds;
    std::vector<Line> out;
    if (as == FoldsAs::Perforation) {
        if (auto ok = addPerforated(folds, how, out, progress); !ok)
            return ok.error();
        return out;
    }
    for (const Line& fold : folds)
        addTicks(fold, out);
    return out;
}

std::vector<FrameCut> framesOn(const Stack& stack, const PlacedSheet& sheet) {
    std::vector<FrameCut> out;
    if (std::none_of(stack.clusters.begin(), stack.clusters.end(),
                     [](const Cluster& cluster) { return cluster.frameMm > 0; }))
        return out;
    for (const Rigid& rigid : rigidOf(stack)) {
        const auto frame = rigid.frame();
        if (!frame)
            continue;
        for (const PlacedPiece& placed : sheet.pieces)
            if (placed.what.piece == rigid.held().id())
                out.push_back({rigid.cluster, placed.what.copy,
                               geometry::transformed(*frame, placement(rigid.held().piece, placed.pose))});
    }
    return out;
}

std::string operationGroup(const std::string& stockId, Operation operation, Depth depth) {
    constexpr std::array<const char*, kOperations.size()> kNames{"-draw", "-score", "-perforate",
                                                                 "-cut-inside", "-cut"};
    const bool isOutline = operation == Operation::Cut;
    return stockId + kNames[static_cast<size_t>(operation)] +
           (isOutline && depth == Depth::ToCarrier ? "-to-carrier" : "");
}

base::Result<SheetCuts> cutsOn(const Stack& stack, const PlacedSheet& sheet, FoldsAs foldsAs,
                               const base::Progress& progress) {
    SheetCuts out;
    const auto laidOf = laidIn(stack);
    const ClusterIndex clusterOf = clusterIndex(stack);
    const geometry::Perforation how = perforationOf(findStock(stack.stocks, sheet.stockId));
    std::vector<geometry::Shape> shapes;
    struct Together { // what is cut to one depth
        const Cluster* cluster;
        int copy;
        bool isThrough;
        auto operator<=>(const Together&) const = default;
    };
    std::map<Together, std::vector<size_t>> clusters;
    for (const PlacedPiece& placed : sheet.pieces) {
        const auto laid = laidOf.find(placed.what.piece);
        if (laid == laidOf.end())
            return base::Error{base::Code::NotFound,
                               "Piece " + placed.what.piece.text() +
                                   " on a sheet is not in the work any more; arrange the sheets anew."};
        if (const auto in = clusterOf.find(placed.what.piece); in != clusterOf.end())
            clusters[{in->second, placed.what.copy, goesThroughCarrier(stack, *laid->second)}].push_back(
                shapes.size());
        const geometry::Transform map = placement(laid->second->piece, placed.pose);
        shapes.push_back(geometry::transformed(laid->second->shape(), map));
        out.pieces.push_back({placed.what});
        sortCuts(shapes.back(), whole(shapes.back()), out.pieces.back());
        if (auto ok = addLines(*laid->second, map, foldsAs, how, out.pieces.back(), progress); !ok)
            return ok.error();
    }
    for (const auto& [in, members] : clusters) {
        std::vector<geometry::Shape> own;
        for (const size_t i : members)
            own.push_back(shapes[i]);
        if (!mayTouch(own))
            continue;
        auto once = geometry::cutOnce(own, progress);
        if (!once)
            return once.error();
        for (size_t i = 0; i < members.size(); ++i) {
            PieceCuts& piece = out.pieces[members[i]];
            piece.of(Operation::Cut) = {};
            piece.of(Operation::CutInside).outlines.clear();
            sortCuts(own[i], (*once)[i], piece);
        }
    }
    if (foldsAs == FoldsAs::Hand) {
        HandTicks ticks = handTicksOn(stack, sheet);
        for (size_t i = 0; i < out.pieces.size(); ++i) {
            auto& drawn = out.pieces[i].of(Operation::Draw).lines;
            drawn.insert(drawn.end(), ticks.of[i].begin(), ticks.of[i].end());
        }
    }
    out.frames = framesOn(stack, sheet);
    return out;
}

HandTicks handTicksOn(const Stack& stack, const PlacedSheet& sheet) {
    HandTicks out;
    out.of.resize(sheet.pieces.size());
    const auto laidOf = laidIn(stack);
    std::vector<geometry::Shape> shapes;
    std::vector<std::vector<Line>> folds(sheet.pieces.size());
    bool isAny = false;
    for (size_t i = 0; i < sheet.pieces.size(); ++i) {
        const auto laid = laidOf.find(sheet.pieces[i].what.piece);
        if (laid == laidOf.end())
            continue;
        const geometry::Transform map = placement(laid->second->piece, sheet.pieces[i].pose);
        shapes.push_back(geometry::transformed(laid->second->shape(), map));
        for (const PieceLine& line : laid->second->piece.body->lines)
            if (std::holds_alternative<Fold>(line.does))
                folds[i].push_back(geometry::transformed(line.path, map));
        isAny = isAny || !folds[i].empty();
    }
    if (!isAny)
        return out;
    const Waste waste(sheet, std::move(shapes));
    for (size_t i = 0; i < folds.size(); ++i)
        for (const Line& fold : folds[i])
            for (const bool isStart : {true, false})
                out.of[i].push_back(tickAt(fold, isStart, waste, out.onPiece));
    return out;
}

} // namespace thinline::design
