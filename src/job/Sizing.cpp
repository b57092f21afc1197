// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Sizing without a hidden scale.
//
// Up to format 3 a job had two factors, and every outline was multiplied by them before the steps at Shape. What was
// typed after a design had been enlarged 2.42 times was multiplied too: a rectangle of 80 x 50 mm came out 194 x 121.
// And because margins did not grow along, width and height were met by two factors that drifted apart: a disc with a
// margin became an ellipse.
//
// Now sizing multiplies the measures themselves. There are three kinds:
//   places      grow: how large a source is, where it lies, moves, spacings, the radius of a ring, outer measures;
//   margins     stay as typed: offsets, overlaps, tuck, room, clearance; a switch lets them grow along;
//   thresholds  grow so that they choose what they chose: the least area of a tracing, the reach of a smoothing. A
//               step that filled small openings remembers which: an opening that a margin makes smaller is not
//               filled for that.
//
// With margins in it a design's width is no multiple of the factor: w(f) = a f + b as long as the same pieces make
// the frame. Two replays give the line, the third lands on it. Where another piece comes to make the frame the line
// has a knee, and where a piece vanishes in its own margin w jumps; so the search keeps a bracket and halves it when
// the line leads outside. What cannot be met within the tolerance after eight replays is a jump: the state below it
// is taken, and the pieces that are on one side only are named.
#include "job/Sizing.h"

#include "job/Constructions.h"

#include "job/Source.h"
#include "job/Steps.h"
#include "shape/Steps.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::PieceId;

/// The factors in either direction, and what follows from them.
struct Factors {
    double x = 1, y = 1;
    bool growsMargins = false;
    double mean() const { return std::sqrt(x * y); }
    double margin() const { return growsMargins ? mean() : 1; }
    bool isEven() const { return std::abs(x - y) <= 1e-12 * x; }
};

void size(Picture& picture, const Factors& by) {
    trace::Recipe& r = picture.recipe;
    r.leastAreaMm2 *= by.x * by.y;
    for (double* reach : {&r.widestGapMm, &r.foldsBelowMm, &r.bridgesMm, &r.neckMm})
        *reach *= by.mean();
    r.tuckMm *= by.margin();
    picture.roomMm *= by.margin();
}

/// A word whose letters overlap by a margin is set anew from its letters.
base::Status size(Word& word, Source& source, const Factors& by) {
    lettering::Recipe& r = word.recipe;
    const bool isByWidth = r.sizeBy == lettering::SizeBy::Width;
    r.spacingMm *= by.x;
    r.fillBelowMm2 *= by.x * by.y;
    if (r.overlapMm > 0 && !by.growsMargins && word.letters && by.isEven()) {
        const auto before = lettering::setWord(
            *word.letters, unstretched(std::get<Word>(source.what).recipe, source.stretchY));
        if (!before)
            return before.error();
        lettering::Recipe set = r;
        set.sizeBy = lettering::SizeBy::CapHeight;
        set.sizeMm = before->capHeightMm * by.x;
        set.fillBelowMm2 = r.fillBelowMm2;
        const auto after = lettering::setWord(*word.letters, set);
        if (!after)
            return after.error();
        r.sizeMm = isByWidth ? after->box.width() : set.sizeMm * source.stretchY;
        source.kept = std::make_shared<const std::vector<Found>>(piecesOfWord(*after, word.signs));
        source.unitMm = 1;
        return base::Done{};
    }
    r.sizeMm *= isByWidth ? by.x : by.y;
    r.overlapMm *= by.x; // its outlines are all there is: the overlap grows with them
    source.unitMm *= by.x;
    return base::Done{};
}

base::Status size(Figure& figure, Source& source, const Factors& by) {
    if (!by.isEven() && source.stretchY == 1)
        if (const auto stretched = construct::stretchedBy(figure.recipe, by.x, by.y)) {
            auto shape = construct::make(*stretched);
            if (!shape)
                return shape.error();
            std::vector<Found> kept = *source.kept;
            kept.front().body = std::make_shared<const design::Body>(
                design::Body{geometry::rounded(shape.take(), kKeptStep)});
            source.kept = std::make_shared<const std::vector<Found>>(std::move(kept));
            source.unitMm = 1;
            figure.recipe = *stretched;
            return base::Done{};
        }
    figure.recipe = construct::sizedBy(figure.recipe, by.x);
    source.unitMm *= by.x;
    if (!by.isEven())
        source.stretchY *= by.y / by.x;
    return base::Done{};
}

