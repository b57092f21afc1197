// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Looking a finished arrangement over before anybody cuts it.
//
// The arranger keeps boxes apart, so what it lays is right by construction. But what is packed was not always laid
// just now: it comes from a file, perhaps of an older program whose pieces came out a little smaller, or it was
// pinned by hand. So nothing is believed here but the places. For every sheet the outlines are mapped to where they
// lie, and three questions are asked:
//
// 1. Is it all there, and nothing else? Every copy of every piece that is cut by machine, once, on its own stock.
// 2. Is it on the sheet? The box of an outline is exact, so it is enough for this.
// 3. Is it clear of the others? Boxes that are further apart than the spacing need no second look; those are nearly
//    all, and sweeping over them sorted by their left edges finds the rest in n log n. For a near pair the stretches
//    near the other one are compared one by one, which tells crossing (distance zero) and closeness alike. When no
//    stretch is near, one may still lie wholly within the other's card, which one point of each tells.
//
// Frames of clusters are cut too and are held clear like pieces. Pieces of one copy of a cluster are not held
// against one another, since they may touch; instead they must lie as rigidly as they do in the design.
#include "sheets/Faults.h"

#include "base/Length.h"
#include "design/Cluster.h"
#include "design/Cuts.h"
#include "geometry/Measures.h"
#include "sheets/Beside.h"
#include "sheets/Stretches.h"
#include "sheets/Zones.h"

#include <algorithm>
#include <map>
#include <set>
#include <unordered_map>

namespace thinline::sheets {
namespace {

using design::CopyOf;
using design::Laid;
using geometry::Box;
using geometry::Point;
using Kind = Fault::Kind;

constexpr double kLetPassMm = 0.02;
constexpr double kRoundingMm = 1e-3; ///< of what a file keeps

/// An outline where it lies on its mat.
struct Lying {
    CopyOf what;                              ///< of a frame no piece
    const design::Cluster* cluster = nullptr; ///< null for a single piece
    bool isPinned = false;
    geometry::Shape shape;
    Box box;
};

/// The stretches of an outline that come near a box, from the left.
std::vector<Stretch> stretchesNear(const geometry::Shape& shape, const Box& near) {
    std::vector<Stretch> out;
    for (const geometry::Polygon& polygon : geometry::flatten(shape, kLetPassMm))
        for (size_t i = 0; i < polygon.size(); ++i) {
            const Stretch one{polygon[i], polygon[(i + 1) % polygon.size()]};
            Box box;
            box.include(one.a);
            box.include(one.b);
            if (box.meets(near))
                out.push_back(one);
        }
    std::sort(out.begin(), out.end(), [](const Stretch& s, const Stretch& t) {
        return std::min(s.a.x, s.b.x) < std::min(t.a.x, t.b.x);
    });
    return out;
}

/// How near two outlines come, no further than `upToMm`; zero when one lies on the other.
double nearness(const Lying& one, const Lying& other, double upToMm) {
    const std::vector<Stretch> mine = stretchesNear(one.shape, other.box.grownBy(upToMm)),
                               theirs = stretchesNear(other.shape, one.box.grownBy(upToMm));
    double least = upToMm;
    for (const Stretch& s : mine) {
        const double from = std::min(s.a.x, s.b.x), to = std::max(s.a.x, s.b.x);
        for (const Stretch& t : theirs) {
            if (std::min(t.a.x, t.b.x) > to + least)
                break;
            if (std::max(t.a.x, t.b.x) >= from - least)
                least = std::min(least, distanceOf(s, t));
        }
        if (least == 0)
            return 0;
    }
    const auto liesOn = [](const Lying& a, const Lying& b) {
        return !a.shape.outline.segments.empty() && b.box.contains(a.shape.outline.start) &&
               geometry::contains(b.shape, a.shape.outline.start);
    };
    return liesOn(one, other) || liesOn(other, one) ? 0 : least;
}

/// Looks one arrangement over.
class Examiner {
  public:
    Examiner(const design::Stack& stack, const design::Arrangement& arrangement,
             const ArrangeOptions& options, const base::Progress& progress)
        : m_stack(stack), m_arrangement(arrangement), m_options(options), m_progress(progress),
          m_rigids(design::rigidOf(stack)) {
        for (const Laid& laid : stack.pieces)
            m_laid[laid.id()] = &laid;
        for (const design::Rigid& rigid : m_rigids)
            for (const Laid* laid : rigid.pieces) {
                m_rigidOf[laid->id()] = &rigid;
                for (int copy = 0; copy < rigid.copies; ++copy)
                    m_wanted.insert({laid->id(), copy});
            }
    }

