// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/PlainText.h"
#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "job/SheetSteps.h"
#include "job/TraceSteps.h"
#include "support/BatchRuns.h"
#include "support/Drawings.h"
#include "support/Photos.h"
#include "support/Shadows.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <map>
#include <set>

namespace thinline::batch {
namespace {

class Batch : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        ASSERT_TRUE(m_store.writeWhole("shed.png", support::shedPng()));
        const auto demo = document::DiskFileStore().read(
            std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-lighthouse.thinline", base::kMostFileBytes);
        ASSERT_TRUE(demo);
        ASSERT_TRUE(m_store.writeWhole("demo/gull-point-lighthouse.thinline", *demo));
    }
    std::string text(const std::string& path) {
        const auto bytes = support::must(m_store.read(path, 1 << 28));
        return {bytes.begin(), bytes.end()};
    }
    /// Areas by the id of the written path, read with the reader for any drawing.
    std::map<std::string, double> areas(const std::string& file) {
        std::map<std::string, double> out;
        for (const auto& item : support::must(formats::svg::readSvg(text(file))).items)
            for (const auto& contour : item.contours)
                out[item.id] += geometry::signedArea(contour);
        return out;
    }
};

TEST_F(Batch, TraceWritesDrawingJobAndReport) {
    ASSERT_EQ(call({"trace", "shed.png", "--mode", "lineart", "--width", "240mm", "--min-area=0.5mm2",
                    "--out", "out.svg", "--job", "out.thinline", "--report", "report.json"}),
              kDone)
        << m_err.str();
    const auto drawing = support::must(formats::svg::readDrawing(text("out.svg")));
    ASSERT_EQ(drawing.groups.size(), 3u);
    EXPECT_EQ(drawing.groups[0].id, "backing");
    EXPECT_EQ(drawing.groups[1].id, "ink");
    EXPECT_EQ(drawing.groups[2].paths.size(), 3u);
    EXPECT_NEAR(drawing.widthMm, 240, 1e-9) << "as large as the picture";
    const auto report = nlohmann::json::parse(text("report.json"));
    EXPECT_EQ(report.at("pieces"), 4);
    EXPECT_EQ(report.at("layers").size(), 2u);
    EXPECT_GT(report.at("nodes"), 10);
    EXPECT_GE(report.at("seconds"), 0.0);
    EXPECT_NEAR(report.at("size").at("widthMm").get<double>(), 590.0 / 709 * 240, 0.2)
        << "the wall is 590 of the picture's 709 px";
    EXPECT_TRUE(m_store.has("out.thinline"));
}

TEST_F(Batch, SheetsAndPackAgreeWithTheSameStepsInTheDocument) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "200mm", "--job", "shed.thinline"}), kDone);
    ASSERT_EQ(call({"sheets", "shed.thinline", "--mat", "square12", "--sheet", "a4", "--out", "made"}), kDone)
        << m_err.str();
    job::State wanted = state("shed.thinline");
    wanted.job.plan.sheetId = "a4";
    // The job keeps a millionth of a millimetre.
    const auto areAlike = [](const design::Arrangement& a, const design::Arrangement& b) {
        ASSERT_EQ(a.loads.size(), b.loads.size());
        for (size_t l = 0; l < a.loads.size(); ++l) {
            ASSERT_EQ(a.loads[l].sheets.size(), b.loads[l].sheets.size());
            for (size_t s = 0; s < a.loads[l].sheets.size(); ++s) {
                const auto &x = a.loads[l].sheets[s].pieces, &y = b.loads[l].sheets[s].pieces;
                ASSERT_EQ(x.size(), y.size());
                for (size_t i = 0; i < x.size(); ++i) {
                    EXPECT_EQ(x[i].what, y[i].what);
                    EXPECT_LT(geometry::distance(x[i].pose.at, y[i].pose.at), 1e-5);
                }
            }
        }
    };
    areAlike(*state("made/shed.thinline").made.sheets,
             *support::must(job::laidCloser(wanted, {})).made.sheets);
    ASSERT_EQ(
        call({"sheets", "shed.thinline", "--mat", "square12", "--sheet", "a4", "--boxes", "--out", "boxes"}),
        kDone);
    EXPECT_EQ(*state("boxes/shed.thinline").made.sheets, *support::arranged(wanted).made.sheets);
    for (const char* name : {"load-1-night.svg", "load-2-cream.svg", "overview.png", "contents.txt"})
        EXPECT_TRUE(m_store.has(std::string("made/") + name)) << name;
    ASSERT_EQ(call({"pack", "made/shed.thinline", "--out", "packed"}), kDone);
    EXPECT_EQ(text("packed/load-2-cream.svg"), text("made/load-2-cream.svg"));
}

TEST_F(Batch, OwnSheetSizesAndForbiddenTurns) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "100mm", "--job", "shed.thinline"}), kDone);
    ASSERT_EQ(call({"sheets", "shed.thinline", "--sheet", "150mmx120mm", "--no-turn", "--spacing", "0",
                    "--out", "made"}),
              kDone)
        << m_err.str();
    const job::State made = state("made/shed.thinline");
    EXPECT_EQ(made.job.plan.sheetId, "own");
    EXPECT_DOUBLE_EQ(made.made.sheets->loads[0].sheets[0].widthMm, 150);
    EXPECT_FALSE(made.job.plan.mayTurn);
}

TEST_F(Batch, ACaptionIsToldAndTakenOut) {
    support::Drawing drawing(480, 360);
    drawing.fill(support::rectangle(30.5, 40.5, 420, 200), {47, 111, 143});
    const std::string words = "Gull Point 24";
    const auto word = lettering::setWord(*support::lettersOf(words, {"Lato", "Bold"}),
                                         {words, {"Lato", "Bold"}, lettering::SizeBy::CapHeight, 22});
    for (const lettering::WordPiece& piece : word->pieces)
        drawing.fill(geometry::transformed(piece.shape, geometry::Transform::move({120, 310})),
                     {200, 71, 43});
    ASSERT_TRUE(m_store.writeWhole("caption.png", formats::image::encodePng(drawing.picture())));
    ASSERT_EQ(call({"trace", "caption.png", "--width", "120mm", "--job", "caption.thinline"}), kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("in 1 row look like text"), std::string::npos) << m_out.str();
    EXPECT_NE(m_out.str().find("clear --text"), std::string::npos);
    ASSERT_EQ(call({"clear", "caption.thinline", "--text"}), kDone) << m_err.str();
    EXPECT_EQ(state("caption.thinline").made.work()->pieces.size(), 1u);
    EXPECT_EQ(call({"clear", "caption.thinline", "--text"}), kFailed);
    EXPECT_NE(m_err.str().find("looks as --text means"), std::string::npos) << m_err.str();
    ASSERT_EQ(call({"clear", "caption.thinline", "--bring-back"}), kDone);
    EXPECT_GT(state("caption.thinline").made.work()->pieces.size(), 8u);
}

