// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Opening.h"

#include "job/SourceSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using support::must;

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

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

TEST(Catalogue, BadDataIsRefusedNamingTheEntry) {
    const char* drawer =
        R"({"backing":"n","plain":"n","stocks":[{"id":"n","name":"n","colour":"#000000","thickness":0.3,"grams":200}]})";
    const char* machines =
        R"({"machines":[{"id":"m","name":"m","width":"12 in","longest":"24 in","holders":[["shallow"]],"tools":["shallow"],"readsMarks":false,"force":[20,300]}],"default":"m"})";
    const std::pair<const char*, const char*> rows[] = {
        {"{", "cannot be read"},
        {R"({"mats":[{"id":"m","name":"m","width":"wide","height":"1 in","margin":"1 mm"}],"sheets":[],"defaultMat":"m","defaultSheet":"s"})",
         "'wide'"},
        {R"({"mats":[{"id":"m","name":"m","width":"9 in","height":"9 in","margin":"1 mm"},{"id":"m","name":"m","width":"9 in","height":"9 in","margin":"1 mm"}],"sheets":[],"defaultMat":"m","defaultSheet":"s"})",
         "twice"},
        {R"({"mats":[],"sheets":[],"defaultMat":"m","defaultSheet":"s"})", "default"},
    };
    for (const auto& [formats, says] : rows) {
        const auto out = readCatalogue(formats, drawer, machines);
        ASSERT_FALSE(out) << formats;
        EXPECT_NE(out.error().message.find(says), std::string::npos) << out.error().message;
    }
    const char* good =
        R"({"mats":[{"id":"m","name":"m","width":"9 in","height":"9 in","margin":"1 mm"}],"sheets":[{"id":"s","name":"s","width":"9 in","height":"9 in","margin":"1 mm"}],"defaultMat":"m","defaultSheet":"s"})";
    EXPECT_TRUE(readCatalogue(good, drawer, machines));
    const auto noTool = readCatalogue(
        good, drawer,
        R"({"machines":[{"id":"m","name":"m","width":"12 in","longest":"24 in","holders":[["spoon"]],"tools":[],"readsMarks":false,"force":[20,300]}],"default":"m"})");
    ASSERT_FALSE(noTool);
    EXPECT_NE(noTool.error().message.find("'spoon'"), std::string::npos);
    EXPECT_FALSE(readCatalogue(good, drawer, R"({"machines":[],"default":"m"})"));
    EXPECT_FALSE(readColour("#12345"));
    EXPECT_FALSE(readColour("#12345g"));
    EXPECT_EQ(*readColour("#0a10ff"), (raster::Rgb{10, 16, 255}));
}

TEST(OpenPicture, TakesTheStatedSizeOrSaysThatItGuessed) {
    const auto widthOf = [](const OpenedPicture& opened) {
        return sourceWidthMm(*pictureSource(opened.job));
    };
    const auto stated = support::opened(support::shedPng(), "shed.png");
    EXPECT_NEAR(widthOf(stated), 709 / 300.0 * 25.4, 0.01);
    EXPECT_TRUE(stated.note.empty());
    EXPECT_EQ(stated.job.name, "shed");
    const auto silent = support::opened(formats::image::encodePng(support::shedPicture()), "shed.png");
    EXPECT_DOUBLE_EQ(widthOf(silent), 200);
    EXPECT_NE(silent.note.find("does not state"), std::string::npos);
    const auto absurd = support::opened(formats::image::encodePng(support::shedPicture(), 2.0), "shed.png");
    EXPECT_DOUBLE_EQ(widthOf(absurd), 200);
    EXPECT_NE(absurd.note.find("cannot be meant"), std::string::npos);
    const base::Bytes words{1, 2, 3};
    const auto refused = openPicture(newJob(shippedCatalogue()), {words, "notes.txt", recognise(words)});
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().message.rfind("notes.txt: ", 0), 0u);
}

