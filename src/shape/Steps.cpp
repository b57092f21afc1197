// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include "base/Length.h"
#include "geometry/Boolean.h"
#include "geometry/Fit.h"
#include "geometry/Measures.h"
#include "geometry/Openings.h"
#include "geometry/Placing.h"

#include <algorithm>

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
        for (PieceId id : step.pieces)
            for (const Item& item : work.items)
                if (item.piece.id == id)
                    m_chosen.push_back(item);
    }

    base::Result<Outcome> run() {
        const ActionInfo& info = infoOf(m_step.action);
        if (m_chosen.size() < info.leastPieces)
            return Error{Code::InvalidArgument,
                         info.leastPieces > 1 ? "Choose two pieces or more." : "Choose a piece."};
        if (info.amount && !(m_step.amount >= info.amountLeast && m_step.amount <= info.amountMost))
            return Error{Code::InvalidArgument, std::string(info.amount) + " goes from " +
                                                    base::formatNumber(info.amountLeast, 1) + " to " +
                                                    base::formatNumber(info.amountMost, 0) + "."};
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
            return eachChanged([&](const Shape& shape) {
                return geometry::withSmallOpeningsFilled(shape, m_step.amount, 0);
            });
        case Action::Smooth:
            return smooth();
        case Action::MirrorTwin:
            return mirrorTwin();
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
        for (const Item& item : m_chosen) {
            auto series = geometry::offsetSeries({*item.piece.shape}, m_step.amount, m_step.count,
                                                 {.join = m_step.join}, m_progress);
            if (!series)
                return series.error();
            Shapes shapes;
            // The largest lies lowest, so that all can be seen.
            for (const geometry::Parallel& one : *series) {
                m_out.vanished += one.vanished;
                m_out.fellApart += one.fellApart;
                shapes.insert(shapes.end(), one.shapes.begin(), one.shapes.end());
            }
            if (m_step.count > 1)
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
            geometry::Cleaned clean = geometry::smoothed(contour, m_step.amount);
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

    base::Status mirrorTwin() {
        geometry::Box box;
        for (const Item& item : m_chosen)
            box.include(geometry::bounds(*item.piece.shape));
        const auto map = geometry::mirrorAbout({box.most.x + m_step.amount / 2, 0}, geometry::Axis::Vertical);
        for (const Item& item : m_chosen) {
            Item twin = item;
            twin.piece = {m_out.work.next++,
                          std::make_shared<const Shape>(geometry::transformed(*item.piece.shape, map)),
                          item.piece.copies};
            twin.stockOf = item.piece.id;
            m_out.made.push_back(twin.piece.id);
            m_out.work.items.push_back(std::move(twin));
        }
        return base::Done{};
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

    const Step& m_step;
    const base::Progress& m_progress;
    std::vector<Item> m_chosen;
    Outcome m_out;
};

} // namespace

const std::vector<ActionInfo>& actionInfos() {
    static const std::vector<ActionInfo> infos{
        {Action::Join, "join", "Join into one", 2, nullptr, 0, 0, 0},
        {Action::CutOut, "cut-out", "Cut the others out of the first", 2, nullptr, 0, 0, 0},
        {Action::KeepOverlap, "keep-overlap", "Keep the overlap", 2, nullptr, 0, 0, 0},
        {Action::KeepEveryPart, "keep-every-part", "Cut the first by the others, keep every part", 2, nullptr,
         0, 0, 0},
        {Action::Divide, "divide", "Divide into faces", 2, nullptr, 0, 0, 0},
        {Action::Offset, "offset", "Grow or shrink", 1, "The distance", 3, -100, 100},
        {Action::FillOpenings, "fill-openings", "Fill small openings", 1, "The area", 5, 0, 10'000},
        {Action::MirrorTwin, "mirror-twin", "Add a mirrored twin", 1, "The gap", 5, 0, 1000},
        {Action::Smooth, "smooth", "Smooth the outline", 1, "The reach", 1, 0.1, 20},
        {Action::SetAside, "set-aside", "Set aside as scrap", 1, nullptr, 0, 0, 0},
        {Action::PutBack, "put-back", "Put back from the scrap", 0, nullptr, 0, 0, 0},
        {Action::EmptyScrap, "empty-scrap", "Empty the scrap", 0, nullptr, 0, 0, 0},
    };
    return infos;
}

const ActionInfo& infoOf(Action action) {
    return *std::find_if(actionInfos().begin(), actionInfos().end(),
                         [&](const ActionInfo& info) { return info.action == action; });
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
        const bool areGone = !std::all_of(steps[i].pieces.begin(), steps[i].pieces.end(), isThere);
        out.passedOver.push_back(
            "Step " + std::to_string(i + 1) + " (" + infoOf(steps[i].action).label +
            ") was passed over: " + (areGone ? "its pieces are not there any more." : done.error().message));
    }
    return out;
}

base::Result<OutcomeNumbers> numbersOf(const Work& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress) {
    OutcomeNumbers out;
    for (const Item& item : before.items)
        if (std::find(step.pieces.begin(), step.pieces.end(), item.piece.id) != step.pieces.end()) {
            ++out.piecesBefore;
            out.nodesBefore += geometry::nodeCount(*item.piece.shape);
        }
    Shapes made;
    for (const Item& item : outcome.work.items)
        if (std::find(outcome.made.begin(), outcome.made.end(), item.piece.id) != outcome.made.end()) {
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
