// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What lies over folds. A fold bends, and what is on it bends along or holds it flat: words on two panels are read by
// nobody, and a piece glued across a fold keeps it from closing. So whatever is put on one panel is looked for on the fold
// beside it: words, codes and figures that are printed, what a pen draws, and pieces that lie flat on the folded one, before
// it or behind.
//
// Pictures, colours and gradients are left alone: they usually go all over a box. So is a piece that is folded at the same
// place, as two sheets glued together and folded as one.
#include "folds/Foam.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "geometry/Shape.h"
#include "inspect/Findings.h"

#include <algorithm>
#include <cmath>

namespace thinline::inspect {
namespace {

using design::Body;
using design::Face;
using design::Laid;
using design::PieceLine;
using geometry::Point;

constexpr double kReadRoomMm = 2;  ///< from memory: a scored line is never quite where the print is
constexpr double kPieceRoomMm = 1; ///< from memory: card beside a fold moves when it bends
constexpr double kOnFoldMm = 0.5;  ///< shorter than that it only touches it

std::vector<const PieceLine*> foldsOf(const Body& body) {
    std::vector<const PieceLine*> out;
    for (const PieceLine& line : body.lines)
        if (std::holds_alternative<design::Fold>(line.does) && !line.path.segments.empty())
            out.push_back(&line);
    return out;
}

/// The parts of a line on some card; none where that cannot be told.
std::vector<geometry::Line> partsOn(const geometry::Line& line, const geometry::Shape& card) {
    auto parts = geometry::clippedTo(line, card);
    return parts ? parts.take() : std::vector<geometry::Line>{};
}
double lengthOf(const std::vector<geometry::Line>& parts) {
    double out = 0;
    for (const geometry::Line& part : parts)
        out += geometry::contourLength(part);
    return out;
}

geometry::Shape placeOf(const Face& face) {
    return {geometry::contourThrough(
                {face.place({0, 0}), face.place({1, 0}), face.place({1, 1}), face.place({0, 1})}),
            {}};
}

/// How near a line comes to the edge of a shape, if nearer than that; looked at every millimetre at least.
std::optional<double> wayTo(const geometry::Line& line, const geometry::Shape& shape, double withinMm) {
    const double whole = geometry::contourLength(line);
    const double steps = std::max(8.0, std::ceil(whole));
    std::optional<double> least;
    for (double i = 0; i <= steps; ++i) {
        const Point p = geometry::endOf(geometry::stretchOfLine(line, 0, whole * i / steps));
        if (const auto edge = geometry::nearestOnEdge(shape, p, least.value_or(withinMm)))
            least = edge->distance;
    }
    return least;
}

class Looking {
  public:
    Looking(const Look& look, Gathering& into) : m_look(look), m_into(into) {}

    void at(std::size_t place) {
        const Laid& laid = m_look.work.pieces[place];
        const Body& body = *laid.piece.body;
        m_folds = foldsOf(body);
        if (m_folds.empty())
            return;
        for (const Face& face : body.faces)
            if (design::isRead(face.kind) || face.kind == Face::Kind::Outline)
                print(laid, face);
        drawn(laid);
        if (m_look.state.made.finished)
            for (std::size_t i = 0; i < m_look.work.pieces.size(); ++i)
                if (i != place && !m_look.isHidden(m_look.work.pieces[i]))
                    piece(place, i);
    }

  private:
    void print(const Laid& laid, const Face& face) {
        const geometry::Shape where = placeOf(face);
        const geometry::Box box = geometry::bounds(where), near = box.grownBy(kReadRoomMm);
        const std::string what = face.kind == Face::Kind::Text      ? "A text"
                                 : face.kind == Face::Kind::Outline ? "A printed figure"
                                                                    : "A code";
        std::optional<double> least;
        for (const PieceLine* fold : m_folds) {
            if (!near.meets(geometry::bounds(fold->path)))
                continue;
            if (lengthOf(partsOn(fold->path, where)) > kOnFoldMm)
                return m_into.add(Severity::RisksCard, Kind::RunsOverFold, kPrintRemedy,
                                  {what + " on " + design::pieceName(m_look.work, laid) + " runs over a fold",
                                   laid.id(), box});
            if (const auto way = wayTo(fold->path, where, least.value_or(kReadRoomMm)))
                least = way;
        }
        if (least)
            m_into.add(Severity::Note, Kind::NearFold, kPrintRemedy,
                       {what + " on " + design::pieceName(m_look.work, laid) + " is " + inMm(*least) +
                            " from a fold",
                        laid.id(), box});
    }

