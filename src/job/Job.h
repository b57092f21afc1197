// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "assembly/Instructions.h"
#include "base/Length.h"
#include "design/Machine.h"
#include "design/Relations.h"
#include "folds/Foam.h"
#include "folds/Marks.h"
#include "job/Wishes.h"
#include "registration/StandingError.h"
#include "sheets/Arrange.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// The job: decisions only. What follows from them is made by job/Making.h and never kept beside them.
namespace thinline::job {

struct Source;
struct FaceArt;

/// What the Sheets station was told.
struct SheetPlan {
    std::string matId;
    std::string sheetId; ///< "own" means ownSheet
    design::SheetFormat ownSheet{"own", "own size", 200, 280, 6.35};
    double spacingMm = 2.5; ///< kept between pieces; 2-3 mm is usual (from memory)
    bool mayTurn = true;
    bool isMixed = false; ///< several stocks may share a mat, each on a scrap of its own
    bool intoOpenings = false;
    std::map<std::string, design::SheetFormat> sheetOf; ///< of the stocks that have sheets of their own
    std::vector<design::Scrap> scraps;                  ///< used before whole sheets are
    int nextScrap = 1;
    std::map<std::string, std::vector<geometry::Box>> keepOuts; ///< by mat: what of it stays free
    bool areCornersTaped = false;
    design::SheetLie lies; ///< of whole sheets
    std::set<std::string> tapedStocks; ///< their sheets are taped in pairs and cut across the join; their scraps stay away
    std::vector<sheets::Pin> pins;
    design::FoldsAs foldsAs = design::FoldsAs::Score;

    bool operator==(const SheetPlan&) const = default;
};

/// What was said of printing.
struct PrintPlan {
    std::set<std::string> stocks;   ///< of which sheets are printed, with marks round the pieces
    double printerMarginMm = 6.35;  ///< along its edges the printer puts no ink; a quarter inch is usual (common practice)
    bool hasMarks = true;           ///< else the print is placed by hand, and pieces lie up to the sheet's own margin
    double dpi = 300;               ///< of the pages
    std::optional<registration::StandingError> standing; ///< of the machine, as it was accepted

    bool operator==(const PrintPlan&) const = default;
};

/// What the Cut station was told.
struct CutWishes {
    std::optional<design::Machine> machine;          ///< unset: the first of the catalogue
    std::map<std::string, design::Setting> settings; ///< of the stocks somebody set herself
    design::CutAids aids;
    bool hasTiles = false; ///< a test tile in the waste of every load

    bool operator==(const CutWishes&) const = default;
};

/// The inside of the frame a work is made for.
struct Frame {
    double widthMm = 0, heightMm = 0;
    double depthMm = 0; ///< 0: not asked

    bool operator==(const Frame&) const = default;
};

/// For whom it is made: what may be done with its sources follows from that.
enum class GoesTo { Myself, Others, Buyers };
inline constexpr std::array<const char*, 3> kGoesToWords{"myself", "others", "buyers"};

/// One state of a job. Parts are shared between states and never change; copying a state is cheap.
struct Job {
    // Written once, in Job.cpp: all the sources that copy jobs need not each compile it.
    Job();
    Job(const Job&);
    Job(Job&&) noexcept;
    Job& operator=(const Job&);
    Job& operator=(Job&&) noexcept;
    ~Job();

    std::string name = "New job";
    base::LengthUnit unit = base::LengthUnit::Millimetre;

    std::vector<std::shared_ptr<const Source>> sources;     ///< in the order in which their pieces lie
    std::vector<std::shared_ptr<const design::Step>> steps; ///< in the order in which they are done

    std::vector<design::Stock> stocks;
    std::vector<design::Layer> layers; ///< bottom to top; those without pieces wait
    Wishes wishes;                     ///< only what somebody said

    std::vector<design::PieceSet> sets;
    std::vector<design::Fit> fits;
    std::vector<design::Cluster> clusters;
    std::optional<Frame> frame; ///< the work was made to fit it
    folds::MarkPlan marks;      ///< of the layers that ask for them
    folds::FoamPlan foam;
    SheetPlan plan;
    CutWishes cut;
    assembly::Wishes assembly; ///< own items, own words for steps, numbers on pieces
    GoesTo goesTo = GoesTo::Myself;
    PrintPlan print;
    std::map<int, std::shared_ptr<const FaceArt>> art; ///< pictures and texts that are printed, see job/FaceArt.h

    // The numbers the next ones get. They only rise, so that none is given twice.
    int nextSource = 1, nextStep = 1, nextLayer = 1, nextArt = 1;
};

/// Returns a source, or null.
const Source* findSource(const Job& job, design::SourceId id);
/// Returns the picture of this id; the first one when no id is given or it is none of a picture. Null without any.
const Source* pictureSource(const Job& job, design::SourceId of = {});
/// Returns all pictures, in the order of the sources.
std::vector<const Source*> pictureSources(const Job& job);
/// Returns the job with a source put in the place of the one of its id, or behind all others.
Job withSource(Job job, Source source);

/// Returns the layer of a stock in front of the base, the uppermost of several; null when there is none.
const design::Layer* layerOfStock(const Job& job, const std::string& stockId);
/// Returns the id of that layer; it is made, on top, when there is none.
design::LayerId layerForStock(Job& job, const std::string& stockId);

} // namespace thinline::job
