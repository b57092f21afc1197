// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Carrying out a step at Shape, and naming what comes out.
//
// An action takes pieces, and leaves others. What it does to outlines is one call of geometry for most of
// them. What makes it trustworthy is the rest: which of the new pieces are which.
//
// - A piece that is changed and stays one piece keeps its identity, and with it everything the person said
//   about it.
// - Parts of a piece have names of their own, and ask the piece they came from for whatever was not said
//   of them themselves.
// - Such a name is the path that led to the part: the piece it came from, the step, and a key within the
//   step ("2", "rest.1", "ring.3", "twin.8"). Step numbers are never used twice. So whatever is edited
//   before or after, a name means the same piece or none.
// - Keys of parts follow the order in which they are found the first time (largest first), and are
//   remembered in the step with a point inside each. When an earlier step is edited and the parts come out
//   in another order, they are matched by place and keep their keys (design/PartNames.h).
// - Twins in rows are counted in squares around the first corner, those in a ring clockwise. A row or
//   column more adds numbers behind; the twin that was painted red stays red.
// - Joining is the other direction: the first of the chosen gives its name, the others are gone. What was
//   wished for them waits, in case the step is taken out again.
//
// What lies on the pieces is carried by design/Carry.cpp, from the bodies an outline is made of: for a
// weld from all of them, for what is cut out only from the piece it is cut from. Rings of a series start
// bare, since a fold of the middle has no meaning on a margin round it.
//
// Steps are evaluated on whatever the pieces are now, which may be other than when the step was made. So a
// step may find nothing it was made for. It is then passed over with a sentence; it never falls on other
// pieces instead, and it does not stop those behind it.
//
// Filling of small openings is the one action that decides by size. When the design is resized, "small"
// would mean other openings, and a window that was cut at one size would be filled at another one. Sizing
// settles such a step: it writes down which openings were filled, and from then on it fills these.
#include "shape/Steps.h"

#include "base/Length.h"
#include "design/Carry.h"
#include "design/PartNames.h"
#include "geometry/Boolean.h"
#include "geometry/Fit.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Openings.h"
#include "geometry/Placing.h"
#include "shape/Bridges.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::shape {
namespace {

using base::Code;
using base::Error;
using design::Body;
using design::Piece;
using geometry::Shape;
using Shapes = std::vector<Shape>;
using Bodies = std::vector<std::shared_ptr<const Body>>;

/// Carries one step out.
class Doing {
  public:
    Doing(const Pieces& pieces, const Step& step, const ActionInfo& info, const Pieces* before,
          const base::Progress& progress)
        : m_step(step), m_info(info), m_values(design::valuesOf(info, step)), m_progress(progress),
          m_names(step, before, progress) {
        m_out.pieces = pieces;
        for (const PieceId id : design::resolved(step.on, pieces.now))
            m_chosen.push_back(*design::findPiece(pieces.now, id));
    }

    base::Result<Outcome> run() {
        if (m_chosen.size() < m_info.leastPieces)
            return Error{Code::InvalidArgument,
                         m_info.leastPieces > 1 ? "Choose two pieces or more." : "Choose a piece."};
        if (auto sound = design::checkBounds(m_info, m_values); !sound)
            return sound.error();
        if (const base::Status done = act(); !done)
            return done.error();
        m_out.parts = m_names.parts();
        return std::move(m_out);
    }

  private:
    base::Status act() {
        switch (m_info.action) {
        case Action::Join:
            return together(geometry::weld(shapesOf(0), m_progress), bodiesOf(m_chosen), {});
        case Action::Bridge:
            return bridge();
        case Action::CutOut:
            return together(geometry::subtract(shapesOf(0, 1), shapesOf(1), m_progress), {m_chosen[0].body},
                            others());
        case Action::KeepOverlap:
            return keepOverlap();
        case Action::KeepEveryPart:
            return keepEveryPart();
        case Action::Divide:
            return divide();
        case Action::Offset:
            return offset();
        case Action::FillOpenings:
            return fillOpenings();
        case Action::Smooth:
            return smooth();
        case Action::MirrorTwin:
            addTwins(geometry::mirrorAbout({frame().most.x + m_values[0] / 2, 0}, geometry::Axis::Vertical),
                     1);
            return base::Done{};
        case Action::Mirror:
            return eachMapped(geometry::mirrorAbout(
                frame().centre(), m_values[0] < 0.5 ? geometry::Axis::Vertical : geometry::Axis::Horizontal));
        case Action::Move:
            return eachMapped(geometry::Transform::move({m_values[0], m_values[1]}));
        case Action::Turn:
            return eachMapped(geometry::turnAbout(frame().centre(), m_values[0] * std::numbers::pi / 180));
        case Action::SizeAlone:
            return sizeAlone();
        case Action::RowsOfTwins:
            return rowsOfTwins();
        case Action::RingOfTwins:
            return ringOfTwins();
        case Action::Align:
            return align();
        case Action::SpaceEvenly:
            return spaceEvenly();
        case Action::SetAside:
            for (const Piece& piece : m_chosen)
                scrap(piece, true);
            return base::Done{};
        case Action::PutBack:
            return putBack();
        case Action::EmptyScrap:
            m_out.pieces.scrap.clear();
            return base::Done{};
        }
        return base::Done{};
    }

