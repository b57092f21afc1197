// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"

#include <QPainterPath>

/// Shapes as paths of the painter, in their own coordinates.
namespace thinline::app {

QPainterPath pathOf(const geometry::Polygons& rings);
/// To be looked at, not cut: the curves themselves.
QPainterPath pathOf(const geometry::Shape& shape);
QPainterPath pathOf(const geometry::Line& line);

} // namespace thinline::app