    void drawn(const Laid& laid) {
        for (const PieceLine& line : laid.piece.body->lines) {
            if (!std::holds_alternative<design::Pen>(line.does))
                continue;
            const bool isOver = std::any_of(m_folds.begin(), m_folds.end(), [&](const PieceLine* fold) {
                return !geometry::meetingsAlong(line.path, fold->path).empty();
            });
            if (isOver)
                return m_into.add(
                    Severity::Note, Kind::RunsOverFold, "Draw it on one panel.",
                    {"What is drawn on " + design::pieceName(m_look.work, laid) + " runs over a fold",
                     laid.id(), geometry::bounds(line.path).grownBy(3)});
        }
    }

    /// Whether one lies flat on the other.
    bool doTouch(std::size_t a, std::size_t b) const {
        constexpr double kTouchMm = 0.05;
        const auto& of = m_look.state.made.finished->heights.of;
        return std::min(std::abs(of[a].topMm - of[b].bottomMm), std::abs(of[b].topMm - of[a].bottomMm)) <
               kTouchMm;
    }
    /// Whether a piece is folded where another one's fold lies.
    static bool isFoldedThere(const Body& body, const geometry::Line& fold) {
        const Point middle = geometry::middleOf(fold);
        return std::any_of(body.lines.begin(), body.lines.end(), [&](const PieceLine& line) {
            return std::holds_alternative<design::Fold>(line.does) && !line.path.segments.empty() &&
                   geometry::distanceTo(line.path, middle) < kPieceRoomMm;
        });
    }

    void piece(std::size_t folded, std::size_t other) {
        const Laid &laid = m_look.work.pieces[folded], &flat = m_look.work.pieces[other];
        const geometry::Box near = geometry::bounds(flat.shape()).grownBy(kPieceRoomMm);
        if (!near.meets(geometry::bounds(laid.shape())) || !doTouch(folded, other))
            return;
        std::optional<double> least;
        for (const PieceLine* fold : m_folds) {
            if (!near.meets(geometry::bounds(fold->path)))
                continue;
            const std::vector<geometry::Line> parts = partsOn(fold->path, flat.shape());
            for (const geometry::Line& part : parts)
                if (geometry::contourLength(part) > kOnFoldMm && !isFoldedThere(*flat.piece.body, part))
                    return m_into.add(
                        Severity::RisksCard, Kind::RunsOverFold,
                        "Glued there it keeps the fold from closing. Part it at the fold, fold it as well, "
                        "or move it.",
                        {m_look.called(flat) + " lies over a fold of " + design::pieceName(m_look.work, laid),
                         flat.id(), geometry::bounds(part).grownBy(3)});
            if (parts.empty())
                if (const auto way = wayTo(fold->path, flat.shape(), least.value_or(kPieceRoomMm)))
                    least = way;
        }
        if (least)
            m_into.add(Severity::Note, Kind::NearFold,
                       "Card beside a fold moves when it bends; leave a millimetre.",
                       {m_look.called(flat) + " is " + inMm(*least) + " from a fold of " +
                            design::pieceName(m_look.work, laid),
                        flat.id(), near});
    }

    static constexpr const char* kPrintRemedy =
        "Move it onto one panel, 2 mm from its folds; what is printed is at Shape.";

    const Look& m_look;
    Gathering& m_into;
    std::vector<const PieceLine*> m_folds; ///< of the piece in work
};

} // namespace

base::Status inspectOverFolds(const Look& look, Gathering& into) {
    Looking looking(look, into);
    for (std::size_t i = 0; i < look.work.pieces.size(); ++i) {
        if (look.progress.isCancelled())
            return base::cancelled();
        if (!look.isHidden(look.work.pieces[i]))
            looking.at(i);
    }
    return base::Done{};
}

} // namespace thinline::inspect
