// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SizeAnswers.h"

#include "cutplan/Plan.h"
#include "geometry/Measures.h"
#include "job/Source.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

struct Place {
    std::string id, name;
    bool isMat = false;
    double widthMm = 0, heightMm = 0;
};

std::vector<Place> placesOf(const design::Formats& formats) {
    std::vector<Place> out;
    for (const design::MatFormat& mat : formats.mats)
        out.push_back({mat.id, "mat " + mat.name, true, mat.usableWidthMm(), mat.usableHeightMm()});
    for (const design::SheetFormat& sheet : formats.sheets)
        if (!formats.mat(sheet.id)) // a sheet as large as its mat gives the same answer
            out.push_back(
                {sheet.id, "sheet " + sheet.name, false, sheet.usableWidthMm(), sheet.usableHeightMm()});
    return out;
}

std::string limitText(const design::Stack& stack, const sheets::LargestFit& fit) {
    const int degrees = static_cast<int>(std::lround(fit.turnRad * 180 / std::numbers::pi));
    return design::pieceName(stack, fit.limitedBy) +
           (degrees != 0 ? ", turned by " + std::to_string(std::abs(degrees)) + "°" : "") + ", by the " +
           (fit.isWidthLimit ? "width" : "height");
}

Error nothingToSize() {
    return {Code::InvalidArgument,
            "There is nothing to size yet; trace a picture or add a word or a figure first."};
}

std::vector<geometry::Shape> shapesOf(const design::Stack& work) {
    std::vector<geometry::Shape> out;
    for (const design::Laid& laid : work.pieces)
        out.push_back(laid.shape());
    return out;
}

constexpr double kExact = 1e-6; // as a share: far below what a knife can place

base::Result<Sized> grownTo(const Place& place, const State& state, const SizeOptions& options,
                            const base::Progress& progress) {
    return sizedFor(
        state,
        [&](const State& now) -> base::Result<double> {
            return sheets::largestThatFits(*now.made.work(), place.widthMm, place.heightMm,
                                           now.job.plan.mayTurn)
                .scale;
        },
        kExact, options, progress);
}

/// Whether every outline grows as the job does: nothing in it keeps a measure of its own.
bool growsInProportion(const Job& job) {
    return job.steps.empty() &&
           std::all_of(job.sources.begin(), job.sources.end(),
                       [](const auto& source) {
                           return asA<Picture>(source.get()) || asA<Drawing>(source.get()) ||
                                  asA<Figure>(source.get());
                       }) &&
           std::all_of(job.clusters.begin(), job.clusters.end(),
                       [](const design::Cluster& cluster) { return cluster.frameMm == 0; });
}

} // namespace

base::Result<std::vector<PlaceFit>> largestOnEach(const State& state, const design::Formats& formats,
                                                  const SizeOptions& options, const base::Progress& progress,
                                                  const std::function<void(const std::vector<PlaceFit>&, std::size_t)>& soFar) {
    std::vector<PlaceFit> out;
    if (!state.made.work())
        return out;
    const geometry::Box box = workBox(state.made);
    const bool isPlain = growsInProportion(state.job);
    std::vector<Place> places = placesOf(formats);
    // Once somebody said what she cuts with, mats it does not take are no answer.
    if (state.job.cut.machine)
        std::erase_if(places, [&](const Place& place) {
            const design::MatFormat* mat = place.isMat ? formats.mat(place.id) : nullptr;
            return mat && !cutplan::takes(*state.job.cut.machine, *mat);
        });
    for (size_t i = 0; i < places.size(); ++i) {
        if (soFar)
            soFar(out, places.size());
        const Place& place = places[i];
        PlaceFit row{place.id, place.name, place.isMat, place.widthMm, place.heightMm};
        const auto answer = [&](const State& at, double widthMm, double heightMm) {
            row.scale = widthMm / box.width();
            row.widthMm = widthMm;
            row.heightMm = heightMm;
            row.limit = limitText(*at.made.work(), row.fit);
        };
        const auto fitOf = [&](const State& at) {
            return sheets::largestThatFits(*at.made.work(), place.widthMm, place.heightMm,
                                           state.job.plan.mayTurn);
        };
        if (isPlain) {
            row.fit = fitOf(state);
            const double by = std::exchange(row.fit.scale, 1);
            answer(state, box.width() * by, box.height() * by);
        } else if (const auto grown = grownTo(place, state, options,
                                              progress.part(double(i) / double(places.size()),
                                                            double(i + 1) / double(places.size())))) {
            const geometry::Box then = workBox(grown->state.made);
            row.fit = fitOf(grown->state);
            answer(grown->state, then.width(), then.height());
        } else {
            row.whyNot = grown.error().message;
        }
        if (progress.isCancelled())
            return base::cancelled();
        out.push_back(std::move(row));
    }
    return out;
}

