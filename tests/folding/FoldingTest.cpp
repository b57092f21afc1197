// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Construction.h"
#include "folding/Draw.h"
#include "geometry/Measures.h"
#include "support/FoldedWorks.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <map>
#include <random>

namespace thinline::folding {
namespace {

using construct::Given;
using geometry::Point;

Model model(const Given& given) {
    auto built = construct::built(given);
    if (!built)
        throw std::runtime_error(built.error().message);
    return support::folded(*built, given.thicknessMm);
}
/// A card of 40 x 30 with a fold at x = 10 and one at x = 30.
Card folder(double angleDeg, bool isTowards) {
    auto body = std::make_shared<design::Body>(design::Body{support::rectangle(0, 0, 40, 30)});
    for (const double x : {10.0, 30.0})
        body->lines.push_back({design::LineId{static_cast<int>(x)},
                               {{x, 0}, {geometry::Segment::line({x, 30})}},
                               design::Fold{design::Side::Front, isTowards, angleDeg},
                               true,
                               true});
    return {"folder", "the folder", body, 0};
}

TEST(AFold, TurnsItsPanelAwayOrTowards) {
    for (const bool isTowards : {false, true}) {
        auto made = modelOf({folder(90, isTowards)}, {});
        ASSERT_TRUE(made);
        const Posed done = posed(*made, 1), flat = posed(*made, 0);
        const size_t left = made->sheets[0].leafAt({5, 15}), right = made->sheets[0].leafAt({35, 15});
        const double sense = isTowards ? 1 : -1;
        const Vec a = done.leaves[0][left].at({0, 0}), b = done.leaves[0][right].at({40, 30});
        EXPECT_NEAR(a.x, 10, 1e-9);
        EXPECT_NEAR(a.y, 0, 1e-9);
        EXPECT_NEAR(a.z, sense * 10, 1e-9);
        EXPECT_NEAR(b.x, 30, 1e-9);
        EXPECT_NEAR(b.y, 30, 1e-9);
        EXPECT_NEAR(b.z, sense * 10, 1e-9);
        // Folded away, the fronts look outwards.
        EXPECT_NEAR(done.leaves[0][left].out.x, sense, 1e-9);
        EXPECT_EQ(flat.leaves[0][left].at({0, 0}), (Vec{0, 0, 0}));
    }
}

struct Closed {
    const char* name;
    std::map<std::string, double> said;
};
const std::vector<Closed> kClosed{
    {"round-box", {}},
    {"lid-box", {}},
    {"box-nest", {}},
    {"box-nest", {{"boxes", 5}, {"play", 0.6}}},
    {"easel-back", {}},
    {"cross-stand", {}},
    {"envelope", {}},
    {"card", {}},
    {"pouch", {}},
    {"pouch", {{"flap", 40}}},
    {"carton", {}},
    {"sleeve", {}},
    {"cup", {}},
    {"cup", {{"sides", 4}, {"bottom", 60}, {"top", 60}}},
    {"cup", {{"sides", 3}, {"bottom", 40}, {"top", 30}}},
    {"pillow-box", {}},
    {"pillow-box", {{"width", 160}, {"height", 90}, {"arc", 33}, {"lap", 30}}},
    {"pyramid", {}},
    {"pyramid", {{"sides", 5}}},
    {"lantern", {}},
    {"lantern", {{"strips", 3}, {"panels", 8}}},
    {"lantern", {{"panels", 3}, {"strips", 3}}},
};

TEST(APrint, ThatFacesAnotherPanelIsTold) {
    // Three walls of a channel: 10, 20 and 10 wide. What is printed within faces the wall across, or, in the middle, nobody.
    const auto inside = [](bool isTowards, Point middle, design::Side side) {
        Card card = folder(90, isTowards);
        design::Body body = *card.body;
        body.faces.push_back({.kind = design::Face::Kind::Text,
                              .place = {4, 0, 0, 2, middle.x - 2, middle.y - 1},
                              .side = side});
        card.body = std::make_shared<const design::Body>(std::move(body));
        const Model made = modelOf({card}, {}).take();
        return printsInside(made, posed(made, 1));
    };
    using design::Side;
    const auto left = inside(true, {5, 15}, Side::Front);
    ASSERT_EQ(left.size(), 1u);
    EXPECT_NEAR(left[0].awayMm, 20, 0.1) << "the channel is as wide as its middle";
    EXPECT_EQ(left[0].sentence(), "the text on the folder faces another panel of it, " + base::formatLength(left[0].awayMm, base::LengthUnit::Millimetre) +
                                      " off, once all is folded");
    EXPECT_EQ(inside(true, {35, 15}, Side::Front).size(), 1u);
    EXPECT_TRUE(inside(true, {20, 15}, Side::Front).empty()) << "the channel is open above";
    EXPECT_TRUE(inside(true, {5, 15}, Side::Back).empty());
    EXPECT_TRUE(inside(false, {5, 15}, Side::Front).empty()) << "folded away, the fronts look outwards";
    EXPECT_EQ(inside(false, {5, 15}, Side::Back).size(), 1u);
}

TEST(Constructions, CloseWithoutThicknessAndWithIt) {
    for (const Closed& row : kClosed)
        for (const double t : {0.0, 0.3, 0.8}) {
            SCOPED_TRACE(std::string(row.name) + " of " + std::to_string(t));
            const Model made = model(support::given(row.name, row.said, t));
            const Posed done = posed(made, 1);
            const auto closings = closingsOf(made, done);
            ASSERT_FALSE(closings.empty());
            for (const Closing& one : closings)
                EXPECT_LE(one.gapMm, t == 0 ? 0.05 : kMostGapMm) << one.name;
            for (const bool isPlaced : made.isPlaced)
                EXPECT_TRUE(isPlaced);
            const auto clashes = clashesOf(made, done);
            ASSERT_TRUE(clashes);
            for (const Clash& clash : *clashes)
                ADD_FAILURE() << clash.a << " through " << clash.b << " at " << clash.place.x << ", "
                              << clash.place.y << ", " << clash.place.z;
        }
}

// The divergence theorem over the panels against width x depth x height.
TEST(Boxes, HoldWhatTheirMeasuresSay) {
    const auto carton = model(support::given(
        "carton", {{"width", 60}, {"depth", 30}, {"height", 90}, {"room", 0}, {"lap", 4}, {"tuck", 4}}, 0));
    // Its laps and flaps lie on walls, in pairs of faces: they count twice. Only the ring and its two lids bound it.
    Model walls = carton;
    std::vector<size_t> keep;
    for (const Point p :
         {Point{30, 45}, Point{75, 45}, Point{120, 45}, Point{165, 45}, Point{120, -15}, Point{120, 105}})
        keep.push_back(walls.sheets[0].leafAt(p));
    for (size_t i = 0; i < walls.sheets[0].leaves.size(); ++i)
        if (std::find(keep.begin(), keep.end(), i) == keep.end())
            walls.sheets[0].leaves[i].triangles.triangles.clear();
    const double shortBy =
        2 * 0.5 * 30.0 * 90; // the lids are half a millimetre narrower at both sides, and let light through
    EXPECT_NEAR(volumeOf(walls, posed(walls, 1)), 60 * 30 * 90, shortBy);
    // A straight cup of four walls and its mirror image is a closed box: the bottom's share is none where the origin lies in it.
    const auto cup = model(
        support::given("cup", {{"sides", 4}, {"bottom", 50}, {"top", 50}, {"height", 80}, {"lap", 3}}, 0));
    Model open = cup;
    const Posed stands = posed(open, 1);
    double walls4 = 0;
    for (size_t i = 0; i < open.sheets[0].leaves.size(); ++i) {
        const bool isLap = geometry::area(open.sheets[0].leaves[i].area) < 3 * 80;
        if (isLap)
            open.sheets[0].leaves[i].triangles.triangles.clear();
        walls4 += isLap ? 0 : geometry::area(open.sheets[0].leaves[i].area);
    }
    EXPECT_NEAR(walls4, 4 * 50 * 80 + 50 * 50, 1e-6);
    // Walls and bottom of a box about an origin in its bottom: the walls give 2/3 of the volume, the open top the rest.
    EXPECT_NEAR(volumeOf(open, stands), 50.0 * 50 * 80 * 2 / 3, 1e-6);
}

/// What the leaves at these places enclose, all others left out.
double volumeWithin(Model made, const std::vector<Point>& places) {
    for (size_t sheet = 0; sheet < made.sheets.size(); ++sheet) {
        std::vector<size_t> keep;
        if (sheet == 0)
            for (const Point p : places)
                keep.push_back(made.sheets[0].leafAt(p));
        for (size_t i = 0; i < made.sheets[sheet].leaves.size(); ++i)
            if (std::find(keep.begin(), keep.end(), i) == keep.end())
                made.sheets[sheet].leaves[i].triangles.triangles.clear();
    }
    return volumeOf(made, posed(made, 1));
}

// The divergence theorem about the origin: faces in whose plane it lies give nothing, each of the others a third. It lies in
// the tray's bottom, whose top is open, so a third lacks; of the pouch it lies in the plane of the open top, so none does.
TEST(Trays, HoldWhatTheirMeasuresSay) {
    const Model tray = model(support::given(
        "lid-box", {{"width", 90}, {"depth", 60}, {"height", 40}, {"lap", 5}, {"room", 0}}, 0));
    EXPECT_NEAR(volumeWithin(tray, {{45, 30}, {45, -20}, {45, 80}, {-20, 30}, {110, 30}}),
                90.0 * 60 * 40 * 2 / 3, 1e-6);
    const Model pouch = model(support::given(
        "pouch", {{"width", 70}, {"depth", 12}, {"height", 90}, {"lap", 5}, {"room", 0}, {"notch", 0}}, 0));
    EXPECT_NEAR(volumeWithin(pouch, {{35, 45}, {35, 96}, {35, 147}, {-6, 45}, {76, 45}}), 70.0 * 12 * 90,
                1e-6);
}

// A pillow box against the sum over its facets: over a facet that rises from a to b on dx of its way across, the box is 2 y thick
// and, since its ends recede by as much as it rises, h - 2 y long.
TEST(APillow, HoldsWhatItsArcsSay) {
    constexpr int kFacets = 24;
    constexpr double kWide = 80, kHigh = 120, kRise = 15, kRadius = (kWide * kWide / 4 + kRise * kRise) / (2 * kRise);
    const Model made = model(support::given("pillow-box", {{"width", kWide}, {"height", kHigh}, {"arc", kRise}, {"lap", 10}}, 0));
    EXPECT_TRUE(made.sheets[0].said.empty()) << "nothing stays flat";
    double wanted = 0;
    std::vector<Point> places;
    const auto rises = [](double u) { return std::sqrt(kRadius * kRadius - (u - kWide / 2) * (u - kWide / 2)) - (kRadius - kRise); };
    for (int i = 0; i < kFacets; ++i) {
        const double from = kWide * i / kFacets, to = kWide * (i + 1) / kFacets, a = rises(from), b = rises(to),
                     across = std::sqrt((to - from) * (to - from) - (b - a) * (b - a)), middle = (from + to) / 2;
        wanted += 2 * across * (kHigh * (a + b) / 2 - 2 * (a * a + a * b + b * b) / 3);
        // Of each facet the front, the back, and the front's two flaps; the back's lie on those.
        for (const double y : {kRise + kHigh / 2, kRise, kRise + kHigh})
            places.emplace_back(Point{middle, y});
        places.emplace_back(Point{kWide + middle, kRise + kHigh / 2});
    }
    EXPECT_NEAR(volumeWithin(made, places), wanted, 3e-4 * wanted) << "the flaps end in arcs, not in chords";
    // What arcs of more than 45 degrees leave open is said, and nothing is shown that does not close.
    const auto steep = construct::built(support::given("pillow-box", {{"arc", 20}}, 0.3));
    ASSERT_TRUE(steep);
    ASSERT_EQ(steep->said.size(), 1u);
    EXPECT_NE(steep->said[0].find("14.5 mm, 0.21 of the width"), std::string::npos) << steep->said[0];
    EXPECT_TRUE(steep->form.isEmpty());
}

TEST(Constructions, CloseForAnyMeasures) {
    std::mt19937 random(7);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<>(least, most)(random);
    };
    int made = 0;
    for (const char* name : {"round-box", "lid-box", "carton", "sleeve", "cup", "pyramid", "lantern",
                             "box-nest", "pouch", "pillow-box", "easel-back", "cross-stand", "envelope", "card"})
        for (int round = 0; round < 200; ++round) {
            const double t = round % 4 == 0 ? 0 : between(0.1, 0.8);
            Given given{name, {}, "", t};
            for (const construct::Measure& measure : construct::constructionNamed(name)->measures) {
                const base::Parameter& p = measure.parameter;
                if (p.quantity == base::Quantity::Choice)
                    given.values.push_back(0);
                else if (p.quantity == base::Quantity::Count)
                    given.values.push_back(
                        std::round(between(std::max(p.least, 3.0), std::min(p.most, 9.0))));
                else
                    given.values.push_back(std::clamp(p.usual * between(0.6, 1.7), p.least, p.most));
                if (std::string(p.name) == "strips")
                    given.values.back() = std::round(between(1, 3));
                if (std::string(p.name) == "rim" && std::string(name) == "lid-box")
                    given.values.back() = 0;
            }
            const auto built = construct::built(given);
            if (!built)
                continue;
            ++made;
            const Model folded = support::folded(*built, t);
            for (const Closing& one : closingsOf(folded, posed(folded, 1))) {
                ASSERT_LE(one.gapMm, t == 0 ? 0.05 : kMostGapMm)
                    << name << ", " << one.name << ", card of " << t;
            }
        }
    EXPECT_GT(made, 1500);
}

TEST(AWrongFold, IsFoundOut) {
    // A sleeve of which one wall is a millimetre too wide does not close.
    auto built = construct::built(support::given("sleeve", {}, 0.3));
    ASSERT_TRUE(built);
    construct::Built wrong = built.take();
    for (design::PieceLine& line : wrong.parts[0].body.lines)
        if (line.path.start.x > 60 && line.path.start.x < 70)
            line.path = geometry::transformed(line.path, geometry::Transform::move({1, 0}));
    const Model made = support::folded(wrong, 0.3);
    const auto closings = closingsOf(made, posed(made, 1));
    ASSERT_FALSE(closings.empty());
    EXPECT_GT(closings.front().gapMm, 1);
    // A folder whose two flaps are folded by 150 degrees passes its flaps through one another.
    Card card = folder(150, false);
    auto body = std::make_shared<design::Body>(*card.body);
    body->shape = support::rectangle(-25, 0, 90, 30);
    card.body = body;
    auto crossed = modelOf({card}, {});
    ASSERT_TRUE(crossed);
    const auto clashes = clashesOf(*crossed, posed(*crossed, 1));
    ASSERT_TRUE(clashes);
    EXPECT_EQ(clashes->size(), 1u);
}

/// The naive referee: for every pixel's middle, every leaf is asked.
TEST(ThePicture, HasTheSilhouetteOfANaiveReferee) {
    const Model made = model(support::given("cup", {}, 0.3)); // no panel of it is seen from its edge
    View view;
    view.widthPx = 160;
    view.heightPx = 120;
    for (const double done : {0.0, 0.5, 1.0}) {
        const Posed pose = posed(made, done);
        const raster::Picture picture = drawn(made, pose, view);
        ASSERT_EQ(picture.width, 160);
        const Seen seen = seenBy(made, pose, view);
        // By the naive way: how many of the four points that make up a pixel see card.
        const auto hitsAt = [&](int x, int y) {
            int hits = 0;
            for (const double dy : {0.25, 0.75})
                for (const double dx : {0.25, 0.75}) {
                    bool isHit = false;
                    for (size_t i = 0; i < made.sheets.size() && !isHit; ++i)
                        for (size_t leaf = 0; leaf < made.sheets[i].leaves.size() && !isHit; ++leaf) {
                            // The ray in the leaf's own directions, where it meets it.
                            const Stand& stand = pose.leaves[i][leaf];
                            const double own = (x + dx - seen.left) / seen.pxPerMm,
                                         down = (y + dy - seen.top) / seen.pxPerMm;
                            const Vec out = seen.turned.turned(stand.out);
                            const Vec at = seen.turned.turned(stand.at({0, 0}));
                            if (std::abs(out.z) < 1e-6)
                                continue;
                            const double z = at.z - ((own - at.x) * out.x + (down - at.y) * out.y) / out.z;
                            const Vec back{own - at.x, down - at.y, z - at.z};
                            const Vec right = seen.turned.turned(stand.right),
                                      below = seen.turned.turned(stand.down);
                            isHit = geometry::contains(made.sheets[i].leaves[leaf].rings,
                                                       {dot(back, right), dot(back, below)});
                        }
                    hits += isHit;
                }
            return hits;
        };
        std::vector<int> hits;
        for (int y = 0; y < view.heightPx; ++y)
            for (int x = 0; x < view.widthPx; ++x)
                hits.push_back(hitsAt(x, y));
        int covered = 0;
        for (int y = 1; y + 1 < view.heightPx; ++y)
            for (int x = 1; x + 1 < view.widthPx; ++x) {
                int around = 0;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx)
                        around += hits[static_cast<size_t>((y + dy) * view.widthPx + x + dx)];
                const std::uint8_t* pixel = picture.row(y) + static_cast<size_t>(x) * 3;
                const bool isGround =
                    pixel[0] == view.ground[0] && pixel[1] == view.ground[1] && pixel[2] == view.ground[2];
                covered += around == 36;
                if (around == 36) {
                    EXPECT_FALSE(isGround) << x << ", " << y;
                }
                if (around == 0) {
                    EXPECT_TRUE(isGround) << x << ", " << y;
                }
            }
        EXPECT_GT(covered, 800);
    }
}

