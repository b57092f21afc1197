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

#include "design/PartNames.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace thinline::design {
namespace {

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

double lengthOf(const Spans& spans) {
    double out = 0;
    for (const Span& span : spans)
        out += static_cast<double>(span.second) - span.first;
    return out;
}

/// A row of a piece, empty where it has none.
Spans spansAt(const Rows& rows, int row) {
    if (row < rows.first || row >= endOf(rows))
        return {};
    const Row at = rowAt(rows, row);
    return {at.begin, at.end};
}

/// What of `spans` none of the others covers; all ascending.
Spans without(const Spans& spans, Spans others) {
    std::sort(others.begin(), others.end());
    Spans out;
    for (const Span& span : spans) {
        float from = span.first;
        for (const Span& other : others) {
            if (other.second <= from || other.first >= span.second)
                continue;
            if (other.first > from)
                out.emplace_back(from, other.first);
            from = std::max(from, other.second);
        }
        if (from < span.second)
            out.emplace_back(from, span.second);
    }
    return out;
}

/// Whether two are parts of one divided piece that overlap by a strip. They lie side by side: the strip alone is two
/// cards high, and one part does not stand on the other.
bool areJoined(const Laid& a, const Laid& b) {
    if (!arePartsOfOne(a.id(), b.id()))
        return false;
    const auto meets = [](const Laid& lower, const Laid& upper) {
        const auto& zones = lower.piece.body->zones;
        return std::any_of(zones.begin(), zones.end(), [&](const Zone& zone) {
            return zone.kind == Zone::Kind::Glue && zone.meets == upper.id();
        });
    };
    return meets(a, b) || meets(b, a);
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
        m_pitch = std::max(kRowPitchMm, all.height() / kMostRows);
    }

    /// The highest top under a piece among some others, 0 on the table.
    double under(size_t piece, const std::vector<size_t>& lower, const std::vector<double>& tops) {
        double out = 0;
        for (const size_t other : lower)
            if (tops[other] > out && m_boxes[piece].meets(m_boxes[other]) &&
                !areJoined(m_stack.pieces[piece], m_stack.pieces[other]) &&
                overlap(*rows(piece), *rows(other)))
                out = tops[other];
        return out;
    }

    std::shared_ptr<const Rows> rows(size_t piece) {
        return rowsOf(m_stack.pieces[piece].piece.body, m_pitch, m_memory);
    }

    bool boxesMeet(size_t a, size_t b) const { return m_boxes[a].meets(m_boxes[b]); }

    /// What of a piece its supports do not carry, over the one of `lower` that has most of it; nothing when it is too
    /// little to bend card.
    struct Hanging {
        size_t over = 0;
        double areaMm2 = 0;
    };
    std::optional<Hanging> hanging(size_t piece, const std::vector<size_t>& supports,
                                   const std::vector<size_t>& lower);

  private:
    const Stack& m_stack;
    RowMemory& m_memory;
    std::vector<geometry::Box> m_boxes;
    double m_pitch = kRowPitchMm;
};

std::optional<Stacking::Hanging> Stacking::hanging(size_t piece, const std::vector<size_t>& supports,
                                                   const std::vector<size_t>& lower) {
    constexpr double kLeastMm2 = 25, kLeastShare = 0.1, kLeastMm = 3;
    const auto own = rows(piece);
    struct Over {
        double areaMm2 = 0;
        int run = 0, longest = 0; ///< rows one after the other with a wide stretch
    };
    std::vector<Over> over(lower.size());
    double whole = 0;
    Spans shared;
    for (int row = own->first; row < endOf(*own); ++row) {
        const Spans mine = spansAt(*own, row);
        whole += lengthOf(mine) * own->pitchMm;
        Spans carried;
        for (const size_t k : supports)
            for (const Span& span : spansAt(*rows(k), row))
                carried.push_back(span);
        Spans free = without(mine, std::move(carried));
        for (size_t k = 0; k < lower.size(); ++k) {
            const Spans below = spansAt(*rows(lower[k]), row);
            common(free, below, shared);
            over[k].areaMm2 += lengthOf(shared) * own->pitchMm;
            const bool isWide = std::any_of(shared.begin(), shared.end(),
                                            [](const Span& s) { return s.second - s.first >= kLeastMm; });
            over[k].run = isWide ? over[k].run + 1 : 0;
            over[k].longest = std::max(over[k].longest, over[k].run);
            free = without(free, below);
        }
    }
    const auto most = std::max_element(over.begin(), over.end(),
                                       [](const Over& a, const Over& b) { return a.areaMm2 < b.areaMm2; });
    if (most->areaMm2 < std::max(kLeastMm2, kLeastShare * whole) || most->longest * own->pitchMm < kLeastMm)
        return std::nullopt;
    return Hanging{lower[static_cast<size_t>(most - over.begin())], most->areaMm2};
}

} // namespace

std::shared_ptr<const Rows> rowsOf(const std::shared_ptr<const Body>& body, double pitchMm,
                                   RowMemory& memory) {
    auto known = memory.find(body);
    if (!known || known->pitchMm != pitchMm) {
        known = std::make_shared<const Rows>(rowsOf(*body, pitchMm));
        memory.keep(body, known);
    }
    return known;
}

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

base::Result<std::vector<Uneven>> unevenOf(const Stack& stack, const Heights& heights, RowMemory& memory,
                                           const base::Progress& progress) {
    constexpr double kLeastGapMm = 0.05;
    std::vector<Uneven> out;
    Stacking stacking(stack, memory);
    const auto isFront = [&](size_t i) { return stack.layerOf(stack.pieces[i]).at == Layer::At::Front; };
    for (size_t i = 0; i < stack.pieces.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        const double under = heights.of[i].bottomMm - stack.pieces[i].liftMm;
        std::vector<size_t> supports, lower;
        for (size_t k = 0; isFront(i) && k < i; ++k)
            if (isFront(k) && stacking.boxesMeet(i, k))
                (heights.of[k].topMm > under - kLeastGapMm ? supports : lower).push_back(k);
        if (supports.empty() || lower.empty())
            continue;
        // Each place hangs over the highest of what lies below it.
        std::stable_sort(lower.begin(), lower.end(),
                         [&](size_t a, size_t b) { return heights.of[a].topMm > heights.of[b].topMm; });
        if (const auto hanging = stacking.hanging(i, supports, lower))
            out.push_back({i, hanging->over, under - heights.of[hanging->over].topMm, hanging->areaMm2});
    }
    return out;
}

} // namespace thinline::design
