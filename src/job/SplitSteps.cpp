// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SplitSteps.h"

#include "geometry/Measures.h"
#include "job/Steps.h"
#include "split/Hand.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using design::Laid;
using design::PieceId;

/// How much larger the finish makes a piece: what runs on under its neighbours has to fit as well.
double grownByFinish(const State& state, PieceId id) {
    const Laid* before = state.made.stack ? state.made.stack->find(id) : nullptr;
    const Laid* after = state.made.work() ? state.made.work()->find(id) : nullptr;
    if (!before || !after || before->piece.body == after->piece.body)
        return 0;
    const geometry::Box a = geometry::bounds(before->shape()), b = geometry::bounds(after->shape());
    return std::max({0.0, b.width() - a.width(), b.height() - a.height()});
}

/// No two seams of a work have the same windows, whichever piece they are of.
split::KeysUsed keysUsedIn(const State& state) {
    split::KeysUsed out;
    for (const AfterStep& after : state.made.after) {
        const split::KeysUsed used = split::keysUsedBy(*after.step);
        out = {std::max(out.alone, used.alone), std::max(out.pairs, used.pairs)};
    }
    return out;
}

split::JointOptions jointOptions(const SplitOptions& options) {
    split::JointOptions out;
    out.overlapMm = options.overlapMm;
    out.used = options.used;
    return out;
}

/// A runner-up in which less of the seams is seen, for as many parts or more.
void addLessSeen(const split::Ground& ground, const Oversize& piece, const SplitOptions& options,
                 split::Options search, base::Result<std::vector<split::Division>>& ways,
                 const base::Progress& progress) {
    constexpr double kWorthMm = 25;
    if (ground.cover.empty() || ways->empty() || ways->front().seenMm < kWorthMm)
        return;
    search.prices.part /= 4;
    search.prices.seen *= 6;
    // One look only: with room for strips it is most likely to hold.
    const split::Joint joint = options.jointFor(piece);
    const double less = joint == split::Joint::Butt ? 0 : options.overlapMm;
    auto hidden = split::divisions(ground, {piece.room.widthMm - less / 2, piece.room.heightMm - less},
                                   search, progress);
    if (!hidden || hidden->front().seenMm > ways->front().seenMm - kWorthMm)
        return;
    const auto parts = split::joined(hidden->front(), {joint}, piece.room, jointOptions(options), progress);
    if (!parts || split::seamsWithoutRoom(*parts) > 0)
        return;
    std::vector<split::Division> all = ways.take();
    all.push_back(hidden->front());
    ways = std::move(all);
}

} // namespace

std::set<design::StepId> dividingSteps(const Made& made) {
    std::set<design::StepId> out;
    for (const AfterStep& after : made.after)
        if (after.step && !after.whyNot && split::isDivision(*after.step))
            out.insert(after.step->id);
    return out;
}

std::vector<LaidSeam> seamsIn(const Made& made) {
    std::vector<LaidSeam> out;
    const std::set<design::StepId> dividing = dividingSteps(made);
    for (const AfterStep& after : made.after) {
        if (!after.step || !dividing.contains(after.step->id))
            continue;
        for (const PieceId id : design::resolved(after.step->on, after.before->now))
            // Where its parts lie now, should they have been moved since.
            if (const design::Piece* part = design::resolved(id, made.pieces->now))
                for (const split::SeamWish& seam : split::wishOf(*after.step, *part).seams)
                    out.push_back({seam.path, id, part->id});
    }
    return out;
}

base::Result<split::Room> roomFor(const Job& job, const design::Formats& formats,
                                  const std::string& stockId) {
    const auto options = arrangeOptions(job, formats);
    if (!options)
        return options.error();
    const design::SheetFormat& sheet = options->sheetFor(stockId);
    const auto places = sheets::sheetPlaces(options->mat, sheet);
    if (!places)
        return places.error();
    const geometry::Box box = sheets::usableArea(options->mat, sheet, places->front());
    return split::Room{box.width(), box.height()};
}

