// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Printing from the command line, with references: poppler draws and takes apart what was written.
#include "document/JobFile.h"
#include "formats/image/ImageFile.h"
#include "job/PrintPages.h"
#include "job/PrintSteps.h"
#include "print/Place.h"
#include "raster/Targets.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <unistd.h>

namespace thinline::batch {
namespace {

using geometry::Point;
using json = nlohmann::json;

class PrintCommands : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        write("card.svg",
              "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'>"
              "<path d='M0 0H120V80H0Z' fill='#ffffff'/></svg>");
        raster::Picture sea{480, 320, {}};
        for (int y = 0; y < 320; ++y)
            for (int x = 0; x < 480; ++x)
                for (const int value : {x * 255 / 479, y * 255 / 319, 90})
                    sea.rgb.push_back(static_cast<std::uint8_t>(value));
        ASSERT_TRUE(m_store.writeWhole("sea.png", formats::image::encodePng(sea)));
        ASSERT_EQ(call({"import", "card.svg", "--job", "job.thinline"}), 0) << m_err.str();
    }
    void write(const std::string& name, const std::string& text) {
        ASSERT_TRUE(m_store.writeWhole(name, base::Bytes(text.begin(), text.end())));
    }
};

// What was printed on a piece that is gone stays with what came of it, and is never laid where its piece is not.
TEST_F(PrintCommands, APrintIsNotRaisedPastWhatItsPieceWasJoinedBy) {
    write("pair.svg",
          "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='60mm' viewBox='0 0 120 60'>"
          "<path d='M0 0H60V60H0Z' fill='#ffffff'/><path d='M50 0H120V60H50Z' fill='#ffffff'/></svg>");
    const auto reds = [this](const std::string& file) {
        std::vector<std::uint8_t> out;
        for (const job::Print& one : job::printsOn(state(file), state(file).made.pieces->now.at(0).id, {}))
            out.push_back(one.face.colour[0]);
        return out;
    };
    for (const auto& [piece, isMoved] : {std::pair{"1:2", false}, std::pair{"1:1", true}}) {
        ASSERT_EQ(call({"import", "pair.svg", "--job", "pair.thinline"}), 0) << m_err.str();
        ASSERT_EQ(call({"face", "pair.thinline", "--on", piece, "--colour", "ff0000"}), 0) << m_err.str();
        ASSERT_EQ(call({"shape", "pair.thinline", "--do", "join", "--on", "all"}), 0) << m_err.str();
        ASSERT_EQ(call({"face", "pair.thinline", "--on", "all", "--colour", "00ff00"}), 0) << m_err.str();
        ASSERT_EQ(reds("pair.thinline"), (std::vector<std::uint8_t>{255, 0}));
        EXPECT_EQ(call({"face", "pair.thinline", "--on", "all", "--step", "1", "--up"}) == 0, isMoved);
        EXPECT_EQ(m_err.str().find("was joined or taken apart since") != std::string::npos, !isMoved);
        EXPECT_EQ(reds("pair.thinline"),
                  isMoved ? (std::vector<std::uint8_t>{0, 255}) : (std::vector<std::uint8_t>{255, 0}));
    }
}

// From a picture to a sheet of stickers that can be cut: printed, down to the carrier, and one through it.
TEST_F(PrintCommands, APictureBecomesASheetOfStickers) {
    raster::Picture buoy{300, 200, std::vector<std::uint8_t>(300 * 200 * 3, 255)};
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 300; ++x)
            if (std::hypot(x - 150, y - 100) < 80)
                for (int c = 0; c < 3; ++c)
                    buoy.rgb[static_cast<size_t>((y * 300 + x) * 3 + c)] = c == 0 ? 200 : 40;
    ASSERT_TRUE(m_store.writeWhole("buoy.png", formats::image::encodePng(buoy)));
    ASSERT_EQ(call({"sticker", "buoy.png", "--width", "50mm", "--rim", "2mm", "--licence", "own", "--job",
                    "b.thinline"}),
              0)
        << m_err.str();
    EXPECT_TRUE(told("1 sticker of buoy.png, 50.0")) << m_out.str();
    const job::State one = state("b.thinline");
    ASSERT_EQ(one.made.work()->pieces.size(), 1u);
    EXPECT_NEAR(geometry::bounds(one.made.work()->pieces[0].shape()).width(), 50, 0.1);
    EXPECT_EQ(one.made.work()->pieces[0].piece.body->faces.size(), 1u);
    ASSERT_EQ(call({"sticker", "buoy.png", "--width", "30mm", "--through", "--into", "b.thinline"}), 0)
        << m_err.str();
    ASSERT_EQ(call({"sheets", "b.thinline", "--out", "out"}), 0) << m_err.str();
    ASSERT_EQ(call({"plan", "out/b.thinline"}), 0) << m_err.str();
    EXPECT_TRUE(told("only down to the carrier")) << m_out.str();
    EXPECT_TRUE(told("through the carrier too")) << m_out.str();
    ASSERT_EQ(call({"print", "out/b.thinline", "--out", "printed"}), 0) << m_err.str();
    ASSERT_EQ(call({"pack", "out/b.thinline", "--out", "packed"}), 0) << m_err.str();
    EXPECT_NE(call({"sticker", "sea.png", "--job", "no.thinline"}), 0) << "it has no ground";
    EXPECT_NE(m_err.str().find("no even colour"), std::string::npos) << m_err.str();
    EXPECT_NE(call({"sticker", "buoy.png", "--width", "3mm", "--job", "no.thinline"}), 0);
    EXPECT_NE(call({"sticker", "card.svg", "--job", "no.thinline"}), 0);
}