    base::Result<std::vector<Fault>> examined() {
        for (size_t l = 0; l < m_arrangement.loads.size(); ++l) {
            m_load = l;
            lookAtLoad(m_arrangement.loads[l]);
            for (const design::PlacedSheet& sheet : m_arrangement.loads[l].sheets) {
                if (m_progress.isCancelled())
                    return base::cancelled();
                lookAtSheet(sheet, m_arrangement.loads[l].mat);
            }
        }
        m_load = m_arrangement.loads.size();
        lookForMissing();
        std::stable_sort(m_faults.begin(), m_faults.end(),
                         [](const Fault& a, const Fault& b) { return a.kind < b.kind; });
        return std::move(m_faults);
    }

  private:
    void add(Kind kind, const std::string& message, CopyOf what = {}, bool isPinned = false) {
        if (++m_counts[kind] <= kMostFaults)
            m_faults.push_back({kind, what, isPinned, m_load, message});
    }
    std::string onLoad() const { return " on load " + std::to_string(m_load + 1); }
    std::string nameOf(const CopyOf& what) const {
        const auto at = m_laid.find(what.piece);
        if (at == m_laid.end())
            return "piece " + what.piece.text();
        const std::string name = design::pieceName(m_stack, *at->second);
        return at->second->copies > 1 ? name + ", copy " + std::to_string(what.copy + 1) : name;
    }
    std::string nameOf(const Lying& lying) const {
        const bool isFrame = lying.what.piece == design::PieceId{};
        return isFrame ? "the frame of " + lying.cluster->name : nameOf(lying.what);
    }

    void lookAtLoad(const design::Load& load) {
        const std::string size =
            base::formatSize(load.mat.widthMm, load.mat.heightMm, base::LengthUnit::Millimetre);
        const auto differs = [](double a, double b) { return !(std::abs(a - b) <= kRoundingMm); };
        if (differs(load.mat.widthMm, m_options.mat.widthMm) ||
            differs(load.mat.heightMm, m_options.mat.heightMm) ||
            differs(load.mat.marginMm, m_options.mat.marginMm))
            add(Kind::OtherFormat, "load " + std::to_string(m_load + 1) + " is laid for a mat of " + size +
                                       " that is not the chosen one");
        for (size_t i = 0; i < load.sheets.size(); ++i)
            for (size_t k = 0; k < i; ++k)
                if (lieOnOneAnother(load.sheets[i], load.sheets[k]))
                    add(Kind::OtherFormat, "two sheets lie on one another" + onLoad());
    }

    bool lieOnOneAnother(const design::PlacedSheet& a, const design::PlacedSheet& b) const {
        if (!placeOf(a).grownBy(-kRoundingMm).meets(placeOf(b).grownBy(-kRoundingMm)))
            return false;
        if (wasFound(a) && wasFound(b)) // they lie as they lie
            return false;
        return (a.outline.empty() && b.outline.empty()) ||
               !areApart(design::outlineOf(a), design::outlineOf(b), kRoundingMm);
    }
    /// Whether a scrap lay on its mat before anything was laid on it.
    bool wasFound(const design::PlacedSheet& sheet) const {
        return std::any_of(m_options.scraps.begin(), m_options.scraps.end(), [&](const design::Scrap& one) {
            return one.id == sheet.scrapId && one.at.has_value();
        });
    }
    static Box placeOf(const design::PlacedSheet& sheet) {
        return {{sheet.xMm, sheet.yMm}, {sheet.xMm + sheet.widthMm, sheet.yMm + sheet.heightMm}};
    }

