// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Scene.h"
#include "job/Making.h"
#include "job/Source.h"

/// The scenes of the stations. Each is null when there is nothing to show.
namespace thinline::app {

using ScenePtr = std::shared_ptr<const Scene>;

/// A picture alone, at its real size; its pixels may still be missing.
ScenePtr sceneOfPicture(const job::Source& source, std::shared_ptr<const raster::Picture> pixels,
                        std::shared_ptr<Outlines> outlines);
/// The design on its paper, folds shown as they will be made; with `pixels` the picture lies over it instead of the areas.
ScenePtr sceneOfDesign(const job::Source* picture, const job::Made& made,
                       std::shared_ptr<const raster::Picture> pixels, std::shared_ptr<Outlines> outlines,
                       design::FoldsAs foldsAs = design::FoldsAs::Score);
/// The design over the mats and sheets it might go on, its upper left corner at the bench's origin.
ScenePtr sceneOfSize(const job::Made& made, const design::Formats& formats,
                     std::shared_ptr<Outlines> outlines);
/// Every load of the arrangement, side by side; or one alone, its mat's corner at the bench's origin.
ScenePtr sceneOfSheets(const job::Made& made, std::shared_ptr<Outlines> outlines,
                       std::optional<size_t> only = {});

/// The parts of what was divided, each moved away from the middle of its whole by a share of the distance, 0 to 1; wholes
/// that lie on one another lie side by side. From behind everything is mirrored.
ScenePtr sceneOfParts(const job::Made& made, std::shared_ptr<Outlines> outlines, double apart,
                      bool isFromBehind);

/// Where the n-th load's mat lies on the bench of sceneOfSheets, mm.
geometry::Point loadCorner(const design::Arrangement& arrangement, size_t load);
/// The load whose mat lies under a point of that bench; nothing beside all mats.
std::optional<size_t> loadAt(const design::Arrangement& arrangement, geometry::Point at);

} // namespace thinline::app
