// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "cutplan/Plan.h"
#include "cutplan/Settings.h"
#include "formats/plotter/WritePlotter.h"
#include "job/Making.h"

/// The steps at Cut: which machine there is, how stocks are cut, and what follows for every load.
namespace thinline::job {

/// The id of a machine somebody described herself.
inline constexpr const char* kOwnMachine = "own";

/// Returns the machine of a job; the usual one of the catalogue when nobody said.
const design::Machine& machineOf(const Job& job);
/// Returns the job with a machine.
/// Errors: InvalidArgument for one without holders or with a length, force or speed that is none.
base::Result<Job> withMachine(const Job& job, const design::Machine& machine);

/// Returns how a stock of a job is cut when nobody decides.
/// Errors: NotFound.
base::Result<cutplan::Proposal> proposedSetting(const Job& job, const std::string& stockId);
/// Whether pieces of a stock, or frames round them, are cut through its carrier.
bool isAnyThrough(const design::Stack& work, const std::string& stockId);
/// Returns how a stock is cut: as somebody decided, else as proposed.
/// Errors: NotFound.
base::Result<design::Setting> settingOf(const Job& job, const std::string& stockId);
/// Returns the job in which a stock is cut so; as proposed again without a setting.
/// Errors: NotFound; InvalidArgument for what is no blade, no force or no number of passes.
base::Result<Job> withSetting(const Job& job, const std::string& stockId,
                              const std::optional<design::Setting>& setting);

/// Returns the job in which lines are changed so for a machine that does it not itself.
/// Errors: InvalidArgument beyond what design::CutAids allows.
base::Result<Job> withAids(const Job& job, const design::CutAids& aids);
/// Returns what was changed, in words; empty for nothing.
std::string aidsText(const design::CutAids& aids, base::LengthUnit unit);

/// Returns what happens on the machine, with every load of the state's sheets.
/// Errors: InvalidArgument without sheets; those of cutplan::planOf.
base::Result<design::CutPlan> planned(const State& state, const base::Progress& progress = {});
/// Returns why that could not be run as it is; nothing without sheets.
std::vector<design::PlanFault> cutFaults(const State& state);

/// What somebody reads beside the machine, in the order she does it.
struct Checklist {
    struct Part {
        std::string heading;
        std::vector<std::string> lines; ///< a sentence each
    };
    std::vector<Part> parts;
    std::string text() const; ///< as plain text, headings and dashes
};
/// Returns the checklist of a load: `at` counts in the order of the plan.
/// Errors: NotFound when there is no such load.
base::Result<Checklist> checklistOf(const State& state, const design::CutPlan& plan, std::size_t at);

/// Returns the checklists of the loads from `first` up to `last`, one under the other, each with loadName.
/// Errors: as checklistOf.
base::Result<std::string> checklistText(const State& state, const design::CutPlan& plan, std::size_t first,
                                        std::size_t last);
/// Returns what a load is called, by its number among the sheets, which its files bear too: "Load 3, the 1st of 4 to be cut".
std::string loadName(const design::CutPlan& plan, std::size_t at);

/// Returns the plotter files of all loads.
/// Errors: those of formats::plotter::writePlotter.
base::Result<std::vector<formats::plotter::PlotterFile>> plotterFiles(const State& state,
                                                                      const design::CutPlan& plan);

/// What a load, or all of them, takes: card by the sheet, blades by the metre, in the person's own money.
struct CutCost {
    int sheets = 0;     ///< whole ones and scraps that are cut from one
    double cardMm2 = 0; ///< of these
    double usedMm2 = 0; ///< of which pieces are
    double cutMm = 0;   ///< the blade is drawn, all rounds
    double cardCost = 0, bladeCost = 0;
    std::vector<std::string> unknown = {}; ///< what has no price: names of stocks, "blades"
};
/// Returns what one load takes, counted as the plan does, or all of them without a number.
/// Errors: as checklistOf.
base::Result<CutCost> cutCost(const State& state, const design::CutPlan& plan,
                              std::optional<std::size_t> at = {});

/// Returns what is done in one pass, in words: "cut lichen, shallow blade at 210 gf".
std::string passText(const State& state, const design::Pass& pass);
/// Returns a time: "6 min 40 s", "40 s", "1 h 05 min".
std::string timeText(double seconds);

} // namespace thinline::job
