// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SplitSteps.h"

#include "geometry/Measures.h"
#include "job/Steps.h"

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

/// The seams of a step in the design, if it divides pieces.
std::vector<geometry::Line> seamsOf(const State& state, const AfterStep& after) {
    std::vector<geometry::Line> out;
    if (!split::infoOf(*after.step) || after.whyNot)
        return out;
    for (const PieceId id : design::resolved(after.step->on, after.before->now))
        if (const design::Piece* piece = design::findPiece(after.before->now, id)) {
            // Where its parts lie now, should they have been moved since.
            const design::Piece* part = design::resolved(id, state.made.pieces->now);
            for (const split::SeamWish& seam : split::wishOf(*after.step, part ? *part : *piece).seams)
                out.push_back(seam.path);
        }
    return out;
}

} // namespace

base::Result<split::Room> roomFor(const Job& job, const design::Formats& formats, const std::string& stockId) {
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
        const split::Fit fit = split::fitOf(laid.shape(), *room);
        const bool isBase = std::none_of(work->pieces.begin(), work->pieces.end(), [&](const Laid& other) {
            return &other < &laid && work->layerOf(other).at == layer.at && other.layer != laid.layer &&
                   geometry::bounds(other.shape()).meets(box);
        });
        out.push_back({laid.id(), design::pieceName(*work, laid), *room, box.width(), box.height(), fit.tooLongMm, isBase});
    }
    return out;
}

split::Ground groundOf(const State& state, PieceId piece, const SplitOptions& options) {
    split::Ground out;
    const design::Stack& stack = *state.made.stack;
    const Laid* own = stack.find(piece);
    if (!own)
        return out;
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
    for (const AfterStep& after : state.made.after)
        for (geometry::Line& seam : seamsOf(state, after))
            if (geometry::hullBox(seam).meets(box))
                out.seamsNear.push_back(std::move(seam));
    return out;
}

base::Result<std::vector<Proposed>> proposals(const State& state, const std::vector<Oversize>& pieces,
                                              const SplitOptions& options, const base::Progress& progress) {
    std::vector<Proposed> out;
    for (size_t i = 0; i < pieces.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        const double count = static_cast<double>(pieces.size());
        const base::Progress part = progress.part(static_cast<double>(i) / count, static_cast<double>(i + 1) / count);
        split::Ground ground = groundOf(state, pieces[i].piece, options);
        for (const Proposed& lower : out)
            if (!lower.ways.empty())
                for (const split::Seam& seam : lower.ways.front().seams)
                    ground.seamsNear.push_back(seam.path);
        split::Options search = options.search;
        search.inHandMm += grownByFinish(state, pieces[i].piece);
        split::JointOptions how;
        how.overlapMm = options.overlapMm;
        auto ways = split::divisionsFor(ground, pieces[i].room, options.jointFor(pieces[i]), how, search, part);
        if (!ways && ways.error().code == base::Code::Cancelled)
            return ways.error();
        out.push_back({pieces[i], ways ? ways.take() : std::vector<split::Division>{}, ways ? "" : ways.error().message});
    }
    return out;
}

std::vector<split::SeamWish> wishesOf(const split::Division& division, split::Joint joint) {
    std::vector<split::SeamWish> out;
    for (const split::Seam& seam : division.seams)
        out.push_back({seam.path, joint});
    return out;
}

base::Result<State> dividedAlong(const State& state, const std::vector<Taken>& pieces, double overlapMm, Stage upTo,
                                 const base::Progress& progress) {
    State now = state;
    // No two seams of a work have the same windows, whichever piece they are of.
    int keys = 0;
    for (const AfterStep& after : state.made.after)
        if (split::infoOf(*after.step))
            if (const auto used = after.step->values.find("keys-used"); used != after.step->values.end())
                if (const double* count = std::get_if<double>(&used->second))
                    keys = std::max(keys, static_cast<int>(*count));
    for (const Taken& taken : pieces) {
        const Laid* laid = state.made.stack ? state.made.stack->find(taken.of.piece) : nullptr;
        if (!laid)
            return base::Error{base::Code::NotFound, taken.of.name + " is not there any more."};
        const split::SplitWish wish{taken.seams, overlapMm, taken.of.room, keys};
        auto parts = split::partsOf(laid->shape(), wish, progress);
        if (!parts)
            return parts.error();
        keys = parts->keysUsed;
        design::Step step = split::splitStep(laid->piece, wish);
        step.values["keys-used"] = static_cast<double>(keys);
        auto next = stepped(now, step, &taken == &pieces.back() ? upTo : Stage::Pieces, progress);
        if (!next)
            return next.error();
        now = next.take();
    }
    return now;
}

