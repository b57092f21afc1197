// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Foam, like marks, is no decision: which pieces are lifted and how high is said in the side view, and where foam stands
// follows from that and from what lies below. So it is laid last and never kept.
//
// A piece is looked at as square cells. A cell counts as card only where the piece covers all of it, and carries foam only
// where one lower piece does so and none that lies higher reaches into it: foam that straddles a step holds on one side.
// What lies flat under the piece carries none; there it is glued.
//
// A piece behind the base hangs from it: what carries it lies above, and its foam stands on its front. Seen from the other
// side all is as in front; so below, "under" a piece is towards what carries it.
#include "job/Foaming.h"

#include "geometry/Arcs.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using design::Body;
using design::Laid;
using design::Rows;
using raster::Grey;

/// Cells over a box, each as many rows high as it is wide.
class CellGrid {
  public:
    CellGrid(const geometry::Box& box, double pitchMm) : m_pitch(pitchMm) {
        constexpr double kMostCells = 160; // along the longer side
        const double rows = std::max(box.width(), box.height()) / pitchMm;
        m_rowsACell = std::max(2, static_cast<int>(std::ceil(rows / kMostCells)));
        const double cell = cellMm();
        m_left = std::floor(box.least.x / cell) * cell;
        m_firstRow = static_cast<int>(std::floor(box.least.y / cell)) * m_rowsACell;
        m_across = static_cast<int>(std::ceil((box.most.x - m_left) / cell));
        m_down = static_cast<int>(std::ceil((box.most.y - m_firstRow * pitchMm) / cell));
    }
    double cellMm() const { return m_rowsACell * m_pitch; }
    geometry::Point corner() const { return {m_left, m_firstRow * m_pitch}; }
    Grey empty() const {
        return {m_across, m_down, std::vector<std::uint8_t>(static_cast<size_t>(m_across * m_down), 0)};
    }

    /// The cells a body covers all over, and those it reaches into.
    struct Cover {
        Grey all, any;
    };
    Cover coverOf(const Rows& rows) const {
        Cover out{empty(), empty()};
        std::vector<int> full(static_cast<size_t>(m_across));
        for (int y = 0; y < m_down; ++y) {
            std::fill(full.begin(), full.end(), 0);
            for (int k = 0; k < m_rowsACell; ++k)
                addRow(rows, m_firstRow + y * m_rowsACell + k, y, full, out.any);
            for (int x = 0; x < m_across; ++x)
                if (full[static_cast<size_t>(x)] == m_rowsACell)
                    out.all.at(x, y) = 255;
        }
        return out;
    }

  private:
    void addRow(const Rows& rows, int row, int y, std::vector<int>& full, Grey& any) const {
        const int i = row - rows.first;
        if (i < 0 || i + 1 >= static_cast<int>(rows.begin.size()))
            return;
        for (int s = rows.begin[static_cast<size_t>(i)]; s < rows.begin[static_cast<size_t>(i) + 1]; ++s) {
            const auto [from, to] = rows.spans[static_cast<size_t>(s)];
            const double first = (static_cast<double>(from) - m_left) / cellMm(),
                         last = (static_cast<double>(to) - m_left) / cellMm();
            const int begin = std::max(0, static_cast<int>(std::floor(first))),
                      end = std::min(m_across, static_cast<int>(std::ceil(last)));
            for (int x = begin; x < end; ++x) {
                any.at(x, y) = 255;
                full[static_cast<size_t>(x)] += x >= first - 1e-6 && x + 1 <= last + 1e-6;
            }
        }
    }

    double m_pitch, m_left = 0;
    int m_rowsACell = 1, m_firstRow = 0, m_across = 0, m_down = 0;
};

class Foaming {
  public:
    Foaming(const folds::FoamPlan& plan, design::Stack& work, const design::Heights& heights,
            design::RowMemory& rows, const base::Progress& progress)
        : m_plan(plan), m_work(work), m_heights(heights), m_rows(rows), m_progress(progress) {
        for (const Laid& laid : work.pieces)
            m_boxes.push_back(geometry::bounds(laid.shape()));
    }

    base::Result<std::vector<FoamTold>> run(design::Remembered<FoamMemo>& memory) {
        std::vector<FoamTold> told;
        std::vector<std::shared_ptr<const Body>> foamed(m_work.pieces.size());
        for (size_t i = 0; i < m_work.pieces.size(); ++i) {
            if (m_progress.isCancelled())
                return base::cancelled();
            std::vector<FoamCarrier> on = carriersOf(i);
            if (std::none_of(on.begin(), on.end(),
                             [](const FoamCarrier& one) { return one.heightMm >= folds::kLeastFoamMm; }))
                continue;
            const auto& body = m_work.pieces[i].piece.body;
            auto known = memory.find(body);
            if (!known || !(known->plan == m_plan) || known->on != on) {
                auto laid = memoOf(i, std::move(on));
                if (!laid)
                    return laid.error();
                known = std::make_shared<const FoamMemo>(laid.take());
                memory.keep(body, known);
            }
            foamed[i] = known->foamed;
            // What hangs over something lower beside what it lies on needs none where there is no room for any.
            if (known->spots > 0 || m_work.pieces[i].liftMm >= folds::kLeastFoamMm)
                told.push_back({m_work.pieces[i].id(), known->spots, known->armsWithout});
        }
        for (size_t i = 0; i < foamed.size(); ++i)
            if (foamed[i])
                m_work.pieces[i].piece.body = foamed[i];
        return told;
    }

