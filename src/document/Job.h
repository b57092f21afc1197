// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"
#include "design/Relations.h"
#include "document/Catalogue.h"
#include "document/Sources.h"
#include "shape/Steps.h"
#include "sheets/Arrange.h"
#include "trace/Layers.h"

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

/// The job as one immutable value, and the steps that lead from one value to the next.
namespace thinline::document {

/// What the Sheets station was told.
struct SheetPlan {
    std::string matId;
    std::string sheetId; ///< "own" means ownSheet
    design::SheetFormat ownSheet{"own", "own size", 200, 280, 6.35};
    double spacingMm = 2.5; ///< kept between pieces; 2-3 mm is usual (from memory)
    bool mayTurn = true;
    std::vector<sheets::Pin> pins;
};

/// One state of a job. Heavy parts are shared between states and never change; copying a state is cheap.
struct Job {
    std::string name = "New job";
    base::LengthUnit unit = base::LengthUnit::Millimetre;

    std::shared_ptr<const Artwork> artwork; ///< the picture to trace; null in a job without one
    Origin origin;                          ///< of that picture
    double pictureWidthMm = 0;              ///< real width of the whole picture

    std::vector<std::shared_ptr<const Source>>
        sources;        ///< drawings, words and figures, in the order they came
    int nextSource = 1; ///< the number the next one gets; numbers are not used again

    trace::Recipe recipe;
    double clearanceMm = 0;                        ///< room between pieces, taken off every area on all sides
    std::shared_ptr<const trace::Tracing> tracing; ///< null until traced
    std::map<design::PieceId, std::string> paint;  ///< stock of every area
    std::map<design::PieceId, int> copies;         ///< where it is not one

    double scaleX = 1; ///< the Size station's factors on top of the picture's real size
    double scaleY = 1;

    std::vector<design::Stock> stocks;
    std::vector<trace::LayerSetting> layers; ///< bottom to top

    std::vector<design::PieceSet> sets;
    std::vector<design::Fit> fits;
    std::set<design::PieceId> freePieces; ///< they may have a scale of their own

    std::vector<shape::Step> shapeSteps;       ///< what was done to pieces at Shape, in order
    std::shared_ptr<const shape::Work> shaped; ///< derived: the pieces after those steps, and the scrap
    std::vector<std::string> passedOver; ///< derived: steps that could not be done again, told in sentences
    std::shared_ptr<const trace::SizedShapes>
        shapes;                                 ///< derived: tracing at final size, after the shape steps
    std::shared_ptr<const design::Stack> stack; ///< derived: shapes by stock; null until traced

    SheetPlan plan;
    std::shared_ptr<const design::Arrangement> arrangement; ///< null when it must be made anew
};

/// Returns an empty job with the catalogue's drawer and defaults.
Job newJob(const Catalogue& catalogue);

/// Returns how the tracing's pixels become millimetres in this job.
trace::Sizing sizingOf(const Job& job);

/// Returns the box of the finished design, edge to edge of all its pieces, mm; empty without any.
geometry::Box designBox(const Job& job);

/// Returns the chosen mat and sheet.
/// Errors: NotFound with the name that is not in the catalogue.
base::Result<sheets::ArrangeOptions> arrangeOptions(const Job& job, const design::Formats& formats);

// ---- steps -----------------------------------------------------------------------------------------------
// Each returns a new job and leaves the given one alone. Errors are sentences for a person. Steps that may
// take longer than a frame take a Progress and may be Cancelled.

/// A fresh job around a picture file. Its real width comes from the file's resolution, or is 200 mm when it
/// has none.
/// Errors: those of formats::image::decode.
struct OpenedPicture {
    Job job;
    std::shared_ptr<const raster::Picture> picture;
    std::string note; ///< what the person should know: no resolution stated, an absurd one; else empty
};
base::Result<OpenedPicture> openPicture(const Job& job, const base::Bytes& file, const std::string& fileName);

/// Returns the artwork's pixels.
base::Result<std::shared_ptr<const raster::Picture>> pictureOf(const Job& job);

/// The whole picture's real width; everything made from it scales along.
base::Result<Job> withPictureWidth(const Job& job, double widthMm, const base::Progress& progress = {});

/// Traces the picture anew by a recipe; paint, copies, pins and layer order stay with their areas.
base::Result<Job> traced(const Job& job, const raster::Picture& picture, const trace::Recipe& recipe,
                         const Catalogue& catalogue, const base::Progress& progress = {});

/// Returns the job with the colours of a coloured copy of its line drawing: every area is painted anew in a
/// stock of the colour the copy shows there.
/// Errors: InvalidArgument without a traced line drawing or for a copy of another form; those of reading a
/// picture; Cancelled.
base::Result<Job> colouredFrom(const Job& job, const base::Bytes& copy, const std::string& fileName,
                               const Catalogue& catalogue, const base::Progress& progress = {});

/// Returns the leaks that a line of ink between two ends would close, by their place in the tracing.
std::vector<size_t> closableLeaks(const Job& job);
/// Closes some of the leaks and traces anew.
/// Errors: InvalidArgument when none of them can be closed.
base::Result<Job> withGapsClosed(const Job& job, const raster::Picture& picture,
                                 const std::vector<size_t>& leaks, const Catalogue& catalogue,
                                 const base::Progress& progress = {});

/// Sets the room between pieces.
base::Result<Job> withClearance(const Job& job, double clearanceMm, const base::Progress& progress = {});

/// Sets the finished design's own width and height.
base::Result<Job> resized(const Job& job, double widthMm, double heightMm,
                          const base::Progress& progress = {});
/// Scales the finished design by one factor.
base::Result<Job> scaled(const Job& job, double factor, const base::Progress& progress = {});

/// Adds a step at Shape; works on the present pieces. A step that takes every piece of a word or drawing is
/// kept as taking the whole of it, so that it holds when the word is retyped.
base::Result<Job> withShapeStep(const Job& job, const shape::Step& step, const base::Progress& progress = {});
/// Replaces all steps at Shape and replays them from the traced pieces and the sources.
base::Result<Job> withShapeSteps(const Job& job, std::vector<shape::Step> steps,
                                 const base::Progress& progress = {});

/// Lays a stock on areas. Unknown ids and parts of the backing are left alone.
Job painted(const Job& job, const std::vector<design::PieceId>& areas, const std::string& stockId);
/// How many of a piece are cut, 1 to 999.
base::Result<Job> withCopies(const Job& job, design::PieceId piece, int copies);

/// Moves the layer at `from` (0 is the bottom) to `to`.
Job withLayerMoved(const Job& job, size_t from, size_t to);
Job withLayerHidden(const Job& job, size_t layer, bool isHidden);
Job withLayerLift(const Job& job, size_t layer, double liftMm);
/// Gives all pieces of a layer another stock; a layer that has this stock already takes them in.
Job withLayerStock(const Job& job, size_t layer, const std::string& stockId);

/// Sets the sheet plan; the arrangement must be made anew.
Job withPlan(const Job& job, const SheetPlan& plan);
/// Lays the pieces on sheets by the job's plan.
base::Result<Job> arranged(const Job& job, const design::Formats& formats,
                           const base::Progress& progress = {});
/// Pins a copy where a hand laid it, as `placed` says in the axes of its mat, and lays the rest around it.
base::Result<Job> pinnedAt(const Job& job, const design::PlacedPiece& placed, size_t load,
                           const design::Formats& formats, const base::Progress& progress = {});
base::Result<Job> unpinned(const Job& job, const design::CopyOf& what, const design::Formats& formats,
                           const base::Progress& progress = {});

} // namespace thinline::document
