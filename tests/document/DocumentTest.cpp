// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Catalogue.h"
#include "document/History.h"
#include "document/Job.h"
#include "document/JobFile.h"
#include "formats/image/ImageFile.h"
#include "support/Drawings.h"
#include "support/Jobs.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::document {
namespace {

using support::must;

TEST(Catalogue, ShippedSizesAreThoseOfTheStandards) {
    const design::Formats& f = shippedCatalogue().formats;
    // ISO 216: A4 is 210 x 297 mm. ANSI/ASME Y14.1: size A is 8.5 x 11 in. 12-inch mats: common practice.
    EXPECT_DOUBLE_EQ(f.sheet("a4")->widthMm, 210);
    EXPECT_DOUBLE_EQ(f.sheet("a4")->heightMm, 297);
    EXPECT_DOUBLE_EQ(f.sheet("letter")->widthMm, 215.9);
    EXPECT_DOUBLE_EQ(f.sheet("letter")->heightMm, 279.4);
    EXPECT_NEAR(f.mat("square12")->usableWidthMm(), 292.1, 1e-9);
    EXPECT_NEAR(f.mat("long24")->usableHeightMm(), 596.9, 1e-9);
    for (const auto& sheet : f.sheets)
        EXPECT_GT(sheet.marginMm, 0) << sheet.id;
}

// Of stacked layers the lower piece has the tuck: change their order, and the other one has it.
TEST(Steps, TheTuckFollowsTheOrderOfTheLayers) {
    const auto file = formats::image::encodePng(support::Drawing(240, 200)
                                                    .fill(support::disc({120, 100}, 80), {200, 71, 43})
                                                    .fill(support::disc({120, 100}, 40), {242, 234, 216})
                                                    .picture());
    auto opened = must(openPicture(newJob(shippedCatalogue()), file, "sun.png"));
    opened.job.pictureWidthMm = 30; // 8 px per mm
    trace::Recipe recipe;
    recipe.mode = trace::Mode::FlatArt;
    recipe.stacking = trace::Stacking::Stacked;
    const Job job = must(traced(opened.job, *opened.picture, recipe, shippedCatalogue()));
    ASSERT_EQ(job.stack->layers.size(), 2u);
    const auto areaOf = [](const Job& of, design::PieceId id) {
        return geometry::area(*design::findPiece(*of.stack, id)->shape);
    };
    const design::PieceId sun = job.stack->layers[0].pieces[0].id, middle = job.stack->layers[1].pieces[0].id;
    const Job turned = withLayerMoved(job, 0, 1);
    EXPECT_EQ(turned.stack->layers[0].pieces[0].id, middle);
    EXPECT_LT(areaOf(turned, sun), areaOf(job, sun) - 5);
    EXPECT_GT(areaOf(turned, middle), areaOf(job, middle) + 5);
}

TEST(Catalogue, BadDataIsRefusedNamingTheEntry) {
    const char* drawer =
        R"({"backing":"n","plain":"n","stocks":[{"id":"n","name":"n","colour":"#000000","thickness":0.3,"grams":200}]})";
    const std::pair<const char*, const char*> rows[] = {
        {"{", "cannot be read"},
        {R"({"mats":[{"id":"m","name":"m","width":"wide","height":"1 in","margin":"1 mm"}],"sheets":[],"defaultMat":"m","defaultSheet":"s"})",
         "'wide'"},
        {R"({"mats":[{"id":"m","name":"m","width":"9 in","height":"9 in","margin":"1 mm"},{"id":"m","name":"m","width":"9 in","height":"9 in","margin":"1 mm"}],"sheets":[],"defaultMat":"m","defaultSheet":"s"})",
         "twice"},
        {R"({"mats":[],"sheets":[],"defaultMat":"m","defaultSheet":"s"})", "default"},
    };
    for (const auto& [formats, says] : rows) {
        const auto out = readCatalogue(formats, drawer);
        ASSERT_FALSE(out) << formats;
        EXPECT_NE(out.error().message.find(says), std::string::npos) << out.error().message;
    }
    EXPECT_FALSE(readColour("#12345"));
    EXPECT_FALSE(readColour("#12345g"));
    EXPECT_EQ(*readColour("#0a10ff"), (raster::Rgb{10, 16, 255}));
}

TEST(OpenPicture, TakesTheStatedSizeOrSaysThatItGuessed) {
    const Job blank = newJob(shippedCatalogue());
    const auto stated = must(openPicture(blank, support::shedPng(), "shed.png"));
    EXPECT_NEAR(stated.job.pictureWidthMm, 709 / 300.0 * 25.4, 0.01);
    EXPECT_TRUE(stated.note.empty());
    EXPECT_EQ(stated.job.name, "shed");
    const auto silent =
        must(openPicture(blank, formats::image::encodePng(support::shedPicture()), "shed.png"));
    EXPECT_DOUBLE_EQ(silent.job.pictureWidthMm, 200);
    EXPECT_NE(silent.note.find("does not state"), std::string::npos);
    const auto absurd =
        must(openPicture(blank, formats::image::encodePng(support::shedPicture(), 2.0), "shed.png"));
    EXPECT_DOUBLE_EQ(absurd.job.pictureWidthMm, 200);
    EXPECT_NE(absurd.note.find("cannot be meant"), std::string::npos);
    const auto refused = openPicture(blank, {1, 2, 3}, "notes.txt");
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().message.rfind("notes.txt: ", 0), 0u);
}

