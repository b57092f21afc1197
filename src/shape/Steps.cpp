// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include "base/Length.h"
#include "geometry/Boolean.h"
#include "geometry/Fit.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Openings.h"
#include "geometry/Placing.h"

#include <algorithm>
#include <numbers>

namespace thinline::shape {
namespace {

using base::Code;
using base::Error;
using geometry::Shape;
using Shapes = std::vector<Shape>;

/// Carries one step out.
class Doing {
  public:
    Doing(const Work& work, const Step& step, const base::Progress& progress)
        : m_step(step), m_progress(progress) {
        m_out.work = work;
        for (PieceId id : piecesOf(work, step))
            for (const Item& item : work.items)
                if (item.piece.id == id)
                    m_chosen.push_back(item);
    }

    base::Result<Outcome> run() {
        const ActionInfo& info = infoOf(m_step.action);
        if (m_chosen.size() < info.leastPieces)
            return Error{Code::InvalidArgument,
                         info.leastPieces > 1 ? "Choose two pieces or more." : "Choose a piece."};
        auto values = base::checkedValues(info.parameters, m_step.values);
        if (!values)
            return values.error();
        m_values = values.take();
        const base::Status done = act();
        if (!done)
            return done.error();
        return std::move(m_out);
    }

  private:
    base::Status act() {
        switch (m_step.action) {
        case Action::Join:
            return together(geometry::weld(shapesOf(0), m_progress), {});
        case Action::CutOut:
            return together(geometry::subtract(shapesOf(0, 1), shapesOf(1), m_progress), others());
        case Action::KeepOverlap:
            return keepOverlap();
        case Action::KeepEveryPart:
            return keepEveryPart();
        case Action::Divide:
            return divide();
        case Action::Offset:
            return offset();
        case Action::FillOpenings:
            return eachChanged(
                [&](const Shape& shape) { return geometry::withSmallOpeningsFilled(shape, m_values[0], 0); });
        case Action::Smooth:
            return smooth();
        case Action::MirrorTwin:
            return mirrorTwin();
        case Action::Move:
            moveAll({m_values[0] * m_out.work.scaleX, m_values[1] * m_out.work.scaleY});
            return base::Done{};
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
            for (const Item& item : m_chosen)
                scrap(item, true);
            return base::Done{};
        case Action::PutBack:
            return putBack();
        case Action::EmptyScrap:
            m_out.work.scrap.clear();
            return base::Done{};
        }
        return base::Done{};
    }

    Shapes shapesOf(size_t from, size_t to = SIZE_MAX) const {
        Shapes out;
        for (size_t i = from; i < std::min(to, m_chosen.size()); ++i)
            out.push_back(*m_chosen[i].piece.shape);
        return out;
    }
    std::vector<Item> others() const { return {m_chosen.begin() + 1, m_chosen.end()}; }

    void remove(PieceId id) {
        std::erase_if(m_out.work.items, [&](const Item& item) { return item.piece.id == id; });
    }
    void scrap(const Item& item, bool isRemoved) {
        if (isRemoved)
            remove(item.piece.id);
        m_out.work.scrap.push_back(item);
        m_out.scrapped.push_back(item.piece.id);
    }
    /// A left-over that never was a piece of its own.
    void scrapShape(const Item& origin, const Shape& shape) {
        Item item = origin;
        item.piece = {m_out.work.next++, std::make_shared<const Shape>(shape), 1};
        item.stockOf = origin.piece.id;
        scrap(item, false);
    }

