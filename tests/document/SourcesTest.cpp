// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFontStore.h"
#include "document/Inspection.h"
#include "document/JobFile.h"
#include "document/JobSources.h"
#include "document/SizeAnswers.h"
#include "formats/zip/Archive.h"
#include "support/Fonts.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <iterator>

namespace thinline::document {
namespace {

using support::must;

const support::MemoryFontStore kFonts = support::shippedFonts();

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}
std::string textOf(const base::Bytes& bytes) {
    return {bytes.begin(), bytes.end()};
}

Noted opened(const std::string& svg, const std::string& name = "plate.svg") {
    return must(openDrawing(newJob(shippedCatalogue()), bytesOf(svg), name, shippedCatalogue(), kFonts));
}

lettering::Recipe word(const std::string& text, double sizeMm = 40) {
    lettering::Recipe out;
    out.text = text;
    out.font = kPlainFont;
    out.sizeMm = sizeMm;
    return out;
}

const design::Piece& piece(const Job& job, design::PieceId id) {
    const design::Piece* found = design::findPiece(*job.stack, id);
    if (!found)
        throw std::runtime_error("there is no piece " + std::to_string(id));
    return *found;
}

const std::string kPlate =
    "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 200 100'>"
    "<g id='plates'><path fill='#3c7d8c' d='M10 10h40v40h-40z M100 10h40v40h-40z'/></g>"
    "<g id='dots'><rect x='20' y='20' width='10' height='10' fill='#123456'/></g><image href='a.png'/></svg>";

TEST(OpenDrawing, EveryConnectedAreaIsAPieceInItsColour) {
    const Noted noted = opened(kPlate);
    const Job& job = noted.job;
    const design::PieceId all = design::allOfSource(1);
    EXPECT_EQ(job.name, "plate");
    EXPECT_NE(noted.note.find("pictures skipped"), std::string::npos);
    EXPECT_TRUE(unitGuesses(*job.sources[0]).empty()) << "the file states its size";
    ASSERT_EQ(job.stack->layers.size(), 2u);
    EXPECT_EQ(job.stack->layers[0].pieces.size(), 2u);
    EXPECT_NEAR(geometry::bounds(*piece(job, all + 2).shape).least.x, 50, 1e-6);
    EXPECT_NEAR(geometry::area(*piece(job, all + 3).shape), 25, 1e-6);
    // Saved, opened again: the same to the bit; sized and shaped like any other job.
    const Job back = must(readJob(must(writeJob(job))));
    EXPECT_EQ(*piece(back, all + 3).shape, *piece(job, all + 3).shape);
    EXPECT_EQ(textOf(std::get<Drawing>(back.sources[0]->recipe).file->bytes), kPlate);
    EXPECT_NEAR(designBox(must(resized(back, 130, 40))).width(), 130, 1e-9);
    EXPECT_EQ(must(withShapeStep(back, {shape::Action::CutOut, {all + 1, all + 3}})).shaped->items.size(),
              2u);
    EXPECT_FALSE(pictureOf(job));
}

TEST(OpenDrawing, WithoutASizeTheGuessesAreOffered) {
    const Noted noted = opened("<svg xmlns='http://www.w3.org/2000/svg' width='720' height='360'><circle "
                               "cx='100' cy='100' r='50'/></svg>");
    EXPECT_NE(noted.note.find("96 units to the inch"), std::string::npos);
    const auto guesses = unitGuesses(*noted.job.sources[0]);
    ASSERT_EQ(guesses.size(), 3u);
    EXPECT_NEAR(guesses[0].widthMm, 190.5, 1e-9); // SVG and CSS: 96 to the inch
    EXPECT_NEAR(guesses[1].widthMm, 203.2, 1e-9); // from memory
    EXPECT_NEAR(guesses[2].widthMm, 254.0, 1e-9); // from memory
    const Job settled = must(withDrawingWidth(noted.job, 1, guesses[2].widthMm));
    EXPECT_NEAR(designBox(settled).width(), 100 * 25.4 / 72, 1e-4);
    EXPECT_TRUE(std::get<Drawing>(settled.sources[0]->recipe).isSettled);
    EXPECT_FALSE(withDrawingWidth(noted.job, 1, 0));
    EXPECT_FALSE(withDrawingWidth(noted.job, 9, 50));
}

TEST(OpenDrawing, RefusesInASentenceThatNamesTheFile) {
    for (const char* bad :
         {"<svg", "<svg xmlns='http://www.w3.org/2000/svg'/>",
          "<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0L5 5' stroke='red'/></svg>",
          "<svg xmlns='http://www.w3.org/2000/svg' width='99999999in'><rect width='5' height='5'/></svg>",
          "plain words", "%PDF-1.4 and nothing more", "0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n"}) {
        const auto odd =
            openDrawing(newJob(shippedCatalogue()), bytesOf(bad), "odd.svg", shippedCatalogue(), kFonts);
        ASSERT_FALSE(odd) << bad;
        EXPECT_EQ(odd.error().message.rfind("odd.svg: ", 0), 0u) << odd.error().message;
    }
}

TEST(KindOf, TellsFilesByWhatTheyHold) {
    EXPECT_EQ(kindOf(bytesOf("\xef\xbb\xbf<?xml version='1.0'?><svg/>")), FileKind::Svg);
    EXPECT_EQ(kindOf(bytesOf("<svg>")), FileKind::Svg);
    EXPECT_EQ(kindOf(bytesOf("PK\x03\x04")), FileKind::Job);
    EXPECT_EQ(kindOf(bytesOf("\x89PNG....<svg")), FileKind::Picture);
    EXPECT_EQ(kindOf(bytesOf("%PDF-1.7\n")), FileKind::Pdf);
    EXPECT_EQ(kindOf(bytesOf("  0\r\nSECTION\r\n  2\r\nHEADER\r\n")), FileKind::Dxf);
    EXPECT_EQ(kindOf({}), FileKind::Picture);
}

TEST(Drawing, IsTakenInPartAndTheRestCanBeTakenLater) {
    const Noted noted = opened(kPlate);
    design::TakeOptions some;
    some.leftOut = {"plates"};
    const Job dots = must(withDrawingTaken(noted.job, 1, some, kFonts)).job;
    ASSERT_EQ(dots.shaped->items.size(), 1u);
    const Job again = must(readJob(must(writeJob(dots))));
    EXPECT_EQ(again.shaped->items.size(), 1u);
    EXPECT_EQ(must(withDrawingTaken(again, 1, {}, kFonts)).job.shaped->items.size(), 3u);
    some.leftOut = {"plates", "dots"};
    EXPECT_FALSE(withDrawingTaken(noted.job, 1, some, kFonts));
}

TEST(Drawing, AnotherPageOfAPdfIsTaken) {
    // Two pages of 200 x 100 points: a bar, and two squares (ISO 32000-1; offsets are found again by the
    // reader).
    const std::string pdf =
        "%PDF-1.4\n1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n"
        "2 0 obj\n<< /Type /Pages /Kids [3 0 R 5 0 R] /Count 2 >>\nendobj\n"
        "3 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << >> /Contents 4 0 R "
        ">>\nendobj\n"
        "4 0 obj\n<< /Length 26 >>\nstream\n0 0 1 rg 20 20 144 36 re f \nendstream\nendobj\n"
        "5 0 obj\n<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << >> /Contents 6 0 R "
        ">>\nendobj\n"
        "6 0 obj\n<< /Length 38 >>\nstream\n0 g 10 10 36 36 re f 80 10 36 36 re f  \nendstream\nendobj\n"
        "trailer\n<< /Size 7 /Root 1 0 R >>\n%%EOF\n";
    const Noted noted = opened(pdf, "pages.pdf");
    EXPECT_NE(noted.note.find("page 1 of 2 is taken"), std::string::npos) << noted.note;
    ASSERT_EQ(noted.job.shaped->items.size(), 1u);
    EXPECT_NEAR(designBox(noted.job).width(), 144 * 25.4 / 72, 1e-2);
    design::TakeOptions second;
    second.page = 1;
    const Job other = must(withDrawingTaken(noted.job, 1, second, kFonts)).job;
    EXPECT_EQ(other.shaped->items.size(), 2u);
    EXPECT_EQ(std::get<Drawing>(must(readJob(must(writeJob(other)))).sources[0]->recipe).take.page, 1);
    second.page = 2;
    EXPECT_FALSE(withDrawingTaken(noted.job, 1, second, kFonts));
}

TEST(Words, AWordIsAddedBesideRetypedAndWhatWasBuiltOnItIsBuiltAnew) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {300, 20}}, "night")).job;
    job = must(withWord(job, word("QUAY"), "sea", kFonts)).job;
    const design::PieceId all = design::allOfSource(2), bar = design::allOfSource(1) + 1;
    EXPECT_EQ(job.shaped->items.size(), 5u);
    EXPECT_EQ(design::pieceName(*job.stack, all + 1), "the Q of QUAY (sea)");
    EXPECT_NEAR(geometry::bounds(*piece(job, all + 1).shape).least.x, 310, 1e-3);
    // The whole word moved onto the bar and welded to it: kept as taking the word, not four letters.
    std::vector<design::PieceId> letters;
    for (const SourcePiece& one : job.sources[1]->pieces)
        letters.push_back(one.id);
    job = must(withShapeStep(job, {shape::Action::Move, letters, {-300, 0}}));
    EXPECT_EQ(job.shapeSteps[0].pieces, std::vector<design::PieceId>{all});
    std::vector<design::PieceId> both = letters;
    both.insert(both.begin(), bar);
    job = must(withShapeStep(job, {shape::Action::Join, both}));
    EXPECT_EQ(job.shaped->items.size(), 1u);
    const double before = geometry::area(*job.shaped->items[0].piece.shape);
    const Job longer = must(withWordChanged(job, 2, word("QUAYSIDE"), kFonts)).job;
    ASSERT_EQ(longer.shaped->items.size(), 1u) << "the new letters are welded to the bar too";
    EXPECT_GT(geometry::area(*longer.shaped->items[0].piece.shape), before);
    EXPECT_TRUE(longer.passedOver.empty());
}

