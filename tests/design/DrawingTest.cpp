// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Drawing.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace thinline::design {
namespace {

constexpr raster::Rgb kRed{200, 40, 40}, kBlack{0, 0, 0};

DrawnItem item(const std::string& id, const std::string& layer, const geometry::Shape& shape) {
    DrawnItem out;
    out.id = id;
    out.layer = layer;
    out.contours = {shape.outline};
    out.fill = kRed;
    return out;
}

DrawnPage pageOf(std::vector<DrawnItem> items) {
    return {100, 100, StatedSize::Real, std::move(items), {}};
}

double areaOf(const DrawnPage& page, const TakeOptions& options = {}, size_t* count = nullptr) {
    const auto pieces = piecesOf(page, options);
    if (!pieces)
        throw std::runtime_error(pieces.error().message);
    double area = 0;
    for (const DrawnPiece& piece : *pieces)
        area += geometry::area(piece.shape);
    if (count)
        *count = pieces->size();
    return area;
}

TEST(PiecesOf, EveryConnectedAreaKeepsItsNameColourAndLayer) {
    DrawnItem two = item("tiles", "floor", support::rectangle(0, 0, 10, 10));
    two.contours.push_back(support::rectangle(20, 0, 10, 10).outline);
    const auto pieces = piecesOf(pageOf({two, item("lid", "", support::disc({50, 50}, 10))}));
    ASSERT_TRUE(pieces);
    ASSERT_EQ(pieces->size(), 3u);
    EXPECT_EQ((*pieces)[1].name, "tiles");
    EXPECT_EQ((*pieces)[1].layer, "floor");
    EXPECT_EQ((*pieces)[1].colour, kRed);
    EXPECT_EQ((*pieces)[2].layer, "");
}

TEST(PiecesOf, ClipsHoldTogetherAndCanBeLetGo) {
    DrawnItem clipped = item("sky", "", support::rectangle(0, 0, 40, 40));
    const Clip left = {{{support::rectangle(0, 0, 20, 40).outline}}},
               ends = {{{support::rectangle(0, 0, 40, 10).outline}},
                       {{support::rectangle(0, 30, 40, 10).outline}}};
    clipped.clips = {std::make_shared<const Clip>(left), std::make_shared<const Clip>(ends)};
    size_t count = 0;
    EXPECT_NEAR(areaOf(pageOf({clipped}), {}, &count), 2 * 20 * 10, 1e-6);
    EXPECT_EQ(count, 2u);
    EXPECT_NEAR(areaOf(pageOf({clipped}), {.appliesClips = false}), 1600, 1e-6);
}

TEST(PiecesOf, StrokesBecomeStripsOfTheirWidth) {
    DrawnItem frame = item("frame", "", support::rectangle(10, 10, 40, 20));
    frame.fill.reset();
    frame.stroke = kBlack;
    frame.strokeWidthMm = 2;
    frame.lines = {geometry::Contour{{60, 10}, {geometry::Segment::line({90, 10})}}};
    EXPECT_NEAR(areaOf(pageOf({frame})), 800, 1e-6) << "as cut files draw: the closed stroke is an outline";
    // The band: outer 42 x 22 less inner 38 x 18; the open line 30 x 2.
    EXPECT_NEAR(areaOf(pageOf({frame}), {.strokesAsAreas = true}), 42 * 22 - 38 * 18 + 60, 1e-4);
    frame.fill = kRed;
    EXPECT_NEAR(areaOf(pageOf({frame}), {.strokesAsAreas = true}), 42 * 22 + 60, 1e-4)
        << "a filled one is whole";
}

TEST(PiecesOf, LayersAreLeftOutByName) {
    const DrawnPage page = pageOf({item("a", "roof", support::rectangle(0, 0, 10, 10)),
                                   item("b", "wall", support::rectangle(20, 0, 10, 20)),
                                   item("c", "roof", support::rectangle(40, 0, 10, 10))});
    TakeOptions options;
    options.leftOut = {"roof"};
    EXPECT_NEAR(areaOf(page, options), 200, 1e-9);
    options.leftOut = {"roof", "wall"};
    size_t count = 9;
    areaOf(page, options, &count);
    EXPECT_EQ(count, 0u) << "on purpose, so no error";
    const auto layers = layersOf(page);
    ASSERT_EQ(layers.size(), 2u);
    EXPECT_EQ(layers[0].name, "roof");
    EXPECT_EQ(layers[0].items, 2);
    EXPECT_EQ(layers[1].colour, kRed);
}

TEST(PiecesOf, RefusesPagesThatCannotBeMeantAndDrawingsOfNothing) {
    DrawnPage page = pageOf({item("a", "", support::rectangle(0, 0, 10, 10))});
    for (double width : {0.0, -1.0, 20'000.0, std::nan("")}) {
        page.widthMm = width;
        EXPECT_FALSE(piecesOf(page)) << width;
    }
    EXPECT_EQ(piecesOf(pageOf({})).error().message, "No outline in this drawing bounds an area.");
}

} // namespace
} // namespace thinline::design