TEST_F(PrintCommands, FacesAreLaidToldMovedAndTakenOff) {
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--picture", "sea.png", "--origin", "drawn here",
                    "--licence", "own"}),
              0)
        << m_err.str();
    EXPECT_TRUE(told("dpi"));
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--text", "Tide|card", "--colour", "fafafa"}), 0)
        << m_err.str();
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--square-code", "berth 7"}), 0) << m_err.str();
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--side", "back", "--colour", "204060", "--into",
                    "80a0c0"}),
              0)
        << m_err.str();
    ASSERT_EQ(call({"face", "job.thinline", "--json"}), 0);
    const json faces = json::parse(m_out.str());
    ASSERT_EQ(faces.size(), 4u);
    EXPECT_EQ(faces[0]["kind"], "picture");
    EXPECT_EQ(faces[1]["what"], "text Tide\ncard");
    EXPECT_EQ(faces[3]["side"], "back");
    const std::string running = std::to_string(faces[3]["step"].get<int>());
    ASSERT_EQ(call({"face", "job.thinline", "--step", running, "--into", "010203"}), 0) << m_err.str();
    const job::State recoloured = state();
    for (const design::Face& face : recoloured.made.pieces->now[0].body->faces)
        if (face.side == design::Side::Back) {
            EXPECT_EQ(face.second, (raster::Rgb{1, 2, 3}));
            EXPECT_EQ(face.colour, (raster::Rgb{0x20, 0x40, 0x60}));
        }
    const std::string step = std::to_string(faces[1]["step"].get<int>());
    EXPECT_NE(call({"face", "job.thinline", "--step", step, "--into", "010203"}), 0)
        << "a text runs into nothing";
    const auto before = state().made.pieces->now[0].body->faces[1].place;
    ASSERT_EQ(call({"face", "job.thinline", "--step", step, "--move", "4mm,3mm", "--scale", "0.5"}), 0)
        << m_err.str();
    const auto after = state().made.pieces->now[0].body->faces[1].place;
    EXPECT_NEAR(print::widthOf(after) / print::widthOf(before), 0.5, 1e-6);
    EXPECT_LT(geometry::distance(after({0.5, 0.5}), before({0.5, 0.5}) + Point{4, 3}), 1e-5);
    ASSERT_EQ(call({"face", "job.thinline", "--step", step, "--down"}), 0) << m_err.str();
    EXPECT_EQ(state().made.pieces->now[0].body->faces[0].kind, design::Face::Kind::Text);
    ASSERT_EQ(call({"face", "job.thinline", "--step", step, "--off"}), 0) << m_err.str();
    EXPECT_EQ(state().made.pieces->now[0].body->faces.size(), 3u);
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--png", "seen.png"}), 0) << m_err.str();
    EXPECT_TRUE(m_store.read("seen.png", 1 << 26));
    // What is wrong is said, and nothing is changed.
    for (const std::vector<std::string>& wrong :
         std::vector<std::vector<std::string>>{{"--on", "nobody", "--colour", "ffffff"},
                                               {"--on", "all", "--colour", "red"},
                                               {"--colour", "ffffff"},
                                               {"--on", "all", "--picture", "card.svg"},
                                               {"--on", "all", "--side", "top", "--colour", "ffffff"},
                                               {"--step", "99", "--off"}}) {
        std::vector<std::string> arguments{"face", "job.thinline"};
        arguments.insert(arguments.end(), wrong.begin(), wrong.end());
        EXPECT_NE(call(arguments), 0) << wrong.back();
        EXPECT_FALSE(m_err.str().empty());
    }
    EXPECT_EQ(state().made.pieces->now[0].body->faces.size(), 3u);
}

