// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Registering.h"

#include "base/Length.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using geometry::Point;
using geometry::Transform;

constexpr std::array<const char*, 4> kMarkNames{"upper left", "upper right", "lower right", "lower left"};

} // namespace

std::optional<PrintPage> pageOn(const State& state, std::size_t load) {
    for (const PrintPage& page : printPagesOf(state))
        if (page.load == load && page.layout.hasMarks())
            return page;
    return std::nullopt;
}

base::Result<RegisteredLoad> registeredLoad(const State& state, const design::CutPlan& plan, std::size_t load,
                                            const Sighting& seen) {
    const auto planned = std::find_if(plan.loads.begin(), plan.loads.end(),
                                      [&](const design::PlannedLoad& one) { return one.load == load; });
    const auto page = pageOn(state, load);
    if (planned == plan.loads.end() || !page)
        return Error{Code::NotFound, "Load " + std::to_string(load + 1) + " has no printed page with marks."};
    constexpr int kNumbers = 8; // as many as the cells tell
    if (seen.number && *seen.number != page->number.page % kNumbers)
        return Error{Code::Degenerate, "This is another page: the cells beside its bar say " +
                                           std::to_string(*seen.number + 1) +
                                           ", and this load is cut from page " +
                                           std::to_string(page->number.page % kNumbers + 1) + "."};
    const design::PlacedSheet& sheet = state.made.sheets->loads[load].sheets[page->sheet];
    const Point corner{sheet.xMm, sheet.yMm};
    std::vector<registration::Mark> marks;
    for (const auto& [which, at] : seen.marks) {
        if (which >= page->layout.marks.size())
            return Error{Code::InvalidArgument,
                         "A page has four marks; there is no mark " + std::to_string(which + 1) + "."};
        marks.push_back({page->layout.marks[which] + corner, at});
    }
    std::optional<registration::Mark> bar;
    if (seen.bar)
        bar = registration::Mark{page->layout.bar.centre() + corner, *seen.bar};
    auto found = registration::registered(marks, bar);
    if (!found)
        return found.error();
    RegisteredLoad out{found.take(), *planned, state.made.sheets->loads[load]};
    if (out.found.leftOut)
        out.found.leftOut = seen.marks[*out.found.leftOut].first;
    Transform map = out.found.map;
    if (const auto* standing = standingErrorOf(state.job, plan.machine.id))
        map = map.then(Transform::move({-standing->rightMm, -standing->downMm}));
    for (design::Pass& pass : out.load.passes)
        for (design::PlannedPath& path : pass.paths)
            path.line = geometry::transformed(path.line, map);
    return out;
}

std::vector<std::string> registrationLines(const registration::Registration& found) {
    const auto mm = [](double value) { return base::formatNumber(value, 2) + " mm"; };
    const auto along = [&](double value, const char* plus, const char* minus) {
        return mm(std::abs(value)) + (value < 0 ? minus : plus);
    };
    std::vector<std::string> out{
        "shifted " + along(found.shiftMm.x, " to the right", " to the left") + " and " +
            along(found.shiftMm.y, " down", " up") + ", turned " + base::formatNumber(found.turnDeg, 2) +
            " degrees",
        "printed at " + base::formatNumber(found.scaleX * 100, 2) + " % across and " +
            base::formatNumber(found.scaleY * 100, 2) + " % down" +
            (found.hasShear ? ", out of square by " + base::formatNumber(found.shearDeg, 2) + " degrees"
                            : "")};
    std::string residuals;
    for (const double one : found.residualsMm)
        residuals += (residuals.empty() ? "" : ", ") + mm(one);
    out.push_back("marks are off by " + residuals);
    if (found.leftOut)
        out.push_back("the " + std::string(kMarkNames[*found.leftOut % 4]) +
                      " mark does not fit the others and was left out");
    return out;
}

const registration::StandingError* standingErrorOf(const Job& job, const std::string& machine) {
    const auto& standing = job.print.standing;
    return standing && standing->machine == machine ? &*standing : nullptr;
}

Job withStandingError(const Job& job, const std::optional<registration::StandingError>& standing) {
    Job out = job;
    out.print.standing = standing;
    return out;
}

} // namespace thinline::job