TEST(Sources, AGroupIsTheWordOrTheLayerAPieceCameWith) {
    const Job job = must(withWord(opened(kPlate).job, word("HI"), "sea", kFonts)).job;
    const design::PieceId plate = design::allOfSource(1), letter = design::allOfSource(2);
    EXPECT_EQ(groupOf(job, plate + 1), (std::vector<design::PieceId>{plate + 1, plate + 2}));
    EXPECT_EQ(groupOf(job, plate + 3), std::vector<design::PieceId>{plate + 3});
    EXPECT_EQ(groupOf(job, letter + 1), (std::vector<design::PieceId>{letter + 1, letter + 65}));
    const Job less = must(withShapeStep(job, {shape::Action::SetAside, {plate + 2}}));
    EXPECT_EQ(groupOf(less, plate + 1), std::vector<design::PieceId>{plate + 1});
    EXPECT_EQ(groupOf(job, 7), std::vector<design::PieceId>{7});
}

TEST(Words, TheBaselineStaysWhenAWordIsRetyped) {
    Job job = must(withWord(newJob(shippedCatalogue()), word("HHH"), "sea", kFonts)).job;
    job = must(withSourceAt(job, 1, {50, 80}));
    EXPECT_NEAR(designBox(job).most.y, 80, 1e-3);
    EXPECT_NEAR(designBox(job).least.x, 50, 1e-3);
    job = must(withWordChanged(job, 1, word("gHH"), kFonts)).job;
    EXPECT_NEAR(geometry::bounds(*piece(job, design::allOfSource(1) + 65).shape).most.y, 80, 1e-3);
}

