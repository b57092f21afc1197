// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobEntries.h"
#include "document/JobFile.h"
#include "job/Clusters.h"
#include "job/LayerSteps.h"
#include "job/Relations.h"
#include "job/SheetSteps.h"
#include "job/SizeAnswers.h"
#include "job/SourceSteps.h"
#include "job/Steps.h"
#include "job/StockSteps.h"
#include "job/TraceSteps.h"
#include "shape/Steps.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <functional>
#include <numbers>

namespace thinline::batch {
namespace {

using design::PieceId;
using shape::Action;

/// A traced shed: a backing and three areas.
class StepCommands : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        m_start = support::tracedShed();
        ASSERT_TRUE(document::saveJob(m_store, "shed.thinline", m_start));
    }
    job::State state(const std::string& path = "shed.thinline") {
        return support::must(document::loadJob(m_store, path)).state;
    }
    nlohmann::json shown() {
        EXPECT_EQ(call({"show", "shed.thinline", "--json"}), kDone) << m_err.str();
        return nlohmann::json::parse(m_out.str());
    }
    /// The job with its picture traced by a changed recipe.
    static job::Job retraced(const job::Job& job,
                             const std::function<void(const job::Source&, trace::Recipe&)>& change) {
        const job::Source& shed = *job::pictureSource(job);
        trace::Recipe recipe = std::get<job::Picture>(shed.what).recipe;
        change(shed, recipe);
        return support::must(
            job::traced(job, *support::must(job::pixelsOf(job)), recipe, job::shippedCatalogue()));
    }
    /// What a job decides, as it would be in a file.
    static std::string decisionsOf(const job::State& state) {
        const auto entries = document::entriesOf(state, {}, false);
        const base::Bytes& bytes = *entries.at("job.json").bytes;
        return {bytes.begin(), bytes.end()};
    }
    /// The place of the load that holds a piece.
    static size_t loadWith(const job::State& state, PieceId piece) {
        for (size_t i = 0; i < state.made.sheets->loads.size(); ++i)
            for (const design::PlacedSheet& sheet : state.made.sheets->loads[i].sheets)
                for (const design::PlacedPiece& placed : sheet.pieces)
                    if (placed.what.piece == piece)
                        return i;
        return 0;
    }
    PieceId piece(const std::string& key) { return PieceId::found(m_start.job.sources.front()->id, key); }

    job::State m_start;
};

