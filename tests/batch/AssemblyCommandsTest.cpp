// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "formats/image/ImageFile.h"
#include "formats/pdf/ReadPdf.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "job/Numbering.h"
#include "pack/AssemblySheets.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <unistd.h>

namespace thinline::batch {
namespace {

using geometry::Box;

class AssemblyCommands : public support::BatchRuns<testing::TestWithParam<const char*>> {
  protected:
    void take(const std::string& name) {
        const auto demo = document::DiskFileStore().read(std::string(THINLINE_SOURCE_DIR) +
                                                             "/demo/gull-point-" + name + ".thinline",
                                                         base::kMostFileBytes);
        ASSERT_TRUE(demo);
        ASSERT_TRUE(m_store.writeWhole("job.thinline", *demo));
    }
};

class EveryDemo : public AssemblyCommands {};
INSTANTIATE_TEST_SUITE_P(Demos, EveryDemo, testing::Values("lighthouse", "lantern", "pennants", "tall", "tide"));

// The maker who follows the printed steps ends with the job's own stack: every piece once, nothing closed off before.
TEST_P(EveryDemo, StepsLeadToTheJobsStack) {
    take(GetParam());
    const job::State job = state();
    const auto told = job::instructionsOf(job);
    ASSERT_TRUE(told) << told.error().message;
    design::RowMemory rows;
    const assembly::Work work = job::workOf(job, rows);
    const auto done = assembly::replay(*told, work);
    ASSERT_TRUE(done) << done.error().message;
    ASSERT_EQ(done->size(), work.stack.pieces.size());
    const auto middle = [&](design::PieceId piece) {
        return geometry::enclosingCircle({work.stack.find(piece)->shape()}).centre;
    };
    const auto bottom = [&](design::PieceId piece) {
        return work.heights.of[static_cast<size_t>(work.stack.find(piece) - work.stack.pieces.data())]
            .bottomMm;
    };
    const assembly::Replayed& first = done->front();
    double worst = 0;
    for (const assembly::Replayed& one : *done) {
        worst =
            std::max(worst, geometry::distance(one.at - first.at, middle(one.piece) - middle(first.piece)));
        worst = std::max(worst,
                         std::abs(one.bottomMm - first.bottomMm - bottom(one.piece) + bottom(first.piece)));
    }
    EXPECT_LT(worst, 0.01);
}

TEST_P(EveryDemo, NoTextLiesOnAnotherOrLeavesThePage) {
    take(GetParam());
    for (const auto unit : {base::LengthUnit::Millimetre, base::LengthUnit::Inch}) {
        const auto sheets = pack::assemblySheets(state(), pack::paperFor(unit));
        ASSERT_TRUE(sheets) << sheets.error().message;
        const std::vector<formats::pdf::Page>& pages = sheets->pages;
        EXPECT_GE(pages.size(), 4u);
        for (size_t i = 0; i < pages.size(); ++i) {
            const formats::pdf::Page& page = pages[i];
            std::vector<std::pair<Box, std::string>> taken;
            for (const formats::pdf::Painted& one : page.painted)
                if (const auto* line = std::get_if<formats::pdf::Written>(&one)) {
                    const Box box = pack::boxOf(*line);
                    EXPECT_TRUE(box.least.x >= 5 && box.least.y >= 5 && box.most.x <= page.widthMm - 5 &&
                                box.most.y <= page.heightMm - 5)
                        << "page " << i + 1 << ": " << line->text;
                    for (const auto& [other, text] : taken)
                        EXPECT_FALSE(box.least.x < other.most.x && other.least.x < box.most.x &&
                                     box.least.y < other.most.y && other.least.y < box.most.y)
                            << "page " << i + 1 << ": \"" << line->text << "\" on \"" << text << "\"";
                    taken.emplace_back(box, line->text);
                }
        }
    }
}

TEST_F(AssemblyCommands, TellSheetsAndPictures) {
    take("lantern");
    ASSERT_EQ(call({"assembly", "job.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("Glue 2 to 5 (frosted paper) onto the back of 1.")) << m_out.str();
    EXPECT_TRUE(told("Glue and foam: foam 1.0 mm high"));
    ASSERT_EQ(call({"assembly", "job.thinline", "--json"}), kDone) << m_err.str();
    const auto steps = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(steps.size(), 1u);
    EXPECT_EQ(steps[0]["steps"][3]["up"], "back");
    ASSERT_EQ(call({"assembly", "job.thinline", "--pdf", "sheets.pdf", "--paper", "letter"}), kDone)
        << m_err.str();
    // Read by poppler: pages of 8.5 x 11 in, with lines on them.
    const auto page = formats::pdf::readPage(*m_store.read("sheets.pdf", base::kMostFileBytes), 0);
    ASSERT_TRUE(page) << page.error().message;
    EXPECT_NEAR(page->widthMm, 215.9, 0.01);
    EXPECT_NEAR(page->heightMm, 279.4, 0.01);
    const base::Bytes once = *m_store.read("sheets.pdf", base::kMostFileBytes);
    ASSERT_EQ(call({"assembly", "job.thinline", "--pdf", "again.pdf", "--paper", "letter"}), kDone);
    EXPECT_EQ(once, *m_store.read("again.pdf", base::kMostFileBytes)); // the same bytes
    ASSERT_EQ(call({"assembly", "job.thinline", "--png", "pages"}), kDone) << m_err.str();
    EXPECT_TRUE(m_store.read("pages/page-1.png", base::kMostFileBytes));
    ASSERT_EQ(call({"assembly", "job.thinline", "--needs", "needs.csv"}), kDone) << m_err.str();
    ASSERT_EQ(call({"picture", "job.thinline", "--out", "front.png", "--px", "300"}), kDone) << m_err.str();
    EXPECT_TRUE(told("300 × "));
    ASSERT_EQ(call({"picture", "job.thinline", "--out", "slant.png", "--px", "300", "--slant", "35"}), kDone);
    EXPECT_EQ(call({"picture", "job.thinline", "--out", "x.png", "--slant", "80"}), kBadCall);
}

TEST_F(AssemblyCommands, OwnItemsAndWordsAreKeptInTheJob) {
    take("lantern");
    ASSERT_EQ(call({"assembly", "job.thinline", "--item", "a battery light", "--at", "lantern"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"assembly", "job.thinline", "--item", "60 cm of cord"}), kDone) << m_err.str();
    ASSERT_EQ(call({"assembly", "job.thinline", "--step", "7", "--words", "Stand the star on its foam."}),
              kDone)
        << m_err.str();
    ASSERT_EQ(call({"assembly", "job.thinline"}), kDone);
    EXPECT_TRUE(told("Put in a battery light.")) << m_out.str();
    EXPECT_TRUE(told("7  Stand the star on its foam."));
    EXPECT_TRUE(told("Yours: 60 cm of cord"));
    const job::State kept = state(); // saved and opened again
    EXPECT_EQ(kept.job.assembly.items.size(), 2u);
    EXPECT_EQ(kept.job.assembly.texts.size(), 1u);
    ASSERT_EQ(call({"assembly", "job.thinline", "--step", "7"}), kDone) << m_err.str();
    ASSERT_EQ(call({"assembly", "job.thinline", "--remove-item", "1"}), kDone) << m_err.str();
    EXPECT_EQ(state().job.assembly.items.size(), 1u);
    EXPECT_TRUE(state().job.assembly.texts.empty());
    EXPECT_EQ(call({"assembly", "job.thinline", "--remove-item", "5"}), kFailed);
    EXPECT_EQ(call({"assembly", "job.thinline", "--step", "99", "--words", "x"}), kFailed);
    EXPECT_EQ(call({"assembly", "job.thinline", "--item", ""}), kBadCall);
    EXPECT_EQ(call({"assembly", "job.thinline", "--item", std::string(2000, 'x')}), kBadCall);
    EXPECT_EQ(call({"assembly", "job.thinline", "--pdf", "x.pdf", "--paper", "napkin"}), kBadCall);
}

// By area, on every piece: the number's lines lie on the piece and under what covers it, nowhere nearer than 1.4 mm to an edge.
TEST_F(AssemblyCommands, NumbersLieWhereOthersCoverThem) {
    take("lighthouse");
    ASSERT_EQ(call({"assembly", "job.thinline", "--numbers", "scored"}), kDone) << m_err.str();
    const job::State kept = state();
    const design::Stack& work = *kept.made.work();
    const auto numbers = job::instructionsOf(kept);
    ASSERT_TRUE(numbers);
    EXPECT_GT(kept.made.finished->numbers.on, 0);
    EXPECT_EQ(kept.made.finished->numbers.on + kept.made.finished->numbers.without,
              static_cast<int>(work.pieces.size()));
    int on = 0;
    for (size_t i = 0; i < work.pieces.size(); ++i) {
        bool hasNumber = false;
        for (const design::PieceLine& line : work.pieces[i].piece.body->lines) {
            if (numberOf(line.id) < job::kFirstDigit)
                continue;
            hasNumber = true;
            EXPECT_TRUE(std::holds_alternative<design::Score>(line.does));
            for (const geometry::Point p : geometry::flatten(line.path, 0.01)) {
                bool isCovered = false;
                for (size_t k = i + 1; k < work.pieces.size() && !isCovered; ++k)
                    isCovered = geometry::contains(geometry::flatten(work.pieces[k].shape(), 0.01), p) &&
                                !geometry::nearestOnEdge(work.pieces[k].shape(), p, 1.4);
                EXPECT_TRUE(isCovered) << work.pieces[i].id().text();
                EXPECT_FALSE(geometry::nearestOnEdge(work.pieces[i].shape(), p, 1.4));
            }
        }
        on += hasNumber ? 1 : 0;
    }
    EXPECT_EQ(on, kept.made.finished->numbers.on);
    ASSERT_EQ(call({"assembly", "job.thinline", "--numbers", "none"}), kDone) << m_err.str();
    const job::State bare = state();
    for (const design::Laid& laid : bare.made.work()->pieces)
        for (const design::PieceLine& line : laid.piece.body->lines)
            EXPECT_LT(numberOf(line.id), job::kFirstDigit);
    EXPECT_EQ(call({"assembly", "job.thinline", "--numbers", "gold"}), kBadCall);
}

TEST_F(AssemblyCommands, ForWhomItIsMadeAsksWhatIsFree) {
    take("lighthouse"); // of its picture nobody said what may be done with it
    const std::string words = "nobody said what may be done with it, and this work is ";
    ASSERT_EQ(call({"assembly", "job.thinline", "--for", "buyers"}), kDone) << m_err.str();
    EXPECT_TRUE(told(words + "to be sold")) << m_out.str();
    ASSERT_EQ(call({"assembly", "job.thinline", "--for", "others"}), kDone);
    EXPECT_TRUE(told(words + "for others")) << m_out.str();
    ASSERT_EQ(call({"assembly", "job.thinline", "--for", "myself"}), kDone);
    EXPECT_FALSE(told(words));
}

// The tall wall is divided to go onto its mat; whole it fits none, and the table says so.
TEST_F(AssemblyCommands, AVariantMayBeWhole) {
    take("tall");
    ASSERT_EQ(call({"pack", "job.thinline", "--parts", "divided,whole", "--table", "--json"}), kDone)
        << m_err.str();
    const auto rows = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(rows.size(), 2u);
    EXPECT_FALSE(rows[0].contains("whyNot")) << m_out.str();
    EXPECT_TRUE(rows[1].contains("whyNot")) << m_out.str();
    EXPECT_LT(static_cast<int>(rows[1]["pieces"]) + static_cast<int>(rows[1]["tooLarge"]),
              static_cast<int>(rows[0]["pieces"]));
    EXPECT_EQ(call({"pack", "job.thinline", "--parts", "folded", "--table"}), kBadCall);
}

/// Pixels of two pictures held against one another, by their green.
struct Differences {
    int far =
        0; ///< pixels that no pixel of the other one beside them explains, by more than half of black to white
    int many = 0; ///< pixels that differ by more than half
    Differences(const raster::Picture& a, const raster::Picture& b) {
        const auto at = [](const raster::Picture& p, int x, int y) {
            return static_cast<int>(
                p.row(std::clamp(y, 0, p.height - 1))[3 * std::clamp(x, 0, p.width - 1) + 1]);
        };
        for (int y = 0; y < a.height; ++y)
            for (int x = 0; x < a.width; ++x) {
                const int other = at(b, x, y);
                if (std::abs(at(a, x, y) - other) <= 127)
                    continue;
                ++many;
                int least = 255, most = 0;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) {
                        least = std::min(least, at(a, x + dx, y + dy));
                        most = std::max(most, at(a, x + dx, y + dy));
                    }
                far += other < least - 64 || other > most + 64 ? 1 : 0;
            }
    }
};

// References: qpdf finds no fault in the files, poppler with cairo draws the pages as we do at 300 dpi, and reads their text.
TEST_F(AssemblyCommands, OtherProgramsReadTheSheetsAsTheyAre) {
    namespace fs = std::filesystem;
    for (const char* tool : {"qpdf", "pdftocairo", "pdftotext"})
        ASSERT_EQ(std::system((std::string("command -v ") + tool + " > /dev/null").c_str()), 0)
            << "install poppler-utils and qpdf";
    take("lantern");
    const auto sheets = pack::assemblySheets(state(), pack::paperFor(base::LengthUnit::Millimetre));
    ASSERT_TRUE(sheets);
    const auto file = formats::pdf::writePages(sheets->pages, "lantern");
    ASSERT_TRUE(file);
    const fs::path folder = fs::temp_directory_path() / ("thinline-sheets-" + std::to_string(::getpid()));
    fs::create_directories(folder);
    const std::string pdf = (folder / "sheets.pdf").string();
    std::ofstream(pdf, std::ios::binary)
        .write(reinterpret_cast<const char*>(file->data()), static_cast<std::streamsize>(file->size()));
    EXPECT_EQ(std::system(("qpdf --check '" + pdf + "' > /dev/null").c_str()), 0);
    ASSERT_EQ(std::system(("pdftotext -f 2 '" + pdf + "' '" + (folder / "text").string() + "'").c_str()), 0);
    std::ifstream words(folder / "text");
    const std::string text((std::istreambuf_iterator<char>(words)), std::istreambuf_iterator<char>());
    EXPECT_NE(text.find("What you need"), std::string::npos);
    EXPECT_NE(text.find("onto the back of 1"), std::string::npos);
    ASSERT_EQ(std::system(("pdftocairo -png -r 300 -f 5 -l 5 -singlefile '" + pdf + "' '" +
                           (folder / "page").string() + "'")
                              .c_str()),
              0);
    std::ifstream picture(folder / "page.png", std::ios::binary);
    const base::Bytes bytes((std::istreambuf_iterator<char>(picture)), std::istreambuf_iterator<char>());
    fs::remove_all(folder);
    const auto theirs = formats::image::decode(bytes);
    ASSERT_TRUE(theirs) << theirs.error().message;
    const raster::Picture ours = pack::pictureOf(sheets->pages[4], 300 / 25.4);
    ASSERT_NEAR(ours.width, theirs->picture.width, 1);
    const Differences differences(ours, theirs->picture);
    EXPECT_EQ(differences.far, 0) << "of " << ours.pixels();
    EXPECT_LT(differences.many, 0.001 * static_cast<double>(ours.pixels()));
}

} // namespace
} // namespace thinline::batch