    // ---- what was chosen

    Shapes shapesOf(size_t from, size_t to = SIZE_MAX) const {
        Shapes out;
        for (size_t i = from; i < std::min(to, m_chosen.size()); ++i)
            out.push_back(m_chosen[i].shape());
        return out;
    }
    std::vector<Piece> others() const { return {m_chosen.begin() + 1, m_chosen.end()}; }
    static Bodies bodiesOf(const std::vector<Piece>& pieces) {
        Bodies out;
        for (const Piece& piece : pieces)
            out.push_back(piece.body);
        return out;
    }
    /// The common frame of the chosen pieces.
    geometry::Box frame() const {
        geometry::Box box;
        for (const Piece& piece : m_chosen)
            box.include(geometry::bounds(piece.shape()));
        return box;
    }
    std::vector<geometry::Box> boxes() const {
        std::vector<geometry::Box> out;
        for (const Piece& piece : m_chosen)
            out.push_back(geometry::bounds(piece.shape()));
        return out;
    }

    // ---- pieces come and go

    void remove(PieceId id) {
        std::erase_if(m_out.pieces.now, [&](const Piece& piece) { return piece.id == id; });
    }
    void scrap(const Piece& piece, bool isRemoved) {
        if (isRemoved)
            remove(piece.id);
        m_out.pieces.scrap.push_back(piece);
        m_out.scrapped.push_back(piece.id);
    }

    base::Result<Bodies> carried(const Bodies& from, Shapes into,
                                 double runOnMm = design::CarryOptions{}.runOnMm) {
        auto out = design::carried(from, std::move(into), {.runOnMm = runOnMm}, m_progress);
        if (!out)
            return out.error();
        m_out.shortEnds += out->shortEnds;
        m_out.droppedBits += out->droppedBits;
        Bodies bodies;
        for (const Body& body : out->bodies)
            bodies.push_back(std::make_shared<const Body>(body));
        return bodies;
    }

    /// A piece made of another one.
    static Piece madeOf(const Piece& origin, PieceId id, std::shared_ptr<const Body> body, const char* word) {
        Piece out = origin;
        if (id != origin.id) {
            const auto dot = id.key().rfind('.');
            out.name +=
                std::string(", ") + word + " " + id.key().substr(dot == std::string::npos ? 0 : dot + 1);
        }
        out.id = id;
        out.body = std::move(body);
        return out;
    }

    /// Puts pieces where one was, in its order.
    void put(const Piece& origin, const std::vector<Piece>& pieces) {
        auto& now = m_out.pieces.now;
        auto at = std::find_if(now.begin(), now.end(), [&](const Piece& p) { return p.id == origin.id; });
        for (size_t i = 0; i < pieces.size(); ++i) {
            m_out.made.push_back(pieces[i].id);
            m_out.successors.push_back({origin.id, pieces[i].id, i == 0});
            if (i == 0 && at != now.end())
                *at = pieces[i];
            else
                at = now.insert(at == now.end() ? at : at + 1, pieces[i]);
        }
        if (pieces.empty())
            scrap(origin, true);
    }

    /// Puts outlines where a piece was; what belongs to them is taken from the bodies given.
    base::Status replace(const Piece& origin, const Bodies& from, Shapes shapes,
                         double runOnMm = design::CarryOptions{}.runOnMm) {
        const auto ids = m_names.name(origin.id, origin.placed, shapes);
        if (!ids)
            return ids.error();
        auto bodies = carried(from, std::move(shapes), runOnMm);
        if (!bodies)
            return bodies.error();
        std::vector<Piece> pieces;
        for (size_t i = 0; i < ids->size(); ++i)
            pieces.push_back(madeOf(origin, (*ids)[i], (*bodies)[i], "part"));
        put(origin, pieces);
        return base::Done{};
    }

