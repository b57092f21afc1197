// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/CutPlan.h"
#include "geometry/Lines.h"

#include <optional>
#include <string>
#include <vector>

/// SVG 1.1 out: true size in mm, one user unit per mm, plain groups with readable names.
namespace thinline::formats::svg {

/// Returns path data ("M0 0L10 0...Z") for a shape, outline first, then openings, absolute commands only.
/// Units:  the shape's own; four decimals (0.1 um in mm) unless more are asked for, trailing zeros dropped.
std::string pathText(const geometry::Shape& shape, int decimals = 4);

/// Returns path data for a line: as above, but left open.
std::string lineText(const geometry::Line& line, int decimals = 4);

/// Returns the name a piece has as an element of a file: "piece-3_4.1_17.2".
std::string pieceElement(design::PieceId id);

/// Returns the stack as a picture-like drawing: one group per layer, bottom first, each filled in its colour.
/// Shape:  width and height in mm around all pieces; hidden layers are left out.
std::string writeLayers(const design::Stack& stack, const std::string& title);

/// How a drawing shows what is cut.
enum class Style {
    Filled,   ///< areas in the colour of their stock
    Hairlines ///< outlines, a group for each operation
};

/// Returns the whole design with all layers in place: groups for each layer and operation, "sea-cut", "sea-score", bottom first.
/// Shape:  as writeLayers; hidden layers are in it, they are cut too. Folds, scores and pens are lines in both styles.
std::string writeDesign(const design::Stack& stack, const std::string& title, Style style);

/// Whether a planned line bounds an area, so that a filled drawing shows it by that.
bool isOfAnArea(const design::Pass& pass, const design::PlannedPath& path);

/// Returns one load in areas: on each sheet the pieces filled in the colour of their stock, openings left out, then the lines
/// that are not cut, and slits, as strokes. For programs that take areas only.
/// Shape:  the page is the mat; ids as in writeLoad. Frames for lifting are lines.
std::string writeLoadFilled(const design::PlannedLoad& planned, const design::Load& load,
                            const design::Stack& stack, const std::string& title);

/// Returns the name one copy of a piece has in a load: "piece-3_4.1-2".
std::string copyElement(design::PieceId id, int copy);
/// Returns the name of what is done to it by one operation: "piece-3_4.1-2-score"; of its outline that of the copy.
std::string operationElement(design::PieceId id, int copy, design::Operation operation);
/// Returns the name a frame has in its group: of the n-th frame on a sheet of the load.
std::string frameElement(std::size_t sheet, std::size_t frame);

/// Returns the name of the element a planned path is drawn in: what is done to one copy in one pass is one element.
std::string plannedElement(const design::Pass& pass, const design::PlannedPath& path);

/// Returns one load as the machine gets it: the passes of its plan in their order, every line once; each a group, in it the
/// pieces in the order in which the tool comes to them.
/// Shape:  the page is the mat; pieces lie where they will be cut; nothing else is in it. Lines begin where the plan begins
///         them. Of a piece that touches others of its cluster what was cut with them is left out; then its path is open.
std::string writeLoad(const design::PlannedLoad& planned, const design::Load& load,
                      const design::Stack& stack, const std::string& title);

/// Shapes with names, in groups with names, wherever they lie.
struct NamedShape {
    std::string id;
    std::string title;
    geometry::Shape shape;
};
struct NamedGroup {
    std::string id;
    std::string title;
    std::vector<NamedShape> shapes;
    std::optional<raster::Rgb> fill;        ///< unset: a thin outline
    std::vector<geometry::Line> lines = {}; ///< open ones, stroked thinly
};
/// Returns the groups as a drawing of true size: the page is `page` grown to hold every shape, one user unit
/// per mm, coordinates as they are.
std::string writeGroups(const std::vector<NamedGroup>& groups, geometry::Box page, const std::string& title);

} // namespace thinline::formats::svg
