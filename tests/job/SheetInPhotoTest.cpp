// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SheetInPhoto.h"

#include "formats/image/ImageFile.h"
#include "geometry/Measures.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"
#include "support/Drawings.h"
#include "support/Photos.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using geometry::Point;
using support::disc;
using support::Drawing;
using support::rectangle;

/// A sheet of 148 x 105 mm at 6 px to the millimetre: a square of 40 mm and a disc of 50 in lines of 1 mm.
raster::Picture postcard() {
    Drawing drawing(888, 630);
    drawing.ring(rectangle(100, 190, 252, 252), rectangle(106, 196, 240, 240));
    drawing.ring(disc({620, 316}, 156), disc({620, 316}, 150));
    return drawing.picture();
}
constexpr std::array<Point, 4> kCorners{{{190, 110}, {850, 150}, {905, 640}, {120, 575}}};

OpenedPicture opened(const raster::Picture& picture) {
    const base::Bytes bytes = formats::image::encodePng(picture);
    return openPicture(newJob(shippedCatalogue()), {bytes, "table.png", recognise(bytes)}).take();
}

TEST(SheetInPhoto, IsFoundAndLaidStraightAtItsRealSize) {
    const raster::Picture photo = support::photographed(postcard(), kCorners, 1024, 768);
    const auto sheet = sheetIn(photo, 105, 148);
    ASSERT_TRUE(sheet) << sheet.error().message;
    for (size_t i = 0; i < 4; ++i)
        EXPECT_LT(geometry::distance(sheet->corners[i], kCorners[i]), 1.5) << i;
    EXPECT_EQ(sheet->widthMm, 148) << "it lies across";
    const OpenedPicture before = opened(photo);
    auto laid = withSheetInPhoto(before.job, *sheet, before.source);
    ASSERT_TRUE(laid);
    EXPECT_NEAR(sourceWidthMm(*findSource(*laid, before.source)), 148, 0.2);
    EXPECT_NEAR(sourceHeightMm(*findSource(*laid, before.source)), 105, 0.2);
    const auto found = tracedFromSheet(before.job, *sheet, shippedCatalogue(), {}, before.source);
    ASSERT_TRUE(found) << found.error().message;
    const trace::Tracing& tracing = *tracingOf(*found);
    ASSERT_EQ(tracing.areas.size(), 2u) << "the table is none, nor is the sheet";
    const double mm = mmPerPx(*pictureSource(*found));
    EXPECT_NEAR(geometry::area(tracing.areas[1].shape) * mm * mm, 1600, 16) << "a square of 40 mm";
    const geometry::Box box = geometry::bounds(tracing.areas[0].shape);
    EXPECT_NEAR(box.width() * mm, 50, 0.35);
    EXPECT_NEAR(box.height() * mm, 50, 0.35) << "a disc is round again";
}

TEST(SheetInPhoto, TakesCornersByHandAndGoesBack) {
    const raster::Picture photo = support::photographed(postcard(), kCorners, 1024, 768);
    const OpenedPicture before = opened(photo);
    const auto sheet = sheetIn(photo, 148, 105, kCorners);
    ASSERT_TRUE(sheet);
    EXPECT_EQ(sheet->corners, kCorners);
    const Job laid = withSheetInPhoto(before.job, *sheet, before.source).take();
    const Job back = withSheetInPhoto(laid, {}, before.source).take();
    EXPECT_EQ(sourceWidthMm(*findSource(laid, before.source)), sourceWidthMm(*findSource(back, before.source)))
        << "as wide as it was last";
    EXPECT_EQ((*pixelsOf(back))->width, 1024);
    EXPECT_EQ((*pixelsOf(laid))->width, sheet->widthPx());
}

TEST(SheetInPhoto, RefusesWhatIsNoSheetInASentence) {
    const raster::Picture even{200, 150, std::vector<std::uint8_t>(200 * 150 * 3, 200)};
    const auto none = sheetIn(even, 210, 297);
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().message.rfind("No sheet was found in the photo", 0), 0u);
    EXPECT_FALSE(sheetIn(even, 1, 297)) << "smaller than any sheet";
    EXPECT_FALSE(sheetIn(even, 210, 297, std::array<Point, 4>{{{10, 10}, {100, 10}, {20, 20}, {100, 100}}}))
        << "corners that bound nothing convex";
    EXPECT_FALSE(withSheetInPhoto(newJob(shippedCatalogue()), {})) << "there is no picture";
}

} // namespace
} // namespace thinline::job