TEST(Words, AMissingTypefaceIsToldAndTheOutlinesStayInTheJob) {
    lettering::Recipe recipe = word("HI");
    recipe.font = {"Nowhere Grotesk", "Bold"};
    const Noted noted = must(withWord(newJob(shippedCatalogue()), recipe, "sea", kFonts));
    EXPECT_EQ(
        noted.note,
        "the typeface Nowhere Grotesk Bold is not installed; League Spartan ExtraBold was taken instead");
    const Job back = must(readJob(must(writeJob(noted.job)))); // no font store is asked
    EXPECT_EQ(*piece(back, design::allOfSource(1) + 1).shape,
              *piece(noted.job, design::allOfSource(1) + 1).shape);
    EXPECT_EQ(std::get<lettering::Recipe>(back.sources[0]->recipe), recipe);
    EXPECT_EQ(back.sources[0]->said, noted.note);
}

TEST(Sources, ScaleWithTheDesignAndKeepTheirRecipes) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {100, 40}}, "sea")).job;
    job = must(withFigure(job, {construct::Figure::Ellipse, {40, 40}}, "rust")).job;
    EXPECT_NEAR(designBox(job).width(), 150, 1e-9);
    job = must(scaled(job, 2));
    EXPECT_NEAR(designBox(job).width(), 300, 1e-9);
    EXPECT_NEAR(geometry::bounds(*piece(job, design::allOfSource(2) + 1).shape).width(), 80, 1e-6);
    EXPECT_EQ(std::get<construct::Recipe>(job.sources[0]->recipe).values, (std::vector<double>{100, 40}));
    // Taken out: its pieces, its paint; the number is not given again.
    const Job less = must(withoutSource(job, 1));
    EXPECT_EQ(less.shaped->items.size(), 1u);
    EXPECT_EQ(less.paint.size(), 1u);
    EXPECT_EQ(must(withFigure(less, {}, "sea")).job.sources.back()->number, 3);
    EXPECT_EQ(must(withoutSource(less, 2)).stack, nullptr);
}