base::Result<Sized> withLargestOn(const State& state, const std::string& placeId,
                                  const design::Formats& formats, const SizeOptions& options,
                                  const base::Progress& progress) {
    if (!state.made.work())
        return nothingToSize();
    const std::vector<Place> places = placesOf(formats);
    const auto place =
        std::find_if(places.begin(), places.end(), [&](const Place& p) { return p.id == placeId; });
    if (place == places.end())
        return Error{Code::NotFound, "There is no mat or sheet called '" + placeId + "'."};
    return grownTo(*place, state, options, progress);
}

base::Result<CopiesAnswer> withCopiesOnSheet(const State& state, const std::vector<design::PieceId>& pieces,
                                             int copies, int overSheets, const design::Formats& formats,
                                             const SizeOptions& options, const base::Progress& progress) {
    if (!state.made.work())
        return nothingToSize();
    const auto arranging = arrangeOptions(state.job, formats);
    if (!arranging)
        return arranging.error();
    sheets::CopiesFit found;
    constexpr double kMet =
        2e-3; // what halving found is met within a thousandth; asking again would only creep
    auto sized = sizedFor(
        state,
        [&](const State& now) -> base::Result<double> {
            std::vector<design::Piece> wanted;
            for (const design::Laid& laid : now.made.work()->pieces)
                if (pieces.empty() || std::find(pieces.begin(), pieces.end(), laid.id()) != pieces.end())
                    wanted.push_back(laid.piece);
            const auto fit = sheets::largestForCopies(wanted, copies, *arranging, overSheets, progress);
            if (!fit)
                return fit.error();
            if (!(fit->scale > 1e-6))
                return Error{Code::Degenerate, std::to_string(copies) + " copies do not fit " +
                                                   base::counted(overSheets, "sheet") +
                                                   " at any size; take fewer."};
            found = *fit;
            return fit->columns == 0 && std::abs(fit->scale - 1) < kMet ? 1.0 : fit->scale;
        },
        kMet, options, progress);
    if (!sized)
        return sized.error();
    return CopiesAnswer{sized.take(), found};
}

base::Result<int> copiesFromSheet(const State& state, const std::vector<design::PieceId>& pieces,
                                  const design::Formats& formats, const base::Progress& progress) {
    if (!state.made.work())
        return nothingToSize();
    const auto arranging = arrangeOptions(state.job, formats);
    if (!arranging)
        return arranging.error();
    std::vector<design::Piece> wanted;
    for (const design::Laid& laid : state.made.work()->pieces)
        if (pieces.empty() || std::find(pieces.begin(), pieces.end(), laid.id()) != pieces.end())
            wanted.push_back(laid.piece);
    return sheets::mostOnOneSheet(wanted, *arranging, progress);
}

base::Result<Sized> withinCircle(const State& state, double diameterMm, double roomMm,
                                 const SizeOptions& options, const base::Progress& progress) {
    if (!state.made.work())
        return nothingToSize();
    const double inside = diameterMm - 2 * roomMm;
    if (!(inside > 0) || !(roomMm >= 0))
        return Error{Code::InvalidArgument,
                     "Nothing is left inside that diameter; take a larger one or less room."};
    return sizedFor(
        state,
        [&](const State& now) -> base::Result<double> {
            return inside / 2 / std::max(1e-9, geometry::enclosingCircle(shapesOf(*now.made.work())).radius);
        },
        kExact, options, progress);
}