base::Result<std::vector<Oversize>> oversize(const State& state, const design::Formats& formats) {
    std::vector<Oversize> out;
    const design::Stack* work = state.made.work();
    if (!work || work->layers.empty())
        return out;
    for (const Laid& laid : work->pieces) {
        const design::Layer& layer = work->layerOf(laid);
        const design::Stock* stock = design::findStock(work->stocks, layer.stockId);
        if (stock && stock->isCutByHand)
            continue;
        auto room = roomFor(state.job, formats, layer.stockId);
        if (!room)
            return room.error();
        const geometry::Box box = geometry::bounds(laid.shape());
        if (sheets::fits(box, room->widthMm, room->heightMm) ||
            sheets::fitsTurned(laid.shape(), room->widthMm, room->heightMm))
            continue;
        // Behind the base nothing is seen from the front, and nothing lies below.
        const design::Height& height =
            state.made.finished->heights.of[static_cast<size_t>(&laid - work->pieces.data())];
        const bool isBase = layer.at != design::Layer::At::Front || height.bottomMm - laid.liftMm < 0.01;
        out.push_back({laid.id(), design::pieceName(*work, laid), *room, box.width(), box.height(), isBase});
    }
    return out;
}

split::Ground groundOf(const State& state, PieceId piece, const SplitOptions& options) {
    split::Ground out;
    const Laid* own = state.made.stack ? state.made.stack->find(piece) : nullptr;
    if (!own)
        return out; // it went while somebody looked at its seams
    const design::Stack& stack = *state.made.stack;
    out.shape = own->shape();
    const geometry::Box box = geometry::bounds(out.shape);
    for (const Laid& laid : stack.pieces)
        if (&laid > own && laid.layer != own->layer && geometry::bounds(laid.shape()).meets(box))
            out.cover.push_back(laid.shape());
    for (const PieceId kept : options.keepWhole)
        if (const Laid* laid = stack.find(kept); laid && kept != piece)
            out.keptWhole.push_back(laid->shape());
    for (const design::Zone& zone : own->piece.body->zones)
        if (zone.kind == design::Zone::Kind::KeepWhole)
            out.keptWhole.push_back(zone.area);
    for (const design::PieceLine& line : own->piece.body->lines)
        if (std::holds_alternative<design::Fold>(line.does))
            out.folds.push_back(line.path);
    for (LaidSeam& seam : seamsIn(state.made))
        if (geometry::hullBox(seam.path).meets(box))
            out.seamsNear.push_back(std::move(seam.path));
    return out;
}

base::Result<std::vector<Proposed>> proposals(const State& state, const std::vector<Oversize>& pieces,
                                              const SplitOptions& options, const base::Progress& progress) {
    // Of many pieces a runner-up each would be more than anybody looks at, and nobody waits for the last millimetre.
    constexpr size_t kFew = 8;
    const bool isLong = pieces.size() > kFew;
    std::vector<Proposed> out;
    for (size_t i = 0; i < pieces.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        const double count = static_cast<double>(pieces.size());
        const base::Progress part =
            progress.part(static_cast<double>(i) / count, static_cast<double>(i + 1) / count);
        split::Ground ground = groundOf(state, pieces[i].piece, options);
        for (const Proposed& lower : out)
            if (!lower.ways.empty())
                for (const split::Seam& seam : lower.ways.front().seams)
                    ground.seamsNear.push_back(seam.path);
        split::Options search = options.search;
        search.inHandMm += grownByFinish(state, pieces[i].piece);
        if (isLong) {
            search.rounds /= 2;
            search.beginnings /= 2;
        }
        auto ways = split::divisionsFor(ground, pieces[i].room, options.jointFor(pieces[i]),
                                        jointOptions(options), search, part);
        if (!ways && ways.error().code == base::Code::Cancelled)
            return ways.error();
        if (ways && !isLong && !search.isRough)
            addLessSeen(ground, pieces[i], options, search, ways, part);
        out.push_back({pieces[i], ways ? ways.take() : std::vector<split::Division>{},
                       ways ? "" : ways.error().message});
    }
    return out;
}