TEST(Sources, StandBesideATracedPicture) {
    const Job shed = support::tracedShed();
    const Job job = must(withWord(shed, word("SHED", 10), "signal", kFonts)).job;
    EXPECT_EQ(job.shaped->items.size(), shed.shaped->items.size() + 4);
    EXPECT_EQ(piece(job, 1).shape->outline, piece(shed, 1).shape->outline);
    const Job back = must(readJob(must(writeJob(must(withShapeStep(job, {shape::Action::SetAside, {2}}))))));
    EXPECT_EQ(back.shaped->items.size(), job.shaped->items.size() - 1);
    EXPECT_EQ(back.shaped->scrap.size(), 1u);
}

TEST(Origins, AreKeptAndTheStrictestCounts) {
    Job job = withOrigin(support::tracedShed(), 0, {"my own pen", Licence::Own});
    EXPECT_EQ(originsOf(job).strictest, Licence::Own);
    job = must(withDrawing(job, bytesOf(kPlate), "plate.svg", shippedCatalogue(), kFonts)).job;
    EXPECT_EQ(originsOf(job).strictest, Licence::Unknown);
    job = withOrigin(job, 1, {"the harbour office", Licence::FreeForOwnUse});
    const Job back = must(readJob(must(writeJob(job))));
    EXPECT_EQ(back.origin, (Origin{"my own pen", Licence::Own}));
    EXPECT_EQ(originsOf(back).strictest, Licence::FreeForOwnUse);
    EXPECT_EQ(originsOf(back).lines,
              (std::vector<std::string>{"shed.png, from my own pen: own work",
                                        "plate.svg, from the harbour office: free for own use"}));
    EXPECT_EQ(originsOf(must(withWord(newJob(shippedCatalogue()), word("A"), "sea", kFonts)).job).strictest,
              Licence::Own);
}

/// A plate with a round opening of 30 mm, a disc of 29.6 mm that goes into it with 0.2 mm all round.
struct PlugJob {
    Job job;
    design::PieceId plate, plug;
};
PlugJob plugJob(double plugMm = 29.6) {
    Job job = must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Ring, {60, 30}}, "sea")).job;
    job = must(withFigure(job, {construct::Figure::Ellipse, {plugMm, plugMm}}, "rust")).job;
    const design::PieceId plate = design::allOfSource(1) + 1, plug = design::allOfSource(2) + 1;
    design::Fit fit{plug, plate, design::FitKind::IntoOpening, {0.5, 0.5}, 0.2};
    return {must(withFit(job, fit)), plate, plug};
}

