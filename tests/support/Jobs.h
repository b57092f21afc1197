// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "formats/image/ImageFile.h"
#include "job/LayerSteps.h"
#include "job/Opening.h"
#include "job/SourceSteps.h"
#include "job/Steps.h"
#include "job/TraceSteps.h"
#include "shape/Steps.h"
#include "support/Drawings.h"
#include "support/Fonts.h"
#include "support/Stacks.h"

#include <stdexcept>

/// Small jobs for tests of the upper floors.
namespace thinline::support {

/// A harbour shed in ink, 300 dpi, 60 x 45 mm: wall, door, round window, a flag with a gap when `hasGap`.
inline raster::Picture shedPicture(bool hasGap = false) {
    Drawing drawing(709, 531);
    drawing.ring(rectangle(60, 80, 590, 400), rectangle(72, 92, 566, 376));
    drawing.ring(rectangle(150, 260, 140, 214), rectangle(162, 272, 116, 190));
    drawing.ring(disc({460, 260}, 80), disc({460, 260}, 70));
    if (hasGap)
        drawing.fill(rectangle(526, 254, 18, 12), {255, 255, 255});
    return drawing.picture();
}

inline base::Bytes shedPng(bool hasGap = false) {
    return formats::image::encodePng(shedPicture(hasGap), 300);
}

template <class T>
T must(base::Result<T> result) {
    if (!result)
        throw std::runtime_error(result.error().message);
    return result.take();
}

/// An empty job with the shipped drawer.
inline job::State emptyState() {
    return {job::newJob(job::shippedCatalogue()), {}};
}

/// What follows from a job, everything up to the finish, taken over from another state where it can be.
inline job::State made(job::Job job, const job::Made& before = {}, job::Stage upTo = job::Stage::Finish) {
    return must(job::make(std::move(job), upTo, before));
}
inline job::State made(base::Result<job::Job> job, const job::Made& before = {}) {
    return made(must(std::move(job)), before);
}
inline job::State made(base::Result<job::Noted> noted, const job::Made& before = {}) {
    return made(must(std::move(noted)).job, before);
}
/// A state with one more figure, to the right of what is there.
inline job::State withFigure(const job::State& state, construct::Figure figure, std::vector<double> values,
                             const std::string& stockId = "sea") {
    return made(job::withFigure(state, {figure, std::move(values)}, stockId), state.made);
}
inline job::State rectangleJob(double width, double height, const std::string& stockId = "sea") {
    return withFigure(emptyState(), construct::Figure::Rectangle, {width, height}, stockId);
}
/// A word in the typeface that ships.
inline lettering::Recipe word(const std::string& text, double sizeMm = 40) {
    lettering::Recipe out;
    out.text = text;
    out.font = lettering::kPlainFont;
    out.sizeMm = sizeMm;
    return out;
}
inline job::State withWord(const job::State& state, const lettering::Recipe& recipe,
                           const std::string& stockId = "sea") {
    return made(job::withWord(state, recipe, stockId, shippedFonts()), state.made);
}
/// A drawing opened as a job of its own.
inline job::Noted openedDrawing(const std::string& text, const std::string& name = "plate.svg",
                                const base::PageReader* pages = nullptr) {
    const base::Bytes bytes(text.begin(), text.end());
    return must(job::openDrawing(job::newJob(job::shippedCatalogue()),
                                 {bytes, name, job::recognise(bytes, pages)}, job::shippedCatalogue(),
                                 shippedFonts()));
}

/// A state after a step at Shape.
inline job::State after(const job::State& state, const design::Step& step) {
    return must(job::stepped(state, step));
}
inline job::State after(const job::State& state, shape::Action action,
                        const std::vector<design::PieceId>& pieces, const std::vector<double>& values = {}) {
    return after(state, shape::makeStep(action, pieces, values));
}
inline job::State arranged(const job::State& state) {
    return made(state.job, state.made, job::Stage::Sheets);
}

/// A picture's file opened as a job.
inline job::OpenedPicture opened(const base::Bytes& file, const std::string& name) {
    return must(job::openPicture(job::newJob(job::shippedCatalogue()), {file, name, job::recognise(file)}));
}

/// The shed, opened and traced at its stated size.
inline job::State tracedShed(bool hasGap = false) {
    const auto open = opened(shedPng(hasGap), "shed.png");
    return made(job::traced(open.job, *open.picture, {}, job::shippedCatalogue()));
}

inline job::State arrangedShed() {
    return arranged(tracedShed());
}

/// The areas of the traced picture and its backing, by number.
inline design::PieceId area(const job::State& state, int number) {
    return design::PieceId::found(job::pictureSource(state.job)->id, job::areaKey(number));
}
inline design::PieceId backing(const job::State& state, int number = 1) {
    return design::PieceId::found(job::pictureSource(state.job)->id, "backing." + std::to_string(number));
}

/// A piece as it lies; throws when it is not there.
inline const design::Laid& laid(const job::State& state, design::PieceId id) {
    const design::Laid* found = state.made.work() ? state.made.work()->find(id) : nullptr;
    if (!found)
        throw std::runtime_error("there is no piece " + id.text());
    return *found;
}
inline const geometry::Shape& shapeOf(const job::State& state, design::PieceId id) {
    return laid(state, id).shape();
}
inline geometry::Box boxOf(const job::State& state, design::PieceId id) {
    return geometry::bounds(shapeOf(state, id));
}
inline geometry::Box workBox(const job::State& state) {
    return job::workBox(state.made);
}
/// The stock a piece is cut from.
inline std::string stockOf(const job::State& state, design::PieceId id) {
    return state.made.work()->layerOf(laid(state, id)).stockId;
}

} // namespace thinline::support