// What the window does by a click and what the batch tool does by a line are the same decisions, to the byte.
TEST_F(StepCommands, DecideWhatTheWindowDecides) {
    const PieceId one = piece("area.1"), two = piece("area.2"), three = piece("area.3");
    const std::string a = one.text(), b = two.text(), c = three.text();
    const auto& job = m_start.job;
    const design::SourceId source = job.sources.front()->id;
    const design::LayerId base = job.layers.front().id, areas = job.layers[1].id;
    const std::string baseName = "backing", areasNumber = std::to_string(numberOf(areas));
    const auto shaped = [&](Action action, std::vector<PieceId> on, std::vector<double> values) {
        return job::stepped(m_start, shape::makeStep(action, on, values));
    };
    const auto of = [](base::Result<job::Job> next) { return support::must(std::move(next)); };
    struct Row {
        std::vector<std::string> words;
        std::function<job::Job()> step;
    };
    const std::vector<Row> rows = {
        {{"shape", "--do", "offset", "--by", "2mm", "--on", a},
         [&] {
             return support::must(shaped(Action::Offset, {one}, {2, 1, 0})).job;
         }},
        {{"shape", "--do", "offset", "amount=1mm", "count=3", "join=square", "--on", a},
         [&] {
             return support::must(shaped(Action::Offset, {one}, {1, 3, 2})).job;
         }},
        {{"shape", "--do", "join", "--on", a + "," + b},
         [&] {
             return support::must(shaped(Action::Join, {one, two}, {})).job;
         }},
        {{"shape", "--do", "cut-out", "--on", a + ", " + c},
         [&] {
             return support::must(shaped(Action::CutOut, {one, three}, {})).job;
         }},
        {{"shape", "--do", "keep-every-part", "--on", a + "," + b},
         [&] {
             return support::must(shaped(Action::KeepEveryPart, {one, two}, {})).job;
         }},
        {{"shape", "--do", "divide", "--on", a + "," + b},
         [&] {
             return support::must(shaped(Action::Divide, {one, two}, {})).job;
         }},
        {{"shape", "--do", "fill-openings", "--by", "9mm2", "--on", a},
         [&] { return support::must(shaped(Action::FillOpenings, {one}, {9})).job; }},
        {{"shape", "--do", "mirror-twin", "--by", "4mm", "--on", a},
         [&] { return support::must(shaped(Action::MirrorTwin, {one}, {4})).job; }},
        {{"shape", "--do", "mirror", "--on", a + "," + b},
         [&] {
             return support::must(shaped(Action::Mirror, {one, two}, {0})).job;
         }},
        {{"shape", "--do", "mirror", "swaps=top and bottom", "--on", a},
         [&] { return support::must(shaped(Action::Mirror, {one}, {1})).job; }},
        {{"shape", "--do", "smooth", "--by", "1.5mm", "--on", a},
         [&] { return support::must(shaped(Action::Smooth, {one}, {1.5})).job; }},
        {{"shape", "--do", "move", "right=12mm", "down=-3mm", "--on", a},
         [&] {
             return support::must(shaped(Action::Move, {one}, {12, -3})).job;
         }},
        {{"shape", "--do", "turn", "--by", "45", "--on", a},
         [&] { return support::must(shaped(Action::Turn, {one}, {45})).job; }},
        {{"shape", "--do", "size-alone", "across=120", "down=110", "--on", a},
         [&] {
             return support::must(shaped(Action::SizeAlone, {one}, {120, 110})).job;
         }},
        {{"shape", "--do", "rows", "columns=2", "rows=2", "--on", a},
         [&] {
             return support::must(shaped(Action::RowsOfTwins, {one}, {2, 2, 5, 5})).job;
         }},
        {{"shape", "--do", "ring", "count=5", "radius=40mm", "--on", a},
         [&] {
             return support::must(shaped(Action::RingOfTwins, {one}, {5, 40, 0})).job;
         }},
        {{"shape", "--do", "align", "edge=top edges", "--on", a + "," + b},
         [&] {
             return support::must(shaped(Action::Align, {one, two}, {3})).job;
         }},
        {{"shape", "--do", "space-evenly", "direction=down", "--on", a + "," + b + "," + c},
         [&] {
             return support::must(shaped(Action::SpaceEvenly, {one, two, three}, {1, 0, 5})).job;
         }},
        {{"shape", "--do", "set-aside", "--on", b},
         [&] { return support::must(shaped(Action::SetAside, {two}, {})).job; }},
        {{"layer", "--new", "sea", "--name", "water"},
         [&] { return of(job::withNewLayer(job, "sea", "water")); }},
        {{"layer", "--of", baseName, "--stock", "rust"},
         [&] { return job::withLayerStock(job, base, "rust"); }},
        {{"layer", "--of", areasNumber, "--lift", "1.5mm"},
         [&] { return job::withLayerLift(job, areas, 1.5); }},
        {{"layer", "--of", areasNumber, "--name", "walls"},
         [&] { return of(job::withLayerNamed(job, areas, "walls")); }},
        {{"layer", "--of", areasNumber, "--place", "behind"},
         [&] { return job::withLayerPlace(job, areas, design::Layer::At::Behind); }},
        {{"layer", "--of", areasNumber, "--to", baseName},
         [&] { return job::withLayerMoved(job, areas, base); }},
        {{"layer", "--of", areasNumber, "--hide"}, [&] { return job::withLayerHidden(job, areas, true); }},
        {{"lay", "--on", a, "--stock", "signal"}, [&] { return job::painted(job, {one}, "signal"); }},
        {{"lay", "--on", a, "--layer", baseName}, [&] { return job::laidIn(job, {one}, base); }},
        {{"lay", "--on", b, "--lift", "2mm"}, [&] { return of(job::withPiecesLift(job, {two}, 2)); }},
        {{"lay", "--on", b, "--up", "back"},
         [&] { return job::withPiecesUp(job, {two}, design::Side::Back); }},
        {{"lay", "--on", b, "--copies", "4"}, [&] { return of(job::withCopies(m_start, two, 4)); }},
        {{"lay", "--on", a + "," + b + "," + c, "--each"},
         [&] {
             return of(job::withLayerEach(m_start, {one, two, three}));
         }},
        {{"cluster", "--on", b + "," + c, "--name", "the two"},
         [&] {
             return of(job::withCluster(m_start, "the two", {two, three}));
         }},
        {{"stock", "--new", "clear film", "--kind", "vinyl", "--colour", "#e8f0f0", "--sheets",
          "305x305mm,8.5x11in", "--price", "1.5"},
         [&] {
             design::Stock film = job::usualStock(design::Stock::Kind::Vinyl);
             film.name = "clear film";
             film.colour = {0xe8, 0xf0, 0xf0};
             film.sizes = {{305, 305}, {8.5 * 25.4, 11 * 25.4}};
             film.price = 1.5;
             return of(job::withNewStock(job, film));
         }},
        {{"stock", "--of", "sea", "--turns", "half", "--by", "hand", "--thickness", "0.35mm"},
         [&] {
             design::Stock sea = *design::findStock(job.stocks, "sea");
             sea.turns = design::Stock::Turns::Half;
             sea.isCutByHand = true;
             sea.thicknessMm = 0.35;
             return of(job::withStock(job, sea));
         }},
        {{"stock", "--of", "rust", "--take-out"},
         [&] { return of(job::withoutStock(job, "rust", job::shippedCatalogue())); }},
        {{"relate", "--set", a + "," + b, "--name", "walls"},
         [&] {
             return of(job::withSet(m_start, "walls", {one, two}));
         }},
        {{"relate", "--inner", a, "--under", c, "--clearance", "0.5mm"},
         [&] {
             return of(job::withFit(m_start, {one, three, design::FitKind::LidOver, {}, 0.5}, {}));
         }},
        {{"place", "--of", "1", "--at", "12mm,-5.5mm"},
         [&] {
             return of(job::withSourceCorner(job, source, {12, -5.5}));
         }},
        {{"place", "--of", "shed.png", "--turn", "-30"},
         [&] { return of(job::withSourceTurned(job, source, -30 * std::numbers::pi / 180)); }},
        {{"place", "--of", "1", "--width", "90mm"},
         [&] { return of(job::withSourceWidth(job, source, 90)); }},
        {{"place", "--of", "1", "--stock", "sea"}, [&] { return job::withSourceStock(job, source, "sea"); }},
        {{"place", "--of", "1", "--from", "the pier", "--licence", "own"},
         [&] {
             return job::withOrigin(job, source, {"the pier", job::Licence::Own});
         }},
        {{"size", "--frame", "300x250mm", "--depth", "20mm"},
         [&] {
             return support::must(job::withinFrame(m_start, {300, 250, 20})).sized.state.job;
         }},
        {{"size", "--no-frame"}, [&] { return job::withoutFrame(job); }},
        {{"pin", "--on", b, "--at", "40mm,50mm", "--turn", "90"},
         [&] {
             const job::State laid = support::arranged(m_start);
             const auto pose =
                 design::poseAtCorner(support::laid(laid, two).piece, {40, 50}, std::numbers::pi / 2);
             return of(job::pinnedAt(laid, {two, 0}, pose, loadWith(laid, two)));
         }},
        {{"clear", "--box", "0mm,0mm 8mm,8mm"},
         [&] {
             return retraced(job, [](const job::Source& shed, trace::Recipe& recipe) {
                 recipe.erasures.push_back(
                     job::erasureAt(shed, trace::Erasure::Kind::Rectangle, {{0, 0}, {8, 8}}));
             });
         }},
        {{"mend", "--close", "2mm,2mm 4mm,2mm"},
         [&] {
             return retraced(job, [&](const job::Source& shed, trace::Recipe& recipe) {
                 recipe.closings.push_back(job::closingAt(shed, {2, 2}, {4, 2}));
             });
         }},
        {{"mend", "--part", "1mm,1mm 9mm,6mm", "--part-threshold", "90"},
         [&] {
             return retraced(job, [&](const job::Source& shed, trace::Recipe& recipe) {
                 recipe.ownParts.push_back({job::partAt(shed, {{1, 1}, {9, 6}}), 90});
             });
         }},
        {{"mend", "--merge", "#c84e31=#b03a20"},
         [&] {
             return retraced(job, [](const job::Source&, trace::Recipe& recipe) {
                 recipe.merges.push_back({{0xc8, 0x4e, 0x31}, {0xb0, 0x3a, 0x20}});
             });
         }},
        {{"trace", "--again", "1", "--mode", "flat", "--part", "2mm,2mm 12mm,12mm", "--min-area", "1mm2"},
         [&] {
             const job::Job again = of(job::withPictureAgain(job, source));
             const job::Source& second = *again.sources.back();
             trace::Recipe recipe;
             recipe.mode = trace::Mode::FlatArt;
             recipe.leastAreaMm2 = 1;
             const double pxPerMm = 1 / job::mmPerPx(second);
             recipe.erasures.push_back({trace::Erasure::Kind::Outside,
                                        {{2 * pxPerMm, 2 * pxPerMm}, {12 * pxPerMm, 12 * pxPerMm}},
                                        0});
             return of(job::traced(again, *support::must(job::pixelsOf(job)), recipe, job::shippedCatalogue(),
                                   {}, second.id));
         }},
    };
    EXPECT_GE(rows.size(), 30u);
    for (const Row& row : rows) {
        std::string said;
        for (const std::string& word : row.words)
            said += word + " ";
        SCOPED_TRACE(said);
        ASSERT_TRUE(document::saveJob(m_store, "shed.thinline", m_start));
        std::vector<std::string> words = row.words;
        words.insert(words.begin() + 1, "shed.thinline");
        if (row.words[0] == "pin") {
            words.push_back("--load");
            words.push_back(std::to_string(loadWith(support::arranged(m_start), two) + 1));
        }
        EXPECT_EQ(call(words), kDone) << m_err.str();
        const job::State wanted = support::must(job::make(row.step(), job::Stage::Finish, {}));
        EXPECT_EQ(decisionsOf(state()), decisionsOf(wanted));
    }
}