std::vector<std::string> kindsOf(const Job& job) {
    std::vector<std::string> out;
    const auto findings = must(inspect::inspect(subjectOf(job, shippedCatalogue().formats)));
    for (const inspect::Finding& f : findings)
        if (f.kind == inspect::Kind::ScaledAlone || f.kind == inspect::Kind::DoesNotFit ||
            f.kind == inspect::Kind::ExactlyTheSheet || f.kind == inspect::Kind::LargerThanEveryMat)
            out.push_back(f.message + ". " + f.remedy);
    return out;
}

TEST(Fits, AreCheckedForEverAfterAndSolved) {
    const PlugJob it = plugJob();
    auto state = must(fitStateOf(it.job, it.job.fits[0]));
    EXPECT_TRUE(state.isThere);
    EXPECT_NEAR(state.rightScale, 1, 2e-5);
    EXPECT_FALSE(state.jams());
    EXPECT_TRUE(kindsOf(it.job).empty());
    // Everything scales together: the clearance does not, so that a plug half as large jams in its opening.
    const Job half = must(scaled(it.job, 0.5));
    state = must(fitStateOf(half, half.fits[0]));
    EXPECT_TRUE(state.jams());
    EXPECT_NEAR(state.playMm, 14.6 - 14.8, 1e-3); // opening 15, less twice 0.2, against 14.8
    ASSERT_EQ(kindsOf(half).size(), 1u);
    EXPECT_EQ(kindsOf(half)[0],
              "The ellipse (rust) does not go into its opening in the ring (sea): 0.20 mm too "
              "large. With 0.20 mm of clearance the "
              "right size is 14.6 × 14.6 mm. Make it fit at Size.")
        << kindsOf(half)[0];
    const Job made = must(withFitMade(half, 0));
    EXPECT_FALSE(must(fitStateOf(made, made.fits[0])).jams());
    EXPECT_NEAR(geometry::bounds(*piece(made, it.plug).shape).width(), 14.6, 2e-3);
    // Saved and read back, the fit is still there; without its opening it is lost and says so.
    const Job back = must(readJob(must(writeJob(half))));
    EXPECT_EQ(back.fits, half.fits);
    const Job filled = must(withShapeStep(it.job, {shape::Action::FillOpenings, {it.plate}, {5000}}));
    EXPECT_FALSE(must(fitStateOf(filled, filled.fits[0])).isThere);
    EXPECT_EQ(kindsOf(filled).size(), 1u);
}

// Our derivation in the handbook: a lid of diameter Dl over a base of diameter D with a wall of thickness t
// leaves Dl - (D + 2t) in all.
TEST(Fits, ALidOverABaseCountsTheWall) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Ellipse, {63.5, 63.5}}, "sea")).job;
    job = must(withFigure(job, {construct::Figure::Ellipse, {64.77, 64.77}}, "rust")).job; // 0.05 in more
    design::Fit fit{design::allOfSource(1) + 1, design::allOfSource(2) + 1, design::FitKind::LidOver, {}, 0};
    job = must(withFit(job, fit));
    const auto state = must(fitStateOf(job, job.fits[0])); // both stocks are 0.3 mm
    EXPECT_NEAR(state.playMm, 64.77 - (63.5 + 2 * 0.3), 2e-3);
    EXPECT_FALSE(state.jams());
    for (design::Stock& stock : job.stocks)
        stock.thicknessMm = 0.65;      // jams above 0.63
    job = must(withClearance(job, 0)); // the stack is laid anew from the stocks
    EXPECT_TRUE(must(fitStateOf(job, job.fits[0])).jams());
}

TEST(Fits, RefuseWhatMakesNoSense) {
    const PlugJob it = plugJob();
    EXPECT_FALSE(withFit(it.job, {it.plug, it.plug}));
    EXPECT_FALSE(withFit(it.job, {it.plug, 7}));
    EXPECT_FALSE(withFit(it.job, {it.plug, it.plate, design::FitKind::IntoOpening, {0.02, 0.5}}));
    EXPECT_FALSE(withFit(it.job, {it.plug, it.plate, design::FitKind::IntoOpening, {0.5, 0.5}, -1}));
    EXPECT_TRUE(withoutFit(it.job, 0).fits.empty());
}