    /// Puts shapes where a piece was: the first keeps its number and place, the others follow it.
    void replace(const Item& origin, const Shapes& shapes) {
        auto& items = m_out.work.items;
        auto at = std::find_if(items.begin(), items.end(),
                               [&](const Item& i) { return i.piece.id == origin.piece.id; });
        bool isFirst = true;
        for (const Shape& shape : shapes) {
            Item item = origin;
            item.piece.shape = std::make_shared<const Shape>(shape);
            if (!isFirst) {
                item.piece.id = m_out.work.next++;
                item.piece.copies = 1;
                item.stockOf = origin.piece.id;
            }
            m_out.made.push_back(item.piece.id);
            if (isFirst && at != items.end())
                *at = item;
            else
                at = items.insert(at == items.end() ? at : at + 1, item);
            isFirst = false;
        }
        if (shapes.empty())
            scrap(origin, true);
    }

    /// All chosen pieces give way to the result, which lies where the first lay.
    base::Status together(base::Result<Shapes> result, const std::vector<Item>& intoScrap) {
        if (!result)
            return result.error();
        for (const Item& item : others())
            remove(item.piece.id);
        for (const Item& item : intoScrap)
            scrap(item, false);
        replace(m_chosen.front(), *result);
        return base::Done{};
    }

    base::Status keepOverlap() {
        Shapes common = shapesOf(0, 1);
        for (const Item& item : others()) {
            auto next = geometry::intersect(common, {*item.piece.shape}, m_progress);
            if (!next)
                return next.error();
            common = next.take();
        }
        if (common.empty())
            return Error{Code::InvalidArgument, "These pieces have nothing in common."};
        for (const Item& item : m_chosen) {
            auto rest = geometry::subtract({*item.piece.shape}, common, m_progress);
            if (!rest)
                return rest.error();
            for (const Shape& shape : *rest)
                scrapShape(item, shape);
        }
        return together(common, {});
    }

    base::Status keepEveryPart() {
        auto cut = geometry::slice(shapesOf(0, 1), shapesOf(1), m_progress);
        if (!cut)
            return cut.error();
        Shapes parts = cut->outside;
        for (const Shapes& inside : cut->inside)
            parts.insert(parts.end(), inside.begin(), inside.end());
        return together(parts, others());
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
                remove(m_chosen[i].piece.id); // others cover all of it
            else
                replace(m_chosen[i], own);
        }
        return base::Done{};
    }

    base::Status offset() {
        const int count = static_cast<int>(m_values[1]);
        const auto join = static_cast<geometry::Join>(m_values[2]);
        for (const Item& item : m_chosen) {
            auto series =
                geometry::offsetSeries({*item.piece.shape}, m_values[0], count, {.join = join}, m_progress);
            if (!series)
                return series.error();
            Shapes shapes;
            // The largest lies lowest, so that all can be seen.
            for (const geometry::Parallel& one : *series) {
                m_out.vanished += one.vanished;
                m_out.fellApart += one.fellApart;
                shapes.insert(shapes.end(), one.shapes.begin(), one.shapes.end());
            }
            if (count > 1)
                shapes.insert(shapes.begin(), *item.piece.shape);
            std::stable_sort(shapes.begin(), shapes.end(), [](const Shape& a, const Shape& b) {
                return geometry::area({a.outline, {}}) > geometry::area({b.outline, {}});
            });
            replace(item, shapes);
        }
        return base::Done{};
    }

    template <class Change>
    base::Status eachChanged(Change change) {
        for (const Item& item : m_chosen)
            replace(item, {change(*item.piece.shape)});
        return base::Done{};
    }

    base::Status smooth() {
        const auto one = [&](const geometry::Contour& contour) {
            geometry::Cleaned clean = geometry::smoothed(contour, m_values[0]);
            m_out.strayMm = std::max(m_out.strayMm, clean.strayMm);
            return clean.contour;
        };
        for (const Item& item : m_chosen) {
            if (m_progress.isCancelled())
                return base::cancelled();
            Shape shape{one(item.piece.shape->outline), {}};
            for (const geometry::Contour& opening : item.piece.shape->openings)
                shape.openings.push_back(one(opening));
            // Two smoothed outlines might touch: what comes out is sound again.
            auto sound = geometry::weld({shape}, m_progress);
            if (!sound)
                return sound.error();
            replace(item, *sound);
        }
        return base::Done{};
    }

