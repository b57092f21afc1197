// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is said of lines could always be one step more, and after an evening of trying there would be forty. So a line that
// was laid by a step of its own is changed there, as if it had been laid like that. This holds only if nothing later speaks
// of the line: a later "all folds of this piece: 45 degrees" would win over it, and the person would see nothing happen.
#include "job/LineSteps.h"

#include "design/MadeLines.h"
#include "folds/Panes.h"
#include "geometry/Measures.h"
#include "job/LayerSteps.h"
#include "job/Steps.h"
#include "job/StockSteps.h"
#include "split/Steps.h"

#include <algorithm>
#include <optional>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::LineOf;
using design::Step;

/// Whether a step of Folds speaks of a line that is there.
bool speaksOf(const Step& step, const LineOf& line) {
    return folds::infoOf(step) && !folds::infoOf(step)->isDrawing &&
           std::any_of(step.on.begin(), step.on.end(), [&](const design::Chosen& one) {
               const auto* other = std::get_if<LineOf>(&one);
               return other ? other->line == line.line : true;
           });
}

/// The step that laid this line and no other, if what is said there holds to the end.
std::optional<size_t> ownStep(const Job& job, const LineOf& line) {
    const auto at = std::find_if(job.steps.begin(), job.steps.end(),
                                 [&](const auto& step) { return step->id == design::madeBy(line.line); });
    if (at == job.steps.end() || numberOf((*at)->id) == 0)
        return std::nullopt;
    const Step& step = **at;
    const folds::ActionInfo* info = folds::infoOf(step);
    const bool laysOne =
        info && (info->action == folds::Action::Line || info->action == folds::Action::AlongEdge);
    if (!laysOne || step.on.size() != 1 || step.on.front() != design::Chosen(line.piece))
        return std::nullopt;
    if (std::any_of(at + 1, job.steps.end(), [&](const auto& later) { return speaksOf(*later, line); }))
        return std::nullopt;
    return static_cast<size_t>(at - job.steps.begin());
}

} // namespace

base::Result<Job> withLinesSaid(const State& state, const std::vector<LineOf>& lines,
                                const std::map<std::string, design::Value>& said) {
    State now = state;
    std::vector<design::Chosen> others;
    for (const LineOf& line : lines) {
        const auto own = ownStep(now.job, line);
        if (!own) {
            others.emplace_back(line);
            continue;
        }
        Step step = *now.job.steps[*own];
        for (const auto& [name, value] : said)
            step.values[name] = value;
        auto next = withStepChanged(now, *own, step);
        if (!next)
            return next;
        now.job = next.take();
    }
    if (others.empty())
        return now.job;
    Step step = folds::makeStep(folds::Action::Change, std::move(others));
    step.values = said;
    const auto& steps = now.job.steps;
    const bool goesOn = !steps.empty() && steps.back()->action == step.action && steps.back()->on == step.on;
    if (!goesOn)
        return withStep(now, step);
    for (const auto& [name, value] : steps.back()->values)
        step.values.emplace(name, value);
    return withStepChanged(now, steps.size() - 1, step);
}

base::Result<Job> withPanelSaid(const State& state, const Step& step) {
    const auto& steps = state.job.steps;
    const auto placeOf = [](const Step& one) {
        const auto at = one.values.find("at");
        return at == one.values.end() ? design::Value{} : at->second;
    };
    const bool goesOn = !steps.empty() && steps.back()->action == step.action &&
                        steps.back()->on == step.on && placeOf(*steps.back()) == placeOf(step);
    if (!goesOn)
        return withStep(state, step);
    Step both = *steps.back();
    for (const auto& [name, value] : step.values)
        both.values[name] = value;
    return withStepChanged(state, steps.size() - 1, both);
}

base::Result<Job> withoutLines(const State& state, const std::vector<LineOf>& lines) {
    State now = state;
    std::vector<design::Chosen> others;
    for (const LineOf& line : lines)
        if (const auto own = ownStep(now.job, line))
            now.job = withoutStep(now.job, *own);
        else
            others.emplace_back(line);
    if (others.empty() && !lines.empty())
        return now.job;
    return withStep(now, folds::makeStep(folds::Action::TakeOff, std::move(others)));
}

namespace {

/// The layer at the back that is cut from a stock; made below all others when there is none.
design::LayerId layerAtBack(Job& job, const std::string& stockId) {
    for (const design::Layer& layer : job.layers)
        if (layer.at == design::Layer::At::Back && layer.stockId == stockId)
            return layer.id;
    const design::LayerId id{job.nextLayer++};
    design::Layer layer{id, "", stockId};
    layer.at = design::Layer::At::Back;
    job.layers.insert(job.layers.begin(), std::move(layer)); // it is seen from the front, through openings
    return id;
}

/// The job with a step, what it makes laid at the back.
base::Result<Job> withBehind(const State& state, Step step, const std::string& stockId,
                             const std::function<std::vector<design::PieceId>(const Step&)>& made) {
    State now = state;
    const auto stock = stockOfPanes(now.job, stockId);
    if (!stock)
        return stock.error();
    auto with = withStep(now, step);
    if (!with)
        return with;
    Job out = with.take();
    const design::LayerId layer = layerAtBack(out, *stock);
    return laidIn(out, made(*out.steps.back()), layer);
}

} // namespace