TEST(Folding, ClosesTheRingOfACartonBeforeItsFlapsAndTheseBeforeItsLids) {
    const Model made = model(support::given("carton", {}, 0.3));
    const Sheet& sheet = made.sheets[0];
    const auto stageOf = [&](Point p) {
        const size_t leaf = sheet.leafAt(p);
        for (const Hinge& hinge : sheet.hinges)
            if (hinge.child == leaf)
                return hinge.stage;
        return -1;
    };
    // Wide 60.8, deep 30.8: side, back, side, lap; a dust flap; the lid and its tuck.
    const int side = stageOf({75, 45}), dust = stageOf({75, -15}), lid = stageOf({120, -15}),
              tuck = stageOf({120, -38});
    EXPECT_LT(side, dust);
    EXPECT_LT(dust, tuck);
    EXPECT_LT(tuck, lid);
    EXPECT_LT(lid, made.stages);
    for (const std::vector<Stand>& leaves : posed(made, 0.5).leaves)
        for (const Stand& stand : leaves)
            EXPECT_NEAR(length(stand.out), 1, 1e-9);
    EXPECT_NEAR(dot(posed(made, 0).leaves[0][0].out, Vec{0, 0, 1}), 1, 1e-9);
}

} // namespace
} // namespace thinline::folding
