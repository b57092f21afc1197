// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SourceSteps.h"

#include "job/Sizing.h"
#include "job/TraceSteps.h"
#include "support/Jobs.h"
#include "support/Pages.h"
#include "trace/Erase.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::job {
namespace {

using support::boxOf;
using support::id;
using support::made;
using support::must;
using support::word;

const support::MemoryFontStore kFonts = support::shippedFonts();

const std::string kPlate =
    "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 200 100'>"
    "<g id='plates'><path fill='#3c7d8c' d='M10 10h40v40h-40z M100 10h40v40h-40z'/></g>"
    "<g id='dots'><rect x='20' y='20' width='10' height='10' fill='#123456'/></g></svg>";

const support::PagesInPlace kPages;
State taken(const State& state, const design::TakeOptions& take) {
    return made(withDrawingTaken(state.job, SourceId{1}, take, shippedCatalogue(), kFonts, &kPages),
                state.made);
}

TEST(Drawing, IsTakenInPartAndTheRestCanBeTakenLater) {
    const State plate = made(support::openedDrawing(kPlate).job);
    design::TakeOptions some;
    some.leftOut = {"plates"};
    const State dots = taken(plate, some);
    ASSERT_EQ(dots.made.work()->pieces.size(), 1u);
    EXPECT_EQ(dots.made.work()->pieces[0].id(), id("1:3")) << "it is who it was";
    EXPECT_EQ(taken(dots, {}).made.work()->pieces.size(), 3u);
    some.leftOut = {"plates", "dots"};
    EXPECT_FALSE(withDrawingTaken(plate.job, SourceId{1}, some, shippedCatalogue(), kFonts));
}

TEST(Drawing, AnotherPageOfAPdfIsTakenAndBeginsNewKeys) {
    // Two pages of 200 x 100 points: a bar, and two squares (ISO 32000-1; offsets are found again by the
    // reader).
    const std::string pdf =
        "%PDF-1.4\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n"
        "2 0 obj\n<< /Type /Pages /Kids [3 0 R 5 0 R] /Count 2 >>\nendobj\n"
        "3 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << >> /Contents 4 0 R "
        ">>\nendobj\n"
        "4 0 obj\n<< /Length 26 >>\nstream\n0 0 1 rg 20 20 144 36 re f \nendstream\nendobj\n"
        "5 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << >> /Contents 6 0 R "
        ">>\nendobj\n"
        "6 0 obj\n<< /Length 38 >>\nstream\n0 g 10 10 36 36 re f 80 10 36 36 re f  \nendstream\nendobj\n"
        "trailer\n<< /Size 7 /Root 1 0 R >>\n%%EOF\n";
    const support::PagesInPlace pages;
    const Noted noted = support::openedDrawing(pdf, "pages.pdf", &pages);
    EXPECT_NE(noted.note.find("page 1 of 2 is taken"), std::string::npos) << noted.note;
    const State first = made(noted.job);
    ASSERT_EQ(first.made.work()->pieces.size(), 1u);
    EXPECT_NEAR(support::workBox(first).width(), 144 * 25.4 / 72, 1e-2);
    design::TakeOptions page;
    page.page = 1;
    const State second = taken(first, page);
    ASSERT_EQ(second.made.work()->pieces.size(), 2u);
    for (const design::Laid& laid : second.made.work()->pieces)
        EXPECT_NE(laid.id(), first.made.work()->pieces[0].id()) << "another page is other pieces";
    page.page = 2;
    EXPECT_FALSE(withDrawingTaken(first.job, SourceId{1}, page, shippedCatalogue(), kFonts, &pages));
}

TEST(Words, AWordIsAddedBesideRetypedAndWhatWasBuiltOnItIsBuiltAnew) {
    State state = support::withWord(support::rectangleJob(300, 20, "night"), word("QUAY"));
    EXPECT_EQ(state.made.work()->pieces.size(), 5u);
    EXPECT_EQ(design::pieceName(*state.made.work(), id("2:1.1")), "the Q of QUAY (sea)");
    EXPECT_NEAR(boxOf(state, id("2:1.1")).least.x, 310, 1e-3);
    // The whole word moved onto the bar and welded to it: kept as taking the word, not four letters.
    std::vector<design::PieceId> letters;
    for (const Found& one : *state.job.sources[1]->kept)
        letters.push_back(state.job.sources[1]->pieceId(one));
    state = support::after(state, shape::Action::Move, letters, {-300, 0});
    EXPECT_EQ(state.job.steps[0]->on, std::vector<design::Chosen>{design::EveryPieceOf{SourceId{2}}});
    std::vector<design::PieceId> both = letters;
    both.insert(both.begin(), id("1:1"));
    state = support::after(state, shape::Action::Join, both);
    ASSERT_EQ(state.made.work()->pieces.size(), 1u);
    const double before = geometry::area(state.made.work()->pieces[0].shape());
    const State longer = made(withWordChanged(state.job, SourceId{2}, word("QUAYSIDE"), kFonts), state.made);
    ASSERT_EQ(longer.made.work()->pieces.size(), 1u) << "the new letters are welded to the bar too";
    EXPECT_GT(geometry::area(longer.made.work()->pieces[0].shape()), before);
    EXPECT_TRUE(passedOver(longer.made).empty());
}

TEST(Words, LettersThatStayKeepWhatWasSaidAboutThem) {
    State state = support::withWord(support::emptyState(), word("QUAY"));
    state.job = painted(state.job, {id("1:3.1")}, "rust"); // the A
    const State retyped = made(withWordChanged(state.job, SourceId{1}, word("AT QUAYS"), kFonts), state.made);
    for (const design::Laid& laid : retyped.made.work()->pieces)
        EXPECT_EQ(retyped.made.work()->layerOf(laid).stockId, laid.piece.id == id("1:3.1") ? "rust" : "sea");
    EXPECT_EQ(support::laid(retyped, id("1:3.1")).piece.name, "the A of AT QUAYS");
    const State back = made(withWordChanged(retyped.job, SourceId{1}, word("QUY"), kFonts), retyped.made);
    EXPECT_EQ(back.made.work()->find(id("1:3.1")), nullptr);
    EXPECT_EQ(back.made.finished->strayWishes, 1) << "kept, and told";
}

TEST(Sources, AGroupIsTheWordOrTheLayerAPieceCameWith) {
    const State state = support::withWord(made(support::openedDrawing(kPlate).job), word("HI"));
    EXPECT_EQ(groupOf(state, id("1:1")), (std::vector<design::PieceId>{id("1:1"), id("1:2")}));
    EXPECT_EQ(groupOf(state, id("1:3")), std::vector<design::PieceId>{id("1:3")});
    EXPECT_EQ(groupOf(state, id("2:1.1")), (std::vector<design::PieceId>{id("2:1.1"), id("2:2.1")}));
    const State less = support::after(state, shape::Action::SetAside, {id("1:2")});
    EXPECT_EQ(groupOf(less, id("1:1")), std::vector<design::PieceId>{id("1:1")});
    EXPECT_EQ(groupOf(state, id("7:7")), std::vector<design::PieceId>{id("7:7")});
}

TEST(Words, TheBaselineStaysWhenAWordIsRetyped) {
    State state = support::withWord(support::emptyState(), word("HHH"));
    state = made(withSourceAt(state.job, SourceId{1}, {50, 80}), state.made);
    EXPECT_NEAR(support::workBox(state).most.y, 80, 1e-3);
    EXPECT_NEAR(support::workBox(state).least.x, 50, 1e-3);
    state = made(withWordChanged(state.job, SourceId{1}, word("gHH"), kFonts), state.made);
    const auto& kept = *state.job.sources[0]->kept;
    EXPECT_NEAR(boxOf(state, state.job.sources[0]->pieceId(kept[1])).most.y, 80, 1e-3);
}

TEST(Words, AMissingTypefaceIsTold) {
    lettering::Recipe recipe = word("HI");
    recipe.font = {"Nowhere Grotesk", "Bold"};
    const Noted noted = must(withWord(support::emptyState(), recipe, "sea", kFonts));
    EXPECT_EQ(
        noted.note,
        "the typeface Nowhere Grotesk Bold is not installed; League Spartan ExtraBold was taken instead");
    EXPECT_EQ(noted.job.sources[0]->said, noted.note);
    EXPECT_EQ(std::get<Word>(noted.job.sources[0]->what).recipe, recipe) << "what was wanted is kept";
}

TEST(Sources, AreTakenOutAndTheirNumbersNeverGivenAgain) {
    State state =
        support::withFigure(support::rectangleJob(100, 40), construct::Figure::Ellipse, {40, 40}, "rust");
    EXPECT_NEAR(support::workBox(state).width(), 150, 1e-9);
    const State less = made(withoutSource(state.job, SourceId{1}), state.made);
    EXPECT_EQ(less.made.work()->pieces.size(), 1u);
    EXPECT_EQ(must(withFigure(less, {}, "sea")).job.sources.back()->id, SourceId{3});
    EXPECT_EQ(made(withoutSource(less.job, SourceId{2}), less.made).made.work(), nullptr);
    EXPECT_FALSE(withoutSource(less.job, SourceId{1}));
}

TEST(Sources, StandBesideATracedPicture) {
    const State shed = support::tracedShed();
    const State state = support::withWord(shed, word("SHED", 10), "signal");
    EXPECT_EQ(state.made.work()->pieces.size(), shed.made.work()->pieces.size() + 4);
    EXPECT_EQ(support::laid(state, support::area(shed, 1)).piece.body,
              support::laid(shed, support::area(shed, 1)).piece.body);
}

TEST(Sources, AFigureChangedKeepsItsPlaceAndStock) {
    State state = support::withFigure(support::rectangleJob(50, 50), construct::Figure::Star, {}, "rust");
    state = made(withFigureChanged(state.job, SourceId{2}, {construct::Figure::Heart, {44, 40}}), state.made);
    EXPECT_NEAR(boxOf(state, id("2:1")).width(), 44, 1e-6);
    EXPECT_EQ(support::stockOf(state, id("2:1")), "rust");
    state.job = withSourceStock(state.job, SourceId{2}, "lamp");
    EXPECT_EQ(support::stockOf(made(state.job, state.made), id("2:1")), "lamp");
    EXPECT_FALSE(withFigureChanged(state.job, SourceId{2}, {construct::Figure::Ring, {20, 30}}))
        << "an opening larger than the ring";
}

TEST(Origins, AreKeptAndTheStrictestCounts) {
    State state = support::tracedShed();
    state.job = withOrigin(state.job, SourceId{1}, {"my own pen", Licence::Own});
    EXPECT_EQ(originsOf(state.job).strictest, Licence::Own);
    const base::Bytes plate(kPlate.begin(), kPlate.end());
    Job job =
        must(withDrawing(state, {plate, "plate.svg", recognise(plate)}, shippedCatalogue(), kFonts)).job;
    EXPECT_EQ(originsOf(job).strictest, Licence::Unknown);
    job = withOrigin(job, SourceId{2}, {"the harbour office", Licence::FreeForOwnUse});
    EXPECT_EQ(originsOf(job).strictest, Licence::FreeForOwnUse);
    EXPECT_EQ(originsOf(job).lines,
              (std::vector<std::string>{"shed.png, from my own pen: own work",
                                        "plate.svg, from the harbour office: free for own use"}));
    EXPECT_EQ(originsOf(support::withWord(support::emptyState(), word("A")).job).strictest, Licence::Own);
}

TEST(Sources, ExactDoublesAreTakenOnceAndTold) {
    const Noted noted = support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='40mm' viewBox='0 0 90 40'>"
        "<rect width='30' height='30' fill='#3c7d8c'/><rect width='30' height='30' fill='#3c7d8c'/>"
        "<rect width='30' height='30' fill='#c8452a'/><rect x='40' width='30' height='30' "
        "fill='#3c7d8c'/></svg>");
    EXPECT_EQ(made(noted.job).made.work()->pieces.size(), 3u) << "one of another colour is another piece";
    EXPECT_NE(noted.note.find("one outline lay exactly on another and was taken once"), std::string::npos)
        << noted.note;
}

