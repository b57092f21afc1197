// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Heights by contact.
//
// The stack used to be measured as if every layer lay on all below it: seven cards side by side on a backing came
// out seven cards high. A piece rests on what is under it, so the question is for each pair: do they overlap, and
// by more than the sliver that two neighbours share when their common border was fitted or cut?
//
// Exact intersections answer that, but cost a set operation a pair: two thousand areas on one backing of ten
// thousand nodes would take seconds. The question bears a coarse answer (is there a place half a millimetre wide
// where both have card?), so every body is cut into rows a quarter of a millimetre apart once, and two bodies are
// compared row by row. An overlap counts where three neighbouring rows share a stretch at least half a millimetre
// wide: that is an opening by a square of half a millimetre, and a slanting sliver does not pass it. Rows are
// remembered with the body; a click that lifts or repaints a piece compares numbers only.
#include "design/Heights.h"

#include <algorithm>
#include <cmath>

namespace thinline::design {
namespace {

constexpr double kPitchMm = 0.25;
constexpr double kLeastWideMm = 0.5;
constexpr double kLeastAreaMm2 = 1;
constexpr int kMostRows = 8000;

using Span = std::pair<float, float>;
using Spans = std::vector<Span>;

/// What two rows have in common.
void common(const Span* a, const Span* aEnd, const Span* b, const Span* bEnd, Spans& out) {
    out.clear();
    while (a != aEnd && b != bEnd) {
        const float from = std::max(a->first, b->first), to = std::min(a->second, b->second);
        if (from < to)
            out.emplace_back(from, to);
        (a->second < b->second) ? ++a : ++b;
    }
}

void common(const Spans& a, const Spans& b, Spans& out) {
    common(a.data(), a.data() + a.size(), b.data(), b.data() + b.size(), out);
}

struct Row {
    const Span* begin;
    const Span* end;
};
Row rowAt(const Rows& rows, int row) {
    const auto i = static_cast<size_t>(row - rows.first);
    return {rows.spans.data() + rows.begin[i], rows.spans.data() + rows.begin[i + 1]};
}
int endOf(const Rows& rows) {
    return rows.first + static_cast<int>(rows.begin.size()) - 1;
}

/// Stacks pieces in an order, each on what it overlaps among those before it.
class Stacking {
  public:
    Stacking(const Stack& stack, RowMemory& memory) : m_stack(stack), m_memory(memory) {
        geometry::Box all;
        for (const Laid& laid : stack.pieces) {
            m_boxes.push_back(geometry::bounds(laid.shape()));
            all.include(m_boxes.back());
        }
        m_pitch = std::max(kPitchMm, all.height() / kMostRows);
    }

    /// The highest top under a piece among some others, 0 on the table.
    double under(size_t piece, const std::vector<size_t>& lower, const std::vector<double>& tops) {
        double out = 0;
        for (const size_t other : lower)
            if (tops[other] > out && m_boxes[piece].meets(m_boxes[other]) &&
                overlap(*rows(piece), *rows(other)))
                out = tops[other];
        return out;
    }

  private:
    std::shared_ptr<const Rows> rows(size_t piece) {
        const auto& body = m_stack.pieces[piece].piece.body;
        auto known = m_memory.find(body);
        if (!known || known->pitchMm != m_pitch) {
            known = std::make_shared<const Rows>(rowsOf(*body, m_pitch));
            m_memory.keep(body, known);
        }
        return known;
    }

