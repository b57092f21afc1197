// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Steps.h"

#include "design/Carry.h"
#include "design/MadeLines.h"
#include "design/PartNames.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Parting.h"

#include <algorithm>
#include <cstdlib>

namespace thinline::split {
namespace {

using base::Code;
using base::Error;
using base::Follows;
using base::Quantity;
using geometry::Line;
using geometry::Point;

constexpr double kRunOnMm = 20; ///< how far an end of a seam is run on to an edge that has moved away

/// A board behind the whole, a little smaller.
const design::StepKind& boardKind() {
    static const design::StepKind kKind{
        "back-board", "Back it with board", 1, {{"inset", "Smaller all around", Quantity::Length, 2, 0, 50}}};
    return kKind;
}

const design::StepKind& kind() {
    static const design::StepKind kKind{
        "split", "Divide along seams", 1, {{"overlap", "Overlap", Quantity::Length, 12, 3, 60}}};
    return kKind;
}

std::string numbered(const char* what, size_t i) {
    return std::string(what) + "." + std::to_string(i + 1);
}
const char* const kJointWords[] = {"butt", "overlap", "keyed"};

/// How many windows are used up is kept as a point: alone, and in pairs.
const char* const kUsedBefore = "windows-before";
const char* const kUsedAfter = "windows-after";
Point asPoint(const KeysUsed& used) {
    return {static_cast<double>(used.alone), static_cast<double>(used.pairs)};
}
KeysUsed keysFrom(Point p) {
    constexpr double kMost = 1e6;
    return {static_cast<int>(std::clamp(p.x, 0.0, kMost)), static_cast<int>(std::clamp(p.y, 0.0, kMost))};
}
Point pointIn(const Step& step, const char* name, Point usual) {
    const auto at = step.values.find(name);
    const auto* point = at == step.values.end() ? nullptr : std::get_if<Point>(&at->second);
    return point ? *point : usual;
}

/// Seams whose free ends reach the edge: one that grew away is run after. What comes of a seam keeps its joint.
base::Result<std::vector<SeamWish>> reaching(const geometry::Shape& shape,
                                             const std::vector<SeamWish>& seams) {
    std::vector<SeamWish> out;
    for (const SeamWish& wish : seams) {
        const Line& seam = wish.path;
        const auto isMet = [&](Point end) {
            return geometry::nearestOnEdge(shape, end, 1e-3).has_value() ||
                   std::any_of(seams.begin(), seams.end(), [&](const SeamWish& other) {
                       return &other != &wish && geometry::distanceTo(other.path, end) < 1e-3;
                   });
        };
        const bool isFirstMet = isMet(seam.start), isLastMet = isMet(geometry::endOf(seam));
        if (isFirstMet && isLastMet) {
            out.push_back(wish);
            continue;
        }
        const auto which = isFirstMet  ? geometry::Ends::Last
                           : isLastMet ? geometry::Ends::First
                                       : geometry::Ends::Both;
        auto longer = geometry::extendedToEdge(seam, shape, kRunOnMm, which);
        if (!longer)
            return longer.error();
        for (const Line& one : *longer)
            out.push_back({one, wish.joint});
    }
    return out;
}

/// The division some seams make, without its prices.
base::Result<Division> partedAlong(const geometry::Shape& shape, const std::vector<SeamWish>& seams,
                                   const base::Progress& progress) {
    Division out;
    std::vector<Line> lines;
    for (const SeamWish& wish : seams) {
        lines.push_back(wish.path);
        Seam seam;
        seam.path = wish.path;
        seam.lengthMm = geometry::contourLength(wish.path);
        out.seams.push_back(std::move(seam));
    }
    auto parted = geometry::partedBy(shape, lines, progress);
    if (!parted)
        return parted.error();
    out.parts = std::move(parted->parts);
    return out;
}

std::string partName(const std::string& whole, size_t number, size_t of) {
    const bool endsInNumber = !whole.empty() && whole.back() >= '0' && whole.back() <= '9';
    return whole + (endsInNumber ? ", " : " ") + std::to_string(number) + " of " + std::to_string(of);
}

/// Carries one step out.
class Dividing {
  public:
    Dividing(const Pieces& pieces, const Step& step, const Pieces* before, const base::Progress& progress)
        : m_step(step), m_progress(progress), m_names(step, before, progress) {
        m_out.pieces = pieces;
    }

    base::Result<Outcome> run() {
        for (const design::PieceId id : design::resolved(m_step.on, m_out.pieces.now)) {
            const Piece piece = *design::findPiece(m_out.pieces.now, id);
            if (auto ok = divide(piece); !ok)
                return ok.error();
        }
        if (m_out.made.empty())
            return Error{Code::InvalidArgument,
                         m_isThere ? "The seams part nothing here." : "Choose a piece."};
        m_out.parts = m_names.parts();
        return std::move(m_out);
    }