TEST_F(StepCommands, ShowTellsNamesThatTheOthersTake) {
    const nlohmann::json before = shown();
    EXPECT_EQ(before.at("schema"), 1);
    EXPECT_EQ(before.at("pieces").size(), 4u);
    EXPECT_NEAR(before.at("tallMm").get<double>(), state().made.finished->heights.tallMm(), 1e-9);
    for (const auto& one : before.at("pieces")) {
        SCOPED_TRACE(one.at("name").get<std::string>());
        ASSERT_EQ(call({"lay", "shed.thinline", "--on", one.at("name"), "--copies", "3"}), kDone)
            << m_err.str();
        ASSERT_EQ(call({"lay", "shed.thinline", "--on", one.at("id"), "--lift", "1mm"}), kDone)
            << m_err.str();
    }
    for (const auto& layer : before.at("layers"))
        EXPECT_EQ(call({"layer", "shed.thinline", "--of", layer.at("name"), "--lift", "2mm"}), kDone)
            << m_err.str();
    const nlohmann::json after = shown();
    for (const auto& one : after.at("pieces")) {
        EXPECT_EQ(one.at("copies"), 3);
        EXPECT_EQ(one.at("liftMm"), 1) << "its own, over its layer's";
    }
    ASSERT_EQ(call({"show", "shed.thinline"}), kDone);
    EXPECT_NE(m_out.str().find("1:area.1  area 1"), std::string::npos) << m_out.str();
    EXPECT_NE(m_out.str().find("lift 2.0 mm"), std::string::npos) << m_out.str();
}

TEST_F(StepCommands, StepsAreListedAndTakenOut) {
    ASSERT_EQ(call({"shape", "shed.thinline"}), kDone);
    EXPECT_EQ(m_out.str(), "no steps yet\n");
    ASSERT_EQ(call({"shape", "shed.thinline", "--do", "move", "right=5mm", "--on", "all"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"shape", "shed.thinline", "--do", "turn", "--by", "30", "--on", "1:area.2"}), kDone);
    ASSERT_EQ(call({"shape", "shed.thinline"}), kDone);
    const std::string listed = m_out.str();
    EXPECT_EQ(std::count(listed.begin(), listed.end(), '\n'), 2) << listed;
    ASSERT_EQ(call({"shape", "shed.thinline", "--take-out", "1"}), kDone);
    EXPECT_EQ(state().job.steps.size(), 1u);
    EXPECT_EQ(state().job.steps.front()->action, "turn");
    ASSERT_EQ(call({"shape", "shed.thinline", "--undo"}), kDone);
    EXPECT_EQ(decisionsOf(state()).find("\"turn\""), std::string::npos);
    EXPECT_EQ(call({"shape", "shed.thinline", "--undo"}), kBadCall);
}

