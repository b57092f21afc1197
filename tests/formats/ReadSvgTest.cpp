// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/ReadSvg.h"

#include "formats/image/ImageFile.h"
#include "formats/svg/PathData.h"
#include "formats/svg/Style.h"
#include "geometry/Cubic.h"
#include "raster/Canvas.h"
#include "support/Fonts.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <numbers>

namespace thinline::formats::svg {
namespace {

namespace fs = std::filesystem;
using geometry::Point;

const fs::path kData = fs::path(THINLINE_SOURCE_DIR) / "tests/data/svg";

std::string textOf(const fs::path& path) {
    std::ifstream file(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), std::istreambuf_iterator<char>()};
}

std::vector<fs::path> filesIn(const char* folder) {
    std::vector<fs::path> files;
    for (const auto& entry : fs::directory_iterator(kData / folder))
        files.push_back(entry.path());
    std::sort(files.begin(), files.end());
    return files;
}

/// What librsvg makes of a file at 10 px per mm.
raster::Picture reference(const fs::path& svg) {
    const fs::path png = fs::temp_directory_path() / ("thinline-" + std::to_string(::getpid()) + ".png");
    const std::string call = "rsvg-convert --dpi-x 254 --dpi-y 254 --zoom 1 --background-color white '" +
                             svg.string() + "' > '" + png.string() + "' 2> /dev/null";
    if (std::system(call.c_str()) != 0)
        return {};
    const std::string bytes = textOf(png);
    fs::remove(png);
    auto decoded = image::decode(base::Bytes(bytes.begin(), bytes.end()));
    return decoded ? std::move(decoded.take().picture) : raster::Picture{};
}

/// Our rendering of the same, scaled to the picture's width.
raster::Picture rendered(const design::DrawnPage& drawing, int width, int height) {
    raster::Canvas canvas(width, height, {255, 255, 255});
    const auto map = geometry::Transform::scale(width / drawing.widthMm, height / drawing.heightMm);
    // As the drawing shows it: fills, then strokes over them, both cut down to their clips.
    for (const design::DrawnItem& item : drawing.items) {
        design::DrawnItem fill = item, stroke = item;
        fill.stroke.reset();
        stroke.fill.reset();
        for (const design::DrawnItem& one : {fill, stroke}) {
            if (!one.fill && !(one.stroke && one.strokeWidthMm > 0))
                continue;
            const auto pieces = design::piecesOf(
                {drawing.widthMm, drawing.heightMm, drawing.stated, {one}, {}}, {.strokesAsAreas = true});
            if (!pieces)
                continue; // nothing is left of it
            for (const design::DrawnPiece& piece : *pieces)
                canvas.fill(geometry::flatten(geometry::transformed(piece.shape, map), 0.02), *piece.colour);
        }
    }
    return canvas.picture();
}

// Reference library: librsvg. Every file of the table is drawn by both and compared pixel by pixel.
TEST(ReadSvg, LibrsvgDrawsEveryValidFileTheSameWay) {
    ASSERT_EQ(std::system("command -v rsvg-convert > /dev/null"), 0) << "install librsvg2-bin";
    int seen = 0;
    for (const fs::path& path : filesIn("valid")) {
        SCOPED_TRACE(path.filename().string());
        const auto drawing = readSvg(textOf(path));
        ASSERT_TRUE(drawing) << drawing.error().message;
        const raster::Picture theirs = reference(path);
        ASSERT_FALSE(theirs.isEmpty());
        const raster::Picture ours = rendered(*drawing, theirs.width, theirs.height);
        double sum = 0;
        for (int y = 0; y < theirs.height; ++y)
            for (int x = 0; x < theirs.width * 3; ++x)
                sum += std::abs(ours.row(y)[static_cast<size_t>(x)] - theirs.row(y)[static_cast<size_t>(x)]);
        EXPECT_LT(sum / (3.0 * theirs.width * theirs.height), 0.5) << "mean difference in grey levels";
        ++seen;
    }
    EXPECT_GE(seen, 60);
}

TEST(ReadSvg, BrokenFilesAreRefusedInASentence) {
    const std::pair<const char*, const char*> rows[] = {
        {"empty.svg", "not a whole XML file"},   {"cut-off.svg", "line 2, column 1"},
        {"not-xml.svg", "not a whole XML file"}, {"other-xml.svg", "no svg element"},
        {"nothing-drawn.svg", "can be cut"},     {"mismatched-tags.svg", "line 1, column"},
    };
    for (const auto& [name, says] : rows) {
        const auto drawing = readSvg(textOf(kData / "broken" / name));
        ASSERT_FALSE(drawing) << name;
        EXPECT_NE(drawing.error().message.find(says), std::string::npos)
            << name << ": " << drawing.error().message;
    }
}

TEST(ReadSvg, HostileFilesDoNoHarm) {
    for (const fs::path& path : filesIn("hostile")) {
        SCOPED_TRACE(path.filename().string());
        const auto drawing = readSvg(textOf(path), {.mostElements = 100'000});
        if (!drawing) {
            EXPECT_EQ(drawing.error().code, base::Code::LimitExceeded) << drawing.error().message;
            continue;
        }
        for (const design::DrawnItem& item : drawing->items)
            for (const auto& contour : item.contours)
                EXPECT_TRUE(geometry::isFinite(contour));
    }
    std::string deep = "<svg xmlns='http://www.w3.org/2000/svg'>";
    for (int i = 0; i < 50'000; ++i)
        deep += "<g>";
    EXPECT_FALSE(readSvg(deep));
    for (int i = 0; i < 50'000; ++i)
        deep += "</g>";
    EXPECT_EQ(readSvg(deep + "</svg>").error().code, base::Code::LimitExceeded);
    // Cut off anywhere it is refused or read, never more.
    const std::string whole = textOf(kData / "valid/css-classes.svg");
    for (size_t n = 0; n < whole.size(); n += 3)
        (void)readSvg(std::string_view(whole).substr(0, n));
}

TEST(ReadSvg, SaysHowLargeThePageIsAndWhoSaysSo) {
    const struct {
        const char* file;
        double widthMm, heightMm;
        design::StatedSize stated;
    } rows[] = {
        {"units-cm.svg", 60, 40, design::StatedSize::Real},
        {"units-in-and-pc.svg", 50.8, 38.1, design::StatedSize::Real},
        {"pixels-at-96.svg", 240 * 25.4 / 96, 160 * 25.4 / 96,
         design::StatedSize::Pixels}, // CSS: 96 px are an inch
        {"view-box-only.svg", 240 * 25.4 / 96, 160 * 25.4 / 96, design::StatedSize::None},
    };
    for (const auto& row : rows) {
        const auto drawing = readSvg(textOf(kData / "valid" / row.file));
        ASSERT_TRUE(drawing);
        EXPECT_NEAR(drawing->widthMm, row.widthMm, 1e-9) << row.file;
        EXPECT_NEAR(drawing->heightMm, row.heightMm, 1e-9) << row.file;
        EXPECT_EQ(drawing->stated, row.stated) << row.file;
    }
}

TEST(ReadSvg, NamesLayersAndPartsAndSaysWhatItSkips) {
    const auto drawing =
        readSvg("<svg xmlns='http://www.w3.org/2000/svg' width='10mm' height='10mm' viewBox='0 0 10 10'>"
                "<g id='g1' x:label='Roof' xmlns:x='urn:x'><rect id='tile' width='2' height='2'/>"
                "<rect id='tile' x='4' width='2' height='2'/></g><circle r='1' fill='none' stroke='#123456'/>"
                "<path d='M0 5L9 5' fill='none' stroke='red' stroke-width='.5'/>"
                "<text>a</text><text>b</text><path d='M1 1h2v2z' filter='url(#f)'/></svg>");
    ASSERT_TRUE(drawing);
    ASSERT_EQ(drawing->items.size(), 5u);
    EXPECT_EQ(drawing->items[0].layer, "Roof");
    EXPECT_EQ(drawing->items[0].id, "tile");
    EXPECT_EQ(drawing->items[1].id, "tile-2");
    EXPECT_EQ(drawing->items[2].id, "circle-3");
    EXPECT_FALSE(drawing->items[2].fill);
    EXPECT_EQ(drawing->items[2].contours.size(), 1u) << "a closed outline is an area even when only stroked";
    ASSERT_EQ(drawing->items[3].lines.size(), 1u);
    EXPECT_NEAR(drawing->items[3].strokeWidthMm, 0.5, 1e-9);
    EXPECT_EQ(drawing->said, (std::vector<std::string>{"filters skipped", "text: 2 skipped"}));
}

TEST(ReadSvg, TextBecomesOutlinesAtItsPlace) {
    const auto fonts = support::shippedFonts();
    const auto boxOf = [&](const std::string& body) {
        const auto drawing =
            readSvg("<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='100mm' "
                    "viewBox='0 0 200 100' font-family='League Spartan' font-weight='bold'>" +
                        body + "</svg>",
                    {}, {}, &fonts);
        EXPECT_TRUE(drawing) << body;
        geometry::Box box;
        if (drawing)
            for (const design::DrawnItem& item : drawing->items)
                for (const auto& contour : item.contours)
                    box.include(geometry::bounds(contour));
        return box;
    };
    // The H of this typeface runs from 74 to 1151 of 2000 units, and is 1320 high (its glyph table).
    const geometry::Box h = boxOf("<text x='10' y='50' font-size='20'>H</text>");
    EXPECT_NEAR(h.least.x, 10 + 20 * 74 / 2000.0, 1e-6);
    EXPECT_NEAR(h.most.x, 10 + 20 * 1151 / 2000.0, 1e-6);
    EXPECT_NEAR(h.least.y, 50 - 20 * 1320 / 2000.0, 1e-6);
    EXPECT_NEAR(h.most.y, 50, 1e-6);
    const geometry::Box middle = boxOf("<text x='100' y='50' font-size='20' text-anchor='middle'>H</text>");
    EXPECT_NEAR(middle.least.x, 100 - 20 * 1289 / 4000.0 + 20 * 74 / 2000.0, 1e-6);
    const geometry::Box end = boxOf("<text x='100' y='50' style='font-size:20px;text-anchor:end'>H</text>");
    EXPECT_NEAR(end.least.x, 100 - 20 * 1289 / 2000.0 + 20 * 74 / 2000.0, 1e-6);
    const geometry::Box spans =
        boxOf("<text x='10' y='50' font-size='20'>H<tspan font-size='40'>H</tspan>\n  </text>");
    EXPECT_NEAR(spans.least.y, 50 - 40 * 1320 / 2000.0, 1e-6);
    EXPECT_NEAR(spans.most.x, 10 + 20 * 1289 / 2000.0 + 40 * 1151 / 2000.0, 1e-6);
    const geometry::Box moved =
        boxOf("<g transform='scale(2)'><text font-size='10'><tspan x='5' y='20'>H</tspan></text></g>");
    EXPECT_NEAR(moved.least.x, 10 + 20 * 74 / 2000.0, 1e-6);
    // Another typeface is taken for a missing one, and that is said.
    const auto missing = readSvg(
        "<svg xmlns='http://www.w3.org/2000/svg'><text font-family='Nowhere'>H</text></svg>", {}, {}, &fonts);
    ASSERT_TRUE(missing);
    ASSERT_EQ(missing->said.size(), 1u);
    EXPECT_EQ(missing->said[0].rfind("the typeface Nowhere is not installed", 0), 0u) << missing->said[0];
}

TEST(ReadSvg, ClipsThatCannotBeFollowedAreSaid) {
    for (const char* body :
         {"<rect width='5' height='5' clip-path='url(#gone)'/>",
          "<clipPath id='c' clipPathUnits='objectBoundingBox'><rect width='1' height='1'/></clipPath>"
          "<rect width='5' height='5' clip-path='url(#c)'/>",
          "<clipPath id='c'><rect width='3' height='3' clip-path='url(#c)'/></clipPath>"
          "<rect width='5' height='5' clip-path='url(#c)'/>"}) {
        const auto drawing =
            readSvg("<svg xmlns='http://www.w3.org/2000/svg'>" + std::string(body) + "</svg>");
        ASSERT_TRUE(drawing) << body;
        EXPECT_EQ(drawing->said, std::vector<std::string>{"clip paths that cannot be followed skipped"})
            << body;
    }
}

// W3C SVG 1.1 appendix F.6: every point of the arc lies on the ellipse, it ends where it should, and it
// sweeps the way and as far as the flags say.
TEST(AppendArc, LiesOnItsEllipseForEveryFlag) {
    for (bool isLarge : {false, true})
        for (bool isSweep : {false, true})
            for (double turn : {0.0, 25.0, -70.0}) {
                geometry::Contour arc{{10, 20}, {}};
                const Point to{22, 17};
                appendArc(arc, arc.start, 9, 7, turn, isLarge, isSweep, to);
                EXPECT_EQ(arc.segments.back().end, to);
                // In the ellipse's own axes both radii are 1; the centre follows from three points.
                const double a = turn * std::numbers::pi / 180;
                const geometry::Transform flat =
                    geometry::Transform{std::cos(a), -std::sin(a), std::sin(a), std::cos(a), 0, 0}.then(
                        geometry::Transform::scale(1 / 9.0, 1 / 7.0));
                geometry::Polygon points;
                geometry::eachCurve(arc, [&](const geometry::Cubic& k, const geometry::Segment&) {
                    for (double t : {0.0, 0.3, 0.6})
                        points.push_back(flat(k.at(t)));
                });
                const Point p = points[0], q = points[points.size() / 2], r = flat(to);
                const double d = 2 * geometry::cross(q - p, r - p), b = geometry::dot(q - p, q - p),
                             c = geometry::dot(r - p, r - p);
                const Point centre =
                    p + Point{((r - p).y * b - (q - p).y * c) / d, ((q - p).x * c - (r - p).x * b) / d};
                double sweep = 0;
                for (size_t i = 0; i < points.size(); ++i) {
                    EXPECT_NEAR(geometry::distance(points[i], centre), 1, 2e-5);
                    const Point u = points[i] - centre,
                                v = (i + 1 < points.size() ? points[i + 1] : r) - centre;
                    sweep += std::atan2(geometry::cross(u, v), geometry::dot(u, v));
                }
                EXPECT_EQ(sweep > 0, isSweep);
                EXPECT_EQ(std::abs(sweep) > std::numbers::pi, isLarge);
            }
}

TEST(ParsePathData, TellsWhereTheMistakeIs) {
    const std::pair<const char*, const char*> rows[] = {
        {"M1 1L2", "ends at character 7, where a number is missing"},
        {"M1 1B3 3", "ends at character 5, where 'B' is no command"},
        {"5 5", "ends at character 1, where a number stands without a command"},
        {"L5 5", "ends at character 2, where nothing has said where to begin"},
        {"M1 1a1 1 0 2 1 5 5", "ends at character 12, where a number is missing"},
        {"M1 1h1zz5", "ends at character 9, where a number stands without a command"},
    };
    for (const auto& [text, says] : rows)
        EXPECT_EQ(parsePathData(text).problem, says) << text;
    EXPECT_TRUE(parsePathData("").problem.empty());
    EXPECT_TRUE(parsePathData("  M0,0 , 5 5").problem.empty());
    EXPECT_FALSE(parsePathData("M0 0h1h1h1h1", 3).problem.empty());
}

TEST(Colours, AreReadAsCssWritesThem) {
    const std::pair<const char*, raster::Rgb> rows[] = {
        {"#f80", {255, 136, 0}},        {"#0a141e", {10, 20, 30}},  {"#0a141e80", {10, 20, 30}},
        {"#f80c", {255, 136, 0}},       {"rgb(1, 2,3)", {1, 2, 3}}, {"rgb(100%,0%,50%)", {255, 0, 128}},
        {"Tomato", {255, 99, 71}},      {" black ", {0, 0, 0}},     {"yellowgreen", {154, 205, 50}},
        {"aliceblue", {240, 248, 255}},
    };
    for (const auto& [text, rgb] : rows)
        EXPECT_EQ(parseColour(text), rgb) << text;
    for (const char* bad : {"", "#", "#12", "#ggg", "rgb(", "rgb(1,2)", "no colour", "#1234567890"})
        EXPECT_FALSE(parseColour(bad)) << bad;
}

} // namespace
} // namespace thinline::formats::svg
