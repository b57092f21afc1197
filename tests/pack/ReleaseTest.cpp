// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Release.h"

#include "formats/plotter/WritePlotter.h"
#include "formats/zip/Archive.h"
#include "job/CutSteps.h"
#include "job/SourceSteps.h"
#include "pack/Checksum.h"
#include "pack/LoadFiles.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

#include <set>

namespace thinline::pack {
namespace {

using design::FoldsAs;

const std::vector<Format> kAll{Format::Svg,       Format::Dxf,        Format::Pdf,   Format::Plotter,
                               Format::SvgFilled, Format::DxfSplines, Format::ByHand};

job::State sign(double width = 60, double height = 40) {
    return support::arranged(support::withFigure(support::rectangleJob(width, height, "sea"),
                                                 construct::Figure::Rectangle, {30, 20}, "lamp"));
}
base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}
const PackedFile* fileIn(const Release& release, const std::string& name) {
    for (const PackedFile& file : release.files)
        if (file.name == name)
            return &file;
    return nullptr;
}

// FIPS 180-4 and NIST's examples for SHA-256: "abc", and nothing.
TEST(Checksum, IsTheStandards) {
    EXPECT_EQ(sha256Of(bytesOf("abc")), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    EXPECT_EQ(sha256Of({}), "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855");
}

// Stars lie in one another's bays: by boxes they need as many sheets or more.
TEST(Variants, CloserLayoutsNeedNoMoreSheetsAndAreTheSameTwice) {
    job::State state = support::rectangleJob(60, 40, "sea");
    for (int i = 0; i < 11; ++i)
        state = support::withFigure(state, construct::Figure::Star, {90, 5, 40}, "sea");
    Variant plain, closer;
    plain.name = closer.name = "x";
    plain.sheetId = closer.sheetId = "letter";
    closer.closerSteps = 20'000;
    const auto quick = madeAs(state, plain), close = madeAs(state, closer), again = madeAs(state, closer);
    ASSERT_TRUE(quick && close && again);
    EXPECT_LE(rowOf(*close, closer).sheets, rowOf(*quick, plain).sheets);
    EXPECT_EQ(*close->made.sheets, *again->made.sheets);
    EXPECT_EQ(rowOf(*close, closer).pieces, 12);
}

TEST(Variants, AreEveryCombinationWithANameOfItsOwn) {
    const auto all = variantsOf({FoldsAs::Score, FoldsAs::Hand}, {"letter", "a4"}, {100, 80});
    ASSERT_TRUE(all) << all.error().message;
    ASSERT_EQ(all->size(), 8u);
    std::set<std::string> names;
    for (const Variant& one : *all)
        names.insert(one.name);
    EXPECT_EQ(names.size(), 8u);
    EXPECT_TRUE(names.contains("hand-a4-80"));
    EXPECT_EQ(variantsOf({}, {}, {})->front().name, "as-it-is");
    EXPECT_FALSE(variantsOf({}, {"tabloid"}, {}));
    const auto own = variantsOf({}, {"a4", "8 x 10 in"}, {});
    ASSERT_TRUE(own) << own.error().message;
    EXPECT_EQ((*own)[1].name, "203x254mm");
    EXPECT_NEAR((*own)[1].ownSheet->widthMm, 203.2, 1e-9);
    EXPECT_FALSE(variantsOf({}, {"2 x 3 m"}, {})) << "no mat takes it";
    EXPECT_FALSE(variantsOf({}, {}, {0}));
    EXPECT_FALSE(variantsOf({}, {}, {std::nan("")}));
    EXPECT_FALSE(variantsOf({FoldsAs::Score, FoldsAs::Score}, {}, {}));
    EXPECT_EQ(variantsOf({}, {}, std::vector<double>(500, 100)).error().code, base::Code::LimitExceeded);
}

TEST(Variants, OneThatFitsNoSheetSaysWhyAndWhatWouldHelp) {
    // 250 x 60 mm on letter turned: 279.4 less two margins of 6.35 is 266.7. At 110 % it is 275 mm wide.
    const job::State state = sign(250, 60);
    const auto variants = variantsOf({}, {"letter"}, {100, 110});
    const auto rows = tableOf(state, *variants);
    ASSERT_TRUE(rows) << rows.error().message;
    EXPECT_TRUE((*rows)[0].canBeCut()) << (*rows)[0].whyNot;
    EXPECT_EQ((*rows)[0].pieces, 2);
    EXPECT_NEAR((*rows)[0].smallestMm, 30, 1e-9);
    ASSERT_FALSE((*rows)[1].canBeCut());
    EXPECT_EQ((*rows)[1].tooLarge, 1);
    // By hand: 275 x 66 turned by 32.5 degrees is 267.4 x 203.4 mm; 266.7 x 203.2 are free: 0.997 of it.
    EXPECT_EQ((*rows)[1].help, "at 99 % it fits");
    EXPECT_NEAR((*rows)[1].widthMm, 1.1 * (*rows)[0].widthMm, 1e-6);
}

TEST(Variants, AStrangerHasNoneOfTheScrapsAndPins) {
    job::State state = sign();
    state.job.plan.scraps.push_back({1, "sea", "left over", {{{0, 0}, {90, 0}, {90, 90}, {0, 90}}}});
    state.job.plan.nextScrap = 2;
    const auto made = madeAs(state, variantsOf({}, {"a4"}, {})->front());
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_TRUE(made->job.plan.scraps.empty());
    EXPECT_EQ(made->job.plan.sheetId, "a4");
    for (const design::Load& load : made->made.sheets->loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            EXPECT_EQ(sheet.scrapId, 0);
    EXPECT_EQ(state.job.plan.scraps.size(), 1u) << "the job is as it was";
}

// Two letter sheets side by side are 431.8 x 279.4 mm: the mat of 12 x 12 in does not hold them, the one of 12 x 24 in does.
TEST(Variants, SheetsTapedTogetherGoOnAMatThatHoldsThePair) {
    job::State state = sign(350, 60);
    const auto variant = variantsOf({}, {"letter"}, {})->front();
    const auto single = madeAs(state, variant);
    ASSERT_TRUE(single) << single.error().message;
    EXPECT_FALSE(rowOf(*single, variant).canBeCut());
    state.job.plan.tapedStocks.insert("sea");
    const auto pair = madeAs(state, variant);
    ASSERT_TRUE(pair) << pair.error().message;
    EXPECT_TRUE(rowOf(*pair, variant).canBeCut()) << rowOf(*pair, variant).whyNot;
    EXPECT_NE(pair->job.plan.matId, single->job.plan.matId);
    ASSERT_FALSE(pair->made.sheets->loads.empty());
    EXPECT_TRUE(pair->made.sheets->loads.front().sheets.front().isPair());
}

TEST(ReleaseTest, EveryFileIsReadBackAndTheSameBytesComeTwice) {
    const job::State state = sign();
    const auto variants = variantsOf({FoldsAs::Score}, {"letter", "square12"}, {});
    const auto release = makeRelease(state, *variants, kAll);
    ASSERT_TRUE(release) << release.error().message;
    for (const ReadBack& one : release->checks)
        EXPECT_TRUE(one.problem.empty()) << one.name << ": " << one.problem;
    // Two loads in two kinds of SVG and DXF and as plotter file, a PDF, one on paper: twelve files a variant; and the design in
    // two styles, the assembly sheets.
    EXPECT_EQ(release->checks.size(), 27u);
    EXPECT_LT(release->worstMm(), kLineToleranceMm);
    EXPECT_NE(fileIn(*release, "1 cut/score-letter/svg/load-1-sea.svg"), nullptr);
    EXPECT_NE(fileIn(*release, "2 pictures/score-square12.png"), nullptr);
    for (const char* name : {"2 pictures/finished work.png", "2 pictures/finished work at a slant.png",
                             "2 pictures/layers/1 sea.png", "2 pictures/score-square12/load-1-sea.png",
                             "3 assembly/assembly sheets.pdf", "3 assembly/what is needed.csv"})
        EXPECT_NE(fileIn(*release, name), nullptr) << name;
    const PackedFile* list = fileIn(*release, kChecksums);
    ASSERT_NE(list, nullptr);
    const std::string sums(list->bytes.begin(), list->bytes.end());
    for (const PackedFile& file : release->files)
        if (&file != list) {
            EXPECT_NE(sums.find(sha256Of(file.bytes) + "  " + file.name + "\n"), std::string::npos)
                << file.name;
        }
    const auto again = makeRelease(state, *variants, kAll);
    ASSERT_TRUE(again);
    ASSERT_EQ(again->files.size(), release->files.size());
    for (std::size_t i = 0; i < again->files.size(); ++i)
        EXPECT_EQ(again->files[i].bytes, release->files[i].bytes) << again->files[i].name;
    EXPECT_EQ(*zipOf(*again, "sign"), *zipOf(*release, "sign"));
    const auto unpacked = formats::zip::readArchive(*zipOf(*release, "sign"));
    ASSERT_TRUE(unpacked);
    EXPECT_EQ(unpacked->size(), release->files.size());
    EXPECT_TRUE(unpacked->contains("sign/read me.txt"));
}

TEST(ReleaseTest, ADamagedDrawingOrPageIsSeen) {
    const std::vector<geometry::Contour> wanted{support::rectangle(10, 10, 30, 20).outline,
                                                support::rectangle(50, 10, 20, 20).outline};
    const auto check = [&](const std::string& paths) {
        return readBackSvg("s",
                           bytesOf("<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' "
                                   "viewBox='0 0 100 50'>" +
                                   paths + "</svg>"),
                           wanted);
    };
    const std::string good = "<path d='M10 10H40V30H10Z'/><path d='M50 10H70V30H50Z'/>";
    EXPECT_EQ(check(good).problem, "");
    EXPECT_EQ(check(good).lines, 2);
    EXPECT_NE(check("<path d='M10 10H40V30H10Z'/>").problem.find("1 lines instead of 2"), std::string::npos);
    EXPECT_NE(
        check("<path d='M10 10H40V30H10Z'/><path d='M51 10H71V30H51Z'/>").problem.find("lies elsewhere"),
        std::string::npos);
    EXPECT_NE(check("<path d='M10 10H40V30H10Z'/><path d='M50 10H55V25H65V10H70V30H50Z'/>")
                  .problem.find("another length"),
              std::string::npos);
    EXPECT_FALSE(readBackSvg("s", bytesOf("no drawing"), wanted).problem.empty());
    formats::pdf::Page page{100, 80};
    page.painted.push_back(formats::pdf::Filled{{wanted.front()}, {10, 20, 30}});
    const auto pdf = formats::pdf::writePages({page, page}, "x");
    ASSERT_TRUE(pdf);
    EXPECT_EQ(readBackPages("p", *pdf, {page, page}).problem, "");
    EXPECT_FALSE(readBackPages("p", *pdf, {page}).problem.empty()) << "a page too many";
    formats::pdf::Page larger = page;
    larger.widthMm = 101;
    EXPECT_FALSE(readBackPages("p", *pdf, {page, larger}).problem.empty());
    EXPECT_FALSE(
        readBackPages("p", *formats::pdf::writePages({page, {100, 80}}, "x"), {page, page}).problem.empty())
        << "an empty page";
}

TEST(ReleaseTest, ADamagedFileIsSeen) {
    const job::State state = sign();
    const auto plan = job::planned(state);
    ASSERT_TRUE(plan);
    const design::Arrangement& sheets = *state.made.sheets;
    LoadFile dxf = dxfFiles(*plan, sheets).front();
    const design::PlannedLoad& planned = *std::find_if(
        plan->loads.begin(), plan->loads.end(), [](const design::PlannedLoad& one) { return one.load == 0; });
    EXPECT_TRUE(readBackDxf("d", dxf.bytes, planned, sheets.loads[0]).problem.empty());
    std::string text(dxf.bytes.begin(), dxf.bytes.end());
    const auto changed = [&](const std::string& from, const std::string& to) {
        std::string out = text;
        out.replace(out.find(from), from.size(), to);
        return bytesOf(out);
    };
    const std::string x = text.substr(text.find("VERTEX"), 60), place = x.substr(x.find(" 10\n") + 4, 6);
    EXPECT_FALSE(
        readBackDxf("d", changed(" 10\n" + place, " 10\n99.000"), planned, sheets.loads[0]).problem.empty());
    EXPECT_FALSE(readBackDxf("d", changed("RULE-50-MM\n 66", "RULE-49-MM\n 66"), planned, sheets.loads[0])
                     .problem.empty());
    EXPECT_FALSE(readBackDxf("d", {}, planned, sheets.loads[0]).problem.empty());
    auto plt = formats::plotter::writePlotter(planned, sheets.loads[0]);
    ASSERT_TRUE(plt);
    std::string lines = plt->front().text;
    EXPECT_TRUE(readBackPlotter("p", bytesOf(lines), planned, 0, sheets.loads[0]).problem.empty());
    EXPECT_FALSE(
        readBackPlotter("p", bytesOf("IN;SP3;PU;SP0;"), planned, 0, sheets.loads[0]).problem.empty());
    lines.insert(lines.find("PD") + 2, "0,0,");
    EXPECT_FALSE(readBackPlotter("p", bytesOf(lines), planned, 0, sheets.loads[0]).problem.empty());
    const auto pdf = pdfFile(*plan, sheets, *state.made.work(), "sign", base::LengthUnit::Millimetre);
    ASSERT_TRUE(pdf);
    EXPECT_TRUE(readBackPdf("l", pdf->bytes, *plan, sheets).problem.empty());
    design::CutPlan other = *plan;
    other.loads[0].passes[0].paths[0].line =
        geometry::transformed(other.loads[0].passes[0].paths[0].line, geometry::Transform::move({0.1, 0}));
    EXPECT_FALSE(readBackPdf("l", pdf->bytes, other, sheets).problem.empty());
}

TEST(ReleaseTest, WhatIsNotInItAnyMoreGoesUnlessSomebodyChangedIt) {
    support::MemoryFileStore store;
    const job::State state = sign();
    const auto both = makeRelease(state, *variantsOf({FoldsAs::Score, FoldsAs::Hand}, {}, {}), {Format::Svg});
    const auto one = makeRelease(state, *variantsOf({FoldsAs::Score}, {}, {}), {Format::Svg});
    ASSERT_TRUE(both && one);
    ASSERT_TRUE(writeRelease(store, "out", *both));
    ASSERT_TRUE(store.writeWhole("out/my notes.txt", bytesOf("mine")));
    const std::string changed = "1 cut/hand/contents.txt";
    ASSERT_TRUE(store.writeWhole("out/" + changed, bytesOf("with my own words")));
    const auto replaced = writeRelease(store, "out", *one);
    ASSERT_TRUE(replaced) << replaced.error().message;
    EXPECT_EQ(replaced->kept, std::vector<std::string>{changed});
    EXPECT_EQ(replaced->gone, static_cast<int>(both->files.size() - one->files.size()) - 1);
    EXPECT_TRUE(store.read("out/my notes.txt", 100));
    EXPECT_FALSE(store.read("out/1 cut/hand/svg/load-1-sea.svg", 1 << 20)) << "somebody would cut it";
    // A list that names what is not inside takes nothing away.
    ASSERT_TRUE(store.writeWhole("secret.txt", bytesOf("abc")));
    ASSERT_TRUE(store.writeWhole("out/checksums.txt", bytesOf(sha256Of(bytesOf("abc")) + "  ../secret.txt\n" +
                                                              sha256Of(bytesOf("abc")) + "  /secret.txt\n")));
    ASSERT_TRUE(writeRelease(store, "out", *one));
    EXPECT_TRUE(store.read("secret.txt", 100));
}

TEST(ReleaseTest, AFullDiskLeavesNothingHalfWritten) {
    const job::State state = sign();
    const auto release = makeRelease(state, *variantsOf({FoldsAs::Score}, {}, {}), kAll);
    ASSERT_TRUE(release);
    const int files = static_cast<int>(release->files.size());
    for (int good = 0; good < files; ++good) {
        support::FailingFileStore store(good);
        const auto written = writeRelease(store, "out", *release);
        ASSERT_FALSE(written) << good;
        EXPECT_EQ(written.error().code, base::Code::IoError);
        if (good < files - 1) { // the list of checksums is the last: all files are whole then
            EXPECT_TRUE(store.list("out").empty()) << good;
        }
    }
    support::FailingFileStore store(files);
    ASSERT_TRUE(writeRelease(store, "out", *release));
    store.fillUpAfter(0);
    EXPECT_TRUE(writeRelease(store, "out", *release)) << "nothing has changed, so nothing is written";
}

TEST(ReleaseTest, WhoseItIsIsCarriedThrough) {
    job::State state = support::made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='80mm' height='60mm' viewBox='0 0 80 60'>"
        "<path fill='#2f6f8f' d='M0 0H80V60H0Z'/></svg>"));
    const auto rightsFor = [&](job::Licence licence) {
        job::Origin origin;
        origin.from = "the harbour office";
        origin.licence = licence;
        job::State now = state;
        now.job = job::withOrigin(state.job, state.job.sources.front()->id, origin);
        const auto release = makeRelease(now, *variantsOf({}, {}, {}), {Format::Svg});
        EXPECT_TRUE(release);
        const PackedFile* page = fileIn(*release, kReadMe);
        EXPECT_NE(std::string(page->bytes.begin(), page->bytes.end()).find("the harbour office"),
                  std::string::npos);
        return release->rights;
    };
    EXPECT_NE(rightsFor(job::Licence::FreeForOwnUse).find("own use only"), std::string::npos);
    EXPECT_NE(rightsFor(job::Licence::Unknown).find("nobody said"), std::string::npos);
    EXPECT_TRUE(rightsFor(job::Licence::Own).empty());
    EXPECT_TRUE(rightsFor(job::Licence::MaySell).empty());
}

TEST(ReleaseTest, NothingIsWrittenOfWhatCannotBe) {
    const job::State state = sign();
    EXPECT_FALSE(makeRelease(state, {}, kAll));
    EXPECT_FALSE(makeRelease(state, *variantsOf({}, {}, {}), {}));
    EXPECT_FALSE(makeRelease(support::emptyState(), *variantsOf({}, {}, {}), kAll));
    const auto none = makeRelease(sign(250, 60), *variantsOf({}, {"letter"}, {130}), kAll);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().message.find("larger than its sheet"), std::string::npos) << none.error().message;
    std::atomic<bool> stop{true};
    EXPECT_EQ(makeRelease(state, *variantsOf({}, {}, {}), kAll, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
}

} // namespace
} // namespace thinline::pack