/// What goes in grows, margins stay: the parts are made anew.
base::Status size(Construction& construction, Source& source, const Factors& by) {
    if (!by.isEven())
        return Error{Code::InvalidArgument,
                     source.name() + " is made from measures and cannot be stretched. Keep the proportions, or change its "
                                     "measures at Source."};
    construction.given = construct::sizedBy(std::move(construction.given), by.x, by.growsMargins);
    const auto built = construct::built(construction.given);
    if (!built)
        return built.error();
    auto pieces = piecesOf(*built);
    if (!pieces)
        return pieces.error();
    source.kept = pieces.take();
    return base::Done{};
}

base::Result<Source> sized(const Source& before, const Factors& by) {
    if (!by.isEven() && before.turnRad != 0)
        return Error{Code::InvalidArgument,
                     before.name() + " is turned; a stretch would bend its corners. Keep the proportions, or "
                                     "turn it back at Source first."};
    Source out = before;
    out.at = {out.at.x * by.x, out.at.y * by.y};
    base::Status done = base::Done{};
    if (auto* word = std::get_if<Word>(&out.what)) {
        Word now = *word;
        done = size(now, out, by);
        out.what = std::move(now);
    } else if (auto* figure = std::get_if<Figure>(&out.what)) {
        Figure now = *figure;
        done = size(now, out, by);
        out.what = std::move(now);
        if (!done)
            return done.error();
        return out; // its stretch is settled
    } else if (auto* construction = std::get_if<Construction>(&out.what)) {
        Construction now = *construction;
        done = size(now, out, by);
        out.what = std::move(now);
    } else {
        if (auto* picture = std::get_if<Picture>(&out.what))
            size(*picture, by);
        out.unitMm *= by.x;
    }
    if (!done)
        return done.error();
    if (!by.isEven())
        out.stretchY *= by.y / by.x;
    return out;
}

/// The step with its measures multiplied; one that fills small openings remembers which these are.
std::shared_ptr<const design::Step> sized(const AfterStep* made, const design::Step& before,
                                          const Factors& by) {
    const design::StepKind* kind = kindOf(before);
    design::Step out = kind ? design::sizedBy(*kind, before, by.x, by.y, by.growsMargins) : before;
    const bool fills = out.action == shape::infoOf(shape::Action::FillOpenings).name;
    if (fills && made && !out.values.contains("settled")) {
        for (const PieceId id : design::resolved(before.on, made->before->now)) {
            const design::Piece* whole = design::findPiece(made->before->now, id);
            const design::Piece* filled = design::findPiece(made->pieces->now, id);
            if (!whole || !filled)
                continue;
            const auto back = geometry::inverse(whole->placed);
            for (const geometry::Contour& opening : whole->shape().openings)
                if (std::find(filled->shape().openings.begin(), filled->shape().openings.end(), opening) ==
                    filled->shape().openings.end())
                    out.parts.push_back({id, back(geometry::pointInside({geometry::reversed(opening), {}}))});
        }
        out.values["settled"] = 1.0;
    }
    return std::make_shared<const design::Step>(std::move(out));
}

base::Result<Job> sizedJob(const State& state, const Factors& by) {
    if (!(by.x > 0) || !(by.y > 0) || !std::isfinite(by.x) || !std::isfinite(by.y))
        return Error{Code::InvalidArgument, "A size must be above zero."};
    Job out = state.job;
    for (auto& source : out.sources) {
        auto next = sized(*source, by);
        if (!next)
            return next.error();
        source = std::make_shared<const Source>(next.take());
    }
    for (size_t i = 0; i < out.steps.size(); ++i)
        out.steps[i] = sized(i < state.made.after.size() ? &state.made.after[i] : nullptr, *out.steps[i], by);
    for (design::Fit& fit : out.fits)
        fit.clearanceMm *= by.margin();
    return out;
}