    /// All chosen pieces give way to the result, which lies where the first lay.
    base::Status together(base::Result<Shapes> result, const Bodies& from,
                          const std::vector<Piece>& intoScrap) {
        if (!result)
            return result.error();
        for (const Piece& piece : others())
            remove(piece.id);
        for (const Piece& piece : intoScrap)
            scrap(piece, false);
        return replace(m_chosen.front(), from, result.take());
    }

    // ---- set operations

    base::Status bridge() {
        Shapes all = shapesOf(0);
        auto bars = bridgesBetween(all,
                                   {m_values[0], static_cast<int>(m_values[1]),
                                    static_cast<BridgeWish::Where>(static_cast<int>(m_values[2]))},
                                   m_progress);
        if (!bars)
            return bars.error();
        all.insert(all.end(), bars->begin(), bars->end());
        return together(geometry::weld(all, m_progress), bodiesOf(m_chosen), {});
    }

    base::Status keepOverlap() {
        Shapes common = shapesOf(0, 1);
        for (const Piece& piece : others()) {
            auto next = geometry::intersect(common, {piece.shape()}, m_progress);
            if (!next)
                return next.error();
            common = next.take();
        }
        if (common.empty())
            return Error{Code::InvalidArgument, "These pieces have nothing in common."};
        for (const Piece& piece : m_chosen) {
            auto rest = geometry::subtract({piece.shape()}, common, m_progress);
            if (!rest)
                return rest.error();
            if (auto ok = scrapRests(piece, rest.take()); !ok)
                return ok;
        }
        return together(common, bodiesOf(m_chosen), {});
    }

    /// Left-overs that never were pieces of their own.
    base::Status scrapRests(const Piece& origin, Shapes shapes) {
        const auto ids = m_names.name(origin.id, origin.placed, shapes, "rest.");
        if (!ids)
            return ids.error();
        auto bodies = carried({origin.body}, std::move(shapes));
        if (!bodies)
            return bodies.error();
        for (size_t i = 0; i < ids->size(); ++i) {
            scrap(madeOf(origin, (*ids)[i], (*bodies)[i], "rest"), false);
            m_out.successors.push_back({origin.id, (*ids)[i], false});
        }
        return base::Done{};
    }

    base::Status keepEveryPart() {
        auto cut = geometry::slice(shapesOf(0, 1), shapesOf(1), m_progress);
        if (!cut)
            return cut.error();
        Shapes parts = cut->outside;
        for (const Shapes& inside : cut->inside)
            parts.insert(parts.end(), inside.begin(), inside.end());
        return together(parts, {m_chosen[0].body}, others());
    }

    base::Status divide() {
        auto faces = geometry::divide(shapesOf(0), m_progress);
        if (!faces)
            return faces.error();
        for (size_t i = 0; i < m_chosen.size(); ++i) {
            Shapes own;
            for (const geometry::Face& face : *faces)
                if (face.cover.front() == static_cast<int>(i))
                    own.push_back(face.shape);
            if (own.empty())
                remove(m_chosen[i].id); // others cover all of it
            else if (auto ok = replace(m_chosen[i], {m_chosen[i].body}, std::move(own)); !ok)
                return ok;
        }
        return base::Done{};
    }

    // ---- outlines

    base::Status offset() {
        const int count = static_cast<int>(m_values[1]);
        const auto join = static_cast<geometry::Join>(m_values[2]);
        for (const Piece& piece : m_chosen) {
            auto series =
                geometry::offsetSeries({piece.shape()}, m_values[0], count, {.join = join}, m_progress);
            if (!series)
                return series.error();
            for (const geometry::Parallel& one : *series) {
                m_out.vanished += one.vanished;
                m_out.fellApart += one.fellApart;
            }
            // An end at the edge goes with it, however slantwise it met it.
            const double runOnMm = 2 + 2 * std::abs(m_values[0]);
            if (count == 1) {
                Shapes shapes = series->front().shapes;
                largestFirst(shapes);
                if (auto ok = replace(piece, {piece.body}, std::move(shapes), runOnMm); !ok)
                    return ok;
            } else if (auto ok = rings(piece, *series); !ok) {
                return ok;
            }
        }
        return base::Done{};
    }

    static void largestFirst(Shapes& shapes) {
        std::stable_sort(shapes.begin(), shapes.end(), [](const Shape& a, const Shape& b) {
            return geometry::area({a.outline, {}}) > geometry::area({b.outline, {}});
        });
    }