TEST(Sets, APieceScaledAloneIsToldUntilItIsFree) {
    PlugJob it = plugJob();
    it.job.fits.clear();
    Job job = must(withSet(it.job, "frame and plug", {it.plate, it.plug}));
    EXPECT_FALSE(withSet(job, "", {it.plate}));
    EXPECT_FALSE(withSet(job, "", {it.plate, 99}));
    const Job together =
        must(withShapeStep(job, {shape::Action::SizeAlone, {it.plate, it.plug}, {120, 120}}));
    EXPECT_TRUE(kindsOf(together).empty()) << "the whole set at another scale is no finding";
    const Job alone = must(withShapeStep(job, {shape::Action::SizeAlone, {it.plug}, {120, 120}}));
    ASSERT_EQ(kindsOf(alone).size(), 1u);
    EXPECT_EQ(kindsOf(alone)[0].rfind("The ellipse (rust) was scaled apart from frame and plug", 0), 0u)
        << kindsOf(alone)[0];
    const Job free = withPiecesFree(alone, {it.plug}, true);
    EXPECT_TRUE(kindsOf(free).empty());
    const Job back = must(readJob(must(writeJob(free))));
    EXPECT_EQ(back.sets, free.sets);
    EXPECT_EQ(back.freePieces, free.freePieces);
    EXPECT_EQ(kindsOf(withPiecesFree(back, {it.plug}, false)).size(), 1u);
    EXPECT_TRUE(withoutSet(job, 0).sets.empty());
}

TEST(Findings, APieceExactlyAsLargeAsItsSheet) {
    const auto rectangle = [](double w, double h) {
        return must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {w, h}}, "sea"))
            .job;
    };
    ASSERT_EQ(kindsOf(rectangle(210, 297)).size(), 1u); // A4 by ISO 216
    EXPECT_NE(kindsOf(rectangle(297, 209.8))[0].find("exactly as large as a sheet of A4"), std::string::npos)
        << kindsOf(rectangle(297, 209.8))[0];
    EXPECT_TRUE(kindsOf(rectangle(200, 280)).empty());
    EXPECT_TRUE(kindsOf(rectangle(20, 297)).empty()) << "a strip";
}

TEST(Findings, APieceThatFitsOnlyTurnedIsNotTooLarge) {
    // 640 x 20 mm goes corner to corner onto a mat of 292.1 x 596.9 mm usable; 700 x 20 does not.
    const auto strip = [](double w) {
        return must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {w, 20}}, "sea"))
            .job;
    };
    EXPECT_TRUE(kindsOf(strip(640)).empty());
    EXPECT_EQ(kindsOf(strip(700)).size(), 1u);
    Job job = strip(640);
    job.plan.matId = job.plan.sheetId = "long24";
    EXPECT_TRUE(must(arranged(job, shippedCatalogue().formats)).arrangement->unplaced.empty());
}

TEST(SizeAnswers, TheTableAndTakingFromItAgree) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {190, 140}}, "sea")).job;
    const auto& formats = shippedCatalogue().formats;
    for (const PlaceFit& place : largestOnEach(job, formats)) {
        const Job sized = must(withLargestOn(job, place.id, formats));
        EXPECT_NEAR(designBox(sized).width(), place.widthMm, 1e-6) << place.name;
        EXPECT_NEAR(sheets::largestThatFits(*sized.stack, place.usableWidthMm, place.usableHeightMm).scale, 1,
                    1e-7);
    }
    EXPECT_EQ(withLargestOn(job, "nowhere", formats).error().code, base::Code::NotFound);
    // With margins that do not scale along, the size is still met: the outermost of two offsets touches the
    // mat.
    job = must(withShapeStep(job, {shape::Action::Offset, {design::allOfSource(1) + 1}, {3, 2, 1}}));
    const Job sized = must(withLargestOn(job, "square12", formats));
    const geometry::Box box = designBox(sized);
    EXPECT_NEAR(std::max(box.width(), box.height()), 292.1,
                1e-5); // usable of a 12 x 12 in mat: common practice
}

