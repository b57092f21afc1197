// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Every kind of step on jobs made at random. After each of them what is on the screen must be what is there after
// saving and opening again, whatever was kept on the way; undo and redo must be the same pointers; and what somebody
// said about a piece must stay with that piece.
#include "design/Cluster.h"
#include "document/History.h"
#include "document/JobFile.h"
#include "folds/Steps.h"
#include "job/Clusters.h"
#include "job/LayerSteps.h"
#include "job/LineSteps.h"
#include "job/PrintSteps.h"
#include "job/Relations.h"
#include "job/SheetSteps.h"
#include "job/SizeAnswers.h"
#include "job/Sizing.h"
#include "job/StockSteps.h"
#include "print/Place.h"
#include "split/Steps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <random>
#include <set>

namespace thinline::document {
namespace {

using design::PieceId;
using shape::Action;
using support::must;

base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

// ---- jobs to begin with ------------------------------------------------------------------------------------------

job::State stackedSun() {
    const auto file = formats::image::encodePng(support::Drawing(240, 200)
                                                    .fill(support::disc({120, 100}, 80), {200, 71, 43})
                                                    .fill(support::disc({120, 100}, 50), {242, 234, 216})
                                                    .fill(support::rectangle(100, 80, 40, 40), {60, 125, 140})
                                                    .picture());
    const auto open = support::opened(file, "sun.png");
    trace::Recipe recipe;
    recipe.mode = trace::Mode::FlatArt;
    recipe.stacking = trace::Stacking::Stacked;
    const job::Job job = must(job::withSourceWidth(open.job, job::SourceId{1}, 60));
    return support::made(job::traced(job, *open.picture, recipe, job::shippedCatalogue()));
}

job::State plates() {
    return support::made(
        support::openedDrawing(
            "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 100 50'>"
            "<path fill='none' stroke='#8c5a3c' stroke-width='2' d='M5 5h30v30h-30z'/>"
            "<g id='plates'><rect x='45' y='5' width='20' height='30' fill='#3c7d8c'/>"
            "<rect x='60' y='15' width='25' height='30' fill='#e3b24b'/></g></svg>")
            .job);
}

job::State sign() {
    job::State state = support::withWord(support::emptyState(), support::word("QUAY"), "sea");
    return support::withFigure(state, construct::Figure::Ring, {60, 30}, "rust");
}

job::State beginning(unsigned kind) {
    switch (kind % 4) {
    case 0:
        return support::tracedShed();
    case 1:
        return stackedSun();
    case 2:
        return plates();
    default:
        return sign();
    }
}

// ---- steps -------------------------------------------------------------------------------------------------------

/// Does steps at random; a step that makes no sense for the job as it is does nothing.
class Hand {
  public:
    explicit Hand(unsigned seed) : m_random(seed) {}

