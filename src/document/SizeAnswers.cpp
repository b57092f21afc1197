// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/SizeAnswers.h"

#include "document/Reshape.h"
#include "geometry/Measures.h"
#include "geometry/Necks.h"
#include "geometry/Openings.h"
#include "inspect/Inspect.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::document {
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

/// Scales again and again by what is asked of the design as it is then, until it asks for nothing more.
template <class Factor>
base::Result<Job> settled(const Job& job, Factor factor, const base::Progress& progress) {
    Job out = job;
    constexpr int kRounds = 12;
    constexpr double kSettled = 1e-8;
    for (int round = 0; round < kRounds; ++round) {
        const base::Result<double> by = factor(out);
        if (!by)
            return by.error();
        if (std::abs(*by - 1) < kSettled)
            break;
        auto next = scaled(out, *by, progress);
        if (!next)
            return next.error();
        out = next.take();
    }
    return out;
}

std::vector<geometry::Shape> shapesOf(const Job& job) {
    std::vector<geometry::Shape> out;
    for (const design::Layer& layer : job.stack->layers)
        for (const design::Piece& piece : layer.pieces)
            out.push_back(*piece.shape);
    return out;
}

} // namespace

std::vector<PlaceFit> largestOnEach(const Job& job, const design::Formats& formats) {
    std::vector<PlaceFit> out;
    if (!job.stack)
        return out;
    const geometry::Box box = designBox(job);
    for (const Place& place : placesOf(formats)) {
        const auto fit = sheets::largestThatFits(*job.stack, place.widthMm, place.heightMm, job.plan.mayTurn);
        out.push_back({place.id, place.name, place.isMat, place.widthMm, place.heightMm, fit,
                       box.width() * fit.scale, box.height() * fit.scale, limitText(*job.stack, fit)});
    }
    return out;
}

base::Result<Job> withLargestOn(const Job& job, const std::string& placeId, const design::Formats& formats,
                                const base::Progress& progress) {
    if (!job.stack)
        return nothingToSize();
    const std::vector<Place> places = placesOf(formats);
    const auto place =
        std::find_if(places.begin(), places.end(), [&](const Place& p) { return p.id == placeId; });
    if (place == places.end())
        return Error{Code::NotFound, "There is no mat or sheet called '" + placeId + "'."};
    return settled(
        job,
        [&](const Job& now) -> base::Result<double> {
            return sheets::largestThatFits(*now.stack, place->widthMm, place->heightMm, now.plan.mayTurn)
                .scale;
        },
        progress);
}

base::Result<CopiesAnswer> withCopiesOnSheet(const Job& job, const std::vector<design::PieceId>& pieces,
                                             int copies, const design::Formats& formats,
                                             const base::Progress& progress) {
    if (!job.stack)
        return nothingToSize();
    const auto options = arrangeOptions(job, formats);
    if (!options)
        return options.error();
    CopiesAnswer out;
    auto sized = settled(
        job,
        [&](const Job& now) -> base::Result<double> {
            std::vector<design::Piece> wanted;
            for (const design::Layer& layer : now.stack->layers)
                for (const design::Piece& piece : layer.pieces)
                    if (pieces.empty() || std::find(pieces.begin(), pieces.end(), piece.id) != pieces.end())
                        wanted.push_back(piece);
            const auto fit = sheets::largestForCopies(wanted, copies, *options, progress);
            if (!fit)
                return fit.error();
            if (!(fit->scale > 1e-6))
                return Error{Code::Degenerate, std::to_string(copies) +
                                                   " copies do not fit one sheet at any size; take fewer."};
            out.fit = *fit;
            // What halving found is met within a thousandth; asking again would only creep.
            return fit->columns == 0 && std::abs(fit->scale - 1) < 2e-3 ? 1.0 : fit->scale;
        },
        progress);
    if (!sized)
        return sized.error();
    out.job = sized.take();
    return out;
}

base::Result<Job> withinCircle(const Job& job, double diameterMm, double roomMm,
                               const base::Progress& progress) {
    if (!job.stack)
        return nothingToSize();
    const double inside = diameterMm - 2 * roomMm;
    if (!(inside > 0) || !(roomMm >= 0))
        return Error{Code::InvalidArgument,
                     "Nothing is left inside that diameter; take a larger one or less room."};
    return settled(
        job,
        [&](const Job& now) -> base::Result<double> {
            return inside / 2 / std::max(1e-9, geometry::enclosingCircle(shapesOf(now)).radius);
        },
        progress);
}

