// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/ReadBack.h"

#include "formats/dxf/ReadDxf.h"
#include "formats/dxf/WriteDxf.h"
#include "formats/pdf/ReadPdf.h"
#include "formats/plotter/ReadPlotter.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Lines.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace thinline::pack {
namespace {

using geometry::Box;
using geometry::Point;

double difference(const Box& a, const Box& b) {
    return std::max({std::abs(a.least.x - b.least.x), std::abs(a.least.y - b.least.y),
                     std::abs(a.most.x - b.most.x), std::abs(a.most.y - b.most.y)});
}

std::string_view textOf(const base::Bytes& file) {
    return {reinterpret_cast<const char*>(file.data()), file.size()};
}

/// Lines that are told together.
struct Sum {
    int lines = 0;
    double lengthMm = 0;
    Box box;

    void add(const geometry::Line& line) {
        ++lines;
        lengthMm += geometry::contourLength(line);
        box.include(geometry::bounds(line));
    }
};

/// Chords are shorter than their curves, by less than that share.
bool isAsLong(double foundMm, double plannedMm) {
    constexpr double kShare = 2e-3;
    return std::abs(foundMm - plannedMm) <= kLineToleranceMm + kShare * plannedMm;
}

} // namespace

ReadBack readBackSvg(const std::string& name, const base::Bytes& file,
                     const std::vector<geometry::Contour>& wanted) {
    ReadBack out{name};
    const auto page = formats::svg::readSvg(textOf(file));
    if (!page) {
        out.problem = "it cannot be read back: " + page.error().message;
        return out;
    }
    Sum found, all;
    for (const design::DrawnItem& item : page->items)
        for (const auto* lines : {&item.contours, &item.lines})
            for (const geometry::Contour& line : *lines)
                found.add(line);
    for (const geometry::Contour& line : wanted)
        all.add(line);
    out.lines = found.lines;
    out.worstMm = difference(found.box, all.box);
    if (found.lines != all.lines)
        out.problem =
            "it holds " + std::to_string(found.lines) + " lines instead of " + std::to_string(all.lines);
    else if (!isAsLong(found.lengthMm, all.lengthMm))
        out.problem = "its lines are of another length";
    else if (out.worstMm > kLineToleranceMm)
        out.problem = "it lies elsewhere or is of another size";
    return out;
}

ReadBack readBackDxf(const std::string& name, const base::Bytes& file, const design::PlannedLoad& planned,
                     const design::Load& load) {
    ReadBack out{name};
    const auto page = formats::dxf::readDxf(textOf(file));
    if (!page) {
        out.problem = "it cannot be read back: " + page.error().message;
        return out;
    }
    // The reader moves the upper left corner of everything to the origin; the rule moves along and tells by how much.
    std::map<std::string, Sum> found, wanted;
    Point moved;
    bool hasRule = false;
    for (const design::DrawnItem& item : page->items)
        for (const auto* lines : {&item.contours, &item.lines})
            for (const geometry::Contour& line : *lines)
                if (item.layer == "RULE-50-MM") {
                    hasRule = std::abs(geometry::contourLength(line) - 50) < 1e-6;
                    moved = geometry::bounds(line).least;
                } else {
                    found[item.layer].add(line);
                }
    if (!hasRule) {
        out.problem = "its rule of 50 mm is missing";
        return out;
    }
    moved = moved - formats::dxf::rulePlace(load.mat);
    Sum all, allFound;
    for (const design::Pass& pass : planned.passes)
        for (const design::PlannedPath& path : pass.paths) {
            wanted[design::passGroup(pass)].add(path.line);
            all.add(path.line);
        }
    std::vector<std::pair<int, double>> a, b; // a layer's lines and length, whatever it is called
    for (const auto& [layer, sum] : found) {
        a.emplace_back(sum.lines, sum.lengthMm);
        allFound.lines += sum.lines;
        allFound.box.include(sum.box);
    }
    for (const auto& [group, sum] : wanted)
        b.emplace_back(sum.lines, sum.lengthMm);
    std::sort(a.begin(), a.end());
    std::sort(b.begin(), b.end());
    out.lines = allFound.lines;
    if (a.size() != b.size() || allFound.lines != all.lines) {
        out.problem = "it holds " + std::to_string(allFound.lines) + " lines on " + std::to_string(a.size()) +
                      " layers instead of " + std::to_string(all.lines) + " on " + std::to_string(b.size());
        return out;
    }
    for (std::size_t i = 0; i < a.size(); ++i)
        if (a[i].first != b[i].first || !isAsLong(a[i].second, b[i].second))
            out.problem = "the lines of a layer are of another length";
    out.worstMm = difference({allFound.box.least - moved, allFound.box.most - moved}, all.box);
    if (out.worstMm > kLineToleranceMm)
        out.problem = "it lies elsewhere or is of another size";
    return out;
}