  private:
    base::Status divide(const Piece& piece) {
        m_isThere = true;
        const SplitWish wish = wishOf(m_step, piece);
        auto joined = partsOf(piece.shape(), wish, m_progress);
        if (!joined)
            return joined.error();
        if (joined->parts.size() < 2)
            return base::Done{};
        const auto ids = m_names.name(piece.id, piece.placed, joined->parts);
        if (!ids)
            return ids.error();
        auto carried = design::carried({piece.body}, joined->parts, {}, m_progress);
        if (!carried)
            return carried.error();
        m_out.shortEnds += carried->shortEnds;
        m_out.droppedBits += carried->droppedBits;
        std::vector<design::Body> bodies = carried.take().bodies;
        glue(bodies, joined.value(), ids.value());
        put(piece, ids.value(), bodies, joined->seams);
        return base::Done{};
    }

    /// Where a part lies on another one, that one is glued, and a mark that it covers shows how far it comes.
    void glue(std::vector<design::Body>& bodies, const JoinedParts& joined,
              const std::vector<design::PieceId>& ids) {
        for (const SeamJoint& seam : joined.seams) {
            if (seam.joint == Joint::Butt)
                continue;
            design::Zone zone;
            zone.area = seam.strip;
            for (const Key& key : seam.keys)
                zone.area.openings.push_back(geometry::reversed(geometry::contourThrough(key.window)));
            zone.meets = ids[seam.upper];
            bodies[seam.lower].zones.push_back(std::move(zone));
            for (const Line& mark : seam.marks)
                bodies[seam.lower].lines.push_back(
                    {design::lineMadeBy(m_step.id, m_marks++), mark, design::Placement{ids[seam.upper]}});
        }
    }

    /// The parts in the place of the piece: one that lies on another comes after it.
    void put(const Piece& piece, const std::vector<design::PieceId>& ids,
             const std::vector<design::Body>& bodies, const std::vector<SeamJoint>& seams) {
        std::vector<size_t> order;
        for (size_t i = 0; i < ids.size(); ++i)
            order.push_back(i);
        for (size_t round = 0; round < ids.size(); ++round)
            for (const SeamJoint& seam : seams) {
                const auto upper = std::find(order.begin(), order.end(), seam.upper);
                const auto lower = std::find(order.begin(), order.end(), seam.lower);
                if (seam.joint != Joint::Butt && upper < lower)
                    std::rotate(upper, upper + 1, lower + 1);
            }
        auto& now = m_out.pieces.now;
        auto at = std::find_if(now.begin(), now.end(), [&](const Piece& p) { return p.id == piece.id; });
        at = now.erase(at);
        bool isFirst = true;
        for (const size_t i : order) {
            Piece part = piece;
            part.id = ids[i];
            part.name = partName(piece.name, i + 1, ids.size());
            part.body = std::make_shared<const design::Body>(bodies[i]);
            m_out.made.push_back(part.id);
            m_out.successors.push_back({piece.id, part.id, isFirst});
            isFirst = false;
            at = now.insert(at, std::move(part)) + 1;
        }
    }

