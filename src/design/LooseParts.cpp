// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/LooseParts.h"

#include <algorithm>
#include <numeric>

namespace thinline::design {

/// Boxes are swept from left to right; those still open are few where pieces lie side by side.
std::vector<geometry::Box> looseParts(const Stack& stack) {
    std::vector<geometry::Box> boxes;
    for (const Laid& laid : stack.pieces)
        boxes.push_back(geometry::bounds(laid.shape()));
    std::sort(boxes.begin(), boxes.end(),
              [](const geometry::Box& a, const geometry::Box& b) { return a.least.x < b.least.x; });
    std::vector<size_t> part(boxes.size());
    std::iota(part.begin(), part.end(), size_t{0});
    const auto rootOf = [&](size_t i) {
        while (part[i] != i)
            i = part[i] = part[part[i]];
        return i;
    };
    std::vector<size_t> open;
    for (size_t i = 0; i < boxes.size(); ++i) {
        std::erase_if(open, [&](size_t k) { return boxes[k].most.x < boxes[i].least.x; });
        for (const size_t k : open)
            if (boxes[k].meets(boxes[i]))
                part[rootOf(k)] = rootOf(i);
        open.push_back(i);
    }
    std::vector<geometry::Box> whole(boxes.size()), out;
    for (size_t i = 0; i < boxes.size(); ++i)
        whole[rootOf(i)].include(boxes[i]);
    for (const geometry::Box& box : whole)
        if (!box.isEmpty())
            out.push_back(box);
    std::stable_sort(out.begin(), out.end(), [](const geometry::Box& a, const geometry::Box& b) {
        return a.width() * a.height() > b.width() * b.height();
    });
    return out;
}

} // namespace thinline::design
