// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/PartNames.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"

#include <algorithm>
#include <charconv>

namespace thinline::design {
namespace {

using geometry::Shape;

/// The number behind a prefix: 3 for "rest.3"; 0 for a key of another kind.
int numberIn(const std::string& key, const std::string& prefix) {
    if (!key.starts_with(prefix))
        return 0;
    int number = 0;
    const char* begin = key.data() + prefix.size();
    const char* end = key.data() + key.size();
    const auto [stop, code] = std::from_chars(begin, end, number);
    return code == std::errc() && stop == end ? number : 0;
}

} // namespace

bool arePartsOfOne(PieceId a, PieceId b) {
    return a && b && !a.isFound() && !b.isFound() && a.madeBy() == b.madeBy() && a.whole() == b.whole();
}

std::vector<PartNames::Known> PartNames::knownOf(PieceId whole, const geometry::Transform& placed,
                                                 const std::string& prefix) const {
    std::vector<Known> out;
    for (size_t i = 0; i < m_parts.size(); ++i)
        if (m_parts[i].id.whole() == whole && m_parts[i].id.madeBy() == m_step &&
            numberIn(m_parts[i].id.key(), prefix) > 0)
            out.push_back({i, m_parts[i].id, placed(m_parts[i].inside)});
    return out;
}

base::Result<double> PartNames::commonArea(const Known& known, const Shape& shape) const {
    const Piece* last = m_before ? findPiece(m_before->now, known.id) : nullptr;
    if (!last && m_before)
        last = findPiece(m_before->scrap, known.id);
    if (!last) // only its point is known: it counts for a part, but for less than any shared area
        return geometry::contains(shape, known.at) ? 1e-9 : 0.0;
    if (!geometry::bounds(last->shape()).meets(geometry::bounds(shape)))
        return 0.0;
    const auto shared = geometry::intersect({last->shape()}, {shape}, m_progress);
    if (!shared)
        return shared.error();
    double sum = 0;
    for (const Shape& one : *shared)
        sum += geometry::area(one);
    return sum;
}

/// For every outline the known part that it is, or -1. Parts that were there when the step was last done come
/// before those that had gone: one of these comes back only into an outline nobody else is.
base::Result<std::vector<int>> PartNames::match(const std::vector<Known>& known,
                                                const std::vector<Shape>& shapes) const {
    std::vector<int> out(shapes.size(), -1);
    std::vector<bool> isTaken(known.size(), false);
    bool isPlain = true;
    for (size_t k = 0; k < known.size(); ++k) {
        if (isGone(known[k]))
            continue;
        int holders = 0;
        for (size_t s = 0; s < shapes.size(); ++s)
            if (geometry::contains(shapes[s], known[k].at)) {
                isPlain = isPlain && out[s] < 0 && ++holders == 1;
                out[s] = static_cast<int>(k);
                isTaken[k] = true;
            }
        isPlain = isPlain && holders == 1;
    }
    if (!isPlain)
        if (auto ok = matchByArea(known, shapes, out, isTaken); !ok)
            return ok.error();
    const auto matchRest = [&](bool areGone, const auto& isIt) {
        for (size_t s = 0; s < shapes.size(); ++s)
            for (size_t k = 0; k < known.size() && out[s] < 0; ++k)
                if (isGone(known[k]) == areGone && !isTaken[k] && isIt(shapes[s], known[k].at)) {
                    out[s] = static_cast<int>(k);
                    isTaken[k] = true;
                }
    };
    // Of a sliver no point is inside: it is known by the same point coming out of it again.
    constexpr double kSameMm = 1e-6;
    matchRest(false, [](const Shape& shape, geometry::Point at) {
        return geometry::distance(geometry::pointInside(shape), at) <= kSameMm;
    });
    matchRest(true, [](const Shape& shape, geometry::Point at) { return geometry::contains(shape, at); });
    return out;
}

base::Status PartNames::matchByArea(const std::vector<Known>& known, const std::vector<Shape>& shapes,
                                    std::vector<int>& out, std::vector<bool>& isTaken) const {
    struct Pair {
        double area;
        size_t shape, known;
    };
    std::vector<Pair> pairs;
    for (size_t s = 0; s < shapes.size(); ++s)
        for (size_t k = 0; k < known.size(); ++k) {
            if (isGone(known[k]))
                continue;
            const auto area = commonArea(known[k], shapes[s]);
            if (!area)
                return area.error();
            if (*area > 0)
                pairs.push_back({*area, s, k});
        }
    std::stable_sort(pairs.begin(), pairs.end(),
                     [](const Pair& a, const Pair& b) { return a.area > b.area; });
    std::fill(out.begin(), out.end(), -1);
    std::fill(isTaken.begin(), isTaken.end(), false);
    for (const Pair& pair : pairs)
        if (out[pair.shape] < 0 && !isTaken[pair.known]) {
            out[pair.shape] = static_cast<int>(pair.known);
            isTaken[pair.known] = true;
        }
    return base::Done{};
}

base::Result<std::vector<PieceId>> PartNames::name(PieceId whole, const geometry::Transform& placed,
                                                   const std::vector<Shape>& shapes,
                                                   const std::string& prefix) {
    const std::vector<Known> known = knownOf(whole, placed, prefix);
    if (shapes.size() == 1 && known.empty() && prefix.empty())
        return std::vector<PieceId>{whole};
    auto matched = match(known, shapes);
    if (!matched)
        return matched.error();
    int highest = 0;
    for (const Known& one : known)
        highest = std::max(highest, numberIn(one.id.key(), prefix));
    for (const Known& one : known)
        m_parts[one.index].isGone = true;
    const geometry::Transform back = geometry::inverse(placed);
    std::vector<PieceId> out;
    for (size_t s = 0; s < shapes.size(); ++s) {
        const int k = (*matched)[s];
        if (k >= 0) {
            const Known& one = known[static_cast<size_t>(k)];
            out.push_back(one.id);
            m_parts[one.index].isGone = false;
            if (!geometry::contains(shapes[s], one.at))
                m_parts[one.index].inside = back(geometry::pointInside(shapes[s]));
            continue;
        }
        out.push_back(whole.parted(m_step, prefix + std::to_string(++highest)));
        m_parts.push_back({out.back(), back(geometry::pointInside(shapes[s]))});
    }
    return out;
}

} // namespace thinline::design
