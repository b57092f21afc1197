// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SplitWays.h"

#include "cutplan/Plan.h"
#include "job/SheetSteps.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using design::Laid;

/// The pieces of one stock as they would go to the sheets.
class OfStock {
  public:
    OfStock(const design::Stack& work, const std::string& stockId) : m_work(work) {
        for (const design::Layer& layer : work.layers)
            if (layer.stockId == stockId)
                m_layers.insert(layer.id);
    }
    bool holds(const Laid& laid) const { return m_layers.contains(laid.layer); }

    /// A stack of the pieces of this stock, those that are divided as their parts.
    design::Stack with(const std::map<design::PieceId, const Draft*>& divided) const {
        design::Stack out{m_work.stocks, m_work.layers, {}, m_work.clusters};
        for (const Laid& laid : m_work.pieces) {
            if (!holds(laid))
                continue;
            const auto at = divided.find(laid.id());
            if (at == divided.end() || !at->second) {
                out.pieces.push_back(laid);
                continue;
            }
            int number = 0;
            for (const geometry::Shape& part : at->second->joined.parts) {
                Laid one = laid;
                one.piece.body = std::make_shared<design::Body>(design::Body{part});
                one.piece.id = laid.id().parted(design::StepId{}, std::to_string(++number));
                out.pieces.push_back(std::move(one));
            }
        }
        return out;
    }

  private:
    const design::Stack& m_work;
    std::set<design::LayerId> m_layers;
};

split::Ground scaled(const split::Ground& ground, double scale) {
    const geometry::Transform map = geometry::Transform::scale(scale, scale);
    split::Ground out;
    out.shape = geometry::transformed(ground.shape, map);
    for (const geometry::Shape& shape : ground.cover)
        out.cover.push_back(geometry::transformed(shape, map));
    for (const geometry::Shape& shape : ground.keptWhole)
        out.keptWhole.push_back(geometry::transformed(shape, map));
    for (const geometry::Line& line : ground.seamsNear)
        out.seamsNear.push_back(geometry::transformed(line, map));
    for (const geometry::Line& line : ground.folds)
        out.folds.push_back(geometry::transformed(line, map));
    return out;
}

/// How many parts there would be at a size; none when something cannot be divided, or more than `most`.
base::Result<std::optional<int>> partsAt(const std::vector<Oversize>& pieces,
                                         const std::vector<split::Ground>& grounds,
                                         const SplitOptions& options, double scale, int most,
                                         const base::Progress& progress) {
    int out = 0;
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Oversize& piece = pieces[i];
        const split::Ground ground = scaled(grounds[i], scale);
        split::JointOptions how;
        how.overlapMm = options.overlapMm;
        const auto ways =
            split::divisionsFor(ground, piece.room, options.jointFor(piece), how, options.search, progress);
        if (!ways && ways.error().code == base::Code::Cancelled)
            return ways.error();
        if (!ways)
            return std::optional<int>{};
        out += static_cast<int>(ways->front().parts.size());
        if (out > most)
            return std::optional<int>{};
    }
    return std::optional{out};
}

} // namespace

base::Result<std::vector<int>> sheetsOfWays(const State& state, const std::vector<Considered>& all, size_t at,
                                            const std::vector<const Draft*>& chosen,
                                            const design::Formats& formats, const base::Progress& progress) {
    std::vector<int> out;
    const design::Stack* work = state.made.work();
    const Laid* laid = work && at < all.size() ? work->find(all[at].proposed.of.piece) : nullptr;
    if (!laid)
        return out;
    const OfStock stock(*work, work->layerOf(*laid).stockId);
    const auto options = arrangeOptions(state.job, formats);
    if (!options)
        return options.error();
    std::map<design::PieceId, const Draft*> divided;
    for (size_t i = 0; i < all.size() && i < chosen.size(); ++i)
        divided[all[i].proposed.of.piece] = chosen[i];
    for (const Draft& draft : all[at].drafts) {
        divided[all[at].proposed.of.piece] = &draft;
        const design::Stack stack = stock.with(divided);
        auto laidOut = sheets::arrange(stack, *options, progress);
        if (!laidOut)
            return laidOut.error();
        out.push_back(sheets::measure(*laidOut, stack).sheets);
    }
    return out;
}