TEST(Sources, APictureAgainAndInPartLandsInItsOwnPlace) {
    const State first = support::tracedShed();
    const SourceId source = first.job.sources[0]->id;
    Job job = must(withPictureAgain(first.job, source));
    const Source& again = *job.sources[1];
    EXPECT_EQ(again.map(), first.job.sources[0]->map());
    EXPECT_TRUE(again.kept->empty());
    trace::Recipe part = std::get<Picture>(again.what).recipe;
    part.erasures.push_back(erasureAt(again, trace::Erasure::Kind::Outside, {{-5, -5}, {30, 60}}));
    const State both =
        made(traced(job, *must(pixelsOf(job)), part, shippedCatalogue(), {}, again.id), first.made);
    const geometry::Box whole = both.job.sources[0]->box(), half = both.job.sources[1]->box();
    EXPECT_LT(half.most.x, 31);
    EXPECT_GE(half.least.x, whole.least.x - 0.5);
    EXPECT_EQ(both.job.sources[0], first.job.sources[0]) << "the first one is left alone";
    EXPECT_FALSE(withPictureAgain(first.job, SourceId{77}));
}

TEST(Sources, ATurnedSourceKeepsItsMiddleAndItsSize) {
    State state = support::rectangleJob(60, 30);
    const SourceId id = state.job.sources[0]->id;
    const geometry::Point middle = placeOfSource(*state.job.sources[0]).centre();
    state = made(withSourceTurned(state.job, id, std::numbers::pi / 6), state.made);
    const geometry::Box box = support::workBox(state);
    EXPECT_NEAR(box.width(), 60 * std::cos(std::numbers::pi / 6) + 30 * 0.5, 1e-9);
    EXPECT_NEAR(box.centre().x, middle.x, 1e-9);
    EXPECT_NEAR(geometry::area(state.made.work()->pieces[0].shape()), 1800, 1e-6);
    // Sized in proportion it stays turned; a stretch would shear it, which is refused in a sentence.
    const State larger = must(withWidth(state, box.width() * 2)).state;
    EXPECT_NEAR(geometry::area(larger.made.work()->pieces[0].shape()), 7200, 1e-2);
    const auto stretched = withSize(state, 200, 20);
    ASSERT_FALSE(stretched);
    EXPECT_NE(stretched.error().message.find("is turned; a stretch would bend"), std::string::npos);
    EXPECT_FALSE(withSourceTurned(state.job, id, std::nan("")));
}