base::Result<FrameAnswer> withinFrame(const Job& job, const Frame& frame, const base::Progress& progress) {
    if (!job.stack)
        return nothingToSize();
    if (!(frame.widthMm > 0) || !(frame.heightMm > 0) || !(frame.depthMm >= 0))
        return Error{Code::InvalidArgument, "Give the frame's inner width and height above zero."};
    auto sized = settled(
        job,
        [&](const Job& now) -> base::Result<double> {
            const geometry::Box box = designBox(now);
            return std::min(frame.widthMm / box.width(), frame.heightMm / box.height());
        },
        progress);
    if (!sized)
        return sized.error();
    FrameAnswer out{sized.take(), 0, 0, {}};
    out.stackMm = design::measure(*out.job.stack).heightMm;
    if (!(frame.depthMm > 0))
        return out;
    double cardMm = 0;
    std::vector<double> lifts;
    for (const design::Layer& layer : out.job.stack->layers) {
        const design::Stock* stock = design::findStock(out.job.stocks, layer.stockId);
        cardMm += stock ? stock->thicknessMm : 0;
        if (layer.liftMm > 0)
            lifts.push_back(layer.liftMm);
    }
    const auto mm = [](double value) { return base::formatNumber(value, 1) + " mm"; };
    if (cardMm > frame.depthMm)
        return Error{Code::Degenerate, "The card alone is " + mm(cardMm) + " high and the frame " +
                                           mm(frame.depthMm) +
                                           " deep; leave layers out or take a deeper frame."};
    if (out.stackMm <= frame.depthMm + 1e-9) {
        out.told = "The stack is " + mm(out.stackMm) + " high; " + mm(frame.depthMm - out.stackMm) +
                   " of the depth are left.";
        return out;
    }
    // Every lift above a common height comes down to it: the lowest ones stay as they are.
    std::sort(lifts.begin(), lifts.end());
    double room = frame.depthMm - cardMm;
    for (size_t i = 0; i < lifts.size(); ++i) {
        const double share = room / static_cast<double>(lifts.size() - i);
        if (lifts[i] >= share) {
            out.liftMm = share;
            break;
        }
        room -= lifts[i];
    }
    for (size_t i = 0; i < out.job.stack->layers.size(); ++i)
        if (out.job.stack->layers[i].liftMm > out.liftMm)
            out.job = withLayerLift(out.job, i, out.liftMm);
    out.told = "The stack was " + mm(out.stackMm) + " high; lifts were brought down to " + mm(out.liftMm) +
               " so that it fits the depth of " + mm(frame.depthMm) + ".";
    out.stackMm = design::measure(*out.job.stack).heightMm;
    return out;
}

base::Result<Consequences> consequencesOf(const Job& job, const design::Formats& formats,
                                          const base::Progress& progress) {
    Consequences out;
    if (!job.stack)
        return out;
    for (const design::Layer& layer : job.stack->layers)
        for (const design::Piece& piece : layer.pieces) {
            ++out.pieces;
            out.copies += piece.copies;
            for (const geometry::OpeningSize& opening : geometry::openingsOf(*piece.shape))
                out.smallOpenings += opening.widthMm < kLeastOpeningMm ? 1 : 0;
            if (design::acrossMm(*piece.shape) < inspect::Limits{}.leastAcrossMm)
                continue; // the inspector tells it as too small altogether
            const auto neck = geometry::narrowestNeck(*piece.shape, progress);
            if (!neck) {
                if (neck.error().code == Code::Cancelled)
                    return neck.error();
                continue; // an outline the search refuses has no figure
            }
            if (*neck && (!out.narrowestMm || (*neck)->widthMm < *out.narrowestMm)) {
                out.narrowestMm = (*neck)->widthMm;
                out.narrowest = piece.id;
            }
        }
    const auto laid = job.arrangement ? base::Result<Job>(job) : arranged(job, formats, progress);
    if (!laid)
        return laid.error().code == Code::Cancelled ? base::Result<Consequences>(laid.error()) : out;
    out.sheets = sheets::measure(*laid->arrangement, *job.stack).sheets;
    out.unplaced = static_cast<int>(laid->arrangement->unplaced.size());
    return out;
}

} // namespace thinline::document