    /// The common frame of the chosen pieces.
    geometry::Box frame() const {
        geometry::Box box;
        for (const Item& item : m_chosen)
            box.include(geometry::bounds(*item.piece.shape));
        return box;
    }
    std::vector<geometry::Box> boxes() const {
        std::vector<geometry::Box> out;
        for (const Item& item : m_chosen)
            out.push_back(geometry::bounds(*item.piece.shape));
        return out;
    }

    /// Puts a mapped copy of every chosen piece at the end.
    void addTwins(const geometry::Transform& map) {
        for (const Item& item : m_chosen) {
            Item twin = item;
            twin.piece.id = m_out.work.next++;
            twin.piece.shape = std::make_shared<const Shape>(geometry::transformed(*item.piece.shape, map));
            twin.piece.name.clear();
            twin.stockOf = item.piece.id;
            m_out.made.push_back(twin.piece.id);
            m_out.work.items.push_back(std::move(twin));
        }
    }
    void map(const Item& origin, const geometry::Transform& by, double ownX = 1, double ownY = 1) {
        for (Item& item : m_out.work.items)
            if (item.piece.id == origin.piece.id) {
                item.piece.shape =
                    std::make_shared<const Shape>(geometry::transformed(*item.piece.shape, by));
                item.ownScaleX *= ownX;
                item.ownScaleY *= ownY;
                m_out.made.push_back(item.piece.id);
            }
    }
    base::Status eachMapped(const geometry::Transform& by) {
        for (const Item& item : m_chosen)
            map(item, by);
        return base::Done{};
    }
    void moveAll(geometry::Point by) {
        for (const Item& item : m_chosen)
            map(item, geometry::Transform::move(by));
    }

    base::Status mirrorTwin() {
        addTwins(geometry::mirrorAbout({frame().most.x + m_values[0] / 2, 0}, geometry::Axis::Vertical));
        return base::Done{};
    }

    base::Status sizeAlone() {
        const double x = m_values[0] / 100, y = m_values[1] / 100;
        const auto by = geometry::about(frame().centre(), geometry::Transform::scale(x, y));
        for (const Item& item : m_chosen)
            map(item, by, x, y);
        return base::Done{};
    }

    base::Status rowsOfTwins() {
        const int columns = static_cast<int>(m_values[0]), rows = static_cast<int>(m_values[1]);
        if (columns * rows * static_cast<int>(m_chosen.size()) > kMostTwins)
            return tooMany();
        const geometry::Box box = frame();
        const double stepX = box.width() + m_values[2] * m_out.work.scaleX,
                     stepY = box.height() + m_values[3] * m_out.work.scaleY;
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column)
                if (row > 0 || column > 0)
                    addTwins(geometry::Transform::move({column * stepX, row * stepY}));
        return base::Done{};
    }

    /// The pieces lie at the top of the ring; the twins follow clockwise.
    base::Status ringOfTwins() {
        const int count = static_cast<int>(m_values[0]);
        if (count * static_cast<int>(m_chosen.size()) > kMostTwins)
            return tooMany();
        const bool isTurned = m_values[2] < 0.5;
        const geometry::Point middle = frame().centre();
        const geometry::Point centre = middle + geometry::Point{0, m_values[1] * m_out.work.scaleX};
        for (int i = 1; i < count; ++i) {
            const auto turn = geometry::turnAbout(centre, 2 * std::numbers::pi * i / count);
            addTwins(isTurned ? turn : geometry::Transform::move(turn(middle) - middle));
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
        const double scale = axis == Axis::Horizontal ? m_out.work.scaleX : m_out.work.scaleY;
        const geometry::Spacing spacing = m_values[1] < 0.5
                                              ? geometry::evenSpacing(boxes(), axis)
                                              : geometry::spacingOf(boxes(), axis, m_values[2] * scale);
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
        auto& scrapHeap = m_out.work.scrap;
        for (PieceId id : m_step.pieces) {
            const auto at = std::find_if(scrapHeap.begin(), scrapHeap.end(),
                                         [&](const Item& i) { return i.piece.id == id; });
            if (at == scrapHeap.end())
                continue;
            m_out.made.push_back(id);
            m_out.work.items.push_back(*at);
            scrapHeap.erase(at);
        }
        if (m_out.made.empty())
            return Error{Code::InvalidArgument, "That is not in the scrap any more."};
        return base::Done{};
    }

    static constexpr int kMostTwins = 5000; ///< what the bench still shows at ease

    const Step& m_step;
    const base::Progress& m_progress;
    std::vector<double> m_values;
    std::vector<Item> m_chosen;
    Outcome m_out;
};

} // namespace