base::Result<Job> withPanes(const State& state, const std::vector<design::OpeningOf>& windows,
                            double marginMm, const std::string& stockId) {
    if (windows.empty())
        return Error{Code::InvalidArgument, "Choose the windows that get a pane."};
    Step step = folds::makeStep(folds::Action::Panes, {windows.begin(), windows.end()}, {marginMm});
    return withBehind(state, std::move(step), stockId, [](const Step& taken) {
        std::vector<design::PieceId> out;
        for (size_t i = 0; i < taken.on.size(); ++i)
            out.push_back(folds::paneOf(taken, i));
        return out;
    });
}

base::Result<Job> withLining(const State& state, const design::Piece& piece, geometry::Point at,
                             double marginMm, const std::string& stockId) {
    Step step = folds::panelStep(folds::Action::Lining, piece, at);
    step.values["margin"] = marginMm;
    return withBehind(state, std::move(step), stockId,
                      [](const Step& taken) { return std::vector{folds::liningOf(taken)}; });
}

base::Result<Job> withBoard(const State& state, double insetMm, const std::string& stockId,
                            const base::Progress& progress) {
    if (!state.made.pieces || state.made.pieces->now.empty())
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    State now = state;
    std::string stock = stockId;
    for (const design::Stock& one : now.job.stocks)
        if (stock.empty() && one.kind == design::Stock::Kind::Board)
            stock = one.id;
    if (stock.empty()) {
        design::Stock board = usualStock(design::Stock::Kind::Board);
        board.colour = {176, 168, 156};
        auto with = withNewStock(now.job, board);
        if (!with)
            return with;
        now.job = with.take();
        stock = now.job.stocks.back().id;
    }
    std::vector<design::PieceId> all;
    for (const design::Piece& piece : state.made.pieces->now)
        all.push_back(piece.id);
    // There are several where the work does not hang together.
    const design::Step step = split::boardStep(all, insetMm);
    const auto foreseen = applied(step, *state.made.pieces, nullptr, progress);
    if (!foreseen)
        return foreseen.error();
    return withBehind(now, step, stock, [&](const Step& taken) {
        std::vector<design::PieceId> out;
        for (const design::PieceId id : foreseen->made)
            out.push_back(id.whole().parted(taken.id, id.key()));
        return out;
    });
}

base::Result<std::vector<folds::MotifPair>> motifPairs(const std::vector<const design::Piece*>& pieces) {
    const auto areaOf = [](const design::Piece* piece) {
        const geometry::Box box = geometry::bounds(piece->shape());
        return piece->shape().openings.empty() ? -1.0 : box.width() * box.height();
    };
    const auto frame = std::max_element(pieces.begin(), pieces.end(),
                                        [&](const auto* a, const auto* b) { return areaOf(a) < areaOf(b); });
    if (frame == pieces.end() || areaOf(*frame) < 0 || pieces.size() < 2)
        return Error{Code::InvalidArgument, "Choose a piece with windows and the motifs that go into them."};
    std::vector<design::OpeningOf> free = windowsOf(**frame);
    if (pieces.size() - 1 > free.size())
        return Error{Code::InvalidArgument,
                     "There are " + std::to_string(pieces.size() - 1) + " motifs for " +
                         base::counted(static_cast<long long>(free.size()), "window") + "; choose fewer."};
    std::vector<folds::MotifPair> out;
    const auto take = [&](const design::Piece* motif, bool mustHold) {
        const geometry::Point middle = geometry::bounds(motif->shape()).centre();
        const auto farFrom = [&](const design::OpeningOf& window) {
            const auto hole = folds::windowAt((*frame)->shape(), (*frame)->placed(window.inside));
            return !hole || geometry::contains(*hole, middle)
                       ? 0.0
                       : geometry::distance(geometry::bounds(*hole).centre(), middle);
        };
        const auto nearest = std::min_element(
            free.begin(), free.end(), [&](const auto& a, const auto& b) { return farFrom(a) < farFrom(b); });
        if (mustHold && (nearest == free.end() || farFrom(*nearest) > 0))
            return false;
        out.push_back({*nearest, motif->id});
        free.erase(nearest);
        return true;
    };
    std::vector<const design::Piece*> beside; // those that lie over no window choose last
    for (const design::Piece* piece : pieces)
        if (piece != *frame && !take(piece, true))
            beside.push_back(piece);
    for (const design::Piece* piece : beside)
        take(piece, false);
    return out;
}

base::Result<std::vector<folds::MotifPair>>
motifPairsInTurn(const std::vector<design::OpeningOf>& windows,
                 const std::vector<const design::Piece*>& motifs) {
    if (windows.empty() || motifs.empty())
        return Error{Code::InvalidArgument, "Choose windows and the motifs that go into them."};
    if (motifs.size() > windows.size())
        return Error{Code::InvalidArgument,
                     "There are " + std::to_string(motifs.size()) + " motifs for " +
                         base::counted(static_cast<long long>(windows.size()), "window") +
                         "; choose fewer motifs or more windows."};
    std::vector<folds::MotifPair> out;
    for (size_t i = 0; i < windows.size(); ++i)
        out.push_back({windows[i], motifs[i % motifs.size()]->id});
    return out;
}

std::vector<design::OpeningOf> windowsOf(const design::Piece& piece) {
    const geometry::Transform back = geometry::inverse(piece.placed);
    std::vector<design::OpeningOf> out;
    for (const geometry::Contour& opening : piece.shape().openings)
        out.push_back({piece.id, back(geometry::pointInside({geometry::reversed(opening), {}}))});
    return out;
}

} // namespace thinline::job
