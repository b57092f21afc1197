// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Openings.h"

#include "geometry/Measures.h"

namespace thinline::geometry {
namespace {

template <class IsKept>
Shape filtered(const Shape& shape, IsKept isKept) {
    Shape out{shape.outline, {}};
    for (size_t i = 0; i < shape.openings.size(); ++i)
        if (isKept(i))
            out.openings.push_back(shape.openings[i]);
    return out;
}

bool isAmong(const std::vector<size_t>& chosen, size_t i) {
    return std::find(chosen.begin(), chosen.end(), i) != chosen.end();
}

} // namespace

std::vector<OpeningSize> openingsOf(const Shape& shape) {
    std::vector<OpeningSize> out;
    for (size_t i = 0; i < shape.openings.size(); ++i)
        out.push_back({i, std::abs(signedArea(shape.openings[i])),
                       leastRectangle({{shape.openings[i], {}}}).heightMm, bounds(shape.openings[i])});
    std::stable_sort(out.begin(), out.end(),
                     [](const OpeningSize& a, const OpeningSize& b) { return a.areaMm2 < b.areaMm2; });
    return out;
}

Shape withSmallOpeningsFilled(const Shape& shape, double leastAreaMm2, double leastWidthMm) {
    std::vector<size_t> small;
    for (const OpeningSize& opening : openingsOf(shape))
        if (opening.areaMm2 < leastAreaMm2 || opening.widthMm < leastWidthMm)
            small.push_back(opening.index);
    return withOpeningsFilled(shape, small);
}

Shape withOpeningsFilled(const Shape& shape, const std::vector<size_t>& chosen) {
    return filtered(shape, [&](size_t i) { return !isAmong(chosen, i); });
}

Shape withOpeningsKept(const Shape& shape, const std::vector<size_t>& chosen) {
    return filtered(shape, [&](size_t i) { return isAmong(chosen, i); });
}

} // namespace thinline::geometry