namespace {

/// What would go wrong with parts, a sentence each.
std::vector<std::string> faultsOf(const Draft& draft, const SplitOptions& options, base::LengthUnit unit) {
    std::vector<std::string> out;
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    const auto named = [](size_t i) { return "Part " + std::to_string(i + 1); };
    for (size_t i = 0; i < draft.joined.parts.size(); ++i) {
        const split::Fit fit = split::fitOf(draft.joined.parts[i], draft.of.room, 0);
        if (!fit.isFitting)
            out.push_back(named(i) + " is still " + length(fit.tooLongMm) + " too long.");
        if (geometry::area(draft.division.parts[i]) < options.search.leastPartMm2 &&
            draft.division.parts.size() > 1)
            out.push_back(named(i) + " comes loose and is too small to be handled.");
    }
    for (size_t i = 0; i < draft.division.seams.size(); ++i) {
        const split::Seam& seam = draft.division.seams[i];
        const std::string name = "Seam " + std::to_string(i + 1);
        if (seam.isThin)
            out.push_back(name + " cuts a place only " + length(seam.narrowestMm) + " wide.");
        if (seam.cutsKept)
            out.push_back(name + " goes through what was to stay whole.");
        if (seam.nearSeamMm)
            out.push_back(name + " runs along a seam of another layer, " + length(*seam.nearSeamMm) +
                          " away.");
        if (i < draft.joined.seams.size() && !draft.joined.seams[i].whyNot.empty())
            out.push_back(name +
                          (draft.joined.seams[i].joint == split::Joint::Butt ? " is joined edge to edge: "
                                                                             : " has no windows: ") +
                          draft.joined.seams[i].whyNot + ".");
    }
    if (draft.division.slivers > 0)
        out.push_back(base::counted(draft.division.slivers, "strip") +
                      " beside seams would be thinner than " + length(options.search.thinMm) + ".");
    return out;
}

/// What the eye wants to know of a draft, found by a worker.
void count(Draft& draft) {
    for (const geometry::Shape& part : draft.joined.parts)
        draft.longestMm = std::max(draft.longestMm, geometry::leastRectangle({part}).widthMm);
    for (const geometry::Shape& part : draft.division.parts)
        draft.places.push_back(geometry::pointInside(part));
    for (const split::SeamJoint& seam : draft.joined.seams)
        draft.windows += static_cast<int>(seam.keys.size());
    for (const split::Seam& seam : draft.division.seams) {
        const bool isFirst = &seam == &draft.division.seams.front();
        draft.narrowestMm = isFirst ? seam.narrowestMm : std::min(draft.narrowestMm, seam.narrowestMm);
        if (seam.nearSeamMm)
            draft.nearSeamMm = std::min(draft.nearSeamMm.value_or(*seam.nearSeamMm), *seam.nearSeamMm);
    }
}

base::Result<Draft> draftOf(const Oversize& piece, std::vector<split::SeamWish> seams,
                            split::Division division, const SplitOptions& options, base::LengthUnit unit,
                            const base::Progress& progress) {
    auto joined =
        split::joined(division, split::jointsOf(seams), piece.room, jointOptions(options), progress);
    if (!joined)
        return joined.error();
    Draft out{piece, std::move(seams), std::move(division), joined.take(), {}, options.used};
    out.faults = faultsOf(out, options, unit);
    count(out);
    return out;
}

} // namespace

base::Result<Draft> draftOf(const State& state, const Oversize& piece, std::vector<split::SeamWish> seams,
                            const SplitOptions& options, const base::Progress& progress) {
    const split::Ground ground = groundOf(state, piece.piece, options);
    std::vector<geometry::Line> lines;
    for (const split::SeamWish& seam : seams)
        lines.push_back(seam.path);
    auto division = split::dividedBy(ground, lines, options.search, progress);
    if (!division)
        return division.error();
    return draftOf(piece, std::move(seams), division.take(), options, state.job.unit, progress);
}