  private:
    bool isInFront(size_t i) const { return m_work.layerOf(m_work.pieces[i]).at == design::Layer::At::Front; }

    /// What lies under a piece, the furthest first.
    std::vector<FoamCarrier> carriersOf(size_t piece) const {
        std::vector<FoamCarrier> out;
        const bool isFront = isInFront(piece);
        for (size_t i = 0; i < m_work.pieces.size(); ++i) {
            const bool isCarrier = isFront ? isInFront(i) && i < piece : i > piece;
            if (isCarrier && m_boxes[i].meets(m_boxes[piece])) {
                const design::Height &own = m_heights.of[piece], &other = m_heights.of[i];
                out.push_back({m_work.pieces[i].piece.body, m_work.pieces[i].id(),
                               isFront ? own.bottomMm - other.topMm : other.bottomMm - own.topMm});
            }
        }
        std::stable_sort(out.begin(), out.end(),
                         [](const FoamCarrier& a, const FoamCarrier& b) { return a.heightMm > b.heightMm; });
        return out;
    }

    void takeOff(const Body& body, design::Side side, const CellGrid& grid, folds::FoamBed& bed) const {
        for (const design::Zone& zone : body.zones) {
            const bool isKept = zone.kind == design::Zone::Kind::KeepFree ||
                                (zone.kind == design::Zone::Kind::Way && zone.side == side);
            if (!isKept)
                continue;
            const Grey any = grid.coverOf(design::rowsOf(Body{zone.area}, design::kRowPitchMm)).any;
            for (size_t c = 0; c < any.values.size(); ++c)
                if (any.values[c])
                    bed.heightMm[c] = 0;
        }
    }

    base::Result<FoamMemo> memoOf(size_t piece, std::vector<FoamCarrier> on) {
        const auto& body = m_work.pieces[piece].piece.body;
        // The faces that foam joins.
        const design::Side own = isInFront(piece) ? design::Side::Back : design::Side::Front,
                           theirs = isInFront(piece) ? design::Side::Front : design::Side::Back;
        const CellGrid grid(m_boxes[piece], design::kRowPitchMm);
        folds::FoamBed bed{grid.corner(), grid.cellMm(), grid.coverOf(*rowsOf(body)).all, {}};
        bed.heightMm.assign(bed.card.values.size(), 0);
        std::vector<size_t> carrier(bed.heightMm.size(), 0);
        for (size_t k = 0; k < on.size(); ++k) {
            const CellGrid::Cover cover = grid.coverOf(*rowsOf(on[k].body));
            for (size_t c = 0; c < carrier.size(); ++c) {
                if (!cover.any.values[c])
                    continue;
                const bool isCarried = cover.all.values[c] && bed.card.values[c];
                // Heights are told apart to a hundredth: foam does not come finer.
                bed.heightMm[c] = isCarried && on[k].heightMm >= folds::kLeastFoamMm
                                      ? static_cast<float>(std::round(on[k].heightMm * 100) / 100)
                                      : 0;
                carrier[c] = k;
            }
            takeOff(*on[k].body, theirs, grid, bed);
        }
        takeOff(*body, own, grid, bed);
        auto spots = folds::foamSpotsOf(bed, m_plan, m_progress);
        if (!spots)
            return spots.error();
        Body foamed = *body;
        for (const folds::FoamSpot& spot : spots->all)
            foamed.zones.push_back(
                {design::Zone::Kind::Foam,
                 {geometry::ellipse(spot.middle, spot.acrossMm / 2, spot.acrossMm / 2), {}},
                 spot.heightMm,
                 on[carrier[spot.cell]].id,
                 {},
                 own});
        const int count = static_cast<int>(spots->all.size());
        return FoamMemo{m_plan, std::move(on),
                        count > 0 ? std::make_shared<const Body>(std::move(foamed)) : nullptr, count,
                        spots->armsWithout};
    }

    std::shared_ptr<const Rows> rowsOf(const std::shared_ptr<const Body>& body) {
        return design::rowsOf(body, design::kRowPitchMm, m_rows);
    }

    const folds::FoamPlan& m_plan;
    design::Stack& m_work;
    const design::Heights& m_heights;
    design::RowMemory& m_rows;
    const base::Progress& m_progress;
    std::vector<geometry::Box> m_boxes;
};

} // namespace

base::Result<std::vector<FoamTold>> layFoam(const folds::FoamPlan& plan, design::Stack& work,
                                            const design::Heights& heights, design::RowMemory& rows,
                                            design::Remembered<FoamMemo>& memory,
                                            const base::Progress& progress) {
    if (!plan.isAsked)
        return std::vector<FoamTold>{};
    return Foaming(plan, work, heights, rows, progress).run(memory);
}

} // namespace thinline::job