    /// The rings of a series beside the piece itself, which stays. They start bare.
    base::Status rings(const Piece& origin, const std::vector<geometry::Parallel>& series) {
        std::vector<Piece> all{origin};
        for (size_t n = 0; n < series.size(); ++n) {
            const PieceId ring = origin.id.parted(m_step.id, "ring." + std::to_string(n + 1));
            const auto ids = m_names.name(ring, origin.placed, series[n].shapes);
            if (!ids)
                return ids.error();
            for (size_t i = 0; i < ids->size(); ++i) {
                auto body = std::make_shared<const Body>(Body{series[n].shapes[i]});
                Piece one = madeOf(origin, ring, body, "ring");
                if ((*ids)[i] != ring)
                    one = madeOf(one, (*ids)[i], body, "part");
                all.push_back(std::move(one));
            }
        }
        // The largest lies lowest, so that all can be seen.
        std::stable_sort(all.begin(), all.end(), [](const Piece& a, const Piece& b) {
            return geometry::area({a.shape().outline, {}}) > geometry::area({b.shape().outline, {}});
        });
        put(origin, all);
        std::erase(m_out.made, origin.id);
        return base::Done{};
    }

    /// Fills what is small, or, once a sizing has settled which openings these are, the same ones as then.
    base::Status fillOpenings() {
        const bool isSettled = m_step.values.contains("settled");
        for (const Piece& piece : m_chosen) {
            Shape shape = piece.shape();
            if (!isSettled) {
                shape = geometry::withSmallOpeningsFilled(shape, m_values[0], 0);
            } else {
                std::erase_if(shape.openings, [&](const geometry::Contour& opening) {
                    return std::any_of(
                        m_step.parts.begin(), m_step.parts.end(), [&](const design::Part& part) {
                            return part.id == piece.id &&
                                   geometry::contains(Shape{opening, {}}, piece.placed(part.inside));
                        });
                });
            }
            if (auto ok = replace(piece, {piece.body}, {std::move(shape)}); !ok)
                return ok;
        }
        return base::Done{};
    }

    base::Status smooth() {
        const auto one = [&](const geometry::Contour& contour) {
            geometry::Cleaned clean = geometry::smoothed(contour, m_values[0]);
            m_out.strayMm = std::max(m_out.strayMm, clean.strayMm);
            return clean.contour;
        };
        for (const Piece& piece : m_chosen) {
            if (m_progress.isCancelled())
                return base::cancelled();
            Shape shape{one(piece.shape().outline), {}};
            for (const geometry::Contour& opening : piece.shape().openings)
                shape.openings.push_back(one(opening));
            // Two smoothed outlines might touch: what comes out is sound again.
            auto sound = geometry::weld({shape}, m_progress);
            if (!sound)
                return sound.error();
            if (auto ok = replace(piece, {piece.body}, sound.take()); !ok)
                return ok;
        }
        return base::Done{};
    }

    // ---- places

    void map(const Piece& origin, const geometry::Transform& by, double ownX = 1, double ownY = 1) {
        for (Piece& piece : m_out.pieces.now)
            if (piece.id == origin.id) {
                piece.body = std::make_shared<const Body>(design::mapped(*piece.body, by));
                piece.placed = piece.placed.then(by);
                piece.ownScaleX *= ownX;
                piece.ownScaleY *= ownY;
                m_out.made.push_back(piece.id);
            }
    }
    base::Status eachMapped(const geometry::Transform& by) {
        for (const Piece& piece : m_chosen)
            map(piece, by);
        return base::Done{};
    }

    base::Status sizeAlone() {
        const double x = m_values[0] / 100, y = m_values[1] / 100;
        if (!(x > 0) || !(y > 0))
            return Error{Code::InvalidArgument, "Pieces are sized by more than 0 %."};
        const auto by = geometry::about(frame().centre(), geometry::Transform::scale(x, y));
        for (const Piece& piece : m_chosen)
            map(piece, by, x, y);
        return base::Done{};
    }

    /// Puts a mapped copy of every chosen piece at the end, the n-th of its kind.
    void addTwins(const geometry::Transform& by, int number) {
        for (const Piece& piece : m_chosen) {
            const PieceId id = piece.id.parted(m_step.id, "twin." + std::to_string(number));
            Piece twin =
                madeOf(piece, id, std::make_shared<const Body>(design::mapped(*piece.body, by)), "twin");
            twin.placed = piece.placed.then(by);
            m_out.made.push_back(id);
            m_out.successors.push_back({piece.id, id, false});
            m_out.pieces.now.push_back(std::move(twin));
        }
    }