TEST_F(Batch, SheetsTapedInPairsArePackedMirrored) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "400mm", "--job", "shed.thinline"}), kDone);
    EXPECT_EQ(call({"sheets", "shed.thinline", "--tape", "night", "--out", "no"}), kBadCall)
        << "not on a mat of one sheet";
    EXPECT_NE(m_err.str().find("taped together do not lie"), std::string::npos) << m_err.str();
    ASSERT_EQ(call({"sheets", "shed.thinline", "--mat", "long24", "--tape", "night", "--out", "made"}), kDone)
        << m_err.str();
    const job::State made = state("made/shed.thinline");
    EXPECT_EQ(made.job.plan.tapedStocks, std::set<std::string>{"night"});
    int pairs = 0;
    for (const design::Load& load : made.made.sheets->loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            pairs += sheet.isPair();
            EXPECT_EQ(sheet.isPair(), sheet.stockId == "night");
            for (const design::PlacedPiece& piece : sheet.pieces)
                EXPECT_EQ(piece.pose.isFlipped, sheet.isPair());
        }
    EXPECT_GT(pairs, 0);
    EXPECT_NE(
        text("made/contents.txt").find("two taped edge to edge; the tape is on their backs, which lie up"),
        std::string::npos);
    ASSERT_EQ(call({"sheets", "made/shed.thinline", "--mat", "long24", "--tape", "none", "--out", "again"}),
              kDone)
        << m_err.str();
    EXPECT_TRUE(state("again/shed.thinline").job.plan.tapedStocks.empty());
    EXPECT_EQ(call({"sheets", "shed.thinline", "--tape", "moss", "--out", "no"}), kFailed);
}

TEST_F(Batch, WhatFitsNoSheetIsToldWithTheWaysOut) {
    const std::string plate =
        "<svg xmlns='http://www.w3.org/2000/svg' width='340mm' height='80mm' viewBox='0 0 340 80'>"
        "<path d='M0 0H340V80H0Z' fill='#2244cc'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("plate.svg", {plate.begin(), plate.end()}));
    ASSERT_EQ(call({"import", "plate.svg", "--job", "plate.thinline"}), kDone) << m_err.str();
    EXPECT_EQ(call({"sheets", "plate.thinline", "--out", "no"}), kFailed);
    EXPECT_NE(m_err.str().find("divide the piece at Split"), std::string::npos) << m_err.str();
    EXPECT_EQ(m_err.str().find("tape two sheets"), std::string::npos) << "the mat holds one";
    EXPECT_EQ(call({"sheets", "plate.thinline", "--mat", "long24", "--sheet", "letter", "--out", "no"}),
              kFailed);
    EXPECT_NE(m_err.str().find("tape two sheets together there"), std::string::npos) << m_err.str();
    // The stock was made for the drawing's colour: its name is what is shown of it.
    const std::string name = state("plate.thinline").job.stocks.back().name,
                      id = state("plate.thinline").job.stocks.back().id;
    ASSERT_NE(name, id);
    EXPECT_EQ(call({"sheets", "plate.thinline", "--mat", "long24", "--sheet", "letter", "--tape", name,
                    "--out", "made"}),
              kDone)
        << m_err.str();
    EXPECT_EQ(state("made/plate.thinline").job.plan.tapedStocks, std::set<std::string>{id});
    EXPECT_EQ(call({"layer", "made/plate.thinline", "--of", name, "--stock", "gold"}), kFailed);
    EXPECT_NE(m_err.str().find("choose from"), std::string::npos);
    EXPECT_NE(m_err.str().find(id + " (" + name + ")"), std::string::npos) << m_err.str();
    ASSERT_EQ(call({"layer", "made/plate.thinline", "--new", name}), kDone) << m_err.str();
    EXPECT_EQ(state("made/plate.thinline").job.layers.back().stockId, id);
}

TEST_F(Batch, ScrapsOwnSheetsAndWhatStaysFree) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "100mm", "--job", "shed.thinline"}), kDone);
    const std::string outline = "<svg xmlns='http://www.w3.org/2000/svg' width='130mm' height='140mm' "
                                "viewBox='0 0 130 140'><path d='M0 0H130V110L100 140H0Z' fill='#000'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("torn.svg", {outline.begin(), outline.end()}));
    ASSERT_EQ(call({"sheets", "shed.thinline", "--sheet", "square12,night=150mmx200mm", "--scrap",
                    "cream=torn.svg", "--keep-free", "0,0,30mm,20mm", "--taped-corners", "--lie",
                    "lower-right portrait", "--steps", "500", "--out", "made"}),
              kDone)
        << m_err.str();
    const job::State made = state("made/shed.thinline");
    EXPECT_EQ(made.job.plan.scraps.size(), 1u);
    EXPECT_EQ(made.job.plan.keepOuts.at("square12").size(), 1u);
    EXPECT_TRUE(made.job.plan.areCornersTaped);
    EXPECT_EQ(made.job.plan.lies,
              (design::SheetLie{design::SheetLie::From::LowerRight, design::SheetLie::Way::Portrait}));
    int onScrap = 0;
    for (const design::Load& load : made.made.sheets->loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            onScrap += sheet.scrapId == 1 ? 1 : 0;
            if (sheet.stockId == "night") {
                EXPECT_DOUBLE_EQ(sheet.widthMm, 150);
                EXPECT_GT(sheet.xMm, 140) << "at the right of a mat of 304.8";
            }
        }
    EXPECT_EQ(onScrap, 1);
    EXPECT_NE(text("made/contents.txt").find("the scrap there is"), std::string::npos);
    // What is wrong with the call is said, and nothing is written.
    EXPECT_EQ(call({"sheets", "shed.thinline", "--lie", "sideways", "--out", "no"}), kBadCall);
    EXPECT_NE(m_err.str().find("--lie says 'sideways'"), std::string::npos) << m_err.str();
    EXPECT_EQ(call({"sheets", "shed.thinline", "--scrap", "cream=900mmx20mm", "--out", "no"}), kBadCall);
    EXPECT_NE(m_err.str().find("does not lie on a mat"), std::string::npos) << m_err.str();
    EXPECT_EQ(call({"sheets", "shed.thinline", "--scrap", "moss=80mmx20mm", "--out", "no"}), kFailed);
    EXPECT_EQ(call({"sheets", "shed.thinline", "--keep-free", "1,2", "--out", "no"}), kBadCall);
    EXPECT_FALSE(m_store.has("no/shed.thinline"));
}

