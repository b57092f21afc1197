// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/DrawnPictures.h"

#include "base/Length.h"
#include "formats/svg/ReadSvg.h"
#include "job/PrintSteps.h"
#include "print/Place.h"

#include <algorithm>
#include <string_view>

namespace thinline::job {

base::Result<std::vector<design::DrawnPicture>> picturesIn(const Incoming& file, const base::FontStore& fonts,
                                                           const base::Progress& progress) {
    const std::string_view text(reinterpret_cast<const char*>(file.bytes.data()), file.bytes.size());
    if (file.is.kind != FileKind::Svg || text.find("image") == text.npos || text.find("data:") == text.npos)
        return std::vector<design::DrawnPicture>{};
    auto page = formats::svg::readSvg(text, {}, progress, &fonts);
    if (!page)
        return page.error();
    return std::move(page.take().pictures);
}

namespace {

/// Where a picture of this aspect lies in its box: never stretched unless the drawing says so.
geometry::Transform placeOf(const design::DrawnPicture& picture, double aspect) {
    if (picture.fit == design::DrawnPicture::Fit::Stretched)
        return picture.place;
    const double width = std::hypot(picture.place.a, picture.place.b),
                 height = std::hypot(picture.place.c, picture.place.d);
    const double own = width / height;
    const bool isByWidth = (picture.fit == design::DrawnPicture::Fit::Whole) == (aspect > own);
    const double sx = isByWidth ? 1 : aspect / own, sy = isByWidth ? own / aspect : 1;
    return geometry::Transform::move({-0.5, -0.5})
        .then(geometry::Transform::scale(sx, sy))
        .then(geometry::Transform::move({0.5, 0.5}))
        .then(picture.place);
}

} // namespace

base::Result<Noted> withDrawnPictures(const State& before, Noted came,
                                      const std::vector<design::DrawnPicture>& pictures,
                                      const std::string& fileName, const base::Progress& progress) {
    int lost = 0, unread = 0, printedOn = 0;
    for (std::size_t i = 0; i < pictures.size(); ++i) {
        const SourceId source = came.job.sources.back()->id;
        auto made = make(came.job, Stage::Stack, before.made, progress);
        if (!made)
            return made.error();
        const geometry::Transform toDesign = came.job.sources.back()->map();
        const geometry::Point middle = pictures[i].place.then(toDesign)({0.5, 0.5});
        const design::Piece* under = nullptr;
        if (made->made.pieces)
            for (const design::Piece& piece : made->made.pieces->now)
                if (piece.id.source() == source &&
                    geometry::contains(geometry::flatten(piece.shape(), 0.05), middle))
                    under = &piece;
        if (!under) {
            ++lost;
            continue;
        }
        const std::string name = fileName + ", picture " + std::to_string(i + 1);
        auto printed =
            withPicturePrinted(*made, {{under->id}, design::Side::Front, {}}, {pictures[i].bytes, name, {}});
        if (!printed) {
            ++unread;
            continue;
        }
        // It fills its piece now; it belongs where the drawing has it.
        auto laid = make(printed.take().job, Stage::Stack, made->made, progress);
        if (!laid)
            return laid.error();
        design::Face face = printsOn(*laid, under->id, design::Side::Front).back().face;
        face.place = placeOf(pictures[i], print::widthOf(face.place) / std::hypot(face.place.c, face.place.d))
                         .then(toDesign);
        auto placed = withPrintChanged(*laid, under->id, face);
        if (!placed)
            return placed.error();
        came.job = placed.take();
        ++printedOn;
    }
    const auto say = [&](const std::string& sentence) {
        came.note += (came.note.empty() ? "" : " ") + sentence;
    };
    if (printedOn > 0)
        say(base::counted(printedOn, "picture") +
            " of the drawing will be printed on the pieces they lie on.");
    if (lost > 0)
        say(base::counted(lost, "picture") + " of the drawing lie on no piece and were left out.");
    if (unread > 0)
        say(base::counted(unread, "picture") + " of the drawing could not be read and were left out.");
    return came;
}

} // namespace thinline::job