TEST(Steps, PaintOrderLiftAndStockBuildTheStackAnew) {
    Job job = support::tracedShed();
    ASSERT_EQ(job.tracing->areas.size(), 3u);
    EXPECT_EQ(job.stack->layers.size(), 2u); // backing and plain
    job = painted(job, {1, 2}, "sea");
    ASSERT_EQ(job.stack->layers.size(), 3u);
    EXPECT_EQ(job.stack->layers[2].stockId, "sea");
    EXPECT_EQ(job.stack->layers[2].pieces.size(), 2u);
    job = withLayerMoved(job, 2, 1);
    EXPECT_EQ(job.stack->layers[1].stockId, "sea");
    job = withLayerLift(job, 1, 2.5);
    EXPECT_DOUBLE_EQ(job.stack->layers[1].liftMm, 2.5);
    job = withLayerHidden(job, 1, true);
    EXPECT_TRUE(job.stack->layers[1].isHidden);
    job = withLayerStock(job, 1, "cream"); // joins the plain layer
    EXPECT_EQ(job.stack->layers.size(), 2u);
    EXPECT_EQ(job.paint.at(1), "cream");
    job = withLayerStock(job, 0, "rust");
    EXPECT_EQ(job.stack->layers[0].stockId, "rust");
    EXPECT_EQ(job.stack->layers[0].role, design::LayerRole::Backing);
    EXPECT_EQ(painted(job, {1}, "no such stock").paint, job.paint);
}

