// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Finishing: what is decided in millimetres of the finished work.
//
// Two things are done to pieces after all steps, because they are said in millimetres at the size that is
// cut, and because they depend on what lies above: areas are made smaller by the room left between
// neighbours, and pieces that lie under others are tucked, that is widened under them by so much, so that
// no edge shows a gap when the glue sets a hair aside. If they were steps of the design, resizing the
// design would resize them, and a tuck of one millimetre would become two.
//
// They follow from the source: a picture's areas have its room and its tuck, everything else has none. A
// piece is tucked only under pieces of the same picture in a higher layer (or under its ink only), whose
// boxes come near it.
//
// Each finished body is remembered by the body it was made of, with the options and the bodies above as
// they were. Bodies are never changed, only replaced, so equal pointers mean equal outlines and nothing is
// compared but pointers. After a click that paints one piece, the others are found in the memory; one that
// lay under it has another list above and is made anew.
//
// A piece that is narrower than twice the room vanishes. It is told, by count and by name, and it is still
// there at Shape: less room brings it back.
#include "job/Finish.h"

#include "design/Carry.h"
#include "design/Cluster.h"
#include "design/LooseParts.h"
#include "job/Foaming.h"
#include "job/LayerSteps.h"
#include "job/Marking.h"
#include "job/Numbering.h"
#include "shape/Steps.h"
#include "shape/Tuck.h"

#include <algorithm>
#include <unordered_map>

namespace thinline::job {

using design::Body;
using design::Laid;
using design::Piece;

/// A finished body and what it was made of.
struct FinishMemo {
    FinishOptions options;
    std::vector<std::shared_ptr<const Body>> above;
    std::shared_ptr<const Body> finished; ///< null when nothing is left
};

struct Memory {
    design::RowMemory rows;
    design::Remembered<FinishMemo> finishes;
    design::Remembered<MarkMemo> marks;
    design::Remembered<FoamMemo> foam;
    design::Remembered<NumberMemo> numbers;
};

std::shared_ptr<Memory> makeMemory() {
    return std::make_shared<Memory>();
}

namespace {

/// Where a source proposed that a piece lies.
LayerId proposedLayer(const Job& job, PieceId id) {
    const Source* source = findSource(job, id.source());
    if (!source)
        return {};
    const auto at = source->lies.find(id.foundKey());
    return at == source->lies.end() ? source->layer : at->second;
}

LayerId layerOf(const Job& job, PieceId id, const design::Wish& wish) {
    for (const LayerId wanted : {wish.layer.value_or(LayerId{}), proposedLayer(job, id)})
        if (design::findLayer(job.layers, wanted))
            return wanted;
    return job.layers.empty() ? LayerId{} : job.layers.front().id;
}

bool areFinishedAlike(const FinishMemo& memo, const FinishOptions& options,
                      const std::vector<std::shared_ptr<const Body>>& above) {
    return memo.options == options && memo.above == above;
}

base::Result<std::shared_ptr<const Body>> finished(const std::shared_ptr<const Body>& body,
                                                   const FinishOptions& options,
                                                   const std::vector<std::shared_ptr<const Body>>& above,
                                                   const base::Progress& progress) {
    std::vector<geometry::Shape> shapes{body->shape};
    if (options.tuckMm > 0 && !above.empty()) {
        std::vector<geometry::Shape> upper;
        for (const auto& one : above)
            upper.push_back(one->shape);
        auto wider = shape::tucked(body->shape, options.tuckMm, upper, progress);
        if (!wider)
            return wider.error();
        shapes = {wider.take()};
    }
    if (options.roomMm > 0) {
        auto smaller = shape::withRoom(shapes.front(), options.roomMm, progress);
        if (!smaller)
            return smaller.error();
        shapes = smaller.take();
    }
    if (shapes.empty())
        return std::shared_ptr<const Body>{};
    if (shapes.front() == body->shape)
        return body;
    auto carried = design::carried({body}, std::move(shapes), {}, progress);
    if (!carried)
        return carried.error();
    return std::make_shared<const Body>(carried->bodies.front());
}

/// Finishes the pieces of one stack, by source.
class Finishing {
  public:
    Finishing(const Job& job, const design::Stack& stack, Memory& memory, const base::Progress& progress)
        : m_stack(stack), m_memory(memory), m_progress(progress) {
        for (const auto& source : job.sources)
            m_options[source->id] = finishOf(*source);
        for (const Laid& laid : stack.pieces)
            m_boxes.push_back(geometry::bounds(laid.shape()));
    }