base::Result<std::vector<Considered>> considered(const State& state, const std::vector<Oversize>& pieces,
                                                 const SplitOptions& options,
                                                 const base::Progress& progress) {
    auto all = proposals(state, pieces, options, progress);
    if (!all)
        return all.error();
    std::vector<Considered> out;
    // Windows are counted on from piece to piece, as they will be when all are taken.
    SplitOptions now = options;
    now.used = keysUsedIn(state);
    for (Proposed& one : all.take()) {
        std::vector<Draft> drafts;
        for (const split::Division& way : one.ways) {
            auto draft =
                draftOf(one.of, wishesOf(way, options.jointFor(one.of)), way, now, state.job.unit, progress);
            if (!draft)
                return draft.error();
            drafts.push_back(draft.take());
        }
        if (!drafts.empty())
            now.used = drafts.front().joined.keysUsed;
        out.push_back({std::move(one), std::move(drafts)});
    }
    return out;
}

base::Result<std::vector<split::SeamWish>> withTheRest(const State& state, const Draft& draft,
                                                       const SplitOptions& options,
                                                       const base::Progress& progress) {
    std::vector<split::SeamWish> out = draft.seams;
    split::Ground ground = groundOf(state, draft.of.piece, options);
    // What was laid stays; parts that are still too large are divided each on its own, off the seams there are.
    for (const geometry::Shape& part : draft.division.parts) {
        if (split::fitOf(part, draft.of.room).isFitting)
            continue;
        ground.shape = part;
        auto ways = split::divisionsFor(ground, draft.of.room, options.jointFor(draft.of),
                                        jointOptions(options), options.search, progress);
        if (!ways)
            return ways.error();
        for (split::SeamWish& seam : wishesOf(ways->front(), options.jointFor(draft.of)))
            out.push_back(std::move(seam));
    }
    return split::knotted(out);
}

std::string wayName(const std::vector<split::Division>& ways, size_t way) {
    if (way == 0)
        return std::any_of(
                   ways.begin(), ways.end(),
                   [&](const split::Division& one) { return one.parts.size() < ways[0].parts.size(); })
                   ? "Every joint as asked"
                   : "Fewest parts";
    if (ways[way].parts.size() < ways[0].parts.size())
        return "Fewer parts, not all joints";
    return ways[way].thinCuts < ways[0].thinCuts ? "Fewer thin places cut" : "Less is seen";
}

std::vector<split::SeamWish> wishesOf(const split::Division& division, split::Joint joint) {
    std::vector<split::SeamWish> out;
    for (const split::Seam& seam : division.seams)
        out.push_back({seam.path, joint});
    return out;
}

base::Result<State> dividedAlong(const State& state, const std::vector<Taken>& pieces, double overlapMm,
                                 Stage upTo, const base::Progress& progress) {
    State now = state;
    split::KeysUsed used = keysUsedIn(state);
    for (const Taken& taken : pieces) {
        const Laid* laid = state.made.stack ? state.made.stack->find(taken.of.piece) : nullptr;
        if (!laid)
            return base::Error{base::Code::NotFound, taken.of.name + " is not there any more."};
        const split::SplitWish wish{taken.seams, overlapMm, taken.of.room, used};
        auto parts = split::partsOf(laid->shape(), wish, progress);
        if (!parts)
            return parts.error();
        used = parts->keysUsed;
        auto next = stepped(now, split::splitStep(laid->piece, wish, used),
                            &taken == &pieces.back() ? upTo : Stage::Pieces, progress);
        if (!next)
            return next.error();
        now = next.take();
    }
    return now;
}