TEST_F(Batch, TheDemoRunsWhole) {
    ASSERT_EQ(call({"demo", "--out", "out", "--report", "demo.json"}), kDone) << m_err.str();
    const auto report = nlohmann::json::parse(text("demo.json"));
    EXPECT_EQ(report.at("layers").size(), 7u);
    EXPECT_EQ(report.at("leaks"), 1) << "one gap is closed by hand, one is left to be found";
    EXPECT_EQ(report.at("arrangement").at("unplaced"), 0);
    EXPECT_GT(report.at("pieces"), 60);
    EXPECT_TRUE(m_store.has("out/layers.svg"));
}

struct BadCall {
    std::vector<std::string> arguments;
    int code;
    const char* says;
};

TEST_F(Batch, MistakesAreOneLineOnStandardError) {
    const std::string plate = "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm' "
                              "viewBox='0 0 9 9'><rect width='9' height='9'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("plate.svg", base::Bytes(plate.begin(), plate.end())));
    const BadCall rows[] = {
        {{"dance"}, kBadCall, "no command 'dance'"},
        {{"trace"}, kBadCall, "file is missing"},
        {{"trace", "shed.png", "--wdith", "9mm"}, kBadCall, "no option --wdith"},
        {{"trace", "shed.png", "--width"}, kBadCall, "needs a value"},
        {{"trace", "shed.png", "--width", "wide"}, kBadCall, "not a number"},
        {{"trace", "shed.png", "--width", "0"}, kBadCall, "is zero"},
        {{"trace", "shed.png", "--mode", "magic"}, kBadCall, "mode 'magic'"},
        {{"trace", "shed.png", "--mode", "flat", "--colours", "99"}, kBadCall, "goes from 2 to 32"},
        {{"trace", "shed.png", "--stack", "sideways"}, kBadCall, "use inlay or stacked"},
        {{"trace", "shed.png", "--not-cut", "red"}, kBadCall, "not a colour like"},
        {{"trace", "shed.png", "--threshold", "300"}, kBadCall, "goes from 0 to 254."},
        {{"trace", "plate.svg"}, kBadCall, "take it in by 'thinline-batch import'"},
        {{"trace", "shed.png", "other.png"}, kBadCall, "one argument too many"},
        {{"trace", "nowhere.png"}, kFailed, "nowhere.png"},
        {{"trace", "shed.png", "--again", "1"}, kBadCall, "are for a job"},
        {{"trace", "demo/gull-point-lighthouse.thinline", "--again", "9"}, kFailed, "There is no source '9'"},
        {{"sheets", "shed.png", "--out", "x"}, kFailed, "damaged"},
        {{"sheets", "demo/gull-point-lighthouse.thinline"}, kBadCall, "--out is missing"},
        {{"sheets", "demo/gull-point-lighthouse.thinline", "--mat", "round", "--out", "x"},
         kBadCall,
         "no mat 'round'"},
        {{"sheets", "demo/gull-point-lighthouse.thinline", "--mat", "square12", "--sheet", "long24", "--out",
          "x"},
         kBadCall,
         "does not lie on a mat"},
    };
    for (const BadCall& row : rows) {
        EXPECT_EQ(call(row.arguments), row.code) << m_err.str();
        const std::string line = m_err.str();
        EXPECT_NE(line.find(row.says), std::string::npos) << line;
        EXPECT_EQ(std::count(line.begin(), line.end(), '\n'), 1) << line;
    }
}

TEST_F(Batch, APictureOfUnknownSizeIsTakenAtEightPixelsPerMmAndSaysSo) {
    ASSERT_TRUE(m_store.writeWhole("bare.png", formats::image::encodePng(support::shedPicture())));
    EXPECT_EQ(call({"trace", "bare.png", "--out", "out.svg"}), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("taken as 8 pixels per mm"), std::string::npos) << m_out.str();
    EXPECT_NE(m_out.str().find("Give its width"), std::string::npos);
    EXPECT_NEAR(support::must(formats::svg::readDrawing(text("out.svg"))).widthMm, 709 / 8.0, 1e-6);
}

/// A red sun with a sandy middle over a sea, on white, 8 px per mm.
raster::Picture sunPicture() {
    return support::Drawing(320, 240)
        .fill(support::rectangle(20.5, 150.5, 280, 70), {47, 111, 143})
        .fill(support::disc({160, 80}, 50), {200, 71, 43})
        .fill(support::disc({160, 80}, 20), {242, 234, 216})
        .picture();
}

TEST_F(Batch, FlatArtIsTracedAColourAGroupAndNeighboursShareTheirCurves) {
    ASSERT_TRUE(m_store.writeWhole("sun.png", formats::image::encodePng(sunPicture())));
    ASSERT_EQ(call({"trace", "sun.png", "--mode", "flat", "--px-per-mm", "8", "--out", "out.svg", "--job",
                    "sun.thinline", "--report", "r.json"}),
              kDone)
        << m_err.str();
    const std::string svg = text("out.svg");
    const auto drawing = support::must(formats::svg::readDrawing(svg));
    ASSERT_EQ(drawing.groups.size(), 3u);
    for (const auto& group : drawing.groups)
        EXPECT_EQ(group.id.rfind("colour-", 0), 0u);
    EXPECT_NE(svg.find("fill=\"#c8472b\""), std::string::npos) << "the picture's own colour";
    // The opening of the sun is the outline of its middle, coordinate for coordinate.
    const auto coordinatesOf = [&](const std::string& id) {
        const auto group = svg.find("id=\"" + id), from = svg.find(" d=\"", group) + 4,
                   to = svg.find('"', from);
        std::set<std::string> out;
        std::string number;
        for (const char c : svg.substr(from, to - from) + " ") {
            if (std::isdigit(static_cast<unsigned char>(c)) || c == '.') {
                number += c;
            } else if (!number.empty()) {
                out.insert(number);
                number.clear();
            }
        }
        return out;
    };
    const auto sun = coordinatesOf("colour-c8472b"), middle = coordinatesOf("colour-f2ead8");
    EXPECT_GT(middle.size(), 8u);
    EXPECT_TRUE(std::includes(sun.begin(), sun.end(), middle.begin(), middle.end()));
    EXPECT_EQ(nlohmann::json::parse(text("r.json")).at("colours").size(), 4u);
    const auto areas = this->areas("out.svg");
    EXPECT_NEAR(areas.at("piece-1_area.1"), std::numbers::pi * (50 * 50 - 20 * 20) / 64, 0.1);
    ASSERT_EQ(call({"trace", "sun.png", "--mode", "flat", "--px-per-mm", "8", "--stack", "stacked", "--tuck",
                    "1mm", "--out", "stacked.svg"}),
              kDone);
    EXPECT_NEAR(this->areas("stacked.svg").at("piece-1_area.1"), std::numbers::pi * (50 * 50 - 12 * 12) / 64,
                0.15);
    ASSERT_EQ(call({"trace", "sun.png", "--mode", "flat", "--px-per-mm", "8", "--colours", "3", "--not-cut",
                    "#2f6f8f", "--out", "three.svg"}),
              kDone);
    EXPECT_EQ(support::must(formats::svg::readDrawing(text("three.svg"))).groups.size(), 1u);
}