    /// The finished body of the n-th piece; null when nothing is left.
    base::Result<std::shared_ptr<const Body>> of(size_t n) {
        const Laid& laid = m_stack.pieces[n];
        FinishOptions options = optionsOf(laid);
        if (options == FinishOptions{})
            return laid.piece.body;
        std::vector<std::shared_ptr<const Body>> above;
        if (options.tuckMm > 0)
            for (size_t i = n + 1; i < m_stack.pieces.size(); ++i)
                if (liesAbove(i, n, options))
                    above.push_back(m_stack.pieces[i].piece.body);
        const auto known = m_memory.finishes.find(laid.piece.body);
        if (known && areFinishedAlike(*known, options, above))
            return known->finished;
        auto body = finished(laid.piece.body, options, above, m_progress);
        if (body)
            m_memory.finishes.keep(laid.piece.body,
                                   std::make_shared<const FinishMemo>(FinishMemo{options, above, *body}));
        return body;
    }

  private:
    FinishOptions optionsOf(const Laid& laid) const {
        const auto at = m_options.find(laid.id().source());
        if (at == m_options.end() || !isArea(laid.id().foundKey()))
            return {}; // backing and ink are what the areas lie on or under
        return at->second;
    }
    bool liesAbove(size_t upper, size_t lower, const FinishOptions& options) const {
        const Laid &a = m_stack.pieces[upper], &b = m_stack.pieces[lower];
        return a.layer != b.layer && a.id().source() == b.id().source() &&
               (!options.isUnderInkOnly || isInk(a.id().foundKey())) &&
               m_boxes[upper].grownBy(options.tuckMm).meets(m_boxes[lower]);
    }

