// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"

#include "document/DiskFileStore.h"
#include "document/Drawer.h"
#include "document/Recovery.h"
#include "formats/zip/Archive.h"
#include "job/Clusters.h"
#include "job/Constructions.h"
#include "job/CutSteps.h"
#include "job/DrawerSteps.h"
#include "job/LayerSteps.h"
#include "job/Relations.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "job/Slots.h"
#include "job/SplitSteps.h"
#include "job/StockSteps.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <sys/wait.h>
#include <unistd.h>

namespace thinline::document {
namespace {

namespace fs = std::filesystem;
using support::must;

using shape::Action;
using support::id;

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}
std::string textOf(const base::Bytes& bytes) {
    return {bytes.begin(), bytes.end()};
}

/// A job with some of everything: a picture with marks in it, a drawing, a word, a figure, steps with parts, wishes,
/// two layers of one stock, a set, a fit, pins, an arrangement.
job::State fullState() {
    job::State state = support::tracedShed();
    const design::PieceId window = support::area(state, 3);
    state.job = job::painted(state.job, {support::area(state, 2)}, "sea");
    state = support::made(job::withCopies(state, window, 2), {});
    const base::Bytes svg =
        bytesOf("<svg xmlns='http://www.w3.org/2000/svg' width='40mm' height='20mm' viewBox='0 0 40 20'>"
                "<rect width='15' height='20' fill='#3c7d8c'/><rect x='20' width='15' height='20' "
                "fill='#8c5a3c'/></svg>");
    state = support::made(job::withDrawing(state, {svg, "plates.svg", job::recognise(svg)},
                                           job::shippedCatalogue(), support::shippedFonts()),
                          state.made);
    state = support::withWord(state, support::word("QUAY", 20), "lamp");
    state = support::withFigure(state, construct::Figure::Ring, {30, 12}, "rust");
    state = support::withFigure(state, construct::Figure::Ellipse, {11.6, 11.6}, "sea");
    state = support::made(job::withFit(state, {id("5:1"), id("4:1"), design::FitKind::IntoOpening, {}, 0.2},
                                       support::boxOf(state, id("4:1")).centre()),
                          state.made);
    state = support::made(job::withSet(state, "sign", {id("4:1"), id("5:1")}), state.made);
    state = support::made(job::withCluster(state, "plates", {id("2:1"), id("5:1")}), state.made);
    state = support::made(job::withClusterCopies(state.job, 0, 3), state.made);
    state = support::made(job::withSourceTurned(state.job, design::SourceId{4}, 0.3), state.made);
    state.job.frame = job::Frame{300, 280, 25};
    state = support::after(state, Action::Offset, {support::backing(state)}, {1.5, 3, 1});
    state = support::after(state, Action::SetAside, {id("3:2.1")});
    state = support::after(state, Action::MirrorTwin, {id("2:1")}, {4});
    state = support::made(job::withWidth(state, 260)->state.job, {});
    state.job = job::withLayerStock(state.job, support::laid(state, window).layer, "sea");
    state.job = job::withLayerLift(state.job, support::laid(state, window).layer, 1.5);
    state.job = must(job::withRoom(state.job, 0.4));
    design::Machine machine = *job::shippedCatalogue().machine("one-holder");
    machine.name = "mine";
    machine.doesReadMarks = true;
    machine.printWidthMm = 170;
    machine.printHeightMm = 230;
    machine.swapS = 55;
    state.job = must(job::withMachine(state.job, machine));
    state.job = must(job::withSetting(
        state.job, "sea", design::Setting{design::ToolKind::SteepBlade, 245, 3, 40, design::Tack::High}));
    job::Source picture = *job::pictureSource(state.job);
    auto& recipe = std::get<job::Picture>(picture.what).recipe;
    recipe.threshold = 120;
    recipe.closings.push_back({{1, 2}, {3, 4}, 5});
    recipe.erasures.push_back({trace::Erasure::Kind::Brush, {{5, 6}, {7, 8}}, 3, raster::Rgb{47, 111, 143}});
    picture.origin = {"my own pen", job::Licence::Own};
    state.job = job::withSource(state.job, picture);
    state = support::arranged(support::made(state.job, {}));
    for (size_t l = 0; l < state.made.sheets->loads.size(); ++l)
        for (const design::PlacedSheet& sheet : state.made.sheets->loads[l].sheets)
            for (const design::PlacedPiece& placed : sheet.pieces)
                if (placed.what == design::CopyOf{window, 0})
                    return support::arranged(
                        support::made(job::pinnedAt(state, placed.what, placed.pose, l), state.made));
    throw std::runtime_error("the window is on no sheet");
}

void expectSame(const job::State& a, const job::State& b) {
    ASSERT_EQ(a.made.work()->pieces.size(), b.made.work()->pieces.size());
    for (size_t i = 0; i < a.made.work()->pieces.size(); ++i) {
        const design::Laid &x = a.made.work()->pieces[i], &y = b.made.work()->pieces[i];
        EXPECT_EQ(x.id(), y.id());
        EXPECT_EQ(*x.piece.body, *y.piece.body) << x.id().text();
        EXPECT_EQ(x.piece.name, y.piece.name);
        EXPECT_EQ(x.layer, y.layer);
        EXPECT_EQ(x.copies, y.copies);
        EXPECT_EQ(x.liftMm, y.liftMm);
        EXPECT_EQ(x.up, y.up);
    }
    EXPECT_EQ(a.made.work()->layers, b.made.work()->layers);
    EXPECT_EQ(a.made.pieces->scrap.size(), b.made.pieces->scrap.size());
}

TEST(JobFile, RoundTripKeepsEverything) {
    const job::State state = fullState();
    const base::Bytes file = must(writeJob(state));
    const job::State back = must(readJob(file));
    EXPECT_EQ(must(writeJob(back)), file) << "what was read writes the same bytes";
    expectSame(back, state);
    EXPECT_EQ(back.job.wishes, state.job.wishes);
    EXPECT_EQ(back.job.layers, state.job.layers);
    EXPECT_EQ(back.job.stocks, state.job.stocks);
    EXPECT_EQ(back.job.sets, state.job.sets);
    EXPECT_EQ(back.job.fits, state.job.fits);
    EXPECT_EQ(back.job.clusters, state.job.clusters);
    EXPECT_EQ(back.job.frame, state.job.frame);
    EXPECT_EQ(back.job.plan, state.job.plan);
    EXPECT_EQ(back.job.cut, state.job.cut);
    ASSERT_EQ(back.job.steps.size(), state.job.steps.size());
    for (size_t i = 0; i < back.job.steps.size(); ++i)
        EXPECT_EQ(*back.job.steps[i], *state.job.steps[i]);
    const auto *picture = job::asA<job::Picture>(job::pictureSource(state.job)),
               *read = job::asA<job::Picture>(job::pictureSource(back.job));
    EXPECT_EQ(read->file->bytes, picture->file->bytes) << "the artwork is untouched";
    EXPECT_EQ(read->recipe, picture->recipe);
    EXPECT_EQ(job::pictureSource(back.job)->origin, (job::Origin{"my own pen", job::Licence::Own}));
    EXPECT_EQ(back.job.nextSource, state.job.nextSource);
    EXPECT_EQ(back.job.nextStep, state.job.nextStep);
    EXPECT_EQ(back.job.nextLayer, state.job.nextLayer);
    ASSERT_TRUE(back.made.sheets);
    EXPECT_EQ(*back.made.sheets, *state.made.sheets) << "kept, not arranged anew";
    EXPECT_NEAR(support::workBox(back).width(), support::workBox(state).width(), 1e-6);
}

TEST(JobFile, WhatIsSaidOfTheAssemblyComesBack) {
    job::State state = support::rectangleJob(60, 40, "sea");
    const design::PieceId piece = state.made.work()->pieces.front().id();
    state.job.assembly = {assembly::Numbers::Drawn,
                          {{"a stick, 40 cm", piece}, {"a frame", {}}},
                          {{"glue 1:1+1:2", "Stick it \"on\"."}}};
    state.job.goesTo = job::GoesTo::Buyers;
    const base::Bytes file = must(writeJob(state));
    const job::State back = must(readJob(file));
    EXPECT_EQ(back.job.assembly, state.job.assembly);
    EXPECT_EQ(back.job.goesTo, job::GoesTo::Buyers);
    EXPECT_EQ(must(writeJob(back)), file);
    EXPECT_EQ(must(readJob(must(writeJob(support::rectangleJob(60, 40, "sea"))))).job.assembly,
              assembly::Wishes{});
}

TEST(JobFile, ThePennantsThatShipShowLayersLiftsAndACluster) {
    DiskFileStore disk;
    const LoadedJob loaded =
        must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-pennants.thinline"));
    const job::State& state = loaded.state;
    EXPECT_EQ(state.made.work()->layers.size(), 7u);
    EXPECT_EQ(std::count_if(state.job.layers.begin(), state.job.layers.end(),
                            [](const design::Layer& layer) { return layer.liftMm > 0; }),
              2);
    ASSERT_EQ(state.made.work()->clusters.size(), 1u);
    EXPECT_EQ(state.made.work()->clusters[0].pieces.size(), 5u);
    EXPECT_GT(state.made.work()->clusters[0].frameMm, 0);
    EXPECT_TRUE(support::arranged(state).made.sheets->unplaced.empty());
    // Card of 0.4 mm for the cord, a pennant of 0.3 mm, foam of 1.5 mm below every other one, film of 0.08 mm.
    EXPECT_NEAR(state.made.finished->heights.tallMm(), 0.4 + 1.5 + 0.3 + 0.08, 1e-9);
}

TEST(JobFile, HowDeepStickersAreCutComesBack) {
    job::State state = support::withWord(support::emptyState(), support::word("QUAY"));
    const auto pieces = [&] {
        std::vector<design::PieceId> out;
        for (const design::Laid& laid : state.made.work()->pieces)
            out.push_back(laid.id());
        return out;
    }();
    for (design::Stock& stock : state.job.stocks)
        stock.cut = design::Depth::ToCarrier;
    const auto make = [&](const job::Job& job) { state = support::made(job, state.made); };
    make(state.job);
    make(must(job::withCluster(state, "stickers", pieces)));
    make(must(job::withClusterFrame(state, 0, 4)));
    make(must(job::withFrameThrough(state.job, 0, true)));
    make(must(job::withPiecesThrough(state, {pieces[1]}, true)));
    make(must(job::withSetting(
        state.job, "sea",
        design::Setting{design::ToolKind::ShallowBlade, 80, 1, 0, design::Tack::Middle, 145})));
    const job::State back = must(readJob(must(writeJob(state))));
    EXPECT_EQ(back.job.clusters, state.job.clusters);
    EXPECT_EQ(back.job.wishes, state.job.wishes);
    EXPECT_EQ(back.job.cut, state.job.cut);
    EXPECT_TRUE(back.job.clusters[0].isFrameThrough);
    EXPECT_TRUE(back.made.work()->find(pieces[1])->isCutThrough);
    EXPECT_FALSE(back.made.work()->find(pieces[0])->isCutThrough);
    EXPECT_EQ(back.job.cut.settings.at("sea").throughGf, 145);
}

TEST(JobFile, TheTallLighthouseShipsDivided) {
    DiskFileStore disk;
    const job::State tall =
        must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-tall.thinline")).state;
    EXPECT_NEAR(job::workBox(tall.made).height(), 700, 0.01);
    EXPECT_EQ(tall.job.plan.matId, "square12");
    EXPECT_TRUE(job::passedOver(tall.made).empty());
    EXPECT_TRUE(must(job::oversize(tall, job::shippedCatalogue().formats)).empty());
    int parts = 0;
    for (const design::Laid& laid : tall.made.work()->pieces)
        parts += laid.piece.name.starts_with("the backing ") ? 1 : 0;
    EXPECT_EQ(parts, 6);
}

TEST(JobFile, TheLanternThatShipsFoldsAndHasPanes) {
    DiskFileStore disk;
    const job::State state =
        must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-lantern.thinline")).state;
    EXPECT_TRUE(job::passedOver(state.made).empty());
    const design::Laid* walls = nullptr;
    int panes = 0;
    for (const design::Laid& laid : state.made.work()->pieces) {
        const design::Stock* stock =
            design::findStock(state.job.stocks, state.made.work()->layerOf(laid).stockId);
        panes += stock->isTranslucent;
        if (!laid.piece.body->lines.empty())
            walls = &laid;
    }
    EXPECT_EQ(panes, 4);
    ASSERT_TRUE(walls);
    int folds = 0, scores = 0, marks = 0;
    for (const design::PieceLine& line : walls->piece.body->lines) {
        folds += std::holds_alternative<design::Fold>(line.does) && line.beginsAtEdge && line.endsAtEdge;
        scores += std::holds_alternative<design::Score>(line.does);
        marks += std::holds_alternative<design::Placement>(line.does);
    }
    EXPECT_EQ(folds, 4);
    EXPECT_EQ(scores, 1);
    EXPECT_GT(marks, 0) << "where the compass rose goes";
    EXPECT_EQ(walls->piece.body->zones.size(), 5u) << "a flap and four rings";
    EXPECT_TRUE(support::arranged(state).made.sheets->unplaced.empty());
}

TEST(JobFile, TheWorksFromMeasuresThatShipClose) {
    DiskFileStore disk;
    for (const char* name : {"canister", "deck-lantern"}) {
        const job::State state =
            must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-" + name + ".thinline"))
                .state;
        EXPECT_TRUE(job::passedOver(state.made).empty());
        const folding::Model model = must(job::foldedOf(state, job::foldable(state), {}));
        EXPECT_GE(model.sheets.size(), 6u);
        for (const folding::Closing& one : folding::closingsOf(model, folding::posed(model, 1)))
            EXPECT_LT(one.gapMm, 0.05) << one.name;
        EXPECT_TRUE(support::arranged(state).made.sheets->unplaced.empty());
    }
    // Names of a list go into the board's word, none wider than its room.
    const job::State board =
        must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-quay-board.thinline")).state;
    const job::Slot word = must(job::slotOf(board.job, {})).slot;
    const base::Bytes list =
        must(disk.read(std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-quay-names.csv", 10'000));
    const job::Names names = must(job::namesOf({list.begin(), list.end()}));
    for (const std::string& name : names.all) {
        const job::Job filled = must(job::withSlotFilled(board.job, word, name, support::shippedFonts()));
        EXPECT_LE(job::slotWidthMm(filled, word), 160.02) << name;
    }
}

/// The entries of a job with one of them changed.
base::Bytes with(const std::string& name, const std::function<void(std::string&)>& change) {
    static const base::Bytes file = must(writeJob(fullState()));
    std::map<std::string, formats::zip::Entry> entries;
    for (const auto& [entry, bytes] : must(formats::zip::readArchive(file)))
        entries[entry] = {std::make_shared<const base::Bytes>(bytes), false};
    std::string text = textOf(*entries.at(name).bytes);
    change(text);
    entries[name].bytes = std::make_shared<const base::Bytes>(bytesOf(text));
    return must(formats::zip::writeArchive(entries));
}

void replace(std::string& text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    ASSERT_NE(at, std::string::npos) << from;
    text.replace(at, from.size(), to);
}

struct Damage {
    const char* what;
    const char* entry;
    std::function<void(std::string&)> change;
    base::Code code;
    const char* says;
};

TEST(JobFile, DamagedHostileAndNewerFilesAreRefusedInASentence) {
    const char *job = "job.json", *kept = "kept/source-2.json";
    const auto parse = base::Code::ParseError;
    const auto swap = [](const char* from, const char* to) {
        return [from, to](std::string& t) { replace(t, from, to); };
    };
    const Damage rows[] = {
        {"newer", job, swap("\"format\": 4", "\"format\": 5"), base::Code::Unsupported, "newer Thin Line"},
        {"not json", job, [](auto& t) { t.resize(t.size() / 2); }, parse, "damaged"},
        {"empty json", job, [](auto& t) { t = "{}"; }, parse, "damaged"},
        {"a list", job, [](auto& t) { t = "[1,2]"; }, parse, "damaged"},
        {"deep nesting", job, [](auto& t) { t = std::string(200000, '['); }, parse, "damaged"},
        {"a unit below nothing", job, swap("\"unitMm\": ", "\"unitMm\": -"), parse, "out of range"},
        {"a number twice", job, swap("\"id\": 5,\n   \"at\"", "\"id\": 4,\n   \"at\""), parse, "number"},
        {"a stolen licence", job, swap("\"licence\": \"own\"", "\"licence\": \"stolen\""), parse, "licence"},
        {"a word for a number", job, swap("\"roomMm\": 0.4", "\"roomMm\": \"wide\""), parse, "damaged"},
        {"a wish for nobody", job, swap("\"1:area.3\": {", "\"one\": {"), parse, "names no piece"},
        {"a bad colour", job, swap("\"colour\": \"#", "\"colour\": \"$"), parse, "not a colour"},
        {"artwork elsewhere", job,
         swap("\"fileName\": \"plates.svg\"",
              "\"fileName\": \"plates.svg\", \"x\": \"../../etc\", \"id\": 77"),
         parse, ""},
        {"a broken outline", kept, swap("\"M", "\"X"), parse, "outline"},
        {"a key twice", kept, swap("\"key\": \"2\"", "\"key\": \"1\""), parse, "key"},
        {"a key of other signs", kept, swap("\"key\": \"2\"", "\"key\": \"../2\""), parse, "key"},
        {"a letter too large", job, swap("\"sizeMm\": ", "\"sizeMm\": 1e300, \"x\": "), parse,
         "out of range"},
    };
    for (const Damage& row : rows) {
        const auto out = readJob(with(row.entry, row.change));
        ASSERT_FALSE(out) << row.what;
        EXPECT_EQ(out.error().code, row.code) << row.what << ": " << out.error().message;
        EXPECT_NE(out.error().message.find(row.says), std::string::npos)
            << row.what << ": " << out.error().message;
    }
    const auto one = std::make_shared<const base::Bytes>(base::Bytes{1});
    EXPECT_NE(readJob(must(formats::zip::writeArchive({{"x", {one, false}}})))
                  .error()
                  .message.find("job.json is missing"),
              std::string::npos);
}

// A parameter that is not there takes its usual value: a new one never makes an old job "damaged".
TEST(JobFile, WhatIsAbsentTakesItsUsualValue) {
    const auto file = with("job.json", [](std::string& t) {
        for (const char* key : {"\"smoothness\": 1.0,", "\"mayTurn\": true,", "\"wishes\": {"}) {
            const auto at = t.find(key);
            ASSERT_NE(at, std::string::npos) << key;
            t.insert(at, "\"a parameter of tomorrow\": 7, ");
        }
        replace(t, "\"smoothness\": 1.0,", "");
        replace(t, "\"mayTurn\": true,", "");
        replace(t, "\"count\": 3", "\"unknown\": 3"); // of the series
    });
    const auto out = readJob(file);
    ASSERT_TRUE(out) << out.error().message;
    EXPECT_EQ(job::asA<job::Picture>(job::pictureSource(out->job))->recipe.smoothness, 1.0);
    EXPECT_TRUE(out->job.plan.mayTurn);
    EXPECT_EQ(shape::valuesOf(*out->job.steps[0])[1], 1) << "one offset where no number is said";
}

TEST(JobFile, CutOffAnywhereOrWithAFlippedByteItNeverCrashes) {
    const base::Bytes file = must(writeJob(support::tracedShed()));
    for (size_t length = 0; length < file.size(); length += file.size() / 97 + 1)
        EXPECT_FALSE(readJob(base::Bytes(file.begin(), file.begin() + static_cast<long>(length)))) << length;
    for (size_t at = 0; at < file.size(); at += file.size() / 193 + 1) {
        base::Bytes flipped = file;
        flipped[at] ^= 0x55;
        const auto out =
            readJob(flipped); // the picture's bytes may differ unseen; everything else is refused
        if (!out) {
            EXPECT_FALSE(out.error().message.empty());
        }
    }
}

TEST(JobFile, AnArrangementWithUnknownPiecesIsMadeAnew) {
    const auto out = readJob(with("kept/sheets.json", [](auto& t) {
        replace(t, "\"piece\": \"1:backing.1\"", "\"piece\": \"1:backing.9\"");
    }));
    ASSERT_TRUE(out) << out.error().message;
    EXPECT_EQ(out->made.sheets, nullptr);
    EXPECT_TRUE(support::arranged(*out).made.sheets);
}

// ---- saving again ------------------------------------------------------------------------------------------------

/// How many bytes of the entries were packed anew: those whose packed bytes are not in the old file.
TEST(SavedFile, WhatDidNotChangeIsCopiedPacked) {
    support::MemoryFileStore store;
    const job::State state = fullState();
    const SavedFile first = must(saveJob(store, "/a.thinline", state));
    job::State next = state;
    next.job.name = "another name";
    const SavedFile second = must(saveJob(store, "/a.thinline", next, &first));
    const auto bytes = must(store.read("/a.thinline", 1 << 30));
    expectSame(must(readJob(bytes)), state);
    EXPECT_EQ(must(readJob(bytes)).job.name, "another name");
    // The same as writing everything, byte for byte, whichever way an entry came.
    support::MemoryFileStore fresh;
    (void)must(saveJob(fresh, "/b.thinline", next));
    EXPECT_EQ(bytes, must(fresh.read("/b.thinline", 1 << 30)));
    // Somebody else wrote the file meanwhile: nothing is copied from what is there now.
    ASSERT_TRUE(store.writeWhole("/a.thinline", must(writeJob(support::tracedShed()))));
    const base::Bytes theirs = must(store.read("/a.thinline", 1 << 30));
    EXPECT_EQ(saveJob(store, "/a.thinline", next, &second).error().code, base::Code::ChangedMeanwhile);
    EXPECT_EQ(must(store.read("/a.thinline", 1 << 30)), theirs) << "nothing is overwritten unasked";
    EXPECT_EQ(freeNameBeside(store, "/a.thinline"), "/a 2.thinline");
    (void)must(saveJob(store, "/a.thinline", next, &second, Theirs::Overwrite));
    EXPECT_EQ(must(store.read("/a.thinline", 1 << 30)), bytes);
    ASSERT_TRUE(store.remove("/a.thinline"));
    (void)must(saveJob(store, "/a.thinline", next, &second));
    EXPECT_EQ(must(store.read("/a.thinline", 1 << 30)), bytes);
}

TEST(SavedFile, EveryNameGetsTheEndingOfJobs) {
    const std::pair<const char*, const char*> rows[] = {
        {"gull", "gull.thinline"},          {"gull.v2", "gull.v2.thinline"},
        {"gull.thinline", "gull.thinline"}, {"Gull.ThinLine", "Gull.ThinLine"},
        {"a.b/gull", "a.b/gull.thinline"},  {".thinline", ".thinline.thinline"}};
    for (const auto& [typed, named] : rows)
        EXPECT_EQ(withJobEnding(typed), named);
    support::MemoryFileStore store;
    for (const char* name : {"/q/gull.thinline", "/q/gull 2.thinline", "/q/gull 3.thinline"})
        ASSERT_TRUE(store.writeWhole(name, {1}));
    EXPECT_EQ(freeNameBeside(store, "/q/gull.thinline"), "/q/gull 4.thinline");
}

TEST(SavedFile, AFullDiskIsToldAndTheOldFileStays) {
    support::FailingFileStore store(1);
    const job::State state = support::tracedShed();
    const SavedFile first = must(saveJob(store, "/a.thinline", state));
    const base::Bytes there = must(store.read("/a.thinline", 1 << 30));
    job::State next = state;
    next.job.name = "another name";
    const auto second = saveJob(store, "/a.thinline", next, &first);
    ASSERT_FALSE(second);
    EXPECT_NE(second.error().message.find("disk is full"), std::string::npos);
    EXPECT_EQ(must(store.read("/a.thinline", 1 << 30)), there);
}

// ---- the disk -------------------------------------------------------------------------------------------

class OnDisk : public testing::Test {
  protected:
    void SetUp() override {
        m_folder = fs::temp_directory_path() / ("thinline-disk-" + std::to_string(::getpid()));
        fs::create_directories(m_folder);
    }
    void TearDown() override {
        fs::permissions(m_folder, fs::perms::owner_all);
        fs::remove_all(m_folder);
    }
    std::string path(const std::string& name) const { return (m_folder / name).string(); }
    size_t filesLeft() const {
        return static_cast<size_t>(std::distance(fs::directory_iterator(m_folder), {}));
    }

    fs::path m_folder;
    DiskFileStore m_store;
};

TEST_F(OnDisk, WritesReadsListsAndRemoves) {
    ASSERT_TRUE(m_store.writeWhole(path("a"), {1, 2, 3}));
    ASSERT_TRUE(m_store.writeWhole(path("a"), {4}));
    EXPECT_EQ(*m_store.read(path("a"), 10), base::Bytes{4});
    EXPECT_EQ(m_store.list(m_folder.string()), std::vector<std::string>{"a"});
    EXPECT_TRUE(m_store.remove(path("a")));
    EXPECT_TRUE(m_store.remove(path("a")));
    EXPECT_EQ(m_store.read(path("a"), 10).error().code, base::Code::NotFound);
    ASSERT_TRUE(m_store.writeWhole(path("b"), base::Bytes(100)));
    EXPECT_EQ(m_store.read(path("b"), 99).error().code, base::Code::LimitExceeded);
    EXPECT_EQ(m_store.read(m_folder.string(), 99).error().code, base::Code::IoError);
}

TEST_F(OnDisk, AMissingFileIsSaidAsMissing) {
    for (const char* name : {"portrait.jpg", "gone/portrait.jpg"}) {
        const std::string said = m_store.read(path(name), 10).error().message;
        EXPECT_NE(said.find("there is no such file"), std::string::npos) << said;
        EXPECT_EQ(said.find("save elsewhere"), std::string::npos) << "advice for writing: " << said;
    }
}

TEST_F(OnDisk, ADrawerComesBackAsItWas) {
    std::vector<design::Stock> stocks = job::shippedCatalogue().drawer;
    design::Stock glued = job::usualStock(design::Stock::Kind::Laminate);
    glued.id = glued.name = "glued";
    glued.laminateOf = {stocks[0].id, stocks[1].id};
    glued.sizes = {{210, 297}, {304.8, 304.8}};
    glued.price = 2.25;
    glued.turns = design::Stock::Turns::Half;
    stocks.push_back(glued);
    design::Drawer drawer{
        stocks, {{"square12", {{{10, 20}, {40, 30}}}}}, *job::shippedCatalogue().machine("one-holder")};
    drawer = support::must(job::withScrapKept(
        drawer, {0,
                 stocks[0].id,
                 "torn",
                 {{{0, 0}, {80, 0}, {80, 120}, {20, 120}}, {{40, 30}, {40, 40}, {50, 40}, {50, 30}}}}));
    drawer.nextScrap = 5; // the others are used up
    ASSERT_TRUE(writeDrawer(m_store, path("drawer.json"), drawer));
    EXPECT_EQ(support::must(readDrawer(m_store, path("drawer.json"))), drawer);
    const std::pair<const char*, const char*> rows[] = {
        {"", "is no drawer"},
        {"{}", "is no drawer"},
        {R"({"format": 9, "stocks": []})", "newer program"},
        {R"({"format": 4294967297, "stocks": []})", "newer program"},
        {R"({"format": -7, "stocks": []})", "no number of a format"},
        {R"({"format": 1, "stocks": 3})", "of another kind"},
        {R"({"format": 1, "stocks": [], "keepOutsMm": {"square12": [[1, 2]]}})", "of another kind"},
        {R"({"format": 1, "stocks": [{"id": "a", "name": "a", "colour": "#000000", "thicknessMm": 0}]})",
         "needs a thickness"},
        {R"({"format": 1, "stocks": [], "scraps": [{"stock": "sea", "outlineMm": []}]})", "is no drawer"},
        {R"({"format": 1, "stocks": [], "scraps": [{"stock": "sea", "outlineMm": [[[0, 0], [50, 0], [50, 50]]]}]})",
         "no number"},
        {R"({"format": 1, "stocks": [{"id": "a", "colour": "red"}]})", "is no drawer"}};
    for (const auto& [text, says] : rows) {
        const std::string bytes = text;
        ASSERT_TRUE(m_store.writeWhole(path("bad.json"), {bytes.begin(), bytes.end()}));
        const auto read = readDrawer(m_store, path("bad.json"));
        ASSERT_FALSE(read) << text;
        EXPECT_NE(read.error().message.find(says), std::string::npos) << read.error().message;
    }
}

TEST_F(OnDisk, AVanishedFolderIsSaidAndNothingIsLeft) {
    const auto out = m_store.writeWhole(path("gone/job.thinline"), {1});
    ASSERT_FALSE(out);
    EXPECT_NE(out.error().message.find("the folder is not there"), std::string::npos) << out.error().message;
    EXPECT_FALSE(m_store.writeWhole(m_folder.string(), {1})) << "a folder is no file";
}

TEST_F(OnDisk, AFullDiskLeavesTheOldFileIntact) {
    ASSERT_TRUE(m_store.writeWhole(path("job"), {9, 9, 9}));
    // A file size limit in a child process stands for the full disk: the write fails half way.
    const pid_t child = ::fork();
    if (child == 0) {
        ::signal(SIGXFSZ, SIG_IGN);
        const rlimit limit{4096, 4096};
        ::setrlimit(RLIMIT_FSIZE, &limit);
        const auto out = m_store.writeWhole(path("job"), base::Bytes(1 << 20, 1));
        ::_exit(!out && out.error().code == base::Code::IoError ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(status, 0);
    EXPECT_EQ(*m_store.read(path("job"), 10), (base::Bytes{9, 9, 9}));
    EXPECT_EQ(filesLeft(), 1u) << "no half-written file stays behind";
}

// Everything that is saved, kept against a loss or packed is written by this one function.
TEST_F(OnDisk, ADiskThatIsFullAfterAnyNumberOfBytesLeavesTheOldFileIntact) {
    const base::Bytes before{9, 9, 9}, after(1500, 1);
    ASSERT_TRUE(m_store.writeWhole(path("job"), before));
    const pid_t child = ::fork();
    if (child == 0) {
        ::signal(SIGXFSZ, SIG_IGN);
        for (rlim_t n = 0; n < after.size(); ++n) {
            const rlimit limit{n, RLIM_INFINITY};
            ::setrlimit(RLIMIT_FSIZE, &limit);
            const auto out = m_store.writeWhole(path("job"), after);
            if (out || out.error().code != base::Code::IoError || *m_store.read(path("job"), 10) != before ||
                filesLeft() != 1)
                ::_exit(1);
        }
        const rlimit enough{after.size(), RLIM_INFINITY};
        ::setrlimit(RLIMIT_FSIZE, &enough);
        ::_exit(m_store.writeWhole(path("job"), after) ? 0 : 2);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(WEXITSTATUS(status), 0);
    EXPECT_EQ(*m_store.read(path("job"), 5000), after);
}

TEST_F(OnDisk, AReadOnlyFileOrFolderIsSaidAndKept) {
    ASSERT_TRUE(m_store.writeWhole(path("job"), {5}));
    // The superuser may write anywhere, so the check runs as somebody else.
    const pid_t child = ::fork();
    if (child == 0) {
        fs::permissions(m_folder, fs::perms::owner_read | fs::perms::owner_exec | fs::perms::others_exec);
        if (::getuid() == 0 && ::setuid(65534) != 0)
            ::_exit(2);
        const auto out = m_store.writeWhole(path("job"), {6});
        ::_exit(!out && out.error().message.find("you have no permission; save elsewhere") !=
                            std::string::npos
                    ? 0
                    : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(status, 0);
    fs::permissions(m_folder, fs::perms::owner_all);
    EXPECT_EQ(*m_store.read(path("job"), 10), base::Bytes{5});
    EXPECT_EQ(filesLeft(), 1u);
}

TEST_F(OnDisk, KilledAtAnyMomentTheFileIsTheOldOrTheNewOne) {
    const base::Bytes old(300'000, 1), fresh(300'000, 2);
    for (int round = 0; round < 12; ++round) {
        ASSERT_TRUE(m_store.writeWhole(path("job"), old));
        const pid_t child = ::fork();
        if (child == 0) {
            for (;;)
                if (!m_store.writeWhole(path("job"), fresh))
                    ::_exit(1);
        }
        ::usleep(static_cast<useconds_t>(300 * round));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        const auto found = m_store.read(path("job"), 1'000'000);
        ASSERT_TRUE(found);
        EXPECT_TRUE(*found == old || *found == fresh) << "round " << round;
    }
}

TEST_F(OnDisk, ThroughALinkTheFileItPointsToIsWritten) {
    ASSERT_TRUE(m_store.makeFolder(path("far")));
    ASSERT_TRUE(m_store.writeWhole(path("far/job"), {1}));
    fs::create_symlink("far/job", path("near"));
    fs::create_symlink("near", path("nearer"));
    fs::create_symlink("far/later", path("dangling"));
    fs::create_symlink("ring", path("ring"));
    ASSERT_TRUE(m_store.writeWhole(path("nearer"), {2}));
    EXPECT_EQ(*m_store.read(path("far/job"), 10), base::Bytes{2});
    EXPECT_TRUE(fs::is_symlink(path("nearer")));
    EXPECT_TRUE(fs::is_symlink(path("near")));
    ASSERT_TRUE(m_store.writeWhole(path("dangling"), {3}));
    EXPECT_EQ(*m_store.read(path("far/later"), 10), base::Bytes{3});
    const auto ring = m_store.writeWhole(path("ring"), {4});
    ASSERT_FALSE(ring);
    EXPECT_NE(ring.error().message.find("round in a ring"), std::string::npos) << ring.error().message;
}

TEST_F(OnDisk, PipesAndDevicesAreNeitherReadNorReplaced) {
    ASSERT_EQ(::mkfifo(path("pipe").c_str(), 0600), 0);
    const auto read = m_store.read(path("pipe"), 10); // would wait for ever
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().message.find("a device or a pipe"), std::string::npos);
    EXPECT_FALSE(m_store.read("/dev/zero", 1 << 20));
    EXPECT_FALSE(m_store.writeWhole(path("pipe"), {1}));
    EXPECT_TRUE(fs::is_fifo(path("pipe")));
    fs::create_symlink("/dev/null", path("nowhere"));
    EXPECT_FALSE(m_store.writeWhole(path("nowhere"), {1}));
    EXPECT_TRUE(fs::is_character_file("/dev/null"));
    const int socket = ::socket(AF_UNIX, SOCK_STREAM, 0);
    sockaddr_un name{AF_UNIX, {}};
    path("socket").copy(name.sun_path, sizeof name.sun_path - 1);
    ASSERT_EQ(::bind(socket, reinterpret_cast<const sockaddr*>(&name), sizeof name), 0);
    EXPECT_FALSE(m_store.writeWhole(path("socket"), {1}));
    EXPECT_FALSE(m_store.read(path("socket"), 10));
    EXPECT_TRUE(fs::is_socket(path("socket")));
    ::close(socket);
}

TEST_F(OnDisk, PermissionsAndOwnerStay) {
    ASSERT_TRUE(m_store.writeWhole(path("job"), {1}));
    fs::permissions(path("job"), fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_read |
                                     fs::perms::group_write);
    const bool isRoot = ::getuid() == 0;
    ASSERT_TRUE(!isRoot || ::chown(path("job").c_str(), 65534, 65534) == 0);
    ASSERT_TRUE(m_store.writeWhole(path("job"), {2}));
    struct stat info {};
    ASSERT_EQ(::stat(path("job").c_str(), &info), 0);
    EXPECT_EQ(info.st_mode & 07777, 0660u);
    EXPECT_EQ(info.st_uid, isRoot ? 65534u : ::getuid());
}

TEST_F(OnDisk, TheLongestNamesCanBeWritten) {
    for (const size_t length : {247u, 255u}) {
        const std::string name = path(std::string(length, 'a'));
        ASSERT_TRUE(m_store.writeWhole(name, {1})) << length;
        ASSERT_TRUE(m_store.writeWhole(name, {2})) << length;
        EXPECT_EQ(*m_store.read(name, 10), base::Bytes{2});
    }
    const auto out = m_store.writeWhole(path(std::string(256, 'a')), {1});
    ASSERT_FALSE(out);
    EXPECT_NE(out.error().message.find("name is too long"), std::string::npos) << out.error().message;
    EXPECT_EQ(filesLeft(), 2u);
}

TEST_F(OnDisk, AClaimEndsWithItsProgram) {
    const pid_t child = ::fork();
    if (child == 0) {
        const auto lock = m_store.lock(path("claim"));
        ::kill(::getpid(), lock && *lock ? SIGKILL : SIGTERM);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(WTERMSIG(status), SIGKILL);
    auto mine = must(m_store.lock(path("claim")));
    EXPECT_NE(mine, nullptr);
    EXPECT_EQ(must(m_store.lock(path("claim"))), nullptr) << "one holder at a time";
    mine.reset();
    EXPECT_EQ(filesLeft(), 0u);
}

// ---- recovery -------------------------------------------------------------------------------------------

TEST(Recovery, FindsOnlyTheWorkOfProgramsThatEnded) {
    support::MemoryFileStore store;
    Recovery alive(store, "/unsaved"), own(store, "/unsaved");
    const job::State state = fullState();
    {
        Recovery dead(store, "/unsaved");
        ASSERT_TRUE(dead.keep(state, {"/home/x/shed.thinline", 7}));
    }
    ASSERT_TRUE(alive.keep(state, {}));
    ASSERT_TRUE(own.keep(state, {}));
    const auto lost = own.findLost();
    ASSERT_EQ(lost.size(), 1u);
    EXPECT_EQ(lost[0].origin.path, "/home/x/shed.thinline");
    EXPECT_EQ(lost[0].origin.checksum, 7u);
    expectSame(must(own.claim(lost[0])).state, state);
    ASSERT_TRUE(own.forget(lost[0]));
    EXPECT_TRUE(own.findLost().empty());
    ASSERT_TRUE(own.discard());
    ASSERT_TRUE(alive.discard());
    EXPECT_TRUE(store.list("/unsaved").empty()) << "nothing of ours is left behind";
}

TEST(Recovery, TwoWindowsNeverHaveTheSameLostWork) {
    support::MemoryFileStore store;
    {
        Recovery dead(store, "/unsaved");
        ASSERT_TRUE(dead.keep(support::tracedShed(), {}));
    }
    Recovery one(store, "/unsaved"), other(store, "/unsaved");
    const auto lost = other.findLost();
    ASSERT_EQ(lost.size(), 1u);
    const Recovery::Claimed claimed = must(one.claim(lost[0]));
    EXPECT_TRUE(other.findLost().empty());
    EXPECT_NE(other.claim(lost[0]).error().message.find("Another window"), std::string::npos);
    EXPECT_FALSE(other.forget(lost[0]));
    ASSERT_TRUE(one.adopt(claimed));
    ASSERT_TRUE(one.keep(claimed.state, {}));
    EXPECT_FALSE(store.list("/unsaved").empty());
    ASSERT_TRUE(one.discard());
    EXPECT_TRUE(store.list("/unsaved").empty());
}

// The disk is full when work is taken back: at whichever write it fails, the work is on the disk.
TEST(Recovery, WorkTakenBackOnAFullDiskIsNotTheOnlyCopy) {
    const job::State state = support::tracedShed();
    for (int more = 0; more < 8; ++more) {
        support::FailingFileStore store(1000);
        {
            Recovery dead(store, "/unsaved");
            ASSERT_TRUE(dead.keep(state, {}));
        }
        {
            Recovery own(store, "/unsaved");
            store.fillUpAfter(more);
            const auto claimed = must(own.claim(own.findLost().at(0)));
            ASSERT_TRUE(own.adopt(claimed));
            (void)own.keep(claimed.state, {});
        }
        Recovery next(store, "/unsaved");
        const auto lost = next.findLost();
        ASSERT_EQ(lost.size(), 1u) << more;
        expectSame(must(next.claim(lost[0])).state, state);
    }
}

// A copy after one piece moved writes the decisions, not the outlines: under 200 KB with 400 pieces.
TEST(Recovery, ACopyWritesOnlyWhatChanged) {
    support::MemoryFileStore store;
    job::State state = support::rectangleJob(9, 9);
    state = support::after(state, Action::Offset, {id("1:1")}, {0.3, 1, 1});
    state = support::after(state, Action::RowsOfTwins, {id("1:1")}, {20, 20, 1, 1});
    ASSERT_EQ(state.made.work()->pieces.size(), 400u);
    state = support::arranged(state);
    const design::PieceId one = state.made.work()->pieces[200].id();
    const job::State moved = support::after(state, Action::Move, {one}, {3, 4});
    {
        Recovery own(store, "/unsaved");
        ASSERT_TRUE(own.keep(state, {}));
        ASSERT_TRUE(own.keep(moved, {}));
        EXPECT_LT(own.lastWritten(), 200'000u);
    }
    Recovery next(store, "/unsaved");
    expectSame(must(next.claim(next.findLost().at(0))).state, moved);
    // A traced picture's file and outlines are not written again when one area is painted.
    Recovery other(store, "/more");
    job::State shed = fullState();
    ASSERT_TRUE(other.keep(shed, {}));
    const size_t all = other.lastWritten();
    shed.job = job::painted(shed.job, {support::area(shed, 1)}, "rust");
    shed = support::made(shed.job, shed.made);
    ASSERT_TRUE(other.keep(shed, {}));
    EXPECT_LT(other.lastWritten(), all / 2);
    EXPECT_LT(other.lastWritten(), 50'000u);
}

// Killed between any two files, the copy is the old one or the new one.
TEST(Recovery, ADiskThatFailsAtAnyFileLeavesACopyThatCanBeRead) {
    const job::State before = support::tracedShed();
    const job::State after = support::after(before, Action::Offset, {support::backing(before)}, {2});
    for (int failing = 1; failing <= 12; ++failing) {
        support::FailingFileStore store(failing);
        bool first = false, second = false;
        {
            Recovery own(store, "/unsaved");
            first = own.keep(before, {}).isOk();
            second = first && own.keep(after, {}).isOk();
        }
        Recovery next(store, "/unsaved");
        const auto lost = next.findLost();
        if (!first && lost.empty())
            continue; // nothing was promised yet
        ASSERT_EQ(lost.size(), 1u);
        const auto read = next.claim(lost[0]);
        ASSERT_TRUE(read) << failing << ": " << read.error().message;
        EXPECT_EQ(read->state.job.steps.size(), second ? 1u : 0u) << failing;
    }
}

TEST(Recovery, AFailingDiskIsToldNotHidden) {
    support::FailingFileStore store(1);
    Recovery recovery(store, "/unsaved");
    const auto kept = recovery.keep(support::emptyState(), {});
    ASSERT_FALSE(kept);
    EXPECT_NE(kept.error().message.find("disk is full"), std::string::npos);
}

} // namespace
} // namespace thinline::document
