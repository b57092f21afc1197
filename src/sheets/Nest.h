// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "sheets/NestTable.h"

#include <algorithm>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

/// Laying true outlines close: which sheet, where, and turned how.
namespace thinline::sheets {

enum class NestTurns { None, Half, Any };

/// What is laid, and onto what. All lengths in mm.
struct NestTask {
    /// An outline that is laid once or many times; with its openings where other pieces may lie in them.
    struct Form {
        geometry::Polygons rings;
        std::optional<double> onlyTurnRad = {}; ///< it fits a sheet at this turn and no other
    };
    std::vector<Form> forms;
    struct Item {
        std::size_t form = 0;
        std::optional<std::size_t> pinnedBin = {}; ///< laid by hand there, as `pinned` says, and never moved
        NestPose pinned = {};                      ///< of the form's own middle
    };
    std::vector<Item> items;
    /// What is laid on: boxes of outlines stay inside `usable`, and outlines off what is blocked.
    struct Sheet {
        geometry::Box usable;
        std::shared_ptr<const NestTable> blocked = {}; ///< made with kWallClearMm; null where all is free
    };
    std::vector<Sheet> once = {}; ///< the first ones
    std::vector<Sheet> sheets;    ///< after them, and again from the first of these
    double clearMm = 2.5;         ///< between outlines
    NestTurns turns = NestTurns::Any;
    std::vector<std::size_t> order =
        {}; ///< in which a first layout takes the items; the largest first where it is empty

    /// How many different sheets there are, and which of them one is.
    std::size_t kinds() const { return once.size() + sheets.size(); }
    std::size_t kindOf(std::size_t bin) const {
        return bin < once.size() ? bin : once.size() + (bin - once.size()) % sheets.size();
    }
    const Sheet& sheetOf(std::size_t bin) const {
        return bin < once.size() ? once[bin] : sheets[(bin - once.size()) % sheets.size()];
    }
    const geometry::Box& usableOf(std::size_t bin) const { return sheetOf(bin).usable; }
    bool hasWalls() const;
};
/// What outlines keep from what is blocked: as much as they may be flattened by.
inline constexpr double kWallClearMm = 0.03;

/// Where an item lies.
struct NestPlace {
    std::size_t bin = 0;
    NestPose pose; ///< of its form's middle, see NestTable::middle
};
struct NestLayout {
    std::vector<NestPlace> places; ///< of every item
    std::size_t bins = 0;
    double lastLengthMm = 0; ///< how much of the last sheet is used, from its upper edge

    bool isBetterThan(const NestLayout& other) const {
        return bins < other.bins || (bins == other.bins && lastLengthMm < other.lastLengthMm - 0.01);
    }
};

/// How long is searched.
struct NestBudget {
    long long steps = 200'000; ///< poses that are looked at; the same number gives the same layout
    /// The share of the budget that is spent, 0 to 1, where somebody keeps time instead; what comes out then hangs on how
    /// fast the machine is.
    std::function<double()> spent = {};
    unsigned seed = 1;

    /// The share that is spent after so many steps.
    double shareAfter(double done) const {
        return spent ? spent() : done / static_cast<double>(std::max(1ll, steps));
    }
};

/// Returns the forms as they are looked up; shared by searches of the same forms and clearance.
std::vector<std::shared_ptr<const NestTable>> nestTables(const NestTask& task,
                                                         const base::Progress& progress = {});

/// Returns a first layout, good but not searched for.
/// Shape:  one after the other, the largest first, each at the first place from the upper edge that takes it, in up to eight
///         turns. Every item must go onto an empty sheet in one of its turns; see goesAlone.
///         What is to be kept stays where it is if it lies well beside the pins and what was kept before it.
/// Errors: LimitExceeded when an item fits nowhere; Cancelled.
/// Cost:   O(items x turns x cells x rows) at worst; what has the form of the one before begins where that lies.
base::Result<NestLayout> firstNest(const NestTask& task,
                                   const std::vector<std::shared_ptr<const NestTable>>& tables,
                                   const std::vector<std::optional<NestPlace>>& kept = {},
                                   const base::Progress& progress = {});

/// Whether the box of a form fits an empty sheet in one of its turns.
bool fitsAlone(const NestTable& table, const NestTask& task, const NestTask::Form& form);
/// Whether a first layout finds a place for a form on an empty sheet, beside what is blocked.
/// Cost: none where its box fits a sheet of which all is free; else that of laying it.
bool goesAlone(const std::shared_ptr<const NestTable>& table, const NestTask& task,
               const NestTask::Form& form);
/// Counts the sheets of a layout and measures the last one.
void measureNest(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables,
                 NestLayout& layout);

/// Returns a closer layout than the one it begins with, or that one.
/// Shape:  every layout that is published or returned has passed isSound. Fewer sheets first, then less of the last one, then a
///         short way for the tool (sheets/NestGather.h).
/// Errors: none; a stopped search returns the best so far.
/// Cost:   the budget. About 2 us a step for outlines of a hundred nodes.
NestLayout nest(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables,
                NestLayout from, const NestBudget& budget,
                const std::function<void(const NestLayout&)>& publish = {},
                const base::Progress& progress = {});

/// How much an outline lies on what is blocked of its sheet, mm2; gives up above `limit`.
double overWall(const NestTask& task, const NestTable& form, const NestPlace& place, double limit);

/// Whether outlines keep their distance from one another and lie inside their sheets, by the outlines themselves.
/// Units:  `clearMm` within 0.01 mm; pinned ones are only held against those that are not.
/// Cost:   O(edges squared) of the pairs whose circles come near.
bool isSound(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables,
             const NestLayout& layout, double clearMm);

} // namespace thinline::sheets