base::Result<std::optional<FewerParts>> fewerParts(const State& state, const std::vector<Considered>& all,
                                                   const SplitOptions& options,
                                                   const base::Progress& progress) {
    constexpr int kLeastPercent = 75; // smaller is another work
    int now = 0;
    std::vector<Oversize> pieces;
    std::vector<split::Ground> grounds;
    for (const Considered& one : all) {
        if (one.proposed.ways.empty())
            return std::optional<FewerParts>{};
        now += static_cast<int>(one.proposed.ways.front().parts.size());
        pieces.push_back(one.proposed.of);
        grounds.push_back(groundOf(state, pieces.back().piece, options));
    }
    const double whole = scaleWithoutSeams(state, pieces);
    SplitOptions rough = options;
    rough.search.isRough = true;
    for (int percent = 98; percent >= kLeastPercent; percent -= percent > 90 ? 2 : 3) {
        const double scale = percent / 100.0;
        if (now < 2 || scale <= whole)
            break; // there nothing needs a seam
        progress.report((98.0 - percent) / (98 - kLeastPercent), "trying smaller sizes");
        const auto roughly = partsAt(pieces, grounds, rough, scale, now - 1, progress);
        if (!roughly)
            return roughly.error();
        if (!*roughly)
            continue;
        const auto parts = partsAt(pieces, grounds, options, scale, now - 1, progress);
        if (!parts)
            return parts.error();
        if (*parts)
            return std::optional{FewerParts{scale, **parts, now - **parts}};
    }
    return std::optional<FewerParts>{};
}

std::vector<LongerMat> longerMats(const State& state, const std::vector<Oversize>& pieces,
                                  const design::Formats& formats) {
    std::vector<LongerMat> out;
    const design::Stack* work = state.made.work();
    const design::MatFormat* now = formats.mat(state.job.plan.matId);
    for (const design::MatFormat& mat : formats.mats) {
        const bool isTaken = !state.job.cut.machine || cutplan::takes(*state.job.cut.machine, mat);
        if (!work || !now || !isTaken ||
            mat.usableWidthMm() * mat.usableHeightMm() <= now->usableWidthMm() * now->usableHeightMm())
            continue;
        int still = 0;
        for (const Oversize& one : pieces)
            if (const Laid* laid = work->find(one.piece);
                laid && !sheets::fitsTurned(laid->shape(), mat.usableWidthMm(), mat.usableHeightMm()))
                ++still;
        if (still < static_cast<int>(pieces.size()))
            out.push_back({mat.id, mat.name, still});
    }
    std::stable_sort(out.begin(), out.end(), [](const LongerMat& a, const LongerMat& b) {
        return a.stillTooLarge < b.stillTooLarge;
    });
    return out;
}

base::Result<Job> onMat(const State& state, const std::vector<Oversize>& pieces, const std::string& matId,
                        const design::Formats& formats) {
    const design::MatFormat* mat = formats.mat(matId);
    if (!mat)
        return base::Error{base::Code::NotFound, "There is no mat " + matId + "."};
    SheetPlan plan = state.job.plan;
    plan.matId = matId;
    const auto same = std::find_if(formats.sheets.begin(), formats.sheets.end(), [&](const auto& sheet) {
        return sheet.widthMm == mat->widthMm && sheet.heightMm == mat->heightMm;
    });
    plan.sheetId = same == formats.sheets.end() ? "own" : same->id;
    plan.ownSheet = {"own", "as large as the mat", mat->widthMm, mat->heightMm, 0};
    if (const design::Stack* work = state.made.work())
        for (const Oversize& one : pieces)
            if (const Laid* laid = work->find(one.piece))
                plan.sheetOf.erase(work->layerOf(*laid).stockId);
    return withPlan(state.job, plan);
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
