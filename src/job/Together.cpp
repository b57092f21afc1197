// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Together.h"

#include "design/MadeLines.h"
#include "job/FaceArt.h"
#include "job/Source.h"
#include "print/Steps.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::LayerId;
using design::LineId;
using design::PieceId;
using design::SourceId;
using design::StepId;

/// The numbers of one job among those of another, counted on from the next free ones.
struct Renumbering {
    int nextSource = 1;
    int steps = 0, art = 0; ///< added to each
    std::map<LayerId, LayerId> layers;
    std::map<SourceId, SourceId> sources =
        {}; ///< those met so far: also of pieces that are gone, so that they stay gone

    SourceId operator()(SourceId id) {
        if (id == SourceId{})
            return id;
        const auto [at, isNew] = sources.try_emplace(id, SourceId{nextSource});
        nextSource += isNew;
        return at->second;
    }
    StepId operator()(StepId id) { return id == StepId{} ? id : StepId{numberOf(id) + steps}; }
    LayerId operator()(LayerId id) {
        const auto at = layers.find(id);
        return at == layers.end() ? id : at->second;
    }
    PieceId operator()(PieceId id) {
        if (!id)
            return id;
        return id.isFound() ? PieceId::found((*this)(id.source()), id.foundKey())
                            : (*this)(id.whole()).parted((*this)(id.madeBy()), id.key());
    }
    LineId operator()(LineId id) {
        const StepId by = design::madeBy(id);
        if (by != StepId{})
            return design::lineMadeBy((*this)(by), numberOf(id) - numberOf(design::lineMadeBy(by, 0)));
        const SourceId of{numberOf(id) / design::kLinesASource};
        return design::lineFound((*this)(of), numberOf(id) % design::kLinesASource);
    }
    design::Chosen operator()(const design::Chosen& chosen) {
        struct Visit {
            Renumbering& to;
            design::Chosen operator()(PieceId id) const { return to(id); }
            design::Chosen operator()(design::EveryPieceOf every) const {
                return design::EveryPieceOf{to(every.source)};
            }
            design::Chosen operator()(design::LineOf of) const {
                return design::LineOf{to(of.piece), to(of.line)};
            }
            design::Chosen operator()(design::OpeningOf of) const {
                return design::OpeningOf{to(of.piece), of.inside};
            }
        };
        return std::visit(Visit{*this}, chosen);
    }
    Source operator()(Source source) {
        source.id = (*this)(source.id);
        source.layer = (*this)(source.layer);
        for (auto& [key, layer] : source.lies)
            layer = (*this)(layer);
        return source;
    }
    design::Step operator()(design::Step step) {
        step.id = (*this)(step.id);
        for (design::Chosen& chosen : step.on)
            chosen = (*this)(chosen);
        for (design::Part& part : step.parts)
            part.id = (*this)(part.id);
        const print::ActionInfo* prints = print::infoOf(step);
        const auto shows = step.values.find("shows");
        if (prints && shows != step.values.end() &&
            (prints->action == print::Action::Picture || prints->action == print::Action::Text))
            if (auto* id = std::get_if<std::string>(&shows->second))
                if (const auto number = artNumber(*id))
                    *id = artId(*number + art);
        return step;
    }
    std::vector<PieceId> operator()(std::vector<PieceId> pieces) {
        for (PieceId& id : pieces)
            id = (*this)(id);
        return pieces;
    }
};

/// Finds each layer of another job in this one, or puts it on top.
std::map<LayerId, LayerId> layersInto(Job& job, const Job& other) {
    std::map<LayerId, LayerId> out;
    for (const design::Layer& layer : other.layers) {
        const bool isThere = std::any_of(job.layers.begin(), job.layers.end(), [&](const design::Layer& own) {
            return own.id == layer.id && own.stockId == layer.stockId && own.at == layer.at;
        });
        if (isThere)
            continue;
        out[layer.id] = LayerId{job.nextLayer++};
        job.layers.push_back(layer);
        job.layers.back().id = out[layer.id];
    }
    return out;
}

} // namespace

base::Result<Job> withJob(Job job, const Job& other, geometry::Point by) {
    for (const design::Stock& stock : other.stocks)
        if (std::none_of(job.stocks.begin(), job.stocks.end(),
                         [&](const design::Stock& own) { return own.id == stock.id; }))
            job.stocks.push_back(stock);
    Renumbering renumbered{job.nextSource, job.nextStep - 1, job.nextArt - 1, layersInto(job, other)};

    for (const auto& source : other.sources) {
        Source moved = renumbered(*source);
        moved.at = moved.at + by;
        job.sources.push_back(std::make_shared<const Source>(std::move(moved)));
    }
    for (const auto& step : other.steps)
        job.steps.push_back(std::make_shared<const design::Step>(renumbered(*step)));
    for (const auto& [number, art] : other.art)
        job.art.emplace(number + renumbered.art, art);
    other.wishes.each([&](const Wishes::Entry& said) {
        design::Wish wish = said.second;
        if (wish.layer)
            wish.layer = renumbered(*wish.layer);
        job.wishes = job.wishes.with(renumbered(said.first), wish);
    });
    for (design::PieceSet set : other.sets) {
        set.pieces = renumbered(set.pieces);
        job.sets.push_back(std::move(set));
    }
    for (design::Fit fit : other.fits) {
        fit.inner = renumbered(fit.inner);
        fit.outer = renumbered(fit.outer);
        job.fits.push_back(fit);
    }
    for (design::Cluster cluster : other.clusters) {
        cluster.pieces = renumbered(cluster.pieces);
        job.clusters.push_back(std::move(cluster));
    }
    job.print.stocks.insert(other.print.stocks.begin(), other.print.stocks.end());
    job.nextSource = renumbered.nextSource;
    if (job.nextSource > kMostSourcesTogether + 1)
        return Error{Code::LimitExceeded, "Up to " + std::to_string(kMostSourcesTogether) +
                                              " sources have room in one job; take fewer designs into it."};
    job.nextStep += other.nextStep - 1;
    job.nextArt += other.nextArt - 1;
    return job;
}

base::Result<Job> together(std::span<const State* const> of) {
    if (of.empty())
        return Error{Code::InvalidArgument, "There is no design to lay beside others."};
    std::vector<geometry::Box> boxes;
    double wide = 0, high = 0;
    for (const State* one : of) {
        geometry::Box box;
        if (const design::Stack* work = one->made.work())
            for (const design::Laid& laid : work->pieces)
                box.include(geometry::bounds(laid.shape()));
        if (box.isEmpty())
            box.include(geometry::Point{});
        boxes.push_back(box);
        wide = std::max(wide, box.width() + kApartMm);
        high = std::max(high, box.height() + kApartMm);
    }
    const auto across = static_cast<size_t>(
        std::max(1.0, std::round(std::sqrt(static_cast<double>(of.size()) * high / wide))));
    Job out = of.front()->job;
    if (of.size() > 1)
        out.frame.reset(); // it holds one of them
    geometry::Point corner = boxes.front().least;
    double rowMm = boxes.front().height();
    for (size_t i = 1; i < of.size(); ++i) {
        corner = i % across ? geometry::Point{corner.x + wide, corner.y}
                            : geometry::Point{boxes.front().least.x, corner.y + rowMm + kApartMm};
        rowMm = i % across ? std::max(rowMm, boxes[i].height()) : boxes[i].height();
        auto joined = withJob(std::move(out), of[i]->job, corner - boxes[i].least);
        if (!joined)
            return joined;
        out = joined.take();
    }
    return out;
}

} // namespace thinline::job