    const Stack& m_stack;
    RowMemory& m_memory;
    std::vector<geometry::Box> m_boxes;
    double m_pitch = kPitchMm;
};

} // namespace

Rows rowsOf(const Body& body, double pitchMm) {
    Rows out;
    out.pitchMm = pitchMm;
    const geometry::Polygons rings = geometry::flatten(body.shape, pitchMm / 10);
    const geometry::Box box = geometry::bounds(rings);
    if (box.isEmpty()) {
        out.begin = {0};
        return out;
    }
    const auto rowAbove = [&](double y) { return static_cast<int>(std::ceil(y / pitchMm - 0.5)); };
    out.first = rowAbove(box.least.y);
    const int count = std::max(0, rowAbove(box.most.y) - out.first);
    std::vector<std::vector<float>> crossings(static_cast<size_t>(count));
    for (const geometry::Polygon& ring : rings)
        for (size_t i = 0; i < ring.size(); ++i) {
            geometry::Point a = ring[i], b = ring[(i + 1) % ring.size()];
            if (a.y > b.y)
                std::swap(a, b);
            for (int row = rowAbove(a.y); row < rowAbove(b.y); ++row) {
                const double y = (row + 0.5) * pitchMm;
                crossings[static_cast<size_t>(row - out.first)].push_back(
                    static_cast<float>(a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y)));
            }
        }
    for (std::vector<float>& row : crossings) {
        std::sort(row.begin(), row.end());
        out.begin.push_back(static_cast<int>(out.spans.size()));
        for (size_t i = 0; i + 1 < row.size(); i += 2)
            if (row[i] < row[i + 1])
                out.spans.emplace_back(row[i], row[i + 1]);
    }
    out.begin.push_back(static_cast<int>(out.spans.size()));
    return out;
}

bool overlap(const Rows& a, const Rows& b) {
    const int from = std::max(a.first, b.first), to = std::min(endOf(a), endOf(b));
    const int reach = std::max(1, static_cast<int>(std::lround(kLeastWideMm / a.pitchMm)));
    std::vector<Spans> last(static_cast<size_t>(reach) + 1); // the shared stretches of the last rows
    double area = 0;
    bool isWide = false;
    Spans all, next;
    for (int row = from; row < to; ++row) {
        Spans& shared = last[static_cast<size_t>((row - from) % (reach + 1))];
        const Row ra = rowAt(a, row), rb = rowAt(b, row);
        common(ra.begin, ra.end, rb.begin, rb.end, shared);
        if (shared.empty())
            continue;
        for (const Span& span : shared)
            area += (static_cast<double>(span.second) - span.first) * a.pitchMm;
        if (!isWide && row - from >= reach) {
            all = last[0];
            for (size_t i = 1; i < last.size(); ++i) {
                common(all, last[i], next);
                all.swap(next);
            }
            isWide = std::any_of(all.begin(), all.end(),
                                 [](const Span& s) { return s.second - s.first >= kLeastWideMm; });
        }
        if (isWide && area > kLeastAreaMm2)
            return true;
    }
    return false;
}

base::Result<Heights> heightsOf(const Stack& stack, RowMemory& memory, const base::Progress& progress) {
    Heights out;
    out.of.resize(stack.pieces.size());
    Stacking stacking(stack, memory);
    std::vector<double> tops(stack.pieces.size(), 0);
    // Front pieces from below upwards; those behind from the base downwards, as if seen from the other side.
    std::vector<size_t> front, behind;
    for (size_t i = 0; i < stack.pieces.size(); ++i) {
        const bool isFront = stack.layerOf(stack.pieces[i]).at == Layer::At::Front;
        (isFront ? front : behind).push_back(i);
    }
    std::reverse(behind.begin(), behind.end());
    for (const auto* side : {&front, &behind}) {
        std::vector<size_t> lower;
        for (const size_t i : *side) {
            if (progress.isCancelled())
                return base::cancelled();
            const Laid& laid = stack.pieces[i];
            const double bottom = stacking.under(i, lower, tops) + laid.liftMm;
            tops[i] = bottom + thicknessOf(stack, laid);
            out.of[i] = side == &front ? Height{bottom, tops[i]} : Height{-tops[i], -bottom};
            out.lowestMm = std::min(out.lowestMm, out.of[i].bottomMm);
            out.highestMm = std::max(out.highestMm, out.of[i].topMm);
            lower.push_back(i);
        }
    }
    return out;
}

} // namespace thinline::design