TEST(SizeAnswers, ObjectsAreSolvedBackwards) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {60, 80}}, "sea")).job;
    const design::PieceId base = design::allOfSource(1) + 1;
    // Seven equal offsets, a layered picture: common practice. The innermost is what the frame leaves of it.
    Job layered = must(withShapeStep(job, {shape::Action::Offset, {base}, {3, 7, 1}}));
    const FrameAnswer framed = must(withinFrame(layered, {180, 240, 0}));
    EXPECT_NEAR(designBox(framed.job).width(), 180, 1e-5);
    double least = 1e9;
    for (const shape::Item& item : framed.job.shaped->items)
        least = std::min(least, geometry::bounds(*item.piece.shape).width());
    EXPECT_NEAR(least, 180 - 2 * 7 * 3, 1e-3);
    // Into a round bauble of 70 mm with 1 mm of room: the diagonal is 68.
    const Job round = must(withinCircle(job, 70, 1));
    EXPECT_NEAR(std::hypot(designBox(round).width(), designBox(round).height()), 68, 1e-4);
    EXPECT_FALSE(withinCircle(job, 2, 1));
}

TEST(SizeAnswers, AFramesDepthBringsTheLiftsDown) {
    Job job =
        must(withFigure(newJob(shippedCatalogue()), {construct::Figure::Rectangle, {60, 80}}, "night")).job;
    for (const char* stock : {"sea", "rust", "lamp"})
        job = must(withFigure(job, {construct::Figure::Rectangle, {50, 70}}, stock)).job;
    job = withLayerLift(withLayerLift(withLayerLift(job, 1, 2), 2, 2), 3, 0.5);
    const double card = 0.4 + 3 * 0.3;
    EXPECT_NEAR(design::measure(*job.stack).heightMm, card + 4.5, 1e-9);
    const FrameAnswer answer = must(withinFrame(job, {300, 100, 4.8}));
    EXPECT_NEAR(answer.stackMm, 4.8, 1e-9);
    EXPECT_NEAR(answer.liftMm, (4.8 - card - 0.5) / 2, 1e-9) << "the low one stays";
    EXPECT_EQ(withinFrame(job, {300, 100, 1}).error().code, base::Code::Degenerate);
    EXPECT_EQ(must(withinFrame(job, {300, 100, 9})).liftMm, 0);
}

TEST(SizeAnswers, ConsequencesAreCounted) {
    const Job job = plugJob().job;
    const auto& formats = shippedCatalogue().formats;
    const Consequences now = must(consequencesOf(job, formats));
    EXPECT_EQ(now.pieces, 2);
    EXPECT_EQ(now.sheets, 2) << "two stocks";
    EXPECT_EQ(now.smallOpenings, 0);
    EXPECT_EQ(must(consequencesOf(must(scaled(job, 0.04)), formats)).smallOpenings, 1);
    const CopiesAnswer six = must(withCopiesOnSheet(job, {design::allOfSource(2) + 1}, 6, formats));
    EXPECT_GT(six.fit.columns * six.fit.rows, 5);
    EXPECT_FALSE(withCopiesOnSheet(job, {}, 0, formats));
}

