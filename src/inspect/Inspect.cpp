// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Findings: what would spoil card, said before it is cut.
//
// The rules are a list, each in a few lines: look at the finished work (not at the drawing), name the
// piece as the person knows it, say the measure, and say what to do about it and where. What differs is
// what they cost. Most look at boxes and numbers. Narrow places need two offsets and a subtraction for
// every piece; searched anew after each change that was half a second for a design of four hundred pieces.
//
// So what was found out about a body is remembered by the body itself. Bodies are immutable and shared
// from state to state: a piece that was not changed has the same one, also after undoing, and also when
// its picture was traced again and came out alike (Making.cpp sees to that). `Memory` maps bodies to what
// is known of them and holds them weakly, so that it forgets with the last state that knows them. Nothing
// has to be invalidated, which is why nothing can be forgotten to be.
//
// Findings of one kind are one line with a count: sixty narrow places are one thing to decide and not
// sixty. The worst comes first where there is a worst, and is what the line says in full.
//
// An outline that a search refuses (because it crosses itself, say) has no figure, and does not end the
// inspection: the other findings are worth having.
#include "inspect/Inspect.h"

#include "base/Length.h"
#include "geometry/Openings.h"
#include "inspect/Findings.h"
#include "job/Catalogue.h"
#include "job/TraceSteps.h"

#include <algorithm>

