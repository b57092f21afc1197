// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "lettering/Word.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "lettering/Strokes.h"
#include "support/Fonts.h"

#include <gtest/gtest.h>

namespace thinline::lettering {
namespace {

using support::kBold;
using support::kScript;
using support::kStencil;

Typeface face(const base::FontName& name) {
    auto file = support::shippedFonts().read(name);
    auto out = Typeface::open(*file);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

/// A word straight from its typeface.
base::Result<Word> set(const Typeface& typeface, const Recipe& recipe) {
    const auto letters = lettersOf(typeface, recipe);
    if (!letters)
        return letters.error();
    return setWord(*letters, recipe);
}

Word must(const Recipe& recipe) {
    auto word = set(face(recipe.font), recipe);
    if (!word)
        throw std::runtime_error(word.error().message);
    return word.take();
}

Recipe word(const std::string& text, const base::FontName& font, double sizeMm) {
    Recipe out;
    out.text = text;
    out.font = font;
    out.sizeMm = sizeMm;
    return out;
}

TEST(Typeface, GivesTheOutlinesTheFileHolds) {
    struct Row {
        base::FontName font;
        const char* text;
        double perEm, advance, left, bottom, right, top, area; ///< font units, y up
    };
    // Read from the same files with the fontTools library (its bounds and area pens).
    const Row rows[] = {
        {kBold, "H", 2000, 1289, 74, 0, 1151, 1320, 1014486.0},
        {kBold, "o", 2000, 1042, 36, -24, 973, 845, 582890.5},
        {kBold, "S", 2000, 1140, 21, -24, 1046, 1344, 843810.0},
        {kScript, "A", 1000, 642, 61, -76, 716, 736, 178298.1},
        {kStencil, "8", 1000, 593, 70, -9, 524, 725, 171839.9},
        {{"Lato", "Bold"}, "S", 2000, 1097, 46, -16, 1024, 1462, 703365.3},
        {{"Lato", "Bold"}, "8", 2000, 1160, 78, -16, 1082, 1462, 840372.6},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(row.font.family + " " + row.text);
        const auto run = face(row.font).run(row.text, true);
        ASSERT_TRUE(run);
        ASSERT_EQ(run->glyphs.size(), 1u);
        geometry::Box box;
        double area = 0;
        for (const geometry::Contour& contour : run->glyphs[0].contours) {
            box.include(geometry::bounds(contour));
            area += geometry::signedArea(contour);
        }
        EXPECT_NEAR(run->advance * row.perEm, row.advance, 1e-6);
        EXPECT_NEAR(box.least.x * row.perEm, row.left, 0.51); // fontTools rounds its bounds outwards
        EXPECT_NEAR(box.most.x * row.perEm, row.right, 0.51);
        EXPECT_NEAR(-box.most.y * row.perEm, row.bottom, 0.51);
        EXPECT_NEAR(-box.least.y * row.perEm, row.top, 0.51);
        // Implied points between two quadratic controls come from FreeType rounded to whole font units.
        EXPECT_NEAR(std::abs(area) * row.perEm * row.perEm, row.area,
                    row.font.family == "Lato" ? row.area * 5e-4 : 0.1);
    }
}

TEST(Typeface, KernsAndTellsWhatItLacks) {
    const Typeface bold = face(kBold);
    const double apart = bold.run("A", true)->advance + bold.run("V", true)->advance;
    EXPECT_LT(bold.run("AV", true)->advance, apart - 0.01);
    EXPECT_TRUE(bold.run("\u4e2d", true)->glyphs[0].isMissing);
    EXPECT_FALSE(bold.run("\xff\xfe", true));
    EXPECT_FALSE(bold.run("\xe4\xb8", true)) << "cut off in the middle of a sign";
}

TEST(Typeface, RefusesWhatIsNone) {
    const auto open = [](base::Bytes bytes) {
        return Typeface::open({{"Odd", ""}, std::make_shared<const base::Bytes>(std::move(bytes)), 0});
    };
    EXPECT_EQ(open({}).error().message, "The typeface 'Odd' is an empty file; choose another.");
    EXPECT_EQ(open({1, 2, 3, 4}).error().message, "The typeface 'Odd' cannot be read; choose another.");
    base::Bytes half = support::shippedFont("LeagueSpartan-ExtraBold.otf");
    half.resize(half.size() / 3);
    if (auto torn =
            open(half)) // some of it may be readable; then words come out or are refused, nothing worse
        (void)set(*torn, word("HARBOUR", kBold, 40));
}

TEST(Word, HasTheCapHeightOrTheWidthAskedFor) {
    for (const auto& font : {kBold, kScript, kStencil}) {
        SCOPED_TRACE(font.family);
        const Word high = must(word("HH", font, 60));
        EXPECT_NEAR(-geometry::bounds(high.pieces.front().shape).least.y, 60, 1e-6);
        EXPECT_NEAR(high.capHeightMm, 60, 1e-9);
        for (const double overlap : {0.0, 4.0})
            for (const double spacing : {0.0, 3.0}) {
                Recipe recipe = word("HARBOUR", font, 240);
                recipe.sizeBy = SizeBy::Width;
                recipe.overlapMm = overlap;
                recipe.spacingMm = spacing;
                const Word wide = must(recipe);
                EXPECT_NEAR(wide.box.width(), 240, 1e-5) << overlap << " " << spacing;
                EXPECT_NEAR(wide.box.least.x, 0, 1e-6);
            }
    }
}

TEST(Word, GivesAPieceForEachLetterWithItsName) {
    const Word word_ = must(word("Hi Bo", kBold, 30));
    std::vector<std::string> names;
    std::vector<std::pair<int, int>> places;
    for (const WordPiece& piece : word_.pieces) {
        names.push_back(piece.name);
        places.emplace_back(piece.letter, piece.part);
    }
    EXPECT_EQ(names, (std::vector<std::string>{"the H of Hi Bo", "the i of Hi Bo", "the i of Hi Bo",
                                               "the B of Hi Bo", "the o of Hi Bo"}));
    EXPECT_EQ(places, (std::vector<std::pair<int, int>>{{0, 0}, {1, 0}, {1, 1}, {2, 0}, {3, 0}}));
    EXPECT_EQ(word_.pieces[3].shape.openings.size(), 2u);
}

TEST(Word, SpacingIsAddedBetweenLetters) {
    Recipe recipe = word("HHHH", kBold, 30);
    const double plain = must(recipe).box.width();
    recipe.spacingMm = 5;
    EXPECT_NEAR(must(recipe).box.width(), plain + 15, 1e-6);
}

TEST(Word, EqualHeightsStandOnOneBaseline) {
    Recipe recipe = word("Quay", kBold, 50);
    recipe.hasEqualHeights = true;
    for (const WordPiece& piece : must(recipe).pieces) {
        EXPECT_NEAR(geometry::bounds(piece.shape).least.y, -50, 1e-6) << piece.name;
        EXPECT_NEAR(geometry::bounds(piece.shape).most.y, 0, 1e-6) << piece.name;
    }
}

TEST(Word, OverlappedLettersBecomeOnePieceThatHoldsTogether) {
    for (const auto& [text, font] : std::vector<std::pair<std::string, base::FontName>>{
             {"HARBOUR", kBold}, {"LTLVA", kBold}, {"open", kScript}, {"QUAY", {"Lato", "Bold"}}}) {
        SCOPED_TRACE(text);
        Recipe recipe = word(text, font, 60);
        recipe.overlapMm = 6;
        const Word loose = must(recipe);
        recipe.isJoined = true;
        const Word joined = must(recipe);
        ASSERT_EQ(joined.pieces.size(), 1u);
        EXPECT_EQ(joined.pieces[0].name, "the word " + text);
        EXPECT_EQ(joined.pieces[0].letter, -1);
        EXPECT_TRUE(joined.said.empty());
        double sum = 0;
        for (const WordPiece& piece : loose.pieces)
            sum += geometry::area(piece.shape);
        EXPECT_LT(geometry::area(joined.pieces[0].shape), sum);
    }
}

TEST(Word, TwoBarsOverlapByExactlyTheAmount) {
    // The letter I of this typeface is a bar, so the width of "II" is two bars less the overlap.
    Recipe recipe = word("II", kBold, 60);
    const double bar = geometry::bounds(must(recipe).pieces[0].shape).width();
    recipe.overlapMm = 4;
    EXPECT_NEAR(must(recipe).box.width(), 2 * bar - 4, 1e-6);
}

TEST(Word, LettersThatDoNotMeetAreTold) {
    Recipe recipe = word("oi", kBold, 40);
    recipe.isJoined = true;
    recipe.overlapMm = 2;
    const Word out = must(recipe);
    EXPECT_EQ(out.pieces.size(), 2u); // the dot
    ASSERT_EQ(out.said.size(), 1u);
    EXPECT_EQ(
        out.said[0],
        "the letters do not all meet: 2 loose pieces; the dots of i stay loose at any overlap: keep the "
        "word together as a cluster at Sheets, or lay a strip behind it");
}

TEST(Word, ALineBreakBeginsAnotherLine) {
    const Word one = must(word("II", kBold, 40)), two = must(word("II\nI", kBold, 40));
    ASSERT_EQ(two.pieces.size(), 3u);
    EXPECT_TRUE(two.said.empty()) << "a line break is no missing sign";
    const geometry::Box first = geometry::bounds(two.pieces[0].shape),
                        below = geometry::bounds(two.pieces[2].shape);
    EXPECT_NEAR(below.least.x, first.least.x, 1e-6) << "both lines begin at the left";
    // League Spartan: capitals of 1320 units to an em of 2000, lines 1.25 em apart.
    EXPECT_NEAR(below.most.y - first.most.y, 40 / (1320.0 / 2000) * 1.25, 1e-3);
    EXPECT_NEAR(two.box.width(), one.box.width(), 1e-6);
    EXPECT_EQ(two.pieces[2].name, "the I of II I");
    // Overlap and equal heights hold within a line.
    Recipe recipe = word("II\nI", kBold, 40);
    recipe.overlapMm = 3;
    recipe.hasEqualHeights = true;
    const Word tight = must(recipe);
    EXPECT_NEAR(geometry::bounds(tight.pieces[2].shape).least.x,
                geometry::bounds(tight.pieces[0].shape).least.x, 1e-6);
    EXPECT_NEAR(geometry::bounds(tight.pieces[2].shape).height(), 40, 1e-3);
}

TEST(Word, SmallCountersAreFilledAndLargeOnesKept) {
    Recipe recipe = word("B", kBold, 40);
    const auto openings = [&](double below) {
        recipe.fillBelowMm2 = below;
        return must(recipe).pieces[0].shape.openings.size();
    };
    EXPECT_EQ(openings(0), 2u);
    EXPECT_EQ(openings(1e4), 0u);
}

// Its letters are kept with a word, so that it is set at another size without its typeface.
TEST(Word, IsSetAgainFromItsLettersAlone) {
    for (const auto& font : {kBold, kScript}) {
        Recipe recipe = word("Quay 8", font, 60);
        recipe.spacingMm = 2;
        const auto letters = lettersOf(face(font), recipe);
        ASSERT_TRUE(letters);
        ASSERT_EQ(letters->letters.size(), 5u);
        EXPECT_TRUE(letters->letters[4].isAfterSpace);
        const auto first = setWord(*letters, recipe);
        Recipe larger = recipe;
        larger.sizeMm *= 1.7;
        larger.spacingMm *= 1.7;
        const auto second = setWord(*letters, larger);
        ASSERT_TRUE(first && second);
        ASSERT_EQ(first->pieces.size(), second->pieces.size());
        for (size_t i = 0; i < first->pieces.size(); ++i) {
            const auto grown =
                geometry::transformed(first->pieces[i].shape, geometry::Transform::scale(1.7, 1.7));
            const geometry::Box a = geometry::bounds(grown), b = geometry::bounds(second->pieces[i].shape);
            EXPECT_NEAR(distance(a.least, b.least) + distance(a.most, b.most), 0, 1e-6)
                << first->pieces[i].name;
            EXPECT_NEAR(geometry::area(grown), geometry::area(second->pieces[i].shape), 1e-4);
        }
        // A place on a letter is found again on it at any size.
        const geometry::Point onLetter{200, -300};
        const geometry::Point then = first->pieces[1].letterToWord(onLetter),
                              now = second->pieces[1].letterToWord(onLetter);
        EXPECT_NEAR(now.x, 1.7 * then.x, 1e-6);
        EXPECT_NEAR(now.y, 1.7 * then.y, 1e-6);
    }
}

TEST(Word, RefusesInASentence) {
    struct Row {
        Recipe recipe;
        const char* says;
    };
    Recipe wide = word("HI", kBold, 20);
    wide.overlapMm = 50;
    Recipe spaced = word("HI", kBold, 20);
    spaced.spacingMm = std::nan("");
    for (const Row& row :
         {Row{word("  ", kBold, 20), "Type a word first."},
          Row{word("\u200b", kBold, 20), "There is no ink in '\u200b'; type letters or figures."},
          Row{word("HI", kBold, 0), "Letters can be 1 to 2000 mm high or wide."},
          Row{wide, "An overlap of 50.0 mm is more than the letter I is wide; take less."},
          Row{spaced, "The spacing goes from -50 to 200 mm."},
          Row{word(std::string(401, 'H'), kBold, 20),
              "A word can have at most about 400 letters; set the text in several."}}) {
        const auto out = set(face(kBold), row.recipe);
        ASSERT_FALSE(out) << row.says;
        EXPECT_EQ(out.error().message, row.says);
    }
}

TEST(Word, AMissingSignIsTold) {
    const Word out = must(word("A\u4e2d", kBold, 20));
    ASSERT_EQ(out.said.size(), 1u);
    EXPECT_EQ(out.said[0], "the typeface has no sign for \u4e2d");
}

TEST(FindFont, TakesTheNearestAndSaysSo) {
    const auto store = support::shippedFonts();
    EXPECT_EQ(findFont(store, kScript, kBold)->said, "");
    EXPECT_EQ(findFont(store, {"Allerta", ""}, kBold)->file.name, kStencil);
    const auto other = findFont(store, {"League Spartan", "Thin"}, kScript);
    EXPECT_EQ(other->file.name, kBold);
    EXPECT_EQ(
        other->said,
        "the typeface League Spartan Thin is not installed; League Spartan ExtraBold was taken instead");
    EXPECT_EQ(findFont(store, {"Nowhere", "Bold"}, kStencil)->file.name, kStencil);
    EXPECT_EQ(findFont(support::MemoryFontStore{}, kBold, kBold).error().code, base::Code::NotFound);
    EXPECT_EQ(findFont(support::FailingFontStore{}, kBold, kBold).error().code, base::Code::IoError);
}

// Every sign stays in its box: half as wide as high (a comma hangs a tenth below), none without a line but the blank.
TEST(Strokes, EverySignIsALineInItsPlace) {
    const std::string all = "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789.,-:!?'/&+";
    for (const char sign : all) {
        const auto lines = strokeLines(std::string(1, sign), {10, 20}, 8);
        ASSERT_TRUE(lines) << sign;
        ASSERT_FALSE(lines->empty()) << sign;
        for (const geometry::Line& line : *lines) {
            ASSERT_FALSE(line.segments.empty()) << sign;
            const geometry::Box box = geometry::bounds(line);
            EXPECT_GE(box.least.x, 10 - 0.1) << sign;
            EXPECT_LE(box.most.x, 14 + 0.1) << sign;
            EXPECT_GE(box.least.y, 20 - 0.1) << sign;
            EXPECT_LE(box.most.y, 28 + 0.8) << sign;
        }
    }
    const auto twice = strokeLines("aa", {0, 0}, 10);
    ASSERT_TRUE(twice);
    EXPECT_EQ(twice->size(), 2 * strokeLines("A", {0, 0}, 10)->size());
    EXPECT_NEAR(strokesWidth("aa", 10), 5 + 2 + 5, 1e-9);
    EXPECT_FALSE(strokeLines("", {}, 8));
    EXPECT_FALSE(strokeLines("   ", {}, 8));
    EXPECT_FALSE(strokeLines("möwe", {}, 8));
}

} // namespace
} // namespace thinline::lettering
