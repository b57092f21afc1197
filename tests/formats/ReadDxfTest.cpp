// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/dxf/ReadDxf.h"

#include "formats/dxf/Spline.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <numbers>

namespace thinline::formats::dxf {
namespace {

constexpr double kPi = std::numbers::pi;

std::string fileText(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}
std::string dataFile(const std::string& name) {
    return fileText(std::filesystem::path(THINLINE_SOURCE_DIR) / "tests/data/dxf" / name);
}

struct Measured {
    double width = 0, height = 0, area = 0;
    size_t pieces = 0, lines = 0;
};
Measured measured(const design::DrawnPage& page) {
    Measured out{page.widthMm, page.heightMm, 0, 0, 0};
    for (const design::DrawnItem& item : page.items)
        out.lines += item.lines.size();
    const auto pieces = design::piecesOf(page);
    if (!pieces)
        return out;
    out.pieces = pieces->size();
    for (const design::DrawnPiece& piece : *pieces)
        out.area += geometry::area(piece.shape);
    return out;
}

// Every file with its table, computed by hand from what it says (areas by the formulas of plane geometry).
TEST(ReadDxf, FilesComeOutAsComputedByHand) {
    struct Row {
        const char* file;
        design::StatedSize stated;
        size_t pieces, lines;
        double width, height, area;
    };
    const design::StatedSize kReal = design::StatedSize::Real, kNone = design::StatedSize::None;
    const Row rows[] = {
        {"valid/square-of-lines.dxf", kReal, 1, 0, 40, 40, 1600},
        {"valid/square-backwards.dxf", kReal, 1, 0, 40, 40, 1600},
        {"valid/square-with-gaps.dxf", kReal, 1, 0, 40, 40, 1600 - 0.6},
        {"valid/inches.dxf", kReal, 1, 0, 50.8, 50.8, 50.8 * 50.8},
        {"valid/no-unit.dxf", kNone, 1, 0, 40, 40, 1600},
        {"valid/circle-in-square.dxf", kReal, 1, 0, 40, 40, 1600 - kPi * 100},
        {"valid/polyline-r12.dxf", kReal, 1, 0, 30, 20, 600},
        {"valid/polyline-bulge.dxf", kReal, 1, 0, 30 + 10, 20,
         600 + kPi * 100 / 2}, // half a disc at the right
        {"valid/bulge-inwards.dxf", kReal, 1, 0, 30, 20, 600 - kPi * 100 / 2},
        {"valid/disc-of-two-bulges.dxf", kReal, 1, 0, 20, 20, kPi * 100},
        {"valid/ring-of-arcs.dxf", kReal, 1, 0, 60, 60, kPi * 900},
        {"valid/arcs-and-lines.dxf", kReal, 1, 0, 60, 20, 40 * 20 + kPi * 100},
        {"valid/ellipse.dxf", kReal, 1, 0, 60, 30, kPi * 30 * 15},
        {"valid/half-ellipse.dxf", kReal, 1, 0, 60, 15, kPi * 30 * 15 / 2},
        {"valid/ellipse-turned.dxf", kReal, 1, 0, 30, 60, kPi * 30 * 15},
        {"valid/spline-bezier.dxf", kReal, 1, 0, 30, 15,
         30 * 20 * 3.0 / 5}, // a symmetric cubic arch: 3/5 b h of its control box
        {"valid/spline-degree-1.dxf", kReal, 1, 0, 30, 20, 300},
        {"valid/spline-circle.dxf", kReal, 1, 0, 40, 40, kPi * 400}, // a rational quadratic circle is exact
        {"valid/block-twice.dxf", kReal, 2, 0, 110, 10, 200},
        {"valid/block-scaled-turned.dxf", kReal, 1, 0, 20, 40, 800},
        {"valid/block-in-block.dxf", kReal, 4, 0, 70, 10, 400},
        {"valid/block-in-rows.dxf", kReal, 6, 0, 50, 30, 600},
        {"valid/mirrored-extrusion.dxf", kReal, 2, 0, 40, 10, 200},
        {"valid/layers.dxf", kReal, 2, 0, 30, 10, 200},
        {"valid/layer-off.dxf", kReal, 1, 0, 10, 10, 100},
        {"valid/open-line-beside.dxf", kReal, 1, 5, 60, 40, 1600},
        {"valid/windows-line-ends.dxf", kReal, 1, 0, 40, 40, 1600},
        {"valid/comments-and-text.dxf", kReal, 1, 0, 40, 40, 1600},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(row.file);
        const std::string text = dataFile(row.file);
        ASSERT_FALSE(text.empty());
        EXPECT_TRUE(looksLikeDxf(text));
        const auto page = readDxf(text);
        ASSERT_TRUE(page) << page.error().message;
        const Measured m = measured(*page);
        EXPECT_EQ(page->stated, row.stated);
        EXPECT_EQ(m.pieces, row.pieces);
        EXPECT_EQ(m.lines, row.lines);
        EXPECT_NEAR(m.width, row.width, 2e-3);
        EXPECT_NEAR(m.height, row.height, 2e-3);
        EXPECT_NEAR(m.area, row.area, 1e-4 * row.area + 0.2);
    }
}

// Every edge a line, the outline broken where folds meet it: one piece, and three lines that are asked about.
TEST(ReadDxf, AStripOfLooseLinesIsOnePiece) {
    const auto page = readDxf(dataFile("valid/strip-of-lines.dxf"));
    ASSERT_TRUE(page) << page.error().message;
    const auto taken = design::takenFrom(*page);
    ASSERT_TRUE(taken) << taken.error().message;
    ASSERT_EQ(taken->pieces.size(), 1u);
    EXPECT_NEAR(geometry::area(taken->pieces[0].shape), 160 * 60, 10);
    ASSERT_EQ(taken->kinds.size(), 2u);
    EXPECT_EQ(std::max(taken->kinds[0].lines, taken->kinds[1].lines), 3);
}

// Four folds that come round are no piece, by the name of their layer; a dashed line of the cut layer is a fold by its type.
TEST(ReadDxf, FoldsAreLinesOfThePieceAlsoWhereTheyComeRound) {
    const auto page = readDxf(dataFile("valid/box-base-of-folds.dxf"));
    ASSERT_TRUE(page) << page.error().message;
    const auto taken = design::takenFrom(*page);
    ASSERT_TRUE(taken) << taken.error().message;
    ASSERT_EQ(taken->pieces.size(), 1u);
    EXPECT_NEAR(geometry::area(taken->pieces[0].shape), 6000, 1e-6);
    ASSERT_EQ(taken->pieces[0].lines.size(), 5u);
    double length = 0;
    for (const design::PieceLine& line : taken->pieces[0].lines) {
        EXPECT_TRUE(std::holds_alternative<design::Fold>(line.does));
        length += geometry::contourLength(line.path);
    }
    EXPECT_NEAR(length, 2 * (60 + 30) + 15, 1e-6);
}

TEST(ReadDxf, TellsLayersColoursAndWhatItSkips) {
    const auto layers = readDxf(dataFile("valid/layers.dxf"));
    ASSERT_TRUE(layers);
    ASSERT_EQ(layers->items.size(), 2u);
    EXPECT_EQ(layers->items[0].layer, "CUT");
    EXPECT_EQ(layers->items[0].stroke, (raster::Rgb{255, 0, 0}));
    EXPECT_EQ(layers->items[1].stroke, (raster::Rgb{0, 0, 255}));
    const auto off = readDxf(dataFile("valid/layer-off.dxf"));
    EXPECT_EQ(off->said, std::vector<std::string>{"layer NOTES is off: 1 outlines left out"});
    const auto gaps = readDxf(dataFile("valid/square-with-gaps.dxf"));
    EXPECT_EQ(gaps->said, std::vector<std::string>{"2 gaps of up to 0.05 mm between ends were closed"});
    EXPECT_EQ(readDxf(dataFile("valid/comments-and-text.dxf"))->said,
              std::vector<std::string>{"text skipped"});
    EXPECT_EQ(readDxf(dataFile("valid/open-line-beside.dxf"))->said, std::vector<std::string>{})
        << "open lines are told by whoever takes them";
}

TEST(ReadDxf, BrokenAndHostileFilesAreRefusedOrReadAsFarAsTheyGo) {
    for (const char* folder : {"broken", "hostile"}) {
        size_t files = 0;
        for (const auto& entry : std::filesystem::directory_iterator(
                 std::filesystem::path(THINLINE_SOURCE_DIR) / "tests/data/dxf" / folder)) {
            SCOPED_TRACE(entry.path().filename().string());
            ++files;
            const auto page = readDxf(fileText(entry.path()), {.mostSegments = 100'000});
            if (!page) {
                EXPECT_FALSE(page.error().message.empty());
                continue;
            }
            for (const design::DrawnItem& item : page->items)
                for (const auto* contours : {&item.contours, &item.lines})
                    for (const geometry::Contour& contour : *contours)
                        EXPECT_TRUE(geometry::isFinite(contour));
        }
        EXPECT_GE(files, 4u);
    }
    EXPECT_EQ(readDxf(dataFile("broken/binary.dxf")).error().message,
              "This is a binary DXF file; save it as text (ASCII) DXF and open that.");
    EXPECT_EQ(readDxf(dataFile("hostile/block-in-itself.dxf")).error().code, base::Code::LimitExceeded);
    EXPECT_EQ(readDxf(dataFile("hostile/billion-inserts.dxf"), {.mostSegments = 100'000}).error().code,
              base::Code::LimitExceeded);
    EXPECT_EQ(readDxf("").error().code, base::Code::ParseError);
    EXPECT_EQ(readDxf("hello").error().message, "This is no DXF file: it does not begin with a section.");
}

TEST(ReadDxf, CanBeStopped) {
    std::string text = "0\nSECTION\n2\nENTITIES\n";
    for (int i = 0; i < 5000; ++i)
        text += "0\nLINE\n8\nA\n10\n" + std::to_string(i) + "\n20\n0\n11\n" + std::to_string(i) + "\n21\n9\n";
    text += "0\nENDSEC\n0\nEOF\n";
    const std::atomic<bool> stop = true;
    EXPECT_EQ(readDxf(text, {}, base::Progress(&stop, nullptr)).error().code, base::Code::Cancelled);
}

TEST(Spline, ExactCurvesPassWhereDeBoorSaysTheyDo) {
    // A uniform cubic B-spline at a knot is (p0 + 4 p1 + p2) / 6 (de Boor 1972); inner pieces join with equal
    // tangents.
    const Spline spline{
        3, {0, 1, 2, 3, 4, 5, 6, 7, 8, 9}, {{0, 0}, {10, 20}, {20, 0}, {30, 20}, {40, 0}, {50, 20}}, {}, {}};
    const geometry::Contour curve = curvesOf(spline);
    ASSERT_EQ(curve.segments.size(), 3u);
    EXPECT_NEAR(curve.start.x, 10, 1e-12);
    EXPECT_NEAR(curve.start.y, 80.0 / 6, 1e-12);
    EXPECT_NEAR(curve.segments[0].end.x, 20, 1e-12);
    EXPECT_NEAR(curve.segments[0].end.y, 40.0 / 6, 1e-12);
    EXPECT_NEAR(curve.segments[2].end.x, 40, 1e-12);
    for (size_t i = 0; i + 1 < curve.segments.size(); ++i) {
        const geometry::Point in = curve.segments[i].end - curve.segments[i].control2,
                              out = curve.segments[i + 1].control1 - curve.segments[i].end;
        EXPECT_NEAR(in.x, out.x, 1e-9);
        EXPECT_NEAR(in.y, out.y, 1e-9);
    }
}

TEST(Spline, WhatDoesNotAgreeGivesNothing) {
    const std::vector<geometry::Point> four{{0, 0}, {1, 2}, {2, 2}, {3, 0}};
    for (const Spline& odd :
         {Spline{3, {0, 0, 0, 1, 1, 1}, four, {}, {}}, Spline{0, {0, 0, 1, 1}, four, {}, {}},
          Spline{3, {0, 0, 0, 0, 1, 1, 1, std::nan("")}, four, {}, {}},
          Spline{3, {1, 1, 1, 1, 0, 0, 0, 0}, four, {}, {}},
          Spline{3, {0, 0, 0, 0, 1, 1, 1, 1}, four, {1, 1, -1, 1}, {}}, Spline{}})
        EXPECT_TRUE(curvesOf(odd).segments.empty());
    const geometry::Contour through = curvesOf({3, {}, {}, {}, {{0, 0}, {10, 0}, {20, 0}, {30, 0}}});
    ASSERT_EQ(through.segments.size(), 3u);
    EXPECT_NEAR(through.segments[1].control1.x, 10 + 10.0 / 3, 1e-9); // points on a line: evenly along it
}

} // namespace
} // namespace thinline::formats::dxf
