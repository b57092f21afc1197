// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "design/Heights.h"
#include "job/Job.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

/// Everything that follows from a job's decisions, stage by stage. A stage is kept while its inputs are the same.
namespace thinline::job {

template <class T>
using Kept = std::shared_ptr<const T>;

enum class Stage {
    Pieces, ///< what the sources found, after every step
    Stack,  ///< the pieces in their layers
    Finish, ///< outlines as they are cut: tucked under what lies above, with room between them
    Sheets  ///< where everything lies on mats
};

/// The pieces of one source where they lie in the design, before any step.
struct FromSource {
    Kept<Source> source;
    Kept<std::vector<design::Piece>> pieces;
};

/// What one step led to.
struct AfterStep {
    Kept<design::Step> step;
    Kept<design::Pieces> before; ///< what it was done to
    Kept<design::Pieces> pieces;
    std::optional<base::Error> whyNot = {}; ///< set when it could not be done
    int shortEnds = 0;                      ///< lines that do not reach the edge any more
    int droppedBits = 0;                    ///< bits of lines too short for any tool
    std::vector<design::HeldOnce> heldOnce = {};
};

/// The foam of a lifted piece.
struct FoamTold {
    design::PieceId piece;
    int spots = 0;       ///< none where there is no room
    int armsWithout = 0; ///< long arms without room for one
};

/// Which pieces bear their numbers, where that is asked for.
struct NumbersTold {
    int on = 0;
    int without = 0; ///< nothing covers them, or too little
};

/// The work as it will be cut.
struct Finished {
    design::Stack stack;
    std::vector<design::PieceId> vanished; ///< pieces of which the room between pieces left nothing
    design::StackMeasures measures;
    design::Heights heights;
    std::vector<geometry::Box> parts; ///< that lie side by side, the largest first
    int strayWishes = 0;              ///< wishes for pieces that are not there
    NumbersTold numbers;
    std::vector<FoamTold> foam; ///< of the pieces that are lifted, where it is asked for
    std::vector<design::PieceId>
        unmarked; ///< pieces that show their back, where marks of what lies on them cannot be made
};

/// What is known of bodies, whatever job they are in; kept from one making to the next.
struct Memory;

struct Made {
    // Written once, in Making.cpp, as those of Job.
    Made();
    Made(const Made&);
    Made(Made&&) noexcept;
    Made& operator=(const Made&);
    Made& operator=(Made&&) noexcept;
    ~Made();

    std::vector<FromSource> found;
    Kept<design::Pieces> start; ///< of all sources; null without any
    std::vector<AfterStep> after;
    Kept<design::Pieces> pieces; ///< after the last step; null when there are none and no scrap
    Kept<design::Stack> stack;   ///< null without pieces
    Kept<Finished> finished;
    Kept<design::Arrangement> sheets; ///< null when it was not asked for, or cannot be made
    std::string sheetsProblem;        ///< why the pieces cannot be laid on sheets

    /// What the kept values were made of.
    struct Inputs {
        std::vector<design::Layer> layers;
        std::vector<design::Stock> stocks;
        Wishes wishes;
        std::vector<design::Cluster> clusters;
        folds::MarkPlan marks;
        folds::FoamPlan foam;
        SheetPlan plan;
        base::LengthUnit unit = base::LengthUnit::Millimetre; ///< scraps are cut to whole steps of it
        assembly::Wishes assembly;
        CutWishes cut;   ///< which stocks may share a mat
        PrintPlan print; ///< which sheets have marks
    } inputs;
    std::shared_ptr<Memory> memory;

    /// The work to be shown and cut; null without pieces.
    const design::Stack* work() const { return finished ? &finished->stack : nullptr; }
};

/// A job and what follows from it.
struct State {
    Job job;
    Made made;
};

/// Returns what follows from a job, up to a stage.
/// Shape:  stages whose inputs are those `before` was made of are taken from it, by pointer. A step that cannot be
///         done is passed over and told. Newly found parts are written into the steps of the job that is returned;
///         nothing else of it changes.
/// Errors: those of the set operations when a source or the finish fails; Cancelled. An arrangement that cannot be
///         made is told in Made::sheetsProblem.
/// Cost:   that of the stages whose inputs changed. A changed step makes all behind it anew; bodies that come out
///         equal are the old ones.
base::Result<State> make(Job job, Stage upTo, const Made& before, const base::Progress& progress = {});

/// Returns the box of the finished work, mm; empty without any.
geometry::Box workBox(const Made& made);

/// Returns how much memory values take that `later` does not share with `earlier`, bytes, roughly.
std::size_t ownBytes(const Made& later, const Made& earlier);

/// Returns what was made but for the arrangement, which the next making lays anew.
Made withoutSheets(Made made);

/// Returns what is kept between pieces of a stock, mm: the plan's spacing, and room for two bleeds where that is printed.
double spacingFor(const Job& job, const std::string& stockId);

/// Returns what the plan of a job says, with the chosen mat and sheets.
/// Errors: NotFound with the name that is not in the catalogue.
base::Result<sheets::ArrangeOptions> arrangeOptions(const Job& job, const design::Formats& formats);

/// Returns what is to be said of a step that could not be done, with its number; empty when it was.
std::string passedOver(const Made& made, std::size_t step);
/// Returns every passed-over step's sentence.
std::vector<std::string> passedOver(const Made& made);

} // namespace thinline::job