std::string seamText(const split::Seam& seam, base::LengthUnit unit) {
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    std::string out = length(seam.lengthMm) + " long";
    if (seam.narrowestMm < seam.lengthMm - 0.05)
        out += ", " + length(seam.narrowestMm) + " at its narrowest";
    out += seam.seenMm < 0.5 ? ", hidden" : seam.seenMm < seam.lengthMm - 0.5 ? ", " + length(seam.seenMm) + " of it seen" : "";
    if (seam.isThin)
        out += ", through a thin place";
    if (seam.cutsKept)
        out += ", through what was to stay whole";
    if (seam.nearSeamMm)
        out += ", along a seam of another layer " + length(*seam.nearSeamMm) + " away";
    if (!seam.elsewhereMm)
        return out + "; there is no other place in reach";
    const double more = std::round(*seam.elsewhereMm);
    if (more >= 2000)
        return out + "; anywhere else makes a part more";
    return out + (more >= 1 ? "; any other place costs as much as " + base::formatNumber(more, 0) + " mm of seam more"
                            : "; other places cost as little");
}

std::string divisionText(const split::Division& division, base::LengthUnit unit) {
    const auto length = [&](double mm) { return base::formatLength(mm, unit); };
    std::string out = base::counted(static_cast<long long>(division.parts.size()), "part") + ", " +
                      base::counted(static_cast<long long>(division.seams.size()), "seam") + " of " + length(division.seamMm) +
                      ", " + length(division.seenMm) + " seen";
    if (division.thinCuts > 0)
        out += ", " + base::counted(division.thinCuts, "thin place") + " cut";
    if (division.slivers > 0)
        out += ", " + base::counted(division.slivers, "sliver");
    if (division.crumbs > 0)
        out += ", " + base::counted(division.crumbs, "crumb");
    return out;
}

std::string oversizeText(const Oversize& piece, base::LengthUnit unit) {
    return piece.name + " is " + base::formatSize(piece.widthMm, piece.heightMm, unit) + "; its sheet leaves " +
           base::formatSize(piece.room.widthMm, piece.room.heightMm, unit);
}

std::vector<LongerMat> longerMats(const State& state, const std::vector<Oversize>& pieces, const design::Formats& formats) {
    std::vector<LongerMat> out;
    const design::Stack* work = state.made.work();
    const design::MatFormat* now = formats.mat(state.job.plan.matId);
    for (const design::MatFormat& mat : formats.mats) {
        if (!work || !now || mat.usableWidthMm() * mat.usableHeightMm() <= now->usableWidthMm() * now->usableHeightMm())
            continue;
        int still = 0;
        for (const Oversize& one : pieces)
            if (const Laid* laid = work->find(one.piece);
                laid && !sheets::fitsTurned(laid->shape(), mat.usableWidthMm(), mat.usableHeightMm()))
                ++still;
        if (still < static_cast<int>(pieces.size()))
            out.push_back({mat.id, mat.name, still});
    }
    std::stable_sort(out.begin(), out.end(), [](const LongerMat& a, const LongerMat& b) { return a.stillTooLarge < b.stillTooLarge; });
    return out;
}

double scaleWithoutSeams(const State& state, const std::vector<Oversize>& pieces) {
    double out = 1;
    const design::Stack* work = state.made.work();
    for (const Oversize& one : pieces)
        if (const Laid* laid = work ? work->find(one.piece) : nullptr) {
            const design::Stack alone{work->stocks, work->layers, {*laid}};
            out = std::min(out, sheets::largestThatFits(alone, one.room.widthMm, one.room.heightMm).scale);
        }
    return out;
}

} // namespace thinline::job