/// What is on one side of a jump only.
std::string jumpText(const State& below, const State& above) {
    std::set<PieceId> low, high;
    const auto take = [](const State& state, std::set<PieceId>& into) {
        if (const design::Stack* work = state.made.work())
            for (const design::Laid& laid : work->pieces)
                into.insert(laid.id());
    };
    take(below, low);
    take(above, high);
    std::string names;
    const auto name = [&](const State& state, const std::set<PieceId>& own, const std::set<PieceId>& other) {
        for (const PieceId id : own)
            if (!other.contains(id) && names.size() < 80)
                names += (names.empty() ? "" : ", ") + design::pieceName(*state.made.work(), id);
    };
    name(above, high, low);
    name(below, low, high);
    return "Between two sizes it jumps" +
           (names.empty() ? std::string(" and cannot be met exactly")
                          : ": " + names + " comes or goes there") +
           ". The nearest size below was taken.";
}

/// One replay: a factor, the state it leads to, and how much growth that still asks for.
struct Replay {
    double factor = 1;
    State state;
    double growth = 1;
    double error() const {
        return 1 / growth - 1;
    } ///< how far the answer is above what is wanted, as a share
};

/// The factor at which two replays' line meets the answer, or the middle of the bracket where that leads outside.
double nextFactor(const Replay& a, const Replay& b, const std::optional<Replay>& low,
                  const std::optional<Replay>& high) {
    const double slope = (b.error() - a.error()) / (b.factor - a.factor);
    double next = std::abs(slope) > 1e-12 ? b.factor - b.error() / slope : b.factor * b.growth;
    const double least = low ? low->factor : 0, most = high ? high->factor : 1e9;
    if (!(next > least && next < most))
        next = low && high ? (least + most) / 2 : b.factor * b.growth;
    return next;
}

base::Status checkSize(double widthMm, double heightMm) {
    constexpr double kMostMm = 2000; // the reach of the set operations
    if (!(widthMm >= 1) || !(heightMm >= 1) || widthMm > kMostMm || heightMm > kMostMm)
        return Error{Code::InvalidArgument,
                     "A design can be 1 mm to 2000 mm wide and high; this would be " +
                         base::formatSize(widthMm, heightMm, base::LengthUnit::Millimetre) + "."};
    return base::Done{};
}

Error nothingToSize() {
    return {Code::InvalidArgument,
            "There is nothing to size yet; trace a picture or add a word or a figure first."};
}
Error nothingLeft() {
    return {Code::InvalidArgument, "Nothing would be left at that size; see the steps at Shape."};
}

} // namespace

base::Result<Job> sizedBy(const State& state, double factor, const SizeOptions& options) {
    return sizedJob(state, {factor, factor, options.growsMargins});
}

base::Result<Job> stretchedBy(const State& state, double factorX, double factorY,
                              const SizeOptions& options) {
    return sizedJob(state, {factorX, factorY, options.growsMargins});
}

base::Result<Source> sizedSource(const Source& source, double factorX, double factorY,
                                 const SizeOptions& options) {
    return sized(source, {factorX, factorY, options.growsMargins});
}

base::Result<Sized> sizedFor(const State& state, const Growth& growth, double toleranceShare,
                             const SizeOptions& options, const base::Progress& progress) {
    constexpr int kMostReplays = 8;
    constexpr double kExact = 1e-9;
    std::vector<Replay> done;
    std::optional<Replay> low, high; // the nearest on either side
    const auto replay = [&](double factor, int round) -> base::Status {
        Replay out{factor, state, 1};
        if (factor != 1) {
            auto job = sizedBy(state, factor, options);
            if (!job)
                return job.error();
            auto next = make(job.take(), Stage::Finish, done.empty() ? state.made : done.back().state.made,
                             progress.part(round / double(kMostReplays), (round + 1) / double(kMostReplays)));
            if (!next)
                return next.error();
            out.state = next.take();
        }
        if (!out.state.made.finished)
            return nothingLeft();
        auto asked = growth(out.state);
        if (!asked)
            return asked.error();
        if (!(*asked > 0) || !std::isfinite(*asked))
            return nothingLeft();
        out.growth = *asked;
        auto& side = out.error() < 0 ? low : high;
        if (!side || (out.error() < 0 ? out.factor > side->factor : out.factor < side->factor))
            side = out;
        done.push_back(std::move(out));
        return base::Done{};
    };
    if (auto ok = replay(1, 0); !ok)
        return ok.error();
    for (int round = 1; round <= kMostReplays && std::abs(done.back().error()) > kExact; ++round) {
        const double next =
            done.size() == 1 ? done[0].growth : nextFactor(done[done.size() - 2], done.back(), low, high);
        if (next == done.back().factor)
            break;
        if (auto ok = replay(next, round); !ok)
            return ok.error();
    }
    const Replay& best = *std::min_element(done.begin(), done.end(), [](const Replay& a, const Replay& b) {
        return std::abs(a.error()) < std::abs(b.error());
    });
    if (std::abs(best.error()) <= toleranceShare || !low || !high)
        return Sized{best.state, {}};
    return Sized{low->state, jumpText(low->state, high->state)};
}