TEST_F(Batch, ADrawingIsLaidLevelAndTakesTheColoursOfACopy) {
    support::Drawing drawing(400, 300), copy(400, 300);
    const auto askew = geometry::turnAbout({200, 150}, 4 * std::numbers::pi / 180);
    const auto at = [&](double x, double y, double w, double h) {
        return geometry::transformed(support::rectangle(x, y, w, h), askew);
    };
    drawing.ring(at(60, 60, 280, 180), at(68, 68, 264, 164));
    copy.fill(at(60, 60, 280, 180), {47, 111, 143});
    ASSERT_TRUE(m_store.writeWhole("lines.png", formats::image::encodePng(drawing.picture())));
    ASSERT_TRUE(m_store.writeWhole("copy.png", formats::image::encodePng(copy.picture())));
    ASSERT_EQ(call({"trace", "lines.png", "--turn", "auto", "--colours-from", "copy.png", "--px-per-mm", "8",
                    "--job", "lines.thinline", "--out", "out.svg"}),
              kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("turned by -"), std::string::npos) << m_out.str();
    const job::State lines = state("lines.thinline");
    const auto* picture = job::asA<job::Picture>(job::pictureSource(lines.job));
    EXPECT_EQ(picture->tracing->areas.at(0).colour, (raster::Rgb{47, 111, 143}));
    EXPECT_NEAR(picture->recipe.turnDeg, -4, 0.06);
    EXPECT_NEAR(this->areas("out.svg").at("piece-1_area.1"), 264 * 164 / 64.0, 2);
    ASSERT_TRUE(
        m_store.writeWhole("other.png", formats::image::encodePng(support::Drawing(300, 300).picture())));
    EXPECT_NE(call({"trace", "lines.png", "--colours-from", "other.png", "--px-per-mm", "8"}), kDone);
    EXPECT_NE(m_err.str().find("other.png: The coloured copy is 300 x 300"), std::string::npos)
        << m_err.str();
}

TEST_F(Batch, ThinLinesOfATemplateAreWrittenAsFoldsAndKeptInTheJob) {
    support::Drawing drawing(400, 300);
    drawing.ring(support::rectangle(20, 20, 360, 260), support::rectangle(32, 32, 336, 236));
    drawing.ink(support::rectangle(150, 30, 4, 240));
    ASSERT_TRUE(m_store.writeWhole("box.png", formats::image::encodePng(drawing.picture())));
    ASSERT_EQ(call({"trace", "box.png", "--mode", "lineart", "--px-per-mm", "8", "--folds-below", "0.8mm",
                    "--dashes", "fold", "--out", "out.svg", "--job", "box.thinline"}),
              kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("1 fold"), std::string::npos);
    const std::string svg = text("out.svg");
    const auto group = svg.find("id=\"folds\"");
    ASSERT_NE(group, std::string::npos);
    const auto from = svg.find(" d=\"", group) + 4;
    const std::string path = svg.substr(from, svg.find('"', from) - from);
    EXPECT_EQ(path.find('Z'), std::string::npos) << "a fold is open: " << path;
    EXPECT_NEAR(std::stod(path.substr(1)), 152 / 8.0, 0.05) << path;
    const job::State box = state("box.thinline");
    const auto* picture = job::asA<job::Picture>(job::pictureSource(box.job));
    EXPECT_EQ(picture->recipe.foldsBelowMm, 0.8);
    EXPECT_TRUE(picture->recipe.dashesFold);
    ASSERT_EQ(picture->tracing->folds.size(), 1u);
    EXPECT_NEAR(geometry::contourLength(picture->tracing->folds[0]), 236, 2.5);
    // It is a line of its piece, and goes wherever that goes.
    EXPECT_EQ(design::measure(*box.made.work()).lines, 1);
    EXPECT_NE(call({"trace", "box.png", "--px-per-mm", "8", "--dashes", "perhaps"}), kDone);
    EXPECT_NE(m_err.str().find("use cut or fold"), std::string::npos) << m_err.str();
}

TEST_F(Batch, APhotoBecomesLayersOfToneAndTheJobOpensAgain) {
    ASSERT_TRUE(m_store.writeWhole("sun.png", formats::image::encodePng(sunPicture())));
    ASSERT_EQ(call({"trace", "sun.png", "--mode", "photo", "--tones", "3", "--width", "80mm", "--out",
                    "out.svg", "--job", "tones.thinline"}),
              kDone)
        << m_err.str();
    EXPECT_EQ(support::must(formats::svg::readDrawing(text("out.svg"))).groups.size(), 3u);
    const job::State tones = state("tones.thinline");
    EXPECT_EQ(job::asA<job::Picture>(job::pictureSource(tones.job))->recipe.mode, trace::Mode::Photo);
    EXPECT_EQ(tones.made.work()->layers.size(), 3u);
}

TEST_F(Batch, APictureIsTakenForWhatItIsAndSaysWhy) {
    support::Drawing art(400, 300);
    art.fill(support::disc({130, 150}, 90), {47, 111, 143})
        .fill(support::rectangle(240, 60, 120, 180), {200, 71, 43});
    ASSERT_TRUE(m_store.writeWhole("art.png", formats::image::encodePng(art.picture())));
    ASSERT_EQ(call({"trace", "art.png", "--px-per-mm", "8", "--job", "art.thinline"}), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("taken for flat colours: 3 colours"), std::string::npos) << m_out.str();
    EXPECT_EQ(job::asA<job::Picture>(job::pictureSource(state("art.thinline").job))->recipe.mode,
              trace::Mode::FlatArt);
    support::Drawing board(400, 300);
    board.fill(support::rectangle(-1, -1, 402, 302), {22, 24, 26});
    board.fill(support::rectangle(60, 60, 200, 160), {240, 240, 240})
        .fill(support::rectangle(66, 66, 188, 148), {22, 24, 26});
    ASSERT_TRUE(m_store.writeWhole("board.png", formats::image::encodePng(board.picture())));
    ASSERT_EQ(call({"trace", "board.png", "--px-per-mm", "8", "--job", "board.thinline"}), kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("light lines on a dark ground"), std::string::npos) << m_out.str();
    const job::State traced = state("board.thinline");
    EXPECT_EQ(job::tracingOf(traced.job)->areas.size(), 1u);
    EXPECT_TRUE(job::asA<job::Picture>(job::pictureSource(traced.job))->recipe.isLightOnDark)
        << "kept in the job";
    // Traced again it stays what it was taken for; a box taken out by hand is out.
    ASSERT_EQ(call({"trace", "board.thinline", "--invert", "no", "--erase-box", "0mm,0mm 5mm,5mm"}), kDone)
        << m_err.str();
    const job::State now = state("board.thinline");
    const auto* again = job::asA<job::Picture>(job::pictureSource(now.job));
    EXPECT_FALSE(again->recipe.isLightOnDark);
    EXPECT_EQ(again->recipe.erasures.size(), 1u);
}