// A box drawn level on a picture that lies askew takes out what lies in the box, not in that of its corners.
TEST(Sources, ABoxOnATurnedPictureIsThatBox) {
    State state = support::tracedShed();
    const SourceId id = state.job.sources[0]->id;
    state = made(withSourceTurned(state.job, id, std::numbers::pi / 4), state.made);
    const Source& turned = *state.job.sources[0];
    const geometry::Point middle = placeOfSource(turned).centre();
    const auto erasure = erasureAt(turned, trace::Erasure::Kind::Rectangle,
                                   {middle - geometry::Point{4, 4}, middle + geometry::Point{4, 4}});
    const auto before = must(pixelsOf(state.job));
    const raster::Picture after = trace::erased(*before, {erasure});
    int changed = 0;
    for (size_t i = 0; i < after.rgb.size(); i += 3)
        changed += after.rgb[i] != before->rgb[i] ? 1 : 0;
    EXPECT_LE(changed, 8 * 8 / (turned.unitMm * turned.unitMm) * 1.01) << "no more than the box";
    const geometry::Transform toPicture = geometry::inverse(turned.map());
    geometry::Polygon quad;
    for (const geometry::Point p : erasure.points)
        quad.push_back(p);
    ASSERT_EQ(quad.size(), 4u);
    EXPECT_TRUE(geometry::contains({quad}, toPicture(middle + geometry::Point{3.9, 3.9})));
    EXPECT_FALSE(geometry::contains({quad}, toPicture(middle + geometry::Point{4.1, 0})));
}