TEST(Recognise, TellsFilesByWhatTheyHold) {
    struct Row {
        std::string bytes;
        FileKind kind;
        bool isDrawing;
    };
    for (const Row& row : {Row{"\xef\xbb\xbf<?xml version='1.0'?><svg/>", FileKind::Svg, true},
                           Row{"<svg>", FileKind::Svg, true}, Row{"PK\x03\x04", FileKind::Job, false},
                           Row{"\x89PNG....<svg", FileKind::Picture, false},
                           Row{"  0\r\nSECTION\r\n  2\r\nHEADER\r\n", FileKind::Dxf, true},
                           Row{"", FileKind::Picture, false}}) {
        const Recognised is = recognise(bytesOf(row.bytes));
        EXPECT_EQ(is.kind, row.kind) << row.bytes;
        EXPECT_EQ(is.isDrawing, row.isDrawing) << row.bytes;
    }
    const Recognised pdf = recognise(bytesOf("%PDF-1.7\n"));
    EXPECT_EQ(pdf.kind, FileKind::Pdf);
    ASSERT_TRUE(pdf.page) << "its page was looked at; what came of it goes along";
    EXPECT_FALSE(*pdf.page);
}

const std::string kPlate =
    "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 200 100'>"
    "<g id='plates'><path fill='#3c7d8c' d='M10 10h40v40h-40z M100 10h40v40h-40z'/></g>"
    "<g id='dots'><rect x='20' y='20' width='10' height='10' fill='#123456'/></g><image href='a.png'/></svg>";

TEST(OpenDrawing, EveryConnectedAreaIsAPieceInItsColour) {
    const Noted noted = support::openedDrawing(kPlate);
    EXPECT_EQ(noted.job.name, "plate");
    EXPECT_NE(noted.note.find("pictures in other files"), std::string::npos);
    EXPECT_TRUE(unitGuesses(*noted.job.sources[0]).empty()) << "the file states its size";
    const State state = support::made(noted.job);
    const design::Stack& work = *state.made.work();
    ASSERT_EQ(work.layers.size(), 2u);
    EXPECT_EQ(work.in(work.layers[0].id).size(), 2u);
    EXPECT_NEAR(support::boxOf(state, support::id("1:2")).least.x, 50, 1e-6);
    EXPECT_NEAR(geometry::area(support::shapeOf(state, support::id("1:3"))), 25, 1e-6);
    EXPECT_EQ(std::get<Drawing>(state.job.sources[0]->what).file->bytes, bytesOf(kPlate));
    EXPECT_FALSE(pixelsOf(state.job));
}

TEST(OpenDrawing, WithoutASizeTheGuessesAreOffered) {
    const Noted noted =
        support::openedDrawing("<svg xmlns='http://www.w3.org/2000/svg' width='720' height='360'><circle "
                               "cx='100' cy='100' r='50'/></svg>");
    EXPECT_NE(noted.note.find("96 units to the inch"), std::string::npos);
    const auto guesses = unitGuesses(*noted.job.sources[0]);
    ASSERT_EQ(guesses.size(), 3u);
    EXPECT_NEAR(guesses[0].widthMm, 190.5, 1e-9); // SVG and CSS: 96 to the inch
    EXPECT_NEAR(guesses[1].widthMm, 203.2, 1e-9); // from memory
    EXPECT_NEAR(guesses[2].widthMm, 254.0, 1e-9); // from memory
    const State settled = support::made(withSourceWidth(noted.job, SourceId{1}, guesses[2].widthMm));
    EXPECT_NEAR(support::workBox(settled).width(), 100 * 25.4 / 72, 1e-4);
    EXPECT_TRUE(std::get<Drawing>(settled.job.sources[0]->what).isSettled);
    EXPECT_FALSE(withSourceWidth(noted.job, SourceId{1}, 0));
    EXPECT_FALSE(withSourceWidth(noted.job, SourceId{9}, 50));
}

TEST(OpenDrawing, RefusesInASentenceThatNamesTheFile) {
    for (const char* bad :
         {"<svg", "<svg xmlns='http://www.w3.org/2000/svg'/>",
          "<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0L5 5' stroke='red'/></svg>",
          "<svg xmlns='http://www.w3.org/2000/svg' width='99999999in'><rect width='5' height='5'/></svg>",
          "plain words", "%PDF-1.4 and nothing more", "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n"}) {
        const base::Bytes bytes = bytesOf(bad);
        const auto odd = openDrawing(newJob(shippedCatalogue()), {bytes, "odd.svg", recognise(bytes)},
                                     shippedCatalogue(), support::shippedFonts());
        ASSERT_FALSE(odd) << bad;
        EXPECT_EQ(odd.error().message.rfind("odd.svg: ", 0), 0u) << odd.error().message;
    }
}

} // namespace
} // namespace thinline::job