TEST_F(Batch, AShadowIsTakenOutOrToldAndTheAnswerStaysWithTheJob) {
    support::Drawing drawing(600, 420);
    drawing.fill(support::rectangle(200, 40, 340, 70), {47, 111, 143})
        .fill(support::rectangle(180, 140, 300, 60), {200, 71, 43})
        .fill(support::rectangle(100, 340, 300, 50), {92, 140, 80});
    ASSERT_TRUE(m_store.writeWhole("quay.png", formats::image::encodePng(support::inShadow(drawing.picture(), 0.6))));
    const auto trace = [this](std::vector<std::string> args) {
        args.insert(args.begin(), "trace");
        EXPECT_EQ(call(args), kDone) << m_err.str();
        return *job::asA<job::Picture>(job::pictureSource(state("quay.thinline").job));
    };
    const job::Picture out = trace({"quay.png", "--mode", "flat", "--px-per-mm", "8", "--job", "quay.thinline"});
    EXPECT_NE(m_out.str().find("A shadow over 20.4 cm² was taken out: there it is 60 % as light"), std::string::npos) << m_out.str();
    ASSERT_TRUE(out.tracing->shadow);
    EXPECT_TRUE(out.tracing->shadow->isTakenOut);
    EXPECT_EQ(out.tracing->areas.size(), 3u);
    const job::Picture paint = trace({"quay.thinline", "--mode", "flat", "--dark-part", "paint"});
    EXPECT_EQ(m_out.str().find("shadow"), std::string::npos) << "nobody is told what she said herself";
    EXPECT_EQ(paint.recipe.darkPart, trace::DarkPart::Paint);
    ASSERT_TRUE(paint.tracing->shadow);
    EXPECT_FALSE(paint.tracing->shadow->isTakenOut);
    EXPECT_GT(paint.tracing->areas.size(), 4u);
    const job::Picture still = trace({"quay.thinline", "--mode", "flat", "--smoothness", "0.9"});
    EXPECT_EQ(still.recipe.darkPart, trace::DarkPart::Paint) << "decided once";
    EXPECT_NE(call({"trace", "quay.png", "--dark-part", "night"}), kDone);
    EXPECT_NE(m_err.str().find("use unsaid, shadow or paint"), std::string::npos) << m_err.str();
}

TEST_F(Batch, ASheetInAPhotoIsLaidStraightAtItsSize) {
    support::Drawing sheet(888, 630);
    sheet.ring(support::rectangle(100, 190, 252, 252), support::rectangle(106, 196, 240, 240));
    const std::array<geometry::Point, 4> corners{{{190, 110}, {850, 150}, {905, 640}, {120, 575}}};
    ASSERT_TRUE(m_store.writeWhole(
        "table.png", formats::image::encodePng(support::photographed(sheet.picture(), corners, 1024, 768))));
    ASSERT_EQ(call({"trace", "table.png", "--rectify", "A6", "--job", "table.thinline"}), kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("a sheet of 148.0 x 105.0 mm"), std::string::npos) << m_out.str();
    const job::State laid = state("table.thinline");
    const auto* picture = job::asA<job::Picture>(job::pictureSource(laid.job));
    ASSERT_TRUE(picture->sheet) << "kept in the job";
    ASSERT_EQ(picture->tracing->areas.size(), 1u);
    const double mm = job::mmPerPx(*job::pictureSource(laid.job));
    EXPECT_NEAR(geometry::area(picture->tracing->areas[0].shape) * mm * mm, 1600, 16);
    EXPECT_NE(call({"trace", "table.png", "--rectify", "A6", "--width", "200mm"}), kDone);
    EXPECT_NE(call({"trace", "table.png", "--rectify", "much"}), kDone);
    EXPECT_NE(m_err.str().find("say A3, A4"), std::string::npos) << m_err.str();
    EXPECT_NE(call({"trace", "table.png", "--rectify", "A6", "--corners", "1,2 3"}), kDone);
    EXPECT_NE(m_err.str().find("--corners takes four places"), std::string::npos) << m_err.str();
}

TEST_F(Batch, HelpStatesEveryDefault) {
    for (const char* command : {"trace", "sheets", "pack", "demo"}) {
        EXPECT_EQ(call({command, "--help"}), kDone);
        EXPECT_NE(m_out.str().find("Exit codes"), std::string::npos) << command;
    }
    call({"trace", "--help"});
    for (const char* stated :
         {"Default: 0.5mm2", "Default: auto", "Default: 3mm", "Default: 1.", "Default: 0."})
        EXPECT_NE(m_out.str().find(stated), std::string::npos) << stated;
    EXPECT_EQ(call({}), kBadCall);
    EXPECT_EQ(call({"--help"}), kDone);
}

constexpr const char* kPlates =
    "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
    "<path id='wall' d='M0 0h40v40h-40z'/><path id='door' fill-rule='evenodd' "
    "d='M50 0h10v40h-10z M52 10h6v0.8h-6z'/></svg>";
constexpr const char* kBar =
    "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
    "<path id='bar' d='M-5 15h70v10h-70z'/></svg>";