    static constexpr int kKinds = 55; // up to 4, from 38 to 42 and at 50 something is said of pieces
    /// Returns the job after a step of a kind, or nothing when it is refused.
    std::optional<job::Job> step(int kind, const job::State& now) {
        const job::Job& job = now.job;
        const PieceId one = anyPiece(now), other = anyPiece(now), third = anyPiece(now);
        switch (kind) {
        case 0:
            return job::painted(job, {one, other}, anyStock(job));
        case 1:
            return of(job::withCopies(now, one, 1 + below(6)));
        case 2:
            return job::withWish(job, one, [&](design::Wish& wish) { wish.liftMm = below(4) * 0.5; });
        case 3:
            return job::withWish(job, one, [&](design::Wish& wish) { wish.up = design::Side::Back; });
        case 4:
            return job::withPiecesFree(job, {one}, below(2) == 0);
        case 5:
            return job::withLayerMoved(job, anyLayer(now), anyLayer(now));
        case 6:
            return job::withLayerHidden(job, anyLayer(now), below(2) == 0);
        case 7:
            return job::withLayerLift(job, anyLayer(now), below(5));
        case 8:
            return job::withLayerStock(job, anyLayer(now), anyStock(job));
        case 9:
            return of(job::withSet(now, {}, {one, other}));
        case 10:
            return shaped(now, Action::Offset, {one}, {-1.5 + 0.5 * below(8), 1, 1});
        case 11:
            return shaped(now, Action::Offset, {one}, {0.8, 2.0 + below(2), 0});
        case 12:
            return below(3) == 0 ? shaped(now, Action::Bridge, {one, other}, {2, 1.0 + below(2), 0})
                                 : shaped(now, Action::Join, {one, other});
        case 13:
            return shaped(now, Action::CutOut, {one, other});
        case 14:
            return numberOf(now.job.steps.empty() ? design::StepId{} : now.job.steps.back()->id) % 2 == 0
                       ? divided(now, one)
                       : shaped(now, Action::KeepEveryPart, {one, other});
        case 15:
            return shaped(now, Action::Divide, {one, other, third});
        case 16:
            return shaped(now, Action::KeepOverlap, {one, other});
        case 17:
            return shaped(now, Action::MirrorTwin, {one}, {2.0 + below(9)});
        case 18:
            return shaped(now, Action::RowsOfTwins, {one}, {2, 1.0 + below(2), 3, 3});
        case 19:
            return shaped(now, Action::RingOfTwins, {one}, {3.0 + below(3), 40, 1});
        case 20:
            return shaped(now, Action::Move, {one, other}, {below(20) - 10.0, below(20) - 10.0});
        case 21:
            return shaped(now, Action::Turn, {one}, {below(8) * 22.5});
        case 22:
            return shaped(now, Action::SizeAlone, {one}, {80.0 + below(60), 100});
        case 23:
            return shaped(now, Action::SetAside, {one});
        case 24:
            return shaped(now, Action::FillOpenings, {one}, {static_cast<double>(below(200))});
        case 25:
            return edited(now);
        case 26:
            return job.steps.empty()
                       ? std::nullopt
                       : std::optional(job::withoutStep(
                             job, static_cast<size_t>(below(static_cast<int>(job.steps.size())))));
        case 27:
            return sized(now);
        case 28:
            return moreSource(now);
        case 29:
            return changedSource(now);
        case 30:
            return of(job::withSourceWidth(job, job.sources[0]->id, 40.0 + below(80)));
        case 31:
            return of(job::withSourceAt(job, job.sources.back()->id, {below(60) * 1.0, below(60) * 1.0}));
        case 32:
            return of(job::withRoom(job, 0.1 * below(5)));
        case 33:
            return shaped(now, Action::Mirror, {one, other}, {static_cast<double>(below(2))});
        case 34:
            return of(job::withNewLayer(job, anyStock(job), below(2) == 0 ? "" : "upper"));
        case 35:
            return of(job::withLayerNamed(job, anyLayer(now), "layer " + std::to_string(below(9))));
        case 36:
            return job::withLayerPlace(job, anyLayer(now), static_cast<design::Layer::At>(below(3)));
        case 37:
            return withoutBareLayer(now);
        case 38:
            return job::laidIn(job, {one, other}, anyLayer(now));
        case 39:
            return of(job::withPiecesLift(job, {one}, below(4) * 0.5));
        case 40:
            return job::withPiecesUp(job, {one}, below(2) == 0 ? design::Side::Back : design::Side::Front);
        case 41:
            return of(job::withLayerEach(now, {one, other, third}));
        case 42:
            return planned(job);
        case 43:
            return of(job::withSourceTurned(job, job.sources.back()->id, below(12) * 0.5));
        case 44:
            return changedStock(job);
        case 45:
            return clustered(now);
        case 46:
            return withLine(now, one);
        case 47:
            return folded(
                now, folds::makeStep(folds::Action::AlongSides, {one}, {below(5) * 1.0, 2.0 + below(6)}));
        case 48:
            return changedLines(now, one);
        case 49:
            return job::withLayerMarked(job, anyLayer(now), below(3) > 0);
        case 50:
            return withPane(now, one);
        case 51:
            return withMotif(now, one, other);
        case 52:
        case 53:
            return printed(now, one, other);
        default:
            return of(
                job::withMarks(job, {static_cast<folds::MarksAs>(below(3)), 0.2 * below(6), below(2) == 0}));
        }
    }