    const design::Stack& m_stack;
    Memory& m_memory;
    const base::Progress& m_progress;
    std::unordered_map<SourceId, FinishOptions> m_options;
    std::vector<geometry::Box> m_boxes;
};

} // namespace

design::Stack stackOf(const Job& job, const std::vector<Piece>& pieces) {
    design::Stack out{job.stocks, {}, {}};
    std::unordered_map<LayerId, std::vector<Laid>> byLayer;
    for (const Piece& piece : pieces) {
        const design::Wish wish = job.wishes.resolved(piece.id);
        const LayerId layer = layerOf(job, piece.id, wish);
        const design::Layer* there = design::findLayer(job.layers, layer);
        byLayer[layer].push_back({piece, layer, wish.copies.value_or(1),
                                  wish.liftMm.value_or(there ? there->liftMm : 0),
                                  wish.up.value_or(design::Side::Front), wish.isFree.value_or(false),
                                  wish.isCutThrough.value_or(false)});
    }
    out.pieces.reserve(pieces.size());
    const auto take = [&](const design::Layer& layer) {
        const auto at = byLayer.find(layer.id);
        if (at == byLayer.end())
            return;
        out.layers.push_back(layer);
        std::move(at->second.begin(), at->second.end(), std::back_inserter(out.pieces));
    };
    for (const design::Layer& layer : layersFromBelow(job))
        take(layer);
    if (job.layers.empty()) // a job always has one; pieces are shown all the same
        take({LayerId{}, "", job.stocks.empty() ? "card" : job.stocks.front().id});
    return out;
}

void gatherClusters(const Job& job, const std::vector<AfterStep>& after, design::Stack& stack) {
    const std::string join = shape::infoOf(shape::Action::Join).name,
                      bridge = shape::infoOf(shape::Action::Bridge).name;
    stack.clusters = design::standingOf(job.clusters, stack, [&](PieceId id) {
        for (const AfterStep& one : after) {
            if ((one.step->action != join && one.step->action != bridge) || one.whyNot)
                continue;
            const std::vector<PieceId> joined = design::resolved(one.step->on, one.before->now);
            if (std::find(joined.begin(), joined.end(), id) != joined.end())
                id = joined.front();
        }
        return id;
    });
    const design::ClusterIndex clusters = design::clusterIndex(stack);
    for (Laid& laid : stack.pieces)
        if (const auto at = clusters.find(laid.id()); at != clusters.end())
            laid.copies = at->second->copies;
}

FinishOptions finishOf(const Source& source) {
    const auto* picture = std::get_if<Picture>(&source.what);
    if (!picture || !picture->tracing)
        return {};
    const trace::Recipe& recipe = picture->recipe;
    const bool isStacked = recipe.mode == trace::Mode::FlatArt && recipe.stacking == trace::Stacking::Stacked,
               isUnderInk = recipe.mode == trace::Mode::LineDrawing && recipe.build == trace::Build::InkOnTop;
    return {isStacked || isUnderInk ? recipe.tuckMm : 0, isUnderInk, picture->roomMm};
}

base::Result<Finished> finishedWork(const Job& job, const design::Stack& stack, Memory& memory,
                                    const base::Progress& progress) {
    Finished out{{stack.stocks, {}, {}}, {}, {}, {}, {}, 0, {}, {}, {}};
    Finishing finishing(job, stack, memory, progress);
    for (size_t i = 0; i < stack.pieces.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(static_cast<double>(i) / static_cast<double>(stack.pieces.size()),
                        "Finishing the pieces");
        auto body = finishing.of(i);
        if (!body)
            return body.error();
        if (!*body) {
            out.vanished.push_back(stack.pieces[i].id());
            continue;
        }
        out.stack.pieces.push_back(stack.pieces[i]);
        out.stack.pieces.back().piece.body = body.take();
    }
    for (const design::Layer& layer : stack.layers)
        if (std::any_of(out.stack.pieces.begin(), out.stack.pieces.end(),
                        [&](const Laid& laid) { return laid.layer == layer.id; }))
            out.stack.layers.push_back(layer);
    out.stack.clusters = stack.clusters;
    for (design::Cluster& cluster : out.stack.clusters)
        std::erase_if(cluster.pieces, [&](PieceId id) {
            return std::find(out.vanished.begin(), out.vanished.end(), id) != out.vanished.end();
        });
    std::erase_if(out.stack.clusters,
                  [](const design::Cluster& cluster) { return cluster.pieces.size() < 2; });
    out.parts = design::looseParts(out.stack);
    auto heights = design::heightsOf(out.stack, memory.rows, progress);
    if (!heights)
        return heights.error();
    out.heights = heights.take();
    auto unmarked = mark(job, out.stack, memory.marks, progress);
    if (!unmarked)
        return unmarked.error();
    out.unmarked = unmarked.take();
    auto foam = layFoam(job.foam, out.stack, out.heights, memory.rows, memory.foam, progress);
    if (!foam)
        return foam.error();
    out.foam = foam.take();
    auto numbers = numberPieces(job, out.stack, out.heights, memory.rows, memory.numbers, progress);
    if (!numbers)
        return numbers.error();
    out.numbers = *numbers;
    out.measures = design::measure(out.stack);
    return out;
}

namespace {

/// Foam and glue are laid by hand, and print lies where its piece does: nothing of them is cut.
bool isCutAlike(const std::shared_ptr<const Body>& a, const std::shared_ptr<const Body>& b) {
    return a == b || (a->shape == b->shape && a->lines == b->lines);
}

} // namespace

bool isCutAlike(const design::Stack& a, const design::Stack& b) {
    return a.clusters == b.clusters && a.stocks == b.stocks &&
           std::equal(a.pieces.begin(), a.pieces.end(), b.pieces.begin(), b.pieces.end(),
                      [&](const Laid& x, const Laid& y) {
                          const design::Layer &lx = a.layerOf(x), &ly = b.layerOf(y);
                          return x.id() == y.id() && isCutAlike(x.piece.body, y.piece.body) &&
                                 x.copies == y.copies && x.up == y.up && lx.stockId == ly.stockId &&
                                 lx.isHidden == ly.isHidden;
                      });
}

} // namespace thinline::job
