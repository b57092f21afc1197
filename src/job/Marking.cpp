// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Marking the work. Marks are no decision: a layer asks for them, and where they lie follows from where its pieces lie now,
// after every step and with every tuck and room. So they are made last, on the finished outlines, and are never kept. A
// piece that is moved takes its mark along by being moved.
//
// Pieces of one layer that are lifted alike are marked as one, and a piece below is asked once by each such group. What is
// asked is a list of bodies; while it names the same ones, by pointer, the marked body is the one of before.
//
// A piece behind the base hangs from what lies above it: the foam between the two is its own, not the upper one's.
#include "job/Marking.h"

#include "geometry/Shape.h"

#include <algorithm>
#include <map>

namespace thinline::job {
namespace {

using design::Body;
using design::Laid;
using geometry::Line;

/// Pieces of one layer at one height.
struct Group {
    std::vector<size_t> pieces; ///< places in the stack
    double liftMm = 0;
    geometry::Box box;
    std::map<double, std::vector<Line>> marks; ///< by what holds it above them; made when first needed
};

std::vector<geometry::Shape> shapesOf(const std::vector<std::shared_ptr<const Body>>& bodies) {
    std::vector<geometry::Shape> out;
    for (const auto& body : bodies)
        out.push_back(body->shape);
    return out;
}

class Marking {
  public:
    Marking(const Job& job, design::Stack& work, const base::Progress& progress)
        : m_job(job), m_work(work), m_progress(progress) {
        for (const Laid& laid : work.pieces)
            m_boxes.push_back(geometry::bounds(laid.shape()));
    }

    base::Result<std::vector<design::PieceId>> run(design::Remembered<MarkMemo>& memory) {
        gather();
        std::vector<design::PieceId> unmarked;
        std::vector<std::shared_ptr<const Body>> marked(m_work.pieces.size());
        for (size_t lower = 0; lower < m_work.pieces.size(); ++lower) {
            const Laid& laid = m_work.pieces[lower];
            const std::vector<std::pair<size_t, MarksAsked>> asked = askedOf(lower);
            if (asked.empty())
                continue;
            MarkMemo memo{m_job.marks, {}, {}};
            for (const auto& [group, one] : asked)
                memo.asked.push_back(one);
            auto known = memory.find(laid.piece.body);
            if (!known || !(known->plan == memo.plan) || known->asked != memo.asked) {
                auto body = markedBody(*laid.piece.body, asked);
                if (!body)
                    return body.error();
                memo.marked = body.take();
                known = std::make_shared<const MarkMemo>(std::move(memo));
                memory.keep(laid.piece.body, known);
            }
            if (laid.up == design::Side::Front)
                marked[lower] = known->marked;
            else if (known->marked->lines.size() > laid.piece.body->lines.size())
                unmarked.push_back(laid.id());
        }
        for (size_t i = 0; i < marked.size(); ++i)
            if (marked[i])
                m_work.pieces[i].piece.body = marked[i];
        return unmarked;
    }

  private:
    bool isInFront(const Laid& laid) const { return m_work.layerOf(laid).at == design::Layer::At::Front; }

    void gather() {
        for (const design::Layer& layer : m_work.layers) {
            if (!layer.isMarked)
                continue;
            std::map<double, Group> byLift;
            for (size_t i = 0; i < m_work.pieces.size(); ++i)
                if (const Laid& laid = m_work.pieces[i]; laid.layer == layer.id) {
                    const double liftMm = isInFront(laid) ? laid.liftMm : 0;
                    Group& group = byLift[liftMm];
                    group.liftMm = liftMm;
                    group.pieces.push_back(i);
                    group.box.include(m_boxes[i]);
                }
            for (auto& [lift, group] : byLift)
                m_groups.push_back(std::move(group));
        }
    }

    /// Who asks a piece for marks, and what lies between.
    std::vector<std::pair<size_t, MarksAsked>> askedOf(size_t lower) const {
        std::vector<std::pair<size_t, MarksAsked>> out;
        for (size_t g = 0; g < m_groups.size(); ++g) {
            const Group& group = m_groups[g];
            const size_t first = group.pieces.front();
            const bool isAbove = first > lower && m_work.pieces[first].layer != m_work.pieces[lower].layer;
            if (!isAbove || !group.box.meets(m_boxes[lower]))
                continue;
            const Laid& under = m_work.pieces[lower];
            MarksAsked one{m_work.pieces[group.pieces.front()].id(),
                           {},
                           {},
                           group.liftMm + (isInFront(under) ? 0 : under.liftMm)};
            bool isCovered = false;
            for (const size_t i : group.pieces) {
                one.covers.push_back(m_work.pieces[i].piece.body);
                isCovered = isCovered || m_boxes[i].meets(m_boxes[lower]);
            }
            if (!isCovered)
                continue;
            for (size_t i = lower + 1; i < first; ++i)
                if (m_boxes[i].meets(m_boxes[lower]) && m_boxes[i].meets(group.box))
                    one.between.push_back(m_work.pieces[i].piece.body);
            out.emplace_back(g, std::move(one));
        }
        return out;
    }

    base::Result<const std::vector<Line>*> marksOf(Group& group, const MarksAsked& asked) {
        auto known = group.marks.find(asked.liftMm);
        if (known == group.marks.end()) {
            auto marks = folds::marksOf(shapesOf(asked.covers), asked.liftMm, m_job.marks, m_progress);
            if (!marks)
                return marks.error();
            known = group.marks.emplace(asked.liftMm, marks.take()).first;
        }
        return &known->second;
    }

    base::Result<std::shared_ptr<const Body>>
    markedBody(const Body& plain, const std::vector<std::pair<size_t, MarksAsked>>& asked) {
        Body out = plain;
        int number = kFirstMark;
        for (const auto& [g, one] : asked) {
            auto marks = marksOf(m_groups[g], one);
            if (!marks)
                return marks.error();
            auto lines = folds::marksOn(plain.shape, shapesOf(one.between), **marks, m_progress);
            if (!lines)
                return lines.error();
            for (Line& line : lines.take())
                out.lines.push_back({design::LineId{number++}, std::move(line),
                                     design::Placement{one.shows, m_job.marks.areScored}});
        }
        return std::make_shared<const Body>(std::move(out));
    }

    const Job& m_job;
    design::Stack& m_work;
    const base::Progress& m_progress;
    std::vector<geometry::Box> m_boxes;
    std::vector<Group> m_groups;
};

} // namespace

base::Result<std::vector<design::PieceId>> mark(const Job& job, design::Stack& work,
                                                design::Remembered<MarkMemo>& memory,
                                                const base::Progress& progress) {
    const bool isAsked = std::any_of(work.layers.begin(), work.layers.end(),
                                     [](const design::Layer& layer) { return layer.isMarked; });
    if (!isAsked)
        return std::vector<design::PieceId>{};
    return Marking(job, work, progress).run(memory);
}

} // namespace thinline::job