TEST_F(Batch, ShapeCommandsKeepIdsAndTellSizes) {
    const auto put = [&](const char* name, const std::string& svg) {
        ASSERT_TRUE(m_store.writeWhole(name, base::Bytes(svg.begin(), svg.end())));
    };
    put("plates.svg", kPlates);
    put("bar.svg", kBar);
    put("dust.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
                    "<path d='M20 20L50 20L20 20z M7 4h0v0z'/></svg>");
    const struct {
        std::vector<std::string> arguments;
        std::map<std::string, double> areas;
    } rows[] = {
        {{"weld", "plates.svg", "bar.svg"}, {{"weld", 1600 + 400 - 4.8 + 10 * (5 + 10 + 5)}}},
        {{"subtract", "plates.svg", "bar.svg"},
         {{"wall-1", 600}, {"wall-2", 600}, {"door-1", 150 - 4.8}, {"door-2", 150}}},
        {{"intersect", "plates.svg", "bar.svg"}, {{"wall", 400}, {"door", 100}}},
        {{"slice", "plates.svg", "bar.svg"},
         {{"wall-in-bar", 400},
          {"wall-outside-1", 600},
          {"wall-outside-2", 600},
          {"door-in-bar", 100},
          {"door-outside-1", 150},
          {"door-outside-2", 150 - 4.8}}},
        {{"divide", "plates.svg", "bar.svg"},
         {{"wall-1", 600},
          {"wall-2", 600},
          {"door-1", 150},
          {"door-2", 150 - 4.8},
          {"wall+bar", 400},
          {"door+bar", 100},
          {"bar-1", 100},
          {"bar-2", 50},
          {"bar-3", 50}}},
        {{"offset", "bar.svg", "--by", "2mm", "--join", "mitre", "--count", "2"},
         {{"offset-1", 74 * 14}, {"offset-2", 78 * 18}}},
        {{"offset", "bar.svg", "--by=-2mm"}, {{"offset-1", 66 * 6}}},
        {{"weld", "plates.svg", "dust.svg", "bar.svg"},
         {{"weld", 1600 + 400 - 4.8 + 10 * (5 + 10 + 5)}}}, // dust is left out
    };
    for (const auto& row : rows) {
        std::vector<std::string> arguments = row.arguments;
        arguments.insert(arguments.end(), {"--out", "out.svg"});
        SCOPED_TRACE(row.arguments[0]);
        ASSERT_EQ(call(arguments), kDone) << m_err.str();
        std::map<std::string, double> left = areas("out.svg");
        ASSERT_EQ(left.size(), row.areas.size());
        double found = 0, wanted = 0;
        for (const auto& [id, size] : row.areas) {
            EXPECT_TRUE(left.contains(id)) << id;
            found += left[id];
            wanted += size;
        }
        EXPECT_NEAR(found, wanted, 0.01);
    }
    ASSERT_EQ(call({"measure", "plates.svg", "--json"}), kDone);
    const auto measured = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(measured.at("paths").size(), 2u);
    const auto& door = measured.at("paths")[1];
    EXPECT_EQ(door.at("id"), "door");
    EXPECT_NEAR(door.at("areaMm2").get<double>(), 400 - 4.8, 1e-6);
    EXPECT_NEAR(door.at("lengthMm").get<double>(), 100 + 13.6, 1e-6);
    EXPECT_EQ(door.at("nodes"), 8);
    EXPECT_NEAR(door.at("openings")[0].at("widthMm").get<double>(), 0.8, 1e-6);
    EXPECT_NEAR(door.at("narrowestNeck").at("widthMm").get<double>(), 2, 0.1);
    EXPECT_NEAR(door.at("narrowestGap").at("widthMm").get<double>(), 0.8, 0.05);
}

TEST_F(Batch, ImportTakesADrawingAsItIs) {
    const std::string unitless =
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 720 360'><rect width='360' height='180' "
        "fill='#c8472b'/><circle cx='500' cy='100' r='72' fill='#c8472b'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("plate.svg", base::Bytes(unitless.begin(), unitless.end())));
    const std::string stated = kBar;
    ASSERT_TRUE(m_store.writeWhole("bar.svg", base::Bytes(stated.begin(), stated.end())));
    const std::pair<std::vector<std::string>, double> rows[] = {
        {{"import", "plate.svg", "--job", "j.thinline"}, 360 * 25.4 / 96},
        {{"import", "plate.svg", "--job", "j.thinline", "--unit", "90"}, 360 * 25.4 / 90},
        {{"import", "plate.svg", "--job", "j.thinline", "--unit", "72"}, 360 * 25.4 / 72},
        {{"import", "plate.svg", "--job", "j.thinline", "--width", "10 in"}, 127},
    };
    for (const auto& [arguments, width] : rows) {
        ASSERT_EQ(call(arguments), kDone) << m_err.str();
        const job::State plate = state("j.thinline");
        ASSERT_EQ(plate.made.work()->layers.size(), 1u);
        ASSERT_EQ(plate.made.work()->pieces.size(), 2u);
        EXPECT_NEAR(geometry::bounds(plate.made.work()->pieces[0].shape()).width(), width, 1e-4);
    }
    ASSERT_EQ(call({"sheets", "j.thinline", "--out", "made"}), kDone) << m_err.str();
    EXPECT_EQ(call({"import", "bar.svg", "--job", "b.thinline", "--unit", "90"}), kBadCall);
    EXPECT_EQ(call({"import", "plate.svg", "--job", "b.thinline", "--unit", "100"}), kBadCall);
    EXPECT_EQ(call({"import", "plate.svg", "--job", "b.thinline", "--unit", "90", "--width", "3in"}),
              kBadCall);
    EXPECT_FALSE(m_store.has("b.thinline"));
}

// Scale arithmetic of the trade, as common practice has it: a part of 190 x 140 mm on a mat with 292.1 x
// 596.9 mm usable, turned so that the 140 mm side lies across, scales by 292.1 / 140 = 2.086.
TEST_F(Batch, SizeAndFitAgreeWithTheWorkedExample) {
    const std::string part =
        "<svg xmlns='http://www.w3.org/2000/svg' width='190mm' height='140mm' viewBox='0 0 190 140'>"
        "<path d='M0 0h190v140h-190z'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("part.svg", base::Bytes(part.begin(), part.end())));
    ASSERT_EQ(call({"import", "part.svg", "--job", "part.thinline"}), kDone) << m_err.str();
    ASSERT_EQ(call({"fit", "part.thinline", "--json"}), kDone) << m_err.str();
    const auto table = nlohmann::json::parse(m_out.str());
    const auto& fits = table.at("fits");
    const auto row =
        std::find_if(fits.begin(), fits.end(), [](const auto& r) { return r.at("id") == "long24"; });
    ASSERT_NE(row, fits.end()) << table.dump(1);
    EXPECT_NEAR(row->at("scale").get<double>(), 292.1 / 140, 1e-6);
    EXPECT_NEAR(std::abs(row->at("turnedDegrees").get<double>()), 90, 1e-6);
    ASSERT_EQ(call({"size", "part.thinline", "--fit", "long24", "--job", "large.thinline"}), kDone)
        << m_err.str();
    const auto box = [&](const char* file) { return support::workBox(state(file)); };
    EXPECT_NEAR(box("large.thinline").width(), 396.4, 0.05);
    ASSERT_EQ(call({"size", "part.thinline", "--height", "70mm"}), kDone);
    EXPECT_NEAR(box("part.thinline").width(), 95, 1e-6);
    ASSERT_EQ(call({"size", "part.thinline", "--height", "3in", "--width", "2in"}), kDone);
    EXPECT_NEAR(box("part.thinline").width(), 50.8, 1e-6);
    EXPECT_NEAR(box("part.thinline").height(), 76.2, 1e-6);
    for (const std::vector<std::string>& wrong : {std::vector<std::string>{"size", "part.thinline"},
                                                  {"size", "part.thinline", "--fit", "a4", "--width", "3in"},
                                                  {"size", "part.thinline", "--fit", "moon"},
                                                  {"size", "part.thinline", "--width", "0"},
                                                  {"size", "part.thinline", "--width", "9m"}})
        EXPECT_EQ(call(wrong), kBadCall) << wrong.back();
}

