// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Length.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Load.h"
#include "document/Catalogue.h"
#include "shape/Steps.h"
#include "sheets/Arrange.h"
#include "trace/LineDrawing.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// The job as one immutable value, and the steps that lead from one value to the next.
namespace thinline::document {

/// The media type of a drawing that came as outlines.
inline constexpr const char* kSvgType = "image/svg+xml";

/// The picture or drawing brought in, kept byte for byte.
struct Artwork {
    std::string fileName; ///< without folders
    std::string mediaType;
    base::Bytes bytes;
    int widthPx = 0;
    int heightPx = 0;
    double pixelAspect = 1; ///< height of a pixel over its width; 1 but for fax-like pictures

    /// Whether it came as outlines, so that there is nothing to trace.
    bool isOutlines() const { return mediaType == kSvgType; }
};

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

    std::shared_ptr<const Artwork> artwork; ///< null until a picture is opened
    double pictureWidthMm = 0;              ///< real width of the whole picture or page
    double guessedWidthMm =
        0; ///< what the page's width would be at 96 units to the inch; 0 when the file states it

    trace::LineDrawingRecipe recipe;
    double clearanceMm = 0;                        ///< room between pieces, taken off every area on all sides
    std::shared_ptr<const trace::Tracing> tracing; ///< null until traced
    std::map<design::PieceId, std::string> paint;  ///< stock of every area
    std::map<design::PieceId, int> copies;         ///< where it is not one

    double scaleX = 1; ///< the Size station's factors on top of the picture's real size
    double scaleY = 1;

    std::vector<design::Stock> stocks;
    std::vector<trace::LayerSetting> layers; ///< bottom to top

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

/// Returns the box of the finished design, edge to edge of its backing, mm; empty before tracing.
geometry::Box designBox(const Job& job);

/// Returns the chosen mat and sheet.
/// Errors: NotFound with the name that is not in the catalogue.
base::Result<sheets::ArrangeOptions> arrangeOptions(const Job& job, const design::Formats& formats);

// ---- steps -----------------------------------------------------------------------------------------------
// Each returns a new job and leaves the given one alone. Errors are sentences for a person. Steps that may
// take longer than a frame take a Progress and may be Cancelled.

/// A fresh job around a picture file. Its real width comes from the file's resolution, or is 200 mm when it
/// has none. Errors: those of formats::image::decode.
struct OpenedPicture {
    Job job;
    std::shared_ptr<const raster::Picture> picture;
    std::string note; ///< what the person should know: no resolution stated, an absurd one; else empty
};
base::Result<OpenedPicture> openPicture(const Job& job, const base::Bytes& file, const std::string& fileName);

/// Whether bytes look like a drawing in SVG.
bool looksLikeSvg(const base::Bytes& file);

/// A fresh job around an SVG file: every connected area is a piece, its stock chosen by its colour. The size
/// is the file's own; when the file states none, as CSS has it (96 units to the inch), and the note says what
/// else it could be. Errors: those of formats::svg::readSvg and of the set operations; Cancelled.
struct OpenedDrawing {
    Job job;
    std::string note;
};
base::Result<OpenedDrawing> openDrawing(const Job& job, const base::Bytes& file, const std::string& fileName,
                                        const Catalogue& catalogue, const base::Progress& progress = {});

/// How large the page of a drawing would be if its units were so many to the inch.
struct UnitGuess {
    int perInch = 96;
    double widthMm = 0, heightMm = 0;
};
/// Returns the guesses for a drawing that states no real size: 96, 90 and 72 to the inch. Empty for any other
/// job. Source: 96 by SVG and CSS; 90 and 72 from memory.
std::vector<UnitGuess> unitGuesses(const Job& job);

/// Returns the artwork's pixels.
base::Result<std::shared_ptr<const raster::Picture>> pictureOf(const Job& job);

/// The whole picture's real width; everything made from it scales along.
base::Result<Job> withPictureWidth(const Job& job, double widthMm, const base::Progress& progress = {});

/// Traces the picture anew by a recipe; paint, copies, pins and layer order stay with their areas.
base::Result<Job> traced(const Job& job, const raster::Picture& picture,
                         const trace::LineDrawingRecipe& recipe, const Catalogue& catalogue,
                         const base::Progress& progress = {});

/// Sets the room between pieces.
base::Result<Job> withClearance(const Job& job, double clearanceMm, const base::Progress& progress = {});

/// Sets the finished design's own width and height.
base::Result<Job> resized(const Job& job, double widthMm, double heightMm,
                          const base::Progress& progress = {});
/// Scales the finished design by one factor.
base::Result<Job> scaled(const Job& job, double factor, const base::Progress& progress = {});

/// Adds a step at Shape; works on the present pieces.
base::Result<Job> withShapeStep(const Job& job, const shape::Step& step, const base::Progress& progress = {});
/// Replaces all steps at Shape and replays them from the traced pieces.
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
/// Pins a copy where a hand laid it, and lays the rest around it. `xMm`, `yMm` on the mat of that load.
base::Result<Job> pinnedAt(const Job& job, const design::CopyOf& what, size_t load, double xMm, double yMm,
                           int quarterTurns, const design::Formats& formats,
                           const base::Progress& progress = {});
base::Result<Job> unpinned(const Job& job, const design::CopyOf& what, const design::Formats& formats,
                           const base::Progress& progress = {});

} // namespace thinline::document