    base::Status rowsOfTwins() {
        const int columns = static_cast<int>(m_values[0]), rows = static_cast<int>(m_values[1]);
        if (columns * rows * static_cast<int>(m_chosen.size()) > kMostTwins)
            return tooMany();
        const geometry::Box box = frame();
        const double stepX = box.width() + m_values[2], stepY = box.height() + m_values[3];
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column)
                if (row > 0 || column > 0)
                    addTwins(geometry::Transform::move({column * stepX, row * stepY}),
                             numberInRows(column, row));
        return base::Done{};
    }
    /// A twin keeps its number when columns or rows are added: squares around the first corner are counted.
    static int numberInRows(int column, int row) {
        const int shell = std::max(column, row);
        return shell * shell + (row == shell ? column : shell + shell - row);
    }

    /// The pieces lie at the top of the ring; the twins follow clockwise.
    base::Status ringOfTwins() {
        const int count = static_cast<int>(m_values[0]);
        if (count * static_cast<int>(m_chosen.size()) > kMostTwins)
            return tooMany();
        const bool isTurned = m_values[2] < 0.5;
        const geometry::Point middle = frame().centre();
        const geometry::Point centre = middle + geometry::Point{0, m_values[1]};
        for (int i = 1; i < count; ++i) {
            const auto turn = geometry::turnAbout(centre, 2 * std::numbers::pi * i / count);
            addTwins(isTurned ? turn : geometry::Transform::move(turn(middle) - middle), i);
        }
        return base::Done{};
    }
    static base::Status tooMany() {
        return Error{Code::LimitExceeded, "That would be more than " + base::formatCount(kMostTwins) +
                                              " pieces; use copies instead: they are counted, not drawn."};
    }

    base::Status align() {
        using geometry::Axis, geometry::Edge;
        static constexpr std::pair<Axis, Edge> kHow[] = {
            {Axis::Horizontal, Edge::Low}, {Axis::Horizontal, Edge::Middle}, {Axis::Horizontal, Edge::High},
            {Axis::Vertical, Edge::Low},   {Axis::Vertical, Edge::Middle},   {Axis::Vertical, Edge::High}};
        const auto [axis, edge] = kHow[static_cast<size_t>(m_values[0])];
        shift(geometry::alignMoves(boxes(), axis, edge), axis);
        return base::Done{};
    }

    base::Status spaceEvenly() {
        using geometry::Axis;
        const Axis axis = m_values[0] < 0.5 ? Axis::Horizontal : Axis::Vertical;
        const geometry::Spacing spacing = m_values[1] < 0.5 ? geometry::evenSpacing(boxes(), axis)
                                                            : geometry::spacingOf(boxes(), axis, m_values[2]);
        m_out.gapMm = spacing.gapMm;
        shift(spacing.moves, axis);
        return base::Done{};
    }
    void shift(const std::vector<double>& moves, geometry::Axis axis) {
        for (size_t i = 0; i < m_chosen.size(); ++i)
            map(m_chosen[i],
                geometry::Transform::move(axis == geometry::Axis::Horizontal ? geometry::Point{moves[i], 0}
                                                                             : geometry::Point{0, moves[i]}));
    }

    base::Status putBack() {
        auto& heap = m_out.pieces.scrap;
        for (const PieceId id : design::resolved(m_step.on, heap)) {
            const auto at =
                std::find_if(heap.begin(), heap.end(), [&](const Piece& p) { return p.id == id; });
            if (design::findPiece(m_out.pieces.now, id))
                continue; // it came back by another way
            m_out.made.push_back(id);
            m_out.pieces.now.push_back(*at);
            heap.erase(at);
        }
        if (m_out.made.empty())
            return Error{Code::InvalidArgument, "That is not in the scrap any more."};
        return base::Done{};
    }

    static constexpr int kMostTwins = 5000; ///< what the bench still shows at ease

    const Step& m_step;
    const ActionInfo& m_info;
    const std::vector<double> m_values;
    const base::Progress& m_progress;
    design::PartNames m_names;
    std::vector<Piece> m_chosen;
    Outcome m_out;
};

} // namespace

base::Result<Outcome> apply(const Pieces& pieces, const Step& step, const Pieces* before,
                            const base::Progress& progress) {
    const ActionInfo* info = infoOf(step);
    if (!info)
        return Error{Code::Unsupported, "This program does not know the step '" + step.action + "'."};
    return Doing(pieces, step, *info, before, progress).run();
}

} // namespace thinline::shape
