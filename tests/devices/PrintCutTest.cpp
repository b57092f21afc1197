// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/PrintCut.h"

#include "support/MarkPictures.h"

#include <gtest/gtest.h>

namespace thinline::devices {
namespace {

using geometry::Point;

const print::PageLayout kLetter = print::layoutOf(215.9, 279.4, 6.35, true);

std::vector<Point> cornersOf(const geometry::Box& box) {
    return {box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}};
}

TEST(PrintCut, WithoutNoiseTheCutFollowsThePrintThroughEveryError) {
    PrintErrors errors;
    errors.scaleX = 1.004;
    errors.scaleY = 0.997;
    errors.printTurnDeg = 0.2;
    errors.printShiftMm = {1, -0.8};
    errors.feedShiftMm = {-2, 1.5};
    errors.feedTurnDeg = 1.1;
    const auto found = registration::registered(sensed(errors, kLetter));
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_LT(cutBy(*found, errors, {}, kLetter, cornersOf(kLetter.area)).worstMm, 1e-9);
    EXPECT_GT(cutBy({}, errors, {}, kLetter, cornersOf(kLetter.area)).worstMm, 2) << "unread it is far off";
    // The standing error stays until a calibration takes it off.
    errors.standingMm = {0.3, -0.2};
    EXPECT_NEAR(cutBy(*found, errors, {}, kLetter, cornersOf(kLetter.area)).worstMm, std::hypot(0.3, 0.2),
                0.01);
    const registration::StandingError measured{"", 0.3, -0.2, 0, 4, ""};
    EXPECT_LT(cutBy(*found, errors, measured, kLetter, cornersOf(kLetter.area)).worstMm, 1e-9);
}

// After registration and calibration cut meets print within 0.15 mm in 99 of 100 of a thousand runs, with everything drawn at random.
TEST(PrintCut, AfterRegistrationAndCalibrationNinetyNineOfAHundredAreWithinAFewTenths) {
    const std::vector<double> read = worstOf(1000, {}, kLetter, {}),
                              blind = worstOf(1000, {}, kLetter, {false, false});
    ASSERT_EQ(read.size(), 1000u) << "none was refused";
    EXPECT_LT(read[990], 0.15);
    EXPECT_GT(blind[500], 1) << "without reading half of them are further off than that";
    EXPECT_EQ(coveredBy(read, 2), 1);
    EXPECT_GT(worstOf(1000, {}, kLetter, {true, false})[990], 0.3) << "read, and never calibrated";
    EXPECT_LT(coveredBy(blind, 2), 0.7);
    // One source alone is never worse than all of them, and what a sensor cannot do harm is none.
    const std::vector<double> feed = worstOf(1000, {}, kLetter, {}, {ErrorSource::Feed});
    EXPECT_LT(feed.back(), 1e-9) << "a page laid askew is followed exactly";
    EXPECT_EQ(worstOf(50, {}, kLetter, {}), worstOf(50, {}, kLetter, {})) << "seeded";
}

TEST(PrintCut, ACameraFindsPageNumberAndBarAndRefusesWhatLiesUpsideDown) {
    CameraLook look;
    look.pxPerMm = 2.4;
    look.widthPx = 560;
    look.heightPx = 720;
    look.tiltDeg = 6;
    look.noiseLevels = 3;
    look.blurPx = 0.7;
    PrintErrors errors;
    errors.feedTurnDeg = 0.8;
    errors.feedShiftMm = {1.5, -1};
    const raster::Picture page = support::markPage(kLetter, {5, false}, 6);
    auto seen = photographed(page, 6, errors, kLetter, look);
    ASSERT_TRUE(seen);
    ASSERT_EQ(seen->marks.size(), 4u);
    EXPECT_LT(seen->worstPx, 0.2);
    EXPECT_EQ(seen->strangers, 0);
    ASSERT_TRUE(seen->bar && seen->number);
    EXPECT_EQ(seen->number->page, 5);
    EXPECT_FALSE(seen->number->isBack);
    const auto found = registration::registered(seen->marks, seen->bar);
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_LT(cutBy(*found, errors, {}, kLetter, cornersOf(kLetter.area)).worstMm, 0.15);

    errors.feedTurnDeg = 180;
    seen = photographed(page, 6, errors, kLetter, look);
    ASSERT_TRUE(seen);
    const auto upsideDown = registration::registered(seen->marks, seen->bar);
    ASSERT_FALSE(upsideDown);
    EXPECT_NE(upsideDown.error().message.find("upside down"), std::string::npos)
        << upsideDown.error().message;

    errors.feedTurnDeg = 4;
    seen = photographed(page, 6, errors, kLetter, look);
    const auto askew = registration::registered(seen->marks, seen->bar);
    ASSERT_FALSE(askew);
    EXPECT_NE(askew.error().message.find("askew"), std::string::npos) << askew.error().message;
}

} // namespace
} // namespace thinline::devices
