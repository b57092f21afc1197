// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Relations.h"

#include "job/Steps.h"
#include "shape/Steps.h"

#include <algorithm>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::PieceId;

Error notThere() {
    return {Code::NotFound, "That is not in the job any more."};
}

/// The piece as it lies, or the first part of it.
const design::Laid* laidOf(const State& state, PieceId id) {
    const design::Stack* work = state.made.work();
    if (!work)
        return nullptr;
    if (const design::Laid* laid = work->find(id))
        return laid;
    for (const design::Laid& laid : work->pieces)
        if (laid.id().isPartOf(id))
            return &laid;
    return nullptr;
}

} // namespace

base::Result<Job> withSet(const State& state, const std::string& name, const std::vector<PieceId>& pieces) {
    if (pieces.size() < 2)
        return Error{Code::InvalidArgument, "Choose two pieces or more to keep at one scale."};
    for (const PieceId id : pieces)
        if (!laidOf(state, id))
            return notThere();
    Job out = state.job;
    for (design::PieceSet& set : out.sets)
        std::erase_if(set.pieces, [&](PieceId id) {
            return std::find(pieces.begin(), pieces.end(), id) != pieces.end();
        });
    std::erase_if(out.sets, [](const design::PieceSet& set) { return set.pieces.size() < 2; });
    out.sets.push_back({name.empty() ? "set " + std::to_string(out.sets.size() + 1) : name, pieces});
    return out;
}

Job withoutSet(const Job& job, size_t set) {
    Job out = job;
    if (set < out.sets.size())
        out.sets.erase(out.sets.begin() + static_cast<std::ptrdiff_t>(set));
    return out;
}

base::Result<Job> withFit(const State& state, const design::Fit& fit, geometry::Point insideOpening) {
    const design::Laid* outer = laidOf(state, fit.outer);
    if (!laidOf(state, fit.inner) || !outer)
        return notThere();
    if (fit.inner == fit.outer)
        return Error{Code::InvalidArgument, "A piece cannot go into itself; choose another."};
    if (!(fit.clearanceMm >= 0 && fit.clearanceMm <= 20))
        return Error{Code::InvalidArgument, "The clearance goes from 0 to 20 mm."};
    design::Fit stated = fit;
    if (fit.kind == design::FitKind::IntoOpening) {
        if (!design::openingAt(outer->shape(), insideOpening))
            return Error{Code::NotFound, "There is no opening at that place; click inside one."};
        stated.opening = geometry::inverse(outer->piece.placed)(insideOpening);
    }
    Job out = state.job;
    out.fits.push_back(stated);
    return out;
}

Job withoutFit(const Job& job, size_t fit) {
    Job out = job;
    if (fit < out.fits.size())
        out.fits.erase(out.fits.begin() + static_cast<std::ptrdiff_t>(fit));
    return out;
}

base::Result<design::FitState> fitStateOf(const State& state, const design::Fit& fit,
                                          const base::Progress& progress) {
    const design::Laid *inner = laidOf(state, fit.inner), *outer = laidOf(state, fit.outer);
    if (!inner || !outer)
        return design::FitState{};
    return design::checkFit(inner->piece, outer->piece, fit, design::thicknessOf(*state.made.work(), *inner),
                            progress);
}

base::Result<State> withFitMade(const State& state, size_t fit, const base::Progress& progress) {
    if (fit >= state.job.fits.size())
        return notThere();
    const auto stands = fitStateOf(state, state.job.fits[fit], progress);
    if (!stands)
        return stands.error();
    if (!stands->isThere)
        return notThere();
    if (!(stands->rightScale > 1e-3))
        return Error{
            Code::Degenerate,
            "With this clearance nothing is left of the opening; take less clearance or a larger opening."};
    const double percent = stands->rightScale * 100 * (1 - 2e-5); // on the safe side of what was found
    return stepped(state,
                   shape::makeStep(shape::Action::SizeAlone, {laidOf(state, state.job.fits[fit].inner)->id()},
                                   {percent, percent}),
                   Stage::Finish, progress);
}

} // namespace thinline::job