TEST_F(StepCommands, SayWhatIsWrong) {
    const std::string before = decisionsOf(state());
    struct Row {
        std::vector<std::string> words;
        std::string says;
    };
    const std::vector<Row> rows = {
        {{"shape", "--do", "melt", "--on", "all"}, "There is no action 'melt'"},
        {{"shape", "--do", "offset", "--on", "area 9"}, "There is no piece and no layer called 'area 9'"},
        {{"shape", "--do", "offset", "by=3", "--on", "all"}, "'by=3' is no value of offset"},
        {{"shape", "--do", "offset", "--by", "much", "--on", "all"}, "is not a number"},
        {{"shape", "--do", "join", "--on", "1:area.1"}, "Choose two pieces or more."},
        {{"shape", "--do", "join", "--by", "2", "--on", "all"}, "join takes no value."},
        {{"shape", "--do", "turn", "--undo"}, "Say one of --do, --undo and --take-out."},
        {{"layer", "--lift", "2mm"}, "Say which layer by --of, or --new"},
        {{"layer", "--of", "attic", "--hide"}, "There is no layer 'attic'; there are backing"},
        {{"layer", "--of", "backing", "--lift", "-1"}, "-1"},
        {{"layer", "--of", "backing", "--lift", "1000mm"}, "A lift goes from 0 to 50 mm."},
        {{"layer", "--of", "backing", "--stock", "gold"}, "There is no stock 'gold'; choose from "},
        {{"layer", "--of", "backing", "--place", "under"}, "--place is front, behind or back."},
        {{"layer", "--of", "backing", "--take-out"}, "There are pieces in this layer"},
        {{"layer", "--new", "gold"}, "There is no stock 'gold'; choose from "},
        {{"lay", "--on", "all", "--copies", "0"}, "--copies is '0'; it goes from 1 to 999"},
        {{"lay", "--on", "all", "--up", "down"}, "--up is front or back."},
        {{"lay", "--on", "all", "--lift", "60mm"}, "A lift goes from 0 to 50 mm."},
        {{"lay", "--on", "1:area.1", "--each"}, "Choose two pieces or more"},
        {{"lay", "--on", "", "--copies", "2"}, "There is no piece and no layer called ''"},
        {{"stock", "--of", "gold", "--price", "2"}, "There is no stock 'gold'; choose from "},
        {{"stock", "--new", "film", "--thickness", "0"}, "film needs a thickness"},
        {{"stock", "--new", "film", "--kind", "gold"}, "--kind is card, vinyl"},
        {{"stock", "--of", "night", "--take-out"}, "is what new work is laid in"},
        {{"stock", "--take", "nowhere.json"}, "nowhere.json"},
        {{"cluster", "--on", "1:area.1"}, "Choose two pieces or more"},
        {{"cluster", "--on", "1:area.1,backing"}, "a cluster is lifted off one sheet"},
        {{"cluster", "--of", "strays", "--part"}, "There is no cluster 'strays' in this job."},
        {{"cluster", "--on", "1:area.1,1:area.2", "--frame", "5mm"}, "lies on no carrier"},
        {{"cluster", "--on", "1:area.1,1:area.2", "--copies", "1000"}, "--copies is '1000'"},
        {{"relate", "--inner", "1:area.1"}, "by --into or --under"},
        {{"relate", "--inner", "1:area.1", "--into", "1:area.2"}, "Say which opening"},
        {{"relate", "--take-out-fit", "1"}, "There is no fit in this job."},
        {{"place", "--of", "7", "--turn", "3"}, "There is no source '7'; there are 1 (shed.png)."},
        {{"place", "--of", "1", "--at", "left"}, "a place is written as 10mm,25mm"},
        {{"place", "--of", "1", "--at", "9999mm,0"}, "9999"},
        {{"pin", "--on", "all", "--at", "5mm,5mm"}, "Pin one piece at a time"},
        {{"pin", "--on", "1:area.1", "--at", "5mm,5mm", "--load", "77"}, "That load is not there"},
        {{"clear", "--box", "5mm,5mm"}, "--box takes two corners"},
        {{"mend"}, "Nothing was said to be mended"},
        {{"mend", "--close", "5mm,5mm"}, "--close takes two places"},
        {{"mend", "--reopen"}, "There is no closing line to be taken back."},
        {{"mend", "--part-threshold", "9"}, "needs a part"},
        {{"mend", "--merge", "red"}, "it takes pairs of colours"},
        {{"trace", "--again", "4"}, "There is no source '4'"},
    };
    for (const Row& row : rows) {
        std::vector<std::string> words = row.words;
        words.insert(words.begin() + 1, "shed.thinline");
        EXPECT_NE(call(words), kDone) << row.says;
        EXPECT_NE(m_err.str().find(row.says), std::string::npos) << m_err.str();
    }
    EXPECT_EQ(decisionsOf(state()), before) << "nothing changed";
}

TEST_F(StepCommands, ANameThatFitsTwoPiecesIsRefusedWithBothIds) {
    ASSERT_EQ(call({"figure", "star", "--into", "shed.thinline", "--job", "shed.thinline"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"figure", "star", "--into", "shed.thinline", "--job", "shed.thinline"}), kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("3 parts lie side by side, the largest "), std::string::npos) << m_out.str();
    const nlohmann::json job = shown();
    const std::string name = job.at("pieces").back().at("name");
    EXPECT_EQ(call({"lay", "shed.thinline", "--on", name, "--copies", "2"}), kBadCall);
    EXPECT_NE(m_err.str().find("2:1"), std::string::npos) << m_err.str();
    EXPECT_NE(m_err.str().find("3:1"), std::string::npos) << m_err.str();
}