TEST_F(PrintCommands, PagesAreFoundCalibratedAndTried) {
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--picture", "sea.png"}), 0) << m_err.str();
    ASSERT_EQ(call({"print", "job.thinline", "--dpi", "600", "--printer-margin", "5mm"}), 0) << m_err.str();
    EXPECT_EQ(state().job.print.dpi, 600);
    ASSERT_EQ(call({"print", "job.thinline", "--json"}), 0) << m_err.str();
    const json pages = json::parse(m_out.str());
    ASSERT_EQ(pages.size(), 1u);
    const auto made = support::must(job::make(state().job, job::Stage::Sheets, {}));
    const design::PlacedSheet& sheet = made.made.sheets->loads[0].sheets[0];
    json seen{{"marks", json::array()}, {"page", 1}};
    for (int i = 0; i < 4; ++i)
        seen["marks"].push_back(
            {{"mark", i + 1},
             {"at",
              {pages[0]["marksMm"][static_cast<size_t>(i)][0].get<double>() + sheet.xMm + 1,
               pages[0]["marksMm"][static_cast<size_t>(i)][1].get<double>() + sheet.yMm - 2}}});
    write("seen.json", seen.dump());
    ASSERT_EQ(call({"register", "job.thinline", "--seen", "seen.json", "--plotter", "plt"}), 0)
        << m_err.str();
    EXPECT_TRUE(told("shifted 1.00 mm to the right and 2.00 mm up")) << m_out.str();
    seen["marks"][1]["at"][0] = seen["marks"][1]["at"][0].get<double>() + 5;
    write("seen.json", seen.dump());
    ASSERT_EQ(call({"register", "job.thinline", "--seen", "seen.json"}), 0) << m_err.str();
    EXPECT_TRUE(told("the upper right mark does not fit the others")) << m_out.str();
    for (const char* wrong :
         {"{}", "nonsense", "{\"marks\": [{\"mark\": 1, \"at\": [1]}]}", "{\"marks\": []}",
          "{\"marks\": [{\"mark\": 9, \"at\": [1, 2]}, {\"mark\": 1, \"at\": [1, 2]}, {\"mark\": 2, \"at\": "
          "[1, 2]}]}"}) {
        write("wrong.json", wrong);
        EXPECT_NE(call({"register", "job.thinline", "--seen", "wrong.json"}), 0) << wrong;
    }

    ASSERT_EQ(call({"calibrate", "job.thinline", "--sheet", "cal.pdf", "--cuts", "cal.plt", "--read",
                    "2,-4,2,-", "--accept"}),
              0)
        << m_err.str();
    ASSERT_TRUE(state().job.print.standing);
    EXPECT_NEAR(state().job.print.standing->rightMm, 0.1, 1e-9);
    EXPECT_NEAR(state().job.print.standing->downMm, -0.2, 1e-9);
    ASSERT_EQ(call({"calibrate", "job.thinline", "--forget"}), 0);
    EXPECT_FALSE(state().job.print.standing);
    EXPECT_NE(call({"calibrate", "job.thinline", "--accept"}), 0) << "nothing to accept";
    EXPECT_NE(call({"calibrate", "job.thinline", "--read", "40,0"}), 0);

    ASSERT_EQ(call({"simulate", "job.thinline", "--print", "--seed", "4", "--runs", "200", "--png", "cut.png",
                    "--json"}),
              0)
        << m_err.str();
    EXPECT_NE(call({"simulate", "job.thinline", "--print", "--only", "luck"}), 0);
    ASSERT_EQ(call({"simulate", "job.thinline", "--print", "--seed", "4", "--runs", "200"}), 0);
    EXPECT_TRUE(told("no white edge")) << m_out.str();
    ASSERT_EQ(call({"simulate", "job.thinline", "--print", "--blind", "--seed", "3", "--runs", "200"}), 0);
    EXPECT_TRUE(told("with a white edge")) << m_out.str();
}