    const Step& m_step;
    const base::Progress& m_progress;
    design::PartNames m_names;
    Outcome m_out;
    bool m_isThere = false;
    int m_marks = 0;
};

} // namespace

namespace {

/// The outline of everything that is meant, without its openings, smaller by an inset: one board, or several.
base::Result<Outcome> backed(const Pieces& pieces, const Step& step, const base::Progress& progress) {
    Outcome out;
    out.pieces = pieces;
    std::vector<geometry::Shape> shapes;
    const Piece* first = nullptr;
    for (const design::PieceId id : design::resolved(step.on, pieces.now)) {
        const Piece* piece = design::findPiece(pieces.now, id);
        first = first ? first : piece;
        shapes.push_back({piece->shape().outline, {}});
    }
    if (!first)
        return Error{Code::InvalidArgument, "Choose the pieces that are backed."};
    auto whole = geometry::weld(shapes, progress);
    if (!whole)
        return whole.error();
    std::vector<geometry::Shape> filled;
    for (const geometry::Shape& one : whole.value())
        filled.push_back({one.outline, {}});
    auto smaller = geometry::offset(filled, -design::valuesOf(boardKind(), step)[0], {}, progress);
    if (!smaller)
        return smaller.error();
    if (smaller->shapes.empty())
        return Error{Code::InvalidArgument, "Smaller by so much nothing is left of the board."};
    for (size_t i = 0; i < smaller->shapes.size(); ++i) {
        Piece board;
        board.id = first->id.parted(step.id, "board." + std::to_string(i + 1));
        board.name =
            smaller->shapes.size() == 1 ? "the backing board" : "backing board " + std::to_string(i + 1);
        board.body = std::make_shared<const design::Body>(design::Body{smaller->shapes[i]});
        board.placed = first->placed;
        out.made.push_back(board.id);
        out.pieces.now.push_back(std::move(board));
    }
    return out;
}

} // namespace

Step boardStep(const std::vector<design::PieceId>& pieces, double insetMm) {
    Step out;
    out.action = boardKind().name;
    out.on.assign(pieces.begin(), pieces.end());
    out.values = design::stepValues(boardKind(), {insetMm});
    return out;
}

std::optional<double> boardInsetMm(const Step& step) {
    return step.action == boardKind().name ? std::optional(design::valuesOf(boardKind(), step)[0])
                                           : std::nullopt;
}

bool isDivision(const Step& step) {
    return step.action == kind().name;
}

const design::StepKind* infoOf(const Step& step) {
    return step.action == kind().name ? &kind() : step.action == boardKind().name ? &boardKind() : nullptr;
}

std::string stepText(const Step& step) {
    if (!isDivision(step))
        return design::stepText(boardKind(), step);
    size_t seams = 0;
    std::vector<int> joints(3, 0);
    for (; step.values.count(numbered("seam", seams)); ++seams)
        if (const auto joint = step.values.find(numbered("joint", seams)); joint != step.values.end())
            for (size_t k = 0; k < 3; ++k)
                joints[k] += std::get_if<std::string>(&joint->second) &&
                             std::get<std::string>(joint->second) == kJointWords[k];
    std::string out = "Divide along " + std::to_string(seams) + (seams == 1 ? " seam" : " seams");
    static const char* const kSaid[] = {"butt", "overlapping", "keyed"};
    for (size_t k = 3; k-- > 0;)
        if (joints[k] > 0)
            out += ", " +
                   (joints[k] == static_cast<int>(seams) ? std::string() : std::to_string(joints[k]) + " ") +
                   kSaid[k];
    return out;
}

Step splitStep(const Piece& piece, const SplitWish& wish, const KeysUsed& usedAfter) {
    Step out;
    out.action = kind().name;
    out.on = {piece.id};
    out.values = design::stepValues(kind(), {wish.overlapMm});
    out.values["room"] = Point{wish.room.widthMm, wish.room.heightMm}; // a mat does not grow with the work
    out.values[kUsedBefore] = asPoint(wish.used);
    out.values[kUsedAfter] = asPoint(usedAfter);
    const geometry::Transform own = geometry::inverse(piece.placed);
    for (size_t i = 0; i < wish.seams.size(); ++i) {
        out.values[numbered("seam", i)] = geometry::transformed(wish.seams[i].path, own);
        out.values[numbered("joint", i)] = std::string(kJointWords[static_cast<size_t>(wish.seams[i].joint)]);
    }
    return out;
}

std::vector<Joint> jointsOf(const std::vector<SeamWish>& seams) {
    std::vector<Joint> out;
    for (const SeamWish& seam : seams)
        out.push_back(seam.joint);
    return out;
}

KeysUsed keysUsedBy(const Step& step) {
    return isDivision(step) ? keysFrom(pointIn(step, kUsedAfter, {})) : KeysUsed{};
}

int partNumber(const Piece& piece) {
    // "sky 2 of 5", as partName writes it.
    const auto of = piece.name.rfind(" of "),
               blank = of == std::string::npos ? of : piece.name.rfind(' ', of - 1);
    return blank == std::string::npos ? 0 : std::atoi(piece.name.c_str() + blank + 1);
}

SplitWish wishOf(const Step& step, const Piece& like) {
    const std::vector<double> values = design::valuesOf(kind(), step);
    SplitWish out;
    out.overlapMm = values[0];
    out.used = keysFrom(pointIn(step, kUsedBefore, {}));
    const Point room = pointIn(step, "room", {1e9, 1e9});
    out.room = {room.x, room.y};
    for (size_t i = 0;; ++i) {
        const auto at = step.values.find(numbered("seam", i));
        if (at == step.values.end())
            break;
        const auto* line = std::get_if<Line>(&at->second);
        if (!line)
            break;
        SeamWish seam{geometry::transformed(*line, like.placed), Joint::Butt};
        if (const auto joint = step.values.find(numbered("joint", i)); joint != step.values.end())
            if (const auto* word = std::get_if<std::string>(&joint->second))
                for (size_t k = 0; k < 3; ++k)
                    if (*word == kJointWords[k])
                        seam.joint = static_cast<Joint>(k);
        out.seams.push_back(std::move(seam));
    }
    return out;
}

base::Result<JoinedParts> partsOf(const geometry::Shape& shape, const SplitWish& wish,
                                  const base::Progress& progress) {
    const auto seams = reaching(shape, wish.seams);
    if (!seams)
        return seams.error();
    auto division = partedAlong(shape, *seams, progress);
    if (!division)
        return division.error();
    JointOptions options;
    options.overlapMm = wish.overlapMm;
    options.used = wish.used;
    return joined(*division, jointsOf(*seams), wish.room, options, progress);
}

base::Result<Outcome> apply(const Pieces& pieces, const Step& step, const Pieces* before,
                            const base::Progress& progress) {
    if (!infoOf(step))
        return Error{Code::Unsupported, "This program does not know the step '" + step.action + "'."};
    return isDivision(step) ? Dividing(pieces, step, before, progress).run() : backed(pieces, step, progress);
}

} // namespace thinline::split
