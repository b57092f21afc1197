// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/PrintLooks.h"

#include "job/Job.h"

#include <algorithm>
#include <cmath>

namespace thinline::job {

using design::Side;
using geometry::Transform;

std::shared_ptr<const PrintLook> PrintLooks::find(const design::Body* body, Side side) const {
    for (const Known& one : known)
        if (one.of.body.get() == body && one.of.side == side)
            return one.look;
    return nullptr;
}

raster::Picture onPaper(raster::Picture print, raster::Rgb paper) {
    for (std::size_t i = 0; i < print.rgb.size(); ++i)
        print.rgb[i] = static_cast<std::uint8_t>((print.rgb[i] * paper[i % 3] + 127) / 255);
    return print;
}

namespace {

base::Result<std::shared_ptr<const PrintLook>> lookOf(const PrintLooks::Of& of, const print::Gallery& gallery,
                                                      const base::Progress& progress) {
    const geometry::Box box = geometry::bounds(of.body->shape);
    const double longer = std::max({box.width(), box.height(), 1.0}),
                 pxPerMm = std::min(8.0, kLookPx / longer);
    raster::Canvas canvas(std::max(1, static_cast<int>(std::ceil(box.width() * pxPerMm))),
                          std::max(1, static_cast<int>(std::ceil(box.height() * pxPerMm))), {255, 255, 255});
    const auto painted = print::paint(
        canvas, *of.body, {Transform::move(box.least * -1), of.side, 0, pxPerMm}, gallery, progress);
    if (!painted)
        return painted.error();
    PrintLook out{std::make_shared<const raster::Picture>(onPaper(canvas.picture(), of.paper)), box};
    out.box.most = box.least + geometry::Point{canvas.width() / pxPerMm, canvas.height() / pxPerMm};
    return std::make_shared<const PrintLook>(std::move(out));
}

} // namespace

base::Result<PrintLooks> printLooks(const Job& job, const design::Stack& work, const PrintLooks& before,
                                    const base::Progress& progress) {
    PrintLooks out;
    const std::vector<design::Face> faces = facesOf(work);
    if (faces.empty())
        return out;
    auto art = decodedArt(job, faces, before.art);
    if (!art) {
        out.problem = art.error().message;
        return out;
    }
    out.art = art.take();
    for (const design::Laid& laid : work.pieces)
        for (const Side side : {Side::Front, Side::Back}) {
            const auto& body = laid.piece.body;
            if (std::none_of(body->faces.begin(), body->faces.end(),
                             [&](const design::Face& face) { return face.side == side; }))
                continue;
            const PrintLooks::Of of{body, side, design::colourOf(work.stocks, work.layerOf(laid).stockId)};
            const auto known =
                std::find_if(before.known.begin(), before.known.end(), [&](const PrintLooks::Known& one) {
                    return one.of.body == of.body && one.of.side == side && one.of.paper == of.paper;
                });
            if (known != before.known.end()) {
                out.known.push_back(*known);
                continue;
            }
            auto look = lookOf(of, out.art.gallery, progress);
            if (look)
                out.known.push_back({of, look.take()});
            else if (look.error().code == base::Code::Cancelled)
                return look.error();
            else
                out.problem = look.error().message;
        }
    return out;
}

} // namespace thinline::job