std::map<PieceId, double> boardInsets(const State& state) {
    std::map<PieceId, double> out;
    for (const Laid& laid : state.made.work() ? state.made.work()->pieces : std::vector<Laid>{})
        for (const AfterStep& after : state.made.after)
            if (after.step->id == laid.id().madeBy())
                if (const auto inset = split::boardInsetMm(*after.step))
                    out[laid.id()] = *inset;
    return out;
}

std::string seamText(const split::Seam& seam, base::LengthUnit unit) {
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    std::string out = length(seam.lengthMm) + " long";
    if (seam.narrowestMm < seam.lengthMm - 0.05)
        out += ", " + length(seam.narrowestMm) + " at its narrowest";
    out += seam.seenMm < 0.5                   ? ", hidden"
           : seam.seenMm < seam.lengthMm - 0.5 ? ", " + length(seam.seenMm) + " of it seen"
                                               : "";
    if (seam.isThin)
        out += ", through a thin place";
    if (seam.cutsKept)
        out += ", through what was to stay whole";
    if (seam.nearSeamMm)
        out += ", along a seam of another layer " + length(*seam.nearSeamMm) + " away";
    if (!seam.isElsewhereAsked)
        return out;
    if (!seam.elsewhereMm)
        return out + "; there is no other place in reach";
    const double more = std::round(*seam.elsewhereMm);
    if (more >= 2000)
        return out + "; anywhere else makes a part more";
    return out + (more >= 1 ? "; any other place costs as much as " + base::formatNumber(more, 0) +
                                  " mm of seam more"
                            : "; other places cost as little");
}

std::string divisionText(const split::Division& division, base::LengthUnit unit) {
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    std::string out = base::counted(static_cast<long long>(division.parts.size()), "part") + ", " +
                      base::counted(static_cast<long long>(division.seams.size()), "seam") + " of " +
                      length(division.seamMm) + ", " + length(division.seenMm) + " seen";
    if (division.thinCuts > 0)
        out += ", " + base::counted(division.thinCuts, "thin place") + " cut";
    if (division.slivers > 0)
        out += ", " + base::counted(division.slivers, "sliver");
    if (division.crumbs > 0)
        out += ", " + base::counted(division.crumbs, "crumb");
    return out;
}

std::string oversizeText(const Oversize& piece, base::LengthUnit unit) {
    return piece.name + " is " + base::formatSize(piece.widthMm, piece.heightMm, unit) +
           "; its sheet leaves " + base::formatSize(piece.room.widthMm, piece.room.heightMm, unit);
}

base::Result<std::vector<std::string>> joinsOf(const State& state, const base::Progress& progress) {
    std::vector<std::string> out;
    for (const AfterStep& after : state.made.after) {
        if (!split::isDivision(*after.step) || after.whyNot)
            continue;
        for (const PieceId id : design::resolved(after.step->on, after.before->now)) {
            const design::Piece& whole = *design::findPiece(after.before->now, id);
            const split::SplitWish wish = split::wishOf(*after.step, whole);
            auto parts = split::partsOf(whole.shape(), wish, progress);
            if (!parts)
                return parts.error();
            out.push_back((whole.name.empty() ? id.text() : whole.name) + ", " +
                          base::counted(static_cast<long long>(parts->parts.size()), "part") + ":");
            for (const split::SeamJoint& seam : parts->seams) {
                const std::string upper = "  part " + std::to_string(seam.upper + 1),
                                  lower = "part " + std::to_string(seam.lower + 1);
                const auto windows = static_cast<long long>(seam.keys.size());
                out.push_back(
                    seam.joint == split::Joint::Butt
                        ? upper + " meets " + lower + ", edge to edge: tape them on the back"
                        : upper + " lies on " + lower + " by " +
                              base::formatLength(wish.overlapMm, state.job.unit) +
                              (windows > 0 ? ", " + base::counted(windows, "window") : std::string()) +
                              ": glue");
            }
        }
    }
    return out;
}

} // namespace thinline::job