ReadBack readBackPlotter(const std::string& name, const base::Bytes& file, const design::PlannedLoad& planned,
                         std::size_t firstPass, const design::Load& load) {
    ReadBack out{name};
    const auto page = formats::plotter::readPlotter(textOf(file));
    if (!page) {
        out.problem = "it cannot be read back: " + page.error().message;
        return out;
    }
    out.lines = static_cast<int>(page->lines.size());
    std::size_t at = 0;
    for (std::size_t p = firstPass;
         p < planned.passes.size() && planned.passes[p].tool == planned.passes[firstPass].tool; ++p)
        for (int round = 0; round < planned.passes[p].times; ++round)
            for (const design::PlannedPath& path : planned.passes[p].paths) {
                if (at >= page->lines.size()) {
                    out.problem = "lines are missing";
                    return out;
                }
                Box box;
                for (const Point q : page->lines[at].way)
                    box.include(Point{q.x, load.mat.heightMm - q.y});
                out.worstMm = std::max(out.worstMm, difference(box, geometry::bounds(path.line)));
                ++at;
            }
    if (at != page->lines.size())
        out.problem = "it holds more lines than were planned";
    else if (out.worstMm > kLineToleranceMm)
        out.problem = "a line lies elsewhere or is of another size";
    else if (!page->endsLifted)
        out.problem = "it ends with the tool down";
    return out;
}

ReadBack readBackPages(const std::string& name, const base::Bytes& file,
                       const std::vector<formats::pdf::Page>& pages) {
    ReadBack out{name};
    for (std::size_t i = 0; i < pages.size(); ++i) {
        const std::string where = "page " + std::to_string(i + 1);
        const auto page = formats::pdf::readPage(file, static_cast<int>(i));
        if (!page || page->pages != static_cast<int>(pages.size()))
            out.problem = where + " cannot be read back";
        else if (page->svg.find("<path") == std::string::npos && page->svg.find("<use") == std::string::npos)
            out.problem = where + " is empty";
        if (!out.problem.empty())
            return out;
        out.worstMm = std::max({out.worstMm, std::abs(page->widthMm - pages[i].widthMm),
                                std::abs(page->heightMm - pages[i].heightMm)});
        ++out.lines;
    }
    if (out.worstMm > kLineToleranceMm)
        out.problem = "its pages are not as large as they should be";
    return out;
}

ReadBack readBackPdf(const std::string& name, const base::Bytes& file, const design::CutPlan& plan,
                     const design::Arrangement& arrangement, const base::Progress& progress) {
    ReadBack out{name};
    const auto wrong = [&](const std::string& problem) {
        out.problem = problem;
        return out;
    };
    for (std::size_t i = 0; i < arrangement.loads.size(); ++i) {
        const std::string where = "page " + std::to_string(i + 1);
        if (progress.isCancelled())
            return wrong("stopped");
        const auto page = formats::pdf::readPage(file, static_cast<int>(i));
        const auto drawn =
            page ? formats::svg::readSvg(page->svg) : base::Result<design::DrawnPage>(page.error());
        if (!drawn)
            return wrong(where + " cannot be read back: " + drawn.error().message);
        const design::MatFormat& mat = arrangement.loads[i].mat;
        if (std::abs(drawn->widthMm - mat.widthMm) > 0.01 || std::abs(drawn->heightMm - mat.heightMm) > 0.01)
            return wrong(where + " is not as large as its mat");
        std::multimap<double, Box> boxes; // by their left edges
        for (const design::DrawnItem& item : drawn->items)
            for (const auto* lines : {&item.contours, &item.lines})
                for (const geometry::Contour& line : *lines) {
                    const Box box = geometry::bounds(line);
                    boxes.emplace(box.least.x, box);
                }
        const auto planned = std::find_if(plan.loads.begin(), plan.loads.end(),
                                          [&](const design::PlannedLoad& one) { return one.load == i; });
        if (planned == plan.loads.end())
            return wrong(where + " is of a load that was not planned");
        for (const design::Pass& pass : planned->passes)
            for (const design::PlannedPath& path : pass.paths) {
                const Box box = geometry::bounds(path.line);
                double nearest = 1e9;
                for (auto at = boxes.lower_bound(box.least.x - kLineToleranceMm);
                     at != boxes.end() && at->first <= box.least.x + kLineToleranceMm; ++at)
                    nearest = std::min(nearest, difference(at->second, box));
                if (nearest > kLineToleranceMm)
                    return wrong("a line is missing on " + where);
                out.worstMm = std::max(out.worstMm, nearest);
                ++out.lines;
            }
    }
    return out;
}

} // namespace thinline::pack