    /// Whether a sheet is one of the chosen format and lies on its mat.
    bool isChosen(const design::PlacedSheet& sheet) const {
        const auto is = [](double a, double b) { return std::abs(a - b) <= kRoundingMm; };
        if (sheet.scrapId != 0)
            return isScrapAsItIs(sheet);
        const design::SheetFormat& chosen = m_options.sheetFor(sheet.stockId);
        const double wide = sheet.oneWidthMm(), high = sheet.oneHeightMm();
        const bool isUpright = is(wide, chosen.widthMm) && is(high, chosen.heightMm),
                   isTurned = is(wide, chosen.heightMm) && is(high, chosen.widthMm);
        const Box mat = Box{{0, 0}, {m_options.mat.widthMm, m_options.mat.heightMm}}.grownBy(kRoundingMm);
        const Box place = placeOf(sheet);
        // A scrap is cut from a sheet.
        const double longer = std::max(sheet.widthMm, sheet.heightMm) - kRoundingMm,
                     shorter = std::min(sheet.widthMm, sheet.heightMm) - kRoundingMm;
        const bool isScrap = sheet.isScrap && m_options.isMixed &&
                             sheet.marginMm >= kScrapMarginMm - kRoundingMm &&
                             longer <= std::max(chosen.widthMm, chosen.heightMm) &&
                             shorter <= std::min(chosen.widthMm, chosen.heightMm);
        return (isScrap || ((isUpright || isTurned) && sheet.isPair() == chosen.inPairs && is(sheet.marginMm, chosen.marginMm))) &&
               mat.contains(place.least) && mat.contains(place.most);
    }

    /// Whether a scrap is the one that is there, where it lies if that is known.
    bool isScrapAsItIs(const design::PlacedSheet& sheet) const {
        const auto& scraps = m_options.scraps;
        const auto at = std::find_if(scraps.begin(), scraps.end(), [&](const design::Scrap& one) {
            return one.id == sheet.scrapId && one.stockId == sheet.stockId;
        });
        if (at == scraps.end() || sheet.marginMm < at->marginMm - kRoundingMm)
            return false;
        if (at->at && geometry::distance(*at->at, {sheet.xMm, sheet.yMm}) > kRoundingMm)
            return false;
        const geometry::Polygons rings = sheet.isTurned ? turnedByQuarter(at->rings) : at->rings;
        geometry::Polygons lies = design::outlineOf(sheet);
        for (geometry::Polygon& ring : lies)
            for (Point& p : ring)
                p = p - Point{sheet.xMm, sheet.yMm};
        const auto areAlike = [](const Box& a, const Box& b) {
            return geometry::distance(a.least, b.least) <= kRoundingMm &&
                   geometry::distance(a.most, b.most) <= kRoundingMm;
        };
        const auto areaOf = [](const geometry::Polygons& of) {
            double out = 0;
            for (const geometry::Polygon& ring : of)
                out += geometry::signedArea(ring);
            return out;
        };
        return areAlike(geometry::bounds(rings), geometry::bounds(lies)) &&
               std::abs(areaOf(rings) - areaOf(lies)) <= 0.1;
    }

    void lookAtSheet(const design::PlacedSheet& sheet, const design::MatFormat& mat) {
        if (!design::findStock(m_stack.stocks, sheet.stockId))
            add(Kind::NotThere,
                "a sheet" + onLoad() + " is of a stock '" + sheet.stockId + "' that the job has not got");
        if (!isChosen(sheet))
            add(Kind::OtherFormat,
                "a sheet of " + design::stockName(m_stack.stocks, sheet.stockId) + onLoad() + ", " +
                    base::formatSize(sheet.widthMm, sheet.heightMm, base::LengthUnit::Millimetre) +
                    ", is not of the chosen size or runs over its mat");
        std::vector<Lying> lying = lyingOn(sheet);
        const Box usable =
            usableArea(mat, {{}, {}, sheet.widthMm, sheet.heightMm, sheet.marginMm}, placeOf(sheet))
                .grownBy(kLetPassMm);
        for (const Lying& one : lying)
            if (!usable.contains(one.box.least) || !usable.contains(one.box.most))
                add(Kind::OffSheet, nameOf(one) + " runs over the edge of its sheet" + onLoad(), one.what,
                    one.isPinned);
        lookBesideOutline(sheet, lying);
        comparePairs(lying, sheet.stockId);
    }