TEST(Steps, SizesAreExactAndScaleEverythingTogether) {
    const Job job = support::tracedShed();
    const Job sized = must(resized(job, 240, 180));
    EXPECT_NEAR(designBox(sized).width(), 240, 1e-9);
    EXPECT_NEAR(designBox(sized).height(), 180, 1e-9);
    const double ratio = geometry::bounds(*sized.shapes->areas[0].shape).width() /
                         geometry::bounds(*job.shapes->areas[0].shape).width();
    EXPECT_NEAR(ratio, 240 / designBox(job).width(), 1e-9);
    EXPECT_NEAR(designBox(must(scaled(sized, 0.5))).width(), 120, 1e-9);
    EXPECT_EQ(resized(job, 2001, 10).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(resized(job, -1, 10).error().code, base::Code::InvalidArgument);
    EXPECT_FALSE(resized(newJob(shippedCatalogue()), 10, 10));
    const Job wider = must(withPictureWidth(sized, sized.pictureWidthMm * 2));
    EXPECT_NEAR(designBox(wider).width(), 480, 1e-6);
}

TEST(Steps, RoomBetweenPiecesIsInFinalMillimetres) {
    const Job sized = must(resized(support::tracedShed(), 250, 170));
    const Job roomy = must(withClearance(sized, 1));
    EXPECT_NEAR(geometry::bounds(*roomy.shapes->areas[0].shape).width(),
                geometry::bounds(*sized.shapes->areas[0].shape).width() - 2, 0.02);
    EXPECT_FALSE(withClearance(sized, -1));
    EXPECT_FALSE(withClearance(sized, 11));
}

TEST(Steps, CopiesArrangementAndPinsHangTogether) {
    const auto& formats = shippedCatalogue().formats;
    Job job = must(withCopies(support::tracedShed(), 3, 4));
    job = must(arranged(job, formats));
    EXPECT_EQ(sheets::measure(*job.arrangement, *job.stack).pieces, 1 + 2 + 4);
    EXPECT_FALSE(withCopies(job, 3, 0));
    EXPECT_FALSE(withCopies(job, 77, 2));
    const auto stockOfLoad = [&](size_t i) { return job.arrangement->loads[i].sheets[0].stockId; };
    ASSERT_EQ(job.arrangement->loads.size(), 2u);
    EXPECT_EQ(stockOfLoad(0), "night");
    const Job pinned = must(pinnedAt(job, {{3, 1}, 150, 160}, 1, formats));
    ASSERT_EQ(pinned.plan.pins.size(), 1u);
    int found = 0;
    for (const auto& piece : pinned.arrangement->loads[1].sheets[0].pieces)
        if (piece.isPinned) {
            ++found;
            EXPECT_NEAR(piece.xMm, 150, 1e-9);
            EXPECT_NEAR(piece.yMm, 160, 1e-9);
        }
    EXPECT_EQ(found, 1);
    EXPECT_FALSE(pinnedAt(job, {{3, 1}, 10, 10}, 0, formats)) << "the backing's load holds no such stock";
    EXPECT_TRUE(must(unpinned(pinned, {3, 1}, formats)).plan.pins.empty());
    SheetPlan plan = pinned.plan;
    plan.sheetId = "a4";
    EXPECT_TRUE(withPlan(pinned, plan).plan.pins.empty()) << "pins belong to their sheets";
    plan.matId = "no such mat";
    EXPECT_EQ(arranged(withPlan(job, plan), formats).error().code, base::Code::NotFound);
}

TEST(Steps, TracingAgainKeepsPaintWhereTheAreaIsTheSame) {
    Job job = painted(support::tracedShed(true), {1}, "rust");
    const auto picture = must(pictureOf(job));
    trace::Recipe recipe = job.recipe;
    recipe.closings.push_back({{535, 248}, {535, 272}, 9});
    const Job closed = must(traced(job, *picture, recipe, shippedCatalogue()));
    EXPECT_EQ(closed.tracing->areas.size(), job.tracing->areas.size() + 1);
    EXPECT_EQ(closed.paint.at(1), "rust");
    EXPECT_TRUE(closed.tracing->leaks.empty());
}

TEST(History, UndoIsUnlimitedAndANewStepForgetsWhatWasUndone) {
    History history(newJob(shippedCatalogue()));
    for (int i = 1; i <= 500; ++i) {
        Job job = history.now();
        job.name = std::to_string(i);
        history.push(std::move(job), "step " + std::to_string(i));
    }
    EXPECT_EQ(history.undoName(), "step 500");
    for (int i = 0; i < 500; ++i)
        history.undo();
    EXPECT_FALSE(history.canUndo());
    EXPECT_EQ(history.now().name, "New job");
    history.undo(); // harmless
    history.redo();
    EXPECT_EQ(history.now().name, "1");
    EXPECT_EQ(history.redoName(), "step 2");
    Job other = history.now();
    other.name = "other";
    history.push(other, "another way");
    EXPECT_FALSE(history.canRedo());
    Job amended = history.now();
    amended.name = "amended";
    history.amend(amended);
    EXPECT_EQ(history.now().name, "amended");
    history.undo();
    EXPECT_EQ(history.now().name, "1");
}

TEST(ShapeSteps, AreReplayedOnWhateverLiesBelow) {
    const Job shed = support::tracedShed();
    const Job joined = must(withShapeStep(shed, {shape::Action::SetAside, {3}}));
    EXPECT_EQ(design::findPiece(*joined.stack, 3), nullptr);
    EXPECT_EQ(joined.shaped->scrap.size(), 1u);
    const Job grown = must(withShapeStep(joined, {shape::Action::Offset, {-1}, {3}}));
    EXPECT_NEAR(designBox(grown).width(), designBox(shed).width() + 6, 1e-3);
    // An exact size is exact although the margin does not scale along.
    const Job sized = must(resized(grown, 150, 120));
    EXPECT_NEAR(designBox(sized).width(), 150, 1e-6);
    EXPECT_NEAR(designBox(sized).height(), 120, 1e-6);
    EXPECT_EQ(sized.shaped->scrap.size(), 1u);
    // A step opened again: the margin is 1 mm now, the other step stays.
    std::vector<shape::Step> steps = grown.shapeSteps;
    steps[1].values = {1};
    const Job changed = must(withShapeSteps(grown, steps));
    EXPECT_NEAR(designBox(changed).width(), designBox(shed).width() + 2, 1e-3);
    EXPECT_TRUE(must(withShapeSteps(changed, {})).shaped->scrap.empty());
}

TEST(ShapeSteps, MadePiecesArePaintedLikeAnyOther) {
    Job job = support::tracedShed();
    job = must(withShapeStep(job, {shape::Action::MirrorTwin, {2}, {5}}));
    const design::PieceId twin = shape::kFirstMade;
    ASSERT_NE(design::findPiece(*job.stack, twin), nullptr);
    EXPECT_EQ(job.paint.at(twin), job.paint.at(2));
    EXPECT_EQ(design::pieceName(*job.stack, twin).rfind("piece 1 (", 0), 0u);
    const Job blue = painted(job, {twin}, "sea");
    EXPECT_NE(blue.paint.at(twin), blue.paint.at(2));
    const Job traced = must(document::traced(blue, **pictureOf(blue), blue.recipe, shippedCatalogue()));
    EXPECT_EQ(traced.paint.at(twin), "sea") << "tracing again keeps what was laid on made pieces";
    EXPECT_EQ(must(withCopies(blue, twin, 4)).stack->layers.back().pieces.back().copies, 4);
}

TEST(ShapeSteps, AStepWhosePiecesAreGoneIsToldNotLost) {
    Job job = must(withShapeStep(support::tracedShed(), {shape::Action::SetAside, {2, 3}}));
    job.shapeSteps.insert(job.shapeSteps.begin() + 1, {shape::Action::Join, {2, 3}});
    const Job replayed = must(withShapeSteps(job, job.shapeSteps));
    ASSERT_EQ(replayed.passedOver.size(), 1u);
    EXPECT_EQ(replayed.shapeSteps.size(), 2u);
}

} // namespace
} // namespace thinline::document
