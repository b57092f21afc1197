// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "lettering/Typeface.h"

/// A word as pieces of card.
namespace thinline::lettering {

enum class SizeBy {
    CapHeight, ///< the height of the letter H
    Width      ///< of all the ink, edge to edge
};

/// A word, as it was asked for. Kept as it is, so that it can be retyped.
struct Recipe {
    std::string text; ///< one line, UTF-8, at most kMostTextBytes
    base::FontName font;
    SizeBy sizeBy = SizeBy::CapHeight;
    double sizeMm = 60;   ///< 1 to 2000
    double spacingMm = 0; ///< added between letters; -50 to 200
    bool hasEqualHeights =
        false; ///< every letter stretched upwards and downwards to the cap height, on the baseline
    bool isJoined = false; ///< one piece, as far as the letters meet
    double overlapMm =
        0; ///< how far each letter runs into the one before, from where they first touch; 0: as the
           ///< typeface spaces them; about 6 mm is usual for strips of letters (common practice)
    double fillBelowMm2 = 0; ///< counters and other openings smaller than this are filled

    bool operator==(const Recipe&) const = default;
};
inline constexpr size_t kMostTextBytes = 400;

/// A letter with ink, as the typeface draws it where it spaces it. Coordinates are thousandths of an em, the
/// baseline at 0, y down, rounded to what a file keeps.
struct Letter {
    std::string text;
    bool isAfterSpace = false;
    std::vector<geometry::Contour> contours;
    double baseline = 0; ///< how far below the first line's its own lies, thousandths of an em
    bool operator==(const Letter&) const = default;
};

/// All a word is set from: kept with it, so that it can be set at another size without its typeface.
struct Letters {
    std::string text;     ///< of the whole word, trimmed
    double capHeight = 0; ///< thousandths of an em
    std::vector<Letter> letters;
    std::vector<std::string> said; ///< signs the typeface lacks
    bool operator==(const Letters&) const = default;
};

/// Returns the letters of a word.
/// Shape:  a line break begins another line, 1.25 em below (usual, from memory); kerned by the typeface; ligatures only while letters keep the typeface's own spacing.
/// Errors: InvalidArgument for no ink and for a recipe out of range; those of Typeface.
base::Result<Letters> lettersOf(const Typeface& typeface, const Recipe& recipe);

/// One connected piece of a word.
struct WordPiece {
    int letter = 0;        ///< its place among the letters; -1 for a piece of a joined word
    int part = 0;          ///< of its letter, or of the joined word, from 0
    geometry::Shape shape; ///< mm
    std::string name;      ///< "the H of HARBOUR"
    geometry::Transform
        letterToWord; ///< from its letter's own coordinates to where it stands; for a piece of a
                      ///< joined word only the scale
};

struct Word {
    std::vector<WordPiece> pieces; ///< from left to right
    double capHeightMm = 0;        ///< of the typeface at this size
    geometry::Box box;             ///< mm; x from 0, the baseline at y = 0
    std::vector<std::string> said; ///< signs the typeface lacks, letters that stay loose
};

/// Returns a word as pieces.
/// Shape:  the ink's left edge at x = 0, the baseline at y = 0, y down. Overlapping letters run into one another by
///         the same amount at the place where they come nearest; where nothing lies side by side, their frames
///         do.
/// Errors: InvalidArgument for a size not above zero, an overlap larger than a letter; those of the set
///         operations; Cancelled.
/// Cost:   O(n2) in the points of neighbouring letters, plus joining.
base::Result<Word> setWord(const Letters& letters, const Recipe& recipe, const base::Progress& progress = {});

/// The typeface for new words, one of those that ship: heavy and without thin places. It stands in for missing ones.
inline const base::FontName kPlainFont{"League Spartan", "ExtraBold"};

/// A typeface for a wanted name: that one, or the nearest there is.
struct FoundFont {
    base::FontFile file;
    std::string said; ///< which was taken instead; empty for the wanted one
};
/// Returns the typeface of that name; the same family in another style; else one of the program's own.
/// Errors: NotFound when there is none at all; those of the store.
base::Result<FoundFont> findFont(const base::FontStore& store, const base::FontName& wanted,
                                 const base::FontName& fallback);

} // namespace thinline::lettering
