// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/Inspect.h"

#include "base/Length.h"
#include "geometry/Necks.h"
#include "sheets/Arrange.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace thinline::inspect {
namespace {

using base::formatNumber;
using geometry::Box;

std::string inMm(double lengthMm) {
    return formatNumber(lengthMm, 1) + " mm";
}

std::string sizeOf(const Box& box) {
    return base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre);
}

std::string capitalised(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

bool fitsSomeMat(const geometry::Shape& piece, const design::Formats& formats) {
    return std::any_of(formats.mats.begin(), formats.mats.end(), [&](const design::MatFormat& mat) {
        return sheets::fitsTurned(piece, mat.usableWidthMm(), mat.usableHeightMm());
    });
}

Finding tooLarge(const Subject& subject, const design::Piece& piece, const Box& box) {
    const auto largest = std::max_element(
        subject.formats->mats.begin(), subject.formats->mats.end(), [](const auto& a, const auto& b) {
            return a.usableWidthMm() * a.usableHeightMm() < b.usableWidthMm() * b.usableHeightMm();
        });
    return {Severity::SpoilsCard,
            Kind::LargerThanEveryMat,
            capitalised(design::pieceName(*subject.stack, piece.id)) + " is " + sizeOf(box) +
                ", larger than every mat",
            "The largest takes " +
                base::formatSize(largest->usableWidthMm(), largest->usableHeightMm(),
                                 base::LengthUnit::Millimetre) +
                ". Make the design smaller at Size.",
            piece.id,
            {box}};
}

void inspectPiece(const Subject& subject, const design::Piece& piece, const Limits& limits,
                  const base::Progress& progress, std::vector<Finding>& out) {
    const Box box = geometry::bounds(*piece.shape);
    const std::string name = capitalised(design::pieceName(*subject.stack, piece.id));
    if (subject.formats && !subject.formats->mats.empty() && !fitsSomeMat(*piece.shape, *subject.formats))
        out.push_back(tooLarge(subject, piece, box));
    if (design::acrossMm(*piece.shape) < limits.leastAcrossMm)
        return;
    const auto necks = geometry::findNecks(*piece.shape, limits.leastNeckMm, progress);
    if (!necks || necks->empty())
        return;
    const geometry::Neck& worst = necks->front();
    const std::string more = necks->size() < 2 ? ""
                             : necks->size() == 2
                                 ? " and another place like it"
                                 : " and " + std::to_string(necks->size() - 1) + " more places like it";
    Box place;
    place.include(worst.place);
    out.push_back({Severity::RisksCard,
                   Kind::NarrowNeck,
                   name + " has a neck of " + formatNumber(worst.widthMm, 2) + " mm" + more,
                   "Below " + inMm(limits.leastNeckMm) +
                       " card tears when it is lifted. Make the design larger or thicken the drawing there.",
                   piece.id,
                   {place.grownBy(3)}});
}

/// One finding for all pieces that are too small to cut and glue.
void inspectSmallPieces(const Subject& subject, const Limits& limits, std::vector<Finding>& out) {
    std::vector<std::pair<double, const design::Piece*>> small;
    for (const design::Layer& layer : subject.stack->layers)
        for (const design::Piece& piece : layer.pieces)
            if (const double across = design::acrossMm(*piece.shape);
                !layer.isHidden && across < limits.leastAcrossMm)
                small.emplace_back(across, &piece);
    if (small.empty())
        return;
    std::stable_sort(small.begin(), small.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    const std::string first = capitalised(design::pieceName(*subject.stack, small.front().second->id));
    Finding finding{
        Severity::RisksCard,
        Kind::TooSmall,
        small.size() == 1 ? first + " is only " + inMm(small.front().first) + " across"
                          : std::to_string(small.size()) + " pieces are under " + inMm(limits.leastAcrossMm) +
                                " across, the smallest " + inMm(small.front().first),
        "Such small pieces are hard to cut and to glue. Drop them at Trace or make the design larger.",
        small.front().second->id,
        {}};
    for (const auto& [across, piece] : small)
        finding.places.push_back(geometry::bounds(*piece->shape).grownBy(4));
    out.push_back(std::move(finding));
}

void inspectLeaks(const Subject& subject, std::vector<Finding>& out) {
    const geometry::Transform map = trace::pictureToDesign(*subject.tracing, subject.sizing);
    for (const trace::Leak& leak : subject.tracing->leaks) {
        Box place;
        place.include(map(leak.place));
        out.push_back({Severity::SpoilsCard,
                       Kind::Leak,
                       (leak.toOutside ? "An area leaks to the outside" : "Two areas run into one another") +
                           std::string(" through a gap of ") +
                           inMm(leak.widthPx * subject.sizing.mmPerPx *
                                std::min(subject.sizing.scaleX, subject.sizing.scaleY)),
                       leak.closure ? "Close it at Trace: one click goes on with the line across the gap."
                                    : "Close it at Trace: two clicks draw a line of ink across the gap.",
                       0,
                       {place.grownBy(6)}});
    }
}

/// The box of a copy as it lies on its mat.
Box placedBox(const Subject& subject, const design::PlacedPiece& placed) {
    const design::Piece* piece = design::findPiece(*subject.stack, placed.what.piece);
    if (!piece)
        return {};
    return geometry::bounds(geometry::transformed(*piece->shape, design::placement(*piece->shape, placed)));
}

void inspectArrangement(const Subject& subject, std::vector<Finding>& out) {
    std::set<design::PieceId> told;
    for (const design::CopyOf& copy : subject.arrangement->unplaced) {
        const design::Piece* piece = design::findPiece(*subject.stack, copy.piece);
        if (!piece || !told.insert(copy.piece).second)
            continue;
        const Box box = geometry::bounds(*piece->shape);
        if (subject.formats && !fitsSomeMat(*piece->shape, *subject.formats))
            continue; // told as larger than every mat
        out.push_back({Severity::SpoilsCard,
                       Kind::LargerThanSheet,
                       capitalised(design::pieceName(*subject.stack, copy.piece)) + " is " + sizeOf(box) +
                           " and fits no " + subject.sheetName + " sheet",
                       "Choose a larger sheet or mat at Sheets, or make the design smaller at Size.",
                       copy.piece,
                       {box}});
    }
    for (size_t l = 0; l < subject.arrangement->loads.size(); ++l)
        for (const design::PlacedSheet& sheet : subject.arrangement->loads[l].sheets) {
            const Box usable =
                Box{{sheet.xMm, sheet.yMm}, {sheet.xMm + sheet.widthMm, sheet.yMm + sheet.heightMm}}.grownBy(
                    -sheet.marginMm + 1e-6);
            for (size_t i = 0; i < sheet.pieces.size(); ++i) {
                if (!sheet.pieces[i].isPinned)
                    continue; // what the program lays keeps its distances
                const Box box = placedBox(subject, sheet.pieces[i]);
                const std::string name =
                    capitalised(design::pieceName(*subject.stack, sheet.pieces[i].what.piece));
                const design::Piece* piece = design::findPiece(*subject.stack, sheet.pieces[i].what.piece);
                const Box place = piece ? geometry::bounds(*piece->shape) : Box{};
                if (!usable.contains(box.least) || !usable.contains(box.most))
                    out.push_back({Severity::SpoilsCard,
                                   Kind::OverlapsOnSheet,
                                   name + " runs over the edge of its sheet on load " + std::to_string(l + 1),
                                   "Drag it back inside, or let it go with a double click.",
                                   sheet.pieces[i].what.piece,
                                   {place}});
                for (size_t k = 0; k < sheet.pieces.size(); ++k) {
                    if (k == i || (sheet.pieces[k].isPinned && k < i))
                        continue;
                    const Box other = placedBox(subject, sheet.pieces[k]);
                    if (box.grownBy(-1e-6).meets(other.grownBy(-1e-6)))
                        out.push_back({Severity::SpoilsCard,
                                       Kind::OverlapsOnSheet,
                                       name + " may overlap " +
                                           design::pieceName(*subject.stack, sheet.pieces[k].what.piece) +
                                           " on load " + std::to_string(l + 1),
                                       "Their frames overlap where they were pinned. Drag one away, or let "
                                       "it go with a double click.",
                                       sheet.pieces[i].what.piece,
                                       {place}});
                }
            }
        }
}

/// Pieces sized apart from what they belong to. Within a set the scale most of its pieces have counts,
/// elsewhere the design's.
void inspectScales(const Subject& subject, std::vector<Finding>& out) {
    const auto scaleOf = [&](design::PieceId id) -> const shape::Item* {
        for (const shape::Item& item : subject.shaped->items)
            if (item.piece.id == id)
                return &item;
        return nullptr;
    };
    const auto differs = [](const shape::Item& item, double x, double y) {
        constexpr double kSame = 1e-6;
        return std::abs(item.ownScaleX - x) > kSame * x || std::abs(item.ownScaleY - y) > kSame * y;
    };
    std::set<design::PieceId> inSets;
    const auto tell = [&](const shape::Item& item, const std::string& from) {
        if (subject.freePieces.contains(item.piece.id))
            return;
        out.push_back(
            {Severity::SpoilsCard,
             Kind::ScaledAlone,
             capitalised(design::pieceName(*subject.stack, item.piece.id)) + " was scaled apart from " + from,
             "What fits together must keep one scale. Size the others along, undo it, or let this piece be "
             "free at Size.",
             item.piece.id,
             {geometry::bounds(*item.piece.shape)}});
    };
    for (const design::PieceSet& set : subject.sets) {
        std::map<std::pair<double, double>, int> counts;
        for (design::PieceId id : set.pieces) {
            inSets.insert(id);
            if (const shape::Item* item = scaleOf(id))
                ++counts[{item->ownScaleX, item->ownScaleY}];
        }
        if (counts.empty())
            continue;
        std::pair<double, double> usual{1, 1};
        int most = counts.contains(usual) ? counts[usual]
                                          : 0; // of two pieces the one at the design's scale is right
        for (const auto& [scale, count] : counts)
            if (count > most) {
                most = count;
                usual = scale;
            }
        for (design::PieceId id : set.pieces)
            if (const shape::Item* item = scaleOf(id); item && differs(*item, usual.first, usual.second))
                tell(*item, set.name);
    }
    for (const shape::Item& item : subject.shaped->items)
        if (!inSets.contains(item.piece.id) && differs(item, 1, 1))
            tell(item, "the rest of the design");
}

base::Status inspectFits(const Subject& subject, const base::Progress& progress, std::vector<Finding>& out) {
    for (const design::Fit& fit : subject.fits) {
        const design::Piece* inner = design::findPiece(*subject.stack, fit.inner);
        const design::Piece* outer = design::findPiece(*subject.stack, fit.outer);
        if (!inner || !outer)
            continue;
        const auto state = design::checkFit(*inner->shape, *outer->shape, fit,
                                            design::thicknessOf(*subject.stack, fit.inner), progress);
        if (!state) {
            if (state.error().code == base::Code::Cancelled)
                return state.error();
            continue;
        }
        const bool isLid = fit.kind == design::FitKind::LidOver;
        const std::string what = capitalised(design::pieceName(*subject.stack, fit.inner));
        const std::string where = isLid
                                      ? "under " + design::pieceName(*subject.stack, fit.outer)
                                      : "into its opening in " + design::pieceName(*subject.stack, fit.outer);
        const Box box = geometry::bounds(*inner->shape);
        const std::string right = base::formatSize(
            box.width() * state->rightScale, box.height() * state->rightScale, base::LengthUnit::Millimetre);
        if (!state->isThere)
            out.push_back({Severity::SpoilsCard,
                           Kind::DoesNotFit,
                           what + " has lost its opening in " + design::pieceName(*subject.stack, fit.outer),
                           "State the fit anew at Size, or take it out.",
                           fit.inner,
                           {box}});
        else if (state->jams())
            out.push_back(
                {Severity::SpoilsCard,
                 Kind::DoesNotFit,
                 what + " does not go " + where + ": " + formatNumber(-state->playMm, 2) + " mm too large",
                 "With " + formatNumber(fit.clearanceMm, 2) + " mm of clearance the right size is " + right +
                     ". Make it fit at Size.",
                 fit.inner,
                 {box, state->place}});
        else if (state->isLoose())
            out.push_back(
                {Severity::Note,
                 Kind::DoesNotFit,
                 what + " is loose " + where + ": " + formatNumber(state->playMm, 2) + " mm of play",
                 "The right size is " + right + ". Make it fit at Size.",
                 fit.inner,
                 {box, state->place}});
    }
    return base::Done{};
}

/// A piece exactly as large as its sheet leaves no room for a skewed sheet or a blunt corner.
void inspectExactPieces(const Subject& subject, std::vector<Finding>& out) {
    constexpr double kRoomMm = 0.5; // what a sheet laid by hand is off by at least (from memory)
    for (const design::Layer& layer : subject.stack->layers)
        for (const design::Piece& piece : layer.pieces) {
            if (layer.isHidden)
                continue;
            const Box box = geometry::bounds(*piece.shape);
            const double shorter = std::min(box.width(), box.height()),
                         longer = std::max(box.width(), box.height());
            for (const design::SheetFormat& sheet : subject.formats->sheets) {
                const double w = std::min(sheet.widthMm, sheet.heightMm),
                             h = std::max(sheet.widthMm, sheet.heightMm);
                if (shorter > w || longer > h || (w - shorter > kRoomMm && h - longer > kRoomMm))
                    continue;
                if (std::abs(w - shorter) > kRoomMm && shorter < w * 0.5)
                    continue; // a strip as long as the sheet is cut from a longer one
                out.push_back(
                    {Severity::RisksCard,
                     Kind::ExactlyTheSheet,
                     capitalised(design::pieceName(*subject.stack, piece.id)) +
                         " is exactly as large as a sheet of " + sheet.name,
                     "A sheet lies never quite straight. Make the piece a little smaller, or cut it from a "
                     "larger sheet.",
                     piece.id,
                     {box}});
                break;
            }
        }
}

} // namespace

base::Result<std::vector<Finding>> inspect(const Subject& subject, const Limits& limits,
                                           const base::Progress& progress) {
    std::vector<Finding> out;
    if (subject.tracing)
        inspectLeaks(subject, out);
    if (subject.stack) {
        if (subject.arrangement)
            inspectArrangement(subject, out);
        inspectSmallPieces(subject, limits, out);
        for (const design::Layer& layer : subject.stack->layers) {
            if (layer.isHidden)
                continue;
            for (const design::Piece& piece : layer.pieces) {
                if (progress.isCancelled())
                    return base::cancelled();
                inspectPiece(subject, piece, limits, progress, out);
            }
        }
    }
    if (subject.stack && subject.shaped)
        inspectScales(subject, out);
    if (subject.stack)
        if (auto ok = inspectFits(subject, progress, out); !ok)
            return ok.error();
    if (subject.stack && subject.formats)
        inspectExactPieces(subject, out);
    for (const std::string& sentence : subject.passedOver)
        out.push_back({Severity::SpoilsCard,
                       Kind::StepPassedOver,
                       sentence.substr(0, sentence.find_last_not_of('.') + 1),
                       "Open it again at Shape and choose its pieces anew, or take it out.",
                       0,
                       {}});
    if (subject.shapes && !subject.shapes->vanished.empty())
        out.push_back(
            {Severity::Note,
             Kind::Vanished,
             std::to_string(subject.shapes->vanished.size()) + " areas vanished in the room between pieces",
             "They are narrower than twice the room. Lower it at Trace to have them back.",
             0,
             {}});
    std::stable_sort(out.begin(), out.end(),
                     [](const Finding& a, const Finding& b) { return a.severity < b.severity; });
    return out;
}

std::string severityName(Severity severity) {
    switch (severity) {
    case Severity::SpoilsCard:
        return "spoils card";
    case Severity::RisksCard:
        return "risks card";
    case Severity::Note:
        return "note";
    }
    return "note";
}

} // namespace thinline::inspect
