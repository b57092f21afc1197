// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/CutPlan.h"

#include <map>
#include <string>

/// From loads to what the machine does.
namespace thinline::cutplan {

struct PlanOptions {
    design::FoldsAs foldsAs = design::FoldsAs::Score;
    std::map<std::string, design::Setting> settings =
        {};              ///< that somebody decided, by stock; others are proposed
    double smallMm = 20; ///< smaller pieces are cut before larger ones: the card around them still holds
    design::CutAids aids = {};                          ///< tabs go to pieces smaller than that
    double spacingMm = 2.5;                             ///< that was kept between pieces
    std::map<std::size_t, design::TestTile> tiles = {}; ///< by load, cut before anything else is cut
};

/// Returns what is done with every load, in the order that needs fewest swaps of tools.
/// Shape:  of a load first what is drawn, then scored, then for one blade after the other perforated, cut inside, cut, and
///         frames last; pieces that lie in openings of others before those; small before large; every line once a round. Closed
///         lines begin where beginningsOf says; the way between lines is short. Nothing is left out: where no tool or
///         force will do it is planned all the same, and `faults` says so.
/// Units:  mm on the mat, seconds by cutplan/Timing.h, gram-force.
/// Errors: those of design::cutsOn; Cancelled.
/// Cost:   that of cutsOn and shortTour. The same input gives the same plan.
base::Result<design::CutPlan> planOf(const design::Stack& stack, const design::Arrangement& arrangement,
                                     const design::Machine& machine, const PlanOptions& options = {},
                                     const base::Progress& progress = {});

/// Returns how every stock on some sheets is cut: as somebody decided, else as proposed.
std::map<std::string, design::Setting> settingsFor(const design::Stack& stack,
                                                   const design::Arrangement& arrangement,
                                                   const design::Machine& machine,
                                                   const PlanOptions& options);
/// Returns why a plan cannot be run as it is, without making it: each reason once, stocks in the order of their ids.
/// Cost:   O(lines of all pieces).
std::vector<design::PlanFault> faultsOf(const design::Stack& stack, const design::Arrangement& arrangement,
                                        const design::Machine& machine, const PlanOptions& options);

/// Whether a machine takes a mat.
bool takes(const design::Machine& machine, const design::MatFormat& mat);

/// Returns which tool scores on a machine: the stylus, which rides beside the blade, where there is one.
design::ToolKind scoringTool(const design::Machine& machine);

} // namespace thinline::cutplan
