// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Lettered.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <cctype>

namespace thinline::construct {

base::Result<std::vector<Sign>> signsOf(const lettering::Letters& letters, double capitalMm,
                                        bool hasEqualHeights, const base::Progress& progress) {
    lettering::Recipe recipe;
    recipe.text = letters.text;
    recipe.sizeMm = capitalMm;
    recipe.hasEqualHeights = hasEqualHeights;
    auto set = lettering::setWord(letters, recipe, progress);
    if (!set)
        return set.error();
    std::vector<Sign> out;
    for (const lettering::Letter& letter : letters.letters)
        out.push_back({letter.text, letter.isAfterSpace, {}, 0, 0});
    for (const lettering::WordPiece& piece : set->pieces)
        out[static_cast<size_t>(piece.letter)].shapes.push_back(piece.shape);
    for (Sign& sign : out) {
        geometry::Box box;
        for (const geometry::Shape& shape : sign.shapes)
            box.include(geometry::bounds(shape));
        if (box.isEmpty())
            continue;
        for (geometry::Shape& shape : sign.shapes)
            shape = geometry::transformed(shape, geometry::Transform::move({-box.least.x, 0}));
        std::stable_sort(sign.shapes.begin(), sign.shapes.end(),
                         [](const auto& a, const auto& b) { return geometry::area(a) > geometry::area(b); });
        sign.wide = box.width();
        sign.high = -box.least.y;
    }
    return out;
}

std::string sentence(std::string words) {
    words.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(words.front())));
    return words + ".";
}

std::vector<std::string> splitSigns(const std::string& text) {
    std::vector<std::string> out;
    for (const char c : text) {
        if ((static_cast<unsigned char>(c) & 0xC0) == 0x80 && !out.empty())
            out.back() += c;
        else
            out.emplace_back(1, c);
    }
    return out;
}

} // namespace thinline::construct
