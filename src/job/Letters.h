// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "lettering/Word.h"

#include <memory>
#include <string>

/// Letters from the typefaces there are.
namespace thinline::job {

struct FoundLetters {
    std::shared_ptr<const lettering::Letters> letters;
    std::string said; ///< which typeface stands in for the wanted one; empty for that one
};
/// Returns the letters of a word in its typeface, or in the one that stands in for it.
/// Errors: those of lettering::findFont, Typeface::open and lettersOf.
base::Result<FoundLetters> lettersFound(const lettering::Recipe& recipe, const base::FontStore& fonts);

/// Returns a typeface as it is typed, "FAMILY" or "FAMILY:STYLE".
base::FontName fontCalled(const std::string& text);

} // namespace thinline::job