namespace {

/// The height of the work when every lift is at most this.
base::Result<State> withLiftsUpTo(const State& state, double mostMm, const base::Progress& progress) {
    Job job = state.job;
    for (design::Layer& layer : job.layers)
        layer.liftMm = std::min(layer.liftMm, mostMm);
    Wishes wishes = job.wishes;
    job.wishes.each([&](const Wishes::Entry& entry) {
        design::Wish wish = entry.second;
        if (!wish.liftMm || *wish.liftMm <= mostMm)
            return;
        wish.liftMm = mostMm;
        wishes = wishes.with(entry.first, wish);
    });
    job.wishes = wishes;
    return make(std::move(job), Stage::Finish, state.made, progress);
}

double tallOf(const State& state) {
    return state.made.finished->heights.tallMm();
}

/// Brings lifts down until the work is no higher than a depth; the lowest ones stay as they are.
base::Result<FrameAnswer> withinDepth(Sized sized, double depthMm, const base::Progress& progress) {
    const auto mm = [](double value) { return base::formatNumber(value, 1) + " mm"; };
    FrameAnswer out{std::move(sized), 0, 0};
    const double before = tallOf(out.sized.state);
    out.stackMm = before;
    std::string& told = out.sized.told;
    told += told.empty() ? "" : " ";
    if (before <= depthMm + 1e-9) {
        told += "The work is " + mm(before) + " high; " + mm(depthMm - before) + " of the depth are left.";
        return out;
    }
    auto flat = withLiftsUpTo(out.sized.state, 0, progress);
    if (!flat)
        return flat.error();
    if (tallOf(*flat) > depthMm)
        return Error{Code::Degenerate, "The card alone is " + mm(tallOf(*flat)) + " high and the frame " +
                                           mm(depthMm) + " deep; leave layers out or take a deeper frame."};
    // The height rises in straight stretches with the cap on the lifts: a chord finds the place in the last of them,
    // halving now and then leads there.
    double low = 0, high = design::kMostLiftMm;
    double lowTall = tallOf(*flat), highTall = before;
    State best = flat.take();
    constexpr double kNearMm = 1e-9;
    constexpr int kMostTries = 60;
    for (int i = 0; i < kMostTries && high - low > kNearMm && depthMm - lowTall > kNearMm; ++i) {
        const double chord = low + (depthMm - lowTall) * (high - low) / (highTall - lowTall);
        const double cap = i % 3 == 2 ? (low + high) / 2 : chord;
        auto tried = withLiftsUpTo(out.sized.state, cap, progress);
        if (!tried)
            return tried.error();
        if (const double tall = tallOf(*tried); tall <= depthMm + kNearMm) {
            low = cap;
            lowTall = tall;
            best = tried.take();
        } else {
            high = cap;
            highTall = tall;
        }
    }
    out.liftMm = low;
    out.stackMm = tallOf(best);
    told += "The work was " + mm(before) + " high; lifts were brought down to " + mm(low) +
            " so that it fits the depth of " + mm(depthMm) + ".";
    out.sized.state = std::move(best);
    return out;
}

} // namespace

base::Result<FrameAnswer> withinFrame(const State& state, const Frame& frame, const SizeOptions& options,
                                      const base::Progress& progress) {
    if (!state.made.work())
        return nothingToSize();
    if (!(frame.widthMm > 0) || !(frame.heightMm > 0) || !(frame.depthMm >= 0))
        return Error{Code::InvalidArgument, "Give the frame's inner width and height above zero."};
    auto sized = sizedFor(
        state,
        [&](const State& now) -> base::Result<double> {
            const geometry::Box box = workBox(now.made);
            return std::min(frame.widthMm / box.width(), frame.heightMm / box.height());
        },
        kExact, options, progress);
    if (!sized)
        return sized.error();
    Sized framed = sized.take();
    framed.state.job.frame = frame;
    if (frame.depthMm > 0)
        return withinDepth(std::move(framed), frame.depthMm, progress);
    FrameAnswer out{std::move(framed), 0, 0};
    out.stackMm = tallOf(out.sized.state);
    return out;
}

Job withoutFrame(const Job& job) {
    Job out = job;
    out.frame.reset();
    return out;
}

} // namespace thinline::job