TEST_F(Batch, WordsAndFiguresBecomeOneJob) {
    ASSERT_EQ(call({"words", "HILT", "--height", "60mm", "--overlap", "4mm", "--join", "--out", "o.svg",
                    "--job", "j.thinline"}),
              kDone)
        << m_err.str();
    const job::State word = state("j.thinline");
    ASSERT_EQ(word.made.work()->pieces.size(), 1u) << "joined";
    EXPECT_NEAR(support::workBox(word).height(), 60, 1e-3);
    EXPECT_EQ(areas("o.svg").size(), 1u);
    ASSERT_EQ(call({"words", "Open", "--font", "Kaushan Script", "--width", "100 mm", "--spacing", "-1",
                    "--stock", "sea", "--into", "j.thinline", "--job", "j.thinline"}),
              kDone)
        << m_err.str();
    ASSERT_EQ(call({"figure", "star", "points=7", "across=3 in", "--into", "j.thinline", "--job",
                    "j.thinline", "--report", "r.json"}),
              kDone)
        << m_err.str();
    const auto sources = state("j.thinline").job.sources;
    ASSERT_EQ(sources.size(), 3u);
    EXPECT_NEAR(sources[1]->box().width(), 100, 1e-3);
    EXPECT_NEAR(std::get<job::Figure>(sources[2]->what).recipe.values[0], 76.2, 1e-9);
    EXPECT_EQ(std::get<job::Figure>(sources[2]->what).recipe.values[1], 7);
    for (const std::vector<std::string>& wrong :
         {std::vector<std::string>{"words", "A"},
          {"words", "A", "--height", "3cm", "--width", "3cm", "--out", "x.svg"},
          {"words", "A", "--stock", "gold", "--out", "x.svg"},
          {"words", " ", "--out", "x.svg"},
          {"figure", "blob", "--out", "x.svg"},
          {"figure", "star", "petals=5", "--out", "x.svg"},
          {"figure", "ring", "inner=80mm", "outer=60mm", "--out", "x.svg"},
          {"figure", "ring", "inner", "--out", "x.svg"}})
        EXPECT_EQ(call(wrong), kBadCall) << wrong[1];
    EXPECT_FALSE(m_store.has("x.svg"));
}

TEST_F(Batch, ImportTakesPartsAndNotesWhereTheyCameFrom) {
    const std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='40mm' height='40mm' viewBox='0 0 40 40'>"
        "<g id='roof'><rect width='10' height='10'/></g><g id='wall'><rect x='20' width='20' "
        "height='10'/></g>"
        "<path d='M0 30H40' fill='none' stroke='#000' stroke-width='2'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("house.svg", base::Bytes(svg.begin(), svg.end())));
    ASSERT_EQ(call({"import", "house.svg", "--only", "wall", "--licence", "own use", "--from", "the office",
                    "--job", "h.thinline"}),
              kDone)
        << m_err.str();
    const job::State house = state("h.thinline");
    EXPECT_EQ(house.made.work()->pieces.size(), 1u);
    EXPECT_NEAR(support::workBox(house).width(), 20, 1e-6);
    EXPECT_EQ(job::originsOf(house.job).lines,
              std::vector<std::string>{"house.svg, from the office: free for own use"});
    ASSERT_EQ(call({"import", "house.svg", "--strokes", "--out", "h.svg"}), kDone) << m_err.str();
    double area = 0;
    for (const auto& [id, size] : areas("h.svg"))
        area += size;
    EXPECT_NEAR(area, 100 + 200 + 80, 0.01);
    EXPECT_EQ(call({"import", "house.svg", "--only", "cellar", "--out", "x.svg"}), kBadCall);
    EXPECT_EQ(call({"import", "house.svg", "--licence", "stolen", "--out", "x.svg"}), kBadCall);
    const std::string dxf =
        "0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\nA\n10\n0\n20\n0\n40\n2\n0\nENDSEC\n0\nEOF\n";
    ASSERT_TRUE(m_store.writeWhole("disc.dxf", base::Bytes(dxf.begin(), dxf.end())));
    for (const auto& [unit, width] :
         std::vector<std::pair<std::string, double>>{{"mm", 4}, {"in", 101.6}, {"cm", 40}}) {
        ASSERT_EQ(call({"import", "disc.dxf", "--unit", unit, "--job", "d.thinline"}), kDone) << m_err.str();
        EXPECT_NEAR(support::workBox(state("d.thinline")).width(), width, 1e-3);
    }
    EXPECT_EQ(call({"import", "disc.dxf", "--unit", "96", "--job", "d.thinline"}), kBadCall);
}

TEST_F(Batch, SizesForObjectsAndCopies) {
    ASSERT_EQ(call({"figure", "rectangle", "width=60mm", "height=80mm", "--job", "r.thinline"}), kDone)
        << m_err.str();
    const auto box = [&] { return support::workBox(state("r.thinline")); };
    ASSERT_EQ(call({"size", "r.thinline", "--circle", "70mm", "--room", "1mm"}), kDone) << m_err.str();
    EXPECT_NEAR(std::hypot(box().width(), box().height()), 68, 1e-3);
    ASSERT_EQ(call({"size", "r.thinline", "--frame", "180x200mm", "--depth", "5mm"}), kDone) << m_err.str();
    EXPECT_NEAR(box().height(), 200, 1e-6);
    ASSERT_EQ(call({"size", "r.thinline", "--frame", "6x20in"}), kDone) << m_err.str();
    EXPECT_NEAR(box().width(), 152.4, 1e-6);
    ASSERT_EQ(call({"size", "r.thinline", "--copies", "14"}), kDone) << m_err.str();
    EXPECT_LT(box().height(), 90);
    for (const std::vector<std::string>& wrong :
         {std::vector<std::string>{"size", "r.thinline", "--copies", "0"},
          {"size", "r.thinline", "--circle", "2mm", "--room", "1mm"},
          {"size", "r.thinline", "--frame", "wide"},
          {"size", "r.thinline", "--frame", "20x30mm", "--copies", "3"}})
        EXPECT_EQ(call(wrong), kBadCall) << wrong[2] << wrong[3];
}

