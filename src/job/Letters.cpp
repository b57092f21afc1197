// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Letters.h"

namespace thinline::job {

base::Result<FoundLetters> lettersFound(const lettering::Recipe& recipe, const base::FontStore& fonts) {
    const auto font = lettering::findFont(fonts, recipe.font, lettering::kPlainFont);
    if (!font)
        return font.error();
    const auto typeface = lettering::Typeface::open(font->file);
    if (!typeface)
        return typeface.error();
    auto letters = lettering::lettersOf(*typeface, recipe);
    if (!letters)
        return letters.error();
    return FoundLetters{std::make_shared<const lettering::Letters>(letters.take()), font->said};
}

base::FontName fontCalled(const std::string& text) {
    const auto colon = text.find(':');
    return {text.substr(0, colon), colon == std::string::npos ? "" : text.substr(colon + 1)};
}

} // namespace thinline::job
