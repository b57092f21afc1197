// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/SheetInPhoto.h"

#include "job/TraceSteps.h"
#include "raster/Rectify.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using geometry::Point;

/// The sides of a quadrilateral, px: across by down.
std::pair<double, double> sidesOf(const std::array<Point, 4>& c) {
    return {(geometry::distance(c[0], c[1]) + geometry::distance(c[3], c[2])) / 2,
            (geometry::distance(c[0], c[3]) + geometry::distance(c[1], c[2])) / 2};
}

} // namespace

base::Result<SheetInPhoto> sheetIn(const raster::Picture& photo, double sideMm, double otherSideMm,
                                   const std::optional<std::array<Point, 4>>& cornersPx, double bend) {
    const double shorter = std::min(sideMm, otherSideMm), longer = std::max(sideMm, otherSideMm);
    constexpr double kLeastMm = 20, kMostMm = 3000;
    if (!(shorter >= kLeastMm) || !(longer <= kMostMm))
        return Error{Code::InvalidArgument, "A sheet in a photo is between 20 mm and 3 m long on every side."};
    const bool isWide = photo.width >= photo.height;
    const auto found = cornersPx ? raster::Seen::by(*cornersPx, bend, photo.width, photo.height, longer, shorter)
                                 : raster::findRectangle(photo, isWide ? longer : shorter, isWide ? shorter : longer);
    if (!found && !cornersPx)
        return Error{found.error().code, "No sheet was found in the photo: nothing in it is one large even area with four "
                                         "corners. Take it from above with all of it on a plain ground, or set the corners "
                                         "by hand."};
    if (!found)
        return found.error();
    SheetInPhoto out;
    out.corners = found->corners();
    out.bend = found->bend();
    const auto [across, down] = sidesOf(out.corners);
    out.widthMm = across >= down ? longer : shorter;
    out.heightMm = across >= down ? shorter : longer;
    // As fine as the photo where it is finest, within what is looked at.
    const double finest = std::max(across / out.widthMm, down / out.heightMm),
                 most = std::sqrt(static_cast<double>(trace::kMostLookedAt) / (out.widthMm * out.heightMm));
    out.pxPerMm = std::max(1.0, std::round(std::min(finest, most) * out.widthMm)) / out.widthMm; // whole pixels across
    if (const auto seen = raster::Seen::by(out.corners, out.bend, photo.width, photo.height, out.widthMm, out.heightMm);
        !seen)
        return seen.error();
    return out;
}

base::Result<Job> withSheetInPhoto(const Job& job, const std::optional<SheetInPhoto>& sheet, SourceId of) {
    const Source* before = pictureSource(job, of);
    if (!asA<Picture>(before))
        return Error{Code::NotFound, "There is no such picture in this job."};
    Source source = *before;
    Picture& picture = std::get<Picture>(source.what);
    const double widthMm = picture.widthPx() * source.unitMm;
    picture.sheet = sheet;
    picture.tracing = nullptr;
    picture.gone.clear();
    picture.recipe.turnDeg = 0;
    picture.recipe.erasures.clear();
    picture.recipe.closings.clear();
    picture.recipe.ownParts.clear();
    source.kept = Source{}.kept;
    std::erase_if(source.lies, [](const auto& entry) { return isArea(entry.first); });
    source.stretchY = sheet ? 1 : source.stretchY; // as large as it really is
    source.unitMm = sheet ? 1 / sheet->pxPerMm : widthMm / picture.widthPx();
    return withSource(job, std::move(source));
}

base::Result<Job> tracedFromSheet(const Job& job, const std::optional<SheetInPhoto>& sheet, const Catalogue& catalogue,
                                  const base::Progress& progress, SourceId of) {
    auto laid = withSheetInPhoto(job, sheet, of);
    if (!laid)
        return laid;
    const auto pixels = pixelsOf(*laid, of);
    if (!pixels)
        return pixels.error();
    trace::Recipe recipe = asA<Picture>(pictureSource(*laid, of))->recipe;
    const trace::Kind kind = trace::kindOf(**pixels);
    recipe.mode = kind.mode;
    recipe.isLightOnDark = kind.isLightOnDark;
    return traced(*laid, **pixels, recipe, catalogue, progress, of);
}

} // namespace thinline::job