  private:
    /// Something printed on a piece, laid elsewhere, over another, or taken off.
    std::optional<job::Job> printed(const job::State& now, PieceId on, PieceId other) {
        const design::Side side = below(4) == 0 ? design::Side::Back : design::Side::Front;
        const job::PrintOn where{{on}, side, {}};
        const std::vector<job::Print> there = job::printsOn(now, on, side);
        if (!there.empty() && below(2) == 0) {
            const job::Print& one = there[static_cast<size_t>(below(static_cast<int>(there.size())))];
            design::Face face = one.face;
            face.place = print::shifted(
                face.place, {{below(9) - 4.0, below(9) - 4.0}, 0.8 + 0.1 * below(5), 0.2 * below(9)});
            return below(4) == 0   ? of(job::withoutPrint(now, one.step))
                   : below(3) == 0 ? of(job::withPrintRaised(now, on, one.step, below(2) == 0))
                                   : of(job::withPrintChanged(now, on, face));
        }
        switch (below(4)) {
        case 0:
            return of(job::withTextPrinted(now, where, "Quay " + std::to_string(below(99)), support::kBold,
                                           {10, 20, 30}, support::shippedFonts()));
        case 1:
            return of(job::withCodePrinted(now, where, design::Face::Kind::SquareCode,
                                           "berth " + std::to_string(below(99))));
        case 2:
            return of(job::withOutlinePrinted(now, where, other, {200, 30, 40}));
        default:
            return of(job::withColourPrinted(now, {{on, other}, side, {}}, {40, 90, 140},
                                             raster::Rgb{220, 230, 240}, 0.3));
        }
    }
    std::optional<job::Job> clustered(const job::State& now) {
        const job::Job& job = now.job;
        if (job.clusters.empty() || below(2) == 0)
            return of(job::withCluster(now, "", {anyPiece(now), anyPiece(now), anyPiece(now)}));
        const auto which = static_cast<size_t>(below(static_cast<int>(job.clusters.size())));
        return below(3) == 0   ? of(job::withoutCluster(job, which))
               : below(2) == 0 ? of(job::withClusterFrame(now, which, 1.0 + below(6)))
               : below(3) == 0 ? of(job::withFrameThrough(job, which, below(2) == 0))
                               : of(job::withClusterCopies(job, which, 1 + below(3)));
    }
    const design::Piece* pieceOf(const job::State& now, PieceId id) {
        return now.made.pieces ? design::findPiece(now.made.pieces->now, id) : nullptr;
    }
    std::optional<job::Job> folded(const job::State& now, const design::Step& step) {
        const auto next = job::stepped(now, step);
        return next ? std::optional(next->job) : std::nullopt;
    }
    std::optional<job::Job> withLine(const job::State& now, PieceId on) {
        const design::Piece* piece = pieceOf(now, on);
        if (!piece)
            return std::nullopt;
        const geometry::Box box = geometry::bounds(piece->shape());
        const auto place = [&] {
            return box.least + geometry::Point{box.width() * below(100) / 99, box.height() * below(100) / 99};
        };
        if (below(3) == 0)
            return folded(now, folds::alongEdgeStep(*piece, place(), 1.0 + below(8), {design::Slit{}}));
        const geometry::Line way{place(), {geometry::Segment::line(place())}};
        return folded(now, folds::lineStep(*piece, way, {design::Fold{}, below(2) == 0}));
    }
    std::optional<job::Job> changedLines(const job::State& now, PieceId on) {
        const design::Piece* piece = pieceOf(now, on);
        if (!piece || piece->body->lines.empty())
            return std::nullopt;
        const auto& lines = piece->body->lines;
        const design::LineOf line{on, lines[static_cast<size_t>(below(static_cast<int>(lines.size())))].id};
        switch (below(4)) {
        case 0:
            return of(job::withLinesSaid(now, {line}, {{"angle", 10.0 + below(80)}}));
        case 1:
            return of(job::withoutLines(now, {line}));
        case 2:
            return folded(now,
                          folds::makeStep(folds::Action::Move, {line}, {1.0 - below(3), 1.0 * below(3)}));
        default:
            return folded(now, folds::makeStep(folds::Action::Repeat, {on}, {2, 2, 1.5}));
        }
    }
    std::optional<job::Job> withPane(const job::State& now, PieceId on) {
        const design::Piece* piece = pieceOf(now, on);
        return piece ? of(job::withPanes(now, job::windowsOf(*piece), 1.0 + below(5))) : std::nullopt;
    }
    std::optional<job::Job> withMotif(const job::State& now, PieceId on, PieceId motif) {
        const design::Piece *frame = pieceOf(now, on), *other = pieceOf(now, motif);
        if (!frame || !other || frame == other)
            return std::nullopt;
        const auto pairs = job::motifPairs({frame, other});
        return pairs ? folded(now, folds::motifStep(*pairs, {1.0 + below(3), 0.5, 1, 0.3 * below(3)}))
                     : std::nullopt;
    }
    std::optional<job::Job> changedStock(const job::Job& job) {
        design::Stock stock = *design::findStock(job.stocks, anyStock(job));
        stock.isCutByHand = below(4) == 0;
        stock.turns = static_cast<design::Stock::Turns>(below(3));
        stock.cut = static_cast<design::Depth>(below(2));
        stock.thicknessMm = 0.1 + 0.1 * below(5);
        return of(job::withStock(job, stock));
    }
    int below(int bound) { return static_cast<int>(m_random() % static_cast<unsigned>(bound)); }
    template <class R>
    static std::optional<job::Job> of(base::Result<R> result) {
        if (!result)
            return std::nullopt;
        if constexpr (std::is_same_v<R, job::Job>)
            return result.take();
        else
            return result.take().job;
    }
    static std::optional<job::Job> withoutBareLayer(const job::State& now) {
        for (const design::Layer& layer : now.job.layers)
            if (now.made.stack && now.made.stack->in(layer.id).empty())
                return of(job::withoutLayer(now, layer.id));
        return std::nullopt;
    }
    PieceId anyPiece(const job::State& now) {
        const auto& pieces = now.made.work()->pieces;
        return pieces[static_cast<size_t>(below(static_cast<int>(pieces.size())))].id();
    }
    design::LayerId anyLayer(const job::State& now) {
        const auto& layers = now.made.work()->layers;
        return layers[static_cast<size_t>(below(static_cast<int>(layers.size())))].id;
    }
    std::string anyStock(const job::Job& job) {
        return job.stocks[static_cast<size_t>(below(static_cast<int>(job.stocks.size())))].id;
    }
    std::optional<job::Job> shaped(const job::State& now, Action action, std::vector<PieceId> on,
                                   const std::vector<double>& values = {}) {
        std::set<PieceId> seen;
        std::erase_if(on, [&](PieceId id) { return !seen.insert(id).second; });
        const auto next = job::stepped(now, shape::makeStep(action, on, values));
        return next ? std::optional(next->job) : std::nullopt;
    }
    /// An earlier step is opened again and given other values or other pieces.
    std::optional<job::Job> edited(const job::State& now) {
        if (now.job.steps.empty())
            return std::nullopt;
        const auto index = static_cast<size_t>(below(static_cast<int>(now.job.steps.size())));
        const design::Step& old = *now.job.steps[index];
        if (folds::infoOf(old)) {
            design::Step other = old;
            other.values["angle"] = 20.0 + below(100);
            return of(job::withStepChanged(now, index, other));
        }
        if (split::infoOf(old)) {
            design::Step other = old;
            other.values["overlap"] = 3.0 + below(12);
            return of(job::withStepChanged(now, index, other));
        }
        const auto& before = now.made.after[index].before->now;
        std::vector<PieceId> on = design::resolved(old.on, before);
        if (below(3) == 0 && !before.empty() && !on.empty())
            on[0] = before[static_cast<size_t>(below(static_cast<int>(before.size())))].id;
        std::vector<double> values = shape::valuesOf(old);
        const shape::ActionInfo& info = *shape::infoOf(old);
        for (size_t i = 0; i < values.size(); ++i)
            if (info.parameters[i].quantity == base::Quantity::Length)
                values[i] += 0.4 * below(5) - 0.8;
            else if (info.parameters[i].quantity == base::Quantity::Count && below(2) == 0)
                values[i] += 1;
        return of(job::withStepChanged(now, index, shape::makeStep(info.action, on, values)));
    }
    /// A seam down the middle of a piece.
    std::optional<job::Job> divided(const job::State& now, PieceId piece) {
        const design::Piece* there =
            now.made.pieces ? design::findPiece(now.made.pieces->now, piece) : nullptr;
        if (!there)
            return std::nullopt;
        const geometry::Box box = geometry::bounds(there->shape());
        const double x = box.centre().x + below(5) - 2.0;
        split::SplitWish wish;
        wish.seams = {{{{x, box.least.y - 1}, {geometry::Segment::line({x, box.most.y + 1})}},
                       static_cast<split::Joint>(below(3))}};
        wish.room = {1000, 1000};
        return of(job::withStep(now, split::splitStep(*there, wish)));
    }
    std::optional<job::Job> sized(const job::State& now) {
        const job::SizeOptions options{below(3) == 0};
        const double factor = 0.7 + 0.1 * below(8);
        const auto out = below(3) == 0 ? job::withWidth(now, job::workBox(now.made).width() * factor, options)
                                       : job::scaled(now, factor, options);
        return out ? std::optional(out->state.job) : std::nullopt;
    }
    std::optional<job::Job> moreSource(const job::State& now) {
        if (now.job.sources.size() > 3)
            return std::nullopt;
        if (below(2) == 0)
            return of(job::withFigure(now, {construct::Figure::Ellipse, {20, 14}}, anyStock(now.job)));
        const base::Bytes svg =
            bytesOf("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' "
                    "viewBox='0 0 20 20'><rect width='12' height='20' fill='#86a78d'/></svg>");
        return of(job::withDrawing(now, {svg, "strip.svg", job::recognise(svg)}, job::shippedCatalogue(),
                                   support::shippedFonts()));
    }
    std::optional<job::Job> changedSource(const job::State& now) {
        const job::Source& source =
            *now.job.sources[static_cast<size_t>(below(static_cast<int>(now.job.sources.size())))];
        if (job::asA<job::Word>(&source)) {
            static const char* const words[] = {"QUAY", "QUAYS", "AQUA", "KEY"};
            return of(job::withWordChanged(now.job, source.id, support::word(words[below(4)], 30 + below(20)),
                                           support::shippedFonts()));
        }
        if (job::asA<job::Figure>(&source))
            return of(job::withFigureChanged(
                now.job, source.id, {construct::Figure::Ellipse, {20.0 + below(20), 15.0 + below(9)}}));
        if (const auto* drawing = job::asA<job::Drawing>(&source)) {
            design::TakeOptions take = drawing->take;
            if (below(2) == 0)
                take.strokesAsAreas = !take.strokesAsAreas;
            else
                take.leftOut = below(2) == 0 ? std::set<std::string>{"plates"} : std::set<std::string>{};
            return of(job::withDrawingTaken(now.job, source.id, take, job::shippedCatalogue(),
                                            support::shippedFonts()));
        }
        trace::Recipe recipe = job::asA<job::Picture>(&source)->recipe;
        recipe.leastAreaMm2 = 0.3 + 0.2 * below(4);
        recipe.tuckMm = 0.3 + 0.1 * below(5);
        if (below(4) == 0)
            recipe.erasures.push_back({trace::Erasure::Kind::Rectangle, {{100, 80}, {140, 120}}, 0});
        else if (below(4) == 0)
            recipe.erasures.clear();
        return of(job::traced(now.job, *must(job::pixelsOf(now.job)), recipe, job::shippedCatalogue()));
    }
    std::optional<job::Job> planned(const job::Job& job) {
        job::SheetPlan plan = job.plan;
        plan.spacingMm = 1 + below(4);
        plan.sheetId = below(2) == 0 ? "a4" : "letter";
        plan.lies = {static_cast<design::SheetLie::From>(below(4)),
                     static_cast<design::SheetLie::Way>(below(3))};
        return job::withPlan(job, plan);
    }