TEST(Sources, AWordGoesBesideAnUntracedPictureToo) {
    State state{support::opened(support::shedPng(), "shed.png").job, {}};
    state = made(state.job);
    const geometry::Box picture = placeOfSource(*state.job.sources[0]);
    state = support::withWord(state, support::word("QUAY"));
    EXPECT_GT(state.job.sources[1]->box().least.x, picture.most.x);
}

// Yellow, orange and gold are three because somebody meant them to be: none takes the card of another.
TEST(Drawings, TwoColoursShareNoStock) {
    const std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='20mm' viewBox='0 0 90 20'>"
        "<rect width='20' height='20' fill='yellow'/><rect x='30' width='20' height='20' fill='orange'/>"
        "<rect x='60' width='20' height='20' fill='gold'/><rect x='82' width='8' height='8' "
        "fill='gold'/></svg>";
    const base::Bytes bytes(svg.begin(), svg.end());
    const auto opened = openDrawing(newJob(shippedCatalogue()), {bytes, "sun.svg", recognise(bytes)},
                                    shippedCatalogue(), kFonts);
    ASSERT_TRUE(opened) << opened.error().message;
    const State state = made(opened->job);
    std::set<std::string> stocks;
    for (const design::Laid& laid : state.made.work()->pieces)
        stocks.insert(state.made.work()->layerOf(laid).stockId);
    EXPECT_EQ(stocks.size(), 3u);
    std::set<std::string> names;
    for (const std::string& id : stocks)
        names.insert(design::stockName(state.job.stocks, id));
    EXPECT_EQ(names.size(), 3u) << "and each can be told by its name";
}

TEST(DrawnOutlines, ABlackPenSaysNothingOfTheCard) {
    const auto stocksOf = [](const std::string& inside) {
        const State state = support::made(
            support::openedDrawing(
                "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 100 50'>" +
                inside + "</svg>")
                .job);
        std::vector<std::string> out;
        for (const design::Laid& laid : state.made.work()->pieces)
            out.push_back(support::stockOf(state, laid.id()));
        std::sort(out.begin(), out.end());
        return out;
    };
    const std::string plain = shippedCatalogue().plainStockId;
    const std::string pen = "<path d='M5 5H40V40H5Z' fill='none' stroke='#101010'/>";
    EXPECT_EQ(stocksOf(pen), std::vector{plain}) << "the outline of a template";
    EXPECT_NE(stocksOf("<path d='M5 5H40V40H5Z' fill='none' stroke='#c02020'/>"), std::vector{plain});
    EXPECT_NE(stocksOf("<path d='M5 5H40V40H5Z' fill='#101010'/>"), std::vector{plain})
        << "an area of black is meant so";
    const auto both = stocksOf(pen + "<path d='M50 5H90V40H50Z' fill='#ffffff'/>");
    ASSERT_EQ(both.size(), 2u);
    EXPECT_NE(both[0], both[1]) << "two colours of one drawing never share a stock";
}

} // namespace
} // namespace thinline::job
