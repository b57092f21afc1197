// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/LoadFiles.h"

#include "formats/pdf/WritePages.h"
#include "pack/Package.h"

#include <algorithm>

namespace thinline::pack {
namespace {

using design::Operation;
using formats::pdf::Drawn;
using geometry::Point;

std::string withoutEnding(const std::string& name) {
    return name.substr(0, name.rfind('.'));
}

/// What a finisher does along lines of a pass, in the words of processing steps; nothing for what is drawn.
std::string stepOf(const design::Pass& pass) {
    switch (pass.operation) {
    case Operation::Draw:
        return {};
    case Operation::Score:
        return "Creasing";
    case Operation::Perforate:
        return "Perforating";
    case Operation::CutInside:
    case Operation::Cut:
        break;
    }
    return pass.depth == design::Depth::Through ? "Cutting" : "PartialCutting";
}

/// How lines of an operation show; they stay apart in black and white.
Drawn shownAs(Operation operation) {
    switch (operation) {
    case Operation::Draw:
        return {{}, 0.5, 0.55, {}};
    case Operation::Score:
        return {{}, 0.25, 0.3, {3, 1}};
    case Operation::Perforate:
        return {{}, 0.2, 0.2, {}}; // its cuts are dashes already
    case Operation::CutInside:
    case Operation::Cut:
        break;
    }
    return {{}, 0.15, 0, {}};
}

formats::pdf::Page pageOf(const design::PlannedLoad& planned, const design::Load& load,
                          const std::string& title, base::LengthUnit unit) {
    formats::pdf::Page out;
    out.widthMm = load.mat.widthMm;
    out.heightMm = load.mat.heightMm;
    out.window = {{0, 0}, {out.widthMm, out.heightMm}};
    Drawn edges{{}, 0.1, 0.7, {}};
    for (const design::PlacedSheet& sheet : load.sheets)
        for (const geometry::Polygon& ring : design::outlineOf(sheet))
            edges.lines.push_back(geometry::contourThrough(ring));
    out.inside.push_back(std::move(edges));
    for (const design::Pass& pass : planned.passes) {
        Drawn drawn = shownAs(pass.operation);
        drawn.layer = design::passGroup(pass);
        drawn.step = stepOf(pass);
        for (const design::PlannedPath& path : pass.paths)
            drawn.lines.push_back(path.line);
        out.inside.push_back(std::move(drawn));
    }
    // A ruler at the foot, inside what rollers take: nothing is cut there.
    const bool isInch = unit == base::LengthUnit::Inch;
    const double length = isInch ? 50.8 : 50, foot = out.heightMm - 2, left = 4;
    out.marks.push_back(
        {{geometry::Line{{left, foot}, {geometry::Segment::line({left + length, foot})}}}, 0.2, 0, {}});
    for (const double x : {left, left + length})
        out.marks.back().lines.push_back({{x, foot - 1.5}, {geometry::Segment::line({x, foot})}});
    out.labels.push_back({{left + length + 3, foot}, (isInch ? "2 in. " : "50 mm. ") + title, 2.5});
    return out;
}

} // namespace

std::vector<LoadFile> dxfFiles(const design::CutPlan& plan, const design::Arrangement& arrangement,
                               formats::dxf::Edition edition) {
    std::vector<LoadFile> out;
    for (std::size_t i = 0; i < plan.loads.size(); ++i) {
        const std::size_t index = plan.loads[i].load;
        const design::Load& load = arrangement.loads[index];
        const std::string text = formats::dxf::writeLoad(plan.loads[i], load, edition);
        out.push_back({withoutEnding(loadFileName(index, load)) + ".dxf", {text.begin(), text.end()}, i});
    }
    return out;
}

base::Result<LoadFile> pdfFile(const design::CutPlan& plan, const design::Arrangement& arrangement,
                               const design::Stack& stack, const std::string& jobName,
                               base::LengthUnit unit) {
    std::vector<formats::pdf::Page> pages;
    for (std::size_t i = 0; i < arrangement.loads.size(); ++i) {
        const auto planned = std::find_if(plan.loads.begin(), plan.loads.end(),
                                          [&](const design::PlannedLoad& one) { return one.load == i; });
        if (planned == plan.loads.end())
            continue;
        std::string stocks;
        for (const design::PlacedSheet& sheet : arrangement.loads[i].sheets)
            if (const std::string name = design::stockName(stack.stocks, sheet.stockId);
                stocks.find(name) == std::string::npos)
                stocks += (stocks.empty() ? "" : ", ") + name;
        pages.push_back(pageOf(*planned, arrangement.loads[i],
                               jobName + ", load " + std::to_string(i + 1) + " of " +
                                   std::to_string(arrangement.loads.size()) + ": " + stocks,
                               unit));
    }
    auto bytes = formats::pdf::writePages(pages, jobName + ", loads");
    if (!bytes)
        return bytes.error();
    return LoadFile{"loads.pdf", bytes.take(), 0};
}

} // namespace thinline::pack
