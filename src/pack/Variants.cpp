// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Variants.h"

#include "base/Length.h"
#include "job/Catalogue.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "sheets/Arrange.h"
#include "split/Steps.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace thinline::pack {
namespace {

using base::Code;
using base::Error;

constexpr double kLeastPercent = 5, kMostPercent = 1000;

const design::Formats& formats() {
    return job::shippedCatalogue().formats;
}

/// The smallest mat on which a sheet lies as the sheet says; null when there is none.
const design::MatFormat* matFor(const design::SheetFormat& sheet) {
    const design::MatFormat* best = nullptr;
    for (const design::MatFormat& mat : formats().mats)
        if (sheets::sheetPlaces(mat, sheet) &&
            (!best || mat.widthMm * mat.heightMm < best->widthMm * best->heightMm))
            best = &mat;
    return best;
}

/// A mat long enough for two of the sheet taped together; where there is none, one on which the single sheet lies, and
/// arranging says why the pair does not.
const design::MatFormat* matForPairs(design::SheetFormat sheet) {
    const design::MatFormat* single = matFor(sheet);
    sheet.inPairs = true;
    const design::MatFormat* pair = matFor(sheet);
    return pair ? pair : single;
}

/// A sheet of a size somebody typed: "200 x 280 mm".
std::optional<design::SheetFormat> ownSheet(const std::string& text) {
    const auto size = base::parseSize(text, base::LengthUnit::Millimetre);
    if (!size)
        return std::nullopt;
    const double width = size->width.inMm(), height = size->height.inMm();
    return design::SheetFormat{"own",
                               base::formatNumber(width, 0) + "x" + base::formatNumber(height, 0) + "mm",
                               width, height, 6.35};
}

void add(std::string& name, const std::string& word) {
    name += (name.empty() || word.empty() ? "" : "-") + word;
}

/// At which share of the size everything would lie on one of its sheets each.
std::string helpFor(const job::State& made) {
    const auto options = job::arrangeOptions(made.job, formats());
    const design::Stack* work = made.made.work();
    if (!options || !work)
        return {};
    const auto places = sheets::sheetPlaces(options->mat, options->sheet);
    if (!places || places->empty())
        return {};
    const geometry::Box usable = sheets::usableArea(options->mat, options->sheet, places->front());
    const double scale =
        sheets::largestThatFits(*work, usable.width(), usable.height(), options->mayTurn).scale;
    const double percent = std::floor(100 * scale);
    return percent >= kLeastPercent && percent < 100 ? "at " + base::formatNumber(percent, 0) + " % it fits"
                                                     : "";
}

} // namespace

base::Result<std::vector<Variant>> variantsOf(const std::vector<design::FoldsAs>& folds,
                                              const std::vector<std::string>& sheets,
                                              const std::vector<double>& percents,
                                              const std::vector<Parts>& parts) {
    std::set<std::string> named;
    std::vector<Variant> out{Variant{}};
    const auto combine = [&](std::size_t count, const auto& change) -> base::Status {
        std::vector<Variant> next;
        if (out.size() * std::max<std::size_t>(count, 1) > kMostVariants)
            return Error{Code::LimitExceeded, "Those are more than " + std::to_string(kMostVariants) +
                                                  " variants; choose fewer folds, sheets or sizes."};
        for (const Variant& one : out)
            for (std::size_t i = 0; i < count; ++i) {
                next.push_back(one);
                change(next.back(), i);
            }
        if (count > 0)
            out = std::move(next);
        return base::Done{};
    };
    std::vector<std::optional<design::SheetFormat>> own;
    for (const std::string& id : sheets) {
        own.push_back(formats().sheet(id) ? std::nullopt : ownSheet(id));
        const design::SheetFormat* sheet = own.back() ? &*own.back() : formats().sheet(id);
        if (!sheet || !matFor(*sheet))
            return Error{Code::InvalidArgument, "There is no sheet '" + id + "' that a mat takes."};
    }
    for (const double percent : percents)
        if (!(percent >= kLeastPercent && percent <= kMostPercent))
            return Error{Code::InvalidArgument, "A variant is 5 to 1000 % of the size."};
    auto done = combine(folds.size(), [&](Variant& one, std::size_t i) {
        one.foldsAs = folds[i];
        add(one.name, design::kFoldsAsWords[static_cast<std::size_t>(folds[i])]);
    });
    if (done)
        done = combine(sheets.size(), [&](Variant& one, std::size_t i) {
            one.sheetId = own[i] ? "own" : sheets[i];
            one.ownSheet = own[i];
            add(one.name, own[i] ? design::plainWord(own[i]->name) : sheets[i]);
        });
    if (done)
        done = combine(percents.size(), [&](Variant& one, std::size_t i) {
            one.percent = percents[i];
            add(one.name, base::formatNumber(percents[i], 0));
        });
    if (done)
        done = combine(parts.size(), [&](Variant& one, std::size_t i) {
            one.parts = parts[i];
            add(one.name, kPartsWords[static_cast<std::size_t>(parts[i])]);
        });
    if (!done)
        return done.error();
    for (Variant& one : out) {
        if (one.name.empty())
            one.name = "as-it-is";
        if (!named.insert(one.name).second)
            return Error{Code::InvalidArgument, "The variant '" + one.name + "' is asked for twice."};
    }
    return out;
}

