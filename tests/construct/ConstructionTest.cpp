// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Construction.h"

#include "design/Leaves.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Necks.h"
#include "geometry/Offset.h"
#include "support/FoldedWorks.h"
#include "support/Fonts.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <random>
#include <set>

namespace thinline::construct {
namespace {

constexpr double kPi = std::numbers::pi;
constexpr double kInch = base::kMmPerInch;

using support::given;

Built must(const Given& given) {
    auto out = built(given);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}
const Part& part(const Built& built, const std::string& key) {
    for (const Part& one : built.parts)
        if (one.key == key)
            return one;
    throw std::runtime_error("no part " + key);
}
double wide(const Built& built, const std::string& key) {
    return geometry::bounds(part(built, key).body.shape).width();
}
double high(const Built& built, const std::string& key) {
    return geometry::bounds(part(built, key).body.shape).height();
}
std::string why(const Given& given) {
    const auto out = built(given);
    return out ? "made" : out.error().message;
}
std::string derived(const Built& built, const std::string& name,
                    base::LengthUnit unit = base::LengthUnit::Millimetre) {
    for (const Derived& one : built.derived)
        if (one.name == name)
            return textOf(one, unit);
    return "no such number";
}

/// The word as card in a typeface that ships.
Given lettered(const std::string& name, const std::string& word,
               const std::map<std::string, double>& said = {}) {
    Given out = given(name, said, 0.3, word);
    out.letters = support::lettersOf(word);
    return out;
}

TEST(Constructions, AreAllMadeFromTheirUsualMeasures) {
    ASSERT_GE(constructions().size(), 20u);
    std::set<std::string> names;
    for (const Construction* one : constructions()) {
        SCOPED_TRACE(one->name);
        EXPECT_TRUE(names.insert(one->name).second);
        const Built made =
            must(one->hasLetters && *one->usualWord ? lettered(one->name, one->usualWord) : given(one->name));
        ASSERT_FALSE(made.parts.empty());
        std::set<std::string> keys;
        for (const Part& one_ : made.parts) {
            SCOPED_TRACE(one_.key);
            EXPECT_TRUE(keys.insert(one_.key).second);
            EXPECT_FALSE(one_.name.empty());
            EXPECT_GT(geometry::signedArea(one_.body.shape.outline), 0);
            for (const geometry::Contour& opening : one_.body.shape.openings)
                EXPECT_LT(geometry::signedArea(opening), 0);
            // The outline crosses nothing: cleaned, it is one shape of the same area.
            auto clean = geometry::weld({one_.body.shape});
            ASSERT_TRUE(clean);
            ASSERT_EQ(clean->size(), 1u);
            EXPECT_NEAR(geometry::area(clean->front()), geometry::area(one_.body.shape), 0.01);
            for (const design::PieceLine& line : one_.body.lines) {
                const auto on = geometry::clippedTo(line.path, one_.body.shape);
                ASSERT_TRUE(on);
                double length = 0;
                for (const auto& bit : *on)
                    length += geometry::contourLength(bit);
                EXPECT_GT(length, 0.9 * geometry::contourLength(line.path)) << "a line off its card";
            }
            for (const design::Zone& zone : one_.body.zones)
                EXPECT_TRUE(geometry::contains(one_.body.shape, geometry::pointInside(zone.area)));
        }
        for (const Measure& measure : one->measures) {
            EXPECT_GT(std::string(measure.why).size(), 3u);
            EXPECT_GE(measure.parameter.usual, measure.parameter.least);
            if (measure.parameter.quantity != base::Quantity::Choice) {
                EXPECT_LE(measure.parameter.usual, measure.parameter.most);
            }
        }
    }
}

// Common practice: strip = pi D + 0.5 in, lid disc D + 0.05 in, as many teeth of 0.5 in as cover the strip.
TEST(TheRoundBox, AgreesWithTheWorkedExampleOfTwoAndAHalfInches) {
    const Built made = must(given("round-box",
                                  {{"diameter", 2.5 * kInch},
                                   {"lap", 0.5 * kInch},
                                   {"teeth", 0.5 * kInch},
                                   {"slides", 0.05 * kInch},
                                   {"wider", 0.05 * kInch}},
                                  0));
    EXPECT_NEAR(wide(made, "wall") / kInch, 8.35, 0.005);
    EXPECT_NEAR((wide(made, "wall") - 0.5 * kInch) / kInch, 7.85, 0.005);
    EXPECT_NEAR(wide(made, "lid-wall") / kInch, 8.51, 0.005);
    EXPECT_NEAR((wide(made, "lid-wall") - 0.5 * kInch) / kInch, 8.01, 0.005);
    EXPECT_NEAR(wide(made, "inner-disc") / kInch, 2.5, 1e-9);
    EXPECT_NEAR(wide(made, "outer-disc") / kInch, 2.55, 1e-9);
    EXPECT_NEAR(wide(made, "lid-inner-disc") / kInch, 2.55, 1e-9);
    EXPECT_NEAR(wide(made, "lid-outer-disc") / kInch, 2.6, 1e-9);
    // 17 teeth: the outline has an upper edge, two sides and two steps a tooth.
    EXPECT_EQ(geometry::nodeCount(part(made, "wall").body.shape), 3 + 2 * 17);
}

TEST(TheRoundBox, SaysHowItsNumbersFollow) {
    const Built made = must(given("round-box", {{"diameter", 58}, {"height", 104}}));
    EXPECT_EQ(derived(made, "wall"), "wall = π × (58.0 + 0.3 card) + 12.0 lap = 195.2 mm");
    EXPECT_EQ(derived(made, "wall", base::LengthUnit::Inch),
              "wall = π × (2.283 + 0.012 card) + 0.472 lap = 7.683 in");
    EXPECT_EQ(derived(made, "lid inside"), "lid inside = 58.0 + 2 × 0.3 card + 0.3 to slide = 58.9 mm");
}

// The toothed edge without the lap meets the disc's rim: Euclid's circumference, at the middle of the card.
TEST(TheRoundBox, HasAWallAsLongAsItsDiscIsRound) {
    for (const double t : {0.0, 0.1, 0.3, 0.6, 1.0})
        for (const double diameter : {30.0, 58.0, 120.0}) {
            const Built made = must(given("round-box", {{"diameter", diameter}, {"room", 0}}, t));
            EXPECT_NEAR(wide(made, "wall") - 12, kPi * (diameter + t), 1e-6);
            EXPECT_NEAR(wide(made, "inner-disc"), diameter, 1e-9);
        }
}

struct LidOver {
    const char* construction;
    const char* base; ///< whose fold-to-fold width is asked, by its derived number
};
// A lid's room must be the box's outside and a little more, whatever the card: our derivation.
TEST(Lids, NeverJamAndAreNeverMoreThanFourTenthsLoose) {
    for (double t = 0.1; t < 1.05; t += 0.1) {
        const Built round = must(given("round-box", {{"diameter", 60}}, t));
        const double roundOutside = (wide(round, "wall") - 12) / kPi + t,
                     roundRoom = (wide(round, "lid-wall") - 12) / kPi - t;
        EXPECT_GT(roundRoom, roundOutside) << t;
        EXPECT_LE(roundRoom, roundOutside + 0.4) << t;
        const Built box = must(given("lid-box", {}, t));
        const auto folds = [&](const char* key) {
            double least = 1e9, most = -1e9;
            for (const design::PieceLine& line : part(box, key).body.lines)
                if (std::abs(line.path.start.x - geometry::endOf(line.path).x) < 1e-9 &&
                    std::abs(line.path.start.y) < 1e-9 && std::abs(geometry::endOf(line.path).y) > 50) {
                    least = std::min(least, line.path.start.x);
                    most = std::max(most, line.path.start.x);
                }
            return most - least; // of the short walls' folds: middle to middle
        };
        const double outside_ = folds("box") + t, room = folds("lid") - t;
        EXPECT_GT(room, outside_) << t;
        EXPECT_LE(room, outside_ + 0.4) << t;
    }
}

struct Row {
    const char* name;
    std::map<std::string, double> said;
    double thicknessMm;
    const char* key;
    double wideMm, highMm;
};
// Blanks by hand: inner measures, plus a card where a wall stands at either side (middle to middle), plus laps.
const std::vector<Row> kBlanks{
    // 90 + 0.3 fold to fold, walls of 40 + 0.15; upwards 60 + 0.3 and the same walls.
    {"lid-box",
     {{"width", 90}, {"depth", 60}, {"height", 40}},
     0.3,
     "box",
     90.3 + 2 * 40.15,
     60.3 + 2 * 40.15},
    // Inside of the lid 90 + 0.6 + 0.3.
    {"lid-box",
     {{"width", 90}, {"depth", 60}, {"height", 40}, {"lid-height", 18}},
     0.3,
     "lid",
     91.2 + 2 * 18.15,
     61.2 + 2 * 18.15},
    // 2 x 60.8 + 2 x 30.8 - 0.3 + 12; 90.3 and at both ends a lid of 30.5 and a tuck of 14.
    {"carton",
     {{"width", 60}, {"depth", 30}, {"height", 90}, {"room", 0.5}},
     0.3,
     "carton",
     2 * 60.8 + 2 * 30.8 - 0.3 + 12,
     90.3 + 2 * (30.5 + 14)},
    {"sleeve",
     {{"width", 62}, {"depth", 32}, {"length", 60}, {"slides", 0.5}},
     0.3,
     "sleeve",
     2 * 62.8 + 2 * 32.8 - 0.3 + 12,
     60},
    {"card", {{"width", 105}, {"height", 148}}, 0.3, "card", 210, 148},
    {"card",
     {{"pocket-width", 86}, {"pocket-height", 45}, {"room", 2}, {"lap", 8}},
     0.3,
     "pocket",
     88.3 + 16,
     45 + 8},
    {"envelope",
     {{"width", 152}, {"height", 108}, {"room", 4}, {"lap", 14}, {"up", 70}, {"flap", 55}},
     0.2,
     "envelope",
     156.2 + 28,
     112.2 + 70 + 55},
    {"bookmark",
     {{"width", 2 * kInch}, {"height", 7 * kInch}},
     0.3,
     "bookmark",
     50.8,
     177.8}, // common practice
    {"tag", {{"hole", 5}, {"ring", 4}}, 0.3, "eyelet", 13, 13},
    {"flags",
     {{"width", 2 * kInch}, {"height", 3 * kInch}, {"form", 2}},
     0.3,
     "flag-1",
     50.8,
     76.2}, // common practice
    {"ball-discs", {{"inner", 76}, {"play", 2}, {"rim", 4}}, 0.3, "backing", 74, 74},
    {"ball-discs", {{"inner", 76}, {"play", 2}, {"rim", 4}}, 0.3, "back-face", 70, 70},
    {"nested",
     {{"figure", 0}, {"width", 120}, {"layers", 7}, {"step", 6}},
     0.3,
     "layer-7",
     120 - 2 * 36,
     120 - 2 * 36},
    {"pillow-box",
     {{"width", 70}, {"height", 110}, {"arc", 18}, {"lap", 12}},
     0.3,
     "pillow",
     2 * 70 + 12,
     110 + 2 * 18},
    // Arcs of 10 on 80: radius 85, the first of 24 facets rises 1.685 on 3.333, 30.36 degrees; the lap begins 0.3 / sin 60.72 before
    // the corner.
    {"pillow-box",
     {{"width", 80}, {"height", 110}, {"arc", 10}, {"lap", 12}},
     0.3,
     "pillow",
     2 * 80 - 0.3439 + 12,
     110 + 2 * 10},
    {"cross-stand", {{"width", 80}, {"height", 40}}, 0.5, "upper", 80, 40},
    {"bow", {{"width", 70}, {"height", 30}, {"waist", 12}}, 0.3, "loops", 140, 30},
    // Bottom across the flats 50 (sides stand on it at 25.15 + ...): a straight cup of four walls is a cross.
    {"cup",
     {{"sides", 4}, {"bottom", 50}, {"top", 50}, {"height", 30}, {"lap", 10}},
     0.4,
     "cup",
     50.4 + 60,
     50.4 + 60},
    // Four panels of (60 + 2 + 0.3), the lap's fold a card short.
    {"lantern",
     {{"panels", 4}, {"inside", 60}, {"room", 2}, {"height", 100}, {"lap", 10}, {"tabs", 10}},
     0.3,
     "strip-1",
     4 * 62.3 - 0.3 + 10,
     110},
    {"lantern", {{"panels", 4}, {"inside", 60}, {"room", 2}, {"less", 0.4}}, 0.3, "bottom", 61.6, 61.6},
    {"easel-back", {{"width", 90}, {"height", 130}}, 1, "back", 90, 130},
    {"flower", {{"width", 70}}, 0.3, "layer-1", 0, 70}, // across the petals; its width is not asked
    {"pyramid",
     {{"sides", 4}, {"bottom", 60}, {"height", 40}},
     0,
     "pyramid",
     60 + 2 * 50,
     60 + 2 * 50}, // slant 3-4-5
};
TEST(Constructions, HaveTheMeasuresOfHandComputation) {
    for (const Row& row : kBlanks) {
        SCOPED_TRACE(std::string(row.name) + " " + row.key);
        const Built made = must(given(row.name, row.said, row.thicknessMm));
        if (row.wideMm > 0) {
            EXPECT_NEAR(wide(made, row.key), row.wideMm, 1e-3);
        }
        EXPECT_NEAR(high(made, row.key), row.highMm, 1e-3);
    }
}

TEST(TheNestedLayers, AreAsManyAsAFrameIsDeep) {
    // 20 mm deep: card of 0.3 and lifts of 2 make 2.3 a layer, the lowest lies without a lift: 0.3 + 8 x 2.3 = 18.7.
    const Built made = must(given("nested", {{"depth", 20}, {"lift", 2}, {"step", 4}, {"width", 150}}));
    EXPECT_EQ(made.parts.size(), 9u);
    EXPECT_EQ(why(given("nested", {{"layers", 30}, {"step", 6}, {"width", 120}})),
              "Of layer 11 nothing is left; 10 layers are the most at this step and width.");
}

TEST(TheLantern, IsCutInAsManyStripsAsAsked) {
    for (int strips = 1; strips <= 6; ++strips) {
        const Built made = must(given("lantern", {{"strips", static_cast<double>(strips)}}));
        int openings = 0;
        for (const Part& one : made.parts)
            if (one.key.starts_with("strip"))
                openings += static_cast<int>(one.body.shape.openings.size());
        EXPECT_EQ(openings, 6) << strips;
        EXPECT_EQ(part(made, "pane").copies, 6);
        EXPECT_EQ(part(made, "pane").role, Role::Pane);
    }
}

TEST(TheFlags, AreOneForEveryLetterOfAWord) {
    const Built made = must(given("flags", {{"ends", 1}}, 0.3, "SEA ÖL"));
    ASSERT_EQ(made.parts.size(), 8u); // six signs, one of them a space, and two ends
    EXPECT_EQ(made.parts[1].name, "flag 1, for S");
    EXPECT_EQ(made.parts[4].name, "flag 4");
    EXPECT_EQ(made.parts[5].name, "flag 5, for Ö");
    EXPECT_EQ(made.parts[1].key, "flag-1");
    // Two slits, as long as the ribbon is wide and its ease, and the way between them.
    const design::Body& flag = made.parts[1].body;
    ASSERT_EQ(flag.lines.size(), 2u);
    EXPECT_NEAR(geometry::contourLength(flag.lines[0].path), 9.5, 1e-9);
    ASSERT_EQ(flag.zones.size(), 1u);
    EXPECT_EQ(flag.zones[0].kind, design::Zone::Kind::Way);
    EXPECT_EQ(flag.zones[0].takesMm, 8) << "the ribbon, not its slits";
}

TEST(TheFlags, CarryTheirLettersInTheMiddleOnOneLine) {
    const Built made = must(lettered("flags", "SEA ÖL", {{"letter", 18}}));
    EXPECT_EQ(part(made, "letter-1").on, "flag-1");
    EXPECT_EQ(part(made, "letter-1").role, Role::Liner);
    EXPECT_THROW(part(made, "letter-4"), std::runtime_error) << "a space stays plain";
    // Ö comes as its body and two dots.
    EXPECT_EQ(part(made, "letter-5-3").on, "flag-5");
    for (const char* key : {"letter-1", "letter-2", "letter-3", "letter-6"}) {
        const geometry::Box box = geometry::bounds(part(made, key).body.shape);
        EXPECT_NEAR((box.least.x + box.most.x) / 2, 30, 1e-6) << key;
    }
    // The dots of Ö are highest: slits begin 6 below the top and are 9.5 long, 5 to the letters.
    EXPECT_NEAR(geometry::bounds(part(made, "letter-5-2").body.shape).least.y, 20.5, 0.3);
    const double line = geometry::bounds(part(made, "letter-2").body.shape).most.y;
    EXPECT_NEAR(high(made, "letter-2"), 18, 1e-6);
    for (const char* key : {"letter-1", "letter-3", "letter-5", "letter-6"})
        EXPECT_NEAR(geometry::bounds(part(made, key).body.shape).most.y, line, 0.5)
            << key << ": round letters hang over the line a little";
    // Without it capitals begin 5 below the slits.
    const Built plain = must(lettered("flags", "SEA", {{"letter", 18}}));
    EXPECT_NEAR(geometry::bounds(part(plain, "letter-2").body.shape).least.y, 6 + 9.5 + 5, 0.5);
    // With a margin round it, by set operations.
    for (const char* key : {"letter-1", "letter-2", "letter-3"}) {
        const Part& letter = part(made, key);
        auto grown = geometry::offset({letter.body.shape}, 1.99);
        ASSERT_TRUE(grown);
        auto beside = geometry::subtract(grown->shapes, {part(made, letter.on).body.shape});
        ASSERT_TRUE(beside);
        // Slits are lines, not openings; only the outline counts.
        EXPECT_TRUE(beside->empty()) << key;
    }
}

TEST(TheFlags, CarryLettersAsLargeAsTheyLieOnThem) {
    const Built made = must(lettered("flags", "SEA", {{"letter", 60}}));
    const std::string said = derived(made, "capitals, as large as A lies on its flag");
    const double most = std::stod(said.substr(said.rfind("= ") + 2));
    EXPECT_NEAR(high(made, "letter-2"), most, 1e-6);
    // The same measure asked for is not made smaller; a little more is.
    EXPECT_EQ(derived(must(lettered("flags", "SEA", {{"letter", most}})),
                      "capitals, as large as A lies on its flag"),
              "no such number");
    EXPECT_NEAR(high(must(lettered("flags", "SEA", {{"letter", most + 0.2}})), "letter-2"), most, 1e-6);
    EXPECT_EQ(why(lettered("flags", "SEA", {{"letter-gap", 60}})),
              "The letter S does not lie on a flag of 60.0 mm by 80.0 mm with 2.0 mm round it; take larger "
              "flags, or "
              "letters further up.");
}

TEST(TheFlags, LoseWhatACutOutLetterEncloses) {
    const Built made = must(lettered("flags", "SEA", {{"letter", 20}, {"letters", 1}}));
    EXPECT_EQ(made.parts.size(), 3u);
    EXPECT_EQ(part(made, "flag-1").body.shape.openings.size(), 1u);
    ASSERT_FALSE(made.said.empty());
    EXPECT_NE(
        std::find(
            made.said.begin(), made.said.end(),
            "What the letter encloses falls out of A; a stencil typeface holds it, or glue the letters on."),
        made.said.end());
}

TEST(TheWordStrip, LeavesALittleOfEachLetterAboveItsBacking) {
    const Built made = must(lettered("word-strip", "GULL"));
    const geometry::Box backing = geometry::bounds(part(made, "backing").body.shape),
                        word = geometry::bounds(part(made, "word").body.shape);
    EXPECT_NEAR(word.height(), 40, 1e-6); // all of one height
    EXPECT_NEAR(backing.least.y - word.least.y, 8, 1e-6);
    EXPECT_NEAR(backing.most.y - word.most.y, 5, 1e-6);
    EXPECT_NEAR(word.least.x - backing.least.x, 8, 1e-6);
    EXPECT_NEAR(backing.most.x - word.most.x, 8, 1e-6);
    EXPECT_THROW(part(made, "word-2"), std::runtime_error) << "letters hang together";
    EXPECT_EQ(why(given("word-strip")), "Type a word; a piece is made for every letter.");
}

// Common practice: each page reaches from the bound edge to its own letter, all aligned left and below, counters open.
TEST(TheAlbum, GrowsByALetterAPage) {
    const Built made = must(lettered("album", "TIDE", {{"papers", 1}}));
    ASSERT_EQ(made.parts.size(), 12u);
    double before = 0;
    for (int i = 1; i <= 4; ++i) {
        const Part& page = part(made, "page-" + std::to_string(i));
        const geometry::Box box = geometry::bounds(page.body.shape);
        EXPECT_NEAR(box.least.x, 0, 1e-9);
        EXPECT_NEAR(box.most.y, 90, 1e-6);
        EXPECT_NEAR(box.least.y, 0, 1e-6);
        EXPECT_GT(box.most.x, before + 10);
        before = box.most.x;
        // The back paper is the page seen from behind.
        const geometry::Shape back = part(made, "back-" + std::to_string(i)).body.shape;
        const geometry::Shape again =
            geometry::transformed(back, geometry::Transform{-1, 0, 0, 1, box.width(), 0});
        auto differs = geometry::exclude({again}, {page.body.shape});
        ASSERT_TRUE(differs);
        EXPECT_TRUE(differs->empty());
    }
    EXPECT_EQ(part(made, "page-1").body.shape.openings.size(), 3u) << "holes only: T has no counter";
    EXPECT_EQ(part(made, "page-3").body.shape.openings.size(), 4u) << "holes, and the counter of D";
}

TEST(BoxesInBoxes, TakeTheOneBeforeWithItsLid) {
    for (const double t : {0.1, 0.3, 1.0}) {
        const Built made = must(given("box-nest", {{"boxes", 4}, {"play", 1.5}}, t));
        ASSERT_EQ(made.parts.size(), 8u);
        // By hand: inside 50; lid inside 50 + 2 t + 0.3; next inside that + 2 t + 1.5.
        double inside = 50, inHigh = 30;
        for (int i = 1; i <= 4; ++i) {
            const std::string number = std::to_string(i);
            EXPECT_NEAR(wide(made, "box-" + number), inside + t + 2 * (inHigh + t / 2), 1e-9) << t;
            inside += 4 * t + 0.3 + 1.5;
            inHigh += 2 * t + 1.5;
        }
    }
}

TEST(TheJigsaw, HidesAPieceOfItsOwnShapeAndSpoilsNone) {
    for (const double figure : {1.0, 2.0, 3.0, 4.0}) {
        const Built made = must(given("jigsaw", {{"hidden", figure}, {"seed", 3}}));
        ASSERT_EQ(made.parts.size(), 25u);
        std::vector<geometry::Shape> shapes;
        double sum = 0;
        for (const Part& one : made.parts) {
            shapes.push_back(one.body.shape);
            sum += geometry::area(one.body.shape);
            const auto necks = geometry::findNecks(one.body.shape, 1.5);
            ASSERT_TRUE(necks);
            EXPECT_TRUE(necks->empty()) << one.key;
        }
        EXPECT_NEAR(sum, 180 * 120, 0.05);
        auto whole = geometry::weld(shapes);
        ASSERT_TRUE(whole);
        ASSERT_EQ(whole->size(), 1u);
        EXPECT_TRUE(whole->front().openings.empty());
    }
}

TEST(TheJigsaw, WeldsBackToTheWholeAndHasNoNeckBelowTheLeast) {
    const Built made =
        must(given("jigsaw", {{"width", 180}, {"height", 120}, {"columns", 6}, {"rows", 4}, {"neck", 3}}));
    ASSERT_EQ(made.parts.size(), 24u);
    std::vector<geometry::Shape> shapes;
    double sum = 0;
    for (const Part& one : made.parts) {
        shapes.push_back(one.body.shape);
        sum += geometry::area(one.body.shape);
    }
    EXPECT_NEAR(sum, 180 * 120, 1e-6); // shared borders cancel to the bit
    auto whole = geometry::weld(shapes);
    ASSERT_TRUE(whole);
    ASSERT_EQ(whole->size(), 1u);
    EXPECT_TRUE(whole->front().openings.empty());
    EXPECT_NEAR(geometry::area(whole->front()), 180 * 120, 1e-3);
    for (const geometry::Shape& shape : shapes) {
        const auto necks = geometry::findNecks(shape, 3);
        ASSERT_TRUE(necks);
        EXPECT_TRUE(necks->empty()) << necks->front().widthMm;
    }
}

TEST(TheJigsaw, HasNoTwoKnobsAlike) {
    const Built made =
        must(given("jigsaw", {{"width", 1000}, {"height", 1000}, {"columns", 31}, {"rows", 31}}));
    // An inner edge is known by its handles, taken back to its own beginning and direction; no two are within 0.05 mm.
    std::vector<std::vector<geometry::Point>> edges;
    for (const Part& one : made.parts) {
        const geometry::Contour& outline = one.body.shape.outline;
        if (outline.segments.size() < 12)
            continue;
        geometry::Point at = outline.start;
        std::vector<geometry::Point> edge;
        size_t i = 0;
        for (; i < 6 && !outline.segments[i].isLine; ++i) { // its upper edge
            const geometry::Segment& s = outline.segments[i];
            edge.push_back(s.end - at);
        }
        if (edge.size() == 6)
            edges.push_back(edge);
    }
    ASSERT_GT(edges.size(), 800u);
    for (size_t i = 0; i < edges.size(); ++i)
        for (size_t j = i + 1; j < edges.size(); ++j) {
            double most = 0;
            for (size_t k = 0; k < 6; ++k)
                most = std::max(most, geometry::distance(edges[i][k], edges[j][k]));
            ASSERT_GT(most, 0.05);
        }
}

TEST(TheJigsaw, IsTheSameForTheSameNumberAndAnotherForAnother) {
    const auto puzzle = [](double seed) {
        return must(given("jigsaw", {{"seed", seed}})).parts.front().body;
    };
    EXPECT_EQ(puzzle(7), puzzle(7));
    EXPECT_FALSE(puzzle(7) == puzzle(8));
}

struct Refusal {
    const char* name;
    std::map<std::string, double> said;
    double thicknessMm;
    const char* sentence;
};
TEST(BadMeasures, AreRefusedWithTheLimit) {
    const std::vector<Refusal> rows{
        {"round-box", {{"diameter", 0}}, 0.3, "\"What goes in, across\" goes from 10 to 600 mm."},
        {"round-box", {{"height", -4}}, 0.3, "\"Height inside\" goes from 5 to 600 mm."},
        {"round-box",
         {{"height", 20}, {"lid-height", 25}},
         0.3,
         "The lid is higher than the box; it can be 20.0 mm high at most."},
        {"lid-box", {{"width", 5}, {"depth", 5}, {"height", 3}, {"lid-height", 3}, {"lap", 4}}, 0.5, ""},
        {"lid-box", {{"rim", 40}}, 0.3, "A rim of 40.0 mm leaves no window; it can be 28.1 mm at most."},
        {"flags", {{"flags", 10000}}, 0.3, "\"Flags, without a word\" goes from 1 to 300."},
        {"lantern", {{"panels", 4}, {"strips", 9}}, 0.3, "4 panels make 4 strips at most."},
        {"cup", {{"lap", 30}}, 0.3, ""},
        {"jigsaw", {{"columns", 60}, {"rows", 50}}, 0.3, ""},
        {"cross-stand",
         {{"taper", 5}},
         2,
         "The upper edge of 4.0 mm is too narrow for a slot of 2.1 mm; make it 4.1 mm at least."},
        {"round-box", {}, 5, "A card of 5.00 mm cannot be folded here; up to 3 mm can."},
        {"round-box", {{"diameter", NAN}}, 0.3, ""},
    };
    for (const Refusal& row : rows) {
        const std::string said = why(given(row.name, row.said, row.thicknessMm));
        SCOPED_TRACE(said);
        EXPECT_NE(said, "made");
        if (row.sentence[0] != 0) {
            EXPECT_EQ(said, row.sentence);
        }
    }
    EXPECT_EQ(why({"castle", {}, "", 0.3}), "There is no construction 'castle'.");
}

TEST(Sizing, ChangesWhatGoesInAndLeavesMargins) {
    const Given before = given("round-box", {{"diameter", 58}});
    const Given after = sizedBy(before, 2);
    EXPECT_EQ(after.values[0], 116);
    EXPECT_EQ(after.values[1], 208);
    EXPECT_EQ(after.values[5], 12); // the lap
    const Built made = must(after);
    EXPECT_NEAR(wide(made, "wall"), kPi * 116.3 + 12, 1e-6);
    EXPECT_EQ(sizedBy(before, 2, true).values[5], 24);
}

TEST(Constructions, SayWhatTheyAreForAnyMeasuresInRangeOrRefuse) {
    std::mt19937 random(20);
    int made = 0, refused = 0;
    for (const Construction* one : constructions())
        for (int round = 0; round < 12; ++round) {
            Given any{one->name, {}, "", std::uniform_real_distribution<>(0, 1)(random)};
            for (const Measure& measure : one->measures) {
                const base::Parameter& p = measure.parameter;
                const double most = p.quantity == base::Quantity::Choice
                                        ? static_cast<double>(base::choicesOf(p).size() - 1)
                                    : p.quantity == base::Quantity::Count ? std::min(p.most, 12.0)
                                                                          : std::min(p.most, p.usual * 2 + 1);
                double value = std::uniform_real_distribution<>(std::max(p.least, p.usual * 0.5),
                                                                std::max(most, p.least))(random);
                if (p.quantity == base::Quantity::Choice)
                    value = std::round(std::uniform_real_distribution<>(0, most)(random));
                any.values.push_back(p.quantity == base::Quantity::Count ? std::round(value) : value);
            }
            const auto out = built(any);
            SCOPED_TRACE(one->name);
            if (!out) {
                ++refused;
                EXPECT_GT(out.error().message.size(), 20u);
                continue;
            }
            ++made;
            for (const Part& one_ : out->parts) {
                EXPECT_TRUE(geometry::isFinite(one_.body.shape));
                auto clean = geometry::weld({one_.body.shape});
                ASSERT_TRUE(clean);
                ASSERT_EQ(clean->size(), 1u) << one_.key;
                EXPECT_NEAR(geometry::area(clean->front()), geometry::area(one_.body.shape), 0.01)
                    << one_.key;
            }
        }
    EXPECT_GT(made, 100);
    RecordProperty("refused", refused);
}

} // namespace
} // namespace thinline::construct
