// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/MatPhoto.h"

#include "formats/image/ImageFile.h"
#include "job/SheetSteps.h"
#include "sheets/Faults.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <fstream>

namespace thinline::job {
namespace {

using support::must;

raster::Picture demoPhoto() {
    std::ifstream file(std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-mat.jpg", std::ios::binary);
    const base::Bytes bytes{std::istreambuf_iterator<char>(file), std::istreambuf_iterator<char>()};
    return must(formats::image::decode(bytes)).picture;
}

TEST(MatPhoto, PiecesLieOnTheScrapsOfTheDemoWhereTheyWereFound) {
    State state = support::rectangleJob(60, 40, "lamp");
    state.job.plan.matId = "square12";
    const raster::Picture photo = demoPhoto();
    OnMat found = must(foundOnMat(state, photo, shippedCatalogue().formats));
    ASSERT_EQ(found.look.scraps.size(), 5u);
    EXPECT_EQ(found.stocks, (std::vector<std::string>{"cream", "rust", "sea", "lamp", "signal"}));
    state = support::arranged(
        {must(withScrapsOnMat(state.job, found, {"", "", "", "lamp", ""}, "mat.jpg")), state.made});
    ASSERT_EQ(state.job.plan.scraps.size(), 1u);
    ASSERT_EQ(state.made.sheets->loads.size(), 1u);
    const design::PlacedSheet& sheet = state.made.sheets->loads[0].sheets[0];
    EXPECT_EQ(sheet.scrapId, 1);
    // The lamp-coloured scrap reaches from (148, 20) to (284, 96) on the mat.
    EXPECT_NEAR(sheet.xMm, 148, 0.6);
    EXPECT_NEAR(sheet.yMm, 20, 0.6);
    EXPECT_NEAR(sheet.widthMm, 136, 0.8);
    const auto options = must(arrangeOptions(state.job, shippedCatalogue().formats));
    EXPECT_TRUE(must(sheets::faultsOf(*state.made.work(), *state.made.sheets, options)).empty());
    // The same photo again takes the place of the first look.
    const Job again = must(withScrapsOnMat(state.job, found, {"sea", "", "", "lamp", ""}, "mat.jpg"));
    EXPECT_EQ(again.plan.scraps.size(), 2u);
    EXPECT_FALSE(withScrapsOnMat(state.job, found, {"", "", "", "", ""}, "mat.jpg")) << "nothing is used";
    // Corners set by hand are taken as they are.
    auto corners = found.seen.corners();
    const auto byHand = foundOnMat(state, photo, shippedCatalogue().formats, corners, found.seen.bend());
    EXPECT_EQ(must(byHand).look.scraps.size(), 5u);
    // The photo of another mat is told as that.
    State other = state;
    other.job.plan.matId = "long24";
    const auto wrongMat = foundOnMat(other, photo, shippedCatalogue().formats);
    ASSERT_FALSE(wrongMat);
    EXPECT_NE(wrongMat.error().message.find("shows a mat of 12 × 12 in"), std::string::npos)
        << wrongMat.error().message;
    std::swap(corners[1], corners[2]);
    EXPECT_FALSE(foundOnMat(state, photo, shippedCatalogue().formats, corners));
}

TEST(MatPhoto, WhatIsNoMatIsRefusedInASentence) {
    const State state = support::rectangleJob(60, 40);
    const raster::Picture grey{900, 700, std::vector<std::uint8_t>(900 * 700 * 3, 128)};
    const auto none = foundOnMat(state, grey, shippedCatalogue().formats);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().message.find("No mat was found in the photo"), std::string::npos);
}

} // namespace
} // namespace thinline::job
