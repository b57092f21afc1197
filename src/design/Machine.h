// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <array>
#include <optional>
#include <string>
#include <vector>

/// What cuts: a machine, its holders and tools, and how a stock is cut. Lengths in mm, forces in gram-force.
namespace thinline::design {

/// What a holder carries.
enum class ToolKind {
    Pen,
    Stylus,       ///< scores
    Wheel,        ///< scores deeper; takes the blade's place
    ShallowBlade, ///< about 45 degrees: card, vinyl, acetate
    SteepBlade    ///< about 60 degrees: board
};
inline constexpr std::array kToolKinds{ToolKind::Pen, ToolKind::Stylus, ToolKind::Wheel,
                                       ToolKind::ShallowBlade, ToolKind::SteepBlade};
/// In files and at the batch tool.
inline constexpr std::array<const char*, kToolKinds.size()> kToolWords{"pen", "stylus", "wheel", "shallow",
                                                                       "steep"};
/// In sentences: "the shallow blade".
inline constexpr std::array<const char*, kToolKinds.size()> kToolNames{"pen", "stylus", "scoring wheel",
                                                                       "shallow blade", "steep blade"};
inline const char* toolName(ToolKind kind) {
    return kToolNames[static_cast<size_t>(kind)];
}
constexpr bool isBlade(ToolKind kind) {
    return kind == ToolKind::ShallowBlade || kind == ToolKind::SteepBlade;
}

/// A place on the carriage for one tool at a time.
struct Holder {
    std::vector<ToolKind> takes;
    bool doesTake(ToolKind kind) const { return std::find(takes.begin(), takes.end(), kind) != takes.end(); }
    bool operator==(const Holder&) const = default;
};

/// A machine as its owner knows it. None of those that ship bears a maker's name: they are kinds of machines.
struct Machine {
    std::string id, name;
    double usableWidthMm = 0; ///< across the carriage: the widest mat it takes
    double longestMm = 0;     ///< the longest mat
    std::vector<Holder> holders;
    std::vector<ToolKind> tools; ///< what there is to put into them
    bool doesReadMarks = false;  ///< finds printed marks by itself
    double printWidthMm = 0,
           printHeightMm = 0; ///< the largest printed area it cuts around; 0 when it reads none
    double leastGf = 20, mostGf = 600;
    double cutMmPerS = 100, travelMmPerS = 200; ///< from memory
    double mmPerS2 = 1000;                      ///< how fast it becomes faster; from memory
    double liftS = 0.1;                         ///< to bring a tool down or up; from memory
    double swapS = 40;                          ///< to change a tool; from memory
    double bladePrice = 0,
           bladeLastsM = 0; ///< in the person's own money, and how far one cuts; 0 when not known

    bool owns(ToolKind kind) const { return std::find(tools.begin(), tools.end(), kind) != tools.end(); }
    bool operator==(const Machine&) const = default;
};

/// How sticky a mat has to be.
enum class Tack { Low, Middle, High };
inline constexpr std::array<const char*, 3> kTackWords{"low", "middle", "high"};

/// How a stock is cut.
struct Setting {
    ToolKind blade = ToolKind::ShallowBlade;
    double forceGf = 0;
    int passes = 1;
    double mmPerS = 0; ///< how fast; 0 is as fast as the machine cuts
    Tack tack = Tack::Middle;
    std::optional<double> throughGf = {}; ///< through its carrier as well; unset: by cutplan::throughCarrier

    bool operator==(const Setting&) const = default;
};
inline constexpr int kMostPasses = 9;

/// What is done for a machine that does it not itself. All are off as a rule: a machine that leads its knife round
/// corners would lead it twice.
struct CutAids {
    double bladeOffsetMm = 0; ///< the tip trails its shaft by so much, and the shaft is led accordingly
    double overcutMm = 0;     ///< closed cuts go on so far beyond where they began
    int tabs = 0;             ///< uncut bridges in the outline of pieces that would wander
    double tabMm = 0.6;       ///< how wide each is; from memory

    bool areNone() const { return bladeOffsetMm == 0 && overcutMm == 0 && tabs == 0; }
    bool operator==(const CutAids&) const = default;
};
inline constexpr double kMostOffsetMm = 2, kMostOvercutMm = 5, kMostTabMm = 3;
inline constexpr int kMostTabs = 12;
inline constexpr double kMostGf = 10000;

} // namespace thinline::design