// A rectangle typed as 80 x 50 mm into a job that was enlarged is that large: in the report and in the written file.
TEST_F(Batch, WhatIsAddedToAnEnlargedJobIsAsLargeAsTyped) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "60mm", "--job", "shed.thinline"}), kDone) << m_err.str();
    ASSERT_EQ(call({"size", "shed.thinline", "--width", "242mm"}), kDone) << m_err.str();
    ASSERT_EQ(call({"figure", "rectangle", "width=80mm", "height=50mm", "--stock", "rust", "--into",
                    "shed.thinline", "--job", "shed.thinline", "--out", "o.svg", "--report", "r.json"}),
              kDone)
        << m_err.str();
    const job::State shed = state("shed.thinline");
    const geometry::Box box = support::boxOf(shed, support::id("2:1"));
    EXPECT_NEAR(box.width(), 80, 1e-9);
    EXPECT_NEAR(box.height(), 50, 1e-9);
    EXPECT_EQ(std::get<job::Figure>(shed.job.sources[1]->what).recipe.values[0], 80);
    EXPECT_EQ(std::get<job::Figure>(shed.job.sources[1]->what).recipe.values[1], 50);
    double written = 0;
    for (const auto& [id, area] : areas("o.svg"))
        if (id.find("2_1") != std::string::npos)
            written = area;
    EXPECT_NEAR(written, 80 * 50, 0.01);
    const auto report = nlohmann::json::parse(text("r.json"));
    EXPECT_NEAR(report.at("size").at("widthMm").get<double>(), support::workBox(shed).width(), 0.01);
}

// Margins stay as typed, and the width is hit all the same; or they grow along.
TEST_F(Batch, MarginsStayOrGrowAlong) {
    const job::State grown =
        support::after(support::rectangleJob(60, 40), shape::Action::Offset, {support::id("1:1")}, {3, 1, 0});
    for (const auto& [more, margin] :
         std::vector<std::pair<std::vector<std::string>, double>>{{{}, 3}, {{"--margins-grow"}, 6}}) {
        ASSERT_TRUE(document::saveJob(m_store, "g.thinline", grown));
        std::vector<std::string> arguments{"size", "g.thinline", "--width", "132mm"};
        arguments.insert(arguments.end(), more.begin(), more.end());
        ASSERT_EQ(call(arguments), kDone) << m_err.str();
        const job::State sized = state("g.thinline");
        EXPECT_NEAR(support::workBox(sized).width(), 132, 1e-3);
        EXPECT_NEAR(shape::valuesOf(*sized.job.steps[0])[0], margin, 1e-9);
    }
}

TEST_F(Batch, ShapeCommandsRefuseInOneLine) {
    const std::string svg = kBar, bad = "no drawing";
    ASSERT_TRUE(m_store.writeWhole("bar.svg", base::Bytes(svg.begin(), svg.end())));
    ASSERT_TRUE(m_store.writeWhole("bad.svg", base::Bytes(bad.begin(), bad.end())));
    const std::string dust =
        "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'><path d='M2 2L5 2L2 2z'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("dust.svg", base::Bytes(dust.begin(), dust.end())));
    const std::pair<std::vector<std::string>, int> rows[] = {
        {{"weld", "bad.svg", "--out", "o.svg"}, kFailed},
        {{"weld", "gone.svg", "--out", "o.svg"}, kFailed},
        {{"weld", "dust.svg", "--out", "o.svg"}, kFailed},
        {{"subtract", "bar.svg", "--out", "o.svg"}, kBadCall},
        {{"offset", "bar.svg", "--by", "wide", "--out", "o.svg"}, kBadCall},
        {{"offset", "bar.svg", "--by", "1mm", "--join", "soft", "--out", "o.svg"}, kBadCall},
        {{"offset", "bar.svg", "--by", "1mm", "--count", "0", "--out", "o.svg"}, kBadCall},
        {{"measure"}, kBadCall},
    };
    for (const auto& [arguments, code] : rows) {
        EXPECT_EQ(call(arguments), code) << arguments[0];
        const std::string said = m_err.str();
        EXPECT_EQ(std::count(said.begin(), said.end(), '\n'), 1) << said;
    }
    EXPECT_FALSE(m_store.has("o.svg"));
}

TEST(PlainText, CommandsTheTerminalNothing) {
    std::ostringstream to;
    {
        PlainText plain(to.rdbuf());
        std::ostream out(&plain);
        out << "a\x1b[2Jb\r\tc\n\x7f \xc2\x9b"
            << "1m \xc2\xb2 \xc3\x97 \xe2\x80\xa6 \xc2";
    }
    EXPECT_EQ(to.str(), "a?[2Jb?\tc\n? ?1m \xc2\xb2 \xc3\x97 \xe2\x80\xa6 \xc2");
}

// A disk that is full at the n-th write, for every n: it is told, and the job is the one before or the one after.
TEST(FullDisk, IsToldAtWhicheverWriteAndTheJobStays) {
    const support::MemoryFontStore fonts = support::shippedFonts();
    const support::PagesInPlace pages;
    const std::vector<std::vector<std::string>> calls = {
        {"pack", "shed.thinline", "--out", "packed"},
        {"sheets", "shed.thinline", "--out", "laid"},
        {"lay", "shed.thinline", "--on", "all", "--copies", "2"},
        {"shape", "shed.thinline", "--do", "offset", "--by", "1", "--on", "all"}};
    for (const auto& words : calls) {
        int failures = 0;
        for (int good = 0; good < 30; ++good) {
            support::FailingFileStore store(1000);
            ASSERT_TRUE(document::saveJob(store, "shed.thinline", support::arranged(support::tracedShed())));
            const base::Bytes before = *store.read("shed.thinline", 1 << 28);
            store.fillUpAfter(good);
            std::ostringstream out, err;
            if (run(words, store, fonts, pages, "demo", out, err) == kDone) {
                EXPECT_TRUE(document::loadJob(store, "shed.thinline"));
                break;
            }
            ++failures;
            EXPECT_NE(err.str().find("disk is full"), std::string::npos)
                << words[0] << " " << good << ": " << err.str();
            EXPECT_EQ(*store.read("shed.thinline", 1 << 28), before) << words[0] << " " << good;
        }
        EXPECT_GE(failures, 1) << words[0];
        EXPECT_LT(failures, 30) << words[0];
    }
}

} // namespace
} // namespace thinline::batch
