// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "cutplan/Plan.h"

#include <stdexcept>

/// Plans of loads that were laid by hand, on a machine that has every tool.
namespace thinline::support {

inline design::Machine anyMachine() {
    using enum design::ToolKind;
    design::Machine out;
    out.id = "any";
    out.name = "a machine";
    out.usableWidthMm = out.longestMm = 2000;
    out.holders = {{{Pen, Stylus}}, {{ShallowBlade, SteepBlade, Wheel}}};
    out.tools = {Pen, Stylus, Wheel, ShallowBlade, SteepBlade};
    return out;
}

inline design::CutPlan planOf(const design::Stack& stack, const design::Arrangement& arrangement,
                              design::FoldsAs foldsAs = design::FoldsAs::Score) {
    cutplan::PlanOptions options;
    options.foldsAs = foldsAs;
    auto plan = cutplan::planOf(stack, arrangement, anyMachine(), options);
    if (!plan)
        throw std::runtime_error(plan.error().message);
    return plan.take();
}
inline design::PlannedLoad planOf(const design::Load& load, const design::Stack& stack) {
    return planOf(stack, design::Arrangement{{load}, {}}).loads.front();
}

} // namespace thinline::support
