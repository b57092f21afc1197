// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Steps.h"

#include "folds/Steps.h"
#include "print/Steps.h"
#include "shape/Steps.h"
#include "split/Steps.h"

#include <algorithm>
#include <map>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::PieceId;
using design::SourceId;

/// Where a step takes every piece of a source that is there, it is written as taking the source. What was chosen in
/// another order stays as it was chosen, for the first one may be the one acted on; and where windows are named, a
/// piece is named for its window.
std::vector<design::Chosen> withWholeSources(const std::vector<design::Piece>& pieces,
                                             const std::vector<design::Chosen>& on) {
    if (std::any_of(on.begin(), on.end(),
                    [](const design::Chosen& one) { return std::holds_alternative<design::OpeningOf>(one); }))
        return on;
    std::map<SourceId, size_t> taken;
    for (const PieceId id : design::resolved(on, pieces))
        if (id.isFound())
            ++taken[id.source()];
    const auto isWhole = [&](SourceId source) {
        const size_t there = design::resolved({design::EveryPieceOf{source}}, pieces).size();
        return there > 1 && taken[source] == there;
    };
    std::vector<design::Chosen> out;
    for (const design::Chosen& one : on) {
        const auto* id = std::get_if<PieceId>(&one);
        const design::Chosen kept =
            id && id->isFound() && isWhole(id->source()) ? design::EveryPieceOf{id->source()} : one;
        if (std::find(out.begin(), out.end(), kept) == out.end())
            out.push_back(kept);
    }
    return design::resolved(out, pieces) == design::resolved(on, pieces) ? out : on;
}

base::Status checked(const design::Step& step) {
    const design::StepKind* kind = kindOf(step);
    return kind ? design::checkValues(*kind, step)
                : base::Status(
                      Error{Code::Unsupported, "This program does not know the step '" + step.action + "'."});
}

} // namespace

const design::StepKind* kindOf(const design::Step& step) {
    if (const shape::ActionInfo* info = shape::infoOf(step))
        return info;
    if (const design::StepKind* info = split::infoOf(step))
        return info;
    if (const print::ActionInfo* info = print::infoOf(step))
        return info;
    return folds::infoOf(step);
}

std::string stepText(const design::Step& step) {
    if (const shape::ActionInfo* info = shape::infoOf(step))
        return design::stepText(*info, step);
    if (const print::ActionInfo* info = print::infoOf(step))
        return design::stepText(*info, step);
    return split::infoOf(step) ? split::stepText(step) : folds::stepText(step);
}

base::Result<design::Outcome> applied(const design::Step& step, const design::Pieces& pieces,
                                      const design::Pieces* before, const base::Progress& progress) {
    if (split::infoOf(step))
        return split::apply(pieces, step, before, progress);
    if (print::infoOf(step))
        return print::apply(pieces, step, progress);
    return folds::infoOf(step) ? folds::apply(pieces, step, progress)
                               : shape::apply(pieces, step, before, progress);
}

base::Result<Job> withStep(const State& state, const design::Step& step) {
    if (!state.made.pieces)
        return Error{Code::InvalidArgument, "There are no pieces yet; trace a picture first."};
    if (auto ok = checked(step); !ok)
        return ok.error();
    Job out = state.job;
    design::Step own = step;
    own.id = design::StepId{out.nextStep++};
    own.on = withWholeSources(state.made.pieces->now, step.on);
    out.steps.push_back(std::make_shared<const design::Step>(std::move(own)));
    return out;
}

base::Result<Job> withStepChanged(const State& state, size_t index, const design::Step& step) {
    if (index >= state.job.steps.size() || index >= state.made.after.size())
        return Error{Code::NotFound, "That step is not there any more."};
    if (auto ok = checked(step); !ok)
        return ok.error();
    Job out = state.job;
    const design::Step& before = *state.job.steps[index];
    design::Step own = step;
    own.id = before.id;
    own.on = withWholeSources(state.made.after[index].before->now, step.on);
    const bool keepsNames =
        own.action == before.action && own.action != shape::infoOf(shape::Action::FillOpenings).name;
    own.parts = keepsNames ? before.parts : std::vector<design::Part>{};
    out.steps[index] = std::make_shared<const design::Step>(std::move(own));
    return out;
}

Job withoutStep(const Job& job, size_t index) {
    Job out = job;
    if (index < out.steps.size())
        out.steps.erase(out.steps.begin() + static_cast<std::ptrdiff_t>(index));
    return out;
}

base::Result<State> stepped(const State& state, const design::Step& step, Stage upTo,
                            const base::Progress& progress) {
    auto job = withStep(state, step);
    if (!job)
        return job.error();
    auto next = make(job.take(), upTo, state.made, progress);
    if (next && next->made.after.back().whyNot)
        return *next->made.after.back().whyNot;
    return next;
}

} // namespace thinline::job
