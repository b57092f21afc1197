// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"
#include "raster/Picture.h"

#include <QImage>
#include <QPainterPath>

/// Shapes as paths of the painter, in their own coordinates, and pictures as its images.
namespace thinline::app {

QPainterPath pathOf(const geometry::Polygons& rings);
/// To be looked at, not cut: the curves themselves.
QPainterPath pathOf(const geometry::Shape& shape);
QPainterPath pathOf(const geometry::Line& line);
/// An image of its own, which outlives the picture.
QImage imageOf(const raster::Picture& picture);

} // namespace thinline::app