TEST(JobFile, ADrawingOfFormat2BecomesASource) {
    // As format 2 kept it: areas of a tracing in hundredths of a millimetre, steps and paint by their
    // numbers.
    auto entries = must(formats::zip::readArchive(must(writeJob(newJob(shippedCatalogue())))));
    std::string text = textOf(entries.at("job.json"));
    const auto replace = [&](const std::string& from, const std::string& to) {
        const auto at = text.find(from);
        ASSERT_NE(at, std::string::npos) << from;
        text.replace(at, from.size(), to);
    };
    replace("\"format\": 3", "\"format\": 2");
    replace("\"pictureWidthMm\": 0.0", "\"pictureWidthMm\": 100.0, \"guessedWidthMm\": 50.0");
    replace("\"paint\": {}", "\"paint\": {\"1\": \"sea\", \"2\": \"rust\"}");
    replace("\"nextSource\": 1", "\"artwork\": {\"entry\": \"artwork\", \"fileName\": \"old.svg\", "
                                 "\"mediaType\": \"image/svg+xml\", \"sizePx\": "
                                 "[10000, 5000], \"pixelAspect\": 1}, \"shapeSteps\": [{\"action\": "
                                 "\"offset\", \"pieces\": [2], \"amount\": 1, "
                                 "\"count\": 1, \"join\": \"mitre\"}], \"tracing\": {\"widthPx\": 10000, "
                                 "\"heightPx\": 5000, \"threshold\": 0, "
                                 "\"droppedAreas\": 0, \"droppedSpecks\": 0, \"paper\": \"#ffffff\", "
                                 "\"backing\": [], \"leaks\": [], \"areas\": ["
                                 "{\"id\": 1, \"inside\": [10, 10], \"colour\": \"#3c7d8c\", \"path\": \"M0 "
                                 "0L1000 0L1000 1000L0 1000Z\"}, "
                                 "{\"id\": 2, \"inside\": [3010, 10], \"colour\": \"#8c5a3c\", \"path\": "
                                 "\"M3000 0L4000 0L4000 1000L3000 1000Z\"}]}");
    std::map<std::string, formats::zip::Entry> old;
    old["job.json"] = {bytesOf(text), true};
    old["artwork"] = {bytesOf("<svg/>"), true};
    const Job job = must(readJob(must(formats::zip::writeArchive(old))));
    EXPECT_EQ(job.artwork, nullptr);
    EXPECT_EQ(job.tracing, nullptr);
    ASSERT_EQ(job.sources.size(), 1u);
    const design::PieceId all = design::allOfSource(1);
    EXPECT_NEAR(geometry::area(*piece(job, all + 1).shape), 100, 1e-6);
    EXPECT_NEAR(geometry::area(*piece(job, all + 2).shape), 144, 1e-3) << "the step follows its piece";
    EXPECT_EQ(job.paint.at(all + 2), "rust");
    EXPECT_NEAR(unitGuesses(*job.sources[0])[0].widthMm, 50, 1e-9);
}

TEST(JobFile, DamagedSourcesAreRefused) {
    const Job job = must(withWord(opened(kPlate).job, word("HI"), "sea", kFonts)).job;
    const auto with = [&](const std::string& from, const std::string& to) {
        std::map<std::string, formats::zip::Entry> entries;
        for (const auto& [name, bytes] : must(formats::zip::readArchive(must(writeJob(job)))))
            entries[name] = {bytes, false};
        std::string text = textOf(entries["job.json"].bytes);
        const auto at = text.find(from);
        EXPECT_NE(at, std::string::npos) << from;
        text.replace(at, from.size(), to);
        entries["job.json"].bytes = bytesOf(text);
        return readJob(must(formats::zip::writeArchive(entries)));
    };
    for (const auto& [from, to] : std::vector<std::pair<std::string, std::string>>{
             {"\"entry\": \"drawing-1\"", "\"entry\": \"drawing-7\""},
             {"\"number\": 2", "\"number\": 1"},
             {"\"number\": 2", "\"number\": 2000"},
             {"\"licence\": \"unknown\"", "\"licence\": \"stolen\""},
             {"\"id\": 100000001", "\"id\": 1"},
             {"\"sizeMm\": 40.0", "\"sizeMm\": 1e9"},
             {"\"pageMm\": [", "\"pageMm\": [-5, "}}) {
        const auto out = with(from, to);
        ASSERT_FALSE(out) << from << " -> " << to;
        EXPECT_EQ(out.error().code, base::Code::ParseError);
    }
}

TEST(DiskFontStore, ShipsTypefacesOfItsOwn) {
    const DiskFontStore store;
    const auto fonts = store.fonts();
    for (const base::FontName& name : shippedFonts()) {
        EXPECT_NE(std::find(fonts.begin(), fonts.end(), name), fonts.end()) << name.family;
        const auto file = must(store.read(name));
        EXPECT_GT(must(lettering::Typeface::open(file)).capHeight(), 0.5) << name.family;
    }
    EXPECT_EQ(*must(store.read(kPlainFont)).bytes, support::shippedFont("LeagueSpartan-ExtraBold.otf"));
    EXPECT_EQ(store.read({"Nowhere", ""}).error().code, base::Code::NotFound);
}

} // namespace
} // namespace thinline::document