// Reference: poppler draws the page at 300 dpi and takes its picture out. Marks lie within 0.02 mm of their place, print where its
// piece is cut, pixels are those of our own picture, and the same job gives the same bytes.
TEST_F(PrintCommands, AnotherProgramSeesThePageAsItIs) {
    namespace fs = std::filesystem;
    for (const char* tool : {"pdftocairo", "pdfimages", "qpdf"})
        ASSERT_EQ(std::system((std::string("command -v ") + tool + " > /dev/null").c_str()), 0)
            << "install poppler-utils and qpdf";
    ASSERT_EQ(call({"face", "job.thinline", "--on", "all", "--picture", "sea.png"}), 0) << m_err.str();
    ASSERT_EQ(call({"print", "job.thinline", "--out", "pages", "--as", "pdf,png"}), 0) << m_err.str();
    const base::Bytes pdf = support::must(m_store.read("pages/print.pdf", 1 << 28));
    ASSERT_EQ(call({"print", "job.thinline", "--out", "again"}), 0);
    EXPECT_EQ(support::must(m_store.read("again/print.pdf", 1 << 28)), pdf) << "reproducible";

    const fs::path folder = fs::temp_directory_path() / ("thinline-print-" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string file = (folder / "print.pdf").string();
    std::ofstream(file, std::ios::binary)
        .write(reinterpret_cast<const char*>(pdf.data()), static_cast<std::streamsize>(pdf.size()));
    EXPECT_EQ(std::system(("qpdf --check '" + file + "' > /dev/null").c_str()), 0);
    ASSERT_EQ(
        std::system(("pdftocairo -png -r 300 -singlefile '" + file + "' '" + (folder / "page").string() + "'")
                        .c_str()),
        0);
    ASSERT_EQ(std::system(("pdfimages -png '" + file + "' '" + (folder / "image").string() + "'").c_str()),
              0);
    const auto bytesOf = [&](const char* name) {
        std::ifstream in(folder / name, std::ios::binary);
        return base::Bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
    };
    const auto drawn = formats::image::decode(bytesOf("page.png")),
               image = formats::image::decode(bytesOf("image-000.png"));
    fs::remove_all(folder);
    ASSERT_TRUE(drawn && image);

    const job::State made = support::must(job::make(state().job, job::Stage::Sheets, {}));
    const job::PrintPage page = job::printPagesOf(made).at(0);
    constexpr double kPxPerMm = 300 / 25.4;
    const auto seen = raster::findTargets(drawn->picture);
    ASSERT_TRUE(seen);
    ASSERT_EQ(seen->size(), 4u);
    for (const Point mark : page.layout.marks) {
        double least = 1e9;
        for (const raster::SeenTarget& target : *seen)
            least = std::min(least, geometry::distance(target.at * (1 / kPxPerMm), mark));
        EXPECT_LT(least, 0.02) << "mm";
    }
    // The picture taken out is ours to the last bit: it is our own page's, cut to what is printed.
    const auto art = support::must(job::decodedArt(made.job, job::facesOf(*made.made.work())));
    const auto ours = job::paintedPage(made, page, false, 300, art);
    ASSERT_TRUE(ours);
    int left = ours->picture.width(), top = ours->picture.height();
    for (int y = 0; y < ours->picture.height(); ++y)
        for (int x = 0; x < ours->picture.width(); ++x)
            if ((ours->picture.pixels()[static_cast<size_t>(y) * static_cast<size_t>(ours->picture.width()) +
                                        static_cast<size_t>(x)] &
                 0xffffff) != 0xffffff) {
                left = std::min(left, x);
                top = std::min(top, y);
            }
    int unlike = 0;
    for (int y = 0; y < image->picture.height; ++y)
        for (int x = 0; x < image->picture.width; ++x) {
            const std::uint32_t pixel =
                ours->picture
                    .pixels()[static_cast<size_t>(y + top) * static_cast<size_t>(ours->picture.width()) +
                              static_cast<size_t>(x + left)];
            const std::uint8_t* other = image->picture.row(y) + 3 * x;
            unlike += other[0] != (pixel >> 16 & 0xff) || other[1] != (pixel >> 8 & 0xff) ||
                              other[2] != (pixel & 0xff)
                          ? 1
                          : 0;
        }
    EXPECT_EQ(unlike, 0);
    // As poppler draws it, the print begins within a pixel of where the cut's bleed does.
    const job::OnPage piece = job::piecesOn(made, page, false).at(0);
    const geometry::Box cut =
        geometry::bounds(geometry::transformed(piece.body->shape, piece.toPage)).grownBy(page.bleedMm);
    const auto isInk = [&](int x, int y) { return drawn->picture.row(y)[3 * x + 2] < 200; };
    const int row = static_cast<int>(cut.centre().y * kPxPerMm),
              column = static_cast<int>(cut.centre().x * kPxPerMm);
    int firstX = 0, firstY = 0;
    while (!isInk(firstX, row))
        ++firstX;
    while (firstY < drawn->picture.height && !isInk(column, firstY))
        ++firstY;
    EXPECT_NEAR(firstX, cut.least.x * kPxPerMm, 1);
    EXPECT_NEAR(firstY, cut.least.y * kPxPerMm, 1);
    const auto png = formats::image::decode(support::must(m_store.read("pages/page 1.png", 1 << 28)));
    ASSERT_TRUE(png && png->dpiX);
    EXPECT_NEAR(*png->dpiX, 300, 0.1);
}

} // namespace
} // namespace thinline::batch