    /// Nothing may lie beyond the outline of a scrap, less its margin, nor where the mat or a corner stays free.
    void lookBesideOutline(const design::PlacedSheet& sheet, const std::vector<Lying>& lying) {
        const geometry::Polygons edges = design::outlineOf(sheet);
        std::vector<Box> keepOuts = m_options.keepOuts;
        if (m_options.areCornersTaped && sheet.scrapId == 0 && !sheet.isScrap)
            for (const Box& taped : tapedCorners(sheet.widthMm, sheet.heightMm))
                keepOuts.push_back(
                    {taped.least + Point{sheet.xMm, sheet.yMm}, taped.most + Point{sheet.xMm, sheet.yMm}});
        std::vector<Lying> kept; // areas that pieces keep off, less what is let pass
        for (const Box& whole : keepOuts) {
            const Box box = whole.grownBy(-kLetPassMm);
            const geometry::Polygon ring{
                box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}};
            kept.push_back({{}, nullptr, false, {geometry::contourThrough(ring), {}}, box});
        }
        for (const Lying& one : lying) {
            if (!sheet.outline.empty() && !isWithin(one, edges, sheet.marginMm))
                add(Kind::OffSheet, nameOf(one) + " runs over the edge of its scrap" + onLoad(), one.what,
                    one.isPinned);
            for (const Lying& area : kept)
                if (area.box.meets(one.box) && nearness(one, area, kRoundingMm) == 0)
                    add(Kind::OffSheet,
                        nameOf(one) + " lies where the mat or a corner is to stay free" + onLoad(), one.what,
                        one.isPinned);
        }
    }
    /// Whether an outline lies in rings, away from them.
    static bool isWithin(const Lying& one, const geometry::Polygons& edges, double marginMm) {
        const std::vector<Stretch> own = stretchesNear(one.shape, one.box);
        if (own.empty() || !geometry::contains(edges, own.front().a))
            return false;
        const Box near = one.box.grownBy(marginMm);
        for (const geometry::Polygon& ring : edges)
            for (size_t i = 0; i < ring.size(); ++i) {
                const Stretch edge{ring[i], ring[(i + 1) % ring.size()]};
                Box box;
                box.include(edge.a);
                box.include(edge.b);
                if (box.meets(near) && std::any_of(own.begin(), own.end(), [&](const Stretch& s) {
                        return distanceOf(s, edge) < marginMm - kLetPassMm;
                    }))
                    return false;
            }
        return true;
    }

    /// Everything that is cut on a sheet; what is not the work's is told and left out.
    std::vector<Lying> lyingOn(const design::PlacedSheet& sheet) {
        std::vector<Lying> out;
        std::map<std::pair<const design::Cluster*, int>, geometry::Transform>
            held; ///< of each copy of a cluster
        for (const design::PlacedPiece& placed : sheet.pieces) {
            if (!m_wanted.erase(placed.what)) {
                tellUnwanted(placed);
                continue;
            }
            m_seen.insert(placed.what);
            const design::Rigid& rigid = *m_rigidOf.at(placed.what.piece);
            const Laid& laid = *m_laid.at(placed.what.piece);
            if (rigid.stockId != sheet.stockId)
                add(Kind::OtherStock,
                    nameOf(placed.what) + " lies on a sheet of " +
                        design::stockName(m_stack.stocks, sheet.stockId) + onLoad() + " and is of " +
                        design::stockName(m_stack.stocks, rigid.stockId),
                    placed.what, placed.isPinned);
            const design::Stock* stock = design::findStock(m_stack.stocks, rigid.stockId);
            const bool mayFlip = stock && stock->faces == design::Stock::Faces::Alike && placed.isPinned;
            if (!mayFlip && placed.pose.isFlipped != design::liesFlipped(laid, sheet.isPair()))
                add(Kind::WrongFace, nameOf(placed.what) + " lies the wrong way over" + onLoad() + ": its front would come out mirrored",
                    placed.what, placed.isPinned);
            const geometry::Transform map = design::placement(laid.piece, placed.pose);
            if (rigid.cluster) {
                const auto [first, isFirst] = held.try_emplace({rigid.cluster, placed.what.copy}, map);
                if (!isFirst && !isAlike(first->second, map, geometry::bounds(laid.shape())))
                    add(Kind::Apart, nameOf(placed.what) + " lies apart from its cluster" + onLoad(),
                        placed.what, placed.isPinned);
            }
            out.push_back(
                {placed.what, rigid.cluster, placed.isPinned, geometry::transformed(laid.shape(), map), {}});
        }
        for (design::FrameCut& frame : design::framesOn(m_stack, sheet))
            out.push_back({{{}, frame.copy}, frame.cluster, false, std::move(frame.outline), {}});
        for (Lying& one : out)
            one.box = geometry::bounds(one.shape);
        return out;
    }