    std::mt19937 m_random;
};

// ---- what must hold ----------------------------------------------------------------------------------------------

void expectSameWork(const job::State& screen, const job::State& other, const char* how) {
    ASSERT_EQ(screen.made.work() == nullptr, other.made.work() == nullptr) << how;
    if (!screen.made.work())
        return;
    const design::Stack &a = *screen.made.work(), &b = *other.made.work();
    ASSERT_EQ(a.pieces.size(), b.pieces.size()) << how;
    EXPECT_EQ(a.layers, b.layers) << how;
    EXPECT_EQ(a.stocks, b.stocks) << how;
    for (size_t i = 0; i < a.pieces.size(); ++i) {
        const design::Laid &x = a.pieces[i], &y = b.pieces[i];
        ASSERT_EQ(x.id().text(), y.id().text()) << how;
        ASSERT_TRUE(*x.piece.body == *y.piece.body) << how << ": " << x.id().text() << " looks otherwise";
        EXPECT_EQ(x.piece.name, y.piece.name) << how;
        EXPECT_EQ(x.layer, y.layer) << how << ": " << x.id().text();
        EXPECT_EQ(x.copies, y.copies) << how << ": " << x.id().text();
        EXPECT_EQ(x.liftMm, y.liftMm) << how;
        EXPECT_EQ(x.up, y.up) << how;
        EXPECT_EQ(x.isFree, y.isFree) << how;
    }
    const auto names = [](const std::vector<design::Piece>& pieces) {
        std::string out;
        for (const design::Piece& piece : pieces)
            out += piece.id.text() + " ";
        return out;
    };
    EXPECT_EQ(names(screen.made.pieces->scrap), names(other.made.pieces->scrap)) << how;
    EXPECT_EQ(job::passedOver(screen.made), job::passedOver(other.made)) << how;
}

/// Every piece has what was said about it, or about what it was made of, and nothing else.
void expectOwnWishes(const job::State& now) {
    if (!now.made.work())
        return;
    std::set<std::string> seen;
    const design::ClusterIndex clusters = design::clusterIndex(*now.made.work());
    for (const design::Laid& laid : now.made.work()->pieces) {
        EXPECT_TRUE(seen.insert(laid.id().text()).second) << laid.id().text() << " is there twice";
        const design::Wish wish = now.job.wishes.resolved(laid.id());
        if (!clusters.contains(laid.id())) { // there the count is that of the whole
            EXPECT_EQ(laid.copies, wish.copies.value_or(1)) << laid.id().text();
        }
        if (wish.layer && design::findLayer(now.job.layers, *wish.layer)) {
            EXPECT_EQ(laid.layer, *wish.layer) << laid.id().text();
        }
    }
}

/// THINLINE_SEEDS asks for more.
const unsigned kSeeds = [] {
    const char* wanted = std::getenv("THINLINE_SEEDS");
    return wanted ? static_cast<unsigned>(std::atoi(wanted)) : 24u;
}();

class EveryStep : public testing::TestWithParam<unsigned> {
  protected:
    static void TearDownTestSuite() {
        const bool isWhole =
            testing::UnitTest::GetInstance()->test_to_run_count() >= 24; // not a few seeds looked at alone
        for (int kind = 0; isWhole && kind < Hand::kKinds; ++kind)
            EXPECT_TRUE(s_done.contains(kind)) << "no step of kind " << kind << " was ever done";
    }
    static inline std::set<int> s_done;
};

TEST_P(EveryStep, TheScreenIsWhatIsThereAfterReopening) {
    const unsigned seed = GetParam();
    Hand hand(seed);
    std::mt19937 random(seed * 31 + 7);
    job::State screen = beginning(seed);
    History history(screen.job);
    history.reset(screen.job, std::make_shared<const job::Made>(screen.made));
    for (int i = 0; i < 30 && screen.made.work(); ++i) {
        const int kind =
            static_cast<int>((seed * 5 + static_cast<unsigned>(i) * 11 + random() % 3) % Hand::kKinds);
        SCOPED_TRACE("seed " + std::to_string(seed) + ", step " + std::to_string(i) + ", kind " +
                     std::to_string(kind));
        const auto next = hand.step(kind, screen);
        if (!next)
            continue;
        const bool saysSomething = kind <= 4 || (kind >= 38 && kind < 43) || kind == 50;
        if (!saysSomething) {
            EXPECT_EQ(next->wishes, screen.job.wishes) << "a step moved or dropped what was said";
        }
        const job::State before = screen;
        screen = must(job::make(*next, job::Stage::Finish, screen.made));
        if (screen.made.work() && screen.made.work()->pieces.size() > 60) { // enough to look at
            screen = before;
            continue;
        }
        s_done.insert(kind);
        expectOwnWishes(screen);
        expectSameWork(screen, must(job::make(screen.job, job::Stage::Finish, {})),
                       "made from the beginning");
        if (i % 2 == 0) {
            expectSameWork(screen, must(readJob(must(writeJob(screen)))), "saved and opened again");
        }
        history.push(screen.job, "step", std::make_shared<const job::Made>(screen.made));
        const auto job = history.snapshot();
        const auto made = history.made();
        history.undo();
        EXPECT_EQ(history.now().wishes, before.job.wishes);
        history.redo();
        EXPECT_EQ(history.snapshot(), job);
        EXPECT_EQ(history.made(), made);
        if (HasFatalFailure())
            return;
    }
}

INSTANTIATE_TEST_SUITE_P(RandomJobs, EveryStep, testing::Range(0u, kSeeds));

} // namespace
} // namespace thinline::document
