// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Cuts.h"
#include "design/Machine.h"

#include <map>

/// What happens on the machine: a value, made by cutplan/Plan.h, and all that writers, simulator and checks are told.
namespace thinline::design {

/// A line a tool follows without being lifted, on the mat, in the direction it is followed. A closed one ends where it
/// begins.
struct PlannedPath {
    geometry::Line line;
    CopyOf what;                           ///< whose it is
    std::size_t sheet = 0;                 ///< of its load
    std::optional<std::size_t> frame = {}; ///< it is a frame round a cluster: which of its sheet
    std::string cluster = {};              ///< what that cluster is called
    bool isTabbed = false;                 ///< it leaves bridges: a hand parts them
    bool operator==(const PlannedPath&) const = default;
};

/// Lines done one after the other with one tool at one setting.
struct Pass {
    Operation operation = Operation::Cut;
    bool isFrame = false; ///< frames round clusters, cut to the carrier
    bool isTile = false;  ///< of the test tile; its lines are of no copy
    int nested = 0;       ///< pieces that lie in openings of others are done first: how many lie around them
    std::string stockId;
    Depth depth = Depth::Through;
    bool isThroughCarrier = false; ///< what others of the stock leave whole is cut as well
    ToolKind tool = ToolKind::ShallowBlade;
    std::size_t holder = 0;
    double forceGf = 0;
    double mmPerS = 0;
    int times = 1; ///< each line so often, one round after the other
    std::vector<PlannedPath> paths = {};

    double lineMm = 0;   ///< of one round
    double travelMm = 0; ///< between its lines, with the way to the first
    double seconds = 0;  ///< of all rounds, without swaps
    bool operator==(const Pass&) const = default;
};

/// Returns the name of the group of a pass in files: "sea-score", "sea-cut", "clear-frame"; of what lies in openings of others
/// "sea-cut-nested-1", of a test tile "sea-test-tile", through the carrier "film-cut-through-carrier".
std::string passGroup(const Pass& pass);

/// A small piece in the waste, cut first: whatever the load has that is hardest to cut. Lines lie on the mat.
struct TestTile {
    std::size_t sheet = 0;                        ///< of its load, on which it lies
    geometry::Shape card;                         ///< its outline and openings
    std::vector<geometry::Line> perforation = {}; ///< its cuts
    double neckMm = 0;            ///< between two slots: the load's narrowest strip; 0 for none
    double openingMm = 0;         ///< across: its smallest opening
    double slotMm = 0;            ///< a slot as wide as the tightest fit leaves to the card
    double cutMm = 0, leftMm = 0; ///< its finest perforation
    bool operator==(const TestTile&) const = default;
};

/// Somebody stands up and changes a tool.
struct Swap {
    std::size_t pass = 0; ///< before this one
    std::size_t holder = 0;
    std::optional<ToolKind> out = {};
    ToolKind in = ToolKind::ShallowBlade;
    bool operator==(const Swap&) const = default;
};

struct PlannedLoad {
    std::size_t load = 0; ///< of the arrangement
    std::vector<Pass> passes;
    std::optional<TestTile> tile = {};
    std::vector<Swap> swaps = {}; ///< those before the first pass are done while the mat is loaded
    double seconds = 0;           ///< with swaps
    bool operator==(const PlannedLoad&) const = default;

    double lineMm() const;
    double travelMm() const;
};

/// Why a plan cannot be run as it is.
struct PlanFault {
    enum class Kind {
        NoTool,      ///< there is no such tool, or no holder takes it
        Force,       ///< beyond what the machine gives
        MatTooLarge, ///< for the machine
        Unlike,      ///< stocks on one mat that are cut unlike one another
        OneHolder,   ///< tools share a holder, so that somebody stands up while the mat is loaded
        TooThick,    ///< for the number of passes somebody set
        TooClose,    ///< cuts to one another
        TooFine,     ///< a perforation for the blade
        TooTight     ///< a curve for the tool that scores it
    } kind = Kind::NoTool;
    std::optional<std::size_t> load = {};
    std::string stockId = {};
    std::string what = {};   ///< a sentence without its stop
    std::string remedy = {}; ///< what helps, a sentence

    std::string text() const { return what + ". " + remedy; }
    bool operator==(const PlanFault&) const = default;
};

struct CutPlan {
    Machine machine;
    std::map<std::string, Setting> settings;    ///< by stock, those that are cut
    CutAids aids = {};                          ///< what its lines were changed by
    std::vector<std::optional<ToolKind>> start; ///< what is in each holder before the first load
    std::vector<PlannedLoad> loads;             ///< in the order in which they are cut
    int swaps = 0;                              ///< after the first load was begun
    int swapsInOrder = 0;                       ///< there would be if the loads were cut as they are numbered
    std::vector<PlanFault> faults = {};

    double seconds() const;
    bool operator==(const CutPlan&) const = default;
};

} // namespace thinline::design