    void tellUnwanted(const design::PlacedPiece& placed) {
        const bool isTwice = m_seen.contains(placed.what);
        add(isTwice ? Kind::Twice : Kind::NotThere,
            nameOf(placed.what) + (isTwice ? " lies there twice" : " is not to be cut and lies there") +
                onLoad(),
            placed.what, placed.isPinned);
    }

    static bool isAlike(const geometry::Transform& a, const geometry::Transform& b, const Box& over) {
        return distance(a(over.least), b(over.least)) <= kLetPassMm &&
               distance(a(over.most), b(over.most)) <= kLetPassMm;
    }

    /// Sweeps over the outlines from the left, so that only near ones meet.
    void comparePairs(std::vector<Lying>& lying, const std::string& stockId) {
        const double spacing = std::max(m_options.spacingFor(stockId), 0.0);
        std::sort(lying.begin(), lying.end(),
                  [](const Lying& a, const Lying& b) { return a.box.least.x < b.box.least.x; });
        for (size_t i = 0; i < lying.size(); ++i)
            for (size_t k = i + 1; k < lying.size() && lying[k].box.least.x <= lying[i].box.most.x + spacing;
                 ++k) {
                const Lying &one = lying[i], &other = lying[k];
                const bool isTogether =
                    one.cluster && one.cluster == other.cluster && one.what.copy == other.what.copy;
                if (isTogether || m_counts[Kind::OnAnother] >= kMostFaults ||
                    !one.box.grownBy(spacing - kLetPassMm).meets(other.box))
                    continue;
                compare(one, other, spacing);
            }
    }

    void compare(const Lying& one, const Lying& other, double spacing) {
        const double near = nearness(one, other, std::max(spacing, kLetPassMm));
        const bool isPinned = one.isPinned || other.isPinned;
        const Lying& named = other.isPinned && !one.isPinned ? other : one;
        const Lying& beside = &named == &one ? other : one;
        if (near == 0)
            add(Kind::OnAnother, nameOf(named) + " lies on " + nameOf(beside) + onLoad(), named.what,
                isPinned);
        else if (near < spacing - kLetPassMm && !isPinned)
            add(Kind::TooClose,
                nameOf(named) + " is " + base::formatNumber(near, 2) + " mm from " + nameOf(beside) +
                    onLoad() + ", and " + base::formatNumber(spacing, 2) + " mm were asked for",
                named.what, false);
    }

    /// Whether a whole sheet of which all is free takes it as it is.
    bool fitsUpright(const design::Rigid& rigid) const {
        const design::MatFormat& mat = m_options.mat;
        const design::SheetFormat& sheet = m_options.sheetFor(rigid.stockId);
        const Box usable = usableArea(mat, sheet, {{0, 0}, {sheet.widthMm, sheet.heightMm}});
        return m_options.keepOuts.empty() && !m_options.areCornersTaped && sheet.widthMm <= mat.widthMm &&
               sheet.heightMm <= mat.heightMm && fits(rigid.box(), usable.width(), usable.height(), false);
    }
    void lookForMissing() {
        for (const CopyOf& copy : m_arrangement.unplaced)
            if (m_wanted.erase(copy) && fitsUpright(*m_rigidOf.at(copy.piece)))
                add(Kind::Missing, nameOf(copy) + " is on no sheet though it fits one", copy);
        for (const CopyOf& copy : m_wanted)
            add(Kind::Missing, nameOf(copy) + " is on no sheet", copy);
    }

    const design::Stack& m_stack;
    const design::Arrangement& m_arrangement;
    const ArrangeOptions& m_options;
    const base::Progress& m_progress;
    std::vector<design::Rigid> m_rigids;
    std::unordered_map<design::PieceId, const design::Rigid*> m_rigidOf; ///< of what is cut by machine
    std::unordered_map<design::PieceId, const Laid*> m_laid;
    std::set<CopyOf> m_wanted; ///< what is still to be found
    std::set<CopyOf> m_seen;
    std::map<Kind, std::size_t> m_counts;
    std::size_t m_load = 0;
    std::vector<Fault> m_faults;
};

} // namespace

base::Result<std::vector<Fault>> faultsOf(const design::Stack& stack, const design::Arrangement& arrangement,
                                          const ArrangeOptions& options, const base::Progress& progress) {
    return Examiner(stack, arrangement, options, progress).examined();
}

} // namespace thinline::sheets