/// An envelope with dashed folds and a line of which nobody can tell what it is.
const char* const kEnvelope =
    R"(<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="160mm" viewBox="0 0 200 160">
<g id="cut" fill="none" stroke="black" stroke-width=".2"><path d="M40 40L60 10H140L160 40L190 50V90L160 100L150 140H50L40 100L10 90V50Z"/></g>
<g id="inner" fill="none" stroke="#888" stroke-width=".2"><path stroke-dasharray="3 2" d="M40 40H160M160 40V100M160 100H40M40 100V40"/>
<path stroke="#d22222" d="M70 140L80 100"/></g></svg>)";

TEST_F(StepCommands, FoldsOfADrawingStayWithTheirPieceToTheSheet) {
    const std::string svg = kEnvelope;
    ASSERT_TRUE(m_store.writeWhole("envelope.svg", {svg.begin(), svg.end()}));
    ASSERT_EQ(call({"import", "envelope.svg", "--job", "envelope.thinline"}), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("lines 2: 4 dashed grey lines in inner, 360.0 mm, taken as fold"),
              std::string::npos)
        << m_out.str();
    EXPECT_NE(m_out.str().find("left out until you say at Source"), std::string::npos) << m_out.str();
    ASSERT_EQ(call({"import", "envelope.svg", "--job", "envelope.thinline", "--lines", "3=slit"}), kDone)
        << m_err.str();
    const job::State said = state("envelope.thinline");
    ASSERT_EQ(said.made.work()->pieces.size(), 1u);
    const auto& lines = said.made.work()->pieces[0].piece.body->lines;
    ASSERT_EQ(lines.size(), 5u);
    EXPECT_TRUE(std::holds_alternative<design::Slit>(lines[4].does));
    // Saved and read again it is the same, kinds and answers too.
    const job::State again = support::must(document::readJob(support::must(document::writeJob(said))));
    EXPECT_EQ(*again.made.work()->pieces[0].piece.body, *said.made.work()->pieces[0].piece.body);
    const auto& before = std::get<job::Drawing>(said.job.sources[0]->what);
    const auto& after = std::get<job::Drawing>(again.job.sources[0]->what);
    EXPECT_EQ(after.kinds, before.kinds);
    EXPECT_EQ(after.take, before.take);
    // Made twice as large the folds still reach the edges; the outline and the folds went together.
    ASSERT_EQ(call({"folds", "envelope.thinline"}), kDone);
    EXPECT_NE(m_out.str().find(
                  "fold, 120.0 mm, edge to edge, 90 degrees away from you, scored on the visible face"),
              std::string::npos)
        << m_out.str();
    ASSERT_EQ(call({"folds", "envelope.thinline", "--as", "hand"}), kDone) << m_err.str();
    EXPECT_EQ(state("envelope.thinline").job.plan.foldsAs, design::FoldsAs::Hand);
    ASSERT_EQ(call({"pack", "envelope.thinline", "--folds-as", "perforation", "--out", "packed"}), kDone)
        << m_err.str();
    const auto list = *m_store.read("packed/contents.txt", 100'000);
    EXPECT_NE(std::string(list.begin(), list.end()).find("Folds: 4, perforated"), std::string::npos);
    for (const auto& [wrong, says] :
         std::vector<std::pair<std::string, std::string>>{{"9=fold", "There is no kind of lines '9'"},
                                                          {"3=glue", "says nothing lines can be"},
                                                          {"3", "write KIND=USE"}}) {
        EXPECT_EQ(call({"import", "envelope.svg", "--job", "e.thinline", "--lines", wrong}), kBadCall);
        EXPECT_NE(m_err.str().find(says), std::string::npos) << m_err.str();
    }
    EXPECT_EQ(call({"folds", "envelope.thinline", "--as", "glue"}), kBadCall);
}

TEST_F(StepCommands, LinesAreLaidChangedAndTakenOffByWordsAlone) {
    ASSERT_EQ(call({"figure", "rectangle", "width=120mm", "height=80mm", "--job", "flat.thinline"}), kDone)
        << m_err.str();
    const std::string piece = state("flat.thinline").made.work()->pieces[0].id().text();
    const auto folds = [&](std::vector<std::string> more) {
        more.insert(more.begin(), {"folds", "flat.thinline"});
        return call(more);
    };
    const geometry::Box box = support::workBox(state("flat.thinline"));
    const auto at = [&](double x, double y) {
        return base::formatNumber(box.least.x + x, 3) + "," + base::formatNumber(box.least.y + y, 3);
    };
    ASSERT_EQ(folds({"--add", at(40, 30) + " " + at(60, 30), "--on", piece}), kDone) << m_err.str();
    ASSERT_EQ(folds({"--along", at(0, 40), "distance=15mm", "as=score", "--on", piece}), kDone)
        << m_err.str();
    ASSERT_EQ(folds({"--json"}), kDone);
    const auto told = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(told["lines"].size(), 2u);
    EXPECT_EQ(told["foldsAs"], "score");
    EXPECT_NEAR(told["lines"][0]["lengthMm"].get<double>(), 120, 1e-6) << "it ran to both edges";
    EXPECT_EQ(told["lines"][1]["as"], "score");
    EXPECT_NEAR(told["lines"][1]["fromMm"][0].get<double>(), box.least.x + 15, 1e-6);
    const std::string fold = std::to_string(told["lines"][0]["line"].get<int>());
    ASSERT_EQ(folds({"--do", "change-lines", "angle=45", "goes=towards you", "--on", piece, "--lines", fold}),
              kDone)
        << m_err.str();
    ASSERT_EQ(folds({"--do", "move-lines", "right=0mm", "down=10mm", "--on", piece, "--lines", fold}), kDone)
        << m_err.str();
    ASSERT_EQ(folds({}), kDone);
    EXPECT_NE(
        m_out.str().find("fold, 120.0 mm, edge to edge, 45 degrees towards you, scored on the visible face"),
        std::string::npos)
        << m_out.str();
    // The job is the same after reading it again, and twice as large the lines have grown with their piece.
    ASSERT_EQ(call({"size", "flat.thinline", "--width", "240mm", "--job", "large.thinline"}), kDone)
        << m_err.str();
    const job::State grown = state("large.thinline");
    const auto& large = grown.made.work()->pieces[0].piece.body->lines;
    ASSERT_EQ(large.size(), 2u);
    EXPECT_NEAR(geometry::contourLength(large[1].path), 240, 1e-6);
    EXPECT_NEAR(large[1].path.start.y - support::workBox(grown).least.y, 80, 1e-6);
    EXPECT_NEAR(large[0].path.start.x - support::workBox(grown).least.x, 30, 1e-6);
    ASSERT_EQ(folds({"--do", "take-lines-off", "--on", piece}), kDone);
    EXPECT_TRUE(state("flat.thinline").made.work()->pieces[0].piece.body->lines.empty());
    for (const auto& [wrong, says] : std::vector<std::pair<std::vector<std::string>, std::string>>{
             {{"--add", "1mm,1mm", "--on", piece}, "--add takes two places"},
             {{"--add", "1mm,1mm 9mm,9mm"}, "Say on which piece by --on."},
             {{"--along", "1mm,1mm", "--as", "hand"}, "Say one of"},
             {{"--do", "crease", "--on", piece}, "There is no action 'crease'; there are line (as,"},
             {{"--do", "change-lines", "colour=red", "--on", piece},
              "'colour=red' is no value of change-lines"},
             {{"--do", "take-lines-off", "--on", piece}, "These pieces carry no such lines."}}) {
        EXPECT_NE(folds(wrong), kDone);
        EXPECT_NE(m_err.str().find(says), std::string::npos) << m_err.str();
    }
}

TEST_F(StepCommands, TheFirstPieceIsTheOneActedOnAlsoWhenAllAreChosen) {
    const std::string two =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='60mm' viewBox='0 0 100 60'>"
        "<path d='M0 0H60V60H0Z' fill='#2f6f8f'/><path d='M40 10H100V20H40Z' fill='#c8452a'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("two.svg", {two.begin(), two.end()}));
    ASSERT_EQ(call({"import", "two.svg", "--job", "two.thinline"}), kDone) << m_err.str();
    for (const auto& [on, left] : {std::pair("1:1,1:2", "1:1"), std::pair("1:2,1:1", "1:2")}) {
        ASSERT_EQ(call({"shape", "two.thinline", "--do", "cut-out", "--on", on, "--job", "cut.thinline"}),
                  kDone)
            << m_err.str();
        const job::State cut = state("cut.thinline");
        ASSERT_EQ(cut.made.work()->pieces.size(), 1u);
        EXPECT_EQ(cut.made.work()->pieces[0].id().text(), left);
    }
}

TEST_F(StepCommands, MotifsFitIntoWindows) {
    const std::string plate =
        "<svg xmlns='http://www.w3.org/2000/svg' width='260mm' height='160mm' viewBox='0 0 260 160'>"
        "<path d='M20 20H180V120H20Z M40 40V100H90V40Z M110 40V100H160V40Z' fill='#2f6f8f'/>"
        "<path d='M210 40L222 70H198Z' fill='#c8452a'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("plate.svg", {plate.begin(), plate.end()}));
    ASSERT_EQ(call({"import", "plate.svg", "--job", "plate.thinline"}), kDone) << m_err.str();
    std::string frame, motif;
    const job::State before = state("plate.thinline");
    for (const design::Laid& one : before.made.work()->pieces)
        (one.shape().openings.empty() ? motif : frame) = one.id().text();
    const geometry::Point corner = support::workBox(before).least;
    const std::string right =
        base::formatNumber(corner.x + 115, 3) + "mm," + base::formatNumber(corner.y + 50, 3) + "mm";
    const auto fit = [&](std::vector<std::string> more) {
        std::vector<std::string> words{"fit-motif", "plate.thinline", "--on", frame, "--motif",
                                       motif,       "--at",           right};
        words.insert(words.end(), more.begin(), more.end());
        return call(words);
    };
    // Its tip is too narrow to hold above.
    EXPECT_NE(fit({"--overlap", "1mm"}), kDone);
    EXPECT_NE(m_err.str().find("would hold on 1 side, 2 are asked"), std::string::npos) << m_err.str();
    ASSERT_EQ(fit({"--overlap", "4mm", "--dry-run", "--json"}), kDone) << m_err.str();
    const auto told = nlohmann::json::parse(m_out.str());
    // By hand: 58 x 68 mm of room for 24 x 30; 58 wide it would be 72.5 high, so the height decides.
    EXPECT_NEAR(told[0]["scale"], 68.0 / 30, 0.01);
    EXPECT_GE(told[0]["holds"].size(), 2u);
    EXPECT_EQ(state("plate.thinline").job.steps.size(), 0u) << "a look changes nothing";
    EXPECT_EQ(call({"fit-motif", "plate.thinline", "--motif", motif}), kBadCall);
    ASSERT_EQ(fit({"--overlap", "4mm", "--fill", "1mm"}), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("% of its size, holds"), std::string::npos) << m_out.str();
    const job::State done = state("plate.thinline");
    ASSERT_EQ(done.made.work()->pieces.size(), 1u);
    EXPECT_GT(geometry::area(done.made.work()->pieces[0].shape()), 160 * 100 - 2 * 50 * 60 + 1000);
    EXPECT_EQ(done.made.work()->pieces[0].id().text(), frame);
}

TEST_F(StepCommands, OneMotifGoesIntoEveryWindow) {
    const std::string plates =
        "<svg xmlns='http://www.w3.org/2000/svg' width='260mm' height='300mm' viewBox='0 0 260 300'>"
        "<path d='M20 20H180V120H20Z M40 40V100H90V40Z M110 40V100H160V40Z' fill='#2f6f8f'/>"
        "<path d='M20 160H110V260H20Z M40 180V240H90V180Z' fill='#2f6f8f'/>"
        "<path d='M210 40L222 70H198Z' fill='#c8452a'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("plates.svg", {plates.begin(), plates.end()}));
    ASSERT_EQ(call({"import", "plates.svg", "--job", "plates.thinline"}), kDone) << m_err.str();
    std::string frames, motif;
    const job::State before = state("plates.thinline");
    for (const design::Laid& one : before.made.work()->pieces)
        if (one.shape().openings.empty())
            motif = one.id().text();
        else
            frames += (frames.empty() ? "" : ",") + one.id().text();
    const std::vector<std::string> asked{"fit-motif", "plates.thinline", "--on", frames, "--motif",
                                         motif,       "--overlap",       "4mm"};
    EXPECT_NE(call(asked), kDone) << "two pieces have windows";
    std::vector<std::string> every = asked;
    every.push_back("--every");
    ASSERT_EQ(call(every), kDone) << m_err.str();
    const job::State done = state("plates.thinline");
    ASSERT_EQ(done.made.work()->pieces.size(), 2u) << "the motif is in its windows";
    // Each window lost the same to the same motif.
    const double bareLarge = 160 * 100 - 2 * 50 * 60, bareSmall = 90 * 100 - 50 * 60;
    double large = 0, small = 0;
    for (const design::Laid& one : done.made.work()->pieces)
        (geometry::bounds(one.shape()).width() > 100 ? large : small) = geometry::area(one.shape());
    EXPECT_GT(small - bareSmall, 500);
    EXPECT_NEAR(large - bareLarge, 2 * (small - bareSmall), 0.02 * (large - bareLarge));
    every.back() = "--at";
    every.push_back("40mm,40mm");
    every.push_back("--every");
    EXPECT_NE(call(every), kDone) << "one place, and every place";
}

TEST_F(StepCommands, RibbonsRunThroughWaysAndFoamStaysOffThem) {
    const std::string card =
        "<svg xmlns='http://www.w3.org/2000/svg' width='160mm' height='100mm' viewBox='0 0 160 100'>"
        "<path d='M0 0H160V100H0Z' fill='#2f6f8f'/>"
        "<path d='M40 20H120V80H40Z' fill='#c8452a'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("card.svg", {card.begin(), card.end()}));
    ASSERT_EQ(call({"import", "card.svg", "--job", "card.thinline"}), kDone) << m_err.str();
    const job::State before = state("card.thinline");
    const std::string plate = before.made.work()->pieces[0].id().text(),
                      upper = before.made.work()->pieces[1].id().text();
    const geometry::Point corner = support::workBox(before).least;
    const auto at = [&](double x, double y) {
        return base::formatNumber(corner.x + x, 3) + "mm," + base::formatNumber(corner.y + y, 3) + "mm";
    };
    ASSERT_EQ(call({"folds", "card.thinline", "--way", at(20, 50) + " " + at(140, 50), "takes=stick",
                    "width=8mm", "slit=10mm", "runs=in front", "--on", plate}),
              kDone)
        << m_err.str();
    EXPECT_EQ(call({"folds", "card.thinline", "--way", at(20, 50), "--on", plate}), kBadCall);
    EXPECT_EQ(call({"foam", "card.thinline", "--on", "--off"}), kBadCall);
    EXPECT_EQ(call({"foam", "card.thinline", "--across", "1mm"}), kBadCall);
    ASSERT_EQ(call({"foam", "card.thinline"}), kDone);
    EXPECT_NE(m_out.str().find("foam is not laid"), std::string::npos);
    ASSERT_EQ(call({"lay", "card.thinline", "--on", upper, "--lift", "2mm"}), kDone) << m_err.str();
    ASSERT_EQ(call({"foam", "card.thinline", "--on", "--across", "6mm"}), kDone) << m_err.str();
    ASSERT_EQ(call({"foam", "card.thinline", "--json"}), kDone);
    const auto told = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(told["pieces"].size(), 1u) << told.dump(1);
    EXPECT_EQ(told["pieces"][0]["piece"], upper);
    EXPECT_GE(told["pieces"][0]["spots"].size(), 4u);
    for (const auto& spot : told["pieces"][0]["spots"]) {
        EXPECT_EQ(spot["heightMm"], 2.0);
        EXPECT_EQ(spot["on"], plate);
        EXPECT_GE(std::abs(spot["middleMm"][1].get<double>() - corner.y - 50),
                  4 + 3 + spot["acrossMm"].get<double>() / 2 - 0.01)
            << spot.dump();
    }
    ASSERT_EQ(call({"foam", "card.thinline"}), kDone);
    EXPECT_NE(m_out.str().find("spots 2.0 mm high"), std::string::npos) << m_out.str();
    // Lines go onto pieces alike: here there is none.
    EXPECT_EQ(call({"folds", "card.thinline", "--do", "like-twins", "--on", plate}), kBadCall);
    EXPECT_NE(m_err.str().find("No other piece has this form"), std::string::npos) << m_err.str();
}

TEST_F(StepCommands, PanelsAreToldAndMarksFollowTheirLayers) {
    const std::string strip =
        "<svg xmlns='http://www.w3.org/2000/svg' width='220mm' height='90mm' viewBox='0 0 220 90'>"
        "<path d='M0 0H200L215 8V72L200 80H0Z' fill='#3c7d8c'/></svg>";
    ASSERT_TRUE(m_store.writeWhole("strip.svg", {strip.begin(), strip.end()}));
    ASSERT_EQ(call({"import", "strip.svg", "--job", "strip.thinline"}), kDone) << m_err.str();
    ASSERT_EQ(call({"panels", "strip.thinline"}), kDone);
    EXPECT_EQ(m_out.str(), "no panels: folds that part a piece make some\n");
    const geometry::Point corner = support::workBox(state("strip.thinline")).least;
    const auto at = [&](double x, double y) {
        return base::formatNumber(corner.x + x, 3) + "mm," + base::formatNumber(corner.y + y, 3) + "mm";
    };
    for (const double x : {50, 100, 150, 200})
        ASSERT_EQ(call({"folds", "strip.thinline", "--add", at(x, 0) + " " + at(x, 80), "--on", "all"}),
                  kDone)
            << m_err.str();
    ASSERT_EQ(call({"panels", "strip.thinline", "--at", at(75, 40), "--front", "--name", "bow"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"panels", "strip.thinline", "--of", "panel 1", "--up", "90"}), kDone) << m_err.str();
    EXPECT_EQ(call({"panels", "strip.thinline", "--of", "stern", "--up", "90"}), kFailed);
    EXPECT_NE(m_err.str().find("there are panel 1"), std::string::npos) << m_err.str();
    ASSERT_EQ(call({"panels", "strip.thinline", "--at", at(207, 40), "--glue"}), kDone) << m_err.str();
    EXPECT_EQ(call({"panels", "strip.thinline", "--at", at(207, 40), "--glue", "--name", "flap"}), kBadCall)
        << "one of both would be lost";
    ASSERT_EQ(call({"panels", "strip.thinline"}), kDone);
    for (const char* says :
         {"panel 1: 50.0 × 80.0 mm, read turned by 90 degrees", "bow: 50.0 × 80.0 mm, upright, the front",
          "panel 5: 15.0 × 80.0 mm, upright, glued, a flap, behind panel 1, left edge"})
        EXPECT_NE(m_out.str().find(says), std::string::npos) << m_out.str();
    ASSERT_EQ(call({"panels", "strip.thinline", "--json"}), kDone);
    const auto told = nlohmann::json::parse(m_out.str());
    EXPECT_EQ(told[0]["panels"][4]["flap"]["meets"][0]["panel"], "panel 1");
    EXPECT_EQ(told[0]["panels"][4]["flap"]["meets"][0]["takes"], true);
    ASSERT_EQ(call({"panels", "strip.thinline", "--at", at(207, 40), "--glue", "--behind", at(0, 40), "--job",
                    "said.thinline"}),
              kDone)
        << m_err.str();
    const auto saidNow = state("said.thinline");
    const design::Zone& zone = saidNow.made.work()->pieces[0].piece.body->zones.at(0);
    ASSERT_TRUE(zone.behind);
    EXPECT_LT(geometry::distance(*zone.behind, corner + geometry::Point{0, 40}), 1e-3);
    EXPECT_EQ(call({"panels", "strip.thinline", "--at", at(207, 40), "--no-glue", "--behind", at(0, 40)}),
              kBadCall);
    EXPECT_NE(call({"panels", "strip.thinline", "--at", "900mm,900mm", "--front"}), kDone);
    EXPECT_NE(m_err.str().find("No piece lies at that place."), std::string::npos);

    // A window gets a pane, a panel a lining; both lie at the back.
    EXPECT_NE(call({"panes", "strip.thinline", "--on", "all"}), kDone);
    EXPECT_NE(m_err.str().find("There is no window in these pieces."), std::string::npos) << m_err.str();
    ASSERT_EQ(call({"panes", "strip.thinline", "--line", "--at", at(125, 40), "--stock", "cream", "--job",
                    "lined.thinline"}),
              kDone)
        << m_err.str();
    const job::State lined = state("lined.thinline");
    ASSERT_EQ(lined.made.work()->pieces.size(), 2u);
    const design::Laid& lining = lined.made.work()->pieces[0]; // below all that is seen from the front
    EXPECT_NEAR(geometry::area(lining.shape()), 46 * 76, 1e-6);
    EXPECT_EQ(lined.made.work()->layerOf(lining).stockId, "cream");

    ASSERT_EQ(call({"figure", "ellipse", "width=30mm", "height=30mm", "--into", "strip.thinline", "--stock",
                    "rust", "--job", "strip.thinline"}),
              kDone)
        << m_err.str();
    ASSERT_EQ(call({"marks", "strip.thinline"}), kDone);
    EXPECT_NE(m_out.str().find("no marks\nmarks are outlines by score, 0.70 mm inside"), std::string::npos)
        << m_out.str();
    ASSERT_EQ(call({"place", "strip.thinline", "--of", "2", "--at", at(60, 20)}), kDone) << m_err.str();
    ASSERT_EQ(call({"marks", "strip.thinline", "--of", "rust", "--by", "pen", "--inset", "1mm"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"marks", "strip.thinline"}), kDone);
    EXPECT_NE(m_out.str().find("1 mark, 88.0 mm"), std::string::npos) << m_out.str();
    // Saved, read and packed, they are drawn before anything is cut.
    ASSERT_EQ(call({"pack", "strip.thinline", "--out", "packed"}), kDone) << m_err.str();
    const job::State again = state("strip.thinline");
    EXPECT_EQ(again.job.marks, (folds::MarkPlan{folds::MarksAs::Outlines, 1, false}));
    ASSERT_EQ(call({"marks", "strip.thinline", "--off", "rust"}), kDone);
    EXPECT_EQ(call({"marks", "strip.thinline", "--as", "dots"}), kBadCall);
    EXPECT_NE(call({"marks", "strip.thinline", "--of", "tin"}), kDone);
}

} // namespace
} // namespace thinline::batch