std::vector<PieceId> piecesOf(const Work& work, const Step& step) {
    std::vector<PieceId> out;
    for (PieceId id : step.pieces) {
        const int source = design::sourceOf(id);
        if (source == 0 || id != design::allOfSource(source)) {
            out.push_back(id);
            continue;
        }
        for (const Item& item : work.items)
            if (design::sourceOf(item.piece.id) == source)
                out.push_back(item.piece.id);
    }
    return out;
}

base::Result<Outcome> apply(const Work& work, const Step& step, const base::Progress& progress) {
    return Doing(work, step, progress).run();
}

base::Result<Replayed> replay(const Work& start, const std::vector<Step>& steps,
                              const base::Progress& progress) {
    Replayed out{start, {}};
    for (size_t i = 0; i < steps.size(); ++i) {
        auto done = apply(out.work, steps[i],
                          progress.part(static_cast<double>(i) / static_cast<double>(steps.size()),
                                        static_cast<double>(i + 1) / static_cast<double>(steps.size())));
        if (done) {
            out.work = std::move(done.take().work);
            continue;
        }
        if (done.error().code == Code::Cancelled)
            return done.error();
        const auto isThere = [&](PieceId id) {
            return std::any_of(out.work.items.begin(), out.work.items.end(),
                               [&](const Item& item) { return item.piece.id == id; });
        };
        const std::vector<PieceId> pieces = piecesOf(out.work, steps[i]);
        const bool areGone = pieces.empty() || !std::all_of(pieces.begin(), pieces.end(), isThere);
        out.passedOver.push_back(
            "Step " + std::to_string(i + 1) + " (" + infoOf(steps[i].action).label +
            ") was passed over: " + (areGone ? "its pieces are not there any more." : done.error().message));
    }
    return out;
}

base::Result<OutcomeNumbers> numbersOf(const Work& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress) {
    OutcomeNumbers out;
    const std::vector<PieceId> pieces = piecesOf(before, step);
    for (const Item& item : before.items)
        if (std::find(pieces.begin(), pieces.end(), item.piece.id) != pieces.end()) {
            ++out.piecesBefore;
            out.nodesBefore += geometry::nodeCount(*item.piece.shape);
        }
    Shapes made;
    for (const Item& item : outcome.work.items)
        if (std::find(outcome.made.begin(), outcome.made.end(), item.piece.id) != outcome.made.end() ||
            std::find(pieces.begin(), pieces.end(), item.piece.id) !=
                pieces.end()) { // twins leave their originals
            ++out.piecesAfter;
            out.nodesAfter += geometry::nodeCount(*item.piece.shape);
            made.push_back(*item.piece.shape);
            auto neck = geometry::narrowestNeck(*item.piece.shape, progress);
            if (!neck)
                return neck.error();
            if (*neck && (!out.narrowest || (*neck)->widthMm < out.narrowest->widthMm))
                out.narrowest = **neck;
        }
    if (made.empty())
        return out;
    const auto groups = geometry::connectedGroups(made, progress);
    if (!groups)
        return groups.error();
    out.looseParts = *std::max_element(groups->begin(), groups->end()) + 1;
    return out;
}

} // namespace thinline::shape