namespace thinline::inspect {
namespace {

using geometry::Box;

/// What is said of several cases at once; the first one follows as an example where it says more.
std::string plural(Kind kind, size_t count) {
    const std::string n = std::to_string(count);
    switch (kind) {
    case Kind::LargerThanEveryMat:
        return n + " pieces are larger than every mat";
    case Kind::LargerThanSheet:
        return n + " pieces fit no sheet that was chosen";
    case Kind::TooSmall:
        return n + " pieces are too small to cut and glue";
    case Kind::NarrowNeck:
        return n + " pieces have narrow places";
    case Kind::Leak:
        return n + " gaps let areas leak";
    case Kind::OverlapsOnSheet:
        return n + " pieces lie badly on their sheets";
    case Kind::SeamThroughNeck:
        return n + " seams go through narrow places";
    case Kind::SeamsOnOneAnother:
        return n + " seams lie along seams of another layer";
    case Kind::PartTooSmall:
        return n + " parts are too small to be handled";
    case Kind::UnlikeOnMat:
        return n + " mats hold stocks that no one setting cuts";
    case Kind::MachineCannot:
        return n + " things the machine cannot do";
    case Kind::StepPassedOver:
        return n + " steps were passed over";
    case Kind::ScaledAlone:
        return n + " pieces were scaled apart from the rest";
    case Kind::DoesNotFit:
        return n + " fits do not hold";
    case Kind::ExactlyTheSheet:
        return n + " pieces are exactly as large as a sheet";
    case Kind::LineCutShort:
        return n + " steps cut lines short";
    case Kind::LinesNotSaid:
        return n + " kinds of lines are left out until you say what they are";
    case Kind::FoldEndsShort:
        return n + " folds stop on the card";
    case Kind::FoldsTooClose:
        return n + " folds are too close to others";
    case Kind::FoldInBoard:
        return n + " folded pieces are cut from board";
    case Kind::ScoredFromBelow:
        return n + " pieces have folds that are scored on the face that lies below";
    case Kind::DrawnOnBack:
        return n + " pieces are drawn or scored on their back";
    case Kind::NotchMissesFold:
        return n + " notches end before their folds";
    case Kind::PaneBarelyHolds:
        return n + " panes have little to be glued by";
    case Kind::SlitTooNarrow:
        return n + " slits are narrower than what goes through";
    case Kind::WayClosed:
        return n + " ways are closed before they are filled";
    case Kind::NoFoamRoom:
        return n + " lifted pieces are too narrow for foam";
    case Kind::FoldAcrossNeck:
        return n + " folds run across a neck";
    case Kind::MarkShows:
        return n + " placement marks would show";
    case Kind::MarkOnBack:
        return n + " pieces show their back and get no placement marks";
    case Kind::RunsOverFold:
        return n + " things run over folds";
    case Kind::NearFold:
        return n + " things lie close to folds";
    case Kind::HeldOnce:
        return n + " motifs hold on one side only";
    case Kind::TwoHeights:
        return n + " pieces rest on two heights";
    case Kind::LargerThanFrame:
        return n + " measures go beyond the frame";
    case Kind::ClusterApart:
        return n + " pieces cannot lie with their cluster";
    case Kind::GoodSideHidden:
        return n + " pieces show the poorer side of their stock";
    case Kind::FrameLeftOut:
        return n + " frames are left out";
    case Kind::ClusterOverlaps:
        return n + " pieces of a cluster lie on one another";
    case Kind::MayNotBeGiven:
        return n + " sources are not free for what this work is made for";
    case Kind::NotPrinted:
        return n + " prints are on sheets that are not printed";
    case Kind::NoBleed:
        return n + " prints end at the cut";
    case Kind::CoarsePicture:
        return n + " pictures are coarse at this size";
    case Kind::StretchedPicture:
        return n + " pictures are stretched";
    case Kind::TextNearCut:
        return n + " texts or codes are close to a cut";
    case Kind::MirroredText:
        return n + " texts or codes are seen mirrored";
    case Kind::PrintInside:
        return n + " prints lie inside once all is folded";
    case Kind::FlapUnsaid:
        return n + " glued flaps could go behind several edges";
    case Kind::ReadUpsideDown:
        return n + " texts stand on their heads once all is folded";
    case Kind::NoMarkReader:
        return n + " things stand against reading marks";
    case Kind::Vanished:
    case Kind::StrayWish:
    case Kind::LightInside:
    case Kind::OtherCard:
    case Kind::JointOpen:
    case Kind::PanelsClash:
    case Kind::SmallChildren:
        break;
    }
    return n + " places";
}

void inspectLeaks(const job::Source& source, Gathering& into) {
    const trace::Tracing* tracing = std::get<job::Picture>(source.what).tracing.get();
    if (!tracing)
        return;
    const geometry::Transform map = source.map();
    for (const trace::Leak& leak : tracing->leaks) {
        Box place;
        place.include(map(leak.place));
        const double mm = leak.widthPx * job::mmPerPx(source);
        into.add(Severity::SpoilsCard, Kind::Leak,
                 leak.closure ? "Close it at Trace: one click goes on with the line across the gap."
                              : "Close it at Trace: two clicks draw a line of ink across the gap.",
                 {(leak.toOutside ? "An area leaks to the outside" : "Two areas run into one another") +
                      std::string(" through a gap of ") + inMm(mm),
                  {},
                  place.grownBy(6)});
    }
}

void inspectSteps(const job::Made& made, Gathering& into) {
    for (const std::string& sentence : job::passedOver(made))
        into.add(Severity::SpoilsCard, Kind::StepPassedOver,
                 "Open it again where it was taken, at Shape or Folds, and choose its pieces anew, or take "
                 "it out.",
                 {sentence.substr(0, sentence.find_last_not_of('.') + 1), {}, {}});
    for (size_t i = 0; i < made.after.size(); ++i) {
        const job::AfterStep& step = made.after[i];
        std::string what;
        if (step.shortEnds > 0)
            what = std::to_string(step.shortEnds) +
                   (step.shortEnds == 1 ? " end of a line stops" : " ends of lines stop") +
                   " short of the edge";
        if (step.droppedBits > 0)
            what += (what.empty() ? "" : ", ") + std::to_string(step.droppedBits) +
                    (step.droppedBits == 1 ? " bit of a line was" : " bits of lines were") +
                    " left out for being shorter than a millimetre";
        for (const design::HeldOnce& one : step.heldOnce)
            into.add(Severity::RisksCard, Kind::HeldOnce,
                     "It bends out of the window and tears off. Fit it again at Folds on two sides or more, "
                     "or turn it.",
                     {capitalised(one.motif) + " holds in its window on one side only", one.frame, {}});
        if (!what.empty())
            into.add(Severity::RisksCard, Kind::LineCutShort,
                     "A fold that does not reach the edge tears there. Look at the lines at Shape.",
                     {"After step " + std::to_string(i + 1) + " " + what, {}, {}});
    }
}

void inspectSides(const Look& look, Gathering& into) {
    for (const design::Laid& laid : look.work.pieces) {
        const design::Stock* stock = design::findStock(look.work.stocks, look.work.layerOf(laid).stockId);
        if (laid.up == design::Side::Back && stock && stock->faces == design::Stock::Faces::GoodFront &&
            !look.isHidden(laid))
            into.add(Severity::RisksCard, Kind::GoodSideHidden,
                     "Turn it over in the side view, or say of the stock that both its sides are alike.",
                     {look.called(laid) + " shows its back, and " + stock->name + " has one good side",
                      laid.id(), geometry::bounds(laid.shape())});
    }
}

void inspectLeftOvers(const job::Made& made, Gathering& into) {
    if (!made.finished->vanished.empty())
        into.add(
            Severity::Note, Kind::Vanished,
            "They are narrower than twice the room. Lower it at Trace to have them back.",
            {std::to_string(made.finished->vanished.size()) + " areas vanished in the room between pieces",
             {},
             {}});
    if (const int stray = made.finished->strayWishes; stray > 0)
        into.add(Severity::Note, Kind::StrayWish,
                 "They hold again when the pieces come back. Forget them at Shape if they will not.",
                 {stray == 1 ? "1 wish is for a piece that is not there"
                             : std::to_string(stray) + " wishes are for pieces that are not there",
                  {},
                  {}});
}

} // namespace

std::string capitalised(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

std::string inMm(double lengthMm) {
    return base::formatNumber(lengthMm, 1) + " mm";
}

std::string sizeOf(const Box& box) {
    return base::formatSize(box.width(), box.height(), base::LengthUnit::Millimetre);
}

std::string Look::called(const design::Laid& laid) const {
    return capitalised(design::pieceName(work, laid));
}

void Gathering::add(Severity severity, Kind kind, const std::string& remedy, Case one,
                    const std::string& mendWords) {
    for (Finding& known : m_findings)
        if (known.kind == kind && known.severity == severity) {
            known.cases.push_back(std::move(one));
            return;
        }
    m_findings.push_back({severity, kind, {}, remedy, mendWords, {std::move(one)}});
}

std::vector<Finding> Gathering::take() {
    for (Finding& finding : m_findings) {
        const Case& first = finding.cases.front();
        const bool isOne = finding.cases.size() == 1;
        finding.message =
            isOne ? first.message
                  : plural(finding.kind, finding.cases.size()) + ". " + capitalised(first.message);
    }
    std::stable_sort(m_findings.begin(), m_findings.end(),
                     [](const Finding& a, const Finding& b) { return a.severity < b.severity; });
    return std::move(m_findings);
}

base::Result<std::vector<Finding>> inspect(const job::State& state, const design::Formats& formats,
                                           Memory& memory, const Limits& limits,
                                           const base::Progress& progress) {
    Gathering all;
    for (const job::Source* picture : job::pictureSources(state.job))
        inspectLeaks(*picture, all);
    if (const design::Stack* work = state.made.work()) {
        const Look look{state, *work, formats, limits, memory, progress};
        const design::SheetFormat* sheet = formats.sheet(state.job.plan.sheetId);
        if (auto ok = inspectSheets(look, sheet ? sheet->name : state.job.plan.ownSheet.name, all); !ok)
            return ok.error();
        if (auto ok = inspectPieces(look, all); !ok)
            return ok.error();
        inspectScales(look, all);
        if (auto ok = inspectLines(look, all); !ok)
            return ok.error();
        if (auto ok = inspectOverFolds(look, all); !ok)
            return ok.error();
        inspectWays(look, all);
        inspectSplits(look, all);
        inspectMarksAndFoam(look, all);
        inspectRights(look, all);
        inspectPrint(look, all);
        inspectSides(look, all);
        if (auto ok = inspectHeights(look, all); !ok)
            return ok.error();
        if (auto ok = inspectFits(look, all); !ok)
            return ok.error();
        if (auto ok = inspectConstructions(look, all); !ok)
            return ok.error();
        inspectFrame(look, all);
        if (auto ok = inspectClusters(look, all); !ok)
            return ok.error();
        inspectLeftOvers(state.made, all);
    }
    inspectSteps(state.made, all);
    return all.take();
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

base::Result<Consequences> consequencesOf(const job::State& state, Memory& memory,
                                          const base::Progress& progress) {
    Consequences out;
    const design::Stack* work = state.made.work();
    if (!work)
        return out;
    for (const design::Laid& laid : work->pieces) {
        ++out.pieces;
        out.copies += laid.copies;
        for (const geometry::OpeningSize& opening : geometry::openingsOf(laid.shape()))
            out.smallOpenings += opening.widthMm < kLeastOpeningMm ? 1 : 0;
        if (design::acrossMm(laid.shape()) < Limits{}.leastAcrossMm)
            continue; // told as too small altogether
        auto known = memory.narrowest.find(laid.piece.body);
        if (!known) {
            auto neck = geometry::narrowestNeck(laid.shape(), progress);
            if (!neck && neck.error().code == base::Code::Cancelled)
                return neck.error();
            // An outline the search refuses has no figure.
            known = std::make_shared<const std::optional<geometry::Neck>>(
                neck ? *neck : std::optional<geometry::Neck>{});
            memory.narrowest.keep(laid.piece.body, known);
        }
        if (*known && (!out.narrowestMm || (*known)->widthMm < *out.narrowestMm)) {
            out.narrowestMm = (*known)->widthMm;
            out.narrowest = laid.id();
        }
    }
    const auto made = state.made.sheets ? base::Result<job::State>(state)
                                        : job::make(state.job, job::Stage::Sheets, state.made, progress);
    if (!made)
        return made.error();
    if (!made->made.sheets)
        return out;
    out.sheets = sheets::measure(*made->made.sheets, *work).sheets;
    out.unplaced = static_cast<int>(made->made.sheets->unplaced.size());
    return out;
}

} // namespace thinline::inspect