base::Result<Sized> withWidth(const State& state, double widthMm, const SizeOptions& options,
                              const base::Progress& progress) {
    const geometry::Box box = workBox(state.made);
    if (box.isEmpty())
        return nothingToSize();
    if (auto ok = checkSize(widthMm, box.height() * widthMm / box.width()); !ok)
        return ok.error();
    return sizedFor(
        state,
        [widthMm](const State& now) -> base::Result<double> { return widthMm / workBox(now.made).width(); },
        0.001 / widthMm, options, progress);
}

base::Result<Sized> withHeight(const State& state, double heightMm, const SizeOptions& options,
                               const base::Progress& progress) {
    const geometry::Box box = workBox(state.made);
    if (box.isEmpty())
        return nothingToSize();
    if (auto ok = checkSize(box.width() * heightMm / box.height(), heightMm); !ok)
        return ok.error();
    return sizedFor(
        state,
        [heightMm](const State& now) -> base::Result<double> {
            return heightMm / workBox(now.made).height();
        },
        0.001 / heightMm, options, progress);
}

base::Result<Sized> withSize(const State& state, double widthMm, double heightMm, const SizeOptions& options,
                             const base::Progress& progress) {
    const geometry::Box box = workBox(state.made);
    if (box.isEmpty())
        return nothingToSize();
    if (auto ok = checkSize(widthMm, heightMm); !ok)
        return ok.error();
    constexpr double kSameProportions = 1e-6;
    if (std::abs(widthMm / box.width() / (heightMm / box.height()) - 1) < kSameProportions)
        return withWidth(state, widthMm, options, progress);
    // Two factors for two sizes: each is led to its own by the rule of three, margins and all.
    constexpr int kMostReplays = 8;
    constexpr double kExactMm = 1e-6, kEnoughMm = 0.001;
    State now = state;
    double x = 1, y = 1;
    for (int round = 0; round < kMostReplays; ++round) {
        const geometry::Box is = workBox(now.made);
        if (is.isEmpty() || !(is.width() > 0) || !(is.height() > 0))
            return nothingLeft();
        if (std::abs(is.width() - widthMm) < kExactMm && std::abs(is.height() - heightMm) < kExactMm)
            break;
        x *= widthMm / is.width();
        y *= heightMm / is.height();
        auto job = stretchedBy(state, x, y, options);
        if (!job)
            return job.error();
        auto next = make(job.take(), Stage::Finish, now.made, progress);
        if (!next)
            return next.error();
        now = next.take();
    }
    const geometry::Box is = workBox(now.made);
    const bool isMet =
        std::abs(is.width() - widthMm) < kEnoughMm && std::abs(is.height() - heightMm) < kEnoughMm;
    const double tall = y / x;
    return Sized{std::move(now),
                 "The design was stretched: its heights by " + base::formatNumber(tall, 3) +
                     " against its widths." +
                     (isMet ? "" : " Margins keep it from the very size that was asked for.")};
}

base::Result<Sized> scaled(const State& state, double factor, const SizeOptions& options,
                           const base::Progress& progress) {
    return withWidth(state, workBox(state.made).width() * factor, options, progress);
}

} // namespace thinline::job