base::Result<job::State> madeAs(const job::State& state, const Variant& variant,
                                const base::Progress& progress) {
    job::State now = state;
    if (variant.percent != 100) {
        auto sized = job::scaled(now, variant.percent / 100, {}, progress);
        if (!sized)
            return sized.error();
        now = std::move(sized.take().state);
    }
    if (variant.parts == Parts::Whole)
        std::erase_if(now.job.steps, [](const auto& step) { return split::isDivision(*step); });
    job::SheetPlan& plan = now.job.plan;
    if (variant.foldsAs)
        plan.foldsAs = *variant.foldsAs;
    if (!variant.sheetId.empty()) {
        const design::SheetFormat* sheet =
            variant.ownSheet ? &*variant.ownSheet : formats().sheet(variant.sheetId);
        const design::MatFormat* mat = !sheet                     ? nullptr
                                       : plan.tapedStocks.empty() ? matFor(*sheet)
                                                                  : matForPairs(*sheet);
        if (!mat)
            return Error{Code::InvalidArgument,
                         "There is no sheet '" + variant.sheetId + "' that a mat takes."};
        plan.matId = mat->id;
        plan.sheetId = sheet->id;
        if (variant.ownSheet)
            plan.ownSheet = *variant.ownSheet;
        plan.sheetOf.clear();
        plan.scraps.clear();
        plan.pins.clear();
        plan.keepOuts.clear();
    }
    const auto kept = now.made.sheets;
    auto made = job::make(std::move(now.job), job::Stage::Sheets, now.made, progress.part(0, 0.3));
    if (!made || variant.closerSteps == 0 || !made->made.sheets || made->made.sheets == kept)
        return made;
    sheets::CloseOptions how;
    how.budget.steps = variant.closerSteps;
    auto closer = job::laidCloser(*made, how, {}, progress.part(0.3, 1));
    return closer || closer.error().code == base::Code::Cancelled ? closer : made;
}

VariantRow rowOf(const job::State& made, const Variant& variant) {
    VariantRow out;
    out.variant = variant;
    const geometry::Box box = job::workBox(made.made);
    out.widthMm = box.width();
    out.heightMm = box.height();
    if (const design::Stack* work = made.made.work()) {
        double smallest = 1e9;
        for (const design::Laid& laid : work->pieces) {
            const geometry::Box own = geometry::bounds(laid.shape());
            smallest = std::min(smallest, std::max(own.width(), own.height()));
        }
        out.smallestMm = work->pieces.empty() ? 0 : smallest;
    }
    if (!made.made.sheets) {
        out.whyNot = made.made.sheetsProblem.empty() ? "Nothing lies on sheets." : made.made.sheetsProblem;
        return out;
    }
    out.loads = static_cast<int>(made.made.sheets->loads.size());
    for (const design::Load& load : made.made.sheets->loads)
        for (const design::PlacedSheet& sheet : load.sheets) {
            ++out.sheets;
            out.pieces += static_cast<int>(sheet.pieces.size());
        }
    out.tooLarge = static_cast<int>(made.made.sheets->unplaced.size());
    if (out.tooLarge > 0) {
        out.whyNot = base::counted(out.tooLarge, "piece") + (out.tooLarge == 1 ? " is" : " are") +
                     " larger than its sheet.";
        out.help = helpFor(made);
    }
    return out;
}

} // namespace thinline::pack
